//! The API: one file a noun, one function a request. No rule of the craft lives here.

mod bars;
mod between;
mod bikes;
mod catalogue;
mod cranks;
mod devices;
mod extract;
mod feet;
mod files;
mod film;
mod foresee;
mod handout;
mod health;
mod intake;
mod judge;
mod kinds;
mod lan;
mod ledger;
mod load;
mod looks;
mod next;
mod pictures;
mod practice;
mod proof;
mod record;
mod riders;
mod rules;
mod runs;
mod saddle;
mod sessions;
mod stand_in;
mod studio;
mod takes;
mod trials;
mod typed;

pub use files::{Export, Imported, take_in};
pub(crate) use lan::COOKIE;
pub(crate) use pictures::kept_since;
pub(crate) use record::megabytes;

use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::web::{self, PathConfig, QueryConfig, ServiceConfig};
use serde_json::{Value, json};
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
    bikes::create_stand,
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
    looks::add_many,
    takes::read,
    takes::markers,
    takes::add,
    takes::clip,
    takes::torque,
    takes::across,
    takes::export,
    pictures::consent,
    pictures::keep,
    pictures::read,
    pictures::forget,
    film::read,
    film::find,
    film::dots,
    film::clip,
    film::find_dots,
    film::across,
    trials::begin,
    trials::add_entry,
    handout::read,
    handout::sheet,
    handout::drawing,
    handout::picture,
    between::read,
    between::propose,
    between::add,
    between::plan_days,
    between::referral_letter,
    between::visits,
    between::visit_days,
    between::reschedule,
    ledger::read,
    ledger::export,
    ledger::read_back,
    ledger::add,
    ledger::card_page,
    ledger::card_sheet,
    ledger::link,
    ledger::make_link,
    ledger::take_link_back,
    next::position,
    next::carried,
    next::choice,
    next::made,
    next::keep,
    next::told,
    next::printed,
    next::for_builder,
    next::drawing,
    next::dxf,
    next::line,
    next::read_table,
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
    proof::hundred,
    devices::read,
    devices::edit,
    stand_in::take,
    stand_in::film,
    stand_in::said,
    stand_in::said_of_run,
    stand_in::weighed,
    stand_in::scales,
    stand_in::stand,
    practice::read,
    practice::begin,
    practice::open,
    practice::end,
    files::export,
    files::export_raw,
    files::export_studio,
    files::import,
    files::import_demo,
    lan::read,
    lan::put_out,
    lan::enter,
    record::read,
    record::set_aside,
    record::save_copy,
    record::restore,
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
    kinds::aero,
    kinds::off_road,
    kinds::grade,
    kinds::sizing,
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
            describe_refusals(method, operation);
        }
    }
    serde_json::to_string_pretty(&api).map(|text| text + "\n")
}

/// What any route of its kind may answer besides what it says itself, in one place: the door, the body, the version, the
/// record and the disk refuse for all of them alike.
fn describe_refusals(method: &str, operation: &mut Value) {
    let parameters = operation["parameters"].as_array().into_iter().flatten();
    let mut of_kind = vec![
        StatusCode::UNAUTHORIZED,
        StatusCode::FORBIDDEN,
        StatusCode::INTERNAL_SERVER_ERROR,
    ];
    for parameter in parameters {
        match parameter["in"].as_str() {
            Some("path") => of_kind.push(StatusCode::NOT_FOUND),
            Some("query") => of_kind.push(StatusCode::BAD_REQUEST),
            Some("header") => {
                of_kind.extend([
                    StatusCode::PRECONDITION_REQUIRED,
                    StatusCode::PRECONDITION_FAILED,
                ]);
            }
            _ => {}
        }
    }
    if operation.get("requestBody").is_some() {
        of_kind.extend([
            StatusCode::BAD_REQUEST,
            StatusCode::REQUEST_TIMEOUT,
            StatusCode::PAYLOAD_TOO_LARGE,
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            StatusCode::UNPROCESSABLE_ENTITY,
        ]);
    }
    of_kind.push(StatusCode::SERVICE_UNAVAILABLE);
    if method != "get" {
        of_kind.extend([StatusCode::CONFLICT, StatusCode::INSUFFICIENT_STORAGE]);
    }
    for status in of_kind {
        operation["responses"][status.as_str()] = json!({});
    }
    let problem = json!({ "schema": { "$ref": "#/components/schemas/Problem" } });
    let responses = operation["responses"].as_object_mut().into_iter().flatten();
    for (status, response) in responses {
        let status = status.parse().unwrap_or(StatusCode::OK);
        if !status.is_success() {
            *response = json!({
                "description": status.canonical_reason().unwrap_or_default(),
                "content": { "application/problem+json": problem },
            });
        }
    }
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

/// What stands outside the API: a card on the rider's own phone, behind its token.
pub(crate) fn cards(config: &mut ServiceConfig) {
    config.service(ledger::on_phone).service(ledger::from_phone);
}

/// What every worker shares besides the record.
pub(crate) fn shared() -> web::Data<judge::Scored> {
    web::Data::new(judge::Scored::default())
}
