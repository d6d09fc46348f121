//! Takes and film over real HTTP: files in, the table out, what is refused and what is asked, what is kept.
use crate::support::{Server, data, id, path, session};
use reqwest::StatusCode;
use serde_json::{Value, json};
use std::fmt::Write as _;
use std::path::PathBuf;

fn sample(name: &str) -> Vec<u8> {
    std::fs::read(
        PathBuf::from(env!("CARGO_MANIFEST_DIR"))
            .join("../../samples/looking")
            .join(name),
    )
    .unwrap()
}

fn truth() -> Value {
    serde_json::from_slice(&sample("truth.json")).unwrap()
}

const BYTES: &str = "application/octet-stream";

async fn send(server: &Server, at: &str, name: &str, more: &str) -> (StatusCode, Value) {
    let path = format!("{at}/takes/markers?id={}&name={name}&placing=1{more}", id());
    server.post_bytes(&path, BYTES, sample(name)).await
}

fn row<'a>(takes: &'a Value, figure: &str, side: &str) -> &'a Value {
    let rows = takes["compared"]["lines"].as_array().unwrap();
    rows.iter()
        .find(|row| row["figure"] == figure && row["side"] == side)
        .unwrap()
}

#[tokio::test]
async fn takes_stand_beside_one_another_and_what_they_show_is_kept_as_evidence() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    assert_eq!(server.get(&format!("{at}/takes")).await["takes"], json!([]));

    for name in ["o1_smooth.trc", "o2_choppy.trc"] {
        let (status, sent) = send(&server, &at, name, "&power_w=200").await;
        assert_eq!(status, StatusCode::OK, "{sent}");
        assert_eq!(sent["asks"], json!([]));
    }
    let takes = server.get(&format!("{at}/takes")).await;
    assert_eq!(takes["columns"].as_array().unwrap().len(), 2);
    // The saddle went 18 mm up between the two: the knee is straighter, and surely so.
    let knee = row(&takes, "knee_smallest_deg", "left");
    assert_eq!(knee["change"]["real"], true);
    assert!(
        (knee["change"]["change"].as_f64().unwrap() + 5.0).abs() < 1.0,
        "{knee}"
    );
    assert_eq!(
        row(&takes, "torso_deg", "left")["takes"]
            .as_array()
            .unwrap()
            .len(),
        2
    );
    assert!(
        takes["compared"]["roughness"][0]
            .as_str()
            .unwrap()
            .contains("rougher")
    );

    // What is shown is kept as it stands, with the spread that was worked out, in one go.
    let keepable = takes["keepable"].as_array().unwrap();
    let choppy = keepable.iter().filter(|one| {
        one["label"]
            .as_str()
            .unwrap()
            .starts_with("Bottom of the stroke choppy")
    });
    assert_eq!(choppy.count(), 2, "{keepable:?}");
    let looks: Vec<Value> = keepable
        .iter()
        .map(|one| json!({"id": id(), "body": one["body"]}))
        .collect();
    let kept = server
        .write(
            &format!("{at}/looks/many"),
            None,
            &json!({ "looks": looks }),
        )
        .await;
    let entries = kept["seen"].as_array().unwrap();
    assert_eq!(entries.len(), looks.len());
    let knee = entries
        .iter()
        .find(|entry| entry["entry"]["body"]["seen"]["output"] == "knee_at_full_reach_deg")
        .unwrap();
    assert_eq!(knee["entry"]["body"]["seen"]["method"], "camera");
    assert!(knee["entry"]["body"]["seen"]["spread"].as_f64().unwrap() > 1.0);
    // Sent again they are there already, and one that cannot be keeps all of them out.
    server
        .write(
            &format!("{at}/looks/many"),
            None,
            &json!({ "looks": looks }),
        )
        .await;
    let bad = json!({"id": id(), "body": {"seen": {"output": "torso_deg", "value": 4000}}});
    let (status, _) = server
        .post(
            &format!("{at}/looks/many"),
            None,
            &json!({"looks": [looks[0], bad]}),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(
        server.get(&at).await["seen"].as_array().unwrap().len(),
        looks.len()
    );
    // The evidence reaches the judge.
    let judge = server.get(&format!("{at}/judge")).await;
    assert!(
        judge.to_string().contains("choppy"),
        "the judge hears of the bottom of the stroke"
    );

    out_and_in_again(&server, &view, &takes).await;
}

/// Out as TRC, in the rider's file, and in again elsewhere.
async fn out_and_in_again(server: &Server, view: &Value, takes: &Value) {
    let at = path(view);
    let take = takes["takes"][0]["take"]["id"].as_str().unwrap();
    assert!(
        server
            .text(&format!("/api/takes/{take}/trc"))
            .await
            .starts_with("PathFileType")
    );
    let rider = view["rider"]["id"].as_str().unwrap();
    let exported = server.text(&format!("/api/riders/{rider}/file")).await;
    let (_other, file) = data();
    let other = Server::start(&file);
    let (status, _) = other
        .post_bytes("/api/import", "application/json", exported.into_bytes())
        .await;
    assert_eq!(status, StatusCode::OK);
    assert_eq!(
        other.get(&format!("{at}/takes")).await["compared"],
        takes["compared"]
    );
}

#[tokio::test]
async fn unlike_efforts_make_nothing_real() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    send(&server, &at, "o1_smooth.trc", "&power_w=200").await;
    let (_, sent) = send(&server, &at, "o2_choppy.trc", "&power_w=260").await;
    let compared = &sent["takes"]["compared"];
    assert!(
        compared["unlike"]
            .as_str()
            .unwrap()
            .contains("260 W against 200 W")
    );
    let real = compared["lines"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|row| row["change"]["real"] == true);
    assert_eq!(real.count(), 0);
}

#[tokio::test]
async fn what_is_doubtful_about_a_file_is_asked_once_and_nothing_is_kept_before() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let text = String::from_utf8(sample("o1_smooth.trc")).unwrap();
    let doubtful = text.replacen("L_hip", "L_hip_front", 1);
    let to = |answers: &str| format!("{at}/takes/markers?id={}&name=a.trc{answers}", id());
    let (status, sent) = server
        .post_bytes(&to(""), BYTES, doubtful.clone().into_bytes())
        .await;
    assert_eq!(status, StatusCode::OK, "{sent}");
    assert_eq!(sent["asks"][0]["markers"], json!(["L_hip_front"]));
    assert_eq!(server.get(&format!("{at}/takes")).await["takes"], json!([]));
    let answers = r#"&answers={"names":{"L_hip_front":{"part":"hip","side":"left"}}}"#;
    let (status, sent) = server
        .post_bytes(&to(answers), BYTES, doubtful.into_bytes())
        .await;
    assert_eq!(status, StatusCode::OK, "{sent}");
    assert!(
        row(&sent["takes"], "hip_closed_deg", "left")["takes"][0]["mean"]
            .as_f64()
            .unwrap()
            > 60.0
    );

    // Left and right the wrong way round, and metres that say they are millimetres.
    let swapped = text
        .replace("R_", "X_")
        .replace("L_", "R_")
        .replace("X_", "L_");
    let (_, sent) = server
        .post_bytes(&to(""), BYTES, swapped.into_bytes())
        .await;
    assert_eq!(sent["asks"][0]["kind"], "swap");
}

#[tokio::test]
async fn a_file_that_is_none_is_refused_by_row_or_parameter_and_nothing_is_half_taken() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let text = String::from_utf8(sample("o1_smooth.trc")).unwrap();
    let c3d = sample("o4_swept.c3d");
    let mut other = c3d.clone();
    other[512 + 3] = 86;
    let cut = text.lines().take(200).collect::<Vec<_>>().join("\n");
    let cases: Vec<(Vec<u8>, &str)> = vec![
        (Vec::new(), "empty"),
        (b"%PDF-1.4".to_vec(), "PDF"),
        (
            text.replacen("-185.962", "-185,962", 1).into_bytes(),
            "row 7, column 3",
        ),
        (text.replacen("\tL_wrist\t\t", "", 1).into_bytes(), "row 4"),
        (cut.into_bytes(), "cut off"),
        (c3d[..100_000].to_vec(), "cut off"),
        (other, "MIPS"),
        (text.replacen("100.00", "0", 1).into_bytes(), "DataRate"),
    ];
    for (bytes, words) in cases {
        let to = format!("{at}/takes/markers?id={}&name=a.trc", id());
        let (status, problem) = server.post_bytes(&to, BYTES, bytes).await;
        assert_eq!(
            status,
            StatusCode::UNPROCESSABLE_ENTITY,
            "{words}: {problem}"
        );
        assert!(
            problem["detail"].as_str().unwrap().contains(words),
            "{words}: {problem}"
        );
    }
    let (status, problem) = server
        .post_bytes(
            &format!("{at}/takes/torque?id={}&name=t.csv", id()),
            "text/csv",
            b"sector,torque_nm,cadence_rpm\n2,1,90\n".to_vec(),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        problem["detail"].as_str().unwrap().contains("in order"),
        "{problem}"
    );
    assert_eq!(server.get(&format!("{at}/takes")).await["takes"], json!([]));
}

#[tokio::test]
async fn torque_is_a_wheel_tied_to_its_setup() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let rows: Vec<String> = (1..=24)
        .map(|n| format!("{n},{},88", if n <= 12 { 30 } else { 20 }))
        .collect();
    let rows = rows.join("\n");
    let csv = format!("sector,torque_nm,cadence_rpm\n{rows}");
    let (status, takes) = server
        .post_bytes(
            &format!("{at}/takes/torque?id={}&name=t.csv", id()),
            "text/csv",
            csv.into_bytes(),
        )
        .await;
    assert_eq!(status, StatusCode::OK, "{takes}");
    // 25 N·m at 88 rpm: 25 · 9.215 = 230.4 W; 30 of 50.
    let wheel = &takes["wheels"][0]["wheel"];
    assert!((wheel["power_w"].as_f64().unwrap() - 230.4).abs() < 0.1);
    assert!((wheel["half_turn_split_percent"].as_f64().unwrap() - 60.0).abs() < 1e-9);
    assert_eq!(takes["takes"][0]["on"], "As found");
}

/// A shot of an open still, its wheels as they are known.
fn shot(file: &Value, marks: &Value) -> Value {
    let px = &file["bike_px"];
    json!({
        "view": {
            "size": file["size"], "faces_left": file["side"] == "L", "wheel_diameter_mm": file["wheel_diameter_mm"],
            "rear": {"axle": px["rear"], "rim": px["rear_rim"]}, "front": {"axle": px["front"], "rim": px["front_rim"]},
            "distance_m": file["camera"]["distance_m"],
        },
        "bb": px["bb"], "marks": marks,
    })
}

#[tokio::test]
async fn dots_are_found_in_a_picture_by_one_and_the_picture_is_nowhere_kept() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let truth = truth();
    for name in ["os1_square.jpg", "os2_oblique.jpg", "os3_left_tilted.jpg"] {
        let still = &truth["files"][name];
        let one = json!([{"part": "knee", "at": still["dots_px"]["knee"], "dot": true}]);
        let mut shot = shot(still, &one);
        // The rider of the picture is not the one on the bench.
        shot["known"] = still["given"].clone();
        let query = url(&shot.to_string());
        let (status, read) = server
            .post_bytes(&format!("{at}/film/find?shot={query}"), BYTES, sample(name))
            .await;
        assert_eq!(status, StatusCode::OK, "{read}");
        assert_eq!(
            read["marks"].as_array().unwrap().len(),
            8,
            "{name}: {}",
            read["messages"]
        );
        let knee = read["values"]
            .as_array()
            .unwrap()
            .iter()
            .find(|value| value["key"] == "knee_deg")
            .unwrap();
        let off = knee["value"].as_f64().unwrap() - still["truth"]["knee_deg"].as_f64().unwrap();
        assert!(off.abs() < 1.0, "{name}: {off}");
        let points = json!({"id": id(), "name": name, "still": {
            "view": shot["view"], "bb": shot["bb"], "marks": read["marks"], "known": shot["known"],
        }});
        server
            .write(&format!("{at}/takes/stills"), None, &points)
            .await;
    }
    let rider = server.get(&at).await["rider"]["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let exported = server.text(&format!("/api/riders/{rider}/file")).await;
    assert!(
        exported.contains("os1_square.jpg") && exported.len() < 60_000,
        "points, no pictures"
    );

    for (bytes, words) in [
        (Vec::new(), "empty"),
        (b"%PDF-1.7".to_vec(), "PDF"),
        (b"\0\0\0\x18ftypheic".to_vec(), "HEIC"),
        (b"GIF89a".to_vec(), "GIF"),
        (
            sample("os1_square.jpg")[..40_000].to_vec(),
            "damaged or cut off",
        ),
        (b"nothing of the kind".to_vec(), "no JPEG"),
    ] {
        let one = json!([{"part": "knee", "at": [1, 1], "dot": true}]);
        let query = url(&shot(&truth["files"]["os1_square.jpg"], &one).to_string());
        let (status, problem) = server
            .post_bytes(&format!("{at}/film/find?shot={query}"), BYTES, bytes)
            .await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{words}");
        assert!(
            problem["detail"].as_str().unwrap().contains(words),
            "{words}: {problem}"
        );
    }
}

fn url(text: &str) -> String {
    let mut out = String::new();
    for byte in text.bytes() {
        write!(out, "%{byte:02X}").unwrap();
    }
    out
}
