//! The job that makes a file of a sheet.

use super::task::{FileKind, Outcome};
use super::worker::{Progress, patiently};
use crate::app::App;
use crate::aside::aside;
use base64::{Engine, engine::general_purpose::STANDARD};
use inky_core::cutout::Watch;
use inky_core::sheet::{Content, PhotoSubject, Sheet, SheetFile, SheetId, SubjectSource};
use inky_render::{Plan, jpeg, png, svg};
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
    let row = patiently(|| async move { Ok(app.store.sheet(sheet).await?) })
        .await?
        .ok_or("This sheet is not here any more.")?;
    let sheet = row.sheet;
    let name = format!("{}.{}", file_name(&sheet.name), kind.ending());
    let bytes = match kind {
        FileKind::Sheet => sheet_file(app, sheet).await?,
        _ => {
            let books = patiently(|| app.books(&sheet, &[])).await?;
            let originals = patiently(|| app.originals(&sheet)).await?;
            let bleed = if bleed { sheet.bleed } else { 0.0 };
            let draw = move || {
                progress.step(0.15, "Preparing the photos");
                match kind {
                    FileKind::Svg => svg(&sheet, &books, &originals, bleed).map(String::into_bytes),
                    FileKind::Jpeg => {
                        jpeg(&Plan::cut(&sheet, &books, &originals, ppi, bleed)?, QUALITY, progress.as_ref())
                    }
                    _ => png(&Plan::cut(&sheet, &books, &originals, ppi, bleed)?, progress.as_ref()),
                }
            };
            aside(draw).await.map_err(|e| e.to_string())?.map_err(|e| e.to_string())?
        }
    };
    let bytes = bytes.as_slice();
    let hash = patiently(|| async move { Ok(app.store.put_blob(bytes).await?) }).await?;
    Ok(Outcome::File { name, hash, bytes: bytes.len() })
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
