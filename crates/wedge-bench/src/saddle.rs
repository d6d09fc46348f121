//! The saddle: schools of height and setback, the gate, the perch, the saddle itself, the map, and what hurts.

use crate::{Bench, Declined};
use jiff::civil::Date;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::foresee::{Step, Trying};
use wedge_core::judge::{CauseFacts, ComplaintCauses, causes};
use wedge_core::limit::{AskedLimit, gross};
use wedge_core::measure::Quantity;
use wedge_core::position::Ride;
use wedge_core::school::{
    GateItem, Hung, SaddleNotes, Scale, SetbackEvidence, cleat_scale, gate, height_scale, hung,
    ladders, saddle_advice, setback_advice, setback_scale,
};
use wedge_core::solve::{
    OtherSaddle, PerchRoom, SaddleMap, SetbackParts, Spot, perch_room, saddle_map, setback_parts,
    spot, swap,
};
use wedge_core::trial::{
    Crept, Feels, Finding, PlumbMeasured, Proposing, Protocol, RunPlan, Says, Start, feels,
};
use wedge_core::units::Sides;
use wedge_core::work::Station;
use wedge_files::{Outcome, RunRecord, Session};

/// A finding with its place in time.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FindingView {
    /// The run that found it.
    pub run: Uuid,
    /// The day of its fit.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// What it found.
    pub finding: Finding,
}

/// What there is to say and to try at the saddle.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SaddleView {
    /// The schools of height; none while the rider cannot be put on the bike.
    pub height: Option<Scale>,
    /// The schools of setback.
    pub setback: Option<Scale>,
    /// What there is to say of setback besides its schools.
    pub setback_advice: Vec<String>,
    /// Limits that intake calls for and nobody has tested.
    pub asked: Vec<AskedLimit>,
    /// That the model stands off a line that was measured since it was last fitted.
    pub line_to_fit: Option<String>,
    /// What must be right before setback is judged.
    pub gate: Vec<GateItem>,
    /// Every landmark's plumb line, as foreseen.
    pub hung: Vec<Hung>,
    /// What post and rails leave.
    pub room: Option<PerchRoom>,
    /// What was noted of the saddle.
    pub notes: SaddleNotes,
    /// What there is to say and to ask about it.
    pub advice: Vec<String>,
    /// What this rider feels of height and of setback, and the steps that follow.
    pub feels: Vec<Feels>,
    /// What the protocols of this fit found, the last first.
    pub findings: Vec<FindingView>,
    /// What those of other fits of this bike found, the last first: to read, not to go by.
    pub other_fits: Vec<FindingView>,
    /// The protocols of both stations as they would be set up for this rider, here and now, in the order of their keys.
    pub starts: Vec<Start>,
}

/// A trial's place on the map.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialSpot {
    /// The how-manieth of the fit.
    pub number: i64,
    /// "Saddle down 6".
    pub title: String,
    /// What became of it.
    pub outcome: Option<Outcome>,
    /// Where its saddle was.
    pub spot: Spot,
}

/// The map with what was tried on it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MapView {
    /// The map around the saddle on the bench.
    pub map: Option<SaddleMap>,
    /// The saddle as found.
    pub found: Option<Spot>,
    /// Every trial's.
    pub trials: Vec<TrialSpot>,
}

/// From what hurts to what may cause it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CausesView {
    /// Complaint by complaint.
    pub complaints: Vec<ComplaintCauses>,
}

/// What was found in a fit, the last first.
pub(crate) fn findings(session: &Session) -> impl Iterator<Item = FindingView> + '_ {
    session.runs.iter().rev().filter_map(|run| {
        Some(FindingView {
            run: run.id,
            day: session.day,
            finding: run.finding.clone()?,
        })
    })
}

impl Bench {
    /// The last run of a protocol in this fit that found anything worth reading.
    fn last(&self, protocol: Protocol) -> Option<(&RunRecord, &Finding)> {
        let runs = self.session.runs.iter().rev();
        runs.filter_map(|run| Some((run, run.finding.as_ref()?)))
            .find(|(_, finding)| finding.protocol == protocol && finding.says != Says::Broken)
    }

    /// The same, with the rider on the setup it was run on.
    fn last_ridden(&self, protocol: Protocol) -> Option<(&RunPlan, &Finding, Ride)> {
        let (run, finding) = self.last(protocol)?;
        let setup = self.session.setup(run.setup)?;
        Some((&run.plan, finding, self.ride(*setup).ok()?))
    }

    /// What the last plumb line of this fit measured.
    fn plumb(&self) -> Option<PlumbMeasured> {
        match self.last_ridden(Protocol::Plumb)? {
            (RunPlan::Plumb(plan), finding, ride) => plan.measured(&ride.position(), finding),
            _ => None,
        }
    }

    /// What to say of a measured line the model was not fitted to since.
    fn line_to_fit(&self, line: Option<&PlumbMeasured>) -> Option<String> {
        let hung = self.last(Protocol::Plumb).and_then(|(run, _)| run.ended_at);
        line.filter(|_| self.fitted_at() < hung)?.off_the_model()
    }

    /// What the last creep-up of this fit found.
    pub(crate) fn crept(&self) -> Option<Crept> {
        let (_, finding, ride) = self.last_ridden(Protocol::CreepUp)?;
        Crept::of(&ride, finding)
    }

    /// What the rider feels, from every blind comparison ever made.
    pub(crate) fn felt(&self, quantity: Quantity) -> Feels {
        feels(quantity, self.picks.iter())
    }

    /// The protocols of a station, as they would be set up here and now.
    pub(crate) fn starts(&self, trying: &Trying, at: Station) -> Vec<Start> {
        self.proposing(trying, at, RunPlan::starts)
    }

    /// Asks something of the protocols with what they are set up by, here and now.
    pub(crate) fn proposing<R>(
        &self,
        trying: &Trying,
        at: Station,
        ask: impl FnOnce(&Proposing) -> R,
    ) -> R {
        let findings: Vec<Finding> = self.session.findings().cloned().collect();
        let cranks: Vec<f64> = (self.house.parts.iter())
            .filter(|part| part.on_hand > 0)
            .filter_map(|part| part.size(Quantity::Crank))
            .collect();
        ask(&Proposing {
            on: trying,
            at,
            intake: &self.session.intake,
            height: &self.felt(Quantity::SaddleHeight),
            setback: &self.felt(Quantity::Setback),
            landmark: self.house.leads.landmark,
            findings: &findings,
            stand: self.bike.stand,
            cranks: &cranks,
        })
    }

    /// The saddle on the bench.
    pub fn saddle(&self) -> Result<SaddleView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let there = &trying.before;
        let leads = self.house.leads;
        let intake = &self.session.intake;
        let paths = self.knee_paths();
        let looked = paths.left.is_some() && paths.right.is_some();
        let ladders = ladders(&trying, &paths, &self.tried());
        let cleats = Sides::from_fn(|side| cleat_scale(&trying, side, leads.cleat));
        let line = self.plumb();
        let evidence = SetbackEvidence {
            balance: self.last(Protocol::Balance).map(|(_, finding)| finding),
            sweep: self.last(Protocol::RailSweep).map(|(_, finding)| finding),
            plumb: line,
            intake,
        };
        let height = self.felt(Quantity::SaddleHeight);
        let setback = self.felt(Quantity::Setback);
        let starts = |at| self.starts(&trying, at);
        Ok(SaddleView {
            height: height_scale(&trying, self.crept(), leads.saddle_height, height.step),
            setback: setback_scale(
                &trying,
                &evidence,
                (leads.setback, leads.landmark),
                setback.step,
            ),
            setback_advice: setback_advice(&trying, leads.landmark),
            asked: self.asked_limits(),
            line_to_fit: self.line_to_fit(line.as_ref()),
            gate: gate(
                &trying,
                &cleats,
                (looked, &ladders),
                &gross(&trying, &self.session.intake, &self.house.parts),
            ),
            hung: hung(there),
            room: Some(perch_room(&trying)),
            notes: self.session.saddle,
            advice: saddle_advice(&trying, &self.session.saddle, intake, self.pelvis()),
            starts: [Station::SaddleHeight, Station::Setback]
                .into_iter()
                .flat_map(starts)
                .collect(),
            feels: vec![height, setback],
            findings: findings(&self.session).collect(),
            other_fits: self.other_fits().flat_map(findings).collect(),
        })
    }

    /// The map around the saddle on the bench.
    pub fn map(&self) -> Result<MapView, Declined> {
        let ride = self.ride_now()?;
        let of = |id: Uuid| spot(&ride, self.session.setup(id)?);
        let trials = self.session.trials.iter();
        Ok(MapView {
            map: Some(saddle_map(&Trying::of(&ride))),
            found: (self.session.found()).and_then(|found| spot(&ride, found)),
            trials: trials
                .filter_map(|trial| {
                    Some(TrialSpot {
                        number: trial.number,
                        title: trial.foreseen.title.clone(),
                        outcome: trial.outcome(),
                        spot: of(trial.after)?,
                    })
                })
                .collect(),
        })
    }

    /// Which part would give a wished setback, in the chosen convention.
    pub fn setback_parts(&self, wished: f64) -> Result<SetbackParts, Declined> {
        let ride = self.ride_now()?;
        setback_parts(&Trying::of(&ride), wished, &self.house.parts).ok_or_else(|| {
            let words = "No place of this saddle has that setback: check it";
            Declined::field("/setback", words)
        })
    }

    /// Another saddle in the place of this one, the rider left where they sit.
    pub fn swapped(&self, new: &OtherSaddle) -> Result<Step, Declined> {
        let ride = self.ride_now()?;
        Ok(swap(&Trying::of(&ride), new)?)
    }

    /// What may cause each complaint, as far as saddle, cleats and cranks go.
    pub fn causes(&self) -> Result<CausesView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let leads = self.house.leads;
        let cleats = Sides::from_fn(|side| cleat_scale(&trying, side, leads.cleat));
        let findings: Vec<Finding> = self.session.findings().cloned().collect();
        let facts = CauseFacts {
            cleats: &cleats,
            saddle: &self.session.saddle,
            landmark: leads.landmark,
            signs: &self.signs(),
            findings: &findings,
        };
        Ok(CausesView {
            complaints: causes(&trying, &self.session.intake, &facts),
        })
    }
}
