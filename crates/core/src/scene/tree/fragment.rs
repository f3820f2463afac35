//! A tree with all that it refers to.

use super::{Clip, ClipId, Gradient, GradientId, Mask, MaskId, Node, Pattern, PatternId, ToneCurve, ToneId};
use kurbo::BezPath;
use std::sync::Arc;

/// Nodes with the definitions that they refer to. Identifiers mean nothing outside of their fragment.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Fragment {
    /// The opening that [`Geometry::Opening`](super::Geometry::Opening) stands for; empty where there is none.
    pub opening: Arc<BezPath>,
    pub definitions: Definitions,
    /// From back to front.
    pub nodes: Vec<Node>,
}

/// What nodes refer to.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Definitions {
    pub clips: Vec<Clip>,
    pub masks: Vec<Mask>,
    pub gradients: Vec<Gradient>,
    pub patterns: Vec<Pattern>,
    pub tones: Vec<ToneCurve>,
}

impl Definitions {
    pub fn add_clip(&mut self, clip: Clip) -> ClipId {
        self.clips.push(clip);
        ClipId(self.clips.len() as u32 - 1)
    }

    pub fn add_mask(&mut self, mask: Mask) -> MaskId {
        self.masks.push(mask);
        MaskId(self.masks.len() as u32 - 1)
    }

    pub fn add_gradient(&mut self, gradient: Gradient) -> GradientId {
        self.gradients.push(gradient);
        GradientId(self.gradients.len() as u32 - 1)
    }

    pub fn add_pattern(&mut self, pattern: Pattern) -> PatternId {
        self.patterns.push(pattern);
        PatternId(self.patterns.len() as u32 - 1)
    }

    pub fn add_tone(&mut self, tone: ToneCurve) -> ToneId {
        self.tones.push(tone);
        ToneId(self.tones.len() as u32 - 1)
    }

    pub fn clip(&self, id: ClipId) -> &Clip {
        &self.clips[id.index()]
    }

    pub fn mask(&self, id: MaskId) -> &Mask {
        &self.masks[id.index()]
    }

    pub fn gradient(&self, id: GradientId) -> &Gradient {
        &self.gradients[id.index()]
    }

    pub fn pattern(&self, id: PatternId) -> &Pattern {
        &self.patterns[id.index()]
    }

    pub fn tone(&self, id: ToneId) -> &ToneCurve {
        &self.tones[id.index()]
    }
}

impl Fragment {
    pub fn is_empty(&self) -> bool {
        self.nodes.is_empty()
    }

    /// Every node of the fragment, parents before what they hold, those of its patterns included. Fragments that are drawn again are not
    /// entered.
    pub fn each_node<'a>(&'a self, visit: &mut dyn FnMut(&'a Node)) {
        let patterns = self.definitions.patterns.iter().map(|p| &p.nodes);
        std::iter::once(&self.nodes).chain(patterns).for_each(|nodes| each_of(nodes, visit));
    }

    /// The fragments that are drawn within this one, each as often as it is.
    pub fn reused(&self) -> Vec<&Arc<Fragment>> {
        let mut found = Vec::new();
        self.each_node(&mut |node| {
            if let Node::Reuse(reuse) = node {
                found.push(&reuse.fragment);
            }
        });
        found
    }
}

fn each_of<'a>(nodes: &'a [Node], visit: &mut dyn FnMut(&'a Node)) {
    for node in nodes {
        visit(node);
        if let Node::Group(group) = node {
            each_of(&group.nodes, visit);
        }
    }
}
