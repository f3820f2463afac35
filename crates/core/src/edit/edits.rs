//! Every edit there is.

use super::member_change::{Amended, MemberChange, named};
use super::opening_change::OpeningChange;
use crate::cutout::Hints;
use crate::sheet::{
    Anchor, Border, BreakoutStroke, BundleFinish, BundleId, Colour, Credit, DrawingId, FIRST, Fill, FillId, FillPaint,
    Finish, FontId, Form, FormId, Ink, InkId, Join, LayoutGuides, Lettering, Members, Paint, PanePath, PhotoId,
    PhotoSubject, PieceId, Placement, ReachLine, Repeat, Sheet, Similarity, Split, SubjectId, Unit,
};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A change to a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "edit", rename_all = "snake_case")]
pub enum Edit {
    /// Some members of a value; the others stay as they are.
    Amend {
        #[serde(flatten)]
        #[ts(flatten)]
        of: Amended,
        changes: Vec<MemberChange>,
    },
    RenameSheet {
        name: String,
    },
    /// Millimetres and pixels per inch.
    ResizeSheet {
        width: f64,
        height: f64,
        unit: Unit,
        ppi: f64,
    },
    SetBackground {
        colour: Colour,
    },
    /// What helps to lay pieces out.
    SetGuides {
        guides: LayoutGuides,
    },
    /// How far what is printed reaches beyond the cut, in millimetres.
    SetBleed {
        bleed: f64,
    },
    /// A paint on the background's colour, or none.
    SetBackdrop {
        paint: Option<Paint>,
    },
    /// How grainy the paper is, 0 to 1.
    SetPaper {
        grain: f64,
    },
    SetBorder {
        border: Option<Border>,
    },
    /// A new ink, or a known one mixed or named anew: everything painted with it follows.
    SetInk {
        ink: Ink,
    },
    /// What was painted with it keeps its colour.
    RemoveInk {
        ink: InkId,
    },
    /// Whose work a photo or a drawing of the sheet is; nobody's without one.
    SetCredit {
        of: String,
        credit: Option<Credit>,
    },
    /// Waves a finding of the proof through, by its key, with a reason if there is one; without `why` it is looked at again.
    WaveFinding {
        finding: String,
        why: Option<String>,
    },
    /// A new window with a word as its opening, set as large as the sheet allows and filled with ink.
    AddLettering {
        piece: PieceId,
        form: FormId,
        fill: FillId,
        text: String,
        font: FontId,
    },
    /// A new window with one form as its opening, filled with ink.
    AddWindow {
        piece: PieceId,
        form: Form,
        fill: FillId,
    },
    /// Changes the opening of a window.
    Opening {
        piece: PieceId,
        #[serde(flatten)]
        #[ts(flatten)]
        change: OpeningChange,
    },
    /// Changes a word; with `fit` it is set as large as the sheet allows.
    SetLettering {
        piece: PieceId,
        form: FormId,
        lettering: Lettering,
        #[serde(default)]
        fit: bool,
    },
    /// A photo as a piece of its own.
    AddPicture {
        piece: PieceId,
        photo: PhotoId,
    },
    /// A photo behind an opening, in front of its other fills. A photo that was there gives way, and leaves it its place.
    FillWithPhoto {
        piece: PieceId,
        fill: FillId,
        photo: PhotoId,
    },
    /// What a piece without a mask shows becomes fills of another window, where it lies; the piece goes.
    TakeFills {
        piece: PieceId,
        of: PieceId,
    },
    /// A photo in front of all fills, covering the opening.
    AddPhoto {
        piece: PieceId,
        fill: FillId,
        photo: PhotoId,
    },
    /// A photo in one pane alone, covering it. A photo that this pane had for itself gives way.
    FillPane {
        piece: PieceId,
        pane: PanePath,
        fill: FillId,
        photo: PhotoId,
    },
    /// The photo of the fill `of`, in another window, behind this one too, where it lies.
    ShareFill {
        piece: PieceId,
        fill: FillId,
        of: FillId,
    },
    /// A fill in front of the others.
    AddFill {
        piece: PieceId,
        fill: Fill,
    },
    /// A fill changed as a whole: its paint, strength, blend mode, tone.
    SetFill {
        piece: PieceId,
        fill: Fill,
    },
    /// To the place `to` in the order from back to front.
    OrderFill {
        piece: PieceId,
        fill: FillId,
        to: usize,
    },
    SetFinish {
        piece: PieceId,
        finish: Finish,
    },
    /// A window is shown several times, or once again without one. Fills of members that are no longer there go.
    SetRepeat {
        piece: PieceId,
        repeat: Option<Repeat>,
    },
    /// Photos for members of a repeated window, one each, from one of them on. What such a member had for itself gives way.
    Deal {
        piece: PieceId,
        from: u32,
        photos: Vec<(FillId, PhotoId)>,
        /// The members are those of the repeated bundle around the window.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        #[ts(optional, as = "Option<bool>")]
        within_bundle: bool,
    },
    /// A word of a window in one member of the repeated bundle around it; without one, that of all.
    SetBundleWord {
        piece: PieceId,
        member: u32,
        word: Option<String>,
    },
    /// Pieces look from now on as one member of a repeated bundle around them shows them.
    LookAsMember {
        pieces: Vec<PieceId>,
        member: u32,
        /// Their photos run behind all members of that bundle: those of the member's own are not seen.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        #[ts(optional, as = "Option<bool>")]
        behind: bool,
    },
    /// A member becomes a window of its own, where it lies, and is hidden in the layout.
    SetFree {
        piece: PieceId,
        member: u32,
        copy: PieceId,
    },
    /// The lines that split a window, and where its panes lie. Fills of panes that are no longer there go.
    SetSplit {
        piece: PieceId,
        split: Split,
    },
    SetFillColour {
        piece: PieceId,
        fill: FillId,
        colour: Colour,
    },
    RemoveFill {
        piece: PieceId,
        fill: FillId,
    },
    /// Moves, turns or scales a piece or one half of it.
    Move {
        piece: PieceId,
        what: Grip,
        by: Similarity,
    },
    /// Moves, turns, scales, slants or mirrors several pieces as one, or one half of each. The transform is one of the sheet, in SVG's order.
    Transform {
        pieces: Vec<PieceId>,
        what: Grip,
        by: [f64; 6],
    },
    /// Moves, turns or scales one of several fills.
    MoveFill {
        piece: PieceId,
        fill: FillId,
        by: Similarity,
    },
    SetPlacement {
        piece: PieceId,
        fill: FillId,
        placement: Placement,
    },
    /// Places a photo anew so that it fills the opening, or lies within it.
    FitPhoto {
        piece: PieceId,
        fill: FillId,
        fit: Fit,
    },
    /// A new subject of a photo, or the one of that number found anew.
    SetSubject {
        photo: PhotoId,
        subject: PhotoSubject,
    },
    /// Nothing of it is let out any more.
    RemoveSubject {
        photo: PhotoId,
        key: u32,
    },
    NameSubject {
        photo: PhotoId,
        key: u32,
        name: String,
    },
    LetOut {
        piece: PieceId,
        anchor: Anchor,
    },
    /// Where what is let out crosses the edge, it runs under the rims or over them; `was` are the anchors that said so before.
    Cross {
        piece: PieceId,
        anchor: Anchor,
        under: bool,
        #[serde(default)]
        was: Vec<Anchor>,
    },
    /// A part of a subject becomes a contour of the opening. It lies within the subject, up to `tolerance` inside of its edge, without bumps
    /// and dents smaller than `smooth`; millimetres.
    MergePart {
        piece: PieceId,
        anchor: Anchor,
        form: FormId,
        tolerance: f64,
        smooth: f64,
    },
    /// All corrections of a breakout by hand.
    PaintBreakout {
        piece: PieceId,
        strokes: Members<BreakoutStroke>,
    },
    /// A line beyond which nothing is let out, or none.
    SetReach {
        piece: PieceId,
        reach: Option<ReachLine>,
    },
    /// Pieces of a drawing that fills a window, by their numbers, over the edge or back in.
    LetPiecesOut {
        piece: PieceId,
        fill: FillId,
        parts: Vec<u32>,
        out: bool,
    },
    /// Cuts, softens or names the part of a subject that an anchor lies in.
    ChangePart {
        piece: PieceId,
        anchor: Anchor,
        change: PartChange,
    },
    /// Takes back in what these anchors let out.
    KeepIn {
        piece: PieceId,
        anchors: Vec<Anchor>,
    },
    RemovePiece {
        piece: PieceId,
    },
    CopyPiece {
        piece: PieceId,
        copy: PieceId,
    },
    /// Pieces and bundles become a new bundle, which lies within another one or in none.
    Bundle {
        bundle: BundleId,
        within: Option<BundleId>,
        pieces: Vec<PieceId>,
        #[serde(default)]
        bundles: Vec<BundleId>,
    },
    /// Pieces, and bundles with all that is in them, right in front of a piece or behind all others; and into a bundle, or out of all.
    Place {
        pieces: Vec<PieceId>,
        #[serde(default)]
        bundles: Vec<BundleId>,
        into: Option<BundleId>,
        over: Option<PieceId>,
    },
    /// What was in a bundle stays where it is.
    Dissolve {
        bundle: BundleId,
    },
    NameBundle {
        bundle: BundleId,
        name: String,
    },
    SetBundleFinish {
        bundle: BundleId,
        finish: BundleFinish,
    },
    /// The lines that split a bundle, and where its panes lie.
    SetBundleSplit {
        bundle: BundleId,
        split: Split,
    },
    /// A bundle is shown several times, or once again without one.
    SetBundleRepeat {
        bundle: BundleId,
        repeat: Option<Repeat>,
    },
    /// Copies of pieces of a sheet, each named with its copy, in front of all others; moved by so many millimetres across and down.
    /// `from` holds what the pieces refer to.
    Paste {
        from: Box<Sheet>,
        copies: Vec<(PieceId, PieceId)>,
        by: [f64; 2],
    },
    /// The forms of another window join the opening of this one, as `form`, where they are; its fills and finish go with it.
    TakeIn {
        piece: PieceId,
        other: PieceId,
        form: FormId,
        #[serde(default)]
        join: Join,
    },
    /// To the place `to` in the order from back to front.
    OrderPiece {
        piece: PieceId,
        to: usize,
    },
    NamePiece {
        piece: PieceId,
        name: String,
    },
    HidePiece {
        piece: PieceId,
        hidden: bool,
    },
    LockPiece {
        piece: PieceId,
        locked: bool,
    },
}

/// What is changed about a part of a subject. Lines are in sheet space, millimetres.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "what", rename_all = "snake_case")]
pub enum PartChange {
    /// The cut at one line goes to another one.
    MoveCut { from: [[f64; 2]; 2], to: [[f64; 2]; 2] },
    /// It becomes two parts; both are out, or in, as it was.
    Cut { along: [[f64; 2]; 2] },
    /// How wide it fades where it is cut from what stays in, in pixels of the photo.
    Soften { width: f64 },
    /// An empty name takes the old one away.
    Name { name: String },
}

impl PartChange {
    /// What it does, for the list of steps.
    pub(super) fn step(&self) -> &'static str {
        match self {
            Self::MoveCut { .. } => "move a cut",
            Self::Cut { .. } => "cut a part",
            Self::Soften { .. } => "soften a cut",
            Self::Name { .. } => "name a part",
        }
    }
}

/// What a drag on a window moves.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Grip {
    Opening,
    Fill,
    Both,
}

/// How a photo is fitted to an opening.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Fit {
    Cover,
    Contain,
    /// Covering, with the middle of the subject in the middle of the opening.
    Subject,
    /// The same, as large and as turned as it is, whether that covers or not.
    Middle,
}

impl Edit {
    /// The first subject of a photo, found by itself.
    pub fn found(photo: PhotoId, matte: SubjectId) -> Self {
        let subject = PhotoSubject { key: 0, name: FIRST.into(), matte, hints: Hints::default() };
        Edit::SetSubject { photo, subject }
    }

    /// The photos it brings in, to be looked up beforehand.
    pub fn photos(&self) -> Vec<&PhotoId> {
        match self {
            Edit::AddPicture { photo, .. }
            | Edit::FillWithPhoto { photo, .. }
            | Edit::AddPhoto { photo, .. }
            | Edit::FillPane { photo, .. } => vec![photo],
            Edit::Deal { photos, .. } => photos.iter().map(|(_, photo)| photo).collect(),
            Edit::Paste { from, .. } => from.photos.keys().collect(),
            _ => Vec::new(),
        }
    }

    /// Every form it brings in.
    fn form(&self) -> Option<&Form> {
        match self {
            Edit::AddWindow { form, .. } => Some(form),
            Edit::Opening { change: OpeningChange::AddForm { form } | OpeningChange::SetForm { form }, .. } => {
                Some(form)
            }
            Edit::AddFill { fill, .. } | Edit::SetFill { fill, .. } => match &fill.paint {
                FillPaint::Form(f) => Some(&f.form),
                _ => None,
            },
            _ => None,
        }
    }

    /// The fonts it sets type in, to be looked up beforehand.
    pub fn fonts(&self) -> Vec<FontId> {
        match self {
            Edit::Amend { changes, .. } => named(changes, "font").into_iter().map(FontId).collect(),
            Edit::AddLettering { font, .. } | Edit::Opening { change: OpeningChange::AddWord { font, .. }, .. } => {
                vec![font.clone()]
            }
            Edit::SetLettering { lettering, .. } => vec![lettering.font.clone()],
            Edit::Paste { from, .. } => from.letterings().map(|l| l.font.clone()).collect(),
            _ => self.form().into_iter().flat_map(Form::letterings).map(|l| l.font.clone()).collect(),
        }
    }

    /// The drawings it brings in, to be looked up beforehand.
    pub fn drawings(&self) -> Vec<DrawingId> {
        match self {
            Edit::Amend { changes, .. } => named(changes, "drawing").into_iter().map(DrawingId).collect(),
            Edit::AddFill { fill, .. } | Edit::SetFill { fill, .. } => fill.drawings().into_iter().cloned().collect(),
            Edit::Paste { from, .. } => from.used_drawings().cloned().collect(),
            _ => self.form().map(Form::drawings).unwrap_or_default().into_iter().cloned().collect(),
        }
    }

    /// The subjects it refers to, to be looked up beforehand.
    pub fn subjects(&self) -> Vec<SubjectId> {
        match self {
            Edit::Amend { of: Amended::Subject { .. }, changes } => {
                named(changes, "matte").into_iter().map(SubjectId).collect()
            }
            Edit::SetSubject { subject, .. } => vec![subject.matte.clone()],
            Edit::Paste { from, .. } => {
                from.photos.values().flat_map(|p| &p.subjects).map(|s| s.matte.clone()).collect()
            }
            _ => Vec::new(),
        }
    }
}
