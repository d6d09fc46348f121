//! A session as the interface reads it: the record, and what the core makes of it.

use crate::Problem;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind, Setup};
use wedge_core::foresee::{
    self as core, ForeseeInput, Foresight, Observations, Rider as MeasuredRider, observe_pitch,
    settle,
};
use wedge_core::measure::{Quantity, Reading};
use wedge_files::{Bike, Outcome, ReadingRecord, Seen, Session, Trial, Verdict};
use wedge_store::Store;

/// The rider of a session, without the other bikes.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionRider {
    id: Uuid,
    version: i64,
    name: String,
    readings: Vec<ReadingRecord>,
}

/// The bike of a session, without its other fits.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionBike {
    id: Uuid,
    version: i64,
    name: String,
    kind: Kind,
    frame: Frame,
}

/// A trial with its entries read together.
#[derive(Serialize, ToSchema)]
pub(crate) struct TrialView {
    trial: Trial,
    seen: Vec<Seen>,
    words: Option<String>,
    verdict: Option<Verdict>,
    outcome: Option<Outcome>,
}

impl From<Trial> for TrialView {
    fn from(trial: Trial) -> Self {
        Self {
            seen: trial.seen(),
            words: trial.words().map(str::to_owned),
            verdict: trial.verdict(),
            outcome: trial.outcome(),
            trial,
        }
    }
}

/// A session with everything the board, the tape and the panel show.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionView {
    version: i64,
    rider: SessionRider,
    bike: SessionBike,
    session: Session,
    trials: Vec<TrialView>,
    /// Ask foresight with this and the changes.
    input: ForeseeInput,
    /// Dimensions nobody has taped yet: drawn from an estimate.
    unknown: Vec<Quantity>,
    /// What tape and parts disagree about.
    question: Option<String>,
    /// The bike as found, once that is closed.
    found: Option<Foresight>,
    /// The bike as it stands now.
    now: Foresight,
    /// What was being typed.
    #[schema(value_type = Option<Object>)]
    draft: Option<serde_json::Value>,
}

/// The input for a setup of a session, without what was observed.
fn plain(rider: MeasuredRider, bike: &Bike, session: &Session, setup: Setup) -> ForeseeInput {
    ForeseeInput {
        effort: session.effort,
        hands: session
            .hands
            .filter(|place| setup.bar.places().contains(place)),
        conventions: session.conventions,
        ..ForeseeInput::new(rider, bike.kind, bike.frame, setup)
    }
}

/// The input for a setup of a session whose bike as found is closed: the foot's pitch is as observed there.
pub(crate) fn session_input(
    rider: MeasuredRider,
    bike: &Bike,
    session: &Session,
    setup: Setup,
) -> ForeseeInput {
    let found = session.found().copied().unwrap_or(setup);
    seen_on(
        &plain(rider, bike, session, found),
        plain(rider, bike, session, setup),
    )
}

/// The input with the foot's pitch as observed on the bike as `found`.
fn seen_on(found: &ForeseeInput, input: ForeseeInput) -> ForeseeInput {
    ForeseeInput {
        observed: Observations {
            pitch: observe_pitch(found),
        },
        ..input
    }
}

/// A session with its rider and bike: what routes work on.
pub(crate) struct Bench {
    pub(crate) rider_name: String,
    pub(crate) rider_id: Uuid,
    pub(crate) rider_readings: Vec<ReadingRecord>,
    pub(crate) rider_version: i64,
    pub(crate) measured: MeasuredRider,
    pub(crate) bike: wedge_store::Versioned<Bike>,
    pub(crate) session: Session,
    pub(crate) version: i64,
}

impl Bench {
    pub(crate) async fn read(store: &Store, id: Uuid) -> Result<Self, Problem> {
        let place = store.place_of_session(id).await?;
        let wedge_store::Versioned {
            noun: rider,
            version: rider_version,
        } = store.rider(place.rider).await?;
        let session = store.session(id).await?;
        let measured = rider
            .measured_for(&session.noun)
            .ok_or_else(|| Problem::field("/stature_mm", "The rider needs a stature first"))?;
        let bike = store.bike(place.bike).await?;
        Ok(Self {
            rider_name: rider.name,
            rider_id: rider.id,
            rider_readings: rider.readings,
            rider_version,
            measured,
            bike,
            session: session.noun,
            version: session.version,
        })
    }

    /// The input for a setup of this session, without what was observed.
    fn plain(&self, setup: Setup) -> ForeseeInput {
        plain(self.measured, &self.bike.noun, &self.session, setup)
    }

    /// The bike as found: as closed, or as far as it is taped.
    pub(crate) fn found(&self) -> Result<Setup, Problem> {
        match self.session.found() {
            Some(found) => Ok(*found),
            None => self.settled(self.session.base, self.readings()),
        }
    }

    /// A setup with readings settled on it.
    pub(crate) fn settled(
        &self,
        setup: Setup,
        readings: impl IntoIterator<Item = Reading>,
    ) -> Result<Setup, Problem> {
        let readings: Vec<Reading> = readings.into_iter().collect();
        Ok(settle(&self.plain(setup), &readings)?)
    }

    pub(crate) fn readings(&self) -> impl Iterator<Item = Reading> {
        self.session.readings.iter().map(|r| r.reading)
    }

    /// The input for any setup of this session: the foot's pitch stays as observed on the bike as found.
    pub(crate) fn input(&self, setup: Setup) -> Result<ForeseeInput, Problem> {
        Ok(seen_on(&self.plain(self.found()?), self.plain(setup)))
    }

    /// The setup on the bench.
    pub(crate) fn now(&self) -> Result<Setup, Problem> {
        self.session
            .now()
            .map_or_else(|| self.found(), |now| Ok(*now))
    }

    /// What nobody has taped yet, of what must be taped before a bolt is turned.
    pub(crate) fn unknown(&self) -> Vec<Quantity> {
        let earlier = self
            .bike
            .noun
            .sessions
            .iter()
            .flat_map(|s| s.readings.iter().map(|r| r.reading.quantity));
        let taped: Vec<Quantity> = earlier.chain(self.readings().map(|r| r.quantity)).collect();
        [Quantity::SaddleHeight, Quantity::Setback]
            .into_iter()
            .filter(|q| !taped.contains(q))
            .collect()
    }

    /// What the interface reads, with the `draft` as it was saved.
    pub(crate) fn view(self, draft: Option<&str>) -> Result<SessionView, Problem> {
        let setup = self.now()?;
        let input = self.input(setup)?;
        let now = core::foresee(&input)?;
        let found = self
            .session
            .found()
            .map(|found| Ok::<_, Problem>(core::foresee(&self.input(*found)?)?))
            .transpose()?;
        let draft = draft.and_then(|body| serde_json::from_str(body).ok());
        let unknown = self.unknown();
        let question = setup.residual.question();
        let mut session = self.session;
        // Trials are given once, read together.
        let trials = std::mem::take(&mut session.trials);
        Ok(SessionView {
            version: self.version,
            rider: SessionRider {
                id: self.rider_id,
                version: self.rider_version,
                name: self.rider_name,
                readings: self.rider_readings,
            },
            bike: SessionBike {
                id: self.bike.noun.id,
                version: self.bike.version,
                name: self.bike.noun.name,
                kind: self.bike.noun.kind,
                frame: self.bike.noun.frame,
            },
            session,
            trials: trials.into_iter().map(TrialView::from).collect(),
            input,
            unknown,
            question,
            found,
            now,
            draft,
        })
    }
}
