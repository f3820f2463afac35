//! What would take too much to be drawn is not made, and a sheet that holds it all the same can be opened and mended.

use inky_core::change::{ChangeError, change};
use inky_core::cutout::Watch;
use inky_core::edit::{Edit, OpeningChange, apply};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection};
use inky_core::scene::*;
use inky_core::sheet::*;
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};

fn memo() -> SceneMemo {
    SceneMemo::of(64 << 20)
}

fn library() -> LoadedLibrary {
    LoadedLibrary { photos: [("kite".into(), Photo::new("kite", 400, 300))].into(), ..LoadedLibrary::default() }
}

fn window(piece: PieceId, width: f64) -> Edit {
    let shape = BasicShape { width, height: width, figure: Figure::Ellipse };
    let form = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(shape));
    Edit::AddWindow { piece, form, fill: FillId::fresh() }
}

fn shows(piece: PieceId, other: PieceId, dx: f64) -> Edit {
    let by = Similarity { dx, ..Similarity::default() };
    Edit::AddFill { piece, fill: Fill::new(FillId::fresh(), FillPaint::Window(WindowFill { piece: other, by })) }
}

/// One edit, as the server takes it.
fn tried(sheet: &Sheet, edit: Edit) -> Result<Sheet, ChangeError> {
    change(sheet, &[edit], &library(), &memo())
}

/// The sentence with which an edit is refused.
fn sentence(sheet: &Sheet, edit: Edit) -> String {
    let said = tried(sheet, edit).expect_err("it was taken").to_string();
    assert!(said.ends_with('.'), "{said} is no sentence");
    said
}

#[test]
fn windows_shown_in_windows_end_somewhere() {
    let (library, memo) = (library(), memo());
    let mut sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 100.0);
    let pieces: Vec<PieceId> = (0..30).map(|_| PieceId::fresh()).collect();
    for piece in &pieces {
        sheet = change(&sheet, &[window(*piece, 60.0)], &library, &memo).unwrap();
    }
    // each shows the one before it, twice: drawn one in the other, that would be 2^30 windows
    let mut refused = 0;
    let mut all = sheet.clone();
    for pair in pieces.windows(2) {
        for dx in [0.0, 9.0] {
            let edit = shows(pair[1], pair[0], dx);
            all = apply(&all, &edit, &library).unwrap();
            match change(&sheet, &[edit], &library, &memo) {
                Ok(next) => sheet = next,
                Err(error) => {
                    refused += 1;
                    assert!(error.to_string().contains("too much") || error.to_string().contains("deep"), "{error}");
                }
            }
        }
    }
    let whole = |sheet: &Sheet| scene(sheet, &library).pieces.iter().all(|p| p.problem.is_none());
    assert!(refused > 0 && whole(&sheet));

    // the sheet that was made elsewhere opens: what can be drawn of it is, and the rest says why not
    let opened = scene(&all, &library);
    let problems = opened.pieces.iter().filter(|p| p.problem.is_some()).count();
    assert!((1..30).contains(&problems), "{problems} of 30 pieces cannot be drawn");
    assert!(opened.pieces.iter().all(|p| p.problem.is_none() || p.fragment.nodes.is_empty()));
    assert_eq!(opened.drawable().pieces.len(), 30 - problems, "the rest is shown on the desk");
    // other edits are taken meanwhile, and taking windows out of windows mends it
    all = change(&all, &[Edit::RenameSheet { name: "t".into() }], &library, &memo).unwrap();
    for piece in &pieces[4..] {
        let fills: Vec<_> =
            all.piece(*piece).unwrap().window().unwrap().fills[1..].iter().map(|fill| fill.id).collect();
        for fill in fills {
            all = change(&all, &[Edit::RemoveFill { piece: *piece, fill }], &library, &memo).unwrap();
        }
    }
    assert!(whole(&all));
}

#[test]
fn reach_cells_and_dashes_are_bounded_at_the_resolution_of_the_file() {
    let piece = PieceId::fresh();
    let sheet = tried(&Sheet::new("s", 400.0, 400.0, Unit::Mm, 100.0), window(piece, 300.0)).unwrap();
    let finish = |finish: Finish| Edit::SetFinish { piece, finish };
    let ink = Tint::Colour(Colour([0; 3]));

    // a shadow that is blurred over metres
    let shadow = |size| Shadow {
        place: ShadowPlace::Behind,
        tint: ink,
        blend: Blend::Normal,
        strength: 0.5,
        angle: 90.0,
        distance: 0.0,
        spread: 0.0,
        size,
        off: false,
    };
    let shaded = |size| finish(Finish { shadows: vec![shadow(size)].into(), ..Finish::default() });
    let soft = |width| finish(Finish { softness: Softness { width, side: FadeSide::Both }, ..Finish::default() });
    let fine = Edit::ResizeSheet { width: 400.0, height: 400.0, unit: Unit::Mm, ppi: 1200.0 };
    let at_fine = tried(&sheet, fine.clone()).unwrap();
    for far in [shaded(5000.0), soft(5000.0)] {
        let coarse = tried(&sheet, far.clone()).unwrap();
        assert!(sentence(&at_fine, far).contains("reaches too far"));
        assert!(sentence(&coarse, fine.clone()).contains("reaches too far"), "the other way round");
    }

    // a tile whose copies are as large as a house, of a drawing or a photo
    let tile = |scale| {
        let placement = Placement { x: 200.0, y: 200.0, scale, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
        let tile = TileFill {
            motif: Motif::Photo("kite".into()),
            placement,
            step: [1.5, 1.5],
            offset: 0.5,
            tone: Tone::default(),
        };
        Edit::AddFill { piece, fill: Fill::new(FillId::fresh(), FillPaint::Tile(tile)) }
    };
    let large = tried(&Sheet::new("s", 400.0, 400.0, Unit::Mm, 100.0), window(piece, 5000.0)).unwrap();
    let large = tried(&large, Edit::AddPhoto { piece, fill: FillId::fresh(), photo: "kite".into() }).unwrap();
    tried(&large, tile(0.1)).unwrap();
    let tiled = tried(&large, tile(1.0)).unwrap();
    assert!(sentence(&tiled, fine).contains("tile"));

    // more dashes than anybody could see
    let dashed = |dash| {
        let rim = Rim {
            width: 0.2,
            side: LineSide::Centre,
            paint: Paint::colour(Colour([0; 3])),
            dashes: vec![dash],
            round: true,
            over: true,
            off: false,
        };
        finish(Finish { rims: vec![rim].into(), ..Finish::default() })
    };
    tried(&sheet, dashed(0.5)).unwrap();

    // forty thousand metres of them
    let gear = BasicShape {
        width: 5000.0,
        height: 5000.0,
        figure: Figure::Star { points: 200, depth: 0.9, rounding: 0.0, fitted: true },
    };
    let form = Form::new(FormId::fresh(), Pose::at(200.0, 200.0), FormShape::Basic(gear));
    let wide = tried(&sheet, Edit::Opening { piece, change: OpeningChange::AddForm { form } }).unwrap();
    assert!(sentence(&wide, dashed(0.05)).contains("dashes"));
}

/// Places at random within the sheet, the same in every run.
fn places(count: usize) -> impl Iterator<Item = [f64; 2]> {
    let mut random = fastrand::Rng::with_seed(18);
    std::iter::repeat_with(move || [random.f64() * 100.0, random.f64() * 100.0]).take(count)
}

fn adds(shape: FormShape, line: Option<OwnLine>) -> Edit {
    let form = Form { line, ..Form::new(FormId::fresh(), Pose::at(0.0, 0.0), shape) };
    Edit::AddWindow { piece: PieceId::fresh(), form, fill: FillId::fresh() }
}

fn scribble(count: usize) -> FormShape {
    let nodes = places(count).map(|[x, y]| Node::corner(x, y)).collect();
    FormShape::Contour(Contour { subpaths: vec![Subpath { nodes, closed: true }], even_odd: false })
}

#[test]
fn what_crosses_itself_without_end_is_refused() {
    let sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 100.0);
    let line = Some(OwnLine { width: 0.2, side: LineSide::Centre, corners: LineCorner::Round, ends: LineEnd::Round });
    let brush = |count| {
        let points = places(count).map(|[x, y]| [x, y, 1.0]).collect();
        FormShape::Brush(Brush { strokes: vec![Stroke { points, size: 0.3, hardness: 1.0, erase: false }].into() })
    };
    let hub = |size| Form::new(FormId::fresh(), Pose::at(0.0, 0.0), scribble(size));
    let both = FormShape::List { forms: vec![hub(1_400), hub(1_400), hub(1_400)] };
    for tangle in
        [adds(scribble(20_000), None), adds(scribble(2_000), line), adds(brush(5_000), None), adds(both, None)]
    {
        assert!(sentence(&sheet, tangle).contains("crosses itself"));
    }
    // the same behind an opening
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let sheet = tried(&sheet, window(piece, 50.0)).unwrap();
    for shape in [scribble(20_000), scribble(1_400)] {
        let form = Form { line, ..Form::new(FormId::fresh(), Pose::at(0.0, 0.0), shape) };
        let paint = FillPaint::Form(Box::new(FormFill { form, paint: Paint::Colour { colour: Colour::INK } }));
        let said = sentence(&sheet, Edit::AddFill { piece, fill: Fill::new(fill, paint) });
        assert!(said.contains("crosses itself"), "{said}");
    }
    // what people draw is far from it
    for fine in [adds(scribble(300), line), adds(brush(200), None), adds(scribble(600), None)] {
        assert!(tried(&sheet, fine).is_ok());
    }
}

#[test]
fn lettering_along_lists_within_lists_is_set_once() {
    let mut fonts = FontCollection::default();
    let face = &inky_fonts::FACES[0];
    fonts.add(Face::new(face.id.into(), face.name, face.data).unwrap());
    let library = LoadedLibrary { fonts: fonts.into(), ..library() };
    let shape = BasicShape { width: 60.0, height: 60.0, figure: Figure::Ellipse };
    let mut form = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(shape));
    // each list holds the one before it, and words along it: asked for by every word, the innermost would be computed 21^6 times
    for _ in 0..6 {
        let along = Some(Along { form: form.id, inside: false, start: 0.1, off: 0.0 });
        let word = Lettering { along, ..Lettering::plain("I", face.id.into(), 3.0) };
        let words = (0..20).map(|_| Form::new(FormId::fresh(), Pose::default(), FormShape::Lettering(word.clone())));
        let forms = std::iter::once(form.clone()).chain(words).collect();
        form = Form::new(FormId::fresh(), Pose::default(), FormShape::List { forms });
    }
    let sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 100.0);
    let edit = Edit::AddWindow { piece: PieceId::fresh(), form, fill: FillId::fresh() };
    assert!(change(&sheet, &[edit], &library, &memo()).is_ok());
}

/// Ends whatever is computed once it was asked so often whether to go on.
struct EndsAfter(AtomicUsize);

impl Watch for EndsAfter {
    fn step(&self, _: f32, _: &'static str) {}

    fn is_cancelled(&self) -> bool {
        self.0.fetch_update(Ordering::Relaxed, Ordering::Relaxed, |left| left.checked_sub(1)).is_err()
    }
}

#[test]
fn what_is_ended_on_the_way_is_refused_and_not_kept() {
    let sheet = Sheet::new("s", 100.0, 100.0, Unit::Mm, 100.0);
    let sheet = tried(&sheet, adds(scribble(40), None)).unwrap();
    let edit = [adds(scribble(30), None)];
    let (kept, whole) = (memo(), library());
    let mut ended = 0;
    for asked in 0..30 {
        let watch = EndsAfter(AtomicUsize::new(asked));
        let hurried = LoadedLibrary { watch: Some(Arc::new(watch)), ..whole.clone() };
        match change(&sheet, &edit, &hurried, &kept) {
            Ok(_) => break,
            Err(error) => assert_eq!(error.to_string(), "This took too long, and was ended."),
        }
        ended += 1;
    }
    assert!((2..30).contains(&ended), "{ended}");
    // with the same memory, now in time
    let after = change(&sheet, &edit, &whole, &kept).unwrap();
    let drawn = SceneBuilder::new(&after, &whole, &kept).scene();
    let fresh = scene(&after, &library());
    assert!(drawn.pieces.iter().all(|p| p.problem.is_none()));
    assert_eq!(
        drawn.pieces.iter().map(|p| &p.fragment).collect::<Vec<_>>(),
        fresh.pieces.iter().map(|p| &p.fragment).collect::<Vec<_>>()
    );
}
