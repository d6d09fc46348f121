//! Calibration: the rider fitted to what was seen.
//!
//! A bounded least-squares fit with priors: minimises `Σ((seen − model − bias)/σ)² + Σ((p − p₀)/s)²` within
//! ± 2.5 s, by Levenberg and Marquardt's method. What two angles cannot tell apart stays as wide as it was, and what
//! is held (trunk, elbow, feet, the tape on the bike) stays in doubt: had it been otherwise, the fit would have been,
//! and every band afterwards knows by how much.

use super::band::{Sample, held_doubts};
use super::input::ForeseeInput;
use super::person::{BOUND_SD, FITTED, Fit, Held, Person};
use super::position::{Position, Scene, observe};
use crate::bike::{HandPlace, Setup};
use crate::judge::Output;
use crate::measure::{Method, Refusal, Unit, written};
use crate::rider::{Detail, PitchSeen};
use crate::units::{Degrees, Side, Sides};
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
    pub fn is_of(&self, rider: &super::Rider) -> bool {
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
struct Aim<'a> {
    look: &'a Look,
    output: Output,
    side: Side,
    value: f64,
    spread: f64,
}

/// Everything seen, one row a side.
fn aims(looks: &[Look]) -> Vec<Aim<'_>> {
    let mut aims = Vec::new();
    for look in looks {
        for seen in &look.seen {
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
    }
    aims
}

/// What is foreseen of every aim by a person on the looks' setups, each moved first; `None` where there is nothing.
fn foreseen(
    input: &ForeseeInput,
    person: &Person,
    aims: &[Aim],
    moved: &dyn Fn(&Setup) -> Setup,
) -> Option<DVector<f64>> {
    let mut found = input.clone();
    found.setup = moved(&input.setup);
    let seen = observe(&found, person)?;
    let mut all = DVector::zeros(aims.len());
    let mut last: Option<(&Look, Position)> = None;
    for (index, aim) in aims.iter().enumerate() {
        if !last
            .as_ref()
            .is_some_and(|(look, _)| std::ptr::eq(*look, aim.look))
        {
            last = Some((aim.look, seated(input, person, &seen, aim.look, moved)?));
        }
        let (_, position) = last.as_ref()?;
        all[index] = aim.output.of(position, aim.side)?;
    }
    Some(all)
}

fn seated(
    input: &ForeseeInput,
    person: &Person,
    seen: &Sides<PitchSeen>,
    look: &Look,
    moved: &dyn Fn(&Setup) -> Setup,
) -> Option<Position> {
    let mut input = input.clone();
    input.hands = look.hands;
    let scene = Scene {
        input: &input,
        person,
        seen,
        rotation: Degrees(0.0),
        detail: Detail::Plain,
    };
    Position::of(&scene, &moved(&look.setup))
}

/// The fit as the solver sees it: parameters in prior standard deviations, bent so that none leaves its bounds.
struct Problem<'a> {
    input: &'a ForeseeInput,
    prior: &'a Person,
    aims: &'a [Aim<'a>],
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
        let shifts = (FITTED.iter().zip(sds.iter())).map(|(p, by)| by * self.prior.prior_sd(*p));
        self.prior.clone().fitted(shifts)
    }

    fn bounded(&self) -> DVector<f64> {
        self.at.map(|free| bounded(free).0)
    }

    /// What is foreseen less what was seen, in standard deviations of the seeing.
    fn misses(&self, sds: &DVector<f64>) -> Option<DVector<f64>> {
        let mut all = foreseen(self.input, &self.person(sds), self.aims, &Setup::clone)?;
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

/// Fits the rider of `input`, whose setup is the bike as found, to what was seen.
pub fn calibrate(input: &ForeseeInput, looks: &[Look]) -> Result<Calibration, Vec<Refusal>> {
    let plain = ForeseeInput {
        fit: None,
        changes: Vec::new(),
        ..input.clone()
    };
    plain.check()?;
    let aims = aims(looks);
    if aims.is_empty() {
        return Err(refused(
            "Nothing was seen yet: measure an angle on the rider first",
        ));
    }
    let prior = Person::of(&plain.rider, None);
    let mut problem = Problem {
        input: &plain,
        prior: &prior,
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
    let prior_sds: Vec<f64> = FITTED.iter().map(|p| problem.prior.prior_sd(*p)).collect();
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
            let prior = problem.prior.value(*place);
            FittedParameter {
                label: place.1.map_or_else(
                    || place.0.label().to_owned(),
                    |side| format!("{}, {}", place.0.label(), side.word()),
                ),
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
    let person = problem.person(sds);
    let sample = Sample {
        before: problem.input.setup,
        after: problem.input.setup,
        person,
    };
    let here = foreseen(problem.input, &sample.person, problem.aims, &Setup::clone)?;
    held_doubts(&sample)
        .into_iter()
        .map(|doubt| {
            let mut moved = sample.clone();
            (doubt.by)(&mut moved, doubt.sd);
            let bikes = |setup: &Setup| {
                let mut on = Sample {
                    before: *setup,
                    ..sample.clone()
                };
                (doubt.by)(&mut on, doubt.sd);
                on.before
            };
            let mut answer = foreseen(problem.input, &moved.person, problem.aims, &bikes)? - &here;
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
    let before = foreseen(problem.input, problem.prior, problem.aims, &Setup::clone)?;
    let after = foreseen(
        problem.input,
        &problem.person(sds),
        problem.aims,
        &Setup::clone,
    )?;
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
                    label: if spec.per_side {
                        format!("{}, {}", spec.label, aim.side.word())
                    } else {
                        spec.label.to_owned()
                    },
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
