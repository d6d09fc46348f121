//! The units a studio reads lengths and masses in. Inside everything stays in millimetres and kilograms.

use crate::words::words;
use serde::{Deserialize, Serialize};

words! {
    /// What lengths are shown and typed in.
    pub enum LengthUnit {
        Mm "mm" "mm",
        Cm "cm" "cm",
        In "in" "in",
    }
}

words! {
    /// What masses are shown and typed in.
    pub enum MassUnit {
        Kg "kg" "kg",
        Lb "lb" "lb",
    }
}

impl LengthUnit {
    /// Millimetres in one of it.
    pub const fn mm(self) -> f64 {
        match self {
            Self::Mm => 1.0,
            Self::Cm => 10.0,
            Self::In => 25.4,
        }
    }
}

impl MassUnit {
    /// Kilograms in one of it.
    pub const fn kg(self) -> f64 {
        match self {
            Self::Kg => 1.0,
            Self::Lb => super::typed::POUND_KG,
        }
    }
}

/// The units of a studio.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Units {
    /// Lengths.
    pub length: LengthUnit,
    /// Masses.
    pub mass: MassUnit,
}

impl Default for Units {
    fn default() -> Self {
        Self {
            length: LengthUnit::Mm,
            mass: MassUnit::Kg,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn units_are_the_ones_that_are_typed() {
        for unit in LengthUnit::ALL {
            let one = super::super::typed(&format!("1 {}", unit.label()), super::super::Unit::Mm);
            assert_eq!(one, Ok(unit.mm()));
        }
        for unit in MassUnit::ALL {
            let one = super::super::typed(&format!("1 {}", unit.label()), super::super::Unit::Kg);
            assert_eq!(one, Ok(unit.kg()));
        }
    }
}
