//! Properties that hold for any outlines, and the known hard ones.

use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay;
use inky_combine::*;
use kurbo::{Affine, BezPath, Circle, PathEl, Point, Rect, Shape};
use proptest::prelude::*;

fn blob(points: &[(f64, f64)]) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(points[0]);
    for c in points[1..].chunks_exact(3) {
        path.curve_to(c[0], c[1], c[2]);
    }
    path.close_path();
    path
}

/// The area by counting points of a fine grid, from the inputs alone.
fn counted(a: &BezPath, b: &BezPath, keep: fn(bool, bool) -> bool) -> f64 {
    let n = 64;
    let cell = 1000.0 / f64::from(n);
    let mut hits = 0.0;
    for (i, j) in (0..n).flat_map(|i| (0..n).map(move |j| (i, j))) {
        let p = Point::new((f64::from(i) + 0.5) * cell, (f64::from(j) + 0.5) * cell);
        if keep(contains(a, p, 0.05), contains(b, p, 0.05)) {
            hits += cell * cell;
        }
    }
    hits
}

/// The area of a join by the polygon engine, the curves flattened a hundred times finer than ours.
fn polygon_area(a: &BezPath, b: &BezPath, rule: OverlayRule) -> f64 {
    let rings = |path: &BezPath| {
        let mut rings: Vec<Vec<[f64; 2]>> = Vec::new();
        let tolerance = flatten_tolerance(path.bounding_box()) / 100.0;
        kurbo::flatten(path.elements().iter().copied(), tolerance, |el| match el {
            PathEl::MoveTo(p) => rings.push(vec![[p.x, p.y]]),
            PathEl::LineTo(p) => rings.iter_mut().last().into_iter().for_each(|r| r.push([p.x, p.y])),
            _ => {}
        });
        rings
    };
    let ring_area = |r: &Vec<[f64; 2]>| {
        (0..r.len()).map(|i| (r[i], r[(i + 1) % r.len()])).map(|(p, q)| (p[0] * q[1] - q[0] * p[1]) / 2.0).sum::<f64>()
    };
    let joined = rings(a).overlay(&rings(b), rule, FillRule::NonZero);
    joined.iter().flatten().map(ring_area).sum::<f64>().abs()
}

#[test]
fn forty_forms_that_overlap_are_joined_right() {
    let discs: Vec<BezPath> = (0..40)
        .map(|k| {
            let at = Point::ORIGIN + kurbo::Vec2::from_angle(f64::from(k) * 2.4) * (6.0 * f64::from(k).sqrt());
            Affine::translate(at.to_vec2()) * Circle::new(Point::ORIGIN, 16.0).to_path(1e-7)
        })
        .collect();
    let operands: Vec<Operand> =
        discs.iter().map(|d| Operand { path: d.clone(), rule: Rule::Union, united: false }).collect();
    let all: BezPath = discs.iter().flat_map(|d| d.elements().iter().copied()).collect();
    let (got, known) = (area(&join_all(&operands)), polygon_area(&all, &BezPath::new(), OverlayRule::Union));
    assert!((got - known).abs() < 1e-4 * known, "{got} instead of {known}");
}

#[test]
fn tangent_flat_and_equal_forms_do_no_harm() {
    let disc = |x: f64, r: f64| Circle::new((x, 0.0), r).to_path(1e-9);
    let whole = |r: f64| area(&disc(0.0, r));
    // from outside, from inside, and on each other
    let touching = join_pair(&disc(0.0, 10.0), &disc(20.0, 10.0), Rule::Union);
    assert!((area(&touching) - 2.0 * whole(10.0)).abs() < 1e-4 * whole(10.0));
    let inner = join_pair(&disc(0.0, 10.0), &disc(5.0, 5.0), Rule::Difference);
    assert!((area(&inner) - (whole(10.0) - whole(5.0))).abs() < 1e-4 * whole(10.0));
    assert!((area(&join_pair(&disc(0.0, 10.0), &disc(0.0, 10.0), Rule::Union)) - whole(10.0)).abs() < 1e-6);
    assert_eq!(area(&join_pair(&disc(0.0, 10.0), &disc(0.0, 10.0), Rule::Xor)), 0.0);
    let flat = BezPath::from_svg("M-20 0 L20 0 L-20 0 Z").unwrap();
    for rule in [Rule::Union, Rule::Difference, Rule::Xor] {
        assert!((area(&join_pair(&disc(0.0, 10.0), &flat, rule)) - whole(10.0)).abs() < 1e-4 * whole(10.0), "{rule:?}");
    }
    assert!(join_pair(&disc(0.0, 10.0), &flat, Rule::Intersection).is_empty());
}

#[test]
fn self_crossing_contours_have_their_known_areas() {
    for (d, known) in [
        ("M720,790 C720,260 330,440 510,350Z", 21552.0),
        ("M630,550 C320,490 640,570 460,290Z", 9960.0),
        ("M256,573 C522,440 253,534 576,462Z", 4183.0),
        ("M567,674 C497,485 486,588 292,297Z", 3646.0),
    ] {
        let path = BezPath::from_svg(d).unwrap();
        let got = area(&unite(&path));
        assert!((got - known).abs() < 1e-3 * known, "{d}: {got} instead of {known}");
    }
}

#[test]
fn curves_stay_curves_and_crossings_lie_on_both() {
    let (a, b) = (Circle::new((0.0, 0.0), 10.0), Circle::new((12.0, 3.0), 8.0));
    let both = join_pair(&a.to_path(1e-9), &b.to_path(1e-9), Rule::Union);
    let lens = join_pair(&a.to_path(1e-9), &b.to_path(1e-9), Rule::Intersection);
    let into = a.to_path(1e-9).elements().len() + b.to_path(1e-9).elements().len();
    assert!(both.elements().len() < into, "{} elements of {into}", both.elements().len());
    let whole = area(&a.to_path(1e-9)) + area(&b.to_path(1e-9));
    assert!((area(&both) + area(&lens) - whole).abs() < 1e-6 * whole);
    let corners = both.segments().map(|s| kurbo::ParamCurve::start(&s)).filter(|p| {
        let on = |c: Circle| ((*p - c.center).hypot() - c.radius).abs() < 1e-5;
        on(a) && on(b)
    });
    assert_eq!(corners.count(), 2);
}

#[test]
fn joins_have_about_as_few_nodes_as_can_be() {
    // script letters of a kind: rings that overlap in a row, and a wavy contour across all of them
    let ring = |x: f64| {
        let mut ring = Circle::new((x, 0.0), 20.0).to_path(1e-6);
        ring.extend(Circle::new((x, 0.0), 13.0).to_path(1e-6).reverse_subpaths());
        ring
    };
    let row: BezPath = (0..12).flat_map(|k| ring(f64::from(k) * 30.0).elements().to_vec()).collect();
    let mut wave = BezPath::from_svg("M-30 0").unwrap();
    for k in 0..20 {
        let x = -30.0 + f64::from(k) * 20.0;
        wave.quad_to((x + 10.0, if k % 2 == 0 { -9.0 } else { 9.0 }), (x + 20.0, 0.0));
    }
    wave.line_to((370.0, 40.0));
    wave.line_to((-30.0, 40.0));
    wave.close_path();
    let joined = join_pair(&row, &wave, Rule::Union);
    let peer =
        linesweeper::binary_op(&row, &wave, linesweeper::FillRule::NonZero, linesweeper::BinaryOp::Union).unwrap();
    let theirs: usize = peer.contours().map(|c| nodes(&c.path)).sum();
    assert!(nodes(&joined) * 100 <= theirs * 105, "{} nodes, the curve engine has {theirs}", nodes(&joined));
    let (ours, theirs) = (area(&joined), peer.contours().map(|c| c.path.area()).sum::<f64>().abs());
    assert!((ours - theirs).abs() < 1e-6 * theirs, "{ours} and {theirs}");
}

#[test]
fn a_box_flush_with_another_joins_without_a_seam() {
    let (a, b) = (Rect::new(0.0, 0.0, 10.0, 10.0).to_path(0.1), Rect::new(10.0, 0.0, 20.0, 10.0).to_path(0.1));
    let joined = join_pair(&a, &b, Rule::Union);
    assert_eq!(area(&joined), 200.0);
    assert_eq!(joined.elements().iter().filter(|e| matches!(e, kurbo::PathEl::MoveTo(_))).count(), 1);
}

#[test]
fn the_order_of_the_list_decides() {
    let disc = |x: f64| Circle::new((x, 0.0), 10.0).to_path(1e-6);
    let form = |x, rule| Operand { path: disc(x), rule, united: false };
    let ring = [form(0.0, Rule::Difference), form(5.0, Rule::Difference), form(5.0, Rule::Union)];
    assert!((area(&join_all(&ring)) - area(&join_all(&[form(0.0, Rule::Union), form(5.0, Rule::Union)]))).abs() < 1e-3);
    let cut = [form(0.0, Rule::Union), form(5.0, Rule::Union), form(5.0, Rule::Difference)];
    assert!(area(&join_all(&cut)) < area(&disc(0.0)));
    assert!(join_all(&[]).is_empty());
}

#[test]
fn a_print_is_joined_alike_before_and_after_what_it_meets() {
    // rings far and near, one of them around everything, and specks
    let ring = |x: f64, y: f64, r: f64| {
        let mut path = Circle::new((x, y), r).to_path(1e-6);
        path.extend(Circle::new((x, y), 0.6 * r).to_path(1e-6).reverse_subpaths());
        path
    };
    let mut print = ring(0.0, 0.0, 400.0);
    for k in 0..40 {
        let at = Point::ORIGIN + kurbo::Vec2::from_angle(f64::from(k) * 2.4) * (30.0 * f64::from(k).sqrt());
        print.extend(ring(at.x, at.y, 11.0));
    }
    let print = unite(&print);
    for (shape, name) in [
        (Rect::new(-40.0, -30.0, 60.0, 50.0).to_path(0.1), "across many"),
        (Circle::new((2.0, 1.0), 4.0).to_path(1e-6), "in a hole"),
        (Circle::new((900.0, 0.0), 30.0).to_path(1e-6), "apart"),
        (Circle::new((0.0, 0.0), 600.0).to_path(1e-6), "around all"),
        (Circle::new((320.0, 0.0), 20.0).to_path(1e-6), "within the outermost ring"),
    ] {
        for rule in [Rule::Union, Rule::Difference, Rule::Intersection, Rule::Xor] {
            let operand = |path: &BezPath, rule, united| Operand { path: path.clone(), rule, united };
            let shape_first = join_all(&[operand(&shape, Rule::Union, true), operand(&print, rule, true)]);
            let known = area(&join_pair(&shape, &print, rule));
            let off = (area(&shape_first) - known).abs();
            assert!(off < 1e-5 * area(&print), "{name}, {rule:?}: {} for {known}", area(&shape_first));
            let print_first = join_all(&[operand(&print, Rule::Union, true), operand(&shape, rule, true)]);
            let known = area(&join_pair(&print, &shape, rule));
            let off = (area(&print_first) - known).abs();
            assert!(off < 1e-5 * area(&print), "{name}, {rule:?}: {} for {known}", area(&print_first));
        }
    }
}

fn coordinate() -> impl Strategy<Value = (f64, f64)> {
    (100..900, 100..900).prop_map(|(x, y)| (f64::from(x), f64::from(y)))
}

fn outline() -> impl Strategy<Value = BezPath> {
    prop::collection::vec(coordinate(), 7..=7).prop_map(|p| blob(&p))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn areas_agree_with_counted_points(a in outline(), b in outline()) {
        for (rule, keep) in [
            (Rule::Union, (|p, q| p || q) as fn(bool, bool) -> bool),
            (Rule::Intersection, |p, q| p && q),
            (Rule::Difference, |p, q| p && !q),
            (Rule::Xor, |p, q| p != q),
        ] {
            let got = area(&join_pair(&a, &b, rule));
            let expected = counted(&a, &b, keep);
            // points fall on the wrong side along the outline only, as often as not
            let cell = 1000.0 / 64.0;
            let slack = 3.0 * cell * cell * ((a.perimeter(1.0) + b.perimeter(1.0)) / cell).sqrt();
            prop_assert!((got - expected).abs() < slack, "{rule:?}: {got} instead of {expected}");
        }
    }

    #[test]
    fn areas_agree_with_fine_polygons(a in outline(), b in outline()) {
        let whole = polygon_area(&a, &b, OverlayRule::Union);
        for (rule, peer) in [
            (Rule::Union, OverlayRule::Union),
            (Rule::Intersection, OverlayRule::Intersect),
            (Rule::Difference, OverlayRule::Difference),
            (Rule::Xor, OverlayRule::Xor),
        ] {
            let (got, known) = (area(&join_pair(&a, &b, rule)), polygon_area(&a, &b, peer));
            prop_assert!((got - known).abs() <= 1e-4 * whole, "{:?}: {} instead of {} of {}", rule, got, known, whole);
        }
    }

    #[test]
    fn union_commutes_and_parts_add_up(a in outline(), b in outline()) {
        let ab = area(&join_pair(&a, &b, Rule::Union));
        prop_assert!((ab - area(&join_pair(&b, &a, Rule::Union))).abs() < 1e-3 * ab.max(1.0) + 1.0);
        let parts = area(&join_pair(&a, &b, Rule::Difference))
            + area(&join_pair(&b, &a, Rule::Difference))
            + area(&join_pair(&a, &b, Rule::Intersection));
        prop_assert!((ab - parts).abs() < 1e-3 * ab.max(1.0) + 1.0, "{ab} and {parts}");
    }

    #[test]
    fn nothing_is_left_of_a_form_cut_by_itself(a in outline()) {
        prop_assert_eq!(area(&join_pair(&a, &a, Rule::Difference)), 0.0);
    }
}

#[test]
fn edges_that_all_but_coincide_are_not_split_without_end() {
    // long thin waves, along one another
    let waves = [
        "M108,58C100,90,100,130,108,162L114,162C112,130,112,90,114,5860T150,60.8Z",
        "M92,58C80,90,80,130,92,162L98,162C92,130,92,90,98,58Z",
        "M108,58C100,90,100,130,108,162L114,162C112,130,112,90,114,5860T150,60Q162.5,38,1756,0T200,60L200,72\
         Q186.5,94,175,72T15,105T150,105Q162.5,83,175,105T201,105L200,117Q187.5,139,175,117T150,117Z",
        "M92,78C80,90,80,130,92,162L98,162C92,130,92,90,98,58Z",
        "M108,58C100,90,100,130,108,162L114,162C112,130,112,90,114,5860T150,60Q162.5,38,1756,0T200,60L200,72Z",
        "M108,58C100,90,100,130,108,162L114,162C112,130,112,90,114,5860T150,60Q162.5,38,1756,0T200,60L2,105Z",
        "M108,58C100,90,100,130,108,162L114,162C112,130,112,90,114,5860T150,60Q162.5,38,1756,0Z",
    ];
    let united = waves.map(|wave| unite(&BezPath::from_svg(wave).unwrap()));
    let all: BezPath = united.iter().flat_map(|path| path.elements().iter().copied()).collect();
    let once = unite(&all);
    let twice = unite(&once);
    let (first, second) = (nodes(&once), nodes(&twice));
    assert!(first < 1_000 && second < 4 * first, "{first} nodes, then {second}");
    assert!((area(&once) - area(&twice)).abs() < 1e-3 * area(&once));
}

#[test]
fn far_from_the_origin_nothing_is_thrown_about() {
    for shift in [1e3, 1e9, 6e20, 1e30] {
        let a = Circle::new((shift, 60.0), 40.0).to_path(1e-3);
        let b = Circle::new((shift + 30.0, 60.0), 40.0).to_path(1e-3);
        for rule in [Rule::Union, Rule::Intersection, Rule::Difference, Rule::Xor] {
            let joined = join_pair(&a, &b, rule);
            // numbers of this size are so far apart
            let room = 1e-3 + shift * 1e-11;
            let within = a.bounding_box().union(b.bounding_box()).inflate(room, room);
            let bounds = joined.bounding_box();
            assert!(joined.is_finite(), "{shift} {rule:?}");
            assert!(joined.is_empty() || within.union(bounds) == within, "{shift} {rule:?}: {bounds:?}");
        }
    }
}
