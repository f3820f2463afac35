//! Edges that fade, and that tiles of a picture show no seam.

use super::{colour, poster};
use inky_core::cutout::Unwatched;
use inky_core::edit::Edit;
use inky_core::sheet::*;
use inky_render::{BandSource, Originals, Plan, pixels};

/// The integral of a Gaussian from far away up to so many standard deviations.
fn integral(to: f64) -> f64 {
    let step = 0.001;
    let at = |k: i32| (-0.5 * (f64::from(k) * step).powi(2)).exp();
    (-6000..(to / step) as i32).map(|k| at(k) * step).sum::<f64>() / std::f64::consts::TAU.sqrt()
}

#[test]
fn a_soft_edge_is_the_integral_of_a_gaussian_at_every_width() {
    let mut p = poster();
    let first = p.sheet.pieces[0].window().unwrap().fills[0].id;
    let black = FillPaint::Plain(Paint::colour(colour("#000000")));
    p.edit(Edit::SetFill { piece: p.piece, fill: Fill::new(first, black) });
    p.edit(Edit::RemoveFill { piece: p.piece, fill: p.photo });
    for width in [0.5, 2.0, 7.0, 18.0] {
        p.finish(Finish { softness: Softness { width, side: FadeSide::Both }, ..Finish::default() });
        for scale in [1.0, 3.0, 11.0] {
            // narrower than a pixel, it is no longer a profile that could be measured
            if 0.3 * width * scale < 1.0 {
                continue;
            }
            let plan = Plan::of_sheet(&p.sheet, &p.library, &Originals::default(), 25.4 * scale, 0.0).unwrap();
            let picture = pixels(&plan, &Unwatched).unwrap();
            // across the left edge at 20 mm, half-way up
            for x in (picture.width() / 50)..(picture.width() * 2 / 5) {
                let from_edge = (f64::from(x) + 0.5) / scale - 20.0;
                let known = 255.0 * (1.0 - integral(from_edge / (0.3 * width)));
                let shown = f64::from(picture.get_pixel(x, picture.height() / 2).0[0]);
                assert!((shown - known).abs() <= 4.0, "{width} mm at {scale}: {shown} for {known} at {from_edge} mm");
            }
        }
    }
}

#[test]
fn bands_of_any_height_come_to_the_same_picture() {
    let mut p = poster();
    let gradient = Gradient {
        kind: GradientKind::Linear,
        stops: [(0.0, "#e9722f"), (1.0, "#141b34")]
            .map(|(at, c)| Stop { at, tint: Tint::Colour(colour(c)), opacity: 1.0 })
            .into(),
    };
    let shadow = Shadow {
        place: ShadowPlace::Behind,
        tint: Tint::Colour(colour("#141b34")),
        blend: Blend::Multiply,
        strength: 0.7,
        angle: 60.0,
        distance: 4.0,
        spread: 1.0,
        size: 9.0,
        off: false,
    };
    p.finish(Finish {
        softness: Softness { width: 6.0, side: FadeSide::Both },
        shadows: vec![shadow].into(),
        rims: vec![Rim {
            width: 2.0,
            side: LineSide::Centre,
            paint: Paint::Gradient { gradient, vector: None },
            dashes: vec![5.0, 3.0],
            round: true,
            over: true,
            off: false,
        }]
        .into(),
        ..Finish::default()
    });
    p.edit(Edit::SetPaper { grain: 0.5 });
    let plan = Plan::of_sheet(&p.sheet, &p.library, &p.originals(), 96.0, 3.0).unwrap();
    let whole = pixels(&plan, &Unwatched).unwrap();
    let (width, height) = whole.dimensions();
    let stride = width as usize * 3;
    for rows in [4, 52, 100] {
        for top in (0..height).step_by(rows as usize) {
            let here = rows.min(height - top);
            let mut band = vec![0; stride * here as usize];
            plan.draw(top, here, &mut band).unwrap();
            let same = &whole.as_raw()[top as usize * stride..][..band.len()];
            let most = band.iter().zip(same).map(|(a, b)| a.abs_diff(*b)).max();
            assert!(most <= Some(1), "{most:?} in the rows from {top}, {rows} at a time");
        }
    }
}
