//! A disk that is slow or stands still, and a clock that jumps, beneath the database and the server.

use crate::crew::{Crew, Work};
use crate::{Database, Scratch, Server};
use anyhow::{Context, Result, ensure};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::{Duration, SystemTime, UNIX_EPOCH};

/// What changes the clock of a program: Debian's package `libfaketime`.
const FAKETIME: [&str; 2] =
    ["/usr/lib/x86_64-linux-gnu/faketime/libfaketimeMT.so.1", "/usr/lib/aarch64-linux-gnu/faketime/libfaketimeMT.so.1"];

/// A disk that takes as long as it is told for what has to last.
pub struct SlowDisk {
    folder: Scratch,
    library: PathBuf,
}

impl SlowDisk {
    /// # Errors
    /// No C compiler.
    pub fn new() -> Result<Self> {
        let folder = Scratch::new()?;
        open_to_others(folder.path())?;
        let library = folder.path().join("slow_disk.so");
        let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("src/slow_disk.c");
        let compiled = Command::new("cc").args(["-shared", "-fPIC", "-o"]).args([&library, &source]).output()?;
        ensure!(compiled.status.success(), "{}", String::from_utf8_lossy(&compiled.stderr));
        let disk = Self { folder, library };
        disk.takes(Duration::ZERO)?;
        Ok(disk)
    }

    fn told(&self) -> PathBuf {
        self.folder.path().join("late")
    }

    /// From now on everything that has to last takes so long.
    pub fn takes(&self, late: Duration) -> Result<()> {
        write_whole(&self.told(), &late.as_millis().to_string())
    }

    /// A database on this disk.
    pub fn database(&self) -> Result<Database> {
        Database::start_under(&[("LD_PRELOAD", &self.library), ("SLOW_DISK", &self.told())])
    }
}

/// The database's own account has to reach it.
fn open_to_others(folder: &Path) -> Result<()> {
    Ok(std::fs::set_permissions(folder, std::os::unix::fs::PermissionsExt::from_mode(0o755))?)
}

/// Never seen half written.
fn write_whole(path: &Path, text: &str) -> Result<()> {
    let new = path.with_extension("new");
    std::fs::write(&new, text)?;
    Ok(std::fs::rename(new, path)?)
}

/// Three tabs on a disk that is quick, slow, stands still for longer than a connection is waited for, and is quick again, for `long` each.
///
/// # Errors
/// An edit that was lost or made twice.
pub async fn slow_disk(long: Duration) -> Result<Work> {
    let disk = SlowDisk::new()?;
    let database = disk.database()?;
    let server = Server::start(&database, false)?;
    let crew = Crew::begin(&[&server, &server, &server]).await?;
    for late in [0, 50, 400, 8_000, 0] {
        disk.takes(Duration::from_millis(late))?;
        tokio::time::sleep(long).await;
        if crew.gave_up() {
            break;
        }
    }
    crew.end(&[&server]).await
}

/// Three tabs and a job while the clock of database and server jumps by an hour, forward and back, for `long` each.
///
/// # Errors
/// An edit that was lost or made twice, a job that does not end; no `libfaketime`.
pub async fn clock(long: Duration) -> Result<Work> {
    let library = FAKETIME.iter().map(Path::new).find(|p| p.exists());
    let library = library.context("install the package libfaketime")?;
    let folder = Scratch::new()?;
    open_to_others(folder.path())?;
    let told = folder.path().join("clock");
    write_whole(&told, "+0")?;
    let (uncached, monotonic) = (Path::new("1"), Path::new("1"));
    let under = [
        ("LD_PRELOAD", library),
        ("FAKETIME_TIMESTAMP_FILE", &*told),
        ("FAKETIME_NO_CACHE", uncached),
        ("DONT_FAKE_MONOTONIC", monotonic),
    ];
    let database = Database::start_under(&under.map(|(name, value)| (name, value)))?;
    let server = Server::start_under(&database, &under)?;
    let crew = Crew::begin(&[&server, &server, &server]).await?;
    let sheet = server.new_sheet("Timeless").await?;
    for (jump, hours) in [("+0", 0), ("+1h", 1), ("+0", 0), ("-1h", -1), ("+0", 0)] {
        // a tab that has not been heard of for an hour is taken for closed, until it is heard of again
        let held = crew.hold().await;
        write_whole(&told, jump)?;
        drop(held);
        tokio::time::sleep(long).await;
        if crew.gave_up() {
            break;
        }
        let cards = server.get("/sheets").await?;
        let changed = cards.as_array().into_iter().flatten().filter_map(|c| c["changed"].as_i64());
        let now = SystemTime::now().duration_since(UNIX_EPOCH)?.as_secs().cast_signed() + 3600 * hours;
        ensure!(changed.into_iter().any(|at| (at - now).abs() < 60), "the clock did not jump by {jump}: {cards}");
        let task = serde_json::json!({ "task": "deliver", "kind": "png", "ppi": 30.0, "bleed": false });
        ensure!(server.delivered(&sheet, task).await?.starts_with(b"\x89PNG"), "no file at {jump}");
    }
    crew.end(&[&server]).await
}
