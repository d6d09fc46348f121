//! Runs of guided protocols, call by call.

use super::refuse_effort;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::measure::Refusal;
use wedge_core::rider::Effort;
use wedge_core::trial::{Call, Finding, RunPlan};

/// What happened in a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CallBody {
    /// Something was called.
    Called(Call),
    /// The last call that stood was taken back.
    TakenBack,
}

/// A call with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CallRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub body: CallBody,
}

/// One run of a guided protocol.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RunRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When it was begun.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub started_at: Timestamp,
    /// The setup it began from, among the session's.
    pub setup: Uuid,
    /// What it was set up with.
    pub plan: RunPlan,
    /// The effort it is ridden at: what the rider is told to hold.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What was called, in order.
    #[serde(default)]
    pub calls: Vec<CallRecord>,
    /// The order of a blind comparison, once it is over: while it goes on it is nowhere but in the record itself.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub order: Vec<bool>,
    /// When it was over.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = DateTime))]
    pub ended_at: Option<Timestamp>,
    /// What it found; none while it goes on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub finding: Option<Finding>,
}

impl RunRecord {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.plan.refusals(&format!("{at}/plan"));
        all.extend(refuse_effort(self.effort, at));
        all
    }

    /// Every call ever made, those taken back among them.
    pub fn ever(&self) -> Vec<Call> {
        let called = self.calls.iter().filter_map(|record| match &record.body {
            CallBody::Called(call) => Some(call.clone()),
            CallBody::TakenBack => None,
        });
        called.collect()
    }

    /// The calls that stand, those taken back left out.
    pub fn standing(&self) -> Vec<Call> {
        let mut calls: Vec<Call> = Vec::new();
        for record in &self.calls {
            match &record.body {
                CallBody::Called(call) => calls.push(call.clone()),
                CallBody::TakenBack => {
                    calls.pop();
                }
            }
        }
        calls
    }

    /// When the clock of what is asked now began to run: at the last call, whether it stood or was taken back.
    pub fn clock_from(&self) -> Timestamp {
        self.calls.last().map_or(self.started_at, |call| call.at)
    }
}
