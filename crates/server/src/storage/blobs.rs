//! Files by the hash of their content, in chunks.

use super::{Store, StoreError};
use sha2::{Digest, Sha256};
use sqlx::Row;

/// Bytes of one chunk.
const CHUNK: usize = 1 << 20;

impl Store {
    /// Keeps a file; its SHA-256 in lower-case hexadecimal digits. A file that is there already is not written again.
    pub async fn put_blob(&self, bytes: &[u8]) -> Result<String, StoreError> {
        let hash = hex::encode(Sha256::digest(bytes));
        let known = sqlx::query("SELECT 1 FROM blobs WHERE hash = ?").bind(&hash).fetch_optional(&self.pool).await?;
        if known.is_some() {
            return Ok(hash);
        }
        let mut tx = self.pool.begin().await?;
        for (seq, chunk) in bytes.chunks(CHUNK).enumerate() {
            // two uploads of one file write the same bytes
            sqlx::query(
                "INSERT INTO blob_chunks (hash, seq, bytes) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE seq = seq",
            )
            .bind(&hash)
            .bind(seq as u32)
            .bind(chunk)
            .execute(&mut *tx)
            .await?;
        }
        sqlx::query("INSERT IGNORE INTO blobs (hash, size) VALUES (?, ?)")
            .bind(&hash)
            .bind(bytes.len() as u64)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(hash)
    }

    /// A file by its hash; none if it was never kept.
    pub async fn blob(&self, hash: &str) -> Result<Option<Vec<u8>>, StoreError> {
        let size = sqlx::query("SELECT size FROM blobs WHERE hash = ?").bind(hash).fetch_optional(&self.pool).await?;
        let Some(size) = size else { return Ok(None) };
        let size: u64 = size.try_get(0)?;
        let mut bytes = Vec::with_capacity(size as usize);
        let chunks = sqlx::query("SELECT bytes FROM blob_chunks WHERE hash = ? ORDER BY seq").bind(hash);
        for row in chunks.fetch_all(&self.pool).await? {
            bytes.extend_from_slice(row.try_get::<&[u8], _>(0)?);
        }
        if bytes.len() as u64 == size { Ok(Some(bytes)) } else { Err(StoreError::Incomplete(hash.into())) }
    }
}
