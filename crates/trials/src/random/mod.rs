//! Edits at random, sound and unsound ones.

mod breakouts;
mod lists;
mod paints;
mod splits;

pub use breakouts::{arms, hints, matte};
pub use lists::{list_edit, outline};

use inky_core::edit::{Edit, Fit, Grip, OpeningChange};
use inky_core::sheet::{
    Align, BasicShape, Bend, BendKind, BundleId, CellChoice, Colour, Figure, FillId, Form, FormId, FormShape, Join,
    Lettering, LineCorner, LineEnd, LineSide, OwnLine, PhotoId, PieceId, Placement, Pose, Similarity, Unit,
};
use proptest::prelude::*;

/// Three pieces at most, so that edits meet one another.
fn piece() -> impl Strategy<Value = PieceId> {
    (1..=3_u128).prop_map(|n| PieceId(uuid::Uuid::from_u128(n)))
}

fn bundle() -> impl Strategy<Value = BundleId> {
    (1..=3_u128).prop_map(|n| BundleId(uuid::Uuid::from_u128(n)))
}

fn fill() -> impl Strategy<Value = FillId> {
    (1..=4_u128).prop_map(|n| FillId(uuid::Uuid::from_u128(n)))
}

fn number() -> impl Strategy<Value = f64> {
    prop_oneof![8 => -500.0..500.0, 1 => Just(0.0), 1 => prop::num::f64::ANY]
}

fn words() -> impl Strategy<Value = String> {
    prop_oneof![6 => "[A-Z]{1,6}", 2 => "[ -~\n]{0,9}", 1 => "\\PC{0,5}"]
}

fn font() -> impl Strategy<Value = &'static str> {
    prop_oneof![9 => (0..3_usize).prop_map(|i| inky_fonts::FACES[i].id), 1 => Just("none")]
}

fn photo() -> impl Strategy<Value = PhotoId> {
    prop_oneof![4 => Just("wide"), 4 => Just("tall"), 1 => Just("none")].prop_map(PhotoId::from)
}

fn form() -> FormId {
    FormId(uuid::Uuid::from_u128(1))
}

/// Five forms at most, so that changes meet the forms of others.
fn some_form() -> impl Strategy<Value = FormId> {
    (1..=5_u128).prop_map(|n| FormId(uuid::Uuid::from_u128(n)))
}

fn join() -> impl Strategy<Value = Join> {
    prop_oneof![Just(Join::Add), Just(Join::CutAway), Just(Join::KeepShared), Just(Join::DropShared)]
}

fn figure() -> impl Strategy<Value = Figure> {
    prop_oneof![
        Just(Figure::Ellipse),
        number().prop_map(|r| Figure::Box { corners: [r, r / 2.0, 0.0, r] }),
        (0.0..1.0).prop_map(|hole| Figure::Ring { hole }),
        (number(), number()).prop_map(|(from, sweep)| Figure::Sector { from, sweep }),
        (0..300_u32, 0.0..1.0, 0.0..9.0, any::<bool>()).prop_map(|(points, depth, rounding, fitted)| Figure::Star {
            points,
            depth,
            rounding,
            fitted
        }),
        (-0.1..1.1, 0.0..9.0).prop_map(|(lean, rounding)| Figure::Triangle { lean, rounding }),
        Just(Figure::Heart),
        (0..40_u32).prop_map(|bumps| Figure::Cloud { bumps }),
        (any::<u32>(), 0.0..1.1).prop_map(|(seed, roughness)| Figure::Blot { seed, roughness }),
    ]
}

fn whole_form() -> BoxedStrategy<Form> {
    let bend = prop::option::of((-1.1..1.1).prop_map(|amount| Bend { kind: BendKind::BowUp, amount }));
    let line = prop::option::weighted(
        0.2,
        number().prop_map(|width| OwnLine {
            width: width / 50.0,
            side: LineSide::Inside,
            corners: LineCorner::Round,
            ends: LineEnd::Butt,
        }),
    );
    (some_form(), join(), any::<bool>(), number(), number(), figure(), bend, line)
        .prop_map(|(id, join, off, width, turn, figure, bend, line)| {
            let shape = FormShape::Basic(BasicShape { width: width.abs(), height: 60.0, figure });
            Form { join, off, bend, line, ..Form::new(id, Pose { turn, ..Pose::at(100.0, 90.0) }, shape) }
        })
        .boxed()
}

fn change() -> impl Strategy<Value = OpeningChange> {
    let forms = || prop::collection::vec(some_form(), 1..3);
    prop_oneof![
        6 => whole_form().prop_map(|form| OpeningChange::AddForm { form }),
        4 => whole_form().prop_map(|form| OpeningChange::SetForm { form }),
        2 => (some_form(), join()).prop_map(|(form, join)| OpeningChange::SetJoin { form, join }),
        1 => (some_form(), any::<bool>()).prop_map(|(form, off)| OpeningChange::SwitchForm { form, off }),
        1 => forms().prop_map(|forms| OpeningChange::RemoveForms { forms }),
        1 => (some_form(), some_form()).prop_map(|(form, copy)| OpeningChange::CopyForm { form, copy }),
        2 => (some_form(), prop::option::of(some_form()), 0..4_usize)
            .prop_map(|(form, into, to)| OpeningChange::OrderForm { form, into, to }),
        2 => (forms(), some_form()).prop_map(|(forms, list)| OpeningChange::Gather { forms, list }),
        1 => some_form().prop_map(|list| OpeningChange::Spread { list }),
        3 => (forms(), prop::array::uniform4(-2.0..2.0))
            .prop_map(|(forms, [a, b, c, d])| OpeningChange::Transform { forms, by: [a, b, c, d, 5.0, -3.0] }),
        2 => (forms(), any::<bool>())
            .prop_map(|(cover, taken)| OpeningChange::SetCells { cells: vec![CellChoice { cover, taken }] }),
        1 => (-5.0..5.0, 0.0..4.0, 0.0..1.0)
            .prop_map(|(grow, rounding, simplify)| OpeningChange::Reshape { grow, rounding, simplify }),
        1 => some_form().prop_map(|form| OpeningChange::Bake { form }),
    ]
}

fn grip() -> impl Strategy<Value = Grip> {
    prop_oneof![Just(Grip::Opening), Just(Grip::Fill), Just(Grip::Both)]
}

/// One edit of any kind.
pub fn edit() -> BoxedStrategy<Edit> {
    let lettering =
        (words(), font(), number(), number(), number()).prop_map(|(text, font, size, tracking, leading)| Lettering {
            tracking,
            leading,
            align: Align::Left,
            ..Lettering::plain(text, font.into(), size)
        });
    let placement =
        (number(), number(), number(), number(), any::<bool>()).prop_map(|(x, y, scale, turn, mirrored)| Placement {
            x,
            y,
            scale: scale / 500.0,
            turn,
            mirrored,
            slant: 0.0,
            pull: None,
        });
    let by = (number(), number(), number(), number()).prop_map(|(a, b, dx, dy)| Similarity {
        a: 1.0 + a / 600.0,
        b: b / 600.0,
        dx,
        dy,
    });
    prop_oneof![
        4 => (piece(), fill(), words(), font()).prop_map(|(piece, fill, text, font)| Edit::AddLettering {
            piece, form: form(), fill, text, font: font.into()
        }),
        4 => (piece(), lettering, any::<bool>())
            .prop_map(|(piece, lettering, fit)| Edit::SetLettering { piece, form: form(), lettering, fit }),
        9 => (piece(), change()).prop_map(|(piece, change)| Edit::Opening { piece, change }),
        2 => (piece(), whole_form(), fill()).prop_map(|(piece, form, fill)| Edit::AddWindow { piece, form, fill }),
        2 => (piece(), photo()).prop_map(|(piece, photo)| Edit::AddPicture { piece, photo }),
        4 => (piece(), fill(), photo()).prop_map(|(piece, fill, photo)| Edit::FillWithPhoto { piece, fill, photo }),
        6 => (piece(), grip(), by).prop_map(|(piece, what, by)| Edit::Move { piece, what, by }),
        3 => (piece(), fill(), placement)
            .prop_map(|(piece, fill, placement)| Edit::SetPlacement { piece, fill, placement }),
        2 => (piece(), fill(), any::<bool>()).prop_map(|(piece, fill, all)| Edit::FitPhoto {
            piece, fill, fit: if all { Fit::Contain } else { Fit::Cover }
        }),
        1 => (piece(), fill()).prop_map(|(piece, fill)| Edit::RemoveFill { piece, fill }),
        1 => piece().prop_map(|piece| Edit::RemovePiece { piece }),
        1 => (piece(), piece()).prop_map(|(piece, copy)| Edit::CopyPiece { piece, copy }),
        1 => (piece(), 0..9_usize).prop_map(|(piece, to)| Edit::OrderPiece { piece, to }),
        1 => (piece(), words()).prop_map(|(piece, name)| Edit::NamePiece { piece, name }),
        3 => (prop::collection::vec(piece(), 0..4), grip(), [number(), number(), number(), number(), number(), number()])
            .prop_map(|(pieces, what, [a, b, c, d, e, f])| Edit::Transform {
                pieces, what, by: [1.0 + a / 600.0, b / 600.0, c / 600.0, 1.0 + d / 600.0, e, f]
            }),
        2 => (bundle(), prop::option::of(bundle()), prop::collection::vec(piece(), 0..4), prop::collection::vec(bundle(), 0..2))
            .prop_map(|(bundle, within, pieces, bundles)| Edit::Bundle { bundle, within, pieces, bundles }),
        1 => (prop::collection::vec(piece(), 0..3), prop::option::of(bundle()), prop::option::of(piece()))
            .prop_map(|(pieces, into, over)| Edit::Place { pieces, bundles: Vec::new(), into, over }),
        1 => bundle().prop_map(|bundle| Edit::Dissolve { bundle }),
        2 => (bundle(), paints::bundle_finish()).prop_map(|(bundle, finish)| Edit::SetBundleFinish { bundle, finish }),
        1 => (piece(), any::<bool>()).prop_map(|(piece, hidden)| Edit::HidePiece { piece, hidden }),
        1 => (piece(), any::<bool>()).prop_map(|(piece, locked)| Edit::LockPiece { piece, locked }),
        1 => words().prop_map(|name| Edit::RenameSheet { name }),
        1 => (words(), proptest::option::of(words())).prop_map(|(finding, why)| Edit::WaveFinding { finding, why }),
        1 => (number(), number(), number())
            .prop_map(|(width, height, ppi)| Edit::ResizeSheet { width, height, unit: Unit::Mm, ppi }),
        1 => any::<[u8; 3]>().prop_map(|c| Edit::SetBackground { colour: Colour(c) }),
        16 => paints::paint_edit(),
        10 => breakouts::edit(),
        6 => splits::edit(),
    ]
    .boxed()
}
