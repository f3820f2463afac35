//! Servers that others can reach: encrypted, or behind a proxy that encrypts.

use crate::people::{PASSWORD, account, link};
use anyhow::{Context, Result, ensure};
use inky_e2e::{Database, Scratch, Server};
use reqwest::StatusCode;
use reqwest::header::{HOST, SET_COOKIE};
use serde_json::{Value, json};
use std::sync::Arc;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use tokio_rustls::TlsConnector;
use tokio_rustls::rustls::crypto::ring::default_provider;
use tokio_rustls::rustls::pki_types::{CertificateDer, ServerName};
use tokio_rustls::rustls::{ClientConfig, RootCertStore};

/// The name in the certificate.
const NAME: &str = "posters.example";

/// The answer to a request that is sent over TLS to a port, by a client that trusts one certificate.
async fn over_tls(port: u16, trusted: CertificateDer<'static>, request: &str) -> Result<String> {
    let mut roots = RootCertStore::empty();
    roots.add(trusted)?;
    let config =
        ClientConfig::builder_with_provider(Arc::new(default_provider())).with_safe_default_protocol_versions()?;
    let config = config.with_root_certificates(roots).with_no_client_auth();
    let line = TcpStream::connect(("127.0.0.1", port)).await?;
    let mut line = TlsConnector::from(Arc::new(config)).connect(ServerName::try_from(NAME)?, line).await?;
    line.write_all(request.as_bytes()).await?;
    let mut answer = Vec::new();
    // some servers end the connection without saying so
    let _ = line.read_to_end(&mut answer).await;
    Ok(String::from_utf8_lossy(&answer).into_owned())
}

#[tokio::test]
async fn a_certificate_encrypts_and_cookies_stay_encrypted() -> Result<()> {
    let database = Database::start()?;
    let folder = Scratch::new()?;
    let made = rcgen::generate_simple_self_signed(vec![NAME.to_owned()])?;
    let (chain, key) = (folder.path().join("chain.pem"), folder.path().join("key.pem"));
    std::fs::write(&chain, made.cert.pem())?;
    std::fs::write(&key, made.signing_key.serialize_pem())?;
    // a free port, which the address has to name
    let port = std::net::TcpListener::bind("127.0.0.1:0")?.local_addr()?.port();
    let address = format!("https://{NAME}:{port}");
    let (chain, key) = (chain.display().to_string(), key.display().to_string());
    let options = ["--accounts", "--listen", "0.0.0.0", "--address", &address];
    let options = [&options[..], &["--certificate", &chain, "--key", &key]].concat();
    let server = Server::start_as(&database, port, &options)?;
    ensure!(server.address == address);

    let link = link(&account(&database, &["add", "Ada"])?)?;
    let body = json!({ "link": link, "password": PASSWORD }).to_string();
    let head = format!(
        "HTTP/1.1\r\nHost: {NAME}:{port}\r\nConnection: close\r\nContent-Type: application/json\r\nContent-Length: {}\r\n",
        body.len()
    );
    let ask = |origin: &str| format!("POST /api/entry/password {head}Origin: {origin}\r\n\r\n{body}");
    let trusted = made.cert.der();
    let foreign = over_tls(port, trusted.clone(), &ask(&format!("http://{NAME}:{port}"))).await?;
    ensure!(foreign.starts_with("HTTP/1.1 403"), "{foreign}");
    let answer = over_tls(port, trusted.clone(), &ask(&address)).await?;
    let said = answer.to_lowercase();
    ensure!(said.starts_with("http/1.1 204") && said.contains("strict-transport-security: max-age="), "{answer}");
    ensure!(said.contains("set-cookie: __host-inky=") && said.contains("; secure"), "{answer}");
    // without encryption there is no answer
    let plain = reqwest::Client::new().get(format!("http://127.0.0.1:{port}/api/health")).send().await;
    ensure!(plain.is_err(), "{plain:?}");
    Ok(())
}

#[tokio::test]
async fn behind_a_proxy_only_it_is_heard_and_tries_count_by_what_it_says() -> Result<()> {
    let database = Database::start()?;
    let options = ["--accounts", "--address", "https://posters.example", "--proxy"];
    let elsewhere = Server::start_as(&database, 0, &[&options[..], &["10.1.2.3"]].concat())?;
    let here = Server::start_as(&database, 0, &[&options[..], &["127.0.0.1"]].concat())?;
    account(&database, &["add", "Ada"])?;
    let client = reqwest::Client::new();
    // as its address it prints what people call it: the port is asked for among what listens
    let ask = async |server: &Server, from: &str, host: &str| -> Result<reqwest::Response> {
        let asked = client.post(format!("http://127.0.0.1:{}/api/entry/sign-in", server.listens_at()?));
        let asked = asked.header(HOST, host).header("x-forwarded-for", from);
        Ok(asked.json(&json!({ "name": "Ada", "password": "a guess of somebody" })).send().await?)
    };
    ensure!(ask(&elsewhere, "192.0.2.1", NAME).await?.status() == StatusCode::FORBIDDEN);
    ensure!(ask(&here, "192.0.2.1", "127.0.0.1").await?.status() == StatusCode::FORBIDDEN);
    for _ in 0..10 {
        // what a client writes there itself comes before what the proxy adds
        let answer = ask(&here, "198.51.100.7, 192.0.2.1", NAME).await?;
        ensure!(answer.status() == StatusCode::UNPROCESSABLE_ENTITY && !answer.headers().contains_key(SET_COOKIE));
    }
    ensure!(ask(&here, "192.0.2.1", NAME).await?.status() == StatusCode::TOO_MANY_REQUESTS);
    let other = ask(&here, "192.0.2.2", NAME).await?;
    ensure!(other.status() == StatusCode::UNPROCESSABLE_ENTITY, "{}", other.status());
    let said: Value = other.json().await?;
    ensure!(said["sentence"].as_str().context("no sentence")?.contains("do not belong together"), "{said}");
    Ok(())
}
