//! What was done to a sheet: steps that can be taken back, and every document that it has had.
//!
//! The revision only ever grows. A change is computed for one revision, and kept only if the sheet is still at that one (compare and set): no row
//! is locked while something is computed. A step knows the documents before and after it; undo makes a new revision.

use super::{Document, PartId, Store, StoreError};
use inky_core::sheet::{Sheet, SheetId};
use sqlx::mysql::MySqlRow;
use sqlx::{MySqlConnection, Row};
use uuid::Uuid;

/// Steps that are kept of each sheet.
const STEPS: u64 = 500;
/// Characters of a step's name.
const NAME: usize = 200;

/// Steps that a tab may take back: its own, those of nobody, and those of tabs that have been closed since. Binds the tab.
const OWN: &str = "(h.author <=> ? OR h.author IS NULL OR NOT EXISTS (SELECT 1 FROM presence p \
                   WHERE p.sheet = h.sheet AND p.author = h.author AND ABS(TIMESTAMPDIFF(SECOND, p.seen, CURRENT_TIMESTAMP(3))) < 40))";

/// What identifies a change.
#[derive(Debug, Clone, Copy)]
pub struct StepWrite {
    /// The revision that the document was computed from.
    pub base: u64,
    /// The request, so that a repeated one is recognised.
    pub request: Option<Uuid>,
    /// Edits of one gesture are one step.
    pub gesture: Option<Uuid>,
    /// The tab that makes it.
    pub author: Option<Uuid>,
}

/// The step that a document is.
pub struct Step<'a> {
    pub name: &'a str,
    /// It adds something: edits of its gesture that come after it do not rename it.
    pub adds: bool,
    /// The document that it was made of.
    pub before: PartId,
    pub sheet: &'a Sheet,
    pub document: &'a Document,
}

/// A step that can be taken back, or made again.
#[derive(Debug, Clone)]
pub struct StepRow {
    pub seq: u64,
    pub name: String,
    pub before: PartId,
    pub after: PartId,
}

/// A step as it is listed.
#[derive(Debug, Clone)]
pub struct StepLine {
    pub seq: u64,
    pub name: String,
    /// Seconds since 1970, UTC; unknown for those of earlier versions.
    pub made: Option<i64>,
    /// It was taken back.
    pub undone: bool,
}

/// The number of what was there before the first step that is kept.
pub const BEGINNING: u64 = 0;

/// What a change comes to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Written {
    /// It is kept, as this revision.
    Kept(u64),
    /// The same request was kept before.
    Repeated,
    /// Somebody else was faster.
    Stale,
    NoSheet,
}

impl Store {
    /// Keeps a document as a new step, if the sheet is still at the given revision.
    pub async fn keep_step(&self, id: SheetId, write: StepWrite, step: Step<'_>) -> Result<Written, StoreError> {
        self.put_document(step.document).await?;
        let root = step.document.tree.root();
        let mut tx = self.pool.begin().await?;
        let written = set_document(&mut tx, id, &write, step.sheet, root).await?;
        if !matches!(written, Written::Kept(_)) {
            return Ok(written);
        }
        let sql = "SELECT seq, gesture, adds, author, undone FROM history WHERE sheet = ? ORDER BY seq DESC LIMIT 1";
        let top = sqlx::query(sql).bind(id.0).fetch_optional(&mut *tx).await?;
        let sql = sqlx::AssertSqlSafe(format!("DELETE h FROM history h WHERE h.sheet = ? AND h.undone AND {OWN}"));
        sqlx::query(sql).bind(id.0).bind(write.author).execute(&mut *tx).await?;
        let name: String = step.name.chars().take(NAME).collect();
        let last: u64 = top.as_ref().map_or(Ok(0), |row| row.try_get(0))?;
        match top {
            Some(row) if goes_on(&row, &write)? => {
                let keeps_its_name: bool = row.try_get(2)?;
                sqlx::query("UPDATE history SET after_root = ?, name = IF(?, name, ?) WHERE sheet = ? AND seq = ?")
                    .bind(root.bytes())
                    .bind(keeps_its_name)
                    .bind(&name)
                    .bind(id.0)
                    .bind(last)
                    .execute(&mut *tx)
                    .await?;
            }
            _ => {
                let sql = "INSERT INTO history (sheet, seq, name, adds, gesture, author, before_root, after_root, made) \
                           VALUES (?, ?, ?, ?, ?, ?, ?, ?, CURRENT_TIMESTAMP(3))";
                sqlx::query(sql)
                    .bind(id.0)
                    .bind(last + 1)
                    .bind(&name)
                    .bind(step.adds)
                    .bind(write.gesture)
                    .bind(write.author)
                    .bind(step.before.bytes())
                    .bind(root.bytes())
                    .execute(&mut *tx)
                    .await?;
                sqlx::query("DELETE FROM history WHERE sheet = ? AND seq + ? <= ?")
                    .bind(id.0)
                    .bind(STEPS)
                    .bind(last + 1)
                    .execute(&mut *tx)
                    .await?;
            }
        }
        tx.commit().await?;
        Ok(written)
    }

    /// Keeps the document that a sheet has with a step taken back, or made again.
    pub async fn keep_undo(
        &self,
        id: SheetId,
        write: StepWrite,
        (sheet, document): (&Sheet, &Document),
        (seq, undone): (u64, bool),
    ) -> Result<Written, StoreError> {
        self.put_document(document).await?;
        let mut tx = self.pool.begin().await?;
        let written = set_document(&mut tx, id, &write, sheet, document.tree.root()).await?;
        if !matches!(written, Written::Kept(_)) {
            return Ok(written);
        }
        // a gesture that was taken back does not go on
        sqlx::query("UPDATE history SET undone = ?, gesture = NULL WHERE sheet = ? AND seq = ?")
            .bind(undone)
            .bind(id.0)
            .bind(seq)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(written)
    }

    /// The step that a tab takes back next, or makes again.
    pub async fn next_step(
        &self,
        id: SheetId,
        author: Option<Uuid>,
        back: bool,
    ) -> Result<Option<StepRow>, StoreError> {
        let (undone, order) = if back { ("NOT h.undone", "DESC") } else { ("h.undone", "ASC") };
        let sql = format!(
            "SELECT seq, name, before_root, after_root FROM history h \
             WHERE h.sheet = ? AND {undone} AND {OWN} ORDER BY h.seq {order} LIMIT 1"
        );
        let row = sqlx::query(sqlx::AssertSqlSafe(sql)).bind(id.0).bind(author).fetch_optional(&self.pool).await?;
        row.map(|r| step_row(&r)).transpose()
    }

    /// The steps after one that are not taken back, the first one first.
    pub async fn steps_after(&self, id: SheetId, seq: u64) -> Result<Vec<StepRow>, StoreError> {
        let sql = "SELECT seq, name, before_root, after_root FROM history \
                   WHERE sheet = ? AND seq > ? AND NOT undone ORDER BY seq";
        sqlx::query(sql).bind(id.0).bind(seq).fetch_all(&self.pool).await?.iter().map(step_row).collect()
    }

    /// All steps that are kept of a sheet, the first one first.
    pub async fn steps(&self, id: SheetId) -> Result<Vec<StepLine>, StoreError> {
        let sql =
            "SELECT seq, name, CAST(UNIX_TIMESTAMP(made) AS SIGNED), undone FROM history WHERE sheet = ? ORDER BY seq";
        let line = |r: &MySqlRow| {
            Ok(StepLine { seq: r.try_get(0)?, name: r.try_get(1)?, made: r.try_get(2)?, undone: r.try_get(3)? })
        };
        sqlx::query(sql).bind(id.0).fetch_all(&self.pool).await?.iter().map(line).collect()
    }

    /// The name of a step and the document that it made; for [`BEGINNING`] the one that the first step was made of.
    pub async fn step_document(&self, id: SheetId, seq: u64) -> Result<Option<(String, PartId)>, StoreError> {
        let sql = "SELECT seq, name, before_root, after_root FROM history WHERE sheet = ? AND (seq = ? OR ?) ORDER BY seq LIMIT 1";
        let found = sqlx::query(sql).bind(id.0).bind(seq).bind(seq == BEGINNING).fetch_optional(&self.pool).await?;
        let Some(step) = found.map(|r| step_row(&r)).transpose()? else { return Ok(None) };
        Ok(Some(if seq == BEGINNING { ("the beginning".into(), step.before) } else { (step.name, step.after) }))
    }

    /// The revision that a request made.
    pub async fn requested(&self, id: SheetId, request: Uuid) -> Result<Option<u64>, StoreError> {
        let found = sqlx::query("SELECT revision FROM revisions WHERE sheet = ? AND request = ?");
        let found = found.bind(id.0).bind(request).fetch_optional(&self.pool).await?;
        Ok(found.map(|r| r.try_get(0)).transpose()?)
    }

    /// The root of the document that a sheet had at a revision, if that is remembered.
    pub async fn root_at(&self, id: SheetId, revision: u64) -> Result<Option<PartId>, StoreError> {
        let found = sqlx::query("SELECT root FROM revisions WHERE sheet = ? AND revision = ?");
        let found = found.bind(id.0).bind(revision).fetch_optional(&self.pool).await?;
        found.map(|r| PartId::read(r.try_get(0)?)).transpose()
    }
}

/// Gives a sheet another document, if it is still at the revision that this was computed from.
async fn set_document(
    connection: &mut MySqlConnection,
    id: SheetId,
    write: &StepWrite,
    sheet: &Sheet,
    root: PartId,
) -> Result<Written, StoreError> {
    let next = write.base + 1;
    let set = sqlx::query(
        "UPDATE sheets SET revision = ?, root = ?, name = ?, width = ?, height = ?, unit = ?, ppi = ? \
         WHERE id = ? AND revision = ? AND removed IS NULL",
    );
    let set = set.bind(next).bind(root.bytes()).bind(&sheet.name).bind(sheet.width).bind(sheet.height);
    let set = set.bind(sheet.unit.name()).bind(sheet.ppi).bind(id.0).bind(write.base);
    if set.execute(&mut *connection).await?.rows_affected() == 0 {
        return not_set(connection, id, write).await;
    }
    let kept = sqlx::query("INSERT INTO revisions (sheet, revision, root, request) VALUES (?, ?, ?, ?)");
    match kept.bind(id.0).bind(next).bind(root.bytes()).bind(write.request).execute(&mut *connection).await {
        Ok(_) => Ok(Written::Kept(next)),
        // another server was asked the same at the same time
        Err(error) if error.as_database_error().is_some_and(|e| e.is_unique_violation()) => Ok(Written::Repeated),
        Err(error) => Err(error.into()),
    }
}

async fn not_set(connection: &mut MySqlConnection, id: SheetId, write: &StepWrite) -> Result<Written, StoreError> {
    let there = sqlx::query("SELECT 1 FROM sheets WHERE id = ? AND removed IS NULL").bind(id.0);
    if there.fetch_optional(&mut *connection).await?.is_none() {
        return Ok(Written::NoSheet);
    }
    let known = sqlx::query("SELECT 1 FROM revisions WHERE sheet = ? AND request = ?").bind(id.0).bind(write.request);
    let repeated = known.fetch_optional(&mut *connection).await?.is_some();
    Ok(if repeated { Written::Repeated } else { Written::Stale })
}

/// Whether a change goes on with the step that was made last.
fn goes_on(top: &MySqlRow, write: &StepWrite) -> Result<bool, StoreError> {
    let gesture: Option<Uuid> = top.try_get(1)?;
    let (author, undone): (Option<Uuid>, bool) = (top.try_get(3)?, top.try_get(4)?);
    Ok(gesture.is_some() && gesture == write.gesture && author == write.author && !undone)
}

fn step_row(row: &MySqlRow) -> Result<StepRow, StoreError> {
    Ok(StepRow {
        seq: row.try_get(0)?,
        name: row.try_get(1)?,
        before: PartId::read(row.try_get(2)?)?,
        after: PartId::read(row.try_get(3)?)?,
    })
}

/// The names of what a tab takes back next and makes again next, as columns of a query about sheets `s`. Binds the tab twice.
pub(super) fn step_names() -> String {
    let name = |undone: &str, order: &str| {
        format!(
            "(SELECT h.name FROM history h WHERE h.sheet = s.id AND {undone} AND {OWN} ORDER BY h.seq {order} LIMIT 1)"
        )
    };
    format!("{}, {}", name("NOT h.undone", "DESC"), name("h.undone", "ASC"))
}
