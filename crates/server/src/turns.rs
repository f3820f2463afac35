//! Whose turn it is to change a sheet on this server.
//!
//! Changes of one sheet are computed one after the other: of those that are computed side by side all but one would have to be computed anew, and
//! the slowest of them for ever. Other servers are not waited for; against them, a change is kept only if the sheet is as it was.

use inky_core::sheet::SheetId;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use tokio::sync::OwnedMutexGuard;

/// Queues, by sheet.
#[derive(Default)]
pub(crate) struct Turns(Mutex<HashMap<SheetId, Arc<tokio::sync::Mutex<()>>>>);

impl Turns {
    /// Waits for the turn, which lasts as long as what is given back.
    pub(crate) async fn of(&self, id: SheetId) -> OwnedMutexGuard<()> {
        let queue = {
            let mut queues = self.0.lock().unwrap_or_else(PoisonError::into_inner);
            // those that nobody waits in are forgotten
            queues.retain(|_, queue| Arc::strong_count(queue) > 1);
            Arc::clone(queues.entry(id).or_default())
        };
        queue.lock_owned().await
    }
}
