//! The record as a whole: where it is, its copies, what of it does not read, and putting a copy back.

use super::files::{attached, spooled};
use crate::Problem;
use crate::upkeep::Watch;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, post, web};
use jiff::civil::DateTime;
use jiff::{Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use wedge_store::{Store, Unreadable};

/// A copy of the whole record, made by itself.
#[derive(Serialize, ToSchema)]
pub(crate) struct CopyLine {
    /// What it is called.
    name: String,
    /// When it was made, as said.
    words: String,
    /// How large it is, as said.
    size: String,
}

/// Something on record that does not read.
#[derive(Serialize, ToSchema)]
pub(crate) struct UnreadableLine {
    /// The rider's id; none of what is the studio's.
    id: Option<String>,
    name: String,
    /// What does not read.
    why: String,
}

impl From<Unreadable> for UnreadableLine {
    fn from(unreadable: Unreadable) -> Self {
        Self {
            id: Some(unreadable.id).filter(|id| !id.is_empty()),
            name: unreadable.name,
            why: unreadable.why,
        }
    }
}

/// The record as a whole.
#[derive(Serialize, ToSchema)]
pub(crate) struct RecordView {
    /// The file that holds it.
    file: String,
    /// Where the copies are kept.
    copies_folder: String,
    /// "Last copy: today 09:12."
    last_copy: String,
    /// What to do about the copies, when the last one is old or could not be made.
    warning: Option<String>,
    /// The copies, the last one first.
    copies: Vec<CopyLine>,
    /// How much room is left on the disk, as said.
    room: Option<String>,
}

/// A copy this many days old is too old.
const OLD_DAYS: i32 = 7;

/// Where the record is, when it was copied last, and what of it does not read.
#[utoipa::path(context_path = "/api", tag = "record", responses((status = 200, body = RecordView)))]
#[get("/record")]
pub(crate) async fn read(
    store: web::Data<Store>,
    watch: web::Data<Watch>,
) -> Result<web::Json<RecordView>, Problem> {
    let now = Zoned::now();
    let copies = store.copies();
    let last = copies.first().map(|copy| copy.made);
    let old = last.is_some_and(|made| (now.date() - made.date()).get_days() > OLD_DAYS);
    let ahead = store.dated_after(Timestamp::now()).await?.map(|at| {
        format!(
            "Some readings are dated after now, the last {}: this computer's clock was ahead then, or is behind today. What \
             was taken down last counts all the same; set the clock right.",
            at.to_zoned(now.time_zone().clone()).strftime("%Y-%m-%d %H:%M")
        )
    });
    let warning = match watch.trouble() {
        Some(trouble) => Some(trouble),
        None if ahead.is_some() => ahead,
        None if old => Some(format!(
            "The last copy is over {OLD_DAYS} days old: save one below, and keep it on another disk."
        )),
        None => None,
    };
    Ok(web::Json(RecordView {
        file: store.file().display().to_string(),
        copies_folder: store.copies_folder().display().to_string(),
        last_copy: last.map_or_else(
            || "No copy yet.".to_owned(),
            |made| format!("Last copy: {}.", said(made, &now)),
        ),
        warning,
        copies: (copies.iter())
            .filter_map(|copy| {
                Some(CopyLine {
                    name: copy.file.file_name()?.to_str()?.to_owned(),
                    words: said(copy.made, &now),
                    size: megabytes(copy.bytes),
                })
            })
            .collect(),
        room: store.room().map(megabytes),
    }))
}

/// What of the record does not read: all of it is looked at.
#[utoipa::path(context_path = "/api", tag = "record", responses((status = 200, body = Vec<UnreadableLine>)))]
#[get("/record/unreadable")]
pub(crate) async fn set_aside(
    store: web::Data<Store>,
) -> Result<web::Json<Vec<UnreadableLine>>, Problem> {
    let all = store.unreadable().await?.into_iter();
    Ok(web::Json(all.map(UnreadableLine::from).collect()))
}

/// A moment as a person says it.
fn said(at: DateTime, now: &Zoned) -> String {
    let time = at.strftime("%H:%M");
    match (now.date() - at.date()).get_days() {
        0 => format!("today {time}"),
        1 => format!("yesterday {time}"),
        _ => at.strftime("%Y-%m-%d %H:%M").to_string(),
    }
}

/// A size as a person says it.
pub(crate) fn megabytes(bytes: u64) -> String {
    const MB: u64 = 1024 * 1024;
    match bytes / MB {
        0 => format!("{} kB", bytes / 1024),
        whole if whole < 10_000 => format!("{whole} MB"),
        whole => format!("{} GB", whole / 1024),
    }
}

/// A whole copy of the record as it is now, to keep somewhere else.
#[utoipa::path(
    context_path = "/api", tag = "record",
    responses((status = 200, body = String, content_type = "application/octet-stream"))
)]
#[get("/record/copy")]
pub(crate) async fn save_copy(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    let folder = tempfile::tempdir_in(store.folder()).map_err(|error| Problem::disk(&error))?;
    let file = folder.path().join("copy");
    store.backup(&file).await?;
    let open = std::fs::File::open(&file).map_err(|error| Problem::disk(&error))?;
    // Unlinked once open: it is gone with the answer.
    drop(folder);
    let name = format!("wedge-{}.sqlite", Zoned::now().strftime("%Y-%m-%dT%H%M"));
    Ok(attached(&name, "application/octet-stream").streaming(super::files::pieces(open)))
}

/// Which copy.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Which {
    /// One of the record's own copies by its name; the request's body when left out.
    copy: Option<String>,
}

/// A record that was put back.
#[derive(Serialize, ToSchema)]
pub(crate) struct Restored {
    /// What became of the record that was there.
    words: String,
}

/// Puts a copy in the record's place: one of its own, or the body of the request. The copy is checked first, and the
/// record that was there is kept beside it. Refused while another Wedge holds the record.
#[utoipa::path(
    context_path = "/api", tag = "record", params(Which),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = Restored), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/record/restore")]
pub(crate) async fn restore(
    store: web::Data<Store>,
    which: web::Query<Which>,
    payload: web::Payload,
) -> Result<web::Json<Restored>, Problem> {
    let own = match &which.copy {
        Some(name) => {
            let copies = store.copies();
            let named = copies
                .into_iter()
                .find(|copy| copy.file.file_name().is_some_and(|n| n == name.as_str()));
            let copy = named.ok_or_else(|| {
                Problem::new(StatusCode::NOT_FOUND, "There is no copy of that name")
            })?;
            Some(copy.file)
        }
        None => None,
    };
    let kept = if let Some(file) = own {
        store.restore(&file).await?
    } else {
        let sent = spooled(&store, payload).await?;
        store.restore(sent.path()).await?
    };
    let words = match kept {
        Some(kept) => format!(
            "The copy is in place. What was on record before is kept as {}",
            kept.display()
        ),
        None => "The copy is in place.".to_owned(),
    };
    Ok(web::Json(Restored { words }))
}
