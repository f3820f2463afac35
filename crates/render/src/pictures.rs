//! The pictures that a scene is drawn from: which it needs and how large, and those pictures brought to their sizes, once and side by side.

use crate::RenderError;
use image::RgbaImage;
use inky_core::cutout::Subject;
use inky_core::photo::{in_perspective, resize};
use inky_core::scene::tree::{Fragment, Node, Picture, Source, ToneCurve};
use inky_core::scene::{PAPER_SIDE_MM, Scene, paper_picture};
use inky_core::sheet::{PhotoId, SubjectId};
use inky_core::unpack::Unpacked;
use kurbo::Affine;
use rayon::prelude::*;
use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::{Arc, OnceLock};
use vello_cpu::peniko::ImageAlphaType;
use vello_cpu::{PixelMetadata, Pixmap};

/// Pictures in memory: upright photos in sRGB, and subjects with their cleaned colours. They may be smaller than the photos are, as far as
/// they are large enough for what is drawn from them.
#[derive(Default, Clone)]
pub struct Originals {
    pub photos: BTreeMap<PhotoId, Arc<RgbaImage>>,
    pub cutouts: BTreeMap<SubjectId, Arc<RgbaImage>>,
}

impl From<Unpacked> for Originals {
    fn from(unpacked: Unpacked) -> Self {
        let cutout = |subject: Arc<Subject>| match Arc::try_unwrap(subject) {
            Ok(own) => own.cutout,
            Err(shared) => shared.cutout.clone(),
        };
        Self {
            photos: unpacked.photos.into_iter().map(|(id, p)| (id, p.picture)).collect(),
            cutouts: unpacked.subjects.into_iter().map(|(id, s)| (id, Arc::new(cutout(s)))).collect(),
        }
    }
}

/// How many pixels the long side of each photo and of each cut-out needs, by their identifiers.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Needed {
    pub photos: BTreeMap<PhotoId, f64>,
    pub cutouts: BTreeMap<SubjectId, f64>,
}

impl Needed {
    /// What a scene needs to be drawn with `density` pixels for a millimetre: only what is seen of it.
    pub fn of(scene: &Scene, density: f64) -> Self {
        let mut needed = Self::default();
        for use_ in uses(scene) {
            let long = f64::from(use_.picture.source.long_side().unwrap_or(0)) * use_.scale * density;
            match &use_.picture.source {
                Source::Photo(photo) => grow(needed.photos.entry(photo.id.clone()).or_default(), long),
                Source::Cutout(cutout) => grow(needed.cutouts.entry(cutout.id.clone()).or_default(), long),
                Source::Paper { .. } | Source::Computed(_) => {}
            }
        }
        needed
    }
}

fn grow(known: &mut f64, long: f64) {
    *known = known.max(long);
}

/// A picture of the scene, where it is drawn.
pub(crate) struct Use<'a> {
    pub picture: &'a Picture,
    pub tone: Option<&'a ToneCurve>,
    /// Millimetres of the sheet for one unit of the picture's space.
    pub scale: f64,
}

/// Every picture of a scene, where it is drawn.
pub(crate) fn uses(scene: &Scene) -> Vec<Use<'_>> {
    gathered(scene, true)
}

/// The pictures of a scene that are within what only pixels can show: what throws shadows, and cells of patterns with such things in them.
pub(crate) fn island_uses(scene: &Scene) -> Vec<Use<'_>> {
    gathered(scene, false)
}

/// Whether nodes of a fragment hold something that only pixels can show.
pub(crate) fn has_islands(nodes: &[Node]) -> bool {
    nodes.iter().any(|node| match node {
        Node::Group(group) => group.effect.is_some() || group.mask.is_some() || has_islands(&group.nodes),
        Node::Reuse(reuse) => has_islands(&reuse.fragment.nodes),
        Node::Shape(_) | Node::Picture(_) => false,
    })
}

fn gathered(scene: &Scene, all: bool) -> Vec<Use<'_>> {
    let mut gathering = Gathering::default();
    // by layers: a repeated bundle shows its pieces in other sizes than their own
    let fragments = [&scene.backdrop, &scene.border].into_iter().chain(scene.layers.iter().map(|l| &*l.fragment));
    for fragment in fragments {
        gathering.fragment(fragment, 1.0, all);
    }
    gathering.found
}

#[derive(Default)]
struct Gathering<'a> {
    found: Vec<Use<'a>>,
    /// Fragments that were looked through already, the scales at which they were, and whether all of their pictures were taken.
    known: HashSet<(*const Fragment, u64, bool)>,
}

impl<'a> Gathering<'a> {
    /// With `all`, every picture is taken; else those within islands.
    fn fragment(&mut self, fragment: &'a Fragment, scale: f64, all: bool) {
        for pattern in &fragment.definitions.patterns {
            let all = all || has_islands(&pattern.nodes);
            self.nodes(fragment, &pattern.nodes, scale * mean_scale(pattern.transform), all);
        }
        self.nodes(fragment, &fragment.nodes, scale, all);
    }

    fn nodes(&mut self, fragment: &'a Fragment, nodes: &'a [Node], scale: f64, all: bool) {
        for node in nodes {
            match node {
                Node::Group(group) => {
                    let all = all || group.effect.is_some();
                    self.nodes(fragment, &group.nodes, scale * mean_scale(group.transform), all);
                }
                Node::Picture(picture) if all => self.found.push(Use {
                    picture,
                    tone: picture.tone.map(|id| fragment.definitions.tone(id)),
                    scale: scale * mean_scale(picture.transform),
                }),
                Node::Reuse(reuse) => {
                    let scale = scale * mean_scale(reuse.transform);
                    if self.known.insert((Arc::as_ptr(&reuse.fragment), scale.to_bits(), all)) {
                        self.fragment(&reuse.fragment, scale, all);
                    }
                }
                Node::Picture(_) | Node::Shape(_) => {}
            }
        }
    }
}

/// How much longer lengths become, on the whole.
pub(crate) fn mean_scale(transform: Affine) -> f64 {
    transform.determinant().abs().sqrt()
}

/// What a picture is called once it has its size: where it comes from, pulled corners, tone, and pixels of its long side.
type Name = String;

fn name(source: &Source, tone: Option<&ToneCurve>, long: f64) -> Name {
    format!("{} {tone:?} {}", source_name(source), long.ceil())
}

/// What a source is called while it lives.
pub(crate) fn source_name(source: &Source) -> String {
    match source {
        Source::Photo(p) => format!("photo {} {:?}", p.id, p.pull),
        Source::Cutout(c) => format!("cutout {} {:?}", c.id, c.pull),
        Source::Paper { grain } => format!("paper {grain}"),
        Source::Computed(computed) => format!("computed {:p}", Arc::as_ptr(&computed.0)),
    }
}

/// How many pixels the long side of a picture needs: of the whole photo, corners unpulled.
pub(crate) fn long_side(source: &Source, scale: f64, density: f64) -> f64 {
    source.long_side().map_or(PAPER_SIDE_MM, f64::from) * scale * density
}

/// The pictures of a scene at the sizes in which they are drawn.
pub(crate) struct Pictures {
    made: HashMap<Name, Arc<Levels>>,
    density: f64,
}

/// A picture and its halves, which are made when they are asked for.
pub(crate) struct Levels {
    levels: [OnceLock<Arc<Pixmap>>; 12],
}

impl Levels {
    fn new(picture: RgbaImage, opaque: bool) -> Self {
        let levels: [OnceLock<Arc<Pixmap>>; 12] = Default::default();
        let _ = levels[0].set(Arc::new(pixmap(picture, opaque)));
        Self { levels }
    }

    /// The picture halved so many times.
    pub fn halved(&self, times: usize) -> Arc<Pixmap> {
        let times = times.min(self.levels.len() - 1);
        Arc::clone(self.levels[times].get_or_init(|| {
            let finer = self.halved(times - 1);
            if finer.width() < 2 && finer.height() < 2 { finer } else { Arc::new(half(&finer)) }
        }))
    }
}

fn pixmap(picture: RgbaImage, opaque: bool) -> Pixmap {
    let (width, height) = picture.dimensions();
    let facts = PixelMetadata::new(ImageAlphaType::Alpha, !opaque);
    Pixmap::from_parts(picture.into_raw(), width as u16, height as u16, facts)
}

/// The mean of two by two pixels.
fn half(from: &Pixmap) -> Pixmap {
    let (w, h) = (from.width(), from.height());
    let (width, height) = (w.div_ceil(2), h.div_ceil(2));
    let mut data = Vec::with_capacity(usize::from(width) * usize::from(height) * 4);
    for y in 0..height {
        for x in 0..width {
            let (x0, y0) = (2 * x, 2 * y);
            let (x1, y1) = ((x0 + 1).min(w - 1), (y0 + 1).min(h - 1));
            let four = [(x0, y0), (x1, y0), (x0, y1), (x1, y1)].map(|(x, y)| from.sample(x, y));
            let mean = |channel: fn(&vello_cpu::peniko::color::PremulRgba8) -> u8| {
                (four.iter().map(|p| u16::from(channel(p))).sum::<u16>() + 2) >> 2
            };
            data.extend([mean(|p| p.r), mean(|p| p.g), mean(|p| p.b), mean(|p| p.a)].map(|v| v as u8));
        }
    }
    let facts = PixelMetadata::new(ImageAlphaType::AlphaPremultiplied, from.may_have_transparency());
    Pixmap::from_parts(data, width, height, facts)
}

impl Pictures {
    /// Brings every picture of a scene to its size, for `density` pixels a millimetre.
    ///
    /// # Errors
    /// A picture that is not among the originals.
    pub fn prepare(scene: &Scene, originals: Originals, density: f64) -> Result<Self, RenderError> {
        Self::of(uses(scene), originals, density)
    }

    /// The same for some of the pictures of a scene.
    ///
    /// # Errors
    /// A picture that is not among the originals.
    pub fn of(uses: Vec<Use<'_>>, mut originals: Originals, density: f64) -> Result<Self, RenderError> {
        let mut wanted: BTreeMap<Name, Use<'_>> = BTreeMap::new();
        for use_ in uses {
            let long = long_side(&use_.picture.source, use_.scale, density);
            wanted.entry(name(&use_.picture.source, use_.tone, long)).or_insert(use_);
        }
        // what is wanted as it is gives its memory away: it is made last
        let as_it_is = |use_: &Use<'_>| {
            let full = use_.picture.source.long_side().map_or(0.0, f64::from);
            use_.picture.source.pull().is_none() && long_side(&use_.picture.source, use_.scale, density) >= full
        };
        let (last, first): (Vec<_>, Vec<_>) = wanted.into_iter().partition(|(_, use_)| as_it_is(use_));
        let made = first.into_par_iter().map(|(name, use_)| {
            let long = long_side(&use_.picture.source, use_.scale, density);
            Ok((name, Arc::new(made(sized(&use_.picture.source, long, &originals)?, use_.tone))))
        });
        let mut made: HashMap<Name, Arc<Levels>> = made.collect::<Result<_, RenderError>>()?;
        let mut left = last.len();
        for (k, (name, use_)) in last.iter().enumerate() {
            left -= 1;
            let again = last[k + 1..].iter().take(left).any(|(_, other)| other.picture.source == use_.picture.source);
            let picture = if again { None } else { taken(&mut originals, &use_.picture.source) };
            let picture = match picture {
                Some(picture) => picture,
                None => sized(&use_.picture.source, f64::INFINITY, &originals)?,
            };
            made.insert(name.clone(), Arc::new(self::made(picture, use_.tone)));
        }
        Ok(Self { made, density })
    }

    /// A picture that is drawn at a scale, millimetres of the sheet for one unit of its space.
    pub fn get(&self, source: &Source, tone: Option<&ToneCurve>, scale: f64) -> Option<&Arc<Levels>> {
        self.made.get(&name(source, tone, long_side(source, scale, self.density)))
    }
}

/// The sides of a pixel map have 16 bits.
const LONGEST: f64 = 65_535.0;

/// Takes a photo or a cut-out out of the originals.
fn taken(originals: &mut Originals, source: &Source) -> Option<Arc<RgbaImage>> {
    match source {
        Source::Photo(photo) => originals.photos.remove(&photo.id),
        Source::Cutout(cutout) => originals.cutouts.remove(&cutout.id),
        Source::Paper { .. } | Source::Computed(_) => None,
    }
}

fn made(sized: Arc<RgbaImage>, tone: Option<&ToneCurve>) -> Levels {
    let mut picture = Arc::unwrap_or_clone(sized);
    let opaque = picture.as_raw().par_chunks(1 << 16).all(|part| part.chunks_exact(4).all(|p| p[3] == 255));
    if let Some(tone) = tone {
        toned(&mut picture, tone);
    }
    Levels::new(picture, opaque)
}

/// A picture no larger than it is drawn.
pub(crate) fn sized(source: &Source, long: f64, originals: &Originals) -> Result<Arc<RgbaImage>, RenderError> {
    let (original, pull) = match source {
        Source::Photo(photo) => (originals.photos.get(&photo.id), &photo.pull),
        Source::Cutout(cutout) => (originals.cutouts.get(&cutout.id), &cutout.pull),
        Source::Paper { grain } => return Ok(Arc::new(paper_picture(*grain, long.round() as u32))),
        Source::Computed(computed) => return Ok(Arc::clone(&computed.0)),
    };
    let original = original.ok_or(RenderError::MissingPicture)?;
    if let Some(pull) = pull {
        return in_perspective(original, pull, long).map(Arc::new).ok_or(RenderError::MissingPicture);
    }
    let full = f64::from(original.width().max(original.height()));
    let factor = (long.clamp(1.0, LONGEST) / full).min(1.0);
    let side = |v: u32| (f64::from(v) * factor).round().max(1.0) as u32;
    let size = (side(original.width()), side(original.height()));
    Ok(if size == original.dimensions() { Arc::clone(original) } else { Arc::new(resize(original, size.0, size.1)) })
}

/// Changes the colours of a picture as a tone says; values between the steps are not rounded.
pub(crate) fn toned(picture: &mut RgbaImage, tone: &ToneCurve) {
    // steps that look at each channel by itself are a table, up to the first that mixes them
    let of = |colour: [f64; 3]| tone.steps.iter().fold(colour, |c, step| step.of(c));
    let alone = tone.steps.iter().all(|s| !matches!(s, inky_core::scene::tree::ToneStep::Mix(_)));
    let tables: [Vec<u8>; 3] = std::array::from_fn(|channel| {
        let at = |v: u8| (of([f64::from(v) / 255.0; 3])[channel] * 255.0).round() as u8;
        (0..=255).map(at).collect()
    });
    picture.par_chunks_mut(1 << 16).for_each(|part| {
        for pixel in part.chunks_exact_mut(4) {
            if alone {
                (0..3).for_each(|c| pixel[c] = tables[c][usize::from(pixel[c])]);
            } else {
                let changed = of([0, 1, 2].map(|c| f64::from(pixel[c]) / 255.0));
                (0..3).for_each(|c| pixel[c] = (changed[c] * 255.0).round() as u8);
            }
        }
    });
}
