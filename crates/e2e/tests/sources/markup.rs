//! One module writes SVG; no other writes, searches or edits markup.

use super::{crates, rust_files};
use syn::visit::{self, Visit};

/// Where markup is written, and where imported files are read.
const MAY: [&str; 2] = ["core/src/scene/svg/", "core/src/outline/drawing"];

/// What only markup says: elements and attributes of SVG.
const MARKS: [&str; 22] = [
    "<g",
    "</",
    "/>",
    "<path",
    "<svg",
    "<rect",
    "<image",
    "<use",
    "<mask",
    "<filter",
    "<defs",
    "xmlns",
    "url(#",
    "href=",
    "viewBox",
    "clip-path",
    "fill=",
    "stroke=",
    "transform=",
    "opacity=",
    "feGaussian",
    "mix-blend-mode",
];

struct Texts(Vec<String>);

impl<'ast> Visit<'ast> for Texts {
    fn visit_lit_str(&mut self, text: &'ast syn::LitStr) {
        self.0.push(text.value());
    }

    fn visit_macro(&mut self, called: &'ast syn::Macro) {
        // what a macro is given is not parsed: its texts are found among its tokens
        gather(called.tokens.clone(), &mut self.0);
        visit::visit_macro(self, called);
    }

    fn visit_attribute(&mut self, _: &'ast syn::Attribute) {
        // docs may speak of markup
    }
}

fn gather(tokens: proc_macro2::TokenStream, texts: &mut Vec<String>) {
    for token in tokens {
        match token {
            proc_macro2::TokenTree::Group(group) => gather(group.stream(), texts),
            proc_macro2::TokenTree::Literal(literal) => {
                if let syn::Lit::Str(text) = syn::Lit::new(literal) {
                    texts.push(text.value());
                }
            }
            _ => {}
        }
    }
}

#[test]
fn only_the_writer_knows_markup() {
    let mut found = Vec::new();
    for name in crates().into_iter().filter(|name| name != "e2e") {
        let folder = inky_e2e::root().join("crates").join(&name).join("src");
        for path in rust_files(&folder) {
            let place = path.strip_prefix(inky_e2e::root().join("crates")).unwrap().to_string_lossy().into_owned();
            if MAY.iter().any(|may| place.starts_with(may)) {
                continue;
            }
            let mut texts = Texts(Vec::new());
            texts.visit_file(&syn::parse_file(&std::fs::read_to_string(&path).unwrap()).unwrap());
            let marked = texts.0.into_iter().filter(|text| MARKS.iter().any(|mark| text.contains(mark)));
            found.extend(marked.map(|text| format!("{place}: {text:?}")));
        }
    }
    assert!(found.is_empty(), "markup outside of the writer:\n{}", found.join("\n"));
}
