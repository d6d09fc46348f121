//! What a take shows that a fitter would write down at a look: values with their spread, classes with their doubt.

use super::figure::Figure;
use super::sample::Sample;
use super::smooth::CHOPPY_DEG;
use crate::looking::{KneePath, PelvisSeen, Sign, SignSeen};
use crate::measure::Output;
use crate::rule::rules;
use crate::units::Side;
use serde::{Deserialize, Serialize};

rules! {
    rules "Markers";
    /// A pelvis rocks from here on: skin that slips eight millimetres at the hips reads as much.
    const ROCKS_DEG: f64 = 2.7, "°", House;
    /// A hip dips when its dip is this much more than the other's.
    const DIPS_DEG: f64 = 3.0, "°", House;
    /// A pelvis is twisted from here on.
    const TWISTED_DEG: f64 = 2.0, "°", House;
    /// What placing the hips' markers leaves of doubt in lean and in twist,
    const MISPLACED_DEG: (f64, f64) = (1.5, 0.8), "°", House;
    /// and what a standing zero leaves of it.
    const ZEROED_DEG: (f64, f64) = (0.5, 0.4), "°", House;
    /// A rider slides forward from here on, mm in ten seconds.
    const SLIDES_MM: f64 = 10.0, " mm", House;
    /// Heels drop from here on, and toes point at the bottom from the second on.
    const FOOT_DEG: (f64, f64) = (5.0, 30.0), "°", House;
}

/// What is proposed to be written down.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Shows {
    /// An output, with one standard deviation.
    Value {
        /// Which.
        output: Output,
        /// Of which side.
        side: Option<Side>,
        /// The value.
        value: f64,
        /// One standard deviation.
        spread: f64,
    },
    /// The way a knee goes.
    Knee {
        /// Which knee.
        side: Side,
        /// Its way.
        path: KneePath,
    },
    /// How the pelvis sits.
    Pelvis(PelvisSeen),
    /// A sign.
    Sign(SignSeen),
}

/// Something a take shows, with its doubt in words.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shown {
    /// What.
    pub shows: Shows,
    /// Its size and doubt: "4.2°, 3.9° more than on the left".
    pub words: String,
    /// Whether it is near a border, so that the fitter's eye decides.
    pub doubtful: bool,
}

/// Everything a take shows. Within doubt nothing is proposed.
pub fn shows(sample: &Sample) -> Vec<Shown> {
    let mut all = Vec::new();
    values(sample, &mut all);
    for side in Side::BOTH {
        of_side(sample, side, &mut all);
    }
    pelvis(sample, &mut all);
    all
}

fn values(sample: &Sample, all: &mut Vec<Shown>) {
    for figure in Figure::ALL {
        let spec = figure.spec();
        let Some(output) = spec.output else { continue };
        for side in Side::each(output.spec().per_side) {
            let both = |side| sample.stat(side, *figure);
            let (mean, se, n) = match side {
                Some(side) => match both(*side) {
                    Some(stat) => (stat.mean, stat.se, stat.n),
                    None => continue,
                },
                // What has no side is the mean of both.
                None => match (both(Side::Left), both(Side::Right)) {
                    (Some(left), Some(right)) => (
                        f64::midpoint(left.mean, right.mean),
                        left.se.max(right.se),
                        left.n.min(right.n),
                    ),
                    (Some(one), None) | (None, Some(one)) => (one.mean, one.se, one.n),
                    (None, None) => continue,
                },
            };
            let decimals = usize::from(spec.decimals);
            let spread = spec.put_on.hypot(se);
            all.push(Shown {
                shows: Shows::Value {
                    output,
                    side: *side,
                    value: mean,
                    spread,
                },
                words: format!("± {spread:.decimals$}, {n} strokes"),
                doubtful: false,
            });
        }
    }
}

fn of_side(sample: &Sample, side: Side, all: &mut Vec<Shown>) {
    let Some(limbs) = sample.sides.of(side) else {
        return;
    };
    let stat = |figure| sample.stat(side, figure).map(|stat| stat.mean);
    let sign = |sign: Sign, side: Option<Side>| {
        Shows::Sign(SignSeen {
            sign,
            side,
            there: Some(true),
        })
    };
    if let (Some(front), Some(push), Some(rise)) =
        (limbs.front, stat(Figure::KneePush), stat(Figure::KneeRise))
        && let Some(path) = front.path
    {
        let near = if front.near_border {
            ", near another shape: look for yourself"
        } else {
            ""
        };
        let words = format!("{push:+.0} mm while pushing, {rise:+.0} while rising, ± 6{near}")
            .replace('-', "−");
        all.push(Shown {
            shows: Shows::Knee { side, path },
            words,
            doubtful: front.near_border,
        });
    }
    if let Some(rough) = limbs
        .bottom_roughness_deg
        .filter(|rough| *rough >= CHOPPY_DEG)
    {
        let words = format!("{rough:.2}° around the bottom; quiet legs read 0.1 to 0.2");
        all.push(Shown {
            shows: sign(Sign::BottomChoppy, Some(side)),
            words,
            doubtful: false,
        });
    }
    if let Some(drop) = stat(Figure::HeelDrop).filter(|drop| *drop >= FOOT_DEG.0) {
        let words = format!("heel {drop:.0}° below level while pushing, ± 3");
        all.push(Shown {
            shows: sign(Sign::HeelDrops, Some(side)),
            words,
            doubtful: drop < FOOT_DEG.0 + 3.0,
        });
    }
    if let Some(foot) =
        stat(Figure::Foot180).filter(|foot| *foot >= FOOT_DEG.1 && side == Side::Right)
    {
        let words = format!("heel {foot:.0}° up at the bottom, ± 3");
        all.push(Shown {
            shows: sign(Sign::ToesPoint, None),
            words,
            doubtful: foot < FOOT_DEG.1 + 3.0,
        });
    }
}

fn pelvis(sample: &Sample, all: &mut Vec<Shown>) {
    let stat = |figure| sample.stat(Side::Right, figure).map(|stat| stat.mean);
    let (Some(right), Some(left)) = (stat(Figure::DipRight), stat(Figure::DipLeft)) else {
        return;
    };
    let mut tell = |seen, words: String, doubtful| {
        all.push(Shown {
            shows: Shows::Pelvis(seen),
            words,
            doubtful,
        });
    };
    let zeroed = sample
        .pelvis
        .as_ref()
        .is_some_and(|pelvis| pelvis.zero.is_some());
    // Markers misplaced by five millimetres, where nobody stood still for a zero.
    let (lean_off, twist_off) = if zeroed { ZEROED_DEG } else { MISPLACED_DEG };
    let apart = right - left;
    if apart.abs() > DIPS_DEG {
        let (seen, more, less) = if apart > 0.0 {
            (PelvisSeen::DipsRight, right, left)
        } else {
            (PelvisSeen::DipsLeft, left, right)
        };
        let doubt = if zeroed {
            "with a standing zero"
        } else {
            "markers misplaced by 5 mm shift it by 1.5°: stand for a zero"
        };
        let words = format!("{more:.1}° there, {less:.1}° on the other side; {doubt}");
        tell(seen, words, apart.abs() < DIPS_DEG + lean_off);
    } else if f64::midpoint(right, left) > ROCKS_DEG {
        let words = format!(
            "{:.1}° to either side; skin that slips can read 2.7°",
            f64::midpoint(right, left)
        );
        tell(PelvisSeen::Rocks, words, true);
    }
    if let Some(twist) = stat(Figure::Twist).filter(|twist| twist.abs() > TWISTED_DEG) {
        let ahead = if twist > 0.0 { "right" } else { "left" };
        tell(
            PelvisSeen::Twisted,
            format!(
                "{:.1}°, the {ahead} hip ahead; ± {twist_off:.1}°",
                twist.abs()
            ),
            twist.abs() < TWISTED_DEG + twist_off,
        );
    }
    if let Some(creep) = stat(Figure::Creep).filter(|creep| *creep > SLIDES_MM) {
        tell(
            PelvisSeen::SlidesForward,
            format!("{creep:.0} mm in ten seconds"),
            false,
        );
    }
}
