//! The document: a sheet and the pieces on it.
//!
//! These types are what is stored, what edits change and what the sheet file contains. They hold only what a
//! person decided; outlines, cut-outs and pictures are computed from them.

mod basic;
mod breakout;
mod brush;
mod bundle;
mod colour;
mod contour;
mod credit;
mod fill;
mod finish;
mod form;
mod ids;
mod kept;
mod layout_guides;
mod members;
mod paint;
mod photo;
mod placement;
mod pose;
mod repeat;
mod split;
mod tone;
mod units;
mod window;

pub use basic::{BasicShape, Figure, Tip};
pub use breakout::{Anchor, Breakout, BreakoutStroke, ReachLine, SubjectPart};
pub use brush::{Brush, Stroke};
pub use bundle::{Bundle, BundleFinish};
pub use colour::{Colour, ColourError};
pub use contour::{Contour, Node, Subpath};
pub use credit::{Credit, Licence};
pub use fill::{DrawingFill, Fill, FillPaint, FormFill, Motif, PartLook, PhotoFill, TileFill, WindowFill};
pub use finish::{FadeSide, Finish, Gloss, Rim, Shadow, ShadowPlace, Softness};
pub use form::{
    Align, Along, Bend, BendKind, Drawing, Feature, Form, FormShape, Join, LetterShift, Lettering, LineCorner, LineEnd,
    LineSide, OwnLine,
};
pub use ids::{BundleId, DrawingId, FillId, FontId, FormId, InkId, MemberId, PhotoId, PieceId, SheetId, SubjectId};
pub use layout_guides::{Baselines, GuideLine, GuideWay, LayoutGuides, Margins};
pub use members::{Member, Members};
pub use paint::{Blend, Gradient, GradientKind, GradientVector, Ink, Mix, Paint, SpotInk, Stop, Tint};
pub use photo::{FIRST, Photo, PhotoSubject};
pub use placement::{Placement, Similarity};
pub use pose::Pose;
pub use repeat::{Layout, LineLayout, MemberLook, Repeat};
pub use split::{Course, PaneEdges, PaneLook, PanePath, PaneStep, Split, SplitLine};
pub use tone::{Print, Tone};
pub use units::{MM_PER_INCH, Unit};
pub use window::{CellChoice, MemberWord, OpenSide, Opening, Side, Window};

use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// The limits that are promised to people; beyond each of them stands a sentence.
pub mod limits {
    /// Longest side of a sheet in millimetres.
    pub const SIDE_MM: f64 = 5_000.0;
    /// Shortest side of a sheet in millimetres.
    pub const MIN_SIDE_MM: f64 = 1.0;
    /// Pixels of a whole sheet at its resolution.
    pub const SHEET_PIXELS: f64 = 1e9;
    /// Pieces on one sheet.
    pub const PIECES: usize = 500;
    /// Bundles within bundles.
    pub const BUNDLES_DEEP: usize = 8;
    /// Characters of type on one sheet.
    pub const CHARACTERS: usize = 10_000;
    /// Forms in one window, those within lists included.
    pub const FORMS: usize = 200;
    /// Fills of one window.
    pub const FILLS: usize = 50;
    /// Rims of one window.
    pub const RIMS: usize = 20;
    /// Shadows of one window.
    pub const SHADOWS: usize = 20;
    /// Columns of a sheet, and rows.
    pub const COLUMNS: u32 = 50;
    /// Guides of a sheet.
    pub const GUIDES: usize = 200;
    /// Panes of one window.
    pub const PANES: usize = 64;
    /// Lines that split one window.
    pub const SPLIT_LINES: usize = 63;
    /// Points of one of these lines.
    pub const SPLIT_POINTS: usize = 100;
    /// Teeth of one of these lines.
    pub const TEETH: u32 = 100;
    /// Points of a line along which members lie.
    pub const LAYOUT_POINTS: usize = 200;
    /// Members of one repeated window.
    pub const MEMBERS: usize = 500;
    /// Openings of all the members of bundles whose photos run behind their members, on one sheet.
    pub const OPENINGS_BEHIND: usize = 1_000;
    /// Members of one repeated window with words of their own.
    pub const MEMBER_WORDS: usize = 100;
    /// Open sides of one opening.
    pub const OPEN_SIDES: usize = 16;
    /// Parts of subjects that one window lets out or names.
    pub const SUBJECT_PARTS: usize = 500;
    /// Their corners in all.
    pub const SUBJECT_PART_CORNERS: usize = 40_000;
    /// Members of a value that one edit names.
    pub const CHANGES: usize = 2_000;
    /// Subjects of one photo.
    pub const SUBJECTS: usize = 20;
    /// Inks of one sheet.
    pub const INKS: usize = 100;
    /// Findings of the proof that are waved through on a sheet.
    pub const WAVED: usize = 500;
    /// Bytes of a sheet file with everything in it.
    pub const SHEET_FILE_BYTES: usize = 512 << 20;
    /// Parts of a drawing that look other than their file says.
    pub const LOOKS: usize = 500;
    /// Stops of a gradient.
    pub const STOPS: usize = 50;
    /// Lists within lists.
    pub const LISTS_DEEP: usize = 8;
    /// Nodes of one letter of a font.
    pub const LETTER_NODES: usize = 20_000;
    /// Nodes of all contours of one window.
    pub const NODES: usize = 20_000;
    /// Places of one brush stroke.
    pub const STROKE_POINTS: usize = 5_000;
    /// Places of all brush strokes of one window.
    pub const BRUSH_POINTS: usize = 50_000;
    /// Nodes of an imported drawing.
    pub const DRAWING_NODES: usize = 200_000;
    /// Nodes of all outlines that are joined, as many as they come to.
    pub const LIST_NODES: usize = 1_000_000;
    /// Crossings of all outlines that are joined: these take about a second.
    pub const CROSSINGS: f64 = 400_000.0;
    /// Bytes of a drawing file.
    pub const DRAWING_BYTES: usize = 16 << 20;
    /// Bytes of a font file.
    pub const FONT_BYTES: usize = 32 << 20;
    /// Characters in a name.
    pub const NAME: usize = 200;
    /// Pixels of a photo.
    pub const PHOTO_PIXELS: u64 = inky_photo::PIXELS;
    /// Bytes of a photo file.
    pub const PHOTO_BYTES: usize = inky_photo::BYTES;
}

/// A page with its pieces from back to front.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Sheet {
    pub name: String,
    /// Width in millimetres.
    pub width: f64,
    /// Height in millimetres.
    pub height: f64,
    /// The unit in which a person gave the size, and reads it.
    pub unit: Unit,
    /// Pixels per inch of the delivered picture.
    pub ppi: f64,
    pub background: Colour,
    /// What lies on the background's colour.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub backdrop: Option<Paint>,
    /// How far what is printed reaches beyond the cut, in millimetres.
    #[serde(default, skip_serializing_if = "placement::is_zero")]
    pub bleed: f64,
    /// How grainy its paper is, 0 to 1.
    #[serde(default, skip_serializing_if = "placement::is_zero")]
    pub paper: f64,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub border: Option<Border>,
    /// Named colours and gradients, in the order in which they are shown.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub inks: Vec<Ink>,
    /// Whose work the photos and drawings are, by their identifiers.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub credits: BTreeMap<String, Credit>,
    /// Findings of the proof that were waved through, by their keys, and why: what people wrote of it, if anything.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    #[ts(optional, as = "Option<BTreeMap<String, String>>")]
    pub waved: BTreeMap<String, String>,
    /// From back to front.
    pub pieces: Vec<Piece>,
    /// Pieces that are handled as one.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<Bundle>>")]
    pub bundles: Vec<Bundle>,
    /// What helps to lay pieces out and is never printed.
    #[serde(default, skip_serializing_if = "LayoutGuides::is_none")]
    pub guides: LayoutGuides,
    /// Photos in use, by the hash of their file.
    pub photos: BTreeMap<PhotoId, Photo>,
    /// Imported drawings in use, by the hash of their file, with their names.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub drawings: BTreeMap<DrawingId, String>,
    /// Fonts in use that are not part of the application, by the hash of their file, with their names.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub fonts: BTreeMap<FontId, String>,
}

/// A line around a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Border {
    /// Millimetres.
    pub width: f64,
    /// From the edge of the sheet to the line, in millimetres.
    pub inset: f64,
    pub paint: Paint,
}

/// Anything on the sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(from = "kept::Piece")]
pub struct Piece {
    pub id: PieceId,
    /// A name of its own; without one it is called after what it shows.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub name: Option<String>,
    #[serde(default)]
    pub hidden: bool,
    #[serde(default)]
    pub locked: bool,
    /// The bundle that it is in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub bundle: Option<BundleId>,
    pub kind: PieceKind,
}

/// The kinds of pieces.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum PieceKind {
    Window(Window),
}

impl Sheet {
    /// An empty white sheet. Sizes in millimetres.
    pub fn new(name: impl Into<String>, width: f64, height: f64, unit: Unit, ppi: f64) -> Self {
        Self {
            name: name.into(),
            width,
            height,
            unit,
            ppi,
            background: Colour::PAPER,
            backdrop: None,
            bleed: 0.0,
            paper: 0.0,
            border: None,
            inks: Vec::new(),
            credits: BTreeMap::new(),
            waved: BTreeMap::new(),
            pieces: Vec::new(),
            bundles: Vec::new(),
            guides: LayoutGuides::default(),
            photos: BTreeMap::new(),
            drawings: BTreeMap::new(),
            fonts: BTreeMap::new(),
        }
    }

    /// Width and height of the delivered picture in pixels, at `ppi` pixels per inch, with so much bleed.
    pub fn pixel_size(&self, ppi: f64, bleed: f64) -> (u32, u32) {
        let px = |mm: f64| (mm / MM_PER_INCH * ppi).round().max(1.0) as u32;
        (px(self.width + 2.0 * bleed), px(self.height + 2.0 * bleed))
    }

    /// The sheet without its pieces.
    pub fn header(&self) -> Self {
        Self {
            name: self.name.clone(),
            backdrop: self.backdrop.clone(),
            border: self.border.clone(),
            inks: self.inks.clone(),
            credits: self.credits.clone(),
            waved: self.waved.clone(),
            photos: self.photos.clone(),
            drawings: self.drawings.clone(),
            fonts: self.fonts.clone(),
            pieces: Vec::new(),
            bundles: self.bundles.clone(),
            guides: self.guides.clone(),
            ..*self
        }
    }

    /// A piece by its identifier.
    pub fn piece(&self, id: PieceId) -> Option<&Piece> {
        self.pieces.iter().find(|p| p.id == id)
    }

    /// The same, to be changed.
    pub fn piece_mut(&mut self, id: PieceId) -> Option<&mut Piece> {
        self.pieces.iter_mut().find(|p| p.id == id)
    }

    /// An ink by its identifier.
    pub fn ink(&self, id: InkId) -> Option<&Ink> {
        self.inks.iter().find(|i| i.id == id)
    }

    /// The inks that are printed as inks of their own.
    pub fn spot_inks(&self) -> Vec<SpotInk> {
        paint::spot_inks(&self.inks)
    }

    /// The colour of a tint; of a gradient, that of its first stop.
    pub fn colour(&self, tint: &Tint) -> Colour {
        match tint {
            Tint::Colour(colour) => *colour,
            // inks are not mixed from inks, so that none can be mixed from itself
            Tint::Ink(ink) => match self.ink(*ink).map(|i| &i.mix) {
                Some(Mix::Colour { colour }) => *colour,
                Some(Mix::Gradient { gradient }) => match gradient.stops.first().map(|s| s.tint) {
                    Some(Tint::Colour(colour)) => colour,
                    _ => Colour::INK,
                },
                None => Colour::INK,
            },
        }
    }

    /// The one colour of a paint; None for a gradient.
    pub fn solid(&self, paint: &Paint) -> Option<Colour> {
        match paint {
            Paint::Colour { colour } => Some(*colour),
            Paint::Ink { ink, .. } => match &self.ink(*ink)?.mix {
                Mix::Colour { colour } => Some(*colour),
                Mix::Gradient { .. } => None,
            },
            Paint::Gradient { .. } => None,
        }
    }

    /// Whether a window shows another one through its fills, or through those of what it shows.
    pub fn shows(&self, window: PieceId, other: PieceId) -> bool {
        let mut seen = vec![window];
        let mut next = 0;
        while let Some(at) = seen.get(next) {
            let fills = self.piece(*at).and_then(|p| p.window()).map_or(&[][..], |w| &w.fills);
            for shown in fills.iter().filter_map(Fill::window) {
                if shown == other {
                    return true;
                }
                if !seen.contains(&shown) {
                    seen.push(shown);
                }
            }
            next += 1;
        }
        false
    }

    /// Everything that is set in type on it.
    pub fn letterings(&self) -> impl Iterator<Item = &Lettering> {
        self.windows().flat_map(|(_, w)| w.forms()).flat_map(Form::letterings)
    }

    /// The drawings that its forms and fills show.
    pub fn used_drawings(&self) -> impl Iterator<Item = &DrawingId> {
        let forms = self.windows().flat_map(|(_, w)| w.forms()).flat_map(Form::drawings);
        forms.chain(self.windows().flat_map(|(_, w)| &w.fills).flat_map(Fill::drawings))
    }

    /// All windows, from back to front.
    pub fn windows(&self) -> impl Iterator<Item = (&Piece, &Window)> {
        self.pieces.iter().filter_map(|p| p.window().map(|w| (p, w)))
    }
}

impl Piece {
    /// The window, if it is one.
    pub fn window(&self) -> Option<&Window> {
        match &self.kind {
            PieceKind::Window(w) => Some(w),
        }
    }

    /// The same, to be changed.
    pub fn window_mut(&mut self) -> Option<&mut Window> {
        match &mut self.kind {
            PieceKind::Window(w) => Some(w),
        }
    }

    /// The name a person reads: their own, or one after what the piece shows.
    pub fn label(&self, sheet: &Sheet) -> String {
        if let Some(name) = &self.name {
            return name.clone();
        }
        let PieceKind::Window(window) = &self.kind;
        let photo = window.fills.iter().rev().find_map(Fill::photo).and_then(|id| sheet.photos.get(id));
        match photo {
            Some(photo) if window.opening.forms.is_empty() => photo.name.clone(),
            _ => window.label(),
        }
    }
}
