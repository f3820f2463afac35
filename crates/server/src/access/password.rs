//! Passwords: which ones are taken, and how they are kept.
//!
//! Kept as Argon2id (RFC 9106) with 19 MiB, two passes and one lane, which OWASP's cheat sheet on password storage recommends.

use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use zxcvbn::{Score, zxcvbn};

/// Characters that a password has at least.
const LEAST: usize = 10;
/// Characters that a password may have.
pub const MOST: usize = 200;

/// Why a password is not taken.
#[derive(Debug, thiserror::Error)]
pub enum PasswordError {
    #[error("A password has at least {LEAST} characters.")]
    Short,
    #[error("A password has at most {MOST} characters.")]
    Long,
    #[error("This password would soon be guessed. {0}")]
    Guessed(String),
    #[error("the password could not be hashed: {0}")]
    Hash(argon2::password_hash::Error),
}

/// The hash of a new password for an account of this name, as a PHC string. It takes some hundredths of a second.
///
/// # Errors
/// A password that would soon be guessed (Wheeler 2016, zxcvbn: fewer than 10⁸ guesses).
pub fn hash_password(password: &str, name: &str) -> Result<String, PasswordError> {
    let length = password.chars().count();
    if length < LEAST {
        return Err(PasswordError::Short);
    }
    if length > MOST {
        return Err(PasswordError::Long);
    }
    // what is guessed first, beside the words that everybody uses
    let near: Vec<&str> = [name, "inky", "window", "poster"].into_iter().chain(name.split_whitespace()).collect();
    let guessed = zxcvbn(password, &near);
    if guessed.score() < Score::Three {
        let advice = guessed.feedback().and_then(|f| f.suggestions().first()).map(ToString::to_string);
        return Err(PasswordError::Guessed(advice.unwrap_or_else(|| "Add another word or two.".into())));
    }
    Ok(Argon2::default().hash_password(password.as_bytes()).map_err(PasswordError::Hash)?.to_string())
}

/// Whether a password is the one with this hash. Without a hash it takes as long, and is not.
pub(crate) fn is_password(password: &str, hash: Option<&str>) -> bool {
    // of a password that nobody has
    const NOBODYS: &str =
        "$argon2id$v=19$m=19456,t=2,p=1$bm9ib2R5cyBzYWx0IQ$3J0nbZo6wIVcP4pZBJmVxj0rpTnSDhdcUo4p9V4dD5s";
    if password.chars().count() > MOST {
        return false;
    }
    let Ok(known) = PasswordHash::new(hash.unwrap_or(NOBODYS)) else { return false };
    Argon2::default().verify_password(password.as_bytes(), &known).is_ok() && hash.is_some()
}
