//! Who may come in.

mod accounts;
mod people;
mod sharing;
mod start_token;
