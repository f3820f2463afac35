//! Sheet files into the database: the demo, and what people bring in.

use crate::app::App;
use crate::confined::{self, ConfinedError};
use crate::errors::{BringError, PictureError};
use inky_core::check::check_sheet;
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::sheet::{Photo, PhotoId, PhotoSubject, Sheet, SheetId};
use inky_core::sheet_file::{SheetFile, SheetFileError, SubjectSource};
use inky_core::unpack::{UnpackError, bytes_of, unpack_photo};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use tokio::task::spawn_blocking;

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
        app.store.create_sheet(SheetId::fresh(), &sheet, None).await?;
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
        let beside = move |name: &str| match &folder {
            Some(folder) => std::fs::read(folder.join(name)).map_err(|e| e.to_string()),
            None => Err("bring in a sheet file that was delivered with everything in it".to_owned()),
        };
        let (file, beside) = (Arc::new(file), Arc::new(beside));
        let (own, read) = (Arc::clone(&file), Arc::clone(&beside));
        spawn_blocking(move || own.check_pixels(&*read)).await.map_err(PictureError::from)??;
        let mut sheet = file.sheet.clone();
        // one photo after the other: all of them together may be larger than the memory
        for (old, mut facts) in std::mem::take(&mut sheet.photos) {
            self.check_pictures(&file, &old, &facts, &*beside).await?;
            let (app, own, read, name) = (Arc::clone(self), Arc::clone(&file), Arc::clone(&beside), old.clone());
            let unpacking = spawn_blocking(move || {
                let network = || Ok(app.network()? as Arc<dyn Saliency>);
                let (photo, found) = unpack_photo(&own, (&name, &mut facts), &*read, &network, &Unwatched)?;
                Ok::<_, UnpackError>((facts, photo.bytes, found))
            });
            let (mut facts, bytes, found) = unpacking.await.map_err(PictureError::from)??;
            let id = self.take_photo(&format!("{}.photo", facts.name), bytes).await?.id;
            for (subject, (_, found)) in facts.subjects.iter_mut().zip(found) {
                subject.matte = self.take_subject(&Arc::new(found)).await?;
            }
            sheet.photos.insert(id.clone(), facts);
            sheet.rename_photo(&old, &id);
        }
        for (old, name) in std::mem::take(&mut sheet.fonts) {
            let content = file.fonts.get(&old).ok_or_else(|| SheetFileError::NoFont(name.clone()));
            let bytes = bytes_of(content.map_err(UnpackError::from)?, &*beside)?;
            let id = self.take_font(&name, bytes).await?.id.clone();
            sheet.fonts.insert(id.clone(), name);
            sheet.rename_font(&old, &id);
        }
        for (old, name) in std::mem::take(&mut sheet.drawings) {
            let content = file.drawings.get(&old).ok_or_else(|| SheetFileError::NoDrawing(old.clone()));
            let bytes = bytes_of(content.map_err(UnpackError::from)?, &*beside)?;
            let id = self.take_drawing(&name, bytes).await?.0;
            sheet.drawings.insert(id.clone(), name);
            sheet.rename_drawing(&old, &id);
        }
        check_sheet(&sheet).map_err(SheetFileError::from).map_err(UnpackError::from)?;
        Ok(sheet)
    }

    /// Whether a photo of a file, its mattes and its cut-outs can be decoded.
    async fn check_pictures(
        &self,
        file: &SheetFile,
        id: &PhotoId,
        facts: &Photo,
        beside: &(dyn Fn(&str) -> Result<Vec<u8>, String> + Sync),
    ) -> Result<(), BringError> {
        let ready = |subject: &PhotoSubject| match file.subjects.get(&subject.matte) {
            Some(SubjectSource::Ready { matte, cutout }) => vec![matte, cutout],
            Some(SubjectSource::Find(_)) | None => Vec::new(),
        };
        let all = file.photos.get(id).into_iter().chain(facts.subjects.iter().flat_map(ready));
        for content in all {
            let bytes = bytes_of(content, &beside)?;
            let _turn = self.turn().await;
            match confined::photo(&facts.name, &bytes).await {
                // said once more, and of which picture, when it is unpacked
                Err(ConfinedError::Refused(_)) => {}
                checked => checked?,
            }
        }
        Ok(())
    }
}
