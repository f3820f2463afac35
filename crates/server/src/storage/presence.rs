//! Who has a sheet open.

use super::{Store, StoreError};
use inky_core::sheet::{PieceId, SheetId};
use sqlx::Row;
use uuid::Uuid;

/// A tab that has a sheet open.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Present {
    pub author: Uuid,
    /// The piece that is selected there.
    pub selected: Option<PieceId>,
}

impl Store {
    /// A tab has a sheet open. Tabs that have not been heard of for a while are taken for closed.
    pub async fn be_present(&self, id: SheetId, who: Present) -> Result<(), StoreError> {
        let sql = "INSERT INTO presence (sheet, author, selected) SELECT id, ?, ? FROM sheets WHERE id = ? \
                   ON DUPLICATE KEY UPDATE selected = VALUE(selected), seen = CURRENT_TIMESTAMP(3)";
        let set = sqlx::query(sql).bind(who.author).bind(who.selected.map(|p| p.0)).bind(id.0);
        set.execute(&self.pool).await?;
        Ok(())
    }

    /// A tab still has a sheet open, whatever is selected in it.
    pub async fn stay_present(&self, id: SheetId, author: Uuid) -> Result<(), StoreError> {
        let sql = "INSERT INTO presence (sheet, author) SELECT id, ? FROM sheets WHERE id = ? \
                   ON DUPLICATE KEY UPDATE seen = CURRENT_TIMESTAMP(3)";
        sqlx::query(sql).bind(author).bind(id.0).execute(&self.pool).await?;
        Ok(())
    }

    /// A tab has closed a sheet.
    pub async fn leave(&self, id: SheetId, author: Uuid) -> Result<(), StoreError> {
        let gone = sqlx::query("DELETE FROM presence WHERE sheet = ? AND author = ?").bind(id.0).bind(author);
        gone.execute(&self.pool).await?;
        Ok(())
    }

    /// The tabs that have a sheet open, in an order that stays.
    pub async fn present(&self, id: SheetId) -> Result<Vec<Present>, StoreError> {
        let sql = "SELECT author, selected FROM presence \
                   WHERE sheet = ? AND ABS(TIMESTAMPDIFF(SECOND, seen, CURRENT_TIMESTAMP(3))) < 40 ORDER BY author";
        let rows = sqlx::query(sql).bind(id.0).fetch_all(&self.pool).await?;
        let present = |r: &sqlx::mysql::MySqlRow| {
            Ok(Present { author: r.try_get(0)?, selected: r.try_get::<Option<Uuid>, _>(1)?.map(PieceId) })
        };
        rows.iter().map(present).collect()
    }
}
