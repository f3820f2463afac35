//! Nodes as elements.

use super::addresses::{PictureFiles, PictureLevels};
use super::element::{Element, Markup};
use super::path_data::{matrix, number, push_path, rect_data};
use crate::scene::tree::{
    ClipId, Effect, Fragment, Geometry, GradientId, Group, Line, MaskId, Moves, Node, Paint, PatternId, Picture, Reuse,
    Role, Shape, Shows, ToneId,
};
use crate::sheet::Blend;
use kurbo::Affine;
use std::collections::HashMap;
use std::sync::Arc;

/// How pictures are called.
pub(super) enum Names<'a> {
    Files(&'a dyn PictureFiles),
    Levels(&'a dyn PictureLevels),
}

pub(super) struct Writer<'a> {
    pub markup: Markup,
    names: Names<'a>,
    /// What was written once, to be referred to: by the fragment's place in memory.
    written: HashMap<*const Fragment, String>,
    /// Counts what has no place among the definitions of a fragment.
    count: usize,
}

/// A fragment that is being written.
#[derive(Clone, Copy)]
pub(super) struct Scope<'f> {
    pub fragment: &'f Fragment,
    /// What its identifiers begin with.
    pub name: &'f str,
    /// Millimetres of the sheet for one unit of the present space.
    pub scale: f64,
    /// It is handled: elements say what they are for.
    pub live: bool,
}

impl Scope<'_> {
    /// The identifier of the definition of this kind with this number.
    pub fn id(&self, kind: &str, index: usize) -> String {
        format!("{}-{kind}{index}", self.name)
    }

    /// The identifier of a clip in the markup.
    pub fn clip(&self, id: ClipId) -> String {
        self.id("clip", id.index())
    }

    /// The identifier of a mask in the markup.
    pub fn mask(&self, id: MaskId) -> String {
        self.id("mask", id.index())
    }

    /// The identifier of a gradient in the markup.
    pub fn gradient(&self, id: GradientId) -> String {
        self.id("gradient", id.index())
    }

    /// The identifier of a pattern in the markup.
    pub fn pattern(&self, id: PatternId) -> String {
        self.id("pattern", id.index())
    }

    /// The identifier of a tone curve in the markup.
    pub fn tone(&self, id: ToneId) -> String {
        self.id("tone", id.index())
    }

    /// A paint as the value of `fill` or `stroke`.
    pub fn paint(&self, paint: &Paint) -> String {
        match paint {
            Paint::Solid(swatch) => swatch.colour.to_string(),
            Paint::Gradient(id) => reference(&self.gradient(*id)),
            Paint::Pattern(id) => reference(&self.pattern(*id)),
        }
    }

    fn within(self, transform: Affine) -> Self {
        Self { scale: self.scale * transform.determinant().abs().sqrt(), ..self }
    }
}

pub(super) fn reference(id: &str) -> String {
    format!("url(#{id})")
}

impl<'a> Writer<'a> {
    /// Goes on writing into `markup`.
    pub fn new(markup: Markup, names: Names<'a>) -> Self {
        Self { markup, names, written: HashMap::new(), count: 0 }
    }

    /// What was written.
    pub fn finish(self) -> Markup {
        self.markup
    }

    /// A fragment as a group of its own; nothing for an empty one.
    pub fn fragment(&mut self, name: &str, fragment: &Fragment) {
        if fragment.is_empty() {
            return;
        }
        let live = matches!(self.names, Names::Levels(_));
        let group = self.markup.open(Element::new("g"));
        self.contents(Scope { fragment, name, scale: 1.0, live });
        self.markup.close(group);
    }

    fn contents(&mut self, scope: Scope<'_>) {
        self.definitions(scope);
        self.nodes(scope, &scope.fragment.nodes);
    }

    /// Writes nodes one after the other, from back to front.
    pub fn nodes(&mut self, scope: Scope<'_>, nodes: &[Node]) {
        for node in nodes {
            match node {
                Node::Group(group) => self.group(scope, group),
                Node::Shape(shape) => self.shape(scope, shape),
                Node::Picture(picture) => self.picture(scope, picture),
                Node::Reuse(reuse) => self.reuse(scope, reuse),
            }
        }
    }

    /// The shadows of a fragment, thrown by elements with these identifiers.
    pub fn shadows(&mut self, name: &str, fragment: &Fragment, thrown_by: &[String]) {
        let scope = Scope { fragment, name, scale: 1.0, live: true };
        for node in &fragment.nodes {
            let Node::Group(group) = node else { continue };
            let open = self.open_group(scope, group);
            for id in thrown_by {
                self.markup.empty(Element::new("use").with("xlink:href", format!("#{id}")));
            }
            self.markup.close(open);
        }
    }

    fn group(&mut self, scope: Scope<'_>, group: &Group) {
        let name = self.open_group(scope, group);
        self.nodes(scope.within(group.transform), &group.nodes);
        self.markup.close(name);
    }

    fn open_group(&mut self, scope: Scope<'_>, group: &Group) -> &'static str {
        let mut element = role(Element::new("g"), scope, group.role);
        if group.transform != Affine::IDENTITY {
            element = element.with("transform", matrix(group.transform));
        }
        element = element
            .with_some("clip-path", group.clip.map(|id| reference(&scope.clip(id))))
            .with_some("mask", group.mask.map(|id| reference(&scope.mask(id))));
        if let Some(Effect::Shadow(shadow)) = &group.effect {
            let id = self.fresh(scope, "shadow");
            self.shadow(&id, shadow);
            element = element.with("filter", reference(&id));
        }
        if !group.opacity.is_whole() {
            element = element.with("opacity", number(group.opacity.get()));
        } else if group.isolated && group.blend == Blend::Normal && group.effect.is_none() {
            // browsers clip each element of a group by itself, so that a fill beneath shows at the edge of the one above. An opacity
            // this near to 1 changes no pixel and makes the group one picture first; `isolation` does not
            element = element.with("opacity", "0.9999");
        }
        let element = self.blended(element, group.blend);
        self.markup.open(element)
    }

    /// With a blend mode: a class on the screen, a style in files.
    pub fn blended(&self, element: Element, blend: Blend) -> Element {
        match (blend, &self.names) {
            (Blend::Normal, _) => element,
            (_, Names::Levels(_)) => element.with("class", format!("blend-{}", blend.keyword())),
            (_, Names::Files(_)) => element.with("style", format!("mix-blend-mode:{}", blend.keyword())),
        }
    }

    fn shape(&mut self, scope: Scope<'_>, shape: &Shape) {
        let element = role(self.outlined(scope, &shape.geometry, "fill-rule"), scope, shape.role);
        let fill = shape.fill.as_ref().map_or_else(|| "none".to_owned(), |paint| scope.paint(paint));
        let element = element.with("fill", fill);
        let element = match &shape.stroke {
            Some(stroke) => stroked(element, &scope.paint(&stroke.paint), &stroke.line),
            None => element,
        };
        self.markup.empty(element);
    }

    /// The element of a geometry. `rule` is the attribute of the fill rule.
    pub fn outlined(&self, scope: Scope<'_>, geometry: &Geometry, rule: &'static str) -> Element {
        let path = |before: Option<&kurbo::Rect>| {
            let before = before.map(|r| rect_data(*r)).unwrap_or_default();
            if scope.live {
                return Element::new("path").with("data-outline", before);
            }
            let mut d = before;
            push_path(&mut d, &scope.fragment.opening);
            Element::new("path").with("d", d)
        };
        match geometry {
            Geometry::Opening => path(None),
            Geometry::Around(rect) => path(Some(rect)).with(rule, "evenodd"),
            Geometry::Path(own) => {
                let mut d = String::with_capacity(own.elements().len() * 48);
                push_path(&mut d, own);
                Element::new("path").with("d", d)
            }
            Geometry::AroundPath(rect, own) => {
                let mut d = rect_data(*rect);
                push_path(&mut d, own);
                Element::new("path").with("d", d).with(rule, "evenodd")
            }
            Geometry::Rect(rect) => framed(Element::new("rect"), *rect),
        }
    }

    fn picture(&mut self, scope: Scope<'_>, picture: &Picture) {
        let mut element = role(Element::new("image"), scope, picture.role);
        element = element.with_some("filter", picture.tone.map(|id| reference(&scope.tone(id))));
        element = framed(element, picture.frame).with("preserveAspectRatio", "none");
        if picture.transform != Affine::IDENTITY {
            element = element.with("transform", matrix(picture.transform));
        }
        let scale = scope.within(picture.transform).scale;
        element = match &self.names {
            Names::Files(files) => element.with("xlink:href", files.address(&picture.source, scale)),
            Names::Levels(names) => {
                let levels = names.levels(&picture.source);
                let sides: Vec<String> = levels.sides.iter().map(u32::to_string).collect();
                // the long side of the whole picture: corners that are pulled change nothing of how sharp it has to be
                let long = picture
                    .source
                    .long_side()
                    .map_or_else(|| picture.frame.width().max(picture.frame.height()), f64::from);
                element
                    .with("data-levels", levels.address)
                    .with("data-sides", sides.join(" "))
                    .with("data-long", number(long * scale))
            }
        };
        self.markup.empty(element);
    }

    /// A fragment within another one: written once, and referred to after that. It is not handled by itself.
    fn reuse(&mut self, scope: Scope<'_>, reuse: &Reuse) {
        if reuse.fragment.is_empty() {
            return;
        }
        let mut element = role(Element::new("g"), scope, reuse.role);
        if reuse.transform != Affine::IDENTITY {
            element = element.with("transform", matrix(reuse.transform));
        }
        let group = self.markup.open(element);
        let key = Arc::as_ptr(&reuse.fragment);
        if let Some(id) = self.written.get(&key) {
            let address = format!("#{id}");
            self.markup.empty(Element::new("use").with("xlink:href", address));
        } else {
            let name = self.fresh(scope, "part");
            let inner = self.markup.open(Element::new("g").with("id", &name));
            let within = scope.within(reuse.transform);
            self.contents(Scope { fragment: &reuse.fragment, name: &name, live: false, ..within });
            self.markup.close(inner);
            self.written.insert(key, name);
        }
        self.markup.close(group);
    }

    /// An identifier that nothing else has.
    pub fn fresh(&mut self, scope: Scope<'_>, kind: &str) -> String {
        self.count += 1;
        scope.id(kind, self.count)
    }
}

/// Says what a node is for, where it is handled.
pub(super) fn role(element: Element, scope: Scope<'_>, role: Role) -> Element {
    if !scope.live {
        return element;
    }
    let element = match role.moves {
        Moves::WithPiece => element,
        Moves::WithOpening => element.with("data-moves", "opening"),
        Moves::WithFill(fill) => element.with("data-moves", "fill").with("data-of", fill.0.to_string()),
        Moves::WithBoth(fill) => element.with("data-moves", "opening fill").with("data-of", fill.0.to_string()),
    };
    match role.shows {
        Shows::Part => element,
        Shows::Fill(fill) => element.with("data-fill", fill.to_string()),
        Shows::Member(member) => element.with("data-member", member.to_string()),
        Shows::Pane(pane) => element.with("data-pane", pane.to_string()),
        Shows::Breakout(fill) => element.with("data-breakout", fill.to_string()),
    }
}

pub(super) fn framed(element: Element, frame: kurbo::Rect) -> Element {
    let [x, y, width, height] = [frame.x0, frame.y0, frame.width(), frame.height()].map(number);
    element.with("x", x).with("y", y).with("width", width).with("height", height)
}

pub(super) fn stroked(element: Element, paint: &str, line: &Line) -> Element {
    let element = element.with("stroke", paint).with("stroke-width", number(line.width.mm()));
    let dashes: Vec<String> = line.dashes.iter().map(|d| number(d.mm())).collect();
    let dashes = (!dashes.is_empty()).then(|| dashes.join(" "));
    let element = element.with_some("stroke-dasharray", dashes);
    if line.round { element.with("stroke-linejoin", "round").with("stroke-linecap", "round") } else { element }
}
