//! Sheet files on the command line.

use anyhow::{Context, Result, bail};
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::sheet::limits::SHEET_FILE_BYTES;
use inky_core::sheet_file::SheetFile;
use inky_core::unpack::{Unpacked, unpack};
use inky_render::sheet_inside;
use inky_saliency::Network;
use inky_server::bundled_fonts;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// What the names of sheet files end in, where a folder is looked through.
pub const ENDING: &str = ".sheet.json";

/// A sheet file, or the one inside of a delivered PDF.
pub fn parsed(bytes: &[u8]) -> Result<SheetFile> {
    if !bytes.starts_with(b"%PDF-") {
        return Ok(SheetFile::read(bytes)?);
    }
    let inside = sheet_inside(bytes, SHEET_FILE_BYTES)?;
    Ok(SheetFile::read(&inside.context("there is no sheet in this PDF")?)?)
}

/// Reads what lies beside a sheet file.
pub fn beside(path: &Path) -> impl Fn(&str) -> Result<Vec<u8>, String> {
    let folder = path.parent().unwrap_or(Path::new(".")).to_owned();
    move |name: &str| std::fs::read(folder.join(name)).map_err(|e| e.to_string())
}

/// A sheet file with what lies beside it.
pub fn unpacked(path: &Path, bytes: &[u8]) -> Result<Unpacked> {
    let file = parsed(bytes)?;
    let beside = beside(path);
    let network = || Ok(Arc::new(Network::load().map_err(|e| e.to_string())?) as Arc<dyn Saliency>);
    Ok(unpack(file, &bundled_fonts()?, &beside, &network, &Unwatched)?)
}

/// The sheet file at a path.
pub fn read(path: &Path) -> Result<Unpacked> {
    let json = std::fs::read(path).with_context(|| format!("{} cannot be read", path.display()))?;
    unpacked(path, &json).with_context(|| path.display().to_string())
}

/// These files, and the sheet files in these folders, each in the order of its names.
pub fn all(paths: &[PathBuf]) -> Result<Vec<PathBuf>> {
    let mut files = Vec::new();
    for path in paths {
        if !path.is_dir() {
            files.push(path.clone());
            continue;
        }
        let entries = std::fs::read_dir(path).with_context(|| format!("{} cannot be read", path.display()))?;
        let mut inside: Vec<PathBuf> = entries.map(|entry| Ok(entry?.path())).collect::<Result<_>>()?;
        inside.retain(|p| p.is_file() && p.to_string_lossy().ends_with(ENDING));
        if inside.is_empty() {
            bail!("{} holds no file that ends in {ENDING}", path.display());
        }
        inside.sort();
        files.extend(inside);
    }
    Ok(files)
}
