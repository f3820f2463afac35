//! What is kept in MariaDB, and how.

mod accounts;
mod blobs;
mod documents;
mod failure;
mod history;
mod jobs;
mod members;
mod photos;
mod presence;
mod room;
mod sessions;
mod sheets;
mod sweep;
mod vectors;
mod whole_documents;

pub use accounts::{Account, AccountLine};
pub use blobs::StoredFile;
pub use documents::{Document, PartId, Tree};
pub use history::{BEGINNING, Step, StepWrite, Written};
pub use jobs::{JobRow, JobState};
pub use members::{Role, Shared};
pub use presence::Present;
pub use sessions::{TRIED_MINUTES, Tries};
pub use sheets::{SheetHead, SheetRow};
pub use sweep::Swept;

use room::Room;
use sqlx::SqlSafeStr;
use sqlx::migrate::{Migration, MigrationType, Migrator};
use sqlx::mysql::{MySqlConnectOptions, MySqlConnection, MySqlPool, MySqlPoolOptions};
use std::str::FromStr;
use std::time::Duration;

/// The tables, as steps that are never changed once they are out.
fn tables() -> Migrator {
    let step = |version, name: &'static str, sql: &'static str| {
        Migration::new(version, name.into(), MigrationType::Simple, sql.into_sql_str(), false)
    };
    Migrator::with_migrations(vec![
        step(1, "start", include_str!("../../migrations/0001_start.sql")),
        step(2, "drawings and fonts", include_str!("../../migrations/0002_drawings_and_fonts.sql")),
        step(3, "steps that add", include_str!("../../migrations/0003_steps_that_add.sql")),
        step(4, "documents in parts", include_str!("../../migrations/0004_documents_in_parts.sql")),
        step(5, "jobs that are tried again", include_str!("../../migrations/0005_jobs_that_are_tried_again.sql")),
        step(6, "files in use", include_str!("../../migrations/0006_files_in_use.sql")),
        step(7, "accounts", include_str!("../../migrations/0007_accounts.sql")),
        step(8, "when steps were made", include_str!("../../migrations/0008_when_steps_were_made.sql")),
    ])
}

/// The database.
///
/// # Errors
/// Every method fails with [`StoreError::Away`] where the database does not answer, with [`StoreError::Full`] or [`StoreError::NoRoom`] where it has no room, and with
/// [`StoreError::Database`] where it refuses; what was to be written has not been then. Methods that read documents also fail with
/// [`StoreError::Document`] where one of them cannot be read.
#[derive(Clone)]
pub struct Store {
    pool: MySqlPool,
    room: Room,
}

pub use failure::StoreError;

/// On a cluster, what others have kept at another node is seen before anything is read here. A database that knows no clusters refuses, and needs
/// nothing.
async fn read_after_others(connection: &mut MySqlConnection) -> Result<(), sqlx::Error> {
    let set = sqlx::query("SET SESSION wsrep_sync_wait = IF(@@wsrep_on, 3, 0)").execute(connection).await;
    match set {
        Err(error) if error.as_database_error().is_none() => Err(error),
        _ => Ok(()),
    }
}

impl Store {
    /// Connects and brings the tables up to date.
    ///
    /// # Errors
    /// No answer within half a minute, or a failed migration.
    pub async fn open(url: &str) -> Result<Self, StoreError> {
        let options = MySqlConnectOptions::from_str(url)?;
        let pool = MySqlPoolOptions::new()
            .max_connections(12)
            .acquire_timeout(Duration::from_secs(4))
            .after_connect(|connection, _| Box::pin(read_after_others(connection)))
            .connect_lazy_with(options);
        let mut tries = 0;
        loop {
            match sqlx::query("SELECT 1").execute(&pool).await {
                Ok(_) => break,
                Err(e) if tries >= 60 => return Err(e.into()),
                Err(_) => tries += 1,
            }
            tokio::time::sleep(Duration::from_millis(500)).await;
        }
        let tables = tables();
        match tables.run(&pool).await {
            // cut off by a crash; its statements can be run again (MariaDB has no transactions for tables)
            Err(sqlx::migrate::MigrateError::Dirty(version)) => {
                sqlx::query("DELETE FROM _sqlx_migrations WHERE version = ? AND NOT success")
                    .bind(version)
                    .execute(&pool)
                    .await?;
                tables.run(&pool).await.map_err(sqlx::Error::from)?;
            }
            migrated => migrated.map_err(sqlx::Error::from)?,
        }
        let room = Room::of(&pool).await?;
        let store = Self { pool, room };
        store.take_apart_whole_documents().await?;
        Ok(store)
    }

    /// Whether the database answers.
    pub async fn answers(&self) -> bool {
        sqlx::query("SELECT 1").execute(&self.pool).await.is_ok()
    }

    /// Ends all connections.
    pub async fn close(&self) {
        self.pool.close().await;
    }
}
