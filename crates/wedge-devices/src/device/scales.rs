//! Scales: what each wheel carries.

use super::{DeviceKind, Mishap, Seat, Taken, beyond_reach};
use crate::body::At;
use crate::hidden::Moving;
use serde::Serialize;
use wedge_core::capture::BodyPoint;
use wedge_core::units::Side;
use wedge_core::words::written;

/// One under each wheel. Real ones show a mass in kg, to 0.1, once it stands still, and have no clock; they stand level and as
/// high as one another, or they read wrong.
pub trait Scales {
    /// Weighs rider and bike.
    fn weigh(&mut self) -> Taken<Wheels>;
}

/// What the wheels carry, kg; one that did not answer has none.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wheels {
    /// The front one.
    pub front_kg: Option<f64>,
    /// The rear one.
    pub rear_kg: Option<f64>,
}

impl Wheels {
    /// What the front carries of both, %.
    pub fn front_percent(self) -> Option<f64> {
        let (front, rear) = (self.front_kg?, self.rear_kg?);
        (front + rear > 0.0).then(|| 100.0 * front / (front + rear))
    }
}

/// How far a reading is off, one standard deviation, kg.
const NOISE_KG: f64 = 0.3;
/// What one scale carries at the most, kg.
const MOST_KG: f64 = 150.0;
/// Shares of a body's mass, and how far along a segment its middle is: after W. T. Dempster, *Space Requirements of the Seated
/// Operator*, 1955, arms and legs of both sides; the head with the neck over the shoulder.
const TRUNK: (f64, f64) = (0.497, 0.5);
const HEAD: f64 = 0.081;
const UPPER_ARMS: (f64, f64) = (0.056, 0.436);
const FOREARMS: (f64, f64) = (0.044, 0.55);
const THIGHS: (f64, f64) = (0.2, 0.433);
const SHANKS: (f64, f64) = (0.093, 0.433);
const FEET: (f64, f64) = (0.029, 0.5);
/// How far riders' middles are from where such shares have it, one standard deviation, mm: nobody is made of tables.
const MADE_MM: f64 = 25.0;
/// A bike's middle ahead of the BB, mm.
const BIKE_AHEAD_MM: f64 = 90.0;

/// Scales under a rider who is not there.
#[derive(Debug)]
pub struct SimulatedScales<'a> {
    seat: Seat<'a>,
    fault: Option<Mishap>,
}

impl<'a> SimulatedScales<'a> {
    /// Scales under a rider.
    pub fn under(seat: Seat<'a>, fault: Option<Mishap>) -> Self {
        Self { seat, fault }
    }

    /// What the wheels carry in truth, kg: front, rear.
    fn carried(&self) -> Option<(f64, f64)> {
        let moving = self.seat.moving()?;
        let (rider, bike) = self.seat.mass_kg;
        let ahead = middle_of(&moving)? + self.seat.rider.placed_by(1 << 40).normal(MADE_MM);
        let (rear, front) = (self.seat.bike.rear_axle.x, self.seat.bike.front_axle.x);
        let turning = rider * (ahead - rear) + bike * (BIKE_AHEAD_MM - rear);
        let on_front = turning / (front - rear);
        Some((on_front, rider + bike - on_front))
    }
}

/// How far ahead of the BB a body's middle is, mm: the mean of a stroke.
fn middle_of(moving: &Moving) -> Option<f64> {
    const PLACES: u32 = 24;
    let p = moving.pedalling();
    let along =
        |from: At, to: At, (mass, share): (f64, f64)| mass * (from.0 + share * (to.0 - from.0));
    let hip = |side: Side, crank: f64| moving.at(BodyPoint::Hip, side, crank, 0.0);
    let mut legs = 0.0;
    let mut hips = 0.0;
    for place in 0..PLACES {
        let crank = 360.0 / f64::from(PLACES) * f64::from(place);
        for side in Side::BOTH {
            let at = |part: BodyPoint| {
                let [x, y, _] = moving.at(part, side, crank, 0.0)?;
                Some((x, y))
            };
            let [hx, hy, _] = hip(side, crank)?;
            let (knee, ankle, toe) = (
                at(BodyPoint::Knee)?,
                at(BodyPoint::Ankle)?,
                at(BodyPoint::Toe)?,
            );
            hips += hx;
            legs += along((hx, hy), knee, THIGHS)
                + along(knee, ankle, SHANKS)
                + along(ankle, toe, FEET);
        }
    }
    let n = 2.0 * f64::from(PLACES);
    let (hip, shoulder) = ((hips / n, 0.0), p.shoulder());
    // The head hangs ahead of the shoulder by a fifth of the trunk.
    let head = shoulder.0 + 0.2 * p.body().trunk;
    Some(
        along(hip, shoulder, TRUNK)
            + HEAD * head
            + along(shoulder, p.elbow(), UPPER_ARMS)
            + along(p.elbow(), p.hand(), FOREARMS)
            + legs / n,
    )
}

impl Scales for SimulatedScales<'_> {
    fn weigh(&mut self) -> Taken<Wheels> {
        let Some((front, rear)) = self.carried() else {
            return beyond_reach();
        };
        let mut dice = self.seat.dice(DeviceKind::Scales);
        let noise = NOISE_KG * self.seat.rider.noise();
        let mut read = |carried: f64| Some((10.0 * (carried + dice.normal(noise))).round() / 10.0);
        let wheels = Wheels {
            front_kg: read(front),
            rear_kg: read(rear),
        };
        if front.max(rear) > MOST_KG || self.fault == Some(Mishap::OutOfRange) {
            let words = format!(
                "A scale carries up to {} kg: nothing was read.",
                written(MOST_KG)
            );
            return Taken::troubled(None, Mishap::OutOfRange, words);
        }
        match self.fault {
            None | Some(Mishap::OutOfRange) => Taken::whole(wheels),
            Some(fault @ Mishap::Silent) => Taken::troubled(
                None,
                fault,
                "The scales show nothing: nothing was read. Tap them awake.",
            ),
            Some(fault @ Mishap::Unplugged) => Taken::troubled(
                Some(Wheels {
                    rear_kg: None,
                    ..wheels
                }),
                fault,
                "The rear scale went out: only the front was read. One alone tells no share; weigh anew.",
            ),
            Some(fault @ Mishap::Late) => Taken::troubled(
                Some(wheels),
                fault,
                "The rear scale answered 4 s after the front one: did the rider sit still? Keep it, or weigh anew.",
            ),
        }
    }
}
