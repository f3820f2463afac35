//! Text to outlines: OpenType shaping, then one path of all glyphs.

use super::{Face, FontCollection};
use crate::sheet::{Align, Feature, FontId, LetterShift, Lettering};
use harfrust::{Buffer, ShapeOptions, ShaperFont, Tag};
use kurbo::{Affine, BezPath, Point, Shape, Vec2};
use skrifa::outline::{DrawSettings, OutlinePen};
use skrifa::{FontRef, GlyphId, MetadataProvider, instance::LocationRef, instance::Size};

/// Why a text cannot be set.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum LetteringError {
    #[error("There is no font called “{0}” here. Choose another one.")]
    NoFont(FontId),
    #[error("{font} has no letter for {missing}. Choose another font, or leave it out.")]
    NoGlyphs { font: String, missing: String },
    #[error("This text cannot be set in {0}.")]
    Unshapeable(String),
}

/// The outlines of a text, unjoined, in the form's own space: millimetres, y downwards, the first baseline at
/// y = 0 and its anchor (left end, middle or right end, after the alignment) at x = 0.
///
/// Letters are placed by the font's own shaping rules (kerning, ligatures, marks); tracking is added between
/// clusters. Contours keep the winding of the font, so the nonzero rule fills them.
///
/// # Errors
/// A font that is not there, or text that it cannot set.
pub fn lettering_path(lettering: &Lettering, fonts: &FontCollection) -> Result<BezPath, LetteringError> {
    let face = fonts.get(&lettering.font).ok_or_else(|| LetteringError::NoFont(lettering.font.clone()))?;
    let mut path = BezPath::new();
    let scale = lettering.size / face.units_per_em;
    for (i, line) in set_lines(lettering, face)?.into_iter().enumerate() {
        let shift = line.start(lettering.align);
        let down = i as f64 * lettering.leading * face.units_per_em;
        let place = Affine::new([scale, 0.0, 0.0, -scale, shift * scale, down * scale]);
        line.glyphs.into_iter().for_each(|g| path.extend(place * g.path));
    }
    Ok(path)
}

/// A line of type in font units, y upwards, its first letter starting at x = 0.
pub(super) struct Line {
    pub glyphs: Vec<Glyph>,
    pub width: f64,
}

/// A letter where it stands in its line.
pub(super) struct Glyph {
    pub path: BezPath,
    /// Where its advance begins.
    pub x: f64,
    pub advance: f64,
}

impl Line {
    /// Where the line begins, seen from its anchor.
    pub fn start(&self, align: Align) -> f64 {
        match align {
            Align::Left => 0.0,
            Align::Centre => -self.width / 2.0,
            Align::Right => -self.width,
        }
    }
}

/// Shapes every line of a text.
pub(super) fn set_lines(lettering: &Lettering, face: &Face) -> Result<Vec<Line>, LetteringError> {
    require_glyphs(face, &lettering.text)?;
    let features = features(&lettering.features);
    let mut first = 0;
    let mut lines = Vec::new();
    for line in lettering.text.split('\n') {
        let shifts = shifts(&lettering.letters, line, first);
        first += line.chars().count() + 1;
        lines.push(set_line(face, line, lettering.tracking, &features, &shifts)?);
    }
    Ok(lines)
}

fn require_glyphs(face: &Face, text: &str) -> Result<(), LetteringError> {
    let font = font_ref(face)?;
    let charmap = font.charmap();
    let mut missing: Vec<char> = Vec::new();
    for c in text.chars().filter(|c| !c.is_whitespace() && !c.is_control() && !is_joiner(*c)) {
        if charmap.map(c).is_none() && !missing.contains(&c) {
            missing.push(c);
        }
    }
    if missing.is_empty() {
        return Ok(());
    }
    let mut list: Vec<String> = missing.iter().take(6).map(|c| format!("“{c}”")).collect();
    if missing.len() > list.len() {
        list.push(format!("{} more", missing.len() - list.len()));
    }
    Err(LetteringError::NoGlyphs { font: face.name.clone(), missing: list.join(", ") })
}

/// Zero-width (non-)joiners, direction marks and variation selectors shape text without a glyph of their own.
fn is_joiner(c: char) -> bool {
    matches!(c, '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}' | '\u{fe00}'..='\u{fe0f}')
}

/// Features whose tags are well-formed.
fn features(list: &[Feature]) -> Vec<harfrust::Feature> {
    let tag = |f: &Feature| Tag::new_checked(f.tag.as_bytes()).ok().map(|t| (t, u32::from(f.on)));
    list.iter().filter_map(tag).map(|(tag, value)| harfrust::Feature::new(tag, value, ..)).collect()
}

/// The shifts of one line by the byte at which their letter starts; `first` is the place of the line's first character.
fn shifts(letters: &[LetterShift], line: &str, first: usize) -> Vec<(u32, LetterShift)> {
    let byte = |at: usize| line.char_indices().nth(at.checked_sub(first)?).map(|(b, _)| b as u32);
    letters.iter().filter_map(|l| Some((byte(l.at)?, *l))).collect()
}

/// The letter of a shift, turned and scaled about its middle and moved; font units, y upwards.
fn shifted(letter: &BezPath, shift: &LetterShift, units_per_em: f64) -> BezPath {
    if letter.is_empty() {
        return letter.clone();
    }
    let c = letter.bounding_box().center().to_vec2();
    let away = Vec2::new(shift.dx, -shift.dy) * (units_per_em / 1000.0);
    let turn = Affine::rotate(-shift.turn.to_radians());
    Affine::translate(c + away) * turn * Affine::scale(shift.scale) * Affine::translate(-c) * letter
}

fn set_line(
    face: &Face,
    line: &str,
    tracking: f64,
    features: &[harfrust::Feature],
    shifts: &[(u32, LetterShift)],
) -> Result<Line, LetteringError> {
    let unshapeable = || LetteringError::Unshapeable(face.name.clone());
    let mut pen = Pen::default();
    if line.trim().is_empty() {
        return Ok(Line { glyphs: Vec::new(), width: 0.0 });
    }
    let mut buffer = Buffer::new();
    buffer.push_str(line);
    buffer.guess_segment_properties();
    harfrust::shape(&ShaperFont::new(&face.shaping), &mut buffer, ShapeOptions::new().features(features))
        .map_err(|_| unshapeable())?;

    let font = font_ref(face)?;
    let outlines = font.outline_glyphs();
    let gap = tracking / 1000.0 * face.units_per_em;
    let (mut x, mut y) = (0.0, 0.0);
    let mut cluster = None;
    let mut glyphs = Vec::new();
    for (info, pos) in buffer.glyph_infos().iter().zip(buffer.glyph_positions()) {
        if cluster.is_some_and(|c| c != info.cluster) {
            x += gap;
        }
        cluster = Some(info.cluster);
        pen.origin = Point::new(x + f64::from(pos.x_offset), y + f64::from(pos.y_offset));
        pen.path = BezPath::new();
        if let Some(glyph) = outlines.get(GlyphId::new(info.glyph_id)) {
            glyph
                .draw(DrawSettings::unhinted(Size::unscaled(), LocationRef::default()), &mut pen)
                .map_err(|_| unshapeable())?;
        }
        let path = match shifts.iter().find(|(byte, _)| *byte == info.cluster) {
            Some((_, shift)) => shifted(&pen.path, shift, face.units_per_em),
            None => std::mem::take(&mut pen.path),
        };
        let advance = f64::from(pos.x_advance);
        glyphs.push(Glyph { path, x, advance });
        x += advance;
        y += f64::from(pos.y_advance);
    }
    Ok(Line { glyphs, width: x })
}

fn font_ref(face: &Face) -> Result<FontRef<'_>, LetteringError> {
    FontRef::new(&face.data).map_err(|_| LetteringError::Unshapeable(face.name.clone()))
}

/// Collects glyph outlines at an origin, in font units.
#[derive(Default)]
struct Pen {
    path: BezPath,
    origin: Point,
}

impl Pen {
    fn at(&self, x: f32, y: f32) -> Point {
        Point::new(self.origin.x + f64::from(x), self.origin.y + f64::from(y))
    }
}

impl OutlinePen for Pen {
    fn move_to(&mut self, x: f32, y: f32) {
        self.path.move_to(self.at(x, y));
    }

    fn line_to(&mut self, x: f32, y: f32) {
        self.path.line_to(self.at(x, y));
    }

    fn quad_to(&mut self, cx: f32, cy: f32, x: f32, y: f32) {
        self.path.quad_to(self.at(cx, cy), self.at(x, y));
    }

    fn curve_to(&mut self, ax: f32, ay: f32, bx: f32, by: f32, x: f32, y: f32) {
        self.path.curve_to(self.at(ax, ay), self.at(bx, by), self.at(x, y));
    }

    fn close(&mut self) {
        self.path.close_path();
    }
}
