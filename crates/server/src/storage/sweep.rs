//! What nobody refers to any more is taken away, after a time of grace.
//!
//! Everything that is referred to is marked first, from the documents that sheets have, had lately, or can go back to. What was asked for since is
//! not taken, for its time of use is looked at once more when it goes.

use super::documents::{parts, read_names};
use super::{PartId, Store, StoreError};
use inky_core::sheet::Sheet;
use serde_json::Value;
use sqlx::{MySqlConnection, QueryBuilder, Row};
use std::collections::HashSet;

/// Days after which sheets in the bin, and jobs that have ended, go.
const BIN_DAYS: u32 = 30;
/// Days for which the documents and requests of the past are remembered.
const PAST_DAYS: u32 = 7;
/// Days for which a part or a file stays that nothing refers to.
const GRACE_DAYS: u32 = 7;
/// Names in one statement.
const BATCH: usize = 500;

/// How much went, or would go.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Swept {
    /// Sheets that lay in the bin for long.
    pub sheets: u64,
    /// Jobs that ended long ago, with what they delivered.
    pub jobs: u64,
    /// Documents of the past, which nobody can go back to.
    pub revisions: u64,
    pub parts: u64,
    pub part_bytes: u64,
    /// Photos, mattes, drawings, delivered files.
    pub files: u64,
    pub file_bytes: u64,
}

/// What is referred to.
#[derive(Default)]
struct Marked {
    parts: HashSet<PartId>,
    files: HashSet<String>,
}

const OLD_SHEETS: &str = "removed < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY";
const OLD_JOBS: &str = "state NOT IN ('waiting', 'running') AND made < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY";
const OLD_REVISIONS: &str = "r.made < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY AND r.revision < s.revision";

impl Store {
    /// Takes away what nobody refers to any more; `dry`: only says how much that is.
    pub async fn sweep(&self, dry: bool) -> Result<Swept, StoreError> {
        let mut swept = Swept::default();
        let verb = if dry { "SELECT COUNT(*) FROM" } else { "DELETE FROM" };
        let one = async |sql: String, days: u32| -> Result<u64, StoreError> {
            let query = sqlx::query(sqlx::AssertSqlSafe(sql)).bind(days);
            if dry {
                return Ok(query.fetch_one(&self.pool).await?.try_get::<i64, _>(0)?.unsigned_abs());
            }
            Ok(query.execute(&self.pool).await?.rows_affected())
        };
        swept.sheets = one(format!("{verb} sheets WHERE {OLD_SHEETS}"), BIN_DAYS).await?;
        swept.jobs = one(format!("{verb} jobs WHERE {OLD_JOBS}"), BIN_DAYS).await?;
        let verb = if dry { "SELECT COUNT(*) FROM" } else { "DELETE r FROM" };
        let past = format!("{verb} revisions r JOIN sheets s ON s.id = r.sheet WHERE {OLD_REVISIONS}");
        swept.revisions = one(past, PAST_DAYS).await?;
        if !dry {
            self.sweep_entries().await?;
        }
        let marked = self.marked().await?;
        (swept.parts, swept.part_bytes) = self.sweep_parts(&marked.parts, dry).await?;
        (swept.files, swept.file_bytes) = self.sweep_files(&marked.files, dry).await?;
        Ok(swept)
    }

    async fn marked(&self) -> Result<Marked, StoreError> {
        let mut connection = self.pool.acquire().await?;
        let kept = format!("NOT COALESCE(s.{OLD_SHEETS}, FALSE)");
        let sql = format!(
            "SELECT s.root FROM sheets s WHERE s.root IS NOT NULL AND {kept} \
             UNION SELECT r.root FROM revisions r JOIN sheets s ON s.id = r.sheet WHERE {kept} AND NOT ({OLD_REVISIONS}) \
             UNION SELECT h.before_root FROM history h JOIN sheets s ON s.id = h.sheet WHERE {kept} \
             UNION SELECT h.after_root FROM history h JOIN sheets s ON s.id = h.sheet WHERE {kept}"
        );
        let roots = sqlx::query(sqlx::AssertSqlSafe(sql)).bind(BIN_DAYS).bind(BIN_DAYS).bind(PAST_DAYS);
        let roots = roots.bind(BIN_DAYS).bind(BIN_DAYS).fetch_all(&mut *connection).await?;
        let roots = roots.iter().map(|r| PartId::read(r.try_get(0)?)).collect::<Result<Vec<_>, _>>()?;
        let mut marked = Marked::default();
        for some in roots.chunks(BATCH) {
            let (mut headers, mut lists) = (HashSet::new(), HashSet::new());
            for root in parts(&mut connection, some).await?.values() {
                let names = read_names(root)?;
                headers.extend(names.first().filter(|id| !marked.parts.contains(id)));
                lists.extend(names.iter().skip(1).filter(|id| !marked.parts.contains(id)));
            }
            let [headers, lists]: [Vec<PartId>; 2] = [headers, lists].map(|ids| ids.into_iter().collect());
            for list in parts(&mut connection, &lists).await?.values() {
                marked.parts.extend(read_names(list)?);
            }
            for header in parts(&mut connection, &headers).await?.values() {
                marked.files.extend(files_of(&serde_json::from_slice(header)?));
            }
            marked.parts.extend(some.iter().chain(&headers).chain(&lists));
        }
        mark_files(&mut connection, &mut marked.files).await?;
        Ok(marked)
    }

    async fn sweep_parts(&self, marked: &HashSet<PartId>, dry: bool) -> Result<(u64, u64), StoreError> {
        let sql = "SELECT hash, LENGTH(bytes) FROM parts WHERE used < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY";
        let (mut gone, mut bytes) = (Vec::new(), 0);
        for row in sqlx::query(sql).bind(GRACE_DAYS).fetch_all(&self.pool).await? {
            let id = PartId::read(row.try_get(0)?)?;
            if !marked.contains(&id) {
                bytes += row.try_get::<i64, _>(1)?.unsigned_abs();
                gone.push(id);
            }
        }
        for some in gone.chunks(BATCH).filter(|_| !dry) {
            let mut sql = QueryBuilder::new("DELETE FROM parts WHERE used < CURRENT_TIMESTAMP(3) - INTERVAL ");
            sql.push_bind(GRACE_DAYS).push(" DAY AND hash IN (");
            let mut list = sql.separated(", ");
            some.iter().for_each(|id| {
                list.push_bind(id.bytes());
            });
            sql.push(")");
            sql.build().execute(&self.pool).await?;
        }
        Ok((gone.len() as u64, bytes))
    }

    async fn sweep_files(&self, marked: &HashSet<String>, dry: bool) -> Result<(u64, u64), StoreError> {
        let sql = "SELECT hash, size FROM blobs WHERE used < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY";
        let (mut files, mut bytes) = (0, 0);
        for row in sqlx::query(sql).bind(GRACE_DAYS).fetch_all(&self.pool).await? {
            let (hash, size): (String, u64) = (row.try_get(0)?, row.try_get(1)?);
            if marked.contains(&hash) {
                continue;
            }
            files += 1;
            bytes += size;
            if !dry {
                self.drop_file(&hash).await?;
            }
        }
        Ok((files, bytes))
    }

    /// A file with all that is known of it, if it was not used meanwhile.
    async fn drop_file(&self, hash: &str) -> Result<(), StoreError> {
        let mut tx = self.pool.begin().await?;
        let sql = "SELECT 1 FROM blobs WHERE hash = ? AND used < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY FOR UPDATE";
        if sqlx::query(sql).bind(hash).bind(GRACE_DAYS).fetch_optional(&mut *tx).await?.is_none() {
            return Ok(());
        }
        for sql in [
            "DELETE FROM levels WHERE source = ?",
            "DELETE FROM findings WHERE photo = ?",
            "DELETE FROM findings WHERE subject IN (SELECT id FROM subjects WHERE id = ?)",
            "DELETE FROM findings WHERE subject IN (SELECT id FROM subjects WHERE cutout = ?)",
            "DELETE FROM subjects WHERE id = ?",
            "DELETE FROM subjects WHERE cutout = ?",
            "DELETE FROM photos WHERE id = ?",
            "DELETE FROM drawings WHERE id = ?",
            "DELETE FROM drawings WHERE outline = ?",
            "DELETE FROM blob_chunks WHERE hash = ?",
            "DELETE FROM blobs WHERE hash = ?",
        ] {
            sqlx::query(sql).bind(hash).execute(&mut *tx).await?;
        }
        tx.commit().await?;
        Ok(())
    }
}

/// The files that a document refers to by itself.
fn files_of(header: &Sheet) -> Vec<String> {
    let subjects = header.photos.values().flat_map(|p| &p.subjects).map(|s| s.matte.0.clone());
    let photos = header.photos.keys().map(|id| id.0.clone());
    let drawings = header.drawings.keys().map(|id| id.0.clone());
    photos.chain(subjects).chain(drawings).collect()
}

/// The files that go with those that are marked, and those that nobody has to refer to: fonts, and what jobs are about.
async fn mark_files(connection: &mut MySqlConnection, marked: &mut HashSet<String>) -> Result<(), StoreError> {
    for row in sqlx::query("SELECT id FROM fonts").fetch_all(&mut *connection).await? {
        marked.insert(row.try_get(0)?);
    }
    let sql = format!("SELECT task, outcome FROM jobs WHERE NOT ({OLD_JOBS})");
    for row in sqlx::query(sqlx::AssertSqlSafe(sql)).bind(BIN_DAYS).fetch_all(&mut *connection).await? {
        for text in [row.try_get::<Option<String>, _>(0)?, row.try_get(1)?].into_iter().flatten() {
            hashes(&serde_json::from_str(&text)?, marked);
        }
    }
    // what was found in a photo that stays need not be found again
    for (sql, of) in [
        ("SELECT photo, subject FROM findings", "photo"),
        ("SELECT id, cutout FROM subjects", "matte"),
        ("SELECT id, outline FROM drawings", "drawing"),
    ] {
        for row in sqlx::query(sql).fetch_all(&mut *connection).await? {
            let (known, other): (String, String) = (row.try_get(0)?, row.try_get(1)?);
            if marked.contains(&known) {
                marked.insert(other);
            }
        }
        tracing::debug!(of, files = marked.len(), "files that are referred to");
    }
    Ok(())
}

/// Every text of a value that may be the hash of a file.
fn hashes(value: &Value, found: &mut HashSet<String>) {
    match value {
        Value::String(text) if text.len() == 64 => {
            found.insert(text.clone());
        }
        Value::Array(all) => all.iter().for_each(|v| hashes(v, found)),
        Value::Object(all) => all.values().for_each(|v| hashes(v, found)),
        _ => {}
    }
}
