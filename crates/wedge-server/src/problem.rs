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
}

impl Problem {
    pub(crate) fn new(status: StatusCode, detail: impl Into<String>) -> Self {
        Self {
            status: status.as_u16(),
            title: status.canonical_reason().unwrap_or("Error").to_owned(),
            detail: detail.into(),
            errors: Vec::new(),
            current_version: None,
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

    /// One value that cannot be accepted.
    pub(crate) fn field(pointer: &str, detail: impl Into<String>) -> Self {
        Self::refused(vec![Refusal::new(pointer, detail)])
    }
}

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
            .insert_header((header::CACHE_CONTROL, "no-store"))
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
