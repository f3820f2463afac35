//! `inky manual` and `inky completions`: what clap's own generators make of the command line.

use anyhow::{Context, Result};
use clap::{Args, Command};
use clap_complete::Shell;
use std::path::PathBuf;

/// Write the manual pages (roff), one for each command.
#[derive(Args)]
#[command(after_help = "Example:
  inky manual --into ~/.local/share/man/man1")]
pub struct Manual {
    /// The folder for the pages.
    #[arg(long)]
    into: PathBuf,
}

impl Manual {
    pub fn run(self, command: Command) -> Result<()> {
        let written = || format!("the pages cannot be written to {}", self.into.display());
        std::fs::create_dir_all(&self.into).with_context(written)?;
        clap_mangen::generate_to(command, &self.into).with_context(written)
    }
}

/// Print what lets a shell complete the commands.
#[derive(Args)]
#[command(after_help = "Example:
  inky completions bash > ~/.local/share/bash-completion/completions/inky")]
pub struct Completions {
    shell: Shell,
}

impl Completions {
    pub fn run(self, mut command: Command) -> Result<()> {
        clap_complete::generate(self.shell, &mut command, "inky", &mut std::io::stdout());
        Ok(())
    }
}
