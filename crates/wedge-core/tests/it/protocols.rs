//! Guided protocols through the public door: runs that are interrupted, noisy, contradictory and empty.

use crate::ask::{perch_room, proposed};
use crate::calling::{Calling, Noise};
use wedge_core::example;
use wedge_core::foresee::{Bound, ForeseeInput};
use wedge_core::measure::Quantity;
use wedge_core::position::Landmark;
use wedge_core::rider::Effort;
use wedge_core::trial::{
    Answer, Balance, BalanceVariant, Blind, Call, CreepUp, Finding, Form, NotchState, Picks, Plumb,
    Protocol, RailSweep, Run, RunPlan, Says, TiltCheck, chance, feels, guide,
};
use wedge_core::units::{Kilograms, Millimetres};

fn creeping(from_mm: f64) -> RunPlan {
    RunPlan::CreepUp(CreepUp {
        from_mm,
        step_mm: 5.0,
    })
}

#[test]
fn creeping_up_asks_step_by_step_and_tells_the_leg() {
    let input = example::road();
    let mut run = Calling::new(creeping(-10.0), &input);
    let screen = run.guide().screen;
    assert_eq!(screen.instruction, "Saddle to 739.1 mm");
    assert!(screen.detail.starts_with("Post down 10 mm"));
    assert_eq!(screen.timer_s, None);
    run.key("Enter");
    assert_eq!(run.guide().screen.timer_s, Some(60));
    assert_eq!(run.ask().question, "Left leg at the bottom of the stroke?");
    // Quiet at −10 and −5; at 0 the left leg is choppy.
    run.keys("000.000.210");
    let screen = run.guide().screen;
    // Down 4 from there, and up again by 2.
    assert_eq!(screen.instruction, "Saddle to 745.1 mm");
    let states: Vec<NotchState> = screen.notches.iter().map(|n| n.state).collect();
    assert_eq!(
        states,
        [
            NotchState::Quiet,
            NotchState::Quiet,
            NotchState::Marked,
            NotchState::Now
        ]
    );
    // From here on choppy at 749.1 and above, always.
    while let Some(ask) = run.guide().screen.ask {
        if ask.id.rsplit('.').next() == Some("set") {
            let label = run.guide().screen.notches.last().unwrap().label.clone();
            let high = label.parse::<f64>().unwrap() >= 749.0;
            run.keys(if high { ".210" } else { ".000" });
        }
    }
    let found = run.found();
    assert_eq!(found.says, Says::Found);
    assert_eq!(found.quantity, Some(Quantity::SaddleHeight));
    assert!(
        (found.value.unwrap() + 4.0 - 748.0).abs() < 1.5,
        "{found:?}"
    );
    assert!(found.words[0].contains("the left leg alone"), "{found:?}");
    assert!(found.sides.unwrap().right.is_none());
    assert_eq!(found.moves.len(), 1);
    assert!(
        found.moves[0].title.starts_with("Saddle down 5"),
        "{found:?}"
    );
}

#[test]
fn a_creep_up_that_is_broken_off_says_what_it_knows_and_no_more() {
    let input = example::road();
    // Empty.
    let run = Calling::new(creeping(-10.0), &input);
    assert_eq!(run.stopped().says, Says::Broken);
    assert!(run.stopped().value.is_none());
    // In the middle of a step: the step does not count.
    let mut run = Calling::new(creeping(-10.0), &input);
    run.keys(".000.00");
    let ended = run.stopped();
    assert_eq!(ended.says, Says::Nothing);
    assert_eq!(ended.title, "Above 739.1 mm");
    assert_eq!(ended.bound, Some(Bound::AtLeast));
    // Choppy from the first step: begun lower, and ended there.
    let mut run = Calling::new(creeping(0.0), &input);
    run.keys(".330");
    assert_eq!(run.guide().screen.instruction, "Saddle to 739.1 mm");
    let ended = run.stopped();
    assert_eq!(
        (ended.title.as_str(), ended.bound),
        ("Below 749.1 mm", Some(Bound::AtMost))
    );
    // Broken off at the first choppy step: nothing contradicts, it is only not known well.
    let mut run = Calling::new(creeping(-10.0), &input);
    run.keys(".000.220");
    let ended = run.stopped();
    assert_eq!(
        (ended.says, ended.value, ended.moves.len()),
        (Says::Broken, None, 0),
        "{ended:?}"
    );
    assert!(ended.words[0].starts_with("Ended early: a threshold around 741.6 ± 4.1 mm"));
    // Calls of nobody knows what: choppy and smooth without any order.
    let mut run = Calling::new(creeping(-15.0), &input);
    let mut coin = Noise(3);
    while let Some(ask) = run.guide().screen.ask {
        if ask.id.rsplit('.').next() == Some("set") {
            run.keys(if coin.unit() < 0.5 { ".220" } else { ".000" });
        }
    }
    let found = run.found();
    assert!(found.spread.unwrap() > 1.5, "{found:?}");
    // Never choppy: it ends by itself.
    let mut run = Calling::new(creeping(0.0), &input);
    while run.guide().finding.is_none() {
        run.keys(".000");
    }
    assert_eq!(run.found().bound, Some(Bound::AtLeast));
}

#[test]
fn a_call_taken_back_and_a_reload_change_nothing() {
    let input = example::road();
    let mut run = Calling::new(creeping(-10.0), &input);
    run.keys(".000.01");
    let before = run.guide();
    run.key("1");
    run.calls.pop();
    assert_eq!(run.guide(), before);
    // What names another question is not read.
    run.calls.push(Call {
        ask: "9.hips".to_owned(),
        answer: Answer::Key("0".to_owned()),
    });
    assert_eq!(run.guide(), before);
}

#[test]
fn a_call_that_answers_something_else_is_refused_beside_it() {
    let input = example::road();
    let run = Calling::new(creeping(-10.0), &input);
    let refusal = run
        .ask()
        .refusal(&Answer::Key("x".to_owned()), "/answer")
        .unwrap();
    assert_eq!(
        (refusal.pointer.as_str(), refusal.detail.as_str()),
        ("/answer/key", "Call it with Enter")
    );
    let plumb = Calling::new(
        RunPlan::Plumb(Plumb {
            landmark: Landmark::Centre,
        }),
        &input,
    );
    assert!(plumb.ask().refusal(&Answer::Number(3.0), "").is_some());
    let mut plumb = plumb;
    plumb.key("Enter");
    let ask = plumb.ask();
    assert!(
        ask.refusal(&Answer::Number(400.0), "")
            .unwrap()
            .detail
            .contains("−150 to 150 mm")
    );
    assert!(ask.refusal(&Answer::Number(f64::NAN), "").is_some());
    let bad = RunPlan::CreepUp(CreepUp {
        from_mm: 10.0,
        step_mm: 0.0,
    });
    let at: Vec<String> = bad
        .refusals("/plan")
        .into_iter()
        .map(|r| r.pointer)
        .collect();
    assert_eq!(at, ["/plan/creep_up/from_mm", "/plan/creep_up/step_mm"]);
}

/// A sweep from 15 back to 15 forward in seven places; each entry rates hands, thigh, hamstring and control.
fn swept(input: &ForeseeInput, ratings: &[&str]) -> (Finding, Calling) {
    let plan = RunPlan::RailSweep(RailSweep {
        back_mm: 15.0,
        forward_mm: 15.0,
        step_mm: 5.0,
        form: Form::Short,
    });
    let mut run = Calling::new(plan, input);
    for rating in ratings {
        run.keys(&format!(".{rating}"));
    }
    let finding = run.guide().finding.unwrap_or_else(|| run.stopped());
    (finding, run)
}

#[test]
fn rail_sweeps_as_the_trade_knows_them() {
    let road = example::road();
    // What is rated from fully back to fully forward, what it is worth, and what it is called.
    let cases: [(&str, &[&str], Says, &str); 11] = [
        (
            "usual, then both places once more",
            &[
                "0024", "0024", "0113", "1113", "2213", "3303", "2213", "1113",
            ],
            Says::Found,
            "Saddle where it stood",
        ),
        (
            "usual with one rating off",
            &[
                "0024", "1024", "0113", "1113", "2213", "2303", "2213", "0113",
            ],
            Says::Found,
            "Saddle where it stood",
        ),
        (
            "light to the front",
            &["0024", "0024", "0113", "0113", "1213", "1303", "1402"],
            Says::Found,
            "Saddle 15 mm forward",
        ),
        (
            "the other way round",
            &["4024", "3024", "3113", "2113", "1213", "0303", "0402"],
            Says::Found,
            "The other way round",
        ),
        (
            "flat but for one call at the end",
            &["1112", "1112", "1112", "1112", "1112", "1112", "2112"],
            Says::Nothing,
            "It says nothing",
        ),
        (
            "flat",
            &["1112", "1112", "1112", "1112", "1112", "1112", "1112"],
            Says::Nothing,
            "It says nothing",
        ),
        (
            "heavy everywhere",
            &["3112", "3112", "3112", "2112", "3112", "3112", "3112"],
            Says::Nothing,
            "Heavy at every place",
        ),
        (
            "without order",
            &["4112", "0112", "4112", "0112", "4112", "0112", "4112"],
            Says::Contradicts,
            "The ratings contradict one another",
        ),
        (
            "broken off after two",
            &["0024", "0024"],
            Says::Broken,
            "Ended early",
        ),
        (
            "broken off before anything could turn heavy",
            &["0024", "0024", "0113", "0113"],
            Says::Broken,
            "Ended early",
        ),
        (
            "broken off once it had turned heavy",
            &["0024", "0024", "0113", "1113", "3213"],
            Says::Found,
            "Saddle where it stood",
        ),
    ];
    for (what, ratings, says, title) in cases {
        let (finding, _) = swept(&road, ratings);
        assert_eq!(
            (finding.says, finding.title.as_str()),
            (says, title),
            "{what}: {finding:?}"
        );
    }
}

#[test]
fn a_sweep_proposes_a_place_with_its_spread_and_the_post_with_it() {
    let (finding, run) = swept(
        &example::road(),
        &["0024", "0024", "1113", "2213", "3213", "2213", "1113"],
    );
    assert_eq!(finding.title, "Saddle 5 mm back");
    assert!(finding.spread.unwrap() >= 5.0 / 12.0_f64.sqrt() - 1e-9);
    let step = &finding.moves[0];
    assert_eq!(step.changes[0].quantity, Quantity::Setback);
    assert!(step.title.starts_with("Saddle back 5"), "{step:?}");
    // 5 mm back on level rails, with the post's answer: the setback grows by about as much.
    assert!((finding.value.unwrap() - 217.8).abs() < 1.5, "{finding:?}");
    assert!(
        finding.words.iter().any(|w| w.contains("tire alike")),
        "{finding:?}"
    );
    assert_eq!(run.guide().screen.notches.len(), 7);
    // The places follow the rails where post and rails are known.
    let mut known = example::road();
    known.setup.post.post_setback_mm = Some(Millimetres(0.0));
    known.setup.saddle.rail_mm = Some(Millimetres(60.0));
    let RunPlan::RailSweep(plan) = proposed(&known, Protocol::RailSweep, 5.0) else {
        panic!("a rail sweep is proposed");
    };
    let room = perch_room(&known);
    // Whole steps from where it stands, as far as the rails go.
    for (planned, room) in [
        (plan.back_mm, room.back_mm),
        (plan.forward_mm, room.forward_mm),
    ] {
        let left = room.unwrap() - planned;
        assert!((planned % 5.0).abs() < 1e-9 && (0.0..5.0).contains(&left));
    }
    // However short the rails, and wherever the clamp holds them, three places are swept at the least.
    for (rail, setback) in (20..52).map(|rail| (f64::from(rail), f64::from(rail % 3) * 10.0)) {
        known.setup.saddle.rail_mm = Some(Millimetres(rail));
        known.setup.post.post_setback_mm = Some(Millimetres(setback));
        let plan = proposed(&known, Protocol::RailSweep, 5.0);
        assert_eq!(plan.refusals(""), [], "{rail}: {plan:?}");
    }
    assert!(
        !RunPlan::RailSweep(RailSweep {
            back_mm: 2.0,
            forward_mm: 2.0,
            step_mm: 5.0,
            form: Form::Road,
        })
        .refusals("")
        .is_empty()
    );
}

fn balancing(input: &ForeseeInput, variant: BalanceVariant) -> Calling {
    Calling::new(RunPlan::Balance(Balance { variant }), input)
}

/// The road rider with the clamp so far ahead of the middle of the rails, and a stem.
fn on_rails(ahead: f64, stem: f64) -> ForeseeInput {
    let mut input = example::road();
    input.setup.cockpit.stem_mm = Millimetres(stem);
    input.setup.saddle.rail_mm = Some(Millimetres(60.0));
    input.setup.post.post_setback_mm = Some(Millimetres(0.0));
    let there = perch_room(&input);
    // Room forward less half the rail is how far the clamp is ahead.
    let now = there.forward_mm.unwrap() - 30.0;
    input.setup.saddle.rail_middle_mm =
        input.setup.saddle.rail_middle_mm + Millimetres(now - ahead);
    let room = perch_room(&input);
    assert!(
        (room.forward_mm.unwrap() - 30.0 - ahead).abs() < 0.1,
        "{room:?}"
    );
    input
}

#[test]
fn balance_follows_its_verdicts() {
    let road = on_rails(0.0, 100.0);
    // Passes as it stands, working a little.
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".112");
    let found = run.found();
    assert_eq!(
        (found.says, found.bound),
        (Says::Found, Some(Bound::AtLeast))
    );
    assert!((found.value.unwrap() - 212.8).abs() < 1e-6);
    assert!(found.moves.is_empty(), "{found:?}");
    // Slides a little, which is a failure; 5 mm back it passes.
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".212");
    assert_eq!(run.guide().screen.instruction, "Saddle 5 mm back");
    run.keys(".112");
    let found = run.found();
    assert_eq!(found.title, "In balance 5 mm back");
    assert!((found.value.unwrap() - 217.8).abs() < 1e-6);
    assert!(found.moves[0].title.starts_with("Saddle back 5"));
    // Fails twice, and it did not really go back: it goes back once more and passes.
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".311.311");
    run.number(213.8);
    assert_eq!(run.guide().screen.place, "Attempt 3, 5 mm back");
    run.keys(".112");
    assert_eq!(run.found().title, "In balance 5 mm back");
    // Fails twice and did go back: the front is next.
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".311.311");
    run.number(217.5);
    let found = run.found();
    assert_eq!(found.title, "Out of balance further back too");
    assert!(
        found.moves.iter().any(|m| m.title == "Stem 90"),
        "{found:?}"
    );
    assert!(found.next_bike.is_none());
    // Passes with no effort: forward is offered, and failing there answers it.
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".1112.311");
    let found = run.found();
    assert_eq!(found.title, "In balance as it stands");
    assert!(found.words[0].ends_with("Further forward it failed."));
    // The long variant asks for the tip and allows a slight one.
    let mut run = balancing(&road, BalanceVariant::Twenty);
    run.key("Enter");
    assert_eq!(run.guide().screen.timer_s, Some(1200));
    run.keys("1122");
    assert_eq!(run.found().says, Says::Found);
    // Ended before anything was seen, and after one failure.
    assert_eq!(
        balancing(&road, BalanceVariant::Tempo).stopped().says,
        Says::Broken
    );
    let mut run = balancing(&road, BalanceVariant::Tempo);
    run.keys(".123");
    let ended = run.stopped();
    assert_eq!(ended.title, "Out of balance");
    assert!(ended.moves[0].title.starts_with("Saddle back 5"));
}

#[test]
fn balance_knows_the_wrong_frame_and_the_rider_it_says_nothing_about() {
    // A short stem and the saddle 10 forward on its rails: the clamp is 10 behind their middle.
    let long = on_rails(-10.0, 70.0);
    let mut run = balancing(&long, BalanceVariant::Tempo);
    run.keys(".311");
    let found = run.found();
    assert_eq!(found.title, "The wrong frame");
    assert!(found.next_bike.unwrap().contains("70 mm stem"));
    // Saddle far back and a very short stem: forward with the saddle and out with the stem, in one linked move.
    let back = on_rails(15.0, 70.0);
    let mut run = balancing(&back, BalanceVariant::Tempo);
    run.keys(".112");
    let linked = run.found().moves.last().unwrap().clone();
    let bolts: Vec<Quantity> = linked.changes.iter().map(|c| c.quantity).collect();
    assert!(
        bolts.contains(&Quantity::Stem) && bolts.contains(&Quantity::Setback),
        "{linked:?}"
    );
    // A light strong rider passes everywhere: the test says nothing.
    let mut strong = on_rails(0.0, 100.0);
    strong.rider.body.mass_kg = Some(Kilograms(56.0));
    strong.effort = Some(Effort {
        power_w: 230.0,
        cadence_rpm: 92.0,
    });
    let mut run = balancing(&strong, BalanceVariant::Tempo);
    run.keys(".1112.1112.111");
    let found = run.found();
    assert_eq!(
        (found.says, found.title.as_str()),
        (Says::Nothing, "Passes anywhere")
    );
    assert!(
        found.words[0].contains("10 mm apart, as light strong riders do"),
        "{found:?}"
    );
}

#[test]
fn three_drops_a_side_make_a_plumb_line() {
    let road = example::road();
    let plan = RunPlan::Plumb(Plumb {
        landmark: Landmark::KneecapFront,
    });
    let mut run = Calling::new(plan.clone(), &road);
    run.key("Enter");
    assert!(
        run.guide()
            .screen
            .instruction
            .contains("front of the kneecap")
    );
    for drop in [4.0, 6.0, 5.0] {
        run.number(drop);
    }
    run.key("Enter");
    for drop in [-8.0, -8.0, -8.0] {
        run.number(drop);
    }
    let found = run.found();
    // Right 5 ± 1, left −8: 13 apart, −1.5 between them.
    assert_eq!(found.sides.unwrap().right, Some(5.0));
    assert!((found.value.unwrap() + 1.5).abs() < 1e-9);
    assert!((found.spread.unwrap() - 1.0).abs() < 1e-9);
    assert!(
        found.words.iter().any(|w| w.contains("13 mm apart")),
        "{found:?}"
    );
    // One side alone, and a drop far from its siblings.
    let mut run = Calling::new(plan.clone(), &road);
    run.key("Enter");
    for drop in [4.0, 5.0, 34.0] {
        run.number(drop);
    }
    let ended = run.stopped();
    assert_eq!(ended.says, Says::Contradicts);
    assert!(ended.sides.unwrap().left.is_none());
    assert_eq!(Calling::new(plan, &road).stopped().says, Says::Broken);
}

#[test]
fn tilt_is_gauged_marked_turned_and_rechecked() {
    let mut road = example::road();
    road.setup.saddle.tilt_deg = wedge_core::units::Degrees(2.0);
    let plan = RunPlan::Tilt(TiltCheck { to_deg: 0.0 });
    let mut run = Calling::new(plan.clone(), &road);
    run.number(2.0);
    assert_eq!(run.guide().screen.instruction, "Mark the rails");
    run.key("Enter");
    // Not there at the first turn.
    run.number(1.0);
    assert_eq!(run.guide().screen.detail, "Not there yet: once more.");
    run.number(0.2);
    assert_eq!(run.guide().screen.instruction, "Measure the setback");
    run.number(211.0);
    run.number(749.5);
    let found = run.found();
    assert_eq!((found.says, found.value), (Says::Found, Some(0.2)));
    let bolts: Vec<Quantity> = found.moves[0].changes.iter().map(|c| c.quantity).collect();
    assert_eq!(
        bolts,
        [Quantity::Tilt, Quantity::SaddleHeight, Quantity::Setback]
    );
    // Far from what the turn alone does: the saddle slid.
    let mut run = Calling::new(plan, &road);
    run.number(2.0);
    run.key("Enter");
    run.number(0.0);
    run.number(200.0);
    run.number(749.0);
    assert_eq!(run.found().says, Says::Contradicts);
}

#[test]
fn binomial_tails_against_exact_tables() {
    // Pascal's triangle: C(8, ·) = 1 8 28 56 70 56 28 8 1 of 256.
    for (right, ways) in [
        (8, 1.0),
        (7, 9.0),
        (6, 37.0),
        (5, 93.0),
        (4, 163.0),
        (0, 256.0),
    ] {
        assert_eq!(chance(8, right).to_bits(), (ways / 256.0_f64).to_bits());
    }
    // C(12, 10..12) = 66 + 12 + 1 of 4096; C(30, 21..30) summed = 22_964_087 of 2^30.
    assert_eq!(chance(12, 10).to_bits(), (79.0 / 4096.0_f64).to_bits());
    let thirty: f64 = [
        14_307_150.0,
        5_852_925.0,
        2_035_800.0,
        593_775.0,
        142_506.0,
        27_405.0,
        4_060.0,
        435.0,
        30.0,
        1.0,
    ]
    .iter()
    .sum();
    assert_eq!(
        chance(30, 21).to_bits(),
        (thirty / 1_073_741_824.0).to_bits()
    );
    assert!(chance(8, 9) < 1e-300);
}

#[test]
fn a_blind_comparison_hides_its_order_until_the_end() {
    let road = example::road();
    let blind = RunPlan::Blind(Blind {
        quantity: Quantity::SaddleHeight,
        by: -5.0,
        rounds: 8,
    });
    let order = [true, false, false, true, true, false, true, false];
    let mut run = Calling::new(blind.clone(), &road);
    run.order = order.to_vec();
    assert_eq!(blind.setting(&run.run(false), &run.calls), None);
    assert_eq!(run.guide().screen.instruction, "Ride A: as it stands");
    run.keys("..");
    for (round, b) in order.iter().enumerate() {
        let setting = blind.setting(&run.run(false), &run.calls).unwrap();
        assert_eq!(setting.starts_with('B'), *b, "{round}");
        run.key("Enter");
        // Another order gives the very same screen: nothing of it shows.
        let other: Vec<bool> = run.order.iter().map(|b| !*b).collect();
        let shown = run.guide();
        let hidden = guide(&Run {
            order: &other,
            ..run.run(false)
        });
        assert_eq!(shown, hidden);
        // Seven right, the last one wrong.
        let pick = if round == 7 { !*b } else { *b };
        run.key(if pick { "b" } else { "a" });
    }
    assert_eq!(blind.setting(&run.run(false), &run.calls), None);
    let found = run.found();
    let picks = found.picks.unwrap();
    assert_eq!((picks.rounds, picks.right), (8, 7));
    assert_eq!(picks.chance.to_bits(), (9.0 / 256.0_f64).to_bits());
    assert_eq!(
        (found.says, found.title.as_str()),
        (Says::Found, "Feels 5 mm")
    );
    let states: Vec<NotchState> = run.guide().screen.notches.iter().map(|n| n.state).collect();
    assert_eq!(
        states.iter().filter(|s| **s == NotchState::Marked).count(),
        1
    );
    // Ended after two rounds: two right are no sign, and no sign of nothing; they count with later ones.
    run.calls.truncate(6);
    let ended = run.stopped();
    assert_eq!((ended.says, ended.picks.unwrap().right), (Says::Broken, 2));
    assert!(ended.words[0].contains("So few rounds cannot tell"));
    let bad = RunPlan::Blind(Blind {
        quantity: Quantity::Stem,
        by: 0.0,
        rounds: 2,
    });
    assert_eq!(bad.refusals("").len(), 2);
}

#[test]
fn a_pick_taken_back_shows_no_order_that_is_past() {
    let road = example::road();
    let blind = RunPlan::Blind(Blind {
        quantity: Quantity::SaddleHeight,
        by: -5.0,
        rounds: 8,
    });
    let mut run = Calling::new(blind.clone(), &road);
    run.order = vec![true, false, true, false, true, false, true, false];
    // Both ridden openly: that may be taken back.
    run.keys(".");
    assert!(blind.gives_back(&run.calls, &run.calls));
    run.keys("..a.");
    // The second round's setting is made and not called: taken back, it is made again and shown again.
    assert!(blind.gives_back(&run.calls, &run.calls));
    let ever = run.calls.clone();
    run.calls.pop();
    assert!(blind.setting(&run.run(false), &ever).is_some());
    // The pick of the first is taken back with it: another may be called, but nothing is shown of it any more.
    assert!(blind.gives_back(&run.calls, &ever));
    run.calls.pop();
    assert_eq!(run.ask().id, "1.pick");
    assert_eq!(blind.setting(&run.run(false), &ever), None);
    // And no further: what was made for it is past.
    assert!(!blind.gives_back(&run.calls, &ever));
    run.key("b");
    assert!(blind.setting(&run.run(false), &ever).is_some());
}

#[test]
fn what_a_rider_feels_sets_the_step() {
    let picks = |by: f64, right: u32| Picks {
        quantity: Quantity::SaddleHeight,
        by,
        rounds: 8,
        right,
        chance: chance(8, right),
    };
    let step = |all: &[Picks]| feels(Quantity::SaddleHeight, all).step;
    assert!((step(&[]) - 5.0).abs() < 1e-9);
    assert!((step(&[picks(5.0, 8), picks(2.5, 7)]) - 2.5).abs() < 1e-9);
    // One that is felt and is finer than the tape.
    assert!((step(&[picks(1.0, 8)]) - 2.0).abs() < 1e-9);
    // Not felt: twice as much, and never more than a centimetre.
    assert!((step(&[picks(4.0, 5)]) - 8.0).abs() < 1e-9);
    assert!((step(&[picks(8.0, 4)]) - 10.0).abs() < 1e-9);
    // Two runs that say little alone say it together: 12 of 16 by guessing in 3.8 of 100.
    let both = feels(Quantity::SaddleHeight, &[picks(3.0, 6), picks(3.0, 6)]);
    assert_eq!(both.smallest, Some(3.0));
    // Next: half of what is felt, twice of what is not, between the two; the first time the usual step.
    let next = |all: &[Picks]| feels(Quantity::SaddleHeight, all).next;
    assert!((next(&[]) - 5.0).abs() < 1e-9);
    assert!((next(&[picks(5.0, 8)]) - 2.5).abs() < 1e-9);
    assert!((next(&[picks(5.0, 4)]) - 10.0).abs() < 1e-9);
    assert!((next(&[picks(5.0, 8), picks(2.0, 4)]) - 3.5).abs() < 1e-9);
    assert!((next(&[picks(15.0, 4)]) - 20.0).abs() < 1e-9);
    // Felt 2, not felt 5: luck, until 5 is compared again; steps are as large as what was felt above that.
    let odd = feels(Quantity::SaddleHeight, &[picks(2.0, 8), picks(5.0, 4)]);
    assert_eq!((odd.smallest, odd.not), (None, Some(5.0)));
    assert!((odd.step - 5.0).abs() < 1e-9 && (odd.next - 5.0).abs() < 1e-9);
    assert!(odd.words.contains("cannot both be so"), "{}", odd.words);
    let settled = feels(
        Quantity::SaddleHeight,
        &[picks(2.0, 8), picks(5.0, 4), picks(5.0, 8)],
    );
    assert_eq!((settled.smallest, settled.not), (Some(2.0), None));
    assert!((step(&[picks(2.0, 8), picks(5.0, 4), picks(8.0, 8)]) - 8.0).abs() < 1e-9);
    // Rounds too few to tell anything are no sign that nothing is felt; gone on with, they count.
    let few = |rounds: u32| Picks {
        quantity: Quantity::SaddleHeight,
        by: 3.0,
        rounds,
        right: rounds,
        chance: chance(rounds, rounds),
    };
    let begun = feels(Quantity::SaddleHeight, &[few(4)]);
    assert_eq!((begun.smallest, begun.not), (None, None));
    assert!((begun.step - 5.0).abs() < 1e-9 && (begun.next - 3.0).abs() < 1e-9);
    assert!(begun.words.starts_with("Too few rounds so far"));
    let gone_on = feels(Quantity::SaddleHeight, &[few(4), few(1)]);
    assert_eq!((gone_on.smallest, gone_on.not), (Some(3.0), None));
    // Those of another quantity say nothing about this one.
    assert_eq!(feels(Quantity::Setback, &[picks(5.0, 8)]).smallest, None);
}
