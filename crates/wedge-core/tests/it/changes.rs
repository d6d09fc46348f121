//! Which changes ask for something.

use crate::ask::trying;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, foresee, meant};
use wedge_core::measure::{Convention, Output, Quantity};
use wedge_core::units::{Millimetres, Side};

fn meant_of(input: &ForeseeInput) -> Vec<Change> {
    meant(&input.check().unwrap(), &input.changes)
}

/// A change to what stands there already.
fn to_now(input: &ForeseeInput, quantity: Quantity) -> Change {
    let ride = input.check().unwrap();
    let now = ride.position().dimensions;
    let convention = match quantity {
        Quantity::SaddleHeight => input.conventions.saddle_height,
        _ => input.conventions.setback,
    };
    Change::to(quantity, now.get(convention).unwrap())
}

#[test]
fn a_number_that_stands_there_already_asks_for_nothing() {
    let mut input = example::road();
    let stem = input.setup.cockpit.stem_mm.0;
    input.changes = vec![
        to_now(&input, Quantity::SaddleHeight),
        Change::to(Quantity::Stem, stem),
        Change::by(Quantity::Tilt, 0.0),
    ];
    assert_eq!(meant_of(&input), []);
    let still = foresee(&input).unwrap();
    assert!(still.title.is_empty() && still.turns.is_empty());

    // Stepped back, it hides nothing of the others: the offer for a crank still stands, and one cause is one cause.
    input.changes = vec![
        to_now(&input, Quantity::SaddleHeight),
        Change::to(Quantity::Crank, 165.0),
    ];
    let crank = foresee(&input).unwrap();
    assert_eq!(crank.offers.len(), 1);
    assert!(crank.notes.iter().all(|note| !note.starts_with("Several")));
}

#[test]
fn a_height_asked_for_beside_a_part_that_carries_the_saddle_is_held() {
    let mut input = example::road();
    let height = to_now(&input, Quantity::SaddleHeight);
    for carries in [
        Change::by(Quantity::Tilt, 2.0),
        Change::by(Quantity::SaddleStack, 8.0),
        Change::by(Quantity::RailMiddle, 5.0),
        Change::to(Quantity::PostSetback, 10.0),
    ] {
        input.changes = vec![carries, height];
        assert_eq!(meant_of(&input).len(), 2, "{carries:?}");
        let after = foresee(&input).unwrap().after;
        let now = after
            .dimensions
            .get(input.conventions.saddle_height)
            .unwrap();
        assert!(
            (now - height.to.unwrap()).abs() < 0.05,
            "{carries:?}: {now}"
        );
    }
    // A stem carries nothing.
    input.changes = vec![Change::by(Quantity::Stem, 10.0), height];
    assert_eq!(meant_of(&input).len(), 1);
}

#[test]
fn what_is_meant_has_its_convention_spelled_out_and_each_side_counts() {
    let mut input = example::road();
    input.conventions.setback = Convention::SetbackNose;
    input.changes = vec![Change::to(Quantity::Setback, 55.0)];
    assert_eq!(
        meant_of(&input)[0].convention,
        Some(Convention::SetbackNose)
    );
    let right = input.setup.pedalling.right.cleat_setback_mm.0;
    let only = |side| Change {
        side: Some(side),
        ..Change::to(Quantity::CleatSetback, right)
    };
    input.setup.pedalling.left.cleat_setback_mm.0 = right + 4.0;
    input.changes = vec![only(Side::Right)];
    assert_eq!(meant_of(&input), []);
    input.changes = vec![only(Side::Left)];
    assert_eq!(meant_of(&input).len(), 1);
}

#[test]
fn every_protocol_begins_somewhere_and_says_what_can_be_set_of_it() {
    use wedge_core::intake::Intake;
    use wedge_core::position::Landmark;
    use wedge_core::trial::{Proposing, Protocol, RunPlan, feels};
    use wedge_core::work::Station;
    let (height, setback) = (
        feels(Quantity::SaddleHeight, []),
        feels(Quantity::Setback, []),
    );
    let starts_of = |input: &ForeseeInput| {
        trying(input, |on| {
            [
                Station::SaddleHeight,
                Station::Setback,
                Station::Bars,
                Station::Cranks,
            ]
            .map(|at| {
                RunPlan::starts(&Proposing {
                    on,
                    at,
                    intake: &Intake::default(),
                    height: &height,
                    setback: &setback,
                    landmark: Landmark::Centre,
                    findings: &[],
                    stand: false,
                    cranks: &[],
                })
            })
        })
    };
    let mut trail = example::flat_bar();
    trail.kind = wedge_core::bike::Kind::OffRoad;
    let (starts, off_road) = (starts_of(&example::road()), starts_of(&trail));
    let all: Vec<_> = starts.iter().chain(&off_road).flatten().collect();
    for protocol in Protocol::ALL {
        assert!(all.iter().any(|s| s.protocol == *protocol), "{protocol:?}");
    }
    for start in all {
        // A setting's key is a key of the plan: what is chosen can be written into it.
        let plan = serde_json::to_value(&start.plan).unwrap();
        let own = plan[start.protocol.key()].as_object().unwrap();
        for setting in &start.settings {
            assert!(
                own.contains_key(setting.key),
                "{} {}",
                start.label,
                setting.key
            );
        }
    }
    // Blind, the station's own dimension is compared.
    let blind = |at: usize| starts[at].last().unwrap().plan.clone();
    assert!(matches!(blind(0), RunPlan::Blind(b) if b.quantity == Quantity::SaddleHeight));
    assert!(matches!(blind(1), RunPlan::Blind(b) if b.quantity == Quantity::Setback));
}

#[test]
fn where_on_the_saddle_a_rider_sits_moves_no_length_of_the_bike() {
    let here = example::road();
    let mut nose = here.clone();
    nose.rider.pelvis.sits_forward_mm = Millimetres(30.0);
    let (here, nose) = (
        foresee(&here).unwrap().before,
        foresee(&nose).unwrap().before,
    );
    for output in [
        Output::SaddleToHand,
        Output::SaddleToHandByTrunk,
        Output::Drop,
        Output::BbToHand,
    ] {
        assert_eq!(
            output.of(&here, Side::Right),
            output.of(&nose, Side::Right),
            "{output:?}"
        );
    }
    // The rider does move.
    assert!(nose.legs.right.knee.smallest_deg.0 > here.legs.right.knee.smallest_deg.0 + 1.0);
}
