//! Pictures of riders: asked for, kept with consent alone, and gone after the studio's number of days.

use super::extract::Body;
use super::files::bytes_of;
use super::load::worked_out;
use crate::{Problem, picture};
use actix_web::http::header;
use actix_web::{HttpResponse, delete, get, post, put, web};
use jiff::{Span, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_files::{Consent, House, SaidBy};
use wedge_store::{Deleted, Store};

/// What was kept before this is not kept any more.
pub(crate) fn kept_since(now: Timestamp, house: &House) -> Timestamp {
    let hours = Span::new().hours(24 * i64::from(house.picture_days));
    now.checked_sub(hours).unwrap_or(now)
}

/// An answer to whether pictures may be kept.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewConsent {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// Whether they may.
    pictures: bool,
    /// Who said so.
    by: SaidBy,
    /// The guardian's name.
    #[serde(default)]
    name: String,
}

/// What became of pictures that were deleted.
#[derive(Serialize, ToSchema)]
pub(crate) struct Forgotten {
    /// Whether something stands in the log until Wedge closes.
    in_log: bool,
    /// How many copies of days may still hold it.
    copies: usize,
}

impl From<Deleted> for Forgotten {
    fn from(deleted: Deleted) -> Self {
        Self {
            in_log: !deleted.log_emptied,
            copies: deleted.copies,
        }
    }
}

/// Writes down whether pictures of a rider may be kept. A no deletes those that are: what became of them is answered.
#[utoipa::path(
    context_path = "/api", tag = "pictures", request_body = NewConsent,
    responses((status = 200, body = Option<Forgotten>), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/consents")]
pub(crate) async fn consent(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewConsent>,
) -> Result<web::Json<Option<Forgotten>>, Problem> {
    let rider = store.rider_in_years(*id).await?.noun;
    let consent = Consent {
        id: new.id,
        at: Timestamp::now(),
        pictures: new.pictures,
        by: new.by,
        name: new.name.trim().to_owned(),
    };
    let refused = consent.refusals(rider.born, "");
    if !refused.is_empty() {
        return Err(Problem::refused(refused));
    }
    let gone = store.add_consent(*id, &consent).await?;
    Ok(web::Json(gone.map(Forgotten::from)))
}

/// Keeps one picture of a take. It is decoded and written anew as a JPEG, so that nothing of camera, place or time is left in it.
#[utoipa::path(
    context_path = "/api", tag = "pictures",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[put("/takes/{id}/picture")]
pub(crate) async fn keep(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    payload: web::Payload,
) -> Result<HttpResponse, Problem> {
    let bytes = bytes_of(payload, picture::MOST_BYTES, "A picture").await?;
    if store.house().await?.noun.picture_days == 0 {
        return Err(Problem::field("/picture", "This studio keeps no pictures"));
    }
    let jpeg = worked_out(move || {
        let decoded = picture::decode(&bytes);
        let jpeg = decoded.and_then(picture::Picture::jpeg);
        jpeg.map_err(|words| Problem::field("/picture", words))
    })
    .await?;
    store.keep_picture(*id, &jpeg, Timestamp::now()).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The kept picture of a take.
#[utoipa::path(
    context_path = "/api", tag = "pictures",
    responses((status = 200, body = Vec<u8>, content_type = "image/jpeg"), (status = 404, body = Problem))
)]
#[get("/takes/{id}/picture")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let house = store.house().await?.noun;
    let jpeg = store
        .picture(*id, kept_since(Timestamp::now(), &house))
        .await?;
    Ok(HttpResponse::Ok()
        .insert_header((header::CONTENT_TYPE, "image/jpeg"))
        .body(jpeg))
}

/// Deletes the kept picture of a take.
#[utoipa::path(
    context_path = "/api", tag = "pictures",
    responses((status = 200, body = Forgotten), (status = 404, body = Problem))
)]
#[delete("/takes/{id}/picture")]
pub(crate) async fn forget(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Forgotten>, Problem> {
    Ok(web::Json(store.delete_picture(*id).await?.into()))
}
