//! Drafts of subjects: what every stroke is answered with.

use crate::app::App;
use crate::budget::Held;
use crate::errors::PictureError;
use crate::subject_cache::standout_key;
use image::RgbaImage;
use inky_core::cutout::{Draft, Hints, Standout, Unwatched, Watch, WorkingPhoto, draft};
use inky_core::sheet::PhotoId;
use std::sync::Arc;

/// A photo with what is made of it: its working size, and what the network sees.
const COPIES: u64 = 2;

impl App {
    /// What stands out in a photo, where the hints ask for it.
    ///
    /// # Errors
    /// A sentence.
    pub(crate) fn standout(
        &self,
        id: &PhotoId,
        photo: &RgbaImage,
        hints: &Hints,
        watch: &dyn Watch,
    ) -> Result<Arc<Standout>, String> {
        if !hints.looks() {
            return Ok(Arc::new(Standout::nothing(photo)));
        }
        let key = standout_key(id, hints);
        if let Some(known) = self.subjects.standouts.get(&key) {
            return Ok(known);
        }
        let network = self.network()?;
        let found = Standout::find(photo, hints.within.as_ref(), network.as_ref(), watch).map_err(|e| e.to_string())?;
        Ok(self.subjects.standouts.put(&key, found))
    }

    /// A subject at its working size, and whether its photo has a transparency of its own. None where the photo is not here.
    pub(crate) async fn draft(
        self: &Arc<Self>,
        id: &PhotoId,
        hints: Hints,
        watch: Arc<dyn Watch + Send>,
    ) -> Result<Option<Result<(Arc<Draft>, bool), String>>, PictureError> {
        let known = self.subjects.known_of(id, &hints);
        let picture = match known {
            Some(_) => None,
            None => match self.full_photo(id, COPIES).await? {
                Some(picture) => Some(picture),
                None => return Ok(None),
            },
        };
        let (app, id) = (Arc::clone(self), id.clone());
        let found = tokio::task::spawn_blocking(move || {
            let (working, standout) = match (known, picture) {
                (Some(known), _) => known,
                (None, Some(Held { value: picture, share: _share })) => {
                    // the next stroke wants it too, even if nobody waits for this one any more
                    let standout = app.standout(&id, &picture, &hints, &Unwatched)?;
                    let working = app.subjects.working.get(&id);
                    let working = working.unwrap_or_else(|| app.subjects.working.put(&id, WorkingPhoto::new(&picture)));
                    (working, Some(standout))
                }
                (None, None) => return Err("This photo is not here any more.".to_owned()),
            };
            let standout = standout.unwrap_or_else(|| Arc::new(Standout::none(&working)));
            let before = app.subjects.drafts.get(&id);
            let found = draft(&working, &standout, &hints, before.as_deref(), watch.as_ref());
            Ok((app.subjects.drafts.put(&id, found.map_err(|e| e.to_string())?), working.has_alpha()))
        });
        Ok(Some(found.await?))
    }
}
