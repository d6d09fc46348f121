//! An adaptation plan: from today to a target in safe steps, one thing at a time, upstream first.

use crate::foresee::{Change, Step, Trying, foresee_on};
use crate::measure::{Mark, Quantity, Refusal, Unit, half_mm};
use crate::rule::rules;
use crate::solve::post_for_knee;
use crate::units::Side;
use crate::words::{sided, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Adaptation plan";
    /// A saddle or the bars move in one step of a plan by at most
    const STEP_MM: f64 = 5.0, " mm", House;
    /// A saddle or the bars of a rider in pain, or new to it, move by at most
    const CAREFUL_MM: f64 = 3.0, " mm", House;
    /// A cleat moves in one step by at most
    const CLEAT_MM: f64 = 5.0, " mm", House;
    /// A cleat of a rider in pain, or new to it, moves by at most
    const CLEAT_CAREFUL_MM: f64 = 3.0, " mm", House;
    /// A crank is changed once in a plan, by at most
    const CRANK_MM: f64 = 5.0, " mm", House;
    /// A crank of a rider in pain, or new to it, changes by at most
    const CRANK_CAREFUL_MM: f64 = 2.5, " mm", House;
    /// What is turned, as a saddle's nose, turns in one step by at most
    const TURN_DEG: f64 = 1.0, "°", House;
    /// What is turned of a rider in pain, or new to it, turns by at most
    const TURN_CAREFUL_DEG: f64 = 0.5, "°", House;
    /// A step is held for
    pub const HOLD_DAYS: i32 = 7, " days", House;
    /// More than so many steps are no plan.
    const MOST: usize = 30, "", House;
}

/// How far one thing is to move in all.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = PlanTarget))]
#[serde(deny_unknown_fields)]
pub struct Target {
    /// What.
    pub quantity: Quantity,
    /// One side only, for what is per side.
    #[serde(default)]
    pub side: Option<Side>,
    /// Target minus today, signed as the quantity is, in its unit.
    pub by: f64,
    /// Whether the post answers each step so that the knee at full reach stays what it is.
    #[serde(default)]
    pub linked: bool,
}

/// One step of a plan.
#[derive(Debug, Clone, PartialEq)]
pub struct PlanStep {
    /// What moves.
    pub quantity: Quantity,
    /// On which side, where only one does.
    pub side: Option<Side>,
    /// By how much, signed as the quantity is.
    pub by: f64,
    /// How much the post goes up with it, where it answers, mm.
    pub post_up_mm: Option<f64>,
    /// "Saddle up 5".
    pub title: String,
    /// "Saddle height: 5 of 12 mm, to 758 mm".
    pub words: String,
    /// When to go one step back.
    pub stop: String,
}

/// A plan as it was worked out.
#[derive(Debug, Clone, PartialEq)]
pub struct Planned {
    /// The steps in their order.
    pub steps: Vec<PlanStep>,
    /// What does not go all the way, and why.
    pub short: Vec<String>,
}

/// What of this bike can be planned, upstream first.
pub fn planned_with(trying: &Trying) -> Vec<Quantity> {
    let mut all: Vec<Quantity> = (Quantity::ALL.iter().copied())
        .filter(|quantity| upstream(*quantity).is_some())
        .filter(|quantity| {
            let step = Change::by(*quantity, quantity.spec().step);
            trying.plain(&[step]).is_some()
        })
        .collect();
    all.sort_by_key(|quantity| upstream(*quantity));
    all
}

/// How far one step goes at the most.
fn most(quantity: Quantity, careful: bool) -> f64 {
    let (bold, gentle) = match quantity.spec().unit {
        Unit::Deg => (TURN_DEG, TURN_CAREFUL_DEG),
        _ if quantity == Quantity::Crank => (CRANK_MM, CRANK_CAREFUL_MM),
        _ if quantity.is(Mark::feet) => (CLEAT_MM, CLEAT_CAREFUL_MM),
        // A stem is had as it is sold.
        _ if quantity == Quantity::Stem => return quantity.spec().step,
        _ => (STEP_MM, CAREFUL_MM),
    };
    if careful { gentle } else { bold }
}

/// The stations whose bolts do something to the rider, upstream first: what stands below what follows from it.
const UPSTREAM: [Mark; 5] = [
    Mark::feet,
    Mark::cranks,
    Mark::height,
    Mark::rails,
    Mark::bars,
];

/// Where something stands upstream; nothing of what is no bolt.
fn upstream(quantity: Quantity) -> Option<usize> {
    UPSTREAM.into_iter().position(|mark| quantity.is(mark))
}

/// Whether the knee at full reach moves with it, so that the post can answer.
pub fn moves_the_knee(quantity: Quantity) -> bool {
    [Mark::feet, Mark::cranks, Mark::rails]
        .into_iter()
        .any(|mark| quantity.is(mark))
}

/// When a step of this goes back: where the body tells of it first (house).
fn stop(quantity: Quantity, up: bool) -> &'static str {
    match (quantity, up) {
        (Quantity::Crank, _) => {
            "Pain at the top of the stroke, in front of hip or knee: one step back."
        }
        (q, _) if q.is(Mark::feet) => {
            "Pain inside or outside the knee, or a hot or numb foot: one step back."
        }
        (Quantity::SaddleHeight, true) => "Pain behind the knee, or hips that rock: one step back.",
        (Quantity::SaddleHeight, false) => "Pain in front of the knee: one step back.",
        (Quantity::Setback, true) => "Pain behind the knee or the thigh: one step back.",
        (Quantity::Setback, false) => "Pain in front of the knee, or heavy hands: one step back.",
        (q, _) if q.is(Mark::rails) => "New numbness: one step back, and call.",
        _ => "Neck, hands or lower back that ache after the ride: one step back.",
    }
}

/// The plan from where the rider is to the targets. What a limit of his body forbids is not planned: the steps end before it,
/// and that is said.
pub fn plan(trying: &Trying, targets: &[Target], careful: bool) -> Result<Planned, Vec<Refusal>> {
    let wrong = refusals(trying, targets, careful);
    if !wrong.is_empty() {
        return Err(wrong);
    }
    let mut ordered: Vec<&Target> = targets.iter().collect();
    ordered.sort_by_key(|target| upstream(target.quantity));
    let mut planned = Planned {
        steps: Vec::new(),
        short: Vec::new(),
    };
    // What was reached so far, each thing's travel in all, and that of a post which answered.
    let mut reached: Vec<Change> = Vec::new();
    let mut post = 0.0;
    for target in ordered {
        let before = with_post(&reached, post);
        let knee = (target.linked)
            .then(|| trying.plain(&before))
            .flatten()
            .map(|before| before.knee_at_full_reach());
        let size = most(target.quantity, careful);
        let count = (target.by.abs() / size - 1e-9).ceil().max(1.0);
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "a plan of more than thirty steps was refused"
        )]
        let whole = count as u32;
        let mut done = 0.0;
        for number in 1..=whole {
            // Whole steps, and what is left last: a half step is easier to take at the end than at the start.
            let upto = if number == whole {
                target.by
            } else {
                size * f64::from(number) * target.by.signum()
            };
            let mut wanted = reached.clone();
            wanted.push(by(target, upto));
            let answer = knee.and_then(|knee| post_for_knee(trying, &wanted, knee));
            let post_there = answer.map_or(post, half_mm);
            let all = with_post(&wanted, post_there);
            let (step, wall) = Step::as_far_as_it_goes(trying, all.clone(), String::new());
            if let Some(wall) =
                wall.or_else(|| step.is_none().then(|| "it cannot be set so".to_owned()))
            {
                planned.short.push(format!(
                    "{} ends at {} of {}{}: {wall}",
                    sided(target.quantity.spec().label, target.side),
                    written(done),
                    written(target.by),
                    target.quantity.spec().unit.suffix()
                ));
                break;
            }
            let travel = (upto - done, post_there - post);
            planned
                .steps
                .push(step_of(trying, target, &all, (travel, upto)));
            (done, post) = (upto, post_there);
        }
        if done != 0.0 {
            reached.push(by(target, done));
        }
    }
    Ok(planned)
}

/// Changes with the post's answer to them.
fn with_post(changes: &[Change], post: f64) -> Vec<Change> {
    let answer = (post != 0.0).then(|| Change::by(Quantity::SaddleHeight, post));
    changes.iter().copied().chain(answer).collect()
}

fn by(target: &Target, by: f64) -> Change {
    Change {
        side: target.side,
        ..Change::by(target.quantity, by)
    }
}

fn step_of(
    trying: &Trying,
    target: &Target,
    upto: &[Change],
    ((travel, post), done): ((f64, f64), f64),
) -> PlanStep {
    let quantity = target.quantity;
    let spec = quantity.spec();
    let unit = spec.unit.suffix();
    let title = trying
        .weigh(with_post(&[by(target, travel)], post))
        .map_or_else(|| spec.label.to_owned(), |weighed| weighed.title);
    let after = foresee_on(trying, upto).ok();
    let to = after.and_then(|after| {
        let chosen = after.after.conventions.of(quantity);
        match chosen {
            Some(convention) => after.after.dimensions.get(convention),
            None => after.setup.get(quantity, target.side.or(Some(Side::Right))),
        }
    });
    let words = format!(
        "{}: {} of {}{unit}",
        sided(spec.label, target.side),
        written(done.abs()),
        written(target.by.abs())
    );
    PlanStep {
        quantity,
        side: target.side,
        by: travel,
        post_up_mm: (post != 0.0).then_some(post),
        title,
        words: match to {
            Some(to) => format!("{words}, to {}{unit}", written(to)),
            None => words,
        },
        stop: stop(quantity, travel > 0.0).to_owned(),
    }
}

/// What of the targets cannot be planned, each beside its field.
fn refusals(trying: &Trying, targets: &[Target], careful: bool) -> Vec<Refusal> {
    let mut all = Vec::new();
    if targets.is_empty() {
        all.push(Refusal::new("/targets", "Say what is to move, and how far"));
    }
    for (index, target) in targets.iter().enumerate() {
        let at = format!("/targets/{index}");
        let spec = target.quantity.spec();
        let of = |change: &Target| (change.quantity, change.side);
        if upstream(target.quantity).is_none() {
            all.push(Refusal::new(
                format!("{at}/quantity"),
                format!("{} is no bolt that can be planned", spec.label),
            ));
        } else if target.side.is_some() && !spec.per_side {
            all.push(Refusal::new(
                format!("{at}/side"),
                format!("{} has no sides", spec.label),
            ));
        } else if targets[..index]
            .iter()
            .any(|earlier| of(earlier) == of(target))
        {
            all.push(Refusal::new(
                format!("{at}/quantity"),
                format!("{} is planned already", sided(spec.label, target.side)),
            ));
        } else if !target.by.is_finite() || target.by == 0.0 {
            all.push(Refusal::new(format!("{at}/by"), "Say by how much"));
        } else if target.quantity == Quantity::Crank
            && target.by.abs() > most(target.quantity, careful)
        {
            all.push(Refusal::new(
                format!("{at}/by"),
                format!(
                    "A crank is changed once, by {} mm at the most",
                    written(most(target.quantity, careful))
                ),
            ));
        } else if target.linked && !moves_the_knee(target.quantity) {
            all.push(Refusal::new(
                format!("{at}/linked"),
                "The knee does not move with it: the post has nothing to answer",
            ));
        } else if target.linked
            && (targets.iter()).any(|other| other.quantity == Quantity::SaddleHeight)
        {
            all.push(Refusal::new(
                format!("{at}/linked"),
                "Saddle height is planned by itself: one or the other",
            ));
        } else if trying.plain(&[by(target, target.by)]).is_none() {
            all.push(Refusal::new(
                format!("{at}/by"),
                format!(
                    "{} cannot be moved by {}{} on this bike",
                    sided(spec.label, target.side),
                    written(target.by),
                    spec.unit.suffix()
                ),
            ));
        }
    }
    #[expect(clippy::cast_precision_loss, reason = "thirty")]
    let too_many = MOST as f64;
    let steps: f64 = (targets.iter())
        .map(|t| (t.by.abs() / most(t.quantity, careful)).ceil())
        .sum();
    if all.is_empty() && steps > too_many {
        all.push(Refusal::new(
            "/targets",
            format!("More than {MOST} steps: plan the first part, and fit again"),
        ));
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::units::Degrees;
    use crate::units::Sides;
    use proptest::prelude::*;

    fn target(quantity: Quantity, by: f64) -> Target {
        Target {
            quantity,
            side: None,
            by,
            linked: false,
        }
    }

    #[test]
    fn twelve_up_are_three_steps_or_four_careful_ones_upstream_first() {
        let input = example::road();
        let targets = [
            target(Quantity::SpacersBelow, 5.0),
            target(Quantity::SaddleHeight, 12.0),
            target(Quantity::CleatSetback, 4.0),
        ];
        let steps = |careful| {
            trying(&input, |t| plan(t, &targets, careful))
                .unwrap()
                .steps
        };
        let of = |steps: &[PlanStep]| -> Vec<(Quantity, f64)> {
            steps.iter().map(|s| (s.quantity, s.by)).collect()
        };
        let (cleat, height, spacers) = (
            Quantity::CleatSetback,
            Quantity::SaddleHeight,
            Quantity::SpacersBelow,
        );
        assert_eq!(
            of(&steps(false)),
            [
                (cleat, 4.0),
                (height, 5.0),
                (height, 5.0),
                (height, 2.0),
                (spacers, 5.0)
            ]
        );
        assert_eq!(
            of(&steps(true)),
            [
                (cleat, 3.0),
                (cleat, 1.0),
                (height, 3.0),
                (height, 3.0),
                (height, 3.0),
                (height, 3.0),
                (spacers, 3.0),
                (spacers, 2.0)
            ]
        );
        let second = &steps(false)[2];
        assert_eq!(second.title, "Saddle up 5");
        assert!(second.words.starts_with("Saddle height: 10 of 12 mm, to "));
        assert!(second.stop.starts_with("Pain behind the knee"));
    }

    #[test]
    fn a_post_that_answers_keeps_the_knee_step_by_step() {
        let input = example::road();
        let back = Target {
            linked: true,
            ..target(Quantity::Setback, 12.0)
        };
        let knee =
            |changes: &[Change]| trying(&input, |t| t.plain(changes).unwrap().knee_at_full_reach());
        let steps = trying(&input, |t| plan(t, &[back], false)).unwrap().steps;
        assert_eq!(steps.len(), 3);
        let (mut setback, mut post) = (0.0, 0.0);
        for step in &steps {
            setback += step.by;
            post += step.post_up_mm.unwrap_or_default();
            let there = [
                Change::by(Quantity::Setback, setback),
                Change::by(Quantity::SaddleHeight, post),
            ];
            // The post goes in half millimetres: a fifth of a degree.
            assert!((knee(&there) - knee(&[])).abs() < 0.2, "{}", step.title);
        }
        assert!((setback - 12.0).abs() < 1e-9 && post != 0.0, "{post}");
        assert!(steps[0].title.contains(", saddle "), "{}", steps[0].title);
        // Without it the knee would have moved.
        assert!((knee(&[Change::by(Quantity::Setback, 12.0)]) - knee(&[])).abs() > 0.5);

        let refused = |targets: &[Target]| {
            let answer = trying(&input, |t| plan(t, targets, false));
            answer.unwrap_err()[0].pointer.clone()
        };
        assert_eq!(
            refused(&[back, target(Quantity::SaddleHeight, 5.0)]),
            "/targets/0/linked"
        );
        let spacers = Target {
            linked: true,
            ..target(Quantity::SpacersBelow, 5.0)
        };
        assert_eq!(refused(&[spacers]), "/targets/0/linked");
    }

    #[test]
    fn a_plan_ends_before_a_limit_of_the_rider() {
        let mut input = example::road();
        let knee = trying(&input, |t| t.before.legs.right.knee.largest_deg.0);
        input.rider.legs = Sides::from_fn(|_| crate::rider::LegBody {
            knee_limit_deg: Some(Degrees(knee + 5.5)),
            ..Default::default()
        });
        let down = [target(Quantity::SaddleHeight, -40.0)];
        let planned = trying(&input, |t| plan(t, &down, false)).unwrap();
        assert!(planned.steps.len() < 8, "{:?}", planned.steps.len());
        assert!(
            planned.short[0].starts_with("Saddle height ends at "),
            "{:?}",
            planned.short
        );
        // Without the limit it goes all the way.
        let all = trying(&example::road(), |t| plan(t, &down, false)).unwrap();
        assert_eq!((all.steps.len(), all.short.len()), (8, 0));
    }

    #[test]
    fn nonsense_is_refused_beside_its_field() {
        let refused = |targets: &[Target]| -> Vec<String> {
            let answer = trying(&example::road(), |t| plan(t, targets, false));
            answer.unwrap_err().into_iter().map(|r| r.pointer).collect()
        };
        assert_eq!(refused(&[]), ["/targets"]);
        assert_eq!(
            refused(&[target(Quantity::Stature, 5.0)]),
            ["/targets/0/quantity"]
        );
        assert_eq!(refused(&[target(Quantity::Crank, -7.5)]), ["/targets/0/by"]);
        assert_eq!(
            refused(&[target(Quantity::SaddleHeight, 0.0)]),
            ["/targets/0/by"]
        );
        assert_eq!(
            refused(&[target(Quantity::SaddleHeight, f64::NAN)]),
            ["/targets/0/by"]
        );
        assert_eq!(
            refused(&[
                target(Quantity::SaddleHeight, 5.0),
                target(Quantity::SaddleHeight, 5.0)
            ]),
            ["/targets/1/quantity"]
        );
        let left = Target {
            side: Some(Side::Left),
            ..target(Quantity::SaddleHeight, 5.0)
        };
        assert_eq!(refused(&[left]), ["/targets/0/side"]);
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]
        /// The steps add up to the target, and none is longer than is safe.
        #[test]
        fn steps_add_up(height in -25.0..25.0_f64, back in -20.0..20.0_f64, careful: bool) {
            prop_assume!(height != 0.0 && back != 0.0);
            let targets = [target(Quantity::SaddleHeight, height), target(Quantity::Setback, back)];
            let planned = trying(&example::road(), |t| plan(t, &targets, careful)).unwrap();
            prop_assert!(planned.short.is_empty());
            for wanted in targets {
                let own: Vec<f64> = planned.steps.iter().filter(|s| s.quantity == wanted.quantity).map(|s| s.by).collect();
                prop_assert!((own.iter().sum::<f64>() - wanted.by).abs() < 1e-9);
                prop_assert!(own.iter().all(|by| by.abs() <= most(wanted.quantity, careful) + 1e-9));
            }
        }
    }
}
