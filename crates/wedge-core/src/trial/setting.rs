//! What can be set of a protocol before it begins, so that whoever shows it need not know the protocol.

use super::{Protocol, RunPlan};
use crate::measure::Unit;
use crate::words::Word;
use crate::work::Station;
use serde::Serialize;

/// A protocol as it would be begun at a station.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Start {
    /// Where.
    pub station: Station,
    /// Which.
    pub protocol: Protocol,
    /// As it is called.
    pub label: &'static str,
    /// How it would be set up for this rider, here and now.
    pub plan: RunPlan,
    /// What can be set of it.
    pub settings: Vec<Setting>,
}

/// One thing that can be set of a protocol.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Setting {
    /// Its key in the plan.
    pub key: &'static str,
    /// The fitter's word.
    pub label: &'static str,
    /// What it may be.
    pub takes: Takes,
}

/// What a setting may be.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Takes {
    /// A number.
    Number {
        /// As it is proposed.
        value: f64,
        /// Its unit.
        unit: Unit,
        /// Whether it counts something.
        whole: bool,
    },
    /// One of some words.
    OneOf {
        /// The key proposed.
        value: String,
        /// Every one.
        options: Vec<Choosable>,
    },
}

/// A word that can be chosen.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Choosable {
    /// Its key.
    pub key: &'static str,
    /// As it is called.
    pub label: &'static str,
}

impl Setting {
    pub(super) fn number(key: &'static str, label: &'static str, value: f64, unit: Unit) -> Self {
        let whole = false;
        let takes = Takes::Number { value, unit, whole };
        Self { key, label, takes }
    }

    pub(super) fn count(key: &'static str, label: &'static str, value: u32) -> Self {
        let takes = Takes::Number {
            value: f64::from(value),
            unit: Unit::Size,
            whole: true,
        };
        Self { key, label, takes }
    }

    pub(super) fn one_of(
        key: &'static str,
        label: &'static str,
        value: &str,
        options: impl IntoIterator<Item = (&'static str, &'static str)>,
    ) -> Self {
        let options = options.into_iter();
        let takes = Takes::OneOf {
            value: value.to_owned(),
            options: options
                .map(|(key, label)| Choosable { key, label })
                .collect(),
        };
        Self { key, label, takes }
    }

    /// One of the words of an enum.
    pub(super) fn word<W: Word>(key: &'static str, label: &'static str, value: W) -> Self {
        let options = W::ALL.iter().map(|word| (word.key(), word.label()));
        Self::one_of(key, label, value.key(), options)
    }
}
