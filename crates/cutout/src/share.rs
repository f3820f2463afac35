//! Shares that are the whole unless something else is said.

pub(crate) fn whole() -> f32 {
    1.0
}

pub(crate) fn is_whole(share: &f32) -> bool {
    *share == 1.0
}
