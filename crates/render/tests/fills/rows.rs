//! Windows that are repeated, pixel by pixel.

use super::panes::shown;
use super::{Poster, near, poster};
use image::RgbImage;
use inky_core::edit::{Edit, Grip, Refusal, apply};
use inky_core::outline::{bundle_outline, member_transforms};
use inky_core::sheet::*;

/// The box made 20 mm wide, from (10, 20) on, three times with gaps of 5 mm.
fn row(behind: bool) -> Poster {
    let mut p = poster();
    let narrow = [1.0 / 3.0, 0.0, 0.0, 1.0, 10.0 - 20.0 / 3.0, 0.0];
    p.edit(Edit::Transform { pieces: vec![p.piece], what: Grip::Opening, by: narrow });
    let layout = Layout::Row { count: 3, gap: 5.0, along: [1.0, 0.0] };
    let repeat = Repeat { layout, turn: 0.0, scale: 1.0, behind, looks: Vec::new().into() };
    p.edit(Edit::SetRepeat { piece: p.piece, repeat: Some(repeat) });
    p
}

#[test]
fn each_member_shows_its_photo_or_one_runs_behind_all() {
    let whole = shown(&poster());
    let (each, behind) = (shown(&row(false)), shown(&row(true)));
    for (x, y) in [(15, 30), (22, 60), (28, 75)] {
        assert_eq!(each.get_pixel(x, y), behind.get_pixel(x, y), "the first lies where the window lies");
        assert_eq!(each.get_pixel(x, y), each.get_pixel(x + 25, y));
        assert_eq!(each.get_pixel(x, y), each.get_pixel(x + 50, y));
        assert_eq!(behind.get_pixel(x + 25, y), whole.get_pixel(x + 25, y));
    }
    for picture in [&each, &behind] {
        assert_eq!(picture.get_pixel(32, 50).0, [255; 3], "a gap shows the ground");
        assert_ne!(picture.get_pixel(35, 50).0, [255; 3]);
    }
}

#[test]
fn members_have_photos_and_places_of_their_own() {
    let mut p = row(false);
    p.library.photos.insert("other".into(), Photo::new("other", 10, 10));
    let photos = vec![(FillId::fresh(), "other".into())];
    p.edit(Edit::Deal { piece: p.piece, from: 1, photos, within_bundle: false });
    let before = shown(&row(false));
    let dealt = shown(&p);
    assert_eq!(dealt.get_pixel(45, 50).0, [200, 40, 40]);
    assert_eq!(
        [dealt.get_pixel(20, 50), dealt.get_pixel(70, 50)],
        [before.get_pixel(20, 50), before.get_pixel(70, 50)]
    );
    // a member moved by itself takes its photo along; one that is hidden leaves its place empty
    let looks = [(0, [1.0, 0.0, 0.0, 1.0, 0.0, -15.0], false), (2, [1.0, 0.0, 0.0, 1.0, 0.0, 0.0], true)];
    let looks = looks.map(|(member, by, hidden)| MemberLook { member, by, hidden, word: None });
    let mut repeat = (**p.sheet.pieces[0].window().unwrap().repeat.as_ref().unwrap()).clone();
    repeat.looks = looks.to_vec().into();
    p.edit(Edit::SetRepeat { piece: p.piece, repeat: Some(repeat) });
    let moved = shown(&p);
    assert_eq!(moved.get_pixel(20, 35), before.get_pixel(20, 50));
    assert_eq!([moved.get_pixel(20, 70).0, moved.get_pixel(70, 50).0], [[255; 3]; 2]);
}

/// The narrow box, repeated so as the only piece of a bundle.
fn bundle_of(repeat: Repeat) -> (Poster, BundleId) {
    let mut p = row(false);
    let bundle = BundleId::fresh();
    p.edit(Edit::SetRepeat { piece: p.piece, repeat: None });
    p.edit(Edit::Bundle { bundle, within: None, pieces: vec![p.piece], bundles: Vec::new() });
    p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(repeat) });
    (p, bundle)
}

fn alike(a: &RgbImage, b: &RgbImage) -> bool {
    let off = a.pixels().zip(b.pixels()).filter(|(a, b)| !near(a.0, b.0));
    // turned edges and pictures are sampled otherwise
    off.count() < 60
}

#[test]
fn one_photo_runs_behind_all_members_of_a_bundle() {
    let look = MemberLook { member: 2, by: [1.0, 0.0, 0.0, 1.0, 6.0, 9.0], hidden: false, word: None };
    let layout = Layout::Row { count: 3, gap: 5.0, along: [1.0, 0.0] };
    let repeat = Repeat { layout, turn: 8.0, scale: 0.9, behind: true, looks: vec![look].into() };
    let mut window = row(true);
    window.edit(Edit::SetRepeat { piece: window.piece, repeat: Some(repeat.clone()) });
    let of_window = shown(&window);
    let (mut p, bundle) = bundle_of(repeat.clone());
    let behind = shown(&p);
    assert!(alike(&of_window, &behind));
    assert!(!alike(&shown(&bundle_of(Repeat { behind: false, ..repeat.clone() }).0), &behind));
    // a photo of a member's own gives way to it
    p.library.photos.insert("other".into(), Photo::new("other", 10, 10));
    p.edit(Edit::Deal {
        piece: p.piece,
        from: 1,
        photos: vec![(FillId::fresh(), "other".into())],
        within_bundle: true,
    });
    assert!(alike(&behind, &shown(&p)));
    // set free, a member is what it was seen as
    let outline = bundle_outline(&p.sheet, bundle, &p.library);
    let at = member_transforms(&repeat, &outline)[1];
    let copy = PieceId::fresh();
    p.edit(Edit::CopyPiece { piece: p.piece, copy });
    p.edit(Edit::Place { pieces: vec![copy], bundles: Vec::new(), into: None, over: Some(p.piece) });
    p.edit(Edit::LookAsMember { pieces: vec![copy], member: 1, behind: true });
    p.edit(Edit::Transform { pieces: vec![copy], what: Grip::Opening, by: at.as_coeffs() });
    let gone = MemberLook { member: 1, by: [1.0, 0.0, 0.0, 1.0, 0.0, 0.0], hidden: true, word: None };
    let looks = vec![gone, repeat.looks.values().next().unwrap().clone()].into();
    p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(Repeat { looks, ..repeat }) });
    assert!(alike(&behind, &shown(&p)));
}

#[test]
fn too_many_openings_over_one_photo_are_refused() {
    let layout = Layout::Row { count: 400, gap: 5.0, along: [1.0, 0.0] };
    let (mut p, bundle) = bundle_of(Repeat { layout, turn: 0.0, scale: 1.0, behind: true, looks: Members::default() });
    let copies = [PieceId::fresh(), PieceId::fresh()];
    p.edit(Edit::CopyPiece { piece: p.piece, copy: copies[0] });
    p.edit(Edit::Place { pieces: vec![copies[0]], bundles: Vec::new(), into: Some(bundle), over: None });
    let before = p.sheet.clone();
    let third = Edit::CopyPiece { piece: p.piece, copy: copies[1] };
    assert_eq!(apply(&before, &third, &p.library).unwrap_err(), Refusal::OpeningsBehind);
}
