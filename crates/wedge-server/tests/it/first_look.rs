//! From the door to the first look over real HTTP: intake and red flags, repeated readings, what is seen, calibration,
//! the studio's own ways and frames.
use crate::support::{Server, begin, bike, data, id, path, put, rider, session, version};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn number(value: &Value) -> f64 {
    value.as_f64().unwrap()
}

fn measure<'a>(view: &'a Value, quantity: &str, side: Option<&str>) -> &'a Value {
    view["body"]
        .as_array()
        .unwrap()
        .iter()
        .find(|m| m["quantity"] == quantity && m["side"].as_str() == side)
        .unwrap()
}

async fn read(
    server: &Server,
    view: &Value,
    quantity: &str,
    side: Option<&str>,
    value: f64,
) -> Value {
    let rider = view["rider"]["id"].as_str().unwrap();
    let body = json!({"id": id(), "quantity": quantity, "side": side, "value": value});
    let at = view["rider"]["version"].as_i64();
    server
        .write(&format!("/api/riders/{rider}/readings"), at, &body)
        .await;
    server.get(&path(view)).await
}

#[tokio::test]
async fn a_red_flag_stops_the_way_until_a_reason_is_written_that_lands_on_the_hand_out() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = format!("{}/intake", path(&view));

    let mut intake = view["session"]["intake"].clone();
    intake["flags"] = json!(["swelling"]);
    let (status, stopped) = put(&server, &at, version(&view), &intake).await;
    assert_eq!(status, StatusCode::OK, "{stopped}");
    assert_eq!(stopped["stopped"], true);
    assert_eq!(stopped["stops"][0]["label"], "A swollen joint");

    // Nothing that goes on is let through, and nothing is written by it.
    let station = json!({"station": "saddle_height"});
    let (status, problem) = server
        .patch(&path(&view), version(&stopped).unwrap(), &station)
        .await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(
        problem["detail"]
            .as_str()
            .unwrap()
            .contains("a swollen joint")
    );
    let trial = json!({"id": id(), "changes": [{"quantity": "saddle_height_mm", "by": -5}]});
    for (route, body) in [
        ("trials", trial),
        ("looks", json!({"id": id(), "body": {"words": "fine"}})),
        ("calibrations", json!({"id": id(), "on": true})),
        ("finish", json!({})),
    ] {
        let route = format!("{}/{route}", path(&view));
        let (status, _) = server.post(&route, version(&stopped), &body).await;
        assert_eq!(status, StatusCode::CONFLICT, "{route}");
    }
    assert_eq!(server.get(&path(&view)).await["trials"], json!([]));

    // A reason that is none is refused at its field; a written one covers this flag and no other.
    intake["go_on"] = json!({"reason": "ok", "flags": ["swelling"]});
    let (status, problem) = put(&server, &at, version(&stopped), &intake).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/go_on/reason");
    intake["go_on"]["reason"] = json!("Her doctor cleared the knee on Tuesday");
    let (_, going) = put(&server, &at, version(&stopped), &intake).await;
    assert_eq!(going["stopped"], false);
    intake["flags"] = json!(["swelling", "night_pain"]);
    let (_, again) = put(&server, &at, version(&going), &intake).await;
    assert_eq!(again["stopped"], true);
    intake["flags"] = json!(["swelling"]);
    let (_, going) = put(&server, &at, version(&again), &intake).await;
    begin(
        &server,
        &going,
        json!([{"quantity": "saddle_height_mm", "by": -5}]),
    )
    .await;
    let handout = server.get(&format!("{}/handout", path(&view))).await;
    let line = handout["intake"][0].as_str().unwrap();
    assert!(
        line.contains("Her doctor cleared the knee on Tuesday"),
        "{line}"
    );

    // Another window's answer is not overwritten.
    let (status, _) = put(&server, &at, version(&stopped), &intake).await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
}

#[tokio::test]
async fn readings_of_a_visit_are_kept_together_and_one_is_set_aside() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let mut view = session(&server).await;
    for value in [430.0, 432.0, 470.0] {
        view = read(&server, &view, "thigh_mm", Some("left"), value).await;
    }
    let thigh = measure(&view, "thigh_mm", Some("left"));
    assert_eq!(thigh["readings"].as_array().unwrap().len(), 3);
    assert!((number(&thigh["measured"]) - 444.0).abs() < 1e-9);
    assert_eq!(thigh["repeated"]["far"], json!([2]));
    assert!(
        thigh["questions"][0]
            .as_str()
            .unwrap()
            .starts_with("470 mm is far")
    );
    assert_eq!(
        measure(&view, "thigh_mm", Some("right"))["measured"],
        Value::Null
    );

    let far = thigh["readings"][2]["id"].as_str().unwrap().to_owned();
    let rider = view["rider"]["id"].as_str().unwrap().to_owned();
    let aside = format!("/api/riders/{rider}/readings/{far}/aside");
    let at = view["rider"]["version"].as_i64();
    server.write(&aside, at, &json!({})).await;
    let view = server.get(&path(&view)).await;
    let thigh = measure(&view, "thigh_mm", Some("left"));
    assert!((number(&thigh["measured"]) - 431.0).abs() < 1e-9);
    assert_eq!(
        (
            thigh["aside"].as_i64(),
            thigh["questions"].as_array().unwrap().len()
        ),
        (Some(1), 0)
    );
    // It stays on record.
    let record = server.get(&format!("/api/riders/{rider}")).await;
    let kept = record["rider"]["readings"].as_array().unwrap();
    assert!(
        kept.iter()
            .any(|r| r["id"] == far && r["set_aside_at"].is_string())
    );

    // The last stature is not taken away.
    let stature = measure(&view, "stature_mm", None)["readings"][0]["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let at = view["rider"]["version"].as_i64();
    let (status, _) = server
        .post(
            &format!("/api/riders/{rider}/readings/{stature}/aside"),
            at,
            &json!({}),
        )
        .await;
    assert_eq!(status, StatusCode::CONFLICT);

    // Measuring narrows the bands.
    let knee = |view: &Value| number(&view["certainty"][0]["band"]);
    let before = knee(&view);
    let mut view = view;
    for side in ["left", "right"] {
        view = read(&server, &view, "shank_mm", Some(side), 421.0).await;
        view = read(&server, &view, "thigh_mm", Some(side), 431.0).await;
    }
    assert!(knee(&view) < before - 0.1, "{} → {}", before, knee(&view));
    assert!(number(&view["certainty"][0]["with_stature_alone"]) > knee(&view));
}

#[tokio::test]
async fn what_is_seen_stands_beside_what_was_foreseen_and_fits_the_rider() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let looks = format!("{}/looks", path(&view));
    let knee = |view: &Value, side: &str| {
        number(&view["now"]["after"]["legs"][side]["knee"]["smallest_deg"])
    };
    let was = [knee(&view, "left"), knee(&view, "right")];
    for (output, side, value) in [
        ("knee_at_full_reach_deg", Some("left"), was[0] + 6.0),
        ("knee_at_full_reach_deg", Some("right"), was[1] + 6.0),
        ("torso_deg", None, 47.0),
    ] {
        let seen =
            json!({"seen": {"output": output, "side": side, "value": value, "method": "film"}});
        server
            .write(&looks, None, &json!({"id": id(), "body": seen}))
            .await;
    }
    let view = server
        .write(
            &looks,
            None,
            &json!({"id": id(), "body": {"knee": {"side": "left", "path": "in_pushing"}}}),
        )
        .await;
    let first = &view["seen"][0];
    assert!((number(&first["entry"]["foreseen"]["value"]) - was[0]).abs() < 1e-9);
    assert!(number(&first["entry"]["foreseen"]["band"]) > 1.0);
    assert_eq!(view["seen"][3]["words"], "In while pushing");

    let at = format!("{}/calibrations", path(&view));
    let fitted = server
        .write(&at, version(&view), &json!({"id": id(), "on": true}))
        .await;
    assert_eq!(fitted["calibration"]["on"], true);
    assert!((knee(&fitted, "left") - was[0] - 6.0).abs() < 2.5);
    assert!(number(&fitted["certainty"][0]["band"]) < 0.6 * number(&view["certainty"][0]["band"]));
    assert_eq!(
        fitted["calibration"]["calibration"]["parameters"]
            .as_array()
            .unwrap()
            .len(),
        // The rider's, and what the observer adds.
        22
    );

    // Switched off it is as before; the body measured again, it waits to be done anew.
    let off = server
        .write(&at, version(&fitted), &json!({"id": id(), "on": false}))
        .await;
    assert!((knee(&off, "left") - was[0]).abs() < 1e-9);
    let on = server
        .write(&at, version(&off), &json!({"id": id(), "on": true}))
        .await;
    let measured = read(&server, &on, "shank_mm", Some("left"), 400.0).await;
    assert!(
        measured["calibration"]["words"]
            .as_str()
            .unwrap()
            .contains("measured again")
    );
    assert!(measured["input"]["fit"].is_null());

    // What cannot have been seen is refused at its field, and nothing is fitted to nothing.
    for (seen, pointer) in [
        (
            json!({"output": "torso_deg", "side": "left", "value": 40.0}),
            "/body/seen/side",
        ),
        (
            json!({"output": "knee_at_full_reach_deg", "value": 400.0}),
            "/body/seen/value",
        ),
        (
            json!({"output": "setback_on_grade_mm", "value": 20.0}),
            "/body/seen/output",
        ),
    ] {
        let (status, problem) = server
            .post(&looks, None, &json!({"id": id(), "body": {"seen": seen}}))
            .await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
        assert_eq!(problem["errors"][0]["pointer"], pointer);
    }
}

#[tokio::test]
async fn nothing_seen_fits_nothing() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = format!("{}/calibrations", path(&view));
    let (status, problem) = server
        .post(&at, version(&view), &json!({"id": id(), "on": true}))
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/seen");
}

#[tokio::test]
async fn the_studio_chooses_once_and_a_first_fit_follows() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let mut house = server.get("/api/studio").await["house"].clone();
    house["conventions"]["saddle_height"] = json!("saddle_height_seat_tube");
    house["walk"].as_array_mut().unwrap().swap(0, 2);
    let (status, saved) = put(&server, "/api/studio", Some(0), &house).await;
    assert_eq!(status, StatusCode::OK, "{saved}");
    assert_eq!(saved["house"], house);
    let (status, _) = put(&server, "/api/studio", Some(0), &house).await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    let view = session(&server).await;
    assert_eq!(
        view["session"]["conventions"]["saddle_height"],
        "saddle_height_seat_tube"
    );
    assert_eq!(view["walk"], house["walk"]);
    let bars = format!("{}/bars", path(&view));
    let small = server.get(&bars).await["small"].to_string();
    assert!(small.contains("Lower part of the drops level"), "{small}");
    house["leads"]["drop_ends"] = json!("plumb");
    let (status, saved) = put(&server, "/api/studio", Some(1), &house).await;
    assert_eq!(status, StatusCode::OK, "{saved}");
    let small = server.get(&bars).await["small"].to_string();
    assert!(small.contains("Upright ends plumb"), "{small}");

    house["walk"].as_array_mut().unwrap().pop();
    let (status, problem) = put(&server, "/api/studio", Some(2), &house).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/walk");
}

#[tokio::test]
async fn frames_go_in_and_out_as_csv_all_or_nothing() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let url = |path: &str| format!("{}{path}", server.url);
    let client = reqwest::Client::new();
    let send = |text: String| {
        let request = client
            .post(url("/api/frames/import"))
            .header("content-type", "text/csv")
            .body(text);
        async move {
            let answer = request.send().await.unwrap();
            (answer.status(), answer.json::<Value>().await.unwrap())
        }
    };
    let header = client
        .get(url("/api/frames/file"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    let good = "name,kind,frame_reach_mm,frame_stack_mm,head_angle_deg,head_tube_mm,seat_angle_deg,seat_tube_mm,\
                chainstay_mm,bb_drop_mm,front_centre_mm,wheel_radius_mm,lower_stack_mm\n\
                Mill Race 54,road,385,565,73,150,73.5,520,412,70,592,340,5\n";
    assert!(header.starts_with("name,kind,frame_reach_mm"), "{header}");
    let (status, studio) = send(good.to_owned()).await;
    assert_eq!(status, StatusCode::OK, "{studio}");
    assert_eq!(studio["frames"][0]["frame"]["frame_stack_mm"], 565.0);

    // Broken: the second line of two. Nothing of it is taken in.
    let broken = good.replace("Mill Race 54", "Mill Race 56")
        + "Mill Race 58,road,385,thirty,73,150,73.5,520,412,70,592,340,5\n";
    let (status, problem) = send(broken).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        problem["detail"]
            .as_str()
            .unwrap()
            .contains("line 3, frame_stack_mm: “thirty” is not a number"),
        "{problem}"
    );
    let (status, _) = send(good.to_owned()).await;
    assert_eq!(status, StatusCode::CONFLICT);
    let frames = server.get("/api/studio").await["frames"].clone();
    assert_eq!(frames.as_array().unwrap().len(), 1);

    let out = client
        .get(url("/api/frames/file"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    let gone = frames[0]["id"].as_str().unwrap();
    server
        .send(Method::DELETE, &format!("/api/frames/{gone}"), None, None)
        .await
        .unwrap();
    let (_, back) = send(out).await;
    assert_eq!(back["frames"][0]["frame"], frames[0]["frame"]);
}

#[tokio::test]
async fn a_frame_on_no_chart_is_computed_and_stays_marked_until_a_chart_says_otherwise() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let taped =
        json!({"ground_to_bb_mm": 270, "ground_to_head_top_mm": 835, "bb_to_head_top_mm": 683.7});
    let computed = server
        .write(
            "/api/frames/compute",
            None,
            &json!({"seat_angle_deg": 73.5, "taped": taped}),
        )
        .await;
    assert!((number(&computed["frame_reach_mm"]) - 384.994).abs() < 0.01);

    let mut body = bike();
    body["taped"] = taped;
    let rider = rider(&server).await;
    let written = server
        .write(&format!("/api/riders/{rider}/bikes"), None, &body)
        .await;
    let id_of = written["bike"]["id"].as_str().unwrap();
    let view = server
        .write(
            &format!("/api/bikes/{id_of}/sessions"),
            None,
            &json!({"id": id(), "day": "2026-11-23"}),
        )
        .await;
    assert!(
        view["computed"]
            .as_str()
            .unwrap()
            .starts_with("Reach 385 ± 5.5, stack 565 ± 2.8")
    );
    // Another number beside them leaves it; a reach off the chart takes its place.
    let mut frame = written["bike"]["frame"].clone();
    frame["chainstay_mm"] = json!(415);
    let patch = json!({"frame": frame});
    server
        .patch(&format!("/api/bikes/{id_of}"), 1, &patch)
        .await;
    assert_eq!(server.get(&path(&view)).await["computed"], view["computed"]);
    frame["frame_reach_mm"] = json!(386);
    let patch = json!({"frame": frame});
    server
        .patch(&format!("/api/bikes/{id_of}"), 2, &patch)
        .await;
    assert_eq!(server.get(&path(&view)).await["computed"], Value::Null);
}

#[tokio::test]
async fn what_is_typed_with_a_unit_is_read() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let read = async |text: &str| {
        server
            .send(
                Method::GET,
                &format!("/api/typed?text={text}&unit=mm"),
                None,
                None,
            )
            .await
            .unwrap()
    };
    let (_, inches) = read("33%20in").await;
    assert!((number(&inches["value"]) - 838.2).abs() < 1e-9);
    let (status, problem) = read("thirty").await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        problem["errors"][0]["detail"]
            .as_str()
            .unwrap()
            .contains("type it like 845")
    );
}
