//! Brushed areas whose edges fade: what an outline cannot say, as an SVG mask.

use super::markup::{number, path_data};
use crate::library::{Among, Library};
use crate::outline::{form_path, opening_path, painted_path};
use crate::sheet::{Brush, Form, FormShape, Join, Opening, PieceId};
use kurbo::{BezPath, Rect, Shape};

/// Blur (standard deviation) for a fade from full to nothing of one unit: a Gaussian's edge runs from 5 to 95 % over 3.3 of them.
const BLUR: f64 = 0.3;

/// The contents of a mask, and the definitions that it needs: white where the opening is, grey where it fades. None where
/// every edge is clear.
///
/// Fading areas are those of brushed forms that are added in the opening's own list; forms after them that are cut away are cut
/// out of them too.
pub(super) struct SoftMask {
    pub definitions: String,
    pub contents: String,
    /// What the fading edges reach, in sheet space.
    pub bounds: Rect,
}

pub(super) fn soft_mask(opening: &Opening, piece: PieceId, library: &dyn Library) -> Option<SoftMask> {
    let fading: Vec<(usize, &Form, &Brush)> = opening
        .forms
        .iter()
        .enumerate()
        .filter_map(|(i, form)| match &form.shape {
            FormShape::Brush(brush) if fades(form, brush, i) => Some((i, form, brush)),
            _ => None,
        })
        .collect();
    if fading.is_empty() {
        return None;
    }
    let mut mask = SoftMask { definitions: String::new(), contents: String::new(), bounds: Rect::ZERO };
    for (at, form, brush) in &fading {
        let mut group = String::new();
        for (k, stroke) in brush.strokes.iter().enumerate() {
            let to_sheet = form.pose.affine();
            let path = to_sheet * painted_path(stroke, stroke.fade() / 2.0);
            let blur = stroke.fade() * to_sheet.determinant().abs().sqrt() * BLUR;
            let id = format!("soft-{piece}-{at}-{k}");
            let filter = mask.blur(&id, blur);
            if stroke.erase {
                group = mask.without(&id, &group, &path, &filter);
            } else {
                group.push_str(&format!("<path fill=\"#fff\"{filter} d=\"{}\"/>", path_data(&path)));
                mask.reach(&path, 3.0 * blur);
            }
        }
        let among = Among { library, forms: &opening.forms };
        for (k, later) in opening.forms.iter().enumerate().skip(at + 1) {
            if later.join == Join::CutAway
                && !later.off
                && let Ok(path) = form_path(later, &among)
            {
                group = mask.without(&format!("soft-{piece}-{at}-cut-{k}"), &group, &path, "");
            }
        }
        mask.contents.push_str(&group);
    }
    // what is clear lies over it: the larger coverage of the two counts
    let mut clear = opening.clone();
    fading.iter().for_each(|(i, ..)| clear.forms[*i].off = true);
    // what acted on the fading areas alone must not become the first form, which is added whatever its join says
    let first = opening.forms.iter().position(|f| !f.off);
    if first == Some(fading[0].0) {
        let acting = clear.forms.iter_mut().skip_while(|f| f.off);
        acting.take_while(|f| f.off || f.join != Join::Add).for_each(|f| f.off = true);
    }
    let clear = opening_path(&clear, library).unwrap_or_default();
    mask.contents.push_str(&format!("<path fill=\"#fff\" d=\"{}\"/>", path_data(&clear)));
    mask.reach(&clear, 0.0);
    Some(mask)
}

fn fades(form: &Form, brush: &Brush, at: usize) -> bool {
    let added = at == 0 || form.join == Join::Add;
    let plain = form.bend.is_none() && form.line.is_none() && form.pose.pull.is_none();
    added && plain && !form.off && brush.is_soft()
}

impl SoftMask {
    fn reach(&mut self, path: &BezPath, beyond: f64) {
        if path.is_empty() {
            return;
        }
        let b = path.bounding_box().inflate(beyond, beyond);
        self.bounds = if self.bounds == Rect::ZERO { b } else { self.bounds.union(b) };
    }

    /// The attribute that blurs, its filter defined; nothing for a clear edge.
    fn blur(&mut self, id: &str, blur: f64) -> String {
        if blur <= 0.0 {
            return String::new();
        }
        self.definitions.push_str(&format!(
            "<filter id=\"{id}-blur\" x=\"-1\" y=\"-1\" width=\"3\" height=\"3\"><feGaussianBlur stdDeviation=\"{}\"/></filter>",
            number(blur)
        ));
        format!(" filter=\"url(#{id}-blur)\"")
    }

    /// A group with a path taken out of it.
    fn without(&mut self, id: &str, group: &str, path: &BezPath, filter: &str) -> String {
        // far beyond whatever the group reaches
        let all = "x=\"-20000\" y=\"-20000\" width=\"40000\" height=\"40000\"";
        self.definitions.push_str(&format!(
            "<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {all}><rect {all} fill=\"#fff\"/><path fill=\"#000\"{filter} d=\"{}\"/></mask>",
            path_data(path)
        ));
        format!("<g mask=\"url(#{id})\">{group}</g>")
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library::Books;
    use crate::sheet::{BasicShape, Figure, FormId, Pose, Stroke};

    fn opening(hardness: f64) -> Opening {
        let stroke =
            |erase, x| Stroke { points: vec![[x, 0.0, 1.0], [x + 20.0, 0.0, 1.0]], size: 10.0, hardness, erase };
        let brush = Brush { strokes: vec![stroke(false, 0.0), stroke(true, 15.0)] };
        let disc = BasicShape { width: 8.0, height: 8.0, figure: Figure::Ellipse };
        let cut = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
        let forms = vec![
            Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Brush(brush)),
            Form { join: Join::CutAway, ..cut },
        ];
        Opening { forms, ..Opening::default() }
    }

    #[test]
    fn only_fading_edges_need_a_mask() {
        let piece = PieceId::fresh();
        assert!(soft_mask(&opening(1.0), piece, &Books::default()).is_none());
        let mask = soft_mask(&opening(0.4), piece, &Books::default()).unwrap();
        // the eraser and the form that is cut away
        assert_eq!(mask.definitions.matches("<mask").count(), 2);
        assert_eq!(mask.definitions.matches("feGaussianBlur").count(), 2);
        assert!(mask.bounds.x0 < 45.5 && mask.bounds.contains(kurbo::Point::new(50.0, 50.0)));
    }
}
