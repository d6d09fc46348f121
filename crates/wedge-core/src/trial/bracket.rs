//! A bracket of the hands: out until it is too far, back until it is good again, in until it is too near, out again; and the
//! same once more, until the middle is known well enough.

use super::Protocol;
use super::height_sweep::{moves, slides};
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::measure::{Quantity, Refusal, Unit, count, half_mm, mean, spread, within};
use crate::plane::Point;
use crate::rule::rules;
use crate::words::{words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

words! {
    /// What is bracketed.
    pub enum Bracketed {
        Reach "reach" "Reach",
        Height "height" "Height",
    }
}

words! {
    /// What it is ridden on.
    pub enum RiddenOn {
        Bike "bike" "The bike",
        Stand "stand" "A fit stand",
    }
}

impl Bracketed {
    fn quantity(self) -> Quantity {
        match self {
            Self::Reach => Quantity::BbToHand,
            Self::Height => Quantity::BbToHandUp,
        }
    }
}

rules! {
    rules "Bracket of the hands";
    /// Steps on a bike: stems, spacers and hoods allow no finer ones.
    const BIKE_STEP_MM: f64 = 5.0, " mm", House;
    /// Steps on a fit stand.
    const STAND_STEP_MM: f64 = 1.0, " mm", House;
    /// At least so many passes.
    const LEAST_PASSES: usize = 3, "", House;
    /// And no more.
    const MOST_PASSES: usize = 6, "", House;
    /// Known well enough on a stand: half the width that holds 95 in 100.
    const ENOUGH_MM: f64 = 2.0, " mm", House;
    /// The hands go no further from where they began.
    const FAR_MM: f64 = 60.0, " mm", House;
    /// A later pass begins so many steps before the call it looks for.
    const BEFORE_STEPS: f64 = 3.0, "", House;
}

/// Half the width of 95 in 100, in spreads of the mean, by passes less one: Student's t (published).
const T95: [f64; 6] = [12.71, 4.30, 3.18, 2.78, 2.57, 2.45];

/// How a bracket is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Bracket {
    /// What is bracketed.
    pub of: Bracketed,
    /// What it is ridden on.
    pub on: RiddenOn,
    /// From one place to the next, mm.
    pub step_mm: f64,
    /// Where the first pass begins, from where the hands are: farther or higher positive, mm.
    #[serde(default)]
    pub from_mm: f64,
}

impl Bracket {
    fn more(&self) -> (&'static str, &'static str) {
        match self.of {
            Bracketed::Reach => ("farther", "nearer"),
            Bracketed::Height => ("higher", "lower"),
        }
    }

    fn too(&self) -> (&'static str, &'static str) {
        match self.of {
            Bracketed::Reach => ("Too far", "Too near"),
            Bracketed::Height => ("Too high", "Too low"),
        }
    }

    /// "12 mm farther than they were".
    fn place(&self, at: f64) -> String {
        let (more, less) = self.more();
        if at.abs() < 1e-9 {
            "where they were".to_owned()
        } else {
            let way = if at > 0.0 { more } else { less };
            format!("{} mm {way} than they were", written(at.abs()))
        }
    }

    /// When the middle is known well enough.
    fn enough(&self) -> f64 {
        match self.on {
            RiddenOn::Stand => ENOUGH_MM,
            RiddenOn::Bike => self.step_mm,
        }
    }
}

/// The four calls of one pass, from where the hands were.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
struct Pass {
    out: Option<f64>,
    out_back: Option<f64>,
    near: Option<f64>,
    near_back: Option<f64>,
}

impl Pass {
    /// Its middle, once every side was called.
    fn middle(&self) -> Option<f64> {
        Some((self.out? + self.out_back? + self.near? + self.near_back?) / 4.0)
    }
}

/// What was called so far.
#[derive(Debug, Default)]
pub(super) struct SoFar {
    passes: Vec<Pass>,
    trail: Vec<Notch>,
    /// Every place that was called, and as what.
    called: Vec<(f64, &'static str)>,
}

impl SoFar {
    fn middles(&self) -> Vec<f64> {
        self.passes.iter().filter_map(Pass::middle).collect()
    }

    /// The mean of the middles, their spread, and half the width that holds 95 in 100; the last two from the second on.
    /// A call falls on a step, so that a middle is never known better than the steps are fine.
    fn known(&self, step_mm: f64) -> Option<(f64, Option<(f64, f64)>)> {
        let middles = self.middles();
        let mean = mean(&middles)?;
        let spread = spread(&middles, mean).map(|spread| {
            let spread = spread.max(step_mm / 12.0_f64.sqrt());
            let t = T95.get(middles.len() - 2).copied().unwrap_or(2.0);
            (spread, t * spread / count(&middles).sqrt())
        });
        Some((mean, spread))
    }
}

impl Guided for Bracket {
    type SoFar = SoFar;

    const PROTOCOL: Protocol = Protocol::Bracket;
    const AT: &'static [Station] = &[Station::Bars];

    /// Of reach first; once that is known, of height, from where the rider likes it standing still.
    fn proposed(for_this: &Proposing) -> Self {
        let known = |protocol, quantity| {
            let mut found = for_this.findings.iter().rev();
            found.find(|f| {
                f.protocol == protocol && f.quantity == Some(quantity) && f.says == Says::Found
            })
        };
        let of = if known(Protocol::Bracket, Quantity::BbToHand).is_some() {
            Bracketed::Height
        } else {
            Bracketed::Reach
        };
        let liked =
            known(Protocol::StandingStill, Quantity::BbToHandUp).and_then(|found| found.value);
        let from = match of {
            Bracketed::Reach => 0.0,
            Bracketed::Height => liked.map_or(0.0, |liked| liked - for_this.on.before.bike.hand.y),
        };
        let (on, step_mm) = if for_this.stand {
            (RiddenOn::Stand, STAND_STEP_MM)
        } else {
            (RiddenOn::Bike, BIKE_STEP_MM)
        };
        Self {
            of,
            on,
            step_mm,
            from_mm: half_mm(from.clamp(-FAR_MM / 2.0, FAR_MM / 2.0)),
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![
            Setting::word("of", "Bracket of", self.of),
            Setting::word("on", "Ridden on", self.on),
            Setting::number("step_mm", "Step", self.step_mm, Unit::Mm),
            Setting::number("from_mm", "Begins, from here", self.from_mm, Unit::Mm),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let least = STAND_STEP_MM;
        let mut all = Vec::new();
        all.extend(within(
            format!("{at}/step_mm"),
            self.step_mm,
            least,
            20.0,
            "A step, in mm,",
        ));
        all.extend(within(
            format!("{at}/from_mm"),
            self.from_mm,
            -FAR_MM / 2.0,
            FAR_MM / 2.0,
            "The beginning, in mm from where the hands are,",
        ));
        all
    }

    fn read(&self, _run: &Run, script: &mut Script, so_far: &mut SoFar) -> Result<(), Box<Asked>> {
        let (too_much, too_little) = self.too();
        let mut at = self.from_mm;
        for pass in 1..=MOST_PASSES {
            so_far.passes.push(Pass::default());
            let before = so_far.passes.get(pass.wrapping_sub(2)).copied();
            let leg =
                |name: &'static str, way: f64, good: bool, word: &'static str, from: f64| Leg {
                    id: format!("{pass}.{name}"),
                    pass,
                    way,
                    good,
                    word,
                    from,
                };
            // A later pass goes at once to near where the call came before.
            if let Some(far) = before.and_then(|pass| pass.out_back) {
                at = f64::max(at, far - BEFORE_STEPS * self.step_mm);
            }
            let out = self.walk(script, so_far, &leg("out", 1.0, false, too_much, at))?;
            // Called at the very first step, it was too much before already: where it began to be is not known.
            let began = pass > 1 || out.is_some_and(|out| out - self.from_mm > 1.5 * self.step_mm);
            so_far.passes[pass - 1].out = out.filter(|_| began);
            let Some(out) = out else { break };
            let back = self.walk(script, so_far, &leg("out-back", -1.0, true, too_much, out))?;
            so_far.passes[pass - 1].out_back = back;
            let Some(back) = back else { break };
            let from = before.and_then(|pass| pass.near_back).map_or(back, |near| {
                f64::min(back, near + BEFORE_STEPS * self.step_mm)
            });
            let near = self.walk(script, so_far, &leg("near", -1.0, false, too_little, from))?;
            so_far.passes[pass - 1].near = near;
            let Some(near) = near else { break };
            let back = self.walk(
                script,
                so_far,
                &leg("near-back", 1.0, true, too_little, near),
            )?;
            so_far.passes[pass - 1].near_back = back;
            let Some(back) = back else { break };
            at = back;
            let known = so_far.known(self.step_mm).and_then(|(_, spread)| spread);
            if pass >= LEAST_PASSES && known.is_some_and(|(_, half)| half <= self.enough()) {
                break;
            }
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, so_far: &SoFar) -> Vec<Notch> {
        so_far.trail.clone()
    }

    fn finding(&self, run: &Run, so_far: &SoFar) -> Finding {
        let quantity = self.of.quantity();
        let hand = run.on.before.bike.hand;
        let now = match self.of {
            Bracketed::Reach => hand.x,
            Bracketed::Height => hand.y,
        };
        let Some((middle, spread)) = so_far.known(self.step_mm) else {
            return self.one_sided(so_far);
        };
        let ends = |of: fn(&Pass) -> [Option<f64>; 2]| {
            let all: Vec<f64> = so_far.passes.iter().flat_map(of).flatten().collect();
            mean(&all).unwrap_or_default()
        };
        let (low, high) = (
            ends(|pass| [pass.near, pass.near_back]),
            ends(|pass| [pass.out, pass.out_back]),
        );
        let sticks: Vec<f64> = (so_far.passes.iter())
            .filter_map(|pass| Some(pass.out? - pass.out_back? + pass.near_back? - pass.near?))
            .map(|both| both / 2.0)
            .collect();
        let hysteresis = mean(&sticks).unwrap_or_default();
        let settled = spread.is_some_and(|(_, half)| half <= self.enough());
        let half = spread.map(|(_, half)| half);
        let mut words = vec![format!(
            "The middle is {}: {} passes{}.",
            self.place((middle * 2.0).round() / 2.0),
            so_far.middles().len(),
            half.map_or_else(String::new, |half| format!(
                ", ± {} mm holds 95 in 100",
                written(half)
            )),
        )];
        words.push(format!(
            "{} from {}, {} from {}; calls on the way out and back lie {} mm apart.",
            self.too().1,
            self.place(low.round()),
            self.too().0.to_lowercase(),
            self.place(high.round()),
            written(hysteresis),
        ));
        if !settled {
            words.push(
                "Not a bracket yet: one more pass, or finer steps, would tell it.".to_owned(),
            );
        }
        let by = match self.of {
            Bracketed::Reach => Point::new(middle, 0.0),
            Bracketed::Height => Point::new(0.0, middle),
        };
        let moves = if settled && middle.abs() >= self.step_mm / 2.0 {
            match self.on {
                RiddenOn::Stand => slides(run.on, by),
                RiddenOn::Bike => moves(run.on, by),
            }
        } else {
            Vec::new()
        };
        Finding {
            words,
            quantity: Some(quantity),
            value: Some(now + middle),
            low: Some(now + low),
            high: Some(now + high),
            spread: half.map(|half| half / 1.96),
            moves,
            ..Finding::new(
                Protocol::Bracket,
                if settled { Says::Found } else { Says::Nothing },
                format!(
                    "{} {} mm{}",
                    quantity.spec().label,
                    written((now + middle).round()),
                    half.map_or_else(String::new, |half| format!(" ± {}", written(half.max(0.5))))
                ),
            )
        }
    }
}

impl Bracket {
    /// The places that were called so far, from the BB, each with what it was called.
    pub fn called(&self, run: &Run) -> Vec<(Point, String)> {
        let (mut script, mut so_far) = (Script::of(run), SoFar::default());
        // What is not called yet is not asked for here.
        let _ = self.read(run, &mut script, &mut so_far);
        let hand = run.on.before.bike.hand;
        let at = |by: f64| match self.of {
            Bracketed::Reach => hand + Point::new(by, 0.0),
            Bracketed::Height => hand + Point::new(0.0, by),
        };
        (so_far.called.into_iter())
            .map(|(by, word)| (at(by), word.to_lowercase()))
            .collect()
    }
}

/// One way along the bracket.
struct Leg {
    id: String,
    pass: usize,
    /// Farther or higher positive.
    way: f64,
    /// Whether it is looked for that it is good again, not that it is too much.
    good: bool,
    /// "Too far".
    word: &'static str,
    from: f64,
}

impl Bracket {
    /// Step by step until it is called; `None` where the hands would go too far from where they began.
    fn walk(
        &self,
        script: &mut Script,
        so_far: &mut SoFar,
        leg: &Leg,
    ) -> Result<Option<f64>, Box<Asked>> {
        let mut at = leg.from;
        let still = format!("Still {}", leg.word.to_lowercase());
        let (first, second) = if leg.good {
            (still.as_str(), "Good again")
        } else {
            ("Good", leg.word)
        };
        for n in 1.. {
            at += leg.way * self.step_mm;
            if at.abs() > FAR_MM {
                break;
            }
            let ask = Ask::keys(
                format!("{}.{n}", leg.id),
                "How is it there?",
                &[("1", first), ("2", second)],
            );
            let place = self.place(at);
            let called = script
                .ask(ask, || Saying {
                    place: format!("Pass {}", leg.pass),
                    instruction: format!("Hands {place}"),
                    detail: "Seated on the saddle's wide part, hands where most of the riding is done. Ride half a minute, \
                             then call."
                        .to_owned(),
                    timer_s: Some(30),
                })
                .map_err(|asked| asked.riding(written(at)).moved(self.of.quantity(), at))?;
            let there = called.is("2");
            so_far.trail.push(Notch {
                label: written(at),
                words: if there { second } else { first }.to_lowercase(),
                state: if there {
                    NotchState::Marked
                } else {
                    NotchState::Quiet
                },
            });
            if there {
                so_far
                    .called
                    .push((at, if leg.good { "good again" } else { leg.word }));
                return Ok(Some(at));
            }
        }
        Ok(None)
    }

    /// What is said before both sides were called.
    fn one_sided(&self, so_far: &SoFar) -> Finding {
        let Some(first) = so_far
            .passes
            .first()
            .filter(|pass| pass.out.is_some() || pass.near.is_some())
        else {
            return if so_far.trail.is_empty() {
                Finding::broken(Protocol::Bracket)
            } else {
                Finding {
                    words: vec![format!(
                        "Nothing was called up to {} mm: the rider minds none of it, or the steps are too fine to feel.",
                        written(FAR_MM)
                    )],
                    ..Finding::new(Protocol::Bracket, Says::Nothing, "Nothing called")
                }
            };
        };
        let side = if first.near.is_some() {
            self.too().1
        } else {
            self.too().0
        };
        Finding {
            words: vec![format!(
                "Called on one side only, {}: not a bracket yet. It wants the other side, and a second pass.",
                side.to_lowercase()
            )],
            ..Finding::new(Protocol::Bracket, Says::Nothing, "Not a bracket yet")
        }
    }
}
