//! Edits of the parts of a subject: let out, kept in, cut, made soft, named.

use super::edits::PartChange;
use super::target::{subject_at, window};
use crate::breakout::{Division, JointOpenings, PartsKeeper, PlacedMatte, Region};
use crate::check::{self, Refusal};
use crate::grid::Grid;
use crate::library::Library;
use crate::outline::{opened_in_members, shown_outline};
use crate::sheet::{Anchor, Breakout, PieceId, Sheet, SubjectPart, Window};
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

/// A region as sheets keep it: a point within it, and its polygons.
type Kept = ([f64; 2], Vec<Vec<[f64; 2]>>);

/// The parts as an edit divides them anew, with the other one that has changed; None where all stay as they are.
type Changed = Option<(Grid<u32>, u32)>;

/// What an anchor means, and what is to be entered for it. Places are those in the list of the window's parts.
struct Meant {
    place: Option<usize>,
    /// Its region, where it has none yet or another one.
    region: Option<Kept>,
    /// The other part that has changed: its place, if it is in the list already, and its region.
    other: Option<(Option<usize>, Kept)>,
    /// The points that let it out: what they say is said by the region now.
    by_points: Vec<Anchor>,
    out: bool,
    soft: f64,
}

/// The place in the list of the part that an anchor lies in. What was not kept as a region yet is from now on.
///
/// `changed` may divide the parts anew; it is given a map from sheet space to the one that it works in.
fn taken(
    sheet: &mut Sheet,
    piece: PieceId,
    anchor: &Anchor,
    changed: impl Fn(&Division<'_>, u32, &dyn Fn(Line) -> Line) -> Result<Changed, Refusal>,
    library: &dyn Library,
) -> Result<usize, Refusal> {
    let meant = looked_up(sheet, piece, anchor, changed, library)?;
    entered(&mut window(sheet, piece)?.breakout, anchor, meant)
}

fn looked_up(
    sheet: &Sheet,
    piece: PieceId,
    anchor: &Anchor,
    changed: impl Fn(&Division<'_>, u32, &dyn Fn(Line) -> Line) -> Result<Changed, Refusal>,
    library: &dyn Library,
) -> Result<Meant, Refusal> {
    let subject = subject_at(sheet, piece, anchor)?;
    let own = subject.window;
    let placed = subject.placed(library).ok_or(Refusal::NoSubject)?;
    let shown = shown_outline(sheet, own, library)?.path.clone();
    let in_members = sheet.piece(piece).and_then(|piece| opened_in_members(sheet, piece, library));
    let joints = JointOpenings::of(sheet, piece, own, shown, in_members.as_ref(), library);
    let joint = joints.of_fill(subject.fill.id);
    let chosen = subject.chosen(&placed);
    let keeper = library.parts().map(|memo| PartsKeeper::new(&subject.subject.matte, &placed, memo));
    let division = Division::new(&placed.matte, &joint.opening, placed.to_sheet, &chosen, keeper);
    let division = division.ok_or(Refusal::NoPart)?;
    let part_at = |a: &Anchor| division.part_at(placed.there(Point::new(a.x, a.y)));
    let part = part_at(anchor).ok_or(Refusal::NoPart)?;
    let changed = changed(&division, part, &|line| placed.to_sheet.inverse() * line)?;
    let is_changed = changed.is_some();
    let (labels, other) = changed.map_or_else(|| (division.closed(), None), |(labels, other)| (labels, Some(other)));
    // of the window's parts, those of this subject in their order
    let is_own =
        |k: &usize| own.breakout.parts[*k].fill == anchor.fill && own.breakout.parts[*k].subject == anchor.subject;
    let places: Vec<usize> = (0..own.breakout.parts.len()).filter(is_own).collect();
    let stored = |number: u32| division.region_of(number).map(|k| places[k]);
    let region = |number: u32| {
        let found = division.region(&labels, number);
        found.map(|found| written(&found, &placed)).ok_or(Refusal::NoPart)
    };
    let place = stored(part);
    let was = place.map(|k| &own.breakout.parts[k]);
    let by_points: Vec<Anchor> = subject.anchors().filter(|a| part_at(a) == Some(part)).collect();
    // a part that was found, and that nobody has said anything of, needs no region
    let other = other.filter(|o| *o as usize > division.count || stored(*o).is_some());
    Ok(Meant {
        place,
        region: if is_changed || was.is_none() { Some(region(part)?) } else { None },
        other: other.map(|o| Ok::<_, Refusal>((stored(o), region(o)?))).transpose()?,
        out: was.is_some_and(|p| p.out) || !by_points.is_empty(),
        soft: was.map_or(0.0, |p| p.soft),
        by_points,
    })
}

/// The other half of a part that was cut is what the whole was.
fn entered(breakout: &mut Breakout, anchor: &Anchor, meant: Meant) -> Result<usize, Refusal> {
    let Meant { place, region, other, by_points, out, soft } = meant;
    let Anchor { fill, subject, .. } = *anchor;
    let fresh = |(at, region): Kept| {
        let name = String::new();
        SubjectPart { fill, subject, at, region, out, name, soft: 0.0, shaped: false }
    };
    breakout.let_out.retain(|a| !by_points.contains(a));
    let parts = &mut breakout.parts;
    let place = match (place, region) {
        (Some(k), Some((at, region))) => {
            (parts[k].value.at, parts[k].value.region) = (at, region);
            k
        }
        (Some(k), None) => k,
        (None, Some(found)) => {
            parts.push(fresh(found));
            parts.len() - 1
        }
        (None, None) => return Err(Refusal::NoPart),
    };
    match other {
        Some((Some(k), (at, region))) => (parts[k].value.at, parts[k].value.region) = (at, region),
        Some((None, found)) => parts.push(SubjectPart { soft, shaped: true, ..fresh(found) }),
        None => {}
    }
    Ok(place)
}

/// A region in pixels of the photo, rounded to hundredths: as sheets keep it.
fn written(region: &Region, placed: &PlacedMatte) -> Kept {
    let round = |v: f64| (v * 100.0).round() / 100.0;
    let back = |p: &Point| {
        let p = placed.back(*p);
        [round(p.x), round(p.y)]
    };
    (back(&region.at), region.polygons.iter().map(|polygon| polygon.iter().map(back).collect()).collect())
}
