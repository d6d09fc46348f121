//! From a place that hurts to what may cause it, as far as saddle, cleats and cranks go: each link with what speaks for
//! it, what against, what stands here and now, and the test that would settle it. No verdict: nothing here is weighed.

use crate::foresee::Trying;
use crate::intake::{Complaint, Intake, Place, Stroke};
use crate::looking::KneePath;
use crate::measure::{Output, Unit};
use crate::position::{Landmark, Mark, Toward, range_of};
use crate::school::{SaddleNotes, Scale};
use crate::trial::{Finding, Protocol, Says};
use crate::units::{Side, Sides};
use crate::words::{lower, words, written};
use crate::work::Station;
use serde::Serialize;

words! {
    /// What may be wrong with saddle, cleats or cranks.
    pub enum Fault {
        SaddleHigh "saddle_high" "Saddle too high",
        SaddleLow "saddle_low" "Saddle too low",
        SaddleForward "saddle_forward" "Saddle too far forward",
        SaddleBack "saddle_back" "Saddle too far back",
        SaddleTilted "saddle_tilted" "Saddle tilted",
        SaddleShape "saddle_shape" "Saddle's width or relief",
        NoseRiding "nose_riding" "Riding on the nose",
        CleatForward "cleat_forward" "Cleat too far forward",
        CleatBack "cleat_back" "Cleat moved back at the same height",
        CleatTurned "cleat_turned" "Cleat turned",
        Stance "stance" "Stance",
        CrankLong "crank_long" "Crank too long",
    }
}

words! {
    /// How often a link holds (workshop rule).
    pub enum HowOften {
        Often "often" "Often",
        Sometimes "sometimes" "Sometimes",
        Seldom "seldom" "Seldom",
    }
}

/// One link from a complaint to a fault.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Link {
    /// What may be wrong.
    pub fault: Fault,
    /// As it is called.
    pub label: String,
    /// How often that is so.
    pub often: HowOften,
    /// What here and now says the opposite, when something does: then it is seldom that, however often it is elsewhere.
    pub contradicted: Option<String>,
    /// What would speak for it.
    pub speaks_for: String,
    /// What would speak against it.
    pub speaks_against: String,
    /// What is known here and now, as measured, foreseen or found; empty when nothing is.
    pub here: Vec<String>,
    /// What would settle it.
    pub settles: String,
    /// The protocol that is, where one is.
    pub protocol: Option<Protocol>,
    /// Where on the way it is turned.
    pub station: Station,
}

/// A complaint with its links.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ComplaintCauses {
    /// The complaint in a line.
    pub complaint: String,
    /// Its links, the ones that hold most often first and those that here and now contradicts last; none when saddle, cleats and cranks are not known to cause it.
    pub links: Vec<Link>,
    /// What else there is to say.
    pub words: String,
}

/// What is known besides the position.
#[derive(Debug, Clone, Copy)]
pub struct CauseFacts<'a> {
    /// The schools of each cleat.
    pub cleats: &'a Sides<Scale>,
    /// What was noted of the saddle.
    pub saddle: &'a SaddleNotes,
    /// From where on the knee plumb lines hang in this studio.
    pub landmark: Landmark,
    /// How each knee was seen to go from the front.
    pub knees: Sides<Option<KneePath>>,
    /// What the protocols found, the last last.
    pub findings: &'a [Finding],
}

/// The links of a place (workshop rules), the ones that hold most often first.
fn known(place: Place) -> &'static [(Fault, HowOften)] {
    use Fault as F;
    use HowOften::{Often, Seldom, Sometimes};
    match place {
        Place::KneeFront => &[
            (F::SaddleLow, Often),
            (F::SaddleForward, Often),
            (F::CleatForward, Sometimes),
            (F::CrankLong, Sometimes),
        ],
        Place::KneeBehind => &[
            (F::SaddleHigh, Often),
            (F::SaddleBack, Sometimes),
            (F::CleatBack, Sometimes),
        ],
        Place::KneeOutside => &[
            (F::SaddleHigh, Often),
            (F::Stance, Sometimes),
            (F::CleatTurned, Sometimes),
            (F::SaddleBack, Sometimes),
        ],
        Place::KneeInside => &[(F::Stance, Often), (F::CleatTurned, Often)],
        Place::LowBack => &[(F::SaddleBack, Sometimes), (F::CrankLong, Sometimes)],
        Place::HipFront => &[
            (F::CrankLong, Often),
            (F::SaddleLow, Often),
            (F::SaddleBack, Sometimes),
        ],
        Place::Hand | Place::Wrist => &[
            (F::SaddleForward, Often),
            (F::SaddleTilted, Sometimes),
            (F::SaddleHigh, Sometimes),
        ],
        Place::FootBall | Place::FootSole | Place::Toes => {
            &[(F::CleatForward, Often), (F::SaddleBack, Seldom)]
        }
        Place::Saddle | Place::Seat => &[
            (F::SaddleHigh, Often),
            (F::SaddleShape, Often),
            (F::SaddleTilted, Often),
            (F::NoseRiding, Sometimes),
        ],
        Place::Calf | Place::Achilles => &[(F::CleatForward, Often), (F::SaddleHigh, Sometimes)],
        Place::ThighBack => &[(F::SaddleBack, Often), (F::SaddleHigh, Sometimes)],
        Place::ThighFront => &[(F::SaddleForward, Often), (F::SaddleLow, Sometimes)],
        _ => &[],
    }
}

/// For, against, what settles it, by which protocol, and where it is turned.
struct Test {
    speaks_for: &'static str,
    speaks_against: &'static str,
    settles: &'static str,
    protocol: Option<Protocol>,
    station: Station,
}

fn test(fault: Fault) -> Test {
    let test = |speaks_for, speaks_against, settles, protocol, station| Test {
        speaks_for,
        speaks_against,
        settles,
        protocol,
        station,
    };
    match fault {
        Fault::SaddleHigh => test(
            "Toes point, hips rock, the bottom is choppy; it hurts at full reach",
            "It hurts over the top, or with the knee most bent",
            "Creep up: the threshold against where it stands. Or 5 mm down for a week",
            Some(Protocol::CreepUp),
            Station::SaddleHeight,
        ),
        Fault::SaddleLow => test(
            "It hurts pushing, knee well bent; the hip is pinched, one hip lifted over the top",
            "It hurts at the bottom of the stroke, or behind the knee",
            "Creep up: the threshold against where it stands. Or 5 mm up for a week",
            Some(Protocol::CreepUp),
            Station::SaddleHeight,
        ),
        Fault::SaddleForward => test(
            "Heavy hands, thigh burn; worse pushing hard",
            "The rider passes the balance test further forward",
            "Balance test as it stands, then 5 mm back",
            Some(Protocol::Balance),
            Station::Setback,
        ),
        Fault::SaddleBack => test(
            "Sits on the nose, kicks over the top, elbows locked; worse uphill seated",
            "Sliding back under load, heavy hands",
            "Rail sweep: where hands and thighs say nothing, 5 mm forward",
            Some(Protocol::RailSweep),
            Station::Setback,
        ),
        Fault::SaddleTilted => test(
            "Slides forward and braces (nose down), or pressure in front (nose up)",
            "The gauge says level and the rider sits still",
            "Tilt: gauge it, level it, ride; then a degree at a time",
            Some(Protocol::Tilt),
            Station::Setback,
        ),
        Fault::SaddleShape => test(
            "Shuffles, rubs, sits to one side; no relief; numb in front",
            "It came with a change of height or reach on the same saddle",
            "Another saddle with the stack carried over, nothing else changed",
            None,
            Station::Setback,
        ),
        Fault::NoseRiding => test(
            "Found on the nose when working; the nose is worn",
            "Sits on the wide part at every effort",
            "Shorter or higher front for one ride: does the rider sit back by themselves?",
            None,
            Station::Bars,
        ),
        Fault::CleatForward => test(
            "Calves tire, toes numb; heels seen dropped, or rides on tiptoe",
            "The foot is near level through the bottom, and the calves are fresh",
            "Cleats 5 mm back with the saddle's answer",
            None,
            Station::Feet,
        ),
        Fault::CleatBack => test(
            "It began after the cleats went back and the saddle stayed",
            "The cleats were not touched",
            "Saddle down by what the cleat asks, nothing else",
            None,
            Station::SaddleHeight,
        ),
        Fault::CleatTurned => test(
            "One side; the heel hits an end of its float; it eases unclipped",
            "Free float on both sides of the heel",
            "Turn that cleat a degree to where the foot hangs by itself",
            None,
            Station::Feet,
        ),
        Fault::Stance => test(
            "The knee tracks in or out from the front",
            "Knee and foot in one plane",
            "The ladder of that knee, one rung at a time",
            None,
            Station::Feet,
        ),
        Fault::CrankLong => test(
            "It hurts over the top, where the knee is most bent; the hip hikes or the back rounds",
            "It hurts at the bottom, or standing",
            "2.5 to 5 mm shorter with the bottom of the stroke kept",
            None,
            Station::Cranks,
        ),
    }
}

/// What may cause each complaint, as far as saddle, cleats and cranks go.
pub fn causes(trying: &Trying, intake: &Intake, facts: &CauseFacts) -> Vec<ComplaintCauses> {
    intake
        .complaints
        .iter()
        .map(|complaint| {
            let mut links: Vec<Link> = known(complaint.place)
                .iter()
                .map(|(fault, often)| {
                    let test = test(*fault);
                    Link {
                        fault: *fault,
                        label: fault.label().to_owned(),
                        often: *often,
                        contradicted: contradicted(trying, complaint, *fault),
                        speaks_for: test.speaks_for.to_owned(),
                        speaks_against: test.speaks_against.to_owned(),
                        here: here(trying, complaint, *fault, facts),
                        settles: test.settles.to_owned(),
                        protocol: test.protocol,
                        station: test.station,
                    }
                })
                .collect();
            links.sort_by_key(|link| link.contradicted.is_some());
            ComplaintCauses {
                complaint: complaint.line(),
                words: if links.is_empty() {
                    "Saddle, cleats and cranks are not known to cause it: look at the front, the load, or refer.".to_owned()
                } else {
                    "A sudden rise in riding causes any of these by itself: ask for it first.".to_owned()
                },
                links,
            }
        })
        .collect()
}

/// The sides that hurt.
fn hurt(complaint: &Complaint) -> Vec<Side> {
    complaint
        .side
        .map_or_else(|| Side::BOTH.to_vec(), |side| vec![side])
}

/// What of the angles as they stand says the opposite of a fault: a knee that is straighter than its range under a saddle
/// that is called low, or more bent under one that is called high.
fn contradicted(trying: &Trying, complaint: &Complaint, fault: Fault) -> Option<String> {
    let (toward, than) = match fault {
        Fault::SaddleLow => (Toward::More, "straighter"),
        Fault::SaddleHigh => (Toward::Less, "more bent"),
        _ => return None,
    };
    let marks = trying.marks();
    let opposite = |side: &Side| knee_mark(&marks, *side).filter(|mark| mark.toward == toward);
    let sides = hurt(complaint);
    let mark = sides.iter().find_map(opposite)?;
    sides.iter().all(|side| opposite(side).is_some()).then(|| {
        format!(
            "not as it stands: the knee is {}° {than} than its range",
            written(mark.distance)
        )
    })
}

/// The mark of a knee at full reach.
fn knee_mark(marks: &[Mark], side: Side) -> Option<&Mark> {
    marks.iter().find(|mark| {
        mark.output == Output::KneeAtFullReach && mark.side.is_none_or(|marked| marked == side)
    })
}

/// What is known here and now of a fault, on the side that hurts.
fn here(trying: &Trying, complaint: &Complaint, fault: Fault, facts: &CauseFacts) -> Vec<String> {
    let position = &trying.before;
    let sides = hurt(complaint);
    let mut all = stroke_fact(complaint, fault);
    match fault {
        Fault::SaddleHigh | Fault::SaddleLow | Fault::CleatBack => {
            all.extend(sides.iter().map(|side| knee_fact(trying, *side)));
            all.extend(found(facts, Protocol::CreepUp));
        }
        Fault::SaddleForward | Fault::SaddleBack => {
            all.extend(sides.iter().filter_map(|side| {
                let over = facts.landmark.stands_for().output().of(position, *side)?;
                Some(format!(
                    "{} {} {} mm {} the axle",
                    side.word(),
                    lower(facts.landmark.stands_for().label()),
                    written(over.abs()),
                    if over >= 0.0 { "ahead of" } else { "behind" }
                ))
            }));
            all.extend(found(facts, Protocol::Plumb));
            all.extend(found(facts, Protocol::Balance));
            all.extend(found(facts, Protocol::RailSweep));
        }
        Fault::SaddleTilted => {
            all.push(format!("tilt {}°", written(trying.setup.saddle.tilt_deg.0)));
            all.extend(found(facts, Protocol::Tilt));
        }
        Fault::SaddleShape => {
            all.extend(
                facts
                    .saddle
                    .relief
                    .map(|relief| format!("relief: {}", relief.label().to_lowercase())),
            );
            all.extend(
                facts
                    .saddle
                    .width_mm
                    .map(|width| format!("{} mm wide", written(width))),
            );
        }
        Fault::NoseRiding => {
            all.extend(
                facts
                    .saddle
                    .sits_ahead_mm
                    .map(|ahead| format!("sits {} mm ahead", written(ahead))),
            );
        }
        Fault::CleatForward | Fault::CleatTurned => {
            all.extend(
                sides
                    .iter()
                    .map(|side| cleat_fact(facts.cleats.of(*side), *side)),
            );
        }
        Fault::Stance => {
            all.extend(sides.iter().filter_map(|side| {
                let path = (*facts.knees.of(*side))?;
                let seen = path.label().to_lowercase();
                Some(format!("{} knee seen from the front: {seen}", side.word()))
            }));
        }
        Fault::CrankLong => {
            all.extend(sides.iter().map(|side| {
                format!(
                    "{} knee bends to {}°, hip to {}° against the pelvis",
                    side.word(),
                    written(position.legs.of(*side).knee.largest_deg.0),
                    written(position.legs.of(*side).hip_flexion_deg.0)
                )
            }));
        }
    }
    all
}

fn stroke_fact(complaint: &Complaint, fault: Fault) -> Vec<String> {
    let telling = match fault {
        Fault::CrankLong => &[Stroke::Top][..],
        Fault::SaddleHigh => &[Stroke::Bottom],
        Fault::SaddleLow | Fault::SaddleForward => &[Stroke::Pushing, Stroke::Top],
        _ => &[],
    };
    complaint
        .stroke
        .filter(|stroke| telling.contains(stroke))
        .map(|stroke| format!("the rider feels it {}", stroke.label().to_lowercase()))
        .into_iter()
        .collect()
}

fn knee_fact(trying: &Trying, side: Side) -> String {
    let output = Output::KneeAtFullReach;
    let Some(knee) = output.of(&trying.before, side) else {
        return format!("the {} leg does not reach its pedal", side.word());
    };
    let words = match knee_mark(&trying.marks(), side) {
        Some(mark) => mark.words.clone(),
        None => match range_of(&trying.ranges, output, trying.before.hands) {
            Some(range) if !(range.low..=range.high).contains(&knee) => format!(
                "within doubt of {}–{}°",
                written(range.low),
                written(range.high)
            ),
            Some(_) => "in its range".to_owned(),
            None => "this kind of riding has no range for it".to_owned(),
        },
    };
    format!(
        "{} knee {}° at full reach: {words}",
        side.word(),
        written(knee)
    )
}

fn cleat_fact(scale: &Scale, side: Side) -> String {
    let lead = scale.schools.iter().find(|school| school.leads);
    let now = format!(
        "{} cleat {} mm behind the joint",
        side.word(),
        written(scale.now)
    );
    match lead.and_then(|school| Some((school, school.value?))) {
        Some((school, value)) => format!(
            "{now}; {} wants {}{}",
            lower(&school.label),
            written(value),
            Unit::Mm.suffix()
        ),
        None => now,
    }
}

fn found(facts: &CauseFacts, protocol: Protocol) -> Option<String> {
    facts
        .findings
        .iter()
        .rev()
        .find(|finding| finding.protocol == protocol && finding.says != Says::Broken)
        .map(|finding| {
            format!(
                "{}: {}",
                protocol.label().to_lowercase(),
                lower(&finding.title)
            )
        })
}
