//! The front end, embedded and already compressed.

use crate::Problem;
use actix_web::http::{StatusCode, header};
use actix_web::{HttpRequest, HttpResponse};
use rust_embed::{Embed, EmbeddedFile};
use uuid::Uuid;

#[derive(Embed)]
#[folder = "../../web/dist"]
struct Dist;

/// Where the page puts the nonce that its styles carry.
const NONCE_PLACE: &str = "__WEDGE_NONCE__";

/// An asset by its path; any other path is a page of the front end's own router.
pub(crate) async fn page_or_asset(request: HttpRequest) -> Result<HttpResponse, Problem> {
    let path = request.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return Err(Problem::new(
            StatusCode::NOT_FOUND,
            "There is no such place in the API",
        ));
    }
    if path == "index.html" {
        return page();
    }
    let Some(plain) = Dist::get(path) else {
        return if path.contains('.') {
            Err(Problem::new(StatusCode::NOT_FOUND, "There is no such file"))
        } else {
            page()
        };
    };
    let accepted = request
        .headers()
        .get(header::ACCEPT_ENCODING)
        .and_then(|v| v.to_str().ok())
        .unwrap_or_default();
    let accepts = |encoding: &str| accepted.split(',').any(|e| e.trim().starts_with(encoding));
    let compressed = [("br", "br"), ("gzip", "gz")]
        .into_iter()
        .filter(|(encoding, _)| accepts(encoding))
        .find_map(|(encoding, ending)| Some((encoding, Dist::get(&format!("{path}.{ending}"))?)));
    Ok(asset(path, plain, compressed))
}

/// A file of the build. Its name carries its hash, so it may be kept for ever.
fn asset(
    path: &str,
    plain: EmbeddedFile,
    compressed: Option<(&'static str, EmbeddedFile)>,
) -> HttpResponse {
    let mut response = HttpResponse::Ok();
    response
        .content_type(mime_guess::from_path(path).first_or_octet_stream())
        .insert_header((header::CACHE_CONTROL, "public, max-age=31536000, immutable"))
        .insert_header((header::VARY, "accept-encoding"));
    match compressed {
        Some((encoding, file)) => response
            .insert_header((header::CONTENT_ENCODING, encoding))
            .body(file.data.into_owned()),
        None => response.body(plain.data.into_owned()),
    }
}

/// The one page, with a fresh nonce for the styles it makes as it runs.
fn page() -> Result<HttpResponse, Problem> {
    let missing = || {
        Problem::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "The front end is not built",
        )
    };
    let file = Dist::get("index.html").ok_or_else(missing)?;
    let html = std::str::from_utf8(&file.data).map_err(|_| missing())?;
    let nonce = Uuid::new_v4().simple().to_string();
    let policy = format!(
        "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data: blob:; media-src blob:; \
         font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    );
    Ok(HttpResponse::Ok()
        .content_type("text/html; charset=utf-8")
        .insert_header((header::CONTENT_SECURITY_POLICY, policy))
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .body(html.replace(NONCE_PLACE, &nonce)))
}
