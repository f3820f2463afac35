//! The stock drawer that ships with the application: a folder with an index.

use super::{Answer, Source, StockEntry, StockError};
use serde::Deserialize;
use std::path::{Component, Path, PathBuf};

/// `stock.json` in the folder lists the entries.
pub struct Shipped {
    folder: PathBuf,
}

#[derive(Deserialize)]
struct Listed {
    #[serde(flatten)]
    entry: StockEntry,
    /// In the folder or below it.
    file: PathBuf,
}

impl Shipped {
    /// The drawer whose list and files lie in a folder.
    pub fn new(folder: PathBuf) -> Self {
        Self { folder }
    }

    async fn index(&self) -> Result<Vec<Listed>, StockError> {
        let closed = |e: &dyn std::fmt::Display| StockError::Closed(e.to_string());
        let text = tokio::fs::read(self.folder.join("stock.json")).await.map_err(|e| closed(&e))?;
        serde_json::from_slice(&text).map_err(|e| closed(&e))
    }

    async fn listed(&self, id: &str) -> Result<Listed, StockError> {
        self.index().await?.into_iter().find(|l| l.entry.id == id).ok_or(StockError::Unknown)
    }
}

impl Source for Shipped {
    fn search<'a>(&'a self, words: &'a str) -> Answer<'a, Vec<StockEntry>> {
        Box::pin(async move {
            let wanted: Vec<String> = words.split_whitespace().map(str::to_lowercase).collect();
            let fits = |e: &StockEntry| {
                let title = e.title.to_lowercase();
                let maker = e.maker.to_lowercase();
                let has = |w: &String| {
                    e.words.iter().any(|own| own.starts_with(w.as_str())) || title.contains(w) || maker.contains(w)
                };
                wanted.iter().all(has)
            };
            Ok(self.index().await?.into_iter().map(|l| l.entry).filter(fits).collect())
        })
    }

    fn entry<'a>(&'a self, id: &'a str) -> Answer<'a, StockEntry> {
        Box::pin(async move { Ok(self.listed(id).await?.entry) })
    }

    fn file<'a>(&'a self, id: &'a str) -> Answer<'a, Vec<u8>> {
        Box::pin(async move {
            let listed = self.listed(id).await?;
            let missing = || StockError::Missing(listed.entry.title.clone());
            if !is_below(&listed.file) {
                return Err(missing());
            }
            tokio::fs::read(self.folder.join(&listed.file)).await.map_err(|_| missing())
        })
    }
}

/// Whether a path leads nowhere but into the folder that it is taken from.
fn is_below(path: &Path) -> bool {
    path.components().all(|c| matches!(c, Component::Normal(_)))
}
