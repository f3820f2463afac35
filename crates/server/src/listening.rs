//! Where a server listens, and whether what is said to it is encrypted.

use axum::Router;
use axum::extract::connect_info::IntoMakeServiceWithConnectInfo;
use axum_server::Handle;
use axum_server::tls_rustls::RustlsConfig;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::time::Duration;
use tokio::net::TcpListener;

/// How often a certificate is read anew: it is renewed while the server runs.
const RENEWED: Duration = Duration::from_secs(3600);

/// A socket that is listened on.
pub struct Listening {
    listener: TcpListener,
    certificate: Option<Certificate>,
}

/// A certificate, and where its files are.
struct Certificate {
    config: RustlsConfig,
    /// PEM, the server's own certificate first.
    chain: PathBuf,
    /// PEM.
    key: PathBuf,
}

type Service = IntoMakeServiceWithConnectInfo<Router, SocketAddr>;

impl Listening {
    /// Speaks HTTP: on loopback, or behind a proxy that encrypts.
    pub fn plain(listener: TcpListener) -> Self {
        Self { listener, certificate: None }
    }

    /// Speaks HTTPS (TLS 1.2 and 1.3).
    ///
    /// # Errors
    /// Files that cannot be read, or that are no certificate with its key.
    pub async fn encrypted(listener: TcpListener, chain: &Path, key: &Path) -> std::io::Result<Self> {
        let config = RustlsConfig::from_pem_file(chain, key).await?;
        let certificate = Certificate { config, chain: chain.into(), key: key.into() };
        Ok(Self { listener, certificate: Some(certificate) })
    }

    /// Serves until `stop` resolves; requests that run then have `last` to end.
    pub(crate) async fn serve(
        self,
        service: Service,
        stop: impl Future<Output = ()> + Send + 'static,
        last: Duration,
    ) -> std::io::Result<()> {
        let Some(certificate) = self.certificate else {
            return axum::serve(self.listener, service).with_graceful_shutdown(stop).await;
        };
        let handle = Handle::new();
        let ending = handle.clone();
        tokio::spawn(async move {
            stop.await;
            ending.graceful_shutdown(Some(last));
        });
        let config = certificate.config.clone();
        let renewing = tokio::spawn(renew(certificate));
        let served =
            axum_server::from_tcp_rustls(self.listener.into_std()?, config)?.handle(handle).serve(service).await;
        renewing.abort();
        served
    }
}

async fn renew(Certificate { config, chain, key }: Certificate) {
    loop {
        tokio::time::sleep(RENEWED).await;
        if let Err(error) = config.reload_from_pem_file(&chain, &key).await {
            tracing::error!(%error, "the certificate could not be read again: the one of before is used");
        }
    }
}
