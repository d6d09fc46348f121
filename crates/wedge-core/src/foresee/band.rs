//! Bands: how far each output, and each change of one, may be off.
//!
//! First order: every length, reading and habit that is not exactly known is moved by one standard deviation either
//! way on its own, and what that does to an output is added in squares (the doubts are taken as independent). Before
//! and after are moved together, so a change has its own, smaller band: most doubts are the same on both sides of it.

use super::Model;
use super::input::ForeseeInput;
use super::person::{FITTED, Fit, Parameter, Person, spread};
use super::position::{Position, Scene, Seated};
use crate::bike::Setup;
use crate::judge::Output;
use crate::measure::Quantity;
use crate::plane::Point;
use crate::rider::{Detail, PitchSeen};
use crate::units::{Degrees, Kilograms, Millimetres, Side, Sides};

/// What one position may be moved by: everything that is not exactly known.
#[derive(Clone)]
pub(crate) struct Sample {
    pub(crate) person: Person,
    pub(crate) before: Setup,
    pub(crate) after: Setup,
}

impl Sample {
    fn scene<'a>(&'a self, input: &'a ForeseeInput, seen: &'a Sides<PitchSeen>) -> Scene<'a> {
        Scene {
            input,
            person: &self.person,
            seen,
            rotation: Degrees(0.0),
            detail: Detail::Coarse,
        }
    }
}

/// Something not exactly known.
pub(crate) struct Doubt {
    /// What it is called in a fit.
    pub(crate) name: String,
    /// One standard deviation.
    pub(crate) sd: f64,
    /// The leg it touches, when it touches nothing else.
    only: Option<Side>,
    /// Moves a sample by so much.
    pub(crate) by: Move,
}

type Move = Box<dyn Fn(&mut Sample, f64)>;

/// Doubts as they are gathered.
#[derive(Default)]
struct Doubts(Vec<Doubt>);

impl Doubts {
    fn whole(&mut self, name: &str, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.0.push(Doubt {
            name: name.to_owned(),
            sd,
            only: None,
            by: Box::new(by),
        });
    }

    /// A doubt of one side that touches more than its leg.
    fn sided(&mut self, name: &str, side: Side, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.whole(&format!("{name}, {}", side.word()), sd, by);
    }

    /// A doubt that touches nothing but one leg.
    fn of_leg(&mut self, name: &str, side: Side, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.sided(name, side, sd, by);
        if let Some(doubt) = self.0.last_mut() {
            doubt.only = Some(side);
        }
    }
}

/// Everything not exactly known: what calibration fits as the fit left it, the rest as measured or estimated.
fn doubts(sample: &Sample, fit: Option<&Fit>) -> Vec<Doubt> {
    let mut all = held_doubts(sample);
    match fit {
        None => all.extend(free_doubts(&sample.person)),
        Some(fit) => {
            for doubt in &mut all {
                answer(doubt, fit);
            }
            all.extend(fitted_doubts(fit));
        }
    }
    all
}

/// Has a doubt move the fitted parameters along: they would have been fitted otherwise.
fn answer(doubt: &mut Doubt, fit: &Fit) {
    let Some(response) = fit.response(&doubt.name) else {
        return;
    };
    let (sd, response) = (doubt.sd, response.to_vec());
    let alone = std::mem::replace(&mut doubt.by, Box::new(|_, _| {}));
    // Some of the answer is common to both legs.
    doubt.only = None;
    doubt.by = Box::new(move |sample, by| {
        alone(sample, by);
        for (place, moved) in FITTED.into_iter().zip(&response) {
            sample.person.shift(place, moved * by / sd);
        }
    });
}

/// What a fit may still be off by: one doubt a column of the covariance's root.
fn fitted_doubts(fit: &Fit) -> Vec<Doubt> {
    let mut all = Doubts::default();
    for column in 0..FITTED.len() {
        let moves: Vec<_> = (FITTED.into_iter().zip(&fit.spread))
            .filter_map(|(place, row)| Some((place, *row.get(column)?)))
            .collect();
        all.whole("fitted", 1.0, move |s, by| {
            for (place, sd) in &moves {
                s.person.shift(*place, sd * by);
            }
        });
    }
    all.0
}

/// What calibration fits, as it is before anything is seen.
fn free_doubts(person: &Person) -> Vec<Doubt> {
    let mut all = Doubts::default();
    for place in FITTED {
        let (parameter, side) = place;
        // Nothing seen, nothing to see it larger; and upper arm and forearm are in doubt apart.
        if parameter.is_bias() || parameter == Parameter::Arm {
            continue;
        }
        let sd = person.prior_sd(place);
        match side {
            Some(side) => all.of_leg(parameter.label(), side, sd, move |s, by| {
                s.person.shift(place, by);
            }),
            None => all.whole(parameter.label(), sd, move |s, by| {
                s.person.shift(place, by);
            }),
        }
    }
    all.whole(
        "upper arm",
        person.lengths.upper_arm.spread_mm.0,
        |s, by| {
            s.person.lengths.upper_arm.value_mm.0 += by;
        },
    );
    all.whole("forearm", person.lengths.forearm.spread_mm.0, |s, by| {
        s.person.lengths.forearm.value_mm.0 += by;
    });
    all.0
}

/// What calibration holds.
pub(crate) fn held_doubts(sample: &Sample) -> Vec<Doubt> {
    let mut all = Doubts::default();
    body_doubts(&mut all, &sample.person);
    for side in Side::BOTH {
        leg_doubts(&mut all, &sample.person, side);
    }
    bike_doubts(&mut all);
    all.0
}

/// The body but for its legs, and how it sits.
fn body_doubts(all: &mut Doubts, person: &Person) {
    let lengths = &person.lengths;

    // An inseam's error is common to both legs, and to the trunk: what is estimated from it follows it.
    let inseam = lengths.inseam.value_mm;
    all.whole("inseam", lengths.inseam.spread_mm.0, move |s, by| {
        s.person.rider.body.inseam_mm = Some(inseam + Millimetres(by));
        s.person.estimate_anew();
    });
    all.whole("stature", Quantity::Stature.spec().uncertainty, |s, by| {
        s.person.rider.body.stature_mm.0 += by;
        s.person.estimate_anew();
    });
    if let Some(mass) = person.rider.body.mass_kg {
        all.whole("mass", Quantity::Mass.spec().uncertainty, move |s, by| {
            s.person.rider.body.mass_kg = Some(Kilograms(mass.0 + by));
        });
    }
    all.whole("trunk", lengths.trunk.spread_mm.0, |s, by| {
        s.person.lengths.trunk.value_mm.0 += by;
    });
    all.whole(
        "shoulder breadth",
        lengths.shoulder_breadth.spread_mm.0,
        |s, by| {
            s.person.lengths.shoulder_breadth.value_mm.0 += by;
        },
    );
    all.whole("pelvis share", spread::PELVIS_SHARE, |s, by| {
        s.person.rider.pelvis.share += by;
    });
    all.whole("elbow", spread::ELBOW_DEG, |s, by| {
        s.person.rider.elbow_deg.0 += by;
    });
    all.whole("pitch response", spread::PITCH_RESPONSE, |s, by| {
        s.person.rider.pitch_response_deg_per_mm += by;
    });
}

/// One leg's foot and what it stands on.
fn leg_doubts(all: &mut Doubts, person: &Person, side: Side) {
    let leg = person.lengths.legs.of(side);
    all.of_leg(
        "ankle height",
        side,
        leg.ankle_height.spread_mm.0,
        move |s, by| {
            s.person.lengths.legs.of_mut(side).ankle_height.value_mm.0 += by;
        },
    );
    all.of_leg(
        "foot length",
        side,
        leg.foot_length.spread_mm.0,
        move |s, by| {
            s.person.lengths.legs.of_mut(side).foot_length.value_mm.0 += by;
        },
    );
    for quantity in [Quantity::CleatSetback, Quantity::PedalStack, Quantity::Sole] {
        all.of_leg(
            quantity.key(),
            side,
            quantity.spec().uncertainty,
            move |s, by| {
                both(s, |setup| shift(setup, quantity, side, by));
            },
        );
    }
    // A crank belongs to lengths taken from the pedal axle as well.
    let crank = Quantity::Crank;
    all.sided(crank.key(), side, crank.spec().uncertainty, move |s, by| {
        both(s, |setup| shift(setup, Quantity::Crank, side, by));
    });
}

/// Where saddle and hands were taped.
fn bike_doubts(all: &mut Doubts) {
    for (quantity, by_point) in [
        (Quantity::SaddleHeight, Point::new(0.0, 1.0)),
        (Quantity::Setback, Point::new(-1.0, 0.0)),
    ] {
        all.whole(quantity.key(), quantity.spec().uncertainty, move |s, by| {
            both(s, |setup| {
                if let Some(sit) = setup.saddle.sit() {
                    setup.saddle.place(sit + by_point * by);
                }
            });
        });
    }
    let (along, up) = (Quantity::BbToHand, Quantity::Drop);
    all.whole(along.key(), along.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_forward_mm.0 += by);
    });
    all.whole(up.key(), up.spec().uncertainty, |s, by| {
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
    /// No bands at all: a change is weighed against what is worth telling only.
    pub(crate) fn none() -> Self {
        Self(vec![Sides::both(Band::default()); Output::ALL.len()])
    }

    /// The band of one output on one side.
    pub(crate) fn of(&self, output: Output, side: Side) -> Band {
        *self.0[output as usize].of(side)
    }
}

/// Bands of the positions before and after.
pub(crate) fn bands(
    input: &ForeseeInput,
    Model { person, seen }: &Model,
    before: &Position,
    after_setup: &Setup,
) -> Bands {
    let mut sample = Sample {
        person: person.clone(),
        before: input.setup,
        after: *after_setup,
    };
    // The pattern the positions were solved with is the one in doubt.
    sample.person.rider.pitch = Sides::from_fn(|side| seen.of(side).pitch);
    // The foot was looked at in some position: how far that was from the one before is known, whatever the body.
    let away =
        Sides::from_fn(|side| before.legs.of(side).hip_to_axle_mm - seen.of(side).hip_to_axle_mm);
    let changed = sample.before != sample.after;
    let mut squares = vec![Sides::both(Band::default()); Output::ALL.len()];
    let Some(base) = solve(input, &sample, &away, changed) else {
        return Bands(squares);
    };
    for doubt in doubts(&sample, input.fit.as_ref()) {
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
        pitch: *sample.person.rider.pitch.of(side),
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
    let seated = Seated::of(input, &sample.person, &sample.before, Degrees(0.0))?;
    let observed = seated.observe(&sample.person, &sample.before);
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
            let mut after = input.setup;
            after.set(Quantity::CleatSetback, Some(Side::Left), 20.0);
            let sample = Sample {
                person: Person::of(&input.rider, None),
                before: input.setup,
                after,
            };
            let away = Sides::both(Millimetres(3.0));
            let base = solve(&input, &sample, &away, true).unwrap();
            for doubt in doubts(&sample, None) {
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
