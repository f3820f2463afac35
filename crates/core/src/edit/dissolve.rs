//! Dissolving bundles: what was in one stays where it was seen.
//!
//! The panes of a bundle become those of what is in it. What lies in one pane alone goes where that pane is; what a line cuts in two takes the line
//! on itself.

use super::Grip;
use super::bundle_members;
use super::moves::transform_window;
use crate::check::{self, Refusal};
use crate::combine::{Rule, area, join_pair};
use crate::library::Library;
use crate::outline::{Pane, bundle_outline, seen_of_bundle, seen_of_window, sheet_panes, shown_outline};
use crate::sheet::{BundleId, MemberId, PaneEdges, PaneLook, PanePath, PieceId, Sheet, Split, SplitLine};
use kurbo::{Affine, BezPath};

/// Takes a bundle away; what was in it is in the one around it.
pub(super) fn dissolve(sheet: &mut Sheet, id: BundleId, library: &dyn Library) -> Result<(), Refusal> {
    let bundle = sheet.bundle(id).ok_or(Refusal::NoBundle)?;
    let within = bundle.within;
    let split = bundle.split.clone();
    if bundle.repeat.is_some() {
        bundle_members::keep(sheet, id, 0);
    }
    if !split.is_none() {
        pass_on(sheet, id, &split, library)?;
    }
    sheet.bundles.retain(|b| b.id != id);
    sheet.bundles.iter_mut().filter(|b| b.within == Some(id)).for_each(|b| b.within = within);
    sheet.pieces.iter_mut().filter(|p| p.bundle == Some(id)).for_each(|p| p.bundle = within);
    Ok(())
}

/// Something right in the bundle.
#[derive(Clone, Copy)]
enum Inner {
    Piece(PieceId),
    Bundle(BundleId),
}

/// What becomes of something in the bundle.
enum Share {
    /// It lies in one pane.
    Whole { by: Affine, hidden: bool },
    /// Lines cut it.
    Cut(Split),
}

/// Gives the panes of a bundle to what is in it.
fn pass_on(sheet: &mut Sheet, id: BundleId, split: &Split, library: &dyn Library) -> Result<(), Refusal> {
    let panes = sheet_panes(sheet, split, &bundle_outline(sheet, id, library));
    let pieces = sheet.pieces.iter().filter(|p| p.bundle == Some(id)).map(|p| Inner::Piece(p.id));
    let bundles = sheet.bundles.iter().filter(|b| b.within == Some(id)).map(|b| Inner::Bundle(b.id));
    let inside: Vec<Inner> = pieces.chain(bundles).collect();
    let passing = Passing { split, panes: &panes };
    for inner in inside {
        match passing.share(sheet, inner, library)? {
            None => {}
            Some(Share::Whole { by, hidden }) => carry(sheet, inner, by, hidden)?,
            Some(Share::Cut(own)) => {
                check::split(&own)?;
                match inner {
                    Inner::Piece(id) => {
                        if let Some(window) = sheet.piece_mut(id).and_then(|p| p.window_mut()) {
                            window.split = own;
                        }
                    }
                    Inner::Bundle(id) => {
                        sheet.bundles.iter_mut().filter(|b| b.id == id).for_each(|b| b.split = own.clone());
                    }
                }
            }
        }
    }
    check::amounts(sheet)
}

/// Moves something with all that is in it, locked or not, as its pane was moved.
fn carry(sheet: &mut Sheet, inner: Inner, by: Affine, hidden: bool) -> Result<(), Refusal> {
    let (pieces, bundles): (Vec<PieceId>, Vec<BundleId>) = match inner {
        Inner::Piece(id) => (vec![id], Vec::new()),
        Inner::Bundle(id) => {
            let within = |around: Option<BundleId>| sheet.bundles_around(around).contains(&id);
            let pieces = sheet.pieces.iter().filter(|p| within(p.bundle)).map(|p| p.id).collect();
            (pieces, sheet.bundles.iter().map(|b| b.id).filter(|b| within(Some(*b))).collect())
        }
    };
    for piece in sheet.pieces.iter_mut().filter(|p| pieces.contains(&p.id)) {
        piece.hidden |= hidden;
        if let Some(window) = piece.window_mut().filter(|_| by != Affine::IDENTITY) {
            transform_window(window, Grip::Both, by, &[])?;
        }
    }
    for bundle in sheet.bundles.iter_mut().filter(|b| bundles.contains(&b.id)) {
        bundle.transform(by);
        check::split(&bundle.split)?;
        bundle.repeat.as_deref().map_or(Ok(()), check::repeat)?;
    }
    Ok(())
}

/// A bundle's split, and the panes that it makes.
struct Passing<'a> {
    split: &'a Split,
    panes: &'a [Pane],
}

impl Passing<'_> {
    /// What becomes of this; None for what is not seen anyway.
    fn share(&self, sheet: &Sheet, inner: Inner, library: &dyn Library) -> Result<Option<Share>, Refusal> {
        let (outline, seen, own, is_repeated) = match inner {
            Inner::Piece(id) => {
                let Some(window) = sheet.piece(id).and_then(|p| p.window()) else { return Ok(None) };
                let Ok(outline) = shown_outline(sheet, window, library) else { return Ok(None) };
                let seen = seen_of_window(sheet, window, library);
                ((*outline.path).clone(), seen, &window.split, window.repeat.is_some())
            }
            Inner::Bundle(id) => {
                let bundle = sheet.bundle(id).ok_or(Refusal::NoBundle)?;
                let outline = bundle_outline(sheet, id, library);
                (outline, seen_of_bundle(sheet, bundle, library), &bundle.split, bundle.repeat.is_some())
            }
        };
        if self.panes.is_empty() || area(&outline) <= 0.0 {
            return Ok(None);
        }
        let bare = Split { gap: self.split.gap, apart: self.split.apart, ..Split::default() };
        if is_repeated || own.is_none() {
            let cut = self.cut(sheet, &bare, &seen);
            let Some(cut) = cut else { return Ok(Some(self.whole(self.home(&seen)))) };
            return if is_repeated { Err(Refusal::DissolvedMembers) } else { Ok(Some(Share::Cut(cut))) };
        }
        let Some(cut) = self.cut(sheet, own, &outline) else { return Ok(Some(self.whole(self.home(&seen)))) };
        // of these there is one for all lines, and one for a whole pane
        let given = |p: PieceId| {
            let fills = sheet.piece(p).and_then(|p| p.window()).map_or(&[][..], |w| &w.fills);
            fills.iter().filter_map(|f| f.pane.clone()).collect::<Vec<_>>()
        };
        let fills = match inner {
            Inner::Piece(piece) => given(piece),
            Inner::Bundle(_) => Vec::new(),
        };
        let is_cut = |pane: &PanePath| cut.lines.values().any(|l| l.within.as_ref().is_some_and(|w| w.lies_in(pane)));
        let alike = own.lines.len() == cut.lines.len()
            || own.gap == self.split.gap && own.edges == PaneEdges::Old && !fills.iter().any(is_cut);
        if alike { Ok(Some(Share::Cut(cut))) } else { Err(Refusal::DissolvedPanes) }
    }

    fn whole(&self, home: usize) -> Share {
        let pane = &self.panes[home];
        Share::Whole { by: pane.transform(self.split), hidden: self.is_hidden(pane) }
    }

    fn is_hidden(&self, pane: &Pane) -> bool {
        self.split.look(&pane.at).is_some_and(|look| look.hidden)
    }

    /// The pane of the bundle in which most of this lies.
    fn home(&self, shape: &BezPath) -> usize {
        let share = |pane: &Pane| area(&join_pair(shape, &pane.region, Rule::Intersection));
        let shares: Vec<f64> = self.panes.iter().map(share).collect();
        (0..shares.len()).max_by(|a, b| shares[*a].total_cmp(&shares[*b])).unwrap_or_default()
    }

    /// The split of something that fell into panes by itself, or (without lines) was whole, with the bundle's lines on top; None if no line cuts it.
    fn cut(&self, sheet: &Sheet, own: &Split, outline: &BezPath) -> Option<Split> {
        let mut split = own.clone();
        let mut all = sheet_panes(sheet, own, outline);
        // how each of its panes was moved before the bundle's lines came
        let first: Vec<(PanePath, Affine)> = all.iter().map(|p| (p.at.clone(), p.transform(own))).collect();
        // what each line of the bundle is called here
        let mut called: Vec<(MemberId, MemberId)> = Vec::new();
        for (before, moved) in &first {
            for line in self.split.lines.iter() {
                let Some(within) = self.within(&line.value, before, &all, *moved, &called) else { continue };
                let mut added = SplitLine { within, ..line.value.clone() };
                added.transform(moved.inverse());
                let mut more = split.clone();
                more.lines.push(added);
                let id = more.lines.last()?.id;
                let next = sheet_panes(sheet, &more, outline);
                if next.len() > all.len() {
                    (split, all) = (more, next);
                    called.push((line.id, id));
                }
            }
        }
        // panes of its own can lie on two sides of a line that cuts none of them
        let was_in =
            |pane: &Pane| first.iter().find(|(before, _)| pane.at.lies_in(before)).cloned().unwrap_or_default();
        let origins: Vec<(PanePath, Affine)> = all.iter().map(was_in).collect();
        let seen = all.iter().zip(&origins).map(|(pane, (_, moved))| *moved * &pane.opening);
        let homes: Vec<usize> = seen.map(|seen| self.home(&seen)).collect();
        if called.is_empty() && homes.windows(2).all(|pair| pair[0] == pair[1]) {
            return None;
        }
        let looks = all.iter().zip(origins.iter().zip(homes)).filter_map(|(pane, ((before, moved), home))| {
            let home = &self.panes[home];
            let by = Affine::translate(-pane.apart) * home.transform(self.split) * *moved;
            let was = own.look(before);
            let name = [was, self.split.look(&home.at)].into_iter().flatten().map(|l| &l.name).find(|n| !n.is_empty());
            let hidden = was.is_some_and(|l| l.hidden) || self.is_hidden(home);
            PaneLook::new(pane.at.clone(), by, name.cloned().unwrap_or_default(), hidden)
        });
        split.looks = looks.collect();
        Some(split)
    }

    /// The pane in which a line of the bundle splits: of those that `before` fell into, which were `moved`. None if it splits none of them, None
    /// within for all of them.
    fn within(
        &self,
        line: &SplitLine,
        before: &PanePath,
        all: &[Pane],
        moved: Affine,
        called: &[(MemberId, MemberId)],
    ) -> Option<Option<PanePath>> {
        let Some(meant) = &line.within else { return Some((!before.0.is_empty()).then(|| before.clone())) };
        let in_meant =
            |p: &&Pane| p.at.lies_in(before) && self.panes[self.home(&(moved * &p.opening))].at.lies_in(meant);
        // a sliver that a gap takes away lies nowhere
        let one = all.iter().filter(in_meant).max_by(|a, b| area(&a.opening).total_cmp(&area(&b.opening)))?;
        // the lines around that pane, as far as they cut this
        let around =
            |id: MemberId| called.iter().any(|(there, here)| *here == id && meant.0.iter().any(|s| s.line == *there));
        let own = before.0.len();
        let more = one.at.0[own..].iter().filter(|s| around(s.line));
        let path = PanePath(before.0.iter().chain(more).copied().collect());
        Some((!path.0.is_empty()).then_some(path))
    }
}
