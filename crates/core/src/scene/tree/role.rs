//! What a node is for, to those who handle the piece that it is part of.

use crate::sheet::FillId;

/// The role of a node. It changes nothing of how the node is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Role {
    /// Which drags take the node along.
    pub moves: Moves,
    pub shows: Shows,
}

/// Which drags take a node along while they last.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Moves {
    /// Only those of the whole piece.
    #[default]
    WithPiece,
    WithOpening,
    WithFill(FillId),
    /// Those of the opening, and those of the fill.
    WithBoth(FillId),
}

/// What is seen of a node.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Shows {
    /// Nothing that could be taken hold of by itself.
    #[default]
    Part,
    Fill(FillId),
    /// What a fill lets out over the edge.
    Breakout(FillId),
    /// One pane of the piece, by its place among them.
    Pane(u32),
    /// One member of a repeated piece, by its place among them.
    Member(u32),
}

impl Role {
    /// Goes along with the opening.
    pub const OPENING: Self = Self { moves: Moves::WithOpening, shows: Shows::Part };

    /// No role of its own.
    pub const PART: Self = Self { moves: Moves::WithPiece, shows: Shows::Part };

    /// What moves so, and shows nothing by itself.
    pub fn moving(moves: Moves) -> Self {
        Self { moves, shows: Shows::Part }
    }

    /// The same, showing something.
    pub fn showing(self, shows: Shows) -> Self {
        Self { shows, ..self }
    }
}
