//! Who may come in: under which address a server is called, and how it knows who asks.
//!
//! On loopback a start token in a cookie tells the account of the machine that started the server from the others. Where a server has accounts of
//! its own, people sign in with name and password, and a sheet is seen by its members alone.

mod address;
mod caller;
mod password;
mod peer;
mod secret;
mod sign_in;
mod start_token;
mod who;

pub use address::{AddressError, OwnAddress};
pub use password::{PasswordError, hash_password};
pub use secret::{hash_of, random};
pub use start_token::StartToken;

pub(crate) use caller::Caller;
pub(crate) use password::is_password;
pub(crate) use peer::is_same_account;
pub(crate) use sign_in::{SignInError, change_password, choose_password, sign_in};
pub(crate) use who::Who;

use std::net::IpAddr;

/// Who is let in, and under which address.
#[derive(Debug)]
pub struct Access {
    pub address: OwnAddress,
    pub entrance: Entrance,
    /// The address of the proxy that all requests come through, if they do.
    pub proxy: Option<IpAddr>,
}

/// What has to be shown to be let in.
#[derive(Debug)]
pub enum Entrance {
    /// The token that the server was started with: for the account that did, and whoever it tells the token.
    StartToken(StartToken),
    /// Name and password of an account.
    Accounts,
}
