//! The sanity line of the trade: one known rider on one known bike, and what each change is known to do.
use wedge_core::bike::Setup;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Foresight, foresee};
use wedge_core::measure::{Convention, Quantity};
use wedge_core::units::{Degrees, Millimetres, Side};

/// The example with foot pitch held and no effect of breadth; the heel highest at 270°, which the trade's figures were
/// made with.
fn rider() -> ForeseeInput {
    let mut input = example::road();
    input.rider.pitch_response_deg_per_mm = 0.0;
    for side in Side::BOTH {
        input.rider.pitch.of_mut(side).peak_deg = Degrees(270.0);
    }
    input.rider.body.shoulder_breadth_mm = Some(Millimetres(420.0));
    input
}

fn after(changes: &[Change]) -> Foresight {
    let mut input = rider();
    input.changes = changes.to_vec();
    foresee(&input).unwrap()
}

fn with(change: impl FnOnce(&mut Setup)) -> Foresight {
    let mut input = rider();
    change(&mut input.setup);
    foresee(&input).unwrap()
}

fn knee(foreseen: &Foresight) -> (f64, f64) {
    (
        foreseen.before.legs.right.knee.smallest_deg.0,
        foreseen.after.legs.right.knee.smallest_deg.0,
    )
}

#[test]
fn the_position_is_the_one_known() {
    let position = after(&[]).before;
    let right = &position.legs.right;
    assert!(
        (right.knee.smallest_deg.0 - 35.0).abs() < 1.0,
        "{:?}",
        right.knee
    );
    assert!(
        (64.0..=72.0).contains(&right.hip_closed_deg.0),
        "{:?}",
        right.hip_closed_deg
    );
    assert!(
        (47.0..=51.0).contains(&position.upper.torso_deg.0),
        "{:?}",
        position.upper.torso_deg
    );
    assert!(position.is_reached());
    // The shoulder to the wrist reads about 9–13° more than to the elbow with elbows at 20–30°.
    let more = position.upper.shoulder_to_wrist_deg.0 - position.upper.shoulder_deg.0;
    assert!((8.0..=13.0).contains(&more), "{more}");
}

#[test]
fn the_knee_answers_the_saddle() {
    for travel in [-8.0, -3.0, 3.0, 6.0] {
        let (was, is) = knee(&after(&[Change::by(Quantity::SaddleHeight, travel)]));
        let per_mm = (was - is) / travel;
        assert!((0.33..=0.45).contains(&per_mm), "{travel}: {per_mm}");
    }
}

#[test]
fn a_cleat_back_costs_about_two_degrees_and_five_millimetres() {
    let foreseen = after(&[Change::by(Quantity::CleatSetback, 10.0)]);
    let (was, is) = knee(&foreseen);
    assert!((1.4..=2.6).contains(&(was - is)), "{was} → {is}");
    // The compensating move is offered: the saddle down by about half.
    let offer = &foreseen.offers[0];
    let travel = offer.changes[1].by.unwrap();
    assert!((-6.5..=-3.5).contains(&travel), "{offer:?}");
    assert!(
        offer.title.starts_with("and saddle down"),
        "{}",
        offer.title
    );
}

#[test]
fn a_shorter_crank_with_the_saddle_up_folds_the_knee_less() {
    let foreseen = after(&[
        Change::by(Quantity::Crank, -5.0),
        Change::by(Quantity::SaddleHeight, 5.0),
    ]);
    let most_bent = |p: &wedge_core::position::Position| p.legs.right.knee.largest_deg.0;
    let less = most_bent(&foreseen.before) - most_bent(&foreseen.after);
    assert!((less - 1.6).abs() < 0.35, "{less}");
    let (was, is) = knee(&foreseen);
    assert!((was - is).abs() < 0.5, "{was} → {is}");
}

#[test]
fn bars_thirty_lower_close_torso_and_hip_by_two_and_a_half() {
    let high = with(|_| ()).before;
    let low = with(|s| s.residual.hand_up_mm = Millimetres(-30.0)).before;
    let torso = high.upper.torso_deg.0 - low.upper.torso_deg.0;
    let hip = high.legs.right.hip_closed_deg.0 - low.legs.right.hip_closed_deg.0;
    assert!((torso - 2.5).abs() < 0.4, "{torso}");
    assert!((hip - 2.5).abs() < 0.5, "{hip}");
    let moved = high.upper.points.hip.distance(low.upper.points.hip);
    assert!((0.5..=2.5).contains(&moved), "{moved}");
}

#[test]
fn the_saddle_moves_along_its_actual_post() {
    // 10 mm up a 73.5° post: back 10 cos 73.5° = 2.840, up 10 sin 73.5° = 9.588; the drop grows by as much.
    let foreseen = after(&[Change::by(Quantity::SaddleHeight, 10.0)]);
    let moved = foreseen.after.bike.sit - foreseen.before.bike.sit;
    assert!((moved.x + 2.840).abs() < 1e-3, "{moved:?}");
    assert!((moved.y - 9.588).abs() < 1e-3, "{moved:?}");
    let drop = foreseen.after.dimensions.get(Convention::DropHood).unwrap()
        - foreseen
            .before
            .dimensions
            .get(Convention::DropHood)
            .unwrap();
    assert!((drop - 9.588).abs() < 1e-3);
    assert_eq!(foreseen.title, "Saddle up 10");
    assert_eq!(foreseen.turns[0].words, "Post up 10 mm");
}

#[test]
fn spacers_are_a_fixed_sum() {
    let foreseen = after(&[Change::to(Quantity::SpacersBelow, 5.0)]);
    assert_eq!(foreseen.title, "Spacers down 15");
    assert!((foreseen.setup.cockpit.spacers_above_mm.0 - 15.0).abs() < 1e-9);
    assert_eq!(
        foreseen.turns[0].words,
        "Spacers below the stem 20 → 5 mm, above it 0 → 15 mm"
    );
    // 15 mm along a 73° steerer: down 14.34, forward 4.39.
    let moved = foreseen.after.bike.hand - foreseen.before.bike.hand;
    assert!(
        (moved.y + 14.345).abs() < 1e-3 && (moved.x - 4.386).abs() < 1e-3,
        "{moved:?}"
    );
    assert!(
        foreseen
            .notes
            .iter()
            .any(|n| n.contains("recheck the saddle"))
    );
}

#[test]
fn a_number_wanted_is_the_number_got_in_any_convention() {
    use Convention as C;
    for (quantity, convention, value) in [
        (Quantity::SaddleHeight, C::SaddleHeightStraight, 742.0),
        (Quantity::SaddleHeight, C::SaddleHeightSeatTube, 755.0),
        (Quantity::SaddleHeight, C::SaddleHeightVertical, 700.0),
        (Quantity::SaddleHeight, C::SaddleHeightFromAxle, 930.0),
        (Quantity::Setback, C::SetbackSit, 220.0),
        (Quantity::Setback, C::SetbackNose, 55.0),
        (Quantity::Setback, C::SetbackSeatAngle, 75.0),
    ] {
        let foreseen = after(&[Change {
            convention: Some(convention),
            ..Change::to(quantity, value)
        }]);
        let got = foreseen.after.dimensions.get(convention).unwrap();
        assert!((got - value).abs() < 1e-6, "{convention:?}: {got}");
        // Height alone turns only the post, setback alone only the rails.
        assert_eq!(foreseen.turns.len(), 1, "{:?}", foreseen.turns);
        assert_eq!(foreseen.turns[0].quantity, quantity);
    }
    let both = after(&[
        Change::to(Quantity::SaddleHeight, 745.0),
        Change::to(Quantity::Setback, 205.0),
    ]);
    assert!(
        (both
            .after
            .dimensions
            .get(Convention::SaddleHeightStraight)
            .unwrap()
            - 745.0)
            .abs()
            < 1e-6
    );
    assert!((both.after.dimensions.get(Convention::SetbackSit).unwrap() - 205.0).abs() < 1e-6);
    assert_eq!(both.title, "Saddle down 4.1, saddle forward 7.8");
}

#[test]
fn out_of_reach_is_an_answer() {
    let high = after(&[Change::by(Quantity::SaddleHeight, 90.0)]);
    assert!(!high.after.is_reached());
    assert!(
        high.notes
            .iter()
            .any(|n| n.contains("short of the pedal at crank")),
        "{:?}",
        high.notes
    );
    // The rider who cannot reach the bars still has legs.
    let mut input = rider();
    input.setup.cockpit.stem_mm = Millimetres(180.0);
    input.setup.bar.set(Quantity::BarReach, 140.0);
    input.setup.bar.set(Quantity::HoodForward, 90.0);
    input.frame.frame_reach_mm = Millimetres(600.0);
    input.frame.frame_stack_mm = Millimetres(420.0);
    let far = foresee(&input).unwrap();
    assert!(
        far.before
            .upper
            .reach
            .words()
            .is_some_and(|w| w.contains("short of the hoods")),
        "{:?}",
        far.before.upper
    );
    assert!(far.before.legs.left.reach.is_met());
}

#[test]
fn estimated_lengths_are_marked_so() {
    use wedge_core::rider::Source;
    let lengths = after(&[]).lengths;
    assert_eq!(lengths.inseam.source, Source::Measured);
    assert_eq!(lengths.legs.left.thigh.source, Source::Estimated);
    assert!(lengths.legs.left.thigh.spread_mm.0 > 0.0);
}

#[test]
fn the_ankle_swings_as_riders_were_measured() {
    // M. O. Ericson and others (1988): about 24° over the stroke. The house's foot is nearer to that than one whose heel is
    // highest a quarter turn before the top.
    let swing = |peak: Option<f64>| {
        let mut input = example::road();
        for side in Side::BOTH {
            if let Some(peak) = peak {
                input.rider.pitch.of_mut(side).peak_deg = Degrees(peak);
            }
        }
        let leg = foresee(&input).unwrap().before.legs.right;
        leg.ankle_largest_deg.0 - leg.ankle_smallest_deg.0
    };
    assert!((20.0..=28.0).contains(&swing(None)), "{}", swing(None));
    assert!(swing(Some(270.0)) > 34.0);
}
