//! The saddle over HTTP: schools, map, parts, another saddle, notes, causes, and guided protocols: called, taken back,
//! interrupted, in two windows, blind.

use crate::support::id;
use reqwest::Method;
use serde_json::{Value, json};
use tempfile::TempDir;

/// A server with its own record.
pub(crate) struct Server {
    server: crate::support::Server,
    _folder: TempDir,
}

/// An answer, whatever it is.
pub(crate) struct Answer {
    pub(crate) status: u16,
    pub(crate) body: Value,
}

impl Answer {
    pub(crate) fn ok(self) -> Value {
        assert_eq!(self.status, 200, "{}", self.body);
        self.body
    }
}

impl Server {
    pub(crate) fn start() -> Self {
        let (folder, file) = crate::support::data();
        Self {
            server: crate::support::Server::start(&file),
            _folder: folder,
        }
    }

    async fn send(
        &self,
        method: Method,
        path: &str,
        body: Option<&Value>,
        at: Option<i64>,
    ) -> Answer {
        let (status, body) = self.server.send(method, path, at, body).await.unwrap();
        Answer {
            status: status.as_u16(),
            body,
        }
    }

    pub(crate) async fn get(&self, path: &str) -> Answer {
        self.send(Method::GET, path, None, None).await
    }

    pub(crate) async fn post(&self, path: &str, body: &Value, at: Option<i64>) -> Answer {
        self.send(Method::POST, path, Some(body), at).await
    }

    pub(crate) async fn put(&self, path: &str, body: &Value, at: Option<i64>) -> Answer {
        self.send(Method::PUT, path, Some(body), at).await
    }
}

/// A fit whose bike as found is closed.
pub(crate) async fn closed(server: &Server) -> (Value, String) {
    let view = crate::support::session(&server.server).await;
    let id = view["session"]["id"].as_str().unwrap().to_owned();
    (view, id)
}

pub(crate) async fn begin(server: &Server, session: &str, plan: Value) -> Value {
    let body = json!({ "id": id(), "plan": plan });
    server
        .post(&format!("/api/sessions/{session}/runs"), &body, None)
        .await
        .ok()
}

pub(crate) fn call_of(run: &Value, answer: &Value) -> Value {
    json!({ "id": id(), "call": { "ask": run["screen"]["ask"]["id"], "answer": answer } })
}

async fn call(server: &Server, run: &Value, answer: Value) -> Value {
    let path = format!("/api/runs/{}/calls", run["id"].as_str().unwrap());
    server.post(&path, &call_of(run, &answer), None).await.ok()
}

fn key(key: &str) -> Value {
    json!({ "key": key })
}

#[tokio::test]
async fn schools_map_gate_and_room_are_read_for_the_bench() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let saddle = server
        .get(&format!("/api/sessions/{session}/saddle"))
        .await
        .ok();
    let schools = saddle["height"]["schools"].as_array().unwrap();
    assert_eq!(schools.len(), 7);
    assert_eq!(schools[0]["school"], "knee_moving");
    assert!(
        schools
            .iter()
            .any(|s| s["school"] == "creep_up" && s["value"].is_null())
    );
    assert_eq!(saddle["setback"]["schools"][0]["school"], "balance");
    assert_eq!(saddle["gate"].as_array().unwrap().len(), 5);
    assert_eq!(saddle["hung"].as_array().unwrap().len(), 5);
    // Three at the height, five at the setback.
    let starts = saddle["starts"].as_array().unwrap();
    assert_eq!(starts.len(), 8);
    assert_eq!(starts[0]["protocol"], "creep_up");
    let map = server
        .get(&format!("/api/sessions/{session}/saddle/map"))
        .await
        .ok();
    assert!(map["map"]["lines"].as_array().unwrap().len() > 8);
    assert_eq!(map["found"], map["map"]["now"]);
    let parts = server
        .get(&format!("/api/sessions/{session}/saddle/parts?setback=215"))
        .await
        .ok();
    assert_eq!(parts["wanted"], 215.0);
    let nowhere = server
        .get(&format!(
            "/api/sessions/{session}/saddle/parts?setback=3000"
        ))
        .await;
    assert_eq!(nowhere.status, 422);
    assert_eq!(nowhere.body["errors"][0]["pointer"], "/setback");
}

#[tokio::test]
async fn another_saddle_is_one_linked_trial_and_nothing_is_written() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let path = format!("/api/sessions/{session}/saddle/swap");
    let step = server
        .post(&path, &json!({ "saddle_stack_mm": 55.0 }), None)
        .await
        .ok();
    assert!(
        step["title"].as_str().unwrap().contains("Saddle stack 55"),
        "{step}"
    );
    assert!(step["changes"].as_array().unwrap().len() >= 2);
    let bad = server
        .post(&path, &json!({ "saddle_stack_mm": 500.0 }), None)
        .await;
    assert_eq!(bad.status, 422);
    assert_eq!(bad.body["errors"][0]["pointer"], "/saddle_stack_mm");
    let after = server.get(&format!("/api/sessions/{session}")).await.ok();
    assert_eq!(after["version"], view["version"]);
}

#[tokio::test]
async fn sitting_ahead_moves_the_rider_and_a_bad_note_nothing() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let knee = |view: &Value| {
        view["now"]["after"]["legs"]["right"]["knee"]["smallest_deg"]
            .as_f64()
            .unwrap()
    };
    let path = format!("/api/sessions/{session}/saddle");
    let notes = json!({
        "relief": "none", "nose": null, "shuffles": "yes", "rubs": null, "aside": null,
        "sits_ahead_mm": 30.0
    });
    let version = view["version"].as_i64();
    let saved = server.put(&path, &notes, version).await.ok();
    assert!(
        knee(&saved) > knee(&view) + 1.0,
        "sitting ahead bends the knee"
    );
    assert_eq!(saved["session"]["saddle"]["relief"], "none");
    let stale = server.put(&path, &notes, version).await;
    assert_eq!(stale.status, 412);
    let mut wrong = notes.clone();
    wrong["sits_ahead_mm"] = json!(500.0);
    let refused = server.put(&path, &wrong, saved["version"].as_i64()).await;
    assert_eq!(refused.status, 422);
    assert_eq!(refused.body["errors"][0]["pointer"], "/sits_ahead_mm");
    let saddle = server.get(&path).await.ok();
    assert_eq!(saddle["notes"]["rubs"], Value::Null);
    assert!(
        saddle["advice"]
            .as_array()
            .unwrap()
            .iter()
            .any(|a| a.as_str().unwrap().contains("30 mm ahead"))
    );
}

#[tokio::test]
async fn a_creep_up_is_called_taken_back_and_gone_on_with_after_anything() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let plan = json!({ "creep_up": { "from_mm": -10.0, "step_mm": 5.0 } });
    let run = begin(&server, &session, plan.clone()).await;
    let at = format!("/api/runs/{}", run["id"].as_str().unwrap());
    assert_eq!(run["last_call"], Value::Null);
    let nothing = server
        .post(&format!("{at}/back"), &json!({ "id": id() }), None)
        .await;
    assert_eq!(nothing.status, 409);
    // Another one waits until this is over.
    let second = json!({ "id": id(), "plan": plan });
    let refused = server
        .post(&format!("/api/sessions/{session}/runs"), &second, None)
        .await;
    assert_eq!(refused.status, 409);
    assert!(
        refused.body["detail"]
            .as_str()
            .unwrap()
            .contains("creep up")
    );
    let view = server.get(&format!("/api/sessions/{session}")).await.ok();
    assert_eq!(view["run"]["id"], run["id"]);

    let mut now = run;
    for answer in ["Enter", "0", "0"] {
        now = call(&server, &now, key(answer)).await;
    }
    assert_eq!(now["screen"]["ask"]["id"], "1.hips");
    // Read again, as after a reload: the very same.
    assert_eq!(server.get(&at).await.ok(), now);
    // The last call is taken back, and sending that again takes nothing more.
    let back = json!({ "id": id() });
    let taken = server.post(&format!("{at}/back"), &back, None).await.ok();
    assert_eq!(taken["screen"]["ask"]["id"], "1.right");
    assert_eq!(
        server.post(&format!("{at}/back"), &back, None).await.ok(),
        taken
    );
    // A window that has not seen it answers what is no longer asked.
    let late = server
        .post(&format!("{at}/calls"), &call_of(&now, &key("0")), None)
        .await;
    assert_eq!(late.status, 409);
    let odd = server
        .post(&format!("{at}/calls"), &call_of(&taken, &key("x")), None)
        .await;
    assert_eq!(odd.status, 422);
    assert_eq!(odd.body["errors"][0]["pointer"], "/call/answer/key");
    // The same call sent twice counts once.
    let once = call_of(&taken, &key("1"));
    let first = server.post(&format!("{at}/calls"), &once, None).await.ok();
    assert_eq!(
        server.post(&format!("{at}/calls"), &once, None).await.ok(),
        first
    );
}

/// Goes on with a creep-up to its end: choppy from 15 above its first step.
async fn crept_to_its_end(server: &Server, mut now: Value) -> Value {
    while !now["screen"]["ask"].is_null() {
        let ask = now["screen"]["ask"]["id"].as_str().unwrap().to_owned();
        let notches = now["screen"]["notches"].as_array().unwrap();
        let label = |n: usize| {
            notches[n]["label"]
                .as_str()
                .unwrap()
                .parse::<f64>()
                .unwrap()
        };
        let high = label(notches.len() - 1) > label(0) + 13.0;
        let answer = match ask.rsplit('.').next().unwrap() {
            "set" => "Enter",
            "hips" => "0",
            _ if high => "2",
            _ => "0",
        };
        now = call(server, &now, key(answer)).await;
    }
    now
}

#[tokio::test]
async fn a_creep_up_is_evidence_once_it_is_kept_and_travels_with_the_rider() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let plan = json!({ "creep_up": { "from_mm": -10.0, "step_mm": 5.0 } });
    let mut first = begin(&server, &session, plan).await;
    let at = format!("/api/runs/{}", first["id"].as_str().unwrap());
    for answer in ["Enter", "0"] {
        first = call(&server, &first, key(answer)).await;
    }
    let back = json!({ "id": id() });
    first = server.post(&format!("{at}/back"), &back, None).await.ok();
    let now = crept_to_its_end(&server, first).await;
    assert_eq!(
        (&now["over"], &now["finding"]["says"]),
        (&json!(false), &json!("found"))
    );
    // Nothing is evidence before it is kept.
    let saddle = server
        .get(&format!("/api/sessions/{session}/saddle"))
        .await
        .ok();
    assert_eq!(saddle["findings"], json!([]));
    let ended = server
        .post(&format!("{at}/end"), &json!({}), None)
        .await
        .ok();
    assert_eq!(ended["over"], true);
    assert_eq!(ended["finding"], now["finding"]);
    assert_eq!(
        server
            .post(&format!("{at}/end"), &json!({}), None)
            .await
            .ok(),
        ended
    );
    let saddle = server
        .get(&format!("/api/sessions/{session}/saddle"))
        .await
        .ok();
    assert_eq!(saddle["findings"][0]["finding"]["protocol"], "creep_up");
    let creep = saddle["height"]["schools"]
        .as_array()
        .unwrap()
        .iter()
        .find(|s| s["school"] == "creep_up")
        .unwrap();
    assert!(creep["value"].is_number());
    let late = server
        .post(&format!("{at}/back"), &json!({ "id": id() }), None)
        .await;
    assert_eq!(late.status, 409);
    // The hand-out tells what was found.
    let handout = server
        .get(&format!("/api/sessions/{session}/handout"))
        .await
        .ok();
    assert!(
        handout["evidence"][0]
            .as_str()
            .unwrap()
            .starts_with("Creep up: Turns choppy")
    );
    // And it travels with the rider's file, calls and all.
    let rider = view["rider"]["id"].as_str().unwrap();
    let file = server.get(&format!("/api/riders/{rider}/file")).await.ok();
    let runs = file["rider"]["bikes"][0]["sessions"][0]["runs"]
        .as_array()
        .unwrap();
    assert_eq!(runs[0]["finding"], ended["finding"]);
    assert!(
        runs[0]["calls"]
            .as_array()
            .unwrap()
            .iter()
            .any(|c| c["body"] == "taken_back")
    );
}

#[tokio::test]
async fn a_fit_is_not_finished_over_a_protocol() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let run = begin(
        &server,
        &session,
        json!({ "balance": { "variant": "tempo" } }),
    )
    .await;
    let now = server.get(&format!("/api/sessions/{session}")).await.ok();
    assert!(now["version"].as_i64() > view["version"].as_i64());
    let finish = format!("/api/sessions/{session}/finish");
    let refused = server
        .post(&finish, &json!({}), now["version"].as_i64())
        .await;
    assert_eq!(refused.status, 409);
    assert!(
        refused.body["detail"]
            .as_str()
            .unwrap()
            .contains("protocol")
    );
    let ended = server
        .post(
            &format!("/api/runs/{}/end", run["id"].as_str().unwrap()),
            &json!({}),
            None,
        )
        .await
        .ok();
    assert_eq!(ended["finding"]["says"], "broken");
    let now = server.get(&format!("/api/sessions/{session}")).await.ok();
    server
        .post(&finish, &json!({}), now["version"].as_i64())
        .await
        .ok();
}

/// Everything the API ever says about a rider and a run, as one text.
async fn everything(server: &Server, session: &str, run: &str, rider: &str) -> String {
    let mut all = String::new();
    for path in [
        format!("/api/sessions/{session}"),
        format!("/api/sessions/{session}/saddle"),
        format!("/api/sessions/{session}/causes"),
        format!("/api/sessions/{session}/handout"),
        format!("/api/runs/{run}"),
        format!("/api/riders/{rider}"),
        format!("/api/riders/{rider}/file"),
        "/api/studio/file".to_owned(),
    ] {
        all += &server.get(&path).await.ok().to_string();
    }
    all
}

#[tokio::test]
async fn the_order_of_a_blind_comparison_is_nowhere_before_its_end() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let rider = view["rider"]["id"].as_str().unwrap().to_owned();
    let plan = json!({ "blind": { "quantity": "saddle_height_mm", "by": -5.0, "rounds": 8 } });
    let mut run = begin(&server, &session, plan).await;
    let id = run["id"].as_str().unwrap().to_owned();
    let setting = format!("/api/runs/{id}/setting");
    assert_eq!(
        server.get(&setting).await.status,
        409,
        "nothing is hidden while both are ridden openly"
    );
    for _ in 0..2 {
        run = call(&server, &run, key("Enter")).await;
    }
    let mut ridden = Vec::new();
    for round in 0..8 {
        assert_eq!(run["hidden"], true);
        let now = server.get(&setting).await.ok()["setting"]
            .as_str()
            .unwrap()
            .to_owned();
        ridden.push(now.starts_with('B'));
        let told = everything(&server, &session, &id, &rider).await;
        for word in ["\"order\"", "hidden_order", "as it stood", "A: ", "B: "] {
            assert!(!told.contains(word), "round {round}: {word}");
        }
        run = call(&server, &run, key("Enter")).await;
        run = call(&server, &run, key(if ridden[round] { "b" } else { "a" })).await;
        if round == 3 {
            run = past_stays_hidden(&server, &run, &ridden).await;
        }
    }
    // The last call ended it: now it is told, and cannot be taken back.
    assert_eq!(
        (&run["over"], &run["finding"]["picks"]["right"]),
        (&json!(true), &json!(8))
    );
    assert_eq!(server.get(&setting).await.status, 409);
    let file = server.get(&format!("/api/riders/{rider}/file")).await.ok();
    let order = &file["rider"]["bikes"][0]["sessions"][0]["runs"][0]["order"];
    assert_eq!(order, &json!(ridden));
    // What is felt sets the step from here on.
    let saddle = server
        .get(&format!("/api/sessions/{session}/saddle"))
        .await
        .ok();
    assert_eq!(saddle["feels"][0]["smallest"], 5.0);
}

/// Takes the last pick back: it may be called anew, but the round is past: nothing of it is shown, and no other is
/// reached. Calls it as it was and comes back to where it stood.
async fn past_stays_hidden(server: &Server, run: &Value, ridden: &[bool]) -> Value {
    let at = format!("/api/runs/{}", run["id"].as_str().unwrap());
    let back = format!("{at}/back");
    let taken = server.post(&back, &json!({ "id": id() }), None).await.ok();
    assert_eq!(taken["screen"]["ask"]["id"], "4.pick");
    assert_eq!(
        (&taken["hidden"], &taken["last_call"]),
        (&json!(false), &Value::Null)
    );
    assert_eq!(server.get(&format!("{at}/setting")).await.status, 409);
    let further = server.post(&back, &json!({ "id": id() }), None).await;
    assert_eq!(further.status, 409);
    assert!(further.body["detail"].as_str().unwrap().contains("past"));
    let answer = if ridden[3] { "b" } else { "a" };
    call(server, &taken, key(answer)).await
}

#[tokio::test]
async fn a_plumb_line_that_was_measured_enters_its_school() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let path = format!("/api/sessions/{session}/saddle");
    let says = |saddle: &Value| {
        let schools = saddle["setback"]["schools"].as_array().unwrap();
        let plumb = schools.iter().find(|s| s["school"] == "plumb").unwrap();
        (plumb["value"].as_f64().unwrap(), plumb["estimated"] == true)
    };
    let before = server.get(&path).await.ok();
    let hung = before["hung"].as_array().unwrap();
    let centre = hung.iter().find(|h| h["landmark"] == "centre").unwrap();
    let foreseen = centre["over_axle_mm"]["right"].as_f64().unwrap();
    let plan = json!({ "plumb": { "landmark": "centre" } });
    let mut run = begin(&server, &session, plan).await;
    for _ in 0..2 {
        run = call(&server, &run, key("Enter")).await;
        for _ in 0..3 {
            run = call(&server, &run, json!({ "number": foreseen + 8.0 })).await;
        }
    }
    assert_eq!(says(&server.get(&path).await.ok()), says(&before));
    let end = format!("/api/runs/{}/end", run["id"].as_str().unwrap());
    server.post(&end, &json!({}), None).await.ok();
    let (value, estimated) = says(&server.get(&path).await.ok());
    assert!(says(&before).1 && !estimated);
    // The knee follows the saddle by a little more or less than the rails move, by where the leg stands.
    let further = value - says(&before).0;
    assert!((6.0..11.0).contains(&further), "{further}");

    // The model may be fitted to it: then it hangs there on the board too, and the school says what it said.
    let told = server.get(&path).await.ok()["line_to_fit"].clone();
    assert!(
        told.as_str()
            .unwrap()
            .contains("8 mm further ahead left, 8 mm further ahead right"),
        "{told}"
    );
    let at = format!("/api/sessions/{session}");
    let now = server.get(&at).await.ok();
    assert_eq!(now["sightings"], 2);
    let on = json!({ "id": id(), "on": true });
    let version = now["version"].as_i64();
    server
        .post(&format!("{at}/calibrations"), &on, version)
        .await
        .ok();
    let fitted = server.get(&path).await.ok();
    assert_eq!(fitted["line_to_fit"], Value::Null);
    let hangs = fitted["hung"][0]["over_axle_mm"]["right"].as_f64().unwrap();
    assert_eq!(fitted["hung"][0]["landmark"], "centre");
    assert!((5.0..9.0).contains(&(hangs - foreseen)), "{hangs}");
    assert!((says(&fitted).0 - value).abs() < 1.0);

    // The next fit of the bike reads it, and does not go by it.
    let version = server.get(&at).await.ok()["version"].as_i64();
    server
        .post(&format!("{at}/finish"), &json!({}), version)
        .await
        .ok();
    let bike = view["bike"]["id"].as_str().unwrap();
    let new = json!({ "id": id(), "day": "2026-12-01" });
    let sessions = format!("/api/bikes/{bike}/sessions");
    let next = server.post(&sessions, &new, None).await.ok();
    let next = next["session"]["id"].as_str().unwrap();
    let later = server
        .get(&format!("/api/sessions/{next}/saddle"))
        .await
        .ok();
    assert_eq!(later["findings"], json!([]));
    assert_eq!(later["other_fits"][0]["finding"]["protocol"], "plumb");
    assert_eq!(
        later["other_fits"][0]["day"],
        server.get(&at).await.ok()["session"]["day"]
    );
    let schools = later["setback"]["schools"].as_array().unwrap();
    let plumb = schools.iter().find(|s| s["school"] == "plumb").unwrap();
    assert!(!plumb["words"].as_str().unwrap().contains("measured"));
}

#[tokio::test]
async fn what_was_crept_up_to_is_carried_to_other_cranks() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let path = format!("/api/sessions/{session}/saddle");
    let plan = json!({ "creep_up": { "from_mm": -10.0, "step_mm": 5.0 } });
    let run = begin(&server, &session, plan).await;
    let run = crept_to_its_end(&server, run).await;
    let end = format!("/api/runs/{}/end", run["id"].as_str().unwrap());
    let ended = server.post(&end, &json!({}), None).await.ok();
    let found = ended["finding"]["value"].as_f64().unwrap();
    let says = |saddle: &Value| {
        let schools = saddle["height"]["schools"].as_array().unwrap();
        let creep = schools.iter().find(|s| s["school"] == "creep_up").unwrap();
        creep["value"].as_f64().unwrap()
    };
    assert!((says(&server.get(&path).await.ok()) - found).abs() < 1e-6);
    let at = format!("/api/sessions/{session}");
    let version = server.get(&at).await.ok()["version"].as_i64();
    let shorter = json!([
        { "quantity": "crank_mm", "side": "left", "by": -5.0 },
        { "quantity": "crank_mm", "side": "right", "by": -5.0 },
    ]);
    let trial = json!({ "id": id(), "changes": shorter });
    server
        .post(&format!("{at}/trials"), &trial, version)
        .await
        .ok();
    let higher = says(&server.get(&path).await.ok()) - found;
    assert!((4.0..5.5).contains(&higher), "{higher}");
    // The next mechanic reads both: what was found, and what that is by now.
    let handout = server.get(&format!("{at}/handout")).await.ok();
    let evidence = handout["evidence"].as_array().unwrap();
    assert_eq!(evidence.len(), 2, "{evidence:?}");
    assert!(
        evidence[1]
            .as_str()
            .unwrap()
            .contains("by now that height is")
    );
}

#[tokio::test]
async fn a_blind_comparison_that_travels_unfinished_leaves_its_order_behind() {
    let server = Server::start();
    let (view, session) = closed(&server).await;
    let plan = json!({ "blind": { "quantity": "setback_mm", "by": 5.0, "rounds": 8 } });
    let mut run = begin(&server, &session, plan).await;
    for _ in 0..2 {
        run = call(&server, &run, key("Enter")).await;
    }
    let rider = view["rider"]["id"].as_str().unwrap();
    let file = server.get(&format!("/api/riders/{rider}/file")).await.ok();
    let other = Server::start();
    other.post("/api/import", &file, None).await.ok();
    let id = run["id"].as_str().unwrap();
    let there = other.get(&format!("/api/runs/{id}/setting")).await;
    assert_eq!(there.status, 409);
    assert!(
        there.body["detail"]
            .as_str()
            .unwrap()
            .contains("did not travel")
    );
    let ended = other
        .post(&format!("/api/runs/{id}/end"), &json!({}), None)
        .await
        .ok();
    assert_eq!(ended["finding"]["says"], "broken");
}

#[tokio::test]
async fn plans_that_cannot_be_and_complaints_without_a_link_are_answers() {
    let server = Server::start();
    let (_, session) = closed(&server).await;
    let path = format!("/api/sessions/{session}/runs");
    for (plan, pointer) in [
        (
            json!({ "creep_up": { "from_mm": 5.0, "step_mm": 5.0 } }),
            "/plan/creep_up/from_mm",
        ),
        (
            json!({ "rail_sweep": { "back_mm": 1.0, "forward_mm": 1.0, "step_mm": 5.0 } }),
            "/plan/rail_sweep/back_mm",
        ),
        (json!({ "tilt": { "to_deg": 40.0 } }), "/plan/tilt/to_deg"),
        (
            json!({ "blind": { "quantity": "stem_mm", "by": 5.0, "rounds": 8 } }),
            "/plan/blind/quantity",
        ),
    ] {
        let refused = server
            .post(&path, &json!({ "id": id(), "plan": plan }), None)
            .await;
        assert_eq!(refused.status, 422, "{pointer}");
        assert_eq!(refused.body["errors"][0]["pointer"], pointer);
    }
    let unknown = server
        .post(
            &path,
            &json!({ "id": id(), "plan": { "dowsing": {} } }),
            None,
        )
        .await;
    assert_eq!(unknown.status, 422);
    let causes = server
        .get(&format!("/api/sessions/{session}/causes"))
        .await
        .ok();
    assert_eq!(causes["complaints"], json!([]));
    assert_eq!(server.get(&format!("/api/runs/{}", id())).await.status, 404);
}
