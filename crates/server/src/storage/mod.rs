//! What is kept in MariaDB, and how.

mod blobs;
mod jobs;
mod photos;
mod sheets;
mod vectors;

pub use blobs::StoredFile;
pub use jobs::{JobRow, JobState};
pub use sheets::{SheetHead, SheetRow, Step, StepWrite, Written};

use sqlx::SqlSafeStr;
use sqlx::migrate::{Migration, MigrationType, Migrator};
use sqlx::mysql::{MySqlConnectOptions, MySqlPool, MySqlPoolOptions};
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
    ])
}

/// The database.
///
/// # Errors
/// Every method fails with [`StoreError::Database`] where the database is away or refuses; what was to be written has not been then. Methods that
/// read documents also fail with [`StoreError::Document`] where one of them cannot be read.
#[derive(Clone)]
pub struct Store {
    pool: MySqlPool,
}

/// Why the database did not do what was asked.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    #[error(transparent)]
    Database(#[from] sqlx::Error),
    #[error("a stored document cannot be read: {0}")]
    Document(#[from] serde_json::Error),
    #[error("a file could not be read: {0}")]
    File(#[from] std::io::Error),
    #[error("the stored file {0} is not complete")]
    Incomplete(String),
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
        Ok(Self { pool })
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
