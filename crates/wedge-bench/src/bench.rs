//! A fit with its rider and bike, and the setups it is asked about.

use crate::Declined;
use crate::declined::accepted;
use crate::recheck::slides;
use jiff::Timestamp;
use uuid::Uuid;
use wedge_core::bike::{Bar, HandPlace, Setup};
use wedge_core::foresee::{Change, ForeseeInput, foresee_on, meant};
use wedge_core::limit::{AskedLimit, asked_limits};
use wedge_core::measure::{Quantity, Reading, Refusal};
use wedge_core::position::{Fit, Observations, Position, Ride, fitted, settle};
use wedge_core::rider::Rider as MeasuredRider;
use wedge_core::trial::Picks;
use wedge_core::work::Station;
use wedge_files::{Bike, CalibrationRecord, House, ReadingRecord, Rider, Session, TrialForesight};

/// A fit on the bench.
#[derive(Debug, Clone)]
pub struct Bench {
    /// The rider, without the other bikes.
    pub rider: Rider,
    /// The bike, its other fits known by their tape alone.
    pub bike: Bike,
    /// The fit.
    pub session: Session,
    /// How the studio works.
    pub house: House,
    /// The rider as measured for this fit.
    pub(crate) measured: MeasuredRider,
    /// Picks of every blind comparison this rider ever made.
    pub(crate) picks: Vec<Picks>,
    /// How far this rider was seen to slide ahead, in every fit.
    pub(crate) slides: Vec<(f64, f64)>,
    pub(crate) calibrated: Option<CalibrationRecord>,
}

/// A trial as it begins.
#[derive(Debug, Clone, PartialEq)]
pub struct TriedOut {
    /// What is asked for, conventions spelled out.
    pub changes: Vec<Change>,
    /// What is foreseen of it.
    pub foreseen: TrialForesight,
    /// The setup it makes.
    pub setup: Setup,
}

/// The input for a setup of a session, without what was observed.
fn plain(
    (mut rider, fit): (MeasuredRider, Option<&Fit>),
    house: &House,
    bike: &Bike,
    session: &Session,
    setup: Setup,
) -> ForeseeInput {
    rider.pelvis.sits_forward_mm = session.saddle.sits_forward();
    ForeseeInput {
        ranges: house.ranges_of(bike.kind),
        effort: session.effort,
        hands: session
            .hands
            .filter(|place| setup.bar.places().contains(place)),
        fit: fit.cloned(),
        conventions: session.conventions,
        ..ForeseeInput::new(rider, bike.kind, bike.frame, setup)
    }
}

/// The fit that counts: the last one, unless it was switched off or the body was measured again since.
fn used<'a>(record: Option<&'a CalibrationRecord>, measured: &MeasuredRider) -> Option<&'a Fit> {
    record?
        .calibration
        .as_ref()
        .filter(|calibration| calibration.is_of(measured))
        .map(|calibration| &calibration.fit)
}

/// The input with the foot's pitch as observed on the bike as `found`; left to the setup itself where nobody can sit on
/// that.
fn seen_on(found: &ForeseeInput, input: ForeseeInput) -> ForeseeInput {
    let ride = found.check().ok();
    ForeseeInput {
        observed: Observations {
            pitch: ride.map(|ride| ride.observe_pitch()),
        },
        ..input
    }
}

/// The input for a setup of a session whose bike as found is closed: the foot's pitch is as observed there.
/// `None` until the rider's stature is known.
pub(crate) fn session_input(
    rider: &Rider,
    house: &House,
    bike: &Bike,
    session: &Session,
    setup: Setup,
) -> Option<ForeseeInput> {
    let measured = rider.measured_for(session)?;
    let known = (measured, used(rider.calibrated_for(session), &measured));
    let found = session.found().copied().unwrap_or(setup);
    Some(seen_on(
        &plain(known, house, bike, session, found),
        plain(known, house, bike, session, setup),
    ))
}

impl Bench {
    /// A fit of one of the rider's bikes. The rider has every fit; this one is given whole.
    pub fn of(mut rider: Rider, session: Session, house: House) -> Result<Self, Declined> {
        let measured = rider
            .measured_for(&session)
            .ok_or_else(Declined::no_stature)?;
        let calibrated = rider.calibrated_for(&session).cloned();
        let bikes = std::mem::take(&mut rider.bikes);
        let findings = (bikes.iter().flat_map(|bike| &bike.sessions)).flat_map(Session::findings);
        let picks = findings.filter_map(|finding| finding.picks).collect();
        let slides = (bikes.iter().flat_map(|bike| &bike.sessions))
            .flat_map(slides)
            .collect();
        let is_its = |bike: &Bike| bike.sessions.iter().any(|fit| fit.id == session.id);
        let bike = (bikes.into_iter().find(is_its)).ok_or(Declined::Unknown("bike"))?;
        Ok(Self {
            rider,
            bike,
            session,
            house,
            measured,
            picks,
            slides,
            calibrated,
        })
    }

    /// The input for a setup of this session, without what was observed.
    fn plain(&self, setup: Setup) -> ForeseeInput {
        self.plain_fitted(used(self.calibrated.as_ref(), &self.measured), setup)
    }

    fn plain_fitted(&self, fit: Option<&Fit>, setup: Setup) -> ForeseeInput {
        plain(
            (self.measured, fit),
            &self.house,
            &self.bike,
            &self.session,
            setup,
        )
    }

    /// The input for a setup of this session with the rider as measured, whatever was fitted.
    pub(crate) fn unfitted(&self, setup: Setup) -> ForeseeInput {
        self.plain_fitted(None, setup)
    }

    /// The input for any setup of this session: the foot's pitch stays as observed on the bike as found.
    pub fn input(&self, setup: Setup) -> Result<ForeseeInput, Declined> {
        Ok(seen_on(&self.plain(self.found()?), self.plain(setup)))
    }

    /// The rider on any setup of this session.
    pub(crate) fn ride(&self, setup: Setup) -> Result<Ride, Declined> {
        Ok(self.input(setup)?.check()?)
    }

    /// The rider on the setup on the bench.
    pub(crate) fn ride_now(&self) -> Result<Ride, Declined> {
        self.ride(self.now()?)
    }

    /// The position on the bench.
    pub fn position(&self) -> Result<Position, Declined> {
        Ok(self.ride_now()?.position())
    }

    /// The bike as found: as closed, or as far as it is taped.
    pub fn found(&self) -> Result<Setup, Declined> {
        match self.session.found() {
            Some(found) => Ok(*found),
            None => self.settled(self.session.base, self.readings()),
        }
    }

    /// The setup on the bench.
    pub fn now(&self) -> Result<Setup, Declined> {
        self.session
            .now()
            .map_or_else(|| self.found(), |now| Ok(*now))
    }

    fn readings(&self) -> impl Iterator<Item = Reading> {
        self.session.readings.iter().map(|r| r.reading)
    }

    /// A setup with readings settled on it.
    fn settled(
        &self,
        setup: Setup,
        readings: impl IntoIterator<Item = Reading>,
    ) -> Result<Setup, Declined> {
        let readings: Vec<Reading> = readings.into_iter().collect();
        Ok(settle((&self.bike.frame, &setup), &readings)?)
    }

    /// The setup on the bench among the session's; declined while the bike as found is open, before `what`.
    pub fn on_the_bench(&self, what: &str) -> Result<Uuid, Declined> {
        (self.session.now)
            .ok_or_else(|| Declined::not_now(format!("Close the bike as found before {what}")))
    }

    /// The other fits of this bike, the last first.
    pub(crate) fn other_fits(&self) -> impl Iterator<Item = &Session> {
        let all = self.bike.sessions.iter().rev();
        all.filter(|session| session.id != self.session.id)
    }

    /// Whether the rider is fitted to what was seen.
    pub(crate) fn is_fitted(&self) -> bool {
        used(self.calibrated.as_ref(), &self.measured).is_some()
    }

    /// When the model was last fitted, or the fit switched off.
    pub(crate) fn fitted_at(&self) -> Option<Timestamp> {
        self.calibrated.as_ref().map(|record| record.at)
    }

    /// What nobody has taped yet, of what must be taped before a bolt is turned.
    pub fn unknown(&self) -> Vec<Quantity> {
        let earlier =
            (self.bike.sessions.iter()).flat_map(|s| s.readings.iter().map(|r| r.reading.quantity));
        let taped: Vec<Quantity> = earlier.chain(self.readings().map(|r| r.quantity)).collect();
        [Quantity::SaddleHeight, Quantity::Setback]
            .into_iter()
            .filter(|q| !taped.contains(q))
            .collect()
    }

    /// The limits intake calls for that nobody has tested.
    pub(crate) fn asked_limits(&self) -> Vec<AskedLimit> {
        asked_limits(&self.session.intake, &self.measured)
    }

    /// Declined while a red flag without a written reason stops the way.
    pub fn go_on(&self) -> Result<(), Declined> {
        if !self.session.intake.is_stopped() {
            return Ok(());
        }
        let flags: Vec<String> = (self.session.intake.stops().into_iter())
            .filter(|stop| !stop.covered)
            .map(|stop| stop.label.to_lowercase())
            .collect();
        Err(Declined::not_now(format!(
            "Stopped by a red flag ({}): go back to intake, refer, or write there why the fit goes on",
            flags.join(", ")
        )))
    }

    /// Whether its bar has pads: a bar keeps its kind through a fit.
    pub(crate) fn has_pads(&self) -> bool {
        matches!(self.session.base.bar, Bar::Aero(_))
    }

    /// Declined where a station lies beyond what stops the way.
    pub fn may_stand_at(&self, station: Station) -> Result<(), Declined> {
        if Station::OF_PADS.contains(&station) && !self.has_pads() {
            return Err(Declined::not_now(Declined::NO_PADS));
        }
        match station {
            Station::Intake | Station::HandOut => Ok(()),
            _ => self.go_on(),
        }
    }

    /// A reading of the bike as it is written down, and the setup it settles once the bike as found is closed.
    pub fn read_off(
        &self,
        mut record: ReadingRecord,
    ) -> Result<(ReadingRecord, Option<Setup>), Declined> {
        accepted(record.reading.refusals(""))?;
        let quantity = record.reading.quantity;
        if quantity.is_of_the_springs() {
            return Ok((record, None));
        }
        if !self.session.base.holds(quantity) && !quantity.is_of_the_hand() {
            return Err(Declined::field(
                "/quantity",
                "That is not measured on this bike",
            ));
        }
        // The convention is part of the reading, so it is written down even when it is the chosen one.
        let chosen = fitted(&self.session.conventions, &self.now()?);
        let reading = &mut record.reading;
        reading.convention = reading.convention.or(chosen.of(quantity));
        if quantity.goes_to_the_saddle() {
            reading.sit_reference = reading.sit_reference.or(Some(chosen.sit_reference));
        }
        let settled = match self.session.now() {
            None => {
                self.settled(self.session.base, self.readings().chain([record.reading]))?;
                None
            }
            Some(on_bench) => Some(self.settled(*on_bench, [record.reading])?),
        };
        Ok((record, settled))
    }

    /// The bike as found, ready to be closed.
    pub fn closed(&self) -> Result<Setup, Declined> {
        self.go_on()?;
        let missing = self.unknown();
        if missing.is_empty() {
            return self.found();
        }
        let labels: Vec<_> = missing
            .iter()
            .map(|q| q.spec().label.to_lowercase())
            .collect();
        Err(Declined::not_now(format!(
            "Tape the {} first",
            labels.join(" and the ")
        )))
    }

    /// What is foreseen of a trial that begins now; what the trade does not do in one trial is insisted on.
    pub fn tried_out(&self, changes: &[Change], insist: bool) -> Result<TriedOut, Declined> {
        self.go_on()?;
        let mut input = self.input(self.now()?)?;
        input.changes = changes.to_vec();
        let ride = input.check()?;
        let foresight = foresee_on(&ride, changes)?;
        if foresight.turns.is_empty() {
            return Err(Declined::field("/changes", "Nothing to try: no bolt moves"));
        }
        if let Some(reason) = foresight.insist.first().filter(|_| !insist) {
            return Err(Declined::field("/insist", reason));
        }
        Ok(TriedOut {
            changes: meant(&ride, changes),
            foreseen: TrialForesight::from(&foresight),
            setup: foresight.setup,
        })
    }

    /// What is wrong with a place of the hands on the bar on the bench.
    pub fn hands_refusal(&self, place: HandPlace) -> Result<Option<Refusal>, Declined> {
        Ok(self.now()?.bar.refuse_place(place, "/hands"))
    }
}

/// Whether a fit can be finished; why not, when it cannot.
pub fn finishes(session: &Session) -> Result<(), Declined> {
    let why = if session.intake.is_stopped() {
        "A red flag stops this fit: write the reason to go on, or leave it open"
    } else if session.found().is_none() {
        "The bike as found is not closed yet"
    } else if session.undecided().is_some() {
        "A trial is on the bench: keep it or put it back first"
    } else if session.run().is_some() {
        "A protocol is going on: go on with it, or end it first"
    } else {
        return Ok(());
    };
    Err(Declined::not_now(why))
}
