//! Between visits over real HTTP: plans with their days, referrals with their letters, visits that are due.
use crate::support::{Server, data, id, path, put, session, version};
use ical::parser::ical::component::IcalEvent;
use reqwest::StatusCode;
use serde_json::{Value, json};
use std::io::Cursor;

/// The events of a calendar, read by a parser that is not ours.
fn events(text: &str) -> Vec<IcalEvent> {
    let mut calendars = ical::IcalParser::new(Cursor::new(text));
    let calendar = calendars.next().unwrap().unwrap();
    assert!(calendars.next().is_none());
    calendar.events
}

fn property(event: &IcalEvent, name: &str) -> String {
    let found = event.properties.iter().find(|p| p.name == name);
    found.and_then(|p| p.value.clone()).unwrap()
}

async fn add(server: &Server, at: &str, body: Value) -> Value {
    let entry = json!({"id": id(), "body": body});
    server
        .write(&format!("{at}/afterwards"), None, &entry)
        .await
}

#[tokio::test]
async fn a_plan_is_worked_out_kept_moved_and_withdrawn_and_its_days_keep_their_names() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    let blank = server.get(&format!("{at}/between")).await;
    assert!(blank["plan"].is_null() && blank["careful"].is_null());
    let (status, _, _) = server.bytes(&format!("{at}/plan.ics")).await;
    assert_eq!(status, StatusCode::NOT_FOUND);

    let asked = json!({
        "targets": [{"quantity": "saddle_height_mm", "by": 12.0}],
        "careful": false, "start": "2026-12-01", "hold_days": 7,
    });
    let plan = server.write(&format!("{at}/plan"), None, &asked).await;
    let steps = plan["steps"].as_array().unwrap();
    let days: Vec<&str> = steps.iter().map(|s| s["on"].as_str().unwrap()).collect();
    assert_eq!(days, ["2026-12-01", "2026-12-08", "2026-12-15"]);
    assert_eq!(steps[0]["title"], "Saddle up 5");
    // Nothing was written down by asking.
    assert!(server.get(&format!("{at}/between")).await["plan"].is_null());

    for (wrong, pointer) in [
        (
            json!({"quantity": "saddle_height_mm", "by": 0.0}),
            "/targets/0/by",
        ),
        (
            json!({"quantity": "stature_mm", "by": 5.0}),
            "/targets/0/quantity",
        ),
    ] {
        let mut asked = asked.clone();
        asked["targets"] = json!([wrong]);
        let (status, problem) = server.post(&format!("{at}/plan"), None, &asked).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert_eq!(problem["errors"][0]["pointer"], pointer);
    }

    add(&server, &at, json!({"plan": {"steps": steps}})).await;
    let first = events(&server.text(&format!("{at}/plan.ics")).await);
    assert_eq!(first.len(), 3);
    assert_eq!(property(&first[1], "DTSTART"), "20261208");
    assert_eq!(property(&first[1], "SEQUENCE"), "0");
    assert_eq!(property(&first[1], "SUMMARY"), "Saddle up 5");

    // Moved: the same names, a later number.
    let mut moved = plan["steps"].clone();
    moved[1]["on"] = json!("2026-12-10");
    let kept = add(&server, &at, json!({"plan": {"steps": moved}})).await;
    assert_eq!(kept["plan"]["revision"], 2);
    let second = events(&server.text(&format!("{at}/plan.ics")).await);
    assert_eq!(property(&second[1], "UID"), property(&first[1], "UID"));
    assert_eq!(property(&second[1], "SEQUENCE"), "2");
    assert_eq!(property(&second[1], "DTSTART"), "20261210");

    // Days that do not follow one another are refused, and nothing changes.
    moved[1]["on"] = json!("2026-11-01");
    let entry = json!({"id": id(), "body": {"plan": {"steps": moved}}});
    let (status, problem) = server.post(&format!("{at}/afterwards"), None, &entry).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/body/plan/steps/1/on");
    assert_eq!(
        server.get(&format!("{at}/between")).await["plan"]["revision"],
        2
    );
    assert_eq!(
        server.get(&format!("{at}/handout")).await["plan"]
            .as_array()
            .unwrap()
            .len(),
        3
    );

    let none = add(&server, &at, json!({"plan": {"steps": []}})).await;
    assert!(none["plan"].is_null());
}

#[tokio::test]
async fn a_referral_has_its_letter_and_its_answer_also_once_the_fit_is_finished() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    let asked = json!({"what": "", "to": "physician", "question": ""});
    let entry = json!({"id": id(), "body": {"referral": asked}});
    let (status, problem) = server.post(&format!("{at}/afterwards"), None, &entry).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let pointers: Vec<&str> = problem["errors"]
        .as_array()
        .unwrap()
        .iter()
        .map(|e| e["pointer"].as_str().unwrap())
        .collect();
    assert_eq!(pointers, ["/body/referral/what", "/body/referral/question"]);

    server
        .write(&format!("{at}/finish"), version(&view), &json!({}))
        .await;
    let asked = json!({"what": "Numb hands", "to": "physiotherapist", "question": "Is it the neck?", "back_by": "2020-01-01"});
    let between = add(&server, &at, json!({"referral": asked})).await;
    let referral = &between["referrals"][0];
    assert_eq!(
        (&referral["words"], &referral["overdue"]),
        (&json!("Physiotherapist: numb hands"), &json!(true))
    );
    let key = referral["id"].as_str().unwrap();
    let (status, headers, letter) = server
        .bytes(&format!("{at}/referrals/{key}/letter.pdf"))
        .await;
    assert_eq!(status, StatusCode::OK);
    assert_eq!(headers["content-type"], "application/pdf");
    assert!(letter.starts_with(b"%PDF-1.7"));

    let other = json!({"id": id(), "body": {"answered": {"referral": id(), "said": "No"}}});
    let (status, _) = server.post(&format!("{at}/afterwards"), None, &other).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let said = add(
        &server,
        &at,
        json!({"answered": {"referral": key, "said": "It is the neck"}}),
    )
    .await;
    assert_eq!(said["referrals"][0]["answered"], "It is the neck");
    assert_eq!(said["referrals"][0]["overdue"], false);
    let told = &server.get(&format!("{at}/handout")).await["referred"][0];
    assert!(
        told.as_str()
            .unwrap()
            .contains("They said: “It is the neck”")
    );
}

#[tokio::test]
async fn visits_are_listed_moved_from_the_version_read_and_forgotten() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let at = path(&view);
    let day = json!({"follow_up": "2026-12-24"});
    let (_, view) = server.patch(&at, version(&view).unwrap(), &day).await;
    // Before the fit is finished nobody is expected.
    assert_eq!(server.get("/api/visits").await, json!([]));
    server
        .write(&format!("{at}/finish"), version(&view), &json!({}))
        .await;
    let visits = server.get("/api/visits").await;
    assert_eq!(visits[0]["day"], "2026-12-24");
    assert!(
        visits[0]["ask"][0]
            .as_str()
            .unwrap()
            .starts_with("Does anything hurt")
    );
    let days = events(&server.text("/api/visits.ics").await);
    let uid = property(&days[0], "UID");
    let read = visits[0]["version"].as_i64().unwrap();

    let to = |day: Value| json!({ "day": day });
    let place = format!("{at}/visit");
    let (status, moved) = put(&server, &place, Some(read), &to(json!("2026-12-31"))).await;
    assert_eq!(
        (status, &moved[0]["day"]),
        (StatusCode::OK, &json!("2026-12-31"))
    );
    let later = events(&server.text("/api/visits.ics").await);
    assert_eq!(property(&later[0], "UID"), uid);
    let sequence = |event: &IcalEvent| property(event, "SEQUENCE").parse::<u32>().unwrap();
    assert!(sequence(&later[0]) > sequence(&days[0]));
    // From a stale version nothing moves.
    let (status, _) = put(&server, &place, Some(read), &to(json!("2027-01-07"))).await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    let now = server.get("/api/visits").await[0]["version"]
        .as_i64()
        .unwrap();
    let (_, none) = put(&server, &place, Some(now), &to(Value::Null)).await;
    assert_eq!(none, json!([]));
}
