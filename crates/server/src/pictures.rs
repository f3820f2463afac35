//! Photos and cut-outs as pictures: taken in, decoded again, and at the sizes in which screens show them.

use crate::addresses::pull_of;
use crate::app::App;
use crate::background::in_background;
use crate::budget::Held;
use crate::confined;
use crate::errors::{BringError, PictureError};
use crate::preview::{Preview, for_screen};
use futures_util::future::try_join_all;
use image::{DynamicImage, GrayImage, RgbaImage};
use inky_core::cutout::Subject;
use inky_core::livewire::EdgeMap;
use inky_core::photo::{Perspective, PhotoError, decode, in_perspective, levels, photo_pixels, read_photo, resize};
use inky_core::scene::{Scene, paper_picture};
use inky_core::sheet::{MM_PER_INCH, Photo, PhotoId, SubjectId, limits};
use inky_render::{Compression, Needed, Originals, encode_rgba};
use std::sync::Arc;

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

/// Side of a level with as many pixels as a photo may have.
const LARGEST_LEVEL: f64 = 10_000.0;
/// Pixels of a pulled picture: more than any screen shows.
const MOST_PULLED: f64 = 25e6;

impl App {
    /// Takes in a photo file, with all its levels.
    pub(crate) async fn take_photo(&self, file_name: &str, bytes: Vec<u8>) -> Result<Taken, BringError> {
        {
            let _turn = self.turn().await;
            confined::photo(&name_of(file_name, "Photo"), &bytes).await?;
        }
        // decoded, in sRGB, and on its way to smaller sizes
        let _share = self.memory.pixels(photo_pixels(&bytes).unwrap_or(0).min(limits::PHOTO_PIXELS), 4).await;
        let reading = self.in_turn(move || {
            let read = read_photo(&bytes)?;
            Ok::<_, PhotoError>((bytes, read.picture.dimensions(), read.notes, all_levels(&read.picture)))
        });
        let (bytes, size, notes, made) = reading.await.map_err(PictureError::from)?.map_err(PictureError::from)?;
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
        let (matte, cutout, made) = in_background(move || {
            let made = all_levels(&subject.cutout);
            let matte = gray_png(&subject.matte);
            (matte, encode_rgba(&subject.cutout, Compression::Fast).ok(), made)
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

    /// A level of a picture with its corners pulled.
    pub(crate) async fn pulled(
        &self,
        source: &str,
        side: u32,
        corners: &str,
    ) -> Result<Option<Arc<Preview>>, PictureError> {
        let name = format!("{source}/{side}/{corners}");
        if let Some(known) = self.previews.get(&name) {
            return Ok(Some(known));
        }
        let (Some(pull), Some((_, bytes))) = (pull_of(corners), self.store.level(source, side).await?) else {
            return Ok(None);
        };
        let Some(map) = Perspective::new(&pull) else {
            return Ok(None);
        };
        // corners that are pulled far out make a large picture of a small one
        let [x0, y0, x1, y1] = map.bounds();
        let long = f64::from(side).min((MOST_PULLED / ((x1 - x0) * (y1 - y0))).sqrt());
        let making = self.in_turn(move || {
            let picture = image::load_from_memory(&bytes).ok()?.into_rgba8();
            for_screen(&in_perspective(&picture, &pull, long)?)
        });
        let made = making.await?;
        Ok(made.map(|made| self.previews.put(&name, made)))
    }

    /// The grain of paper, `side` pixels wide and high.
    pub(crate) async fn paper(&self, grain: f64, side: u32) -> Result<Option<Arc<Preview>>, PictureError> {
        if !(0.0..=1.0).contains(&grain) {
            return Ok(None);
        }
        let name = format!("paper/{grain}/{side}");
        if let Some(known) = self.previews.get(&name) {
            return Ok(Some(known));
        }
        let made = tokio::task::spawn_blocking(move || for_screen(&paper_picture(grain, side))).await?;
        Ok(made.map(|made| self.previews.put(&name, made)))
    }

    /// A photo as it came, decoded, with room for so many `copies` of it, itself included.
    pub(crate) async fn full_photo(&self, id: &PhotoId, copies: u64) -> Result<Option<Held<RgbaImage>>, PictureError> {
        let Some(bytes) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        let share = self.memory.pixels(photo_pixels(&bytes).unwrap_or(0), copies).await;
        let value = tokio::task::spawn_blocking(move || decode(&bytes)).await??;
        Ok(Some(Held { value, share }))
    }

    /// Pixels of a kept picture, read from its header.
    async fn pixels_of(&self, hash: &str) -> Result<u64, PictureError> {
        let bytes = self.store.blob(hash).await?;
        Ok(bytes.and_then(|bytes| photo_pixels(&bytes)).unwrap_or(0))
    }

    /// A kept picture, decoded.
    async fn decoded(&self, hash: &str) -> Result<Option<Arc<RgbaImage>>, PictureError> {
        let Some(bytes) = self.store.blob(hash).await? else {
            return Ok(None);
        };
        Ok(Some(Arc::new(tokio::task::spawn_blocking(move || decode(&bytes)).await??)))
    }

    /// Where the edges of a photo are.
    pub(crate) async fn edges(&self, id: &PhotoId) -> Result<Option<Arc<EdgeMap>>, PictureError> {
        if let Some(known) = self.edges.get(id) {
            return Ok(Some(known));
        }
        let Some(bytes) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        let map = self.in_turn(move || Ok::<_, PhotoError>(EdgeMap::new(&decode(&bytes)?))).await??;
        Ok(Some(self.edges.put(id, map)))
    }

    pub(crate) async fn full_matte(&self, id: &SubjectId) -> Result<Option<GrayImage>, PictureError> {
        let Some(bytes) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        let image = tokio::task::spawn_blocking(move || decode(&bytes)).await??;
        Ok(Some(DynamicImage::ImageRgba8(image).into_luma8()))
    }

    /// The pictures that a file of the scene is drawn from, as they came; only those that are seen in it.
    pub(crate) async fn originals(&self, scene: &Scene, ppi: f64) -> Result<Held<Originals>, PictureError> {
        let needed = Needed::of(scene, ppi / MM_PER_INCH);
        let mut cutouts = Vec::new();
        for id in needed.cutouts.into_keys() {
            if let Some(hash) = self.store.cutout_of(&id).await? {
                cutouts.push((id, hash));
            }
        }
        let mut pixels = 0;
        for hash in needed.photos.keys().map(|id| &id.0).chain(cutouts.iter().map(|(_, hash)| hash)) {
            pixels += self.pixels_of(hash).await?;
        }
        // each is there once as it came, and once at the sizes at which it is drawn
        let share = self.memory.pixels(pixels, 2).await;
        let mut value = Originals::default();
        for id in needed.photos.into_keys() {
            if let Some(picture) = self.decoded(&id.0).await? {
                value.photos.insert(id, picture);
            }
        }
        for (id, hash) in cutouts {
            if let Some(picture) = self.decoded(&hash).await? {
                value.cutouts.insert(id, picture);
            }
        }
        Ok(Held { value, share })
    }

    /// The pictures that a small picture of the scene is drawn from: the least of the kept levels that are large enough.
    pub(crate) async fn level_originals(&self, scene: &Scene, density: f64) -> Result<Held<Originals>, PictureError> {
        let needed = Needed::of(scene, density);
        let sides = needed.photos.values().chain(needed.cutouts.values());
        let pixels = sides.map(|long| long.ceil().clamp(1.0, LARGEST_LEVEL).powi(2) as u64).sum();
        // a level may be twice as long as what is asked for
        let share = self.memory.pixels(pixels, 4).await;
        let photos = needed.photos.into_iter().map(async |(id, long)| Ok((self.level_for(&id.0, long).await?, id)));
        let cutouts = needed.cutouts.into_iter().map(async |(id, long)| Ok((self.level_for(&id.0, long).await?, id)));
        let (photos, cutouts) =
            tokio::try_join!(try_join_all(photos), try_join_all(cutouts)).map_err(|error: PictureError| error)?;
        let mut value = Originals::default();
        value.photos.extend(photos.into_iter().filter_map(|(picture, id)| Some((id, picture?))));
        value.cutouts.extend(cutouts.into_iter().filter_map(|(picture, id)| Some((id, picture?))));
        Ok(Held { value, share })
    }

    async fn level_for(&self, source: &str, long: f64) -> Result<Option<Arc<RgbaImage>>, PictureError> {
        let Some((_, bytes)) = self.store.level_at_least(source, long.ceil().clamp(1.0, 1e9) as u32).await? else {
            return Ok(None);
        };
        let made = tokio::task::spawn_blocking(move || image::load_from_memory(&bytes).ok()).await?;
        Ok(made.map(|picture| Arc::new(picture.into_rgba8())))
    }
}

/// A grey picture as a PNG file.
pub fn gray_png(picture: &GrayImage) -> Option<Vec<u8>> {
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, image::ImageFormat::Png).ok()?;
    Some(out.into_inner())
}
