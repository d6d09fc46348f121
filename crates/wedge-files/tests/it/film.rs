//! Pictures and a clip by the points that are known of them, against what the rider in them did.

#![allow(clippy::cast_precision_loss)]

use crate::markers::{known, truth};
use serde_json::Value;
use wedge_core::capture::BodyPoint;
use wedge_core::film::{
    Blob, FilmMark, Naming, Pixel, Squared, View, WheelSeen, follow, name_dots, read_clip,
    read_still, square,
};
use wedge_core::units::Side;

const PARTS: [(&str, BodyPoint); 8] = [
    ("axle", BodyPoint::Pedal),
    ("toe", BodyPoint::Toe),
    ("ankle", BodyPoint::Ankle),
    ("knee", BodyPoint::Knee),
    ("hip", BodyPoint::Hip),
    ("shoulder", BodyPoint::Shoulder),
    ("elbow", BodyPoint::Elbow),
    ("wrist", BodyPoint::Wrist),
];

fn pixel(value: &Value) -> Pixel {
    serde_json::from_value(value.clone()).unwrap()
}

fn view(file: &Value, distance: Option<f64>) -> View {
    let px = &file["bike_px"];
    let wheel = |axle: &str, rim: &str| WheelSeen {
        axle: pixel(&px[axle]),
        rim: serde_json::from_value(px[rim].clone()).unwrap(),
    };
    View {
        size: pixel(&file["size"]),
        faces_left: file["side"] == "L",
        rear: wheel("rear", "rear_rim"),
        front: wheel("front", "front_rim"),
        wheel_diameter_mm: file["wheel_diameter_mm"].as_f64().unwrap(),
        wheelbase_mm: file["wheelbase_mm"].as_f64(),
        distance_m: distance,
        lens_height_mm: None,
    }
}

fn marks(dots: &Value) -> Vec<FilmMark> {
    let one = |(key, part): &(&str, BodyPoint)| FilmMark {
        part: *part,
        at: pixel(&dots[*key]),
        dot: true,
    };
    PARTS
        .iter()
        .filter(|(key, _)| !dots[*key].is_null())
        .map(one)
        .collect()
}

#[test]
fn every_still_is_within_its_tolerance_with_the_distance_a_tenth_off_either_way_or_untold() {
    let truth = truth();
    let mut wrong = Vec::new();
    for name in ["os1_square.jpg", "os2_oblique.jpg", "os3_left_tilted.jpg"] {
        let file = &truth["files"][name];
        let told = known(&truth, name).told();
        let distance = file["camera"]["distance_m"].as_f64().unwrap();
        for distance in [
            None,
            Some(0.9 * distance),
            Some(distance),
            Some(1.1 * distance),
        ] {
            let squared = square(&view(file, distance)).unwrap();
            let read = read_still(
                &squared,
                Some(pixel(&file["bike_px"]["bb"])),
                &marks(&file["dots_px"]),
                &told,
                false,
            );
            let yaw = squared.camera.yaw_deg - file["camera"]["yaw_deg"].as_f64().unwrap();
            if yaw.abs() > truth["tolerance"]["stills"]["yaw_deg"].as_f64().unwrap() {
                wrong.push(format!("{name} {distance:?}: yaw off by {yaw}"));
            }
            for value in &read.values {
                let key = value.figure.key();
                let Some(wanted) = file["truth"][key].as_f64() else {
                    continue;
                };
                let kind = if key == "shoulder_to_wrist_deg" {
                    "shoulder_deg"
                } else {
                    key
                };
                let tolerance = truth["tolerance"]["stills"][kind].as_f64().unwrap();
                if (value.value - wanted).abs() > tolerance {
                    wrong.push(format!(
                        "{name} {distance:?}: {key} {} not {wanted}",
                        value.value
                    ));
                }
                assert!(
                    value.spread > 0.5 && value.spread < 12.0,
                    "{key}: {}",
                    value.spread
                );
            }
            assert!(read.values.len() >= 7);
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// Dots as a finder gives them: a third of a pixel off, in no order, with two that are none.
fn blobs(dots: &Value, seed: usize) -> Vec<Blob> {
    let mut all: Vec<Blob> = PARTS
        .iter()
        .enumerate()
        .filter(|(_, (key, _))| !dots[*key].is_null())
        .map(|(index, (key, _))| {
            let at = pixel(&dots[*key]);
            let shake = |n: usize| {
                0.3 * (((seed * 8 + index) * 7919 + n * 104_729) % 1000) as f64 / 500.0 - 0.3
            };
            Blob {
                at: [at[0] + shake(1), at[1] + shake(2)],
                area: 55.0,
                quality: 1.1,
            }
        })
        .collect();
    for at in [[452.0, 546.0], [1100.0, 80.0]] {
        all.push(Blob {
            at,
            area: 50.0,
            quality: 1.3,
        });
    }
    all.rotate_left(seed % 5);
    all
}

fn squared_clip(file: &Value) -> Squared {
    square(&view(file, file["camera"]["distance_m"].as_f64())).unwrap()
}

#[test]
fn a_clip_is_followed_without_a_wrong_dot_and_read_within_its_tolerance() {
    let truth = truth();
    let name = "ov1_side.webm";
    let file = &truth["files"][name];
    let told = known(&truth, name).told();
    let squared = squared_clip(file);
    let bb = pixel(&file["bike_px"]["bb"]);
    let naming = Naming {
        squared: &squared,
        bb,
        told: &told,
    };
    let frames = file["dots_px"].as_array().unwrap();
    let hidden = |frame: usize, key: &str| {
        // Every joint but the hip is hidden for a while, the foot for seven frames at the same time.
        let at = (frame + 3 * key.len()) % 40;
        key != "hip" && at < 7 && frame > 12
    };
    let seen: Vec<Vec<Blob>> = frames
        .iter()
        .enumerate()
        .map(|(frame, dots)| {
            let mut dots = dots.clone();
            for (key, _) in PARTS {
                if hidden(frame, key) {
                    dots[key] = Value::Null;
                }
            }
            blobs(&dots, frame)
        })
        .collect();
    let start = 6;
    let one = FilmMark {
        part: BodyPoint::Knee,
        at: pixel(&frames[start]["knee"]),
        dot: true,
    };
    let named = name_dots(&seen[start], &[one], &naming);
    assert_eq!(named.len(), 8, "{named:?}");
    let times: Vec<f64> = (0..frames.len()).map(|frame| frame as f64 / 30.0).collect();
    let followed = follow(&times, &seen, start, &named, &naming);
    let (mut there, mut found, mut wrong) = (0, 0, 0);
    for (key, part) in PARTS {
        let way = followed.iter().find(|way| way.part == part).unwrap();
        for (frame, at) in way.at.iter().enumerate() {
            let is = pixel(&frames[frame][key]);
            there += usize::from(!hidden(frame, key));
            if let Some(at) = at {
                let off = (at[0] - is[0]).hypot(at[1] - is[1]);
                found += usize::from(off <= 3.0);
                wrong += usize::from(off > 3.0);
            }
        }
    }
    assert_eq!(wrong, 0);
    assert!(found * 100 >= there * 95, "{found} of {there}");

    // Whole, as the clip itself is.
    let seen: Vec<Vec<Blob>> = frames
        .iter()
        .enumerate()
        .map(|(frame, dots)| blobs(dots, frame))
        .collect();
    let followed = follow(&times, &seen, start, &named, &naming);
    let read = read_clip(&squared, bb, Side::Right, &times, &followed, 720.0, &told).unwrap();
    let off = read.readout_ms.unwrap() - file["readout_ms"].as_f64().unwrap();
    assert!(off.abs() <= 6.0, "readout off by {off}");
    let tolerance = &truth["tolerance"]["videos"];
    for (key, limit) in [
        ("knee_smallest_deg", "knee_deg"),
        ("knee_largest_deg", "knee_most_bent_deg"),
        ("knee_180_deg", "knee_deg"),
        ("knee_in_line_deg", "knee_deg"),
        ("hip_closed_deg", "hip_deg"),
        ("torso_deg", "torso_deg"),
        ("elbow_deg", "elbow_deg"),
        ("knee_over_axle_mm", "knee_over_axle_mm"),
    ] {
        let figures = &read.sample.sides.right.as_ref().unwrap().figures;
        let own = figures
            .iter()
            .find(|one| one.figure.spec().key == key)
            .unwrap()
            .stat
            .mean;
        let wanted = file["truth"][key].as_f64().unwrap();
        let limit = tolerance[limit].as_f64().unwrap();
        assert!((own - wanted).abs() <= limit, "{key}: {own} not {wanted}");
    }
    let cadence = file["truth"]["cadence_rpm"].as_f64().unwrap();
    assert!(
        (read.cadence_rpm - cadence).abs() < 0.7,
        "{}",
        read.cadence_rpm
    );
    assert!(read.values.iter().all(|value| value.spread > 0.5));
}
