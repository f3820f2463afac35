//! What happens to a sheet while it is open: newer revisions, and who else has it open.

use super::bench::NO_SHEET;
use super::edits::changes_since;
use super::error::ApiError;
use super::json_body::JsonBody;
use super::tab::Tab;
use super::types::{BenchChange, News, OtherTab, Selected};
use crate::access::Who;
use crate::app::App;
use crate::storage::Present;
use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::StatusCode;
use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive};
use futures_util::{Stream, stream};
use inky_core::sheet::SheetId;
use serde::Deserialize;
use std::sync::Arc;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// How often is looked for what other servers did.
const LOOK: Duration = Duration::from_secs(1);
/// How often a tab that listens is noted as there.
const THERE: Duration = Duration::from_secs(12);

#[derive(Deserialize)]
pub(super) struct Listener {
    /// An event stream cannot send a header.
    tab: Uuid,
}

#[derive(Deserialize)]
pub(super) struct Since {
    since: u64,
}

/// Everything that changed since a revision.
pub(super) async fn changes(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
    Query(Since { since }): Query<Since>,
) -> Result<Json<BenchChange>, ApiError> {
    changes_since(&app, id, author, since).await.map(Json)
}

/// For where streams are cut: the news as they are now. It also notes that the tab is there.
pub(super) async fn news(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
    who: Who,
) -> Result<Json<News>, ApiError> {
    if let Some(author) = author {
        note(&app, id, author, &who).await?;
    }
    Ok(Json(read(&app, id, author, &who).await?.ok_or(NO_SHEET)?))
}

/// What is selected in a tab, for the others to see.
pub(super) async fn select(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Tab(author): Tab,
    who: Who,
    JsonBody(Selected { selected }): JsonBody<Selected>,
) -> Result<StatusCode, ApiError> {
    if let Some(author) = author {
        app.store.be_present(id, (author, who.account()), selected).await?;
        app.changed.send(id);
    }
    Ok(StatusCode::NO_CONTENT)
}

/// The news of a sheet, as they come (server-sent events, HTML Living Standard 9.2). A tab is there as long as it listens.
pub(super) async fn events(
    State(app): State<Arc<App>>,
    Path(id): Path<SheetId>,
    Query(Listener { tab }): Query<Listener>,
    who: Who,
) -> Result<Sse<impl Stream<Item = Result<Event, axum::Error>>>, ApiError> {
    note(&app, id, tab, &who).await?;
    let first = read(&app, id, Some(tab), &who).await?.ok_or(NO_SHEET)?;
    app.changed.send(id);
    app.listeners.come(id, tab);
    let there = There { app: Arc::clone(&app), id, tab };
    let listening = Listening { app, id, tab, who, told: None, noted: Instant::now(), _there: there };
    let all = stream::unfold((listening, Some(first)), async |(mut listening, first)| {
        let news = match first {
            Some(first) => first,
            None => listening.next().await?,
        };
        listening.told = Some(news.clone());
        Some((Event::default().json_data(&news), (listening, None)))
    });
    Ok(Sse::new(all).keep_alive(KeepAlive::default()))
}

struct Listening {
    app: Arc<App>,
    id: SheetId,
    tab: Uuid,
    who: Who,
    told: Option<News>,
    noted: Instant,
    _there: There,
}

impl Listening {
    /// The next news; None when the server ends, the sheet is gone, or one may not see it any more.
    async fn next(&mut self) -> Option<News> {
        let mut heard = self.app.changed.listen();
        let mut ends = self.app.ends.subscribe();
        loop {
            tokio::select! {
                () = heard.of(self.id) => {}
                () = tokio::time::sleep(LOOK) => {}
                _ = ends.wait_for(|ends| *ends) => return None,
            }
            if self.noted.elapsed() > THERE {
                self.noted = Instant::now();
                // the next one tells as well
                let _ = note(&self.app, self.id, self.tab, &self.who).await;
            }
            if matches!(self.who.still(&self.app.store, self.id).await, Ok(None)) {
                return None;
            }
            match read(&self.app, self.id, Some(self.tab), &self.who).await {
                Ok(Some(news)) if self.told.as_ref() != Some(&news) => return Some(news),
                // a database that is away comes back
                Ok(Some(_)) | Err(_) => {}
                Ok(None) => return None,
            }
        }
    }
}

/// A tab that listens; when it does not any more, it is noted as gone.
struct There {
    app: Arc<App>,
    id: SheetId,
    tab: Uuid,
}

impl Drop for There {
    fn drop(&mut self) {
        let (app, id, tab) = (Arc::clone(&self.app), self.id, self.tab);
        if !app.listeners.go(id, tab) {
            return;
        }
        tokio::spawn(async move {
            // without an answer it is taken for gone after a while
            let _ = app.store.leave(id, tab).await;
            app.changed.send(id);
        });
    }
}

async fn note(app: &App, id: SheetId, tab: Uuid, who: &Who) -> Result<(), ApiError> {
    Ok(app.store.stay_present(id, (tab, who.account())).await?)
}

async fn read(app: &App, id: SheetId, tab: Option<Uuid>, who: &Who) -> Result<Option<News>, ApiError> {
    let Some(revision) = app.store.revision(id).await? else { return Ok(None) };
    let present = app.store.present(id).await?;
    // one that listens, and is not noted: the clock has jumped
    if let Some(tab) = tab.filter(|tab| present.iter().all(|p| p.author != *tab)) {
        note(app, id, tab, who).await?;
    }
    let others = present.into_iter().filter(|p| Some(p.author) != tab);
    let other = |Present { author, name, selected }: Present| OtherTab { tab: author, name, selected };
    Ok(Some(News { revision, others: others.map(other).collect() }))
}
