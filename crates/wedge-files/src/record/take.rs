//! A take: what a camera, a clip or a trainer gave of the rider on one setup.

use super::{refuse_name, refuse_words};
use crate::{FileError, read_trc, write_trc};
use base64::Engine as _;
use base64::prelude::BASE64_STANDARD;
use flate2::Compression;
use flate2::read::GzDecoder;
use flate2::write::GzEncoder;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::io::{Read as _, Write as _};
use uuid::Uuid;
use wedge_core::capture::torque::{SECTORS, Torque};
use wedge_core::capture::{Answers, Known, Tracks};
use wedge_core::film::{Clip, Shot, refuse_times};
use wedge_core::measure::Refusal;

/// The most a take's markers may unpack to.
const MOST_TEXT: u64 = 256 << 20;
/// How long a piece of packed markers is in a file.
const PIECE: usize = 32 * 1024;

/// What was taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum TakeBody {
    /// Markers over time.
    Markers {
        /// What was known of rider and bike.
        known: Known,
        /// What was answered about names, unit and sides.
        answers: Answers,
    },
    /// A picture from the side.
    Still(Shot),
    /// A clip from the side.
    Clip(Clip),
    /// Torque over the stroke.
    Torque(Torque),
}

/// A take: append-only. What is read off it is worked out anew.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Take {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// The setup on the bench, among the session's.
    pub setup: Uuid,
    /// What it is called: a file's name, most often.
    pub name: String,
    /// Power it was ridden at, where that is known.
    #[serde(default)]
    pub power_w: Option<f64>,
    /// The how-manieth placing of the markers it was taken with, from 1: takes of one placing compare closer.
    #[serde(default)]
    pub placing: u32,
    /// Whether a stand-in made it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub simulated: bool,
    /// What.
    pub body: TakeBody,
    /// Its markers, TRC compressed with gzip, in pieces of base64. Left out where a fit is only looked at.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tracks: Vec<String>,
}

impl Take {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::from_iter(refuse_name(&self.name, &format!("{at}/name")));
        if self
            .power_w
            .is_some_and(|power| !(0.0..=2500.0).contains(&power))
        {
            all.push(Refusal::new(format!("{at}/power_w"), "0 to 2500 W"));
        }
        if let TakeBody::Torque(torque) = &self.body {
            let sound = torque.sectors_nm.len() == SECTORS
                && torque.sectors_nm.iter().all(|nm| nm.is_finite())
                && torque.se_nm.as_ref().is_none_or(|se| se.len() == SECTORS);
            if !sound {
                all.push(Refusal::new(
                    format!("{at}/body/torque/sectors_nm"),
                    format!("{SECTORS} sectors"),
                ));
            }
        }
        if let TakeBody::Clip(clip) = &self.body {
            let at = format!("{at}/body/clip");
            let frames = clip.times.len();
            all.extend(
                refuse_times(&clip.times).map(|words| Refusal::new(format!("{at}/times"), words)),
            );
            if clip.followed.iter().any(|way| way.at.len() != frames) {
                all.push(Refusal::new(
                    format!("{at}/followed"),
                    "A place or none for each frame",
                ));
            }
        }
        if let TakeBody::Markers { answers, .. } = &self.body {
            let names = answers.names.keys().chain(&answers.nothing);
            all.extend(
                names.filter_map(|name| refuse_words(name, &format!("{at}/body/markers/answers"))),
            );
        }
        if !self.tracks.is_empty()
            && let Err(error) = unpack(&self.tracks)
        {
            all.push(Refusal::new(format!("{at}/tracks"), error.to_string()));
        }
        all
    }
}

/// Packs markers for keeping.
pub fn pack(tracks: &Tracks, name: &str) -> Result<Vec<String>, FileError> {
    let failed = |error: std::io::Error| FileError::new(".", error.to_string());
    let mut packed = GzEncoder::new(Vec::new(), Compression::default());
    packed
        .write_all(write_trc(tracks, name).as_bytes())
        .map_err(failed)?;
    let text = BASE64_STANDARD.encode(packed.finish().map_err(failed)?);
    let bytes = text.as_bytes();
    Ok(bytes
        .chunks(PIECE)
        .map(|piece| String::from_utf8_lossy(piece).into_owned())
        .collect())
}

/// The TRC text of packed markers.
pub fn unpacked_text(pieces: &[String]) -> Result<String, FileError> {
    let broken = |what: String| FileError::new("tracks", what);
    let packed = BASE64_STANDARD
        .decode(pieces.concat())
        .map_err(|error| broken(error.to_string()))?;
    let mut text = String::new();
    let unpacked = GzDecoder::new(&packed[..])
        .take(MOST_TEXT)
        .read_to_string(&mut text);
    unpacked.map_err(|error| broken(error.to_string()))?;
    Ok(text)
}

/// Unpacks markers.
pub fn unpack(pieces: &[String]) -> Result<Tracks, FileError> {
    read_trc(&unpacked_text(pieces)?)
}
