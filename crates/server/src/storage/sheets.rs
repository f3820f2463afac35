//! Sheets as a whole: the desk, their documents as they are now, their pictures.

use super::history::step_names;
use super::members::own_new;
use super::{Document, PartId, Role, Store, StoreError, Tree};
use inky_core::sheet::{Sheet, SheetId, Unit};
use sqlx::Row;
use std::sync::Arc;
use time::OffsetDateTime;
use uuid::Uuid;

/// What is known of a sheet without its document.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SheetHead {
    pub id: SheetId,
    pub revision: u64,
    /// The root of its document.
    pub root: PartId,
    /// Name of what undo takes back.
    pub undo: Option<String>,
    pub redo: Option<String>,
}

/// A sheet with what can be undone and redone.
#[derive(Debug, Clone)]
pub struct SheetRow {
    pub head: SheetHead,
    pub sheet: Arc<Sheet>,
    pub tree: Arc<Tree>,
}

/// One line of the desk.
#[derive(Debug, Clone)]
pub struct SheetLine {
    pub id: SheetId,
    pub name: String,
    /// Millimetres.
    pub width: f64,
    /// Millimetres.
    pub height: f64,
    pub unit: Unit,
    pub ppi: f64,
    pub revision: u64,
    pub changed: OffsetDateTime,
    /// Its document could not be read.
    pub damaged: bool,
    /// What the account may do with it that asked.
    pub role: Role,
    /// Who invited it, while the invitation is not taken.
    pub invited_by: Option<String>,
}

impl Store {
    /// A new sheet with this identifier, of an account where there are any. One that is there already stays as it is: the request came twice.
    pub async fn create_sheet(&self, id: SheetId, sheet: &Sheet, owner: Option<Uuid>) -> Result<SheetId, StoreError> {
        let document = Document::of(sheet, None)?;
        self.put_document(&document).await?;
        let root = document.tree.root();
        let mut tx = self.pool.begin().await?;
        let made = sqlx::query(
            "INSERT IGNORE INTO sheets (id, name, width, height, unit, ppi, revision, root) VALUES (?, ?, ?, ?, ?, ?, 1, ?)",
        )
        .bind(id.0)
        .bind(&sheet.name)
        .bind(sheet.width)
        .bind(sheet.height)
        .bind(sheet.unit.name())
        .bind(sheet.ppi)
        .bind(root.bytes())
        .execute(&mut *tx)
        .await?;
        if made.rows_affected() == 0 {
            return Ok(id);
        }
        sqlx::query("INSERT INTO revisions (sheet, revision, root) VALUES (?, 1, ?)")
            .bind(id.0)
            .bind(root.bytes())
            .execute(&mut *tx)
            .await?;
        if let Some(owner) = owner {
            own_new(&mut tx, id, owner).await?;
        }
        tx.commit().await?;
        Ok(id)
    }

    /// What is known of a sheet that was not removed, without its document: what could be undone is for a tab.
    ///
    /// # Errors
    /// A sheet whose document could not be read.
    pub async fn head(&self, id: SheetId, author: Option<Uuid>) -> Result<Option<SheetHead>, StoreError> {
        let sql =
            format!("SELECT s.revision, s.root, {} FROM sheets s WHERE s.id = ? AND s.removed IS NULL", step_names());
        let found = sqlx::query(sqlx::AssertSqlSafe(sql)).bind(author).bind(author).bind(id.0);
        let Some(r) = found.fetch_optional(&self.pool).await? else { return Ok(None) };
        let root = r.try_get::<Option<&[u8]>, _>(1)?.ok_or(StoreError::Damaged)?;
        let (undo, redo) = (r.try_get(2)?, r.try_get(3)?);
        Ok(Some(SheetHead { id, revision: r.try_get(0)?, root: PartId::read(root)?, undo, redo }))
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

    /// The sheets that were not removed, the last changed first: all of them, or those of an account. No document is read.
    pub async fn sheets(&self, of: Option<Uuid>) -> Result<Vec<SheetLine>, StoreError> {
        let sql = "SELECT s.id, s.name, s.width, s.height, s.unit, s.ppi, s.revision, s.changed, s.root IS NULL, \
                   COALESCE(m.role, 'own'), IF(m.taken, NULL, m.invited_by) \
                   FROM sheets s LEFT JOIN members m ON m.sheet = s.id AND m.account = ? \
                   WHERE s.removed IS NULL AND (? OR m.account IS NOT NULL) ORDER BY s.changed DESC, s.id";
        let line = |r: sqlx::mysql::MySqlRow| {
            Ok(SheetLine {
                id: SheetId(r.try_get(0)?),
                name: r.try_get(1)?,
                width: r.try_get(2)?,
                height: r.try_get(3)?,
                unit: Unit::named(r.try_get(4)?).unwrap_or(Unit::Mm),
                ppi: r.try_get(5)?,
                revision: r.try_get(6)?,
                changed: r.try_get(7)?,
                damaged: r.try_get(8)?,
                role: Role::named(r.try_get(9)?),
                invited_by: r.try_get(10)?,
            })
        };
        sqlx::query(sql).bind(of).bind(of.is_none()).fetch_all(&self.pool).await?.into_iter().map(line).collect()
    }

    /// Takes a sheet off the desk, or puts it back. Whether there is such a sheet.
    pub async fn remove_sheet(&self, id: SheetId, removed: bool) -> Result<bool, StoreError> {
        let sql = "UPDATE sheets SET removed = IF(?, CURRENT_TIMESTAMP(3), NULL), changed = changed WHERE id = ?";
        let found = sqlx::query("SELECT 1 FROM sheets WHERE id = ?").bind(id.0).fetch_optional(&self.pool).await?;
        sqlx::query(sql).bind(removed).bind(id.0).execute(&self.pool).await?;
        Ok(found.is_some())
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
