//! Setback: the plumb line, the balance test, sharing the work, and forward for power, on one scale, behind the gate of
//! what must be right before.
//!
//! Setback is found as travel along the rails, the post following so that the knee at full reach stays, and read in the
//! chosen convention.

use super::decision::{self, Decision, Scale, Wish};
use super::ladder::{Ladder, RungState};
use crate::foresee::{Bound, Change, Step, Trying};
use crate::intake::{Intake, Place};
use crate::limit::{GrossReport, HEIGHT_ROUGH_MM, REACH_ROUGH_MM};
use crate::measure::{Output, Quantity, Unit, half_mm};
use crate::plane::nearest_root;
use crate::position::{Landmark, Position, Ride, Toward, range_of, setback_on_grade};
use crate::rule::rules;
use crate::solve::{linked, post_for_knee};
use crate::trial::{Finding, PlumbMeasured, Says};
use crate::units::{Side, Sides};
use crate::words::{lower, words, written};
use crate::work::Station;
use serde::Serialize;

words! {
    /// A school of setback.
    pub enum SetbackSchool {
        Balance "balance" "Balance test",
        Plumb "plumb" "Plumb line",
        Sharing "sharing" "Sharing the work",
        Forward "forward" "Forward for power",
    }
}

rules! {
    rules "Setback";
    /// The plumb line's school accepts a knee so far ahead of or behind the axle.
    const PLUMB_MM: f64 = 10.0, " mm", Workshop;
    /// Further out than that, but no further than this, it is still the ballpark of its school.
    const BALLPARK_MM: f64 = 40.0, " mm", Workshop;
    /// Forward for power: the knee's centre no further ahead of the axle than this.
    const FORWARD_MM: f64 = 20.0, " mm", House;
    /// Legs whose plumb lines ask for places closer than this ask for the same.
    const LEGS_ALIKE_MM: f64 = 4.0, " mm", House;
    /// Schools further apart than this are said to disagree.
    const APART_MM: f64 = 15.0, " mm", House;
    /// A saddle this close to what a school wants is there.
    const THERE_MM: f64 = 1.0, " mm", House;
    /// A cleat this far from where the leading school wants it is not right yet.
    const CLEAT_OFF_MM: f64 = 3.0, " mm", House;
    /// Hills are told by what is felt on this grade.
    const HILL_PERCENT: f64 = 8.0, " %", House;
    /// An arch this low needs support before setback is judged.
    const LOW_ARCH_MM: f64 = 20.0, " mm", House;
}

/// What the schools of setback rest on besides the position.
#[derive(Debug, Clone, Copy)]
pub struct SetbackEvidence<'a> {
    /// What the last balance test found.
    pub balance: Option<&'a Finding>,
    /// What the last rail sweep found.
    pub sweep: Option<&'a Finding>,
    /// What the last plumb line measured.
    pub plumb: Option<PlumbMeasured>,
    /// What the rider came with.
    pub intake: &'a Intake,
}

/// A plumb line. Measured wins: the linkage only carries it from where it hung to another place of the saddle.
struct Line {
    landmark: Landmark,
    /// How much further ahead of the axle it hangs than the linkage says.
    more: Sides<f64>,
    /// Whether any side was measured.
    measured: bool,
    /// How well it is known, once both sides were.
    spread: Option<f64>,
}

impl Line {
    fn of(evidence: &SetbackEvidence, landmark: Landmark) -> Self {
        let measured = evidence.plumb.filter(|plumb| plumb.landmark == landmark);
        let more = measured.map_or(Sides::both(None), |plumb| plumb.more_mm);
        let both = more.left.is_some() && more.right.is_some();
        Self {
            landmark,
            more: Sides::from_fn(|side| more.of(side).unwrap_or(0.0)),
            measured: measured.is_some(),
            spread: measured.filter(|_| both).map(|plumb| plumb.spread_mm),
        }
    }
}

/// Setback, as travel along the rails from where the saddle stands, back positive.
struct Rails<'a> {
    trying: &'a Trying<'a>,
    evidence: &'a SetbackEvidence<'a>,
    landmark: Landmark,
    /// Travel of the post a mm back along the rails, so that the knee at full reach stays.
    post_a_mm: f64,
    /// The most the saddle moves in one trial.
    at_once: f64,
}

impl Rails<'_> {
    fn after(&self, back: f64) -> Option<Position> {
        self.trying.plain(&self.way(back))
    }

    /// The travel along the rails at which what each knee's line stands for is so far ahead of the axle.
    fn for_line(&self, line: &Line, wanted: f64) -> Option<Sides<f64>> {
        let over = |p: &Position, side| {
            let over = line.landmark.stands_for().output().of(p, side)?;
            Some(over + line.more.of(side))
        };
        let solve = |side| {
            nearest_root(FAR_MM, EVERY_MM, |back| {
                let over = self.after(back).and_then(|p| over(&p, side));
                near(over.map_or(f64::NAN, |over| over - wanted))
            })
        };
        let here = |side| over(&self.trying.before, side);
        let right = solve(Side::Right)?;
        // Of legs that are alike one answers for both.
        let alike = (here(Side::Left)? - here(Side::Right)?).abs() < 1e-9;
        let left = if alike { right } else { solve(Side::Left)? };
        Some(Sides { left, right })
    }

    /// The travel along the rails at which the sit reference is so far behind the BB.
    fn for_setback(&self, wanted: f64) -> Option<f64> {
        nearest_root(FAR_MM, EVERY_MM, |back| {
            let sit = self.trying.sit_moved(self.post_a_mm * back, back);
            near(-sit.x - wanted)
        })
    }

    /// How far a place from a plumb line may be off: the line's own, since the knee follows the rails about evenly.
    fn band(&self, line: &Line) -> Option<f64> {
        (self.unit() == Unit::Mm).then(|| {
            line.spread
                .unwrap_or_else(|| self.trying.band(line.landmark.stands_for().output()))
        })
    }

    /// Where the line hangs then, from a landmark that stands for another.
    fn hangs(&self, back: f64) -> String {
        let (from, of) = (self.landmark, self.landmark.stands_for());
        let there = self
            .after(back)
            .unwrap_or_else(|| self.trying.before.clone());
        let ahead = Side::BOTH.map(|side| from.ahead(&there, side));
        match ahead {
            [Some(left), Some(right)] if from != of => format!(
                "; from the {} the line is {} mm ahead of it then",
                lower(from.label()),
                written(f64::midpoint(left, right).round())
            ),
            _ => String::new(),
        }
    }

    /// Whether a line rests on the rider's lengths alone.
    fn estimates(&self, line: &Line) -> bool {
        line.spread.is_none() && self.trying.fit.is_none()
    }

    /// What a protocol found, as travel from here.
    fn found(&self, finding: Option<&Finding>, what: &str, missing: &str) -> Result<Wish, String> {
        let finding = finding.ok_or(missing)?;
        let value = match (finding.says, finding.value) {
            (Says::Found, Some(value)) => value,
            (Says::Broken, _) => return Err(missing.to_owned()),
            _ => {
                return Err(finding
                    .words
                    .first()
                    .cloned()
                    .unwrap_or_default()
                    .trim_end_matches('.')
                    .to_owned());
            }
        };
        let travel = |value: f64| self.for_setback(value);
        let back = travel(value).ok_or("No place on rails like these gets there")?;
        let end = |end: Option<f64>| end.and_then(travel).unwrap_or(back);
        Ok(Wish {
            place: back,
            low: end(finding.low),
            high: end(finding.high),
            sides: None,
            band: finding.spread,
            bound: finding.bound,
            estimated: false,
            words: what.to_owned(),
        })
    }
}

/// The farthest any school could want.
const FAR_MM: f64 = 160.0;
/// How the bracket grows from where the saddle stands: the knee comes back as the saddle goes back.
const EVERY_MM: f64 = 20.0;

/// Nothing, once it is as close as anybody could tell: solved no further.
fn near(off: f64) -> f64 {
    const NEAR_MM: f64 = 1e-4;
    if off.abs() < NEAR_MM { 0.0 } else { off }
}

/// Setback as every school wants it. `None` where the knee cannot be kept while the saddle moves on its rails.
///
/// `landmark` is what the plumb line hangs from, `at_once` the most the saddle moves in one trial.
pub fn scale(
    trying: &Trying,
    evidence: &SetbackEvidence,
    (lead, landmark): (SetbackSchool, Landmark),
    at_once: f64,
) -> Option<Scale> {
    /// Far enough to tell, near enough to be straight.
    const TELLING_MM: f64 = 10.0;
    let knee = trying.before.knee_at_full_reach();
    let back = [Change::by(Quantity::Setback, TELLING_MM)];
    let rails = Rails {
        trying,
        evidence,
        landmark,
        post_a_mm: post_for_knee(trying, &back, knee)? / TELLING_MM,
        at_once,
    };
    Some(decision::scale(&rails, lead))
}

impl Decision for Rails<'_> {
    type School = SetbackSchool;

    const ROOM: f64 = 4.0;
    const QUANTITY: Quantity = Quantity::Setback;

    fn on(&self) -> &Trying<'_> {
        self.trying
    }

    fn unit(&self) -> Unit {
        self.trying.conventions.setback.unit()
    }

    fn now(&self) -> f64 {
        0.0
    }

    fn wish(&self, school: SetbackSchool) -> Result<Wish, String> {
        let (evidence, landmark) = (self.evidence, self.landmark);
        let nowhere = || "No place on rails like these gets there".to_owned();
        match school {
            SetbackSchool::Plumb => {
                let line = Line::of(evidence, landmark);
                let at = |wanted: f64| self.for_line(&line, wanted).ok_or_else(nowhere);
                let middle = at(0.0)?;
                let mean = |sides: Sides<f64>| f64::midpoint(sides.left, sides.right);
                Ok(Wish {
                    place: mean(middle),
                    // The knee further ahead is the saddle further forward.
                    low: mean(at(PLUMB_MM)?),
                    high: mean(at(-PLUMB_MM)?),
                    sides: ((middle.left - middle.right).abs() >= LEGS_ALIKE_MM).then_some(middle),
                    band: self.band(&line),
                    bound: None,
                    estimated: self.estimates(&line),
                    words: format!(
                        "{} over the axle, ± {} mm; up to {} mm out is still its ballpark{}{}",
                        lower(landmark.stands_for().label()),
                        written(PLUMB_MM),
                        written(BALLPARK_MM),
                        self.hangs(mean(middle)),
                        if line.measured {
                            ", as the line measured it"
                        } else {
                            ""
                        }
                    ),
                })
            }
            SetbackSchool::Balance => self.found(
                evidence.balance,
                "in balance there, and further back",
                "Ride the balance test first: it takes a few minutes",
            ),
            SetbackSchool::Sharing => self.found(
                evidence.sweep,
                "the most forward place before the hands grow heavy",
                "Sweep the rails first: it takes about half an hour",
            ),
            SetbackSchool::Forward => {
                if let Some(complaint) = evidence
                    .intake
                    .complaints
                    .iter()
                    .find(|c| c.place == Place::KneeFront)
                {
                    return Err(format!(
                        "Not while the {} hurts: forward loads it",
                        lower(complaint.place.label())
                    ));
                }
                let line = Line::of(evidence, Landmark::Centre);
                let knees = self.for_line(&line, FORWARD_MM).ok_or_else(nowhere)?;
                // As far as the first of the two knees allows.
                let back = knees.left.max(knees.right);
                Ok(Wish {
                    band: self.band(&line),
                    bound: Some(Bound::AtLeast),
                    estimated: self.estimates(&line),
                    words: format!(
                        "no further forward than the knee's centre {} mm ahead of the axle; and as high as the knee's range \
                         allows",
                        written(FORWARD_MM)
                    ),
                    ..Wish::around(back, 0.0)
                })
            }
        }
    }

    fn read(&self, back: f64) -> f64 {
        self.trying.setback_at(self.post_a_mm * back, back)
    }

    fn way(&self, back: f64) -> Vec<Change> {
        vec![
            Change::by(Quantity::Setback, back),
            Change::by(Quantity::SaddleHeight, self.post_a_mm * back),
        ]
    }

    /// One trial, the post with it.
    fn step(&self, wish: &Wish) -> (Option<Step>, Option<String>) {
        let back = wish.place;
        if back.abs() < THERE_MM {
            return (None, None);
        }
        let by = half_mm(back.clamp(-self.at_once, self.at_once));
        let changes = linked(self.trying, vec![Change::by(Quantity::Setback, by)]);
        let left = if (back - by).abs() < THERE_MM {
            String::new()
        } else {
            format!("then {} mm more", written((back - by).abs()))
        };
        Step::as_far_as_it_goes(self.trying, changes, left)
    }

    fn between(&self) -> &'static str {
        "it can suit only one, between them is a compromise"
    }

    fn apart(&self, known: &[(SetbackSchool, Wish)]) -> Option<String> {
        let mut known: Vec<(SetbackSchool, f64)> = known
            .iter()
            .filter(|(_, wish)| wish.bound.is_none())
            .map(|(school, wish)| (*school, wish.place))
            .collect();
        known.sort_by(|a, b| a.1.total_cmp(&b.1));
        let ((front, forward), (rear, back)) = (*known.first()?, *known.last()?);
        let by = back - forward;
        if by <= APART_MM {
            return None;
        }
        let unit = self.unit().suffix();
        Some(format!(
            "The schools are {} mm apart: {} says {}{unit}, {} {}{unit}. A plumb line knows the thigh, not where the \
             rider's weight is: each is a trial, and in doubt slightly back costs less.",
            written(by),
            lower(front.label()),
            written(self.read(forward)),
            lower(rear.label()),
            written(self.read(back))
        ))
    }

    fn note(&self) -> Option<String> {
        self.trying.fit.is_none().then(|| {
            "≈: from the rider's lengths; the first look makes it the rider's own".to_owned()
        })
    }
}

/// What there is to say of setback besides its schools: a saddle too high, and hills.
pub fn setback_advice(trying: &Trying, landmark: Landmark) -> Vec<String> {
    let position = &trying.before;
    let mut all = Vec::new();
    let high = !position.legs_reach()
        || (trying.marks().iter())
            .any(|mark| mark.output == Output::KneeAtFullReach && mark.toward == Toward::More);
    let behind = Side::BOTH.into_iter().any(|side| {
        let over = landmark.stands_for().output().of(position, side);
        over.is_some_and(|over| over < -PLUMB_MM)
    });
    if high && behind {
        all.push(
            "A high saddle holds the knee back: lower it first and look again; the setback may be right as it is"
                .to_owned(),
        );
    }
    let sit = position.bike.sit;
    let felt = setback_on_grade(sit, HILL_PERCENT) - setback_on_grade(sit, 0.0);
    all.push(format!(
        "On a climb of {} % the saddle is felt {} mm further back. Some riders slide back there for leverage, others creep \
         forward: ask",
        written(HILL_PERCENT),
        written(felt.round())
    ));
    all
}

/// Where every landmark hangs now, side by side.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hung {
    /// The landmark.
    pub landmark: Landmark,
    /// As it is called.
    pub label: String,
    /// Knee over axle from it, knee ahead positive, as foreseen.
    pub over_axle_mm: Sides<f64>,
    /// What stands over the axle where a line from it hangs right.
    pub stands_for: String,
    /// How far ahead of the axle the line hangs then.
    pub right_at_mm: Sides<f64>,
}

/// Every landmark's plumb line as foreseen.
pub fn hung(position: &Position) -> Vec<Hung> {
    Landmark::ALL
        .iter()
        .map(|landmark| Hung {
            landmark: *landmark,
            label: landmark.label().to_owned(),
            over_axle_mm: Sides::from_fn(|side| {
                landmark.output().of(position, side).unwrap_or_default()
            }),
            stands_for: lower(landmark.stands_for().label()),
            right_at_mm: Sides::from_fn(|side| landmark.ahead(position, side).unwrap_or_default()),
        })
        .collect()
}

/// Whether something that comes before setback is right.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Right {
    /// It is.
    Yes,
    /// It is not: take it first.
    No,
    /// Nobody has looked.
    Unknown,
}

/// One thing that comes before setback.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GateItem {
    /// "Saddle height".
    pub label: String,
    /// Whether it is right.
    pub right: Right,
    /// Why.
    pub words: String,
}

/// What must be right before setback is judged (workshop rule): height, cleats, stance, arch support, and a front that
/// is about right.
pub fn gate(
    trying: &Trying,
    cleats: &Sides<Scale>,
    (looked, ladders): (bool, &[Ladder]),
    gross: &GrossReport,
) -> Vec<GateItem> {
    let position = &trying.before;
    let item = |label: &str, right: Right, words: String| GateItem {
        label: label.to_owned(),
        right,
        words,
    };
    let mut all = Vec::new();
    let marks = trying.marks();
    let knee = (marks.iter()).find(|mark| mark.output == Output::KneeAtFullReach);
    all.push(match knee {
        _ if !position.legs_reach() => item(
            "Saddle height",
            Right::No,
            "a pedal is beyond reach".to_owned(),
        ),
        Some(mark) => item("Saddle height", Right::No, mark.words.clone()),
        None => {
            let now = position.knee_at_full_reach();
            let range = range_of(&trying.ranges, Output::KneeAtFullReach, position.hands);
            let out = range.is_some_and(|range| !(range.low..=range.high).contains(&now));
            let knee = format!("knee at full reach {}°", written(now));
            if out {
                let words = format!("{knee}: out of its range, but within doubt");
                item("Saddle height", Right::Unknown, words)
            } else {
                item("Saddle height", Right::Yes, knee)
            }
        }
    });
    all.push(cleats_right(cleats));
    let climbing = ladders
        .iter()
        .find(|l| l.rungs.iter().any(|r| r.state == RungState::Next));
    all.push(match (looked, climbing) {
        (_, Some(ladder)) => item(
            "Stance",
            Right::No,
            format!(
                "the {} knee was seen: {}; its ladder is not climbed",
                ladder.side.word(),
                ladder.seen.to_lowercase()
            ),
        ),
        (true, None) => item(
            "Stance",
            Right::Yes,
            "the knees were looked at from the front".to_owned(),
        ),
        (false, None) => item(
            "Stance",
            Right::Unknown,
            "nobody looked at the knees from the front".to_owned(),
        ),
    });
    all.push(arches(trying));
    all.push(front(trying, gross));
    all
}

fn cleats_right(cleats: &Sides<Scale>) -> GateItem {
    let off: Vec<(Side, Option<f64>)> = Side::BOTH
        .into_iter()
        .map(|side| {
            let scale = cleats.of(side);
            let lead = scale.schools.iter().find(|s| s.leads);
            (
                side,
                lead.and_then(|s| s.value).map(|value| value - scale.now),
            )
        })
        .collect();
    let wrong: Vec<String> = off
        .iter()
        .filter_map(|(side, off)| {
            let off = off.filter(|off| off.abs() > CLEAT_OFF_MM)?;
            Some(format!(
                "{} {} mm too far {}",
                side.word(),
                written(off.abs()),
                if off > 0.0 { "forward" } else { "back" }
            ))
        })
        .collect();
    let (right, words) = if !wrong.is_empty() {
        (Right::No, wrong.join(", "))
    } else if off.iter().any(|(_, off)| off.is_none()) {
        (
            Right::Unknown,
            "the leading school still asks for a measure".to_owned(),
        )
    } else {
        (Right::Yes, "where the leading school wants them".to_owned())
    };
    GateItem {
        label: "Cleats".to_owned(),
        right,
        words,
    }
}

fn arches(ride: &Ride) -> GateItem {
    let arch = Sides::from_fn(|side| ride.rider.legs.of(side).arch_height_mm);
    let bare = |side: Side| ride.setup.pedalling.of(side).footbed_mm.0 <= 0.0;
    let low = Side::BOTH
        .into_iter()
        .find(|side| arch.of(*side).is_some_and(|a| a.0 < LOW_ARCH_MM) && bare(*side));
    let (right, words) = match low {
        Some(side) => (
            Right::No,
            format!(
                "the {} arch is low and has no footbed under it",
                side.word()
            ),
        ),
        None if arch.left.is_none() || arch.right.is_none() => {
            (Right::Unknown, "nobody measured the arches".to_owned())
        }
        None => (Right::Yes, "nothing sags".to_owned()),
    };
    GateItem {
        label: "Arch support".to_owned(),
        right,
        words,
    }
}

fn front(trying: &Trying, report: &GrossReport) -> GateItem {
    let hands = trying.before.hands;
    let ranged = range_of(&trying.ranges, Output::Torso, hands).is_some();
    let (right, words) = if let Some(front) = &report.front {
        (Right::No, lower(&front.words))
    } else if let Some(error) = report.errors.iter().find(|e| e.station == Station::Bars) {
        (Right::No, lower(&error.words))
    } else if ranged {
        (
            Right::Yes,
            format!("within {REACH_ROUGH_MM} mm in reach and {HEIGHT_ROUGH_MM} mm in height"),
        )
    } else {
        (
            Right::Unknown,
            "this kind of riding has no range for it: ask the rider".to_owned(),
        )
    };
    GateItem {
        label: "Front, roughly".to_owned(),
        right,
        words,
    }
}
