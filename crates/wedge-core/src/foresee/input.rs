//! What foresight is asked with: self-contained, so that the same input always gives the same answer.

use super::{Change, Fit};
use crate::bike::{Frame, HandPlace, Kind, Setup};
use crate::judge::{OwnRange, Range, ranges_with};
use crate::measure::{Conventions, Quantity, Reading, Refusal, within};
use crate::rider::{ArmBody, Body, FootPitch, LegBody, Lengths, Pelvis, PitchSeen};
use crate::units::{Degrees, Millimetres, Side, Sides};
use serde::{Deserialize, Serialize};

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
    Rider::PITCH_RESPONSE
}

fn elbow() -> Degrees {
    Rider::ELBOW
}

impl Rider {
    /// How mean pitch answers the leg's job until it is seen, degrees a mm (house choice).
    pub const PITCH_RESPONSE: f64 = 0.15;
    /// Elbow flexion at rest until it is seen (house choice).
    pub const ELBOW: Degrees = Degrees(20.0);

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
}

impl Rider {
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
}

/// Power and cadence held during a test.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Effort {
    /// Power.
    pub power_w: f64,
    /// Cadence.
    pub cadence_rpm: f64,
}

impl Effort {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            (Quantity::Power, self.power_w),
            (Quantity::Cadence, self.cadence_rpm),
        ]
        .into_iter()
        .filter_map(|(quantity, value)| quantity.refuse(value, &format!("{at}/{}", quantity.key())))
        .collect()
    }
}

/// What was seen of the rider on the bike.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Observations {
    /// Foot pitch with the hip-to-axle distance it was seen at; as the setup stands when left out.
    #[serde(default)]
    pub pitch: Option<Sides<PitchSeen>>,
}

/// What foresight is asked with.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ForeseeInput {
    /// The rider.
    pub rider: Rider,
    /// The kind of riding, whose ranges mark the outputs.
    #[serde(default)]
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// The setup before the changes.
    pub setup: Setup,
    /// Where the hands are; the bar's main place when left out.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// A grade to feel the setback on, uphill positive, in hundredths.
    #[serde(default)]
    pub grade_percent: f64,
    /// The effort of the test.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What was seen.
    #[serde(default)]
    pub observed: Observations,
    /// What calibration fitted to what was seen; the rider as measured and estimated when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fit: Option<Fit>,
    /// The conventions the answers are given in.
    #[serde(default)]
    pub conventions: Conventions,
    /// The studio's own ranges for this kind of riding, in the place of the house's.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub ranges: Vec<OwnRange>,
    /// What to change.
    #[serde(default)]
    pub changes: Vec<Change>,
}

impl ForeseeInput {
    /// A rider on a setup: the house's conventions, nothing observed, no changes.
    pub fn new(rider: Rider, kind: Kind, frame: Frame, setup: Setup) -> Self {
        Self {
            rider,
            kind,
            frame,
            setup,
            hands: None,
            grade_percent: 0.0,
            effort: None,
            observed: Observations::default(),
            fit: None,
            conventions: Conventions::default(),
            ranges: Vec::new(),
            changes: Vec::new(),
        }
    }

    /// The ranges that mark the outputs.
    pub fn ranges(&self) -> Vec<Range> {
        ranges_with(self.kind, &self.ranges)
    }

    /// Where the hands are: the place asked for where the bar has it, else its main one.
    pub fn hand_place(&self, setup: &Setup) -> HandPlace {
        let places = setup.bar.places();
        self.hands
            .filter(|place| places.contains(place))
            .unwrap_or(places[0])
    }

    /// Everything that cannot be accepted, each with its JSON pointer.
    pub fn check(&self) -> Result<(), Vec<Refusal>> {
        let mut all = self.rider.body.refusals("/rider/body");
        all.extend(self.rider.body.proportion_refusal("/rider/body"));
        all.extend(self.rider.legs.left.refusals("/rider/legs/left"));
        all.extend(self.rider.legs.right.refusals("/rider/legs/right"));
        all.extend(self.rider.arms.left.refusals("/rider/arms/left"));
        all.extend(self.rider.arms.right.refusals("/rider/arms/right"));
        all.extend(self.rider_refusals());
        all.extend(self.frame.refusals("/frame"));
        all.extend(self.setup.refusals("/setup"));
        if let Some(effort) = &self.effort {
            all.extend(effort.refusals("/effort"));
        }
        all.extend(
            self.hands
                .and_then(|place| self.setup.bar.refuse_place(place, "/hands")),
        );
        if !(-40.0..=40.0).contains(&self.grade_percent) {
            all.push(Refusal::new("/grade_percent", "A grade is −40 to 40 %"));
        }
        all.extend(self.conventions.refusals("/conventions"));
        all.extend(self.fit.iter().flat_map(|fit| fit.refusals("/fit")));
        for (index, range) in self.ranges.iter().enumerate() {
            all.extend(range.refusals(&format!("/ranges/{index}")));
        }
        for (index, change) in self.changes.iter().enumerate() {
            let twice = self.changes[..index]
                .iter()
                .any(|c| c.quantity == change.quantity && (c.side == change.side));
            all.extend(change.refusals(&format!("/changes/{index}"), twice));
        }
        if all.is_empty() { Ok(()) } else { Err(all) }
    }

    fn rider_refusals(&self) -> Vec<Refusal> {
        let mut all = Vec::new();
        all.extend(within(
            "/rider/elbow_deg",
            self.rider.elbow_deg.0,
            5.0,
            120.0,
            "Elbow flexion at rest, in degrees,",
        ));
        all.extend(within(
            "/rider/pitch_response_deg_per_mm",
            self.rider.pitch_response_deg_per_mm,
            0.0,
            0.4,
            "The pitch response, in degrees a mm,",
        ));
        all.extend(self.rider.pelvis.refusals("/rider/pelvis"));
        let seen = self.observed.pitch.map(|p| {
            [
                ("/observed/pitch/left", p.left),
                ("/observed/pitch/right", p.right),
            ]
        });
        for (at, seen) in seen.into_iter().flatten() {
            all.extend(within(
                format!("{at}/hip_to_axle_mm"),
                seen.hip_to_axle_mm.0,
                300.0,
                1400.0,
                "The hip-to-axle distance, in mm,",
            ));
            all.extend(pitch_refusals(&format!("{at}/pitch"), &seen.pitch));
        }
        all.extend(pitch_refusals("/rider/pitch/left", &self.rider.pitch.left));
        all.extend(pitch_refusals(
            "/rider/pitch/right",
            &self.rider.pitch.right,
        ));
        all
    }
}

/// What is wrong with a foot pitch pattern.
fn pitch_refusals(at: &str, pitch: &FootPitch) -> Vec<Refusal> {
    [
        ("mean_deg", pitch.mean_deg, -30.0, 40.0, "Mean foot pitch"),
        ("amp_deg", pitch.amp_deg, 0.0, 40.0, "Swing of the foot"),
        (
            "peak_deg",
            pitch.peak_deg,
            -360.0,
            720.0,
            "Peak of the foot pitch",
        ),
    ]
    .into_iter()
    .filter(|(_, value, low, high, _)| !(*low..=*high).contains(&value.0))
    .map(|(key, _, low, high, what)| {
        Refusal::new(format!("{at}/{key}"), format!("{what} is {low} to {high}°"))
    })
    .collect()
}
