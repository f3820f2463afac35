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

#[test]
fn several_sheets_are_exported_at_once() -> Result<()> {
    let folder = Scratch::new()?;
    let at = |name: &str| folder.path().join(name).to_string_lossy().into_owned();
    let sheet = |name: &str| root().join("demo").join(name).to_string_lossy().into_owned();
    let export = |args: &[&str]| Command::new(program()?).arg("export").args(args).output().context("no program");
    let (night, ribbon) = (sheet("press-night.sheet.json"), sheet("ribbon-day.sheet.json"));
    let broken = at("broken.sheet.json");
    std::fs::write(&broken, "{}")?;
    let into = at("files");
    // one that cannot be read keeps nobody else from being written
    let done = export(&[&night, &broken, &ribbon, "--into", &into, "--as", "png", "--ppi", "20", "--json"])?;
    let (said, complaint) = (String::from_utf8_lossy(&done.stdout), String::from_utf8_lossy(&done.stderr));
    assert!(done.status.code() == Some(1) && complaint.contains("This is no sheet file"), "{said} {complaint}");
    let told: Vec<Value> = serde_json::from_slice(&done.stdout)?;
    assert!(told.len() == 3 && told[1]["error"].is_string(), "{said}");
    for (told, name) in [(&told[0], "press-night.png"), (&told[2], "ribbon-day.png")] {
        let file = Path::new(&into).join(name);
        assert_eq!((told["file"].as_str(), told["bytes"].as_u64()), (file.to_str(), Some(file.metadata()?.len())));
        assert!(image::open(file)?.width() > 100);
    }
    // as the pages of one PDF
    let both = at("both.pdf");
    assert!(export(&[&night, &ribbon, "--to", &both, "--ppi", "20"])?.status.success());
    let facts = Command::new("pdfinfo").arg(&both).output()?;
    assert!(String::from_utf8_lossy(&facts.stdout).lines().any(|l| l.starts_with("Pages:") && l.ends_with(" 2")));
    for (args, sentence) in [
        (vec![&*night, &ribbon, "--to", "a.png"], "several sheets go into one PDF"),
        (vec![&*night, &night, "--into", &into, "--as", "svg"], "two sheets would be written"),
        (vec![&*night], "required"),
        (vec![&*night, "--into", &into], "--as"),
    ] {
        let refused = export(&args)?;
        let complaint = String::from_utf8_lossy(&refused.stderr).into_owned();
        assert!(!refused.status.success() && complaint.contains(sentence), "{args:?}: {complaint}");
    }
    Ok(())
}

#[test]
fn there_are_manual_pages_and_completions() -> Result<()> {
    let folder = Scratch::new()?;
    let run = |args: &[&str]| Command::new(program()?).args(args).output().context("no program");
    assert!(run(&["manual", "--into", &folder.path().to_string_lossy()])?.status.success());
    let page = std::fs::read_to_string(folder.path().join("inky-export.1"))?;
    assert!(page.starts_with(".ie") && page.contains("sheet\\-inside") && page.contains("Examples"), "{page}");
    for shell in ["bash", "zsh", "fish"] {
        let script = String::from_utf8(run(&["completions", shell])?.stdout)?;
        assert!(script.contains("sheet-inside"), "{shell}: {script}");
    }
    Ok(())
}
