//! A window: an opening, what shows through it, and what reaches over its edge.

use super::{Colour, FillId, FontId, FormId, PhotoId, Placement, Pose};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A piece made of an opening, fills and a breakout.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Window {
    pub opening: Opening,
    /// What shows through, from back to front.
    pub fills: Vec<Fill>,
    #[serde(default)]
    pub breakout: Breakout,
}

/// The compound outline of a window, as the list of forms it is computed from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Opening {
    /// In the order in which they are joined.
    pub forms: Vec<Form>,
}

/// One element of an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Form {
    pub id: FormId,
    /// How it acts on what stands before it; the first form is always added.
    #[serde(default)]
    pub join: Join,
    pub pose: Pose,
    pub shape: FormShape,
}

/// How a form acts on what stands before it in the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[ts(export)]
pub enum Join {
    #[default]
    Add,
    CutAway,
    KeepShared,
    DropShared,
}

/// What a form is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[ts(export)]
pub enum FormShape {
    Lettering(Lettering),
}

/// Type that stays type. Its origin is the middle of its first baseline for centred lines, the left or right
/// end of it otherwise.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Lettering {
    /// One or several lines, parted by `\n`.
    pub text: String,
    pub font: FontId,
    /// Height of the em square in millimetres.
    pub size: f64,
    /// Added between neighbouring letters, in thousandths of the em.
    #[serde(default)]
    pub tracking: f64,
    /// Distance of baselines, as a multiple of the size.
    #[serde(default = "one")]
    pub leading: f64,
    #[serde(default)]
    pub align: Align,
}

fn one() -> f64 {
    1.0
}

/// To which side lines are set flush.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
#[ts(export)]
pub enum Align {
    Left,
    #[default]
    Centre,
    Right,
}

/// One layer of what shows through an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Fill {
    pub id: FillId,
    pub paint: FillPaint,
}

/// What a fill is made of.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[ts(export)]
pub enum FillPaint {
    Colour { colour: Colour },
    Photo(PhotoFill),
}

/// A photo behind an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct PhotoFill {
    pub photo: PhotoId,
    pub placement: Placement,
}

/// The overhangs that are let out.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Breakout {
    pub let_out: Vec<Anchor>,
}

/// A point of the subject that is let out, and with it the part it lies in.
///
/// It is kept in photo space, so that the choice stays with the arm it was made for when photo or opening move.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
pub struct Anchor {
    pub fill: FillId,
    /// Pixels of the photo.
    pub x: f64,
    /// Pixels of the photo.
    pub y: f64,
}

impl Window {
    /// A name after its lettering.
    pub fn label(&self) -> String {
        let Some(FormShape::Lettering(l)) = self.opening.forms.first().map(|f| &f.shape) else {
            return "Opening".into();
        };
        let line = l.text.split_whitespace().collect::<Vec<_>>().join(" ");
        if line.is_empty() { "Lettering".into() } else { line }
    }

    /// The lettering of a form.
    pub fn lettering(&self, id: FormId) -> Option<&Lettering> {
        self.opening.forms.iter().find(|f| f.id == id).map(|f| {
            let FormShape::Lettering(l) = &f.shape;
            l
        })
    }

    pub fn form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        self.opening.forms.iter_mut().find(|f| f.id == id)
    }

    pub fn fill_mut(&mut self, id: FillId) -> Option<&mut Fill> {
        self.fills.iter_mut().find(|f| f.id == id)
    }

    /// The photo fills, from back to front.
    pub fn photos(&self) -> impl Iterator<Item = (FillId, &PhotoFill)> {
        self.fills.iter().filter_map(|f| match &f.paint {
            FillPaint::Photo(p) => Some((f.id, p)),
            FillPaint::Colour { .. } => None,
        })
    }
}

impl FormShape {
    /// Scales the form about its own origin.
    pub fn scale_by(&mut self, factor: f64) {
        match self {
            FormShape::Lettering(l) => l.size *= factor,
        }
    }
}
