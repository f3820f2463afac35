//! Openings as JSON files, read without a sheet. Described for other programs in `docs/recipe.md`.

use crate::check::{Refusal, check_opening};
use crate::combine::unite_even_odd;
use crate::sheet::{Contour, DrawingId, FontId, Form, FormId, FormShape, Join, Opening, Pose, Sheet, Unit};
use kurbo::BezPath;
use serde::Deserialize;
use serde_json::{Map, Value};
use std::collections::BTreeMap;

/// An opening with what it refers to.
#[derive(Debug, Clone)]
pub struct Recipe {
    pub opening: Opening,
    /// SVG files beside the recipe, by the names that forms use.
    pub drawings: BTreeMap<DrawingId, String>,
    /// Font files beside the recipe, by the names that lettering uses.
    pub fonts: BTreeMap<FontId, String>,
}

/// Why a recipe is not taken.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum RecipeError {
    #[error("This is no recipe: {0}.")]
    Unreadable(String),
    #[error("Form {0} of the recipe: {1}.")]
    Form(usize, String),
    #[error("The path of form {0} cannot be read: {1}.")]
    Path(usize, String),
    #[error("A cell is covered by form {0}, which the recipe does not have.")]
    Cover(u64),
    #[error(transparent)]
    Wrong(#[from] Refusal),
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    forms: Vec<Map<String, Value>>,
    #[serde(default)]
    cells: Vec<CellLine>,
    #[serde(default)]
    grow: f64,
    #[serde(default)]
    rounding: f64,
    #[serde(default)]
    simplify: f64,
    #[serde(default)]
    drawings: BTreeMap<DrawingId, String>,
    #[serde(default)]
    fonts: BTreeMap<FontId, String>,
}

/// A cell by the places of the forms that cover it, counted from 0.
#[derive(Deserialize)]
struct CellLine {
    cover: Vec<u64>,
    taken: bool,
}

/// A form given as SVG path data.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PathLine {
    path: String,
    #[serde(default)]
    fill_rule: FillRule,
    #[serde(default)]
    join: Join,
    #[serde(default)]
    off: bool,
    #[serde(default)]
    pose: Pose,
}

/// The SVG `fill-rule`.
#[derive(Deserialize, Default, PartialEq)]
#[serde(rename_all = "lowercase")]
enum FillRule {
    #[default]
    Nonzero,
    Evenodd,
}

/// Reads a recipe and checks it against every limit of an opening.
///
/// Forms are those of a sheet file, identifiers and poses may be left out; or `{"path": "M0 0…", "fill_rule": "evenodd"}`.
///
/// # Errors
/// What is wrong with it, and in which form.
pub fn read_recipe(json: &[u8]) -> Result<Recipe, RecipeError> {
    let file: File = serde_json::from_slice(json).map_err(|e| RecipeError::Unreadable(e.to_string()))?;
    let forms = file.forms.into_iter().enumerate().map(|(i, f)| form(i, f)).collect::<Result<Vec<_>, _>>()?;
    let mut opening =
        Opening { forms, grow: file.grow, rounding: file.rounding, simplify: file.simplify, ..Opening::default() };
    for line in file.cells {
        let id = |n: &u64| {
            let form = usize::try_from(*n).ok().and_then(|n| opening.forms.get(n));
            form.map(|f| f.id).ok_or(RecipeError::Cover(*n))
        };
        let mut cover = line.cover.iter().map(id).collect::<Result<Vec<_>, _>>()?;
        cover.sort();
        opening.cells.push(crate::sheet::CellChoice { cover, taken: line.taken });
    }
    let mut sheet = Sheet::new("recipe", 1000.0, 1000.0, Unit::Mm, 72.0);
    sheet.drawings = file.drawings.clone();
    check_opening(&opening, &sheet)?;
    Ok(Recipe { opening, drawings: file.drawings, fonts: file.fonts })
}

fn form(at: usize, mut map: Map<String, Value>) -> Result<Form, RecipeError> {
    let wrong = |e: serde_json::Error| RecipeError::Form(at, e.to_string());
    if !map.contains_key("path") {
        map.entry("id").or_insert_with(|| Value::String(FormId::fresh().0.to_string()));
        if !map.contains_key("pose") {
            map.insert("pose".into(), serde_json::to_value(Pose::default()).map_err(wrong)?);
        }
        return serde_json::from_value(Value::Object(map)).map_err(wrong);
    }
    let line: PathLine = serde_json::from_value(Value::Object(map)).map_err(wrong)?;
    let mut path = BezPath::from_svg(&line.path).map_err(|e| RecipeError::Path(at, e.to_string()))?;
    if !path.is_finite() {
        return Err(RecipeError::Path(at, "it holds numbers that are not finite".into()));
    }
    if line.fill_rule == FillRule::Evenodd {
        path = unite_even_odd(&path);
    }
    let shape = FormShape::Contour(Contour::from_path(&path));
    Ok(Form { join: line.join, off: line.off, ..Form::new(FormId::fresh(), line.pose, shape) })
}
