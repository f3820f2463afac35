//! From a sheet file to everything a sheet is drawn from, in memory.

use crate::breakout::WorkingMatte;
use crate::cutout::{CutoutError, Saliency, Subject, Watch, find_subject};
use crate::edit::check_sheet;
use crate::library::Books;
use crate::outline::{DrawingError, DrawnOutline, Face, FontError, Shelf, read_drawing, read_font};
use crate::photo::{PhotoError, decode};
use crate::sheet::{Content, DrawingId, FontId, PhotoId, Sheet, SheetFile, SheetFileError, SubjectId, SubjectSource};
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
    pub shelf: Arc<Shelf>,
}

pub struct UnpackedFont {
    /// The font's file.
    pub bytes: Vec<u8>,
    pub face: Arc<Face>,
}

pub struct UnpackedDrawing {
    /// The drawing's file.
    pub bytes: Vec<u8>,
    pub drawn: Arc<DrawnOutline>,
}

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
    shelf: &Shelf,
    beside: &dyn Fn(&str) -> Result<Vec<u8>, String>,
    network: &dyn Fn() -> Result<Arc<dyn Saliency>, String>,
    watch: &dyn Watch,
) -> Result<Unpacked, UnpackError> {
    let mut sheet = file.sheet;
    let (mut photos, mut subjects) = (BTreeMap::new(), BTreeMap::new());
    for (id, facts) in &mut sheet.photos {
        let content = file.photos.get(id).ok_or_else(|| SheetFileError::NoPhoto(id.clone()))?;
        let bytes = bytes_of(content, beside)?;
        let picture = picture(&bytes, &facts.name)?;
        (facts.width, facts.height) = picture.dimensions();
        if let Some(subject) = &facts.subject {
            let found = match file.subjects.get(subject) {
                None => return Err(SheetFileError::NoSubject(subject.clone()).into()),
                Some(SubjectSource::Find { within }) => {
                    let network = network().map_err(CutoutError::Network)?;
                    find_subject(&picture, *within, network.as_ref(), watch)?
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
            subjects.insert(subject.clone(), Arc::new(found));
        }
        photos.insert(id.clone(), UnpackedPhoto { bytes, picture: Arc::new(picture) });
    }
    let (mut fonts, mut shelf) = (BTreeMap::new(), shelf.clone());
    for (id, name) in &sheet.fonts {
        let content = file.fonts.get(id).ok_or_else(|| SheetFileError::NoFont(name.clone()))?;
        let bytes = bytes_of(content, beside)?;
        let face = Arc::new(read_font(id.clone(), name, &bytes)?);
        shelf.add(face.clone());
        fonts.insert(id.clone(), UnpackedFont { bytes, face });
    }
    let mut drawings = BTreeMap::new();
    for (id, name) in &sheet.drawings {
        let content = file.drawings.get(id).ok_or_else(|| SheetFileError::NoDrawing(id.clone()))?;
        let bytes = bytes_of(content, beside)?;
        let drawn = read_drawing(name, &bytes, &shelf).map_err(|e| UnpackError::Drawing(name.clone(), e))?;
        drawings.insert(id.clone(), UnpackedDrawing { bytes, drawn: Arc::new(drawn) });
    }
    check_sheet(&sheet).map_err(SheetFileError::from)?;
    Ok(Unpacked { sheet, photos, subjects, drawings, fonts, shelf: Arc::new(shelf) })
}

impl Unpacked {
    /// The library that the sheet is drawn with.
    pub fn books(&self) -> Books {
        let mattes = self.subjects.iter().map(|(id, s)| (id.clone(), Arc::new(WorkingMatte::new(&s.matte))));
        let drawings = self.drawings.iter().map(|(id, d)| (id.clone(), d.drawn.clone()));
        let shelf = Arc::clone(&self.shelf);
        Books { shelf, photos: self.sheet.photos.clone(), mattes: mattes.collect(), drawings: drawings.collect() }
    }
}

fn picture(bytes: &[u8], name: &str) -> Result<RgbaImage, UnpackError> {
    decode(bytes).map_err(|e| UnpackError::Photo(name.to_owned(), e))
}

fn bytes_of(content: &Content, beside: &dyn Fn(&str) -> Result<Vec<u8>, String>) -> Result<Vec<u8>, UnpackError> {
    match content {
        Content::File(name) => beside(name).map_err(|e| UnpackError::Beside(name.clone(), e)),
        Content::Data(text) => {
            STANDARD.decode(text).map_err(|_| SheetFileError::Unreadable("a photo in it is not whole".into()).into())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cutout::Unwatched;
    use crate::grid::Grid;
    use crate::sheet::{Photo, Unit};
    use image::{GrayImage, Luma, Rgba};
    use std::io::Cursor;

    /// A network that looks only at brightness.
    struct Brightness;

    impl Saliency for Brightness {
        fn saliency(&self, picture: &RgbaImage) -> Result<Grid<f32>, String> {
            let data = picture.pixels().map(|p| f32::from(p.0[0]) / 255.0).collect();
            Ok(Grid { width: picture.width() as usize, height: picture.height() as usize, data })
        }
    }

    /// A bright disc before a dark ground.
    fn disc() -> RgbaImage {
        RgbaImage::from_fn(240, 180, |x, y| {
            let far = (f64::from(x) - 120.0).hypot(f64::from(y) - 90.0);
            let grain = ((x * 7 + y * 13) % 11) as u8;
            if far < 50.0 { Rgba([235 + grain, 210, 60 + grain, 255]) } else { Rgba([20 + grain, 30, 70 + grain, 255]) }
        })
    }

    fn png(picture: impl Into<DynamicImage>) -> Vec<u8> {
        let mut out = Cursor::new(Vec::new());
        picture.into().write_to(&mut out, image::ImageFormat::Png).unwrap();
        out.into_inner()
    }

    fn data(bytes: &[u8]) -> Content {
        Content::Data(STANDARD.encode(bytes))
    }

    /// A sheet with one photo beside its file, whose size the file does not know, and one subject.
    fn file(subject: SubjectSource) -> SheetFile {
        let mut sheet = Sheet::new("Fair", 100.0, 80.0, Unit::Mm, 100.0);
        let facts = Photo { name: "disc".into(), width: 1, height: 1, subject: Some("it".into()) };
        sheet.photos.insert("disc".into(), facts);
        let mut file = SheetFile::new(sheet);
        file.photos.insert("disc".into(), Content::File("disc.png".into()));
        file.subjects.insert("it".into(), subject);
        file
    }

    fn open(file: SheetFile) -> Result<Unpacked, UnpackError> {
        let beside =
            |name: &str| if name == "disc.png" { Ok(png(disc())) } else { Err("there is no such file".into()) };
        unpack(file, &Shelf::default(), &beside, &|| Ok(Arc::new(Brightness)), &Unwatched)
    }

    #[test]
    fn a_subject_is_found_when_the_file_asks_for_it() {
        let unpacked = open(file(SubjectSource::Find { within: None })).unwrap();
        let facts = &unpacked.sheet.photos[&PhotoId::from("disc")];
        assert_eq!((facts.width, facts.height), (240, 180));
        let matte = &unpacked.subjects[&SubjectId::from("it")].matte;
        assert!(matte.get_pixel(120, 90).0[0] > 250 && matte.get_pixel(10, 10).0[0] < 5);
        let books = unpacked.books();
        assert_eq!((books.photos.len(), books.mattes.len()), (1, 1));
    }

    #[test]
    fn a_ready_subject_is_taken_as_it_is() {
        let matte = GrayImage::from_fn(240, 180, |x, _| Luma([if x < 100 { 255 } else { 40 }]));
        let ready = SubjectSource::Ready { matte: data(&png(matte.clone())), cutout: data(&png(disc())) };
        let unpacked = open(file(ready)).unwrap();
        assert_eq!(unpacked.subjects[&SubjectId::from("it")].matte, matte);
        assert_eq!(unpacked.subjects[&SubjectId::from("it")].cutout, disc());
    }

    #[test]
    fn what_does_not_fit_is_said() {
        let small = data(&png(GrayImage::new(12, 9)));
        let wrong_size = SubjectSource::Ready { matte: small.clone(), cutout: small.clone() };
        assert!(matches!(open(file(wrong_size)), Err(UnpackError::Photo(_, PhotoError::Damaged))));
        let damaged = SubjectSource::Ready { matte: Content::Data("no base64!".into()), cutout: small };
        assert!(matches!(open(file(damaged)), Err(UnpackError::File(SheetFileError::Unreadable(_)))));
        let mut lost = file(SubjectSource::Find { within: None });
        lost.photos.insert("disc".into(), Content::File("other.png".into()));
        let error = open(lost).err().map(|e| e.to_string()).unwrap_or_default();
        assert_eq!(error, "“other.png” beside the sheet file cannot be read: there is no such file.");
        let mut no_photo = file(SubjectSource::Find { within: None });
        no_photo.photos.clear();
        assert!(matches!(open(no_photo), Err(UnpackError::File(SheetFileError::NoPhoto(_)))));
    }
}
