//! `cargo run -p inky-e2e --bin editors -- 600`: fifty people at work on ten sheets for so many seconds.

use anyhow::{Context, Result};
use std::time::Duration;

#[tokio::main]
async fn main() -> Result<()> {
    let seconds =
        std::env::args().nth(1).map_or(Ok(600), |a| a.parse().with_context(|| format!("{a} is no number")))?;
    println!("{}", inky_e2e::editors::run(10, 5, Duration::from_secs(seconds)).await?);
    Ok(())
}
