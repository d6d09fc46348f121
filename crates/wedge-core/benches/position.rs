//! One whole position without and with bands; whole foresights of changes; one calibration; the schools.

use criterion::{Criterion, criterion_group, criterion_main};
use std::hint::black_box;
use wedge_core::bike::{Frame, Kind, Part, PartKind, ordinary_parts};
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Look, Sighting, Trying, calibrate, foresee};
use wedge_core::intake::Intake;
use wedge_core::judge::{Case, judge};
use wedge_core::measure::{Method, Output, Quantity};
use wedge_core::next::{OnOffer, PartLimits, choose};
use wedge_core::position::{Landmark, Ride};
use wedge_core::school::{
    CleatSchool, CrankSchool, HeightSchool, SetbackEvidence, SetbackSchool, cleat_scale,
    crank_scale, height_scale, setback_scale,
};
use wedge_core::solve::{Aim, Arc, front_ends, intents, saddle_map};
use wedge_core::trial::Crept;
use wedge_core::units::{Degrees, Millimetres, Side};

/// The examples are in range.
fn ride(input: &ForeseeInput) -> Ride {
    let Ok(ride) = input.check() else {
        unreachable!("the bench asks of riders in range");
    };
    ride
}

fn benches(c: &mut Criterion) {
    let still = example::road();
    let on = ride(&still);
    c.bench_function("one position, without bands", |b| {
        b.iter(|| black_box(&on).position());
    });
    let mut unlike = example::road();
    unlike.rider.legs.left.shank_shorter_mm = Some(Millimetres(8.0));
    let uneven = ride(&unlike);
    c.bench_function("one position, legs unlike", |b| {
        b.iter(|| black_box(&uneven).position());
    });
    unlike
        .changes
        .push(Change::by(Quantity::SaddleHeight, -6.0));
    c.bench_function("foresee a saddle change, legs unlike", |b| {
        b.iter(|| foresee(black_box(&unlike)));
    });
    c.bench_function("one position, with bands", |b| {
        b.iter(|| foresee(black_box(&still)));
    });
    let mut changed = example::road();
    changed
        .changes
        .push(Change::by(Quantity::SaddleHeight, -6.0));
    c.bench_function("foresee a saddle change", |b| {
        b.iter(|| foresee(black_box(&changed)));
    });
    let mut linked = example::road();
    linked.changes.push(Change::to(Quantity::Crank, 170.0));
    c.bench_function("foresee a crank with its compensation", |b| {
        b.iter(|| foresee(black_box(&linked)));
    });
}

/// A first look of ten angles on film, both sides where there are two, at a rider with a longer thigh.
fn calibration(c: &mut Criterion) {
    let measured = example::road();
    let mut hidden = measured.clone();
    for side in Side::BOTH {
        let thigh = hidden.rider.lengths().legs.of(side).thigh.value_mm;
        hidden.rider.legs.of_mut(side).thigh_mm = Some(thigh + Millimetres(14.0));
    }
    let truth = ride(&hidden).position();
    let seen = [
        Output::KneeAtFullReach,
        Output::KneeForward,
        Output::KneeMostBent,
        Output::HipClosed,
        Output::AnkleSmallest,
        Output::FootAtTop,
        Output::FootForward,
        Output::FootAtBottom,
        Output::Torso,
        Output::Shoulder,
    ]
    .into_iter()
    .flat_map(|output| Side::BOTH.map(|side| (output, side)))
    .filter_map(|(output, side)| {
        Some(Sighting {
            output,
            side: output.spec().per_side.then_some(side),
            value: output.of(&truth, side)?,
            method: Method::Film,
            spread: None,
        })
    })
    .collect();
    let looks = [Look {
        setup: measured.setup,
        hands: None,
        seen,
        weeks: 0.0,
        visit: 0,
    }];
    let on = ride(&measured);
    c.bench_function("calibrate one rider", |b| {
        b.iter(|| calibrate(black_box(&on), black_box(&looks)));
    });
    let mut fitted = measured.clone();
    fitted.fit = calibrate(&on, &looks).ok().map(|c| c.fit);
    fitted
        .changes
        .push(Change::by(Quantity::SaddleHeight, -6.0));
    c.bench_function("foresee a saddle change, calibrated", |b| {
        b.iter(|| foresee(black_box(&fitted)));
    });
}

fn schools(c: &mut Criterion) {
    let mut input = example::road();
    for side in Side::BOTH {
        input.rider.legs.of_mut(side).hip_limit_deg = Some(Degrees(118.0));
        input.rider.legs.of_mut(side).knee_limit_deg = Some(Degrees(113.0));
    }
    let on = ride(&input);
    let trying = Trying::of(&on);
    c.bench_function("schools of one cleat", |b| {
        b.iter(|| cleat_scale(black_box(&trying), Side::Left, CleatSchool::Midway));
    });
    c.bench_function("schools of the crank, function solved", |b| {
        b.iter(|| crank_scale(black_box(&trying), None, CrankSchool::Function));
    });
    c.bench_function("another crank by five intents", |b| {
        b.iter(|| intents(black_box(&trying), 167.5));
    });
}

fn saddle(c: &mut Criterion) {
    let mut input = example::road();
    // Long toes and unequal legs: both legs are solved, and the schools are far enough apart to be explained.
    for side in Side::BOTH {
        input.rider.pitch.of_mut(side).mean_deg = Degrees(32.0);
    }
    input.rider.legs.left.shank_shorter_mm = Some(Millimetres(8.0));
    let intake = Intake::default();
    let evidence = SetbackEvidence {
        plumb: None,
        balance: None,
        sweep: None,
        intake: &intake,
    };
    // Crept up to on other cranks: carried by the linkage too.
    let crept = Some(Crept {
        straight_mm: 745.0,
        window_mm: (-1.0, 1.0),
        knee_deg: 38.0,
        spread_mm: Some(0.8),
        bound: None,
    });
    let on = ride(&input);
    let trying = Trying::of(&on);
    c.bench_function("schools of saddle height, solved and explained", |b| {
        b.iter(|| height_scale(black_box(&trying), crept, HeightSchool::KneeMoving, 5.0));
    });
    c.bench_function("schools of setback, solved", |b| {
        b.iter(|| {
            setback_scale(
                black_box(&trying),
                &evidence,
                (SetbackSchool::Plumb, Landmark::KneecapFront),
                5.0,
            )
        });
    });
    c.bench_function("map of the saddle", |b| {
        b.iter(|| saddle_map(black_box(&trying)));
    });
}

/// A box of stems and spacers, and bars beside the one on the bike.
fn parts_box(stems: u32, bars: u32) -> Vec<Part> {
    let stem = |n: u32| {
        let (length, angle) = (50.0 + f64::from(n % 80), f64::from(n / 80) * 3.0 + 1.0);
        Part::new(
            PartKind::Stem,
            1,
            &[(Quantity::Stem, length), (Quantity::StemAngle, angle)],
        )
    };
    let bar = |n: u32| {
        let sizes = [
            (Quantity::BarWidth, 400.0),
            (Quantity::BarReach, 70.0 + f64::from(n)),
            (Quantity::BarDrop, 125.0),
        ];
        Part::new(PartKind::Bar, 1, &sizes)
    };
    let spacer = |height| Part::new(PartKind::Spacer, 4, &[(Quantity::Spacer, height)]);
    (0..stems)
        .map(stem)
        .chain((0..bars).map(bar))
        .chain([2.5, 5.0, 10.0].map(spacer))
        .chain(ordinary_parts())
        .collect()
}

fn front(c: &mut Criterion) {
    let mut input = example::road();
    input.frame.steerer_mm = Some(Millimetres(227.5));
    let on = ride(&input);
    let trying = Trying::of(&on);
    let mut target = trying.before.bike.hand;
    target.x -= 21.0;
    target.y += 6.0;
    let aim = Aim::at(target, Arc::of(&on, &trying.before));
    for (stems, bars) in [(4, 0), (90, 0), (240, 3)] {
        let parts = parts_box(stems, bars);
        let looked_at = front_ends(&trying, &aim, &parts).looked_at;
        c.bench_function(&format!("front ends, {looked_at} looked at"), |b| {
            b.iter(|| front_ends(black_box(&trying), &aim, &parts));
        });
    }
}

/// A fit with sixty witnesses, most of them silent.
fn judging(c: &mut Criterion) {
    let evidence = [
        ("angle", r#""output": "knee", "value": 29"#),
        ("angle", r#""output": "plumb", "value": 14"#),
        ("angle", r#""output": "torso", "value": 38"#),
        ("angle", r#""output": "shoulder", "value": 84"#),
        (
            "school",
            r#""axis": "height", "name": "heel", "at": -6, "spread": 12"#,
        ),
        (
            "school",
            r#""axis": "setback", "name": "plumb", "at": 9, "spread": 12"#,
        ),
        ("complaint", r#""place": "neck", "how_bad": 6"#),
        (
            "complaint",
            r#""place": "hand", "how_bad": 4, "side": "left""#,
        ),
        ("seen", r#""what": "hips_rock""#),
        ("seen", r#""what": "elbows_locked""#),
        ("seen", r#""what": "shoulders_drawn_forward""#),
        ("limit", r#""joint": "hip", "margin": 3"#),
    ];
    let told = evidence.map(|(kind, rest)| format!(r#"{{ "kind": "{kind}", {rest} }}"#));
    let text = format!(r#"{{ "evidence": [{}] }}"#, told.join(", "));
    let Ok(case) = serde_json::from_str::<Case>(&text) else {
        unreachable!("the bench asks of a case that reads");
    };
    c.bench_function("the judge, sixty witnesses", |b| {
        b.iter(|| judge(black_box(&case)));
    });
}

/// Two thousand frames around the example's: reach, stack, head and seat angle each in steps.
fn frames() -> Vec<Frame> {
    let base = example::road().frame;
    let steps =
        |count: u32, step: f64| move |n: u32| (f64::from(n % count) - f64::from(count / 2)) * step;
    let (reach, stack) = (steps(10, 8.0), steps(10, 14.0));
    let (head, seat) = (steps(5, 0.5), steps(4, 0.4));
    (0..2000)
        .map(|n| {
            let mut frame = base;
            frame.frame_reach_mm.0 += reach(n);
            frame.frame_stack_mm.0 += stack(n / 10);
            frame.head_angle_deg.0 += head(n / 100);
            frame.seat_angle_deg.0 += seat(n / 500);
            frame
        })
        .collect()
}

/// Choosing among two thousand frames, and choosing again once a part is limited.
fn frames_ranked(c: &mut Criterion) {
    let on = ride(&example::road());
    let trying = Trying::of(&on);
    let frames = frames();
    let offers: Vec<OnOffer> = (frames.iter())
        .map(|frame| OnOffer {
            name: "Weir",
            kind: Kind::Road,
            frame,
        })
        .collect();
    let parts = ordinary_parts();
    let limited = PartLimits {
        longest_stem_mm: 110.0,
        most_spacers_mm: 20.0,
        ..PartLimits::default()
    };
    for (name, limits) in [
        ("2,000 frames ranked", PartLimits::default()),
        ("2,000 frames ranked anew, parts limited", limited),
    ] {
        c.bench_function(name, |b| {
            b.iter(|| {
                choose(
                    black_box(&trying),
                    trying.before_setup(),
                    &offers,
                    &limits,
                    &parts,
                )
            });
        });
    }
}

criterion_group!(
    positions,
    benches,
    calibration,
    schools,
    saddle,
    front,
    frames_ranked,
    judging
);
criterion_main!(positions);
