//! The rider's ledger of a fit: its rides like with like, what of them is a real change, what outruns the body, and the card the
//! rider takes along.

use crate::between::{plan_of, plans};
use crate::{Bench, day_words};
use jiff::civil::Date;
use serde::Serialize;
use std::collections::HashSet;
use uuid::Uuid;
use wedge_core::between::{
    IfThen, LedgerRead, Rated, Rating, Ridden, RideSign, RoadTest, SelfMove, Standing, Warning,
    if_then, own_moves, rated, read, road_tests,
};
use wedge_core::foresee::{Change, Trying};
use wedge_core::intake::Place;
use wedge_core::trial::Proposing;
use wedge_core::units::Side;
use wedge_core::words::{capital, ended, lower, written};
use wedge_core::work::{CAUTIONS, Station};
use wedge_files::{AfterBody, LedgerRide, PlannedStep, Recorded, Session};

/// A ledger as it is looked at.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LedgerView {
    /// Every ride, the first first.
    pub rides: Vec<LedgerRow>,
    /// How the bike stood, in the order it did: "as left", "step 1".
    pub settings: Vec<String>,
    /// Every rating over the rides.
    pub series: Vec<LedgerSeries>,
    /// What is a real change.
    pub found: Vec<String>,
    /// What outruns the body, or must not be passed over.
    pub warnings: Vec<String>,
    /// Why the plan waits.
    pub paused: Option<String>,
    /// What a ride may be rated by.
    pub ratings: Vec<RatingSpec>,
    /// What a rider may move alone.
    pub moves: Vec<Named>,
    /// What may have come.
    pub signs: Vec<Named>,
    /// What a ride of today is ridden by: the plan, from 1, and its step.
    pub today: (u32, u32),
}

/// A ride with how it is read.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LedgerRow {
    /// As the rider kept it.
    pub ride: LedgerRide,
    /// Days since the first ride.
    pub day: i32,
    /// "3 Nov 2026".
    pub on: String,
    /// Which setting.
    pub setting: usize,
    /// "62 min, effort 5, 182 W at 88 rpm, recorded".
    pub words: String,
    /// What was felt: "hands 2, knees 0 and 3".
    pub felt: String,
    /// Why it does not compare with the others.
    pub apart: Option<String>,
}

/// A rating over the rides.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LedgerSeries {
    /// "Knees, left".
    pub label: String,
    /// The top of its scale.
    pub most: u8,
    /// Each ride that rated it, by its place, and what it said.
    pub points: Vec<(usize, f64)>,
    /// The line of a real slope: at the first and the last ride.
    pub line: Option<(f64, f64)>,
    /// Of each setting.
    pub medians: Vec<SettingMedian>,
}

/// A rating on one setting.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SettingMedian {
    /// How many rides that compare rated it.
    pub rides: usize,
    /// Their median; none under three.
    pub median: Option<f64>,
}

/// A rating as it is asked.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RatingSpec {
    /// Its key.
    pub key: &'static str,
    /// Its name.
    pub label: &'static str,
    /// The top of its scale.
    pub most: u8,
    /// Whether left and right are rated.
    pub per_side: bool,
    /// What its scale means, where that is not "0 nothing, 10 unbearable".
    pub scale: &'static str,
}

/// A key with its words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = LedgerWord))]
pub struct Named {
    /// The key.
    pub key: &'static str,
    /// The words.
    pub label: &'static str,
}

/// A step of the plan as the card carries it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct CardStep {
    /// From when.
    pub on: Date,
    /// "Saddle up 5".
    pub title: String,
    /// "From 7 Dec 2026: Saddle up 5. Saddle height: 5 of 12 mm, to 758 mm. Pain behind the knee …: one step back."
    pub line: String,
}

/// The card a rider takes along.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Card {
    /// The fit it is of.
    pub fit: Uuid,
    /// Whose it is.
    pub rider: String,
    /// On what.
    pub bike: String,
    /// Who gave it.
    pub studio: String,
    /// Which plan of the fit, from 1; 0 without one.
    pub plan: u32,
    /// Since when that holds.
    pub since: Option<Date>,
    /// Why the plan waits.
    pub paused: Option<String>,
    /// Its steps.
    pub steps: Vec<CardStep>,
    /// What a ride is rated by.
    pub ratings: Vec<RatingSpec>,
    /// What the rider may move alone.
    pub moves: Vec<Named>,
    /// What to do when something comes.
    pub rules: Vec<IfThen>,
    /// Tests for the road.
    pub tests: Vec<RoadTest>,
    /// The usual cautions.
    pub cautions: Vec<&'static str>,
    /// Where the card sends its rides; nowhere from a file.
    pub send: Option<String>,
}

/// Every rating as it is asked.
fn ratings() -> Vec<RatingSpec> {
    let spec = |rating: &Rating| RatingSpec {
        key: rating.key(),
        label: rating.label(),
        most: rating.most(),
        per_side: rating.per_side(),
        scale: match rating {
            Rating::Control => "0 none, 3 full",
            _ => "",
        },
    };
    Rating::ALL.iter().map(spec).collect()
}

/// A count of plans or steps, as a ride carries it.
fn small(count: usize) -> u32 {
    u32::try_from(count).unwrap_or(u32::MAX)
}

fn named(own: SelfMove) -> Named {
    Named {
        key: own.key(),
        label: own.label(),
    }
}

/// Why a plan waits: a ride that was read after it was kept says that nothing is to move further.
pub fn paused(session: &Session) -> Option<String> {
    plan_of(session)?;
    let last = (session.afterwards.iter())
        .rposition(|entry| matches!(entry.body, AfterBody::Plan(_)))
        .unwrap_or_default();
    let since: HashSet<Uuid> = (session.afterwards[last..].iter())
        .filter_map(|entry| match &entry.body {
            AfterBody::Ride(ride) => Some(ride.id),
            _ => None,
        })
        .collect();
    let rides = session.rides();
    let (ride, sign) = rides
        .iter()
        .filter(|ride| since.contains(&ride.id))
        .find_map(|ride| {
            let sign = ride.signs.iter().find(|sign| sign.stops())?;
            Some((ride, sign))
        })?;
    Some(format!(
        "The plan waits: {} on {}. Ask the rider; a plan kept anew goes on.",
        lower(sign.label()),
        day_words(ride.on)
    ))
}

/// What was felt in words: both sides once where they are alike.
fn felt(ratings: &[Rated]) -> String {
    let words = |rating: &Rating| {
        let label = lower(rating.label());
        if let Some(value) = rated(ratings, *rating, None) {
            return Some(format!("{label} {value}"));
        }
        match Side::BOTH.map(|side| rated(ratings, *rating, Some(side))) {
            [None, None] => None,
            [Some(left), Some(right)] if left == right => Some(format!("{label} {left}")),
            sides => {
                let told: Vec<String> = (Side::BOTH.iter().zip(sides))
                    .filter_map(|(side, value)| Some(format!("{} {}", side.word(), value?)))
                    .collect();
                Some(format!("{label} {}", told.join(" and ")))
            }
        }
    };
    let all: Vec<String> = Rating::ALL.iter().filter_map(words).collect();
    all.join(", ")
}

/// How a ride was ridden, in words.
fn ridden(ride: &LedgerRide) -> String {
    let mut all = Vec::new();
    all.extend(
        ride.minutes
            .map(|minutes| format!("{} min", written(minutes))),
    );
    all.extend(ride.effort.map(|effort| format!("effort {effort}")));
    all.extend(ride.power_w.map(|watts| format!("{} W", written(watts))));
    all.extend(ride.cadence_rpm.map(|rpm| format!("{} rpm", written(rpm))));
    if ride.recorded {
        all.push("recorded".to_owned());
    }
    all.extend(ride.moved.iter().map(|own| lower(own.label())));
    all.extend(ride.signs.iter().map(|sign| lower(sign.label())));
    all.join(", ")
}

/// A warning with the days of its rides.
fn warned(warning: Warning, rides: &[&LedgerRide]) -> String {
    let day = |at: usize| {
        rides
            .get(at)
            .map_or_else(String::new, |ride| day_words(ride.on))
    };
    match warning {
        Warning::Hurried(first, second) => format!(
            "Two changes within a week, by {} and {}: more than a body gets used to.",
            day(first),
            day(second)
        ),
        Warning::Loaded(at, up) => format!(
            "The week to {} was {} % heavier than the one before, while something was moving.",
            day(at),
            written((up * 100.0).round())
        ),
        Warning::Reported(at, sign) => {
            let then = sign.stops().then(|| format!(" {}", sign.otherwise()));
            format!("{}, {}.{}", sign.label(), day(at), then.unwrap_or_default())
        }
    }
}

/// A setting of a ledger where the bike stood: what was changed of it as the fit left it.
pub(crate) struct Stood {
    /// Its changes.
    pub(crate) changes: Vec<Change>,
    /// "step 2".
    pub(crate) words: String,
    /// Where it was felt, how much, on which side, over how many rides: the medians of its rides that compare.
    pub(crate) felt: Vec<(Place, Option<Side>, f64, usize)>,
}

/// What a rating speaks of in the body; of knees what the rides reported, of control nothing.
fn places(rating: Rating, signs: &[RideSign]) -> Vec<Place> {
    match rating {
        Rating::Hands => vec![Place::Hand],
        Rating::ThighFront => vec![Place::ThighFront],
        Rating::ThighBack => vec![Place::ThighBack],
        Rating::Saddle => vec![Place::Saddle],
        Rating::Knees => [
            (RideSign::KneeFront, Place::KneeFront),
            (RideSign::KneeBehind, Place::KneeBehind),
            (RideSign::KneeOutside, Place::KneeOutside),
        ]
        .into_iter()
        .filter(|(sign, _)| signs.contains(sign))
        .map(|(_, place)| place)
        .collect(),
        Rating::Control => Vec::new(),
    }
}

fn read_of(session: &Session) -> (Vec<&LedgerRide>, LedgerRead) {
    let rides = session.rides();
    let ridden: Vec<Ridden> = rides.iter().map(|ride| ride.ridden()).collect();
    let told = read(&ridden);
    (rides, told)
}

/// The settings of a fit's ledger that were ridden often enough to say something.
pub(crate) fn stood(session: &Session) -> Vec<Stood> {
    let (rides, told) = read_of(session);
    let all_plans = plans(session);
    (told.standings.iter().enumerate())
        .map(|(at, standing)| {
            let steps: Vec<Vec<Change>> = (standing.plan as usize)
                .checked_sub(1)
                .and_then(|index| all_plans.get(index))
                .map(|(_, plan)| plan.steps.iter().map(PlannedStep::changes).collect())
                .unwrap_or_default();
            let signs: Vec<RideSign> = (rides.iter().zip(&told.of))
                .filter(|(_, of)| **of == at)
                .flat_map(|(ride, _)| ride.signs.iter().copied())
                .collect();
            let felt = told.series.iter().flat_map(|series| {
                let (count, median) = series.medians[at];
                let places = places(series.rating, &signs);
                places.into_iter().filter_map(move |place| {
                    let side = series.side.filter(|_| place.per_side());
                    Some((place, side, median?, count))
                })
            });
            Stood {
                changes: standing.changes(&steps),
                words: standing.words(),
                felt: felt.collect(),
            }
        })
        .collect()
}

impl Bench {
    /// The ledger of this fit, as of a day.
    pub fn ledger(&self, today: Date) -> LedgerView {
        let (rides, told) = read_of(&self.session);
        let first = rides.first().map(|ride| ride.day());
        let day = |ride: &LedgerRide| ride.day() - first.unwrap_or_default();
        let span = rides.last().map_or(0, |ride| day(ride));
        let rows = rides.iter().enumerate().map(|(at, ride)| LedgerRow {
            ride: (*ride).clone(),
            day: day(ride),
            on: day_words(ride.on),
            setting: told.of[at],
            words: ridden(ride),
            felt: felt(&ride.ratings),
            apart: told.apart[at].clone().map(|why| capital(&ended(&why))),
        });
        let line = |series: &wedge_core::between::Series| {
            let trend = series.trend?;
            let from = f64::from(first?);
            let at = |day: f64| trend.intercept + trend.slope * day;
            Some((at(from), at(from + f64::from(span))))
        };
        LedgerView {
            rides: rows.collect(),
            settings: told.standings.iter().map(Standing::words).collect(),
            series: (told.series.iter())
                .map(|series| LedgerSeries {
                    label: series.label(),
                    most: series.rating.most(),
                    points: series.points.clone(),
                    line: line(series),
                    medians: (series.medians.iter())
                        .map(|(rides, median)| SettingMedian {
                            rides: *rides,
                            median: *median,
                        })
                        .collect(),
                })
                .collect(),
            found: (told.series.iter())
                .flat_map(|series| series.words.iter().map(|words| ended(words)))
                .collect(),
            warnings: (told.warnings.iter())
                .map(|warning| warned(*warning, &rides))
                .collect(),
            paused: paused(&self.session),
            ratings: ratings(),
            moves: SelfMove::ALL.iter().map(|own| named(*own)).collect(),
            signs: (RideSign::ALL.iter())
                .map(|sign| Named {
                    key: sign.key(),
                    label: sign.label(),
                })
                .collect(),
            today: self.ridden_by(today),
        }
    }

    /// The plan that stands, from 1, and the step of it that is held on a day; 0 without one, and before the first.
    pub fn ridden_by(&self, on: Date) -> (u32, u32) {
        plan_of(&self.session).map_or((0, 0), |(number, _, plan)| {
            (small(number), small(plan.begun(on)))
        })
    }

    /// A ride in a line, as it is looked at before it is written down.
    pub fn ride_line(ride: &LedgerRide) -> String {
        let told = [
            day_words(ride.on),
            ride.circuit.clone(),
            ridden(ride),
            ride.words.clone(),
        ];
        told.into_iter()
            .filter(|words| !words.is_empty())
            .collect::<Vec<_>>()
            .join(" · ")
    }

    /// What of these rides is new, or another than what is on record.
    pub fn unread(&self, rides: Vec<LedgerRide>) -> Vec<LedgerRide> {
        let known = self.session.rides();
        let is_new = |ride: &LedgerRide| !known.contains(&ride);
        rides.into_iter().filter(is_new).collect()
    }

    /// A recorded ride as one of the ledger: with the one ride of its day that nobody recorded yet, or by itself.
    pub fn with_recorded(&self, recorded: &Recorded, circuit: &str, id: Uuid) -> LedgerRide {
        let rides = self.session.rides();
        let of_its_day: Vec<&&LedgerRide> =
            rides.iter().filter(|ride| ride.on == recorded.on).collect();
        let same = |ride: &&&LedgerRide| {
            ride.recorded
                && ride.minutes == Some(recorded.minutes)
                && ride.power_w == recorded.power_w
                && ride.cadence_rpm == recorded.cadence_rpm
        };
        if let Some(known) = of_its_day.iter().find(|ride| same(ride)) {
            return (**known).clone();
        }
        let unrecorded: Vec<_> = of_its_day.iter().filter(|ride| !ride.recorded).collect();
        let (plan, step) = self.ridden_by(recorded.on);
        let ride = match unrecorded[..] {
            [one] => (**one).clone(),
            _ => LedgerRide {
                id,
                on: recorded.on,
                circuit: circuit.to_owned(),
                minutes: None,
                effort: None,
                power_w: None,
                cadence_rpm: None,
                recorded: true,
                plan,
                step,
                moved: Vec::new(),
                ratings: Vec::new(),
                signs: Vec::new(),
                words: String::new(),
            },
        };
        LedgerRide {
            minutes: Some(recorded.minutes),
            power_w: recorded.power_w.or(ride.power_w),
            cadence_rpm: recorded.cadence_rpm.or(ride.cadence_rpm),
            recorded: true,
            ..ride
        }
    }

    /// The card a rider takes along, its days where the studio is.
    pub fn card(&self, zone: &jiff::tz::TimeZone) -> Card {
        let plan = plan_of(&self.session);
        // Before the bike as found is closed nothing is told of it.
        let ride = (self.session.found().is_some())
            .then(|| self.ride_now().ok())
            .flatten();
        let trying = ride.as_ref().map(Trying::of);
        let moves = trying.as_ref().map(own_moves).unwrap_or_default();
        let tests = trying.as_ref().map(|trying| {
            self.proposing(trying, Station::HandOut, |proposing: &Proposing| {
                road_tests(proposing)
            })
        });
        let steps = plan.map(|(_, _, plan)| plan.steps.as_slice());
        Card {
            fit: self.session.id,
            rider: self.rider.name.clone(),
            bike: self.bike.name.clone(),
            studio: self.house.name.clone(),
            plan: plan.map_or(0, |(number, ..)| small(number)),
            since: plan.map(|(_, at, _)| at.to_zoned(zone.clone()).date()),
            paused: paused(&self.session),
            steps: (steps.unwrap_or_default().iter())
                .map(|step| CardStep {
                    on: step.on,
                    line: format!(
                        "From {}: {}. {}. {}",
                        day_words(step.on),
                        step.title,
                        step.words,
                        step.stop
                    ),
                    title: step.title.clone(),
                })
                .collect(),
            ratings: ratings(),
            rules: if_then(&moves),
            moves: moves.into_iter().map(named).collect(),
            tests: tests.unwrap_or_default(),
            cautions: CAUTIONS.to_vec(),
            send: None,
        }
    }
}
