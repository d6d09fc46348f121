//! Bands: how far each output, and each change of one, may be off.
//!
//! First order: every length, reading and habit that is not exactly known is moved by one standard deviation either
//! way on its own, and what that does to an output is added in squares (the doubts are taken as independent). Before
//! and after are moved together, so a change has its own, smaller band: most doubts are the same on both sides of it.

use super::Model;
use super::input::{ForeseeInput, Rider};
use super::position::{Position, Scene, Seated};
use crate::bike::Setup;
use crate::judge::Output;
use crate::measure::Quantity;
use crate::plane::Point;
use crate::rider::{Detail, Lengths, PitchSeen};
use crate::units::{Degrees, Millimetres, Side, Sides};

/// Standard deviations of a rider's habits until they are seen (house choices, the calibration's priors).
mod spread {
    pub(super) const HIP_FORWARD_MM: f64 = 20.0;
    pub(super) const PELVIS_SHARE: f64 = 0.15;
    pub(super) const ELBOW_DEG: f64 = 5.0;
    pub(super) const PITCH_MEAN_DEG: f64 = 5.0;
    pub(super) const PITCH_AMP_DEG: f64 = 4.0;
    pub(super) const PITCH_PEAK_DEG: f64 = 15.0;
    pub(super) const PITCH_RESPONSE: f64 = 0.1;
}

/// What one position may be moved by: everything that is not exactly known.
#[derive(Clone)]
struct Sample {
    rider: Rider,
    lengths: Lengths,
    before: Setup,
    after: Setup,
}

type Move = Box<dyn Fn(&mut Sample, f64)>;

/// Everything not exactly known, each with its standard deviation.
fn doubts(sample: &Sample) -> Vec<(f64, Move)> {
    fn doubt(all: &mut Vec<(f64, Move)>, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        all.push((sd, Box::new(by)));
    }
    let mut all = Vec::new();
    let lengths = &sample.lengths;

    // An inseam's error is common to both legs, and to the trunk: what is estimated from it follows it.
    let inseam = lengths.inseam.value_mm;
    doubt(&mut all, lengths.inseam.spread_mm.0, move |s, by| {
        s.rider.body.inseam_mm = Some(inseam + Millimetres(by));
        s.lengths = Lengths::of(&s.rider.body, &s.rider.legs);
    });
    doubt(&mut all, Quantity::Stature.spec().uncertainty, |s, by| {
        s.rider.body.stature_mm.0 += by;
        s.lengths = Lengths::of(&s.rider.body, &s.rider.legs);
    });
    if let Some(mass) = sample.rider.body.mass_kg {
        doubt(&mut all, Quantity::Mass.spec().uncertainty, move |s, by| {
            s.rider.body.mass_kg = Some(crate::units::Kilograms(mass.0 + by));
        });
    }
    doubt(&mut all, lengths.trunk.spread_mm.0, |s, by| {
        s.lengths.trunk.value_mm.0 += by;
    });
    doubt(&mut all, lengths.shoulder_breadth.spread_mm.0, |s, by| {
        s.lengths.shoulder_breadth.value_mm.0 += by;
    });
    doubt(&mut all, lengths.upper_arm.spread_mm.0, |s, by| {
        s.lengths.upper_arm.value_mm.0 += by;
    });
    doubt(&mut all, lengths.forearm.spread_mm.0, |s, by| {
        s.lengths.forearm.value_mm.0 += by;
    });
    doubt(&mut all, lengths.hip_rise_spread_mm.0, |s, by| {
        s.lengths.hip_rise_mm.0 += by;
    });
    doubt(&mut all, spread::HIP_FORWARD_MM, |s, by| {
        s.rider.pelvis.forward_mm.0 += by;
    });
    doubt(&mut all, spread::PELVIS_SHARE, |s, by| {
        s.rider.pelvis.share += by;
    });
    doubt(&mut all, spread::ELBOW_DEG, |s, by| {
        s.rider.elbow_deg.0 += by;
    });
    doubt(&mut all, spread::PITCH_RESPONSE, |s, by| {
        s.rider.pitch_response_deg_per_mm += by;
    });
    for side in Side::BOTH {
        let leg = lengths.legs.of(side);
        doubt(&mut all, leg.thigh.spread_mm.0, move |s, by| {
            s.lengths.legs.of_mut(side).thigh.value_mm.0 += by;
        });
        doubt(&mut all, leg.shank.spread_mm.0, move |s, by| {
            s.lengths.legs.of_mut(side).shank.value_mm.0 += by;
        });
        doubt(&mut all, leg.ankle_height.spread_mm.0, move |s, by| {
            s.lengths.legs.of_mut(side).ankle_height.value_mm.0 += by;
        });
        doubt(&mut all, leg.foot_length.spread_mm.0, move |s, by| {
            s.lengths.legs.of_mut(side).foot_length.value_mm.0 += by;
        });
        doubt(&mut all, spread::PITCH_MEAN_DEG, move |s, by| {
            s.rider.pitch.of_mut(side).mean_deg.0 += by;
        });
        doubt(&mut all, spread::PITCH_AMP_DEG, move |s, by| {
            s.rider.pitch.of_mut(side).amp_deg.0 += by;
        });
        doubt(&mut all, spread::PITCH_PEAK_DEG, move |s, by| {
            s.rider.pitch.of_mut(side).peak_deg.0 += by;
        });
        for quantity in [
            Quantity::Crank,
            Quantity::CleatSetback,
            Quantity::PedalStack,
            Quantity::Sole,
        ] {
            doubt(&mut all, quantity.spec().uncertainty, move |s, by| {
                both(s, |setup| shift(setup, quantity, side, by));
            });
        }
    }
    for (quantity, by_point) in [
        (Quantity::SaddleHeight, Point::new(0.0, 1.0)),
        (Quantity::Setback, Point::new(-1.0, 0.0)),
    ] {
        doubt(&mut all, quantity.spec().uncertainty, move |s, by| {
            both(s, |setup| {
                if let Some(sit) = setup.saddle.sit() {
                    setup.saddle.place(sit + by_point * by);
                }
            });
        });
    }
    doubt(&mut all, Quantity::BbToHand.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_forward_mm.0 += by);
    });
    doubt(&mut all, Quantity::Drop.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_up_mm.0 += by);
    });
    all
}

fn both(sample: &mut Sample, change: impl Fn(&mut Setup)) {
    change(&mut sample.before);
    change(&mut sample.after);
}

fn shift(setup: &mut Setup, quantity: Quantity, side: Side, by: f64) {
    if let Some(value) = setup.get(quantity, Some(side)) {
        setup.set(quantity, Some(side), value + by);
    }
}

/// One standard deviation of an output's value before and after, and of its change.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Band {
    pub(crate) before: f64,
    pub(crate) after: f64,
    pub(crate) change: f64,
}

/// The bands of every output, per side.
pub(crate) struct Bands(Vec<Sides<Band>>);

impl Bands {
    /// The band of one output on one side.
    pub(crate) fn of(&self, output: Output, side: Side) -> Band {
        *self.0[output as usize].of(side)
    }
}

/// Bands of the positions before and after.
pub(crate) fn bands(
    input: &ForeseeInput,
    Model { lengths, seen }: &Model,
    before: &Position,
    after_setup: &Setup,
) -> Bands {
    let sample = Sample {
        rider: Rider {
            // The pattern the positions were solved with is the one in doubt.
            pitch: Sides::from_fn(|side| seen.of(side).pitch),
            ..input.rider
        },
        lengths: *lengths,
        before: input.setup,
        after: *after_setup,
    };
    // The foot was looked at in some position: how far that was from the one before is known, whatever the body.
    let away =
        Sides::from_fn(|side| before.legs.of(side).hip_to_axle_mm - seen.of(side).hip_to_axle_mm);
    let changed = sample.before != sample.after;
    let mut squares = vec![Sides::both(Band::default()); Output::ALL.len()];
    for (sd, by) in doubts(&sample) {
        let moved = [sd, -sd].map(|by_sd| {
            let mut moved = sample.clone();
            by(&mut moved, by_sd);
            solve(input, &moved, &away, changed)
        });
        let [Some(up), Some(down)] = moved else {
            continue;
        };
        for (output, square) in Output::ALL.iter().zip(&mut squares) {
            for side in Side::BOTH {
                let half = |a: &Position, b: &Position| {
                    let (a, b) = (output.of(a, side), output.of(b, side));
                    a.zip(b).map_or(0.0, |(a, b)| (a - b) / 2.0)
                };
                let at_before = half(&up.0, &down.0);
                let at_after = match (&up.1, &down.1) {
                    (Some(up), Some(down)) => half(up, down),
                    _ => at_before,
                };
                let square = square.of_mut(side);
                square.before += at_before.powi(2);
                square.after += at_after.powi(2);
                square.change += (at_after - at_before).powi(2);
            }
        }
    }
    let root = |band: &Band| Band {
        before: band.before.sqrt(),
        after: band.after.sqrt(),
        change: band.change.sqrt(),
    };
    Bands(
        squares
            .iter()
            .map(|sides| Sides::from_fn(|side| root(sides.of(side))))
            .collect(),
    )
}

/// The two positions of a sample; the second only with a change.
fn solve(
    input: &ForeseeInput,
    sample: &Sample,
    away: &Sides<Millimetres>,
    changed: bool,
) -> Option<(Position, Option<Position>)> {
    let (rider, lengths) = (&sample.rider, &sample.lengths);
    let seated = Seated::of(input, rider, lengths, &sample.before, Degrees(0.0))?;
    let observed = seated.observe(rider, lengths, &sample.before);
    let seen = Sides::from_fn(|side| PitchSeen {
        hip_to_axle_mm: observed.of(side).hip_to_axle_mm - *away.of(side),
        ..*observed.of(side)
    });
    let scene = Scene {
        input,
        rider,
        lengths,
        seen: &seen,
        rotation: Degrees(0.0),
        detail: Detail::Coarse,
    };
    let before = Position::seated(&scene, &sample.before, seated);
    let after = if changed {
        Some(Position::of(&scene, &sample.after)?)
    } else {
        None
    };
    Some((before, after))
}
