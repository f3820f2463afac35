//! Windows that are repeated, pixel by pixel.

use super::panes::shown;
use super::{Poster, poster};
use inky_core::edit::{Edit, Grip};
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
