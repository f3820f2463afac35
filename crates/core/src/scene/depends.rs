//! What the scene of a piece depends on, as data.

use crate::breakout::sharers;
use crate::memo::{Key, KeyBuilder};
use crate::piece_tree::Layer;
use crate::sheet::{
    BundleId, DrawingId, FillPaint, FontId, Form, InkId, Paint, PhotoId, Piece, PieceId, PieceKind, Print, Sheet, Tint,
    Tone, Window,
};
use std::collections::{BTreeSet, HashMap};
use std::sync::Arc;

/// Windows shown in windows, at most.
pub const WINDOWS_DEEP: usize = 16;

/// What a piece refers to.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Needs {
    pub photos: BTreeSet<PhotoId>,
    pub inks: BTreeSet<InkId>,
    pub drawings: BTreeSet<DrawingId>,
    pub fonts: BTreeSet<FontId>,
    /// Windows that it shows.
    pub windows: Vec<PieceId>,
    /// Windows that share a photo with it: what breaks out of it ends at their edges.
    pub sharers: Vec<PieceId>,
    /// The repeated bundle in whose members it looks different: where they lie is a matter of all that is in the bundle.
    pub members_of: Option<BundleId>,
    /// It shows what is around its opening, up to the end of the sheet.
    pub sheet_size: bool,
}

impl Needs {
    /// What a piece refers to: a walk through its forms and fills.
    pub fn of(sheet: &Sheet, piece: &Piece) -> Self {
        let mut needs = Self::default();
        let PieceKind::Window(window) = &piece.kind;
        needs.add_window(sheet, piece.id, window);
        needs.members_of = Self::members_of(sheet, piece);
        needs
    }

    fn members_of(sheet: &Sheet, piece: &Piece) -> Option<BundleId> {
        let has_own = piece.window().is_some_and(|w| !w.own_bundle_members().is_empty());
        let bundle = if has_own { sheet.repeated_around(piece) } else { sheet.repeated_behind(piece) };
        bundle.map(|bundle| bundle.id)
    }

    fn add_window(&mut self, sheet: &Sheet, piece: PieceId, window: &Window) {
        self.sheet_size = window.finish.negative;
        window.opening.forms.iter().for_each(|form| self.add_form(form));
        for fill in &window.fills {
            self.photos.extend(fill.photo().cloned());
            self.drawings.extend(fill.drawings().into_iter().cloned());
            match &fill.paint {
                FillPaint::Photo(photo) => {
                    self.add_tone(&photo.tone);
                    let more = sharers(sheet, piece, window, photo);
                    self.sharers.extend(more);
                }
                FillPaint::Tile(tile) => {
                    self.add_tone(&tile.tone);
                    self.windows.extend(fill.window());
                }
                FillPaint::Drawing(drawing) => {
                    drawing.looks.iter().filter_map(|l| l.paint.as_ref()).for_each(|p| self.add_paint(p));
                }
                FillPaint::Form(form) => {
                    self.add_form(&form.form);
                    self.add_paint(&form.paint);
                }
                FillPaint::Window(shown) => self.windows.push(shown.piece),
                FillPaint::Plain(paint) => self.add_paint(paint),
            }
        }
        window.finish.rims.iter().for_each(|rim| self.add_paint(&rim.paint));
        window.finish.shadows.iter().for_each(|shadow| self.add_tint(&shadow.tint));
    }

    fn add_form(&mut self, form: &Form) {
        self.fonts.extend(form.letterings().into_iter().map(|l| l.font.clone()));
        self.drawings.extend(form.drawings().into_iter().cloned());
    }

    fn add_paint(&mut self, paint: &Paint) {
        self.inks.extend(paint.inks());
    }

    fn add_tint(&mut self, tint: &Tint) {
        self.inks.extend(tint.ink());
    }

    fn add_tone(&mut self, tone: &Tone) {
        match &tone.print {
            Some(Print::One { dark }) => self.add_tint(dark),
            Some(Print::Two { dark, light }) => [dark, light].into_iter().for_each(|t| self.add_tint(t)),
            None => {}
        }
    }
}

/// The hash of everything that the scene of each piece depends on: pieces with the same key look the same. Fonts, drawings, photos and
/// mattes are called by the hash of their content, so that their names stand for them.
#[derive(Debug, Clone, Default)]
pub struct Keys {
    /// What each piece is by itself.
    own: HashMap<PieceId, Arc<Own>>,
    pieces: HashMap<PieceId, Key>,
    /// Pieces that show windows that show windows … too deep.
    too_deep: BTreeSet<PieceId>,
    page: Option<Key>,
}

impl Keys {
    /// Takes some microseconds a piece.
    pub fn of(sheet: &Sheet) -> Self {
        let own = sheet.pieces.iter().map(|piece| (piece.id, Arc::new(Own::of(sheet, piece))));
        Self::with(sheet, own.collect())
    }

    /// The keys of a sheet that was made of another one, `before`, whose keys these are. Pieces that are as they were are not hashed again.
    pub fn after(&self, before: &Sheet, sheet: &Sheet) -> Self {
        let places: HashMap<PieceId, usize> = before.pieces.iter().enumerate().map(|(k, p)| (p.id, k)).collect();
        let own = |piece: &Piece| {
            let was = places.get(&piece.id).map(|k| &before.pieces[*k]).filter(|was| *was == piece);
            // who else shares a photo, and what is around it, is a matter of the other pieces
            let is_known =
                |own: &&Arc<Own>| !own.involves_others && own.needs.members_of == Needs::members_of(sheet, piece);
            let known = was.and_then(|_| self.own.get(&piece.id)).filter(is_known);
            known.map_or_else(|| Arc::new(Own::of(sheet, piece)), Arc::clone)
        };
        Self::with(sheet, sheet.pieces.iter().map(|piece| (piece.id, own(piece))).collect())
    }

    fn with(sheet: &Sheet, own: HashMap<PieceId, Arc<Own>>) -> Self {
        let mut hashing = Hashing { sheet, own: &own, done: HashMap::new() };
        let mut keys = Self { page: page(sheet), ..Self::default() };
        for piece in &sheet.pieces {
            let Whole { key, depth } = hashing.whole(piece.id);
            if let Some(key) = key {
                keys.pieces.insert(piece.id, key);
            }
            if depth > WINDOWS_DEEP {
                keys.too_deep.insert(piece.id);
            }
        }
        keys.own = own;
        keys
    }

    /// None for a piece that is not there, or that shows itself.
    pub fn of_piece(&self, piece: PieceId) -> Option<Key> {
        self.pieces.get(&piece).copied()
    }

    /// Bytes that they take, roughly.
    pub fn bytes(&self) -> u64 {
        self.own.len() as u64 * 600
    }

    /// What backdrop, border and the finish of bundles depend on.
    pub fn of_page(&self) -> Option<Key> {
        self.page
    }

    pub(super) fn is_too_deep(&self, piece: PieceId) -> bool {
        self.too_deep.contains(&piece)
    }
}

/// A piece by itself.
#[derive(Debug)]
struct Own {
    key: Option<Key>,
    needs: Needs,
    /// It has a photo that other windows may show, too, or something of its own for members of a bundle.
    involves_others: bool,
}

impl Own {
    fn of(sheet: &Sheet, piece: &Piece) -> Self {
        let involves =
            |w: &Window| w.photos().any(|(_, photo)| photo.shared.is_some()) || !w.own_bundle_members().is_empty();
        let involves_others = piece.window().is_some_and(involves);
        let key = KeyBuilder::default().with(&(&piece.kind, piece.hidden)).finish();
        Self { key, needs: Needs::of(sheet, piece), involves_others }
    }
}

#[derive(Clone, Copy)]
struct Whole {
    key: Option<Key>,
    /// Windows shown in windows.
    depth: usize,
}

struct Hashing<'a> {
    sheet: &'a Sheet,
    own: &'a HashMap<PieceId, Arc<Own>>,
    done: HashMap<PieceId, Whole>,
}

impl Hashing<'_> {
    fn whole(&mut self, id: PieceId) -> Whole {
        if let Some(known) = self.done.get(&id) {
            return *known;
        }
        // a window that shows itself has been refused before; if there is one all the same, it has no key
        self.done.insert(id, Whole { key: None, depth: WINDOWS_DEEP + 1 });
        let Some(own) = self.own.get(&id) else {
            return Whole { key: None, depth: 0 };
        };
        let (mut key, mut depth) = (KeyBuilder::default(), 0);
        let mut sound = true;
        let own = Arc::clone(own);
        let needs = &own.needs;
        let mut add = |builder: KeyBuilder, part: Option<Key>| match part {
            Some(part) => builder.with_key(part),
            None => {
                sound = false;
                builder
            }
        };
        key = add(key, own.key);
        for other in &needs.sharers {
            key = add(key, self.own.get(other).and_then(|o| o.key));
        }
        for other in &needs.windows {
            let shown = self.whole(*other);
            key = add(key, shown.key);
            depth = depth.max(1 + shown.depth);
        }
        if let Some(bundle) = needs.members_of {
            let (bundles, pieces) = self.sheet.all_in(bundle);
            key = key.with(&bundles.map(|b| (b.id, b.within, &b.split, &b.repeat)).collect::<Vec<_>>());
            for piece in pieces {
                key = add(key, self.own.get(&piece.id).and_then(|o| o.key)).with(&(piece.id, piece.bundle));
            }
        }
        for ink in &needs.inks {
            key = key.with(&self.sheet.ink(*ink).map(|i| &i.mix));
        }
        for photo in &needs.photos {
            let facts = self.sheet.photos.get(photo);
            key = key.with(&facts.map(|p| (p.width, p.height)));
            for subject in facts.iter().flat_map(|p| &p.subjects) {
                key = key.with(&(subject.key, &subject.name, &subject.matte));
            }
        }
        if needs.sheet_size {
            key = key.with(&(self.sheet.width, self.sheet.height));
        }
        let whole = Whole { key: key.finish().filter(|_| sound), depth };
        self.done.insert(id, whole);
        whole
    }
}

fn page(sheet: &Sheet) -> Option<Key> {
    let size = (sheet.width, sheet.height, sheet.bleed, sheet.paper);
    let mut key = KeyBuilder::default().with(&size).with(&sheet.background).with(&sheet.backdrop).with(&sheet.border);
    let paints = sheet.backdrop.iter().chain(sheet.border.iter().map(|b| &b.paint));
    let shadows = sheet.bundles.iter().flat_map(|b| &b.finish.shadows);
    for ink in paints.flat_map(Paint::inks).chain(shadows.filter_map(|s| s.tint.ink())).collect::<BTreeSet<_>>() {
        key = key.with(&sheet.ink(ink).map(|i| &i.mix));
    }
    if !sheet.has_whole_bundles() {
        return key.finish();
    }
    let whole: Vec<_> = sheet.layers().into_iter().filter(|layer| matches!(layer, Layer::Bundle(..))).collect();
    let finishes = sheet.bundles.iter().map(|b| (b.id, &b.finish)).collect::<Vec<_>>();
    key = key.with(&whole).with(&finishes);
    // where panes and members lie is a matter of what the pieces open
    for bundle in sheet.bundles.iter().filter(|b| b.is_divided()) {
        key = key.with(&(bundle.id, &bundle.split, &bundle.repeat));
        for piece in sheet.all_in(bundle.id).1 {
            key = key.with(piece);
        }
    }
    key.finish()
}
