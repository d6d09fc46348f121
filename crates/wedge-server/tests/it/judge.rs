//! The judge on fits that are typed in: record to evidence to the next move; disagreements; where the right place is; the score.

use crate::support::{Server, data, id, like, path, put, version};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// A fit being typed in.
struct Typed<'a> {
    server: &'a Server,
    at: String,
}

/// A fit on the road example, its saddle there, for a rider with a body; and what is said at intake.
struct Told {
    height: f64,
    setback: f64,
    bike: Value,
    rider: Value,
    body: Vec<(&'static str, f64, Option<&'static str>)>,
    tape: Vec<(&'static str, f64)>,
    intake: Value,
}

impl Default for Told {
    fn default() -> Self {
        Self {
            height: 712.0,
            setback: 188.0,
            bike: like(&wedge_core::example::road()),
            rider: json!({"stature_mm": 1712, "inseam_mm": 802, "mass_kg": 61.5}),
            body: Vec::new(),
            tape: Vec::new(),
            intake: json!({}),
        }
    }
}

fn complaint(place: &str, how_bad: u8, more: &Value) -> Value {
    let mut all = json!({"place": place, "side": null, "feel": "pain", "when": null, "stroke": null,
                         "effort": null, "how_bad": how_bad, "words": ""});
    merge(&mut all, more);
    all
}

fn merge(into: &mut Value, more: &Value) {
    for (key, value) in more.as_object().unwrap() {
        match (&mut into[key], value) {
            (old @ Value::Object(_), new @ Value::Object(_)) => merge(old, new),
            (old, new) => *old = new.clone(),
        }
    }
}

impl<'a> Typed<'a> {
    async fn of(server: &'a Server, told: Told) -> Self {
        let rider = id();
        let mut new = json!({"id": rider, "name": format!("Rider {}", rider.simple())});
        merge(&mut new, &told.rider);
        server.write("/api/riders", None, &new).await;
        let mut view = Value::Null;
        for (quantity, value, side) in told.body {
            let at = server.get(&format!("/api/riders/{rider}")).await["version"].as_i64();
            let body = json!({"id": id(), "quantity": quantity, "value": value, "side": side});
            view = server
                .write(&format!("/api/riders/{rider}/readings"), at, &body)
                .await;
        }
        drop(view);
        server
            .write(&format!("/api/riders/{rider}/bikes"), None, &told.bike)
            .await;
        let place = format!("/api/bikes/{}/sessions", told.bike["id"].as_str().unwrap());
        let mut view = server
            .write(&place, None, &json!({"id": id(), "day": "2026-11-23"}))
            .await;
        let at = path(&view);
        let saddle = [
            ("saddle_height_mm", told.height),
            ("setback_mm", told.setback),
        ];
        for (quantity, value) in saddle.into_iter().chain(told.tape) {
            let body = json!({"id": id(), "quantity": quantity, "value": value});
            view = server
                .write(&format!("{at}/readings"), version(&view), &body)
                .await;
        }
        let mut intake = view["session"]["intake"].clone();
        intake["flags_asked"] = json!(true);
        merge(&mut intake, &told.intake);
        let (status, said) = put(server, &format!("{at}/intake"), version(&view), &intake).await;
        assert_eq!(status, StatusCode::OK, "{said}");
        if said["stopped"] == json!(false) {
            server
                .write(&format!("{at}/found"), version(&said), &json!({}))
                .await;
        }
        Self { server, at }
    }

    /// A saddle too high, hips rocking, with what hurts.
    async fn too_high(server: &'a Server, complaints: &[Value]) -> Self {
        let told = Told {
            height: 726.0,
            intake: json!({"complaints": complaints}),
            ..Told::default()
        };
        let fit = Self::of(server, told).await;
        fit.sign("hips_rock", None, true).await;
        fit
    }

    async fn look(&self, body: Value) -> &Self {
        let body = json!({"id": id(), "body": body});
        self.server
            .write(&format!("{}/looks", self.at), None, &body)
            .await;
        self
    }

    async fn sign(&self, sign: &str, side: Option<&str>, there: bool) -> &Self {
        self.look(json!({"sign": {"sign": sign, "side": side, "there": there}}))
            .await
    }

    /// Nothing of what tells of the height is to be seen.
    async fn quiet(&self) -> &Self {
        for sign in ["hips_rock", "toes_point", "balance_fails"] {
            self.sign(sign, None, false).await;
        }
        for sign in ["bottom_choppy", "hip_hikes"] {
            self.sign(sign, Some("left"), false).await;
            self.sign(sign, Some("right"), false).await;
        }
        self
    }

    async fn trial(&self, changes: Value, said: &[Value]) -> String {
        let view = self.server.get(&self.at).await;
        let trial = id();
        let body = json!({"id": trial, "changes": changes, "why": ""});
        self.server
            .write(&format!("{}/trials", self.at), version(&view), &body)
            .await;
        for body in said {
            let entry = json!({"id": id(), "body": body});
            self.server
                .write(&format!("/api/trials/{trial}/entries"), None, &entry)
                .await;
        }
        trial.to_string()
    }

    async fn judged(&self) -> Value {
        self.server.get(&format!("{}/judge", self.at)).await
    }

    async fn disputes(&self, about: Value, told: &str, reason: &str) -> (StatusCode, Value) {
        let body = json!({"id": id(), "about": about, "told": told, "reason": reason});
        self.server
            .post(&format!("{}/disputes", self.at), None, &body)
            .await
    }
}

fn keys(judged: &Value) -> Vec<String> {
    let next = std::iter::once(&judged["next"]);
    next.chain(judged["others"].as_array().unwrap())
        .map(|of| of["key"].as_str().unwrap().to_owned())
        .collect()
}

/// The next move is one of these, and none of those is proposed at all.
fn expect(judged: &Value, next: &[&str], never: &[&str], case: &str) {
    let keys = keys(judged);
    assert!(
        next.iter().any(|wanted| keys[0].starts_with(wanted)),
        "{case}: {keys:?}"
    );
    for key in &keys {
        assert!(
            !never.iter().any(|never| key.starts_with(never)),
            "{case}: {keys:?}"
        );
    }
}

fn chance<'a>(judged: &'a Value, axis: &str) -> &'a Value {
    let all = judged["axes"].as_array().unwrap();
    all.iter().find(|line| line["axis"] == axis).unwrap()
}

#[tokio::test]
async fn numb_hands_do_not_slam_the_front_and_a_stiff_hip_is_not_bent_further() {
    let (_folder, file) = data();
    let server = Server::start(&file);

    // A long tall front, both hands numb, tape and parts at odds: by the angles alone the front would go down.
    let mut bike = like(&wedge_core::example::road());
    merge(
        &mut bike,
        &json!({"frame": {"frame_reach_mm": 399, "frame_stack_mm": 601},
                "cockpit": {"stem_mm": 110, "spacers_below_mm": 25}}),
    );
    let numb = Typed::of(
        &server,
        Told {
            bike,
            height: 800.0,
            setback: 240.0,
            rider: json!({"stature_mm": 1845, "inseam_mm": 880, "mass_kg": 80}),
            tape: vec![("drop_mm", 95.0), ("bb_to_hand_mm", 612.0)],
            intake: json!({"complaints": [complaint("hand", 6, &json!({"feel": "numb"}))]}),
            ..Told::default()
        },
    )
    .await;
    for (output, value) in [("torso_deg", 39.0), ("shoulder_deg", 88.0)] {
        numb.look(json!({"seen": {"output": output, "value": value, "side": null, "method": "goniometer"}}))
            .await;
    }
    expect(
        &numb.judged().await,
        &[
            "test:creep_up",
            "test:balance",
            "test:bracket",
            "move:reach:-",
            "move:bars:+",
        ],
        &["move:bars:-", "linked:spacers", "move:reach:+", "refer"],
        "numb hands",
    );

    // A hip with three degrees left over a front far too low: whatever is proposed opens it.
    let mut bike = like(&wedge_core::example::road());
    merge(
        &mut bike,
        &json!({"cockpit": {"spacers_below_mm": 0, "stem_angle_deg": -30, "stem_mm": 120}}),
    );
    let stiff = Typed::of(
        &server,
        Told {
            bike,
            body: vec![("hip_limit_deg", 100.0, Some("left"))],
            intake: json!({"visit": "complaint",
                           "complaints": [complaint("low_back", 7, &json!({})), complaint("neck", 6, &json!({}))]}),
            ..Told::default()
        },
    )
    .await;
    stiff
        .look(json!({"seen": {"output": "torso_deg", "value": 21, "side": null, "method": "goniometer"}}))
        .await;
    let judged = stiff.judged().await;
    expect(
        &judged,
        &["test:bracket_bars", "move:bars:+", "linked:spacers"],
        &["move:bars:-", "move:crank:+", "move:reach:+"],
        "stiff hip",
    );
    let says = judged["says"].to_string();
    assert!(says.contains("Hip, left"), "{says}");
    assert!(chance(&judged, "bars")["minus"].as_f64() > chance(&judged, "bars")["plus"].as_f64());
}

#[tokio::test]
async fn heights_go_where_what_was_seen_and_felt_points() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let behind = complaint(
        "knee_behind",
        6,
        &json!({"side": "left", "stroke": "bottom"}),
    );
    let high = Typed::too_high(&server, &[behind]).await;
    high.sign("bottom_choppy", Some("left"), true).await;
    let judged = high.judged().await;
    expect(
        &judged,
        &["test:creep_up", "move:height:-"],
        &["move:height:+", "linked:crank_long"],
        "too high",
    );
    assert!(
        judged["otherwise"]
            .as_str()
            .unwrap()
            .starts_with("saddle down")
    );
    let said = judged["next"]["speaks_for"].to_string();
    assert!(
        said.contains("Behind the knee, left") && said.contains("Hips rock"),
        "{said}"
    );

    let front = complaint("knee_front", 6, &json!({"stroke": "bottom"}));
    let low = Typed::of(
        &server,
        Told {
            height: 694.0,
            intake: json!({"complaints": [front]}),
            ..Told::default()
        },
    )
    .await;
    low.sign("hip_hikes", Some("left"), true).await;
    expect(
        &low.judged().await,
        &["test:creep_up", "move:height:+"],
        &["move:height:-"],
        "too low",
    );
}

#[tokio::test]
async fn reach_and_setback_go_where_what_was_seen_and_felt_points() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let mut bike = like(&wedge_core::example::road());
    bike["cockpit"]["stem_mm"] = json!(130);
    let long = Typed::of(
        &server,
        Told {
            bike,
            intake: json!({"complaints": [complaint("shoulder_blades", 6, &json!({})), complaint("neck", 4, &json!({}))]}),
            ..Told::default()
        },
    )
    .await;
    for sign in ["elbows_locked", "shoulders_drawn_forward", "feels_long"] {
        long.sign(sign, None, true).await;
    }
    let judged = long.judged().await;
    expect(
        &judged,
        &["test:bracket_reach", "move:reach:-"],
        &["move:reach:+", "move:bars:-"],
        "too long",
    );
    let shorter = judged["others"]
        .as_array()
        .unwrap()
        .iter()
        .find(|m| m["key"] == "move:reach:-");
    assert_eq!(shorter.unwrap()["step"]["title"], "Stem 110");

    // Falls onto the hands with the saddle forward: back, never farther forward, and the bars wait.
    let forward = Typed::of(
        &server,
        Told {
            setback: 150.0,
            intake: json!({"visit": "complaint", "complaints": [complaint("hand", 7, &json!({"feel": "numb"}))]}),
            ..Told::default()
        },
    )
    .await;
    forward
        .sign("balance_fails", None, true)
        .await
        .sign("hips_rock", None, false)
        .await;
    let judged = forward.judged().await;
    expect(
        &judged,
        &["test:creep_up", "test:sweep", "move:setback:+"],
        &["move:setback:-", "move:bars:-"],
        "too far forward",
    );
    assert_eq!(chance(&judged, "setback")["wedge"], -1);
}

#[tokio::test]
async fn rest_shoe_shim_and_putting_back_come_before_bolts() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let rose = Typed::of(
        &server,
        Told {
            intake: json!({"visit": "complaint", "load": "Doubled in a week", "load_rose": true,
                           "complaints": [complaint("knee_front", 6, &json!({}))]}),
            ..Told::default()
        },
    )
    .await;
    rose.quiet().await;
    expect(
        &rose.judged().await,
        &["rest"],
        &["move:crank", "move:height:-"],
        "load",
    );

    let tight = Typed::of(
        &server,
        Told {
            intake: json!({"visit": "complaint", "complaints": [complaint("toes", 6, &json!({"feel": "numb"}))]}),
            ..Told::default()
        },
    )
    .await;
    let view = server.get(&tight.at).await;
    let shoe = json!({"width": "tight", "stiffness": null, "words": ""});
    let shoes = json!({"left": shoe, "right": shoe});
    let (status, _) = put(
        &server,
        &format!("{}/shoes", tight.at),
        version(&view),
        &shoes,
    )
    .await;
    assert_eq!(status, StatusCode::OK);
    expect(
        &tight.judged().await,
        &["shoe"],
        &["move:cleat_l:-"],
        "shoe",
    );

    let short = Typed::of(
        &server,
        Told {
            body: vec![("shank_shorter_mm", 9.0, Some("left"))],
            intake: json!({"visit": "complaint", "complaints": [complaint("low_back", 5, &json!({})),
                                                                complaint("hip_outside", 5, &json!({}))]}),
            ..Told::default()
        },
    )
    .await;
    short.quiet().await;
    let judged = short.judged().await;
    expect(&judged, &["shim"], &["move:crank"], "short leg");
    let turns = judged["next"]["step"]["changes"].to_string();
    assert!(
        turns.contains("shim_mm") && turns.contains("left"),
        "{turns}"
    );

    let worse = Typed::of(
        &server,
        Told {
            intake: json!({"visit": "complaint", "complaints": [complaint("knee_front", 4, &json!({}))]}),
            ..Told::default()
        },
    )
    .await;
    let down = json!([{"quantity": "saddle_height_mm", "by": -10}]);
    let said = [
        json!({"verdict": "worse"}),
        json!({"sure": "certain"}),
        json!({"outcome": "kept"}),
    ];
    worse.trial(down, &said).await;
    let judged = worse.judged().await;
    expect(&judged, &["put_back"], &["move:height:-"], "worse");
    assert_eq!(judged["next"]["step"]["title"], "Saddle up 10");
}

#[tokio::test]
async fn a_red_flag_leaves_one_thing_to_do() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let fit = Typed::too_high(&server, &[]).await;
    let view = server.get(&fit.at).await;
    let mut intake = view["session"]["intake"].clone();
    intake["flags"] = json!(["night_pain"]);
    put(
        &server,
        &format!("{}/intake", fit.at),
        version(&view),
        &intake,
    )
    .await;
    let judged = fit.judged().await;
    assert_eq!(keys(&judged).len(), 1, "{:?}", keys(&judged));
    assert!(keys(&judged)[0].starts_with("refer"), "{:?}", keys(&judged));
    let sheet = server.get(&format!("{}/handout", fit.at)).await;
    assert!(
        sheet["judged"]["refer"].to_string().contains("how far?"),
        "{}",
        sheet["judged"]
    );
}

#[tokio::test]
async fn a_disagreement_is_kept_with_its_reason_counts_and_is_taken_back() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let behind = complaint(
        "knee_behind",
        6,
        &json!({"side": "left", "stroke": "bottom"}),
    );
    let fit = Typed::too_high(&server, &[behind]).await;
    let before = fit.judged().await;
    assert_eq!(before["next"]["fault"], "height:high");

    // Without a reason, or about nothing there is, it is refused beside its field and nothing is written.
    let (status, problem) = fit
        .disputes(json!({"fault": "height:high"}), "Saddle too high", " ")
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/reason");
    for about in [
        json!({"fault": "height:sideways"}),
        json!({"witness": "sign:nothing:"}),
        json!({"taken_back": id()}),
    ] {
        let (status, _) = fit.disputes(about, "It", "because").await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    }
    assert_eq!(fit.judged().await, before);

    // A witness struck out takes its share with it.
    let key = before["next"]["speaks_for"]
        .as_array()
        .unwrap()
        .iter()
        .find(|said| said["words"] == "Hips rock");
    let key = key.unwrap()["key"].clone();
    let sent = json!({"id": id(), "about": {"witness": key}, "told": "Hips rock", "reason": "It was the road"});
    // Sent again it is harmless, though the witness is struck out by then.
    for _ in 0..2 {
        let place = format!("{}/disputes", fit.at);
        let (status, view) = server.post(&place, None, &sent).await;
        assert_eq!(status, StatusCode::OK, "{view}");
    }
    let struck = fit.judged().await;
    assert_eq!(struck["disputes"][0]["words"], "Hips rock: struck out");
    assert_eq!(struck["disputes"][0]["reason"], "It was the road");
    assert!(
        chance(&struck, "height")["plus"].as_f64() < chance(&before, "height")["plus"].as_f64()
    );
    let said = struck["next"]["speaks_for"].to_string();
    assert!(!said.contains("Hips rock"), "{said}");

    // The fault overruled is not proposed at all, the axis called right stays.
    fit.disputes(
        json!({"fault": "height:high"}),
        "Saddle too high",
        "She has ridden it for years",
    )
    .await;
    let overruled = fit.judged().await;
    assert!(
        keys(&overruled)
            .iter()
            .all(|key| !key.starts_with("move:height:-")),
        "{:?}",
        keys(&overruled)
    );
    fit.disputes(
        json!({"right": "height"}),
        "Saddle height",
        "She has ridden it for years",
    )
    .await;
    let right = fit.judged().await;
    assert!(
        chance(&right, "height")["fine"].as_f64() > chance(&overruled, "height")["fine"].as_f64()
    );

    // All of them taken back, it is as before; the record keeps every one.
    for dispute in right["disputes"].as_array().unwrap() {
        let (status, _) = fit
            .disputes(json!({"taken_back": dispute["id"]}), "back", "")
            .await;
        assert_eq!(status, StatusCode::OK);
    }
    let again = fit.judged().await;
    assert_eq!(again, before);
    let view = server.get(&fit.at).await;
    let rider = view["rider"]["id"].as_str().unwrap();
    let file = server.get(&format!("/api/riders/{rider}/file")).await;
    let kept = &file["rider"]["bikes"][0]["sessions"][0]["disputes"];
    assert_eq!(kept.as_array().unwrap().len(), 6, "{kept}");
}

#[tokio::test]
async fn an_axis_opens_to_its_ridges_and_their_points_add_up() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let behind = complaint("knee_behind", 6, &json!({"stroke": "bottom"}));
    let fit = Typed::too_high(&server, &[behind]).await;
    let lower = json!([{"quantity": "saddle_height_mm", "by": -6}]);
    let body = json!({"axis": "height", "changes": lower});
    let open = server
        .write(&format!("{}/judge/axis", fit.at), None, &body)
        .await;
    assert_eq!(open["places"].as_array().unwrap().len(), 121);
    let points = |of: &Value| of.as_f64().unwrap();
    let ridges = open["ridges"].as_array().unwrap();
    let sum: f64 = ridges
        .iter()
        .map(|ridge| points(&ridge["said"]["points"]))
        .sum();
    assert!((sum + points(&open["rest"]) - points(&open["points"])).abs() < 1e-6);
    let tried = points(&open["tried"]) - points(&open["line"]["now"]);
    assert!((tried + 6.0).abs() < 0.3, "{tried}");
    let reads = points(&open["line"]["now"]) + points(&open["line"]["reads_from"]);
    assert!((reads - 726.0).abs() < 0.01, "{reads}");
    // Every witness says where it is from.
    let hips = ridges
        .iter()
        .find(|ridge| ridge["said"]["words"] == "Hips rock")
        .unwrap();
    assert_eq!(hips["said"]["source"]["station"], "first_look");
    let (status, _) = server
        .post(
            &format!("{}/judge/axis", fit.at),
            None,
            &json!({"axis": "sideways"}),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn a_studio_weighs_by_its_own_ear_and_the_score_counts_what_was_claimed() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let fit = Typed::too_high(&server, &[]).await;
    let before = fit.judged().await;
    let studio = server.get("/api/studio").await;
    let mut house = studio["house"].clone();
    house["judging"] = json!({"links": [{"tells": {"seen": "hips_rock"}, "fault": "height:high", "strength": 0.0}], "halves": []});
    let (status, saved) = put(&server, "/api/studio", version(&studio), &house).await;
    assert_eq!(status, StatusCode::OK, "{saved}");
    let own = fit.judged().await;
    assert!(chance(&own, "height")["plus"].as_f64() < chance(&before, "height")["plus"].as_f64());
    house["judging"]["links"][0]["strength"] = json!(1.5);
    let (status, problem) = put(&server, "/api/studio", version(&saved), &house).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    house["judging"] = json!({"links": [], "halves": []});
    put(&server, "/api/studio", version(&saved), &house).await;
    assert_eq!(fit.judged().await, before);

    // Nothing was shown yet; a trial that was called is counted.
    assert_eq!(server.get("/api/judge/score").await, json!([]));
    let down = json!([{"quantity": "saddle_height_mm", "by": -8}]);
    fit.trial(
        down,
        &[json!({"verdict": "better"}), json!({"outcome": "kept"})],
    )
    .await;
    let score = server.get("/api/judge/score").await;
    assert_eq!(score[0]["axis"], "height");
    assert_eq!(
        (&score[0]["directions"], &score[0]["right"]),
        (&json!(1), &json!(1))
    );
    let (status, house) = server
        .send(Method::GET, "/api/judge/house", None, None)
        .await
        .unwrap();
    assert_eq!(status, StatusCode::OK);
    assert_eq!(house["halves"].as_array().unwrap().len(), 15);
}
