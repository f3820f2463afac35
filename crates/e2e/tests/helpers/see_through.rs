//! Smoke and shadows of a photo, in the real interface.

use super::subject::{alpha_of, another, keep, on_photo, photo};
use anyhow::{Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{bring_photo, type_word};
use inky_e2e::{Bench, Scratch};
use thirtyfour::prelude::*;

/// A red post on sand, its shadow to the right of its foot, and smoke above that.
fn post() -> image::RgbImage {
    image::RgbImage::from_fn(600, 400, |x, y| {
        let grain = ((x * 7 + y * 13) % 5) as f32;
        let is_post = (220..290).contains(&x) && (80..300).contains(&y);
        let is_shaded = (255..470).contains(&x) && (272..300).contains(&y);
        let ground = match (is_post, is_shaded) {
            (true, _) => [200.0 + grain, 50.0, 40.0],
            (_, true) => [96.0 + grain, 86.0, 66.0],
            _ => [192.0 + grain, 172.0, 132.0],
        };
        let off = (x as f32 - 460.0).hypot(y as f32 - 110.0);
        let smoke = (-off * off / 900.0).exp();
        image::Rgb(ground.map(|v| (v * (1.0 - smoke) + 40.0 * smoke) as u8))
    })
}

#[tokio::test(flavor = "multi_thread")]
async fn a_shadow_comes_along_and_smoke_lets_the_ground_through() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let folder = Scratch::new()?;
    let file = folder.path().join("post.png");
    post().save(&file)?;
    type_word(browser, "AIR").await?;
    bring_photo(browser, "Photo into it", &file.to_string_lossy()).await?;
    bench.find_subject().await?;

    // the shadow is found by itself, without what casts it
    bench.card("Subject").await?;
    browser.press("See-through").await?;
    another(&bench, async |b| b.press("Its shadow, apart").await).await?;
    let with_shadow = keep(&bench).await?;
    let (post, shade, sand) = ((0.42, 0.4), (0.65, 0.715), (0.65, 0.9));
    let shadow = &photo(&with_shadow)["subjects"][1];
    assert_eq!((&shadow["name"], &shadow["hints"]["shadow_alone"]), (&"Shadow".into(), &true.into()));
    let dark = alpha_of(&bench, &with_shadow, 1, shade).await?;
    ensure!((100..160).contains(&dark), "half of the light is left: {dark}");
    assert_eq!(alpha_of(&bench, &with_shadow, 1, post).await?, 0);
    assert_eq!(alpha_of(&bench, &with_shadow, 1, sand).await?, 0);
    // both stand on the sheet without the ground, and so does what follows
    bench.after(async |b| b.click("//*[@role='radio' and normalize-space(.)='Subject']").await).await?;

    // smoke is one more subject that nothing else has to be told of
    bench.card("Subject").await?;
    browser.press("+ Another").await?;
    browser.press("See-through").await?;
    let width = browser.at("//label[starts-with(normalize-space(.), 'Brush')]/following-sibling::input").await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("190" + Key::Enter).await?;
    let at = on_photo(&bench).await?;
    let smoke = (0.7667, 0.275);
    another(&bench, async |b| b.drag(at(smoke), at((0.77, 0.28))).await).await?;
    let with_smoke = keep(&bench).await?;
    let (dense, thin) =
        (alpha_of(&bench, &with_smoke, 2, smoke).await?, alpha_of(&bench, &with_smoke, 2, (0.8067, 0.275)).await?);
    ensure!(dense > 220 && (90..160).contains(&thin), "{dense} and {thin}");
    // thinner by amount
    bench.card("Subject").await?;
    let third = "//select[@aria-label='Which subject of the photo']/option[.='Subject 3']";
    browser.click(third).await?;
    browser.press("See-through").await?;
    let density = browser.at("//label[starts-with(normalize-space(.), 'Density')]/following-sibling::input").await?;
    another(&bench, async |_| {
        density.send_keys(Key::Control + "a").await?;
        Ok(density.send_keys("90" + Key::Enter).await?)
    })
    .await?;
    let thinner = keep(&bench).await?;
    ensure!(alpha_of(&bench, &thinner, 2, smoke).await? < dense);
    assert_eq!(photo(&thinner)["subjects"].as_array().map(Vec::len), Some(3));
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}
