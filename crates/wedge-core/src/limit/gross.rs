//! Gross errors: what is so far out that it is taken before the order of work; and the front's rough pass.

use crate::bike::Placed;
use crate::foresee::{Change, Trying, within_limits};
use crate::measure::{Output, Quantity};
use crate::plane::Point;
use crate::position::{range_of, wall};
use crate::rider::Reach;
use crate::rule::rules;
use crate::solve::{parts_for, post_for_knee};
use crate::units::Degrees;
use crate::words::written;
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
    pub(crate) const REACH_ROUGH_MM: f64 = 20.0, " mm", Workshop;
    /// The same for height.
    pub(crate) const HEIGHT_ROUGH_MM: f64 = 40.0, " mm", Workshop;
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

/// Looks for what is far out in the position as it stands. What is asked for is cut where a limit of the rider begins.
pub fn gross(trying: &Trying) -> GrossReport {
    let mut errors = Vec::new();
    errors.extend(saddle(trying));
    let mut front = None;
    let beyond = matches!(trying.before.upper.reach, Reach::Beyond { .. });
    if let Some(wanted) = hands_wanted(trying) {
        let (by, wall) = hands_within_limits(trying, wanted);
        let pass = || front_pass(trying, by, wall.as_deref());
        let out = by.y.abs() >= HEIGHT_GROSS_MM || by.x.abs() >= REACH_GROSS_MM;
        if out || beyond {
            let pass = pass();
            errors.push(Gross {
                station: Station::Bars,
                words: pass.words,
                proposal: if pass.changes.is_empty() {
                    "No stem or spacer of this bike gets there: look at the frame".to_owned()
                } else {
                    format!("Take the front first, roughly{}", pass.left)
                },
                changes: pass.changes,
            });
        } else if by.x.abs() >= REACH_ROUGH_MM || by.y.abs() >= HEIGHT_ROUGH_MM {
            front = Some(pass());
        }
    }
    GrossReport { errors, front }
}

/// A saddle so far from the knee's range that nothing else can be judged.
fn saddle(trying: &Trying) -> Option<Gross> {
    let position = &trying.before;
    let range = range_of(&trying.ranges, Output::KneeAtFullReach, position.hands)?;
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
    let travel = round5(post_for_knee(trying, &[], wanted)?);
    if travel.abs() < SADDLE_GROSS_MM {
        return None;
    }
    let (changes, wall) = within_limits(trying, vec![Change::by(Quantity::SaddleHeight, travel)])?;
    let first = "Bring the saddle near first; feet and cranks are judged after";
    Some(Gross {
        station: Station::SaddleHeight,
        words: format!(
            "The saddle is about {} mm too {}: knee at full reach {}°, wanted {}–{}°",
            written(travel.abs()),
            if travel < 0.0 { "high" } else { "low" },
            written(now),
            written(range.low),
            written(range.high)
        ),
        proposal: match wall {
            None => first.to_owned(),
            Some(wall) if changes.is_empty() => format!("Not for this rider yet: {wall}"),
            Some(wall) => format!(
                "{first}; no further than {} mm: {wall}",
                written(by(&changes))
            ),
        },
        changes,
    })
}

/// How far the first change goes, without sign.
fn by(changes: &[Change]) -> f64 {
    changes.first().and_then(|c| c.by).unwrap_or_default().abs()
}

/// Where the hands should go for torso and shoulder to come to the near ends of their ranges; `None` where this kind
/// of riding, or this place of the hands, has no range.
fn hands_wanted(trying: &Trying) -> Option<Point> {
    let position = &trying.before;
    let near = |output: Output, value: f64| {
        range_of(&trying.ranges, output, position.hands)
            .map(|range| value.clamp(range.low, range.high))
    };
    let (torso, shoulder) = (position.upper.torso_deg.0, position.upper.shoulder_deg.0);
    let wanted_torso = near(Output::Torso, torso)?;
    let wanted_shoulder = near(Output::Shoulder, shoulder).unwrap_or(shoulder);
    Some(trying.hand_way(
        &trying.setup,
        Degrees(wanted_torso),
        Degrees(wanted_shoulder),
    ))
}

/// As much of a way of the hands as the rider's limits allow, and what stops it.
fn hands_within_limits(trying: &Trying, wanted: Point) -> (Point, Option<String>) {
    let stopped = |share: f64| {
        let moved = trying.setup.with(|setup| {
            setup.residual.hand_forward_mm.0 += wanted.x * share;
            setup.residual.hand_up_mm.0 += wanted.y * share;
        });
        wall(&trying.rider, &trying.before, &trying.standing(&moved))
    };
    let Some(wall) = stopped(1.0) else {
        return (wanted, None);
    };
    let (mut free, mut blocked) = (0.0, 1.0);
    for _ in 0..10 {
        let share = f64::midpoint(free, blocked);
        if stopped(share).is_none() {
            free = share;
        } else {
            blocked = share;
        }
    }
    (wanted * free, Some(wall))
}

/// The stem, angle and spacers that bring the hands nearest to where they should be, none of them past a limit.
fn front_pass(trying: &Trying, by: Point, stopped: Option<&str>) -> FrontPass {
    let allowed =
        |tried: &Placed| wall(&trying.rider, &trying.before, &trying.standing(tried)).is_none();
    let (changes, left) = parts_for(trying, &trying.setup, by, allowed);
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
    let words = format!("The hands are about {}", parts.join(" and "));
    let still = if left > 10.0 {
        format!("; these parts still leave {} mm", written(round5(left)))
    } else {
        String::new()
    };
    FrontPass {
        forward_mm: by.x,
        up_mm: by.y,
        words: match stopped {
            Some(wall) => format!("{words}, no further: {wall}"),
            None => words,
        },
        left: still,
        changes,
    }
}

fn round5(value: f64) -> f64 {
    (value / 5.0).round() * 5.0
}
