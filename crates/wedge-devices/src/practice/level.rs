//! How hard a rider of practice is.

use crate::dice::Dice;
use crate::hidden::{Character, HiddenRider, Trouble, Troubled};
use serde::{Deserialize, Serialize};
use wedge_core::judge::Axis;
use wedge_core::units::Side;

/// A level.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Level {
    /// A bike that was set up badly, and a rider who says what he feels.
    Straightforward,
    /// One thing wrong: what is right stays as it is.
    OneThing,
    /// Two things that mask one another.
    Masking,
    /// A trap: no bolt does what a bolt seems to be asked for.
    Trap,
    /// Everything as it comes.
    Hard,
}

/// Pairs that hide behind one another: what one bends, the other straightens.
const PAIRS: [[(Axis, f64); 2]; 4] = [
    [(Axis::Height, 1.0), (Axis::Setback, -1.0)],
    [(Axis::Reach, 1.0), (Axis::Bars, 1.0)],
    [(Axis::Setback, 1.0), (Axis::Reach, -1.0)],
    [(Axis::Height, -1.0), (Axis::Setback, 1.0)],
];
/// What one thing may be.
const ONE: [Axis; 5] = [
    Axis::Height,
    Axis::Setback,
    Axis::Reach,
    Axis::Bars,
    Axis::Tilt,
];
/// What no bolt is turned for, and seems to ask for one.
const TRAPS: [Trouble; 6] = [
    Trouble::LoadRose,
    Trouble::NoRelief,
    Trouble::NarrowShoe,
    Trouble::ShorterLeg,
    Trouble::Dip,
    Trouble::Weak,
];

impl Level {
    /// Every one, the easiest first.
    pub const ALL: [Self; 5] = [
        Self::Straightforward,
        Self::OneThing,
        Self::Masking,
        Self::Trap,
        Self::Hard,
    ];

    /// As it is told.
    pub fn label(self) -> &'static str {
        match self {
            Self::Straightforward => "Straightforward",
            Self::OneThing => "One thing wrong",
            Self::Masking => "Two that mask one another",
            Self::Trap => "A trap",
            Self::Hard => "Hard",
        }
    }

    /// What there is to learn on it.
    pub fn words(self) -> &'static str {
        match self {
            Self::Straightforward => {
                "Some of the bike is clearly out, and the rider says what he feels."
            }
            Self::OneThing => "One thing is out. Find it, and leave the rest alone.",
            Self::Masking => "Two things are out, and each looks right because of the other.",
            Self::Trap => "It hurts, and no bolt is to blame.",
            Self::Hard => {
                "Anything may be out, something besides may be wrong, and he talks as he talks."
            }
        }
    }

    /// As it is kept.
    pub fn key(self) -> &'static str {
        match self {
            Self::Straightforward => "straightforward",
            Self::OneThing => "one_thing",
            Self::Masking => "masking",
            Self::Trap => "trap",
            Self::Hard => "hard",
        }
    }

    /// The level of a name.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|level| level.key() == name)
    }

    /// The rider as this level has him: what is wrong besides, and how he talks.
    pub(crate) fn of(self, hidden: HiddenRider, dice: &mut Dice) -> HiddenRider {
        let (which, left, level) = (
            dice.index(TRAPS.len()),
            dice.happens(0.5),
            dice.between(1.2, 1.6),
        );
        let vague = dice.happens(0.6);
        match self {
            Self::Straightforward | Self::OneThing | Self::Masking => {
                hidden.troubled_by(Vec::new()).speaking(Character::Plain)
            }
            Self::Trap => {
                let trouble = TRAPS[which];
                let side = if left { Side::Left } else { Side::Right };
                let trap = Troubled {
                    trouble,
                    side: trouble.is_one_sided().then_some(side),
                    level,
                };
                hidden.troubled_by(vec![trap]).speaking(Character::Plain)
            }
            Self::Hard => hidden.speaking(if vague {
                Character::Vague
            } else {
                Character::Contrary
            }),
        }
    }

    /// How far from right each axis of his bike comes; `None` where it comes as bikes do.
    pub(crate) fn comes(self, hidden: &HiddenRider, dice: &mut Dice) -> Option<Vec<f64>> {
        let mut off: Vec<f64> = (Axis::ALL.iter())
            .map(|axis| dice.normal(0.25 * hidden.window(*axis).half))
            .collect();
        // Well outside, so that the body says so.
        let mut far = |dice: &mut Dice, axis: Axis, way: f64| {
            off[axis as usize] = way * hidden.window(axis).half * dice.between(1.9, 2.7);
        };
        let way = |dice: &mut Dice, up: f64| if dice.happens(up) { 1.0 } else { -1.0 };
        match self {
            Self::Hard => return None,
            Self::Trap => {}
            Self::OneThing => {
                let axis = ONE[dice.index(ONE.len())];
                let side = way(dice, 0.5);
                far(dice, axis, side);
            }
            Self::Straightforward => {
                for (axis, up) in [(Axis::Height, 0.4), (Axis::Bars, 0.3)] {
                    let side = way(dice, up);
                    far(dice, axis, side);
                }
            }
            Self::Masking => {
                for (axis, side) in PAIRS[dice.index(PAIRS.len())] {
                    far(dice, axis, side);
                }
            }
        }
        Some(off)
    }
}
