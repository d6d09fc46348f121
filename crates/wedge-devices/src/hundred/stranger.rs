//! A rider who comes through the door: what a tape says of him and of a bike somebody once set up, and the one behind it.

use crate::dice::Dice;
use crate::hidden::{HiddenRider, Trouble};
use crate::practice::Level;
use wedge_core::bike::{Placed, Setup, ordinary_parts};
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Trying};
use wedge_core::judge::{Axis, Bolt, Evidence, Linkage, turned};
use wedge_core::limit::limits;
use wedge_core::measure::Quantity;
use wedge_core::plane::Point;
use wedge_core::position::Ride;
use wedge_core::solve::{Aim, front_ends, perch_room};
use wedge_core::units::{Degrees, Millimetres, Side};

/// Somebody on a bike as found.
#[derive(Debug, Clone)]
pub struct Stranger {
    /// What was measured.
    pub known: ForeseeInput,
    /// What he tells besides, and what there is to see without a bike.
    pub told: Vec<Evidence>,
    /// Who he is.
    pub hidden: HiddenRider,
}

/// The room a joint has where its rider belongs, at least.
const ROOM_DEG: f64 = 4.0;
/// How often one body is tried on bikes before another is thrown: seldom does one fit on none of so many, and on a level sooner.
const TRIED: u64 = 64;
const TRIED_ON_A_LEVEL: u64 = 8;
/// How often a limit of the table was measured that may matter.
const LIMITED: f64 = 0.3;

impl Stranger {
    /// The rider of a seed: always the same. A body that sits on no bike of its size is thrown again.
    pub fn of(seed: u64) -> Self {
        Self::thrown(seed, None)
    }

    /// The rider of a seed as a level of practice has him.
    pub fn at(level: Level, seed: u64) -> Self {
        Self::thrown(seed, Some(level))
    }

    fn thrown(seed: u64, level: Option<Level>) -> Self {
        let mut attempt = 0;
        loop {
            let mut dice = Dice::of(seed, 1_000 + attempt);
            if let Some((known, hidden)) = sat_down(&mut dice, (seed, attempt), level) {
                let told = told(&mut dice, &hidden);
                return Self {
                    known,
                    told,
                    hidden,
                };
            }
            attempt += 1;
        }
    }
}

/// How often an axis of a bike that comes in is out, and how far then, one standard deviation; else it is near where it
/// belongs. Bikes come with some things wrong, not with everything: as often as makes rules in a fixed order and protocols in
/// their order, which believe nothing, as good as they are in the trade.
pub(super) fn comes(axis: Axis) -> (f64, f64) {
    match axis {
        Axis::Height => (0.7, 12.0),
        Axis::Setback => (0.55, 14.0),
        Axis::Tilt => (0.06, 2.0),
        Axis::Reach => (0.55, 24.0),
        Axis::Bars => (0.6, 30.0),
        Axis::BarWidth => (0.04, 15.0),
        Axis::CleatL | Axis::CleatR => (0.06, 6.0),
        Axis::TurnL | Axis::TurnR => (0.025, 3.0),
        Axis::StanceL | Axis::StanceR => (0.02, 5.0),
        Axis::Levers | Axis::Crank => (0.04, 6.0),
        Axis::SaddleWidth => (0.03, 11.0),
    }
}

/// Near where it belongs: within this share of its window, one standard deviation.
const SETTLED: f64 = 0.35;

/// How far from right each axis of a bike comes. Both feet come alike.
fn coming(dice: &mut Dice, hidden: &HiddenRider) -> Vec<f64> {
    let mut all: Vec<f64> = (Axis::ALL.iter())
        .map(|axis| {
            let (often, sd) = comes(*axis);
            // Of that, what it is set to takes its part: the next bar is right to half a size.
            let settled = SETTLED * hidden.window(*axis).half - 0.5 * axis.spec().round;
            let settled = settled.max(0.0);
            let (is_out, far, near) = (dice.happens(often), dice.normal(sd), dice.normal(settled));
            if is_out { far } else { near }
        })
        .collect();
    let alike = dice.normal(0.5);
    all[Axis::CleatR as usize] = all[Axis::CleatL as usize] + alike;
    all
}

/// A rider and the bike somebody set up for him: right places first, then how far off the bike comes. Right places lie within
/// what the joints allow, and what ordinary parts reach on that frame.
fn sat_down(
    dice: &mut Dice,
    (seed, attempt): (u64, u64),
    level: Option<Level>,
) -> Option<(ForeseeInput, HiddenRider)> {
    let mut known = measured(dice);
    // What is asked for may not go with a body: then with the next.
    let hidden = match level {
        None => HiddenRider::thrown(seed, &known, attempt / TRIED).ok()?,
        Some(level) => {
            let hidden = HiddenRider::thrown(seed, &known, attempt / TRIED_ON_A_LEVEL).ok()?;
            level.of(hidden, dice)
        }
    };
    let off = level.and_then(|level| level.comes(&hidden, dice));
    let off = off.unwrap_or_else(|| coming(dice, &hidden));
    let ride = known.check().ok()?;
    let linkage = Linkage::of(&Trying::of(&ride));
    let right = set_up(&known, (&ride, &linkage), &hidden, &vec![0.0; off.len()])?;
    let right = right.check().ok()?;
    let rows = limits(&Trying::of(&right));
    let least = |side: Side| {
        let of = rows.iter().filter(|row| row.quantity == Quantity::HipLimit);
        of.filter(|row| row.side.is_none_or(|of| of == side))
            .filter_map(|row| row.margin_deg)
            .min_by(f64::total_cmp)
    };
    for side in Side::BOTH {
        if let (Some(limit), Some(margin)) = (
            known.rider.legs.of_mut(side).hip_limit_deg.as_mut(),
            least(side),
        ) {
            limit.0 += (ROOM_DEG - margin).max(0.0).ceil();
        }
    }
    let found = set_up(&known, (&ride, &linkage), &hidden, &off)?;
    if !can_be_fitted(&known, &found, &linkage, &hidden)? {
        return None;
    }
    // The feet go as they went where the bolts were set from, so that the bike stands as far off as it was set.
    let mut end = found.clone();
    end.observed.pitch = Some(ride.observe_pitch());
    let end = end.check().ok()?;
    let stands = linkage.stands(&Trying::of(&end));
    let hidden = hidden.on_another(&stands, &found).ok()?;
    Some((found, hidden))
}

/// The bike with every axis so far off where the rider belongs.
fn set_up(
    known: &ForeseeInput,
    (ride, linkage): (&Ride, &Linkage),
    hidden: &HiddenRider,
    off: &[f64],
) -> Option<ForeseeInput> {
    let mut found = turned_to(known, (ride, linkage), hidden, off)?;
    let now = known_on(ride, found.setup)?;
    let places = linkage.stands(&Trying::of(&now));
    let left = |axis: Axis| {
        let to = hidden.window(axis).centre + off[axis as usize];
        (to - places[axis as usize]).round()
    };
    // A frame of another size carries the bars elsewhere.
    found.frame.frame_reach_mm.0 += left(Axis::Reach);
    found.frame.frame_stack_mm.0 += left(Axis::Bars);
    Some(found)
}

/// The same with what saddle, feet, bar width and levers are turned by, on the frame it has.
fn turned_to(
    known: &ForeseeInput,
    (ride, linkage): (&Ride, &Linkage),
    hidden: &HiddenRider,
    off: &[f64],
) -> Option<ForeseeInput> {
    let mut known = known.clone();
    let to = |axis: Axis| hidden.window(axis).centre + off[axis as usize];
    let set = |axis: Axis| {
        let round = axis.spec().round;
        (to(axis) / round).round() * round
    };
    for (axis, bolt) in [
        (Axis::Tilt, Bolt::Tilt),
        (Axis::BarWidth, Bolt::BarWidth),
        (Axis::Levers, Bolt::Levers),
        (Axis::CleatL, Bolt::CleatL),
        (Axis::CleatR, Bolt::CleatR),
        (Axis::TurnL, Bolt::TurnL),
        (Axis::TurnR, Bolt::TurnR),
        (Axis::StanceL, Bolt::StanceL),
        (Axis::StanceR, Bolt::StanceR),
        (Axis::Crank, Bolt::Crank),
        (Axis::SaddleWidth, Bolt::Saddle),
    ] {
        let changes = turned(&known.setup, bolt, set(axis));
        known.setup = Setup::from(Trying::of(&known_on(ride, known.setup)?).changed(&changes)?);
    }
    // The leg's way and the hands from the saddle: what bolts did to them first.
    for _ in 0..2 {
        let now = known_on(ride, known.setup)?;
        let now = Trying::of(&now);
        let places = linkage.stands(&now);
        let left = |axis: Axis| to(axis) - places[axis as usize];
        let changes = [
            Change::by(Quantity::Setback, left(Axis::Setback).round()),
            Change::by(Quantity::SaddleHeight, left(Axis::Height).round()),
        ];
        known.setup = Setup::from(now.changed(&changes)?);
    }
    Some(known)
}

/// Whether the post goes as high as he belongs, and some ordinary front end brings the hands well into both windows on the frame
/// he came with, once he sits right: a frame on which none does is another trade's matter.
fn can_be_fitted(
    known: &ForeseeInput,
    found: &ForeseeInput,
    linkage: &Linkage,
    hidden: &HiddenRider,
) -> Option<bool> {
    let mut right = known.clone();
    right.frame = found.frame;
    let ride = right.check().ok()?;
    let right = turned_to(
        &right,
        (&ride, linkage),
        hidden,
        &vec![0.0; Axis::ALL.len()],
    )?;
    let now = known_on(&ride, right.setup)?;
    let now = Trying::of(&now);
    if perch_room(&now).up_mm.is_some_and(|up| up < 0.0) {
        return Some(false);
    }
    let places = linkage.stands(&now);
    let to = |axis: Axis| hidden.window(axis).centre - places[axis as usize];
    let wanted = Point::new(to(Axis::Reach), to(Axis::Bars));
    let well_inside = |left: Point| {
        let is = |axis: Axis, by: f64| by.abs() <= 0.5 * hidden.window(axis).half;
        is(Axis::Reach, left.x) && is(Axis::Bars, left.y)
    };
    let hand = now.before.bike.hand;
    if well_inside(wanted) {
        return Some(true);
    }
    let fronts = front_ends(&now, &Aim::at(hand + wanted, None), &ordinary_parts());
    let mut ends = fronts.answers.iter();
    Some(ends.any(|end| well_inside(wanted - (end.hand - hand))))
}

fn known_on(ride: &Ride, setup: Setup) -> Option<Ride> {
    Some(ride.on(Placed::of(setup)?))
}

/// A length to what tapes are read to.
fn taped(dice: &mut Dice, value: f64, quantity: Quantity) -> Millimetres {
    Millimetres((value + dice.normal(quantity.spec().uncertainty)).round())
}

fn measured(dice: &mut Dice) -> ForeseeInput {
    let mut known = example::road();
    let stature = 1750.0 + dice.normal(90.0).clamp(-200.0, 200.0);
    let inseam = 0.475 * stature + dice.normal(18.0);
    let body = &mut known.rider.body;
    body.stature_mm = taped(dice, stature, Quantity::Stature);
    body.inseam_mm = Some(taped(dice, inseam, Quantity::Inseam));
    let breadth = 0.23 * stature + dice.normal(18.0);
    body.shoulder_breadth_mm = Some(taped(dice, breadth, Quantity::ShoulderBreadth));
    let foot = 0.152 * stature + dice.normal(7.0);
    let hip = dice.happens(LIMITED).then(|| 124.0 + dice.normal(6.0));
    for side in Side::BOTH {
        let leg = known.rider.legs.of_mut(side);
        leg.foot_length_mm = Some(taped(dice, foot, Quantity::FootLength));
        leg.hip_limit_deg = hip.map(|hip| Degrees((hip + dice.normal(1.5)).round()));
    }
    bike(dice, &mut known, (stature, inseam, breadth));
    known
}

/// A bike of about the rider's size, set up by rule of thumb.
fn bike(dice: &mut Dice, known: &mut ForeseeInput, (stature, inseam, breadth): (f64, f64, f64)) {
    let size = stature / 1780.0;
    let frame = &mut known.frame;
    for length in [&mut frame.frame_reach_mm, &mut frame.frame_stack_mm] {
        length.0 = (length.0 * size + dice.normal(6.0)).round();
    }
    frame.seat_tube_mm.0 = (frame.seat_tube_mm.0 * size).round();
    let setup = &mut known.setup;
    let seat = &mut setup.saddle;
    seat.saddle_height_mm = Millimetres((0.883 * inseam + dice.normal(9.0)).round());
    seat.setback_mm = Millimetres((0.28 * seat.saddle_height_mm.0 + dice.normal(10.0)).round());
    seat.tilt_deg = Degrees((2.0 * dice.normal(1.3)).round() / 2.0);
    seat.saddle_width_mm = Some(Millimetres((142.0 + dice.normal(6.0)).round()));
    setup.post.post_setback_mm = None;
    setup.cockpit.stem_mm = Millimetres(10.0 * (9.5 + dice.normal(1.2)).round().clamp(7.0, 13.0));
    setup.cockpit.spacers_below_mm =
        Millimetres(5.0 * (3.0 + dice.normal(2.0)).round().clamp(0.0, 7.0));
    let width = 20.0 * ((breadth + dice.normal(14.0)) / 20.0).round();
    setup.bar.set(Quantity::BarWidth, width.clamp(360.0, 480.0));
    let crank = match stature {
        stature if stature < 1650.0 => 170.0,
        stature if stature < 1800.0 => 172.5,
        _ => 175.0,
    };
    let cleat = 10.0 + dice.normal(3.5);
    for side in Side::BOTH {
        let pedalling = setup.pedalling.of_mut(side);
        pedalling.crank_mm = Millimetres(crank);
        pedalling.cleat_setback_mm = Millimetres((cleat + dice.normal(1.0)).round());
    }
}

/// What he tells at the table, and what is seen of him off the bike.
fn told(dice: &mut Dice, hidden: &HiddenRider) -> Vec<Evidence> {
    let has = |trouble: Trouble| hidden.troubles().iter().any(|of| of.trouble == trouble);
    let mut all = Vec::new();
    if has(Trouble::LoadRose) {
        if dice.happens(0.8) {
            all.push(Evidence::fact("load_rose"));
        }
    } else if dice.happens(0.6) {
        all.push(Evidence::fact("load_steady"));
    }
    if has(Trouble::NarrowShoe) && dice.happens(0.6) {
        all.push(Evidence::fact("shoe_tight"));
    }
    if has(Trouble::Stiff) && dice.happens(0.7) {
        all.push(Evidence::fact("stiff"));
    }
    let mut relief = Evidence::fact("relief");
    relief.set_has(!has(Trouble::NoRelief));
    all.push(relief);
    for of in hidden.troubles() {
        if of.trouble == Trouble::LowArch && dice.happens(0.7) {
            let mut arch = Evidence::fact("arch_low");
            if let Some(side) = of.side {
                arch.set_side(side);
            }
            all.push(arch);
        }
    }
    all
}
