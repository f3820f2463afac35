//! Errors as answers: a status and one sentence for a person.

use super::types::{Bench, Sentence};
use crate::access::SignInError;
use crate::computing::ComputeError;
use crate::confined::ConfinedError;
use crate::errors::{AWAY, BROKEN, BringError, FULL, PictureError};
use crate::storage::StoreError;
use axum::Json;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use inky_core::change::ChangeError;
use inky_core::edit::Refusal;
use inky_core::sheet_file::SheetFileError;

pub(crate) enum ApiError {
    NotFound(&'static str),
    /// The request makes no sense or breaks a rule of the job.
    Refused(String),
    /// What both changed: a change that was made for an older sheet meets one of somebody else.
    Met(String),
    /// A sentence, and the newest sheet.
    Stale(String, Box<Bench>),
    Away(StoreError),
    Full(StoreError),
    /// Others are served first.
    Busy(String),
    Foreign,
    /// Who asks may not do this.
    Forbidden(&'static str),
    /// It was tried too often.
    TooOften(String),
    /// Who asks has not shown what lets people in.
    Unknown(&'static str),
    Broken(String),
}

impl From<StoreError> for ApiError {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::Away(_) => Self::Away(error),
            StoreError::Full(_) | StoreError::NoRoom => Self::Full(error),
            StoreError::Damaged => Self::Refused("This sheet is damaged: its document cannot be read.".into()),
            StoreError::Database(_) | StoreError::Document(_) | StoreError::File(_) | StoreError::Incomplete(_) => {
                Self::Broken(error.to_string())
            }
        }
    }
}

impl From<PictureError> for ApiError {
    fn from(error: PictureError) -> Self {
        match error {
            PictureError::Photo(e) => Self::Refused(e.to_string()),
            PictureError::Store(e) => e.into(),
            PictureError::Task(e) => Self::Broken(e.to_string()),
        }
    }
}

impl From<tokio::task::JoinError> for ApiError {
    fn from(error: tokio::task::JoinError) -> Self {
        Self::Broken(error.to_string())
    }
}

impl From<std::io::Error> for ApiError {
    fn from(error: std::io::Error) -> Self {
        match error.kind() {
            std::io::ErrorKind::StorageFull | std::io::ErrorKind::QuotaExceeded => Self::Full(error.into()),
            _ => Self::Broken(error.to_string()),
        }
    }
}

impl From<ComputeError> for ApiError {
    fn from(error: ComputeError) -> Self {
        match error {
            ComputeError::Busy => Self::Busy(error.to_string()),
            ComputeError::TooLong => Self::Refused(error.to_string()),
            ComputeError::Failed(_) => Self::Broken(error.to_string()),
        }
    }
}

impl From<BringError> for ApiError {
    fn from(error: BringError) -> Self {
        match error {
            BringError::Picture(e) => e.into(),
            BringError::Confined(e @ (ConfinedError::NotStarted(_) | ConfinedError::Garbled(_))) => {
                Self::Broken(e.to_string())
            }
            other => Self::Refused(other.to_string()),
        }
    }
}

impl From<SignInError> for ApiError {
    fn from(error: SignInError) -> Self {
        match error {
            SignInError::Store(e) => e.into(),
            SignInError::Broken(why) => Self::Broken(why),
            SignInError::TooOften => Self::TooOften(error.to_string()),
            SignInError::Wrong | SignInError::OldLink | SignInError::Password(_) => Self::Refused(error.to_string()),
        }
    }
}

impl From<Refusal> for ApiError {
    fn from(refusal: Refusal) -> Self {
        Self::Refused(refusal.to_string())
    }
}

impl From<ChangeError> for ApiError {
    fn from(error: ChangeError) -> Self {
        match error {
            ChangeError::Met(place, _) => Self::Met(place),
            ChangeError::Unreadable(why) => Self::Broken(why),
            refused @ (ChangeError::Refused(_) | ChangeError::NotDrawable(..)) => Self::Refused(refused.to_string()),
        }
    }
}

impl From<SheetFileError> for ApiError {
    fn from(error: SheetFileError) -> Self {
        Self::Refused(error.to_string())
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let say = |status, sentence: String| (status, Json(Sentence { sentence, bench: None })).into_response();
        match self {
            Self::NotFound(sentence) => say(StatusCode::NOT_FOUND, sentence.into()),
            Self::Refused(sentence) => say(StatusCode::UNPROCESSABLE_ENTITY, sentence),
            Self::Foreign => say(StatusCode::FORBIDDEN, "This request does not come from Inky Window itself.".into()),
            Self::Forbidden(sentence) => say(StatusCode::FORBIDDEN, sentence.into()),
            Self::TooOften(sentence) => say(StatusCode::TOO_MANY_REQUESTS, sentence),
            Self::Unknown(sentence) => say(StatusCode::UNAUTHORIZED, sentence.into()),
            Self::Met(place) => say(StatusCode::CONFLICT, format!("Somebody else changed {place} meanwhile.")),
            Self::Stale(sentence, bench) => {
                (StatusCode::CONFLICT, Json(Sentence { sentence, bench: Some(bench) })).into_response()
            }
            Self::Away(error) => {
                tracing::warn!(%error, "the database does not answer");
                say(StatusCode::SERVICE_UNAVAILABLE, AWAY.into())
            }
            Self::Full(error) => {
                tracing::error!(%error, "nothing can be kept");
                say(StatusCode::INSUFFICIENT_STORAGE, FULL.into())
            }
            Self::Busy(sentence) => say(StatusCode::SERVICE_UNAVAILABLE, sentence),
            Self::Broken(error) => {
                tracing::error!(%error, "a request failed");
                say(StatusCode::INTERNAL_SERVER_ERROR, BROKEN.into())
            }
        }
    }
}
