//! A clip's figures: dots on their planes, rows taken out, and from there the same stroke by stroke as markers.

use super::follow::Followed;
use super::squaring::{BB_ASIDE_MM, Pixel, Squared, square};
use super::still::{Doubt, FilmFigure, FilmValue, Shot, aside, spread};
use crate::capture::{
    Answers, BodyPoint, Figure, MarkerUnit, Sample, Told, Track, Tracks, circle, look, shifted,
    step,
};
use crate::plane::Point;
use crate::rule::rules;
use crate::units::Side;
use crate::words::sentence;
use nalgebra::{DMatrix, DVector};
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// A reading of rows beyond this is none.
    const READOUT_MS: f64 = 40.0, " ms", House;
    /// Slower, it is asked whether a clip is in slow motion.
    const SLOW_RPM: f64 = 40.0, " rpm", House;
    /// Strokes it takes to read it.
    const STROKES_FOR_ROWS: f64 = 3.0, "", House;
}

/// How often a joint was seen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeenIn {
    /// The joint.
    pub part: BodyPoint,
    /// In so many frames.
    pub frames: usize,
}

/// What a clip tells.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClipRead {
    /// Turns a minute.
    pub cadence_rpm: f64,
    /// How long the camera takes to read its rows from top to bottom, ms; taken out where it is known.
    pub readout_ms: Option<f64>,
    /// The figures, each with its spread.
    pub values: Vec<FilmValue>,
    /// How many frames each joint was seen in, of all.
    pub seen: Vec<SeenIn>,
    /// Frames.
    pub frames: usize,
    /// The stroke as it is read.
    pub sample: Sample,
    /// What there is to say.
    pub messages: Vec<String>,
}

/// A clip as it is kept: what was clicked and followed, none of its pictures.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Clip {
    /// Wheels and BB, which stay; what is known.
    pub shot: Shot,
    /// When each frame was, s.
    pub times: Vec<f64>,
    /// Where each joint was.
    pub followed: Vec<Followed>,
}

/// The most frames a clip may have.
const MOST_FRAMES: usize = 3000;

/// What is wrong with when a clip's frames were.
pub fn refuse_times(times: &[f64]) -> Option<String> {
    if !(1..=MOST_FRAMES).contains(&times.len()) {
        return Some(format!("A clip has 1 to {MOST_FRAMES} frames"));
    }
    let go_on =
        times.windows(2).all(|pair| pair[1] > pair[0]) && times.iter().all(|t| t.is_finite());
    (!go_on).then(|| "Time goes on from frame to frame".to_owned())
}

impl Clip {
    /// The side it shows.
    pub fn side(&self) -> Side {
        if self.shot.view.faces_left {
            Side::Left
        } else {
            Side::Right
        }
    }

    /// Reads it.
    pub fn read(&self) -> Result<ClipRead, String> {
        let squared = square(&self.shot.view).ok_or("The two axles are no bike's.")?;
        let bb = self.shot.bb.ok_or("Click the BB first.")?;
        let side = self.side();
        let told = self.shot.known.told();
        read_clip(
            &squared,
            bb,
            side,
            &self.times,
            &self.followed,
            self.shot.view.size[1],
            &told,
        )
    }
}

impl ClipRead {
    /// The stroke with the figures alone that film from the side can tell.
    pub fn told(self) -> Sample {
        self.sample.only(|figure| on_film(figure).is_some())
    }
}

/// What a figure of the stroke is on film.
fn on_film(figure: Figure) -> Option<FilmFigure> {
    use Figure as F;
    Some(match figure {
        F::KneeSmallest | F::KneeLargest | F::Knee0 | F::Knee90 | F::Knee180 | F::KneeInLine => {
            FilmFigure::Knee
        }
        F::HipClosed | F::HipOpen => FilmFigure::Hip,
        F::Torso => FilmFigure::Torso,
        F::Shoulder => FilmFigure::Shoulder,
        F::ShoulderToWrist => FilmFigure::ShoulderToWrist,
        F::Elbow => FilmFigure::Elbow,
        F::Foot0 | F::Foot90 | F::Foot180 | F::Foot270 | F::AnkleSmallest | F::AnkleLargest => {
            FilmFigure::Foot
        }
        F::KneeOverAxle => FilmFigure::KneeOverAxle,
        _ => return None,
    })
}

/// Reads a clip of one side: figures over its strokes.
pub fn read_clip(
    squared: &Squared,
    bb: Pixel,
    side: Side,
    times: &[f64],
    followed: &[Followed],
    height_px: f64,
    told: &Told,
) -> Result<ClipRead, String> {
    let readout = readout(times, followed, bb, height_px);
    let rows = readout.unwrap_or(0.0) / 1000.0;
    let origin = squared.camera.on_plane(bb, BB_ASIDE_MM).unwrap_or_default();
    let letter = if side == Side::Left { "L" } else { "R" };
    let markers: Vec<Track> = followed
        .iter()
        .map(|way| {
            let even = evened(times, &way.at, rows, height_px);
            let place = |at: Pixel| {
                let at = squared.on_plane(at, aside(way.part))? - origin;
                Some([at.x, at.y, 0.0])
            };
            let places = even.into_iter().map(|at| at.and_then(place)).collect();
            Track {
                name: format!("{letter}_{}", way.part.key()),
                places,
            }
        })
        .collect();
    let step = step(times).ok_or("The clip has one frame.")?;
    let tracks = Tracks {
        rate_hz: 1.0 / step,
        times: times.to_vec(),
        unit: Some(MarkerUnit::Millimetre),
        markers,
    };
    let sample =
        look(&tracks, told, &Answers::default()).map_err(|error| sentence(&error.words))?;
    let mut values = Vec::new();
    for figure in Figure::ALL {
        let Some(film) = on_film(*figure).filter(|film| film.counts(squared)) else {
            continue;
        };
        let Some(stat) = sample.stat(side, *figure) else {
            continue;
        };
        let doubt = Doubt {
            strokes: stat.n,
            rows_out: readout.is_some(),
        };
        let spec = figure.spec();
        let spread = spread(film, squared, true, doubt).hypot(stat.se);
        values.push(FilmValue::of(
            film,
            spec.key,
            stat.mean,
            spread,
            spec.output,
        ));
    }
    let mut messages = Vec::new();
    match readout {
        Some(ms) => messages.push(format!("The camera reads its rows in {ms:.0} ms: taken out.")),
        None => messages.push("How the camera reads its rows was not seen: least knee and knee over axle bear more doubt.".to_owned()),
    }
    messages.extend(slow_motion(sample.cadence_rpm));
    Ok(ClipRead {
        cadence_rpm: sample.cadence_rpm,
        readout_ms: readout,
        values,
        seen: followed
            .iter()
            .map(|way| SeenIn {
                part: way.part,
                frames: way.at.iter().flatten().count(),
            })
            .collect(),
        frames: times.len(),
        sample,
        messages,
    })
}

/// What is asked of a clip in which hardly anybody would pedal so slowly.
pub(super) fn slow_motion(cadence_rpm: f64) -> Option<String> {
    (cadence_rpm < SLOW_RPM)
        .then(|| format!("{cadence_rpm:.0} rpm: is this slow motion? Say so beside the picture."))
}

/// How long the camera takes from its first row to its last, ms: what the pedal's angle has in step with where it is in the picture.
fn readout(times: &[f64], followed: &[Followed], bb: Pixel, height_px: f64) -> Option<f64> {
    const POWERS: usize = 8;
    let pedal = followed.iter().find(|way| way.part == BodyPoint::Pedal)?;
    let seen: Vec<(f64, Point)> = times
        .iter()
        .zip(&pedal.at)
        .filter_map(|(t, at)| at.map(|[u, v]| (*t, Point::new(u, -v))))
        .collect();
    let points: Vec<Point> = seen.iter().map(|(_, at)| *at).collect();
    let (centre, radius) = circle(&points)?;
    if centre.distance(Point::new(bb[0], -bb[1])) > radius {
        return None;
    }
    let mut turned = Vec::with_capacity(seen.len());
    let mut last: Option<f64> = None;
    // Whichever way the rider faces, the crank's angle grows.
    let toward = turns_right(&seen, centre);
    for (_, at) in &seen {
        let from = *at - centre;
        let angle = (toward * from.x).atan2(from.y);
        let angle = last.map_or(angle, |last| {
            angle + std::f64::consts::TAU * ((last + 0.3 - angle) / std::f64::consts::TAU).round()
        });
        last = Some(angle);
        turned.push(angle);
    }
    let (first, end) = (*turned.first()?, *turned.last()?);
    if (end - first) / std::f64::consts::TAU < STROKES_FOR_ROWS {
        return None;
    }
    let (begin, whole) = (seen[0].0, seen[seen.len() - 1].0 - seen[0].0);
    let mut rows = DMatrix::zeros(seen.len(), POWERS + 4);
    for (row, ((t, _), angle)) in seen.iter().zip(&turned).enumerate() {
        let x = 2.0 * (t - begin) / whole - 1.0;
        for power in 0..POWERS {
            rows[(row, power)] = x.powi(power as i32);
        }
        let (s, c) = angle.sin_cos();
        let (s2, c2) = (2.0 * angle).sin_cos();
        for (column, value) in [c, s, c2, s2].into_iter().enumerate() {
            rows[(row, POWERS + column)] = value;
        }
    }
    let fitted = rows
        .svd(true, true)
        .solve(&DVector::from_vec(turned), 1e-9)
        .ok()?;
    let speed = (end - first) / whole;
    let ms = -1000.0 * fitted[POWERS] * height_px / (speed * radius);
    (ms.abs() <= READOUT_MS).then_some(ms)
}

/// +1 where the pedal goes round clockwise in the picture, as it does for a rider who faces right.
fn turns_right(seen: &[(f64, Point)], centre: Point) -> f64 {
    let area: f64 = seen
        .windows(2)
        .map(|pair| {
            let (a, b) = (pair[0].1 - centre, pair[1].1 - centre);
            a.y * b.x - a.x * b.y
        })
        .sum();
    if area >= 0.0 { 1.0 } else { -1.0 }
}

/// Every place at its frame's own time: seen `rows · v / height` later than the frame began, brought back by a spline.
fn evened(
    times: &[f64],
    places: &[Option<[f64; 2]>],
    rows: f64,
    height_px: f64,
) -> Vec<Option<Pixel>> {
    if rows == 0.0 {
        return places.to_vec();
    }
    shifted(times, places, |[_, v]| rows * v / height_px)
}
