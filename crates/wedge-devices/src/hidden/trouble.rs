//! What may be wrong with a rider that no bolt is turned for.

use serde::{Deserialize, Serialize};
use wedge_core::units::Side;

/// A trouble.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Trouble {
    /// A hip that dips.
    Dip,
    /// Sits twisted.
    Twist,
    /// Rides on the nose.
    OnNose,
    /// A trunk too weak for it.
    Weak,
    /// Stiff hips or hamstrings.
    Stiff,
    /// Load that rose suddenly.
    LoadRose,
    /// A shoe too narrow.
    NarrowShoe,
    /// A saddle without relief.
    NoRelief,
    /// A shorter leg.
    ShorterLeg,
    /// A low arch.
    LowArch,
}

impl Trouble {
    /// Every one.
    pub const ALL: [Self; 10] = [
        Self::Dip,
        Self::Twist,
        Self::OnNose,
        Self::Weak,
        Self::Stiff,
        Self::LoadRose,
        Self::NarrowShoe,
        Self::NoRelief,
        Self::ShorterLeg,
        Self::LowArch,
    ];

    /// As it is told.
    pub fn label(self) -> &'static str {
        match self {
            Self::Dip => "A hip that dips",
            Self::Twist => "Sits twisted",
            Self::OnNose => "Rides on the nose",
            Self::Weak => "A trunk too weak for it",
            Self::Stiff => "Stiff hips or hamstrings",
            Self::LoadRose => "Load that rose suddenly",
            Self::NarrowShoe => "A shoe too narrow",
            Self::NoRelief => "A saddle without relief",
            Self::ShorterLeg => "A shorter leg",
            Self::LowArch => "A low arch",
        }
    }

    /// How often a rider has it.
    pub(crate) fn often(self) -> f64 {
        match self {
            Self::Dip | Self::Twist | Self::OnNose | Self::ShorterLeg => 0.04,
            Self::Weak | Self::Stiff => 0.1,
            Self::LoadRose | Self::NoRelief => 0.07,
            Self::NarrowShoe | Self::LowArch => 0.06,
        }
    }

    /// Whether it is one side's.
    pub fn is_one_sided(self) -> bool {
        matches!(self, Self::Dip | Self::ShorterLeg | Self::LowArch)
    }
}

/// A trouble of one rider.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Troubled {
    /// Which.
    pub trouble: Trouble,
    /// On which side, where it is one side's.
    pub side: Option<Side>,
    /// How bad; 1 is usual.
    pub level: f64,
}
