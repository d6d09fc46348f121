//! The hand-out: for the rider, the next mechanic and the next fitter; as data, as a sheet, as a drawing.

use super::files::{attached, plain_name};
use super::load::{bench, worked_out};
use crate::Problem;
use actix_web::{HttpResponse, get, web};
use serde::Deserialize;
use std::sync::LazyLock;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::Handout;
use wedge_print::{Fonts, NotPrinted, Paper, pdf, png, svg, svg_of_shapes};
use wedge_store::Store;

/// Read once, when the first sheet is asked for.
pub(super) static FONTS: LazyLock<Fonts> = LazyLock::new(Fonts::default);

impl From<NotPrinted> for Problem {
    fn from(why: NotPrinted) -> Self {
        Self::new(
            actix_web::http::StatusCode::INTERNAL_SERVER_ERROR,
            format!("Not on paper: {why}"),
        )
    }
}

/// The hand-out of a session.
#[utoipa::path(context_path = "/api", tag = "handout", responses((status = 200, body = Handout), (status = 409, body = Problem)))]
#[get("/sessions/{id}/handout")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Handout>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.handout()?))
}

/// The paper of a sheet.
#[derive(Debug, Clone, Copy, Default, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum PaperAsked {
    /// 210 by 297 mm.
    #[default]
    A4,
    /// 8.5 by 11 inches.
    Letter,
}

/// What paper is asked for.
#[derive(Debug, Deserialize, IntoParams)]
pub(crate) struct SheetAsked {
    /// A4 when none is named.
    #[param(inline)]
    paper: Option<PaperAsked>,
}

impl SheetAsked {
    pub(super) fn paper(&self) -> Paper {
        match self.paper.unwrap_or_default() {
            PaperAsked::A4 => Paper::A4,
            PaperAsked::Letter => Paper::Letter,
        }
    }
}

/// How the text of a drawing is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum TextAs {
    /// As text.
    Text,
    /// As shapes: it looks alike where its font is not known.
    Shapes,
}

/// What of a drawing is asked for.
#[derive(Debug, Deserialize, IntoParams)]
pub(crate) struct DrawingAsked {
    /// As text when none is named.
    #[param(inline)]
    text: Option<TextAs>,
}

/// A name a file may have anywhere.
fn file_name(handout: &Handout, end: &str) -> String {
    let rider = plain_name(&handout.rider);
    format!("{rider}-fit-{}.{end}", handout.number)
}

/// The hand-out as PDF: page one for the rider, page two for the mechanic. The same record gives the same bytes.
#[utoipa::path(
    context_path = "/api", tag = "handout", params(SheetAsked),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 409, body = Problem))
)]
#[get("/sessions/{id}/handout.pdf")]
pub(crate) async fn sheet(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<SheetAsked>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let paper = asked.paper();
    let (name, bytes) = worked_out(move || {
        let handout = bench.handout()?;
        let bytes = pdf(&handout, paper, &FONTS)?;
        Ok((file_name(&handout, "pdf"), bytes))
    })
    .await?;
    Ok(attached(&name, "application/pdf").body(bytes))
}

/// The drawing of the position as left, as SVG.
#[utoipa::path(
    context_path = "/api", tag = "handout", params(DrawingAsked),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 409, body = Problem))
)]
#[get("/sessions/{id}/drawing.svg")]
pub(crate) async fn drawing(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<DrawingAsked>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let shapes = asked.text == Some(TextAs::Shapes);
    let (name, drawn) = worked_out(move || {
        let handout = bench.handout()?;
        let drawn = if shapes {
            svg_of_shapes(&handout, &FONTS)?
        } else {
            svg(&handout)
        };
        Ok((file_name(&handout, "svg"), drawn))
    })
    .await?;
    Ok(attached(&name, "image/svg+xml").body(drawn))
}

/// The same as PNG, at twice its size.
#[utoipa::path(
    context_path = "/api", tag = "handout",
    responses((status = 200, body = Vec<u8>, content_type = "image/png"), (status = 409, body = Problem))
)]
#[get("/sessions/{id}/drawing.png")]
pub(crate) async fn picture(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let (name, drawn) = worked_out(move || {
        let handout = bench.handout()?;
        Ok((file_name(&handout, "png"), png(&handout, 2.0, &FONTS)?))
    })
    .await?;
    Ok(attached(&name, "image/png").body(drawn))
}
