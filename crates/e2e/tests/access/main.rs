//! Who may come in.

mod start_token;
