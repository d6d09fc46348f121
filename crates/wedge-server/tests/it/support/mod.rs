//! A real server on a real file, spoken to over real HTTP.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    dead_code,
    unreachable_pub
)]

use reqwest::{Client, Method, StatusCode};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use tempfile::TempDir;
use uuid::Uuid;

pub struct Server {
    child: Child,
    pub url: String,
    /// What it said until it was open.
    pub said: Vec<String>,
    client: Client,
}

impl Server {
    /// Starts `wedge serve` on any free port.
    pub fn start(data: &Path) -> Self {
        Self::started(Command::new(env!("CARGO_BIN_EXE_wedge")), data)
    }

    /// Starts it through a command that runs what follows it.
    pub fn started(mut command: Command, data: &Path) -> Self {
        let mut child = command
            .args(["serve", "--port", "0", "--data"])
            .arg(data)
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let lines = BufReader::new(child.stdout.take().unwrap()).lines();
        let mut said = Vec::new();
        let url = lines
            .map_while(Result::ok)
            .inspect(|line| said.push(line.clone()))
            .find_map(|line| line.strip_prefix("Wedge is open at ").map(str::to_owned))
            .expect("the server says where it is open");
        Self {
            child,
            url,
            said,
            client: Client::new(),
        }
    }

    /// Its process.
    pub fn pid(&self) -> u32 {
        self.child.id()
    }

    /// Waits until it has ended by itself.
    pub fn ended(&mut self) -> std::process::ExitStatus {
        self.child.wait().unwrap()
    }

    /// Stops it as a power cut would.
    pub fn kill(mut self) {
        self.child.kill().unwrap();
        self.child.wait().unwrap();
    }

    pub async fn send(
        &self,
        method: Method,
        path: &str,
        version: Option<i64>,
        body: Option<&Value>,
    ) -> reqwest::Result<(StatusCode, Value)> {
        let mut request = self.client.request(method, format!("{}{path}", self.url));
        if let Some(version) = version {
            request = request.header("If-Match", format!("\"{version}\""));
        }
        if let Some(body) = body {
            request = request.json(body);
        }
        let answer = request.send().await?;
        let status = answer.status();
        let text = answer.text().await?;
        Ok((status, serde_json::from_str(&text).unwrap_or(Value::Null)))
    }

    pub async fn get(&self, path: &str) -> Value {
        let (status, body) = self.send(Method::GET, path, None, None).await.unwrap();
        assert_eq!(status, StatusCode::OK, "{path}: {body}");
        body
    }

    pub async fn post(
        &self,
        path: &str,
        version: Option<i64>,
        body: &Value,
    ) -> (StatusCode, Value) {
        self.send(Method::POST, path, version, Some(body))
            .await
            .unwrap()
    }

    /// Posts what must be accepted.
    pub async fn write(&self, path: &str, version: Option<i64>, body: &Value) -> Value {
        let (status, answer) = self.post(path, version, body).await;
        assert_eq!(status, StatusCode::OK, "{path}: {answer}");
        answer
    }

    /// Posts bytes as they are.
    pub async fn post_bytes(&self, path: &str, kind: &str, bytes: Vec<u8>) -> (StatusCode, Value) {
        self.send_bytes(Method::POST, path, kind, bytes).await
    }

    /// Sends bytes as they are.
    pub async fn send_bytes(
        &self,
        method: Method,
        path: &str,
        kind: &str,
        bytes: Vec<u8>,
    ) -> (StatusCode, Value) {
        let request = self.client.request(method, format!("{}{path}", self.url));
        let answer = request
            .header("content-type", kind)
            .body(bytes)
            .send()
            .await
            .unwrap();
        let status = answer.status();
        (
            status,
            serde_json::from_str(&answer.text().await.unwrap()).unwrap_or(Value::Null),
        )
    }

    /// A body as it is, with its headers.
    pub async fn bytes(&self, path: &str) -> (StatusCode, reqwest::header::HeaderMap, Vec<u8>) {
        let asked = self.client.get(format!("{}{path}", self.url));
        let answer = asked.send().await.unwrap();
        let (status, headers) = (answer.status(), answer.headers().clone());
        (status, headers, answer.bytes().await.unwrap().to_vec())
    }

    /// A body as text.
    pub async fn text(&self, path: &str) -> String {
        let answer = self
            .client
            .get(format!("{}{path}", self.url))
            .send()
            .await
            .unwrap();
        assert_eq!(answer.status(), StatusCode::OK, "{path}");
        answer.text().await.unwrap()
    }

    pub async fn patch(&self, path: &str, version: i64, body: &Value) -> (StatusCode, Value) {
        self.send(Method::PATCH, path, Some(version), Some(body))
            .await
            .unwrap()
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

pub fn id() -> Uuid {
    Uuid::now_v7()
}

/// A folder with a data file in it, gone with the test.
pub fn data() -> (TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("wedge.sqlite");
    (folder, file)
}

/// A new rider, not one of the demo.
pub async fn rider(server: &Server) -> Uuid {
    let rider = id();
    let body = json!({"id": rider, "name": "Ida Lockwood", "stature_mm": 1712, "inseam_mm": 802, "mass_kg": 61.5});
    server.write("/api/riders", None, &body).await;
    rider
}

/// A road bike in the shape the API takes.
pub fn bike() -> Value {
    let mut bike = like(&wedge_core::example::road());
    bike["name"] = json!("Ferry Runner");
    bike
}

/// A bike like one of the examples, in the shape the API takes.
pub fn like(example: &wedge_core::foresee::ForeseeInput) -> Value {
    let example = serde_json::to_value(example).unwrap();
    let mut saddle = example["setup"]["saddle"].clone();
    for measured in ["saddle_height_mm", "setback_mm"] {
        saddle.as_object_mut().unwrap().remove(measured);
    }
    json!({
        "id": id(),
        "name": "Like the example",
        "kind": example["kind"],
        "frame": example["frame"],
        "cockpit": example["setup"]["cockpit"],
        "bar": example["setup"]["bar"],
        "saddle": saddle,
        "post": example["setup"]["post"],
        "pedalling": example["setup"]["pedalling"],
    })
}

pub fn reading(quantity: &str, value: f64) -> Value {
    json!({"id": id(), "quantity": quantity, "value": value})
}

/// An open session with its bike as found closed.
pub async fn session(server: &Server) -> Value {
    session_on(server, &bike(), 712.0, 188.0).await
}

/// An open session on that bike with its saddle taped and its bike as found closed.
pub async fn session_on(server: &Server, bike: &Value, height: f64, setback: f64) -> Value {
    let rider = rider(server).await;
    server
        .write(&format!("/api/riders/{rider}/bikes"), None, bike)
        .await;
    let place = format!("/api/bikes/{}/sessions", bike["id"].as_str().unwrap());
    let mut view = server
        .write(&place, None, &json!({"id": id(), "day": "2026-11-23"}))
        .await;
    let at = path(&view);
    for (quantity, value) in [("saddle_height_mm", height), ("setback_mm", setback)] {
        let place = format!("{at}/readings");
        view = server
            .write(&place, version(&view), &reading(quantity, value))
            .await;
    }
    server
        .write(&format!("{at}/found"), version(&view), &json!({}))
        .await
}

/// Puts a whole noun, from a version where there is one.
pub async fn put(
    server: &Server,
    path: &str,
    at: Option<i64>,
    body: &Value,
) -> (StatusCode, Value) {
    server
        .send(Method::PUT, path, at, Some(body))
        .await
        .unwrap()
}

pub fn path(view: &Value) -> String {
    format!("/api/sessions/{}", view["session"]["id"].as_str().unwrap())
}

pub fn version(view: &Value) -> Option<i64> {
    view["version"].as_i64()
}

pub async fn begin(server: &Server, view: &Value, changes: Value) -> Value {
    let body = json!({"id": id(), "changes": changes});
    server
        .write(&format!("{}/trials", path(view)), version(view), &body)
        .await
}

pub async fn enter(server: &Server, view: &Value, body: Value) -> Value {
    let trial = view["trials"].as_array().unwrap().last().unwrap()["trial"]["id"].clone();
    let place = format!("/api/trials/{}/entries", trial.as_str().unwrap());
    server
        .write(&place, None, &json!({"id": id(), "body": body}))
        .await
}
