//! Signing in, within a number of tries, and choosing a password.

use super::{Caller, PasswordError, hash_of, hash_password, is_password, random};
use crate::app::App;
use crate::storage::{Account, StoreError, TRIED_MINUTES, Tries};
use tokio::task::JoinError;
use uuid::Uuid;

/// Wrong tries within a quarter of an hour: for one name from one address, for one name, from one address. Nobody can keep somebody else out with a
/// handful of tries, and whoever tries many names gets not far either.
const MOST_TRIES: Tries = Tries { both: 10, name: 100, address: 50 };

/// Why somebody is not let in.
#[derive(Debug, thiserror::Error)]
pub(crate) enum SignInError {
    #[error("Name and password do not belong together.")]
    Wrong,
    #[error("This was tried too often. Try again in {TRIED_MINUTES} minutes.")]
    TooOften,
    #[error("This link holds no more. Ask for a new one.")]
    OldLink,
    #[error(transparent)]
    Password(PasswordError),
    #[error(transparent)]
    Store(#[from] StoreError),
    #[error("{0}")]
    Broken(String),
}

impl From<PasswordError> for SignInError {
    fn from(error: PasswordError) -> Self {
        match error {
            PasswordError::Hash(_) => Self::Broken(error.to_string()),
            refused => Self::Password(refused),
        }
    }
}

impl From<JoinError> for SignInError {
    fn from(error: JoinError) -> Self {
        Self::Broken(error.to_string())
    }
}

/// Signs somebody in who knows name and password: the secret that the browser shows from now on.
pub(crate) async fn sign_in(app: &App, name: &str, password: String, from: &Caller) -> Result<String, SignInError> {
    let account = check(app, name, password, from).await?;
    begin(app, account, from).await
}

/// Chooses a password with a link, which holds once, and signs in.
pub(crate) async fn choose_password(
    app: &App,
    link: &str,
    password: String,
    from: &Caller,
) -> Result<String, SignInError> {
    let account = app.store.password_link(&hash_of(link)).await?.ok_or(SignInError::OldLink)?;
    let hash = hash(app, password, account.name.clone()).await?;
    app.store.set_password(account.id, &hash, None).await?;
    tracing::info!(account = account.name, address = %from.address, "a password was chosen with a link");
    begin(app, account, from).await
}

/// Changes the password of who knows the old one. All other sessions end.
pub(crate) async fn change_password(
    app: &App,
    (account, session): (&Account, Uuid),
    (old, new): (String, String),
    from: &Caller,
) -> Result<(), SignInError> {
    check(app, &account.name, old, from).await?;
    let hash = hash(app, new, account.name.clone()).await?;
    app.store.set_password(account.id, &hash, Some(session)).await?;
    tracing::info!(account = account.name, address = %from.address, "a password was changed");
    Ok(())
}

/// The account of a name, if this is its password.
async fn check(app: &App, name: &str, password: String, from: &Caller) -> Result<Account, SignInError> {
    let (who, address) = (hash_of(&name.trim().to_lowercase()), from.address.to_string());
    let tries = app.store.note_try(Uuid::new_v4(), &who, &address).await?;
    if tries.both > MOST_TRIES.both || tries.name > MOST_TRIES.name || tries.address > MOST_TRIES.address {
        tracing::warn!(name, address, "too many tries of a password");
        return Err(SignInError::TooOften);
    }
    let known = app.store.password_of(name.trim()).await?;
    let hash = known.as_ref().map(|(_, hash)| hash.clone());
    let right = app.in_turn(move || is_password(&password, hash.as_deref())).await?;
    match known {
        Some((account, _)) if right => {
            app.store.forget_tries(&who, &address).await?;
            Ok(account)
        }
        _ => {
            tracing::warn!(name, address, "a password was wrong");
            Err(SignInError::Wrong)
        }
    }
}

/// Begins a session.
async fn begin(app: &App, account: Account, from: &Caller) -> Result<String, SignInError> {
    let secret = random().map_err(|e| SignInError::Broken(e.to_string()))?;
    let at = (from.browser.as_str(), &*from.address.to_string());
    app.store.add_session(&hash_of(&secret), account.id, at).await?;
    tracing::info!(account = account.name, address = %from.address, "signed in");
    Ok(secret)
}

async fn hash(app: &App, password: String, name: String) -> Result<String, SignInError> {
    Ok(app.in_turn(move || hash_password(&password, &name)).await??)
}
