//! The job that makes a file of a sheet.

use super::patiently::patiently;
use super::progress::Progress;
use super::task::{FileKind, FileOrder, Outcome};
use crate::app::App;
use crate::background::in_background;
use crate::budget::Held;
use crate::storage::{StoreError, StoredFile};
use base64::{Engine, engine::general_purpose::STANDARD};
use inky_core::cutout::Watch;
use inky_core::scene::SceneBuilder;
use inky_core::sheet::limits::SHEET_FILE_BYTES;
use inky_core::sheet::{PhotoSubject, Sheet, SheetId};
use inky_core::sheet_file::{Content, SheetFile, SubjectSource};
use inky_render::{
    Ground, Packing, PdfOptions, PdfPage, PdfX4, Plan, RenderError, has_room, jpeg, pdf, png, svg, tiff, webp,
};
use std::fs::File;
use std::io::{BufWriter, Write};
use std::sync::Arc;

/// Quality of JPEG files, of 100.
const QUALITY: u8 = 94;

pub(super) async fn deliver(
    app: &Arc<App>,
    sheet: SheetId,
    order: &FileOrder,
    progress: Arc<Progress>,
) -> Result<Outcome, String> {
    progress.step(0.02, "Fetching the photos");
    let sheet = patiently(|| async move { Ok(app.sheet(sheet).await?) })
        .await?
        .ok_or("This sheet is not here any more.")?
        .sheet;
    let name = format!("{}.{}", file_name(&sheet.name), order.kind.ending());
    if order.kind == FileKind::Sheet {
        let bytes = sheet_file(app, (*sheet).clone()).await?;
        let (bytes, size) = (bytes.as_slice(), bytes.len() as u64);
        let hash = patiently(|| async move { Ok(app.store.put_blob(bytes).await?) }).await?;
        return Ok(Outcome::File { name, hash, bytes: size });
    }
    let file = drawn(app, &sheet, order, progress).await?;
    let file = &file;
    let kept = patiently(|| async move {
        let again = file.try_clone().map_err(StoreError::from)?;
        Ok(app.store.put_file(again).await?)
    });
    let StoredFile { hash, bytes } = kept.await?;
    Ok(Outcome::File { name, hash, bytes })
}

/// A file that is drawn or written from the scene: on disk, as it may be larger than the memory.
async fn drawn(app: &Arc<App>, sheet: &Arc<Sheet>, order: &FileOrder, progress: Arc<Progress>) -> Result<File, String> {
    let &FileOrder { kind, ppi, marks, .. } = order;
    let library = patiently(|| app.library(sheet, &[])).await?;
    let (building, own) = (Arc::clone(app), order.of(sheet));
    let scene = in_background(move || SceneBuilder::new(&own, &library, &building.scenes).scene());
    let scene = scene.await.map_err(|e| e.to_string())?;
    let bleed = if order.bleed { sheet.bleed } else { 0.0 };
    // before anything large is fetched
    has_room(&scene, scene.ppi, bleed).map_err(|e| e.to_string())?;
    let taken = (&scene, scene.ppi);
    let originals = patiently(|| app.originals(taken.0, taken.1)).await?;
    let title = sheet.name.clone();
    let made = time::OffsetDateTime::now_utc();
    let press = order.press.as_deref().and_then(inky_press::press);
    let x4 = press.map(|press| PdfX4 { press, made });
    let sheet_file = match order.sheet_inside && kind == FileKind::Pdf {
        true => Some(sheet_file(app, (**sheet).clone()).await?),
        false => None,
    };
    let (clear, trimmed) = (order.clear && kind.has_opacity(), order.trimmed);
    let draw = move || {
        let Held { value: originals, share: _share } = originals;
        progress.step(0.15, "Preparing the photos");
        let unwritten = |e: std::io::Error| RenderError::Encoding(e.to_string());
        let mut out = BufWriter::new(tempfile::tempfile().map_err(unwritten)?);
        let picture = |scene, originals| -> Result<Plan, RenderError> {
            let ground = if clear { Ground::Clear } else { Ground::OfTheSheet };
            let plan = Plan::new(scene, originals, ppi, bleed)?.on(ground);
            if trimmed { plan.trimmed(progress.as_ref()) } else { Ok(plan) }
        };
        match kind {
            FileKind::Svg => {
                let text = svg(&scene, &title, &originals, bleed, Packing::Small)?;
                out.write_all(text.as_bytes()).map_err(unwritten)?;
            }
            FileKind::Pdf => {
                let page = PdfPage { scene: &scene, originals: &originals, ppi, bleed };
                let options = PdfOptions { marks, x4, sheet_file };
                out.write_all(&pdf(&[page], &title, options, progress.as_ref())?).map_err(unwritten)?;
            }
            FileKind::Jpeg => jpeg(&picture(scene, originals)?, QUALITY, progress.as_ref(), &mut out)?,
            FileKind::Tiff => tiff(&picture(scene, originals)?, press, progress.as_ref(), &mut out)?,
            FileKind::Webp => webp(&picture(scene, originals)?, progress.as_ref(), &mut out)?,
            FileKind::Png | FileKind::Sheet => png(&picture(scene, originals)?, progress.as_ref(), &mut out)?,
        }
        out.into_inner().map_err(|e| unwritten(e.into_error()))
    };
    in_background(draw).await.map_err(|e| e.to_string())?.map_err(|e| e.to_string())
}

/// A sheet's name as a file name that every system takes.
fn file_name(name: &str) -> String {
    let safe = |c: char| {
        if c.is_control() || "/\\:*?\"<>|".contains(c) { '-' } else { c }
    };
    let name: String = name.chars().map(safe).take(120).collect();
    let name = name.trim().trim_matches('.');
    if name.is_empty() { "sheet".into() } else { name.into() }
}

async fn sheet_file(app: &App, sheet: Sheet) -> Result<Vec<u8>, String> {
    let bytes = file_bytes(app, &sheet).await?;
    if bytes > SHEET_FILE_BYTES as u64 {
        let (has, most) = (bytes >> 20, SHEET_FILE_BYTES >> 20);
        return Err(format!(
            "The sheet file would have {has} MiB, and one of more than {most} MiB cannot be brought in again. Take photos off the sheet, or smaller ones."
        ));
    }
    // its parts, and all of it
    let _share = app.memory.bytes(2 * bytes).await;
    let mut file = SheetFile::new(sheet);
    for (id, photo) in &file.sheet.photos {
        file.photos.insert(id.clone(), content(app, &id.0).await?);
        for PhotoSubject { matte: subject, .. } in &photo.subjects {
            let cutout = patiently(|| async move { Ok(app.store.cutout_of(subject).await?) }).await?;
            let cutout = content(app, &cutout.ok_or("A subject of this sheet is missing.")?).await?;
            let matte = content(app, &subject.0).await?;
            file.subjects.insert(subject.clone(), SubjectSource::Ready { matte, cutout });
        }
    }
    for id in file.sheet.drawings.keys() {
        file.drawings.insert(id.clone(), content(app, &id.0).await?);
    }
    for id in file.sheet.fonts.keys() {
        file.fonts.insert(id.clone(), content(app, &id.0).await?);
    }
    serde_json::to_vec(&file).map_err(|e| e.to_string())
}

/// Bytes of a sheet file, about: Base64 makes four of three.
async fn file_bytes(app: &App, sheet: &Sheet) -> Result<u64, String> {
    let mut all: Vec<String> = sheet.photos.keys().map(|id| id.0.clone()).collect();
    all.extend(sheet.drawings.keys().map(|id| id.0.clone()));
    all.extend(sheet.fonts.keys().map(|id| id.0.clone()));
    for subject in sheet.photos.values().flat_map(|photo| &photo.subjects) {
        all.push(subject.matte.0.clone());
        all.extend(patiently(|| async move { Ok(app.store.cutout_of(&subject.matte).await?) }).await?);
    }
    let mut bytes = 0;
    for hash in &all {
        bytes += patiently(|| async move { Ok(app.store.blob_size(hash).await?) }).await?.unwrap_or(0);
    }
    Ok(bytes * 4 / 3)
}

async fn content(app: &App, hash: &str) -> Result<Content, String> {
    let bytes = patiently(|| async move { Ok(app.store.blob(hash).await?) }).await?;
    Ok(Content::Data(STANDARD.encode(bytes.ok_or("A file of this sheet is missing.")?)))
}
