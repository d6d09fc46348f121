//! What the core knows before any rider: quantities, conventions, kinds of riding and bars, ranges, stations.

use actix_web::{get, web};
use serde::Serialize;
use utoipa::ToSchema;
use wedge_core::bike::{
    BarKind, Cockpit, Frame, HandPlace, Kind, OrdinaryBike, Pedalling, Post, Saddle, ordinary_bikes,
};
use wedge_core::judge::{Output, OutputSpec, Range, ranges};
use wedge_core::measure::{Convention, Quantity, SitReference, Spec, Unit};
use wedge_core::work::{Station, StationSpec};

/// A convention with its words.
#[derive(Serialize, ToSchema)]
pub(crate) struct ConventionSpec {
    convention: Convention,
    /// Its key among a position's dimensions.
    key: String,
    quantity: Quantity,
    words: &'static str,
    short: &'static str,
    unit: Unit,
}

/// A point of the saddle that can be the sit reference.
#[derive(Serialize, ToSchema)]
pub(crate) struct SitReferenceSpec {
    reference: SitReference,
    words: &'static str,
}

/// A kind of riding with its ranges.
#[derive(Serialize, ToSchema)]
pub(crate) struct KindSpec {
    kind: Kind,
    word: &'static str,
    ranges: &'static [Range],
}

/// A kind of bar with its parts.
#[derive(Serialize, ToSchema)]
pub(crate) struct BarSpec {
    bar: BarKind,
    quantities: &'static [Quantity],
    /// Where the hands can be, the main place first.
    places: Vec<PlaceSpec>,
}

/// A place of the hands with its word.
#[derive(Serialize, ToSchema)]
pub(crate) struct PlaceSpec {
    place: HandPlace,
    word: &'static str,
}

/// What a bike is typed in from, group by group; the bar's own group is its kind's.
#[derive(Serialize, ToSchema)]
pub(crate) struct Parts {
    frame: &'static [Quantity],
    cockpit: &'static [Quantity],
    saddle: &'static [Quantity],
    post: &'static [Quantity],
    pedalling: &'static [Quantity],
}

/// Everything the core knows before any rider.
#[derive(Serialize, ToSchema)]
pub(crate) struct Catalogue {
    quantities: Vec<Spec>,
    outputs: Vec<OutputSpec>,
    conventions: Vec<ConventionSpec>,
    sit_references: Vec<SitReferenceSpec>,
    kinds: Vec<KindSpec>,
    bars: Vec<BarSpec>,
    parts: Parts,
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
                key: c.key(),
                quantity: c.quantity(),
                words: c.words(),
                short: c.short(),
                unit: c.unit(),
            })
            .collect(),
        sit_references: SitReference::ALL
            .into_iter()
            .map(|reference| SitReferenceSpec {
                reference,
                words: reference.words(),
            })
            .collect(),
        kinds: Kind::ALL
            .into_iter()
            .map(|kind| KindSpec {
                kind,
                word: kind.word(),
                ranges: ranges(kind),
            })
            .collect(),
        bars: BarKind::ALL
            .into_iter()
            .map(|bar| BarSpec {
                bar,
                quantities: bar.quantities(),
                places: bar
                    .places()
                    .iter()
                    .map(|place| PlaceSpec {
                        place: *place,
                        word: place.word(),
                    })
                    .collect(),
            })
            .collect(),
        parts: Parts {
            frame: Frame::QUANTITIES,
            cockpit: Cockpit::QUANTITIES,
            saddle: Saddle::QUANTITIES,
            post: Post::QUANTITIES,
            pedalling: Pedalling::QUANTITIES,
        },
        stations: Station::ALL.iter().map(|s| s.spec()).collect(),
        ordinary_bikes: ordinary_bikes(),
    })
}
