//! What the core knows before any rider: quantities, conventions, ranges, stations.

use actix_web::{get, web};
use serde::Serialize;
use utoipa::ToSchema;
use wedge_core::bike::{Kind, OrdinaryBike, ordinary_bikes};
use wedge_core::judge::{Output, OutputSpec, Range, ranges};
use wedge_core::measure::{Convention, Quantity, Spec, Unit};
use wedge_core::work::{Station, StationSpec};

/// A convention with its words.
#[derive(Serialize, ToSchema)]
pub(crate) struct ConventionSpec {
    convention: Convention,
    quantity: Quantity,
    words: &'static str,
    short: &'static str,
    unit: Unit,
}

/// Everything the core knows before any rider.
#[derive(Serialize, ToSchema)]
pub(crate) struct Catalogue {
    quantities: Vec<Spec>,
    outputs: Vec<OutputSpec>,
    conventions: Vec<ConventionSpec>,
    road_ranges: &'static [Range],
    stations: Vec<StationSpec>,
    /// Made-up bikes to start typing from.
    ordinary_bikes: Vec<OrdinaryBike>,
}

/// The catalogue: the same for as long as the server runs.
#[utoipa::path(context_path = "/api", tag = "catalogue", responses((status = 200, body = Catalogue)))]
#[get("/catalogue")]
pub(crate) async fn catalogue() -> web::Json<Catalogue> {
    web::Json(Catalogue {
        quantities: Quantity::ALL.iter().map(|q| q.spec()).collect(),
        outputs: Output::ALL.iter().map(|o| o.spec()).collect(),
        conventions: Convention::ALL
            .iter()
            .map(|c| ConventionSpec {
                convention: *c,
                quantity: c.quantity(),
                words: c.words(),
                short: c.short(),
                unit: c.unit(),
            })
            .collect(),
        road_ranges: ranges(Kind::Road),
        stations: Station::ALL.iter().map(|s| s.spec()).collect(),
        ordinary_bikes: ordinary_bikes(),
    })
}
