//! What every request has to keep to, and what every answer says to the browser.

use super::error::ApiError;
use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderValue, Method, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob: data:; font-src 'self'; \
                      connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

/// Refuses requests that come from other sites, and requests under other names than this machine's own (a foreign name that
/// was made to point here).
pub(super) async fn same_origin(State(port): State<u16>, request: Request, next: Next) -> Response {
    if is_own(request.method(), request.headers(), port) {
        next.run(request).await
    } else {
        ApiError::Foreign.into_response()
    }
}

/// Whether a request comes from the application itself: its own host names, and for changes its own origin.
pub fn is_own(method: &Method, headers: &HeaderMap, port: u16) -> bool {
    let text = |name| headers.get(name).and_then(|v: &HeaderValue| v.to_str().ok());
    let own = ["127.0.0.1", "localhost", "[::1]"].map(|host| format!("{host}:{port}"));
    let Some(host) = text(header::HOST) else {
        return false;
    };
    if !own.iter().any(|o| o == host) {
        return false;
    }
    let reading = matches!(*method, Method::GET | Method::HEAD);
    let from_here = match headers.get("sec-fetch-site").and_then(|v| v.to_str().ok()) {
        None | Some("same-origin" | "none") => true,
        // following a link to the page is fine, reading data from elsewhere is not
        Some(_) => reading && headers.get("sec-fetch-mode").is_some_and(|m| m == "navigate"),
    };
    let origin = text(header::ORIGIN).is_none_or(|o| o == format!("http://{host}"));
    from_here && origin
}

pub(super) async fn headers(request: Request, next: Next) -> Response {
    let mut response = next.run(request).await;
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_SECURITY_POLICY, HeaderValue::from_static(POLICY));
    headers.insert(header::X_CONTENT_TYPE_OPTIONS, HeaderValue::from_static("nosniff"));
    headers.insert(header::REFERRER_POLICY, HeaderValue::from_static("no-referrer"));
    headers.insert("cross-origin-opener-policy", HeaderValue::from_static("same-origin"));
    headers.insert("cross-origin-resource-policy", HeaderValue::from_static("same-origin"));
    response
}
