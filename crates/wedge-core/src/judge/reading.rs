//! A case read into witnesses, in the order its evidence came.

use super::axis::{About, Axis, CELLS, Hidden, Suspect};
use super::case::{Case, CaseBike, CaseRider, End, Evidence, Limited, Ranged};
use super::craft::Craft;
use super::links::{Strength, family};
use super::net::{Factor, Felt, Kind, Net, logistic};
use super::tables::node;
use super::{Fault, dip_is_across};
use crate::intake::{Place, Stroke};
use crate::looking::Sign;
use crate::trial::{self, Sure};
use crate::units::Side;
use crate::words::{lower, written};

/// No witness is certain: a share of its mass is flat.
const LAPSE: f64 = 0.10;
const SCHOOL_LAPSE: f64 = 0.20;
const ANGLE_LAPSE: f64 = 0.10;
const PRIOR_LAPSE: f64 = 0.02;
const ALIKE_LAPSE: f64 = 0.3;
/// What silence is worth where nothing hurts, and where something else does.
const SILENCE: (f64, f64) = (0.35, 0.25);
/// What a sign is worth that was written down in doubt.
const DOUBTFUL: f64 = 0.5;
/// The same answer of a place, given again where the bike stands elsewhere, speaks half: a rider who minds more than others, or
/// less, does so every time. Another answer is news.
const AGAIN: f64 = 0.5;
/// A complaint of one side speaks so much of what both share.
const ONE_SIDE: f64 = 0.5;
/// A change this rider surely feels, where nobody knows.
pub(super) const FEELS_MM: f64 = 5.0;
/// An axis the fitter calls right lies within this share of its window, one standard deviation.
const RIGHT_HALVES: f64 = 1.5;
/// Inside this share of the window a move is not felt.
pub(super) const FELT_INSIDE: f64 = 0.6;
/// A move of less than this share of a window is none.
const MOVED: f64 = 0.25;
/// A limit is short under this margin.
pub(super) const MARGIN_DEG: f64 = 5.0;
/// How far apart the right places of left and right lie, one standard deviation.
const ALIKE: [(Axis, Axis, f64); 2] = [
    (Axis::CleatL, Axis::CleatR, 2.5),
    (Axis::StanceL, Axis::StanceR, 2.0),
];
/// A growing rider's height is known less.
const GROWING: f64 = 1.6;
/// So often a bike comes out on an axis over which riders spread three half-widths, as they do over saddles' heights;
const OUT: f64 = 0.6;
const OUT_AT: f64 = 3.0;
/// the less they spread, the more seldom, by this power of it: saddles and hands often, feet seldom.
const OUT_FALLS: f64 = 2.1;
/// Nothing is out more often than this.
const OUT_MOST: f64 = 0.9;
/// A bike that is not out is near right: within this share of a window's half, one standard deviation.
const SETTLED: f64 = 0.4;
/// One that is, is out by more than riders come on the whole.
const FURTHER: f64 = 1.1;

/// What is ridden in one day differs less from day to day: so much of that counts in a whole fit.
const ONE_DAY: f64 = 0.5;

/// How far a place that was found differs from day to day, one standard deviation.
pub(super) fn day(rider: &CaseRider, axis: Axis) -> f64 {
    axis.spec().day * if rider.full_fit { ONE_DAY } else { 1.0 }
}

/// A trial, with what it moved.
#[derive(Debug, Clone)]
pub(super) struct Tried {
    pub(super) verdict: Felt,
    pub(super) sure: Sure,
    pub(super) like: bool,
    pub(super) kept: bool,
    pub(super) moved: Vec<(Axis, f64)>,
}

/// A limit with the margin it has left.
#[derive(Debug, Clone, Copy)]
pub(super) struct Margin {
    pub(super) joint: Limited,
    pub(super) margin: f64,
}

/// A complaint or a sign, and the witness it is.
#[derive(Debug, Clone, Copy)]
pub(super) struct Heard {
    pub(super) factor: usize,
    /// How bad, of 10; none of a sign.
    pub(super) how_bad: Option<f64>,
}

/// A place that a rider told of: that it hurts, or that it does not any more.
#[derive(Debug, Clone)]
struct Mention {
    of: trial::Felt,
    /// The witness it is, and how bad, where it hurts.
    heard: Option<Heard>,
    /// Where the bike stood.
    then: Places,
}

impl Mention {
    /// Whether the bike stood there.
    fn stood(&self, at: &Places) -> bool {
        const SAME: f64 = 1e-6;
        (self.then.iter().zip(at)).all(|(then, at)| (then - at).abs() < SAME)
    }
}

/// What a protocol found.
#[derive(Debug, Clone)]
pub(super) struct Found {
    pub(super) protocol: String,
    pub(super) axis: Axis,
    /// The place.
    pub(super) at: f64,
    /// Where it was ridden.
    pub(super) then: Places,
}

/// Where every axis stood.
pub(super) type Places = Vec<f64>;

/// The evidence of a fit as witnesses.
#[derive(Debug, Clone)]
pub(super) struct Evident {
    pub(super) craft: Craft,
    pub(super) rider: CaseRider,
    pub(super) bike: CaseBike,
    pub(super) now: Vec<f64>,
    pub(super) net: Net,
    pub(super) heard: Vec<Heard>,
    pub(super) flags: Vec<String>,
    pub(super) limits: Vec<Margin>,
    pub(super) walls: Vec<(Axis, f64, f64, String)>,
    pub(super) overruled: Vec<String>,
    pub(super) trials: Vec<Tried>,
    /// Protocols that found something.
    pub(super) found: Vec<Found>,
    /// Signs that were looked for, with their side, and where.
    pub(super) looked: Vec<(Sign, Option<Side>, Places)>,
    pub(super) facts: Vec<Evidence>,
    pub(super) feels: f64,
    pub(super) fails_balance: bool,
}

impl Evident {
    pub(super) fn at(&self, axis: Axis) -> f64 {
        self.now[axis as usize]
    }

    /// Whether an axis still stands where it stood.
    fn stands(&self, axis: Axis, then: &Places) -> bool {
        (self.at(axis) - then[axis as usize]).abs() <= MOVED * self.craft.half(axis)
    }

    /// Whether a sign was looked for where the bike stands now, as far as anything it tells of was moved since.
    pub(super) fn was_looked_for(&self, sign: Sign, side: Option<Side>) -> bool {
        let told = self
            .craft
            .seen(sign)
            .map_or_else(Vec::new, |(_, told)| told);
        let suspects = sided(told.into_iter(), side, sign == Sign::KneeInPushing);
        let axes: Vec<Axis> = (suspects.iter())
            .filter_map(|(suspect, _)| match suspect.about {
                About::Place(axis) => Some(axis),
                About::There(_) => None,
            })
            .collect();
        (self.looked.iter())
            .filter(|(known, of, _)| (*known, *of) == (sign, side))
            .any(|(.., then)| axes.iter().all(|axis| self.stands(*axis, then)))
    }

    /// Whether a protocol was made where its axis stands now, or ended there.
    pub(super) fn was_found(&self, test: &str) -> bool {
        (self.found.iter()).any(|found| found.protocol == test && self.holds(found))
    }

    /// Whether any protocol found the place of an axis while that stood where it stands now, or found this place.
    pub(super) fn was_settled(&self, axis: Axis) -> bool {
        (self.found.iter()).any(|found| found.axis == axis && self.holds(found))
    }

    /// What is set to where a protocol found it need not be asked for again there.
    fn holds(&self, found: &Found) -> bool {
        let axis = found.axis;
        let near = (self.at(axis) - found.at).abs()
            <= axis.spec().round.max(MOVED * self.craft.half(axis));
        near || self.stands(axis, &found.then)
    }

    /// Whether a fact of this name is known.
    pub(super) fn fact(&self, name: &str) -> Option<&Evidence> {
        self.facts
            .iter()
            .rfind(|fact| matches!(fact, Evidence::Fact { what, .. } if what == name))
    }
}

/// How far a place stands outside the window around each cell on one side, in half-widths.
pub(super) fn off(half: f64, now: f64, right: f64, way: f64) -> f64 {
    (way * (now - right) - half).max(0.0) / half
}

/// Share of a fault's full strength: none in the window, a half one half-width outside it.
fn ramp(off: f64) -> f64 {
    1.0 - (-off).exp2()
}

/// Felt distance from the right place: nothing well inside the window.
pub(super) fn far(half: f64, now: f64, right: f64) -> f64 {
    ((now - right).abs() - FELT_INSIDE * half).max(0.0)
}

fn lapse(like: Vec<f64>, share: f64) -> Vec<f64> {
    let whole: f64 = like.iter().sum();
    #[allow(
        clippy::cast_precision_loss,
        reason = "a few thousand cells at the most"
    )]
    let flat = share / like.len() as f64;
    let mixed: Vec<f64> = like
        .into_iter()
        .map(|l| (1.0 - share) * l / whole + flat)
        .collect();
    let most = mixed.iter().copied().fold(0.0, f64::max);
    mixed.into_iter().map(|l| l / most).collect()
}

fn normal(z: f64) -> f64 {
    (-0.5 * z * z).exp()
}

/// One in a range, falling beside it.
fn flat_top(value: f64, (low, high): (f64, f64), spread: f64) -> f64 {
    normal((low - value).max(value - high).max(0.0) / spread)
}

/// Reads a case, piece by piece.
struct Reader<'a> {
    case: &'a Case,
    craft: &'a Craft,
    /// Which piece of evidence is being read.
    piece: Option<usize>,
    found: Vec<Found>,
    looked: Vec<(Sign, Option<Side>, Places)>,
    now: Vec<f64>,
    factors: Vec<Factor>,
    priors: Vec<f64>,
    heard: Vec<Heard>,
    mentions: Vec<Mention>,
    limits: Vec<Margin>,
    trials: Vec<Tried>,
    families: Vec<(&'static str, u32)>,
    feels: f64,
}

/// Reads a case into witnesses and lets them talk.
pub(super) fn read(case: &Case, craft: &Craft) -> Evident {
    let mut reader = Reader {
        case,
        craft,
        piece: None,
        found: Vec::new(),
        looked: Vec::new(),
        now: vec![0.0; Axis::ALL.len()],
        factors: Vec::new(),
        priors: Hidden::ALL
            .iter()
            .map(|hidden| node(*hidden).prior)
            .collect(),
        heard: Vec::new(),
        mentions: Vec::new(),
        limits: Vec::new(),
        trials: Vec::new(),
        families: Vec::new(),
        feels: case.rider.feels_mm.unwrap_or(FEELS_MM),
    };
    reader.facts();
    reader.come();
    reader.schools();
    reader.count_families();
    for (index, evidence) in case.evidence.iter().enumerate() {
        reader.piece = Some(index);
        reader.piece(evidence);
    }
    reader.piece = None;
    reader.still_hurts();
    reader.silence();
    reader.hidden();
    let of =
        |pick: fn(&Evidence) -> Option<String>| case.evidence.iter().filter_map(pick).collect();
    Evident {
        craft: craft.clone(),
        rider: case.rider.clone(),
        bike: case.bike.clone(),
        flags: of(|e| match e {
            Evidence::Flag { what } => Some(what.clone()),
            _ => None,
        }),
        overruled: of(|e| match e {
            Evidence::Overrule { fault, .. } => Some(fault.clone()),
            _ => None,
        }),
        found: reader.found,
        walls: (case.evidence.iter())
            .filter_map(|e| match e {
                Evidence::Wall {
                    axis,
                    least,
                    most,
                    why,
                } => Some((
                    *axis,
                    least.unwrap_or(f64::NEG_INFINITY),
                    most.unwrap_or(f64::INFINITY),
                    why.clone(),
                )),
                _ => None,
            })
            .collect(),
        fails_balance: (case.evidence.iter()).any(|e| {
            matches!(
                e,
                Evidence::Seen {
                    what: Sign::BalanceFails,
                    absent: false,
                    ..
                }
            )
        }),
        looked: reader.looked,
        facts: (case.evidence.iter())
            .filter(|e| matches!(e, Evidence::Fact { .. }))
            .cloned()
            .collect(),
        now: reader.now,
        heard: reader.heard,
        limits: reader.limits,
        trials: reader.trials,
        feels: reader.feels,
        net: Net::settled(reader.factors),
    }
}

impl Reader<'_> {
    fn at(&self, axis: Axis) -> f64 {
        self.now[axis as usize]
    }

    fn add(&mut self, name: impl Into<String>, about: Vec<About>, kind: Kind) -> usize {
        self.factors.push(Factor {
            name: name.into(),
            piece: self.piece,
            about,
            kind,
        });
        self.factors.len() - 1
    }

    fn curve(&mut self, name: impl Into<String>, axis: Axis, like: Vec<f64>) {
        self.add(name, vec![About::Place(axis)], Kind::Curve(like));
    }

    /// What is known besides makes hidden faults likelier or not.
    fn facts(&mut self) {
        for evidence in &self.case.evidence {
            let Evidence::Fact {
                what,
                side,
                has,
                by,
                hours,
                ..
            } = evidence
            else {
                continue;
            };
            let sided = |left, right| match side {
                Some(Side::Left) => vec![left],
                Some(Side::Right) => vec![right],
                None => vec![left, right],
            };
            let told: Vec<(Hidden, f64)> = match what.as_str() {
                "load_rose" => vec![(Hidden::Load, 0.75)],
                "load_steady" => vec![(Hidden::Load, 0.02)],
                "shoe_tight" => vec![(Hidden::Shoe, 0.6)],
                "stiff" => vec![(Hidden::Stiff, 0.85)],
                "weak" => vec![(Hidden::Weak, 0.8)],
                "relief" => vec![(
                    Hidden::NoRelief,
                    if *has == Some(true) { 0.02 } else { 0.5 },
                )],
                "arch_low" => sided(Hidden::ArchL, Hidden::ArchR)
                    .into_iter()
                    .map(|hidden| (hidden, 0.5))
                    .collect(),
                "leg_shorter" => sided(Hidden::ShortL, Hidden::ShortR)
                    .into_iter()
                    .map(|hidden| (hidden, if by.is_some() { 0.9 } else { 0.6 }))
                    .collect(),
                "legs_equal" => vec![(Hidden::ShortL, 0.01), (Hidden::ShortR, 0.01)],
                "sits" if hours.is_some_and(|hours| hours >= 8.0) => {
                    vec![(Hidden::Stiff, self.priors[Hidden::Stiff as usize].max(0.4))]
                }
                _ => Vec::new(),
            };
            for (hidden, prior) in told {
                self.priors[hidden as usize] = prior;
            }
        }
    }

    /// How riders come, and that two feet are much alike.
    fn come(&mut self) {
        let is_growing =
            |e: &Evidence| matches!(e, Evidence::Fact { what, .. } if what == "growing");
        let grew = self.case.evidence.iter().any(is_growing);
        for axis in Axis::ALL {
            let spec = axis.spec();
            let sd = spec.sd
                * if grew && *axis == Axis::Height {
                    GROWING
                } else {
                    1.0
                };
            let spread = |x: f64, middle: f64, sd: f64| normal((x - middle) / sd) / sd;
            let half = self.craft.half(*axis);
            let out = OUT * (sd / half / OUT_AT).powf(OUT_FALLS);
            let (out, settled) = (out.min(OUT_MOST), SETTLED * half);
            // Bikes come with some of it out, and not with all. Who comes for what hurts comes with something out.
            let comes = |x: f64| {
                if self.case.rider.full_fit {
                    out * spread(x, spec.lean, FURTHER * sd) + (1.0 - out) * spread(x, 0.0, settled)
                } else {
                    spread(x, spec.lean, sd)
                }
            };
            let like = axis.grid().into_iter().map(comes).collect();
            self.curve("how riders come", *axis, lapse(like, PRIOR_LAPSE));
        }
        for (left, right, apart) in ALIKE {
            let table = table(left, right, |l, r| normal((l - r) / apart));
            let about = vec![About::Place(left), About::Place(right)];
            self.add(
                "the other foot",
                about,
                Kind::Table(lapse(table, ALIKE_LAPSE)),
            );
        }
    }

    /// The schools of an axis share one vote: the mean of their curves.
    fn schools(&mut self) {
        let all: Vec<(Axis, &str, f64, f64)> = (self.case.evidence.iter())
            .filter_map(|e| match e {
                Evidence::School {
                    axis,
                    name,
                    at,
                    spread,
                } => Some((*axis, name.as_str(), *at, *spread)),
                _ => None,
            })
            .collect();
        for axis in Axis::ALL {
            let of: Vec<_> = all.iter().filter(|(of, ..)| of == axis).collect();
            if of.is_empty() {
                continue;
            }
            let names: Vec<&str> = of.iter().map(|(_, name, ..)| *name).collect();
            let vote = |x: f64| {
                of.iter()
                    .map(|(.., at, spread)| normal((x - at) / spread))
                    .sum::<f64>()
            };
            let like = axis.grid().into_iter().map(vote).collect();
            self.curve(
                format!("schools: {}", names.join(" · ")),
                *axis,
                lapse(like, SCHOOL_LAPSE),
            );
        }
    }

    fn count_families(&mut self) {
        for evidence in &self.case.evidence {
            if let Evidence::Seen {
                what,
                absent: false,
                ..
            } = evidence
                && let Some(of) = family(*what)
            {
                match self.families.iter_mut().find(|(known, _)| *known == of) {
                    Some((_, n)) => *n += 1,
                    None => self.families.push((of, 1)),
                }
            }
        }
    }

    fn piece(&mut self, evidence: &Evidence) {
        match evidence {
            Evidence::Angle {
                output,
                value,
                range,
                spread,
                side,
            } => {
                let alike = |e: &&Evidence| matches!(e, Evidence::Angle { output: other, .. } if other == output);
                let many = self.case.evidence.iter().filter(alike).count() > 1;
                let temper = if side.is_some() && many { 0.5 } else { 1.0 };
                self.angle(*output, *value, (*range, *spread), temper);
            }
            Evidence::Fact { what, deg, mm, .. } => match (what.as_str(), deg, mm) {
                ("tilt", Some(deg), _) => self.angle(Ranged::Tilt, *deg, (None, None), 1.0),
                ("saddle_width", _, Some(mm)) => {
                    self.angle(Ranged::SaddleWidth, *mm, (None, None), 1.0);
                }
                _ => {}
            },
            Evidence::Finding {
                protocol,
                axis,
                at,
                spread,
                says,
                bound,
            } if says == "found" => self.finding(protocol, *axis, (*at, *spread), *bound),
            Evidence::Complaint { struck: true, .. } => {}
            Evidence::Complaint {
                place,
                side,
                stroke,
                how_bad,
                absent,
                ..
            } => {
                self.told_of((*place, *side), *stroke, (!absent).then_some(*how_bad));
            }
            Evidence::Seen {
                what,
                side,
                absent,
                doubtful,
            } => self.sign(*what, *side, *absent, *doubtful),
            Evidence::Limit { joint, margin } => self.limit(*joint, *margin),
            Evidence::Trial {
                bolts,
                verdict,
                sure,
                like,
                kept,
                felt,
                batch,
                silent,
                axes,
            } => {
                let bolts = bolts.iter().map(|(bolt, by)| (*bolt, *by));
                let by: Vec<(Axis, f64)> = match axes {
                    Some(axes) => axes.iter().map(|(axis, by)| (*axis, *by)).collect(),
                    None => self.craft.moved_by(bolts),
                };
                self.trial(
                    &by,
                    (*verdict, *sure),
                    (*like, *kept, *batch, *silent),
                    *felt,
                );
            }
            Evidence::Stand { places } => {
                for (axis, place) in places {
                    let by = place - self.at(*axis);
                    self.shift(*axis, by);
                }
            }
            Evidence::Right { axis, .. } => {
                let (now, half) = (self.at(*axis), self.craft.half(*axis));
                let like = axis.grid().into_iter();
                let like = like.map(|x| normal((x - now) / (half / RIGHT_HALVES)));
                let like = like.collect();
                self.curve("the fitter: it is right", *axis, lapse(like, LAPSE));
            }
            _ => {}
        }
    }

    /// A place the rider told of: how bad it is, or that it does not hurt.
    fn told_of(
        &mut self,
        (place, side): (Place, Option<Side>),
        stroke: Option<Stroke>,
        how_bad: Option<f64>,
    ) {
        let Some((leak, strengths)) = self.complaint(place, side, stroke) else {
            return;
        };
        let absent = how_bad.is_none();
        let name = named(place.label(), side, absent);
        let of = trial::Felt { place, side };
        let last = self.mentions.iter().rfind(|told| told.of.is_of(of));
        let again =
            last.is_some_and(|told| told.heard.is_none() == absent && !told.stood(&self.now));
        let temper = if again { AGAIN } else { 1.0 };
        let factor = self.noisy_or(name, &strengths, leak, Some(!absent), temper);
        self.mentions.push(Mention {
            of,
            heard: how_bad.map(|bad| Heard {
                factor,
                how_bad: Some(bad),
            }),
            then: self.now.clone(),
        });
    }

    /// The place a protocol found, or the end it gave.
    fn finding(
        &mut self,
        protocol: &str,
        axis: Axis,
        (at, spread): (f64, f64),
        bound: Option<End>,
    ) {
        self.found.push(Found {
            protocol: protocol.to_owned(),
            axis,
            at,
            then: self.now.clone(),
        });
        let spread = spread.hypot(day(&self.case.rider, axis));
        let like = axis.grid().into_iter().map(|x| {
            let z = (x - at) / spread;
            match bound {
                None => normal(z),
                Some(End::AtLeast) => logistic(1.7 * z),
                Some(End::AtMost) => logistic(-1.7 * z),
            }
        });
        let like = like.collect();
        self.curve(protocol.replace('_', " "), axis, lapse(like, LAPSE));
    }

    /// A limit of the table: one that is short speaks.
    fn limit(&mut self, joint: Limited, margin: f64) {
        self.limits.push(Margin { joint, margin });
        if margin < MARGIN_DEG {
            let (leak, links) = self.craft.short(joint);
            let by = ((MARGIN_DEG - margin) / MARGIN_DEG).min(1.0);
            let strengths = sided(links.into_iter().map(|(f, s)| (f, s * by)), None, false);
            let name = format!("{} {}° of room", joint.label(), written(margin));
            self.noisy_or(name, &strengths, leak, Some(true), 1.0);
        }
    }

    /// Moves an axis, and with it what its limits leave.
    fn shift(&mut self, axis: Axis, by: f64) {
        self.now[axis as usize] += by;
        for limit in &mut self.limits {
            limit.margin -= self.craft.limit_slope(limit.joint, axis) * by;
        }
    }

    fn angle(
        &mut self,
        output: Ranged,
        value: f64,
        (range, spread): (Option<(f64, f64)>, Option<f64>),
        temper: f64,
    ) {
        let Some(of) = self.craft.against(output).cloned() else {
            return;
        };
        let range = range.unwrap_or(of.range);
        let spread = spread.unwrap_or(of.reading).hypot(of.people);
        let name = format!(
            "{} {} against {} to {}{}",
            lower(output.label()),
            written(value),
            written(range.0),
            written(range.1),
            output.unit()
        );
        let moved = |slope: f64, x: f64, now: f64| slope * (x - now);
        match &of.slopes[..] {
            [(axis, slope)] => {
                let now = self.at(*axis);
                let like = axis.grid().into_iter();
                let like = like
                    .map(|x| flat_top(value + moved(*slope, x, now), range, spread).powf(temper));
                let like = like.collect();
                self.curve(name, *axis, lapse(like, ANGLE_LAPSE));
            }
            [(one, a), (other, b), ..] => {
                let (now_one, now_other) = (self.at(*one), self.at(*other));
                let like = table(*one, *other, |x, y| {
                    let at = value + moved(*a, x, now_one) + moved(*b, y, now_other);
                    flat_top(at, range, spread).powf(temper)
                });
                let about = vec![About::Place(*one), About::Place(*other)];
                self.add(name, about, Kind::Table(lapse(like, ANGLE_LAPSE)));
            }
            [] => {}
        }
    }

    fn sign(&mut self, what: Sign, side: Option<Side>, absent: bool, doubtful: bool) {
        (self.looked).push((what, side, self.now.clone()));
        let Some((leak, links)) = self.craft.seen(what) else {
            return;
        };
        let across = what == Sign::KneeInPushing;
        let weak = if self.case.rider.strong && what == Sign::BalanceFails {
            0.3
        } else {
            1.0
        };
        let links = links
            .into_iter()
            .map(|(fault, s)| (fault, s.min(0.9) * weak));
        let strengths = sided(links, side, across);
        let count =
            family(what).and_then(|of| self.families.iter().find(|(known, _)| *known == of));
        let temper = count.map_or(1.0, |(_, n)| f64::from(*n).powf(-0.5));
        let temper = if doubtful { DOUBTFUL * temper } else { temper };
        let name = named(what.label(), side, absent);
        let factor = self.noisy_or(name, &strengths, leak, Some(!absent), temper);
        if !absent {
            self.heard.push(Heard {
                factor,
                how_bad: None,
            });
        }
    }

    /// Of a place that was told of more than once, what was said where the bike stands now counts for what is to be mended,
    /// else what was said last: of what hurt elsewhere and is gone, nobody is to blame any more.
    fn still_hurts(&mut self) {
        let mentions = std::mem::take(&mut self.mentions);
        for (index, of) in mentions.iter().enumerate() {
            let answered = mentions.iter().enumerate().any(|(other, by)| {
                by.of.is_of(of.of)
                    && !by.stood(&of.then)
                    && (by.stood(&self.now) || (other > index && !of.stood(&self.now)))
            });
            self.heard.extend(of.heard.filter(|_| !answered));
        }
    }

    /// Who was asked where it hurts and named some places, or none, is not hurt in the others: that speaks, softly.
    fn silence(&mut self) {
        let named: Vec<Place> = (self.case.evidence.iter())
            .filter_map(|e| match e {
                Evidence::Complaint { place, .. } => Some(*place),
                _ => None,
            })
            .collect();
        let none = self
            .case
            .evidence
            .iter()
            .any(|e| matches!(e, Evidence::NoComplaints {}));
        let temper = match (none, named.is_empty()) {
            (true, _) => SILENCE.0,
            (false, false) => SILENCE.1,
            (false, true) => return,
        };
        let stands = std::mem::replace(&mut self.now, vec![0.0; Axis::ALL.len()]);
        for place in Place::ALL.iter().filter(|place| !named.contains(place)) {
            if let Some((leak, strengths)) = self.complaint(*place, None, None) {
                let name = format!("{} does not hurt", lower(place.label()));
                self.noisy_or(name, &strengths, leak, Some(false), temper);
            }
        }
        self.now = stands;
    }

    fn hidden(&mut self) {
        for hidden in Hidden::ALL {
            let prior = self.priors[*hidden as usize];
            let about = About::There(*hidden);
            self.add(
                "before anything is known",
                vec![about],
                Kind::Curve(vec![1.0 - prior, prior]),
            );
            if let Some((leak, links)) = self.craft.brings(*hidden) {
                let side = match hidden {
                    Hidden::DipL => Some(Side::Left),
                    Hidden::DipR => Some(Side::Right),
                    _ => None,
                };
                let strengths = sided(links.into_iter(), side, false);
                let factor = self.noisy_or(hidden.label().to_owned(), &strengths, leak, None, 1.0);
                self.factors[factor].about.push(about);
            }
        }
    }

    fn noisy_or(
        &mut self,
        name: String,
        strengths: &[(Suspect, f64)],
        leak: f64,
        present: Option<bool>,
        temper: f64,
    ) -> usize {
        let (about, keep) = keeps(self.craft, &self.now, strengths);
        self.add(
            name,
            about,
            Kind::NoisyOr {
                keep,
                leak,
                present,
                temper,
            },
        )
    }

    fn trial(
        &mut self,
        by: &[(Axis, f64)],
        (verdict, sure): (Felt, Sure),
        (like, kept, batch, silent): (bool, bool, bool, bool),
        place: Option<Place>,
    ) {
        let moved: Vec<(Axis, f64)> = (by.iter().copied())
            .filter(|(axis, by)| by.abs() > MOVED * self.craft.half(*axis))
            .collect();
        let linked = place.map_or_else(Vec::new, |place| self.linked_to(place));
        let gains = moved.iter().map(|(axis, by)| {
            let weight = if linked.is_empty() || linked.contains(axis) {
                1.0
            } else {
                0.1
            };
            let now = self.at(*axis);
            let (felt, half) = (self.feels * axis.spec().felt, self.craft.half(*axis));
            let gain = |x: f64| weight * (far(half, now, x) - far(half, now + by, x)) / felt;
            axis.grid().into_iter().map(gain).collect()
        });
        let gains: Vec<Vec<f64>> = gains.collect();
        let sureness = match sure {
            Sure::Guess => 0.4,
            Sure::Fairly => 0.75,
            Sure::Certain => 1.0,
        };
        let temper = sureness * if like { 1.0 } else { 0.25 } * if batch { 0.5 } else { 1.0 };
        if !silent {
            if !gains.is_empty() {
                let about = moved.iter().map(|(axis, _)| About::Place(*axis)).collect();
                let name = format!("a trial that was {}", format!("{verdict:?}").to_lowercase());
                self.add(
                    name,
                    about,
                    Kind::Verdict {
                        gains,
                        felt: verdict,
                        temper,
                    },
                );
            }
            self.trials.push(Tried {
                verdict,
                sure,
                like,
                kept,
                moved,
            });
        }
        if kept {
            for (axis, by) in by {
                self.shift(*axis, *by);
            }
        }
    }

    /// The links of a complaint: one of one side speaks less of what both share, one of both less of what is one side's; what
    /// the stroke says of a cause takes the place of it, and stands as it is.
    fn complaint(
        &self,
        place: Place,
        side: Option<Side>,
        stroke: Option<Stroke>,
    ) -> Option<(f64, Vec<(Suspect, f64)>)> {
        let (leak, told) = self.craft.felt(place, stroke)?;
        let (_, links) = self.craft.felt(place, None)?;
        let of = told.into_iter().map(|(fault, strength)| {
            let plain = links.contains(&(fault, strength));
            let fits = if plain { fits(fault, side) } else { 1.0 };
            (fault, (strength * fits).min(0.9))
        });
        Some((leak, sided(of, side, dip_is_across(place))))
    }

    /// Axes that something felt is linked to.
    fn linked_to(&self, place: Place) -> Vec<Axis> {
        let links = self
            .craft
            .felt(place, None)
            .map_or_else(Vec::new, |(_, links)| links);
        let suspects = links
            .iter()
            .flat_map(|(fault, _)| fault.suspects(None, dip_is_across(place)));
        suspects
            .filter_map(|suspect| match suspect.about {
                About::Place(axis) => Some(axis),
                About::There(_) => None,
            })
            .collect()
    }
}

/// The chance of each cause to keep quiet, cell by cell, from where things stand.
pub(super) fn keeps(
    craft: &Craft,
    now: &[f64],
    strengths: &[(Suspect, f64)],
) -> (Vec<About>, Vec<Vec<f64>>) {
    let (mut about, mut keep): (Vec<About>, Vec<Vec<f64>>) = (Vec::new(), Vec::new());
    for (suspect, strength) in strengths {
        match suspect.about {
            About::Place(axis) => {
                let (stands, half) = (now[axis as usize], craft.half(axis));
                let quiet = axis
                    .grid()
                    .into_iter()
                    .map(|x| 1.0 - strength * ramp(off(half, stands, x, f64::from(suspect.way))));
                let quiet: Vec<f64> = quiet.collect();
                if let Some(of) = about.iter().position(|a| *a == suspect.about) {
                    for (keep, quiet) in keep[of].iter_mut().zip(&quiet) {
                        *keep *= quiet;
                    }
                } else {
                    about.push(suspect.about);
                    keep.push(quiet);
                }
            }
            About::There(_) => {
                about.push(suspect.about);
                keep.push(vec![1.0, 1.0 - strength]);
            }
        }
    }
    (about, keep)
}

/// Links on the sides that speak.
pub(super) fn sided(
    links: impl Iterator<Item = Strength>,
    side: Option<Side>,
    across: bool,
) -> Vec<(Suspect, f64)> {
    let mut all: Vec<(Suspect, f64)> = Vec::new();
    for (fault, strength) in links {
        for suspect in fault.suspects(side, across) {
            match all.iter_mut().find(|(known, _)| *known == suspect) {
                Some((_, known)) => *known = known.max(strength),
                None => all.push((suspect, strength)),
            }
        }
    }
    all
}

fn fits(fault: Fault, side: Option<Side>) -> f64 {
    if matches!(
        fault,
        Fault::Load | Fault::Stiff | Fault::Weak | Fault::Shoe
    ) {
        return 1.0;
    }
    let cleat = matches!(fault, Fault::CleatBack | Fault::CleatForward);
    match (side.is_some(), fault.is_one_sided()) {
        (true, true) | (false, false) => 1.0,
        (true, false) => ONE_SIDE,
        (false, true) => {
            if cleat {
                1.0
            } else {
                0.5
            }
        }
    }
}

fn named(label: &str, side: Option<Side>, absent: bool) -> String {
    let words = crate::words::sided(&lower(label), side);
    if absent { format!("no {words}") } else { words }
}

/// A table of two axes, row by row of the first.
fn table(one: Axis, other: Axis, of: impl Fn(f64, f64) -> f64) -> Vec<f64> {
    let (rows, columns) = (one.grid(), other.grid());
    let mut all = Vec::with_capacity(CELLS * CELLS);
    for x in &rows {
        all.extend(columns.iter().map(|y| of(*x, *y)));
    }
    all
}
