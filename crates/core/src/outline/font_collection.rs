//! The fonts that lettering can be set in.

use super::font_error::FontError;
use crate::sheet::FontId;
use harfrust::font::Font;
use skrifa::raw::TableProvider;
use skrifa::{FontRef, MetadataProvider, instance::LocationRef, instance::Size};
use std::collections::BTreeMap;
use std::sync::Arc;

/// All fonts at hand, by their short names.
#[derive(Clone, Default)]
pub struct FontCollection {
    faces: BTreeMap<FontId, Arc<Face>>,
}

/// One font, ready for shaping and drawing.
pub struct Face {
    pub id: FontId,
    /// The name people read.
    pub name: String,
    /// The font file (TTF or OTF).
    pub data: Arc<[u8]>,
    /// Font units in the em square.
    pub units_per_em: f64,
    /// Height of flat capitals above the baseline, as a share of the em.
    pub cap_height: f64,
    /// Brought in by a person, not part of the application.
    pub own: bool,
    pub(super) shaping: Font,
}

impl Face {
    /// Reads a TTF or OTF file.
    ///
    /// # Errors
    /// A file that is no font.
    pub fn new(id: FontId, name: impl Into<String>, data: impl Into<Arc<[u8]>>) -> Result<Self, FontError> {
        let (name, data) = (name.into(), data.into());
        let unreadable = || FontError::Unreadable(name.clone());
        let metrics = {
            let font = FontRef::new(&data).map_err(|_| unreadable())?;
            font.metrics(Size::unscaled(), LocationRef::default())
        };
        if metrics.units_per_em == 0 {
            return Err(unreadable());
        }
        let shaping = Font::new(data.to_vec(), 0).ok_or_else(unreadable)?;
        let units_per_em = f64::from(metrics.units_per_em);
        let cap_height = metrics.cap_height.map_or(0.7, |c| f64::from(c) / units_per_em);
        Ok(Self { id, name, data, units_per_em, cap_height, own: false, shaping })
    }

    /// Whether it may be embedded in a document: its maker may forbid that (bit 1 of `fsType` in the OS/2 table, OpenType 1.9).
    pub fn may_be_embedded(&self) -> bool {
        let os2 = FontRef::new(&self.data).ok().and_then(|font| font.os2().ok());
        os2.is_none_or(|table| table.fs_type() & 0x000f != 0x0002)
    }

    /// The OpenType features that the font offers, by their tags, each once.
    pub fn features(&self) -> Vec<String> {
        let Ok(font) = FontRef::new(&self.data) else { return Vec::new() };
        let tags = |list: Result<skrifa::raw::tables::layout::FeatureList<'_>, skrifa::raw::ReadError>| {
            let records = list.map(|l| l.feature_records().iter().map(|r| r.feature_tag().to_string()).collect());
            records.unwrap_or_else(|_| Vec::<String>::new())
        };
        let mut all = font.gsub().map(|t| tags(t.feature_list())).unwrap_or_default();
        all.extend(font.gpos().map(|t| tags(t.feature_list())).unwrap_or_default());
        all.sort();
        all.dedup();
        all
    }
}

impl FontCollection {
    /// Adds a font, in place of one with the same name.
    pub fn add(&mut self, face: impl Into<Arc<Face>>) {
        let face = face.into();
        self.faces.insert(face.id.clone(), face);
    }

    /// A font by its short name or hash.
    pub fn get(&self, id: &FontId) -> Option<&Arc<Face>> {
        self.faces.get(id)
    }

    /// Every font, in the order of the short names.
    pub fn faces(&self) -> impl Iterator<Item = &Arc<Face>> {
        self.faces.values()
    }
}
