//! A setup: the bolts and parts of one bike for one rider.

use super::Frame;
use crate::measure::{Companions, Quantity, Refusal, measured};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres, Side, Sides};
use serde::{Deserialize, Serialize};

measured! {
    /// Everything from the head tube to the hand.
    pub struct Cockpit {
        /// Headset cover above the head tube.
        cover_mm: Millimetres = Cover,
        /// Spacers below the stem.
        spacers_below_mm: Millimetres = SpacersBelow,
        /// Spacers above the stem.
        spacers_above_mm: Millimetres = SpacersAbove,
        /// The stem's clamp along the steerer.
        stem_clamp_mm: Millimetres = StemClamp,
        /// Steerer axis to bar clamp centre.
        stem_mm: Millimetres = Stem,
        /// Stem angle as mounted, down negative, from square to the steerer.
        stem_angle_deg: Degrees = StemAngle,
        /// Bar width, centre to centre at the hoods.
        bar_width_mm: Millimetres = BarWidth,
        /// Bar clamp centre forward to the bend.
        bar_reach_mm: Millimetres = BarReach,
        /// Bar top down to the drops.
        bar_drop_mm: Millimetres = BarDrop,
        /// Angle of the bar's reach to the horizontal, front up.
        bar_roll_deg: Degrees = BarRoll,
        /// Hood's hand point ahead of the bend.
        hood_forward_mm: Millimetres = HoodForward,
        /// Hood's hand point above the bend.
        hood_rise_mm: Millimetres = HoodRise,
    }
}

measured! {
    /// The saddle and where it stands. Its place is kept as taped: straight height and setback of the sit reference.
    pub struct Saddle {
        /// BB straight to the sit reference.
        saddle_height_mm: Millimetres = SaddleHeight,
        /// BB to the sit reference, horizontal, behind positive.
        setback_mm: Millimetres = Setback,
        /// Tilt of the supporting part, front up.
        tilt_deg: Degrees = Tilt,
        /// Nose to tail.
        saddle_length_mm: Millimetres = SaddleLength,
        /// Nose to the sit reference, along the saddle.
        nose_to_sit_mm: Millimetres = NoseToSit,
    }
}

measured! {
    /// Crank, pedal, shoe and cleat of one side.
    pub struct Pedalling {
        /// BB centre to pedal axle centre.
        crank_mm: Millimetres = Crank,
        /// Pedal axle behind the first metatarsal joint, along the shoe.
        cleat_setback_mm: Millimetres = CleatSetback,
        /// Axle centre to the sole.
        pedal_stack_mm: Millimetres = PedalStack,
        /// Sole under the foot at the cleat.
        sole_mm: Millimetres = Sole,
        /// Shim under the cleat.
        shim_mm: Millimetres = Shim,
    }
}

impl Saddle {
    /// The sit reference, `None` when the setback is as long as the height.
    pub fn sit(&self) -> Option<Point> {
        let (height, setback) = (self.saddle_height_mm.0, self.setback_mm.0);
        let square = height * height - setback * setback;
        (square > 0.0).then(|| Point::new(-setback, square.sqrt()))
    }

    /// Moves the sit reference.
    pub fn place(&mut self, sit: Point) {
        self.saddle_height_mm = Millimetres(sit.length());
        self.setback_mm = Millimetres(-sit.x);
    }

    /// Unit vector backwards along the rails.
    pub fn rails_back(&self) -> Point {
        Point::polar(Millimetres(-1.0), self.tilt_deg)
    }
}

impl Pedalling {
    /// Axle centre to the sole of the foot, without the foot's own ankle height.
    pub fn stack(&self) -> f64 {
        self.pedal_stack_mm.0 + self.shim_mm.0 + self.sole_mm.0
    }
}

/// What the tape found at the hand that the parts do not explain. Taped contact points win over parts, so the
/// difference is carried through every foresight.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Residual {
    /// Taped hand point ahead of the one from the parts.
    pub hand_forward_mm: Millimetres,
    /// Taped hand point above the one from the parts.
    pub hand_up_mm: Millimetres,
}

impl Residual {
    /// Above this much the fitter is asked which of the two is wrong (house choice).
    pub const QUESTIONED_MM: f64 = 5.0;

    /// The question to ask, when either part is larger than [`Self::QUESTIONED_MM`].
    pub fn question(&self) -> Option<String> {
        let worst = |value: Millimetres, more: &str, less: &str| {
            (value.0.abs() > Self::QUESTIONED_MM).then(|| {
                format!(
                    "the tape puts the hood {} mm {} than the parts do",
                    crate::measure::written(value.0.abs()),
                    if value.0 > 0.0 { more } else { less }
                )
            })
        };
        let parts: Vec<_> = [
            worst(self.hand_forward_mm, "further forward", "nearer"),
            worst(self.hand_up_mm, "higher", "lower"),
        ]
        .into_iter()
        .flatten()
        .collect();
        (!parts.is_empty()).then(|| format!("Tape and parts disagree: {}.", parts.join(", ")))
    }
}

/// The bolts and parts of one bike for one rider.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Setup {
    /// The front end.
    pub cockpit: Cockpit,
    /// The saddle.
    pub saddle: Saddle,
    /// Crank to shoe, left and right.
    pub pedalling: Sides<Pedalling>,
    /// What tape and parts disagree about.
    #[serde(default)]
    pub residual: Residual,
}

impl Setup {
    /// The value of a quantity held here; `side` chooses for what is per side, right when left out.
    pub fn get(&self, quantity: Quantity, side: Option<Side>) -> Option<f64> {
        self.cockpit
            .get(quantity)
            .or_else(|| self.saddle.get(quantity))
            .or_else(|| self.pedalling.of(side.unwrap_or(Side::Right)).get(quantity))
    }

    /// Sets a quantity held here, on one side or both; `false` if it is not held here.
    pub fn set(&mut self, quantity: Quantity, side: Option<Side>, value: f64) -> bool {
        let mut held = self.cockpit.set(quantity, value) || self.saddle.set(quantity, value);
        for each in Side::BOTH {
            if side.is_none_or(|s| s == each) {
                held |= self.pedalling.of_mut(each).set(quantity, value);
            }
        }
        held
    }

    /// Everything that is outside what is allowed, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.cockpit.refusals(&format!("{at}/cockpit"));
        all.extend(self.saddle.refusals(&format!("{at}/saddle")));
        all.extend(
            self.pedalling
                .left
                .refusals(&format!("{at}/pedalling/left")),
        );
        all.extend(
            self.pedalling
                .right
                .refusals(&format!("{at}/pedalling/right")),
        );
        if all.is_empty() && self.saddle.sit().is_none() {
            all.push(Refusal::new(
                format!("{at}/saddle/setback_mm"),
                "A setback as long as the saddle height has no saddle: check both",
            ));
        }
        all
    }

    /// What conversions of the saddle's place need.
    pub fn companions(&self, frame: &Frame) -> Companions {
        Companions {
            seat_angle: frame.seat_angle_deg,
            tilt: self.saddle.tilt_deg,
            crank: self.pedalling.right.crank_mm,
            nose_to_sit: self.saddle.nose_to_sit_mm,
        }
    }
}
