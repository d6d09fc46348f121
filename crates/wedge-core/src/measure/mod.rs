//! What can be measured: its name, unit, limits and steps, and the conventions of the lengths fitters take
//! differently. And what a position answers, row by row.
//!
//! A saddle height converted: 749.1 mm straight to a sit reference 212.8 behind the BB, along a tube at 73.5°, and back.
//!
//! ```
//! use wedge_core::measure::{Companions, Convention, SitReference, sit_reference};
//! use wedge_core::units::{Degrees, Millimetres};
//!
//! let with = Companions {
//!     seat_angle: Degrees(73.5),
//!     tilt: Degrees(-1.0),
//!     crank: Millimetres(172.5),
//!     nose_to_sit: Millimetres(150.0),
//!     saddle_length: Millimetres(272.0),
//!     nose_to_mark: None,
//!     reference: SitReference::EightyWide,
//! };
//! let setback = (Convention::SetbackSit, 212.8, &with);
//! let sit = sit_reference((Convention::SaddleHeightStraight, 749.1, &with), setback).expect("such a saddle has a place");
//! let from_axle = with.saddle_height(Convention::SaddleHeightFromAxle, sit).expect("it is a saddle height");
//! assert!((from_axle - (749.1 + 172.5)).abs() < 0.05);
//! let back = sit_reference((Convention::SaddleHeightFromAxle, from_axle, &with), setback).expect("as before");
//! assert!(back.distance(sit) < 0.05);
//! ```

mod convention;
mod origin;
mod output;
mod quantity;
mod reading;
mod repeated;
mod shown;
mod taking;
mod typed;

pub use convention::{
    Along, Companions, Convention, Conventions, From, HandLine, SitReference, Spot, sit_reference,
};
pub use origin::Origin;
pub(crate) use output::Limbs;
pub use output::{Output, OutputSpec};
pub(crate) use quantity::Mark;
pub use quantity::within;
pub use quantity::{Quantity, Refusal, Spec, Unit};
pub use reading::{Method, Reading, latest};
pub(crate) use repeated::{CONSISTENT, count, mean, spread};
pub use repeated::{Repeated, of_one_visit};
pub use shown::{LengthUnit, MassUnit, Units};
pub use taking::taking;
pub use typed::typed;

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    repeated::rules()
}

/// To the half millimetre a bolt is turned by.
pub(crate) fn half_mm(value: f64) -> f64 {
    (value * 2.0).round() / 2.0
}

/// Declares a struct whose fields are measured quantities, with access by [`Quantity`].
///
/// A field is a unit or an `Option` of one; `set` fills either, `get` answers `None` for an empty one.
macro_rules! measured {
    ($(#[$meta:meta])* pub struct $name:ident {
        $($(#[$field_meta:meta])* $field:ident: $type:ty = $quantity:ident,)*
    }) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, serde::Serialize, serde::Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(deny_unknown_fields)]
        pub struct $name {
            $($(#[$field_meta])* pub $field: $type,)*
        }

        impl $name {
            /// The quantities held here, in the order they are asked for.
            pub const QUANTITIES: &'static [$crate::measure::Quantity] =
                &[$($crate::measure::Quantity::$quantity,)*];

            /// The value of a quantity held here, in its own unit.
            pub fn get(&self, quantity: $crate::measure::Quantity) -> Option<f64> {
                match quantity {
                    $($crate::measure::Quantity::$quantity => $crate::measure::Slot::held(&self.$field),)*
                    _ => None,
                }
            }

            /// Sets a quantity held here; `false` if it is not held here.
            pub fn set(&mut self, quantity: $crate::measure::Quantity, value: f64) -> bool {
                match quantity {
                    $($crate::measure::Quantity::$quantity => {
                        $crate::measure::Slot::hold(&mut self.$field, value);
                        true
                    })*
                    _ => false,
                }
            }

            /// Takes a quantity out, where it need not be held.
            #[allow(dead_code)]
            pub(crate) fn clear(&mut self, quantity: $crate::measure::Quantity) {
                match quantity {
                    $($crate::measure::Quantity::$quantity => $crate::measure::Slot::clear(&mut self.$field),)*
                    _ => {}
                }
            }

            /// Everything here that is outside what is allowed, each with its JSON pointer below `at`.
            pub fn refusals(&self, at: &str) -> Vec<$crate::measure::Refusal> {
                Self::QUANTITIES
                    .iter()
                    .filter_map(|q| Some((q, self.get(*q)?)))
                    .filter(|(q, value)| !q.takes(*value))
                    .filter_map(|(q, value)| q.refuse(value, &format!("{at}/{}", q.key())))
                    .collect()
            }
        }
    };
}
pub(crate) use measured;

/// A value in a field of a [`measured!`] struct.
pub(crate) trait Slot {
    fn held(&self) -> Option<f64>;
    fn hold(&mut self, value: f64);
    /// Empties it, where it may be empty.
    fn clear(&mut self);
}

macro_rules! held {
    ($($unit:ident),*) => {$(
        impl Slot for crate::units::$unit {
            fn held(&self) -> Option<f64> {
                Some(self.0)
            }
            fn hold(&mut self, value: f64) {
                self.0 = value;
            }
            fn clear(&mut self) {}
        }
        impl Slot for Option<crate::units::$unit> {
            fn held(&self) -> Option<f64> {
                self.map(|v| v.0)
            }
            fn hold(&mut self, value: f64) {
                *self = Some(crate::units::$unit(value));
            }
            fn clear(&mut self) {
                *self = None;
            }
        }
    )*};
}
held!(Millimetres, Degrees, Kilograms, NewtonMetres, Size);
