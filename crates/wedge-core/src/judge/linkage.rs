//! The judge's craft for one rider on one bike: what every bolt does to the axes, what every angle and limit answers, by the
//! linkage; and where a setup stands on the axes.

use super::axis::Axis;
use super::case::{Bolt, CaseBike, Limited, Ranged};
use super::craft::Craft;
use super::tables::against;
use crate::bike::{BarKind, HandPlace, Part, Setup};
use crate::foresee::{Change, Trying};
use crate::limit::LimitRow;
use crate::measure::{Output, Quantity};
use crate::plane::Point;
use crate::position::{Position, TESTS, range_of};
use crate::solve::{hand_room, hands_moved, perch_room};
use crate::units::Side;
use crate::work::Station;
use std::collections::BTreeMap;

/// How far a bolt is turned to see what it does, in its own unit: small against a window, large against a tenth.
const PROBE: f64 = 4.0;
/// This near to where the rails end, the saddle is at their end.
const AT_AN_END_MM: f64 = 3.0;
/// An effect below this share is none.
const NONE: f64 = 0.03;

/// Where a setup stands, each axis in its own unit and from no particular place.
#[derive(Debug, Clone, PartialEq)]
pub struct Stand {
    at: Vec<f64>,
    /// From the BB straight to the sit reference.
    seat: f64,
}

/// A rider on a bike as the axes see them.
#[derive(Debug, Clone)]
pub struct Linkage {
    /// What the judge goes by.
    pub craft: Craft,
    found: Stand,
    /// How much longer the leg's way gets for a millimetre of post.
    per_post: f64,
}

impl Stand {
    /// Where a position on a setup stands. Height is the leg's job: the way from the hip joint to the ankle at full reach, that
    /// post, crank, cleat, shim and rails share; longer than the leg where that does not reach. Reach and bars are where the
    /// hands are from the saddle.
    pub fn of(position: &Position, setup: &Setup) -> Self {
        let both = |of: &dyn Fn(Side) -> f64| f64::midpoint(of(Side::Left), of(Side::Right));
        let part = |quantity, side| setup.get(quantity, Some(side)).unwrap_or_default();
        let (sit, hand) = (position.bike.sit, position.bike.hand);
        let way = |side: Side| position.legs.of(side).way_mm.0;
        let at = |axis: &Axis| match axis {
            Axis::Height => both(&way),
            Axis::Setback => -sit.x,
            Axis::Tilt => setup.saddle.tilt_deg.0,
            Axis::Reach => hand.x - sit.x,
            Axis::Bars => hand.y - sit.y,
            Axis::BarWidth => width(setup).map_or(0.0, |of| part(of, Side::Right)),
            Axis::Levers => both(&|side| part(Quantity::LeverAngle, side)),
            Axis::CleatL => part(Quantity::CleatSetback, Side::Left),
            Axis::CleatR => part(Quantity::CleatSetback, Side::Right),
            Axis::TurnL => -part(Quantity::CleatRotation, Side::Left),
            Axis::TurnR => -part(Quantity::CleatRotation, Side::Right),
            Axis::StanceL => part(Quantity::CleatOut, Side::Left),
            Axis::StanceR => part(Quantity::CleatOut, Side::Right),
            Axis::Crank => both(&|side| part(Quantity::Crank, side)),
            Axis::SaddleWidth => part(Quantity::SaddleWidth, Side::Right),
        };
        Self {
            at: Axis::ALL.iter().map(at).collect(),
            seat: sit.length(),
        }
    }

    /// What an axis reads here, on its scale ([`Axis::scale`]).
    pub fn reads(&self, axis: Axis) -> f64 {
        match axis {
            Axis::Height => self.seat,
            _ => self.at[axis as usize],
        }
    }
}

impl Axis {
    /// What its places are told by.
    pub fn scale(self) -> &'static str {
        match self {
            Self::Height => "BB straight to the sit reference",
            Self::Setback => "Sit reference behind the BB",
            Self::Tilt => "Nose up",
            Self::Reach => "Hands ahead of the saddle",
            Self::Bars => "Hands above the saddle",
            Self::BarWidth => "Width of the bar",
            Self::Levers => "Levers above level",
            Self::CleatL | Self::CleatR => "Axle behind the ball of the foot",
            Self::TurnL | Self::TurnR => "Heel turned out",
            Self::StanceL | Self::StanceR => "Foot moved out",
            Self::Crank => "Crank",
            Self::SaddleWidth => "Width of the saddle",
        }
    }
}

/// The width a bar has.
fn width(setup: &Setup) -> Option<Quantity> {
    match setup.bar.kind() {
        BarKind::Drop => Some(Quantity::BarWidth),
        BarKind::Flat => Some(Quantity::FlatWidth),
        BarKind::Aero => None,
    }
}

/// What turns a bolt of this bike by so much; nothing where it has none such.
pub fn turned(setup: &Setup, bolt: Bolt, by: f64) -> Vec<Change> {
    let pads = setup.bar.kind() == BarKind::Aero;
    let side = |quantity, side, by| {
        vec![Change {
            side: Some(side),
            ..Change::by(quantity, by)
        }]
    };
    match bolt {
        Bolt::Post => vec![Change::by(Quantity::SaddleHeight, by)],
        Bolt::Rails => vec![Change::by(Quantity::Setback, by)],
        Bolt::Cleats => vec![Change::by(Quantity::CleatSetback, by)],
        Bolt::CleatL => side(Quantity::CleatSetback, Side::Left, by),
        Bolt::CleatR => side(Quantity::CleatSetback, Side::Right, by),
        Bolt::Crank => vec![Change::by(Quantity::Crank, by)],
        Bolt::Stem if pads => vec![Change::by(Quantity::PadForward, by)],
        Bolt::Spacers if pads => vec![Change::by(Quantity::PadSpacers, by)],
        Bolt::Stem => vec![Change::by(Quantity::Stem, by)],
        Bolt::Spacers => vec![Change::by(Quantity::SpacersBelow, by)],
        Bolt::Tilt => vec![Change::by(Quantity::Tilt, by)],
        Bolt::BarWidth => width(setup).map_or_else(Vec::new, |of| vec![Change::by(of, by)]),
        Bolt::Levers => vec![Change::by(Quantity::LeverAngle, by)],
        Bolt::Saddle => vec![Change::by(Quantity::SaddleWidth, by)],
        Bolt::TurnL => side(Quantity::CleatRotation, Side::Left, -by),
        Bolt::TurnR => side(Quantity::CleatRotation, Side::Right, -by),
        Bolt::StanceL => side(Quantity::CleatOut, Side::Left, by),
        Bolt::StanceR => side(Quantity::CleatOut, Side::Right, by),
    }
}

impl Ranged {
    /// " mm", "°", " %".
    pub fn unit(self) -> &'static str {
        match self {
            Self::Plumb | Self::SaddleWidth => " mm",
            Self::DropShare => " %",
            _ => "°",
        }
    }

    /// Where on the way it is read.
    pub fn station(self) -> Station {
        match self {
            Self::Knee => Station::SaddleHeight,
            Self::Torso | Self::Shoulder | Self::DropShare => Station::Bars,
            Self::Plumb | Self::SeatAngle | Self::Tilt | Self::SaddleWidth => Station::Setback,
        }
    }

    /// The output it reads; none of what the bike alone says.
    pub fn output(self) -> Option<Output> {
        Some(match self {
            Self::Knee => Output::KneeAtFullReach,
            Self::Plumb => Output::KneeOverAxle,
            Self::Torso => Output::Torso,
            Self::Shoulder => Output::Shoulder,
            Self::DropShare => Output::DropShare,
            Self::SeatAngle => Output::SeatAngle,
            Self::Tilt | Self::SaddleWidth => return None,
        })
    }
}

impl Limited {
    /// The limit of the table it is of.
    pub fn limit(self) -> Quantity {
        match self {
            Self::Hip => Quantity::HipLimit,
            Self::Knee => Quantity::KneeLimit,
            Self::Back => Quantity::BackLimit,
            Self::Shoulder => Quantity::ShoulderLimit,
        }
    }
}

impl Limited {
    /// The row that leaves it least room.
    pub fn tightest(self, rows: &[LimitRow]) -> Option<(f64, &LimitRow)> {
        let of = rows.iter().filter(|row| row.quantity == self.limit());
        of.filter_map(|row| Some((row.margin_deg?, row)))
            .min_by(|a, b| a.0.total_cmp(&b.0))
    }
}

/// What is read of a position, mean of both sides.
fn read(position: &Position, output: Output) -> f64 {
    let of = |side| output.as_drawn(position, side).unwrap_or_default();
    f64::midpoint(of(Side::Left), of(Side::Right))
}

/// A position after a small move, and where it stands.
struct Probed {
    position: Position,
    at: Vec<f64>,
    by: f64,
}

impl Linkage {
    /// The rider on the bike as found.
    pub fn of(found: &Trying) -> Self {
        let setup = Setup::from(found.setup);
        let stands = Stand::of(&found.before, &setup);
        let mut linkage = Self {
            craft: Craft::default(),
            per_post: 1.0,
            found: stands,
        };
        if let Some(post) = linkage.probe(found, Bolt::Post) {
            let per = post.at[Axis::Height as usize] / post.by;
            if per > NONE {
                linkage.per_post = per;
            }
        }
        linkage.craft.linked = true;
        let probes: Vec<(Bolt, Option<Probed>)> = (Bolt::ALL.iter())
            .map(|bolt| (*bolt, linkage.probe(found, *bolt)))
            .collect();
        linkage.craft.bolts = (probes.iter())
            .map(|(bolt, probed)| match (bolt, probed) {
                // Another saddle is another part: what else it carries along is told when it is swapped.
                (Bolt::Saddle, _) => (*bolt, vec![(Axis::SaddleWidth, 1.0)]),
                (_, Some(probed)) => (*bolt, effect(probed)),
                (_, None) => (*bolt, Vec::new()),
            })
            .collect();
        let answers = Answers::of(found, &probes);
        linkage.craft.readings = (Ranged::ALL.iter())
            .filter_map(|reading| Some((*reading, answers.reading(found, *reading)?)))
            .collect();
        linkage.craft.limits = (Limited::ALL.iter())
            .map(|joint| (*joint, answers.limit(found, *joint)))
            .collect();
        linkage
    }

    /// The range a reading is held against here; none where this riding has none.
    pub fn range(&self, reading: Ranged) -> Option<(f64, f64)> {
        self.craft.against(reading).map(|against| against.range)
    }

    /// Turns one bolt a little: to one side, or to the other where it does not go there.
    fn probe(&self, found: &Trying, bolt: Bolt) -> Option<Probed> {
        let setup = Setup::from(found.setup);
        [PROBE, -PROBE].into_iter().find_map(|by| {
            let changes = turned(&setup, bolt, by);
            if changes.is_empty() {
                return None;
            }
            let (setup, position) = found.with(&changes)?;
            let stand = Stand::of(&position, &Setup::from(setup));
            Some(Probed {
                at: self.places(&stand),
                position,
                by,
            })
        })
    }

    /// Where a setup stands from the bike as found, axis by axis.
    pub fn places(&self, stand: &Stand) -> Vec<f64> {
        let mut at: Vec<f64> = (stand.at.iter().zip(&self.found.at))
            .map(|(at, found)| at - found)
            .collect();
        at[Axis::Height as usize] /= self.per_post;
        at
    }

    /// Where the rider on a setup stands, axis by axis.
    pub fn stands(&self, trying: &Trying) -> Vec<f64> {
        self.places(&Stand::of(&trying.before, trying.before_setup()))
    }

    /// What the parts of the bike and of a box leave, from the bike as found. Whether its cranks can be swapped is for whoever
    /// has the box to say.
    pub fn bike(&self, now: &Trying, parts: &[Part]) -> CaseBike {
        let setup = now.before_setup();
        let perch = perch_room(now);
        let stands = self.stands(now);
        let near = |room: Option<f64>| room.is_some_and(|room| room < AT_AN_END_MM);
        let mut room: BTreeMap<String, (f64, f64)> = BTreeMap::new();
        let mut leave = |axis: Axis, low: f64, high: f64| {
            let at = stands[axis as usize];
            room.insert(
                axis.key().to_owned(),
                (at + low.min(0.0), at + high.max(0.0)),
            );
        };
        leave(
            Axis::Height,
            -perch.down_mm,
            perch.up_mm.unwrap_or(f64::INFINITY),
        );
        leave(
            Axis::Setback,
            -perch.forward_mm.unwrap_or(f64::INFINITY),
            perch.back_mm.unwrap_or(f64::INFINITY),
        );
        if let Some((low, high)) = hand_room(now, parts) {
            leave(Axis::Reach, low.x, high.x);
            leave(Axis::Bars, low.y, high.y);
        }
        CaseBike {
            rails: match (near(perch.back_mm), near(perch.forward_mm)) {
                (true, _) => Some("back".to_owned()),
                (_, true) => Some("forward".to_owned()),
                _ => None,
            },
            stem_mm: (setup.bar.kind() != BarKind::Aero).then_some(setup.cockpit.stem_mm.0),
            room,
            ..CaseBike::default()
        }
    }
}

fn effect(probed: &Probed) -> Vec<(Axis, f64)> {
    let per = Axis::ALL.iter().zip(&probed.at);
    per.map(|(axis, at)| (*axis, at / probed.by))
        .filter(|(_, per)| per.abs() > NONE)
        .collect()
}

/// What one number of a position answers to a millimetre of each axis, the others left as they are.
struct Answers<'a> {
    probes: &'a [(Bolt, Option<Probed>)],
    forward: Position,
    up: Position,
}

impl<'a> Answers<'a> {
    fn of(found: &Trying, probes: &'a [(Bolt, Option<Probed>)]) -> Self {
        Self {
            probes,
            forward: hands_moved(found, Point::new(PROBE, 0.0)),
            up: hands_moved(found, Point::new(0.0, PROBE)),
        }
    }

    fn probed(&self, bolt: Bolt) -> Option<&Probed> {
        let of = self.probes.iter().find(|(of, _)| *of == bolt);
        of.and_then(|(_, probed)| probed.as_ref())
    }

    /// The slopes on height, setback, reach, bars and crank: hands alone say what reach and bars do, post and rails what height
    /// and setback do besides, the crank what is left.
    fn slopes(&self, before: f64, read: impl Fn(&Position) -> f64) -> Vec<(Axis, f64)> {
        let reach = (read(&self.forward) - before) / PROBE;
        let bars = (read(&self.up) - before) / PROBE;
        let at = |probed: &Probed, axis: Axis| probed.at[axis as usize];
        let rest = |probed: &Probed| {
            let hands = reach * at(probed, Axis::Reach) + bars * at(probed, Axis::Bars);
            read(&probed.position) - before - hands
        };
        let (mut height, mut setback) = (0.0, 0.0);
        if let Some((post, rails)) = self.probed(Bolt::Post).zip(self.probed(Bolt::Rails)) {
            let of = |probed| {
                (
                    at(probed, Axis::Height),
                    at(probed, Axis::Setback),
                    rest(probed),
                )
            };
            let ((a, b, p), (c, d, r)) = (of(post), of(rails));
            let whole = a * d - b * c;
            if whole.abs() > NONE {
                (height, setback) = ((p * d - b * r) / whole, (a * r - p * c) / whole);
            }
        }
        let crank = self.probed(Bolt::Crank).map_or(0.0, |crank| {
            let saddle = height * at(crank, Axis::Height) + setback * at(crank, Axis::Setback);
            (rest(crank) - saddle) / at(crank, Axis::Crank)
        });
        vec![
            (Axis::Height, height),
            (Axis::Setback, setback),
            (Axis::Reach, reach),
            (Axis::Bars, bars),
            (Axis::Crank, crank),
        ]
    }

    /// A reading against the range of this rider's riding, on the axes the house's table has it on; none without a range.
    fn reading(&self, found: &Trying, reading: Ranged) -> Option<super::tables::Against> {
        let house = against(reading);
        let Some(output) = reading.output() else {
            return Some(house);
        };
        let range = match reading {
            Ranged::Plumb => house.range,
            Ranged::DropShare if found.before.hands == HandPlace::Pads => house.range,
            Ranged::DropShare => return None,
            _ => {
                let range = range_of(&found.ranges, output, found.before.hands)?;
                (range.low, range.high)
            }
        };
        let slopes = self.slopes(read(&found.before, output), |p| read(p, output));
        let of = |axis: &Axis| slopes.iter().find(|(of, _)| of == axis).copied();
        Some(super::tables::Against {
            range,
            slopes: (house.slopes.iter())
                .filter_map(|(axis, _)| of(axis))
                .collect(),
            ..house
        })
    }

    /// What a limit loses for each mm of an axis.
    fn limit(&self, found: &Trying, joint: Limited) -> Vec<(Axis, f64)> {
        let Some(test) = TESTS.iter().find(|test| test.limit == joint.limit()) else {
            return Vec::new();
        };
        let demand = |position: &Position| {
            let of = |side| test.demand(position, side).unwrap_or_default();
            // Room is lost where the demand grows; of a least, where it shrinks.
            let way = if test.least { -1.0 } else { 1.0 };
            way * f64::midpoint(of(Side::Left), of(Side::Right))
        };
        self.slopes(demand(&found.before), demand)
    }
}

#[cfg(test)]
mod tests {
    use super::super::tables::{bolt, limit_slopes};
    use super::*;
    use crate::example;
    use crate::rider::Reach;

    /// What the house's tables print of the sanity line's rider, rounded and by ear where the linkage is more exact: a rail's
    /// and a crank's share of the height, a crank's of the limits.
    #[test]
    fn the_tables_are_the_sanity_line_s_linkage() {
        let ride = example::road().check().unwrap();
        let linkage = Linkage::of(&Trying::of(&ride));
        let of = |all: &[(Axis, f64)], axis: Axis| {
            all.iter()
                .find(|(of, _)| *of == axis)
                .map_or(0.0, |(_, per)| *per)
        };
        for turned in Bolt::ALL
            .iter()
            .filter(|b| !matches!(b, Bolt::Tilt | Bolt::Saddle))
        {
            for axis in Axis::ALL {
                let (linked, printed) = (
                    of(linkage.craft.bolt(*turned), *axis),
                    of(bolt(*turned), *axis),
                );
                assert!(
                    (linked - printed).abs() < 0.12,
                    "{turned:?} {axis:?}: {linked} {printed}"
                );
            }
        }
        for reading in [Ranged::Knee, Ranged::Plumb, Ranged::Torso, Ranged::Shoulder] {
            let (linked, printed) = (linkage.craft.against(reading).unwrap(), against(reading));
            assert_eq!(linked.range, printed.range);
            for (axis, slope) in &printed.slopes {
                let near = (of(&linked.slopes, *axis) / slope - 1.0).abs();
                assert!(near < 0.1, "{reading:?} {axis:?}: {near}");
            }
        }
        for joint in Limited::ALL {
            for (axis, slope) in limit_slopes(*joint) {
                let linked = linkage.craft.limit_slope(*joint, *axis);
                assert!(
                    (linked - slope).abs() < 0.1,
                    "{joint:?} {axis:?}: {linked} {slope}"
                );
            }
        }
    }

    /// A post up by so much and back is nowhere else; what is turned elsewhere shows on its own axis alone.
    #[test]
    fn a_setup_stands_where_its_bolts_were_turned_to() {
        let ride = example::road().check().unwrap();
        let found = Trying::of(&ride);
        let linkage = Linkage::of(&found);
        let (setup, _) = found
            .with(&turned(&Setup::from(found.setup), Bolt::Post, -8.0))
            .unwrap();
        let moved = ride.on(setup);
        let stands = linkage.stands(&Trying::of(&moved));
        let at = |axis: Axis| stands[axis as usize];
        assert!((at(Axis::Height) + 8.0).abs() < 0.3, "{}", at(Axis::Height));
        assert!((at(Axis::Setback) + 8.0 * 0.284).abs() < 0.1);
        assert!(at(Axis::Crank).abs() < 1e-9 && at(Axis::CleatL).abs() < 1e-9);
    }

    /// Of a leg that is straight on a saddle far too high, the way is longer than the leg, and a post still shortens it.
    #[test]
    fn a_post_answers_where_a_leg_does_not_reach() {
        let mut high = example::road();
        high.setup.saddle.saddle_height_mm.0 += 90.0;
        let ride = high.check().unwrap();
        let found = Trying::of(&ride);
        let leg = &found.before.legs.left;
        assert!(matches!(leg.reach, Reach::Beyond { .. }));
        let linkage = Linkage::of(&found);
        let post = linkage.craft.bolt(Bolt::Post);
        let height = post.iter().find(|(axis, _)| *axis == Axis::Height);
        assert!(
            height.is_some_and(|(_, per)| (per - 1.0).abs() < 1e-6),
            "{post:?}"
        );
        // Down to where it reaches the way is as much shorter, but for what the foot gives.
        let (setup, _) = found
            .with(&turned(&Setup::from(found.setup), Bolt::Post, -80.0))
            .unwrap();
        let lower = ride.on(setup);
        let stands = linkage.stands(&Trying::of(&lower))[Axis::Height as usize];
        assert!((stands + 80.0).abs() < 5.0, "{stands}");
    }
}
