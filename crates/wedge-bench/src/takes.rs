//! Takes of a fit: the sample table, what to draw, and what may be written down of them.

use crate::{Bench, Declined};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use serde::Serialize;
use std::collections::BTreeMap;
use uuid::Uuid;
use wedge_core::capture::torque::{Wheel, wheel};
use wedge_core::capture::{
    Answers, Column, Figure, FigureSpec, Known, Sample, Shows, StandingZero, TakeAsk,
    TakesCompared, Tracks, beside, look, shows, standing,
};
use wedge_core::film::SeenFrom;
use wedge_core::foresee::ForeseeInput;
use wedge_core::measure::Method;
use wedge_core::position::ranges_with;
use wedge_core::units::Side;
use wedge_core::words::{capital, lower, sided};
use wedge_files::{LookBody, LookSeen, OF_AGE_YEARS, SaidBy, Take, TakeBody, is_minor, unpack};

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
    /// Whether one of its pictures is kept.
    pub pictured: bool,
}

/// A way of looking at a rider, of which there are takes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakeWay {
    /// What it is asked for by.
    pub key: String,
    /// "Markers", "Film, right side".
    pub label: String,
}

/// Whether pictures of the rider may be kept.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PicturesKept {
    /// Whether they may.
    pub may: bool,
    /// Who said so and when, in words.
    pub words: String,
    /// Whether a guardian is to be asked.
    pub is_minor: bool,
    /// For how many days they are kept.
    pub days: u16,
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
    /// The way of looking that is in the table; none while there is none.
    pub way: Option<String>,
    /// Every way there are takes of, the last one last.
    pub ways: Vec<TakeWay>,
    /// The takes that stand in the table: first, before, now, as far as there are.
    pub columns: Vec<Uuid>,
    /// Those beside one another.
    pub compared: Option<TakesCompared>,
    /// What is known of each figure.
    pub figures: Vec<FigureSpec>,
    /// Where the trade has a range.
    pub ranges: Vec<FigureRange>,
    /// The last of them as it is read, and the one before it.
    pub samples: Vec<Sample>,
    /// What the last one shows, to be kept.
    pub keepable: Vec<Keepable>,
    /// Torque, take by take.
    pub wheels: Vec<WheelLine>,
    /// Whether pictures may be kept.
    pub pictures: PicturesKept,
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

    /// The takes of this fit, read one way: as asked, else as the last one was. `takes` carry their markers; of `pictured` a picture
    /// is kept.
    pub fn takes(
        &self,
        takes: Vec<Take>,
        asked: Option<&str>,
        pictured: &[Uuid],
        now: Timestamp,
    ) -> Result<TakesView, Declined> {
        let mut ways: Vec<Way> = Vec::new();
        for way in takes.iter().filter_map(Way::of) {
            ways.retain(|known| *known != way);
            ways.push(way);
        }
        let way = (ways.iter().copied())
            .find(|way| Some(way.key().as_str()) == asked)
            .or(ways.last().copied());
        // In the table stand the first and the last two: the others are only listed.
        let own: Vec<Uuid> = (takes.iter())
            .filter(|take| way.is_some() && Way::of(take) == way)
            .map(|take| take.id)
            .collect();
        let shown = |id: Uuid| {
            let at = own.iter().position(|own| *own == id);
            at.is_some_and(|at| at == 0 || at + 2 >= own.len())
        };
        let (mut read, mut failed) = (Vec::new(), BTreeMap::new());
        for take in takes.iter().filter(|take| shown(take.id)) {
            match sample(take, &takes) {
                Ok(sample) => read.push((TakeColumn::of(take, read.len()), sample)),
                Err(words) => {
                    failed.insert(take.id, words);
                }
            }
        }
        let of_torque = |take: &Take| match &take.body {
            TakeBody::Torque(torque) => wheel(torque).map(|wheel| WheelLine {
                take: take.id,
                wheel,
            }),
            _ => None,
        };
        let wheels = takes.iter().filter_map(of_torque).collect();
        let line = |mut take: Take| {
            take.tracks.clear();
            TakeLine {
                on: self.taken_on(take.setup),
                pictured: pictured.contains(&take.id),
                failed: failed.remove(&take.id),
                take,
            }
        };
        let lines = takes.into_iter().map(line).collect();
        let columns: Vec<Column> = read
            .iter()
            .map(|(column, sample)| Column {
                sample,
                power_w: column.power_w,
                placing: column.placing,
            })
            .collect();
        let compared = (!columns.is_empty()).then(|| beside(&columns));
        let last = read.last().map(|(_, sample)| sample);
        Ok(TakesView {
            way: way.map(Way::key),
            ways: ways.iter().map(|way| way.line()).collect(),
            columns: read.iter().map(|(column, _)| column.take).collect(),
            compared,
            figures: Figure::ALL.iter().map(|figure| figure.spec()).collect(),
            ranges: last
                .map(|sample| self.figure_ranges(sample))
                .transpose()?
                .unwrap_or_default(),
            // What a clip from the side shows is kept on the film bench, with film's own spread.
            keepable: last
                .filter(|_| !matches!(way, Some(Way::Side(_))))
                .map(keepable)
                .unwrap_or_default(),
            samples: read
                .into_iter()
                .rev()
                .take(2)
                .map(|(_, sample)| sample)
                .collect(),
            takes: lines,
            wheels,
            pictures: self.pictures(now),
        })
    }

    /// Whether pictures of this rider may be kept, and what was said of it.
    pub fn pictures(&self, now: Timestamp) -> PicturesKept {
        let day = |at: Timestamp| {
            at.to_zoned(TimeZone::system())
                .strftime("%-d %B %Y")
                .to_string()
        };
        let is_minor = self.rider.born.is_some_and(|born| is_minor(born, now));
        let days = self.house.picture_days;
        let may = days > 0 && self.rider.may_be_pictured(now);
        let words = match self.rider.consent() {
            _ if days == 0 => "This studio keeps no pictures.".to_owned(),
            None => "Nobody was asked whether pictures may be kept.".to_owned(),
            Some(said) => {
                let who = match said.by {
                    SaidBy::Rider => self.rider.name.clone(),
                    SaidBy::Guardian => format!("{}, for {}", said.name, self.rider.name),
                };
                let (answer, on) = (if said.pictures { "yes" } else { "no" }, day(said.at));
                if said.pictures && !may {
                    format!(
                        "{who} said yes on {on}, but is under {OF_AGE_YEARS}: a guardian is asked."
                    )
                } else {
                    format!("{who} said {answer} on {on}.")
                }
            }
        };
        PicturesKept {
            may,
            words,
            is_minor,
            days,
        }
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

/// How a take looks at a rider: takes of one way compare.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Way {
    Markers,
    Side(Side),
    Across(SeenFrom),
}

impl Way {
    /// None of a take that is no stroke.
    fn of(take: &Take) -> Option<Self> {
        match &take.body {
            TakeBody::Markers { .. } => Some(Self::Markers),
            TakeBody::Clip(clip) => Some(Self::Side(clip.side())),
            TakeBody::Across(clip) => Some(Self::Across(clip.shot.from)),
            TakeBody::Still(_) | TakeBody::Torque(_) | TakeBody::Standing { .. } => None,
        }
    }

    fn key(self) -> String {
        match self {
            Self::Markers => "markers".to_owned(),
            Self::Side(side) => side.word().to_owned(),
            Self::Across(from) => from.key().to_owned(),
        }
    }

    fn line(self) -> TakeWay {
        let label = match self {
            Self::Markers => "Markers".to_owned(),
            Self::Side(side) => format!("Film, {} side", side.word()),
            Self::Across(from) => format!("Film, {}", lower(from.label())),
        };
        TakeWay {
            key: self.key(),
            label,
        }
    }
}

/// What a take is in the table.
struct TakeColumn {
    take: Uuid,
    power_w: Option<f64>,
    placing: u32,
}

impl TakeColumn {
    fn of(take: &Take, index: usize) -> Self {
        // Of film the camera and the clicks are placed anew each time.
        let anew = u32::try_from(index).unwrap_or_default();
        let placing = match take.body {
            TakeBody::Markers { .. } => take.placing,
            _ => anew,
        };
        Self {
            take: take.id,
            power_w: take.power_w,
            placing,
        }
    }
}

/// The last standing zero of a placing of the markers, among all takes.
fn zero(takes: &[Take], placing: u32) -> Option<StandingZero> {
    let of = |take: &Take| match &take.body {
        TakeBody::Standing { answers } if take.placing == placing => {
            standing(&unpack(&take.tracks).ok()?, answers).ok()
        }
        _ => None,
    };
    takes.iter().rev().find_map(of)
}

/// A take as it is read; why it is not, else. `all` has the zeros.
fn sample(take: &Take, all: &[Take]) -> Result<Sample, String> {
    match &take.body {
        TakeBody::Markers { known, answers } => {
            let tracks = unpack(&take.tracks).map_err(|error| error.to_string())?;
            let told = known.told();
            let sample = look(&tracks, &told, answers).map_err(|error| error.words)?;
            Ok(match zero(all, take.placing) {
                Some(zero) => sample.zeroed(zero, told.hip_spacing_mm),
                None => sample,
            })
        }
        TakeBody::Clip(clip) => Ok(clip.read()?.told()),
        TakeBody::Across(clip) => Ok(clip.read()?.sample),
        TakeBody::Still(_) | TakeBody::Torque(_) | TakeBody::Standing { .. } => {
            Err("no stroke is read off it".to_owned())
        }
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
                capital(&format!("{} knee: {}", side.word(), lower(path.label()))),
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
