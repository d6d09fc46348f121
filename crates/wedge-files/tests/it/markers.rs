//! Takes of markers from open files: every figure against what the rider who made them did.

use serde_json::Value;
use std::fs;
use std::path::PathBuf;
use wedge_core::capture::{Answers, Known, Sample, Tracks, look};
use wedge_files::{read_c3d, read_markers, read_trc, sample_json, write_c3d, write_trc};

fn folder() -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../samples/looking")
}

pub(crate) fn truth() -> Value {
    serde_json::from_str(&fs::read_to_string(folder().join("truth.json")).unwrap()).unwrap()
}

fn tracks(name: &str) -> Tracks {
    let bytes = fs::read(folder().join(name)).unwrap();
    read_markers(&bytes).unwrap()
}

pub(crate) fn known(truth: &Value, name: &str) -> Known {
    serde_json::from_value(truth["files"][name]["given"].clone()).unwrap()
}

fn sample(truth: &Value, name: &str) -> Sample {
    look(
        &tracks(name),
        &known(truth, name).told(),
        &Answers::default(),
    )
    .unwrap()
}

const FILES: [&str; 4] = [
    "o1_smooth.trc",
    "o2_choppy.trc",
    "o3_dips_right.trc",
    "o4_swept.c3d",
];

/// How far a figure may be off, by what the truth says of its kind.
fn tolerance(truth: &Value, file: &str, key: &str, value: f64) -> f64 {
    let of = |name: &str| truth["tolerance"]["markers"][name].as_f64().unwrap();
    let choppy = file.contains("choppy");
    match key {
        "knee_over_axle_mm" => of("knee_over_axle_mm"),
        "hip_travel_mm" => of("hip_travel_mm"),
        "path_area_mm2" => of("area_percent") / 100.0 * value,
        "path_low_share" => of("path_mm") / 340.0,
        "path_height_mm" | "path_width_mm" => of("path_mm"),
        "knee_push_mm" | "knee_rise_mm" | "knee_swing_mm" => of("knee_path_mm"),
        "foot_tilt_push_deg" | "foot_tilt_rise_deg" => of("foot_tilt_deg"),
        _ if key.starts_with("foot_") || key.starts_with("heel") || key.starts_with("ankle") => {
            if choppy {
                of("foot_choppy_deg")
            } else {
                of("angle_deg")
            }
        }
        _ if choppy => of("angle_choppy_deg"),
        _ => of("angle_deg"),
    }
}

#[test]
fn every_figure_of_every_open_file_is_within_its_tolerance() {
    let truth = truth();
    let mut wrong = Vec::new();
    let mut told = 0;
    for file in FILES {
        let read = sample_json(&sample(&truth, file));
        let wanted = &truth["files"][file]["truth"];
        for side in ["L", "R"] {
            for (key, value) in wanted[side].as_object().unwrap() {
                told += 1;
                let own = &read[side][key];
                if let Some(class) = value.as_str() {
                    if own != class {
                        wrong.push(format!("{file} {side} {key}: {own} not {class}"));
                    }
                    continue;
                }
                if key == "bottom_roughness_deg" {
                    continue;
                }
                let first = |value: &Value| value.get(0).unwrap_or(value).as_f64();
                let (Some(own), Some(value)) = (first(own), first(value)) else {
                    wrong.push(format!("{file} {side} {key}: {own}"));
                    continue;
                };
                if (own - value).abs() > tolerance(&truth, file, key, value) {
                    wrong.push(format!("{file} {side} {key}: {own} not {value}"));
                }
            }
        }
        for (key, value) in wanted["pelvis"].as_object().unwrap() {
            told += 1;
            let limit = if key.starts_with("creep") { 4.0 } else { 0.5 };
            let (own, value) = (
                read["pelvis"][key].as_f64().unwrap_or(f64::NAN),
                value.as_f64().unwrap(),
            );
            if (own - value).abs() > limit || own.is_nan() {
                wrong.push(format!("{file} {key}: {own} not {value}"));
            }
        }
        let (own, value) = (
            read["cadence_rpm"].as_f64().unwrap(),
            wanted["cadence_rpm"].as_f64().unwrap(),
        );
        if (own - value).abs() > 0.7 {
            wrong.push(format!("{file} cadence: {own} not {value}"));
        }
    }
    assert!(
        wrong.is_empty(),
        "{} of {told}:\n{}",
        wrong.len(),
        wrong.join("\n")
    );
    assert!(told > 240);
}

#[test]
fn a_choppy_bottom_reads_at_least_twice_a_smooth_one() {
    let truth = truth();
    let rough = |file: &str, side: &str| {
        sample_json(&sample(&truth, file))[side]["bottom_roughness_deg"]
            .as_f64()
            .unwrap()
    };
    for side in ["L", "R"] {
        let (smooth, choppy) = (rough("o1_smooth.trc", side), rough("o2_choppy.trc", side));
        assert!(
            choppy > 2.0 * smooth && smooth < 0.2,
            "{side}: {smooth} {choppy}"
        );
    }
}

#[test]
fn markers_written_are_read_again() {
    for file in FILES {
        let before = tracks(file);
        let text = write_trc(&before, file);
        let again = read_trc(&text).unwrap();
        assert_eq!(again.markers.len(), before.markers.len());
        for (one, other) in again.markers.iter().zip(&before.markers) {
            assert_eq!(one.name, other.name);
            for (a, b) in one.places.iter().zip(&other.places) {
                assert_eq!(a.is_some(), b.is_some());
                if let (Some(a), Some(b)) = (a, b) {
                    assert!((0..3).all(|axis| (a[axis] - b[axis]).abs() < 1e-4));
                }
            }
        }
        assert_eq!(write_trc(&again, file), text);
    }
}

#[test]
fn markers_written_as_c3d_are_read_again_to_a_thousandth_and_hidden_ones_stay_hidden() {
    let mut was = tracks("o1_smooth.trc");
    for place in &mut was.markers[2].places[40..60] {
        *place = None;
    }
    let is = read_c3d(&write_c3d(&was).unwrap()).unwrap();
    assert_eq!((is.times.len(), is.unit), (was.times.len(), was.unit));
    assert!((is.rate_hz - was.rate_hz).abs() < 1e-6);
    for (was, is) in was.markers.iter().zip(&is.markers) {
        assert_eq!(was.name, is.name);
        for (was, is) in was.places.iter().zip(&is.places) {
            match (was, is) {
                (None, None) => {}
                (Some(was), Some(is)) => {
                    assert!((0..3).all(|axis| (was[axis] - is[axis]).abs() < 1e-3));
                }
                _ => panic!("hidden or not: {was:?} {is:?}"),
            }
        }
    }
    was.markers.clear();
    assert!(write_c3d(&was).is_err(), "nothing is no take");
}

#[test]
fn a_parameter_of_endless_dimensions_is_refused_and_not_multiplied() {
    let mut bytes = fs::read(folder().join("o4_swept.c3d")).unwrap();
    // The group's first parameter, USED, said to have 255 dimensions of whatever follows.
    let at = bytes
        .windows(4)
        .position(|window| window == b"USED")
        .unwrap();
    bytes[at + 7] = 255;
    let error = read_markers(&bytes).unwrap_err();
    assert!(error.to_string().contains("USED"), "{error}");
}
