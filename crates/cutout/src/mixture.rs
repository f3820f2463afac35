//! Colours of one side of a cut as a mixture of Gaussians.

/// A colour in 0..255 per channel.
pub type Rgb = [f32; 3];

const COMPONENTS: usize = 5;

#[derive(Debug, Clone, Copy, Default)]
struct Gaussian {
    /// ln(weight) − ½ ln(det Σ)
    gain: f32,
    mean: Rgb,
    /// Σ⁻¹: xx, xy, xz, yy, yz, zz
    inverse: [f32; 6],
    used: bool,
}

/// Five Gaussians with full covariance, as in C. Rother et al., "GrabCut" (SIGGRAPH 2004).
#[derive(Debug, Clone)]
pub(crate) struct Mixture {
    parts: [Gaussian; COMPONENTS],
}

impl Mixture {
    /// Starts from k-means clusters of (a sample of) the colours. None without colours.
    pub fn start(colours: &[Rgb]) -> Option<Self> {
        let sample: Vec<Rgb> = colours.iter().step_by(colours.len().div_ceil(20_000).max(1)).copied().collect();
        let labels = cluster(&sample)?;
        let mut mixture = Self { parts: Default::default() };
        mixture.learn(&sample, &labels);
        Some(mixture)
    }

    /// Assigns every colour to its likeliest part and learns the parts anew.
    pub fn update(&mut self, colours: &[Rgb]) {
        if colours.is_empty() {
            return;
        }
        let labels: Vec<u8> = colours.iter().map(|c| self.likeliest(c)).collect();
        self.learn(colours, &labels);
    }

    /// −ln of the density at a colour, up to the constant 3/2 ln 2π.
    pub fn cost(&self, colour: &Rgb) -> f32 {
        let logs = self.parts.map(|p| if p.used { p.log_density(colour) } else { f32::NEG_INFINITY });
        let top = logs.iter().copied().fold(f32::NEG_INFINITY, f32::max);
        // what is a ten-millionth of the likeliest part cannot be seen beside it
        let share = |l: f32| if l - top < -16.0 { 0.0 } else { (l - top).exp() };
        -(top + logs.iter().map(|l| share(*l)).sum::<f32>().ln())
    }

    fn likeliest(&self, colour: &Rgb) -> u8 {
        let mut best = (0, f32::NEG_INFINITY);
        for (i, p) in self.parts.iter().enumerate().filter(|(_, p)| p.used) {
            let l = p.log_density(colour);
            if l > best.1 {
                best = (i as u8, l);
            }
        }
        best.0
    }

    fn learn(&mut self, colours: &[Rgb], labels: &[u8]) {
        let mut sums = [[0.0_f64; 10]; COMPONENTS];
        for (c, &l) in colours.iter().zip(labels) {
            let s = &mut sums[l as usize];
            let [x, y, z] = c.map(f64::from);
            for (s, v) in s.iter_mut().zip([1.0, x, y, z, x * x, x * y, x * z, y * y, y * z, z * z]) {
                *s += v;
            }
        }
        for (part, s) in self.parts.iter_mut().zip(&sums) {
            *part = Gaussian::from_sums(s, colours.len() as f64);
        }
    }
}

impl Gaussian {
    fn from_sums(s: &[f64; 10], total: f64) -> Self {
        let n = s[0];
        if n < 4.0 {
            return Self::default();
        }
        let m = [s[1] / n, s[2] / n, s[3] / n];
        let mut c = [
            s[4] / n - m[0] * m[0],
            s[5] / n - m[0] * m[1],
            s[6] / n - m[0] * m[2],
            s[7] / n - m[1] * m[1],
            s[8] / n - m[1] * m[2],
            s[9] / n - m[2] * m[2],
        ];
        let det = |c: &[f64; 6]| {
            c[0] * (c[3] * c[5] - c[4] * c[4]) - c[1] * (c[1] * c[5] - c[4] * c[2]) + c[2] * (c[1] * c[4] - c[3] * c[2])
        };
        let mut d = det(&c);
        if d <= 1e-6 {
            // one flat colour: give it a little width
            for k in [0, 3, 5] {
                c[k] = c[k].max(0.0) + 0.01;
            }
            d = det(&c).max(1e-6);
        }
        let inverse = [
            (c[3] * c[5] - c[4] * c[4]) / d,
            (c[2] * c[4] - c[1] * c[5]) / d,
            (c[1] * c[4] - c[2] * c[3]) / d,
            (c[0] * c[5] - c[2] * c[2]) / d,
            (c[1] * c[2] - c[0] * c[4]) / d,
            (c[0] * c[3] - c[1] * c[1]) / d,
        ];
        Self {
            gain: ((n / total).ln() - 0.5 * d.ln()) as f32,
            mean: m.map(|v| v as f32),
            inverse: inverse.map(|v| v as f32),
            used: true,
        }
    }

    fn log_density(&self, colour: &Rgb) -> f32 {
        let [x, y, z] = [colour[0] - self.mean[0], colour[1] - self.mean[1], colour[2] - self.mean[2]];
        let i = &self.inverse;
        let q = x * x * i[0] + y * y * i[3] + z * z * i[5] + 2.0 * (x * y * i[1] + x * z * i[2] + y * z * i[4]);
        self.gain - 0.5 * q
    }
}

fn distance(a: &Rgb, b: &Rgb) -> f32 {
    (0..3).map(|k| (a[k] - b[k]) * (a[k] - b[k])).sum()
}

/// Ten rounds of k-means from spread-out seeds (k-means++, with a fixed sequence so that results repeat).
fn cluster(colours: &[Rgb]) -> Option<Vec<u8>> {
    let mut centres = vec![*colours.get(colours.len() / 2)?];
    let mut state = 0x2545_f491_4f6c_dd1d_u64;
    let mut chance = || {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        (state >> 11) as f32 / (1_u64 << 53) as f32
    };
    while centres.len() < COMPONENTS {
        let far: Vec<f32> =
            colours.iter().map(|c| centres.iter().map(|m| distance(c, m)).fold(f32::INFINITY, f32::min)).collect();
        let mut left = chance() * far.iter().sum::<f32>();
        let pick = far.iter().position(|f| {
            left -= f;
            left <= 0.0
        });
        centres.push(colours[pick.unwrap_or(colours.len() - 1)]);
    }
    let nearest = |centres: &[Rgb], c: &Rgb| {
        let mut best = (0, f32::INFINITY);
        for (i, m) in centres.iter().enumerate() {
            let d = distance(c, m);
            if d < best.1 {
                best = (i, d);
            }
        }
        best.0
    };
    for _ in 0..10 {
        let mut sums = [[0.0_f64; 4]; COMPONENTS];
        for c in colours {
            let s = &mut sums[nearest(&centres, c)];
            for k in 0..3 {
                s[k] += f64::from(c[k]);
            }
            s[3] += 1.0;
        }
        for (m, s) in centres.iter_mut().zip(&sums).filter(|(_, s)| s[3] > 0.0) {
            *m = [s[0] / s[3], s[1] / s[3], s[2] / s[3]].map(|v| v as f32);
        }
    }
    Some(colours.iter().map(|c| nearest(&centres, c) as u8).collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn colours_of_its_own_cost_least() {
        let own: Vec<Rgb> = (0..600).map(|i| [200.0 + (i % 7) as f32, 40.0 + (i % 5) as f32, 30.0]).collect();
        let mut mixture = Mixture::start(&own).unwrap();
        mixture.update(&own);
        assert!(mixture.cost(&[203.0, 42.0, 30.0]) + 20.0 < mixture.cost(&[20.0, 60.0, 200.0]));
        assert!(mixture.cost(&[203.0, 42.0, 30.0]).is_finite());
        assert!(Mixture::start(&[]).is_none());
    }
}
