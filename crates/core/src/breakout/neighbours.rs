//! Pixels beside one another.

use crate::grid::Grid;

/// The four neighbours of a pixel.
pub(super) fn beside(i: usize, w: usize, h: usize) -> impl Iterator<Item = usize> {
    let (x, y) = (i % w, i / w);
    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (y + 1 < h).then(|| i + w)]
        .into_iter()
        .flatten()
}

/// Spreads labels to their neighbours, nearest first, at most `steps` steps, wherever `open` allows it.
pub(super) fn flood(labels: &mut Grid<u32>, steps: usize, open: impl Fn(usize) -> bool) {
    let (w, h) = (labels.width, labels.height);
    let mut front = Vec::new();
    for (y, line) in labels.data.chunks(w).enumerate() {
        let is_free = |row: usize, x: usize| labels.data[row * w + x] == 0;
        for (x, _) in line.iter().enumerate().filter(|(_, l)| **l > 0) {
            let aside = (x > 0 && line[x - 1] == 0) || (x + 1 < w && line[x + 1] == 0);
            if aside || (y > 0 && is_free(y - 1, x)) || (y + 1 < h && is_free(y + 1, x)) {
                front.push(y * w + x);
            }
        }
    }
    let mut next = Vec::new();
    for _ in 0..steps {
        for &i in &front {
            for j in beside(i, w, h) {
                if labels.data[j] == 0 && open(j) {
                    labels.data[j] = labels.data[i];
                    next.push(j);
                }
            }
        }
        if next.is_empty() {
            break;
        }
        std::mem::swap(&mut front, &mut next);
        next.clear();
    }
}
