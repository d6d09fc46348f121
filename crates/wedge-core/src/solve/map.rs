//! Fore-aft and height together: a map of the places a saddle can stand in, with lines of equal knee flexion, knee over
//! axle, hip and drop.

use super::perch_room;
use crate::bike::Setup;
use crate::foresee::Trying;
use crate::measure::{Convention, Conventions, Output, Unit, sit_reference};
use crate::position::{Position, Ride};
use crate::rider::Reach;
use crate::rule::rules;
use crate::units::Side;
use crate::words::{hundredth, written};
use contour::ContourBuilder;
use serde::Serialize;

rules! {
    rules "Map of the saddle";
    /// Either way in height.
    const HEIGHT_MM: f64 = 30.0, " mm", House;
    /// Either way in setback.
    const SETBACK_MM: f64 = 36.0, " mm", House;
    /// Lines of the knee are drawn from here on: below, the leg is all but straight and a line says too much.
    const LEAST_KNEE_DEG: f64 = 25.0, "°", House;
    /// Places solved along each side.
    pub(super) const PLACES: usize = 13, "", House;
}

/// One side of the map.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = MapAxis))]
pub struct Axis {
    /// What it is, with its convention.
    pub label: String,
    /// Its convention, for the numbers a place is read and set by.
    pub convention: Convention,
    /// Its lower end.
    pub low: f64,
    /// Its upper end.
    pub high: f64,
}

/// A line along which an output stays.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MapLine {
    /// What stays.
    pub output: Output,
    /// At which value.
    pub value: f64,
    /// "35°".
    pub label: String,
    /// Whether it is an end of the range, or knee over axle 0.
    pub strong: bool,
    /// Its pieces: setback and height of each point.
    pub pieces: Vec<Vec<[f64; 2]>>,
}

/// A place of the saddle.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spot {
    /// Setback on the map.
    pub setback: f64,
    /// Height on the map.
    pub height: f64,
}

/// The map around the saddle as it stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SaddleMap {
    /// Across: setback.
    pub setback: Axis,
    /// Upwards: height.
    pub height: Axis,
    /// As it stands.
    pub now: Spot,
    /// The lines, output by output.
    pub lines: Vec<MapLine>,
    /// What the post and the rails reach, corner by corner; none while they are not known.
    pub reachable: Option<Vec<[f64; 2]>>,
    /// What there is to say about that.
    pub reach_words: String,
}

/// What is drawn on the map, and every how much.
const DRAWN: [(Output, f64); 4] = [
    (Output::KneeAtFullReach, 5.0),
    (Output::KneeOverAxle, 10.0),
    (Output::HipClosed, 2.0),
    (Output::Drop, 10.0),
];

/// Lengths the map's sides are in: the chosen ones; a setback chosen as an angle is a length here.
fn sides(conventions: &Conventions) -> Conventions {
    Conventions {
        setback: if conventions.setback.unit() == Unit::Mm {
            conventions.setback
        } else {
            Convention::SetbackSit
        },
        ..*conventions
    }
}

/// A ride whose saddle is read in the map's own lengths.
fn in_lengths(ride: &Ride) -> Ride {
    ride.altered(|facts| facts.conventions = sides(&facts.conventions))
}

/// Where a setup's saddle stands on the map; `None` when it has no place.
pub fn spot(ride: &Ride, setup: &Setup) -> Option<Spot> {
    let (height, setback) = in_lengths(ride).read_saddle(setup, setup.saddle.sit()?);
    Some(Spot { setback, height })
}

/// The map around a saddle.
pub fn saddle_map(trying: &Trying) -> SaddleMap {
    let conventions = sides(&trying.conventions);
    let (here, back) = in_lengths(trying).read_saddle(&trying.setup, trying.setup.sit());
    let now = Spot {
        setback: back,
        height: here,
    };
    let axis = |label: &str, convention: Convention, middle: f64, either: f64| Axis {
        label: format!("{label}, {}", convention.words()),
        convention,
        low: middle - either,
        high: middle + either,
    };
    let setback = axis("Setback", conventions.setback, now.setback, SETBACK_MM);
    let height = axis(
        "Saddle height",
        conventions.saddle_height,
        now.height,
        HEIGHT_MM,
    );
    let places = grid(trying, &setback, &height);
    let ridden: Vec<bool> = places
        .iter()
        .map(|p| p.as_ref().is_some_and(rides))
        .collect();
    // The drop asks nothing of the legs.
    let counts = |output| (output != Output::Drop).then_some(ridden.as_slice());
    let lines = map_lines(trying, &DRAWN, &places, counts, (&setback, &height));
    let reachable = reachable(trying);
    SaddleMap {
        reach_words: format!(
            "{}{}",
            match &reachable {
                Some(_) => "Outlined: what this post and these rails reach.",
                None =>
                    "What post and rails reach is not known: type the post's setback, length and insertion, and the \
                     clampable rail.",
            },
            if ridden.iter().all(|ridden| *ridden) {
                ""
            } else {
                " Lines end where a leg gets round by pointing the foot alone, or not at all."
            }
        ),
        setback,
        height,
        now,
        lines,
        reachable,
    }
}

/// The lines of some outputs, each every so much, through a grid of positions; of an output only where it `counts`.
pub(super) fn map_lines<'a>(
    trying: &Trying,
    drawn: &[(Output, f64)],
    places: &[Option<Position>],
    counts: impl Fn(Output) -> Option<&'a [bool]>,
    (x, y): (&Axis, &Axis),
) -> Vec<MapLine> {
    drawn
        .iter()
        .flat_map(|(output, every)| {
            let (output, every) = (*output, *every);
            let values: Vec<f64> = places
                .iter()
                .map(|place| place.as_ref().map_or(f64::NAN, |p| mean(output, p)))
                .collect();
            let ends: Vec<f64> = trying
                .ranges
                .iter()
                .filter(|range| range.output == output)
                .flat_map(|range| [range.low, range.high])
                .collect();
            let unit = output.unit(&trying.before.conventions);
            lines_of((output, every), &values, counts(output), x, y)
                .into_iter()
                .map(move |(value, pieces)| MapLine {
                    output,
                    value,
                    // A length or a load is its number; an angle without its sign would be taken for one.
                    label: match unit {
                        Unit::Mm | Unit::N => written(value),
                        _ => format!("{}{}", written(value), unit.suffix()),
                    },
                    strong: ends.iter().any(|end| (end - value).abs() < 1e-9)
                        || (output == Output::KneeOverAxle && value == 0.0),
                    pieces,
                })
                .collect::<Vec<_>>()
        })
        .collect()
}

/// Positions row by row from the lowest, from the least setback in each.
fn grid(trying: &Trying, setback: &Axis, height: &Axis) -> Vec<Option<Position>> {
    let with = trying
        .setup
        .companions(&trying.frame, trying.conventions.sit_reference);
    (0..PLACES)
        .flat_map(|row| (0..PLACES).map(move |column| (row, column)))
        .map(|(row, column)| {
            let (height_here, setback_here) = (at(height, row), at(setback, column));
            let sit = sit_reference(
                (height.convention, height_here, &with),
                (setback.convention, setback_here, &with),
            )?;
            Some(trying.standing(&trying.setup.moved(sit)))
        })
        .collect()
}

/// The value of an axis at one of its places.
pub(super) fn at(axis: &Axis, index: usize) -> f64 {
    axis.low + step(axis) * f64::from(u32::try_from(index).unwrap_or_default())
}

fn step(axis: &Axis) -> f64 {
    let gaps = u32::try_from(PLACES - 1).unwrap_or(1);
    (axis.high - axis.low) / f64::from(gaps)
}

/// An output of both sides: the mean, since one saddle serves both legs.
fn mean(output: Output, position: &Position) -> f64 {
    let of = |side| output.as_drawn(position, side).unwrap_or(f64::NAN);
    f64::midpoint(of(Side::Left), of(Side::Right))
}

/// Whether both legs get round as they usually do: beyond that an angle says where the foot gives way, not where the
/// saddle stands.
fn rides(position: &Position) -> bool {
    let reach = |side| &position.legs.of(side).reach;
    Side::BOTH
        .into_iter()
        .all(|side| *reach(side) == Reach::Within)
}

type Pieces = Vec<Vec<[f64; 2]>>;

/// The lines of round values through a grid, where it is `ridden` when that matters.
fn lines_of(
    (output, every): (Output, f64),
    values: &[f64],
    ridden: Option<&[bool]>,
    setback: &Axis,
    height: &Axis,
) -> Vec<(f64, Pieces)> {
    if values.iter().any(|v| !v.is_finite()) {
        return Vec::new();
    }
    let low = values.iter().copied().fold(f64::INFINITY, f64::min);
    let high = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let every = if output == Output::Drop && high - low < 15.0 {
        // Chosen as a share of saddle height.
        1.0
    } else {
        every
    };
    let mut levels = Vec::new();
    let mut level = (low / every).ceil() * every;
    while level <= high {
        if output != Output::KneeAtFullReach || level >= LEAST_KNEE_DEG {
            levels.push(level);
        }
        level += every;
    }
    // The grid's values stand in the middle of its cells.
    let built = ContourBuilder::new(PLACES, PLACES, true)
        .x_origin(setback.low - step(setback) / 2.0)
        .x_step(step(setback))
        .y_origin(height.low - step(height) / 2.0)
        .y_step(step(height))
        .lines(values, &levels);
    let Ok(lines) = built else {
        return Vec::new();
    };
    lines
        .iter()
        .map(|line| {
            let rings = line.geometry().iter();
            let pieces = rings
                .flat_map(|ring| {
                    let points: Vec<[f64; 2]> = ring
                        .coords()
                        .map(|c| [hundredth(c.x), hundredth(c.y)])
                        .collect();
                    opened(&points, ridden, setback, height)
                })
                .collect();
            (line.threshold(), pieces)
        })
        .collect()
}

/// A ring without its way along the edge of the map and where nobody rides: what is left are the pieces of the line
/// itself.
fn opened(ring: &[[f64; 2]], ridden: Option<&[bool]>, setback: &Axis, height: &Axis) -> Pieces {
    let inside = |point: &[f64; 2]| {
        (setback.low - 0.01..=setback.high + 0.01).contains(&point[0])
            && (height.low - 0.01..=height.high + 0.01).contains(&point[1])
            && ridden.is_none_or(|ridden| among(ridden, *point, setback, height))
    };
    // Begun on the edge, no piece is cut where the ring happens to begin; its last point is its first.
    let begin = ring.iter().position(|point| !inside(point)).unwrap_or(0);
    let open = ring.len().saturating_sub(1);
    let round = ring.iter().take(open).cycle().skip(begin).take(open);
    let points: Vec<[f64; 2]> = round.copied().collect();
    let mut pieces: Pieces = points
        .split(|point| !inside(point))
        .filter(|piece| piece.len() > 1)
        .map(<[[f64; 2]]>::to_vec)
        .collect();
    // A line that never meets the edge is closed.
    if points.iter().all(inside) {
        let first = points.first().copied();
        for piece in &mut pieces {
            piece.extend(first);
        }
    }
    pieces
}

/// Whether every place of the grid around a point of the map is one of those.
fn among(places: &[bool], point: [f64; 2], setback: &Axis, height: &Axis) -> bool {
    let near =
        |axis: &Axis, index: usize, value: f64| (at(axis, index) - value).abs() < 0.99 * step(axis);
    (0..PLACES)
        .filter(|row| near(height, *row, point[1]))
        .all(|row| {
            (0..PLACES)
                .filter(|column| near(setback, *column, point[0]))
                .all(|column| places.get(row * PLACES + column) == Some(&true))
        })
}

/// The corners of what the post and the rails reach, all the way round: the post between fully in and its least
/// insertion, the clamp between the ends of the rails.
fn reachable(ride: &Ride) -> Option<Vec<[f64; 2]>> {
    let room = perch_room(ride);
    let (back, forward) = room.back_mm.zip(room.forward_mm)?;
    let (up, down) = (room.up_mm?, room.down_mm);
    let with = in_lengths(ride);
    // Along straight sides of the bike the map's own are a little bent.
    let bent = [0.0, 0.25, 0.5, 0.75];
    let corners = [(-down, -forward), (up, -forward), (up, back), (-down, back)];
    let outline = (0..4)
        .flat_map(|corner| bent.map(|share| (corner, share)))
        .map(|(corner, share)| {
            let (from, to) = (corners[corner], corners[(corner + 1) % 4]);
            let post = from.0 + (to.0 - from.0) * share;
            let rails = from.1 + (to.1 - from.1) * share;
            let (height, setback) = with.read_saddle(&ride.setup, with.sit_moved(post, rails));
            [hundredth(setback), hundredth(height)]
        })
        .collect();
    Some(outline)
}
