//! What the page *How good is Wedge?* shows: the last run that ships, with what it assumes and the command that makes it again.

use super::stranger::comes;
use super::{Fitted, Score, Way, hundred};
use crate::foresight::{Foreseen, Near, foresight};
use crate::hidden::{LAWS, spreads};
use crate::observer::BY_HAND;
use serde::{Deserialize, Serialize};
use wedge_core::judge::Axis;
use wedge_core::words::written;

/// What is assumed of where riders belong on one axis.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assumed {
    /// The axis.
    pub axis: String,
    /// "± 6 mm".
    pub around: String,
    /// "4.5 mm".
    pub half: String,
    /// How often a bike comes out on it, and how far then: "70 %, ± 12 mm".
    pub out: String,
}

/// The judge with more noise, or less.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Noisy {
    /// "half of the noise".
    pub words: String,
    /// How it did.
    pub score: Score,
}

/// One line of foresight's own score.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Foretold {
    /// What was foreseen of what.
    pub what: String,
    /// From the tape alone: off by, the band it said, truths within one band and within two.
    pub before: [String; 4],
    /// Fitted to one take.
    pub after: [String; 4],
}

/// The run that ships.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Proof {
    /// What makes it again.
    pub command: String,
    /// The first rider's seed.
    pub seed: u64,
    /// How many.
    pub riders: u64,
    /// The version of their laws.
    pub laws: u32,
    /// Way by way.
    pub ways: Vec<Score>,
    /// The judge with other noise.
    pub noise: Vec<Noisy>,
    /// Riders it did worst by, the worst first.
    pub worst: Vec<Fitted>,
    /// What it rests on.
    pub assumed: Vec<Assumed>,
    /// Foresight's own score.
    pub foresight: Vec<Foretold>,
    /// Riders whom no fit was found for.
    pub refused: u32,
    /// Who reads what foresight is fitted to and held against.
    pub read_by: String,
}

/// So many of the worst are told.
const WORST: usize = 10;

impl Proof {
    /// Runs it all.
    pub fn made(seed: u64, riders: u64) -> Self {
        let table = hundred(&Way::ALL, seed, riders, 1.0);
        let judge = table.fits.iter().find(|(way, _)| *way == Way::Judge);
        let mut worst = judge.map_or_else(Vec::new, |(_, fits)| fits.clone());
        worst.retain(|fitted| !fitted.near[2]);
        worst.sort_by(|a, b| b.worst.total_cmp(&a.worst));
        worst.truncate(WORST);
        let noisy = |(noise, words): (f64, &'static str)| {
            let table = hundred(&[Way::Judge], seed, riders, noise);
            table.ways.into_iter().map(move |score| Noisy {
                words: words.to_owned(),
                score,
            })
        };
        let noise = [(0.5, "Half of the noise"), (2.0, "Twice the noise")];
        let score = foresight(seed, riders);
        Self {
            command: "make hundred".to_owned(),
            seed,
            riders,
            laws: LAWS,
            ways: table.ways,
            noise: noise.into_iter().flat_map(noisy).collect(),
            worst,
            assumed: assumed(),
            foresight: foretold(&score.before, &score.after),
            refused: score.refused,
            read_by: BY_HAND.words(),
        }
    }

    /// The one that ships.
    ///
    /// # Errors
    ///
    /// It was not made by this version.
    pub fn shipped() -> Result<Self, serde_json::Error> {
        serde_json::from_str(include_str!("../../hundred.json"))
    }
}

fn assumed() -> Vec<Assumed> {
    let of = |axis: &Axis| {
        let (around, half) = spreads(*axis);
        let (often, far) = comes(*axis);
        let unit = if axis.spec().is_mm { " mm" } else { "°" };
        Assumed {
            axis: axis.label().to_owned(),
            around: format!("± {}{unit}", written(around)),
            half: format!("{}{unit}", written(half)),
            out: format!("{} %, ± {}{unit}", written(100.0 * often), written(far)),
        }
    };
    Axis::ALL.iter().map(of).collect()
}

fn foretold(before: &Foreseen, after: &Foreseen) -> Vec<Foretold> {
    let told = |near: &Near| {
        let [one, two] = near.covered();
        [
            format!("{:.1}°", near.root()),
            format!("± {:.1}°", near.band()),
            format!("{one:.0} %"),
            format!("{two:.0} %"),
        ]
    };
    let line = |what: &str, of: fn(&Foreseen) -> &Near| Foretold {
        what: what.to_owned(),
        before: told(of(before)),
        after: told(of(after)),
    };
    vec![
        line("Knee at full reach, saddle 10 mm up or down", |f| &f.knee),
        line("Torso, spacers 20 mm out and stem 15 mm longer", |f| {
            &f.torso
        }),
        line("Shoulder, the same", |f| &f.shoulder),
        line("Hip closed, the same", |f| &f.hip),
    ]
}
