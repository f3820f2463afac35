//! The secret that a server on loopback was started with.

use super::random;
use sha2::{Digest, Sha256};

/// What the account that started a server shows to be let in: in a cookie, or in the header `Authorization: Bearer` where no browser asks.
#[derive(Clone)]
pub struct StartToken(String);

impl StartToken {
    /// A token that was chosen elsewhere; None if it is too short to be a secret, or cannot stand in a cookie.
    pub fn new(token: &str) -> Option<Self> {
        let fits = token.bytes().all(|b| b.is_ascii_alphanumeric() || b"-_".contains(&b));
        (token.len() >= 20 && fits).then(|| Self(token.into()))
    }

    /// A new one, of 256 random bits.
    ///
    /// # Errors
    /// A machine without random numbers.
    pub fn random() -> Result<Self, getrandom::Error> {
        random().map(Self)
    }

    /// Whether somebody knows it. The time that this takes says nothing of it.
    pub fn is(&self, said: &str) -> bool {
        Sha256::digest(said) == Sha256::digest(&self.0)
    }

    pub fn text(&self) -> &str {
        &self.0
    }
}

impl std::fmt::Debug for StartToken {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str("StartToken(…)")
    }
}
