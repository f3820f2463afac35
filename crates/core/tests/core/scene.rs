//! Scenes of small sheets.

use image::{GrayImage, Luma};
use inky_core::breakout::WorkingMatte;
use inky_core::edit::{Edit, apply};
use inky_core::library::Books;
use inky_core::outline::{Face, Shelf};
use inky_core::scene::*;
use inky_core::sheet::*;
use kurbo::{Affine, BezPath, PathEl};
use proptest::prelude::*;
use std::sync::Arc;

struct Names;

impl Pictures for Names {
    fn photo(&self, id: &PhotoId, _: &Photo, long: f64, _: Option<&inky_core::photo::Pull>) -> String {
        format!("photo:{id}?{}&<>", long.round())
    }
    fn cutout(&self, id: &SubjectId, _: &Photo, _: f64, _: Option<&inky_core::photo::Pull>) -> String {
        format!("cutout:{id}")
    }
    fn computed(&self, picture: &image::RgbaImage) -> String {
        format!("computed:{}x{}", picture.width(), picture.height())
    }
}

fn books() -> Books {
    let mut shelf = Shelf::default();
    let f = inky_fonts::FACES[0];
    shelf.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let photo = Photo::new("kite", 400, 300);
    // a pole across the whole height
    let matte = GrayImage::from_fn(400, 300, |x, _| Luma([if (180..220).contains(&x) { 255 } else { 0 }]));
    Books {
        shelf: Arc::new(shelf),
        photos: [("kite".into(), photo)].into(),
        mattes: [("pole".into(), Arc::new(WorkingMatte::new(&matte)))].into(),
        ..Books::default()
    }
}

fn draw(sheet: &Sheet, books: &Books) -> Scene {
    scene(sheet, &View { library: books, pictures: &Names, density: 2.0, with_handles: true })
}

#[test]
fn a_word_with_a_photo_and_a_breakout() {
    let books = books();
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let mut sheet = Sheet::new("Kite <Fair>", 297.0, 210.0, Unit::Mm, 150.0);
    let edits = [
        Edit::AddLettering {
            piece,
            form: FormId::fresh(),
            fill: FillId::fresh(),
            text: "KITE".into(),
            font: "anton".into(),
        },
        Edit::FillWithPhoto { piece, fill, photo: "kite".into() },
        Edit::found("kite".into(), "pole".into()),
    ];
    for edit in &edits {
        sheet = apply(&sheet, edit, &books).unwrap();
    }
    let before = draw(&sheet, &books);
    let layer = &before.layers[0];
    assert!(layer.problem.is_none() && !layer.markup.contains("data-breakout"));
    let above = layer.overhangs.iter().find(|o| o.place == "above").expect("the pole's top");
    assert!(above.let_out_by.is_empty());

    let anchor = above.anchor;
    let let_out = apply(&sheet, &Edit::LetOut { piece, anchor }, &books).unwrap();
    let after = draw(&let_out, &books);
    let markup = &after.layers[0].markup;
    assert!(
        markup.find("data-breakout").unwrap() < markup.find("clip-path=\"url(#opening-").unwrap(),
        "the breakout lies beneath"
    );
    assert!(after.layers[0].overhangs.iter().any(|o| o.let_out_by == [anchor]));
    assert!(after.layers[0].unmatched.is_empty());

    // small within the first letter nothing of the pole reaches over an edge: it is said, not forgotten
    let fills = &let_out.pieces[0].window().unwrap().fills;
    let Some(FillPaint::Photo(photo)) = fills.iter().find(|f| f.id == fill).map(|f| &f.paint) else { panic!() };
    let [left, top, right, bottom] = layer.bounds;
    let (x, y) = (left + 0.03 * (right - left), (top + bottom) / 2.0);
    let placement = Placement { x, y, scale: photo.placement.scale * 0.01, ..photo.placement };
    let small = apply(&let_out, &Edit::SetPlacement { piece, fill, placement }, &books).unwrap();
    let small_layer = &draw(&small, &books).layers[0];
    assert_eq!(small_layer.unmatched, [anchor], "{:?}", small_layer.overhangs);
    let forgotten = apply(&small, &Edit::KeepIn { piece, anchors: vec![anchor] }, &books).unwrap();
    assert!(draw(&forgotten, &books).layers[0].unmatched.is_empty());

    let svg = after.to_svg(&sheet.name, 0.0);
    assert!(svg.contains("<title>Kite &lt;Fair&gt;</title>") && svg.contains("&amp;&lt;&gt;"));
    assert!(svg.contains("width=\"297mm\"") && svg.contains("viewBox=\"0 0 297 210\""));

    let back = apply(&let_out, &Edit::KeepIn { piece, anchors: vec![anchor] }, &books).unwrap();
    assert_eq!(back, sheet);
}

#[test]
fn hidden_pieces_are_left_out_and_numbers_are_short() {
    let books = books();
    let piece = PieceId::fresh();
    let add = Edit::AddLettering {
        piece,
        form: FormId::fresh(),
        fill: FillId::fresh(),
        text: "A".into(),
        font: "anton".into(),
    };
    let sheet = apply(&Sheet::new("s", 100.0, 100.0, Unit::Mm, 72.0), &add, &books).unwrap();
    assert!(draw(&sheet, &books).layers[0].markup.contains("<path data-fill"));
    let hidden = apply(&sheet, &Edit::HidePiece { piece, hidden: true }, &books).unwrap();
    assert!(draw(&hidden, &books).layers.is_empty());
    assert_eq!(number(-0.00001), "0");
    for (v, known) in
        [(12.345678, "12.3457"), (-0.5, "-0.5"), (-3.00004, "-3"), (7.05, "7.05"), (1e17, "100000000000000000")]
    {
        assert_eq!(number(v), known);
    }
}

proptest! {
    /// What is written from its start is the path, wherever it lies, and moved it is written in the same words.
    #[test]
    fn a_moved_path_differs_in_its_start_alone(
        points in prop::collection::vec((-500.0..500.0_f64, -500.0..500.0_f64), 3..60),
        by in (-900..900_i32, -900..900_i32),
    ) {
        let mut path = BezPath::new();
        for (k, p) in points.chunks_exact(3).enumerate() {
            if k % 4 == 0 {
                if k > 0 {
                    path.close_path();
                }
                path.move_to(p[0]);
            }
            match k % 3 {
                0 => path.curve_to(p[0], p[1], p[2]),
                1 => path.quad_to(p[0], p[1]),
                _ => path.line_to(p[0]),
            }
        }
        let written = path_data_from_start(&path);
        let read = BezPath::from_svg(&written).unwrap();
        let ends = |p: &BezPath| p.elements().iter().filter_map(PathEl::end_point).collect::<Vec<_>>();
        for (a, b) in ends(&path).into_iter().zip(ends(&read)) {
            prop_assert!((a - b).hypot() < 2e-4, "{a} {b} in {written}");
        }
        let moved = path_data_from_start(&(Affine::translate((f64::from(by.0), f64::from(by.1))) * &path));
        let rest = |d: &str| d.split_once(',').and_then(|(_, r)| r.find(|c: char| c.is_alphabetic()).map(|at| r[at..].to_owned()));
        // a digit may fall to the other side where a number lies half way between two
        let differ = rest(&written).unwrap().len().abs_diff(rest(&moved).unwrap().len());
        prop_assert!(rest(&written) == rest(&moved) || differ < 4, "{written} {moved}");
    }
}
