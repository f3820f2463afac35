//! What is left of a request that was refused before all of it had come.
//!
//! A server that closes while somebody sends loses its own answer: the sender meets a broken connection instead
//! (RFC 9112, section 9.6). So the rest is read, and thrown away.

use axum::body::{Body, BodyDataStream, Bytes};
use axum::extract::Request;
use axum::http::Method;
use axum::middleware::Next;
use axum::response::Response;
use futures_util::{Stream, StreamExt, stream};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::time::timeout;

/// How long the rest may take to come.
const LONGEST: Duration = Duration::from_secs(60);

/// Refuses a request only once it has come to its end, or a minute later.
pub(super) async fn read_to_the_end(request: Request, next: Next) -> Response {
    if request.method() == Method::GET {
        return next.run(request).await;
    }
    let (head, body) = request.into_parts();
    // a handler drops what it is given, so it is given a view
    let body = Arc::new(Mutex::new(body.into_data_stream()));
    let response = next.run(Request::from_parts(head, Body::from_stream(unread(Arc::clone(&body))))).await;
    if !response.status().is_success() {
        let mut rest = unread(body);
        let _ = timeout(LONGEST, async { while let Some(Ok(_)) = rest.next().await {} }).await;
    }
    response
}

/// What nobody has read of a body yet.
fn unread(body: Arc<Mutex<BodyDataStream>>) -> impl Stream<Item = Result<Bytes, axum::Error>> + Unpin {
    stream::poll_fn(move |cx| body.lock().unwrap_or_else(PoisonError::into_inner).poll_next_unpin(cx))
}
