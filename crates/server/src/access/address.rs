//! The addresses under which a server is called, and which requests come from its own pages.

use axum::http::{HeaderMap, HeaderValue, Method, Uri, header};

/// Why a text is no address of a server.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum AddressError {
    #[error("the address has to begin with https://")]
    NotHttps,
    #[error("the address has to be a name, with a port if need be")]
    NoAddress,
}

/// What a server is called in the address line of a browser.
#[derive(Debug, Clone)]
pub struct OwnAddress {
    /// `http` or `https`.
    scheme: &'static str,
    /// Names with ports, as in the header `Host`.
    hosts: Vec<String>,
    port: u16,
}

impl OwnAddress {
    /// A server on loopback, under its usual names.
    pub fn loopback(port: u16) -> Self {
        let hosts = ["127.0.0.1", "localhost", "[::1]"].map(|host| format!("{host}:{port}")).to_vec();
        Self { scheme: "http", hosts, port }
    }

    /// A server that is called by a name, as `https://posters.example` or `https://posters.example:8443`.
    ///
    /// # Errors
    /// An address that is no such one, or not encrypted.
    pub fn public(address: &str, port: u16) -> Result<Self, AddressError> {
        let host = address.strip_prefix("https://").ok_or(AddressError::NotHttps)?;
        let host = host.strip_suffix('/').unwrap_or(host).to_lowercase();
        let parsed: Uri = format!("https://{host}").parse().map_err(|_| AddressError::NoAddress)?;
        if host.contains('@') || parsed.authority().is_none_or(|a| a.as_str() != host) {
            return Err(AddressError::NoAddress);
        }
        // browsers leave the usual port away
        let hosts = vec![host.strip_suffix(":443").unwrap_or(&host).to_owned()];
        Ok(Self { scheme: "https", hosts, port })
    }

    /// The port that the server listens on.
    pub fn port(&self) -> u16 {
        self.port
    }

    /// Whether all that is said to the server is encrypted on its way.
    pub fn is_encrypted(&self) -> bool {
        self.scheme == "https"
    }

    /// Whether a request comes from the application itself: under its own names, and for changes from its own pages. A foreign name that was made
    /// to point here is none of its names.
    pub fn is_own(&self, method: &Method, uri: &Uri, headers: &HeaderMap) -> bool {
        let text = |name| headers.get(name).and_then(|v: &HeaderValue| v.to_str().ok());
        // HTTP/2 has the name in the address
        let Some(host) = text(header::HOST).or_else(|| uri.authority().map(|a| a.as_str())) else {
            return false;
        };
        if !self.hosts.iter().any(|own| own == host) {
            return false;
        }
        let reading = matches!(*method, Method::GET | Method::HEAD);
        let from_here = match headers.get("sec-fetch-site").and_then(|v| v.to_str().ok()) {
            None | Some("same-origin" | "none") => true,
            // following a link to the page is fine, reading data from elsewhere is not
            Some(_) => reading && headers.get("sec-fetch-mode").is_some_and(|m| m == "navigate"),
        };
        let origin = text(header::ORIGIN).is_none_or(|o| o == format!("{}://{host}", self.scheme));
        from_here && origin
    }
}
