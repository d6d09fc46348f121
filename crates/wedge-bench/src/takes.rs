//! Takes of a fit: the sample table, what to draw, and what may be written down of them.

use crate::{Bench, Declined};
use serde::Serialize;
use uuid::Uuid;
use wedge_core::capture::torque::{Wheel, wheel};
use wedge_core::capture::{
    Answers, Column, Figure, FigureSpec, Known, Sample, Shows, TakeAsk, TakesCompared, Tracks,
    beside, look, shows,
};
use wedge_core::foresee::ForeseeInput;
use wedge_core::measure::Method;
use wedge_core::position::ranges_with;
use wedge_core::units::Side;
use wedge_core::words::sided;
use wedge_files::{LookBody, LookSeen, Take, TakeBody, unpack};

/// One take, as it is listed.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakeLine {
    /// The take, its markers left out.
    pub take: Take,
    /// What it was taken of: "as found", "Trial 3: saddle up 4".
    pub on: String,
    /// Why nothing is read off it.
    pub failed: Option<String>,
}

/// Something a take shows, ready to be kept.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Keepable {
    /// What it is, with its side.
    pub label: String,
    /// Its size and doubt.
    pub words: String,
    /// Whether the fitter's eye decides.
    pub doubtful: bool,
    /// What would be written down.
    pub body: LookBody,
}

/// A range the trade has of a figure, and how the last take stands to it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FigureRange {
    /// The figure.
    pub figure: Figure,
    /// The side; none where both are one.
    pub side: Option<Side>,
    /// "35–40°".
    pub words: String,
    /// What is outside of it by more than its spread, in words.
    pub mark: Option<String>,
}

/// Torque of one take.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WheelLine {
    /// The take.
    pub take: Uuid,
    /// What it tells.
    pub wheel: Wheel,
}

/// The takes of a fit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakesView {
    /// Every take, in order.
    pub takes: Vec<TakeLine>,
    /// The takes of markers that stand in the table: first, before, now, as far as there are.
    pub columns: Vec<Uuid>,
    /// Those beside one another.
    pub compared: Option<TakesCompared>,
    /// What is known of each figure.
    pub figures: Vec<FigureSpec>,
    /// Where the trade has a range.
    pub ranges: Vec<FigureRange>,
    /// The last take of markers as it is read, and the one before it.
    pub samples: Vec<Sample>,
    /// What the last one shows, to be kept.
    pub keepable: Vec<Keepable>,
    /// Torque, take by take.
    pub wheels: Vec<WheelLine>,
}

impl Bench {
    /// What is known of rider and bike, for reading markers and film.
    pub fn known(&self) -> Result<Known, Declined> {
        let input = self.input(self.now()?)?;
        Ok(known_of(&input))
    }

    /// Reads markers as they would be taken now, without keeping them.
    pub fn try_take(
        &self,
        tracks: &Tracks,
        answers: &Answers,
    ) -> Result<Sample, (String, Vec<TakeAsk>)> {
        let known = self
            .known()
            .map_err(|declined| (declined.to_string(), Vec::new()))?;
        look(tracks, &known.told(), answers).map_err(|error| (error.words, error.asks))
    }

    /// The takes of this fit. `takes` carry their markers.
    pub fn takes(&self, takes: Vec<Take>) -> Result<TakesView, Declined> {
        let mut lines = Vec::new();
        let mut read: Vec<(Take, Sample)> = Vec::new();
        let mut wheels = Vec::new();
        // In the table stand the first and the last two: the others are only listed.
        let of_markers: Vec<Uuid> = takes
            .iter()
            .filter(|take| matches!(take.body, TakeBody::Markers { .. }))
            .map(|take| take.id)
            .collect();
        let shown = |id: Uuid| {
            of_markers
                .iter()
                .position(|own| *own == id)
                .is_some_and(|at| at == 0 || at + 2 >= of_markers.len())
        };
        for mut take in takes {
            let mut failed = None;
            match &take.body {
                TakeBody::Markers { known, answers } if shown(take.id) => {
                    let sample = unpack(&take.tracks)
                        .map_err(|error| error.to_string())
                        .and_then(|tracks| {
                            look(&tracks, &known.told(), answers).map_err(|error| error.words)
                        });
                    take.tracks.clear();
                    match sample {
                        Ok(sample) => read.push((take.clone(), sample)),
                        Err(words) => failed = Some(words),
                    }
                }
                TakeBody::Torque(torque) => {
                    wheels.extend(wheel(torque).map(|wheel| WheelLine {
                        take: take.id,
                        wheel,
                    }));
                }
                TakeBody::Markers { .. } | TakeBody::Still(_) | TakeBody::Clip(_) => {}
            }
            take.tracks.clear();
            lines.push(TakeLine {
                on: self.taken_on(take.setup),
                take,
                failed,
            });
        }
        let columns: Vec<Column> = read
            .iter()
            .map(|(take, sample)| Column {
                sample,
                power_w: take.power_w,
                placing: take.placing,
            })
            .collect();
        let compared = (!columns.is_empty()).then(|| beside(&columns));
        let last = read.last().map(|(_, sample)| sample);
        Ok(TakesView {
            columns: read.iter().map(|(take, _)| take.id).collect(),
            compared,
            figures: Figure::ALL.iter().map(|figure| figure.spec()).collect(),
            ranges: last
                .map(|sample| self.figure_ranges(sample))
                .transpose()?
                .unwrap_or_default(),
            keepable: last.map(keepable).unwrap_or_default(),
            samples: read
                .into_iter()
                .rev()
                .take(2)
                .map(|(_, sample)| sample)
                .collect(),
            takes: lines,
            wheels,
        })
    }

    /// Which setup a take is of.
    fn taken_on(&self, setup: Uuid) -> String {
        let trial = self
            .session
            .trials
            .iter()
            .rev()
            .find(|trial| trial.after == setup);
        match trial {
            Some(trial) => format!("Trial {}: {}", trial.number, trial.foreseen.title),
            None => "As found".to_owned(),
        }
    }

    fn figure_ranges(&self, sample: &Sample) -> Result<Vec<FigureRange>, Declined> {
        let input = self.input(self.now()?)?;
        let ranges = ranges_with(input.kind, &input.ranges);
        let mut all = Vec::new();
        for figure in Figure::ALL {
            let spec = figure.spec();
            let Some(range) = ranges
                .iter()
                .find(|range| Some(range.output) == spec.output)
            else {
                continue;
            };
            for &side in Side::each(range.output.spec().per_side) {
                let Some(stat) = sample.stat(side.unwrap_or(Side::Right), *figure) else {
                    continue;
                };
                let mark = range.mark(stat.mean, side, spec.put_on.hypot(stat.se));
                all.push(FigureRange {
                    figure: *figure,
                    side,
                    words: range.words(),
                    mark: mark.map(|mark| mark.words),
                });
            }
        }
        Ok(all)
    }
}

fn known_of(input: &ForeseeInput) -> Known {
    let lengths = input.rider.lengths();
    let pedalling = input.setup.pedalling;
    let (left, right) = (&lengths.legs.left, &lengths.legs.right);
    let mean = |of: fn(&wedge_core::rider::LegLengths) -> f64| f64::midpoint(of(left), of(right));
    Known {
        stature_mm: Some(input.rider.body.stature_mm.0),
        ankle_height_mm: Some(mean(|leg| leg.ankle_height.value_mm.0)),
        ankle_to_ball_mm: Some(mean(wedge_core::rider::LegLengths::ankle_to_ball)),
        crank_mm: Some(pedalling.right.crank_mm.0),
        seat_tube_deg: Some(input.frame.seat_angle_deg.0),
        cleat_setback_mm: Some(pedalling.right.cleat_setback_mm.0),
        sole_mm: Some(pedalling.right.sole_mm.0),
        pedal_stack_mm: Some(pedalling.right.pedal_stack_mm.0),
        toe_marker_above_sole_mm: None,
        thigh_mm: Some(mean(|leg| leg.thigh.value_mm.0)),
        shank_left_mm: Some(left.shank.value_mm.0),
        shank_right_mm: Some(right.shank.value_mm.0),
        hip_spacing_mm: Some(2.0 * lengths.hip_aside_mm.0),
    }
}

/// What a sample shows as entries of a look.
fn keepable(sample: &Sample) -> Vec<Keepable> {
    let one = |shown: wedge_core::capture::Shown| {
        let (label, body) = match shown.shows {
            Shows::Value {
                output,
                side,
                value,
                spread,
            } => {
                let spec = output.spec();
                let rounded = (value * 10.0).round() / 10.0;
                let words = format!(
                    "{} {rounded}{}",
                    sided(spec.label, side),
                    spec.unit.suffix()
                );
                let seen = LookSeen {
                    output,
                    side,
                    value: Some(rounded),
                    method: Method::Camera,
                    spread: Some((spread * 100.0).round() / 100.0),
                };
                (words, LookBody::Seen(seen))
            }
            Shows::Knee { side, path } => (
                format!("{} knee: {}", side.word(), path.label().to_lowercase()),
                LookBody::Knee { side, path },
            ),
            Shows::Pelvis(seen) => (
                format!("Pelvis: {}", seen.label().to_lowercase()),
                LookBody::Pelvis(seen),
            ),
            Shows::Sign(sign) => (sign.words(), LookBody::Sign(sign)),
        };
        Keepable {
            label,
            words: shown.words,
            doubtful: shown.doubtful,
            body,
        }
    };
    shows(sample).into_iter().map(one).collect()
}
