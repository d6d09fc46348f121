//! Gross errors: what is so far out that it is taken before the order of work; and the front's rough pass.

use super::Output;
use crate::bike::{BikePoints, Setup};
use crate::foresee::{Change, ForeseeInput, Position, Trying, hand_way};
use crate::measure::{Quantity, written};
use crate::plane::Point;
use crate::rider::Reach;
use crate::rule::rules;
use crate::solve::post_for_knee;
use crate::units::Degrees;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Order of work";
    /// The hands this far too high or low are a gross error.
    const HEIGHT_GROSS_MM: f64 = 50.0, " mm", Workshop;
    /// The hands this far too near or far are a gross error: two frame sizes.
    const REACH_GROSS_MM: f64 = 50.0, " mm", House;
    /// A saddle this far from the range is a gross error: beyond what an uncalibrated linkage can be off.
    const SADDLE_GROSS_MM: f64 = 25.0, " mm", House;
    /// The front is passed roughly first when reach is out by this much.
    const REACH_ROUGH_MM: f64 = 20.0, " mm", Workshop;
    /// The same for height.
    const HEIGHT_ROUGH_MM: f64 = 40.0, " mm", Workshop;
}

/// Something so far out that it is taken first.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gross {
    /// Where on the way it belongs.
    pub station: Station,
    /// What is wrong, and by how much.
    pub words: String,
    /// What to do first.
    pub proposal: String,
    /// The changes that do it; none when no bolt of this bike does.
    pub changes: Vec<Change>,
}

/// The front's rough pass: setback can only be felt with a front end that is about right.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontPass {
    /// How far the hands should go, forward positive.
    pub forward_mm: f64,
    /// How far up.
    pub up_mm: f64,
    /// Why, in words.
    pub words: String,
    /// The parts that come nearest.
    pub changes: Vec<Change>,
    /// What those parts leave undone, in words.
    pub left: String,
}

/// What is far out on a bike.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GrossReport {
    /// To be taken before the order of work, the saddle before the front.
    pub errors: Vec<Gross>,
    /// The front's rough pass, when it is due.
    pub front: Option<FrontPass>,
}

/// Looks for what is far out in the position as it stands.
pub fn gross(input: &ForeseeInput, position: &Position) -> GrossReport {
    let mut errors = Vec::new();
    errors.extend(saddle(input, position));
    let mut front = None;
    if let Some(by) = hands_wanted(input, position) {
        let pass = front_pass(input, by);
        let out = by.y.abs() >= HEIGHT_GROSS_MM || by.x.abs() >= REACH_GROSS_MM;
        if out || matches!(position.upper.reach, Reach::Beyond { .. }) {
            errors.push(Gross {
                station: Station::Bars,
                words: pass.words.clone(),
                proposal: if pass.changes.is_empty() {
                    "No stem or spacer of this bike gets there: look at the frame".to_owned()
                } else {
                    format!("Take the front first, roughly{}", pass.left)
                },
                changes: pass.changes.clone(),
            });
        } else if by.x.abs() >= REACH_ROUGH_MM || by.y.abs() >= HEIGHT_ROUGH_MM {
            front = Some(pass);
        }
    }
    GrossReport { errors, front }
}

/// A saddle so far from the knee's range that nothing else can be judged.
fn saddle(input: &ForeseeInput, position: &Position) -> Option<Gross> {
    let range = input
        .ranges()
        .into_iter()
        .find(|range| range.output == Output::KneeAtFullReach)?;
    let now = position.knee_at_full_reach();
    let short = position.legs.left.reach.is_met() && position.legs.right.reach.is_met();
    if short && (range.low..=range.high).contains(&now) {
        return None;
    }
    let wanted = if !short || now < range.low {
        range.low
    } else {
        range.high
    };
    let travel = post_for_knee(&Trying::of(input)?, &[], wanted)?;
    let travel = round5(travel);
    (travel.abs() >= SADDLE_GROSS_MM).then(|| Gross {
        station: Station::SaddleHeight,
        words: format!(
            "The saddle is about {} mm too {}: knee at full reach {}°, wanted {}–{}°",
            written(travel.abs()),
            if travel < 0.0 { "high" } else { "low" },
            written(now),
            written(range.low),
            written(range.high)
        ),
        proposal: "Bring the saddle near first; feet and cranks are judged after".to_owned(),
        changes: vec![Change::by(Quantity::SaddleHeight, travel)],
    })
}

/// Where the hands should go for torso and shoulder to come to the near ends of their ranges; `None` where this kind
/// of riding, or this place of the hands, has no range.
fn hands_wanted(input: &ForeseeInput, position: &Position) -> Option<Point> {
    let near = |output: Output, value: f64| {
        input
            .ranges()
            .into_iter()
            .find(|r| r.output == output && r.hands.is_none_or(|place| place == position.hands))
            .map(|range| value.clamp(range.low, range.high))
    };
    let (torso, shoulder) = (position.upper.torso_deg.0, position.upper.shoulder_deg.0);
    let wanted_torso = near(Output::Torso, torso)?;
    let wanted_shoulder = near(Output::Shoulder, shoulder).unwrap_or(shoulder);
    hand_way(input, Degrees(wanted_torso), Degrees(wanted_shoulder))
}

/// The stem, angle and spacers that bring the hands nearest to where they should be.
fn front_pass(input: &ForeseeInput, by: Point) -> FrontPass {
    let (changes, left) = parts_for(input, by);
    let mut parts = Vec::new();
    if by.x.abs() >= 5.0 {
        parts.push(format!(
            "{} mm too {}",
            written(round5(by.x.abs())),
            if by.x < 0.0 { "far" } else { "close" }
        ));
    }
    if by.y.abs() >= 5.0 {
        parts.push(format!(
            "{} mm too {}",
            written(round5(by.y.abs())),
            if by.y < 0.0 { "high" } else { "low" }
        ));
    }
    FrontPass {
        forward_mm: by.x,
        up_mm: by.y,
        words: format!("The hands are about {}", parts.join(" and ")),
        left: if left > 10.0 {
            format!("; these parts still leave {} mm", written(round5(left)))
        } else {
            String::new()
        },
        changes,
    }
}

pub(crate) fn round5(value: f64) -> f64 {
    (value / 5.0).round() * 5.0
}

rules! {
    part_rules "Parts";
    /// Stems as they are commonly sold.
    const STEMS_MM: [f64; 10] = [40.0, 50.0, 60.0, 70.0, 80.0, 90.0, 100.0, 110.0, 120.0, 130.0], " mm", House;
    /// Stem angles: the commonest, mounted either way, and the steep one.
    const ANGLES_DEG: [f64; 4] = [-17.0, -6.0, 6.0, 17.0], "°", House;
}

pub(crate) fn parts_for(input: &ForeseeInput, by: Point) -> (Vec<Change>, f64) {
    let setup = &input.setup;
    let hand = |setup: &Setup| {
        let bike = BikePoints::of(&input.frame, setup)?;
        bike.place(input.hand_place(setup)).or(Some(bike.hand))
    };
    let Some(stands) = hand(setup) else {
        return (Vec::new(), by.length());
    };
    let target = stands + by;
    let cockpit = &setup.cockpit;
    let sum = cockpit.spacers_below_mm.0 + cockpit.spacers_above_mm.0;
    let mut spacers: Vec<f64> = (0..=24_u32)
        .map(|step| f64::from(step) * 5.0)
        .filter(|mm| *mm <= sum)
        .collect();
    spacers.push(cockpit.spacers_below_mm.0);
    let mut best = (by.length(), *setup);
    for stem in STEMS_MM.into_iter().chain([cockpit.stem_mm.0]) {
        for angle in ANGLES_DEG.into_iter().chain([cockpit.stem_angle_deg.0]) {
            for below in &spacers {
                let mut tried = *setup;
                tried.cockpit.stem_mm.0 = stem;
                tried.cockpit.stem_angle_deg.0 = angle;
                tried.cockpit.spacers_below_mm.0 = *below;
                if let Some(at) = hand(&tried) {
                    let off = at.distance(target);
                    // Parts are left as they are unless others are clearly nearer.
                    if off < best.0 - 1.0 {
                        best = (off, tried);
                    }
                }
            }
        }
    }
    let tried = best.1.cockpit;
    let changes = [
        (Quantity::Stem, cockpit.stem_mm.0, tried.stem_mm.0),
        (
            Quantity::StemAngle,
            cockpit.stem_angle_deg.0,
            tried.stem_angle_deg.0,
        ),
        (
            Quantity::SpacersBelow,
            cockpit.spacers_below_mm.0,
            tried.spacers_below_mm.0,
        ),
    ]
    .into_iter()
    .filter(|(_, was, is)| (was - is).abs() > 1e-9)
    .map(|(quantity, _, is)| Change::to(quantity, is))
    .collect();
    (changes, best.0)
}
