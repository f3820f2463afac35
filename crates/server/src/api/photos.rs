//! Photos: taken in whole, given out at the size of the screen.

use super::error::ApiError;
use super::types::PhotoCard;
use crate::app::App;
use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_core::photo::PhotoError;
use inky_core::sheet::limits::PHOTO_BYTES;
use serde::Deserialize;
use std::sync::Arc;

#[derive(Deserialize)]
pub(super) struct FileName {
    name: String,
}

/// Takes in a photo file, the request's whole body. Nothing of a body that ends too early is kept.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    Query(file): Query<FileName>,
    body: Result<Bytes, BytesRejection>,
) -> Result<Json<PhotoCard>, ApiError> {
    let body = body.map_err(|rejection| match rejection.into_response().status().as_u16() {
        413 => ApiError::Refused(
            PhotoError::TooManyBytes((PHOTO_BYTES >> 20) + 1).to_string().replace("is 65 MiB", "is over 64 MiB"),
        ),
        _ => ApiError::Refused("The upload was cut off. Bring the photo in again.".into()),
    })?;
    let (id, photo) = app.take_photo(&file.name, body.to_vec()).await?;
    Ok(Json(PhotoCard { id, photo }))
}

/// A photo or a subject's cut-out at one of its sizes. What an address shows never changes.
pub(super) async fn level(
    State(app): State<Arc<App>>,
    Path((source, side)): Path<(String, u32)>,
) -> Result<Response, ApiError> {
    let found = app.store.level(&source, side).await?;
    let (kind, bytes) = found.ok_or(ApiError::NotFound("This picture is not here."))?;
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable".to_owned());
    Ok(([(header::CONTENT_TYPE, kind), cached], bytes).into_response())
}
