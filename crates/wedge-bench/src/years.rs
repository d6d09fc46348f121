//! A rider's years: where each fit left each bike, what hurt when, what has been outgrown, and what is due.

use crate::bench::session_input;
use jiff::civil::Date;
use jiff::{Timestamp, Zoned};
use serde::Serialize;
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind, Setup};
use wedge_core::limit::{Growth, growth, measure_again};
use wedge_core::measure::{Conventions, Output, Unit};
use wedge_core::plane::Point;
use wedge_core::position::{Position, Ride};
use wedge_core::school::FrameLabel;
use wedge_core::units::Side;
use wedge_files::{Bike, ComplaintSpan, House, Rider, Session, SessionState, complaint_spans};

/// A bike without what is in its fits.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BikeInYears {
    /// The bike's id.
    pub id: Uuid,
    /// As the rider calls it.
    pub name: String,
    /// The kind of riding.
    pub kind: Kind,
    /// The size the frame is labelled with.
    pub label: Option<FrameLabel>,
    /// The frame.
    pub frame: Frame,
    /// Whether it is a fit stand.
    pub stand: bool,
    /// Where its position was carried from, while nobody has ridden it.
    pub carried: Option<CarriedHere>,
    /// Its fits, the first one first.
    pub sessions: Vec<FitInYears>,
}

/// A position that was carried to a bike: computed, not ridden.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CarriedHere {
    /// "From Weir 54, fit 2, 12 Nov 2026: computed, not ridden yet".
    pub words: String,
    /// On which day it was.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub on: Date,
    /// Where the sit reference was wished.
    pub sit: Point,
    /// Where the hands were.
    pub hand: Point,
    /// How it comes out on this bike.
    pub position: Option<Box<Position>>,
    /// Whether it was made to measure.
    pub made: bool,
}

/// A fit by its day.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FitInYears {
    /// The fit's id.
    pub id: Uuid,
    /// The how-manieth of its bike.
    pub number: i64,
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// Whether it is going on.
    pub state: SessionState,
}

/// One measure as a fit found it and left it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct YearMeasure {
    /// What it is.
    pub label: String,
    /// Its convention: that of the bike's last fit, so that all years are read alike.
    pub how: String,
    /// Its unit.
    pub unit: Unit,
    /// As found.
    pub found: Option<f64>,
    /// As left.
    pub left: Option<f64>,
}

/// Where one fit found and left a bike, or has it now.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Year {
    /// The bike's id.
    pub bike_id: Uuid,
    /// The fit's id.
    pub session_id: Uuid,
    /// The how-manieth of its bike.
    pub number: i64,
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// What a ruler of years carries.
    pub measures: Vec<YearMeasure>,
    /// The sit reference as left, from the BB.
    pub sit: Point,
    /// The hands as left.
    pub hand: Point,
}

/// What a rider has outgrown.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Outgrown {
    /// The bike's id.
    pub bike_id: Uuid,
    /// As it is called.
    pub bike: String,
    /// The how-manieth fit left it so.
    pub number: i64,
    /// On which day.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// What has grown.
    pub growth: Growth,
}

/// The latest position of a rider.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Newest {
    /// The fit that left it.
    pub session_id: Uuid,
    /// The position.
    pub position: Position,
}

/// Everything a rider's page shows of the years.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Years {
    /// Every fit whose bike as found is closed, bike by bike, the first fit first.
    pub fits: Vec<Year>,
    /// What hurt, from when to when.
    pub complaints: Vec<ComplaintSpan>,
    /// The day of every ride that came back.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<String>))]
    pub rides: Vec<Date>,
    /// Positions the rider has outgrown.
    pub outgrown: Vec<Outgrown>,
    /// Why the rider is to be measured again.
    pub measure_again: Option<String>,
    /// Where the latest of these fits left its bike, to draw at once.
    pub newest: Option<Newest>,
}

/// A visit that is due.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FollowUp {
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// Whether the day has come.
    pub due: bool,
    /// "due in 5 days".
    pub words: String,
}

impl FollowUp {
    /// A visit on a day, as it stands `today`.
    pub fn of(day: Date, today: Date) -> Self {
        let days = (day - today).get_days();
        let many = |n: i32| if n == 1 { "day" } else { "days" };
        let words = match days {
            0 => "due today".to_owned(),
            1.. => format!("due in {days} {}", many(days)),
            _ => format!("{} {} overdue", -days, many(-days)),
        };
        Self {
            day,
            due: days <= 0,
            words,
        }
    }
}

/// The bikes of a rider with their fits by day.
pub fn bikes(rider: &Rider, house: &House) -> Vec<BikeInYears> {
    let fit = |session: &Session| FitInYears {
        id: session.id,
        number: session.number,
        day: session.day,
        state: session.state,
    };
    let bike = |bike: &Bike| BikeInYears {
        id: bike.id,
        name: bike.name.clone(),
        kind: bike.kind,
        label: bike.label,
        frame: bike.frame,
        stand: bike.stand,
        carried: crate::next::carried_here(rider, house, bike),
        sessions: bike.sessions.iter().map(fit).collect(),
    };
    rider.bikes.iter().map(bike).collect()
}

/// A rider's years as of `now`, where the studio is.
pub fn years(rider: &Rider, house: &House, now: &Zoned) -> Years {
    let of = |bike| OfBike { rider, house, bike };
    let bikes = || rider.bikes.iter().map(of);
    Years {
        fits: bikes().flat_map(|years| years.fits()).collect(),
        complaints: complaint_spans(rider),
        rides: ridden(rider),
        outgrown: bikes().filter_map(|years| years.outgrown()).collect(),
        measure_again: again(rider, now),
        newest: newest(rider, house),
    }
}

/// The years of one bike.
struct OfBike<'a> {
    rider: &'a Rider,
    house: &'a House,
    bike: &'a Bike,
}

impl OfBike<'_> {
    /// The rider on a setup of one of its fits, lengths read in some conventions.
    fn ride(&self, session: &Session, conventions: Conventions, setup: Setup) -> Option<Ride> {
        let mut input = session_input(self.rider, self.house, self.bike, session, setup)?;
        input.conventions = conventions;
        input.check().ok()
    }

    fn fits(&self) -> Vec<Year> {
        let Some(last) = self.bike.sessions.last() else {
            return Vec::new();
        };
        let all = self.bike.sessions.iter();
        all.filter_map(|session| {
            let at = |setup| Some(self.ride(session, last.conventions, setup)?.position());
            let left = at(*session.now()?)?;
            let found = at(*session.found()?)?;
            Some(Year {
                bike_id: self.bike.id,
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

    /// Whether the rider has outgrown where the last finished fit left the bike.
    fn outgrown(&self) -> Option<Outgrown> {
        let last = self.bike.sessions.last()?;
        if last.state == SessionState::Open {
            return None;
        }
        let then = self.ride(last, last.conventions, *last.now()?)?;
        Some(Outgrown {
            bike_id: self.bike.id,
            bike: self.bike.name.clone(),
            number: last.number,
            day: last.day,
            growth: growth(&then, &self.rider.measured()?)?,
        })
    }
}

/// The day of every ride that came back, the first first.
fn ridden(rider: &Rider) -> Vec<Date> {
    let fits = rider.bikes.iter().flat_map(|bike| &bike.sessions);
    let mut all: Vec<Date> = fits
        .flat_map(|session| session.rides().into_iter().map(|ride| ride.on))
        .collect();
    all.sort_unstable();
    all
}

fn newest(rider: &Rider, house: &House) -> Option<Newest> {
    let fits = (rider.bikes.iter())
        .flat_map(|bike| bike.sessions.iter().map(move |session| (bike, session)));
    let (bike, session) = fits
        .filter(|(_, session)| session.now.is_some())
        .max_by_key(|(_, session)| (session.day, session.number))?;
    let years = OfBike { rider, house, bike };
    let ride = years.ride(session, session.conventions, *session.now()?)?;
    Some(Newest {
        session_id: session.id,
        position: ride.position(),
    })
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

fn again(rider: &Rider, now: &Zoned) -> Option<String> {
    let today = now.date();
    let age = (today - rider.born?)
        .total((jiff::Unit::Year, today))
        .ok()?;
    let last: Timestamp = rider.readings.iter().map(|r| r.taken_at).max()?;
    let measured = last.to_zoned(now.time_zone().clone()).date();
    let days = (today - measured).total((jiff::Unit::Day, today)).ok()?;
    measure_again(age, days)
}
