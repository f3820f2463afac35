//! Sheets, their steps and the cursor of undo.
//!
//! Every step holds the whole document after it. The present document is that of the step under the cursor; undo and
//! redo move the cursor, and an edit drops the steps after it. The revision only ever grows.

use super::{Store, StoreError};
use inky_core::sheet::{Sheet, SheetId};
use sqlx::{MySqlConnection, Row};
use time::OffsetDateTime;
use uuid::Uuid;

/// Steps that are kept of each sheet.
const STEPS: u64 = 500;

/// A sheet with what can be undone and redone.
#[derive(Debug, Clone)]
pub struct SheetRow {
    pub id: SheetId,
    pub revision: u64,
    pub sheet: Sheet,
    pub undo: Option<String>,
    pub redo: Option<String>,
}

/// One line of the desk.
#[derive(Debug, Clone)]
pub struct SheetLine {
    pub id: SheetId,
    pub revision: u64,
    pub sheet: Sheet,
    pub changed: OffsetDateTime,
}

/// What an edit comes to.
pub enum EditOutcome<E> {
    Kept(SheetRow),
    /// Somebody else was faster: the sheet as it is now.
    Stale(SheetRow),
    Refused(E),
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

struct Head {
    revision: u64,
    step: u64,
    request: Option<Uuid>,
}

impl Store {
    pub async fn create_sheet(&self, sheet: &Sheet, step: &str) -> Result<SheetId, StoreError> {
        let id = SheetId::fresh();
        let mut tx = self.pool.begin().await?;
        sqlx::query("INSERT INTO sheets (id, name, revision, step) VALUES (?, ?, 1, 0)")
            .bind(id.0)
            .bind(&sheet.name)
            .execute(&mut *tx)
            .await?;
        insert_step(&mut tx, id, 0, step, None, sheet).await?;
        tx.commit().await?;
        Ok(id)
    }

    pub async fn sheet(&self, id: SheetId) -> Result<Option<SheetRow>, StoreError> {
        let mut connection = self.pool.acquire().await?;
        row(&mut connection, id).await
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

    /// Keeps what `change` makes of the present sheet as a new step, if the sheet is still at the given revision.
    ///
    /// `change` gives the next sheet and the step's name.
    pub async fn edit_sheet<E>(
        &self,
        id: SheetId,
        write: StepWrite,
        change: impl FnOnce(&Sheet) -> Result<(Sheet, String), E>,
    ) -> Result<EditOutcome<E>, StoreError> {
        let mut tx = self.pool.begin().await?;
        let (head, present) = match begin(&mut tx, id, &write).await? {
            Ok(present) => present,
            Err(outcome) => return Ok(outcome),
        };
        let (next, name) = match change(&present.sheet) {
            Ok(next) => next,
            Err(refusal) => return Ok(EditOutcome::Refused(refusal)),
        };
        let top = sqlx::query("SELECT gesture FROM steps WHERE sheet = ? AND seq = ?").bind(id.0).bind(head.step);
        let top: Option<Uuid> = top.fetch_one(&mut *tx).await?.try_get(0)?;
        let goes_on = head.step > 0 && write.gesture.is_some() && top == write.gesture;
        sqlx::query("DELETE FROM steps WHERE sheet = ? AND seq > ?")
            .bind(id.0)
            .bind(head.step)
            .execute(&mut *tx)
            .await?;
        let step = if goes_on {
            sqlx::query(
                "UPDATE steps SET document = ?, name = IF(name LIKE 'add %', name, ?) WHERE sheet = ? AND seq = ?",
            )
            .bind(serde_json::to_string(&next)?)
            .bind(&name)
            .bind(id.0)
            .bind(head.step)
            .execute(&mut *tx)
            .await?;
            head.step
        } else {
            insert_step(&mut tx, id, head.step + 1, &name, write.gesture, &next).await?;
            let oldest = (head.step + 1).saturating_sub(STEPS);
            sqlx::query("DELETE FROM steps WHERE sheet = ? AND seq < ?")
                .bind(id.0)
                .bind(oldest)
                .execute(&mut *tx)
                .await?;
            head.step + 1
        };
        set_head(&mut tx, id, &next.name, head.revision + 1, step, write.request).await?;
        let kept = row(&mut tx, id).await?;
        tx.commit().await?;
        Ok(kept.map_or(EditOutcome::NoSheet, EditOutcome::Kept))
    }

    /// Moves the cursor one step back or forth. Where there is no step left, the sheet stays as it is.
    pub async fn step_sheet(&self, id: SheetId, write: StepWrite, back: bool) -> Result<EditOutcome<()>, StoreError> {
        let mut tx = self.pool.begin().await?;
        let (head, _) = match begin(&mut tx, id, &write).await? {
            Ok(present) => present,
            Err(outcome) => return Ok(outcome),
        };
        let target = if back { head.step.checked_sub(1) } else { Some(head.step + 1) };
        let Some(target) = target else {
            return Ok(EditOutcome::Refused(()));
        };
        let found = sqlx::query("SELECT document FROM steps WHERE sheet = ? AND seq = ?").bind(id.0).bind(target);
        let Some(found) = found.fetch_optional(&mut *tx).await? else {
            return Ok(EditOutcome::Refused(()));
        };
        let sheet: Sheet = serde_json::from_str(found.try_get(0)?)?;
        set_head(&mut tx, id, &sheet.name, head.revision + 1, target, write.request).await?;
        let kept = row(&mut tx, id).await?;
        tx.commit().await?;
        Ok(kept.map_or(EditOutcome::NoSheet, EditOutcome::Kept))
    }

    pub async fn thumbnail(&self, id: SheetId, revision: u64) -> Result<Option<Vec<u8>>, StoreError> {
        let found =
            sqlx::query("SELECT png FROM thumbnails WHERE sheet = ? AND revision = ?").bind(id.0).bind(revision);
        Ok(found.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?)
    }

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

/// The present sheet, locked for a change; or what is to be said of the change before it is tried: it was made already,
/// or for an older sheet.
async fn begin<E>(
    connection: &mut MySqlConnection,
    id: SheetId,
    write: &StepWrite,
) -> Result<Result<(Head, SheetRow), EditOutcome<E>>, StoreError> {
    let Some(head) = head(connection, id).await? else {
        return Ok(Err(EditOutcome::NoSheet));
    };
    let Some(present) = row(connection, id).await? else {
        return Ok(Err(EditOutcome::NoSheet));
    };
    if write.request.is_some() && head.request == write.request {
        return Ok(Err(EditOutcome::Kept(present)));
    }
    if head.revision != write.base {
        return Ok(Err(EditOutcome::Stale(present)));
    }
    Ok(Ok((head, present)))
}

/// Locks the sheet until the end of the transaction.
async fn head(connection: &mut MySqlConnection, id: SheetId) -> Result<Option<Head>, StoreError> {
    let sql = "SELECT revision, step, request FROM sheets WHERE id = ? AND removed IS NULL FOR UPDATE";
    let Some(r) = sqlx::query(sql).bind(id.0).fetch_optional(connection).await? else {
        return Ok(None);
    };
    Ok(Some(Head { revision: r.try_get(0)?, step: r.try_get(1)?, request: r.try_get(2)? }))
}

async fn row(connection: &mut MySqlConnection, id: SheetId) -> Result<Option<SheetRow>, StoreError> {
    let sql = "SELECT s.revision, t.document, IF(b.seq IS NULL, NULL, t.name), n.name FROM sheets s \
               JOIN steps t ON t.sheet = s.id AND t.seq = s.step \
               LEFT JOIN steps b ON b.sheet = s.id AND b.seq + 1 = s.step \
               LEFT JOIN steps n ON n.sheet = s.id AND n.seq = s.step + 1 WHERE s.id = ? AND s.removed IS NULL";
    let Some(r) = sqlx::query(sql).bind(id.0).fetch_optional(connection).await? else {
        return Ok(None);
    };
    Ok(Some(SheetRow {
        id,
        revision: r.try_get(0)?,
        sheet: serde_json::from_str(r.try_get(1)?)?,
        undo: r.try_get(2)?,
        redo: r.try_get(3)?,
    }))
}

async fn insert_step(
    connection: &mut MySqlConnection,
    id: SheetId,
    seq: u64,
    name: &str,
    gesture: Option<Uuid>,
    sheet: &Sheet,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO steps (sheet, seq, name, gesture, document) VALUES (?, ?, ?, ?, ?)")
        .bind(id.0)
        .bind(seq)
        .bind(name)
        .bind(gesture)
        .bind(serde_json::to_string(sheet)?)
        .execute(connection)
        .await?;
    Ok(())
}

async fn set_head(
    connection: &mut MySqlConnection,
    id: SheetId,
    name: &str,
    revision: u64,
    step: u64,
    request: Option<Uuid>,
) -> Result<(), StoreError> {
    sqlx::query("UPDATE sheets SET name = ?, revision = ?, step = ?, request = ? WHERE id = ?")
        .bind(name)
        .bind(revision)
        .bind(step)
        .bind(request)
        .bind(id.0)
        .execute(connection)
        .await?;
    Ok(())
}
