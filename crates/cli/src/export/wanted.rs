//! How files are wanted, and one of them written.

use super::format::Format;
use crate::sheet_files;
use anyhow::{Context, Result, bail};
use clap::Args;
use inky_core::cutout::Unwatched;
use inky_core::scene::{Scene, scene};
use inky_press::{PRESSES, Press, press};
use inky_render::{
    BandSource, DeliveredSvg, Ground, Originals, Packing, PdfOptions, PdfPage, PdfX4, Plan, has_room, jpeg, pdf, png,
    svg, tiff, webp,
};
use std::io::{BufWriter, Write};
use std::path::{Path, PathBuf};
use tempfile::NamedTempFile;
use time::OffsetDateTime;

/// A sheet with its pictures.
struct Opened {
    name: String,
    scene: Scene,
    originals: Originals,
    /// Pixels per inch.
    ppi: f64,
    /// Millimetres.
    bleed: f64,
}

impl Opened {
    fn page(&self) -> PdfPage<'_> {
        PdfPage { scene: &self.scene, originals: &self.originals, ppi: self.ppi, bleed: self.bleed }
    }
}

fn read(path: &Path) -> Result<Vec<u8>> {
    std::fs::read(path).with_context(|| format!("{} cannot be read", path.display()))
}

fn is_svg(bytes: &[u8]) -> bool {
    bytes.iter().find(|b| !b.is_ascii_whitespace() && b.is_ascii()).is_some_and(|b| *b == b'<')
}

/// Quality of JPEG files, of 100.
const QUALITY: u8 = 94;

#[derive(Args)]
pub struct Wanted {
    /// Pixels per inch; the sheet's own where it is left out.
    #[arg(long)]
    ppi: Option<f64>,
    /// With the sheet's bleed on all sides.
    #[arg(long)]
    bleed: bool,
    /// With marks outside of the bleed, in a PDF: where to cut, how the plates lie on one another, and patches of colour.
    #[arg(long)]
    marks: bool,
    /// For this press, coated, uncoated or newsprint: as a PDF/X-4, or as a TIFF in its inks.
    #[arg(long, value_parser = press_named)]
    press: Option<&'static Press>,
    /// With the live sheet inside, so that the PDF can be worked on again.
    #[arg(long)]
    sheet_inside: bool,
    /// Without the sheet's ground: a PNG, TIFF or WebP is clear where there is no piece.
    #[arg(long)]
    clear: bool,
    /// Without the clear edges.
    #[arg(long, requires = "clear")]
    trimmed: bool,
}

fn press_named(name: &str) -> Result<&'static Press, String> {
    press(name).ok_or_else(|| {
        let known: Vec<&str> = PRESSES.iter().map(|press| press.id).collect();
        format!("the presses are {}", known.join(", "))
    })
}

impl Wanted {
    /// Whether files of this kind can be so.
    pub fn check(&self, format: Format) -> Result<()> {
        if self.ppi.is_some_and(|ppi| !(1.0..=2400.0).contains(&ppi)) {
            bail!("the resolution is between 1 and 2400 ppi");
        }
        if format != Format::Pdf && (self.marks || self.sheet_inside) {
            bail!("marks and a sheet inside are matters of a PDF only");
        }
        if self.press.is_some() && !matches!(format, Format::Pdf | Format::Tiff) {
            bail!("a PDF and a TIFF can be made for a press, and nothing else");
        }
        if (self.clear || self.trimmed) && !format.has_opacity() {
            bail!("a PNG, TIFF or WebP can be clear, and nothing else");
        }
        Ok(())
    }

    /// Writes the file of a sheet, or a PDF of several; how many bytes it has. What could not be finished is not left there.
    pub fn write(&self, sheets: &[PathBuf], format: Format, to: &Path) -> Result<u64> {
        let written = || format!("{} cannot be written", to.display());
        let folder = to.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        let temporary = tempfile::Builder::new().prefix(".inky-").tempfile_in(folder).with_context(written)?;
        let mut out = BufWriter::new(temporary);
        match (format, sheets) {
            (Format::Pdf, _) => self.write_pdf(sheets, &mut out)?,
            (_, [sheet]) => self.write_one(sheet, format, &mut out)?,
            _ => bail!("several sheets go into one PDF only; for anything else take --into FOLDER --as KIND"),
        }
        let finished = out.into_inner().map_err(|e| e.into_error()).with_context(written)?;
        // a temporary file is for nobody else
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            let mode = std::fs::Permissions::from_mode(0o644);
            std::fs::set_permissions(finished.path(), mode).with_context(written)?;
        }
        Ok(finished.persist(to).with_context(written)?.metadata().with_context(written)?.len())
    }

    fn write_one(&self, path: &Path, format: Format, out: &mut BufWriter<NamedTempFile>) -> Result<()> {
        let bytes = read(path)?;
        if is_svg(&bytes) {
            let text = String::from_utf8(bytes).with_context(|| format!("{} is no SVG", path.display()))?;
            if format == Format::Svg || self.clear {
                bail!("an SVG is written as a picture on its ground; for anything else take the sheet file");
            }
            return self.draw(&DeliveredSvg::read(&text)?.plan(self.ppi)?, format, out);
        }
        let Opened { name, scene, originals, ppi, bleed } = self.opened(path, &bytes)?;
        if format == Format::Svg {
            out.write_all(svg(&scene, &name, &originals, bleed, Packing::Small)?.as_bytes())?;
            return Ok(());
        }
        let ground = if self.clear { Ground::Clear } else { Ground::OfTheSheet };
        let plan = Plan::new(scene, originals, ppi, bleed)?.on(ground);
        let plan = if self.trimmed { plan.trimmed(&Unwatched)? } else { plan };
        self.draw(&plan, format, out)
    }

    fn write_pdf(&self, sheets: &[PathBuf], out: &mut BufWriter<NamedTempFile>) -> Result<()> {
        if self.sheet_inside && sheets.len() > 1 {
            bail!("a sheet travels inside of a PDF of its own only");
        }
        let mut opened = Vec::new();
        let mut sheet_file = None;
        for path in sheets {
            let bytes = read(path)?;
            if is_svg(&bytes) {
                bail!("an SVG is written as a picture on its ground; for anything else take the sheet file");
            }
            if self.sheet_inside {
                let whole = sheet_files::parsed(&bytes)?.gathered(&sheet_files::beside(path))?;
                sheet_file = Some(serde_json::to_vec(&whole)?);
            }
            opened.push(self.opened(path, &bytes)?);
        }
        let pages: Vec<PdfPage<'_>> = opened.iter().map(Opened::page).collect();
        let title = opened.first().map(|first| first.name.clone()).unwrap_or_default();
        let x4 = self.press.map(|press| PdfX4 { press, made: OffsetDateTime::now_utc() });
        let options = PdfOptions { marks: self.marks, x4, sheet_file };
        Ok(out.write_all(&pdf(&pages, &title, options, &Unwatched)?)?)
    }

    /// A sheet file as it is to be drawn.
    fn opened(&self, path: &Path, bytes: &[u8]) -> Result<Opened> {
        let unpacked = sheet_files::unpacked(path, bytes)?;
        let library = unpacked.library();
        let mut sheet = unpacked.sheet.clone();
        if let Some(ppi) = self.ppi {
            sheet.ppi = ppi;
            inky_core::check::check_sheet(&sheet)?;
        }
        let scene = scene(&sheet, &library);
        let bleed = if self.bleed { sheet.bleed } else { 0.0 };
        has_room(&scene, sheet.ppi, bleed)?;
        Ok(Opened { scene, originals: Originals::from(unpacked), ppi: sheet.ppi, bleed, name: sheet.name })
    }

    fn draw(&self, source: &dyn BandSource, format: Format, out: &mut BufWriter<NamedTempFile>) -> Result<()> {
        match format {
            Format::Jpeg => jpeg(source, QUALITY, &Unwatched, out)?,
            Format::Tiff => tiff(source, self.press, &Unwatched, out)?,
            Format::Webp => webp(source, &Unwatched, out)?,
            Format::Png | Format::Svg | Format::Pdf => png(source, &Unwatched, out)?,
        }
        Ok(())
    }
}
