//! `cargo run -p inky-e2e --bin servers -- 10`: three servers on one database, and so many kills of one of them, one a minute. A second number is
//! the seconds between them.

use anyhow::{Context, Result};
use std::time::Duration;

#[tokio::main]
async fn main() -> Result<()> {
    let mut numbers = std::env::args().skip(1).map(|a| a.parse::<u64>().with_context(|| format!("{a} is no number")));
    let kills = numbers.next().transpose()?.unwrap_or(10);
    let seconds = numbers.next().transpose()?.unwrap_or(60);
    println!("{kills} servers killed: {}", inky_e2e::servers::run(kills as usize, Duration::from_secs(seconds)).await?);
    Ok(())
}
