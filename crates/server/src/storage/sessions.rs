//! Browsers that are signed in, and tries to be.

use super::accounts::account;
use super::{Account, Store, StoreError};
use sqlx::Row;
use time::OffsetDateTime;
use uuid::Uuid;

/// Days without a request after which a session ends.
const IDLE_DAYS: u32 = 7;
/// Days after which every session ends.
const LONGEST_DAYS: u32 = 30;
/// Minutes for which tries count.
pub const TRIED_MINUTES: u32 = 15;

/// A browser that is signed in, as its account sees it.
#[derive(Debug, Clone)]
pub struct SessionLine {
    pub id: Uuid,
    /// What the browser says it is.
    pub browser: String,
    pub address: String,
    pub seen: OffsetDateTime,
}

/// How often a password was tried lately, and not found right.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Tries {
    /// For this name from this address.
    pub both: u64,
    /// For this name.
    pub name: u64,
    /// From this address.
    pub address: u64,
}

impl Store {
    /// Signs a browser in that shows a secret of this hash.
    pub async fn add_session(
        &self,
        hash: &[u8; 32],
        who: Uuid,
        (browser, address): (&str, &str),
    ) -> Result<Uuid, StoreError> {
        let id = Uuid::new_v4();
        let sql = "INSERT INTO sessions (hash, id, account, browser, address) VALUES (?, ?, ?, ?, ?)";
        let browser: String = browser.chars().take(200).collect();
        let put = sqlx::query(sql).bind(&hash[..]).bind(id).bind(who).bind(browser).bind(address);
        put.execute(&self.pool).await?;
        Ok(id)
    }

    /// Who is signed in with a secret of this hash, and the session. It is noted as seen.
    pub async fn session(&self, hash: &[u8; 32]) -> Result<Option<(Account, Uuid)>, StoreError> {
        let sql = "SELECT a.id, a.name, s.id, ABS(TIMESTAMPDIFF(MINUTE, s.seen, CURRENT_TIMESTAMP(3))) >= 5 \
                   FROM sessions s JOIN accounts a ON a.id = s.account WHERE s.hash = ? \
                   AND s.seen > CURRENT_TIMESTAMP(3) - INTERVAL ? DAY AND s.made > CURRENT_TIMESTAMP(3) - INTERVAL ? DAY";
        let found = sqlx::query(sql).bind(&hash[..]).bind(IDLE_DAYS).bind(LONGEST_DAYS);
        let Some(row) = found.fetch_optional(&self.pool).await? else { return Ok(None) };
        if row.try_get(3)? {
            // a disk that is full does not sign anybody out
            let noted = sqlx::query("UPDATE sessions SET seen = CURRENT_TIMESTAMP(3) WHERE hash = ?").bind(&hash[..]);
            let _ = noted.execute(&self.pool).await;
        }
        Ok(Some((account(&row)?, row.try_get(2)?)))
    }

    /// The browsers that an account is signed in with, the one seen last first.
    pub async fn sessions(&self, who: Uuid) -> Result<Vec<SessionLine>, StoreError> {
        let sql = "SELECT id, browser, address, seen FROM sessions \
                   WHERE account = ? AND seen > CURRENT_TIMESTAMP(3) - INTERVAL ? DAY \
                   AND made > CURRENT_TIMESTAMP(3) - INTERVAL ? DAY ORDER BY seen DESC, id";
        let rows = sqlx::query(sql).bind(who).bind(IDLE_DAYS).bind(LONGEST_DAYS).fetch_all(&self.pool).await?;
        let line = |r: &sqlx::mysql::MySqlRow| {
            let (id, browser, address, seen) = (r.try_get(0)?, r.try_get(1)?, r.try_get(2)?, r.try_get(3)?);
            Ok(SessionLine { id, browser, address, seen })
        };
        rows.iter().map(line).collect()
    }

    /// Signs a browser out.
    pub async fn end_session(&self, who: Uuid, id: Uuid) -> Result<(), StoreError> {
        let ended = sqlx::query("DELETE FROM sessions WHERE account = ? AND id = ?").bind(who).bind(id);
        ended.execute(&self.pool).await?;
        Ok(())
    }

    /// Signs all browsers of an account out.
    pub async fn end_sessions(&self, who: Uuid) -> Result<(), StoreError> {
        sqlx::query("DELETE FROM sessions WHERE account = ?").bind(who).execute(&self.pool).await?;
        Ok(())
    }

    /// Notes a try before it is answered, so that many at once count as many. How often it was tried, this time included.
    pub async fn note_try(&self, id: Uuid, name: &[u8; 32], address: &str) -> Result<Tries, StoreError> {
        sqlx::query("INSERT INTO tries (id, who, address) VALUES (?, ?, ?)")
            .bind(id)
            .bind(&name[..])
            .bind(address)
            .execute(&self.pool)
            .await?;
        let sql = "SELECT COUNT(IF(who = ? AND address = ?, 1, NULL)), COUNT(IF(who = ?, 1, NULL)), COUNT(IF(address = ?, 1, NULL)) \
                   FROM tries WHERE (who = ? OR address = ?) AND ABS(TIMESTAMPDIFF(MINUTE, at, CURRENT_TIMESTAMP(3))) < ?";
        let counted = sqlx::query(sql).bind(&name[..]).bind(address).bind(&name[..]).bind(address);
        let counted = counted.bind(&name[..]).bind(address).bind(TRIED_MINUTES).fetch_one(&self.pool).await?;
        let count = |k| Ok::<_, StoreError>(counted.try_get::<i64, _>(k)?.unsigned_abs());
        Ok(Tries { both: count(0)?, name: count(1)?, address: count(2)? })
    }

    /// A try that was right does not count; nor do those before it for this name from this address.
    pub async fn forget_tries(&self, name: &[u8; 32], address: &str) -> Result<(), StoreError> {
        let gone = sqlx::query("DELETE FROM tries WHERE who = ? AND address = ?").bind(&name[..]).bind(address);
        gone.execute(&self.pool).await?;
        Ok(())
    }

    /// Takes away what lets nobody in any more: sessions and password links that ended, and tries of before.
    pub(super) async fn sweep_entries(&self) -> Result<(), StoreError> {
        for (sql, days) in [
            ("DELETE FROM sessions WHERE seen < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY", IDLE_DAYS),
            ("DELETE FROM sessions WHERE made < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY", LONGEST_DAYS),
            ("DELETE FROM password_links WHERE made < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY", LONGEST_DAYS),
            ("DELETE FROM tries WHERE at < CURRENT_TIMESTAMP(3) - INTERVAL ? DAY", 1),
        ] {
            sqlx::query(sql).bind(days).execute(&self.pool).await?;
        }
        Ok(())
    }
}
