//! Shoes, as far as they bear on the cleat: width and stiffness are noted, and a wide foot is said.

use crate::measure::Refusal;
use crate::rider::LegBody;
use crate::rule::rules;
use crate::units::{Side, Sides};
use crate::words::{words, written};
use serde::{Deserialize, Serialize};

words! {
    /// How wide a shoe is on its foot.
    pub enum ShoeWidth {
        Tight "tight" "Tight",
        Fits "fits" "Fits",
        Loose "loose" "Loose",
    }
}

words! {
    /// How stiff its sole is.
    pub enum Stiffness {
        Soft "soft" "Soft",
        Medium "medium" "Medium",
        Stiff "stiff" "Stiff",
    }
}

rules! {
    rules "Shoes";
    /// A foot wider than this share of its length needs a wide last.
    const WIDE: f64 = 0.41, "", House;
}

/// What is noted of one shoe.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct Shoe {
    /// How wide it is.
    pub width: Option<ShoeWidth>,
    /// How stiff.
    pub stiffness: Option<Stiffness>,
    /// What else there is to say.
    pub words: String,
}

impl Shoe {
    /// The most letters of a note.
    const LONGEST: usize = 2000;

    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        if self.words.chars().count() > Self::LONGEST {
            vec![Refusal::new(
                format!("{at}/words"),
                format!("{} letters at the most", Self::LONGEST),
            )]
        } else {
            Vec::new()
        }
    }
}

/// What to say about the shoes on these feet.
pub fn shoe_advice(legs: &Sides<LegBody>, shoes: &Sides<Shoe>) -> Vec<String> {
    let mut all = Vec::new();
    for side in Side::BOTH {
        let (leg, shoe) = (legs.of(side), shoes.of(side));
        let share = leg
            .foot_width_mm
            .zip(leg.foot_length_mm)
            .map(|(width, length)| width.0 / length.0)
            .filter(|share| *share > WIDE);
        if let Some(share) = share {
            all.push(format!(
                "The {} foot is wide, {} % of its length: a wide last, never a longer shoe, which carries the cleat forward",
                side.word(),
                written(100.0 * share)
            ));
        } else if shoe.width == Some(ShoeWidth::Tight) {
            all.push(format!(
                "The {} shoe is tight: numb feet come from there before they come from the cleat",
                side.word()
            ));
        }
        if shoe.stiffness == Some(Stiffness::Soft) {
            all.push(format!(
                "The {} sole is soft: the pedal is felt through it, and a cleat further back spares the forefoot",
                side.word()
            ));
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Millimetres;

    #[test]
    fn a_wide_foot_wants_a_wide_last() {
        let leg = |width: f64| LegBody {
            foot_width_mm: Some(Millimetres(width)),
            foot_length_mm: Some(Millimetres(260.0)),
            ..LegBody::default()
        };
        // .41 × 260 = 106.6.
        let said = |width: f64| shoe_advice(&Sides::both(leg(width)), &Sides::default());
        assert!(said(106.6).is_empty());
        assert_eq!(said(107.0).len(), 2);
        assert!(said(107.0)[0].contains("never a longer shoe"));
        let shoes = Sides {
            left: Shoe {
                width: Some(ShoeWidth::Tight),
                stiffness: Some(Stiffness::Soft),
                words: String::new(),
            },
            right: Shoe::default(),
        };
        assert_eq!(shoe_advice(&Sides::default(), &shoes).len(), 2);
    }
}
