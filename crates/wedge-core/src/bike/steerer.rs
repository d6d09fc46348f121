//! The steerer's budget: what stands on it must leave a small gap for the cap to preload the bearings across.

use super::{Cockpit, Frame};
use crate::units::Millimetres;
use crate::words::{lower, words, written};
use serde::{Deserialize, Serialize};

/// Whether the stack fits the steerer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SteererState {
    /// The gap is 2–3 mm.
    Right,
    /// The steerer stands too high: the cap cannot preload.
    GapTooSmall,
    /// The steerer ends too low in the stem.
    GapTooLarge,
}

/// The budget of a steerer of known length.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Steerer {
    /// Steerer above the head tube.
    pub above_head_tube_mm: Millimetres,
    /// Cover, spacers and stem clamp together minus that: the gap under the cap.
    pub gap_mm: Millimetres,
    /// Whether it fits.
    pub state: SteererState,
    /// What to do about it, empty when it is right.
    pub words: String,
}

impl Steerer {
    /// The gap to aim for (workshop rule: 2–3 mm).
    pub const GAP_MM: (f64, f64) = (2.0, 3.0);

    /// The budget, `None` while the steerer's length is unknown.
    ///
    /// `steerer − head tube − lower stack` stands above the head tube; `cover + below + clamp + above` must exceed it
    /// by the gap.
    pub fn budget(frame: &Frame, cockpit: &Cockpit) -> Option<Self> {
        let above = frame.steerer_mm?.0 - frame.head_tube_mm.0 - frame.lower_stack_mm.0;
        let gap = cockpit.cover_mm.0
            + cockpit.spacers_below_mm.0
            + cockpit.stem_clamp_mm.0
            + cockpit.spacers_above_mm.0
            - above;
        let (least, most) = Self::GAP_MM;
        // A tenth is beyond any tape.
        let (state, words) = if gap < least - 0.05 {
            (
                SteererState::GapTooSmall,
                format!(
                    "add {} mm of spacers above the stem, or the cap cannot preload the bearings",
                    written(least - gap)
                ),
            )
        } else if gap > most + 0.05 {
            (
                SteererState::GapTooLarge,
                format!(
                    "the steerer is {} mm short for this stack: take spacers out or lower the stem",
                    written(gap - most)
                ),
            )
        } else {
            (SteererState::Right, String::new())
        };
        Some(Self {
            above_head_tube_mm: Millimetres(above),
            gap_mm: Millimetres(gap),
            state,
            words,
        })
    }

    /// That the stack does not fit, with the gap and what to do about it; `None` when it is right.
    pub(crate) fn fault(&self) -> Option<String> {
        (self.state != SteererState::Right)
            .then(|| format!("Steerer gap {} mm: {}", written(self.gap_mm.0), self.words))
    }
}

words! {
    /// What stands on a steerer, from the head tube up.
    pub enum OnSteerer {
        Cover "cover" "Cover",
        Below "below" "Spacers",
        Stem "stem" "Stem",
        Above "above" "Spacers above",
        Gap "gap" "Gap",
    }
}

/// One thing on the steerer, before and after.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StackPart {
    /// What.
    pub part: OnSteerer,
    /// As it is called.
    pub label: String,
    /// Its height before, mm; the gap is known with the steerer's length alone.
    pub before_mm: Option<f64>,
    /// And after.
    pub after_mm: Option<f64>,
}

/// What stands on the steerer before and after, from the head tube up, the gap under the cap last.
pub fn front_stack(frame: &Frame, before: &Cockpit, after: &Cockpit) -> Vec<StackPart> {
    let of = |cockpit: &Cockpit, part: OnSteerer| match part {
        OnSteerer::Cover => Some(cockpit.cover_mm.0),
        OnSteerer::Below => Some(cockpit.spacers_below_mm.0),
        OnSteerer::Stem => Some(cockpit.stem_clamp_mm.0),
        OnSteerer::Above => Some(cockpit.spacers_above_mm.0),
        OnSteerer::Gap => Steerer::budget(frame, cockpit).map(|budget| budget.gap_mm.0),
    };
    let stem = |cockpit: &Cockpit| {
        format!(
            "Stem {}, {}°",
            written(cockpit.stem_mm.0),
            written(cockpit.stem_angle_deg.0)
        )
    };
    (OnSteerer::ALL.iter())
        .map(|part| StackPart {
            part: *part,
            label: match part {
                OnSteerer::Stem if stem(before) == stem(after) => stem(after),
                OnSteerer::Stem => format!("{} → {}", stem(before), lower(&stem(after))),
                _ => part.label().to_owned(),
            },
            before_mm: of(before, *part),
            after_mm: of(after, *part),
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn the_gap_decides_at_its_edges() {
        // Example road bike: cover 15, below 20, clamp 40, above 0 → 75 on the steerer. Head tube 150, lower stack 5.
        // A steerer of 228 leaves 73 above the head tube: gap 2. Of 227: gap 3. Of 229: 1. Of 226: 4.
        let input = example::road();
        for (steerer, gap, state) in [
            (228.0, 2.0, SteererState::Right),
            (227.0, 3.0, SteererState::Right),
            (229.0, 1.0, SteererState::GapTooSmall),
            (226.0, 4.0, SteererState::GapTooLarge),
        ] {
            let mut frame = input.frame;
            frame.steerer_mm = Some(Millimetres(steerer));
            let budget = Steerer::budget(&frame, &input.setup.cockpit).unwrap();
            assert!((budget.gap_mm.0 - gap).abs() < 1e-9);
            assert_eq!(budget.state, state);
            assert_eq!(budget.words.is_empty(), state == SteererState::Right);
        }
    }

    #[test]
    fn the_stack_is_told_before_and_after() {
        let mut frame = example::road().frame;
        frame.steerer_mm = Some(Millimetres(228.0));
        let before = example::road().setup.cockpit;
        let mut after = before;
        after.spacers_below_mm = Millimetres(10.0);
        after.spacers_above_mm = Millimetres(10.0);
        after.stem_mm = Millimetres(80.0);
        let stack = front_stack(&frame, &before, &after);
        let heights: Vec<_> = stack.iter().map(|p| (p.before_mm, p.after_mm)).collect();
        let same = |mm: f64| (Some(mm), Some(mm));
        let moved = [
            (Some(20.0), Some(10.0)),
            same(40.0),
            (Some(0.0), Some(10.0)),
        ];
        assert_eq!(heights[0], same(15.0));
        assert_eq!(heights[1..4], moved);
        assert_eq!(heights[4], same(2.0));
        assert_eq!(stack[2].label, "Stem 100, −6° → stem 80, −6°");
        frame.steerer_mm = None;
        assert_eq!(front_stack(&frame, &before, &after)[4].after_mm, None);
    }
}
