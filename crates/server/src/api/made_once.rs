//! Requests that make something, sent again after a lost answer.

use super::error::ApiError;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use uuid::Uuid;

/// What is made gets the identifier that the request carries in the header `x-request`, so that the same request makes it once. A fresh one where
/// nothing is said.
pub(super) struct MadeOnce(pub Uuid);

impl<S: Send + Sync> FromRequestParts<S> for MadeOnce {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, ApiError> {
        let Some(said) = parts.headers.get("x-request") else {
            return Ok(Self(Uuid::now_v7()));
        };
        let known = said.to_str().ok().and_then(|text| text.parse().ok());
        known.map(Self).ok_or_else(|| ApiError::Refused("The identifier of this request cannot be read.".into()))
    }
}
