//! What is kept: data of earlier versions, what a step costs, and what goes when nobody refers to it.

use anyhow::{Result, ensure};
use inky_e2e::{Database, Server};
use inky_server::Store;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use sqlx::{Connection, MySqlConnection, Row};
use uuid::Uuid;

const TABLES: [&str; 3] = [
    include_str!("../../server/migrations/0001_start.sql"),
    include_str!("../../server/migrations/0002_drawings_and_fonts.sql"),
    include_str!("../../server/migrations/0003_steps_that_add.sql"),
];

fn document(name: &str, pieces: Value) -> String {
    json!({ "name": name, "width": 420.0, "height": 297.0, "unit": "mm", "ppi": 150.0, "background": "#ffffff", "pieces": pieces, "photos": {} })
        .to_string()
}

/// A sheet with its steps, of which one is the present one.
async fn sheet(database: &mut MySqlConnection, steps: &[(&str, String)], present: u64) -> Result<Uuid> {
    let id = Uuid::now_v7();
    let sql = "INSERT INTO sheets (id, name, revision, step) VALUES (?, 'Old', 9, ?)";
    sqlx::query(sql).bind(id).bind(present).execute(&mut *database).await?;
    for (seq, (name, document)) in steps.iter().enumerate() {
        let sql = "INSERT INTO steps (sheet, seq, name, document) VALUES (?, ?, ?, ?)";
        sqlx::query(sql).bind(id).bind(seq as u64).bind(*name).bind(document).execute(&mut *database).await?;
    }
    Ok(id)
}

async fn whole_ones(database: &mut MySqlConnection) -> Result<i64> {
    let sql = "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'steps'";
    Ok(sqlx::query(sql).fetch_one(database).await?.try_get(0)?)
}

#[tokio::test]
async fn whole_documents_are_taken_apart_once_and_damaged_ones_hide_nothing() -> Result<()> {
    let data = Database::start()?;
    let mut database = MySqlConnection::connect(&data.url).await?;
    for tables in TABLES {
        sqlx::raw_sql(tables).execute(&mut database).await?;
    }
    let window = json!({ "id": Uuid::nil(), "kind": { "kind": "window", "opening": { "forms": [] }, "fills": [] } });
    let steps = [
        ("new sheet", document("First", json!([]))),
        ("add a window", document("First", json!([window]))),
        ("rename the sheet", document("Second", json!([window]))),
        ("remove it", document("Second", json!([]))),
    ];
    let sound = sheet(&mut database, &steps, 2).await?;
    let damaged = sheet(&mut database, &[("new sheet", "{ \"name\": 7 }".into())], 0).await?;

    let server = Server::start(&data, false)?;
    let list = server.get("/sheets").await?;
    let card = |id: Uuid| list.as_array().into_iter().flatten().find(|c| c["id"] == id.to_string()).cloned();
    ensure!(card(sound).is_some_and(|c| c["damaged"] == false && c["width"] == 420.0), "{list}");
    ensure!(card(damaged).is_some_and(|c| c["damaged"] == true), "{list}");
    let (status, said) = server.call(Method::GET, &format!("/sheets/{damaged}"), None).await?;
    ensure!(status == StatusCode::UNPROCESSABLE_ENTITY, "{status} {said}");
    ensure!(whole_ones(&mut database).await? == 1, "what could not be read is still there");

    // undo and redo lead through the steps that there were
    let now = server.get(&format!("/sheets/{sound}")).await?;
    ensure!(now["sheet"]["name"] == "Second" && now["revision"] == 9, "{now}");
    ensure!(now["undo"] == "rename the sheet" && now["redo"] == "remove it", "{} {}", now["undo"], now["redo"]);
    let step = |base: u64| json!({ "base": base, "request": Uuid::new_v4() });
    let id = sound.to_string();
    ensure!(server.keep(&id, "undo", step(9)).await?["sheet"]["name"] == "First");
    let first = server.keep(&id, "undo", step(10)).await?;
    ensure!(first["sheet"]["pieces"] == json!([]) && first["undo"].is_null(), "{first}");
    for base in 11..14 {
        server.keep(&id, "redo", step(base)).await?;
    }
    let last = server.get(&format!("/sheets/{id}")).await?;
    ensure!(last["sheet"]["name"] == "Second" && last["sheet"]["pieces"] == json!([]) && last["redo"].is_null());

    // with the damaged one gone for good, nothing is left to be kept whole
    drop(server);
    sqlx::query("DELETE FROM sheets WHERE id = ?").bind(damaged).execute(&mut database).await?;
    let server = Server::start(&data, false)?;
    ensure!(whole_ones(&mut database).await? == 0 && server.get(&format!("/sheets/{id}")).await? == last);
    Ok(())
}

#[tokio::test]
async fn a_step_costs_what_it_changes() -> Result<()> {
    const PIECES: usize = 400;
    const STEPS: u64 = 60;
    let data = Database::start()?;
    let server = Server::start(&data, false)?;
    let id = server.new_sheet("Many").await?;
    let box_at = |k: usize| {
        let form = json!({ "id": Uuid::new_v4(), "shape": { "kind": "basic", "width": 9.0, "height": 9.0, "figure": { "figure": "ellipse" } },
            "pose": { "x": 10.0 + 15.0 * (k % 25) as f64, "y": 10.0 + 15.0 * (k / 25) as f64, "wide": 1.0, "turn": 0.0 }, "join": "add" });
        json!({ "edit": "add_window", "piece": Uuid::new_v4(), "form": form, "fill": Uuid::new_v4() })
    };
    let all: Vec<Value> = (0..PIECES).map(box_at).collect();
    let body = json!({ "base": 1, "request": Uuid::new_v4(), "gesture": null, "edits": all });
    let bench = server.keep(&id, "edits", body).await?;
    let piece = bench["sheet"]["pieces"][PIECES / 2]["id"].clone();
    let mut database = MySqlConnection::connect(&data.url).await?;
    let mut stored = async || -> Result<f64> {
        let sql = "SELECT CAST((SELECT COALESCE(SUM(LENGTH(bytes) + 40), 0) FROM parts) + (SELECT COUNT(*) * 120 FROM revisions) \
                   + (SELECT COALESCE(SUM(LENGTH(name) + 160), 0) FROM history) AS DOUBLE)";
        Ok(sqlx::query(sql).fetch_one(&mut database).await?.try_get(0)?)
    };
    let before = stored().await?;
    for k in 0..STEPS {
        let by = json!({ "a": 1.0, "b": 0.0, "dx": 0.5 + k as f64 / 100.0, "dy": 0.25 });
        let edit = json!({ "edit": "move", "piece": piece, "what": "both", "by": by });
        let body = json!({ "base": 2 + k, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        server.post(&format!("/sheets/{id}/edits"), body).await?;
    }
    let each = (stored().await? - before) / STEPS as f64;
    println!("a move among {PIECES} pieces: {each:.0} bytes");
    ensure!(each < 10_000.0, "{each} bytes for a move");
    Ok(())
}

#[tokio::test]
async fn only_what_nobody_refers_to_is_swept() -> Result<()> {
    let data = Database::start()?;
    let server = Server::start(&data, false)?;
    let mut database = MySqlConnection::connect(&data.url).await?;
    let photo = async |name: &str, file: &str| -> Result<String> {
        let bytes = std::fs::read(inky_e2e::root().join("demo/photos").join(file))?;
        let card = server.upload("photos", name, bytes).await?.1;
        Ok(card["id"].as_str().unwrap_or_default().to_owned())
    };
    let (placed, removed, loose) = (
        photo("kite", "octopus-kite.jpg").await?,
        photo("sky", "dunes.jpg").await?,
        photo("lamp", "lanterns.jpg").await?,
    );
    let id = server.new_sheet("Kept").await?;
    let add = |photo: &str| json!({ "edit": "add_picture", "piece": Uuid::new_v4(), "photo": photo });
    let body =
        |base: u64, edits: Value| json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": edits });
    let both = server.keep(&id, "edits", body(1, json!([add(&placed), add(&removed)]))).await?;
    let gone = json!([{ "edit": "remove_piece", "piece": both["sheet"]["pieces"][1]["id"] }]);
    server.keep(&id, "edits", body(2, gone)).await?;
    let binned = server.new_sheet("Binned").await?;
    server.call(Method::DELETE, &format!("/sheets/{binned}"), None).await?;

    let sweep = |how: &[&str]| -> Result<String> {
        let mut ran = std::process::Command::new(inky_e2e::program()?);
        let out = ran.arg("sweep").args(how).env("INKY_DATABASE", &data.url).output()?;
        ensure!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
        Ok(String::from_utf8(out.stdout)?)
    };
    let number = |said: &str, of: &str| {
        let line = said.lines().find(|l| l.contains(of))?;
        line[of.len() + 2..].split_whitespace().next()?.parse::<u64>().ok()
    };
    // nothing goes while it is young
    let said = sweep(&[])?;
    ensure!(said.lines().skip(1).all(|l| l.contains(" 0")), "{said}");
    for (table, column) in [("blobs", "used"), ("parts", "used"), ("revisions", "made"), ("sheets", "removed")] {
        let sql = format!("UPDATE {table} SET {column} = {column} - INTERVAL 40 DAY");
        sqlx::query(sqlx::AssertSqlSafe(sql)).execute(&mut database).await?;
    }
    // a dry run takes nothing, and says what would go
    let dry = sweep(&["--dry-run"])?;
    ensure!(number(&dry, "photos, mattes, drawings, delivered files") == Some(1), "{dry}");
    ensure!(number(&dry, "sheets that lay in the bin for 30 days") == Some(1), "{dry}");
    let real = sweep(&[])?;
    ensure!(real.lines().skip(1).eq(dry.lines().skip(1)), "{dry}{real}");
    let mut there = async |photo: &str| -> Result<bool> {
        let sql = "SELECT 1 FROM photos p JOIN blobs b ON b.hash = p.id JOIN blob_chunks c ON c.hash = p.id WHERE p.id = ? LIMIT 1";
        Ok(sqlx::query(sql).bind(photo).fetch_optional(&mut database).await?.is_some())
    };
    ensure!(there(&placed).await? && there(&removed).await? && !there(&loose).await?, "one that can come back stays");
    // what was removed comes back whole
    let back = server.keep(&id, "undo", json!({ "base": 3, "request": Uuid::new_v4() })).await?;
    ensure!(back["sheet"]["pieces"].as_array().map(Vec::len) == Some(2), "{back}");
    ensure!(server.call(Method::POST, &format!("/sheets/{binned}/restore"), None).await?.0 == StatusCode::NOT_FOUND);
    let empty = server.keep(&id, "undo", json!({ "base": 4, "request": Uuid::new_v4() })).await?;
    ensure!(empty["sheet"]["pieces"] == json!([]), "{empty}");
    Ok(())
}

#[tokio::test]
async fn a_job_that_ended_its_server_twice_is_given_up() -> Result<()> {
    let data = Database::start()?;
    let server = Server::start(&data, false)?;
    let id: Uuid = server.new_sheet("Heavy").await?.parse()?;
    let mut database = MySqlConnection::connect(&data.url).await?;
    // as it is when a server was killed while it was at it, for the first and for the second time
    let mut left_behind = async |tries: u32| -> Result<Value> {
        let job = Uuid::now_v7();
        let sql = "INSERT INTO jobs (id, sheet, task, state, alive, tries, worker) \
                   VALUES (?, ?, ?, 'running', CURRENT_TIMESTAMP(3) - INTERVAL 60 SECOND, ?, ?)";
        let task = json!({ "task": "deliver", "kind": "png", "ppi": 20.0 }).to_string();
        let kept = sqlx::query(sql).bind(job).bind(id).bind(task).bind(tries).bind(Uuid::new_v4());
        kept.execute(&mut database).await?;
        server.finished(&json!({ "id": job })).await
    };
    ensure!(left_behind(1).await?["state"] == "done", "it is begun a second time");
    let given_up = left_behind(2).await?;
    ensure!(given_up["state"] == "failed" && given_up["outcome"].to_string().contains("given up"), "{given_up}");
    Ok(())
}

#[tokio::test]
async fn a_clock_that_jumps_stops_nothing() -> Result<()> {
    let data = Database::start()?;
    let server = Server::start(&data, false)?;
    let id = server.new_sheet("Clockwork").await?;
    let sheet: Uuid = id.parse()?;
    let mut database = MySqlConnection::connect(&data.url).await?;
    // only the clock of the database is read: it jumps by as much as all that it noted is moved the other way
    for minutes in [60, -60, -60, 60] {
        let job = Uuid::now_v7();
        let task = json!({ "task": "deliver", "kind": "png", "ppi": 20.0 }).to_string();
        let sql = "INSERT INTO jobs (id, sheet, task, state, alive, tries, worker) \
                   VALUES (?, ?, ?, 'running', CURRENT_TIMESTAMP(3), 1, ?)";
        let dead = sqlx::query(sql).bind(job).bind(sheet).bind(task).bind(Uuid::new_v4());
        dead.execute(&mut database).await?;
        for (table, columns) in [
            ("jobs", &["alive", "made"][..]),
            ("presence", &["seen"]),
            ("revisions", &["made"]),
            ("parts", &["used"]),
            ("blobs", &["used"]),
        ] {
            let set: Vec<String> = columns.iter().map(|c| format!("{c} = {c} + INTERVAL {minutes} MINUTE")).collect();
            let sql = sqlx::AssertSqlSafe(format!("UPDATE {table} SET {}", set.join(", ")));
            sqlx::query(sql).execute(&mut database).await?;
        }
        // a job whose worker is gone is taken, edits are kept and taken back, nothing in use is swept
        let ended = server.finished(&json!({ "id": job })).await?;
        ensure!(ended["state"] == "done", "{ended}");
        let base = server.get(&format!("/sheets/{id}")).await?["revision"].clone();
        let name = format!("Clockwork {minutes}");
        let edit =
            json!({ "base": base, "request": Uuid::new_v4(), "edits": [{ "edit": "rename_sheet", "name": name }] });
        let kept = server.keep(&id, "edits", edit).await?;
        ensure!(kept["sheet"]["name"] == name, "{kept}");
        let step = json!({ "base": kept["revision"], "request": Uuid::new_v4() });
        ensure!(server.keep(&id, "undo", step).await?["sheet"]["name"] != name, "not taken back");
        let swept = Store::open(&data.url).await?.sweep(true).await?;
        ensure!(swept.parts == 0 && swept.files == 0, "{swept:?}");
    }
    Ok(())
}

#[test]
fn a_folder_with_data_is_never_emptied() -> Result<()> {
    let folder = inky_e2e::Scratch::new()?;
    let kept = folder.path().join("data/ibdata1");
    std::fs::create_dir_all(folder.path().join("data"))?;
    std::fs::write(&kept, "brought back from elsewhere")?;
    let script = inky_e2e::root().join("scripts/database.sh");
    let started = std::process::Command::new(script).arg("start").arg(folder.path()).output()?;
    let said = String::from_utf8_lossy(&started.stderr).into_owned();
    ensure!(!started.status.success() && said.contains("left as it is"), "{said}");
    ensure!(std::fs::read_to_string(kept)? == "brought back from elsewhere");
    Ok(())
}
