//! Lengths that differ between fitters, and the way between them.
//!
//! A conversion holds the sit reference point itself and needs companions: the seat-tube angle, the saddle's tilt
//! and length to the nose, the crank. There and back agrees within 0.05 mm.

use super::{Quantity, Refusal, Unit};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// From where to where, along which line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Convention {
    /// Saddle height: BB straight to the sit reference (house).
    SaddleHeightStraight,
    /// Saddle height: BB to saddle top along the seat tube's line.
    SaddleHeightSeatTube,
    /// Saddle height: BB to sit reference, vertical.
    SaddleHeightVertical,
    /// Saddle height: pedal axle at its farthest to saddle top, straight plus crank.
    SaddleHeightFromAxle,
    /// Setback: BB to sit reference, horizontal (house).
    SetbackSit,
    /// Setback: BB to saddle nose, horizontal.
    SetbackNose,
    /// Setback as the effective seat angle of the sit reference.
    SetbackSeatAngle,
    /// Drop: highest point of the saddle to the hood's hand point (house).
    DropHood,
    /// Drop: highest point of the saddle to the bar clamp centre.
    DropClamp,
    /// Drop: highest point of the saddle to the bar's top.
    DropBarTop,
}

impl Convention {
    /// Every convention, grouped by quantity, the house's first.
    pub const ALL: [Self; 10] = [
        Self::SaddleHeightStraight,
        Self::SaddleHeightSeatTube,
        Self::SaddleHeightVertical,
        Self::SaddleHeightFromAxle,
        Self::SetbackSit,
        Self::SetbackNose,
        Self::SetbackSeatAngle,
        Self::DropHood,
        Self::DropClamp,
        Self::DropBarTop,
    ];

    /// What it is a convention of.
    pub fn quantity(self) -> Quantity {
        match self {
            Self::SaddleHeightStraight
            | Self::SaddleHeightSeatTube
            | Self::SaddleHeightVertical
            | Self::SaddleHeightFromAxle => Quantity::SaddleHeight,
            Self::SetbackSit | Self::SetbackNose | Self::SetbackSeatAngle => Quantity::Setback,
            Self::DropHood | Self::DropClamp | Self::DropBarTop => Quantity::Drop,
        }
    }

    /// From where to where, for the fitter and the next mechanic.
    pub fn words(self) -> &'static str {
        match self {
            Self::SaddleHeightStraight => "BB straight to the sit reference",
            Self::SaddleHeightSeatTube => "BB to saddle top along the seat tube",
            Self::SaddleHeightVertical => "BB to the sit reference, vertical",
            Self::SaddleHeightFromAxle => "pedal axle at its farthest to saddle top",
            Self::SetbackSit => "BB to the sit reference, horizontal",
            Self::SetbackNose => "BB to the saddle nose, horizontal",
            Self::SetbackSeatAngle => "effective seat angle of the sit reference",
            Self::DropHood => "saddle top to the hood",
            Self::DropClamp => "saddle top to the bar clamp centre",
            Self::DropBarTop => "saddle top to the bar's top",
        }
    }

    /// The unit its values have: an effective seat angle is in degrees.
    pub fn unit(self) -> Unit {
        match self {
            Self::SetbackSeatAngle => Unit::Deg,
            _ => Unit::Mm,
        }
    }

    /// A word or two for a small label.
    pub fn short(self) -> &'static str {
        match self {
            Self::SaddleHeightStraight => "straight",
            Self::SaddleHeightSeatTube => "along seat tube",
            Self::SaddleHeightVertical => "vertical",
            Self::SaddleHeightFromAxle => "from axle",
            Self::SetbackSit => "to sit reference",
            Self::SetbackNose => "to nose",
            Self::SetbackSeatAngle => "seat angle",
            Self::DropHood => "to hood",
            Self::DropClamp => "to clamp",
            Self::DropBarTop => "to bar top",
        }
    }
}

/// The convention chosen for each quantity that has several.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Conventions {
    /// For saddle height.
    pub saddle_height: Convention,
    /// For setback.
    pub setback: Convention,
    /// For drop.
    pub drop: Convention,
}

impl Default for Conventions {
    /// The house's own.
    fn default() -> Self {
        Self {
            saddle_height: Convention::SaddleHeightStraight,
            setback: Convention::SetbackSit,
            drop: Convention::DropHood,
        }
    }
}

impl Conventions {
    /// The convention chosen for a quantity, if it has several.
    pub fn of(&self, quantity: Quantity) -> Option<Convention> {
        match quantity {
            Quantity::SaddleHeight => Some(self.saddle_height),
            Quantity::Setback => Some(self.setback),
            Quantity::Drop => Some(self.drop),
            _ => None,
        }
    }

    /// Each convention that stands under the wrong quantity, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            ("saddle_height", self.saddle_height, Quantity::SaddleHeight),
            ("setback", self.setback, Quantity::Setback),
            ("drop", self.drop, Quantity::Drop),
        ]
        .into_iter()
        .filter(|(_, convention, quantity)| convention.quantity() != *quantity)
        .map(|(key, convention, quantity)| {
            Refusal::new(
                format!("{at}/{key}"),
                format!(
                    "{} is not measured {}",
                    quantity.spec().label,
                    convention.words()
                ),
            )
        })
        .collect()
    }
}

/// What a conversion of saddle height or setback needs besides the sit reference.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Companions {
    /// The seat tube's actual angle.
    pub seat_angle: Degrees,
    /// Saddle tilt, front up positive.
    pub tilt: Degrees,
    /// Crank length.
    pub crank: Millimetres,
    /// Sit reference to nose, along the saddle.
    pub nose_to_sit: Millimetres,
}

impl Companions {
    /// Saddle height of a sit reference. `None` for a convention of something else.
    pub fn saddle_height(&self, convention: Convention, sit: Point) -> Option<f64> {
        Some(match convention {
            Convention::SaddleHeightStraight => sit.length(),
            Convention::SaddleHeightVertical => sit.y,
            Convention::SaddleHeightFromAxle => sit.length() + self.crank.0,
            Convention::SaddleHeightSeatTube => {
                (sit.y - sit.x * self.tilt.tan()) / self.along_tube()
            }
            _ => return None,
        })
    }

    /// Setback of a sit reference, mm behind the BB or degrees. `None` for a convention of something else.
    pub fn setback(&self, convention: Convention, sit: Point) -> Option<f64> {
        Some(match convention {
            Convention::SetbackSit => -sit.x,
            Convention::SetbackNose => -sit.x - self.nose_ahead(),
            Convention::SetbackSeatAngle => Degrees::from_radians(sit.y.atan2(-sit.x)).0,
            _ => return None,
        })
    }

    /// `sin β + cos β tan τ`: how much a saddle top at tilt τ rises a mm along a tube at β.
    fn along_tube(&self) -> f64 {
        let (sin, cos) = self.seat_angle.sin_cos();
        sin + cos * self.tilt.tan()
    }

    /// How far the nose is ahead of the sit reference, horizontally.
    fn nose_ahead(&self) -> f64 {
        self.nose_to_sit.0 * self.tilt.sin_cos().1
    }
}

/// The sit reference that has this saddle height and this setback, each in its convention.
///
/// `None` when no point has both (a setback longer than a straight height) or a convention belongs elsewhere.
pub fn sit_reference(
    height: (Convention, f64),
    setback: (Convention, f64),
    with: &Companions,
) -> Option<Point> {
    // The setback confines the point to a line: upright at x, or through the BB at the seat angle.
    let on_line: &dyn Fn(f64) -> Point = match setback {
        (Convention::SetbackSit, value) => &move |y| Point::new(-value, y),
        (Convention::SetbackNose, value) => {
            let x = -value - with.nose_ahead();
            &move |y| Point::new(x, y)
        }
        (Convention::SetbackSeatAngle, value) => {
            let forward = -1.0 / Degrees(value).tan();
            &move |y| Point::new(y * forward, y)
        }
        _ => return None,
    };
    // A fifth of a millimetre up at least: a saddle at the BB's own height is nobody's.
    let y = crate::plane::root(0.2, 2000.0, |y| {
        with.saddle_height(height.0, on_line(y))
            .map_or(f64::NAN, |h| h - height.1)
    })?;
    Some(on_line(y))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn level() -> Companions {
        Companions {
            seat_angle: Degrees(73.5),
            tilt: Degrees(0.0),
            crank: Millimetres(172.5),
            nose_to_sit: Millimetres(150.0),
        }
    }

    #[test]
    fn golden_saddle_at_three_four_five() {
        // Sit reference at (−300, 400): straight 500, vertical 400, from the axle 672.5, nose 150 ahead at
        // setback 150, seat angle atan(4/3) = 53.130°. Along a 60° tube with a level saddle: 400 / sin 60 = 461.880.
        let sit = Point::new(-300.0, 400.0);
        let with = Companions {
            seat_angle: Degrees(60.0),
            ..level()
        };
        let height = |c| with.saddle_height(c, sit).unwrap();
        let setback = |c| with.setback(c, sit).unwrap();
        assert!((height(Convention::SaddleHeightStraight) - 500.0).abs() < 1e-9);
        assert!((height(Convention::SaddleHeightVertical) - 400.0).abs() < 1e-9);
        assert!((height(Convention::SaddleHeightFromAxle) - 672.5).abs() < 1e-9);
        assert!((height(Convention::SaddleHeightSeatTube) - 461.880_215).abs() < 1e-6);
        assert!((setback(Convention::SetbackSit) - 300.0).abs() < 1e-9);
        assert!((setback(Convention::SetbackNose) - 150.0).abs() < 1e-9);
        assert!((setback(Convention::SetbackSeatAngle) - 53.130_102).abs() < 1e-6);
        assert_eq!(with.saddle_height(Convention::DropHood, sit), None);
    }

    #[test]
    fn golden_tilted_saddle_along_the_tube() {
        // A saddle nose-up 45° through (−300, 400): its top is y = 400 + (x + 300) = x + 700. The 45° tube
        // is y = −x. They meet where −x = x + 700, at (−350, 350): 494.975 along the tube.
        let with = Companions {
            seat_angle: Degrees(45.0),
            tilt: Degrees(45.0),
            ..level()
        };
        let height = with
            .saddle_height(Convention::SaddleHeightSeatTube, Point::new(-300.0, 400.0))
            .unwrap();
        assert!((height - 494.974_747).abs() < 1e-6);
    }

    #[test]
    fn a_setback_longer_than_the_height_has_no_point() {
        let point = sit_reference(
            (Convention::SaddleHeightStraight, 300.0),
            (Convention::SetbackSit, 310.0),
            &level(),
        );
        assert_eq!(point, None);
    }

    #[test]
    fn a_misplaced_convention_is_refused_where_it_stands() {
        let conventions = Conventions {
            drop: Convention::SetbackNose,
            ..Conventions::default()
        };
        assert_eq!(
            conventions.refusals("/conventions")[0].pointer,
            "/conventions/drop"
        );
    }

    proptest! {
        #[test]
        fn conventions_return(
            x in -350.0..50.0_f64, y in 400.0..900.0_f64, seat in 66.0..80.0_f64, tilt in -8.0..8.0_f64,
            height in 0..4_usize, setback in 4..7_usize,
        ) {
            let with = Companions { seat_angle: Degrees(seat), tilt: Degrees(tilt), ..level() };
            let sit = Point::new(x, y);
            let (height, setback) = (Convention::ALL[height], Convention::ALL[setback]);
            let back = sit_reference(
                (height, with.saddle_height(height, sit).unwrap()),
                (setback, with.setback(setback, sit).unwrap()),
                &with,
            );
            prop_assert!(back.is_some_and(|p| p.distance(sit) < 0.001), "{back:?} for {sit:?}");
        }
    }
}
