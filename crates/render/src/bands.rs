//! Pictures as bands of rows, which are drawn side by side on all cores and taken in their order.

use crate::RenderError;
use image::RgbImage;
use inky_core::cutout::Watch;
use std::collections::BTreeMap;
use std::sync::{Condvar, Mutex, PoisonError};

/// Something that can draw any rows of itself.
pub trait BandSource: Sync {
    /// Width and height in pixels.
    fn size(&self) -> (u32, u32);

    /// Pixels per inch.
    fn ppi(&self) -> f64;

    /// Rows that are best drawn at a time.
    fn rows_at_a_time(&self) -> u32;

    /// Bytes of a pixel: three (sRGB), or four with its opacity (not multiplied into its colour).
    fn channels(&self) -> usize {
        3
    }

    /// Draws rows from `top` on, so many bytes a pixel.
    ///
    /// # Errors
    /// What cannot be drawn.
    fn draw(&self, top: u32, rows: u32, samples: &mut [u8]) -> Result<(), RenderError>;
}

/// Some rows of a picture.
pub struct Band {
    /// Its place among the bands.
    pub index: u32,
    pub rows: u32,
    pub is_last: bool,
    /// As many bytes a pixel as the source has channels.
    pub samples: Vec<u8>,
}

/// Bands that are drawn at a time.
pub(crate) fn threads() -> usize {
    std::thread::available_parallelism().map_or(1, usize::from)
}

/// Draws all bands of a picture. `work` is done with each of them on the thread that drew it, `take` with what that gives, in order, on this
/// one. No thread is further ahead than a few bands.
///
/// # Errors
/// Those of the source, of `work` and of `take`, and the cancelled watch.
pub fn for_each_band<T: Send>(
    source: &dyn BandSource,
    watch: &dyn Watch,
    work: impl Fn(Band) -> Result<T, RenderError> + Sync,
    mut take: impl FnMut(T) -> Result<(), RenderError>,
) -> Result<(), RenderError> {
    let (width, height) = source.size();
    let rows = source.rows_at_a_time().clamp(1, height);
    let count = height.div_ceil(rows);
    let threads = threads().min(count as usize);
    let desk = Desk::new(threads as u32 + 1);
    let drawn = |index: u32| {
        let top = index * rows;
        let here = rows.min(height - top);
        let mut samples = vec![0; width as usize * here as usize * source.channels()];
        source.draw(top, here, &mut samples)?;
        work(Band { index, rows: here, is_last: index + 1 == count, samples })
    };
    std::thread::scope(|scope| {
        for _ in 0..threads {
            scope.spawn(|| {
                let _ended = EndIfPanicking(&desk);
                while let Some(index) = desk.next(count) {
                    desk.put(index, drawn(index));
                }
            });
        }
        // whatever happens here, the threads have to end
        let _ended = End(&desk);
        for index in 0..count {
            watch.go_on()?;
            watch.step(0.2 + 0.75 * index as f32 / count as f32, "Drawing the sheet");
            take(desk.take(index, watch)?)?;
        }
        Ok(())
    })
}

/// A whole picture of three channels in memory.
///
/// # Errors
/// What cannot be drawn, and the cancelled watch.
pub fn pixels(source: &dyn BandSource, watch: &dyn Watch) -> Result<RgbImage, RenderError> {
    let (width, height) = source.size();
    let rgb = samples(source, watch)?;
    RgbImage::from_raw(width, height, rgb).ok_or_else(|| RenderError::Encoding("the picture has no size".into()))
}

/// All bytes of a picture in memory, row by row.
pub(crate) fn samples(source: &dyn BandSource, watch: &dyn Watch) -> Result<Vec<u8>, RenderError> {
    let (width, height) = source.size();
    let mut all = Vec::with_capacity(width as usize * height as usize * source.channels());
    for_each_band(
        source,
        watch,
        |band| Ok(band.samples),
        |band| {
            all.extend(band);
            Ok(())
        },
    )?;
    Ok(all)
}

/// Where bands lie until they are taken.
struct Desk<T> {
    state: Mutex<State<T>>,
    changed: Condvar,
    /// Bands that may lie here or be drawn at a time.
    most: u32,
}

struct State<T> {
    /// The next band to be drawn.
    next: u32,
    /// Bands that were taken.
    taken: u32,
    done: BTreeMap<u32, Result<T, RenderError>>,
    ended: bool,
}

impl<T> Desk<T> {
    fn new(most: u32) -> Self {
        let state = State { next: 0, taken: 0, done: BTreeMap::new(), ended: false };
        Self { state: Mutex::new(state), changed: Condvar::new(), most }
    }

    fn lock(&self) -> std::sync::MutexGuard<'_, State<T>> {
        self.state.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The next band to be drawn, once there is room for it; None when there is none.
    fn next(&self, count: u32) -> Option<u32> {
        let mut state = self.lock();
        loop {
            if state.ended || state.next >= count {
                return None;
            }
            if state.next < state.taken + self.most {
                state.next += 1;
                return Some(state.next - 1);
            }
            state = self.changed.wait(state).unwrap_or_else(PoisonError::into_inner);
        }
    }

    fn put(&self, index: u32, band: Result<T, RenderError>) {
        self.lock().done.insert(index, band);
        self.changed.notify_all();
    }

    fn take(&self, index: u32, watch: &dyn Watch) -> Result<T, RenderError> {
        let mut state = self.lock();
        loop {
            if let Some(band) = state.done.remove(&index) {
                state.taken = index + 1;
                drop(state);
                self.changed.notify_all();
                return band;
            }
            if state.ended {
                return Err(RenderError::Encoding("a part of the picture could not be drawn".into()));
            }
            watch.go_on()?;
            let patience = std::time::Duration::from_millis(50);
            state = self.changed.wait_timeout(state, patience).unwrap_or_else(PoisonError::into_inner).0;
        }
    }

    fn end(&self) {
        self.lock().ended = true;
        self.changed.notify_all();
    }
}

struct End<'a, T>(&'a Desk<T>);

impl<T> Drop for End<'_, T> {
    fn drop(&mut self) {
        self.0.end();
    }
}

/// A thread that panics leaves a band out for which the others would wait.
struct EndIfPanicking<'a, T>(&'a Desk<T>);

impl<T> Drop for EndIfPanicking<'_, T> {
    fn drop(&mut self) {
        if std::thread::panicking() {
            self.0.end();
        }
    }
}
