//! Photos and cut-outs as pictures: taken in, decoded again, and at the sizes in which screens show them.

use crate::api::AWAY;
use crate::app::App;
use crate::aside::aside;
use crate::storage::StoreError;
use base64::{Engine, engine::general_purpose::STANDARD};
use image::{DynamicImage, GrayImage, RgbaImage};
use inky_core::cutout::Subject;
use inky_core::livewire::EdgeMap;
use inky_core::photo::{Perspective, PhotoError, Pull, decode, in_perspective, levels, read_photo, resize};
use inky_core::scene::Pictures;
use inky_core::sheet::{Photo, PhotoId, PhotoSubject, Sheet, SubjectId, limits};
use inky_render::{Originals, encode_rgba};
use std::sync::Arc;

/// Why a picture is not to be had.
#[derive(Debug, thiserror::Error)]
pub enum PictureError {
    #[error(transparent)]
    Photo(#[from] PhotoError),
    #[error(transparent)]
    Store(#[from] StoreError),
    #[error("a computation ended early: {0}")]
    Task(#[from] tokio::task::JoinError),
}

impl PictureError {
    /// One sentence for a person.
    pub fn sentence(&self) -> String {
        match self {
            Self::Photo(e) => e.to_string(),
            Self::Store(StoreError::Database(_)) => AWAY.into(),
            other => {
                tracing::error!(error = %other, "a picture is not to be had");
                "Something went wrong here. Your sheet is as it was.".into()
            }
        }
    }
}

/// Addresses of pictures on this server, at the size that suffices.
pub(crate) struct Addresses;

impl Pictures for Addresses {
    fn photo(&self, id: &PhotoId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String {
        address("photos", &id.0, level(photo, long), pull)
    }

    fn cutout(&self, id: &SubjectId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String {
        address("subjects", &id.0, level(photo, long), pull)
    }

    fn computed(&self, picture: &RgbaImage) -> String {
        let png = encode_rgba(picture, png_speed()).unwrap_or_default();
        format!("data:image/png;base64,{}", STANDARD.encode(png))
    }
}

fn address(kind: &str, id: &str, level: u32, pull: Option<&Pull>) -> String {
    match pull {
        None => format!("/api/{kind}/{id}/levels/{level}"),
        Some(pull) => {
            let shares: Vec<String> = pull.iter().flatten().map(|v| format!("{v:.5}")).collect();
            format!("/api/{kind}/{id}/pulled/{level}/{}", shares.join(","))
        }
    }
}

/// The corners of an address; None where they make no picture.
pub(crate) fn pull_of(text: &str) -> Option<Pull> {
    let shares: Vec<f64> =
        text.split(',').map(|v| v.parse().ok().filter(|v: &f64| v.abs() <= 4.0)).collect::<Option<_>>()?;
    let pull = Pull::try_from(shares.chunks_exact(2).map(|c| [c[0], c[1]]).collect::<Vec<_>>()).ok()?;
    (shares.len() == 8 && Perspective::new(&pull).is_some()).then_some(pull)
}

/// The smallest level that is not visibly coarser than `long` pixels.
fn level(photo: &Photo, long: f64) -> u32 {
    let sides = levels(photo.width, photo.height);
    let enough = sides.iter().rev().find(|&&s| f64::from(s) * 1.05 >= long);
    enough.or(sides.first()).copied().unwrap_or(1)
}

/// A picture for the screen: JPEG where it is opaque, else PNG.
fn for_screen(picture: &RgbaImage) -> Option<(&'static str, Vec<u8>)> {
    if picture.pixels().any(|p| p.0[3] < 255) {
        return Some(("image/png", encode_rgba(picture, png_speed()).ok()?));
    }
    let mut out = Vec::new();
    let rgb = DynamicImage::ImageRgba8(picture.clone()).into_rgb8();
    image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 93).encode_image(&rgb).ok()?;
    Some(("image/jpeg", out))
}

fn png_speed() -> inky_render::Compression {
    inky_render::Compression::Fast
}

/// Every level of a picture: its long side, content type and bytes.
fn all_levels(picture: &RgbaImage) -> Vec<(u32, &'static str, Vec<u8>)> {
    let mut made = Vec::new();
    let mut from = picture.clone();
    for side in levels(picture.width(), picture.height()) {
        let factor = f64::from(side) / f64::from(picture.width().max(picture.height()));
        let at = |v: u32| (f64::from(v) * factor).round().max(1.0) as u32;
        from = resize(&from, at(picture.width()), at(picture.height()));
        if let Some((kind, bytes)) = for_screen(&from) {
            made.push((side, kind, bytes));
        }
    }
    made
}

/// A name after a file: no folders, no ending, no control characters; `else_called` where nothing is left.
pub(crate) fn name_of(file: &str, else_called: &str) -> String {
    let base = file.rsplit(['/', '\\']).next().unwrap_or("");
    let stem = base.rsplit_once('.').map_or(base, |(stem, _)| stem);
    let name: String = stem.chars().filter(|c| !c.is_control()).take(limits::NAME).collect();
    let name = name.trim();
    if name.is_empty() { else_called.into() } else { name.into() }
}

/// A photo that was taken in.
pub(crate) struct Taken {
    pub id: PhotoId,
    pub photo: Photo,
    /// What could not be read of it, in sentences.
    pub notes: Vec<&'static str>,
}

impl App {
    /// Takes in a photo file, with all its levels.
    pub(crate) async fn take_photo(&self, file_name: &str, bytes: Vec<u8>) -> Result<Taken, PictureError> {
        // a permit cannot be refused while the semaphore lives, and without one nothing breaks
        let _permit = self.decoding.acquire().await.ok();
        let (bytes, size, notes, made) = tokio::task::spawn_blocking(move || {
            let read = read_photo(&bytes)?;
            Ok::<_, PhotoError>((bytes, read.picture.dimensions(), read.notes, all_levels(&read.picture)))
        })
        .await??;
        let id = PhotoId(self.store.put_blob(&bytes).await?);
        for (side, kind, bytes) in made {
            self.store.put_level(&id.0, side, kind, &bytes).await?;
        }
        let photo = Photo::new(name_of(file_name, "Photo"), size.0, size.1);
        self.store.put_photo(&id, &photo).await?;
        Ok(Taken { id, photo, notes })
    }

    /// Keeps what was found in a photo, with all levels of the cut-out.
    pub(crate) async fn take_subject(&self, subject: &Arc<Subject>) -> Result<SubjectId, PictureError> {
        let subject = Arc::clone(subject);
        let (matte, cutout, made) = aside(move || {
            let made = all_levels(&subject.cutout);
            let matte = gray_png(&subject.matte);
            (matte, encode_rgba(&subject.cutout, png_speed()).ok(), made)
        })
        .await?;
        let (Some(matte), Some(cutout)) = (matte, cutout) else {
            return Err(PhotoError::Damaged.into());
        };
        let id = self.store.put_subject(&matte, &cutout).await?;
        for (side, kind, bytes) in made {
            self.store.put_level(&id.0, side, kind, &bytes).await?;
        }
        Ok(id)
    }

    /// A level of a picture with its corners pulled: content type and bytes.
    pub(crate) async fn pulled(
        &self,
        source: &str,
        side: u32,
        corners: &str,
    ) -> Result<Option<Arc<(&'static str, Vec<u8>)>>, PictureError> {
        let name = format!("{source}/{side}/{corners}");
        if let Some(known) = self.previews.get(&name) {
            return Ok(Some(known));
        }
        let (Some(pull), Some((_, bytes))) = (pull_of(corners), self.store.level(source, side).await?) else {
            return Ok(None);
        };
        let _permit = self.decoding.acquire().await.ok();
        let made = tokio::task::spawn_blocking(move || {
            let picture = image::load_from_memory(&bytes).ok()?.into_rgba8();
            for_screen(&in_perspective(&picture, &pull, f64::from(side))?)
        })
        .await?;
        Ok(made.map(|made| self.previews.put(&name, made)))
    }

    /// A photo as it came, decoded.
    pub(crate) async fn full_photo(&self, id: &PhotoId) -> Result<Option<RgbaImage>, PictureError> {
        let Some(bytes) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        Ok(Some(tokio::task::spawn_blocking(move || decode(&bytes)).await??))
    }

    /// Where the edges of a photo are.
    pub(crate) async fn edges(&self, id: &PhotoId) -> Result<Option<Arc<EdgeMap>>, PictureError> {
        if let Some(known) = self.edges.get(id) {
            return Ok(Some(known));
        }
        let _permit = self.decoding.acquire().await.ok();
        let Some(photo) = self.full_photo(id).await? else {
            return Ok(None);
        };
        let map = tokio::task::spawn_blocking(move || EdgeMap::new(&photo)).await?;
        Ok(Some(self.edges.put(id, map)))
    }

    pub(crate) async fn full_matte(&self, id: &SubjectId) -> Result<Option<GrayImage>, PictureError> {
        let Some(bytes) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        let image = tokio::task::spawn_blocking(move || decode(&bytes)).await??;
        Ok(Some(DynamicImage::ImageRgba8(image).into_luma8()))
    }

    /// Everything a file of the sheet is drawn from.
    pub(crate) async fn originals(&self, sheet: &Sheet) -> Result<Originals, PictureError> {
        let mut originals = Originals::default();
        for (id, photo) in &sheet.photos {
            if let Some(picture) = self.full_photo(id).await? {
                originals.photos.insert(id.clone(), Arc::new(picture));
            }
            for PhotoSubject { matte: subject, .. } in &photo.subjects {
                let Some(hash) = self.store.cutout_of(subject).await? else {
                    continue;
                };
                let Some(bytes) = self.store.blob(&hash).await? else {
                    continue;
                };
                let picture = tokio::task::spawn_blocking(move || decode(&bytes)).await??;
                originals.cutouts.insert(subject.clone(), Arc::new(picture));
            }
        }
        Ok(originals)
    }
}

/// A grey picture as a PNG file.
pub fn gray_png(picture: &GrayImage) -> Option<Vec<u8>> {
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, image::ImageFormat::Png).ok()?;
    Some(out.into_inner())
}
