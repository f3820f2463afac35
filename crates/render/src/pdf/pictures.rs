//! Photos in the PDF: each once.

use crate::RenderError;
use crate::pictures::{Originals, long_side, sized, source_name, toned, uses};
use crate::svg::jpeg_bytes;
use image::RgbaImage;
use inky_core::cutout::Watch;
use inky_core::scene::Scene;
use inky_core::scene::tree::{Source, ToneCurve};
use krilla::image::{BitsPerComponent, CustomImage, Image, ImageColorspace};
use rayon::prelude::*;
use std::collections::{BTreeMap, HashMap};
use std::hash::{Hash, Hasher};
use std::sync::Arc;

/// A picture in the file.
#[derive(Clone)]
pub(super) struct PdfPicture {
    pub colours: Image,
    /// How opaque each pixel is, where not all of them are.
    pub alpha: Option<Image>,
}

/// The pictures of a scene, each at the resolution of its largest use.
pub(super) struct PdfPictures {
    made: HashMap<String, PdfPicture>,
}

fn name(source: &Source, tone: Option<&ToneCurve>) -> String {
    format!("{} {tone:?}", source_name(source))
}

impl PdfPictures {
    /// Makes all pictures of a scene, for `density` pixels a millimetre.
    pub fn of(scene: &Scene, originals: &Originals, density: f64, watch: &dyn Watch) -> Result<Self, RenderError> {
        let mut wanted: BTreeMap<String, (&Source, Option<&ToneCurve>, f64)> = BTreeMap::new();
        for use_ in uses(scene) {
            let source = &use_.picture.source;
            let long = long_side(source, use_.scale, density);
            let entry = wanted.entry(name(source, use_.tone)).or_insert((source, use_.tone, 0.0));
            entry.2 = entry.2.max(long);
        }
        let made = wanted.into_par_iter().map(|(name, (source, tone, long))| {
            watch.go_on()?;
            let mut picture = sized(source, long, originals)?;
            if let Some(tone) = tone {
                toned(Arc::make_mut(&mut picture), tone);
            }
            Ok((name, packed(&picture)?))
        });
        Ok(Self { made: made.collect::<Result<_, RenderError>>()? })
    }

    pub fn get(&self, source: &Source, tone: Option<&ToneCurve>) -> Option<&PdfPicture> {
        self.made.get(&name(source, tone))
    }
}

fn packed(picture: &RgbaImage) -> Result<PdfPicture, RenderError> {
    let opaque = picture.pixels().all(|p| p.0[3] == 255);
    let jpeg = Image::from_jpeg(jpeg_bytes(picture)?.into(), true).map_err(RenderError::Encoding)?;
    let alpha = match opaque {
        true => None,
        false => Some(grey(picture.width(), picture.height(), picture.pixels().map(|p| p.0[3]).collect())?),
    };
    Ok(PdfPicture { colours: jpeg, alpha })
}

/// A picture in grey.
pub(super) fn grey(width: u32, height: u32, shares: Vec<u8>) -> Result<Image, RenderError> {
    Image::from_custom(Grey { width, height, shares: Arc::new(shares) }, true).map_err(RenderError::Encoding)
}

#[derive(Clone)]
struct Grey {
    width: u32,
    height: u32,
    shares: Arc<Vec<u8>>,
}

impl Hash for Grey {
    fn hash<H: Hasher>(&self, state: &mut H) {
        (self.width, self.height, &*self.shares).hash(state);
    }
}

impl CustomImage for Grey {
    fn color_channel(&self) -> &[u8] {
        &self.shares
    }

    fn alpha_channel(&self) -> Option<&[u8]> {
        None
    }

    fn bits_per_component(&self) -> BitsPerComponent {
        BitsPerComponent::Eight
    }

    fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    fn icc_profile(&self) -> Option<&[u8]> {
        None
    }

    fn color_space(&self) -> ImageColorspace {
        ImageColorspace::Luma
    }
}
