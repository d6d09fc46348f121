//! A room with a rider who is not there: sat on any setup of his bike, for the devices and for whoever asks him.

use crate::device::Seat;
use crate::hidden::{Asked, HiddenRider};
use wedge_core::bike::{BikePoints, Placed, Setup};
use wedge_core::foresee::{ForeseeInput, Trying};
use wedge_core::intake::Complaint;
use wedge_core::judge::{Axis, Linkage};
use wedge_core::looking::Sign;
use wedge_core::measure::Refusal;
use wedge_core::plane::Point;
use wedge_core::position::{Observations, Ride};
use wedge_core::rider::Effort;
use wedge_core::units::Side;

/// A rider and his bike.
#[derive(Debug)]
pub struct Room {
    hidden: HiddenRider,
    known: ForeseeInput,
    ride: Ride,
    linkage: Linkage,
    mass_kg: (f64, f64),
}

/// What nobody weighed, kg: rider, bike.
const MASS_KG: (f64, f64) = (74.0, 9.0);

impl Room {
    /// The rider behind what was measured of him on his bike as found.
    ///
    /// # Errors
    ///
    /// What was measured makes no rider on a bike, or nobody with such a body can sit on it.
    pub fn behind(seed: u64, found: &ForeseeInput) -> Result<Self, Vec<Refusal>> {
        Self::of(HiddenRider::seated(seed, found)?, found)
    }

    /// A rider who is known to somebody, on his bike as found.
    ///
    /// # Errors
    ///
    /// What was measured makes no rider on a bike.
    pub fn of(hidden: HiddenRider, found: &ForeseeInput) -> Result<Self, Vec<Refusal>> {
        let ride = found.check()?;
        let linkage = Linkage::of(&Trying::of(&ride));
        let body = found.rider.body.mass_kg.map_or(MASS_KG.0, |kg| kg.0);
        let bike = found.frame.bike_mass_kg.map_or(MASS_KG.1, |kg| kg.0);
        Ok(Self {
            hidden,
            linkage,
            mass_kg: (body, bike),
            known: ForeseeInput {
                observed: Observations {
                    pitch: Some(ride.observe_pitch()),
                },
                ..found.clone()
            },
            ride,
        })
    }

    /// Who.
    pub fn rider(&self) -> &HiddenRider {
        &self.hidden
    }

    /// What was measured of him, on the bike as found.
    pub fn known(&self) -> &ForeseeInput {
        &self.known
    }

    /// Where a setup stands on every axis, with the bike's points; `None` of one whose saddle has no place.
    pub fn places(&self, setup: &Setup) -> Option<(Vec<f64>, BikePoints)> {
        let ride = self.ride.on(Placed::of(*setup)?);
        let trying = Trying::of(&ride);
        Some((self.linkage.stands(&trying), trying.before.bike))
    }

    /// The rider sat on a setup, in front of the devices.
    pub fn seat(&self, setup: &Setup, effort: Effort, asked: Asked) -> Option<Seat<'_>> {
        let (places, bike) = self.places(setup)?;
        Some(Seat {
            rider: &self.hidden,
            bike,
            setup: *setup,
            places,
            effort,
            mass_kg: self.mass_kg,
            asked,
        })
    }

    /// Where it hurts in a place, and the signs that somebody who looks at him there sees, with their sides.
    pub fn tells(
        &self,
        places: &[f64],
        asked: Asked,
    ) -> (Vec<Complaint>, Vec<(Sign, Option<Side>)>) {
        let mut signs = Vec::new();
        for sign in Sign::ALL {
            for &side in Side::each(sign.per_side()) {
                if self.hidden.shows(places, *sign, side, asked) {
                    signs.push((*sign, side));
                }
            }
        }
        (self.hidden.aches(places, asked), signs)
    }

    /// How far each window is from where a setup stands, in half-widths beyond it; 0 inside.
    pub(crate) fn beyond(&self, places: &[f64]) -> Vec<f64> {
        (Axis::ALL.iter())
            .map(|axis| {
                let window = self.hidden.window(*axis);
                window.beyond(places[*axis as usize]) / window.half
            })
            .collect()
    }

    /// How two axes answer to a millimetre of the sit reference, or of the hands, forward and up: `[axis][forward, up]`. The
    /// hands are where they are when the saddle moves, and the saddle when the hands do.
    pub(crate) fn answers(
        &self,
        setup: &Setup,
        axes: [Axis; 2],
        of_sit: bool,
    ) -> Option<[[f64; 2]; 2]> {
        const BY_MM: f64 = 4.0;
        let (here, _) = self.places(setup)?;
        let moved = |x: f64, y: f64| -> Option<Vec<f64>> {
            let mut input = self.known.clone();
            input.setup = *setup;
            if of_sit {
                input
                    .setup
                    .saddle
                    .place(self.places(setup)?.1.sit + Point::new(x, y));
            } else {
                input.frame.frame_reach_mm.0 += x;
                input.frame.frame_stack_mm.0 += y;
            }
            let ride = input.check().ok()?;
            Some(self.linkage.stands(&Trying::of(&ride)))
        };
        let (forward, up) = (moved(BY_MM, 0.0)?, moved(0.0, BY_MM)?);
        let by = |axis: Axis| {
            let at = axis as usize;
            [
                (forward[at] - here[at]) / BY_MM,
                (up[at] - here[at]) / BY_MM,
            ]
        };
        Some(axes.map(by))
    }
}
