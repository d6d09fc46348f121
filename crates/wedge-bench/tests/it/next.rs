//! The next bike on the bench: from a fit, a stand or typed points to a bike that is written down as computed.

use crate::rider;
use jiff::civil::date;
use uuid::Uuid;
use wedge_bench::{
    ChoiceAsked, Declined, NewNext, NextAsked, NextBike, NextFrom, NextSheet, Onto, TypedPoints,
    fit_stand_of,
};
use wedge_core::bike::Kind;
use wedge_core::measure::Quantity;
use wedge_core::next::{PartLimits, Wish};
use wedge_core::units::{Degrees, Millimetres};
use wedge_files::{House, LibraryFrame, StudioFile, read_studio};

fn library() -> Vec<LibraryFrame> {
    let file: StudioFile = read_studio(include_str!("../../../../demo/studio.wedge.json")).unwrap();
    file.frames
}

fn of(name: &str) -> NextBike {
    NextBike {
        rider: rider(name),
        house: House::default(),
        frames: library(),
        today: date(2026, 11, 29),
    }
}

fn fit(next: &NextBike) -> NextFrom {
    NextFrom::Fit(next.rider.bikes[0].sessions[0].id)
}

fn points() -> TypedPoints {
    TypedPoints {
        kind: Kind::Road,
        saddle_height_mm: Millimetres(735.0),
        setback_mm: Millimetres(210.0),
        tilt_deg: Degrees(0.0),
        bb_to_hand_mm: Millimetres(545.0),
        bb_to_hand_up_mm: Millimetres(640.0),
        crank_mm: Millimetres(170.0),
    }
}

fn asked(from: NextFrom, onto: Option<Onto>) -> NextAsked {
    NextAsked {
        from,
        onto,
        crank: None,
        wishes: None,
    }
}

#[test]
fn a_fit_is_carried_to_a_frame_and_written_down_as_not_ridden() {
    let next = of("tobin-arkle");
    let frame = next
        .frames
        .iter()
        .find(|frame| frame.name == "Weir 56")
        .unwrap();
    let ask = asked(fit(&next), Some(Onto::Frame(frame.id)));
    let view = next.carried(&ask).unwrap();
    let told = &view.carried.told;
    // What is drawn is off the wish by what is told.
    let sat = view.position.bike.sit - view.sit - told.saddle_off;
    let held = view.position.bike.hand - view.hand - told.hand_off;
    assert!(
        sat.length() < 1e-6 && held.length() < 1e-6,
        "{sat:?} {held:?}"
    );
    let bike = next
        .new_bike(&NewNext {
            id: Uuid::now_v7(),
            name: " Weir 56 ".to_owned(),
            of: ask,
        })
        .unwrap();
    assert_eq!((bike.name.as_str(), bike.sessions.len()), ("Weir 56", 0));
    let carried = bike.carried.as_ref().unwrap();
    assert!(carried.from.ends_with(", fit 1"), "{}", carried.from);
    assert_eq!(&carried.told, told);
    assert!(
        carried.others.len() == 2 && carried.others.iter().all(|one| !one.starts_with("Weir 56"))
    );
    // Its sheet says so, in every convention.
    let sheet = NextSheet::of(&next.rider, &next.house, &bike).unwrap();
    assert!(
        sheet.ridden.contains("nobody has ridden it"),
        "{}",
        sheet.ridden
    );
    assert!(sheet.contacts.len() > 6 && sheet.contacts.iter().any(|one| one.other));
    // A bike no position was carried to has none.
    let none = NextSheet::of(&next.rider, &next.house, &next.rider.bikes[0]);
    assert!(matches!(none, Err(Declined::NotNow(_))));
}

/// What nobody read on the bike before is read no better on the next.
#[test]
fn what_was_usual_is_still_and_the_rest_is_worked_out() {
    let mut next = of("tobin-arkle");
    let all = [
        Quantity::BarReach,
        Quantity::BarWidth,
        Quantity::Stem,
        Quantity::SpacersBelow,
    ];
    let old = &mut next.rider.bikes[0];
    old.usual = Some(all.to_vec());
    let fit = &mut old.sessions[0];
    let mut read = fit.readings[0].clone();
    read.reading.quantity = Quantity::BarWidth;
    fit.readings.push(read);
    let frame = next.frames.iter().find(|of| of.name == "Weir 56").unwrap();
    let onto = Some(Onto::Frame(frame.id));
    let ask = asked(self::fit(&next), onto);
    let steps = next.carried(&ask).unwrap().carried.setup.cockpit;
    let was = next.rider.bikes[0].setup.cockpit;
    assert!(steps.spacers_below_mm != was.spacers_below_mm || steps.stem_mm != was.stem_mm);
    let new = NewNext {
        id: Uuid::now_v7(),
        name: "Weir 56".to_owned(),
        of: ask,
    };
    let usual = next.new_bike(&new).unwrap().usual.unwrap();
    assert!(usual.contains(&Quantity::BarReach), "{usual:?}");
    assert!(!usual.contains(&Quantity::BarWidth), "it was taped");
    assert!(
        usual.len() < 3,
        "a stem or spacers were set anew: {usual:?}"
    );
    // Off points that were typed the parts are an ordinary bike's.
    let new = NewNext {
        id: Uuid::now_v7(),
        name: "Off points".to_owned(),
        of: asked(NextFrom::Points(points()), onto),
    };
    let usual = next.new_bike(&new).unwrap().usual.unwrap();
    assert!(usual.contains(&Quantity::BarReach), "{usual:?}");
    // But what was typed is not.
    for typed in [Quantity::Crank, Quantity::Tilt] {
        assert!(!usual.contains(&typed), "{usual:?}");
    }
}

#[test]
fn typed_points_are_where_they_were_typed_and_refused_beside_their_field() {
    let next = of("corwin-ashe");
    let view = next.view(&NextFrom::Points(points())).unwrap();
    let bike = &view.position.bike;
    assert!((bike.hand.x - 545.0).abs() < 1e-9 && (bike.hand.y - 640.0).abs() < 1e-9);
    assert!((bike.sit.x + 210.0).abs() < 1e-9 && (bike.sit.length() - 735.0).abs() < 1e-9);
    assert!(!view.ridden && view.words.contains("typed"));
    let typed = TypedPoints {
        saddle_height_mm: Millimetres(90.0),
        ..points()
    };
    let Err(Declined::Refused(refused)) = next.view(&NextFrom::Points(typed)) else {
        panic!("a saddle of 90 mm is none");
    };
    assert_eq!(refused[0].pointer, "/from/points/saddle_height_mm");
    let level = TypedPoints {
        setback_mm: Millimetres(440.0),
        saddle_height_mm: Millimetres(400.0),
        ..points()
    };
    let Err(Declined::Refused(refused)) = next.view(&NextFrom::Points(level)) else {
        panic!("a setback longer than the height has no saddle");
    };
    assert_eq!(refused[0].pointer, "/from/points/setback_mm");
}

#[test]
fn a_frame_is_chosen_of_its_kind_and_two_stand_beside_each_other() {
    let next = of("tobin-arkle");
    let (one, other) = (&next.frames[2], &next.frames[3]);
    let view = next
        .choice(&ChoiceAsked {
            from: fit(&next),
            limits: PartLimits::default(),
            kinds: vec![Kind::Road],
            beside: Some((one.id, other.id)),
        })
        .unwrap();
    let roads = next
        .frames
        .iter()
        .filter(|frame| frame.kind == Kind::Road)
        .count();
    assert_eq!((view.choice.ranked.len(), view.ids.len()), (roads, roads));
    assert!(view.choice.ranked[0].reached && !view.beside.is_empty());
    assert_eq!(view.choice.good.len(), 4);
    let limits = PartLimits {
        most_spacers_mm: 500.0,
        ..PartLimits::default()
    };
    let refused = next.choice(&ChoiceAsked {
        from: fit(&next),
        limits,
        kinds: Vec::new(),
        beside: None,
    });
    assert!(matches!(refused, Err(Declined::Refused(_))));
}

/// A rider without a bike: a stand, then a frame made to measure.
#[test]
fn off_a_stand_a_frame_is_made_to_measure() {
    let mut next = of("corwin-ashe");
    let mut stand = fit_stand_of(Uuid::now_v7(), &next.rider).unwrap();
    let mut session = next.rider.bikes[0].sessions[0].clone();
    session.id = Uuid::now_v7();
    for record in &mut session.setups {
        record.setup = stand.setup;
    }
    session.trials.clear();
    session.now = session.setups.first().map(|record| record.id);
    let from = NextFrom::Fit(session.id);
    stand.sessions.push(session);
    next.rider.bikes.push(stand);

    let was = next.view(&from).unwrap();
    let view = next.made(&asked(from, None)).unwrap();
    assert!(view.position.bike.hand.distance(was.position.bike.hand) < 0.5);
    assert!(view.position.bike.sit.distance(was.position.bike.sit) < 0.5);
    // The stand's own stem is none to be built with.
    assert!((view.made.setup.cockpit.stem_angle_deg.0 + 6.0).abs() < 1e-9);
    let mut wishes = was.wishes.clone();
    for wished in &mut wishes {
        wished.fixed |= matches!(wished.wish, Wish::SeatAngle | Wish::Rake | Wish::HeadAngle);
    }
    let mut ask = asked(from, None);
    ask.wishes = Some(wishes);
    let told = next.made(&ask).unwrap().made.conflicts;
    assert!(!told.is_empty());
    // With wishes that do not go together nothing is written down.
    let new = |of: NextAsked| NewNext {
        id: Uuid::now_v7(),
        name: "Frame for Corwin".to_owned(),
        of,
    };
    assert!(next.new_bike(&new(ask)).is_err());
    let bike = next.new_bike(&new(asked(from, None))).unwrap();
    let sheet = NextSheet::of(&next.rider, &next.house, &bike).unwrap();
    let made = sheet.made.unwrap();
    assert!(made.dimensions.iter().any(|one| one.key == "trail"));
    // A stand is no bike to carry to.
    let stand = next.rider.bikes.last().unwrap().id;
    assert!(next.carried(&asked(from, Some(Onto::Bike(stand)))).is_err());
}
