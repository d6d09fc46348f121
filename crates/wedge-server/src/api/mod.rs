//! The API: one file a noun, one function a request. No rule of the craft lives here.

mod bikes;
mod catalogue;
mod cranks;
mod extract;
mod feet;
mod files;
mod foresee;
mod handout;
mod health;
mod intake;
mod looks;
mod riders;
mod rules;
mod runs;
mod saddle;
mod sessions;
mod studio;
mod trials;
mod typed;
mod view;
mod years;

use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::web::{self, PathConfig, QueryConfig, ServiceConfig};
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Wedge", description = "The bike fitter's bench mate"),
    paths(
        health::health,
        catalogue::catalogue,
        typed::read,
        foresee::foresee,
        riders::list,
        riders::create,
        riders::read,
        riders::edit,
        riders::delete,
        years::position,
        riders::add_reading,
        riders::set_reading_aside,
        bikes::create,
        bikes::edit,
        sessions::create,
        sessions::read,
        sessions::edit,
        sessions::add_reading,
        sessions::close_found,
        sessions::save_draft,
        sessions::finish,
        intake::save,
        looks::add,
        looks::calibrate,
        trials::begin,
        trials::add_entry,
        handout::read,
        feet::read,
        feet::save_shoes,
        cranks::read,
        saddle::read,
        saddle::save,
        saddle::map,
        saddle::parts,
        saddle::swapped,
        saddle::why,
        runs::begin,
        runs::read,
        runs::add_call,
        runs::take_back,
        runs::end,
        runs::setting,
        rules::read,
        files::export,
        files::export_studio,
        files::import,
        studio::read,
        studio::save,
        studio::export_frames,
        studio::import_frames,
        studio::delete_frame,
        studio::compute_frame,
    )
)]
struct Api;

/// The description of the API.
pub fn openapi_json() -> serde_json::Result<String> {
    let mut api = serde_json::to_value(Api::openapi())?;
    // Functions are named after what they do to their noun; outside, the place tells the noun.
    let paths = api["paths"].as_object_mut().into_iter().flatten();
    for (path, methods) in paths {
        for (method, operation) in methods.as_object_mut().into_iter().flatten() {
            operation["operationId"] = format!("{method} {path}").into();
        }
    }
    serde_json::to_string_pretty(&api).map(|text| text + "\n")
}

pub(crate) fn routes(config: &mut ServiceConfig) {
    let nowhere = || Problem::new(StatusCode::NOT_FOUND, "There is no such thing here");
    config
        .app_data(PathConfig::default().error_handler(move |_, _| nowhere().into()))
        .app_data(QueryConfig::default().error_handler(|error, _| {
            let words = wedge_files::plain(&error.to_string());
            Problem::new(StatusCode::BAD_REQUEST, words).into()
        }))
        .default_service(web::to(move || async move { Err::<String, _>(nowhere()) }))
        .service(health::health)
        .service(catalogue::catalogue)
        .service(typed::read)
        .service(foresee::foresee)
        .service(riders::list)
        .service(riders::create)
        .service(riders::read)
        .service(riders::edit)
        .service(riders::delete)
        .service(years::position)
        .service(riders::add_reading)
        .service(riders::set_reading_aside)
        .service(bikes::create)
        .service(bikes::edit)
        .service(sessions::create)
        .service(sessions::read)
        .service(sessions::edit)
        .service(sessions::add_reading)
        .service(sessions::close_found)
        .service(sessions::save_draft)
        .service(sessions::finish)
        .service(intake::save)
        .service(looks::add)
        .service(looks::calibrate)
        .service(trials::begin)
        .service(trials::add_entry)
        .service(handout::read)
        .service(feet::read)
        .service(feet::save_shoes)
        .service(cranks::read)
        .service(saddle::read)
        .service(saddle::save)
        .service(saddle::map)
        .service(saddle::parts)
        .service(saddle::swapped)
        .service(saddle::why)
        .service(runs::begin)
        .service(runs::read)
        .service(runs::add_call)
        .service(runs::take_back)
        .service(runs::end)
        .service(runs::setting)
        .service(rules::read)
        .service(files::export)
        .service(files::export_studio)
        .service(files::import)
        .service(studio::read)
        .service(studio::save)
        .service(studio::export_frames)
        .service(studio::import_frames)
        .service(studio::delete_frame)
        .service(studio::compute_frame);
}
