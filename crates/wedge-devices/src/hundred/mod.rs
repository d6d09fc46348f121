//! The hundred riders: whole fits without a screen of riders whose truth is hidden, by the judge and by other ways, and how
//! near each comes. A proof against these riders, not against people.

mod fit;
mod proof;
mod stranger;
mod ways;

pub use proof::{Assumed, Foretold, Noisy, Proof};
pub use stranger::Stranger;
pub use ways::{Ended, Way};

use crate::hidden::{LAWS, Trouble};
use fit::Fit;
use serde::{Deserialize, Serialize};
use std::num::NonZero;
use wedge_core::judge::Axis;

/// How one fit went.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fitted {
    /// Whose.
    pub seed: u64,
    /// How it ended.
    pub ended: Ended,
    /// Bolts and protocols, each one.
    pub trials: usize,
    /// Of the fitter's time.
    pub minutes: f64,
    /// After six trials, after ten and at the end: inside every window.
    pub right: [bool; 3],
    /// And within a tape's error of every window.
    pub near: [bool; 3],
    /// Axes beyond a tape's error at the start and at the end.
    pub out: [usize; 2],
    /// How far the worst axis is beyond its window at the end, in half-widths.
    pub worst: f64,
    /// Which axis that is.
    pub worst_axis: String,
    /// How often a limit of the rider was crossed.
    pub crossed: u32,
    /// What was tried, in order.
    pub did: Vec<String>,
    /// What was wrong besides.
    pub troubles: Vec<Trouble>,
    /// What the judge thought at the end of each axis: the chance it is fine, and whether it is.
    #[serde(skip)]
    pub fine: Vec<(f64, bool)>,
}

impl Fitted {
    /// Fits the rider of a seed.
    pub fn of(way: Way, seed: u64, noise: f64) -> Option<Self> {
        let mut stranger = Stranger::of(seed);
        stranger.hidden = stranger.hidden.with_noise(noise);
        Self::of_stranger(way, &stranger)
    }

    /// Fits somebody.
    pub fn of_stranger(way: Way, stranger: &Stranger) -> Option<Self> {
        let ride = stranger.known.check().ok()?;
        let mut fit = Fit::begun(stranger, &ride, way)?;
        let started = fit.places.clone();
        let (ended, believed) = way.fits(&mut fit);
        let rider = &stranger.hidden;
        let out = |places: &[f64]| {
            let wrong = |axis: &&Axis| !rider.is_right_on(**axis, places, true);
            Axis::ALL.iter().filter(wrong).count()
        };
        let beyond = |axis: &Axis| {
            let window = rider.window(*axis);
            window.beyond(fit.places[*axis as usize]).abs() / window.half
        };
        let worst = (Axis::ALL.iter()).max_by(|a, b| beyond(a).total_cmp(&beyond(b)))?;
        let at = |trials: usize, of: fn(&fit::After) -> bool, start: bool| {
            let last = fit.after.iter().take(trials).next_back();
            last.map_or(start, of)
        };
        let start = |taped: bool| rider.is_right(&started, taped);
        let of = |of: fn(&fit::After) -> bool, taped: bool| {
            [6, 10, usize::MAX].map(|trials| at(trials, of, start(taped)))
        };
        Some(Self {
            seed: rider.seed(),
            ended,
            trials: fit.after.len(),
            minutes: fit.minutes,
            right: of(|after| after.right, false),
            near: of(|after| after.near, true),
            out: [out(&started), out(&fit.places)],
            worst: beyond(worst),
            worst_axis: worst.label().to_owned(),
            crossed: fit.crossed,
            did: fit.did,
            troubles: rider.troubles().iter().map(|of| of.trouble).collect(),
            fine: believed.map_or_else(Vec::new, |believed| {
                (believed.axes.iter().zip(Axis::ALL))
                    .map(|(of, axis)| (of.chances.1, rider.is_right_on(*axis, &fit.places, false)))
                    .collect()
            }),
        })
    }
}

/// A share of riders with what it may be on the whole: 95 %, by Wilson.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Share {
    /// How many.
    pub count: usize,
    /// Of how many.
    pub of: usize,
    /// The least it may be, of 100.
    pub low: f64,
    /// The most.
    pub high: f64,
    /// "87 % (79–92)".
    pub words: String,
}

impl Share {
    /// So many of so many (E. B. Wilson, *Probable Inference, the Law of Succession, and Statistical Inference*, 1927).
    pub fn of(count: usize, of: usize) -> Self {
        const Z: f64 = 1.96;
        let n = whole(of).max(1.0);
        let p = whole(count) / n;
        let about = (p + Z * Z / (2.0 * n)) / (1.0 + Z * Z / n);
        let half = Z / (1.0 + Z * Z / n) * (p * (1.0 - p) / n + Z * Z / (4.0 * n * n)).sqrt();
        let (low, high) = (
            100.0 * (about - half).max(0.0),
            100.0 * (about + half).min(1.0),
        );
        Self {
            count,
            of,
            low,
            high,
            words: format!("{:.0} % ({low:.0}–{high:.0})", 100.0 * p),
        }
    }
}

fn whole(count: usize) -> f64 {
    f64::from(u32::try_from(count).unwrap_or(u32::MAX))
}

/// Riders of one kind: how many were within a tape's error at the end.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OfKind {
    /// As the kind is told.
    pub kind: String,
    /// How many.
    pub near: Share,
}

/// A tenth of what P(fine) may claim, against what was so.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Claim {
    /// Claimed on average.
    pub claimed: f64,
    /// So.
    pub so: f64,
    /// Of how many claims.
    pub of: usize,
}

/// How one way does over many riders.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Score {
    /// Which way.
    pub way: Way,
    /// As it is told.
    pub label: String,
    /// Inside every window in six trials, in ten, at the end.
    pub right: [Share; 3],
    /// Within a tape's error of every window.
    pub near: [Share; 3],
    /// Trials, the middle rider's.
    pub trials: f64,
    /// Minutes, the middle rider's.
    pub minutes: f64,
    /// How far the worst axis is out at the end, in half-widths, the middle rider's.
    pub worst: f64,
    /// Times a limit was crossed.
    pub crossed: u32,
    /// Called done with an axis out.
    pub false_done: Share,
    /// Referred, though bolts would have done.
    pub false_refer: Share,
    /// By what is wrong with the rider or the bike.
    pub by_kind: Vec<OfKind>,
    /// What P(fine) claims against what is so, tenth by tenth.
    pub reliability: Vec<Claim>,
}

/// What was tried and how it went.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Table {
    /// The first seed.
    pub seed: u64,
    /// How many riders.
    pub riders: u64,
    /// The version of the riders' laws.
    pub laws: u32,
    /// How much of the usual noise.
    pub noise: f64,
    /// Way by way.
    pub ways: Vec<Score>,
    /// Every fit, way by way, in the order of the seeds.
    pub fits: Vec<(Way, Vec<Fitted>)>,
}

/// Fits so many riders from a seed on by some ways, on every core there is. The same seeds, the same table.
pub fn hundred(ways: &[Way], seed: u64, riders: u64, noise: f64) -> Table {
    let fits: Vec<(Way, Vec<Fitted>)> = (ways.iter())
        .map(|way| (*way, fitted(*way, seed, riders, noise)))
        .collect();
    Table {
        seed,
        riders,
        laws: LAWS,
        noise,
        ways: fits.iter().map(|(way, all)| scored(*way, all)).collect(),
        fits,
    }
}

fn fitted(way: Way, seed: u64, riders: u64, noise: f64) -> Vec<Fitted> {
    let all = on_every_core(seed, riders, |seed| Fitted::of(way, seed, noise));
    all.into_iter().flatten().collect()
}

/// Something of so many seeds, in their order.
pub(crate) fn on_every_core<T: Send>(
    seed: u64,
    riders: u64,
    of: impl Fn(u64) -> T + Sync,
) -> Vec<T> {
    let cores = std::thread::available_parallelism().map_or(1, NonZero::get);
    let cores = u64::try_from(cores).unwrap_or(1);
    let of = &of;
    let mut all: Vec<(u64, T)> = std::thread::scope(|scope| {
        let hands: Vec<_> = (0..cores)
            .map(|hand| {
                scope.spawn(move || {
                    let mine = (seed..seed + riders).filter(|seed| seed % cores == hand);
                    mine.map(|seed| (seed, of(seed))).collect::<Vec<_>>()
                })
            })
            .collect();
        hands
            .into_iter()
            .flat_map(|hand| hand.join().unwrap_or_default())
            .collect()
    });
    all.sort_by_key(|(seed, _)| *seed);
    all.into_iter().map(|(_, of)| of).collect()
}

fn scored(way: Way, all: &[Fitted]) -> Score {
    let count = |is: &dyn Fn(&Fitted) -> bool| {
        Share::of(all.iter().filter(|fitted| is(fitted)).count(), all.len())
    };
    let kind = |kind: &str, is: &dyn Fn(&Fitted) -> bool| {
        let of: Vec<&Fitted> = all.iter().filter(|fitted| is(fitted)).collect();
        let near = of.iter().filter(|fitted| fitted.near[2]).count();
        (!of.is_empty()).then(|| OfKind {
            kind: kind.to_owned(),
            near: Share::of(near, of.len()),
        })
    };
    let places = [
        kind("One place off, nothing else", &|f| {
            f.out[0] == 1 && f.troubles.is_empty()
        }),
        kind("Two places off, nothing else", &|f| {
            f.out[0] == 2 && f.troubles.is_empty()
        }),
        kind("More places off, nothing else", &|f| {
            f.out[0] > 2 && f.troubles.is_empty()
        }),
    ];
    let troubles = (Trouble::ALL.iter())
        .map(|trouble| kind(trouble.label(), &|f| f.troubles.contains(trouble)));
    Score {
        way,
        label: way.label().to_owned(),
        right: [0, 1, 2].map(|at| count(&|fitted| fitted.right[at])),
        near: [0, 1, 2].map(|at| count(&|fitted| fitted.near[at])),
        trials: middle(all.iter().map(|f| whole(f.trials))),
        minutes: middle(all.iter().map(|f| f.minutes)),
        worst: middle(all.iter().map(|f| f.worst)),
        crossed: all.iter().map(|f| f.crossed).sum(),
        false_done: count(&|f| f.ended == Ended::Done && !f.near[2]),
        false_refer: count(&|f| f.ended == Ended::Refer && !f.near[2]),
        by_kind: places.into_iter().chain(troubles).flatten().collect(),
        reliability: reliability(all),
    }
}

fn middle(of: impl Iterator<Item = f64>) -> f64 {
    let mut all: Vec<f64> = of.collect();
    all.sort_by(f64::total_cmp);
    let last = all.len().saturating_sub(1);
    match (all.get(last / 2), all.get(all.len() / 2)) {
        (Some(low), Some(high)) => f64::midpoint(*low, *high),
        _ => 0.0,
    }
}

/// What was claimed against what is so, tenth by tenth of what was claimed.
fn reliability(all: &[Fitted]) -> Vec<Claim> {
    let claims: Vec<(f64, bool)> = all.iter().flat_map(|f| f.fine.iter().copied()).collect();
    let tenth = |low: u32| {
        let (low, high) = (f64::from(low) / 10.0, f64::from(low + 1) / 10.0);
        let of: Vec<(f64, bool)> = (claims.iter().copied())
            .filter(|(p, _)| (low..high + if high >= 1.0 { 0.1 } else { 0.0 }).contains(p))
            .collect();
        let n = whole(of.len());
        (!of.is_empty()).then(|| Claim {
            claimed: of.iter().map(|(p, _)| p).sum::<f64>() / n,
            so: whole(of.iter().filter(|(_, so)| *so).count()) / n,
            of: of.len(),
        })
    };
    (0..10).filter_map(tenth).collect()
}
