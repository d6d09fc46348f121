//! The arc: where the hands can go so that shoulder and elbow stay, and only torso and hip change.

use super::hands_moved;
use crate::bike::HandPlace;
use crate::foresee::Trying;
use crate::plane::Point;
use crate::position::{Position, Ride, wall};
use crate::rider::{Reach, UPRIGHT_DEG, UpperPoints};
use crate::rule::rules;
use crate::units::Degrees;
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Hands";
    /// So far along the arc, either way, the hands are taken to be as good.
    const GOOD_MM: f64 = 10.0, " mm", House;
    /// Less than this for 10 mm up is neither longer nor shorter.
    const NEITHER_MM: f64 = 0.25, " mm", House;
}

/// Where the hands (the elbows, on pads) go when trunk and arms turn together about the hip: a circle.
///
/// The pelvis pitches with the torso by its `share`, so the circle is not about the hip joint `H` but about
/// `C = H − share · (H − sit reference)`: turned by `dθ` the hand moves by `dθ · (hand − H)⊥ + share · dθ · (H − sit)⊥`.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Arc {
    /// Where the hands are.
    pub hands: HandPlace,
    /// Its centre.
    pub centre: Point,
    /// Its radius, mm.
    pub radius_mm: f64,
    /// Where it is passed now: the point lengths are taken to (hood, grip, the pads' centre).
    pub through: Point,
    /// So far down along it is as good, mm.
    pub down_mm: f64,
    /// And so far up.
    pub up_mm: f64,
    /// What 10 mm higher along it asks for: so much further forward, mm, negative when it is nearer.
    pub longer_mm: f64,
    /// And so much more torso.
    pub torso_deg: f64,
}

impl Arc {
    /// The arc of a position; `None` where the torso is held upright and the elbow gives, or the arms do not reach.
    pub fn of(ride: &Ride, position: &Position) -> Option<Self> {
        let UpperPoints { hip, shoulder, .. } = position.upper.points;
        let held = (shoulder - hip).direction() >= Degrees(UPRIGHT_DEG - 0.01);
        if position.upper.reach != Reach::Within || held {
            return None;
        }
        let pelvis = ride.person.rider.pelvis;
        let sit = ride.setup.sit() - ride.setup.saddle.rails_back() * pelvis.sits_forward_mm.0;
        let share = pelvis.share;
        let centre = hip - (hip - sit) * share;
        let contact = position.bike.place(position.hands)?;
        let through = match position.hands {
            // The elbow turns; the pads' centre is where the bike is measured, and goes along.
            HandPlace::Pads => position.bike.pad?,
            _ => contact,
        };
        let arm = contact - centre;
        Some(Self {
            hands: position.hands,
            centre: centre + (through - contact),
            radius_mm: arm.length(),
            through,
            down_mm: GOOD_MM,
            up_mm: GOOD_MM,
            longer_mm: -10.0 * arm.y / arm.x,
            torso_deg: (10.0 / arm.x).to_degrees(),
        })
    }

    /// As good as the rider called it: from the lowest height that was still good to the highest, above the BB, mm.
    #[must_use]
    pub fn called(self, (low_mm, high_mm): (f64, f64)) -> Self {
        Self {
            down_mm: (self.through.y - low_mm).max(0.0),
            up_mm: (high_mm - self.through.y).max(0.0),
            ..self
        }
    }

    /// Cut where a limit of the rider begins along it.
    #[must_use]
    pub fn cut(self, trying: &Trying) -> Self {
        let free = |way: f64, good: f64| {
            let stopped = |along: f64| {
                let there = hands_moved(trying, self.at(way * along) - self.through);
                wall(&trying.rider, &trying.before, &there).is_some()
            };
            if !stopped(good) {
                return good;
            }
            let (mut free, mut blocked) = (0.0, good);
            while blocked - free > 0.1 {
                let middle = f64::midpoint(free, blocked);
                if stopped(middle) {
                    blocked = middle;
                } else {
                    free = middle;
                }
            }
            free
        };
        Self {
            down_mm: free(-1.0, self.down_mm),
            up_mm: free(1.0, self.up_mm),
            ..self
        }
    }

    /// The point so far along it from where it is passed now, up positive, mm.
    pub fn at(&self, along_mm: f64) -> Point {
        let turn = Degrees::from_radians(along_mm / self.radius_mm);
        self.centre + (self.through - self.centre).turned(turn)
    }

    /// How far along it a point lies, and how far off it: beyond the circle positive, mm.
    pub fn place(&self, point: Point) -> (f64, f64) {
        let from = point - self.centre;
        let turn = (from.direction() - (self.through - self.centre).direction()).radians();
        (turn * self.radius_mm, from.length() - self.radius_mm)
    }

    /// How far a point is from the piece of it that is as good as any, mm.
    pub fn miss(&self, point: Point) -> f64 {
        let (along, off) = self.place(point);
        let good = along.clamp(-self.down_mm, self.up_mm);
        if (good - along).abs() < 1e-12 {
            off.abs()
        } else {
            point.distance(self.at(good))
        }
    }

    /// "10 mm higher goes with 1.1 mm longer and 0.7° more torso; shoulder and elbow stay".
    pub fn words(&self) -> String {
        let longer = if self.longer_mm.abs() < NEITHER_MM {
            "no longer".to_owned()
        } else {
            let way = if self.longer_mm > 0.0 {
                "longer"
            } else {
                "shorter"
            };
            format!("{} mm {way}", written(self.longer_mm.abs()))
        };
        // On pads the forearm lies as the pad is tilted.
        let stays = match self.hands {
            HandPlace::Pads => "the shoulder stays",
            _ => "shoulder and elbow stay",
        };
        format!(
            "10 mm higher goes with {longer} and {}° more torso; {stays}",
            written(self.torso_deg)
        )
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::foresee::ForeseeInput;

    /// The position with the hands moved by as much.
    fn moved(input: &ForeseeInput, by: Point) -> Position {
        let mut there = input.clone();
        there.setup.residual.hand_forward_mm.0 += by.x;
        there.setup.residual.hand_up_mm.0 += by.y;
        there.check().unwrap().position()
    }

    #[test]
    fn along_it_shoulder_and_elbow_stay_and_the_torso_turns_as_it_says() {
        let mut met = 0;
        for input in example::all() {
            let ride = input.check().unwrap();
            let here = Trying::of(&ride).before.clone();
            let Some(arc) = Arc::of(&ride, &here) else {
                continue;
            };
            met += 1;
            assert!(arc.at(0.0).distance(arc.through) < 1e-9);
            for along in [-25.0, -10.0, 10.0, 25.0] {
                let point = arc.at(along);
                let there = moved(&input, point - arc.through);
                let shoulder = there.upper.shoulder_deg - here.upper.shoulder_deg;
                let elbow = there.upper.elbow_deg - here.upper.elbow_deg;
                assert!(
                    shoulder.0.abs() < 0.01,
                    "{:?} {along}: {shoulder:?}",
                    here.hands
                );
                // On pads the forearm lies as they are tilted.
                let folds = here.hands == HandPlace::Pads;
                assert!(
                    folds || elbow.0.abs() < 0.01,
                    "{:?} {along}: {elbow:?}",
                    here.hands
                );
                // The angle about C is the torso's.
                let torso = (there.upper.torso_deg - here.upper.torso_deg).0;
                let turn = (along / arc.radius_mm).to_degrees();
                assert!((torso - turn).abs() < 0.02, "{along}: {torso} {turn}");
                let (back, off) = arc.place(point);
                assert!((back - along).abs() < 1e-6 && off.abs() < 1e-9);
            }
        }
        assert!(met >= 3, "{met}");
    }

    #[test]
    fn about_the_hip_it_would_not() {
        // The same, about H: the shoulder drifts by more than a twentieth of a degree.
        let input = example::road();
        let ride = input.check().unwrap();
        let here = ride.position();
        let hip = here.upper.points.hip;
        let hand = here.bike.hand;
        let turn = Degrees::from_radians(25.0 / hand.distance(hip));
        let there = moved(&input, hip + (hand - hip).turned(turn) - hand);
        let drift = (there.upper.shoulder_deg - here.upper.shoulder_deg).0.abs();
        assert!(drift > 0.03, "{drift}");
    }

    #[test]
    fn golden_ten_up_on_the_road_example() {
        let input = example::road();
        let ride = input.check().unwrap();
        let arc = Arc::of(&ride, &ride.position()).unwrap();
        // From its own numbers, by the linkage: 10 mm up along it.
        let point = arc.at(10.0 * arc.radius_mm / (arc.through.x - arc.centre.x));
        assert!((point.y - arc.through.y - 10.0).abs() < 0.1);
        assert!((point.x - arc.through.x - arc.longer_mm).abs() < 0.1);
        assert!((0.6..0.9).contains(&arc.torso_deg), "{}", arc.torso_deg);
        assert!((0.5..1.8).contains(&arc.longer_mm), "{}", arc.longer_mm);
        assert!(arc.words().starts_with("10 mm higher goes with 1"));
    }

    #[test]
    fn higher_turns_round_once_the_hands_stand_above_the_centre() {
        let mut arc = Arc {
            hands: HandPlace::Grips,
            centre: Point::new(-150.0, 800.0),
            radius_mm: 0.0,
            through: Point::new(450.0, 920.0),
            down_mm: GOOD_MM,
            up_mm: GOOD_MM,
            longer_mm: 0.0,
            torso_deg: 0.95,
        };
        let arm = arc.through - arc.centre;
        arc.radius_mm = arm.length();
        arc.longer_mm = -10.0 * arm.y / arm.x;
        assert!((arc.longer_mm + 2.0).abs() < 1e-9);
        assert!(arc.words().contains("2 mm shorter"), "{}", arc.words());
        assert!(arc.at(10.0).x < arc.through.x);
        // Off it square to it; past its good piece from the piece's end.
        assert!((arc.miss(arc.at(5.0)) - 0.0).abs() < 1e-9);
        assert!((arc.miss(arc.at(25.0)) - 15.0).abs() < 0.05);
    }

    #[test]
    fn calls_stretch_the_good_piece_and_a_limit_cuts_it() {
        let mut input = example::road();
        let ride = input.check().unwrap();
        let trying = Trying::of(&ride);
        let arc = Arc::of(&ride, &trying.before).unwrap();
        assert_eq!((arc.down_mm, arc.up_mm), (GOOD_MM, GOOD_MM));
        let called = arc.called((arc.through.y - 22.0, arc.through.y + 4.0));
        assert!((called.down_mm - 22.0).abs() < 1e-9 && (called.up_mm - 4.0).abs() < 1e-9);
        // 20 lower is good now, and 20 higher is 16 off.
        assert!(called.miss(called.at(-20.0)) < 1e-6);
        assert!((called.miss(called.at(20.0)) - 16.0).abs() < 0.2);
        // Without a limit nothing is cut; a hip with hardly a degree left cuts the lower piece alone.
        assert_eq!(arc.cut(&trying), arc);
        let demand = trying.before.legs.right.hip_flexion_deg;
        for side in crate::units::Side::BOTH {
            input.rider.legs.of_mut(side).hip_limit_deg = Some(demand + Degrees(2.3));
        }
        let stiff = input.check().unwrap();
        let trying = Trying::of(&stiff);
        let cut = Arc::of(&stiff, &trying.before).unwrap().cut(&trying);
        assert!(cut.down_mm < GOOD_MM && cut.up_mm == GOOD_MM, "{cut:?}");
    }
}
