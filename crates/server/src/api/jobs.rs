//! Long work: asked for, followed, cancelled, and its files fetched.

use super::bench::NO_SHEET;
use super::error::ApiError;
use super::json_body::JsonBody;
use super::made_once::MadeOnce;
use super::types::JobCard;
use super::who::check_role;
use crate::access::Who;
use crate::app::App;
use crate::jobs::{Outcome, Task};
use crate::storage::{JobRow, Role, StoreError};
use axum::Json;
use axum::body::Body;
use axum::extract::{Path, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use inky_core::check::check_sheet;
use inky_core::sheet::SheetId;
use std::sync::Arc;
use uuid::Uuid;

const NO_JOB: ApiError = ApiError::NotFound("This work is not known here.");

fn card(row: JobRow) -> Result<JobCard, StoreError> {
    Ok(JobCard {
        id: row.id,
        task: serde_json::from_str(&row.task)?,
        state: row.state,
        done: row.done,
        step: row.step,
        outcome: row.outcome.map(|o| serde_json::from_str(&o)).transpose()?,
    })
}

pub(super) async fn add(
    State(app): State<Arc<App>>,
    Path(sheet): Path<SheetId>,
    who: Who,
    MadeOnce(id): MadeOnce,
    JsonBody(task): JsonBody<Task>,
) -> Result<Json<JobCard>, ApiError> {
    let row = app.sheet(sheet).await?.ok_or(NO_SHEET)?;
    if let Task::Deliver { order } = &task {
        // the same limits as for the sheet's own resolution
        let bleed = if order.bleed { row.sheet.bleed } else { 0.0 };
        check_sheet(&inky_core::sheet::Sheet { ppi: order.ppi, bleed, ..(*row.sheet).clone() })?;
        if order.press.as_deref().is_some_and(|id| inky_press::press(id).is_none()) {
            return Err(ApiError::Refused("This press is not known here.".into()));
        }
    }
    if let Task::FindSubject { hints, .. } = &task {
        hints.check().map_err(|e| ApiError::Refused(e.to_string()))?;
    }
    let task = serde_json::to_string(&task).map_err(StoreError::from)?;
    app.store.add_job(id, sheet, &task).await?;
    app.wake.notify_one();
    job(State(app), Path(id), who).await
}

/// The work on a sheet that is not finished.
pub(super) async fn open(
    State(app): State<Arc<App>>,
    Path(sheet): Path<SheetId>,
) -> Result<Json<Vec<JobCard>>, ApiError> {
    let rows = app.store.open_jobs(sheet).await?;
    Ok(Json(rows.into_iter().map(card).collect::<Result<_, _>>()?))
}

/// A job on a sheet that one may look at.
async fn seen(app: &App, id: Uuid, who: &Who) -> Result<JobRow, ApiError> {
    let row = app.store.job(id).await?.ok_or(NO_JOB)?;
    check_role(app, who, row.sheet, Role::Look).await?;
    Ok(row)
}

pub(super) async fn job(
    State(app): State<Arc<App>>,
    Path(id): Path<Uuid>,
    who: Who,
) -> Result<Json<JobCard>, ApiError> {
    Ok(Json(card(seen(&app, id, &who).await?)?))
}

pub(super) async fn cancel(
    State(app): State<Arc<App>>,
    Path(id): Path<Uuid>,
    who: Who,
) -> Result<StatusCode, ApiError> {
    seen(&app, id, &who).await?;
    app.store.cancel_job(id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The file that a job made, as a download.
pub(super) async fn file(State(app): State<Arc<App>>, Path(id): Path<Uuid>, who: Who) -> Result<Response, ApiError> {
    let card = card(seen(&app, id, &who).await?)?;
    let (Some(Outcome::File { name, hash, .. }), Task::Deliver { order }) = (card.outcome, card.task) else {
        return Err(NO_JOB);
    };
    let size = app.store.blob_size(&hash).await?.ok_or(NO_JOB)?;
    let chunks = app.store.blob_chunks(hash, size);
    // RFC 6266 with the extended notation of RFC 8187
    let encoded: String = name
        .bytes()
        .map(|b| match b {
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'.' | b'-' | b'_' => char::from(b).to_string(),
            _ => format!("%{b:02X}"),
        })
        .collect();
    let disposition = format!("attachment; filename*=UTF-8''{encoded}");
    let disposition = HeaderValue::from_str(&disposition).map_err(|e| ApiError::Broken(e.to_string()))?;
    let kind = HeaderValue::from_static(order.kind.content_type());
    let headers = [
        (header::CONTENT_TYPE, kind),
        (header::CONTENT_DISPOSITION, disposition),
        (header::CONTENT_LENGTH, size.into()),
    ];
    Ok((headers, Body::from_stream(chunks)).into_response())
}
