//! Where every number comes from.

use actix_web::{get, web};
use wedge_core::rule::Rule;
use wedge_core::rulebook::rules_table;

/// Every rule, range and constant with its source, from the core's own table.
#[utoipa::path(context_path = "/api", tag = "catalogue", responses((status = 200, body = Vec<Rule>)))]
#[get("/rules")]
pub(crate) async fn read() -> web::Json<Vec<Rule>> {
    web::Json(rules_table())
}
