//! From a word to its opening, beside the engine's own polygons: what joining with curves costs.
//!
//! `cargo bench --workspace --profile dev --bench opening`

use criterion::{Criterion, criterion_group, criterion_main};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay;
use inky_core::outline::{Face, Shelf, lettering_path, opening_path};
use inky_core::sheet::{Align, Form, FormId, FormShape, Join, Lettering, Opening, Pose};
use kurbo::PathEl;
use std::hint::black_box;

fn word() -> (Opening, Lettering, Shelf) {
    let mut shelf = Shelf::default();
    let f = inky_fonts::FACES[0];
    shelf.add(Face::new(f.id.into(), f.name, f.data).unwrap_or_else(|e| panic!("{e}")));
    let lettering = Lettering {
        text: "LANTERNNIGHT".into(),
        font: f.id.into(),
        size: 80.0,
        tracking: -40.0,
        leading: 1.0,
        align: Align::Centre,
    };
    let shape = FormShape::Lettering(lettering.clone());
    let form = Form { id: FormId::fresh(), join: Join::Add, pose: Pose { x: 200.0, y: 150.0, turn: 0.0 }, shape };
    (Opening { forms: vec![form] }, lettering, shelf)
}

fn opening(c: &mut Criterion) {
    let (opening, lettering, shelf) = word();
    let mut group = c.benchmark_group("12 letters");
    group.bench_function("opening with curves kept", |b| b.iter(|| opening_path(black_box(&opening), &shelf)));
    group.bench_function("setting the type alone", |b| b.iter(|| lettering_path(black_box(&lettering), &shelf)));
    // the peer: the same letters flattened to a hundredth of a millimetre and united as polygons
    let Ok(path) = lettering_path(&lettering, &shelf) else { return };
    let mut contours: Vec<Vec<[f64; 2]>> = Vec::new();
    kurbo::flatten(path.elements().iter().copied(), 0.01, |el| match el {
        PathEl::MoveTo(p) => contours.push(vec![[p.x, p.y]]),
        PathEl::LineTo(p) => contours.iter_mut().last().into_iter().for_each(|c| c.push([p.x, p.y])),
        _ => {}
    });
    let nothing: Vec<Vec<[f64; 2]>> = Vec::new();
    group.bench_function("i_overlay's polygons alone", |b| {
        b.iter(|| black_box(&contours).overlay(&nothing, OverlayRule::Subject, FillRule::NonZero))
    });
    group.finish();
}

criterion_group!(benches, opening);
criterion_main!(benches);
