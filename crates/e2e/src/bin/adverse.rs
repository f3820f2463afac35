//! `cargo run -p inky-e2e --bin adverse -- slow-disk 30`, or `clock 30` (needs Debian's `libfaketime`): edits while the disk is slow, or the clock
//! jumps; so many seconds for each of five states.

use anyhow::{Context, Result, bail};
use inky_e2e::adverse;
use std::time::Duration;

#[tokio::main]
async fn main() -> Result<()> {
    let mut words = std::env::args().skip(1);
    let what = words.next().unwrap_or_default();
    let seconds = words.next().map_or(Ok(30), |a| a.parse().with_context(|| format!("{a} is no number")))?;
    let long = Duration::from_secs(seconds);
    let work = match what.as_str() {
        "slow-disk" => adverse::slow_disk(long).await?,
        "clock" => adverse::clock(long).await?,
        _ => bail!("say slow-disk or clock"),
    };
    println!("{what}: {work}");
    Ok(())
}
