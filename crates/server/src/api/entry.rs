//! Being let in.

use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{EntryView, TokenSaid};
use crate::access::{Access, Entrance, StartToken, is_same_account};
use axum::Json;
use axum::extract::{ConnectInfo, Request, State};
use axum::http::{HeaderMap, Method, StatusCode, Uri, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Redirect, Response};
use axum_extra::extract::CookieJar;
use axum_extra::extract::cookie::{Cookie, SameSite};
use std::net::{Ipv4Addr, SocketAddr};
use std::sync::Arc;

const NO_TOKEN: ApiError =
    ApiError::Unknown("This server was started by another account. Its start token lets you in.");

/// Lets requests through whose senders have shown what is asked of them. The pages themselves hold nothing that is anybody's: they are for all.
pub(super) async fn let_in(
    State(access): State<Arc<Access>>,
    ConnectInfo(peer): ConnectInfo<SocketAddr>,
    request: Request,
    next: Next,
) -> Response {
    let Entrance::StartToken(token) = &access.entrance;
    let known = knows(request.headers(), token, &access);
    let path = request.uri().path();
    if path.starts_with("/api/") {
        let open = path == "/api/health" || path.starts_with("/api/entry");
        return if known || open { next.run(request).await } else { NO_TOKEN.into_response() };
    }
    if known || *request.method() != Method::GET {
        return next.run(request).await;
    }
    // whoever follows an address with the token has it from then on, and not in the address
    if said_in(request.uri()).is_some_and(|said| token.is(said)) {
        let jar = CookieJar::new().add(cookie(&access, token));
        return (jar, Redirect::to(path)).into_response();
    }
    let own = SocketAddr::from((Ipv4Addr::LOCALHOST, access.address.port()));
    if is_same_account(peer, own) {
        let jar = CookieJar::new().add(cookie(&access, token));
        return (jar, next.run(request).await).into_response();
    }
    next.run(request).await
}

/// What is asked of those who want to be let in.
pub(super) async fn entry(State(access): State<Arc<Access>>, headers: HeaderMap) -> Json<EntryView> {
    let Entrance::StartToken(token) = &access.entrance;
    Json(EntryView::StartToken { known: knows(&headers, token, &access) })
}

/// Takes a start token that somebody typed.
pub(super) async fn say_token(
    State(access): State<Arc<Access>>,
    JsonBody(TokenSaid { token: said }): JsonBody<TokenSaid>,
) -> Result<(CookieJar, StatusCode), ApiError> {
    let Entrance::StartToken(token) = &access.entrance;
    if !token.is(said.trim()) {
        return Err(ApiError::Refused("That is not the start token of this server.".into()));
    }
    Ok((CookieJar::new().add(cookie(&access, token)), StatusCode::NO_CONTENT))
}

fn knows(headers: &HeaderMap, token: &StartToken, access: &Access) -> bool {
    let jar = CookieJar::from_headers(headers);
    let bearer = headers.get(header::AUTHORIZATION).and_then(|v| v.to_str().ok()?.strip_prefix("Bearer "));
    jar.get(&cookie_name(access)).map(Cookie::value).or(bearer).is_some_and(|said| token.is(said))
}

/// The token at the end of an address: `?start=TOKEN`.
fn said_in(uri: &Uri) -> Option<&str> {
    uri.query()?.split('&').find_map(|pair| pair.strip_prefix("start="))
}

/// Cookies do not tell the ports of a machine apart, so that their names have to.
fn cookie_name(access: &Access) -> String {
    format!("inky-{}", access.address.port())
}

fn cookie(access: &Access, token: &StartToken) -> Cookie<'static> {
    Cookie::build((cookie_name(access), token.text().to_owned()))
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .permanent()
        .build()
}
