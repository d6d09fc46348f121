//! Pelvis, trunk and arms: where the hip, shoulder and elbow come to rest between saddle and hand.

use super::body::GRIP_IN_HAND;
use super::{Lengths, Pelvis, Reach};
use crate::bike::HandPlace;
use crate::plane::{Point, angle_at, root};
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};
use crate::words::written;
use serde::{Deserialize, Serialize};

rules! {
    rules "Rider";
    /// Above this torso the elbow gives way instead.
    pub(crate) const UPRIGHT_DEG: f64 = 85.0, "°", House;
    /// The lowest torso before the arms are beyond reach.
    const LOWEST_DEG: f64 = 0.0, "°", House;
    /// The lowest torso on pads.
    const LOWEST_ON_PADS_DEG: f64 = -5.0, "°", House;
    /// The straightest elbow a rider holds.
    const STRAIGHTEST_ELBOW_DEG: f64 = 5.0, "°", House;
    /// The most an elbow folds.
    const MOST_ELBOW_DEG: f64 = 150.0, "°", House;
    /// The head stands this much above the torso's direction.
    const HEAD_UP_DEG: f64 = 20.0, "°", House;
}

/// What the arms hold or rest on.
#[derive(Debug, Clone, Copy)]
pub(crate) enum Contact {
    /// The hands hold a point.
    Hand(Point),
    /// The elbows rest on a point, the forearms running on at this tilt.
    Elbow(Point, Degrees),
}

/// Where the upper body meets the bike.
#[derive(Debug, Clone, Copy)]
pub(crate) struct UpperInput {
    pub(crate) sit: Point,
    pub(crate) contact: Contact,
    pub(crate) place: HandPlace,
    /// Distance between the hands, or between the elbows on pads.
    pub(crate) spacing: Option<Millimetres>,
    /// The elbow flexion the rider rests at.
    pub(crate) elbow: Degrees,
    pub(crate) pelvis: Pelvis,
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

/// The upper body at rest between saddle and bar.
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

/// Pelvis and trunk over a sit reference.
struct Seat {
    sit: Point,
    pelvis: Pelvis,
    rise: f64,
    trunk: Millimetres,
}

impl Seat {
    fn of(input: &UpperInput, lengths: &Lengths) -> Self {
        Self {
            sit: input.sit,
            pelvis: input.pelvis,
            rise: input.pelvis.rise_mm.unwrap_or(lengths.hip_rise_mm).0,
            trunk: lengths.trunk.value_mm,
        }
    }

    /// The pelvis' forward pitch at this torso: `φ = φ₀ + share × (90 − torso)` (house).
    fn pitch(&self, torso: f64) -> Degrees {
        self.pelvis.zero_deg + Degrees(self.pelvis.share * (90.0 - torso))
    }

    /// Middle of the hip joints: `sit + (f cos φ + u sin φ, −f sin φ + u cos φ)`.
    fn hip(&self, torso: f64) -> Point {
        let (sin, cos) = self.pitch(torso).sin_cos();
        let ahead = self.pelvis.forward_mm.0;
        self.sit + Point::new(ahead * cos + self.rise * sin, self.rise * cos - ahead * sin)
    }

    fn shoulder(&self, torso: f64) -> Point {
        self.hip(torso) + Point::polar(self.trunk, Degrees(torso))
    }
}

/// Solves torso and elbow.
///
/// Torso is the root of `|contact − shoulder(torso)| = arm`, the upper of two where there are two. With the hands on
/// the bar, above 85° torso is held and the elbow gives; when the hand is too far the elbow straightens only as much
/// as needed, down to 5°; beyond that the arms are beyond reach by the millimetres still missing. On pads the arm is
/// the upper arm alone.
pub(crate) fn upper(input: &UpperInput, lengths: &Lengths) -> Upper {
    let seat = Seat::of(input, lengths);
    match input.contact {
        Contact::Hand(hand) => on_hands(input, lengths, &seat, hand),
        Contact::Elbow(elbow, tilt) => on_pads(input, lengths, &seat, elbow, tilt),
    }
}

/// Where the hand, or on pads the elbow, would be with this torso and this hip–shoulder–elbow angle at the rested
/// elbow: what a front end is aimed at.
pub(crate) fn contact_for(
    input: &UpperInput,
    lengths: &Lengths,
    torso: Degrees,
    shoulder: Degrees,
) -> Point {
    let seat = Seat::of(input, lengths);
    let joint = seat.shoulder(torso.0);
    // From the shoulder back to the hip, then forward by the shoulder's angle.
    let upper_arm = torso + Degrees(180.0) + shoulder;
    let arm = Arm::of(lengths, input.spacing);
    match input.contact {
        Contact::Elbow(..) => {
            let planar = (arm.upper.powi(2) - arm.apart.powi(2)).max(0.0).sqrt();
            joint + Point::polar(Millimetres(planar), upper_arm)
        }
        Contact::Hand(_) => {
            let shorter = arm.foreshortening(input.elbow);
            let elbow = joint + Point::polar(Millimetres(arm.upper * shorter), upper_arm);
            elbow + Point::polar(Millimetres(arm.fore * shorter), upper_arm + input.elbow)
        }
    }
}

fn on_hands(input: &UpperInput, lengths: &Lengths, seat: &Seat, hand: Point) -> Upper {
    let arm = Arm::of(lengths, input.spacing);
    let place = input.place.word();
    let distance = |torso: f64| hand.distance(seat.shoulder(torso));
    let rest = arm.planar(input.elbow);

    let (torso, elbow, reach) = if distance(UPRIGHT_DEG) <= rest {
        let wanted = distance(UPRIGHT_DEG);
        let missing = arm.planar(Degrees(MOST_ELBOW_DEG)) - wanted;
        if missing > 0.0 {
            let words = format!(
                "the {place} are {} mm too close to the body",
                written(missing)
            );
            (
                UPRIGHT_DEG,
                Degrees(MOST_ELBOW_DEG),
                Reach::folded(missing, words),
            )
        } else {
            (UPRIGHT_DEG, arm.elbow_for(wanted), Reach::Within)
        }
    } else if let Some(torso) = upper_root(&distance, rest, LOWEST_DEG) {
        (torso, input.elbow, Reach::Within)
    } else {
        let (torso, nearest) = closest_torso(&distance, LOWEST_DEG);
        let straight = Degrees(STRAIGHTEST_ELBOW_DEG);
        let missing = nearest - arm.planar(straight);
        if missing > 0.0 {
            let words = format!("the arms are {} mm short of the {place}", written(missing));
            (torso, straight, Reach::beyond(missing, words))
        } else {
            let elbow = arm.elbow_for(nearest);
            let words = format!(
                "the {place} are reached only with elbows at {}°",
                written(elbow.0)
            );
            (torso, elbow, Reach::Adapted { words })
        }
    };

    let shoulder = seat.shoulder(torso);
    let shorter = arm.foreshortening(elbow);
    let (elbow_point, hand) = bend(
        shoulder,
        hand,
        arm.upper * shorter,
        arm.fore * shorter,
        arm.planar(elbow),
    );
    let to_hand = hand - elbow_point;
    let wrist =
        elbow_point + to_hand * (lengths.forearm.value_mm.0 * shorter / to_hand.length().max(1e-9));
    rest_at(
        seat,
        lengths,
        torso,
        elbow,
        reach,
        [elbow_point, wrist, hand],
    )
}

fn on_pads(
    input: &UpperInput,
    lengths: &Lengths,
    seat: &Seat,
    elbow: Point,
    tilt: Degrees,
) -> Upper {
    let arm = Arm::of(lengths, input.spacing);
    // The upper arm in the plane of the side view: elbows inside the shoulders shorten it.
    let upper_arm = (arm.upper.powi(2) - arm.apart.powi(2)).max(0.0).sqrt();
    let distance = |torso: f64| elbow.distance(seat.shoulder(torso));
    let (torso, reach) = if distance(UPRIGHT_DEG) <= upper_arm {
        let missing = upper_arm - distance(UPRIGHT_DEG);
        let words = format!("the pads are {} mm too close to the body", written(missing));
        (UPRIGHT_DEG, Reach::folded(missing, words))
    } else if let Some(torso) = upper_root(&distance, upper_arm, LOWEST_ON_PADS_DEG) {
        (torso, Reach::Within)
    } else {
        let (torso, nearest) = closest_torso(&distance, LOWEST_ON_PADS_DEG);
        let missing = nearest - upper_arm;
        let words = format!("the elbows are {} mm short of the pads", written(missing));
        (torso, Reach::beyond(missing, words))
    };
    let shoulder = seat.shoulder(torso);
    let span = elbow - shoulder;
    // Where the elbow really gets to: on the pad when it reaches.
    let elbow_point = shoulder + span * (upper_arm / span.length().max(1e-9));
    let wrist = elbow_point + Point::polar(lengths.forearm.value_mm, tilt);
    let hand = elbow_point + Point::polar(Millimetres(arm.fore), tilt);
    let flexion = Degrees(180.0) - angle_at(elbow_point, shoulder, hand);
    rest_at(
        seat,
        lengths,
        torso,
        flexion,
        reach,
        [elbow_point, wrist, hand],
    )
}

/// The upper body at a torso, with elbow, wrist and hand where they are.
fn rest_at(
    seat: &Seat,
    lengths: &Lengths,
    torso: f64,
    elbow_deg: Degrees,
    reach: Reach,
    [elbow, wrist, hand]: [Point; 3],
) -> Upper {
    let (hip, shoulder) = (seat.hip(torso), seat.shoulder(torso));
    Upper {
        torso_deg: Degrees(torso),
        pelvis_deg: seat.pitch(torso),
        elbow_deg,
        shoulder_deg: angle_at(shoulder, hip, elbow),
        shoulder_to_wrist_deg: angle_at(shoulder, hip, wrist),
        reach,
        points: UpperPoints {
            hip,
            shoulder,
            elbow,
            wrist,
            hand,
            head: shoulder + Point::polar(lengths.head_out_mm, Degrees(torso + HEAD_UP_DEG)),
        },
    }
}

/// Steps of the walk down from upright: the distance to the contact has one valley, so no two roots hide in one but
/// around its bottom.
const WALK_DEG: f64 = 5.0;

/// The largest torso at which the contact is `rest` away, walking down from upright.
fn upper_root(distance: &impl Fn(f64) -> f64, rest: f64, lowest: f64) -> Option<f64> {
    let beyond = |torso: f64| distance(torso) - rest;
    let mut above = UPRIGHT_DEG;
    while above > lowest {
        let below = (above - WALK_DEG).max(lowest);
        if beyond(below) <= 0.0 {
            return root(below, above, beyond);
        }
        above = below;
    }
    // Two roots may hide inside one step, around the torso that comes nearest.
    let (nearest, closest) = closest_torso(distance, lowest);
    (closest <= rest)
        .then(|| root(nearest, UPRIGHT_DEG, beyond))
        .flatten()
}

/// The torso that brings the shoulder nearest the contact, and how near: whole degrees, then a golden-section search.
fn closest_torso(distance: &impl Fn(f64) -> f64, lowest: f64) -> (f64, f64) {
    let mut best = (lowest, distance(lowest));
    let mut torso = lowest;
    while torso < UPRIGHT_DEG {
        torso += 1.0;
        let here = distance(torso);
        if here < best.1 {
            best = (torso, here);
        }
    }
    let (mut low, mut high) = ((best.0 - 1.0).max(lowest), (best.0 + 1.0).min(UPRIGHT_DEG));
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
    use super::{Lengths, *};
    use crate::example;
    use proptest::prelude::*;

    fn lengths() -> Lengths {
        let input = example::road();
        input.rider.lengths()
    }

    fn rest_on(hand: Point) -> Upper {
        rest(Contact::Hand(hand), HandPlace::Hoods)
    }

    fn rest(contact: Contact, place: HandPlace) -> Upper {
        upper(
            &UpperInput {
                sit: Point::new(-212.0, 718.0),
                contact,
                place,
                spacing: None,
                elbow: Degrees(20.0),
                pelvis: Pelvis::default(),
            },
            &lengths(),
        )
    }

    #[test]
    fn golden_hip_over_a_pitched_pelvis() {
        // φ = 30 + .5 × (90 − 30) = 60°; u 60, f 20: (20 × .5 + 60 × .8660, −20 × .8660 + 60 × .5) = (61.9615, 12.6795).
        let seat = Seat {
            sit: Point::default(),
            pelvis: Pelvis {
                zero_deg: Degrees(30.0),
                forward_mm: Millimetres(20.0),
                ..Pelvis::default()
            },
            rise: 60.0,
            trunk: Millimetres(500.0),
        };
        assert!((seat.pitch(30.0).0 - 60.0).abs() < 1e-9);
        assert!(seat.hip(30.0).distance(Point::new(61.9615, 12.6795)) < 1e-3);
    }

    #[test]
    fn on_pads_the_upper_arm_alone_meets_the_elbow() {
        let pad = Point::new(330.0, 620.0);
        let rider = rest(Contact::Elbow(pad, Degrees(10.0)), HandPlace::Pads);
        assert_eq!(rider.reach, Reach::Within);
        assert!(rider.points.elbow.distance(pad) < 1e-6);
        let upper_arm = rider.points.shoulder.distance(rider.points.elbow);
        assert!((upper_arm - lengths().upper_arm.value_mm.0).abs() < 1e-6);
        // The forearm runs on along the extension.
        assert!(((rider.points.hand - pad).direction().0 - 10.0).abs() < 1e-9);
        assert!(rider.torso_deg.0 < 30.0, "{}", rider.torso_deg.0);

        let far = rest(
            Contact::Elbow(Point::new(900.0, 500.0), Degrees(0.0)),
            HandPlace::Pads,
        );
        let Reach::Beyond { by_mm, words } = &far.reach else {
            panic!("{:?}", far.reach);
        };
        assert!(words.contains("short of the pads"), "{words}");
        let gap = far.points.elbow.distance(Point::new(900.0, 500.0));
        assert!((gap - by_mm.0).abs() < 1e-6);
        assert!(far.torso_deg.0 >= LOWEST_ON_PADS_DEG);
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
