//! Every change to an opening there is.

use crate::sheet::{CellChoice, FontId, Form, FormId, Join, OpenSide};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A change to an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "change", rename_all = "snake_case")]
pub enum OpeningChange {
    /// At the end of the opening's own list.
    AddForm {
        form: Form,
    },
    /// A word, set into the opening's width.
    AddWord {
        form: FormId,
        text: String,
        font: FontId,
        join: Join,
    },
    /// Takes the place of the form with the same identifier: one of the opening, or one that fills the window.
    SetForm {
        form: Form,
    },
    SetJoin {
        form: FormId,
        join: Join,
    },
    SwitchForm {
        form: FormId,
        off: bool,
    },
    RemoveForms {
        forms: Vec<FormId>,
    },
    CopyForm {
        form: FormId,
        copy: FormId,
    },
    /// To the place `to` of the opening's own list, or of the list `into`.
    OrderForm {
        form: FormId,
        #[serde(default)]
        #[ts(optional = nullable)]
        into: Option<FormId>,
        to: usize,
    },
    /// Gathers neighbours of one list into a new list, in the place of the first of them.
    Gather {
        forms: Vec<FormId>,
        list: FormId,
    },
    /// Puts the forms of a list in its place.
    Spread {
        list: FormId,
    },
    /// Moves, scales, turns, mirrors or slants forms in sheet space: those of the opening, and those that fill the window; all of the
    /// opening's own list where none is named. SVG's order of coefficients.
    Transform {
        forms: Vec<FormId>,
        by: [f64; 6],
    },
    SetCells {
        cells: Vec<CellChoice>,
    },
    /// How the joined outline is reshaped; millimetres.
    Reshape {
        grow: f64,
        rounding: f64,
        simplify: f64,
    },
    /// Sides at which nothing is cut.
    OpenSides {
        sides: Vec<OpenSide>,
    },
    /// Freezes a form into nodes that lie inside of its edge by a width in millimetres; outside where it is negative.
    StepInside {
        form: FormId,
        by: f64,
    },
    /// Freezes a form into nodes.
    Bake {
        form: FormId,
    },
    /// Freezes the whole opening into one form of nodes.
    BakeAll {
        form: FormId,
    },
}
