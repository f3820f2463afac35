//! A MariaDB server for one test, by the same script that `./start` uses.

use crate::{Scratch, root};
use anyhow::{Result, ensure};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

pub struct Database {
    folder: Scratch,
    pub url: String,
    /// Where its folder lies, if that is a disk of its own.
    disk: Option<SmallDisk>,
}

/// A disk in memory with little room, which goes when it is dropped.
pub struct SmallDisk(PathBuf);

impl SmallDisk {
    /// A disk of so many bytes. None where this process may not mount one.
    pub fn of(bytes: u64) -> Result<Option<Self>> {
        let path = std::env::temp_dir().join(format!("inky-disk-{}", uuid::Uuid::new_v4().simple()));
        std::fs::create_dir(&path)?;
        let size = format!("size={bytes}");
        let mounted = Command::new("mount").args(["-t", "tmpfs", "-o", &size, "tmpfs"]).arg(&path).status();
        if mounted.is_ok_and(|status| status.success()) {
            return Ok(Some(Self(path)));
        }
        std::fs::remove_dir(&path)?;
        Ok(None)
    }

    pub fn path(&self) -> &Path {
        &self.0
    }
}

impl Drop for SmallDisk {
    fn drop(&mut self) {
        // one that is still in use goes with the machine
        let _ = Command::new("umount").arg(&self.0).status();
        let _ = std::fs::remove_dir(&self.0);
    }
}

impl Database {
    pub fn start() -> Result<Self> {
        Self::start_at(Scratch::new()?, None)
    }

    /// With something in its surroundings that stands before its libraries.
    pub fn start_under(surroundings: &[(&str, &Path)]) -> Result<Self> {
        let folder = Scratch::new()?;
        let programs = folder.path().join("programs");
        std::fs::create_dir(&programs)?;
        let set: String = surroundings.iter().map(|(name, value)| format!("{name}='{}' ", value.display())).collect();
        let program = programs.join("mariadbd");
        std::fs::write(&program, format!("#!/bin/sh\n{set}exec /usr/sbin/mariadbd \"$@\"\n"))?;
        std::fs::set_permissions(&program, std::os::unix::fs::PermissionsExt::from_mode(0o755))?;
        Self::start_at(folder, None)
    }

    /// On a disk of its own.
    pub fn start_in(disk: SmallDisk) -> Result<Self> {
        Self::start_at(Scratch::within(disk.path())?, Some(disk))
    }

    fn start_at(folder: Scratch, disk: Option<SmallDisk>) -> Result<Self> {
        // the database's own user has to reach it
        #[cfg(unix)]
        std::fs::set_permissions(folder.path(), std::os::unix::fs::PermissionsExt::from_mode(0o755))?;
        let url = script("start", &folder)?;
        Ok(Self { folder, url, disk })
    }

    pub fn folder(&self) -> &Path {
        self.folder.path()
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
        // the disk goes once nothing holds it
        drop(self.disk.take());
    }
}

fn script(action: &str, folder: &Scratch) -> Result<String> {
    // programs of its own are found before those of the system
    let path = std::env::var("PATH").unwrap_or_default();
    let output = Command::new(root().join("scripts/database.sh"))
        .env("PATH", format!("{}:{path}", folder.path().join("programs").display()))
        .arg(action)
        .arg(folder.path())
        .stdin(Stdio::null())
        .output()?;
    ensure!(output.status.success(), "database.sh {action}: {}", String::from_utf8_lossy(&output.stderr));
    Ok(String::from_utf8(output.stdout)?.trim().to_owned())
}
