//! The next bike over real HTTP: from typed points and a fit to bikes that are written down, their sheets and a frame for its builder.

use crate::support::{Server, data, id, path, rider, session};
use reqwest::StatusCode;
use serde_json::{Value, json};

const FRAMES: &str = "\
Model,Reach (cm),Stack,HTA,HT,STA,ST,CS,BB drop,FC
Weir 52,37.8,543,72.2,132,74,485,410,71,580
Weir 54,38.4,560,72.8,148,73.5,505,410,70,586
Weir 56,39,578,73,166,73.3,525,412,70,594
Far Bank,52,760,73,300,73.3,525,412,70,720
";

fn points() -> Value {
    json!({"points": {
        "kind": "road", "saddle_height_mm": 735.0, "setback_mm": 205.0, "tilt_deg": 0.0,
        "bb_to_hand_mm": 553.0, "bb_to_hand_up_mm": 641.0, "crank_mm": 170.0,
    }})
}

/// Puts the frames above into the library.
async fn library(server: &Server) -> Value {
    let (ok, read) = server
        .post("/api/frames/read", None, &json!({"text": FRAMES}))
        .await;
    assert_eq!(ok, StatusCode::OK, "{read}");
    assert_eq!(
        read["missing"],
        json!(["wheel_radius_mm", "lower_stack_mm"])
    );
    let mut map = read["map"].clone();
    // While a number is missing nothing is kept.
    let (refused, problem) = (server.post(
        "/api/frames/read",
        None,
        &json!({"text": FRAMES, "map": map, "keep": true}),
    ))
    .await;
    assert_eq!(refused, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    assert_eq!(server.get("/api/studio").await["frames"], json!([]));
    map["same"] = json!({"wheel_radius_mm": 336.0, "lower_stack_mm": 5.0});
    let bad = FRAMES.replace("37.8", "very far");
    let (refused, problem) = (server.post(
        "/api/frames/read",
        None,
        &json!({"text": bad, "map": map, "keep": true}),
    ))
    .await;
    assert_eq!(refused, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "line 2, Reach (cm)");
    assert_eq!(server.get("/api/studio").await["frames"], json!([]));
    let (ok, read) = (server.post(
        "/api/frames/read",
        None,
        &json!({"text": FRAMES, "map": map, "keep": true}),
    ))
    .await;
    assert_eq!(
        (ok, read["frames"].as_array().unwrap().len()),
        (StatusCode::OK, 4),
        "{read}"
    );
    server.get("/api/studio").await["frames"].clone()
}

#[tokio::test]
async fn typed_points_choose_a_frame_and_are_carried_to_it() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = format!("/api/riders/{}/next", rider(&server).await);
    let frames = library(&server).await;
    let view = server.write(&at, None, &json!({"from": points()})).await;
    assert_eq!(
        (&view["ridden"], view["frames"].as_array().unwrap().len()),
        (&json!(false), 4)
    );

    let of = |name: &str| {
        frames
            .as_array()
            .unwrap()
            .iter()
            .find(|frame| frame["name"] == name)
            .unwrap()["id"]
            .clone()
    };
    let asked =
        json!({"from": points(), "kinds": ["road"], "beside": [of("Weir 52"), of("Weir 54")]});
    let choice = server.write(&format!("{at}/choose"), None, &asked).await;
    let ranked = choice["choice"]["ranked"].as_array().unwrap();
    assert_eq!(ranked.len(), 4);
    assert_eq!(ranked[3]["name"], "Far Bank");
    assert_eq!(
        (&ranked[0]["reached"], &ranked[3]["reached"]),
        (&json!(true), &json!(false))
    );
    assert!(
        choice["beside"].as_array().unwrap().len() > 2,
        "{}",
        choice["beside"]
    );
    // A limit is kept, and one that is none is refused beside its field.
    let limits = json!({"shortest_stem_mm": 80.0, "longest_stem_mm": 90.0, "most_spacers_mm": 5.0, "turned_up": false, "steep": false});
    let limited = server
        .write(
            &format!("{at}/choose"),
            None,
            &json!({"from": points(), "limits": limits}),
        )
        .await;
    for one in limited["choice"]["ranked"].as_array().unwrap() {
        assert!(
            (80.0..=90.0).contains(&one["stem_mm"].as_f64().unwrap())
                && one["spacers_mm"].as_f64().unwrap() <= 5.0
        );
    }
    let mut wrong = limits.clone();
    wrong["longest_stem_mm"] = json!(70.0);
    let (refused, problem) = server
        .post(
            &format!("{at}/choose"),
            None,
            &json!({"from": points(), "limits": wrong}),
        )
        .await;
    assert_eq!(
        (refused, &problem["errors"][0]["pointer"]),
        (
            StatusCode::UNPROCESSABLE_ENTITY,
            &json!("/limits/longest_stem_mm")
        )
    );
    carried_and_kept(&server, &at, &of("Weir 54")).await;
}

/// Carries the typed points to a frame, keeps it as a bike and looks at its sheets.
async fn carried_and_kept(server: &Server, at: &str, frame: &Value) {
    let asked = json!({"from": points(), "onto": {"frame": frame}});
    let carried = server.write(&format!("{at}/carry"), None, &asked).await;
    let off = &carried["carried"]["hand_off"];
    assert!(
        off[0].as_f64().unwrap().hypot(off[1].as_f64().unwrap()) < 5.0,
        "{off}"
    );
    let new = json!({"id": id(), "name": "Weir 54 to be", "of": asked});
    let bike = server.write(&format!("{at}/bikes"), None, &new).await;
    // Sent again it is harmless.
    let again = server.write(&format!("{at}/bikes"), None, &new).await;
    assert_eq!(bike["bike"]["id"], again["bike"]["id"]);
    assert_eq!(bike["bike"]["sessions"], json!([]));
    let kept = format!("/api/bikes/{}", bike["bike"]["id"].as_str().unwrap());
    let sheet = server.get(&format!("{kept}/next")).await;
    assert!(
        sheet["ridden"].as_str().unwrap().contains("typed"),
        "{sheet}"
    );
    assert_eq!(sheet["others"].as_array().unwrap().len(), 2);
    for (file, begins) in [
        ("next.pdf", "%PDF"),
        ("next.pdf?paper=letter", "%PDF"),
        ("frame.csv", "name,kind"),
    ] {
        let (ok, _, bytes) = server.bytes(&format!("{kept}/{file}")).await;
        assert_eq!(ok, StatusCode::OK, "{file}");
        assert!(bytes.starts_with(begins.as_bytes()), "{file}");
    }
    for file in ["frame.pdf", "frame.svg", "frame.dxf"] {
        assert_eq!(
            server.bytes(&format!("{kept}/{file}")).await.0,
            StatusCode::CONFLICT,
            "{file}"
        );
    }
    // Nonsense is refused beside its field.
    for (body, pointer) in [
        (json!({"id": id(), "name": " ", "of": asked}), "/name"),
        (
            json!({"id": id(), "name": "x", "of": {"from": {"points": {
            "kind": "road", "saddle_height_mm": 5.0, "setback_mm": 205.0, "tilt_deg": 0.0, "bb_to_hand_mm": 553.0,
            "bb_to_hand_up_mm": 641.0, "crank_mm": 170.0}}}}),
            "/from/points/saddle_height_mm",
        ),
    ] {
        let (refused, problem) = server.post(&format!("{at}/bikes"), None, &body).await;
        assert_eq!(
            (refused, &problem["errors"][0]["pointer"]),
            (StatusCode::UNPROCESSABLE_ENTITY, &json!(pointer)),
            "{problem}"
        );
    }
    let gone = json!({"from": {"fit": id()}});
    assert_eq!(server.post(at, None, &gone).await.0, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn a_fit_becomes_a_frame_made_to_measure_and_travels_in_the_file() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let fit = session(&server).await;
    let who = fit["rider"]["id"].as_str().unwrap().to_owned();
    let fit = path(&fit);
    let fit = fit.rsplit('/').next().unwrap();
    let at = format!("/api/riders/{who}/next");
    let from = json!({"fit": fit});
    let view = server.write(&at, None, &json!({"from": from})).await;
    assert_eq!(view["ridden"], true);

    // Three fixed wishes of the front do not go together: it is told, and nothing is written down.
    let mut wishes = view["wishes"].clone();
    for one in wishes.as_array_mut().unwrap() {
        if matches!(one["wish"].as_str(), Some("rake_mm" | "head_angle_deg")) {
            one["fixed"] = json!(true);
        }
    }
    let asked = json!({"from": from, "wishes": wishes});
    let made = server.write(&format!("{at}/made"), None, &asked).await;
    assert!(
        !made["made"]["conflicts"][0]["frees"]
            .as_array()
            .unwrap()
            .is_empty(),
        "{}",
        made["made"]["conflicts"]
    );
    let new = |of: &Value| json!({"id": id(), "name": "Frame to be", "of": of});
    assert_eq!(
        server
            .post(&format!("{at}/bikes"), None, &new(&asked))
            .await
            .0,
        StatusCode::UNPROCESSABLE_ENTITY
    );

    let bike = server
        .write(&format!("{at}/bikes"), None, &new(&json!({"from": from})))
        .await;
    let kept = format!("/api/bikes/{}", bike["bike"]["id"].as_str().unwrap());
    for (file, begins) in [
        ("frame.pdf", "%PDF"),
        ("next.pdf", "%PDF"),
        ("frame.svg", "<svg"),
        ("frame.dxf", "  0\r\nSECTION"),
    ] {
        let (ok, _, bytes) = server.bytes(&format!("{kept}/{file}")).await;
        assert_eq!(ok, StatusCode::OK, "{file}");
        assert!(bytes.starts_with(begins.as_bytes()), "{file}");
    }
    // The line of the frame reads back as it is.
    let line = server.text(&format!("{kept}/frame.csv")).await;
    let (_, read) = server
        .post("/api/frames/read", None, &json!({"text": line}))
        .await;
    assert_eq!(read["frames"][0]["frame"], bike["bike"]["frame"], "{read}");
    // Its years tell where it is from; its file holds it.
    let years = server.get(&format!("/api/riders/{who}")).await;
    let bikes = years["rider"]["bikes"].as_array().unwrap();
    let told = bikes.last().unwrap()["carried"]["words"]
        .as_str()
        .unwrap()
        .to_owned();
    assert!(told.ends_with("computed, not ridden yet"), "{told}");
    let file: Value =
        serde_json::from_str(&server.text(&format!("/api/riders/{who}/file")).await).unwrap();
    let carried = &file["rider"]["bikes"].as_array().unwrap().last().unwrap()["carried"];
    assert_eq!(carried, &bike["bike"]["carried"]);
    let (_folder, elsewhere) = data();
    let other = Server::start(&elsewhere);
    let (ok, back) = other.post("/api/import", None, &file).await;
    assert!(ok.is_success(), "{back}");
    let again: Value =
        serde_json::from_str(&other.text(&format!("/api/riders/{who}/file")).await).unwrap();
    assert_eq!(again["rider"], file["rider"]);
}
