//! What foresight is worth, and who looks.

use wedge_devices::Dice;
use wedge_devices::body::Sight;
use wedge_devices::foresight::foresight;
use wedge_devices::observer::{BY_HAND, Observer};

/// The dots' spread each way, mm.
const BESIDE: f64 = 5.0;
/// Segments of a rider of 1.78 m, mm.
const TRUNK: f64 = 513.0;
const THIGH: f64 = 436.0;
const SHANK: f64 = 438.0;
const UPPER_ARM: f64 = 331.0;
const ANKLE_TO_TOE: f64 = 145.0;
const HEEL_TO_TOE: f64 = 200.0;

/// By how much angles off dots spread, where the dots lie beside what they stand for.
fn spread(points: &[(f64, f64)], angle: impl Fn(&[(f64, f64)]) -> f64) -> f64 {
    let mut dice = Dice::of(7, 1);
    let there = angle(points);
    let squares: f64 = (0..4_000)
        .map(|_| {
            let mut dot = |(x, y): (f64, f64)| (x + dice.normal(BESIDE), y + dice.normal(BESIDE));
            let dots: Vec<(f64, f64)> = points.iter().map(|at| dot(*at)).collect();
            (angle(&dots) - there).powi(2)
        })
        .sum();
    (squares / 4_000.0).sqrt()
}

fn slope(of: &[(f64, f64)]) -> f64 {
    (of[1].1 - of[0].1).atan2(of[1].0 - of[0].0).to_degrees()
}

/// At a corner in the middle, between segments so long.
fn corner(one: f64, other: f64, between: f64) -> f64 {
    let (up, out) = between.to_radians().sin_cos();
    let points = [(one, 0.0), (0.0, 0.0), (other * out, other * up)];
    spread(&points, |of| {
        (slope(&of[1..]) - slope(&[of[1], of[0]])).abs()
    })
}

#[test]
fn dots_beside_their_landmarks_turn_angles_by_so_much() {
    let level = |long: f64| spread(&[(0.0, 0.0), (long, 0.0)], slope);
    let hip = f64::midpoint(corner(TRUNK, THIGH, 45.0), corner(TRUNK, THIGH, 100.0));
    for (kind, by_hand, really) in [
        ("knee", BY_HAND.knee, corner(THIGH, SHANK, 145.0)),
        ("hip", BY_HAND.hip, hip),
        ("ankle", BY_HAND.ankle, corner(SHANK, ANKLE_TO_TOE, 100.0)),
        ("torso", BY_HAND.torso, level(TRUNK)),
        ("shoulder", BY_HAND.shoulder, corner(TRUNK, UPPER_ARM, 85.0)),
        ("foot", BY_HAND.foot, level(HEEL_TO_TOE)),
    ] {
        assert!((by_hand - really).abs() < 0.1, "{kind}: {by_hand} {really}");
    }
}

#[test]
#[allow(clippy::float_cmp, reason = "halves and wholes are added, exactly")]
fn all_angles_of_a_kind_are_seen_larger_by_the_same() {
    let there = Sight {
        knee_at_full_reach: [36.0, 34.0],
        knee_most_bent: [110.0, 111.0],
        foot: [[10.0, 11.0]; 4],
        torso: 45.0,
        elbow: 20.0,
        hip_to_axle: [850.0, 851.0],
        ..Sight::default()
    };
    let observer = Observer {
        knee: 1.5,
        torso: -0.5,
        foot: 2.0,
        ..Observer::default()
    };
    let seen = observer.sees(&there);
    assert_eq!(seen.knee_at_full_reach, [37.5, 35.5]);
    assert_eq!(seen.knee_most_bent, [111.5, 112.5]);
    assert_eq!(seen.foot, [[12.0, 13.0]; 4]);
    assert_eq!((seen.torso, seen.elbow), (44.5, 20.0));
    assert_eq!(seen.hip_to_axle, there.hip_to_axle);
    assert_eq!(
        format!("{:?}", Observer::default().sees(&there)),
        format!("{there:?}")
    );
}

/// The measures are those of *How good is Wedge?*, on riders that are not its own.
#[test]
fn foresight_is_as_near_as_it_says() {
    let score = foresight(1_200, 80);
    let after = score.after;
    for (what, near, most) in [
        ("knee", after.knee, 1.0),
        ("torso", after.torso, 1.5),
        ("shoulder", after.shoulder, 1.5),
    ] {
        let [one, two] = near.covered();
        assert!(near.root() < most, "{what}: {}", near.words());
        assert!((56.0..=84.0).contains(&one), "{what}: {}", near.words());
        assert!(two >= 90.0, "{what}: {}", near.words());
    }
    assert!(2.0 * after.knee.root() < score.before.knee.root());
    assert!(2.0 * after.torso.root() < score.before.torso.root());
    assert_eq!(score.refused, 0);
}
