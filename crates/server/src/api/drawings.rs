//! Imported drawings: taken in, and shown piece by piece.

use super::error::ApiError;
use super::photos::FileName;
use super::types::{DrawingCard, DrawingPartCard, DrawingPiece};
use super::upload::Upload;
use crate::app::App;
use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use axum::response::IntoResponse;
use inky_core::combine::nodes;
use inky_core::outline::{DrawingError, DrawingTree, ImportedDrawing};
use inky_core::scene::{drawing_part, svg};
use inky_core::sheet::DrawingId;
use inky_core::sheet::limits::DRAWING_BYTES;
use std::sync::Arc;

/// Takes in an SVG file, the request's whole body.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    Query(file): Query<FileName>,
    body: Upload<DRAWING_BYTES>,
) -> Result<Json<DrawingCard>, ApiError> {
    let drawing = body.read(&app, || DrawingError::TooLarge.to_string()).await?;
    let (id, drawn) = app.take_drawing(&file.name, drawing.bytes).await?;
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

/// One part of a drawing as a picture. It is written anew from what was read: nothing of the file itself is sent.
pub(super) async fn part(
    State(app): State<Arc<App>>,
    Path((id, part)): Path<(DrawingId, usize)>,
) -> Result<impl IntoResponse, ApiError> {
    let drawn = app.drawing(&id).await?.ok_or(ApiError::NotFound("This drawing is not here."))?;
    let nothing = ApiError::NotFound("There is nothing in this part.");
    let (fragment, bounds) = drawing_part(&drawn.picture, part).ok_or(nothing)?;
    let svg = svg::picture_document(&fragment, bounds);
    Ok(([(CONTENT_TYPE, "image/svg+xml"), (CACHE_CONTROL, "private, max-age=31536000, immutable")], svg))
}

/// Parts beyond this many are not listed one by one.
const LISTED: usize = 300;

/// The parts of a picture, as deep as the list has room for.
fn parts(picture: &DrawingTree) -> Vec<DrawingPartCard> {
    let mut listed = Vec::new();
    let mut level: Vec<(usize, usize)> = picture.children(0).map(|part| (part, 0)).collect();
    let groups_only = level.len() > LISTED;
    while !level.is_empty() {
        let kept = level.iter().filter(|(part, _)| !groups_only || picture.parts[*part].shape.is_none());
        let kept: Vec<_> = kept.copied().take(LISTED).collect();
        if listed.len() + kept.len() > LISTED {
            break;
        }
        level = kept.iter().flat_map(|&(part, depth)| picture.children(part).map(move |p| (p, depth + 1))).collect();
        listed.extend(kept);
    }
    listed.sort_unstable();
    let colours_of = |part: usize| {
        let mut colours = Vec::new();
        for colour in picture.shapes(part).map(|s| s.paint.colour()) {
            if !colours.contains(&colour) {
                colours.push(colour);
            }
            if colours.len() == 4 {
                break;
            }
        }
        colours
    };
    let card = |(part, depth): (usize, usize)| DrawingPartCard {
        part,
        depth,
        name: picture.parts[part].name.clone(),
        shapes: picture.shapes(part).count(),
        colours: colours_of(part),
    };
    listed.into_iter().map(card).collect()
}

fn card(id: DrawingId, drawn: &ImportedDrawing) -> DrawingCard {
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
        size: [drawn.picture.width, drawn.picture.height],
        parts: parts(&drawn.picture),
        notes: drawn.notes.clone(),
    }
}
