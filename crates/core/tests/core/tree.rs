//! Looking into trees.

use inky_core::scene::tree::{Coverage, Fragment, Node};
use std::sync::Arc;

/// Every node of a fragment.
pub fn all_nodes(fragment: &Fragment) -> Vec<&Node> {
    let mut nodes = Vec::new();
    fragment.each_node(&mut |node| nodes.push(node));
    nodes
}

/// The fragment that a node draws again.
pub fn within(node: &Node) -> Option<&Arc<Fragment>> {
    match node {
        Node::Reuse(reuse) => Some(&reuse.fragment),
        _ => None,
    }
}

/// How often a coverage limits one area by another, and the deviations of its blurs in millimetres.
pub fn counted(coverage: &Coverage) -> (usize, Vec<f64>) {
    let (mut limits, mut blurs) = (0, Vec::new());
    let mut next = vec![coverage];
    while let Some(at) = next.pop() {
        match at {
            Coverage::Inside { .. } | Coverage::Along { .. } | Coverage::All => {}
            Coverage::Any { of, .. } => next.extend(of),
            Coverage::Without(a, b) | Coverage::Both(a, b) | Coverage::OneOf(a, b) => {
                limits += 1;
                next.extend([&**a, &**b]);
            }
            Coverage::Blurred(of, deviation) => {
                blurs.push(deviation.mm());
                next.push(of);
            }
        }
    }
    (limits, blurs)
}
