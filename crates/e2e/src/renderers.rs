//! The same sheet drawn by two renderers that know nothing of one another: from the scene itself, and from the SVG that is written of it.

use crate::compare::difference;
use anyhow::{Result, ensure};
use image::imageops::blur;
use image::{DynamicImage, RgbImage};
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::library::LoadedLibrary;
use inky_core::scene::scene;
use inky_core::sheet::Sheet;
use inky_core::sheet_file::SheetFile;
use inky_core::unpack::unpack;
use inky_render::{DeliveredSvg, Originals, Packing, Plan, pixels, svg};
use inky_server::bundled_fonts;
use std::path::Path;
use std::sync::Arc;

/// A sheet with everything it is drawn from.
pub struct Loaded {
    pub sheet: Sheet,
    pub library: LoadedLibrary,
    pub originals: Originals,
}

impl Loaded {
    /// Reads a sheet file; files it refers to lie in `folder`. Subjects are found with `network` where the file asks for that.
    pub fn read(json: &[u8], folder: &Path, network: Option<Arc<dyn Saliency>>) -> Result<Self> {
        let beside = |name: &str| std::fs::read(folder.join(name)).map_err(|e| e.to_string());
        let network = || network.clone().ok_or_else(|| "there is no network".to_owned());
        let unpacked = unpack(SheetFile::read(json)?, &bundled_fonts()?, &beside, &network, &Unwatched)?;
        Ok(Self { sheet: unpacked.sheet.clone(), library: unpacked.library(), originals: unpacked.into() })
    }

    /// The sheet at `ppi` pixels per inch: drawn from its scene, and from its SVG.
    pub fn drawn_twice(&self, ppi: f64) -> Result<(RgbImage, RgbImage)> {
        let sheet = Sheet { ppi, ..self.sheet.clone() };
        let scene = scene(&sheet, &self.library);
        let text = svg(&scene, &sheet.name, &self.originals, 0.0, Packing::Exact)?;
        let plan = Plan::new(scene, self.originals.clone(), ppi, 0.0)?;
        let other = DeliveredSvg::read(&text)?.plan(None)?;
        Ok((pixels(&plan, &Unwatched)?, pixels(&other, &Unwatched)?))
    }

    /// Draws the sheet both ways and compares: the mean difference is at most `mean` of 255, and at most 0.5 % of the pixels are off by
    /// more than 24. Both are softened by a pixel before, since edges are shaded differently: the other renderer knows four shades of a level one.
    pub fn renderers_agree(&self, ppi: f64, mean: f64) -> Result<()> {
        let (scene, svg) = self.drawn_twice(ppi)?;
        ensure!(scene.dimensions() == svg.dimensions(), "{:?} and {:?}", scene.dimensions(), svg.dimensions());
        let (scene, svg) = (DynamicImage::from(scene).into_rgba8(), DynamicImage::from(svg).into_rgba8());
        let soft = |picture| blur(picture, 1.0);
        let (found, off) = difference(&soft(&scene), &soft(&svg));
        let said = format!(
            "“{}” drawn twice: mean difference {found:.3} of 255, {:.3}% of pixels off by more than 24",
            self.sheet.name,
            off * 100.0
        );
        println!("{said}");
        if found > mean || off > 0.005 {
            let folder = std::env::temp_dir();
            scene.save(folder.join("inky-scene.png"))?;
            svg.save(folder.join("inky-svg.png"))?;
            std::fs::write(folder.join("inky-sheet.json"), serde_json::to_string(&self.sheet)?)?;
            anyhow::bail!("{said}; both pictures and the sheet are in {}", folder.display());
        }
        Ok(())
    }
}
