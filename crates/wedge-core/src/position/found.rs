//! Bike as found: from readings to a setup.

use super::fitted;
use crate::bike::{BikePoints, Frame, Placed, Setup};
use crate::measure::{Convention, Conventions, Quantity, Reading, Refusal, latest, sit_reference};
use crate::plane::Point;
use crate::rider::Lengths;
use crate::rule::rules;

/// Settles a bike's readings on its parts: the latest of each quantity and side wins, taped contact points win over
/// parts, and what the parts do not explain at the hand becomes the residual.
///
/// `parts` are the frame and the parts as known so far; readings are in the order they were taken.
pub fn settle(
    (frame, parts): (&Frame, &Setup),
    readings: &[Reading],
) -> Result<Setup, Vec<Refusal>> {
    let mut refusals = Vec::new();
    for (index, reading) in readings.iter().enumerate() {
        refusals.extend(reading.refusals(&format!("/readings/{index}")));
    }
    if !refusals.is_empty() {
        return Err(refusals);
    }
    let mut setup = *parts;
    let house = fitted(&Conventions::default(), &setup);
    let latest = |quantity| latest(readings, quantity);
    let chosen = |reading: &Reading| reading.convention.or(house.of(reading.quantity));
    for reading in readings {
        if matches!(reading.quantity, Quantity::SaddleHeight | Quantity::Setback) {
            continue;
        }
        let value = chosen(reading)
            .and_then(|convention| setup.bar.roll_from(convention, reading.value))
            .unwrap_or(reading.value);
        setup.set(reading.quantity, reading.side, value);
    }
    place_saddle(frame, &mut setup, latest, chosen)?;
    for reading in readings {
        place_hand(frame, &mut setup, reading, chosen(reading))?;
    }
    let refusals = setup.refusals("/setup");
    if refusals.is_empty() {
        Ok(setup)
    } else {
        Err(refusals)
    }
}

/// Puts the saddle where its latest height and setback say.
fn place_saddle<'a>(
    frame: &Frame,
    setup: &mut Setup,
    latest: impl Fn(Quantity) -> Option<&'a Reading>,
    chosen: impl Fn(&Reading) -> Option<Convention>,
) -> Result<(), Vec<Refusal>> {
    let (height, setback) = (latest(Quantity::SaddleHeight), latest(Quantity::Setback));
    if height.is_none() && setback.is_none() {
        return Ok(());
    }
    let Some(stands) = setup.saddle.sit() else {
        return Err(vec![Placed::refusal("/setup")]);
    };
    let with = |reading: Option<&Reading>| {
        let reference = reading.and_then(|r| r.sit_reference).unwrap_or_default();
        setup.companions(frame, reference)
    };
    let (height_with, setback_with) = (with(height), with(setback));
    let read = |reading: Option<&Reading>| reading.and_then(|r| Some((chosen(r)?, r.value)));
    // What was not taped stays as it stands.
    let sit = read(height)
        .or(Some((Convention::SaddleHeightStraight, stands.length())))
        .zip(read(setback).or(Some((Convention::SetbackSit, -stands.x))))
        .and_then(|(height, setback)| {
            sit_reference(
                (height.0, height.1, &height_with),
                (setback.0, setback.1, &setback_with),
            )
        })
        .ok_or_else(|| {
            vec![Refusal::new(
                "/value",
                "No place of the saddle has this height with this setback: check both",
            )]
        })?;
    setup.saddle.place(sit);
    Ok(())
}

/// Moves the bar to where a reading of the front end says; what the parts do not explain becomes the residual.
fn place_hand(
    frame: &Frame,
    setup: &mut Setup,
    reading: &Reading,
    convention: Option<Convention>,
) -> Result<(), Vec<Refusal>> {
    let Some(convention) = convention else {
        return Ok(());
    };
    let Some(placed) = Placed::of(*setup) else {
        return Err(vec![Placed::refusal("/setup")]);
    };
    let bike = BikePoints::of(frame, &placed);
    let reference = setup
        .companions(frame, reading.sit_reference.unwrap_or_default())
        .reference_point(bike.sit);
    let wrong = |words: &str| vec![Refusal::new("/value", words)];
    let by = if convention == Convention::DropShare {
        let drop = reading.value / 100.0 * bike.sit.length();
        Point::new(0.0, bike.saddle_top.y - drop - bike.hand.y)
    } else if let Some(line) = convention.hand_line() {
        if bike.spot(line.to).is_none() {
            return Err(vec![Refusal::new(
                "/convention",
                format!("This bar has no such point: {}", convention.words()),
            )]);
        }
        bike.bar_move(line, reference, reading.value)
            .ok_or_else(|| wrong("A straight line cannot be shorter than its rise: check both"))?
    } else {
        return Ok(());
    };
    setup.residual.hand_forward_mm.0 += by.x;
    setup.residual.hand_up_mm.0 += by.y;
    match setup.residual.refusals("").first() {
        Some(refusal) => Err(wrong(&refusal.detail)),
        None => Ok(()),
    }
}

rules! {
    rules "Saddle height";
    /// BB to saddle top along the seat tube, as a multiple of the barefoot inseam.
    pub(crate) const INSEAM_MULTIPLE: f64 = 0.883, " × inseam", Workshop;
}

/// Where a saddle is drawn until it is measured: [`INSEAM_MULTIPLE`] along the seat tube. A place to start drawing from,
/// never a reading.
pub fn unmeasured_saddle(frame: &Frame, lengths: &Lengths) -> Point {
    frame.post_axis() * (INSEAM_MULTIPLE * lengths.inseam.value_mm.0)
}
