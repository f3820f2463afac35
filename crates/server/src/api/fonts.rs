//! The fonts that lettering is set in, also for showing their names in themselves.

use super::error::ApiError;
use super::photos::FileName;
use super::types::FontCard;
use super::upload::Upload;
use crate::access::Who;
use crate::app::App;
use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_core::outline::{Face, FontError};
use inky_core::sheet::FontId;
use inky_core::sheet::limits::FONT_BYTES;
use inky_fonts::FACES;
use std::sync::Arc;

pub(super) async fn list(State(app): State<Arc<App>>, who: Who) -> Result<Json<Vec<FontCard>>, ApiError> {
    let mut cards = Vec::new();
    for font in FACES {
        let features = app.fonts.get(&font.id.into()).map(|f| f.features()).unwrap_or_default();
        let (name, manner) = (font.name.into(), font.manner.into());
        cards.push(FontCard { id: font.id.into(), name, manner, own: false, features });
    }
    for (id, _) in app.store.fonts(who.account()).await? {
        cards.extend(app.own_face(&id).await?.map(|face| card(&face)));
    }
    Ok(Json(cards))
}

fn card(face: &Face) -> FontCard {
    let manner = if face.own { "brought in" } else { "" };
    FontCard {
        id: face.id.clone(),
        name: face.name.clone(),
        manner: manner.into(),
        own: face.own,
        features: face.features(),
    }
}

/// Takes in a font file, the request's whole body.
pub(super) async fn upload(
    State(app): State<Arc<App>>,
    who: Who,
    Query(file): Query<FileName>,
    body: Upload<FONT_BYTES>,
) -> Result<Json<FontCard>, ApiError> {
    let font = body.read(&app, || FontError::TooManyBytes(file.name.clone()).to_string()).await?;
    let face = app.take_font(&file.name, font.bytes).await?;
    if let Some(account) = who.account() {
        app.store.offer_font(&face.id, account).await?;
    }
    Ok(Json(card(&face)))
}

pub(super) async fn file(State(app): State<Arc<App>>, Path(id): Path<FontId>) -> Result<Response, ApiError> {
    let headers = [(header::CONTENT_TYPE, "font/ttf"), (header::CACHE_CONTROL, "private, max-age=604800")];
    match FACES.iter().find(|f| f.id == id.0) {
        Some(font) => Ok((headers, font.data).into_response()),
        None => {
            let face = app.own_face(&id).await?.ok_or(ApiError::NotFound("This font is not here."))?;
            Ok((headers, face.data.to_vec()).into_response())
        }
    }
}
