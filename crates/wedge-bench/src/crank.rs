//! The cranks: the schools of their length, what is known to go wrong, limits with remedies, and another crank by intent.

use crate::saddle::{FindingView, findings};
use crate::{Bench, Declined};
use serde::Serialize;
use wedge_core::foresee::Trying;
use wedge_core::limit::{AskedLimit, LimitRow, limits};
use wedge_core::measure::Quantity;
use wedge_core::school::{FrameLabel, Longest, Scale, alarms, crank_scale, longest, signs};
use wedge_core::solve::{Plan, intents};
use wedge_core::trial::Start;
use wedge_core::work::Station;

/// What there is to say and to try at the cranks.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CranksView {
    /// The schools of crank length.
    pub scale: Scale,
    /// The size the frame is labelled with.
    pub label: Option<FrameLabel>,
    /// What hip and knee allow; none while neither was tested.
    pub longest: Option<Longest>,
    /// Limits that intake calls for and nobody has tested: no crank is safe to judge before.
    pub asked: Vec<AskedLimit>,
    /// What is known to go wrong with this crank under this rider.
    pub alarms: Vec<String>,
    /// What the rider says and what was seen.
    pub signs: Vec<String>,
    /// Limits against demand, with what would open a short one.
    pub limits: Vec<LimitRow>,
    /// The crank the plans are for.
    pub to: f64,
    /// Another crank, by what it is for.
    pub plans: Vec<Plan>,
    /// The protocols of the station.
    pub starts: Vec<Start>,
    /// What they found in this fit, the latest first.
    pub findings: Vec<FindingView>,
}

impl Bench {
    /// The cranks on the bench, and plans for a `wanted` one: the leading school's next step when none.
    pub fn cranks(&self, wanted: Option<f64>) -> Result<CranksView, Declined> {
        if let Some(refusal) = wanted.and_then(|to| Quantity::Crank.refuse(to, "/to")) {
            return Err(vec![refusal].into());
        }
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let label = self.bike.label;
        let scale = crank_scale(&trying, label, self.house.leads.crank);
        let next = || {
            let steps = scale.schools.iter().filter_map(|s| s.trial.as_ref());
            steps.flat_map(|step| &step.changes).find_map(|c| c.to)
        };
        let to = wanted.or_else(next).unwrap_or(scale.now - 2.5);
        Ok(CranksView {
            longest: longest(&trying),
            asked: self.asked_limits(),
            alarms: alarms(&trying, label),
            signs: signs(&self.session.intake, self.pelvis()),
            limits: limits(&trying),
            plans: intents(&trying, to),
            starts: self.starts(&trying, Station::Cranks),
            findings: findings(&self.session)
                .filter(|found| found.finding.protocol.is_of(Station::Cranks))
                .collect(),
            label,
            to,
            scale,
        })
    }
}
