//! Openings of lists within lists, with lettering along their edges, brushes and contours.

use super::{figure, font, join, number, piece, words};
use inky_core::edit::Edit;
use inky_core::sheet::*;
use kurbo::{BezPath, Point};
use proptest::prelude::*;

fn lettering() -> BoxedStrategy<FormShape> {
    let along = (1..=6_u128, any::<bool>(), -1.0..1.0, number()).prop_map(|(form, inside, start, off)| Along {
        form: FormId(uuid::Uuid::from_u128(form)),
        inside,
        start,
        off,
    });
    (words(), font(), 1.0..90.0, prop::option::weighted(0.7, along))
        .prop_map(|(text, font, size, along)| {
            FormShape::Lettering(Lettering { along, ..Lettering::plain(text, font.into(), size) })
        })
        .boxed()
}

fn contour() -> BoxedStrategy<FormShape> {
    let handle = || prop::option::of(prop::array::uniform2(number()));
    let node = ((-90.0..90.0), (-90.0..90.0), handle(), handle(), any::<bool>())
        .prop_map(|(x, y, before, after, smooth)| Node { before, after, smooth, ..Node::corner(x, y) });
    let subpath =
        (prop::collection::vec(node, 0..20), any::<bool>()).prop_map(|(nodes, closed)| Subpath { nodes, closed });
    (prop::collection::vec(subpath, 0..4), any::<bool>())
        .prop_map(|(subpaths, even_odd)| FormShape::Contour(Contour { subpaths, even_odd }))
        .boxed()
}

fn brush() -> BoxedStrategy<FormShape> {
    let places = prop::collection::vec([-90.0..90.0, -90.0..90.0, 0.0..1.0], 1..20);
    let stroke = (places, 0.1..40.0, 0.0..1.0, any::<bool>()).prop_map(|(points, size, hardness, erase)| Stroke {
        points,
        size,
        hardness,
        erase,
    });
    prop::collection::vec(stroke, 1..4).prop_map(|strokes| FormShape::Brush(Brush { strokes: strokes.into() })).boxed()
}

fn shape() -> BoxedStrategy<FormShape> {
    let basic = (number(), number(), figure()).prop_map(|(width, height, figure)| {
        FormShape::Basic(BasicShape { width: width.abs(), height: height.abs(), figure })
    });
    let drawing = any::<f64>().prop_map(|specks| {
        FormShape::Drawing(Drawing { drawing: "kite".into(), specks: specks.abs(), picked_off: vec![0] })
    });
    prop_oneof![4 => lettering(), 3 => basic, 1 => drawing, 2 => contour(), 2 => brush()].boxed()
}

fn form(shape: BoxedStrategy<FormShape>) -> BoxedStrategy<Form> {
    let pose = (number(), number(), number(), -60.0..60.0, 0.01..4.0).prop_map(|(x, y, turn, slant, wide)| Pose {
        turn,
        slant,
        wide,
        ..Pose::at(x, y)
    });
    let line = (0.01..40.0).prop_map(|width| OwnLine {
        width,
        side: LineSide::Centre,
        corners: LineCorner::Miter,
        ends: LineEnd::Round,
    });
    let bend = (-1.0..1.0).prop_map(|amount| Bend { kind: BendKind::Ripple, amount });
    let id = (1..=6_u128).prop_map(|id| FormId(uuid::Uuid::from_u128(id)));
    (id, join(), pose, prop::option::weighted(0.2, line), prop::option::weighted(0.2, bend), shape)
        .prop_map(|(id, join, pose, line, bend, shape)| Form { join, line, bend, ..Form::new(id, pose, shape) })
        .boxed()
}

fn nested() -> BoxedStrategy<Form> {
    form(shape())
        .prop_recursive(8, 60, 9, |inner| {
            // the parts of a list have names of their own, so that most lists are sound
            let forms = prop::collection::vec(inner, 1..9).prop_map(|mut forms| {
                for (k, form) in forms.iter_mut().enumerate() {
                    form.id = FormId(uuid::Uuid::from_u128(k as u128 + 1));
                }
                FormShape::List { forms }
            });
            form(forms.boxed())
        })
        .boxed()
}

/// Gives every form an identifier of its own; lettering keeps running along the form of the same number in its own list.
fn told_apart(form: &mut Form, next: &mut u128) {
    *next += 1;
    form.id = FormId(uuid::Uuid::from_u128(*next));
    if let FormShape::List { forms } = &mut form.shape {
        let old: Vec<FormId> = forms.iter().map(|f| f.id).collect();
        forms.iter_mut().for_each(|f| told_apart(f, next));
        let new: Vec<FormId> = forms.iter().map(|f| f.id).collect();
        for form in forms {
            if let FormShape::Lettering(Lettering { along: Some(along), .. }) = &mut form.shape
                && let Some(k) = old.iter().position(|id| *id == along.form)
            {
                along.form = new[k];
            }
        }
    }
}

/// A window of lists, or an edit that meets one.
pub fn list_edit() -> BoxedStrategy<Edit> {
    let added = (piece(), nested()).prop_map(|(piece, mut form)| {
        told_apart(&mut form, &mut 0);
        Edit::AddWindow {
            piece: PieceId(uuid::Uuid::from_u128(piece.0.as_u128() + 2)),
            form,
            fill: FillId(uuid::Uuid::from_u128(9)),
        }
    });
    prop_oneof![2 => added, 1 => super::edit()].boxed()
}

/// An outline as the joins take it: lines and cubics, closed or not, now and then touching themselves.
pub fn outline() -> BoxedStrategy<BezPath> {
    let place = prop_oneof![
        6 => (-100..100_i32, -100..100_i32).prop_map(|(x, y)| Point::new(f64::from(x), f64::from(y))),
        3 => (-100.0..100.0, -100.0..100.0).prop_map(|(x, y)| Point::new(x, y)),
    ];
    let step = (0..6_u8, place.clone(), place.clone(), place);
    prop::collection::vec(step, 0..40)
        .prop_map(|steps| {
            let mut path = BezPath::new();
            for (what, a, b, c) in steps {
                match what {
                    _ if path.is_empty() => path.move_to(c),
                    0 => {
                        path.close_path();
                        path.move_to(c);
                    }
                    1 | 2 => path.curve_to(a, b, c),
                    3 => path.quad_to(a, c),
                    _ => path.line_to(c),
                }
            }
            if !path.is_empty() {
                path.close_path();
            }
            path
        })
        .boxed()
}
