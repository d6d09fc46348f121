//! The rider's ledger: rides between visits, each as the rider kept it.

use super::{AfterBody, Session, refuse_name, refuse_words};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use uuid::Uuid;
use wedge_core::between::{Rated, Ridden, RideSign, SelfMove};
use wedge_core::measure::{Quantity, Refusal, within};
use wedge_core::rider::Effort;

/// One ride as the rider kept it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LedgerRide {
    /// Made by the card: the same ride read again is the same.
    pub id: Uuid,
    /// The day it was ridden.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub on: Date,
    /// Where, by the rider's own name for it: the same one each time.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub circuit: String,
    /// How long, in minutes.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    /// How hard it felt, 0 to 10.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub effort: Option<u8>,
    /// Mean power, W.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub power_w: Option<f64>,
    /// Mean cadence while pedalling, rpm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cadence_rpm: Option<f64>,
    /// Whether minutes, power and cadence are those of a ride computer, not said.
    #[serde(default, skip_serializing_if = "is_not")]
    pub recorded: bool,
    /// Which plan of the fit it was ridden by, from 1; 0 without one.
    #[serde(default)]
    pub plan: u32,
    /// The step of it that stood, from 1; 0 as the fit left it.
    #[serde(default)]
    pub step: u32,
    /// What the rider moved before it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub moved: Vec<SelfMove>,
    /// What was felt.
    #[serde(default)]
    pub ratings: Vec<Rated>,
    /// What must not be passed over.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub signs: Vec<RideSign>,
    /// In the rider's words.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub words: String,
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "as serde asks it")]
fn is_not(flag: &bool) -> bool {
    !flag
}

/// The longest ride, in minutes, and the most steps of a plan.
const LONGEST_MIN: f64 = 1440.0;
const MOST_STEPS: u32 = 60;
/// The most plans of a fit.
const MOST_PLANS: u32 = 1000;

impl LedgerRide {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if !self.circuit.is_empty() {
            all.extend(refuse_name(&self.circuit, &format!("{at}/circuit")));
        }
        all.extend(refuse_words(&self.words, &format!("{at}/words")));
        if !(2000..=2200).contains(&self.on.year()) {
            all.push(Refusal::new(format!("{at}/on"), "That is no day of a ride"));
        }
        if let Some(minutes) = self.minutes {
            let at = format!("{at}/minutes");
            all.extend(within(at, minutes, 1.0, LONGEST_MIN, "A ride's minutes"));
        }
        if self.effort.is_some_and(|effort| effort > 10) {
            all.push(Refusal::new(format!("{at}/effort"), "An effort is 0 to 10"));
        }
        for (quantity, value) in [
            (Quantity::Power, self.power_w),
            (Quantity::Cadence, self.cadence_rpm),
        ] {
            let at = format!("{at}/{}", quantity.key());
            all.extend(value.and_then(|value| quantity.refuse(value, &at)));
        }
        if self.plan > MOST_PLANS {
            all.push(Refusal::new(format!("{at}/plan"), "There is no such plan"));
        }
        if self.step > MOST_STEPS {
            all.push(Refusal::new(format!("{at}/step"), "There is no such step"));
        }
        let mut known = BTreeSet::new();
        for (index, rated) in self.ratings.iter().enumerate() {
            let at = format!("{at}/ratings/{index}");
            all.extend(rated.refusals(&at));
            if !known.insert((
                rated.rating.key(),
                rated.side.map(wedge_core::units::Side::word),
            )) {
                all.push(Refusal::new(at, "This is rated already"));
            }
        }
        all
    }

    /// Its day, counted from any day.
    pub fn day(&self) -> i32 {
        (self.on - FIRST).get_days()
    }

    /// As it is compared with others.
    pub fn ridden(&self) -> Ridden {
        Ridden {
            day: self.day(),
            circuit: self.circuit.clone(),
            minutes: self.minutes,
            effort: self.effort.map(f64::from),
            power: (self.power_w.zip(self.cadence_rpm)).map(|(power_w, cadence_rpm)| Effort {
                power_w,
                cadence_rpm,
            }),
            plan: self.plan,
            step: self.step,
            moved: self.moved.clone(),
            ratings: self.ratings.clone(),
            signs: self.signs.clone(),
        }
    }
}

/// The day from which days are counted.
const FIRST: Date = jiff::civil::date(2000, 1, 1);

/// That a ride was read by mistake.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RideTakenOut {
    /// Which.
    pub ride: Uuid,
}

impl Session {
    /// The rides of its ledger as they stand, in the order they were ridden: each as it was read last, without those taken out.
    pub fn rides(&self) -> Vec<&LedgerRide> {
        let mut all: Vec<&LedgerRide> = Vec::new();
        for entry in &self.afterwards {
            match &entry.body {
                AfterBody::Ride(ride) => match all.iter_mut().find(|known| known.id == ride.id) {
                    Some(known) => *known = ride,
                    None => all.push(ride),
                },
                AfterBody::TakenOut(out) => all.retain(|known| known.id != out.ride),
                _ => {}
            }
        }
        all.sort_by_key(|ride| ride.on);
        all
    }
}
