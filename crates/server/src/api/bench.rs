//! A sheet as the bench shows it.

use super::error::ApiError;
use super::types::Bench;
use crate::addresses::Addresses;
use crate::app::App;
use crate::storage::SheetRow;
use inky_core::library::LoadedLibrary;
use inky_core::scene::{Keys, SceneBuilder};
use inky_core::screen::Screen;
use inky_core::sheet::Sheet;
use std::sync::Arc;

pub(super) const NO_SHEET: ApiError = ApiError::NotFound("This sheet is not here any more.");

/// A sheet with its picture.
pub(super) async fn drawn(app: &Arc<App>, row: SheetRow) -> Result<Bench, ApiError> {
    let library = app.library(&row.sheet, &[]).await?;
    let (own, sheet, head) = (Arc::clone(app), Arc::clone(&row.sheet), (row.head.id, row.head.revision));
    let scene = app.computing.run(library, move |library| {
        let keys = own.keys(head.0, head.1, &sheet);
        screen(&own, &sheet, keys, library).scene()
    });
    let scene = scene.await?;
    Ok(Bench::new(row, scene))
}

/// Writes pieces of a sheet for the screen, those of before from memory.
pub(super) fn screen<'a>(app: &'a App, sheet: &'a Sheet, keys: Arc<Keys>, library: &'a LoadedLibrary) -> Screen<'a> {
    let builder = SceneBuilder::with_keys(sheet, keys, library, &app.scenes);
    Screen { sheet, library, builder, levels: &Addresses, memo: &app.views }
}
