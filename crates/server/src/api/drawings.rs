//! Imported drawings: taken in, and shown piece by piece.

use super::error::ApiError;
use super::photos::{FileName, whole};
use super::types::{DrawingCard, DrawingPiece};
use crate::app::App;
use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{Path, Query, State};
use inky_core::combine::nodes;
use inky_core::outline::{DrawingError, DrawnOutline};
use inky_core::sheet::DrawingId;
use std::sync::Arc;

/// Takes in an SVG file, the request's whole body.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    Query(file): Query<FileName>,
    body: Result<Bytes, BytesRejection>,
) -> Result<Json<DrawingCard>, ApiError> {
    let body = whole(body, || DrawingError::TooLarge.to_string())?;
    let (id, drawn) = app.take_drawing(&file.name, body.to_vec()).await?;
    Ok(Json(card(id, &drawn)))
}

/// The pieces of a drawing, the largest first.
pub(super) async fn card_of(
    State(app): State<Arc<App>>,
    Path(id): Path<DrawingId>,
) -> Result<Json<DrawingCard>, ApiError> {
    let drawn = app.drawing(&id).await?.ok_or(ApiError::NotFound("This drawing is not here."))?;
    Ok(Json(card(id, &drawn)))
}

fn card(id: DrawingId, drawn: &DrawnOutline) -> DrawingCard {
    let piece = |p: &inky_core::combine::Part| DrawingPiece {
        area: p.area,
        nodes: nodes(&p.path),
        path: p.path.to_svg(),
        bounds: [p.bounds.x0, p.bounds.y0, p.bounds.x1, p.bounds.y1],
    };
    DrawingCard {
        id,
        name: drawn.name.clone(),
        pieces: drawn.pieces.iter().map(piece).collect(),
        notes: drawn.notes.clone(),
    }
}
