//! A rider's years: where each fit left each bike, what hurt when, and what has been outgrown.

use super::view::{Bench, session_input};
use crate::Problem;
use actix_web::{get, web};
use jiff::civil::Date;
use jiff::{Timestamp, Zoned};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind};
use wedge_core::foresee;
use wedge_core::limit::{Growth, growth, measure_again};
use wedge_core::measure::{Conventions, Output, Unit};
use wedge_core::plane::Point;
use wedge_core::position::Position;
use wedge_core::school::FrameLabel;
use wedge_core::units::Side;
use wedge_files::{Bike, ComplaintSpan, House, Rider, Session, SessionState, complaint_spans};
use wedge_store::Store;

/// A bike without what is in its fits.
#[derive(Serialize, ToSchema)]
pub(crate) struct BikeInYears {
    id: Uuid,
    name: String,
    kind: Kind,
    label: Option<FrameLabel>,
    frame: Frame,
    sessions: Vec<FitInYears>,
}

/// A fit by its day.
#[derive(Serialize, ToSchema)]
pub(crate) struct FitInYears {
    id: Uuid,
    number: i64,
    #[schema(value_type = String, format = Date)]
    day: Date,
    state: SessionState,
}

/// One measure as a fit found it and left it.
#[derive(Serialize, ToSchema)]
pub(crate) struct YearMeasure {
    label: String,
    /// Its convention: that of the bike's last fit, so that all years are read alike.
    how: String,
    unit: Unit,
    found: Option<f64>,
    left: Option<f64>,
}

/// Where one fit found and left a bike, or has it now.
#[derive(Serialize, ToSchema)]
pub(crate) struct Year {
    bike_id: Uuid,
    session_id: Uuid,
    number: i64,
    #[schema(value_type = String, format = Date)]
    day: Date,
    measures: Vec<YearMeasure>,
    /// The sit reference as left, from the BB.
    sit: Point,
    /// The hands as left.
    hand: Point,
}

/// What a rider has outgrown.
#[derive(Serialize, ToSchema)]
pub(crate) struct Outgrown {
    bike_id: Uuid,
    bike: String,
    number: i64,
    #[schema(value_type = String, format = Date)]
    day: Date,
    growth: Growth,
}

/// Everything a rider's page shows of the years.
#[derive(Serialize, ToSchema)]
pub(crate) struct Years {
    /// Every fit whose bike as found is closed, bike by bike, the first fit first.
    fits: Vec<Year>,
    /// What hurt, from when to when.
    complaints: Vec<ComplaintSpan>,
    /// Positions the rider has outgrown.
    outgrown: Vec<Outgrown>,
    /// Why the rider is to be measured again.
    measure_again: Option<String>,
    /// Where the latest of these fits left its bike, to draw at once.
    newest: Option<Newest>,
}

/// The latest position of a rider.
#[derive(Serialize, ToSchema)]
pub(crate) struct Newest {
    session_id: Uuid,
    position: Position,
}

/// The day where the studio is.
pub(crate) fn today() -> Date {
    Zoned::now().date()
}

/// The bikes of a rider with their fits by day.
pub(crate) fn bikes(rider: &Rider) -> Vec<BikeInYears> {
    rider
        .bikes
        .iter()
        .map(|bike| BikeInYears {
            id: bike.id,
            name: bike.name.clone(),
            kind: bike.kind,
            label: bike.label,
            frame: bike.frame,
            sessions: bike
                .sessions
                .iter()
                .map(|session| FitInYears {
                    id: session.id,
                    number: session.number,
                    day: session.day,
                    state: session.state,
                })
                .collect(),
        })
        .collect()
}

/// A rider's years as of `today`.
pub(crate) fn years(rider: &Rider, house: &House, today: Date) -> Years {
    Years {
        fits: rider
            .bikes
            .iter()
            .flat_map(|b| fits(rider, house, b))
            .collect(),
        complaints: complaint_spans(rider),
        outgrown: rider
            .bikes
            .iter()
            .filter_map(|bike| outgrown(rider, house, bike))
            .collect(),
        measure_again: again(rider, today),
        newest: newest(rider, house),
    }
}

fn newest(rider: &Rider, house: &House) -> Option<Newest> {
    let all = rider
        .bikes
        .iter()
        .flat_map(|bike| bike.sessions.iter().map(move |session| (bike, session)));
    let (bike, session) = all
        .filter(|(_, session)| session.now.is_some())
        .max_by_key(|(_, session)| (session.day, session.number))?;
    let input = session_input(rider, house, bike, session, *session.now()?)?;
    Some(Newest {
        session_id: session.id,
        position: foresee::position(&input).ok()?,
    })
}

fn fits(rider: &Rider, house: &House, bike: &Bike) -> Vec<Year> {
    let Some(last) = bike.sessions.last() else {
        return Vec::new();
    };
    bike.sessions
        .iter()
        .filter_map(|session| {
            let at = |setup| {
                let mut input = session_input(rider, house, bike, session, setup)?;
                input.conventions = last.conventions;
                foresee::position(&input).ok()
            };
            let left = at(*session.now()?)?;
            let found = at(*session.found()?)?;
            Some(Year {
                bike_id: bike.id,
                session_id: session.id,
                number: session.number,
                day: session.day,
                measures: measures(&last.conventions, &found, &left),
                sit: left.bike.sit,
                hand: left.bike.hand,
            })
        })
        .collect()
}

/// What a ruler of years carries.
const CARRIED: [Output; 4] = [
    Output::SaddleHeight,
    Output::Setback,
    Output::Drop,
    Output::KneeAtFullReach,
];

fn measures(conventions: &Conventions, found: &Position, left: &Position) -> Vec<YearMeasure> {
    CARRIED
        .into_iter()
        .map(|output| YearMeasure {
            label: output.spec().label.to_owned(),
            how: output.convention(conventions, left.hands),
            unit: output.unit(conventions),
            found: output.of(found, Side::Right),
            left: output.of(left, Side::Right),
        })
        .collect()
}

/// Whether the rider has outgrown where the last finished fit left a bike.
fn outgrown(rider: &Rider, house: &House, bike: &Bike) -> Option<Outgrown> {
    let last: &Session = bike.sessions.last()?;
    if last.state == SessionState::Open {
        return None;
    }
    let then = session_input(rider, house, bike, last, *last.now()?)?;
    Some(Outgrown {
        bike_id: bike.id,
        bike: bike.name.clone(),
        number: last.number,
        day: last.day,
        growth: growth(&then, &rider.measured()?)?,
    })
}

fn again(rider: &Rider, today: Date) -> Option<String> {
    let age = (today - rider.born?)
        .total((jiff::Unit::Year, today))
        .ok()?;
    let last: Timestamp = rider.readings.iter().map(|r| r.taken_at).max()?;
    let measured = last.to_zoned(jiff::tz::TimeZone::system()).date();
    let days = (today - measured).total((jiff::Unit::Day, today)).ok()?;
    measure_again(age, days)
}

/// The position a fit left, or has now, to draw.
#[utoipa::path(
    context_path = "/api", tag = "riders",
    responses((status = 200, body = Position), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/position")]
pub(crate) async fn position(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Position>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    Ok(web::Json(foresee::position(&bench.input(bench.now()?)?)?))
}
