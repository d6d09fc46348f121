//! A grade under the wheels: what the rider feels of setback, tilt and weight there, and a saddle for the usual climb.

use super::saddle_places::{SaddlePlaceRow, saddle_places};
use crate::foresee::{Change, Trying};
use crate::measure::{Output, Quantity, Refusal, within};
use crate::position::Position;
use crate::rule::rules;
use crate::units::Side;
use crate::words::{tenth, written};
use serde::Serialize;
use std::borrow::Cow;

rules! {
    rules "Grade";
    /// The slider's ends, uphill positive.
    const ENDS_PERCENT: (f64, f64) = (-15.0, 15.0), " %", House;
    /// A saddle used seated only uphill points down by this much at the most.
    const NOSE_DOWN_DEG: f64 = 5.0, "°", Workshop;
    /// Nose down by more slides riders forward on the flat.
    const SLIDES_DEG: f64 = 3.0, "°", House;
}

/// A position on a grade, beside the level.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = OnGrade))]
pub struct Graded {
    /// The grade, uphill positive, in hundredths.
    pub percent: f64,
    /// Setback of the sit reference on the level, mm.
    pub setback_mm: f64,
    /// As it is felt, mm.
    pub felt_setback_mm: f64,
    /// Saddle tilt on the level, front up.
    pub tilt_deg: f64,
    /// As it is felt: uphill lifts the nose.
    pub felt_tilt_deg: f64,
    /// Front share on the level, when the rider was weighed.
    pub front_share: Option<f64>,
    /// And there.
    pub felt_front_share: Option<f64>,
    /// What the hands carry on the level, N, at the named effort.
    pub hands_n: Option<f64>,
    /// And there.
    pub felt_hands_n: Option<f64>,
    /// Every place on the saddle, on the level.
    pub places: Vec<SaddlePlaceRow>,
    /// In words.
    pub words: String,
}

fn angle(percent: f64) -> f64 {
    (percent / 100.0).atan().to_degrees()
}

/// The position as it is felt on a grade: x becomes x − h·tan a for weights, h above the ground.
pub fn graded(trying: &Trying, percent: f64) -> Result<Graded, Refusal> {
    if let Some(refusal) = within(
        "/percent",
        percent,
        ENDS_PERCENT.0,
        ENDS_PERCENT.1,
        "A grade, in %,",
    ) {
        return Err(refusal);
    }
    // What stands already is not solved again.
    let on = |percent: f64| {
        if (trying.grade_percent - percent).abs() < f64::EPSILON {
            return Cow::Borrowed(&trying.before);
        }
        let there = trying.altered(|facts| facts.grade_percent = percent);
        Cow::Owned(there.position())
    };
    let (there, level) = (on(percent), on(0.0));
    let sit = level.bike.sit;
    let tilt = trying.setup.saddle.tilt_deg.0;
    let of = |output: Output, position: &Position| output.of(position, Side::Right);
    let felt = crate::position::setback_on_grade(sit, percent);
    let by = felt + sit.x;
    let words = if percent == 0.0 {
        "Level".to_owned()
    } else {
        format!(
            "{} %: the saddle feels {} mm further {} and {}° more nose {}",
            written(percent),
            written(by.abs().round()),
            if by > 0.0 { "back" } else { "forward" },
            written(tenth(angle(percent).abs())),
            if percent > 0.0 { "up" } else { "down" }
        )
    };
    Ok(Graded {
        percent,
        setback_mm: -sit.x,
        felt_setback_mm: felt,
        tilt_deg: tilt,
        felt_tilt_deg: tilt + angle(percent),
        front_share: of(Output::FrontShare, &level),
        felt_front_share: of(Output::FrontShare, &there),
        hands_n: of(Output::HandLoad, &level),
        felt_hands_n: of(Output::HandLoad, &there),
        places: saddle_places(trying),
        words,
    })
}

/// The tilt that is level on the usual climb, for a saddle used seated only uphill: at most 5° down. `pitch` is what sag
/// turns the bike by, back positive.
pub fn level_on_climb(
    trying: &Trying,
    climb_percent: f64,
    pitch_deg: f64,
) -> Option<(Change, String)> {
    let wanted = pitch_deg - angle(climb_percent);
    let to = (2.0 * wanted.clamp(-NOSE_DOWN_DEG, 0.0)).round() / 2.0;
    let now = trying.setup.saddle.tilt_deg.0;
    if (to - now).abs() < 0.25 {
        return None;
    }
    let short = wanted < -NOSE_DOWN_DEG - 0.05;
    let slides = to < -SLIDES_DEG;
    let words = format!(
        "Saddle tilt {}°: {} on {} %{}",
        written(to),
        if short {
            format!("{}° nose up is left", written(tenth(to - wanted)))
        } else {
            "level".to_owned()
        },
        written(climb_percent),
        if slides {
            "; check on the flat that the rider does not slide forward onto the hands"
        } else {
            ""
        }
    );
    Some((Change::to(Quantity::Tilt, to), words))
}
