//! Pictures of riders: kept with asked and dated consent alone, without notes of the camera, out of files unless asked for, and gone
//! when the rider says no.
use crate::support::{Server, data, id, path, put, session, version};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::path::PathBuf;

const BYTES: &str = "application/octet-stream";

/// A photo as a phone writes it: with a segment of notes, which tells where it was taken.
fn photo() -> Vec<u8> {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../samples/looking");
    let plain = std::fs::read(folder.join("os1_square.jpg")).unwrap();
    let notes = b"Exif\0\0taken at home, 51.5 N 0.1 W";
    let mut all = plain[..2].to_vec();
    all.extend([0xff, 0xe1, 0, u8::try_from(notes.len() + 2).unwrap()]);
    all.extend(notes);
    all.extend(&plain[2..]);
    all
}

/// A fit with one still among its takes: the session's path, the rider's, the take's.
async fn with_still(server: &Server) -> (String, String, String) {
    let view = session(server).await;
    let at = path(&view);
    let take = id().to_string();
    let still = json!({
        "view": {
            "size": [1280.0, 720.0], "faces_left": false, "wheel_diameter_mm": 672.0,
            "rear": {"axle": [420.0, 520.0], "rim": []}, "front": {"axle": [925.0, 520.0], "rim": []},
        },
        "bb": [650.0, 560.0], "marks": [], "known": {}, "moving": false,
    });
    let body = json!({"id": take, "name": "side.jpg", "still": still});
    server
        .write(&format!("{at}/takes/stills"), None, &body)
        .await;
    let rider = format!("/api/riders/{}", view["rider"]["id"].as_str().unwrap());
    (at, rider, format!("/api/takes/{take}/picture"))
}

async fn keep(server: &Server, picture: &str) -> StatusCode {
    let sent = server
        .send_bytes(Method::PUT, picture, BYTES, photo())
        .await;
    sent.0
}

async fn say(
    server: &Server,
    rider: &str,
    pictures: bool,
    by: &str,
    name: &str,
) -> (StatusCode, Value) {
    let body = json!({"id": id(), "pictures": pictures, "by": by, "name": name});
    server.post(&format!("{rider}/consents"), None, &body).await
}

#[tokio::test]
async fn a_picture_needs_a_yes_and_a_no_takes_it_away() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let (at, rider, picture) = with_still(&server).await;
    let state = async || server.get(&format!("{at}/takes")).await;
    assert_eq!(state().await["pictures"]["may"], false);
    assert_eq!(
        keep(&server, &picture).await,
        StatusCode::CONFLICT,
        "nobody was asked"
    );

    assert_eq!(
        say(&server, &rider, true, "rider", "").await.0,
        StatusCode::OK
    );
    assert_eq!(keep(&server, &picture).await, StatusCode::NO_CONTENT);
    let takes = state().await;
    assert_eq!(takes["takes"][0]["pictured"], true);
    assert!(
        takes["pictures"]["words"]
            .as_str()
            .unwrap()
            .contains("said yes on")
    );
    let (status, headers, jpeg) = server.bytes(&picture).await;
    assert_eq!(status, StatusCode::OK);
    assert_eq!(headers["content-type"], "image/jpeg");
    assert_eq!(headers["cache-control"], "no-store");
    assert!(jpeg.starts_with(&[0xff, 0xd8]));
    let holds = |bytes: &[u8], words: &[u8]| bytes.windows(words.len()).any(|part| part == words);
    assert!(holds(&photo(), b"taken at home") && !holds(&jpeg, b"taken at home"));

    // Files are without it unless it is asked for; with it they bring it in elsewhere.
    let plain = server.text(&format!("{rider}/file")).await;
    assert!(!plain.contains("\"picture\""));
    assert!(
        !server
            .text("/api/studio/file")
            .await
            .contains("\"picture\"")
    );
    assert!(!server.text(&format!("{rider}/raw")).await.contains("jpeg"));
    let with = server.text(&format!("{rider}/file?pictures=true")).await;
    let (_elsewhere, other_file) = data();
    let other = Server::start(&other_file);
    let taken = other.post_bytes("/api/import", "application/json", with.clone().into_bytes());
    assert_eq!(taken.await.0, StatusCode::OK);
    assert_eq!(other.bytes(&picture).await.2, jpeg);
    // Without the yes in it such a file is refused, and so is a picture that carries notes.
    let mut unasked: Value = serde_json::from_str(&with).unwrap();
    unasked["rider"].as_object_mut().unwrap().remove("consents");
    let (_third, third_file) = data();
    let third = Server::start(&third_file);
    let (status, problem) = third
        .post_bytes(
            "/api/import",
            "application/json",
            unasked.to_string().into_bytes(),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem.to_string().contains("consent"), "{problem}");

    let (_, gone) = say(&server, &rider, false, "rider", "").await;
    assert_eq!(gone["in_log"], false, "{gone}");
    assert_eq!(server.bytes(&picture).await.0, StatusCode::NOT_FOUND);
    assert_eq!(keep(&server, &picture).await, StatusCode::CONFLICT);
    let on_disk = std::fs::read(&file).unwrap();
    assert!(
        !holds(&on_disk, &jpeg[2000..2400]),
        "overwritten in the file"
    );
}

#[tokio::test]
async fn a_minor_is_spoken_for_and_a_studio_may_keep_none() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let (at, rider, picture) = with_still(&server).await;
    // Of age until the birthday was put right: the rider's own yes allows nothing any more.
    say(&server, &rider, true, "rider", "").await;
    let read = server.get(&rider).await;
    let born = json!({"born": "2015-05-05"});
    server.patch(&rider, version(&read).unwrap(), &born).await;
    assert_eq!(keep(&server, &picture).await, StatusCode::CONFLICT);
    let (status, problem) = say(&server, &rider, true, "rider", "").await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/by");
    let (status, problem) = say(&server, &rider, true, "guardian", "  ").await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"][0]["pointer"], "/name");
    assert_eq!(
        say(&server, &rider, true, "guardian", "Ansa Korr").await.0,
        StatusCode::OK
    );
    assert_eq!(keep(&server, &picture).await, StatusCode::NO_CONTENT);
    let takes = server.get(&format!("{at}/takes")).await;
    assert!(
        takes["pictures"]["words"]
            .as_str()
            .unwrap()
            .starts_with("Ansa Korr, for")
    );

    // Nothing that is no picture is kept, whoever said yes.
    let (status, _) = server
        .send_bytes(Method::PUT, &picture, BYTES, b"GIF89a".to_vec())
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(
        server.bytes(&picture).await.0,
        StatusCode::OK,
        "the one before stands"
    );

    let studio = server.get("/api/studio").await;
    let mut house = studio["house"].clone();
    house["picture_days"] = json!(0);
    put(&server, "/api/studio", version(&studio), &house).await;
    assert_eq!(
        server.bytes(&picture).await.0,
        StatusCode::NOT_FOUND,
        "due at once"
    );
    assert_eq!(
        keep(&server, &picture).await,
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[tokio::test]
async fn one_picture_is_deleted_and_what_is_not_there_says_so() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    // The day's copy may be made at any moment: this studio keeps none.
    let studio = server.get("/api/studio").await;
    let mut house = studio["house"].clone();
    house["copies"] = json!(0);
    let saved = put(&server, "/api/studio", version(&studio), &house).await;
    assert_eq!(saved.0, StatusCode::OK);
    let (_, rider, picture) = with_still(&server).await;
    say(&server, &rider, true, "rider", "").await;
    keep(&server, &picture).await;
    let delete = async || {
        server
            .send(Method::DELETE, &picture, None, None)
            .await
            .unwrap()
    };
    let (status, gone) = delete().await;
    assert_eq!((status, &gone["copies"]), (StatusCode::OK, &json!(0)));
    assert_eq!(delete().await.0, StatusCode::NOT_FOUND);
    let nobody = format!("/api/takes/{}/picture", id());
    assert_eq!(keep(&server, &nobody).await, StatusCode::NOT_FOUND);
    let unknown = format!("/api/riders/{}", id());
    assert_eq!(
        say(&server, &unknown, true, "rider", "").await.0,
        StatusCode::NOT_FOUND
    );
}
