//! The saddle on its perch: what post and rails leave, which part would do what the rails do not, and another saddle in
//! the place of this one.

use super::linked;
use crate::bike::{Part, PartKind, Perch};
use crate::foresee::{Change, Step, Trying};
use crate::measure::{Quantity, Refusal, measured};
use crate::plane::root;
use crate::position::Ride;
use crate::rule::rules;
use crate::units::Millimetres;
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Saddle and post";
    /// Setbacks posts are ordinarily sold with.
    const POSTS_MM: [f64; 5] = [0.0, 10.0, 20.0, 25.0, 35.0], " mm", Workshop;
    /// A clamp closer to an end of its rails than this is worth a word.
    const NEAR_END_MM: f64 = 3.0, " mm", House;
}

/// What post and rails leave.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PerchRoom {
    /// The saddle may still go back on its rails; none while post or rails are not known.
    pub back_mm: Option<f64>,
    /// And forward.
    pub forward_mm: Option<f64>,
    /// The post may still rise before its mark shows; none while its length is not known.
    pub up_mm: Option<f64>,
    /// The post may still go down before it is all the way in.
    pub down_mm: f64,
    /// All of it, in sentences.
    pub words: Vec<String>,
}

/// The saddle's room on its perch.
pub fn perch_room(ride: &Ride) -> PerchRoom {
    let setup = &ride.setup;
    let perch = Perch::of(&ride.frame, setup);
    let rails = setup.saddle.rail_mm.zip(perch.clamp_ahead_mm);
    let back = rails.map(|(rail, ahead)| rail.0 / 2.0 - ahead.0);
    let forward = rails.map(|(rail, ahead)| rail.0 / 2.0 + ahead.0);
    let up = perch
        .inserted_mm
        .zip(setup.post.post_insertion_mm)
        .map(|(inserted, least)| (inserted - least).0);
    let mut words = vec![match back.zip(forward) {
        Some((back, forward)) if back >= 0.0 && forward >= 0.0 => {
            let near = match (back < NEAR_END_MM, forward < NEAR_END_MM) {
                (true, _) => ": all but fully back",
                (_, true) => ": all but fully forward",
                _ => "",
            };
            format!(
                "On the rails {} mm are left to go back and {} mm forward{near}",
                written(back),
                written(forward)
            )
        }
        Some((back, forward)) => format!(
            "The rails end {} mm before: the clamp holds them where the makers do not allow it",
            written((-back).max(-forward))
        ),
        None => "Rails: type the post's setback and the clampable length to see what they leave"
            .to_owned(),
    }];
    words.push(match up {
        Some(up) if up >= 0.0 => format!(
            "The post may rise {} mm more before its least insertion",
            written(up)
        ),
        Some(up) => format!("The post stands {} mm too far out", written(-up)),
        None => "Post: type its length and least insertion to see how far it may rise".to_owned(),
    });
    PerchRoom {
        back_mm: back,
        forward_mm: forward,
        up_mm: up,
        down_mm: perch.exposed_mm.0,
        words,
    }
}

/// A part that would do what the rails do not.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PartOption {
    /// "Post with 20 mm setback".
    pub label: String,
    /// Whether it does all of it.
    pub does: bool,
    /// By how much, and what it leaves.
    pub words: String,
    /// The linked trial; none for a part that is not known well enough.
    pub trial: Option<Step>,
}

/// Whether a wished setback can be had, and from which part.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetbackParts {
    /// The setback wished for, in the chosen convention.
    pub wanted: f64,
    /// Whether the rails reach it.
    pub reached: bool,
    /// In a sentence.
    pub words: String,
    /// Parts that would do it, the one that leaves the clamp nearest to the middle first.
    pub options: Vec<PartOption>,
}

/// Which part would give a wished setback, and by how much. `None` when no place of the saddle has it.
pub fn setback_parts(trying: &Trying, wanted: f64, parts: &[Part]) -> Option<SetbackParts> {
    let room = perch_room(trying);
    let back = root(-300.0, 300.0, |back| trying.setback_at(0.0, back) - wanted)?;
    let way = |back: f64| if back > 0.0 { "back" } else { "forward" };
    let (Some(leave_back), Some(leave_forward)) = (room.back_mm, room.forward_mm) else {
        return Some(SetbackParts {
            wanted,
            reached: true,
            words: format!(
                "{} mm {} on the rails; whether they reach is not known until post and rails are typed in",
                written(back.abs()),
                way(back)
            ),
            options: Vec::new(),
        });
    };
    let short = (back - leave_back).max(-back - leave_forward);
    if short <= 0.05 {
        return Some(SetbackParts {
            wanted,
            reached: true,
            words: format!(
                "The rails reach it: {} mm {}, {} mm are left",
                written(back.abs()),
                way(back),
                written(-short)
            ),
            options: Vec::new(),
        });
    }
    let posts = parts
        .iter()
        .filter(|part| part.kind == PartKind::Post && part.on_hand > 0);
    let on_hand: Vec<f64> = posts
        .filter_map(|part| part.size(Quantity::PostSetback))
        .collect();
    let is_one = |setback: f64| on_hand.iter().any(|own| (own - setback).abs() < 0.5);
    let ordered = POSTS_MM.into_iter().filter(|setback| !is_one(*setback));
    let all = on_hand.iter().map(|setback| (true, *setback));
    let mut options: Vec<(bool, f64, PartOption)> = all
        .chain(ordered.map(|setback| (false, setback)))
        .filter_map(|(here, setback)| {
            let (off, mut option) = post(trying, setback, wanted, back)?;
            if here {
                option.label = format!("{}, on hand", option.label);
            }
            Some((!here, off, option))
        })
        .collect();
    // What is on hand and does it comes first.
    options.sort_by(|a, b| {
        let first = |option: &(bool, f64, PartOption)| (!option.2.does, option.0);
        first(a).cmp(&first(b)).then(a.1.total_cmp(&b.1))
    });
    let mut options: Vec<PartOption> = options.into_iter().map(|(.., option)| option).collect();
    options.push(PartOption {
        label: if back < 0.0 {
            "A short-nosed saddle".to_owned()
        } else {
            "A saddle with longer rails".to_owned()
        },
        does: false,
        words: format!(
            "one whose sit reference stands {} mm further {} over its rails: measure it before buying",
            written(short),
            way(back)
        ),
        trial: None,
    });
    Some(SetbackParts {
        wanted,
        reached: false,
        words: format!(
            "The rails end {} mm before: {} mm {} are asked for, {} are left",
            written(short),
            written(back.abs()),
            way(back),
            written(
                if back > 0.0 {
                    leave_back
                } else {
                    leave_forward
                }
                .max(0.0)
            )
        ),
        options,
    })
}

/// A post of another setback, with how far it leaves the clamp from the middle of the rails. `None` where it is the
/// one there is, or leads away.
fn post(trying: &Trying, setback: f64, wanted: f64, back: f64) -> Option<(f64, PartOption)> {
    let now = trying.setup.post.post_setback_mm?.0;
    let more = setback - now;
    if more.abs() < 0.5 || more * back < 0.0 {
        return None;
    }
    let rails = Change::to(Quantity::Setback, wanted);
    let changes = linked(
        trying,
        vec![Change::to(Quantity::PostSetback, setback), rails],
    );
    let (setup, after) = trying.with(&changes)?;
    let ahead = after.clearances.perch.clamp_ahead_mm?.0;
    let over = ahead.abs() - setup.saddle.rail_mm?.0 / 2.0;
    let does = over <= 0.05;
    Some((
        ahead.abs(),
        PartOption {
            label: if setback == 0.0 {
                "Post without setback".to_owned()
            } else {
                format!("Post with {} mm setback", written(setback))
            },
            does,
            words: if does {
                format!(
                    "does it: the clamp stands {} mm from the middle of the rails",
                    written(ahead.abs())
                )
            } else {
                format!("still {} mm short", written(over))
            },
            trial: does
                .then(|| Step::of(trying, changes, String::new()))
                .flatten(),
        },
    ))
}

measured! {
    /// Another saddle, as far as it was measured.
    #[derive(Default)]
    pub struct OtherSaddle {
        /// Rails to the top at the sit reference.
        #[serde(default)]
        saddle_stack_mm: Option<Millimetres> = SaddleStack,
        /// Nose to tail.
        #[serde(default)]
        saddle_length_mm: Option<Millimetres> = SaddleLength,
        /// At its widest.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        saddle_width_mm: Option<Millimetres> = SaddleWidth,
        /// Nose to where it is 80 mm wide.
        #[serde(default)]
        nose_to_sit_mm: Option<Millimetres> = NoseToSit,
        /// Middle of the clampable rail ahead of the sit reference.
        #[serde(default)]
        rail_middle_mm: Option<Millimetres> = RailMiddle,
        /// Length of rail the clamp may take.
        #[serde(default)]
        rail_mm: Option<Millimetres> = Rail,
    }
}

/// Another saddle with the sit reference kept where it is, as one linked trial: the stack is carried over to the post,
/// the rails to the clamp. Refused where the saddle cannot be such.
pub fn swap(trying: &Trying, new: &OtherSaddle) -> Result<Step, Vec<Refusal>> {
    let refusals = new.refusals("");
    if !refusals.is_empty() {
        return Err(refusals);
    }
    let mut changes: Vec<Change> = OtherSaddle::QUANTITIES
        .iter()
        .filter_map(|quantity| {
            let value = new.get(*quantity)?;
            (trying.setup.get(*quantity, None) != Some(value)).then(|| Change::to(*quantity, value))
        })
        .collect();
    let none = || {
        vec![Refusal::new(
            "/saddle_stack_mm",
            "It is the saddle there is: measure the other one",
        )]
    };
    if changes.is_empty() {
        return Err(none());
    }
    let (setup, _) = trying.with(&changes).ok_or_else(|| {
        vec![Refusal::new(
            "/saddle_length_mm",
            "A saddle with these lengths does not go together: check them",
        )]
    })?;
    let (post, rails) = (trying.setup.sit() - setup.sit())
        .split(trying.frame.post_axis(), setup.saddle.rails_back());
    for (quantity, by) in [(Quantity::SaddleHeight, post), (Quantity::Setback, rails)] {
        if by.abs() > 0.05 {
            changes.push(Change::by(quantity, by));
        }
    }
    Step::of(trying, changes, String::new()).ok_or_else(none)
}
