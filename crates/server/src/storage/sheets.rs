//! Sheets, their steps and the cursor of undo.
//!
//! Every step holds the whole document after it. The present document is that of the step under the cursor; undo and
//! redo move the cursor, and an edit drops the steps after it. The revision only ever grows.

use super::{Store, StoreError};
use inky_core::sheet::{Sheet, SheetId};
use sqlx::mysql::MySqlRow;
use sqlx::{MySqlConnection, Row};
use std::sync::Arc;
use time::OffsetDateTime;
use uuid::Uuid;

/// Steps that are kept of each sheet.
const STEPS: u64 = 500;

/// What is known of a sheet without its document.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SheetHead {
    pub id: SheetId,
    pub revision: u64,
    /// The request that made this revision, so that a repeated one is recognised.
    pub request: Option<Uuid>,
    /// Name of what undo takes back.
    pub undo: Option<String>,
    pub redo: Option<String>,
}

/// A sheet with what can be undone and redone.
#[derive(Debug, Clone)]
pub struct SheetRow {
    pub head: SheetHead,
    pub sheet: Arc<Sheet>,
}

/// One line of the desk.
#[derive(Debug, Clone)]
pub struct SheetLine {
    pub id: SheetId,
    pub revision: u64,
    pub sheet: Sheet,
    pub changed: OffsetDateTime,
}

/// What a change comes to.
pub enum Written {
    /// It is kept: the sheet's head after it.
    Kept(SheetHead),
    /// The same request was kept before.
    Repeated,
    /// Somebody else was faster.
    Stale,
    /// There is nothing to be undone or redone.
    Nothing,
    NoSheet,
}

/// What identifies a change.
#[derive(Debug, Clone, Copy)]
pub struct StepWrite {
    /// The revision that the change was made for.
    pub base: u64,
    /// The request, so that a repeated one is recognised.
    pub request: Option<Uuid>,
    /// Edits of one gesture are one step.
    pub gesture: Option<Uuid>,
}

/// The step that a document is.
pub struct Step<'a> {
    pub name: &'a str,
    /// It adds something: edits of its gesture that come after it do not rename it.
    pub adds: bool,
    pub sheet: &'a Sheet,
}

struct Cursor {
    revision: u64,
    step: u64,
    request: Option<Uuid>,
}

impl Store {
    /// A new sheet with its first step.
    pub async fn create_sheet(&self, sheet: &Sheet, step: &str) -> Result<SheetId, StoreError> {
        let id = SheetId::fresh();
        let mut tx = self.pool.begin().await?;
        sqlx::query("INSERT INTO sheets (id, name, revision, step) VALUES (?, ?, 1, 0)")
            .bind(id.0)
            .bind(&sheet.name)
            .execute(&mut *tx)
            .await?;
        let step = Step { name: step, adds: false, sheet };
        insert_step(&mut tx, id, 0, &step, None, &serde_json::to_string(sheet)?).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// A sheet as it is now.
    pub async fn sheet(&self, id: SheetId) -> Result<Option<SheetRow>, StoreError> {
        let sql = sqlx::AssertSqlSafe(format!(
            "SELECT {HEAD}, t.document FROM sheets s {STEPS_OF} WHERE s.id = ? AND s.removed IS NULL"
        ));
        let Some(r) = sqlx::query(sql).bind(id.0).fetch_optional(&self.pool).await? else {
            return Ok(None);
        };
        let sheet = Arc::new(serde_json::from_str(r.try_get(4)?)?);
        Ok(Some(SheetRow { head: head(id, &r)?, sheet }))
    }

    /// What is known of a sheet that was not removed, without its document.
    pub async fn head(&self, id: SheetId) -> Result<Option<SheetHead>, StoreError> {
        let mut connection = self.pool.acquire().await?;
        read_head(&mut connection, id).await
    }

    /// The revision of a sheet that was not removed.
    pub async fn revision(&self, id: SheetId) -> Result<Option<u64>, StoreError> {
        let found = sqlx::query("SELECT revision FROM sheets WHERE id = ? AND removed IS NULL").bind(id.0);
        Ok(found.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?)
    }

    /// Whether a file of the demo was loaded once, even if its sheet was removed since.
    pub async fn demo_is_loaded(&self, file: &str) -> Result<bool, StoreError> {
        let found = sqlx::query("SELECT 1 FROM demo_files WHERE file = ?").bind(file);
        Ok(found.fetch_optional(&self.pool).await?.is_some())
    }

    /// Remembers that a demo file was loaded.
    pub async fn mark_demo(&self, file: &str) -> Result<(), StoreError> {
        sqlx::query("INSERT IGNORE INTO demo_files (file) VALUES (?)").bind(file).execute(&self.pool).await?;
        Ok(())
    }

    /// All sheets that were not removed, the last changed first.
    pub async fn sheets(&self) -> Result<Vec<SheetLine>, StoreError> {
        let rows = sqlx::query(
            "SELECT s.id, s.revision, s.changed, t.document FROM sheets s \
             JOIN steps t ON t.sheet = s.id AND t.seq = s.step WHERE s.removed IS NULL ORDER BY s.changed DESC, s.id",
        );
        let mut lines = Vec::new();
        for r in rows.fetch_all(&self.pool).await? {
            lines.push(SheetLine {
                id: SheetId(r.try_get(0)?),
                revision: r.try_get(1)?,
                changed: r.try_get(2)?,
                sheet: serde_json::from_str(r.try_get(3)?)?,
            });
        }
        Ok(lines)
    }

    /// Takes a sheet off the desk, or puts it back. Whether there is such a sheet.
    pub async fn remove_sheet(&self, id: SheetId, removed: bool) -> Result<bool, StoreError> {
        let sql = "UPDATE sheets SET removed = IF(?, CURRENT_TIMESTAMP(3), NULL), changed = changed WHERE id = ?";
        let found = sqlx::query("SELECT 1 FROM sheets WHERE id = ?").bind(id.0).fetch_optional(&self.pool).await?;
        sqlx::query(sql).bind(removed).bind(id.0).execute(&self.pool).await?;
        Ok(found.is_some())
    }

    /// Keeps a document as a new step, if the sheet is still at the given revision.
    pub async fn keep_step(&self, id: SheetId, write: StepWrite, step: Step<'_>) -> Result<Written, StoreError> {
        // nothing is computed while the row is locked
        let document = serde_json::to_string(step.sheet)?;
        let mut tx = self.pool.begin().await?;
        let cursor = match begin(&mut tx, id, &write).await? {
            Ok(cursor) => cursor,
            Err(written) => return Ok(written),
        };
        let top = sqlx::query("SELECT gesture, adds FROM steps WHERE sheet = ? AND seq = ?");
        let top = top.bind(id.0).bind(cursor.step).fetch_one(&mut *tx).await?;
        let goes_on = cursor.step > 0 && write.gesture.is_some() && top.try_get::<Option<Uuid>, _>(0)? == write.gesture;
        sqlx::query("DELETE FROM steps WHERE sheet = ? AND seq > ?")
            .bind(id.0)
            .bind(cursor.step)
            .execute(&mut *tx)
            .await?;
        let at = if goes_on {
            let keeps_its_name = top.try_get::<bool, _>(1)?;
            sqlx::query("UPDATE steps SET document = ?, name = IF(?, name, ?) WHERE sheet = ? AND seq = ?")
                .bind(&document)
                .bind(keeps_its_name)
                .bind(step.name)
                .bind(id.0)
                .bind(cursor.step)
                .execute(&mut *tx)
                .await?;
            cursor.step
        } else {
            insert_step(&mut tx, id, cursor.step + 1, &step, write.gesture, &document).await?;
            let oldest = (cursor.step + 1).saturating_sub(STEPS);
            sqlx::query("DELETE FROM steps WHERE sheet = ? AND seq < ?")
                .bind(id.0)
                .bind(oldest)
                .execute(&mut *tx)
                .await?;
            cursor.step + 1
        };
        set_cursor(
            &mut tx,
            id,
            &step.sheet.name,
            &Cursor { revision: cursor.revision + 1, step: at, request: write.request },
        )
        .await?;
        let kept = read_head(&mut tx, id).await?;
        tx.commit().await?;
        Ok(kept.map_or(Written::NoSheet, Written::Kept))
    }

    /// Moves the cursor one step back or forth. Where there is no step left, the sheet stays as it is.
    pub async fn step_sheet(&self, id: SheetId, write: StepWrite, back: bool) -> Result<Written, StoreError> {
        let mut tx = self.pool.begin().await?;
        let cursor = match begin(&mut tx, id, &write).await? {
            Ok(cursor) => cursor,
            Err(written) => return Ok(written),
        };
        let target = if back { cursor.step.checked_sub(1) } else { Some(cursor.step + 1) };
        let Some(target) = target else {
            return Ok(Written::Nothing);
        };
        let found = sqlx::query("SELECT JSON_VALUE(document, '$.name') FROM steps WHERE sheet = ? AND seq = ?");
        let Some(found) = found.bind(id.0).bind(target).fetch_optional(&mut *tx).await? else {
            return Ok(Written::Nothing);
        };
        let name: String = found.try_get(0)?;
        set_cursor(&mut tx, id, &name, &Cursor { revision: cursor.revision + 1, step: target, request: write.request })
            .await?;
        let kept = read_head(&mut tx, id).await?;
        tx.commit().await?;
        Ok(kept.map_or(Written::NoSheet, Written::Kept))
    }

    /// The picture of a sheet at a revision, as a PNG file.
    pub async fn thumbnail(&self, id: SheetId, revision: u64) -> Result<Option<Vec<u8>>, StoreError> {
        let found =
            sqlx::query("SELECT png FROM thumbnails WHERE sheet = ? AND revision = ?").bind(id.0).bind(revision);
        Ok(found.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?)
    }

    /// Keeps the picture of a sheet, in place of older ones.
    pub async fn put_thumbnail(&self, id: SheetId, revision: u64, png: &[u8]) -> Result<(), StoreError> {
        sqlx::query("REPLACE INTO thumbnails (sheet, revision, png) VALUES (?, ?, ?)")
            .bind(id.0)
            .bind(revision)
            .bind(png)
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}

const HEAD: &str = "s.revision, s.request, IF(b.seq IS NULL, NULL, t.name), n.name";

/// The present step of a sheet, the one before it and the one after it.
const STEPS_OF: &str = "JOIN steps t ON t.sheet = s.id AND t.seq = s.step \
                        LEFT JOIN steps b ON b.sheet = s.id AND b.seq + 1 = s.step \
                        LEFT JOIN steps n ON n.sheet = s.id AND n.seq = s.step + 1";

fn head(id: SheetId, r: &MySqlRow) -> Result<SheetHead, StoreError> {
    let (undo, redo) = (r.try_get(2)?, r.try_get(3)?);
    Ok(SheetHead { id, revision: r.try_get(0)?, request: r.try_get(1)?, undo, redo })
}

async fn read_head(connection: &mut MySqlConnection, id: SheetId) -> Result<Option<SheetHead>, StoreError> {
    let sql =
        sqlx::AssertSqlSafe(format!("SELECT {HEAD} FROM sheets s {STEPS_OF} WHERE s.id = ? AND s.removed IS NULL"));
    sqlx::query(sql).bind(id.0).fetch_optional(connection).await?.map(|r| head(id, &r)).transpose()
}

/// The cursor of a sheet, which is locked for a change until the end of the transaction; or what is to be said of the change before it is
/// tried: it was made already, or for an older sheet.
async fn begin(
    connection: &mut MySqlConnection,
    id: SheetId,
    write: &StepWrite,
) -> Result<Result<Cursor, Written>, StoreError> {
    let sql = "SELECT revision, step, request FROM sheets WHERE id = ? AND removed IS NULL FOR UPDATE";
    let Some(r) = sqlx::query(sql).bind(id.0).fetch_optional(connection).await? else {
        return Ok(Err(Written::NoSheet));
    };
    let cursor = Cursor { revision: r.try_get(0)?, step: r.try_get(1)?, request: r.try_get(2)? };
    if write.request.is_some() && cursor.request == write.request {
        return Ok(Err(Written::Repeated));
    }
    Ok(if cursor.revision == write.base { Ok(cursor) } else { Err(Written::Stale) })
}

async fn insert_step(
    connection: &mut MySqlConnection,
    id: SheetId,
    seq: u64,
    step: &Step<'_>,
    gesture: Option<Uuid>,
    document: &str,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO steps (sheet, seq, name, adds, gesture, document) VALUES (?, ?, ?, ?, ?, ?)")
        .bind(id.0)
        .bind(seq)
        .bind(step.name)
        .bind(step.adds)
        .bind(gesture)
        .bind(document)
        .execute(connection)
        .await?;
    Ok(())
}

async fn set_cursor(
    connection: &mut MySqlConnection,
    id: SheetId,
    name: &str,
    cursor: &Cursor,
) -> Result<(), StoreError> {
    sqlx::query("UPDATE sheets SET name = ?, revision = ?, step = ?, request = ? WHERE id = ?")
        .bind(name)
        .bind(cursor.revision)
        .bind(cursor.step)
        .bind(cursor.request)
        .bind(id.0)
        .execute(connection)
        .await?;
    Ok(())
}
