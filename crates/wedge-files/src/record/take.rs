//! A take: what a camera, a clip or a trainer gave of the rider on one setup.

use super::{refuse_name, refuse_words};
use crate::{FileError, jpeg_head, read_trc, write_trc};
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
use wedge_core::film::{AcrossClip, Clip, Shot, refuse_across, refuse_times};
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
    /// A clip from ahead or from behind.
    Across(AcrossClip),
    /// Markers of the rider standing still and straight: where their pelvis is level.
    Standing {
        /// What was answered about names, unit and sides.
        answers: Answers,
    },
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
    /// One of its pictures, a JPEG in pieces of base64: with the rider's consent, and only where it is asked for.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub picture: Vec<String>,
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
        if let TakeBody::Across(clip) = &self.body
            && let Some((of, words)) = refuse_across(clip)
        {
            all.push(Refusal::new(format!("{at}/body/across/{of}"), words));
        }
        if let TakeBody::Markers { answers, .. } | TakeBody::Standing { answers } = &self.body {
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
        if !self.picture.is_empty()
            && let Some(words) = refuse_picture(&self.picture)
        {
            all.push(Refusal::new(format!("{at}/picture"), words));
        }
        all
    }
}

/// The most bytes a kept picture has.
const MOST_PICTURE: usize = 4 << 20;

/// What is wrong with a kept picture: it is a JPEG, and carries nothing of where and by whom it was taken.
fn refuse_picture(pieces: &[String]) -> Option<String> {
    let Ok(bytes) = of_pieces(pieces) else {
        return Some("A picture in base64".to_owned());
    };
    if bytes.len() > MOST_PICTURE {
        return Some(format!("A kept picture is under {} MB", MOST_PICTURE >> 20));
    }
    let Some((markers, _)) = jpeg_head(&bytes) else {
        return Some("A kept picture is a whole JPEG".to_owned());
    };
    // Notes of cameras and programs: from APP1 on, and comments.
    let is_note = |marker: &u8| matches!(marker, 0xe1..=0xef | 0xfe);
    (markers.iter().any(is_note))
        .then(|| "A kept picture carries no notes of its camera".to_owned())
}

/// Bytes as a file keeps them, in pieces of base64.
pub fn in_pieces(bytes: &[u8]) -> Vec<String> {
    let text = BASE64_STANDARD.encode(bytes);
    let pieces = text.as_bytes().chunks(PIECE);
    pieces
        .map(|piece| String::from_utf8_lossy(piece).into_owned())
        .collect()
}

/// Bytes out of pieces of base64.
pub fn of_pieces(pieces: &[String]) -> Result<Vec<u8>, FileError> {
    BASE64_STANDARD
        .decode(pieces.concat())
        .map_err(|error| FileError::new("pieces", error.to_string()))
}

/// Packs markers for keeping.
pub fn pack(tracks: &Tracks, name: &str) -> Result<Vec<String>, FileError> {
    let failed = |error: std::io::Error| FileError::new(".", error.to_string());
    let mut packed = GzEncoder::new(Vec::new(), Compression::fast());
    packed
        .write_all(write_trc(tracks, name).as_bytes())
        .map_err(failed)?;
    Ok(in_pieces(&packed.finish().map_err(failed)?))
}

/// The TRC text of packed markers.
pub fn unpacked_text(pieces: &[String]) -> Result<String, FileError> {
    let broken = |what: String| FileError::new("tracks", what);
    let packed = of_pieces(pieces)?;
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
