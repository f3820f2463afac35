//! Brushed areas whose edges fade: what an outline cannot say, as a coverage.

use super::edge::BLUR;
use crate::combine::{grow, round_corners, unite};
use crate::outline::{
    OutlineSources, bent_with, brush_path, chosen_cells, form_path, list_path, mean_scale, opening_path, painted_path,
    pulled, widest_fade,
};
use crate::scene::tree::{Coverage, Geometry, Length, Role};
use crate::sheet::{Brush, Form, FormShape, Join, Opening};
use kurbo::{BezPath, Rect, Shape};

/// How much of each place an opening with fading edges covers.
pub struct SoftOpening {
    pub coverage: Coverage,
    /// What it covers at most, in sheet space.
    pub bounds: Rect,
}

/// The coverage of an opening with fading edges. None where every edge is clear.
///
/// The forms act on one another in the order of their list, as their joins say, fading ones by their shares: what is cut away
/// by a fading area fades out there; so do those of lists within. Cells act on what is clear.
pub fn soft_opening(opening: &Opening, sources: &dyn OutlineSources) -> Option<SoftOpening> {
    let forms: Vec<&Form> = opening.forms.iter().filter(|f| !f.off).collect();
    let first = forms.iter().position(|f| fading(f).is_some())?;
    // up to the first fading form, outlines are joined as ever; the others stay in the list, as edges that lettering runs along
    let mut clear_part = Opening { cells: Vec::new(), ..opening.clone() };
    clear_part.forms.iter_mut().filter(|f| !f.off).skip(first).for_each(|f| f.off = true);
    let mut shown = clear(opening_path(&clear_part, sources).unwrap_or_default());
    let areas = Areas { sources };
    let sheet = Space { to_sheet: Box::new(|path| path), scale: 1.0, grow: opening.grow, rounding: opening.rounding };
    for (k, form) in forms.iter().enumerate().skip(first) {
        let join = if k == 0 { Join::Add } else { form.join };
        let area = areas.of(form, &opening.forms, &sheet.of_operand(join));
        shown = joined(shown, area, join);
    }
    for (path, taken) in chosen_cells(opening, sources).unwrap_or_default() {
        shown = joined(shown, clear(path), if taken { Join::Add } else { Join::CutAway });
    }
    Some(SoftOpening { coverage: shown.coverage, bounds: shown.bounds })
}

/// What of a form fades.
enum Fading<'a> {
    Paint(&'a Brush),
    /// A list with paint in it.
    List(&'a [Form]),
    /// A form with paint in it as its own line, whose edges fade over this many millimetres of the form's own space.
    Line(f64),
}

fn fading(form: &Form) -> Option<Fading<'_>> {
    let fade = widest_fade(form);
    match &form.shape {
        _ if fade <= 0.0 => None,
        _ if form.line.is_some() => Some(Fading::Line(fade)),
        FormShape::Brush(brush) => Some(Fading::Paint(brush)),
        FormShape::List { forms } => Some(Fading::List(forms)),
        _ => None,
    }
}

/// Where outlines of a list or of strokes lie, and how the opening reshapes them there.
struct Space<'a> {
    to_sheet: Box<dyn Fn(BezPath) -> BezPath + 'a>,
    /// Millimetres on the sheet for one of this space.
    scale: f64,
    /// Millimetres on the sheet.
    grow: f64,
    /// Millimetres on the sheet.
    rounding: f64,
}

impl<'a> Space<'a> {
    /// The same space for something that is joined this way: what is cut away shrinks as the rest grows.
    fn of_operand(&'a self, join: Join) -> Space<'a> {
        let grow = if join == Join::CutAway { -self.grow } else { self.grow };
        Space { to_sheet: Box::new(|path| (self.to_sheet)(path)), grow, ..*self }
    }

    /// The space of what a form is made of, whose clear outline, not yet bent, is `plain`.
    fn inside(&'a self, form: &'a Form, plain: &BezPath) -> Space<'a> {
        let frame = plain.bounding_box();
        let bend = move |path: BezPath| match &form.bend {
            Some(bend) => bent_with(&path, frame, bend),
            None => path,
        };
        let pull_frame = bend(plain.clone()).bounding_box();
        let to_sheet = move |path: BezPath| {
            let bent = bend(path);
            let placed = match &form.pose.pull {
                // corners pulled across one another have been refused before
                Some(pull) => pulled(&bent, pull_frame, pull).unwrap_or(bent),
                None => bent,
            };
            (self.to_sheet)(form.pose.affine() * placed)
        };
        Space { to_sheet: Box::new(to_sheet), scale: self.scale * mean_scale(form), ..*self }
    }

    fn reshaped(&self, path: BezPath) -> BezPath {
        let path = grow(&unite(&(self.to_sheet)(path)), self.grow);
        if self.rounding > 0.0 { unite(&round_corners(&path, self.rounding)) } else { path }
    }
}

/// A coverage, and what it reaches.
struct Area {
    coverage: Coverage,
    bounds: Rect,
}

fn around(a: Rect, b: Rect) -> Rect {
    match (a == Rect::ZERO, b == Rect::ZERO) {
        (true, _) => b,
        (_, true) => a,
        _ => a.union(b),
    }
}

fn clear(path: BezPath) -> Area {
    if path.is_empty() {
        return Area { coverage: Coverage::NOTHING, bounds: Rect::ZERO };
    }
    let bounds = path.bounding_box();
    Area { coverage: Coverage::Inside { role: Role::PART, geometry: Geometry::path(path) }, bounds }
}

/// A path in sheet space whose edge fades over so many millimetres.
fn blurred(path: BezPath, fade: f64) -> Area {
    let (empty, blur) = (path.is_empty(), fade * BLUR);
    let area = clear(path);
    if empty || blur <= 0.0 {
        return area;
    }
    let bounds = area.bounds.inflate(3.0 * blur, 3.0 * blur);
    Area { coverage: Coverage::Blurred(Box::new(area.coverage), Length::new(blur)), bounds }
}

fn joined(shown: Area, area: Area, join: Join) -> Area {
    let all = around(shown.bounds, area.bounds);
    let (a, b) = (shown.coverage, area.coverage);
    match join {
        Join::Add => Area { coverage: either(a, b), bounds: all },
        _ if a.is_nothing() && join != Join::DropShared => Area { coverage: a, bounds: shown.bounds },
        Join::CutAway if b.is_nothing() => Area { coverage: a, bounds: shown.bounds },
        Join::CutAway => Area { coverage: Coverage::Without(a.into(), b.into()), bounds: shown.bounds },
        Join::KeepShared => Area { coverage: Coverage::Both(a.into(), b.into()), bounds: area.bounds },
        Join::DropShared => Area { coverage: Coverage::OneOf(a.into(), b.into()), bounds: all },
    }
}

fn either(a: Coverage, b: Coverage) -> Coverage {
    match a {
        Coverage::Any { role, mut of } if role == Role::PART => {
            if !b.is_nothing() {
                of.push(b);
            }
            Coverage::Any { role, of }
        }
        a => Coverage::Any { role: Role::PART, of: vec![a, b] },
    }
}

struct Areas<'a> {
    sources: &'a dyn OutlineSources,
}

impl Areas<'_> {
    /// A form that lies in `space`, in a list with its `siblings`.
    fn of(&self, form: &Form, siblings: &[Form], space: &Space<'_>) -> Area {
        let outline = || form_path(form, siblings, self.sources).unwrap_or_default();
        match fading(form) {
            Some(Fading::Paint(brush)) => Self::painted(brush, &space.inside(form, &brush_path(brush))),
            Some(Fading::List(forms)) => {
                let plain = list_path(forms, self.sources).unwrap_or_default();
                self.list(forms, &space.inside(form, &plain))
            }
            Some(Fading::Line(fade)) => blurred(space.reshaped(outline()), fade * mean_scale(form) * space.scale),
            // a form without an outline has been refused before
            None => clear(space.reshaped(outline())),
        }
    }

    fn list(&self, forms: &[Form], space: &Space<'_>) -> Area {
        let mut shown = clear(BezPath::new());
        for (k, form) in forms.iter().filter(|f| !f.off).enumerate() {
            let join = if k == 0 { Join::Add } else { form.join };
            let area = self.of(form, forms, &space.of_operand(join));
            shown = joined(shown, area, join);
        }
        shown
    }

    /// Strokes in their order, what is erased by a fading eraser fading out.
    fn painted(brush: &Brush, space: &Space<'_>) -> Area {
        let mut shown = clear(BezPath::new());
        for stroke in &brush.strokes {
            let join = if stroke.erase { Join::CutAway } else { Join::Add };
            let path = space.of_operand(join).reshaped(painted_path(stroke, stroke.fade() / 2.0));
            let area = blurred(path, stroke.fade() * space.scale);
            shown = joined(shown, area, join);
        }
        shown
    }
}
