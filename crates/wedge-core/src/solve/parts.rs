//! Which stem, angle and spacers bring the hands where they should be.

use crate::bike::{BikePoints, Cockpit, Part, PartKind, Placed, STEM_ANGLES_DEG, STEMS_MM};
use crate::foresee::{Change, Trying};
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::Ride;
use crate::rule::rules;

rules! {
    rules "Parts";
    /// Parts are left as they are unless others are nearer by this.
    pub(super) const CLEARLY_MM: f64 = 1.0, " mm", House;
}

/// Stems that can be mounted: length, and angle as mounted.
pub(crate) struct Stems(Vec<(f64, f64)>);

impl Stems {
    /// As they are commonly sold.
    pub(crate) fn ordinary() -> Self {
        let down = STEM_ANGLES_DEG.into_iter().rev().map(|angle| -angle);
        let angles: Vec<f64> = down.chain(STEM_ANGLES_DEG).collect();
        let of = |stem: f64| angles.iter().map(move |angle| (stem, *angle));
        Self(STEMS_MM.into_iter().flat_map(of).collect())
    }

    /// What lies in the box, either way up where it can be flipped.
    pub(crate) fn on_hand(parts: &[Part]) -> Self {
        let stems = parts
            .iter()
            .filter(|part| part.kind == PartKind::Stem && part.on_hand > 0);
        let mounted = stems.filter_map(|part| {
            let (length, angle) = part
                .size(Quantity::Stem)
                .zip(part.size(Quantity::StemAngle))?;
            let up = part.flips.then_some((length, -angle));
            Some([Some((length, angle)), up])
        });
        Self(mounted.flatten().flatten().collect())
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// With the one on the bike, at the angles the others have.
    fn with_own(&self, cockpit: &Cockpit) -> Vec<(f64, f64)> {
        let own = (cockpit.stem_mm.0, cockpit.stem_angle_deg.0);
        let mut all = self.0.clone();
        all.push(own);
        all.push((own.0, -own.1));
        // The stem that is there at another's angle, and another at its angle, are ordinary sizes too.
        if self.0.len() >= STEMS_MM.len() {
            all.extend(self.0.iter().map(|(_, angle)| (own.0, *angle)));
            all.extend(self.0.iter().map(|(length, _)| (*length, own.1)));
        }
        all
    }
}

/// Where the hands are on a setup.
pub(crate) fn hand_on(ride: &Ride, setup: &Placed) -> Point {
    let bike = BikePoints::of(&ride.frame, setup);
    bike.place(ride.hand_place(setup)).unwrap_or(bike.hand)
}

/// Stem and spacers of a bike whose front slides, to the tenth: how far each goes for the hands to move by exactly so much;
/// `None` where they do not.
pub(crate) fn slid(on: &Trying, by: Point) -> Option<Vec<Change>> {
    /// Two slides that pull one way place nothing, mm² of each.
    const ACROSS: f64 = 0.1;
    let cockpit = &on.setup.cockpit;
    let tenth = |mm: f64| (10.0 * mm).round() / 10.0;
    let moved = |change: Change| {
        let turned = on.changed(&[change])?;
        Some(hand_on(on, &turned) - hand_on(on, &on.setup))
    };
    let [stem, spacers] =
        [Quantity::Stem, Quantity::SpacersBelow].map(|of| moved(Change::by(of, 1.0)));
    let (stem, spacers) = (stem?, spacers?);
    let across = stem.x * spacers.y - stem.y * spacers.x;
    if across.abs() < ACROSS {
        return None;
    }
    let out = (by.x * spacers.y - by.y * spacers.x) / across;
    let up = (stem.x * by.y - stem.y * by.x) / across;
    let to = |of: Quantity, is: f64, way: f64| Change::to(of, tenth(is + way));
    let all = [
        (Quantity::Stem, cockpit.stem_mm.0, out),
        (Quantity::SpacersBelow, cockpit.spacers_below_mm.0, up),
    ];
    let all = all.into_iter().filter(|(_, _, way)| way.abs() >= 0.05);
    Some(all.map(|(of, is, way)| to(of, is, way)).collect())
}

/// The stem, angle and spacers that move the hands of a setup by about so much, of those that are `allowed`: the fewest bolts
/// that put the rider `right`, or come there `near` enough; where none do, the nearest, another bolt only where it brings the
/// hands nearer by `a_bolt`. And how far they leave the hands from there, mm.
pub(crate) fn parts_for(
    ride: &Ride,
    setup: &Placed,
    by: Point,
    stems: &Stems,
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
    let mut all = Vec::new();
    for (stem, angle) in stems.with_own(cockpit) {
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
