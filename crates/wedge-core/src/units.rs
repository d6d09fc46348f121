//! Units as types, and the two sides of a body.

use serde::{Deserialize, Serialize};
use std::ops::{Add, Mul, Neg, Sub};

macro_rules! unit {
    ($(#[$meta:meta])* $name:ident) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(transparent)]
        pub struct $name(pub f64);

        impl Add for $name {
            type Output = Self;
            fn add(self, other: Self) -> Self {
                Self(self.0 + other.0)
            }
        }

        impl Sub for $name {
            type Output = Self;
            fn sub(self, other: Self) -> Self {
                Self(self.0 - other.0)
            }
        }

        impl Neg for $name {
            type Output = Self;
            fn neg(self) -> Self {
                Self(-self.0)
            }
        }

        impl Mul<f64> for $name {
            type Output = Self;
            fn mul(self, factor: f64) -> Self {
                Self(self.0 * factor)
            }
        }
    };
}

unit! {
    /// A length in millimetres.
    Millimetres
}
unit! {
    /// An angle in degrees.
    Degrees
}
unit! {
    /// A mass in kilograms.
    Kilograms
}
unit! {
    /// A torque in newton metres.
    NewtonMetres
}
unit! {
    /// A size as printed.
    Size
}

impl Degrees {
    /// The angle in radians.
    pub fn radians(self) -> f64 {
        self.0.to_radians()
    }

    /// Sine and cosine.
    pub fn sin_cos(self) -> (f64, f64) {
        self.radians().sin_cos()
    }

    /// Tangent.
    pub fn tan(self) -> f64 {
        self.radians().tan()
    }

    /// From radians.
    pub fn from_radians(radians: f64) -> Self {
        Self(radians.to_degrees())
    }
}

/// Where a crank stands: 0 at top dead centre, growing in the direction of travel, so 90 is level and forward and
/// 180 is bottom dead centre. The other crank stands at + 180.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct CrankAngle(pub f64);

impl CrankAngle {
    /// Top dead centre.
    pub const TOP: Self = Self(0.0);
    /// Level and forward.
    pub const FORWARD: Self = Self(90.0);
    /// Bottom dead centre.
    pub const BOTTOM: Self = Self(180.0);

    /// The crank in line with a seat tube of this angle: `90 + seat angle`.
    pub fn in_line_with(seat_angle: Degrees) -> Self {
        Self(90.0 + seat_angle.0)
    }
}

/// A side of the body or of the bike.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Side {
    /// The rider's left.
    Left,
    /// The rider's right, the drive side.
    Right,
}

impl Side {
    /// The other one.
    #[must_use]
    pub fn other(self) -> Self {
        match self {
            Self::Left => Self::Right,
            Self::Right => Self::Left,
        }
    }

    /// Which way is outward on `z`, which grows to the rider's right.
    pub fn outward(self) -> f64 {
        match self {
            Self::Left => -1.0,
            Self::Right => 1.0,
        }
    }

    /// The sides something is read on: both apart, or neither named where it has none.
    pub fn each(per_side: bool) -> &'static [Option<Self>] {
        if per_side {
            &[Some(Self::Left), Some(Self::Right)]
        } else {
            &[None]
        }
    }

    /// Both sides, left first.
    pub const BOTH: [Self; 2] = [Self::Left, Self::Right];

    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            Self::Left => "left",
            Self::Right => "right",
        }
    }
}

/// One value for each side.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Sides<T> {
    /// The rider's left.
    pub left: T,
    /// The rider's right.
    pub right: T,
}

impl<T> Sides<T> {
    /// The same value on both sides.
    pub fn both(value: T) -> Self
    where
        T: Clone,
    {
        Self {
            left: value.clone(),
            right: value,
        }
    }

    /// The value of one side.
    pub fn of(&self, side: Side) -> &T {
        match side {
            Side::Left => &self.left,
            Side::Right => &self.right,
        }
    }

    /// The value of one side, to change it.
    pub fn of_mut(&mut self, side: Side) -> &mut T {
        match side {
            Side::Left => &mut self.left,
            Side::Right => &mut self.right,
        }
    }

    /// Builds both sides from one function.
    pub fn from_fn(mut f: impl FnMut(Side) -> T) -> Self {
        Self {
            left: f(Side::Left),
            right: f(Side::Right),
        }
    }
}
