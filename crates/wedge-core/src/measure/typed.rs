//! What a fitter types, read: "845", "84,5 cm", "33 in", "5 ft 11", "33 1/2\"".

use super::Unit;
use crate::words::written;

/// A unit as it may be typed, what it measures, and how many of the house's unit it is.
const SPELLINGS: &[(&str, Unit, f64)] = &[
    ("mm", Unit::Mm, 1.0),
    ("cm", Unit::Mm, 10.0),
    ("m", Unit::Mm, 1000.0),
    ("in", Unit::Mm, 25.4),
    ("inch", Unit::Mm, 25.4),
    ("inches", Unit::Mm, 25.4),
    ("\"", Unit::Mm, 25.4),
    ("″", Unit::Mm, 25.4),
    ("”", Unit::Mm, 25.4),
    ("ft", Unit::Mm, 304.8),
    ("foot", Unit::Mm, 304.8),
    ("feet", Unit::Mm, 304.8),
    ("'", Unit::Mm, 304.8),
    ("′", Unit::Mm, 304.8),
    ("’", Unit::Mm, 304.8),
    ("°", Unit::Deg, 1.0),
    ("deg", Unit::Deg, 1.0),
    ("degrees", Unit::Deg, 1.0),
    ("kg", Unit::Kg, 1.0),
    ("g", Unit::Kg, 0.001),
    ("lb", Unit::Kg, POUND_KG),
    ("lbs", Unit::Kg, POUND_KG),
    ("st", Unit::Kg, 14.0 * POUND_KG),
    ("w", Unit::W, 1.0),
    ("rpm", Unit::Rpm, 1.0),
    ("n", Unit::N, 1.0),
    ("%", Unit::Percent, 1.0),
    ("h", Unit::Hours, 1.0),
    ("hours", Unit::Hours, 1.0),
    ("min", Unit::Hours, 1.0 / 60.0),
    ("bar", Unit::Bar, 1.0),
    ("psi", Unit::Bar, PSI_BAR),
    ("kpa", Unit::Bar, 0.01),
    ("clicks", Unit::Clicks, 1.0),
    ("m/s", Unit::MetresPerSecond, 1.0),
    ("km/h", Unit::MetresPerSecond, 1.0 / 3.6),
    ("kmh", Unit::MetresPerSecond, 1.0 / 3.6),
    ("mph", Unit::MetresPerSecond, 0.447_04),
];

/// A pound-force on a square inch.
const PSI_BAR: f64 = 0.068_947_572_93;

/// The international pound of 1959.
pub(super) const POUND_KG: f64 = 0.453_592_37;

/// Reads what was typed into a field of a unit; a number alone is in that unit.
///
/// Decimal comma or point, either minus, fractions ("33 1/2"), and two units together ("5 ft 11 in", "5' 11") are
/// understood. Errors say what would be right.
pub fn typed(text: &str, unit: Unit) -> Result<f64, String> {
    let not_a_number = || {
        format!(
            "“{}” is not a number: type it like {}",
            text.trim(),
            examples(unit)
        )
    };
    let plain = text.trim().to_lowercase().replace('−', "-");
    let (negative, plain) = match plain.strip_prefix('-') {
        Some(rest) => (true, rest),
        None => (false, plain.strip_prefix('+').unwrap_or(&plain)),
    };
    let terms = terms(plain).ok_or_else(not_a_number)?;
    let mut sum = 0.0;
    let mut coarser: Option<f64> = None;
    for (index, (number, spelled)) in terms.iter().enumerate() {
        let factor = if spelled.is_empty() {
            match coarser {
                // "5 ft 11" is eleven inches, "11 st 4" four pounds.
                Some(last) => finer(unit, last).ok_or_else(not_a_number)?,
                None if terms.len() == 1 => 1.0,
                None => return Err(not_a_number()),
            }
        } else {
            let (_, measures, factor) = SPELLINGS
                .iter()
                .find(|(spelling, ..)| spelling == spelled)
                .ok_or_else(not_a_number)?;
            if *measures != unit {
                return Err(format!(
                    "“{}” is not in a unit of this field: type it like {}",
                    text.trim(),
                    examples(unit)
                ));
            }
            *factor
        };
        if index > 0 && coarser.is_none_or(|last| factor >= last) {
            return Err(not_a_number());
        }
        coarser = Some(factor);
        sum += number * factor;
    }
    if sum > PAST_SENSE {
        return Err(format!(
            "“{}” is past any number of this kind: type it like {}",
            text.trim(),
            examples(unit)
        ));
    }
    Ok(if negative { -sum } else { sum })
}

/// Nothing on a rider or a bike is so large in any unit.
const PAST_SENSE: f64 = 1e6;

/// The unit that follows a coarser one without being named.
fn finer(unit: Unit, last: f64) -> Option<f64> {
    match unit {
        Unit::Mm if (last - 304.8).abs() < 1e-9 => Some(25.4),
        Unit::Kg if (last - 14.0 * POUND_KG).abs() < 1e-9 => Some(POUND_KG),
        _ => None,
    }
}

/// Numbers, each with the unit behind it; `None` when there is anything else.
fn terms(text: &str) -> Option<Vec<(f64, String)>> {
    let mut rest = text.trim_start();
    let mut terms = Vec::new();
    while !rest.is_empty() {
        let (number, after) = number(rest)?;
        let after = after.trim_start();
        let end = after
            .find(|c: char| c.is_ascii_digit() || c.is_whitespace() || c == '.' || c == ',')
            .unwrap_or(after.len());
        terms.push((number, after[..end].to_owned()));
        rest = after[end..].trim_start();
    }
    (!terms.is_empty()).then_some(terms)
}

/// A number at the beginning: whole, decimal, or with a fraction behind it.
fn number(text: &str) -> Option<(f64, &str)> {
    let digits = |text: &str, more: &[char]| {
        text.find(|c: char| !c.is_ascii_digit() && !more.contains(&c))
            .unwrap_or(text.len())
    };
    let end = digits(text, &['.', ',']);
    let (written, rest) = text.split_at(end);
    let plain = written.replace(',', ".");
    let value: f64 = plain.parse().ok()?;
    let over = |text: &str| -> Option<(f64, usize)> {
        let end = digits(text, &[]);
        let below: f64 = text[..end].parse().ok()?;
        (below > 0.0).then_some((below, end))
    };
    if let Some(below) = rest.strip_prefix('/') {
        let (below, end) = over(below)?;
        return Some((value / below, &rest[1 + end..]));
    }
    // "33 1/2"
    if let Some(after) = rest.strip_prefix(' ') {
        let end = digits(after, &[]);
        if end > 0
            && let Some(below) = after[end..].strip_prefix('/')
        {
            let above: f64 = after[..end].parse().ok()?;
            let (below, length) = over(below)?;
            return Some((value + above / below, &after[end + 1 + length..]));
        }
    }
    Some((value, rest))
}

/// What would be right.
fn examples(unit: Unit) -> String {
    match unit {
        Unit::Mm => "845, 84,5 cm or 33 in".to_owned(),
        Unit::Deg => "36 or 36,5°".to_owned(),
        Unit::Kg => "71,5 or 157 lb".to_owned(),
        Unit::Hours => "2,5 or 90 min".to_owned(),
        Unit::Bar => "6,2 or 90 psi".to_owned(),
        Unit::Clicks => "8".to_owned(),
        Unit::SquareMetres => "0,25".to_owned(),
        Unit::KgPerCubicMetre => "1,2".to_owned(),
        Unit::MetresPerSecond => "12,5 or 45 km/h".to_owned(),
        Unit::W | Unit::Rpm | Unit::N | Unit::Nm | Unit::Percent | Unit::Size => {
            format!("{}{}", written(85.0), unit.suffix())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::measure::Quantity;

    #[test]
    fn what_is_past_sense_is_refused_before_it_is_no_number() {
        for text in ["9".repeat(400), "1000001".to_owned(), "5000 ft".to_owned()] {
            let refused = typed(&text, Unit::Mm).unwrap_err();
            assert!(refused.contains("past any number"), "{refused}");
        }
    }

    #[test]
    fn what_fitters_type_is_read() {
        for (text, unit, value) in [
            ("845", Unit::Mm, 845.0),
            (" 845 mm", Unit::Mm, 845.0),
            ("84,5 cm", Unit::Mm, 845.0),
            ("84.5cm", Unit::Mm, 845.0),
            ("0,845 m", Unit::Mm, 845.0),
            ("33 in", Unit::Mm, 838.2),
            ("33\"", Unit::Mm, 838.2),
            ("33 1/2 in", Unit::Mm, 850.9),
            ("33 1/2", Unit::Mm, 33.5),
            ("1/2 in", Unit::Mm, 12.7),
            ("33½", Unit::Mm, f64::NAN),
            ("5 ft 11 in", Unit::Mm, 1803.4),
            ("5' 11\"", Unit::Mm, 1803.4),
            ("5'11", Unit::Mm, 1803.4),
            ("1 m 80", Unit::Mm, f64::NAN),
            ("1 m 80 cm", Unit::Mm, 1800.0),
            ("-6", Unit::Deg, -6.0),
            ("−6,5°", Unit::Deg, -6.5),
            ("+6 deg", Unit::Deg, 6.0),
            ("157 lb", Unit::Kg, 71.214),
            ("11 st 3", Unit::Kg, 71.214),
            ("71,5KG", Unit::Kg, 71.5),
            ("90 min", Unit::Hours, 1.5),
            ("90 psi", Unit::Bar, 90.0 * PSI_BAR),
            ("45 km/h", Unit::MetresPerSecond, 12.5),
            ("33 kg", Unit::Mm, f64::NAN),
            ("33 in", Unit::Deg, f64::NAN),
            ("11 in 5 ft", Unit::Mm, f64::NAN),
            ("thirty", Unit::Mm, f64::NAN),
            ("8 45", Unit::Mm, f64::NAN),
            ("8.4.5", Unit::Mm, f64::NAN),
            ("1/0 in", Unit::Mm, f64::NAN),
            ("", Unit::Mm, f64::NAN),
            ("-", Unit::Mm, f64::NAN),
            ("845 845", Unit::Mm, f64::NAN),
            ("inf", Unit::Mm, f64::NAN),
            ("1e3", Unit::Mm, f64::NAN),
        ] {
            match typed(text, unit) {
                Ok(read) => assert!((read - value).abs() < 1e-3, "{text:?} was read as {read}"),
                Err(words) => assert!(value.is_nan(), "{text:?}: {words}"),
            }
        }
    }

    #[test]
    fn what_is_wrong_is_said_with_what_would_be_right() {
        assert_eq!(
            typed("thirty", Unit::Mm).unwrap_err(),
            "“thirty” is not a number: type it like 845, 84,5 cm or 33 in"
        );
        // Into a field of a quantity: how to type it, and what can be right.
        assert_eq!(
            Quantity::Stature.typed("thirty").unwrap_err(),
            "“thirty” is not a number: type it like 845, 84,5 cm or 33 in; give 1200 to 2300 mm"
        );
        assert_eq!(
            Quantity::Stature.typed("178").unwrap_err(),
            "Stature of 178 mm is outside what can be right: give 1200 to 2300 mm, or write 178 cm"
        );
        assert!((Quantity::Stature.typed("178 cm").unwrap() - 1780.0).abs() < 1e-9);
        assert_eq!(
            typed("33 kg", Unit::Mm).unwrap_err(),
            "“33 kg” is not in a unit of this field: type it like 845, 84,5 cm or 33 in"
        );
    }

    #[test]
    fn every_spelling_is_read_in_its_own_unit() {
        for (spelling, unit, factor) in SPELLINGS {
            let read = typed(&format!("3 {spelling}"), *unit).unwrap();
            assert!((read - 3.0 * factor).abs() < 1e-9, "{spelling}");
        }
    }
}
