//! What a scene is made of.

use super::cost::{Cost, Excess};
use super::depends::WINDOWS_DEEP;
use super::tree::Fragment;
use crate::breakout::WindowBreakout;
use crate::memo::{Key, Memo, Weight};
use crate::outline::{OpeningOutline, OutlineError};
use crate::piece_tree::Unit;
use crate::sheet::{Colour, PieceId, SpotInk};
use std::sync::Arc;

/// A sheet, ready to be drawn. Lengths are in millimetres.
#[derive(Debug, Clone)]
pub struct Scene {
    pub width: f64,
    pub height: f64,
    /// Pixels per inch of the delivered picture.
    pub ppi: f64,
    pub background: Colour,
    /// The inks that are printed as inks of their own.
    pub spots: Vec<SpotInk>,
    /// On the background's colour, beneath all pieces.
    pub backdrop: Fragment,
    /// From back to front; hidden ones are left out.
    pub pieces: Vec<Arc<PieceScene>>,
    /// What is drawn, from back to front: the pieces' fragments, and those of bundles that are drawn as a whole.
    pub layers: Vec<LayerScene>,
    /// Over all pieces.
    pub border: Fragment,
}

/// A piece by itself, or a bundle that is drawn as a whole.
#[derive(Debug, Clone)]
pub struct LayerScene {
    pub unit: Unit,
    pub fragment: Arc<Fragment>,
    /// Why a bundle cannot be drawn. What is wrong with a piece is said by its own scene.
    pub problem: Option<PieceProblem>,
}

/// One piece, ready to be drawn.
#[derive(Debug, Clone)]
pub struct PieceScene {
    pub piece: PieceId,
    /// What it depends on; None where something was not there, so that it may not be kept.
    pub key: Option<Key>,
    /// The opening of a window, the border of a picture; sheet space.
    pub outline: Arc<OpeningOutline>,
    /// Empty where there is a problem.
    pub fragment: Arc<Fragment>,
    /// The same in those members of the repeated bundle around it in which it has something of its own.
    pub bundle_members: Vec<BundleMemberScene>,
    /// What a window lets out, and the edges that it is cut by.
    pub breakout: Option<WindowBreakout>,
    pub cost: Cost,
    /// Why it cannot be drawn.
    pub problem: Option<PieceProblem>,
}

/// A piece as it is seen in one member of the repeated bundle around it.
#[derive(Debug, Clone)]
pub struct BundleMemberScene {
    /// Counted from 0, as the layout of the bundle counts.
    pub member: u32,
    pub fragment: Arc<Fragment>,
}

/// Why a piece cannot be drawn.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum PieceProblem {
    #[error(transparent)]
    Outline(#[from] OutlineError),
    #[error("Windows show one another more than {WINDOWS_DEEP} deep here. Take one of them out of the others.")]
    TooDeep,
    #[error(transparent)]
    TooCostly(#[from] Excess),
}

/// Scenes of pieces that were computed before.
pub type SceneMemo = Memo<PieceScene>;

impl Scene {
    /// Why something of it cannot be drawn, and what that is.
    pub fn problems(&self) -> impl Iterator<Item = (Unit, &PieceProblem)> {
        let pieces = self.pieces.iter().filter_map(|p| Some((Unit::Piece(p.piece), p.problem.as_ref()?)));
        pieces.chain(self.layers.iter().filter_map(|l| Some((l.unit, l.problem.as_ref()?))))
    }

    /// The same without the pieces that cannot be drawn.
    pub fn drawable(mut self) -> Self {
        self.pieces.retain(|p| p.problem.is_none());
        self.layers.retain(|l| l.problem.is_none());
        self
    }
}

impl PieceScene {
    pub(super) fn empty(piece: PieceId) -> Self {
        Self {
            piece,
            key: None,
            outline: Arc::default(),
            fragment: Arc::default(),
            bundle_members: Vec::new(),
            breakout: None,
            cost: Cost::default(),
            problem: None,
        }
    }

    /// What is drawn of it in one member of the repeated bundle around it, if that is something of its own.
    pub fn in_bundle_member(&self, member: u32) -> Option<&Arc<Fragment>> {
        self.bundle_members.iter().find(|own| own.member == member).map(|own| &own.fragment)
    }

    /// The same without anything to be drawn.
    pub(super) fn refused(&self, problem: PieceProblem) -> Self {
        let (fragment, bundle_members) = Default::default();
        Self { fragment, bundle_members, cost: Cost::default(), problem: Some(problem), ..self.clone() }
    }
}

impl Weight for PieceScene {
    fn weight(&self) -> u64 {
        self.cost.own_bytes + size_of::<Self>() as u64
    }
}
