//! Where what breaks out meets the edge: which side it lies at, and where it hides the rims.

use image::{GrayImage, Luma};
use inky_core::breakout::{Release, WorkingMatte};
use inky_core::combine::contains;
use inky_core::edit::{Edit, apply};
use inky_core::handles::{OverhangView, PieceHandles};
use inky_core::library::LoadedLibrary;
use inky_core::scene::scene;
use inky_core::sheet::*;
use kurbo::{BezPath, Point};
use std::sync::Arc;

/// A sheet of 400 mm x 300 mm with a window of one shape, filled with a photo of which a pixel is a millimetre.
struct Shown {
    library: LoadedLibrary,
    sheet: Sheet,
    piece: PieceId,
}

impl Shown {
    fn new(form: Form, subject: impl Fn(f32, f32) -> bool) -> Self {
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

    fn edit(&mut self, edit: Edit) {
        self.sheet = apply(&self.sheet, &edit, &self.library).unwrap();
    }

    fn overhangs(&self) -> Vec<OverhangView> {
        let scene = scene(&self.sheet, &self.library);
        PieceHandles::of(&self.sheet, &self.sheet.pieces[0], &scene.pieces[0], &self.library).overhangs
    }

    fn let_out(&mut self, overhang: &OverhangView) {
        self.edit(Edit::LetOut { piece: self.piece, anchor: overhang.anchor });
    }

    fn release(&self) -> Release {
        scene(&self.sheet, &self.library).pieces[0].breakout.clone().unwrap().releases.remove(0)
    }

    /// A rim on the edge, of which so much lies to either side.
    fn rimmed(&mut self, half: f64) {
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

fn basic(figure: Figure, x: f64, y: f64, width: f64, height: f64) -> Form {
    Form::new(FormId::fresh(), Pose::at(x, y), FormShape::Basic(BasicShape { width, height, figure }))
}

fn square() -> Form {
    basic(Figure::Box { corners: [0.0; 4] }, 140.0, 150.0, 200.0, 200.0)
}

#[test]
fn a_part_lies_where_most_of_it_reaches_to() {
    // its thickest place is within the width of the triangle, most of it beyond
    let triangle = basic(Figure::Triangle { lean: 0.5, rounding: 0.0 }, 100.0, 150.0, 200.0, 300.0);
    let limb = |x: f32, y: f32| (90.0..390.0).contains(&x) && (y - 95.0).abs() < 24.0 - (x - 90.0) / 18.0;
    let shown = Shown::new(triangle, limb);
    let places: Vec<String> = shown.overhangs().iter().map(|o| o.place.clone()).collect();
    assert!(places.contains(&"right".to_owned()), "{places:?}");
    assert!(!places.contains(&"between the edges".to_owned()), "{places:?}");

    // what lies as far within as beyond is between the edges still
    let ring = basic(Figure::Ring { hole: 0.6 }, 200.0, 150.0, 200.0, 200.0);
    let blob = Shown::new(ring, |x, y| {
        (x - 200.0).hypot(y - 150.0) < 30.0 || ((200.0..320.0).contains(&x) && (140.0..160.0).contains(&y))
    });
    let places: Vec<String> = blob.overhangs().iter().map(|o| o.place.clone()).collect();
    assert!(places.contains(&"in a counter".to_owned()) && places.contains(&"right".to_owned()), "{places:?}");
}

#[test]
fn rims_end_straight_across_where_a_part_is_kept_in_beside() {
    // a broad subject beyond the right edge (x = 240), of which a level line keeps the upper half in
    let mut shown = Shown::new(square(), |x, y| (100.0..330.0).contains(&x) && (90.0..220.0).contains(&y));
    shown.rimmed(8.0);
    let all = shown.overhangs();
    assert_eq!(all.len(), 1);
    shown.let_out(&all[0]);
    let reach = ReachLine { from: [0.0, 140.0], to: [400.0, 140.0] };
    shown.edit(Edit::SetReach { piece: shown.piece, reach: Some(reach) });
    let release = shown.release();
    let covers = |path: &BezPath, x: f64, y: f64| contains(path, Point::new(x, y), 0.01);
    assert!(covers(&release.released, 300.0, 142.0) && !covers(&release.released, 300.0, 138.0));
    let over = release.over_rims.expect("there is a rim");
    // both halves of the rim end at the line: the outer one where the part ends, the inner one across from there
    for x in [233.0, 238.0, 244.0, 247.0] {
        assert!(covers(&over, x, 143.0), "hidden at {x}");
        assert!(!covers(&over, x, 138.5), "seen at {x}");
    }
}

#[test]
fn rims_are_hidden_along_the_whole_of_a_limb_that_leans() {
    // a limb that climbs to the right at 45 degrees: within the edge its outline goes on the same way
    let limb = |x: f32, y: f32| (x + y - 390.0).abs() < 40.0 && (160.0..330.0).contains(&x);
    let mut shown = Shown::new(square(), limb);
    shown.rimmed(6.0);
    for overhang in shown.overhangs() {
        shown.let_out(&overhang);
    }
    let over = shown.release().over_rims.expect("there is a rim");
    let covers = |x: f64, y: f64| contains(&over, Point::new(x, y), 0.01);
    // at the edge (x = 240) the limb reaches from 110 to 190; five millimetres further in its outline is five lower down
    for (x, y) in [(236.0, 192.0), (236.0, 118.0), (244.0, 150.0), (235.0, 150.0)] {
        assert!(covers(x, y), "hidden at {x}, {y}");
    }
}
