//! What every request has to keep to, and what every answer says to the browser.

use super::error::ApiError;
use crate::access::Access;
use axum::extract::{Request, State};
use axum::http::{HeaderValue, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use std::sync::Arc;

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob: data:; font-src 'self'; \
                      connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

/// Refuses requests that come from other sites, and requests under other names than the server's own.
pub(super) async fn same_origin(State(access): State<Arc<Access>>, request: Request, next: Next) -> Response {
    if access.address.is_own(request.method(), request.uri(), request.headers()) {
        next.run(request).await
    } else {
        ApiError::Foreign.into_response()
    }
}

pub(super) async fn headers(State(access): State<Arc<Access>>, request: Request, next: Next) -> Response {
    let answers_with_data = request.uri().path().starts_with("/api/");
    let mut response = next.run(request).await;
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_SECURITY_POLICY, HeaderValue::from_static(POLICY));
    headers.insert(header::X_CONTENT_TYPE_OPTIONS, HeaderValue::from_static("nosniff"));
    headers.insert(header::REFERRER_POLICY, HeaderValue::from_static("no-referrer"));
    headers.insert("cross-origin-opener-policy", HeaderValue::from_static("same-origin"));
    headers.insert("cross-origin-resource-policy", HeaderValue::from_static("same-origin"));
    // only what has its contents for an address says that it may be kept
    if answers_with_data && !headers.contains_key(header::CACHE_CONTROL) {
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    }
    if access.address.is_encrypted() {
        headers.insert(header::STRICT_TRANSPORT_SECURITY, HeaderValue::from_static("max-age=31536000"));
    }
    response
}
