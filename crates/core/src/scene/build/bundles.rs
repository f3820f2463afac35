//! Bundles that are drawn as a whole: with a finish of their own, in panes, or several times.
//!
//! The fragments of what is in a bundle are drawn again within that of the bundle: once for each of its shadows, and once as one picture. So
//! nothing is computed anew, and what breaks out of a window throws the bundle's shadow too.

use super::builder::Builder;
use crate::outline::{bundle_outline, bundle_parts, seen_members, sheet_panes};
use crate::piece_tree::Layer;
use crate::scene::cost::{Cost, Excess};
use crate::scene::model::{LayerScene, PieceScene};
use crate::scene::tree::{Clip, Fragment, Geometry, Group, Node, Reuse, Role, Share, Shows};
use crate::sheet::{BundleFinish, BundleId, PieceId};
use kurbo::{Affine, Rect};
use std::collections::HashMap;
use std::sync::Arc;

/// Pieces by their identifiers.
type Scenes<'a> = HashMap<PieceId, &'a Arc<PieceScene>>;

/// What is drawn of a sheet, from back to front. `builder` begins a fragment.
pub(super) fn layers<'a>(builder: impl Fn() -> Builder<'a>, pieces: &[Arc<PieceScene>]) -> Vec<LayerScene> {
    let scenes: Scenes<'_> = pieces.iter().map(|p| (p.piece, p)).collect();
    let mut sum = Cost::default();
    let layers = builder().sheet.layers();
    let draw = |layer: &Layer| {
        let fragment = fragment(&builder, layer, &scenes, None);
        if matches!(layer, Layer::Piece(_)) {
            // what a piece costs has been asked already
            return LayerScene { unit: layer.unit(), fragment, problem: None };
        }
        let cost = Cost::of(&fragment);
        sum.add(&cost);
        let whole = (!sum.fits_a_sheet()).then_some(Excess::Sheet);
        match cost.excess(builder().sheet.ppi).or(whole) {
            None => LayerScene { unit: layer.unit(), fragment, problem: None },
            Some(excess) => LayerScene { unit: layer.unit(), fragment: Arc::default(), problem: Some(excess.into()) },
        }
    };
    layers.iter().map(draw).collect()
}

/// The shadows of every bundle that is drawn as a whole, those within others first; nothing throws them here.
pub(super) fn shadows(builder: Builder<'_>) -> Vec<(Layer, Fragment)> {
    let mut all = Vec::new();
    let mut left = builder.sheet.layers();
    while let Some(layer) = left.pop() {
        let Layer::Bundle(bundle, inside) = &layer else { continue };
        left.extend(inside.iter().cloned());
        let nodes = thrown(&builder, *bundle, &[]);
        all.push((layer, Fragment { nodes, ..Fragment::default() }));
    }
    all.reverse();
    all
}

fn fragment<'a>(
    builder: &impl Fn() -> Builder<'a>,
    layer: &Layer,
    scenes: &Scenes<'_>,
    member: Option<u32>,
) -> Arc<Fragment> {
    let (bundle, inside) = match layer {
        Layer::Piece(piece) => {
            let scene = scenes.get(piece);
            let own = member.and_then(|k| scene?.in_bundle_member(k));
            return own.or(scene.map(|s| &s.fragment)).map(Arc::clone).unwrap_or_default();
        }
        Layer::Bundle(bundle, inside) => (*bundle, inside),
    };
    let again = |layer: &Layer, member: Option<u32>| -> Node {
        let fragment = fragment(builder, layer, scenes, member);
        Reuse { role: Role::PART, fragment, transform: Affine::IDENTITY }.into()
    };
    // what is in a bundle that is repeated itself has its own things for the members of that one
    let is_repeated = |id: BundleId| builder().sheet.bundle(id).is_some_and(|b| b.repeat.is_some());
    let around = member.filter(|_| !is_repeated(bundle));
    let common: Vec<Node> = inside.iter().map(|layer| again(layer, around)).collect();
    let in_member = |k: u32| match inside.iter().any(|layer| has_own(layer, scenes, &is_repeated, k)) {
        true => inside.iter().map(|layer| again(layer, Some(k))).collect(),
        false => common.clone(),
    };
    let mut builder = builder();
    let inside = divided(&mut builder, bundle, &common, in_member);
    let mut nodes = thrown(&builder, bundle, &inside);
    let finish = finish_of(&builder, bundle);
    nodes.push(Group { opacity: Share::new(finish.strength), blend: finish.blend, ..Group::of(inside) }.into());
    Arc::new(builder.fragment(nodes))
}

/// Whether something in a layer looks other in this member of the repeated bundle around it.
fn has_own(layer: &Layer, scenes: &Scenes<'_>, is_repeated: &impl Fn(BundleId) -> bool, member: u32) -> bool {
    match layer {
        Layer::Piece(piece) => scenes.get(piece).is_some_and(|scene| scene.in_bundle_member(member).is_some()),
        Layer::Bundle(bundle, inside) => {
            !is_repeated(*bundle) && inside.iter().any(|layer| has_own(layer, scenes, is_repeated, member))
        }
    }
}

/// What is in a bundle, in its panes and as its members: `inside` where it is shown once, and what `in_member` gives for each member.
fn divided(
    builder: &mut Builder<'_>,
    bundle: BundleId,
    inside: &[Node],
    in_member: impl Fn(u32) -> Vec<Node>,
) -> Vec<Node> {
    let Some(own) = builder.sheet.bundle(bundle).filter(|b| b.is_divided()) else { return inside.to_vec() };
    let outline = bundle_outline(builder.sheet, bundle, builder.library);
    let mut parts = Vec::new();
    for part in bundle_parts(&own.split, &sheet_panes(builder.sheet, &own.split, &outline)) {
        let role = part.pane.map_or(Role::PART, |k| Role::PART.showing(Shows::Pane(k as u32)));
        let clip = part.region.map(|region| {
            let geometry = Geometry::path(region);
            builder.definitions.add_clip(Clip { role: Role::PART, geometry, transform: Affine::IDENTITY })
        });
        parts.push(Group { role, transform: part.transform, clip, ..Group::default() });
    }
    let in_parts =
        |inside: &[Node]| parts.iter().map(|p| Group { nodes: inside.to_vec(), ..p.clone() }.into()).collect();
    let Some(repeat) = &own.repeat else { return in_parts(inside) };
    let member = |(k, transform): (u32, Affine)| {
        let role = Role::PART.showing(Shows::Member(k));
        Group { role, transform, ..Group::of(in_parts(&in_member(k))) }.into()
    };
    seen_members(repeat, &outline).into_iter().map(member).collect()
}

fn finish_of(builder: &Builder<'_>, bundle: BundleId) -> BundleFinish {
    builder.sheet.bundle(bundle).map(|b| b.finish.clone()).unwrap_or_default()
}

/// The shadows of a bundle that holds these nodes. They are as faint as the bundle is.
fn thrown(builder: &Builder<'_>, bundle: BundleId, inside: &[Node]) -> Vec<Node> {
    let sheet = builder.sheet;
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height).inflate(sheet.bleed, sheet.bleed);
    let finish = finish_of(builder, bundle);
    let seen = finish.shadows.iter().filter(|s| !s.off);
    seen.map(|s| builder.shadow(s, inside.to_vec(), page, finish.strength)).collect()
}
