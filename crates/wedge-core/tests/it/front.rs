//! The protocols of the hands, of hips that stay level and of cranks, and what is due again once the front has moved.

use crate::calling::{Calling, Noise, tried};
use proptest::prelude::*;
use wedge_core::bike::BarKind;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, foresee};
use wedge_core::measure::{Output, Quantity};
use wedge_core::solve::{Due, Recheck, Slide, rechecks};
use wedge_core::trial::{
    CrankComparison, HeelTest, HeightSweep, LightFingers, NotchState, Order, RunPlan, Says,
    StandingStill, TopsOrDrops, WristLine,
};
use wedge_core::units::{Degrees, Millimetres, Side};

/// Answers for as long as something is asked: what is being ridden, and of what.
fn answered(run: &mut Calling, mut answer: impl FnMut(&str, &str) -> String) {
    while let Some(ask) = run.guide().screen.ask {
        let now = run
            .guide()
            .screen
            .notches
            .last()
            .map_or(String::new(), |n| n.label.clone());
        let key = answer(&ask.id, &now.replace('−', "-"));
        if ask.number.is_some() {
            run.number(key.parse().unwrap());
        } else {
            run.key(&key);
        }
    }
}

#[test]
fn standing_still_ends_between_higher_and_lower() {
    let road = example::road();
    let hand = foresee(&road).unwrap().before.bike.hand.y;
    // Good at once.
    let mut run = Calling::new(
        RunPlan::StandingStill(StandingStill { step_mm: 10.0 }),
        &road,
    );
    run.key("2");
    assert_eq!(run.found().title, "Hands as they are");
    assert_eq!(run.found().value, Some(hand));
    // Higher, higher, lower, then a finer step that is too low, good at last.
    run.calls.clear();
    run.keys("3312");
    let found = run.found();
    assert_eq!(found.title, "Hands 15 mm higher");
    // Never good: where the hands cannot go further it says so, and nothing is found.
    run.calls.clear();
    run.keys("333333333");
    assert_eq!((run.found().says, run.found().value), (Says::Nothing, None));
    run.calls.clear();
    assert_eq!(run.stopped().says, Says::Broken);
}

proptest! {
    /// A rider who knows a height finds it to within a step, wherever it is.
    #[test]
    fn standing_still_finds_the_height_a_rider_knows(liked in -60.0..60.0_f64, step in 5.0..20.0_f64) {
        let road = example::road();
        let mut run = Calling::new(RunPlan::StandingStill(StandingStill { step_mm: step }), &road);
        answered(&mut run, |_, at| {
            let at: f64 = at.parse().unwrap();
            let off = at - liked;
            if off.abs() <= 3.0 { "2" } else if off > 0.0 { "1" } else { "3" }.to_owned()
        });
        let found = run.found();
        let hand = foresee(&road).unwrap().before.bike.hand.y;
        prop_assert_eq!(found.says, Says::Found);
        prop_assert!((found.value.unwrap() - hand - liked).abs() <= 5.5, "{:?} for {liked}", found.title);
    }
}

#[test]
fn a_bracket_of_height_begins_where_the_rider_likes_it_standing_still() {
    use wedge_core::intake::Intake;
    use wedge_core::position::Landmark;
    use wedge_core::trial::{Bracketed, Finding, Proposing, Protocol, feels};
    let on = tried(&example::road());
    let found = |plan: RunPlan, keys: &str| {
        let mut run = Calling::new(plan, &example::road());
        run.keys(keys);
        run.found()
    };
    let proposed = |findings: &[Finding]| {
        let plans = RunPlan::proposed(&Proposing {
            on,
            at: wedge_core::work::Station::Bars,
            intake: &Intake::default(),
            height: &feels(Quantity::SaddleHeight, []),
            setback: &feels(Quantity::Setback, []),
            landmark: Landmark::Centre,
            findings,
            stand: false,
            cranks: &[],
        });
        let plan = plans
            .into_iter()
            .find(|plan| plan.protocol() == Protocol::Bracket);
        match plan {
            Some(RunPlan::Bracket(bracket)) => (bracket.of, bracket.from_mm),
            _ => panic!("a bracket"),
        }
    };
    let liked = found(
        RunPlan::StandingStill(StandingStill { step_mm: 10.0 }),
        "332",
    );
    // Reach first; once that is known, the height, from 20 higher.
    assert_eq!(
        proposed(std::slice::from_ref(&liked)),
        (Bracketed::Reach, 0.0)
    );
    let reach = Finding {
        protocol: Protocol::Bracket,
        quantity: Some(Quantity::BbToHand),
        ..liked.clone()
    };
    assert_eq!(proposed(&[liked, reach.clone()]), (Bracketed::Height, 20.0));
    assert_eq!(proposed(&[reach]), (Bracketed::Height, 0.0));
}

#[test]
fn the_calls_of_a_bracket_are_places_of_the_hands() {
    let road = example::road();
    let hand = foresee(&road).unwrap().before.bike.hand;
    let bracket = wedge_core::trial::Bracket {
        of: wedge_core::trial::Bracketed::Reach,
        on: wedge_core::trial::RiddenOn::Bike,
        step_mm: 5.0,
        from_mm: 0.0,
    };
    let mut run = Calling::new(RunPlan::Bracket(bracket), &road);
    // Too far at 15, good again at 10; the rest was not called yet.
    run.keys("1122");
    let called = bracket.called(&run.run(false));
    let told: Vec<(f64, &str)> = called
        .iter()
        .map(|(at, w)| (at.x - hand.x, w.as_str()))
        .collect();
    assert_eq!(told.len(), 2, "{told:?}");
    assert!(
        (told[0].0 - 15.0).abs() < 1e-9 && told[0].1 == "too far",
        "{told:?}"
    );
    assert!(
        (told[1].0 - 10.0).abs() < 1e-9 && told[1].1 == "good again",
        "{told:?}"
    );
}

/// A sweep whose hands weigh so much at each step down, going down and coming up.
fn swept(input: &ForeseeInput, down: [f64; 3], up: [f64; 2]) -> Calling {
    let mut run = Calling::new(RunPlan::HeightSweep(HeightSweep { step_mm: 20.0 }), input);
    let weights = [down[0], down[1], down[2], up[0], up[1]];
    for (n, weight) in weights.into_iter().enumerate() {
        run.number(weight);
        run.key("1");
        if n > 0 {
            run.key("2");
        }
    }
    run
}

#[test]
fn lower_bars_can_make_the_hands_lighter_and_flat_answers_say_so() {
    let road = example::road();
    let hand = foresee(&road).unwrap().before.bike.hand.y;
    let found = swept(&road, [7.0, 4.0, 2.0], [4.0, 7.0]).found();
    assert_eq!(
        (found.says, found.title.as_str()),
        (Says::Found, "Lightest 40 mm lower")
    );
    assert_eq!(found.value, Some(hand - 40.0));
    assert!(
        found.moves[0].title.contains("pacer") || found.moves[0].title.contains("tem"),
        "{found:?}"
    );
    // As heavy everywhere.
    let flat = swept(&road, [5.0, 5.0, 4.5], [5.0, 5.0]).found();
    assert_eq!((flat.says, flat.value), (Says::Nothing, None));
    // The same place rated once light, once heavy.
    let torn = swept(&road, [2.0, 5.0, 8.0], [5.0, 7.0]).found();
    assert_eq!(torn.says, Says::Contradicts);
    // Ended after two places it is broken off; after three it says what it has.
    let mut run = swept(&road, [7.0, 4.0, 2.0], [4.0, 7.0]);
    run.calls.truncate(5);
    assert_eq!(run.stopped().says, Says::Broken);
}

#[test]
fn the_lightest_place_is_none_where_the_hip_has_no_room() {
    let mut stiff = example::road();
    let closed = foresee(&stiff).unwrap().before.legs.right.hip_closed_deg.0;
    let flexion = foresee(&stiff).unwrap().before.legs.right.hip_flexion_deg.0;
    // Hardly a degree left.
    stiff.rider.legs.left.hip_limit_deg = Some(Degrees(flexion + 1.2));
    stiff.rider.legs.right.hip_limit_deg = Some(Degrees(flexion + 1.2));
    assert!(closed > 0.0);
    let found = swept(&stiff, [7.0, 4.0, 2.0], [4.0, 7.0]).found();
    assert!(
        found
            .words
            .iter()
            .any(|w| w.contains("a limit of the rider forbids it")),
        "{found:?}"
    );
    let there = found
        .value
        .map(|v| v - foresee(&stiff).unwrap().before.bike.hand.y);
    assert!(there.is_none_or(|by| by > -39.0), "{found:?}");
}

#[test]
fn the_place_the_hands_take_is_named_as_the_bar_has_it() {
    for (input, low) in [
        (example::road(), "Drops"),
        (example::time_trial(), "Base bar"),
    ] {
        let plan = RunPlan::TopsOrDrops(TopsOrDrops { minutes: 5 });
        let mut run = Calling::new(plan, &input);
        assert_eq!(run.ask().keys[2].label, low);
        run.keys("33233");
        assert_eq!(run.found().says, Says::Found);
        assert!(run.found().title.ends_with(&low.to_lowercase()));
        run.calls.clear();
        run.keys("12312");
        assert_eq!(run.found().says, Says::Nothing);
    }
    let flat = example::all()
        .into_iter()
        .find(|i| i.setup.bar.kind() == BarKind::Flat)
        .unwrap();
    let mut run = Calling::new(RunPlan::TopsOrDrops(TopsOrDrops { minutes: 3 }), &flat);
    run.keys("111");
    assert!(run.found().words[0].contains("too far"));
}

#[test]
fn riding_easy_every_front_feels_heavy() {
    let road = example::road();
    let told = |keys: &str| {
        let mut run = Calling::new(RunPlan::LightFingers(LightFingers {}), &road);
        run.keys(keys);
        run.found()
    };
    assert_eq!(told("111").title, "Light at every effort");
    assert_eq!(told("211").says, Says::Nothing);
    assert!(told("122").words[0].contains("balance test"));
    assert!(told("133").words[0].contains("too near"));
}

#[test]
fn each_hand_says_what_to_turn() {
    let road = example::road();
    let plan = RunPlan::WristLine(WristLine {});
    let mut run = Calling::new(plan.clone(), &road);
    run.keys("111111");
    assert_eq!(run.found().title, "In line");
    assert!(run.found().moves.is_empty());
    // Both bent up: the bar rolls down, one linked trial.
    run.calls.clear();
    run.keys("211211");
    let found = run.found();
    assert_eq!(found.sides.unwrap().left, Some(-2.0));
    assert_eq!(
        found.moves[0].changes,
        [Change::by(Quantity::BarRoll, -2.0)]
    );
    // One hand alone moves no bar, and a lever out of reach is named with its side.
    run.calls.clear();
    run.keys("211121");
    let found = run.found();
    assert!(found.moves.is_empty());
    assert!(
        found
            .words
            .iter()
            .any(|w| w.starts_with("Right lever nearer")),
        "{found:?}"
    );
    let states: Vec<NotchState> = run.guide().screen.notches.iter().map(|n| n.state).collect();
    assert_eq!(states, [NotchState::Marked, NotchState::Marked]);
}

#[test]
fn the_heel_test_finds_where_both_hips_stay_level() {
    let road = example::road();
    let before = foresee(&road).unwrap().before;
    for (left, right) in [(-7.0, 4.0), (9.5, 12.0), (-40.0, -40.0)] {
        let mut run = Calling::new(RunPlan::HeelTest(HeelTest { step_mm: 3.0 }), &road);
        answered(&mut run, |id, at| {
            let at: f64 = at.parse().unwrap();
            let edge = if id.ends_with("left") { left } else { right };
            if at > edge { "2" } else { "1" }.to_owned()
        });
        let found = run.found();
        assert_eq!(found.says, Says::Found, "{found:?}");
        let to = found.value.unwrap() - before.bike.sit.length();
        let edge = f64::min(left, right);
        assert!(to <= edge + 0.2 && to > edge - 3.3, "{to} for {edge}");
        assert!(
            found
                .words
                .iter()
                .any(|w| w.contains("straight leg on its heel")),
            "{found:?}"
        );
    }
    // A hip that tips everywhere is no height.
    let mut run = Calling::new(RunPlan::HeelTest(HeelTest { step_mm: 10.0 }), &road);
    answered(&mut run, |id, _| {
        if id.ends_with("left") { "2" } else { "1" }.to_owned()
    });
    assert_eq!(run.found().says, Says::Nothing);
}

#[test]
fn a_crank_comparison_keeps_the_bottom_and_hides_its_order() {
    let road = example::road();
    let plan = RunPlan::CrankComparison(CrankComparison {
        a_mm: 172.5,
        b_mm: 165.0,
        c_mm: 165.0,
        order: Order::Hidden,
    });
    assert_eq!(plan.hides(), 3);
    let mut run = Calling::new(plan.clone(), &road);
    run.order = vec![true, false, false];
    // The shorter one comes first, and only the one who sets it knows.
    let setting = plan.setting(&run.run(false), &run.calls).unwrap();
    assert!(setting.starts_with("Crank 165: "), "{setting}");
    assert!(setting.contains("addle up 7.5"), "{setting}");
    let shown = run.guide();
    run.order = vec![false, false, false];
    assert_eq!(run.guide(), shown);
    run.order = vec![true, false, false];
    // 165: nothing wrong; 172.5: catches over the top, pinched.
    run.keys(".11111.21112");
    let found = run.found();
    assert_eq!((found.says, found.value), (Says::Found, Some(165.0)));
    assert!(
        found
            .words
            .iter()
            .any(|w| w.starts_with("172.5: catches, pinched")),
        "{found:?}"
    );
    let bottom = found.moves[0]
        .changes
        .iter()
        .find(|c| c.quantity == Quantity::SaddleHeight);
    assert_eq!(bottom.and_then(|c| c.by), Some(7.5));
    // Alike: it says nothing.
    run.calls.truncate(6);
    run.keys(".11111");
    assert_eq!(run.found().says, Says::Nothing);
    let one = RunPlan::CrankComparison(CrankComparison {
        a_mm: 170.0,
        b_mm: 170.0,
        c_mm: 170.4,
        order: Order::Open,
    });
    assert_eq!(one.refusals("")[0].pointer, "/crank_comparison/b_mm");
}

/// What is due again after changes that stay.
fn due_after(input: &ForeseeInput, changes: Vec<Change>) -> Vec<Recheck> {
    let before = foresee(input).unwrap().before;
    let mut input = input.clone();
    input.changes = changes;
    let setup = foresee(&input).unwrap().setup;
    input.changes = Vec::new();
    input.setup = setup;
    rechecks(&before, tried(&input), Slide::learnt(&[]))
}

#[test]
fn a_front_move_makes_the_saddle_due_again_and_a_small_one_nothing() {
    let road = example::road();
    let lower = |by: f64| due_after(&road, vec![Change::by(Quantity::SpacersBelow, by)]);
    assert_eq!(lower(-4.0), []);
    let due: Vec<Due> = lower(-15.0).into_iter().map(|again| again.due).collect();
    let all = [
        Due::Height,
        Due::Setback,
        Due::Balance,
        Due::Tilt,
        Due::HandPlaces,
    ];
    assert_eq!(due, all);
    // A saddle on its rails asks for the front that gives the hands back.
    let back = due_after(&road, vec![Change::by(Quantity::Setback, 12.0)]);
    assert_eq!(back.len(), 1);
    assert_eq!(back[0].due, Due::Front);
    assert!(
        back[0]
            .words
            .contains("back: the hands are that much farther"),
        "{back:?}"
    );
    assert!(back[0].step.is_some());
    assert_eq!(
        due_after(&road, vec![Change::by(Quantity::Setback, 4.0)]),
        []
    );
}

/// The guide's numbers: bars 30 lower, sits 0 to 2.4 mm further ahead, knee +0.3 to +0.5°, hip −2.1 to −2.5°, given back by
/// about a millimetre: nothing to turn.
#[test]
fn golden_bars_thirty_lower() {
    let road = example::road();
    let before = foresee(&road).unwrap().before;
    let mut lower = road.clone();
    lower.setup.residual.hand_up_mm = Millimetres(-30.0);
    let due = rechecks(&before, tried(&lower), Slide::learnt(&[]));
    let height = &due[0];
    assert!(height.step.is_none());
    let numbers: Vec<f64> = (height
        .words
        .split(|c: char| !(c.is_ascii_digit() || c == '.' || c == '−')))
    .filter_map(|text| text.replace('−', "-").parse().ok())
    .collect();
    let [least, most, knee, hip, up] = numbers[..] else {
        panic!("{height:?}");
    };
    assert!(
        least.abs() < 0.05 && (2.0..2.8).contains(&most),
        "{height:?}"
    );
    assert!((0.2..0.6).contains(&knee), "{height:?}");
    assert!((-2.7..-2.0).contains(&hip), "{height:?}");
    assert!((0.5..1.5).contains(&up), "{height:?}");
    assert!(height.words.ends_with("nothing to turn"), "{height:?}");
}

#[test]
fn what_was_looked_at_teaches_how_far_a_rider_slides() {
    let prior = Slide::learnt(&[]);
    assert!((prior.mm - 0.5).abs() < 1e-12 && (prior.spread - 0.5).abs() < 1e-12);
    // One look: 12 mm ahead for 6° down, seen to 5 mm. Weights 4 and (6/5)² = 1.44: (4·0.5 + 12·6/25)/5.44.
    let once = Slide::learnt(&[(12.0, 6.0)]);
    assert!((once.mm - (2.0 + 72.0 / 25.0) / 5.44).abs() < 1e-12);
    // Many looks of a rider who does slide 1.4 mm a degree bring it there, and narrower.
    let mut noise = Noise(7);
    let looks: Vec<(f64, f64)> = (0..60)
        .map(|n| {
            let down = f64::from(n % 5) - 2.0;
            (1.4 * down + 5.0 * noise.normal(), down)
        })
        .collect();
    let learnt = Slide::learnt(&looks);
    assert!(
        (learnt.mm - 1.2).abs() < 0.5 && learnt.spread < 0.4,
        "{learnt:?}"
    );
}

/// The amounts are what the linkage says of the rider who slid: the post travel gives the knee back.
#[test]
fn the_amount_gives_the_knee_back() {
    let mut road = example::road();
    road.setup.cockpit.spacers_below_mm = Millimetres(60.0);
    let before = foresee(&road).unwrap().before;
    let due = due_after(
        &road,
        vec![
            Change::by(Quantity::SpacersBelow, -60.0),
            Change::by(Quantity::Stem, 30.0),
        ],
    );
    let step = due[0].step.clone().expect("worth a bolt");
    let mut after = road.clone();
    after.changes = vec![
        Change::by(Quantity::SpacersBelow, -60.0),
        Change::by(Quantity::Stem, 30.0),
    ];
    let lower = foresee(&after).unwrap();
    let mut slid = road.clone();
    slid.setup = lower.setup;
    // The slide goes with the torso, and the torso with the slide.
    for _ in 0..8 {
        let torso = foresee(&slid).unwrap().before.upper.torso_deg.0;
        slid.rider.pelvis.sits_forward_mm = Millimetres(0.5 * (before.upper.torso_deg.0 - torso));
    }
    slid.changes = step.changes;
    let given = foresee(&slid).unwrap().after;
    let knee = |p| Output::KneeAtFullReach.of(p, Side::Right).unwrap();
    assert!(
        (knee(&given) - knee(&before)).abs() < 0.2,
        "{} {}",
        knee(&given),
        knee(&before)
    );
}
