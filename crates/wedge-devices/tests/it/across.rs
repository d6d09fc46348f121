//! Clips from ahead and behind of a rider whose knees, heels and hips go as told, by a camera that stands aside and is held turned.

#![allow(clippy::cast_precision_loss)]

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use wedge_core::capture::{BodyPoint, Figure};
use wedge_core::film::{
    AcrossClip, AcrossMark, AcrossRead, AcrossShot, Blob, SeenFrom, follow_across,
};
use wedge_core::looking::KneePath;
use wedge_core::units::Side;
use wedge_devices::Pedaller;

const SIZE: [f64; 2] = [1280.0, 1280.0];
const FRAMES: usize = 540;
const RATE_HZ: f64 = 60.0;
const RPM: f64 = 88.0;

/// Where the camera stands.
struct Camera {
    from: SeenFrom,
    distance: f64,
    lens: f64,
    /// To the rider's right, °.
    aside: f64,
    /// Held turned, °.
    roll: f64,
}

impl Camera {
    /// The pixel of a place, `x` forward, `y` up from the BB, `z` to the rider's right.
    fn pixel(&self, place: [f64; 3]) -> [f64; 2] {
        let ahead = match self.from {
            SeenFrom::Ahead => 1.0,
            SeenFrom::Behind => -1.0,
        };
        let (sin, cos) = self.aside.to_radians().sin_cos();
        let lens = [
            ahead * self.distance * cos,
            self.lens - 270.0,
            self.distance * sin,
        ];
        let q = [place[0] - lens[0], place[1] - lens[1], place[2] - lens[2]];
        let far = -(q[0] * ahead * cos + q[2] * sin);
        let right = ahead * (q[0] * ahead * sin - q[2] * cos);
        let f = 1500.0;
        let (u, v) = (f * right / far, -f * q[1] / far);
        let (sin, cos) = self.roll.to_radians().sin_cos();
        [
            SIZE[0] / 2.0 + u * cos - v * sin,
            SIZE[1] / 2.0 + u * sin + v * cos,
        ]
    }
}

/// How the rider goes: knees off the line from toe to hip outward, mm, while pushing and rising; heels toward the bike and
/// the right hip's roll, °.
struct Goes {
    knee: [(f64, f64); 2],
    heel: [f64; 2],
    roll: f64,
}

impl Goes {
    /// The dot of a point, with the right crank there.
    fn dot(&self, rider: &Pedaller, side: Side, part: BodyPoint, crank: f64) -> [f64; 3] {
        let (own, out) = match side {
            Side::Left => (crank + 180.0, -1.0),
            Side::Right => (crank, 1.0),
        };
        let at = |part| rider.at(part, own);
        let index = usize::from(side == Side::Right);
        let roll = self.roll * (crank - 120.0).to_radians().cos();
        let hip = |ahead: f64| {
            let tilted = -out * 90.0 * roll.to_radians().sin();
            [
                rider.hip.x + ahead,
                rider.hip.y + tilted,
                out * 90.0 * roll.to_radians().cos(),
            ]
        };
        let toe = [
            at(BodyPoint::Pedal).x + 40.0,
            at(BodyPoint::Toe).y,
            out * 125.0,
        ];
        match part {
            BodyPoint::Toe => toe,
            BodyPoint::Hip => hip(90.0),
            BodyPoint::Knee => {
                let knee = at(BodyPoint::Knee);
                let on_line = hip(0.0);
                let share = (knee.y - toe[1]) / (on_line[1] - toe[1]);
                let line = toe[2] + (on_line[2] - toe[2]) * share;
                let (push, rise) = self.knee[index];
                // A wave whose mean over a third of the turn is what was told: the mean of a cosine over ± 60° is 0.827.
                let wave = (own - 90.0).to_radians().cos() / 0.827;
                let off = f64::midpoint(push, rise) + f64::midpoint(push, -rise) * wave;
                [knee.x + 55.0, knee.y, line + out * off]
            }
            BodyPoint::HeelLower => [
                at(BodyPoint::Ankle).x - 80.0,
                at(BodyPoint::Ankle).y - 40.0,
                out * 115.0,
            ],
            _ => {
                let lean = self.heel[index].to_radians();
                let lower = at(BodyPoint::Ankle);
                [
                    lower.x - 80.0,
                    lower.y - 40.0 + 60.0 * lean.cos(),
                    out * (115.0 - 60.0 * lean.sin()),
                ]
            }
        }
    }
}

/// The clip followed and read.
fn read(camera: &Camera, goes: &Goes, seed: u64, tyre: bool) -> AcrossRead {
    let mut dice = StdRng::seed_from_u64(seed);
    let rider = Pedaller::thrown(&mut dice, (1560.0, 1900.0));
    let behind = camera.from == SeenFrom::Behind;
    let times: Vec<f64> = (0..FRAMES).map(|frame| frame as f64 / RATE_HZ).collect();
    let crank = |frame: usize| 40.0 + 6.0 * RPM * times[frame];
    let place = |side, part, frame| {
        let [x, y, z] = goes.dot(&rider, side, part, crank(frame));
        let behind_hip = behind && part == BodyPoint::Hip;
        camera.pixel([if behind_hip { x - 180.0 } else { x }, y, z])
    };
    let points: Vec<(Side, BodyPoint)> = [Side::Right, Side::Left]
        .into_iter()
        .flat_map(|side| camera.from.parts().iter().map(move |part| (side, *part)))
        .collect();
    let blobs: Vec<Vec<Blob>> = (0..FRAMES)
        .map(|frame| {
            let mut all = Vec::new();
            for (index, (side, part)) in points.iter().enumerate() {
                // Each dot is hidden now and then for a few frames.
                if frame > 5 && (frame + 37 * index) % 211 < 4 {
                    continue;
                }
                let [u, v] = place(*side, *part, frame);
                let mut shake = || dice.random_range(-0.5..0.5);
                all.push(Blob {
                    at: [u + shake(), v + shake()],
                    area: 60.0,
                    quality: 1.0,
                });
            }
            let stray = [
                dice.random_range(0.0..SIZE[0]),
                dice.random_range(0.0..200.0),
            ];
            all.push(Blob {
                at: stray,
                area: 55.0,
                quality: 1.4,
            });
            all
        })
        .collect();
    let ends = [Side::Right, Side::Left].map(|side| {
        let up = rider.crank_mm * side.outward();
        camera.pixel([0.0, up, side.outward() * 170.0])
    });
    let shot = AcrossShot {
        from: camera.from,
        size: SIZE,
        plumb: Some([[0.0, 1000.0, 600.0], [0.0, -200.0, 600.0]].map(|place| camera.pixel(place))),
        pedals: ends,
        pedals_mm: Some(340.0),
        tyre: tyre.then(|| {
            let ahead = if behind { -410.0 } else { 590.0 };
            camera.pixel([ahead, -270.0, 0.0])
        }),
        tyre_mm: None,
        distance_mm: Some(camera.distance * 1.05),
        lens_mm: None,
        marks: (points.iter())
            .map(|(side, part)| AcrossMark {
                side: *side,
                part: *part,
                at: place(*side, *part, 0),
                dot: true,
            })
            .collect(),
        known: rider.known(),
    };
    let followed = follow_across(&shot, &times, &blobs, 0).unwrap();
    for way in &followed {
        for (frame, at) in way.at.iter().enumerate() {
            let is = place(way.side, way.part, frame);
            let off = at.map_or(0.0, |at| (at[0] - is[0]).hypot(at[1] - is[1]));
            assert!(
                off < 3.0,
                "{:?} {} frame {frame}: {off}",
                way.side,
                way.part.key()
            );
        }
        let seen = way.at.iter().flatten().count();
        assert!(
            seen * 100 >= FRAMES * 93,
            "{:?} {}: {seen}",
            way.side,
            way.part.key()
        );
    }
    AcrossClip {
        shot,
        times,
        followed,
    }
    .read()
    .unwrap()
}

fn mean(read: &AcrossRead, side: Side, figure: Figure) -> f64 {
    let stat = read.sample.stat(side, figure);
    stat.unwrap_or_else(|| panic!("no {figure:?}")).mean
}

const GOES: Goes = Goes {
    knee: [(2.0, 18.0), (-21.0, 3.0)],
    heel: [6.0, -4.0],
    roll: 4.0,
};

#[test]
fn knees_go_as_told_wherever_the_camera_stands() {
    for (seed, aside, roll, distance) in [
        (1, 0.0, 0.0, 3000.0),
        (2, 4.0, 2.0, 2600.0),
        (3, -5.0, -3.0, 3600.0),
    ] {
        let camera = Camera {
            from: SeenFrom::Ahead,
            distance,
            lens: 900.0,
            aside,
            roll,
        };
        let read = read(&camera, &GOES, seed, true);
        assert!(
            (read.aside_deg.unwrap() - aside).abs() < 1.0,
            "{:?}",
            read.aside_deg
        );
        for (side, (push, rise)) in [(Side::Left, GOES.knee[0]), (Side::Right, GOES.knee[1])] {
            let is = [Figure::KneePush, Figure::KneeRise, Figure::KneeSwing]
                .map(|f| mean(&read, side, f));
            for (is, wanted, within) in [
                (is[0], push, 5.0),
                (is[1], rise, 5.0),
                (is[2], rise - push, 4.0),
            ] {
                assert!(
                    (is - wanted).abs() < within,
                    "{seed} {side:?}: {is} for {wanted}"
                );
            }
        }
        let path = |side: Side| {
            read.sample
                .sides
                .of(side)
                .as_ref()
                .unwrap()
                .front
                .unwrap()
                .path
        };
        assert_eq!(path(Side::Left), Some(KneePath::OutRising), "{seed}");
        assert_eq!(path(Side::Right), Some(KneePath::InPushing), "{seed}");
        assert!((read.sample.cadence_rpm - RPM).abs() < 0.5);
    }
}

#[test]
fn without_the_tyres_foot_a_knee_bears_more_doubt_and_the_picture_says_so() {
    let camera = Camera {
        from: SeenFrom::Ahead,
        distance: 3000.0,
        lens: 950.0,
        aside: 0.0,
        roll: 0.0,
    };
    let spread = |read: &AcrossRead| {
        let value = read
            .values
            .iter()
            .find(|value| value.figure == Figure::KneePush);
        value.unwrap().spread
    };
    let (with, without) = (
        read(&camera, &GOES, 5, true),
        read(&camera, &GOES, 5, false),
    );
    assert!(spread(&without) > 1.5 * spread(&with));
    assert!(
        without
            .messages
            .iter()
            .any(|words| words.contains("tyre's foot"))
    );
}

#[test]
fn from_behind_heels_lean_and_hips_dip_as_told() {
    for (seed, aside, roll) in [(7, 0.0, 0.0), (8, 3.0, -2.5)] {
        let camera = Camera {
            from: SeenFrom::Behind,
            distance: 3000.0,
            lens: 950.0,
            aside,
            roll,
        };
        let read = read(&camera, &GOES, seed, true);
        for (side, wanted) in [(Side::Left, GOES.heel[0]), (Side::Right, GOES.heel[1])] {
            let is = mean(&read, side, Figure::FootTiltPush);
            assert!(
                (is - wanted).abs() < 1.2,
                "{seed} {side:?}: {is} for {wanted}"
            );
        }
        // The right hip is lowest with the right crank at 120, by as much as it is highest with the left one there.
        for figure in [Figure::DipRight, Figure::DipLeft, Figure::Rock] {
            let is = mean(&read, Side::Right, figure);
            assert!((is - GOES.roll).abs() < 0.6, "{seed} {figure:?}: {is}");
        }
        assert!(
            read.sample.stat(Side::Right, Figure::Twist).is_none(),
            "twist is not seen from behind"
        );
    }
}

#[test]
fn who_does_not_pedal_has_no_figures() {
    let shot = AcrossShot {
        from: SeenFrom::Ahead,
        size: SIZE,
        plumb: None,
        pedals: [[500.0, 800.0], [700.0, 1100.0]],
        pedals_mm: None,
        tyre: None,
        tyre_mm: None,
        distance_mm: None,
        lens_mm: None,
        marks: Vec::new(),
        known: wedge_core::capture::Known::default(),
    };
    let still = AcrossClip {
        times: (0..200).map(|frame| f64::from(frame) / 60.0).collect(),
        followed: vec![wedge_core::film::AcrossWay {
            side: Side::Right,
            part: BodyPoint::Toe,
            at: vec![Some([500.0, 700.0]); 200],
        }],
        shot: shot.clone(),
    };
    assert!(still.read().unwrap_err().contains("Nobody pedals"));
    let one_point = AcrossShot {
        pedals: [[500.0, 800.0]; 2],
        ..shot
    };
    assert!(follow_across(&one_point, &[0.0], &[Vec::new()], 0).is_err());
}
