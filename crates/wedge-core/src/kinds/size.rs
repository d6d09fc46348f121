//! Which size, off-road: from stature and floor to knuckles, before there is a bike.

use crate::measure::Quantity;
use crate::rider::Rider;
use crate::rule::rules;
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Off-road size";
    /// Frame reach in mm, of stature in cm.
    const REACH_BY_STATURE: f64 = 2.55, " × stature in cm", Workshop;
    /// BB to grips this much longer than floor to knuckles is too big.
    const TOO_BIG_MM: (f64, f64) = (20.0, 30.0), " mm", Workshop;
    /// This near it is equal.
    const EQUAL_MM: f64 = 10.0, " mm", House;
    /// What spacers, rise, stem and sweep give of BB to grips before a size is refused, either way.
    const GIVES_MM: f64 = 25.0, " mm", House;
    /// A trail cockpit as it is sold, from the top of the head tube: hands ahead,
    const AHEAD_MM: f64 = 5.0, " mm", House;
    /// and up.
    const UP_MM: f64 = 75.0, " mm", House;
}

/// A size, by what it is for this rider.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = SizedFrame))]
pub struct Sized {
    /// As it is called.
    pub name: String,
    /// Its reach, mm.
    pub reach_mm: f64,
    /// How much longer than wanted, mm.
    pub over_mm: f64,
    /// BB to grips with an ordinary cockpit, mm: an estimate until it is built.
    pub grips_mm: f64,
    /// Whether it is one of the two nearest.
    pub candidate: bool,
    /// Whether it is the one to take first.
    pub first: bool,
    /// How it is judged.
    pub words: String,
}

/// The sizes for a rider.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sizing {
    /// The reach wanted, mm.
    pub reach_mm: f64,
    /// Floor to knuckles, mm, when measured.
    pub knuckle_mm: Option<f64>,
    /// The sizes, the shortest first.
    pub sizes: Vec<Sized>,
    /// What there is to say.
    pub words: String,
}

/// Ranks frames by reach, and the two nearest by BB to grips against floor to knuckles. Frames are name, reach and stack, mm.
pub fn sizing(rider: &Rider, frames: &[(String, f64, f64)]) -> Sizing {
    let reach_mm = REACH_BY_STATURE * rider.body.stature_mm.0 / 10.0;
    let knuckle_mm = rider.body.get(Quantity::KnuckleHeight);
    let mut order: Vec<usize> = (0..frames.len()).collect();
    order.sort_by(|a, b| frames[*a].1.total_cmp(&frames[*b].1));
    let mut near = order.clone();
    near.sort_by(|a, b| {
        (frames[*a].1 - reach_mm)
            .abs()
            .total_cmp(&(frames[*b].1 - reach_mm).abs())
    });
    near.truncate(2);
    let grips = |index: usize| (frames[index].1 + AHEAD_MM).hypot(frames[index].2 + UP_MM);
    let miss = |index: usize| match knuckle_mm {
        Some(knuckle) => (grips(index) - knuckle).abs(),
        None => (frames[index].1 - reach_mm).abs(),
    };
    // What the cockpit cannot give is no size to begin with.
    let given = |index: &usize| knuckle_mm.is_none() || miss(*index) <= GIVES_MM + TOO_BIG_MM.0;
    let first = near
        .iter()
        .copied()
        .filter(given)
        .min_by(|a, b| miss(*a).total_cmp(&miss(*b)));
    let sizes = order
        .into_iter()
        .map(|index| {
            let (name, reach, _) = &frames[index];
            let candidate = near.contains(&index);
            Sized {
                name: name.clone(),
                reach_mm: *reach,
                over_mm: reach - reach_mm,
                grips_mm: grips(index),
                candidate,
                first: first == Some(index),
                words: judged(grips(index), knuckle_mm, candidate),
            }
        })
        .collect();
    let words = match knuckle_mm {
        None => "Between the two nearest floor to knuckles decides: measure it at Body".to_owned(),
        Some(knuckle) => format!(
            "BB to grips against {} mm from floor to knuckles: equal is best",
            written(knuckle)
        ),
    };
    Sizing {
        reach_mm,
        knuckle_mm,
        sizes,
        words,
    }
}

fn judged(grips: f64, knuckle: Option<f64>, candidate: bool) -> String {
    if !candidate {
        return "not among the two nearest".to_owned();
    }
    let Some(knuckle) = knuckle else {
        return "one of the two nearest".to_owned();
    };
    let over = grips - knuckle;
    let by = written(over.abs().round());
    // What the cockpit can give is counted before a size is refused.
    let left = over.abs() - GIVES_MM;
    if over.abs() <= EQUAL_MM {
        "equal: best".to_owned()
    } else if over > 0.0 && left > TOO_BIG_MM.0 {
        format!(
            "{by} mm too long: too big, spacers, rise, stem and sweep give {} of it",
            written(GIVES_MM)
        )
    } else if over > 0.0 {
        format!(
            "{by} mm long; a shorter stem, less rise or more sweep give about {}",
            written(GIVES_MM)
        )
    } else if -over > GIVES_MM {
        format!(
            "{by} mm short; spacers, rise and stem give about {}",
            written(GIVES_MM)
        )
    } else {
        format!("{by} mm short: spacers or rise give that")
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    fn rider(stature: f64, knuckle: Option<f64>) -> Rider {
        let mut rider = example::flat_bar().rider;
        rider.body.stature_mm.0 = stature;
        rider.body.knuckle_height_mm = knuckle.map(crate::units::Millimetres);
        rider
    }

    fn frames() -> Vec<(String, f64, f64)> {
        [
            ("S", 430.0, 605.0),
            ("M", 455.0, 615.0),
            ("L", 480.0, 625.0),
            ("XL", 505.0, 640.0),
        ]
        .map(|(name, reach, stack)| (name.to_owned(), reach, stack))
        .to_vec()
    }

    #[test]
    fn golden_size_from_stature_and_knuckles() {
        // 180 cm: 459 mm of reach; nearest are M (455) and L (480). With the usual cockpit M has BB to grips
        // hypot(460, 690) = 829.3, L hypot(485, 700) = 851.6: knuckles at 850 take L, at 830 M.
        let sized = |knuckle| sizing(&rider(1800.0, knuckle), &frames());
        let first = |s: &Sizing| s.sizes.iter().find(|s| s.first).unwrap().name.clone();
        let tall = sized(Some(850.0));
        assert!((tall.reach_mm - 459.0).abs() < 1e-9);
        assert_eq!(first(&tall), "L");
        assert_eq!(first(&sized(Some(830.0))), "M");
        assert_eq!(first(&sized(None)), "M");
        let names: Vec<_> = tall
            .sizes
            .iter()
            .filter(|s| s.candidate)
            .map(|s| s.name.as_str())
            .collect();
        assert_eq!(names, ["M", "L"]);
        assert!((tall.sizes[1].grips_mm - 829.28).abs() < 0.01);
        assert!(
            sized(Some(700.0)).sizes.iter().all(|size| !size.first),
            "both too big"
        );
        // 50 mm over the knuckles: 25 can be given, 25 is left, and 20 is too big.
        let big = sizing(&rider(1800.0, Some(801.0)), &frames());
        assert!(
            big.sizes[2].words.contains("too big"),
            "{}",
            big.sizes[2].words
        );
    }
}
