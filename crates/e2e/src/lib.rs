//! What the tests of the whole application stand on: a database of their own, the real server, a real browser.

mod accessibility;
pub mod adverse;
mod bench;
mod browser;
pub mod cluster;
pub mod compare;
mod crew;
mod database;
pub mod editors;
pub mod kills;
pub mod renderers;
mod server;
pub mod servers;
pub mod steps;
pub mod tabs;

pub use accessibility::Looking;
pub use bench::Bench;
pub use browser::Browser;
pub use database::{Database, SmallDisk};
pub use server::{Server, TOKEN, client, head, program};

use std::path::{Path, PathBuf};

/// The project's folder.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// A folder that goes when it is dropped.
pub struct Scratch(PathBuf);

impl Scratch {
    pub fn new() -> anyhow::Result<Self> {
        Self::within(&std::env::temp_dir())
    }

    /// A folder within another one.
    pub fn within(folder: &Path) -> anyhow::Result<Self> {
        let path = folder.join(format!("inky-test-{}", uuid::Uuid::new_v4().simple()));
        std::fs::create_dir_all(&path)?;
        Ok(Self(path))
    }

    pub fn path(&self) -> &Path {
        &self.0
    }
}

impl Drop for Scratch {
    fn drop(&mut self) {
        // what cannot be removed is left to the system's own cleaning
        let _ = std::fs::remove_dir_all(&self.0);
    }
}
