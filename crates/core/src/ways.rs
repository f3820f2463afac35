//! The least costly ways through the pixels of a grid.

/// The most that a pixel costs.
const MOST: u32 = 1_100;
/// What a step to the side and one across a corner count: their ratio is about the square root of 2.
pub(crate) const ASIDE: u32 = 5;
const ACROSS: u32 = 7;
/// Queues for every sum of costs that can wait at a time.
const QUEUES: usize = (ACROSS * MOST) as usize + 1;

/// The least costly ways from one pixel to others.
pub(crate) struct Ways {
    /// What the way to each pixel costs: five times its pixels' costs where it runs straight; `u32::MAX` where none leads to.
    pub cost: Vec<u32>,
    before: Vec<usize>,
}

impl Ways {
    /// Dijkstra's algorithm over the eight neighbours of each pixel of a grid, with a queue for every cost (R. Dial, "Shortest-path forest with topological
    /// ordering", 1969).
    ///
    /// A step costs its length times what `pass` says of the pixel that it leads to, from 1 to `MOST`; None where nothing passes. Once `end` is
    /// reached, no other ways are looked for.
    pub fn new((w, h): (usize, usize), start: usize, end: Option<usize>, pass: impl Fn(usize) -> Option<u32>) -> Self {
        let mut found = Self { cost: vec![u32::MAX; w * h], before: vec![usize::MAX; w * h] };
        found.cost[start] = 0;
        let mut queues: Vec<Vec<usize>> = vec![Vec::new(); QUEUES];
        queues[0].push(start);
        let (mut waiting, mut now) = (1, 0_u32);
        while waiting > 0 {
            while let Some(at) = queues[now as usize % QUEUES].pop() {
                waiting -= 1;
                if found.cost[at] != now {
                    continue;
                }
                if Some(at) == end {
                    return found;
                }
                let (x, y) = (at % w, at / w);
                for (dx, dy) in [(1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (1, -1), (-1, 1), (-1, -1)] {
                    let (Some(u), Some(v)) = (x.checked_add_signed(dx), y.checked_add_signed(dy)) else { continue };
                    if u >= w || v >= h {
                        continue;
                    }
                    let next = v * w + u;
                    let Some(cost) = pass(next) else { continue };
                    let sum = now + cost.clamp(1, MOST) * if dx != 0 && dy != 0 { ACROSS } else { ASIDE };
                    if sum < found.cost[next] {
                        (found.cost[next], found.before[next]) = (sum, at);
                        queues[sum as usize % QUEUES].push(next);
                        waiting += 1;
                    }
                }
            }
            now += 1;
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
