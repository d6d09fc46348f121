//! What can be measured: its name, unit, limits and steps, and the conventions of the lengths fitters take
//! differently.

mod convention;
mod quantity;
mod reading;
mod repeated;
mod shown;
mod taking;
mod typed;

pub use convention::{
    Along, Companions, Convention, Conventions, From, HandLine, SitReference, Spot, sit_reference,
};
pub(crate) use quantity::within;
pub use quantity::written;
pub use quantity::{Quantity, Refusal, Spec, Unit};
pub use reading::{Method, Reading};
pub use repeated::Repeated;
pub use shown::{LengthUnit, MassUnit, Units};
pub use taking::taking;
pub use typed::typed;

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    repeated::rules()
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
                    $($crate::measure::Quantity::$quantity => $crate::measure::Held::held(&self.$field),)*
                    _ => None,
                }
            }

            /// Sets a quantity held here; `false` if it is not held here.
            pub fn set(&mut self, quantity: $crate::measure::Quantity, value: f64) -> bool {
                match quantity {
                    $($crate::measure::Quantity::$quantity => {
                        $crate::measure::Held::hold(&mut self.$field, value);
                        true
                    })*
                    _ => false,
                }
            }

            /// Takes a quantity out, where it need not be held.
            #[allow(dead_code)]
            pub(crate) fn clear(&mut self, quantity: $crate::measure::Quantity) {
                match quantity {
                    $($crate::measure::Quantity::$quantity => $crate::measure::Held::clear(&mut self.$field),)*
                    _ => {}
                }
            }

            /// Everything here that is outside what is allowed, each with its JSON pointer below `at`.
            pub fn refusals(&self, at: &str) -> Vec<$crate::measure::Refusal> {
                Self::QUANTITIES
                    .iter()
                    .filter_map(|q| q.refuse(self.get(*q)?, &format!("{at}/{}", q.key())))
                    .collect()
            }
        }
    };
}
pub(crate) use measured;

/// A value in a field of a [`measured!`] struct.
pub(crate) trait Held {
    fn held(&self) -> Option<f64>;
    fn hold(&mut self, value: f64);
    /// Empties it, where it may be empty.
    fn clear(&mut self);
}

macro_rules! held {
    ($($unit:ident),*) => {$(
        impl Held for crate::units::$unit {
            fn held(&self) -> Option<f64> {
                Some(self.0)
            }
            fn hold(&mut self, value: f64) {
                self.0 = value;
            }
            fn clear(&mut self) {}
        }
        impl Held for Option<crate::units::$unit> {
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
held!(Millimetres, Degrees, Kilograms, Size);
