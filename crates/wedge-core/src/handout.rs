//! The table the next mechanic reads: found, left, difference, each with its convention.

use crate::bike::Setup;
use crate::measure::{Convention, Mark, Quantity, Unit};
use crate::position::Position;
use crate::units::Side;
use crate::words::sided;
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

/// The letter on the drawing, of what is drawn.
fn letter_of(quantity: Quantity) -> Option<char> {
    match quantity {
        Quantity::SaddleHeight => Some('A'),
        Quantity::Setback => Some('B'),
        Quantity::Drop => Some('C'),
        Quantity::BbToHand => Some('D'),
        Quantity::Crank => Some('E'),
        Quantity::CleatSetback => Some('F'),
        Quantity::SpacersBelow => Some('G'),
        Quantity::Stem => Some('H'),
        _ => None,
    }
}

/// The contact points, and the bar's roll, each in every convention this bike has.
const CONTACTS: [Quantity; 8] = [
    Quantity::SaddleHeight,
    Quantity::Setback,
    Quantity::Drop,
    Quantity::BbToHand,
    Quantity::BbToHandUp,
    Quantity::SaddleToHand,
    Quantity::GripLength,
    Quantity::BarRoll,
];

/// The position as found and as left, in every convention the next mechanic may need, then the parts. A part that
/// differs between left and right has a line for each.
pub fn table(
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
    // The chosen convention of each quantity carries the letter; the others this bike has follow it.
    let chosen = &left.conventions;
    for quantity in CONTACTS {
        let mut all: Vec<Convention> = Convention::ALL
            .iter()
            .copied()
            .filter(|c| c.quantity() == quantity)
            .collect();
        all.sort_by_key(|c| Some(*c) != chosen.of(quantity));
        for convention in all {
            let Some((found, left)) = found
                .dimensions
                .get(convention)
                .zip(left.dimensions.get(convention))
            else {
                continue;
            };
            line(
                letter_of(quantity).filter(|_| Some(convention) == chosen.of(quantity)),
                quantity.spec().label,
                convention.words(),
                convention.unit(),
                found,
                left,
            );
        }
    }
    let parts = Quantity::marked(Mark::printed);
    let of_the_bar = left_setup.bar.quantities().iter().copied();
    for quantity in parts.chain(of_the_bar).filter(|q| !CONTACTS.contains(q)) {
        let letter = letter_of(quantity);
        let spec = quantity.spec();
        let at = |side| {
            found_setup
                .get(quantity, Some(side))
                .zip(left_setup.get(quantity, Some(side)))
        };
        let Some((of_left, of_right)) = at(Side::Left).zip(at(Side::Right)) else {
            continue;
        };
        // A cleat nobody moved sideways, turned or wedged needs no line.
        let untouched = [of_left, of_right].iter().all(|at| *at == (0.0, 0.0));
        if untouched
            && matches!(
                quantity,
                Quantity::CleatOut | Quantity::CleatRotation | Quantity::CleatWedge
            )
        {
            continue;
        }
        if !spec.per_side || of_left == of_right {
            line(
                letter, spec.label, spec.how, spec.unit, of_right.0, of_right.1,
            );
        } else {
            for (side, (found, left)) in [(Side::Left, of_left), (Side::Right, of_right)] {
                let label = sided(spec.label, Some(side));
                line(letter, &label, spec.how, spec.unit, found, left);
            }
        }
    }
    lines
}
