//! A reading: never a bare number.

use super::{Convention, Quantity, Refusal, SitReference};
use crate::units::Side;
use serde::{Deserialize, Serialize};

/// How a reading was taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Method {
    /// With a tape.
    #[default]
    Tape,
    /// With a calliper.
    Calliper,
    /// With a goniometer.
    Goniometer,
    /// Read off the part.
    Printed,
    /// From an old record.
    OldRecord,
    /// What the rider said.
    Told,
    /// On a frame of film, clicked.
    Film,
    /// By a camera that follows markers.
    Camera,
    /// On two floor scales, one under each wheel.
    Scales,
}

/// One value with what it needs to be understood: from where to where, how it was taken, on which side.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Reading {
    /// What was measured.
    pub quantity: Quantity,
    /// The value, in the quantity's unit (or the convention's, where that is an angle).
    pub value: f64,
    /// The convention, for quantities that have several; the house's when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub convention: Option<Convention>,
    /// Which point of the saddle it went to; the house's when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sit_reference: Option<SitReference>,
    /// The side, for quantities the body or bike has twice; both when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// How it was taken.
    #[serde(default)]
    pub method: Method,
}

/// The latest reading of a quantity, among readings in the order they were taken.
pub fn latest(readings: &[Reading], quantity: Quantity) -> Option<&Reading> {
    readings.iter().rfind(|r| r.quantity == quantity)
}

impl Reading {
    /// A tape reading without side, in the house convention.
    pub fn new(quantity: Quantity, value: f64) -> Self {
        Self {
            quantity,
            value,
            convention: None,
            sit_reference: None,
            side: None,
            method: Method::default(),
        }
    }

    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut refusals = Vec::new();
        if let Some(convention) = self.convention
            && convention.quantity() != self.quantity
        {
            refusals.push(Refusal::new(
                format!("{at}/convention"),
                format!(
                    "{} is not measured {}",
                    self.quantity.spec().label,
                    convention.words()
                ),
            ));
        }
        let pointer = format!("{at}/value");
        refusals.extend(match self.convention {
            Some(Convention::SetbackSeatAngle) => {
                (!(60.0..=110.0).contains(&self.value)).then(|| {
                    Refusal::new(
                        pointer,
                        "An effective seat angle is 60 to 110°: 90° is straight above the BB",
                    )
                })
            }
            Some(Convention::DropShare) => (!(-50.0..=50.0).contains(&self.value))
                .then(|| Refusal::new(pointer, "A drop is −50 to 50 % of the saddle height")),
            _ => self.quantity.refuse(self.value, &pointer),
        });
        if self.side.is_some() && !self.quantity.spec().per_side {
            refusals.push(Refusal::new(
                format!("{at}/side"),
                format!("{} has no left and right", self.quantity.spec().label),
            ));
        }
        refusals
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_reading_is_refused_for_what_is_wrong_with_it_and_nothing_else() {
        let good = Reading::new(Quantity::SaddleHeight, 749.0);
        let cases = [
            (good, None),
            (
                Reading {
                    value: 7490.0,
                    ..good
                },
                Some("/value"),
            ),
            (
                Reading {
                    convention: Some(Convention::SetbackNose),
                    ..good
                },
                Some("/convention"),
            ),
            (
                Reading {
                    side: Some(Side::Left),
                    ..good
                },
                Some("/side"),
            ),
            (
                Reading {
                    convention: Some(Convention::SetbackSeatAngle),
                    ..Reading::new(Quantity::Setback, 73.5)
                },
                None,
            ),
            (
                Reading {
                    convention: Some(Convention::SetbackSeatAngle),
                    ..Reading::new(Quantity::Setback, 210.0)
                },
                Some("/value"),
            ),
        ];
        for (reading, pointer) in cases {
            let refusals = reading.refusals("");
            assert_eq!(
                refusals.first().map(|r| r.pointer.as_str()),
                pointer,
                "{reading:?}"
            );
        }
    }
}
