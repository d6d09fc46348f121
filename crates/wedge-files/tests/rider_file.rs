//! Files: what is written reads back, and a bad one names the path of what is wrong.
#![allow(clippy::unwrap_used)]

use serde_json::{Value, json};
use wedge_files::RiderFile;

const DEMO: &str = include_str!("../../../demo/tobin-arkle.wedge.json");

#[test]
fn what_is_written_reads_back_without_loss() {
    let file = RiderFile::read(DEMO).unwrap();
    let text = file.write().unwrap();
    assert_eq!(RiderFile::read(&text).unwrap(), file);
    assert_eq!(
        serde_json::from_str::<Value>(&text).unwrap(),
        serde_json::from_str::<Value>(DEMO).unwrap()
    );
}

#[test]
fn a_bad_file_names_the_path() {
    let cases: [(&str, Value, &str); 8] = [
        ("/format", json!("wedge.rider/9"), "format"),
        ("/rider/name", json!(" "), "rider.name"),
        (
            "/rider/readings/0/value",
            json!(18.0),
            "rider.readings[0].value",
        ),
        ("/rider/readings", json!([]), "rider.readings"),
        (
            "/rider/bikes/0/frame/head_angle_deg",
            json!(7.3),
            "rider.bikes[0].frame.head_angle_deg",
        ),
        (
            "/rider/bikes/0/frame/head_angle_deg",
            json!("steep"),
            "rider.bikes[0].frame.head_angle_deg",
        ),
        (
            "/rider/bikes/0/sessions/0/trials/0/before",
            json!("01a208ad-0000-7000-8000-000000000000"),
            "rider.bikes[0].sessions[0].trials[0].before",
        ),
        (
            "/rider/bikes/0/sessions/0/now",
            Value::Null,
            "rider.bikes[0].sessions[0].now",
        ),
    ];
    for (pointer, value, path) in cases {
        let mut file: Value = serde_json::from_str(DEMO).unwrap();
        *file.pointer_mut(pointer).unwrap() = value;
        let error = RiderFile::read(&file.to_string()).unwrap_err();
        assert_eq!(error.path, path, "{error}");
    }
}

#[test]
fn an_unknown_key_a_double_id_and_a_torn_file_are_refused() {
    let mut file: Value = serde_json::from_str(DEMO).unwrap();
    file["rider"]["shoe_colour"] = json!("red");
    assert!(
        RiderFile::read(&file.to_string())
            .unwrap_err()
            .message
            .contains("shoe_colour")
    );

    let mut file: Value = serde_json::from_str(DEMO).unwrap();
    file["rider"]["readings"][1]["id"] = file["rider"]["readings"][0]["id"].clone();
    assert!(
        RiderFile::read(&file.to_string())
            .unwrap_err()
            .message
            .contains("stands twice")
    );

    assert!(RiderFile::read(&DEMO[..DEMO.len() / 2]).is_err());
    assert!(RiderFile::read(&format!("{DEMO} and more")).is_err());
}
