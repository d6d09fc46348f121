//! One decision a file, and in it every school of the trade side by side, for this rider. The studio's school leads;
//! the others stay visible.
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::Trying;
//! use wedge_core::school::{HeightSchool, height_scale};
//!
//! let ride = example::road().check().expect("the example is in range");
//! let scale = height_scale(&Trying::of(&ride), None, HeightSchool::Inseam, 5.0).expect("road riders' knees have a range");
//! let lead = &scale.schools[0];
//! assert_eq!(lead.label, "Inseam, BB to top");
//! assert!(lead.value.is_some_and(|wanted| (wanted - 0.883 * 845.5).abs() < 1.0));
//! ```

mod cleat;
mod crank;
mod decision;
mod front_view;
mod hands;
mod ladder;
mod lean;
mod levers;
mod saddle;
mod saddle_height;
mod setback;
mod shoe;
mod stance;
mod width;

pub use decision::{Opinion, Scale};

/// Lists the decisions that have schools on a scale: each is a file of this room with its schools, and the one that leads
/// until a studio chooses another.
macro_rules! decisions {
    ($($(#[doc = $doc:literal])+ $file:ident: $school:ident = $lead:ident;)*) => {
        $(pub use $file::$school;)*

        /// Which school leads in a studio, decision by decision.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(deny_unknown_fields, default)]
        pub struct Leads {
            $($(#[doc = $doc])+ pub $file: $school,)*
            /// From where on the knee the plumb line hangs.
            pub landmark: Landmark,
            /// By which part of its drops a drop bar is rolled.
            pub drop_ends: DropEnds,
        }

        impl Default for Leads {
            /// The schools that ask the rider most: joints for the cleat, function for the crank, the moving knee for
            /// the height, balance for the setback.
            fn default() -> Self {
                Self {
                    $($file: $school::$lead,)*
                    landmark: Landmark::Centre,
                    drop_ends: DropEnds::Level,
                }
            }
        }

        fn decision_rules() -> Vec<crate::rule::Rule> {
            [$($file::rules(),)*].concat()
        }
    };
}

decisions! {
    /// Where the cleat goes.
    cleat: CleatSchool = Midway;
    /// Crank length.
    crank: CrankSchool = Function;
    /// Saddle height.
    saddle_height: HeightSchool = KneeMoving;
    /// Setback.
    setback: SetbackSchool = Balance;
    /// Where the hands belong.
    hands: HandSchool = Angles;
}

pub use cleat::{Choice, Comparison, MEASURING, comparison, scale as cleat_scale, setback_by_size};
pub use crank::{FrameLabel, Longest, alarms, cranks_shod, longest, scale as crank_scale, signs};
pub use front_view::{FrontView, LegSeen, front_view};
pub use hands::{HandBrackets, HandOpinion, axes, hand_opinions, lean_ends};
pub use ladder::{Ladder, Rung, RungState, Shim, Tried, ladders, shims};
pub use lean::Lean;
pub use levers::{DropEnds, levers_and_sweep};
pub use saddle::{Nose, Relief, SaddleNotes, YesNo, saddle_advice};
pub use saddle_height::{crept_by_now, scale as height_scale};
pub use setback::{
    GateItem, Hung, Right, SetbackEvidence, gate, hung, scale as setback_scale, setback_advice,
};
pub use shoe::{Shoe, ShoeWidth, Stiffness, shoe_advice};
pub use stance::{Stance, StanceVoice, stance};
pub use width::{Width, WidthOpinion, bar_width};

use crate::position::Landmark;
use serde::{Deserialize, Serialize};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        decision_rules(),
        front_view::rules(),
        stance::rules(),
        ladder::rules(),
        lean::rules(),
        levers::rules(),
        shoe::rules(),
        crank::label_rules(),
        saddle::rules(),
        width::rules(),
    ]
    .concat()
}
