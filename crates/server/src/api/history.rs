//! The steps of a sheet: listed, looked at, and gone back to. Going back is a step of its own, so that nothing that came later is lost.

use super::bench::{NO_SHEET, screen};
use super::edits::{TRIES, answer, give_way, stale};
use super::error::ApiError;
use super::json_body::JsonBody;
use super::tab::Tab;
use super::types::{BenchChange, PastSheet, StepRequest, StepView};
use crate::app::App;
use crate::storage::{BEGINNING, Document, Step, StepWrite, Written};
use axum::Json;
use axum::extract::{Path, State};
use inky_core::scene::Keys;
use inky_core::sheet::SheetId;
use std::sync::Arc;

const NO_STEP: ApiError = ApiError::NotFound("That step is not kept any more.");

/// All steps, the last one first; at the end what was there before them.
pub(super) async fn steps(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
) -> Result<Json<Vec<StepView>>, ApiError> {
    let mut steps = app.store.steps(id).await?;
    steps.reverse();
    let beginning = StepView { seq: BEGINNING, name: "the beginning".into(), made: None, undone: false };
    let first = (!steps.is_empty()).then_some(beginning);
    let view = steps.into_iter().map(|s| StepView { seq: s.seq, name: s.name, made: s.made, undone: s.undone });
    Ok(Json(view.chain(first).collect()))
}

/// The sheet as it was after a step.
pub(super) async fn past(
    State(app): State<Arc<App>>,
    Path((id, seq)): Path<(SheetId, u64)>,
) -> Result<Json<PastSheet>, ApiError> {
    let (name, root) = app.store.step_document(id, seq).await?.ok_or(NO_STEP)?;
    let sheet = Arc::new(app.store.document(root).await?.0);
    let library = app.library(&sheet, &[]).await?;
    let (own, drawn) = (Arc::clone(&app), Arc::clone(&sheet));
    let scene =
        app.computing.run(library, move |library| screen(&own, &drawn, Arc::new(Keys::of(&drawn)), library).scene());
    Ok(Json(PastSheet { seq, name, sheet, scene: scene.await? }))
}

/// Makes the sheet what it was after a step, as one more step.
pub(super) async fn go_back(
    State(app): State<Arc<App>>,
    Path((id, seq)): Path<(SheetId, u64)>,
    Tab(author): Tab,
    JsonBody(asked): JsonBody<StepRequest>,
) -> Result<Json<BenchChange>, ApiError> {
    let StepRequest { base, request } = asked;
    let _turn = app.turns.of(id).await;
    for tried in 0..TRIES {
        let row = app.sheet_for(id, author).await?.ok_or(NO_SHEET)?;
        if app.store.requested(id, request).await?.is_some() {
            return answer(&app, id, author, base).await;
        }
        if row.head.revision != base {
            let sentence = "Somebody else changed this sheet meanwhile, so that it was not put back. You see its newest state now.";
            return Err(stale(&app, row, sentence.into()).await?);
        }
        let (name, root) = app.store.step_document(id, seq).await?.ok_or(NO_STEP)?;
        let sheet = Arc::new(app.store.document(root).await?.0);
        let document = Document::of(&sheet, Some((&row.sheet, &row.tree)))?;
        let name = if seq == BEGINNING { format!("back to {name}") } else { format!("back to “{name}”") };
        let write = StepWrite { base, request: Some(request), gesture: None, author };
        let step = Step { name: &name, adds: false, before: row.tree.root(), sheet: &sheet, document: &document };
        match app.store.keep_step(id, write, step).await? {
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
