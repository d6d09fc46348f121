//! Bike as found: from readings to a setup.

use super::ForeseeInput;
use crate::bike::{BikePoints, Frame, Residual, Setup};
use crate::measure::{Conventions, Quantity, Reading, Refusal, sit_reference};
use crate::plane::Point;
use crate::rider::Lengths;
use crate::units::Millimetres;

/// Settles a bike's readings on its parts: the latest of each quantity and side wins, taped contact points win over
/// parts, and what the parts do not explain at the hand becomes the residual.
///
/// `input` gives the frame and the parts as known so far; readings are in the order they were taken.
pub fn settle(input: &ForeseeInput, readings: &[Reading]) -> Result<Setup, Vec<Refusal>> {
    let mut refusals = Vec::new();
    for (index, reading) in readings.iter().enumerate() {
        refusals.extend(reading.refusals(&format!("/readings/{index}")));
    }
    if !refusals.is_empty() {
        return Err(refusals);
    }
    let house = Conventions::default();
    let mut setup = input.setup;
    let latest = |quantity| {
        readings
            .iter()
            .rev()
            .find(|r| r.quantity == quantity)
            .and_then(|r| Some((r.convention.or(house.of(quantity))?, r.value)))
    };
    for reading in readings {
        if !matches!(reading.quantity, Quantity::SaddleHeight | Quantity::Setback) {
            setup.set(reading.quantity, reading.side, reading.value);
        }
    }

    let with = setup.companions(&input.frame);
    let height = latest(Quantity::SaddleHeight)
        .unwrap_or((house.saddle_height, setup.saddle.saddle_height_mm.0));
    let setback = latest(Quantity::Setback).unwrap_or((house.setback, setup.saddle.setback_mm.0));
    let sit = sit_reference(height, setback, &with).ok_or_else(|| {
        vec![Refusal::new(
            "/value",
            "No place of the saddle has this height with this setback: check both",
        )]
    })?;
    setup.saddle.place(sit);

    // Where the parts alone put the hand.
    let parts = Setup {
        residual: Residual::default(),
        ..setup
    };
    if let Some(bike) = BikePoints::of(&input.frame, &parts) {
        if let Some((convention, drop)) = latest(Quantity::Drop) {
            use crate::measure::Convention as C;
            let part = match convention {
                C::DropClamp => bike.bar_clamp,
                C::DropBarTop => bike.bar_top,
                _ => bike.hood,
            };
            setup.residual.hand_up_mm = Millimetres(sit.y - drop - part.y);
        }
        let forward = readings
            .iter()
            .rev()
            .find(|r| r.quantity == Quantity::BbToHood);
        if let Some(reading) = forward {
            setup.residual.hand_forward_mm = Millimetres(reading.value - bike.hood.x);
        }
    }
    let refusals = setup.refusals("/setup");
    if refusals.is_empty() {
        Ok(setup)
    } else {
        Err(refusals)
    }
}

/// Where a saddle is drawn until it is measured: .883 × inseam along the seat tube (inseam multiple, workshop rule).
/// A place to start drawing from, never a reading.
pub fn unmeasured_saddle(frame: &Frame, lengths: &Lengths) -> Point {
    frame.post_axis() * (0.883 * lengths.inseam.value_mm.0)
}
