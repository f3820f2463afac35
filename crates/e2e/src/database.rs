//! A MariaDB server for one test, by the same script that `./start` uses.

use crate::{Scratch, root};
use anyhow::{Result, ensure};
use std::process::{Command, Stdio};

pub struct Database {
    folder: Scratch,
    pub url: String,
}

impl Database {
    pub fn start() -> Result<Self> {
        let folder = Scratch::new()?;
        // the database's own user has to reach it
        #[cfg(unix)]
        std::fs::set_permissions(folder.path(), std::os::unix::fs::PermissionsExt::from_mode(0o755))?;
        let url = script("start", &folder)?;
        Ok(Self { folder, url })
    }

    /// Ends the server as a power cut would.
    pub fn kill(&self) -> Result<()> {
        let pid = std::fs::read_to_string(self.folder.path().join("run/pid"))?;
        ensure!(
            Command::new("kill").args(["-KILL", pid.trim()]).status()?.success(),
            "the database could not be killed"
        );
        Ok(())
    }

    /// Starts the server again on the same data and port.
    pub fn again(&self) -> Result<()> {
        let url = script("start", &self.folder)?;
        ensure!(url == self.url, "the database came back at another address");
        Ok(())
    }
}

impl Drop for Database {
    fn drop(&mut self) {
        let _ = script("stop", &self.folder);
    }
}

fn script(action: &str, folder: &Scratch) -> Result<String> {
    let output = Command::new(root().join("scripts/database.sh"))
        .arg(action)
        .arg(folder.path())
        .stdin(Stdio::null())
        .output()?;
    ensure!(output.status.success(), "database.sh {action}: {}", String::from_utf8_lossy(&output.stderr));
    Ok(String::from_utf8(output.stdout)?.trim().to_owned())
}
