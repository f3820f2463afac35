//! Random lines that split windows, and what happens to their panes.

use super::{bundle, fill, number, photo, piece, words};
use inky_core::edit::Edit;
use inky_core::sheet::{
    Course, Layout, LineLayout, Member, MemberId, MemberLook, Members, PaneEdges, PaneLook, PanePath, PaneStep, Repeat,
    Split, SplitLine,
};
use proptest::prelude::*;

/// One of few lines, so that edits meet.
fn line_id() -> impl Strategy<Value = MemberId> {
    (1..=3_u128).prop_map(|n| MemberId(uuid::Uuid::from_u128(n)))
}

fn pane() -> impl Strategy<Value = PanePath> {
    prop::collection::vec((line_id(), any::<bool>()).prop_map(|(line, far)| PaneStep { line, far }), 1..3)
        .prop_map(PanePath)
}

fn line() -> impl Strategy<Value = Member<SplitLine>> {
    let course = prop_oneof![
        Just(Course::Straight),
        Just(Course::Smooth),
        (0..12_u32, number()).prop_map(|(count, depth)| Course::Zigzag { count, depth: depth / 20.0 }),
        (number(), any::<u32>()).prop_map(|(depth, seed)| Course::Torn { depth: depth / 20.0, seed }),
    ];
    let points = prop::collection::vec([-50.0..450.0, -50.0..450.0], 2..4);
    (line_id(), points, course, any::<bool>(), prop::option::weighted(0.2, pane())).prop_map(
        |(id, points, course, flipped, within)| Member { id, value: SplitLine { points, course, flipped, within } },
    )
}

fn look() -> impl Strategy<Value = PaneLook> {
    (pane(), number(), number(), words(), any::<bool>()).prop_map(|(pane, dx, dy, name, hidden)| PaneLook {
        pane,
        by: [0.9, 0.1, -0.1, 0.9, dx, dy],
        name,
        hidden,
    })
}

fn split() -> impl Strategy<Value = Split> {
    let members = (prop::collection::vec(line(), 0..3), prop::collection::vec(look(), 0..2));
    (members, number(), number(), any::<bool>()).prop_map(|((lines, looks), gap, apart, own)| Split {
        lines: named(lines),
        gap: gap.abs() / 100.0,
        apart: apart / 50.0,
        edges: if own { PaneEdges::Own } else { PaneEdges::Old },
        looks: looks.into(),
    })
}

/// The lines as a sheet's file would hold them.
fn named(lines: Vec<Member<SplitLine>>) -> Members<SplitLine> {
    serde_json::to_value(lines).and_then(serde_json::from_value).unwrap_or_default()
}

fn repeat() -> impl Strategy<Value = Repeat> {
    let layout = prop_oneof![
        (0..6_u32, number()).prop_map(|(count, gap)| Layout::Row { count, gap, along: [1.0, 0.0] }),
        (0..4_u32, 0..4_u32, number()).prop_map(|(columns, rows, gap)| Layout::Grid {
            columns,
            rows,
            gaps: [gap, 2.0],
            along: [1.0, 0.0],
            down: [0.0, 1.0],
        }),
        (0..6_u32, number(), any::<bool>()).prop_map(|(count, sweep, upright)| Layout::Ring {
            count,
            centre: [50.0, 60.0],
            sweep,
            upright
        }),
        (0..6_u32, number(), any::<bool>(), prop::collection::vec([0.0..300.0, 0.0..300.0, -0.1..1.1], 1..5)).prop_map(
            |(count, distance, smooth, points)| Layout::Line(LineLayout {
                count,
                distance: distance / 5.0,
                points,
                smooth,
                upright: !smooth,
                level: distance / 10.0,
                thinning: 0.5,
            })
        ),
    ];
    let look = (0..4_u32, number(), any::<bool>(), prop::option::of(words()))
        .prop_map(|(member, dx, hidden, word)| MemberLook { member, by: [1.0, 0.0, 0.0, 1.0, dx, 0.0], hidden, word });
    (layout, number(), any::<bool>(), prop::collection::vec(look, 0..2)).prop_map(|(layout, turn, behind, looks)| {
        Repeat { layout, turn: turn / 10.0, scale: 1.0 + turn / 5000.0, behind, looks: looks.into() }
    })
}

/// An edit of the panes of a window or a bundle, or of how often it is shown.
pub(super) fn edit() -> impl Strategy<Value = Edit> {
    prop_oneof![
        5 => (piece(), split()).prop_map(|(piece, split)| Edit::SetSplit { piece, split }),
        1 => (piece(), pane(), fill(), photo())
            .prop_map(|(piece, pane, fill, photo)| Edit::FillPane { piece, pane, fill, photo }),
        3 => (piece(), prop::option::weighted(0.8, repeat())).prop_map(|(piece, repeat)| Edit::SetRepeat { piece, repeat }),
        2 => (piece(), 0..4_u32, fill(), photo(), any::<bool>()).prop_map(|(piece, from, fill, photo, within_bundle)| {
            Edit::Deal { piece, from, photos: vec![(fill, photo)], within_bundle }
        }),
        1 => (piece(), 0..4_u32, prop::option::weighted(0.8, words()))
            .prop_map(|(piece, member, word)| Edit::SetBundleWord { piece, member, word }),
        1 => (piece(), 0..4_u32, any::<bool>()).prop_map(|(piece, member, behind)| Edit::LookAsMember {
            pieces: vec![piece],
            member,
            behind
        }),
        2 => (bundle(), split()).prop_map(|(bundle, split)| Edit::SetBundleSplit { bundle, split }),
        2 => (bundle(), prop::option::weighted(0.8, repeat()))
            .prop_map(|(bundle, repeat)| Edit::SetBundleRepeat { bundle, repeat }),
        1 => (piece(), 0..4_u32, piece()).prop_map(|(piece, member, copy)| Edit::SetFree { piece, member, copy }),
    ]
}
