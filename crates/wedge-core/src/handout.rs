//! What a sheet says: the table the next mechanic reads (found, left, difference, each with its convention), and the changes as
//! the rider reads them.

use crate::bike::Setup;
use crate::measure::{Convention, Mark, Origin, Quantity, Reading, Unit, latest};
use crate::position::Position;
use crate::units::Side;
use crate::words::{lower, sided, words, written};
use serde::{Deserialize, Serialize};

words! {
    /// Where the next mechanic sets a number.
    pub enum SetAt {
        Saddle "saddle" "Saddle and post",
        Front "front" "Front end",
        Feet "feet" "Cranks, pedals and cleats",
        Torque "torque" "Printed torque",
    }
}

impl SetAt {
    /// Where what rebuilds the position is set; nothing of what only follows from it.
    fn of(quantity: Quantity) -> Option<Self> {
        Some(match quantity {
            Quantity::BbToHand | Quantity::BbToHandUp => return None,
            Quantity::SaddleHeight
            | Quantity::Setback
            | Quantity::Tilt
            | Quantity::SaddleStack
            | Quantity::SaddleWidth
            | Quantity::PostSetback
            | Quantity::NoseToSit => Self::Saddle,
            _ if quantity.spec().unit == Unit::Nm => Self::Torque,
            _ if quantity.is(Mark::feet) || quantity.is(Mark::cranks) => Self::Feet,
            _ => Self::Front,
        })
    }

    /// The printed torque of the bolt that holds what is changed.
    pub fn torque_of(quantity: Quantity) -> Option<Quantity> {
        use Quantity as Q;
        Some(match quantity {
            Q::SaddleHeight => Q::PostTorque,
            Q::Setback | Q::Tilt => Q::RailTorque,
            Q::SpacersBelow | Q::SpacersAbove | Q::Stem | Q::StemAngle => Q::StemTorque,
            Q::Crank => Q::CrankTorque,
            Q::LeverAngle | Q::LeverReach | Q::HoodForward | Q::HoodRise => Q::LeverTorque,
            Q::PadSpacers | Q::PadForward | Q::PadTilt | Q::PadSpacing => Q::PadTorque,
            Q::BarRoll | Q::BarWidth | Q::FlatWidth | Q::BarReach | Q::BarRise => Q::BarTorque,
            Q::CleatSetback | Q::CleatOut | Q::CleatRotation | Q::CleatWedge | Q::Shim => {
                Q::CleatTorque
            }
            _ => return None,
        })
    }
}

/// One line of the table.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Line {
    /// What it is on the drawing, for lines that are drawn.
    pub drawn: Option<Quantity>,
    /// What it is of.
    pub quantity: Quantity,
    /// The side, where left and right differ.
    pub side: Option<Side>,
    /// Where the next mechanic sets it; none of what only follows, or repeats another line.
    pub set_at: Option<SetAt>,
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

/// What is told on the drawing without from where to where: it says so on the part.
pub const PARTS: [Quantity; 4] = [
    Quantity::Stem,
    Quantity::SpacersBelow,
    Quantity::Crank,
    Quantity::CleatSetback,
];

/// What stands at a measure on the drawing, line by line: its number, its name with what it was, from where to where. A cleat
/// that differs is told of both sides; nothing of what this bike does not have.
pub fn told(table: &[Line], quantity: Quantity) -> Vec<String> {
    let lines: Vec<&Line> = (table.iter())
        .filter(|line| line.drawn == Some(quantity))
        .collect();
    let Some(first) = lines.first() else {
        return Vec::new();
    };
    let both = |of: fn(&Line) -> f64| {
        let all: Vec<String> = lines.iter().map(|line| written(of(line))).collect();
        all.join(" / ")
    };
    let name = lower(quantity.spec().label);
    let named = if lines.iter().any(|line| line.changed) {
        format!("{name}, was {}", both(|line| line.found))
    } else {
        name
    };
    let how = (!PARTS.contains(&quantity)).then(|| first.convention.clone());
    let value = format!("{}{}", both(|line| line.left), first.unit.suffix());
    [value, named].into_iter().chain(how).collect()
}

/// What the drawing shows, for who does not see it.
pub fn described(table: &[Line]) -> String {
    let all = DRAWN.into_iter().filter_map(|quantity| {
        let told = told(table, quantity);
        Some(format!("{}: {}", told.get(1)?, told.first()?))
    });
    format!(
        "The position as left, in side view. {}.",
        all.collect::<Vec<_>>().join("; ")
    )
}

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
    /// Whether the bike was written down from a position on another: what nobody read of it since was worked out.
    pub carried: bool,
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
            (_, _, Some(usual)) if usual.contains(&quantity) => Origin::Usual,
            _ if self.carried => Origin::Derived,
            (_, _, None) => Origin::NotRecorded,
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
        (quantity, side, read_in): (Quantity, Option<Side>, Option<Convention>),
        (convention, unit): (&str, Unit),
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
            side,
            set_at: SetAt::of(quantity).filter(|_| !other),
            label: sided(quantity.spec().label, side),
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
            for convention in in_order(quantity, chosen) {
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
                    (quantity, None, Some(convention)),
                    (convention.words(), convention.unit()),
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
        // A cleat nobody moved sideways, turned, wedged or raised needs no line.
        let untouched = [of_left, of_right].iter().all(|at| *at == (0.0, 0.0));
        if untouched
            && matches!(
                quantity,
                Quantity::CleatOut
                    | Quantity::CleatRotation
                    | Quantity::CleatWedge
                    | Quantity::Footbed
                    | Quantity::Shim
                    | Quantity::SpacersAbove
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
                (quantity, *side, None),
                (spec.how, spec.unit),
                *values,
            );
        }
    }
}

/// Every convention of a quantity, the chosen one first.
fn in_order(quantity: Quantity, chosen: Option<Convention>) -> Vec<Convention> {
    let of_it = Convention::ALL.iter().copied();
    let mut all: Vec<Convention> = of_it.filter(|c| c.quantity() == quantity).collect();
    all.sort_by_key(|c| Some(*c) != chosen);
    all
}

/// A contact point's measure in one convention.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Contact {
    /// The fitter's word.
    pub label: String,
    /// From where to where.
    pub convention: String,
    /// Its unit.
    pub unit: Unit,
    /// Its value.
    pub value: f64,
    /// Whether it is the measure above it, read another way.
    pub other: bool,
}

/// The contact points of a position in every convention its bike has, the chosen one of each first; then what of the feet goes along.
pub fn contacts(position: &Position, setup: &Setup) -> Vec<Contact> {
    let mut all = Vec::new();
    for quantity in CONTACTS {
        let chosen = position.conventions.of(quantity);
        for convention in in_order(quantity, chosen) {
            all.extend(position.dimensions.get(convention).map(|value| Contact {
                label: quantity.spec().label.to_owned(),
                convention: convention.words().to_owned(),
                unit: convention.unit(),
                value,
                other: chosen.is_some_and(|chosen| chosen != convention),
            }));
        }
    }
    for quantity in [Quantity::Tilt, Quantity::Crank, Quantity::CleatSetback] {
        let at = |side| setup.get(quantity, Some(side));
        let (left, right) = (at(Side::Left), at(Side::Right));
        let sides: &[Option<Side>] = if left == right {
            &[None]
        } else {
            &[Some(Side::Left), Some(Side::Right)]
        };
        for side in sides {
            let value = if *side == Some(Side::Right) {
                right
            } else {
                left
            };
            all.extend(value.map(|value| Contact {
                label: sided(quantity.spec().label, *side),
                convention: quantity.spec().how.to_owned(),
                unit: quantity.spec().unit,
                value,
                other: false,
            }));
        }
    }
    all
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

/// A change as the rider reads it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlainChange {
    /// What changed.
    pub quantity: Quantity,
    /// The side, when only one did.
    pub side: Option<Side>,
    /// "The saddle is 9 mm lower".
    pub words: String,
}

/// What changed between found and left, in plain words and whole millimetres, the biggest first, each measured by the step a
/// fitter takes of it. What only follows from another change, as a spacer's from the hands', is not said.
pub fn plainly(table: &[Line]) -> Vec<PlainChange> {
    let mut changes: Vec<(f64, PlainChange)> = (table.iter())
        .filter(|line| line.changed && line.set_at.is_some())
        .filter_map(|line| {
            let words = plain(line)?;
            let weight = line.difference.abs() / line.quantity.spec().step;
            let (quantity, side) = (line.quantity, line.side);
            Some((
                weight,
                PlainChange {
                    quantity,
                    side,
                    words,
                },
            ))
        })
        .collect();
    changes.sort_by(|a, b| b.0.total_cmp(&a.0));
    changes.into_iter().map(|(_, change)| change).collect()
}

/// One line in the rider's words; nothing of what a rider does not feel as such, nor of less than he could read.
fn plain(line: &Line) -> Option<String> {
    let whole = line.unit == Unit::Mm && line.quantity != Quantity::Crank;
    let by = if whole {
        line.difference.round()
    } else {
        line.difference
    };
    let far = written(by.abs());
    if far == "0" {
        return None;
    }
    let way = |more: &'static str, less: &'static str| if by > 0.0 { more } else { less };
    // "left cleat is", "cleats are".
    let of = |one: &str, both: &str, is: &str, are: &str| match line.side {
        Some(side) => format!("{} {one} {is}", side.word()),
        None => format!("{both} {are}"),
    };
    Some(match line.quantity {
        Quantity::SaddleHeight => format!("The saddle is {far} mm {}", way("higher", "lower")),
        Quantity::Setback => {
            format!(
                "The saddle sits {far} mm further {}",
                way("back", "forward")
            )
        }
        Quantity::Tilt => format!(
            "The saddle’s nose is {far}° {}",
            way("further up", "further down")
        ),
        Quantity::Drop => format!(
            "Your hands are {far} mm {} against the saddle",
            way("lower", "higher")
        ),
        Quantity::SaddleToHand | Quantity::GripLength => {
            format!("Your hands are {far} mm {}", way("further away", "nearer"))
        }
        Quantity::Crank => format!(
            "The {} {far} mm {}",
            of("crank", "cranks", "is", "are"),
            way("longer", "shorter")
        ),
        Quantity::CleatSetback => format!(
            "The {} {far} mm further {}",
            of("cleat", "cleats", "sits", "sit"),
            way("back", "forward")
        ),
        Quantity::CleatOut => format!(
            "The {} {far} mm further {} the bike",
            of("foot", "feet", "stands", "stand"),
            way("from", "towards")
        ),
        Quantity::CleatRotation => format!(
            "The {} {far}° further {}",
            of("heel", "heels", "points", "point"),
            way("in", "out")
        ),
        Quantity::Shim | Quantity::Footbed | Quantity::CleatWedge => format!(
            "{}: {far}{} {}",
            line.label,
            line.unit.suffix(),
            way("more", "less")
        ),
        Quantity::BarWidth | Quantity::FlatWidth => {
            format!("The bar is {far} mm {}", way("wider", "narrower"))
        }
        Quantity::BarRoll => format!("The bar is turned {far}° {}", way("up", "down")),
        Quantity::PadSpacing => {
            format!("The pads are {far} mm {}", way("further apart", "nearer"))
        }
        Quantity::PadTilt => format!("The pads are tilted {far}° {}", way("up", "down")),
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn line(quantity: Quantity, side: Option<Side>, found: f64, left: f64) -> Line {
        Line {
            drawn: drawn(quantity),
            quantity,
            side,
            set_at: SetAt::of(quantity),
            label: sided(quantity.spec().label, side),
            convention: "from here to there".to_owned(),
            unit: quantity.spec().unit,
            found,
            left,
            difference: left - found,
            changed: written(left - found) != "0",
            other: false,
            origin: Origin::Taped,
            from: String::new(),
        }
    }

    #[test]
    fn the_rider_reads_the_biggest_first_by_the_step_a_fitter_takes() {
        // 9 mm of saddle are 1.8 steps of 5, a cleat's 4 are 2 of 2, a crank's 2.5 one of 2.5, tilt's 2° two of 1.
        let table = [
            line(Quantity::SaddleHeight, None, 762.0, 753.3),
            line(Quantity::CleatSetback, Some(Side::Left), 12.0, 16.0),
            line(Quantity::Crank, None, 172.5, 170.0),
            line(Quantity::Drop, None, 99.0, 83.2),
            line(Quantity::Stem, None, 110.0, 100.0),
            line(Quantity::BbToHand, None, 583.0, 580.0),
            line(Quantity::Setback, None, 200.0, 200.3),
        ];
        let words: Vec<String> = plainly(&table).into_iter().map(|c| c.words).collect();
        assert_eq!(
            words,
            [
                "Your hands are 16 mm higher against the saddle",
                "The left cleat sits 4 mm further back",
                "The saddle is 9 mm lower",
                "The cranks are 2.5 mm shorter",
            ]
        );
    }

    #[test]
    fn what_follows_of_itself_is_set_nowhere_and_each_bolt_has_its_torque() {
        assert_eq!(SetAt::of(Quantity::BbToHand), None);
        assert_eq!(SetAt::of(Quantity::Stem), Some(SetAt::Front));
        assert_eq!(SetAt::of(Quantity::Crank), Some(SetAt::Feet));
        assert_eq!(SetAt::of(Quantity::Tilt), Some(SetAt::Saddle));
        assert_eq!(SetAt::of(Quantity::StemTorque), Some(SetAt::Torque));
        for quantity in Quantity::ALL.iter().copied() {
            let bolt = SetAt::torque_of(quantity);
            assert!(bolt.is_none_or(|bolt| bolt.spec().unit == Unit::Nm));
        }
        assert_eq!(
            SetAt::torque_of(Quantity::Shim),
            Some(Quantity::CleatTorque)
        );
    }

    #[test]
    fn the_drawing_tells_what_was_and_both_sides_where_they_differ() {
        let table = [
            line(Quantity::SaddleHeight, None, 762.0, 753.3),
            line(Quantity::CleatSetback, Some(Side::Left), 12.0, 16.0),
            line(Quantity::CleatSetback, Some(Side::Right), 12.0, 12.0),
        ];
        assert_eq!(
            told(&table, Quantity::SaddleHeight),
            ["753.3 mm", "saddle height, was 762", "from here to there"]
        );
        assert_eq!(
            told(&table, Quantity::CleatSetback),
            ["16 / 12 mm", "cleat, was 12 / 12"]
        );
        assert!(told(&table, Quantity::Drop).is_empty());
        assert!(described(&table).ends_with("cleat, was 12 / 12: 16 / 12 mm."));
    }
}
