//! Where the cleat goes, fore and aft: by shoe size, as far back as the shoe allows, or midway between the first and
//! the fifth joint.

use super::{Opinion, Scale, Step, ends, led};
use crate::foresee::{Change, ForeseeInput, Trying, lower};
use crate::intake::words;
use crate::measure::{Quantity, Unit, written};
use crate::rule::rules;
use crate::solve::{half_mm, linked};
use crate::units::Side;
use serde::Serialize;

words! {
    /// A school of where the cleat goes.
    pub enum CleatSchool {
        Size "size" "By shoe size",
        Back "back" "As far back as the shoe allows",
        Midway "midway" "Midway between the joints",
    }
}

rules! {
    rules "Cleats";
    /// By EU size, the axle this far behind the first metatarsal joint; between these sizes interpolated, beyond them
    /// carried on.
    const BY_SIZE: [(f64, f64); 4] = [(38.0, 10.0), (40.0, 14.0), (42.0, 15.0), (44.0, 17.0)], " mm", Workshop;
    /// What the school by size accepts on either side of its number.
    const BY_SIZE_EITHER_MM: f64 = 2.0, " mm", House;
    /// Fifth metatarsal joint behind the first, until it is measured: share of foot length.
    const FIFTH_JOINT: f64 = 0.10, "", House;
    /// Spread of that estimate, as a share of foot length.
    const FIFTH_JOINT_SPREAD: f64 = 0.02, "", House;
    /// Foot length of one EU size: two thirds of a centimetre.
    const SIZE_MM: f64 = 20.0 / 3.0, " mm", Published("ISO 19407, shoe sizing");
    /// The most a cleat moves in one trial.
    const CLEAT_AT_ONCE_MM: f64 = 5.0, " mm", Workshop;
    /// Closer than this, a cleat is where a school wants it.
    const THERE_MM: f64 = 1.0, " mm", House;
    /// Schools of the cleat further apart than this are said to disagree.
    const APART_MM: f64 = 8.0, " mm", House;
    /// Feet that differ by less are taken for alike.
    const FEET_ALIKE_MM: f64 = 3.0, " mm", House;
}

/// How the cleat is measured, step by step.
pub const MEASURING: [&str; 4] = [
    "On the bare foot, feel for the knuckle of the big toe, the first metatarsal joint, from the inside. Mark its middle on the skin.",
    "Put the shoe on and close it. Feel the knuckle through the upper and carry the mark to the outside of the shoe.",
    "Stand the shoe on a flat board, set a square against the mark and draw the line down to the edge of the sole.",
    "Turn the shoe over. Measure along the shoe from the line back to the middle of the cleat, where the axle lies: behind the joint is positive.",
];

/// What the school by size wants, and whether the size lies beyond those it knows.
pub fn setback_by_size(size: f64) -> (f64, bool) {
    let last = BY_SIZE.len() - 1;
    // Beyond either end the nearest stretch is carried on.
    let upper = BY_SIZE
        .iter()
        .position(|(known, _)| size <= *known)
        .unwrap_or(last)
        .clamp(1, last);
    let ((size_a, a), (size_b, b)) = (BY_SIZE[upper - 1], BY_SIZE[upper]);
    let setback = a + (size - size_a) / (size_b - size_a) * (b - a);
    (setback, size < BY_SIZE[0].0 || size > BY_SIZE[last].0)
}

/// One foot's cleat as every school wants it.
pub fn scale(input: &ForeseeInput, side: Side, lead: CleatSchool) -> Scale {
    let pedalling = input.setup.pedalling.of(side);
    let now = pedalling.cleat_setback_mm.0;
    let trying = Trying::of(input);
    let schools: Vec<Opinion> = CleatSchool::ALL
        .iter()
        .map(|school| {
            let wish = wish(input, side, *school);
            Opinion {
                value: wish.value,
                low: wish.value.map(|v| v - wish.either),
                high: wish.value.map(|v| v + wish.either),
                estimated: wish.estimated,
                words: wish.words,
                trial: wish
                    .value
                    .zip(trying.as_ref())
                    .and_then(|(value, trying)| step(trying, side, now, value)),
                ..Opinion::of(school.key(), school.label(), *school == lead)
            }
        })
        .collect();
    let (low, high) = ends(
        schools
            .iter()
            .flat_map(|s| [s.low, s.high])
            .flatten()
            .chain([now]),
        4.0,
    );
    Scale {
        quantity: Quantity::CleatSetback,
        side: Some(side),
        unit: Unit::Mm,
        now,
        low,
        high,
        apart: apart(&schools),
        note: None,
        schools: led(schools),
    }
}

/// What a school wants of one foot.
struct Wish {
    value: Option<f64>,
    either: f64,
    estimated: bool,
    words: String,
}

impl Wish {
    fn unknown(words: &str) -> Self {
        Self {
            value: None,
            either: 0.0,
            estimated: false,
            words: words.to_owned(),
        }
    }
}

fn wish(input: &ForeseeInput, side: Side, school: CleatSchool) -> Wish {
    let foot = input.rider.legs.of(side);
    let lengths = input.rider.lengths();
    let foot_length = lengths.legs.of(side).foot_length.value_mm.0;
    match school {
        CleatSchool::Size => match foot.shoe_size_eu {
            None => Wish::unknown("Write the shoe's EU size down at Body"),
            Some(size) => {
                let (value, beyond) = setback_by_size(size.0);
                let how = if beyond {
                    "carried on beyond the sizes it knows, 38 to 44"
                } else {
                    "between the sizes it knows"
                };
                Wish {
                    value: Some(value),
                    either: BY_SIZE_EITHER_MM,
                    estimated: beyond,
                    words: format!("EU {}, {how}", written(size.0)),
                }
            }
        },
        CleatSchool::Back => match input.setup.pedalling.of(side).cleat_rearmost_mm {
            None => Wish::unknown("Slide the cleat fully back and measure it there first"),
            Some(rearmost) => Wish {
                value: Some(rearmost.0),
                either: 0.0,
                estimated: false,
                words: "to spare forefoot and calf; the leg's job grows longer".to_owned(),
            },
        },
        CleatSchool::Midway => match foot.fifth_joint_mm {
            Some(fifth) => Wish {
                value: Some(fifth.0 / 2.0),
                either: 1.0,
                estimated: false,
                words: format!(
                    "half of the {} mm between first and fifth",
                    written(fifth.0)
                ),
            },
            None => Wish {
                value: Some(FIFTH_JOINT * foot_length / 2.0),
                either: FIFTH_JOINT_SPREAD * foot_length,
                estimated: true,
                words: "estimated from the foot's length: measure the fifth joint".to_owned(),
            },
        },
    }
}

/// One trial towards `wanted`, the saddle's answer with it.
fn step(trying: &Trying, side: Side, now: f64, wanted: f64) -> Option<Step> {
    let all = wanted - now;
    if all.abs() < THERE_MM {
        return None;
    }
    let by = half_mm(all.clamp(-CLEAT_AT_ONCE_MM, CLEAT_AT_ONCE_MM));
    let changes = linked(trying, vec![on(side, Quantity::CleatSetback, by)]);
    let left = all - by;
    let words = if left.abs() < THERE_MM {
        String::new()
    } else {
        format!("then {} mm more", written(left.abs()))
    };
    Step::of(trying, changes, words)
}

/// A change of one side by an amount.
pub(super) fn on(side: Side, quantity: Quantity, by: f64) -> Change {
    Change {
        side: Some(side),
        ..Change::by(quantity, by)
    }
}

/// Where the schools disagree about this foot.
fn apart(schools: &[Opinion]) -> Option<String> {
    let mut known: Vec<(&str, f64)> = schools
        .iter()
        .filter_map(|s| Some((s.label.as_str(), s.value?)))
        .collect();
    known.sort_by(|a, b| a.1.total_cmp(&b.1));
    let (first, last) = (known.first()?, known.last()?);
    let by = last.1 - first.1;
    (by > APART_MM).then(|| {
        format!(
            "The schools are {} mm apart for this foot: {} wants {} mm, {} {} mm. Each is a trial.",
            written(by),
            lower(first.0),
            written(first.1),
            lower(last.0),
            written(last.1)
        )
    })
}

/// Equal and staggered cleats for feet of different size, each ready to be tried.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Comparison {
    /// By how much the feet differ, and what is done about it.
    pub words: String,
    /// The two, equal first.
    pub options: [Choice; 2],
}

/// One side of a comparison.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Choice {
    /// "Staggered by 6".
    pub label: String,
    /// "left 12 mm, right 18 mm".
    pub words: String,
    /// The linked trial; none when it stands so already.
    pub trial: Option<Step>,
}

/// The comparison of equal with staggered cleats; `None` for feet that are alike, or not measured.
pub fn comparison(input: &ForeseeInput) -> Option<Comparison> {
    let legs = &input.rider.legs;
    let measured = |side: Side| {
        let leg = legs.of(side);
        leg.foot_length_mm
            .map(|length| length.0)
            .or_else(|| leg.shoe_size_eu.map(|size| size.0 * SIZE_MM))
    };
    let (left, right) = (measured(Side::Left)?, measured(Side::Right)?);
    let by = (left - right).abs();
    if by < FEET_ALIKE_MM {
        return None;
    }
    let longer = if left > right {
        Side::Left
    } else {
        Side::Right
    };
    let trying = Trying::of(input)?;
    let now = |side: Side| input.setup.pedalling.of(side).cleat_setback_mm.0;
    let base = now(longer.other());
    let by = half_mm(by);
    let option = |label: String, longer_at: f64| {
        let change = longer_at - now(longer);
        let at = |side: Side| if side == longer { longer_at } else { base };
        Some(Choice {
            label,
            words: format!(
                "left {} mm, right {} mm",
                written(at(Side::Left)),
                written(at(Side::Right))
            ),
            trial: if change.abs() < THERE_MM {
                None
            } else {
                let changes = linked(&trying, vec![on(longer, Quantity::CleatSetback, change)]);
                Step::of(&trying, changes, String::new())
            },
        })
    };
    Some(Comparison {
        words: format!(
            "The {} foot is {} mm longer. About half of such riders do better with equal cleats, half with staggered ones: try both.",
            longer.word(),
            written(by)
        ),
        options: [
            option("Equal".to_owned(), base)?,
            option(format!("Staggered by {}", written(by)), base + by)?,
        ],
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::{Millimetres, Size};

    #[test]
    fn golden_setback_by_size() {
        // The table itself; 39: halfway 10–14; 41: halfway 14–15; 43: halfway 15–17; 42.5: 15 + .25 × 2.
        // Beyond: 36: two sizes of 2 mm below 10; 47: three sizes of 1 mm above 17.
        for (size, wanted, beyond) in [
            (38.0, 10.0, false),
            (39.0, 12.0, false),
            (40.0, 14.0, false),
            (41.0, 14.5, false),
            (42.0, 15.0, false),
            (42.5, 15.5, false),
            (43.0, 16.0, false),
            (44.0, 17.0, false),
            (36.0, 6.0, true),
            (37.9, 9.8, true),
            (44.1, 17.1, true),
            (47.0, 20.0, true),
        ] {
            let (value, said) = setback_by_size(size);
            assert!((value - wanted).abs() < 1e-9, "{size}: {value}");
            assert_eq!(said, beyond, "{size}");
        }
    }

    fn feet(left: f64, right: f64) -> ForeseeInput {
        let mut input = example::road();
        input.rider.legs.left.foot_length_mm = Some(Millimetres(left));
        input.rider.legs.right.foot_length_mm = Some(Millimetres(right));
        input
    }

    #[test]
    fn every_school_stands_on_the_scale_or_says_what_it_needs() {
        let mut input = example::road();
        let before = scale(&input, Side::Left, CleatSchool::Midway);
        assert_eq!(before.schools[0].school, "midway");
        assert!(before.schools[0].leads && before.schools[0].estimated);
        // .10 × .152 × 1780 / 2 = 13.5
        assert!((before.schools[0].value.unwrap() - 13.528).abs() < 1e-9);
        assert_eq!(
            before.schools.iter().filter(|s| s.value.is_none()).count(),
            2
        );

        let leg = &mut input.rider.legs.left;
        leg.shoe_size_eu = Some(Size(42.5));
        leg.fifth_joint_mm = Some(Millimetres(30.0));
        input.setup.pedalling.left.cleat_rearmost_mm = Some(Millimetres(27.0));
        let all = scale(&input, Side::Left, CleatSchool::Size);
        let values: Vec<_> = all.schools.iter().map(|s| s.value.unwrap()).collect();
        assert_eq!(values, [15.5, 27.0, 15.0]);
        // Now 12: two steps of 3.5 and 3 go all the way; 15 mm are taken 5 at a time.
        let trial = |index: usize| all.schools[index].trial.as_ref().unwrap();
        assert_eq!(
            (trial(0).changes[0].by, trial(0).left.as_str()),
            (Some(3.5), "")
        );
        assert_eq!(
            (trial(1).changes[0].by, trial(1).left.as_str()),
            (Some(5.0), "then 10 mm more")
        );
        assert!(all.apart.unwrap().contains("12 mm apart"));
        assert!(all.low < 12.0 && all.high > 27.0);
    }

    #[test]
    fn a_cleat_further_back_takes_the_saddle_down_with_it() {
        let mut input = example::road();
        input.setup.pedalling = crate::units::Sides::from_fn(|side| {
            let mut pedalling = *input.setup.pedalling.of(side);
            pedalling.cleat_rearmost_mm = Some(Millimetres(22.0));
            pedalling
        });
        let scale = scale(&input, Side::Right, CleatSchool::Back);
        let changes = &scale.schools[0].trial.as_ref().unwrap().changes;
        // One foot of the two: about a quarter of the 5 mm, when both together take half.
        let saddle = changes[1];
        assert_eq!(saddle.quantity, Quantity::SaddleHeight);
        assert!((-2.0..=-1.0).contains(&saddle.by.unwrap()), "{saddle:?}");
        // A cleat where the school wants it asks for nothing.
        input.setup.pedalling.right.cleat_setback_mm = Millimetres(22.0);
        assert_eq!(
            super::scale(&input, Side::Right, CleatSchool::Back).schools[0].trial,
            None
        );
    }

    #[test]
    fn feet_of_different_size_are_compared_equal_and_staggered() {
        assert_eq!(comparison(&example::road()), None, "not measured");
        assert_eq!(comparison(&feet(270.0, 272.0)), None, "alike");
        let all = comparison(&feet(264.0, 270.0)).unwrap();
        assert!(
            all.words.starts_with("The right foot is 6 mm longer"),
            "{}",
            all.words
        );
        assert_eq!(all.options[0].words, "left 12 mm, right 12 mm");
        assert_eq!(all.options[0].trial, None, "they are equal now");
        assert_eq!(all.options[1].words, "left 12 mm, right 18 mm");
        let trial = all.options[1].trial.as_ref().unwrap();
        assert_eq!(
            trial.changes[0],
            on(Side::Right, Quantity::CleatSetback, 6.0)
        );
        // Sizes serve where lengths were not measured: one size is 6.7 mm.
        let mut input = example::road();
        input.rider.legs.left.shoe_size_eu = Some(Size(43.0));
        input.rider.legs.right.shoe_size_eu = Some(Size(42.0));
        let by_size = comparison(&input).unwrap();
        assert_eq!(by_size.options[1].label, "Staggered by 6.5");
    }
}
