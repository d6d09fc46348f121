//! Calibration: the rider fitted to what was seen.
//!
//! A bounded least-squares fit with priors: minimises `Σ((seen − model − bias)/σ)² + Σ((p − p₀)/s)²` within
//! ± 2.5 s, by Levenberg and Marquardt's method. What two angles cannot tell apart stays as wide as it was, and what
//! is held (trunk, elbow, feet, the tape on the bike) stays in doubt: had it been otherwise, the fit would have been,
//! and every band afterwards knows by how much.

use super::doubt::{Sample, held_doubts};
use crate::bike::{HandPlace, Placed, Setup};
use crate::measure::{Method, Output, Refusal, Unit};
use crate::position::{BOUND_SD, FITTED, Facts, Fit, Held, Person, Position, Ride, Scene, Seated};
use crate::rider::{Detail, PitchSeen, Rider};
use crate::units::{Degrees, Side, Sides};
use crate::words::{sided, written};
use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::storage::Owned;
use nalgebra::{DMatrix, DVector, Dyn};
use serde::{Deserialize, Serialize};

/// One output as a fitter saw it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Sighting {
    /// What was seen.
    pub output: Output,
    /// On which side; both alike when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// The value, in the output's unit.
    pub value: f64,
    /// How it was taken.
    #[serde(default)]
    pub method: Method,
}

impl Sighting {
    /// One standard deviation of it: ± 3° by goniometer, 2° on film (the craft), 5 mm by plumb line (house choice).
    pub fn spread(&self) -> f64 {
        match (self.output.spec().unit, self.method) {
            (Unit::Deg, Method::Film | Method::Camera) => ON_FILM_DEG,
            (Unit::Deg, _) => BY_GONIOMETER_DEG,
            _ => LENGTH_SEEN_MM,
        }
    }
}

/// What was seen of the rider on one setup.
#[derive(Debug, Clone, PartialEq)]
pub struct Look {
    /// The setup on the bench.
    pub setup: Setup,
    /// Where the hands were.
    pub hands: Option<HandPlace>,
    /// What was seen.
    pub seen: Vec<Sighting>,
}

/// One parameter: what was thought, what was fitted, how much of that the data said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FittedParameter {
    /// The fitter's words, with the side where there is one.
    pub label: String,
    /// Its unit.
    pub unit: Unit,
    /// Before anything was seen.
    pub prior: f64,
    /// One standard deviation of that.
    pub prior_sd: f64,
    /// As fitted.
    pub fitted: f64,
    /// One standard deviation of that.
    pub sd: f64,
    /// How much of the doubt the data took away, in hundredths.
    pub said_percent: f64,
    /// How much the data said, in words.
    pub words: String,
}

/// One thing seen, beside what was foreseen of it before and after the fit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FittedSighting {
    /// What was seen.
    pub output: Output,
    /// The fitter's word, with the side where there is one.
    pub label: String,
    /// Its unit.
    pub unit: Unit,
    /// As seen.
    pub seen: f64,
    /// One standard deviation of the seeing.
    pub spread: f64,
    /// Foreseen before the fit.
    pub before: f64,
    /// Foreseen after it.
    pub after: f64,
    /// What to look at again, when it does not go with the rest.
    pub question: Option<String>,
}

/// A rider fitted to what was seen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Calibration {
    /// The core that fitted it.
    pub core_version: String,
    /// What foresight takes.
    pub fit: Fit,
    /// Every parameter.
    pub parameters: Vec<FittedParameter>,
    /// Everything seen.
    pub sightings: Vec<FittedSighting>,
    /// Weighted squares of what was seen and of the priors, before and after: the fit never raises it.
    pub cost_before: f64,
    /// The same after.
    pub cost_after: f64,
}

impl Calibration {
    /// Whether it was fitted to this body: measured again since, it waits to be done anew.
    pub fn is_of(&self, rider: &Rider) -> bool {
        let person = Person::of(rider, None);
        FITTED.iter().zip(&self.parameters).all(|(place, was)| {
            (person.value(*place) - was.prior).abs() < SAME
                && (person.prior_sd(*place) - was.prior_sd).abs() < SAME
        })
    }
}

/// Priors closer than this are the same.
const SAME: f64 = 0.05;
crate::rule::rules! {
    rules "Calibration";
    /// An angle read off film or by a camera, one standard deviation.
    const ON_FILM_DEG: f64 = 2.0, "°", Workshop;
    /// An angle read by goniometer or eye, one standard deviation.
    const BY_GONIOMETER_DEG: f64 = 3.0, "°", Workshop;
    /// A length seen on the rider, one standard deviation.
    const LENGTH_SEEN_MM: f64 = 5.0, " mm", House;
    /// What was seen this far from the fitted model is questioned.
    const QUESTIONED_SD: f64 = 3.0, " standard deviations", House;
}
/// Step of the differences, in standard deviations.
const STEP_SD: f64 = 0.05;

/// One number seen: on which look, of what, on which sides.
struct Aim {
    /// Which look.
    look: usize,
    output: Output,
    side: Side,
    value: f64,
    spread: f64,
}

/// Everything seen, one row a side.
fn aims(looks: &[Look]) -> Vec<Aim> {
    let mut aims = Vec::new();
    for (look, seen) in looks
        .iter()
        .enumerate()
        .flat_map(|(index, look)| look.seen.iter().map(move |seen| (index, seen)))
    {
        // Both sides alike is one look at two legs.
        let both = seen.output.spec().per_side && seen.side.is_none();
        let sides: &[Side] = if both { &Side::BOTH } else { &[Side::Right] };
        for side in sides {
            aims.push(Aim {
                look,
                output: seen.output,
                side: seen.side.unwrap_or(*side),
                value: seen.value,
                spread: seen.spread() * if both { 2.0_f64.sqrt() } else { 1.0 },
            });
        }
    }
    aims
}

/// What was on the bench at one look, the hands where they were.
struct Scenery {
    facts: Facts,
    setup: Placed,
}

/// What is foreseen of every aim by a person on the looks' setups, each moved first; `None` where there is nothing.
fn foreseen(
    problem: &Problem,
    person: &Person,
    moved: &dyn Fn(&Placed) -> Placed,
) -> Option<DVector<f64>> {
    let found = moved(&problem.ride.setup);
    let seen = Seated::of(problem.ride, person, &found, Degrees(0.0)).observe(person, &found);
    let mut all = DVector::zeros(problem.aims.len());
    let mut last: Option<(usize, Position)> = None;
    for (index, aim) in problem.aims.iter().enumerate() {
        if last.as_ref().is_none_or(|(look, _)| *look != aim.look) {
            let at = problem.looks.get(aim.look)?;
            last = Some((aim.look, seated(at, person, &seen, moved)));
        }
        let (_, position) = last.as_ref()?;
        all[index] = aim.output.of(position, aim.side)?;
    }
    Some(all)
}

fn seated(
    at: &Scenery,
    person: &Person,
    seen: &Sides<PitchSeen>,
    moved: &dyn Fn(&Placed) -> Placed,
) -> Position {
    let scene = Scene {
        facts: &at.facts,
        person,
        seen,
        rotation: Degrees(0.0),
        detail: Detail::Plain,
        near: None,
    };
    Position::of(&scene, &moved(&at.setup))
}

/// The fit as the solver sees it: parameters in prior standard deviations, bent so that none leaves its bounds.
struct Problem<'a> {
    /// The rider on the bike as found, nothing fitted.
    ride: &'a Ride,
    looks: &'a [Scenery],
    aims: &'a [Aim],
    at: DVector<f64>,
}

/// A free number within the bounds, and how fast it moves there.
fn bounded(free: f64) -> (f64, f64) {
    let bent = (free / BOUND_SD).tanh();
    (BOUND_SD * bent, 1.0 - bent * bent)
}

impl Problem<'_> {
    /// The person with these numbers, in prior standard deviations.
    fn person(&self, sds: &DVector<f64>) -> Person {
        let prior = &self.ride.person;
        let shifts = (FITTED.iter().zip(sds.iter())).map(|(p, by)| by * prior.prior_sd(*p));
        prior.clone().fitted(shifts)
    }

    fn bounded(&self) -> DVector<f64> {
        self.at.map(|free| bounded(free).0)
    }

    /// What is foreseen less what was seen, in standard deviations of the seeing.
    fn misses(&self, sds: &DVector<f64>) -> Option<DVector<f64>> {
        let mut all = foreseen(self, &self.person(sds), &Placed::clone)?;
        for (value, aim) in all.iter_mut().zip(self.aims) {
            *value = (*value - aim.value) / aim.spread;
        }
        Some(all)
    }

    /// What the misses answer to each parameter, in prior standard deviations.
    fn slopes(&self, sds: &DVector<f64>) -> Option<DMatrix<f64>> {
        let here = self.misses(sds)?;
        let mut slopes = DMatrix::zeros(self.aims.len(), FITTED.len());
        for index in 0..FITTED.len() {
            let mut moved = sds.clone();
            moved[index] += STEP_SD;
            slopes.set_column(index, &((self.misses(&moved)? - &here) / STEP_SD));
        }
        Some(slopes)
    }
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Problem<'_> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, at: &DVector<f64>) {
        self.at.copy_from(at);
    }

    fn params(&self) -> DVector<f64> {
        self.at.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        let sds = self.bounded();
        let misses = self.misses(&sds)?;
        Some(DVector::from_iterator(
            misses.len() + sds.len(),
            misses.iter().chain(sds.iter()).copied(),
        ))
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let mut slopes = self.slopes(&self.bounded())?;
        let seen = slopes.nrows();
        slopes.resize_vertically_mut(seen + FITTED.len(), 0.0);
        for (index, free) in self.at.iter().enumerate() {
            let (_, rate) = bounded(*free);
            slopes.column_mut(index).scale_mut(rate);
            slopes[(seen + index, index)] = rate;
        }
        Some(slopes)
    }
}

/// Fits the rider of a ride, whose setup is the bike as found, to what was seen.
pub fn calibrate(ride: &Ride, looks: &[Look]) -> Result<Calibration, Vec<Refusal>> {
    let plain = ride.altered(|facts| facts.fit = None);
    let aims = aims(looks);
    if aims.is_empty() {
        return Err(refused(
            "Nothing was seen yet: measure an angle on the rider first",
        ));
    }
    let scenery: Option<Vec<Scenery>> = looks
        .iter()
        .map(|look| {
            let facts = Facts {
                hands: look.hands,
                ..Facts::clone(&plain)
            };
            let setup = Placed::of(look.setup)?;
            Some(Scenery { facts, setup })
        })
        .collect();
    let scenery = scenery.ok_or_else(cannot)?;
    let mut problem = Problem {
        ride: &plain,
        looks: &scenery,
        aims: &aims,
        at: DVector::zeros(FITTED.len()),
    };
    let cost = |problem: &Problem| problem.residuals().map(|all| all.norm_squared());
    let before = cost(&problem).ok_or_else(cannot)?;
    let (fitted, _) = LevenbergMarquardt::new()
        .with_ftol(1e-5)
        .with_xtol(1e-4)
        .with_gtol(1e-5)
        .with_patience(6)
        .minimize(problem);
    problem = fitted;
    let mut after = cost(&problem).unwrap_or(f64::INFINITY);
    if after > before {
        problem.at.fill(0.0);
        after = before;
    }
    report(&problem, before, after).ok_or_else(cannot)
}

fn refused(words: &str) -> Vec<Refusal> {
    vec![Refusal::new("/seen", words)]
}

fn cannot() -> Vec<Refusal> {
    refused(
        "The rider cannot be fitted to this: one of the outputs is none of this bike's, or the saddle has no place",
    )
}

/// What came of the fit.
fn report(problem: &Problem, cost_before: f64, cost_after: f64) -> Option<Calibration> {
    let sds = problem.bounded();
    let slopes = problem.slopes(&sds)?;
    let count = FITTED.len();
    let covariance = (slopes.transpose() * &slopes + DMatrix::identity(count, count))
        .cholesky()?
        .inverse();
    let prior_sds: Vec<f64> = FITTED
        .iter()
        .map(|p| problem.ride.person.prior_sd(*p))
        .collect();
    let held = held(problem, &sds, &slopes, &covariance)?;
    let root = covariance.clone().cholesky()?.l();
    let shifts: Vec<f64> = sds.iter().zip(&prior_sds).map(|(by, sd)| by * sd).collect();
    let parameters = FITTED
        .iter()
        .enumerate()
        .map(|(index, place)| {
            let answered: f64 = held.iter().map(|(_, r)| r[index].powi(2)).sum();
            let left = (covariance[(index, index)] + answered).min(1.0);
            let said_percent = 100.0 * (1.0 - left);
            let prior = problem.ride.person.value(*place);
            FittedParameter {
                label: sided(place.0.label(), place.1),
                unit: place.0.unit(),
                prior,
                prior_sd: prior_sds[index],
                fitted: prior + shifts[index],
                sd: prior_sds[index] * left.sqrt(),
                said_percent,
                words: said(said_percent, sds[index]),
            }
        })
        .collect();
    Some(Calibration {
        core_version: crate::VERSION.to_owned(),
        fit: Fit {
            shifts,
            spread: (0..count)
                .map(|row| {
                    (0..=row)
                        .map(|column| root[(row, column)] * prior_sds[row])
                        .collect()
                })
                .collect(),
            held: held
                .into_iter()
                .map(|(doubt, response)| Held {
                    doubt,
                    response: response
                        .iter()
                        .zip(&prior_sds)
                        .map(|(r, sd)| r * sd)
                        .collect(),
                })
                .collect(),
        },
        parameters,
        sightings: sightings(problem, &sds)?,
        cost_before,
        cost_after,
    })
}

/// How the fit would have answered each doubt that it holds, in prior standard deviations.
fn held(
    problem: &Problem,
    sds: &DVector<f64>,
    slopes: &DMatrix<f64>,
    covariance: &DMatrix<f64>,
) -> Option<Vec<(String, DVector<f64>)>> {
    let sample = Sample {
        before: problem.ride.setup,
        after: problem.ride.setup,
        person: problem.person(sds),
    };
    let here = foreseen(problem, &sample.person, &Placed::clone)?;
    held_doubts(&sample)
        .into_iter()
        .map(|doubt| {
            let mut moved = sample.clone();
            (doubt.by)(&mut moved, doubt.sd);
            let bikes = |setup: &Placed| {
                let mut on = Sample {
                    before: *setup,
                    ..sample.clone()
                };
                (doubt.by)(&mut on, doubt.sd);
                on.before
            };
            let mut answer = foreseen(problem, &moved.person, &bikes)? - &here;
            for (value, aim) in answer.iter_mut().zip(problem.aims) {
                *value /= aim.spread;
            }
            Some((doubt.name, -(covariance * (slopes.transpose() * answer))))
        })
        .collect()
}

/// How much the data said of a parameter, in words.
fn said(percent: f64, sds: f64) -> String {
    if sds.abs() > 0.9 * BOUND_SD {
        return "at the end of what is believable: measure it".to_owned();
    }
    let words = if percent < 10.0 {
        "hardly anything"
    } else if percent < 40.0 {
        "a little"
    } else if percent < 75.0 {
        "a good part"
    } else {
        "nearly all"
    };
    words.to_owned()
}

/// What was seen beside what is foreseen.
fn sightings(problem: &Problem, sds: &DVector<f64>) -> Option<Vec<FittedSighting>> {
    let before = foreseen(problem, &problem.ride.person, &Placed::clone)?;
    let after = foreseen(problem, &problem.person(sds), &Placed::clone)?;
    Some(
        problem
            .aims
            .iter()
            .zip(before.iter().zip(after.iter()))
            .map(|(aim, (before, after))| {
                let spec = aim.output.spec();
                let off = aim.value - after;
                FittedSighting {
                    output: aim.output,
                    label: sided(spec.label, spec.per_side.then_some(aim.side)),
                    unit: spec.unit,
                    seen: aim.value,
                    spread: aim.spread,
                    before: *before,
                    after: *after,
                    question: (off.abs() > QUESTIONED_SD * aim.spread).then(|| {
                        format!(
                            "{}{} off what the rest says: look again",
                            written(off.abs()),
                            spec.unit.suffix()
                        )
                    }),
                }
            })
            .collect(),
    )
}
