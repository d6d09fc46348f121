//! The hand plane: where the hands can be, with lines of equal torso, shoulder, hip and load, the walls, the arc, and a dot
//! for every front end the parts box builds.

use super::map::{Axis, MapLine, PLACES, at, map_lines};
use super::{Aim, Arc, front};
use crate::bike::{HandPlace, Part};
use crate::foresee::Trying;
use crate::measure::{Convention, Output};
use crate::plane::Point;
use crate::position::{Position, wall};
use crate::rule::rules;
use crate::units::Side;
use crate::words::{capital, hundredth, tenth};
use serde::Serialize;
use std::collections::BTreeSet;

rules! {
    rules "Hand plane";
    /// Either way forward and up.
    const EITHER_MM: f64 = 60.0, " mm", House;
    /// The most dots drawn; nearer ones first.
    const DOTS: usize = 400, "", House;
}

/// What is drawn on the plane, and every how much.
const DRAWN: [(Output, f64); 4] = [
    (Output::Torso, 5.0),
    (Output::Shoulder, 5.0),
    (Output::HipClosed, 5.0),
    (Output::HandLoad, 20.0),
];

/// A front end of the box, as a place of the hands.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dot {
    /// Where the hands are.
    pub hand: Point,
    /// Whether all of it is on hand.
    pub on_hand: bool,
}

/// The plane around the hands as they are.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandPlane {
    /// Across: forward of the BB.
    pub forward: Axis,
    /// Upwards: above the BB.
    pub up: Axis,
    /// Where the hands are.
    pub now: Point,
    /// The piece of the arc that is as good, from its lower end to its upper.
    pub arc: Vec<Point>,
    /// The lines, output by output.
    pub lines: Vec<MapLine>,
    /// Places a limit of the rider forbids, or nobody reaches.
    pub walled: Vec<Point>,
    /// What those are, each once.
    pub walls: Vec<String>,
    /// Every front end that can be built, without those to order.
    pub dots: Vec<Dot>,
}

/// The position with the hands moved by so much, as if the bar had been moved.
pub(crate) fn hands_moved(trying: &Trying, by: Point) -> Position {
    trying.standing(&trying.setup.with(|parts| {
        parts.residual.hand_forward_mm.0 += by.x;
        parts.residual.hand_up_mm.0 += by.y;
    }))
}

/// The plane around the hands of a rider.
pub fn hand_plane(trying: &Trying, arc: Option<Arc>, parts: &[Part]) -> HandPlane {
    let now = trying.before.bike.hand;
    let axis = |label: &str, convention, middle: f64| Axis {
        label: label.to_owned(),
        convention,
        low: middle - EITHER_MM,
        high: middle + EITHER_MM,
    };
    let forward = axis("Forward of the BB", Convention::BbToHood, now.x);
    let up = axis("Above the BB", Convention::BbToHoodUp, now.y);
    let points: Vec<Point> = (0..PLACES)
        .flat_map(|row| (0..PLACES).map(move |column| (row, column)))
        .map(|(row, column)| Point::new(at(&forward, column), at(&up, row)))
        .collect();
    let places: Vec<Option<Position>> = (points.iter())
        .map(|point| Some(hands_moved(trying, *point - now)))
        .collect();
    let mut walls: Vec<String> = Vec::new();
    let mut walled = Vec::new();
    let mut reached = Vec::with_capacity(places.len());
    for (point, position) in points.iter().zip(places.iter().flatten()) {
        let met = position.upper.reach.is_met();
        reached.push(met);
        let words = if met {
            wall(&trying.rider, &trying.before, position)
        } else {
            Some("the arms do not get there".to_owned())
        };
        if let Some(words) = words {
            walled.push(*point);
            let words = capital(&words);
            if !walls.contains(&words) {
                walls.push(words);
            }
        }
    }
    let counts = |_| Some(reached.as_slice());
    let lines = map_lines(trying, &DRAWN, &places, counts, (&forward, &up));
    let arc = arc.map_or_else(Vec::new, |arc| {
        [-1.0, -0.5, 0.0, 0.5, 1.0]
            .map(|share: f64| {
                let good = if share < 0.0 { arc.down_mm } else { arc.up_mm };
                arc.at(share * good)
            })
            .to_vec()
    });
    HandPlane {
        arc,
        lines,
        walled,
        walls,
        dots: dots(trying, parts, &forward, &up),
        forward,
        up,
        now,
    }
}

/// How far the front ends that can be built of what is there let the hands go: back and down, forward and up, from where they
/// are; the bar as it is turned. Nothing where none can be built.
pub fn hand_room(trying: &Trying, parts: &[Part]) -> Option<(Point, Point)> {
    let bench = front::Bench::of(trying, parts);
    let now = trying.before.bike.hand;
    let mut room: Option<(Point, Point)> = None;
    bench.walk(&Aim::at(now, None), |built| {
        if built.hood_mm != 0.0 || built.roll_deg != 0.0 || built.cut_mm != 0.0 {
            return;
        }
        let by = built.hand - now;
        let (low, high) = room.unwrap_or((by, by));
        room = Some((
            Point::new(low.x.min(by.x), low.y.min(by.y)),
            Point::new(high.x.max(by.x), high.y.max(by.y)),
        ));
    });
    room
}

/// The places of the front ends that can be built of what is there, the bar as it is turned, to the millimetre.
fn dots(trying: &Trying, parts: &[Part], forward: &Axis, up: &Axis) -> Vec<Dot> {
    let bench = front::Bench::of(trying, parts);
    let now = trying.before.bike.hand;
    let aim = Aim::at(now, None);
    let mut seen = BTreeSet::new();
    let mut all: Vec<Dot> = Vec::new();
    bench.walk(&aim, |built| {
        let within = (forward.low..=forward.high).contains(&built.hand.x)
            && (up.low..=up.high).contains(&built.hand.y);
        let as_turned = built.hood_mm == 0.0 && built.roll_deg == 0.0;
        if !(within && as_turned && built.cut_mm == 0.0) {
            return;
        }
        #[allow(clippy::cast_possible_truncation, reason = "within the plane")]
        let key = (
            built.hand.x.round() as i64,
            built.hand.y.round() as i64,
            built.on_hand(),
        );
        if seen.insert(key) {
            all.push(Dot {
                hand: Point::new(hundredth(built.hand.x), hundredth(built.hand.y)),
                on_hand: built.on_hand(),
            });
        }
    });
    all.sort_by(|a, b| {
        (b.on_hand.cmp(&a.on_hand)).then(a.hand.distance(now).total_cmp(&b.hand.distance(now)))
    });
    all.truncate(DOTS);
    all
}

/// How the rider is with the hands in one of the bike's places.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandRow {
    /// The place.
    pub place: HandPlace,
    /// As it is called.
    pub label: String,
    /// Torso above horizontal.
    pub torso_deg: f64,
    /// Hip–shoulder–elbow.
    pub shoulder_deg: f64,
    /// Hip–shoulder–wrist.
    pub wrist_deg: f64,
    /// Elbow flexion.
    pub elbow_deg: f64,
    /// The hip at its most closed, the tighter side.
    pub hip_deg: f64,
    /// Straight from the hip joint to the hand, as a share of the trunk.
    pub hip_to_hand: f64,
    /// What it breaks: a limit of the rider, or that the arms do not get there.
    pub breaks: Option<String>,
}

/// Every place the hands have on a bike, the main one first.
pub fn hand_rows(trying: &Trying) -> Vec<HandRow> {
    (trying.setup.bar.places().iter())
        .map(|place| {
            let ride = trying.altered(|facts| facts.hands = Some(*place));
            let position = ride.position();
            let upper = &position.upper;
            let reach = position.reach_words();
            let stopped = || wall(&trying.rider, &trying.before, &position);
            let trunk = upper.points.shoulder.distance(upper.points.hip);
            HandRow {
                place: *place,
                label: capital(place.word()),
                torso_deg: tenth(upper.torso_deg.0),
                shoulder_deg: tenth(upper.shoulder_deg.0),
                wrist_deg: tenth(upper.shoulder_to_wrist_deg.0),
                elbow_deg: tenth(upper.elbow_deg.0),
                hip_deg: tenth(
                    (Side::BOTH.map(|side| position.legs.of(side).hip_closed_deg.0))
                        .into_iter()
                        .fold(f64::INFINITY, f64::min),
                ),
                hip_to_hand: hundredth(upper.points.hand.distance(upper.points.hip) / trunk),
                breaks: if upper.reach.is_met() {
                    stopped()
                } else {
                    reach.into_iter().next().or_else(stopped)
                },
            }
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn golden_a_front_nearer_and_higher() {
        // The check: 20 mm shorter and 15 mm higher on the rider of the sanity line: torso up, shoulder down.
        let ride = example::road().check().unwrap();
        let trying = Trying::of(&ride);
        let there = hands_moved(&trying, Point::new(-20.0, 15.0));
        let torso = (there.upper.torso_deg - trying.before.upper.torso_deg).0;
        let shoulder = (there.upper.shoulder_deg - trying.before.upper.shoulder_deg).0;
        assert!((torso - 2.6).abs() < 0.05, "{torso}");
        assert!((shoulder + 2.75).abs() < 0.02, "{shoulder}");
    }

    #[test]
    fn every_kind_of_bar_has_a_plane_and_a_row_for_each_place() {
        for input in example::all() {
            let ride = input.check().unwrap();
            let trying = Trying::of(&ride);
            let plane = hand_plane(
                &trying,
                Arc::of(&trying, &trying.before),
                &crate::bike::ordinary_parts(),
            );
            assert!(
                plane.lines.iter().any(|line| line.output == Output::Torso),
                "{:?}",
                trying.before.hands
            );
            assert!(!plane.dots.is_empty());
            let rows = hand_rows(&trying);
            assert_eq!(rows.len(), trying.setup.bar.places().len());
            // The row of where the hands are says what the position says.
            let here = rows
                .iter()
                .find(|row| row.place == trying.before.hands)
                .unwrap();
            assert!((here.torso_deg - trying.before.upper.torso_deg.0).abs() < 0.051);
        }
    }

    #[test]
    fn a_line_of_the_plane_is_where_the_linkage_has_that_value() {
        let ride = example::road().check().unwrap();
        let trying = Trying::of(&ride);
        let plane = hand_plane(&trying, Arc::of(&trying, &trying.before), &[]);
        let mut checked = 0;
        for line in plane.lines.iter().filter(|l| l.output == Output::Shoulder) {
            for [x, y] in line.pieces.iter().flatten().step_by(5) {
                let there = hands_moved(&trying, Point::new(*x, *y) - plane.now);
                assert!((there.upper.shoulder_deg.0 - line.value).abs() < 0.3);
                checked += 1;
            }
        }
        assert!(checked > 5, "{checked}");
    }

    #[test]
    fn what_a_limit_forbids_is_walled_and_named() {
        let mut input = example::road();
        let free = input.clone().check().unwrap();
        let demand = Trying::of(&free).before.upper.shoulder_deg.0;
        for side in Side::BOTH {
            input.rider.arms.of_mut(side).shoulder_limit_deg =
                Some(crate::units::Degrees(demand + 6.0));
        }
        let ride = input.check().unwrap();
        let plane = hand_plane(&Trying::of(&ride), None, &[]);
        assert!(!plane.walled.is_empty());
        assert!(
            plane.walls.iter().any(|words| words.contains("shoulder")),
            "{:?}",
            plane.walls
        );
        // Further forward is walled, where the hands are is not.
        assert!(plane.walled.iter().any(|p| p.x > plane.now.x + 20.0));
        assert!(plane.walled.iter().all(|p| p.distance(plane.now) > 1.0));
    }
}
