//! `cargo run -p inky-e2e --bin cluster -- 6`: three tabs at three servers on a Galera cluster of three nodes, of which so many are killed.

use anyhow::{Context, Result};

#[tokio::main]
async fn main() -> Result<()> {
    let kills = std::env::args().nth(1).map_or(Ok(6), |a| a.parse().with_context(|| format!("{a} is no number")))?;
    println!("{kills} nodes killed: {}", inky_e2e::cluster::run(kills).await?);
    Ok(())
}
