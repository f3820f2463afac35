//! The `inky` command.

mod account;
mod cutout;
mod export;
mod manual;
mod outline;
mod proof;
mod serve;
mod sheet_files;
mod sweep;

use clap::{CommandFactory, Parser, Subcommand};
use std::process::ExitCode;
use tracing::Level;
use tracing_subscriber::filter::Targets;
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

/// Compound masks from lettering, photos behind them, subjects that break out.
#[derive(Parser)]
#[command(name = "inky", version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application, on 127.0.0.1 if nothing else is said.
    Serve(serve::Serve),
    /// Load the demo sheets that are not loaded yet.
    Demo(serve::Demo),
    /// Say who may sign in, where the server has accounts.
    Account(account::Accounts),
    /// Take away what no sheet refers to any more: old bins, jobs, photos.
    Sweep(sweep::Sweep),
    /// Make files of sheet files or of delivered SVGs, without a server.
    Export(export::Export),
    Proof(proof::Proof),
    /// Compute an opening from a recipe file: prints path, area, bounds and node count as JSON.
    Outline(outline::Outline),
    /// Read a file of a stranger, within limits: the server asks for it.
    #[command(hide = true)]
    Read,
    /// Find the subject of a photo: writes matte.png and cutout.png, prints JSON.
    Cutout(cutout::Cutout),
    Manual(manual::Manual),
    Completions(manual::Completions),
}

fn main() -> ExitCode {
    log();
    let result = match Cli::parse().command {
        Command::Serve(serve) => serve.run(),
        Command::Demo(demo) => demo.run(),
        Command::Account(accounts) => accounts.run(),
        Command::Sweep(sweep) => sweep.run(),
        Command::Export(export) => return told(export.run()),
        Command::Proof(proof) => return told(proof.run()),
        Command::Outline(outline) => outline.run(),
        Command::Cutout(cutout) => cutout.run(),
        Command::Manual(manual) => manual.run(Cli::command()),
        Command::Completions(completions) => completions.run(Cli::command()),
        Command::Read => inky_server::read_confined().map_err(|e| anyhow::anyhow!("{e}")),
    };
    told(result.map(|()| ExitCode::SUCCESS))
}

/// The exit code; what went wrong is said in a line.
fn told(result: anyhow::Result<ExitCode>) -> ExitCode {
    result.unwrap_or_else(|error| {
        eprintln!("inky: {error:#}");
        ExitCode::FAILURE
    })
}

/// Log lines go to the standard error output: warnings of all, and what the server has to say. `RUST_LOG` asks for others, as `debug` or
/// `warn,inky_core=trace`.
fn log() {
    let asked = std::env::var("RUST_LOG").ok().and_then(|levels| levels.parse().ok());
    let shipped = || Targets::new().with_default(Level::WARN).with_target("inky_server", Level::INFO);
    let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
    tracing_subscriber::registry().with(lines).with(asked.unwrap_or_else(shipped)).init();
}
