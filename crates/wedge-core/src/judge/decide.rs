//! What standing where one stands costs, and the next move: one ranking of bolts, protocols, looks, remedies and endings.

use super::axis::{About, Axis, CELLS, Hidden, Suspect};
use super::case::{Bolt, Case, Evidence};
use super::craft::Craft;
use super::net::{Felt, Kind, better_worse, dot};
use super::reading::{Evident, MARGIN_DEG, day, far, keeps, off, read, sided};
use super::tables::{L, LOOKS, MOVES, MoveSpec, R, SADDLE, TESTS, node, stakes, upstream};
use crate::looking::Sign;
use crate::trial::Sure;
use crate::units::Side;
use serde::Serialize;

const STAKE: f64 = 0.35;
const FULL_FIT: f64 = 18.0;
/// What a complaint hands out, of 10, and a sign.
const RELIEF: f64 = 1.6;
const SIGN: f64 = 0.2;
const FAR: f64 = 6.0;
const SURE: f64 = 0.8;
const AT_ONCE: f64 = 2.0;
const LEARN: f64 = 0.5;
const ORDER: f64 = 0.9;
const RIGHT: f64 = 0.3;
const AFTER_GROSS: f64 = 0.5;
const TRUST: (f64, f64) = (0.5, 0.65);
const TRUST_BARE: (f64, f64) = (0.25, 0.45);
const GUESS: f64 = 0.8;
const AGAIN: f64 = 0.1;
const BOLT: f64 = 0.10;
const MEASURE_AGAIN: f64 = 1.0;
const REPEAT: f64 = 0.1;
const SHIM_READY: f64 = 0.6;
const DONE: f64 = 0.06;
const REFER: (f64, f64) = (0.8, 0.15);
const SHORT_STEM_MM: f64 = 80.0;
const LINKED_BONUS: f64 = 0.2;
const LIMIT_STAKE: f64 = 0.12;
const NEVER_UNDER_DEG: f64 = 2.0;
const LADDER_COST: f64 = 0.12;
const LEGS_COST: f64 = 0.05;

/// One thing that may be done next.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Candidate {
    /// `move`, `linked`, `test`, `put_back`, `done`, `refer`, or a remedy.
    #[serde(rename = "do")]
    pub act: String,
    /// Which.
    pub what: String,
    /// The axis it is told of.
    pub axis: Option<String>,
    /// "+" or "-".
    pub dir: Option<&'static str>,
    /// How much, without sign.
    pub amount: f64,
    /// Of which side.
    pub side: Option<Side>,
    /// What it is worth.
    pub score: f64,
    /// The fault it mends.
    pub fault: Option<String>,
    /// Why it is not proposed all the same.
    pub blocked: Vec<String>,
    /// The axis it goes by.
    #[serde(skip)]
    pub of: Option<Axis>,
    /// The bolts it turns, each by so much.
    #[serde(skip)]
    pub bolts: Vec<(Bolt, f64)>,
    /// Where each axis it moves would stand from where it stands.
    #[serde(skip)]
    pub moves: Vec<(Axis, f64)>,
    /// The chance that the axis it goes by lies in its window afterwards.
    #[serde(skip)]
    pub lands: Option<f64>,
}

impl Candidate {
    /// Nothing left to do.
    pub fn done() -> Self {
        Self::new("done", "done", DONE)
    }

    fn new(act: &str, what: &str, score: f64) -> Self {
        Self {
            act: act.to_owned(),
            what: what.to_owned(),
            axis: None,
            dir: None,
            amount: 0.0,
            side: None,
            score,
            fault: None,
            blocked: Vec::new(),
            of: None,
            bolts: Vec::new(),
            moves: Vec::new(),
            lands: None,
        }
    }
}

/// What an axis is believed to be.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct AxisBelief {
    /// Which.
    pub axis: &'static str,
    /// Where the bike stands, from the bike as found.
    pub now: f64,
    /// Chance that it stands too far in +, within the window, too far in −.
    pub chances: (f64, f64, f64),
    /// Where the right place most likely is.
    pub right: f64,
    /// The middle of what is believed.
    pub mean: f64,
    /// Where it costs least to stand, of the places that limits and parts allow.
    pub least: f64,
    /// How much likelier the right place is than where it stands: ten times the logarithm.
    pub points: f64,
    /// Every witness with its points for that place against where it stands, the strongest first: they add up to `points`.
    pub witnesses: Vec<Witness>,
    /// What is believed of each place, one in the likeliest.
    #[serde(skip)]
    pub belief: Vec<f64>,
}

/// One witness on an axis.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Witness {
    /// As it is told.
    pub name: String,
    /// What it gives the right place against where the bike stands: ten times the logarithm.
    pub points: f64,
    /// Which piece of the evidence it is, from 0; none of what is known before any.
    pub piece: Option<usize>,
    /// What it says of each place, one at its likeliest.
    #[serde(skip)]
    pub ridge: Vec<f64>,
}

/// A fault with what it costs where it stands, and its chance.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Charged {
    /// Which.
    pub fault: String,
    /// What it costs.
    pub cost: f64,
    /// Its chance.
    pub chance: f64,
}

/// What the judge says.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Judgement {
    /// The next move.
    pub next: Candidate,
    /// The others worth naming, the best first.
    pub others: Vec<Candidate>,
    /// What a limit, a wall or the parts forbid.
    pub blocked: Vec<Candidate>,
    /// Every fault, the costliest first.
    pub faults: Vec<Charged>,
    /// Every axis.
    pub axes: Vec<AxisBelief>,
    /// What is said besides: `limit`, `wrong_frame`, `refer`, `put_back`, `load`.
    pub says: Vec<&'static str>,
    /// Signs worth asking for, what knowing them is worth before a minute is spent, the most first.
    pub asks: Vec<Asking>,
    /// Sweeps of talk it took.
    pub sweeps: usize,
}

/// A sign worth asking for.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Asking {
    /// Which.
    pub sign: Sign,
    /// On which side, where there are two.
    pub side: Option<Side>,
    /// How much less is lost for knowing it.
    pub worth: f64,
}

/// Judges the evidence of a case by the house's tables.
pub fn judge(case: &Case) -> Judgement {
    judge_by(case, &Craft::default())
}

/// Judges the evidence of a case by what the bolts of one rider's bike do, and by what a studio has of its own.
pub fn judge_by(case: &Case, craft: &Craft) -> Judgement {
    Judging::of(read(case, craft)).judged()
}

struct Judging {
    fit: Evident,
    belief: Vec<Vec<f64>>,
    stake: Vec<(Suspect, f64)>,
    /// Where each complaint is nobody's fault, and of which axes it speaks.
    nobody: Vec<(f64, f64, Vec<Axis>)>,
    /// Cost of each place were the right one at each cell: axis by axis, row by row.
    tables: Vec<Vec<f64>>,
    here: Vec<f64>,
    allowed: Vec<Vec<bool>>,
    /// The allowed place of each axis where it costs least to stand.
    cheapest: Vec<f64>,
}

impl Judging {
    fn of(fit: Evident) -> Self {
        let belief: Vec<Vec<f64>> = About::all()
            .map(|about| fit.net.belief(about, None))
            .collect();
        let mut judging = Self {
            fit,
            belief,
            stake: Vec::new(),
            nobody: Vec::new(),
            tables: Vec::new(),
            here: Vec::new(),
            allowed: Vec::new(),
            cheapest: Vec::new(),
        };
        judging.stakes();
        judging.tables();
        judging.allowed = Axis::ALL
            .iter()
            .map(|axis| judging.places_allowed(*axis))
            .collect();
        judging.cheapest = (Axis::ALL.iter())
            .map(|axis| judging.cheapest_place(*axis))
            .collect();
        judging
    }

    fn believed(&self, axis: Axis) -> &[f64] {
        &self.belief[axis as usize]
    }

    fn half(&self, axis: Axis) -> f64 {
        self.fit.craft.half(axis)
    }

    fn there(&self, hidden: Hidden) -> f64 {
        self.belief[About::There(hidden).index()][1]
    }

    fn stake_of(&self, suspect: Suspect) -> f64 {
        let of = self.stake.iter().find(|(known, _)| *known == suspect);
        of.map_or(0.0, |(_, stake)| *stake)
    }

    /// How much a misfit counts that nobody feels.
    fn silent_counts(&self) -> f64 {
        if self.fit.rider.full_fit {
            FULL_FIT
        } else {
            1.0
        }
    }

    /// What each fault costs: what matters to the rider, and the complaints it is to blame for.
    fn stakes(&mut self) {
        let weights = self.fit.rider.weights.map_or([5.0, 5.0, 5.0, 0.0], |w| {
            [w.comfort, w.injury, w.power, w.speed]
        });
        let full = self.silent_counts();
        self.stake = Suspect::all()
            .map(|suspect| {
                let row: f64 = dot(&stakes(suspect), &weights) / 10.0;
                (suspect, STAKE * full * row)
            })
            .collect();
        let mut blame: Vec<(Suspect, f64)> = Vec::new();
        let (complaints, signs): (Vec<_>, Vec<_>) = self
            .fit
            .heard
            .clone()
            .into_iter()
            .partition(|heard| heard.how_bad.is_some());
        for heard in complaints.into_iter().chain(signs) {
            let amount = heard.how_bad.map_or(SIGN, |bad| bad / 10.0) * RELIEF;
            let nobody = self.pass_on(heard.factor, amount, &mut blame);
            if let Some(bad) = heard.how_bad {
                let about = self.fit.net.factors[heard.factor].about.iter();
                let axes = about.filter_map(|about| match about {
                    About::Place(axis) => Some(*axis),
                    About::There(_) => None,
                });
                self.nobody.push((bad, nobody, axes.collect()));
            }
        }
        for factor in 0..self.fit.net.factors.len() {
            let of = &self.fit.net.factors[factor];
            if !matches!(of.kind, Kind::NoisyOr { present: None, .. }) {
                continue;
            }
            let child = of.about.last().copied();
            let charged = blame
                .iter()
                .find(|(suspect, _)| Some(suspect.about) == child);
            if let Some((_, amount)) = charged.copied().filter(|(_, amount)| *amount > 0.0) {
                self.pass_on(factor, amount, &mut blame);
            }
        }
        for (suspect, amount) in blame {
            if let Some((_, stake)) = self.stake.iter_mut().find(|(known, _)| *known == suspect) {
                *stake += amount;
            }
        }
    }

    /// Hands blame to who caused it; what is nobody's is answered.
    fn pass_on(&self, factor: usize, amount: f64, blame: &mut Vec<(Suspect, f64)>) -> f64 {
        let of = &self.fit.net.factors[factor];
        let Kind::NoisyOr { keep, .. } = &of.kind else {
            return 1.0;
        };
        let (shares, nobody) = of.shares(|about| self.belief[about.index()].clone());
        let mut add =
            |suspect: Suspect, by: f64| match blame.iter_mut().find(|(s, _)| *s == suspect) {
                Some((_, sum)) => *sum += by,
                None => blame.push((suspect, by)),
            };
        for ((about, keep), share) in of.about.iter().zip(keep).zip(shares) {
            match about {
                About::Place(axis) => {
                    let (b, now) = (self.believed(*axis), self.fit.at(*axis));
                    let whole: f64 = b.iter().zip(keep).map(|(b, k)| b * (1.0 - k)).sum();
                    let whole = if whole == 0.0 { 1.0 } else { whole };
                    for way in [1, -1_i8] {
                        let reach = (0..CELLS)
                            .filter(|cell| f64::from(way) * (now - axis.at(*cell)) > 0.0)
                            .map(|cell| b[cell] * (1.0 - keep[cell]))
                            .sum::<f64>();
                        add(Suspect::place(*axis, way), amount * share * reach / whole);
                    }
                }
                About::There(_) => add(
                    Suspect {
                        about: *about,
                        way: 0,
                    },
                    amount * share,
                ),
            }
        }
        nobody
    }

    fn tables(&mut self) {
        self.tables = Axis::ALL
            .iter()
            .map(|axis| {
                let (up, down) = (
                    self.stake_of(Suspect::place(*axis, 1)),
                    self.stake_of(Suspect::place(*axis, -1)),
                );
                let (grid, half) = (axis.grid(), self.half(*axis));
                let mut table = Vec::with_capacity(CELLS * CELLS);
                for place in &grid {
                    table.extend(grid.iter().map(|right| {
                        up * off(half, *place, *right, 1.0).min(FAR)
                            + down * off(half, *place, *right, -1.0).min(FAR)
                    }));
                }
                table
            })
            .collect();
        self.here = Axis::ALL
            .iter()
            .map(|axis| self.loss(*axis, self.fit.at(*axis), self.believed(*axis)))
            .collect();
    }

    fn row(&self, axis: Axis, cell: usize) -> &[f64] {
        &self.tables[axis as usize][cell * CELLS..(cell + 1) * CELLS]
    }

    /// What standing at a place costs, by a belief.
    fn loss(&self, axis: Axis, place: f64, belief: &[f64]) -> f64 {
        let (low, share) = cell_of(axis, place);
        (1.0 - share) * dot(self.row(axis, low), belief)
            + share * dot(self.row(axis, low + 1), belief)
    }

    fn lost(&self, axis: Axis, place: f64) -> f64 {
        self.loss(axis, place, self.believed(axis))
    }

    fn costs(&self, axis: Axis, belief: &[f64]) -> Vec<f64> {
        (0..CELLS)
            .map(|cell| dot(self.row(axis, cell), belief))
            .collect()
    }

    fn cheapest_place(&self, axis: Axis) -> f64 {
        let costs = self.costs(axis, self.believed(axis));
        let allowed = &self.allowed[axis as usize];
        (0..CELLS)
            .filter(|cell| allowed[*cell])
            .min_by(|x, y| costs[*x].total_cmp(&costs[*y]))
            .map_or_else(|| self.fit.at(axis), |cell| axis.at(cell))
    }

    /// The least that any allowed place costs by a belief.
    fn least(&self, axis: Axis, belief: &[f64]) -> f64 {
        let allowed = &self.allowed[axis as usize];
        (0..CELLS)
            .filter(|cell| allowed[*cell])
            .map(|cell| dot(self.row(axis, cell), belief))
            .fold(f64::INFINITY, f64::min)
    }

    /// Chance of too far in +, fine, too far in −.
    fn chances(&self, axis: Axis) -> (f64, f64, f64) {
        let (b, now, half) = (self.believed(axis), self.fit.at(axis), self.half(axis));
        let sum = |beyond: &dyn Fn(f64) -> bool| -> f64 {
            (0..CELLS)
                .filter(|cell| beyond(axis.at(*cell)))
                .map(|cell| b[cell])
                .sum()
        };
        let plus = sum(&|x| x < now - half);
        let minus = sum(&|x| x > now + half);
        (plus, 1.0 - plus - minus, minus)
    }

    /// Chance that an axis lies in its window once it has moved by so much.
    fn lands(&self, axis: Axis, by: f64) -> f64 {
        let (to, half) = (self.fit.at(axis) + by, self.half(axis));
        let inside = |cell: &usize| (axis.at(*cell) - to).abs() <= half;
        (0..CELLS)
            .filter(inside)
            .map(|cell| self.believed(axis)[cell])
            .sum()
    }

    fn mean(&self, axis: Axis) -> f64 {
        dot(self.believed(axis), &axis.grid())
    }

    fn is_gross(&self, axis: Axis) -> bool {
        let Some(gross) = axis.spec().gross else {
            return false;
        };
        let now = self.fit.at(axis);
        let mean = self.mean(axis) - now;
        let way = mean.signum();
        let beyond: f64 = (0..CELLS)
            .filter(|cell| way * (axis.at(*cell) - now) > gross / 2.0)
            .map(|cell| self.believed(axis)[cell])
            .sum();
        mean.abs() >= gross && beyond >= SURE
    }

    /// How far the parts let an axis go from here.
    fn room(&self, axis: Axis) -> (f64, f64) {
        let now = self.fit.at(axis);
        let room = self.fit.bike.room.get(axis.key());
        room.map_or((f64::NEG_INFINITY, f64::INFINITY), |(low, high)| {
            (low - now, high - now)
        })
    }

    fn places_allowed(&self, axis: Axis) -> Vec<bool> {
        let ((low, high), now) = (self.room(axis), self.fit.at(axis));
        let mut all: Vec<bool> = (0..CELLS)
            .map(|cell| {
                let by = axis.at(cell) - now;
                (low - 1.0..=high + 1.0).contains(&by) && self.walls_hit(&[(axis, by)]).is_empty()
            })
            .collect();
        let nearest = (0..CELLS).min_by(|a, b| {
            (axis.at(*a) - now)
                .abs()
                .total_cmp(&(axis.at(*b) - now).abs())
        });
        if let Some(nearest) = nearest {
            all[nearest] = true;
        }
        all
    }

    /// What a move would run into: limits of the rider, walls.
    fn walls_hit(&self, effect: &[(Axis, f64)]) -> Vec<String> {
        let mut hit = Vec::new();
        for limit in &self.fit.limits {
            let worse = self.worse(limit.joint, effect);
            let after = limit.margin - worse;
            if worse > 0.2 && after < NEVER_UNDER_DEG {
                hit.push(format!(
                    "{} limit: {after:.1}° of room left",
                    limit.joint.label()
                ));
            }
        }
        for (axis, least, most, why) in &self.fit.walls {
            let by = effect
                .iter()
                .find(|(of, _)| of == axis)
                .map_or(0.0, |(_, by)| *by);
            let to = self.fit.at(*axis) + by;
            if by.abs() > 0.1 && (to > *most || to < *least) {
                hit.push(why.clone());
            }
        }
        hit
    }

    fn worse(&self, joint: super::case::Limited, effect: &[(Axis, f64)]) -> f64 {
        let slope = |axis: &Axis| self.fit.craft.limit_slope(joint, *axis);
        effect.iter().map(|(axis, by)| slope(axis) * by).sum()
    }

    /// From here to where it costs least, in safe steps; further only as far as four in five of the belief lie beyond.
    fn amount(&self, axis: Axis) -> f64 {
        let spec = axis.spec();
        let (b, now) = (self.believed(axis), self.fit.at(axis));
        let want = self.cheapest[axis as usize] - now;
        if want.abs() < 0.5 * spec.round {
            return 0.0;
        }
        let way = want.signum();
        let mut order: Vec<usize> = (0..CELLS).collect();
        let distance = |cell: usize| way * (axis.at(cell) - now);
        order.sort_by(|x, y| distance(*x).total_cmp(&distance(*y)));
        let mut sum = 0.0;
        let sure = order
            .iter()
            .find(|cell| {
                sum += b[**cell];
                sum >= 1.0 - SURE
            })
            .map_or(0.0, |cell| distance(*cell));
        let feels = self.fit.feels * spec.felt;
        let step = spec.step.max(feels);
        let mut most = step;
        if sure > step {
            // A protocol ends set where it found.
            most = if self.is_gross(axis) || self.fit.was_settled(axis) {
                sure
            } else {
                sure.min(spec.most.unwrap_or(AT_ONCE * spec.step))
            };
        }
        let mut by = want.abs().min(step.max(most));
        if let Some(most) = spec.most {
            by = by.min(most);
        }
        let least = if spec.is_mm {
            feels.min(2.0 * spec.step)
        } else {
            0.0
        };
        by = by.max(least.min(1.5 * want.abs()));
        way * spec
            .round
            .max((by / spec.round).round_ties_even() * spec.round)
    }

    /// Upstream first: what is below shifts when what is above moves. Gross errors do not wait.
    fn order(&self, axis: Axis) -> f64 {
        if self.is_gross(axis) {
            return 1.0;
        }
        let worry = |about: &About| match about {
            About::There(hidden) => self.there(*hidden),
            About::Place(of) => (1.0 - self.chances(*of).1 - RIGHT) / (1.0 - RIGHT),
        };
        let most = upstream(axis).iter().map(worry).fold(0.0, f64::max);
        let others = Axis::ALL
            .iter()
            .any(|other| *other != axis && self.is_gross(*other));
        (1.0 - ORDER * most) * if others { AFTER_GROSS } else { 1.0 }
    }

    fn faults(&self) -> Vec<Charged> {
        let mut all: Vec<Charged> = Suspect::all()
            .filter(|suspect| suspect.way == 0 || !self.fit.overruled.contains(&suspect.key()))
            .map(|suspect| {
                let (cost, chance) = match suspect.about {
                    About::Place(axis) => {
                        let (plus, _, minus) = self.chances(axis);
                        let way = f64::from(suspect.way);
                        let (now, half) = (self.fit.at(axis), self.half(axis));
                        let out =
                            (0..CELLS).map(|cell| off(half, now, axis.at(cell), way).min(FAR));
                        let out: Vec<f64> = out.collect();
                        (
                            dot(self.believed(axis), &out) * self.stake_of(suspect),
                            if suspect.way > 0 { plus } else { minus },
                        )
                    }
                    About::There(hidden) => {
                        let p = self.there(hidden);
                        (p * self.stake_of(suspect), p)
                    }
                };
                Charged {
                    fault: suspect.key(),
                    cost,
                    chance,
                }
            })
            .collect();
        all.sort_by(|a, b| b.cost.total_cmp(&a.cost));
        all
    }

    fn moves(&self) -> Vec<Candidate> {
        (MOVES.iter().chain([&SADDLE]))
            .filter_map(|spec| self.proposed(spec, self.led_by(spec)))
            .collect()
    }

    /// The axis a move goes by: of both cleats together the one that asks for more.
    fn led_by(&self, spec: &MoveSpec) -> Axis {
        if spec.name != "cleats" {
            return spec.axis;
        }
        let asks = |axis: Axis| {
            let (plus, _, minus) = self.chances(axis);
            (self.amount(axis).abs(), plus.max(minus))
        };
        if asks(Axis::CleatR) > asks(Axis::CleatL) {
            Axis::CleatR
        } else {
            Axis::CleatL
        }
    }

    fn proposed(&self, spec: &MoveSpec, axis: Axis) -> Option<Candidate> {
        let by = self.amount(axis);
        if by == 0.0 {
            return None;
        }
        let (low, high) = self.room(axis);
        let by = by.max(low).min(high);
        if by.abs() < 0.9 * axis.spec().round {
            return None;
        }
        let way = if by > 0.0 { -1 } else { 1_i8 };
        let fault = Suspect::place(axis, way).key();
        if self.fit.overruled.contains(&fault) {
            return None;
        }
        let bolts = self.fit.craft.bolts_of(spec).into_iter();
        let bolts: Vec<(Bolt, f64)> = bolts.map(|(bolt, per)| (bolt, per * by)).collect();
        let effect = self.fit.craft.moved_by(bolts.iter().copied());
        // What a bolt carries along carries its room along too, where that is worked out.
        let fits = |(of, by): &(Axis, f64)| {
            let (low, high) = self.room(*of);
            (self.fit.craft.linked && *of != axis) || (low - 1.0..=high + 1.0).contains(by)
        };
        if !effect.iter().all(fits) {
            return None;
        }
        let gained = |axis: Axis, by: f64| {
            self.here[axis as usize] - self.lost(axis, self.fit.at(axis) + by)
        };
        let own_by = effect
            .iter()
            .find(|(of, _)| *of == axis)
            .map_or(0.0, |(_, by)| *by);
        if gained(axis, own_by) <= 0.0 {
            return None;
        }
        let gain = effect
            .iter()
            .map(|(axis, by)| gained(*axis, *by))
            .sum::<f64>()
            + LEARN * self.learnt(axis, own_by)
            + self.limit_gain(&effect);
        let (plus, _, minus) = self.chances(axis);
        let p = if way > 0 { plus } else { minus };
        let (low, high) = spec
            .trust
            .unwrap_or(if self.settles(axis) || !self.fit.rider.full_fit {
                TRUST
            } else {
                TRUST_BARE
            });
        let trust = ((p - low) / (high - low)).clamp(0.0, 1.0);
        let far_back = spec.linked
            && by < 0.0
            && self.fit.bike.rails.as_deref() == Some("back")
            && self.fit.bike.stem_mm.unwrap_or(999.0) <= SHORT_STEM_MM;
        let bonus = if far_back { LINKED_BONUS } else { 0.0 };
        Some(Candidate {
            axis: Some(spec.told_as.to_owned()),
            dir: Some(if by > 0.0 { "+" } else { "-" }),
            amount: by.abs(),
            fault: Some(fault),
            blocked: self.walls_hit(&effect),
            of: Some(axis),
            bolts,
            lands: Some(self.lands(axis, own_by)),
            moves: effect,
            ..Candidate::new(
                if spec.linked { "linked" } else { "move" },
                spec.name,
                gain * self.order(axis) * trust - spec.cost + bonus,
            )
        })
    }

    fn can(&self, test: &str) -> bool {
        let bike = &self.fit.bike;
        !bike.without.iter().any(|without| without == test)
            && (test != "crank_compare" || bike.adjustable_crank)
    }

    /// Whether a protocol that finds this axis can be run here.
    fn settles(&self, axis: Axis) -> bool {
        TESTS
            .iter()
            .any(|test| test.axis == axis && self.can(test.name))
    }

    /// How much better the move after this one is chosen for knowing this one's verdict.
    fn learnt(&self, axis: Axis, by: f64) -> f64 {
        let (b, now) = (self.believed(axis), self.fit.at(axis));
        let to = now + by;
        let (felt, half) = (self.fit.feels * axis.spec().felt, self.half(axis));
        let mut joints = vec![vec![0.0; CELLS]; 3];
        for cell in 0..CELLS {
            let x = axis.at(cell);
            let nearer = (far(half, now, x) - far(half, to, x)) / felt;
            let (better, worse) = better_worse(nearer, 1.0);
            for (joint, p) in
                joints
                    .iter_mut()
                    .zip([better, worse, (1.0 - better - worse).max(0.0)])
            {
                joint[cell] = b[cell] * p;
            }
        }
        let best = |joint: &[f64]| {
            let moved = self
                .costs(axis, joint)
                .into_iter()
                .fold(f64::INFINITY, f64::min);
            self.loss(axis, to, joint)
                .min(moved + BOLT * joint.iter().sum::<f64>())
        };
        let later: f64 = joints.iter().map(|joint| best(joint)).sum();
        (self.loss(axis, to, b).min(best(b)) - later).max(0.0)
    }

    fn limit_gain(&self, effect: &[(Axis, f64)]) -> f64 {
        let injury = self.fit.rider.weights.map_or(5.0, |w| w.injury) / 10.0;
        let short = |margin: f64| (MARGIN_DEG - margin).max(0.0);
        let limits = self.fit.limits.iter();
        limits
            .map(|limit| {
                let after = limit.margin - self.worse(limit.joint, effect);
                LIMIT_STAKE * injury * (short(limit.margin) - short(after))
            })
            .sum()
    }

    /// What is left to lose on average once a protocol has found the place and the bolt was set there.
    fn after_test(&self, axis: Axis, spread: f64) -> f64 {
        let (b, now) = (self.believed(axis), self.fit.at(axis));
        let spread = spread.hypot(day(&self.fit.rider, axis));
        let found: Vec<f64> = (0..CELLS).step_by(3).map(|cell| axis.at(cell)).collect();
        let mut joints: Vec<Vec<f64>> = vec![vec![0.0; CELLS]; found.len()];
        for cell in 0..CELLS {
            let x = axis.at(cell);
            let like: Vec<f64> = found
                .iter()
                .map(|z| (-0.5 * ((z - x) / spread).powi(2)).exp())
                .collect();
            let whole: f64 = like.iter().sum();
            for (joint, like) in joints.iter_mut().zip(like) {
                joint[cell] = like / whole * b[cell];
            }
        }
        joints
            .iter()
            .map(|joint| self.least(axis, joint).min(self.loss(axis, now, joint)))
            .sum()
    }

    fn tests(&self) -> Vec<Candidate> {
        let mut all = Vec::new();
        let stand = self.fit.bike.stand;
        for spec in &TESTS {
            let (name, axis) = (spec.name, spec.axis);
            // What a protocol found here is a bolt to turn, not a question to ask again.
            if self.is_gross(axis) || !self.can(name) || self.fit.was_found(name) {
                continue;
            }
            let gain = self.here[axis as usize] - self.after_test(axis, spec.finds);
            let cost = match (self.fit.rider.full_fit, stand) {
                // A stand moves while the rider pedals.
                (_, true) if spec.bare.is_some() => spec.cost,
                (true, _) => spec.whole,
                (false, _) => spec.bare.unwrap_or(spec.cost),
            };
            let again = name == "tilt_gauge" && self.fit.fact("tilt").is_some();
            let score = gain * self.order(axis) - cost - if again { AGAIN } else { 0.0 };
            all.push(Self::test(name, Some(axis), score));
        }
        for (name, signs, cost) in LOOKS {
            let left: Vec<f64> = (signs.iter())
                .filter(|(sign, side)| {
                    // What was seen of a side is no news of that side.
                    !self.fit.was_looked_for(*sign, *side)
                })
                .map(|(sign, side)| self.worth_of(*sign, *side))
                .collect();
            if left.is_empty() {
                continue;
            }
            let most = left.iter().copied().fold(0.0, f64::max);
            let gain = left.iter().sum::<f64>().min(3.0 * most);
            all.push(Self::test(name, None, gain - cost));
        }
        all.extend(self.ladders());
        if self.fit.fact("leg_shorter").is_none() && self.fit.fact("legs_equal").is_none() {
            let gain = self.worth_knowing(Hidden::ShortL) + self.worth_knowing(Hidden::ShortR);
            all.push(Self::test("measure_legs", None, gain - LEGS_COST));
        }
        if let Some(Evidence::Fact {
            days: Some(days), ..
        }) = self.fit.fact("growing")
            && *days > 120.0
        {
            all.push(Self::test("measure_again", None, MEASURE_AGAIN));
        }
        all.extend(self.again());
        all
    }

    fn test(name: &str, axis: Option<Axis>, score: f64) -> Candidate {
        Candidate {
            axis: axis.map(|axis| axis.key().to_owned()),
            of: axis,
            ..Candidate::new("test", name, score)
        }
    }

    /// The ladder of a knee that does not go straight.
    fn ladders(&self) -> Vec<Candidate> {
        let of = [
            (
                Side::Left,
                "ladder_left",
                Axis::TurnL,
                Axis::StanceL,
                Hidden::ArchL,
            ),
            (
                Side::Right,
                "ladder_right",
                Axis::TurnR,
                Axis::StanceR,
                Hidden::ArchR,
            ),
        ];
        of.into_iter()
            .filter(|(side, ..)| {
                let knees = [Sign::KneeSweptIn, Sign::KneeSweptOut, Sign::KneeInPushing];
                knees
                    .iter()
                    .any(|knee| self.fit.was_looked_for(*knee, Some(*side)))
            })
            .map(|(_, name, turn, stance, arch)| {
                let open =
                    |axis: Axis| self.here[axis as usize] - self.after_test(axis, self.half(axis));
                let gain = open(turn) + open(stance) + self.worth_knowing(arch);
                Self::test(name, None, gain - LADDER_COST)
            })
            .collect()
    }

    /// A trial that was guessed, or ridden at another effort, once more; a third time says no more.
    fn again(&self) -> Option<Candidate> {
        let (last, before) = self.fit.trials.split_last()?;
        let was_repeated = before.last().is_some_and(|of| of.moved == last.moved);
        if !last.kept || was_repeated || last.like && last.sure != Sure::Guess {
            return None;
        }
        let axis = self.most_moved(&last.moved)?;
        let gain = self.here[axis as usize] - self.after_test(axis, 2.0 * self.half(axis));
        let score = gain * self.order(axis) - 0.02 + REPEAT;
        Some(Self::test("repeat", Some(axis), score))
    }

    /// What it is worth to know of a fault for sure before its remedy is bought.
    fn worth_knowing(&self, hidden: Hidden) -> f64 {
        let cost = node(hidden).remedy.map_or(0.0, |(_, cost)| cost);
        let (p, stake) = (self.there(hidden), self.hidden_stake(hidden));
        p * (stake - cost).max(0.0) - (p * stake - cost).max(0.0)
    }

    fn hidden_stake(&self, hidden: Hidden) -> f64 {
        self.stake_of(Suspect {
            about: About::There(hidden),
            way: 0,
        })
    }

    /// What a look is worth: how much less is lost on each axis when the best single move may depend on it.
    fn worth_of(&self, sign: Sign, side: Option<Side>) -> f64 {
        let Some((leak, links)) = self.fit.craft.seen(sign) else {
            return 0.0;
        };
        let strengths = sided(links.into_iter(), side, sign == Sign::KneeInPushing);
        let (about, keep) = keeps(&self.fit.craft, &self.fit.now, &strengths);
        let quiet: Vec<f64> = about
            .iter()
            .zip(&keep)
            .map(|(a, k)| dot(&self.belief[a.index()], k))
            .collect();
        let mut worth = 0.0;
        for (of, about) in about.iter().enumerate() {
            let About::Place(axis) = about else { continue };
            let b = self.believed(*axis);
            let others: f64 = (quiet.iter().enumerate())
                .filter(|(other, _)| *other != of)
                .map(|(_, quiet)| quiet)
                .product();
            let silent: Vec<f64> = keep[of].iter().map(|k| (1.0 - leak) * others * k).collect();
            let base = self.here[*axis as usize].min(self.least(*axis, b) + BOLT);
            let later: f64 = [true, false]
                .into_iter()
                .map(|there| {
                    let joint = b
                        .iter()
                        .zip(&silent)
                        .map(|(b, q)| b * if there { 1.0 - q } else { *q });
                    let joint: Vec<f64> = joint.collect();
                    let stays = self.loss(*axis, self.fit.at(*axis), &joint);
                    stays.min(self.least(*axis, &joint) + BOLT * joint.iter().sum::<f64>())
                })
                .sum();
            worth += (base - later).max(0.0) * self.order(*axis);
        }
        worth
    }

    /// Every sign nobody has looked for where the bike stands now, as far as knowing it is worth a look.
    fn asks(&self) -> Vec<Asking> {
        let sides = |sign: Sign| {
            if sign.per_side() {
                vec![L, R]
            } else {
                vec![None]
            }
        };
        let mut all: Vec<Asking> = (Sign::ALL.iter())
            .flat_map(|sign| sides(*sign).into_iter().map(|side| (*sign, side)))
            .filter(|(sign, side)| {
                !self.fit.was_looked_for(*sign, *side) && !self.fit.was_looked_for(*sign, None)
            })
            .map(|(sign, side)| Asking {
                sign,
                side,
                worth: self.worth_of(sign, side),
            })
            .filter(|asking| asking.worth > LEGS_COST * self.silent_counts())
            .collect();
        all.sort_by(|a, b| b.worth.total_cmp(&a.worth));
        all
    }

    fn remedies(&self) -> Vec<Candidate> {
        let mut all = Vec::new();
        for hidden in Hidden::ALL {
            let Some((remedy, cost)) = node(*hidden).remedy else {
                continue;
            };
            if self.fit.overruled.iter().any(|fault| fault == hidden.key()) {
                continue;
            }
            let p = self.there(*hidden);
            let guess = if p < 0.5 { GUESS * (0.5 - p) } else { 0.0 };
            let side = match hidden {
                Hidden::ShortL | Hidden::ArchL => Some(Side::Left),
                Hidden::ShortR | Hidden::ArchR => Some(Side::Right),
                _ => None,
            };
            let mut item = Candidate {
                side,
                fault: Some(hidden.key().to_owned()),
                ..Candidate::new(
                    remedy,
                    remedy,
                    p * self.hidden_stake(*hidden) - cost - guess,
                )
            };
            if remedy == "shim" {
                let Some(mm) = self.shim(side) else { continue };
                item.amount = mm;
            }
            all.push(item);
        }
        all
    }

    /// Half of what was measured, 5 mm at most, once height and cleat are right and the saddle is not forward.
    fn shim(&self, side: Option<Side>) -> Option<f64> {
        let Some(Evidence::Fact {
            side: shorter, mm, ..
        }) = self.fit.fact("leg_shorter")
        else {
            return None;
        };
        let cleat = if side == L {
            Axis::CleatL
        } else {
            Axis::CleatR
        };
        let ready = self.chances(Axis::Height).1;
        let ready = ready
            .min(1.0 - self.chances(Axis::Setback).2)
            .min(self.chances(cleat).1);
        (*shorter == side && ready >= SHIM_READY).then(|| (0.5 * mm.unwrap_or_default()).min(5.0))
    }

    fn endings(&self) -> Vec<Candidate> {
        let mut all = vec![Candidate::done()];
        let blame: f64 = (self.nobody.iter())
            .map(|(bad, nobody, axes)| {
                let fine = axes
                    .iter()
                    .map(|axis| self.chances(*axis).1)
                    .reduce(f64::min);
                bad / 10.0 * nobody * fine.unwrap_or(1.0)
            })
            .sum();
        all.push(Candidate::new("refer", "refer", REFER.0 * blame - REFER.1));
        all.extend(self.put_back());
        all
    }

    fn put_back(&self) -> Option<Candidate> {
        let last = self.fit.trials.last()?;
        if !last.kept || last.verdict != Felt::Worse {
            return None;
        }
        let gained = |(axis, by): &(Axis, f64)| {
            self.here[*axis as usize] - self.lost(*axis, self.fit.at(*axis) - by)
        };
        let gain: f64 = last.moved.iter().map(gained).sum();
        let axis = self.most_moved(&last.moved);
        let mut bonus = match last.sure {
            Sure::Guess => 0.1,
            Sure::Fairly => 0.3,
            Sure::Certain => 0.6,
        };
        let blame = |(axis, by): &(Axis, f64)| {
            let (plus, _, minus) = self.chances(*axis);
            if *by > 0.0 { plus } else { minus }
        };
        let most = last.moved.iter().map(blame).fold(0.0, f64::max);
        let own = last.moved.iter().find(|(of, _)| Some(*of) == axis);
        if own.is_some_and(|own| blame(own) < most - 0.1) {
            // What it did to another axis is to blame: mend that.
            bonus = 0.0;
        }
        let back = own.map_or(0.0, |(_, by)| -by);
        Some(Candidate {
            axis: axis.map(|axis| axis.key().to_owned()),
            dir: Some(if back > 0.0 { "+" } else { "-" }),
            amount: back.abs(),
            of: axis,
            moves: last.moved.iter().map(|(axis, by)| (*axis, -by)).collect(),
            ..Candidate::new("put_back", "put_back", gain + bonus - 0.05)
        })
    }

    /// The axis a trial moved most, by its window.
    fn most_moved(&self, moved: &[(Axis, f64)]) -> Option<Axis> {
        let by = |(axis, by): &(Axis, f64)| by.abs() / self.half(*axis);
        let most = moved.iter().max_by(|a, b| by(a).total_cmp(&by(b)));
        most.map(|(axis, _)| *axis)
    }

    /// What stands in the way of where an axis would go.
    fn forbidden(&self, axis: Axis) -> Vec<String> {
        let now = self.fit.at(axis);
        let costs = self.costs(axis, self.believed(axis));
        let best = (0..CELLS).min_by(|x, y| costs[*x].total_cmp(&costs[*y]));
        let best = best.map_or(now, |cell| axis.at(cell));
        if (best - now).abs() < self.half(axis)
            || self.here[axis as usize] - self.lost(axis, best) < DONE
        {
            return Vec::new();
        }
        self.walls_hit(&[(axis, best - now)])
    }

    fn is_wrong_frame(&self) -> bool {
        let bike = &self.fit.bike;
        if self.fit.fails_balance
            && bike.rails.as_deref() == Some("forward")
            && bike.stem_mm.unwrap_or(999.0) <= SHORT_STEM_MM
        {
            return true;
        }
        [Axis::Reach, Axis::Setback].into_iter().any(|axis| {
            let ((low, high), now, half) = (self.room(axis), self.fit.at(axis), self.half(axis));
            let beyond = |x: f64| x + half < now + low || x - half > now + high;
            let out: f64 = (0..CELLS)
                .filter(|cell| beyond(axis.at(*cell)))
                .map(|cell| self.believed(axis)[cell])
                .sum();
            out > 0.6
        })
    }

    fn axes(&self) -> Vec<AxisBelief> {
        Axis::ALL
            .iter()
            .map(|axis| {
                let b = self.believed(*axis);
                let right = (0..CELLS)
                    .max_by(|x, y| b[*x].total_cmp(&b[*y]).then(y.cmp(x)))
                    .unwrap_or(0);
                let now = nearest(*axis, self.fit.at(*axis));
                let about = About::Place(*axis);
                let factors = self.fit.net.factors.iter().enumerate();
                let mut witnesses: Vec<Witness> = factors
                    .filter_map(|(index, factor)| {
                        let ridge = self.fit.net.ridge(index, about)?;
                        let most = ridge.iter().copied().fold(f64::NEG_INFINITY, f64::max);
                        Some(Witness {
                            name: factor.name.clone(),
                            points: 10.0 / std::f64::consts::LN_10 * (ridge[right] - ridge[now]),
                            piece: factor.piece,
                            ridge: ridge.iter().map(|said| (said - most).exp()).collect(),
                        })
                    })
                    .collect();
                witnesses.sort_by(|a, b| b.points.total_cmp(&a.points));
                AxisBelief {
                    axis: axis.key(),
                    now: self.fit.at(*axis),
                    chances: self.chances(*axis),
                    right: axis.at(right),
                    mean: self.mean(*axis),
                    least: self.cheapest[*axis as usize],
                    points: 10.0 * (b[right] / b[now]).log10(),
                    belief: b.iter().map(|p| p / b[right]).collect(),
                    witnesses,
                }
            })
            .collect()
    }

    fn judged(&self) -> Judgement {
        let whole = |next: Candidate, others, blocked, says| Judgement {
            next,
            others,
            blocked,
            faults: self.faults(),
            axes: self.axes(),
            says,
            asks: if self.fit.flags.is_empty() {
                self.asks()
            } else {
                Vec::new()
            },
            sweeps: self.fit.net.sweeps,
        };
        if !self.fit.flags.is_empty() {
            return whole(
                Candidate::new("refer", "refer", 9.0),
                Vec::new(),
                Vec::new(),
                vec!["refer"],
            );
        }
        let every = [self.moves(), self.tests(), self.remedies(), self.endings()].concat();
        let (mut blocked, mut open): (Vec<Candidate>, Vec<Candidate>) = every
            .into_iter()
            .partition(|candidate| !candidate.blocked.is_empty());
        blocked.retain(|candidate| candidate.score > DONE);
        for axis in Axis::ALL {
            let forbidden = self.forbidden(*axis);
            if !forbidden.is_empty() {
                blocked.push(Candidate {
                    axis: Some(axis.key().to_owned()),
                    blocked: forbidden,
                    ..Candidate::new("move", axis.key(), 0.0)
                });
            }
        }
        open.sort_by(|a, b| b.score.total_cmp(&a.score));
        let mut says = Vec::new();
        if !blocked.is_empty()
            || self
                .fit
                .limits
                .iter()
                .any(|limit| limit.margin < MARGIN_DEG)
        {
            says.push("limit");
        }
        if self.is_wrong_frame() {
            says.push("wrong_frame");
        }
        if open
            .iter()
            .take(2)
            .any(|candidate| candidate.act == "put_back")
        {
            says.push("put_back");
        }
        let next = open.remove(0);
        if next.act == "refer" {
            says.push("refer");
        }
        if self.fit.fact("load_rose").is_some() {
            says.push("load");
        }
        open.retain(|candidate| candidate.score > DONE);
        open.truncate(6);
        whole(next, open, blocked, says)
    }
}

/// The cell below a place, and how far it stands towards the next.
fn cell_of(axis: Axis, place: f64) -> (usize, f64) {
    let at = (place - axis.at(0)) / axis.spec().cell;
    let low = at.floor().clamp(0.0, 119.0);
    #[allow(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "clamped to the cells there are"
    )]
    let cell = low as usize;
    (cell, at - low)
}

fn nearest(axis: Axis, place: f64) -> usize {
    let (low, share) = cell_of(axis, place);
    let next = usize::from(share > 0.5);
    (low + next).min(CELLS - 1)
}
