//! The HTTP server of Inky Window: storage, jobs and the interface's files.
//!
//! All rules are in `inky-core`; here requests become edits, and edits become rows.

mod addresses;
mod api;
mod app;
mod background;
mod cache;
mod drafts;
mod errors;
mod imports;
mod jobs;
mod pictures;
mod preview;
mod sheet_files;
mod stock;
mod storage;
mod subject_cache;

pub use api::{is_own, types};
pub use app::{App, Config, StartError, bundled_fonts};
pub use errors::{BringError, PictureError};
pub use pictures::gray_png;
pub use sheet_files::load_demo;
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
