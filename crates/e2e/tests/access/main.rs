//! Who may come in.

mod accounts;
mod network;
mod people;
mod screens;
mod sharing;
mod start_token;
