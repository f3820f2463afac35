//! Pieces and bundles as a tree.
//!
//! A piece says which bundle it is in, and a bundle which other one. All pieces stay in one list, from back to front, and where they lie is said on
//! the sheet: so nothing moves when a bundle is made or dissolved. The pieces of a bundle lie next to each other in the list.

use crate::sheet::{Bundle, BundleId, Piece, PieceId, Sheet, Window};
use serde::Serialize;
use std::collections::BTreeMap;

/// A piece or a bundle, as one bundle (or the sheet) holds it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Unit {
    Piece(PieceId),
    Bundle(BundleId),
}

/// What is drawn one over the other: a piece, or a bundle that is drawn as a whole.
#[derive(Debug, Clone, PartialEq, Hash, Serialize)]
pub enum Layer {
    Piece(PieceId),
    /// With what it holds, from back to front.
    Bundle(BundleId, Vec<Layer>),
}

impl Layer {
    /// The piece or bundle that it is.
    pub fn unit(&self) -> Unit {
        match self {
            Self::Piece(piece) => Unit::Piece(*piece),
            Self::Bundle(bundle, _) => Unit::Bundle(*bundle),
        }
    }
}

impl Sheet {
    /// A bundle by its identifier.
    pub fn bundle(&self, id: BundleId) -> Option<&Bundle> {
        self.bundles.iter().find(|b| b.id == id)
    }

    /// The bundles around something in `innermost`, the innermost first. A chain that runs in a circle ends where it would begin anew.
    pub fn bundles_around(&self, innermost: Option<BundleId>) -> Vec<BundleId> {
        let mut around: Vec<BundleId> = Vec::new();
        let mut next = innermost;
        while let Some(bundle) = next.and_then(|id| self.bundle(id)).filter(|b| !around.contains(&b.id)) {
            around.push(bundle.id);
            next = bundle.within;
        }
        around
    }

    /// A bundle with those in it, and the pieces in all of these.
    pub(crate) fn all_in(&self, id: BundleId) -> (impl Iterator<Item = &Bundle>, impl Iterator<Item = &Piece>) {
        let bundles = self.bundles.iter().filter(move |b| b.id == id || self.bundles_around(b.within).contains(&id));
        (bundles, self.pieces.iter().filter(move |p| self.bundles_around(p.bundle).contains(&id)))
    }

    /// The innermost repeated bundle around a piece: what it has for single members of a bundle, it has for those of this one.
    pub fn repeated_around(&self, piece: &Piece) -> Option<&Bundle> {
        let around = self.bundles_around(piece.bundle).into_iter();
        around.filter_map(|id| self.bundle(id)).find(|bundle| bundle.repeat.is_some())
    }

    /// That bundle, if its photos run behind all members and this piece has an opening that shows them.
    pub fn repeated_behind(&self, piece: &Piece) -> Option<&Bundle> {
        let runs_behind = |b: &&Bundle| b.repeat.as_ref().is_some_and(|r| r.behind);
        piece.window().filter(|w| w.is_masked()).and_then(|_| self.repeated_around(piece)).filter(runs_behind)
    }

    /// How many members that bundle has; none where there is no such bundle.
    pub fn members_around(&self, piece: &Piece) -> u32 {
        self.repeated_around(piece).and_then(|b| b.repeat.as_ref()).map_or(0, |r| r.layout.count())
    }

    /// The members of the repeated bundle around a piece in which the piece has something of its own.
    pub fn own_bundle_members(&self, piece: &Piece) -> Vec<u32> {
        let Some(own) = piece.window().map(Window::own_bundle_members).filter(|own| !own.is_empty()) else {
            return Vec::new();
        };
        let count = self.members_around(piece);
        own.into_iter().filter(|member| *member < count).collect()
    }

    /// What is drawn, from back to front. Hidden pieces are left out, and so are bundles that look as their pieces do by themselves: those stand
    /// for themselves.
    pub fn layers(&self) -> Vec<Layer> {
        let seen = self.pieces.iter().filter(|p| !p.hidden);
        if !self.has_whole_bundles() {
            return seen.map(|p| Layer::Piece(p.id)).collect();
        }
        let mut layers = Vec::new();
        for piece in seen {
            let shown = |id: &BundleId| self.bundle(*id).is_some_and(Bundle::is_drawn_whole);
            let around: Vec<BundleId> = self.bundles_around(piece.bundle).into_iter().rev().filter(shown).collect();
            push(&mut layers, &around, piece.id);
        }
        layers
    }

    /// Whether any bundle looks other than its pieces do by themselves.
    pub fn has_whole_bundles(&self) -> bool {
        self.bundles.iter().any(Bundle::is_drawn_whole)
    }

    /// Brings the pieces of each bundle next to each other, to where the frontmost one is, and takes away bundles without pieces. What says that it
    /// is in a bundle that is not there is in none.
    pub(crate) fn tidy_bundles(&mut self) {
        if self.bundles.is_empty() && self.pieces.iter().all(|p| p.bundle.is_none()) {
            return;
        }
        let paths: BTreeMap<PieceId, Vec<BundleId>> =
            self.pieces.iter().map(|p| (p.id, self.bundles_around(p.bundle))).collect();
        for piece in &mut self.pieces {
            piece.bundle = paths.get(&piece.id).and_then(|path| path.first().copied());
        }
        self.bundles.retain(|b| paths.values().any(|path| path.contains(&b.id)));
        let there: Vec<BundleId> = self.bundles.iter().map(|b| b.id).collect();
        self.bundles.iter_mut().for_each(|b| b.within = b.within.filter(|w| there.contains(w)));
        if self.bundles.is_empty() {
            return;
        }
        // a piece goes where the frontmost piece of each unit around it lies, from the outermost to itself
        let mut front: BTreeMap<Unit, usize> = BTreeMap::new();
        for (at, piece) in self.pieces.iter().enumerate() {
            for bundle in paths.get(&piece.id).into_iter().flatten() {
                front.insert(Unit::Bundle(*bundle), at);
            }
            front.insert(Unit::Piece(piece.id), at);
        }
        let place = |id: PieceId| -> Vec<usize> {
            let around = paths.get(&id).into_iter().flatten().rev().map(|b| Unit::Bundle(*b));
            around.chain([Unit::Piece(id)]).filter_map(|unit| front.get(&unit).copied()).collect()
        };
        self.pieces.sort_by_cached_key(|p| place(p.id));
    }
}

/// Adds a piece within these bundles, the outermost first.
fn push(layers: &mut Vec<Layer>, around: &[BundleId], piece: PieceId) {
    let [outermost, within @ ..] = around else {
        layers.push(Layer::Piece(piece));
        return;
    };
    match layers.last_mut() {
        Some(Layer::Bundle(last, inside)) if last == outermost => push(inside, within, piece),
        _ => {
            let mut inside = Vec::new();
            push(&mut inside, within, piece);
            layers.push(Layer::Bundle(*outermost, inside));
        }
    }
}
