//! What a hidden rider says and shows where he stands. The how-manieth question of a kind it is names the row of draws its
//! answer comes from, so the same question is always answered alike and another one anew.

use super::laws::{ACHES, Ache, SIGNS, law};
use super::{Character, HiddenRider, Out, Row};
use crate::dice::Dice;
use serde::Serialize;
use wedge_core::intake::{At, Complaint, Place, Stroke, When};
use wedge_core::judge::{Axis, Felt};
use wedge_core::looking::Sign;
use wedge_core::trial::Sure;
use wedge_core::units::Side;

/// Something hurts enough to be told from here on, of 10.
const TELLS: f64 = 1.5;
/// How differently riders bear one and the same thing: one standard deviation of the logarithm.
const BEARS: f64 = 0.45;
/// How often a place hurts that nothing is wrong with.
const FALSE_ALARM: f64 = 0.012;
/// How often a sign is seen wrongly.
const MISSEEN: f64 = 0.04;
/// How much the feeling for a difference wavers, in changes the rider just notices.
const WAVERS: f64 = 0.45;
/// Where soft pedalling is compared with hard: how much more it wavers.
const UNLIKE: f64 = 3.0;
/// From here on a difference is one.
const NOTICED: f64 = 0.6;
/// What a change beyond what one adapts to takes away for a while.
const STRANGE: f64 = 0.5;
/// Well inside the window nothing is minded: this share of its half.
const EASY: f64 = 0.5;
/// How often a contrary rider says the opposite, and how often a vague one leaves a complaint out.
const CONTRARY: f64 = 0.1;
const LEFT_OUT: f64 = 0.25;

/// Which question of its kind it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Asked(pub u32);

/// What kinds of questions there are.
#[derive(Debug, Clone, Copy)]
enum Question {
    Aches,
    Sign,
    Compare,
    Find,
    Read,
    Device,
}

/// How a change felt.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Answered {
    /// Better, the same, worse.
    pub felt: Felt,
    /// How sure.
    pub sure: Sure,
    /// Where it is felt most, where it is felt anywhere.
    pub place: Option<Place>,
}

/// How much hurts at one place, and where in the stroke what hurts most there is felt.
struct Hurt {
    bad: f64,
    stroke: Option<Stroke>,
}

impl HiddenRider {
    fn asked(&self, question: Question, asked: Asked, what: u64) -> Dice {
        let name = (question as u64) << 28 | what << 16 | u64::from(asked.0);
        Dice::of(self.seed, Row::Asked.name(name))
    }

    /// What this rider bears of something: 1 is usual, more hurts later.
    fn bears(&self, what: u64, side: Option<Side>) -> f64 {
        let side = side.map_or(0, |side| 1 + side as u64);
        let mut dice = Dice::of(self.seed, Row::Bears.name(what << 2 | side));
        dice.normal(BEARS).exp()
    }

    /// How much a place hurts, of 10.
    fn hurts(&self, out: &Out, ache: &Ache, side: Option<Side>) -> Hurt {
        let parts = ache.from.iter().map(|(wrong, by, stroke)| {
            // A second half-width hurts less than the first.
            (by * self.much(out, *wrong, side).powf(0.8), *stroke)
        });
        let parts: Vec<(f64, Option<Stroke>)> = parts.collect();
        let most = parts.iter().max_by(|a, b| a.0.total_cmp(&b.0));
        let sum: f64 = parts.iter().map(|(by, _)| by).sum();
        Hurt {
            bad: (sum / self.bears(ache.place as u64, side)).min(10.0),
            stroke: most.filter(|(by, _)| *by > 0.5 * sum).and_then(|(_, s)| *s),
        }
    }

    /// Where it hurts, as he tells it.
    pub fn aches(&self, places: &[f64], asked: Asked) -> Vec<Complaint> {
        let out = self.out(places);
        let mut all = Vec::new();
        for ache in ACHES {
            let mut dice = self.asked(Question::Aches, asked, ache.place as u64);
            let false_alarm = dice.happens(FALSE_ALARM * self.noise);
            let kept_quiet = self.character == Character::Vague && dice.happens(LEFT_OUT);
            let wavers = dice.normal(0.5 * self.noise);
            let sides: Vec<(Option<Side>, Hurt)> = if ache.place.per_side() {
                let of = |side: Side| (Some(side), self.hurts(&out, ache, Some(side)));
                Side::BOTH.map(of).into()
            } else {
                vec![(None, self.hurts(&out, ache, None))]
            };
            let told: Vec<&(Option<Side>, Hurt)> = sides
                .iter()
                .filter(|(_, hurt)| hurt.bad + wavers >= TELLS)
                .collect();
            let worst = told.iter().max_by(|a, b| a.1.bad.total_cmp(&b.1.bad));
            let (bad, stroke, side) = match worst {
                Some((_, hurt)) if kept_quiet && hurt.bad < 5.0 => continue,
                Some((side, hurt)) => {
                    let both = told.len() > 1;
                    (hurt.bad + wavers, hurt.stroke, side.filter(|_| !both))
                }
                None if false_alarm => (dice.between(1.5, 3.5), None, None),
                None => continue,
            };
            all.push(complaint(ache, side, stroke, bad));
        }
        all
    }

    /// Whether a sign is there, as somebody who looks for it sees it.
    pub fn shows(&self, places: &[f64], sign: Sign, side: Option<Side>, asked: Asked) -> bool {
        let sum = self.signed(&self.out(places), sign, side);
        let what = 64 + sign as u64;
        let there = sum >= self.bears(what, side);
        let side = side.map_or(0, |side| 1 + side as u64);
        let mut dice = self.asked(Question::Sign, asked, what << 2 | side);
        there != dice.happens(MISSEEN * self.noise)
    }

    /// How much of a sign there is; who bears as most do shows it from 1 on.
    pub(super) fn signed(&self, out: &Out, sign: Sign, side: Option<Side>) -> f64 {
        let of = SIGNS.iter().find(|of| of.sign == sign);
        of.map_or(0.0, |of| {
            let parts = of.from.iter();
            parts
                .map(|(wrong, by)| by * self.much(out, *wrong, side))
                .sum()
        })
    }

    /// How much the rider minds where he stands, in changes he just notices.
    fn minds(&self, places: &[f64]) -> f64 {
        let of = Axis::ALL.iter().map(|axis| {
            let (law, window) = (law(*axis), self.window(*axis));
            let off = places[*axis as usize] - window.centre;
            let minds = if off > 0.0 { law.minds.0 } else { law.minds.1 };
            let beyond = (off.abs() - EASY * window.half).max(0.0);
            minds * beyond / (law.notices * self.feels_mm / 5.0)
        });
        of.sum()
    }

    /// How a change felt, ridden at a like effort or not.
    pub fn compare(&self, was: &[f64], is: &[f64], like: bool, asked: Asked) -> Answered {
        let mut dice = self.asked(Question::Compare, asked, 0);
        let wavers = WAVERS
            * self.noise
            * if like { 1.0 } else { UNLIKE }
            * if self.character == Character::Vague {
                1.6
            } else {
                1.0
            };
        let strange = (Axis::ALL.iter())
            .filter(|axis| {
                let by = is[**axis as usize] - was[**axis as usize];
                by.abs() > law(**axis).strange
            })
            .count();
        let strange = if strange > 0 { STRANGE } else { 0.0 };
        let mut gained = self.minds(was) - self.minds(is) - strange + dice.normal(wavers);
        if self.character == Character::Contrary && dice.happens(CONTRARY) {
            gained = -gained;
        }
        let felt = match gained {
            gained if gained > NOTICED => Felt::Better,
            gained if gained < -NOTICED => Felt::Worse,
            _ => Felt::Same,
        };
        let sure = match (gained.abs(), self.character) {
            (by, Character::Vague) if by < 2.0 => Sure::Guess,
            (by, _) if by > 1.8 => Sure::Certain,
            (by, _) if !(0.45..0.8).contains(&by) => Sure::Fairly,
            _ => Sure::Guess,
        };
        Answered {
            felt,
            sure,
            place: self.felt_at(was, is, felt),
        }
    }

    /// Where a change is felt most.
    fn felt_at(&self, was: &[f64], is: &[f64], felt: Felt) -> Option<Place> {
        let (before, after) = (self.out(was), self.out(is));
        let by = ACHES.iter().map(|ache| {
            let gained = self.hurts(&before, ache, None).bad - self.hurts(&after, ache, None).bad;
            (ache.place, gained)
        });
        let most = by.max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()))?;
        let fits = match felt {
            Felt::Better => most.1 > 1.0,
            Felt::Worse => most.1 < -1.0,
            Felt::Same => false,
        };
        fits.then_some(most.0)
    }

    /// By what readings of this question are off.
    pub fn misread(&self, asked: Asked) -> Dice {
        self.asked(Question::Read, asked, 0)
    }

    /// What a device's reading of this question is off by.
    pub(crate) fn read_by(&self, device: u64, asked: Asked) -> Dice {
        self.asked(Question::Device, asked, device)
    }

    /// What does not change from question to question: where a marker was put, how the rider is made.
    pub(crate) fn placed_by(&self, name: u64) -> Dice {
        Dice::of(self.seed, Row::Placed.name(0) ^ name)
    }

    /// Where a protocol ends on an axis, and with what spread it says so.
    pub fn finds(&self, axis: Axis, asked: Asked) -> (f64, f64) {
        let mut dice = self.asked(Question::Find, asked, axis as u64);
        let spread = law(axis).finds * self.noise;
        (self.window(axis).centre + dice.normal(spread), spread)
    }
}

fn complaint(ache: &Ache, side: Option<Side>, stroke: Option<Stroke>, bad: f64) -> Complaint {
    let bad = bad.clamp(1.0, 10.0).round();
    let how_bad = (1..=10_u8).rfind(|step| f64::from(*step) <= bad);
    Complaint {
        id: String::new(),
        place: ache.place,
        side,
        feel: ache.feel,
        when: Some(if bad >= 6.0 {
            When::AfterAWhile
        } else {
            When::Late
        }),
        stroke,
        effort: Some(At::Steady),
        how_bad,
        words: String::new(),
    }
}
