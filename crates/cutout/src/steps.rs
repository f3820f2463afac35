//! The single steps of the chain, for those who want one of them alone or compare it with others.

pub use crate::chain::refined;
pub use crate::closed_form::{Matting, closed_form};
pub use crate::contrast::Contrast;
pub use crate::foreground::foreground;
pub use crate::grabcut::{Label, grabcut};
pub use crate::guided::enlarge_guided;
pub use crate::mixture::Rgb;
pub use crate::trimap::trimap;
pub use crate::working::colours_of;
