//! A rider as far as the linkage needs one: the body as measured, and how it pedals, sits and holds the bar.

use super::{ArmBody, Body, FootPitch, LegBody, Lengths, Pelvis};
use crate::measure::{Reading, Refusal, within};
use crate::rule::rules;
use crate::units::{Degrees, Millimetres, Side, Sides};
use serde::{Deserialize, Serialize};

rules! {
    rules "Rider";
    /// Mean foot pitch answers a longer or shorter way to the pedal, until that is seen.
    const PITCH_RESPONSE: f64 = 0.15, "° per mm", House;
    /// Elbow flexion at rest, until it is seen.
    const ELBOW_DEG: f64 = 20.0, "°", House;
}

/// A rider as far as the linkage needs one.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = MeasuredRider))]
#[serde(deny_unknown_fields)]
pub struct Rider {
    /// What was measured of the body.
    pub body: Body,
    /// What was measured of each leg.
    #[serde(default)]
    pub legs: Sides<LegBody>,
    /// What was measured of each arm.
    #[serde(default, skip_serializing_if = "Rider::knows_no_arm")]
    pub arms: Sides<ArmBody>,
    /// Foot pitch over the stroke, per side; the house's until seen.
    #[serde(default)]
    pub pitch: Sides<FootPitch>,
    /// Mean pitch answers the leg's job with so many degrees a mm of hip-to-axle distance (house: .15 ± .1).
    #[serde(default = "pitch_response")]
    pub pitch_response_deg_per_mm: f64,
    /// Elbow flexion the rider rests at (house: 20°).
    #[serde(default = "elbow")]
    pub elbow_deg: Degrees,
    /// How the pelvis sits and leans.
    #[serde(default)]
    pub pelvis: Pelvis,
}

fn pitch_response() -> f64 {
    PITCH_RESPONSE
}

fn elbow() -> Degrees {
    Degrees(ELBOW_DEG)
}

impl Rider {
    /// A rider of whom only the body is known.
    pub fn new(body: Body, legs: Sides<LegBody>) -> Self {
        Self {
            body,
            legs,
            arms: Sides::default(),
            pitch: Sides::default(),
            pitch_response_deg_per_mm: pitch_response(),
            elbow_deg: elbow(),
            pelvis: Pelvis::default(),
        }
    }

    /// Every length the linkage uses, measured or estimated.
    pub fn lengths(&self) -> Lengths {
        Lengths::of(&self.body, &self.legs, &self.arms)
    }

    fn knows_no_arm(arms: &Sides<ArmBody>) -> bool {
        *arms == Sides::default()
    }

    /// A rider from readings in the order they were taken: the latest of each quantity and side wins. `None` until
    /// stature is known.
    pub fn from_readings<'a>(readings: impl IntoIterator<Item = &'a Reading>) -> Option<Self> {
        let mut body = Body::new(Millimetres(f64::NAN));
        let mut legs = Sides::<LegBody>::default();
        let mut arms = Sides::<ArmBody>::default();
        for reading in readings {
            if !reading.quantity.spec().per_side {
                body.set(reading.quantity, reading.value);
            }
            for side in Side::BOTH {
                if reading.side.is_none_or(|s| s == side) {
                    legs.of_mut(side).set(reading.quantity, reading.value);
                    arms.of_mut(side).set(reading.quantity, reading.value);
                }
            }
        }
        body.stature_mm.0.is_finite().then(|| Self {
            arms,
            ..Self::new(body, legs)
        })
    }

    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.body.refusals(&format!("{at}/body"));
        all.extend(self.body.proportion_refusal(&format!("{at}/body")));
        for side in Side::BOTH {
            let of = |what: &str| format!("{at}/{what}/{}", side.word());
            all.extend(self.legs.of(side).refusals(&of("legs")));
            all.extend(self.arms.of(side).refusals(&of("arms")));
        }
        all.extend(within(
            format!("{at}/elbow_deg"),
            self.elbow_deg.0,
            5.0,
            120.0,
            "Elbow flexion at rest, in degrees,",
        ));
        all.extend(within(
            format!("{at}/pitch_response_deg_per_mm"),
            self.pitch_response_deg_per_mm,
            0.0,
            0.4,
            "The pitch response, in degrees a mm,",
        ));
        all.extend(self.pelvis.refusals(&format!("{at}/pelvis")));
        for side in Side::BOTH {
            let at = format!("{at}/pitch/{}", side.word());
            all.extend(self.pitch.of(side).refusals(&at));
        }
        all
    }
}
