//! Going lower, or leaning back, as one piece: the whole position turned rigidly about the BB.

use super::{ForeseeInput, change};
use crate::bike::Placed;
use crate::measure::Refusal;
use crate::plane::Point;
use crate::position::{Position, Ride, Scene};
use crate::rider::Detail;
use crate::units::Degrees;
use serde::{Deserialize, Serialize};

/// A position turned about the BB, and where its contact points go.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rotation {
    /// How far forward, front down positive.
    pub by_deg: Degrees,
    /// The position before.
    pub before: Position,
    /// The rider after: every joint angle as before. Its bike's points are those of the parts as they stand.
    pub after: Position,
    /// Where the sit reference should go.
    pub sit: Point,
    /// Saddle tilt after.
    pub tilt_deg: Degrees,
    /// Where hood, grip or the pad's centre should go.
    pub hand: Point,
}

/// The most a position is turned at once (house choice).
const MOST_DEG: f64 = 20.0;

/// Turns the position the input's changes lead to by an angle, forward (front down) positive.
///
/// Every joint is turned rigidly about the BB: φ₀ grows by `(1 − share) × angle`, foot pitch mean and crank phase by
/// the angle, so that the solver itself answers the same joint angles. The shift belongs to that position, not to the
/// rider.
pub fn rotate(input: &ForeseeInput, by: Degrees) -> Result<Rotation, Vec<Refusal>> {
    let ride = input.check()?;
    if by.0.is_nan() || by.0.abs() > MOST_DEG {
        return Err(vec![Refusal::new(
            "/rotation_deg",
            format!("A position is turned by {MOST_DEG}° at the most"),
        )]);
    }
    let setup = change::apply(&ride, &input.changes)?;
    Ok(rotate_ride(&ride, &setup, by))
}

/// The same on a setup of a ride that is checked already. On pads the elbow is turned, and the pads go with it: turning
/// their centre instead would cost a tenth of a degree at the shoulder for each degree.
pub(crate) fn rotate_ride(ride: &Ride, setup: &Placed, by: Degrees) -> Rotation {
    let turned = |rotation| {
        let scene = Scene {
            rotation,
            ..ride.scene(Detail::Fine)
        };
        Position::of(&scene, setup)
    };
    let before = turned(Degrees(0.0));
    let bike = &before.bike;
    Rotation {
        by_deg: by,
        sit: bike.sit.turned(-by),
        tilt_deg: setup.saddle.tilt_deg - by,
        hand: match bike.pad_elbow {
            Some(elbow) => bike.hand + elbow.turned(-by) - elbow,
            None => bike.hand.turned(-by),
        },
        after: turned(by),
        before,
    }
}
