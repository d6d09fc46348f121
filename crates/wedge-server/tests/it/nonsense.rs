//! Nonsense at every door: whatever comes in at any route of the API's own description, the answer is a problem in words
//! or a good answer, never a failure of the server, and what is refused leaves the record as it was.

use crate::support::{Server, id};
use reqwest::{Client, Method, Response};
use serde_json::{Map, Value, json};

const DESCRIPTION: &str = include_str!("../../../../web/src/api/openapi.json");

/// What every number and every text of a body is, in turn.
const FILLINGS: [(f64, &str); 4] = [
    (0.0, ""),
    (-1.0, "x"),
    (3.5, "\u{202e}ǆ\u{0}\n<b>"),
    (1e300, "x"),
];

/// Bodies that fit no route.
fn misfits() -> Vec<Value> {
    vec![
        Value::Null,
        json!(7),
        json!("text"),
        json!([]),
        json!({}),
        json!({ "id": "no id" }),
        json!({ "id": id(), "surprise": [{}] }),
    ]
}

/// A body in the shape a schema describes, with one number and one text everywhere.
fn shaped(all: &Value, schema: &Value, number: f64, text: &str, depth: u32) -> Value {
    let again = |inner: &Value| shaped(all, inner, number, text, depth + 1);
    if depth > 12 {
        return Value::Null;
    }
    if let Some(name) = schema["$ref"].as_str() {
        return again(all.pointer(name.strip_prefix('#').unwrap()).unwrap());
    }
    if let Some(values) = schema["enum"].as_array() {
        return values[0].clone();
    }
    for several in ["oneOf", "anyOf"] {
        if let Some(variants) = schema[several].as_array() {
            let meant = variants.iter().find(|v| v["type"] != "null").unwrap();
            return again(meant);
        }
    }
    if let Some(parts) = schema["allOf"].as_array() {
        let whole = parts.iter().map(again).filter_map(|part| match part {
            Value::Object(part) => Some(part),
            _ => None,
        });
        return Value::Object(whole.flatten().collect());
    }
    let kinds = match &schema["type"] {
        Value::Array(kinds) => kinds.clone(),
        kind => vec![kind.clone()],
    };
    match kinds.first().and_then(Value::as_str) {
        Some("object") => {
            let properties = schema["properties"].as_object().cloned();
            let members = properties.unwrap_or_default();
            let body: Map<String, Value> = (members.iter())
                .map(|(name, inner)| (name.clone(), again(inner)))
                .collect();
            Value::Object(body)
        }
        Some("array") => json!([again(&schema["items"])]),
        Some("integer") => json!(number.clamp(-9e15, 9e15).trunc()),
        Some("number") => json!(number),
        Some("boolean") => json!(true),
        Some("string") => match schema["format"].as_str() {
            Some("uuid") => json!(id()),
            Some("date") => json!("2026-11-24"),
            Some("date-time") => json!("2026-11-24T10:00:00Z"),
            _ => json!(text),
        },
        _ => Value::Null,
    }
}

/// Everything nonsense can change: riders, the studio and the fit.
async fn record(server: &Server, rider: &str) -> Value {
    json!([
        server.get(&format!("/api/riders/{rider}/file")).await["rider"],
        server.get("/api/studio").await,
        server.get("/api/frames/file").await,
    ])
}

/// What is wrong with an answer, if anything: a refusal is a problem in words, and the server never fails.
async fn wrong_with(answer: Response) -> Option<String> {
    let status = answer.status().as_u16();
    if answer.status().is_success() {
        return None;
    }
    let kind = (answer.headers().get("content-type"))
        .map(|kind| kind.to_str().unwrap().to_owned())
        .unwrap_or_default();
    let text = answer.text().await.unwrap();
    let body: Value = serde_json::from_str(&text).unwrap_or(Value::Null);
    let told = body["detail"]
        .as_str()
        .is_some_and(|words| !words.is_empty());
    let problem = kind == "application/problem+json" && told && body["status"] == status;
    let refused = (400..=499).contains(&status);
    (!(refused && problem)).then(|| format!("{status} {kind} {text}"))
}

/// Everything that is sent to a route: nothing, misfits, and its own shape full of nonsense.
fn bodies(all: &Value, route: &Value) -> Vec<Option<Value>> {
    let mut bodies: Vec<Option<Value>> = vec![None];
    if !route["requestBody"].is_null() {
        let schema = &route["requestBody"]["content"]["application/json"]["schema"];
        bodies.extend(misfits().into_iter().map(Some));
        for (number, text) in FILLINGS {
            bodies.push(Some(shaped(all, schema, number, text, 0)));
        }
    }
    bodies
}

#[tokio::test]
async fn no_route_fails_whatever_comes_in() {
    let (_folder, file) = crate::support::data();
    let server = Server::start(&file);
    let view = crate::support::session(&server).await;
    let rider = view["rider"]["id"].as_str().unwrap().to_owned();
    let session = crate::support::path(&view);
    let begun = crate::support::begin(
        &server,
        &view,
        json!([{ "quantity": "saddle_height_mm", "by": -5.0 }]),
    )
    .await;
    let trial = begun["trials"][0]["trial"]["id"].as_str().unwrap();
    let plan = json!({ "id": id(), "plan": { "plumb": { "landmark": "centre" } } });
    let run = server.write(&format!("{session}/runs"), None, &plan).await;
    let known = |path: &str| {
        let noun = path.split('/').nth(2).unwrap();
        match noun {
            "riders" => rider.clone(),
            "bikes" => view["bike"]["id"].as_str().unwrap().to_owned(),
            "runs" => run["id"].as_str().unwrap().to_owned(),
            "trials" => trial.to_owned(),
            _ => view["session"]["id"].as_str().unwrap().to_owned(),
        }
    };
    let all: Value = serde_json::from_str(DESCRIPTION).unwrap();
    let client = Client::new();
    let (mut wrong, mut asked, mut refused) = (Vec::new(), 0, 0);
    for (path, methods) in all["paths"].as_object().unwrap() {
        // What deletes does what it is asked to: its own test looks at that.
        let methods = methods.as_object().unwrap().iter();
        for (method, route) in methods.filter(|(method, _)| *method != "delete") {
            let bodies = bodies(&all, route);
            let before = record(&server, &rider).await;
            let mut written = false;
            for place in [known(path), id().to_string(), "no-id".to_owned()] {
                let at = path
                    .replace("{id}", &place)
                    .replace("{reading}", &id().to_string());
                let queries = ["", "?to=1e300&setback=NaN&text=%00&unit=mm&find=%25"];
                let queries = &queries[..if method == "get" { 2 } else { 1 }];
                for (query, body) in queries
                    .iter()
                    .flat_map(|q| bodies.iter().map(move |b| (q, b)))
                {
                    let method = Method::from_bytes(method.to_uppercase().as_bytes()).unwrap();
                    let at = format!("{at}{query}");
                    let mut request = client
                        .request(method.clone(), format!("{}{at}", server.url))
                        .header("If-Match", "\"1\"");
                    if let Some(body) = body {
                        request = request.json(body);
                    }
                    let answer = request.send().await.unwrap();
                    asked += 1;
                    match answer.status().as_u16() {
                        200..=299 => written = true,
                        _ => refused += 1,
                    }
                    if let Some(bad) = wrong_with(answer).await {
                        let body = body.as_ref().map(Value::to_string).unwrap_or_default();
                        let body: String = body.chars().take(200).collect();
                        wrong.push(format!("{method} {at} {body}: {bad}"));
                    }
                }
            }
            if !written || method == "get" {
                let after = record(&server, &rider).await;
                assert_eq!(after, before, "{method} {path}: refused, and written");
            }
        }
    }
    assert!(
        wrong.is_empty(),
        "{} of {asked}:\n{}",
        wrong.len(),
        wrong.join("\n")
    );
    assert!(refused > 300, "{refused} of {asked}");
    for (method, path) in [(Method::GET, "/api/none"), (Method::PUT, "/api/riders")] {
        let answer = client.request(method, format!("{}{path}", server.url));
        let answer = answer.send().await.unwrap();
        assert_eq!(answer.status().as_u16(), 404);
        assert_eq!(wrong_with(answer).await, None);
    }
}
