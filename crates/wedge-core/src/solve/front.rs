//! Which front end puts the hands where they should be: every stem, split of spacers, bar, hood place and roll there is,
//! exactly and completely.

use super::Arc;
use crate::bike::{Bar, BarKind, Part, PartKind, Placed, SPACERS_MM, Steerer};
use crate::foresee::{Change, Trying};
use crate::measure::{Output, Quantity};
use crate::plane::Point;
use crate::position::wall;
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};
use crate::words::{capital, hands_moved_words, hundredth, tenth, written};
use serde::Serialize;
use std::cmp::Ordering;
use std::collections::BTreeSet;

rules! {
    rules "Front end";
    /// Hoods go so far along the bar, either way, before the bar is taped anew.
    const HOOD_MM: f64 = 10.0, " mm", House;
    /// The bar rolls so far, either way, before the levers are another reach.
    const ROLL_DEG: f64 = 5.0, "°", House;
    /// Misses within one step of these are alike: then what it costs decides.
    const CLASSES_MM: [f64; 5] = [2.0, 5.0, 8.0, 12.0, 20.0], " mm", House;
    /// A front end this near lands.
    const LANDS_MM: f64 = 5.0, " mm", House;
    /// Moving the hoods or rolling the bar costs
    const COST_BAR_TURNED: u32 = 1, "", House;
    /// moving spacers,
    const COST_SPACERS: u32 = 2, "", House;
    /// spacers that must be ordered,
    const COST_SPACERS_TO_ORDER: u32 = 3, "", House;
    /// turning the stem over,
    const COST_FLIPPED: u32 = 3, "", House;
    /// a stem on hand,
    const COST_STEM: u32 = 5, "", House;
    /// a stem to order,
    const COST_STEM_TO_ORDER: u32 = 8, "", House;
    /// another bar,
    pub(super) const COST_BAR: u32 = 10, "", House;
    /// and cutting the steerer, which cannot be undone.
    const COST_CUT: u32 = 20, "", House;
    /// The most spacers below a stem, unless a maker says otherwise.
    pub(crate) const MOST_BELOW_MM: f64 = 40.0, " mm", Workshop;
    /// The most pad spacers, unless a maker says otherwise.
    pub(crate) const PADS_MM: f64 = 65.0, " mm", House;
    /// So many answers are given.
    const ANSWERS: usize = 4, "", House;
}

/// Where the hands should go: a point, on an arc where there is one.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Aim {
    /// Where lengths are taken to: hood, grip, the pads' centre.
    pub target: Point,
    /// The arc through it.
    pub arc: Option<Arc>,
}

impl Aim {
    /// An aim with the arc of a position led through it.
    pub fn at(target: Point, arc: Option<Arc>) -> Self {
        Self {
            target,
            arc: arc.map(|arc| Arc {
                through: target,
                radius_mm: target.distance(arc.centre),
                ..arc
            }),
        }
    }

    /// How far a point is off it, mm.
    pub fn miss(&self, point: Point) -> f64 {
        (self.arc).map_or_else(|| point.distance(self.target), |arc| arc.miss(point))
    }
}

/// A front end that comes near, as one linked trial.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontEnd {
    /// "Stem 90, −6°, spacers 25: hands 12 nearer, 6 higher; torso 44.1° ± 1.2".
    pub words: String,
    /// The whole linked trial.
    pub changes: Vec<Change>,
    /// Where the hands are then.
    pub hand: Point,
    /// How far that is off the arc or the point, mm.
    pub miss_mm: f64,
    /// What is not on hand.
    pub to_order: Vec<String>,
    /// So much must be cut off the steerer, mm; that cannot be undone.
    pub cut_mm: Option<f64>,
    /// What must be looked at before it is ridden.
    pub checks: Vec<String>,
}

/// The front ends that come nearest, and what stands in the way where none lands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fronts {
    /// The best first.
    pub answers: Vec<FrontEnd>,
    /// What stands in the way, and the part that would do; empty where one lands.
    pub in_the_way: Vec<String>,
    /// How many front ends were looked at.
    pub looked_at: usize,
}

/// One front end: what it is made of, and where it comes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Built {
    pub(crate) stem: Stem,
    pub(crate) below_mm: f64,
    pub(crate) above_mm: f64,
    pub(crate) bar: usize,
    pub(crate) hood_mm: f64,
    pub(crate) roll_deg: f64,
    pub(crate) cut_mm: f64,
    pub(crate) cost: u32,
    pub(crate) class: u32,
    pub(crate) miss_mm: f64,
    pub(crate) near_mm: f64,
    pub(crate) hand: Point,
    spacers_to_order: bool,
}

impl Built {
    /// Whether nothing of it must be ordered.
    pub(crate) fn on_hand(&self) -> bool {
        self.stem.cost != COST_STEM_TO_ORDER && !self.spacers_to_order
    }

    /// What it is made of, as a fitter tells front ends apart.
    fn made(&self) -> Made {
        (
            tenths(self.stem.length_mm),
            tenths(self.stem.angle_deg),
            self.bar,
            self.hood_mm != 0.0 || self.roll_deg != 0.0,
        )
    }

    /// The better first: the class of its miss, what it costs, the miss, how near the target.
    pub(crate) fn against(&self, other: &Self) -> Ordering {
        (self.class.cmp(&other.class))
            .then(self.cost.cmp(&other.cost))
            .then(self.miss_mm.total_cmp(&other.miss_mm))
            .then(self.near_mm.total_cmp(&other.near_mm))
    }
}

/// Stem length and angle in tenths, the bar, and whether that is turned.
type Made = (i32, i32, usize, bool);

/// A stem as it can be mounted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Stem {
    pub(crate) length_mm: f64,
    pub(crate) angle_deg: f64,
    pub(crate) clamp_mm: f64,
    cost: u32,
}

/// A way to stack the spacers.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Stack {
    below_mm: f64,
    above_mm: f64,
    cut_mm: f64,
    cost: u32,
    to_order: bool,
}

/// Everything a front end can be built of on a bike.
#[derive(Clone)]
pub(crate) struct Bench<'a> {
    setup: &'a Placed,
    frame: crate::bike::Frame,
    stems: Vec<Stem>,
    pub(super) bars: Vec<(Bar, u32)>,
    /// Heights of the spacers there are, in tenths of a millimetre, with how many.
    spacers: Vec<(i32, u32)>,
}

/// Tenths of a millimetre, in which spacers add up exactly.
fn tenths(mm: f64) -> i32 {
    #[allow(
        clippy::cast_possible_truncation,
        reason = "spacers are a few centimetres high"
    )]
    let whole = (mm * 10.0).round() as i32;
    whole
}

fn mm(tenths: i32) -> f64 {
    f64::from(tenths) / 10.0
}

impl<'a> Bench<'a> {
    pub(crate) fn of(trying: &'a Trying, parts: &[Part]) -> Self {
        let setup = &trying.setup;
        let now = &setup.cockpit;
        let mounted = |part: &Part, cost: u32| -> Vec<Stem> {
            let (Some(length_mm), Some(angle)) =
                (part.size(Quantity::Stem), part.size(Quantity::StemAngle))
            else {
                return Vec::new();
            };
            let clamp_mm = part
                .size(Quantity::StemClamp)
                .unwrap_or(now.stem_clamp_mm.0);
            let stem = |angle_deg| Stem {
                length_mm,
                angle_deg,
                clamp_mm,
                cost,
            };
            if part.flips && angle != 0.0 {
                vec![stem(-angle.abs()), stem(angle.abs())]
            } else {
                vec![stem(angle)]
            }
        };
        let as_is = Stem {
            length_mm: now.stem_mm.0,
            angle_deg: now.stem_angle_deg.0,
            clamp_mm: now.stem_clamp_mm.0,
            cost: 0,
        };
        let flipped = Stem {
            angle_deg: -as_is.angle_deg,
            cost: COST_FLIPPED,
            ..as_is
        };
        let mut stems = vec![as_is];
        stems.extend((as_is.angle_deg != 0.0).then_some(flipped));
        for part in parts.iter().filter(|part| part.kind == PartKind::Stem) {
            let cost = if part.on_hand > 0 {
                COST_STEM
            } else {
                COST_STEM_TO_ORDER
            };
            for stem in mounted(part, cost) {
                let same = |other: &Stem| {
                    (other.length_mm - stem.length_mm).abs() < 1e-9
                        && (other.angle_deg - stem.angle_deg).abs() < 1e-9
                        && (other.clamp_mm - stem.clamp_mm).abs() < 1e-9
                };
                // What is there already, or cheaper, need not be got.
                if let Some(other) = stems.iter_mut().find(|other| same(other)) {
                    other.cost = other.cost.min(stem.cost);
                } else {
                    stems.push(stem);
                }
            }
        }
        let mut bars = vec![(setup.bar, 0)];
        let of_kind = |part: &&Part| part.on_hand > 0 && part.bar() == Some(setup.bar.kind());
        bars.extend(parts.iter().filter(of_kind).map(|part| {
            let mut bar = setup.bar;
            for (quantity, value) in &part.sizes {
                bar.set(*quantity, *value);
            }
            (bar, COST_BAR)
        }));
        bars.extend(pad_stacks(setup, parts));
        Self {
            setup,
            frame: trying.frame,
            stems,
            bars,
            spacers: spacers_there(setup, parts),
        }
    }

    /// Every way to stack the spacers around a stem's clamp: the gap under the cap is right, or the steerer is as long as
    /// it is now where nobody knows how long that is.
    fn stacks(&self, clamp_mm: f64) -> Vec<Stack> {
        let now = &self.setup.cockpit;
        let (was_below, was_above) = (
            tenths(now.spacers_below_mm.0),
            tenths(now.spacers_above_mm.0),
        );
        let (least, most) = if let Some(steerer) = Steerer::budget(&self.frame, now) {
            let room = steerer.above_head_tube_mm.0 - now.cover_mm.0 - clamp_mm;
            let (low, high) = Steerer::GAP_MM;
            (tenths(room + low), tenths(room + high))
        } else {
            let sum = was_below + was_above + tenths(now.stem_clamp_mm.0 - clamp_mm);
            (sum, sum)
        };
        let there = pairs(&self.spacers, most);
        let mut stacks: Vec<Stack> = Vec::new();
        let mut push = |below: i32, above: i32, cut: i32, to_order: bool| {
            let same = (below, above) == (was_below, was_above);
            let cost = match (same, to_order) {
                (true, _) => 0,
                (false, false) => COST_SPACERS,
                (false, true) => COST_SPACERS_TO_ORDER,
            };
            if mm(below) <= MOST_BELOW_MM.max(now.spacers_below_mm.0)
                && !stacks.iter().any(|s| tenths(s.below_mm) == below)
            {
                stacks.push(Stack {
                    below_mm: mm(below),
                    above_mm: mm(above),
                    cut_mm: mm(cut),
                    cost: cost + if cut > 0 { COST_CUT } else { 0 },
                    to_order,
                });
            }
        };
        if (least..=most).contains(&(was_below + was_above)) {
            push(was_below, was_above, 0, false);
        }
        for (below, above) in &there {
            if (least..=most).contains(&(below + above)) {
                push(*below, *above, 0, false);
            }
        }
        // Thin ordinary spacers meet any gap to the millimetre.
        for below in (0..=most.max(0)).step_by(10) {
            let above = (least - below).max(0);
            let whole = above + (10 - above.rem_euclid(10)) % 10;
            if (least..=most).contains(&(below + whole)) {
                push(below, whole, 0, true);
            }
        }
        // A steerer that stands out too far can be cut to what is there.
        if self.frame.steerer_mm.is_some() {
            for (below, above) in &there {
                if *above == 0 && *below < least {
                    push(*below, 0, least - *below, false);
                }
            }
        }
        stacks
    }

    /// Looks at every front end; `each` gets all of them. Tells how many there were.
    pub(crate) fn walk(&self, aim: &Aim, mut each: impl FnMut(Built)) -> usize {
        let axis = self.frame.steerer_axis();
        let head = self.frame.head_top();
        let cockpit = &self.setup.cockpit;
        let mut looked_at = 0;
        let mut clamps: Vec<(f64, Vec<Stack>)> = Vec::new();
        for stem in &self.stems {
            if !clamps
                .iter()
                .any(|(clamp, _)| (clamp - stem.clamp_mm).abs() < 1e-9)
            {
                clamps.push((stem.clamp_mm, self.stacks(stem.clamp_mm)));
            }
        }
        for stem in &self.stems {
            let leaves = Degrees(90.0) - self.frame.head_angle_deg + Degrees(stem.angle_deg);
            let arm =
                Point::polar(Millimetres(stem.length_mm), leaves) + self.setup.residual.offset();
            let stacks = clamps
                .iter()
                .find(|(clamp, _)| (clamp - stem.clamp_mm).abs() < 1e-9)
                .map_or(&[][..], |(_, stacks)| stacks.as_slice());
            for stack in stacks {
                let up = cockpit.cover_mm.0 + stack.below_mm + stem.clamp_mm / 2.0;
                let clamp = head + axis * up + arm;
                for (index, (bar, bar_cost)) in self.bars.iter().enumerate() {
                    for turned in turns(bar, aim.target - clamp) {
                        looked_at += 1;
                        let hand = clamp + turned.offset;
                        let miss_mm = aim.miss(hand);
                        each(Built {
                            stem: *stem,
                            below_mm: stack.below_mm,
                            above_mm: stack.above_mm,
                            bar: index,
                            hood_mm: turned.hood_mm,
                            roll_deg: turned.roll_deg,
                            cut_mm: stack.cut_mm,
                            cost: stem.cost + stack.cost + bar_cost + turned.cost,
                            class: miss_class(miss_mm),
                            miss_mm,
                            near_mm: hand.distance(aim.target),
                            hand,
                            spacers_to_order: stack.to_order,
                        });
                    }
                }
            }
        }
        looked_at
    }

    /// The best of them, best first.
    fn best(&self, aim: &Aim, most: usize) -> (Vec<Built>, usize) {
        let mut best: Vec<Built> = Vec::with_capacity(most + 1);
        let looked_at = self.walk(aim, |built| {
            let full = best.len() == most;
            if full
                && best
                    .last()
                    .is_some_and(|last| built.against(last) != Ordering::Less)
            {
                return;
            }
            let at = best.partition_point(|other| other.against(&built) != Ordering::Greater);
            best.insert(at, built);
            best.truncate(most);
        });
        (best, looked_at)
    }

    /// The bolts and parts between the bike as it is and a front end.
    pub(super) fn changes(&self, built: &Built) -> Vec<Change> {
        let now = self.setup;
        let (bar, _) = self.bars[built.bar];
        let mut wanted = vec![
            (Quantity::Stem, built.stem.length_mm),
            (Quantity::StemAngle, built.stem.angle_deg),
            (Quantity::StemClamp, built.stem.clamp_mm),
            (Quantity::SpacersBelow, built.below_mm),
            (Quantity::SpacersAbove, built.above_mm),
        ];
        let turned = with_turn(bar, built.hood_mm, built.roll_deg);
        let sizes = turned.quantities().iter();
        wanted.extend(sizes.filter_map(|q| Some((*q, turned.get(*q)?))));
        let changed = |(quantity, to): &(Quantity, f64)| {
            now.get(*quantity, None)
                .is_none_or(|was| (was - to).abs() > 1e-6)
        };
        let mut changes: Vec<Change> = (wanted.into_iter().filter(changed))
            .map(|(quantity, to)| Change::to(quantity, hundredth(to)))
            .collect();
        // Spacers that come off below the stem would be put above it: where they are not, that is said.
        let is = |quantity| move |change: &Change| change.quantity == quantity;
        let moved = changes.iter().any(is(Quantity::SpacersBelow));
        if moved && !changes.iter().any(is(Quantity::SpacersAbove)) {
            changes.push(Change::to(Quantity::SpacersAbove, built.above_mm));
        }
        changes
    }
}

/// Pieces by height in tenths, with how many.
#[derive(Default)]
struct Pieces(Vec<(i32, u32)>);

impl Pieces {
    fn add(&mut self, height: i32, count: u32) {
        match self.0.iter_mut().find(|(h, _)| *h == height) {
            Some((_, n)) => *n += count,
            None => self.0.push((height, count)),
        }
    }

    /// A stack as it stands, taken to be of ordinary pieces.
    fn add_stack(&mut self, stack_mm: f64) {
        let mut left = tenths(stack_mm);
        for piece in SPACERS_MM.iter().rev().map(|mm| tenths(*mm)) {
            while left >= piece {
                self.add(piece, 1);
                left -= piece;
            }
        }
        if left > 0 {
            self.add(left, 1);
        }
    }

    /// What lies in the box of a kind.
    fn add_box(&mut self, parts: &[Part], kind: PartKind) {
        for part in parts.iter().filter(|p| p.kind == kind && p.on_hand > 0) {
            if let Some(height) = part.size(Quantity::Spacer) {
                self.add(tenths(height), part.on_hand);
            }
        }
    }
}

/// The pieces on the bike and those of the box.
fn spacers_there(setup: &Placed, parts: &[Part]) -> Vec<(i32, u32)> {
    let mut all = Pieces::default();
    all.add_stack(setup.cockpit.spacers_below_mm.0);
    all.add_stack(setup.cockpit.spacers_above_mm.0);
    all.add_box(parts, PartKind::Spacer);
    all.0
}

/// The bar with every other height of its pads that the pieces on it and in the box give; none of a bar without pads.
fn pad_stacks(setup: &Placed, parts: &[Part]) -> Vec<(Bar, u32)> {
    let Bar::Aero(aero) = setup.bar else {
        return Vec::new();
    };
    let mut pieces = Pieces::default();
    pieces.add_stack(aero.pad_spacers_mm.0);
    pieces.add_box(parts, PartKind::PadSpacer);
    let most = tenths(PADS_MM.max(aero.pad_spacers_mm.0));
    let heights: BTreeSet<i32> = pairs(&pieces.0, most)
        .into_iter()
        .map(|(below, _)| below)
        .collect();
    let other = heights
        .into_iter()
        .filter(|h| *h != tenths(aero.pad_spacers_mm.0));
    other
        .map(|height| {
            let mut bar = setup.bar;
            bar.set(Quantity::PadSpacers, mm(height));
            (bar, COST_SPACERS)
        })
        .collect()
}

/// Every split of some pieces into what stands below and above a stem, together no higher than `most`; the rest stays off.
fn pairs(pieces: &[(i32, u32)], most: i32) -> BTreeSet<(i32, i32)> {
    let mut all = BTreeSet::from([(0, 0)]);
    for (height, count) in pieces {
        let before: Vec<(i32, i32)> = all.iter().copied().collect();
        let count = i32::try_from(*count)
            .unwrap_or(i32::MAX)
            .min(most / height.max(&1) + 1);
        for (below, above) in before {
            for of_below in 0..=count {
                for of_above in 0..=count - of_below {
                    let pair = (below + of_below * height, above + of_above * height);
                    if pair.0 + pair.1 <= most {
                        all.insert(pair);
                    }
                }
            }
        }
    }
    all
}

/// Which class a miss falls into.
pub(crate) fn miss_class(miss_mm: f64) -> u32 {
    CLASSES_MM.iter().map(|end| u32::from(miss_mm > *end)).sum()
}

/// A bar as it is turned about its clamp and its hoods pushed along it.
#[derive(Debug, Clone, Copy)]
struct Turned {
    hood_mm: f64,
    roll_deg: f64,
    /// Clamp centre to the hand point.
    offset: Point,
    cost: u32,
}

/// The way hoods go along a bar: as its ramp lies, in the bar's own frame.
fn along_bar(bar: &Bar) -> Option<Point> {
    match bar {
        Bar::Drop(drop) => Some(Point::polar(
            Millimetres(1.0),
            drop.ramp_angle_deg.unwrap_or_default(),
        )),
        Bar::Flat(_) | Bar::Aero(_) => None,
    }
}

/// A bar with its hoods pushed and itself rolled by so much.
fn with_turn(bar: Bar, hood_mm: f64, roll_deg: f64) -> Bar {
    let mut turned = bar;
    let along = along_bar(&bar).unwrap_or_default() * hood_mm;
    for (quantity, by) in [
        (Quantity::HoodForward, along.x),
        (Quantity::HoodRise, along.y),
        (Quantity::BarRoll, roll_deg),
    ] {
        if by != 0.0
            && let Some(was) = bar.get(quantity)
        {
            turned.set(quantity, was + by);
        }
    }
    turned
}

/// A bar as it is, and as it comes nearest to `d` from its clamp: hood travel `s` along `e` and roll in closed form,
/// `s = −a·e + √((a·e)² − |a|² + |d|²)`, `roll = atan2(d) − atan2(a + s e)`; where one is outside its range it is clamped
/// and the other solved for it.
fn turns(bar: &Bar, d: Point) -> impl Iterator<Item = Turned> + use<> {
    let a = bar.hand_offset();
    let as_is = Turned {
        hood_mm: 0.0,
        roll_deg: 0.0,
        offset: a,
        cost: 0,
    };
    let rolls = bar.kind() != BarKind::Aero;
    // The bar's own axes turn with its roll, and so does the way the hoods go.
    let e =
        along_bar(bar).map(|e| e.turned(Degrees(bar.get(Quantity::BarRoll).unwrap_or_default())));
    let at = move |s: f64, roll: f64| Turned {
        hood_mm: s,
        roll_deg: roll,
        offset: (a + e.unwrap_or_default() * s).turned(Degrees(roll)),
        cost: COST_BAR_TURNED,
    };
    let roll_for = move |s: f64| {
        let from = a + e.unwrap_or_default() * s;
        (d.direction() - from.direction()).0
    };
    let hood_for = move |roll: f64| {
        e.map_or(0.0, |e| {
            (d.turned(Degrees(-roll)) - a)
                .dot(e)
                .clamp(-HOOD_MM, HOOD_MM)
        })
    };
    let near = move |turned: &Turned| turned.offset.distance(d);
    let best = if rolls {
        let free = e.and_then(|e| {
            let (along, a2, d2) = (a.dot(e), a.dot(a), d.dot(d));
            let root = along * along - a2 + d2;
            (root >= 0.0).then(|| -along + root.sqrt())
        });
        let free = free.filter(|s| s.abs() <= HOOD_MM && roll_for(*s).abs() <= ROLL_DEG);
        let ends = [-HOOD_MM, HOOD_MM].map(|s| {
            let s = if e.is_some() { s } else { 0.0 };
            at(s, roll_for(s).clamp(-ROLL_DEG, ROLL_DEG))
        });
        let sides = [-ROLL_DEG, ROLL_DEG].map(|roll| at(hood_for(roll), roll));
        match free {
            Some(s) => Some(at(s, roll_for(s))),
            None => ends
                .into_iter()
                .chain(sides)
                .min_by(|a, b| near(a).total_cmp(&near(b))),
        }
    } else {
        None
    };
    [Some(as_is), best.filter(|b| near(b) + 1e-9 < near(&as_is))]
        .into_iter()
        .flatten()
}

/// The front ends that put the hands nearest to an aim, of what is on the bike, in the box and to order.
pub fn front_ends(trying: &Trying, aim: &Aim, parts: &[Part]) -> Fronts {
    /// More than are given: some say the same, some meet a wall.
    const LOOKED_INTO: usize = 400;
    let bench = Bench::of(trying, parts);
    let (best, looked_at) = bench.best(aim, LOOKED_INTO);
    let mut given: Vec<Made> = Vec::new();
    let mut answers: Vec<FrontEnd> = Vec::new();
    let mut walls: Vec<String> = Vec::new();
    for built in &best {
        if answers.len() == ANSWERS {
            break;
        }
        let changes = bench.changes(built);
        if changes.is_empty() {
            continue;
        }
        let Some(after) = trying.plain(&changes) else {
            continue;
        };
        if let Some(wall) = wall(&trying.rider, &trying.before, &after) {
            if !walls.contains(&wall) {
                walls.push(wall);
            }
            continue;
        }
        // Of one stem and bar the best is given: the others say nothing new.
        if given.contains(&built.made()) {
            continue;
        }
        given.push(built.made());
        let words = sentence_of(trying, &bench, built, after.upper.torso_deg.0);
        answers.push(FrontEnd {
            words,
            hand: after.bike.hand,
            miss_mm: tenth(built.miss_mm),
            to_order: to_order(built),
            cut_mm: (built.cut_mm > 0.0).then_some(built.cut_mm),
            checks: checks(built),
            changes,
        });
    }
    let landed = answers.iter().any(|answer| answer.miss_mm <= LANDS_MM);
    let mut in_the_way = walls;
    if !landed {
        in_the_way.extend(stands_in_the_way(&bench, aim));
    }
    Fronts {
        answers,
        in_the_way,
        looked_at,
    }
}

/// "Stem 90, −6°, spacers 30 → 25: hands 12 nearer, 6 higher; torso 44.1° ± 1.2".
fn sentence_of(trying: &Trying, bench: &Bench, built: &Built, torso: f64) -> String {
    let now = &bench.setup.cockpit;
    let mut parts: Vec<String> = Vec::new();
    let stem = &built.stem;
    let other = |a: f64, b: f64| (a - b).abs() > 1e-6;
    if other(stem.length_mm, now.stem_mm.0) || other(stem.angle_deg, now.stem_angle_deg.0) {
        parts.push(format!(
            "stem {}, {}°",
            written(stem.length_mm),
            written(stem.angle_deg)
        ));
    }
    if other(built.below_mm, now.spacers_below_mm.0) {
        parts.push(format!(
            "spacers {} → {}",
            written(now.spacers_below_mm.0),
            written(built.below_mm)
        ));
    } else if other(built.above_mm, now.spacers_above_mm.0) {
        parts.push(format!("spacers above {}", written(built.above_mm)));
    }
    if built.bar > 0 {
        let (bar, _) = bench.bars[built.bar];
        let pads = |bar: &Bar| bar.get(Quantity::PadSpacers);
        if let Some((was, is)) = pads(&bench.setup.bar).zip(pads(&bar)) {
            parts.push(format!("pad spacers {} → {}", written(was), written(is)));
        } else {
            let reach = bar
                .get(Quantity::BarReach)
                .or_else(|| bar.get(Quantity::BarRise));
            parts.push(format!(
                "another bar, {}",
                written(reach.unwrap_or_default())
            ));
        }
    }
    if built.hood_mm.abs() >= 0.5 {
        let way = if built.hood_mm > 0.0 {
            "forward"
        } else {
            "back"
        };
        parts.push(format!("hoods {} {way}", written(built.hood_mm.abs())));
    }
    if built.roll_deg.abs() >= 0.05 {
        let way = if built.roll_deg > 0.0 { "up" } else { "down" };
        parts.push(format!(
            "bar rolled {}° {way}",
            written(built.roll_deg.abs())
        ));
    }
    if built.cut_mm > 0.0 {
        parts.push(format!("steerer cut by {}", written(built.cut_mm)));
    }
    let by = built.hand - trying.before.bike.hand;
    let moves = hands_moved_words(by.x, by.y);
    capital(&format!(
        "{}: {moves}; torso {}° ± {}",
        parts.join(", "),
        written(torso),
        written(trying.band(Output::Torso))
    ))
}

fn to_order(built: &Built) -> Vec<String> {
    let stem = &built.stem;
    let stem = (stem.cost == COST_STEM_TO_ORDER).then(|| {
        format!(
            "Stem {}, {}°",
            written(stem.length_mm),
            written(stem.angle_deg)
        )
    });
    let spacers = built.spacers_to_order.then(|| "Thin spacers".to_owned());
    [stem, spacers].into_iter().flatten().collect()
}

/// What must be looked at before a front end is ridden.
fn checks(built: &Built) -> Vec<String> {
    let mut all = vec![
        "Hoses and cables free at full lock".to_owned(),
        "Steerer and bar bores of stem and parts".to_owned(),
        "Lever reach; knees clear of the bar, toes of the wheel".to_owned(),
        "Bolts to the torque printed on each part".to_owned(),
    ];
    if built.cut_mm > 0.0 {
        all.insert(
            0,
            "Ride it for some weeks first: a cut steerer stays cut".to_owned(),
        );
    }
    all
}

/// What keeps every front end from landing: each hindrance taken away by itself, and the part that would do then.
fn stands_in_the_way(bench: &Bench, aim: &Aim) -> Vec<String> {
    let lands = |bench: &Bench| {
        let (best, _) = bench.best(aim, 1);
        best.first()
            .copied()
            .filter(|built| built.miss_mm <= LANDS_MM)
    };
    let mut said = Vec::new();
    // A stem of any length and angle.
    let mut any_stem = bench.clone();
    any_stem.stems = (2..=15_u32)
        .flat_map(|tens| {
            (-8..=10_i32).map(move |fives| (f64::from(tens) * 10.0, f64::from(fives) * 5.0))
        })
        .map(|(length_mm, angle_deg)| Stem {
            length_mm,
            angle_deg,
            clamp_mm: bench.setup.cockpit.stem_clamp_mm.0,
            cost: COST_STEM_TO_ORDER,
        })
        .collect();
    if let Some(built) = lands(&any_stem) {
        said.push(format!(
            "No stem here or to order does: one of {} at {}° would",
            written(built.stem.length_mm),
            written(built.stem.angle_deg)
        ));
    }
    // A head tube that is shorter, or a steerer that is longer: the least of either.
    let shorter = |by: f64| {
        let mut other = bench.clone();
        let axis = other.frame.steerer_axis();
        other.frame.head_tube_mm.0 -= by;
        other.frame.frame_stack_mm.0 -= by * axis.y;
        other.frame.frame_reach_mm.0 -= by * axis.x;
        if let Some(steerer) = other.frame.steerer_mm.as_mut() {
            steerer.0 -= by;
        }
        other
    };
    if let Some(by) = (1..=16_u32)
        .map(|step| f64::from(step) * 5.0)
        .find(|by| lands(&shorter(*by)).is_some())
    {
        said.push(format!(
            "The head tube is too tall by about {} mm: another frame",
            written(by)
        ));
    }
    if bench.frame.steerer_mm.is_some() {
        let longer = |by: f64| {
            let mut other = bench.clone();
            if let Some(steerer) = other.frame.steerer_mm.as_mut() {
                steerer.0 += by;
            }
            other
        };
        if let Some(by) = (1..=40_u32)
            .map(f64::from)
            .find(|by| lands(&longer(*by)).is_some())
        {
            said.push(format!("The steerer is too short by {} mm", written(by)));
        }
    }
    if said.is_empty() {
        said.push("No front end of ordinary sizes lands on this frame: another frame, or another place of the hands".to_owned());
    }
    said
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bike::BikePoints;
    use crate::example;
    use crate::foresee::ForeseeInput;
    use proptest::prelude::*;

    fn stem(on_hand: u32, length: f64, angle: f64) -> Part {
        Part::new(
            PartKind::Stem,
            on_hand,
            &[(Quantity::Stem, length), (Quantity::StemAngle, angle)],
        )
    }

    fn spacer(on_hand: u32, height: f64) -> Part {
        Part::new(PartKind::Spacer, on_hand, &[(Quantity::Spacer, height)])
    }

    /// The road example on a steerer whose gap is right.
    fn road() -> ForeseeInput {
        let mut input = example::road();
        // Cover 15, below 20, clamp 40, above 0: 75; head tube 150, lower stack 5; gap 2.5.
        input.frame.steerer_mm = Some(Millimetres(227.5));
        input
    }

    #[test]
    fn a_shorter_stem_lands_where_it_is_aimed() {
        let input = road();
        let ride = input.check().unwrap();
        let trying = Trying::of(&ride);
        let bench = Bench::of(&trying, &[]);
        let shorter = BikePoints::of(
            &ride.frame,
            &ride.setup.with(|parts| parts.cockpit.stem_mm.0 -= 20.0),
        );
        let fronts = front_ends(
            &trying,
            &Aim::at(shorter.hand, None),
            &[stem(1, 80.0, -6.0)],
        );
        let best = &fronts.answers[0];
        assert_eq!(
            best.changes,
            [Change::to(Quantity::Stem, 80.0)],
            "{fronts:?}"
        );
        assert!(best.miss_mm < 0.05 && best.to_order.is_empty() && best.cut_mm.is_none());
        assert!(
            best.words
                .starts_with("Stem 80, −6°: hands 20 nearer, 4 lower; torso "),
            "{}",
            best.words
        );
        assert!(fronts.in_the_way.is_empty());
        // Without it on hand the hoods and the roll are tried first, and it is named as to order.
        let (best, _) = bench.best(&Aim::at(shorter.hand, None), 1);
        assert!(best[0].cost < COST_STEM_TO_ORDER || best[0].class == 0);
    }

    #[test]
    fn what_stands_in_the_way_is_said_with_what_would_do() {
        let input = road();
        let ride = input.check().unwrap();
        let trying = Trying::of(&ride);
        let far = trying.before.bike.hand + Point::new(-10.0, 60.0);
        let fronts = front_ends(&trying, &Aim::at(far, None), &[]);
        assert!(
            fronts.answers.iter().all(|a| a.miss_mm > LANDS_MM),
            "{fronts:?}"
        );
        let said = fronts.in_the_way.join("; ");
        assert!(
            said.contains("The steerer is too short by") || said.contains("would"),
            "{said}"
        );
    }

    #[test]
    fn the_arc_forgives_what_lies_along_it() {
        let input = road();
        let ride = input.check().unwrap();
        let trying = Trying::of(&ride);
        let arc = Arc::of(&ride, &trying.before);
        let target = trying.before.bike.hand + Point::new(-15.0, 0.0);
        let aim = Aim::at(target, arc);
        let along = aim.arc.unwrap().at(8.0);
        assert!(aim.miss(along) < 1e-9 && along.distance(target) > 7.9);
        assert!(aim.miss(target + Point::new(6.0, 0.0)) > 4.0);
    }

    /// Every way to put some pieces below the stem, above it, or aside, one by one.
    fn each_pair(pieces: &[i32], at: usize, pair: (i32, i32), all: &mut BTreeSet<(i32, i32)>) {
        let Some(piece) = pieces.get(at) else {
            all.insert(pair);
            return;
        };
        each_pair(pieces, at + 1, pair, all);
        each_pair(pieces, at + 1, (pair.0 + piece, pair.1), all);
        each_pair(pieces, at + 1, (pair.0, pair.1 + piece), all);
    }

    #[test]
    fn pads_go_up_by_their_own_spacers() {
        let ride = example::time_trial().check().unwrap();
        let trying = Trying::of(&ride);
        let now = trying.before.bike.hand;
        let Bar::Aero(aero) = ride.setup.bar else {
            panic!("pads");
        };
        let was = aero.pad_spacers_mm.0;
        let aim = Aim::at(now + Point::new(0.0, 10.0), None);
        let pads = |parts: &[Part]| {
            let best = front_ends(&trying, &aim, parts).answers;
            let found = best.iter().find_map(|answer| {
                let mut changes = answer.changes.iter();
                changes
                    .find(|c| c.quantity == Quantity::PadSpacers)
                    .and_then(|c| c.to)
            });
            (found, best)
        };
        // A ten in the box: the pads go up by it, and nothing else is turned.
        let ten = Part::new(PartKind::PadSpacer, 2, &[(Quantity::Spacer, 10.0)]);
        let (to, best) = pads(&[ten]);
        assert_eq!(to, Some(was + 10.0), "{best:?}");
        assert_eq!(best[0].changes.len(), 1, "{best:?}");
        assert!(best[0].words.starts_with("Pad spacers"), "{best:?}");
        assert!(best[0].miss_mm < 0.6, "{best:?}");
        assert_eq!(pads(&[]).0.filter(|to| *to > was), None);
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(300))]
        #[test]
        fn nothing_better_is_missed_and_no_hard_limit_is_broken(
            lengths in prop::collection::vec((6..13_u32, 0..4_u32, 0..2_u32), 1..5),
            pieces in prop::collection::vec(1..5_usize, 0..4),
            longer in -4..6_i32,
            by in (-40.0..30.0_f64, -30.0..30.0_f64),
        ) {
            let heights = [0.0, 2.5, 5.0, 10.0, 15.0];
            let mut input = road();
            input.frame.steerer_mm = Some(Millimetres(227.5 + 2.5 * f64::from(longer)));
            let ride = input.check().unwrap();
            let trying = Trying::of(&ride);
            let parts: Vec<Part> = lengths
                .iter()
                .map(|(tens, angle, hand)| stem(*hand, f64::from(*tens) * 10.0, [-17.0, -6.0, 0.0, 10.0][*angle as usize]))
                .chain(pieces.iter().map(|at| spacer(1, heights[*at])))
                .collect();
            let target = trying.before.bike.hand + Point::new(by.0, by.1);
            let aim = Aim::at(target, None);
            let bench = Bench::of(&trying, &parts);
            let (best, _) = bench.best(&aim, 1);

            // The pieces: 20 on the bike, the box's, and as many thin ones as are ordered.
            let mut there = vec![200];
            there.extend(pieces.iter().map(|at| tenths(heights[*at])));
            let mut pairs = BTreeSet::new();
            each_pair(&there, 0, (0, 0), &mut pairs);
            let above_tube = input.frame.steerer_mm.unwrap().0 - 155.0;
            let mut brute: Option<(u32, u32, f64)> = None;
            for tried in &bench.stems {
                for (below, above) in &pairs {
                    let gap = 15.0 + mm(*below) + 40.0 + mm(*above) - above_tube;
                    if !(2.0 - 1e-9..=3.0 + 1e-9).contains(&gap) || mm(*below) > MOST_BELOW_MM {
                        continue;
                    }
                    let spacers = if (*below, *above) == (200, 0) { 0 } else { COST_SPACERS };
                    // The bar walked in fine steps.
                    for s in -10..=10_i32 {
                        for roll in -10..=10_i32 {
                            let (s, roll) = (f64::from(s), f64::from(roll) / 2.0);
                            let turned = with_turn(input.setup.bar, s, roll);
                            let placed = ride.setup.with(|setup| {
                                setup.cockpit.stem_mm.0 = tried.length_mm;
                                setup.cockpit.stem_angle_deg.0 = tried.angle_deg;
                                setup.cockpit.spacers_below_mm.0 = mm(*below);
                                setup.bar = turned;
                            });
                            let miss = BikePoints::of(&ride.frame, &placed).hand.distance(target);
                            let bar = u32::from(s != 0.0 || roll != 0.0) * COST_BAR_TURNED;
                            let found = (miss_class(miss), tried.cost + spacers + bar, miss);
                            if brute.is_none_or(|b| (found.0, found.1) < (b.0, b.1)) {
                                brute = Some(found);
                            }
                        }
                    }
                }
            }
            if let (Some(brute), Some(best)) = (brute, best.first()) {
                prop_assert!((best.class, best.cost) <= (brute.0, brute.1), "{best:?} {brute:?}");
            }
            let mut limits = Ok(());
            bench.walk(&aim, |built| {
                let gap = 15.0 + built.below_mm + built.stem.clamp_mm + built.above_mm - (above_tube - built.cut_mm);
                if !(2.0 - 1e-6..=3.0 + 1e-6).contains(&gap) || built.hood_mm.abs() > HOOD_MM + 1e-9 || built.roll_deg.abs() > ROLL_DEG + 1e-9 {
                    limits = Err(built);
                }
            });
            prop_assert!(limits.is_ok(), "{limits:?}");
            // What it says of the hand is where the bike's own geometry puts it.
            if let Some(best) = best.first() {
                let changes = bench.changes(best);
                if let Some(after) = trying.plain(&changes) {
                    prop_assert!(after.bike.hand.distance(best.hand) < 0.05, "{best:?} {changes:?}");
                }
            }
        }
    }
}
