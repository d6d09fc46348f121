//! The front over HTTP: signs and causes, the card of front-end work, what is due again, levers and torques, protocols of the
//! hands through a restart.

use crate::saddle::{Server, begin, call_of, closed};
use crate::support::id;
use serde_json::{Value, json};

/// Writes something down at a look.
async fn looked(server: &Server, session: &str, body: Value) -> crate::saddle::Answer {
    let path = format!("/api/sessions/{session}/looks");
    server
        .post(&path, &json!({ "id": id(), "body": body }), None)
        .await
}

/// Writes something down about a trial.
async fn entered(server: &Server, trial: &str, body: Value) -> crate::saddle::Answer {
    let path = format!("/api/trials/{trial}/entries");
    server
        .post(&path, &json!({ "id": id(), "body": body }), None)
        .await
}

/// A trial of these changes that is kept.
async fn kept(server: &Server, session: &str, changes: Value) -> (Value, String) {
    let view = server.get(&format!("/api/sessions/{session}")).await.ok();
    let trial = id();
    let body = json!({ "id": trial, "changes": changes, "why": "" });
    let path = format!("/api/sessions/{session}/trials");
    server
        .post(&path, &body, view["version"].as_i64())
        .await
        .ok();
    for body in [json!({ "verdict": "better" }), json!({ "outcome": "kept" })] {
        entered(server, &trial.to_string(), body).await.ok();
    }
    let view = server.get(&format!("/api/sessions/{session}")).await.ok();
    (view, trial.to_string())
}

fn due(view: &Value) -> Vec<&str> {
    let all = view["due_again"]["due"].as_array();
    all.map_or_else(Vec::new, |all| {
        all.iter().map(|d| d["due"].as_str().unwrap()).collect()
    })
}

#[tokio::test]
async fn a_sign_speaks_for_a_cause_of_the_bars() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let mut intake = view["session"]["intake"].clone();
    intake["complaints"] = json!([{ "place": "neck", "side": null, "feel": "pain", "when": null, "stroke": null,
                                    "effort": null, "how_bad": 6, "words": "" }]);
    let path = format!("/api/sessions/{session}/intake");
    server
        .put(&path, &intake, view["version"].as_i64())
        .await
        .ok();
    looked(
        &server,
        &session,
        json!({ "sign": { "sign": "neck_tired", "side": null, "there": true } }),
    )
    .await
    .ok();
    looked(
        &server,
        &session,
        json!({ "hand": { "side": "left", "weight": 7.0 } }),
    )
    .await
    .ok();
    let wrong = looked(
        &server,
        &session,
        json!({ "sign": { "sign": "neck_tired", "side": "left", "there": true } }),
    )
    .await;
    assert_eq!(
        (wrong.status, &wrong.body["errors"][0]["pointer"]),
        (422, &json!("/body/sign/side"))
    );
    let wrong = looked(
        &server,
        &session,
        json!({ "hand": { "side": "left", "weight": 11.0 } }),
    )
    .await;
    assert_eq!(wrong.status, 422);
    let causes = server
        .get(&format!("/api/sessions/{session}/causes"))
        .await
        .ok();
    let links = causes["complaints"][0]["links"].as_array().unwrap();
    let faults: Vec<&str> = links.iter().map(|l| l["fault"].as_str().unwrap()).collect();
    assert_eq!(faults, ["reach:far", "bars:low", "bar_width:wide"]);
    let low = &links[1]["here"].as_array().unwrap();
    assert!(
        low.iter().any(|h| h == "neck tires from looking up"),
        "{low:?}"
    );
    assert_eq!(links[1]["protocol"], "height_sweep");
    // Taken back, it says nothing any more.
    looked(
        &server,
        &session,
        json!({ "sign": { "sign": "neck_tired", "side": null, "there": null } }),
    )
    .await
    .ok();
    let causes = server
        .get(&format!("/api/sessions/{session}/causes"))
        .await
        .ok();
    let low = causes["complaints"][0]["links"][1]["here"].to_string();
    assert!(!low.contains("neck tires"), "{low}");
}

#[tokio::test]
async fn a_front_move_opens_its_queue_and_checks_close_it() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let change = json!([{ "quantity": "spacers_below_mm", "by": -15.0 }]);
    let (view, trial) = kept(&server, &session, change).await;
    assert_eq!(
        due(&view),
        ["height", "setback", "balance", "tilt", "hand_places"]
    );
    assert_eq!(view["due_again"]["trial"], trial);
    let steps = view["trials"][0]["front_work"].as_array().unwrap();
    assert_eq!(steps.len(), 10);
    entered(
        &server,
        &trial,
        json!({ "done": { "step": "gap", "done": true } }),
    )
    .await
    .ok();
    let view = entered(
        &server,
        &trial,
        json!({ "checked": { "due": "height", "stays": true } }),
    )
    .await
    .ok();
    assert_eq!(due(&view), ["setback", "balance", "tilt", "hand_places"]);
    // Not meant: it is due again.
    let view = entered(
        &server,
        &trial,
        json!({ "checked": { "due": "height", "stays": false } }),
    )
    .await
    .ok();
    assert_eq!(due(&view).len(), 5);
    // How far ahead the rider sits now is looked at; nonsense is refused beside the field.
    let told = |mm: f64| json!({ "checked": { "due": "setback", "stays": true, "sits_ahead_mm": mm, "sat_ahead_mm": 0.0 } });
    let wrong = entered(&server, &trial, told(900.0)).await;
    assert_eq!(
        wrong.body["errors"][0]["pointer"],
        "/body/checked/sits_ahead_mm"
    );
    entered(&server, &trial, told(6.0)).await.ok();
    // A settled trial takes nothing else.
    assert_eq!(
        entered(&server, &trial, json!({ "verdict": "worse" }))
            .await
            .status,
        409
    );
    // Turned since, the saddle's height needs no second check; nor does anything after a protocol that found it.
    let up = json!([{ "quantity": "saddle_height_mm", "by": 2.0 }]);
    let (view, _) = kept(&server, &session, up).await;
    assert_eq!(due(&view), ["balance", "tilt", "hand_places"]);
    let sheet = server
        .get(&format!("/api/sessions/{session}/handout"))
        .await
        .ok();
    let steps = sheet["front_work"]["steps"].as_array().unwrap();
    let done: Vec<&Value> = steps.iter().filter(|s| s["done"] == true).collect();
    assert_eq!(done.len(), 1);
    assert_eq!(done[0]["step"], "gap");
    assert_eq!(sheet["front_work"]["stack"].as_array().unwrap().len(), 5);
}

#[tokio::test]
async fn a_torque_is_typed_once_and_printed_for_the_mechanic() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let path = format!("/api/sessions/{session}/readings");
    let reading = |quantity: &str, side: Value, value: f64| json!({ "id": id(), "quantity": quantity, "side": side, "value": value, "method": "tape" });
    let mut version = view["version"].as_i64();
    for (quantity, side, value) in [
        ("stem_torque_nm", Value::Null, 5.0),
        ("lever_angle_deg", json!("left"), -8.0),
        ("saddle_width_mm", Value::Null, 143.0),
    ] {
        let body = reading(quantity, side, value);
        version = server.post(&path, &body, version).await.ok()["version"].as_i64();
    }
    let refused = server
        .post(
            &path,
            &reading("bar_torque_nm", Value::Null, 500.0),
            version,
        )
        .await;
    assert_eq!(refused.status, 422);
    let sheet = server
        .get(&format!("/api/sessions/{session}/handout"))
        .await
        .ok();
    let lines = sheet["table"].as_array().unwrap();
    let line = |quantity: &str| lines.iter().find(|l| l["quantity"] == quantity).unwrap();
    assert_eq!(
        (
            line("stem_torque_nm")["left"].as_f64(),
            &line("stem_torque_nm")["unit"]
        ),
        (Some(5.0), &json!("nm"))
    );
    assert_eq!(line("saddle_width_mm")["left"], 143.0);
    // Only one lever was measured: nothing is said of the other.
    assert!(
        lines.iter().all(|l| l["quantity"] != "lever_angle_deg"),
        "one side alone is no line"
    );
}

#[tokio::test]
async fn a_hidden_crank_comparison_shows_its_lengths_at_the_end_alone() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let plan = json!({ "crank_comparison": { "a_mm": 172.5, "b_mm": 165.0, "c_mm": 170.0, "order": "hidden" } });
    let mut run = begin(&server, &session, plan).await;
    let path = format!("/api/runs/{}", run["id"].as_str().unwrap());
    for _ in 0..3 {
        assert_eq!(run["hidden"], true);
        assert!(
            !run["screen"].to_string().contains("165"),
            "{}",
            run["screen"]
        );
        let setting = server.get(&format!("{path}/setting")).await.ok();
        assert!(
            setting["setting"].as_str().unwrap().starts_with("Crank 1"),
            "{setting}"
        );
        for key in ["Enter", "1", "1", "1", "1", "1"] {
            let call = call_of(&run, &json!({ "key": key }));
            run = server
                .post(&format!("{path}/calls"), &call, None)
                .await
                .ok();
        }
    }
    assert!(
        run["screen"]["notches"].to_string().contains("165"),
        "{}",
        run["screen"]
    );
    assert_eq!(run["finding"]["says"], "nothing");
}
