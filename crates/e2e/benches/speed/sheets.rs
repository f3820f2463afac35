//! Pictures on the desk, and a sheet of many windows.

use super::{line, timed};
use anyhow::{Context, Result};
use inky_core::edit::{Edit, apply};
use inky_core::library::LoadedLibrary;
use inky_core::sheet::{
    Colour, FillId, Finish, Form, FormId, FormShape, Lettering, LineSide, Paint, PieceId, Pose, Rim, Sheet, Unit,
};
use inky_core::sheet_file::SheetFile;
use inky_e2e::{Browser, Database, Server};
use serde_json::json;
use std::sync::Arc;
use std::time::Instant;
use uuid::Uuid;

/// Windows on the sheet.
const WINDOWS: usize = 500;

pub async fn measure(database: &Database, browser: &Browser) -> Result<()> {
    let demo = Server::start(database, true)?;
    thumbnails(&demo).await?;
    let (sheet, pieces) = many_windows(&demo).await?;
    let load = async |_: usize| -> Result<()> {
        browser.page.goto("about:blank").await?;
        browser.page.goto(format!("{}/sheet/{sheet}", demo.address)).await?;
        browser.button("Deliver").await?;
        Ok(())
    };
    let begun = Instant::now();
    load(0).await?;
    let first = begun.elapsed().as_secs_f64() * 1000.0;
    line(&format!("{WINDOWS} windows: opened for the first time"), (first, first), "< 3000");
    line(&format!("{WINDOWS} windows: opened again"), timed(5, load).await?, "< 3000");
    let mut base = demo.get(&format!("/sheets/{sheet}")).await?["revision"].as_u64().context("no revision")?;
    let by = |round: usize| json!({ "a": 1.0, "b": 0.0, "dx": 0.01 * round as f64, "dy": 0.3 });
    let moved =
        |round: usize, piece: PieceId| json!({ "edit": "move", "piece": piece, "what": "both", "by": by(round) });
    let tried = async |round: usize| -> Result<()> {
        let edits = [moved(round, pieces[round % WINDOWS])];
        demo.post(&format!("/sheets/{sheet}/tentative"), json!({ "base": base, "edits": edits })).await?;
        Ok(())
    };
    timed(20, tried).await?;
    line(&format!("{WINDOWS} windows: one moved, on loopback"), timed(200, tried).await?, "< 16");
    let mut times = Vec::new();
    for round in 0..100 {
        let edit = moved(1000 + round, pieces[round % WINDOWS]);
        let body = json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        let begun = Instant::now();
        let answer = demo.call(reqwest::Method::POST, &format!("/sheets/{sheet}/edits"), Some(body)).await?.1;
        times.push(begun.elapsed());
        base = answer["revision"].as_u64().context("no revision")?;
    }
    line(&format!("{WINDOWS} windows: one moved and kept, on loopback"), super::spread(times), "");
    Ok(())
}

/// The desk's pictures of the demo sheets, each drawn for the first time.
async fn thumbnails(demo: &Server) -> Result<()> {
    for card in demo.get("/sheets").await?.as_array().into_iter().flatten() {
        let id = card["id"].as_str().context("no sheet")?;
        // what the picture is drawn from is kept for the bench, too
        demo.get(&format!("/sheets/{id}")).await?;
        let begun = Instant::now();
        demo.bytes(&format!("/api/sheets/{id}/picture")).await?;
        let taken = begun.elapsed().as_secs_f64() * 1000.0;
        let name = card["name"].as_str().unwrap_or_default();
        line(&format!("picture on the desk: {name}"), (taken, taken), "< 150");
    }
    Ok(())
}

/// A sheet of many words, each with a rim, and its pieces.
async fn many_windows(server: &Server) -> Result<(String, Vec<PieceId>)> {
    let library = LoadedLibrary { fonts: Arc::new(inky_server::bundled_fonts()?), ..LoadedLibrary::default() };
    let mut sheet = Sheet::new("Many windows", 420.0, 297.0, Unit::Mm, 150.0);
    let pieces: Vec<PieceId> = (0..WINDOWS).map(|_| PieceId::fresh()).collect();
    for (k, piece) in pieces.iter().enumerate() {
        let lettering = FormShape::Lettering(Lettering::plain("KITE", "anton".into(), 8.0));
        let pose = Pose::at(20.0 + 15.0 * (k % 25) as f64, 20.0 + 13.0 * (k / 25) as f64);
        let form = Form::new(FormId::fresh(), pose, lettering);
        let rim = Rim {
            width: 0.4,
            side: LineSide::Outside,
            paint: Paint::colour(Colour([32, 48, 64])),
            dashes: Vec::new(),
            round: false,
            over: false,
            off: false,
        };
        for edit in [
            Edit::AddWindow { piece: *piece, form, fill: FillId::fresh() },
            Edit::SetFinish { piece: *piece, finish: Finish { rims: vec![rim].into(), ..Finish::default() } },
        ] {
            sheet = apply(&sheet, &edit, &library)?;
        }
    }
    let made = server.post("/sheets/import", serde_json::to_value(SheetFile::new(sheet))?).await?;
    Ok((made["id"].as_str().context("no sheet")?.to_owned(), pieces))
}
