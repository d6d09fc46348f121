//! The rider's ledger: what was felt on each ride, by setting and by day, like rides with like.

use super::moves::{RideSign, SelfMove};
use super::statistics::{FEWEST, TheilSen, apart, median, real_slope};
use crate::foresee::Change;
use crate::measure::{Quantity, Refusal};
use crate::rider::Effort;
use crate::rule::rules;
use crate::trial::unlike;
use crate::units::Side;
use crate::words::{lower, sided, words, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Ledger";
    /// Rides compare when their efforts, of 10, are no further apart than
    const LIKE_EFFORT: f64 = 1.0, "", House;
    /// and their minutes no more than
    const LIKE_MINUTES: f64 = 0.3, " of the usual ride", House;
    /// Changes outrun the body when a second one comes within
    const SETTLES_DAYS: i32 = 7, " days", House;
    /// The load of a week outruns it, while something is moving, when it rises by more than
    const LOAD_UP: f64 = 0.3, " of the week before", House;
    /// A rating that is felt is one from
    pub const FELT: f64 = 4.0, " of 10", House;
    /// A rating that is as good as nothing is one up to
    pub const QUIET: f64 = 1.0, " of 10", House;
}

words! {
    /// What a rider rates after a ride.
    pub enum Rating {
        Hands "hands" "Hands",
        ThighFront "thigh_front" "Front of thigh",
        ThighBack "thigh_back" "Back of thigh",
        Saddle "saddle" "Saddle",
        Knees "knees" "Knees",
        Control "control" "Control at the bottom",
    }
}

impl Rating {
    /// The top of its scale. Of all but control it is the worst; control is lost at 0.
    pub const fn most(self) -> u8 {
        match self {
            Self::Control => 3,
            _ => 10,
        }
    }

    /// Whether it is rated left and right.
    pub const fn per_side(self) -> bool {
        !matches!(self, Self::Saddle | Self::Control)
    }
}

/// One rating of a ride.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Rated {
    /// What.
    pub rating: Rating,
    /// On which side, where it has sides.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// From 0, nothing felt, to 10; control from 0, none, to 3.
    pub value: u8,
}

/// What was said of a rating on a side, or without one.
pub fn rated(ratings: &[Rated], rating: Rating, side: Option<Side>) -> Option<u8> {
    let found = ratings
        .iter()
        .find(|r| (r.rating, r.side) == (rating, side));
    found.map(|rated| rated.value)
}

impl Rated {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let most = self.rating.most();
        let mut all = Vec::new();
        if self.value > most {
            let words = format!("{} is 0 to {most}", self.rating.label());
            all.push(Refusal::new(format!("{at}/value"), words));
        }
        if self.side.is_some() != self.rating.per_side() {
            let words = if self.rating.per_side() {
                "Say left or right"
            } else {
                "This has no sides"
            };
            all.push(Refusal::new(format!("{at}/side"), words));
        }
        all
    }
}

/// A ride as it is compared with others, its day counted from any day.
#[derive(Debug, Clone, PartialEq)]
pub struct Ridden {
    /// Its day.
    pub day: i32,
    /// Where, by the rider's name for it.
    pub circuit: String,
    /// How long.
    pub minutes: Option<f64>,
    /// How hard, of 10.
    pub effort: Option<f64>,
    /// Power and cadence, where they were recorded.
    pub power: Option<Effort>,
    /// Which plan it was ridden by, from 1; 0 without one.
    pub plan: u32,
    /// The step of the plan that stood, from 1; 0 as the fit left it.
    pub step: u32,
    /// What the rider moved before it.
    pub moved: Vec<SelfMove>,
    /// What was felt.
    pub ratings: Vec<Rated>,
    /// And what must not be passed over.
    pub signs: Vec<RideSign>,
}

/// How the bike stood on a ride: as the fit left it, with the plan's steps until then and what the rider moved.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Standing {
    /// Which plan, from 1; 0 without one.
    pub plan: u32,
    /// Its step, from 1.
    pub step: u32,
    /// How much the rider raised the saddle in all, mm.
    pub up_mm: f64,
    /// And moved it back, mm.
    pub back_mm: f64,
}

impl Standing {
    /// "as left", "step 2", "step 2, saddle 5 down".
    pub fn words(&self) -> String {
        let step = if self.step == 0 {
            "as left".to_owned()
        } else {
            format!("step {}", self.step)
        };
        let moved = |by: f64, more: &str, less: &str| {
            let way = if by > 0.0 { more } else { less };
            (by != 0.0).then(|| format!(", saddle {} {way}", written(by.abs())))
        };
        let up = moved(self.up_mm, "up", "down").unwrap_or_default();
        let back = moved(self.back_mm, "back", "forward").unwrap_or_default();
        format!("{step}{up}{back}")
    }

    /// "as left", "at step 2": where something was so.
    fn at(&self) -> String {
        let words = self.words();
        if self.step == 0 {
            words
        } else {
            format!("at {words}")
        }
    }

    /// What is to be changed of the bike as the fit left it to have it so, with what each step of its plan changes, in order.
    pub fn changes(&self, steps: &[Vec<Change>]) -> Vec<Change> {
        let done = steps.iter().take(self.step as usize).flatten().copied();
        let own = [
            Change::by(Quantity::SaddleHeight, self.up_mm),
            Change::by(Quantity::Setback, self.back_mm),
        ];
        let mut all: Vec<Change> = Vec::new();
        for one in done.chain(own) {
            let same =
                |change: &&mut Change| (change.quantity, change.side) == (one.quantity, one.side);
            match all.iter_mut().find(same) {
                Some(change) => change.by = change.by.zip(one.by).map(|(so_far, by)| so_far + by),
                None => all.push(one),
            }
        }
        all.retain(|change| change.by.is_some_and(|by| by.abs() > 1e-9));
        all
    }
}

/// One rating over all rides.
#[derive(Debug, Clone, PartialEq)]
pub struct Series {
    /// What.
    pub rating: Rating,
    /// On which side; none where it has none, or where both were always alike.
    pub side: Option<Side>,
    /// Each ride that rated it: its place among the rides, and what it said.
    pub points: Vec<(usize, f64)>,
    /// Its slope by day over the rides that compare, where it is more than noise.
    pub trend: Option<TheilSen>,
    /// Of each setting, in the order they were ridden: how many rides that compare rated it, and their median.
    pub medians: Vec<(usize, Option<f64>)>,
    /// What of it is a real change, in words.
    pub words: Vec<String>,
}

impl Series {
    /// "Knees, left", "Hands".
    pub fn label(&self) -> String {
        sided(self.rating.label(), self.side)
    }
}

/// What outruns the body, or must not be passed over, of the ride at a place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Warning {
    /// A second change came within days of the one before: the ride of that one, and this.
    Hurried(usize, usize),
    /// The week's load rose by this share of the one before while something was moving.
    Loaded(usize, f64),
    /// The rider reported this.
    Reported(usize, RideSign),
}

/// The ledger as it is read.
#[derive(Debug, Clone, PartialEq)]
pub struct LedgerRead {
    /// How the bike stood, in the order it did.
    pub standings: Vec<Standing>,
    /// Of each ride, which of them.
    pub of: Vec<usize>,
    /// Of each ride, why it does not compare with the others.
    pub apart: Vec<Option<String>>,
    /// Every rating.
    pub series: Vec<Series>,
    /// What outruns the body.
    pub warnings: Vec<Warning>,
}

/// Reads rides in the order they were ridden.
pub fn read(rides: &[Ridden]) -> LedgerRead {
    let (standings, of) = standings(rides);
    let apart = unlike_rides(rides);
    let series = series(rides, (&of, standings.as_slice()), &apart);
    let warnings = warnings(rides, &of);
    LedgerRead {
        standings,
        of,
        apart,
        series,
        warnings,
    }
}

/// How the bike stood on each ride: what the rider moved stays until it is moved again.
fn standings(rides: &[Ridden]) -> (Vec<Standing>, Vec<usize>) {
    let (mut up_mm, mut back_mm) = (0.0, 0.0);
    let mut all: Vec<Standing> = Vec::new();
    let mut of = Vec::new();
    for ride in rides {
        for moved in &ride.moved {
            let (quantity, by) = moved.moves();
            if quantity == Quantity::SaddleHeight {
                up_mm += by;
            } else {
                back_mm += by;
            }
        }
        let here = Standing {
            plan: ride.plan,
            step: ride.step,
            up_mm,
            back_mm,
        };
        let known = all.iter().position(|standing| *standing == here);
        of.push(known.unwrap_or(all.len()));
        if known.is_none() {
            all.push(here);
        }
    }
    (all, of)
}

fn same_circuit(a: &str, b: &str) -> bool {
    a.trim().to_lowercase() == b.trim().to_lowercase()
}

/// Why each ride does not compare with the rest: those on the circuit that was ridden most, at the effort and for as long as
/// it is ridden mostly.
fn unlike_rides(rides: &[Ridden]) -> Vec<Option<String>> {
    let times = |circuit: &str| {
        let same = rides.iter().filter(|r| same_circuit(&r.circuit, circuit));
        same.count()
    };
    let Some(usual) = rides.iter().max_by_key(|ride| times(&ride.circuit)) else {
        return Vec::new();
    };
    let on_it = || {
        let same = |ride: &&Ridden| same_circuit(&ride.circuit, &usual.circuit);
        rides.iter().filter(same)
    };
    let effort = median(on_it().filter_map(|ride| ride.effort));
    let minutes = median(on_it().filter_map(|ride| ride.minutes));
    let power = median(on_it().filter_map(|ride| Some(ride.power?.power_w)));
    let cadence = median(on_it().filter_map(|ride| Some(ride.power?.cadence_rpm)));
    let power = power.zip(cadence).map(|(power_w, cadence_rpm)| Effort {
        power_w,
        cadence_rpm,
    });
    let why = |ride: &Ridden| {
        if !same_circuit(&ride.circuit, &usual.circuit) {
            return Some(format!("another circuit than {}", usual.circuit.trim()));
        }
        if let Some((here, usual)) = ride.effort.zip(effort)
            && (here - usual).abs() > LIKE_EFFORT
        {
            let than = if here > usual { "harder" } else { "easier" };
            return Some(format!(
                "{than}: effort {} against {}",
                written(here),
                written(usual)
            ));
        }
        if let Some((here, usual)) = ride.minutes.zip(minutes)
            && (here - usual).abs() > LIKE_MINUTES * usual
        {
            let than = if here > usual { "longer" } else { "shorter" };
            return Some(format!(
                "{than}: {} min against {} min",
                written(here),
                written(usual)
            ));
        }
        unlike(power, ride.power).map(|words| lower(&words))
    };
    rides.iter().map(why).collect()
}

/// What a ride said of a rating: of one without a side the mean of both, where they were alike.
fn said(ride: &Ridden, rating: Rating, side: Option<Side>) -> Option<f64> {
    let of = |side: Option<Side>| rated(&ride.ratings, rating, side).map(f64::from);
    of(side).or_else(|| {
        let both = Side::BOTH.map(|side| of(Some(side)));
        match both {
            [Some(left), Some(right)] if side.is_none() => Some(f64::midpoint(left, right)),
            _ => None,
        }
    })
}

/// Whether left and right of a rating were never rated apart.
fn alike(rides: &[Ridden], rating: Rating) -> bool {
    rides.iter().all(|ride| {
        let [left, right] = Side::BOTH.map(|side| said(ride, rating, Some(side)));
        left == right
    })
}

fn series(
    rides: &[Ridden],
    (of, standings): (&[usize], &[Standing]),
    apart_from: &[Option<String>],
) -> Vec<Series> {
    let mut all = Vec::new();
    for rating in Rating::ALL.iter().copied() {
        let sides: &[Option<Side>] = if !rating.per_side() || alike(rides, rating) {
            &[None]
        } else {
            &[Some(Side::Left), Some(Side::Right)]
        };
        for side in sides {
            let points: Vec<(usize, f64)> = (rides.iter().enumerate())
                .filter_map(|(n, ride)| Some((n, said(ride, rating, *side)?)))
                .collect();
            if points.is_empty() {
                continue;
            }
            let like = points.iter().filter(|(n, _)| apart_from[*n].is_none());
            let by_day: Vec<(f64, f64)> = (like.clone())
                .map(|(n, value)| (f64::from(rides[*n].day), *value))
                .collect();
            let by_setting: Vec<Vec<f64>> = (0..standings.len())
                .map(|place| {
                    let here = like.clone().filter(|(n, _)| of[*n] == place);
                    here.map(|(_, value)| *value).collect()
                })
                .collect();
            let trend = real_slope(&by_day);
            let mut series = Series {
                rating,
                side: *side,
                trend,
                medians: (by_setting.iter())
                    .map(|values| {
                        let enough = values.len() >= FEWEST;
                        let median = median(values.iter().copied()).filter(|_| enough);
                        (values.len(), median)
                    })
                    .collect(),
                points,
                words: Vec::new(),
            };
            series.words = told(&series, &by_setting, standings);
            all.push(series);
        }
    }
    all
}

/// The real changes of a series in words.
fn told(series: &Series, by_setting: &[Vec<f64>], standings: &[Standing]) -> Vec<String> {
    let mut all = Vec::new();
    // Between settings that were ridden often enough, each with the one before it that was.
    let medians = series.medians.iter().enumerate();
    let told: Vec<(usize, f64)> = medians
        .filter_map(|(place, (_, median))| Some((place, (*median)?)))
        .collect();
    for pair in told.windows(2) {
        let ((here, before), (there, after)) = (pair[0], pair[1]);
        let (a, b) = (&by_setting[here], &by_setting[there]);
        if apart(a, b).is_some() {
            all.push(format!(
                "{}: {} {}, {} {} ({} and {} rides)",
                series.label(),
                written(before),
                standings[here].at(),
                written(after),
                standings[there].at(),
                a.len(),
                b.len()
            ));
        }
    }
    if let Some(line) = series.trend {
        let week = |slope: f64| written((slope * 7.0).abs());
        let way = if line.slope > 0.0 {
            "rising"
        } else {
            "falling"
        };
        let (near, far) = if line.slope > 0.0 {
            (line.low, line.high)
        } else {
            (line.high, line.low)
        };
        all.push(format!(
            "{}: {way} by {} a week ({} to {})",
            series.label(),
            week(line.slope),
            week(near),
            week(far)
        ));
    }
    all
}

/// What outruns the body, in the order it was ridden.
fn warnings(rides: &[Ridden], of: &[usize]) -> Vec<Warning> {
    let mut all = Vec::new();
    let changed: Vec<usize> = (1..rides.len()).filter(|n| of[*n] != of[*n - 1]).collect();
    let mut load_told: Option<usize> = None;
    for (n, ride) in rides.iter().enumerate() {
        all.extend(ride.signs.iter().map(|sign| Warning::Reported(n, *sign)));
        let before = changed.iter().rev().find(|at| **at < n);
        if changed.contains(&n)
            && let Some(before) = before
            && ride.day - rides[*before].day < SETTLES_DAYS
        {
            all.push(Warning::Hurried(*before, n));
        }
        let moving = changed.iter().rev().find(|at| **at <= n);
        if let Some(change) = moving
            && ride.day - rides[*change].day < SETTLES_DAYS
            && load_told != Some(*change)
            && let Some(up) = load_up(rides, ride.day)
            && up > LOAD_UP
        {
            all.push(Warning::Loaded(n, up));
            load_told = Some(*change);
        }
    }
    all
}

/// By what share the week that ends on a day was heavier than the one before it: minutes times effort, or minutes alone where
/// an effort is missing.
fn load_up(rides: &[Ridden], day: i32) -> Option<f64> {
    let week = |ago: i32| {
        let last = day - ago * SETTLES_DAYS;
        let within = move |ride: &&Ridden| ride.day <= last && ride.day > last - SETTLES_DAYS;
        rides.iter().filter(within)
    };
    let by_effort = week(0).chain(week(1)).all(|ride| ride.effort.is_some());
    let load = |ago: i32| -> f64 {
        let of = |ride: &Ridden| {
            let effort = ride.effort.filter(|_| by_effort).unwrap_or(1.0);
            ride.minutes.unwrap_or_default() * effort
        };
        week(ago).map(of).sum()
    };
    // Of a week the ledger does not go back to nothing is known.
    let first = rides.iter().map(|ride| ride.day).min()?;
    let before = load(1);
    (before > 0.0 && first <= day - 2 * SETTLES_DAYS + 1).then(|| load(0) / before - 1.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ride(day: i32, step: u32, hands: u8) -> Ridden {
        Ridden {
            day,
            circuit: "Mill loop".to_owned(),
            minutes: Some(60.0),
            effort: Some(5.0),
            power: None,
            plan: 1,
            step,
            moved: Vec::new(),
            ratings: Side::BOTH
                .map(|side| Rated {
                    rating: Rating::Hands,
                    side: Some(side),
                    value: hands,
                })
                .to_vec(),
            signs: Vec::new(),
        }
    }

    #[test]
    fn a_setting_is_told_from_the_one_before_by_medians_of_like_rides() {
        let mut rides: Vec<Ridden> = [
            (0, 0, 6),
            (3, 0, 5),
            (6, 0, 6),
            (8, 1, 3),
            (11, 1, 2),
            (13, 1, 3),
        ]
        .map(|(day, step, hands)| ride(day, step, hands))
        .to_vec();
        let told = read(&rides);
        let hands = &told.series[0];
        assert_eq!((hands.rating, hands.side), (Rating::Hands, None));
        assert_eq!(hands.medians, [(3, Some(6.0)), (3, Some(3.0))]);
        assert_eq!(
            hands.words[0],
            "Hands: 6 as left, 3 at step 1 (3 and 3 rides)"
        );
        // Six rides on two settings are a step, not yet a slope.
        assert_eq!((hands.words.len(), hands.trend), (1, None));
        assert_eq!(told.warnings, []);
        // The same rides on other roads tell nothing: they do not compare.
        for (ride, circuit) in rides.iter_mut().zip(["a", "b", "c", "d", "e", "f"]) {
            ride.circuit = circuit.to_owned();
        }
        let told = read(&rides);
        assert_eq!(told.series[0].words, [""; 0]);
        assert_eq!(told.apart.iter().flatten().count(), 5);
    }

    #[test]
    fn rides_that_do_not_compare_say_why() {
        let mut rides: Vec<Ridden> = (0..6).map(|n| ride(n * 3, 0, 4)).collect();
        rides[1].circuit = "Harbour road".to_owned();
        rides[2].effort = Some(8.0);
        rides[3].minutes = Some(120.0);
        rides[4].circuit = " mill LOOP ".to_owned();
        let apart = read(&rides).apart;
        assert_eq!(apart[1].as_deref(), Some("another circuit than Mill loop"));
        assert_eq!(apart[2].as_deref(), Some("harder: effort 8 against 5"));
        assert_eq!(apart[3].as_deref(), Some("longer: 120 min against 60 min"));
        assert_eq!([&apart[0], &apart[4], &apart[5]], [&None; 3]);
    }

    #[test]
    fn left_and_right_are_one_until_they_are_rated_apart() {
        let mut rides: Vec<Ridden> = (0..4).map(|n| ride(n * 3, 0, 4)).collect();
        rides[2].ratings[1].value = 7;
        let told = read(&rides);
        let labels: Vec<String> = told.series.iter().map(Series::label).collect();
        assert_eq!(labels, ["Hands, left", "Hands, right"]);
    }

    #[test]
    fn what_the_rider_moved_stays_until_it_is_moved_again() {
        let mut rides: Vec<Ridden> = (0..4).map(|n| ride(n * 8, 1, 4)).collect();
        rides[1].moved = vec![SelfMove::SaddleDown];
        rides[3].moved = vec![SelfMove::SaddleUp];
        let told = read(&rides);
        let words: Vec<String> = told.standings.iter().map(Standing::words).collect();
        assert_eq!(words, ["step 1", "step 1, saddle 5 down"]);
        assert_eq!(told.of, [0, 1, 1, 0]);
        let steps = [
            vec![Change::by(Quantity::SaddleHeight, 5.0)],
            vec![Change::by(Quantity::Stem, -10.0)],
        ];
        assert_eq!(
            told.standings[0].changes(&steps),
            [Change::by(Quantity::SaddleHeight, 5.0)]
        );
        assert_eq!(told.standings[1].changes(&steps), []);
    }

    #[test]
    fn a_slope_is_told_by_the_week_with_its_interval() {
        let hands = [6, 5, 6, 5, 4, 4, 3, 3, 2, 2];
        let days = [0, 3, 5, 8, 10, 14, 17, 20, 22, 27];
        let rides: Vec<Ridden> = (days.iter().zip(hands))
            .map(|(day, hands)| ride(*day, 0, hands))
            .collect();
        // −0.158 a day, −0.214 to −0.125: by the week.
        assert_eq!(
            read(&rides).series[0].words,
            ["Hands: falling by 1.1 a week (0.9 to 1.5)"]
        );
    }

    #[test]
    fn hurry_load_and_what_hurts_are_told() {
        let mut rides: Vec<Ridden> = [(0, 0), (7, 0), (8, 1), (11, 2), (13, 2)]
            .map(|(day, step)| ride(day, step, 3))
            .to_vec();
        rides[4].signs = vec![RideSign::Numb];
        let told = read(&rides).warnings;
        // The week to day 13 has four rides, the one before it one; of weeks before the first ride nothing is known.
        assert_eq!(
            told,
            [
                Warning::Hurried(2, 3),
                Warning::Reported(4, RideSign::Numb),
                Warning::Loaded(4, 3.0),
            ]
        );
    }

    #[test]
    fn nothing_is_told_of_nothing() {
        let told = read(&[]);
        assert!(told.series.is_empty() && told.warnings.is_empty() && told.standings.is_empty());
        assert!(
            Rated {
                rating: Rating::Control,
                side: None,
                value: 4
            }
            .refusals("")[0]
                .pointer
                == "/value"
        );
        assert!(
            Rated {
                rating: Rating::Knees,
                side: None,
                value: 4
            }
            .refusals("")[0]
                .pointer
                == "/side"
        );
        assert!(
            Rated {
                rating: Rating::Saddle,
                side: Some(Side::Left),
                value: 4
            }
            .refusals("")[0]
                .pointer
                == "/side"
        );
    }
}
