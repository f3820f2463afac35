//! Scenes of small sheets.

use crate::tree::{all_nodes, within};
use image::{GrayImage, Luma};
use inky_core::breakout::WorkingMatte;
use inky_core::edit::{Edit, Grip, apply};
use inky_core::handles::PieceHandles;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection};
use inky_core::scene::svg::*;
use inky_core::scene::tree::{Geometry, Node, Shows, Source};
use inky_core::scene::*;
use inky_core::sheet::{
    BasicShape, Colour, Figure, Fill, FillId, FillPaint, Finish, Form, FormId, FormShape, Ink, InkId, Mix, Paint,
    Photo, PieceId, Placement, Pose, Sheet, Similarity, Unit, WindowFill,
};
use kurbo::{Affine, BezPath, PathEl};
use proptest::prelude::*;
use std::sync::Arc;

struct Names;

impl PictureFiles for Names {
    fn address(&self, source: &Source, scale: f64) -> String {
        match source {
            Source::Photo(photo) => format!("photo:{}?{scale:.3}&<>", photo.id),
            Source::Cutout(cutout) => format!("cutout:{}", cutout.id),
            other => format!("{other:?}"),
        }
    }
}

impl PictureLevels for Names {
    fn levels(&self, source: &Source) -> Levels {
        Levels { address: format!("{}*", self.address(source, 0.0)), sides: vec![400, 200] }
    }
}

fn library() -> LoadedLibrary {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let photo = Photo::new("kite", 400, 300);
    // a pole across the whole height
    let matte = GrayImage::from_fn(400, 300, |x, _| Luma([if (180..220).contains(&x) { 255 } else { 0 }]));
    LoadedLibrary {
        fonts: Arc::new(fonts),
        photos: [("kite".into(), photo)].into(),
        mattes: [("pole".into(), Arc::new(WorkingMatte::new(&matte)))].into(),
        ..LoadedLibrary::default()
    }
}

fn handles(sheet: &Sheet, library: &LoadedLibrary) -> PieceHandles {
    PieceHandles::of(sheet, &sheet.pieces[0], &scene(sheet, library).pieces[0], library)
}

fn breakouts(scene: &Scene) -> Vec<usize> {
    let nodes = &scene.pieces[0].fragment.nodes;
    let breaks_out = |node: &Node| matches!(node, Node::Group(g) if matches!(g.role.shows, Shows::Breakout(_)));
    (0..nodes.len()).filter(|k| breaks_out(&nodes[*k])).collect()
}

#[test]
fn a_word_with_a_photo_and_a_breakout() {
    let library = library();
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let mut sheet = Sheet::new("Kite <Fair> & \u{1}Co", 297.0, 210.0, Unit::Mm, 150.0);
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
        sheet = apply(&sheet, edit, &library).unwrap();
    }
    let before = handles(&sheet, &library);
    assert!(before.problem.is_none() && breakouts(&scene(&sheet, &library)).is_empty());
    let above = before.overhangs.iter().find(|o| o.place == "above").expect("the pole's top");
    assert!(above.let_out_by.is_empty());

    let anchor = above.anchor;
    let let_out = apply(&sheet, &Edit::LetOut { piece, anchor }, &library).unwrap();
    let drawn = scene(&let_out, &library);
    let fragment = &drawn.pieces[0].fragment;
    let shows_opening = |node: &Node| {
        let Node::Group(group) = node else { return false };
        group.clip.is_some_and(|c| fragment.definitions.clip(c).geometry == Geometry::Opening)
    };
    let opening = fragment.nodes.iter().position(shows_opening).expect("what the opening shows");
    assert!(breakouts(&drawn).iter().all(|k| *k < opening), "the breakout lies beneath");
    assert_eq!(breakouts(&drawn).len(), 1);
    let after = handles(&let_out, &library);
    assert!(after.overhangs.iter().any(|o| o.let_out_by == [anchor]));
    assert!(after.unmatched.is_empty());

    // small within the first letter nothing of the pole reaches over an edge: it is said, not forgotten
    let fills = &let_out.pieces[0].window().unwrap().fills;
    let Some(FillPaint::Photo(photo)) = fills.iter().find(|f| f.id == fill).map(|f| &f.paint) else { panic!() };
    let [left, top, right, bottom] = before.bounds;
    let (x, y) = (left + 0.03 * (right - left), (top + bottom) / 2.0);
    let placement = Placement { x, y, scale: photo.placement.scale * 0.01, ..photo.placement };
    let small = apply(&let_out, &Edit::SetPlacement { piece, fill, placement }, &library).unwrap();
    let handled = handles(&small, &library);
    assert_eq!(handled.unmatched, [anchor], "{:?}", handled.overhangs);
    let forgotten = apply(&small, &Edit::KeepIn { piece, anchors: vec![anchor] }, &library).unwrap();
    assert!(handles(&forgotten, &library).unmatched.is_empty());

    let svg = drawn.document(&let_out.name, 0.0, &Names);
    let read = usvg::roxmltree::Document::parse(&svg).unwrap();
    let title = read.descendants().find(|n| n.has_tag_name("title")).and_then(|n| n.text());
    assert_eq!(title, Some("Kite <Fair> & Co"));
    let picture = read.descendants().find(|n| n.has_tag_name("image")).unwrap();
    let address = picture.attribute(("http://www.w3.org/1999/xlink", "href")).unwrap();
    assert!(address.ends_with("&<>") || address.starts_with("cutout:"), "{address}");
    let root = read.root_element();
    assert_eq!((root.attribute("width"), root.attribute("viewBox")), (Some("297mm"), Some("0 0 297 210")));

    let back = apply(&let_out, &Edit::KeepIn { piece, anchors: vec![anchor] }, &library).unwrap();
    assert_eq!(back, sheet);
}

#[test]
fn hidden_pieces_are_left_out_and_numbers_are_short() {
    let library = library();
    let piece = PieceId::fresh();
    let add = Edit::AddLettering {
        piece,
        form: FormId::fresh(),
        fill: FillId::fresh(),
        text: "A".into(),
        font: "anton".into(),
    };
    let sheet = apply(&Sheet::new("s", 100.0, 100.0, Unit::Mm, 72.0), &add, &library).unwrap();
    let drawn = scene(&sheet, &library);
    assert!(matches!(&drawn.pieces[0].fragment.nodes[..], [Node::Shape(s)] if s.geometry == Geometry::Opening));
    let hidden = apply(&sheet, &Edit::HidePiece { piece, hidden: true }, &library).unwrap();
    assert!(scene(&hidden, &library).pieces.is_empty());
    assert_eq!(number(-0.00001), "0");
    for (v, known) in
        [(12.345678, "12.3457"), (-0.5, "-0.5"), (-3.00004, "-3"), (7.05, "7.05"), (1e17, "100000000000000000")]
    {
        assert_eq!(number(v), known);
    }
}

/// For the screen the outline of an opening crosses once, beside the markup, and a file has no use for what elements are for.
#[test]
fn screens_get_roles_and_files_get_outlines() {
    let library = library();
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let mut sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 72.0);
    for edit in [
        Edit::AddLettering {
            piece,
            form: FormId::fresh(),
            fill: FillId::fresh(),
            text: "A".into(),
            font: "anton".into(),
        },
        Edit::FillWithPhoto { piece, fill, photo: "kite".into() },
    ] {
        sheet = apply(&sheet, &edit, &library).unwrap();
    }
    let drawn = scene(&sheet, &library);
    let screen = screen_markup("p1", &drawn.pieces[0].fragment, &Names);
    let whole = format!("<r xmlns:xlink='http://www.w3.org/1999/xlink'>{screen}</r>");
    let read = usvg::roxmltree::Document::parse(&whole).unwrap();
    let has = |name: &str| read.descendants().filter(|n| n.attribute(name).is_some()).count();
    assert!(has("data-moves") > 0 && has("data-outline") > 0);
    assert_eq!(has("style"), 0, "the interface allows no style attributes");
    let image = read.descendants().find(|n| n.has_tag_name("image")).unwrap();
    assert_eq!(image.attribute("data-sides"), Some("400 200"));
    let long: f64 = image.attribute("data-long").unwrap().parse().unwrap();
    let FillPaint::Photo(photo) = &sheet.pieces[0].window().unwrap().fill(fill).unwrap().paint else { panic!() };
    assert!((long - 400.0 * photo.placement.scale).abs() < 1e-3);
    assert!(image.attribute(("http://www.w3.org/1999/xlink", "href")).is_none());

    let file = drawn.document("s", 0.0, &Names);
    let read = usvg::roxmltree::Document::parse(&file).unwrap();
    let attributes = || read.descendants().flat_map(|n| n.attributes()).map(|a| a.name());
    assert!(attributes().filter(|n| n.starts_with("data-")).all(|n| n == PPI));
    assert!(attributes().any(|n| n == "d"));
}

/// What a piece is drawn from is known: it is computed again when that changes, and not when something else does.
#[test]
fn keys_follow_what_a_piece_depends_on() {
    let library = library();
    let ink = Ink { spot: false, id: InkId::fresh(), name: "Dusk".into(), mix: Mix::Colour { colour: Colour::INK } };
    let box_of = |x: f64| {
        let shape = BasicShape { width: 20.0, height: 20.0, figure: Figure::Ellipse };
        Form::new(FormId::fresh(), Pose::at(x, 50.0), FormShape::Basic(shape))
    };
    let [plain, inked, shows, photo] = std::array::from_fn(|_| PieceId::fresh());
    let first = FillId::fresh();
    let mut sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 72.0);
    let edit = |sheet: &Sheet, edit: Edit| apply(sheet, &edit, &library).unwrap();
    for (k, piece) in [plain, inked, shows, photo].into_iter().enumerate() {
        let fill = if piece == inked { first } else { FillId::fresh() };
        sheet = edit(&sheet, Edit::AddWindow { piece, form: box_of(20.0 * (k + 1) as f64), fill });
    }
    let painted = Fill::new(first, FillPaint::Plain(Paint::Ink { ink: ink.id, vector: None }));
    let shown = Fill::new(FillId::fresh(), FillPaint::Window(WindowFill { piece: inked, by: Similarity::default() }));
    let share = FillId::fresh();
    for change in [
        Edit::SetInk { ink: ink.clone() },
        Edit::SetFill { piece: inked, fill: painted },
        Edit::AddFill { piece: shows, fill: shown },
        Edit::FillWithPhoto { piece: photo, fill: share, photo: "kite".into() },
    ] {
        sheet = edit(&sheet, change);
    }
    let all = [plain, inked, shows, photo];
    let changed = |before: &Sheet, after: &Sheet| {
        let (a, b) = (Keys::of(before), Keys::of(after));
        assert!(all.iter().all(|p| a.of_piece(*p).is_some()));
        let quick = a.after(before, after);
        assert!(all.iter().all(|p| quick.of_piece(*p) == b.of_piece(*p)) && quick.of_page() == b.of_page());
        all.into_iter().filter(|p| a.of_piece(*p) != b.of_piece(*p)).collect::<Vec<_>>()
    };
    let mixed = Ink { mix: Mix::Colour { colour: Colour([9, 9, 9]) }, ..ink.clone() };
    assert_eq!(changed(&sheet, &edit(&sheet, Edit::SetInk { ink: mixed })), [inked, shows]);
    let named = Ink { name: "Dawn".into(), ..ink };
    assert!(changed(&sheet, &edit(&sheet, Edit::SetInk { ink: named })).is_empty());
    let by = Similarity { a: 1.0, b: 0.0, dx: 1.0, dy: 0.0 };
    let moved = |piece| Edit::Move { piece, what: Grip::Both, by };
    assert_eq!(changed(&sheet, &edit(&sheet, moved(inked))), [inked, shows]);
    assert_eq!(changed(&sheet, &edit(&sheet, moved(plain))), [plain]);
    let found = Edit::found("kite".into(), "pole".into());
    assert_eq!(changed(&sheet, &edit(&sheet, found)), [photo]);
    let paper = edit(&sheet, Edit::SetPaper { grain: 0.3 });
    assert!(changed(&sheet, &paper).is_empty());
    assert_ne!(Keys::of(&sheet).of_page(), Keys::of(&paper).of_page());
    // another window that shares the photo: what breaks out of it ends at its edge
    let shared = edit(&sheet, Edit::ShareFill { piece: plain, fill: FillId::fresh(), of: share });
    assert_eq!(changed(&sheet, &shared), [plain, photo]);
    assert_eq!(changed(&shared, &edit(&shared, moved(plain))), [plain, photo]);
    // a negative one is as large as the sheet
    let size = Edit::ResizeSheet { width: 120.0, height: 100.0, unit: Unit::Mm, ppi: 72.0 };
    assert!(changed(&sheet, &edit(&sheet, size.clone())).is_empty());
    let negative = Finish { negative: true, ..Finish::default() };
    let negative = edit(&sheet, Edit::SetFinish { piece: plain, finish: negative });
    assert_eq!(changed(&negative, &edit(&negative, size)), [plain]);

    // kept by its key: the same tree, not one that is alike
    let memo = SceneMemo::of(64 << 20);
    let draw = |sheet: &Sheet| SceneBuilder::new(sheet, &library, &memo).scene();
    let (a, b) = (draw(&sheet), draw(&edit(&sheet, moved(plain))));
    let same: Vec<bool> = a.pieces.iter().zip(&b.pieces).map(|(a, b)| Arc::ptr_eq(a, b)).collect();
    assert_eq!(same, [false, true, true, true]);
    let nodes = all_nodes(&b.pieces[2].fragment);
    let reused: Vec<_> = nodes.iter().filter_map(|n| within(n)).collect();
    assert!(reused.iter().all(|f| Arc::ptr_eq(f, &b.pieces[1].fragment)) && !reused.is_empty());
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
        let written = MovablePath::of(&path).unwrap();
        let read = BezPath::from_svg(&written.path_data()).unwrap();
        let ends = |p: &BezPath| p.elements().iter().filter_map(PathEl::end_point).collect::<Vec<_>>();
        for (a, b) in ends(&path).into_iter().zip(ends(&read)) {
            prop_assert!((a - b).hypot() < 2e-4, "{a} {b} in {written:?}");
        }
        let moved = MovablePath::of(&(Affine::translate((f64::from(by.0), f64::from(by.1))) * &path)).unwrap();
        // a digit may fall to the other side where a number lies half way between two
        let differ = written.data.len().abs_diff(moved.data.len());
        prop_assert!(written.data == moved.data || differ < 4, "{written:?} {moved:?}");
    }
}
