//! Nothing acknowledged is lost when the server is killed in the middle of writing.
use crate::support::{Server, begin, data, enter, id, path, session};
use serde_json::{Value, json};
use std::time::Duration;

#[tokio::test]
async fn what_was_acknowledged_survives_a_kill() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let view = begin(
        &server,
        &view,
        json!([{"quantity": "saddle_height_mm", "by": -5}]),
    )
    .await;
    enter(&server, &view, json!({"verdict": "better"})).await;
    let at = path(&view);
    let trial = view["trials"][0]["trial"]["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let rider = view["rider"]["id"].as_str().unwrap().to_owned();

    // Four writers at once; the kill falls among them.
    let mut writers = Vec::new();
    for writer in 0..4 {
        let (url, trial, rider) = (server.url.clone(), trial.clone(), rider.clone());
        writers.push(tokio::spawn(async move {
            let client = reqwest::Client::new();
            let mut acknowledged = Vec::new();
            let mut version = 1;
            for turn in 0.. {
                let entry = id();
                let (place, body) = if writer % 2 == 0 {
                    (
                        format!("{url}/api/trials/{trial}/entries"),
                        json!({"id": entry, "body": {"words": format!("writer {writer}, turn {turn}")}}),
                    )
                } else {
                    (
                        format!("{url}/api/riders/{rider}/readings"),
                        json!({"id": entry, "quantity": "thigh_mm", "value": 420 + turn % 10, "side": "left"}),
                    )
                };
                let sent = client.post(place).header("If-Match", format!("\"{version}\""));
                let Ok(answer) = sent.json(&body).send().await else {
                    break;
                };
                let (status, body) = (answer.status(), answer.json::<Value>().await);
                if status.is_success() {
                    acknowledged.push(entry.to_string());
                }
                // Two write the body's readings: whoever comes second goes on from what the first one left.
                version = match (status.as_u16(), body) {
                    (200, Ok(body)) => body["version"].as_i64().unwrap(),
                    (412, Ok(body)) => body["current_version"].as_i64().unwrap(),
                    (_, Err(_)) => break,
                    (status, Ok(body)) => panic!("{status}: {body}"),
                };
            }
            acknowledged
        }));
    }
    tokio::time::sleep(Duration::from_millis(900)).await;
    server.kill();
    let mut acknowledged = Vec::new();
    for writer in writers {
        acknowledged.extend(writer.await.unwrap());
    }
    assert!(
        acknowledged.len() > 8,
        "only {} writes before the kill",
        acknowledged.len()
    );

    let server = Server::start(&file);
    let written = server
        .get(&format!("/api/riders/{rider}/file"))
        .await
        .to_string();
    for entry in &acknowledged {
        assert!(
            written.contains(entry),
            "{entry} was acknowledged and is lost"
        );
    }
    let view = server.get(&at).await;
    assert_eq!(view["trials"][0]["verdict"], "better");
    assert_eq!(
        view["trials"][0]["trial"]["foreseen"]["title"],
        "Saddle down 5"
    );
}
