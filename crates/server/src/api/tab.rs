//! The tab that a request comes from.

use super::error::ApiError;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use uuid::Uuid;

/// What a tab of the interface calls itself, in the header `x-tab`; None where nobody says so.
pub(super) struct Tab(pub Option<Uuid>);

impl<S: Send + Sync> FromRequestParts<S> for Tab {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, ApiError> {
        let said = parts.headers.get("x-tab").and_then(|value| value.to_str().ok());
        Ok(Self(said.and_then(|text| text.parse().ok())))
    }
}
