//! Riders who are not there: devices take them, they answer, and their truth is told at the end of practice alone.

use crate::support::{Server, data, id, path, rider, session, version};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;
use wedge_core::judge::Axis;
use wedge_devices::hundred::Stranger;
use wedge_devices::practice::Level;

/// A fit of practice: its rider's id and its session's path.
async fn practice(server: &Server, level: &str, judge: bool, seed: u32) -> (Uuid, String) {
    let rider = id();
    let body = json!({"id": rider, "apprentice": "Orla Finch", "level": level, "judge": judge, "seed": seed});
    let begun = server.write("/api/practice", None, &body).await;
    // Sent again, it is the same one.
    assert_eq!(server.write("/api/practice", None, &body).await, begun);
    (
        rider,
        format!("/api/sessions/{}", begun["session"].as_str().unwrap()),
    )
}

async fn fault(server: &Server, kind: &str, connected: bool, fault: Value) -> Value {
    let body = json!({"connected": connected, "fault": fault});
    let (status, view) = server
        .send(
            Method::PUT,
            &format!("/api/devices/{kind}"),
            None,
            Some(&body),
        )
        .await
        .unwrap();
    assert_eq!(status, StatusCode::OK, "{view}");
    view
}

async fn take(server: &Server, at: &str, of: &str, keep: bool, id: Uuid) -> (StatusCode, Value) {
    let body = json!({"id": id, "of": of, "keep": keep});
    server
        .post(&format!("{at}/takes/simulated"), None, &body)
        .await
}

/// A change on the bench, tried.
async fn tries(server: &Server, at: &str, by: f64) -> String {
    let view = server.get(at).await;
    let body = json!({"id": id(), "changes": [{"quantity": "saddle_height_mm", "by": by}]});
    let view = server
        .write(&format!("{at}/trials"), version(&view), &body)
        .await;
    let trials = view["trials"].as_array().unwrap();
    trials.last().unwrap()["trial"]["id"]
        .as_str()
        .unwrap()
        .to_owned()
}

#[tokio::test]
async fn ten_seconds_are_kept_whole_or_as_the_fitter_says_and_marked_for_ever() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let (rider, at) = practice(&server, "straightforward", true, 41).await;
    let first = id();
    let (status, given) = take(&server, &at, "camera", false, first).await;
    assert_eq!(status, StatusCode::OK, "{given}");
    let lines = given["takes"]["takes"].as_array().unwrap();
    assert_eq!(
        (lines.len(), &lines[0]["take"]["simulated"]),
        (1, &json!(true))
    );
    assert!(
        given["takes"]["compared"].is_object(),
        "its figures are read"
    );
    let (_, again) = take(&server, &at, "camera", false, first).await;
    assert_eq!(
        again["takes"]["takes"].as_array().unwrap().len(),
        1,
        "sent again is harmless"
    );

    fault(&server, "camera", true, json!("unplugged")).await;
    let broken = id();
    let (_, given) = take(&server, &at, "camera", false, broken).await;
    assert_eq!(
        (&given["keepable"], &given["takes"]),
        (&json!(true), &Value::Null)
    );
    assert!(
        given["trouble"]["words"]
            .as_str()
            .unwrap()
            .contains("unplugged after")
    );
    let takes = server.get(&format!("{at}/takes")).await;
    assert_eq!(
        takes["takes"].as_array().unwrap().len(),
        1,
        "nothing half-recorded"
    );
    let (_, kept) = take(&server, &at, "camera", true, broken).await;
    assert_eq!(kept["takes"]["takes"].as_array().unwrap().len(), 2);
    fault(&server, "camera", true, json!("silent")).await;
    let (_, given) = take(&server, &at, "camera", true, id()).await;
    assert_eq!(
        (&given["keepable"], &given["takes"]),
        (&json!(false), &Value::Null)
    );
    let off = fault(&server, "camera", false, Value::Null).await;
    assert_eq!(off["devices"][0]["state"], "none");
    assert_eq!(
        take(&server, &at, "camera", false, id()).await.0,
        StatusCode::CONFLICT
    );

    let (_, torque) = take(&server, &at, "trainer", false, id()).await;
    let power = torque["takes"]["wheels"][0]["wheel"]["power_w"]
        .as_f64()
        .unwrap();
    assert!((power - 150.0).abs() < 8.0, "{power}");
    assert_eq!(
        take(&server, &at, "scales", false, id()).await.0,
        StatusCode::UNPROCESSABLE_ENTITY
    );
    let devices = server.get("/api/devices").await;
    assert!(
        devices["devices"][2]["last"]
            .as_str()
            .unwrap()
            .starts_with("Ten seconds, 3")
    );

    // Marked wherever it shows: the fit, the rider, the hand-out and every number on it.
    let view = server.get(&at).await;
    assert_eq!(view["rider"]["simulated"], true);
    assert!(
        view["origins"]
            .as_array()
            .unwrap()
            .iter()
            .all(|of| of["origin"] == "simulated")
    );
    let sheet = server.get(&format!("{at}/handout")).await;
    assert_eq!(sheet["simulated"], true);
    let table = sheet["table"].as_array().unwrap();
    assert!(!table.is_empty() && table.iter().all(|line| line["origin"] == "simulated"));
    let read = server.get(&format!("/api/riders/{rider}")).await;
    assert_eq!(read["rider"]["simulated"], true);
}

#[tokio::test]
async fn a_real_rider_is_nobodys_stand_in() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    assert_eq!(view["rider"]["simulated"], false);
    let (status, said) = take(&server, &at, "camera", false, id()).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(
        said["detail"]
            .as_str()
            .unwrap()
            .contains("this one is real"),
        "{said}"
    );
    for asked in ["said"] {
        let (status, _) = server
            .send(Method::GET, &format!("{at}/{asked}"), None, None)
            .await
            .unwrap();
        assert_eq!(status, StatusCode::CONFLICT);
    }
    let (status, _) = server.post(&format!("{at}/scales"), None, &json!({})).await;
    assert_eq!(status, StatusCode::CONFLICT);
    let (status, _) = server.post(&format!("{at}/stand"), None, &json!({})).await;
    assert_eq!(status, StatusCode::CONFLICT, "a bike is no stand");
    // Scales of one's own read just as well.
    let weighed = server
        .get(&format!("{at}/weighed?front_kg=28.4&rear_kg=42.6"))
        .await;
    assert_eq!(weighed["weighed"]["front_percent"], 40.0);
    assert!(
        weighed["words"][1]
            .as_str()
            .unwrap()
            .starts_with("Estimated")
    );
    let (status, refused) = server
        .send(
            Method::GET,
            &format!("{at}/weighed?front_kg=-3&rear_kg=42"),
            None,
            None,
        )
        .await
        .unwrap();
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(refused["errors"][0]["pointer"], "/front_kg");
}

#[tokio::test]
async fn he_says_the_same_to_the_same_question_and_what_is_taken_down_is_an_entry_like_any() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let (_, at) = practice(&server, "straightforward", true, 7).await;
    let said = async || server.get(&format!("{at}/said")).await;
    let first = said().await;
    assert_eq!(first, said().await);
    assert_eq!(first["trial"], Value::Null, "nothing was tried yet");
    let trial = tries(&server, &at, 6.0).await;
    let told = said().await;
    let verdict = told["trial"]["verdict"].as_str().unwrap();
    assert!(told["words"].as_str().unwrap().len() > 8);
    for body in [json!({"verdict": verdict}), json!({"words": told["words"]})] {
        let entry = json!({"id": id(), "body": body});
        server
            .write(&format!("/api/trials/{trial}/entries"), None, &entry)
            .await;
    }
    let view = server.get(&at).await;
    assert_eq!(view["trials"][0]["verdict"], verdict);
    assert_eq!(view["trials"][0]["words"], told["words"]);
    // Where it hurts now is asked of what he came with, and of what he names now; what is no answer is refused beside its field.
    let hurts = told["trial"]["hurts"].as_array().unwrap();
    let unnamed = ["neck", "elbow", "calf", "toes"];
    let place = (unnamed.iter()).find(|place| hurts.iter().all(|of| of["place"] != **place));
    let named = json!({"place": place.unwrap(), "side": null, "how_bad": 3.0});
    for of in hurts.iter().chain([&named]) {
        let entry = json!({"id": id(), "body": {"hurts": of}});
        server
            .write(&format!("/api/trials/{trial}/entries"), None, &entry)
            .await;
    }
    let view = server.get(&at).await;
    let asked = view["trials"][0]["hurts"].as_array().unwrap();
    assert_eq!(asked.len(), hurts.len() + 1);
    for of in hurts {
        let row = (asked.iter())
            .find(|row| (&row["place"], &row["side"]) == (&of["place"], &of["side"]))
            .unwrap();
        assert_eq!(row["now"], of["how_bad"]);
    }
    for (wrong, field) in [
        (json!({"place": "neck", "how_bad": 11}), "how_bad"),
        (
            json!({"place": "neck", "side": "left", "how_bad": 2}),
            "side",
        ),
    ] {
        let entry = json!({"id": id(), "body": {"hurts": wrong}});
        let (status, refused) = server
            .post(&format!("/api/trials/{trial}/entries"), None, &entry)
            .await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert_eq!(
            refused["errors"][0]["pointer"],
            format!("/body/hurts/{field}")
        );
    }
    assert_eq!(
        server.get(&at).await["trials"][0]["hurts"],
        view["trials"][0]["hurts"]
    );
    let scales = server
        .write(&format!("{at}/scales"), None, &json!({}))
        .await;
    let (front, rear) = (&scales["wheels"]["front_kg"], &scales["wheels"]["rear_kg"]);
    let weighed = server
        .get(&format!("{at}/weighed?front_kg={front}&rear_kg={rear}"))
        .await;
    assert!((25.0..60.0).contains(&weighed["weighed"]["front_percent"].as_f64().unwrap()));
}

/// Everything the API says of a fit, as one text.
async fn everything(server: &Server, rider: Uuid, at: &str) -> String {
    let mut all = String::new();
    for path in [
        at.to_owned(),
        format!("{at}/takes"),
        format!("{at}/said"),
        format!("{at}/handout"),
        format!("{at}/feet"),
        format!("{at}/saddle"),
        format!("{at}/bars"),
        format!("{at}/cranks"),
        format!("/api/riders/{rider}"),
        format!("/api/practice/{rider}"),
        "/api/practice".to_owned(),
        "/api/devices".to_owned(),
        "/api/riders".to_owned(),
    ] {
        all += &server.get(&path).await.to_string();
    }
    all
}

#[tokio::test]
async fn the_truth_is_in_no_answer_before_the_end_and_in_one_after_it() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let seed = 4_711;
    let (rider, at) = practice(&server, "masking", false, seed).await;
    take(&server, &at, "camera", false, id()).await;
    let (status, said) = server
        .send(Method::GET, &format!("{at}/judge"), None, None)
        .await
        .unwrap();
    assert_eq!(status, StatusCode::CONFLICT, "{said}");
    let before = everything(&server, rider, &at).await;
    let stranger = Stranger::at(Level::Masking, seed.into());
    // A number of the truth, as far as it would be told by anybody who has it.
    let told = |value: f64| value.to_string().chars().take(9).collect::<String>();
    let mut truth: Vec<String> = Vec::new();
    for axis in Axis::ALL {
        let window = stranger.hidden.window(*axis);
        truth.extend([told(window.centre), told(window.centre - window.half)]);
    }
    let body = stranger.hidden.body();
    truth.extend([told(body.thigh[0]), told(body.trunk), told(body.forearm)]);
    for number in &truth {
        assert!(
            !before.contains(number.as_str()),
            "{number} is told before the end"
        );
    }
    for word in [
        "\"seed\"",
        "\"laws\"",
        "\"window\"",
        "\"troubles\"",
        "\"character\"",
    ] {
        assert!(!before.contains(word), "{word}");
    }
    assert!(before.contains("\"revealed\":null"));
    // A trial on the bench is settled first.
    let trial = tries(&server, &at, 4.0).await;
    let end = format!("/api/practice/{rider}/end");
    assert_eq!(
        server.post(&end, None, &json!({})).await.0,
        StatusCode::CONFLICT
    );
    let kept = json!({"id": id(), "body": {"outcome": "kept"}});
    server
        .write(&format!("/api/trials/{trial}/entries"), None, &kept)
        .await;
    let ended = server.write(&end, None, &json!({})).await;
    assert_eq!(
        ended,
        server.write(&end, None, &json!({})).await,
        "ended once"
    );
    let axes = ended["revealed"]["axes"].as_array().unwrap();
    assert_eq!(axes.len(), Axis::ALL.len());
    let height = stranger.hidden.window(Axis::Height);
    let low = axes[Axis::Height as usize]["window"][0].as_f64().unwrap();
    assert!((low - (height.centre - height.half)).abs() < 1e-9);
    assert_eq!(ended["revealed"]["trials"].as_array().unwrap().len(), 1);
    assert_eq!(ended["fit"]["ended"]["trials"], 1);
    assert!(
        server.get(&format!("{at}/judge")).await["next"].is_object(),
        "the judge is asked now"
    );
}

#[tokio::test]
async fn practice_stands_apart_from_riders_records() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let real = rider(&server).await;
    let (practised, at) = practice(&server, "trap", true, 12).await;
    let riders = server.get("/api/riders?archived=true").await;
    let ids: Vec<&str> = riders
        .as_array()
        .unwrap()
        .iter()
        .filter_map(|of| of["id"].as_str())
        .collect();
    assert_eq!(ids, [real.to_string()]);
    let studio = server.text("/api/studio/file").await;
    assert!(studio.contains(&real.to_string()) && !studio.contains(&practised.to_string()));
    let nobody = json!({"id": id(), "apprentice": " ", "level": "trap", "judge": true});
    let (status, refused) = server.post("/api/practice", None, &nobody).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(refused["errors"][0]["pointer"], "/apprentice");
    // Four ended fits show a trend, of the one who made them.
    for _ in 0..3 {
        let (other, _) = practice(&server, "one_thing", true, 30).await;
        server
            .write(&format!("/api/practice/{other}/end"), None, &json!({}))
            .await;
    }
    server
        .write(&format!("/api/practice/{practised}/end"), None, &json!({}))
        .await;
    let view = server.get("/api/practice").await;
    assert_eq!(view["fits"].as_array().unwrap().len(), 4);
    assert_eq!(view["trends"][0]["apprentice"], "Orla Finch");
    assert_eq!(view["trends"][0]["missed"].as_array().unwrap().len(), 4);
    assert!(
        view["trends"][0]["words"]
            .as_str()
            .unwrap()
            .starts_with("4 fits")
    );
    // Deleted, nothing of his takes is left, in the record or its log.
    let taken = id();
    take(&server, &at, "camera", false, taken).await;
    let version = server.get(&format!("/api/riders/{practised}")).await["version"].as_i64();
    let gone = server
        .send(
            Method::DELETE,
            &format!("/api/riders/{practised}"),
            version,
            None,
        )
        .await
        .unwrap();
    assert_eq!(gone.0, StatusCode::OK);
    let (status, _, _) = server.bytes(&format!("/api/takes/{taken}/trc")).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    for ending in ["", "-wal"] {
        let bytes = std::fs::read(format!("{}{ending}", file.display())).unwrap_or_default();
        let id = taken.to_string();
        assert!(
            !bytes.windows(id.len()).any(|at| at == id.as_bytes()),
            "{ending}"
        );
    }
}

#[tokio::test]
async fn a_stand_is_a_bike_without_a_frame_that_goes_where_the_board_says() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let rider = rider(&server).await;
    let stand = id();
    let made = server
        .write(
            &format!("/api/riders/{rider}/stands"),
            None,
            &json!({"id": stand}),
        )
        .await;
    assert_eq!(
        (&made["bike"]["stand"], &made["bike"]["name"]),
        (&json!(true), &json!("Fit stand"))
    );
    let session = id();
    let body = json!({"id": session, "day": "2026-11-29"});
    let mut view = server
        .write(&format!("/api/bikes/{stand}/sessions"), None, &body)
        .await;
    let at = format!("/api/sessions/{session}");
    for (quantity, value) in [("saddle_height_mm", 700.0), ("setback_mm", 160.0)] {
        let reading = json!({"id": id(), "quantity": quantity, "value": value, "method": "tape"});
        view = server
            .write(&format!("{at}/readings"), version(&view), &reading)
            .await;
    }
    let moved = server.write(&format!("{at}/stand"), None, &json!({})).await;
    let up = |moved: &Value| moved["moved"]["stands"]["up_mm"].as_f64().unwrap();
    let before = up(&moved);
    server
        .write(&format!("{at}/found"), version(&view), &json!({}))
        .await;
    tries(&server, &at, 8.0).await;
    fault(&server, "stand", true, json!("unplugged")).await;
    let half = server.write(&format!("{at}/stand"), None, &json!({})).await;
    assert!(
        half["trouble"]["words"]
            .as_str()
            .unwrap()
            .contains("half-way")
    );
    fault(&server, "stand", true, Value::Null).await;
    let there = server.write(&format!("{at}/stand"), None, &json!({})).await;
    assert!((up(&there) - before - 8.0).abs() < 2.0, "{there}");
    assert!(up(&half) > before && up(&half) < up(&there));
    // Its bracket is ridden in steps of a millimetre.
    let bars = server.get(&format!("{at}/bars")).await.to_string();
    assert!(
        bars.contains("\"on\":\"stand\"") && bars.contains("\"step_mm\":1.0"),
        "{bars}"
    );
    assert_eq!(server.get(&format!("{at}/handout")).await["stand"], true);
}
