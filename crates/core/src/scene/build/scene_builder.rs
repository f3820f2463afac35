//! Computes the scenes of pieces.

use super::builder::{Builder, ShownWindows};
use super::bundles;
use super::members::{member_nodes, one_window};
use super::page;
use super::window::Open;
use crate::breakout::WindowBreakout;
use crate::library::Library;
use crate::outline::{OpeningOutline, opened_in, seen_bundle_members, shown_outline};
use crate::piece_tree::Layer;
use crate::scene::cost::{Cost, Excess};
use crate::scene::depends::Keys;
use crate::scene::model::{BundleMemberScene, PieceProblem, PieceScene, Scene, SceneMemo};
use crate::scene::tree::{Definitions, Fragment, Node};
use crate::sheet::{BundleId, Piece, PieceId, PieceKind, Sheet, Window};
use kurbo::{Affine, BezPath};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// Members by their numbers, and where they lie.
type Places = Arc<Vec<(u32, Affine)>>;

/// Computes the scenes of pieces, each once.
pub struct SceneBuilder<'a> {
    sheet: &'a Sheet,
    library: &'a dyn Library,
    memo: &'a SceneMemo,
    keys: Arc<Keys>,
    /// What was built for this sheet, also where it may not be kept.
    built: Mutex<HashMap<PieceId, Arc<PieceScene>>>,
    /// The members of bundles whose photos run behind all of them.
    behind: Mutex<HashMap<BundleId, Places>>,
}

impl<'a> SceneBuilder<'a> {
    /// Hashes the sheet: some microseconds a piece.
    pub fn new(sheet: &'a Sheet, library: &'a dyn Library, memo: &'a SceneMemo) -> Self {
        Self::with_keys(sheet, Arc::new(Keys::of(sheet)), library, memo)
    }

    /// The same where the sheet's keys are known.
    pub fn with_keys(sheet: &'a Sheet, keys: Arc<Keys>, library: &'a dyn Library, memo: &'a SceneMemo) -> Self {
        Self { sheet, library, memo, keys, built: Mutex::default(), behind: Mutex::default() }
    }

    /// What the scenes of the pieces depend on.
    pub fn keys(&self) -> &Keys {
        &self.keys
    }

    /// The scene of the whole sheet. Hidden pieces are left out.
    pub fn scene(&self) -> Scene {
        let pieces: Vec<&Piece> = self.sheet.pieces.iter().filter(|p| !p.hidden).collect();
        let (backdrop, border) = self.page();
        let pieces = affordable(pieces.into_par_iter().map(|p| self.piece(p)).collect());
        Scene {
            layers: bundles::layers(|| self.builder(), &pieces),
            width: self.sheet.width,
            height: self.sheet.height,
            ppi: self.sheet.ppi,
            background: self.sheet.background,
            spots: self.sheet.spot_inks(),
            backdrop,
            border,
            pieces,
        }
    }

    /// What lies beneath all pieces, and what lies over them.
    pub fn page(&self) -> (Fragment, Fragment) {
        (page::backdrop(self.builder()), page::border(self.builder()))
    }

    /// The scene of one piece; an empty one where it takes too much to draw it at the sheet's resolution.
    pub fn piece(&self, piece: &Piece) -> Arc<PieceScene> {
        let scene = self.computed(piece);
        match scene.cost.excess(self.sheet.ppi) {
            Some(excess) => Arc::new(scene.refused(excess.into())),
            None => scene,
        }
    }

    /// As it was kept, or computed now.
    fn computed(&self, piece: &Piece) -> Arc<PieceScene> {
        let built = || self.built.lock().unwrap_or_else(PoisonError::into_inner);
        let key = self.keys.of_piece(piece.id);
        let known = built().get(&piece.id).cloned().or_else(|| self.memo.get(key?));
        if let Some(known) = known {
            return known;
        }
        let scene = self.compute(piece);
        let kept = match scene.key {
            Some(key) => self.memo.put(key, scene),
            None => Arc::new(scene),
        };
        // another thread may have built it meanwhile
        Arc::clone(built().entry(piece.id).or_insert(kept))
    }

    /// The shadows of each bundle that is drawn as a whole, and what throws them, without what throws them within.
    pub fn bundle_shadows(&self) -> Vec<(Layer, Fragment)> {
        bundles::shadows(self.builder())
    }

    fn builder(&self) -> Builder<'_> {
        Builder {
            sheet: self.sheet,
            library: self.library,
            windows: self,
            definitions: Definitions::default(),
            opening: Arc::default(),
            incomplete: false,
            problem: None,
        }
    }

    fn compute(&self, piece: &Piece) -> PieceScene {
        let mut builder = self.builder();
        let mut scene = PieceScene::empty(piece.id);
        let behind = self.behind(piece);
        let nodes = match &piece.kind {
            PieceKind::Window(_) if self.keys.is_too_deep(piece.id) => {
                scene.problem = Some(PieceProblem::TooDeep);
                Vec::new()
            }
            PieceKind::Window(window) => match shown_outline(self.sheet, window, self.library) {
                Ok(outline) => {
                    let shown = &window.in_any_bundle_member();
                    let shown = Shown { window, shown, in_members: behind.opening.as_ref() };
                    let nodes = nodes_of(&mut builder, piece.id, &shown, &outline, &mut scene);
                    scene.outline = outline;
                    nodes
                }
                Err(error) => {
                    scene.problem = Some(PieceProblem::Outline(error));
                    builder.incomplete = true;
                    Vec::new()
                }
            },
        };
        if scene.problem.is_none() {
            scene.bundle_members = self.bundle_members(piece, &behind, &mut builder);
        }
        // what was ended on the way is not kept
        if !builder.incomplete && !self.library.watch().is_cancelled() {
            scene.key = self.keys.of_piece(piece.id);
        }
        builder.opening = Arc::clone(&scene.outline.path);
        let within = builder.problem.take();
        scene.fragment = Arc::new(builder.fragment(nodes));
        scene.cost = Cost::of(&scene.fragment);
        scene.bundle_members.iter().for_each(|own| scene.cost.add(&Cost::of(&own.fragment)));
        scene.problem = scene.problem.or(within);
        scene
    }
}

impl SceneBuilder<'_> {
    /// A piece in the members of the repeated bundle around it in which it looks different.
    fn bundle_members(&self, piece: &Piece, behind: &Behind, whole: &mut Builder<'_>) -> Vec<BundleMemberScene> {
        let scene = |(member, at, own): (u32, Affine, Window)| {
            let mut builder = self.builder();
            let nodes = match shown_outline(self.sheet, &own, self.library) {
                Ok(outline) => {
                    builder.opening = Arc::clone(&outline.path);
                    let all = behind.opening.as_ref().map(|all| at.inverse() * all);
                    let own = Shown { window: &own, shown: &own, in_members: all.as_ref() };
                    nodes_of(&mut builder, piece.id, &own, &outline, &mut PieceScene::empty(piece.id))
                }
                Err(_) => {
                    builder.incomplete = true;
                    Vec::new()
                }
            };
            whole.incomplete |= builder.incomplete;
            whole.problem = whole.problem.take().or(builder.problem.take());
            BundleMemberScene { member, fragment: Arc::new(builder.fragment(nodes)) }
        };
        self.in_bundle_members(piece, behind).into_iter().map(scene).collect()
    }

    /// A window as the members of the repeated bundle around it show it in which it looks different; each with its number and its place.
    fn in_bundle_members(&self, piece: &Piece, behind: &Behind) -> Vec<(u32, Affine, Window)> {
        let Some(window) = piece.window() else { return Vec::new() };
        let own = self.sheet.own_bundle_members(piece);
        if self.sheet.repeated_behind(piece).is_none() {
            return own.into_iter().map(|k| (k, Affine::IDENTITY, window.in_bundle_member(k))).collect();
        }
        let differs = |(k, at): &&(u32, Affine)| *at != Affine::IDENTITY || own.contains(k);
        let members = behind.members.iter().filter(differs);
        members.map(|(k, at)| (*k, *at, window.in_bundle_member_behind(*k, *at))).collect()
    }

    /// The members behind which the photos of a piece run.
    fn behind(&self, piece: &Piece) -> Behind {
        let Some(bundle) = self.sheet.repeated_behind(piece) else { return Behind::default() };
        let mut known = self.behind.lock().unwrap_or_else(PoisonError::into_inner);
        let seen = || Arc::new(seen_bundle_members(self.sheet, bundle, self.library));
        let members = Arc::clone(known.entry(bundle.id).or_insert_with(seen));
        drop(known);
        let opening = opened_in(self.sheet, piece, &members, self.library);
        Behind { members, opening }
    }
}

/// Members behind which photos run.
#[derive(Default)]
struct Behind {
    /// Their numbers, and where they lie.
    members: Places,
    /// What is open in all of them, in sheet space.
    opening: Option<BezPath>,
}

/// A window as it is shown.
struct Shown<'a> {
    window: &'a Window,
    /// What of it is seen; what breaks out is that of all that it holds.
    shown: &'a Window,
    /// What it opens in all members behind which its photos run, in its own space.
    in_members: Option<&'a BezPath>,
}

impl ShownWindows for SceneBuilder<'_> {
    fn shown(&self, window: PieceId) -> Option<Arc<PieceScene>> {
        let piece = self.sheet.piece(window)?;
        piece.window()?;
        Some(self.computed(piece))
    }
}

/// Pieces from back to front, without those that make the whole too much.
fn affordable(mut pieces: Vec<Arc<PieceScene>>) -> Vec<Arc<PieceScene>> {
    let mut sum = Cost::default();
    for piece in &mut pieces {
        let mut with = sum;
        with.add(&piece.cost);
        if with.fits_a_sheet() {
            sum = with;
        } else {
            *piece = Arc::new(piece.refused(Excess::Sheet.into()));
        }
    }
    pieces
}

/// The nodes of a window with this outline.
fn nodes_of(
    builder: &mut Builder<'_>,
    piece: PieceId,
    Shown { window, shown, in_members }: &Shown<'_>,
    outline: &OpeningOutline,
    scene: &mut PieceScene,
) -> Vec<Node> {
    if outline.path.is_empty() {
        return Vec::new();
    }
    if let Some(repeat) = &window.repeat {
        return member_nodes(builder, piece, (shown, repeat), &outline.path, scene);
    }
    let open = Open::new(builder.sheet, window, Arc::clone(&outline.path));
    let released = WindowBreakout::of(builder.sheet, piece, window, open.shown(), *in_members, builder.library);
    builder.incomplete |= released.incomplete;
    let nodes = one_window(builder, shown, &open, &released);
    scene.breakout = Some(released);
    nodes
}

/// Computes the scene of a sheet.
///
/// A piece that cannot be drawn has an empty fragment, and says why.
pub fn scene(sheet: &Sheet, library: &dyn Library) -> Scene {
    SceneBuilder::new(sheet, library, &SceneMemo::of(256 << 20)).scene()
}
