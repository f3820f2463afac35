//! Edits of the parts of a subject: let out, kept in, cut, made soft, named.

use super::edits::PartChange;
use super::target::window;
use crate::breakout::{Division, JointOpenings, PartsKeeper, PlacedMatte, Region, SubjectOf};
use crate::check::{self, Refusal};
use crate::grid::Grid;
use crate::library::Library;
use crate::outline::shown_outline;
use crate::sheet::{Anchor, FillPaint, PieceId, Sheet, SubjectPart, Window};
use kurbo::{Line, Point};

/// Lets out the part that an anchor lies in. It is kept as a region; where there is no such part now, the anchor alone is kept.
pub(super) fn let_out(
    sheet: &mut Sheet,
    piece: PieceId,
    anchor: &Anchor,
    library: &dyn Library,
) -> Result<(), Refusal> {
    sound(sheet, piece, anchor)?;
    match taken(sheet, piece, anchor, |_, _, _| Ok(None), library) {
        Ok(part) => part_of(window(sheet, piece)?, part).out = true,
        Err(_) => window(sheet, piece)?.breakout.let_out.push(*anchor),
    }
    check::breakout(&window(sheet, piece)?.breakout)
}

/// Takes back in what these anchors let out: themselves, and the parts that they lie in.
pub(super) fn keep_in(sheet: &mut Sheet, piece: PieceId, anchors: &[Anchor]) -> Result<(), Refusal> {
    let breakout = &mut window(sheet, piece)?.breakout;
    breakout.let_out.retain(|a| !anchors.contains(a));
    for part in &mut breakout.parts {
        part.out &= !anchors.iter().any(|a| is_in(a, part));
    }
    breakout.parts.retain(|p| p.out || !p.is_plain());
    Ok(())
}

/// Changes the part that an anchor lies in.
pub(super) fn change(
    sheet: &mut Sheet,
    piece: PieceId,
    anchor: &Anchor,
    change: &PartChange,
    library: &dyn Library,
) -> Result<(), Refusal> {
    sound(sheet, piece, anchor)?;
    let line = |[[ax, ay], [bx, by]]: &[[f64; 2]; 2]| Line::new((*ax, *ay), (*bx, *by));
    let part = taken(
        sheet,
        piece,
        anchor,
        |division, part, to_matte| match change {
            PartChange::MoveCut { from, to } => {
                let moved = division.moved(part, to_matte(line(from)), to_matte(line(to)));
                moved.map(Some).ok_or(Refusal::UncutPart)
            }
            PartChange::Cut { along } => division.cut(part, to_matte(line(along))).map(Some).ok_or(Refusal::UncutPart),
            PartChange::Soften { .. } | PartChange::Name { .. } => Ok(None),
        },
        library,
    )?;
    let part = part_of(window(sheet, piece)?, part);
    match change {
        PartChange::MoveCut { .. } | PartChange::Cut { .. } => part.shaped = true,
        PartChange::Soften { width } => part.soft = *width,
        PartChange::Name { name } => name.trim().clone_into(&mut part.name),
    }
    let breakout = &mut window(sheet, piece)?.breakout;
    breakout.parts.retain(|p| p.out || !p.is_plain());
    check::breakout(breakout)
}

fn sound(sheet: &mut Sheet, piece: PieceId, anchor: &Anchor) -> Result<(), Refusal> {
    if !anchor.x.is_finite() || !anchor.y.is_finite() {
        return Err(Refusal::Number("The place in the photo"));
    }
    window(sheet, piece)?.fill_mut(anchor.fill).map(|_| ()).ok_or(Refusal::NoPart)
}

fn is_in(anchor: &Anchor, part: &SubjectPart) -> bool {
    part.fill == anchor.fill && part.subject == anchor.subject && part.holds([anchor.x, anchor.y])
}

fn part_of(window: &mut Window, at: usize) -> &mut SubjectPart {
    &mut window.breakout.parts[at].value
}

/// The place in the list of the part that an anchor lies in. What was not kept as a region yet is from now on.
///
/// `changed` may divide the parts anew: it gives all of them with the other one that has changed. It is given a map from sheet space to the one that it works in.
fn taken(
    sheet: &mut Sheet,
    piece: PieceId,
    anchor: &Anchor,
    changed: impl Fn(&Division<'_>, u32, &dyn Fn(Line) -> Line) -> Result<Option<(Grid<u32>, u32)>, Refusal>,
    library: &dyn Library,
) -> Result<usize, Refusal> {
    let own = sheet.piece(piece).and_then(|p| p.window()).ok_or(Refusal::NoPiece)?;
    let fill = own.fill(anchor.fill).ok_or(Refusal::NoPart)?;
    let FillPaint::Photo(photo_fill) = &fill.paint else {
        return Err(Refusal::NoPart);
    };
    let photo = sheet.photos.get(&photo_fill.photo).ok_or(Refusal::NoPhoto)?;
    let subject = photo.subject(anchor.subject).ok_or(Refusal::NoSubject)?;
    let subject = SubjectOf { window: own, fill, photo_fill, photo, subject };
    let placed = subject.placed(library).ok_or(Refusal::NoSubject)?;
    let shown = shown_outline(sheet, own, library)?.path.clone();
    let joints = JointOpenings::of(sheet, piece, own, shown, library);
    let joint = joints.of_photo(sheet, piece, own, photo_fill);
    let chosen = subject.chosen(&placed);
    let keeper = library.parts().map(|memo| PartsKeeper::new(&subject.subject.matte, &placed, memo));
    let division = Division::new(&placed.matte, &joint.opening, placed.to_sheet, &chosen, keeper);
    let division = division.ok_or(Refusal::NoPart)?;
    let part = division.part_at(placed.there(Point::new(anchor.x, anchor.y))).ok_or(Refusal::NoPart)?;
    let to_matte = |line: Line| placed.to_sheet.inverse() * line;
    let (labels, other) = match changed(&division, part, &to_matte)? {
        Some((labels, other)) => (labels, Some(other)),
        None => (division.closed(), None),
    };
    // of the parts that were chosen before, those of this subject in their order
    let places: Vec<usize> = (0..own.breakout.parts.len())
        .filter(|k| own.breakout.parts[*k].fill == anchor.fill && own.breakout.parts[*k].subject == anchor.subject)
        .collect();
    let stored = |number: u32| division.region_of(number).map(|k| places[k]);
    // what points let out is out as a region now; the other half of what was cut is what the whole was
    let by_points: Vec<Anchor> =
        subject.anchors().filter(|a| division.part_at(placed.there(Point::new(a.x, a.y))) == Some(part)).collect();
    let was = stored(part).map(|k| own.breakout.parts[k].value.clone());
    let is_out = was.as_ref().is_some_and(|p| p.out) || !by_points.is_empty();
    let region = |number: u32| division.region(&labels, number).map(|region| written(&region, &placed));
    let fresh = |(at, region), out: bool, shaped: bool| SubjectPart {
        fill: anchor.fill,
        subject: anchor.subject,
        at,
        region,
        out,
        name: String::new(),
        soft: 0.0,
        shaped,
    };
    // regions are drawn anew only where something has changed
    let own_region = (other.is_some() || was.is_none()).then(|| region(part).ok_or(Refusal::NoPart)).transpose()?;
    let new = other.is_some_and(|o| o as usize > division.count);
    let other_region = match other {
        Some(o) if new || stored(o).is_some() => Some((stored(o), region(o).ok_or(Refusal::NoPart)?)),
        _ => None,
    };
    let (own_place, soft) = (stored(part), was.map_or(0.0, |p| p.soft));
    let parts = &mut window(sheet, piece)?.breakout;
    parts.let_out.retain(|a| !by_points.contains(a));
    let parts = &mut parts.parts;
    let at = match (own_place, own_region) {
        (Some(k), Some((at, region))) => {
            (parts[k].value.at, parts[k].value.region) = (at, region);
            k
        }
        (Some(k), None) => k,
        (None, Some(found)) => {
            parts.push(fresh(found, is_out, false));
            parts.len() - 1
        }
        (None, None) => return Err(Refusal::NoPart),
    };
    match other_region {
        Some((Some(k), (at, region))) => (parts[k].value.at, parts[k].value.region) = (at, region),
        Some((None, found)) => parts.push(SubjectPart { soft, ..fresh(found, is_out, true) }),
        None => {}
    }
    Ok(at)
}

/// A region in pixels of the photo, rounded to hundredths: as sheets keep it.
fn written(region: &Region, placed: &PlacedMatte) -> ([f64; 2], Vec<Vec<[f64; 2]>>) {
    let round = |v: f64| (v * 100.0).round() / 100.0;
    let back = |p: &Point| {
        let p = placed.back(*p);
        [round(p.x), round(p.y)]
    };
    (back(&region.at), region.polygons.iter().map(|polygon| polygon.iter().map(back).collect()).collect())
}
