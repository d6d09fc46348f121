//! What the core knows before any rider: quantities, conventions, kinds of riding and bars, ranges, stations.

use actix_web::{get, web};
use serde::Serialize;
use utoipa::ToSchema;
use wedge_core::between::Specialist;
use wedge_core::bike::{
    BarKind, Cockpit, Frame, HandPlace, Kind, Lever, OrdinaryBike, PartKind, Pedalling, Post,
    Saddle, Torques, ordinary_bikes,
};
use wedge_core::intake::{
    At, Experience, Feel, Flag, Goal, Joint, Notices, Place, Stroke, Surface, Visit, When,
};
use wedge_core::judge::HowOften;
use wedge_core::looking::{KneeBend, KneePath, PelvisSeen, ShouldersSeen, Sign, SignGroup};
use wedge_core::measure::{
    Convention, LengthUnit, MassUnit, Output, OutputSpec, Quantity, SitReference, Spec, Unit,
    taking,
};
use wedge_core::position::{Landmark, Range, ranges};
use wedge_core::rule::Provenance;
use wedge_core::school::{
    CleatSchool, CrankSchool, DropEnds, FrameLabel, HandSchool, HeightSchool, Nose, Relief,
    SetbackSchool, ShoeWidth, Stiffness, YesNo,
};
use wedge_core::trial::{BalanceVariant, Protocol, Sure};
use wedge_core::work::{FrontStep, Station, StationSpec};

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
    /// How lengths can be read on it.
    conventions: Vec<Convention>,
    /// Where the hands can be, the main place first.
    places: Vec<PlaceSpec>,
    /// The stations of a fit on such a bike, in the order of work, with its own words.
    stations: Vec<StationSpec>,
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
    levers: &'static [Quantity],
    torques: &'static [Quantity],
}

/// A measure of the body and how it is taken.
#[derive(Serialize, ToSchema)]
pub(crate) struct TakingSpec {
    quantity: Quantity,
    taking: &'static str,
}

/// A word with its key.
#[derive(Serialize, ToSchema)]
pub(crate) struct Word {
    key: &'static str,
    label: &'static str,
}

/// A place on the body.
#[derive(Serialize, ToSchema)]
pub(crate) struct BodyPlace {
    key: Place,
    label: &'static str,
    /// Whether the body has it twice.
    per_side: bool,
}

/// A sign that can be looked for.
#[derive(Serialize, ToSchema)]
pub(crate) struct SignSpec {
    key: Sign,
    label: &'static str,
    /// Whether left and right are told apart.
    per_side: bool,
}

/// Signs that are looked for at one place.
#[derive(Serialize, ToSchema)]
pub(crate) struct SignGroupSpec {
    key: SignGroup,
    label: &'static str,
    signs: Vec<SignSpec>,
}

fn sign_groups() -> Vec<SignGroupSpec> {
    let of = |group: SignGroup| {
        let signs = Sign::ALL
            .iter()
            .filter(move |sign| sign.group() == Some(group));
        signs.map(|sign| SignSpec {
            key: *sign,
            label: sign.label(),
            per_side: sign.per_side(),
        })
    };
    (SignGroup::ALL.iter())
        .map(|group| SignGroupSpec {
            key: *group,
            label: group.label(),
            signs: of(*group).collect(),
        })
        .collect()
}

/// The words a fitter chooses from at intake and at the first look.
#[derive(Serialize, ToSchema)]
pub(crate) struct Words {
    place: Vec<BodyPlace>,
    feel: Vec<Word>,
    when: Vec<Word>,
    stroke: Vec<Word>,
    effort: Vec<Word>,
    surface: Vec<Word>,
    goal: Vec<Word>,
    visit: Vec<Word>,
    experience: Vec<Word>,
    notices: Vec<Word>,
    flag: Vec<Word>,
    joint: Vec<Word>,
    knee_path: Vec<Word>,
    knee_bend: Vec<Word>,
    pelvis: Vec<Word>,
    shoulders: Vec<Word>,
    signs: Vec<SignGroupSpec>,
    front_step: Vec<Word>,
    sure: Vec<Word>,
    shoe_width: Vec<Word>,
    stiffness: Vec<Word>,
    frame_label: Vec<Word>,
    cleat_school: Vec<Word>,
    crank_school: Vec<Word>,
    height_school: Vec<Word>,
    setback_school: Vec<Word>,
    hand_school: Vec<Word>,
    landmark: Vec<Word>,
    drop_ends: Vec<Word>,
    relief: Vec<Word>,
    nose: Vec<Word>,
    yes_no: Vec<Word>,
    protocol: Vec<Word>,
    balance_variant: Vec<Word>,
    how_often: Vec<Word>,
    provenance: Vec<Word>,
    specialist: Vec<Word>,
}

/// A unit as it is written after a number.
#[derive(Serialize, ToSchema)]
pub(crate) struct UnitSuffix {
    unit: Unit,
    suffix: &'static str,
}

/// A unit that can be chosen, and how much of the house's one it is.
#[derive(Serialize, ToSchema)]
pub(crate) struct UnitSpec {
    key: &'static str,
    label: &'static str,
    /// Millimetres or kilograms in one of it.
    holds: f64,
}

/// The words of an enum.
macro_rules! words_of {
    ($name:ident) => {
        $name::ALL
            .iter()
            .map(|word| Word {
                key: word.key(),
                label: word.label(),
            })
            .collect()
    };
}

impl Words {
    fn all() -> Self {
        Self {
            place: Place::ALL
                .iter()
                .map(|place| BodyPlace {
                    key: *place,
                    label: place.label(),
                    per_side: place.per_side(),
                })
                .collect(),
            feel: words_of!(Feel),
            when: words_of!(When),
            stroke: words_of!(Stroke),
            effort: words_of!(At),
            surface: words_of!(Surface),
            goal: words_of!(Goal),
            visit: words_of!(Visit),
            experience: words_of!(Experience),
            notices: words_of!(Notices),
            flag: words_of!(Flag),
            joint: words_of!(Joint),
            knee_path: words_of!(KneePath),
            knee_bend: words_of!(KneeBend),
            pelvis: words_of!(PelvisSeen),
            shoulders: words_of!(ShouldersSeen),
            signs: sign_groups(),
            front_step: words_of!(FrontStep),
            sure: words_of!(Sure),
            shoe_width: words_of!(ShoeWidth),
            stiffness: words_of!(Stiffness),
            frame_label: words_of!(FrameLabel),
            cleat_school: words_of!(CleatSchool),
            crank_school: words_of!(CrankSchool),
            height_school: words_of!(HeightSchool),
            setback_school: words_of!(SetbackSchool),
            hand_school: words_of!(HandSchool),
            landmark: words_of!(Landmark),
            drop_ends: words_of!(DropEnds),
            relief: words_of!(Relief),
            nose: words_of!(Nose),
            yes_no: words_of!(YesNo),
            protocol: words_of!(Protocol),
            balance_variant: words_of!(BalanceVariant),
            how_often: words_of!(HowOften),
            provenance: words_of!(Provenance),
            specialist: words_of!(Specialist),
        }
    }
}

/// What is commonly read off a rider.
const SIGHTINGS: &[Output] = &[
    Output::KneeAtFullReach,
    Output::KneeForward,
    Output::KneeMostBent,
    Output::Torso,
    Output::Shoulder,
    Output::HipClosed,
    Output::Elbow,
    Output::FootAtBottom,
    Output::FootForward,
    Output::FootAtTop,
    Output::AnkleSmallest,
    Output::KneeOverAxle,
    Output::KneeAtBottom,
    Output::KneeInLine,
    Output::KneeAtTop,
    Output::ShoulderToWrist,
    Output::HipOpen,
    Output::FootRising,
    Output::AnkleLargest,
    Output::KneecapOverAxle,
    Output::TendonOverAxle,
    Output::ShinOverAxle,
    Output::FrontQuarterOverAxle,
    Output::FrontShare,
];

/// A kind of part, with the sizes it can have.
#[derive(Serialize, ToSchema)]
pub(crate) struct PartKindSpec {
    kind: PartKind,
    label: &'static str,
    sizes: Vec<Quantity>,
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
    /// What a part of the box can be.
    part_kinds: Vec<PartKindSpec>,
    stations: Vec<StationSpec>,
    /// Every measure of the body in the order it is taken, and how.
    body: Vec<TakingSpec>,
    /// The words a fitter chooses from.
    words: Words,
    /// What can be seen of a rider, the commonest first.
    sightings: &'static [Output],
    /// Every unit, as it is written after a number.
    units: Vec<UnitSuffix>,
    /// What lengths can be shown and typed in.
    length_units: Vec<UnitSpec>,
    /// What masses can be shown and typed in.
    mass_units: Vec<UnitSpec>,
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
                conventions: (Convention::ALL.iter().copied())
                    .filter(|convention| bar.reads(*convention))
                    .collect(),
                stations: Station::way(bar),
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
            levers: Lever::QUANTITIES,
            torques: Torques::QUANTITIES,
        },
        part_kinds: part_kinds(),
        stations: Station::ALL.map(Station::spec).to_vec(),
        body: Quantity::ALL
            .iter()
            .filter_map(|q| {
                Some(TakingSpec {
                    quantity: *q,
                    taking: taking(*q)?,
                })
            })
            .collect(),
        words: Words::all(),
        sightings: SIGHTINGS,
        units: (Unit::ALL.into_iter())
            .map(|unit| UnitSuffix {
                unit,
                suffix: unit.suffix(),
            })
            .collect(),
        length_units: LengthUnit::ALL
            .iter()
            .map(|unit| UnitSpec {
                key: unit.key(),
                label: unit.label(),
                holds: unit.mm(),
            })
            .collect(),
        mass_units: MassUnit::ALL
            .iter()
            .map(|unit| UnitSpec {
                key: unit.key(),
                label: unit.label(),
                holds: unit.kg(),
            })
            .collect(),
        ordinary_bikes: ordinary_bikes(),
    })
}

/// What a part of the box can be.
fn part_kinds() -> Vec<PartKindSpec> {
    PartKind::ALL
        .iter()
        .map(|kind| {
            let (needed, known) = kind.sizes();
            PartKindSpec {
                kind: *kind,
                label: kind.label(),
                sizes: needed.iter().chain(known).copied().collect(),
            }
        })
        .collect()
}
