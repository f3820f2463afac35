//! A sheet as the screen shows and handles it: markup for each piece, and what people take hold of.

use crate::handles::{BundleHandles, OutlineView, PieceHandles};
use crate::library::Library;
use crate::memo::{KeyBuilder, Memo, Weight};
use crate::piece_tree::Layer;
use crate::scene::svg::{PictureLevels, screen_markup, screen_shadows};
use crate::scene::tree::Fragment;
use crate::scene::{Keys, PieceScene, SceneBuilder};
use crate::sheet::{BundleId, Colour, Piece, PieceId, Sheet};
use rayon::prelude::*;
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// One piece on the screen.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PieceView {
    /// One SVG group in sheet space; empty where there is a problem.
    pub markup: String,
    /// The same in those members of the repeated bundle around it in which it has something of its own.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<BundleMemberView>>")]
    pub bundle_members: Vec<BundleMemberView>,
    #[serde(flatten)]
    #[ts(flatten)]
    pub handles: PieceHandles,
}

/// A piece in one member of the repeated bundle around it.
#[derive(Debug, Clone, Serialize, TS)]
pub struct BundleMemberView {
    /// Counted from 0, as the layout of the bundle counts.
    pub member: u32,
    /// One SVG group in sheet space.
    pub markup: String,
    /// Its outline there, where it is another one.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub outline: Option<OutlineView>,
}

/// What belongs to the sheet itself.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct PageView {
    pub background: Colour,
    /// SVG on the background's colour, beneath all pieces.
    pub backdrop: String,
    /// SVG over all pieces.
    pub border: String,
    /// Bundles that are drawn as a whole; outer ones after those within them.
    pub bundles: Vec<BundleView>,
}

/// What is drawn of a bundle besides its pieces.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct BundleView {
    pub bundle: BundleId,
    /// SVG beneath its pieces. What throws these shadows is referred to: what is seen of a bundle, as `seen-` with its identifier.
    pub shadows: String,
    /// Where it is seen, if it is in panes or repeated.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub divided: Option<BundleHandles>,
}

/// A sheet on the screen.
#[derive(Debug, Clone, Serialize, TS)]
pub struct SceneView {
    pub page: PageView,
    /// From back to front; hidden ones are left out.
    #[ts(as = "Vec<PieceView>")]
    pub pieces: Vec<Arc<PieceView>>,
}

/// Views of pieces that were made before.
pub type ViewMemo = Memo<PieceView>;

/// Makes views of a sheet's pieces, each once.
pub struct Screen<'a> {
    pub sheet: &'a Sheet,
    pub library: &'a dyn Library,
    pub builder: SceneBuilder<'a>,
    pub levels: &'a dyn PictureLevels,
    pub memo: &'a ViewMemo,
}

impl Screen<'_> {
    /// Everything that is not hidden, pieces side by side on all cores.
    pub fn scene(&self) -> SceneView {
        let pieces: Vec<&Piece> = self.sheet.pieces.iter().filter(|p| !p.hidden).collect();
        SceneView { page: self.page(), pieces: pieces.into_par_iter().map(|p| self.piece(p)).collect() }
    }

    /// What lies beneath all pieces and over them.
    pub fn page(&self) -> PageView {
        let (backdrop, border) = self.builder.page();
        PageView {
            background: self.sheet.background,
            backdrop: screen_markup("backdrop", &backdrop, self.levels),
            border: screen_markup("border", &border, self.levels),
            bundles: self
                .builder
                .bundle_shadows()
                .iter()
                .filter_map(|(layer, fragment)| self.bundle(layer, fragment))
                .collect(),
        }
    }

    fn bundle(&self, layer: &Layer, shadows: &Fragment) -> Option<BundleView> {
        let Layer::Bundle(bundle, _) = layer else { return None };
        let thrown_by = [format!("seen-{}", bundle.0)];
        let shadows = screen_shadows(&format!("b{bundle}"), shadows, &thrown_by, self.levels);
        let own = self.sheet.bundle(*bundle).filter(|b| b.is_divided());
        let divided = own.map(|own| BundleHandles::of(self.sheet, own, self.library));
        Some(BundleView { bundle: *bundle, shadows, divided })
    }

    /// The views of pieces that look other than those of another sheet, or that it does not have; from back to front.
    pub fn pieces_unlike(&self, others: &Keys) -> Vec<Arc<PieceView>> {
        let keys = self.builder.keys();
        let unlike = |id: PieceId| keys.of_piece(id).is_none() || keys.of_piece(id) != others.of_piece(id);
        let pieces: Vec<&Piece> = self.sheet.pieces.iter().filter(|p| !p.hidden && unlike(p.id)).collect();
        pieces.into_par_iter().map(|p| self.piece(p)).collect()
    }

    /// The view of one piece: as it was kept, or made now.
    pub fn piece(&self, piece: &Piece) -> Arc<PieceView> {
        let scene = self.builder.piece(piece);
        // a piece is too costly at one resolution and not at another: that is no matter of its own
        let key = scene.key.filter(|_| scene.problem.is_none());
        let key = key.and_then(|key| KeyBuilder::default().with_key(key).with(&piece.id).finish());
        if let Some(known) = key.and_then(|key| self.memo.get(key)) {
            return known;
        }
        let view = self.make(piece, &scene);
        match key {
            Some(key) => self.memo.put(key, view),
            None => Arc::new(view),
        }
    }

    fn make(&self, piece: &Piece, scene: &PieceScene) -> PieceView {
        let (markup, handles) = rayon::join(
            || screen_markup(&format!("p{}", piece.id), &scene.fragment, self.levels),
            || PieceHandles::of(self.sheet, piece, scene, self.library),
        );
        let own = scene.bundle_members.iter().map(|own| BundleMemberView {
            member: own.member,
            markup: screen_markup(&format!("p{}m{}", piece.id, own.member), &own.fragment, self.levels),
            outline: (own.fragment.opening != scene.outline.path).then(|| OutlineView::of(&own.fragment.opening)),
        });
        PieceView { markup, bundle_members: own.collect(), handles }
    }
}

impl Weight for PieceView {
    fn weight(&self) -> u64 {
        let own: usize = self.bundle_members.iter().map(|own| own.markup.len()).sum();
        (self.markup.len() + own + self.handles.text_bytes()) as u64
    }
}
