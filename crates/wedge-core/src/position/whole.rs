//! A position: contact points and everything that follows from them.

use super::person::Person;
use super::ride::{Facts, Ride};
use super::seat::{Seat, Seated, hip_of};
use super::{Dimensions, Mark, setback_on_grade};
use crate::bike::{
    BikePoints, HandPlace, Perch, Placed, axle_to_ground, pedal_lean, standover, toe,
};
use crate::measure::Conventions;
use crate::rider::{
    Detail, Gap, Leg, LegInput, LoadInput, Loads, PitchSeen, Reach, Upper, both_legs, leg,
};
use crate::units::{Degrees, Millimetres, Side, Sides};
use crate::words::sentence;
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
    /// What is outside the ranges of the kind of riding by more than it may be off: told with foresight, which knows that.
    pub marks: Vec<Mark>,
}

/// What a position follows from besides its setup.
pub(crate) struct Scene<'a> {
    pub(crate) facts: &'a Facts,
    pub(crate) person: &'a Person,
    pub(crate) seen: &'a Sides<PitchSeen>,
    /// How far the whole position is turned forward about the BB.
    pub(crate) rotation: Degrees,
    pub(crate) detail: Detail,
    /// Legs solved coarsely from which these differ little.
    pub(crate) near: Option<&'a Sides<Leg>>,
    /// Whether legs that do not reach are continued past straight.
    pub(crate) continued: bool,
}

impl Ride {
    /// What its positions follow from.
    pub(crate) fn scene(&self, detail: Detail) -> Scene<'_> {
        Scene {
            facts: self,
            person: &self.person,
            seen: &self.seen,
            rotation: Degrees(0.0),
            detail,
            near: None,
            continued: false,
        }
    }

    /// The position as it stands: what a drawing needs.
    pub fn position(&self) -> Position {
        Position::of(&self.scene(Detail::Fine), &self.setup)
    }
}

impl Position {
    /// Puts the rider on a setup.
    pub(crate) fn of(scene: &Scene, setup: &Placed) -> Self {
        let seated = Seated::of(scene.facts, scene.person, setup, scene.rotation);
        Self::seated(scene, setup, seated)
    }

    /// The whole position of a rider whose upper body is solved.
    pub(crate) fn seated(scene: &Scene, setup: &Placed, seated: Seated) -> Self {
        let Seated { bike, seat, upper } = seated;
        let input = |side| leg_input(scene, setup, &upper, side);
        let legs = both_legs(&input(Side::Left), &input(Side::Right));
        let facts = scene.facts;
        let (frame, pedalling) = (&facts.frame, &setup.pedalling);
        let span = seat.contact.x - seat.sit_reference.x;
        let loads = loads(scene, setup, &seat, &bike, &upper, &legs);
        let mut position = Self {
            hands: seat.upper.place,
            conventions: facts.conventions,
            dimensions: Dimensions::of(frame, setup, &bike, &facts.conventions),
            saddle_to_hand_by_trunk_percent: 100.0 * span / scene.person.lengths.trunk.value_mm.0,
            setback_on_grade_mm: (facts.grade_percent != 0.0)
                .then(|| Millimetres(setback_on_grade(seat.sit, facts.grade_percent))),
            clearances: Clearances {
                toe_mm: Sides::from_fn(|side| {
                    toe(frame, pedalling.of(side), legs.of(side).toe_ahead_mm.0)
                }),
                axle_to_ground_mm: Sides::from_fn(|side| axle_to_ground(frame, pedalling.of(side))),
                pedal_lean_deg: Sides::from_fn(|side| pedal_lean(frame, pedalling.of(side))),
                standover_mm: standover(frame, scene.person.lengths.inseam.value_mm),
                perch: Perch::of(frame, setup),
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
        position
    }

    /// The same position with one leg solved anew: for a scene or a setup that differs in nothing but that leg, its
    /// crank aside.
    pub(crate) fn with_leg(&self, scene: &Scene, setup: &Placed, side: Side) -> Self {
        let rider = &scene.person.rider;
        let seat = Seat::of(scene.facts, rider, setup, &self.bike, scene.rotation);
        let mut position = self.clone();
        let mut solved = leg(&leg_input(scene, setup, &self.upper, side));
        let toe_ahead = solved.toe_ahead_mm.0;
        scene.person.biases.see_leg(&mut solved);
        *position.legs.of_mut(side) = solved;
        *position.clearances.toe_mm.of_mut(side) =
            toe(&scene.facts.frame, setup.pedalling.of(side), toe_ahead);
        position.loads = loads(scene, setup, &seat, &self.bike, &self.upper, &position.legs);
        position
    }

    /// What there is to say about limbs that do not simply reach: pedals before hands.
    pub fn reach_words(&self) -> Vec<String> {
        [
            &self.legs.left.reach,
            &self.legs.right.reach,
            &self.upper.reach,
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

    /// Whether both legs meet their pedals.
    pub(crate) fn legs_reach(&self) -> bool {
        self.legs.left.reach.is_met() && self.legs.right.reach.is_met()
    }

    /// Whether every limb meets its contact point.
    pub fn is_reached(&self) -> bool {
        self.upper.reach.is_met() && self.legs_reach()
    }
}

/// The loads of a solved rider, when the mass is known.
fn loads(
    scene: &Scene,
    setup: &Placed,
    seat: &Seat,
    bike: &BikePoints,
    upper: &Upper,
    legs: &Sides<Leg>,
) -> Option<Loads> {
    let crank = Millimetres(f64::midpoint(
        setup.pedalling.left.crank_mm.0,
        setup.pedalling.right.crank_mm.0,
    ));
    scene.person.rider.body.mass_kg.map(|mass| {
        Loads::of(&LoadInput {
            mass,
            bike_mass: scene.facts.frame.bike_mass_kg,
            bike,
            upper: &upper.points,
            legs,
            sit: seat.sit,
            hand: seat.contact,
            crank,
            mass_forward: scene.person.mass_forward,
            effort: scene.facts.effort.map(|e| (e.power_w, e.cadence_rpm)),
            slope: scene.facts.grade_percent / 100.0,
        })
    })
}

fn leg_input<'a>(scene: &'a Scene, setup: &'a Placed, upper: &Upper, side: Side) -> LegInput<'a> {
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
        seat_angle: scene.facts.frame.seat_angle_deg,
        rotation: scene.rotation,
        detail: scene.detail,
        near: scene.near.map(|legs| legs.of(side).extremes),
        continued: scene.continued,
    }
}
