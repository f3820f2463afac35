//! `inky export`: a sheet file or a delivered SVG to PNG, JPEG, SVG or PDF.

use crate::sheet_files;
use anyhow::{Context, Result, bail};
use clap::Args;
use inky_core::cutout::Unwatched;
use inky_core::scene::scene;
use inky_render::{BandSource, DeliveredSvg, Originals, Packing, PdfOptions, Plan, has_room, jpeg, pdf, png, svg};
use std::io::{BufWriter, Write};
use std::path::PathBuf;

#[derive(Args)]
pub struct Export {
    /// A sheet file (JSON) or a delivered SVG.
    sheet: PathBuf,
    /// The file to write; its ending says the format: png, jpg, svg or pdf.
    #[arg(long)]
    to: PathBuf,
    /// Pixels per inch; the sheet's own where it is left out.
    #[arg(long)]
    ppi: Option<f64>,
    /// With the sheet's bleed on all sides.
    #[arg(long)]
    bleed: bool,
    /// With marks outside of the bleed, in a PDF: where to cut, how the plates lie on one another, and patches of colour.
    #[arg(long)]
    marks: bool,
}

/// The formats that can be written.
#[derive(Clone, Copy, PartialEq)]
enum Format {
    Png,
    Jpeg,
    Svg,
    Pdf,
}

impl Export {
    pub fn run(self) -> Result<()> {
        let ending = self.to.extension().map(|e| e.to_string_lossy().to_lowercase());
        let format = match ending.as_deref() {
            Some("png") => Format::Png,
            Some("jpg" | "jpeg") => Format::Jpeg,
            Some("svg") => Format::Svg,
            Some("pdf") => Format::Pdf,
            _ => bail!("the file to write has to end in .png, .jpg, .svg or .pdf"),
        };
        if self.ppi.is_some_and(|ppi| !(1.0..=2400.0).contains(&ppi)) {
            bail!("the resolution is between 1 and 2400 ppi");
        }
        if self.marks && format != Format::Pdf {
            bail!("marks are drawn in a PDF only");
        }
        let name = self.sheet.display();
        let bytes = std::fs::read(&self.sheet).with_context(|| format!("{name} cannot be read"))?;
        let is_svg = bytes.iter().find(|b| !b.is_ascii_whitespace() && b.is_ascii()).is_some_and(|b| *b == b'<');
        let to = self.to.display();
        let written = || format!("{to} cannot be written");
        let mut out = BufWriter::new(std::fs::File::create(&self.to).with_context(written)?);
        if is_svg {
            let text = String::from_utf8(bytes).with_context(|| format!("{name} is no SVG"))?;
            if !matches!(format, Format::Png | Format::Jpeg) {
                bail!("an SVG is written as a PNG or JPEG; for a PDF take the sheet file");
            }
            draw(&DeliveredSvg::read(&text)?.plan(self.ppi)?, format, &mut out)?;
        } else {
            self.write_sheet_file(&bytes, format, &mut out)?;
        }
        out.flush().with_context(written)
    }

    fn write_sheet_file(&self, json: &[u8], format: Format, out: &mut BufWriter<std::fs::File>) -> Result<()> {
        let unpacked = sheet_files::unpacked(&self.sheet, json)?;
        let library = unpacked.library();
        let mut sheet = unpacked.sheet.clone();
        if let Some(ppi) = self.ppi {
            sheet.ppi = ppi;
            inky_core::check::check_sheet(&sheet)?;
        }
        let scene = scene(&sheet, &library);
        let bleed = if self.bleed { sheet.bleed } else { 0.0 };
        has_room(&scene, sheet.ppi, bleed)?;
        let originals = Originals::from(unpacked);
        match format {
            Format::Svg => out.write_all(svg(&scene, &sheet.name, &originals, bleed, Packing::Small)?.as_bytes())?,
            Format::Pdf => {
                let options = PdfOptions { ppi: sheet.ppi, bleed, marks: self.marks };
                out.write_all(&pdf(&scene, &sheet.name, &originals, options, &Unwatched)?)?;
            }
            _ => draw(&Plan::new(scene, originals, sheet.ppi, bleed)?, format, out)?,
        }
        Ok(())
    }
}

fn draw(source: &dyn BandSource, format: Format, out: &mut BufWriter<std::fs::File>) -> Result<()> {
    match format {
        Format::Jpeg => jpeg(source, 94, &Unwatched, out)?,
        Format::Png | Format::Svg | Format::Pdf => png(source, &Unwatched, out)?,
    }
    Ok(())
}
