//! A proposal as one linked trial, cut where a limit of the rider's body stands in the way; and values that are ends.

use super::{Change, Trying, WORTH_MM};
use crate::position::wall;
use serde::{Deserialize, Serialize};

/// That a value is an end, not a wish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Bound {
    /// The most it accepts: anything less will do.
    AtMost,
    /// The least it accepts: anything more will do.
    AtLeast,
}

/// One step towards what a school wants.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Step {
    /// "Cleat back 4, saddle down 2".
    pub title: String,
    /// The whole linked trial.
    pub changes: Vec<Change>,
    /// What remains after it; empty when it goes all the way.
    pub left: String,
}

impl Step {
    /// The trial of these changes, named after what they do; `None` when they cannot be made, or a limit of the rider
    /// forbids them altogether.
    pub fn of(trying: &Trying, changes: Vec<Change>, left: String) -> Option<Self> {
        Self::as_far_as_it_goes(trying, changes, left).0
    }

    /// The same, and what of the rider's limits stops it before its end.
    pub(crate) fn as_far_as_it_goes(
        trying: &Trying,
        changes: Vec<Change>,
        left: String,
    ) -> (Option<Self>, Option<String>) {
        let Some((changes, wall)) = within_limits(trying, changes) else {
            return (None, None);
        };
        let weighed = trying.weigh(changes).filter(|w| !w.changes.is_empty());
        let step = weighed.map(|weighed| Self {
            title: weighed.title,
            changes: weighed.changes,
            left: match &wall {
                Some(wall) => format!("no further: {wall}"),
                None => left,
            },
        });
        (step, wall)
    }
}

/// The changes as far as the rider's limits let them go, none of them when it is not worth a bolt, and what stopped
/// them; `None` when they cannot be made at all.
pub(crate) fn within_limits(
    trying: &Trying,
    changes: Vec<Change>,
) -> Option<(Vec<Change>, Option<String>)> {
    let stopped = |changes: &[Change]| {
        let after = trying.plain(changes)?;
        Some(wall(&trying.rider, &trying.before, &after))
    };
    let Some(wall) = stopped(&changes)? else {
        return Some((changes, None));
    };
    // A part that is swapped for another cannot be had in half.
    let whole: Option<Vec<f64>> = changes.iter().map(|change| change.by).collect();
    let Some(whole) = whole else {
        return Some((Vec::new(), Some(wall)));
    };
    let part = |share: f64| -> Vec<Change> {
        changes
            .iter()
            .zip(&whole)
            .map(|(change, by)| Change {
                // To the half millimetre or degree, never beyond.
                by: Some((by * share * 2.0).trunc() / 2.0),
                ..*change
            })
            .filter(|change| change.by != Some(0.0))
            .collect()
    };
    let (mut free, mut blocked) = (0.0, 1.0);
    for _ in 0..7 {
        let share = f64::midpoint(free, blocked);
        if stopped(&part(share))?.is_none() {
            free = share;
        } else {
            blocked = share;
        }
    }
    let mut cut = part(free);
    let goes = |change: &Change| change.by.unwrap_or_default().abs();
    if !cut.first().is_some_and(|first| goes(first) >= WORTH_MM) {
        cut.clear();
    }
    Some((cut, Some(wall)))
}
