//! Blind A/B: how small a change this rider feels.
//!
//! The rider first rides both settings knowingly, then some rounds in a random order that nobody is shown. In each round
//! only the setting to make now can be looked at, while a key is held; the rider calls which of the two it is. Rounds are
//! independent throws of a fair coin, so whoever guesses is right in half of them whatever the habit, and the chance of
//! doing as well by guessing is the upper tail of the binomial distribution, worked out exactly.

use super::Protocol;
use super::run::{
    Ask, Asked, Call, Finding, Guided, Notch, NotchState, Picks, Proposing, Run, Saying, Says,
    Script, guided,
};
use super::setting::Setting;
use crate::foresee::{Change, Step, Trying};
use crate::measure::{Mark, Quantity, Refusal, Unit, half_mm, within};
use crate::rule::rules;
use crate::words::written;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Blind A/B";
    /// Rounds to begin with.
    const ROUNDS: u32 = 8, " rounds", House;
    /// A change is felt when guessing does as well no more often than this.
    const FELT_CHANCE: f64 = 0.05, "", House;
    /// Each setting is ridden this long.
    const RIDE_S: u32 = 90, " s", House;
    /// Steps are proposed no smaller than this, whatever is felt: it is the tape's error.
    const SMALLEST_STEP_MM: f64 = 2.0, " mm", House;
    /// And no larger.
    const LARGEST_STEP_MM: f64 = 10.0, " mm", House;
    /// A and B differ by this at the least.
    const SMALLEST_COMPARED: f64 = 0.5, " mm or °", House;
    /// And by this at the most.
    const LARGEST_COMPARED: f64 = 20.0, " mm or °", House;
    /// The step of a saddle for a rider nobody has tested.
    pub const USUAL_STEP_MM: f64 = 5.0, " mm", Workshop;
}

/// How a blind comparison is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Blind {
    /// What is changed.
    pub quantity: Quantity,
    /// From A, as it stands, to B.
    pub by: f64,
    /// Hidden rounds.
    pub rounds: u32,
}

/// How the two questions of a round end.
const MADE: &str = ".made";
const PICK: &str = ".pick";

/// The round a question belongs to, from 1.
fn round_of(ask: &str) -> Option<usize> {
    let round = ask.strip_suffix(MADE).or(ask.strip_suffix(PICK))?;
    round.parse().ok()
}

/// Whether a round was ever called.
fn called(round: usize, ever: &[Call]) -> bool {
    ever.iter()
        .any(|call| call.ask.ends_with(PICK) && round_of(&call.ask) == Some(round))
}

impl Blind {
    /// "Saddle up 5".
    fn other(&self, trying: &Trying) -> String {
        trying
            .weigh(vec![Change::by(self.quantity, self.by)])
            .map_or_else(
                || format!("{} by {}", self.quantity.spec().label, written(self.by)),
                |w| w.title,
            )
    }
}

impl Guided for Blind {
    type SoFar = Vec<bool>;

    const PROTOCOL: Protocol = Protocol::Blind;
    const AT: &'static [Station] = &[Station::SaddleHeight, Station::Setback];

    /// The change worth comparing next, down or back: the careful side.
    fn proposed(for_this: &Proposing) -> Self {
        let feels = match for_this.at {
            Station::Setback => for_this.setback,
            _ => for_this.height,
        };
        Self {
            quantity: feels.quantity,
            by: if feels.quantity == Quantity::Setback {
                feels.next
            } else {
                -feels.next
            },
            rounds: ROUNDS,
        }
    }

    fn settings(&self) -> Vec<Setting> {
        let compared = Quantity::marked(Mark::blind).map(|q| (q.key(), q.spec().label));
        vec![
            Setting::one_of("quantity", "Compares", self.quantity.key(), compared),
            Setting::number("by", "B differs by, mm or °", self.by, Unit::Size),
            Setting::count("rounds", "Hidden rounds", self.rounds),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if !self.quantity.is(Mark::blind) {
            all.push(Refusal::new(
                format!("{at}/quantity"),
                "Saddle height, setback and tilt are compared blind",
            ));
        }
        all.extend(within(
            format!("{at}/by"),
            self.by,
            -LARGEST_COMPARED,
            LARGEST_COMPARED,
            "The change",
        ));
        if self.by.abs() < SMALLEST_COMPARED && all.is_empty() {
            all.push(Refusal::new(
                format!("{at}/by"),
                "A and B must differ by half a millimetre or half a degree at the least",
            ));
        }
        all.extend(within(
            format!("{at}/rounds"),
            f64::from(self.rounds),
            5.0,
            30.0,
            "Rounds",
        ));
        all
    }

    fn hides(&self) -> u32 {
        self.rounds
    }

    /// A round that was called once is past, and past order stays hidden.
    fn setting(&self, run: &Run, ever: &[Call]) -> Option<String> {
        let ask = guided(self, run).screen.ask?;
        let round = round_of(&ask.id)?;
        if called(round, ever) {
            return None;
        }
        Some(if *run.order.get(round.checked_sub(1)?)? {
            format!("B: {}", self.other(run.on))
        } else {
            "A: as it stood".to_owned()
        })
    }

    /// Whether the last call that stands may be taken back: the pick of the round just called, and anything before the
    /// first. What was made for a round that was called is past.
    fn gives_back(&self, standing: &[Call], ever: &[Call]) -> bool {
        standing.last().is_some_and(|last| {
            last.ask.ends_with(PICK) || round_of(&last.ask).is_none_or(|round| !called(round, ever))
        })
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        picks: &mut Vec<bool>,
    ) -> Result<(), Box<Asked>> {
        for (id, what) in [("a", "A"), ("b", "B")] {
            let ask = Ask::enter(
                id.to_owned(),
                &format!("Has the rider ridden {what}, knowing it?"),
                "Ridden",
            );
            script.ask(ask, || Saying {
                place: "Openly first".to_owned(),
                instruction: if what == "A" {
                    "Ride A: as it stands".to_owned()
                } else {
                    format!("Ride B: {}", self.other(run.on).to_lowercase())
                },
                detail: "Say which it is. The rider learns the two.".to_owned(),
                timer_s: Some(RIDE_S),
            })?;
        }
        for round in 1..=self.rounds {
            let place = format!("Round {round} of {}", self.rounds);
            let made = Ask::enter(
                format!("{round}{MADE}"),
                "Hold H to see the setting. Made, out of the rider's sight?",
                "Made",
            );
            script.ask(made, || Saying {
                place: place.clone(),
                instruction: "Make the hidden setting".to_owned(),
                detail: "Loosen and tighten every time, whichever it is, so that hands and sounds tell nothing."
                    .to_owned(),
                timer_s: None,
            })?;
            let pick = Ask::keys(
                format!("{round}{PICK}"),
                "Which was it? The rider must say one.",
                &[("a", "A"), ("b", "B")],
            );
            let called = script.ask(pick, || Saying {
                place,
                instruction: "Ride, then call it".to_owned(),
                detail: "Nobody comments. A guess is an answer.".to_owned(),
                timer_s: Some(RIDE_S),
            })?;
            picks.push(called.is("b"));
        }
        Ok(())
    }

    /// What was ridden is shown once it is over, and not before.
    fn notches(&self, run: &Run, picks: &Vec<bool>) -> Vec<Notch> {
        if run.stopped || picks.len() == self.rounds as usize {
            shown(run.order, picks)
        } else {
            hidden(picks)
        }
    }

    fn finding(&self, run: &Run, picks: &Vec<bool>) -> Finding {
        let protocol = Protocol::Blind;
        let rounds = u32::try_from(picks.len().min(run.order.len())).unwrap_or(u32::MAX);
        if rounds == 0 {
            return Finding::broken(protocol);
        }
        let right = picks
            .iter()
            .zip(run.order)
            .filter(|(pick, b)| pick == b)
            .count();
        let right = u32::try_from(right).unwrap_or(u32::MAX);
        let chance = chance(rounds, right);
        let felt = chance <= FELT_CHANCE;
        let by = self.by.abs();
        let unit = self.quantity.spec().unit.suffix();
        let said = format!(
            "{right} of {rounds} right; guessing does as well in {} of 100.",
            written((chance * 1000.0).round() / 10.0)
        );
        let of = format!("{}{unit}", written(by));
        let (says, title, words) = if felt {
            (
                Says::Found,
                format!("Feels {of}"),
                format!(
                    "{said} The rider feels {of} of it. Next: whether {}{unit} are felt too.",
                    written(by / 2.0)
                ),
            )
        } else if enough(rounds) {
            (
                Says::Nothing,
                format!("{of} not told apart"),
                format!(
                    "{said} No sign that the rider feels {of} of it: a smaller change is no trial. Next: {}{unit}.",
                    written(by * 2.0)
                ),
            )
        } else {
            (
                Says::Broken,
                "Ended early".to_owned(),
                format!("{said} So few rounds cannot tell: they count with the next ones of {of}."),
            )
        };
        Finding {
            quantity: Some(self.quantity),
            words: vec![words],
            picks: Some(Picks {
                quantity: self.quantity,
                by,
                rounds,
                right,
                chance,
            }),
            moves: Vec::<Step>::new(),
            ..Finding::new(protocol, says, title)
        }
    }
}

/// The chance of `right` or more of `rounds` by guessing: `Σ C(rounds, i) / 2^rounds` for `i` from `right`.
///
/// Exact as long as the sum of binomial coefficients is a whole number below 2⁵³, which 30 rounds are far from.
pub fn chance(rounds: u32, right: u32) -> f64 {
    let mut coefficient = 1.0_f64;
    let (mut tail, mut all) = (0.0, 0.0);
    for i in 0..=rounds {
        all += coefficient;
        if i >= right {
            tail += coefficient;
        }
        // C(n, i + 1) = C(n, i) (n − i) / (i + 1): always whole.
        coefficient = coefficient * f64::from(rounds - i) / f64::from(i + 1);
    }
    tail / all
}

/// Whether so many rounds can tell anything: whether all of them right would be more than a guess.
fn enough(rounds: u32) -> bool {
    chance(rounds, rounds) <= FELT_CHANCE
}

/// What a rider feels, from every blind comparison of a quantity.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Feels {
    /// Of what.
    pub quantity: Quantity,
    /// The smallest change that was felt, and no larger one was not; none while there is none.
    pub smallest: Option<f64>,
    /// The largest that was not.
    pub not: Option<f64>,
    /// The step proposed for it.
    pub step: f64,
    /// The change worth comparing next: half of what is felt, twice of what is not, between the two, or again the one
    /// that was not felt though a smaller one was.
    pub next: f64,
    /// In a sentence.
    pub words: String,
}

/// What a rider feels of a quantity, and the step that follows from it: one that can be felt, and never less than the
/// tape's error.
pub fn feels<'a>(quantity: Quantity, picks: impl IntoIterator<Item = &'a Picks>) -> Feels {
    let of: Vec<&Picks> = picks
        .into_iter()
        .filter(|p| p.quantity == quantity)
        .collect();
    // Several comparisons of one change count together.
    let together = |by: f64| {
        of.iter()
            .filter(|p| (p.by - by).abs() < 0.05)
            .fold((0, 0), |(rounds, right), p| {
                (rounds + p.rounds, right + p.right)
            })
    };
    let felt = |by: f64| {
        let (rounds, right) = together(by);
        chance(rounds, right) <= FELT_CHANCE
    };
    let not = of
        .iter()
        .map(|p| p.by)
        .filter(|by| enough(together(*by).0) && !felt(*by))
        .reduce(f64::max);
    // Who feels a change feels a larger one: what was felt below one that was not was luck, until that is compared again.
    let (lucky, smallest) = of
        .iter()
        .map(|p| p.by)
        .filter(|by| felt(*by))
        .partition::<Vec<f64>, _>(|by| not.is_some_and(|not| *by < not));
    let smallest = smallest.into_iter().reduce(f64::min);
    let lucky = lucky.into_iter().reduce(f64::min);
    let wanted = match (smallest, not) {
        (Some(smallest), _) => smallest,
        (None, Some(not)) if lucky.is_some() => not,
        (None, Some(not)) => 2.0 * not,
        (None, None) => USUAL_STEP_MM,
    };
    let step = wanted.clamp(SMALLEST_STEP_MM, LARGEST_STEP_MM);
    let next = match (smallest, not) {
        (_, Some(not)) if lucky.is_some() => not,
        (Some(felt), Some(not)) => f64::midpoint(felt, not),
        (Some(felt), None) => felt / 2.0,
        (None, Some(not)) => 2.0 * not,
        // What was begun is gone on with.
        (None, None) => of.last().map_or(USUAL_STEP_MM, |begun| begun.by),
    };
    let next = half_mm(next).clamp(SMALLEST_COMPARED, LARGEST_COMPARED);
    let unit = quantity.spec().unit.suffix();
    let words = match (smallest, not) {
        (_, Some(not)) if let Some(lucky) = lucky => format!(
            "Felt {}{unit} but not {}{unit}, which cannot both be so: compare {}{unit} again. Steps of {}{unit} until then",
            written(lucky),
            written(not),
            written(not),
            written(step)
        ),
        (None, None) => format!(
            "{} what this rider feels: steps of {}{unit}",
            if of.is_empty() {
                "Nobody has tested"
            } else {
                "Too few rounds so far to tell"
            },
            written(step)
        ),
        (Some(felt), None) => format!(
            "Feels {}{unit}: steps of {}{unit}",
            written(felt),
            written(step)
        ),
        (Some(felt), Some(not)) => format!(
            "Feels {}{unit}, not {}{unit}: steps of {}{unit}",
            written(felt),
            written(not),
            written(step)
        ),
        (None, Some(not)) => format!(
            "Does not feel {}{unit}: steps of {}{unit}",
            written(not),
            written(step)
        ),
    };
    Feels {
        quantity,
        smallest,
        not,
        step,
        next,
        words,
    }
}

/// The rounds so far: what was called, not what was ridden.
fn hidden(picks: &[bool]) -> Vec<Notch> {
    picks
        .iter()
        .enumerate()
        .map(|(index, pick)| Notch {
            label: format!("{}", index + 1),
            words: format!("called {}", if *pick { "B" } else { "A" }),
            state: NotchState::Quiet,
        })
        .collect()
}

fn shown(order: &[bool], picks: &[bool]) -> Vec<Notch> {
    let letter = |b: bool| if b { "B" } else { "A" };
    picks
        .iter()
        .zip(order)
        .map(|(pick, b)| Notch {
            label: letter(*b).to_owned(),
            words: format!("called {}", letter(*pick)),
            state: if pick == b {
                NotchState::Quiet
            } else {
                NotchState::Marked
            },
        })
        .collect()
}
