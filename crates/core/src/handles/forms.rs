//! The forms and cells of an opening, as people take hold of them.

use super::outline::ends;
use crate::combine::nodes;
use crate::outline::{OutlineError, OutlineSources, framed_form_path, opening_cells};
use crate::scene::svg::path_data;
use crate::sheet::{CellChoice, FillId, Form, FormId, FormShape, Opening};
use kurbo::{Affine, BezPath, Point};
use serde::Serialize;
use ts_rs::TS;

/// Where a form lies on the sheet.
#[derive(Debug, Clone, Serialize, TS)]
pub struct FormView {
    pub form: FormId,
    /// The list that holds it, if it is not the opening's own.
    #[ts(optional = nullable)]
    pub list: Option<FormId>,
    /// Left, top, right and bottom of its box in its own space, pulls left out.
    pub frame: [f64; 4],
    /// From its own space, corners pulled, to the sheet; SVG's order of coefficients.
    pub to_sheet: [f64; 6],
    /// The corners of its box on the sheet, clockwise from its own top left, pulls included.
    pub corners: [[f64; 2]; 4],
    /// Path data in sheet space; empty where there are too many nodes to be taken hold of one by one.
    pub outline: String,
    /// The ends of its segments in sheet space, where there are few.
    pub ends: Vec<[f64; 2]>,
    pub nodes: usize,
}

/// Where a form that fills a window lies.
#[derive(Debug, Clone, Serialize, TS)]
pub struct FillFormView {
    pub fill: FillId,
    #[serde(flatten)]
    #[ts(flatten)]
    pub view: FormView,
}

impl FillFormView {
    /// None where the form cannot be drawn.
    pub(super) fn of(fill: FillId, form: &Form, sources: &dyn OutlineSources) -> Option<Self> {
        Some(Self { fill, view: FormView::of(form, &[], None, Affine::IDENTITY, sources)? })
    }
}

/// A cell of an opening, with what became of it.
#[derive(Debug, Clone, Serialize, TS)]
pub struct CellView {
    /// The forms that cover it, and whether it belongs to the opening now.
    #[serde(flatten)]
    #[ts(flatten)]
    pub choice: CellChoice,
    /// Whether it would belong to the opening by the joins alone.
    pub by_joins: bool,
    /// Path data in sheet space.
    pub outline: String,
    /// Square millimetres.
    pub area: f64,
}

/// Outlines beyond this many nodes are not sent.
const OUTLINED: usize = 4_000;

impl FormView {
    /// A form of a list (`siblings`, in the space `space`); None where it cannot be drawn.
    fn of(
        form: &Form,
        siblings: &[Form],
        list: Option<FormId>,
        space: Affine,
        sources: &dyn OutlineSources,
    ) -> Option<Self> {
        let (f, path) = framed_form_path(form, siblings, sources).ok()?;
        let to_sheet = space * form.pose.affine();
        let pull = form.pose.pull.unwrap_or_default();
        let corner = |i: usize, x: f64, y: f64| {
            let p = to_sheet * Point::new(x + pull[i][0] * f.width(), y + pull[i][1] * f.height());
            [p.x, p.y]
        };
        let corners = [corner(0, f.x0, f.y0), corner(1, f.x1, f.y0), corner(2, f.x1, f.y1), corner(3, f.x0, f.y1)];
        let count = nodes(&path);
        let path: BezPath = if count <= OUTLINED { space * path } else { BezPath::new() };
        Some(Self {
            form: form.id,
            list,
            frame: [f.x0, f.y0, f.x1, f.y1],
            to_sheet: to_sheet.as_coeffs(),
            corners,
            outline: path_data(&path),
            ends: ends(&path),
            nodes: count,
        })
    }
}

/// Forms that cannot be drawn are left out.
pub(super) fn form_views(opening: &Opening, sources: &dyn OutlineSources) -> Vec<FormView> {
    let mut views = Vec::new();
    gather(&opening.forms, None, Affine::IDENTITY, sources, &mut views);
    views
}

fn gather(
    forms: &[Form],
    list: Option<FormId>,
    space: Affine,
    sources: &dyn OutlineSources,
    views: &mut Vec<FormView>,
) {
    for form in forms {
        views.extend(FormView::of(form, forms, list, space, sources));
        if let FormShape::List { forms } = &form.shape {
            gather(forms, Some(form.id), space * form.pose.affine(), sources, views);
        }
    }
}

/// The cells of an opening, the largest first.
///
/// # Errors
/// A form that has no outline.
pub fn cell_views(opening: &Opening, sources: &dyn OutlineSources) -> Result<Vec<CellView>, OutlineError> {
    let mut views: Vec<CellView> = opening_cells(opening, sources)?
        .into_iter()
        .map(|c| CellView { by_joins: c.by_joins, outline: path_data(&c.path), area: c.area, choice: c.choice })
        .collect();
    views.sort_by(|a, b| b.area.total_cmp(&a.area));
    Ok(views)
}
