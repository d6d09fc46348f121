//! The rider's ledger over real HTTP: rides read back and written down, the card that asks for them, and that card on a phone.

use crate::lan::{PASSPHRASE, choose, device, status, with_second_door};
use crate::support::{Server, data, id, path, session, version};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::fmt::Write as _;

fn ride(day: &str, step: u32, hands: u8) -> Value {
    json!({
        "id": id(), "on": day, "circuit": "Mill loop", "minutes": 60.0, "effort": 5, "plan": 0, "step": step,
        "moved": [], "signs": [],
        "ratings": [
            {"rating": "hands", "side": "left", "value": hands}, {"rating": "hands", "side": "right", "value": hands},
            {"rating": "saddle", "value": 1},
        ],
    })
}

fn card(fit: &str, rides: &[Value]) -> String {
    json!({"format": "wedge.ledger/1", "fit": fit, "rides": rides}).to_string()
}

async fn read(server: &Server, at: &str, text: &str) -> (StatusCode, Value) {
    let bytes = text.as_bytes().to_vec();
    let path = format!("{at}/ledger/read");
    server.post_bytes(&path, "text/plain", bytes).await
}

fn fit_of(at: &str) -> &str {
    at.rsplit('/').next().unwrap()
}

#[tokio::test]
async fn a_card_comes_back_once_whole_or_not_at_all() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let rides: Vec<Value> = (1..=6)
        .map(|n| ride(&format!("2026-03-{n:02}"), 0, 6))
        .collect();
    let text = card(fit_of(&at), &rides);
    let (ok, back) = read(&server, &at, &text).await;
    assert_eq!((ok, &back["known"]), (StatusCode::OK, &json!(0)), "{back}");
    assert_eq!(back["rides"].as_array().unwrap().len(), 6);
    // Reading writes nothing down.
    assert_eq!(
        server.get(&format!("{at}/ledger")).await["rides"],
        json!([])
    );

    let new = json!({"rides": back["rides"]});
    let view = server.write(&format!("{at}/ledger"), None, &new).await;
    assert_eq!(view["rides"].as_array().unwrap().len(), 6);
    assert_eq!(view["series"][0]["label"], "Hands");
    assert_eq!(
        view["series"][0]["medians"],
        json!([{"rides": 6, "median": 6.0}])
    );
    // The same card again: it is there already, and so is its file.
    let (_, again) = read(&server, &at, &text).await;
    assert_eq!((&again["known"], &again["rides"]), (&json!(6), &json!([])));
    let file = server.text(&format!("{at}/ledger.json")).await;
    assert_eq!(read(&server, &at, &file).await.1["known"], 6);

    // One ride told otherwise takes the place of what was read of it.
    let mut told = rides.clone();
    told[2]["words"] = json!("it rained");
    let (_, back) = read(&server, &at, &card(fit_of(&at), &told)).await;
    assert_eq!(back["rides"].as_array().unwrap().len(), 1);
    let new = json!({"rides": back["rides"]});
    let view = server.write(&format!("{at}/ledger"), None, &new).await;
    assert_eq!(view["rides"].as_array().unwrap().len(), 6);
    assert_eq!(view["rides"][2]["ride"]["words"], "it rained");

    // One bad ride among good ones, a day to come, another fit: refused with its place, and nothing is half read.
    let mut bad = told.clone();
    bad.push(ride("2026-03-09", 0, 11));
    let (refused, problem) = read(&server, &at, &card(fit_of(&at), &bad)).await;
    assert_eq!(refused, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "rides[6].ratings[0].value");
    bad[6] = ride("2199-01-01", 0, 1);
    let (_, problem) = read(&server, &at, &card(fit_of(&at), &bad)).await;
    assert_eq!(problem["errors"][0]["pointer"], "/rides/6/on");
    let new = json!({"rides": bad});
    let (refused, _) = server.post(&format!("{at}/ledger"), None, &new).await;
    assert_eq!(refused, StatusCode::UNPROCESSABLE_ENTITY);
    let (_, problem) = read(&server, &at, &card(&id().to_string(), &rides)).await;
    assert_eq!(problem["errors"][0]["pointer"], "fit");
    let view = server.get(&format!("{at}/ledger")).await;
    assert_eq!(view["rides"].as_array().unwrap().len(), 6);

    // Taken out, it counts no more.
    let out = json!({"id": id(), "body": {"taken_out": {"ride": rides[0]["id"]}}});
    server.write(&format!("{at}/afterwards"), None, &out).await;
    let view = server.get(&format!("{at}/ledger")).await;
    assert_eq!(view["rides"].as_array().unwrap().len(), 5);
}

#[tokio::test]
async fn a_ride_computers_file_goes_with_the_ride_of_its_day() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let new = json!({"rides": [ride("2026-03-02", 0, 4)]});
    server.write(&format!("{at}/ledger"), None, &new).await;
    let mut csv = "seconds,power,cadence\n".to_owned();
    for second in 0..=600 {
        writeln!(csv, "{second},200,90").unwrap();
    }
    let (refused, problem) = read(&server, &at, &csv).await;
    assert_eq!(
        (refused, &problem["errors"][0]["pointer"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("time"))
    );
    let path = format!("{at}/ledger/read?day=2026-03-02");
    let (ok, back) = server
        .post_bytes(&path, "text/plain", csv.clone().into_bytes())
        .await;
    assert_eq!(ok, StatusCode::OK, "{back}");
    let merged = &back["rides"][0];
    assert_eq!(
        (
            &merged["id"],
            &merged["power_w"],
            &merged["minutes"],
            &merged["recorded"]
        ),
        (
            &new["rides"][0]["id"],
            &json!(200.0),
            &json!(10.0),
            &json!(true)
        )
    );
    assert_eq!(merged["ratings"], new["rides"][0]["ratings"]);
    let written = json!({"rides": back["rides"]});
    server.write(&format!("{at}/ledger"), None, &written).await;
    // The same file again is known; of another day it is a ride of its own.
    let (_, back) = server
        .post_bytes(&path, "text/plain", csv.clone().into_bytes())
        .await;
    assert_eq!(back["known"], 1);
    let other = format!("{at}/ledger/read?day=2026-03-03&circuit=Mill%20loop");
    let (_, back) = server
        .post_bytes(&other, "text/plain", csv.into_bytes())
        .await;
    assert_eq!(back["rides"][0]["circuit"], "Mill loop");
}

#[tokio::test]
async fn a_stop_sign_holds_the_plan_and_its_days_until_it_is_kept_anew() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let at = path(&session(&server).await);
    let asked = json!({
        "targets": [{"quantity": "saddle_height_mm", "by": 12.0}],
        "careful": false, "start": "2150-01-01", "hold_days": 7,
    });
    let plan = server.write(&format!("{at}/plan"), None, &asked).await;
    let keep = |steps: &Value| json!({"id": id(), "body": {"plan": {"steps": steps}}});
    let kept = server
        .write(&format!("{at}/afterwards"), None, &keep(&plan["steps"]))
        .await;
    assert!(kept["plan"]["paused"].is_null());
    let before = server.text(&format!("{at}/plan.ics")).await;

    let mut numb = ride("2026-03-02", 0, 4);
    numb["signs"] = json!(["numb"]);
    numb["plan"] = json!(1);
    let new = json!({"rides": [numb]});
    let view = server.write(&format!("{at}/ledger"), None, &new).await;
    assert!(
        view["paused"]
            .as_str()
            .unwrap()
            .starts_with("The plan waits: new numbness on 2 Mar 2026.")
    );
    assert!(
        view["warnings"][0]
            .as_str()
            .unwrap()
            .contains("move nothing further")
    );
    let held = server.text(&format!("{at}/plan.ics")).await;
    assert!(held.contains("SUMMARY:Waits: Saddle up 5") && held.contains("SEQUENCE:1"));
    assert!(before.contains("SEQUENCE:0") && !before.contains("Waits"));
    let card = server.text(&format!("{at}/card.html")).await;
    assert!(card.contains("The plan waits: new numbness"));

    let kept = server
        .write(&format!("{at}/afterwards"), None, &keep(&plan["steps"]))
        .await;
    assert!(kept["plan"]["paused"].is_null());
    let on = server.text(&format!("{at}/plan.ics")).await;
    assert!(on.contains("SEQUENCE:2") && !on.contains("Waits"));
}

#[tokio::test]
async fn what_people_type_is_data_on_the_card_and_never_markup() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let nasty = "</script><img src=x onerror=alert(1)>{{script}}\u{2028}";
    let view = session(&server).await;
    let at = path(&view);
    let rider = view["rider"]["id"].as_str().unwrap();
    let shown = server.get(&format!("/api/riders/{rider}")).await;
    let version = shown["version"].as_i64().unwrap_or(1);
    let named = json!({"name": nasty});
    let (ok, problem) = server
        .patch(&format!("/api/riders/{rider}"), version, &named)
        .await;
    assert_eq!(ok, StatusCode::OK, "{problem}");
    // In a plan as well, in every word of it.
    let step = json!({
        "on": "2150-01-01", "quantity": "saddle_height_mm", "by": 5.0,
        "title": nasty, "words": nasty, "stop": nasty,
    });
    let plan = json!({"id": id(), "body": {"plan": {"steps": [step]}}});
    server.write(&format!("{at}/afterwards"), None, &plan).await;
    // And back: what a ride says is data there too.
    let mut said = ride("2026-03-02", 0, 3);
    said["words"] = json!(nasty);
    said["circuit"] = json!(nasty.replace('\u{2028}', ""));
    let (ok, back) = read(&server, &at, &card(fit_of(&at), &[said.clone()])).await;
    assert_eq!(
        (ok, &back["rides"][0]["words"]),
        (StatusCode::OK, &said["words"])
    );
    let page = server.text(&format!("{at}/card.html")).await;
    assert_eq!(page.matches("<script").count(), 2);
    assert_eq!(page.matches("</script").count(), 2);
    assert!(
        !page.contains("<img") && page.contains("\\u003cimg src=x onerror=alert(1)>{{script}}")
    );
    assert!(page.contains("default-src 'none'") && page.contains("connect-src 'none'"));
    // Its policy knows its own script by its hash alone.
    let script = page
        .rsplit("<script>")
        .next()
        .unwrap()
        .split("</script>")
        .next()
        .unwrap();
    let hash = ring_hash(script);
    assert!(
        page.contains(&format!("script-src 'sha256-{hash}'")),
        "{hash}"
    );
    // Nothing is loaded from anywhere.
    assert!(!page.contains("src=\"") && !page.contains("http:") && !page.contains("https:"));
}

fn ring_hash(of: &str) -> String {
    use base64::Engine as _;
    let digest = ring::digest::digest(&ring::digest::SHA256, of.as_bytes());
    base64::engine::general_purpose::STANDARD.encode(digest)
}

#[tokio::test]
async fn a_link_opens_one_card_on_a_phone_and_nothing_else_until_it_is_taken_back() {
    let (folder, file) = data();
    assert!(choose(&file, PASSPHRASE));
    let (server, room) = with_second_door(&file);
    let view = session(&server).await;
    let at = path(&view);
    let link = format!("{at}/card-link");
    assert!(server.get(&link).await["until"].is_null());
    let made = server.write(&link, None, &json!({})).await;
    assert_eq!(made["open"], true);
    let token_of = |made: &Value| {
        let path = made["path"].as_str().unwrap();
        path.strip_prefix("/card/").unwrap().to_owned()
    };
    let token = token_of(&made);
    assert_eq!(token.len(), 64);
    let phone = device();
    let card = format!("{room}/card/{token}");
    assert_eq!(status(&phone, card.clone()).await, StatusCode::OK);
    for elsewhere in [
        "/api/riders",
        "/api/record",
        &at,
        &format!("{at}/card.html"),
        &link,
    ] {
        let refused = status(&phone, format!("{room}{elsewhere}")).await;
        assert_eq!(refused, StatusCode::UNAUTHORIZED, "{elsewhere}");
    }
    let guess = format!("{room}/card/{}", "0".repeat(64));
    assert_eq!(status(&phone, guess).await, StatusCode::NOT_FOUND);
    // Of the token only a hash is kept.
    for kept in std::fs::read_dir(folder.path()).unwrap().flatten() {
        let bytes = std::fs::read(kept.path()).unwrap_or_default();
        let found = bytes
            .windows(token.len())
            .any(|part| part == token.as_bytes());
        assert!(!found, "{:?}", kept.path());
    }

    let send = |rides: Vec<Value>, fit: String| {
        let request = phone
            .post(format!("{card}/rides"))
            .body(json!({"format": "wedge.ledger/1", "fit": fit, "rides": rides}).to_string());
        async move { request.send().await.unwrap().status() }
    };
    let fit = fit_of(&at).to_owned();
    assert_eq!(
        send(vec![ride("2026-03-02", 0, 3)], fit.clone()).await,
        StatusCode::NO_CONTENT
    );
    assert_eq!(
        send(vec![ride("2026-03-03", 0, 30)], fit.clone()).await,
        StatusCode::UNPROCESSABLE_ENTITY
    );
    assert_eq!(
        send(vec![ride("2026-03-03", 0, 3)], id().to_string()).await,
        StatusCode::UNPROCESSABLE_ENTITY
    );
    let foreign = phone
        .post(format!("{card}/rides"))
        .header("origin", "https://elsewhere.example")
        .body("{}");
    assert_eq!(
        foreign.send().await.unwrap().status(),
        StatusCode::FORBIDDEN
    );
    let ledger = server.get(&format!("{at}/ledger")).await;
    assert_eq!(ledger["rides"].as_array().unwrap().len(), 1);

    // Another link ends the one before it; taken back, nothing opens.
    let again = server.write(&link, None, &json!({})).await;
    assert_eq!(status(&phone, card.clone()).await, StatusCode::NOT_FOUND);
    let card = format!("{room}/card/{}", token_of(&again));
    assert_eq!(status(&phone, card.clone()).await, StatusCode::OK);
    let (gone, _) = server
        .send(Method::DELETE, &link, None, None)
        .await
        .unwrap();
    assert_eq!(gone, StatusCode::OK);
    assert_eq!(status(&phone, card).await, StatusCode::NOT_FOUND);
    assert!(version(&view).is_some());
}
