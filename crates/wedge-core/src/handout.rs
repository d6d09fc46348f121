//! The table the next mechanic reads: found, left, difference, each with its convention.

use crate::bike::Setup;
use crate::foresee::{ForeseeInput, Position};
use crate::measure::{Convention, Quantity, Unit};
use crate::units::Side;
use serde::{Deserialize, Serialize};

/// One line of the table.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Line {
    /// The letter on the drawing, for lines that are drawn.
    pub letter: Option<char>,
    /// The fitter's word.
    pub label: String,
    /// From where to where.
    pub convention: String,
    /// Its unit.
    pub unit: Unit,
    /// As found.
    pub found: f64,
    /// As left.
    pub left: f64,
    /// Left minus found.
    pub difference: f64,
}

/// The position as found and as left, in every convention the next mechanic may need, then the parts. A part that
/// differs between left and right has a line for each.
pub fn table(
    input: &ForeseeInput,
    (found, found_setup): (&Position, &Setup),
    (left, left_setup): (&Position, &Setup),
) -> Vec<Line> {
    let mut lines = Vec::new();
    let mut line = |letter: Option<char>, label: &str, convention: &str, unit, found, left| {
        lines.push(Line {
            letter,
            label: label.to_owned(),
            convention: convention.to_owned(),
            unit,
            found,
            left,
            difference: left - found,
        });
    };
    // The chosen convention of each quantity carries the letter; the others follow it.
    for (letter, quantity) in [
        ('A', Quantity::SaddleHeight),
        ('B', Quantity::Setback),
        ('C', Quantity::Drop),
    ] {
        let chosen = input.conventions.of(quantity);
        let mut all: Vec<Convention> = Convention::ALL
            .into_iter()
            .filter(|c| c.quantity() == quantity)
            .collect();
        all.sort_by_key(|c| Some(*c) != chosen);
        for convention in all {
            line(
                (Some(convention) == chosen).then_some(letter),
                quantity.spec().label,
                convention.words(),
                convention.unit(),
                found.dimensions.get(convention),
                left.dimensions.get(convention),
            );
        }
    }
    line(
        Some('D'),
        "BB to hood",
        "horizontal",
        Unit::Mm,
        found.dimensions.bb_to_hood_mm.0,
        left.dimensions.bb_to_hood_mm.0,
    );
    line(
        None,
        "BB to hood",
        "vertical",
        Unit::Mm,
        found.dimensions.bb_to_hood_up_mm.0,
        left.dimensions.bb_to_hood_up_mm.0,
    );
    line(
        None,
        "Saddle to hood",
        "sit reference to hood, horizontal",
        Unit::Mm,
        found.dimensions.saddle_to_hood_mm.0,
        left.dimensions.saddle_to_hood_mm.0,
    );
    for (letter, quantity) in [
        (Some('E'), Quantity::Crank),
        (Some('F'), Quantity::CleatSetback),
        (None, Quantity::PedalStack),
        (None, Quantity::Sole),
        (None, Quantity::Shim),
        (Some('G'), Quantity::Stem),
        (None, Quantity::StemAngle),
        (Some('H'), Quantity::SpacersBelow),
        (None, Quantity::SpacersAbove),
        (None, Quantity::BarWidth),
        (None, Quantity::BarReach),
        (None, Quantity::BarRoll),
        (None, Quantity::Tilt),
        (None, Quantity::NoseToSit),
    ] {
        let spec = quantity.spec();
        let at = |side| {
            (
                found_setup.get(quantity, Some(side)).unwrap_or_default(),
                left_setup.get(quantity, Some(side)).unwrap_or_default(),
            )
        };
        let (of_left, of_right) = (at(Side::Left), at(Side::Right));
        if !spec.per_side || of_left == of_right {
            line(
                letter, spec.label, spec.how, spec.unit, of_right.0, of_right.1,
            );
        } else {
            for (side, (found, left)) in [(Side::Left, of_left), (Side::Right, of_right)] {
                let label = format!("{}, {}", spec.label, side.word());
                line(letter, &label, spec.how, spec.unit, found, left);
            }
        }
    }
    lines
}
