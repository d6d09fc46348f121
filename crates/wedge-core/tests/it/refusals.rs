//! What is refused, and where the refusal points.
use crate::ask::settle;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, foresee};
use wedge_core::measure::{Convention, Quantity, Reading};
use wedge_core::units::{Degrees, Millimetres, Side};

fn pointers(change: impl FnOnce(&mut ForeseeInput)) -> Vec<String> {
    let mut input = example::road();
    change(&mut input);
    foresee(&input).map_or_else(
        |all| all.into_iter().map(|r| r.pointer).collect(),
        |_| Vec::new(),
    )
}

#[test]
fn a_refusal_points_at_the_value() {
    assert!(pointers(|_| ()).is_empty());
    assert_eq!(
        pointers(|i| i.rider.body.stature_mm = Millimetres(178.0)),
        ["/rider/body/stature_mm", "/rider/body/inseam_mm"]
    );
    assert_eq!(
        pointers(|i| i.frame.head_angle_deg = Degrees(f64::NAN)),
        ["/frame/head_angle_deg"]
    );
    assert_eq!(
        pointers(|i| i.setup.pedalling.left.crank_mm = Millimetres(17.0)),
        ["/setup/pedalling/left/crank_mm"]
    );
    assert_eq!(
        pointers(|i| i.setup.saddle.saddle_height_mm = Millimetres(350.0)),
        Vec::<String>::new()
    );
    assert_eq!(
        pointers(|i| i.rider.elbow_deg = Degrees(170.0)),
        ["/rider/elbow_deg"]
    );
    assert_eq!(
        pointers(|i| i.conventions.drop = Convention::SetbackSit),
        ["/conventions/drop"]
    );
}

#[test]
fn a_change_is_refused_where_it_stands() {
    let change = |c: Change| pointers(|i| i.changes = vec![c]);
    assert_eq!(change(Change::to(Quantity::Stem, 900.0)), ["/changes/0/to"]);
    assert_eq!(change(Change::by(Quantity::Stem, 150.0)), ["/changes/0/by"]);
    assert_eq!(
        change(Change::by(Quantity::Stem, f64::NAN)),
        ["/changes/0/by"]
    );
    assert_eq!(
        change(Change::to(Quantity::Stature, 1800.0)),
        ["/changes/0/quantity"]
    );
    assert_eq!(
        change(Change {
            side: Some(Side::Left),
            ..Change::by(Quantity::Stem, 10.0)
        }),
        ["/changes/0/side"]
    );
    assert_eq!(
        change(Change {
            to: None,
            ..Change::to(Quantity::Stem, 90.0)
        }),
        ["/changes/0"]
    );
    assert_eq!(
        change(Change::by(Quantity::SaddleHeight, -600.0)),
        ["/changes/0/by"]
    );
    assert_eq!(
        pointers(|i| i.changes = vec![
            Change::by(Quantity::Stem, 10.0),
            Change::by(Quantity::Stem, -10.0)
        ]),
        ["/changes/1/quantity"]
    );
}

#[test]
fn taped_contact_points_win_and_the_difference_is_named() {
    let input = example::road();
    let parts = foresee(&input).unwrap().before.dimensions;
    let reading = Reading::new;
    let setup = settle(
        &input,
        &[
            reading(Quantity::Setback, 210.0),
            Reading {
                convention: Some(Convention::SaddleHeightSeatTube),
                ..reading(Quantity::SaddleHeight, 760.0)
            },
            reading(Quantity::Crank, 170.0),
            Reading {
                side: Some(Side::Left),
                ..reading(Quantity::CleatSetback, 15.0)
            },
            reading(Quantity::SaddleHeight, 740.0),
            reading(
                Quantity::BbToHand,
                parts.get(Convention::BbToHood).unwrap() + 8.0,
            ),
            Reading {
                convention: Some(Convention::DropHood),
                ..reading(Quantity::Drop, 80.0)
            },
        ],
    )
    .unwrap();
    // The latest height wins; the setback holds.
    assert!((setup.saddle.saddle_height_mm.0 - 740.0).abs() < 1e-6);
    assert!((setup.saddle.setback_mm.0 - 210.0).abs() < 1e-6);
    assert!((setup.pedalling.left.crank_mm.0 - 170.0).abs() < 1e-9);
    assert!((setup.pedalling.left.cleat_setback_mm.0 - 15.0).abs() < 1e-9);
    assert!((setup.pedalling.right.cleat_setback_mm.0 - 12.0).abs() < 1e-9);
    assert!((setup.residual.hand_forward_mm.0 - 8.0).abs() < 1e-6);
    assert!(
        setup
            .residual
            .question()
            .unwrap()
            .contains("8 mm further forward")
    );

    // The taped drop and BB to hood are what foresight then reads back.
    let mut taped = input.clone();
    taped.setup = setup;
    let dimensions = foresee(&taped).unwrap().before.dimensions;
    assert!((dimensions.get(Convention::DropHood).unwrap() - 80.0).abs() < 1e-6);
    assert!(
        (dimensions.get(Convention::BbToHood).unwrap()
            - parts.get(Convention::BbToHood).unwrap()
            - 8.0)
            .abs()
            < 1e-6
    );
}

#[test]
fn measuring_one_thing_again_leaves_what_else_was_taped() {
    let mut input = example::road();
    let hood = foresee(&input)
        .unwrap()
        .before
        .dimensions
        .get(Convention::BbToHood)
        .unwrap();
    input.setup = settle(&input, &[Reading::new(Quantity::BbToHand, hood + 4.0)]).unwrap();
    let again = settle(&input, &[Reading::new(Quantity::SaddleHeight, 745.0)]).unwrap();
    assert_eq!(again.residual, input.setup.residual);
    let taped = settle(&input, &[Reading::new(Quantity::BbToHand, hood + 1.0)]).unwrap();
    assert!((taped.residual.hand_forward_mm.0 - 1.0).abs() < 1e-6);
}

#[test]
fn a_reading_that_leaves_the_saddle_nowhere_is_refused() {
    let input = example::road();
    let refusals = settle(
        &input,
        &[
            Reading::new(Quantity::SaddleHeight, 400.0),
            Reading::new(Quantity::Setback, 430.0),
        ],
    )
    .unwrap_err();
    assert_eq!(refusals[0].pointer, "/value");
}

#[test]
fn an_input_reads_back_as_it_was_written() {
    let mut input = example::road();
    input.changes = vec![Change::to(Quantity::Crank, 170.0)];
    input.observed.pitch = Some(input.check().unwrap().observe_pitch());
    let json = serde_json::to_string(&input).unwrap();
    assert_eq!(serde_json::from_str::<ForeseeInput>(&json).unwrap(), input);
    let unknown = json.replacen("\"stem_mm\"", "\"stem_length\"", 1);
    assert!(serde_json::from_str::<ForeseeInput>(&unknown).is_err());
}

#[test]
fn the_latest_reading_of_each_side_makes_the_rider() {
    use wedge_core::rider::Rider;
    let side = |side, value| Reading {
        side: Some(side),
        ..Reading::new(Quantity::Thigh, value)
    };
    let readings = [
        Reading::new(Quantity::Thigh, 430.0),
        Reading::new(Quantity::Stature, 1780.0),
        side(Side::Left, 425.0),
        Reading::new(Quantity::Stature, 1776.0),
    ];
    let rider = Rider::from_readings(&readings).unwrap();
    assert_eq!(rider.body.stature_mm, Millimetres(1776.0));
    assert_eq!(rider.legs.left.thigh_mm, Some(Millimetres(425.0)));
    assert_eq!(rider.legs.right.thigh_mm, Some(Millimetres(430.0)));
    assert_eq!(Rider::from_readings(&readings[..1]), None);
}
