//! Points of the side view, and bracketed roots.

use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::ops::{Add, Mul, Sub};

/// A point (or an offset) of the side view in millimetres: `x` forward, `y` up, from the BB centre.
///
/// Written as `[x, y]`, rounded to a hundredth of a millimetre.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Point {
    /// Forward, mm.
    pub x: f64,
    /// Up, mm.
    pub y: f64,
}

impl Point {
    /// The point `(x, y)` in millimetres.
    pub const fn new(x: f64, y: f64) -> Self {
        Self { x, y }
    }

    /// The offset of `length` in the direction `angle` above horizontal forward.
    pub fn polar(length: Millimetres, angle: Degrees) -> Self {
        let (sin, cos) = angle.sin_cos();
        Self::new(length.0 * cos, length.0 * sin)
    }

    /// Turned about the origin, positive = front up.
    #[must_use]
    pub fn turned(self, angle: Degrees) -> Self {
        let (sin, cos) = angle.sin_cos();
        Self::new(self.x * cos - self.y * sin, self.x * sin + self.y * cos)
    }

    /// Distance from the origin. Millimetres never come near overflow, so this need not be `hypot`, which is slow.
    pub fn length(self) -> f64 {
        self.dot(self).sqrt()
    }

    /// Distance to another point.
    pub fn distance(self, other: Self) -> f64 {
        (other - self).length()
    }

    /// Direction from the origin, above horizontal forward.
    pub fn direction(self) -> Degrees {
        Degrees::from_radians(self.y.atan2(self.x))
    }

    /// Scalar product.
    pub fn dot(self, other: Self) -> f64 {
        self.x * other.x + self.y * other.y
    }

    /// This offset as so much along `a` and so much along `b`, which must not be parallel.
    pub fn split(self, a: Self, b: Self) -> (f64, f64) {
        let cross = |u: Self, v: Self| u.x * v.y - u.y * v.x;
        let area = cross(a, b);
        (cross(self, b) / area, cross(a, self) / area)
    }

    /// Least distance to the segment from `a` to `b`.
    pub fn distance_to_segment(self, a: Self, b: Self) -> f64 {
        let along = b - a;
        let t = ((self - a).dot(along) / along.dot(along)).clamp(0.0, 1.0);
        self.distance(a + along * t)
    }
}

impl Add for Point {
    type Output = Self;
    fn add(self, other: Self) -> Self {
        Self::new(self.x + other.x, self.y + other.y)
    }
}

impl Sub for Point {
    type Output = Self;
    fn sub(self, other: Self) -> Self {
        Self::new(self.x - other.x, self.y - other.y)
    }
}

impl Mul<f64> for Point {
    type Output = Self;
    fn mul(self, factor: f64) -> Self {
        Self::new(self.x * factor, self.y * factor)
    }
}

impl Serialize for Point {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let hundredth = |v: f64| (v * 100.0).round() / 100.0;
        [hundredth(self.x), hundredth(self.y)].serialize(serializer)
    }
}

impl<'de> Deserialize<'de> for Point {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        <[f64; 2]>::deserialize(deserializer).map(|[x, y]| Self { x, y })
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Point {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        use utoipa::openapi::schema::{ArrayBuilder, ArrayItems, ObjectBuilder, Type};
        let number = || ObjectBuilder::new().schema_type(Type::Number);
        ArrayBuilder::new()
            .prefix_items([number(), number()])
            .items(ArrayItems::False)
            .description(Some("`[x, y]` in mm from the BB: forward, up."))
            .into()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for Point {}

/// The angle at `corner` between the directions to `a` and to `b`, 0 to 180.
pub fn angle_at(corner: Point, a: Point, b: Point) -> Degrees {
    let (u, v) = (a - corner, b - corner);
    Degrees::from_radians(
        (u.dot(v) / (u.length() * v.length()))
            .clamp(-1.0, 1.0)
            .acos(),
    )
}

/// A root of `f` between `low` and `high`, where `f` has different signs, to about `1e-11` of the bracket.
/// `None` if the signs agree or a value is not a number.
///
/// False position in the Illinois variant (Dowell & Jarratt, 1971): an end that stays twice counts half, so both ends
/// close in. Every third step halves the bracket, so that no shape of `f` is slow.
pub fn root(mut low: f64, mut high: f64, f: impl Fn(f64) -> f64) -> Option<f64> {
    let (mut at_low, mut at_high) = (f(low), f(high));
    if at_low.is_nan() || at_high.is_nan() || at_low * at_high > 0.0 {
        return None;
    }
    let close = 1e-11 * (high - low).abs();
    for step in 0..120 {
        if (high - low).abs() <= close {
            break;
        }
        let chord = low - at_low * (high - low) / (at_high - at_low);
        let middle = if step % 3 == 2 || !chord.is_finite() {
            f64::midpoint(low, high)
        } else {
            chord
        };
        let here = f(middle);
        if here == 0.0 {
            return Some(middle);
        }
        if here * at_high < 0.0 {
            (low, at_low) = (high, at_high);
        } else {
            at_low /= 2.0;
        }
        (high, at_high) = (middle, here);
    }
    Some(high)
}

/// The root of `f` nearest to nothing: the bracket grows from there by `every`, first the way a rising `f` says, then the
/// other, as far as `far`, since far out `f` may have no value. `None` when there is none on the way.
pub(crate) fn nearest_root(far: f64, every: f64, f: impl Fn(f64) -> f64) -> Option<f64> {
    let here = f(0.0);
    let way = if here > 0.0 { every } else { -every };
    [way, -way].into_iter().find_map(|way| {
        let (mut from, mut at_from) = (0.0_f64, here);
        while from.abs() < far {
            let to = from + way;
            let at_to = f(to);
            if at_to.is_nan() {
                return None;
            }
            if at_from * at_to <= 0.0 {
                return root(from, to, &f);
            }
            (from, at_from) = (to, at_to);
        }
        None
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_right_angle_is_ninety_degrees() {
        let angle = angle_at(
            Point::new(1.0, 1.0),
            Point::new(5.0, 1.0),
            Point::new(1.0, 9.0),
        );
        assert!((angle.0 - 90.0).abs() < 1e-12);
    }

    #[test]
    fn front_up_turns_a_forward_point_upwards() {
        let turned = Point::new(10.0, 0.0).turned(Degrees(90.0));
        assert!(turned.distance(Point::new(0.0, 10.0)) < 1e-12);
    }

    #[test]
    fn a_root_needs_a_change_of_sign() {
        let found = root(0.0, 2.0, |x| x * x - 2.0).map(|x| x - 2.0_f64.sqrt());
        assert!(found.is_some_and(|error| error.abs() < 1e-10));
        assert_eq!(root(3.0, 4.0, |x| x * x - 2.0), None);
        // Flat on one side and steep on the other: what false position alone is slow at.
        let steep = root(0.0, 3.0, |x| x.powi(9) - 1e-3).unwrap();
        assert!((steep - 1e-3_f64.powf(1.0 / 9.0)).abs() < 1e-9, "{steep}");
        let (rising, falling) = (root(1.0, 2.0, |x| x - 1.25), root(1.0, 2.0, |x| 1.25 - x));
        assert_eq!(rising, falling);
        assert_eq!(root(0.0, 1.0, |_| f64::NAN), None);
    }

    #[test]
    fn the_nearest_root_is_the_one_this_side_of_where_there_is_no_value() {
        // Roots at −30 and 55; nothing beyond −45.
        let f = |x: f64| {
            if x < -45.0 {
                f64::NAN
            } else {
                (x + 30.0) * (55.0 - x)
            }
        };
        let found = nearest_root(160.0, 20.0, f).unwrap();
        assert!((found - 55.0).abs() < 1e-8, "rising the wrong way: {found}");
        let found = nearest_root(160.0, 20.0, |x| -f(x)).unwrap();
        assert!((found + 30.0).abs() < 1e-8, "{found}");
        assert_eq!(nearest_root(160.0, 20.0, |x| x * x + 1.0), None);
    }

    #[test]
    fn a_segment_is_met_at_its_foot_or_its_end() {
        let (a, b) = (Point::new(0.0, 0.0), Point::new(10.0, 0.0));
        assert!((Point::new(5.0, 3.0).distance_to_segment(a, b) - 3.0).abs() < 1e-12);
        assert!((Point::new(13.0, 4.0).distance_to_segment(a, b) - 5.0).abs() < 1e-12);
    }
}
