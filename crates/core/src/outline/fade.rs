//! How far the edges of forms fade.

use crate::sheet::{Form, FormShape, Opening};

/// The widest fading edge of an opening's forms, in millimetres on the sheet; 0 where all are clear.
pub fn widest_fade_of(opening: &Opening) -> f64 {
    opening.forms.iter().filter(|f| !f.off).map(|f| widest_fade(f) * mean_scale(f)).fold(0.0, f64::max)
}

/// The widest fading edge of a form, in millimetres of its own space; 0 where all are clear.
pub(crate) fn widest_fade(form: &Form) -> f64 {
    match &form.shape {
        FormShape::Brush(b) => b.strokes.iter().filter(|s| s.is_soft()).map(|s| s.fade()).fold(0.0, f64::max),
        FormShape::List { forms } => {
            forms.iter().filter(|f| !f.off).map(|f| widest_fade(f) * mean_scale(f)).fold(0.0, f64::max)
        }
        _ => 0.0,
    }
}

/// How much larger a form is where it lies than in its own space, as the root of the areas' ratio.
pub(crate) fn mean_scale(form: &Form) -> f64 {
    form.pose.affine().determinant().abs().sqrt()
}
