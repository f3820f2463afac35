//! Imported drawings and fonts. Their files are kept before they are entered here.

use super::{Store, StoreError};
use inky_core::sheet::{DrawingId, FontId};
use sqlx::Row;

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

    /// Every font that was brought in, the first one first.
    pub async fn fonts(&self) -> Result<Vec<(FontId, String)>, StoreError> {
        let rows = sqlx::query("SELECT id, name FROM fonts ORDER BY brought, id").fetch_all(&self.pool).await?;
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
