//! Photos: reading them safely, standing them upright in sRGB, and making them smaller.

mod decode;
mod resize;

pub use decode::{PhotoError, decode};
pub use resize::{levels, resize};
