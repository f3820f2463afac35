//! The desk, and a sheet as a whole.

use super::bench::{NO_SHEET, drawn};
use super::error::ApiError;
use super::json_body::JsonBody;
use super::made_once::MadeOnce;
use super::tab::Tab;
use super::types::{Bench, Made, NewSheet, SheetCard};
use super::upload::Upload;
use crate::access::Who;
use crate::app::App;
use crate::background::in_background;
use crate::budget::Held;
use crate::confined;
use crate::errors::BringError;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use inky_core::check::check_sheet;
use inky_core::cutout::Unwatched;
use inky_core::scene::SceneBuilder;
use inky_core::sheet::limits::SHEET_FILE_BYTES;
use inky_core::sheet::{MM_PER_INCH, Sheet, SheetId};
use inky_core::sheet_file::SheetFile;
use inky_render::{Plan, RenderError, png};
use std::sync::Arc;

/// Long side of a sheet's picture on the desk, in pixels.
const THUMBNAIL: f64 = 640.0;

pub(super) async fn list(State(app): State<Arc<App>>, who: Who) -> Result<Json<Vec<SheetCard>>, ApiError> {
    let lines = app.store.sheets(who.account()).await?;
    Ok(Json(
        lines
            .into_iter()
            .map(|l| SheetCard {
                id: l.id,
                name: l.name,
                width: l.width,
                height: l.height,
                unit: l.unit,
                ppi: l.ppi,
                revision: l.revision,
                changed: l.changed.unix_timestamp(),
                damaged: l.damaged,
                role: l.role,
                invited_by: l.invited_by,
            })
            .collect(),
    ))
}

pub(super) async fn create(
    State(app): State<Arc<App>>,
    who: Who,
    MadeOnce(made): MadeOnce,
    JsonBody(new): JsonBody<NewSheet>,
) -> Result<Json<Made>, ApiError> {
    let sheet = Sheet::new(new.name.trim(), new.width, new.height, new.unit, new.ppi);
    check_sheet(&sheet)?;
    Ok(Json(Made { id: app.store.create_sheet(SheetId(made), &sheet, who.account()).await? }))
}

pub(super) async fn import(
    State(app): State<Arc<App>>,
    who: Who,
    MadeOnce(made): MadeOnce,
    body: Upload<SHEET_FILE_BYTES>,
) -> Result<Json<Made>, ApiError> {
    // one after the other: a file is read as a whole
    let _turn = app.sheet_files.lock().await;
    if app.store.head(SheetId(made), None).await?.is_some() {
        return Ok(Json(Made { id: SheetId(made) }));
    }
    let read =
        body.read(&app, || format!("A sheet file may have {} MiB, and this one has more.", SHEET_FILE_BYTES >> 20));
    let file = read.await?;
    let bytes = match file.bytes.starts_with(b"%PDF-") {
        true => confined::sheet_of_pdf("the PDF", &file.bytes).await.map_err(BringError::from)?,
        false => file.bytes,
    };
    let file = tokio::task::spawn_blocking(move || SheetFile::read(&bytes)).await??;
    let sheet = app.take_sheet_file(file, None).await?;
    Ok(Json(Made { id: app.store.create_sheet(SheetId(made), &sheet, who.account()).await? }))
}

pub(super) async fn bench(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
) -> Result<Json<Bench>, ApiError> {
    let row = app.sheet_for(id, author).await?.ok_or(NO_SHEET)?;
    Ok(Json(drawn(&app, row).await?))
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

pub(super) async fn copy(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    who: Who,
    MadeOnce(made): MadeOnce,
) -> Result<Json<Made>, ApiError> {
    let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
    let mut sheet = (*row.sheet).clone();
    sheet.name = sheet.name.chars().take(190).chain(", copy".chars()).collect();
    Ok(Json(Made { id: app.store.create_sheet(SheetId(made), &sheet, who.account()).await? }))
}

/// A small picture of the sheet, drawn like the files it delivers.
pub(super) async fn picture(State(app): State<Arc<App>>, Path(id): Path<SheetId>) -> Result<Response, ApiError> {
    let head = app.store.head(id, None).await?.ok_or(NO_SHEET)?;
    let png = match app.store.thumbnail(id, head.revision).await? {
        Some(png) => png,
        None => {
            // one after the other, in the background: a desk full of sheets must not keep anybody waiting for anything else
            let _turn = app.small_pictures.lock().await;
            let row = app.sheet(id).await?.ok_or(NO_SHEET)?;
            let png = thumbnail(&app, row.sheet).await?;
            app.store.put_thumbnail(id, row.head.revision, &png).await?;
            png
        }
    };
    // the address carries the revision, so that it never changes what it shows
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable");
    Ok(([(header::CONTENT_TYPE, "image/png"), cached], png).into_response())
}

/// Drawn from the levels that are kept for the screen. What cannot be drawn is left out: the sheet itself says so.
async fn thumbnail(app: &Arc<App>, sheet: Arc<Sheet>) -> Result<Vec<u8>, ApiError> {
    let library = app.library(&sheet, &[]).await?;
    let (building, own) = (Arc::clone(app), Arc::clone(&sheet));
    let scene = in_background(move || SceneBuilder::new(&own, &library, &building.scenes).scene()).await?;
    let ppi = THUMBNAIL / (sheet.width.max(sheet.height) / MM_PER_INCH);
    let originals = app.level_originals(&scene, ppi / MM_PER_INCH).await?;
    let drawing = in_background(move || {
        let Held { value: originals, share: _share } = originals;
        let mut out = Vec::new();
        png(&Plan::new(scene.drawable(), originals, ppi, 0.0)?, &Unwatched, &mut out)?;
        Ok::<_, RenderError>(out)
    });
    drawing.await?.map_err(|e| ApiError::Refused(e.to_string()))
}
