//! How near foresight comes to riders whose bodies are hidden, before and after it was fitted to a take of them. It is held
//! against what there is to read of them: whoever put the dots on has each a little beside its joint, and they stay on.

use crate::body::{Sight, Two};
use crate::dice::Dice;
use crate::hidden::HiddenRider;
use crate::hundred::{Stranger, on_every_core};
use crate::observer::{BY_HAND, Observer};
use serde::{Deserialize, Serialize};
use wedge_core::foresee::{
    Change, ForeseeInput, Foresight, Look, Sighting, Trying, calibrate, foresee,
};
use wedge_core::judge::Linkage;
use wedge_core::measure::{Method, Output, Quantity};
use wedge_core::position::Ride;
use wedge_core::units::Side;

/// How well ten seconds of markers give an angle, one standard deviation, °.
const TAKE_DEG: f64 = 0.5;

/// What is read of a take.
pub const OUTPUTS: [Output; 16] = [
    Output::KneeAtFullReach,
    Output::KneeForward,
    Output::KneeMostBent,
    Output::KneeAtTop,
    Output::KneeAtBottom,
    Output::HipClosed,
    Output::HipOpen,
    Output::AnkleSmallest,
    Output::AnkleLargest,
    Output::FootAtTop,
    Output::FootForward,
    Output::FootAtBottom,
    Output::FootRising,
    Output::Torso,
    Output::Shoulder,
    Output::Elbow,
];

/// What a fitter would read of an output.
pub fn value(sight: &Sight, output: Output, side: Option<Side>) -> Option<f64> {
    let of = |two: Two| {
        if side == Some(Side::Left) {
            two[0]
        } else {
            two[1]
        }
    };
    Some(match output {
        Output::KneeAtFullReach => of(sight.knee_at_full_reach),
        Output::KneeForward => of(sight.knee_forward),
        Output::KneeMostBent => of(sight.knee_most_bent),
        Output::KneeAtTop => of(sight.knee_at_top),
        Output::KneeAtBottom => of(sight.knee_at_bottom),
        Output::HipClosed => of(sight.hip_closed),
        Output::HipOpen => of(sight.hip_open),
        Output::AnkleSmallest => of(sight.ankle_smallest),
        Output::AnkleLargest => of(sight.ankle_largest),
        Output::FootAtTop => of(sight.foot[0]),
        Output::FootForward => of(sight.foot[1]),
        Output::FootAtBottom => of(sight.foot[2]),
        Output::FootRising => of(sight.foot[3]),
        Output::Torso => sight.torso,
        Output::Shoulder => sight.shoulder,
        Output::Elbow => sight.elbow,
        _ => return None,
    })
}

/// A row's value with its band, and its change with the change's, of one side.
pub fn foreseen(foresight: &Foresight, output: Output, side: Side) -> Option<(f64, f64, f64, f64)> {
    let row = (foresight.rows.iter())
        .find(|row| row.output == output && row.side.is_none_or(|s| s == side))?;
    let noise = output.spec().noise;
    let change = (row.spread.powi(2) - noise.powi(2)).max(0.0).sqrt();
    Some((row.after, row.band?, row.change, change))
}

/// How far off something was over all riders, and how often the truth was within its band, and within two.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize)]
pub struct Near {
    squares: f64,
    bands: f64,
    within: [f64; 2],
    count: f64,
}

impl Near {
    /// Adds what was off by so much, and its band.
    pub fn add(&mut self, off: f64, band: f64) {
        self.squares += off * off;
        self.bands += band * band;
        self.count += 1.0;
        for (times, within) in [1.0, 2.0].into_iter().zip(&mut self.within) {
            *within += f64::from(u8::from(off.abs() <= times * band));
        }
    }

    fn take_in(&mut self, other: &Self) {
        self.squares += other.squares;
        self.bands += other.bands;
        self.count += other.count;
        for (within, of) in self.within.iter_mut().zip(other.within) {
            *within += of;
        }
    }

    /// Root of the mean square off.
    pub fn root(&self) -> f64 {
        (self.squares / self.count.max(1.0)).sqrt()
    }

    /// Root of the mean square band.
    pub fn band(&self) -> f64 {
        (self.bands / self.count.max(1.0)).sqrt()
    }

    /// The share of truths within one band and within two, of 100.
    pub fn covered(&self) -> [f64; 2] {
        self.within
            .map(|within| 100.0 * within / self.count.max(1.0))
    }

    /// " 1.02 (±0.98; 68, 95 %)".
    pub fn words(&self) -> String {
        let [one, two] = self.covered();
        format!(
            "{:5.2} (±{:4.2}; {one:2.0}, {two:2.0} %)",
            self.root(),
            self.band()
        )
    }
}

/// What foresight was worth, °.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize)]
pub struct Foreseen {
    /// The knee at full reach after the saddle went 10 mm up or down.
    pub knee: Near,
    /// The torso after spacers −20 and stem +15.
    pub torso: Near,
    /// The shoulder after the same.
    pub shoulder: Near,
    /// The hip, most closed, after the same.
    pub hip: Near,
}

/// Foresight's own score.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize)]
pub struct ForesightScore {
    /// From the tape alone.
    pub before: Foreseen,
    /// Fitted to one take of ten seconds.
    pub after: Foreseen,
    /// Riders whom no fit was found for.
    pub refused: u32,
}

/// What foresight says of so many hidden riders, against what their bodies do.
pub fn foresight(seed: u64, riders: u64) -> ForesightScore {
    let each = on_every_core(seed, riders, |seed| {
        let mut score = ForesightScore::default();
        // Whom a limb does not simply reach has nothing to be held against.
        let _ = one(&Stranger::of(seed), seed, &mut score);
        score
    });
    each.iter().fold(ForesightScore::default(), |mut all, one| {
        all.before.take_in(&one.before);
        all.after.take_in(&one.after);
        all.refused += one.refused;
        all
    })
}

/// The saddle higher or lower.
pub fn saddle(by: f64) -> Vec<Change> {
    vec![Change::by(Quantity::SaddleHeight, by)]
}

/// The hands lower and further ahead.
pub fn front() -> Vec<Change> {
    vec![
        Change::by(Quantity::SpacersBelow, -20.0),
        Change::by(Quantity::Stem, 15.0),
    ]
}

/// What is foreseen of changes; none where they cannot be made.
pub fn with(input: &ForeseeInput, changes: &[Change]) -> Option<Foresight> {
    let changes = changes.to_vec();
    foresee(&ForeseeInput {
        changes,
        ..input.clone()
    })
    .ok()
}

/// What is read of the rider once the bike was changed so. He slides and bends by where he then sits.
fn seen(sat: &Sat, changes: &[Change]) -> Option<Sight> {
    let there = sat.ride.on(Trying::of(sat.ride).changed(changes)?);
    let there = Trying::of(&there);
    let places = sat.linkage.stands(&there);
    let there = (sat.hidden).sight(&there.before.bike, there.before_setup(), &places)?;
    Some(sat.observer.sees(&there))
}

/// A rider on the bike as found, and who looks at him.
struct Sat<'a> {
    observer: Observer,
    hidden: &'a HiddenRider,
    ride: &'a Ride,
    linkage: Linkage,
}

fn one(stranger: &Stranger, seed: u64, score: &mut ForesightScore) -> Option<()> {
    let ride = stranger.known.check().ok()?;
    let mut dice = Dice::of(seed, 77);
    let sat = Sat {
        observer: Observer::drawn(&mut dice, BY_HAND),
        hidden: &stranger.hidden,
        ride: &ride,
        linkage: Linkage::of(&Trying::of(&ride)),
    };
    let found = seen(&sat, &[])?;
    let mut sightings = Vec::new();
    for output in OUTPUTS {
        for side in Side::each(output.spec().per_side) {
            sightings.push(Sighting {
                output,
                side: *side,
                value: value(&found, output, *side)? + dice.normal(TAKE_DEG),
                method: Method::Camera,
                spread: Some(TAKE_DEG),
            });
        }
    }
    let look = Look::of(stranger.known.setup, sightings);
    let _ = score.before.add(&sat, &stranger.known);
    match calibrate(&ride, &[look]) {
        Err(_) => score.refused += 1,
        Ok(calibration) => {
            let fitted = ForeseeInput {
                fit: Some(calibration.fit),
                ..stranger.known.clone()
            };
            let _ = score.after.add(&sat, &fitted);
        }
    }
    Some(())
}

impl Foreseen {
    fn take_in(&mut self, other: &Self) {
        self.knee.take_in(&other.knee);
        self.torso.take_in(&other.torso);
        self.shoulder.take_in(&other.shoulder);
        self.hip.take_in(&other.hip);
    }

    fn add(&mut self, sat: &Sat, known: &ForeseeInput) -> Option<()> {
        for by in [10.0, -10.0] {
            let Some(truth) = seen(sat, &saddle(by)) else {
                continue;
            };
            let there = with(known, &saddle(by))?;
            for (at, side) in Side::BOTH.into_iter().enumerate() {
                if let Some((knee, band, ..)) = foreseen(&there, Output::KneeAtFullReach, side) {
                    self.knee.add(knee - truth.knee_at_full_reach[at], band);
                }
            }
        }
        let truth = seen(sat, &front())?;
        let there = with(known, &front())?;
        for (near, output, really) in [
            (&mut self.torso, Output::Torso, truth.torso),
            (&mut self.shoulder, Output::Shoulder, truth.shoulder),
            (&mut self.hip, Output::HipClosed, truth.hip_closed[1]),
        ] {
            if let Some((value, band, ..)) = foreseen(&there, output, Side::Right) {
                near.add(value - really, band);
            }
        }
        Some(())
    }
}
