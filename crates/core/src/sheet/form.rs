//! An opening's forms: what each one is, where it lies, and how it acts on those before it.

use super::{BasicShape, Brush, Contour, DrawingId, FontId, FormId, Pose};
use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// One element of an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Form {
    pub id: FormId,
    /// How it acts on what stands before it; the first form is always added.
    #[serde(default)]
    pub join: Join,
    /// Left out of the opening for now.
    #[serde(default)]
    pub off: bool,
    pub pose: Pose,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub bend: Option<Bend>,
    /// The form is the line along its outline, instead of what the outline holds.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub line: Option<OwnLine>,
    pub shape: FormShape,
}

/// How a form acts on what stands before it in the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
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
pub enum FormShape {
    Lettering(Lettering),
    Basic(BasicShape),
    Contour(Contour),
    Drawing(Drawing),
    Brush(Brush),
    /// Forms gathered into one, joined among themselves in a space of their own.
    List {
        forms: Vec<Form>,
    },
}

/// Type that stays type. Its origin is the middle of its first baseline for centred lines, the left or right
/// end of it otherwise.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
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
    /// OpenType features that differ from the font's own choice.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub features: Vec<Feature>,
    /// Letters that are moved on their own.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub letters: Vec<LetterShift>,
    /// The edge that the lines run along, instead of running straight.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub along: Option<Along>,
}

/// How lettering runs along the edge of another form of its list.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Along {
    pub form: FormId,
    /// The letters stand on the inside of the edge and read the other way round.
    #[serde(default)]
    pub inside: bool,
    /// How far its anchor lies from the topmost point of the edge (from the lowest one inside), as a share of the edge's length.
    #[serde(default)]
    pub start: f64,
    /// How far the baseline lies off the edge, in thousandths of the em.
    #[serde(default)]
    pub off: f64,
}

fn one() -> f64 {
    1.0
}

/// An OpenType feature, switched on or off.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Feature {
    /// Its registered tag of four characters, such as `smcp`.
    pub tag: String,
    pub on: bool,
}

/// How one letter departs from its place in the line. Turn and scale are about the middle of the letter.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct LetterShift {
    /// Which character of the text, counted from 0, line ends included.
    pub at: usize,
    /// Thousandths of the em, to the right.
    pub dx: f64,
    /// Thousandths of the em, downwards.
    pub dy: f64,
    /// Clockwise, in degrees.
    pub turn: f64,
    pub scale: f64,
}

/// To which side lines are set flush.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Align {
    Left,
    #[default]
    Centre,
    Right,
}

/// An imported drawing as one compound outline. Its own space is in millimetres with the drawing's centre at the origin.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Drawing {
    pub drawing: DrawingId,
    /// Pieces below this area, in square millimetres on the drawing's own scale, are left out.
    #[serde(default)]
    pub specks: f64,
    /// Single pieces picked off, by their place in the drawing.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub picked_off: Vec<u32>,
}

/// A bend of a whole form along its width.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Bend {
    #[serde(alias = "way")]
    pub kind: BendKind,
    /// From -1 to 1; 0 leaves the form as it is.
    pub amount: f64,
}

/// The ways to bend a form.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum BendKind {
    /// Along a circle whose middle is highest, what stands on it fanning out.
    BowUp,
    /// Along a circle whose middle is lowest.
    BowDown,
    /// One wave from end to end.
    Ripple,
    /// Raised in the middle, what stands on it staying upright.
    Banner,
    /// Taller in the middle.
    Swell,
    /// Lower in the middle.
    Pinch,
    /// Rising from end to end.
    Climb,
}

/// The line along an outline as a form of its own.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct OwnLine {
    /// Millimetres.
    pub width: f64,
    pub side: LineSide,
    pub corners: LineCorner,
    pub ends: LineEnd,
}

/// Where a line runs along an outline.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum LineSide {
    Inside,
    Centre,
    Outside,
}

/// How a line goes round a corner (the SVG `stroke-linejoin` values).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum LineCorner {
    Miter,
    Round,
    Bevel,
}

/// How a line ends (the SVG `stroke-linecap` values).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum LineEnd {
    Butt,
    Round,
    Square,
}

impl Lettering {
    /// A text without anything done to it, centred. The size is in millimetres.
    pub fn plain(text: impl Into<String>, font: FontId, size: f64) -> Self {
        Self {
            text: text.into(),
            font,
            size,
            tracking: 0.0,
            leading: 1.0,
            align: Align::Centre,
            features: Vec::new(),
            letters: Vec::new(),
            along: None,
        }
    }
}

impl Form {
    /// A form with no bend and no line, added.
    pub fn new(id: FormId, pose: Pose, shape: FormShape) -> Self {
        Self { id, join: Join::Add, off: false, pose, bend: None, line: None, shape }
    }

    /// Moves, scales, turns, mirrors or slants the form; `by` is in the space its pose leads to.
    ///
    /// Even scaling changes the size of type and shapes, and the width of the form's line; type keeps its size under uneven
    /// scaling and is stretched, shapes take it into their width and height.
    pub fn transform(&mut self, by: Affine) {
        self.pose = self.pose.transformed(by);
        let factor = by.determinant().abs().sqrt();
        let even = is_even(by);
        if even && let Some(line) = &mut self.line {
            line.width *= factor;
        }
        match &mut self.shape {
            FormShape::Lettering(l) if even => {
                l.size *= factor;
                self.pose.wide /= factor;
                self.pose.tall /= factor;
            }
            FormShape::Basic(basic) => {
                let (wide, tall) = (self.pose.wide, self.pose.tall);
                basic.stretch(wide.abs(), tall.abs());
                self.pose.wide = wide.signum();
                self.pose.tall = tall.signum();
            }
            _ => {}
        }
        self.pose.wide = tidy(self.pose.wide);
        self.pose.tall = tidy(self.pose.tall);
    }

    /// All lettering in it, its own list's included.
    pub fn letterings(&self) -> Vec<&Lettering> {
        match &self.shape {
            FormShape::Lettering(l) => vec![l],
            FormShape::List { forms } => forms.iter().flat_map(Form::letterings).collect(),
            _ => Vec::new(),
        }
    }

    /// Nodes and brush places that it holds by itself, without those of a list.
    pub fn points(&self) -> usize {
        match &self.shape {
            FormShape::Contour(contour) => contour.nodes(),
            FormShape::Brush(brush) => brush.points(),
            _ => 0,
        }
    }

    /// The imported drawings in it, its own list's included.
    pub fn drawings(&self) -> Vec<&DrawingId> {
        match &self.shape {
            FormShape::Drawing(d) => vec![&d.drawing],
            FormShape::List { forms } => forms.iter().flat_map(Form::drawings).collect(),
            _ => Vec::new(),
        }
    }

    /// A name after what it is.
    pub fn label(&self) -> String {
        match &self.shape {
            FormShape::Lettering(l) => {
                let line = l.text.split_whitespace().collect::<Vec<_>>().join(" ");
                if line.is_empty() { "Lettering".into() } else { line }
            }
            FormShape::Basic(basic) => basic.figure.label().into(),
            FormShape::Contour(_) => "Contour".into(),
            FormShape::Drawing(_) => "Drawing".into(),
            FormShape::Brush(_) => "Brushed area".into(),
            FormShape::List { .. } => "List".into(),
        }
    }
}

/// Whether a map scales by the same factor in every direction, mirrored or not.
fn is_even(by: Affine) -> bool {
    let [a, b, c, d, ..] = by.as_coeffs();
    let size = a.abs().max(b.abs()).max(c.abs()).max(d.abs());
    let near = |x: f64, y: f64| (x - y).abs() <= 1e-9 * size;
    (near(a, d) && near(b, -c)) || (near(a, -d) && near(b, c))
}

/// A factor without the dust of rounding about 1 and -1.
fn tidy(v: f64) -> f64 {
    if (v.abs() - 1.0).abs() < 1e-9 { v.signum() } else { v }
}
