//! Photos, subjects, and both at the sizes in which screens show them.

use super::{Store, StoreError};
use inky_core::sheet::{Photo, PhotoId, SubjectId};
use sqlx::Row;

impl Store {
    /// Enters a photo whose file is kept already. One that is known keeps its first name.
    pub async fn put_photo(&self, id: &PhotoId, photo: &Photo) -> Result<(), StoreError> {
        sqlx::query("INSERT IGNORE INTO photos (id, name, width, height) VALUES (?, ?, ?, ?)")
            .bind(&id.0)
            .bind(&photo.name)
            .bind(photo.width)
            .bind(photo.height)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// What is known of a photo.
    pub async fn photo(&self, id: &PhotoId) -> Result<Option<Photo>, StoreError> {
        let row = sqlx::query("SELECT name, width, height FROM photos WHERE id = ?").bind(&id.0);
        let Some(r) = row.fetch_optional(&self.pool).await? else {
            return Ok(None);
        };
        Ok(Some(Photo::new(r.try_get::<String, _>(0)?, r.try_get(1)?, r.try_get(2)?)))
    }

    /// Keeps a subject: its matte and its cut-out, both PNG files.
    pub async fn put_subject(&self, matte: &[u8], cutout: &[u8]) -> Result<SubjectId, StoreError> {
        let id = self.put_blob(matte).await?;
        let cutout = self.put_blob(cutout).await?;
        sqlx::query("INSERT IGNORE INTO subjects (id, cutout) VALUES (?, ?)")
            .bind(&id)
            .bind(&cutout)
            .execute(&self.pool)
            .await?;
        Ok(SubjectId(id))
    }

    /// The hash of a subject's cut-out.
    pub async fn cutout_of(&self, id: &SubjectId) -> Result<Option<String>, StoreError> {
        let row = sqlx::query("SELECT cutout FROM subjects WHERE id = ?").bind(&id.0);
        Ok(row.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?)
    }

    /// Keeps which subject was found by a question.
    pub async fn put_finding(&self, photo: &PhotoId, question: &str, subject: &SubjectId) -> Result<(), StoreError> {
        sqlx::query("REPLACE INTO findings (photo, question, subject) VALUES (?, ?, ?)")
            .bind(&photo.0)
            .bind(question)
            .bind(&subject.0)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// The subject that was found by the same question before.
    pub async fn finding(&self, photo: &PhotoId, question: &str) -> Result<Option<SubjectId>, StoreError> {
        let row = sqlx::query("SELECT f.subject FROM findings f WHERE f.photo = ? AND f.question = ?")
            .bind(&photo.0)
            .bind(question);
        Ok(row.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?.map(SubjectId))
    }

    /// Keeps a picture whose long side is `side` pixels.
    pub async fn put_level(&self, source: &str, side: u32, kind: &str, bytes: &[u8]) -> Result<(), StoreError> {
        self.room.for_file(bytes.len() as u64)?;
        sqlx::query("REPLACE INTO levels (source, side, kind, bytes) VALUES (?, ?, ?, ?)")
            .bind(source)
            .bind(side)
            .bind(kind)
            .bind(bytes)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// Content type and bytes of a kept picture.
    pub async fn level(&self, source: &str, side: u32) -> Result<Option<(String, Vec<u8>)>, StoreError> {
        let row = sqlx::query("SELECT kind, bytes FROM levels WHERE source = ? AND side = ?").bind(source).bind(side);
        let Some(r) = row.fetch_optional(&self.pool).await? else {
            return Ok(None);
        };
        Ok(Some((r.try_get(0)?, r.try_get(1)?)))
    }

    /// Content type and bytes of the smallest kept picture whose long side has so many pixels, or of the largest.
    pub async fn level_at_least(&self, source: &str, side: u32) -> Result<Option<(String, Vec<u8>)>, StoreError> {
        let row = sqlx::query(
            "SELECT kind, bytes FROM levels WHERE source = ? \
             ORDER BY side < ?, IF(side < ?, -CAST(side AS SIGNED), side) LIMIT 1",
        );
        let row = row.bind(source).bind(side).bind(side);
        let Some(r) = row.fetch_optional(&self.pool).await? else {
            return Ok(None);
        };
        Ok(Some((r.try_get(0)?, r.try_get(1)?)))
    }

    /// Content type and bytes of the smallest of a picture's sizes.
    pub async fn smallest_level(&self, source: &str) -> Result<Option<(String, Vec<u8>)>, StoreError> {
        let row = sqlx::query("SELECT kind, bytes FROM levels WHERE source = ? ORDER BY side LIMIT 1").bind(source);
        let Some(r) = row.fetch_optional(&self.pool).await? else {
            return Ok(None);
        };
        Ok(Some((r.try_get(0)?, r.try_get(1)?)))
    }
}
