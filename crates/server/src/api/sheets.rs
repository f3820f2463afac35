//! The desk, and a sheet as a whole.

use super::asked::Asked;
use super::edits::drawn;
use super::error::ApiError;
use super::types::{Bench, Density, Made, NewSheet, Revision, SheetCard};
use crate::app::App;
use crate::pictures::Addresses;
use axum::Json;
use axum::body::Bytes;
use axum::extract::{Path, Query, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use inky_core::cutout::Unwatched;
use inky_core::edit::check_sheet;
use inky_core::scene::{View, scene};
use inky_core::sheet::{MM_PER_INCH, Sheet, SheetFile, SheetId};
use inky_render::{Plan, png};
use std::sync::Arc;

/// Long side of a sheet's picture on the desk, in pixels.
const THUMBNAIL: f64 = 640.0;

pub(super) const NO_SHEET: ApiError = ApiError::NotFound("This sheet is not here any more.");

pub(super) async fn list(State(app): State<Arc<App>>) -> Result<Json<Vec<SheetCard>>, ApiError> {
    let lines = app.store.sheets().await?;
    Ok(Json(
        lines
            .into_iter()
            .map(|l| SheetCard {
                id: l.id,
                name: l.sheet.name,
                width: l.sheet.width,
                height: l.sheet.height,
                unit: l.sheet.unit,
                ppi: l.sheet.ppi,
                revision: l.revision,
                changed: l.changed.unix_timestamp(),
            })
            .collect(),
    ))
}

pub(super) async fn create(State(app): State<Arc<App>>, Asked(new): Asked<NewSheet>) -> Result<Json<Made>, ApiError> {
    let sheet = Sheet::new(new.name.trim(), new.width, new.height, new.unit, new.ppi);
    check_sheet(&sheet)?;
    Ok(Json(Made { id: app.store.create_sheet(&sheet, "new sheet").await? }))
}

pub(super) async fn import(State(app): State<Arc<App>>, body: Bytes) -> Result<Json<Made>, ApiError> {
    let file = SheetFile::read(&body)?;
    let sheet = app.take_sheet_file(file, None).await?;
    Ok(Json(Made { id: app.store.create_sheet(&sheet, "bring in the sheet file").await? }))
}

pub(super) async fn bench(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Query(view): Query<Density>,
) -> Result<Json<Bench>, ApiError> {
    let row = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
    Ok(Json(drawn(&app, row, view.density).await?))
}

pub(super) async fn remove(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<StatusCode, ApiError> {
    set_removed(&app, id, true).await
}

pub(super) async fn restore(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<StatusCode, ApiError> {
    set_removed(&app, id, false).await
}

async fn set_removed(app: &App, id: SheetId, removed: bool) -> Result<StatusCode, ApiError> {
    if app.store.remove_sheet(id, removed).await? { Ok(StatusCode::NO_CONTENT) } else { Err(NO_SHEET) }
}

pub(super) async fn copy(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<Json<Made>, ApiError> {
    let row = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
    let mut sheet = row.sheet;
    sheet.name = sheet.name.chars().take(190).chain(", copy".chars()).collect();
    Ok(Json(Made { id: app.store.create_sheet(&sheet, "copy the sheet").await? }))
}

pub(super) async fn revision(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<Json<Revision>, ApiError> {
    Ok(Json(Revision { revision: app.store.revision(id).await?.ok_or(NO_SHEET)? }))
}

/// A small picture of the sheet, drawn like the files it delivers.
pub(super) async fn picture(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<Response, ApiError> {
    let row = app.store.sheet(id).await?.ok_or(NO_SHEET)?;
    let png = match app.store.thumbnail(id, row.revision).await? {
        Some(png) => png,
        None => {
            let png = thumbnail(&app, row.sheet).await?;
            app.store.put_thumbnail(id, row.revision, &png).await?;
            png
        }
    };
    // the address carries the revision, so that it never changes what it shows
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable");
    Ok(([(header::CONTENT_TYPE, "image/png"), cached], png).into_response())
}

async fn thumbnail(app: &App, sheet: Sheet) -> Result<Vec<u8>, ApiError> {
    let books = app.books(&sheet, &[]).await?;
    let originals = app.originals(&sheet).await?;
    let drawing = tokio::task::spawn_blocking(move || {
        let ppi = THUMBNAIL / (sheet.width.max(sheet.height) / MM_PER_INCH);
        png(&Plan::new(&sheet, &books, &originals, ppi)?, &Unwatched)
    });
    drawing.await.map_err(|e| ApiError::Broken(e.to_string()))?.map_err(|e| ApiError::Refused(e.to_string()))
}

/// The scene of a sheet for a screen of `density` pixels a millimetre.
pub(super) async fn screen_scene(app: &App, sheet: &Sheet, density: f64) -> Result<inky_core::scene::Scene, ApiError> {
    let books = app.books(sheet, &[]).await?;
    let view = View { library: &books, pictures: &Addresses, density: sound(density), with_handles: true };
    Ok(scene(sheet, &view))
}

/// A density that a screen can have.
pub(super) fn sound(density: f64) -> f64 {
    if density.is_finite() { density.clamp(0.01, 1000.0) } else { 4.0 }
}
