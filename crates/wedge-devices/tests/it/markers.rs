//! Takes of a rider whose every joint is known: the same figures whatever a room's axes, names, units, gaps and clocks are.
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss
)]

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use wedge_core::capture::{
    Answers, AskKind, BodyPoint, CHOPPY_DEG, Difference, Figure, MarkerUnit, Sample, Sits, Stat,
    Track, Tracks, look, standing,
};
use wedge_core::plane::Point;
use wedge_core::units::Side;
use wedge_devices::Pedaller;

const RATE_HZ: f64 = 100.0;
const PARTS: [BodyPoint; 7] = [
    BodyPoint::Toe,
    BodyPoint::Ankle,
    BodyPoint::Knee,
    BodyPoint::Hip,
    BodyPoint::Shoulder,
    BodyPoint::Elbow,
    BodyPoint::Wrist,
];

fn rider(seed: u64) -> Pedaller {
    Pedaller::thrown(&mut StdRng::seed_from_u64(seed), (1520.0, 1980.0))
}

/// How far outside the middle a marker of a part sits.
fn outward(part: BodyPoint) -> f64 {
    match part {
        BodyPoint::Shoulder => 215.0,
        BodyPoint::Elbow => 270.0,
        BodyPoint::Wrist => 240.0,
        _ => 165.0,
    }
}

/// Ten seconds of both sides at this cadence, `x` forward, `y` up, `z` to the right.
fn take(rider: &Pedaller, cadence_rpm: f64, noise_mm: f64) -> Tracks {
    let mut dice = StdRng::seed_from_u64(11);
    let times: Vec<f64> = (0..1000).map(|frame| f64::from(frame) / RATE_HZ).collect();
    let mut markers = Vec::new();
    for (letter, side, ahead) in [("L", -1.0, 180.0), ("R", 1.0, 0.0)] {
        for part in PARTS {
            let mut shake =
                || noise_mm * (0..12).map(|_| dice.random_range(-0.5..0.5)).sum::<f64>();
            let place = |time: &f64| {
                let at = rider.at(part, 17.0 + ahead + 6.0 * cadence_rpm * time);
                Some([
                    at.x + shake(),
                    at.y + shake(),
                    side * outward(part) + shake(),
                ])
            };
            let places = times.iter().map(place).collect();
            markers.push(Track {
                name: format!("{letter}_{}", part.key()),
                places,
            });
        }
    }
    Tracks {
        rate_hz: RATE_HZ,
        times,
        unit: Some(MarkerUnit::Millimetre),
        markers,
    }
}

fn read(rider: &Pedaller, tracks: &Tracks) -> Sample {
    look(tracks, &rider.known().told(), &Answers::default()).unwrap()
}

fn mean(sample: &Sample, side: Side, figure: Figure) -> f64 {
    sample
        .stat(side, figure)
        .unwrap_or_else(|| panic!("no {figure:?}"))
        .mean
}

fn flexion(rider: &Pedaller, crank: f64) -> f64 {
    let at = |part| rider.at(part, crank);
    let (hip, knee, ankle) = (
        at(BodyPoint::Hip),
        at(BodyPoint::Knee),
        at(BodyPoint::Ankle),
    );
    let bend = |a: Point, b: Point| a.dot(b) / (a.length() * b.length());
    180.0 - bend(hip - knee, ankle - knee).acos().to_degrees()
}

/// The figures of the side view that are compared between two ways to the same.
const COMPARED: [Figure; 10] = [
    Figure::KneeSmallest,
    Figure::KneeLargest,
    Figure::Knee90,
    Figure::HipClosed,
    Figure::Torso,
    Figure::Shoulder,
    Figure::Elbow,
    Figure::Foot90,
    Figure::AnkleLargest,
    Figure::KneeOverAxle,
];

fn same(rider: &Pedaller, one: &Sample, other: &Sample, within: f64) {
    for side in Side::BOTH {
        for figure in COMPARED {
            let (a, b) = (mean(one, side, figure), mean(other, side, figure));
            assert!(
                (a - b).abs() <= within,
                "{side:?} {figure:?}: {a} and {b}, {rider:?}"
            );
        }
    }
}

#[test]
fn every_angle_is_the_one_the_rider_has() {
    for seed in 0..12 {
        let rider = rider(seed);
        let sample = read(&rider, &take(&rider, 84.0, 0.0));
        assert!((sample.cadence_rpm - 84.0).abs() < 0.05);
        for side in Side::BOTH {
            for (figure, crank) in [
                (Figure::Knee0, 0.0),
                (Figure::Knee90, 90.0),
                (Figure::Knee180, 180.0),
            ] {
                let (own, is) = (mean(&sample, side, figure), flexion(&rider, crank));
                assert!((own - is).abs() < 0.4, "{seed} {figure:?}: {own} not {is}");
            }
            let over = rider.at(BodyPoint::Knee, 90.0).x - rider.at(BodyPoint::Pedal, 90.0).x;
            assert!((mean(&sample, side, Figure::KneeOverAxle) - over).abs() < 2.5);
            assert!((mean(&sample, side, Figure::Torso) - rider.torso_deg).abs() < 0.05);
            assert!((mean(&sample, side, Figure::Elbow) - rider.elbow_deg).abs() < 0.05);
            // Heel up by 20° and 12° more at 270: 8° at 90, 32° at 270.
            assert!((mean(&sample, side, Figure::Foot90) - 8.0).abs() < 0.6);
            assert!((mean(&sample, side, Figure::Foot270) - 32.0).abs() < 0.6);
        }
    }
}

#[test]
fn noise_spreads_strokes_and_hardly_moves_their_mean() {
    let rider = rider(3);
    let (clean, noisy) = (
        read(&rider, &take(&rider, 90.0, 0.0)),
        read(&rider, &take(&rider, 90.0, 1.0)),
    );
    same(&rider, &clean, &noisy, 1.0);
    let stat = noisy.stat(Side::Left, Figure::KneeSmallest).unwrap();
    assert!(stat.sd > 0.02 && stat.sd < 0.6 && stat.n >= 12, "{stat:?}");
    // A camera's own noise is no chop: the floor is about a tenth of a degree.
    for side in Side::BOTH {
        let rough = noisy
            .sides
            .of(side)
            .as_ref()
            .unwrap()
            .bottom_roughness_deg
            .unwrap();
        assert!(rough < 0.25, "{rough}");
    }
}

/// The same take as another room has it: turned, on its side, in another unit.
fn elsewhere(tracks: &Tracks, unit: MarkerUnit) -> Tracks {
    let (sin, cos) = 33.0_f64.to_radians().sin_cos();
    let mut all = tracks.clone();
    for place in all
        .markers
        .iter_mut()
        .flat_map(|marker| marker.places.iter_mut().flatten())
    {
        let [x, y, z] = *place;
        // `z` up, and the bike points somewhere between the other two.
        *place = [x * cos + z * sin, x * sin - z * cos, y].map(|value| value / unit.in_mm());
    }
    all.unit = Some(unit);
    all
}

#[test]
fn axes_and_units_of_a_room_do_not_matter() {
    let rider = rider(5);
    let tracks = take(&rider, 88.0, 0.0);
    let here = read(&rider, &tracks);
    for unit in [
        MarkerUnit::Millimetre,
        MarkerUnit::Centimetre,
        MarkerUnit::Metre,
    ] {
        let there = read(&rider, &elsewhere(&tracks, unit));
        same(&rider, &here, &there, 0.05);
        assert!(there.asks.is_empty(), "{:?}", there.asks);
        let dip = |sample: &Sample| mean(sample, Side::Right, Figure::DipRight);
        assert!((dip(&here) - dip(&there)).abs() < 0.05);
    }
}

#[test]
fn a_unit_that_is_wrong_is_asked_about_and_taken_as_likely_until_it_is_said() {
    let rider = rider(5);
    let mut tracks = elsewhere(&take(&rider, 88.0, 0.0), MarkerUnit::Metre);
    tracks.unit = Some(MarkerUnit::Millimetre);
    let sample = read(&rider, &tracks);
    assert_eq!(sample.asks[0].kind, AskKind::Unit);
    assert!(
        sample.asks[0].words.contains("taken as m"),
        "{:?}",
        sample.asks
    );
    let answers = Answers {
        unit: Some(MarkerUnit::Metre),
        ..Answers::default()
    };
    let said = look(&tracks, &rider.known().told(), &answers).unwrap();
    assert!(said.asks.is_empty());
    same(&rider, &sample, &said, 1e-9);
}

#[test]
fn names_of_any_kind_are_read_or_asked_about() {
    let rider = rider(8);
    let tracks = take(&rider, 80.0, 0.0);
    let plain = read(&rider, &tracks);
    let mut named = tracks.clone();
    for marker in &mut named.markers {
        let (side, part) = marker.name.split_once('_').unwrap();
        let side = if side == "L" { "Left" } else { "Right" };
        marker.name = format!("rider7:{side}{}", part.to_uppercase());
    }
    same(&rider, &plain, &read(&rider, &named), 1e-9);

    let mut odd = tracks;
    for marker in odd
        .markers
        .iter_mut()
        .filter(|marker| marker.name == "R_knee")
    {
        "patella 4".clone_into(&mut marker.name);
    }
    let sample = read(&rider, &odd);
    assert_eq!(sample.asks[0].markers, vec!["patella 4".to_owned()]);
    assert!(sample.stat(Side::Right, Figure::KneeSmallest).is_none());
    assert!(sample.stat(Side::Left, Figure::KneeSmallest).is_some());
    let knee = Sits {
        part: BodyPoint::Knee,
        side: Side::Right,
    };
    let answers = Answers {
        names: [("patella 4".to_owned(), knee)].into(),
        ..Answers::default()
    };
    same(
        &rider,
        &plain,
        &look(&odd, &rider.known().told(), &answers).unwrap(),
        1e-9,
    );
    let answers = Answers {
        nothing: vec!["patella 4".to_owned()],
        ..Answers::default()
    };
    assert!(
        look(&odd, &rider.known().told(), &answers)
            .unwrap()
            .asks
            .is_empty()
    );
}

#[test]
fn sides_that_are_swapped_are_asked_about_and_put_right() {
    let rider = rider(2);
    let tracks = take(&rider, 80.0, 0.0);
    let mut swapped = tracks.clone();
    for marker in &mut swapped.markers {
        let other = if marker.name.starts_with('L') {
            "R"
        } else {
            "L"
        };
        marker.name.replace_range(0..1, other);
    }
    let sample = read(&rider, &swapped);
    assert_eq!(sample.asks[0].kind, AskKind::Swap);
    let answers = Answers {
        swap: Some(true),
        ..Answers::default()
    };
    let right = look(&swapped, &rider.known().told(), &answers).unwrap();
    assert!(right.asks.is_empty());
    same(&rider, &read(&rider, &tracks), &right, 1e-9);
}

#[test]
fn short_gaps_are_bridged_and_long_ones_cost_strokes_of_that_marker_alone() {
    let rider = rider(4);
    let tracks = take(&rider, 86.0, 0.0);
    let whole = read(&rider, &tracks);
    let knee = |tracks: &mut Tracks, frames: std::ops::Range<usize>| {
        let marker = tracks
            .markers
            .iter_mut()
            .find(|marker| marker.name == "R_knee")
            .unwrap();
        marker.places[frames].fill(None);
    };
    let mut short = tracks.clone();
    for start in [140, 333, 480, 720] {
        knee(&mut short, start..start + 8);
    }
    let bridged = read(&rider, &short);
    same(&rider, &whole, &bridged, 0.4);
    let strokes = |sample: &Sample, figure| sample.stat(Side::Right, figure).unwrap().n;
    assert_eq!(
        strokes(&whole, Figure::Knee90),
        strokes(&bridged, Figure::Knee90)
    );

    let mut long = tracks;
    knee(&mut long, 400..430);
    let cut = read(&rider, &long);
    assert!(strokes(&cut, Figure::Knee90) < strokes(&whole, Figure::Knee90));
    assert_eq!(strokes(&cut, Figure::Torso), strokes(&whole, Figure::Torso));
    assert_eq!(
        cut.stat(Side::Left, Figure::Knee90),
        whole.stat(Side::Left, Figure::Knee90)
    );
}

#[test]
fn one_plane_has_no_front_and_no_pelvis_and_uneven_times_are_evened() {
    let rider = rider(6);
    let tracks = take(&rider, 82.0, 0.0);
    let whole = read(&rider, &tracks);
    let mut flat = tracks.clone();
    flat.markers.retain(|marker| marker.name.starts_with('R'));
    for place in flat
        .markers
        .iter_mut()
        .flat_map(|marker| marker.places.iter_mut().flatten())
    {
        place[2] = 0.0;
    }
    let sample = read(&rider, &flat);
    assert!(sample.planar && sample.pelvis.is_none() && sample.sides.left.is_none());
    assert!(sample.stat(Side::Right, Figure::KneePush).is_none());
    for figure in COMPARED {
        let off = mean(&sample, Side::Right, figure) - mean(&whole, Side::Right, figure);
        assert!(off.abs() < 0.5, "{figure:?}: {off}");
    }

    // Every third frame three milliseconds late, and its places taken then.
    let mut uneven = tracks;
    let late = |frame: usize| if frame.is_multiple_of(3) { 0.003 } else { 0.0 };
    uneven.times = (0..1000)
        .map(|frame| frame as f64 / RATE_HZ + late(frame))
        .collect();
    for (index, part) in PARTS.iter().cycle().take(14).enumerate() {
        let (side, ahead) = if index < 7 { (-1.0, 180.0) } else { (1.0, 0.0) };
        uneven.markers[index].places = uneven
            .times
            .iter()
            .map(|time| {
                let at = rider.at(*part, 17.0 + ahead + 6.0 * 82.0 * time);
                Some([at.x, at.y, side * outward(*part)])
            })
            .collect();
    }
    same(&rider, &whole, &read(&rider, &uneven), 0.4);
}

#[test]
fn what_cannot_be_read_says_so() {
    let rider = rider(1);
    let told = rider.known().told();
    let tracks = take(&rider, 85.0, 0.0);
    let words = |tracks: &Tracks| look(tracks, &told, &Answers::default()).unwrap_err().words;
    let mut still = tracks.clone();
    for marker in &mut still.markers {
        let first = marker.places[0];
        marker.places.fill(first);
    }
    assert!(words(&still).contains("nobody pedals"), "{}", words(&still));
    let mut backward = tracks.clone();
    backward
        .markers
        .iter_mut()
        .for_each(|marker| marker.places.reverse());
    assert!(
        words(&backward).contains("backward"),
        "{}",
        words(&backward)
    );
    let mut short = tracks.clone();
    short.times.truncate(150);
    short
        .markers
        .iter_mut()
        .for_each(|marker| marker.places.truncate(150));
    assert!(words(&short).contains("strokes"), "{}", words(&short));
    let mut nobody = tracks;
    nobody
        .markers
        .iter_mut()
        .for_each(|marker| marker.name.insert(0, 'q'));
    assert!(!words(&nobody).is_empty());
}

/// The strokes of one take: a rider's own wavering from take to take and from stroke to stroke, each a little like the last.
fn strokes(dice: &mut StdRng, mean: f64, n: usize) -> Vec<f64> {
    let mut bell = || (0..12).map(|_| dice.random_range(-0.5..0.5)).sum::<f64>();
    let of_take = mean + 0.4 * bell();
    let mut last = bell();
    (0..n)
        .map(|_| {
            last = 0.35 * last + (1.0 - 0.35_f64 * 0.35).sqrt() * bell();
            of_take + 0.7 * last
        })
        .collect()
}

#[test]
fn nothing_changed_is_seldom_called_real_and_three_degrees_nearly_always() {
    let mut dice = StdRng::seed_from_u64(500);
    let mut real = |change: f64| {
        let calls = (0..500).filter(|_| {
            let before = Stat::over(&strokes(&mut dice, 36.0, 14)).unwrap();
            let after = Stat::over(&strokes(&mut dice, 36.0 + change, 14)).unwrap();
            Difference::between(&before, &after, 0.4).real
        });
        calls.count()
    };
    let (alarms, seen) = (real(0.0), real(3.0));
    assert!((15..=40).contains(&alarms), "{alarms} false alarms of 500");
    assert!(seen > 450, "{seen} of 500 seen");
}

/// A take whose right hip's marker sits so much too high and too far ahead.
fn misplaced(mut tracks: Tracks, up: f64, ahead: f64) -> Tracks {
    let hip = tracks
        .markers
        .iter_mut()
        .find(|track| track.name == "R_hip");
    for place in hip.unwrap().places.iter_mut().flatten() {
        place[0] += ahead;
        place[1] += up;
    }
    tracks
}

/// The rider standing still and straight beside the bike, feet side by side, in the same room.
fn stood(seconds: f64) -> Tracks {
    let times: Vec<f64> = (0..(seconds * RATE_HZ) as usize)
        .map(|frame| frame as f64 / RATE_HZ)
        .collect();
    let mut dice = StdRng::seed_from_u64(3);
    let mut markers = Vec::new();
    for (letter, side) in [("L", -1.0), ("R", 1.0)] {
        for (part, at) in [
            (BodyPoint::Toe, [130.0, 30.0]),
            (BodyPoint::Ankle, [0.0, 90.0]),
            (BodyPoint::Knee, [10.0, 510.0]),
            (BodyPoint::Hip, [0.0, 920.0]),
            (BodyPoint::Shoulder, [0.0, 1450.0]),
        ] {
            let mut shake = || dice.random_range(-1.0..1.0);
            let places = times.iter().map(|_| {
                Some([
                    at[0] + shake(),
                    at[1] + shake(),
                    side * outward(part) + shake(),
                ])
            });
            markers.push(Track {
                name: format!("{letter}_{}", part.key()),
                places: places.collect(),
            });
        }
    }
    Tracks {
        rate_hz: RATE_HZ,
        times,
        unit: Some(MarkerUnit::Millimetre),
        markers,
    }
}

#[test]
fn a_standing_zero_takes_a_misplaced_hip_marker_out_of_lean_and_twist() {
    let rider = rider(21);
    let at = |sample: &Sample, figure| mean(sample, Side::Right, figure);
    let level = read(&rider, &take(&rider, 88.0, 0.5));
    let off = read(&rider, &misplaced(take(&rider, 88.0, 0.5), 8.0, 9.0));
    assert!(at(&off, Figure::Lean) - at(&level, Figure::Lean) > 1.2);
    assert!(at(&off, Figure::Twist) - at(&level, Figure::Twist) > 1.2);
    let zero = standing(&misplaced(stood(2.0), 8.0, 9.0), &Answers::default()).unwrap();
    let zeroed = off.clone().zeroed(zero, 180.0);
    for figure in [
        Figure::Lean,
        Figure::Twist,
        Figure::DipLeft,
        Figure::DipRight,
        Figure::Rock,
    ] {
        let (is, wanted) = (at(&zeroed, figure), at(&level, figure));
        assert!((is - wanted).abs() < 0.15, "{figure:?}: {is} for {wanted}");
    }
    // Who does not stand still, or not for long, has no zero; nor do markers that are far off.
    assert!(standing(&take(&rider, 88.0, 0.5), &Answers::default()).is_err());
    let words = |tracks: Tracks| standing(&tracks, &Answers::default()).unwrap_err().words;
    assert!(words(stood(0.8)).contains("two seconds"));
    assert!(words(misplaced(stood(2.0), 60.0, 0.0)).contains("put them on anew"));
}

/// A rider whose hips bob through the bottom, as those do who cannot control it: a short wave on the hip's height around the
/// bottom of each leg's stroke.
fn bobbing(rider: &Pedaller, seed: u64, cadence_rpm: f64, bob_mm: f64) -> f64 {
    let mut dice = StdRng::seed_from_u64(seed);
    let times: Vec<f64> = (0..1000).map(|frame| f64::from(frame) / RATE_HZ).collect();
    let crank = |time: f64| 17.0 + 6.0 * cadence_rpm * time;
    let mut markers = Vec::new();
    for part in [
        BodyPoint::Toe,
        BodyPoint::Ankle,
        BodyPoint::Knee,
        BodyPoint::Hip,
    ] {
        let mut shake = || (0..12).map(|_| dice.random_range(-0.5..0.5)).sum::<f64>();
        let place = |time: &f64| {
            let own = crank(*time).rem_euclid(360.0);
            let mut at = rider.at(part, own);
            let near = (-((own - 180.0) / 40.0).powi(2)).exp();
            let bob = bob_mm * near * (6.0 * (own - 180.0).to_radians()).cos();
            match part {
                BodyPoint::Hip => at.y += bob,
                // The knee is where both bones put it: it goes ahead as the hip comes down.
                BodyPoint::Knee => at = at + Point::new(-0.9 * bob, 0.5 * bob),
                _ => {}
            }
            Some([at.x + shake(), at.y + shake(), outward(part)])
        };
        markers.push(Track {
            name: format!("R_{}", part.key()),
            places: times.iter().map(place).collect(),
        });
    }
    let tracks = Tracks {
        rate_hz: RATE_HZ,
        times,
        unit: Some(MarkerUnit::Millimetre),
        markers,
    };
    let limbs = read(rider, &tracks).sides.right.unwrap();
    limbs.bottom_roughness_deg.unwrap()
}

#[test]
fn a_choppy_bottom_stands_out_from_a_quiet_one() {
    let (mut quiet, mut choppy) = (Vec::new(), Vec::new());
    for seed in 0..40 {
        let rider = rider(100 + seed);
        let cadence = 78.0 + 0.6 * seed as f64;
        quiet.push(bobbing(&rider, seed, cadence, 0.0));
        choppy.push(bobbing(&rider, seed, cadence, 6.0 + 0.1 * seed as f64));
    }
    let of = |values: &[f64]| {
        let mean = values.iter().sum::<f64>() / values.len() as f64;
        let squares: f64 = values.iter().map(|value| (value - mean).powi(2)).sum();
        (mean, squares / (values.len() - 1) as f64)
    };
    let ((low, a), (high, b)) = (of(&quiet), of(&choppy));
    let d = (high - low) / f64::midpoint(a, b).sqrt();
    assert!(d > 2.5, "d' {d}: {low} and {high}");
    assert!(low < CHOPPY_DEG && high > CHOPPY_DEG, "{low} and {high}");
}
