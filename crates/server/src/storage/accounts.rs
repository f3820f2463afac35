//! People who may come in, and how they choose their passwords.

use super::{Store, StoreError};
use sqlx::Row;
use sqlx::mysql::MySqlRow;
use uuid::Uuid;

/// Hours for which a password can be chosen with a link.
const LINK_HOURS: u32 = 72;

/// Somebody who may come in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Account {
    pub id: Uuid,
    pub name: String,
}

/// An account as the command line lists it.
#[derive(Debug, Clone)]
pub struct AccountLine {
    pub name: String,
    /// Whether a password was chosen.
    pub ready: bool,
    /// Sheets that it owns.
    pub sheets: u64,
    /// Browsers that are signed in.
    pub sessions: u64,
}

impl Store {
    /// A new account without a password; None if there is one of that name, in whatever case.
    pub async fn add_account(&self, name: &str) -> Result<Option<Account>, StoreError> {
        let id = Uuid::now_v7();
        let added = sqlx::query("INSERT IGNORE INTO accounts (id, name) VALUES (?, ?)").bind(id).bind(name);
        let added = added.execute(&self.pool).await?.rows_affected() == 1;
        Ok(added.then(|| Account { id, name: name.into() }))
    }

    /// The account of a name, in whatever case.
    pub async fn account_named(&self, name: &str) -> Result<Option<Account>, StoreError> {
        let found = sqlx::query("SELECT id, name FROM accounts WHERE name = ?").bind(name);
        found.fetch_optional(&self.pool).await?.as_ref().map(account).transpose()
    }

    /// All accounts, by name.
    pub async fn accounts(&self) -> Result<Vec<AccountLine>, StoreError> {
        let sql = "SELECT a.name, a.password IS NOT NULL, \
                   (SELECT COUNT(*) FROM members m WHERE m.account = a.id AND m.role = 'own' AND m.taken), \
                   (SELECT COUNT(*) FROM sessions s WHERE s.account = a.id) FROM accounts a ORDER BY a.name";
        let line = |r: &MySqlRow| {
            let count = |k| Ok::<_, StoreError>(r.try_get::<i64, _>(k)?.unsigned_abs());
            Ok(AccountLine { name: r.try_get(0)?, ready: r.try_get(1)?, sheets: count(2)?, sessions: count(3)? })
        };
        sqlx::query(sql).fetch_all(&self.pool).await?.iter().map(line).collect()
    }

    /// Takes an account away, with its sessions. Its sheets stay.
    pub async fn remove_account(&self, id: Uuid) -> Result<(), StoreError> {
        sqlx::query("DELETE FROM accounts WHERE id = ?").bind(id).execute(&self.pool).await?;
        Ok(())
    }

    /// The hash of an account's password (a PHC string); None where there is no such account, or no password yet.
    pub async fn password_of(&self, name: &str) -> Result<Option<(Account, String)>, StoreError> {
        let found = sqlx::query("SELECT id, name, password FROM accounts WHERE name = ? AND password IS NOT NULL");
        let row = found.bind(name).fetch_optional(&self.pool).await?;
        row.map(|r| Ok((account(&r)?, r.try_get(2)?))).transpose()
    }

    /// Sets the hash of a password. Whoever was signed in has to sign in anew, but for the session `but`.
    pub async fn set_password(&self, id: Uuid, password: &str, but: Option<Uuid>) -> Result<(), StoreError> {
        let mut tx = self.pool.begin().await?;
        sqlx::query("UPDATE accounts SET password = ? WHERE id = ?").bind(password).bind(id).execute(&mut *tx).await?;
        sqlx::query("DELETE FROM password_links WHERE account = ?").bind(id).execute(&mut *tx).await?;
        let others = sqlx::query("DELETE FROM sessions WHERE account = ? AND NOT id <=> ?").bind(id).bind(but);
        others.execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(())
    }

    /// Lets a password be chosen once by whoever knows the secret with this hash. An earlier one holds no more.
    pub async fn put_password_link(&self, id: Uuid, hash: &[u8; 32]) -> Result<(), StoreError> {
        let mut tx = self.pool.begin().await?;
        sqlx::query("DELETE FROM password_links WHERE account = ?").bind(id).execute(&mut *tx).await?;
        let put = sqlx::query("INSERT INTO password_links (hash, account) VALUES (?, ?)").bind(&hash[..]).bind(id);
        put.execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(())
    }

    /// Whose password may be chosen with a secret of this hash.
    pub async fn password_link(&self, hash: &[u8; 32]) -> Result<Option<Account>, StoreError> {
        let sql = "SELECT a.id, a.name FROM password_links l JOIN accounts a ON a.id = l.account \
                   WHERE l.hash = ? AND l.made > CURRENT_TIMESTAMP(3) - INTERVAL ? HOUR";
        let found = sqlx::query(sql).bind(&hash[..]).bind(LINK_HOURS).fetch_optional(&self.pool).await?;
        found.as_ref().map(account).transpose()
    }
}

/// The account in the first two columns.
pub(super) fn account(r: &MySqlRow) -> Result<Account, StoreError> {
    Ok(Account { id: r.try_get(0)?, name: r.try_get(1)? })
}
