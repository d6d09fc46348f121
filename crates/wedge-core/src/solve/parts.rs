//! Which stem, angle and spacers bring the hands where they should be.

use crate::bike::{BikePoints, Placed, STEM_ANGLES_DEG, STEMS_MM};
use crate::foresee::Change;
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::Ride;
use crate::rule::rules;

rules! {
    rules "Parts";
    /// Parts are left as they are unless others are nearer by this.
    pub(super) const CLEARLY_MM: f64 = 1.0, " mm", House;
}

/// Where the hands are on a setup.
pub(crate) fn hand_on(ride: &Ride, setup: &Placed) -> Point {
    let bike = BikePoints::of(&ride.frame, setup);
    bike.place(ride.hand_place(setup)).unwrap_or(bike.hand)
}

/// The stem, angle and spacers that move the hands of a setup by about so much, of those that are `allowed`: the fewest bolts
/// that put the rider `right`, or come there `near` enough; where none do, the nearest, another bolt only where it brings the
/// hands nearer by `a_bolt`. And how far they leave the hands from there, mm.
pub(crate) fn parts_for(
    ride: &Ride,
    setup: &Placed,
    by: Point,
    (near, a_bolt): (f64, f64),
    allowed: impl Fn(&Placed) -> bool,
    right: impl Fn(&Placed) -> bool,
) -> (Vec<Change>, f64) {
    let target = hand_on(ride, setup) + by;
    let cockpit = &setup.cockpit;
    let sum = cockpit.spacers_below_mm.0 + cockpit.spacers_above_mm.0;
    let spacers = (0..=24_u32)
        .map(|step| f64::from(step) * 5.0)
        .filter(|mm| *mm <= sum)
        .chain([cockpit.spacers_below_mm.0]);
    let down = STEM_ANGLES_DEG.into_iter().rev().map(|angle| -angle);
    let angles = down.chain(STEM_ANGLES_DEG);
    let mut all = Vec::new();
    for stem in STEMS_MM.into_iter().chain([cockpit.stem_mm.0]) {
        for angle in angles.clone().chain([cockpit.stem_angle_deg.0]) {
            for below in spacers.clone() {
                let tried = setup.with(|parts| {
                    parts.cockpit.stem_mm.0 = stem;
                    parts.cockpit.stem_angle_deg.0 = angle;
                    parts.cockpit.spacers_below_mm.0 = below;
                });
                let off = hand_on(ride, &tried).distance(target);
                let bolts = turned(setup, &tried).len();
                if bolts > 0 && off < by.length() - CLEARLY_MM {
                    all.push((bolts, off, tried));
                }
            }
        }
    }
    all.sort_by(|a, b| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1)));
    let does =
        |(_, off, tried): &&(usize, f64, Placed)| (*off <= near || right(tried)) && allowed(tried);
    let found = all.iter().find(does).copied().or_else(|| {
        let cost = |(bolts, off, _): &(usize, f64, Placed)| {
            u32::try_from(*bolts).map_or(f64::MAX, |bolts| f64::from(bolts) * a_bolt + off)
        };
        all.sort_by(|a, b| cost(a).total_cmp(&cost(b)));
        all.iter().find(|(.., tried)| allowed(tried)).copied()
    });
    found.map_or((Vec::new(), by.length()), |(_, off, tried)| {
        (turned(setup, &tried), off)
    })
}

/// The bolts between two setups' front ends.
fn turned(from: &Placed, to: &Placed) -> Vec<Change> {
    [Quantity::Stem, Quantity::StemAngle, Quantity::SpacersBelow]
        .into_iter()
        .filter_map(|quantity| {
            let (was, is) = (from.cockpit.get(quantity)?, to.cockpit.get(quantity)?);
            ((was - is).abs() > 1e-9).then(|| Change::to(quantity, is))
        })
        .collect()
}
