//! PDF/X-4 (ISO 15930-7:2010): a PDF that says for which press it was made.
//!
//! What it asks for beyond a plain PDF is added to one: the output intent with the press's profile, and metadata with dates that say the same in both
//! places.

use crate::RenderError;
use inky_press::Press;
use lopdf::{Dictionary, Document, Object, Stream, dictionary};
use time::OffsetDateTime;
use time::macros::format_description;
use xmp_writer::{DateTime, RenditionClass, Timezone, XmpWriter};

/// For which press, and when.
#[derive(Debug, Clone, Copy)]
pub struct PdfX4 {
    /// Its profile goes into the file as the output intent.
    pub press: &'static Press,
    /// When the file is made; in the file as UTC.
    pub made: OffsetDateTime,
}

/// Makes a PDF of version 1.6 a PDF/X-4.
pub(super) fn as_x4(pdf: Vec<u8>, title: &str, terms: PdfX4) -> Result<Vec<u8>, RenderError> {
    let failed = |e: lopdf::Error| RenderError::Encoding(e.to_string());
    let mut document = Document::load_mem(&pdf).map_err(failed)?;
    let mut out = Vec::with_capacity(pdf.len() + (1 << 20));
    drop(pdf);
    document.version = "1.6".into();
    let intent = output_intent(&mut document, terms.press)?;
    let file = file_id(&document);
    let metadata = document.add_object(metadata(title, terms.made, &file));
    let catalog = document.catalog_mut().map_err(failed)?;
    catalog.set("OutputIntents", vec![Object::Reference(intent)]);
    let old = catalog.get(b"Metadata").and_then(Object::as_reference).ok();
    catalog.set("Metadata", Object::Reference(metadata));
    if let Some(old) = old {
        document.objects.remove(&old);
    }
    let about = document.add_object(information(title, terms.made)?);
    if let Ok(old) = document.trailer.get(b"Info").and_then(Object::as_reference) {
        document.objects.remove(&old);
    }
    document.trailer.set("Info", Object::Reference(about));
    if !document.trailer.has(b"ID") {
        let id = || Object::string_literal(file.as_bytes());
        document.trailer.set("ID", vec![id(), id()]);
    }
    document.save_to(&mut out).map_err(|e| RenderError::Encoding(e.to_string()))?;
    Ok(out)
}

/// The press as an output intent (section 6.2.2). No registry knows it: its profile goes along.
fn output_intent(document: &mut Document, press: &Press) -> Result<lopdf::ObjectId, RenderError> {
    let profile = press.profile()?;
    let mut profile = Stream::new(dictionary! { "N" => 4 }, profile);
    profile.compress().map_err(|e| RenderError::Encoding(e.to_string()))?;
    let profile = document.add_object(profile);
    Ok(document.add_object(dictionary! {
        "Type" => "OutputIntent",
        "S" => "GTS_PDFX",
        "OutputConditionIdentifier" => Object::string_literal(press.id),
        "OutputCondition" => Object::string_literal(press.name),
        "Info" => Object::string_literal(press.name),
        "DestOutputProfile" => Object::Reference(profile),
    }))
}

/// What a file is called by itself: of the same pages, the same.
fn file_id(document: &Document) -> String {
    let given = document.trailer.get(b"ID").and_then(Object::as_array).ok();
    let first = given.and_then(|ids| ids.first()).and_then(|id| id.as_str().ok());
    first.map_or_else(|| "inky-window".into(), |bytes| bytes.iter().map(|b| format!("{b:02x}")).collect())
}

/// The metadata of the whole file (section 6.7).
fn metadata(title: &str, made: OffsetDateTime, file: &str) -> Stream {
    let made = made.to_offset(time::UtcOffset::UTC);
    let date = DateTime {
        year: made.year() as u16,
        month: Some(made.month() as u8),
        day: Some(made.day()),
        hour: Some(made.hour()),
        minute: Some(made.minute()),
        second: Some(made.second()),
        timezone: Some(Timezone::Utc),
    };
    let mut xmp = XmpWriter::new();
    xmp.format("application/pdf").title([(None, title)]).creator_tool(PROGRAM).producer(PROGRAM);
    xmp.create_date(date).modify_date(date).metadata_date(date);
    xmp.document_id(&format!("xmp.did:{file}")).instance_id(&format!("xmp.iid:{file}"));
    xmp.version_id("1").rendition_class(RenditionClass::Default);
    xmp.trapped(false).pdfx_version("PDF/X-4");
    let kind = dictionary! { "Type" => "Metadata", "Subtype" => "XML" };
    // readers that know nothing of PDF find it as plain text
    Stream::new(kind, xmp.finish(None).into_bytes()).with_compression(false)
}

const PROGRAM: &str = "Inky Window";

/// The same for older readers; a date is as ISO 32000-1, section 7.9.4, has it.
fn information(title: &str, made: OffsetDateTime) -> Result<Dictionary, RenderError> {
    let layout = format_description!("D:[year][month][day][hour][minute][second]Z");
    let made = made.to_offset(time::UtcOffset::UTC).format(&layout);
    let made = made.map_err(|e| RenderError::Encoding(e.to_string()))?;
    Ok(dictionary! {
        "Title" => lopdf::text_string(title),
        "Creator" => Object::string_literal(PROGRAM),
        "Producer" => Object::string_literal(PROGRAM),
        "CreationDate" => Object::string_literal(made.as_str()),
        "ModDate" => Object::string_literal(made.as_str()),
        "Trapped" => "False",
    })
}
