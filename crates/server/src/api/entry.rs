//! Being let in: what every request has to show, and the start token.

use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{EntryView, TokenSaid};
use crate::access::{Access, Caller, Entrance, StartToken, Who, hash_of, is_same_account};
use crate::app::App;
use crate::storage::StoreError;
use axum::Json;
use axum::extract::{ConnectInfo, Request, State};
use axum::http::{HeaderMap, Method, StatusCode, Uri, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Redirect, Response};
use axum_extra::extract::CookieJar;
use axum_extra::extract::cookie::{Cookie, SameSite};
use std::net::{Ipv4Addr, SocketAddr};
use std::sync::Arc;
use time::Duration;

/// For how long a browser keeps what it shows. A session ends earlier, by the server's own clock.
const KEPT: Duration = Duration::days(400);

/// What handlers about the entrance need.
pub(super) type Hall = (Arc<App>, Arc<Access>);

/// Lets requests through whose senders have shown what is asked of them. The pages themselves hold nothing that is anybody's: they are for all.
pub(super) async fn let_in(
    State((app, access)): State<Hall>,
    ConnectInfo(peer): ConnectInfo<SocketAddr>,
    mut request: Request,
    next: Next,
) -> Result<Response, ApiError> {
    let caller = Caller::of(&access, peer, request.headers()).ok_or(ApiError::Foreign)?;
    let path = request.uri().path();
    if !path.starts_with("/api/") {
        return Ok(page(&access, peer, request, next).await);
    }
    let open = path == "/api/health" || path.starts_with("/api/entry");
    match who_asks(&app, &access, request.headers()).await {
        Ok(Some(who)) => {
            request.extensions_mut().insert(who);
        }
        Ok(None) if open => {}
        Ok(None) => return Err(unknown(&access)),
        // whether the database answers is asked without it
        Err(_) if path == "/api/health" => {}
        Err(away) => return Err(away.into()),
    }
    request.extensions_mut().insert(caller);
    Ok(next.run(request).await)
}

fn unknown(access: &Access) -> ApiError {
    ApiError::Unknown(match access.entrance {
        Entrance::StartToken(_) => "This server was started by another account. Its start token lets you in.",
        Entrance::Accounts => "Sign in first.",
    })
}

/// A page, for everybody. Who follows an address with the start token, and the account that started the server, are let in from then on.
async fn page(access: &Access, peer: SocketAddr, request: Request, next: Next) -> Response {
    let token = match &access.entrance {
        Entrance::StartToken(token) if *request.method() == Method::GET && !knows(request.headers(), token, access) => {
            token
        }
        _ => return next.run(request).await,
    };
    if said_in(request.uri()).is_some_and(|said| token.is(said)) {
        let jar = CookieJar::new().add(cookie(access, token.text().to_owned()));
        return (jar, Redirect::to(request.uri().path())).into_response();
    }
    let own = SocketAddr::from((Ipv4Addr::LOCALHOST, access.address.port()));
    if is_same_account(peer, own) {
        let jar = CookieJar::new().add(cookie(access, token.text().to_owned()));
        return (jar, next.run(request).await).into_response();
    }
    next.run(request).await
}

async fn who_asks(app: &App, access: &Access, headers: &HeaderMap) -> Result<Option<Who>, StoreError> {
    match &access.entrance {
        Entrance::StartToken(token) => Ok(knows(headers, token, access).then_some(Who::Starter)),
        Entrance::Accounts => match CookieJar::from_headers(headers).get(&cookie_name(access)) {
            Some(shown) => {
                let found = app.store.session(&hash_of(shown.value())).await?;
                Ok(found.map(|(account, session)| Who::Account(account, session)))
            }
            None => Ok(None),
        },
    }
}

/// What is asked of those who want to be let in.
pub(super) async fn entry(State((_, access)): State<Hall>, who: Option<axum::Extension<Who>>) -> Json<EntryView> {
    let known = who.is_some();
    Json(match access.entrance {
        Entrance::StartToken(_) => EntryView::StartToken { known },
        Entrance::Accounts => EntryView::Accounts { known },
    })
}

/// Takes a start token that somebody typed.
pub(super) async fn say_token(
    State((_, access)): State<Hall>,
    JsonBody(TokenSaid { token: said }): JsonBody<TokenSaid>,
) -> Result<(CookieJar, StatusCode), ApiError> {
    match &access.entrance {
        Entrance::StartToken(token) if token.is(said.trim()) => {
            Ok((CookieJar::new().add(cookie(&access, token.text().to_owned())), StatusCode::NO_CONTENT))
        }
        _ => Err(ApiError::Refused("That is not the start token of this server.".into())),
    }
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

/// Cookies do not tell the ports of a machine apart, so that their names have to. Where all is encrypted, the prefix keeps others from setting it
/// (RFC 6265bis, 4.1.3).
fn cookie_name(access: &Access) -> String {
    if access.address.is_encrypted() { "__Host-inky".into() } else { format!("inky-{}", access.address.port()) }
}

/// What a browser shows from now on. Scripts cannot read it, and other sites cannot have it sent.
pub(super) fn cookie(access: &Access, secret: String) -> Cookie<'static> {
    Cookie::build((cookie_name(access), secret))
        .path("/")
        .http_only(true)
        .secure(access.address.is_encrypted())
        .same_site(SameSite::Strict)
        .max_age(KEPT)
        .build()
}
