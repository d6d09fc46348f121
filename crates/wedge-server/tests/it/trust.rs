//! The server where it is attacked: a full disk, a closed terminal, pages from elsewhere, hostile and enormous files, records
//! built at their extremes, a copy put back.

use crate::support::{self, Server, bike, data, id, path, rider, session, version};
use reqwest::{Client, Method, StatusCode};
use serde_json::{Value, json};
use std::process::Command;
use std::time::{Duration, Instant};
use wedge_core::measure::Quantity;

/// A rider of a file, with as many readings as need be.
fn a_rider(readings: usize) -> Value {
    let reading = |n: usize| {
        json!({"id": id(), "taken_at": "2026-11-20T10:00:00Z", "quantity": if n == 0 { "stature_mm" } else { "mass_kg" },
               "value": if n == 0 { 1712.0 } else { 61.5 }})
    };
    json!({"id": id(), "name": "Ida Lockwood", "readings": (0..readings).map(reading).collect::<Vec<_>>(), "bikes": []})
}

fn studio(riders: &[Value]) -> String {
    json!({"format": "wedge.studio/16", "frames": [], "riders": riders}).to_string()
}

async fn import(server: &Server, text: String) -> (StatusCode, Value) {
    let sent = Client::new()
        .post(format!("{}/api/import", server.url))
        .body(text)
        .send();
    let answer = sent.await.unwrap();
    (answer.status(), answer.json().await.unwrap())
}

#[tokio::test]
async fn a_full_disk_is_said_and_heals_by_itself() {
    let (_folder, file) = data();
    // No file may grow beyond a megabyte and a half.
    let mut narrow = Command::new("sh");
    narrow.args([
        "-c",
        "trap '' XFSZ; ulimit -S -f 3000; exec \"$@\"",
        "sh",
        env!("CARGO_BIN_EXE_wedge"),
    ]);
    let server = Server::started(narrow, &file);
    let early = rider(&server).await;
    let mut written = Vec::new();
    let refused = loop {
        let mut six = Vec::new();
        for _ in 0..6 {
            let one = a_rider(300);
            let body = studio(std::slice::from_ref(&one));
            let url = format!("{}/api/import", server.url);
            six.push((one, tokio::spawn(Client::new().post(url).body(body).send())));
        }
        let mut full = None;
        for (one, sent) in six {
            let answer = sent.await.unwrap().unwrap();
            match answer.status() {
                StatusCode::OK => written.push(one["id"].as_str().unwrap().to_owned()),
                StatusCode::INSUFFICIENT_STORAGE => full = Some(answer),
                other => panic!("{other}: {}", answer.text().await.unwrap()),
            }
        }
        assert!(written.len() < 400, "it never got full");
        if let Some(full) = full {
            break full;
        }
    };
    let problem: Value = refused.json().await.unwrap();
    let words = problem["detail"].as_str().unwrap();
    assert!(
        words.starts_with("The disk is full") && words.contains(" of room now"),
        "{words}"
    );
    // What is there is still read, and nothing of what was refused.
    server.get(&format!("/api/riders/{early}")).await;
    assert!(!written.is_empty());

    let room = Command::new("prlimit")
        .args(["--pid", &server.pid().to_string(), "--fsize=unlimited"])
        .status();
    assert!(room.unwrap().success());
    // Every connection of the pool, several times over.
    for turn in 0..30 {
        let one = a_rider(1);
        let (status, answer) = import(&server, studio(std::slice::from_ref(&one))).await;
        assert_eq!(
            status,
            StatusCode::OK,
            "write {turn} after there was room: {answer}"
        );
        let one = one["id"].as_str().unwrap();
        server.get(&format!("/api/riders/{one}")).await;
        written.push(one.to_owned());
    }
    for one in &written {
        server.get(&format!("/api/riders/{one}")).await;
    }
    let listed = server.get("/api/riders").await.as_array().unwrap().len();
    assert_eq!(listed, (written.len() + 1).min(200));
}

#[tokio::test]
async fn a_closed_terminal_closes_the_record() {
    let (folder, file) = data();
    let mut server = Server::start(&file);
    rider(&server).await;
    assert!(folder.path().join("wedge.sqlite-wal").exists());
    let hung_up = Command::new("kill")
        .args(["-HUP", &server.pid().to_string()])
        .status();
    assert!(hung_up.unwrap().success());
    assert!(server.ended().success());
    assert!(
        !folder.path().join("wedge.sqlite-wal").exists(),
        "the log is written back"
    );
}

#[tokio::test]
async fn pages_from_elsewhere_learn_nothing() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let client = Client::new();
    let from = |site: &str, path: &str| {
        client
            .get(format!("{}{path}", server.url))
            .header("sec-fetch-site", site)
            .send()
    };
    for path in [
        "/api/riders?find=Ida",
        "/api/studio/file",
        "/api/record/copy",
    ] {
        for site in ["cross-site", "same-site", "?"] {
            assert_eq!(
                from(site, path).await.unwrap().status(),
                StatusCode::FORBIDDEN,
                "{site} {path}"
            );
        }
        for site in ["same-origin", "none"] {
            let answer = from(site, path).await.unwrap();
            assert_eq!(answer.status(), StatusCode::OK, "{site} {path}");
            assert_eq!(answer.headers()["cache-control"], "no-store");
            assert_eq!(
                answer.headers()["cross-origin-resource-policy"],
                "same-origin"
            );
            assert_eq!(
                answer.headers()["cross-origin-opener-policy"],
                "same-origin"
            );
        }
    }
    for method in [Method::TRACE, Method::CONNECT] {
        let answer = client
            .request(method, format!("{}/", server.url))
            .send()
            .await;
        assert!(answer.is_err() || !answer.unwrap().status().is_success());
    }
    let trace = client
        .request(Method::TRACE, format!("{}/api/health", server.url))
        .send()
        .await
        .unwrap();
    assert_eq!(trace.status(), StatusCode::METHOD_NOT_ALLOWED);
    // Letters no name has, and a name of no letters.
    let long = "x".repeat(50_001);
    let sent = client
        .get(format!("{}/api/riders", server.url))
        .query(&[("find", &long)]);
    assert_eq!(
        sent.send().await.unwrap().status(),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    let body = json!({"id": id(), "name": "I\u{0}da", "stature_mm": 1712});
    assert_eq!(
        server.post("/api/riders", None, &body).await.0,
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[tokio::test]
async fn hostile_files_are_refused_at_once() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let hostile = [
        (
            "lists in lists",
            format!(
                "{{\"format\":\"wedge.studio/16\",\"riders\":[{}",
                "[".repeat(63 * MB)
            ),
        ),
        (
            "empty lists",
            format!(
                "{{\"format\":\"wedge.studio/16\",\"riders\":[[{}]]}}",
                "[],".repeat(21 * MB)
            ),
        ),
        (
            "one text",
            format!(
                "{{\"format\":\"wedge.studio/16\",\"riders\":[{{\"name\":\"{}\"}}]}}",
                "x".repeat(63 * MB)
            ),
        ),
        ("keys", {
            let keys: Vec<String> = (0..3_000_000).map(|n| format!("\"k{n}\":[{{}}]")).collect();
            format!(
                "{{\"format\":\"wedge.studio/16\",\"riders\":[{{{}}}]}}",
                keys.join(",")
            )
        }),
    ];
    for (what, text) in hostile {
        let (status, problem) = import(&server, text).await;
        assert_eq!(
            status,
            StatusCode::UNPROCESSABLE_ENTITY,
            "{what}: {problem}"
        );
    }
    assert!(
        server
            .get("/api/riders")
            .await
            .as_array()
            .unwrap()
            .is_empty()
    );
    assert!(
        memory_peak(&server) < 200 * MB,
        "{} MB",
        memory_peak(&server) / MB
    );
}

#[tokio::test]
async fn an_honest_file_of_any_size_passes_and_nobody_waits_for_it() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    // While hundreds come in, a save of somebody else's does not wait long.
    let many: Vec<Value> = (0..600).map(|_| a_rider(20)).collect();
    let (url, body) = (format!("{}/api/import", server.url), studio(&many));
    let coming = tokio::spawn(async move {
        Client::new()
            .post(url)
            .body(body)
            .send()
            .await
            .unwrap()
            .status()
    });
    let mut longest = Duration::ZERO;
    while !coming.is_finished() {
        let begun = Instant::now();
        rider(&server).await;
        longest = longest.max(begun.elapsed());
    }
    assert_eq!(coming.await.unwrap(), StatusCode::OK);
    // As long as the record itself is patient, it would be refused; how long it is in truth, the soak tells.
    assert!(
        longest < Duration::from_secs(4),
        "a save waited {longest:?}"
    );
    // Out again, and into another studio: the same.
    let text = Client::new()
        .get(format!("{}/api/studio/file", server.url))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    let out: Value = serde_json::from_str(&text).unwrap();
    assert!(out["riders"].as_array().unwrap().len() > 600);
    let (_other_folder, other) = data();
    let other = Server::start(&other);
    assert_eq!(import(&other, text.clone()).await.0, StatusCode::OK);
    let again = Client::new()
        .get(format!("{}/api/studio/file", other.url))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    assert_eq!(again, text);
}

const MB: usize = 1024 * 1024;

/// The most memory a server has held.
fn memory_peak(server: &Server) -> usize {
    let status = std::fs::read_to_string(format!("/proc/{}/status", server.pid())).unwrap();
    let line = status
        .lines()
        .find(|line| line.starts_with("VmHWM:"))
        .unwrap();
    line.split_whitespace()
        .nth(1)
        .unwrap()
        .parse::<usize>()
        .unwrap()
        * 1024
}

/// Numbers that differ from turn to turn and are the same in every run.
struct Dice(u64);

impl Dice {
    fn roll(&mut self) -> u64 {
        self.0 = self
            .0
            .wrapping_mul(6_364_136_223_846_793_005)
            .wrapping_add(1_442_695_040_888_963_407);
        self.0 >> 33
    }
}

/// Puts numbers of the catalogue to their ends, wherever they stand.
fn stretched(value: &mut Value, dice: &mut Dice) {
    match value {
        Value::Object(fields) => {
            for (key, field) in fields {
                let known = Quantity::ALL.iter().find(|quantity| quantity.key() == key);
                match known
                    .filter(|_| field.is_number())
                    .map(|quantity| quantity.spec())
                {
                    Some(spec) => match dice.roll() % 4 {
                        0 => *field = json!(spec.min),
                        1 => *field = json!(spec.max),
                        _ => {}
                    },
                    None => stretched(field, dice),
                }
            }
        }
        Value::Array(all) => all.iter_mut().for_each(|one| stretched(one, dice)),
        _ => {}
    }
}

#[tokio::test]
async fn whatever_is_accepted_is_answered_and_can_be_taken_in_again() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let mut dice = Dice(7);
    let mut accepted = 0;
    for turn in 0..60 {
        let mut who = json!({"id": id(), "name": format!("Turn {turn}"), "stature_mm": 1712.0, "inseam_mm": 802.0});
        who["stature_mm"] = json!([1200.0, 1500.0, 2020.0, 2300.0][turn % 4]);
        who["inseam_mm"] = json!(who["stature_mm"].as_f64().unwrap() * 0.47);
        let (status, answer) = server.post("/api/riders", None, &who).await;
        if status != StatusCode::OK {
            assert!(status.is_client_error(), "{answer}");
            continue;
        }
        let mut bike = bike();
        stretched(&mut bike, &mut dice);
        if turn % 3 == 0 {
            bike = support::bike();
            bike["frame"]["seat_angle_deg"] = json!([60.0, 62.0, 85.0][turn % 9 / 3]);
        }
        let at = format!("/api/riders/{}", who["id"].as_str().unwrap());
        let (status, answer) = server.post(&format!("{at}/bikes"), None, &bike).await;
        if status == StatusCode::OK {
            let place = format!("/api/bikes/{}/sessions", bike["id"].as_str().unwrap());
            let view = server
                .write(&place, None, &json!({"id": id(), "day": "2026-11-23"}))
                .await;
            for (quantity, value) in [
                ("saddle_height_mm", 350.0),
                ("setback_mm", 450.0),
                ("bb_to_hand_mm", 1200.0),
            ] {
                let now = server.get(&path(&view)).await;
                let body = support::reading(quantity, value);
                let (status, answer) = server
                    .post(&format!("{}/readings", path(&view)), version(&now), &body)
                    .await;
                assert!(!status.is_server_error(), "{answer}");
            }
            server.get(&path(&view)).await;
            accepted += 1;
        } else {
            assert!(status.is_client_error(), "{answer}");
        }
        server.get(&at).await;
        let text = server.get(&format!("{at}/file")).await.to_string();
        let sent = Client::new()
            .post(format!("{}/api/import?as_copy=true", server.url))
            .body(text)
            .send();
        let taken = sent.await.unwrap();
        assert_eq!(
            taken.status(),
            StatusCode::OK,
            "turn {turn}: {}",
            taken.text().await.unwrap()
        );
    }
    assert!(accepted > 15, "only {accepted} bikes were accepted");
}

#[tokio::test]
async fn a_number_nobody_counts_to_is_refused() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let rider = view["rider"]["id"].as_str().unwrap();
    let mut text = server.get(&format!("/api/riders/{rider}/file")).await;
    text["rider"]["bikes"][0]["sessions"][0]["number"] = json!(i64::MAX);
    let sent = Client::new()
        .post(format!("{}/api/import?as_copy=true", server.url))
        .body(text.to_string())
        .send();
    let refused: Value = sent.await.unwrap().json().await.unwrap();
    assert_eq!(
        refused["errors"][0]["pointer"], "rider.bikes[0].sessions[0].number",
        "{refused}"
    );
}

#[tokio::test]
async fn a_copy_is_put_back_from_the_page() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let first = rider(&server).await;
    let url = |path: &str| format!("{}{path}", server.url);
    let client = Client::new();
    let copy = client
        .get(url("/api/record/copy"))
        .send()
        .await
        .unwrap()
        .bytes()
        .await
        .unwrap();
    let second = rider(&server).await;
    let refused = client
        .post(url("/api/record/restore"))
        .body("no record")
        .send()
        .await
        .unwrap();
    assert_eq!(refused.status(), StatusCode::UNPROCESSABLE_ENTITY);
    server.get(&format!("/api/riders/{second}")).await;
    let restored = client
        .post(url("/api/record/restore"))
        .body(copy)
        .send()
        .await
        .unwrap();
    assert_eq!(restored.status(), StatusCode::OK);
    let words = restored.json::<Value>().await.unwrap()["words"]
        .as_str()
        .unwrap()
        .to_owned();
    assert!(words.contains("is kept as"), "{words}");
    server.get(&format!("/api/riders/{first}")).await;
    let (status, _) = server
        .send(Method::GET, &format!("/api/riders/{second}"), None, None)
        .await
        .unwrap();
    assert_eq!(status, StatusCode::NOT_FOUND);
    rider(&server).await;
    let record = server.get("/api/record").await;
    assert_eq!(record["file"], file.display().to_string());
    assert!(record["warning"].is_null(), "{record}");
}
