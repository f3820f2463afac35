//! Help with a photo: places for it, and inks that go with it.

use super::bench::NO_SHEET;
use super::error::ApiError;
use crate::app::App;
use axum::Json;
use axum::extract::{Path, State};
use inky_core::library::{Library, LoadedLibrary};
use inky_core::outline::shown_outline;
use inky_core::palette::{InkProposal, main_colours};
use inky_core::placements::{PlacementProposal, propose_placements};
use inky_core::sheet::{FillId, PhotoId, PieceId, Sheet, SheetId};
use kurbo::Rect;
use std::sync::Arc;

const NO_PHOTO: ApiError = ApiError::NotFound("This photo is not here.");

/// Where the photo of a fill could lie.
pub(super) async fn placements(
    State(app): State<Arc<App>>,
    Path((id, piece, fill)): Path<(SheetId, PieceId, FillId)>,
) -> Result<Json<Vec<PlacementProposal>>, ApiError> {
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    let library = app.library(&row.sheet, &[]).await?;
    let proposing = app.computing.run(library, move |library| proposed(&row.sheet, (piece, fill), library));
    Ok(Json(proposing.await??))
}

fn proposed(
    sheet: &Sheet,
    (piece, fill): (PieceId, FillId),
    library: &LoadedLibrary,
) -> Result<Vec<PlacementProposal>, ApiError> {
    let window = sheet.piece(piece).and_then(|p| p.window());
    let window = window.ok_or(ApiError::NotFound("That piece is not here."))?;
    let photo = window.fill(fill).and_then(|f| f.photo()).and_then(|id| sheet.photos.get(id)).ok_or(NO_PHOTO)?;
    let open = shown_outline(sheet, window, library).map_err(|e| ApiError::Refused(e.to_string()))?;
    let matte = photo.subjects.first().and_then(|s| library.matte(&s.matte));
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    Ok(propose_placements(&open.path, page, (photo.width, photo.height), matte.as_deref()))
}

/// The main colours of a photo.
pub(super) async fn inks(
    State(app): State<Arc<App>>,
    Path(id): Path<PhotoId>,
) -> Result<Json<Vec<InkProposal>>, ApiError> {
    let (_, bytes) = app.store.smallest_level(&id.0).await?.ok_or(NO_PHOTO)?;
    let found =
        tokio::task::spawn_blocking(move || image::load_from_memory(&bytes).map(|p| main_colours(&p.into_rgba8())));
    let found = found.await.map_err(|e| ApiError::Broken(e.to_string()))?;
    Ok(Json(found.map_err(|e| ApiError::Broken(e.to_string()))?))
}
