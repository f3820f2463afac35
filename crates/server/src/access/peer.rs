//! Which account of this machine is at the other end of a connection on loopback.

use std::net::{IpAddr, SocketAddr};

/// State of an open connection in the kernel's table (`TCP_ESTABLISHED` in `include/net/tcp_states.h` of Linux).
const ESTABLISHED: &str = "01";

/// Whether a connection from `peer` to `own` was opened by the account that this server runs as. The kernel's table of connections knows it (proc(5),
/// `/proc/net/tcp`); where there is none, nobody is taken for the same.
pub(crate) fn is_same_account(peer: SocketAddr, own: SocketAddr) -> bool {
    let (SocketAddr::V4(_), SocketAddr::V4(_)) = (peer, own) else { return false };
    let Ok(table) = std::fs::read_to_string("/proc/net/tcp") else { return false };
    owner(&table, peer, own).is_some_and(|account| Some(account) == this_account())
}

/// The account at the `peer` end of a connection, from the lines of the table.
fn owner(table: &str, peer: SocketAddr, own: SocketAddr) -> Option<u32> {
    let (peer, own) = (written(peer)?, written(own)?);
    table.lines().find_map(|line| {
        let mut columns = line.split_whitespace().skip(1);
        let found = columns.next()? == peer && columns.next()? == own && columns.next()? == ESTABLISHED;
        // then come the queues, the timer, retries, and the account
        found.then(|| columns.nth(3)?.parse().ok())?
    })
}

/// An address as the table writes it: its bytes as one number of this machine, and the port, in hexadecimal digits.
fn written(address: SocketAddr) -> Option<String> {
    let IpAddr::V4(ip) = address.ip() else { return None };
    Some(format!("{:08X}:{:04X}", u32::from_ne_bytes(ip.octets()), address.port()))
}

#[cfg(target_os = "linux")]
fn this_account() -> Option<u32> {
    Some(rustix::process::geteuid().as_raw())
}

#[cfg(not(target_os = "linux"))]
fn this_account() -> Option<u32> {
    None
}
