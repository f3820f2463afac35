//! That something happened to a sheet, for those who wait for it on this server.

use inky_core::sheet::SheetId;
use std::collections::HashMap;
use std::sync::{Mutex, MutexGuard, PoisonError};
use tokio::sync::broadcast::{self, error::RecvError};
use uuid::Uuid;

/// Sheets that something happened to.
pub(crate) struct Changed(broadcast::Sender<SheetId>);

/// One who waits.
pub(crate) struct Waiting(broadcast::Receiver<SheetId>);

impl Default for Changed {
    fn default() -> Self {
        Self(broadcast::channel(256).0)
    }
}

impl Changed {
    pub(crate) fn send(&self, id: SheetId) {
        // nobody may be waiting
        let _ = self.0.send(id);
    }

    pub(crate) fn listen(&self) -> Waiting {
        Waiting(self.0.subscribe())
    }
}

impl Waiting {
    /// Until something happened to a sheet; also if so much happened that nobody knows to which.
    pub(crate) async fn of(&mut self, id: SheetId) {
        loop {
            match self.0.recv().await {
                Ok(other) if other != id => {}
                Ok(_) | Err(RecvError::Lagged(_)) => return,
                Err(RecvError::Closed) => std::future::pending().await,
            }
        }
    }
}

/// How many streams tabs listen to, by sheet and tab: a page that is loaded again listens to a new one before the old one is gone.
#[derive(Default)]
pub(crate) struct Listeners(Mutex<HashMap<(SheetId, Uuid), usize>>);

impl Listeners {
    pub(crate) fn come(&self, id: SheetId, tab: Uuid) {
        *self.counts().entry((id, tab)).or_default() += 1;
    }

    /// Whether nobody of that tab listens any more.
    pub(crate) fn go(&self, id: SheetId, tab: Uuid) -> bool {
        let mut counts = self.counts();
        let left = counts.get(&(id, tab)).map_or(0, |n| n.saturating_sub(1));
        if left == 0 {
            counts.remove(&(id, tab));
        } else {
            counts.insert((id, tab), left);
        }
        left == 0
    }

    fn counts(&self) -> MutexGuard<'_, HashMap<(SheetId, Uuid), usize>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}
