//! The core asked with a position file's input: what is checked and tried is made on the way.

use wedge_core::bike::Setup;
use wedge_core::foresee::{self, Calibration, ForeseeInput, Look, Sighting, Step, Trying};
use wedge_core::intake::{Complaint, Feel, Intake, Place, Stroke};
use wedge_core::judge::{CauseFacts, ComplaintCauses};
use wedge_core::limit::{self, GrossReport, LimitRow};
use wedge_core::looking::{KneePath, PelvisSeen};
use wedge_core::measure::{Method, Output, Quantity, Reading, Refusal};
use wedge_core::position::{Landmark, Position, settle as settle_on};
use wedge_core::school::{
    self, CleatSchool, GateItem, HeightSchool, Ladder, SaddleNotes, Scale, SetbackEvidence,
    SetbackSchool,
};
use wedge_core::solve::{self, OtherSaddle, PerchRoom, SaddleMap, SetbackParts, Spot};
use wedge_core::trial::{
    Crept, Feels, Finding, Plumb, PlumbMeasured, Proposing, Protocol, RunPlan, feels,
};
use wedge_core::units::{Side, Sides};

/// Asks something of a ride that is tried out.
pub(crate) fn trying<R>(input: &ForeseeInput, ask: impl FnOnce(&Trying) -> R) -> R {
    ask(&Trying::of(&input.check().unwrap()))
}

pub(crate) fn position(input: &ForeseeInput) -> Result<Position, Vec<Refusal>> {
    input.check().map(|ride| ride.position())
}

pub(crate) fn calibrate(input: &ForeseeInput, looks: &[Look]) -> Result<Calibration, Vec<Refusal>> {
    foresee::calibrate(&input.check()?, looks)
}

pub(crate) fn settle(input: &ForeseeInput, readings: &[Reading]) -> Result<Setup, Vec<Refusal>> {
    settle_on((&input.frame, &input.setup), readings)
}

pub(crate) fn gross(input: &ForeseeInput) -> GrossReport {
    gross_of(input, &Intake::default())
}

/// The same for a rider who came with something.
pub(crate) fn gross_of(input: &ForeseeInput, intake: &Intake) -> GrossReport {
    trying(input, |trying| limit::gross(trying, intake, &[]))
}

pub(crate) fn limits(input: &ForeseeInput) -> Vec<LimitRow> {
    trying(input, limit::limits)
}

pub(crate) fn cleat_scale(input: &ForeseeInput, side: Side, lead: CleatSchool) -> Scale {
    trying(input, |t| school::cleat_scale(t, side, lead))
}

pub(crate) fn height_scale(
    input: &ForeseeInput,
    crept: Option<Crept>,
    lead: HeightSchool,
    at_once: f64,
) -> Option<Scale> {
    trying(input, |t| school::height_scale(t, crept, lead, at_once))
}

pub(crate) fn setback_scale(
    input: &ForeseeInput,
    evidence: &SetbackEvidence,
    leads: (SetbackSchool, Landmark),
    at_once: f64,
) -> Option<Scale> {
    trying(input, |t| {
        school::setback_scale(t, evidence, leads, at_once)
    })
}

pub(crate) fn ladders(input: &ForeseeInput, paths: &Sides<Option<KneePath>>) -> Vec<Ladder> {
    trying(input, |t| school::ladders(t, paths, &[]))
}

pub(crate) fn gate(
    input: &ForeseeInput,
    cleats: &Sides<Scale>,
    looked: (bool, &[Ladder]),
) -> Vec<GateItem> {
    trying(input, |t| {
        school::gate(t, cleats, looked, &limit::gross(t, &Intake::default(), &[]))
    })
}

pub(crate) fn saddle_advice(
    input: &ForeseeInput,
    notes: &SaddleNotes,
    intake: &Intake,
    pelvis: Option<PelvisSeen>,
) -> Vec<String> {
    trying(input, |t| school::saddle_advice(t, notes, intake, pelvis))
}

pub(crate) fn causes(
    input: &ForeseeInput,
    intake: &Intake,
    facts: &CauseFacts,
) -> Vec<ComplaintCauses> {
    trying(input, |t| wedge_core::judge::causes(t, intake, facts))
}

pub(crate) fn perch_room(input: &ForeseeInput) -> PerchRoom {
    solve::perch_room(&input.check().unwrap())
}

pub(crate) fn setback_parts(input: &ForeseeInput, wanted: f64) -> Option<SetbackParts> {
    trying(input, |t| solve::setback_parts(t, wanted, &[]))
}

pub(crate) fn swap(input: &ForeseeInput, new: &OtherSaddle) -> Result<Step, Vec<Refusal>> {
    trying(input, |t| solve::swap(t, new))
}

pub(crate) fn saddle_map(input: &ForeseeInput) -> SaddleMap {
    trying(input, solve::saddle_map)
}

pub(crate) fn spot(input: &ForeseeInput, setup: &Setup) -> Option<Spot> {
    solve::spot(&input.check().unwrap(), setup)
}

pub(crate) fn crept_of(input: &ForeseeInput, finding: &Finding) -> Option<Crept> {
    Crept::of(&input.check().unwrap(), finding)
}

pub(crate) fn measured_of(
    plan: &Plumb,
    input: &ForeseeInput,
    finding: &Finding,
) -> Option<PlumbMeasured> {
    plan.measured(&position(input).unwrap(), finding)
}

/// How a protocol is set up for this rider by someone who feels so much, mm.
pub(crate) fn proposed(input: &ForeseeInput, protocol: Protocol, step: f64) -> RunPlan {
    let felt = |quantity| Feels {
        step,
        ..feels(quantity, [])
    };
    trying(input, |on| {
        RunPlan::proposed(&Proposing {
            on,
            at: wedge_core::work::Station::SaddleHeight,
            intake: &Intake::default(),
            height: &felt(Quantity::SaddleHeight),
            setback: &felt(Quantity::Setback),
            landmark: Landmark::Centre,
            findings: &[],
            stand: false,
            cranks: &[],
        })
        .into_iter()
        .find(|plan| plan.protocol() == protocol)
        .unwrap()
    })
}

/// The rider as the model has them, looked at: what is foreseen is known to a degree or two.
pub(crate) fn known(input: &ForeseeInput) -> ForeseeInput {
    let there = position(input).unwrap();
    let outputs = [
        Output::KneeAtFullReach,
        Output::KneeForward,
        Output::KneeMostBent,
        Output::HipClosed,
        Output::AnkleSmallest,
        Output::FootAtBottom,
        Output::Torso,
        Output::Shoulder,
        Output::Elbow,
    ];
    let seen = outputs.map(|output| Sighting {
        output,
        side: None,
        value: output.of(&there, Side::Right).unwrap(),
        method: Method::Film,
        spread: None,
    });
    let look = Look::of(input.setup, seen.to_vec());
    ForeseeInput {
        fit: Some(calibrate(input, &[look]).unwrap().fit),
        ..input.clone()
    }
}

/// A rider who came with these.
pub(crate) fn complaining(places: &[Place]) -> Intake {
    Intake {
        complaints: places
            .iter()
            .map(|place| Complaint {
                id: String::new(),
                place: *place,
                side: None,
                feel: Feel::Pain,
                when: None,
                stroke: Some(Stroke::Bottom),
                effort: None,
                how_bad: Some(4),
                words: String::new(),
            })
            .collect(),
        ..Intake::default()
    }
}
