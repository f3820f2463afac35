//! What crosses between server and interface, beside the types of `inky-core`.

use crate::jobs::Outcome;
use crate::storage::{JobState, Role, SheetHead, SheetRow};
use inky_core::cutout::{PhotoBox, Start};
use inky_core::edit::Edit;
use inky_core::proof::{Finding, ProofTerms};
use inky_core::screen::{PageView, PieceView, SceneView};
use inky_core::sheet::{Colour, Credit, DrawingId, FontId, Node, Photo, PhotoId, Piece, PieceId, Sheet, SheetId, Unit};
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;
use uuid::Uuid;

/// What lets people in here.
#[derive(Debug, Serialize, TS)]
#[serde(tag = "by", rename_all = "snake_case")]
pub enum EntryView {
    /// The token that the server was started with; whether it is known already.
    StartToken { known: bool },
    /// Name and password of an account; whether somebody is signed in.
    Accounts { known: bool },
}

/// Name and password.
#[derive(Deserialize, TS)]
pub struct SignInRequest {
    pub name: String,
    pub password: String,
}

/// The secret of a link with which a password is chosen.
#[derive(Deserialize, TS)]
pub struct LinkSaid {
    pub link: String,
}

/// A password that is chosen with a link.
#[derive(Deserialize, TS)]
pub struct PasswordChoice {
    pub link: String,
    pub password: String,
}

/// A new password in place of the old one.
#[derive(Deserialize, TS)]
pub struct PasswordChange {
    pub old: String,
    pub new: String,
}

/// One's own account.
#[derive(Debug, Serialize, TS)]
pub struct AccountView {
    pub name: String,
    /// Browsers that are signed in, the one seen last first.
    pub sessions: Vec<SessionView>,
}

/// A browser that is signed in.
#[derive(Debug, Serialize, TS)]
pub struct SessionView {
    #[ts(type = "string")]
    pub id: Uuid,
    /// What the browser says it is.
    pub browser: String,
    pub address: String,
    /// Seconds since 1970, UTC.
    pub seen: i64,
    /// It is the one that asks.
    pub this: bool,
}

/// Who may do what with a sheet.
#[derive(Debug, Serialize, TS)]
pub struct MembersView {
    /// What the one may do who asks.
    pub role: Role,
    /// All members, and those who are invited; None where there are no accounts.
    pub members: Option<Vec<MemberView>>,
}

/// Somebody who may do something with a sheet.
#[derive(Debug, Serialize, TS)]
pub struct MemberView {
    #[ts(type = "string")]
    pub id: Uuid,
    pub name: String,
    pub role: Role,
    /// Whether the invitation was taken.
    pub taken: bool,
    /// It is the one that asks.
    pub this: bool,
}

/// Somebody who is to do something with a sheet.
#[derive(Debug, Deserialize, TS)]
pub struct Invitation {
    pub name: String,
    pub role: Role,
}

/// A start token that somebody typed.
#[derive(Debug, Deserialize, TS)]
pub struct TokenSaid {
    pub token: String,
}

/// A sheet on the desk.
#[derive(Debug, Serialize, TS)]
pub struct SheetCard {
    pub id: SheetId,
    pub name: String,
    /// Millimetres.
    pub width: f64,
    /// Millimetres.
    pub height: f64,
    pub unit: Unit,
    pub ppi: f64,
    pub revision: u64,
    /// Seconds since 1970, UTC.
    pub changed: i64,
    /// Its document could not be read.
    pub damaged: bool,
    /// What one may do with it.
    pub role: Role,
    /// Who invites one to it, while the invitation is not taken.
    pub invited_by: Option<String>,
}

/// A sheet to be made; millimetres, pixels per inch.
#[derive(Debug, Deserialize, TS)]
pub struct NewSheet {
    pub name: String,
    /// Millimetres.
    pub width: f64,
    /// Millimetres.
    pub height: f64,
    pub unit: Unit,
    pub ppi: f64,
}

/// The identifier of something new.
#[derive(Debug, Serialize, TS)]
pub struct Made {
    pub id: SheetId,
}

/// A sheet at one revision, with its picture.
#[derive(Debug, Serialize, TS)]
pub struct Bench {
    pub id: SheetId,
    pub revision: u64,
    #[ts(as = "Sheet")]
    pub sheet: Arc<Sheet>,
    pub scene: SceneView,
    /// Name of what undo takes back.
    pub undo: Option<String>,
    pub redo: Option<String>,
}

impl Bench {
    pub(super) fn new(row: SheetRow, scene: SceneView) -> Self {
        let SheetRow { head: SheetHead { id, revision, undo, redo, .. }, sheet, .. } = row;
        Self { id, revision, sheet, scene, undo, redo }
    }
}

/// What changed about a sheet from one revision to a later one: to be put in the places of what was there.
#[derive(Debug, Serialize, TS)]
pub struct BenchChange {
    pub id: SheetId,
    /// The revision that it changes.
    pub base: u64,
    pub revision: u64,
    pub undo: Option<String>,
    pub redo: Option<String>,
    /// The sheet without its pieces, if anything of that changed.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub sheet: Option<Sheet>,
    /// Pieces that are new or were changed.
    pub pieces: Vec<Piece>,
    /// All pieces from back to front, if that changed.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub order: Option<Vec<PieceId>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub page: Option<PageView>,
    /// Pieces that look other than before, from back to front: more than were changed, where pieces depend on others.
    #[ts(as = "Vec<PieceView>")]
    pub views: Vec<Arc<PieceView>>,
}

/// Edits to be kept: all of them, as one step, or none.
#[derive(Debug, Deserialize, TS)]
pub struct EditRequest {
    /// The revision it was made for.
    pub base: u64,
    /// A new one for every edit; sent again with it, an edit is made only once.
    #[ts(type = "string")]
    pub request: Uuid,
    /// Edits of one gesture are undone together.
    #[ts(type = "string | null")]
    pub gesture: Option<Uuid>,
    pub edits: Vec<Edit>,
}

/// Edits to be tried, of which nothing is kept.
#[derive(Debug, Deserialize, TS)]
pub struct TentativeRequest {
    pub base: u64,
    pub edits: Vec<Edit>,
}

/// What edits would give. That they cannot be made is an answer like another: whoever tries them while a pointer moves expects it.
#[derive(Debug, Serialize, TS)]
#[serde(tag = "tried", rename_all = "snake_case")]
pub enum Tentative {
    Gives {
        /// Pieces that would look other than they do, from back to front.
        #[ts(as = "Vec<PieceView>")]
        views: Vec<Arc<PieceView>>,
        /// All pieces from back to front, if that would change.
        #[serde(skip_serializing_if = "Option::is_none")]
        #[ts(optional)]
        order: Option<Vec<PieceId>>,
        /// What belongs to the sheet itself and to its bundles, if that would look other.
        #[serde(skip_serializing_if = "Option::is_none")]
        #[ts(optional)]
        page: Option<PageView>,
    },
    /// Why they could not be made.
    Refused { sentence: String },
    /// The sheet was changed meanwhile; this is its newest state.
    Newer { bench: Box<Bench> },
}

/// What was found on a sheet.
#[derive(Debug, Serialize, TS)]
pub struct ProofView {
    /// The revision that was looked through.
    pub revision: u64,
    /// What it was held to.
    pub terms: ProofTerms,
    /// The worst first.
    pub findings: Vec<Finding>,
}

/// What was done to a sheet.
#[derive(Debug, Serialize, TS)]
pub struct StepView {
    /// Its number; 0 for what was there before the first step that is kept.
    pub seq: u64,
    pub name: String,
    /// Seconds since 1970, UTC; unknown for those of earlier versions.
    pub made: Option<i64>,
    /// It was taken back.
    pub undone: bool,
}

/// A sheet as it was after a step.
#[derive(Debug, Serialize, TS)]
pub struct PastSheet {
    pub seq: u64,
    pub name: String,
    #[ts(as = "Sheet")]
    pub sheet: Arc<Sheet>,
    pub scene: SceneView,
}

/// Undo or redo, or back to an earlier step.
#[derive(Debug, Deserialize, TS)]
pub struct StepRequest {
    pub base: u64,
    #[ts(type = "string")]
    pub request: Uuid,
}

/// At which revision a sheet is, and who has it open.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct News {
    pub revision: u64,
    /// The other tabs that have it open.
    pub others: Vec<OtherTab>,
}

/// Another tab that has a sheet open.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct OtherTab {
    #[ts(type = "string")]
    pub tab: Uuid,
    /// Who that is, where people sign in.
    pub name: Option<String>,
    /// The piece that is selected there.
    pub selected: Option<PieceId>,
}

/// What is selected in a tab.
#[derive(Debug, Deserialize, TS)]
pub struct Selected {
    pub selected: Option<PieceId>,
}

/// A photo that was taken in.
#[derive(Debug, Serialize, TS)]
pub struct PhotoCard {
    pub id: PhotoId,
    pub photo: Photo,
    /// What could not be read of it, in sentences.
    pub notes: Vec<String>,
}

/// What was taken from the stock drawer.
#[derive(Debug, Serialize, TS)]
pub struct StockTaken {
    #[ts(optional = nullable)]
    pub photo: Option<PhotoId>,
    #[ts(optional = nullable)]
    pub drawing: Option<DrawingId>,
    pub credit: Credit,
}

/// Two points of a photo, in its pixels.
#[derive(Debug, Deserialize, TS)]
pub struct EdgeRequest {
    pub from: [f64; 2],
    pub to: [f64; 2],
}

/// The way between them along the strongest edge, in the photo's pixels; the first node lies at `from`.
#[derive(Debug, Serialize, TS)]
pub struct PhotoEdge {
    pub nodes: Vec<Node>,
}

/// A press that files can be made for.
#[derive(Debug, Serialize, TS)]
pub struct PressCard {
    pub id: String,
    pub name: String,
}

/// A font that lettering can be set in.
#[derive(Debug, Serialize, TS)]
pub struct FontCard {
    pub id: FontId,
    pub name: String,
    /// A few words on how it looks.
    pub manner: String,
    /// Brought in by a person.
    pub own: bool,
    /// Tags of the OpenType features it offers.
    pub features: Vec<String>,
}

/// A drawing that was taken in.
#[derive(Debug, Serialize, TS)]
pub struct DrawingCard {
    pub id: DrawingId,
    pub name: String,
    /// The largest first; a form refers to them by their places.
    pub pieces: Vec<DrawingPiece>,
    /// Width and height of its page in millimetres.
    pub size: [f64; 2],
    /// Its groups and shapes as they lie in one another, from back to front; of drawings with very many, the groups alone, and no
    /// more of them than fit in a list.
    pub parts: Vec<DrawingPartCard>,
    /// What was left out of it, in sentences.
    pub notes: Vec<String>,
}

/// A group or a shape of a drawing.
#[derive(Debug, Serialize, TS)]
pub struct DrawingPartCard {
    /// Its number, by which looks refer to it.
    pub part: usize,
    /// How many groups it lies in.
    pub depth: usize,
    /// What the file calls it, or nothing.
    pub name: String,
    /// The shapes it holds, or 1 for a shape.
    pub shapes: usize,
    /// The first colours it is painted with, each once.
    pub colours: Vec<Colour>,
}

/// A connected piece of a drawing; millimetres about the drawing's middle.
#[derive(Debug, Serialize, TS)]
pub struct DrawingPiece {
    /// Square millimetres.
    pub area: f64,
    pub nodes: usize,
    /// SVG path data.
    pub path: String,
    /// Left, top, right, bottom.
    pub bounds: [f64; 4],
}

/// A job, and how far it is.
#[derive(Debug, Serialize, TS)]
pub struct JobCard {
    #[ts(type = "string")]
    pub id: Uuid,
    pub task: crate::jobs::Task,
    pub state: JobState,
    /// 0 to 1.
    pub done: f32,
    /// What is being done.
    pub step: String,
    pub outcome: Option<Outcome>,
}

/// Why something was not done.
#[derive(Debug, Serialize, TS)]
pub struct Sentence {
    pub sentence: String,
    /// The newer sheet, where the reason is that there is one.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub bench: Option<Box<Bench>>,
}

/// What a subject could be, too.
#[derive(Debug, Serialize, TS)]
pub struct GuessView {
    /// How a search begins that gives it.
    pub start: Start,
    /// A small black and white picture (a data address), to be stretched over the photo.
    pub mask: String,
}

/// One of several subjects that were found at once.
#[derive(Debug, Serialize, TS)]
pub struct SingleView {
    /// The box to look for it in.
    pub within: PhotoBox,
    /// A small black and white picture (a data address), to be stretched over the photo.
    pub mask: String,
}

/// A place that may be on the wrong side of a subject's edge.
#[derive(Debug, Serialize, TS)]
pub struct DoubtView {
    /// A point well inside of it, in pixels of the photo.
    pub at: [f64; 2],
    /// How wide it is there, in pixels of the photo.
    pub width: f64,
    /// Whether it may be missing; else it may be too much.
    pub missing: bool,
}

/// A subject at its working size.
#[derive(Debug, Serialize, TS)]
pub struct DraftView {
    /// Its matte as a grey picture (a data address), to be stretched over the photo.
    pub matte: String,
    /// Other guesses, as long as no stroke has told.
    pub others: Vec<GuessView>,
    /// The single ones of several subjects that were found at once.
    pub singles: Vec<SingleView>,
    /// What the last stroke would give if it spoke for everything like it, as a small black and white picture (a data address); none where that is
    /// no different.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub wider: Option<String>,
    /// Where it may well be wrong, the place first that matters most.
    pub doubts: Vec<DoubtView>,
    /// How much these places are doubted, as a grey picture (a data address) to be stretched over the photo; none where nothing is.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub wash: Option<String>,
    /// Whether the photo has a transparency of its own.
    pub alpha: bool,
}
