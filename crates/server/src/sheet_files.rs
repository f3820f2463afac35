//! Sheet files into the database: the demo, and what people bring in.

use crate::app::App;
use crate::errors::{BringError, PictureError};
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::sheet::{DrawingId, Sheet};
use inky_core::sheet_file::SheetFile;
use inky_core::unpack::{UnpackError, unpack};
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Loads every sheet file of a folder (`*.sheet.json`) that was not loaded before. How many were loaded.
///
/// # Errors
/// The first file that cannot be read.
pub async fn load_demo(app: &Arc<App>, folder: &Path, say: impl Fn(&str)) -> Result<usize, BringError> {
    let unreadable = |e: std::io::Error| BringError::Read(format!("{} cannot be read: {e}", folder.display()));
    let entries = std::fs::read_dir(folder).map_err(unreadable)?;
    let mut names: Vec<PathBuf> = entries.filter_map(|e| Some(e.ok()?.path())).collect();
    names.retain(|p| p.to_string_lossy().ends_with(".sheet.json"));
    names.sort();
    let mut loaded = 0;
    for path in names {
        let key = path.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
        if app.store.demo_is_loaded(&key).await? {
            continue;
        }
        let file = SheetFile::read(&std::fs::read(&path).map_err(unreadable)?).map_err(UnpackError::from)?;
        say(&file.sheet.name);
        let sheet = app.take_sheet_file(file, Some(folder.to_owned())).await?;
        app.store.create_sheet(&sheet).await?;
        app.store.mark_demo(&key).await?;
        loaded += 1;
    }
    Ok(loaded)
}

impl App {
    /// Takes in a sheet file's photos and subjects; the sheet that refers to them. Files beside it are read only from `folder`.
    pub(crate) async fn take_sheet_file(
        self: &Arc<Self>,
        file: SheetFile,
        folder: Option<PathBuf>,
    ) -> Result<Sheet, BringError> {
        let app = Arc::clone(self);
        let unpacking = tokio::task::spawn_blocking(move || {
            let beside = |name: &str| match &folder {
                Some(folder) => std::fs::read(folder.join(name)).map_err(|e| e.to_string()),
                None => Err("bring in a sheet file that was delivered with everything in it".to_owned()),
            };
            let network = || Ok(app.network()? as Arc<dyn Saliency>);
            unpack(file, &app.fonts, &beside, &network, &Unwatched)
        });
        let unpacked = unpacking.await.map_err(PictureError::from)??;
        let mut sheet = unpacked.sheet;
        for (old, photo) in unpacked.photos {
            let Some(mut facts) = sheet.photos.remove(&old) else {
                continue;
            };
            let id = self.take_photo(&format!("{}.photo", facts.name), photo.bytes).await?.id;
            for subject in &mut facts.subjects {
                if let Some(found) = unpacked.subjects.get(&subject.matte) {
                    subject.matte = self.take_subject(found).await?;
                }
            }
            sheet.photos.insert(id.clone(), facts);
            sheet.rename_photo(&old, &id);
        }
        for (old, drawing) in unpacked.drawings {
            let Some(name) = sheet.drawings.remove(&old) else {
                continue;
            };
            let id = DrawingId(self.store.put_blob(&drawing.bytes).await?);
            self.keep_drawing(&id, &drawing.drawn).await?;
            sheet.drawings.insert(id.clone(), name);
            sheet.rename_drawing(&old, &id);
        }
        for (old, font) in unpacked.fonts {
            let Some(name) = sheet.fonts.remove(&old) else {
                continue;
            };
            let id = self.take_font(&name, font.bytes).await?.id.clone();
            sheet.fonts.insert(id.clone(), name);
            sheet.rename_font(&old, &id);
        }
        Ok(sheet)
    }
}
