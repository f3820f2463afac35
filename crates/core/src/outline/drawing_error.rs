//! Why a drawing cannot be brought in.

/// Why a drawing cannot be brought in.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum DrawingError {
    #[error("This drawing is larger than 16 MiB. Save it with fewer details.")]
    TooLarge,
    #[error("This file is not an SVG drawing that can be read.")]
    Unreadable,
    #[error("This drawing carries a script. Save it without the script and bring it in again.")]
    Script,
    #[error(
        "This drawing refers to something outside of itself (“{0}”), which is never read. Embed it, or take it out."
    )]
    Outside(String),
    #[error("A part of this drawing refers to itself (“{0}”). It cannot be drawn.")]
    Cyclic(String),
    #[error("This drawing has more than 200,000 nodes. Simplify it before you bring it in.")]
    TooManyNodes,
    #[error("The text “{0}” needs a font that is not here. Turn it into outlines, or bring the font in first.")]
    NoFont(String),
    #[error("There is nothing in this drawing that makes an outline.")]
    Empty,
    #[error("This drawing has numbers that are not finite or far too large.")]
    Numbers,
}
