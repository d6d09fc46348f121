//! Lengths that differ between fitters, and the way between them.
//!
//! A conversion holds the sit reference point itself and needs companions: the seat-tube angle, the saddle's tilt and
//! lengths, the crank. There and back agrees within 0.05 mm. A convention of the front end is a [`HandLine`]: from
//! where, to which spot, along which line; the bike's points answer it.

use super::{Quantity, Refusal, Unit};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// Which point of the saddle's centre line stands for where the rider sits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SitReference {
    /// Where the saddle is 80 mm wide (house, by calliper).
    #[default]
    EightyWide,
    /// The nose.
    Nose,
    /// The middle of the saddle's length.
    Middle,
    /// The fitter's own mark, `nose_to_mark_mm` behind the nose.
    Mark,
}

impl SitReference {
    /// Every choice.
    pub const ALL: [Self; 4] = [Self::EightyWide, Self::Nose, Self::Middle, Self::Mark];

    /// Where it is, for the fitter and the next mechanic.
    pub fn words(self) -> &'static str {
        match self {
            Self::EightyWide => "where the saddle is 80 mm wide",
            Self::Nose => "the saddle's nose",
            Self::Middle => "the middle of the saddle's length",
            Self::Mark => "the fitter's own mark on the saddle",
        }
    }
}

/// Where a length of the front end starts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum From {
    /// The BB centre.
    Bb,
    /// The sit reference.
    Sit,
    /// The saddle's nose.
    Nose,
    /// The saddle's highest point.
    Top,
}

/// Where a length of the front end ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Spot {
    /// The bar clamp's centre.
    Clamp,
    /// The bar's top at the clamp.
    BarTop,
    /// The hand point on the hoods.
    Hood,
    /// The middle between the grips, in side view.
    Grip,
    /// The pads' rear edge.
    PadRear,
    /// The pads' centre.
    PadCentre,
}

/// Along which line a length of the front end is taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Along {
    /// Horizontally, forward positive.
    Level,
    /// Vertically, up positive.
    Up,
    /// Vertically, down positive.
    Down,
    /// The straight line.
    Straight,
}

/// A length of the front end: from where to where, along which line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct HandLine {
    /// Where it starts.
    pub from: From,
    /// Where it ends.
    pub to: Spot,
    /// Along which line.
    pub along: Along,
}

macro_rules! conventions {
    ($($variant:ident $key:tt $quantity:ident $unit:ident $words:literal $short:literal
        $(($from:ident $to:ident $along:ident))?;)*) => {
        /// From where to where, along which line.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Convention {
            $(#[doc = $words] #[serde(rename = $key)] $variant,)*
        }

        impl Convention {
            /// Every convention, grouped by quantity, the house's first.
            pub const ALL: &'static [Self] = &[$(Self::$variant,)*];

            /// What it is a convention of.
            pub fn quantity(self) -> Quantity {
                match self {
                    $(Self::$variant => Quantity::$quantity,)*
                }
            }

            /// The unit its values have: an effective seat angle is in degrees, a share in hundredths.
            pub fn unit(self) -> Unit {
                match self {
                    $(Self::$variant => Unit::$unit,)*
                }
            }

            /// From where to where, for the fitter and the next mechanic.
            pub fn words(self) -> &'static str {
                match self {
                    $(Self::$variant => $words,)*
                }
            }

            /// A word or two for a small label.
            pub fn short(self) -> &'static str {
                match self {
                    $(Self::$variant => $short,)*
                }
            }

            /// Its line, for lengths of the front end.
            pub fn hand_line(self) -> Option<HandLine> {
                match self {
                    $($(Self::$variant => Some(HandLine {
                        from: From::$from,
                        to: Spot::$to,
                        along: Along::$along,
                    }),)?)*
                    _ => None,
                }
            }

            /// The name it has in JSON.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => $key,)*
                }
            }
        }
    };
}

conventions! {
    SaddleHeightStraight "saddle_height_straight" SaddleHeight Mm "BB straight to the sit reference" "straight";
    SaddleHeightSeatTube "saddle_height_seat_tube" SaddleHeight Mm "BB to saddle top along the seat tube" "along seat tube";
    SaddleHeightVertical "saddle_height_vertical" SaddleHeight Mm "BB to the sit reference, vertical" "vertical";
    SaddleHeightFromAxle "saddle_height_from_axle" SaddleHeight Mm "pedal axle at its farthest to saddle top" "from axle";
    SetbackSit "setback_sit" Setback Mm "BB to the sit reference, horizontal" "to sit reference";
    SetbackNose "setback_nose" Setback Mm "BB to the saddle nose, horizontal" "to nose";
    SetbackSeatAngle "setback_seat_angle" Setback Deg "effective seat angle of the sit reference" "seat angle";
    DropHood "drop_hood" Drop Mm "saddle top to the hood" "to hood" (Top Hood Down);
    DropGrip "drop_grip" Drop Mm "saddle top to the grip" "to grip" (Top Grip Down);
    DropPad "drop_pad" Drop Mm "saddle top to the pad's centre" "to pad" (Top PadCentre Down);
    DropClamp "drop_clamp" Drop Mm "saddle top to the bar clamp centre" "to clamp" (Top Clamp Down);
    DropBarTop "drop_bar_top" Drop Mm "saddle top to the bar's top" "to bar top" (Top BarTop Down);
    DropShare "drop_share" Drop Percent "drop to the hands as a share of straight saddle height" "share of height";
    BbToHood "bb_to_hood" BbToHand Mm "BB to hood, horizontal" "BB to hood" (Bb Hood Level);
    BbToGrip "bb_to_grip" BbToHand Mm "BB to grip, horizontal" "BB to grip" (Bb Grip Level);
    BbToPadRear "bb_to_pad_rear" BbToHand Mm "BB to the pad's rear edge, horizontal" "BB to pad's rear" (Bb PadRear Level);
    BbToPad "bb_to_pad" BbToHand Mm "BB to the pad's centre, horizontal" "BB to pad" (Bb PadCentre Level);
    BbToClamp "bb_to_clamp" BbToHand Mm "BB to the bar clamp centre, horizontal" "BB to clamp" (Bb Clamp Level);
    BbToHoodUp "bb_to_hood_up" BbToHandUp Mm "BB to hood, vertical" "BB up to hood" (Bb Hood Up);
    BbToGripUp "bb_to_grip_up" BbToHandUp Mm "BB to grip, vertical" "BB up to grip" (Bb Grip Up);
    BbToPadUp "bb_to_pad_up" BbToHandUp Mm "BB to the pad's centre, vertical" "BB up to pad" (Bb PadCentre Up);
    BbToPadRearUp "bb_to_pad_rear_up" BbToHandUp Mm "BB to the pad's rear edge, vertical" "BB up to pad's rear" (Bb PadRear Up);
    BbToClampUp "bb_to_clamp_up" BbToHandUp Mm "BB to the bar clamp centre, vertical" "BB up to clamp" (Bb Clamp Up);
    SitToHood "sit_to_hood" SaddleToHand Mm "sit reference to hood, horizontal" "sit to hood" (Sit Hood Level);
    SitToGrip "sit_to_grip" SaddleToHand Mm "sit reference to grip, horizontal" "sit to grip" (Sit Grip Level);
    SitToPad "sit_to_pad" SaddleToHand Mm "sit reference to the pad's centre, horizontal" "sit to pad" (Sit PadCentre Level);
    SitToPadRear "sit_to_pad_rear" SaddleToHand Mm "sit reference to the pad's rear edge, horizontal" "sit to pad's rear" (Sit PadRear Level);
    SitToClamp "sit_to_clamp" SaddleToHand Mm "sit reference to the bar clamp centre, horizontal" "sit to clamp" (Sit Clamp Level);
    SitToHoodStraight "sit_to_hood_straight" SaddleToHand Mm "sit reference straight to hood" "sit to hood, straight" (Sit Hood Straight);
    SitToGripStraight "sit_to_grip_straight" SaddleToHand Mm "sit reference straight to grip" "sit to grip, straight" (Sit Grip Straight);
    SitToPadStraight "sit_to_pad_straight" SaddleToHand Mm "sit reference straight to the pad's centre" "sit to pad, straight" (Sit PadCentre Straight);
    SitToPadRearStraight "sit_to_pad_rear_straight" SaddleToHand Mm "sit reference straight to the pad's rear edge" "sit to pad's rear, straight" (Sit PadRear Straight);
    SitToClampStraight "sit_to_clamp_straight" SaddleToHand Mm "sit reference straight to the bar clamp centre" "sit to clamp, straight" (Sit Clamp Straight);
    NoseToHood "nose_to_hood" SaddleToHand Mm "saddle nose to hood, horizontal" "nose to hood" (Nose Hood Level);
    NoseToGrip "nose_to_grip" SaddleToHand Mm "saddle nose to grip, horizontal" "nose to grip" (Nose Grip Level);
    NoseToPad "nose_to_pad" SaddleToHand Mm "saddle nose to the pad's centre, horizontal" "nose to pad" (Nose PadCentre Level);
    NoseToPadRear "nose_to_pad_rear" SaddleToHand Mm "saddle nose to the pad's rear edge, horizontal" "nose to pad's rear" (Nose PadRear Level);
    NoseToClamp "nose_to_clamp" SaddleToHand Mm "saddle nose to the bar clamp centre, horizontal" "nose to clamp" (Nose Clamp Level);
    NoseToHoodStraight "nose_to_hood_straight" SaddleToHand Mm "saddle nose straight to hood" "nose to hood, straight" (Nose Hood Straight);
    NoseToGripStraight "nose_to_grip_straight" SaddleToHand Mm "saddle nose straight to grip" "nose to grip, straight" (Nose Grip Straight);
    NoseToPadStraight "nose_to_pad_straight" SaddleToHand Mm "saddle nose straight to the pad's centre" "nose to pad, straight" (Nose PadCentre Straight);
    NoseToPadRearStraight "nose_to_pad_rear_straight" SaddleToHand Mm "saddle nose straight to the pad's rear edge" "nose to pad's rear, straight" (Nose PadRear Straight);
    NoseToClampStraight "nose_to_clamp_straight" SaddleToHand Mm "saddle nose straight to the bar clamp centre" "nose to clamp, straight" (Nose Clamp Straight);
    GripLength "grip_length" GripLength Mm "BB straight to the midpoint between the grips, in side view" "BB to grips, straight" (Bb Grip Straight);
    BarRollReach "bar_roll_reach" BarRoll Deg "the bar's reach to the horizontal" "bar's reach";
    BarRollDrops "bar_roll_drops" BarRoll Deg "lower part of the drops to the horizontal" "drops to level";
    BarRollEnds "bar_roll_ends" BarRoll Deg "upright ends of the drops to the plumb line" "ends to plumb";
    BarRollRamp "bar_roll_ramp" BarRoll Deg "the ramp to the horizontal" "ramp";
}

impl Convention {
    /// The key its value has in JSON, with the unit in it.
    pub fn key(self) -> String {
        let unit = match self.unit() {
            Unit::Deg => "deg",
            Unit::Percent => "percent",
            _ => "mm",
        };
        format!("{}_{unit}", self.name())
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
    /// For drop. On a bar without this spot, the bar's own.
    pub drop: Convention,
    /// For the hand ahead of the BB. On a bar without this spot, the bar's own.
    #[serde(default = "bb_to_hand")]
    pub bb_to_hand: Convention,
    /// For the hand ahead of the saddle. On a bar without this spot, the bar's own.
    #[serde(default = "saddle_to_hand")]
    pub saddle_to_hand: Convention,
    /// For bar roll.
    #[serde(default = "bar_roll")]
    pub bar_roll: Convention,
    /// Which point of the saddle "the sit reference" is in these.
    #[serde(default)]
    pub sit_reference: SitReference,
}

fn bb_to_hand() -> Convention {
    Convention::BbToHood
}

fn saddle_to_hand() -> Convention {
    Convention::SitToHood
}

fn bar_roll() -> Convention {
    Convention::BarRollReach
}

impl Default for Conventions {
    /// The house's own, for a drop bar.
    fn default() -> Self {
        Self {
            saddle_height: Convention::SaddleHeightStraight,
            setback: Convention::SetbackSit,
            drop: Convention::DropHood,
            bb_to_hand: bb_to_hand(),
            saddle_to_hand: saddle_to_hand(),
            bar_roll: bar_roll(),
            sit_reference: SitReference::EightyWide,
        }
    }
}

impl Conventions {
    /// The quantities that have a choice, with the key it has here.
    pub const CHOICES: [(&'static str, Quantity); 6] = [
        ("saddle_height", Quantity::SaddleHeight),
        ("setback", Quantity::Setback),
        ("drop", Quantity::Drop),
        ("bb_to_hand", Quantity::BbToHand),
        ("saddle_to_hand", Quantity::SaddleToHand),
        ("bar_roll", Quantity::BarRoll),
    ];

    /// The convention chosen for a quantity, if it has several.
    pub fn of(&self, quantity: Quantity) -> Option<Convention> {
        match quantity {
            Quantity::SaddleHeight => Some(self.saddle_height),
            Quantity::Setback => Some(self.setback),
            Quantity::Drop => Some(self.drop),
            Quantity::BbToHand => Some(self.bb_to_hand),
            Quantity::SaddleToHand => Some(self.saddle_to_hand),
            Quantity::BarRoll => Some(self.bar_roll),
            Quantity::GripLength => Some(Convention::GripLength),
            _ => None,
        }
    }

    /// Each convention that stands under the wrong quantity, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        Self::CHOICES
            .into_iter()
            .filter_map(|(key, quantity)| {
                let convention = self.of(quantity)?;
                (convention.quantity() != quantity).then(|| {
                    Refusal::new(
                        format!("{at}/{key}"),
                        format!(
                            "{} is not measured {}",
                            quantity.spec().label,
                            convention.words()
                        ),
                    )
                })
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
    /// Crank length; the right one where the two differ.
    pub crank: Millimetres,
    /// Where the saddle is 80 mm wide to its nose, along the saddle.
    pub nose_to_sit: Millimetres,
    /// Nose to tail.
    pub saddle_length: Millimetres,
    /// Nose to the fitter's own mark, when there is one.
    pub nose_to_mark: Option<Millimetres>,
    /// Which point the lengths go to.
    pub reference: SitReference,
}

impl Companions {
    /// The point the lengths go to, for a saddle whose 80 mm width stands at `sit`.
    pub fn reference_point(&self, sit: Point) -> Point {
        sit + self.axis() * self.reference_ahead()
    }

    /// Saddle height of a saddle that stands at `sit`. `None` for a convention of something else.
    pub fn saddle_height(&self, convention: Convention, sit: Point) -> Option<f64> {
        let to = self.reference_point(sit);
        Some(match convention {
            Convention::SaddleHeightStraight => to.length(),
            Convention::SaddleHeightVertical => to.y,
            Convention::SaddleHeightFromAxle => to.length() + self.crank.0,
            Convention::SaddleHeightSeatTube => {
                (sit.y - sit.x * self.tilt.tan()) / self.along_tube()
            }
            _ => return None,
        })
    }

    /// A height or setback of the saddle, whichever the convention is.
    pub fn of_the_saddle(&self, convention: Convention, sit: Point) -> Option<f64> {
        (self.saddle_height(convention, sit)).or_else(|| self.setback(convention, sit))
    }

    /// Setback of a saddle that stands at `sit`, mm behind the BB or degrees. `None` for a convention of something
    /// else.
    pub fn setback(&self, convention: Convention, sit: Point) -> Option<f64> {
        let to = self.reference_point(sit);
        Some(match convention {
            Convention::SetbackSit => -to.x,
            Convention::SetbackNose => -(sit + self.axis() * self.nose_to_sit.0).x,
            Convention::SetbackSeatAngle => Degrees::from_radians(to.y.atan2(-to.x)).0,
            _ => return None,
        })
    }

    /// Unit vector forward along the saddle.
    fn axis(&self) -> Point {
        Point::polar(Millimetres(1.0), self.tilt)
    }

    /// How far ahead of the 80 mm width the reference lies, along the saddle.
    fn reference_ahead(&self) -> f64 {
        let behind_nose = match self.reference {
            SitReference::EightyWide => self.nose_to_sit,
            SitReference::Nose => Millimetres(0.0),
            SitReference::Middle => self.saddle_length * 0.5,
            SitReference::Mark => self.nose_to_mark.unwrap_or(self.nose_to_sit),
        };
        (self.nose_to_sit - behind_nose).0
    }

    /// `sin β + cos β tan τ`: how much a saddle top at tilt τ rises a mm along a tube at β.
    fn along_tube(&self) -> f64 {
        let (sin, cos) = self.seat_angle.sin_cos();
        sin + cos * self.tilt.tan()
    }
}

/// Where a saddle with this height and this setback stands, each in its convention and with its companions (the two
/// may go to different points of the saddle): its point of 80 mm width.
///
/// `None` when no place has both (a setback longer than a straight height) or a convention belongs elsewhere.
pub fn sit_reference(
    height: (Convention, f64, &Companions),
    setback: (Convention, f64, &Companions),
) -> Option<Point> {
    let with = setback.2;
    let ahead = with.axis() * with.reference_ahead();
    // The setback confines the place to a line: upright at x, or along the seat angle.
    let on_line: &dyn Fn(f64) -> Point = match (setback.0, setback.1) {
        (Convention::SetbackSit, value) => &move |y| Point::new(-value - ahead.x, y),
        (Convention::SetbackNose, value) => {
            let x = -value - with.axis().x * with.nose_to_sit.0;
            &move |y| Point::new(x, y)
        }
        (Convention::SetbackSeatAngle, value) => {
            let forward = -1.0 / Degrees(value).tan();
            &move |y| Point::new(y * forward, y) - ahead
        }
        _ => return None,
    };
    // A fifth of a millimetre up at least: a saddle at the BB's own height is nobody's.
    let y = crate::plane::root(0.2, 2000.0, |y| {
        height
            .2
            .saddle_height(height.0, on_line(y))
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
            saddle_length: Millimetres(270.0),
            nose_to_mark: Some(Millimetres(120.0)),
            reference: SitReference::EightyWide,
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
    fn golden_sit_references_along_a_level_saddle() {
        // 80 mm wide at (−300, 400), 150 behind the nose; the saddle is 270 long and the mark 120 behind the nose.
        // Nose: x = −150. Middle: 150 − 135 = 15 ahead, x = −285. Mark: 30 ahead, x = −270.
        let sit = Point::new(-300.0, 400.0);
        for (reference, setback) in [
            (SitReference::EightyWide, 300.0),
            (SitReference::Nose, 150.0),
            (SitReference::Middle, 285.0),
            (SitReference::Mark, 270.0),
        ] {
            let with = Companions {
                reference,
                ..level()
            };
            let found = with.setback(Convention::SetbackSit, sit).unwrap();
            assert!((found - setback).abs() < 1e-9, "{reference:?}");
            let straight = with
                .saddle_height(Convention::SaddleHeightStraight, sit)
                .unwrap();
            assert!(
                (straight - setback.hypot(400.0)).abs() < 1e-9,
                "{reference:?}"
            );
        }
    }

    #[test]
    fn every_convention_has_a_quantity_a_key_with_its_unit_and_one_name() {
        let mut keys: Vec<String> = Convention::ALL.iter().map(|c| c.key()).collect();
        for convention in Convention::ALL {
            let json = serde_json::to_string(convention).unwrap();
            assert_eq!(json, format!("\"{}\"", convention.name()));
        }
        keys.sort();
        keys.dedup();
        assert_eq!(keys.len(), Convention::ALL.len());
    }

    #[test]
    fn a_setback_longer_than_the_height_has_no_point() {
        let point = sit_reference(
            (Convention::SaddleHeightStraight, 300.0, &level()),
            (Convention::SetbackSit, 310.0, &level()),
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
            height in 0..4_usize, setback in 4..7_usize, reference in 0..4_usize,
        ) {
            let reference = SitReference::ALL[reference];
            let with = Companions { seat_angle: Degrees(seat), tilt: Degrees(tilt), reference, ..level() };
            let sit = Point::new(x, y);
            let (height, setback) = (Convention::ALL[height], Convention::ALL[setback]);
            let back = sit_reference(
                (height, with.saddle_height(height, sit).unwrap(), &with),
                (setback, with.setback(setback, sit).unwrap(), &with),
            );
            prop_assert!(back.is_some_and(|p| p.distance(sit) < 0.001), "{back:?} for {sit:?}");
        }
    }
}
