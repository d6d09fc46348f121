//! Pelvis, trunk and arms: where the hip, shoulder and elbow come to rest between saddle and hand.

use super::{Lengths, Reach};
use crate::measure::written;
use crate::plane::{Point, angle_at, root};
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// How the pelvis follows the torso: `φ = share × (90 − torso)` (house).
const PELVIS_SHARE: f64 = 0.5;
/// Share of the hand from wrist to grip (house).
const GRIP_IN_HAND: f64 = 0.36;
/// Above this torso the elbow gives way instead.
const UPRIGHT_DEG: f64 = 85.0;
/// The lowest torso on the hoods before the arms are beyond reach.
const LOWEST_DEG: f64 = 0.0;
/// The straightest elbow a rider holds.
const STRAIGHTEST_ELBOW_DEG: f64 = 5.0;
/// The most an elbow folds.
const MOST_ELBOW_DEG: f64 = 150.0;
/// The head stands this much above the torso's direction.
const HEAD_UP_DEG: f64 = 20.0;

/// Where the upper body meets the bike.
#[derive(Debug, Clone, Copy)]
pub(crate) struct UpperInput {
    pub(crate) sit: Point,
    pub(crate) hand: Point,
    /// Distance between the hands.
    pub(crate) hand_spacing: Option<Millimetres>,
    /// The elbow flexion the rider rests at.
    pub(crate) elbow: Degrees,
}

/// The upper body's points.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct UpperPoints {
    /// Middle of the hip joints.
    pub hip: Point,
    /// Shoulder joint.
    pub shoulder: Point,
    /// Elbow.
    pub elbow: Point,
    /// Wrist, the forearm's length beyond the elbow toward the hand point.
    pub wrist: Point,
    /// Where the hand rests.
    pub hand: Point,
    /// Middle of the head.
    pub head: Point,
}

/// The upper body at rest on saddle and hoods.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Upper {
    /// Hip to shoulder above horizontal.
    pub torso_deg: Degrees,
    /// Forward pitch of the pelvis.
    pub pelvis_deg: Degrees,
    /// Elbow flexion, 0 = straight.
    pub elbow_deg: Degrees,
    /// Hip–shoulder–elbow (house).
    pub shoulder_deg: Degrees,
    /// Hip–shoulder–wrist.
    pub shoulder_to_wrist_deg: Degrees,
    /// How the arms reach.
    pub reach: Reach,
    /// Where the joints stand.
    pub points: UpperPoints,
}

/// The arm in the plane of the side view: hands apart shorten it, both segments by the same factor.
struct Arm {
    upper: f64,
    fore: f64,
    /// How much further apart each hand is than its shoulder.
    apart: f64,
}

impl Arm {
    fn of(lengths: &Lengths, hand_spacing: Option<Millimetres>) -> Self {
        Self {
            upper: lengths.upper_arm.value_mm.0,
            fore: lengths.forearm.value_mm.0 + GRIP_IN_HAND * lengths.hand_mm.0,
            apart: hand_spacing.map_or(0.0, |spacing| {
                (spacing.0 - lengths.shoulder_breadth.value_mm.0) / 2.0
            }),
        }
    }

    /// Shoulder to hand in space: `sqrt(ua² + fa² + 2 ua fa cos(elbow flexion))`.
    fn in_space(&self, elbow: Degrees) -> f64 {
        let (_, cos) = elbow.sin_cos();
        (self.upper.powi(2) + self.fore.powi(2) + 2.0 * self.upper * self.fore * cos)
            .max(0.0)
            .sqrt()
    }

    /// Shoulder to hand in the side view.
    fn planar(&self, elbow: Degrees) -> f64 {
        (self.in_space(elbow).powi(2) - self.apart.powi(2))
            .max(0.0)
            .sqrt()
    }

    /// The elbow flexion at which the planar arm has this length, within what an elbow can.
    fn elbow_for(&self, planar: f64) -> Degrees {
        let square = planar * planar + self.apart.powi(2);
        let cos =
            (square - self.upper.powi(2) - self.fore.powi(2)) / (2.0 * self.upper * self.fore);
        Degrees::from_radians(cos.clamp(-1.0, 1.0).acos())
    }

    /// By how much the side view shortens both segments.
    fn foreshortening(&self, elbow: Degrees) -> f64 {
        self.planar(elbow) / self.in_space(elbow)
    }
}

/// The pelvis' forward pitch at this torso.
fn pelvis(torso: f64) -> Degrees {
    Degrees(PELVIS_SHARE * (90.0 - torso))
}

/// Hip joint over the sit reference: `(u sin φ, u cos φ)` with the pelvis pitched by φ.
fn hip(sit: Point, rise: Millimetres, torso: f64) -> Point {
    let (sin, cos) = pelvis(torso).sin_cos();
    sit + Point::new(rise.0 * sin, rise.0 * cos)
}

/// Solves torso and elbow.
///
/// Torso is the root of `|hand − shoulder(torso)| = arm`, the upper of two where there are two. Above 85° torso is
/// held and the elbow gives; when the hand is too far the elbow straightens only as much as needed, down to 5°;
/// beyond that the arms are beyond reach by the millimetres still missing.
pub(crate) fn upper(input: &UpperInput, lengths: &Lengths) -> Upper {
    let arm = Arm::of(lengths, input.hand_spacing);
    let shoulder_at = |torso: f64| {
        hip(input.sit, lengths.hip_rise_mm, torso)
            + Point::polar(lengths.trunk.value_mm, Degrees(torso))
    };
    let distance = |torso: f64| input.hand.distance(shoulder_at(torso));
    let rest = arm.planar(input.elbow);

    let (torso, elbow, reach) = if distance(UPRIGHT_DEG) <= rest {
        let wanted = distance(UPRIGHT_DEG);
        let closest = arm.planar(Degrees(MOST_ELBOW_DEG));
        let missing = closest - wanted;
        if missing > 0.0 {
            let words = format!(
                "the hands are {} mm too close to the body",
                written(missing)
            );
            (
                UPRIGHT_DEG,
                Degrees(MOST_ELBOW_DEG),
                Reach::Folded {
                    by_mm: Millimetres(missing),
                    words,
                },
            )
        } else {
            (UPRIGHT_DEG, arm.elbow_for(wanted), Reach::Within)
        }
    } else if let Some(torso) = upper_root(&distance, rest) {
        (torso, input.elbow, Reach::Within)
    } else {
        let (torso, nearest) = closest_torso(&distance);
        let straight = Degrees(STRAIGHTEST_ELBOW_DEG);
        let missing = nearest - arm.planar(straight);
        if missing > 0.0 {
            let words = format!("the arms are {} mm short of the hoods", written(missing));
            (
                torso,
                straight,
                Reach::Beyond {
                    by_mm: Millimetres(missing),
                    words,
                },
            )
        } else {
            let elbow = arm.elbow_for(nearest);
            let words = format!(
                "the hoods are reached only with elbows at {}°",
                written(elbow.0)
            );
            (torso, elbow, Reach::Adapted { words })
        }
    };

    let hip = hip(input.sit, lengths.hip_rise_mm, torso);
    let shoulder = shoulder_at(torso);
    let shorter = arm.foreshortening(elbow);
    let (elbow_point, hand) = bend(
        shoulder,
        input.hand,
        arm.upper * shorter,
        arm.fore * shorter,
        arm.planar(elbow),
    );
    let to_hand = hand - elbow_point;
    let wrist =
        elbow_point + to_hand * (lengths.forearm.value_mm.0 * shorter / to_hand.length().max(1e-9));
    Upper {
        torso_deg: Degrees(torso),
        pelvis_deg: pelvis(torso),
        elbow_deg: elbow,
        shoulder_deg: angle_at(shoulder, hip, elbow_point),
        shoulder_to_wrist_deg: angle_at(shoulder, hip, wrist),
        reach,
        points: UpperPoints {
            hip,
            shoulder,
            elbow: elbow_point,
            wrist,
            hand,
            head: shoulder + Point::polar(lengths.head_out_mm, Degrees(torso + HEAD_UP_DEG)),
        },
    }
}

/// The largest torso at which the hand is `rest` away, walking down from upright in whole degrees.
fn upper_root(distance: &impl Fn(f64) -> f64, rest: f64) -> Option<f64> {
    let beyond = |torso: f64| distance(torso) - rest;
    let mut above = UPRIGHT_DEG;
    while above > LOWEST_DEG {
        let below = (above - 1.0).max(LOWEST_DEG);
        if beyond(below) <= 0.0 {
            return root(below, above, beyond);
        }
        above = below;
    }
    // Two roots may hide inside one whole degree, around the torso that comes nearest.
    let (nearest, closest) = closest_torso(distance);
    (closest <= rest)
        .then(|| root(nearest, UPRIGHT_DEG, beyond))
        .flatten()
}

/// The torso that brings the shoulder nearest the hand, and how near: whole degrees, then a golden-section search.
fn closest_torso(distance: &impl Fn(f64) -> f64) -> (f64, f64) {
    let mut best = (LOWEST_DEG, distance(LOWEST_DEG));
    let mut torso = LOWEST_DEG;
    while torso < UPRIGHT_DEG {
        torso += 1.0;
        let here = distance(torso);
        if here < best.1 {
            best = (torso, here);
        }
    }
    let (mut low, mut high) = (
        (best.0 - 1.0).max(LOWEST_DEG),
        (best.0 + 1.0).min(UPRIGHT_DEG),
    );
    let golden = (5.0_f64.sqrt() - 1.0) / 2.0;
    for _ in 0..40 {
        let (a, b) = (high - golden * (high - low), low + golden * (high - low));
        if distance(a) < distance(b) {
            high = b;
        } else {
            low = a;
        }
    }
    let fine = f64::midpoint(low, high);
    let here = distance(fine);
    if here < best.1 { (fine, here) } else { best }
}

/// The elbow below the line from shoulder to hand, and where an arm this long really gets to.
fn bend(shoulder: Point, hand: Point, upper: f64, fore: f64, arm: f64) -> (Point, Point) {
    let span = hand - shoulder;
    let distance = span.length().max(1e-9);
    let along = span * (1.0 / distance);
    let met = arm.max(1e-9);
    let toward = (upper.powi(2) - fore.powi(2) + met * met) / (2.0 * met);
    let aside = (upper.powi(2) - toward * toward).max(0.0).sqrt();
    // Turned clockwise from the line to the hand: down and back for arms that reach forward.
    let elbow = shoulder + along * toward + Point::new(along.y, -along.x) * aside;
    (elbow, shoulder + along * met)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::rider::Lengths;
    use proptest::prelude::*;

    fn lengths() -> Lengths {
        let input = example::road();
        Lengths::of(&input.rider.body, &input.rider.legs)
    }

    fn rest_on(hand: Point) -> Upper {
        upper(
            &UpperInput {
                sit: Point::new(-212.0, 718.0),
                hand,
                hand_spacing: None,
                elbow: Degrees(20.0),
            },
            &lengths(),
        )
    }

    #[test]
    fn golden_right_angled_arm() {
        // Upper arm 300 and forearm-to-grip 400 at 90° of flexion span 500.
        let arm = Arm {
            upper: 300.0,
            fore: 400.0,
            apart: 0.0,
        };
        assert!((arm.planar(Degrees(90.0)) - 500.0).abs() < 1e-9);
        assert!((arm.elbow_for(500.0).0 - 90.0).abs() < 1e-9);
        // With each hand 140 outside its shoulder the side view sees sqrt(500² − 140²) = 480.
        let wide = Arm {
            apart: 140.0,
            ..arm
        };
        assert!((wide.planar(Degrees(90.0)) - 480.0).abs() < 1e-9);
        assert!((wide.elbow_for(480.0).0 - 90.0).abs() < 1e-9);
        assert!((wide.foreshortening(Degrees(90.0)) - 0.96).abs() < 1e-9);
    }

    #[test]
    fn the_arm_meets_the_hand_and_the_elbow_hangs_below() {
        let rider = rest_on(Point::new(575.0, 650.0));
        assert_eq!(rider.reach, Reach::Within);
        assert!(rider.points.hand.distance(Point::new(575.0, 650.0)) < 1e-6);
        assert!((rider.elbow_deg.0 - 20.0).abs() < 1e-9);
        let straight = (rider.points.shoulder + rider.points.hand) * 0.5;
        assert!(rider.points.elbow.y < straight.y);
    }

    #[test]
    fn a_far_hand_straightens_the_elbow_before_it_is_beyond_reach() {
        let mut states = Vec::new();
        for x in (560..1200).step_by(2) {
            let rider = rest_on(Point::new(f64::from(x), 560.0));
            let state = match rider.reach {
                Reach::Within => 0,
                Reach::Adapted { .. } => {
                    assert!(rider.elbow_deg.0 < 20.0 && rider.elbow_deg.0 >= 5.0);
                    1
                }
                Reach::Beyond { by_mm, .. } => {
                    assert!((rider.elbow_deg.0 - 5.0).abs() < 1e-9);
                    assert!(by_mm.0 > 0.0);
                    // The millimetres missing are the gap that is drawn.
                    let gap = rider.points.hand.distance(Point::new(f64::from(x), 560.0));
                    assert!((gap - by_mm.0).abs() < 1e-6);
                    2
                }
                Reach::Folded { .. } => 3,
            };
            if states.last() != Some(&state) {
                states.push(state);
            }
        }
        assert_eq!(states, [0, 1, 2]);
    }

    #[test]
    fn an_upright_rider_keeps_the_torso_and_bends_the_elbow() {
        let rider = rest_on(Point::new(120.0, 1000.0));
        assert_eq!(rider.reach, Reach::Within);
        assert!((rider.torso_deg.0 - 85.0).abs() < 1e-9);
        assert!(rider.elbow_deg.0 > 20.0);
        assert!(matches!(
            rest_on(Point::new(-150.0, 1270.0)).reach,
            Reach::Folded { .. }
        ));
    }

    proptest! {
        #[test]
        fn lower_hands_never_raise_the_torso(
            x in 350.0..620.0_f64, y in 450.0..800.0_f64, lower in 0.0..60.0_f64,
        ) {
            let (high, low) = (rest_on(Point::new(x, y)), rest_on(Point::new(x, y - lower)));
            if high.reach.is_met() && low.reach.is_met() {
                prop_assert!(low.torso_deg.0 <= high.torso_deg.0 + 1e-6);
            }
        }

        #[test]
        fn any_hand_has_an_answer(x in -2000.0..2000.0_f64, y in -2000.0..2000.0_f64) {
            let rider = rest_on(Point::new(x, y));
            for value in [rider.torso_deg, rider.elbow_deg, rider.shoulder_deg, rider.shoulder_to_wrist_deg] {
                prop_assert!(value.0.is_finite());
            }
        }
    }
}
