//! Documents as earlier versions kept them: whole, one for each step. They are taken apart once.

use super::{Document, PartId, Store, StoreError};
use inky_core::sheet::{Sheet, SheetId};
use sqlx::Row;

impl Store {
    /// Takes every whole document apart, and reads it back. The whole ones stay until all of them have been read back; those of a sheet
    /// that cannot be read stay for good.
    pub(super) async fn take_apart_whole_documents(&self) -> Result<(), StoreError> {
        let there = "SELECT 1 FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'steps'";
        if sqlx::query(there).fetch_optional(&self.pool).await?.is_none() {
            return Ok(());
        }
        let mut all = true;
        for row in sqlx::query("SELECT id, step FROM sheets WHERE root IS NULL").fetch_all(&self.pool).await? {
            let (id, step) = (SheetId(row.try_get(0)?), row.try_get(1)?);
            match self.take_apart(id, step).await {
                Ok(()) => {}
                Err(error @ (StoreError::Document(_) | StoreError::Incomplete(_) | StoreError::Damaged)) => {
                    tracing::error!(%error, sheet = %id.0, "a sheet cannot be read; it is left as it is");
                    all = false;
                }
                Err(error) => return Err(error),
            }
        }
        if all {
            sqlx::query("DROP TABLE steps").execute(&self.pool).await?;
        }
        Ok(())
    }

    /// The steps of one sheet, of which `present` is the one that is seen.
    async fn take_apart(&self, id: SheetId, present: u64) -> Result<(), StoreError> {
        let mut tx = self.pool.begin().await?;
        // one that was begun before begins again
        sqlx::query("DELETE FROM history WHERE sheet = ?").bind(id.0).execute(&mut *tx).await?;
        sqlx::query("DELETE FROM revisions WHERE sheet = ?").bind(id.0).execute(&mut *tx).await?;
        let seqs = sqlx::query("SELECT seq FROM steps WHERE sheet = ? ORDER BY seq").bind(id.0);
        let mut last: Option<(Sheet, PartId)> = None;
        let mut seen = None;
        // one at a time: all of them together may be larger than the memory
        for row in seqs.fetch_all(&mut *tx).await? {
            let seq: u64 = row.try_get(0)?;
            let sql = "SELECT document, name, adds, gesture FROM steps WHERE sheet = ? AND seq = ?";
            let step = sqlx::query(sql).bind(id.0).bind(seq).fetch_one(&mut *tx).await?;
            let sheet: Sheet = match serde_json::from_str(step.try_get(0)?) {
                Ok(sheet) => sheet,
                Err(error) if seq == present => return Err(error.into()),
                // what came before it cannot be reached past it
                Err(_) => {
                    sqlx::query("DELETE FROM history WHERE sheet = ?").bind(id.0).execute(&mut *tx).await?;
                    last = None;
                    continue;
                }
            };
            let document = Document::of(&sheet, None)?;
            let root = document.tree.root();
            self.put_document(&document).await?;
            if self.document(root).await?.0 != sheet {
                return Err(StoreError::Incomplete("document".into()));
            }
            if let Some((_, before)) = &last {
                let sql = "INSERT INTO history (sheet, seq, name, adds, gesture, before_root, after_root, undone) \
                           VALUES (?, ?, ?, ?, ?, ?, ?, ?)";
                sqlx::query(sql)
                    .bind(id.0)
                    .bind(seq)
                    .bind(step.try_get::<&str, _>(1)?)
                    .bind(step.try_get::<bool, _>(2)?)
                    .bind(step.try_get::<Option<&[u8]>, _>(3)?)
                    .bind(before.bytes())
                    .bind(root.bytes())
                    .bind(seq > present)
                    .execute(&mut *tx)
                    .await?;
            }
            if seq == present {
                seen = Some((sheet.clone(), root));
            }
            last = Some((sheet, root));
        }
        let (sheet, root) = seen.ok_or(StoreError::Damaged)?;
        let sql =
            "UPDATE sheets SET root = ?, width = ?, height = ?, unit = ?, ppi = ?, changed = changed WHERE id = ?";
        let set = sqlx::query(sql).bind(root.bytes()).bind(sheet.width).bind(sheet.height);
        set.bind(sheet.unit.name()).bind(sheet.ppi).bind(id.0).execute(&mut *tx).await?;
        let sql = "INSERT INTO revisions (sheet, revision, root, request) SELECT id, revision, root, request FROM sheets WHERE id = ?";
        sqlx::query(sql).bind(id.0).execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(())
    }
}
