//! The bars of a fit: schools, front ends, and the hand plane.

use super::load::bench;
use crate::Problem;
use actix_web::{get, web};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::{BarsView, PlaneView};
use wedge_core::plane::Point;
use wedge_store::Store;

/// Where the hands should go.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Wished {
    /// Forward of the BB, mm; with `y`.
    x: Option<f64>,
    /// Above the BB, mm.
    y: Option<f64>,
}

/// Further from the BB than any bar, mm.
const FAR_MM: f64 = 3000.0;

/// Where the hands belong, every place of them, and the front ends that put them where they are wished.
#[utoipa::path(
    context_path = "/api", tag = "bars", params(Wished),
    responses((status = 200, body = BarsView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/bars")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    wished: web::Query<Wished>,
) -> Result<web::Json<BarsView>, Problem> {
    let wished = match (wished.x, wished.y) {
        (None, None) => None,
        (Some(x), Some(y)) if x.abs() <= FAR_MM && y.abs() <= FAR_MM => Some(Point::new(x, y)),
        (None, _) => {
            return Err(Problem::field(
                "/x",
                "A place of the hands has both x and y",
            ));
        }
        (_, None) => {
            return Err(Problem::field(
                "/y",
                "A place of the hands has both x and y",
            ));
        }
        _ => return Err(Problem::field("/x", "No bar is that far from the BB")),
    };
    Ok(web::Json(bench(&store, *id).await?.bars(wished)?))
}

/// The hand plane around the hands as they are.
#[utoipa::path(context_path = "/api", tag = "bars", responses((status = 200, body = PlaneView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/bars/plane")]
pub(crate) async fn plane(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<PlaneView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.hand_plane()?))
}
