//! A fit as the interface reads it: the record, and what the core makes of it.

use crate::body::{body, certainty, measured_of};
use crate::look::seen_rows;
use crate::trial::trial_views;
use crate::{
    Bench, CalibrationView, Certainty, Declined, DueAgain, MeasureView, SeenRow, TrialView,
};
use serde::Serialize;
use serde_json::Value;
use std::collections::HashSet;
use uuid::Uuid;
use wedge_core::bike::{Check, Frame, Kind, TapedFrame, checks};
use wedge_core::foresee::{ForeseeInput, Foresight, Trying, Worth, foresee_on, next_readings};
use wedge_core::handout::{Origins, table};
use wedge_core::intake::{Stop, Visit};
use wedge_core::limit::{AskedLimit, GrossReport, LimitRow, gross, limits};
use wedge_core::measure::{Origin, Quantity, Reading};
use wedge_core::position::{Range, ranges_with};
use wedge_core::rider::{Proportion, proportions};
use wedge_core::school::{FrameLabel, FrontView};
use wedge_core::trial::{Protocol, RunningError, running_errors, steady};
use wedge_files::{ReadingRecord, Session, Trial};

/// The versions a fit, its rider and its bike were read at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Versions {
    /// Of the fit.
    pub session: i64,
    /// Of the rider.
    pub rider: i64,
    /// Of the bike.
    pub bike: i64,
}

/// The rider of a session, without the bikes.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SessionRider {
    /// The rider's id.
    pub id: Uuid,
    /// The version it was read at.
    pub version: i64,
    /// As the rider is called.
    pub name: String,
    /// Whether he is a stand-in's: nobody sits there, and everything of him is simulated.
    pub simulated: bool,
    /// Readings of the body.
    pub readings: Vec<ReadingRecord>,
}

/// The bike of a session, without its other fits.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SessionBike {
    /// The bike's id.
    pub id: Uuid,
    /// The version it was read at.
    pub version: i64,
    /// As the rider calls it.
    pub name: String,
    /// The kind of riding.
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// What frame reach and stack were computed from, when they are on no chart.
    pub taped: Option<TapedFrame>,
    /// The size the frame is labelled with.
    pub label: Option<FrameLabel>,
    /// Whether it is a fit stand.
    pub stand: bool,
}

/// A protocol going on.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunGoingOn {
    /// The run's id.
    pub id: Uuid,
    /// Its protocol.
    pub protocol: Protocol,
    /// As that is called.
    pub label: &'static str,
}

/// Where the number of a bike's length or part is from.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NumberFrom {
    /// What it is of.
    pub quantity: Quantity,
    /// Where it is from.
    pub origin: Origin,
    /// The same in words.
    pub from: &'static str,
}

/// A session with everything the board, the tape and the panel show.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SessionView {
    /// The version it was read at.
    pub version: i64,
    /// The rider.
    pub rider: SessionRider,
    /// The bike.
    pub bike: SessionBike,
    /// The fit, without what is given beside it read together; of its readings, the last of each length and side.
    pub session: Session,
    /// Every trial.
    pub trials: Vec<TrialView>,
    /// The protocol going on.
    pub run: Option<RunGoingOn>,
    /// What is due again since the front moved.
    pub due_again: Option<DueAgain>,
    /// How far foresight was off over this fit's trials, output by output.
    pub errors: Vec<RunningError>,
    /// What to mind about the fit's effort.
    pub steady: Option<String>,
    /// The ranges that mark the outputs here, the hands where they are.
    pub ranges: Vec<Range>,
    /// Ask foresight with this and the changes.
    pub input: ForeseeInput,
    /// Dimensions nobody has taped yet: drawn from an estimate.
    pub unknown: Vec<Quantity>,
    /// Where the numbers of the bike as it stands are from, in the chosen conventions.
    pub origins: Vec<NumberFrom>,
    /// What of the bike's numbers does not go together.
    pub checks: Vec<Check>,
    /// What frame reach and stack were computed from, in words, when they are on no chart.
    pub computed: Option<String>,
    /// The order the tape walks round the bike in this studio.
    pub walk: Vec<Quantity>,
    /// What stops this fit, covered by a written reason or not.
    pub stops: Vec<Stop>,
    /// Whether the way is stopped.
    pub stopped: bool,
    /// What the visit is for when nobody says.
    pub visit_unsaid: Visit,
    /// The body, measure by measure.
    pub body: Vec<MeasureView>,
    /// Proportions outside the usual.
    pub proportions: Vec<Proportion>,
    /// How far the main angles may be off, and how far they would be with stature alone.
    pub certainty: Vec<Certainty>,
    /// What would make the main angles surer for the least time, once there is a position.
    pub worth: Vec<Worth>,
    /// Limits against demand, once there is a position.
    pub limits: Vec<LimitRow>,
    /// Limits that intake calls for and nobody has tested.
    pub asked: Vec<AskedLimit>,
    /// What is far out, once there is a position.
    pub gross: GrossReport,
    /// What was seen, beside what was foreseen of it.
    pub seen: Vec<SeenRow>,
    /// The front view of each leg that was looked at, as one finding.
    pub front_views: Vec<FrontView>,
    /// How much there is to fit the model to: what was seen at looks and trials, and lines that hung.
    pub sightings: usize,
    /// The rider as fitted to what was seen.
    pub calibration: Option<CalibrationView>,
    /// The bike as found, once that is closed.
    pub found: Option<Foresight>,
    /// The bike as it stands now.
    pub now: Foresight,
    /// What was being typed.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
    pub draft: Option<Value>,
}

impl Bench {
    /// The readings of the bike in every fit, this one's last.
    pub(crate) fn bike_readings(&self) -> Vec<Reading> {
        (self.bike.sessions.iter())
            .filter(|session| session.id != self.session.id)
            .chain([&self.session])
            .flat_map(|session| session.readings.iter().map(|record| record.reading))
            .collect()
    }

    /// Where the numbers of the bike are from, read as they were.
    pub(crate) fn origins<'a>(&'a self, readings: &'a [Reading]) -> Origins<'a> {
        Origins {
            readings,
            usual: self.bike.usual.as_deref(),
            carried: self.bike.carried.is_some(),
            simulated: self.rider.simulated.is_some(),
        }
    }

    /// Where the numbers on the board are from, as the hand-out says it.
    fn numbers_from(&self, found: &Foresight, now: &Foresight) -> Vec<NumberFrom> {
        let readings = self.bike_readings();
        let from = self.origins(&readings);
        let lines = table((&found.after, &found.setup), (&now.after, &now.setup), from);
        (lines.into_iter().filter(|line| !line.other))
            .map(|line| NumberFrom {
                quantity: line.quantity,
                origin: line.origin,
                from: line.origin.label(),
            })
            .collect()
    }

    /// What the interface reads, with the `draft` as it was saved.
    pub fn view(self, versions: Versions, draft: Option<Value>) -> Result<SessionView, Declined> {
        let setup = self.now()?;
        let input = self.input(setup)?;
        let ride = input.check()?;
        let now = foresee_on(&ride, &[])?;
        let found = match self.session.found() {
            Some(found) => Some(foresee_on(&self.ride(*found)?, &[])?),
            None => None,
        };
        let unknown = self.unknown();
        let (limits, gross, worth, due_again) = if unknown.is_empty() {
            let trying = Trying::of(&ride);
            (
                limits(&trying),
                gross(&trying, &self.session.intake, &self.house.parts),
                next_readings(&trying),
                self.due_again(&trying),
            )
        } else {
            // Nothing is said of a saddle nobody has taped.
            (Vec::new(), GrossReport::default(), Vec::new(), None)
        };
        let origins = self.numbers_from(found.as_ref().unwrap_or(&now), &now);
        let looks = self.session.looks();
        let compared: Vec<_> = (self.session.trials.iter())
            .flat_map(Trial::compared)
            .collect();
        let run = self.session.run().map(|run| RunGoingOn {
            id: run.id,
            protocol: run.plan.protocol(),
            label: run.plan.protocol().label(),
        });
        let frame = self.bike.frame;
        let computed = |taped: TapedFrame| taped.compute(frame.seat_angle_deg).ok();
        Ok(SessionView {
            version: versions.session,
            certainty: certainty(&input, &now),
            worth,
            body: body(&self.measured, &self.rider.readings),
            proportions: proportions(&measured_of(&self.measured)),
            seen: seen_rows(&self.session, &now.after),
            front_views: self.front_views(),
            sightings: looks.iter().map(|look| look.seen.len()).sum(),
            asked: self.asked_limits(),
            stops: self.session.intake.stops(),
            stopped: self.session.intake.is_stopped(),
            visit_unsaid: self.visit_unsaid(),
            errors: running_errors(&compared),
            steady: self.session.effort.and_then(steady),
            ranges: (ranges_with(self.bike.kind, &input.ranges).into_iter())
                .filter(|range| range.hands.is_none_or(|hands| hands == now.after.hands))
                .collect(),
            checks: checks(&frame, &setup),
            computed: (self.bike.taped.and_then(computed)).map(|computed| computed.words),
            calibration: (self.calibrated)
                .map(|record| CalibrationView::of(record, &self.measured)),
            rider: SessionRider {
                id: self.rider.id,
                version: versions.rider,
                name: self.rider.name,
                simulated: self.rider.simulated.is_some(),
                readings: self.rider.readings,
            },
            bike: SessionBike {
                id: self.bike.id,
                version: versions.bike,
                name: self.bike.name,
                kind: self.bike.kind,
                frame,
                taped: self.bike.taped,
                label: self.bike.label,
                stand: self.bike.stand,
            },
            walk: self.house.walk,
            trials: trial_views(self.session.trials, &self.session.intake.complaints),
            // What is given read together is not given twice.
            session: Session {
                trials: Vec::new(),
                runs: Vec::new(),
                disputes: Vec::new(),
                afterwards: Vec::new(),
                looks: Vec::new(),
                calibrations: Vec::new(),
                readings: last_of_each(self.session.readings),
                ..self.session
            },
            run,
            due_again,
            input,
            unknown,
            origins,
            limits,
            gross,
            found,
            now,
            draft,
        })
    }
}

/// Of readings in their order, the last of each length and side, in that order.
fn last_of_each(readings: Vec<ReadingRecord>) -> Vec<ReadingRecord> {
    let mut seen = HashSet::new();
    let mut last: Vec<ReadingRecord> = (readings.into_iter().rev())
        .filter(|record| seen.insert((record.reading.quantity, record.reading.side)))
        .collect();
    last.reverse();
    last
}
