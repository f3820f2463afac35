//! The job that finds a subject.

use super::patiently::patiently;
use super::progress::Progress;
use super::task::Outcome;
use crate::app::App;
use crate::background::in_background;
use crate::budget::Held;
use inky_core::cutout::{Hints, finish_subject, looking};
use inky_core::sheet::PhotoId;
use sha2::{Digest, Sha256};
use std::sync::Arc;

/// Counted up when the method changes, so that old findings are not taken for new ones.
const METHOD: u32 = 7;
/// A photo and what is made of it on the way takes so many times its pixels.
const COPIES: u64 = 4;

pub(super) async fn find(
    app: &Arc<App>,
    photo: &PhotoId,
    hints: Hints,
    progress: Arc<Progress>,
) -> Result<Outcome, String> {
    let asked = serde_json::to_string(&hints).map_err(|e| e.to_string())?;
    let question = &hex::encode(Sha256::digest(format!("{METHOD} {asked}")));
    let known = patiently(|| async move { Ok(app.store.finding(photo, question).await?) }).await?;
    if let Some(subject) = known {
        return Ok(Outcome::Subject { subject });
    }
    let picture = patiently(|| app.full_photo(photo, COPIES)).await?.ok_or("This photo is not here any more.")?;
    let (finder, id) = (Arc::clone(app), photo.clone());
    let found = in_background(move || {
        let Held { value: picture, share: _share } = picture;
        let standout = finder.standout(&id, &picture, &hints, &looking(progress.as_ref()))?;
        finish_subject(&picture, &standout, &hints, progress.as_ref()).map_err(|e| e.to_string())
    });
    let found = &Arc::new(found.await.map_err(|e| e.to_string())??);
    // it took long to find, so it is kept even if the database is away for a while
    let subject = patiently(|| async move {
        let subject = app.take_subject(found).await?;
        app.store.put_finding(photo, question, &subject).await?;
        Ok(subject)
    })
    .await?;
    Ok(Outcome::Subject { subject })
}
