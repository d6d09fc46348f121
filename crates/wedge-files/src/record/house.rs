//! How a studio works, and its frames.

use super::refuse_name;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind, Part};
use wedge_core::judge::OwnJudging;
use wedge_core::kinds::{Body as GoverningBody, Budget, Rotors, refuse_rotors};
use wedge_core::measure::{Conventions, Quantity, Refusal, Units};
use wedge_core::position::OwnRange;
use wedge_core::school::Leads;

/// A studio's own range of one kind of riding.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct KindRange {
    /// The kind of riding.
    pub kind: Kind,
    /// The range.
    pub range: OwnRange,
}

/// How a studio works: chosen once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct House {
    /// As the studio is called on the hand-out; nameless when empty.
    pub name: String,
    /// What lengths and masses are shown and typed in.
    pub units: Units,
    /// Which schools lead.
    pub leads: Leads,
    /// The studio's own ranges, each of a kind of riding.
    pub ranges: Vec<KindRange>,
    /// How lengths are read and written in a new bike's first fit.
    pub conventions: Conventions,
    /// The order the tape walks round a bike.
    pub walk: Vec<Quantity>,
    /// The parts box.
    pub parts: Vec<Part>,
    /// What it judges by that is not the house's.
    pub judging: OwnJudging,
    /// What stands under stem and pads at the most, and how far pads slide.
    pub budget: Budget,
    /// What governing bodies allow, as the studio wrote it down.
    pub bodies: Vec<GoverningBody>,
    /// Usual rotors by the rider's mass, lightest first.
    pub rotors: Vec<Rotors>,
    /// How many days' copies of the record are kept; none are made when nought.
    pub copies: u8,
    /// For how many days pictures of riders are kept; none are when nought.
    pub picture_days: u16,
}

impl Default for House {
    fn default() -> Self {
        Self {
            name: String::new(),
            units: Units::default(),
            leads: Leads::default(),
            ranges: Vec::new(),
            conventions: Conventions::default(),
            walk: WALK.to_vec(),
            parts: Vec::new(),
            judging: OwnJudging::default(),
            budget: Budget::default(),
            bodies: vec![wedge_core::kinds::invented()],
            rotors: Rotors::usual(),
            copies: 7,
            picture_days: 90,
        }
    }
}

impl House {
    /// Everything that cannot be accepted, each with its JSON pointer.
    pub fn refusals(&self) -> Vec<Refusal> {
        let mut all = self.conventions.refusals("/conventions");
        let mut walk = self.walk.clone();
        walk.sort();
        let mut whole = WALK.to_vec();
        whole.sort();
        if walk != whole {
            all.push(Refusal::new(
                "/walk",
                "The walk passes each of its lengths once, in whatever order",
            ));
        }
        // A studio may be nameless.
        if !self.name.is_empty() {
            all.extend(refuse_name(&self.name, "/name"));
        }
        for (index, KindRange { kind, range }) in self.ranges.iter().enumerate() {
            let at = format!("/ranges/{index}/range");
            all.extend(range.refusals(&at));
            let twice = self.ranges[..index].iter().any(|other| {
                (other.kind, other.range.output, other.range.hands)
                    == (*kind, range.output, range.hands)
            });
            if twice {
                all.push(Refusal::new(at, "This range stands twice: keep one"));
            }
        }
        if self.parts.len() > MOST_PARTS {
            all.push(Refusal::new(
                "/parts",
                format!("A box holds up to {MOST_PARTS} lines"),
            ));
        }
        for (index, part) in self.parts.iter().enumerate() {
            all.extend(part.refusals(&format!("/parts/{index}")));
        }
        all.extend(self.judging.refusals("/judging"));
        all.extend(self.budget.refusals("/budget"));
        all.extend(refuse_rotors(&self.rotors, "/rotors"));
        if self.bodies.len() > MOST_BODIES {
            all.push(Refusal::new(
                "/bodies",
                format!("Up to {MOST_BODIES} governing bodies are kept"),
            ));
        }
        for (index, body) in self.bodies.iter().enumerate() {
            all.extend(body.refusals(&format!("/bodies/{index}")));
        }
        if self.copies > MOST_COPIES {
            all.push(Refusal::new(
                "/copies",
                format!("Up to {MOST_COPIES} copies are kept"),
            ));
        }
        if self.picture_days > MOST_PICTURE_DAYS {
            all.push(Refusal::new(
                "/picture_days",
                format!("Pictures are kept for up to {MOST_PICTURE_DAYS} days"),
            ));
        }
        all
    }

    /// The studio's own ranges of one kind of riding.
    pub fn ranges_of(&self, kind: Kind) -> Vec<OwnRange> {
        self.ranges
            .iter()
            .filter(|own| own.kind == kind)
            .map(|own| own.range)
            .collect()
    }
}

/// The most copies of the record that are kept.
const MOST_COPIES: u8 = 60;
/// The longest pictures are kept: ten years.
const MOST_PICTURE_DAYS: u16 = 3653;
/// The most tables of governing bodies.
const MOST_BODIES: usize = 12;
/// The most lines of a parts box.
const MOST_PARTS: usize = 2000;

/// The tape's walk round a bike in the house's order: saddle, hands, feet, front end.
const WALK: [Quantity; 10] = [
    Quantity::SaddleHeight,
    Quantity::Tilt,
    Quantity::Setback,
    Quantity::Drop,
    Quantity::BbToHand,
    Quantity::Crank,
    Quantity::CleatSetback,
    Quantity::SpacersBelow,
    Quantity::Stem,
    Quantity::StemAngle,
];

/// A frame of the studio's library.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LibraryFrame {
    /// Its id.
    pub id: Uuid,
    /// As it is called, size and all.
    pub name: String,
    /// The kind of riding it is made for.
    pub kind: Kind,
    /// Its geometry.
    pub frame: Frame,
}
