//! A window: an opening, what shows through it, and what reaches over its edge.

use super::paint::{is_whole, whole};
use super::{
    Blend, Breakout, DrawingId, FillId, Finish, Form, FormId, FormShape, Lettering, Paint, PhotoId, PieceId, Placement,
    Similarity, Tone,
};
use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A piece made of an opening, fills and a breakout.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Window {
    pub opening: Opening,
    /// What shows through, from back to front.
    pub fills: Vec<Fill>,
    #[serde(default)]
    pub breakout: Breakout,
    #[serde(default, skip_serializing_if = "Finish::is_plain")]
    pub finish: Finish,
}

/// The compound outline of a window, as the list of forms it is computed from.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Opening {
    /// In the order in which they are joined.
    pub forms: Vec<Form>,
    /// Cells that were taken in or left out by hand, whatever the joins say.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub cells: Vec<CellChoice>,
    /// The joined outline grown by this many millimetres; shrunk where it is negative.
    #[serde(default)]
    pub grow: f64,
    /// Radius of its corners in millimetres.
    #[serde(default)]
    pub rounding: f64,
    /// Sides at which nothing is cut.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<OpenSide>>")]
    pub open: Vec<OpenSide>,
    /// How far the outline may stray to get by with fewer nodes, in millimetres.
    #[serde(default)]
    pub simplify: f64,
}

/// A stretch of a side across which nothing is cut: the opening is extended there, in line with its outermost points.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct OpenSide {
    pub side: Side,
    /// Where the stretch begins and ends, in shares of the opening's width or height, from the left or from the top.
    pub from: f64,
    pub to: f64,
    /// How far it reaches beyond the opening, in millimetres.
    pub far: f64,
}

/// A side of an opening, upright on the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Side {
    Top,
    Right,
    Bottom,
    Left,
}

/// A cell's own state. A cell is known by the forms that cover it, so that the choice lives on when they move.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct CellChoice {
    /// The forms of the opening's own list that cover it, in the order of their identifiers.
    pub cover: Vec<FormId>,
    pub taken: bool,
}

/// One layer of what shows through an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Fill {
    pub id: FillId,
    pub paint: FillPaint,
    /// How opaque it is, 0 to 1.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    pub strength: f64,
    /// How it mixes with the fills beneath it.
    #[serde(default, skip_serializing_if = "Blend::is_normal")]
    pub blend: Blend,
    /// Goes along when the opening alone is moved; else it stays on the sheet.
    #[serde(default, alias = "rides", skip_serializing_if = "std::ops::Not::not")]
    pub follows_opening: bool,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
}

/// What a fill is made of.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum FillPaint {
    Photo(PhotoFill),
    Tile(TileFill),
    Drawing(DrawingFill),
    Form(Box<FormFill>),
    Window(WindowFill),
    /// A colour, an ink or a gradient: written as it would be elsewhere.
    #[serde(untagged)]
    Plain(Paint),
}

/// A photo behind an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct PhotoFill {
    pub photo: PhotoId,
    pub placement: Placement,
    #[serde(default, skip_serializing_if = "Tone::is_plain")]
    pub tone: Tone,
    /// One photo behind several windows: fills with the same mark lie at one place, and what breaks out of one of their windows is cut by none of
    /// the others.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shared: Option<FillId>,
    /// Only its subjects are seen, without the ground; all of it as long as none is found.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub alone: bool,
}

/// An imported drawing in its own groups and colours, seen only where the opening is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct DrawingFill {
    pub drawing: DrawingId,
    /// Its scale is millimetres on the sheet for one of the drawing.
    pub placement: Placement,
    /// Parts that look other than the file says, by their numbers.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub looks: Vec<PartLook>,
}

impl DrawingFill {
    /// Whether anything of it may reach over the edge.
    pub fn breaks_out(&self) -> bool {
        self.looks.iter().any(|l| l.out && !l.off)
    }
}

/// How a group or a shape of a drawing looks.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct PartLook {
    /// Its place in the drawing's parts; groups stand before what they hold, and the first is the whole.
    pub part: u32,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    /// Where it reaches over the edge of the opening, it is seen there as well.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub out: bool,
    /// All it holds in one paint instead of its own ones. A span runs in the drawing's own space, in millimetres.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub paint: Option<Paint>,
}

/// A photo or a drawing, repeated behind an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct TileFill {
    #[serde(flatten)]
    #[ts(flatten)]
    pub motif: Motif,
    /// Where one of the copies lies.
    pub placement: Placement,
    /// From one copy to the next across and down, in widths and heights of the motif.
    pub step: [f64; 2],
    /// How far every other row is shifted, in steps.
    #[serde(default)]
    pub offset: f64,
    #[serde(default, skip_serializing_if = "Tone::is_plain")]
    pub tone: Tone,
}

/// What a tile repeats.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Motif {
    Photo(PhotoId),
    Drawing(DrawingId),
    /// Another window of the sheet, as large as its opening; its scale is 1 where it is repeated as large as it is.
    Window(PieceId),
}

/// Another window of the sheet, seen only where the opening is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct WindowFill {
    pub piece: PieceId,
    /// How it is moved from where it lies on the sheet.
    #[serde(default)]
    pub by: Similarity,
}

/// Lettering or another form in one paint, seen only where the opening is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct FormFill {
    pub form: Form,
    pub paint: Paint,
}

impl Window {
    /// A photo that lies on the sheet whole: nothing masks it. Its fill is named after the piece.
    pub fn picture(piece: PieceId, photo: PhotoId, placement: Placement) -> Self {
        let paint = FillPaint::Photo(PhotoFill { photo, placement, tone: Tone::default(), shared: None, alone: false });
        Self {
            opening: Opening::default(),
            fills: vec![Fill::new(FillId(piece.0).copied_within(piece.0), paint)],
            breakout: Breakout::default(),
            finish: Finish::default(),
        }
    }

    /// Whether a form limits what is seen. Without one (or with all of them switched off) pictures are seen whole.
    pub fn is_masked(&self) -> bool {
        self.opening.forms.iter().any(|f| !f.off)
    }

    /// Whether something is seen of it without a mask.
    pub fn has_whole(&self) -> bool {
        let whole = |f: &Fill| matches!(f.paint, FillPaint::Photo(_) | FillPaint::Drawing(_) | FillPaint::Form(_));
        self.fills.iter().any(|f| !f.off && whole(f))
    }

    /// A name after its lettering, or after its first form.
    pub fn label(&self) -> String {
        let forms = &self.opening.forms;
        let first = forms.iter().find(|f| matches!(f.shape, FormShape::Lettering(_))).or(forms.first());
        first.map_or("Picture".into(), Form::label)
    }

    /// The lettering of a form.
    pub fn lettering(&self, id: FormId) -> Option<&Lettering> {
        match &self.opening.form(id)?.shape {
            FormShape::Lettering(l) => Some(l),
            _ => None,
        }
    }

    /// A fill by its identifier.
    pub fn fill(&self, id: FillId) -> Option<&Fill> {
        self.fills.iter().find(|f| f.id == id)
    }

    /// The same, to be changed.
    pub fn fill_mut(&mut self, id: FillId) -> Option<&mut Fill> {
        self.fills.iter_mut().find(|f| f.id == id)
    }

    /// The forms of the opening and those that fill it; lists without what they hold.
    pub fn forms(&self) -> impl Iterator<Item = &Form> {
        self.opening.forms.iter().chain(self.filling_forms())
    }

    /// A form of the opening, lists included, or one that fills it; to be changed.
    pub fn form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        if self.opening.form(id).is_some() { self.opening.form_mut(id) } else { self.filling_form_mut(id) }
    }

    /// A form that fills it, to be changed.
    pub fn filling_form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        self.fills.iter_mut().find_map(|f| match &mut f.paint {
            FillPaint::Form(form) if form.form.id == id => Some(&mut form.form),
            _ => None,
        })
    }

    /// The forms that fill it.
    pub fn filling_forms(&self) -> impl Iterator<Item = &Form> {
        self.fills.iter().filter_map(|f| match &f.paint {
            FillPaint::Form(form) => Some(&form.form),
            _ => None,
        })
    }

    /// Whether both show one and the same photo between them.
    pub fn shares_photo_with(&self, other: &Window) -> bool {
        self.photos().any(|(_, own)| other.photos().any(|(_, p)| p.is_one_with(own)))
    }

    /// Whether a photo of another window lies behind this one too, and is seen there.
    pub fn shows(&self, photo: &PhotoFill) -> bool {
        let seen = self.fills.iter().filter(|f| !f.off);
        seen.into_iter().any(|f| matches!(&f.paint, FillPaint::Photo(p) if p.is_one_with(photo)))
    }

    /// The photo fills, from back to front.
    pub fn photos(&self) -> impl Iterator<Item = (FillId, &PhotoFill)> {
        self.fills.iter().filter_map(|f| match &f.paint {
            FillPaint::Photo(p) => Some((f.id, p)),
            _ => None,
        })
    }
}

impl PhotoFill {
    /// Whether both are one photo behind several windows.
    pub fn is_one_with(&self, other: &Self) -> bool {
        self.shared.is_some() && (self.shared, &self.photo) == (other.shared, &other.photo)
    }
}

impl Motif {
    /// The photo that it shows or repeats.
    pub fn photo(&self) -> Option<&PhotoId> {
        match self {
            Motif::Photo(id) => Some(id),
            Motif::Drawing(_) | Motif::Window(_) => None,
        }
    }
}

impl Fill {
    /// Whether its photo lies behind other windows too.
    pub fn is_shared(&self) -> bool {
        matches!(&self.paint, FillPaint::Photo(PhotoFill { shared: Some(_), .. }))
    }

    /// A fill that stays on the sheet as it is.
    pub fn new(id: FillId, paint: FillPaint) -> Self {
        Self { id, paint, strength: 1.0, blend: Blend::Normal, follows_opening: false, off: false }
    }

    /// The photo that it shows, with its place and tone.
    pub fn photo(&self) -> Option<&PhotoId> {
        match &self.paint {
            FillPaint::Photo(p) => Some(&p.photo),
            FillPaint::Tile(t) => t.motif.photo(),
            FillPaint::Drawing(_) | FillPaint::Form(_) | FillPaint::Window(_) | FillPaint::Plain(_) => None,
        }
    }

    /// The window of the sheet that it shows or repeats.
    pub fn window(&self) -> Option<PieceId> {
        match &self.paint {
            FillPaint::Window(shown) => Some(shown.piece),
            FillPaint::Tile(TileFill { motif: Motif::Window(piece), .. }) => Some(*piece),
            _ => None,
        }
    }

    /// Lets it show another window in place of the one that it shows.
    pub fn show_window(&mut self, other: PieceId) {
        match &mut self.paint {
            FillPaint::Window(shown) => shown.piece = other,
            FillPaint::Tile(TileFill { motif: Motif::Window(piece), .. }) => *piece = other,
            _ => {}
        }
    }

    /// Whether it is one paint all over that nothing else is mixed with, as new windows have it.
    pub fn is_plain(&self) -> bool {
        matches!(self.paint, FillPaint::Plain(_)) && !self.off && self.strength >= 1.0 && self.blend.is_normal()
    }

    /// The drawings that it shows.
    pub fn drawings(&self) -> Vec<&DrawingId> {
        match &self.paint {
            FillPaint::Drawing(d) => vec![&d.drawing],
            FillPaint::Tile(TileFill { motif: Motif::Drawing(id), .. }) => vec![id],
            FillPaint::Form(form) => form.form.drawings(),
            FillPaint::Photo(_) | FillPaint::Tile(_) | FillPaint::Window(_) | FillPaint::Plain(_) => Vec::new(),
        }
    }

    /// Where its photo or drawing lies.
    pub fn placement_mut(&mut self) -> Option<&mut Placement> {
        match &mut self.paint {
            FillPaint::Photo(p) => Some(&mut p.placement),
            FillPaint::Tile(t) => Some(&mut t.placement),
            FillPaint::Drawing(d) => Some(&mut d.placement),
            FillPaint::Form(_) | FillPaint::Window(_) | FillPaint::Plain(_) => None,
        }
    }

    /// Moves, turns, scales, slants or mirrors it. False for another window that it shows, which can be moved, turned and scaled evenly alone:
    /// that stays where it is.
    pub(crate) fn transform(&mut self, by: Affine) -> bool {
        match &mut self.paint {
            FillPaint::Photo(p) => p.placement = p.placement.transformed(by),
            // a pattern is laid by turn, slant and one scale
            FillPaint::Tile(t) => t.placement = Placement { pull: None, ..t.placement.transformed(by) },
            FillPaint::Drawing(d) => d.placement = d.placement.transformed(by),
            FillPaint::Form(f) => {
                f.form.transform(by);
                f.paint.transform(by);
            }
            FillPaint::Window(window) => match Similarity::of(by) {
                Some(by) => window.by = window.by.then(&by),
                None => return false,
            },
            FillPaint::Plain(paint) => paint.transform(by),
        }
        true
    }
}

impl Opening {
    /// A form of the list or of a list within it.
    pub fn form(&self, id: FormId) -> Option<&Form> {
        find(&self.forms, id)
    }

    /// A form by its identifier, lists included, to be changed.
    pub fn form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        find_mut(&mut self.forms, id)
    }

    /// The list that holds a form, and its place there.
    pub fn place_mut(&mut self, id: FormId) -> Option<(&mut Vec<Form>, usize)> {
        place_mut(&mut self.forms, id)
    }

    /// Every form, lists before what they hold.
    pub fn all(&self) -> Vec<&Form> {
        let mut all = Vec::new();
        gather(&self.forms, &mut all);
        all
    }
}

fn find(forms: &[Form], id: FormId) -> Option<&Form> {
    forms.iter().find_map(|f| match &f.shape {
        _ if f.id == id => Some(f),
        FormShape::List { forms } => find(forms, id),
        _ => None,
    })
}

fn find_mut(forms: &mut [Form], id: FormId) -> Option<&mut Form> {
    for form in forms {
        if form.id == id {
            return Some(form);
        }
        if let FormShape::List { forms } = &mut form.shape
            && let Some(found) = find_mut(forms, id)
        {
            return Some(found);
        }
    }
    None
}

fn place_mut(forms: &mut Vec<Form>, id: FormId) -> Option<(&mut Vec<Form>, usize)> {
    if let Some(at) = forms.iter().position(|f| f.id == id) {
        return Some((forms, at));
    }
    forms.iter_mut().find_map(|f| match &mut f.shape {
        FormShape::List { forms } => place_mut(forms, id),
        _ => None,
    })
}

fn gather<'a>(forms: &'a [Form], all: &mut Vec<&'a Form>) {
    for form in forms {
        all.push(form);
        if let FormShape::List { forms } = &form.shape {
            gather(forms, all);
        }
    }
}
