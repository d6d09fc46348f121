//! A rider on a bike, checked once: what everything above is asked with.

use super::person::Person;
use super::seat::Seated;
use super::{Fit, Range, fitted};
use crate::bike::{Frame, HandPlace, Kind, Placed, Setup};
use crate::measure::{Conventions, Output};
use crate::rider::{Effort, PitchSeen, Rider};
use crate::units::{Degrees, Sides};
use serde::{Deserialize, Serialize};
use std::ops::Deref;

/// What was seen of the rider on the bike.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Observations {
    /// Foot pitch with the hip-to-axle distance it was seen at; as the setup stands when left out.
    #[serde(default)]
    pub pitch: Option<Sides<PitchSeen>>,
}

/// What a ride is made of. Its numbers are in range and its saddle has a place: whoever makes one has seen to it.
#[derive(Debug, Clone)]
pub struct Facts {
    /// The rider as measured.
    pub(crate) rider: Rider,
    /// The kind of riding, whose ranges mark the outputs.
    pub(crate) kind: Kind,
    /// The frame.
    pub(crate) frame: Frame,
    /// The setup on the bench.
    pub(crate) setup: Placed,
    /// Where the hands are; the bar's main place when none.
    pub(crate) hands: Option<HandPlace>,
    /// A grade to feel the setback on, uphill positive, in hundredths.
    pub(crate) grade_percent: f64,
    /// The effort of the test.
    pub(crate) effort: Option<Effort>,
    /// What was seen.
    pub(crate) observed: Observations,
    /// What calibration fitted to what was seen.
    pub(crate) fit: Option<Fit>,
    /// The conventions the answers are given in: the bar's own where it has no such spot.
    pub(crate) conventions: Conventions,
    /// The ranges that mark the outputs.
    pub(crate) ranges: Vec<Range>,
}

/// A rider on a bike: checked, the saddle placed, the rider as calibrated. The same ride always gives the same answer.
///
/// It is made by [`ForeseeInput::check`](crate::foresee::ForeseeInput::check).
#[derive(Debug, Clone)]
pub struct Ride {
    facts: Facts,
    /// The rider as the linkage knows one.
    pub(crate) person: Person,
    /// The foot's pattern, and the hip-to-axle distance it was seen at.
    pub(crate) seen: Sides<PitchSeen>,
}

impl Deref for Ride {
    type Target = Facts;

    fn deref(&self) -> &Facts {
        &self.facts
    }
}

impl Ride {
    /// Without an observed foot, its pattern is that of the setup.
    pub(crate) fn of(mut facts: Facts) -> Self {
        facts.conventions = fitted(&facts.conventions, &facts.setup);
        let person = Person::of(&facts.rider, facts.fit.as_ref());
        let seen = (facts.observed.pitch).unwrap_or_else(|| observed(&facts, &person));
        Self {
            facts,
            person,
            seen,
        }
    }

    /// The same ride with something else about it.
    #[must_use]
    pub(crate) fn altered(&self, alter: impl FnOnce(&mut Facts)) -> Self {
        let mut facts = self.facts.clone();
        alter(&mut facts);
        Self::of(facts)
    }

    /// The same rider on another setup; the foot's pattern stays as it was seen on this one.
    #[must_use]
    pub fn on(&self, setup: Placed) -> Self {
        let mut facts = self.facts.clone();
        facts.observed.pitch = Some(self.seen);
        facts.setup = setup;
        Self::of(facts)
    }

    /// The effort of the test.
    pub fn effort(&self) -> Option<Effort> {
        self.facts.effort
    }

    /// Foot pitch as it stands in this setup: what later trials answer to until the foot is looked at again.
    pub fn observe_pitch(&self) -> Sides<PitchSeen> {
        observed(self, &self.person)
    }
}

fn observed(facts: &Facts, person: &Person) -> Sides<PitchSeen> {
    Seated::of(facts, person, &facts.setup, Degrees(0.0)).observe(person, &facts.setup)
}

impl Facts {
    /// Where the hands are: the place asked for where the bar has it, else its main one.
    pub(crate) fn hand_place(&self, setup: &Setup) -> HandPlace {
        let places = setup.bar.places();
        self.hands
            .filter(|place| places.contains(place))
            .unwrap_or(places[0])
    }
}

/// A range by what it is of, at the hand place in question.
pub(crate) fn range_of(ranges: &[Range], output: Output, hands: HandPlace) -> Option<Range> {
    ranges
        .iter()
        .find(|range| range.output == output && range.hands.is_none_or(|place| place == hands))
        .copied()
}
