//! The room's network: TLS, the passphrase, few attempts, devices put out, and what is done at the machine alone.

use crate::support::{Server, data, rider};
use reqwest::{Client, StatusCode};
use serde_json::{Value, json};
use std::io::Write;
use std::path::Path;
use std::process::{Command, Stdio};

pub(crate) const PASSPHRASE: &str = "slate ferry at seven";

pub(crate) fn choose(file: &Path, passphrase: &str) -> bool {
    let mut child = Command::new(env!("CARGO_BIN_EXE_wedge"))
        .args(["passphrase", "--data"])
        .arg(file)
        .stdin(Stdio::piped())
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    writeln!(child.stdin.take().unwrap(), "{passphrase}").unwrap();
    child.wait().unwrap().success()
}

/// A server with its second door open, and where that is.
pub(crate) fn with_second_door(file: &Path) -> (Server, String) {
    let mut command = Command::new("sh");
    let through = "exec \"$@\" --lan 127.0.0.1 --lan-port 0";
    command.args(["-c", through, "sh", env!("CARGO_BIN_EXE_wedge")]);
    let server = Server::started(command, file);
    let port = server
        .said
        .iter()
        .find_map(|line| line.strip_prefix("In the room's network: port "));
    let url = format!("https://127.0.0.1:{}", port.unwrap());
    (server, url)
}

pub(crate) fn device() -> Client {
    Client::builder()
        .cookie_store(true)
        .danger_accept_invalid_certs(true)
        .user_agent("Mozilla/5.0 (iPad)")
        .build()
        .unwrap()
}

async fn enter(device: &Client, url: &str, passphrase: &str) -> StatusCode {
    let body = json!({ "passphrase": passphrase });
    device
        .post(format!("{url}/api/lan/enter"))
        .json(&body)
        .send()
        .await
        .unwrap()
        .status()
}

pub(crate) async fn status(device: &Client, url: String) -> StatusCode {
    device.get(url).send().await.unwrap().status()
}

#[tokio::test]
async fn a_device_comes_in_with_the_passphrase_and_is_put_out() {
    let (folder, file) = data();
    assert!(
        !choose(&file, "short"),
        "a short passphrase is no passphrase"
    );
    assert!(choose(&file, PASSPHRASE));
    let kept = std::fs::read_to_string(folder.path().join("wedge-lan/passphrase")).unwrap();
    assert!(kept.starts_with("$argon2id$") && !kept.contains(PASSPHRASE));
    let (server, url) = with_second_door(&file);
    let one = rider(&server).await;

    let tablet = device();
    // The pages say nothing of anybody; everything else waits for the passphrase.
    assert_eq!(status(&tablet, format!("{url}/")).await, StatusCode::OK);
    for path in ["/api/riders", "/api/health", "/api/studio/file", "/api/lan"] {
        assert_eq!(
            status(&tablet, format!("{url}{path}")).await,
            StatusCode::UNAUTHORIZED,
            "{path}"
        );
    }
    assert_eq!(
        enter(&tablet, &url, "something else").await,
        StatusCode::UNAUTHORIZED
    );
    assert_eq!(
        enter(&tablet, &url, PASSPHRASE).await,
        StatusCode::NO_CONTENT
    );
    assert_eq!(
        status(&tablet, format!("{url}/api/riders/{one}")).await,
        StatusCode::OK
    );
    // Another device is not let in by it.
    assert_eq!(
        status(&device(), format!("{url}/api/riders")).await,
        StatusCode::UNAUTHORIZED
    );
    // What is done at the machine is not done from a tablet, and another page's origin is nobody's.
    for path in ["/api/record", "/api/record/copy", "/api/lan"] {
        assert_eq!(
            status(&tablet, format!("{url}{path}")).await,
            StatusCode::FORBIDDEN,
            "{path}"
        );
    }
    let foreign = tablet
        .get(format!("{url}/api/riders"))
        .header("origin", "https://elsewhere.example");
    assert_eq!(
        foreign.send().await.unwrap().status(),
        StatusCode::FORBIDDEN
    );

    let lan = server.get("/api/lan").await;
    assert_eq!(lan["open"], true);
    assert_eq!(lan["fingerprint"].as_str().unwrap().len(), 95);
    assert_eq!(lan["devices"][0]["name"], "A tablet");
    let out = format!(
        "/api/lan/devices/{}",
        lan["devices"][0]["id"].as_str().unwrap()
    );
    let (gone, _) = server
        .send(reqwest::Method::DELETE, &out, None, None)
        .await
        .unwrap();
    assert_eq!(gone, StatusCode::OK);
    assert_eq!(
        status(&tablet, format!("{url}/api/riders")).await,
        StatusCode::UNAUTHORIZED
    );

    // A few wrong ones, and even the right one must wait.
    let guesser = device();
    for _ in 0..5 {
        assert_eq!(
            enter(&guesser, &url, "a guess of somebody").await,
            StatusCode::UNAUTHORIZED
        );
    }
    assert_eq!(
        enter(&guesser, &url, PASSPHRASE).await,
        StatusCode::TOO_MANY_REQUESTS
    );
}

#[tokio::test]
async fn it_is_closed_unless_it_is_asked_for() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let lan: Value = server.get("/api/lan").await;
    assert_eq!(lan["open"], false);
    assert_eq!(lan["devices"], json!([]));
    let refused = Command::new(env!("CARGO_BIN_EXE_wedge"))
        .args([
            "serve",
            "--port",
            "0",
            "--lan",
            "127.0.0.1",
            "--lan-port",
            "0",
            "--data",
        ])
        .arg(file.with_file_name("other.sqlite"))
        .output()
        .unwrap();
    assert!(!refused.status.success());
    let words = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(words.contains("wedge passphrase"), "{words}");
}
