//! The job that makes a file of a sheet.

use super::task::{FileKind, Outcome};
use super::worker::{Progress, patiently};
use crate::app::App;
use crate::background::in_background;
use base64::{Engine, engine::general_purpose::STANDARD};
use inky_core::cutout::Watch;
use inky_core::scene::SceneBuilder;
use inky_core::sheet::{Content, PhotoSubject, Sheet, SheetFile, SheetId, SubjectSource};
use inky_render::{Packing, Plan, RenderError, jpeg, png, svg};
use std::sync::Arc;

/// Quality of JPEG files, of 100.
const QUALITY: u8 = 94;

pub(super) async fn deliver(
    app: &Arc<App>,
    sheet: SheetId,
    (kind, ppi, bleed): (FileKind, f64, bool),
    progress: Arc<Progress>,
) -> Result<Outcome, String> {
    progress.step(0.02, "Fetching the photos");
    let sheet = patiently(|| async move { Ok(app.sheet(sheet).await?) })
        .await?
        .ok_or("This sheet is not here any more.")?
        .sheet;
    let name = format!("{}.{}", file_name(&sheet.name), kind.ending());
    let bytes = match kind {
        FileKind::Sheet => sheet_file(app, (*sheet).clone()).await?,
        _ => drawn(app, &sheet, (kind, ppi, bleed), progress).await?,
    };
    let bytes = bytes.as_slice();
    let hash = patiently(|| async move { Ok(app.store.put_blob(bytes).await?) }).await?;
    Ok(Outcome::File { name, hash, bytes: bytes.len() })
}

/// A file that is drawn or written from the scene.
async fn drawn(
    app: &Arc<App>,
    sheet: &Arc<Sheet>,
    (kind, ppi, bleed): (FileKind, f64, bool),
    progress: Arc<Progress>,
) -> Result<Vec<u8>, String> {
    let library = patiently(|| app.library(sheet, &[])).await?;
    let (building, own) = (Arc::clone(app), Arc::clone(sheet));
    // a file may have another resolution than the sheet
    let own = if kind == FileKind::Svg { own } else { Arc::new(Sheet { ppi, ..(*own).clone() }) };
    let scene = in_background(move || SceneBuilder::new(&own, &library, &building.scenes).scene());
    let scene = scene.await.map_err(|e| e.to_string())?;
    let bleed = if bleed { sheet.bleed } else { 0.0 };
    let taken = (&scene, scene.ppi);
    let originals = patiently(|| app.originals(taken.0, taken.1)).await?;
    let title = sheet.name.clone();
    let draw = move || {
        progress.step(0.15, "Preparing the photos");
        let mut out = Vec::new();
        match kind {
            FileKind::Svg => out = svg(&scene, &title, &originals, bleed, Packing::Small)?.into_bytes(),
            FileKind::Jpeg => jpeg(&Plan::new(scene, originals, ppi, bleed)?, QUALITY, progress.as_ref(), &mut out)?,
            _ => png(&Plan::new(scene, originals, ppi, bleed)?, progress.as_ref(), &mut out)?,
        }
        Ok::<_, RenderError>(out)
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

async fn content(app: &App, hash: &str) -> Result<Content, String> {
    let bytes = patiently(|| async move { Ok(app.store.blob(hash).await?) }).await?;
    Ok(Content::Data(STANDARD.encode(bytes.ok_or("A file of this sheet is missing.")?)))
}
