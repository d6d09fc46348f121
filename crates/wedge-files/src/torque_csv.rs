//! Torque over the stroke as CSV, `wedge.torque/1`.

use crate::FileError;
use crate::table;
use wedge_core::capture::torque::{SECTORS, Torque};

/// The columns, in the order they are written.
const COLUMNS: [&str; 4] = ["sector", "torque_nm", "se_nm", "cadence_rpm"];

/// Reads torque by sector: a line for each of 24 sectors of the right crank, the first from its top, all with one cadence.
/// Columns stand in any order; `se_nm`, the standard error, may be missing.
pub fn read_torque(text: &str) -> Result<Torque, FileError> {
    let mut sectors_nm = Vec::new();
    let mut se_nm = Vec::new();
    let mut cadence: Option<f64> = None;
    for line in table::read(text, &COLUMNS)? {
        let line = line?;
        let number = |column: &str| match line.cell(column) {
            None => Ok(None),
            Some(text) => match table::number(text)
                .filter(|value| value.is_finite() && value.abs() < 10_000.0)
            {
                Some(value) => Ok(Some(value)),
                None => Err(FileError::new(
                    line.at(column),
                    format!("“{text}” is no value for it"),
                )),
            },
        };
        let needed = |column: &str| {
            number(column)?.ok_or_else(|| FileError::new(line.at(column), "is missing"))
        };
        let expected = sectors_nm.len() + 1;
        if line.cell("sector") != Some(expected.to_string().as_str()) {
            return Err(FileError::new(
                line.at("sector"),
                format!("sectors stand in order: here {expected}"),
            ));
        }
        sectors_nm.push(needed("torque_nm")?);
        se_nm.extend(number("se_nm")?.map(f64::abs));
        let own = needed("cadence_rpm")?;
        if !(10.0..=250.0).contains(&own) {
            return Err(FileError::new(
                line.at("cadence_rpm"),
                "10 to 250 turns a minute",
            ));
        }
        if cadence.is_some_and(|known| (known - own).abs() > 1e-9) {
            return Err(FileError::new(
                line.at("cadence_rpm"),
                "one cadence for the whole turn",
            ));
        }
        cadence = Some(own);
    }
    let words = format!("{} of {SECTORS} sectors", sectors_nm.len());
    if sectors_nm.len() != SECTORS {
        return Err(FileError::new(".", words));
    }
    let se_nm = (se_nm.len() == SECTORS).then_some(se_nm);
    let cadence_rpm = cadence.ok_or_else(|| FileError::new("cadence_rpm", "is missing"))?;
    Ok(Torque {
        sectors_nm,
        se_nm,
        cadence_rpm,
    })
}

/// Torque by sector as CSV.
pub fn write_torque(torque: &Torque) -> Result<String, FileError> {
    let line = |(at, nm): (usize, &f64)| {
        let se = torque
            .se_nm
            .as_ref()
            .and_then(|se| se.get(at))
            .map_or_else(String::new, f64::to_string);
        vec![
            (at + 1).to_string(),
            nm.to_string(),
            se,
            torque.cadence_rpm.to_string(),
        ]
    };
    table::write(&COLUMNS, torque.sectors_nm.iter().enumerate().map(line))
}
