//! What nodes refer to definitions by: places in the lists of their own fragment.

macro_rules! definition_id {
    ($($(#[$doc:meta])* $name:ident),* $(,)?) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub struct $name(pub(super) u32);

        impl $name {
            /// Its place among the definitions of its kind.
            pub fn index(self) -> usize {
                self.0 as usize
            }
        }
    )*};
}

definition_id! {
    /// A [`Clip`](super::Clip) of the same fragment.
    ClipId,
    /// A [`Mask`](super::Mask) of the same fragment.
    MaskId,
    /// A [`Gradient`](super::Gradient) of the same fragment.
    GradientId,
    /// A [`Pattern`](super::Pattern) of the same fragment.
    PatternId,
    /// A [`ToneCurve`](super::ToneCurve) of the same fragment.
    ToneId,
}
