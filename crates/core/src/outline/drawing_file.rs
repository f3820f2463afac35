//! Reading SVG drawings into outlines. The file is a stranger's: nothing outside of it is read, and it is measured before it
//! is unfolded.

use super::{DrawnOutline, Shelf};
use crate::combine::{Rule, join_pair, nodes, unite, unite_even_odd};
use crate::sheet::MM_PER_INCH;
use crate::sheet::limits::{DRAWING_BYTES, DRAWING_NODES};
use kurbo::{Affine, BezPath, Shape};
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use usvg::roxmltree::{Document, Node, ParsingOptions};
use usvg::{Group, ImageHrefResolver, Options, Paint, Tree, tiny_skia_path};

/// Why a drawing cannot be brought in.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum DrawingError {
    #[error("This drawing is larger than 16 MiB. Save it with fewer details.")]
    TooLarge,
    #[error("This file is not an SVG drawing that can be read.")]
    Unreadable,
    #[error("This drawing carries a script. Save it without the script and bring it in again.")]
    Script,
    #[error(
        "This drawing refers to something outside of itself (“{0}”), which is never read. Embed it, or take it out."
    )]
    Outside(String),
    #[error("A part of this drawing refers to itself (“{0}”). It cannot be drawn.")]
    Cyclic(String),
    #[error("This drawing has more than 200,000 nodes. Simplify it before you bring it in.")]
    TooManyNodes,
    #[error("The text “{0}” needs a font that is not here. Turn it into outlines, or bring the font in first.")]
    NoFont(String),
    #[error("There is nothing in this drawing that makes an outline.")]
    Empty,
    #[error("This drawing has numbers that are not finite or far too large.")]
    Numbers,
}

/// Reads an SVG file: everything it paints, as one compound outline about the middle of the drawing, in millimetres (96 pixels of
/// the drawing to an inch).
///
/// Fills and strokes count as they are seen: what is painted in (nearly) white on top of something darker is taken away again,
/// as paper.
///
/// # Errors
/// A sentence, before anything large is built.
pub fn read_drawing(name: &str, file: &[u8], shelf: &Shelf) -> Result<DrawnOutline, DrawingError> {
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
    let tree = Tree::from_xmltree(&document, &options_with(shelf)).map_err(|_| DrawingError::Unreadable)?;
    let mut ink = Ink { spare_text: texts.iter().filter(|t| !t.is_empty()).count(), ..Ink::default() };
    ink.group(tree.root(), 0)?;
    if ink.spare_text > 0 {
        let text: String =
            texts.iter().find(|t| !t.is_empty()).map(|t| t.chars().take(24).collect()).unwrap_or_default();
        return Err(DrawingError::NoFont(text));
    }
    let mm = MM_PER_INCH / 96.0;
    let (w, h) = (f64::from(tree.size().width()), f64::from(tree.size().height()));
    let path = Affine::scale(mm) * Affine::translate((-w / 2.0, -h / 2.0)) * ink.outline();
    let reach = path.bounding_box();
    if path.is_empty() {
        return Err(DrawingError::Empty);
    }
    if !path.is_finite() || reach.width().max(reach.height()) > 1e6 {
        return Err(DrawingError::Numbers);
    }
    // what lies far off the drawing's own page must not lie far off on the sheet
    let path = Affine::translate(-reach.center().to_vec2()) * path;
    let notes = if ink.pictures > 0 { vec!["Pictures in the drawing were left out.".into()] } else { Vec::new() };
    Ok(DrawnOutline::new(name, &path, notes))
}

fn options_with(shelf: &Shelf) -> Options<'static> {
    let mut fonts = usvg::fontdb::Database::new();
    for face in shelf.faces() {
        fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(face.data.to_vec())));
    }
    Options {
        resources_dir: None,
        fontdb: Arc::new(fonts),
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

/// What is painted so far.
#[derive(Default)]
struct Ink {
    /// Runs of dark or of white outlines, in the order of painting; each outline without overlaps of its own.
    runs: Vec<(bool, BezPath)>,
    nodes: usize,
    pictures: usize,
    /// Texts of the file that were not met yet.
    spare_text: usize,
}

impl Ink {
    fn group(&mut self, group: &Group, depth: usize) -> Result<(), DrawingError> {
        if depth > 300 || group.opacity().get() <= 0.0 {
            return Ok(());
        }
        let Some(clip) = group.clip_path() else {
            return self.children(group, depth);
        };
        let mut inner = Self { nodes: self.nodes, spare_text: self.spare_text, ..Self::default() };
        inner.children(group, depth)?;
        let place = affine(group.abs_transform()) * affine(clip.transform());
        let mut limit = place * clip_outline(clip, 0);
        if let Some(outer) = clip.clip_path() {
            limit = join_pair(&limit, &(affine(group.abs_transform()) * clip_outline(outer, 0)), Rule::Intersection);
        }
        for (white, path) in inner.runs {
            self.paint(white, &join_pair(&path, &limit, Rule::Intersection));
        }
        (self.nodes, self.pictures, self.spare_text) = (inner.nodes, self.pictures + inner.pictures, inner.spare_text);
        Ok(())
    }

    fn children(&mut self, group: &Group, depth: usize) -> Result<(), DrawingError> {
        for node in group.children() {
            match node {
                usvg::Node::Group(inner) => self.group(inner, depth + 1)?,
                usvg::Node::Path(path) => self.path(path)?,
                usvg::Node::Text(text) => {
                    if !text.flattened().children().is_empty() {
                        self.spare_text = self.spare_text.saturating_sub(1);
                    }
                    self.group(text.flattened(), depth + 1)?;
                }
                usvg::Node::Image(_) => self.pictures += 1,
            }
        }
        Ok(())
    }

    fn path(&mut self, path: &usvg::Path) -> Result<(), DrawingError> {
        if !path.is_visible() {
            return Ok(());
        }
        let place = affine(path.abs_transform());
        let outline = bez_path(path.data());
        self.nodes += nodes(&outline);
        if self.nodes > DRAWING_NODES {
            return Err(DrawingError::TooManyNodes);
        }
        if let Some(fill) = path.fill().filter(|f| f.opacity().get() > 0.0) {
            let united = match fill.rule() {
                usvg::FillRule::NonZero => unite(&(place * &outline)),
                usvg::FillRule::EvenOdd => unite_even_odd(&(place * &outline)),
            };
            self.paint(is_white(fill.paint()), &united);
        }
        if let Some(stroke) = path.stroke().filter(|s| s.opacity().get() > 0.0) {
            let style = stroke.to_tiny_skia();
            let scale = path.abs_transform().get_scale();
            let fineness = 4.0 * scale.0.max(scale.1).clamp(0.01, 100.0);
            let dashed = match &style.dash {
                Some(dash) => path.data().dash(dash, fineness),
                None => None,
            };
            if let Some(line) = dashed.as_ref().unwrap_or(path.data()).stroke(&style, fineness) {
                let line = place * bez_path(&line);
                self.paint(is_white(stroke.paint()), &unite(&line));
            }
        }
        Ok(())
    }

    fn paint(&mut self, white: bool, outline: &BezPath) {
        if outline.is_empty() || !outline.is_finite() {
            return;
        }
        match self.runs.last_mut() {
            Some((same, path)) if *same == white => path.extend(outline.elements().iter().copied()),
            _ => self.runs.push((white, outline.clone())),
        }
    }

    /// Dark runs added, white ones taken away; where all is white, it is meant to be seen.
    fn outline(&self) -> BezPath {
        let all_white = self.runs.iter().all(|(white, _)| *white);
        self.runs.iter().fold(BezPath::new(), |sum, (white, run)| {
            let rule = if *white && !all_white { Rule::Difference } else { Rule::Union };
            join_pair(&sum, &unite(run), rule)
        })
    }
}

/// The region a clip path leaves, in its own space.
fn clip_outline(clip: &usvg::ClipPath, depth: usize) -> BezPath {
    fn gather(group: &Group, depth: usize, out: &mut BezPath) {
        for node in group.children() {
            match node {
                usvg::Node::Path(path) => {
                    let outline = affine(path.abs_transform()) * bez_path(path.data());
                    let even_odd = path.fill().is_some_and(|f| f.rule() == usvg::FillRule::EvenOdd);
                    let part = if even_odd { unite_even_odd(&outline) } else { unite(&outline) };
                    out.extend(part.elements().iter().copied());
                }
                usvg::Node::Group(inner) if depth < 50 => gather(inner, depth + 1, out),
                usvg::Node::Text(text) if depth < 50 => gather(text.flattened(), depth + 1, out),
                _ => {}
            }
        }
    }
    let mut out = BezPath::new();
    gather(clip.root(), depth, &mut out);
    unite(&out)
}

fn is_white(paint: &Paint) -> bool {
    matches!(paint, Paint::Color(c) if c.red.min(c.green).min(c.blue) >= 247)
}

fn affine(t: usvg::Transform) -> Affine {
    Affine::new([t.sx, t.ky, t.kx, t.sy, t.tx, t.ty].map(f64::from))
}

fn bez_path(path: &tiny_skia_path::Path) -> BezPath {
    use tiny_skia_path::PathSegment;
    let at = |p: tiny_skia_path::Point| kurbo::Point::new(f64::from(p.x), f64::from(p.y));
    let mut out = BezPath::new();
    for segment in path.segments() {
        match segment {
            PathSegment::MoveTo(p) => out.move_to(at(p)),
            PathSegment::LineTo(p) => out.line_to(at(p)),
            PathSegment::QuadTo(a, p) => out.quad_to(at(a), at(p)),
            PathSegment::CubicTo(a, b, p) => out.curve_to(at(a), at(b), at(p)),
            PathSegment::Close => out.close_path(),
        }
    }
    out
}
