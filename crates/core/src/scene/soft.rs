//! Brushed areas whose edges fade: what an outline cannot say, as an SVG mask.

use super::markup::{matrix, number, path_data};
use crate::combine::{grow, round_corners, unite};
use crate::library::{Among, Library};
use crate::outline::{bent_with, brush_path, chosen_cells, form_path, opening_path, painted_path, pulled};
use crate::sheet::{Brush, Form, FormShape, Join, Opening, PieceId};
use kurbo::{BezPath, Rect, Shape};

/// Blur (standard deviation) for a fade from full to nothing of one unit: a Gaussian's edge runs from 5 to 95 % over 3.3 of them.
const BLUR: f64 = 0.3;

const MOST_DROPS: usize = 4;

/// The contents of a mask, and the definitions that it needs: white where the opening is, grey where it fades.
pub struct SoftMask {
    pub definitions: String,
    pub contents: String,
    /// What it shows at most, in sheet space.
    pub bounds: Rect,
    prefix: String,
    masks: usize,
}

/// The mask of an opening with fading edges. None where every edge is clear.
///
/// The forms act on one another in the order of their list, as their joins say, fading ones by their shares: what is cut away
/// by a fading area fades out there; so do those of lists within. Cells, growing and rounding act on what is clear. After more than
/// [`MOST_DROPS`] forms whose shared parts are dropped, edges are clear as well: each doubles what has to be drawn.
pub fn soft_mask(opening: &Opening, piece: PieceId, library: &dyn Library) -> Option<SoftMask> {
    let forms: Vec<&Form> = opening.forms.iter().filter(|f| !f.off).collect();
    let first = forms.iter().position(|f| fading(f).is_some())?;
    if forms[first..].iter().map(|f| drops(f)).sum::<usize>() > MOST_DROPS {
        return None;
    }
    let mut mask = SoftMask {
        definitions: String::new(),
        contents: String::new(),
        bounds: Rect::ZERO,
        prefix: format!("soft-{piece}"),
        masks: 0,
    };
    // up to the first fading form, outlines are joined as ever; the others stay in the list, as edges that lettering runs along
    let mut clear = Opening { cells: Vec::new(), ..opening.clone() };
    clear.forms.iter_mut().filter(|f| !f.off).skip(first).for_each(|f| f.off = true);
    let mut shown = mask.clear(&opening_path(&clear, library).unwrap_or_default());
    let among = Among { library, forms: &opening.forms };
    for (k, form) in forms.iter().enumerate().skip(first) {
        let join = if k == 0 { Join::Add } else { form.join };
        let area = match fading(form) {
            Some(fading) => mask.fading(form, fading, &among),
            // a form without an outline has been refused before
            None => mask.clear(&reshaped(&form_path(form, &among).unwrap_or_default(), opening, join)),
        };
        shown = mask.joined(shown, area, join);
    }
    for (path, taken) in chosen_cells(opening, library).unwrap_or_default() {
        let area = mask.clear(&path);
        shown = mask.joined(shown, area, if taken { Join::Add } else { Join::CutAway });
    }
    mask.contents = shown.markup;
    mask.bounds = shown.bounds;
    Some(mask)
}

/// What of a form fades.
enum Fading<'a> {
    Paint(&'a Brush),
    /// A list with paint in it.
    List(&'a [Form]),
}

/// What of a form fades. Its own line is an outline like any other, and so is a list that is bent or pulled.
fn fading(form: &Form) -> Option<Fading<'_>> {
    let straight = form.bend.is_none() && form.pose.pull.is_none();
    match &form.shape {
        _ if form.line.is_some() => None,
        FormShape::Brush(brush) if brush.is_soft() => Some(Fading::Paint(brush)),
        FormShape::List { forms } if straight && forms.iter().any(|f| !f.off && fading(f).is_some()) => {
            Some(Fading::List(forms))
        }
        _ => None,
    }
}

/// How many forms drop what they share, those of fading lists included.
fn drops(form: &Form) -> usize {
    let within = match fading(form) {
        Some(Fading::List(forms)) => forms.iter().filter(|f| !f.off).map(drops).sum(),
        _ => 0,
    };
    within + usize::from(form.join == Join::DropShared)
}

/// A clear form as the opening's reshaping leaves it; what is cut away shrinks as the opening grows.
fn reshaped(path: &BezPath, opening: &Opening, join: Join) -> BezPath {
    let path = grow(&unite(path), if join == Join::CutAway { -opening.grow } else { opening.grow });
    if opening.rounding > 0.0 { unite(&round_corners(&path, opening.rounding)) } else { path }
}

/// White shapes on nothing, and what they reach.
struct Area {
    markup: String,
    bounds: Rect,
}

fn around(a: Rect, b: Rect) -> Rect {
    match (a == Rect::ZERO, b == Rect::ZERO) {
        (true, _) => b,
        (_, true) => a,
        _ => a.union(b),
    }
}

impl SoftMask {
    fn clear(&self, path: &BezPath) -> Area {
        if path.is_empty() {
            return Area { markup: String::new(), bounds: Rect::ZERO };
        }
        Area { markup: format!("<path fill=\"#fff\" d=\"{}\"/>", path_data(path)), bounds: path.bounding_box() }
    }

    fn fading(&mut self, form: &Form, fading: Fading<'_>, library: &dyn Library) -> Area {
        match fading {
            Fading::Paint(brush) => self.painted(form, brush),
            Fading::List(forms) => self.list(form, forms, library),
        }
    }

    /// The forms of a list in its own space, and the whole where the list lies.
    fn list(&mut self, list: &Form, forms: &[Form], library: &dyn Library) -> Area {
        let among = Among { library, forms };
        let mut shown = self.clear(&BezPath::new());
        for (k, form) in forms.iter().filter(|f| !f.off).enumerate() {
            let area = match fading(form) {
                Some(fading) => self.fading(form, fading, &among),
                None => self.clear(&unite(&form_path(form, &among).unwrap_or_default())),
            };
            shown = self.joined(shown, area, if k == 0 { Join::Add } else { form.join });
        }
        let to_parent = list.pose.affine();
        let bounds = if shown.bounds == Rect::ZERO { Rect::ZERO } else { to_parent.transform_rect_bbox(shown.bounds) };
        Area { markup: format!("<g transform=\"{}\">{}</g>", matrix(to_parent), shown.markup), bounds }
    }

    /// Strokes in their order, what is erased by a fading eraser fading out.
    fn painted(&mut self, form: &Form, brush: &Brush) -> Area {
        let to_sheet = form.pose.affine();
        let frame = brush_path(brush).bounding_box();
        let bend = |path: BezPath| form.bend.as_ref().map_or_else(|| path.clone(), |b| bent_with(&path, frame, b));
        let pull_frame = bend(brush_path(brush)).bounding_box();
        let pull = |path: BezPath| match &form.pose.pull {
            // corners pulled across one another have been refused before
            Some(pull) => pulled(&path, pull_frame, pull).unwrap_or(path),
            None => path,
        };
        let mut shown = self.clear(&BezPath::new());
        for stroke in &brush.strokes {
            let path = to_sheet * pull(bend(painted_path(stroke, stroke.fade() / 2.0)));
            if path.is_empty() {
                continue;
            }
            let blur = stroke.fade() * to_sheet.determinant().abs().sqrt() * BLUR;
            let filter = self.blur(blur);
            let bounds = path.bounding_box().inflate(3.0 * blur, 3.0 * blur);
            let area = Area { markup: format!("<path fill=\"#fff\"{filter} d=\"{}\"/>", path_data(&path)), bounds };
            shown = self.joined(shown, area, if stroke.erase { Join::CutAway } else { Join::Add });
        }
        shown
    }

    fn joined(&mut self, shown: Area, area: Area, join: Join) -> Area {
        match join {
            Join::Add => Area { markup: shown.markup + &area.markup, bounds: around(shown.bounds, area.bounds) },
            Join::CutAway => self.masked(&shown, &area, true),
            Join::KeepShared => self.masked(&shown, &area, false),
            Join::DropShared => {
                let (a, b) = (self.masked(&shown, &area, true), self.masked(&area, &shown, true));
                self.joined(a, b, Join::Add)
            }
        }
    }

    /// An area where another one is, or (`out`) where it is not.
    fn masked(&mut self, area: &Area, by: &Area, out: bool) -> Area {
        if area.markup.is_empty() || (out && by.markup.is_empty()) {
            return Area { markup: area.markup.clone(), bounds: area.bounds };
        }
        self.masks += 1;
        let id = format!("{}-{}", self.prefix, self.masks);
        // far beyond whatever the area reaches
        let all = "x=\"-20000\" y=\"-20000\" width=\"40000\" height=\"40000\"";
        let (ground, markup) = if out {
            (format!("<rect {all} fill=\"#fff\"/>"), by.markup.replace("fill=\"#fff\"", "fill=\"#000\""))
        } else {
            (String::new(), by.markup.clone())
        };
        self.definitions
            .push_str(&format!("<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {all}>{ground}{markup}</mask>"));
        let bounds = if out { area.bounds } else { by.bounds };
        Area { markup: format!("<g mask=\"url(#{id})\">{}</g>", area.markup), bounds }
    }

    /// The attribute that blurs, its filter defined; nothing for a clear edge.
    fn blur(&mut self, blur: f64) -> String {
        if blur <= 0.0 {
            return String::new();
        }
        self.masks += 1;
        let id = format!("{}-{}", self.prefix, self.masks);
        self.definitions.push_str(&format!(
            "<filter id=\"{id}\" x=\"-1\" y=\"-1\" width=\"3\" height=\"3\"><feGaussianBlur stdDeviation=\"{}\"/></filter>",
            number(blur)
        ));
        format!(" filter=\"url(#{id})\"")
    }
}

/// For the mask's own region: the bounds in whole millimetres with room to spare.
pub(super) fn region(bounds: Rect) -> String {
    let b = bounds.inflate(2.0, 2.0).expand();
    format!(
        "x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\"",
        number(b.x0),
        number(b.y0),
        number(b.width()),
        number(b.height())
    )
}
