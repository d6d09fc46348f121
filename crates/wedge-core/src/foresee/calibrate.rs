//! Calibration: the rider fitted to what was seen.
//!
//! A bounded least-squares fit with priors: minimises `Σ((seen − model − bias)/σ)² + Σ((p − p₀)/s)²` within
//! ± 2.5 s, by Levenberg and Marquardt's method. What two angles cannot tell apart stays as wide as it was, and what
//! is held (trunk, elbow, feet, the tape on the bike) stays in doubt: had it been otherwise, the fit would have been,
//! and every band afterwards knows by how much.
//!
//! Beside the rider stands what only some readings have in common: what an observer adds to every angle read by one
//! method in one visit, and how an elbow was bent on another setup than the latest. They take their share of what was
//! seen, and are no part of the rider.

use super::doubt::{Sample, held_doubts};
use crate::bike::{HandPlace, Placed, Setup};
use crate::measure::{Limbs, Method, Output, Refusal, Unit};
use crate::position::{
    BOUND_SD, FITTED, Facts, Fit, Held, Parameter, Person, Place, Position, Ride, Scene, Seated,
};
use crate::rider::{Detail, PitchSeen, Rider};
use crate::units::{Degrees, Side, Sides};
use crate::words::{lower, sided, written};
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
    /// One standard deviation of it as it was worked out, where that was done; the method's own otherwise.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub spread: Option<f64>,
}

impl Sighting {
    /// One standard deviation of it: as worked out, or ± 3° by goniometer, 2° on film (the craft), 5 mm by plumb line, 1 % on
    /// scales (house choices).
    pub fn spread(&self) -> f64 {
        self.scatter().hypot(self.floor())
    }

    /// The part of its spread that is common to every reading by this method: it stays, however often one looks.
    fn floor(&self) -> f64 {
        match self.output.spec().unit {
            Unit::Deg => self.observer().spread(),
            Unit::Percent => 0.0,
            _ => COMMON_LENGTH_MM,
        }
    }

    /// The part that is each reading's own, and grows smaller in their mean.
    fn scatter(&self) -> f64 {
        let usual = match (self.output.spec().unit, self.observer()) {
            (Unit::Deg, Observer::Film) => ON_FILM_DEG,
            (Unit::Deg, Observer::Goniometer) => BY_GONIOMETER_DEG,
            (Unit::Percent, _) => ON_SCALES_PERCENT,
            _ => LENGTH_SEEN_MM,
        };
        let whole = self.spread.unwrap_or(usual).max(1.02 * self.floor());
        (whole * whole - self.floor().powi(2)).sqrt()
    }

    /// Whether it is another reading of the same, taken the same way.
    fn is_again(&self, other: &Self) -> bool {
        (self.output, self.side, self.observer()) == (other.output, other.side, other.observer())
    }

    /// Who adds the same to all of them.
    fn observer(&self) -> Observer {
        match self.method {
            Method::Film | Method::Camera => Observer::Film,
            _ => Observer::Goniometer,
        }
    }
}

/// Readings of one output at one look, taken together.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SeenTogether {
    /// Their mean.
    pub mean: f64,
    /// One standard deviation of the mean: smaller with their number, but never less than what the method adds to all.
    pub spread: f64,
    /// How many there are.
    pub count: usize,
    /// The one that stands far from the others, when one does.
    pub far: Option<f64>,
}

impl SeenTogether {
    /// What readings of one output on one side say together; `None` without any.
    ///
    /// ```
    /// use wedge_core::foresee::{SeenTogether, Sighting};
    /// use wedge_core::measure::{Method, Output};
    ///
    /// let read = |value| Sighting { output: Output::KneeAtFullReach, side: None, value, method: Method::Film, spread: None };
    /// let seen = SeenTogether::of(&[read(40.0), read(42.0), read(44.0)]).expect("three readings");
    /// assert_eq!((seen.mean, seen.count), (42.0, 3));
    /// assert!(seen.spread < read(40.0).spread());
    /// ```
    pub fn of(readings: &[Sighting]) -> Option<Self> {
        // By its weight, a surer method counts for more.
        let weight = |reading: &Sighting| reading.scatter().powi(-2);
        let whole: f64 = readings.iter().map(weight).sum();
        let mean = readings.iter().map(|r| r.value * weight(r)).sum::<f64>() / whole;
        let floor = readings.iter().map(Sighting::floor).reduce(f64::min)?;
        // How far each stands from the mean of the others; one against one tells nothing of either.
        let apart = |at: usize| {
            let others = (readings.iter().enumerate()).filter(|(other, _)| *other != at);
            let (count, sum) = others.fold((0.0, 0.0), |(count, sum), (_, r)| {
                (count + 1.0, sum + r.value)
            });
            (readings[at].value - sum / count).abs()
                / (readings[at].scatter() * (1.0_f64 + 1.0 / count).sqrt())
        };
        let far = (0..readings.len())
            .filter(|_| readings.len() > 2)
            .map(|at| (at, apart(at)))
            .max_by(|a, b| a.1.total_cmp(&b.1))
            .filter(|(_, apart)| *apart > QUESTIONED_SD)
            .map(|(at, _)| &readings[at]);
        Some(Self {
            mean,
            spread: whole.powf(-0.5).hypot(floor),
            count: readings.len(),
            far: far.map(|reading| reading.value),
        })
    }
}

/// What was seen of the rider on one setup.
#[derive(Debug, Clone, PartialEq)]
pub struct Look {
    /// The setup on the bench.
    pub setup: Setup,
    /// Where the hands were.
    pub hands: Option<HandPlace>,
    /// What was seen; an output seen again is another reading of it.
    pub seen: Vec<Sighting>,
    /// Weeks between it and the latest one: riders change.
    pub weeks: f64,
    /// Which visit it belongs to: an observer is off alike in all of one.
    pub visit: usize,
}

impl Look {
    /// What was seen on a setup lately, the hands in the bar's main place.
    pub fn of(setup: Setup, seen: Vec<Sighting>) -> Self {
        Self {
            setup,
            hands: None,
            seen,
            weeks: 0.0,
            visit: 0,
        }
    }

    /// Whether the rider sat the same on both.
    fn is_alike(&self, other: &Self) -> bool {
        (self.setup, self.hands) == (other.setup, other.hands)
    }
}

/// How an angle is read: everything read so in one visit is off by something in common.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Observer {
    Film,
    Goniometer,
}

impl Observer {
    /// The fitter's words.
    fn label(self) -> &'static str {
        match self {
            Self::Film => "Film, every angle seen larger by",
            Self::Goniometer => "Goniometer, every angle seen larger by",
        }
    }

    /// One standard deviation of what it adds.
    fn spread(self) -> f64 {
        match self {
            Self::Film => COMMON_ON_FILM_DEG,
            Self::Goniometer => COMMON_BY_GONIOMETER_DEG,
        }
    }
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
        // Where the house begins with the foot is no measure of the body: a fit knows where its own began.
        let body = |place: &Place| place.0 != Parameter::PitchPeak;
        let all = FITTED.iter().zip(&self.parameters);
        all.filter(|(place, _)| body(place)).all(|(place, was)| {
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
    pub(super) const BY_GONIOMETER_DEG: f64 = 3.0, "°", Workshop;
    /// A length seen on the rider, one standard deviation.
    const LENGTH_SEEN_MM: f64 = 5.0, " mm", House;
    /// The front wheel's share read on two floor scales, one standard deviation.
    const ON_SCALES_PERCENT: f64 = 1.0, " %", House;
    /// What an observer adds to every angle off the films of one visit, one standard deviation.
    const COMMON_ON_FILM_DEG: f64 = 1.0, "°", House;
    /// What an observer adds to every angle by goniometer in one visit, one standard deviation.
    const COMMON_BY_GONIOMETER_DEG: f64 = 1.5, "°", House;
    /// The part that every length seen has in common.
    const COMMON_LENGTH_MM: f64 = 2.5, " mm", House;
    /// How alike the two sides of a rider are in what was measured of neither: the correlation of left and right.
    const ALIKE: f64 = 0.9, "", House;
    /// How much an elbow is bent more or less on another setup or with the hands elsewhere, one standard deviation.
    const ELBOW_ELSEWHERE_DEG: f64 = 3.0, "°", House;
    /// What a week adds to the spread of what was seen.
    const A_WEEK_ADDS_DEG: f64 = 0.25, "° a week", House;
    /// What was seen this far from the fitted model is questioned.
    const QUESTIONED_SD: f64 = 3.0, " standard deviations", House;
    /// A fit whose weighted squares are so far over one a reading is not believed.
    const FAR_SD: f64 = 5.0, " standard deviations", House;
}
/// How far to either side a fit is begun anew, in prior standard deviations.
const STARTS_SD: f64 = 1.5;
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
    /// The part of the spread that it shares with no other.
    own: f64,
    /// Who read it in which visit, of an angle.
    observer: Option<Shared>,
    /// The reading that stands far from the others.
    far: Option<f64>,
}

/// What only some of the readings have in common.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Shared {
    /// What an observer adds to every angle in one visit.
    Observer { who: Observer, visit: usize },
    /// By how much the elbow of a look is bent more than in the latest.
    Elbow { look: usize },
}

impl Shared {
    /// One standard deviation of it.
    fn spread(self) -> f64 {
        match self {
            Self::Observer { who, .. } => who.spread(),
            Self::Elbow { .. } => ELBOW_ELSEWHERE_DEG,
        }
    }

    /// The fitter's words.
    fn label(self) -> &'static str {
        match self {
            Self::Observer { who, .. } => who.label(),
            Self::Elbow { .. } => "Elbow, on an earlier setup bent more by",
        }
    }
}

/// What the looks' readings have in common, where the data can carry it: several angles by one observer in one visit, an
/// upper body seen as it sat before. Of the angles of such an observer only the scatter is left their own.
fn shared(looks: &[Look], aims: &mut [Aim]) -> Vec<Shared> {
    let mut all: Vec<Shared> = Vec::new();
    for aim in aims.iter() {
        let theirs = |other: &Aim| other.observer == aim.observer && other.output != aim.output;
        let observer = aim.observer.filter(|_| aims.iter().any(theirs));
        all.extend(observer.filter(|observer| !all.contains(observer)));
    }
    for aim in aims.iter_mut() {
        if let Some(observer) = aim.observer.filter(|observer| all.contains(observer)) {
            aim.own = (aim.spread.powi(2) - observer.spread().powi(2)).sqrt();
        }
    }
    let Some(latest) = (looks.iter().rev()).min_by(|a, b| a.weeks.total_cmp(&b.weeks)) else {
        return all;
    };
    let elsewhere = looks.iter().enumerate().filter(|(at, look)| {
        let arms =
            |aim: &Aim| aim.look == *at && !matches!(aim.output.limbs(), Limbs::None | Limbs::Leg);
        !look.is_alike(latest) && aims.iter().any(arms)
    });
    all.extend(elsewhere.map(|(look, _)| Shared::Elbow { look }));
    all
}

/// Everything seen, one row a side: readings of the same as one.
fn aims(looks: &[Look]) -> Vec<Aim> {
    let mut aims = Vec::new();
    for (look, seen) in looks.iter().enumerate() {
        for (index, first) in seen.seen.iter().enumerate() {
            if seen.seen[..index]
                .iter()
                .any(|earlier| earlier.is_again(first))
            {
                continue;
            }
            let again: Vec<Sighting> = (seen.seen.iter().copied())
                .filter(|s| s.is_again(first))
                .collect();
            let Some(together) = SeenTogether::of(&again) else {
                continue;
            };
            // Both sides alike is one look at two legs.
            let both = first.output.spec().per_side && first.side.is_none();
            let sides: &[Side] = if both { &Side::BOTH } else { &[Side::Right] };
            for side in sides {
                let spread = together.spread.hypot(A_WEEK_ADDS_DEG * seen.weeks)
                    * if both { 2.0_f64.sqrt() } else { 1.0 };
                aims.push(Aim {
                    look,
                    output: first.output,
                    side: first.side.unwrap_or(*side),
                    value: together.mean,
                    spread,
                    own: spread,
                    observer: (first.output.spec().unit == Unit::Deg).then(|| Shared::Observer {
                        who: first.observer(),
                        visit: seen.visit,
                    }),
                    far: together.far,
                });
            }
        }
    }
    aims
}

/// What was on the bench at one look, the hands where they were.
struct Scenery {
    facts: Facts,
    setup: Placed,
}

/// The rider as fitted, with what only some of the looks have in common.
struct Fitted {
    person: Person,
    /// Each in its degrees.
    shared: Vec<f64>,
}

impl Fitted {
    /// The rider as on one look.
    fn on(&self, problem: &Problem, look: usize) -> Person {
        let mut person = self.person.clone();
        for (shared, by) in problem.shared.iter().zip(&self.shared) {
            if *shared == (Shared::Elbow { look }) {
                person.shift((Parameter::Elbow, None), *by);
            }
        }
        person
    }

    /// What the observer of an aim adds to it.
    fn added(&self, problem: &Problem, aim: &Aim) -> f64 {
        let shared = problem.shared.iter().zip(&self.shared);
        shared
            .filter(|(shared, _)| aim.observer == Some(**shared))
            .map(|(_, by)| by)
            .sum()
    }
}

/// What is foreseen of every aim by a rider on the looks' setups, each moved first, legs that do not reach continued past
/// straight or not; `None` where there is nothing.
fn foreseen(
    problem: &Problem,
    fitted: &Fitted,
    continued: bool,
    moved: &dyn Fn(&Placed) -> Placed,
) -> Option<DVector<f64>> {
    let person = &fitted.person;
    let found = moved(&problem.ride.setup);
    let seen = Seated::of(problem.ride, person, &found, Degrees(0.0)).observe(person, &found);
    let mut all = DVector::zeros(problem.aims.len());
    let mut last: Option<(usize, Position)> = None;
    for (index, aim) in problem.aims.iter().enumerate() {
        if last.as_ref().is_none_or(|(look, _)| *look != aim.look) {
            let at = problem.looks.get(aim.look)?;
            let there = fitted.on(problem, aim.look);
            last = Some((aim.look, seated(at, &there, &seen, continued, moved)));
        }
        let (_, position) = last.as_ref()?;
        all[index] = aim.output.as_drawn(position, aim.side)? + fitted.added(problem, aim);
    }
    Some(all)
}

fn seated(
    at: &Scenery,
    person: &Person,
    seen: &Sides<PitchSeen>,
    continued: bool,
    moved: &dyn Fn(&Placed) -> Placed,
) -> Position {
    let scene = Scene {
        facts: &at.facts,
        person,
        seen,
        rotation: Degrees(0.0),
        detail: Detail::Plain,
        near: None,
        continued,
    };
    Position::of(&scene, &moved(&at.setup))
}

/// The fit as the solver sees it: parameters in prior standard deviations, bent so that none leaves its bounds.
struct Problem<'a> {
    /// The rider on the bike as found, nothing fitted.
    ride: &'a Ride,
    looks: &'a [Scenery],
    aims: &'a [Aim],
    /// What only some of the aims have in common: fitted after the parameters.
    shared: &'a [Shared],
    /// From what is fitted to the parameters, both in prior standard deviations: the two sides of one rider are mostly
    /// alike, so what is fitted is what they have in common and by how much they differ.
    mix: &'a DMatrix<f64>,
    at: DVector<f64>,
}

/// The two sides of what is estimated, or a habit, as their common part and their difference.
fn mix(person: &Person, count: usize) -> DMatrix<f64> {
    let mut mix = DMatrix::identity(count, count);
    for (left, (parameter, side)) in FITTED.into_iter().enumerate() {
        let right = left + 1;
        if side != Some(Side::Left) || !person.is_alike(parameter) {
            continue;
        }
        let [common, apart] = [ALIKE, -ALIKE].map(|alike| f64::midpoint(1.0, alike).sqrt());
        mix[(left, left)] = common;
        mix[(left, right)] = apart;
        mix[(right, left)] = common;
        mix[(right, right)] = -apart;
    }
    mix
}

/// A free number within the bounds, and how fast it moves there.
fn bounded(free: f64) -> (f64, f64) {
    let bent = (free / BOUND_SD).tanh();
    (BOUND_SD * bent, 1.0 - bent * bent)
}

impl Problem<'_> {
    /// How much is fitted.
    fn count(&self) -> usize {
        FITTED.len() + self.shared.len()
    }

    /// The rider with what is fitted so.
    fn rider(&self, fitted: &DVector<f64>) -> Fitted {
        let prior = &self.ride.person;
        let sds = self.sds(fitted);
        let shifts = (FITTED.iter().zip(sds.iter())).map(|(p, by)| by * prior.prior_sd(*p));
        let shared = (self.shared.iter().zip(sds.iter().skip(FITTED.len())))
            .map(|(shared, by)| by * shared.spread());
        Fitted {
            person: prior.clone().fitted(shifts),
            shared: shared.collect(),
        }
    }

    /// By how much each parameter is moved, in prior standard deviations.
    fn sds(&self, fitted: &DVector<f64>) -> DVector<f64> {
        self.mix * fitted
    }

    /// Weighted squares of what was seen and of the priors.
    fn cost(&self) -> Option<f64> {
        self.residuals().map(|all| all.norm_squared())
    }

    /// Down to the nearest valley.
    fn minimize(&mut self) {
        let from = Problem {
            at: self.at.clone(),
            ..*self
        };
        let (reached, _) = LevenbergMarquardt::new()
            .with_ftol(1e-5)
            .with_xtol(1e-4)
            .with_gtol(1e-5)
            .with_patience(6)
            .minimize(from);
        self.at = reached.at;
    }

    fn bounded(&self) -> DVector<f64> {
        self.at.map(|free| bounded(free).0)
    }

    /// What is foreseen less what was seen, in standard deviations of the seeing.
    fn misses(&self, sds: &DVector<f64>) -> Option<DVector<f64>> {
        let mut all = foreseen(self, &self.rider(sds), true, &Placed::clone)?;
        for (value, aim) in all.iter_mut().zip(self.aims) {
            *value = (*value - aim.value) / aim.own;
        }
        Some(all)
    }

    /// What the misses answer to each parameter, in prior standard deviations.
    fn slopes(&self, sds: &DVector<f64>) -> Option<DMatrix<f64>> {
        let here = self.misses(sds)?;
        let mut slopes = DMatrix::zeros(self.aims.len(), self.count());
        for index in 0..self.count() {
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
        slopes.resize_vertically_mut(seen + self.count(), 0.0);
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
    let mut aims = aims(looks);
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
    let shared = shared(looks, &mut aims);
    let count = FITTED.len() + shared.len();
    let mix = mix(&plain.person, count);
    let mut problem = Problem {
        ride: &plain,
        looks: &scenery,
        aims: &aims,
        shared: &shared,
        mix: &mix,
        at: DVector::zeros(count),
    };
    let before = problem.cost().ok_or_else(cannot)?;
    problem.minimize();
    let mut after = problem.cost().unwrap_or(f64::INFINITY);
    if after > before {
        problem.at.fill(0.0);
        after = before;
    }
    // What stays far off may have gone down the wrong valley: others are tried before it is given up.
    if is_far(&problem) {
        for start in starts(count) {
            let mut other = Problem {
                at: start,
                ..problem
            };
            other.minimize();
            if let Some(cost) = other.cost().filter(|cost| *cost < after) {
                (after, problem.at) = (cost, other.at);
            }
        }
    }
    if is_far(&problem) {
        return Err(fights(&problem).map_or_else(cannot, |words| refused(&words)));
    }
    report(&problem, before, after).ok_or_else(cannot)
}

/// Whether what was seen and what was thought do not go together: the squares of all misses, each against all that its
/// reading may be off by, and of the priors, are far over one a reading.
fn is_far(problem: &Problem) -> bool {
    let sds = problem.bounded();
    let Some(misses) = problem.misses(&sds) else {
        return true;
    };
    let seen = (misses.iter().zip(problem.aims)).map(|(miss, aim)| miss * aim.own / aim.spread);
    let cost: f64 = seen.chain(sds.iter().copied()).map(|off| off * off).sum();
    let count: f64 = problem.aims.iter().map(|_| 1.0).sum();
    cost > count + FAR_SD * (2.0 * count).sqrt() + FAR_SD
}

/// Where else a fit is begun: one thing at a time well to either side of what was thought.
fn starts(count: usize) -> impl Iterator<Item = DVector<f64>> {
    let telling = |place: &Place| {
        matches!(
            place,
            (
                Parameter::Thigh | Parameter::Shank | Parameter::PitchMean | Parameter::PitchPeak,
                Some(Side::Left)
            ) | (Parameter::HipForward | Parameter::HipRise, None)
        )
    };
    (FITTED.iter().enumerate())
        .filter(move |(_, place)| telling(place))
        .flat_map(|(index, _)| [1.0, -1.0].map(|way| (index, way * STARTS_SD)))
        .map(move |(index, by)| {
            let mut start = DVector::zeros(count);
            start[index] = by;
            start
        })
}

/// Which reading and which length fight, when what was seen and what was measured do not go together.
fn fights(problem: &Problem) -> Option<String> {
    let fitted = problem.bounded();
    let (sds, misses) = (problem.sds(&fitted), problem.misses(&fitted)?);
    let largest = |of: &DVector<f64>| {
        of.iter()
            .map(|by| by.abs())
            .enumerate()
            .max_by(|a, b| a.1.total_cmp(&b.1))
    };
    let (reading, off) = largest(&misses)?;
    let aim = &problem.aims[reading];
    let spec = aim.output.spec();
    let seen = format!(
        "{} seen as {}{} stays {}{} off",
        sided(spec.label, spec.per_side.then_some(aim.side)),
        written(aim.value),
        spec.unit.suffix(),
        written(off * aim.own),
        spec.unit.suffix()
    );
    // What an observer adds is no length, and nothing to measure again.
    let lengths = DVector::from_iterator(
        FITTED.len(),
        (FITTED.iter().zip(sds.iter()))
            .map(|(place, by)| if place.0.is_bias() { 0.0 } else { *by }),
    );
    let (place, _) = largest(&lengths)?;
    let (parameter, side) = FITTED[place];
    let by = sds[place] * problem.ride.person.prior_sd(FITTED[place]);
    Some(format!(
        "What was seen and what was measured do not go together: {}, even with the {} {}{} {} than it was taken for. Look \
         again, measure that again; until then nothing is fitted",
        lower(&seen),
        lower(&sided(parameter.label(), side)),
        written(by.abs()),
        parameter.unit().suffix(),
        if by > 0.0 { "more" } else { "less" },
    ))
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
    let fitted = problem.bounded();
    let slopes = problem.slopes(&fitted)?;
    let count = problem.count();
    let of_fitted = (slopes.transpose() * &slopes + DMatrix::identity(count, count))
        .cholesky()?
        .inverse();
    let held: Vec<(String, DVector<f64>)> = held(problem, &fitted, &slopes, &of_fitted)?
        .into_iter()
        .map(|(doubt, response)| (doubt, problem.mix * response))
        .collect();
    // From here on parameter by parameter.
    let covariance = problem.mix * of_fitted * problem.mix.transpose();
    let sds = problem.sds(&fitted);
    let person = &problem.ride.person;
    let prior_sds: Vec<f64> = (FITTED.iter().map(|place| person.prior_sd(*place)))
        .chain(problem.shared.iter().map(|shared| shared.spread()))
        .collect();
    let root = covariance.clone().cholesky()?.l();
    let of_the_rider = (FITTED.iter()).map(|p| (p.0.label(), p.1, p.0.unit(), person.value(*p)));
    let of_the_looks = (problem.shared.iter()).map(|s| (s.label(), None, Unit::Deg, 0.0));
    let parameters = of_the_rider
        .chain(of_the_looks)
        .enumerate()
        .map(|(index, (label, side, unit, prior))| {
            let answered: f64 = held.iter().map(|(_, r)| r[index].powi(2)).sum();
            let left = (covariance[(index, index)] + answered).min(1.0);
            FittedParameter {
                label: sided(label, side),
                unit,
                prior,
                prior_sd: prior_sds[index],
                fitted: prior + sds[index] * prior_sds[index],
                sd: prior_sds[index] * left.sqrt(),
                said_percent: 100.0 * (1.0 - left),
                words: said(100.0 * (1.0 - left), sds[index]),
            }
        })
        .collect();
    // The rest is of the rider alone: what only some readings had in common is not carried on.
    let own = FITTED.len();
    Some(Calibration {
        core_version: crate::VERSION.to_owned(),
        fit: Fit {
            peak_from_deg: Sides::from_fn(|side| problem.ride.rider.pitch.of(side).peak_deg),
            shifts: (sds.iter().zip(&prior_sds).take(own))
                .map(|(by, sd)| by * sd)
                .collect(),
            spread: (0..own)
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
                    response: (response.iter().zip(&prior_sds).take(own))
                        .map(|(r, sd)| r * sd)
                        .collect(),
                })
                .collect(),
        },
        parameters,
        sightings: sightings(problem, &fitted)?,
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
    let fitted = problem.rider(sds);
    let sample = Sample {
        before: problem.ride.setup,
        after: problem.ride.setup,
        person: fitted.person,
    };
    let of = |person: Person| Fitted {
        person,
        shared: fitted.shared.clone(),
    };
    let here = foreseen(problem, &of(sample.person.clone()), true, &Placed::clone)?;
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
            let mut answer = foreseen(problem, &of(moved.person), true, &bikes)? - &here;
            for (value, aim) in answer.iter_mut().zip(problem.aims) {
                *value /= aim.own;
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
    let nothing = DVector::zeros(problem.count());
    let before = foreseen(problem, &problem.rider(&nothing), false, &Placed::clone)?;
    let after = foreseen(problem, &problem.rider(sds), false, &Placed::clone)?;
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
                    question: question(aim, off),
                }
            })
            .collect(),
    )
}

/// What to look at again.
fn question(aim: &Aim, off: f64) -> Option<String> {
    let unit = aim.output.spec().unit.suffix();
    if let Some(far) = aim.far {
        return Some(format!(
            "{}{unit} stands far from the other readings: look again",
            written(far)
        ));
    }
    (off.abs() > QUESTIONED_SD * aim.spread).then(|| {
        format!(
            "{}{unit} off what the rest says: look again",
            written(off.abs())
        )
    })
}
