//! Where the cleat goes, fore and aft: by shoe size, as far back as the shoe allows, or midway between the first and
//! the fifth joint.

use super::decision::{self, Decision, Scale, Wish};
use crate::foresee::{Change, Step, Trying};
use crate::measure::{Quantity, half_mm};
use crate::rule::rules;
use crate::solve::linked;
use crate::units::{Millimetres, Side, Sides};
use crate::words::{lower, words, written};
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
pub fn scale(trying: &Trying, side: Side, lead: CleatSchool) -> Scale {
    decision::scale(&Cleat { trying, side }, lead)
}

/// Where one foot's cleat goes, mm behind the first joint.
struct Cleat<'a> {
    trying: &'a Trying<'a>,
    side: Side,
}

impl Cleat<'_> {
    /// Between the joints; estimated from the foot's length until the fifth is measured.
    fn midway(&self, fifth: Option<Millimetres>) -> Wish {
        if let Some(fifth) = fifth {
            return Wish {
                words: format!(
                    "half of the {} mm between first and fifth",
                    written(fifth.0)
                ),
                ..Wish::around(fifth.0 / 2.0, 1.0)
            };
        }
        let lengths = self.trying.rider.lengths();
        let foot = lengths.legs.of(self.side).foot_length.value_mm.0;
        Wish {
            estimated: true,
            words: "estimated from the foot's length: measure the fifth joint".to_owned(),
            ..Wish::around(FIFTH_JOINT * foot / 2.0, FIFTH_JOINT_SPREAD * foot)
        }
    }
}

impl Decision for Cleat<'_> {
    type School = CleatSchool;

    const ROOM: f64 = 4.0;
    const QUANTITY: Quantity = Quantity::CleatSetback;

    fn on(&self) -> &Trying<'_> {
        self.trying
    }

    fn side(&self) -> Option<Side> {
        Some(self.side)
    }

    fn now(&self) -> f64 {
        let pedalling = self.trying.setup.pedalling.of(self.side);
        pedalling.cleat_setback_mm.0
    }

    fn wish(&self, school: CleatSchool) -> Result<Wish, String> {
        let foot = self.trying.rider.legs.of(self.side);
        match school {
            CleatSchool::Size => {
                let size = foot
                    .shoe_size_eu
                    .ok_or("Write the shoe's EU size down at Body")?;
                let (value, beyond) = setback_by_size(size.0);
                let how = if beyond {
                    "carried on beyond the sizes it knows, 38 to 44"
                } else {
                    "between the sizes it knows"
                };
                Ok(Wish {
                    estimated: beyond,
                    words: format!("EU {}, {how}", written(size.0)),
                    ..Wish::around(value, BY_SIZE_EITHER_MM)
                })
            }
            CleatSchool::Back => {
                let rearmost = self.trying.setup.pedalling.of(self.side).cleat_rearmost_mm;
                let rearmost =
                    rearmost.ok_or("Slide the cleat fully back and measure it there first")?;
                Ok(Wish {
                    words: "to spare forefoot and calf; the leg's job grows longer".to_owned(),
                    ..Wish::around(rearmost.0, 0.0)
                })
            }
            CleatSchool::Midway => Ok(self.midway(foot.fifth_joint_mm)),
        }
    }

    fn way(&self, place: f64) -> Vec<Change> {
        let by = place - self.now();
        linked(self.trying, vec![on(self.side, Quantity::CleatSetback, by)])
    }

    /// One trial, the saddle's answer with it.
    fn step(&self, wish: &Wish) -> (Option<Step>, Option<String>) {
        let all = wish.place - self.now();
        if all.abs() < THERE_MM {
            return (None, None);
        }
        let by = half_mm(all.clamp(-CLEAT_AT_ONCE_MM, CLEAT_AT_ONCE_MM));
        let changes = linked(self.trying, vec![on(self.side, Quantity::CleatSetback, by)]);
        let left = all - by;
        let words = if left.abs() < THERE_MM {
            String::new()
        } else {
            format!("then {} mm more", written(left.abs()))
        };
        Step::as_far_as_it_goes(self.trying, changes, words)
    }

    fn apart(&self, known: &[(CleatSchool, Wish)]) -> Option<String> {
        let mut known: Vec<(&str, f64)> = known
            .iter()
            .map(|(school, wish)| (school.label(), wish.place))
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
}

/// A change of one side by an amount.
pub(super) fn on(side: Side, quantity: Quantity, by: f64) -> Change {
    Change {
        side: Some(side),
        ..Change::by(quantity, by)
    }
}

/// The two ways to set the cleats of feet of different size, each ready to be tried.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Comparison {
    /// By how much the feet differ, what is done about it, and which of the two the shoes have now.
    pub words: String,
    /// The two: each behind its own joint, then the same place on both shoes.
    pub options: [Choice; 2],
}

/// One side of a comparison.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Choice {
    /// "Each behind its own joint".
    pub label: String,
    /// Both numbers of both feet: behind the joint, and where that is on the shoe against the other.
    pub words: String,
    /// Whether the shoes have it so now.
    pub now: bool,
    /// The linked trial; none when it stands so already.
    pub trial: Option<Step>,
}

/// The two ways for feet of different size; `None` for feet that are alike, or not measured.
///
/// *Each behind its own joint*: both axles are as far behind the first joint as the right foot's is now, so on its shoe
/// the longer foot's cleat stands further forward by the difference in length. *The same place on both shoes*, taken from
/// the right: the longer foot's cleat stands further behind its joint by that difference, since a longer foot's joint
/// lies further forward in its shoe.
pub fn comparison(trying: &Trying) -> Option<Comparison> {
    let legs = &trying.rider.legs;
    let measured = |side: Side| {
        let leg = legs.of(side);
        leg.foot_length_mm
            .map(|length| length.0)
            .or_else(|| leg.shoe_size_eu.map(|size| size.0 * SIZE_MM))
    };
    let lengths = Sides {
        left: measured(Side::Left)?,
        right: measured(Side::Right)?,
    };
    let longer_left = half_mm(lengths.left - lengths.right);
    if (lengths.left - lengths.right).abs() < FEET_ALIKE_MM {
        return None;
    }
    let by = longer_left.abs();
    let longer = if longer_left > 0.0 {
        Side::Left
    } else {
        Side::Right
    };
    let now = Sides::from_fn(|side| trying.setup.pedalling.of(side).cleat_setback_mm.0);
    let option = |label: &str, left: f64| {
        let change = left - now.left;
        // Where the longer foot's cleat stands on its shoe, against the same place on the other one.
        let behind_joint = Sides {
            left,
            right: now.right,
        };
        let forward = by - (behind_joint.of(longer) - behind_joint.of(longer.other()));
        let on_the_shoes = if forward.abs() < THERE_MM {
            "at the same place of both shoes".to_owned()
        } else {
            format!(
                "on its shoe the {} one stands {} mm further {}",
                longer.word(),
                written(forward.abs()),
                if forward > 0.0 { "forward" } else { "back" }
            )
        };
        let changes = || linked(trying, vec![on(Side::Left, Quantity::CleatSetback, change)]);
        let there = change.abs() < THERE_MM;
        Choice {
            label: label.to_owned(),
            words: format!(
                "behind the joint left {} mm, right {} mm; {on_the_shoes}",
                written(left),
                written(now.right)
            ),
            now: there,
            trial: (!there)
                .then(|| Step::of(trying, changes(), String::new()))
                .flatten(),
        }
    };
    let options = [
        option("Each behind its own joint", now.right),
        option("The same place on both shoes", now.right + longer_left),
    ];
    let has = options.iter().find(|option| option.now).map_or_else(
        || {
            format!(
                "between or beyond the two: behind the joint left {} mm, right {} mm",
                written(now.left),
                written(now.right)
            )
        },
        |option| lower(&option.label),
    );
    Some(Comparison {
        words: format!(
            "The {} foot is {} mm longer. About half of such riders do better either way: try both. The shoes have it now: \
             {has}.",
            longer.word(),
            written(by)
        ),
        options,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::foresee::ForeseeInput;
    use crate::units::Size;

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
        let before = trying(&input, |t| scale(t, Side::Left, CleatSchool::Midway));
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
        let all = trying(&input, |t| scale(t, Side::Left, CleatSchool::Size));
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
        let scale = trying(&input, |t| scale(t, Side::Right, CleatSchool::Back));
        let changes = &scale.schools[0].trial.as_ref().unwrap().changes;
        // One foot of the two: about a quarter of the 5 mm, when both together take half.
        let saddle = changes[1];
        assert_eq!(saddle.quantity, Quantity::SaddleHeight);
        assert!((-2.0..=-1.0).contains(&saddle.by.unwrap()), "{saddle:?}");
        // A cleat where the school wants it asks for nothing.
        input.setup.pedalling.right.cleat_setback_mm = Millimetres(22.0);
        assert_eq!(
            trying(&input, |t| super::scale(t, Side::Right, CleatSchool::Back)).schools[0].trial,
            None
        );
    }

    #[test]
    fn feet_of_different_size_are_tried_either_way() {
        let compared = |input: &ForeseeInput| trying(input, comparison);
        assert_eq!(compared(&example::road()), None, "not measured");
        assert_eq!(compared(&feet(270.0, 272.0)), None, "alike");
        let all = compared(&feet(264.0, 270.0)).unwrap();
        assert!(
            all.words.starts_with("The right foot is 6 mm longer"),
            "{}",
            all.words
        );
        assert!(
            all.words.ends_with("now: each behind its own joint."),
            "{}",
            all.words
        );
        let [own, same] = &all.options;
        assert!(own.now && own.trial.is_none());
        // Equal behind the joints: the longer right foot's joint lies 6 further forward in its shoe, its cleat with it.
        assert_eq!(own.label, "Each behind its own joint");
        assert_eq!(
            own.words,
            "behind the joint left 12 mm, right 12 mm; on its shoe the right one stands 6 mm further forward"
        );
        // At the right shoe's place the left cleat is 6 less behind its own joint.
        assert_eq!(same.label, "The same place on both shoes");
        assert_eq!(
            same.words,
            "behind the joint left 6 mm, right 12 mm; at the same place of both shoes"
        );
        let trial = same.trial.as_ref().unwrap();
        assert_eq!(
            trial.changes[0],
            on(Side::Left, Quantity::CleatSetback, -6.0)
        );
        // The longer left foot's cleat stands further behind its joint, by the difference.
        let left = compared(&feet(270.0, 264.0)).unwrap();
        assert!(
            left.options[1]
                .words
                .starts_with("behind the joint left 18 mm, right 12 mm")
        );
        // Shoes that have it neither way say what they have.
        let mut between = feet(264.0, 270.0);
        between.setup.pedalling.left.cleat_setback_mm = Millimetres(9.0);
        let between = compared(&between).unwrap();
        assert!(
            between
                .words
                .ends_with("between or beyond the two: behind the joint left 9 mm, right 12 mm.")
        );
        assert!(between.options.iter().all(|o| !o.now && o.trial.is_some()));
        // Sizes serve where lengths were not measured: one size is 6.7 mm.
        let mut input = example::road();
        input.rider.legs.left.shoe_size_eu = Some(Size(43.0));
        input.rider.legs.right.shoe_size_eu = Some(Size(42.0));
        let by_size = compared(&input).unwrap();
        assert!(
            by_size.options[1]
                .words
                .starts_with("behind the joint left 18.5 mm, right 12 mm")
        );
    }
}
