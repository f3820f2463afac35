//! `inky sweep`.

use crate::serve::runtime;
use anyhow::Result;
use clap::Args;
use inky_server::Store;

#[derive(Args)]
pub struct Sweep {
    #[arg(long, env = "INKY_DATABASE", hide_env_values = true)]
    database: String,
    /// Only say what would go.
    #[arg(long)]
    dry_run: bool,
}

impl Sweep {
    pub fn run(self) -> Result<()> {
        runtime()?.block_on(async {
            let store = Store::open(&self.database).await?;
            let swept = store.sweep(self.dry_run).await?;
            println!("{}", if self.dry_run { "would go:" } else { "gone:" });
            println!("  sheets that lay in the bin for 30 days     {}", swept.sheets);
            println!("  jobs that ended 30 days ago                {}", swept.jobs);
            println!("  documents of the past, older than a week   {}", swept.revisions);
            println!("  parts of documents                         {} ({} bytes)", swept.parts, swept.part_bytes);
            println!("  photos, mattes, drawings, delivered files  {} ({} bytes)", swept.files, swept.file_bytes);
            store.close().await;
            Ok(())
        })
    }
}
