//! The saddle through the public door: schools against hand-worked numbers and from the other side, the gate, parts,
//! another saddle, the map, and causes.

use crate::ask::{
    calibrate, causes, cleat_scale, complaining, crept_of, gate, height_scale, known, ladders,
    measured_of, perch_room, position, saddle_advice, saddle_map, setback_parts, setback_scale,
    spot, swap,
};
use crate::calling::tried;
use proptest::prelude::*;
use wedge_core::bike::{Part, PartKind};
use wedge_core::example;
use wedge_core::foresee::{Bound, Change, ForeseeInput, Look, Trying, foresee};
use wedge_core::intake::{Intake, Place};
use wedge_core::judge::{CauseFacts, Fault, HowOften, Told};
use wedge_core::looking::{KneePath, PelvisSeen, Sign, SignSeen};
use wedge_core::measure::{Convention, Output, Quantity};
use wedge_core::position::{Landmark, Position};
use wedge_core::rider::{LegBody, Reach};
use wedge_core::school::{
    CleatSchool, HeightSchool, Nose, Opinion, Relief, Right, SaddleNotes, Scale, SetbackEvidence,
    SetbackSchool, YesNo, hung, setback_advice,
};
use wedge_core::solve::{OtherSaddle, SaddleMap};
use wedge_core::trial::{
    Answer, Call, CreepUp, Crept, Finding, Plumb, PlumbMeasured, Run, RunPlan, Says, guide,
};
use wedge_core::units::{Degrees, Millimetres, Side, Sides};
use wedge_core::work::Station;

fn heights(input: &ForeseeInput) -> Scale {
    height_scale(input, None, HeightSchool::KneeMoving, 5.0).unwrap()
}

fn of<'a>(scale: &'a Scale, key: &str) -> &'a Opinion {
    scale.schools.iter().find(|s| s.school == key).unwrap()
}

fn evidence<'a>(
    intake: &'a Intake,
    balance: Option<&'a Finding>,
    sweep: Option<&'a Finding>,
) -> SetbackEvidence<'a> {
    SetbackEvidence {
        balance,
        sweep,
        plumb: None,
        intake,
    }
}

fn setbacks(input: &ForeseeInput, landmark: Landmark) -> Scale {
    let intake = Intake::default();
    setback_scale(
        input,
        &evidence(&intake, None, None),
        (SetbackSchool::Plumb, landmark),
        5.0,
    )
    .unwrap()
}

fn after(input: &ForeseeInput, changes: &[Change]) -> Position {
    let mut input = input.clone();
    input.changes = changes.to_vec();
    foresee(&input).unwrap().after
}

#[test]
fn golden_multiples_of_the_inseam_in_their_own_conventions() {
    let mut input = example::road();
    // .883 × 845.5 = 746.5765; .88 and .885 of it are 744.04 and 748.2675.
    input.conventions.saddle_height = Convention::SaddleHeightSeatTube;
    let scale = heights(&input);
    let inseam = of(&scale, "inseam");
    assert!((inseam.value.unwrap() - 746.5765).abs() < 1e-6);
    assert!((inseam.low.unwrap() - 744.04).abs() < 1e-6);
    assert!((inseam.high.unwrap() - 748.2675).abs() < 1e-6);
    assert!(!inseam.estimated && inseam.words == "0.883 × 845.5 mm inseam");
    // 1.09 × 845.5 = 921.595 from the axle at its farthest.
    input.conventions.saddle_height = Convention::SaddleHeightFromAxle;
    let axle = heights(&input);
    assert!((of(&axle, "inseam_axle").value.unwrap() - 921.595).abs() < 1e-6);
    // An inseam nobody measured says so and brings its spread: 20 mm, .883 of them.
    input.rider.body.inseam_mm = None;
    let unmeasured = heights(&input);
    let inseam = of(&unmeasured, "inseam");
    assert!(inseam.estimated);
    assert!((inseam.band.unwrap() - 17.66).abs() < 1e-9);
}

#[test]
fn golden_straight_leg_on_the_heel() {
    // Thigh .245, shank .246 and ankle .039 of 1780 are 436.1, 437.88 and 69.42; with pedal 14 and sole 8 that is
    // 965.4 from hip joint to axle, 792.9 to the BB at a crank of 172.5.
    let input = example::road();
    let scale = heights(&input);
    let to = of(&scale, "heel").value.unwrap();
    let there = after(&input, &[Change::to(Quantity::SaddleHeight, to)]);
    assert!(
        (there.upper.points.hip.length() - 792.9).abs() < 0.01,
        "{to}"
    );
}

#[test]
fn solved_heights_give_back_the_angle_that_was_asked_for() {
    for input in example::all() {
        let scale = heights(&input);
        let knee = |to: f64| {
            let there = after(&input, &[Change::to(Quantity::SaddleHeight, to)]);
            Side::BOTH.map(|side| there.legs.of(side).knee.smallest_deg.0)
        };
        let moving = of(&scale, "knee_moving");
        // Still 25–35° is moving 30–40°.
        let still = of(&scale, "knee_still");
        for (height, wanted) in [
            (moving.value, 37.5),
            (moving.low, 40.0),
            (moving.high, 35.0),
            (still.value, 35.0),
            (still.low, 40.0),
            (still.high, 30.0),
        ] {
            for knee in knee(height.unwrap()) {
                assert!((knee - wanted).abs() < 0.05, "{knee} for {wanted}");
            }
        }
        // Before the rider is seen, a height from the linkage is known to a centimetre or two, and says so.
        assert!(
            (8.0..40.0).contains(&moving.band.unwrap()),
            "{:?}",
            moving.band
        );
        assert!(moving.estimated && scale.note.unwrap().contains("first look"));
    }
}

#[test]
fn the_leading_school_stands_first_and_steps_are_as_large_as_is_felt() {
    let mut input = example::road();
    input.setup.saddle.saddle_height_mm = Millimetres(720.0);
    let scale = height_scale(&input, None, HeightSchool::Inseam, 3.0).unwrap();
    assert_eq!(scale.schools[0].school, "inseam");
    assert!(scale.schools[0].leads && scale.schools.iter().filter(|s| s.leads).count() == 1);
    let step = scale.schools[0].trial.as_ref().unwrap();
    assert_eq!(step.title, "Saddle up 3");
    assert!(step.left.starts_with("then on to 74"), "{}", step.left);
    let creep = of(&scale, "creep_up");
    assert_eq!(creep.value, None);
    assert!(creep.words.starts_with("Creep up first"));
}

#[test]
fn legs_that_ask_for_different_heights_are_shown_apart_with_what_fits_between() {
    let mut input = example::road();
    input.rider.legs.left = LegBody {
        shank_shorter_mm: Some(Millimetres(12.0)),
        ..LegBody::default()
    };
    let scale = heights(&input);
    let moving = of(&scale, "knee_moving");
    let sides = moving.sides.unwrap();
    assert!(sides.left < sides.right - 4.0, "{sides:?}");
    assert!((f64::midpoint(sides.left, sides.right) - moving.value.unwrap()).abs() < 0.1);
    assert!(moving.words.contains("between them"), "{}", moving.words);
    // The inseam's schools know one leg only.
    assert!(of(&scale, "inseam").sides.is_none());
    // Alike legs are one.
    assert!(
        of(&heights(&example::road()), "knee_moving")
            .sides
            .is_none()
    );
}

/// What the schools say of where they are apart, for the road rider changed.
fn why(change: impl Fn(&mut ForeseeInput)) -> Option<String> {
    let mut input = example::road();
    change(&mut input);
    heights(&input).apart
}

#[test]
fn where_the_schools_differ_this_riders_own_reason_is_told() {
    let toes = why(|input| {
        for side in Side::BOTH {
            input.rider.pitch.of_mut(side).mean_deg = Degrees(36.0);
        }
    })
    .unwrap();
    assert!(
        toes.contains("the toes point 16° further down than usual"),
        "{toes}"
    );
    let soles = why(|input| {
        for side in Side::BOTH {
            input.setup.pedalling.of_mut(side).pedal_stack_mm = Millimetres(40.0);
        }
    })
    .unwrap();
    assert!(soles.contains("26 mm thicker than usual"), "{soles}");
    let cranks = why(|input| {
        for side in Side::BOTH {
            input.setup.pedalling.of_mut(side).crank_mm = Millimetres(150.0);
        }
    })
    .unwrap();
    assert!(
        cranks.contains("the cranks are 25.9 mm short for this inseam"),
        "{cranks}"
    );
    let shank = why(|input| {
        for side in Side::BOTH {
            input.rider.legs.of_mut(side).shank_mm = Some(Millimetres(470.0));
        }
    })
    .unwrap();
    assert!(
        shank.contains("longer shank than their inseam lets expect"),
        "{shank}"
    );
    let feet = why(|input| {
        for side in Side::BOTH {
            input.rider.legs.of_mut(side).foot_length_mm = Some(Millimetres(320.0));
        }
        input.setup.saddle.saddle_height_mm = Millimetres(760.0);
    });
    assert!(feet.is_none_or(|words| words.contains("mm apart")));
}

/// The foot as seen on the bike as found: trials do not change it.
fn looked_at() -> ForeseeInput {
    let mut input = example::road();
    input.observed.pitch = Some(input.check().unwrap().observe_pitch());
    input
}

fn crept(input: &ForeseeInput) -> Finding {
    // Quiet up to where the post stands, choppy 5 above it.
    let plan = RunPlan::CreepUp(CreepUp {
        from_mm: -10.0,
        step_mm: 5.0,
    });
    let mut calls: Vec<Call> = Vec::new();
    let on = tried(input);
    loop {
        let now = guide(&Run {
            plan: &plan,
            on,
            calls: &calls,
            stopped: false,
            order: &[],
        });
        let Some(ask) = now.screen.ask else {
            return now.finding.unwrap();
        };
        let high = now
            .screen
            .notches
            .last()
            .unwrap()
            .label
            .parse::<f64>()
            .unwrap()
            > 751.5;
        let key = match ask.id.rsplit('.').next().unwrap() {
            "set" => "Enter",
            "hips" => "0",
            _ if high => "2",
            _ => "0",
        };
        calls.push(Call {
            ask: ask.id,
            answer: Answer::Key(key.to_owned()),
        });
    }
}

#[test]
fn what_was_crept_up_to_stands_among_the_schools_wherever_the_saddle_is_by_then() {
    let input = looked_at();
    let finding = crept(&input);
    let scale = height_scale(
        &input,
        crept_of(&input, &finding),
        HeightSchool::CreepUp,
        5.0,
    )
    .unwrap();
    let creep = of(&scale, "creep_up");
    assert_eq!(scale.schools[0].school, "creep_up");
    assert!((creep.value.unwrap() - finding.value.unwrap()).abs() < 1e-6);
    assert!((creep.high.unwrap() - creep.low.unwrap() - 2.0).abs() < 0.01);
    let mut moved = input.clone();
    moved.changes = vec![Change::to(Quantity::SaddleHeight, 730.0)];
    moved.setup = foresee(&moved).unwrap().setup;
    moved.changes.clear();
    let later = height_scale(
        &moved,
        crept_of(&input, &finding),
        HeightSchool::CreepUp,
        5.0,
    )
    .unwrap();
    assert!((of(&later, "creep_up").value.unwrap() - finding.value.unwrap()).abs() < 1e-6);
    // An end asks for something only where the saddle is beyond it.
    let trial = |bound: Bound, at: f64| {
        let end = Finding {
            says: Says::Nothing,
            bound: Some(bound),
            value: Some(at),
            ..finding.clone()
        };
        let scale =
            height_scale(&input, crept_of(&input, &end), HeightSchool::CreepUp, 5.0).unwrap();
        of(&scale, "creep_up")
            .trial
            .as_ref()
            .map(|t| t.title.clone())
    };
    let here = input.setup.saddle.saddle_height_mm.0;
    assert_eq!(
        trial(Bound::AtLeast, here + 12.0).as_deref(),
        Some("Saddle up 5")
    );
    assert_eq!(trial(Bound::AtLeast, here - 12.0), None);
    assert_eq!(trial(Bound::AtMost, here + 12.0), None);
    assert_eq!(
        trial(Bound::AtMost, here - 12.0).as_deref(),
        Some("Saddle down 5")
    );
}

#[test]
fn what_was_crept_up_to_goes_along_with_cranks_soles_cleats_and_setback() {
    let input = looked_at();
    let finding = crept(&input);
    let found = crept_of(&input, &finding).unwrap();
    let after = |change: &dyn Fn(&mut ForeseeInput)| {
        let mut input = input.clone();
        change(&mut input);
        let scale = height_scale(&input, Some(found), HeightSchool::CreepUp, 5.0).unwrap();
        let opinion = of(&scale, "creep_up").clone();
        // The other way round: there the knee is as it was.
        let mut there = input;
        there.changes = vec![Change::by(
            Quantity::SaddleHeight,
            opinion.value.unwrap() - scale.now,
        )];
        let after = foresee(&there).unwrap().after;
        let knee = Output::KneeAtFullReach.of(&after, Side::Right).unwrap();
        assert!((knee - found.knee_deg).abs() < 0.15, "{knee}");
        (opinion.value.unwrap() - finding.value.unwrap(), opinion)
    };
    let (none, opinion) = after(&|_| ());
    assert!(none.abs() < 1e-6);
    assert_eq!(opinion.words, "where it turned choppy, less 3 to 5 mm");
    // As the compensation that is offered for the same change: 7 for thicker soles, 5 for shorter cranks.
    let each = |change: &dyn Fn(&mut wedge_core::bike::Pedalling)| {
        after(&|input| {
            for side in Side::BOTH {
                change(input.setup.pedalling.of_mut(side));
            }
        })
    };
    let (soles, opinion) = each(&|p| p.sole_mm.0 += 6.0);
    assert!((soles - 7.0).abs() < 0.3, "{soles}");
    assert!(
        opinion
            .words
            .contains("higher since what is under the leg or the setback changed"),
        "{}",
        opinion.words
    );
    let (cranks, _) = each(&|p| p.crank_mm.0 -= 5.0);
    assert!((cranks - 5.0).abs() < 0.3, "{cranks}");
    let (cleats, _) = each(&|p| p.cleat_setback_mm.0 += 10.0);
    assert!((-7.0..=-3.0).contains(&cleats), "{cleats}");
    // Further back at the same straight height the sit reference is nearer the pedal at its farthest, by hand 1.0 mm:
    // (−228, 713) instead of (−213, 718) from (0, −172.5).
    let (back, _) = after(&|input| input.setup.saddle.setback_mm.0 += 15.0);
    assert!((0.5..2.5).contains(&back), "{back}");
    // The window goes along.
    assert!((opinion.high.unwrap() - opinion.low.unwrap() - 2.0).abs() < 0.01);
    // Calls that contradict say nothing of any leg.
    let contradicts = Finding {
        says: Says::Contradicts,
        ..finding.clone()
    };
    assert_eq!(crept_of(&input, &contradicts), None);
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(12) })]
    #[test]
    fn schools_do_not_depend_on_where_the_saddle_stands(
        height in 700.0..790.0_f64, stature in 1560.0..1980.0_f64,
    ) {
        let mut input = example::road();
        input.rider.body.stature_mm = Millimetres(stature);
        input.rider.body.inseam_mm = Some(Millimetres(0.475 * stature));
        input.setup.saddle.saddle_height_mm = Millimetres(0.42 * stature);
        // The foot as seen goes along: where the saddle stands does not change the rider.
        input.observed.pitch = Some(input.check().unwrap().observe_pitch());
        let first = heights(&input);
        // Along the post, so that nothing else moves.
        let raised = after(&input, &[Change::by(Quantity::SaddleHeight, height - 745.0)]).bike.sit;
        let mut other = input.clone();
        other.setup.saddle.place(raised);
        let second = heights(&other);
        for school in &first.schools {
            let there = of(&second, &school.school);
            prop_assert_eq!(school.value.is_some(), there.value.is_some());
            if let (Some(a), Some(b)) = (school.value, there.value) {
                prop_assert!((a - b).abs() < 0.1, "{} {} {}", school.label, a, b);
            }
        }
    }

    #[test]
    fn what_was_crept_up_to_is_carried_there_and_back(
        crank in 160.0..180.0_f64, sole in 4.0..14.0_f64, cleat in 0.0..25.0_f64, setback in 180.0..240.0_f64,
        shorter in 0.0..12.0_f64,
    ) {
        let mut input = looked_at();
        input.rider.legs.left.thigh_shorter_mm = Some(Millimetres(shorter));
        let finding = Finding { value: Some(745.0), low: Some(744.0), high: Some(746.0), ..crept(&input) };
        let mut other = input.clone();
        for side in Side::BOTH {
            let pedalling = other.setup.pedalling.of_mut(side);
            pedalling.crank_mm = Millimetres(crank);
            pedalling.sole_mm = Millimetres(sole);
            pedalling.cleat_setback_mm = Millimetres(cleat);
        }
        other.setup.saddle.setback_mm = Millimetres(setback);
        let says = |on: &ForeseeInput, crept: Option<Crept>| {
            let scale = height_scale(on, crept, HeightSchool::CreepUp, 5.0).unwrap();
            of(&scale, "creep_up").value.unwrap()
        };
        let there = says(&other, crept_of(&input, &finding));
        let carried = Finding { value: Some(there), ..finding };
        let back = says(&input, crept_of(&other, &carried));
        prop_assert!((back - 745.0).abs() < 0.15, "{there} {back}");
    }

    /// For legs that reach here without pointing the toes: those of under 397 mm hold the knee by them, whatever the saddle
    /// does.
    #[test]
    fn setbacks_do_not_depend_on_where_the_saddle_stands(back in -25.0..25.0_f64, thigh in 400.0..460.0_f64) {
        let mut input = looked_at();
        for side in Side::BOTH {
            input.rider.legs.of_mut(side).thigh_mm = Some(Millimetres(thigh));
        }
        let first = setbacks(&input, Landmark::Centre);
        let there = of(&first, "plumb").value.unwrap();
        // Along the rails with the post's answer, as a school moves it.
        let mut other = input.clone();
        other.changes = vec![Change::by(Quantity::Setback, back)];
        let offered = foresee(&other).unwrap().offers.into_iter().next();
        other.changes = offered.map_or(other.changes, |offer| offer.changes);
        other.setup = foresee(&other).unwrap().setup;
        other.changes.clear();
        let again = setbacks(&other, Landmark::Centre);
        let second = of(&again, "plumb").value.unwrap();
        // The post is offered in half millimetres, and taken to answer evenly, which far moves do not quite.
        let far = (there - first.now).abs().max((second - again.now).abs());
        prop_assert!((there - second).abs() < 0.5 + 0.03 * far, "{there} {second}");
    }

    #[test]
    fn a_plumb_line_moved_by_its_school_hangs_over_the_axle(setback in 185.0..240.0_f64) {
        let mut input = example::road();
        input.setup.saddle.setback_mm = Millimetres(setback);
        for landmark in Landmark::ALL {
            let scale = setbacks(&input, *landmark);
            let plumb = of(&scale, "plumb");
            let by = plumb.value.unwrap() - scale.now;
            // The school's own move: rails and post together, the knee at full reach kept.
            let knee = position(&input).unwrap().legs.right.knee.smallest_deg.0;
            let mut low = -40.0;
            let mut high = 40.0;
            for _ in 0..40 {
                let post = f64::midpoint(low, high);
                let there = after(&input, &[
                    Change::to(Quantity::Setback, plumb.value.unwrap()),
                    Change::by(Quantity::SaddleHeight, post),
                ]);
                if there.legs.right.knee.smallest_deg.0 > knee { low = post; } else { high = post; }
            }
            let there = after(&input, &[
                Change::to(Quantity::Setback, plumb.value.unwrap()),
                Change::by(Quantity::SaddleHeight, low),
            ]);
            let over = landmark.stands_for().output().of(&there, Side::Right).unwrap();
            // The post is taken to answer evenly, which far moves do not quite.
            prop_assert!(over.abs() < 0.2 + 0.025 * by.abs(), "{landmark:?} {over} after {by}");
        }
    }
}

#[test]
fn a_line_is_hung_from_where_it_is_handy_and_judged_by_what_it_stands_for() {
    let input = example::road();
    let of_landmark = |landmark| of(&setbacks(&input, landmark), "plumb").clone();
    let centre = of_landmark(Landmark::Centre);
    for handy in [Landmark::Tendon, Landmark::ShinBump] {
        let from = of_landmark(handy);
        assert!((from.value.unwrap() - centre.value.unwrap()).abs() < 1e-6);
        assert!(
            from.words.starts_with("knee centre over the axle"),
            "{}",
            from.words
        );
        assert!(from.words.contains("the line is"), "{}", from.words);
    }
    // A school that says kneecap means the kneecap: the saddle stands some 50 mm further back.
    let cap = of_landmark(Landmark::KneecapFront);
    let back = cap.value.unwrap() - centre.value.unwrap();
    assert!((45.0..=70.0).contains(&back), "{back}");
    assert!(cap.words.starts_with("front of the kneecap over the axle"));
    assert!(!cap.words.contains("the line is"));
    let lines = hung(&position(&input).unwrap());
    for line in lines {
        let itself = line.stands_for != "knee centre" || line.landmark == Landmark::Centre;
        assert_eq!(line.right_at_mm.right.abs() < 1e-9, itself, "{line:?}");
    }
}

#[test]
fn plumb_lines_hang_in_the_order_of_their_landmarks() {
    let now = position(&example::road()).unwrap();
    let lines = hung(&now);
    let over = |landmark: Landmark| {
        lines
            .iter()
            .find(|h| h.landmark == landmark)
            .unwrap()
            .over_axle_mm
            .right
    };
    // Front quarter: halfway from the knee's centre to the kneecap's front, along the same line.
    let middle = f64::midpoint(over(Landmark::Centre), over(Landmark::KneecapFront));
    assert!((over(Landmark::FrontQuarter) - middle).abs() < 1e-9);
    assert_eq!(lines.len(), Landmark::ALL.len());
}

#[test]
fn a_line_that_was_measured_wins_over_the_linkage() {
    let input = example::road();
    let plan = Plumb {
        landmark: Landmark::Centre,
    };
    let now = position(&input).unwrap();
    let foreseen = |side| Output::KneeOverAxle.of(&now, side).unwrap();
    // Measured 6 ahead of foreseen on the left and 10 ahead on the right: both knees hang further forward.
    let drops = |side: Side, more: f64| [-1.0, 0.0, 1.0].map(|d| foreseen(side) + more + d);
    let call = |ask: String, answer: Answer| Call { ask, answer };
    let mut calls = Vec::new();
    for (side, more) in [(Side::Right, 10.0), (Side::Left, 6.0)] {
        calls.push(call(
            format!("{}.ready", side.word()),
            Answer::Key("Enter".to_owned()),
        ));
        for (index, drop) in drops(side, more).into_iter().enumerate() {
            calls.push(call(
                format!("{}.{}", side.word(), index + 1),
                Answer::Number(drop),
            ));
        }
    }
    let run = RunPlan::Plumb(plan);
    let on = tried(&input);
    let found = |calls: &[Call]| {
        let run = Run {
            plan: &run,
            on,
            calls,
            stopped: true,
            order: &[],
        };
        guide(&run).finding.unwrap()
    };
    let measured = measured_of(&plan, &input, &found(&calls)).unwrap();
    assert!((measured.more_mm.left.unwrap() - 6.0).abs() < 1e-9);
    assert!((measured.more_mm.right.unwrap() - 10.0).abs() < 1e-9);
    let intake = Intake::default();
    let says = |plumb, landmark| {
        let evidence = SetbackEvidence {
            plumb,
            ..evidence(&intake, None, None)
        };
        let scale =
            setback_scale(&input, &evidence, (SetbackSchool::Plumb, landmark), 5.0).unwrap();
        of(&scale, "plumb").clone()
    };
    let (bare, hung) = (
        says(None, Landmark::Centre),
        says(Some(measured), Landmark::Centre),
    );
    // The school asks for 8 mm more: from the other side, there the linkage foresees the knees 8 mm behind the axle.
    let there = after(
        &input,
        &[Change::to(Quantity::Setback, hung.value.unwrap())],
    );
    let knees = f64::midpoint(
        Output::KneeOverAxle.of(&there, Side::Left).unwrap(),
        Output::KneeOverAxle.of(&there, Side::Right).unwrap(),
    );
    assert!((knees + 8.0).abs() < 0.6, "{knees}");
    assert!(hung.value.unwrap() > bare.value.unwrap() + 6.0);
    // It is no estimate any more, as good as the drops, and the legs are shown apart.
    assert!(bare.estimated && !hung.estimated);
    assert!((hung.band.unwrap() - 1.0).abs() < 1e-9, "{hung:?}");
    assert!(hung.sides.is_some() && hung.words.contains("as the line measured it"));
    // Another landmark was not measured; one side alone leaves the other to the linkage.
    assert_eq!(
        says(Some(measured), Landmark::Tendon),
        says(None, Landmark::Tendon)
    );
    let alone = measured_of(&plan, &input, &found(&calls[..4])).unwrap();
    assert_eq!(alone.more_mm.left, None);
    assert!(says(Some(alone), Landmark::Centre).estimated);
    // A drop far from its siblings is asked about, not built on; nothing measured is nothing.
    let mut odd = calls.clone();
    odd[3].answer = Answer::Number(foreseen(Side::Right) + 60.0);
    assert_eq!(measured_of(&plan, &input, &found(&odd)), None);
    assert_eq!(measured_of(&plan, &input, &found(&[])), None);
    assert_eq!(plan.sightings(&found(&odd)), []);

    // The model may be fitted to it like to anything seen: the knees hang nearer the line, and surer.
    assert_eq!(
        measured.off_the_model().as_deref(),
        Some(
            "The line hung 6 mm further ahead left, 10 mm further ahead right than the model has it: fitted to it, \
             board and map go by the line"
        )
    );
    let close = PlumbMeasured {
        more_mm: Sides::both(Some(-4.0)),
        ..measured
    };
    assert_eq!(close.off_the_model(), None);
    let look = Look::of(input.setup, plan.sightings(&found(&calls)));
    assert_eq!(look.seen.len(), 2);
    let mut fitted = input.clone();
    fitted.fit = Some(calibrate(&input, &[look]).unwrap().fit);
    let left = measured_of(&plan, &fitted, &found(&calls)).unwrap().more_mm;
    for side in Side::BOTH {
        let (was, is) = (measured.more_mm.of(side), left.of(side));
        assert!(is.unwrap().abs() < was.unwrap() / 2.0, "{left:?}");
    }
}

#[test]
fn setback_is_told_what_a_high_saddle_and_a_hill_do_to_it() {
    let mut input = known(&example::road());
    let told =
        |input: &ForeseeInput| crate::ask::trying(input, |t| setback_advice(t, Landmark::Centre));
    // 8 % is 4.574°: a saddle about 718 above the BB is felt 718 sin 4.574° less 213 (1 − cos) = 57 − 1 mm further back.
    assert_eq!(told(&input).len(), 1);
    assert!(
        told(&input)[0].contains("8 % the saddle is felt 5"),
        "{:?}",
        told(&input)
    );
    input.setup.saddle.saddle_height_mm = Millimetres(775.0);
    input.setup.saddle.setback_mm = Millimetres(260.0);
    assert!(told(&input)[0].starts_with("A high saddle holds the knee back"));
}

#[test]
fn setback_is_shown_apart_for_unequal_legs_and_forward_not_to_a_sore_knee() {
    let mut input = example::road();
    input.rider.legs.left.thigh_shorter_mm = Some(Millimetres(15.0));
    let scale = setbacks(&input, Landmark::KneecapFront);
    let plumb = of(&scale, "plumb");
    let sides = plumb.sides.unwrap();
    // The shorter thigh's knee is further back: its line wants the saddle further forward.
    assert!(sides.left < sides.right - 4.0, "{sides:?}");
    assert!(plumb.words.contains("can suit only one"));
    let forward = of(&scale, "forward");
    assert_eq!(forward.bound, Some(Bound::AtLeast));
    let sore = complaining(&[Place::KneeFront]);
    let scale = setback_scale(
        &input,
        &evidence(&sore, None, None),
        (SetbackSchool::Balance, Landmark::Centre),
        5.0,
    )
    .unwrap();
    assert_eq!(of(&scale, "forward").value, None);
    assert!(
        of(&scale, "forward")
            .words
            .starts_with("Not while the front of the knee hurts")
    );
    assert!(
        of(&scale, "balance")
            .words
            .starts_with("Ride the balance test first")
    );
    assert!(
        of(&scale, "sharing")
            .words
            .starts_with("Sweep the rails first")
    );
}

#[test]
fn setback_chosen_as_an_angle_is_shown_as_one() {
    let mut input = example::time_trial();
    input.conventions.setback = Convention::SetbackSeatAngle;
    let scale = setbacks(&input, Landmark::Centre);
    assert_eq!(scale.unit, wedge_core::measure::Unit::Deg);
    let plumb = of(&scale, "plumb");
    assert!(
        plumb.low.unwrap() < plumb.value.unwrap() && plumb.value.unwrap() < plumb.high.unwrap()
    );
}

#[test]
fn the_gate_names_what_comes_before_setback() {
    let check = |input: &ForeseeInput, paths: Option<Sides<Option<KneePath>>>| {
        let cleats = Sides::from_fn(|side| cleat_scale(input, side, CleatSchool::Size));
        let ladders = ladders(input, &paths.unwrap_or(Sides::both(None)));
        gate(input, &cleats, (paths.is_some(), &ladders))
    };
    let right =
        |items: &[wedge_core::school::GateItem]| items.iter().map(|i| i.right).collect::<Vec<_>>();
    // Nobody has looked at anything: height and front are known from the position alone.
    let mut input = example::road();
    input.setup.saddle.saddle_height_mm = Millimetres(741.0);
    let bare = check(&input, None);
    let labels: Vec<&str> = bare.iter().map(|i| i.label.as_str()).collect();
    assert_eq!(
        labels,
        [
            "Saddle height",
            "Cleats",
            "Stance",
            "Arch support",
            "Front, roughly"
        ]
    );
    assert_eq!(
        right(&bare),
        [
            Right::Yes,
            Right::Unknown,
            Right::Unknown,
            Right::Unknown,
            Right::Yes
        ],
        "{bare:?}"
    );
    // Everything measured and right: size 42 wants 15 behind the joint.
    for side in Side::BOTH {
        let leg = input.rider.legs.of_mut(side);
        leg.shoe_size_eu = Some(wedge_core::units::Size(42.0));
        leg.arch_height_mm = Some(Millimetres(30.0));
        input.setup.pedalling.of_mut(side).cleat_setback_mm = Millimetres(15.0);
    }
    let straight = Some(Sides::both(Some(KneePath::Straight)));
    assert_eq!(right(&check(&input, straight)), [Right::Yes; 5]);
    // Everything wrong, on a rider who was looked at.
    let mut input = known(&input);
    input.setup.saddle.saddle_height_mm = Millimetres(790.0);
    input.frame.frame_reach_mm = Millimetres(460.0);
    input.setup.pedalling.left.cleat_setback_mm = Millimetres(5.0);
    input.rider.legs.left.arch_height_mm = Some(Millimetres(12.0));
    let inward = Some(Sides {
        left: Some(KneePath::InPushing),
        right: Some(KneePath::Straight),
    });
    let wrong = check(&input, inward);
    assert_eq!(right(&wrong), [Right::No; 5], "{wrong:?}");
    assert_eq!(wrong[1].words, "left 10 mm too far forward");
    assert!(
        wrong[2]
            .words
            .contains("the left knee was seen: in while pushing")
    );
}

/// The road bike with its post and rails known: inline post, 60 mm of rail.
fn on_rails() -> ForeseeInput {
    let mut input = example::road();
    input.setup.post.post_setback_mm = Some(Millimetres(20.0));
    input.setup.post.post_length_mm = Some(Millimetres(350.0));
    input.setup.post.post_insertion_mm = Some(Millimetres(80.0));
    input.setup.saddle.rail_mm = Some(Millimetres(60.0));
    input
}

#[test]
fn the_perch_tells_its_room_and_the_part_that_would_do() {
    let input = on_rails();
    let room = perch_room(&input);
    let (back, forward) = (room.back_mm.unwrap(), room.forward_mm.unwrap());
    // All the rail there is is left either way.
    assert!((back + forward - 60.0).abs() < 1e-9);
    assert!(room.up_mm.unwrap() > 0.0 && room.down_mm > 0.0);
    let now = 212.8;
    let near = setback_parts(&input, now + back - 2.0).unwrap();
    assert!(near.reached && near.options.is_empty(), "{near:?}");
    // 15 mm past the front of the rails: a post without setback gives 20 of them.
    let far = setback_parts(&input, now - forward - 15.0).unwrap();
    assert!(
        !far.reached && far.words.starts_with("The rails end 15 mm before"),
        "{far:?}"
    );
    let does: Vec<&str> = far
        .options
        .iter()
        .filter(|o| o.does)
        .map(|o| o.label.as_str())
        .collect();
    assert_eq!(does, ["Post without setback"], "{far:?}");
    let step = far.options[0].trial.as_ref().unwrap();
    let there = after(&input, &step.changes);
    assert!((-there.bike.sit.x - (now - forward - 15.0)).abs() < 1e-6);
    assert!(
        there.clearances.perch.words.is_empty(),
        "{:?}",
        there.clearances.perch
    );
    assert_eq!(far.options.last().unwrap().label, "A short-nosed saddle");
    // A post that lies in the box and does it comes first, and says so.
    let own = |setback: f64, on_hand: u32| {
        Part::new(PartKind::Post, on_hand, &[(Quantity::PostSetback, setback)])
    };
    let ride = input.check().unwrap();
    let wanted = now - forward - 15.0;
    let boxed = |parts: &[Part]| {
        wedge_core::solve::setback_parts(&Trying::of(&ride), wanted, parts).unwrap()
    };
    assert_eq!(
        boxed(&[own(2.0, 1)]).options[0].label,
        "Post with 2 mm setback, on hand"
    );
    assert_eq!(
        boxed(&[own(2.0, 0)]).options[0].label,
        "Post without setback"
    );
    // Out of every post's reach: how much each leaves.
    let beyond = setback_parts(&input, now + back + 60.0).unwrap();
    assert!(beyond.options.iter().all(|o| !o.does), "{beyond:?}");
    assert!(beyond.options.iter().any(|o| o.words.starts_with("still ")));
    // Nothing typed in: it says so instead of guessing.
    let mut bare = input.clone();
    bare.setup.saddle.rail_mm = None;
    let unknown = setback_parts(&bare, 180.0).unwrap();
    assert!(unknown.options.is_empty() && unknown.words.contains("not known"));
}

#[test]
fn another_saddle_leaves_the_rider_where_they_sit() {
    let input = on_rails();
    let new = OtherSaddle {
        saddle_stack_mm: Some(Millimetres(52.0)),
        saddle_width_mm: Some(Millimetres(143.0)),
        saddle_length_mm: Some(Millimetres(245.0)),
        nose_to_sit_mm: Some(Millimetres(120.0)),
        rail_middle_mm: Some(Millimetres(22.0)),
        rail_mm: None,
    };
    let step = swap(&input, &new).unwrap();
    let there = after(&input, &step.changes);
    let before = position(&input).unwrap();
    assert!(there.bike.sit.distance(before.bike.sit) < 1e-6);
    // 7 mm more stack: the post goes down by about that, and the rails by the 12 mm the saddle sits elsewhere.
    let by = |quantity| {
        step.changes
            .iter()
            .find(|c| c.quantity == quantity)
            .and_then(|c| c.by)
            .unwrap()
    };
    assert!(
        (-8.5..-6.5).contains(&by(Quantity::SaddleHeight)),
        "{step:?}"
    );
    assert!((-16.0..-8.0).contains(&by(Quantity::Setback)), "{step:?}");
    assert!(swap(&input, &OtherSaddle::default()).is_err());
    let wrong = OtherSaddle {
        saddle_stack_mm: Some(Millimetres(400.0)),
        ..OtherSaddle::default()
    };
    assert_eq!(
        swap(&input, &wrong).unwrap_err()[0].pointer,
        "/saddle_stack_mm"
    );
}

#[test]
fn every_line_of_the_map_lies_where_the_linkage_says() {
    let input = on_rails();
    let map = saddle_map(&input);
    assert!((map.now.setback - 212.8).abs() < 1e-9 && (map.now.height - 749.1).abs() < 1e-9);
    let knees: Vec<f64> = map
        .lines
        .iter()
        .filter(|l| l.output == Output::KneeAtFullReach)
        .map(|l| l.value)
        .collect();
    assert!(knees.contains(&35.0) && knees.contains(&40.0), "{knees:?}");
    for (output, within) in [
        (Output::KneeAtFullReach, 0.1),
        (Output::KneeOverAxle, 0.3),
        (Output::HipClosed, 0.1),
        (Output::Drop, 0.1),
    ] {
        let lines: Vec<_> = map.lines.iter().filter(|l| l.output == output).collect();
        assert!(lines.len() >= 2, "{output:?}");
        for line in lines {
            for [setback, height] in line.pieces.iter().flatten().step_by(5) {
                let there = after(
                    &input,
                    &[
                        Change::to(Quantity::SaddleHeight, *height),
                        Change::to(Quantity::Setback, *setback),
                    ],
                );
                let value = output.of(&there, Side::Right).unwrap();
                assert!(
                    (value - line.value).abs() < within,
                    "{output:?} {value} {}",
                    line.label
                );
            }
        }
    }
    // The corners of what is reached are at the rails' ends.
    let corners = map.reachable.unwrap();
    let back = corners
        .iter()
        .map(|c| c[0])
        .fold(f64::NEG_INFINITY, f64::max);
    assert!(back > 212.8 && corners.len() == 16);
    let mut bare = input.clone();
    bare.setup.saddle.rail_mm = None;
    assert!(saddle_map(&bare).reachable.is_none());
    // A trial's place is read in the map's own conventions.
    let mut tried = input.setup;
    tried.saddle.setback_mm = Millimetres(200.0);
    assert!((spot(&input, &tried).unwrap().setback - 200.0).abs() < 1e-9);
}

#[test]
fn lines_of_the_map_end_where_a_leg_no_longer_gets_round_as_it_does() {
    let legs = |map: &SaddleMap| -> Vec<[f64; 2]> {
        let of_legs = map.lines.iter().filter(|l| l.output != Output::Drop);
        of_legs.flat_map(|l| l.pieces.concat()).collect()
    };
    let low = on_rails();
    let within = saddle_map(&low);
    assert!(!within.reach_words.contains("Lines end"));
    let mut high = looked_at();
    high.setup.saddle.saddle_height_mm = Millimetres(790.0);
    let map = saddle_map(&high);
    assert!(
        map.reach_words.contains("Lines end where a leg"),
        "{}",
        map.reach_words
    );
    let points = legs(&map);
    assert!(points.len() > 50);
    for [setback, height] in points.iter().step_by(7) {
        let to = [
            Change::to(Quantity::SaddleHeight, *height),
            Change::to(Quantity::Setback, *setback),
        ];
        let there = after(&high, &to);
        for side in Side::BOTH {
            assert_eq!(
                there.legs.of(side).reach,
                Reach::Within,
                "{setback} {height}"
            );
        }
    }
    // The drop goes on, and where nobody rides at all it is all there is.
    let drops = map.lines.iter().filter(|l| l.output == Output::Drop);
    assert!(drops.flat_map(|l| l.pieces.concat()).count() > 50);
    high.setup.saddle.saddle_height_mm = Millimetres(900.0);
    assert!(legs(&saddle_map(&high)).is_empty());
}

#[test]
fn a_map_of_a_rider_nobody_can_fit_and_of_an_angle() {
    let mut input = example::time_trial();
    input.conventions.setback = Convention::SetbackSeatAngle;
    let map = saddle_map(&input);
    assert_eq!(map.setback.convention, Convention::SetbackSit);
    let mut far = example::road();
    far.setup.saddle.saddle_height_mm = Millimetres(1000.0);
    far.setup.saddle.setback_mm = Millimetres(400.0);
    assert!(saddle_map(&far).now.height > 990.0);
}

/// The strongest causes of each place felt at the bottom of the stroke, as the trade tells them.
const LINKS: &[(&[Place], usize, &[Fault])] = &[
    (
        &[Place::KneeFront],
        6,
        &[Fault::SetbackForward, Fault::Load],
    ),
    (
        &[Place::KneeBehind],
        3,
        &[Fault::HeightHigh, Fault::SetbackBack],
    ),
    (&[Place::KneeInside], 7, &[Fault::TurnIn, Fault::TurnOut]),
    (&[Place::LowBack], 7, &[Fault::BarsLow, Fault::ReachFar]),
    (&[Place::HipFront], 4, &[Fault::CrankLong, Fault::HeightLow]),
    (
        &[Place::Neck],
        3,
        &[Fault::ReachFar, Fault::BarsLow, Fault::BarWidthWide],
    ),
    (
        &[Place::ShoulderBlades],
        2,
        &[Fault::ReachFar, Fault::BarsLow],
    ),
    (
        &[Place::Shoulder],
        4,
        &[Fault::ReachFar, Fault::BarWidthWide],
    ),
    (&[Place::Elbow], 3, &[Fault::ReachFar]),
    (&[Place::Hand], 10, &[Fault::Dip, Fault::SetbackForward]),
    (&[Place::Wrist], 5, &[Fault::LeversLow, Fault::LeversHigh]),
    (&[Place::FootBall], 3, &[Fault::CleatForward, Fault::Shoe]),
    (&[Place::Calf, Place::Achilles], 3, &[Fault::CleatForward]),
    (
        &[Place::ThighBack],
        2,
        &[Fault::SetbackBack, Fault::HeightHigh],
    ),
    (
        &[Place::ThighFront],
        3,
        &[Fault::SetbackForward, Fault::HeightLow],
    ),
    (&[Place::Head, Place::Chest], 0, &[]),
];

#[test]
fn each_complaint_has_its_links_and_what_would_settle_them() {
    let mut input = example::road();
    input.setup.saddle.saddle_height_mm = Millimetres(768.0);
    let cleats = Sides::from_fn(|side| cleat_scale(&input, side, CleatSchool::Size));
    let notes = SaddleNotes::default();
    let facts = CauseFacts {
        cleats: &cleats,
        saddle: &notes,
        landmark: Landmark::Centre,
        signs: &[Told {
            seen: SignSeen {
                sign: Sign::KneeSweptIn,
                side: Some(Side::Left),
                there: Some(true),
            },
            easy: false,
        }],
        findings: &[],
    };
    for (places, many, faults) in LINKS {
        for place in *places {
            let all = causes(&input, &complaining(&[*place]), &facts);
            let linked: Vec<Fault> = all[0].links.iter().map(|l| l.fault).collect();
            assert_eq!(linked.len(), *many, "{place:?}");
            // What the position itself speaks against comes last.
            let free = all[0].links.iter().filter(|l| l.contradicted.is_none());
            let free: Vec<Fault> = free.map(|l| l.fault).collect();
            let strongest: Vec<Fault> = (faults.iter().copied())
                .filter(|fault| free.contains(fault))
                .collect();
            assert!(free.starts_with(&strongest), "{place:?}: {free:?}");
            let often: Vec<usize> = (all[0].links.iter().filter(|l| l.contradicted.is_none()))
                .map(|l| HowOften::ALL.iter().position(|h| *h == l.often).unwrap())
                .collect();
            assert!(
                often.is_sorted(),
                "{place:?}: the ones that hold most often first"
            );
        }
    }
    let behind = &causes(&input, &complaining(&[Place::KneeBehind]), &facts)[0];
    let high = &behind.links[0];
    assert_eq!(high.station, Station::SaddleHeight);
    assert!(high.settles.starts_with("Creep up"));
    // What is known here: where in the stroke, and both knees, since no side was named.
    assert!(high.here[0].contains("at the bottom"), "{:?}", high.here);
    assert!(
        high.here.iter().filter(|h| h.contains("knee 2")).count() == 2,
        "{:?}",
        high.here
    );
    let crept = crept(&example::road());
    let with = CauseFacts {
        findings: std::slice::from_ref(&crept),
        ..facts
    };
    let again = causes(&input, &complaining(&[Place::KneeBehind]), &with);
    assert!(
        again[0].links[0]
            .here
            .iter()
            .any(|h| h.starts_with("creep up: saddle to"))
    );
    // One that was broken off says nothing, here neither.
    let broken = Finding {
        says: Says::Broken,
        ..crept.clone()
    };
    let with = CauseFacts {
        findings: &[crept.clone(), broken],
        ..facts
    };
    assert_eq!(
        causes(&input, &complaining(&[Place::KneeBehind]), &with),
        again
    );
    // How a knee goes is told where it was seen, of every fault that it may come from.
    let inside = &causes(&input, &complaining(&[Place::KneeInside]), &facts)[0];
    let turned = inside
        .links
        .iter()
        .find(|l| l.fault == Fault::TurnIn)
        .unwrap();
    assert_eq!(turned.here, ["knee swept in, left"]);
    assert!(inside.links.iter().any(|l| l.label == "The other hip dips"));
    // Every place of the body has an answer, with links or without.
    for place in Place::ALL {
        let all = causes(&input, &complaining(&[*place]), &facts);
        assert!(!all[0].words.is_empty());
        assert!(
            all[0]
                .links
                .iter()
                .all(|l| !l.settles.is_empty() && !l.speaks_for.is_empty())
        );
    }
}

#[test]
fn the_saddle_itself_is_asked_about() {
    let input = example::road();
    let say = |notes: SaddleNotes, places: &[Place], pelvis: Option<PelvisSeen>| {
        let mut input = input.clone();
        input.rider.pelvis.sits_forward_mm = notes.sits_forward();
        if notes.rubs.is_some() {
            input.setup.saddle.saddle_width_mm = Some(Millimetres(155.0));
        }
        saddle_advice(&input, &notes, &complaining(places), pelvis)
    };
    let none = SaddleNotes::default();
    assert!(say(none, &[], None).is_empty());
    assert!(say(none, &[Place::Saddle], None)[0].contains("has the saddle any relief"));
    assert!(say(none, &[Place::Seat], None)[0].contains("how wide is the saddle"));
    let told = say(
        SaddleNotes {
            relief: Some(Relief::None),
            nose: Some(Nose::Short),
            shuffles: Some(YesNo::Yes),
            rubs: Some(YesNo::Yes),
            aside: Some(YesNo::Yes),
            sits_ahead_mm: Some(25.0),
        },
        &[Place::Saddle],
        None,
    );
    for part in [
        "no relief",
        "to one side",
        "155 mm is wide",
        "Rubs",
        "shuffling",
        "Short nose",
        "25 mm ahead",
    ] {
        assert!(told.iter().any(|t| t.contains(part)), "{part} in {told:?}");
    }
    // 25 mm ahead along 73.5°: the leg's job shrinks, so for the knee the saddle is lower by some millimetres.
    assert!(told.iter().any(|t| t.contains("mm lower")), "{told:?}");
    assert!(
        say(none, &[], Some(PelvisSeen::SlidesForward))[0].contains("5 mm of effective height")
    );
    let bad = SaddleNotes {
        sits_ahead_mm: Some(500.0),
        ..none
    };
    assert_eq!(bad.refusals("").len(), 1);
}
