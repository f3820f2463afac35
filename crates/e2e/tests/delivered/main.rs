//! Delivered files, read by programs that know nothing of this one.

mod pdf;
mod pictures;
mod screen;
mod x4;

use anyhow::{Context, Result, ensure};
use std::path::Path;
use std::process::Command;

/// What a program writes to its output; an error with what it says where it fails.
fn run(program: &str, args: &[&str]) -> Result<String> {
    let out = Command::new(program).args(args).output().with_context(|| format!("{program} cannot be run"))?;
    let (said, complaint) = (String::from_utf8_lossy(&out.stdout), String::from_utf8_lossy(&out.stderr));
    ensure!(out.status.success(), "{program} {args:?}: {complaint} {said}");
    Ok(said.into_owned())
}

/// A path as an argument.
fn text(path: &Path) -> &str {
    path.to_str().unwrap_or_default()
}
