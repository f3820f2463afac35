//! The JSON body of a request.

use super::error::ApiError;
use axum::Json;
use axum::extract::{FromRequest, Request};
use serde::de::DeserializeOwned;

/// [`Json`], with a sentence where the body cannot be read.
pub(super) struct JsonBody<T>(pub T);

impl<S: Send + Sync, T: DeserializeOwned> FromRequest<S> for JsonBody<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        match Json::from_request(request, state).await {
            Ok(Json(asked)) => Ok(Self(asked)),
            Err(error) => Err(ApiError::Refused(format!("This request cannot be read: {}.", error.body_text()))),
        }
    }
}
