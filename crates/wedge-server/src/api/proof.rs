//! How good Wedge is, against riders whose truth is hidden.

use crate::problem::Problem;
use actix_web::http::StatusCode;
use actix_web::{get, web};
use wedge_devices::hundred::Proof;

/// The last run of the hundred riders that ships, with what it assumes.
#[utoipa::path(context_path = "/api", tag = "catalogue", responses((status = 200, body = Proof)))]
#[get("/hundred")]
pub(crate) async fn hundred() -> Result<web::Json<Proof>, Problem> {
    Proof::shipped().map(web::Json).map_err(|error| {
        let detail = format!("The table of the hundred riders does not read: {error}");
        Problem::new(StatusCode::INTERNAL_SERVER_ERROR, detail)
    })
}
