//! A position on pads beside others: what a fast rider chooses by, as one judged sheet.

use super::drag::{Drag, MONOTONE_BELOW_DEG, Watts, frontal_index, watts};
use super::turned::seat_angle;
use crate::bike::{HandPlace, Placed, Setup};
use crate::foresee::Trying;
use crate::measure::{Convention, Output, Quantity};
use crate::plane::Point;
use crate::position::{DROP_SHARE, Position, TESTS};
use crate::rule::rules;
use crate::units::Side;
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Time trial";
    /// Extremes are for events up to about so long, and without a run.
    const EXTREME_MIN: f64 = 30.0, " min", Workshop;
    /// The back's outline lies so much lower than hip to shoulder.
    const OUTLINE_LOWER_DEG: f64 = 15.0, "°", House;
    /// Looking up without the neck: the eyes turn up by
    const EYES_UP_DEG: f64 = 20.0, "°", House;
    /// The road is looked at so far ahead.
    const AHEAD_MM: f64 = 15_000.0, " mm", House;
    /// Neck extension where nobody measured it.
    const NECK_DEG: f64 = 60.0, "°", House;
    /// What sight may be off by.
    const SIGHT_SPREAD_DEG: f64 = 10.0, "°", House;
    /// The ear over the crease of the elbow, as seen, give or take
    const EAR_MM: f64 = 20.0, " mm", Workshop;
    /// Pads moved by 10 mm move it by
    const EAR_BY_PADS: f64 = 7.7, " mm", House;
}

/// What the rider is to hold it for.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = HeldFor))]
pub struct Event {
    /// Minutes of the event.
    pub minutes: Option<f64>,
    /// Whether a run follows.
    pub run_follows: bool,
}

/// One line of the sheet.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = CandidateFigure))]
pub struct Figure {
    /// What.
    pub label: String,
    /// The value; none where this rider or bike has none.
    pub value: Option<f64>,
    /// Its unit, as written after it.
    pub unit: &'static str,
    /// What may be off, one standard deviation, where that is known.
    pub spread: Option<f64>,
    /// How it is judged, or what it cannot say.
    pub words: String,
    /// Whether it is against the rider or the event.
    pub against: bool,
}

/// Enough of a position to draw it over another, from the BB.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = CandidateOutline))]
pub struct Outline {
    /// Saddle tail,
    pub tail: Point,
    /// and nose.
    pub nose: Point,
    /// Hip, shoulder, elbow, wrist, the hand's rest, middle of the head.
    pub upper: [Point; 6],
    /// Hip, knee, ankle, heel and toe with the right crank up,
    pub leg_up: [Point; 5],
    /// and down.
    pub leg_down: [Point; 5],
    /// The pads' rear edge,
    pub pad_rear: Option<Point>,
    /// their centre
    pub pad: Option<Point>,
    /// and their front edge.
    pub pad_front: Option<Point>,
}

/// A position among others.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = PositionCandidate))]
pub struct Candidate {
    /// "As found", "Now", "Trial 3: …".
    pub name: String,
    /// Its figures, in one order for all.
    pub figures: Vec<Figure>,
    /// As it is drawn.
    pub outline: Outline,
    /// The ends of the extensions, where the hands' rest is.
    pub ends: Option<Point>,
    /// Saddle tilt, front up.
    pub saddle_tilt_deg: f64,
    /// The frontal index, m²; it compares, and nothing else.
    pub index: f64,
    /// Drop as a share of saddle height.
    pub drop_share: Option<f64>,
    /// Whether limbs meet the bike.
    pub reached: bool,
}

/// How a drop share is called.
fn called(share: f64) -> &'static str {
    match share {
        share if share < DROP_SHARE.low => "modest",
        share if share <= DROP_SHARE.high => "the usual aim",
        share if share <= DROP_SHARE.outer_high => "low",
        _ => "extreme",
    }
}

fn figure(label: &str, value: Option<f64>, unit: &'static str, words: impl Into<String>) -> Figure {
    Figure {
        label: label.to_owned(),
        value,
        unit,
        spread: None,
        words: words.into(),
        against: false,
    }
}

/// A setup as a candidate. `baseline` is the index of the position as found; `held_min` how long it was held so far, `ear` how
/// far ahead of the elbow's crease the ear was seen.
pub fn candidate(
    trying: &Trying,
    name: &str,
    setup: &Setup,
    event: Event,
    (held_min, ear_mm): (Option<f64>, Option<f64>),
    (baseline, drag): (Option<f64>, Option<&Drag>),
) -> Option<Candidate> {
    let placed = Placed::of(*setup)?;
    let position = Position::of(&trying.scene(crate::rider::Detail::Fine), &placed);
    let index = frontal_index(trying, &position);
    let drop_share = position.dimensions.get(Convention::DropShare);
    let on_pads = position.hands == HandPlace::Pads;
    let of = |output: Output, side| output.of(&position, side);
    let torso = of(Output::Torso, Side::Right);
    let mut figures = vec![share_figure(drop_share, event)];
    figures.push(figure(
        "Torso",
        torso,
        "°",
        format!("hip to shoulder; the back’s outline, which the eye calls flat, lies some {OUTLINE_LOWER_DEG}° lower"),
    ));
    for side in Side::BOTH {
        figures.push(hip_figure(trying, &position, side));
    }
    figures.push(figure(
        "Knee to elbow",
        both(&position, Output::KneeToElbow),
        " mm",
        "nearest of both sides",
    ));
    figures.push(figure(
        "Knee to trunk",
        both(&position, Output::KneeToTrunk),
        " mm",
        "nearest of both sides",
    ));
    figures.push(figure(
        "Seat angle",
        Some(seat_angle(position.bike.sit)),
        "°",
        "of the sit reference",
    ));
    figures.push(ear_figure(ear_mm));
    figures.push(sight(trying, &position, torso));
    figures.push(index_figure(index, baseline, torso));
    figures.extend(drag.map(|drag| watts_figure(watts(drag, index, baseline.unwrap_or(index)))));
    figures.push(figure(
        if on_pads {
            "On the elbows"
        } else {
            "On the hands"
        },
        of(Output::HandLoad, Side::Right),
        " N",
        "both together, at the effort of the fit",
    ));
    figures.push(held_figure(held_min, event));
    let points = &position.upper.points;
    let leg = |half: usize| {
        let leg = &position.legs.right;
        let hip = points.hip;
        leg.poses.get(half).map_or([hip; 5], |pose| {
            [hip, pose.knee, pose.ankle, pose.heel, pose.toe]
        })
    };
    Some(Candidate {
        name: name.to_owned(),
        figures,
        outline: Outline {
            tail: position.bike.saddle_tail,
            nose: position.bike.saddle_nose,
            upper: [
                points.hip,
                points.shoulder,
                points.elbow,
                points.wrist,
                points.hand,
                points.head,
            ],
            leg_up: leg(0),
            leg_down: leg(36),
            pad_rear: position.bike.pad_rear,
            pad: position.bike.pad,
            pad_front: position.bike.pad_front,
        },
        ends: on_pads.then_some(points.hand),
        saddle_tilt_deg: setup.saddle.tilt_deg.0,
        index,
        drop_share,
        reached: position.is_reached(),
    })
}

fn both(position: &Position, output: Output) -> Option<f64> {
    let of = |side| output.of(position, side);
    Some(of(Side::Left)?.min(of(Side::Right)?))
}

fn share_figure(share: Option<f64>, event: Event) -> Figure {
    let plain = figure("Drop as a share of saddle height", share, " %", "");
    let Some(share) = share else { return plain };
    let extreme = share > DROP_SHARE.outer_high;
    let long = event.minutes.is_some_and(|minutes| minutes > EXTREME_MIN);
    let against = extreme && (long || event.run_follows);
    let words = match (against, event.run_follows) {
        (true, true) => format!("{}: not before a run", called(share)),
        (true, false) => format!(
            "{}: for events up to about {} minutes",
            called(share),
            written(EXTREME_MIN)
        ),
        _ if extreme && event.minutes.is_none() => {
            format!(
                "{}: for events up to about {} minutes without a run",
                called(share),
                written(EXTREME_MIN)
            )
        }
        _ => called(share).to_owned(),
    };
    Figure {
        words,
        against,
        ..plain
    }
}

/// The hip's room: what its limit leaves, or how far it closes where nobody tested that.
fn hip_figure(trying: &Trying, position: &Position, side: Side) -> Figure {
    let label = |what: &str| crate::words::sided(what, Some(side));
    let test = TESTS.iter().find(|test| test.limit == Quantity::HipLimit);
    let room = test.and_then(|test| {
        let limit = test.limit(&trying.rider, side)?;
        Some(test.margin(limit, test.demand(position, side)?))
    });
    match room {
        Some(room) => Figure {
            against: room < 0.0,
            ..figure(
                &label("Hip room"),
                Some(room),
                "°",
                if room < 0.0 {
                    "past its limit"
                } else {
                    "to the limit of the table"
                },
            )
        },
        None => figure(
            &label("Hip at its most closed"),
            Output::HipClosed.of(position, side),
            "°",
            "no limit tested: measure it at Body",
        ),
    }
}

/// Head over elbow is read off the rider, never off the drawn head.
fn ear_figure(ear_mm: Option<f64>) -> Figure {
    let label = "Ear ahead of the elbow’s crease";
    let Some(ear) = ear_mm else {
        return figure(
            label,
            None,
            " mm",
            "not seen: look from the side and type it",
        );
    };
    let off = ear.abs() > EAR_MM;
    let pads = (ear / EAR_BY_PADS * 10.0).abs();
    let words = match (off, ear > 0.0) {
        (false, _) => "over it".to_owned(),
        (true, true) => format!(
            "crease behind the ear: pads out, about {} mm",
            written(pads.round())
        ),
        (true, false) => format!(
            "crease ahead of the ear: pads in, about {} mm",
            written(pads.round())
        ),
    };
    Figure {
        against: off,
        ..figure(label, Some(ear), " mm", words)
    }
}

/// `gaze = torso − 90 + neck extension + 20°`: a point 15 m ahead is seen if gaze is at least −atan(eye height / 15 m).
fn sight(trying: &Trying, position: &Position, torso: Option<f64>) -> Figure {
    let label = "Sight line above the road ahead";
    let Some(torso) = torso else {
        return figure(label, None, "°", "");
    };
    let measured = trying.rider.body.get(Quantity::NeckExtension);
    let neck = measured.unwrap_or(NECK_DEG);
    let gaze = torso - 90.0 + neck + EYES_UP_DEG;
    let eye = (position.upper.points.head.y - position.bike.ground_mm.0).max(0.0);
    let least = -(eye / AHEAD_MM).atan().to_degrees();
    let over = gaze - least;
    let from = if measured.is_some() {
        ""
    } else {
        "; neck extension is a guess, measure it at Body"
    };
    let words = if over < -SIGHT_SPREAD_DEG {
        format!("the road 15 m ahead is not seen{from}")
    } else if over < SIGHT_SPREAD_DEG {
        format!("within doubt: have the rider look up the road{from}")
    } else {
        format!("the road 15 m ahead is seen{from}")
    };
    Figure {
        spread: Some(SIGHT_SPREAD_DEG),
        against: over < -SIGHT_SPREAD_DEG,
        ..figure(label, Some(over), "°", words)
    }
}

fn index_figure(index: f64, baseline: Option<f64>, torso: Option<f64>) -> Figure {
    let share = baseline.map(|baseline| 100.0 * index / baseline);
    let high = torso.is_some_and(|torso| torso > MONOTONE_BELOW_DEG);
    figure(
        "Frontal index",
        share,
        " %",
        if high {
            format!("of the first; says nothing above {MONOTONE_BELOW_DEG}° of torso")
        } else {
            "of the first: drawn, not measured, and no drag".to_owned()
        },
    )
}

fn watts_figure(watts: Watts) -> Figure {
    let words = if watts.change.abs() < 0.5 {
        "as measured".to_owned()
    } else {
        format!(
            "{}{} W than as measured, ± {}",
            if watts.change < 0.0 { "−" } else { "+" },
            written(watts.change.abs().round()),
            written(watts.spread.ceil())
        )
    };
    Figure {
        spread: Some(watts.spread),
        ..figure("Against the wind", Some(watts.watts), " W", words)
    }
}

fn held_figure(held: Option<f64>, event: Event) -> Figure {
    let label = "Held so far";
    let words = match (held, event.minutes) {
        (None, _) => "not yet: the position that can be held is the fast one".to_owned(),
        (Some(held), Some(minutes)) if held + 0.5 < minutes => {
            format!("of {} minutes", written(minutes))
        }
        (Some(_), Some(minutes)) => format!("the whole event, {} minutes", written(minutes)),
        (Some(_), None) => "type how long the event takes at Intake".to_owned(),
    };
    figure(label, held, " min", words)
}

impl Candidate {
    /// What choosing it costs against another: figures that differ by something.
    pub fn against(&self, other: &Self) -> Vec<String> {
        let differ = self
            .figures
            .iter()
            .zip(&other.figures)
            .filter_map(|(own, theirs)| {
                let by = own.value? - theirs.value?;
                let enough = match own.unit {
                    "°" => 0.5,
                    " mm" => 2.0,
                    " N" => 5.0,
                    _ => 0.3,
                };
                (own.label == theirs.label && by.abs() >= enough).then(|| {
                    let sign = if by < 0.0 { "−" } else { "+" };
                    format!(
                        "{} {sign}{}{}",
                        crate::words::lower(&own.label),
                        written(by.abs()),
                        own.unit
                    )
                })
            });
        differ.collect()
    }
}
