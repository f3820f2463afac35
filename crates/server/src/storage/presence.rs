//! Who has a sheet open.

use super::{Store, StoreError};
use inky_core::sheet::{PieceId, SheetId};
use sqlx::Row;
use uuid::Uuid;

/// A tab that has a sheet open.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Present {
    pub author: Uuid,
    /// Who that is, where people sign in.
    pub name: Option<String>,
    /// The piece that is selected there.
    pub selected: Option<PieceId>,
}

impl Store {
    /// A tab of an account has a sheet open. Tabs that have not been heard of for a while are taken for closed.
    pub async fn be_present(
        &self,
        id: SheetId,
        (author, account): (Uuid, Option<Uuid>),
        selected: Option<PieceId>,
    ) -> Result<(), StoreError> {
        let noted =
            "UPDATE presence SET account = ?, selected = ?, seen = CURRENT_TIMESTAMP(3) WHERE sheet = ? AND author = ?";
        let selected = selected.map(|p| p.0);
        let noted = sqlx::query(noted).bind(account).bind(selected).bind(id.0).bind(author);
        if noted.execute(&self.pool).await?.rows_affected() > 0 {
            return Ok(());
        }
        let sql = "INSERT INTO presence (sheet, author, account, selected) SELECT id, ?, ?, ? FROM sheets WHERE id = ? \
                   ON DUPLICATE KEY UPDATE account = VALUES(account), selected = VALUES(selected), seen = CURRENT_TIMESTAMP(3)";
        let set = sqlx::query(sql).bind(author).bind(account).bind(selected).bind(id.0);
        set.execute(&self.pool).await?;
        Ok(())
    }

    /// A tab still has a sheet open, whatever is selected in it.
    pub async fn stay_present(&self, id: SheetId, (author, account): (Uuid, Option<Uuid>)) -> Result<(), StoreError> {
        // most often it is noted already: its row alone is touched then, and not that of the sheet, which edits wait for
        let noted = "UPDATE presence SET account = ?, seen = CURRENT_TIMESTAMP(3) WHERE sheet = ? AND author = ?";
        let noted = sqlx::query(noted).bind(account).bind(id.0).bind(author).execute(&self.pool).await?;
        if noted.rows_affected() > 0 {
            return Ok(());
        }
        let sql = "INSERT INTO presence (sheet, author, account) SELECT id, ?, ? FROM sheets WHERE id = ? \
                   ON DUPLICATE KEY UPDATE account = VALUES(account), seen = CURRENT_TIMESTAMP(3)";
        sqlx::query(sql).bind(author).bind(account).bind(id.0).execute(&self.pool).await?;
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
        let sql = "SELECT p.author, a.name, p.selected FROM presence p LEFT JOIN accounts a ON a.id = p.account \
                   WHERE p.sheet = ? AND ABS(TIMESTAMPDIFF(SECOND, p.seen, CURRENT_TIMESTAMP(3))) < 40 ORDER BY p.author";
        let rows = sqlx::query(sql).bind(id.0).fetch_all(&self.pool).await?;
        let present = |r: &sqlx::mysql::MySqlRow| {
            let selected = r.try_get::<Option<Uuid>, _>(2)?.map(PieceId);
            Ok(Present { author: r.try_get(0)?, name: r.try_get(1)?, selected })
        };
        rows.iter().map(present).collect()
    }
}
