//! What must hold of the sources themselves.

mod markup;
mod modules;

use std::path::{Path, PathBuf};

/// The names of all crates.
fn crates() -> Vec<String> {
    let entries = std::fs::read_dir(inky_e2e::root().join("crates")).unwrap();
    let mut names: Vec<_> = entries.map(|e| e.unwrap().file_name().into_string().unwrap()).collect();
    names.sort();
    names
}

/// All Rust files below a folder.
fn rust_files(folder: &Path) -> Vec<PathBuf> {
    let mut found = Vec::new();
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            found.extend(rust_files(&path));
        } else if path.extension().is_some_and(|e| e == "rs") {
            found.push(path);
        }
    }
    found.sort();
    found
}
