//! From the table to the first look: limits against demand, gross errors, the front's rough pass.
use crate::ask::{calibrate, complaining, gross, gross_of, known};
use wedge_core::bike::Kind;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Look, Sighting, Trying, foresee};
use wedge_core::intake::{Intake, Place};
use wedge_core::limit::LimitRow;
use wedge_core::measure::{Method, Output, Quantity};
use wedge_core::units::{Degrees, Millimetres, Side};
use wedge_core::work::Station;

fn sheet(input: &ForeseeInput) -> Vec<LimitRow> {
    crate::ask::limits(input)
}

fn row(rows: &[LimitRow], quantity: Quantity, side: Option<Side>) -> &LimitRow {
    rows.iter()
        .find(|r| r.quantity == quantity && r.side == side)
        .unwrap()
}

#[test]
fn the_sheet_has_every_joint_and_untested_limits_say_so() {
    let rows = sheet(&example::road());
    assert_eq!(rows.len(), 11);
    assert!(
        rows.iter()
            .all(|r| r.limit_deg.is_none() && r.words == "not tested on the table")
    );
    assert!(
        rows.iter()
            .all(|r| !r.end_point.is_empty() && r.remedies.is_empty())
    );
}

#[test]
fn a_margin_is_limit_less_demand_on_its_own_side() {
    let mut input = example::road();
    let before = foresee(&input).unwrap().before;
    let demand = before.legs.left.hip_flexion_deg.0;
    input.rider.legs.left.hip_limit_deg = Some(Degrees(demand + 12.0));
    input.rider.legs.right.hip_limit_deg = Some(Degrees(demand - 3.0));
    input.rider.body.back_limit_deg = Some(Degrees(before.upper.torso_deg.0 - 8.0));
    let rows = sheet(&input);
    let left = row(&rows, Quantity::HipLimit, Some(Side::Left));
    assert!((left.margin_deg.unwrap() - 12.0).abs() < 1e-9);
    assert_eq!((left.words.as_str(), left.short), ("12° of room", false));
    let right = row(&rows, Quantity::HipLimit, Some(Side::Right));
    assert_eq!(
        (right.words.as_str(), right.short),
        ("3° past its limit", true)
    );
    // The back's limit is the lowest torso it holds: room is above it.
    assert!((row(&rows, Quantity::BackLimit, None).margin_deg.unwrap() - 8.0).abs() < 1e-9);
}

#[test]
fn remedies_of_a_short_hip_are_foreseen_and_ordered_by_what_they_gain() {
    let mut input = example::road();
    input.setup.cockpit.spacers_above_mm = Millimetres(15.0);
    let before = foresee(&input).unwrap().before;
    input.rider.legs.right.hip_limit_deg = Some(before.legs.right.hip_flexion_deg);
    let rows = sheet(&input);
    let hip = row(&rows, Quantity::HipLimit, Some(Side::Right));
    assert!(hip.remedies.len() >= 3, "{hip:?}");
    assert!(
        hip.remedies
            .windows(2)
            .all(|w| w[0].gained_deg >= w[1].gained_deg)
    );
    // A wider stance gives room to the side, which the side view cannot tell.
    let (stance, told) = hip.remedies.split_last().unwrap();
    assert_eq!(stance.gained_deg, None);
    for remedy in told {
        // What is promised is what foresight says.
        let mut changed = input.clone();
        changed.changes.clone_from(&remedy.changes);
        let foreseen = foresee(&changed).unwrap();
        let gained =
            before.legs.right.hip_flexion_deg.0 - foreseen.after.legs.right.hip_flexion_deg.0;
        assert!(
            (gained - remedy.gained_deg.unwrap()).abs() < 1e-9,
            "{remedy:?}"
        );
        assert_eq!(remedy.title, foreseen.title);
        assert!(!remedy.cost.is_empty());
    }
    let titles: Vec<&str> = hip.remedies.iter().map(|r| r.title.as_str()).collect();
    assert!(
        titles.iter().any(|t| t.starts_with("Crank 167.5")),
        "{titles:?}"
    );
    // What closes the hip is no remedy.
    assert!(!titles.contains(&"Saddle down 5"), "{titles:?}");
}

#[test]
fn the_example_has_no_gross_error() {
    let input = example::road();
    let report = gross(&input);
    assert_eq!(report.errors, [], "{report:?}");
}

#[test]
fn a_saddle_far_out_is_named_with_the_move_that_mends_it() {
    let input = known(&example::road());
    for (by, word) in [(-60.0, "too low"), (35.0, "too high")] {
        let mut wrong = input.clone();
        wrong.changes = vec![Change::by(Quantity::SaddleHeight, by)];
        let setup = foresee(&wrong).unwrap().setup;
        let mut wrong = input.clone();
        wrong.setup = setup;
        let report = gross(&wrong);
        let error = &report.errors[0];
        assert_eq!(error.station, Station::SaddleHeight);
        assert!(error.words.contains(word), "{}", error.words);
        wrong.changes.clone_from(&error.changes);
        let mended = foresee(&wrong).unwrap().after;
        let knee = mended.legs.right.knee.smallest_deg.0;
        assert!((33.0..=42.0).contains(&knee), "{knee}");
    }
}

#[test]
fn hands_far_out_are_named_and_a_little_out_ask_for_a_rough_pass() {
    let input = known(&example::road());
    let moved = |forward: f64, up: f64| {
        let mut wrong = input.clone();
        wrong.frame.frame_reach_mm.0 += forward;
        wrong.frame.frame_stack_mm.0 += up;
        gross(&wrong)
    };
    let low = moved(0.0, -160.0);
    let error = low
        .errors
        .iter()
        .find(|e| e.station == Station::Bars)
        .unwrap();
    assert!(error.words.contains("too low"), "{}", error.words);
    assert!(!error.changes.is_empty());

    let far = moved(110.0, 0.0);
    let pass = far.front.as_ref().map(|f| f.words.clone());
    let named = far.errors.first().map(|e| e.words.clone());
    assert!(pass.or(named).unwrap().contains("too far"), "{far:?}");
    assert_eq!(moved(0.0, 0.0).front, None);

    // What lies in the box does it where it can, and what must be ordered says so.
    let mut wrong = input.clone();
    wrong.frame.frame_reach_mm.0 += 110.0;
    let ride = wrong.check().unwrap();
    let with = |length: f64, angle: f64| {
        let stem = [(Quantity::Stem, length), (Quantity::StemAngle, angle)];
        let parts = [wedge_core::bike::Part::new(
            wedge_core::bike::PartKind::Stem,
            1,
            &stem,
        )];
        let report = wedge_core::limit::gross(&Trying::of(&ride), &Intake::default(), &parts);
        let told = report.errors.iter().find(|e| e.station == Station::Bars);
        told.map(|e| (e.changes.clone(), e.proposal.clone()))
            .or(report.front.map(|f| (f.changes, f.left)))
            .unwrap()
    };
    let to = |changes: &[Change]| {
        changes
            .iter()
            .find(|c| c.quantity == Quantity::Stem)
            .and_then(|c| c.to)
    };
    let (ordinary, _) = with(130.0, 17.0);
    let (own, words) = with(to(&ordinary).unwrap() + 2.0, -6.0);
    assert_eq!(to(&own), to(&ordinary).map(|mm| mm + 2.0), "{words}");
    assert!(!words.contains("to order"), "{words}");
    assert!(with(130.0, 17.0).1.contains("to order"));

    // A kind of riding without ranges has no gross error of the hands.
    let mut city = input.clone();
    city.kind = Kind::City;
    city.frame.frame_stack_mm.0 -= 160.0;
    assert!(
        gross(&city)
            .errors
            .iter()
            .all(|e| e.station != Station::Bars)
    );
}

/// A tall rider stretched out, seen with a flat back and an open shoulder.
fn stretched() -> ForeseeInput {
    let mut input = example::road();
    input.rider.body.stature_mm = Millimetres(1845.0);
    input.rider.body.inseam_mm = None;
    input.frame.frame_reach_mm = Millimetres(399.0);
    input.frame.frame_stack_mm = Millimetres(601.0);
    input.setup.cockpit.stem_mm = Millimetres(110.0);
    input.setup.cockpit.spacers_below_mm = Millimetres(25.0);
    input.setup.cockpit.spacers_above_mm = Millimetres(5.0);
    input.setup.saddle.saddle_height_mm = Millimetres(774.0);
    let seen = [(Output::Torso, 39.0), (Output::Shoulder, 83.0)].map(|(output, value)| Sighting {
        output,
        side: None,
        value,
        method: Method::Film,
        spread: None,
    });
    let look = Look::of(input.setup, seen.to_vec());
    input.fit = Some(calibrate(&input, &[look]).unwrap().fit);
    input
}

#[test]
fn numb_hands_are_never_sent_down_and_one_bolt_is_turned_before_two() {
    let mut input = stretched();
    let hand = |input: &ForeseeInput| foresee(input).unwrap().after.bike.hand;
    let was = hand(&input);
    let report = gross_of(&input, &complaining(&[Place::Hand]));
    let (words, changes) = report
        .front
        .map(|front| (front.words, front.changes))
        .or_else(|| {
            report
                .errors
                .first()
                .map(|e| (e.words.clone(), e.changes.clone()))
        })
        .unwrap();
    assert!(words.contains("too far"), "{words}");
    assert!(!words.contains("too high"), "{words}");
    assert!(
        words.contains("not lower while this hurts: hand"),
        "{words}"
    );
    let [one] = changes[..] else {
        panic!("one bolt: {changes:?}");
    };
    assert_eq!((one.quantity, one.to), (Quantity::Stem, Some(70.0)));
    input.changes = changes;
    let is = hand(&input);
    assert!(is.x < was.x - 20.0 && is.y > was.y - 10.0, "{was:?} {is:?}");
    let after = foresee(&input).unwrap().after.upper;
    assert!(
        (40.0..=50.0).contains(&after.torso_deg.0),
        "{:?}",
        after.torso_deg
    );
    assert!(
        (65.0..=78.0).contains(&after.shoulder_deg.0),
        "{:?}",
        after.shoulder_deg
    );
}

#[test]
fn what_tape_and_parts_disagree_about_moves_no_bolt() {
    let mut input = known(&example::road());
    input.setup.residual.hand_forward_mm = Millimetres(110.0);
    let report = gross(&input);
    let front = report.front.map(|front| (front.words, front.changes));
    let error = report
        .errors
        .first()
        .map(|e| (e.words.clone(), e.changes.clone()));
    let (words, changes) = error.or(front).unwrap();
    assert!(
        words.starts_with("Tape and parts disagree by 110 mm: measure again."),
        "{words}"
    );
    assert_eq!(changes, []);
}

#[test]
fn what_is_out_only_within_its_doubt_is_no_gross_error() {
    // Known by stature alone a knee is in doubt by far more than this saddle is out.
    let mut input = example::road();
    input.rider.body.inseam_mm = None;
    input.setup.saddle.saddle_height_mm = Millimetres(778.0);
    assert_eq!(gross(&input).errors, []);
    let mut input = known(&example::road());
    input.setup.saddle.saddle_height_mm = Millimetres(700.0);
    let error = &gross(&input).errors[0];
    assert!(error.words.contains(" ± "), "{}", error.words);
}

#[test]
fn the_proposed_front_brings_the_hands_nearer() {
    let mut input = example::road();
    input.setup.cockpit.spacers_above_mm = Millimetres(30.0);
    input.frame.frame_stack_mm.0 -= 160.0;
    let before = foresee(&input).unwrap().before;
    let report = gross(&input);
    let changes = report
        .errors
        .first()
        .map(|e| e.changes.clone())
        .or(report.front.map(|f| f.changes))
        .unwrap();
    input.changes = changes;
    let after = foresee(&input).unwrap().after;
    assert!(after.upper.torso_deg.0 > before.upper.torso_deg.0 + 1.0);
}
