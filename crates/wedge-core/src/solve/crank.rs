//! Another crank, and everything that moves with it by what it is for.

use super::parts::CLEARLY_MM;
use super::{Stems, parts_for, post_for_knee};
use crate::bike::{Bar, Placed};
use crate::foresee::{Change, Row, Trying, within_limits};
use crate::measure::{Output, Quantity, half_mm};
use crate::plane::root;
use crate::position::{Position, Ride, wall};
use crate::words::{words, written};
use serde::Serialize;

words! {
    /// What another crank is for; the rest of the bike follows it.
    pub enum Intent {
        Bottom "bottom" "Keep the bottom of the stroke",
        KneeOverAxle "knee_over_axle" "Keep the knee over the axle",
        HipRoom "hip_room" "Come up and forward into the hip room",
        Drop "drop" "Keep the drop",
        Back "back" "Keep the back's angle to the air",
    }
}

/// A crank with its compensations, as one linked trial.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// What it is for.
    pub intent: Intent,
    /// As it is called.
    pub label: String,
    /// "Crank 170, saddle up 2.5".
    pub title: String,
    /// Each bolt.
    pub turns: Vec<String>,
    /// The linked trial; empty when it cannot be made.
    pub changes: Vec<Change>,
    /// What it does to everything else, the largest first.
    pub knock_ons: Vec<String>,
    /// What the parts of this bike leave undone; empty when nothing.
    pub left: String,
}

/// The rows a crank is chosen by, in this order.
const TOLD: [Output; 7] = [
    Output::KneeMostBent,
    Output::HipClosed,
    Output::KneeOverAxle,
    Output::KneeAtFullReach,
    Output::Drop,
    Output::Torso,
    Output::AxleToGround,
];

/// The crank `to` on both sides, once for each intent.
pub fn intents(trying: &Trying, to: f64) -> Vec<Plan> {
    Intent::ALL
        .iter()
        .map(|intent| {
            let solved = changes(trying, to, *intent);
            let (wanted, left) = solved.unwrap_or_default();
            let (changes, wall) = within_limits(trying, wanted).unwrap_or_default();
            let weighed = trying
                .weigh(changes.clone())
                .filter(|_| !changes.is_empty());
            let plan = Plan {
                intent: *intent,
                label: intent.label().to_owned(),
                title: String::new(),
                turns: Vec::new(),
                changes: Vec::new(),
                knock_ons: Vec::new(),
                left: wall.map_or_else(
                    || "No bolt of this bike does it".to_owned(),
                    |wall| format!("Not for this rider: {wall}"),
                ),
            };
            match weighed {
                None => plan,
                Some(weighed) => Plan {
                    knock_ons: told(&weighed.rows),
                    title: weighed.title,
                    turns: weighed.turns,
                    changes,
                    left,
                    ..plan
                },
            }
        })
        .collect()
}

/// What the rows say, each output once: left and right where they differ.
fn told(rows: &[Row]) -> Vec<String> {
    TOLD.iter()
        .flat_map(|output| rows.iter().filter(move |row| row.output == *output))
        .map(Row::moved_words)
        .collect()
}

/// The crank as both sides have it, mean where they differ.
pub(crate) fn crank_now(ride: &Ride) -> f64 {
    let pedalling = &ride.setup.pedalling;
    f64::midpoint(pedalling.left.crank_mm.0, pedalling.right.crank_mm.0)
}

/// Another crank on both sides with the bottom of the stroke kept: saddle up by what the crank is shorter.
pub(crate) fn keeping_the_bottom(ride: &Ride, to: f64) -> Vec<Change> {
    vec![
        Change::to(Quantity::Crank, to),
        Change::by(Quantity::SaddleHeight, crank_now(ride) - to),
    ]
}

/// The changes an intent asks for, and what they leave undone.
///
/// The bottom is kept by as much saddle as the crank is shorter. The knee over the axle, and the bottom beside a saddle
/// moved on its rails, are solved with the linkage. The drop is kept by the spacers, pads or bar this bike has; the
/// back by the parts whose hand point comes nearest.
fn changes(trying: &Trying, to: f64, intent: Intent) -> Option<(Vec<Change>, String)> {
    let crank = Change::to(Quantity::Crank, to);
    let shorter = crank_now(trying) - to;
    let bottom = keeping_the_bottom(trying, to);
    let none = String::new();
    let knee = trying.before.knee_at_full_reach();
    match intent {
        Intent::Bottom => Some((bottom, none)),
        Intent::KneeOverAxle => {
            let over = mean_over_axle(&trying.before);
            // For each place on the rails the post follows; the knee then answers the rails alone.
            let with = |back: f64| {
                let rails = vec![crank, Change::by(Quantity::Setback, back)];
                let post = post_for_knee(trying, &rails, knee)?;
                Some((rails, post))
            };
            let back = root(-60.0, 60.0, |back| {
                with(back)
                    .and_then(|(mut all, post)| {
                        all.push(Change::by(Quantity::SaddleHeight, post));
                        trying.with(&all)
                    })
                    .map_or(f64::NAN, |(_, after)| mean_over_axle(&after) - over)
            })?;
            let (_, post) = with(back)?;
            Some((
                vec![
                    crank,
                    Change::by(Quantity::SaddleHeight, half_mm(post)),
                    Change::by(Quantity::Setback, half_mm(back)),
                ],
                none,
            ))
        }
        Intent::HipRoom => {
            let rails = vec![crank, Change::by(Quantity::Setback, -shorter)];
            let post = post_for_knee(trying, &rails, knee)?;
            Some((
                vec![
                    crank,
                    Change::by(Quantity::SaddleHeight, half_mm(post)),
                    Change::by(Quantity::Setback, -shorter),
                ],
                none,
            ))
        }
        Intent::Drop => {
            let (_, after) = trying.with(&bottom)?;
            let up = after.bike.sit.y - trying.before.bike.sit.y;
            Some(raise(trying, bottom, up))
        }
        Intent::Back => {
            let (setup, _) = trying.with(&bottom)?;
            Some(keep_back(trying, bottom, &setup))
        }
    }
}

fn mean_over_axle(position: &Position) -> f64 {
    f64::midpoint(
        position.legs.left.knee_over_axle.centre_mm.0,
        position.legs.right.knee_over_axle.centre_mm.0,
    )
}

/// The hands up by as much as the saddle rose: pad spacers, a bar's rise, or spacers as far as there are some.
fn raise(ride: &Ride, mut changes: Vec<Change>, up: f64) -> (Vec<Change>, String) {
    let setup = &ride.setup;
    if let Bar::Aero(_) = setup.bar {
        changes.push(Change::by(Quantity::PadSpacers, up));
        return (changes, String::new());
    }
    let sin = ride.frame.head_angle_deg.sin_cos().0;
    let wanted = up / sin;
    let cockpit = &setup.cockpit;
    let by = wanted.clamp(-cockpit.spacers_below_mm.0, cockpit.spacers_above_mm.0);
    if by.abs() > 0.05 {
        changes.push(Change::by(Quantity::SpacersBelow, by));
    }
    let left = (wanted - by) * sin;
    let words = if left.abs() < 0.5 {
        String::new()
    } else {
        format!(
            "The spacers leave {} mm: a stem of another angle, or another bar",
            written(left.abs())
        )
    };
    (changes, words)
}

/// The hands to where torso and shoulder are as they were: on pads out and down by the millimetre, else the nearest
/// parts.
fn keep_back(trying: &Trying, mut changes: Vec<Change>, setup: &Placed) -> (Vec<Change>, String) {
    let upper = &trying.before.upper;
    let way = trying.hand_way(setup, upper.torso_deg, upper.shoulder_deg);
    if let Bar::Aero(bar) = &setup.bar {
        let (spacers, bracket) = (bar.pad_spacers_mm.0, bar.pad_rise_mm.0);
        // Down is limited by the spacers there are, then by the bracket.
        let down = way.y.max(-spacers);
        changes.push(Change::by(Quantity::PadForward, way.x));
        changes.push(Change::by(Quantity::PadSpacers, down));
        let left = way.y - down;
        let words = if left.abs() < 0.5 {
            String::new()
        } else {
            format!(
                "The pads would have to go {} mm lower than their spacers let them (bracket {} mm)",
                written(left.abs()),
                written(bracket)
            )
        };
        return (changes, words);
    }
    let allowed =
        |tried: &Placed| wall(&trying.rider, &trying.before, &trying.standing(tried)).is_none();
    let (parts, off) = parts_for(
        trying,
        setup,
        way,
        &Stems::ordinary(),
        (0.0, CLEARLY_MM),
        allowed,
        |_| false,
    );
    changes.extend(parts);
    let words = if off < 2.0 {
        String::new()
    } else {
        format!("The nearest parts leave the hands {} mm off", written(off))
    };
    (changes, words)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::foresee::{ForeseeInput, foresee};
    use crate::units::Millimetres;

    fn plan(input: &ForeseeInput, to: f64, intent: Intent) -> (Plan, Position) {
        let plan = trying(input, |t| intents(t, to))
            .into_iter()
            .find(|plan| plan.intent == intent)
            .unwrap();
        let mut tried = input.clone();
        tried.changes.clone_from(&plan.changes);
        (plan, foresee(&tried).unwrap().after)
    }

    fn by(plan: &Plan, quantity: Quantity) -> f64 {
        plan.changes
            .iter()
            .find(|c| c.quantity == quantity)
            .and_then(|c| c.by)
            .unwrap()
    }

    #[test]
    fn the_bottom_is_kept_by_as_much_saddle_as_the_crank_is_shorter() {
        let (plan, _) = plan(&example::road(), 167.5, Intent::Bottom);
        assert!((by(&plan, Quantity::SaddleHeight) - 5.0).abs() < 1e-9);
        assert_eq!(plan.title, "Crank 167.5, saddle up 5");
        assert_eq!(plan.turns.len(), 2);
        assert!(
            plan.knock_ons
                .iter()
                .any(|k| k.contains("97.5 mm → 102.5 mm")),
            "{:?}",
            plan.knock_ons
        );
    }

    #[test]
    fn the_knee_stays_over_the_axle_and_the_bottom_with_it() {
        // Checked from the other side: with the plan made, knee over axle and knee at full reach are what they were.
        // The knee hangs between hip and axle and comes back with the axle by itself, so the linkage asks for far less
        // of the rails than the crank's 5 mm.
        let input = example::road();
        let (plan, after) = plan(&input, 167.5, Intent::KneeOverAxle);
        let before = input.check().unwrap().position();
        let over = mean_over_axle(&after) - mean_over_axle(&before);
        assert!(over.abs() < 0.4, "{over}");
        assert!((after.knee_at_full_reach() - before.knee_at_full_reach()).abs() < 0.3);
        let rails = by(&plan, Quantity::Setback);
        assert!(rails.abs() < 5.0, "{plan:?}");
    }

    #[test]
    fn up_and_forward_keeps_the_knee_and_opens_the_hip() {
        let input = example::road();
        let (plan, after) = plan(&input, 167.5, Intent::HipRoom);
        assert!((by(&plan, Quantity::Setback) + 5.0).abs() < 1e-9);
        // Forward along the rails shortens the leg's job, so the post rises by more than the crank's 5 mm.
        assert!(
            (5.5..8.5).contains(&by(&plan, Quantity::SaddleHeight)),
            "{plan:?}"
        );
        let before = input.check().unwrap().position();
        assert!((after.knee_at_full_reach() - before.knee_at_full_reach()).abs() < 0.3);
        assert!(after.legs.right.hip_closed_deg.0 > before.legs.right.hip_closed_deg.0);
    }

    #[test]
    fn the_drop_is_kept_as_far_as_there_are_spacers() {
        // Saddle up 5 along 73.5° rises 5 sin 73.5° = 4.794; spacers at a 73° head: 4.794 / sin 73° = 5.013.
        let mut input = example::road();
        input.setup.cockpit.spacers_above_mm = Millimetres(10.0);
        let (first, after) = plan(&input, 167.5, Intent::Drop);
        assert!((by(&first, Quantity::SpacersBelow) - 5.0134).abs() < 1e-3);
        let before = input.check().unwrap().position();
        let drop = |p: &Position| p.bike.sit.y - p.bike.hand.y;
        assert!((drop(&after) - drop(&before)).abs() < 1e-6);
        assert_eq!(first.left, "");
        // Without any above, nothing can go below.
        input.setup.cockpit.spacers_above_mm = Millimetres(0.0);
        let (second, _) = plan(&input, 167.5, Intent::Drop);
        assert!(second.left.contains("4.8 mm"), "{}", second.left);
    }

    #[test]
    fn the_back_keeps_its_angle_with_the_pads_out_and_down() {
        let input = example::time_trial();
        let (plan, after) = plan(&input, 160.0, Intent::Back);
        let before = input.check().unwrap().position();
        let torso = after.upper.torso_deg.0 - before.upper.torso_deg.0;
        assert!(torso.abs() < 0.1, "{torso}");
        // The saddle went up, so with the same torso and shoulder the elbows go up with the hip: the sign says which.
        let hip = after.upper.points.hip - before.upper.points.hip;
        let pads = after.bike.hand - before.bike.hand;
        assert!((pads - hip).length() < 0.5, "{pads:?} {hip:?} {plan:?}");
    }

    #[test]
    fn the_back_on_hoods_comes_as_near_as_the_parts_let_it() {
        let mut input = example::road();
        input.setup.cockpit.spacers_above_mm = Millimetres(10.0);
        let (plan, after) = plan(&input, 167.5, Intent::Back);
        let before = input.check().unwrap().position();
        assert!(
            (after.upper.torso_deg.0 - before.upper.torso_deg.0).abs() < 0.5,
            "{plan:?}"
        );
    }

    #[test]
    fn a_crank_nobody_can_fit_is_an_answer() {
        let mut input = example::road();
        input.setup.saddle.saddle_height_mm = Millimetres(1045.0);
        input.setup.saddle.setback_mm = Millimetres(290.0);
        let plans = trying(&input, |t| intents(t, 145.0));
        assert_eq!(plans.len(), 5);
        assert!(plans[0].changes.is_empty() && plans[0].left.starts_with("No bolt"));
    }
}
