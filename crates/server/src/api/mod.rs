//! The HTTP interface. Types in `types`, one file for each kind of thing.

mod accounts;
mod bench;
mod drawings;
mod edits;
mod entry;
mod error;
mod fonts;
mod guard;
mod history;
mod jobs;
mod json_body;
mod made_once;
mod members;
mod news;
mod photos;
mod presses;
mod proof;
mod proposals;
mod sheets;
mod stock;
mod subjects;
mod tab;
pub mod types;
mod unread;
mod upload;
mod who;

use crate::access::Access;
use crate::app::App;
use crate::storage::Role;
use axum::Router;
use axum::extract::{DefaultBodyLimit, State};
use axum::http::StatusCode;
use axum::middleware;
use axum::routing::{delete, get, post};
use std::sync::Arc;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::services::{ServeDir, ServeFile};

/// Bytes of a request that is not a file: a contour of as many nodes as a window may have, or as many places of a brush.
const BODY: usize = 16 << 20;

pub(crate) fn router(app: Arc<App>, access: Arc<Access>) -> Router {
    let files = ServeDir::new(&app.web).fallback(ServeFile::new(app.web.join("index.html")));
    let hall = (Arc::clone(&app), Arc::clone(&access));
    let with = |routes: Router<Arc<App>>, least: Role| {
        routes.route_layer(middleware::from_fn_with_state((Arc::clone(&app), least), who::may))
    };
    let api = entrance(hall.clone())
        .merge(shared())
        .merge(with(to_look_at(), Role::Look))
        .merge(with(to_edit(), Role::Edit))
        .merge(with(to_own(), Role::Own))
        .fallback(async || error::ApiError::NotFound("There is nothing at this address."))
        .layer(DefaultBodyLimit::max(BODY));
    Router::new()
        .nest("/api", api)
        .fallback_service(files)
        .with_state(app)
        .layer(CatchPanicLayer::new())
        .layer(middleware::from_fn_with_state(hall, entry::let_in))
        .layer(middleware::from_fn_with_state(Arc::clone(&access), guard::headers))
        .layer(middleware::from_fn_with_state(access, guard::same_origin))
        .layer(middleware::from_fn(unread::read_to_the_end))
}

/// For whoever wants to be let in.
fn entrance(hall: entry::Hall) -> Router<Arc<App>> {
    Router::new()
        .route("/entry", get(entry::entry))
        .route("/entry/token", post(entry::say_token))
        .route("/entry/sign-in", post(accounts::enter))
        .route("/entry/sign-out", post(accounts::leave))
        .route("/entry/link", post(accounts::link))
        .route("/entry/password", post(accounts::choose))
        .with_state(hall)
}

/// For everybody who is let in: what belongs to no sheet, and what has no address without its contents (photos, drawings and fonts have their hashes
/// as addresses).
fn shared() -> Router<Arc<App>> {
    Router::new()
        .route("/health", get(health))
        .route("/account", get(accounts::own))
        .route("/account/password", post(accounts::change))
        .route("/account/sessions/{id}", delete(accounts::end_session))
        .route("/sheets", get(sheets::list).post(sheets::create))
        .route("/sheets/import", post(sheets::import))
        .route("/sheets/{id}/invitation", post(members::take).delete(members::decline))
        .route("/jobs/{id}", get(jobs::job))
        .route("/jobs/{id}/cancel", post(jobs::cancel))
        .route("/jobs/{id}/file", get(jobs::file))
        .route("/photos", post(photos::upload))
        .route("/photos/{id}/edge", post(photos::edge))
        .route("/photos/{id}/draft", post(subjects::draft))
        .route("/photos/{id}/inks", get(proposals::inks))
        .route("/photos/{id}/levels/{side}", get(photos::level))
        .route("/subjects/{id}/levels/{side}", get(photos::level))
        .route("/photos/{id}/pulled/{side}/{corners}", get(photos::pulled))
        .route("/subjects/{id}/pulled/{side}/{corners}", get(photos::pulled))
        .route("/paper/{grain}/levels/{side}", get(photos::paper))
        .route("/presses", get(presses::list))
        .route("/stock", get(stock::search))
        .route("/stock/{id}/preview", get(stock::preview))
        .route("/stock/{id}/take", post(stock::take))
        .route("/drawings", post(drawings::upload))
        .route("/drawings/{id}", get(drawings::card_of))
        .route("/drawings/{id}/parts/{part}", get(drawings::part))
        .route("/fonts", get(fonts::list).post(fonts::upload))
        .route("/fonts/{id}", get(fonts::file))
}

/// For those who may look at the sheet.
fn to_look_at() -> Router<Arc<App>> {
    Router::new()
        .route("/sheets/{id}", get(sheets::bench))
        .route("/sheets/{id}/copy", post(sheets::copy))
        .route("/sheets/{id}/steps", get(history::steps))
        .route("/sheets/{id}/steps/{seq}", get(history::past))
        .route("/sheets/{id}/changes", get(news::changes))
        .route("/sheets/{id}/news", get(news::news))
        .route("/sheets/{id}/events", get(news::events))
        .route("/sheets/{id}/presence", post(news::select))
        .route("/sheets/{id}/picture", get(sheets::picture))
        .route("/sheets/{id}/pieces/{piece}/cells", get(edits::cells))
        .route("/sheets/{id}/pieces/{piece}/fills/{fill}/placements", get(proposals::placements))
        .route("/sheets/{id}/proof", get(proof::findings))
        .route("/sheets/{id}/jobs", get(jobs::open).post(jobs::add))
        .route("/sheets/{id}/members", get(members::list))
}

/// For those who may change the sheet.
fn to_edit() -> Router<Arc<App>> {
    Router::new()
        .route("/sheets/{id}/edits", post(edits::edit))
        .route("/sheets/{id}/tentative", post(edits::tentative))
        .route("/sheets/{id}/steps/{seq}", post(history::go_back))
        .route("/sheets/{id}/undo", post(edits::undo))
        .route("/sheets/{id}/redo", post(edits::redo))
}

/// For those who own the sheet.
fn to_own() -> Router<Arc<App>> {
    Router::new()
        .route("/sheets/{id}", delete(sheets::remove))
        .route("/sheets/{id}/restore", post(sheets::restore))
        .route("/sheets/{id}/members", post(members::invite))
        .route("/sheets/{id}/members/{account}", delete(members::remove))
}

async fn health(State(app): State<Arc<App>>) -> StatusCode {
    if app.store.answers().await { StatusCode::NO_CONTENT } else { StatusCode::SERVICE_UNAVAILABLE }
}
