//! Three servers on one database, of which one after the other is killed and comes back.

use crate::crew::{Crew, Work};
use crate::{Database, Server};
use anyhow::Result;
use std::time::Duration;

/// How long a killed server stays away.
const AWAY: Duration = Duration::from_secs(3);

/// Kills a server every so often, so many times.
///
/// # Errors
/// An edit that was lost or made twice, servers that differ, a server that does not come back.
pub async fn run(kills: usize, every: Duration) -> Result<Work> {
    let database = Database::start()?;
    let start = |port| Server::start_at(&database, false, port);
    let mut servers = [start(0)?, start(0)?, start(0)?];
    let crew = Crew::begin(&servers.each_ref()).await?;
    for k in 0..kills {
        tokio::time::sleep(every).await;
        if crew.gave_up() {
            break;
        }
        let server = &mut servers[k % 3];
        let port = server.port()?;
        tokio::task::block_in_place(|| {
            server.kill()?;
            std::thread::sleep(AWAY);
            *server = start(port)?;
            Ok::<_, anyhow::Error>(())
        })?;
    }
    crew.end(&servers.each_ref()).await
}
