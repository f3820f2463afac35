//! Photos: taken in whole, given out at the size of the screen.

use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{EdgeRequest, PhotoCard, PhotoEdge};
use super::upload::Upload;
use crate::app::App;
use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_core::photo::PhotoError;
use inky_core::sheet::PhotoId;
use inky_core::sheet::limits::PHOTO_BYTES;
use kurbo::Point;
use serde::Deserialize;
use std::sync::Arc;

#[derive(Deserialize)]
pub(super) struct FileName {
    pub(super) name: String,
}

/// Takes in a photo file, the request's whole body.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    Query(file): Query<FileName>,
    body: Upload<PHOTO_BYTES>,
) -> Result<Json<PhotoCard>, ApiError> {
    let photo = body.read(&app, || PhotoError::OverBytes.to_string()).await?;
    let taken = app.take_photo(&file.name, photo.bytes).await?;
    let notes = taken.notes.into_iter().map(str::to_owned).collect();
    Ok(Json(PhotoCard { id: taken.id, photo: taken.photo, notes }))
}

/// The way between two points of a photo along its strongest edge.
pub(super) async fn edge(
    State(app): State<Arc<App>>,
    Path(id): Path<PhotoId>,
    JsonBody(asked): JsonBody<EdgeRequest>,
) -> Result<Json<PhotoEdge>, ApiError> {
    let [from, to] = [asked.from, asked.to].map(|[x, y]| Point::new(x, y));
    if !from.is_finite() || !to.is_finite() {
        return Err(ApiError::Refused("A place in the photo is not a number.".into()));
    }
    let edges = app.edges(&id).await?.ok_or(ApiError::NotFound("This photo is not here."))?;
    // never on the threads that answer
    let nodes = tokio::task::spawn_blocking(move || edges.between(from, to)).await?;
    Ok(Json(PhotoEdge { nodes }))
}

/// A photo or a subject's cut-out in perspective. What an address shows never changes.
pub(super) async fn pulled(
    State(app): State<Arc<App>>,
    Path((source, side, corners)): Path<(String, u32, String)>,
) -> Result<Response, ApiError> {
    let found = app.pulled(&source, side, &corners).await?.ok_or(ApiError::NotFound("This picture is not here."))?;
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable");
    Ok(([(header::CONTENT_TYPE, found.0), cached], found.1.clone()).into_response())
}

/// The grain of paper.
pub(super) async fn paper(
    State(app): State<Arc<App>>,
    Path((grain, side)): Path<(f64, u32)>,
) -> Result<Response, ApiError> {
    let found = app.paper(grain, side).await?.ok_or(ApiError::NotFound("This picture is not here."))?;
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable");
    Ok(([(header::CONTENT_TYPE, found.0), cached], found.1.clone()).into_response())
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
