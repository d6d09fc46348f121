//! Bands: how far each output, and each change of one, may be off.
//!
//! First order: what an output answers to each length, reading and habit that is not exactly known, times one standard
//! deviation of it, added in squares (the doubts are taken as independent). Before and after are moved together, so a
//! change has its own, smaller band: most doubts are the same on both sides of it.
//!
//! What an output answers is a one-sided difference over a small part of the deviation: half the work of a difference
//! over all of it either way, and the same to well within a tenth while the knees stay in their range (the tests keep the
//! other way to compare); of a leg that comes nearer to straight a change's may be off by a seventh.

use super::Trying;
use super::doubt::{Doubt, Sample, fitted_doubts, free_doubts, held_doubts, left_out_doubts};
use crate::bike::Placed;
use crate::measure::Output;
use crate::position::{Facts, Position, Ride, Scene, Seated};
use crate::rider::{Detail, PitchSeen};
use crate::units::{Degrees, Millimetres, Side, Sides};

impl Sample {
    fn scene<'a>(
        &'a self,
        facts: &'a Facts,
        seen: &'a Sides<PitchSeen>,
        detail: Detail,
        near: Option<&'a Position>,
    ) -> Scene<'a> {
        Scene {
            facts,
            person: &self.person,
            seen,
            rotation: Degrees(0.0),
            detail,
            near: near.map(|position| &position.legs),
            continued: true,
        }
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
#[derive(Debug)]
pub(crate) struct Bands(Vec<Sides<Band>>);

impl Bands {
    /// What the answers to all doubts come to.
    fn from_answers(answers: &[(String, Answer)]) -> Self {
        let mut squares = Squares::default();
        for (_, answer) in answers {
            squares.add(answer);
        }
        squares.roots()
    }

    /// The same of what is as uncertain as what stands: a change is weighed against what is worth telling only.
    pub(crate) fn standing(&self) -> Self {
        let standing = |band: &Band| Band {
            after: band.before,
            change: 0.0,
            ..*band
        };
        let each = |sides: &Sides<Band>| Sides::from_fn(|side| standing(sides.of(side)));
        Self(self.0.iter().map(each).collect())
    }

    /// The band of one output on one side.
    pub(crate) fn of(&self, output: Output, side: Side) -> Band {
        *self.0[output as usize].of(side)
    }
}

impl Trying<'_> {
    /// How far every output may be off as it stands.
    pub(crate) fn bands(&self) -> &Bands {
        self.bands
            .get_or_init(|| Bands::from_answers(self.answers()))
    }

    /// What every output of the position as it stands answers to each doubt.
    pub(super) fn answers(&self) -> &[(String, Answer)] {
        let answers = || Trial::of(self, &self.before, &self.setup).answers();
        self.answers.get_or_init(answers)
    }

    /// How far an output may be off as it stands, the worse of both sides: one standard deviation.
    pub(crate) fn band(&self, output: Output) -> f64 {
        let bands = self.bands();
        let [left, right] = Side::BOTH.map(|side| bands.of(output, side).before);
        left.max(right)
    }
}

/// The part of a standard deviation that is tried.
const PART_SD: f64 = 0.25;

/// Bands of the positions before and after.
pub(crate) fn bands(ride: &Ride, before: &Position, after: &Placed) -> Bands {
    Bands::from_answers(&Trial::of(ride, before, after).answers())
}

/// Every output of two positions, before and after, per side; no number where there is none.
struct Values(Vec<[f64; 4]>);

impl Values {
    fn of((before, after): &Solved) -> Self {
        let all = Output::ALL.iter().map(|output| {
            let [left, right] = Side::BOTH.map(|side| {
                let value = |position| output.as_drawn(position, side).unwrap_or(f64::NAN);
                let before = value(before);
                (before, after.as_ref().map_or(before, value))
            });
            [left.0, left.1, right.0, right.1]
        });
        Self(all.collect())
    }
}

/// What every output answers to a doubt, in the places of [`Values`].
#[derive(Debug, Clone)]
pub(super) struct Answer(Vec<[f64; 4]>);

impl Answer {
    /// What one output of the position before answers, on one side.
    pub(super) fn before(&self, output: Output, side: Side) -> f64 {
        let [left, _, right, _] = self.0[output as usize];
        match side {
            Side::Left => left,
            Side::Right => right,
        }
    }

    /// The difference of two solutions, times a factor.
    fn of(up: &Values, down: &Values, factor: f64) -> Self {
        let by = |up: f64, down: f64| {
            let by = factor * (up - down);
            if by.is_nan() { 0.0 } else { by }
        };
        let each = |(up, down): (&[f64; 4], &[f64; 4])| std::array::from_fn(|n| by(up[n], down[n]));
        Self(up.0.iter().zip(&down.0).map(each).collect())
    }

    /// To nothing.
    fn none() -> Self {
        Self(vec![[0.0; 4]; Output::ALL.len()])
    }

    /// With so much of another.
    fn with(mut self, other: &Self, much: f64) -> Self {
        for (mine, other) in self.0.iter_mut().zip(&other.0) {
            for (mine, other) in mine.iter_mut().zip(other) {
                *mine += much * other;
            }
        }
        self
    }
}

/// Bands while they are added up.
struct Squares(Vec<Sides<Band>>);

impl Default for Squares {
    fn default() -> Self {
        Self(vec![Sides::both(Band::default()); Output::ALL.len()])
    }
}

impl Squares {
    fn add(&mut self, answer: &Answer) {
        for (sides, [left_before, left_after, right_before, right_after]) in
            self.0.iter_mut().zip(&answer.0)
        {
            for (square, before, after) in [
                (&mut sides.left, left_before, left_after),
                (&mut sides.right, right_before, right_after),
            ] {
                square.before += before.powi(2);
                square.after += after.powi(2);
                square.change += (after - before).powi(2);
            }
        }
    }

    fn roots(&self) -> Bands {
        let root = |band: &Band| Band {
            before: band.before.sqrt(),
            after: band.after.sqrt(),
            change: band.change.sqrt(),
        };
        let each = |sides: &Sides<Band>| Sides::from_fn(|side| root(sides.of(side)));
        Bands(self.0.iter().map(each).collect())
    }
}

/// The positions before and, with a change, after.
type Solved = (Position, Option<Position>);

/// A change whose positions are solved again and again, each time with something else about the rider or the bike.
pub(super) struct Trial<'a> {
    ride: &'a Ride,
    detail: Detail,
    sample: Sample,
    /// The foot was looked at in some position: how far that was from the one before is known, whatever the body.
    away: Sides<Millimetres>,
    changed: bool,
}

impl<'a> Trial<'a> {
    pub(super) fn of(ride: &'a Ride, before: &Position, after: &Placed) -> Self {
        let seen = &ride.seen;
        let mut sample = Sample {
            person: ride.person.clone(),
            before: ride.setup,
            after: *after,
        };
        // The pattern the positions were solved with is the one in doubt.
        sample.person.rider.pitch = Sides::from_fn(|side| seen.of(side).pitch);
        Self {
            ride,
            detail: Detail::Coarse,
            away: Sides::from_fn(|side| {
                before.legs.of(side).hip_to_axle_mm - seen.of(side).hip_to_axle_mm
            }),
            changed: sample.before != sample.after,
            sample,
        }
    }

    /// What the outputs answer to one standard deviation of everything not exactly known, by its name: what calibration
    /// fits as the fit left it, the rest as measured or estimated.
    pub(super) fn answers(&self) -> Vec<(String, Answer)> {
        let base = self.base();
        let values = Values::of(&base);
        let answer = |doubt: &Doubt| {
            let moved = self.moved(doubt, PART_SD, &base);
            Answer::of(&Values::of(&moved), &values, 1.0 / PART_SD)
        };
        let named = |doubt: &Doubt| (doubt.name.clone(), answer(doubt));
        let held = held_doubts(&self.sample);
        let Some(fit) = &self.ride.fit else {
            let free = free_doubts(&self.sample.person);
            return held.iter().chain(&free).map(named).collect();
        };
        let fitted: Vec<Answer> = fitted_doubts().iter().map(answer).collect();
        // Had what is held been otherwise, the parameters would have been fitted otherwise.
        let held = held.iter().map(|doubt| {
            let moved = fit.response(&doubt.name).unwrap_or_default();
            let all = (moved.iter().zip(&fitted))
                .fold(answer(doubt), |all, (moved, one)| all.with(one, *moved));
            (doubt.name.clone(), all)
        });
        // What the fit may still be off by: one doubt a column of the covariance's root.
        let columns = (0..fitted.len()).map(|column| {
            let all = (fit.spread.iter().zip(&fitted))
                .filter_map(|(row, one)| Some((row.get(column)?, one)))
                .fold(Answer::none(), |all, (sd, one)| all.with(one, *sd));
            ("fitted".to_owned(), all)
        });
        let left_out = left_out_doubts(&self.sample.person, fit);
        held.chain(columns)
            .chain(left_out.iter().map(named))
            .collect()
    }

    /// The two positions with nothing moved, solved as the moved ones will be.
    fn base(&self) -> Solved {
        let solved = self.solve(&self.sample, None);
        match self.detail {
            Detail::Coarse => self.solve(&self.sample, Some(&solved)),
            Detail::Fine | Detail::Plain => solved,
        }
    }

    /// The two positions with one doubt moved by so many standard deviations; only its leg is solved anew where it
    /// touches nothing else.
    fn moved(&self, doubt: &Doubt, by_sd: f64, base: &Solved) -> Solved {
        let mut moved = self.sample.clone();
        (doubt.by)(&mut moved, doubt.sd * by_sd);
        let near = (self.detail == Detail::Coarse).then_some(base);
        match doubt.only {
            Some(side) => self.solve_leg(&moved, base, near, side),
            None => self.solve(&moved, near),
        }
    }

    /// The two positions of a sample that differs from the one of `base` in one leg alone.
    fn solve_leg(
        &self,
        sample: &Sample,
        base: &Solved,
        near: Option<&Solved>,
        side: Side,
    ) -> Solved {
        // The hip has not moved: the foot is observed where it was.
        let seen = Sides::from_fn(|side| PitchSeen {
            pitch: *sample.person.rider.pitch.of(side),
            hip_to_axle_mm: base.0.legs.of(side).hip_to_axle_mm - *self.away.of(side),
        });
        let scene = |near| sample.scene(self.ride, &seen, self.detail, near);
        let (near_before, near_after) = beside(near);
        let before = (base.0).with_leg(&scene(near_before), &sample.before, side);
        let after =
            (base.1.as_ref()).map(|after| after.with_leg(&scene(near_after), &sample.after, side));
        (before, after)
    }

    /// The two positions of a sample, near others or not.
    fn solve(&self, sample: &Sample, near: Option<&Solved>) -> Solved {
        let seated = Seated::of(self.ride, &sample.person, &sample.before, Degrees(0.0));
        let observed = seated.observe(&sample.person, &sample.before);
        let seen = Sides::from_fn(|side| PitchSeen {
            hip_to_axle_mm: observed.of(side).hip_to_axle_mm - *self.away.of(side),
            ..*observed.of(side)
        });
        let scene = |near| sample.scene(self.ride, &seen, self.detail, near);
        let (near_before, near_after) = beside(near);
        let before = Position::seated(&scene(near_before), &sample.before, seated);
        let after = (self.changed).then(|| Position::of(&scene(near_after), &sample.after));
        (before, after)
    }
}

/// What two positions are near to, each.
fn beside(near: Option<&Solved>) -> (Option<&Position>, Option<&Position>) {
    near.map_or((None, None), |(before, after)| {
        (Some(before), after.as_ref())
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::foresee::{Change, Look, Sighting, calibrate, change};
    use crate::measure::{Method, Quantity};
    use crate::position::{FITTED, Fit};

    /// What two angles seen a little away from the model make of a rider.
    fn calibrated(ride: &Ride) -> Ride {
        let standing = ride.position();
        let seen =
            [(Output::KneeAtFullReach, 4.0), (Output::Torso, -3.0)].map(|(output, off)| Sighting {
                output,
                side: None,
                value: output.of(&standing, Side::Right).unwrap() + off,
                method: Method::Film,
                spread: None,
            });
        let look = Look {
            setup: ride.setup.into(),
            hands: ride.hands,
            seen: seen.to_vec(),
            weeks: 0.0,
            visit: 0,
        };
        let fit = calibrate(ride, &[look]).unwrap().fit;
        ride.altered(|facts| facts.fit = Some(fit))
    }

    /// Everything a band is made of, the rider pedalling at an effort and a cleat moved on one side; as measured, and as
    /// calibrated.
    fn rides() -> Vec<(Ride, Placed)> {
        example::all()
            .into_iter()
            .flat_map(|mut input| {
                input.effort = Some(crate::rider::Effort {
                    power_w: 180.0,
                    cadence_rpm: 85.0,
                });
                // The heel highest here, the knees are in their range.
                for side in Side::BOTH {
                    input.rider.pitch.of_mut(side).peak_deg = Degrees(270.0);
                }
                let ride = input.check().unwrap();
                let cleat = Change {
                    side: Some(Side::Left),
                    ..Change::to(Quantity::CleatSetback, 20.0)
                };
                let changes = [cleat, Change::by(Quantity::SaddleHeight, -6.0)];
                let after = change::apply(&ride, &changes).unwrap();
                [(calibrated(&ride), after), (ride, after)]
            })
            .collect()
    }

    #[test]
    fn a_doubt_of_one_leg_solved_alone_is_what_the_whole_would_be() {
        for (ride, after) in rides() {
            let mut trial = Trial::of(&ride, &ride.position(), &after);
            trial.away = Sides::both(Millimetres(3.0));
            let base = trial.solve(&trial.sample, None);
            for doubt in held_doubts(&trial.sample)
                .into_iter()
                .chain(fitted_doubts())
            {
                let Some(side) = doubt.only else { continue };
                let mut moved = trial.sample.clone();
                (doubt.by)(&mut moved, doubt.sd);
                let whole = trial.solve(&moved, None);
                let alone = trial.solve_leg(&moved, &base, None, side);
                assert!(alone == whole, "{}", doubt.name);
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
                all.extend(columns(fit));
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
    fn columns(fit: &Fit) -> Vec<Doubt> {
        let mut all = Vec::new();
        for column in 0..FITTED.len() {
            let moves: Vec<_> = (FITTED.into_iter().zip(&fit.spread))
                .filter_map(|(place, row)| Some((place, *row.get(column)?)))
                .collect();
            all.push(Doubt {
                name: "fitted".to_owned(),
                sd: 1.0,
                only: None,
                by: Box::new(move |s, by| {
                    for (place, sd) in &moves {
                        s.person.shift(*place, sd * by);
                    }
                }),
            });
        }
        all
    }

    /// Every doubt moved by a whole standard deviation either way, over every degree of the stroke.
    fn either_way(ride: &Ride, after: &Placed) -> Bands {
        let mut trial = Trial::of(ride, &ride.position(), after);
        trial.detail = Detail::Plain;
        let base = trial.base();
        let mut squares = Squares::default();
        for doubt in doubts(&trial.sample, ride.fit.as_ref()) {
            let [up, down] = [1.0, -1.0].map(|by| Values::of(&trial.moved(&doubt, by, &base)));
            squares.add(&Answer::of(&up, &down, 0.5));
        }
        squares.roots()
    }

    #[test]
    fn one_way_over_a_part_is_either_way_over_the_whole() {
        for (ride, after) in rides() {
            let quick = bands(&ride, &ride.position(), &after);
            let slow = either_way(&ride, &after);
            for output in Output::ALL {
                for side in Side::BOTH {
                    let (quick, slow) = (quick.of(*output, side), slow.of(*output, side));
                    // A change is told with the least difference worth telling, as its row has it.
                    let told = |change: f64| change.hypot(output.spec().noise);
                    for (quick, slow) in [
                        (quick.before, slow.before),
                        (quick.after, slow.after),
                        (told(quick.change), told(slow.change)),
                    ] {
                        assert!(
                            (quick - slow).abs() <= 0.1 * slow,
                            "{output:?} {side:?}: {quick} against {slow}"
                        );
                    }
                }
            }
        }
    }
}
