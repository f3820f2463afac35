//! Who asks.

use crate::storage::{Account, Role, Store, StoreError};
use inky_core::sheet::SheetId;
use uuid::Uuid;

/// Who asks for something, as it was found out when the request was let in.
#[derive(Debug, Clone)]
pub(crate) enum Who {
    /// Whoever knows the start token: everything is theirs.
    Starter,
    /// An account, in a session.
    Account(Account, Uuid),
}

impl Who {
    /// The account that asks, where there are any.
    pub(crate) fn account(&self) -> Option<Uuid> {
        match self {
            Self::Starter => None,
            Self::Account(account, _) => Some(account.id),
        }
    }

    /// What they may do with a sheet; None where they are not to know of it.
    ///
    /// # Errors
    /// Those of the database.
    pub(crate) async fn role(&self, store: &Store, sheet: SheetId) -> Result<Option<Role>, StoreError> {
        match self {
            Self::Starter => Ok(Some(Role::Own)),
            Self::Account(account, _) => store.role(sheet, account.id).await,
        }
    }

    /// The same for somebody who asked a while ago, and may have been signed out since.
    pub(crate) async fn still(&self, store: &Store, sheet: SheetId) -> Result<Option<Role>, StoreError> {
        match self {
            Self::Starter => Ok(Some(Role::Own)),
            Self::Account(account, session) => store.role_in_session(sheet, account.id, *session).await,
        }
    }
}
