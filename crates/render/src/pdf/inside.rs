//! A sheet that travels inside of a PDF.

use crate::RenderError;
use flate2::read::ZlibDecoder;
use krilla::Document;
use krilla::embed::{AssociationKind, EmbeddedFile, MimeType};
use lopdf::{Dictionary, LoadOptions, Object};
use std::io::Read;

/// What the sheet is called among the attachments of a PDF.
pub const SHEET_INSIDE: &str = "inky-window.sheet.json";

/// Bytes that a stream with the PDF's own order may unpack to.
const STRUCTURE: usize = 64 << 20;

/// Puts a sheet file into a document.
pub(super) fn attach(document: &mut Document, sheet_file: Vec<u8>) {
    document.embed_file(EmbeddedFile {
        path: SHEET_INSIDE.into(),
        mime_type: MimeType::new("application/json"),
        description: Some("The sheet, to go on working with it in Inky Window".into()),
        association_kind: AssociationKind::Source,
        data: sheet_file.into(),
        modification_date: None,
        compress: Some(true),
        location: None,
    });
}

/// The sheet file in a PDF; None if it has none. It may have `most` bytes.
///
/// The file may come from anybody: call this where memory and time are bounded.
///
/// # Errors
/// A file that is no PDF, one with a password, and a sheet file that is too long.
pub fn sheet_inside(pdf: &[u8], most: usize) -> Result<Option<Vec<u8>>, RenderError> {
    let options = LoadOptions { max_decompressed_size: Some(STRUCTURE), ..LoadOptions::default() };
    let document = lopdf::Document::load_mem_with_options(pdf, options).map_err(|e| match e {
        lopdf::Error::InvalidPassword | lopdf::Error::Decryption(_) => RenderError::PdfWithPassword,
        other => RenderError::BadPdf(other.to_string()),
    })?;
    if document.is_encrypted() {
        return Err(RenderError::PdfWithPassword);
    }
    let specified = document.objects.values().filter_map(|object| object.as_dict().ok());
    let Some(spec) = specified.into_iter().find(|d| is_sheet(d)) else { return Ok(None) };
    let embedded = spec.get(b"EF").and_then(|ef| document.dereference(ef)).and_then(|(_, ef)| ef.as_dict());
    let stream = embedded.and_then(|ef| ef.get(b"F")).and_then(|f| document.dereference(f));
    let stream = stream.and_then(|(_, stream)| stream.as_stream()).map_err(|e| RenderError::BadPdf(e.to_string()))?;
    let mut bytes = Vec::new();
    match stream.filters() {
        Err(_) => bytes.extend_from_slice(&stream.content),
        Ok(filters) if filters.is_empty() => bytes.extend_from_slice(&stream.content),
        Ok(filters) if filters == [b"FlateDecode"] => {
            let unpacked = ZlibDecoder::new(stream.content.as_slice()).take(most as u64 + 1).read_to_end(&mut bytes);
            unpacked.map_err(|e| RenderError::BadPdf(e.to_string()))?;
        }
        Ok(_) => return Err(RenderError::BadPdf("its sheet is packed in an unknown way".into())),
    }
    if bytes.len() > most {
        return Err(RenderError::BadPdf(format!("its sheet has more than {} MiB", most >> 20)));
    }
    Ok(Some(bytes))
}

fn is_sheet(spec: &Dictionary) -> bool {
    let name = spec.get(b"UF").or_else(|_| spec.get(b"F")).and_then(Object::as_str);
    spec.has(b"EF") && name.is_ok_and(|name| name == SHEET_INSIDE.as_bytes())
}
