//! Subjects at their working size, while a person says what belongs to them.

use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{DoubtView, DraftView, GuessView, SingleView};
use crate::app::App;
use crate::pictures::gray_png;
use axum::Json;
use axum::extract::{Path, State};
use base64::{Engine, engine::general_purpose::STANDARD};
use image::GrayImage;
use inky_core::cutout::{Doubt, Guess, Hints, Single, Watch};
use inky_core::sheet::PhotoId;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Whether the browser still waits for an answer.
#[derive(Default)]
struct Waiting(AtomicBool);

impl Watch for Waiting {
    fn step(&self, _: f32, _: &'static str) {}

    fn is_cancelled(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }
}

/// Ends the computation when the request is dropped: the next stroke is not to wait for an answer that nobody wants.
struct UntilDropped(Arc<Waiting>);

impl Drop for UntilDropped {
    fn drop(&mut self) {
        self.0.0.store(true, Ordering::Relaxed);
    }
}

/// The matte that these hints give, at the working size. Nothing is kept.
pub(super) async fn draft(
    State(app): State<Arc<App>>,
    Path(photo): Path<PhotoId>,
    JsonBody(hints): JsonBody<Hints>,
) -> Result<Json<DraftView>, ApiError> {
    hints.check().map_err(|e| ApiError::Refused(e.to_string()))?;
    let waiting = Arc::new(Waiting::default());
    let _ended = UntilDropped(Arc::clone(&waiting));
    let found = app.draft(&photo, hints, waiting).await?.ok_or(ApiError::NotFound("This photo is not here."))?;
    let (found, alpha) = found.map_err(ApiError::Refused)?;
    let guess = |g: &Guess| Ok(GuessView { start: g.start, mask: data_address(&g.picture())? });
    let others = found.others().iter().map(guess).collect::<Result<_, ApiError>>()?;
    let single = |s: &Single| Ok(SingleView { within: s.within, mask: data_address(&s.picture())? });
    let singles = found.singles.iter().map(single).collect::<Result<_, ApiError>>()?;
    let doubt = |d: &Doubt| DoubtView { at: d.at, width: d.width, missing: d.missing };
    let doubts: Vec<DoubtView> = found.doubts().iter().map(doubt).collect();
    let wash = if doubts.is_empty() { None } else { Some(data_address(&found.wash())?) };
    let wider = found.wider().as_ref().map(data_address).transpose()?;
    Ok(Json(DraftView { matte: data_address(&found.matte())?, others, singles, wider, doubts, wash, alpha }))
}

/// A grey picture as an address that holds it.
fn data_address(picture: &GrayImage) -> Result<String, ApiError> {
    let png = gray_png(picture).ok_or(ApiError::Broken("a matte could not be packed".into()))?;
    Ok(format!("data:image/png;base64,{}", STANDARD.encode(png)))
}
