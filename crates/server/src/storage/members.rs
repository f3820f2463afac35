//! Who may do what with a sheet.

use super::accounts::account;
use super::{Account, Store, StoreError};
use inky_core::sheet::SheetId;
use serde::{Deserialize, Serialize};
use sqlx::mysql::MySqlRow;
use sqlx::{MySqlConnection, Row};
use ts_rs::TS;
use uuid::Uuid;

/// What somebody may do with a sheet: each role may do what those before it may.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// See it, copy it, have files of it made.
    Look,
    /// Change it.
    Edit,
    /// Take it off the desk, and say who may do what.
    Own,
}

impl Role {
    pub(super) fn named(text: &str) -> Self {
        match text {
            "own" => Self::Own,
            "edit" => Self::Edit,
            _ => Self::Look,
        }
    }

    fn name(self) -> &'static str {
        match self {
            Self::Look => "look",
            Self::Edit => "edit",
            Self::Own => "own",
        }
    }
}

/// Somebody who may do something with a sheet, or was invited to.
#[derive(Debug, Clone)]
pub struct Member {
    pub account: Account,
    pub role: Role,
    /// Whether the invitation was taken.
    pub taken: bool,
}

/// What a change of members comes to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shared {
    Done,
    /// Nobody would own the sheet any more.
    LastOwner,
}

impl Store {
    /// What an account may do with a sheet; None where it is not a member.
    pub async fn role(&self, sheet: SheetId, who: Uuid) -> Result<Option<Role>, StoreError> {
        let sql = "SELECT role FROM members WHERE sheet = ? AND account = ? AND taken";
        let found = sqlx::query(sql).bind(sheet.0).bind(who).fetch_optional(&self.pool).await?;
        found.map(|r| Ok(Role::named(r.try_get(0)?))).transpose()
    }

    /// The same, while a session lasts.
    pub async fn role_in_session(&self, sheet: SheetId, who: Uuid, session: Uuid) -> Result<Option<Role>, StoreError> {
        let sql = "SELECT m.role FROM members m JOIN sessions s ON s.account = m.account AND s.id = ? \
                   WHERE m.sheet = ? AND m.account = ? AND m.taken";
        let found = sqlx::query(sql).bind(session).bind(sheet.0).bind(who).fetch_optional(&self.pool).await?;
        found.map(|r| Ok(Role::named(r.try_get(0)?))).transpose()
    }

    /// The members of a sheet and those who are invited, the owners first.
    pub async fn members(&self, sheet: SheetId) -> Result<Vec<Member>, StoreError> {
        let sql = "SELECT a.id, a.name, m.role, m.taken FROM members m JOIN accounts a ON a.id = m.account \
                   WHERE m.sheet = ? ORDER BY m.role DESC, a.name";
        let member =
            |r: &MySqlRow| Ok(Member { account: account(r)?, role: Role::named(r.try_get(2)?), taken: r.try_get(3)? });
        sqlx::query(sql).bind(sheet.0).fetch_all(&self.pool).await?.iter().map(member).collect()
    }

    /// Invites an account to a sheet, or gives a member another role.
    pub async fn share(&self, sheet: SheetId, who: Uuid, role: Role, by: &str) -> Result<Shared, StoreError> {
        let mut tx = self.pool.begin().await?;
        if role != Role::Own && is_last_owner(&mut tx, sheet, who).await? {
            return Ok(Shared::LastOwner);
        }
        let sql = "INSERT INTO members (sheet, account, role, invited_by, taken) VALUES (?, ?, ?, ?, FALSE) \
                   ON DUPLICATE KEY UPDATE role = VALUES(role)";
        sqlx::query(sql).bind(sheet.0).bind(who).bind(role.name()).bind(by).execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(Shared::Done)
    }

    /// Takes a sheet away from an account, or its invitation.
    pub async fn unshare(&self, sheet: SheetId, who: Uuid) -> Result<Shared, StoreError> {
        let mut tx = self.pool.begin().await?;
        if is_last_owner(&mut tx, sheet, who).await? {
            return Ok(Shared::LastOwner);
        }
        let gone = sqlx::query("DELETE FROM members WHERE sheet = ? AND account = ?").bind(sheet.0).bind(who);
        gone.execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(Shared::Done)
    }

    /// Takes an invitation; whether there was one.
    pub async fn take_invitation(&self, sheet: SheetId, who: Uuid) -> Result<bool, StoreError> {
        let taken = sqlx::query("UPDATE members SET taken = TRUE WHERE sheet = ? AND account = ?");
        taken.bind(sheet.0).bind(who).execute(&self.pool).await?;
        Ok(self.role(sheet, who).await?.is_some())
    }

    /// Gives an account the sheets that nobody owns; how many.
    pub async fn give_unowned(&self, who: Uuid) -> Result<u64, StoreError> {
        let sql = "INSERT INTO members (sheet, account, role, taken) SELECT s.id, ?, 'own', TRUE FROM sheets s \
                   WHERE NOT EXISTS (SELECT 1 FROM members m WHERE m.sheet = s.id AND m.role = 'own' AND m.taken) \
                   ON DUPLICATE KEY UPDATE role = 'own', taken = TRUE";
        sqlx::query(sql).bind(who).execute(&self.pool).await?;
        let owned = "SELECT COUNT(*) FROM members WHERE account = ? AND role = 'own' AND taken";
        Ok(sqlx::query(owned).bind(who).fetch_one(&self.pool).await?.try_get::<i64, _>(0)?.unsigned_abs())
    }
}

/// Makes an account the owner of a sheet that is new.
pub(super) async fn own_new(connection: &mut MySqlConnection, sheet: SheetId, who: Uuid) -> Result<(), StoreError> {
    let sql = "INSERT INTO members (sheet, account, role, taken) VALUES (?, ?, 'own', TRUE)";
    sqlx::query(sql).bind(sheet.0).bind(who).execute(connection).await?;
    Ok(())
}

/// Whether an account is the only owner of a sheet. Owners of it are not changed by others until the transaction ends.
async fn is_last_owner(connection: &mut MySqlConnection, sheet: SheetId, who: Uuid) -> Result<bool, StoreError> {
    let sql = "SELECT account FROM members WHERE sheet = ? AND role = 'own' AND taken FOR UPDATE";
    let owners = sqlx::query(sql).bind(sheet.0).fetch_all(connection).await?;
    let owners: Vec<Uuid> = owners.iter().map(|r| r.try_get(0)).collect::<Result<_, _>>()?;
    Ok(owners == [who])
}
