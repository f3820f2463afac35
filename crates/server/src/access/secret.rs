//! Random secrets that are shown to be let in.

use base64::{Engine, engine::general_purpose::URL_SAFE_NO_PAD};
use sha2::{Digest, Sha256};

/// 256 random bits, in letters that fit into cookies and addresses.
///
/// # Errors
/// A machine without random numbers.
pub fn random() -> Result<String, getrandom::Error> {
    let mut bytes = [0; 32];
    getrandom::fill(&mut bytes)?;
    Ok(URL_SAFE_NO_PAD.encode(bytes))
}

/// What is kept of a secret. A fast hash does: nobody can try 2^256 of them.
pub fn hash_of(secret: &str) -> [u8; 32] {
    Sha256::digest(secret).into()
}
