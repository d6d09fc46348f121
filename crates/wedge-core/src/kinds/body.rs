//! Rules of governing bodies, as a studio wrote them down on a day. They change: what a position breaks is told with that day.

use super::candidate::Candidate;
use crate::measure::{Refusal, within};
use serde::{Deserialize, Serialize};

/// How far extensions may reach for riders up to a stature.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ExtensionByStature {
    /// For riders no taller than this, mm.
    pub up_to_mm: f64,
    /// BB to the end of the extensions, horizontal, at the most, mm.
    pub reach_mm: f64,
}

/// What a governing body allows, by a studio's own table.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = GoverningBody))]
#[serde(deny_unknown_fields)]
pub struct Body {
    /// As it is called.
    pub name: String,
    /// The day somebody read its rules: "2026-03-01".
    pub read_on: String,
    /// The saddle's nose at least so far behind the BB, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub setback_nose_mm: Option<f64>,
    /// How far extensions may reach, by stature, the smallest class first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub extension_reach: Vec<ExtensionByStature>,
    /// Saddle tilt either way, at the most, degrees.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub saddle_tilt_deg: Option<f64>,
    /// The extensions' ends above the pads, at the most, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pads_to_ends_mm: Option<f64>,
}

/// A federation that is nobody's, as Wedge ships it: an example of such a table.
pub fn invented() -> Body {
    Body {
        name: "Inland Rowing-Boat Federation (invented)".to_owned(),
        read_on: "2026-01-15".to_owned(),
        setback_nose_mm: Some(40.0),
        extension_reach: vec![
            ExtensionByStature {
                up_to_mm: 1750.0,
                reach_mm: 780.0,
            },
            ExtensionByStature {
                up_to_mm: 1900.0,
                reach_mm: 810.0,
            },
            ExtensionByStature {
                up_to_mm: 2300.0,
                reach_mm: 840.0,
            },
        ],
        saddle_tilt_deg: Some(8.0),
        pads_to_ends_mm: Some(120.0),
    }
}

/// A rule a position breaks.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Broken {
    /// "Saddle nose 12 mm behind the BB, 40 asked for".
    pub words: String,
    /// "by the table of … of 2026-01-15: check your federation’s current rules".
    pub by: String,
}

impl Body {
    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if self.name.trim().is_empty() || self.name.chars().count() > 120 {
            all.push(Refusal::new(
                format!("{at}/name"),
                "A name has 1 to 120 characters",
            ));
        }
        let numbers: Vec<&str> = self.read_on.split('-').collect();
        let digits = |text: &str, count: usize| {
            text.len() == count && text.bytes().all(|b| b.is_ascii_digit())
        };
        if !matches!(numbers[..], [y, m, d] if digits(y, 4) && digits(m, 2) && digits(d, 2)) {
            all.push(Refusal::new(
                format!("{at}/read_on"),
                "The day its rules were read, like 2026-03-01",
            ));
        }
        let ranges = [
            (
                "setback_nose_mm",
                self.setback_nose_mm,
                -200.0,
                200.0,
                "The nose behind the BB, in mm,",
            ),
            (
                "saddle_tilt_deg",
                self.saddle_tilt_deg,
                0.0,
                20.0,
                "Saddle tilt, in degrees,",
            ),
            (
                "pads_to_ends_mm",
                self.pads_to_ends_mm,
                0.0,
                300.0,
                "The ends above the pads, in mm,",
            ),
        ];
        for (key, value, low, high, what) in ranges {
            all.extend(value.and_then(|v| within(format!("{at}/{key}"), v, low, high, what)));
        }
        let mut last = 0.0;
        for (index, class) in self.extension_reach.iter().enumerate() {
            let at = format!("{at}/extension_reach/{index}");
            all.extend(within(
                format!("{at}/reach_mm"),
                class.reach_mm,
                400.0,
                1200.0,
                "A reach, in mm,",
            ));
            if class.up_to_mm.is_nan() || class.up_to_mm <= last {
                all.push(Refusal::new(
                    format!("{at}/up_to_mm"),
                    "Classes of stature grow",
                ));
            }
            last = class.up_to_mm;
        }
        all
    }

    /// What a position breaks of it.
    pub fn broken(&self, of: &Candidate, stature_mm: f64) -> Vec<Broken> {
        use crate::words::written;
        let by = format!(
            "by the table of {} read on {}: check your federation’s current rules",
            self.name, self.read_on
        );
        let mut all: Vec<String> = Vec::new();
        let nose = -of.outline.nose.x;
        if let Some(least) = self.setback_nose_mm.filter(|least| nose < least - 0.05) {
            all.push(format!(
                "Saddle nose {} mm behind the BB, {} asked for",
                written(nose),
                written(least)
            ));
        }
        if let Some(most) = self
            .saddle_tilt_deg
            .filter(|most| of.saddle_tilt_deg.abs() > most + 0.05)
        {
            all.push(format!(
                "Saddle tilted {}°, up to {} allowed",
                written(of.saddle_tilt_deg),
                written(most)
            ));
        }
        let class = self
            .extension_reach
            .iter()
            .find(|class| stature_mm <= class.up_to_mm);
        let over = |ends: f64| class.filter(|class| ends > class.reach_mm + 0.05);
        if let Some((ends, class)) = of.ends.and_then(|ends| Some((ends, over(ends.x)?))) {
            all.push(format!(
                "Extensions reach {} mm ahead of the BB, up to {} allowed for this stature",
                written(ends.x),
                written(class.reach_mm)
            ));
        }
        if let (Some(ends), Some(pad), Some(most)) = (of.ends, of.outline.pad, self.pads_to_ends_mm)
            && ends.y - pad.y > most + 0.05
        {
            all.push(format!(
                "Extensions end {} mm above the pads, up to {} allowed",
                written(ends.y - pad.y),
                written(most)
            ));
        }
        all.into_iter()
            .map(|words| Broken {
                words,
                by: by.clone(),
            })
            .collect()
    }
}
