//! Files that were damaged, by chance or on purpose: every one is read or refused, none takes the program with it, and what is
//! read keeps to the limits.

use inky_core::check::check_sheet;
use inky_core::outline::{DrawingError, Face, FontCollection, read_drawing, read_font};
use inky_core::recipe::read_recipe;
use inky_core::sheet::Lettering;
use inky_core::sheet::limits::DRAWING_NODES;
use inky_core::sheet_file::SheetFile;
use proptest::prelude::*;

/// What happens to a file on its way.
#[derive(Debug, Clone)]
enum Damage {
    /// A byte becomes another, at a share of the length.
    Byte(f64, u8),
    /// A stretch of so many bytes is lost.
    Lost(f64, usize),
    /// A stretch stands there twice.
    Doubled(f64, usize),
    /// The file ends there.
    Cut(f64),
}

impl Damage {
    fn to(&self, bytes: &mut Vec<u8>) {
        let at = |share: f64, bytes: &Vec<u8>| (share * bytes.len() as f64) as usize;
        match *self {
            _ if bytes.is_empty() => {}
            Self::Byte(share, value) => {
                let i = at(share, bytes);
                bytes[i] = value;
            }
            Self::Lost(share, length) => {
                let i = at(share, bytes);
                bytes.drain(i..(i + length).min(bytes.len()));
            }
            Self::Doubled(share, length) => {
                let i = at(share, bytes);
                let part = bytes[i..(i + length).min(bytes.len())].to_vec();
                bytes.splice(i..i, part);
            }
            Self::Cut(share) => bytes.truncate(at(share, bytes)),
        }
    }
}

fn damage() -> impl Strategy<Value = Vec<Damage>> {
    let place = || 0.0..0.999_f64;
    let one = prop_oneof![
        4 => (place(), any::<u8>()).prop_map(|(p, b)| Damage::Byte(p, b)),
        2 => (place(), 1..40_usize).prop_map(|(p, n)| Damage::Lost(p, n)),
        2 => (place(), 1..40_usize).prop_map(|(p, n)| Damage::Doubled(p, n)),
        1 => place().prop_map(Damage::Cut),
    ];
    prop::collection::vec(one, 1..6)
}

fn damaged(file: &[u8], all: &[Damage]) -> Vec<u8> {
    let mut bytes = file.to_vec();
    all.iter().for_each(|d| d.to(&mut bytes));
    bytes
}

/// A drawing with everything in it that drawings have.
const DRAWING: &str = r##"<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 120">
<defs><clipPath id="c"><circle cx="60" cy="60" r="40"/></clipPath><g id="tail"><path d="M0 0 C10 20 30 20 40 0 Z"/></g>
<mask id="m"><rect width="200" height="120" fill="white"/></mask>
<linearGradient id="g"><stop offset="0" stop-color="#102030"/><stop offset="1" stop-color="#f0c040"/></linearGradient></defs>
<g transform="rotate(12 30 30) scale(1.5,.8)" clip-path="url(#c)"><rect x="10" y="12" width="70" height="60" rx="9" fill="url(#g)"/></g>
<use xlink:href="#tail" x="90" y="20" transform="translate(5 5)"/><use href="#tail" x="120" y="60"/>
<g mask="url(#m)"><path d="M100,10 a25,25 0 1,1 50,40 q 10 30 -40 20 z" fill="none" stroke="#000" stroke-width="4" stroke-dasharray="6 3"/></g>
<polygon points="150,80 190,80 170,110" fill-rule="evenodd"/><ellipse cx="30" cy="100" rx="20" ry="8" style="fill:#ffffff"/>
<text x="10" y="115" font-size="14" font-family="Anton">Fair</text></svg>"##;

fn bundled() -> FontCollection {
    let mut fonts = FontCollection::default();
    let f = &inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    fonts
}

/// Puts the value of another place of a JSON document in a place.
fn crossed(mut json: serde_json::Value, from: usize, to: usize) -> serde_json::Value {
    fn places(json: &serde_json::Value, path: &str, found: &mut Vec<String>) {
        found.push(path.to_owned());
        match json {
            serde_json::Value::Array(items) => {
                items.iter().enumerate().for_each(|(i, v)| places(v, &format!("{path}/{i}"), found));
            }
            serde_json::Value::Object(items) => {
                items.iter().for_each(|(k, v)| {
                    places(v, &format!("{path}/{}", k.replace('~', "~0").replace('/', "~1")), found)
                });
            }
            _ => {}
        }
    }
    let mut found = Vec::new();
    places(&json, "", &mut found);
    let taken = json.pointer(&found[from % found.len()]).cloned().unwrap_or_default();
    if let Some(place) = json.pointer_mut(&found[to % found.len()]) {
        *place = taken;
    }
    json
}

#[test]
fn the_drawing_itself_is_read() {
    let drawn = read_drawing("fair.svg", DRAWING.as_bytes(), &bundled()).unwrap();
    assert!(drawn.pieces.len() >= 4, "{} pieces", drawn.pieces.len());
    assert!(drawn.pieces.iter().all(|p| p.area > 0.0 && p.path.is_finite()));
}

#[test]
fn what_refers_to_itself_comes_to_an_end() {
    let wrong = [
        // a copy of itself, a clip path clipped by itself, a copy of a copy of a copy
        r##"<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/><rect width="5" height="5"/></g></svg>"##.to_owned(),
        r##"<svg xmlns="http://www.w3.org/2000/svg"><clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath><rect width="5" height="5" clip-path="url(#c)"/></svg>"##.to_owned(),
        format!(
            r##"<svg xmlns="http://www.w3.org/2000/svg"><defs><g id="g0"><rect width="5" height="5"/></g>{}</defs><use href="#g30"/></svg>"##,
            (1..=30).map(|k| format!(r##"<g id="g{k}"><use href="#g{0}"/><use href="#g{0}" x="{k}"/></g>"##, k - 1)).collect::<String>()
        ),
        // a document type that would swell
        r#"<!DOCTYPE svg [<!ENTITY a "aaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>"#.to_owned(),
    ];
    for svg in wrong {
        match read_drawing("x.svg", svg.as_bytes(), &bundled()) {
            Ok(drawn) => assert!(drawn.pieces.len() < 10, "{svg}"),
            Err(error) => assert!(!matches!(error, DrawingError::TooLarge), "{svg}: {error}"),
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn drawings(damage in damage()) {
        if let Ok(drawn) = read_drawing("fair.svg", &damaged(DRAWING.as_bytes(), &damage), &bundled()) {
            let nodes: usize = drawn.pieces.iter().map(|p| inky_core::combine::nodes(&p.path)).sum();
            prop_assert!(nodes <= DRAWING_NODES && drawn.pieces.iter().all(|p| p.path.is_finite() && p.area.is_finite()));
        }
    }

    #[test]
    fn sheet_files(damage in damage(), from in any::<usize>(), to in any::<usize>()) {
        let file = include_bytes!("../../../../demo/lantern-walk.sheet.json");
        let whole: serde_json::Value = serde_json::from_slice(file).unwrap();
        for bytes in [damaged(file, &damage), crossed(whole, from, to).to_string().into_bytes()] {
            if let Ok(read) = SheetFile::read(&bytes) {
                prop_assert!(check_sheet(&read.sheet).is_ok(), "{}", String::from_utf8_lossy(&bytes));
            }
        }
    }

    #[test]
    fn recipes(damage in damage(), from in any::<usize>(), to in any::<usize>()) {
        let recipe = br#"{"forms": [{"path": "M0 0H10V10H0Z M2 2H8V8H2Z", "fill_rule": "evenodd"}, {"join": "cut_away", "pose":
            {"x": 5, "y": 5, "turn": 30}, "shape": {"kind": "basic", "width": 4, "height": 40, "figure": {"figure": "ellipse"}}},
            {"shape": {"kind": "lettering", "font": "anton", "size": 10, "text": "FAIR"}}], "cells": [{"cover": [1], "taken": true}]}"#;
        let whole: serde_json::Value = serde_json::from_slice(recipe).unwrap();
        let library = inky_core::library::LoadedLibrary { fonts: bundled().into(), ..Default::default() };
        for bytes in [damaged(recipe, &damage), crossed(whole, from, to).to_string().into_bytes()] {
            if let Ok(read) = read_recipe(&bytes)
                && let Ok(path) = inky_core::outline::opening_path(&read.opening, &library)
            {
                prop_assert!(path.is_finite());
            }
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn fonts(damage in damage(), face in 0..inky_fonts::FACES.len()) {
        if let Ok(face) = read_font("own".into(), "own.ttf", &damaged(inky_fonts::FACES[face].data, &damage)) {
            let mut fonts = FontCollection::default();
            fonts.add(face);
            if let Ok(path) = inky_core::outline::lettering_path(&Lettering::plain("Kite & Lantern fifi", "own".into(), 10.0), &fonts) {
                prop_assert!(path.is_finite());
            }
        }
    }
}
