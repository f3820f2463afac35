//! Photos: taken in whole, given out at the size of the screen.

use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{EdgeRequest, PhotoCard, PhotoEdge};
use crate::app::App;
use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_core::photo::PhotoError;
use inky_core::sheet::PhotoId;
use kurbo::Point;
use serde::Deserialize;
use std::sync::Arc;

#[derive(Deserialize)]
pub(super) struct FileName {
    pub(super) name: String,
}

/// The whole body of an upload. Nothing of a body that ends too early is kept.
pub(super) fn whole(
    body: Result<Bytes, BytesRejection>,
    too_large: impl FnOnce() -> String,
) -> Result<Bytes, ApiError> {
    body.map_err(|rejection| match rejection.into_response().status().as_u16() {
        413 => ApiError::Refused(too_large()),
        _ => ApiError::Refused("The upload was cut off. Bring the file in again.".into()),
    })
}

/// Takes in a photo file, the request's whole body.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    Query(file): Query<FileName>,
    body: Result<Bytes, BytesRejection>,
) -> Result<Json<PhotoCard>, ApiError> {
    let too_large = || PhotoError::OverBytes.to_string();
    let body = whole(body, too_large)?;
    let taken = app.take_photo(&file.name, body.to_vec()).await?;
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
