//! Joining, rough prints and cells, beside a polygon engine and a curve engine in the same run.
//!
//! `cargo bench --workspace --profile dev --bench openings`

use criterion::{Criterion, criterion_group, criterion_main};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay;
use inky_core::combine::{Operand, Rule, cells, join_all, join_pair, unite};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{DrawingTree, Face, FontCollection, ImportedDrawing, lettering_path, opening_path};
use inky_core::sheet::{BasicShape, Drawing, Figure, Form, FormId, FormShape, Lettering, Opening, Pose};
use kurbo::{Affine, BezPath, Circle, PathEl, Point, Shape};
use std::f64::consts::TAU;
use std::hint::black_box;
use std::sync::Arc;

/// How far the peers' polygons may stray from the curves, in mm.
const FLAT: f64 = 0.01;

fn letters(count: usize) -> BezPath {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[1];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap_or_else(|e| panic!("{e}")));
    let text: Vec<String> = "LANTERNNIGHTOFKITESANDBRASSONTHEQUAYEVERYWINDISWELCOMEHERE!?"
        .chars()
        .take(count)
        .collect::<Vec<_>>()
        .chunks(12)
        .map(|line| line.iter().collect())
        .collect();
    let lettering =
        Lettering { tracking: -60.0, leading: 0.78, ..Lettering::plain(text.join("\n"), f.id.into(), 60.0) };
    lettering_path(&lettering, &fonts).unwrap_or_else(|e| panic!("{e}"))
}

/// A wavy contour of 40 nodes around a point.
fn contour(around: Point, radius: f64) -> BezPath {
    ring(around, 40, |k| radius * (1.0 + 0.22 * (k as f64 * 2.1).sin()))
}

/// A smooth closed contour of `nodes` nodes about a point, as far from it as `far` says for each.
fn ring(around: Point, nodes: usize, far: impl Fn(usize) -> f64) -> BezPath {
    let at = |k: usize| {
        let angle = TAU * (k % nodes) as f64 / nodes as f64;
        around + kurbo::Vec2::from_angle(angle) * far(k % nodes)
    };
    let mut path = BezPath::new();
    path.move_to(at(0));
    for k in 0..nodes {
        let (before, from, to, after) = (at(k + nodes - 1), at(k), at(k + 1), at(k + 2));
        path.curve_to(from + (to - before) / 6.0, to - (after - from) / 6.0, to);
    }
    path.close_path();
    path
}

/// A rough ink print: blots that overlap here and there, of `nodes` nodes each.
fn print(pieces: usize, nodes: usize) -> BezPath {
    let mut state = 7_u64;
    let mut next = move || {
        // a linear congruential generator (Knuth's MMIX): the same print on every machine
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) as f64 / (1_u64 << 31) as f64
    };
    let mut path = BezPath::new();
    for _ in 0..pieces {
        let (c, r) = (Point::new(next() * 400.0, next() * 500.0), 3.0 + 9.0 * next() * next());
        let rough: Vec<f64> = (0..nodes).map(|_| r * (0.85 + 0.3 * next())).collect();
        path.extend(ring(c, nodes, |k| rough[k]));
    }
    path
}

fn polygons(path: &BezPath) -> Vec<Vec<[f64; 2]>> {
    let mut contours: Vec<Vec<[f64; 2]>> = Vec::new();
    kurbo::flatten(path.elements().iter().copied(), FLAT, |el| match el {
        PathEl::MoveTo(p) => contours.push(vec![[p.x, p.y]]),
        PathEl::LineTo(p) => contours.iter_mut().last().into_iter().for_each(|c| c.push([p.x, p.y])),
        _ => {}
    });
    contours
}

/// The peers: the same join flattened for a polygon engine, and by an engine that keeps curves.
fn peers(group: &mut criterion::BenchmarkGroup<'_, criterion::measurement::WallTime>, a: &BezPath, b: &BezPath) {
    let (pa, pb) = (polygons(a), polygons(b));
    group.bench_function("peer: i_overlay, polygons", |bench| {
        bench.iter(|| black_box(&pa).overlay(black_box(&pb), OverlayRule::Union, FillRule::NonZero))
    });
    group.bench_function("peer: linesweeper, curves", |bench| {
        bench.iter(|| {
            linesweeper::binary_op(
                black_box(a),
                black_box(b),
                linesweeper::FillRule::NonZero,
                linesweeper::BinaryOp::Union,
            )
            .is_ok()
        })
    });
}

fn words(c: &mut Criterion) {
    for count in [12, 60] {
        let word = letters(count);
        let b = word.bounding_box();
        let tail = contour(Point::new(b.center().x, b.y1), 0.3 * b.height().max(60.0));
        let mut group = c.benchmark_group(format!("{count} letters with a contour of 40 nodes"));
        group.bench_function("joined", |bench| {
            let operand = |path: &BezPath| Operand { path: path.clone(), rule: Rule::Union, united: false };
            let both = [operand(&word), operand(&tail)];
            bench.iter(|| join_all(black_box(&both)))
        });
        peers(&mut group, &word, &tail);
        group.finish();
    }
}

fn prints(c: &mut Criterion) {
    for (pieces, nodes) in [(300, 14), (300, 70)] {
        let rough = print(pieces, nodes);
        let mut group = c.benchmark_group(format!("a rough print of {pieces} pieces and {} nodes", pieces * nodes));
        group.sample_size(20);
        group.bench_function("united", |bench| bench.iter(|| unite(black_box(&rough))));
        peers(&mut group, &rough, &BezPath::new());
        // a frame of a drag: the print is united already, a shape is moved over it
        let drawn = ImportedDrawing::new(
            "print",
            &unite(&rough),
            DrawingTree::of(&rough, inky_core::sheet::Colour::INK),
            Vec::new(),
        );
        let library =
            LoadedLibrary { drawings: [("print".into(), Arc::new(drawn))].into(), ..LoadedLibrary::default() };
        let drawing = Drawing { drawing: "print".into(), specks: 0.0, picked_off: Vec::new() };
        let disc = BasicShape { width: 90.0, height: 90.0, figure: Figure::Ellipse };
        let forms = vec![
            Form::new(FormId::fresh(), Pose::at(0.0, 0.0), FormShape::Drawing(drawing)),
            Form::new(FormId::fresh(), Pose::at(180.0, 220.0), FormShape::Basic(disc)),
        ];
        let mut opening = Opening { forms, ..Opening::default() };
        group.bench_function("a frame of dragging a shape over it", |bench| {
            bench.iter(|| opening_path(black_box(&opening), &library))
        });
        opening.forms.reverse();
        group.bench_function("the same with the shape first in the list", |bench| {
            bench.iter(|| opening_path(black_box(&opening), &library))
        });
        group.finish();
    }
}

fn circles(c: &mut Criterion) {
    for count in [8, 40] {
        // on a spiral, so that many overlap
        let discs: Vec<BezPath> = (0..count)
            .map(|k| {
                let far = 6.0 * (k as f64).sqrt();
                let at = Point::ORIGIN + kurbo::Vec2::from_angle(k as f64 * 2.4) * far;
                Affine::translate(at.to_vec2()) * Circle::new(Point::ORIGIN, 16.0).to_path(1e-7)
            })
            .collect();
        let mut group = c.benchmark_group(format!("cells of {count} circles"));
        group.sample_size(20);
        group.bench_function("cells", |bench| bench.iter(|| cells(black_box(&discs)).len()));
        // the peer: the same circles only united, pair by pair
        group.bench_function("peer: their union alone", |bench| {
            bench.iter(|| discs.iter().fold(BezPath::new(), |all, d| join_pair(&all, d, Rule::Union)))
        });
        group.finish();
    }
}

criterion_group!(benches, words, prints, circles);
criterion_main!(benches);
