//! The `inky` command on files alone.

use anyhow::{Context, Result};
use inky_e2e::{Scratch, program, root};
use serde_json::Value;
use std::path::Path;
use std::process::{Command, Output};

fn outline(recipe: &Path, more: &[&str]) -> Result<Output> {
    Ok(Command::new(program()?).arg("outline").arg(recipe).args(more).output()?)
}

#[test]
fn an_opening_is_computed_from_a_recipe() -> Result<()> {
    let folder = Scratch::new()?;
    std::fs::copy(root().join("demo/drawings/lantern-print.svg"), folder.path().join("print.svg"))?;
    let recipe = folder.path().join("opening.json");
    // two squares of 20 mm that overlap by a quarter, a word, and a print of which only the largest pieces are kept
    std::fs::write(
        &recipe,
        r#"{ "drawings": { "print": "print.svg" }, "forms": [
            { "path": "M0 0H20V20H0Z" },
            { "path": "M10 10H30V30H10Z", "join": "drop_shared" },
            { "shape": { "kind": "lettering", "text": "KITE", "font": "anton", "size": 30 }, "pose": { "x": 100, "y": 30 } },
            { "shape": { "kind": "drawing", "drawing": "print", "specks": 400 }, "pose": { "x": 300, "y": 0 } }
        ] }"#,
    )?;
    let svg = folder.path().join("opening.svg");
    let done = outline(&recipe, &["--cells", "--svg", &svg.to_string_lossy()])?;
    assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    let answer: Value = serde_json::from_slice(&done.stdout)?;
    let cells = answer["cells"].as_array().context("no cells")?;
    let shared = cells.iter().find(|c| c["cover"] == serde_json::json!([0, 1])).context("no shared cell")?;
    assert!(shared["taken"] == false && (shared["area"].as_f64().unwrap_or(0.0) - 100.0).abs() < 1e-6, "{shared}");
    let taken: f64 = cells.iter().filter(|c| c["taken"] == true).filter_map(|c| c["area"].as_f64()).sum();
    let area = answer["area"].as_f64().context("no area")?;
    assert!((taken - area).abs() < 1e-4 * area, "{taken} in cells, {area} in all");
    assert!(answer["nodes"].as_u64() > Some(50) && answer["bounds"][0] == 0.0, "{}", answer["bounds"]);
    // the drawing has the outline in its true size
    let drawn = usvg::Tree::from_data(&std::fs::read(svg)?, &usvg::Options::default())?;
    let (found, side) = (drawn.root().abs_bounding_box(), |k: usize| answer["bounds"][k].as_f64().unwrap_or_default());
    for (css, mm) in [(found.width(), side(2) - side(0)), (found.height(), side(3) - side(1))] {
        assert!((f64::from(css) * 25.4 / 96.0 - mm).abs() < 1e-3 * mm, "{css} px, {mm} mm");
    }
    Ok(())
}

#[test]
fn recipes_that_cannot_be_read_get_a_sentence() -> Result<()> {
    let folder = Scratch::new()?;
    let recipe = folder.path().join("opening.json");
    for (json, said) in [
        ("{", "This is no recipe"),
        (r#"{ "forms": [{ "path": "M0 0 Lx" }] }"#, "The path of form 0 cannot be read"),
        (r#"{ "forms": [], "drawings": { "a": "../../etc/passwd" } }"#, "does not lie in the folder"),
        (
            r#"{ "forms": [{ "shape": { "kind": "lettering", "text": "A", "font": "none", "size": 9 } }] }"#,
            "no font called",
        ),
    ] {
        std::fs::write(&recipe, json)?;
        let done = outline(&recipe, &[])?;
        let sentence = String::from_utf8_lossy(&done.stderr);
        assert!(!done.status.success() && done.stdout.is_empty() && sentence.contains(said), "{json}: {sentence}");
    }
    Ok(())
}
