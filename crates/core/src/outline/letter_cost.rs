//! What it costs to draw the letters of a font that somebody brings in.
//!
//! The outlines of a font are small programs (Type 2 charstrings, composites of glyphs) that call one another: a file of a kilobyte can draw without
//! end. Whoever sets a word cannot end that on its way, so all letters are drawn once, in a process that can be ended.

use super::font_collection::Face;
use super::font_error::FontError;
use crate::sheet::limits::LETTER_NODES;
use skrifa::instance::{LocationRef, Size};
use skrifa::outline::{DrawSettings, OutlinePen};
use skrifa::raw::TableProvider;
use skrifa::{FontRef, GlyphId, MetadataProvider};
use std::time::{Duration, Instant};

/// How long one letter may take to be drawn. Letters of real fonts take a hundred-thousandth of it.
const LONG: Duration = Duration::from_secs(1);

/// Draws every letter of a face once. A letter that never ends is not left: the process that this runs in has to have an end of its own.
///
/// # Errors
/// A letter of more nodes than one may have, or that takes too long.
pub fn check_letters(face: &Face) -> Result<(), FontError> {
    let unreadable = || FontError::Unreadable(face.name.clone());
    let font = FontRef::new(&face.data).map_err(|_| unreadable())?;
    let count = font.maxp().map_err(|_| unreadable())?.num_glyphs();
    let outlines = font.outline_glyphs();
    for id in 0..u32::from(count) {
        let (mut nodes, begun) = (Nodes(0), Instant::now());
        if let Some(glyph) = outlines.get(GlyphId::new(id)) {
            let settings = DrawSettings::unhinted(Size::unscaled(), LocationRef::default());
            // letters with a mistake in them are said when they are set
            let _ = glyph.draw(settings, &mut nodes);
        }
        if nodes.0 > LETTER_NODES || begun.elapsed() > LONG {
            return Err(FontError::TooCostly(face.name.clone()));
        }
    }
    Ok(())
}

/// Counts the nodes that are drawn, and keeps none of them.
struct Nodes(usize);

impl OutlinePen for Nodes {
    fn move_to(&mut self, _: f32, _: f32) {
        self.0 += 1;
    }

    fn line_to(&mut self, _: f32, _: f32) {
        self.0 += 1;
    }

    fn quad_to(&mut self, _: f32, _: f32, _: f32, _: f32) {
        self.0 += 1;
    }

    fn curve_to(&mut self, _: f32, _: f32, _: f32, _: f32, _: f32, _: f32) {
        self.0 += 1;
    }

    fn close(&mut self) {}
}
