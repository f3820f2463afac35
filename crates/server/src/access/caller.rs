//! Where a request comes from.

use super::Access;
use axum::http::{HeaderMap, header};
use std::net::{IpAddr, SocketAddr};

/// Where a request comes from.
#[derive(Debug, Clone)]
pub(crate) struct Caller {
    pub(crate) address: IpAddr,
    /// What the browser says it is.
    pub(crate) browser: String,
}

impl Caller {
    /// The address is the one at the other end, or what the named proxy says of it (`X-Forwarded-For`, of which it has written the last part). None
    /// where a proxy is named and somebody else asks.
    pub(crate) fn of(access: &Access, peer: SocketAddr, headers: &HeaderMap) -> Option<Self> {
        let text = |value: &axum::http::HeaderValue| value.to_str().ok().map(str::to_owned);
        let browser = headers.get(header::USER_AGENT).and_then(text).unwrap_or_default();
        let peer = peer.ip().to_canonical();
        let Some(proxy) = access.proxy else { return Some(Self { address: peer, browser }) };
        if peer != proxy {
            return None;
        }
        let said = headers.get_all("x-forwarded-for").iter().next_back().and_then(text);
        let address = said.and_then(|text| text.rsplit(',').next()?.trim().parse().ok()).unwrap_or(peer);
        Some(Self { address, browser })
    }
}
