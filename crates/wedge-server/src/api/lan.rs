//! The room's network: what is shown of the second door at the machine, and the door itself to a device.

use super::extract::Body;
use crate::Problem;
use crate::lan::{Lan, Turned};
use actix_web::cookie::{Cookie, SameSite};
use actix_web::http::{StatusCode, header};
use actix_web::{HttpRequest, HttpResponse, delete, get, post, web};
use qrcode::QrCode;
use qrcode::render::svg;
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, Ipv4Addr};
use utoipa::ToSchema;
use uuid::Uuid;

/// The cookie a device shows.
pub(crate) const COOKIE: &str = "__Host-wedge";

/// The second door.
#[derive(Serialize, ToSchema)]
pub(crate) struct LanView {
    /// Whether it is open.
    open: bool,
    /// Where, an address for each network this machine is in.
    urls: Vec<String>,
    /// The first of them as a drawing to point a device at, SVG.
    qr: Option<String>,
    /// What a device shows of the certificate, to compare before it is trusted: SHA-256.
    fingerprint: Option<String>,
    /// Who is in.
    devices: Vec<DeviceLine>,
}

/// A device that is in.
#[derive(Serialize, ToSchema)]
pub(crate) struct DeviceLine {
    id: Uuid,
    name: String,
    address: String,
    /// Since when.
    #[schema(value_type = String, format = DateTime)]
    since: jiff::Timestamp,
}

/// The second door, for whoever sits at the machine.
#[utoipa::path(context_path = "/api", tag = "lan", responses((status = 200, body = LanView)))]
#[get("/lan")]
pub(crate) async fn read(lan: web::Data<Option<Lan>>) -> web::Json<LanView> {
    web::Json(view(lan.as_ref().as_ref()))
}

fn view(lan: Option<&Lan>) -> LanView {
    let urls = lan.map_or_else(Vec::new, Lan::urls);
    LanView {
        open: lan.is_some(),
        qr: urls.first().and_then(|url| drawn(url)),
        fingerprint: lan.map(|lan| lan.fingerprint().to_owned()),
        devices: lan
            .map_or_else(Vec::new, Lan::devices)
            .into_iter()
            .map(line)
            .collect(),
        urls,
    }
}

fn line(device: crate::lan::Device) -> DeviceLine {
    DeviceLine {
        id: device.id,
        name: device.name,
        address: device.address.to_string(),
        since: device.since,
    }
}

/// A link as a drawing to point a device at, SVG.
pub(super) fn drawn(url: &str) -> Option<String> {
    let code = QrCode::new(url).ok()?;
    Some(code.render::<svg::Color>().min_dimensions(160, 160).build())
}

/// Puts a device out: it must give the passphrase again.
#[utoipa::path(context_path = "/api", tag = "lan", responses((status = 200, body = LanView), (status = 404, body = Problem)))]
#[delete("/lan/devices/{id}")]
pub(crate) async fn put_out(
    lan: web::Data<Option<Lan>>,
    id: web::Path<Uuid>,
) -> Result<web::Json<LanView>, Problem> {
    let open = lan.as_ref().as_ref();
    if !open.is_some_and(|lan| lan.put_out(*id)) {
        return Err(Problem::new(
            StatusCode::NOT_FOUND,
            "There is no such device",
        ));
    }
    Ok(web::Json(view(open)))
}

/// What lets a device in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Passphrase {
    passphrase: String,
}

/// Lets a device in. After a few wrong passphrases it must wait.
#[utoipa::path(
    context_path = "/api", tag = "lan", request_body = Passphrase,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 429, body = Problem))
)]
#[post("/lan/enter")]
pub(crate) async fn enter(
    lan: web::Data<Option<Lan>>,
    request: HttpRequest,
    Body(given): Body<Passphrase>,
) -> Result<HttpResponse, Problem> {
    let lan = (lan.as_ref().clone())
        .ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "The room's network is not let in"))?;
    let from = request
        .peer_addr()
        .map_or(IpAddr::V4(Ipv4Addr::UNSPECIFIED), |peer| peer.ip());
    let name = request
        .headers()
        .get(header::USER_AGENT)
        .and_then(|name| name.to_str().ok())
        .map_or("A device", said)
        .to_owned();
    let entered = web::block(move || lan.enter(&given.passphrase, &name, from)).await;
    match entered {
        Ok(Ok(token)) => {
            let cookie = Cookie::build(COOKIE, token)
                .path("/")
                .http_only(true)
                .secure(true)
                .same_site(SameSite::Strict)
                .finish();
            Ok(HttpResponse::NoContent().cookie(cookie).finish())
        }
        Ok(Err(Turned::TooMany)) => Err(Problem::new(
            StatusCode::TOO_MANY_REQUESTS,
            "Too many wrong passphrases: wait a quarter of an hour",
        )),
        Ok(Err(Turned::Wrong)) | Err(_) => {
            let mut problem = Problem::field("/passphrase", "That is not the passphrase");
            problem.status = StatusCode::UNAUTHORIZED.as_u16();
            Err(problem)
        }
    }
}

/// What a browser says it is, in a word or two.
fn said(agent: &str) -> &str {
    const KNOWN: [(&str, &str); 6] = [
        ("iPad", "A tablet"),
        ("iPhone", "A phone"),
        ("Android", "A phone or tablet"),
        ("Macintosh", "A laptop"),
        ("Windows", "A laptop"),
        ("Linux", "A laptop"),
    ];
    let known = KNOWN.iter().find(|(part, _)| agent.contains(part));
    known.map_or("A device", |(_, name)| name)
}
