//! Windows that are shown several times.

use super::edits::{Word, word};
use inky_core::edit::*;
use inky_core::outline::{member_transforms, shown_outline, width_along};
use inky_core::scene::{SceneBuilder, SceneMemo};
use inky_core::sheet::*;
use kurbo::{Affine, Rect, Shape, Vec2};

/// A sheet of 200 mm with a box of 30 by 80 mm in its upper left part, from (10, 20) on.
fn panel() -> Word {
    let mut w = word();
    w.sheet = Sheet::new("Rows", 200.0, 200.0, Unit::Mm, 25.4);
    let shape = BasicShape { width: 30.0, height: 80.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(25.0, 60.0), FormShape::Basic(shape));
    (w.piece, w.form) = (PieceId::fresh(), form.id);
    w.edit(Edit::AddWindow { piece: w.piece, form, fill: FillId::fresh() });
    w
}

fn window(w: &Word) -> &Window {
    w.sheet.piece(w.piece).unwrap().window().unwrap()
}

fn row(count: u32, gap: f64) -> Repeat {
    let layout = Layout::Row { count, gap, along: [1.0, 0.0] };
    Repeat { layout, turn: 0.0, scale: 1.0, behind: false, looks: Vec::new().into() }
}

fn set(w: &mut Word, repeat: Repeat) -> Result<(), Refusal> {
    w.sheet = w.try_edit(Edit::SetRepeat { piece: w.piece, repeat: Some(repeat) })?;
    Ok(())
}

/// The boxes of the members.
fn boxes(w: &Word) -> Vec<Rect> {
    let outline = shown_outline(&w.sheet, window(w), &w.library).unwrap();
    let all = member_transforms(window(w).repeat.as_ref().unwrap(), &outline.path);
    all.iter().map(|t| (*t * (*outline.path).clone()).bounding_box()).collect()
}

fn lefts(w: &Word) -> Vec<i32> {
    boxes(w).iter().map(|b| b.x0.round() as i32).collect()
}

fn fragment(w: &Word) -> inky_core::scene::tree::Fragment {
    let scene = SceneBuilder::new(&w.sheet, &w.library, &SceneMemo::of(1 << 20)).scene();
    (*scene.pieces[0].fragment).clone()
}

#[test]
fn a_row_stands_at_the_gap_that_is_seen() {
    let mut w = panel();
    set(&mut w, row(3, 5.0)).unwrap();
    assert_eq!(lefts(&w), [10, 45, 80]);
    // slanted, their boxes lie over one another, and the gap between their edges stays
    let lean = [1.0, 0.0, -0.5, 1.0, 30.0, 0.0];
    w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Opening, by: lean });
    let all = boxes(&w);
    assert!((all[1].x0 - all[0].x0 - 35.0).abs() < 1e-6 && all[1].x0 < all[0].x1, "{all:?}");
    // members that grow keep it as well
    let mut w = panel();
    set(&mut w, Repeat { scale: 1.5, ..row(3, 5.0) }).unwrap();
    let all = boxes(&w);
    assert!(all.windows(2).all(|p| (p[1].x0 - p[0].x1 - 5.0).abs() < 1e-6), "{all:?}");
}

#[test]
fn a_row_of_one_is_its_member() {
    let mut w = panel();
    let before = fragment(&w);
    set(&mut w, row(1, 5.0)).unwrap();
    assert_eq!(fragment(&w), before);
    w.edit(Edit::SetRepeat { piece: w.piece, repeat: None });
    assert_eq!(fragment(&w), before);
}

#[test]
fn grids_and_rings_count_from_the_window_on() {
    let mut w = panel();
    let layout = Layout::Grid { columns: 2, rows: 2, gaps: [4.0, 6.0], along: [1.0, 0.0], down: [0.0, 1.0] };
    set(&mut w, Repeat { layout, ..row(1, 0.0) }).unwrap();
    let corners: Vec<_> = boxes(&w).iter().map(|b| (b.x0.round(), b.y0.round())).collect();
    assert_eq!(corners, [(10.0, 20.0), (44.0, 20.0), (10.0, 106.0), (44.0, 106.0)]);
    for (upright, wide) in [(true, 30.0), (false, 80.0)] {
        let layout = Layout::Ring { count: 4, centre: [100.0, 60.0], sweep: 360.0, upright };
        set(&mut w, Repeat { layout, ..row(1, 0.0) }).unwrap();
        let all = boxes(&w);
        let centres: Vec<_> = all.iter().map(|b| (b.center().x.round(), b.center().y.round())).collect();
        assert_eq!(centres, [(25.0, 60.0), (100.0, -15.0), (175.0, 60.0), (100.0, 135.0)]);
        assert!((all[1].width() - wide).abs() < 1e-6);
    }
    // half around, both ends are members
    let layout = Layout::Ring { count: 3, centre: [100.0, 60.0], sweep: 180.0, upright: true };
    set(&mut w, Repeat { layout, ..row(1, 0.0) }).unwrap();
    assert_eq!(lefts(&w), [10, 85, 160]);
}

#[test]
fn members_stay_what_they_are_when_all_are_reshaped() {
    let layouts = [
        Layout::Row { count: 3, gap: 5.0, along: [0.8, 0.6] },
        Layout::Grid { columns: 2, rows: 2, gaps: [4.0, 6.0], along: [1.0, 0.0], down: [0.0, 1.0] },
        Layout::Ring { count: 5, centre: [100.0, 60.0], sweep: 200.0, upright: false },
        Layout::Line(LineLayout {
            count: 4,
            distance: 30.0,
            points: vec![[30.0, 60.0, 1.0], [80.0, 30.0, 0.4], [150.0, 70.0, 1.0]],
            smooth: true,
            upright: false,
            level: 10.0,
            thinning: 0.5,
        }),
    ];
    for layout in layouts {
        let mut w = panel();
        let look = MemberLook {
            member: 1,
            by: Affine::rotate_about(0.3, (40.0, 60.0)).as_coeffs(),
            hidden: false,
            word: None,
        };
        set(&mut w, Repeat { layout: layout.clone(), turn: 4.0, looks: vec![look].into(), ..row(1, 0.0) }).unwrap();
        let before = (boxes(&w), w.sheet.clone());
        for by in [Affine::scale_about(1.4, (30.0, 50.0)), Affine::FLIP_X.then_translate(Vec2::new(210.0, 0.0))] {
            w.sheet = before.1.clone();
            w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: by.as_coeffs() });
            for (was, now) in before.0.iter().zip(boxes(&w)) {
                let was = by.transform_rect_bbox(*was);
                assert!((was.center() - now.center()).hypot() < 1e-6, "{layout:?} {by:?}: {was:?} {now:?}");
            }
        }
    }
}

#[test]
fn what_is_given_to_one_member_is_its_own() {
    let mut w = panel();
    let photos = ["a", "b", "c"].map(|id| (id.into(), Photo::new(id, 300, 200)));
    w.library.photos.extend(photos);
    let deal = |from, ids: &[&str]| Edit::Deal {
        piece: w.piece,
        from,
        photos: ids.iter().map(|id| (FillId::fresh(), (*id).into())).collect(),
        within_bundle: false,
    };
    let (three, one, far) = (deal(0, &["a", "b", "c"]), deal(1, &["c"]), deal(2, &["a", "b"]));
    assert_eq!(w.try_edit(three.clone()).unwrap_err(), Refusal::NoMember);
    set(&mut w, row(3, 5.0)).unwrap();
    w.edit(three);
    w.edit(one);
    let shown = |w: &Word, k| {
        window(w).in_member(k).fills.iter().filter_map(|f| f.photo().map(|p| p.0.clone())).collect::<Vec<_>>()
    };
    assert_eq!([0, 1, 2].map(|k| shown(&w, k)), [["a"], ["c"], ["c"]]);
    let before = w.sheet.clone();
    assert_eq!(w.try_edit(far).unwrap_err(), Refusal::NoMember);
    // set free, it lies where it lay
    let copy = PieceId::fresh();
    let places = boxes(&w);
    w.edit(Edit::SetFree { piece: w.piece, member: 1, copy });
    let freed = w.sheet.piece(copy).unwrap().window().unwrap();
    let b = shown_outline(&w.sheet, freed, &w.library).unwrap().path.bounding_box();
    assert!((b.x0 - places[1].x0).abs() < 1e-6 && freed.repeat.is_none() && freed.fills.len() == 1);
    assert!(window(&w).repeat.as_ref().unwrap().look(1).unwrap().hidden);
    // fewer members: what belonged to those that are gone goes
    w.sheet = before;
    set(&mut w, row(1, 5.0)).unwrap();
    assert_eq!(window(&w).fills.iter().filter(|f| f.member.is_some()).count(), 1);
}

#[test]
fn layouts_that_cannot_be_say_why() {
    let mut w = panel();
    let before = w.sheet.clone();
    for count in [0, 501, 10_000, u32::MAX] {
        assert_eq!(set(&mut w, row(count, 5.0)).unwrap_err(), Refusal::Members);
    }
    let layout = Layout::Grid { columns: 100_000, rows: 100_000, gaps: [0.0; 2], along: [1.0, 0.0], down: [0.0, 1.0] };
    assert_eq!(set(&mut w, Repeat { layout, ..row(1, 0.0) }).unwrap_err(), Refusal::Members);
    let bad = [
        row(3, f64::NAN),
        Repeat { scale: 0.0, ..row(3, 0.0) },
        Repeat { scale: 2.0, ..row(100, 0.0) },
        Repeat { turn: 1e9, ..row(3, 0.0) },
    ];
    for repeat in bad {
        assert!(matches!(set(&mut w, repeat).unwrap_err(), Refusal::Number(_)));
    }
    let word = |member, word: &str| MemberLook {
        member,
        by: Affine::IDENTITY.as_coeffs(),
        hidden: false,
        word: Some(word.into()),
    };
    let many: Vec<_> = (0..101).map(|k| word(k, "A")).collect();
    assert_eq!(set(&mut w, Repeat { looks: many.into(), ..row(200, 0.0) }).unwrap_err(), Refusal::Members);
    let long = vec![word(0, &"A".repeat(limits::CHARACTERS + 1))];
    assert_eq!(set(&mut w, Repeat { looks: long.into(), ..row(3, 0.0) }).unwrap_err(), Refusal::TooMuchType);
    let layout = Layout::Row { count: 3, gap: 1.0, along: [0.0, 0.0] };
    assert!(matches!(set(&mut w, Repeat { layout, ..row(3, 0.0) }).unwrap_err(), Refusal::Number(_)));
    assert_eq!(w.sheet, before);
}

#[test]
fn the_width_of_a_disc_is_its_diameter_in_every_direction() {
    let disc = kurbo::Circle::new((3.0, 4.0), 10.0).to_path(0.001);
    for k in 0..12 {
        let width = width_along(&disc, Vec2::from_angle(f64::from(k) * 0.5));
        assert!((width - 20.0).abs() < 0.02, "{width}");
    }
}

#[test]
fn members_lie_along_a_line() {
    let mut w = panel();
    set(&mut w, row(1, 0.0)).unwrap();
    let size = boxes(&w)[0].size();
    let line = LineLayout {
        count: 5,
        distance: 40.0,
        points: vec![[20.0, 50.0, 1.0], [100.0, 50.0, 0.0], [100.0, 90.0, 0.0]],
        smooth: false,
        upright: true,
        level: 0.0,
        thinning: 0.5,
    };
    let along = |line: &LineLayout| Repeat { layout: Layout::Line(line.clone()), ..row(1, 0.0) };
    set(&mut w, along(&line)).unwrap();
    let all = boxes(&w);
    let middles: Vec<_> = all.iter().map(|b| (b.center().x.round() as i32, b.center().y.round() as i32)).collect();
    // the last one lies beyond the end
    assert_eq!(middles, [(20, 50), (60, 50), (100, 50), (100, 90), (100, 130)]);
    let sizes: Vec<f64> = all.iter().map(|b| b.width() / size.width).collect();
    for (is, wanted) in sizes.iter().zip([1.0, 0.75, 0.5, 0.5, 0.5]) {
        assert!((is - wanted).abs() < 1e-3, "{sizes:?}");
    }
    // turned with the line, a member on the way down lies on its side
    set(&mut w, along(&LineLayout { upright: false, thinning: 0.0, ..line.clone() })).unwrap();
    let all = boxes(&w);
    assert!((all[0].width() - size.width).abs() < 1e-6);
    assert!((all[3].width() - size.height).abs() < 1e-3 && (all[4].height() - size.width).abs() < 1e-3);
    for bad in [
        LineLayout { points: vec![[20.0, 50.0, 1.0]], ..line.clone() },
        LineLayout { points: vec![[20.0, 50.0, 1.0]; 3], ..line.clone() },
        LineLayout { points: vec![[20.0, f64::NAN, 1.0], [30.0, 0.0, 1.0]], ..line.clone() },
        LineLayout { points: (0..201).map(|k| [f64::from(k), 0.0, 1.0]).collect(), ..line.clone() },
    ] {
        assert_eq!(set(&mut w, along(&bad)), Err(Refusal::LayoutLine));
    }
    assert!(set(&mut w, along(&LineLayout { distance: 0.0, ..line.clone() })).is_err());
    assert_eq!(set(&mut w, along(&LineLayout { count: 501, ..line })), Err(Refusal::Members));
}
