//! Pieces as sheets of earlier versions hold them.

use super::{BundleId, PhotoId, PieceId, PieceKind, Placement, Window};
use serde::Deserialize;

/// A piece as it is read.
#[derive(Deserialize)]
pub struct Piece {
    id: PieceId,
    #[serde(default)]
    name: Option<String>,
    #[serde(default)]
    hidden: bool,
    #[serde(default)]
    locked: bool,
    #[serde(default)]
    bundle: Option<BundleId>,
    kind: Kind,
}

#[derive(Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
enum Kind {
    Window(Box<Window>),
    /// A whole photo was a kind of its own once.
    Picture {
        photo: PhotoId,
        placement: Placement,
    },
}

impl From<Piece> for super::Piece {
    fn from(kept: Piece) -> Self {
        let Piece { id, name, hidden, locked, bundle, kind } = kept;
        let window = match kind {
            Kind::Window(window) => *window,
            Kind::Picture { photo, placement } => Window::picture(id, photo, placement),
        };
        Self { id, name, hidden, locked, bundle, kind: PieceKind::Window(window) }
    }
}
