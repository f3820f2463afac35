//! Signing in and out, and one's own account.

use super::entry::{Hall, cookie};
use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{AccountView, LinkSaid, PasswordChange, PasswordChoice, SessionView, SignInRequest};
use crate::access::{Caller, Who, change_password, choose_password, hash_of, sign_in};
use crate::app::App;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::{HeaderName, StatusCode};
use axum::response::{IntoResponse, Response};
use axum_extra::extract::CookieJar;
use std::sync::Arc;
use time::Duration;
use uuid::Uuid;

/// Nobody signs in here.
const NO_ACCOUNTS: ApiError = ApiError::NotFound("This server has no accounts.");

pub(super) async fn enter(
    State((app, access)): State<Hall>,
    caller: Caller,
    JsonBody(SignInRequest { name, password }): JsonBody<SignInRequest>,
) -> Result<Response, ApiError> {
    let secret = sign_in(&app, &name, password, &caller).await?;
    Ok((CookieJar::new().add(cookie(&access, secret)), StatusCode::NO_CONTENT).into_response())
}

/// Whose password a link is for.
pub(super) async fn link(
    State((app, _)): State<Hall>,
    JsonBody(LinkSaid { link }): JsonBody<LinkSaid>,
) -> Result<Json<AccountView>, ApiError> {
    let account = app.store.password_link(&hash_of(&link)).await?;
    let account = account.ok_or_else(|| ApiError::Refused("This link holds no more. Ask for a new one.".into()))?;
    Ok(Json(AccountView { name: account.name, sessions: Vec::new() }))
}

/// Chooses a password with a link, and signs in.
pub(super) async fn choose(
    State((app, access)): State<Hall>,
    caller: Caller,
    JsonBody(PasswordChoice { link, password }): JsonBody<PasswordChoice>,
) -> Result<Response, ApiError> {
    let secret = choose_password(&app, &link, password, &caller).await?;
    Ok((CookieJar::new().add(cookie(&access, secret)), StatusCode::NO_CONTENT).into_response())
}

/// Signs out. The browser forgets what it kept of the sheets.
pub(super) async fn leave(
    State((app, access)): State<Hall>,
    who: Option<axum::Extension<Who>>,
) -> Result<Response, ApiError> {
    if let Some(axum::Extension(Who::Account(account, session))) = who {
        app.store.end_session(account.id, session).await?;
        tracing::info!(account = account.name, "signed out");
    }
    let mut gone = cookie(&access, String::new());
    gone.set_max_age(Duration::ZERO);
    let forget = [(HeaderName::from_static("clear-site-data"), "\"cache\", \"storage\"")];
    Ok((CookieJar::new().add(gone), forget, StatusCode::NO_CONTENT).into_response())
}

/// One's own account, with the browsers that are signed in.
pub(super) async fn own(State(app): State<Arc<App>>, who: Who) -> Result<Json<AccountView>, ApiError> {
    let Who::Account(account, session) = who else { return Err(NO_ACCOUNTS) };
    let sessions = app.store.sessions(account.id).await?.into_iter().map(|line| SessionView {
        id: line.id,
        browser: line.browser,
        address: line.address,
        seen: line.seen.unix_timestamp(),
        this: line.id == session,
    });
    Ok(Json(AccountView { name: account.name, sessions: sessions.collect() }))
}

pub(super) async fn change(
    State(app): State<Arc<App>>,
    who: Who,
    caller: Caller,
    JsonBody(PasswordChange { old, new }): JsonBody<PasswordChange>,
) -> Result<StatusCode, ApiError> {
    let Who::Account(account, session) = who else { return Err(NO_ACCOUNTS) };
    change_password(&app, (&account, session), (old, new), &caller).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Signs another browser out.
pub(super) async fn end_session(
    State(app): State<Arc<App>>,
    who: Who,
    Path(id): Path<Uuid>,
) -> Result<StatusCode, ApiError> {
    let Who::Account(account, _) = who else { return Err(NO_ACCOUNTS) };
    app.store.end_session(account.id, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
