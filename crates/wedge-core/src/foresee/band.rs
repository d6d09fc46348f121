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

impl Sample {
    fn scene<'a>(&'a self, input: &'a ForeseeInput, seen: &'a Sides<PitchSeen>) -> Scene<'a> {
        Scene {
            input,
            rider: &self.rider,
            lengths: &self.lengths,
            seen,
            rotation: Degrees(0.0),
            detail: Detail::Coarse,
        }
    }
}

/// Something not exactly known.
struct Doubt {
    /// One standard deviation.
    sd: f64,
    /// The leg it touches, when it touches nothing else.
    only: Option<Side>,
    /// Moves a sample by so much.
    by: Move,
}

type Move = Box<dyn Fn(&mut Sample, f64)>;

fn doubt(all: &mut Vec<Doubt>, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
    all.push(Doubt {
        sd,
        only: None,
        by: Box::new(by),
    });
}

/// A doubt that touches nothing but one leg.
fn leg_doubt(all: &mut Vec<Doubt>, side: Side, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
    all.push(Doubt {
        sd,
        only: Some(side),
        by: Box::new(by),
    });
}

/// Everything not exactly known.
fn doubts(sample: &Sample) -> Vec<Doubt> {
    let mut all = Vec::new();
    body_doubts(&mut all, sample);
    for side in Side::BOTH {
        leg_doubts(&mut all, sample, side);
    }
    bike_doubts(&mut all);
    all
}

/// The body but for its legs, and how it sits.
fn body_doubts(all: &mut Vec<Doubt>, sample: &Sample) {
    let lengths = &sample.lengths;

    // An inseam's error is common to both legs, and to the trunk: what is estimated from it follows it.
    let inseam = lengths.inseam.value_mm;
    doubt(all, lengths.inseam.spread_mm.0, move |s, by| {
        s.rider.body.inseam_mm = Some(inseam + Millimetres(by));
        s.lengths = Lengths::of(&s.rider.body, &s.rider.legs);
    });
    doubt(all, Quantity::Stature.spec().uncertainty, |s, by| {
        s.rider.body.stature_mm.0 += by;
        s.lengths = Lengths::of(&s.rider.body, &s.rider.legs);
    });
    if let Some(mass) = sample.rider.body.mass_kg {
        doubt(all, Quantity::Mass.spec().uncertainty, move |s, by| {
            s.rider.body.mass_kg = Some(crate::units::Kilograms(mass.0 + by));
        });
    }
    doubt(all, lengths.trunk.spread_mm.0, |s, by| {
        s.lengths.trunk.value_mm.0 += by;
    });
    doubt(all, lengths.shoulder_breadth.spread_mm.0, |s, by| {
        s.lengths.shoulder_breadth.value_mm.0 += by;
    });
    doubt(all, lengths.upper_arm.spread_mm.0, |s, by| {
        s.lengths.upper_arm.value_mm.0 += by;
    });
    doubt(all, lengths.forearm.spread_mm.0, |s, by| {
        s.lengths.forearm.value_mm.0 += by;
    });
    doubt(all, lengths.hip_rise_spread_mm.0, |s, by| {
        s.lengths.hip_rise_mm.0 += by;
    });
    doubt(all, spread::HIP_FORWARD_MM, |s, by| {
        s.rider.pelvis.forward_mm.0 += by;
    });
    doubt(all, spread::PELVIS_SHARE, |s, by| {
        s.rider.pelvis.share += by;
    });
    doubt(all, spread::ELBOW_DEG, |s, by| {
        s.rider.elbow_deg.0 += by;
    });
    doubt(all, spread::PITCH_RESPONSE, |s, by| {
        s.rider.pitch_response_deg_per_mm += by;
    });
}

/// One leg, its foot and what it stands on.
fn leg_doubts(all: &mut Vec<Doubt>, sample: &Sample, side: Side) {
    let lengths = &sample.lengths;
    let leg = lengths.legs.of(side);
    leg_doubt(all, side, leg.thigh.spread_mm.0, move |s, by| {
        s.lengths.legs.of_mut(side).thigh.value_mm.0 += by;
    });
    leg_doubt(all, side, leg.shank.spread_mm.0, move |s, by| {
        s.lengths.legs.of_mut(side).shank.value_mm.0 += by;
    });
    leg_doubt(all, side, leg.ankle_height.spread_mm.0, move |s, by| {
        s.lengths.legs.of_mut(side).ankle_height.value_mm.0 += by;
    });
    leg_doubt(all, side, leg.foot_length.spread_mm.0, move |s, by| {
        s.lengths.legs.of_mut(side).foot_length.value_mm.0 += by;
    });
    leg_doubt(all, side, spread::PITCH_MEAN_DEG, move |s, by| {
        s.rider.pitch.of_mut(side).mean_deg.0 += by;
    });
    leg_doubt(all, side, spread::PITCH_AMP_DEG, move |s, by| {
        s.rider.pitch.of_mut(side).amp_deg.0 += by;
    });
    leg_doubt(all, side, spread::PITCH_PEAK_DEG, move |s, by| {
        s.rider.pitch.of_mut(side).peak_deg.0 += by;
    });
    for quantity in [Quantity::CleatSetback, Quantity::PedalStack, Quantity::Sole] {
        leg_doubt(all, side, quantity.spec().uncertainty, move |s, by| {
            both(s, |setup| shift(setup, quantity, side, by));
        });
    }
    // A crank belongs to lengths taken from the pedal axle as well.
    doubt(all, Quantity::Crank.spec().uncertainty, move |s, by| {
        both(s, |setup| shift(setup, Quantity::Crank, side, by));
    });
}

/// Where saddle and hands were taped.
fn bike_doubts(all: &mut Vec<Doubt>) {
    for (quantity, by_point) in [
        (Quantity::SaddleHeight, Point::new(0.0, 1.0)),
        (Quantity::Setback, Point::new(-1.0, 0.0)),
    ] {
        doubt(all, quantity.spec().uncertainty, move |s, by| {
            both(s, |setup| {
                if let Some(sit) = setup.saddle.sit() {
                    setup.saddle.place(sit + by_point * by);
                }
            });
        });
    }
    doubt(all, Quantity::BbToHand.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_forward_mm.0 += by);
    });
    doubt(all, Quantity::Drop.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_up_mm.0 += by);
    });
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
    let Some(base) = solve(input, &sample, &away, changed) else {
        return Bands(squares);
    };
    for doubt in doubts(&sample) {
        let moved = [doubt.sd, -doubt.sd].map(|by_sd| {
            let mut moved = sample.clone();
            (doubt.by)(&mut moved, by_sd);
            match doubt.only {
                Some(side) => Some(solve_leg(input, &moved, &away, &base, side)),
                None => solve(input, &moved, &away, changed),
            }
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

/// The positions before and, with a change, after.
type Solved = (Position, Option<Position>);

/// The two positions of a sample that differs from the one of `base` in one leg alone.
fn solve_leg(
    input: &ForeseeInput,
    sample: &Sample,
    away: &Sides<Millimetres>,
    base: &Solved,
    side: Side,
) -> Solved {
    // The hip has not moved: the foot is observed where it was.
    let seen = Sides::from_fn(|side| PitchSeen {
        pitch: *sample.rider.pitch.of(side),
        hip_to_axle_mm: base.0.legs.of(side).hip_to_axle_mm - *away.of(side),
    });
    let scene = sample.scene(input, &seen);
    (
        base.0.with_leg(&scene, &sample.before, side),
        base.1
            .as_ref()
            .map(|after| after.with_leg(&scene, &sample.after, side)),
    )
}

/// The two positions of a sample.
fn solve(
    input: &ForeseeInput,
    sample: &Sample,
    away: &Sides<Millimetres>,
    changed: bool,
) -> Option<Solved> {
    let (rider, lengths) = (&sample.rider, &sample.lengths);
    let seated = Seated::of(input, rider, lengths, &sample.before, Degrees(0.0))?;
    let observed = seated.observe(rider, lengths, &sample.before);
    let seen = Sides::from_fn(|side| PitchSeen {
        hip_to_axle_mm: observed.of(side).hip_to_axle_mm - *away.of(side),
        ..*observed.of(side)
    });
    let scene = sample.scene(input, &seen);
    let before = Position::seated(&scene, &sample.before, seated);
    let after = if changed {
        Some(Position::of(&scene, &sample.after)?)
    } else {
        None
    };
    Some((before, after))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn a_doubt_of_one_leg_solved_alone_is_what_the_whole_would_be() {
        for mut input in example::all() {
            input.effort = Some(crate::foresee::Effort {
                power_w: 180.0,
                cadence_rpm: 85.0,
            });
            let lengths = Lengths::of(&input.rider.body, &input.rider.legs);
            let mut after = input.setup;
            after.set(Quantity::CleatSetback, Some(Side::Left), 20.0);
            let sample = Sample {
                rider: input.rider,
                lengths,
                before: input.setup,
                after,
            };
            let away = Sides::both(Millimetres(3.0));
            let base = solve(&input, &sample, &away, true).unwrap();
            for doubt in doubts(&sample) {
                let Some(side) = doubt.only else { continue };
                let mut moved = sample.clone();
                (doubt.by)(&mut moved, doubt.sd);
                let whole = solve(&input, &moved, &away, true).unwrap();
                let alone = solve_leg(&input, &moved, &away, &base, side);
                assert_eq!(alone.0, whole.0);
                assert_eq!(alone.1, whole.1);
            }
        }
    }
}
