//! Splitting windows and bundles into panes.

use super::target::{bring_in, in_front, window};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::{Pane, sheet_panes, shown_outline, split_line_crosses_itself};
use crate::sheet::{
    Fill, FillId, FillPaint, PanePath, PhotoFill, PhotoId, PieceId, Placement, Sheet, Split, Tone, limits,
};
use kurbo::Rect;

/// Splits a window so, or joins its panes again. What belongs to panes that are not there any more goes.
pub(super) fn set(sheet: &mut Sheet, piece: PieceId, split: &Split, library: &dyn Library) -> Result<(), Refusal> {
    let old = window(sheet, piece)?.split.clone();
    let split = settled(sheet, split, &old, |split| panes_of(sheet, piece, split, library))?;
    let window = window(sheet, piece)?;
    let gone: Vec<_> =
        window.fills.iter().filter(|f| f.pane.as_ref().is_some_and(|p| !split.has(p))).map(|f| f.id).collect();
    window.fills.retain(|f| !gone.contains(&f.id));
    window.breakout.retain(|fill, _| !gone.contains(&fill));
    window.split = split;
    Ok(())
}

/// A split as it can be kept: what belongs to panes that are not there any more goes. `all` gives the panes of a split.
///
/// Lines that are new or changed have to cut in two what is split. One that cut it before may miss it later, when the opening has changed.
pub(super) fn settled(
    sheet: &Sheet,
    split: &Split,
    old: &Split,
    all: impl Fn(&Split) -> Result<Vec<Pane>, Refusal>,
) -> Result<Split, Refusal> {
    let mut split = split.clone();
    // a line within a pane goes with the lines around that pane
    loop {
        let there = split.clone();
        split.lines.retain(|line| line.within.as_ref().is_none_or(|pane| there.has(pane)));
        if split.lines.len() == there.lines.len() {
            break;
        }
    }
    let there = split.clone();
    split.looks.retain(|look| there.has(&look.pane));
    check::split(&split)?;
    let frame = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let changed = |id| old.lines.iter().find(|l| l.id == id) != split.lines.iter().find(|l| l.id == id);
    let changed: Vec<_> = split.lines.iter().filter(|l| changed(l.id)).collect();
    if changed.iter().any(|l| split_line_crosses_itself(&l.value, frame)) {
        return Err(Refusal::CrossedLine);
    }
    if !changed.is_empty() {
        let all = all(&split)?;
        let cuts = |id| all.iter().any(|pane| pane.at.0.iter().any(|step| step.line == id));
        if all.len() >= limits::PANES && !changed.iter().all(|l| cuts(l.id)) {
            return Err(Refusal::TooManyPanes);
        }
        if !changed.iter().all(|l| cuts(l.id)) {
            return Err(Refusal::UncutWindow);
        }
    }
    // what says something of panes has no meaning without lines
    Ok(if split.is_none() { Split::default() } else { split })
}

/// The panes of a window if it were split so.
fn panes_of(sheet: &Sheet, piece: PieceId, split: &Split, library: &dyn Library) -> Result<Vec<Pane>, Refusal> {
    let window = sheet.piece(piece).and_then(|p| p.window()).ok_or(Refusal::NoPiece)?;
    let outline = shown_outline(sheet, window, library)?;
    Ok(sheet_panes(sheet, split, &outline.path))
}

/// A photo in one pane alone, in place of what the window shows there.
pub(super) fn fill(
    sheet: &mut Sheet,
    piece: PieceId,
    at: &PanePath,
    (fill, photo): (FillId, &PhotoId),
    library: &dyn Library,
) -> Result<(), Refusal> {
    let split = window(sheet, piece)?.split.clone();
    let all = panes_of(sheet, piece, &split, library)?;
    let pane = all.iter().find(|pane| pane.at == *at).ok_or(Refusal::NoPane)?;
    let (width, height) = bring_in(sheet, photo, library)?;
    let placement = Placement::cover(width, height, crate::combine::bounds(&pane.opening));
    let own = |f: &Fill| f.pane.as_ref() == Some(at) && matches!(f.paint, FillPaint::Photo(_));
    let window = window(sheet, piece)?;
    let was = window.fills.iter().filter(|f| own(f)).map(|f| f.id).collect::<Vec<_>>();
    window.fills.retain(|f| !was.contains(&f.id));
    window.breakout.retain(|id, _| !was.contains(&id));
    let paint = FillPaint::Photo(PhotoFill {
        photo: photo.clone(),
        placement,
        tone: Tone::default(),
        shared: None,
        alone: false,
    });
    in_front(window, Fill { pane: Some(at.clone()), ..Fill::new(fill, paint) })
}
