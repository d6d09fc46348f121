//! What a fitter types, read.

use crate::Problem;
use actix_web::{get, web};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use wedge_core::measure::{Quantity, Unit, typed};

/// What was typed, and into a field of which unit.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Typed {
    text: String,
    unit: Unit,
    /// The field's quantity, where it has one: then a number it cannot be is refused too.
    quantity: Option<Quantity>,
}

/// What it says, in that unit.
#[derive(Serialize, ToSchema)]
pub(crate) struct TypedValue {
    value: f64,
}

/// Reads "33 in", "84,5 cm" or "845" into a field's unit; into a quantity's within what it can be.
#[utoipa::path(
    context_path = "/api", tag = "catalogue", params(Typed),
    responses((status = 200, body = TypedValue), (status = 422, body = Problem))
)]
#[get("/typed")]
pub(crate) async fn read(query: web::Query<Typed>) -> Result<web::Json<TypedValue>, Problem> {
    let read = match query.quantity {
        Some(quantity) => quantity.typed(&query.text),
        None => typed(&query.text, query.unit),
    };
    read.map(|value| web::Json(TypedValue { value }))
        .map_err(|words| Problem::field("/value", words))
}
