//! Bikes of every kind over the API, and what the room and the rider's page are drawn from.
use crate::support::{
    Server, begin, bike, data, enter, id, like, path, reading, rider, session_on, version,
};
use reqwest::StatusCode;
use serde_json::{Value, json};
use wedge_core::example;

#[tokio::test]
async fn a_bike_of_each_kind_is_written_down_taped_and_stepped() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    for (example, place, drop, step) in [
        (example::gravel(), "hoods", "drop_hood", "hood_rise_mm"),
        (example::flat_bar(), "grips", "drop_grip", "backsweep_deg"),
        (example::time_trial(), "pads", "drop_pad", "pad_spacers_mm"),
    ] {
        let view = session_on(&server, &like(&example), 690.0, 150.0).await;
        assert_eq!(view["now"]["after"]["hands"], place);
        // The session tapes to what the bar has.
        assert_eq!(view["session"]["conventions"]["drop"], drop);
        let view = begin(&server, &view, json!([{"quantity": step, "by": 5.0}])).await;
        let foreseen = &view["trials"][0]["trial"]["foreseen"];
        assert_eq!(foreseen["turns"].as_array().unwrap().len(), 1, "{foreseen}");
        for row in foreseen["rows"].as_array().unwrap() {
            assert!(row["band"].as_f64().is_some(), "{row}");
        }
        let view = enter(&server, &view, json!({"outcome": "kept"})).await;
        let bar = &view["input"]["setup"]["bar"];
        let parts = bar.as_object().unwrap().values().next().unwrap();
        let was = serde_json::to_value(example.setup.bar).unwrap();
        let was = was.as_object().unwrap().values().next().unwrap()[step].as_f64();
        assert_eq!(parts[step].as_f64().unwrap(), was.unwrap() + 5.0);
    }
}

#[tokio::test]
async fn what_a_bar_has_not_is_refused_at_its_field() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session_on(&server, &like(&example::flat_bar()), 690.0, 190.0).await;
    let at = path(&view);

    let (status, problem) = server
        .patch(&at, version(&view).unwrap(), &json!({"hands": "drops"}))
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/hands");
    assert_eq!(problem["errors"][0]["detail"], "This bar has no drops");

    let mut hood = reading("drop_mm", 40.0);
    hood["convention"] = json!("drop_hood");
    let readings = format!("{at}/readings");
    let (status, problem) = server.post(&readings, version(&view), &hood).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/convention");

    let (status, problem) = server
        .post(&readings, version(&view), &reading("pad_tilt_deg", 8.0))
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(
        problem["errors"][0]["detail"],
        "That is not measured on this bike"
    );

    // Nothing of this was written.
    assert_eq!(server.get(&at).await["version"], view["version"]);

    let mut short = like(&example::flat_bar());
    short["bar"]["flat"]["flat_bar_width_mm"] = json!(350);
    short["bar"]["flat"]["grip_from_end_mm"] = json!(150);
    let rider = rider(&server).await;
    let (status, problem) = server
        .post(&format!("/api/riders/{rider}/bikes"), None, &short)
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(
        problem["errors"][0]["pointer"],
        "/bar/flat/flat_bar_width_mm"
    );
}

#[tokio::test]
async fn a_drop_bar_is_looked_at_where_the_hands_are() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session_on(&server, &bike(), 712.0, 188.0).await;
    let torso = |view: &Value| view["now"]["after"]["upper"]["torso_deg"].as_f64().unwrap();
    let (status, drops) = server
        .patch(
            &path(&view),
            version(&view).unwrap(),
            &json!({"hands": "drops"}),
        )
        .await;
    assert_eq!(status, StatusCode::OK, "{drops}");
    assert!(torso(&drops) < torso(&view) - 3.0);
    // Ranges for the hoods do not judge the drops.
    let marks = drops["now"]["after"]["marks"].as_array().unwrap();
    assert!(
        marks.iter().all(|m| m["output"] != "torso_deg"),
        "{marks:?}"
    );
    // It is part of the record, and goes with it.
    let rider = drops["rider"]["id"].as_str().unwrap();
    let file = server.get(&format!("/api/riders/{rider}/file")).await;
    assert_eq!(file["rider"]["bikes"][0]["sessions"][0]["hands"], "drops");
}

#[tokio::test]
async fn the_sit_reference_chosen_is_what_is_read_and_written() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session_on(&server, &bike(), 712.0, 188.0).await;
    let mut conventions = view["session"]["conventions"].clone();
    conventions["sit_reference"] = json!("nose");
    let (status, nose) = server
        .patch(
            &path(&view),
            version(&view).unwrap(),
            &json!({"conventions": conventions}),
        )
        .await;
    assert_eq!(status, StatusCode::OK, "{nose}");
    let setback = |view: &Value| {
        view["now"]["after"]["dimensions"]["setback_sit_mm"]
            .as_f64()
            .unwrap()
    };
    // A level saddle, 150 from the nose to where it is 80 mm wide.
    assert!((setback(&view) - setback(&nose) - 150.0).abs() < 1e-6);
    // Taped 5 further back to the nose, the saddle is 5 further back.
    let place = format!("{}/readings", path(&view));
    let back = server
        .write(
            &place,
            version(&nose),
            &reading("setback_mm", setback(&nose) + 5.0),
        )
        .await;
    let x = |view: &Value| view["now"]["after"]["bike"]["sit"][0].as_f64().unwrap();
    assert!(
        (x(&nose) - x(&back) - 5.0).abs() < 0.02,
        "{} {}",
        x(&nose),
        x(&back)
    );
}

#[tokio::test]
async fn the_room_and_the_riders_page_are_drawn_from_positions() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session_on(&server, &bike(), 712.0, 188.0).await;
    let view = begin(
        &server,
        &view,
        json!([{"quantity": "saddle_height_mm", "by": -4.0}]),
    )
    .await;
    let view = enter(&server, &view, json!({"words": "Rounder."})).await;
    let view = enter(&server, &view, json!({"outcome": "kept"})).await;

    let room = server.get("/api/riders").await;
    let open = &room[0]["open"];
    assert_eq!(open["words"], "Rounder.");
    assert_eq!(open["position"]["bike"], view["now"]["after"]["bike"]);

    let rider = view["rider"]["id"].as_str().unwrap().to_owned();
    let page = server.get(&format!("/api/riders/{rider}")).await;
    assert_eq!(page["years"]["fits"].as_array().unwrap().len(), 1);
    server
        .write(
            &format!("{}/finish", path(&view)),
            version(&view),
            &json!({}),
        )
        .await;

    // The rider grows: the finished fit keeps the body it was made for, the next one starts from the new.
    let mut taller = server.get(&format!("/api/riders/{rider}")).await;
    for (quantity, value) in [("stature_mm", 1760.0), ("inseam_mm", 830.0)] {
        taller = server
            .write(
                &format!("/api/riders/{rider}/readings"),
                version(&taller),
                &reading(quantity, value),
            )
            .await;
    }
    let knee = |position: &Value| {
        position["legs"]["right"]["knee"]["smallest_deg"]
            .as_f64()
            .unwrap()
    };
    let kept = server.get(&format!("{}/position", path(&view))).await;
    assert_eq!(knee(&kept), knee(&view["now"]["after"]));
    let years = &taller["years"]["fits"][0]["measures"];
    assert_eq!(years[3]["left"].as_f64().unwrap(), knee(&kept));
    let again = format!(
        "/api/bikes/{}/sessions",
        view["bike"]["id"].as_str().unwrap()
    );
    let next = server
        .write(&again, None, &json!({"id": id(), "day": "2026-11-24"}))
        .await;
    assert!(knee(&next["now"]["after"]) > knee(&view["now"]["after"]) + 5.0);
}

#[tokio::test]
async fn two_windows_on_one_body_do_not_overwrite_each_other() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let rider = rider(&server).await;
    let at = format!("/api/riders/{rider}/readings");
    let read = server.get(&format!("/api/riders/{rider}")).await;
    server
        .write(&at, version(&read), &reading("trunk_mm", 498.0))
        .await;
    let (status, problem) = server
        .post(&at, version(&read), &reading("trunk_mm", 505.0))
        .await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert_eq!(
        problem["current_version"].as_i64(),
        version(&read).map(|v| v + 1)
    );
    let (status, _) = server.post(&at, None, &reading("trunk_mm", 505.0)).await;
    assert_eq!(status, StatusCode::PRECONDITION_REQUIRED);
    let readings = server.get(&format!("/api/riders/{rider}")).await["rider"]["readings"].clone();
    let trunks: Vec<&Value> = readings
        .as_array()
        .unwrap()
        .iter()
        .filter(|r| r["quantity"] == "trunk_mm")
        .collect();
    assert_eq!(trunks.len(), 1);
    assert_eq!(trunks[0]["value"], 498.0);
}

#[tokio::test]
async fn an_unknown_name_is_refused_in_a_few_words() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let rider = rider(&server).await;
    let read = server.get(&format!("/api/riders/{rider}")).await;
    let (status, problem) = server
        .post(
            &format!("/api/riders/{rider}/readings"),
            version(&read),
            &reading("trunc_mm", 498.0),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let said = problem["detail"].as_str().unwrap();
    assert!(said.contains("trunc_mm") && said.len() < 120, "{said}");
}
