//! The sheet file: a sheet with its photos, as JSON.
//!
//! Described for other programs in `docs/sheet-file.md`.

use crate::check::{Refusal, check_sheet};
use crate::cutout::Hints;
use crate::sheet::{DrawingId, FillPaint, FontId, Form, FormShape, Motif, PhotoId, Piece, Sheet, SubjectId};
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Value of `format` in every sheet file.
pub const FORMAT: &str = "inky-window-sheet";
/// The version that is written; older ones are read.
pub const VERSION: u32 = 1;

/// A sheet with what it needs to be drawn. Photo and subject identifiers are those of this file: any text will do.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct SheetFile {
    pub format: String,
    pub version: u32,
    pub sheet: Sheet,
    #[serde(default)]
    pub photos: BTreeMap<PhotoId, Content>,
    #[serde(default)]
    pub subjects: BTreeMap<SubjectId, SubjectSource>,
    /// Imported drawings, as SVG files.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub drawings: BTreeMap<DrawingId, Content>,
    /// Fonts that are not part of the application, as TTF, OTF or WOFF2 files.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub fonts: BTreeMap<FontId, Content>,
}

/// Bytes of a picture.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub enum Content {
    /// A file in the folder of the sheet file or below it.
    File(String),
    /// Base64 (RFC 4648) of the file.
    Data(String),
}

/// Where a subject comes from.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub enum SubjectSource {
    /// It is to be found in its photo, by itself or as the hints say.
    Find(Hints),
    /// Its matte (grey, as large as the photo) and its cut-out (with alpha).
    Ready { matte: Content, cutout: Content },
}

/// Why a sheet file is not taken.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum SheetFileError {
    #[error("This is no sheet file: {0}.")]
    Unreadable(String),
    #[error("This sheet file is of version {0}; up to version {VERSION} can be read.")]
    TooNew(u32),
    #[error("The pictures in this sheet file have more than two gigapixels in all, mattes and cut-outs included.")]
    TooManyPixels,
    #[error(transparent)]
    Wrong(#[from] Refusal),
    #[error("The sheet file does not hold the photo “{0}”.")]
    NoPhoto(PhotoId),
    #[error("The sheet file does not hold the subject “{0}”.")]
    NoSubject(SubjectId),
    #[error("The sheet file does not hold the drawing “{0}”.")]
    NoDrawing(DrawingId),
    #[error("The sheet file does not hold the font “{0}”.")]
    NoFont(String),
    #[error("“{0}” cannot be read: {1}.")]
    Beside(String, String),
    #[error("“{0}” does not lie in the folder of the sheet file.")]
    Outside(String),
}

impl SheetFile {
    /// A file around a sheet, without pictures yet.
    pub fn new(sheet: Sheet) -> Self {
        Self {
            format: FORMAT.into(),
            version: VERSION,
            sheet,
            photos: BTreeMap::new(),
            subjects: BTreeMap::new(),
            drawings: BTreeMap::new(),
            fonts: BTreeMap::new(),
        }
    }

    /// Reads and checks a file.
    ///
    /// # Errors
    /// What is wrong with it; the sheet keeps to every limit otherwise and refers only to photos and subjects of the file.
    pub fn read(json: &[u8]) -> Result<Self, SheetFileError> {
        let file: Self = serde_json::from_slice(json).map_err(|e| SheetFileError::Unreadable(e.to_string()))?;
        if file.format != FORMAT {
            return Err(SheetFileError::Unreadable(format!("its format is “{}”", file.format)));
        }
        if file.version > VERSION {
            return Err(SheetFileError::TooNew(file.version));
        }
        check_sheet(&file.sheet)?;
        for (id, photo) in &file.sheet.photos {
            if !file.photos.contains_key(id) {
                return Err(SheetFileError::NoPhoto(id.clone()));
            }
            if let Some(missing) = photo.subjects.iter().find(|s| !file.subjects.contains_key(&s.matte)) {
                return Err(SheetFileError::NoSubject(missing.matte.clone()));
            }
        }
        if let Some(id) = file.sheet.drawings.keys().find(|id| !file.drawings.contains_key(id)) {
            return Err(SheetFileError::NoDrawing(id.clone()));
        }
        if let Some((_, name)) = file.sheet.fonts.iter().find(|(id, _)| !file.fonts.contains_key(*id)) {
            return Err(SheetFileError::NoFont(name.clone()));
        }
        for name in file.files() {
            let path = std::path::Path::new(name);
            if name.is_empty() || path.components().any(|c| !matches!(c, std::path::Component::Normal(_))) {
                return Err(SheetFileError::Outside(name.into()));
            }
        }
        Ok(file)
    }

    /// The same with everything in it: what lies `beside` it is read.
    ///
    /// # Errors
    /// What cannot be read beside it.
    pub fn gathered(mut self, beside: &dyn Fn(&str) -> Result<Vec<u8>, String>) -> Result<Self, SheetFileError> {
        let subjects = self.subjects.values_mut().flat_map(|s| match s {
            SubjectSource::Find(_) => vec![],
            SubjectSource::Ready { matte, cutout } => vec![matte, cutout],
        });
        let vectors = self.drawings.values_mut().chain(self.fonts.values_mut());
        for content in self.photos.values_mut().chain(subjects).chain(vectors) {
            if let Content::File(name) = content {
                let bytes = beside(name).map_err(|e| SheetFileError::Beside(name.clone(), e))?;
                *content = Content::Data(STANDARD.encode(bytes));
            }
        }
        Ok(self)
    }

    /// The files beside it that it names.
    fn files(&self) -> impl Iterator<Item = &str> {
        let subjects = self.subjects.values().flat_map(|s| match s {
            SubjectSource::Find(_) => vec![],
            SubjectSource::Ready { matte, cutout } => vec![matte, cutout],
        });
        let vectors = self.drawings.values().chain(self.fonts.values());
        self.photos.values().chain(subjects).chain(vectors).filter_map(|c| match c {
            Content::File(name) => Some(name.as_str()),
            Content::Data(_) => None,
        })
    }
}

impl Sheet {
    /// Lets every form that shows the drawing `old` show `new` instead.
    pub fn rename_drawing(&mut self, old: &DrawingId, new: &DrawingId) {
        self.rename_credit(&old.0, &new.0);
        self.every_form(&mut |form| {
            if let FormShape::Drawing(d) = &mut form.shape
                && d.drawing == *old
            {
                d.drawing = new.clone();
            }
        });
        for window in self.pieces.iter_mut().filter_map(Piece::window_mut) {
            for fill in &mut window.fills {
                match &mut fill.paint {
                    FillPaint::Drawing(d) if d.drawing == *old => d.drawing = new.clone(),
                    FillPaint::Tile(t) if t.motif == Motif::Drawing(old.clone()) => {
                        t.motif = Motif::Drawing(new.clone());
                    }
                    _ => {}
                }
            }
        }
    }

    fn rename_credit(&mut self, old: &str, new: &str) {
        if let Some(credit) = self.credits.remove(old) {
            self.credits.insert(new.to_owned(), credit);
        }
    }

    /// Sets all lettering of the font `old` in `new` instead.
    pub fn rename_font(&mut self, old: &FontId, new: &FontId) {
        self.every_form(&mut |form| {
            if let FormShape::Lettering(l) = &mut form.shape
                && l.font == *old
            {
                l.font = new.clone();
            }
        });
    }

    fn every_form(&mut self, act: &mut dyn FnMut(&mut Form)) {
        fn each(forms: &mut [Form], act: &mut dyn FnMut(&mut Form)) {
            for form in forms {
                act(form);
                if let FormShape::List { forms } = &mut form.shape {
                    each(forms, act);
                }
            }
        }
        for window in self.pieces.iter_mut().filter_map(Piece::window_mut) {
            each(&mut window.opening.forms, act);
            for fill in &mut window.fills {
                if let FillPaint::Form(form) = &mut fill.paint {
                    each(std::slice::from_mut(&mut form.form), act);
                }
            }
        }
    }

    /// Lets every piece that shows the photo `old` show `new` instead.
    pub fn rename_photo(&mut self, old: &PhotoId, new: &PhotoId) {
        self.rename_credit(&old.0, &new.0);
        for piece in &mut self.pieces {
            for fill in piece.window_mut().into_iter().flat_map(|w| &mut w.fills) {
                match &mut fill.paint {
                    FillPaint::Photo(p) if p.photo == *old => p.photo = new.clone(),
                    FillPaint::Tile(t) if t.motif.photo() == Some(old) => t.motif = Motif::Photo(new.clone()),
                    _ => {}
                }
            }
        }
    }
}
