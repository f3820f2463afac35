//! The sheet that edits are tried on, and all that they may refer to.

use crate::random::matte;
use inky_core::edit::{Edit, apply};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection, read_drawing};
use inky_core::sheet::{BasicShape, Figure, FillId, Form, FormId, FormShape, Photo, PieceId, Pose, Sheet, Unit};
use std::sync::Arc;

/// Three fonts, two photos, a drawing and a subject.
pub fn library() -> LoadedLibrary {
    let mut fonts = FontCollection::default();
    for f in &inky_fonts::FACES[..3] {
        fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    }
    let photo = |width, height| Photo::new("a <photo> & more", width, height);
    let photos = [("wide".into(), photo(600, 400)), ("tall".into(), photo(200, 500))].into();
    let drawn = read_drawing("a <kite>", include_bytes!("kite.svg"), &fonts).unwrap();
    let drawings = [("kite".into(), Arc::new(drawn))].into();
    let mattes = [("arms".into(), Arc::new(matte(600, 400)))].into();
    LoadedLibrary { fonts: Arc::new(fonts), photos, mattes, drawings, ..LoadedLibrary::default() }
}

/// A sheet with two windows, so that most edits have something to change.
pub fn start(library: &LoadedLibrary) -> Sheet {
    let mut sheet = Sheet::new("Fair", 297.0, 210.0, Unit::Mm, 150.0);
    for n in 1..=2_u128 {
        let shape = BasicShape { width: 80.0, height: 60.0, figure: Figure::Ellipse };
        let form = Form::new(FormId(uuid::Uuid::from_u128(n)), Pose::at(100.0, 90.0), FormShape::Basic(shape));
        let (piece, fill) = (PieceId(uuid::Uuid::from_u128(n)), FillId(uuid::Uuid::from_u128(n)));
        sheet = apply(&sheet, &Edit::AddWindow { piece, form, fill }, library).unwrap();
    }
    sheet
}
