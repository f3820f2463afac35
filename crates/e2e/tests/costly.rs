//! Sheets that would take more than there is to be drawn: refused when they are made here, opened and mended when they come from elsewhere.

use anyhow::{Context, Result};
use inky_core::edit::{Edit, apply};
use inky_core::library::LoadedLibrary;
use inky_core::sheet::*;
use inky_core::sheet_file::SheetFile;
use inky_e2e::{Database, Server};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;

fn request(base: &Value, edit: Value) -> Value {
    json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] })
}

/// The label of the piece that cannot be drawn, and why.
fn problems(bench: &Value) -> Vec<(String, String)> {
    let views = bench["scene"]["pieces"].as_array().into_iter().flatten();
    views.filter_map(|v| Some((v["piece"].as_str()?.to_owned(), v["problem"].as_str()?.to_owned()))).collect()
}

/// Thirty windows, each of which shows the one before it twice.
fn windows_in_windows() -> Result<Sheet> {
    let library = LoadedLibrary::default();
    let mut sheet = Sheet::new("Mirrors", 300.0, 200.0, Unit::Mm, 100.0);
    let mut last: Option<PieceId> = None;
    for k in 0..30 {
        let piece = PieceId::fresh();
        let shape = BasicShape { width: 60.0, height: 40.0, figure: Figure::Ellipse };
        let form = Form::new(FormId::fresh(), Pose::at(40.0 + 7.0 * f64::from(k), 100.0), FormShape::Basic(shape));
        let mut edits = vec![Edit::AddWindow { piece, form, fill: FillId::fresh() }];
        for dx in [0.0, 20.0] {
            let shown = last.map(|piece| WindowFill { piece, by: Similarity { dx, ..Similarity::default() } });
            let fill = shown.map(|shown| Fill::new(FillId::fresh(), FillPaint::Window(shown)));
            edits.extend(fill.map(|fill| Edit::AddFill { piece, fill }));
        }
        for edit in edits {
            sheet = apply(&sheet, &edit, &library)?;
        }
        last = Some(piece);
    }
    Ok(sheet)
}

#[tokio::test]
async fn a_sheet_that_is_too_much_opens_and_can_be_mended() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let file = serde_json::to_value(SheetFile::new(windows_in_windows()?))?;
    let made = server.post("/sheets/import", file).await?;
    let id = made["id"].as_str().context("no sheet")?;

    let opened = server.get(&format!("/sheets/{id}")).await?;
    let named = problems(&opened);
    assert!((1..30).contains(&named.len()), "{named:?}");
    assert!(named.iter().all(|(_, why)| why.ends_with('.')), "{named:?}");
    let drawn = opened["scene"]["pieces"].as_array().into_iter().flatten().filter(|v| v["markup"] != "").count();
    assert_eq!(drawn + named.len(), 30, "what can be drawn is");

    // the desk shows what can be drawn, and no file is made that lacks something
    let (status, _, png) = server.bytes(&format!("/api/sheets/{id}/picture")).await?;
    assert!(status.is_success() && image::load_from_memory(&png).is_ok());
    let task = json!({ "task": "deliver", "kind": "png", "ppi": 50.0 });
    let card = server.finished(&server.post(&format!("/sheets/{id}/jobs"), task).await?).await?;
    assert_eq!(card["state"], "failed", "{card}");

    // it cannot be made worse
    let pieces = opened["sheet"]["pieces"].as_array().context("no pieces")?;
    let (first, fifth) = (&pieces[0]["id"], &pieces[4]["id"]);
    let add = |shown: &Value| {
        let by = json!({ "a": 1.0, "b": 0.0, "dx": 5.0, "dy": 0.0 });
        json!({ "id": Uuid::new_v4(), "paint": { "kind": "window", "piece": shown, "by": by } })
    };
    let worse = json!({ "edit": "add_fill", "piece": first, "fill": add(&pieces[29]["id"]) });
    let (status, said) =
        server.call(Method::POST, &format!("/sheets/{id}/edits"), Some(request(&opened["revision"], worse))).await?;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");

    // the windows are taken out of the fifth: one edit each, and all are drawn that showed too much through it
    let mut bench = opened.clone();
    for fill in pieces[4]["kind"]["fills"].as_array().into_iter().flatten().skip(1) {
        let remove = json!({ "edit": "remove_fill", "piece": fifth, "fill": fill["id"] });
        bench = server.keep(id, "edits", request(&bench["revision"], remove)).await?;
    }
    assert!(problems(&bench).len() < named.len(), "{:?}", problems(&bench));
    Ok(())
}
