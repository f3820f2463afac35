//! Random secrets that are shown to be let in.

use base64::{Engine, engine::general_purpose::URL_SAFE_NO_PAD};

/// 256 random bits, in letters that fit into cookies and addresses.
///
/// # Errors
/// A machine without random numbers.
pub(super) fn random() -> Result<String, getrandom::Error> {
    let mut bytes = [0; 32];
    getrandom::fill(&mut bytes)?;
    Ok(URL_SAFE_NO_PAD.encode(bytes))
}
