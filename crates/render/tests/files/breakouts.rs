//! What breaks out, in the file.

use crate::poster;
use image::{Rgb, RgbImage, Rgba, RgbaImage};
use inky_core::breakout::WorkingMatte;
use inky_core::cutout::{SubjectStroke, Unwatched};
use inky_core::edit::{Edit, Grip, apply};
use inky_core::handles::{CrossingView, PieceHandles};
use inky_core::library::LoadedLibrary;
use inky_core::scene::scene;
use inky_core::sheet::{
    Anchor, BasicShape, Blend, BreakoutStroke, Brush, Colour, FadeSide, Figure, FillId, FillPaint, Finish, Form,
    FormId, FormShape, LineSide, Paint, PieceId, Placement, Pose, ReachLine, Rim, Shadow, ShadowPlace, Sheet,
    Similarity, Softness, Stroke, Tint,
};
use inky_render::{Originals, Plan, pixels};
use std::sync::Arc;

fn drawn(sheet: &Sheet, library: &LoadedLibrary, originals: &Originals, ppi: f64) -> RgbImage {
    let plan = Plan::of_sheet(sheet, library, originals, ppi, 0.0).unwrap();
    pixels(&plan, &Unwatched).unwrap()
}

/// A green rim, 4 mm wide.
fn rim(side: LineSide, over: bool) -> Rim {
    let paint = Paint::colour(Colour([0, 200, 0]));
    Rim { width: 4.0, side, paint, dashes: Vec::new(), round: false, over, off: false }
}

/// Black, 3 mm to the right of what breaks out.
fn contact_shadow() -> Shadow {
    Shadow {
        place: ShadowPlace::Contact,
        tint: Tint::Colour(Colour([0, 0, 0])),
        blend: Blend::Normal,
        strength: 1.0,
        angle: 0.0,
        distance: 3.0,
        spread: 0.0,
        size: 0.5,
        off: false,
    }
}

/// How far across the sheet the middle of the pole lies at a height of it, in millimetres.
fn on_pole(placement: &Placement, y: f64) -> f64 {
    placement.x - (y - placement.y) * placement.turn.to_radians().tan()
}

/// The colour in the middle of the pole, of a picture with 10 pixels for a millimetre.
fn at_pole(picture: &RgbImage, placement: &Placement, y: f64) -> [u8; 3] {
    picture.get_pixel((on_pole(placement, y) * 10.0) as u32, (y * 10.0) as u32).0
}

fn near(a: [u8; 3], b: [u8; 3]) -> bool {
    (0..3).all(|i| a[i].abs_diff(b[i]) <= 4)
}

const RED: [u8; 3] = [210, 20, 30];
const GREEN: [u8; 3] = [0, 200, 0];
const GROUND: [u8; 3] = [0x20, 0x40, 0x60];

/// The poster with a red pole up the middle of its photo, narrower than the letter and with a soft edge, that is let out above.
fn with_pole() -> (Sheet, LoadedLibrary, Originals, Placement) {
    let (mut sheet, mut library, mut originals) = poster();
    // a red pole up the middle of the photo, narrower than the letter, with a soft edge
    let alpha = |x: u32| (255.0 * (1.0 - ((f64::from(x) - 150.0).abs() - 7.0) / 3.0).clamp(0.0, 1.0)) as u8;
    let matte = image::GrayImage::from_fn(300, 200, |x, _| image::Luma([alpha(x)]));
    let pole = RgbaImage::from_fn(300, 200, |x, _| Rgba([210, 20, 30, alpha(x)]));
    library.mattes.insert("pole".into(), Arc::new(WorkingMatte::new(&matte)));
    originals.cutouts.insert("pole".into(), Arc::new(pole));
    let piece = sheet.pieces[0].id;
    let fill = sheet.pieces[0].window().unwrap().photos().next().unwrap().0;
    let placement = Placement { x: 50.0, y: 35.0, scale: 0.35, turn: 3.0, mirrored: false, slant: 0.0, pull: None };
    for edit in [
        Edit::SetPlacement { piece, fill, placement },
        Edit::found("red".into(), "pole".into()),
        Edit::LetOut { piece, anchor: Anchor { fill, subject: 0, x: 150.0, y: 20.0 } },
    ] {
        sheet = apply(&sheet, &edit, &library).unwrap();
    }
    (sheet, library, originals, placement)
}

/// Where the subject is solid, the photo inside of the letter and what breaks out of it meet without a line, whatever
/// the ground is like.
#[test]
fn no_seam_shows_where_the_subject_crosses_the_edge() {
    let (clear, library, originals, placement) = with_pole();
    let soft = Finish { softness: Softness { width: 2.0, side: FadeSide::Both }, ..Finish::default() };
    let piece = clear.pieces[0].id;
    let soft = apply(&clear, &Edit::SetFinish { piece, finish: soft }, &library).unwrap();
    let rim = Finish { rims: vec![rim(LineSide::Centre, false)].into(), ..Finish::default() };
    let rimmed = apply(&clear, &Edit::SetFinish { piece, finish: rim }, &library).unwrap();
    let brushed = brushed(&clear);
    let grounds = [("#000000", 100.0), ("#ffffff", 300.0), ("#20c0ff", 77.0), ("#000000", 300.0)];
    for ((ground, ppi), sheet) in grounds.into_iter().flat_map(|g| [&clear, &soft, &rimmed, &brushed].map(|s| (g, s))) {
        let (top, _) = reach(sheet, &library);
        let sheet = apply(sheet, &Edit::SetBackground { colour: ground.parse().unwrap() }, &library).unwrap();
        let picture = drawn(&sheet, &library, &originals, ppi);
        let to_photo = placement.affine(300, 200).inverse();
        let per_mm = ppi / 25.4;
        // down the core of the pole, from well above the letter into it
        let mut seen = 0;
        // (farther down, a soft side of the letter may fade the pole as it should)
        for y in 0..((top + 5.0) * per_mm) as u32 {
            for x in 0..picture.width() {
                let p = to_photo * kurbo::Point::new((f64::from(x) + 0.5) / per_mm, (f64::from(y) + 0.5) / per_mm);
                if (p.x - 150.0).abs() < 5.0 && p.y > 12.0 {
                    seen += 1;
                    let c = picture.get_pixel(x, y).0;
                    let off = c[0].abs_diff(210).max(c[1].abs_diff(20)).max(c[2].abs_diff(30));
                    assert!(off <= 3, "a seam at {x}, {y} on {ground} at {ppi} ppi: {c:?}");
                }
            }
        }
        assert!(seen > 200);
    }
}

/// The sheet with a stroke of a soft brush in place of its letter.
fn brushed(sheet: &Sheet) -> Sheet {
    let mut sheet = sheet.clone();
    let stroke = Stroke { points: vec![[0.0, -15.0, 1.0], [0.0, 20.0, 1.0]], size: 30.0, hardness: 0.5, erase: false };
    let brush = FormShape::Brush(Brush { strokes: vec![stroke].into() });
    let window = sheet.pieces[0].window_mut().expect("a window");
    window.opening.forms = vec![Form::new(FormId::fresh(), Pose::at(50.0, 35.0), brush)];
    sheet
}

/// A rim runs beneath what breaks out or over it, as it says, on whichever side of the edge it lies.
#[test]
fn rims_run_beneath_what_breaks_out_or_over_it() {
    let (mut sheet, library, originals, placement) = with_pole();
    let piece = sheet.pieces[0].id;
    let opening = &sheet.pieces[0].window().unwrap().opening;
    let top = kurbo::Shape::bounding_box(&inky_core::outline::opening_path(opening, &library).unwrap()).y0;
    for (side, from, to) in [
        (LineSide::Inside, top, top + 4.0),
        (LineSide::Centre, top - 2.0, top + 2.0),
        (LineSide::Outside, top - 4.0, top),
    ] {
        for over in [false, true] {
            let finish = Finish { rims: vec![rim(side, over)].into(), ..Finish::default() };
            sheet = apply(&sheet, &Edit::SetFinish { piece, finish }, &library).unwrap();
            let picture = drawn(&sheet, &library, &originals, 254.0);
            // down the middle of the pole, through the rim
            let mut seen = 0;
            for k in 4..36 {
                let y = from + (to - from) * f64::from(k) / 40.0;
                let (x, c) = (on_pole(&placement, y), at_pole(&picture, &placement, y));
                let known = if over { [0, 200, 0] } else { [210, 20, 30] };
                assert!(
                    (0..3).all(|i| c[i].abs_diff(known[i]) <= 4),
                    "{side:?}, over: {over}, at {x:.1}, {y:.1}: {c:?}"
                );
                seen += 1;
            }
            assert_eq!(seen, 32);
        }
    }
}

/// Top and bottom of the opening, in millimetres.
fn reach(sheet: &Sheet, library: &LoadedLibrary) -> (f64, f64) {
    let opening = &sheet.pieces[0].window().unwrap().opening;
    let b = kurbo::Shape::bounding_box(&inky_core::outline::opening_path(opening, library).unwrap());
    (b.y0, b.y1)
}

/// The pole let out above and below, with a rim along the edge.
fn through() -> (Sheet, LoadedLibrary, Originals, Placement) {
    let (mut sheet, library, originals, placement) = with_pole();
    let piece = sheet.pieces[0].id;
    let fill = sheet.pieces[0].window().unwrap().photos().next().unwrap().0;
    let finish = Finish { rims: vec![rim(LineSide::Centre, false)].into(), ..Finish::default() };
    for edit in [
        Edit::LetOut { piece, anchor: Anchor { fill, subject: 0, x: 150.0, y: 190.0 } },
        Edit::SetFinish { piece, finish },
    ] {
        sheet = apply(&sheet, &edit, &library).unwrap();
    }
    (sheet, library, originals, placement)
}

fn handles(sheet: &Sheet, library: &LoadedLibrary, at: usize) -> PieceHandles {
    PieceHandles::of(sheet, &sheet.pieces[at], &scene(sheet, library).pieces[at], library)
}

fn crossings(sheet: &Sheet, library: &LoadedLibrary) -> Vec<CrossingView> {
    handles(sheet, library, 0).crossings
}

#[test]
fn a_part_runs_over_the_edge_at_one_place_and_under_it_at_the_other() {
    let (sheet, library, originals, placement) = through();
    let piece = sheet.pieces[0].id;
    let (top, bottom) = reach(&sheet, &library);
    let crossings = crossings(&sheet, &library);
    assert_eq!(crossings.len(), 2, "{crossings:?}");
    for (high, under) in [(true, [true, false]), (false, [false, true])] {
        let crossing = crossings.iter().find(|c| (c.at[1] < (top + bottom) / 2.0) == high).unwrap();
        let cross = Edit::Cross { piece, anchor: crossing.anchor, under: true, was: Vec::new() };
        let crossed = apply(&sheet, &cross, &library).unwrap();
        let picture = drawn(&crossed, &library, &originals, 254.0);
        for (edge, under) in [top, bottom].into_iter().zip(under) {
            for off in [-1.5, -0.5, 0.5, 1.5] {
                let c = at_pole(&picture, &placement, edge + off);
                assert!(near(c, if under { GREEN } else { RED }), "{high}, at {edge} {off:+}: {c:?}");
            }
        }
        // and over again, although the pole has slid since
        let slid = Placement { x: placement.x + 1.5, y: placement.y + 1.0, ..placement };
        let fill = crossing.anchor.fill;
        let moved = apply(&crossed, &Edit::SetPlacement { piece, fill, placement: slid }, &library).unwrap();
        let now = self::crossings(&moved, &library);
        let told: Vec<_> = now.iter().filter(|c| !c.under_by.is_empty()).collect();
        assert_eq!(told.len(), 1);
        let back = Edit::Cross { piece, anchor: told[0].anchor, under: false, was: told[0].under_by.clone() };
        let over = apply(&moved, &back, &library).unwrap();
        assert!(over.pieces[0].window().unwrap().breakout.under.is_empty());
    }
}

#[test]
fn nothing_passes_the_reach_line_and_paint_lets_out_only_the_subject() {
    let (sheet, library, originals, placement) = through();
    let piece = sheet.pieces[0].id;
    let (top, bottom) = reach(&sheet, &library);
    let line = ReachLine { from: [0.0, top - 5.0], to: [90.0, top - 5.0] };
    let limited = apply(&sheet, &Edit::SetReach { piece, reach: Some(line) }, &library).unwrap();
    let picture = drawn(&limited, &library, &originals, 254.0);
    let seen = [top - 4.5, bottom + 3.0, top - 5.5].map(|y| at_pole(&picture, &placement, y));
    assert!(near(seen[0], RED) && near(seen[1], RED) && near(seen[2], GROUND), "{seen:?}");
    let nowhere = ReachLine { from: [1.0, 1.0], to: [1.0, 1.0] };
    assert!(apply(&sheet, &Edit::SetReach { piece, reach: Some(nowhere) }, &library).is_err());

    // held in by hand where the pole leaves above, let out by hand where nothing was let out, beside the pole too
    let (sheet, library, originals, placement) = with_pole();
    let piece = sheet.pieces[0].id;
    let fill = sheet.pieces[0].window().unwrap().photos().next().unwrap().0;
    let stroke = |keep, y: f64| BreakoutStroke {
        fill,
        subject: 0,
        stroke: SubjectStroke::new(keep, 60.0, vec![[130.0, y], [170.0, y]]),
    };
    let to_photo = placement.affine(300, 200).inverse();
    let at = |y: f64| (to_photo * kurbo::Point::new(on_pole(&placement, y), y)).y;
    let strokes = vec![stroke(false, at(top - 8.0)), stroke(true, at(bottom + 6.0))];
    let painted = apply(&sheet, &Edit::PaintBreakout { piece, strokes: strokes.into() }, &library).unwrap();
    let picture = drawn(&painted, &library, &originals, 254.0);
    let seen = [top - 8.0, bottom + 6.0].map(|y| at_pole(&picture, &placement, y));
    assert!(near(seen[0], GROUND) && near(seen[1], RED), "{seen:?}");
    let beside =
        picture.get_pixel(((on_pole(&placement, bottom + 6.0) + 9.0) * 10.0) as u32, ((bottom + 6.0) * 10.0) as u32);
    assert!(near(beside.0, GROUND), "the photo came along: {beside:?}");
}

#[test]
fn a_contact_shadow_falls_on_the_sheet_and_not_on_the_photo() {
    let (mut sheet, library, originals, placement) = with_pole();
    let piece = sheet.pieces[0].id;
    let (top, bottom) = reach(&sheet, &library);
    let white = Edit::SetBackground { colour: "#ffffff".parse().unwrap() };
    sheet = apply(&sheet, &white, &library).unwrap();
    let thrown = Finish { shadows: vec![contact_shadow()].into(), ..Finish::default() };
    let soft = Finish { softness: Softness { width: 1.0, side: FadeSide::Both }, ..thrown.clone() };
    let plain = drawn(&sheet, &library, &originals, 254.0);
    for finish in [thrown, soft] {
        let shaded = apply(&sheet, &Edit::SetFinish { piece, finish }, &library).unwrap();
        let picture = drawn(&shaded, &library, &originals, 254.0);
        let right = |picture: &RgbImage, y: f64, by: f64| -> Rgb<u8> {
            *picture.get_pixel(((on_pole(&placement, y) + by) * 10.0) as u32, (y * 10.0) as u32)
        };
        // the pole is 5 to 7 mm wide, and its shadow lies 3 mm to the right
        assert!(right(&picture, top - 6.0, 4.5).0[0] < 40, "no shadow: {:?}", right(&picture, top - 6.0, 4.5));
        assert_eq!(right(&picture, top - 6.0, -5.0).0, [255; 3]);
        for y in [top + 3.0, (top + bottom) / 2.0] {
            // from the letter's left side to its right one
            for x in [480, 500, 520, 526] {
                let at = (x, (y * 10.0) as u32);
                let (there, known) = (picture.get_pixel(at.0, at.1).0, plain.get_pixel(at.0, at.1).0);
                assert!(near(there, known), "a shadow on the photo at {at:?}: {there:?}, not {known:?}");
            }
        }
        assert_eq!(right(&picture, bottom + 4.0, 4.5).0, [255; 3], "nothing breaks out below");
    }
}

/// Windows of their own that share a photo: what breaks out of one is cut by the outer edges only, and hides the rims of the others.
#[test]
fn a_subject_stands_before_windows_that_share_its_photo() {
    let (mut sheet, library, originals, placement) = with_pole();
    let (piece, upper, shared) = (sheet.pieces[0].id, PieceId::fresh(), FillId::fresh());
    let fill = sheet.pieces[0].window().unwrap().photos().next().unwrap().0;
    let box_of = BasicShape { width: 24.0, height: 8.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(50.0, 8.0), FormShape::Basic(box_of));
    let finish = Finish { rims: vec![rim(LineSide::Centre, false)].into(), ..Finish::default() };
    let parts = sheet.pieces[0].window().unwrap().breakout.parts.iter();
    let out: Vec<Anchor> = parts.map(|p| Anchor { fill, subject: 0, x: p.at[0], y: p.at[1] }).collect();
    let between = Anchor { fill, subject: 0, x: 150.0, y: 43.0 };
    for edit in [
        Edit::AddWindow { piece: upper, form, fill: FillId::fresh() },
        Edit::ShareFill { piece: upper, fill: shared, of: fill },
        Edit::SetFinish { piece: upper, finish },
        Edit::KeepIn { piece, anchors: out },
        Edit::LetOut { piece, anchor: between },
    ] {
        sheet = apply(&sheet, &edit, &library).unwrap();
    }
    assert_eq!(sheet.pieces[1].id, piece, "what breaks out stands before the whole row");
    let picture = drawn(&sheet, &library, &originals, 254.0);
    // inside, over the lower rim, between the two windows; above, where nothing is let out, rim and ground
    for y in [8.0, 10.5, 11.5, 12.5, 13.5, 15.0, 17.0] {
        assert!(near(at_pole(&picture, &placement, y), RED), "at {y}: {:?}", at_pole(&picture, &placement, y));
    }
    assert!(near(at_pole(&picture, &placement, 3.0), GREEN) && near(at_pole(&picture, &placement, 1.0), GROUND));
    let beside = picture.get_pixel((on_pole(&placement, 15.5) * 10.0) as u32 + 60, 155).0;
    assert!(near(beside, GROUND), "{beside:?}");

    // its contact shadow falls on the sheet between the two, and not on what the other window shows of its own photo
    let finish = Finish { shadows: vec![contact_shadow()].into(), ..sheet.pieces[1].window().unwrap().finish.clone() };
    let shaded = apply(&sheet, &Edit::SetFinish { piece, finish }, &library).unwrap();
    let shaded = drawn(&shaded, &library, &originals, 254.0);
    let right = |picture: &RgbImage, y: f64| {
        let x = on_pole(&placement, y) + 4.5;
        picture.get_pixel((x * 10.0) as u32, (y * 10.0) as u32).0
    };
    for y in [6.5, 8.0, 9.5, 11.0, 13.0] {
        assert!(near(right(&shaded, y), right(&picture, y)), "at {y}: {:?}", right(&shaded, y));
    }
    assert!(right(&shaded, 15.0)[2] + 20 < right(&picture, 15.0)[2], "{:?}", right(&shaded, 15.0));

    // where it runs under the rim of the other window, all of that is seen
    let crossings = handles(&sheet, &library, 1).crossings;
    let lower = crossings.iter().find(|c| (c.at[1] - 12.0).abs() < 2.0).expect("the edge of the other window");
    let under = Edit::Cross { piece, anchor: lower.anchor, under: true, was: Vec::new() };
    let crossed = drawn(&apply(&sheet, &under, &library).unwrap(), &library, &originals, 254.0);
    for (y, colour) in
        [(8.0, RED), (10.5, GREEN), (11.7, GREEN), (12.3, GREEN), (13.5, GREEN), (15.0, RED), (17.0, RED)]
    {
        assert!(near(at_pole(&crossed, &placement, y), colour), "at {y}: {:?}", at_pole(&crossed, &placement, y));
    }

    // another photo behind the same window, which the other one does not share, is cut by its own edge alone
    let (second, aside) = (FillId::fresh(), Placement { x: placement.x + 7.0, ..placement });
    let photo = sheet.pieces[1].window().unwrap().photos().next().unwrap().1.photo.clone();
    let mut two = sheet.clone();
    for edit in [
        Edit::AddPhoto { piece, fill: second, photo },
        Edit::SetPlacement { piece, fill: second, placement: aside },
        Edit::LetOut { piece, anchor: Anchor { fill: second, subject: 0, x: 150.0, y: 43.0 } },
    ] {
        two = apply(&two, &edit, &library).unwrap();
    }
    let picture = drawn(&two, &library, &originals, 254.0);
    for y in [8.0, 10.5, 11.5, 12.5, 15.0] {
        assert!(near(at_pole(&picture, &placement, y), RED), "at {y}: {:?}", at_pole(&picture, &placement, y));
        assert!(near(at_pole(&picture, &aside, y), RED), "beside, at {y}: {:?}", at_pole(&picture, &aside, y));
    }
    let edges: Vec<u32> = handles(&two, &library, 1).edges.iter().map(|e| e.key).collect();
    assert!(edges.windows(2).all(|k| k[0] < k[1]), "edges of both are told apart: {edges:?}");

    // it lies at one place for both, stays where one of them is moved, and lies alone again if that is wanted
    let place = |sheet: &Sheet, piece: PieceId| {
        sheet.piece(piece).unwrap().window().unwrap().photos().next().unwrap().1.placement
    };
    let slid = Placement { x: placement.x + 2.0, ..placement };
    let sheet = apply(&sheet, &Edit::SetPlacement { piece: upper, fill: shared, placement: slid }, &library).unwrap();
    assert_eq!((place(&sheet, piece), place(&sheet, upper)), (slid, slid));
    let by = Similarity { a: 1.0, b: 0.0, dx: 5.0, dy: 5.0 };
    let moved = apply(&sheet, &Edit::Move { piece, what: Grip::Both, by }, &library).unwrap();
    assert_eq!((place(&moved, piece), place(&moved, upper)), (slid, slid));
    let mut alone = sheet.piece(upper).unwrap().window().unwrap().fill(shared).unwrap().clone();
    let FillPaint::Photo(photo) = &mut alone.paint else { panic!("no photo") };
    photo.shared = None;
    let sheet = apply(&sheet, &Edit::SetFill { piece: upper, fill: alone }, &library).unwrap();
    let sheet = apply(&sheet, &Edit::SetPlacement { piece: upper, fill: shared, placement }, &library).unwrap();
    assert_eq!((place(&sheet, piece), place(&sheet, upper)), (slid, placement));
    let own = Edit::ShareFill { piece, fill: FillId::fresh(), of: fill };
    assert!(apply(&sheet, &own, &library).is_err(), "a window's own photo");
}
