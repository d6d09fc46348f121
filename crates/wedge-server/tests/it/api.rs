//! The API over real HTTP on a real file.
use crate::support::{
    Server, begin, bike, data, enter, id, path, reading, rider, session, version,
};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn close(value: &Value, to: f64) -> bool {
    (value.as_f64().unwrap() - to).abs() < 1e-6
}

#[tokio::test]
async fn a_fit_from_the_door_to_the_hand_out() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    assert!(close(
        &view["found"]["after"]["dimensions"]["saddle_height_straight_mm"],
        712.0
    ));
    assert_eq!(view["session"]["station"], "first_look");

    // What is foreseen by the pure computation is what is stored with the trial.
    let change = json!([{"quantity": "saddle_height_mm", "to": 706.0}]);
    let mut input = view["input"].clone();
    input["changes"] = change.clone();
    let foreseen = server.write("/api/foresee", None, &input).await;
    assert_eq!(foreseen["title"], "Saddle down 6");
    let view = begin(&server, &view, change).await;
    let trial = &view["trials"][0];
    assert!(
        trial["trial"]["foreseen"]["rows"] == foreseen["rows"],
        "the same input, the same answer"
    );
    assert_eq!(
        trial["trial"]["foreseen"]["core_version"],
        wedge_core::VERSION
    );
    assert_eq!(trial["outcome"], Value::Null);
    assert!(close(
        &view["now"]["after"]["dimensions"]["saddle_height_straight_mm"],
        706.0
    ));

    let seen = json!({"seen": {"output": "knee_at_full_reach_deg", "side": "left", "value": 36.0}});
    enter(&server, &view, seen).await;
    enter(&server, &view, json!({"verdict": "better"})).await;
    enter(&server, &view, json!({"words": "steadier"})).await;
    let view = enter(&server, &view, json!({"outcome": "kept"})).await;
    assert_eq!(view["trials"][0]["words"], "steadier");
    assert_eq!(view["trials"][0]["seen"][0]["value"], 36.0);

    let view = begin(&server, &view, json!([{"quantity": "stem_mm", "by": -10}])).await;
    let view = enter(&server, &view, json!({"outcome": "put_back"})).await;
    assert!(close(&view["input"]["setup"]["cockpit"]["stem_mm"], 100.0));

    let handout = server.get(&format!("{}/handout", path(&view))).await;
    let line = &handout["table"][0];
    assert_eq!(
        (&line["drawn"], &line["label"]),
        (&json!("saddle_height_mm"), &json!("Saddle height"))
    );
    assert!(
        close(&line["found"], 712.0)
            && close(&line["left"], 706.0)
            && close(&line["difference"], -6.0)
    );
    let lines = ["kept", "not_kept"].map(|of| handout[of].as_array().unwrap().len());
    assert_eq!(lines.iter().sum::<usize>(), 2);

    let finished = server
        .write(
            &format!("{}/finish", path(&view)),
            version(&view),
            &json!({}),
        )
        .await;
    assert_eq!(finished["session"]["state"], "finished");
    let (status, problem) = server
        .post(
            &format!("{}/readings", path(&view)),
            version(&finished),
            &reading("stem_mm", 90.0),
        )
        .await;
    assert_eq!(status, StatusCode::CONFLICT, "{problem}");

    // The next fit begins where this one left the bike.
    let bike = finished["bike"]["id"].as_str().unwrap();
    let next = server
        .write(
            &format!("/api/bikes/{bike}/sessions"),
            None,
            &json!({"id": id(), "day": "2026-12-01"}),
        )
        .await;
    assert_eq!(next["session"]["number"], 2);
    assert!(close(
        &next["input"]["setup"]["saddle"]["saddle_height_mm"],
        706.0
    ));
}

#[tokio::test]
async fn bad_input_is_answered_beside_its_field_and_nothing_is_written() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let new = |name: &str, stature: Value, inseam: Value| json!({"id": id(), "name": name, "stature_mm": stature, "inseam_mm": inseam});
    for (body, pointers) in [
        (new(" ", json!(1712), json!(802)), vec!["/name"]),
        (new("Ida", json!(171), json!(802)), vec!["/stature_mm"]),
        (new("Ida", json!("thirty"), json!(802)), vec!["/stature_mm"]),
        (new("Ida", json!(1712), json!(540)), vec!["/inseam_mm"]),
        (
            new("", json!(171), json!(80)),
            vec!["/name", "/stature_mm", "/inseam_mm"],
        ),
    ] {
        let (status, problem) = server.post("/api/riders", None, &body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
        let found: Vec<_> = problem["errors"]
            .as_array()
            .unwrap()
            .iter()
            .map(|e| e["pointer"].as_str().unwrap())
            .collect();
        assert_eq!(found, pointers, "{problem}");
    }
    assert_eq!(server.get("/api/riders").await, json!([]));

    let rider = rider(&server).await;
    let mut broken = bike();
    broken["frame"]["head_angle_deg"] = json!(7.2);
    broken["pedalling"]["left"]["crank_mm"] = json!(17.0);
    let (status, problem) = server
        .post(&format!("/api/riders/{rider}/bikes"), None, &broken)
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/frame/head_angle_deg");
    assert_eq!(problem["errors"][1]["pointer"], "/pedalling/left/crank_mm");
    assert_eq!(
        server.get(&format!("/api/riders/{rider}")).await["rider"]["bikes"],
        json!([])
    );
}

#[tokio::test]
async fn a_stale_write_is_refused_and_a_repeated_one_is_harmless() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    let was = version(&view).unwrap();
    let (status, _) = server.patch(&at, was, &json!({"station": "cranks"})).await;
    assert_eq!(status, StatusCode::OK);
    let (status, problem) = server.patch(&at, was, &json!({"station": "bars"})).await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert_eq!(problem["current_version"], was + 1);
    let (status, _) = server
        .send(Method::PATCH, &at, None, Some(&json!({"station": "bars"})))
        .await
        .unwrap();
    assert_eq!(status, StatusCode::PRECONDITION_REQUIRED);

    // The same trial sent twice, the second time with the version of the first.
    let view = server.get(&at).await;
    let trial = json!({"id": id(), "changes": [{"quantity": "crank_mm", "to": 170.0}]});
    let first = server
        .write(&format!("{at}/trials"), version(&view), &trial)
        .await;
    let again = server
        .write(&format!("{at}/trials"), version(&view), &trial)
        .await;
    assert_eq!(first["version"], again["version"]);
    assert_eq!(again["trials"].as_array().unwrap().len(), 1);

    // Another one must wait until this one is settled, and a settled one takes no second outcome.
    let other = json!({"id": id(), "changes": [{"quantity": "stem_mm", "to": 90.0}]});
    let (status, _) = server
        .post(&format!("{at}/trials"), version(&again), &other)
        .await;
    assert_eq!(status, StatusCode::CONFLICT);
    enter(&server, &again, json!({"outcome": "kept"})).await;
    let place = format!(
        "/api/trials/{}/entries",
        again["trials"][0]["trial"]["id"].as_str().unwrap()
    );
    let (status, _) = server
        .post(
            &place,
            None,
            &json!({"id": id(), "body": {"outcome": "put_back"}}),
        )
        .await;
    assert_eq!(status, StatusCode::CONFLICT);
}

#[tokio::test]
async fn the_bike_as_found_waits_for_the_tape() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let rider = rider(&server).await;
    let bike = bike();
    server
        .write(&format!("/api/riders/{rider}/bikes"), None, &bike)
        .await;
    let sessions = format!("/api/bikes/{}/sessions", bike["id"].as_str().unwrap());
    let view = server
        .write(&sessions, None, &json!({"id": id(), "day": "2026-11-23"}))
        .await;
    assert_eq!(view["unknown"], json!(["saddle_height_mm", "setback_mm"]));
    let (status, problem) = server
        .post(
            &format!("{}/found", path(&view)),
            version(&view),
            &json!({}),
        )
        .await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert_eq!(
        problem["detail"],
        "Tape the saddle height and the setback first"
    );
    let (status, _) = server
        .post(&sessions, None, &json!({"id": id(), "day": "2026-11-23"}))
        .await;
    assert_eq!(status, StatusCode::CONFLICT, "one open fit per bike");

    // A reading in another convention is converted, a hand taped elsewhere becomes a residual and a question.
    let at = format!("{}/readings", path(&view));
    let mut tube = reading("saddle_height_mm", 730.0);
    tube["convention"] = json!("saddle_height_seat_tube");
    let view = server.write(&at, version(&view), &tube).await;
    assert!(close(
        &view["now"]["after"]["dimensions"]["saddle_height_seat_tube_mm"],
        730.0
    ));
    let view = server
        .write(&at, version(&view), &reading("setback_mm", 200.0))
        .await;
    let hood = view["now"]["after"]["dimensions"]["bb_to_hood_mm"]
        .as_f64()
        .unwrap();
    let view = server
        .write(&at, version(&view), &reading("bb_to_hand_mm", hood + 9.0))
        .await;
    assert!(
        view["checks"][0]["words"]
            .as_str()
            .unwrap()
            .contains("9 mm further forward")
    );
    assert_eq!(view["unknown"], json!([]));
}

#[tokio::test]
async fn only_its_own_pages_may_talk_to_it() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let client = reqwest::Client::new();
    let status = |header: &'static str, value: &'static str| {
        let request = client
            .get(format!("{}/api/health", server.url))
            .header(header, value);
        async move { request.send().await.unwrap().status() }
    };
    assert_eq!(status("x-nothing", "at all").await, StatusCode::OK);
    assert_eq!(status("Host", "ferry.example").await, StatusCode::FORBIDDEN);
    assert_eq!(
        status("Origin", "http://ferry.example").await,
        StatusCode::FORBIDDEN
    );
    assert_eq!(status("Origin", "null").await, StatusCode::FORBIDDEN);

    let page = client.get(&server.url).send().await.unwrap();
    let policy = page.headers()["content-security-policy"]
        .to_str()
        .unwrap()
        .to_owned();
    assert!(
        policy.starts_with("default-src 'none'; script-src 'self';"),
        "{policy}"
    );
    assert!(!policy.contains("unsafe"), "{policy}");
    let again = client.get(&server.url).send().await.unwrap();
    assert_ne!(
        again.headers()["content-security-policy"],
        policy.as_str(),
        "the nonce is fresh"
    );
}

#[tokio::test]
async fn a_file_goes_out_and_comes_in_whole_or_not_at_all() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let view = begin(
        &server,
        &view,
        json!([{"quantity": "cleat_setback_mm", "side": "left", "by": 3}]),
    )
    .await;
    enter(&server, &view, json!({"words": "odd, “but fine”"})).await;
    let rider = view["rider"]["id"].as_str().unwrap().to_owned();
    let written = server.get(&format!("/api/riders/{rider}/file")).await;

    let (status, problem) = server.post("/api/import", None, &written).await;
    assert_eq!(status, StatusCode::CONFLICT, "{problem}");
    assert!(problem["detail"].as_str().unwrap().contains(&rider));

    let (_other_folder, other_file) = data();
    let other = Server::start(&other_file);
    let mut broken = written.clone();
    broken["rider"]["bikes"][0]["sessions"][0]["setups"][1]["setup"]["cockpit"]["stem_mm"] =
        json!("long");
    let (status, problem) = other.post("/api/import", None, &broken).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(
        problem["errors"][0]["pointer"],
        "rider.bikes[0].sessions[0].setups[1].setup.cockpit.stem_mm"
    );
    assert_eq!(other.get("/api/riders").await, json!([]));
    other.write("/api/import", None, &written).await;
    assert_eq!(
        other.get(&format!("/api/riders/{rider}/file")).await,
        written
    );
}

#[tokio::test]
async fn a_draft_is_kept_and_goes_with_the_fit() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    let draft = json!({"targets": {"stem_mm": 90}, "texts": {}, "words": "hm"});
    let (status, _) = server
        .send(Method::PUT, &format!("{at}/draft"), None, Some(&draft))
        .await
        .unwrap();
    assert_eq!(status, StatusCode::NO_CONTENT);
    assert_eq!(server.get(&at).await["draft"], draft);
    server
        .write(&format!("{at}/finish"), version(&view), &json!({}))
        .await;
    assert_eq!(server.get(&at).await["draft"], Value::Null);
    let (status, _) = server
        .send(Method::PUT, &format!("{at}/draft"), None, Some(&draft))
        .await
        .unwrap();
    assert_eq!(status, StatusCode::NOT_FOUND);
}

#[test]
fn the_committed_description_is_the_one_the_server_has() {
    let committed: Value =
        serde_json::from_str(include_str!("../../../../web/src/api/openapi.json")).unwrap();
    let now: Value = serde_json::from_str(&wedge_server::api::openapi_json().unwrap()).unwrap();
    assert!(
        committed == now,
        "the API changed: run `make api` and commit what it writes"
    );
}

#[tokio::test]
async fn the_demo_studio_comes_in_through_the_door_of_a_users_file() {
    let (_folder, file) = data();
    let store = wedge_store::Store::open(&file).await.unwrap();
    let riders = wedge_server::demo::fill(&store).await.unwrap();
    let listed = store.riders("", false, 100).await.unwrap();
    assert_eq!(listed.len(), riders);
    assert_eq!(
        listed.iter().filter(|r| r.open.is_some()).count(),
        7,
        "seven are half-way"
    );
    assert!(store.riders("OSTBY", false, 100).await.unwrap().len() == 1);
    assert!(
        store.riders("%", false, 100).await.unwrap().is_empty(),
        "a percent sign is a letter"
    );
}

#[tokio::test]
async fn answers_are_compressed_for_who_takes_them_so() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = format!("{}/api/catalogue", server.url);
    let ask = |takes: Option<&'static str>| {
        let request = reqwest::Client::new().get(&at);
        let request = match takes {
            Some(takes) => request.header("Accept-Encoding", takes),
            None => request,
        };
        async move {
            let answer = request.send().await.unwrap();
            let encoding = answer.headers().get("Content-Encoding").cloned();
            (encoding, answer.bytes().await.unwrap().len())
        }
    };
    let (none, plain) = ask(None).await;
    assert_eq!(none, None);
    let (gzip, small) = ask(Some("gzip")).await;
    assert_eq!(gzip.unwrap(), "gzip");
    assert!(small * 3 < plain, "{small} of {plain}");
}

#[tokio::test]
async fn the_invented_riders_come_only_where_nobody_is_on_record() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let take = || async {
        let answer = reqwest::Client::new()
            .post(format!("{}/api/demo", server.url))
            .send()
            .await
            .unwrap();
        (
            answer.status().as_u16(),
            answer.json::<serde_json::Value>().await.unwrap(),
        )
    };
    let (status, taken) = take().await;
    assert_eq!(status, 200);
    assert!(taken["riders"].as_array().unwrap().len() > 4);
    let (status, refused) = take().await;
    assert_eq!(status, 409);
    assert!(
        refused["detail"]
            .as_str()
            .unwrap()
            .starts_with("Somebody is on record")
    );
}
