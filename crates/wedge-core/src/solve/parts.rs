//! Which stem, angle and spacers bring the hands where they should be.

use crate::bike::{BikePoints, Placed};
use crate::foresee::Change;
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::Ride;
use crate::rule::rules;

rules! {
    rules "Parts";
    /// Stems as they are commonly sold.
    const STEMS_MM: [f64; 10] = [40.0, 50.0, 60.0, 70.0, 80.0, 90.0, 100.0, 110.0, 120.0, 130.0], " mm", House;
    /// Stem angles: the commonest, mounted either way, and the steep one.
    const ANGLES_DEG: [f64; 4] = [-17.0, -6.0, 6.0, 17.0], "°", House;
    /// Parts are left as they are unless others are nearer by this.
    const CLEARLY_MM: f64 = 1.0, " mm", House;
}

/// The stem, angle and spacers that come nearest to moving the hands of a setup by so much, of those that are `allowed`;
/// and how far they leave them from there, mm.
pub(crate) fn parts_for(
    ride: &Ride,
    setup: &Placed,
    by: Point,
    allowed: impl Fn(&Placed) -> bool,
) -> (Vec<Change>, f64) {
    let hand = |setup: &Placed| {
        let bike = BikePoints::of(&ride.frame, setup);
        bike.place(ride.hand_place(setup)).unwrap_or(bike.hand)
    };
    let target = hand(setup) + by;
    let cockpit = &setup.cockpit;
    let sum = cockpit.spacers_below_mm.0 + cockpit.spacers_above_mm.0;
    let mut spacers: Vec<f64> = (0..=24_u32)
        .map(|step| f64::from(step) * 5.0)
        .filter(|mm| *mm <= sum)
        .collect();
    spacers.push(cockpit.spacers_below_mm.0);
    let mut best = (by.length(), *setup);
    for stem in STEMS_MM.into_iter().chain([cockpit.stem_mm.0]) {
        for angle in ANGLES_DEG.into_iter().chain([cockpit.stem_angle_deg.0]) {
            for below in &spacers {
                let tried = setup.with(|parts| {
                    parts.cockpit.stem_mm.0 = stem;
                    parts.cockpit.stem_angle_deg.0 = angle;
                    parts.cockpit.spacers_below_mm.0 = *below;
                });
                let off = hand(&tried).distance(target);
                if off < best.0 - CLEARLY_MM && allowed(&tried) {
                    best = (off, tried);
                }
            }
        }
    }
    let (off, tried) = best;
    let changes = [Quantity::Stem, Quantity::StemAngle, Quantity::SpacersBelow]
        .into_iter()
        .filter_map(|quantity| {
            let (was, is) = (cockpit.get(quantity)?, tried.cockpit.get(quantity)?);
            ((was - is).abs() > 1e-9).then(|| Change::to(quantity, is))
        })
        .collect();
    (changes, off)
}
