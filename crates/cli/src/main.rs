//! The `inky` command.

mod cutout;
mod export;
mod outline;
mod serve;

use clap::{Parser, Subcommand};
use std::process::ExitCode;

/// Compound masks from lettering, photos behind them, subjects that break out.
#[derive(Parser)]
#[command(name = "inky", version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application on 127.0.0.1.
    Serve(serve::Serve),
    /// Load the demo sheets that are not loaded yet.
    Demo(serve::Demo),
    /// Make a file of a sheet file or of a delivered SVG, without a server.
    Export(export::Export),
    /// Compute an opening from a recipe file: prints path, area, bounds and node count as JSON.
    Outline(outline::Outline),
    /// Find the subject of a photo: writes matte.png and cutout.png, prints JSON.
    Cutout(cutout::Cutout),
}

fn main() -> ExitCode {
    tracing_subscriber::fmt()
        .with_env_filter(
            tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "warn,inky_server=info".into()),
        )
        .with_writer(std::io::stderr)
        .init();
    let result = match Cli::parse().command {
        Command::Serve(serve) => serve.run(),
        Command::Demo(demo) => demo.run(),
        Command::Export(export) => export.run(),
        Command::Outline(outline) => outline.run(),
        Command::Cutout(cutout) => cutout.run(),
    };
    match result {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("inky: {error:#}");
            ExitCode::FAILURE
        }
    }
}
