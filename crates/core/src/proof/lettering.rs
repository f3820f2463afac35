//! Type that is too small.

use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::Look;
use super::terms::ProofTerms;
use crate::sheet::{Form, FormShape, MM_PER_INCH, Piece, Sheet};

/// Lettering whose em is smaller than the least size.
pub(super) fn small(sheet: &Sheet, piece: &Piece, looks: &[Look], terms: &ProofTerms) -> Option<Finding> {
    let window = piece.window()?;
    let look = looks.first()?;
    let smallest = look.places.iter().map(|at| at.determinant().abs().sqrt()).fold(f64::INFINITY, f64::min);
    let forms = window.opening.forms.iter().filter(|f| !f.off);
    let size = forms.filter_map(smallest_type).reduce(f64::min)? * smallest;
    if size >= terms.least_type - 1e-6 {
        return None;
    }
    let points = |mm: f64| mm / MM_PER_INCH * 72.0;
    let sentence = format!(
        "The type of {} is {:.1} pt. Below {:.1} pt it is hard to read and fills in on the press.",
        called(sheet, piece),
        points(size),
        points(terms.least_type)
    );
    Some(Finding::of_piece(FindingKind::SmallType, Severity::Doubtful, piece, "", sentence).at(look.bounds()))
}

/// The smallest em of a form, where it lies; millimetres.
fn smallest_type(form: &Form) -> Option<f64> {
    let scale = form.pose.wide.abs().min(form.pose.tall.abs());
    let own = match &form.shape {
        FormShape::Lettering(l) => Some(l.size),
        FormShape::List { forms } => forms.iter().filter(|f| !f.off).filter_map(smallest_type).reduce(f64::min),
        _ => None,
    };
    own.map(|size| size * scale)
}
