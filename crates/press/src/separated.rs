//! From a colour to the inks that print it.

use crate::press::Model;
use crate::{Inks, Lab, Press};
use nalgebra::{Matrix4, Vector4};

/// The inks for a colour.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Separated {
    /// Shares of the paper.
    pub inks: Inks,
    /// How far what is printed lies from the colour that was asked for: ΔE*ab. More than a few: the press cannot print it.
    pub off: f64,
}

/// Steps of the search at most.
const STEPS: usize = 40;
/// What a share of black costs that is not the one wished for, in ΔE: so little that a printable colour is met to a fraction of one.
const BLACK_WEIGHT: f64 = 3.0;
/// What ink over the limit costs, in ΔE for a whole share.
const LIMIT_WEIGHT: f64 = 300.0;

impl Press {
    /// The inks that print a colour, or the nearest one that the press can print. The colour is relative to the paper.
    ///
    /// Of all mixes for a colour the one with the black of the press's curve is taken: dark and grey colours get more of it.
    pub fn separated(&self, colour: Lab) -> Separated {
        Model::of(self).separated(colour)
    }
}

impl Model<'_> {
    /// See [`Press::separated`]. A damped least-squares search (Levenberg 1944, Marquardt 1963) within the bounds of the inks.
    pub fn separated(&self, colour: Lab) -> Separated {
        let black = self.black(colour);
        let mut inks = [0.4, 0.4, 0.4, black];
        let mut damping = 1e-2;
        let mut was = self.residuals(inks, colour, black);
        for _ in 0..STEPS {
            let (normal, gradient) = self.equations(inks, &was, colour, black);
            // what lies at its bound and would go beyond stays there
            let stays = |k: usize| (inks[k] <= 0.0 && gradient[k] > 0.0) || (inks[k] >= 1.0 && gradient[k] < 0.0);
            let mut reduced = normal;
            let mut wanted = -gradient;
            for k in (0..4).filter(|k| stays(*k)) {
                reduced.row_mut(k).fill(0.0);
                reduced.column_mut(k).fill(0.0);
                reduced[(k, k)] = 1.0;
                wanted[k] = 0.0;
            }
            let damped = reduced + Matrix4::from_diagonal(&(reduced.diagonal() * damping).add_scalar(1e-9));
            let Some(step) = damped.cholesky().map(|c| c.solve(&wanted)) else { break };
            let next: Inks = std::array::from_fn(|k| (inks[k] + step[k]).clamp(0.0, 1.0));
            let now = self.residuals(next, colour, black);
            if sum(&now) < sum(&was) {
                let gained = sum(&was) - sum(&now);
                (inks, was) = (next, now);
                damping = (damping * 0.3).max(1e-9);
                if gained < 1e-9 {
                    break;
                }
            } else {
                damping *= 8.0;
                if damping > 1e9 {
                    break;
                }
            }
        }
        let total: f64 = inks.iter().sum();
        if total > self.press.ink_limit {
            // the little that the search leaves over
            let most = self.press.ink_limit - inks[3];
            let chromatic = total - inks[3];
            (0..3).for_each(|k| inks[k] *= most / chromatic);
        }
        Separated { inks, off: self.printed(inks).distance(colour) }
    }

    /// The black that is wished for in a colour: none in light and in colourful ones.
    fn black(&self, colour: Lab) -> f64 {
        const FROM: f64 = 75.0;
        let darkest = self.darkest().l;
        let dark = ((FROM - colour.l) / (FROM - darkest)).clamp(0.0, 1.0);
        let grey = (1.0 - colour.chroma() / 80.0).clamp(0.0, 1.0);
        dark.powf(1.6) * (0.3 + 0.7 * grey)
    }

    /// What is left between a colour and what is printed; the squares are summed.
    fn residuals(&self, inks: Inks, colour: Lab, black: f64) -> [f64; 5] {
        let is = self.printed(inks);
        let over = (inks.iter().sum::<f64>() - self.press.ink_limit).max(0.0);
        [is.l - colour.l, is.a - colour.a, is.b - colour.b, BLACK_WEIGHT * (inks[3] - black), LIMIT_WEIGHT * over]
    }

    /// The normal equations at a place, by differences.
    fn equations(&self, inks: Inks, at: &[f64; 5], colour: Lab, black: f64) -> (Matrix4<f64>, Vector4<f64>) {
        const STEP: f64 = 1e-5;
        let slopes: [[f64; 5]; 4] = std::array::from_fn(|k| {
            let by = if inks[k] > 0.5 { -STEP } else { STEP };
            let mut beside = inks;
            beside[k] += by;
            let there = self.residuals(beside, colour, black);
            std::array::from_fn(|r| (there[r] - at[r]) / by)
        });
        let product = |a: &[f64; 5], b: &[f64; 5]| a.iter().zip(b).map(|(a, b)| a * b).sum::<f64>();
        let normal = Matrix4::from_fn(|i, j| product(&slopes[i], &slopes[j]));
        (normal, Vector4::from_fn(|i, _| product(&slopes[i], at)))
    }
}

fn sum(residuals: &[f64; 5]) -> f64 {
    residuals.iter().map(|r| r * r).sum()
}
