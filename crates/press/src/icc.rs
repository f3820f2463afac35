//! ICC profiles as bytes.

use moxcms::ColorProfile;

/// A profile that cannot be written.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("The colour profile cannot be written: {0}.")]
pub struct ProfileError(String);

/// A profile (ICC.1) as the bytes of a file. Its date is always the same, so that the same thing makes the same file whenever it is delivered.
///
/// # Errors
/// Tables that do not fit together.
pub fn encoded(profile: &ColorProfile) -> Result<Vec<u8>, ProfileError> {
    let mut bytes = profile.encode().map_err(|e| ProfileError(format!("{e:?}")))?;
    // the dateTimeNumber of the header: year, month, day, hours, minutes, seconds, each of two bytes (ICC.1, 7.2.8)
    let date = [2026_u16, 1, 1, 0, 0, 0].map(u16::to_be_bytes);
    bytes[24..36].copy_from_slice(date.as_flattened());
    Ok(bytes)
}
