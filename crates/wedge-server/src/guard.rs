//! The door: only pages of this server, on the loopback, may talk to it; and what is said about each request.

use crate::Problem;
use crate::api::{COOKIE, megabytes};
use crate::lan::Lan;
use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::{Method, StatusCode, header};
use actix_web::middleware::Next;
use actix_web::{Error, ResponseError, web};
use std::time::Instant;
use wedge_store::Store;

/// The names this server answers to.
pub(crate) struct Door {
    hosts: [String; 3],
}

impl Door {
    pub(crate) fn new(port: u16) -> Self {
        Self {
            hosts: ["127.0.0.1", "localhost", "[::1]"].map(|host| format!("{host}:{port}")),
        }
    }

    fn knows(&self, host: &str) -> bool {
        self.hosts
            .iter()
            .any(|known| known.eq_ignore_ascii_case(host))
    }
}

/// Refuses requests whose `Host` or `Origin` is not this server's: a page from elsewhere, or a name made to point here.
pub(crate) async fn door(
    request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let api = request.path().starts_with("/api");
    // What comes through TLS comes from the room's network, where this machine has names nobody can list.
    let in_the_room = request.app_config().secure();
    let known = if in_the_room {
        let host = request.headers().get(header::HOST).cloned();
        comes_from(&request, "https://", |place| {
            host.as_ref().is_some_and(|host| host == place)
        })
    } else {
        let door = request.app_data::<web::Data<Door>>();
        door.is_some_and(|door| comes_from(&request, "http://", |place| door.knows(place)))
    };
    if !known || (api && !is_of_own_page(&request)) {
        return Err(Problem::new(
            StatusCode::FORBIDDEN,
            "Wedge answers only its own pages on this machine",
        )
        .into());
    }
    if in_the_room && api {
        admitted(&request)?;
    }
    if [Method::TRACE, Method::CONNECT].contains(request.method()) {
        return Err(
            Problem::new(StatusCode::METHOD_NOT_ALLOWED, "Nothing here answers that").into(),
        );
    }
    let mut response = next.call(request).await?;
    let headers = response.headers_mut();
    if api {
        headers.insert(
            header::CACHE_CONTROL,
            header::HeaderValue::from_static("no-store"),
        );
    }
    for (name, value) in [
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (header::X_FRAME_OPTIONS, "DENY"),
        (header::CROSS_ORIGIN_RESOURCE_POLICY, "same-origin"),
        (header::CROSS_ORIGIN_OPENER_POLICY, "same-origin"),
    ] {
        headers.insert(name, header::HeaderValue::from_static(value));
    }
    Ok(response)
}

/// What is done only at the machine itself: the record as a whole, and who is let in.
const AT_THE_MACHINE: [&str; 3] = ["/api/record", "/api/lan", "/api/demo"];

/// Whether a request asks at a place that is known, from no page or from one of such a place.
fn comes_from(request: &ServiceRequest, scheme: &str, known: impl Fn(&str) -> bool) -> bool {
    let said = |name| {
        let value = request.headers().get(name);
        value.map(|value| value.to_str().unwrap_or_default())
    };
    let is_known = |origin: &str| origin.strip_prefix(scheme).is_some_and(&known);
    said(header::HOST).is_some_and(&known) && said(header::ORIGIN).is_none_or(is_known)
}

/// Lets a device of the room's network to the record once it has given the passphrase.
fn admitted(request: &ServiceRequest) -> Result<(), Problem> {
    if request.path() == "/api/lan/enter" {
        return Ok(());
    }
    let lan = request.app_data::<web::Data<Option<Lan>>>();
    let lan = lan.and_then(|lan| lan.as_ref().as_ref());
    let token = request.cookie(COOKIE);
    let is_in = lan
        .zip(token)
        .is_some_and(|(lan, token)| lan.knows(token.value()));
    if !is_in {
        return Err(Problem::new(
            StatusCode::UNAUTHORIZED,
            "Give the passphrase of the room's network first",
        ));
    }
    if AT_THE_MACHINE
        .iter()
        .any(|path| request.path().starts_with(path))
    {
        return Err(Problem::new(
            StatusCode::FORBIDDEN,
            "That is done at the machine Wedge runs on",
        ));
    }
    Ok(())
}

/// Whether a browser says that a page of this server asks, or the person at the keys; other programs say nothing.
fn is_of_own_page(request: &ServiceRequest) -> bool {
    match request.headers().get("sec-fetch-site") {
        None => true,
        Some(site) => [b"same-origin".as_slice(), b"none"].contains(&site.as_bytes()),
    }
}

/// Says how much room there is where the disk is full.
pub(crate) async fn room(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let store = request.app_data::<web::Data<Store>>().cloned();
    let response = next.call(request).await?;
    let full = (response.response().error())
        .and_then(|error| error.as_error::<Problem>())
        .filter(|problem| problem.status == StatusCode::INSUFFICIENT_STORAGE.as_u16());
    let room = store.and_then(|store| store.room());
    match full.cloned().zip(room) {
        Some((problem, room)) => {
            let answer = problem.with_room(&megabytes(room)).error_response();
            Ok(response.into_response(answer).map_into_boxed_body())
        }
        None => Ok(response.map_into_boxed_body()),
    }
}

/// One line a request, with the path's template: ids and names stay out of the log.
pub(crate) async fn log(
    request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let begun = Instant::now();
    let method = request.method().clone();
    let answer = next.call(request).await;
    // Only a routed request knows its template.
    let (path, status) = match &answer {
        Ok(response) => (
            response.request().match_pattern(),
            response.status().as_u16(),
        ),
        Err(error) => (None, error.as_response_error().status_code().as_u16()),
    };
    let path = path.unwrap_or_else(|| "front end".to_owned());
    tracing::debug!(%method, path, status, took = ?begun.elapsed(), "answered");
    answer
}
