//! Modules depend on one another in one direction: no two of a crate need each other, however far the way around.

use super::{crates, rust_files};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use syn::visit::{self, Visit};
use syn::{Item, UseTree, Visibility};

/// A module's path in its crate; the crate's own is empty.
type Module = Vec<String>;

/// What a file says of itself.
#[derive(Default)]
struct File {
    /// What it defines.
    items: BTreeSet<String>,
    /// What it calls names by, and whether others may do so, too.
    uses: BTreeMap<String, Use>,
    /// Paths of which everything is used.
    globs: Vec<Vec<String>>,
    /// Paths in its code.
    paths: BTreeSet<Vec<String>>,
}

struct Use {
    path: Vec<String>,
    public: bool,
}

struct Crate {
    files: BTreeMap<Module, File>,
}

impl Crate {
    fn read(name: &str) -> Self {
        let source = inky_e2e::root().join("crates").join(name).join("src");
        let mut files = BTreeMap::new();
        for path in rust_files(&source) {
            let text = std::fs::read_to_string(&path).unwrap();
            let parsed = syn::parse_file(&text).unwrap_or_else(|e| panic!("{}: {e}", path.display()));
            files.insert(module_of(path.strip_prefix(&source).unwrap()), File::of(parsed));
        }
        Self { files }
    }

    /// The module in which a path ends that is said in `from`; None for what is not of this crate.
    fn resolved(&self, from: &Module, path: &[String], seen: &mut BTreeSet<(Module, Vec<String>)>) -> Option<Module> {
        if !seen.insert((from.clone(), path.to_vec())) {
            return None;
        }
        let (first, rest) = path.split_first()?;
        let mut at = from.clone();
        let rest = match first.as_str() {
            "crate" => {
                at.clear();
                rest
            }
            "self" => rest,
            "super" => {
                at.pop()?;
                rest
            }
            _ => path,
        };
        if rest.first().is_some_and(|next| next == "super") {
            return self.resolved(&at, rest, seen);
        }
        self.walked(at, rest, seen)
    }

    fn walked(&self, at: Module, path: &[String], seen: &mut BTreeSet<(Module, Vec<String>)>) -> Option<Module> {
        let Some((next, rest)) = path.split_first() else {
            return Some(at);
        };
        let mut child = at.clone();
        child.push(next.clone());
        if self.files.contains_key(&child) {
            return self.walked(child, rest, seen);
        }
        let file = self.files.get(&at)?;
        if file.items.contains(next) {
            return Some(at);
        }
        if let Some(used) = file.uses.get(next) {
            return self.resolved(&at, &used.path, seen);
        }
        file.globs.iter().find_map(|glob| {
            let mut path = glob.clone();
            path.push(next.clone());
            self.resolved(&at, &path, seen)
        })
    }

    /// The modules that each module needs, and the paths by which it says so.
    fn needs(&self) -> Needs {
        let of = |module: &Module, file: &File| {
            // what is only handed on is not needed
            let used = file.uses.values().filter(|u| !u.public).map(|u| &u.path);
            let mut needed: BTreeMap<Module, BTreeSet<String>> = BTreeMap::new();
            for path in used.chain(&file.paths) {
                if let Some(other) = self.resolved(module, path, &mut BTreeSet::new()).filter(|other| other != module) {
                    needed.entry(other).or_default().insert(path.join("::"));
                }
            }
            needed
        };
        self.files.iter().map(|(module, file)| (module.clone(), of(module, file))).collect()
    }
}

type Needs = BTreeMap<Module, BTreeMap<Module, BTreeSet<String>>>;

/// `a/mod.rs` and `a.rs` are the module `a`.
fn module_of(path: &Path) -> Module {
    let mut module: Module = path.with_extension("").iter().map(|p| p.to_string_lossy().into_owned()).collect();
    if module.last().is_some_and(|last| ["mod", "lib", "main"].contains(&last.as_str())) {
        module.pop();
    }
    module
}

impl File {
    fn of(parsed: syn::File) -> Self {
        let mut file = Self::default();
        for item in &parsed.items {
            let ident = match item {
                Item::Const(i) => &i.ident,
                Item::Enum(i) => &i.ident,
                Item::Fn(i) => &i.sig.ident,
                Item::Static(i) => &i.ident,
                Item::Struct(i) => &i.ident,
                Item::Trait(i) => &i.ident,
                Item::Type(i) => &i.ident,
                Item::Mod(i) if i.content.is_some() => &i.ident,
                Item::Use(i) => {
                    let public = !matches!(i.vis, Visibility::Inherited);
                    file.add_use(&i.tree, &mut Vec::new(), public);
                    continue;
                }
                _ => continue,
            };
            file.items.insert(ident.to_string());
        }
        file.visit_file(&parsed);
        file
    }

    fn add_use(&mut self, tree: &UseTree, before: &mut Vec<String>, public: bool) {
        let mut add = |name: String, last: String, before: &[String]| {
            let mut path = before.to_vec();
            if last != "self" {
                path.push(last);
            }
            self.uses.insert(name, Use { path, public });
        };
        match tree {
            UseTree::Path(p) => {
                before.push(p.ident.to_string());
                self.add_use(&p.tree, before, public);
                before.pop();
            }
            UseTree::Name(n) if n.ident == "self" => {
                let name = before.last().cloned().unwrap_or_default();
                add(name, "self".into(), before);
            }
            UseTree::Name(n) => add(n.ident.to_string(), n.ident.to_string(), before),
            UseTree::Rename(r) => add(r.rename.to_string(), r.ident.to_string(), before),
            UseTree::Group(g) => g.items.iter().for_each(|tree| self.add_use(tree, before, public)),
            UseTree::Glob(_) => self.globs.push(before.clone()),
        }
    }
}

impl<'ast> Visit<'ast> for File {
    fn visit_visibility(&mut self, _: &'ast Visibility) {
        // who may use it, not what it needs
    }

    fn visit_path(&mut self, path: &'ast syn::Path) {
        self.paths.insert(path.segments.iter().map(|s| s.ident.to_string()).collect());
        visit::visit_path(self, path);
    }
}

/// What a module needs, and what that needs, and so on.
fn reached(from: &Module, needs: &Needs) -> BTreeSet<Module> {
    let mut found = BTreeSet::new();
    let mut open = vec![from];
    while let Some(at) = open.pop() {
        for next in needs.get(at).into_iter().flat_map(BTreeMap::keys) {
            if found.insert(next.clone()) {
                open.push(next);
            }
        }
    }
    found
}

#[test]
fn modules_depend_on_one_another_in_one_direction() {
    let mut circles = Vec::new();
    for name in crates() {
        let needs = Crate::read(&name).needs();
        let reached: BTreeMap<&Module, _> = needs.keys().map(|module| (module, reached(module, &needs))).collect();
        for (from, needed) in &needs {
            // an arrow is part of a circle when there is a way back
            let back = needed.iter().filter(|(to, _)| reached.get(to).is_some_and(|r| r.contains(from)));
            circles
                .extend(back.map(|(to, paths)| format!("{name}::{} → {}: {paths:?}", from.join("::"), to.join("::"))));
        }
    }
    assert!(circles.is_empty(), "{} arrows in circles:\n{}", circles.len(), circles.join("\n"));
}
