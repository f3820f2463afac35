//! Edits: tried while a drag lasts, kept when it ends, undone and redone.
//!
//! An edit that was made for an older sheet is made on the newer one, if nobody else changed what it changes.

use super::bench::{NO_SHEET, drawn, screen};
use super::error::ApiError;
use super::json_body::JsonBody;
use super::tab::Tab;
use super::types::{BenchChange, EditRequest, StepRequest, Tentative, TentativeRequest};
use crate::app::App;
use crate::storage::{Document, SheetHead, SheetRow, Step, StepWrite, Written};
use axum::Json;
use axum::extract::{Path, State};
use inky_core::change::{change_keyed, put_together};
use inky_core::edit::{Edit, apply};
use inky_core::handles::{CellView, cell_views};
use inky_core::library::LoadedLibrary;
use inky_core::scene::Keys;
use inky_core::sheet::{Piece, PieceId, Sheet, SheetId};
use std::sync::Arc;
use std::time::Duration;

/// How often a change is computed anew because another server was faster.
pub(super) const TRIES: usize = 20;

pub(super) async fn edit(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
    JsonBody(asked): JsonBody<EditRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    let EditRequest { base, request, gesture, edits } = asked;
    if edits.is_empty() {
        return Err(ApiError::Refused("There is nothing to change in this request.".into()));
    }
    let edits = Arc::new(edits);
    let _turn = app.turns.of(id).await;
    for tried in 0..TRIES {
        let row = app.sheet_for(id, author).await?.ok_or(NO_SHEET)?;
        // what was made for the present sheet was not kept before
        if row.head.revision != base && app.store.requested(id, request).await?.is_some() {
            return answer(&app, id, author, base).await;
        }
        let made = if row.head.revision == base {
            made(&app, &row, Arc::clone(&edits)).await?
        } else {
            let Some(old) = app.sheet_at(id, base).await? else {
                let sentence = "This sheet was changed meanwhile. You see its newest state now.";
                return Err(stale(&app, row, sentence.into()).await?);
            };
            match made_on_newer(&app, &old, &row, Arc::clone(&edits)).await {
                Err(ApiError::Met(place)) => {
                    let sentence =
                        format!("Somebody else changed {place} meanwhile, so that your change was not made.");
                    return Err(stale(&app, row, sentence).await?);
                }
                made => made?,
            }
        };
        let write = StepWrite { base: row.head.revision, request: Some(request), gesture, author };
        let Made { sheet, keys, document, name, adds } = made;
        let step = Step { name: &name, adds, before: row.tree.root(), sheet: &sheet, document: &document };
        match app.store.keep_step(id, write, step).await? {
            Written::Kept(revision) => {
                app.remember(id, revision, &sheet, &document.tree);
                app.remember_keys(id, revision, keys);
                return answer(&app, id, author, base).await;
            }
            Written::Repeated => return answer(&app, id, author, base).await,
            Written::NoSheet => return Err(NO_SHEET),
            Written::Stale => give_way(tried).await,
        }
    }
    Err(ApiError::Refused("Too many changes are made to this sheet at once. Do it again.".into()))
}

/// Waits for a moment that grows with the tries and is another one at every server: those that met once do not go on meeting.
pub(super) async fn give_way(tried: usize) {
    let most = 4_u128 << tried.min(5);
    let wait = uuid::Uuid::new_v4().as_u128() % most;
    tokio::time::sleep(Duration::from_millis(wait as u64)).await;
}

/// What edits make of a sheet, ready to be kept.
struct Made {
    sheet: Arc<Sheet>,
    keys: Arc<Keys>,
    document: Document,
    /// What undo calls it.
    name: String,
    adds: bool,
}

async fn made(app: &Arc<App>, row: &SheetRow, edits: Arc<Vec<Edit>>) -> Result<Made, ApiError> {
    let library = app.library(&row.sheet, &edits).await?;
    let (own, row) = (Arc::clone(app), row.clone());
    let making = app.computing.run(library, move |library| {
        let keys = own.keys(row.head.id, row.head.revision, &row.sheet);
        let (sheet, keys) = change_keyed((&row.sheet, &keys), &edits, library, &own.scenes)?;
        let document = Document::of(&sheet, Some((&row.sheet, &row.tree)))?;
        let (name, adds) = Edit::name_of_all(&edits, &row.sheet);
        Ok::<_, ApiError>(Made { sheet: Arc::new(sheet), keys, document, name, adds })
    });
    making.await?
}

/// The same for edits that were made for an older sheet.
async fn made_on_newer(
    app: &Arc<App>,
    old: &SheetRow,
    row: &SheetRow,
    edits: Arc<Vec<Edit>>,
) -> Result<Made, ApiError> {
    let mine = made(app, old, Arc::clone(&edits)).await?;
    let both = together(app, (Arc::clone(&old.sheet), mine.sheet), row, &edits).await?;
    Ok(Made { name: mine.name, adds: mine.adds, ..both })
}

/// What changed between two documents, made on a newer one.
async fn together(
    app: &Arc<App>,
    (base, mine): (Arc<Sheet>, Arc<Sheet>),
    row: &SheetRow,
    edits: &[Edit],
) -> Result<Made, ApiError> {
    // what either of them refers to
    let mut both = row.sheet.header();
    both.fonts.extend(mine.fonts.clone());
    both.drawings.extend(mine.drawings.clone());
    let mut library = app.library(&both, edits).await?;
    library.mattes.extend(app.library(&mine, &[]).await?.mattes);
    let (own, row) = (Arc::clone(app), row.clone());
    let making = app.computing.run(library, move |library| {
        let keys = own.keys(row.head.id, row.head.revision, &row.sheet);
        let (sheet, keys) = put_together(&base, &mine, (&row.sheet, &keys), library, &own.scenes)?;
        let document = Document::of(&sheet, Some((&row.sheet, &row.tree)))?;
        Ok::<_, ApiError>(Made { sheet: Arc::new(sheet), keys, document, name: String::new(), adds: false })
    });
    making.await?
}

/// A refusal together with the newest sheet.
pub(super) async fn stale(app: &Arc<App>, row: SheetRow, sentence: String) -> Result<ApiError, ApiError> {
    Ok(ApiError::Stale(sentence, Box::new(drawn(app, row).await?)))
}

/// What a tab that knows the sheet at `base` has not seen yet.
pub(super) async fn answer(
    app: &Arc<App>,
    id: SheetId,
    author: Option<uuid::Uuid>,
    base: u64,
) -> Result<Json<BenchChange>, ApiError> {
    app.changed.send(id);
    changes_since(app, id, author, base).await.map(Json)
}

/// Everything that changed since a revision; all of the sheet where that is not remembered any more.
pub(super) async fn changes_since(
    app: &Arc<App>,
    id: SheetId,
    author: Option<uuid::Uuid>,
    base: u64,
) -> Result<BenchChange, ApiError> {
    let after = app.sheet_for(id, author).await?.ok_or(NO_SHEET)?;
    let before = match app.sheet_at(id, base).await? {
        Some(before) => before.sheet,
        None => Arc::new(Sheet { name: String::new(), ..after.sheet.header() }),
    };
    changed(app, (before, base), after).await
}

pub(super) async fn undo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    tab: Tab,
    asked: JsonBody<StepRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    step(state, id, tab, asked, true).await
}

pub(super) async fn redo(
    state: State<Arc<App>>,
    id: Path<SheetId>,
    tab: Tab,
    asked: JsonBody<StepRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    step(state, id, tab, asked, false).await
}

/// Takes back a tab's own last step, or makes it again, whatever others did meanwhile, unless they changed the same.
async fn step(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
    JsonBody(asked): JsonBody<StepRequest>,
    back: bool,
) -> Result<Json<BenchChange>, ApiError> {
    let StepRequest { base, request } = asked;
    let _turn = app.turns.of(id).await;
    for tried in 0..TRIES {
        let row = app.sheet_for(id, author).await?.ok_or(NO_SHEET)?;
        if app.store.requested(id, request).await?.is_some() {
            return answer(&app, id, author, base).await;
        }
        let Some(step) = app.store.next_step(id, author, back).await? else {
            let sentence = if back { "There is nothing of yours to undo." } else { "There is nothing to redo." };
            return Err(ApiError::Refused(sentence.into()));
        };
        let (from, to) = if back { (step.after, step.before) } else { (step.before, step.after) };
        let goal = Arc::new(app.store.document(to).await?.0);
        let (sheet, document) = if row.head.root == from {
            let document = Document::of(&goal, Some((&row.sheet, &row.tree)))?;
            (goal, document)
        } else {
            let was = Arc::new(app.store.document(from).await?.0);
            match together(&app, (was, goal), &row, &[]).await {
                Err(ApiError::Met(place)) => {
                    let what = if back { "undone" } else { "redone" };
                    let between = app.store.steps_after(id, step.seq).await?;
                    let later =
                        between.last().map_or_else(String::new, |s| format!(" (the last step was “{}”)", s.name));
                    let sentence =
                        format!("“{}” cannot be {what}: somebody else changed {place} since{later}.", step.name);
                    return Err(ApiError::Refused(sentence));
                }
                made => made.map(|made| (made.sheet, made.document))?,
            }
        };
        let write = StepWrite { base: row.head.revision, request: Some(request), gesture: None, author };
        match app.store.keep_undo(id, write, (&sheet, &document), (step.seq, back)).await? {
            Written::Kept(revision) => {
                app.remember(id, revision, &sheet, &document.tree);
                return answer(&app, id, author, base).await;
            }
            Written::Repeated => return answer(&app, id, author, base).await,
            Written::NoSheet => return Err(NO_SHEET),
            Written::Stale => give_way(tried).await,
        }
    }
    Err(ApiError::Refused("Too many changes are made to this sheet at once. Do it again.".into()))
}

/// What changed from one revision to another.
async fn changed(app: &Arc<App>, (old, base): (Arc<Sheet>, u64), after: SheetRow) -> Result<BenchChange, ApiError> {
    let library = app.library(&after.sheet, &[]).await?;
    let own = Arc::clone(app);
    let comparing = app.computing.run(library, move |library| {
        let SheetRow { head: SheetHead { id, revision, undo, redo, .. }, sheet, .. } = after;
        let was = own.keys(id, base, &old);
        let screen = screen(&own, &sheet, own.keys(id, revision, &sheet), library);
        let page = (screen.builder.keys().of_page() != was.of_page()).then(|| screen.page());
        let views = screen.pieces_unlike(&was);
        let header = sheet.header();
        let same = header == old.header();
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
    });
    Ok(comparing.await?)
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
    let views = app.computing.run(library, move |library| {
        let window = row.sheet.piece(piece).and_then(|p| p.window());
        let window = window.ok_or(ApiError::NotFound("That piece is not here."))?;
        cell_views(&window.opening, library).map_err(|e| ApiError::Refused(e.to_string()))
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
    let own = Arc::clone(&app);
    let tried = app.computing.run(library, move |library| {
        let keys = own.keys(id, asked.base, &sheet);
        try_edits(&own, (&sheet, &keys), &asked.edits, library)
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
    let page_differs = next_keys.of_page() != keys.of_page();
    let screen = screen(app, &next, next_keys, library);
    let views = screen.pieces_unlike(keys);
    Ok(Tentative::Gives { views, order: new_order(sheet, &next), page: page_differs.then(|| screen.page()) })
}
