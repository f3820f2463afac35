//! Why the database did not do what was asked.

use sqlx::mysql::MySqlDatabaseError;

/// Numbers of MariaDB's errors that pass by themselves: too many connections, the server ends, a lock is waited for too long, a deadlock, a
/// connection that was cut, a node of a cluster that is not ready.
const PASSING: [u16; 10] = [1040, 1047, 1053, 1205, 1213, 1927, 2006, 2013, 1158, 1160];
/// There is no room: disk full, table full, a storage engine that cannot write.
const FULL: [u16; 5] = [1021, 1114, 1026, 1030, 3];

/// Why the database did not do what was asked.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// It does not answer, or is too busy: worth trying again.
    #[error("the database does not answer: {0}")]
    Away(sqlx::Error),
    /// Its disk is full.
    #[error("the database has no room: {0}")]
    Full(sqlx::Error),
    /// Its disk is almost full: nothing was tried.
    #[error("the disk of the database is almost full")]
    NoRoom,
    /// It will refuse the same again.
    #[error("the database refuses: {0}")]
    Database(sqlx::Error),
    #[error("a stored document cannot be read: {0}")]
    Document(#[from] serde_json::Error),
    #[error("a file could not be read: {0}")]
    File(#[from] std::io::Error),
    #[error("the stored file {0} is not complete")]
    Incomplete(String),
    #[error("the document of a sheet could not be read")]
    Damaged,
}

impl From<sqlx::Error> for StoreError {
    fn from(error: sqlx::Error) -> Self {
        let number = |e: &sqlx::Error| {
            e.as_database_error()
                .and_then(|e| e.try_downcast_ref::<MySqlDatabaseError>())
                .map(MySqlDatabaseError::number)
        };
        match (&error, number(&error)) {
            (_, Some(number)) if PASSING.contains(&number) => Self::Away(error),
            (_, Some(number)) if FULL.contains(&number) => Self::Full(error),
            (
                sqlx::Error::Io(_)
                | sqlx::Error::Tls(_)
                | sqlx::Error::Protocol(_)
                | sqlx::Error::PoolTimedOut
                | sqlx::Error::PoolClosed
                | sqlx::Error::WorkerCrashed,
                _,
            ) => Self::Away(error),
            _ => Self::Database(error),
        }
    }
}
