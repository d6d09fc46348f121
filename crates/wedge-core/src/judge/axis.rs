//! What is believed: the axes of a position, which are the rider's and not the bolts', and what has no axis.
//!
//! An axis is a line of 121 cells around the bike as found (place 0). Height is the leg's job; reach and bars are where the
//! hands are from the saddle. So right places stay when a bolt is turned; only where the bike stands moves.

use super::Fault;
use crate::measure::Unit;
use crate::units::Side;
use crate::words::words;

words! {
    /// An axis of a position. Left and right are axes of their own.
    pub enum Axis {
        Height "height" "Saddle height",
        Setback "setback" "Setback",
        Tilt "tilt" "Saddle tilt",
        Reach "reach" "Reach",
        Bars "bars" "Height of the bars",
        BarWidth "bar_width" "Bar width",
        Levers "levers" "Levers",
        CleatL "cleat_l" "Left cleat",
        CleatR "cleat_r" "Right cleat",
        TurnL "turn_l" "Left heel",
        TurnR "turn_r" "Right heel",
        StanceL "stance_l" "Left stance",
        StanceR "stance_r" "Right stance",
        Crank "crank" "Crank",
        SaddleWidth "saddle_width" "Saddle width",
    }
}

words! {
    /// A fault without an axis, of one side where there are two.
    pub enum Hidden {
        DipL "dip_l" "The left hip dips",
        DipR "dip_r" "The right hip dips",
        Twist "twist" "Sits twisted",
        Nose "nose" "Riding on the nose",
        Weak "weak" "Trunk too weak for it",
        Stiff "stiff" "Stiff hips or hamstrings",
        Load "load" "Load that rose suddenly",
        Shoe "shoe" "Tight shoe",
        NoRelief "no_relief" "Saddle without relief",
        ShortL "short_l" "A shorter left leg",
        ShortR "short_r" "A shorter right leg",
        ArchL "arch_l" "A fallen left arch",
        ArchR "arch_r" "A fallen right arch",
    }
}

/// Cells of an axis.
pub(super) const CELLS: usize = 121;
const MIDDLE: f64 = 60.0;

/// What is known of an axis before any rider. All house, in millimetres or degrees.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct AxisSpec {
    /// What standing too far in + and in − is called.
    pub words: (&'static str, &'static str),
    /// Whether it is in millimetres; else degrees.
    pub is_mm: bool,
    /// Width of a cell.
    pub cell: f64,
    /// Half-width of a rider's window.
    pub half: f64,
    /// How riders come: mean,
    pub lean: f64,
    /// and standard deviation.
    pub sd: f64,
    /// One safe step.
    pub step: f64,
    /// Never more at once.
    pub most: Option<f64>,
    /// What the bolt can be set to.
    pub round: f64,
    /// From here on it is gross.
    pub gross: Option<f64>,
    /// How much a finding differs from day to day.
    pub day: f64,
    /// A felt change, as a share of the rider's smallest.
    pub felt: f64,
}

/// Writes the axes down, one a line: words, unit, cell, half-width, lean and sd, step, what it is set to, day, felt, and what
/// is never exceeded at once or gross.
macro_rules! axes {
    ($($($axis:ident)|+ $plus:literal / $minus:literal $unit:ident $cell:literal half $half:literal
        come $lean:literal, $sd:literal step $step:literal set $round:literal day $day:literal felt $felt:literal
        $(most $most:literal)? $(gross $gross:literal)?;)*) => {
        impl Axis {
            /// What is known of it.
            pub const fn spec(self) -> AxisSpec {
                const NONE: Option<f64> = None;
                match self {
                    $($(Self::$axis)|+ => AxisSpec {
                        words: ($plus, $minus),
                        is_mm: matches!(Unit::$unit, Unit::Mm),
                        cell: $cell,
                        half: $half,
                        lean: $lean,
                        sd: $sd,
                        step: $step,
                        most: axes!(@some NONE $($most)?),
                        round: $round,
                        gross: axes!(@some NONE $($gross)?),
                        day: $day,
                        felt: $felt,
                    },)*
                }
            }
        }
    };
    (@some $none:ident) => { $none };
    (@some $none:ident $value:literal) => { Some($value) };
}

axes! {
    Height "high" / "low" Mm 1.0 half 4.0 come -2.0, 12.0 step 5.0 set 1.0 day 2.0 felt 1.0 gross 25.0;
    Setback "back" / "forward" Mm 1.0 half 7.0 come 0.0, 12.0 step 5.0 set 1.0 day 3.0 felt 1.2 gross 40.0;
    Tilt "up" / "down" Deg 0.25 half 1.0 come 0.0, 1.3 step 2.0 set 0.5 day 0.5 felt 0.3;
    Reach "far" / "close" Mm 2.0 half 10.0 come -4.0, 22.0 step 10.0 set 5.0 day 3.0 felt 1.5 gross 50.0;
    Bars "high" / "low" Mm 2.0 half 10.0 come 0.0, 28.0 step 10.0 set 5.0 day 4.0 felt 1.5 gross 50.0;
    BarWidth "wide" / "narrow" Mm 2.0 half 10.0 come -4.0, 10.0 step 20.0 set 20.0 day 4.0 felt 2.0;
    Levers "high" / "low" Deg 1.0 half 4.0 come 0.0, 4.0 step 4.0 set 2.0 day 2.0 felt 0.8;
    CleatL | CleatR "back" / "forward" Mm 0.5 half 3.0 come 1.0, 3.5 step 4.0 set 1.0 day 1.5 felt 0.8 most 5.0;
    TurnL | TurnR "out" / "in" Deg 0.25 half 1.5 come 0.0, 1.2 step 1.0 set 1.0 day 0.5 felt 0.2 most 2.0;
    StanceL | StanceR "wide" / "narrow" Mm 0.5 half 3.0 come 0.0, 2.2 step 2.0 set 1.0 day 1.0 felt 0.6 most 4.0;
    Crank "long" / "short" Mm 0.5 half 2.5 come -0.5, 3.5 step 5.0 set 2.5 day 1.0 felt 0.6 most 5.0;
    SaddleWidth "wide" / "narrow" Mm 1.0 half 6.0 come -2.0, 6.0 step 12.0 set 4.0 day 3.0 felt 2.0;
}

impl Axis {
    /// The place of a cell.
    pub(super) fn at(self, cell: usize) -> f64 {
        #[allow(clippy::cast_precision_loss, reason = "a cell is one of 121")]
        let cell = cell as f64;
        (cell - MIDDLE) * self.spec().cell
    }

    /// Every place.
    pub fn grid(self) -> Vec<f64> {
        (0..CELLS).map(|cell| self.at(cell)).collect()
    }
}

/// What a belief is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum About {
    /// Where the right place on an axis lies.
    Place(Axis),
    /// Whether a hidden fault is there.
    There(Hidden),
}

impl About {
    pub(super) fn all() -> impl Iterator<Item = Self> {
        let axes = Axis::ALL.iter().map(|axis| Self::Place(*axis));
        axes.chain(Hidden::ALL.iter().map(|hidden| Self::There(*hidden)))
    }

    pub(super) fn index(self) -> usize {
        match self {
            Self::Place(axis) => axis as usize,
            Self::There(hidden) => Axis::ALL.len() + hidden as usize,
        }
    }

    /// How many values it has.
    pub(super) fn cells(self) -> usize {
        match self {
            Self::Place(_) => CELLS,
            Self::There(_) => 2,
        }
    }
}

/// A fault on its side: an axis too far one way, or what has none.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Suspect {
    /// What it is about.
    pub about: About,
    /// Too far in + (1) or − (−1); 0 of what has no axis.
    pub way: i8,
}

impl Suspect {
    pub(super) const fn place(axis: Axis, way: i8) -> Self {
        Self {
            about: About::Place(axis),
            way,
        }
    }

    const fn there(hidden: Hidden) -> Self {
        Self {
            about: About::There(hidden),
            way: 0,
        }
    }

    /// `height:high`, `dip_r`.
    pub fn key(self) -> String {
        match self.about {
            About::Place(axis) => {
                let (plus, minus) = axis.spec().words;
                format!("{}:{}", axis.key(), if self.way > 0 { plus } else { minus })
            }
            About::There(hidden) => hidden.key().to_owned(),
        }
    }

    /// Every one there is.
    pub(super) fn all() -> impl Iterator<Item = Self> {
        About::all().flat_map(|about| match about {
            About::Place(axis) => vec![Self::place(axis, 1), Self::place(axis, -1)],
            About::There(hidden) => vec![Self::there(hidden)],
        })
    }
}

impl Fault {
    /// The fault on the sides that speak: of both where no side is named. `across`: a hip that dips is the other side's.
    pub(super) fn suspects(self, side: Option<Side>, across: bool) -> Vec<Suspect> {
        use Hidden as H;
        let sides = side.map_or_else(|| Side::BOTH.to_vec(), |side| vec![side]);
        let of = |left: Suspect, right: Suspect| -> Vec<Suspect> {
            let pick = |side: &Side| if *side == Side::Left { left } else { right };
            sides.iter().map(pick).collect()
        };
        let axes = |left, right, way| of(Suspect::place(left, way), Suspect::place(right, way));
        let one = |axis, way| vec![Suspect::place(axis, way)];
        let there = |hidden| vec![Suspect::there(hidden)];
        match self {
            Self::HeightHigh => one(Axis::Height, 1),
            Self::HeightLow => one(Axis::Height, -1),
            Self::SetbackBack => one(Axis::Setback, 1),
            Self::SetbackForward => one(Axis::Setback, -1),
            Self::TiltUp => one(Axis::Tilt, 1),
            Self::TiltDown => one(Axis::Tilt, -1),
            Self::ReachFar => one(Axis::Reach, 1),
            Self::ReachClose => one(Axis::Reach, -1),
            Self::BarsHigh => one(Axis::Bars, 1),
            Self::BarsLow => one(Axis::Bars, -1),
            Self::BarWidthWide => one(Axis::BarWidth, 1),
            Self::BarWidthNarrow => one(Axis::BarWidth, -1),
            Self::LeversHigh => one(Axis::Levers, 1),
            Self::LeversLow => one(Axis::Levers, -1),
            Self::CleatBack => axes(Axis::CleatL, Axis::CleatR, 1),
            Self::CleatForward => axes(Axis::CleatL, Axis::CleatR, -1),
            Self::TurnOut => axes(Axis::TurnL, Axis::TurnR, 1),
            Self::TurnIn => axes(Axis::TurnL, Axis::TurnR, -1),
            Self::StanceWide => axes(Axis::StanceL, Axis::StanceR, 1),
            Self::StanceNarrow => axes(Axis::StanceL, Axis::StanceR, -1),
            Self::CrankLong => one(Axis::Crank, 1),
            Self::CrankShort => one(Axis::Crank, -1),
            Self::SaddleWide => one(Axis::SaddleWidth, 1),
            Self::SaddleNarrow => one(Axis::SaddleWidth, -1),
            Self::Dip if across => of(Suspect::there(H::DipR), Suspect::there(H::DipL)),
            Self::Dip => of(Suspect::there(H::DipL), Suspect::there(H::DipR)),
            Self::Short => of(Suspect::there(H::ShortL), Suspect::there(H::ShortR)),
            Self::Arch => of(Suspect::there(H::ArchL), Suspect::there(H::ArchR)),
            Self::Twist => there(H::Twist),
            Self::Nose => there(H::Nose),
            Self::Weak => there(H::Weak),
            Self::Stiff => there(H::Stiff),
            Self::Load => there(H::Load),
            Self::Shoe => there(H::Shoe),
            Self::NoRelief => there(H::NoRelief),
        }
    }

    /// Whether one side has it and not the other.
    pub(super) fn is_one_sided(self) -> bool {
        matches!(
            self,
            Self::CleatBack
                | Self::CleatForward
                | Self::TurnOut
                | Self::TurnIn
                | Self::StanceWide
                | Self::StanceNarrow
                | Self::Dip
                | Self::Short
                | Self::Arch
                | Self::Twist
        )
    }
}
