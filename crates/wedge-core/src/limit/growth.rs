//! A rider who has outgrown the position.

use crate::foresee::Trying;
use crate::position::Ride;
use crate::rider::Rider;
use crate::rule::rules;
use crate::solve::post_for_knee;
use crate::words::written;
use serde::{Deserialize, Serialize};

rules! {
    rules "Growth";
    /// A knee at full reach this far from where the fit left it has outgrown the position: about a centimetre of
    /// saddle.
    const OUTGROWN_DEG: f64 = 4.0, "°", House;
    /// A rider under 18 is measured again after so many days.
    const MEASURE_AGAIN_DAYS: f64 = 120.0, " days", House;
    /// Riders grow until about this age.
    const GROWING_UNTIL_YEARS: f64 = 18.0, " years", House;
}

/// How far a body has grown away from the position a fit left.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Growth {
    /// Inseam now, less then.
    pub inseam_mm: f64,
    /// Stature now, less then.
    pub stature_mm: f64,
    /// Knee at full reach as the fit left it.
    pub knee_then_deg: f64,
    /// The same on the same bike with the body as it is now.
    pub knee_now_deg: f64,
    /// Travel of the post that would give the knee back, up positive; none when no post does.
    pub saddle_mm: Option<f64>,
    /// All of it in a sentence.
    pub words: String,
}

/// Whether a rider of this age was measured too long ago to be sure of it.
pub fn measure_again(age_years: f64, days_since: f64) -> Option<String> {
    (age_years < GROWING_UNTIL_YEARS && days_since > MEASURE_AGAIN_DAYS).then(|| {
        format!(
            "Still growing, and last measured {} days ago: measure again before trusting the numbers",
            written(days_since.floor())
        )
    })
}

/// Whether the rider as measured `now` has outgrown the position `then`, on the setup it was left with. `None` while
/// the knee is about where it was.
pub fn growth(then: &Ride, now: &Rider) -> Option<Growth> {
    // What was fitted to the smaller body, and what was seen of its foot, do not hold for the larger one alone.
    let bare = |rider: &Rider| {
        then.altered(|facts| {
            facts.rider = *rider;
            facts.fit = None;
        })
    };
    let (was, is) = (bare(&then.rider), bare(now));
    let knee_then = was.position().knee_at_full_reach();
    let trying = Trying::of(&is);
    let knee_now = trying.before.knee_at_full_reach();
    if (knee_now - knee_then).abs() < OUTGROWN_DEG {
        return None;
    }
    let grown = |length: fn(&Rider) -> f64| length(now) - length(&then.rider);
    let inseam = grown(|rider| rider.lengths().inseam.value_mm.0);
    let stature = grown(|rider| rider.body.stature_mm.0);
    let saddle = post_for_knee(&trying, &[], knee_then);
    let way = |by: f64, more: &str, less: &str| {
        format!(
            "{} mm {}",
            written(by.abs()),
            if by > 0.0 { more } else { less }
        )
    };
    let asks = saddle.map_or_else(String::new, |by| {
        format!(
            "; the saddle wants about {}",
            way(by.round(), "more", "less")
        )
    });
    Some(Growth {
        inseam_mm: inseam,
        stature_mm: stature,
        knee_then_deg: knee_then,
        knee_now_deg: knee_now,
        saddle_mm: saddle,
        words: format!(
            "The leg is {} than at that fit: on the bike as it was left the knee at full reach is {}°, it was {}°{asks}",
            way(inseam, "longer", "shorter"),
            written(knee_now),
            written(knee_then)
        ),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::Millimetres;

    #[test]
    fn a_leg_grown_thirty_millimetres_outgrows_the_saddle_and_ten_does_not() {
        let then = example::road().check().unwrap();
        let grown = |mm: f64| {
            let mut rider = then.rider;
            rider.body.stature_mm = Millimetres(1780.0 + 2.0 * mm);
            rider.body.inseam_mm = Some(Millimetres(845.5 + mm));
            growth(&then, &rider)
        };
        assert_eq!(grown(0.0), None);
        assert_eq!(grown(8.0), None);
        let growth = grown(30.0).unwrap();
        // Thigh, shank and ankle are .53 H where the inseam is .475 H: 30 mm of inseam are 33.5 of leg, and the foot
        // grows too. The knee folds by .3 to .5° a mm until the saddle follows.
        assert!((growth.inseam_mm - 30.0).abs() < 1e-9);
        let folded = growth.knee_now_deg - growth.knee_then_deg;
        assert!((9.0..16.0).contains(&folded), "{folded}");
        assert!(
            (32.0..42.0).contains(&growth.saddle_mm.unwrap()),
            "{growth:?}"
        );
        assert!(growth.words.contains("30 mm longer"), "{}", growth.words);
    }

    #[test]
    fn a_growing_rider_is_measured_again_in_time() {
        for (age, days, due) in [
            (15.0, 121.0, true),
            (15.0, 120.0, false),
            (17.99, 200.0, true),
            (18.0, 200.0, false),
        ] {
            assert_eq!(measure_again(age, days).is_some(), due, "{age} {days}");
        }
    }

    #[test]
    fn a_leg_measured_shorter_is_said_as_well() {
        let then = example::road().check().unwrap();
        let mut rider = then.rider;
        rider.body.inseam_mm = Some(Millimetres(820.0));
        let words = growth(&then, &rider).unwrap().words;
        assert!(
            words.contains("25.5 mm shorter") && words.contains("less"),
            "{words}"
        );
    }
}
