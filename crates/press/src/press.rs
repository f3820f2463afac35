//! A printing condition, and the colours that it prints.

use crate::Lab;

/// How much of the paper each ink covers, 0 to 1: cyan, magenta, yellow, black.
pub type Inks = [f64; 4];

/// A printing condition: inks on a paper.
///
/// Its colours follow the equations of Neugebauer (1937) with the weights of Demichel, and the factor of Yule and Nielsen (1951) for the light that
/// spreads in the paper.
#[derive(Debug)]
pub struct Press {
    /// A short name for files and commands: letters, digits and dashes.
    pub id: &'static str,
    /// What people call it.
    pub name: &'static str,
    /// The colour of the bare paper, relative to the perfect diffuser under D50.
    pub paper: Lab,
    /// The colours of solid inks, relative to the perfect diffuser: cyan, magenta, yellow, cyan on magenta, cyan on yellow, magenta on yellow, all
    /// three, black.
    pub(crate) solids: [Lab; 8],
    /// How much a dot that covers half of the paper grows on it, as a share of the paper: for each ink.
    pub(crate) dot_gain: [f64; 4],
    /// The factor of Yule and Nielsen.
    pub(crate) spread: f64,
    /// The most ink that the paper takes, as a sum of shares: 3 is 300 %.
    pub ink_limit: f64,
    /// The thinnest line that is held, in millimetres.
    pub least_line: f64,
}

/// Of black over other inks: how much they darken it.
const UNDER_BLACK: f64 = 0.4;

impl Press {
    /// How much of the paper a dot covers that should cover `share` of it: at most at the half, nothing at the ends.
    pub(crate) fn grown(&self, ink: usize, share: f64) -> f64 {
        share + 4.0 * self.dot_gain[ink] * share * (1.0 - share)
    }

    /// The colours of all overprints as shares of the paper's X, Y and Z, each to the power of 1 / n. Bits of the index: cyan 1, magenta 2, yellow 4,
    /// black 8.
    pub(crate) fn primaries(&self) -> [[f64; 3]; 16] {
        let paper = self.paper.shares();
        let [cyan, magenta, yellow, blue, green, red, three, black] = self.solids.map(|solid| {
            let xyz = solid.shares();
            std::array::from_fn(|k| xyz[k] / paper[k])
        });
        let light = [[1.0; 3], cyan, magenta, blue, yellow, green, red, three];
        std::array::from_fn(|index| {
            let chromatic: [f64; 3] = light[index & 7];
            let shares: [f64; 3] = match index & 8 {
                0 => chromatic,
                _ => std::array::from_fn(|k| black[k] * chromatic[k].powf(UNDER_BLACK)),
            };
            shares.map(|t| t.max(0.0).powf(1.0 / self.spread))
        })
    }

    /// The colour of so much of each ink, relative to the paper: bare paper is 100, 0, 0.
    pub fn printed(&self, inks: Inks) -> Lab {
        Model::of(self).printed(inks)
    }

    /// A colour that is relative to the paper, relative to the perfect diffuser under D50: what a measuring device says.
    pub fn measured(&self, colour: Lab) -> Lab {
        let (of, paper) = (colour.shares(), self.paper.shares());
        Lab::from_shares(std::array::from_fn(|k| of[k] * paper[k]))
    }
}

/// A press, prepared for many colours.
pub(crate) struct Model<'a> {
    pub press: &'a Press,
    primaries: [[f64; 3]; 16],
}

impl<'a> Model<'a> {
    pub fn of(press: &'a Press) -> Self {
        Self { press, primaries: press.primaries() }
    }

    pub fn printed(&self, inks: Inks) -> Lab {
        self.covered(std::array::from_fn(|k| self.press.grown(k, inks[k].clamp(0.0, 1.0))))
    }

    /// The colour where dots cover so much of the paper, grown as they are.
    pub fn covered(&self, covered: Inks) -> Lab {
        let mut sum = [0.0; 3];
        for (index, primary) in self.primaries.iter().enumerate() {
            // dots lie on one another by chance (Demichel 1924)
            let weight: f64 =
                (0..4).map(|ink| if index & (1 << ink) == 0 { 1.0 - covered[ink] } else { covered[ink] }).product();
            for (sum, primary) in sum.iter_mut().zip(primary) {
                *sum += weight * primary;
            }
        }
        Lab::from_shares(sum.map(|v| v.powf(self.press.spread)))
    }

    /// The darkest colour within the ink limit.
    pub fn darkest(&self) -> Lab {
        let each = ((self.press.ink_limit - 1.0) / 3.0).min(1.0);
        self.printed([each, each, each, 1.0])
    }
}
