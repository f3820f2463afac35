//! The least costly ways through the pixels of a grid.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

/// The least costly ways from one pixel to others.
pub(crate) struct Ways {
    /// What the way to each pixel costs; infinite where none leads to.
    pub cost: Vec<f64>,
    before: Vec<usize>,
}

impl Ways {
    /// Dijkstra's algorithm over the eight neighbours of each pixel of a grid.
    ///
    /// A step costs its length times what `pass` says of the pixel that it leads to, 0 or more; None where nothing passes. Once `end` is reached,
    /// no other ways are looked for.
    pub fn new((w, h): (usize, usize), start: usize, end: Option<usize>, pass: impl Fn(usize) -> Option<f64>) -> Self {
        let mut found = Self { cost: vec![f64::INFINITY; w * h], before: vec![usize::MAX; w * h] };
        found.cost[start] = 0.0;
        // numbers of 0 and more are in the order of their bits
        let mut front = BinaryHeap::from([Reverse((0_u64, start))]);
        while let Some(Reverse((bits, at))) = front.pop() {
            if Some(at) == end {
                break;
            }
            if bits > found.cost[at].to_bits() {
                continue;
            }
            let (x, y) = (at % w, at / w);
            for (dx, dy) in [(1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (1, -1), (-1, 1), (-1, -1)] {
                let (Some(u), Some(v)) = (x.checked_add_signed(dx), y.checked_add_signed(dy)) else { continue };
                if u >= w || v >= h {
                    continue;
                }
                let next = v * w + u;
                let Some(cost) = pass(next) else { continue };
                let length = if dx != 0 && dy != 0 { std::f64::consts::SQRT_2 } else { 1.0 };
                let sum = found.cost[at] + length * cost;
                if sum < found.cost[next] {
                    (found.cost[next], found.before[next]) = (sum, at);
                    front.push(Reverse((sum.to_bits(), next)));
                }
            }
        }
        found
    }

    /// The pixels of the way to one of them, from the start on; it alone where no way leads to.
    pub fn way_to(&self, end: usize) -> Vec<usize> {
        let mut way = vec![end];
        let mut at = end;
        while self.before[at] != usize::MAX {
            at = self.before[at];
            way.push(at);
        }
        way.reverse();
        way
    }
}
