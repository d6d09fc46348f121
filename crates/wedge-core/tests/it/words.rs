//! What a person reads of a change: titles, bolts, notes and rows.
use wedge_core::bike::{Post, SteererState};
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Foresight, Offer, foresee};
use wedge_core::handout::Origins;
use wedge_core::measure::{Convention, Origin, Output, Quantity, Reading, Unit};
use wedge_core::units::{Degrees, Millimetres, Side};

fn after(changes: &[Change]) -> Foresight {
    let mut input = example::road();
    input.changes = changes.to_vec();
    foresee(&input).unwrap()
}

fn left(change: Change) -> Change {
    Change {
        side: Some(Side::Left),
        ..change
    }
}

#[test]
fn a_change_is_called_what_a_fitter_calls_it_and_lists_its_bolts() {
    use Quantity as Q;
    let cases: [(&[Change], &str, &[&str]); 15] = [
        (&[], "", &[]),
        (
            &[Change::by(Q::SaddleHeight, 5.0)],
            "Saddle up 5",
            &["Post up 5 mm"],
        ),
        (
            &[Change::by(Q::Setback, -7.5)],
            "Saddle forward 7.5",
            &["Saddle on its rails forward 7.5 mm"],
        ),
        (
            &[Change::by(Q::Setback, 4.0)],
            "Saddle back 4",
            &["Saddle on its rails back 4 mm"],
        ),
        (
            &[Change::to(Q::Crank, 170.0)],
            "Crank 170",
            &["Crank 172.5 → 170 mm"],
        ),
        (
            &[left(Change::to(Q::Crank, 170.0))],
            "Left crank 170",
            &["Left crank 172.5 → 170 mm"],
        ),
        (
            &[Change::by(Q::CleatSetback, 3.0)],
            "Cleats back 3",
            &["Cleat back 3 mm"],
        ),
        (
            &[left(Change::by(Q::CleatSetback, -2.0))],
            "Left cleat forward 2",
            &["Left cleat forward 2 mm"],
        ),
        (
            &[Change::to(Q::Stem, 90.0)],
            "Stem 90",
            &["Stem 100 → 90 mm"],
        ),
        (
            &[Change::to(Q::StemAngle, -17.0)],
            "Stem angle −17°",
            &["Stem angle −6 → −17°"],
        ),
        (
            &[Change::by(Q::Tilt, -1.5)],
            "Saddle nose down 1.5°",
            &["Saddle tilt 0 → −1.5°"],
        ),
        (
            &[Change::by(Q::BarRoll, 4.0)],
            "Bar roll 4°",
            &["Bar roll 0 → 4°"],
        ),
        (
            &[left(Change::to(Q::Shim, 4.0))],
            "Left shim 4",
            &["Left shim 0 → 4 mm"],
        ),
        (&[Change::to(Q::Stem, 100.0)], "", &[]),
        (
            &[
                Change::to(Q::Crank, 170.0),
                Change::by(Q::SaddleHeight, 2.5),
            ],
            "Crank 170, saddle up 2.5",
            &["Post up 2.5 mm", "Crank 172.5 → 170 mm"],
        ),
    ];
    for (changes, title, bolts) in cases {
        let foreseen = after(changes);
        assert_eq!(foreseen.title, title);
        let words: Vec<_> = foreseen.turns.iter().map(|t| t.words.as_str()).collect();
        assert_eq!(words, bolts, "{title}");
    }
}

#[test]
fn a_seat_angle_is_asked_for_in_degrees() {
    let foreseen = after(&[Change {
        convention: Some(Convention::SetbackSeatAngle),
        ..Change::to(Quantity::Setback, 75.0)
    }]);
    assert_eq!(foreseen.title, "Seat angle 75°");
}

#[test]
fn tilt_turns_about_the_clamp_and_moves_the_sit_reference() {
    // The sit reference stands 10 behind and 45 above the clamp. Nose down 10°: (−10, 45) turns to
    // (−10 cos 10 + 45 sin 10, 10 sin 10 + 45 cos 10) = (−2.034, 46.053): forward 7.966, up 1.053.
    let mut input = example::road();
    input.setup.post = Post::default();
    input.changes = vec![Change::to(Quantity::Tilt, -10.0)];
    let foreseen = foresee(&input).unwrap();
    let moved = foreseen.after.bike.sit - foreseen.before.bike.sit;
    assert!(
        (moved.x - 7.966).abs() < 1e-3 && (moved.y - 1.053).abs() < 1e-3,
        "{moved:?}"
    );
    let clamp = foreseen.after.bike.saddle_clamp - foreseen.before.bike.saddle_clamp;
    assert!(clamp.length() < 1e-9);
    // Neither post nor rails are touched.
    assert_eq!(foreseen.turns.len(), 1);
}

#[test]
fn what_to_keep_in_mind_is_said() {
    let notes = |changes: &[Change]| after(changes).notes.join(" ");
    assert_eq!(notes(&[]), "");
    let insist = |to: f64| after(&[Change::to(Quantity::Crank, to)]).insist.join(" ");
    assert!(insist(165.0).contains("at once at the most: this is 7.5"));
    assert_eq!(insist(167.5), "");
    assert_eq!(insist(177.5), "");
    assert!(notes(&[Change::to(Quantity::Stem, 120.0)]).contains("recheck the saddle"));
    assert!(!notes(&[Change::to(Quantity::Stem, 109.0)]).contains("recheck"));
    assert!(
        notes(&[
            Change::by(Quantity::Stem, 5.0),
            Change::by(Quantity::SaddleHeight, 2.0)
        ])
        .contains("not be separable")
    );
}

#[test]
fn the_steerer_is_minded_only_by_a_change_that_touches_it() {
    // 75 mm stand on the steerer: with 226 mm of it, 71 above the head tube, the gap is 4 as found already.
    let mut input = example::road();
    input.frame.steerer_mm = Some(Millimetres(226.0));
    let steerer = |input: &ForeseeInput| foresee(input).unwrap();
    input.changes = vec![Change::by(Quantity::SaddleHeight, 2.0)];
    assert_eq!(steerer(&input).notes, Vec::<String>::new());
    assert_eq!(
        steerer(&input).steerer.unwrap().state,
        SteererState::GapTooLarge
    );
    // 30 more below than there are spacers for: the sum grows by what was not above the stem.
    input.changes = vec![Change::by(Quantity::SpacersBelow, 30.0)];
    let high = steerer(&input);
    assert!((high.steerer.as_ref().unwrap().gap_mm.0 - 34.0).abs() < 1e-9);
    assert!(
        high.notes
            .iter()
            .any(|n| n.contains("31 mm short for this stack")),
        "{:?}",
        high.notes
    );
}

#[test]
fn rows_put_the_largest_change_against_its_spread_first() {
    let foreseen = after(&[Change::by(Quantity::SaddleHeight, -6.0)]);
    let weights: Vec<f64> = foreseen
        .rows
        .iter()
        .filter(|r| r.output.is_main())
        .map(|r| (r.change / r.spread).abs())
        .collect();
    assert!(
        foreseen.rows[..weights.len()]
            .iter()
            .all(|r| r.output.is_main())
    );
    assert!(weights.windows(2).all(|w| w[0] >= w[1]), "{weights:?}");
    // The post itself and what it does to the knee lead.
    let first: Vec<Output> = foreseen.rows[..3].iter().map(|r| r.output).collect();
    assert!(first.contains(&Output::KneeAtFullReach), "{first:?}");
    for row in &foreseen.rows {
        assert!((row.after - row.before - row.change).abs() < 1e-9);
        assert_eq!(row.moved, row.change.abs() >= row.spread, "{row:?}");
    }
    // Equal legs read once, unequal ones twice.
    let knees = |f: &Foresight| {
        f.rows
            .iter()
            .filter(|r| r.output == Output::KneeAtFullReach)
            .count()
    };
    assert_eq!(knees(&foreseen), 1);
    let uneven = after(&[left(Change::by(Quantity::CleatSetback, 8.0))]);
    assert_eq!(knees(&uneven), 2);
    assert!(
        uneven
            .rows
            .iter()
            .any(|r| r.label == "Knee at full reach, left")
    );
}

#[test]
fn rows_are_read_in_the_conventions_chosen() {
    let mut input = example::road();
    input.conventions.setback = Convention::SetbackSeatAngle;
    input.conventions.saddle_height = Convention::SaddleHeightVertical;
    let foreseen = foresee(&input).unwrap();
    let row = |output| foreseen.rows.iter().find(|r| r.output == output).unwrap();
    assert_eq!(row(Output::Setback).unit, Unit::Deg);
    assert!((row(Output::Setback).after - 73.5).abs() < 0.05);
    assert!((row(Output::SaddleHeight).after - 718.24).abs() < 0.05);
    assert_eq!(
        row(Output::SaddleHeight).convention,
        "BB to the sit reference, vertical"
    );
}

#[test]
fn an_offer_gives_the_knee_back() {
    for change in [
        Change::to(Quantity::Crank, 167.5),
        Change::by(Quantity::CleatSetback, 8.0),
        Change::by(Quantity::Setback, 12.0),
        Change::by(Quantity::Sole, 6.0),
    ] {
        let foreseen = after(&[change]);
        let Offer {
            changes, reason, ..
        } = &foreseen.offers[0];
        let linked = after(changes);
        let knee = |f: &Foresight| {
            (
                f.before.legs.right.knee.smallest_deg.0,
                f.after.legs.right.knee.smallest_deg.0,
            )
        };
        let (before, after) = knee(&linked);
        // Offered in half millimetres, a quarter of one is about a tenth of a degree.
        assert!(
            (before - after).abs() < 0.15,
            "{change:?}: {before} → {after}"
        );
        assert!(reason.contains("knee at full reach"));
        assert_eq!(linked.turns.len(), 2, "each bolt is listed");
    }
    // Nothing to give back: a stem does not touch the legs' job enough to say so.
    assert!(
        after(&[Change::to(Quantity::Stem, 105.0)])
            .offers
            .is_empty()
    );
    assert!(
        after(&[Change::by(Quantity::SaddleHeight, 5.0)])
            .offers
            .is_empty()
    );
}

#[test]
fn the_hand_out_has_every_convention_and_tells_the_sides_apart() {
    let input = example::road();
    let found = foresee(&input).unwrap();
    let changed = after(&[
        left(Change::by(Quantity::CleatSetback, 4.0)),
        Change::by(Quantity::SaddleHeight, -5.0),
    ]);
    let table = wedge_core::handout::table(
        (&found.after, &input.setup),
        (&changed.after, &changed.setup),
        Origins {
            readings: &[Reading::new(Quantity::SaddleHeight, 749.1)],
            usual: Some(&[Quantity::Stem]),
            carried: false,
            simulated: false,
        },
    );
    // What was changed comes first; a length that was moved is worked out, a part is as it was typed.
    assert!(table.is_sorted_by_key(|line| !line.changed) && table[0].changed);
    let from = |label: &str| table.iter().find(|l| l.label == label).unwrap().origin;
    assert_eq!(from("Saddle height"), Origin::Derived);
    assert_eq!(from("Setback"), Origin::Derived);
    assert_eq!(from("Stem"), Origin::Usual);
    assert_eq!(from("Cleat, left"), Origin::Typed);
    assert_eq!(from("Crank"), Origin::Typed);
    let none = Origins {
        readings: &[Reading::new(Quantity::SaddleHeight, 749.1)],
        usual: None,
        carried: false,
        simulated: false,
    };
    let same = (&found.after, &input.setup);
    let unmoved = wedge_core::handout::table(same, same, none);
    let from = |label: &str| unmoved.iter().find(|l| l.label == label).unwrap().origin;
    assert_eq!(from("Saddle height"), Origin::Taped);
    assert_eq!(from("Crank"), Origin::NotRecorded);
    let mut conventions = 0;
    for convention in Convention::ALL {
        let Some(value) = changed.after.dimensions.get(*convention) else {
            continue;
        };
        conventions += usize::from(*convention != Convention::DropShare);
        let line = table
            .iter()
            .find(|l| l.convention == convention.words())
            .unwrap_or_else(|| panic!("{convention:?} is missing"));
        assert!((line.left - value).abs() < 1e-9);
        assert!((line.difference - (line.left - line.found)).abs() < 1e-9);
    }
    assert!(
        conventions > 20,
        "a drop bar has most conventions: {conventions}"
    );
    // Eight measures are drawn, the cleats apart.
    let mut drawn: Vec<Quantity> = table.iter().filter_map(|l| l.drawn).collect();
    assert_eq!(drawn.len(), 9);
    drawn.sort_by_key(|quantity| quantity.key());
    drawn.dedup();
    assert_eq!(drawn.len(), 8);
    let cleats: Vec<_> = table
        .iter()
        .filter(|l| l.label.starts_with("Cleat"))
        .map(|l| (l.label.as_str(), l.difference))
        .collect();
    assert_eq!(cleats, [("Cleat, left", 4.0), ("Cleat, right", 0.0)]);
    // Of a bike that was worked out from another all of it is, but what was usual there.
    let carried = Origins {
        usual: Some(&[Quantity::Stem]),
        carried: true,
        ..none
    };
    let table = wedge_core::handout::table(same, same, carried);
    let from = |label: &str| table.iter().find(|l| l.label == label).unwrap().origin;
    assert_eq!(from("Stem"), Origin::Usual);
    assert_eq!(from("Crank"), Origin::Derived);
    assert_eq!(from("Saddle height"), Origin::Taped);
}

#[test]
fn a_position_marks_what_is_outside_its_range_once() {
    let mut low = crate::ask::known(&example::road());
    low.changes = vec![Change::by(Quantity::SaddleHeight, -40.0)];
    let low = foresee(&low).unwrap().after;
    let knees: Vec<_> = low
        .marks
        .iter()
        .filter(|m| m.output == Output::KneeAtFullReach)
        .collect();
    assert_eq!(knees.len(), 1, "both sides read the same");
    assert!(knees[0].outer);
    assert!(knees[0].words.contains("past 35–40°"), "{}", knees[0].words);
    // The rider of the sanity line is in every range but for what he is known to be.
    let mut upright = example::road();
    upright.setup.cockpit.stem_angle_deg = Degrees(35.0);
    let marks = foresee(&upright).unwrap().before.marks;
    assert!(
        marks
            .iter()
            .any(|m| m.output == Output::Torso && m.words.contains("past 40–50°")),
        "{marks:?}"
    );
}
