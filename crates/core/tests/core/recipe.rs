//! Recipes for openings.

use inky_core::combine::area;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{opening_cells, opening_path};
use inky_core::recipe::read_recipe;

#[test]
fn paths_and_shapes_are_joined() {
    let json = br#"{"forms": [
        {"path": "M0 0H10V10H0Z M2 2H8V8H2Z", "fill_rule": "evenodd"},
        {"join": "cut_away", "shape": {"kind": "basic", "width": 4, "height": 40, "figure": {"figure": "ellipse"}}},
        {"path": "M0 0H1V1H0Z", "off": true}
    ], "cells": [{"cover": [1], "taken": true}]}"#;
    let recipe = read_recipe(json).unwrap();
    let mut opening = recipe.opening;
    let with_cell = area(&opening_path(&opening, &LoadedLibrary::default()).unwrap());
    opening.cells.clear();
    let joined = area(&opening_path(&opening, &LoadedLibrary::default()).unwrap());
    assert!(joined > 44.0 && joined < 46.0, "{joined}");
    assert!(with_cell > joined + 60.0, "{with_cell}");
    assert_eq!(opening_cells(&opening, &LoadedLibrary::default()).unwrap().iter().filter(|c| c.by_joins).count(), 1);
}

#[test]
fn what_is_no_recipe_is_refused() {
    let said = |json: &str| read_recipe(json.as_bytes()).unwrap_err().to_string();
    assert!(said("[]").starts_with("This is no recipe"));
    assert!(said(r#"{"forms": [{"path": "M0 0 L x"}]}"#).starts_with("The path of form 0 cannot be read"));
    assert!(said(r#"{"forms": [{"path": "M0 0 L1e999 5"}]}"#).starts_with("The path of form 0"));
    assert!(said(r#"{"forms": [{"shape": {"kind": "moon"}}]}"#).starts_with("Form 0 of the recipe"));
    assert!(said(r#"{"forms": [], "cells": [{"cover": [3], "taken": true}]}"#).contains("covered by form 3"));
    let lettering =
        r#"{"kind":"lettering","font":"anton","size":10,"text":"TEXT"}"#.replace("TEXT", &"A".repeat(10_001));
    assert!(said(&format!(r#"{{"forms": [{{"shape": {lettering}}}]}}"#)).contains("10000 characters"));
}
