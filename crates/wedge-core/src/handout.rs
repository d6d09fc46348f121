//! The table the next mechanic reads: found, left, difference, each with its convention.

use crate::bike::Setup;
use crate::measure::{Convention, Mark, Origin, Quantity, Reading, Unit, latest};
use crate::position::Position;
use crate::units::Side;
use crate::words::{sided, written};
use serde::{Deserialize, Serialize};

/// One line of the table.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Line {
    /// What it is on the drawing, for lines that are drawn.
    pub drawn: Option<Quantity>,
    /// What it is of.
    pub quantity: Quantity,
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

/// What stands on the drawing with its number.
const DRAWN: [Quantity; 8] = [
    Quantity::SaddleHeight,
    Quantity::Setback,
    Quantity::Drop,
    Quantity::BbToHand,
    Quantity::Crank,
    Quantity::CleatSetback,
    Quantity::SpacersBelow,
    Quantity::Stem,
];

fn drawn(quantity: Quantity) -> Option<Quantity> {
    DRAWN.contains(&quantity).then_some(quantity)
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
    /// Whether the rider, and so everything of the bike, is a stand-in's.
    pub simulated: bool,
}

impl Origins<'_> {
    /// Where a length is from, read in a convention; moved since, it is worked out from what it was and the move.
    fn of_contact(
        &self,
        quantity: Quantity,
        convention: Option<Convention>,
        moved: bool,
    ) -> Origin {
        if self.simulated {
            return Origin::Simulated;
        }
        let of_it = |r: &&Reading| r.quantity == quantity;
        let read = self.readings.iter().rev().find(of_it);
        match read.filter(|r| !moved && r.convention.is_none_or(|c| Some(c) == convention)) {
            Some(reading) => reading.method.into(),
            None => Origin::Derived,
        }
    }

    /// Where a part's number is from; one that was swapped since was typed from the new one.
    fn of_part(&self, quantity: Quantity, swapped: bool) -> Origin {
        if self.simulated {
            return Origin::Simulated;
        }
        let read = latest(self.readings, quantity);
        match (swapped, read, self.usual) {
            (true, ..) => Origin::Typed,
            (_, Some(reading), _) => reading.method.into(),
            (_, _, None) => Origin::NotRecorded,
            (_, _, Some(usual)) if usual.contains(&quantity) => Origin::Usual,
            _ => Origin::Typed,
        }
    }
}

/// The table as it is put together.
struct Table<'a> {
    lines: Vec<Line>,
    origins: Origins<'a>,
}

impl Table<'_> {
    /// A line: what it is on the drawing and whether it repeats another one, what it is of, how it is called, from where to where.
    fn add(
        &mut self,
        (drawn, other): (Option<Quantity>, bool),
        (quantity, read_in): (Quantity, Option<Convention>),
        (label, convention, unit): (&str, &str, Unit),
        (found, left): (f64, f64),
    ) {
        let changed = written(left - found) != "0";
        let origin = if CONTACTS.contains(&quantity) {
            self.origins.of_contact(quantity, read_in, changed)
        } else {
            self.origins.of_part(quantity, changed)
        };
        self.lines.push(Line {
            drawn,
            quantity,
            label: label.to_owned(),
            convention: convention.to_owned(),
            unit,
            found,
            left,
            difference: left - found,
            changed,
            other,
            origin,
            from: origin.label().to_owned(),
        });
    }

    /// The contact points: the chosen convention of each is drawn, the others this bike has follow it.
    fn contacts(&mut self, found: &Position, left: &Position) {
        for quantity in CONTACTS {
            let chosen = left.conventions.of(quantity);
            let mut all: Vec<Convention> = Convention::ALL
                .iter()
                .copied()
                .filter(|c| c.quantity() == quantity)
                .collect();
            all.sort_by_key(|c| Some(*c) != chosen);
            for convention in all {
                let at = |position: &Position| position.dimensions.get(convention);
                let Some(values) = at(found).zip(at(left)) else {
                    continue;
                };
                let other = Some(convention) != chosen;
                self.add(
                    (
                        drawn(quantity).filter(|_| !other),
                        other && chosen.is_some(),
                    ),
                    (quantity, Some(convention)),
                    (quantity.spec().label, convention.words(), convention.unit()),
                    values,
                );
            }
        }
    }

    /// A part, on each side where the two differ.
    fn part(&mut self, quantity: Quantity, found: &Setup, left: &Setup) {
        let spec = quantity.spec();
        let at = |side| {
            // What was written down since the bike came was so then.
            let left = left.get(quantity, Some(side))?;
            let found = found.get(quantity, Some(side)).unwrap_or(left);
            Some((found, left))
        };
        let Some((of_left, of_right)) = at(Side::Left).zip(at(Side::Right)) else {
            return;
        };
        // A cleat nobody moved sideways, turned or wedged needs no line.
        let untouched = [of_left, of_right].iter().all(|at| *at == (0.0, 0.0));
        if untouched
            && matches!(
                quantity,
                Quantity::CleatOut | Quantity::CleatRotation | Quantity::CleatWedge
            )
        {
            return;
        }
        let sides: &[(Option<Side>, (f64, f64))] = if !spec.per_side || of_left == of_right {
            &[(None, of_right)]
        } else {
            &[(Some(Side::Left), of_left), (Some(Side::Right), of_right)]
        };
        for (side, values) in sides {
            self.add(
                (drawn(quantity), false),
                (quantity, None),
                (&sided(spec.label, *side), spec.how, spec.unit),
                *values,
            );
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
    let mut table = Table {
        lines: Vec::new(),
        origins,
    };
    table.contacts(found, left);
    let parts = Quantity::marked(Mark::printed);
    let of_the_bar = left_setup.bar.quantities().iter().copied();
    for quantity in parts.chain(of_the_bar).filter(|q| !CONTACTS.contains(q)) {
        table.part(quantity, found_setup, left_setup);
    }
    table.lines.sort_by_key(|line| !line.changed);
    table.lines
}
