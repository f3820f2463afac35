//! What would go wrong if a sheet were delivered as it is.

use super::bench::NO_SHEET;
use super::error::ApiError;
use super::types::ProofView;
use crate::app::App;
use axum::Json;
use axum::extract::{Path, State};
use inky_core::proof::{ProofTerms, proof};
use inky_core::sheet::SheetId;
use std::sync::Arc;

/// The findings about a sheet as it is kept.
pub(super) async fn findings(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
) -> Result<Json<ProofView>, ApiError> {
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    let library = app.library(&row.sheet, &[]).await?;
    let (revision, sheet) = (row.head.revision, row.sheet);
    let terms = ProofTerms::of(&sheet);
    let found = app.computing.run(library, move |library| proof(&sheet, &terms, library));
    Ok(Json(ProofView { revision, terms, findings: found.await? }))
}
