//! `inky outline`: an opening from a recipe file to its outline.

use anyhow::{Context, Result, bail};
use clap::Args;
use inky_core::combine::{area, nodes};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{check_letters, opening_cells, opening_path, read_drawing, read_font};
use inky_core::recipe::{Recipe, read_recipe};
use inky_core::scene::svg::outline_document;
use inky_server::bundled_fonts;
use kurbo::{BezPath, Shape};
use serde_json::{Value, json};
use std::path::{Component, Path, PathBuf};
use std::sync::Arc;

#[derive(Args)]
pub struct Outline {
    /// A recipe (JSON): the forms of an opening with their joins.
    recipe: PathBuf,
    /// Also write the outline as an SVG file.
    #[arg(long)]
    svg: Option<PathBuf>,
    /// Also list the cells into which the forms fall.
    #[arg(long)]
    cells: bool,
}

impl Outline {
    pub fn run(self) -> Result<()> {
        let name = self.recipe.display();
        let bytes = std::fs::read(&self.recipe).with_context(|| format!("{name} cannot be read"))?;
        let recipe = read_recipe(&bytes)?;
        let library = library(&recipe, self.recipe.parent().unwrap_or(Path::new(".")))?;
        let path = opening_path(&recipe.opening, &library)?;
        let mut answer = described(&path);
        if self.cells {
            let places = |ids: &[inky_core::sheet::FormId]| -> Vec<usize> {
                let mut all: Vec<usize> =
                    ids.iter().filter_map(|id| recipe.opening.forms.iter().position(|f| f.id == *id)).collect();
                all.sort_unstable();
                all
            };
            let cells = opening_cells(&recipe.opening, &library)?;
            let line = |c: &inky_core::outline::OpeningCell| {
                let mut cell = described(&c.path);
                cell["cover"] = json!(places(&c.choice.cover));
                cell["taken"] = json!(c.choice.taken);
                cell
            };
            answer["cells"] = Value::Array(cells.iter().map(line).collect());
        }
        println!("{}", serde_json::to_string_pretty(&answer)?);
        if let Some(to) = self.svg {
            std::fs::write(&to, svg(&path)).with_context(|| format!("{} cannot be written", to.display()))?;
        }
        Ok(())
    }
}

/// What the recipe refers to, read from its own folder alone.
fn library(recipe: &Recipe, folder: &Path) -> Result<LoadedLibrary> {
    let beside = |name: &str| {
        if Path::new(name).components().any(|c| !matches!(c, Component::Normal(_))) || name.is_empty() {
            bail!("“{name}” does not lie in the folder of the recipe");
        }
        std::fs::read(folder.join(name)).with_context(|| format!("“{name}” beside the recipe cannot be read"))
    };
    let mut fonts = bundled_fonts()?;
    for (id, name) in &recipe.fonts {
        let face = read_font(id.clone(), name, &beside(name)?)?;
        check_letters(&face)?;
        fonts.add(face);
    }
    let mut library = LoadedLibrary::default();
    for (id, name) in &recipe.drawings {
        let drawn = read_drawing(name, &beside(name)?, &fonts).with_context(|| format!("“{name}”"))?;
        library.drawings.insert(id.clone(), Arc::new(drawn));
    }
    library.fonts = Arc::new(fonts);
    Ok(library)
}

fn described(path: &BezPath) -> Value {
    let bounds = (!path.is_empty()).then(|| path.bounding_box()).map(|b| [b.x0, b.y0, b.x1, b.y1]);
    json!({ "path": path.to_svg(), "area": area(path), "bounds": bounds, "nodes": nodes(path) })
}

/// A drawing of the outline, a hundredth of its size around it, one unit a millimetre.
fn svg(path: &BezPath) -> String {
    let b = if path.is_empty() { kurbo::Rect::new(0.0, 0.0, 1.0, 1.0) } else { path.bounding_box() };
    let room = 0.01 * b.width().max(b.height());
    outline_document(path.clone(), b.inflate(room, room))
}
