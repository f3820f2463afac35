//! From a sheet file to everything a sheet is drawn from, in memory.

use crate::breakout::WorkingMatte;
use crate::check::check_sheet;
use crate::cutout::{CutoutError, Saliency, Subject, Watch, find_subject};
use crate::library::LoadedLibrary;
use crate::outline::{
    DrawingError, Face, FontCollection, FontError, ImportedDrawing, check_letters, read_drawing, read_font,
};
use crate::photo::{PhotoError, decode, photo_pixels};
use crate::sheet::{DrawingId, FontId, Photo, PhotoId, PhotoSubject, Sheet, SubjectId};
use crate::sheet_file::{Content, SheetFile, SheetFileError, SubjectSource};
use base64::{Engine, engine::general_purpose::STANDARD};
use image::{DynamicImage, RgbaImage};
use std::collections::BTreeMap;
use std::sync::Arc;

/// A sheet with its pictures, identified as in its file.
pub struct Unpacked {
    pub sheet: Sheet,
    pub photos: BTreeMap<PhotoId, UnpackedPhoto>,
    pub subjects: BTreeMap<SubjectId, Arc<Subject>>,
    pub drawings: BTreeMap<DrawingId, UnpackedDrawing>,
    pub fonts: BTreeMap<FontId, UnpackedFont>,
    /// The application's fonts and those of the file.
    pub all_fonts: Arc<FontCollection>,
}

/// A font of a sheet file.
pub struct UnpackedFont {
    /// The font's file.
    pub bytes: Vec<u8>,
    pub face: Arc<Face>,
}

/// A drawing of a sheet file.
pub struct UnpackedDrawing {
    /// The drawing's file.
    pub bytes: Vec<u8>,
    pub drawn: Arc<ImportedDrawing>,
}

/// A photo of a sheet file.
pub struct UnpackedPhoto {
    /// The photo's file.
    pub bytes: Vec<u8>,
    pub picture: Arc<RgbaImage>,
}

/// Why a sheet file cannot be unpacked.
#[derive(Debug, thiserror::Error)]
pub enum UnpackError {
    #[error(transparent)]
    File(#[from] SheetFileError),
    #[error("A photo of the sheet file, “{0}”: {1}")]
    Photo(String, PhotoError),
    #[error("A drawing of the sheet file, “{0}”: {1}")]
    Drawing(String, DrawingError),
    #[error(transparent)]
    Font(#[from] FontError),
    #[error(transparent)]
    Cutout(#[from] CutoutError),
    #[error("“{0}” beside the sheet file cannot be read: {1}.")]
    Beside(String, String),
}

/// Unpacks a file that was read and checked. `beside` reads a file in its folder.
///
/// Subjects that the file asks to be found are found here, which takes seconds each.
///
/// # Errors
/// Whatever of it is missing or damaged.
pub fn unpack(
    file: SheetFile,
    all_fonts: &FontCollection,
    beside: &dyn Fn(&str) -> Result<Vec<u8>, String>,
    network: &dyn Fn() -> Result<Arc<dyn Saliency>, String>,
    watch: &dyn Watch,
) -> Result<Unpacked, UnpackError> {
    file.check_pixels(beside)?;
    let (mut photos, mut subjects) = (BTreeMap::new(), BTreeMap::new());
    let mut sheet = file.sheet.clone();
    for (id, facts) in &mut sheet.photos {
        let (photo, found) = unpack_photo(&file, (id, facts), beside, network, watch)?;
        subjects.extend(found.into_iter().map(|(id, subject)| (id, Arc::new(subject))));
        photos.insert(id.clone(), photo);
    }
    let (mut fonts, mut all_fonts) = (BTreeMap::new(), all_fonts.clone());
    for (id, name) in &sheet.fonts {
        let content = file.fonts.get(id).ok_or_else(|| SheetFileError::NoFont(name.clone()))?;
        let bytes = bytes_of(content, beside)?;
        let face = Arc::new(read_font(id.clone(), name, &bytes)?);
        check_letters(&face)?;
        all_fonts.add(face.clone());
        fonts.insert(id.clone(), UnpackedFont { bytes, face });
    }
    let mut drawings = BTreeMap::new();
    for (id, name) in &sheet.drawings {
        let content = file.drawings.get(id).ok_or_else(|| SheetFileError::NoDrawing(id.clone()))?;
        let bytes = bytes_of(content, beside)?;
        let drawn = read_drawing(name, &bytes, &all_fonts).map_err(|e| UnpackError::Drawing(name.clone(), e))?;
        drawings.insert(id.clone(), UnpackedDrawing { bytes, drawn: Arc::new(drawn) });
    }
    check_sheet(&sheet).map_err(SheetFileError::from)?;
    sheet.tidy_bundles();
    Ok(Unpacked { sheet, photos, subjects, drawings, fonts, all_fonts: Arc::new(all_fonts) })
}

/// One photo of a file with its subjects; what is known of the photo is brought up to date. The others of the file are not touched, so that a
/// file of many photos can be unpacked without holding all of them.
///
/// # Errors
/// Whatever of it is missing or damaged.
pub fn unpack_photo(
    file: &SheetFile,
    (id, facts): (&PhotoId, &mut Photo),
    beside: &dyn Fn(&str) -> Result<Vec<u8>, String>,
    network: &dyn Fn() -> Result<Arc<dyn Saliency>, String>,
    watch: &dyn Watch,
) -> Result<(UnpackedPhoto, Vec<(SubjectId, Subject)>), UnpackError> {
    let content = file.photos.get(id).ok_or_else(|| SheetFileError::NoPhoto(id.clone()))?;
    let bytes = bytes_of(content, beside)?;
    let picture = picture(&bytes, &facts.name)?;
    (facts.width, facts.height) = picture.dimensions();
    let mut subjects = Vec::new();
    for PhotoSubject { matte: subject, hints, .. } in &mut facts.subjects {
        let found = match file.subjects.get(subject) {
            None => return Err(SheetFileError::NoSubject(subject.clone()).into()),
            Some(SubjectSource::Find(asked)) => {
                let network = network().map_err(CutoutError::Network)?;
                // what it was found by can be gone on with
                hints.clone_from(asked);
                find_subject(&picture, asked, network.as_ref(), watch)?
            }
            Some(SubjectSource::Ready { matte, cutout }) => {
                let matte = self::picture(&bytes_of(matte, beside)?, &facts.name)?;
                let cutout = self::picture(&bytes_of(cutout, beside)?, &facts.name)?;
                if [&matte, &cutout].iter().any(|p| p.dimensions() != picture.dimensions()) {
                    return Err(UnpackError::Photo(facts.name.clone(), PhotoError::Damaged));
                }
                Subject { matte: DynamicImage::ImageRgba8(matte).into_luma8(), cutout }
            }
        };
        subjects.push((subject.clone(), found));
    }
    Ok((UnpackedPhoto { bytes, picture: Arc::new(picture) }, subjects))
}

impl SheetFile {
    /// Whether all pictures of the file together have no more pixels than a file may have; only their headers are read.
    ///
    /// # Errors
    /// Too many of them, or a file that is missing.
    pub fn check_pixels(&self, beside: &dyn Fn(&str) -> Result<Vec<u8>, String>) -> Result<(), UnpackError> {
        let ready = self.subjects.values().flat_map(|subject| match subject {
            SubjectSource::Ready { matte, cutout } => vec![matte, cutout],
            SubjectSource::Find(_) => Vec::new(),
        });
        let mut pixels = 0;
        for content in self.photos.values().chain(ready) {
            // what cannot be read is told when it is decoded
            pixels += photo_pixels(&bytes_of(content, beside)?).unwrap_or(0);
            if pixels > FILE_PIXELS {
                return Err(SheetFileError::TooManyPixels.into());
            }
        }
        Ok(())
    }
}

/// Pixels of all pictures in one sheet file: photos, mattes and cut-outs.
pub const FILE_PIXELS: u64 = 2_000_000_000;

impl Unpacked {
    /// The library that the sheet is drawn with.
    pub fn library(&self) -> LoadedLibrary {
        let mattes = self
            .subjects
            .iter()
            .map(|(id, s)| (id.clone(), Arc::new(WorkingMatte::new(&s.matte).with_colours(&s.cutout))));
        let drawings = self.drawings.iter().map(|(id, d)| (id.clone(), d.drawn.clone()));
        let all_fonts = Arc::clone(&self.all_fonts);
        LoadedLibrary {
            fonts: all_fonts,
            photos: self.sheet.photos.clone(),
            mattes: mattes.collect(),
            drawings: drawings.collect(),
            ..LoadedLibrary::default()
        }
    }
}

fn picture(bytes: &[u8], name: &str) -> Result<RgbaImage, UnpackError> {
    decode(bytes).map_err(|e| UnpackError::Photo(name.to_owned(), e))
}

/// The bytes of something in a sheet file, or beside it.
///
/// # Errors
/// What is not whole, or not there.
pub fn bytes_of(content: &Content, beside: &dyn Fn(&str) -> Result<Vec<u8>, String>) -> Result<Vec<u8>, UnpackError> {
    match content {
        Content::File(name) => beside(name).map_err(|e| UnpackError::Beside(name.clone(), e)),
        Content::Data(text) => {
            STANDARD.decode(text).map_err(|_| SheetFileError::Unreadable("a photo in it is not whole".into()).into())
        }
    }
}
