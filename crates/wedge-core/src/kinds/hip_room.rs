//! Which seat angle keeps the room the hips have when the front goes lower: the position that is held, turned.

use super::turned::TurnedPosition;
use crate::foresee::Trying;
use crate::plane::root;
use crate::units::Degrees;
use serde::Serialize;

/// A front so low, and the seat angle that keeps the hips' room there.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoomAt {
    /// The pads' height below the saddle as a share of saddle height.
    pub drop_share: f64,
    /// The seat angle that keeps every joint as it is held.
    pub seat_angle_deg: f64,
    /// How far the position is turned for it.
    pub by_deg: f64,
    /// Whether the parts go there.
    pub reached: bool,
}

/// For each share, how far the held position is turned so that its pads stand that much lower; none where 10° do not do it.
/// `held` tells how far its parts go, whatever it is turned by.
pub fn hip_room(trying: &Trying, held: &TurnedPosition, shares: &[f64]) -> Vec<RoomAt> {
    let bike = &trying.before.bike;
    let (Some(elbow), Some(pad)) = (bike.pad_elbow, bike.pad) else {
        return Vec::new();
    };
    // The turn itself, before spacers are whole millimetres.
    let share = |by: f64| {
        let sit = bike.sit.turned(Degrees(-by));
        let pad = pad + elbow.turned(Degrees(-by)) - elbow;
        100.0 * (sit.y + (bike.saddle_top - bike.sit).y - pad.y) / sit.length()
    };
    let solved = shares.iter().filter_map(|wanted| {
        let by = root(-10.0, 10.0, |by| share(by) - wanted)?;
        Some(RoomAt {
            drop_share: *wanted,
            seat_angle_deg: held.seat_angle_before + by,
            by_deg: by,
            reached: (-held.back_deg - 0.05..=held.forward_deg + 0.05).contains(&by),
        })
    });
    solved.collect()
}
