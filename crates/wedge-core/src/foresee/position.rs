//! A position: contact points and everything that follows from them.

use super::ForeseeInput;
use super::dimensions::{Dimensions, fitted, setback_on_grade};
use super::input::Rider;
use super::person::Person;
use crate::bike::{
    BikePoints, HandPlace, Perch, Setup, axle_to_ground, pedal_lean, standover, toe,
};
use crate::judge::{Mark, marks};
use crate::measure::Conventions;
use crate::plane::Point;
use crate::rider::{
    Contact, Detail, Gap, Leg, LegInput, LoadInput, Loads, PitchSeen, Reach, Upper, UpperInput,
    contact_for, hip_to_axle, leg, upper,
};
use crate::units::{Degrees, Millimetres, Side, Sides};
use serde::{Deserialize, Serialize};

/// What clears what.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Clearances {
    /// Toe to front wheel with the crank forward, positive = clear.
    pub toe_mm: Sides<Millimetres>,
    /// Ground left under the lowered pedal's axle, at sag.
    #[serde(default)]
    pub axle_to_ground_mm: Sides<Millimetres>,
    /// The lean at which the lowered pedal strikes the ground, when pedal and tyre are known.
    pub pedal_lean_deg: Sides<Option<Degrees>>,
    /// Barefoot inseam over the top tube, when its height is known.
    pub standover_mm: Option<Millimetres>,
    /// Post and rails.
    pub perch: Perch,
}

/// Contact points and everything that follows from them.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Position {
    /// Where the bike's points stand.
    pub bike: BikePoints,
    /// Where the hands are.
    pub hands: HandPlace,
    /// The conventions its numbers are given in: the ones asked for, or the bar's own where it has no such spot.
    pub conventions: Conventions,
    /// The lengths fitters take.
    pub dimensions: Dimensions,
    /// Trunk and arms.
    pub upper: Upper,
    /// Where the arms end and where they should, when they do not reach.
    pub arm_gap: Option<Gap>,
    /// Horizontal reach from sit reference to hands as a share of the trunk.
    pub saddle_to_hand_by_trunk_percent: f64,
    /// Setback as felt on the grade, when one is asked about.
    pub setback_on_grade_mm: Option<Millimetres>,
    /// Both legs over the stroke.
    pub legs: Sides<Leg>,
    /// What clears what.
    pub clearances: Clearances,
    /// Loads, when the rider's mass is known.
    pub loads: Option<Loads>,
    /// What is outside the ranges of the kind of riding.
    pub marks: Vec<Mark>,
}

/// What a position follows from besides its setup.
pub(crate) struct Scene<'a> {
    pub(crate) input: &'a ForeseeInput,
    pub(crate) person: &'a Person,
    pub(crate) seen: &'a Sides<PitchSeen>,
    /// How far the whole position is turned forward about the BB.
    pub(crate) rotation: Degrees,
    pub(crate) detail: Detail,
}

impl Position {
    /// Puts the rider on a setup. `None` when the saddle has no place.
    pub(crate) fn of(scene: &Scene, setup: &Setup) -> Option<Self> {
        Some(Self::seated(
            scene,
            setup,
            Seated::of(scene.input, scene.person, setup, scene.rotation)?,
        ))
    }

    /// The whole position of a rider whose upper body is solved.
    pub(crate) fn seated(scene: &Scene, setup: &Setup, seated: Seated) -> Self {
        let Seated { bike, seat, upper } = seated;
        let legs = Sides::from_fn(|side| leg(&leg_input(scene, setup, &upper, side)));
        let input = scene.input;
        let conventions = fitted(&input.conventions, setup);
        let span = seat.contact.x - seat.sit.x;
        let loads = loads(scene, setup, &seat, &bike, &upper, &legs);
        let mut position = Self {
            hands: seat.upper.place,
            conventions,
            dimensions: Dimensions::of(&input.frame, setup, &bike, &conventions),
            saddle_to_hand_by_trunk_percent: 100.0 * span / scene.person.lengths.trunk.value_mm.0,
            setback_on_grade_mm: (input.grade_percent != 0.0)
                .then(|| Millimetres(setback_on_grade(seat.sit, input.grade_percent))),
            clearances: Clearances {
                toe_mm: Sides::from_fn(|side| {
                    toe(
                        &input.frame,
                        setup.pedalling.of(side),
                        legs.of(side).toe_ahead_mm.0,
                    )
                }),
                axle_to_ground_mm: Sides::from_fn(|side| {
                    axle_to_ground(&input.frame, setup.pedalling.of(side))
                }),
                pedal_lean_deg: Sides::from_fn(|side| {
                    pedal_lean(&input.frame, setup.pedalling.of(side))
                }),
                standover_mm: standover(&input.frame, scene.person.lengths.inseam.value_mm),
                perch: Perch::of(&input.frame, setup, bike.sit),
            },
            bike,
            arm_gap: seat.gap(&upper),
            upper,
            legs,
            loads,
            marks: Vec::new(),
        };
        let biases = &scene.person.biases;
        biases.see_upper(&mut position.upper);
        biases.see_leg(&mut position.legs.left);
        biases.see_leg(&mut position.legs.right);
        if scene.detail == Detail::Fine {
            position.marks = marks(&position, &input.ranges());
        }
        position
    }

    /// The same position with one leg solved anew: for a scene or a setup that differs in nothing but that leg, its
    /// crank aside.
    pub(crate) fn with_leg(&self, scene: &Scene, setup: &Setup, side: Side) -> Self {
        let seat = Seat::of(
            scene.input,
            &scene.person.rider,
            setup,
            &self.bike,
            scene.rotation,
        );
        let mut position = self.clone();
        let mut solved = leg(&leg_input(scene, setup, &self.upper, side));
        let toe_ahead = solved.toe_ahead_mm.0;
        scene.person.biases.see_leg(&mut solved);
        *position.legs.of_mut(side) = solved;
        *position.clearances.toe_mm.of_mut(side) =
            toe(&scene.input.frame, setup.pedalling.of(side), toe_ahead);
        position.loads = loads(scene, setup, &seat, &self.bike, &self.upper, &position.legs);
        position
    }

    /// What there is to say about limbs that do not simply reach.
    pub fn reach_words(&self) -> Vec<String> {
        [
            &self.upper.reach,
            &self.legs.left.reach,
            &self.legs.right.reach,
        ]
        .into_iter()
        .filter_map(Reach::words)
        .map(sentence)
        .collect()
    }

    /// The smallest flexion of the stroke, mean of both knees: what a saddle height is chosen by.
    pub(crate) fn knee_at_full_reach(&self) -> f64 {
        f64::midpoint(
            self.legs.left.knee.smallest_deg.0,
            self.legs.right.knee.smallest_deg.0,
        )
    }

    /// Whether every limb meets its contact point.
    pub fn is_reached(&self) -> bool {
        self.upper.reach.is_met() && self.legs.left.reach.is_met() && self.legs.right.reach.is_met()
    }
}

/// The loads of a solved rider, when the mass is known.
fn loads(
    scene: &Scene,
    setup: &Setup,
    seat: &Seat,
    bike: &BikePoints,
    upper: &Upper,
    legs: &Sides<Leg>,
) -> Option<Loads> {
    let input = scene.input;
    let crank = Millimetres(f64::midpoint(
        setup.pedalling.left.crank_mm.0,
        setup.pedalling.right.crank_mm.0,
    ));
    scene.person.rider.body.mass_kg.map(|mass| {
        Loads::of(&LoadInput {
            mass,
            bike_mass: input.frame.bike_mass_kg,
            bike,
            upper: &upper.points,
            legs,
            sit: seat.sit,
            hand: seat.contact,
            crank,
            effort: input.effort.map(|e| (e.power_w, e.cadence_rpm)),
        })
    })
}

/// Capital first, full stop last.
pub(crate) fn sentence(words: &str) -> String {
    let mut chars = words.chars();
    chars.next().map_or_else(String::new, |first| {
        first.to_uppercase().chain(chars).chain(['.']).collect()
    })
}

/// Where the rider meets the bike, turned with the position.
struct Seat {
    /// Where the rider sits: the sit reference, or ahead of it.
    sit: Point,
    /// What hands or elbows rest on.
    contact: Point,
    upper: UpperInput,
}

impl Seat {
    fn of(
        input: &ForeseeInput,
        rider: &Rider,
        setup: &Setup,
        bike: &BikePoints,
        rotation: Degrees,
    ) -> Self {
        let pelvis = rider.pelvis;
        let place = input.hand_place(setup);
        let sit = bike.sit - setup.saddle.rails_back() * pelvis.sits_forward_mm.0;
        // Front down is forward: a turn by −rotation in the plane's sense of front up.
        let turned = |p: Point| p.turned(-rotation);
        let contact = turned(bike.place(place).unwrap_or(bike.hand));
        let sit = turned(sit);
        Self {
            sit,
            contact,
            upper: UpperInput {
                sit,
                contact: match place {
                    HandPlace::Pads => Contact::Elbow(contact, setup.bar.forearm_tilt() - rotation),
                    _ => Contact::Hand(contact),
                },
                place,
                spacing: Some(setup.bar.spacing(place)),
                elbow: rider.elbow_deg,
                // The pelvis turns with the position; its share of the torso's lean gives part of that already.
                pelvis: crate::rider::Pelvis {
                    zero_deg: pelvis.zero_deg + rotation * (1.0 - pelvis.share),
                    ..pelvis
                },
            },
        }
    }
}

/// How far the hands would have to go, forward and up, for this torso and shoulder as they are seen; `None` when the
/// saddle has no place.
pub(crate) fn hands_to(
    input: &ForeseeInput,
    person: &Person,
    setup: &Setup,
    torso: Degrees,
    shoulder: Degrees,
) -> Option<Point> {
    let bike = BikePoints::of(&input.frame, setup)?;
    let seat = Seat::of(input, &person.rider, setup, &bike, Degrees(0.0));
    let (torso, shoulder) = person.biases.unseen(torso, shoulder);
    Some(contact_for(&seat.upper, &person.lengths, torso, shoulder) - seat.contact)
}

impl Seat {
    fn gap(&self, upper: &Upper) -> Option<Gap> {
        let (Reach::Beyond { by_mm, .. } | Reach::Folded { by_mm, .. }) = upper.reach else {
            return None;
        };
        Some(Gap {
            from: match self.upper.contact {
                Contact::Hand(_) => upper.points.hand,
                Contact::Elbow(..) => upper.points.elbow,
            },
            to: self.contact,
            by_mm,
            crank_deg: None,
        })
    }
}

/// The hip joint of a side: the middle of the pelvis, moved by yaw (forward) and roll (up), plus for the right.
fn hip_of(side: Side, middle: Point, person: &Person, rotation: Degrees) -> Point {
    let aside = match side {
        Side::Left => -person.lengths.hip_aside_mm.0,
        Side::Right => person.lengths.hip_aside_mm.0,
    };
    let (yaw, _) = person.rider.pelvis.yaw_deg.sin_cos();
    let (roll, _) = person.rider.pelvis.roll_deg.sin_cos();
    middle + Point::new(aside * yaw, aside * roll).turned(-rotation)
}

fn leg_input<'a>(scene: &'a Scene, setup: &'a Setup, upper: &Upper, side: Side) -> LegInput<'a> {
    LegInput {
        side,
        hip: hip_of(side, upper.points.hip, scene.person, scene.rotation),
        shoulder: upper.points.shoulder,
        elbow: upper.points.elbow,
        pelvis: upper.pelvis_deg,
        lengths: scene.person.lengths.legs.of(side),
        pedalling: setup.pedalling.of(side),
        seen: *scene.seen.of(side),
        response: scene.person.rider.pitch_response_deg_per_mm,
        seat_angle: scene.input.frame.seat_angle_deg,
        rotation: scene.rotation,
        detail: scene.detail,
    }
}

/// A rider's upper body at rest on a bike.
pub(crate) struct Seated {
    bike: BikePoints,
    seat: Seat,
    upper: Upper,
}

impl Seated {
    /// `None` when the saddle has no place.
    pub(crate) fn of(
        input: &ForeseeInput,
        person: &Person,
        setup: &Setup,
        rotation: Degrees,
    ) -> Option<Self> {
        let bike = BikePoints::of(&input.frame, setup)?;
        let seat = Seat::of(input, &person.rider, setup, &bike, rotation);
        let upper = upper(&seat.upper, &person.lengths);
        Some(Self { bike, seat, upper })
    }

    /// The rider's own foot pattern, observed at the hip-to-axle distance this setup gives.
    pub(crate) fn observe(&self, person: &Person, setup: &Setup) -> Sides<PitchSeen> {
        let none = Degrees(0.0);
        Sides::from_fn(|side| PitchSeen {
            pitch: *person.rider.pitch.of(side),
            hip_to_axle_mm: hip_to_axle(
                hip_of(side, self.upper.points.hip, person, none),
                setup.pedalling.of(side).crank_mm,
                none,
            ),
        })
    }
}

/// The rider's own pattern, observed at the hip-to-axle distance this setup gives.
pub(crate) fn observe(input: &ForeseeInput, person: &Person) -> Option<Sides<PitchSeen>> {
    let seated = Seated::of(input, person, &input.setup, Degrees(0.0))?;
    Some(seated.observe(person, &input.setup))
}
