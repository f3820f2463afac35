//! A window in panes as nodes.
//!
//! Panes that lie where they would lie show the window through one clip together. So a line alone changes no pixel: there is no seam where nothing
//! was moved.

use super::builder::Builder;
use super::window::{Open, window_nodes};
use crate::breakout::WindowBreakout;
use crate::combine::{Rule, grow, join_pair};
use crate::outline::{Pane, sheet_panes};
use crate::scene::tree::{Clip, ClipId, Geometry, Group, Node, Role, Shows};
use crate::sheet::{Fill, FillPaint, PaneEdges, Window};
use kurbo::{Affine, BezPath};

/// How far a pane reaches beneath one with fills of its own beside it, so that nothing shines through between them; millimetres, so that it is
/// some pixels also where a sheet is drawn small.
const LAP: f64 = 1.5;

/// Panes that are drawn together.
struct Sharing {
    /// The first of them, by its place among the panes.
    first: usize,
    count: usize,
    own_fills: bool,
    transform: Affine,
    region: BezPath,
    opening: BezPath,
}

/// Draws a window that is split, from the first pane to the last; those with fills of their own come after the others.
pub(super) fn pane_nodes(
    builder: &mut Builder<'_>,
    window: &Window,
    open: &Open,
    released: &WindowBreakout,
) -> Vec<Node> {
    let all = sheet_panes(builder.sheet, &window.split, &open.outline);
    let own_edges = has_own_edges(window);
    let mut sharing = shared(window, &all, own_edges);
    if let [only] = &sharing[..]
        && only.count == all.len()
        && window.split.gap == 0.0
        && !only.own_fills
        && !(own_edges && all.len() > 1)
    {
        let nodes = window_nodes(builder, &window.in_pane(&all[only.first].at), open, released, None);
        return match only.transform {
            Affine::IDENTITY => nodes,
            transform => vec![Group { transform, ..Group::of(nodes) }.into()],
        };
    }
    if !own_edges && window.split.gap == 0.0 {
        lap(window, &all, &open.outline, &mut sharing);
    }
    let mut nodes = Vec::new();
    for part in sharing {
        let shown = window.in_pane(&all[part.first].at);
        let clip = region_clip(builder, part.region);
        let role = if part.count == 1 { Role::PART.showing(Shows::Pane(part.first as u32)) } else { Role::PART };
        let group = Group { role, transform: part.transform, ..Group::default() };
        let group = if own_edges {
            let open = Open::pane(part.opening, open);
            Group { nodes: window_nodes(builder, &shown, &open, released, Some(clip)), ..group }
        } else {
            let whole = window_nodes(builder, &shown, open, released, None);
            Group { clip: Some(clip), nodes: whole, ..group }
        };
        nodes.push(group.into());
    }
    nodes
}

/// Whether anything of the finish is drawn along the edges of panes.
fn has_own_edges(window: &Window) -> bool {
    let finish = &window.finish;
    let edged = finish.rims.iter().any(|r| !r.off)
        || finish.shadows.iter().any(|s| !s.off)
        || finish.softness.width > 0.0
        || finish.gloss.is_some_and(|g| !g.off);
    window.split.edges == PaneEdges::Own && edged && !finish.negative
}

fn shared(window: &Window, all: &[Pane], own_edges: bool) -> Vec<Sharing> {
    let mut sharing: Vec<Sharing> = Vec::new();
    for (k, pane) in all.iter().enumerate() {
        if window.split.look(&pane.at).is_some_and(|look| look.hidden) {
            continue;
        }
        let transform = pane.transform(&window.split);
        let own_fills = window.has_own_fills(&pane.at);
        let same = |s: &&mut Sharing| !own_edges && !own_fills && !s.own_fills && s.transform == transform;
        match sharing.iter_mut().find(same) {
            Some(there) => {
                there.region = join_pair(&there.region, &pane.region, Rule::Union);
                there.count += 1;
            }
            None => sharing.push(Sharing {
                first: k,
                count: 1,
                own_fills,
                transform,
                region: pane.region.clone(),
                opening: pane.opening.clone(),
            }),
        }
    }
    sharing.sort_by_key(|s| s.own_fills);
    sharing
}

/// Lets what panes show of the opening reach a little beneath those that are drawn over them in the same place.
fn lap(window: &Window, all: &[Pane], opening: &BezPath, sharing: &mut [Sharing]) {
    let covers = |s: &Sharing| window.in_pane(&all[s.first].at).fills.iter().any(is_opaque);
    for k in 0..sharing.len() {
        let transform = sharing[k].transform;
        if sharing[k + 1..].iter().any(|later| later.transform == transform && covers(later)) {
            let region = &sharing[k].region;
            let beneath = join_pair(&grow(region, LAP), opening, Rule::Intersection);
            sharing[k].region = join_pair(region, &beneath, Rule::Union);
        }
    }
}

fn is_opaque(fill: &Fill) -> bool {
    let solid = matches!(fill.paint, FillPaint::Photo(_) | FillPaint::Plain(_));
    solid && fill.strength >= 1.0 && fill.blend.is_normal()
}

fn region_clip(builder: &mut Builder<'_>, region: BezPath) -> ClipId {
    let clip = Clip { role: Role::OPENING, geometry: Geometry::path(region), transform: Affine::IDENTITY };
    builder.definitions.add_clip(clip)
}
