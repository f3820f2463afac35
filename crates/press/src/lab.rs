//! CIELAB (CIE 15:2004, section 8.2.1).

/// A colour in CIELAB, relative to a white: the perfect diffuser under D50, or a paper where that is said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lab {
    /// Lightness, 0 to 100.
    pub l: f64,
    /// From green (below 0) to red.
    pub a: f64,
    /// From blue (below 0) to yellow.
    pub b: f64,
}

/// Where the cube root gives way to a straight line: (6/29)³.
const LINEAR_UP_TO: f64 = 216.0 / 24_389.0;
/// The slope of that line.
const SLOPE: f64 = 841.0 / 108.0;

impl Lab {
    /// A colour.
    pub const fn new(l: f64, a: f64, b: f64) -> Self {
        Self { l, a, b }
    }

    /// From tristimulus values, each as a share of the white's.
    pub fn from_shares(xyz: [f64; 3]) -> Self {
        let [x, y, z] = xyz.map(|t| if t > LINEAR_UP_TO { t.cbrt() } else { SLOPE * t + 4.0 / 29.0 });
        Self::new(116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z))
    }

    /// Tristimulus values X, Y and Z, each as a share of the white's.
    pub fn shares(self) -> [f64; 3] {
        let y = (self.l + 16.0) / 116.0;
        [y + self.a / 500.0, y, y - self.b / 200.0].map(|f| {
            let cube = f * f * f;
            if cube > LINEAR_UP_TO { cube } else { (f - 4.0 / 29.0) / SLOPE }
        })
    }

    /// How far two colours lie apart: ΔE*ab (CIE 15:2004, section 8.2.1.3).
    pub fn distance(self, other: Self) -> f64 {
        let [l, a, b] = [self.l - other.l, self.a - other.a, self.b - other.b];
        (l * l + a * a + b * b).sqrt()
    }

    /// Distance from grey.
    pub fn chroma(self) -> f64 {
        self.a.hypot(self.b)
    }
}
