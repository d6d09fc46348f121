//! What every school wants on the axes, from where the bike stands: but for those that are a reading or a protocol of their own,
//! which speak as such.

use super::axis::Axis;
use crate::foresee::Trying;
use crate::intake::Intake;
use crate::measure::Unit;
use crate::school::{
    FrameLabel, HandBrackets, HandSchool, HeightSchool, Leads, Lean, Opinion, Scale,
    SetbackEvidence, SetbackSchool, bar_width, cleat_scale, crank_scale, hand_opinions,
    height_scale, setback_scale,
};
use crate::units::Side;

/// A spread nobody gave, in millimetres: what people differ by under one rule.
const SCHOOL_MM: f64 = 8.0;
/// The same of where the hands belong.
const HANDS_MM: f64 = 15.0;
/// The largest step a school is asked for.
const AT_ONCE_MM: f64 = 5.0;

/// What one school wants on one axis.
#[derive(Debug, Clone, PartialEq)]
pub struct Wish {
    /// On which axis.
    pub axis: Axis,
    /// The school's key.
    pub school: String,
    /// As it is called.
    pub label: String,
    /// Where, from where the bike stands.
    pub at: f64,
    /// One standard deviation.
    pub spread: f64,
}

/// What schools go by besides the rider on the bike.
#[derive(Debug, Clone, Copy)]
pub struct Wishing<'a> {
    /// Those that lead.
    pub leads: &'a Leads,
    /// What the rider came with.
    pub intake: &'a Intake,
    /// How upright the rider is better off.
    pub lean: &'a Lean,
    /// The size the frame is sold by.
    pub label: Option<FrameLabel>,
}

/// Every wish, axis by axis.
pub fn wishes(found: &Trying, wishing: &Wishing) -> Vec<Wish> {
    let leads = wishing.leads;
    let mut all = Vec::new();
    let height = height_scale(found, None, leads.saddle_height, AT_ONCE_MM);
    let own = [HeightSchool::KneeMoving, HeightSchool::CreepUp].map(HeightSchool::key);
    all.extend(
        height
            .iter()
            .flat_map(|of| on_scale(Axis::Height, of, &own)),
    );
    let evidence = SetbackEvidence {
        balance: None,
        sweep: None,
        plumb: None,
        intake: wishing.intake,
    };
    let setback = setback_scale(
        found,
        &evidence,
        (leads.setback, leads.landmark),
        AT_ONCE_MM,
    );
    let own = [
        SetbackSchool::Plumb,
        SetbackSchool::Balance,
        SetbackSchool::Sharing,
    ];
    let own = own.map(SetbackSchool::key);
    all.extend(
        setback
            .iter()
            .flat_map(|of| on_scale(Axis::Setback, of, &own)),
    );
    for (axis, side) in [(Axis::CleatL, Side::Left), (Axis::CleatR, Side::Right)] {
        all.extend(on_scale(axis, &cleat_scale(found, side, leads.cleat), &[]));
    }
    let crank = crank_scale(found, wishing.label, leads.crank);
    all.extend(on_scale(Axis::Crank, &crank, &[]));
    all.extend(of_hands(found, wishing));
    let width = bar_width(found);
    all.extend(width.schools.iter().map(|opinion| Wish {
        axis: Axis::BarWidth,
        school: opinion.label.clone(),
        label: opinion.label.clone(),
        at: f64::midpoint(opinion.low_mm, opinion.high_mm) - width.now_mm,
        spread: half_of(Some((opinion.low_mm, opinion.high_mm))),
    }));
    all
}

/// Half of what is accepted, where it is wider than people differ by.
fn half_of(accepted: Option<(f64, f64)>) -> f64 {
    accepted.map_or(HANDS_MM, |(low, high)| {
        ((high - low).abs() / 2.0).max(HANDS_MM)
    })
}

fn of_hands(found: &Trying, wishing: &Wishing) -> Vec<Wish> {
    let hand = found.before.bike.hand;
    let opinions = hand_opinions(
        found,
        HandBrackets::default(),
        wishing.lean,
        wishing.leads.hands,
    );
    let of = opinions.into_iter().filter_map(|opinion| {
        let by = opinion.target? - hand;
        // Angles are read, and a bracket is a protocol.
        if matches!(opinion.school, HandSchool::Angles | HandSchool::Bracket) {
            return None;
        }
        let on = |axis, at, accepted| Wish {
            axis,
            school: opinion.school.key().to_owned(),
            label: opinion.label.clone(),
            at,
            spread: half_of(accepted),
        };
        Some([
            on(Axis::Reach, by.x, opinion.farther_from_to),
            on(Axis::Bars, by.y, opinion.higher_from_to),
        ])
    });
    of.flatten().collect()
}

fn on_scale(axis: Axis, scale: &Scale, own: &[&str]) -> Vec<Wish> {
    // As an angle, further back is less.
    let per = match (axis, scale.unit) {
        (Axis::Setback, Unit::Deg) => -1.0 / 0.076,
        _ => 1.0,
    };
    let of = |opinion: &Opinion| {
        let value = opinion.value?;
        // An end that is met asks for nothing.
        let met = opinion.bound.is_some() && opinion.trial.is_none();
        if met || own.contains(&opinion.school.as_str()) {
            return None;
        }
        let window = opinion
            .low
            .zip(opinion.high)
            .map_or(0.0, |(low, high)| (high - low).abs() / 2.0);
        Some(Wish {
            axis,
            school: opinion.school.clone(),
            label: opinion.label.clone(),
            at: (value - scale.now) * per,
            spread: opinion
                .band
                .unwrap_or(0.0)
                .hypot(window * per)
                .max(SCHOOL_MM.min(2.0 * axis.spec().half)),
        })
    };
    scale.schools.iter().filter_map(of).collect()
}
