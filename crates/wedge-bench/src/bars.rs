//! The bars: where the hands belong, the plane they can be in, every place of them, and the parts that put them there.

use crate::saddle::{FindingView, findings};
use crate::{Bench, Declined};
use serde::Serialize;
use wedge_core::bike::{Part, ordinary_parts};
use wedge_core::foresee::Trying;
use wedge_core::measure::Quantity;
use wedge_core::plane::Point;
use wedge_core::school::{
    HandBrackets, HandOpinion, Lean, Width, axes, bar_width, hand_opinions, lean_ends,
    levers_and_sweep,
};
use wedge_core::solve::{Aim, Arc, Fronts, HandPlane, HandRow, front_ends, hand_plane, hand_rows};
use wedge_core::trial::{Finding, Protocol, Run, RunPlan, Says, Start};
use wedge_core::work::Station;
use wedge_files::{Outcome, RunRecord};

/// A trial as a place of the hands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandTrial {
    /// Its number in the fit.
    pub number: i64,
    /// What became of it.
    pub outcome: Option<Outcome>,
    /// Where it put the hands.
    pub hand: Point,
}

/// What there is to say and to try at the bars.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BarsView {
    /// The schools of the hands' place, the leading one first.
    pub schools: Vec<HandOpinion>,
    /// Where in the torso's range this rider leans to, and why.
    pub lean: Lean,
    /// What either end of it costs.
    pub lean_ends: Vec<String>,
    /// Square to the arc, outwards, where the hands are: the schools' first scale.
    pub farther: Point,
    /// And along it, upwards: the second.
    pub higher: Point,
    /// What goes with 10 mm higher, in words; none while the torso is held upright or the arms do not reach.
    pub arc: Option<String>,
    /// The protocols of the station.
    pub starts: Vec<Start>,
    /// What they found in this fit, the latest first.
    pub findings: Vec<FindingView>,
    /// The bar's width between its schools.
    pub width: Width,
    /// What there is to say of levers and sweep.
    pub small: Vec<String>,
    /// Every place the hands have.
    pub places: Vec<HandRow>,
    /// Where the hands should go: as asked for, or as the leading school has it.
    pub target: Option<Point>,
    /// The front ends that put them there; none without a target.
    pub fronts: Option<Fronts>,
}

/// The hand plane of a fit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaneView {
    /// The plane.
    pub plane: HandPlane,
    /// Where the hands were on the bike as found.
    pub found: Option<Point>,
    /// Where trials put them.
    pub trials: Vec<HandTrial>,
    /// Where the rider called too much, too little or good again.
    pub calls: Vec<HandCall>,
}

/// A call of a bracket as a place of the hands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandCall {
    /// "too far".
    pub words: String,
    /// Where the hands were.
    pub hand: Point,
}

impl Bench {
    /// The studio's box, and what can be ordered beside it.
    pub(crate) fn parts_box(&self) -> Vec<Part> {
        let mut parts = self.house.parts.clone();
        parts.extend(ordinary_parts());
        parts
    }

    /// What the rider's own brackets of this fit found last.
    fn brackets(&self) -> HandBrackets {
        let of = |quantity| {
            let is_it = |f: &&Finding| {
                (f.protocol, f.says, f.quantity) == (Protocol::Bracket, Says::Found, Some(quantity))
            };
            (self.session.findings())
                .rfind(is_it)
                .and_then(|f| f.value.zip(f.spread))
        };
        HandBrackets {
            reach: of(Quantity::BbToHand),
            height: of(Quantity::BbToHandUp),
        }
    }

    /// The rider's age on the day of the fit, in years.
    pub(crate) fn age(&self) -> Option<f64> {
        let born = self.rider.born?;
        let days = (self.session.day - born).get_days();
        Some(f64::from(days) / 365.25)
    }

    /// What there is to say at the bars, with the front ends for a target where one is asked for.
    pub fn bars(&self, asked: Option<Point>) -> Result<BarsView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let lean = Lean::of(&self.session.intake, &self.measured, self.age());
        let schools = hand_opinions(&trying, self.brackets(), &lean, self.house.leads.hands);
        let arc = self.arc(&trying);
        let (farther, higher) = axes(arc.as_ref(), trying.before.bike.hand);
        let led = schools
            .iter()
            .find(|school| school.leads)
            .and_then(|school| school.target);
        let target = asked.or(led);
        let fronts =
            target.map(|target| front_ends(&trying, &Aim::at(target, arc), &self.parts_box()));
        Ok(BarsView {
            arc: arc.map(|arc| arc.words()),
            lean_ends: lean_ends(&trying),
            lean,
            farther,
            higher,
            starts: self.starts(&trying, Station::Bars),
            findings: findings(&self.session)
                .filter(|found| found.finding.protocol.is_of(Station::Bars))
                .collect(),
            width: bar_width(&trying),
            small: levers_and_sweep(&trying, self.house.leads.drop_ends, self.session.findings()),
            places: hand_rows(&trying),
            target,
            fronts,
            schools,
        })
    }

    /// The arc of the hands: as good as the rider called it in the last bracket of height, cut where a limit begins.
    fn arc(&self, trying: &Trying) -> Option<Arc> {
        let arc = Arc::of(trying, &trying.before)?;
        let is_it = |f: &&Finding| {
            (f.protocol, f.says, f.quantity)
                == (Protocol::Bracket, Says::Found, Some(Quantity::BbToHandUp))
        };
        let called = self.session.findings().rfind(is_it);
        let called = called.and_then(|found| found.low.zip(found.high));
        Some(called.map_or(arc, |ends| arc.called(ends)).cut(trying))
    }

    /// What was called in a bracket; nothing in another protocol.
    fn hand_calls(&self, run: &RunRecord) -> Vec<HandCall> {
        let RunPlan::Bracket(bracket) = &run.plan else {
            return Vec::new();
        };
        let setup = self.session.setup(run.setup);
        let Some(Ok(ride)) = setup.map(|setup| self.ride(*setup)) else {
            return Vec::new();
        };
        let calls = run.standing();
        let run = Run {
            plan: &run.plan,
            on: &Trying::of(&ride),
            calls: &calls,
            stopped: false,
            order: &[],
        };
        (bracket.called(&run).into_iter())
            .map(|(hand, words)| HandCall { words, hand })
            .collect()
    }

    /// The hand plane around the hands as they are.
    pub fn hand_plane(&self) -> Result<PlaneView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let hand = |setup| Some(self.ride(setup).ok()?.position().bike.hand);
        let at = |id| hand(*self.session.setup(id)?);
        Ok(PlaneView {
            plane: hand_plane(&trying, self.arc(&trying), &self.parts_box()),
            found: self.session.found().and_then(|found| hand(*found)),
            calls: (self.session.runs.iter())
                .flat_map(|run| self.hand_calls(run))
                .collect(),
            trials: (self.session.trials.iter())
                .filter_map(|trial| {
                    Some(HandTrial {
                        number: trial.number,
                        outcome: trial.outcome(),
                        hand: at(trial.after)?,
                    })
                })
                .collect(),
        })
    }
}
