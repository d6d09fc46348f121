//! Balance test: setback by whether the rider can lift both hands without sliding.
//!
//! At tempo the rider lifts both hands together. Who stays, sits in balance; hips that slide forward, a cadence that
//! leaps or hard bracing fail it. What follows a verdict is the trade's, in its order: back; did it really go back; a
//! shorter or higher front; and, with a short stem and a saddle already forward, the wrong frame.

use super::Protocol;
use super::rail_sweep::move_to;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
    along_rails, seen, setback_words,
};
use super::setting::Setting;
use crate::bike::Perch;
use crate::foresee::{Bound, Change, Step, Trying};
use crate::looking::{Sign, SignSeen};
use crate::measure::Quantity;
use crate::position::Ride;
use crate::rule::rules;
use crate::words::{words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

words! {
    /// How the balance test is ridden.
    pub enum BalanceVariant {
        Tempo "tempo" "At tempo, hands lifted",
        Twenty "twenty" "20 minutes, hands swung to the waist",
    }
}

rules! {
    rules "Balance test";
    /// Ridden this long before the hands are lifted.
    const TEMPO_S: u32 = 120, " s", House;
    /// The long variant's effort.
    const TWENTY_S: u32 = 1200, " s", Workshop;
    /// After a failure the saddle goes back by this.
    const BACK_MM: f64 = 5.0, " mm", Workshop;
    /// Less than this share of what was asked for, the saddle did not really go back.
    const REALLY: f64 = 0.6, "", House;
    /// A stem up to this is short.
    const SHORT_STEM_MM: f64 = 80.0, " mm", House;
    /// Forward of the middle of its rails by this, a saddle is forward already; behind by it, far back.
    const OFF_MIDDLE_MM: f64 = 5.0, " mm", House;
    /// A shorter front, in one trial.
    const STEM_MM: f64 = 10.0, " mm", Workshop;
    /// A higher front, in one trial.
    const HIGHER_MM: f64 = 10.0, " mm", Workshop;
    /// Who passes at so many places passes anywhere.
    const ANYWHERE: usize = 3, " places", House;
    /// From this on, at the effort of the test, a rider is strong for their weight.
    const STRONG_W_PER_KG: f64 = 3.5, " W/kg", House;
    /// The linked move of a saddle far back with a very short stem.
    const LINKED_MM: f64 = 10.0, " mm", House;
}

/// How a balance test is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Balance {
    /// How it is ridden.
    pub variant: BalanceVariant,
}

/// One attempt: where, and what was seen.
#[derive(Debug, Clone, Copy)]
pub(super) struct Attempt {
    /// Travel along the rails from where the saddle stood, back positive.
    back: f64,
    hips: u32,
    cadence: u32,
    brace: u32,
    tip: u32,
}

impl Attempt {
    fn fails(&self) -> bool {
        self.hips > 1 || self.cadence > 1 || self.brace > 2 || self.tip > 2
    }

    fn easy(&self) -> bool {
        !self.fails() && self.brace == 1 && self.tip <= 1
    }

    /// What was seen, in words.
    fn signs(&self) -> String {
        let mut all = vec![match self.hips {
            1 => "stays",
            2 => "slides forward, under 10 mm",
            _ => "slides forward",
        }];
        if self.cadence > 1 {
            all.push("cadence leaps");
        }
        match self.brace {
            1 => all.push("no effort"),
            3 => all.push("braces hard"),
            _ => {}
        }
        match self.tip {
            2 => all.push("a slight tip"),
            3 => all.push("falls forward"),
            _ => {}
        }
        all.join(", ")
    }
}

impl Balance {
    fn riding(&self, place: String) -> Saying {
        let (instruction, detail, timer) = match self.variant {
            BalanceVariant::Tempo => (
                "Lift both hands together",
                "Two minutes at tempo first. Then both hands off by a few centimetres, pedalling on. Indoors or on a quiet \
                 straight road only.",
                TEMPO_S,
            ),
            BalanceVariant::Twenty => (
                "Swing the hands to the waist",
                "Twenty minutes at the effort, indoors. Then both hands to the waist, pedalling on; a slight tip forward is \
                 allowed.",
                TWENTY_S,
            ),
        };
        Saying {
            place,
            instruction: instruction.to_owned(),
            detail: detail.to_owned(),
            timer_s: Some(timer),
        }
    }

    fn questions(&self, number: usize) -> Vec<Ask> {
        let mut all = vec![
            Ask::keys(
                format!("{number}.hips"),
                "The hips?",
                &[("1", "Stay"), ("2", "Slide a little"), ("3", "Slide")],
            ),
            Ask::keys(
                format!("{number}.cadence"),
                "The cadence?",
                &[("1", "Steady"), ("2", "Leaps")],
            ),
            Ask::keys(
                format!("{number}.brace"),
                "The trunk?",
                &[
                    ("1", "No effort at all"),
                    ("2", "Works a little"),
                    ("3", "Braces hard"),
                ],
            ),
        ];
        if self.variant == BalanceVariant::Twenty {
            all.push(Ask::keys(
                format!("{number}.tip"),
                "Does the rider tip forward?",
                &[("1", "No"), ("2", "Slightly"), ("3", "Falls")],
            ));
        }
        all
    }

    /// The place the last attempt leads to; none when it is over.
    fn after(
        on: &Trying,
        script: &mut Script,
        attempts: &mut [Attempt],
    ) -> Result<Option<f64>, Box<Asked>> {
        let number = attempts.len();
        let Some(last) = attempts.last().copied() else {
            return Ok(None);
        };
        let failures = attempts.iter().filter(|a| a.fails()).count();
        if !last.fails() {
            let forward_tried = attempts.iter().any(|a| a.back < last.back);
            if !last.easy() || forward_tried || passes_anywhere(attempts) {
                return Ok(None);
            }
            let ask = Ask::keys(
                format!("{number}.more"),
                "Passed without effort. Try further forward?",
                &[("1", "Leave it here"), ("2", "5 mm forward")],
            );
            let called = script.ask(ask, || Saying {
                place: format!("After attempt {number}"),
                instruction: "Passed, with no effort".to_owned(),
                detail: "That may allow a place further forward; it is rarely needed.".to_owned(),
                timer_s: None,
            })?;
            return Ok(called.is("2").then_some(last.back - BACK_MM));
        }
        // Failing forward of a place that passed answers the question.
        if attempts.iter().any(|a| !a.fails()) || wrong_frame(on) {
            return Ok(None);
        }
        if failures == 1 {
            return Ok(Some(last.back + BACK_MM));
        }
        let before = attempts
            .get(attempts.len().saturating_sub(2))
            .map_or(0.0, |a| a.back);
        let asked = last.back - before;
        let [from, to] = [before, last.back].map(|back| on.setback_at(0.0, back));
        let ask = Ask::number(
            format!("{number}.went"),
            "Did it really go back? Measure the setback",
            "Setback now",
            on.conventions.setback.unit(),
            (-200.0, 400.0),
        );
        let called = script.ask(ask, || Saying {
            place: format!("After attempt {number}"),
            instruction: "Measure the setback".to_owned(),
            detail: format!(
                "It failed again. {} mm further back was asked for: from {} to {}.",
                written(asked),
                setback_words(on, 0.0, before),
                setback_words(on, 0.0, last.back)
            ),
            timer_s: None,
        })?;
        let went = (called.value() - from) * asked.max(1e-6) / (to - from);
        if went >= REALLY * asked {
            return Ok(None);
        }
        // It does not count: the place is where it was measured, and asked for once more.
        if let Some(attempt) = attempts.last_mut() {
            attempt.back = before + went;
        }
        Ok(Some(before + asked))
    }

    fn found(trying: &Trying, attempts: &[Attempt]) -> Finding {
        let protocol = Protocol::Balance;
        let Some(last) = attempts.last() else {
            return Finding::broken(protocol);
        };
        let value = |back: f64| -trying.sit_moved(0.0, back).x;
        let base = |says: Says, title: String, words: Vec<String>| Finding {
            quantity: Some(Quantity::Setback),
            words,
            ..Finding::new(protocol, says, title)
        };
        let linked = back_and_short(trying);
        if passes_anywhere(attempts) {
            return Finding {
                moves: linked.into_iter().collect(),
                ..base(
                    Says::Nothing,
                    "Passes anywhere".to_owned(),
                    vec![format!(
                        "Passed at {} places, {} mm apart{}: this test says nothing about this rider. Share the work on the \
                         rails instead.",
                        attempts.len(),
                        written(span(attempts)),
                        strong_words(trying)
                    )],
                )
            };
        }
        let forward_pass = attempts
            .iter()
            .filter(|a| !a.fails())
            .map(|a| a.back)
            .reduce(f64::min);
        if let Some(back) = forward_pass {
            let failed = attempts.iter().any(Attempt::fails);
            let mut words = vec![format!(
                "Passed {}: {}.{}",
                at_words(back),
                attempts
                    .iter()
                    .find(|a| !a.fails() && (a.back - back).abs() < 1e-6)
                    .map_or_else(String::new, Attempt::signs),
                if failed {
                    " Further forward it failed."
                } else {
                    ""
                }
            )];
            words.extend(strong_hint(trying));
            words.push(
                "Check it on the road with light fingers, at several efforts, before it is trusted."
                    .to_owned(),
            );
            let mut moves: Vec<Step> = move_to(trying, back).into_iter().collect();
            moves.extend(linked);
            return Finding {
                value: Some(value(back)),
                // Anything further back is in balance too.
                bound: Some(Bound::AtLeast),
                moves,
                ..base(Says::Found, format!("In balance {}", at_words(back)), words)
            };
        }
        Self::failed(trying, last, attempts.len(), linked)
    }

    fn failed(trying: &Trying, last: &Attempt, attempts: usize, linked: Option<Step>) -> Finding {
        let protocol = Protocol::Balance;
        let signs = last.signs();
        let new = |title: &str, words: String| Finding {
            quantity: Some(Quantity::Setback),
            words: vec![words],
            ..Finding::new(protocol, Says::Found, title)
        };
        if wrong_frame(trying) {
            let stem = trying.setup.cockpit.stem_mm.0;
            return Finding {
                next_bike: Some(format!(
                    "A frame with a shorter front: the balance failed with a {} mm stem and the saddle already forward on \
                     its rails",
                    written(stem)
                )),
                ..new(
                    "The wrong frame",
                    format!(
                        "Out of balance ({signs}) with a {} mm stem and the saddle already forward: this frame is too long. \
                         Do the best it allows, and write it down for the next bike.",
                        written(stem)
                    ),
                )
            };
        }
        let at_least = Some(-trying.sit_moved(0.0, last.back).x);
        if attempts < 2 {
            return Finding {
                value: at_least,
                bound: Some(Bound::AtLeast),
                moves: move_to(trying, last.back + BACK_MM).into_iter().collect(),
                ..new(
                    "Out of balance",
                    format!(
                        "Failed {}: {signs}. Saddle back, and again.",
                        at_words(last.back)
                    ),
                )
            };
        }
        let mut moves = front(trying);
        moves.extend(linked);
        Finding {
            value: at_least,
            bound: Some(Bound::AtLeast),
            moves,
            ..new(
                "Out of balance further back too",
                format!(
                    "Failed again {}: {signs}. It did go back, so the front is next: shorter, or a little higher.",
                    at_words(last.back)
                ),
            )
        }
    }
}

impl Guided for Balance {
    type SoFar = Vec<Attempt>;

    /// Each attempt fails or does not, where the saddle stood; one without effort is a sign of its own.
    fn signs(&self, _run: &Run, attempts: &Vec<Attempt>) -> Vec<(SignSeen, f64)> {
        let of = |attempt: &Attempt| {
            let fails = seen(Sign::BalanceFails, attempt.fails()).0;
            let easy = attempt.easy().then_some(seen(Sign::BalanceEasy, true).0);
            let back = attempt.back;
            [Some(fails), easy]
                .into_iter()
                .flatten()
                .map(move |sign| (sign, back))
        };
        attempts.iter().flat_map(of).collect()
    }

    const PROTOCOL: Protocol = Protocol::Balance;
    const AT: &'static [Station] = &[Station::Setback];

    fn proposed(_for_this: &Proposing) -> Self {
        Self {
            variant: BalanceVariant::Tempo,
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::word("variant", "Ridden", self.variant)]
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        attempts: &mut Vec<Attempt>,
    ) -> Result<(), Box<Asked>> {
        let mut next = Some(0.0);
        while let Some(back) = next {
            let number = attempts.len() + 1;
            let place = format!("Attempt {number}, {}", at_words(back));
            let set = Ask::enter(format!("{number}.set"), "Set, and the rider is on?", "Ride");
            script
                .ask(set, || Saying {
                    place: place.clone(),
                    instruction: if attempts.is_empty() {
                        "As it stands".to_owned()
                    } else {
                        format!("Saddle {}", at_words(back))
                    },
                    detail: format!(
                        "Setback {}. {}",
                        setback_words(run.on, 0.0, back),
                        if attempts.is_empty() {
                            "Nobody tells the rider what is hoped for."
                        } else {
                            "Measure it: it must really have moved."
                        }
                    ),
                    timer_s: None,
                })
                .map_err(|asked| asked.riding(at_words(back)).moved(Quantity::Setback, back))?;
            let mut seen = [1; 4];
            for (sign, ask) in seen.iter_mut().zip(self.questions(number)) {
                let called = script.ask(ask, || self.riding(place.clone()));
                *sign = called
                    .map_err(|asked| asked.riding(at_words(back)).moved(Quantity::Setback, back))?
                    .digit();
            }
            let [hips, cadence, brace, tip] = seen;
            attempts.push(Attempt {
                back,
                hips,
                cadence,
                brace,
                tip,
            });
            next = Self::after(run.on, script, attempts)?;
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, attempts: &Vec<Attempt>) -> Vec<Notch> {
        notches(attempts)
    }

    fn finding(&self, run: &Run, attempts: &Vec<Attempt>) -> Finding {
        Self::found(run.on, attempts)
    }
}

/// A shorter or a higher front, as this bike can be had.
fn front(trying: &Trying) -> Vec<Step> {
    let setup = &trying.setup;
    let stem = setup.cockpit.stem_mm.0;
    let above = setup.cockpit.spacers_above_mm.0;
    let mut plans = Vec::new();
    if stem - STEM_MM >= 40.0 {
        plans.push(vec![Change::by(Quantity::Stem, -STEM_MM)]);
    }
    if above >= 2.5 {
        plans.push(vec![Change::by(
            Quantity::SpacersBelow,
            above.min(HIGHER_MM),
        )]);
    }
    if setup.holds(Quantity::PadSpacers) {
        plans.push(vec![Change::by(Quantity::PadSpacers, HIGHER_MM)]);
    }
    if setup.holds(Quantity::BarRise) && setup.holds(Quantity::Backsweep) {
        plans.push(vec![Change::by(Quantity::BarRise, HIGHER_MM)]);
    }
    plans
        .into_iter()
        .filter_map(|changes| Step::of(trying, changes, String::new()))
        .collect()
}

/// The clamp ahead of the rails' middle: a saddle that is back has its clamp ahead. `None` while the post is unknown.
fn clamp_ahead(ride: &Ride) -> Option<f64> {
    let perch = Perch::of(&ride.frame, &ride.setup);
    perch.clamp_ahead_mm.map(|ahead| ahead.0)
}

/// Out of balance with these, no bolt helps: a short stem and a saddle already forward.
fn wrong_frame(ride: &Ride) -> bool {
    ride.setup.cockpit.stem_mm.0 <= SHORT_STEM_MM
        && clamp_ahead(ride).is_some_and(|ahead| ahead <= -OFF_MIDDLE_MM)
}

/// A saddle far back with a very short stem: forward with the saddle and out with the stem, as one linked move.
fn back_and_short(trying: &Trying) -> Option<Step> {
    let back = clamp_ahead(trying).is_some_and(|ahead| ahead >= OFF_MIDDLE_MM);
    if !back || trying.setup.cockpit.stem_mm.0 > SHORT_STEM_MM {
        return None;
    }
    let mut changes = move_to(trying, -LINKED_MM)?.changes;
    changes.push(Change::by(Quantity::Stem, LINKED_MM));
    Step::of(trying, changes, String::new())
}

fn span(attempts: &[Attempt]) -> f64 {
    let places = attempts.iter().map(|a| a.back);
    let (low, high) = places.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), back| {
        (low.min(back), high.max(back))
    });
    high - low
}

fn passes_anywhere(attempts: &[Attempt]) -> bool {
    attempts.len() >= ANYWHERE && attempts.iter().all(|a| !a.fails())
}

fn strong(ride: &Ride) -> bool {
    ride.effort
        .zip(ride.rider.body.mass_kg)
        .is_some_and(|(effort, mass)| effort.power_w / mass.0 >= STRONG_W_PER_KG)
}

fn strong_words(ride: &Ride) -> &'static str {
    if strong(ride) {
        ", as light strong riders do"
    } else {
        ""
    }
}

fn strong_hint(ride: &Ride) -> Option<String> {
    strong(ride).then(|| {
        "Light strong riders pass anywhere: try further forward, or share the work on the rails, before trusting it."
            .to_owned()
    })
}

fn at_words(back: f64) -> String {
    along_rails(back, "as it stands")
}

fn notches(attempts: &[Attempt]) -> Vec<Notch> {
    attempts
        .iter()
        .map(|a| Notch {
            label: at_words(a.back),
            words: a.signs(),
            state: if a.fails() {
                NotchState::Marked
            } else {
                NotchState::Quiet
            },
        })
        .collect()
}
