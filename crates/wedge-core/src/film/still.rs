//! One picture's angles, each with its computed spread.

use super::squaring::{ASIDE_MM, BB_ASIDE_MM, CLICK_PX, Pixel, Squared, View, YAW_DEG};
use crate::capture::{BodyPoint, Known};
use crate::measure::Output;
use crate::plane::Point;
use crate::rule::rules;
use crate::words::words;
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// How far a found dot may be off.
    const DOT_PX: f64 = 0.5, " px", House;
    /// How far a dot may sit from its joint.
    const DOT_MM: f64 = 5.0, " mm", House;
    /// How far a joint clicked on cloth may be from where it is; it never averages out.
    const CLOTH_MM: f64 = 8.0, " mm", House;
    /// Degrees of knee, hip, torso, shoulder, elbow, foot, and millimetres of knee over axle, a millimetre of a point.
    const BY_MM: [f64; 7] = [0.31, 0.22, 0.16, 0.27, 0.47, 0.6, 1.4], "", House;
    /// What a squared view leaves of doubt in each.
    const BY_SQUARED_VIEW: [f64; 7] = [0.2, 0.3, 0.5, 0.5, 0.8, 0.3, 4.0], "", House;
    /// What a view leaves that is not squared.
    const BY_VIEW: [f64; 7] = [0.5, 1.5, 2.5, 1.8, 3.0, 0.8, 10.0], "", House;
    /// What rows read one after another leave where they were not taken out and the rider moved.
    const BY_ROWS: [f64; 7] = [1.2, 0.3, 0.0, 0.0, 0.0, 1.0, 8.0], "", House;
}

/// A point of a rider in a picture.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FilmMark {
    /// What it is.
    pub part: BodyPoint,
    /// Where.
    pub at: [f64; 2],
    /// Whether it is the middle of a found dot; else it was clicked.
    #[serde(default)]
    pub dot: bool,
}

/// The points of a rider a picture is asked for, in the order they are clicked.
pub const JOINTS: [BodyPoint; 8] = [
    BodyPoint::Pedal,
    BodyPoint::Toe,
    BodyPoint::Ankle,
    BodyPoint::Knee,
    BodyPoint::Hip,
    BodyPoint::Shoulder,
    BodyPoint::Elbow,
    BodyPoint::Wrist,
];

/// How far outside the bike's middle a part is, mm.
pub fn aside(part: BodyPoint) -> f64 {
    let place = match part {
        BodyPoint::Toe => 0,
        BodyPoint::Pedal => 1,
        BodyPoint::Ankle | BodyPoint::HeelUpper | BodyPoint::HeelLower => 2,
        BodyPoint::Knee => 3,
        BodyPoint::Hip => 4,
        BodyPoint::Shoulder => 5,
        BodyPoint::Elbow => 6,
        BodyPoint::Wrist => 7,
    };
    ASIDE_MM[place]
}

words! {
    /// An angle or a distance that is read off film.
    pub enum FilmFigure {
        Knee "knee_deg" "Knee",
        Hip "hip_deg" "Hip",
        Torso "torso_deg" "Torso",
        Shoulder "shoulder_deg" "Shoulder",
        ShoulderToWrist "shoulder_to_wrist_deg" "Shoulder to wrist",
        Elbow "elbow_deg" "Elbow",
        Foot "foot_deg" "Foot",
        KneeOverAxle "knee_over_axle_mm" "Knee over axle",
    }
}

impl FilmFigure {
    /// Its column in the tables of doubt.
    fn column(self) -> usize {
        match self {
            Self::Knee => 0,
            Self::Hip => 1,
            Self::Torso => 2,
            Self::Shoulder | Self::ShoulderToWrist => 3,
            Self::Elbow => 4,
            Self::Foot => 5,
            Self::KneeOverAxle => 6,
        }
    }

    /// Whether it counts this far off square.
    pub(crate) fn counts(self, squared: &Squared) -> bool {
        let yaw = squared.camera.yaw_deg.abs();
        match self {
            Self::Knee => true,
            Self::Hip => yaw <= YAW_DEG[2],
            _ => yaw <= YAW_DEG[1],
        }
    }
}

/// One figure read off film.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FilmValue {
    /// Which.
    pub figure: FilmFigure,
    /// Its key in files and on the page.
    pub key: String,
    /// The fitter's word.
    pub label: String,
    /// As it is written, with its spread: "36.2° ± 1.8".
    pub words: String,
    /// Its value, ° or mm.
    pub value: f64,
    /// One standard deviation, worked out.
    pub spread: f64,
    /// What it is a look at, at this crank.
    pub output: Option<Output>,
}

impl FilmValue {
    pub(crate) fn of(
        figure: FilmFigure,
        key: &str,
        value: f64,
        spread: f64,
        output: Option<Output>,
    ) -> Self {
        let label = output.map_or(figure.label(), |output| output.spec().label);
        let words = if figure == FilmFigure::KneeOverAxle {
            format!("{value:.0} mm ± {spread:.0}")
        } else {
            format!("{value:.1}° ± {spread:.1}")
        };
        Self {
            figure,
            key: key.to_owned(),
            label: label.to_owned(),
            words: words.replace('-', "−"),
            value,
            spread,
            output,
        }
    }
}

/// Where a point of the rider is on the bike's side view.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FilmPlace {
    /// What it is.
    pub part: BodyPoint,
    /// Where, mm from the BB.
    pub at: Point,
}

/// What one picture tells.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StillRead {
    /// Where the crank stands, where BB and pedal are known.
    pub crank_deg: Option<f64>,
    /// Its figures.
    pub values: Vec<FilmValue>,
    /// Places on the bike's side view, mm from the BB (from the middle between the axles where it is not known).
    pub places: Vec<FilmPlace>,
}

/// What else spreads a figure: strokes it is the mean of, and whether rows were taken out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Doubt {
    pub(crate) strokes: usize,
    pub(crate) rows_out: bool,
}

/// One standard deviation of a figure.
pub(crate) fn spread(figure: FilmFigure, squared: &Squared, dots: bool, doubt: Doubt) -> f64 {
    let column = figure.column();
    let click = if dots { DOT_PX } else { CLICK_PX } / squared.px_per_mm;
    let place = if dots { DOT_MM } else { CLOTH_MM };
    let points =
        BY_MM[column] * (click * click / doubt.strokes.max(1) as f64 + place * place).sqrt();
    let view = if squared.squared {
        BY_SQUARED_VIEW
    } else {
        BY_VIEW
    }[column];
    let rows = if doubt.rows_out { 0.0 } else { BY_ROWS[column] };
    points.hypot(view).hypot(rows)
}

/// The figures of places on the side view. `level_fall` is how the line from ankle to toe falls on a level sole.
pub(crate) fn figures(
    place: impl Fn(BodyPoint) -> Option<Point>,
    level_fall: f64,
) -> Vec<(FilmFigure, f64)> {
    use crate::capture::{angle, flexion, pitch};
    let three = |a, b, c| Some((place(a)?, place(b)?, place(c)?));
    let mut all = Vec::new();
    if let Some((hip, knee, ankle)) = three(BodyPoint::Hip, BodyPoint::Knee, BodyPoint::Ankle) {
        all.push((FilmFigure::Knee, flexion(hip, knee, ankle)));
    }
    if let Some((shoulder, hip, knee)) = three(BodyPoint::Shoulder, BodyPoint::Hip, BodyPoint::Knee)
    {
        all.push((FilmFigure::Hip, angle(shoulder, hip, knee)));
    }
    if let Some((hip, shoulder)) = place(BodyPoint::Hip).zip(place(BodyPoint::Shoulder)) {
        all.push((FilmFigure::Torso, (shoulder - hip).direction().0));
    }
    if let Some((hip, shoulder, elbow)) =
        three(BodyPoint::Hip, BodyPoint::Shoulder, BodyPoint::Elbow)
    {
        all.push((FilmFigure::Shoulder, angle(hip, shoulder, elbow)));
    }
    if let Some((hip, shoulder, wrist)) =
        three(BodyPoint::Hip, BodyPoint::Shoulder, BodyPoint::Wrist)
    {
        all.push((FilmFigure::ShoulderToWrist, angle(hip, shoulder, wrist)));
    }
    if let Some((shoulder, elbow, wrist)) =
        three(BodyPoint::Shoulder, BodyPoint::Elbow, BodyPoint::Wrist)
    {
        all.push((FilmFigure::Elbow, flexion(shoulder, elbow, wrist)));
    }
    if let Some((ankle, toe)) = place(BodyPoint::Ankle).zip(place(BodyPoint::Toe)) {
        all.push((FilmFigure::Foot, pitch(ankle, toe, level_fall)));
    }
    if let Some((knee, axle)) = place(BodyPoint::Knee).zip(place(BodyPoint::Pedal)) {
        all.push((FilmFigure::KneeOverAxle, knee.x - axle.x));
    }
    all
}

/// What a figure is a look at when it is read at this crank; between the four places it is only a figure.
fn output_at(figure: FilmFigure, crank: Option<f64>, seat_tube_deg: Option<f64>) -> Option<Output> {
    let near = |to: f64| {
        crank.is_some_and(|crank| ((crank - to + 540.0).rem_euclid(360.0) - 180.0).abs() <= 4.0)
    };
    let at = |pairs: &[(f64, Output)]| {
        pairs
            .iter()
            .find(|(to, _)| near(*to))
            .map(|(_, output)| *output)
    };
    match figure {
        FilmFigure::Knee => {
            let in_line = seat_tube_deg
                .filter(|seat| near(90.0 + seat))
                .map(|_| Output::KneeInLine);
            let quarters = [
                (0.0, Output::KneeAtTop),
                (90.0, Output::KneeForward),
                (180.0, Output::KneeAtBottom),
            ];
            in_line.or_else(|| at(&quarters))
        }
        FilmFigure::Hip => None,
        FilmFigure::Torso => Some(Output::Torso),
        FilmFigure::Shoulder => Some(Output::Shoulder),
        FilmFigure::ShoulderToWrist => Some(Output::ShoulderToWrist),
        FilmFigure::Elbow => Some(Output::Elbow),
        FilmFigure::Foot => at(&[
            (0.0, Output::FootAtTop),
            (90.0, Output::FootForward),
            (180.0, Output::FootAtBottom),
            (270.0, Output::FootRising),
        ]),
        FilmFigure::KneeOverAxle => at(&[(90.0, Output::KneeOverAxle)]),
    }
}

/// Reads one picture: marks on their planes, angles between them.
///
/// `moving`: a rider who pedals while the picture is taken; its rows cannot be taken out.
pub fn read_still(
    squared: &Squared,
    bb: Option<Pixel>,
    marks: &[FilmMark],
    told: &crate::capture::Told,
    moving: bool,
) -> StillRead {
    let bb = bb.and_then(|at| squared.on_plane(at, BB_ASIDE_MM));
    let origin = bb.unwrap_or_default();
    let places: Vec<FilmPlace> = marks
        .iter()
        .filter_map(|mark| {
            Some(FilmPlace {
                part: mark.part,
                at: squared.on_plane(mark.at, aside(mark.part))? - origin,
            })
        })
        .collect();
    let place = |part: BodyPoint| places.iter().find(|own| own.part == part).map(|own| own.at);
    let crank_deg = bb
        .and_then(|_| place(BodyPoint::Pedal))
        .map(|at| at.x.atan2(at.y).to_degrees().rem_euclid(360.0));
    let dots = marks.iter().all(|mark| mark.dot);
    let doubt = Doubt {
        strokes: 1,
        rows_out: !moving,
    };
    let values = figures(place, crate::capture::level_fall(told))
        .into_iter()
        .filter(|(figure, _)| figure.counts(squared))
        .map(|(figure, value)| {
            let output = output_at(figure, crank_deg, told.seat_tube_deg);
            FilmValue::of(
                figure,
                figure.key(),
                value,
                spread(figure, squared, dots, doubt),
                output,
            )
        })
        .collect();
    StillRead {
        crank_deg,
        values,
        places,
    }
}

/// A picture as it was clicked: all that is kept of it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Shot {
    /// Wheels, and what is known of bike and camera.
    pub view: View,
    /// Bottom bracket.
    #[serde(default)]
    pub bb: Option<[f64; 2]>,
    /// Points of the rider, clicked or found.
    #[serde(default)]
    pub marks: Vec<FilmMark>,
    /// What is known of the rider.
    #[serde(default)]
    pub known: Known,
    /// Whether the rider pedals while the picture is taken.
    #[serde(default)]
    pub moving: bool,
}
