//! From a place that hurts to what may cause it: each link with what speaks for it, what against, what stands here and now,
//! and the test that would settle it. No verdict: nothing here is weighed.

use super::{Fault, Strength, dip_is_across, felt, seen};
use crate::foresee::Trying;
use crate::intake::{Complaint, Intake, Stroke};
use crate::looking::{Sign, SignSeen};
use crate::measure::{Output, Unit};
use crate::position::{Landmark, Mark, Toward, range_of};
use crate::rule::rules;
use crate::school::{SaddleNotes, Scale};
use crate::trial::{Finding, Protocol, Says};
use crate::units::{Side, Sides};
use crate::words::{lower, words, written};
use crate::work::Station;
use serde::Serialize;

rules! {
    rules "Causes";
    /// A link this strong holds often,
    const OFTEN: f64 = 0.45, "", House;
    /// this strong sometimes, any weaker seldom.
    const SOMETIMES: f64 = 0.25, "", House;
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

/// A sign that was looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Told {
    /// What was seen, or was not.
    pub seen: SignSeen,
    /// Whether it was looked for below the effort the fit names: every front feels heavy then.
    pub easy: bool,
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
    /// What was looked for, the latest of each kind and side.
    pub signs: &'a [Told],
    /// What the protocols found, the last last.
    pub findings: &'a [Finding],
}

impl HowOften {
    fn of(strength: f64) -> Self {
        match strength {
            often if often >= OFTEN => Self::Often,
            sometimes if sometimes >= SOMETIMES => Self::Sometimes,
            _ => Self::Seldom,
        }
    }
}

/// What may cause each complaint, the strongest first.
pub fn causes(trying: &Trying, intake: &Intake, facts: &CauseFacts) -> Vec<ComplaintCauses> {
    let complaints = intake.complaints.iter();
    complaints
        .map(|complaint| {
            let known = felt(complaint.place).map_or_else(Vec::new, |c| c.at(complaint.stroke));
            let mut links: Vec<(Strength, Link)> = known
                .into_iter()
                .map(|strength| (strength, link(trying, (complaint, intake), strength, facts)))
                .collect();
            links.sort_by(|((_, a), one), ((_, b), other)| {
                let against = |link: &Link| link.contradicted.is_some();
                against(one).cmp(&against(other)).then(b.total_cmp(a))
            });
            let links: Vec<Link> = links.into_iter().map(|(_, link)| link).collect();
            ComplaintCauses {
                complaint: complaint.line(),
                words: if links.is_empty() {
                    "Nothing of a position is known to cause it: look at the load, or refer."
                } else {
                    "A sudden rise in riding causes any of these by itself: ask for it first."
                }
                .to_owned(),
                links,
            }
        })
        .collect()
}

fn link(
    trying: &Trying,
    (complaint, intake): (&Complaint, &Intake),
    (fault, strength): Strength,
    facts: &CauseFacts,
) -> Link {
    let test = fault.settling();
    let mut here = here(trying, complaint, fault, facts);
    here.extend(told(fault, intake, facts));
    Link {
        fault,
        label: if fault == Fault::Dip && dip_is_across(complaint.place) {
            "The other hip dips".to_owned()
        } else {
            fault.label().to_owned()
        },
        often: HowOften::of(strength),
        contradicted: contradicted(trying, complaint, fault),
        speaks_for: speaks_for(fault),
        speaks_against: test.wrong_if.to_owned(),
        here,
        settles: test.settles.to_owned(),
        protocol: test.protocol,
        station: test.station,
    }
}

/// The signs that speak for a fault, the strongest first.
fn speaks_for(fault: Fault) -> String {
    let strength = |sign: Sign| {
        let causes = seen(sign)?;
        let link = causes.links.iter().find(|(of, _)| *of == fault)?;
        (link.1 >= SOMETIMES).then_some(link.1)
    };
    let mut signs: Vec<(f64, Sign)> = (Sign::ALL.iter())
        .filter_map(|sign| Some((strength(*sign)?, *sign)))
        .collect();
    signs.sort_by(|(a, _), (b, _)| b.total_cmp(a));
    let words: Vec<String> = (signs.iter())
        .map(|(_, sign)| lower(sign.label()))
        .collect();
    let joined = if words.is_empty() {
        match fault {
            Fault::Load => "more riding than weeks ago; both sides alike",
            Fault::Shoe => "it eases with the shoe open",
            Fault::Short => "one side only, and measured",
            Fault::CleatBack => "it began after the cleats went back and the saddle stayed",
            _ => "the rider says so when asked",
        }
        .to_owned()
    } else {
        words.join(", ")
    };
    crate::words::capital(&joined)
}

/// What was looked for of a fault, there or not, and what intake says of it.
fn told(fault: Fault, intake: &Intake, facts: &CauseFacts) -> Vec<String> {
    let speaks = |sign: Sign| {
        seen(sign).is_some_and(|causes| causes.links.iter().any(|(of, _)| *of == fault))
    };
    let mut all: Vec<String> = (facts.signs.iter())
        .filter(|told| speaks(told.seen.sign))
        .map(|told| {
            let words = lower(&told.seen.words());
            let easy = if told.easy && told.seen.there == Some(true) {
                ", riding easy: counts a third"
            } else {
                ""
            };
            format!("{words}{easy}")
        })
        .collect();
    if fault == Fault::Load && intake.load_rose {
        all.push("riding rose suddenly".to_owned());
    }
    if fault == Fault::Stiff
        && let Some(hours) = intake.seated_h
    {
        all.push(format!("{} h seated a day", written(hours)));
    }
    all
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
        Fault::HeightLow => (Toward::More, "straighter"),
        Fault::HeightHigh => (Toward::Less, "more bent"),
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
        Fault::HeightHigh | Fault::HeightLow | Fault::CleatBack => {
            all.extend(sides.iter().map(|side| knee_fact(trying, *side)));
            all.extend(found(facts, Protocol::CreepUp));
        }
        Fault::SetbackForward | Fault::SetbackBack => {
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
        Fault::TiltUp | Fault::TiltDown => {
            all.push(format!("tilt {}°", written(trying.setup.saddle.tilt_deg.0)));
            all.extend(found(facts, Protocol::Tilt));
        }
        Fault::SaddleWide | Fault::SaddleNarrow | Fault::NoRelief => {
            all.extend(
                facts
                    .saddle
                    .relief
                    .map(|relief| format!("relief: {}", relief.label().to_lowercase())),
            );
            all.extend(
                (trying.setup.saddle.saddle_width_mm)
                    .map(|width| format!("{} mm wide", written(width.0))),
            );
        }
        Fault::Nose => {
            all.extend(
                facts
                    .saddle
                    .sits_ahead_mm
                    .map(|ahead| format!("sits {} mm ahead", written(ahead))),
            );
        }
        Fault::CleatForward => {
            all.extend(
                sides
                    .iter()
                    .map(|side| cleat_fact(facts.cleats.of(*side), *side)),
            );
        }
        Fault::ReachFar | Fault::ReachClose => {
            all.push(angle_fact(trying, Output::Shoulder));
            all.push(angle_fact(trying, Output::Elbow));
            all.extend(found(facts, Protocol::Bracket));
            all.extend(found(facts, Protocol::TopsOrDrops));
        }
        Fault::BarsHigh | Fault::BarsLow => {
            all.push(angle_fact(trying, Output::Torso));
            all.extend(found(facts, Protocol::StandingStill));
            all.extend(found(facts, Protocol::HeightSweep));
            all.extend(found(facts, Protocol::TopsOrDrops));
        }
        Fault::BarWidthWide | Fault::BarWidthNarrow => {
            let width = crate::school::bar_width(trying);
            all.push(format!("{} mm wide", written(width.now_mm)));
            all.extend(
                width.schools.first().map(|school| {
                    format!("{}: {} mm", lower(&school.label), written(school.low_mm))
                }),
            );
        }
        Fault::LeversHigh | Fault::LeversLow => {
            all.extend(found(facts, Protocol::WristLine));
        }
        Fault::CrankLong | Fault::CrankShort => {
            all.extend(found(facts, Protocol::CrankComparison));
            all.extend(sides.iter().map(|side| {
                format!(
                    "{} knee bends to {}°, hip to {}° against the pelvis",
                    side.word(),
                    written(position.legs.of(*side).knee.largest_deg.0),
                    written(position.legs.of(*side).hip_flexion_deg.0)
                )
            }));
        }
        _ => {}
    }
    all
}

fn stroke_fact(complaint: &Complaint, fault: Fault) -> Vec<String> {
    let telling = match fault {
        Fault::CrankLong => &[Stroke::Top][..],
        Fault::HeightHigh => &[Stroke::Bottom],
        Fault::HeightLow | Fault::SetbackForward => &[Stroke::Pushing, Stroke::Top],
        _ => &[],
    };
    complaint
        .stroke
        .filter(|stroke| telling.contains(stroke))
        .map(|stroke| format!("the rider feels it {}", stroke.label().to_lowercase()))
        .into_iter()
        .collect()
}

/// An angle of the trunk and the arms with its range, as it stands.
fn angle_fact(trying: &Trying, output: Output) -> String {
    let label = lower(output.spec().label);
    let Some(value) = output.of(&trying.before, Side::Right) else {
        return format!("{label} is not known: the arms do not reach");
    };
    let marked = trying
        .marks()
        .into_iter()
        .find(|mark| mark.output == output);
    let words = match (
        marked,
        range_of(&trying.ranges, output, trying.before.hands),
    ) {
        (Some(mark), _) => mark.words,
        (None, Some(range)) if !(range.low..=range.high).contains(&value) => format!(
            "within doubt of {}–{}°",
            written(range.low),
            written(range.high)
        ),
        (None, Some(_)) => "in its range".to_owned(),
        (None, None) => "this kind of riding has no range for it".to_owned(),
    };
    format!("{label} {}°: {words}", written(value))
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
