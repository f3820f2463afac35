//! Reading SVG drawings into outlines. The file is a stranger's: nothing outside of it is read, and it is measured before it
//! is unfolded.

use super::drawing_error::DrawingError;
use super::drawing_parts::picture_of;
use super::{FontCollection, ImportedDrawing};
use crate::sheet::limits::{DRAWING_BYTES, DRAWING_NODES, NAME};
use kurbo::{Affine, Shape};
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use usvg::roxmltree::{Document, Node, ParsingOptions};
use usvg::{ImageHrefResolver, Options, Tree};

/// Reads an SVG file: everything it paints, in its own groups and colours, and as one compound outline.
///
/// # Errors
/// A sentence, before anything large is built.
pub fn read_drawing(name: &str, file: &[u8], fonts: &FontCollection) -> Result<ImportedDrawing, DrawingError> {
    if file.len() > DRAWING_BYTES {
        return Err(DrawingError::TooLarge);
    }
    let text = std::str::from_utf8(file).map_err(|_| DrawingError::Unreadable)?;
    let options =
        ParsingOptions { allow_dtd: false, nodes_limit: 4 * DRAWING_NODES as u32, ..ParsingOptions::default() };
    let document = Document::parse_with_options(text, options).map_err(|e| match e {
        usvg::roxmltree::Error::NodesLimitReached => DrawingError::TooManyNodes,
        _ => DrawingError::Unreadable,
    })?;
    if !document.root_element().has_tag_name(("http://www.w3.org/2000/svg", "svg")) {
        return Err(DrawingError::Unreadable);
    }
    inspect(&document)?;
    let texts: Vec<String> = document.descendants().filter(|n| n.tag_name().name() == "text").map(plain_text).collect();
    let tree = Tree::from_xmltree(&document, &options_with(fonts)).map_err(|_| DrawingError::Unreadable)?;
    let found = picture_of(&tree, names(&document), texts.iter().filter(|t| !t.is_empty()).count())?;
    if found.spare_text > 0 {
        let text: String =
            texts.iter().find(|t| !t.is_empty()).map(|t| t.chars().take(24).collect()).unwrap_or_default();
        return Err(DrawingError::NoFont(text));
    }
    let path = found.picture.outline();
    let reach = path.bounding_box();
    if path.is_empty() {
        return Err(DrawingError::Empty);
    }
    if !path.is_finite() || reach.width().max(reach.height()) > 1e6 {
        return Err(DrawingError::Numbers);
    }
    // what lies far off the drawing's own page must not lie far off on the sheet
    let path = Affine::translate(-reach.center().to_vec2()) * path;
    Ok(ImportedDrawing::new(name, &path, found.picture, found.notes))
}

/// What the file calls its elements, by their identifiers: their titles, the names meant for being read out, or the identifiers themselves.
fn names(document: &Document<'_>) -> BTreeMap<String, String> {
    let named = document.descendants().filter_map(|n| {
        let id = n.attribute("id")?;
        let title = n.children().find(|c| c.tag_name().name() == "title").map(plain_text);
        let name = title.or_else(|| n.attribute("aria-label").map(str::to_owned)).filter(|t| !t.is_empty());
        Some((id.to_owned(), name.unwrap_or_else(|| id.to_owned()).chars().take(NAME).collect()))
    });
    named.collect()
}

fn options_with(fonts: &FontCollection) -> Options<'static> {
    let mut database = usvg::fontdb::Database::new();
    for face in fonts.faces() {
        database.load_font_source(usvg::fontdb::Source::Binary(Arc::new(face.data.to_vec())));
    }
    Options {
        resources_dir: None,
        fontdb: Arc::new(database),
        // the default one opens files
        image_href_resolver: ImageHrefResolver {
            resolve_data: Box::new(|_, _, _| None),
            resolve_string: Box::new(|_, _| None),
        },
        ..Options::default()
    }
}

fn plain_text(node: Node<'_, '_>) -> String {
    let all: String = node.descendants().filter_map(|n| if n.is_text() { n.text() } else { None }).collect();
    all.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// Looks through the file before anything is built from it.
fn inspect(document: &Document<'_>) -> Result<(), DrawingError> {
    let mut uses: BTreeMap<&str, Vec<&str>> = BTreeMap::new();
    let mut sizes: BTreeMap<&str, usize> = BTreeMap::new();
    for node in document.descendants().filter(Node::is_element) {
        let name = node.tag_name().name();
        let handler = node.attributes().any(|a| a.name().len() > 2 && a.name().starts_with("on"));
        if name == "script" || handler {
            return Err(DrawingError::Script);
        }
        let href = node.attributes().find(|a| a.name() == "href").map(|a| a.value().trim());
        let style = node.attributes().map(|a| a.value()).chain(node.text().filter(|_| name == "style"));
        let outside = href.filter(|h| !h.starts_with('#') && !h.starts_with("data:") && name != "a");
        if let Some(far) = outside.map(str::to_owned).or_else(|| style.filter_map(far_url).next()) {
            return Err(DrawingError::Outside(far.chars().take(60).collect()));
        }
        if let Some(id) = node.attribute("id") {
            let inner = node.descendants().filter(Node::is_element);
            let used = inner.clone().filter(|n| n.tag_name().name() == "use");
            let targets = used.filter_map(|n| n.attributes().find(|a| a.name() == "href"));
            uses.insert(id, targets.filter_map(|a| a.value().trim().strip_prefix('#')).collect());
            sizes.insert(id, inner.count());
        }
    }
    let mut known = BTreeMap::new();
    for id in uses.keys() {
        if unfolded(id, &uses, &sizes, &mut known, &mut BTreeSet::new())? > DRAWING_NODES {
            return Err(DrawingError::TooManyNodes);
        }
    }
    Ok(())
}

/// An address outside of the file in a `url()` or an `@import`.
fn far_url(style: &str) -> Option<String> {
    let lower = style.to_ascii_lowercase();
    if lower.contains("@import") {
        return Some("@import".into());
    }
    let mut rest = lower.as_str();
    while let Some(at) = rest.find("url(") {
        rest = rest[at + 4..].trim_start_matches([' ', '"', '\'']);
        if !rest.starts_with('#') && !rest.starts_with("data:") {
            return Some(rest.chars().take_while(|c| !matches!(c, ')' | '"' | '\'')).collect());
        }
    }
    None
}

/// How many elements an element becomes when every `use` in it is unfolded.
fn unfolded<'a>(
    id: &'a str,
    uses: &BTreeMap<&'a str, Vec<&'a str>>,
    sizes: &BTreeMap<&'a str, usize>,
    known: &mut BTreeMap<&'a str, usize>,
    open: &mut BTreeSet<&'a str>,
) -> Result<usize, DrawingError> {
    if let Some(&size) = known.get(id) {
        return Ok(size);
    }
    if !open.insert(id) || open.len() > 200 {
        return Err(DrawingError::Cyclic(id.chars().take(60).collect()));
    }
    let mut size = sizes.get(id).copied().unwrap_or(0);
    for target in uses.get(id).into_iter().flatten() {
        size = size.saturating_add(unfolded(target, uses, sizes, known, open)?);
    }
    open.remove(id);
    known.insert(id, size);
    Ok(size)
}
