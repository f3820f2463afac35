//! The HTTP server of Inky Window: storage, jobs and the interface's files.
//!
//! All rules are in `inky-core`; here requests become edits, and edits become rows.

mod access;
mod addresses;
mod api;
mod app;
mod background;
mod budget;
mod bundled;
mod cache;
mod changed;
mod computing;
mod confined;
mod drafts;
mod errors;
mod imports;
mod jobs;
mod listening;
mod pictures;
mod preview;
mod sheet_files;
mod stock;
mod storage;
mod subject_cache;
mod turns;

pub use access::{
    Access, AddressError, Entrance, OwnAddress, PasswordError, StartToken, hash_of, hash_password, random,
};
pub use api::types;
pub use app::{App, Config, StartError};
pub use bundled::bundled_fonts;
pub use confined::{ConfinedError, read_confined};
pub use errors::{BringError, PictureError};
pub use listening::Listening;
pub use pictures::gray_png;
pub use sheet_files::load_demo;
pub use stock::StockEntry;
pub use storage::{Account, AccountLine, Role, Store, StoreError, Swept};

use std::net::SocketAddr;
use std::sync::Arc;
use std::time::Duration;

/// Serves those who are let in until `stop` resolves; running requests are finished, running jobs given back.
///
/// # Errors
/// Those of the listening socket.
pub async fn serve(
    app: Arc<App>,
    access: Access,
    listening: Listening,
    stop: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    let workers = jobs::start_workers(&app);
    let sweeper = tokio::spawn(sweep_now_and_then(app.store.clone()));
    let router = api::router(Arc::clone(&app), Arc::new(access));
    let service = router.into_make_service_with_connect_info::<SocketAddr>();
    let ending = Arc::clone(&app);
    let stop = async move {
        stop.await;
        // those who wait for news would wait for ever
        ending.ends.send_replace(true);
    };
    let mut ended = app.ends.subscribe();
    let late = async {
        // who is still sending then is cut off
        let _ = ended.wait_for(|ends| *ends).await;
        tokio::time::sleep(LAST).await;
    };
    let served = tokio::select! {
        served = listening.serve(service, stop, LAST) => served,
        () = late => Ok(()),
    };
    sweeper.abort();
    let closing = async {
        workers.stop().await;
        app.store.close().await;
    };
    // what is computed still ends with the process
    let _ = tokio::time::timeout(LAST, closing).await;
    served
}

/// How long running requests, and then running jobs, may take once the server is told to end.
const LAST: Duration = Duration::from_secs(4);

/// Takes away what nobody refers to any more: soon after the start, and then once a day.
async fn sweep_now_and_then(store: Store) {
    // once the start is over, also on a server that is started every day
    let mut wait = Duration::from_secs(600);
    loop {
        tokio::time::sleep(wait).await;
        wait = Duration::from_secs(24 * 3600);
        match store.sweep(false).await {
            Ok(swept) => tracing::info!(?swept, "swept"),
            Err(error) => tracing::warn!(%error, "nothing could be swept"),
        }
    }
}
