//! Complaints over the years, and what a trial's foresight is scored by.
use jiff::Timestamp;
use uuid::Uuid;
use wedge_core::intake::{Complaint, Feel, Intake, Place};
use wedge_core::measure::Output;
use wedge_core::units::Side;
use wedge_files::{Entry, EntryBody, Rider, RiderFile, Seen, complaint_spans};

const DEMO: &str = include_str!("../../../../demo/finn-hatherly.wedge.json");

fn finn() -> Rider {
    RiderFile::read(DEMO).unwrap().rider
}

fn complaint(place: Place, side: Option<Side>, how_bad: Option<u8>) -> Complaint {
    Complaint {
        id: String::new(),
        place,
        side,
        feel: Feel::Pain,
        when: None,
        stroke: None,
        effort: None,
        how_bad,
        words: String::new(),
    }
}

/// A rider whose five fits had these complaints; `None` where nobody asked.
fn with(complaints: [Option<Vec<Complaint>>; 5]) -> Rider {
    let mut rider = finn();
    for (session, complaints) in rider.bikes[0].sessions.iter_mut().zip(complaints) {
        session.intake = complaints.map_or_else(Intake::default, |complaints| Intake {
            complaints,
            work: "pupil".to_owned(),
            ..Intake::default()
        });
    }
    rider
}

#[test]
fn a_complaint_spans_from_the_fit_it_was_heard_at_to_the_one_it_was_gone_at() {
    let knee = |bad| complaint(Place::KneeFront, Some(Side::Left), Some(bad));
    let rider = with([
        Some(vec![knee(4)]),
        Some(vec![knee(6), complaint(Place::Neck, None, None)]),
        Some(vec![complaint(Place::Neck, None, None)]),
        Some(vec![knee(2)]),
        Some(vec![knee(1)]),
    ]);
    let days: Vec<_> = rider.bikes[0].sessions.iter().map(|s| s.day).collect();
    let spans = complaint_spans(&rider);
    let told: Vec<_> = spans
        .iter()
        .map(|s| (s.label.as_str(), s.from, s.until, s.worst))
        .collect();
    assert_eq!(
        told,
        [
            ("Front of the knee, left", days[0], Some(days[2]), Some(6)),
            ("Neck", days[1], Some(days[3]), None),
            // What comes back is another bar.
            ("Front of the knee, left", days[3], None, Some(2)),
        ]
    );
}

#[test]
fn left_and_right_are_two_complaints_and_a_fit_nobody_asked_at_ends_none() {
    let rider = with([
        Some(vec![
            complaint(Place::Hand, Some(Side::Left), Some(3)),
            complaint(Place::Hand, Some(Side::Right), Some(5)),
        ]),
        None,
        Some(vec![complaint(Place::Hand, Some(Side::Right), Some(5))]),
        None,
        None,
    ]);
    let days: Vec<_> = rider.bikes[0].sessions.iter().map(|s| s.day).collect();
    let spans = complaint_spans(&rider);
    assert_eq!(spans.len(), 2);
    assert_eq!(spans[0].until, Some(days[2]));
    assert_eq!(spans[1].until, None);
    assert!(complaint_spans(&with([None, None, None, None, None])).is_empty());
}

#[test]
fn what_was_seen_is_held_against_what_was_foreseen_of_that_side() {
    let mut trial = finn().bikes[0].sessions[0].trials[0].clone();
    let output = Output::KneeAtFullReach;
    let row = trial
        .foreseen
        .rows
        .iter()
        .position(|r| r.output == output)
        .unwrap();
    let mut left = trial.foreseen.rows[row].clone();
    (left.side, left.after) = (Some(Side::Left), 30.0);
    let mut right = left.clone();
    (right.side, right.after) = (Some(Side::Right), 40.0);
    trial.foreseen.rows.splice(row..=row, [left, right]);
    let see = |side: Option<Side>, value: f64| Entry {
        id: Uuid::now_v7(),
        at: Timestamp::UNIX_EPOCH,
        body: EntryBody::Seen(Seen {
            output,
            side,
            value: Some(value),
        }),
    };
    let compared = |entries: Vec<Entry>| {
        let mut trial = trial.clone();
        trial.entries.extend(entries);
        trial
            .compared()
            .iter()
            .map(|c| (c.foreseen, c.seen))
            .collect::<Vec<_>>()
    };
    assert_eq!(compared(vec![see(Some(Side::Left), 31.0)]), [(30.0, 31.0)]);
    // Without a side it was the near leg, the right one.
    assert_eq!(compared(vec![see(None, 41.0)]), [(40.0, 41.0)]);
    assert!(compared(Vec::new()).is_empty());
}
