//! A case: the evidence of a fit as plain data, with its slopes as the tables give them. The open format `wedge.case/1`, one
//! case or a list of them, for trying the judge out without a rider's record.

use super::axis::Axis;
use super::net::Felt;
use crate::intake::Place;
use crate::intake::Stroke;
use crate::looking::Sign;
use crate::trial::Sure;
use crate::units::Side;
use crate::words::words;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

words! {
    /// A reading that is judged against a range.
    pub enum Ranged {
        Knee "knee" "Knee at full reach",
        Plumb "plumb" "Knee over axle",
        Torso "torso" "Torso",
        Shoulder "shoulder" "Shoulder",
        DropShare "drop_share" "Drop as a share",
        SeatAngle "seat_angle" "Effective seat angle",
        Tilt "tilt" "Saddle tilt",
        SaddleWidth "saddle_width" "Saddle width",
    }
}

words! {
    /// A limit of the table.
    pub enum Limited {
        Hip "hip" "hip",
        Knee "knee" "knee",
        Back "back" "back",
        Shoulder "shoulder" "shoulder",
    }
}

words! {
    /// What can be turned, with what it does to the axes.
    pub enum Bolt {
        Post "post" "Post",
        Rails "rails" "Rails",
        Cleats "cleats" "Both cleats",
        CleatL "cleat_l" "Left cleat",
        CleatR "cleat_r" "Right cleat",
        Crank "crank" "Crank",
        Stem "stem" "Stem",
        Spacers "spacers" "Spacers",
        Tilt "tilt" "Saddle tilt",
        BarWidth "bar_width" "Bar",
        Levers "levers" "Levers",
        Saddle "saddle" "Saddle",
        TurnL "turn_l" "Left heel",
        TurnR "turn_r" "Right heel",
        StanceL "stance_l" "Left stance",
        StanceR "stance_r" "Right stance",
    }
}

/// What matters to the rider, of 10.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[expect(missing_docs, reason = "the four goals, each by its name")]
pub struct Weights {
    pub comfort: f64,
    pub injury: f64,
    pub power: f64,
    pub speed: f64,
}

/// The rider of a case.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct CaseRider {
    /// The kind of riding, as it is told.
    pub kind: Option<String>,
    /// What matters.
    pub weights: Option<Weights>,
    /// The smallest change this rider feels, mm.
    pub feels_mm: Option<f64>,
    /// A light strong rider passes every balance test.
    pub strong: bool,
    /// A whole fit, in which what is silent counts too; else a visit for a complaint.
    pub full_fit: bool,
}

/// The bike of a case.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct CaseBike {
    /// Where the saddle is clamped, where it is at an end: "back" or "forward".
    pub rails: Option<String>,
    /// The stem, mm.
    pub stem_mm: Option<f64>,
    /// Whether it is a fit stand.
    pub stand: bool,
    /// Whether its cranks can be set to other lengths.
    pub adjustable_crank: bool,
    /// Protocols that cannot be run here.
    pub without: Vec<String>,
    /// How far the parts let an axis go, from the bike as found.
    pub room: BTreeMap<String, (f64, f64)>,
}

/// An end, where a finding is no more.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
#[expect(missing_docs, reason = "an end, by its name")]
pub enum End {
    AtLeast,
    AtMost,
}

/// One piece of evidence, in the order it came: it keeps the place where it was made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case")]
#[expect(
    missing_docs,
    reason = "the fields of the format, as its document tells them"
)]
pub enum Evidence {
    School {
        axis: Axis,
        name: String,
        at: f64,
        spread: f64,
    },
    Angle {
        output: Ranged,
        value: f64,
        #[serde(default)]
        range: Option<(f64, f64)>,
        #[serde(default)]
        spread: Option<f64>,
        #[serde(default)]
        side: Option<Side>,
    },
    Complaint {
        place: Place,
        #[serde(default)]
        side: Option<Side>,
        #[serde(default)]
        stroke: Option<Stroke>,
        #[serde(default)]
        how_bad: f64,
        #[serde(default)]
        absent: bool,
        /// It was named, but the fitter struck it out: it says nothing, nor does the silence of its place.
        #[serde(default)]
        struck: bool,
    },
    Seen {
        what: Sign,
        #[serde(default)]
        side: Option<Side>,
        #[serde(default)]
        absent: bool,
        /// It was written down though what measured it could not tell for sure: it says half as much.
        #[serde(default)]
        doubtful: bool,
    },
    Finding {
        protocol: String,
        axis: Axis,
        at: f64,
        spread: f64,
        says: String,
        #[serde(default)]
        bound: Option<End>,
    },
    Limit {
        joint: Limited,
        margin: f64,
    },
    Wall {
        axis: Axis,
        #[serde(default)]
        least: Option<f64>,
        #[serde(default)]
        most: Option<f64>,
        why: String,
    },
    Fact {
        what: String,
        #[serde(default)]
        side: Option<Side>,
        #[serde(default)]
        deg: Option<f64>,
        #[serde(default)]
        mm: Option<f64>,
        #[serde(default)]
        has: Option<bool>,
        #[serde(default)]
        by: Option<String>,
        #[serde(default)]
        hours: Option<f64>,
        #[serde(default)]
        days: Option<f64>,
    },
    NoComplaints {},
    Trial {
        bolts: BTreeMap<Bolt, f64>,
        verdict: Felt,
        sure: Sure,
        like: bool,
        kept: bool,
        #[serde(default)]
        felt: Option<Place>,
        #[serde(default)]
        batch: bool,
        #[serde(default)]
        silent: bool,
        #[serde(default)]
        axes: Option<BTreeMap<Axis, f64>>,
    },
    Stand {
        places: BTreeMap<Axis, f64>,
    },
    Right {
        axis: Axis,
        #[serde(default)]
        reason: String,
    },
    Flag {
        what: String,
    },
    Overrule {
        fault: String,
        #[serde(default)]
        reason: String,
    },
}

impl Evidence {
    /// A fact with nothing but its name.
    pub fn fact(what: &str) -> Self {
        Self::Fact {
            what: what.to_owned(),
            side: None,
            deg: None,
            mm: None,
            has: None,
            by: None,
            hours: None,
            days: None,
        }
    }
}

/// Writes down what fills a field of a fact in.
macro_rules! fills {
    ($($(#[$doc:meta])* $name:ident: $field:ident $kind:ty;)*) => {
        impl Evidence {
            $($(#[$doc])* pub fn $name(&mut self, value: $kind) {
                if let Self::Fact { $field, .. } = self {
                    *$field = Some(value);
                }
            })*
        }
    };
}

fills! {
    /// On which side a fact is.
    set_side: side Side;
    /// How many degrees it is.
    set_deg: deg f64;
    /// How many millimetres.
    set_mm: mm f64;
    /// Whether it has it.
    set_has: has bool;
    /// How many hours.
    set_hours: hours f64;
    /// How many days.
    set_days: days f64;
}

/// Words as the keys of a map, in the order they are offered.
macro_rules! ordered {
    ($($word:ident)*) => {
        $(impl PartialOrd for $word {
            fn partial_cmp(&self, other: &Self) -> Option<std::cmp::Ordering> {
                Some(self.cmp(other))
            }
        }

        impl Ord for $word {
            fn cmp(&self, other: &Self) -> std::cmp::Ordering {
                (*self as usize).cmp(&(*other as usize))
            }
        })*
    };
}

ordered! { Bolt Axis }

/// What a case expects of the judge.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Expected {
    /// The costliest fault is one of these.
    pub faults_first: Vec<String>,
    /// The next move is one of these.
    pub next: Vec<Wanted>,
    /// Never proposed.
    pub never: Vec<Wanted>,
    /// Not proposed first.
    pub not_next: Vec<Wanted>,
    /// What is said.
    pub says: Vec<String>,
}

/// A move as a case names it.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Wanted {
    /// `move`, `linked`, `test`, `put_back`, `done`, `refer`, or a remedy.
    #[serde(rename = "do")]
    pub act: String,
    /// Of which axis; "cleat" is either.
    pub axis: Option<String>,
    /// "+" or "-".
    pub dir: Option<String>,
    /// At least so much.
    pub min: Option<f64>,
    /// At most so much.
    pub max: Option<f64>,
    /// Of which side.
    pub side: Option<Side>,
    /// Of tests, one of these; of linked moves, that one.
    pub what: Option<Names>,
}

/// One name, or several.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged)]
#[expect(missing_docs, reason = "one or several")]
pub enum Names {
    One(String),
    Several(Vec<String>),
}

impl Names {
    pub(super) fn has(&self, name: &str) -> bool {
        match self {
            Self::One(one) => one == name,
            Self::Several(all) => all.iter().any(|one| one == name),
        }
    }
}

/// A case.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Case {
    /// What it is called by.
    #[serde(default)]
    pub id: String,
    /// In a line.
    #[serde(default)]
    pub title: String,
    /// As it was told.
    #[serde(default)]
    pub story: String,
    /// The rider.
    #[serde(default)]
    pub rider: CaseRider,
    /// The bike.
    #[serde(default)]
    pub bike: CaseBike,
    /// What is known, in the order it came.
    pub evidence: Vec<Evidence>,
    /// What is expected, where somebody knows.
    #[serde(default)]
    pub expect: Option<Expected>,
}
