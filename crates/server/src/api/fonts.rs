//! The fonts that lettering is set in, also for showing their names in themselves.

use super::error::ApiError;
use super::types::FontCard;
use axum::Json;
use axum::extract::Path;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use inky_fonts::FACES;

pub(super) async fn list() -> Json<Vec<FontCard>> {
    let card = |f: &inky_fonts::Bundled| FontCard { id: f.id.into(), name: f.name.into(), manner: f.manner.into() };
    Json(FACES.iter().map(card).collect())
}

pub(super) async fn file(Path(id): Path<String>) -> Result<Response, ApiError> {
    let font = FACES.iter().find(|f| f.id == id).ok_or(ApiError::NotFound("This font is not here."))?;
    let headers = [(header::CONTENT_TYPE, "font/ttf"), (header::CACHE_CONTROL, "private, max-age=604800")];
    Ok((headers, font.data).into_response())
}
