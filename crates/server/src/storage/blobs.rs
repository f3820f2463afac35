//! Files by the hash of their content, in chunks.

use super::{Store, StoreError};
use futures_util::{Stream, TryStreamExt, stream};
use sha2::{Digest, Sha256};
use sqlx::Row;
use std::io::SeekFrom;
use tokio::io::{AsyncRead, AsyncReadExt, AsyncSeekExt};

/// Bytes of one chunk.
const CHUNK: usize = 1 << 20;

/// A file that is kept.
pub struct StoredFile {
    /// SHA-256 in lower-case hexadecimal digits.
    pub hash: String,
    pub bytes: u64,
}

impl Store {
    /// Keeps a file; its SHA-256 in lower-case hexadecimal digits. A file that is there already is not written again.
    pub async fn put_blob(&self, bytes: &[u8]) -> Result<String, StoreError> {
        let hash = hex::encode(Sha256::digest(bytes));
        self.put_chunks(&hash, bytes.len() as u64, bytes).await?;
        Ok(hash)
    }

    /// Keeps a file of the system, however large, chunk by chunk.
    pub async fn put_file(&self, file: std::fs::File) -> Result<StoredFile, StoreError> {
        let mut file = tokio::fs::File::from_std(file);
        file.seek(SeekFrom::Start(0)).await?;
        let (mut hash, mut bytes) = (Sha256::new(), 0);
        let mut chunk = Vec::with_capacity(CHUNK);
        while read_chunk(&mut file, &mut chunk).await? {
            hash.update(&chunk);
            bytes += chunk.len() as u64;
        }
        let hash = hex::encode(hash.finalize());
        file.seek(SeekFrom::Start(0)).await?;
        self.put_chunks(&hash, bytes, file).await?;
        Ok(StoredFile { hash, bytes })
    }

    async fn put_chunks(&self, hash: &str, size: u64, mut from: impl AsyncRead + Unpin) -> Result<(), StoreError> {
        if self.use_file(hash).await? {
            return Ok(());
        }
        self.room.for_file(size)?;
        let mut tx = self.pool.begin().await?;
        let (mut seq, mut chunk) = (0_u32, Vec::with_capacity(CHUNK));
        while read_chunk(&mut from, &mut chunk).await? {
            // two uploads of one file write the same bytes
            sqlx::query(
                "INSERT INTO blob_chunks (hash, seq, bytes) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE seq = seq",
            )
            .bind(hash)
            .bind(seq)
            .bind(&chunk[..])
            .execute(&mut *tx)
            .await?;
            seq += 1;
        }
        sqlx::query("INSERT IGNORE INTO blobs (hash, size) VALUES (?, ?)")
            .bind(hash)
            .bind(size)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(())
    }

    /// Whether a file is there; it is not swept for a while then.
    pub async fn use_file(&self, hash: &str) -> Result<bool, StoreError> {
        sqlx::query("UPDATE blobs SET used = CURRENT_TIMESTAMP(3) WHERE hash = ?")
            .bind(hash)
            .execute(&self.pool)
            .await?;
        Ok(self.blob_size(hash).await?.is_some())
    }

    /// How many bytes a file has; none if it was never kept.
    pub async fn blob_size(&self, hash: &str) -> Result<Option<u64>, StoreError> {
        let size = sqlx::query("SELECT size FROM blobs WHERE hash = ?").bind(hash).fetch_optional(&self.pool).await?;
        Ok(size.map(|row| row.try_get(0)).transpose()?)
    }

    /// A file by its hash; none if it was never kept. What is read is what was kept, or an error.
    pub async fn blob(&self, hash: &str) -> Result<Option<Vec<u8>>, StoreError> {
        let Some(size) = self.blob_size(hash).await? else {
            return Ok(None);
        };
        let mut bytes = Vec::with_capacity(size as usize);
        let mut chunks = std::pin::pin!(self.blob_chunks(hash.to_owned(), size));
        while let Some(chunk) = chunks.try_next().await? {
            bytes.extend_from_slice(&chunk);
        }
        let own = hash.to_owned();
        let (bytes, sound) = tokio::task::spawn_blocking(move || {
            let sound = hex::encode(Sha256::digest(&bytes)) == own;
            (bytes, sound)
        })
        .await
        .map_err(std::io::Error::other)?;
        if sound { Ok(Some(bytes)) } else { Err(StoreError::Incomplete(hash.to_owned())) }
    }

    /// The chunks of a file of so many bytes, in their order, each fetched when it is asked for. A chunk that is missing is an error.
    pub fn blob_chunks(&self, hash: String, size: u64) -> impl Stream<Item = Result<Vec<u8>, StoreError>> + use<> {
        let store = self.clone();
        stream::try_unfold((0_u32, size), move |(seq, left)| {
            let (store, hash) = (store.clone(), hash.clone());
            async move {
                if left == 0 {
                    return Ok(None);
                }
                let chunk = sqlx::query("SELECT bytes FROM blob_chunks WHERE hash = ? AND seq = ?").bind(&hash);
                let row = chunk.bind(seq).fetch_optional(&store.pool).await?;
                let bytes: Option<Vec<u8>> = row.map(|r| r.try_get(0)).transpose()?;
                match bytes.filter(|b| !b.is_empty() && b.len() as u64 <= left) {
                    Some(bytes) => {
                        let left = left - bytes.len() as u64;
                        Ok(Some((bytes, (seq + 1, left))))
                    }
                    None => Err(StoreError::Incomplete(hash)),
                }
            }
        })
    }
}

/// Fills a chunk with what comes next; false at the end.
async fn read_chunk(from: &mut (impl AsyncRead + Unpin), chunk: &mut Vec<u8>) -> Result<bool, StoreError> {
    chunk.clear();
    from.take(CHUNK as u64).read_to_end(chunk).await?;
    Ok(!chunk.is_empty())
}
