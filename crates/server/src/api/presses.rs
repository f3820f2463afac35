//! The presses that files can be made for.

use super::types::PressCard;
use axum::Json;
use inky_press::PRESSES;

pub(super) async fn list() -> Json<Vec<PressCard>> {
    Json(PRESSES.iter().map(|press| PressCard { id: press.id.into(), name: press.name.into() }).collect())
}
