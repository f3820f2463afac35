//! `cargo run -p inky-e2e --bin kills -- 1000`: so many kills in a stream of edits, and what was lost. A second number is the seed.

use anyhow::{Context, Result};

#[tokio::main]
async fn main() -> Result<()> {
    let mut numbers = std::env::args().skip(1).map(|a| a.parse::<u64>().with_context(|| format!("{a} is no number")));
    let kills = numbers.next().transpose()?.unwrap_or(1000);
    let seed = numbers.next().transpose()?.unwrap_or_else(|| fastrand::u64(..));
    println!("{kills} kills, seed {seed}");
    println!("{}", inky_e2e::kills::run(kills as usize, seed).await?);
    Ok(())
}
