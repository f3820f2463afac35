//! Long work as rows: waiting, taken by one worker, done.

use super::{Store, StoreError};
use inky_core::sheet::SheetId;
use serde::{Deserialize, Serialize};
use sqlx::Row;
use sqlx::mysql::MySqlRow;
use ts_rs::TS;
use uuid::Uuid;

/// Seconds without a sign of life after which a running job is taken by another worker.
const GONE: u32 = 15;
/// How often a job is begun whose worker was gone each time.
const TRIES: u32 = 2;

/// Where a job stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum JobState {
    Waiting,
    Running,
    Done,
    Failed,
    Cancelled,
}

/// A job as it is stored; `task` and `outcome` are JSON.
#[derive(Debug, Clone)]
pub struct JobRow {
    pub id: Uuid,
    pub sheet: SheetId,
    pub task: String,
    pub state: JobState,
    pub done: f32,
    pub step: String,
    pub outcome: Option<String>,
    /// How often it was begun before.
    pub tries: u32,
}

const COLUMNS: &str = "id, sheet, task, state, done, step, outcome, tries";

impl JobState {
    fn of(text: &str) -> Self {
        match text {
            "waiting" => Self::Waiting,
            "running" => Self::Running,
            "done" => Self::Done,
            "cancelled" => Self::Cancelled,
            _ => Self::Failed,
        }
    }

    fn name(self) -> &'static str {
        match self {
            Self::Waiting => "waiting",
            Self::Running => "running",
            Self::Done => "done",
            Self::Failed => "failed",
            Self::Cancelled => "cancelled",
        }
    }
}

fn job(r: &MySqlRow) -> Result<JobRow, StoreError> {
    Ok(JobRow {
        id: r.try_get(0)?,
        sheet: SheetId(r.try_get(1)?),
        task: r.try_get(2)?,
        state: JobState::of(r.try_get(3)?),
        done: r.try_get(4)?,
        step: r.try_get(5)?,
        outcome: r.try_get(6)?,
        tries: r.try_get(7)?,
    })
}

impl Store {
    /// Adds a job; `task` is JSON.
    pub async fn add_job(&self, id: Uuid, sheet: SheetId, task: &str) -> Result<(), StoreError> {
        self.room.for_edit()?;
        let sql = "INSERT IGNORE INTO jobs (id, sheet, task) VALUES (?, ?, ?)";
        sqlx::query(sql).bind(id).bind(sheet.0).bind(task).execute(&self.pool).await?;
        Ok(())
    }

    /// A job by its identifier.
    pub async fn job(&self, id: Uuid) -> Result<Option<JobRow>, StoreError> {
        let sql = sqlx::AssertSqlSafe(format!("SELECT {COLUMNS} FROM jobs WHERE id = ?"));
        sqlx::query(sql).bind(id).fetch_optional(&self.pool).await?.as_ref().map(job).transpose()
    }

    /// The unfinished jobs of a sheet, the oldest first.
    pub async fn open_jobs(&self, sheet: SheetId) -> Result<Vec<JobRow>, StoreError> {
        let sql = sqlx::AssertSqlSafe(format!(
            "SELECT {COLUMNS} FROM jobs WHERE sheet = ? AND state IN ('waiting', 'running') ORDER BY made"
        ));
        sqlx::query(sql).bind(sheet.0).fetch_all(&self.pool).await?.iter().map(job).collect()
    }

    /// A worker takes the oldest job that waits or whose worker is gone. One that was begun often enough is given up for good: `outcome` (JSON) is
    /// what is said of it.
    pub async fn take_job(&self, worker: Uuid, outcome: &str) -> Result<Option<JobRow>, StoreError> {
        let mut tx = self.pool.begin().await?;
        // a sign of life that is still to come is one from before the clock was put back
        let gone = "state = 'running' AND ABS(TIMESTAMPDIFF(SECOND, alive, CURRENT_TIMESTAMP(3))) > ?";
        let sql = format!("UPDATE jobs SET state = 'failed', outcome = ? WHERE {gone} AND tries >= ?");
        let given_up = sqlx::query(sqlx::AssertSqlSafe(sql)).bind(outcome).bind(GONE).bind(TRIES);
        given_up.execute(&mut *tx).await?;
        let sql = sqlx::AssertSqlSafe(format!(
            "SELECT {COLUMNS} FROM jobs WHERE state = 'waiting' OR ({gone}) ORDER BY made LIMIT 1 FOR UPDATE SKIP LOCKED"
        ));
        let Some(row) = sqlx::query(sql).bind(GONE).fetch_optional(&mut *tx).await? else {
            tx.commit().await?;
            return Ok(None);
        };
        let taken = job(&row)?;
        let sql = "UPDATE jobs SET state = 'running', alive = CURRENT_TIMESTAMP(3), tries = tries + 1, worker = ? WHERE id = ?";
        sqlx::query(sql).bind(worker).bind(taken.id).execute(&mut *tx).await?;
        tx.commit().await?;
        Ok(Some(taken))
    }

    /// A worker gives a job back as it took it: it was not the job's fault.
    pub async fn give_job_back(&self, id: Uuid, worker: Uuid) -> Result<(), StoreError> {
        let sql =
            "UPDATE jobs SET state = 'waiting', tries = tries - 1 WHERE id = ? AND worker = ? AND state = 'running'";
        sqlx::query(sql).bind(id).bind(worker).execute(&self.pool).await?;
        Ok(())
    }

    /// A worker writes how far a job is; whether it is to be given up: because nobody wants it any more, or because another worker has it.
    pub async fn report_job(&self, id: Uuid, worker: Uuid, done: f32, step: &str) -> Result<bool, StoreError> {
        let sql = "UPDATE jobs SET done = ?, step = ?, alive = CURRENT_TIMESTAMP(3) WHERE id = ? AND worker = ? AND state = 'running'";
        sqlx::query(sql).bind(done).bind(step).bind(id).bind(worker).execute(&self.pool).await?;
        let row = sqlx::query("SELECT cancel OR worker <> ? FROM jobs WHERE id = ?").bind(worker).bind(id);
        Ok(row.fetch_optional(&self.pool).await?.map(|r| r.try_get(0)).transpose()?.unwrap_or(true))
    }

    /// Writes how a job ended, if the worker still has it; `outcome` is JSON.
    pub async fn finish_job(&self, id: Uuid, worker: Uuid, state: JobState, outcome: &str) -> Result<(), StoreError> {
        let sql = "UPDATE jobs SET state = ?, outcome = ?, done = IF(? = 'done', 1, done) WHERE id = ? AND worker = ? AND state = 'running'";
        let set = sqlx::query(sql).bind(state.name()).bind(outcome).bind(state.name()).bind(id).bind(worker);
        set.execute(&self.pool).await?;
        Ok(())
    }

    /// Asks for a job to be given up. One that nobody has taken yet ends at once.
    pub async fn cancel_job(&self, id: Uuid) -> Result<(), StoreError> {
        sqlx::query("UPDATE jobs SET cancel = TRUE, state = IF(state = 'waiting', 'cancelled', state) WHERE id = ?")
            .bind(id)
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}
