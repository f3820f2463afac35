//! Edits: tried while a drag lasts, kept when it ends, undone and redone.

use super::bench::{NO_SHEET, drawn, screen};
use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{BenchChange, EditRequest, StepRequest, Tentative, TentativeRequest};
use crate::app::App;
use crate::storage::{SheetHead, SheetRow, Step, StepWrite, Written};
use axum::Json;
use axum::extract::{Path, State};
use inky_core::change::change_keyed;
use inky_core::edit::{Edit, apply};
use inky_core::handles::{CellView, cell_views};
use inky_core::library::LoadedLibrary;
use inky_core::scene::Keys;
use inky_core::sheet::{Piece, PieceId, Sheet, SheetId};
use std::sync::Arc;
use tokio::task::spawn_blocking;

pub(super) async fn edit(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    JsonBody(asked): JsonBody<EditRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    let EditRequest { base, request, gesture, edit } = asked;
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    if row.head.request == Some(request) {
        return repeated(&app, row, base).await;
    }
    if row.head.revision != base {
        return Err(ApiError::Stale(Box::new(drawn(&app, row).await?)));
    }
    let edits = vec![edit];
    let library = app.library(&row.sheet, &edits).await?;
    let (computing, before) = (Arc::clone(&app), Arc::clone(&row.sheet));
    let made = spawn_blocking(move || {
        let keys = computing.keys(id, base, &before);
        let (after, keys) = change_keyed((&before, &keys), &edits, &library, &computing.scenes)?;
        let (name, adds) = (edits[0].name(&before), edits[0].adds(&before));
        Ok::<_, ApiError>((Arc::new(after), keys, name, adds))
    });
    let (after, keys, name, adds) = made.await??;
    let write = StepWrite { base, request: Some(request), gesture };
    let written = app.store.keep_step(id, write, Step { name: &name, adds, sheet: &after }).await?;
    match written {
        Written::Kept(head) => {
            let after = SheetRow { head, sheet: after };
            app.remember(&after);
            app.remember_keys(id, after.head.revision, keys);
            Ok(Json(changed(&app, &row, after).await?))
        }
        other => not_kept(&app, id, base, other).await,
    }
}

/// A request whose answer was lost, or that came while another was kept.
async fn not_kept(app: &Arc<App>, id: SheetId, base: u64, written: Written) -> Result<Json<BenchChange>, ApiError> {
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    match written {
        Written::Repeated => repeated(app, row, base).await,
        Written::NoSheet => Err(NO_SHEET),
        Written::Kept(_) | Written::Stale | Written::Nothing => Err(ApiError::Stale(Box::new(drawn(app, row).await?))),
    }
}

/// The answer to a request that was kept already: what changed since the revision it was made for, if that is remembered.
async fn repeated(app: &Arc<App>, row: SheetRow, base: u64) -> Result<Json<BenchChange>, ApiError> {
    let before = app.remembered(row.head.id, base).unwrap_or_else(|| {
        // not remembered: everything is sent
        Arc::new(Sheet { pieces: Vec::new(), name: String::new(), ..(*row.sheet).clone() })
    });
    let head = SheetHead { revision: base, ..row.head.clone() };
    Ok(Json(changed(app, &SheetRow { head, sheet: before }, row).await?))
}

pub(super) async fn undo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    asked: JsonBody<StepRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    step(state, id, asked, true).await
}

pub(super) async fn redo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    asked: JsonBody<StepRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    step(state, id, asked, false).await
}

async fn step(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    JsonBody(asked): JsonBody<StepRequest>,
    back: bool,
) -> Result<Json<BenchChange>, ApiError> {
    let before = app.sheet(id).await?.ok_or(NO_SHEET)?;
    let write = StepWrite { base: asked.base, request: Some(asked.request), gesture: None };
    match app.store.step_sheet(id, write, back).await? {
        Written::Kept(_) => {
            let after = app.sheet(id).await?.ok_or(NO_SHEET)?;
            Ok(Json(changed(&app, &before, after).await?))
        }
        Written::Nothing => {
            let sentence = if back { "There is nothing to undo." } else { "There is nothing to redo." };
            Err(ApiError::Refused(sentence.into()))
        }
        other => not_kept(&app, id, asked.base, other).await,
    }
}

/// What changed from one revision to another.
async fn changed(app: &Arc<App>, before: &SheetRow, after: SheetRow) -> Result<BenchChange, ApiError> {
    let library = app.library(&after.sheet, &[]).await?;
    let (app, old, base) = (Arc::clone(app), Arc::clone(&before.sheet), before.head.revision);
    Ok(spawn_blocking(move || {
        let SheetRow { head: SheetHead { id, revision, undo, redo, .. }, sheet } = after;
        let was = app.keys(id, base, &old);
        let screen = screen(&app, &sheet, app.keys(id, revision, &sheet), &library);
        let page = (screen.builder.keys().of_page() != was.of_page()).then(|| screen.page());
        let views = screen.pieces_unlike(&was);
        let header = Sheet { pieces: Vec::new(), ..(*sheet).clone() };
        let same = header == Sheet { pieces: Vec::new(), ..(*old).clone() };
        BenchChange {
            id,
            base,
            revision,
            undo,
            redo,
            sheet: (!same).then_some(header),
            pieces: unlike(&old, &sheet).cloned().collect(),
            order: new_order(&old, &sheet),
            page,
            views,
        }
    })
    .await?)
}

fn unlike<'a>(before: &'a Sheet, after: &'a Sheet) -> impl Iterator<Item = &'a Piece> {
    // most pieces stay where they are in the list
    let known = |k: usize, id: PieceId| before.pieces.get(k).filter(|p| p.id == id).or_else(|| before.piece(id));
    after.pieces.iter().enumerate().filter(move |(k, p)| known(*k, p.id) != Some(*p)).map(|(_, p)| p)
}

/// All pieces from back to front, if that is another order.
fn new_order(before: &Sheet, after: &Sheet) -> Option<Vec<PieceId>> {
    let order = |sheet: &Sheet| sheet.pieces.iter().map(|p| p.id).collect::<Vec<_>>();
    let now = order(after);
    (now != order(before)).then_some(now)
}

/// The cells of a window's opening.
pub(super) async fn cells(
    State(app): State<Arc<App>>,
    Path((id, piece)): Path<(SheetId, PieceId)>,
) -> Result<Json<Vec<CellView>>, ApiError> {
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    let library = app.library(&row.sheet, &[]).await?;
    let views = spawn_blocking(move || {
        let window = row.sheet.piece(piece).and_then(|p| p.window());
        let window = window.ok_or(ApiError::NotFound("That piece is not here."))?;
        cell_views(&window.opening, &library).map_err(|e| ApiError::Refused(e.to_string()))
    });
    Ok(Json(views.await??))
}

/// The pieces that edits would change, as they would be. Nothing is kept.
pub(super) async fn tentative(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    JsonBody(asked): JsonBody<TentativeRequest>,
) -> Result<Json<Tentative>, ApiError> {
    let sheet = match app.remembered(id, asked.base) {
        Some(sheet) => sheet,
        None => {
            let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
            if row.head.revision != asked.base {
                return Ok(Json(Tentative::Newer { bench: Box::new(drawn(&app, row).await?) }));
            }
            row.sheet
        }
    };
    let library = app.library(&sheet, &asked.edits).await?;
    let tried = spawn_blocking(move || {
        let keys = app.keys(id, asked.base, &sheet);
        try_edits(&app, (&sheet, &keys), &asked.edits, &library)
    });
    match tried.await? {
        Err(ApiError::Refused(sentence)) => Ok(Json(Tentative::Refused { sentence })),
        tried => Ok(Json(tried?)),
    }
}

fn try_edits(
    app: &App,
    (sheet, keys): (&Sheet, &Keys),
    edits: &[Edit],
    library: &LoadedLibrary,
) -> Result<Tentative, ApiError> {
    let mut next = sheet.clone();
    for edit in edits {
        next = apply(&next, edit, library)?;
    }
    let next_keys = Arc::new(keys.after(sheet, &next));
    let views = screen(app, &next, next_keys, library).pieces_unlike(keys);
    Ok(Tentative::Gives { views, order: new_order(sheet, &next) })
}
