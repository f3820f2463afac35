//! Nodes, and the fragments that hold them with what they refer to.

use super::coverage::{Clip, Mask};
use super::effect::{Effect, ToneCurve};
use super::ids::{ClipId, GradientId, MaskId, PatternId, ToneId};
use super::paint::Gradient;
use super::picture::Picture;
use super::role::Role;
use super::shape::Shape;
use super::values::Share;
use crate::sheet::Blend;
use kurbo::{Affine, BezPath, Size};
use std::sync::Arc;

/// Anything that is drawn.
#[derive(Debug, Clone, PartialEq)]
pub enum Node {
    Group(Box<Group>),
    Shape(Box<Shape>),
    Picture(Box<Picture>),
    Reuse(Box<Reuse>),
}

/// Nodes that are drawn together.
#[derive(Debug, Clone, PartialEq)]
pub struct Group {
    pub role: Role,
    /// From the group's space to that of its parent. Clip, mask and effect are in the group's space.
    pub transform: Affine,
    pub clip: Option<ClipId>,
    pub mask: Option<MaskId>,
    pub effect: Option<Effect>,
    pub opacity: Share,
    pub blend: Blend,
    /// Its nodes are made one picture first, even if nothing else asks for that.
    pub isolated: bool,
    /// From back to front.
    pub nodes: Vec<Node>,
}

/// A fragment that is drawn here too, with its own definitions.
#[derive(Debug, Clone, PartialEq)]
pub struct Reuse {
    pub role: Role,
    pub fragment: Arc<Fragment>,
    /// From the fragment's space to that of the node's parent.
    pub transform: Affine,
}

impl Default for Group {
    fn default() -> Self {
        Self {
            role: Role::PART,
            transform: Affine::IDENTITY,
            clip: None,
            mask: None,
            effect: None,
            opacity: Share::WHOLE,
            blend: Blend::Normal,
            isolated: false,
            nodes: Vec::new(),
        }
    }
}

impl Group {
    /// A group that only holds nodes together.
    pub fn of(nodes: Vec<Node>) -> Self {
        Self { nodes, ..Self::default() }
    }

    /// Whether it is drawn on nothing first, and then mixed with what lies beneath as one picture.
    pub fn is_isolated(&self) -> bool {
        self.isolated
            || self.clip.is_some()
            || self.mask.is_some()
            || self.effect.is_some()
            || !self.opacity.is_whole()
            || self.blend != Blend::Normal
    }
}

impl From<Group> for Node {
    fn from(group: Group) -> Self {
        Self::Group(Box::new(group))
    }
}

impl From<Shape> for Node {
    fn from(shape: Shape) -> Self {
        Self::Shape(Box::new(shape))
    }
}

impl From<Picture> for Node {
    fn from(picture: Picture) -> Self {
        Self::Picture(Box::new(picture))
    }
}

impl From<Reuse> for Node {
    fn from(reuse: Reuse) -> Self {
        Self::Reuse(Box::new(reuse))
    }
}

/// Nodes that are repeated without end.
#[derive(Debug, Clone, PartialEq)]
pub struct Pattern {
    pub role: Role,
    /// What is repeated: from the origin of the pattern's space on.
    pub cell: Size,
    /// From the pattern's space to that of the shape it paints.
    pub transform: Affine,
    /// What one cell shows; what reaches beyond it is cut off.
    pub nodes: Vec<Node>,
}

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
///
/// `add_…` gives the identifier by which nodes of this fragment refer to what was added; the others look it up.
///
/// # Panics
/// Where an identifier of another fragment is looked up: the builder is the only one who makes them.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Definitions {
    pub clips: Vec<Clip>,
    pub masks: Vec<Mask>,
    pub gradients: Vec<Gradient>,
    pub patterns: Vec<Pattern>,
    pub tones: Vec<ToneCurve>,
}

impl Definitions {
    /// Enters a clip, and names it for the nodes of the same fragment.
    pub fn add_clip(&mut self, clip: Clip) -> ClipId {
        self.clips.push(clip);
        ClipId(self.clips.len() as u32 - 1)
    }

    /// Enters a mask, and names it for the nodes of the same fragment.
    pub fn add_mask(&mut self, mask: Mask) -> MaskId {
        self.masks.push(mask);
        MaskId(self.masks.len() as u32 - 1)
    }

    /// Enters a gradient, and names it for the nodes of the same fragment.
    pub fn add_gradient(&mut self, gradient: Gradient) -> GradientId {
        self.gradients.push(gradient);
        GradientId(self.gradients.len() as u32 - 1)
    }

    /// Enters a pattern, and names it for the nodes of the same fragment.
    pub fn add_pattern(&mut self, pattern: Pattern) -> PatternId {
        self.patterns.push(pattern);
        PatternId(self.patterns.len() as u32 - 1)
    }

    /// Enters a tone curve, and names it for the nodes of the same fragment.
    pub fn add_tone(&mut self, tone: ToneCurve) -> ToneId {
        self.tones.push(tone);
        ToneId(self.tones.len() as u32 - 1)
    }

    /// The clip of this name; it has to be one of this fragment's.
    pub fn clip(&self, id: ClipId) -> &Clip {
        &self.clips[id.index()]
    }

    /// The mask of this name; it has to be one of this fragment's.
    pub fn mask(&self, id: MaskId) -> &Mask {
        &self.masks[id.index()]
    }

    /// The gradient of this name; it has to be one of this fragment's.
    pub fn gradient(&self, id: GradientId) -> &Gradient {
        &self.gradients[id.index()]
    }

    /// The pattern of this name; it has to be one of this fragment's.
    pub fn pattern(&self, id: PatternId) -> &Pattern {
        &self.patterns[id.index()]
    }

    /// The tone curve of this name; it has to be one of this fragment's.
    pub fn tone(&self, id: ToneId) -> &ToneCurve {
        &self.tones[id.index()]
    }
}

impl Fragment {
    /// Whether nothing is drawn.
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
