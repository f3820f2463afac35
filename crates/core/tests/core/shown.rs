//! A window behind which a drawn subject lies, for tests of what breaks out.

use image::{GrayImage, Luma};
use inky_core::breakout::{Release, WorkingMatte};
use inky_core::edit::{Edit, apply};
use inky_core::handles::{OverhangView, PieceHandles};
use inky_core::library::LoadedLibrary;
use inky_core::scene::scene;
use inky_core::sheet::*;
use std::sync::Arc;

/// A sheet of 400 mm x 300 mm with a window of one shape, filled with a photo of which a pixel is a millimetre.
pub struct Shown {
    pub library: LoadedLibrary,
    pub sheet: Sheet,
    pub piece: PieceId,
}

impl Shown {
    pub fn new(form: Form, subject: impl Fn(f32, f32) -> bool) -> Self {
        let matte = GrayImage::from_fn(400, 300, |x, y| Luma([if subject(x as f32, y as f32) { 255 } else { 0 }]));
        let library = LoadedLibrary {
            photos: [("photo".into(), Photo::new("photo", 400, 300))].into(),
            mattes: [("matte".into(), Arc::new(WorkingMatte::new(&matte)))].into(),
            ..LoadedLibrary::default()
        };
        let (piece, fill) = (PieceId::fresh(), FillId::fresh());
        let placement =
            Placement { x: 200.0, y: 150.0, scale: 1.0, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
        let mut shown = Self { library, sheet: Sheet::new("Fair", 400.0, 300.0, Unit::Mm, 150.0), piece };
        shown.edit(Edit::AddWindow { piece, form, fill: FillId::fresh() });
        shown.edit(Edit::FillWithPhoto { piece, fill, photo: "photo".into() });
        shown.edit(Edit::SetPlacement { piece, fill, placement });
        shown.edit(Edit::found("photo".into(), "matte".into()));
        shown
    }

    pub fn edit(&mut self, edit: Edit) {
        self.sheet = apply(&self.sheet, &edit, &self.library).unwrap();
    }

    pub fn handles(&self) -> PieceHandles {
        let scene = scene(&self.sheet, &self.library);
        PieceHandles::of(&self.sheet, &self.sheet.pieces[0], &scene.pieces[0], &self.library)
    }

    pub fn overhangs(&self) -> Vec<OverhangView> {
        self.handles().overhangs
    }

    pub fn let_out(&mut self, overhang: &OverhangView) {
        self.edit(Edit::LetOut { piece: self.piece, anchor: overhang.anchor });
    }

    pub fn release(&self) -> Release {
        scene(&self.sheet, &self.library).pieces[0].breakout.clone().unwrap().releases.remove(0)
    }

    /// A rim on the edge, of which so much lies to either side.
    pub fn rimmed(&mut self, half: f64) {
        let rim = Rim {
            width: 2.0 * half,
            side: LineSide::Centre,
            paint: Paint::colour("#141b34".parse().unwrap()),
            dashes: Vec::new(),
            round: false,
            over: false,
            off: false,
        };
        self.edit(Edit::SetFinish {
            piece: self.piece,
            finish: Finish { rims: vec![rim].into(), ..Finish::default() },
        });
    }
}

pub fn basic(figure: Figure, x: f64, y: f64, width: f64, height: f64) -> Form {
    Form::new(FormId::fresh(), Pose::at(x, y), FormShape::Basic(BasicShape { width, height, figure }))
}

pub fn square() -> Form {
    basic(Figure::Box { corners: [0.0; 4] }, 140.0, 150.0, 200.0, 200.0)
}
