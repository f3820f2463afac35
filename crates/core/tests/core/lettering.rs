//! Lettering set in the bundled faces.

use inky_core::combine::area;
use inky_core::library::LoadedLibrary;
use inky_core::outline::*;
use inky_core::sheet::*;
use kurbo::*;

fn fonts() -> FontCollection {
    let mut fonts = FontCollection::default();
    for f in inky_fonts::FACES {
        fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    }
    fonts
}

fn lettering(text: &str, font: &str) -> Lettering {
    Lettering::plain(text, font.into(), 100.0)
}

fn contours(path: &BezPath) -> usize {
    path.elements().iter().filter(|e| matches!(e, PathEl::MoveTo(_))).count()
}

#[test]
fn every_bundled_face_sets_the_alphabet() {
    let fonts = fonts();
    assert!(fonts.faces().count() >= 8);
    for face in fonts.faces() {
        let path = lettering_path(&lettering("KITE & LANTERN Fair 0123 éüß", &face.id.0), &fonts).unwrap();
        let b = path.bounding_box();
        assert!(b.width() > 300.0 && b.center().x.abs() < 12.0, "{}: {b:?}", face.name);
        assert!(face.cap_height > 0.4 && face.cap_height < 1.0, "{}", face.name);
    }
}

#[test]
fn kerning_and_tracking_move_letters() {
    let fonts = fonts();
    let width = |text: &str, tracking| {
        let l = Lettering { tracking, ..lettering(text, "archivo-black") };
        lettering_path(&l, &fonts).unwrap().bounding_box().width()
    };
    let apart = width("A", 0.0) + width("V", 0.0);
    assert!(width("AV", 0.0) < apart, "AV is kerned");
    assert!((width("HHH", 100.0) - width("HHH", 0.0) - 20.0).abs() < 1e-6, "two gaps of a tenth of the em");
}

#[test]
fn overlapping_letters_are_one_outline() {
    let library = LoadedLibrary { fonts: fonts().into(), ..LoadedLibrary::default() };
    let form = |tracking| {
        let shape = FormShape::Lettering(Lettering { tracking, ..lettering("HH", "archivo-black") });
        Form::new(FormId::fresh(), Pose::default(), shape)
    };
    let opening =
        |tracking| opening_path(&Opening { forms: vec![form(tracking)], ..Opening::default() }, &library).unwrap();
    assert_eq!(contours(&opening(0.0)), 2);
    let merged = opening(-200.0);
    assert_eq!(contours(&merged), 1);
    assert!(area(&merged) < area(&opening(0.0)));
}

#[test]
fn lines_stand_below_each_other_and_empty_text_is_empty() {
    let fonts = fonts();
    let two = lettering_path(&lettering("H\nH", "anton"), &fonts).unwrap().bounding_box();
    let one = lettering_path(&lettering("H", "anton"), &fonts).unwrap().bounding_box();
    assert!((two.height() - one.height() - 100.0).abs() < 1e-6);
    assert!(lettering_path(&lettering(" \n ", "anton"), &fonts).unwrap().is_empty());
}

#[test]
fn missing_letters_are_named() {
    let said = lettering_path(&lettering("Fair 凧", "anton"), &fonts()).unwrap_err().to_string();
    assert_eq!(said, "Anton has no letter for “凧”. Choose another font, or leave it out.");
    assert!(matches!(lettering_path(&lettering("A", "none"), &fonts()), Err(LetteringError::NoFont(_))));
}
