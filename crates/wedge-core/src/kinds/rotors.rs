//! Rotors: usual sizes by the rider's mass and by how steep it is ridden, as a table of the studio.

use crate::measure::{Refusal, within};
use crate::rule::rules;
use serde::{Deserialize, Serialize};

rules! {
    rules "Rotors";
    /// Rotors front and rear, trail, by rider and kit up to 70, 90 kg and over, until a studio has a table of its own.
    const TRAIL_MM: [(f64, f64); 3] = [(180.0, 160.0), (180.0, 180.0), (203.0, 180.0)], " mm", House;
    /// And where it is steep.
    const STEEP_MM: [(f64, f64); 3] = [(203.0, 180.0), (203.0, 203.0), (220.0, 203.0)], " mm", House;
    /// Where the table steps.
    const OVER_KG: [f64; 3] = [0.0, 70.0, 90.0], " kg", House;
}

/// So many lines a table has at the most.
const MOST_LINES: usize = 8;

/// One line of the table: rotors for riders over a mass, in full kit.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = RotorLine))]
#[serde(deny_unknown_fields)]
pub struct Rotors {
    /// For riders heavier than this, kg; the first line begins with nought.
    pub over_kg: f64,
    /// Front, trail, mm.
    pub front_mm: f64,
    /// Rear, trail, mm.
    pub rear_mm: f64,
    /// Front, where it is steep, mm.
    pub steep_front_mm: f64,
    /// Rear, where it is steep, mm.
    pub steep_rear_mm: f64,
}

impl Rotors {
    /// The house's table.
    pub fn usual() -> Vec<Self> {
        let lines = OVER_KG.into_iter().zip(TRAIL_MM.into_iter().zip(STEEP_MM));
        lines
            .map(|(over_kg, (trail, steep))| Self {
                over_kg,
                front_mm: trail.0,
                rear_mm: trail.1,
                steep_front_mm: steep.0,
                steep_rear_mm: steep.1,
            })
            .collect()
    }

    /// Front and rear of this line, mm.
    fn sizes(self, steep: bool) -> (f64, f64) {
        if steep {
            (self.steep_front_mm, self.steep_rear_mm)
        } else {
            (self.front_mm, self.rear_mm)
        }
    }
}

/// Everything a table of rotors cannot be accepted for, each with its JSON pointer below `at`.
pub fn refuse_rotors(table: &[Rotors], at: &str) -> Vec<Refusal> {
    let mut all = Vec::new();
    if table.len() > MOST_LINES {
        all.push(Refusal::new(
            at,
            format!("A table of rotors has up to {MOST_LINES} lines"),
        ));
    }
    let mut last: Option<f64> = None;
    for (index, line) in table.iter().enumerate() {
        let at = format!("{at}/{index}");
        let mass = format!("{at}/over_kg");
        match last {
            None if line.over_kg != 0.0 => {
                all.push(Refusal::new(mass, "The first line is for riders over 0 kg"));
            }
            Some(before) if line.over_kg <= before => all.push(Refusal::new(
                mass,
                "Each line is for heavier riders than the one before",
            )),
            _ => all.extend(within(mass, line.over_kg, 0.0, 250.0, "The mass, in kg,")),
        }
        last = Some(line.over_kg);
        let sizes = [
            ("front_mm", line.front_mm),
            ("rear_mm", line.rear_mm),
            ("steep_front_mm", line.steep_front_mm),
            ("steep_rear_mm", line.steep_rear_mm),
        ];
        all.extend(sizes.into_iter().filter_map(|(key, mm)| {
            within(format!("{at}/{key}"), mm, 100.0, 300.0, "A rotor, in mm,")
        }));
    }
    all
}

/// Usual rotors front and rear, mm, for a rider in full kit; steep ground asks for more. The makers of fork and frame come
/// first. None where the table is empty.
pub fn rotors(table: &[Rotors], mass_kg: f64, steep: bool) -> Option<(f64, f64)> {
    let line = table.iter().rev().find(|line| mass_kg > line.over_kg)?;
    Some(line.sizes(steep))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn heavier_and_steeper_never_get_less() {
        let table = Rotors::usual();
        for steep in [false, true] {
            let all = [60.0, 80.0, 100.0].map(|mass| rotors(&table, mass, steep).unwrap());
            assert!(
                all.windows(2)
                    .all(|two| two[0].0 <= two[1].0 && two[0].1 <= two[1].1)
            );
        }
        assert!(rotors(&table, 80.0, true).unwrap().0 > rotors(&table, 80.0, false).unwrap().0);
        // A line begins over its mass, not at it.
        assert_eq!(rotors(&table, 70.0, false), Some((180.0, 160.0)));
        assert_eq!(rotors(&table, 70.1, false), Some((180.0, 180.0)));
        assert_eq!(rotors(&[], 80.0, false), None);
    }

    #[test]
    fn a_table_goes_up_from_nought_in_sizes_there_are() {
        let told = |change: fn(&mut Vec<Rotors>)| {
            let mut table = Rotors::usual();
            change(&mut table);
            let pointers = refuse_rotors(&table, "/rotors")
                .into_iter()
                .map(|r| r.pointer);
            pointers.collect::<Vec<_>>()
        };
        assert!(told(|_| ()).is_empty() && told(Vec::clear).is_empty());
        assert_eq!(told(|t| t[0].over_kg = 40.0), ["/rotors/0/over_kg"]);
        assert_eq!(told(|t| t[2].over_kg = 70.0), ["/rotors/2/over_kg"]);
        assert_eq!(told(|t| t[1].rear_mm = 18.0), ["/rotors/1/rear_mm"]);
        assert_eq!(
            told(|t| t[1].steep_front_mm = f64::NAN),
            ["/rotors/1/steep_front_mm"]
        );
        assert_eq!(told(|t| t.extend([t[2]; 9].map(|l| l)))[0], "/rotors");
    }
}
