//! Numbers of the tree that cannot hold a wrong value.

/// A share from 0 to 1: opacities, places of gradient stops.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct Share(f64);

impl Share {
    /// Nothing of it.
    pub const NONE: Self = Self(0.0);
    /// All of it.
    pub const WHOLE: Self = Self(1.0);

    /// The nearest share; 0 for what is not a number.
    ///
    /// ```
    /// use inky_core::scene::tree::Share;
    /// assert_eq!(Share::new(1.7), Share::WHOLE);
    /// assert_eq!(Share::new(f64::NAN), Share::NONE);
    /// ```
    pub fn new(value: f64) -> Self {
        Self(if value.is_nan() { 0.0 } else { value.clamp(0.0, 1.0) })
    }

    /// From 0 to 1.
    pub fn get(self) -> f64 {
        self.0
    }

    /// Whether it is all.
    pub fn is_whole(self) -> bool {
        self.0 >= 1.0
    }
}

/// A length in millimetres, 0 or more and finite: widths of strokes, standard deviations of blurs.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct Length(f64);

impl Length {
    /// No length.
    pub const ZERO: Self = Self(0.0);

    /// The nearest length; 0 for what is not finite.
    ///
    /// ```
    /// use inky_core::scene::tree::Length;
    /// assert_eq!(Length::new(-2.0), Length::ZERO);
    /// assert_eq!(Length::new(0.5).mm(), 0.5);
    /// ```
    pub fn new(mm: f64) -> Self {
        Self(if mm.is_finite() { mm.max(0.0) } else { 0.0 })
    }

    /// Millimetres.
    pub fn mm(self) -> f64 {
        self.0
    }

    /// Whether it has no length.
    pub fn is_zero(self) -> bool {
        self.0 <= 0.0
    }
}
