//! Fills, finishes and inks at random, sound and unsound ones. Boxed, as they are too large for a thread's stack otherwise.

use super::{fill, number, photo, piece, whole_form, words};
use inky_core::edit::Edit;
use inky_core::sheet::*;
use proptest::prelude::*;

/// From 0 to 1, and now and then something else.
fn share() -> impl Strategy<Value = f64> {
    prop_oneof![9 => 0.0..=1.0, 1 => number()]
}

/// A length that is drawn, and now and then something else.
fn length() -> impl Strategy<Value = f64> {
    prop_oneof![9 => 0.0..12.0, 1 => number()]
}

/// Longer than a pixel: renderers shade what is finer in their own ways.
fn dash() -> impl Strategy<Value = f64> {
    prop_oneof![9 => 1.0..12.0, 1 => number()]
}

fn colour() -> impl Strategy<Value = Colour> {
    any::<[u8; 3]>().prop_map(Colour)
}

/// Two inks at most, so that paints meet them.
fn ink() -> impl Strategy<Value = InkId> {
    (1..=2_u128).prop_map(|n| InkId(uuid::Uuid::from_u128(n)))
}

fn tint() -> BoxedStrategy<Tint> {
    prop_oneof![3 => colour().prop_map(Tint::Colour), 1 => ink().prop_map(Tint::Ink)].boxed()
}

fn gradient() -> BoxedStrategy<Gradient> {
    let stop = (share(), tint(), share()).prop_map(|(at, tint, opacity)| Stop { at, tint, opacity });
    (any::<bool>(), prop::collection::vec(stop, 0..5), any::<bool>())
        .prop_map(|(linear, mut stops, sorted)| {
            if sorted {
                stops.sort_by(|a, b| a.at.total_cmp(&b.at));
            }
            Gradient { kind: if linear { GradientKind::Linear } else { GradientKind::Radial }, stops }
        })
        .boxed()
}

fn paint() -> BoxedStrategy<Paint> {
    let vector = prop::option::of(prop::array::uniform4(number()))
        .prop_map(|s| s.map(|[a, b, c, d]| GradientVector { from: [a, b], to: [c, d] }));
    prop_oneof![
        3 => colour().prop_map(Paint::colour),
        2 => ink().prop_map(|ink| Paint::Ink { ink, vector: None }),
        3 => (gradient(), vector).prop_map(|(gradient, vector)| Paint::Gradient { gradient, vector }),
    ]
    .boxed()
}

fn blend() -> impl Strategy<Value = Blend> {
    prop_oneof![Just(Blend::Normal), Just(Blend::Multiply), Just(Blend::ColorDodge), Just(Blend::Luminosity)]
}

fn tone() -> BoxedStrategy<Tone> {
    let print = prop_oneof![
        2 => Just(None),
        1 => tint().prop_map(|dark| Some(Print::One { dark })),
        1 => (tint(), tint()).prop_map(|(dark, light)| Some(Print::Two { dark, light })),
    ];
    (prop::array::uniform4(share()), print)
        .prop_map(|([brightness, contrast, saturation, warmth], print)| Tone {
            brightness,
            contrast: -contrast,
            saturation,
            warmth,
            print,
        })
        .boxed()
}

fn placement() -> BoxedStrategy<Placement> {
    let pull = prop::option::weighted(0.3, prop::array::uniform4(prop::array::uniform2(-0.4..0.4)));
    (number(), number(), 0.01..2.0, number(), pull)
        .prop_map(|(x, y, scale, slant, pull)| Placement {
            x,
            y,
            scale,
            turn: 20.0,
            mirrored: true,
            slant: slant / 8.0,
            pull,
        })
        .boxed()
}

fn some_fill() -> BoxedStrategy<Fill> {
    let paint = prop_oneof![
        3 => paint().prop_map(FillPaint::Plain),
        3 => (photo(), placement(), tone(), any::<bool>()).prop_map(|(photo, placement, tone, alone)| {
            FillPaint::Photo(PhotoFill { photo, placement, tone, shared: None, alone })
        }),
        1 => (photo(), placement(), share(), length(), tone()).prop_map(|(photo, placement, offset, step, tone)| {
            FillPaint::Tile(TileFill { motif: Motif::Photo(photo), placement, step: [step, 1.0], offset, tone })
        }),
        1 => (drawing(), placement(), looks()).prop_map(|(drawing, placement, looks)| {
            FillPaint::Drawing(DrawingFill { drawing, placement, looks })
        }),
        1 => (drawing(), placement(), share()).prop_map(|(drawing, placement, offset)| {
            let motif = Motif::Drawing(drawing);
            FillPaint::Tile(TileFill { motif, placement, step: [1.0, 1.5], offset, tone: Tone::default() })
        }),
        1 => (whole_form(), paint()).prop_map(|(form, paint)| FillPaint::Form(Box::new(FormFill { form, paint }))),
        1 => (piece(), number()).prop_map(|(piece, dx)| {
            FillPaint::Window(WindowFill { piece, by: Similarity { dx, ..Similarity::default() } })
        }),
    ];
    (fill(), paint, share(), blend(), any::<[bool; 2]>())
        .prop_map(|(id, paint, strength, blend, [follows_opening, off])| Fill {
            id,
            paint,
            strength,
            blend,
            follows_opening,
            off,
            pane: None,
            member: None,
            bundle_member: None,
        })
        .boxed()
}

/// The drawing that the files hold, or one that nobody has.
fn drawing() -> impl Strategy<Value = DrawingId> {
    prop_oneof![9 => Just(DrawingId::from("kite")), 1 => Just(DrawingId::from("nowhere"))]
}

fn looks() -> BoxedStrategy<Vec<PartLook>> {
    let look = (0..9_u32, any::<bool>(), prop::option::of(paint()));
    let look = look.prop_map(|(part, off, paint)| PartLook { part, off, out: off, paint });
    prop::collection::vec(look, 0..4).boxed()
}

fn side() -> impl Strategy<Value = LineSide> {
    prop_oneof![Just(LineSide::Inside), Just(LineSide::Centre), Just(LineSide::Outside)]
}

/// Some that fall behind a window, and some inside, or of a bundle that fall inside all the same.
fn shadow() -> BoxedStrategy<Shadow> {
    (any::<bool>(), tint(), blend(), prop::array::uniform4(length()), number())
        .prop_map(|(inside, tint, blend, [strength, distance, spread, size], angle)| Shadow {
            place: if inside { ShadowPlace::Inside } else { ShadowPlace::Behind },
            tint,
            blend,
            strength: strength / 12.0,
            angle,
            distance,
            spread,
            size,
            off: false,
        })
        .boxed()
}

/// The finish of a whole bundle.
pub fn bundle_finish() -> BoxedStrategy<BundleFinish> {
    (share(), blend(), prop::collection::vec(shadow(), 0..2))
        .prop_map(|(strength, blend, shadows)| BundleFinish { strength, blend, shadows: shadows.into() })
        .boxed()
}

fn finish() -> BoxedStrategy<Finish> {
    let rim = (length(), side(), paint(), prop::collection::vec(dash(), 0..4), any::<[bool; 2]>()).prop_map(
        |(width, side, paint, dashes, [round, over])| Rim { width, side, paint, dashes, round, over, off: false },
    );
    let gloss = (share(), length(), share(), number()).prop_map(|(strength, reach, shine, light)| Gloss {
        strength,
        reach,
        shine,
        light,
        rise: 40.0,
        off: false,
    });
    let fade = prop_oneof![Just(FadeSide::Both), Just(FadeSide::Inward), Just(FadeSide::Outward)];
    (
        (length(), fade, share(), any::<bool>()),
        prop::collection::vec(rim, 0..3),
        prop::collection::vec(shadow(), 0..3),
        prop::option::weighted(0.3, gloss),
    )
        .prop_map(|((width, side, strength, negative), rims, shadows, gloss)| Finish {
            softness: Softness { width, side },
            strength,
            negative,
            rims: rims.into(),
            shadows: shadows.into(),
            gloss,
        })
        .boxed()
}

/// Edits of fills, finishes, inks and the sheet's own look.
pub fn paint_edit() -> BoxedStrategy<Edit> {
    let mix = prop_oneof![
        colour().prop_map(|colour| Mix::Colour { colour }),
        gradient().prop_map(|gradient| Mix::Gradient { gradient }),
    ];
    let some_ink = (ink(), words(), mix, any::<bool>()).prop_map(|(id, name, mix, spot)| Ink { id, name, mix, spot });
    let by = (number(), number()).prop_map(|(dx, dy)| Similarity { a: 0.9, b: 0.1, dx, dy });
    prop_oneof![
        5 => (piece(), some_fill()).prop_map(|(piece, fill)| Edit::AddFill { piece, fill }),
        4 => (piece(), some_fill()).prop_map(|(piece, fill)| Edit::SetFill { piece, fill }),
        2 => (piece(), fill(), photo()).prop_map(|(piece, fill, photo)| Edit::AddPhoto { piece, fill, photo }),
        2 => (piece(), fill(), fill()).prop_map(|(piece, fill, of)| Edit::ShareFill { piece, fill, of }),
        1 => (piece(), fill(), 0..5_usize).prop_map(|(piece, fill, to)| Edit::OrderFill { piece, fill, to }),
        2 => (piece(), fill(), by).prop_map(|(piece, fill, by)| Edit::MoveFill { piece, fill, by }),
        5 => (piece(), finish()).prop_map(|(piece, finish)| Edit::SetFinish { piece, finish }),
        3 => some_ink.prop_map(|ink| Edit::SetInk { ink }),
        1 => ink().prop_map(|ink| Edit::RemoveInk { ink }),
        1 => prop::option::of(paint()).prop_map(|paint| Edit::SetBackdrop { paint }),
        1 => share().prop_map(|grain| Edit::SetPaper { grain }),
        1 => length().prop_map(|bleed| Edit::SetBleed { bleed }),
        1 => (prop::array::uniform2(length()), 0..4_u32, prop::collection::vec((number(), any::<bool>()), 0..3)).prop_map(
            |([margin, gutter], columns, lines)| {
                let way = |upright| if upright { GuideWay::Upright } else { GuideWay::Level };
                let lines: Vec<_> = lines.into_iter().map(|(at, upright)| GuideLine { way: way(upright), at }).collect();
                let margins = Margins { left: margin, top: margin, right: margin, bottom: margin };
                Edit::SetGuides { guides: LayoutGuides { margins, columns, gutter, lines: lines.into(), ..LayoutGuides::default() } }
            },
        ),
        1 => prop::option::of((length(), length(), paint()))
            .prop_map(|b| Edit::SetBorder { border: b.map(|(width, inset, paint)| Border { width, inset, paint }) }),
    ]
    .boxed()
}
