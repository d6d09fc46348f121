//! The API: one file a noun, one function a request. No rule of the craft lives here.

mod bars;
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
mod judge;
mod load;
mod looks;
mod riders;
mod rules;
mod runs;
mod saddle;
mod sessions;
mod studio;
mod trials;
mod typed;

use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::web::{self, PathConfig, QueryConfig, ServiceConfig};
use utoipa::OpenApi;

/// Every route, once: what is served is what is described.
macro_rules! routes {
    ($($noun:ident::$does:ident,)*) => {
        #[derive(OpenApi)]
        #[openapi(
            info(title = "Wedge", description = "The bike fitter's bench mate"),
            paths($($noun::$does,)*)
        )]
        struct Api;

        fn services(config: &mut ServiceConfig) {
            config$(.service($noun::$does))*;
        }
    };
}

routes! {
    health::health,
    catalogue::catalogue,
    typed::read,
    foresee::foresee,
    riders::list,
    riders::create,
    riders::read,
    riders::edit,
    riders::delete,
    sessions::position,
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
    files::import_demo,
    studio::read,
    studio::save,
    studio::export_frames,
    studio::import_frames,
    studio::delete_frame,
    studio::compute_frame,
    studio::export_parts,
    studio::read_box,
    bars::read,
    bars::plane,
    judge::read,
    judge::axis,
    judge::disagree,
    judge::score,
    judge::by_house,
}

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
        .default_service(web::to(move || async move { Err::<String, _>(nowhere()) }));
    services(config);
}

/// What every worker shares besides the record.
pub(crate) fn shared() -> web::Data<judge::Scored> {
    web::Data::new(judge::Scored::default())
}
