//! Subjects, what breaks out of a window, and open sides, whatever is asked of them.

use super::{fill, form, number, photo, piece, words};
use image::{GrayImage, Luma};
use inky_core::breakout::WorkingMatte;
use inky_core::cutout::{
    EdgeStroke, Hints, MatteStroke, PhotoBox, SeeThroughStroke, Start, SubjectEdge, SubjectStroke,
};
use inky_core::edit::{Edit, OpeningChange, PartChange};
use inky_core::sheet::{Anchor, BreakoutStroke, OpenSide, PhotoSubject, ReachLine, Side};
use proptest::prelude::*;

/// A subject with arms to all sides, for a photo of this size.
pub fn arms(width: u32, height: u32) -> GrayImage {
    GrayImage::from_fn(width, height, |x, y| {
        let (u, v) = (f64::from(x) / f64::from(width) - 0.5, f64::from(y) / f64::from(height) - 0.5);
        Luma([if u.abs() < 0.08 || v.abs() < 0.06 || u.hypot(v) < 0.2 { 255 } else { 0 }])
    })
}

/// The same, as overhangs are found in it.
pub fn matte(width: u32, height: u32) -> WorkingMatte {
    WorkingMatte::new(&arms(width, height))
}

fn anchor() -> impl Strategy<Value = Anchor> {
    (fill(), 0..3_u32, number(), number()).prop_map(|(fill, subject, x, y)| Anchor { fill, subject, x, y })
}

fn stroke(width: f64, height: f64) -> impl Strategy<Value = SubjectStroke> {
    (any::<bool>(), 1.0..90.0, prop::collection::vec([0.0..width, 0.0..height], 0..5))
        .prop_map(|(keep, width, points)| SubjectStroke::new(keep, width, points))
}

/// What somebody says of a subject in a photo of so many pixels.
pub fn hints(width: f64, height: f64) -> BoxedStrategy<Hints> {
    let start = prop_oneof![Just(Start::Search), Just(Start::Colours), Just(Start::Nothing), Just(Start::Alpha)];
    let traced = prop_oneof![4 => Just("M0 0L90 9L60 80Z"), 1 => Just("<b>")];
    let edge = (any::<bool>(), number(), number(), 0.0..1.1_f32).prop_map(|(hair, shift, smooth, spill)| SubjectEdge {
        hair,
        band: None,
        shift,
        smooth,
        spill,
    });
    let place = (0.0..width, 0.0..height, 0.0..1.0).prop_map(|(x, y, pressure)| [x, y, pressure]);
    let painted = (any::<bool>(), any::<bool>(), number(), prop::collection::vec(place, 1..4)).prop_map(
        |(add, inside, width, points)| MatteStroke { add, inside, width: width.abs(), hardness: 0.5, points },
    );
    let within = (0.0..width, 0.0..height, 0.0..width, 0.0..height).prop_map(|(x, y, width, height)| PhotoBox {
        x,
        y,
        width,
        height,
    });
    let strokes = prop::collection::vec(stroke(width, height), 0..5);
    let refined = stroke(width, height).prop_map(|s| EdgeStroke { width: s.width, points: s.points });
    let see_through = (any::<bool>(), stroke(width, height)).prop_map(|(shadow, s)| SeeThroughStroke {
        shadow,
        width: s.width,
        points: s.points,
    });
    let said = (
        prop::option::of(within),
        prop::option::of(traced),
        edge,
        prop::option::of(painted),
        prop::option::of(refined),
        prop::option::of(see_through),
    );
    (start, strokes, said)
        .prop_map(|(start, strokes, (within, traced, edge, painted, refined, see_through))| Hints {
            start,
            within,
            strokes,
            traced: traced.into_iter().map(str::to_owned).collect(),
            edge,
            painted: painted.into_iter().collect(),
            refined: refined.into_iter().collect(),
            see_through: see_through.into_iter().collect(),
            ..Hints::default()
        })
        .boxed()
}

fn open_side() -> impl Strategy<Value = OpenSide> {
    let side = prop_oneof![Just(Side::Top), Just(Side::Right), Just(Side::Bottom), Just(Side::Left)];
    (side, -0.2..1.0, 0.0..1.2, number()).prop_map(|(side, from, to, far)| OpenSide { side, from, to, far })
}

pub fn edit() -> BoxedStrategy<Edit> {
    let matte = prop_oneof![6 => Just("arms"), 1 => Just("none")];
    let subject = (0..3_u32, words(), matte, hints(600.0, 500.0)).prop_map(|(key, name, matte, hints)| PhotoSubject {
        key,
        name,
        matte: matte.into(),
        hints,
    });
    let painted = prop::collection::vec((fill(), 0..3_u32, stroke(600.0, 500.0)), 0..4).prop_map(|all| {
        let stroke = |(fill, subject, stroke)| BreakoutStroke { fill, subject, stroke };
        all.into_iter().map(stroke).collect::<Vec<_>>()
    });
    let line = prop::array::uniform4(number()).prop_map(|[a, b, c, d]| ReachLine { from: [a, b], to: [c, d] });
    let cut = || prop::array::uniform2(prop::array::uniform2(number()));
    let part_change = prop_oneof![
        (cut(), cut()).prop_map(|(from, to)| PartChange::MoveCut { from, to }),
        cut().prop_map(|along| PartChange::Cut { along }),
        number().prop_map(|width| PartChange::Soften { width }),
        words().prop_map(|name| PartChange::Name { name }),
    ];
    prop_oneof![
        4 => (photo(), subject).prop_map(|(photo, subject)| Edit::SetSubject { photo, subject }),
        1 => (photo(), 0..3_u32).prop_map(|(photo, key)| Edit::RemoveSubject { photo, key }),
        1 => (photo(), 0..3_u32, words()).prop_map(|(photo, key, name)| Edit::NameSubject { photo, key, name }),
        4 => (piece(), anchor()).prop_map(|(piece, anchor)| Edit::LetOut { piece, anchor }),
        2 => (piece(), anchor(), any::<bool>())
            .prop_map(|(piece, anchor, under)| Edit::Cross { piece, anchor, under, was: vec![anchor] }),
        1 => (piece(), prop::collection::vec(anchor(), 0..3)).prop_map(|(piece, anchors)| Edit::KeepIn { piece, anchors }),
        3 => (piece(), anchor(), part_change)
            .prop_map(|(piece, anchor, change)| Edit::ChangePart { piece, anchor, change }),
        2 => (piece(), painted).prop_map(|(piece, strokes)| Edit::PaintBreakout { piece, strokes: strokes.into() }),
        2 => (piece(), prop::option::of(line)).prop_map(|(piece, reach)| Edit::SetReach { piece, reach }),
        2 => (piece(), anchor(), number(), number()).prop_map(|(piece, anchor, tolerance, smooth)| Edit::MergePart {
            piece, anchor, form: form(), tolerance: tolerance.abs(), smooth: smooth.abs() / 20.0
        }),
        2 => (piece(), prop::collection::vec(open_side(), 0..3))
            .prop_map(|(piece, sides)| Edit::Opening { piece, change: OpeningChange::OpenSides { sides } }),
    ]
    .boxed()
}
