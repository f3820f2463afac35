//! Sheet files with all that belongs to them.

use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use image::{DynamicImage, RgbaImage};
use image::{GrayImage, Luma, Rgba};
use inky_core::cutout::Hints;
use inky_core::cutout::Saliency;
use inky_core::cutout::{Unwatched, Watch};
use inky_core::grid::Grid;
use inky_core::outline::FontCollection;
use inky_core::photo::PhotoError;
use inky_core::sheet::*;
use inky_core::sheet::{Photo, Unit};
use inky_core::sheet_file::{Content, SheetFile, SheetFileError, SubjectSource};
use inky_core::unpack::*;
use std::io::Cursor;
use std::sync::Arc;

/// A network that looks only at brightness.
struct Brightness;

impl Saliency for Brightness {
    fn saliency(&self, picture: &RgbaImage, _: &dyn Watch) -> Result<Grid<f32>, String> {
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
    let mut facts = Photo::new("disc", 1, 1);
    facts.subjects.push(PhotoSubject { key: 0, name: "Disc".into(), matte: "it".into(), hints: Hints::default() });
    sheet.photos.insert("disc".into(), facts);
    let mut file = SheetFile::new(sheet);
    file.photos.insert("disc".into(), Content::File("disc.png".into()));
    file.subjects.insert("it".into(), subject);
    file
}

fn open(file: SheetFile) -> Result<Unpacked, UnpackError> {
    let beside = |name: &str| if name == "disc.png" { Ok(png(disc())) } else { Err("there is no such file".into()) };
    unpack(file, &FontCollection::default(), &beside, &|| Ok(Arc::new(Brightness)), &Unwatched)
}

#[test]
fn a_subject_is_found_when_the_file_asks_for_it() {
    let unpacked = open(file(SubjectSource::Find(Hints::default()))).unwrap();
    let facts = &unpacked.sheet.photos[&PhotoId::from("disc")];
    assert_eq!((facts.width, facts.height), (240, 180));
    let matte = &unpacked.subjects[&SubjectId::from("it")].matte;
    assert!(matte.get_pixel(120, 90).0[0] > 250 && matte.get_pixel(10, 10).0[0] < 5);
    let library = unpacked.library();
    assert_eq!((library.photos.len(), library.mattes.len()), (1, 1));
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
    let mut lost = file(SubjectSource::Find(Hints::default()));
    lost.photos.insert("disc".into(), Content::File("other.png".into()));
    let error = open(lost).err().map(|e| e.to_string()).unwrap_or_default();
    assert_eq!(error, "“other.png” beside the sheet file cannot be read: there is no such file.");
    let mut no_photo = file(SubjectSource::Find(Hints::default()));
    no_photo.photos.clear();
    assert!(matches!(open(no_photo), Err(UnpackError::File(SheetFileError::NoPhoto(_)))));
}
