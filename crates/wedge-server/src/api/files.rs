//! Riders as files, out and in: one, or the whole studio, rider by rider however many they are.

use super::pictures::kept_since;
use crate::{Problem, demo};
use actix_web::http::{StatusCode, header};
use actix_web::web::{Bytes, BytesMut, Payload};
use actix_web::{HttpResponse, HttpResponseBuilder, get, post, rt, web};
use futures_util::{Stream, StreamExt, stream};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::collections::VecDeque;
use std::fs::File;
use std::io::{self, BufReader, Read, Seek, Write};
use std::time::Duration;
use tempfile::NamedTempFile;
use tokio::sync::mpsc;
use tokio::task::JoinHandle;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_files::{
    Around, FileError, Rider, RiderFile, StudioFile, StudioWriter, UnreadableRider, read_each,
};
use wedge_store::{Store, StoreError, Unreadable};

/// The largest CSV taken in.
const MOST_BYTES: usize = 8 * 1024 * 1024;
/// How long a file may keep silent on its way in.
const PATIENCE: Duration = Duration::from_secs(20);
/// How many lots of riders are read ahead of the one that is written out.
const AHEAD: usize = 3;
/// How many riders are on their way from the file to the record at once.
const WAITING: usize = 16;

/// What goes into a rider's file beside the record.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct With {
    /// Kept pictures as well: they are left out unless asked for.
    #[serde(default)]
    pictures: bool,
}

/// A rider with everything on record, as a file; pictures only where they are asked for.
#[utoipa::path(context_path = "/api", tag = "files", params(With), responses((status = 200, body = RiderFile), (status = 404, body = Problem)))]
#[get("/riders/{id}/file")]
pub(crate) async fn export(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    with: web::Query<With>,
) -> Result<HttpResponse, Problem> {
    let mut rider = store.rider(*id).await?.noun;
    if with.pictures {
        let since = kept_since(Timestamp::now(), &store.house().await?.noun);
        store.with_pictures(&mut rider, since).await?;
    }
    Ok(attached("rider.wedge.json", "application/json").body(RiderFile::new(rider).write()?))
}

/// A rider's rows as they are stored, whether they read or not.
#[utoipa::path(context_path = "/api", tag = "files", responses((status = 200, body = Object), (status = 404, body = Problem)))]
#[get("/riders/{id}/raw")]
pub(crate) async fn export_raw(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let rows = store.raw_rider(&id.to_string()).await?;
    Ok(attached("rider-as-stored.json", "application/json").json(rows))
}

/// Every rider of the studio, as one file. One whose record does not read is named in it and given out as stored.
#[utoipa::path(context_path = "/api", tag = "files", responses((status = 200, body = StudioFile)))]
#[get("/studio/file")]
pub(crate) async fn export_studio(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    let studio = Export::begin(&store).await?;
    let pieces = stream::unfold(Some(studio), |studio| async move {
        let mut studio = studio?;
        match studio.next().await {
            Ok(Some(text)) => Some((Ok(Bytes::from(text)), Some(studio))),
            Ok(None) => None,
            // Half a file must not look like a whole one: the connection breaks off.
            Err(problem) => Some((Err(io::Error::other(problem.to_string())), None)),
        }
    });
    Ok(attached("studio.wedge.json", "application/json").streaming(pieces.boxed_local()))
}

/// Some of the riders, each read or said why not.
type Lot = Result<Vec<Result<Rider, Unreadable>>, StoreError>;

/// A studio's file on its way out.
pub struct Export {
    store: Store,
    ids: Vec<String>,
    done: usize,
    writer: StudioWriter,
    unreadable: Vec<UnreadableRider>,
    head: Option<String>,
    coming: VecDeque<JoinHandle<Lot>>,
    ended: bool,
}

impl Export {
    /// Looks up who is to be written.
    pub async fn begin(store: &Store) -> Result<Self, Problem> {
        let house = store.house().await?;
        let chosen = (house.version > 0).then_some(house.noun);
        let writer = StudioWriter::default();
        Ok(Self {
            head: Some(writer.head(chosen.as_ref(), &store.frames().await?)?),
            ids: store.rider_ids().await?,
            store: store.clone(),
            done: 0,
            writer,
            unreadable: Vec::new(),
            coming: VecDeque::new(),
            ended: false,
        })
    }

    /// The next piece: what stands before the riders, the riders, each as it stands by then, and what stands behind them.
    pub async fn next(&mut self) -> Result<Option<String>, Problem> {
        if let Some(head) = self.head.take() {
            return Ok(Some(head));
        }
        if self.ended {
            return Ok(None);
        }
        // Others are read while these are written out.
        while self.coming.len() < AHEAD && self.done < self.ids.len() {
            let until = (self.done + Store::AT_ONCE).min(self.ids.len());
            let ids = self.ids[self.done..until].to_vec();
            self.done = until;
            let store = self.store.clone();
            let here = tokio::runtime::Handle::current();
            self.coming.push_back(rt::task::spawn_blocking(move || {
                here.block_on(store.riders_of(&ids))
            }));
        }
        let Some(read) = self.coming.pop_front() else {
            self.ended = true;
            return Ok(Some(self.writer.tail(&self.unreadable)?));
        };
        let riders = read.await.map_err(|_| {
            Problem::new(
                StatusCode::INTERNAL_SERVER_ERROR,
                "The riders were not read to their end",
            )
        })?;
        let mut text = String::new();
        for rider in riders? {
            match rider {
                Ok(rider) => text += &self.writer.rider(&rider)?,
                Err(unreadable) => self.unreadable.push(UnreadableRider {
                    rows: self.store.raw_rider(&unreadable.id).await?,
                    id: unreadable.id,
                    name: unreadable.name,
                    why: unreadable.why,
                }),
            }
        }
        Ok(Some(text))
    }

    /// Riders left out so far, because they do not read.
    pub fn unreadable(&self) -> &[UnreadableRider] {
        &self.unreadable
    }
}

/// Words as a part of a name a file may have anywhere.
pub(super) fn plain_name(words: &str) -> String {
    let plain: String = (words.to_lowercase().chars())
        .map(|c| if c.is_ascii_alphanumeric() { c } else { '-' })
        .collect();
    plain.trim_matches('-').to_owned()
}

/// The answer of a file to save.
pub(super) fn attached(name: &str, kind: &str) -> HttpResponseBuilder {
    let mut answer = HttpResponse::Ok();
    answer.content_type(kind).insert_header((
        header::CONTENT_DISPOSITION,
        format!("attachment; filename=\"{name}\""),
    ));
    answer
}

/// An open file, piece by piece.
pub(super) fn pieces(file: File) -> impl Stream<Item = io::Result<Bytes>> {
    const PIECE: usize = 256 * 1024;
    stream::unfold(Some(file), |file| async move {
        let mut file = file?;
        let mut piece = vec![0; PIECE];
        match file.read(&mut piece) {
            Ok(0) => None,
            Ok(read) => {
                piece.truncate(read);
                Some((Ok(Bytes::from(piece)), Some(file)))
            }
            Err(error) => Some((Err(error), None)),
        }
    })
    .boxed_local()
}

/// How to take a file in.
#[derive(Deserialize, IntoParams)]
pub(crate) struct How {
    /// Under new ids, beside what is on record already.
    #[serde(default)]
    as_copy: bool,
}

/// The riders a file brought in.
#[derive(Serialize, ToSchema)]
pub struct Imported {
    riders: Vec<ImportedRider>,
    /// Riders the file names as unreadable where it was written: they are not in.
    left: Vec<String>,
}

/// A rider a file brought in.
#[derive(Serialize, ToSchema)]
pub(crate) struct ImportedRider {
    /// Its id here.
    pub(crate) id: Uuid,
    /// As the rider is called.
    pub(crate) name: String,
}

/// Takes riders in from a file of one or of a studio: all of it or nothing. A broken file names the path of what is
/// wrong; an id on record already is a conflict that names whose, unless the file is taken in as a copy.
#[utoipa::path(
    context_path = "/api", tag = "files", request_body = RiderFile, params(How),
    responses((status = 200, body = Imported), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/import")]
pub(crate) async fn import(
    store: web::Data<Store>,
    how: web::Query<How>,
    payload: Payload,
) -> Result<web::Json<Imported>, Problem> {
    let file = spooled(&store, payload).await?.into_file();
    let taken = take_in(&store, file, how.as_copy).await?;
    Ok(web::Json(taken))
}

/// Takes a file in rider by rider, all of it or nothing.
pub async fn take_in<R: Read + Seek + Send + 'static>(
    store: &Store,
    file: R,
    as_copy: bool,
) -> Result<Imported, Problem> {
    let arrival = store.arrival(Timestamp::now());
    let (out, mut riders) = mpsc::channel::<Rider>(WAITING);
    let reading = rt::task::spawn_blocking(move || {
        read_each(BufReader::new(file), |rider| {
            // Whoever takes them has stopped, and says why.
            out.blocking_send(rider).map_err(|_| Stopped::Taking)
        })
    });
    let mut imported = Imported {
        riders: Vec::new(),
        left: Vec::new(),
    };
    let mut taken = Ok(());
    while let Some(first) = riders.recv().await {
        let mut some = vec![first];
        while let Ok(next) = riders.try_recv() {
            some.push(next);
        }
        if as_copy {
            some = some.into_iter().map(|r| r.copied(Uuid::now_v7)).collect();
        }
        // Whoever is on record already does not hide what is wrong with the rest of the file: that is said first.
        if taken.is_ok() {
            taken = arrival.take(&some).await;
        }
        let lines = some.into_iter().map(|rider| ImportedRider {
            id: rider.id,
            name: rider.name,
        });
        imported.riders.extend(lines);
    }
    let around = reading.await.unwrap_or(Err(Stopped::Taking));
    let landed = match (taken, around) {
        (_, Err(Stopped::File(error))) => Err(error.into()),
        (Err(error), _) => Err(error.into()),
        (Ok(()), Err(Stopped::Taking)) => Err(Problem::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "The file was not read to its end; nothing was imported",
        )),
        (Ok(()), Ok(around)) => land(&arrival, around, &mut imported).await,
    };
    if landed.is_err() {
        arrival.turn_back().await?;
    }
    landed.map(|()| imported)
}

async fn land(
    arrival: &wedge_store::Arrival,
    around: Around,
    imported: &mut Imported,
) -> Result<(), Problem> {
    arrival.land(around.house.as_ref(), &around.frames).await?;
    imported.left = (around.unreadable.into_iter())
        .map(|rider| rider.name)
        .collect();
    Ok(())
}

impl Imported {
    /// Who came in.
    pub fn riders(&self) -> impl Iterator<Item = (Uuid, &str)> {
        self.riders.iter().map(|r| (r.id, r.name.as_str()))
    }

    /// Who did not, because the file itself says that they do not read.
    pub fn left(&self) -> &[String] {
        &self.left
    }
}

/// Why the reading of a file stopped.
enum Stopped {
    File(FileError),
    Taking,
}

impl From<FileError> for Stopped {
    fn from(error: FileError) -> Self {
        Self::File(error)
    }
}

/// Takes in the invented riders of the demo, to look around: only where nobody is on record yet.
#[utoipa::path(
    context_path = "/api", tag = "files",
    responses((status = 200, body = Imported), (status = 409, body = Problem))
)]
#[post("/demo")]
pub(crate) async fn import_demo(store: web::Data<Store>) -> Result<web::Json<Imported>, Problem> {
    if !store.riders("", true, 1).await?.is_empty() {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Somebody is on record here already: `wedge demo` shows the invented riders beside it",
        ));
    }
    let studio = demo::riders().map_err(|error| {
        tracing::error!("the demo: {error:#}");
        Problem::new(StatusCode::INTERNAL_SERVER_ERROR, "The demo cannot be read")
    })?;
    store.import_studio(&studio, Timestamp::now()).await?;
    let riders = studio.riders.into_iter().map(|rider| ImportedRider {
        id: rider.id,
        name: rider.name,
    });
    Ok(web::Json(Imported {
        riders: riders.collect(),
        left: Vec::new(),
    }))
}

/// A file of any size as it came, beside the record, gone once it is read.
pub(super) async fn spooled(store: &Store, mut payload: Payload) -> Result<NamedTempFile, Problem> {
    let mut file = tempfile::Builder::new()
        .prefix(".wedge-sent-")
        .tempfile_in(store.folder())
        .map_err(|error| Problem::disk(&error))?;
    while let Some(piece) = next(&mut payload).await? {
        file.write_all(&piece)
            .map_err(|error| Problem::disk(&error))?;
    }
    file.rewind().map_err(|error| Problem::disk(&error))?;
    Ok(file)
}

/// The next piece of what is sent; whoever keeps silent for too long is not waited for.
async fn next(payload: &mut Payload) -> Result<Option<Bytes>, Problem> {
    let piece = rt::time::timeout(PATIENCE, payload.next())
        .await
        .map_err(|_| Problem::slow())?;
    piece
        .transpose()
        .map_err(|_| Problem::new(StatusCode::BAD_REQUEST, "The request broke off"))
}

/// What is sent, up to so many bytes.
pub(crate) async fn bytes_of(
    mut payload: Payload,
    most: usize,
    what: &str,
) -> Result<Bytes, Problem> {
    let mut bytes = BytesMut::new();
    while let Some(piece) = next(&mut payload).await? {
        bytes.extend_from_slice(&piece);
        if bytes.len() > most {
            let words = format!("{what} is under {} MB", most >> 20);
            return Err(Problem::new(StatusCode::PAYLOAD_TOO_LARGE, words));
        }
    }
    Ok(bytes.freeze())
}

/// A CSV's text.
pub(crate) async fn text_of(payload: Payload) -> Result<String, Problem> {
    let bytes = bytes_of(payload, MOST_BYTES, "A table").await?;
    String::from_utf8(bytes.to_vec())
        .map_err(|_| Problem::field(".", "Nothing was imported: the file is not text in UTF-8"))
}
