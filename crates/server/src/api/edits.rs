//! Edits: tried while a drag lasts, kept when it ends, undone and redone.

use super::asked::Asked;
use super::error::ApiError;
use super::sheets::{NO_SHEET, screen_scene, sound};
use super::types::{Bench, EditRequest, StepRequest, TentativeRequest};
use crate::app::App;
use crate::pictures::Addresses;
use crate::storage::{EditOutcome, SheetRow, StepWrite};
use axum::Json;
use axum::extract::{Path, State};
use inky_core::edit::{Refusal, apply};
use inky_core::scene::{CellView, Layer, View, cell_views, layer};
use inky_core::sheet::{Piece, PieceId, SheetId};
use std::sync::Arc;

/// A sheet with its picture.
pub(super) async fn drawn(app: &App, row: SheetRow, density: f64) -> Result<Bench, ApiError> {
    app.remember(row.id, row.revision, &row.sheet);
    let scene = screen_scene(app, &row.sheet, density).await?;
    Ok(Bench::new(row, scene))
}

async fn answer(app: &App, outcome: EditOutcome<Refusal>, density: f64) -> Result<Json<Bench>, ApiError> {
    match outcome {
        EditOutcome::Kept(row) => Ok(Json(drawn(app, row, density).await?)),
        EditOutcome::Stale(row) => Err(ApiError::Stale(Box::new(drawn(app, row, density).await?))),
        EditOutcome::Refused(refusal) => Err(refusal.into()),
        EditOutcome::NoSheet => Err(NO_SHEET),
    }
}

pub(super) async fn edit(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Asked(asked): Asked<EditRequest>,
) -> Result<Json<Bench>, ApiError> {
    let known = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
    let books = app.books(&known.sheet, std::slice::from_ref(&asked.edit)).await?;
    let write = StepWrite { base: asked.base, request: Some(asked.request), gesture: asked.gesture };
    let outcome = app
        .store
        .edit_sheet(id, write, |sheet| apply(sheet, &asked.edit, &books).map(|next| (next, asked.edit.name(sheet))));
    answer(&app, outcome.await?, asked.density).await
}

pub(super) async fn undo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    asked: Asked<StepRequest>,
) -> Result<Json<Bench>, ApiError> {
    step(state, id, asked, true).await
}

pub(super) async fn redo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    asked: Asked<StepRequest>,
) -> Result<Json<Bench>, ApiError> {
    step(state, id, asked, false).await
}

async fn step(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Asked(asked): Asked<StepRequest>,
    back: bool,
) -> Result<Json<Bench>, ApiError> {
    let write = StepWrite { base: asked.base, request: Some(asked.request), gesture: None };
    match app.store.step_sheet(id, write, back).await? {
        EditOutcome::Kept(row) => Ok(Json(drawn(&app, row, asked.density).await?)),
        EditOutcome::Stale(row) => Err(ApiError::Stale(Box::new(drawn(&app, row, asked.density).await?))),
        EditOutcome::Refused(()) => {
            let sentence = if back { "There is nothing to undo." } else { "There is nothing to redo." };
            Err(ApiError::Refused(sentence.into()))
        }
        EditOutcome::NoSheet => Err(NO_SHEET),
    }
}

/// The cells of a window's opening.
pub(super) async fn cells(
    State(app): State<Arc<App>>,
    Path((id, piece)): Path<(SheetId, PieceId)>,
) -> Result<Json<Vec<CellView>>, ApiError> {
    let row = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
    let books = app.books(&row.sheet, &[]).await?;
    let window =
        row.sheet.piece(piece).and_then(|p| p.window()).ok_or(ApiError::NotFound("That piece is not here."))?;
    let views = cell_views(&window.opening, &books).map_err(|e| ApiError::Refused(e.to_string()))?;
    Ok(Json(views))
}

/// The layers that edits would change, as they would be. Nothing is kept.
pub(super) async fn tentative(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Asked(asked): Asked<TentativeRequest>,
) -> Result<Json<Vec<Layer>>, ApiError> {
    let sheet = match app.remembered(id, asked.base) {
        Some(sheet) => sheet,
        None => {
            let row = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
            if row.revision != asked.base {
                return Err(ApiError::Stale(Box::new(drawn(&app, row, asked.density).await?)));
            }
            app.remember(id, row.revision, &row.sheet);
            Arc::new(row.sheet)
        }
    };
    let books = app.books(&sheet, &asked.edits).await?;
    let mut next = (*sheet).clone();
    for edit in &asked.edits {
        next = apply(&next, edit, &books)?;
    }
    let view = View { library: &books, pictures: &Addresses, density: sound(asked.density), with_handles: true };
    let changed: Vec<&Piece> = next.pieces.iter().filter(|p| sheet.piece(p.id) != Some(*p)).collect();
    // what breaks out of a window ends at those that share its photo
    let shares = |p: &Piece| {
        p.window().is_some_and(|w| changed.iter().filter_map(|c| c.window()).any(|c| c.shares_photo_with(w)))
    };
    let drawn = next.pieces.iter().filter(|p| !p.hidden && (changed.contains(p) || shares(p)));
    Ok(Json(drawn.map(|p| layer(&next, p, &view)).collect()))
}
