//! Who may ask.

use axum::http::{Method, Uri};
use inky_server::OwnAddress;

fn own(method: Method, pairs: &[(&'static str, &str)]) -> bool {
    let headers = pairs.iter().map(|(k, v)| (k.parse().unwrap(), v.parse().unwrap())).collect();
    OwnAddress::loopback(4000).is_own(&method, &Uri::from_static("/"), &headers)
}

#[test]
fn only_this_site_gets_through() {
    let host = ("host", "127.0.0.1:4000");
    assert!(own(Method::GET, &[host]));
    assert!(own(Method::POST, &[host, ("origin", "http://127.0.0.1:4000"), ("sec-fetch-site", "same-origin")]));
    assert!(own(Method::GET, &[host, ("sec-fetch-site", "cross-site"), ("sec-fetch-mode", "navigate")]));
    assert!(!own(Method::GET, &[host, ("sec-fetch-site", "cross-site"), ("sec-fetch-mode", "cors")]));
    assert!(!own(Method::POST, &[host, ("sec-fetch-site", "cross-site"), ("sec-fetch-mode", "navigate")]));
    assert!(!own(Method::POST, &[host, ("origin", "http://elsewhere.example")]));
    assert!(!own(Method::POST, &[host, ("origin", "null")]));
    assert!(!own(Method::GET, &[("host", "elsewhere.example:4000")]));
    assert!(!own(Method::GET, &[]));
}
