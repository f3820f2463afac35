//! What may not be sold, and fonts that may not be embedded.

use super::finding::{Finding, FindingKind, Severity};
use crate::library::Library;
use crate::sheet::{Licence, Sheet};

/// Photos and drawings in use that must not be on anything that is sold.
pub(super) fn of(sheet: &Sheet) -> Vec<Finding> {
    let used = |of: &str| {
        let windows = || sheet.pieces.iter().filter(|p| !p.hidden).filter_map(|p| p.window());
        let in_fills = windows()
            .flat_map(|w| &w.fills)
            .filter(|f| !f.off)
            .any(|f| f.photo().is_some_and(|id| id.0 == of) || f.drawings().iter().any(|id| id.0 == of));
        in_fills || windows().flat_map(|w| w.forms()).flat_map(|f| f.drawings()).any(|id| id.0 == of)
    };
    let barred = sheet.credits.iter().filter(|(of, c)| c.licence == Licence::NotForResale && used(of));
    let finding = |(of, credit): (&String, &crate::sheet::Credit)| {
        let sentence = format!(
            "“{}” by {} must not be on anything that is sold. Take another one, or ask its maker.",
            credit.title, credit.maker
        );
        Finding::of_sheet(FindingKind::NotForResale, Severity::Doubtful, of, sentence)
    };
    barred.map(finding).collect()
}

/// Fonts in use whose makers do not allow them to be embedded (the `fsType` of the OS/2 table, OpenType 1.9).
pub(super) fn of_fonts(sheet: &Sheet, library: &dyn Library) -> Vec<Finding> {
    let restricted = |id: &&crate::sheet::FontId| library.fonts().get(id).is_some_and(|face| !face.may_be_embedded());
    let finding = |id: &crate::sheet::FontId| {
        let name = library.fonts().get(id).map_or_else(|| id.0.clone(), |face| face.name.clone());
        let sentence =
            format!("{name} may not be embedded. Its letters go out as outlines; the font itself stays here.");
        Finding::of_sheet(FindingKind::FontNotEmbeddable, Severity::Note, &id.0, sentence)
    };
    sheet.fonts.keys().filter(restricted).map(finding).collect()
}
