//! Whether the server can do its work.

use crate::Problem;
use actix_web::{get, web};
use serde::Serialize;
use utoipa::ToSchema;
use wedge_store::Store;

/// The answer of a server that can.
#[derive(Serialize, ToSchema)]
pub(crate) struct Health {
    /// The version that is running.
    version: &'static str,
}

/// Answers when the record can be read.
#[utoipa::path(context_path = "/api", tag = "health", responses((status = 200, body = Health), (status = 500, body = Problem)))]
#[get("/health")]
pub(crate) async fn health(store: web::Data<Store>) -> Result<web::Json<Health>, Problem> {
    store.health().await?;
    Ok(web::Json(Health {
        version: env!("CARGO_PKG_VERSION"),
    }))
}
