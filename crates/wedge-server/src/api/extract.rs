//! What a request carries: a checked body, the version it was read at.

use crate::Problem;
use actix_web::dev::Payload;
use actix_web::http::header::ContentType;
use actix_web::http::{StatusCode, header};
use actix_web::rt::time::timeout;
use actix_web::{FromRequest, HttpRequest, HttpResponse, HttpResponseBuilder, web};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Deserializer, Serialize};
use std::future::{Future, Ready, ready};
use std::pin::Pin;
use std::time::Duration;
use wedge_core::measure::Refusal;
use wedge_files::{refuse_name, refuse_words};

/// The largest body accepted, but for files.
const MOST_BYTES: usize = 256 * 1024;

/// How long a body may take to come in.
const PATIENCE: Duration = Duration::from_secs(20);

/// A JSON body as it came.
pub(crate) struct Raw(pub(crate) web::Bytes);

impl FromRequest for Raw {
    type Error = Problem;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Problem>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let json = request
            .headers()
            .get(header::CONTENT_TYPE)
            .and_then(|v| v.to_str().ok())
            .is_some_and(|kind| kind.starts_with("application/json"));
        let payload = web::Payload::from_request(request, payload);
        Box::pin(async move {
            if !json {
                return Err(Problem::new(
                    StatusCode::UNSUPPORTED_MEDIA_TYPE,
                    "Send JSON, and say so in content-type",
                ));
            }
            let broken = |_| Problem::new(StatusCode::BAD_REQUEST, "The request broke off");
            let sent = payload.await.map_err(broken)?;
            let bytes = timeout(PATIENCE, sent.to_bytes_limited(MOST_BYTES))
                .await
                .map_err(|_| Problem::slow())?
                .map_err(|_| {
                    Problem::new(
                        StatusCode::PAYLOAD_TOO_LARGE,
                        "That is too long to be right",
                    )
                })?
                .map_err(broken)?;
            Ok(Self(bytes))
        })
    }
}

/// A JSON body; what does not read is a problem that points at the field.
pub(crate) struct Body<T>(pub(crate) T);

impl<T: DeserializeOwned + 'static> FromRequest for Body<T> {
    type Error = Problem;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Problem>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let raw = Raw::from_request(request, payload);
        Box::pin(async move { Ok(Self(wedge_bench::read(&raw.await?.0)?)) })
    }
}

/// The version a write was made from, out of `If-Match`.
pub(crate) struct IfMatch(pub(crate) i64);

impl FromRequest for IfMatch {
    type Error = Problem;
    type Future = Ready<Result<Self, Problem>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let version = request
            .headers()
            .get(header::IF_MATCH)
            .and_then(|v| v.to_str().ok())
            .and_then(|tag| tag.trim_matches('"').parse().ok());
        ready(version.map(Self).ok_or_else(|| {
            Problem::new(
                StatusCode::PRECONDITION_REQUIRED,
                "Send the version this was read at in If-Match",
            )
        }))
    }
}

/// JSON with the noun's version in its `ETag`.
pub(crate) fn versioned<T: Serialize>(body: &T, version: i64) -> HttpResponse {
    tagged(version).json(body)
}

/// JSON that is written already, with the noun's version in its `ETag`.
pub(crate) fn versioned_json(body: Vec<u8>, version: i64) -> HttpResponse {
    tagged(version).content_type(ContentType::json()).body(body)
}

fn tagged(version: i64) -> HttpResponseBuilder {
    let mut answer = HttpResponse::Ok();
    answer.insert_header((header::ETAG, format!("\"{version}\"")));
    answer
}

/// A field that was given, be it null: left out, it is not touched.
pub(crate) fn given<'de, T: Deserialize<'de>, D: Deserializer<'de>>(
    value: D,
) -> Result<Option<T>, D::Error> {
    T::deserialize(value).map(Some)
}

/// Nothing refused, or all of it.
pub(crate) fn accept(refusals: Vec<Refusal>) -> Result<(), Problem> {
    if refusals.is_empty() {
        Ok(())
    } else {
        Err(Problem::refused(refusals))
    }
}

/// A name as typed.
pub(crate) fn name(typed: &str) -> Result<String, Problem> {
    accept(Vec::from_iter(refuse_name(typed, "/name")))?;
    Ok(typed.trim().to_owned())
}

/// Words as written down.
pub(crate) fn words(said: &str, pointer: &str) -> Result<(), Problem> {
    accept(Vec::from_iter(refuse_words(said, pointer)))
}
