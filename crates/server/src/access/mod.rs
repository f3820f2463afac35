//! Who may come in: under which address a server is called, and how it knows who asks.
//!
//! On loopback a start token in a cookie tells the account that started the server from the others of the machine.

mod address;
mod peer;
mod secret;
mod start_token;

pub use address::OwnAddress;
pub use start_token::StartToken;

pub(crate) use peer::is_same_account;

/// Who is let in, and under which address.
#[derive(Debug)]
pub struct Access {
    pub address: OwnAddress,
    pub entrance: Entrance,
}

/// What has to be shown to be let in.
#[derive(Debug)]
pub enum Entrance {
    /// For the account that started the server, and whoever it tells the token.
    StartToken(StartToken),
}
