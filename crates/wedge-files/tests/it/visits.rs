//! Readings of the body: one visit's count together, a later visit's take their place, what is set aside does not count.
use jiff::{SignedDuration, Timestamp};
use uuid::Uuid;
use wedge_core::measure::{Quantity, Reading};
use wedge_core::units::{Millimetres, Side};
use wedge_files::{ReadingRecord, body_of, taken};

fn at(hours: i64, quantity: Quantity, side: Option<Side>, value: f64) -> ReadingRecord {
    let start: Timestamp = "2026-11-01T09:00:00Z".parse().unwrap();
    ReadingRecord::new(
        Uuid::now_v7(),
        start + SignedDuration::from_hours(hours),
        Reading {
            side,
            ..Reading::new(quantity, value)
        },
    )
}

macro_rules! mm {
    ($value:expr) => {
        Some(Millimetres($value))
    };
}

#[test]
fn a_visit_counts_together_and_the_next_one_takes_its_place() {
    let mut readings = vec![
        at(0, Quantity::Stature, None, 1712.0),
        at(0, Quantity::Inseam, None, 800.0),
        at(1, Quantity::Inseam, None, 804.0),
    ];
    assert_eq!(body_of(&readings).unwrap().body.inseam_mm, mm!(802.0));
    readings.push(at(24 * 30, Quantity::Inseam, None, 810.0));
    assert_eq!(body_of(&readings).unwrap().body.inseam_mm, mm!(810.0));
    readings.push(at(24 * 30 + 2, Quantity::Inseam, None, 812.0));
    assert_eq!(body_of(&readings).unwrap().body.inseam_mm, mm!(811.0));
}

#[test]
fn what_is_set_aside_counts_no_more_and_gives_its_place_back() {
    let mut readings = vec![
        at(0, Quantity::Stature, None, 1712.0),
        at(0, Quantity::Inseam, None, 800.0),
        at(24 * 30, Quantity::Inseam, None, 860.0),
    ];
    readings[2].set_aside_at = Some(readings[2].taken_at);
    assert_eq!(body_of(&readings).unwrap().body.inseam_mm, mm!(800.0));
    readings[0].set_aside_at = Some(readings[0].taken_at);
    assert!(body_of(&readings).is_none());
}

#[test]
fn a_later_reading_of_both_sides_stands_for_both() {
    let readings = [
        at(0, Quantity::Stature, None, 1712.0),
        at(0, Quantity::Thigh, Some(Side::Left), 410.0),
        at(1, Quantity::Thigh, None, 420.0),
        at(2, Quantity::Thigh, Some(Side::Right), 424.0),
    ];
    let legs = body_of(&readings).unwrap().legs;
    assert_eq!(legs.left.thigh_mm, mm!(420.0));
    assert_eq!(legs.right.thigh_mm, mm!(424.0));
    let counted: usize = taken(&readings).iter().map(|(_, ids)| ids.len()).sum();
    assert_eq!(counted, 4);
}

#[test]
fn arms_are_measured_apart_and_used_together() {
    let readings = [
        at(0, Quantity::Stature, None, 1712.0),
        at(0, Quantity::UpperArm, Some(Side::Left), 310.0),
        at(0, Quantity::UpperArm, Some(Side::Right), 316.0),
    ];
    let rider = body_of(&readings).unwrap();
    assert_eq!(rider.arms.left.upper_arm_mm, mm!(310.0));
    assert!((rider.lengths().upper_arm.value_mm.0 - 313.0).abs() < 1e-9);
}
