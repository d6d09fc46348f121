//! Film from ahead and from behind: where knees go, how heels lean, how hips dip.
//!
//! Dots sit on both kneecaps, second toes and hips, or on both heels and hips. The picture is levelled by a plumb and scaled by the
//! pedals' ends; a dot that is nearer to the camera is brought back to its true place by how far ahead of the bottom bracket it is,
//! and a tyre's foot tells how far aside the camera stood. Strokes begin at the top of each foot's own path.

use super::clip::{refuse_times, slow_motion};
use super::find::{Blob, DOT_WIDE_MM};
use super::follow::{Scale, Way, expected, speed, taken_by, turn, walks};
use super::squaring::{Pixel, apart};
use crate::capture::{
    BodyPoint, Drawn, Figure, KneeFront, Known, Limbs, PelvisTake, Sample, Told, Turn, Turned,
    clock, degrees, evened, lean, mean_curve, no_figures, nothing_real, off_line, phases, regular,
    smoothed, stats,
};
use crate::rule::rules;
use crate::units::{Side, Sides};
use crate::words::{sentence, sided, words};
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// From one pedal's outer end to the other's, across the bike, where it was not taped.
    const PEDALS_MM: f64 = 340.0, " mm", House;
    /// Camera from the bike, and lens above the floor, where they were not told.
    const CAMERA_MM: (f64, f64) = (3000.0, 950.0), " mm", House;
    /// BB above the floor.
    const BB_MM: f64 = 270.0, " mm", House;
    /// Hip joints behind the BB.
    const HIP_BEHIND_MM: f64 = 190.0, " mm", House;
    /// How far ahead of its joint a dot is: toe's of the axle, kneecap's, front of the hip's.
    const DOT_AHEAD_MM: [f64; 3] = [40.0, 55.0, 90.0], " mm", House;
    /// Foot of the front tyre ahead of the BB, and of the rear one behind it, where the bike is not known.
    const TYRE_MM: (f64, f64) = (590.0, 410.0), " mm", House;
    /// What the view leaves of doubt in a knee's place: with the tyre's foot, and without it (three degrees aside).
    const VIEW_MM: (f64, f64) = (4.0, 12.0), " mm", House;
    /// The same of its swing.
    const SWING_MM: (f64, f64) = (3.0, 8.0), " mm", House;
    /// A foot that rises and falls by less than this share of two cranks does not pedal.
    const PEDALS: f64 = 0.5, "", House;
    /// The top of a foot's path is read from this share of its height upward.
    const TOP: f64 = 0.85, "", House;
    /// A click this many dots' widths from a dot's middle is meant for it.
    const CLICKED_NEAR: f64 = 1.0, "", House;
    /// A dot this far over the middle is of the other side.
    const OVER_MIDDLE_MM: f64 = 60.0, " mm", House;
}

words! {
    /// Where the camera stands.
    pub enum SeenFrom {
        Ahead "ahead" "From the front",
        Behind "behind" "From behind",
    }
}

impl SeenFrom {
    /// The points a picture from there is asked for, in the order they are clicked: right ones first.
    pub const fn parts(self) -> &'static [BodyPoint] {
        match self {
            Self::Ahead => &[BodyPoint::Toe, BodyPoint::Knee, BodyPoint::Hip],
            Self::Behind => &[BodyPoint::HeelLower, BodyPoint::HeelUpper, BodyPoint::Hip],
        }
    }

    /// +1 where the rider's right is on the picture's right.
    const fn right(self) -> f64 {
        match self {
            Self::Ahead => -1.0,
            Self::Behind => 1.0,
        }
    }
}

/// A point of one side.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AcrossMark {
    /// Whose.
    pub side: Side,
    /// What it is.
    pub part: BodyPoint,
    /// Where.
    pub at: [f64; 2],
    /// Whether it is the middle of a found dot; else it was clicked.
    #[serde(default)]
    pub dot: bool,
}

/// A picture from ahead or behind as it was clicked.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AcrossShot {
    /// Where the camera stands.
    pub from: SeenFrom,
    /// Width and height, px.
    pub size: [f64; 2],
    /// Two points of something upright: a plumb, a door's frame.
    #[serde(default)]
    pub plumb: Option<[[f64; 2]; 2]>,
    /// The outer ends of the right and the left pedal with the cranks upright.
    pub pedals: [[f64; 2]; 2],
    /// Between them across the bike, taped, mm.
    #[serde(default)]
    pub pedals_mm: Option<f64>,
    /// Where the nearer tyre meets the floor.
    #[serde(default)]
    pub tyre: Option<[f64; 2]>,
    /// How far that is from the BB along the bike, mm.
    #[serde(default)]
    pub tyre_mm: Option<f64>,
    /// Camera to bike, paced, mm.
    #[serde(default)]
    pub distance_mm: Option<f64>,
    /// Lens above the floor, mm.
    #[serde(default)]
    pub lens_mm: Option<f64>,
    /// Points of the rider.
    #[serde(default)]
    pub marks: Vec<AcrossMark>,
    /// What is known of the rider.
    #[serde(default)]
    pub known: Known,
}

/// Where one point was, frame by frame.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AcrossWay {
    /// Whose.
    pub side: Side,
    /// What it is.
    pub part: BodyPoint,
    /// A place a frame.
    pub at: Vec<Option<[f64; 2]>>,
}

/// A clip from ahead or behind as it is kept: what was clicked and followed, none of its pictures.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AcrossClip {
    /// What stays: plumb, pedals, tyre; what is known.
    pub shot: AcrossShot,
    /// When each frame was, s.
    pub times: Vec<f64>,
    /// Where each point was.
    pub followed: Vec<AcrossWay>,
}

/// One figure read from ahead or behind.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AcrossValue {
    /// Which.
    pub figure: Figure,
    /// Of which side; of the pelvis none.
    pub side: Option<Side>,
    /// The fitter's word, with the side.
    pub label: String,
    /// As it is written, with its spread: "−14 mm ± 7".
    pub words: String,
    /// Its value, ° or mm.
    pub value: f64,
    /// One standard deviation, worked out.
    pub spread: f64,
}

/// What a clip from ahead or behind tells.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AcrossRead {
    /// Camera aside of the bike's line, to the rider's right, °; none where no tyre's foot was clicked.
    pub aside_deg: Option<f64>,
    /// The figures, each with its spread.
    pub values: Vec<AcrossValue>,
    /// The stroke as it is read.
    pub sample: Sample,
    /// What there is to say.
    pub messages: Vec<String>,
}

/// A picture levelled and scaled: from pixels to millimetres across and up from the BB.
struct Level {
    from: SeenFrom,
    origin: Pixel,
    /// Up in the picture, px.
    up: Pixel,
    px_per_mm: f64,
    distance: f64,
    /// Lens above the BB.
    lens: f64,
    /// How far to the rider's right a point is for each millimetre it is nearer to the camera.
    aside: Option<f64>,
}

impl Level {
    fn of(shot: &AcrossShot, told: &Told) -> Result<Self, String> {
        let [right, left] = shot.pedals;
        let (du, dv) = (right[0] - left[0], right[1] - left[1]);
        let across = shot.pedals_mm.unwrap_or(PEDALS_MM);
        let whole = across.hypot(2.0 * told.crank_or_usual());
        let px_per_mm = du.hypot(dv) / whole;
        if px_per_mm < 1e-3 {
            return Err("The two pedals are one point: click the outer end of each.".to_owned());
        }
        let up = match shot.plumb {
            Some([one, other]) => {
                let (low, high) = if one[1] > other[1] {
                    (one, other)
                } else {
                    (other, one)
                };
                let (du, dv) = (high[0] - low[0], high[1] - low[1]);
                let length = du.hypot(dv);
                if length < 20.0 {
                    return Err("The plumb's two points are one: click them far apart.".to_owned());
                }
                [du / length, dv / length]
            }
            None => [0.0, -1.0],
        };
        let mut level = Self {
            from: shot.from,
            origin: [
                f64::midpoint(right[0], left[0]),
                f64::midpoint(right[1], left[1]),
            ],
            up,
            px_per_mm,
            distance: shot.distance_mm.unwrap_or(CAMERA_MM.0),
            lens: shot.lens_mm.unwrap_or(CAMERA_MM.1) - BB_MM,
            aside: None,
        };
        level.aside = shot.tyre.map(|tyre| {
            let usual = match shot.from {
                SeenFrom::Ahead => TYRE_MM.0,
                SeenFrom::Behind => TYRE_MM.1,
            };
            let nearer = shot.tyre_mm.unwrap_or(usual);
            -level.flat(tyre)[1] * (level.distance - nearer) / level.distance / nearer
        });
        Ok(level)
    }

    /// Up and to the rider's right as if everything were as far as the BB, mm.
    fn flat(&self, at: Pixel) -> [f64; 2] {
        let (du, dv) = (at[0] - self.origin[0], at[1] - self.origin[1]);
        let up = du * self.up[0] + dv * self.up[1];
        let right = dv * self.up[0] - du * self.up[1];
        [
            up / self.px_per_mm,
            self.from.right() * right / self.px_per_mm,
        ]
    }

    /// The true place of a point so far ahead of the BB.
    fn placed(&self, [up, right]: [f64; 2], ahead: f64) -> [f64; 2] {
        let nearer = -self.from.right() * ahead;
        let shrunk = (self.distance - nearer) / self.distance;
        [
            self.lens + (up - self.lens) * shrunk,
            right * shrunk + nearer * self.aside.unwrap_or(0.0),
        ]
    }

    fn aside_deg(&self) -> Option<f64> {
        self.aside.map(|aside| aside.atan().to_degrees())
    }
}

impl AcrossShot {
    /// How wide a dot is in the picture, px.
    pub fn dot_px(&self) -> Result<f64, String> {
        let level = Level::of(self, &self.known.told())?;
        Ok(DOT_WIDE_MM * level.px_per_mm)
    }

    /// The marks, each on the middle of the dot it was clicked on; no dot is two marks'.
    pub fn on_dots(&self, blobs: &[Blob], dot_px: f64) -> Vec<AcrossMark> {
        let mut free: Vec<&Blob> = blobs.iter().collect();
        let onto = |mark: &AcrossMark| {
            let off = |blob: &Blob| apart(blob.at, mark.at);
            let nearest = (free.iter().enumerate())
                .map(|(index, blob)| (index, off(blob)))
                .min_by(|a, b| a.1.total_cmp(&b.1));
            match nearest.filter(|(_, off)| *off <= CLICKED_NEAR * dot_px) {
                Some((index, _)) => AcrossMark {
                    at: free.swap_remove(index).at,
                    dot: true,
                    ..*mark
                },
                None => AcrossMark {
                    dot: false,
                    ..*mark
                },
            }
        };
        self.marks.iter().map(onto).collect()
    }
}

/// What is wrong with a clip from ahead or behind, with where in it.
pub fn refuse_across(clip: &AcrossClip) -> Option<(&'static str, String)> {
    if let Some(words) = refuse_times(&clip.times) {
        return Some(("times", words));
    }
    let frames = clip.times.len();
    (clip.followed.iter())
        .any(|way| way.at.len() != frames)
        .then(|| ("followed", "A place or none for each frame".to_owned()))
}

/// Follows the points that are marked through the frames, from the picture `start` in which they were named.
pub fn follow_across(
    shot: &AcrossShot,
    times: &[f64],
    blobs: &[Vec<Blob>],
    start: usize,
) -> Result<Vec<AcrossWay>, String> {
    let told = shot.known.told();
    let level = Level::of(shot, &told)?;
    let frames = times.len().min(blobs.len());
    if start >= frames {
        return Err("The frame the dots are named in is not in the clip.".to_owned());
    }
    let mut all: Vec<AcrossWay> = (shot.marks.iter())
        .map(|mark| AcrossWay {
            side: mark.side,
            part: mark.part,
            at: vec![None; frames],
        })
        .collect();
    for order in walks(&blobs[..frames], start) {
        let scale = Scale::of(times, &order, level.px_per_mm);
        let begin = |mark: &AcrossMark| {
            Way::from(
                (mark.side, mark.part),
                speed(mark.part),
                mark.at,
                &blobs[start],
            )
        };
        let mut ways: Vec<Way<(Side, BodyPoint)>> = shot.marks.iter().map(begin).collect();
        for (walked, frame) in order.iter().enumerate().skip(1) {
            let turn = (ways.iter())
                .filter(|way| shot.from.parts()[0] == way.part.1)
                .find_map(|way| turn(way, level.origin[1], &scale));
            let wanted: Vec<_> = (ways.iter())
                .map(|way| expected(way, walked, turn, &scale))
                .collect();
            let taken = taken_by(&ways, &wanted, &blobs[*frame], |_| false);
            for (way, taken) in ways.iter_mut().zip(taken) {
                let own = |at: Pixel| way.part.0.outward() * level.flat(at)[1] > -OVER_MIDDLE_MM;
                let taken = taken.filter(|(at, _)| own(*at));
                way.go_on(walked, taken);
            }
        }
        for (way, followed) in ways.iter().zip(&mut all) {
            way.put_down(&order, &mut followed.at);
        }
    }
    Ok(all)
}

/// A point over one stroke: up and to the right, as if it were as far as the BB.
type Flat = Vec<[f64; 2]>;

/// A point made even.
struct Even {
    of: (Side, BodyPoint),
    places: Vec<Option<[f64; 3]>>,
}

/// A clip made even: every point as millimetres on the BB's plane, and the strokes of each side.
struct Cut {
    rate_hz: f64,
    points: Vec<Even>,
    strokes: Sides<Vec<(f64, f64)>>,
}

impl Cut {
    fn of(level: &Level, clip: &AcrossClip, crank_mm: f64) -> Self {
        let (clock, is_even) = clock(&clip.times, 30.0);
        let points: Vec<_> = (clip.followed.iter())
            .map(|way| {
                let flat = |at: &Option<[f64; 2]>| {
                    at.map(|at| level.flat(at))
                        .map(|[up, right]| [0.0, up, right])
                };
                let places: Vec<_> = way.at.iter().map(flat).collect();
                let places = if is_even {
                    places
                } else {
                    evened(&clip.times, &places, &clock)
                };
                Even {
                    of: (way.side, way.part),
                    places: smoothed(places, &clock),
                }
            })
            .collect();
        let foot = level.from.parts()[0];
        let strokes = Sides::from_fn(|side| {
            let own = points.iter().find(|point| point.of == (side, foot));
            own.map(|point| strokes(&point.places, crank_mm))
                .unwrap_or_default()
        });
        Self {
            rate_hz: clock.rate_hz,
            points,
            strokes,
        }
    }

    /// A point at crank 0, 1, … 360 of a stroke, where it was seen all through.
    fn turn(&self, of: (Side, BodyPoint), (start, end): (f64, f64)) -> Option<Flat> {
        let places = &self.points.iter().find(|point| point.of == of)?.places;
        let first = (start.floor() as usize).saturating_sub(2);
        let last = (end.ceil() as usize + 2).min(places.len() - 1);
        let whole: Option<Vec<[f64; 2]>> = (first..=last)
            .map(|frame| places[frame].map(|[_, up, right]| [up, right]))
            .collect();
        let x: Vec<f64> = (first..=last)
            .map(|frame| 360.0 * (frame as f64 - start) / (end - start))
            .collect();
        degrees(&x, &whole?)
    }
}

/// From top to top of a foot's path, in frames.
fn strokes(places: &[Option<[f64; 3]>], crank_mm: f64) -> Vec<(f64, f64)> {
    let heights = || places.iter().flatten().map(|place| place[1]);
    let (low, high) = heights().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), y| {
        (low.min(y), high.max(y))
    });
    if high - low < PEDALS * 2.0 * crank_mm {
        return Vec::new();
    }
    let (middle, near_top) = (f64::midpoint(low, high), low + TOP * (high - low));
    let mut tops = Vec::new();
    let mut frame = 1;
    while frame < places.len() {
        let up = |frame: usize| places[frame].map(|place| place[1]);
        if !(up(frame - 1).is_some_and(|y| y < middle) && up(frame).is_some_and(|y| y >= middle)) {
            frame += 1;
            continue;
        }
        let end = (frame..places.len()).find(|at| up(*at).is_none_or(|y| y < middle));
        let Some(end) = end.filter(|end| up(*end).is_some()) else {
            frame = end.map_or(places.len(), |end| end + 1);
            continue;
        };
        let crown: Vec<(f64, f64)> = (frame..end)
            .filter_map(|at| Some((at as f64, up(at)?)))
            .filter(|(_, y)| *y >= near_top)
            .collect();
        tops.extend(vertex(&crown));
        frame = end;
    }
    let all = tops.windows(2).map(|pair| (pair[0], pair[1])).collect();
    regular(all, |(start, end)| end - start)
}

/// Where a parabola through points is highest, by least squares.
fn vertex(points: &[(f64, f64)]) -> Option<f64> {
    if points.len() < 3 {
        return None;
    }
    let n = points.len() as f64;
    let middle = points.iter().map(|(x, _)| x).sum::<f64>() / n;
    let moment = |power: i32| {
        points
            .iter()
            .map(|(x, _)| (x - middle).powi(power))
            .sum::<f64>()
    };
    let with = |power: i32| {
        let each = points.iter().map(|(x, y)| (x - middle).powi(power) * y);
        each.sum::<f64>()
    };
    let normal = nalgebra::Matrix3::new(
        n,
        moment(1),
        moment(2), //
        moment(1),
        moment(2),
        moment(3), //
        moment(2),
        moment(3),
        moment(4),
    );
    let fitted = normal
        .lu()
        .solve(&nalgebra::Vector3::new(with(0), with(1), with(2)))?;
    (fitted[2] < 0.0).then(|| middle - fitted[1] / (2.0 * fitted[2]))
}

/// One leg over one stroke, from ahead.
struct Leg {
    off_line: Vec<f64>,
    knee: Flat,
}

fn leg(level: &Level, cut: &Cut, side: Side, stroke: (f64, f64), told: &Told) -> Option<Leg> {
    let of = |part| cut.turn((side, part), stroke);
    let (toe, knee, hip) = (
        of(BodyPoint::Toe)?,
        of(BodyPoint::Knee)?,
        of(BodyPoint::Hip)?,
    );
    let (crank, thigh) = (told.crank_or_usual(), told.thigh_or_usual());
    let mut leg = Leg {
        off_line: Vec::with_capacity(361),
        knee: Vec::with_capacity(361),
    };
    for degree in 0..=360 {
        let ahead = crank * (degree as f64).to_radians().sin() + DOT_AHEAD_MM[0];
        let toe = level.placed(toe[degree], ahead);
        let hip = level.placed(hip[degree], DOT_AHEAD_MM[2] - HIP_BEHIND_MM);
        // How far ahead of the hip the knee is follows from how far below it, and from the thigh.
        let mut at = knee[degree];
        for _ in 0..3 {
            let below = hip[0] - at[0];
            let ahead = (thigh * thigh - below * below).max(0.0).sqrt();
            at = level.placed(knee[degree], ahead - HIP_BEHIND_MM + DOT_AHEAD_MM[1]);
        }
        leg.off_line.push(off_line(side, toe, at, hip));
        leg.knee.push([side.outward() * at[1], at[0]]);
    }
    Some(leg)
}

/// How far a heel leans toward the bike at every whole degree of a stroke, from behind.
fn heel(cut: &Cut, side: Side, stroke: (f64, f64)) -> Option<Vec<f64>> {
    let of = |part| cut.turn((side, part), stroke);
    let (lower, upper) = (of(BodyPoint::HeelLower)?, of(BodyPoint::HeelUpper)?);
    let all = lower.into_iter().zip(upper);
    Some(all.map(|(lower, upper)| lean(side, lower, upper)).collect())
}

fn limbs(level: &Level, cut: &Cut, side: Side, told: &Told) -> Option<Limbs> {
    let strokes = cut.strokes.of(side);
    let mut each: Vec<Vec<(Figure, f64)>> = Vec::new();
    let mut drawn = Drawn::default();
    match level.from {
        SeenFrom::Ahead => {
            let legs: Vec<Leg> = (strokes.iter())
                .filter_map(|stroke| leg(level, cut, side, *stroke, told))
                .collect();
            each.extend(legs.iter().map(|leg| {
                let (push, rise) = phases(&leg.off_line);
                vec![
                    (Figure::KneePush, push),
                    (Figure::KneeRise, rise),
                    (Figure::KneeSwing, rise - push),
                ]
            }));
            let knees: Vec<Flat> = legs.iter().map(|leg| leg.knee.clone()).collect();
            let lines: Vec<Vec<[f64; 1]>> = (legs.iter())
                .map(|leg| leg.off_line.iter().map(|off| [*off]).collect())
                .collect();
            drawn.knee_front = mean_curve(&knees);
            drawn.knee_off_line = mean_curve(&lines).into_iter().map(|[off]| off).collect();
        }
        SeenFrom::Behind => {
            let heels = strokes.iter().filter_map(|stroke| heel(cut, side, *stroke));
            each.extend(heels.map(|lean| {
                let (push, rise) = phases(&lean);
                vec![(Figure::FootTiltPush, push), (Figure::FootTiltRise, rise)]
            }));
        }
    }
    let figures = stats(&each);
    if figures.is_empty() {
        return None;
    }
    Some(Limbs {
        front: KneeFront::of(&figures, spread_of(Figure::KneePush, level)),
        figures,
        bottom_roughness_deg: None,
        drawn,
    })
}

fn pelvis(level: &Level, cut: &Cut, told: &Told) -> Option<PelvisTake> {
    let dot = match level.from {
        SeenFrom::Ahead => DOT_AHEAD_MM[2],
        SeenFrom::Behind => -DOT_AHEAD_MM[2],
    };
    let hip = |side, stroke| -> Option<Turn> {
        let flat = cut.turn((side, BodyPoint::Hip), stroke)?;
        let placed = |at: [f64; 2]| level.placed(at, dot - HIP_BEHIND_MM);
        let deep = |at| {
            let [up, right] = placed(at);
            [0.0, up, right]
        };
        Some(flat.into_iter().map(deep).collect())
    };
    let turned: Vec<Turned> = (cut.strokes.right.iter())
        .filter_map(|stroke| {
            let (left, right) = (hip(Side::Left, *stroke)?, hip(Side::Right, *stroke)?);
            Some(Turned::between(&left, &right))
        })
        .collect();
    // Nothing is seen from here of twist.
    PelvisTake::over(&turned, told.hip_spacing_mm, |figure| {
        figure != Figure::Twist
    })
}

/// One standard deviation of a figure, without its strokes'.
fn spread_of(figure: Figure, level: &Level) -> f64 {
    let pick = |(squared, not): (f64, f64)| if level.aside.is_some() { squared } else { not };
    let view = match figure {
        Figure::KneePush | Figure::KneeRise => pick(VIEW_MM),
        Figure::KneeSwing => pick(SWING_MM),
        _ => 0.0,
    };
    figure.spec().put_on.hypot(view)
}

impl AcrossClip {
    /// Reads it: figures over its strokes, each with its spread.
    pub fn read(&self) -> Result<AcrossRead, String> {
        let told = self.shot.known.told();
        let level = Level::of(&self.shot, &told)?;
        let cut = Cut::of(&level, self, told.crank_or_usual());
        let most = cut.strokes.left.len().max(cut.strokes.right.len());
        if most == 0 {
            return Err("Nobody pedals here: the feet do not go up and down.".to_owned());
        }
        if let Some(words) = no_figures(most) {
            return Err(sentence(&words));
        }
        let sides = Sides::from_fn(|side| limbs(&level, &cut, side, &told));
        let pelvis = pelvis(&level, &cut, &told);
        if sides.left.is_none() && sides.right.is_none() && pelvis.is_none() {
            return Err("Too few strokes were seen whole: the dots were hidden.".to_owned());
        }
        let turns = cut.strokes.left.iter().chain(&cut.strokes.right);
        let frames: f64 = turns.clone().map(|(start, end)| end - start).sum();
        let cadence_rpm = 60.0 * cut.rate_hz * turns.count() as f64 / frames;
        let sample = Sample {
            cadence_rpm,
            seconds: self.times.last().unwrap_or(&0.0) - self.times.first().unwrap_or(&0.0),
            rate_hz: cut.rate_hz,
            planar: false,
            crank_mm: told.crank_or_usual(),
            turning_ripple: None,
            sides,
            pelvis,
            asks: Vec::new(),
            messages: told.estimated.clone(),
        };
        Ok(AcrossRead {
            aside_deg: level.aside_deg(),
            values: values(&sample, &level),
            messages: self.messages(&level, &sample, most),
            sample,
        })
    }

    fn messages(&self, level: &Level, sample: &Sample, strokes: usize) -> Vec<String> {
        let mut all = Vec::new();
        match level.aside_deg() {
            Some(aside) => all.push(format!(
                "The camera stood {:.1}° to the rider's {}: taken out.",
                aside.abs(),
                if aside < 0.0 { "left" } else { "right" }
            )),
            None => all.push(
                "Without the tyre's foot it is not known how far aside the camera stood: knees bear more doubt.".to_owned(),
            ),
        }
        if self.shot.plumb.is_none() {
            all.push("Not levelled: click two points of something upright.".to_owned());
        }
        all.extend(nothing_real(strokes));
        all.extend(slow_motion(sample.cadence_rpm));
        all
    }
}

/// Every figure of a sample with its spread in words.
fn values(sample: &Sample, level: &Level) -> Vec<AcrossValue> {
    let mut all = Vec::new();
    for figure in Figure::ALL {
        let spec = figure.spec();
        for side in Side::each(!figure.of_pelvis()) {
            let Some(stat) = sample.stat(side.unwrap_or(Side::Right), *figure) else {
                continue;
            };
            let spread = spread_of(*figure, level).hypot(stat.se);
            let words = if spec.unit == "mm" {
                format!("{:.0} mm ± {spread:.0}", stat.mean)
            } else {
                format!("{:.1}° ± {spread:.1}", stat.mean)
            };
            all.push(AcrossValue {
                figure: *figure,
                side: *side,
                label: sided(spec.label, *side),
                words: words.replace('-', "−"),
                value: stat.mean,
                spread,
            });
        }
    }
    all
}
