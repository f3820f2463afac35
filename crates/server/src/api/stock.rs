//! The stock drawer: searched, looked at, taken from.

use super::error::ApiError;
use super::types::StockTaken;
use crate::app::App;
use crate::stock::{StockEntry, StockError, StockKind};
use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_core::outline::read_drawing;
use inky_core::photo::{decode, resize};
use inky_core::scene::{drawing_part, svg};
use inky_core::sheet::Credit;
use serde::Deserialize;
use std::sync::Arc;

/// Long side of a preview in pixels.
const PREVIEW: f64 = 260.0;

#[derive(Deserialize)]
pub(super) struct Search {
    #[serde(default)]
    words: String,
}

impl From<StockError> for ApiError {
    fn from(error: StockError) -> Self {
        if let StockError::Closed(why) = &error {
            tracing::warn!(why, "the stock drawer cannot be read");
        }
        Self::Refused(error.to_string())
    }
}

pub(super) async fn search(
    State(app): State<Arc<App>>,
    Query(asked): Query<Search>,
) -> Result<Json<Vec<StockEntry>>, ApiError> {
    Ok(Json(app.stock.search(&asked.words).await?))
}

/// A small picture of an entry.
pub(super) async fn preview(State(app): State<Arc<App>>, Path(id): Path<String>) -> Result<Response, ApiError> {
    let (kind, bytes) = match app.previews.get(&id) {
        Some(known) => (known.0, known.1.clone()),
        None => {
            // a drawer full of pictures at once would take every processor, while somebody goes on working
            let _turn = app.small_pictures.lock().await;
            let entry = app.stock.entry(&id).await?;
            let file = app.stock.file(&id).await?;
            let made = tokio::task::spawn_blocking(move || picture(entry.kind, &file)).await;
            let made = made.map_err(|e| ApiError::Broken(e.to_string()))?.map_err(ApiError::Refused)?;
            let kept = app.previews.put(&id, made);
            (kept.0, kept.1.clone())
        }
    };
    Ok(([(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, "private, max-age=3600")], bytes).into_response())
}

fn picture(kind: StockKind, file: &[u8]) -> Result<(&'static str, Vec<u8>), String> {
    match kind {
        StockKind::Photo => {
            let photo = decode(file).map_err(|e| e.to_string())?;
            let factor = (PREVIEW / f64::from(photo.width().max(photo.height()))).min(1.0);
            let side = |v: u32| (f64::from(v) * factor).round().max(1.0) as u32;
            let small = resize(&photo, side(photo.width()), side(photo.height()));
            let rgb = image::DynamicImage::ImageRgba8(small).into_rgb8();
            let mut out = Vec::new();
            let encoder = image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 85);
            rgb.write_with_encoder(encoder).map_err(|e| e.to_string())?;
            Ok(("image/jpeg", out))
        }
        // never the file itself: only what was read from it
        StockKind::Drawing => {
            let drawn =
                read_drawing("", file, &inky_core::outline::FontCollection::default()).map_err(|e| e.to_string())?;
            let part = drawing_part(&drawn.picture, 0);
            let svg = part.map(|(fragment, bounds)| svg::picture_document(&fragment, bounds));
            Ok(("image/svg+xml", svg.unwrap_or_default().into_bytes()))
        }
    }
}

/// Takes an entry in as a file that was brought would be, and says whom to credit.
pub(super) async fn take(State(app): State<Arc<App>>, Path(id): Path<String>) -> Result<Json<StockTaken>, ApiError> {
    let entry = app.stock.entry(&id).await?;
    let file = app.stock.file(&id).await?;
    let name = format!("{}.file", entry.title);
    let (mut photo, mut drawing) = (None, None);
    match entry.kind {
        StockKind::Photo => photo = Some(app.take_photo(&name, file).await?.id),
        StockKind::Drawing => drawing = Some(app.take_drawing(&name, file).await?.0),
    }
    let credit = Credit { title: entry.title, maker: entry.maker, licence: entry.licence };
    Ok(Json(StockTaken { photo, drawing, credit }))
}
