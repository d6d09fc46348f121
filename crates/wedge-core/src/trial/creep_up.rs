//! Creep up: saddle height from below, in steps, until the bottom of the stroke turns choppy or the hips rock on either
//! leg, then back a little.
//!
//! What is looked for is a threshold that nobody can see without noise. Every call says how likely each threshold is:
//! the chance of a marked call at a height is a logistic curve around the threshold (a psychometric function; F. A.
//! Wichmann and N. J. Hill, *Perception & Psychophysics* 63, 2001), with a few calls gone wrong for no reason. The width of
//! the curve is not known either and is summed over. Threshold and spread are mean and standard deviation of what
//! remains likely.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::foresee::{Bound, Change, Step, Trying};
use crate::measure::{Convention, Output, Quantity, Refusal, Unit, half_mm, within};
use crate::position::{Ride, range_of};
use crate::rule::rules;
use crate::solve::post_for_knee;
use crate::units::{Side, Sides};
use crate::words::{capital, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Creep up";
    /// It begins this far below both the saddle as it stands and the middle of the knee's range: clearly low.
    const BELOW_MM: f64 = 15.0, " mm", House;
    /// Steps near the end.
    const FINE_MM: f64 = 2.0, " mm", Workshop;
    /// After a marked call it goes down by so much and comes up again.
    const DOWN_MM: f64 = 4.0, " mm", House;
    /// Choppiness from 0 to 3: from here on a call is marked.
    const MARKED_FROM: u32 = 2, "", House;
    /// From the threshold the saddle comes back by so much.
    pub(crate) const BACK_OFF_MM: (f64, f64) = (3.0, 5.0), " mm", Workshop;
    /// Each step is ridden this long before it is called.
    const RIDE_S: u32 = 60, " s", House;
    /// It is enough once the threshold is known this well.
    const ENOUGH_MM: f64 = 1.0, " mm", House;
    /// And it is ended after so many steps, known or not.
    const MOST_STEPS: usize = 20, "", House;
    /// The most it rises from where it began.
    const HIGHEST_MM: f64 = 80.0, " mm", House;
    /// Calls that go wrong for no reason, of all.
    const LAPSE: f64 = 0.03, "", House;
    /// Widths of the curve, each with how likely it is before anything is called; the largest is a rider whose calls
    /// contradict.
    const WIDTHS_MM: [(f64, f64); 5] = [(0.4, 0.3), (0.8, 0.4), (1.5, 0.24), (3.0, 0.05), (6.0, 0.01)], " mm", House;
    /// A threshold less well known than this is none.
    const UNKNOWN_MM: f64 = 4.0, " mm", House;
}

/// How a creep-up is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CreepUp {
    /// The first step: travel of the post from where it stands, down negative.
    pub from_mm: f64,
    /// How far it rises from step to step until the first marked call.
    pub step_mm: f64,
}

/// What a creep-up found, as the leg felt it: on other cranks, pedals, shoes, cleats or another setback the same knee is
/// another height.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Crept {
    /// BB straight to the sit reference, on the setup it was crept up on, mm.
    pub straight_mm: f64,
    /// The window below and above it, mm.
    pub window_mm: (f64, f64),
    /// The knee at full reach there, as the linkage has it: mean of both sides, degrees.
    pub knee_deg: f64,
    /// One standard deviation of the height, mm.
    pub spread_mm: Option<f64>,
    /// Whether it is only an end of what was ridden.
    pub bound: Option<Bound>,
}

impl Crept {
    /// What a finding says of the leg. `ride` is the rider on the setup it was crept up on. `None` when the calls said
    /// nothing that can be relied on.
    pub fn of(ride: &Ride, finding: &Finding) -> Option<Self> {
        let straight_mm = finding
            .value
            .filter(|_| matches!(finding.says, Says::Found | Says::Nothing))?;
        let travel = ride.post_to(Convention::SaddleHeightStraight, straight_mm)?;
        let there = Trying::of(ride).plain(&[Change::by(Quantity::SaddleHeight, travel)])?;
        let by = |end: Option<f64>| end.map_or(0.0, |end| end - straight_mm);
        Some(Self {
            straight_mm,
            window_mm: (by(finding.low), by(finding.high)),
            knee_deg: there.knee_at_full_reach(),
            spread_mm: finding.spread,
            bound: finding.bound,
        })
    }
}

/// One height as it was called.
#[derive(Debug, Clone, Copy)]
pub(super) struct Ridden {
    travel: f64,
    chop: Sides<u32>,
    rocks: bool,
}

impl Ridden {
    fn marked_on(&self, side: Side) -> bool {
        *self.chop.of(side) >= MARKED_FROM
    }

    fn marked(&self) -> bool {
        self.rocks || Side::BOTH.into_iter().any(|side| self.marked_on(side))
    }
}

/// A threshold and how well it is known, mm of post travel.
#[derive(Debug, Clone, Copy)]
struct Threshold {
    at: f64,
    spread: f64,
}

impl CreepUp {
    /// Where to ride next; `None` when it is enough.
    fn next(&self, ridden: &[Ridden]) -> Option<f64> {
        let Some(last) = ridden.last() else {
            return Some(self.from_mm);
        };
        let marked = ridden.iter().any(Ridden::marked);
        let quiet = ridden.iter().any(|r| !r.marked());
        if ridden.len() >= MOST_STEPS {
            return None;
        }
        let next = match (marked, quiet) {
            (false, _) => last.travel + self.step_mm,
            // Marked from the first step: begin lower.
            (true, false) => last.travel - 2.0 * self.step_mm,
            (true, true) => {
                let known = threshold(ridden, Ridden::marked);
                if known.is_some_and(|t| t.spread <= ENOUGH_MM) {
                    return None;
                }
                last.travel + if last.marked() { -DOWN_MM } else { FINE_MM }
            }
        };
        let lowest = self.from_mm - HIGHEST_MM;
        (lowest..=self.from_mm + HIGHEST_MM)
            .contains(&next)
            .then_some(next)
    }

    /// What is found when all calls are alike: that the threshold lies beyond one end.
    fn open_ended(ride: &Ride, ridden: &[Ridden]) -> Option<Finding> {
        let protocol = Protocol::CreepUp;
        let quantity = Some(Quantity::SaddleHeight);
        let read = |travel: f64| ride.height_at(travel);
        let straight = |travel: f64| ride.sit_moved(travel, 0.0).length();
        let ends = ridden
            .iter()
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), r| {
                (a.min(r.travel), b.max(r.travel))
            });
        if !ridden.iter().any(Ridden::marked) {
            return Some(Finding {
                quantity,
                value: Some(straight(ends.1 - BACK_OFF_MM.0)),
                bound: Some(Bound::AtLeast),
                words: vec![format!(
                    "Smooth and quiet all the way up to {} mm: the threshold lies above it. Go on from there another time.",
                    written(read(ends.1))
                )],
                ..Finding::new(
                    protocol,
                    Says::Nothing,
                    format!("Above {} mm", written(read(ends.1))),
                )
            });
        }
        if ridden.iter().all(Ridden::marked) {
            return Some(Finding {
                quantity,
                value: Some(straight(ends.0 - BACK_OFF_MM.1)),
                bound: Some(Bound::AtMost),
                words: vec![format!(
                    "Choppy or rocking already at {} mm: the threshold lies below it. Begin lower.",
                    written(read(ends.0))
                )],
                ..Finding::new(
                    protocol,
                    Says::Nothing,
                    format!("Below {} mm", written(read(ends.0))),
                )
            });
        }
        None
    }

    fn found(trying: &Trying, ridden: &[Ridden]) -> Finding {
        let ride: &Ride = trying;
        let protocol = Protocol::CreepUp;
        if ridden.is_empty() {
            return Finding::broken(protocol);
        }
        let read = |travel: f64| ride.height_at(travel);
        let straight = |travel: f64| ride.sit_moved(travel, 0.0).length();
        let quantity = Some(Quantity::SaddleHeight);
        if let Some(finding) = Self::open_ended(ride, ridden) {
            return finding;
        }
        let Some(known) = threshold(ridden, Ridden::marked) else {
            return Finding::broken(protocol);
        };
        let around = format!("{} ± {} mm", written(read(known.at)), written(known.spread));
        if known.spread > UNKNOWN_MM {
            let (says, title, words) = if in_order(ridden) {
                (
                    Says::Broken,
                    "Ended before the threshold was known",
                    format!(
                        "Ended early: a threshold around {around} is all so few calls allow. Creep up again, to the end."
                    ),
                )
            } else {
                (
                    Says::Contradicts,
                    "The calls contradict one another",
                    format!(
                        "The calls contradict one another: a threshold around {around} is all they allow. Rest, name the \
                         effort, and creep up again."
                    ),
                )
            };
            return Finding {
                quantity,
                spread: Some(known.spread),
                words: vec![words],
                ..Finding::new(protocol, says, title)
            };
        }
        let back = f64::midpoint(BACK_OFF_MM.0, BACK_OFF_MM.1);
        let to = known.at - back;
        let legs = Sides::from_fn(|side| {
            let apart = ridden.iter().any(|r| r.marked_on(side));
            apart
                .then(|| threshold(ridden, |r| r.marked_on(side)))
                .flatten()
        });
        let mut words = vec![format!(
            "Turns choppy or rocks at {around}{}; {} to {} mm back from there is {} mm.",
            first_words(&legs),
            written(BACK_OFF_MM.0),
            written(BACK_OFF_MM.1),
            written(read(to))
        )];
        if let (Some(left), Some(right)) = (legs.left, legs.right) {
            let apart = (left.at - right.at).abs();
            if apart > 2.0 * left.spread.hypot(right.spread) && apart >= 3.0 {
                words.push(format!(
                    "The legs turn {} mm apart: fit between them, and look for a leg that is shorter or turns out.",
                    written(apart)
                ));
            }
        }
        Finding {
            quantity,
            value: Some(straight(to)),
            low: Some(straight(known.at - BACK_OFF_MM.1)),
            high: Some(straight(known.at - BACK_OFF_MM.0)),
            spread: Some(known.spread),
            sides: Some(Sides::from_fn(|side| {
                legs.of(side).map(|leg| straight(leg.at))
            })),
            moves: move_to(trying, to).into_iter().collect(),
            words,
            ..Finding::new(
                protocol,
                Says::Found,
                format!("Saddle to {} mm", written(read(to))),
            )
        }
    }
}

impl Guided for CreepUp {
    type SoFar = Vec<Ridden>;

    const PROTOCOL: Protocol = Protocol::CreepUp;
    const AT: &'static [Station] = &[Station::SaddleHeight];

    /// Clearly low for this rider, rising by what the rider feels.
    fn proposed(for_this: &Proposing) -> Self {
        let trying = for_this.on;
        let range = range_of(&trying.ranges, Output::KneeAtFullReach, trying.before.hands);
        let there = range
            .map(|range| f64::midpoint(range.low, range.high))
            .and_then(|middle| post_for_knee(trying, &[], middle))
            .unwrap_or_default();
        let from = (there.min(0.0) - BELOW_MM) / 5.0;
        Self {
            from_mm: (from.floor() * 5.0).max(-60.0),
            step_mm: for_this.height.step.max(FINE_MM),
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![
            Setting::number(
                "from_mm",
                "First step, post from here",
                self.from_mm,
                Unit::Mm,
            ),
            Setting::number("step_mm", "Rises by", self.step_mm, Unit::Mm),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        all.extend(within(
            format!("{at}/from_mm"),
            self.from_mm,
            -80.0,
            0.0,
            "The first step, from where the post stands,",
        ));
        all.extend(within(
            format!("{at}/step_mm"),
            self.step_mm,
            2.0,
            10.0,
            "A step",
        ));
        all
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        ridden: &mut Vec<Ridden>,
    ) -> Result<(), Box<Asked>> {
        while let Some(travel) = self.next(ridden) {
            let step = ridden.len() + 1;
            let height = written(run.on.height_at(travel));
            let by = travel - ridden.last().map_or(0.0, |r| r.travel);
            let place = format!("Step {step}");
            let set = Ask::enter(
                format!("{step}.set"),
                "Set, tightened, and the rider is on?",
                "Ride",
            );
            script
                .ask(set, || Saying {
                    place: place.clone(),
                    instruction: format!("Saddle to {height} mm"),
                    detail: format!(
                        "Post {} {} mm from where it is now. Rider up, hips level, feet as always.",
                        if by < 0.0 { "down" } else { "up" },
                        written(by.abs())
                    ),
                    timer_s: None,
                })
                .map_err(|asked| asked.riding(&height).moved(Quantity::SaddleHeight, travel))?;
            let mut call = |ask: Ask| {
                let called = script.ask(ask, || Saying {
                    place: place.clone(),
                    instruction: format!("Ride at {height} mm"),
                    detail: "Watch from behind and from the side; call what you see at the bottom."
                        .to_owned(),
                    timer_s: Some(RIDE_S),
                });
                called
                    .map(|called| called.digit())
                    .map_err(|asked| asked.riding(&height).moved(Quantity::SaddleHeight, travel))
            };
            let [left, right, hips] = questions(step);
            ridden.push(Ridden {
                travel,
                chop: Sides {
                    left: call(left)?,
                    right: call(right)?,
                },
                rocks: call(hips)? == 1,
            });
        }
        Ok(())
    }

    fn notches(&self, run: &Run, ridden: &Vec<Ridden>) -> Vec<Notch> {
        ridden
            .iter()
            .map(|r| Notch {
                label: written(run.on.height_at(r.travel)),
                words: format!(
                    "left {}, right {}{}",
                    r.chop.left,
                    r.chop.right,
                    if r.rocks { ", hips rock" } else { "" }
                ),
                state: if r.marked() {
                    NotchState::Marked
                } else {
                    NotchState::Quiet
                },
            })
            .collect()
    }

    fn finding(&self, run: &Run, ridden: &Vec<Ridden>) -> Finding {
        Self::found(run.on, ridden)
    }
}

/// What is called of one height: the bottom of either leg's stroke, and the hips.
fn questions(step: usize) -> [Ask; 3] {
    let chop = |side: Side| {
        Ask::keys(
            format!("{step}.{}", side.word()),
            &format!("{} leg at the bottom of the stroke?", capital(side.word())),
            &[
                ("0", "Smooth"),
                ("1", "A hint"),
                ("2", "Choppy"),
                ("3", "Kicks"),
            ],
        )
    };
    let hips = Ask::keys(
        format!("{step}.hips"),
        "Hips, seen from behind?",
        &[("0", "Quiet"), ("1", "Rock")],
    );
    [chop(Side::Left), chop(Side::Right), hips]
}

/// Whether no height was marked below one that was quiet.
fn in_order(ridden: &[Ridden]) -> bool {
    let marked = ridden.iter().filter(|r| r.marked()).map(|r| r.travel);
    let quiet = ridden.iter().filter(|r| !r.marked()).map(|r| r.travel);
    let highest_quiet = quiet.fold(f64::NEG_INFINITY, f64::max);
    marked.fold(f64::INFINITY, f64::min) > highest_quiet
}

/// The post to where it was found to belong.
fn move_to(trying: &Trying, travel: f64) -> Option<Step> {
    let travel = half_mm(travel);
    if travel.abs() < 0.5 {
        return None;
    }
    let changes = vec![Change {
        convention: Some(Convention::SaddleHeightStraight),
        ..Change::to(
            Quantity::SaddleHeight,
            trying.sit_moved(travel, 0.0).length(),
        )
    }];
    Step::of(trying, changes, String::new())
}

fn first_words(legs: &Sides<Option<Threshold>>) -> &'static str {
    match (legs.left, legs.right) {
        (Some(_), None) => ", the left leg alone",
        (None, Some(_)) => ", the right leg alone",
        (Some(left), Some(right)) if left.at < right.at - 1.0 => ", the left leg first",
        (Some(left), Some(right)) if right.at < left.at - 1.0 => ", the right leg first",
        (Some(_), Some(_)) => ", both legs together",
        (None, None) => ", by the hips alone",
    }
}

/// The threshold of what `marked` says of each height; `None` without heights.
fn threshold(ridden: &[Ridden], marked: impl Fn(&Ridden) -> bool) -> Option<Threshold> {
    let low = ridden.iter().map(|r| r.travel).reduce(f64::min)? - 15.0;
    let high = ridden.iter().map(|r| r.travel).reduce(f64::max)? + 15.0;
    let cells = ((high - low) / 0.5).round();
    let (mut all, mut mean, mut square) = (0.0, 0.0, 0.0);
    let mut cell = 0.0;
    while cell <= cells {
        let at = low + (high - low) * cell / cells;
        for (width, before) in WIDTHS_MM {
            let called: f64 = ridden
                .iter()
                .map(|r| {
                    let curve = 1.0 / (1.0 + ((at - r.travel) / width).exp());
                    let chance = LAPSE / 2.0 + (1.0 - LAPSE) * curve;
                    if marked(r) { chance } else { 1.0 - chance }
                })
                .product();
            let likely = before * called;
            all += likely;
            mean += likely * at;
            square += likely * at * at;
        }
        cell += 1.0;
    }
    (all > 0.0).then(|| {
        let at = mean / all;
        Threshold {
            at,
            spread: (square / all - at * at).max(0.0).sqrt(),
        }
    })
}
