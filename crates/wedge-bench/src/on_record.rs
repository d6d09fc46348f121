//! A rider who is not there, written down as a fitter would have: measured, intake taken, the bike typed in, taped and closed.

use crate::opened;
use crate::stand_in::EASY;
use jiff::Timestamp;
use jiff::civil::Date;
use uuid::Uuid;
use wedge_core::foresee::ForeseeInput;
use wedge_core::intake::{Complaint, Intake};
use wedge_core::measure::{Conventions, Quantity, Reading, Refusal};
use wedge_core::position::Ride;
use wedge_core::school::{Relief, ShoeWidth};
use wedge_core::units::{Side, Sides};
use wedge_core::work::Station;
use wedge_files::{Bike, House, ReadingRecord, Rider, SetupRecord, Simulated};

/// What the rider tells at the table, and what his shoes and saddle show.
#[derive(Debug, Clone, Default)]
pub struct ToldOf {
    /// Where it hurts.
    pub complaints: Vec<Complaint>,
    /// Whether his load rose suddenly.
    pub load_rose: bool,
    /// Whether his shoes are tight.
    pub shoe_tight: bool,
    /// Whether his saddle has no relief.
    pub no_relief: bool,
}

/// What was measured of him, as a record has it, with one bike and a fit whose bike as found is closed.
///
/// # Errors
///
/// What was measured makes no rider on a bike.
pub fn on_record(
    (id, session, name, simulated): (Uuid, Uuid, String, Simulated),
    known: &ForeseeInput,
    told: ToldOf,
    (house, day, at): (&House, Date, Timestamp),
) -> Result<Rider, Vec<Refusal>> {
    let ride = known.check()?;
    let read = |reading: Reading| ReadingRecord::new(Uuid::now_v7(), at, reading);
    let mut rider = Rider::new(
        id,
        name,
        body_readings(known).into_iter().map(read).collect(),
    );
    rider.simulated = Some(simulated);
    let mut bike = Bike {
        id: Uuid::now_v7(),
        name: "Bike as it came".to_owned(),
        kind: known.kind,
        frame: known.frame,
        label: None,
        setup: known.setup,
        taped: None,
        usual: Some(Vec::new()),
        stand: false,
        carried: None,
        sessions: Vec::new(),
    };
    let mut fit = opened(session, day, &rider, &bike, house);
    let found = SetupRecord {
        id: Uuid::now_v7(),
        recorded_at: at,
        setup: known.setup,
    };
    fit.readings = taped(&ride, &fit.conventions)
        .into_iter()
        .map(read)
        .collect();
    fit.intake = Intake {
        complaints: told.complaints,
        load_rose: told.load_rose,
        load: if told.load_rose {
            "Rode twice as much since last month."
        } else {
            "As in other years."
        }
        .to_owned(),
        flags_asked: true,
        ..Intake::default()
    };
    if told.shoe_tight {
        fit.shoes = Sides::from_fn(|_| wedge_core::school::Shoe {
            width: Some(ShoeWidth::Tight),
            ..Default::default()
        });
    }
    if told.no_relief {
        fit.saddle.relief = Some(Relief::None);
    }
    fit.effort = Some(EASY);
    fit.station = Station::FirstLook;
    fit.now = Some(found.id);
    fit.setups = vec![found];
    bike.sessions = vec![fit];
    rider.bikes = vec![bike];
    Ok(rider)
}

/// What a tape says of the bike as it came.
fn taped(ride: &Ride, conventions: &Conventions) -> Vec<Reading> {
    let position = ride.position();
    [
        Quantity::SaddleHeight,
        Quantity::Setback,
        Quantity::Drop,
        Quantity::BbToHand,
    ]
    .into_iter()
    .filter_map(|quantity| {
        let convention = conventions.of(quantity)?;
        Some(Reading {
            convention: Some(convention),
            sit_reference: quantity
                .goes_to_the_saddle()
                .then_some(conventions.sit_reference),
            ..Reading::new(quantity, position.dimensions.get(convention)?)
        })
    })
    .collect()
}

/// What was measured of the body.
fn body_readings(known: &ForeseeInput) -> Vec<Reading> {
    let (body, legs) = (&known.rider.body, &known.rider.legs);
    let mut all = vec![Reading::new(Quantity::Stature, body.stature_mm.0)];
    let whole = [
        (Quantity::Inseam, body.inseam_mm.map(|mm| mm.0)),
        (
            Quantity::ShoulderBreadth,
            body.shoulder_breadth_mm.map(|mm| mm.0),
        ),
        (Quantity::Mass, body.mass_kg.map(|kg| kg.0)),
    ];
    all.extend(
        whole
            .into_iter()
            .filter_map(|(of, value)| Some(Reading::new(of, value?))),
    );
    for side in Side::BOTH {
        let leg = legs.of(side);
        let of_side = [
            (Quantity::FootLength, leg.foot_length_mm.map(|mm| mm.0)),
            (Quantity::HipLimit, leg.hip_limit_deg.map(|deg| deg.0)),
        ];
        all.extend(of_side.into_iter().filter_map(|(of, value)| {
            Some(Reading {
                side: Some(side),
                ..Reading::new(of, value?)
            })
        }));
    }
    all
}

/// How an apprentice comes along: windows missed, fit by fit, in words.
pub fn practised(missed: &[usize]) -> String {
    let mean = |of: &[usize]| {
        let count = u32::try_from(of.len()).unwrap_or(1).max(1);
        let sum = u32::try_from(of.iter().sum::<usize>()).unwrap_or(0);
        f64::from(sum) / f64::from(count)
    };
    let fits = match missed.len() {
        1 => "One fit".to_owned(),
        n => format!("{n} fits"),
    };
    let half = missed.len() / 2;
    let (first, last) = missed.split_at(half);
    let all = format!("{fits}, {:.1} windows missed on average", mean(missed));
    if missed.len() < 4 {
        return format!("{all}. Four fits show a trend.");
    }
    let by = mean(last) - mean(first);
    // Windows missed are counted: half a window over so few fits is chance.
    match by {
        by if by <= -0.5 => format!("{all}; the later half {:.1} fewer.", -by),
        by if by >= 0.5 => format!("{all}; the later half {by:.1} more."),
        _ => format!("{all}; no trend yet."),
    }
}

#[cfg(test)]
mod tests {
    use super::practised;

    #[test]
    fn a_trend_needs_four_fits_and_half_a_window() {
        assert_eq!(
            practised(&[3]),
            "One fit, 3.0 windows missed on average. Four fits show a trend."
        );
        assert_eq!(
            practised(&[4, 4, 2, 2]),
            "4 fits, 3.0 windows missed on average; the later half 2.0 fewer."
        );
        assert_eq!(
            practised(&[1, 1, 3, 2]),
            "4 fits, 1.8 windows missed on average; the later half 1.5 more."
        );
        assert_eq!(
            practised(&[2, 2, 2, 2]),
            "4 fits, 2.0 windows missed on average; no trend yet."
        );
    }
}
