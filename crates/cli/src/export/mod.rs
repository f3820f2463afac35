//! `inky export`: sheet files, PDFs with their sheets inside, and delivered SVGs to pictures, SVG or PDF.

mod format;
mod wanted;

use crate::sheet_files;
use anyhow::{Context, Result, bail};
use clap::{ArgGroup, Args};
use format::Format;
use inky_render::RenderError;
use rayon::prelude::*;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use wanted::Wanted;

#[derive(Args)]
#[command(group(ArgGroup::new("where").required(true).args(["to", "into"])))]
#[command(after_help = "Examples:
  inky export poster.sheet.json --to poster.png --ppi 150
  inky export poster.sheet.json --to poster.pdf --press coated --bleed --marks --sheet-inside
  inky export poster.pdf --to word.png --clear --trimmed
  inky export demo --into files --as pdf --json
  inky export front.sheet.json back.sheet.json --to both.pdf --press uncoated")]
pub struct Export {
    /// Sheet files (JSON), PDFs with their sheets inside, delivered SVGs, or folders with files that end in .sheet.json.
    #[arg(required = true)]
    sheets: Vec<PathBuf>,
    /// The file to write; its ending says the format: png, jpg, tif, webp, svg or pdf. Several sheets become the pages of one PDF.
    #[arg(long)]
    to: Option<PathBuf>,
    /// A folder for the files of several sheets, which are called as these are.
    #[arg(long, requires = "kind")]
    into: Option<PathBuf>,
    /// The kind of the files in that folder.
    #[arg(long = "as", id = "kind", requires = "into")]
    kind: Option<Format>,
    #[command(flatten)]
    wanted: Wanted,
    /// Prints as JSON what was written: for each sheet the file and its bytes, or why there is none.
    #[arg(long)]
    json: bool,
}

/// Sheets, and the file of them: one, or several that become a PDF.
struct Order {
    sheets: Vec<PathBuf>,
    format: Format,
    to: PathBuf,
}

impl Export {
    pub fn run(self) -> Result<ExitCode> {
        let orders = self.orders()?;
        for order in &orders {
            self.wanted.check(order.format)?;
        }
        let write = |order: &Order| self.wanted.write(&order.sheets, order.format, &order.to);
        let mut done: Vec<Result<u64>> = orders.par_iter().map(write).collect();
        // what had no room beside the others may have it alone
        for (order, done) in orders.iter().zip(&mut done) {
            let lacked = |e: &anyhow::Error| matches!(e.downcast_ref(), Some(RenderError::NoRoom { .. }));
            if orders.len() > 1 && done.as_ref().is_err_and(lacked) {
                *done = write(order);
            }
        }
        if self.json {
            let all: Vec<Value> = orders.iter().zip(&done).map(|(order, done)| said(order, done)).collect();
            println!("{}", serde_json::to_string_pretty(&all)?);
        }
        let failed = orders.iter().zip(done).filter_map(|(order, done)| Some((order, done.err()?)));
        let failed: Vec<_> = failed.collect();
        if orders.len() == 1 {
            return failed.into_iter().next().map_or(Ok(ExitCode::SUCCESS), |(_, error)| Err(error));
        }
        for (order, error) in &failed {
            eprintln!("inky: {}: {error:#}", listed(&order.sheets));
        }
        Ok(if failed.is_empty() { ExitCode::SUCCESS } else { ExitCode::FAILURE })
    }

    fn orders(&self) -> Result<Vec<Order>> {
        let sheets = sheet_files::all(&self.sheets)?;
        match (&self.to, &self.into, self.kind) {
            (Some(to), ..) => {
                let Some(format) = Format::of(to) else {
                    bail!("the file to write has to end in .png, .jpg, .tif, .webp, .svg or .pdf");
                };
                Ok(vec![Order { sheets, format, to: to.clone() }])
            }
            (None, Some(folder), Some(format)) => {
                std::fs::create_dir_all(folder).with_context(|| format!("{} cannot be made", folder.display()))?;
                let mut called = BTreeSet::new();
                let order = |sheet: PathBuf| {
                    let to = folder.join(format!("{}.{}", bare_name(&sheet), format.ending()));
                    if !called.insert(to.clone()) {
                        bail!("two sheets would be written to {}", to.display());
                    }
                    Ok(Order { sheets: vec![sheet], format, to })
                };
                sheets.into_iter().map(order).collect()
            }
            _ => bail!("say by --to or --into where to write"),
        }
    }
}

/// What a sheet file is called without its endings.
fn bare_name(path: &Path) -> String {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    match name.strip_suffix(sheet_files::ENDING) {
        Some(bare) => bare.to_owned(),
        None => path.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or(name),
    }
}

fn listed(sheets: &[PathBuf]) -> String {
    sheets.iter().map(|sheet| sheet.display().to_string()).collect::<Vec<_>>().join(", ")
}

fn said(order: &Order, done: &Result<u64>) -> Value {
    match done {
        Ok(bytes) => json!({ "sheet": listed(&order.sheets), "file": order.to, "bytes": bytes }),
        Err(error) => json!({ "sheet": listed(&order.sheets), "error": format!("{error:#}") }),
    }
}
