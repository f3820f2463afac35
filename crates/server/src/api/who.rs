//! Who asks, and whether they may.

use super::bench::NO_SHEET;
use super::error::ApiError;
use crate::access::{Caller, Who};
use crate::app::App;
use crate::storage::Role;
use axum::extract::{FromRequestParts, RawPathParams, Request, State};
use axum::http::request::Parts;
use axum::middleware::Next;
use axum::response::Response;
use inky_core::sheet::SheetId;
use std::sync::Arc;

impl<S: Send + Sync> FromRequestParts<S> for Who {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, ApiError> {
        parts.extensions.get::<Self>().cloned().ok_or(ApiError::Unknown("Sign in first."))
    }
}

impl<S: Send + Sync> FromRequestParts<S> for Caller {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, ApiError> {
        parts.extensions.get::<Self>().cloned().ok_or(ApiError::Foreign)
    }
}

/// Lets those through who may do so much with the sheet in the address.
pub(super) async fn may(
    State((app, least)): State<(Arc<App>, Role)>,
    who: Who,
    params: RawPathParams,
    request: Request,
    next: Next,
) -> Result<Response, ApiError> {
    let id = params.iter().find(|(name, _)| *name == "id").and_then(|(_, id)| id.parse().ok());
    check_role(&app, &who, SheetId(id.ok_or(NO_SHEET)?), least).await?;
    Ok(next.run(request).await)
}

/// Refuses what somebody may not do with a sheet. Who is no member does not learn that it is there.
pub(super) async fn check_role(app: &App, who: &Who, sheet: SheetId, least: Role) -> Result<(), ApiError> {
    let role = who.role(&app.store, sheet).await?;
    if role.is_none_or(|role| role < least) {
        tracing::warn!(account = ?who.account(), sheet = %sheet.0, ?least, ?role, "not allowed");
    }
    match least {
        _ if role.ok_or(NO_SHEET)? >= least => Ok(()),
        Role::Own => Err(ApiError::Forbidden("Only an owner of the sheet may do this.")),
        _ => Err(ApiError::Forbidden("You may look at this sheet. An owner of it can let you change it.")),
    }
}
