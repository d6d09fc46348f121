//! Every error the API answers with: `application/problem+json` (RFC 9457), with a pointer to each field.

use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use std::fmt;
use utoipa::ToSchema;
use wedge_bench::Declined;
use wedge_core::measure::Refusal;
use wedge_files::FileError;
use wedge_store::StoreError;

/// An error as the API answers it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Problem {
    /// The HTTP status.
    pub status: u16,
    /// The kind of problem in a few words.
    pub title: String,
    /// What is wrong and what would be right.
    pub detail: String,
    /// Each field that cannot be accepted.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub errors: Vec<Refusal>,
    /// The version the noun is at, when somebody else wrote since.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub current_version: Option<i64>,
    /// Whether one rider's record does not read.
    #[serde(skip)]
    of_one: bool,
}

impl Problem {
    pub(crate) fn new(status: StatusCode, detail: impl Into<String>) -> Self {
        Self {
            status: status.as_u16(),
            title: status.canonical_reason().unwrap_or("Error").to_owned(),
            detail: detail.into(),
            errors: Vec::new(),
            current_version: None,
            of_one: false,
        }
    }

    /// Values that cannot be accepted.
    pub(crate) fn refused(errors: Vec<Refusal>) -> Self {
        let detail = errors
            .iter()
            .map(|e| e.detail.as_str())
            .collect::<Vec<_>>()
            .join("; ");
        Self {
            errors,
            ..Self::new(StatusCode::UNPROCESSABLE_ENTITY, detail)
        }
    }

    /// The disk does not take what is written.
    pub(crate) fn disk(error: &std::io::Error) -> Self {
        tracing::error!(%error, "the disk failed");
        Self::new(StatusCode::INSUFFICIENT_STORAGE, FULL)
    }

    /// Whoever sends is too slow.
    pub(crate) fn busy() -> Self {
        Self::new(
            StatusCode::SERVICE_UNAVAILABLE,
            "That was not worked out: try again",
        )
    }

    pub(crate) fn slow() -> Self {
        Self::new(
            StatusCode::REQUEST_TIMEOUT,
            "The request was too slow in coming: send it again",
        )
    }

    /// Whether it is about one rider and not about the record: gone, or not to be read any more.
    pub(crate) fn is_of_one(&self) -> bool {
        self.of_one || self.status == StatusCode::NOT_FOUND.as_u16()
    }

    /// A full disk, with how much room is left on it.
    pub(crate) fn with_room(mut self, room: &str) -> Self {
        self.detail = format!("{} There is {room} of room now.", self.detail);
        self
    }

    /// One value that cannot be accepted.
    pub(crate) fn field(pointer: &str, detail: impl Into<String>) -> Self {
        Self::refused(vec![Refusal::new(pointer, detail)])
    }
}

/// What is said of a full disk.
const FULL: &str = "The disk is full, or does not take what is written. Nothing was half-written: make room, and send \
                    it again.";

impl std::error::Error for Problem {}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.detail)
    }
}

impl ResponseError for Problem {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        HttpResponse::build(self.status_code())
            .insert_header((header::CONTENT_TYPE, "application/problem+json"))
            .body(serde_json::to_string(self).unwrap_or_default())
    }
}

impl From<Vec<Refusal>> for Problem {
    fn from(errors: Vec<Refusal>) -> Self {
        Self::refused(errors)
    }
}

impl From<Declined> for Problem {
    fn from(declined: Declined) -> Self {
        match declined {
            Declined::Refused(errors) => Self::refused(errors),
            Declined::NotNow(_) => Self::new(StatusCode::CONFLICT, declined.to_string()),
            Declined::Unknown(_) => Self::new(StatusCode::NOT_FOUND, declined.to_string()),
        }
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NotFound(what) => {
                Self::new(StatusCode::NOT_FOUND, format!("There is no such {what}"))
            }
            StoreError::Stale { current } => Self {
                current_version: Some(current),
                ..Self::new(
                    StatusCode::PRECONDITION_FAILED,
                    "Changed in another window since it was read",
                )
            },
            StoreError::Conflict(why) => Self::new(StatusCode::CONFLICT, why),
            StoreError::Disk(error) => {
                tracing::error!(%error, "the disk failed");
                Self::new(StatusCode::INSUFFICIENT_STORAGE, FULL)
            }
            StoreError::Closed => Self::new(
                StatusCode::SERVICE_UNAVAILABLE,
                "The record is being restored: try again in a moment",
            ),
            unsound @ (StoreError::Damaged(_)
            | StoreError::Foreign(_)
            | StoreError::Newer { .. }) => {
                Self::new(StatusCode::UNPROCESSABLE_ENTITY, unsound.to_string())
            }
            StoreError::Body { .. } => {
                tracing::error!(%error, "something on record does not read");
                let mut problem = Self::new(
                    StatusCode::INTERNAL_SERVER_ERROR,
                    format!(
                        "This does not read any more: {error}. Everyone else is untouched; the Studio page names what \
                         does not read and gives it out as stored"
                    ),
                );
                problem.of_one = true;
                problem
            }
            other => {
                tracing::error!(error = %other, "the record failed");
                Self::new(
                    StatusCode::INTERNAL_SERVER_ERROR,
                    "The record could not be read or written. Nothing was half-written; try again",
                )
            }
        }
    }
}

impl From<FileError> for Problem {
    fn from(error: FileError) -> Self {
        Self {
            detail: format!("Nothing was imported. {error}"),
            ..Self::field(&error.path, &error.message)
        }
    }
}
