//! Imported drawings and fonts. Their files are kept before they are entered here.

use super::{Store, StoreError};
use inky_core::sheet::{DrawingId, FontId};
use sqlx::Row;
use uuid::Uuid;

impl Store {
    /// Enters a drawing with the hash of what was read of it, in place of what was read before.
    pub async fn put_drawing(&self, id: &DrawingId, outline: &str) -> Result<(), StoreError> {
        let write = sqlx::query(
            "INSERT INTO drawings (id, outline) VALUES (?, ?) ON DUPLICATE KEY UPDATE outline = VALUES(outline)",
        )
        .bind(&id.0)
        .bind(outline);
        write.execute(&self.pool).await?;
        Ok(())
    }

    /// The outline of a drawing, as it was kept.
    pub async fn drawn_outline(&self, id: &DrawingId) -> Result<Option<Vec<u8>>, StoreError> {
        let row = sqlx::query("SELECT outline FROM drawings WHERE id = ?").bind(&id.0);
        match row.fetch_optional(&self.pool).await? {
            Some(r) => self.blob(r.try_get(0)?).await,
            None => Ok(None),
        }
    }

    /// Enters a font. One that is known keeps its first name.
    pub async fn put_font(&self, id: &FontId, name: &str) -> Result<(), StoreError> {
        let write = sqlx::query("INSERT IGNORE INTO fonts (id, name) VALUES (?, ?)").bind(&id.0).bind(name);
        write.execute(&self.pool).await?;
        Ok(())
    }

    /// Offers a font to an account.
    pub async fn offer_font(&self, id: &FontId, to: Uuid) -> Result<(), StoreError> {
        let write = sqlx::query("INSERT IGNORE INTO font_owners (font, account) VALUES (?, ?)").bind(&id.0).bind(to);
        write.execute(&self.pool).await?;
        Ok(())
    }

    /// The fonts that were brought in, the first one first: all of them, or those of an account.
    pub async fn fonts(&self, of: Option<Uuid>) -> Result<Vec<(FontId, String)>, StoreError> {
        let rows = sqlx::query(
            "SELECT f.id, f.name FROM fonts f LEFT JOIN font_owners o ON o.font = f.id AND o.account = ? \
             WHERE ? OR o.account IS NOT NULL ORDER BY f.brought, f.id",
        );
        let rows = rows.bind(of).bind(of.is_none()).fetch_all(&self.pool).await?;
        rows.iter().map(|r| Ok((FontId(r.try_get(0)?), r.try_get(1)?))).collect()
    }

    /// The file of a font that was brought in, with its name.
    pub async fn font(&self, id: &FontId) -> Result<Option<(String, Vec<u8>)>, StoreError> {
        let row = sqlx::query("SELECT name FROM fonts WHERE id = ?").bind(&id.0).fetch_optional(&self.pool).await?;
        let Some(r) = row else { return Ok(None) };
        let name = r.try_get(0)?;
        Ok(self.blob(&id.0).await?.map(|bytes| (name, bytes)))
    }
}
