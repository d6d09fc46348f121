//! The frame, its fork and wheels.

use crate::measure::measured;
use crate::plane::Point;
use crate::units::{Degrees, Kilograms, Millimetres};
use serde::{Deserialize, Serialize};

/// The kind of riding a bike is for; ranges belong to one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Kind {
    /// Road endurance.
    #[default]
    Road,
    /// Road race and hill climb.
    Race,
    /// Gravel and long unpaved rides.
    Gravel,
    /// Town riding, upright.
    City,
    /// Off-road trails.
    OffRoad,
    /// Downhill and jumps: stood more than sat.
    Gravity,
    /// Time trial, on pads.
    TimeTrial,
}

impl Kind {
    /// Every kind.
    pub const ALL: [Self; 7] = [
        Self::Road,
        Self::Race,
        Self::Gravel,
        Self::City,
        Self::OffRoad,
        Self::Gravity,
        Self::TimeTrial,
    ];

    /// The fitter's word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Road => "Road",
            Self::Race => "Road race, hill climb",
            Self::Gravel => "Gravel",
            Self::City => "City",
            Self::OffRoad => "Off-road",
            Self::Gravity => "Gravity",
            Self::TimeTrial => "Time trial",
        }
    }
}

measured! {
    /// A frame with fork and wheels.
    pub struct Frame {
        /// BB to the top centre of the head tube, horizontal.
        frame_reach_mm: Millimetres = FrameReach,
        /// BB to the top centre of the head tube, vertical.
        frame_stack_mm: Millimetres = FrameStack,
        /// Head angle from horizontal.
        head_angle_deg: Degrees = HeadAngle,
        /// Head tube length.
        head_tube_mm: Millimetres = HeadTube,
        /// The post's own axis from horizontal.
        seat_angle_deg: Degrees = SeatAngle,
        /// BB centre to the seat post clamp along the tube.
        seat_tube_mm: Millimetres = SeatTube,
        /// BB to rear axle, straight.
        chainstay_mm: Millimetres = Chainstay,
        /// BB below the line of the axles.
        bb_drop_mm: Millimetres = BbDrop,
        /// BB to front axle, straight.
        front_centre_mm: Millimetres = FrontCentre,
        /// Axle to ground, tyre on.
        wheel_radius_mm: Millimetres = WheelRadius,
        /// Lower headset stack, between the crown and the head tube.
        lower_stack_mm: Millimetres = LowerStack,
        /// Steerer from the crown to its cut end, when known.
        steerer_mm: Option<Millimetres> = Steerer,
        /// Width of the tyre's section, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        tyre_mm: Option<Millimetres> = Tyre,
        /// How far the BB sinks under the rider, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        sag_mm: Option<Millimetres> = Sag,
        /// Ground to the top tube where the rider stands over it, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        standover_mm: Option<Millimetres> = Standover,
        /// The whole bike's mass, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        bike_mass_kg: Option<Kilograms> = BikeMass,
    }
}

impl Frame {
    /// Top centre of the head tube.
    pub fn head_top(&self) -> Point {
        Point::new(self.frame_reach_mm.0, self.frame_stack_mm.0)
    }

    /// Unit vector up and back along the steerer: `(−cos θ, sin θ)`.
    pub fn steerer_axis(&self) -> Point {
        let (sin, cos) = self.head_angle_deg.sin_cos();
        Point::new(-cos, sin)
    }

    /// Unit vector up and back along the seat post.
    pub fn post_axis(&self) -> Point {
        let (sin, cos) = self.seat_angle_deg.sin_cos();
        Point::new(-cos, sin)
    }

    /// Unit vector back from the seat post, square to it: a post's setback is measured along it.
    pub fn post_back(&self) -> Point {
        self.post_axis().turned(Degrees(90.0))
    }

    /// Rear axle: `x = −sqrt(chainstay² − drop²)`.
    pub fn rear_axle(&self) -> Point {
        let drop = self.bb_drop_mm.0;
        Point::new(
            -(self.chainstay_mm.0.powi(2) - drop * drop).max(0.0).sqrt(),
            drop,
        )
    }

    /// Front axle: `x = sqrt(front centre² − drop²)`.
    pub fn front_axle(&self) -> Point {
        let drop = self.bb_drop_mm.0;
        Point::new(
            (self.front_centre_mm.0.powi(2) - drop * drop)
                .max(0.0)
                .sqrt(),
            drop,
        )
    }
}
