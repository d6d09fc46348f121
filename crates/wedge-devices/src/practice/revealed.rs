//! The end of a fit of practice: where the windows were, what each trial told, what it cost, and what others would have done.

use super::Level;
use crate::body::Sight;
use crate::hidden::{Character, LAWS, Troubled};
use crate::hundred::{Fitted, Stranger, Way};
use crate::room::Room;
use serde::{Deserialize, Serialize};
use wedge_core::bike::Setup;
use wedge_core::judge::{Axis, Felt};
use wedge_core::measure::Refusal;
use wedge_core::plane::Point;
use wedge_core::units::Side;

/// What came of a fit of practice, as it is kept of an apprentice.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Practised {
    /// Trials.
    pub trials: usize,
    /// Windows missed by more than a tape's error, at the start and at the end.
    pub out: [usize; 2],
    /// How far the worst axis is beyond its window at the end, in half-widths.
    pub worst: f64,
    /// Trials in which a joint was beyond its limit.
    pub harmed: usize,
    /// By which laws.
    pub laws: u32,
}

/// One axis with its truth.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AxisRevealed {
    /// As it is told.
    pub label: String,
    /// Its unit.
    pub unit: &'static str,
    /// Where its window began and ended, from the bike as found.
    pub window: [f64; 2],
    /// Where the bike was left.
    pub left: f64,
    /// In words: "inside", "4 mm too high".
    pub words: String,
    /// Whether it is missed by more than a tape's error.
    pub missed: bool,
    /// Whether the bike as found missed it.
    pub came_out: bool,
}

/// One trial with its truth.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialRevealed {
    /// The how-manieth.
    pub number: i64,
    /// As it was foreseen: "Saddle down 6".
    pub title: String,
    /// How far from right it was before and after, over all axes, in half-widths.
    pub beyond: [f64; 2],
    /// What it told: whether what he said was so.
    pub words: String,
}

/// His body.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Limb {
    /// As it is told.
    pub label: &'static str,
    /// As it was measured or estimated, left and right.
    pub known: [f64; 2],
    /// As it is.
    pub is: [f64; 2],
}

/// What somebody else would have done.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OtherWay {
    /// Who.
    pub label: String,
    /// In how many trials.
    pub trials: usize,
    /// Windows missed at the end.
    pub out: usize,
    /// What was tried, in order.
    pub did: Vec<String>,
}

/// Where a point of the bike was right: corners, mm from the BB.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Region {
    /// Of the sit reference, or of the hands.
    pub label: &'static str,
    /// Round about.
    pub corners: Vec<Point>,
    /// Where it was left.
    pub left: Point,
}

/// Everything, at the end.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Revealed {
    /// What is kept of it.
    pub ended: Practised,
    /// In a sentence.
    pub words: String,
    /// Axis by axis.
    pub axes: Vec<AxisRevealed>,
    /// Trial by trial.
    pub trials: Vec<TrialRevealed>,
    /// His body, as it was thought to be and is.
    pub body: Vec<Limb>,
    /// What was wrong besides, in words.
    pub troubles: Vec<String>,
    /// How he talks, in words.
    pub character: &'static str,
    /// The judge, and the rules in a fixed order.
    pub beside: Vec<OtherWay>,
    /// Where the sit reference and the hands belonged.
    pub regions: Vec<Region>,
}

/// A trial of a fit.
#[derive(Debug, Clone, Copy)]
pub struct Tried<'a> {
    /// The how-manieth.
    pub number: i64,
    /// As it was foreseen: "Saddle down 6".
    pub title: &'a str,
    /// The setup before.
    pub was: Setup,
    /// The setup tried.
    pub is: Setup,
    /// What he said of it.
    pub said: Option<Felt>,
}

/// The truth of a rider of practice after his fit.
///
/// # Errors
///
/// What was measured makes no rider on a bike.
pub fn revealed(
    (level, seed): (Level, u64),
    room: &Room,
    left: &Setup,
    tried: &[Tried],
) -> Result<Revealed, Vec<Refusal>> {
    let stranger = Stranger::at(level, seed);
    let rider = room.rider();
    let nowhere = || vec![Refusal::new("/setup", "The saddle has no place")];
    let (found, _) = room.places(&stranger.known.setup).ok_or_else(nowhere)?;
    let (places, bike) = room.places(left).ok_or_else(nowhere)?;
    let axes: Vec<AxisRevealed> = (Axis::ALL.iter())
        .map(|axis| axis_revealed(room, *axis, &found, &places))
        .collect();
    let trials = (tried.iter()).filter_map(|trial| trial_revealed(room, trial));
    let out = |places: &[f64]| {
        let missed = Axis::ALL
            .iter()
            .filter(|axis| !rider.is_right_on(**axis, places, true));
        missed.count()
    };
    let worst = room
        .beyond(&places)
        .into_iter()
        .map(f64::abs)
        .fold(0.0, f64::max);
    let ended = Practised {
        trials: tried.len(),
        out: [out(&found), out(&places)],
        worst,
        harmed: tried
            .iter()
            .filter(|trial| is_harmed(room, &trial.is))
            .count(),
        laws: LAWS,
    };
    let beside = [Way::Judge, Way::FixedOrder].into_iter().filter_map(|way| {
        let fitted = Fitted::of_stranger(way, &stranger)?;
        Some(OtherWay {
            label: way.label().to_owned(),
            trials: fitted.trials,
            out: fitted.out[1],
            did: fitted.did,
        })
    });
    Ok(Revealed {
        words: in_a_sentence(&ended),
        axes,
        trials: trials.collect(),
        body: body(&stranger, rider.body()),
        troubles: rider
            .troubles()
            .iter()
            .map(|of| trouble_words(*of))
            .collect(),
        character: match rider.character() {
            Character::Plain => "He says what he feels.",
            Character::Vague => "He is seldom sure, and leaves some of it out.",
            Character::Contrary => "One answer in ten is the other way round.",
        },
        beside: beside.collect(),
        regions: regions(room, left, &bike.sit, &bike.hand),
        ended,
    })
}

fn in_a_sentence(ended: &Practised) -> String {
    let out = match ended.out[1] {
        0 => "Every window is met to within a tape's error".to_owned(),
        1 => "One window is missed".to_owned(),
        n => format!("{n} windows are missed"),
    };
    let harm = match ended.harmed {
        0 => "no joint was taken beyond its limit".to_owned(),
        1 => "in one trial a joint was beyond its limit".to_owned(),
        n => format!("in {n} trials a joint was beyond its limit"),
    };
    let trials = match ended.trials {
        1 => "one trial".to_owned(),
        n => format!("{n} trials"),
    };
    format!(
        "{out}, of {} when the bike came; {trials}; {harm}.",
        ended.out[0]
    )
}

fn axis_revealed(room: &Room, axis: Axis, found: &[f64], places: &[f64]) -> AxisRevealed {
    let (rider, spec) = (room.rider(), axis.spec());
    let window = rider.window(axis);
    let (at, was) = (places[axis as usize], found[axis as usize]);
    let unit = if spec.is_mm { "mm" } else { "°" };
    let beyond = window.beyond(at);
    let missed = !rider.is_right_on(axis, places, true);
    let words = if beyond == 0.0 {
        "inside".to_owned()
    } else {
        let much = (10.0 * beyond.abs()).round() / 10.0;
        let gap = if spec.is_mm { " " } else { "" };
        let (more, less) = spec.words;
        let way = if beyond > 0.0 { more } else { less };
        let near = if missed {
            ""
        } else {
            ", within a tape's error"
        };
        format!("{much}{gap}{unit} too {way}{near}")
    };
    AxisRevealed {
        label: axis.label().to_owned(),
        unit,
        window: [window.centre - window.half, window.centre + window.half],
        left: at,
        words,
        missed,
        came_out: window.beyond(was) != 0.0 && !rider.is_right_on(axis, found, true),
    }
}

fn trial_revealed(room: &Room, trial: &Tried) -> Option<TrialRevealed> {
    let far = |setup: &Setup| -> Option<f64> {
        Some(
            room.beyond(&room.places(setup)?.0)
                .into_iter()
                .map(f64::abs)
                .sum(),
        )
    };
    let beyond = [far(&trial.was)?, far(&trial.is)?];
    let really = match beyond[1] - beyond[0] {
        by if by < -0.15 => Felt::Better,
        by if by > 0.15 => Felt::Worse,
        _ => Felt::Same,
    };
    let word = |felt: Felt| match felt {
        Felt::Better => "nearer to right",
        Felt::Same => "no nearer and no farther",
        Felt::Worse => "farther from right",
    };
    let told = match trial.said {
        None => "he was not asked".to_owned(),
        Some(said) if said == really => "he said so".to_owned(),
        Some(Felt::Better) => "he said better".to_owned(),
        Some(Felt::Same) => "he felt nothing".to_owned(),
        Some(Felt::Worse) => "he said worse".to_owned(),
    };
    Some(TrialRevealed {
        number: trial.number,
        title: trial.title.to_owned(),
        beyond,
        words: format!("{}; {told}.", word(really)),
    })
}

/// Whether a joint of the body as it really is was beyond what the table allows.
fn is_harmed(room: &Room, setup: &Setup) -> bool {
    let Some((places, bike)) = room.places(setup) else {
        return false;
    };
    let Some(sight) = room.rider().sight(&bike, setup, &places) else {
        return true;
    };
    let legs = &room.known().rider.legs;
    let beyond = |(index, side): (usize, Side)| {
        let limit = legs.of(side).hip_limit_deg;
        limit.is_some_and(|limit| most_flexed(&sight, index) > limit.0)
    };
    Side::BOTH.into_iter().enumerate().any(beyond)
}

fn most_flexed(sight: &Sight, index: usize) -> f64 {
    sight.hip_flexion[index]
}

fn trouble_words(of: Troubled) -> String {
    let side = of
        .side
        .map_or_else(String::new, |side| format!(", {}", side.word()));
    format!("{}{side}", of.trouble.label())
}

fn body(stranger: &Stranger, is: &crate::body::Body) -> Vec<Limb> {
    let rider = &stranger.known.rider;
    let lengths = wedge_core::rider::Lengths::of(&rider.body, &rider.legs, &rider.arms);
    let legs = |of: fn(&wedge_core::rider::LegLengths) -> f64| {
        Side::BOTH.map(|side| of(lengths.legs.of(side)))
    };
    let both = |value: f64| [value, value];
    vec![
        Limb {
            label: "Thigh",
            known: legs(|leg| leg.thigh.value_mm.0),
            is: is.thigh,
        },
        Limb {
            label: "Shank",
            known: legs(|leg| leg.shank.value_mm.0),
            is: is.shank,
        },
        Limb {
            label: "Foot",
            known: legs(|leg| leg.foot_length.value_mm.0),
            is: is.foot_length,
        },
        Limb {
            label: "Trunk",
            known: both(lengths.trunk.value_mm.0),
            is: both(is.trunk),
        },
        Limb {
            label: "Upper arm",
            known: both(lengths.upper_arm.value_mm.0),
            is: both(is.upper_arm),
        },
        Limb {
            label: "Forearm",
            known: both(lengths.forearm.value_mm.0),
            is: both(is.forearm),
        },
    ]
}

/// Where the sit reference and the hands belonged: the windows of height and setback, of reach and bars, turned into places by
/// how each place answers to a small move of the point.
fn regions(room: &Room, left: &Setup, sit: &Point, hand: &Point) -> Vec<Region> {
    let around = |label: &'static str,
                  at: Point,
                  [one, other]: [Axis; 2],
                  answers: Option<[[f64; 2]; 2]>| {
        let (places, _) = room.places(left)?;
        let [[a, b], [c, d]] = answers?;
        let across = a * d - b * c;
        if across.abs() < 1e-6 {
            return None;
        }
        let corners = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
        let corners = corners.map(|(p, q)| {
            let to = |axis: Axis, way: f64| {
                let window = room.rider().window(axis);
                window.centre + way * window.half - places[axis as usize]
            };
            let (u, v) = (to(one, p), to(other, q));
            at + Point::new((u * d - v * b) / across, (v * a - u * c) / across)
        });
        Some(Region {
            label,
            corners: corners.to_vec(),
            left: at,
        })
    };
    let of_sit = room.answers(left, [Axis::Height, Axis::Setback], true);
    let of_hand = room.answers(left, [Axis::Reach, Axis::Bars], false);
    [
        around("Sit reference", *sit, [Axis::Height, Axis::Setback], of_sit),
        around("Hands", *hand, [Axis::Reach, Axis::Bars], of_hand),
    ]
    .into_iter()
    .flatten()
    .collect()
}
