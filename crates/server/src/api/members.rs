//! Who may do what with a sheet.

use super::bench::NO_SHEET;
use super::error::ApiError;
use super::json_body::JsonBody;
use super::types::{Invitation, MemberView, MembersView};
use crate::access::Who;
use crate::app::App;
use crate::storage::Shared;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use inky_core::sheet::SheetId;
use std::sync::Arc;
use uuid::Uuid;

/// One's own role, and all members where there are accounts.
pub(super) async fn list(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    who: Who,
) -> Result<Json<MembersView>, ApiError> {
    let role = who.role(&app.store, id).await?.ok_or(NO_SHEET)?;
    let own = who.account();
    let members = match own {
        None => None,
        Some(own) => Some(
            app.store
                .members(id)
                .await?
                .into_iter()
                .map(|m| MemberView {
                    this: m.account.id == own,
                    id: m.account.id,
                    name: m.account.name,
                    role: m.role,
                    taken: m.taken,
                })
                .collect(),
        ),
    };
    Ok(Json(MembersView { role, members }))
}

/// Invites somebody, or gives a member another role.
pub(super) async fn invite(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    who: Who,
    JsonBody(Invitation { name, role }): JsonBody<Invitation>,
) -> Result<StatusCode, ApiError> {
    let Who::Account(own, _) = &who else {
        return Err(ApiError::Refused("This server has no accounts: whoever is let in sees all sheets.".into()));
    };
    let Some(invited) = app.store.account_named(name.trim()).await? else {
        return Err(ApiError::Refused(format!("Nobody has an account here by the name of “{}”.", name.trim())));
    };
    done(app.store.share(id, invited.id, role, &own.name).await?)?;
    tracing::info!(by = own.name, to = invited.name, ?role, sheet = %id.0, "shared");
    Ok(StatusCode::NO_CONTENT)
}

/// Takes a sheet away from somebody.
pub(super) async fn remove(
    State(app): State<Arc<App>>,
    Path((id, account)): Path<(SheetId, Uuid)>,
    who: Who,
) -> Result<StatusCode, ApiError> {
    done(app.store.unshare(id, account).await?)?;
    tracing::info!(by = ?who.account(), sheet = %id.0, %account, "not shared any more");
    Ok(StatusCode::NO_CONTENT)
}

/// Takes an invitation.
pub(super) async fn take(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    who: Who,
) -> Result<StatusCode, ApiError> {
    let account = who.account().ok_or(NO_SHEET)?;
    if app.store.take_invitation(id, account).await? { Ok(StatusCode::NO_CONTENT) } else { Err(NO_SHEET) }
}

/// Takes a sheet off one's own desk, or refuses an invitation to it.
pub(super) async fn decline(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    who: Who,
) -> Result<StatusCode, ApiError> {
    let account = who.account().ok_or(NO_SHEET)?;
    done(app.store.unshare(id, account).await?)?;
    Ok(StatusCode::NO_CONTENT)
}

fn done(shared: Shared) -> Result<(), ApiError> {
    match shared {
        Shared::Done => Ok(()),
        Shared::LastOwner => {
            Err(ApiError::Refused("Somebody has to own the sheet: let another one own it first.".into()))
        }
    }
}
