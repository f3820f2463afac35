//! What shows through an opening: photos, drawings, tiles, lettering, other windows, colours.

use super::paint::{is_whole, whole};
use super::{Blend, DrawingId, FillId, Form, Paint, PanePath, PhotoId, PieceId, Placement, Similarity, Tone};
use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

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
    /// The one pane that shows it, in place of what the others show.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pane: Option<PanePath>,
    /// The one member of a repeated window that shows it, in place of what the others show.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub member: Option<u32>,
    /// The one member of the nearest repeated bundle around the window that shows it, in place of what the others show.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub bundle_member: Option<u32>,
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

    /// Whether the whole window shows it wherever it is seen, not just one pane or one member.
    pub fn is_common(&self) -> bool {
        self.pane.is_none() && self.member.is_none() && self.bundle_member.is_none()
    }

    /// A fill that stays on the sheet as it is.
    pub fn new(id: FillId, paint: FillPaint) -> Self {
        Self {
            id,
            paint,
            strength: 1.0,
            blend: Blend::Normal,
            follows_opening: false,
            off: false,
            pane: None,
            member: None,
            bundle_member: None,
        }
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
