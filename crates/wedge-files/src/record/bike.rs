//! A bike, and the setups it has had.

use super::Session;
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind, Setup, TapedFrame};
use wedge_core::measure::Quantity;
use wedge_core::next::{Dimension, Told};
use wedge_core::plane::Point;
use wedge_core::school::FrameLabel;

/// A bike with its fits.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Bike {
    /// Made by the client.
    pub id: Uuid,
    /// As the rider calls it.
    pub name: String,
    /// The kind of riding.
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// The size the frame is labelled with, when somebody looked.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<FrameLabel>,
    /// The parts as typed in, before any fit. Its saddle is a place to draw from, not a reading.
    pub setup: Setup,
    /// What frame reach and stack were computed from, when they are on no chart.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub taped: Option<TapedFrame>,
    /// What of it was filled in from an ordinary bike, and not overtyped; left out where that was not kept.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub usual: Option<Vec<Quantity>>,
    /// Whether it is a fit stand: a bike without a frame, whose saddle and front slide.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub stand: bool,
    /// Where its position is from, when it was carried here and nobody has ridden it yet.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub carried: Option<Box<CarriedFrom>>,
    /// The fits, the first one first.
    pub sessions: Vec<Session>,
}

/// Where a position that was carried to a bike is from, and what was told of it then. It is stored as it was told.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CarriedFrom {
    /// As it is named: "Weir 54, fit 2".
    pub from: String,
    /// The fit it is the position of; none of points that were typed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub session: Option<Uuid>,
    /// On which day.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub on: Date,
    /// Where the sit reference was wished.
    pub sit: Point,
    /// Where the hands were.
    pub hand: Point,
    /// What was told of it.
    pub told: Told,
    /// What its builder was told, of a frame made to measure.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub made: Option<MadeTo>,
    /// Other frames that would have done, the best first, with their parts.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub others: Vec<String>,
}

/// What the builder of a frame was told.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MadeTo {
    /// Every dimension.
    pub dimensions: Vec<Dimension>,
    /// What is told of it.
    pub told: Vec<String>,
    /// What was assumed.
    pub assumed: Vec<String>,
}

/// A setup with its place in time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SetupRecord {
    /// Its id.
    pub id: Uuid,
    /// When it was recorded.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub recorded_at: Timestamp,
    /// The bolts and parts.
    pub setup: Setup,
}
