//! The HTTP server of Inky Window: storage, jobs and the interface's files.
//!
//! All rules are in `inky-core`; here requests become edits, and edits become rows.

mod api;
mod app;
mod aside;
mod cache;
mod demo;
mod jobs;
mod pictures;
mod stock;
mod storage;
mod studied;
mod vectors;

pub use api::{is_own, types};
pub use app::{App, Config, StartError, bundled_shelf};
pub use demo::load_demo;
pub use pictures::gray_png;
pub use stock::StockEntry;
pub use storage::{Store, StoreError};

use std::net::SocketAddr;
use std::sync::Arc;
use tokio::net::TcpListener;

/// Serves until `stop` resolves; running requests are finished, running jobs given back.
///
/// # Errors
/// Those of the listening socket.
pub async fn serve(
    app: Arc<App>,
    listener: TcpListener,
    stop: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    let address: SocketAddr = listener.local_addr()?;
    let workers = jobs::start_workers(&app);
    let router = api::router(Arc::clone(&app), address.port());
    let served = axum::serve(listener, router).with_graceful_shutdown(stop).await;
    workers.stop().await;
    app.store.close().await;
    served
}
