//! Minimum cut on a grid of pixels with eight neighbours.
//!
//! The augmenting-path algorithm of Y. Boykov and V. Kolmogorov, "An Experimental Comparison of Min-Cut/Max-Flow
//! Algorithms for Energy Minimization in Vision" (PAMI 2004), on an implicit graph: neighbours are reached by
//! offsets in a grid that is padded by one pixel, so no edge list is kept.

use std::collections::VecDeque;

/// The eight directions in pairs of opposites: direction `d` is undone by `d ^ 1`.
pub(crate) const DIRECTIONS: [(i64, i64); 8] = [(1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (-1, -1), (1, -1), (-1, 1)];

const FREE: u8 = 255;
const TERMINAL: u8 = 8;
const ORPHAN: u8 = 9;

/// What is known of a pixel: together, since the search asks for all of it at once.
#[derive(Clone, Copy)]
struct Node {
    /// Residual capacity from the source where positive, to the sink where negative.
    terminal: f32,
    stamp: u32,
    distance: u32,
    /// The direction of the parent in the search tree, or one of FREE, TERMINAL, ORPHAN.
    parent: u8,
    in_sink_tree: bool,
    is_active: bool,
}

const EMPTY: Node = Node { terminal: 0.0, stamp: 0, distance: 0, parent: FREE, in_sink_tree: false, is_active: false };

/// A cut problem. Capacities are not negative.
pub(crate) struct GridCut {
    /// The first column and row that it has nodes for, and how many columns.
    origin: (usize, usize),
    width: usize,
    offset: [isize; 8],
    /// Residual capacity from a pixel in each direction.
    capacity: Vec<[f32; 8]>,
    nodes: Vec<Node>,
    /// Those that have been pulled.
    pulled: Vec<u32>,
    active: VecDeque<u32>,
    orphans: VecDeque<u32>,
    time: u32,
}

impl GridCut {
    /// A graph without capacities for these pixels of a picture of such a width, which are called by their places in the whole picture; none for none.
    pub fn of(pixels: &[usize], width: usize) -> Option<Self> {
        let (rows, columns) = (pixels.iter().map(|i| i / width), pixels.iter().map(|i| i % width));
        let (x0, y0) = (columns.clone().min()?, rows.clone().min()?);
        let (x1, y1) = (columns.max()?, rows.max()?);
        Some(Self { origin: (x0, y0), ..Self::new(x1 - x0 + 1, y1 - y0 + 1) })
    }

    /// A graph of `width` x `height` nodes without capacities.
    fn new(width: usize, height: usize) -> Self {
        let stride = (width + 2) as isize;
        let n = (width + 2) * (height + 2);
        Self {
            origin: (0, 0),
            width,
            offset: DIRECTIONS.map(|(dx, dy)| dx as isize + dy as isize * stride),
            capacity: vec![[0.0; 8]; n],
            nodes: vec![EMPTY; n],
            pulled: Vec::new(),
            active: VecDeque::new(),
            orphans: VecDeque::new(),
            time: 0,
        }
    }

    fn node(&self, x: usize, y: usize) -> usize {
        let (x0, y0) = self.origin;
        (y - y0 + 1) * (self.width + 2) + x - x0 + 1
    }

    /// What it costs to part a pixel from its neighbour in `direction`, either way.
    pub fn connect(&mut self, x: usize, y: usize, direction: usize, capacity: f32) {
        let i = self.node(x, y);
        let j = self.step(i, direction);
        self.capacity[i][direction] = capacity;
        self.capacity[j][direction ^ 1] = capacity;
    }

    /// Positive pulls a pixel to the source's side, negative to the sink's.
    pub fn pull(&mut self, x: usize, y: usize, strength: f32) {
        let i = self.node(x, y);
        self.nodes[i].terminal = strength;
        self.pulled.push(i as u32);
    }

    /// Cuts: afterwards it is known on whose side every pixel is.
    pub fn solve(&mut self) {
        for k in 0..self.pulled.len() {
            let i = self.pulled[k];
            let node = &mut self.nodes[i as usize];
            if node.terminal != 0.0 {
                node.in_sink_tree = node.terminal < 0.0;
                node.parent = TERMINAL;
                node.distance = 1;
                self.activate(i as usize);
            }
        }
        let mut current: Option<usize> = None;
        while let Some(i) = current.filter(|&i| self.nodes[i].parent != FREE).or_else(|| self.next_active()) {
            let found = self.grow(i);
            self.time += 1;
            current = found.map(|(from, direction)| {
                self.augment(from, direction);
                while let Some(orphan) = self.orphans.pop_front() {
                    self.adopt(orphan as usize);
                }
                i
            });
        }
    }

    /// Whether a pixel is on the source's side of the cut.
    pub fn is_source(&self, x: usize, y: usize) -> bool {
        let node = &self.nodes[self.node(x, y)];
        node.parent != FREE && !node.in_sink_tree
    }

    /// Makes ready for another cut of the same size. All pixels that are connected must have been pulled, if only by 0.
    pub fn clear(&mut self) {
        for i in self.pulled.drain(..) {
            self.nodes[i as usize] = EMPTY;
            self.capacity[i as usize] = [0.0; 8];
        }
        self.time = 0;
    }

    fn step(&self, i: usize, direction: usize) -> usize {
        i.wrapping_add_signed(self.offset[direction])
    }

    fn activate(&mut self, i: usize) {
        if !self.nodes[i].is_active {
            self.nodes[i].is_active = true;
            self.active.push_back(i as u32);
        }
    }

    fn next_active(&mut self) -> Option<usize> {
        while let Some(i) = self.active.pop_front() {
            let i = i as usize;
            self.nodes[i].is_active = false;
            if self.nodes[i].parent != FREE {
                return Some(i);
            }
        }
        None
    }

    /// Residual capacity of the edge between a node and its neighbour, in the direction in which flow would run
    /// if the node were nearer to its tree's terminal.
    fn outward(&self, i: usize, j: usize, direction: usize, sink: bool) -> f32 {
        if sink { self.capacity[j][direction ^ 1] } else { self.capacity[i][direction] }
    }

    /// Grows the tree of an active node; gives the edge at which it met the other tree, source side first.
    fn grow(&mut self, i: usize) -> Option<(usize, usize)> {
        let sink = self.nodes[i].in_sink_tree;
        for d in 0..8 {
            let j = self.step(i, d);
            if self.outward(i, j, d, sink) <= 0.0 {
                continue;
            }
            if self.nodes[j].parent == FREE {
                self.nodes[j].in_sink_tree = sink;
                self.nodes[j].parent = (d ^ 1) as u8;
                self.nodes[j].stamp = self.nodes[i].stamp;
                self.nodes[j].distance = self.nodes[i].distance + 1;
                self.activate(j);
            } else if self.nodes[j].in_sink_tree != sink {
                return Some(if sink { (j, d ^ 1) } else { (i, d) });
            } else if self.nodes[j].stamp <= self.nodes[i].stamp && self.nodes[j].distance > self.nodes[i].distance {
                // a shorter way to the terminal
                self.nodes[j].parent = (d ^ 1) as u8;
                self.nodes[j].stamp = self.nodes[i].stamp;
                self.nodes[j].distance = self.nodes[i].distance + 1;
            }
        }
        None
    }

    /// Sends as much as fits along the path through the edge at which the trees met.
    fn augment(&mut self, from: usize, direction: usize) {
        let to = self.step(from, direction);
        let mut room = self.capacity[from][direction];
        for (start, sink) in [(from, false), (to, true)] {
            let mut i = start;
            while self.nodes[i].parent != TERMINAL {
                let d = self.nodes[i].parent as usize;
                let j = self.step(i, d);
                room = room.min(if sink { self.capacity[i][d] } else { self.capacity[j][d ^ 1] });
                i = j;
            }
            room = room.min(self.nodes[i].terminal.abs());
        }
        self.capacity[from][direction] -= room;
        self.capacity[to][direction ^ 1] += room;
        for (start, sink) in [(from, false), (to, true)] {
            let mut i = start;
            while self.nodes[i].parent != TERMINAL {
                let d = self.nodes[i].parent as usize;
                let j = self.step(i, d);
                let (a, b) = if sink { ((i, d), (j, d ^ 1)) } else { ((j, d ^ 1), (i, d)) };
                self.capacity[a.0][a.1] -= room;
                self.capacity[b.0][b.1] += room;
                if self.capacity[a.0][a.1] <= 0.0 {
                    self.nodes[i].parent = ORPHAN;
                    self.orphans.push_front(i as u32);
                }
                i = j;
            }
            self.nodes[i].terminal += if sink { room } else { -room };
            if self.nodes[i].terminal == 0.0 {
                self.nodes[i].parent = ORPHAN;
                self.orphans.push_front(i as u32);
            }
        }
    }

    /// Finds the nearest new parent for a node that was cut off, or frees it and its children.
    fn adopt(&mut self, i: usize) {
        let sink = self.nodes[i].in_sink_tree;
        let mut best: Option<(u32, usize)> = None;
        for d in 0..8 {
            let j = self.step(i, d);
            let inward = self.outward(j, i, d ^ 1, sink);
            if inward <= 0.0 || self.nodes[j].in_sink_tree != sink || self.nodes[j].parent == FREE {
                continue;
            }
            if let Some(distance) = self.distance_to_terminal(j)
                && best.is_none_or(|(b, _)| distance < b)
            {
                best = Some((distance, d));
            }
        }
        if let Some((distance, d)) = best {
            self.nodes[i].parent = d as u8;
            self.nodes[i].stamp = self.time;
            self.nodes[i].distance = distance + 1;
            return;
        }
        self.nodes[i].parent = FREE;
        for d in 0..8 {
            let j = self.step(i, d);
            if self.nodes[j].in_sink_tree != sink || self.nodes[j].parent == FREE {
                continue;
            }
            if self.outward(j, i, d ^ 1, sink) > 0.0 {
                self.activate(j);
            }
            let p = self.nodes[j].parent;
            if p < TERMINAL && self.step(j, p as usize) == i {
                self.nodes[j].parent = ORPHAN;
                self.orphans.push_back(j as u32);
            }
        }
    }

    /// Steps from a node to its terminal, None if the way is broken; marks what it walked along.
    fn distance_to_terminal(&mut self, start: usize) -> Option<u32> {
        let (mut k, mut length) = (start, 0);
        loop {
            if self.nodes[k].stamp == self.time {
                length += self.nodes[k].distance;
                break;
            }
            length += 1;
            match self.nodes[k].parent {
                TERMINAL => {
                    self.nodes[k].stamp = self.time;
                    self.nodes[k].distance = 1;
                    break;
                }
                ORPHAN | FREE => return None,
                d => k = self.step(k, d as usize),
            }
        }
        let (mut k, mut left) = (start, length);
        while self.nodes[k].stamp != self.time {
            self.nodes[k].stamp = self.time;
            self.nodes[k].distance = left;
            left -= 1;
            k = self.step(k, self.nodes[k].parent as usize);
        }
        Some(length)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const W: usize = 4;
    const H: usize = 3;

    /// (pulls, capacities of directions 0, 2, 4, 6 at every pixel)
    fn problem() -> impl Strategy<Value = (Vec<i32>, Vec<[i32; 4]>)> {
        (prop::collection::vec(-9..10, W * H), prop::collection::vec([0..6, 0..6, 0..6, 0..6], W * H))
    }

    fn inside(x: usize, y: usize, d: usize) -> Option<(usize, usize)> {
        let (a, b) = (x as i64 + DIRECTIONS[d].0, y as i64 + DIRECTIONS[d].1);
        ((0..W as i64).contains(&a) && (0..H as i64).contains(&b)).then_some((a as usize, b as usize))
    }

    fn cost(pulls: &[i32], caps: &[[i32; 4]], side: impl Fn(usize, usize) -> bool) -> i32 {
        let mut sum = 0;
        for (x, y) in (0..H).flat_map(|y| (0..W).map(move |x| (x, y))) {
            let p = pulls[y * W + x];
            sum += if side(x, y) { (-p).max(0) } else { p.max(0) };
            for (k, d) in [0, 2, 4, 6].into_iter().enumerate() {
                if let Some((a, b)) = inside(x, y, d)
                    && side(x, y) != side(a, b)
                {
                    sum += caps[y * W + x][k];
                }
            }
        }
        sum
    }

    proptest! {
        #![proptest_config(ProptestConfig { cases: 48, failure_persistence: None, ..ProptestConfig::default() })]

        #[test]
        fn no_other_cut_is_cheaper((pulls, caps) in problem()) {
            let mut cut = GridCut::new(W, H);
            for (x, y) in (0..H).flat_map(|y| (0..W).map(move |x| (x, y))) {
                cut.pull(x, y, pulls[y * W + x] as f32);
                for (k, d) in [0, 2, 4, 6].into_iter().enumerate() {
                    if inside(x, y, d).is_some() {
                        cut.connect(x, y, d, caps[y * W + x][k] as f32);
                    }
                }
            }
            cut.solve();
            let least = (0..1_u32 << (W * H)).map(|bits| cost(&pulls, &caps, |x, y| bits >> (y * W + x) & 1 == 1)).min();
            prop_assert_eq!(Some(cost(&pulls, &caps, |x, y| cut.is_source(x, y))), least);
            // once more, after something else
            cut.clear();
            cut.pull(1, 1, 5.0);
            cut.solve();
            prop_assert!(cut.is_source(1, 1) && !cut.is_source(2, 1));
        }
    }
}
