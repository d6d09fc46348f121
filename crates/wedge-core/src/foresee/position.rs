//! A position: contact points and everything that follows from them.

use super::ForeseeInput;
use crate::bike::{BikePoints, Frame, Setup};
use crate::judge::{Mark, marks};
use crate::measure::Convention;
use crate::rider::{
    Leg, LegInput, Lengths, PitchSeen, Reach, Upper, UpperInput, hip_to_axle, leg, upper,
};
use crate::units::{Degrees, Millimetres, Sides};
use serde::{Deserialize, Serialize};

/// The lengths fitters take, in every convention.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dimensions {
    /// BB straight to the sit reference.
    pub saddle_height_straight_mm: Millimetres,
    /// BB to saddle top along the seat tube.
    pub saddle_height_seat_tube_mm: Millimetres,
    /// BB to the sit reference, vertical.
    pub saddle_height_vertical_mm: Millimetres,
    /// Pedal axle at its farthest to saddle top.
    pub saddle_height_from_axle_mm: Millimetres,
    /// BB to the sit reference, horizontal.
    pub setback_sit_mm: Millimetres,
    /// BB to the saddle nose, horizontal.
    pub setback_nose_mm: Millimetres,
    /// Effective seat angle of the sit reference.
    pub seat_angle_deg: Degrees,
    /// Saddle top to hood.
    pub drop_hood_mm: Millimetres,
    /// Saddle top to bar clamp centre.
    pub drop_clamp_mm: Millimetres,
    /// Saddle top to the bar's top.
    pub drop_bar_top_mm: Millimetres,
    /// BB to hood, horizontal.
    pub bb_to_hood_mm: Millimetres,
    /// BB to hood, vertical.
    pub bb_to_hood_up_mm: Millimetres,
    /// Sit reference to hood, horizontal.
    pub saddle_to_hood_mm: Millimetres,
    /// The same divided by the trunk's length.
    pub saddle_to_hood_by_trunk: f64,
}

impl Dimensions {
    fn of(frame: &Frame, setup: &Setup, bike: &BikePoints, lengths: &Lengths) -> Self {
        let with = setup.companions(frame);
        let height = |c| Millimetres(with.saddle_height(c, bike.sit).unwrap_or_default());
        let setback = |c| with.setback(c, bike.sit).unwrap_or_default();
        let saddle_to_hood = bike.hood.x - bike.sit.x;
        Self {
            saddle_height_straight_mm: height(Convention::SaddleHeightStraight),
            saddle_height_seat_tube_mm: height(Convention::SaddleHeightSeatTube),
            saddle_height_vertical_mm: height(Convention::SaddleHeightVertical),
            saddle_height_from_axle_mm: height(Convention::SaddleHeightFromAxle),
            setback_sit_mm: Millimetres(setback(Convention::SetbackSit)),
            setback_nose_mm: Millimetres(setback(Convention::SetbackNose)),
            seat_angle_deg: Degrees(setback(Convention::SetbackSeatAngle)),
            drop_hood_mm: Millimetres(bike.sit.y - bike.hood.y),
            drop_clamp_mm: Millimetres(bike.sit.y - bike.bar_clamp.y - setup.residual.hand_up_mm.0),
            drop_bar_top_mm: Millimetres(bike.sit.y - bike.bar_top.y - setup.residual.hand_up_mm.0),
            bb_to_hood_mm: Millimetres(bike.hood.x),
            bb_to_hood_up_mm: Millimetres(bike.hood.y),
            saddle_to_hood_mm: Millimetres(saddle_to_hood),
            saddle_to_hood_by_trunk: saddle_to_hood / lengths.trunk.value_mm.0,
        }
    }

    /// The value in a convention, mm or degrees as the convention has it.
    pub fn get(&self, convention: Convention) -> f64 {
        match convention {
            Convention::SaddleHeightStraight => self.saddle_height_straight_mm.0,
            Convention::SaddleHeightSeatTube => self.saddle_height_seat_tube_mm.0,
            Convention::SaddleHeightVertical => self.saddle_height_vertical_mm.0,
            Convention::SaddleHeightFromAxle => self.saddle_height_from_axle_mm.0,
            Convention::SetbackSit => self.setback_sit_mm.0,
            Convention::SetbackNose => self.setback_nose_mm.0,
            Convention::SetbackSeatAngle => self.seat_angle_deg.0,
            Convention::DropHood => self.drop_hood_mm.0,
            Convention::DropClamp => self.drop_clamp_mm.0,
            Convention::DropBarTop => self.drop_bar_top_mm.0,
        }
    }
}

/// Contact points and everything that follows from them.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Position {
    /// Where the bike's points stand.
    pub bike: BikePoints,
    /// The lengths fitters take.
    pub dimensions: Dimensions,
    /// Trunk and arms.
    pub upper: Upper,
    /// Both legs over the stroke.
    pub legs: Sides<Leg>,
    /// What is outside the ranges of the kind of riding.
    pub marks: Vec<Mark>,
}

impl Position {
    /// Puts the rider on a setup. `None` when the saddle has no place.
    pub(crate) fn of(
        input: &ForeseeInput,
        lengths: &Lengths,
        setup: &Setup,
        seen: &Sides<PitchSeen>,
    ) -> Option<Self> {
        let bike = BikePoints::of(&input.frame, setup)?;
        let upper = seat(input, lengths, setup, &bike);
        let legs = Sides::from_fn(|side| {
            leg(&LegInput {
                side,
                hip: upper.points.hip,
                shoulder: upper.points.shoulder,
                elbow: upper.points.elbow,
                pelvis: upper.pelvis_deg,
                lengths: lengths.legs.of(side),
                pedalling: setup.pedalling.of(side),
                seen: *seen.of(side),
                response: input.rider.pitch_response_deg_per_mm,
                seat_angle: input.frame.seat_angle_deg,
            })
        });
        let mut position = Self {
            dimensions: Dimensions::of(&input.frame, setup, &bike, lengths),
            bike,
            upper,
            legs,
            marks: Vec::new(),
        };
        position.marks = marks(&position, input.kind, &input.conventions);
        Some(position)
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

    /// Whether every limb meets its contact point.
    pub fn is_reached(&self) -> bool {
        self.upper.reach.is_met() && self.legs.left.reach.is_met() && self.legs.right.reach.is_met()
    }
}

/// Capital first, full stop last.
fn sentence(words: &str) -> String {
    let mut chars = words.chars();
    chars.next().map_or_else(String::new, |first| {
        first.to_uppercase().chain(chars).chain(['.']).collect()
    })
}

fn seat(input: &ForeseeInput, lengths: &Lengths, setup: &Setup, bike: &BikePoints) -> Upper {
    upper(
        &UpperInput {
            sit: bike.sit,
            hand: bike.hood,
            hand_spacing: Some(setup.cockpit.bar_width_mm),
            elbow: input.rider.elbow_deg,
        },
        lengths,
    )
}

/// The rider's own pattern, observed at the hip-to-axle distance this setup gives.
pub(crate) fn observe(
    input: &ForeseeInput,
    lengths: &Lengths,
    setup: &Setup,
) -> Option<Sides<PitchSeen>> {
    let bike = BikePoints::of(&input.frame, setup)?;
    let hip = seat(input, lengths, setup, &bike).points.hip;
    Some(Sides::from_fn(|side| PitchSeen {
        pitch: *input.rider.pitch.of(side),
        hip_to_axle_mm: hip_to_axle(hip, setup.pedalling.of(side).crank_mm),
    }))
}
