//! Elements and attributes, written and escaped by `quick-xml`.

use quick_xml::Writer;
use quick_xml::events::{BytesEnd, BytesStart, BytesText, Event};

/// Markup that grows.
pub(super) struct Markup(Writer<Vec<u8>>);

/// An element that is about to be written, with its attributes.
pub(super) struct Element(BytesStart<'static>, &'static str);

impl Element {
    /// An element without attributes.
    pub fn new(name: &'static str) -> Self {
        Self(BytesStart::new(name), name)
    }

    /// With one more attribute. The writer escapes its value.
    pub fn with(mut self, name: &'static str, value: impl AsRef<str>) -> Self {
        self.0.push_attribute((name, value.as_ref()));
        self
    }

    /// With an attribute if there is a value.
    pub fn with_some(self, name: &'static str, value: Option<impl AsRef<str>>) -> Self {
        match value {
            Some(value) => self.with(name, value),
            None => self,
        }
    }
}

impl Markup {
    /// An empty document.
    pub fn new() -> Self {
        Self(Writer::new(Vec::new()))
    }

    /// An element without contents.
    pub fn empty(&mut self, element: Element) {
        self.event(Event::Empty(element.0));
    }

    /// Opens an element; its name, for [`Self::close`].
    pub fn open(&mut self, element: Element) -> &'static str {
        self.event(Event::Start(element.0));
        element.1
    }

    /// Closes the element that was opened last.
    pub fn close(&mut self, name: &'static str) {
        self.event(Event::End(BytesEnd::new(name)));
    }

    /// Text of an element; characters that XML 1.0 does not allow are left out.
    pub fn text(&mut self, text: &str) {
        let allowed =
            |c: &char| !matches!(c, '\0'..='\u{8}' | '\u{b}' | '\u{c}' | '\u{e}'..='\u{1f}' | '\u{fffe}' | '\u{ffff}');
        let text: String = text.chars().filter(allowed).collect();
        self.event(Event::Text(BytesText::new(&text)));
    }

    fn event(&mut self, event: Event<'_>) {
        let written = self.0.write_event(event);
        debug_assert!(written.is_ok(), "memory can be written to");
    }

    /// The text, with everything closed.
    pub fn finish(self) -> String {
        String::from_utf8(self.0.into_inner()).unwrap_or_default()
    }
}
