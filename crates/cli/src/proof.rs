//! `inky proof`: what would go wrong with sheets if they were delivered.

use crate::sheet_files;
use anyhow::{Result, bail};
use clap::Args;
use inky_core::proof::{Finding, ProofTerms, Severity, proof};
use rayon::prelude::*;
use serde_json::json;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

/// What scripts are told: something may come out wrong, something would.
const DOUBTFUL: u8 = 3;
const WRONG: u8 = 4;

/// Find what would go wrong with sheets if they were delivered.
///
/// The exit code is 0 where nothing is in doubt or all of it was waved through, 3 where something may come out wrong, 4 where something would, and 1 where a sheet cannot be read.
#[derive(Args)]
#[command(after_help = "Examples:
  inky proof poster.sheet.json
  inky proof demo --distance 2
  inky proof *.sheet.json --json | jq '.[].findings[].sentence'")]
pub struct Proof {
    /// Sheet files (JSON), or folders with files that end in .sheet.json.
    #[arg(required = true)]
    sheets: Vec<PathBuf>,
    /// From how many metres the sheets are looked at; 1.5 diagonals of the sheet where it is left out.
    #[arg(long)]
    distance: Option<f64>,
    /// As JSON: for each sheet its file and what was found.
    #[arg(long)]
    json: bool,
}

impl Proof {
    pub fn run(self) -> Result<ExitCode> {
        if self.distance.is_some_and(|metres| !(0.05..=500.0).contains(&metres)) {
            bail!("the distance is between 0.05 and 500 metres");
        }
        let files = sheet_files::all(&self.sheets)?;
        let found: Vec<(PathBuf, Vec<Finding>)> = files
            .into_par_iter()
            .map(|path| {
                let findings = self.of(&path)?;
                Ok((path, findings))
            })
            .collect::<Result<_>>()?;
        if self.json {
            let all: Vec<_> = found.iter().map(|(path, all)| json!({ "sheet": path, "findings": all })).collect();
            println!("{}", serde_json::to_string_pretty(&all)?);
        } else {
            found.iter().for_each(|(path, all)| say(path, all));
        }
        let worst = found.iter().flat_map(|(_, all)| all).filter(|f| f.waved.is_none()).map(|f| f.severity).min();
        Ok(match worst {
            Some(Severity::Wrong) => ExitCode::from(WRONG),
            Some(Severity::Doubtful) => ExitCode::from(DOUBTFUL),
            Some(Severity::Note) | None => ExitCode::SUCCESS,
        })
    }

    fn of(&self, path: &Path) -> Result<Vec<Finding>> {
        let unpacked = sheet_files::read(path)?;
        let mut terms = ProofTerms::of(&unpacked.sheet);
        if let Some(metres) = self.distance {
            terms.distance = metres * 1000.0;
        }
        Ok(proof(&unpacked.sheet, &terms, &unpacked.library()))
    }
}

fn say(path: &Path, all: &[Finding]) {
    if all.is_empty() {
        println!("{}: nothing", path.display());
        return;
    }
    println!("{}:", path.display());
    for finding in all {
        let severity = match finding.severity {
            Severity::Wrong => "wrong",
            Severity::Doubtful => "doubtful",
            Severity::Note => "note",
        };
        let severity = if finding.waved.is_some() { "waved" } else { severity };
        println!("  {severity:<8}  {}", finding.sentence);
    }
}
