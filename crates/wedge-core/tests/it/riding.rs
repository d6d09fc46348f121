//! What kinds of riding add: positions turned about the BB, candidates, off-road cockpits, grades.

use crate::calling::{Calling, tried};
use proptest::prelude::*;
use wedge_core::bike::{Bar, BikePoints, Kind, Part, PartKind, Perch, Placed, ordinary_parts};
use wedge_core::example;
use wedge_core::foresee::{ForeseeInput, Trying, foresee};
use wedge_core::intake::Intake;
use wedge_core::kinds::{
    Budget, Drag, Event, Follows, Room, candidate, droppers, frontal_index, graded, hip_room,
    level_on_climb, shorter_or_higher, turned,
};
use wedge_core::measure::{Convention, Output, Quantity};
use wedge_core::position::{Landmark, Ride};
use wedge_core::rider::Effort;
use wedge_core::solve::cockpits_for;
use wedge_core::trial::{Dial, Proposing, Protocol, RunPlan, Says, TestDay, feels};
use wedge_core::units::{Degrees, Millimetres, Side};
use wedge_core::work::Station;

/// The example with something to turn by: rails longer, some spacers above the stem.
fn pads() -> ForeseeInput {
    let mut input = example::time_trial();
    input.setup.saddle.rail_mm = Some(Millimetres(120.0));
    input.setup.cockpit.spacers_above_mm = Millimetres(25.0);
    input
}

fn aero() -> Ride {
    pads().check().unwrap()
}

/// Whole millimetres of a stack.
#[allow(
    clippy::cast_possible_truncation,
    reason = "a stack of a few centimetres"
)]
fn whole(mm: f64) -> i32 {
    mm as i32
}

fn at(input: &ForeseeInput) -> Ride {
    input.check().unwrap()
}

#[test]
fn a_degree_is_told_as_the_trade_tells_it() {
    let ride = aero();
    let trying = Trying::of(&ride);
    let one = turned(&trying, &room(&Budget::default()), Degrees(1.0)).unwrap();
    let sit = trying.before.bike.sit;
    let to = |q| {
        one.changes
            .iter()
            .find(|c| c.quantity == q)
            .and_then(|c| c.to)
            .unwrap()
    };
    // 12 to 13 mm forward for each degree, and the sit reference turns on its circle.
    let forward = -sit.x - to(Quantity::Setback);
    assert!((11.0..13.5).contains(&forward), "{forward}");
    assert!((to(Quantity::SaddleHeight) - sit.length()).abs() < 0.06);
    assert!(
        (one.drop_share_after - one.drop_share_before - 1.5).abs() < 0.25,
        "{one:?}"
    );
    assert!((one.torso_before - one.torso_after - 1.0).abs() < 0.01);
    assert!((one.seat_angle_after - one.seat_angle_before - 1.0).abs() < 1e-6);
    let pad = |q| to(q) - trying.before_setup().bar.get(q).unwrap();
    assert!((pad(Quantity::PadTilt) + 1.0).abs() < 0.06);
    assert!(
        (-10.0..=-7.0).contains(&pad(Quantity::PadSpacers)),
        "{}",
        pad(Quantity::PadSpacers)
    );
    // Whole spacers leave no more than half a millimetre.
    assert!(one.miss_mm <= 0.75, "{}", one.miss_mm);
}

#[test]
fn a_turn_of_nought_turns_nothing_and_a_road_bike_is_not_turned() {
    let ride = aero();
    let none = turned(&Trying::of(&ride), &room(&Budget::default()), Degrees(0.0)).unwrap();
    assert!(none.changes.is_empty());
    assert!(none.parts.iter().all(|part| !part.past));
    let road = example::road().check().unwrap();
    assert_eq!(
        turned(&Trying::of(&road), &room(&Budget::default()), Degrees(1.0)).unwrap_err()[0].pointer,
        "/by_deg"
    );
    for wild in [f64::NAN, 30.0] {
        assert!(turned(&Trying::of(&ride), &room(&Budget::default()), Degrees(wild)).is_err());
    }
}

/// What a studio's limits leave the bike of these tests.
fn room(budget: &Budget) -> Room {
    Room::of(budget, &pads().setup.bar)
}

#[test]
fn pads_slide_about_where_they_were_found_or_as_far_as_their_slots() {
    let usual = room(&Budget::default());
    let ends = |input: &ForeseeInput, room: &Room| {
        let told = turned(&Trying::of(&at(input)), room, Degrees(0.0)).unwrap();
        let slide = told.parts.into_iter().find(|p| p.part == Follows::Slide);
        let slide = slide.unwrap();
        (slide.least.unwrap(), slide.most.unwrap())
    };
    let mut input = pads();
    let found = input.setup.bar.get(Quantity::PadForward).unwrap();
    assert_eq!(ends(&input, &usual), (found - 40.0, found + 40.0));
    // Moved 25 ahead, there are 15 left, and not 40 anew.
    input.setup.bar.set(Quantity::PadForward, found + 25.0);
    assert_eq!(ends(&input, &usual), (found - 40.0, found + 40.0));
    input.setup.bar.set(Quantity::PadForwardMost, found + 30.0);
    assert_eq!(ends(&input, &usual), (found - 40.0, found + 30.0));
}

/// Every split of whole spacers on paper: whether any of them, with the perch where the turn wants it, keeps all limits.
fn any_split(ride: &Ride, budget: &Budget, by: f64) -> bool {
    let trying = Trying::of(ride);
    let setup = *trying.before_setup();
    let frame = pads().frame;
    let Bar::Aero(bar) = setup.bar else {
        panic!("pads")
    };
    let bike = &trying.before.bike;
    let (elbow, pad) = (bike.pad_elbow.unwrap(), bike.pad.unwrap());
    let want = pad + elbow.turned(Degrees(-by)) - elbow;
    let mut moved = setup;
    moved.saddle.place(bike.sit.turned(Degrees(-by)));
    moved.saddle.tilt_deg.0 -= by;
    let of = foresee(&ForeseeInput {
        setup: moved,
        ..pads()
    })
    .unwrap()
    .before;
    let perch: &Perch = &of.clearances.perch;
    if perch.exposed_mm.0 < -0.05 || !perch.words.is_empty() {
        return false;
    }
    let most_pads = whole(budget.pads_mm.max(bar.pad_spacers_mm.0));
    let there = setup.cockpit.spacers_below_mm.0 + setup.cockpit.spacers_above_mm.0;
    let most_stem = whole(there.min(budget.stem_mm.max(setup.cockpit.spacers_below_mm.0)));
    (0..=most_pads).any(|pads| {
        (0..=most_stem).any(|below| {
            let mut tried = moved;
            tried.cockpit.spacers_below_mm.0 = f64::from(below);
            let mut aero = bar;
            aero.pad_spacers_mm.0 = f64::from(pads);
            tried.bar = Bar::Aero(aero);
            let tried = Placed::of(tried).unwrap();
            let reached = BikePoints::of(&frame, &tried).pad.unwrap();
            // Half a spacer's height is what whole millimetres cost; a stem's spacer lifts by the head angle's sine.
            (reached.y - want.y).abs() <= 0.76
                && (want.x - reached.x).abs() <= budget.slide_mm + 0.05
        })
    })
}

#[test]
fn the_parts_answer_is_that_of_every_split() {
    let ride = aero();
    let trying = Trying::of(&ride);
    for (stem, pads, slide) in [
        (40.0, 65.0, 40.0),
        (40.0, 65.0, 8.0),
        (10.0, 20.0, 40.0),
        (60.0, 30.0, 25.0),
    ] {
        let budget = Budget {
            stem_mm: stem,
            pads_mm: pads,
            slide_mm: slide,
        };
        let far = turned(&trying, &room(&budget), Degrees(0.0)).unwrap();
        for (way, most) in [(1.0, far.forward_deg), (-1.0, far.back_deg)] {
            for tenth in 0..=60 {
                let by = way * f64::from(tenth) / 10.0;
                let inside = by.abs() <= most + 1e-9;
                let any = any_split(&ride, &budget, by);
                // One tenth either side of the end may fall to a whole spacer.
                if (by.abs() - most).abs() > 0.1 {
                    assert_eq!(inside, any, "{budget:?} at {by}: {}", far.words);
                }
            }
        }
    }
}

#[test]
fn what_ends_first_is_named_and_each_part_says_where_it_ends() {
    let ride = aero();
    let trying = Trying::of(&ride);
    let tight = Budget {
        slide_mm: 15.0,
        ..Budget::default()
    };
    let past = turned(&trying, &room(&tight), Degrees(3.0)).unwrap();
    let slide = past
        .parts
        .iter()
        .find(|part| part.part == Follows::Slide)
        .unwrap();
    assert!(
        slide.past && slide.words.contains("past its end"),
        "{}",
        slide.words
    );
    assert!(past.words.contains("first"), "{}", past.words);
    assert!(slide.ends_at_deg.unwrap() < 3.0);
}

#[test]
fn the_seat_angle_that_keeps_the_hips_grows_a_degree_for_a_point_and_a_half() {
    let ride = aero();
    let trying = Trying::of(&ride);
    let held = trying.before.dimensions.get(Convention::DropShare).unwrap();
    let shares = [held + 2.0, held + 4.0];
    let at_rest = turned(&trying, &room(&Budget::default()), Degrees(0.0)).unwrap();
    let solved = hip_room(&trying, &at_rest, &shares);
    assert_eq!(solved.len(), 2);
    // From 13 % at 77°: 15 at 78.4 and 17 at 79.8.
    assert!((solved[0].by_deg - 1.4).abs() < 0.15, "{solved:?}");
    assert!((solved[1].by_deg - 2.8).abs() < 0.25, "{solved:?}");
    assert!(hip_room(&trying, &at_rest, &[90.0]).is_empty());
}

#[test]
fn a_shorter_crank_and_higher_pads_give_the_hips_the_same() {
    let ride = aero();
    let both = shorter_or_higher(&Trying::of(&ride));
    assert_eq!(both.len(), 2, "{both:?}");
    assert!(both[0].gained_deg > 0.5, "{}", both[0].gained_deg);
    assert!((both[0].gained_deg - both[1].gained_deg).abs() < 0.1);
    assert!(
        both[1].drop_share < both[0].drop_share,
        "higher pads, less drop"
    );
    let road = example::road().check().unwrap();
    assert!(shorter_or_higher(&Trying::of(&road)).len() < 2);
}

#[test]
fn a_sheet_judges_by_the_event_and_says_what_it_does_not_know() {
    let ride = aero();
    let trying = Trying::of(&ride);
    let setup = *trying.before_setup();
    let of = |event, ear| {
        candidate(
            &trying,
            "Now",
            &setup,
            event,
            (Some(12.0), ear),
            (None, None),
        )
        .unwrap()
    };
    let plain = of(Event::default(), None);
    let line = |c: &wedge_core::kinds::Candidate, label: &str| {
        c.figures
            .iter()
            .find(|f| f.label.starts_with(label))
            .unwrap()
            .clone()
    };
    assert_eq!(line(&plain, "Ear").value, None);
    assert!(line(&plain, "Sight").words.contains("guess"));
    assert_eq!(line(&plain, "Sight").spread, Some(10.0));
    assert!(
        plain.figures.iter().all(|f| f.label != "Against the wind"),
        "no watts from nothing"
    );
    // An ear 40 mm ahead of the crease: 40/7.7 of 10 mm, pads in or out.
    assert!(
        line(&of(Event::default(), Some(40.0)), "Ear")
            .words
            .contains("out, about 52 mm")
    );
    assert!(!line(&of(Event::default(), Some(-15.0)), "Ear").against);
    let hour = of(
        Event {
            minutes: Some(60.0),
            run_follows: false,
        },
        None,
    );
    assert_eq!(line(&hour, "Held").words, "of 60 minutes");
    let drag = Drag {
        drag_area_m2: 0.25,
        air_density_kg_m3: 1.2,
        speed_m_s: 12.0,
    };
    let with = candidate(
        &trying,
        "Now",
        &setup,
        Event::default(),
        (None, None),
        (Some(plain.index), Some(&drag)),
    )
    .unwrap();
    assert!((line(&with, "Against").value.unwrap() - 259.2).abs() < 1e-6);
    // Extreme before a run is against the rider.
    let low = turned(&trying, &room(&Budget::default()), Degrees(9.0)).unwrap();
    let low = trying.changed(&low.changes).unwrap().into();
    let run = Event {
        minutes: Some(20.0),
        run_follows: true,
    };
    let run = candidate(&trying, "Low", &low, run, (None, None), (None, None)).unwrap();
    assert!(run.drop_share.unwrap() > 20.0, "{:?}", run.drop_share);
    assert!(line(&run, "Drop").against && line(&run, "Drop").words.contains("not before a run"));
    assert!(!run.against(&plain).is_empty());
}

#[test]
fn a_governing_body_is_told_with_its_day() {
    let ride = aero();
    let trying = Trying::of(&ride);
    let now = candidate(
        &trying,
        "Now",
        trying.before_setup(),
        Event::default(),
        (None, None),
        (None, None),
    )
    .unwrap();
    let mut body = wedge_core::kinds::invented();
    assert!(body.refusals("").is_empty());
    body.setback_nose_mm = Some(200.0);
    let broken = body.broken(&now, 1800.0);
    assert!(broken[0].words.starts_with("Saddle nose"), "{broken:?}");
    assert!(broken[0].by.contains("2026-01-15") && broken[0].by.contains("current rules"));
    body.setback_nose_mm = Some(-200.0);
    body.extension_reach.clear();
    body.saddle_tilt_deg = None;
    body.pads_to_ends_mm = None;
    assert!(body.broken(&now, 1800.0).is_empty());
    body.read_on = "soon".to_owned();
    body.name = String::new();
    let pointers: Vec<String> = body.refusals("").into_iter().map(|r| r.pointer).collect();
    assert_eq!(pointers, ["/name", "/read_on"]);
}

#[test]
fn the_cockpit_is_the_best_of_every_one_there_is() {
    let mut input = example::flat_bar();
    input.rider.body.arm_span_mm = Some(Millimetres(1800.0));
    input.rider.body.fist_angle_deg = Some(Degrees(9.0));
    let ride = at(&input);
    let trying = Trying::of(&ride);
    let bar = Part::new(
        PartKind::Bar,
        1,
        &[
            (Quantity::FlatWidth, 800.0),
            (Quantity::BarRise, 30.0),
            (Quantity::Backsweep, 9.0),
        ],
    );
    let mut parts = vec![bar];
    parts.extend(ordinary_parts());
    let knuckle = trying.before.bike.grip.unwrap().length() + 12.0;
    let found = cockpits_for(&trying, &parts, knuckle, false).unwrap();
    assert!(found.looked_at > 1000, "{}", found.looked_at);
    let (low, high) = found.width_mm.unwrap();
    assert!((low - 756.0).abs() < 1e-9 && (high - 792.0).abs() < 1e-9);
    let best = &found.answers[0];
    // What is told is what the bolts give.
    let after = Trying::of(&ride).changed(&best.changes).unwrap();
    let grip = BikePoints::of(&input.frame, &after).grip.unwrap();
    assert!(
        (grip.length() - best.grips_mm).abs() < 0.05,
        "{} {}",
        grip.length(),
        best.grips_mm
    );
    assert!((best.grips_off_mm - (best.grips_mm - knuckle)).abs() < 1e-9);
    // Nothing of the ordinary box, brute force over stems, splits, rises, sweeps and whole degrees of roll, is in a better class.
    let frame = &input.frame;
    let (sin, cos) = frame.head_angle_deg.sin_cos();
    let class = |miss: f64| {
        [2.0, 5.0, 10.0, 20.0]
            .iter()
            .filter(|end| miss > **end)
            .count()
    };
    let off = |ahead: f64| (20.0 - ahead).max(ahead - 30.0).max(0.0);
    let told = (class(off(best.ahead_mm)), class(best.grips_off_mm.abs()));
    let sum = input.setup.cockpit.spacers_below_mm.0 + input.setup.cockpit.spacers_above_mm.0;
    let Bar::Flat(now) = input.setup.bar else {
        panic!("grips")
    };
    let mut brute = (9, 9);
    for stem in [40.0, 50.0] {
        for angle in [-17.0, -6.0, 6.0, 17.0] {
            for below in 0..=whole(sum) {
                for rise in [10.0, 20.0, 30.0, 40.0, 50.0] {
                    for sweep in [7.0, 8.0, 9.0, 12.0] {
                        for roll in -5..=5 {
                            let mut setup = input.setup;
                            setup.cockpit.stem_mm.0 = stem;
                            setup.cockpit.stem_angle_deg.0 = angle;
                            setup.cockpit.spacers_below_mm.0 = f64::from(below);
                            let mut flat = now;
                            flat.flat_bar_width_mm.0 = 800.0;
                            flat.bar_rise_mm.0 = rise;
                            flat.backsweep_deg.0 = sweep;
                            flat.bar_roll_deg.0 = now.bar_roll_deg.0 + f64::from(roll);
                            setup.bar = Bar::Flat(flat);
                            let grip = BikePoints::of(frame, &Placed::of(setup).unwrap())
                                .grip
                                .unwrap();
                            let from = grip - frame.head_top();
                            let ahead = from.x * sin + from.y * cos;
                            brute = brute
                                .min((class(off(ahead)), class((grip.length() - knuckle).abs())));
                        }
                    }
                }
            }
        }
    }
    assert!(
        told <= brute,
        "told {told:?}, brute force {brute:?}: {}",
        best.words
    );
    assert!(cockpits_for(&Trying::of(&aero()), &parts, knuckle, false).is_none());
}

#[test]
fn steep_ground_asks_for_rise() {
    let mut input = example::flat_bar();
    input.setup.bar.set(Quantity::BarRise, 10.0);
    let ride = at(&input);
    let trying = Trying::of(&ride);
    let found = cockpits_for(&trying, &ordinary_parts(), 850.0, true).unwrap();
    let rises = found.answers.iter().filter_map(|answer| {
        answer
            .changes
            .iter()
            .find(|c| c.quantity == Quantity::BarRise)
            .and_then(|c| c.to)
    });
    let rises: Vec<f64> = rises.collect();
    assert!(
        !rises.is_empty() && rises.iter().all(|rise| *rise >= 30.0),
        "{rises:?}"
    );
    assert!(
        found
            .words
            .iter()
            .any(|words| words.contains("Arm span is not measured"))
    );
}

#[test]
fn droppers_stop_somewhere_and_say_at_what() {
    let input = example::flat_bar();
    let ride = at(&input);
    let all = droppers(&Trying::of(&ride), 0.0);
    assert!(
        all.windows(2)
            .all(|two| two[0].drop_mm < two[1].drop_mm && two[0].clear_mm > two[1].clear_mm)
    );
    let stop = all.iter().position(|d| !d.goes).unwrap_or(all.len());
    assert!(all[stop..].iter().all(|d| !d.goes && !d.words.is_empty()));
    // A wheel that comes up takes its travel off the room.
    let sprung = droppers(&Trying::of(&ride), 150.0);
    assert!(all[0].clear_mm - sprung[0].clear_mm > 80.0);
}

#[test]
fn a_grade_is_felt_in_setback_tilt_and_weight() {
    let mut input = example::road();
    input.effort = Some(Effort {
        power_w: 200.0,
        cadence_rpm: 80.0,
    });
    let ride = at(&input);
    let trying = Trying::of(&ride);
    let up = graded(&trying, 8.0).unwrap();
    assert!(up.felt_setback_mm - up.setback_mm > 50.0);
    assert!((up.felt_tilt_deg - up.tilt_deg - 4.574).abs() < 0.001);
    // About a point of front share less for each hundredth.
    let share = up.felt_front_share.unwrap() - up.front_share.unwrap();
    assert!((-10.0..-6.0).contains(&share), "{share}");
    assert!(up.felt_hands_n < up.hands_n);
    let down = graded(&trying, -8.0).unwrap();
    assert!(down.felt_front_share > up.front_share && down.words.contains("forward"));
    let level = graded(&trying, 0.0).unwrap();
    assert_eq!(
        (level.front_share, level.hands_n),
        (level.felt_front_share, level.felt_hands_n)
    );
    assert_eq!(graded(&trying, 40.0).unwrap_err().pointer, "/percent");
    // 4.57° level on 8 %; 5° is the most.
    let (change, words) = level_on_climb(&trying, 8.0, 0.0).unwrap();
    assert_eq!(change.to, Some(-4.5));
    assert!(words.contains("on the flat"));
    assert_eq!(level_on_climb(&trying, 15.0, 0.0).unwrap().0.to, Some(-5.0));
}

#[test]
fn the_nose_brings_the_knee_forward_and_the_tail_back() {
    let ride = at(&example::road());
    let level = graded(&Trying::of(&ride), 0.0).unwrap();
    let [nose, middle, tail] = &level.places[..] else {
        panic!("three places")
    };
    assert!(middle.ahead_mm.abs() < 1e-9);
    assert!(
        nose.ahead_mm > 50.0 && tail.ahead_mm < -20.0,
        "{nose:?} {tail:?}"
    );
    assert!(
        nose.knee_over_axle_mm > middle.knee_over_axle_mm
            && middle.knee_over_axle_mm > tail.knee_over_axle_mm
    );
    assert!(
        nose.knee_deg > middle.knee_deg && middle.knee_deg > tail.knee_deg,
        "further back is a longer way"
    );
    assert_eq!(
        middle.torso_deg,
        Output::Torso.of(&ride.position(), Side::Right)
    );
}

#[test]
fn a_test_day_rides_the_ends_first_and_halves_what_is_left() {
    let mut input = example::flat_bar();
    input.kind = Kind::OffRoad;
    let plan = RunPlan::TestDay(TestDay {
        dial: Dial::ForkRebound,
        clicks: 16,
    });
    // A rider who likes 6: 16 is too lively, 0 too dead, 8 too lively, 4 too dead, 6 right.
    let mut run = Calling::new(plan.clone(), &input);
    for (rides, likes) in [
        ("16 clicks", "1"),
        ("0 clicks", "3"),
        ("8 clicks", "1"),
        ("4 clicks", "3"),
        ("6 clicks", "2"),
    ] {
        assert!(
            run.guide().screen.instruction.contains(rides),
            "{}",
            run.guide().screen.instruction
        );
        run.key(likes);
    }
    let found = run.found();
    assert_eq!(
        (found.title.as_str(), found.value),
        ("Fork rebound: 6 clicks", Some(6.0))
    );
    assert_eq!((found.low, found.high), (Some(4.0), Some(8.0)));
    // Too dead fully open and too lively fully closed cannot both be.
    let mut wrong = Calling::new(plan, &input);
    wrong.keys("31");
    assert_eq!(wrong.found().says, Says::Contradicts);
}

#[test]
fn a_test_day_is_begun_off_the_road_alone() {
    let begun = |kind| {
        let mut input = example::flat_bar();
        input.kind = kind;
        let on = tried(&input);
        let starts = RunPlan::starts(&Proposing {
            on,
            at: Station::Bars,
            intake: &Intake::default(),
            height: &feels(Quantity::SaddleHeight, []),
            setback: &feels(Quantity::Setback, []),
            landmark: Landmark::Centre,
            findings: &[],
            stand: false,
            cranks: &[],
        });
        starts
            .iter()
            .any(|start| start.protocol == Protocol::TestDay)
    };
    assert!(begun(Kind::OffRoad) && begun(Kind::Gravity));
    assert!(!begun(Kind::City));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn joints_keep_their_angles_when_the_position_is_turned(by in -6.0..6.0_f64) {
        let ride = aero();
        let turned = turned(&Trying::of(&ride), &room(&Budget::default()), Degrees(by)).unwrap();
        prop_assert!(turned.joints_deg < 0.1, "{}", turned.joints_deg);
    }

    #[test]
    fn the_index_grows_with_the_torso_and_knows_no_sides(up in 0.0..60.0_f64, more in 3.0..20.0_f64) {
        let input = example::time_trial();
        let index = |pads: f64| {
            let mut input = input.clone();
            input.setup.bar.set(Quantity::PadSpacers, pads);
            let ride = at(&input);
            let position = ride.position();
            (frontal_index(&Trying::of(&ride), &position), Output::Torso.of(&position, Side::Right).unwrap())
        };
        let (low, high) = (index(up), index(up + more));
        prop_assume!(high.1 < 65.0);
        prop_assert!(high.0 > low.0, "{low:?} {high:?}");
        let mut mirrored = input.clone();
        std::mem::swap(&mut mirrored.rider.legs.left, &mut mirrored.rider.legs.right);
        std::mem::swap(&mut mirrored.setup.pedalling.left, &mut mirrored.setup.pedalling.right);
        let ride = at(&mirrored);
        let own = at(&input);
        let (a, b) = (frontal_index(&Trying::of(&ride), &ride.position()), frontal_index(&Trying::of(&own), &own.position()));
        prop_assert!((a - b).abs() < 1e-9);
    }
}
