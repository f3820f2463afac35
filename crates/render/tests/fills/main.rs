//! Fills, tones, edges, rims and shadows, pixel by pixel: what the numbers of a sheet come to in its file.

mod bundles;
mod drawings;
mod edges;
mod panes;
mod rows;

use image::{Rgb, RgbImage, Rgba, RgbaImage};
use inky_core::cutout::Unwatched;
use inky_core::edit::{Edit, apply};
use inky_core::library::LoadedLibrary;
use inky_core::sheet::*;
use inky_render::{Originals, Plan, pixels};
use std::sync::Arc;

const GREY: [u8; 3] = [120, 120, 120];

/// A box from (20, 20) to (80, 80) mm on a sheet of 100 mm, a pixel for a millimetre, with a grey photo over all of it.
struct Poster {
    sheet: Sheet,
    library: LoadedLibrary,
    piece: PieceId,
    photo: FillId,
}

fn poster() -> Poster {
    let photo = Photo::new("grey", 100, 100);
    let library = LoadedLibrary { photos: [("grey".into(), photo)].into(), ..LoadedLibrary::default() };
    let shape = BasicShape { width: 60.0, height: 60.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(shape));
    let (piece, photo) = (PieceId::fresh(), FillId::fresh());
    let sheet = Sheet::new("Box", 100.0, 100.0, Unit::Mm, 25.4);
    let mut made = Poster { sheet, library, piece, photo };
    made.edit(Edit::AddWindow { piece, form, fill: FillId::fresh() });
    made.edit(Edit::AddPhoto { piece, fill: photo, photo: "grey".into() });
    let placement = Placement { x: 50.0, y: 50.0, scale: 2.0, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
    made.edit(Edit::SetPlacement { piece, fill: photo, placement });
    made
}

impl Poster {
    fn edit(&mut self, edit: Edit) {
        self.sheet = apply(&self.sheet, &edit, &self.library).unwrap();
    }

    fn fill(&self) -> Fill {
        self.sheet.pieces[0].window().unwrap().fill(self.photo).unwrap().clone()
    }

    fn set_fill(&mut self, change: impl FnOnce(&mut Fill)) {
        let mut fill = self.fill();
        change(&mut fill);
        self.edit(Edit::SetFill { piece: self.piece, fill });
    }

    fn tone(&mut self, tone: Tone) -> [u8; 3] {
        self.set_fill(|f| {
            if let FillPaint::Photo(p) = &mut f.paint {
                p.tone = tone;
            }
        });
        self.at(50, 50)
    }

    fn finish(&mut self, finish: Finish) {
        self.edit(Edit::SetFinish { piece: self.piece, finish });
    }

    fn originals(&self) -> Originals {
        let grey = Arc::new(RgbaImage::from_pixel(100, 100, Rgba([GREY[0], GREY[1], GREY[2], 255])));
        Originals { photos: [("grey".into(), grey)].into(), ..Originals::default() }
    }

    fn picture(&self) -> RgbImage {
        let plan = Plan::of_sheet(&self.sheet, &self.library, &self.originals(), 25.4, 0.0).unwrap();
        pixels(&plan, &Unwatched).unwrap()
    }

    fn at(&self, x: u32, y: u32) -> [u8; 3] {
        self.picture().get_pixel(x, y).0
    }
}

fn near(a: [u8; 3], b: [u8; 3]) -> bool {
    a.iter().zip(b).all(|(p, q)| p.abs_diff(q) <= 2)
}

fn colour(text: &str) -> Colour {
    text.parse().unwrap()
}

#[test]
fn tones_are_what_they_say() {
    let mut p = poster();
    assert_eq!(p.at(50, 50), GREY);
    let grey = f64::from(GREY[0]) / 255.0;
    let of = |v: f64| [(v.clamp(0.0, 1.0) * 255.0).round() as u8; 3];
    let plain = Tone::default();
    for amount in [-0.7, -0.2, 0.4, 1.0] {
        let brighter = p.tone(Tone { brightness: amount, ..plain });
        assert!(near(brighter, of(grey.powf(2f64.powf(-1.5 * amount)))), "{amount}: {brighter:?}");
        let slope = if amount < 0.0 { 1.0 + amount } else { 1.0 + 3.0 * amount };
        let contrast = p.tone(Tone { contrast: amount, ..plain });
        assert!(near(contrast, of(0.5 + slope * (grey - 0.5))), "{amount}: {contrast:?}");
        assert!(near(p.tone(Tone { saturation: amount, ..plain }), GREY), "grey has no saturation to change");
    }
    let [r, _, b] = p.tone(Tone { warmth: 0.8, ..plain });
    assert!(r > GREY[0] + 15 && b + 15 < GREY[2]);
}

#[test]
fn a_print_runs_from_one_ink_to_the_other() {
    let mut p = poster();
    let (dark, light) = (colour("#102040"), colour("#f0c0a0"));
    let mixed = |a: Colour, b: Colour| {
        let share = f64::from(GREY[0]) / 255.0;
        std::array::from_fn(|c| (f64::from(a.0[c]) * (1.0 - share) + f64::from(b.0[c]) * share).round() as u8)
    };
    let two = Print::Two { dark: Tint::Colour(dark), light: Tint::Colour(light) };
    let shown = p.tone(Tone { print: Some(two), ..Tone::default() });
    assert!(near(shown, mixed(dark, light)), "{shown:?} for {:?}", mixed(dark, light));
    let one = Print::One { dark: Tint::Colour(dark) };
    let shown = p.tone(Tone { print: Some(one), ..Tone::default() });
    assert!(near(shown, mixed(dark, Colour::PAPER)), "{shown:?}");
}

#[test]
fn fills_lie_on_one_another_as_their_modes_say() {
    let mut p = poster();
    let under = colour("#c08040");
    let below = FillPaint::Plain(Paint::colour(under));
    let first = p.sheet.pieces[0].window().unwrap().fills[0].id;
    p.edit(Edit::SetFill { piece: p.piece, fill: Fill::new(first, below) });
    let grey = f64::from(GREY[0]) / 255.0;
    type Mix = fn(f64, f64) -> f64;
    let modes: [(Blend, Mix); 6] = [
        (Blend::Multiply, |b, s| b * s),
        (Blend::Screen, |b, s| b + s - b * s),
        (Blend::Darken, f64::min),
        (Blend::Lighten, f64::max),
        (Blend::Difference, |b, s| (b - s).abs()),
        (Blend::Exclusion, |b, s| b + s - 2.0 * b * s),
    ];
    for (blend, mix) in modes {
        for strength in [1.0, 0.5] {
            p.set_fill(|f| (f.blend, f.strength) = (blend, strength));
            let known = std::array::from_fn(|c| {
                let b = f64::from(under.0[c]) / 255.0;
                ((b + (mix(b, grey) - b) * strength) * 255.0).round() as u8
            });
            let shown = p.at(50, 50);
            assert!(near(shown, known), "{blend:?} at {strength}: {shown:?} for {known:?}");
        }
    }
    // switched off, it is as if it were not there
    p.set_fill(|f| f.off = true);
    assert_eq!(p.at(50, 50), under.0);
}

#[test]
fn gradients_run_where_their_span_says() {
    let mut p = poster();
    let stop = |at, c| Stop { at, tint: Tint::Colour(colour(c)), opacity: 1.0 };
    let gradient = Gradient { kind: GradientKind::Linear, stops: vec![stop(0.0, "#000000"), stop(1.0, "#ffffff")] };
    let vector = GradientVector { from: [30.0, 0.0], to: [70.0, 0.0] };
    let paint = Paint::Gradient { gradient: gradient.clone(), vector: Some(vector) };
    p.edit(Edit::AddFill { piece: p.piece, fill: Fill::new(FillId::fresh(), FillPaint::Plain(paint)) });
    let picture = p.picture();
    for (x, known) in [(25, 0), (40, 67), (50, 131), (60, 195), (75, 255)] {
        let v = picture.get_pixel(x, 50).0[0];
        assert!(v.abs_diff(known) <= 3, "{v} at {x}");
    }
    // around: the radius is the length of the vector
    let around = Gradient { kind: GradientKind::Radial, ..gradient };
    let vector = GradientVector { from: [50.0, 50.0], to: [50.0, 70.0] };
    p.edit(Edit::SetBackdrop { paint: Some(Paint::Gradient { gradient: around, vector: Some(vector) }) });
    p.edit(Edit::RemovePiece { piece: p.piece });
    let v = p.at(60, 50)[0];
    assert!(v.abs_diff(134) <= 4 && p.at(5, 5) == [255; 3] && p.at(50, 50)[0] < 10, "{v}");
}

#[test]
fn a_tile_repeats_by_its_step() {
    let mut p = poster();
    p.edit(Edit::SetBackground { colour: colour("#00ff00") });
    let first = p.sheet.pieces[0].window().unwrap().fills[0].id;
    p.edit(Edit::SetFill {
        piece: p.piece,
        fill: Fill::new(first, FillPaint::Plain(Paint::colour(colour("#ff0000")))),
    });
    p.set_fill(|f| {
        let placement = Placement { x: 50.0, y: 50.0, scale: 0.1, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
        let tile = TileFill {
            motif: Motif::Photo("grey".into()),
            placement,
            step: [2.0, 2.0],
            offset: 0.0,
            tone: Tone::default(),
        };
        f.paint = FillPaint::Tile(tile);
    });
    // copies of 10 mm with gaps of 10 mm, one of them in the middle
    let picture = p.picture();
    let is = |x, y, c: [u8; 3]| near(picture.get_pixel(x, y).0, c);
    assert!(is(50, 50, GREY) && is(70, 50, GREY) && is(30, 70, GREY), "copies");
    assert!(is(60, 50, [255, 0, 0]) && is(50, 40, [255, 0, 0]), "gaps");
    assert!(is(10, 50, [0, 255, 0]), "nothing outside of the opening");
    p.set_fill(|f| {
        if let FillPaint::Tile(t) = &mut f.paint {
            t.offset = 0.5;
        }
    });
    let picture = p.picture();
    assert!(near(picture.get_pixel(50, 50).0, GREY) && near(picture.get_pixel(60, 70).0, GREY), "every other row");
    assert!(near(picture.get_pixel(50, 70).0, [255, 0, 0]));
}

#[test]
fn edges_fade_to_their_side_and_turn_over() {
    let mut p = poster();
    let mut profile = |width, side, negative, strength| {
        let softness = Softness { width, side };
        p.finish(Finish { softness, negative, strength, ..Finish::default() });
        let picture = p.picture();
        // how much of the photo is there, from 0 to 1, along the middle
        move |x: u32| (255.0 - f64::from(picture.get_pixel(x, 50).0[0])) / f64::from(255 - GREY[0])
    };
    let both = profile(10.0, FadeSide::Both, false, 1.0);
    assert!((both(19) - 0.44).abs() < 0.06 && (both(20) - 0.56).abs() < 0.06 && both(11) < 0.03 && both(28) > 0.97);
    let inward = profile(10.0, FadeSide::Inward, false, 1.0);
    assert!(inward(18) < 0.06 && (inward(24) - 0.44).abs() < 0.06);
    let outward = profile(10.0, FadeSide::Outward, false, 1.0);
    assert!(outward(21) > 0.94 && (outward(14) - 0.44).abs() < 0.06);
    let negative = profile(0.0, FadeSide::Both, true, 1.0);
    assert!(negative(50) < 0.01 && negative(10) > 0.99 && negative(90) > 0.99);
    let soft_negative = profile(10.0, FadeSide::Both, true, 1.0);
    assert!(soft_negative(50) < 0.01 && (soft_negative(20) - 0.44).abs() < 0.06 && soft_negative(3) > 0.99);
    let half = profile(0.0, FadeSide::Both, false, 0.5);
    assert!((half(50) - 0.5).abs() < 0.02 && half(10) < 0.01);
}

fn rim(side: LineSide, over: bool) -> Rim {
    let paint = Paint::colour(Colour([255, 0, 0]));
    Rim { width: 6.0, side, paint, dashes: Vec::new(), round: false, over, off: false }
}

#[test]
fn rims_run_on_their_side_of_the_edge_without_a_seam() {
    let mut p = poster();
    let red = [255, 0, 0];
    for (side, from, to) in [(LineSide::Inside, 20, 26), (LineSide::Centre, 17, 23), (LineSide::Outside, 14, 20)] {
        for over in [false, true] {
            p.finish(Finish { rims: vec![rim(side, over)].into(), ..Finish::default() });
            let picture = p.picture();
            let row: Vec<[u8; 3]> = (0..60).map(|x| picture.get_pixel(x, 50).0).collect();
            for (x, c) in row.iter().enumerate() {
                let known = match x {
                    x if x < from => [255; 3],
                    x if x < to => red,
                    _ => GREY,
                };
                // a rim outside covers a hair of the inside
                let room = usize::from(side == LineSide::Outside && x == to);
                assert!(near(*c, known) || room == 1, "{side:?}, over: {over}, at {x}: {c:?}");
            }
        }
    }
    // dashes of 10 mm with gaps as long: the edge of 60 mm has red and grey in turn
    let dashed = Rim { dashes: vec![10.0, 10.0], ..rim(LineSide::Inside, false) };
    p.finish(Finish { rims: vec![dashed].into(), ..Finish::default() });
    let picture = p.picture();
    let red = (20..80).filter(|&x| near(picture.get_pixel(x, 22).0, [255, 0, 0])).count();
    assert!((25..=36).contains(&red), "{red} of 60 are red");
}

#[test]
fn shadows_fall_where_they_are_sent() {
    let mut p = poster();
    let shadow = Shadow {
        place: ShadowPlace::Behind,
        tint: Tint::Colour(Colour([0, 0, 0])),
        blend: Blend::Normal,
        strength: 0.5,
        angle: 0.0,
        distance: 10.0,
        spread: 0.0,
        size: 0.0,
        off: false,
    };
    let with = |p: &mut Poster, s: Shadow| {
        p.finish(Finish { shadows: vec![s].into(), ..Finish::default() });
        p.picture()
    };
    let at = |picture: &RgbImage, x, y| -> Rgb<u8> { *picture.get_pixel(x, y) };
    let picture = with(&mut p, shadow.clone());
    assert!(near(at(&picture, 85, 50).0, [128; 3]) && near(at(&picture, 15, 50).0, [255; 3]));
    assert!(near(at(&picture, 50, 50).0, GREY), "the window lies over its shadow");
    // 90 degrees: downwards
    let picture = with(&mut p, Shadow { angle: 90.0, ..shadow.clone() });
    assert!(near(at(&picture, 50, 85).0, [128; 3]) && near(at(&picture, 85, 50).0, [255; 3]));
    // spread makes it wider on all sides by about as much
    let picture = with(&mut p, Shadow { distance: 0.0, spread: 6.0, ..shadow.clone() });
    assert!(at(&picture, 16, 50).0[0] < 150 && at(&picture, 11, 50).0[0] > 225, "{:?}", at(&picture, 16, 50));
    // its edge fades
    let picture = with(&mut p, Shadow { size: 10.0, ..shadow.clone() });
    assert!((178..=188).contains(&at(&picture, 89, 50).0[0]), "{:?}", at(&picture, 89, 50));
    // multiplied, it takes from what lies beneath
    p.edit(Edit::SetBackground { colour: colour("#ff8000") });
    let multiplied = Shadow { blend: Blend::Multiply, strength: 1.0, tint: Tint::Colour(colour("#808080")), ..shadow };
    let picture = with(&mut p, multiplied.clone());
    assert!(near(at(&picture, 85, 50).0, [128, 64, 0]), "{:?}", at(&picture, 85, 50));
    // into the opening, from the edge that it falls away from
    let inside = Shadow { place: ShadowPlace::Inside, blend: Blend::Normal, ..multiplied };
    let picture = with(&mut p, Shadow { tint: Tint::Colour(Colour([0, 0, 0])), ..inside });
    assert!(
        near(at(&picture, 25, 50).0, [0; 3])
            && near(at(&picture, 75, 50).0, GREY)
            && near(at(&picture, 50, 50).0, GREY)
    );
    assert!(near(at(&picture, 10, 50).0, [255, 128, 0]));
}

#[test]
fn gloss_is_light_from_its_side_at_any_resolution() {
    let mut p = poster();
    let gloss = Gloss { strength: 1.0, reach: 10.0, shine: 0.4, light: 180.0, rise: 45.0, off: false };
    p.finish(Finish { gloss: Some(gloss), ..Finish::default() });
    let picture = p.picture();
    let at = |x: u32| picture.get_pixel(x, 50).0[0];
    // from the left: the left slope shines, the right one is dark, the middle is as it was, and outside nothing changes
    assert!(at(23) > GREY[0] + 25 && at(76) + 25 < GREY[0], "{} and {}", at(23), at(76));
    assert_eq!((at(50), at(10)), (GREY[0], 255));
    // top and bottom are lit alike, as the light comes from neither
    let column = |y: u32| picture.get_pixel(50, y).0[0];
    assert!(column(24).abs_diff(column(75)) <= 6, "{} and {}", column(24), column(75));
    // four times as fine, it is the same light
    let grey = Arc::new(RgbaImage::from_pixel(100, 100, Rgba([GREY[0], GREY[1], GREY[2], 255])));
    let originals = Originals { photos: [("grey".into(), grey)].into(), ..Originals::default() };
    let plan = Plan::of_sheet(&p.sheet, &p.library, &originals, 4.0 * 25.4, 0.0).unwrap();
    let fine = pixels(&plan, &Unwatched).unwrap();
    for (x, y) in [(24, 50), (27, 50), (50, 50), (73, 50), (50, 25), (50, 74)] {
        let mean = (0..16).map(|k| u32::from(fine.get_pixel(4 * x + k % 4, 4 * y + k / 4).0[0])).sum::<u32>() / 16;
        let coarse = u32::from(picture.get_pixel(x, y).0[0]);
        assert!(mean.abs_diff(coarse) <= 14, "at {x}, {y}: {coarse} and {mean}");
    }
    p.finish(Finish { gloss: Some(Gloss { off: true, ..gloss }), ..Finish::default() });
    assert_eq!(p.at(23, 50), GREY);
}

#[test]
fn a_pulled_photo_lies_between_its_corners() {
    let mut p = poster();
    p.edit(Edit::SetBackground { colour: colour("#00ff00") });
    let first = p.sheet.pieces[0].window().unwrap().fills[0].id;
    p.edit(Edit::RemoveFill { piece: p.piece, fill: first });
    // 100 pixels on 60 mm: with its top corners drawn in by a quarter each, a trapezium
    let pull = Some([[0.25, 0.0], [-0.25, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let placement = Placement { x: 50.0, y: 50.0, scale: 0.6, turn: 0.0, mirrored: false, slant: 0.0, pull };
    p.edit(Edit::SetPlacement { piece: p.piece, fill: p.photo, placement });
    let picture = p.picture();
    let is = |x, y, c: [u8; 3]| near(picture.get_pixel(x, y).0, c);
    // the left edge runs from (35, 20) to (20, 80)
    for (y, edge) in [(30, 32.5), (50, 27.5), (70, 22.5)] {
        let (inside, outside) = ((edge + 2.0) as u32, (edge - 2.0) as u32);
        assert!(is(inside, y, GREY) && is(99 - inside, y, GREY), "inside at {y}");
        assert!(is(outside, y, [0, 255, 0]) && is(99 - outside, y, [0, 255, 0]), "outside at {y}");
    }
    let crossed = Placement { pull: Some([[1.2, 0.0], [0.0; 2], [0.0; 2], [0.0; 2]]), ..placement };
    let refused =
        apply(&p.sheet, &Edit::SetPlacement { piece: p.piece, fill: p.photo, placement: crossed }, &p.library);
    assert!(refused.is_err());
}

#[test]
fn another_window_is_seen_only_inside() {
    let mut p = poster();
    // a disc of 40 mm beside the box, shown through the box as well, moved into its corner
    let disc = BasicShape { width: 40.0, height: 40.0, figure: Figure::Ellipse };
    let form = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
    let (other, fill) = (PieceId::fresh(), FillId::fresh());
    p.edit(Edit::AddWindow { piece: other, form, fill });
    p.edit(Edit::SetFillColour { piece: other, fill, colour: colour("#ff0000") });
    let by = Similarity { a: 1.0, b: 0.0, dx: -30.0, dy: 0.0 };
    let shown = FillPaint::Window(WindowFill { piece: other, by });
    p.edit(Edit::AddFill { piece: p.piece, fill: Fill::new(FillId::fresh(), shown) });
    p.edit(Edit::HidePiece { piece: other, hidden: true });
    let picture = p.picture();
    let is = |x, y, c: [u8; 3]| near(picture.get_pixel(x, y).0, c);
    assert!(is(30, 50, [255, 0, 0]), "the disc inside of the box");
    assert!(is(10, 50, [255; 3]), "and not outside of it");
    assert!(is(50, 50, GREY) && is(30, 78, GREY));
}

#[test]
fn paper_has_grain_and_no_seam() {
    let mut p = poster();
    p.edit(Edit::RemovePiece { piece: p.piece });
    p.edit(Edit::SetBackground { colour: colour("#808080") });
    p.edit(Edit::ResizeSheet { width: 200.0, height: 100.0, unit: Unit::Mm, ppi: 25.4 * 4.0 });
    assert!(p.picture().pixels().all(|c| c.0 == [128; 3]));
    p.edit(Edit::SetPaper { grain: 0.8 });
    let plan = Plan::of_sheet(&p.sheet, &p.library, &Originals::default(), 25.4 * 4.0, 0.0).unwrap();
    let picture = image::DynamicImage::ImageRgb8(pixels(&plan, &Unwatched).unwrap()).into_luma8();
    let mean = picture.pixels().map(|c| f64::from(c.0[0])).sum::<f64>() / f64::from(picture.width() * picture.height());
    let far = picture.pixels().map(|c| (f64::from(c.0[0]) - mean).powi(2)).sum::<f64>();
    let deviation = (far / f64::from(picture.width() * picture.height())).sqrt();
    assert!((mean - 128.0).abs() < 8.0 && (4.0..30.0).contains(&deviation), "{mean} and {deviation}");
    // from one column to the next it changes as much at the seam (80 mm, 320 pixels) as anywhere
    let step = |x: u32| -> f64 {
        let change = |y| f64::from(picture.get_pixel(x, y).0[0].abs_diff(picture.get_pixel(x - 1, y).0[0]));
        (10..390).map(change).sum::<f64>() / 380.0
    };
    let usual = (300..316).map(step).sum::<f64>() / 16.0;
    assert!(step(320) < 1.6 * usual, "{} at the seam, {usual} beside it", step(320));
}

#[test]
fn what_is_printed_reaches_into_the_bleed() {
    let mut p = poster();
    p.edit(Edit::SetBackground { colour: colour("#2040c0") });
    p.edit(Edit::Move {
        piece: p.piece,
        what: inky_core::edit::Grip::Both,
        by: Similarity { a: 1.0, b: 0.0, dx: 20.0, dy: 0.0 },
    });
    p.edit(Edit::SetBleed { bleed: 5.0 });
    assert_eq!(p.picture().dimensions(), (100, 100), "a trimmed file is as large as before");
    let grey = Arc::new(RgbaImage::from_pixel(100, 100, Rgba([GREY[0], GREY[1], GREY[2], 255])));
    let originals = Originals { photos: [("grey".into(), grey)].into(), ..Originals::default() };
    let plan = Plan::of_sheet(&p.sheet, &p.library, &originals, 25.4, p.sheet.bleed).unwrap();
    let picture = pixels(&plan, &Unwatched).unwrap();
    assert_eq!(picture.dimensions(), (110, 110));
    // the box that ended at the cut goes no further; the ground does
    assert!(near(picture.get_pixel(103, 55).0, GREY) && near(picture.get_pixel(107, 55).0, [0x20, 0x40, 0xc0]));
    assert!(near(picture.get_pixel(1, 1).0, [0x20, 0x40, 0xc0]));
}
