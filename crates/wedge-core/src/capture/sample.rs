//! A take as it is read: every figure with its spread, curves to draw, shapes, and what was asked.

use super::crank::{Cranks, cranks};
use super::figure::Figure;
use super::frame::{Body, mean, settle};
use super::leg::{self, Limb};
use super::names::BodyPoint;
use super::pelvis::{self, Turned};
use super::smooth::{self, Smooth};
use super::standing::StandingZero;
use super::stat::{STROKES_FOR_FIGURES, Stat, no_figures, nothing_real};
use super::stroke::{self, Stroke};
use super::tracks::Tracks;
use super::{Answers, TakeAsk, Told, Unlooked};
use crate::looking::KneePath;
use crate::plane::Point;
use crate::units::{Side, Sides};
use serde::{Deserialize, Serialize};

/// One figure of a take.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FigureStat {
    /// Which.
    pub figure: Figure,
    /// Over the strokes.
    pub stat: Stat,
}

/// The mean of one of some figures.
pub(crate) fn mean_of(figures: &[FigureStat], figure: Figure) -> Option<f64> {
    let own = figures.iter().find(|one| one.figure == figure)?;
    Some(own.stat.mean)
}

/// One side of a take.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Limbs {
    /// Its figures.
    pub figures: Vec<FigureStat>,
    /// The knee from the front.
    pub front: Option<KneeFront>,
    /// How rough the knee goes through the bottom, °.
    pub bottom_roughness_deg: Option<f64>,
    /// What to draw, every second degree from the top.
    pub drawn: Drawn,
}

/// A knee's path from the front.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KneeFront {
    /// Its shape; none where it is of no one shape.
    pub path: Option<KneePath>,
    /// Whether a few millimetres would make another shape of it.
    pub near_border: bool,
}

impl KneeFront {
    /// Of a side's figures; so many millimetres from a border it is near it.
    pub(crate) fn of(figures: &[FigureStat], near_mm: f64) -> Option<Self> {
        let push = mean_of(figures, Figure::KneePush)?;
        let rise = mean_of(figures, Figure::KneeRise)?;
        Some(Self {
            path: leg::shape(push, rise),
            near_border: leg::near_border(push, rise, near_mm),
        })
    }
}

/// Curves of a side over the mean stroke, every second degree of its crank.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Drawn {
    /// Knee flexion, °.
    pub knee_deg: Vec<f64>,
    /// The knee of the leg that goes round smoothly, °.
    pub smooth_deg: Vec<f64>,
    /// The ankle's path in side view, mm from the BB.
    pub ankle_path: Vec<[f64; 2]>,
    /// The knee's centre from the front, mm: outward from the bike's middle, up from the BB.
    pub knee_front: Vec<[f64; 2]>,
    /// The knee's centre off the line from toe to hip at its height, outward, mm.
    pub knee_off_line: Vec<f64>,
}

/// The pelvis over the right crank's strokes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PelvisTake {
    /// Its figures.
    pub figures: Vec<FigureStat>,
    /// Roll over the mean stroke, right hip up, every second degree of the right crank.
    pub roll_deg: Vec<f64>,
    /// Twist, right hip ahead.
    pub twist_deg: Vec<f64>,
    /// Dip to the right and to the left at the hip joints, mm.
    pub dip_mm: Sides<f64>,
    /// What was taken off for markers that were not level or square while the rider stood.
    pub zero: Option<StandingZero>,
}

/// A take as it is read.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sample {
    /// Turns a minute.
    pub cadence_rpm: f64,
    /// How long the take is.
    pub seconds: f64,
    /// Frames a second.
    pub rate_hz: f64,
    /// Whether it has no depth.
    pub planar: bool,
    /// Crank, as told or as its circle says, mm.
    pub crank_mm: f64,
    /// SD of crank speed over its mean within a turn.
    pub turning_ripple: Option<f64>,
    /// The sides.
    pub sides: Sides<Option<Limbs>>,
    /// The pelvis, where both hips have depth.
    pub pelvis: Option<PelvisTake>,
    /// What is asked, once.
    pub asks: Vec<TakeAsk>,
    /// What else there is to say.
    pub messages: Vec<String>,
}

impl Sample {
    /// With the figures alone that `is_told` says.
    #[must_use]
    pub fn only(mut self, is_told: impl Fn(Figure) -> bool) -> Self {
        let Sides { left, right } = &mut self.sides;
        for limbs in [left, right].into_iter().flatten() {
            limbs.figures.retain(|one| is_told(one.figure));
        }
        self
    }

    /// A figure of a side; the pelvis's for either.
    pub fn stat(&self, side: Side, figure: Figure) -> Option<&Stat> {
        let own = self.sides.of(side).iter().flat_map(|limbs| &limbs.figures);
        let pelvis = self.pelvis.iter().flat_map(|pelvis| &pelvis.figures);
        own.chain(pelvis)
            .find(|one| one.figure == figure)
            .map(|one| &one.stat)
    }
}

/// Reads a take: from markers in a room's axes to the figures of a fit.
pub fn look(tracks: &Tracks, told: &Told, answers: &Answers) -> Result<Sample, Unlooked> {
    let mut asks = Vec::new();
    let body = settle(tracks, told, answers, &mut asks)?;
    let cranks = cranks(&body, told, &mut asks)?;
    let strokes = Sides::from_fn(|side| stroke::strokes(&body, &cranks, side));
    let cadence = cadence(&body, &cranks)
        .ok_or_else(|| Unlooked::new("nobody pedals here: the cranks do not turn"))?;
    if cadence < 0.0 {
        return Err(
            Unlooked::new("the cranks turn backward: is forward the other way?").asking(&asks),
        );
    }
    let most = strokes.left.len().max(strokes.right.len());
    if let Some(words) = no_figures(most) {
        return Err(Unlooked::new(words).asking(&asks));
    }
    let mut messages = told.estimated.clone();
    messages.extend(nothing_real(most));
    if body.planar {
        messages.push("All markers lie in one plane: no front view and no pelvis.".to_owned());
    }
    let sides = Sides::from_fn(|side| limbs(&body, &cranks, side, strokes.of(side), told));
    let pelvis = (!body.planar)
        .then(|| pelvis_of(&body, &cranks, &strokes.right, told))
        .flatten();
    let ripple = ripple(&body, &cranks, &strokes);
    Ok(Sample {
        cadence_rpm: cadence,
        seconds: tracks.seconds(),
        rate_hz: body.clock.rate_hz,
        planar: body.planar,
        crank_mm: cranks.length_mm,
        turning_ripple: ripple,
        sides,
        pelvis,
        asks,
        messages,
    })
}

/// Turns a minute, from the first to the last known place of a crank.
fn cadence(body: &Body, cranks: &Cranks) -> Option<f64> {
    let of = |side: Side| {
        let turned = cranks.turned.of(side);
        let first = turned.iter().position(Option::is_some)?;
        let last = turned.iter().rposition(Option::is_some)?;
        let (from, to) = (turned[first]?, turned[last]?);
        (last > first + 10)
            .then(|| (to - from) / 360.0 * 60.0 * body.clock.rate_hz / (last - first) as f64)
    };
    let both: Vec<f64> = Side::BOTH.into_iter().filter_map(of).collect();
    mean(both.into_iter()).filter(|cadence| cadence.abs() > 10.0)
}

/// Each figure over the strokes that have it.
pub(crate) fn stats(strokes: &[Vec<(Figure, f64)>]) -> Vec<FigureStat> {
    let of = |figure: &Figure| {
        let values: Vec<f64> = strokes
            .iter()
            .filter_map(|stroke| {
                stroke
                    .iter()
                    .find(|(own, _)| own == figure)
                    .map(|(_, value)| *value)
            })
            .collect();
        Some(FigureStat {
            figure: *figure,
            stat: Stat::over(&values)?,
        })
    };
    Figure::ALL.iter().filter_map(of).collect()
}

fn limbs(
    body: &Body,
    cranks: &Cranks,
    side: Side,
    strokes: &[Stroke],
    told: &Told,
) -> Option<Limbs> {
    let of = |stroke: &Stroke| Limb {
        side,
        parts: BodyPoint::ALL
            .iter()
            .map(|part| stroke::turn(body, cranks, side, stroke, side, *part))
            .collect(),
        axle: stroke::axle_turn(body, cranks, side, stroke),
    };
    let all: Vec<Limb> = strokes.iter().map(of).collect();
    let each: Vec<Vec<(Figure, f64)>> = all
        .iter()
        .map(|limb| limb.figures(told, body.planar))
        .collect();
    let figures = stats(&each);
    if figures.is_empty() {
        return None;
    }
    let smooth = smooth_leg(&all).filter(|_| body.clock.rate_hz >= smooth::LEAST_RATE_HZ - 0.5);
    let drawn = drawn(&all, cranks.bb, smooth.as_ref(), body.planar);
    Some(Limbs {
        front: KneeFront::of(&figures, leg::NEAR_BORDER_MM),
        bottom_roughness_deg: smooth.map(|smooth| smooth.roughness),
        figures,
        drawn,
    })
}

fn smooth_leg(all: &[Limb]) -> Option<Smooth> {
    let flat = |turn: &stroke::Turn| {
        turn[..360]
            .iter()
            .map(|at| Point::new(at[0], at[1]))
            .collect::<Vec<_>>()
    };
    let whole: Vec<[Vec<Point>; 3]> = all
        .iter()
        .filter_map(|limb| {
            let of = |part: BodyPoint| limb.parts[part as usize].as_ref().map(flat);
            Some([
                of(BodyPoint::Hip)?,
                of(BodyPoint::Knee)?,
                of(BodyPoint::Ankle)?,
            ])
        })
        .collect();
    if whole.len() < STROKES_FOR_FIGURES {
        return None;
    }
    let knees: Vec<Vec<f64>> = all.iter().filter_map(Limb::knee).collect();
    smooth::smooth(&whole, &knees)
}

/// The mean of curves, every second degree.
pub(crate) fn mean_curve<const N: usize>(all: &[Vec<[f64; N]>]) -> Vec<[f64; N]> {
    if all.is_empty() {
        return Vec::new();
    }
    let count = all.len() as f64;
    (0..360)
        .step_by(2)
        .map(|degree| {
            std::array::from_fn(|axis| all.iter().map(|one| one[degree][axis]).sum::<f64>() / count)
        })
        .collect()
}

fn drawn(all: &[Limb], bb: Point, smooth: Option<&Smooth>, planar: bool) -> Drawn {
    let one = |values: Vec<Vec<f64>>| -> Vec<f64> {
        let boxed: Vec<Vec<[f64; 1]>> = values
            .into_iter()
            .map(|own| own.into_iter().map(|v| [v]).collect())
            .collect();
        mean_curve(&boxed).into_iter().map(|[v]| v).collect()
    };
    let from_bb = |curve: Vec<[f64; 2]>| {
        curve
            .into_iter()
            .map(|[x, y]| [x - bb.x, y - bb.y])
            .collect::<Vec<_>>()
    };
    let up_from_bb = |curve: Vec<[f64; 2]>| {
        curve
            .into_iter()
            .map(|[x, y]| [x, y - bb.y])
            .collect::<Vec<_>>()
    };
    let ankles: Vec<_> = all.iter().filter_map(Limb::ankle_path).collect();
    let fronts: Vec<_> = if planar {
        Vec::new()
    } else {
        all.iter().filter_map(Limb::knee_front).collect()
    };
    let lines: Vec<_> = if planar {
        Vec::new()
    } else {
        all.iter().filter_map(Limb::knee_off_line).collect()
    };
    Drawn {
        knee_deg: one(all.iter().filter_map(Limb::knee).collect()),
        smooth_deg: smooth
            .map(|smooth| smooth.knee.iter().step_by(2).copied().collect())
            .unwrap_or_default(),
        ankle_path: from_bb(mean_curve(&ankles)),
        knee_front: up_from_bb(mean_curve(&fronts)),
        knee_off_line: one(lines),
    }
}

fn pelvis_of(body: &Body, cranks: &Cranks, strokes: &[Stroke], told: &Told) -> Option<PelvisTake> {
    let mut turned = Vec::new();
    let (mut times, mut x) = (Vec::new(), Vec::new());
    for stroke in strokes {
        let hip = |side| stroke::turn(body, cranks, Side::Right, stroke, side, BodyPoint::Hip);
        let (Some(left), Some(right)) = (hip(Side::Left), hip(Side::Right)) else {
            continue;
        };
        times.push(f64::midpoint(stroke.start, stroke.end));
        x.extend(mean(
            left[..360].iter().chain(&right[..360]).map(|at| at[0]),
        ));
        turned.push(Turned::between(&left, &right));
    }
    let mut take = PelvisTake::over(&turned, told.hip_spacing_mm, |_| true)?;
    if let Some((mean, se)) = pelvis::creep(&times, &x) {
        let n = times.len();
        take.figures.push(FigureStat {
            figure: Figure::Creep,
            stat: Stat {
                mean,
                sd: se * (n as f64).sqrt(),
                n,
                se,
            },
        });
    }
    Some(take)
}

impl PelvisTake {
    /// Dips at the hip joints, mm.
    pub(crate) fn dips(figures: &[FigureStat], hip_spacing_mm: f64) -> Sides<f64> {
        let mm = |figure| {
            let dip = mean_of(figures, figure).unwrap_or_default();
            hip_spacing_mm * dip.to_radians().sin()
        };
        Sides {
            left: mm(Figure::DipLeft),
            right: mm(Figure::DipRight),
        }
    }

    /// Over the right crank's strokes: the figures that can be seen from where the camera stands.
    pub(crate) fn over(
        turned: &[Turned],
        hip_spacing_mm: f64,
        is_seen: impl Fn(Figure) -> bool,
    ) -> Option<Self> {
        let of = |one: &Turned| {
            let all = one.figures().into_iter();
            all.filter(|(figure, _)| is_seen(*figure)).collect()
        };
        let each: Vec<Vec<(Figure, f64)>> = turned.iter().map(of).collect();
        let figures = stats(&each);
        if figures.is_empty() {
            return None;
        }
        let curve = |of: fn(&Turned) -> &Vec<f64>| -> Vec<f64> {
            let count = turned.len() as f64;
            (0..360)
                .step_by(2)
                .map(|degree| turned.iter().map(|one| of(one)[degree]).sum::<f64>() / count)
                .collect()
        };
        Some(Self {
            dip_mm: Self::dips(&figures, hip_spacing_mm),
            zero: None,
            roll_deg: curve(|one| &one.roll),
            twist_deg: if is_seen(Figure::Twist) {
                curve(|one| &one.twist)
            } else {
                Vec::new()
            },
            figures,
        })
    }
}

/// Chop that hides in the crank's speed: over the right crank's strokes, or the left's where it is alone.
fn ripple(body: &Body, cranks: &Cranks, strokes: &Sides<Vec<Stroke>>) -> Option<f64> {
    if body.clock.rate_hz < smooth::LEAST_RATE_HZ - 0.5 {
        return None;
    }
    let side = if strokes.right.is_empty() {
        Side::Left
    } else {
        Side::Right
    };
    let each = strokes
        .of(side)
        .iter()
        .filter_map(|stroke| stroke::speed(body, cranks, side, stroke));
    mean(each.map(|speed| smooth::ripple(&speed)))
}
