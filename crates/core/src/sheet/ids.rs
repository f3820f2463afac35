//! Identifiers. Those of pieces, forms and fills are made up once; those of photos and subjects are content hashes.

use serde::{Deserialize, Serialize};
use std::fmt;
use ts_rs::TS;
use uuid::Uuid;

macro_rules! uuid_id {
    ($($(#[$doc:meta])* $name:ident),* $(,)?) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, TS)]
        #[serde(transparent)]
        #[ts(type = "string")]
        pub struct $name(pub Uuid);

        impl $name {
            /// A new identifier, later ones sorting after earlier ones.
            pub fn fresh() -> Self {
                Self(Uuid::now_v7())
            }

            /// The identifier of the copy of this one that is made within `copy`: always the same, so that an edit does the same whenever it is
            /// made. UUID version 5 (RFC 9562).
            pub fn copied_within(self, copy: Uuid) -> Self {
                Self(Uuid::new_v5(&copy, self.0.as_bytes()))
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                self.0.simple().fmt(f)
            }
        }
    )*};
}

macro_rules! text_id {
    ($($(#[$doc:meta])* $name:ident),* $(,)?) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, TS)]
        #[serde(transparent)]
        #[ts(type = "string")]
        pub struct $name(pub String);

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                self.0.fmt(f)
            }
        }

        impl From<&str> for $name {
            fn from(text: &str) -> Self {
                Self(text.to_owned())
            }
        }
    )*};
}

uuid_id! {
    /// A stored sheet.
    SheetId,
    /// A piece of a sheet.
    PieceId,
    /// A form of an opening.
    FormId,
    /// A fill of a window.
    FillId,
    /// A bundle of pieces.
    BundleId,
    /// An ink of a sheet.
    InkId,
    /// A rim, a shadow, a stroke: a member of a list, within that list.
    MemberId,
}

text_id! {
    /// SHA-256 of a photo's file, in lower-case hexadecimal digits.
    PhotoId,
    /// SHA-256 of a subject's matte (a PNG file), in lower-case hexadecimal digits.
    SubjectId,
    /// SHA-256 of an imported drawing's file, in lower-case hexadecimal digits.
    DrawingId,
    /// The short name of a font that comes with the application, or the SHA-256 of a font file in lower-case hexadecimal
    /// digits.
    FontId,
}
