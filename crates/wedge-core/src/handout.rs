//! The table the next mechanic reads: found, left, difference, each with its convention.

use crate::bike::Setup;
use crate::measure::{Convention, Mark, Origin, Quantity, Reading, Unit};
use crate::position::Position;
use crate::units::Side;
use crate::words::{sided, written};
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
    /// Whether that is a change as it is written.
    pub changed: bool,
    /// Whether it is the same measure as the line with the chosen convention, read another way.
    pub other: bool,
    /// Where the number as left is from.
    pub origin: Origin,
    /// The same in words.
    pub from: String,
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

/// Where the numbers of a bike are from.
#[derive(Debug, Clone, Copy)]
pub struct Origins<'a> {
    /// The readings of the bike, the last last.
    pub readings: &'a [Reading],
    /// What was filled in from an ordinary bike; `None` of a bike that was written down before that was kept.
    pub usual: Option<&'a [Quantity]>,
}

impl Origins<'_> {
    /// Where a length is from, read in a convention; moved since, it is worked out from what it was and the move.
    fn of_contact(
        &self,
        quantity: Quantity,
        convention: Option<Convention>,
        moved: bool,
    ) -> Origin {
        let of_it = |r: &&Reading| r.quantity == quantity;
        let read = self.readings.iter().rev().find(of_it);
        match read.filter(|r| !moved && r.convention.is_none_or(|c| Some(c) == convention)) {
            Some(reading) => reading.method.into(),
            None => Origin::Derived,
        }
    }

    /// Where a part's number is from; one that was swapped since was typed from the new one.
    fn of_part(&self, quantity: Quantity, swapped: bool) -> Origin {
        let read = self.readings.iter().rev().find(|r| r.quantity == quantity);
        match (swapped, read, self.usual) {
            (true, ..) => Origin::Typed,
            (_, Some(reading), _) => reading.method.into(),
            (_, _, None) => Origin::NotRecorded,
            (_, _, Some(usual)) if usual.contains(&quantity) => Origin::Usual,
            _ => Origin::Typed,
        }
    }
}

/// The position as found and as left, then the parts: what was changed first, and each measure in the chosen convention
/// before the others the next mechanic may need. A part that differs between left and right has a line for each.
pub fn table(
    (found, found_setup): (&Position, &Setup),
    (left, left_setup): (&Position, &Setup),
    origins: Origins,
) -> Vec<Line> {
    let mut lines = Vec::new();
    let mut line =
        |(letter, other, quantity): (Option<char>, bool, (Quantity, Option<Convention>)),
         label: &str,
         convention: &str,
         unit,
         found: f64,
         left: f64| {
            let changed = written(left - found) != "0";
            let (quantity, read_in) = quantity;
            let origin = if CONTACTS.contains(&quantity) {
                origins.of_contact(quantity, read_in, changed)
            } else {
                origins.of_part(quantity, changed)
            };
            lines.push(Line {
                changed,
                other,
                origin,
                from: origin.label().to_owned(),
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
            let other = Some(convention) != chosen.of(quantity);
            line(
                (
                    letter_of(quantity).filter(|_| !other),
                    other && chosen.of(quantity).is_some(),
                    (quantity, Some(convention)),
                ),
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
                (letter, false, (quantity, None)),
                spec.label,
                spec.how,
                spec.unit,
                of_right.0,
                of_right.1,
            );
        } else {
            for (side, (found, left)) in [(Side::Left, of_left), (Side::Right, of_right)] {
                let label = sided(spec.label, Some(side));
                line(
                    (letter, false, (quantity, None)),
                    &label,
                    spec.how,
                    spec.unit,
                    found,
                    left,
                );
            }
        }
    }
    lines.sort_by_key(|line| !line.changed);
    lines
}
