//! One picture or clip on the film bench: what was clicked and is known, to what it tells.

use crate::{Bench, Declined};
use serde::{Deserialize, Serialize};
use wedge_core::film::{
    AcrossClip, AcrossMark, AcrossRead, AcrossShot, AcrossWay, Blob, Clip, ClipRead, DOT_WIDE_MM,
    FilmMark, FilmPlace, FilmValue, Followed, Image, JOINTS, Learnt, Naming, Pixel, SeenFrom, Shot,
    Squared, find, follow, follow_across, learn, name_dots, read_still, refuse_times, square,
};
use wedge_core::words::{lower, sided};

/// A point found or read, on the picture.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FilmRead {
    /// Camera ahead of square, °.
    pub yaw_deg: f64,
    /// Looking down, °.
    pub pitch_deg: f64,
    /// Held turned, °.
    pub roll_deg: f64,
    /// Pixels a millimetre at the bike.
    pub px_per_mm: f64,
    /// Whether there were points of both tyres.
    pub squared: bool,
    /// RMS of the clicks against the squared wheels, px.
    pub left_px: f64,
    /// Where the crank stands, °.
    pub crank_deg: Option<f64>,
    /// The figures, each with its spread.
    pub values: Vec<FilmValue>,
    /// Points of the rider, clicked and found.
    pub marks: Vec<FilmMark>,
    /// Dots that were found and are no joint.
    pub rejected: Vec<[f64; 2]>,
    /// What the dots look like, where one was learnt.
    pub learnt: Option<Learnt>,
    /// Everything that looked like one.
    pub blobs: Vec<Blob>,
    /// Places on the bike's side view, mm from the BB.
    pub places: Vec<FilmPlace>,
    /// What there is to say and do.
    pub messages: Vec<String>,
}

/// More than so many of them are no dots (house choice).
const MANY_DOTS: usize = 80;

/// What the clicked dot looks like, and everything in the picture that looks like it.
fn dots_like(image: &Image, at: Pixel, dot_px: f64) -> Result<(Learnt, Vec<Blob>), &'static str> {
    let learnt = learn(image, at, dot_px).ok_or("The clicked dot is outside of the picture.")?;
    let blobs = find(image, &learnt);
    if blobs.len() > MANY_DOTS {
        return Err(
            "What was clicked looks like much else in the picture: click the middle of a dot.",
        );
    }
    Ok((learnt, blobs))
}

/// What was found in a picture.
#[derive(Default)]
struct Found {
    marks: Vec<FilmMark>,
    rejected: Vec<Pixel>,
    learnt: Option<Learnt>,
    blobs: Vec<Blob>,
}

/// A picture being read: what was clicked, and the picture where its dots are to be found.
#[derive(Debug, Clone, Copy)]
pub struct FilmAsked<'a>(pub &'a Shot);

impl FilmAsked<'_> {
    /// Squares the picture and reads what stands in it.
    ///
    /// Dots are found and named where a picture is given and one of its dots is among the marks.
    pub fn read(&self, image: Option<&Image>) -> Result<FilmRead, String> {
        let squared = square(&self.0.view).ok_or_else(|| {
            "The two axles are no bike's: rear axle first, then the front one, as the rider faces.".to_owned()
        })?;
        let mut messages = squared.messages.clone();
        let found = match image {
            Some(image) => self.found(&squared, image, &mut messages),
            None => self.as_clicked(),
        };
        let Found {
            marks,
            rejected,
            learnt,
            blobs,
        } = found;
        let told = self.0.known.told();
        let read = read_still(&squared, self.0.bb, &marks, &told, self.0.moving);
        messages.extend(told.estimated.iter().take(1).cloned());
        let camera = &squared.camera;
        Ok(FilmRead {
            yaw_deg: camera.yaw_deg,
            pitch_deg: camera.pitch_deg,
            roll_deg: camera.roll_deg,
            px_per_mm: squared.px_per_mm,
            squared: squared.squared,
            left_px: squared.left_px,
            crank_deg: read.crank_deg,
            values: read.values,
            marks,
            rejected,
            learnt,
            blobs,
            places: read.places,
            messages,
        })
    }

    fn as_clicked(&self) -> Found {
        Found {
            marks: self.0.marks.clone(),
            ..Found::default()
        }
    }

    /// The marks with those that were found, and what looked like a dot and is none.
    fn found(&self, squared: &Squared, image: &Image, messages: &mut Vec<String>) -> Found {
        messages.extend(image.light().map(str::to_owned));
        let Some(bb) = self.0.bb else {
            messages.push("Click the BB: without it dots cannot be named.".to_owned());
            return self.as_clicked();
        };
        let Some(one) = self.0.marks.iter().find(|mark| mark.dot) else {
            return self.as_clicked();
        };
        let like = dots_like(image, one.at, DOT_WIDE_MM * squared.px_per_mm);
        let (learnt, blobs) = match like {
            Ok(like) => like,
            Err(words) => {
                messages.push(words.to_owned());
                return self.as_clicked();
            }
        };
        let told = self.0.known.told();
        let naming = Naming {
            squared,
            bb,
            told: &told,
        };
        let named = name_dots(&blobs, &self.0.marks, &naming);
        let taken = |at: Pixel| {
            named
                .iter()
                .any(|mark| (mark.at[0] - at[0]).hypot(mark.at[1] - at[1]) < 2.0)
        };
        let rejected = blobs
            .iter()
            .map(|blob| blob.at)
            .filter(|at| !taken(*at))
            .collect();
        let missing: Vec<&str> = JOINTS
            .iter()
            .filter(|part| !named.iter().any(|mark| mark.part == **part))
            .map(|part| part.label())
            .collect();
        if blobs.is_empty() {
            messages.push("No dots found: click the joints.".to_owned());
        } else if !missing.is_empty() {
            messages.push(format!(
                "Not found, click them: {}.",
                missing.join(", ").to_lowercase()
            ));
        }
        Found {
            marks: named,
            rejected,
            learnt: Some(learnt),
            blobs,
        }
    }
}

/// A clip to be followed: what was clicked in one frame, and what looked like a dot in every frame.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ClipAsked {
    /// Wheels, BB and the joints as they are named in the start frame.
    pub shot: Shot,
    /// When each frame was, s.
    pub times: Vec<f64>,
    /// The frame the joints are named in.
    pub start: usize,
    /// What looked like a dot, frame by frame.
    pub blobs: Vec<Vec<Blob>>,
}

/// A clip followed, with what it tells.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClipFollowed {
    /// Where each joint was, frame by frame.
    pub followed: Vec<Followed>,
    /// The stroke.
    pub read: ClipRead,
}

impl ClipAsked {
    /// Follows the dots and reads the stroke.
    pub fn follow(self) -> Result<ClipFollowed, String> {
        refuse_frames(&self.times, &self.blobs)?;
        let squared = square(&self.shot.view).ok_or("The two axles are no bike's.")?;
        let bb = self.shot.bb.ok_or("Click the BB first.")?;
        let told = self.shot.known.told();
        let naming = Naming {
            squared: &squared,
            bb,
            told: &told,
        };
        let followed = follow(
            &self.times,
            &self.blobs,
            self.start,
            &self.shot.marks,
            &naming,
        );
        let clip = Clip {
            shot: self.shot.clone(),
            times: self.times,
            followed,
        };
        let read = clip.read()?;
        Ok(ClipFollowed {
            followed: clip.followed,
            read,
        })
    }
}

/// The dots of a picture from ahead or behind.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AcrossFound {
    /// What was clicked, each on its dot's middle where there is one.
    pub marks: Vec<AcrossMark>,
    /// Dots that nobody clicked.
    pub rejected: Vec<[f64; 2]>,
    /// What the dots look like.
    pub learnt: Learnt,
    /// What there is to say and do.
    pub messages: Vec<String>,
}

/// Finds the dots that were clicked in a picture from ahead or behind: they look like the first of them.
pub fn find_across(shot: &AcrossShot, image: &Image) -> Result<AcrossFound, String> {
    let mut messages = Vec::from_iter(image.light().map(str::to_owned));
    let first = shot.marks.first().ok_or("Click the dots first.")?;
    let dot_px = shot.dot_px()?;
    let (learnt, blobs) = dots_like(image, first.at, dot_px)?;
    let marks = shot.on_dots(&blobs, dot_px);
    let missed: Vec<String> = (marks.iter())
        .filter(|mark| !mark.dot)
        .map(|mark| sided(&lower(mark.part.label()), Some(mark.side)))
        .collect();
    if !missed.is_empty() {
        messages.push(format!(
            "No dot where it was clicked: {}.",
            missed.join("; ")
        ));
    }
    let is_free = |blob: &&Blob| {
        let on =
            |mark: &AcrossMark| (mark.at[0] - blob.at[0]).hypot(mark.at[1] - blob.at[1]) < 0.01;
        !marks.iter().any(|mark| mark.dot && on(mark))
    };
    Ok(AcrossFound {
        rejected: blobs.iter().filter(is_free).map(|blob| blob.at).collect(),
        marks,
        learnt,
        messages,
    })
}

/// A clip from ahead or behind to be followed.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AcrossAsked {
    /// Plumb, pedals, tyre, and the dots as they are named in the start frame.
    pub shot: AcrossShot,
    /// When each frame was, s.
    pub times: Vec<f64>,
    /// The frame the dots are named in.
    pub start: usize,
    /// What looked like a dot, frame by frame.
    pub blobs: Vec<Vec<Blob>>,
}

/// A clip from ahead or behind followed, with what it tells.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AcrossFollowed {
    /// Where each dot was, frame by frame.
    pub followed: Vec<AcrossWay>,
    /// What it tells.
    pub read: AcrossRead,
}

impl AcrossAsked {
    /// Follows the dots and reads the stroke.
    pub fn follow(self) -> Result<AcrossFollowed, String> {
        refuse_frames(&self.times, &self.blobs)?;
        let followed = follow_across(&self.shot, &self.times, &self.blobs, self.start)?;
        let clip = AcrossClip {
            shot: self.shot,
            times: self.times,
            followed,
        };
        let read = clip.read()?;
        Ok(AcrossFollowed {
            followed: clip.followed,
            read,
        })
    }
}

/// A clip has dots, or none, for each of its frames.
fn refuse_frames(times: &[f64], blobs: &[Vec<Blob>]) -> Result<(), String> {
    if let Some(words) = refuse_times(times) {
        return Err(format!("{words}."));
    }
    if blobs.len() != times.len() {
        return Err("A clip has dots, or none, for every frame.".to_owned());
    }
    Ok(())
}

impl Bench {
    /// How far from the BB along the bike the tyre's foot is that a camera there sees.
    pub fn tyre_mm(&self, from: SeenFrom) -> Result<f64, Declined> {
        let input = self.input(self.now()?)?;
        Ok(match from {
            SeenFrom::Ahead => input.frame.front_axle().x,
            SeenFrom::Behind => -input.frame.rear_axle().x,
        })
    }
}
