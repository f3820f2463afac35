//! On loopback: the account that started the server, and whoever knows its token.

use anyhow::{Context, Result, ensure};
use inky_e2e::{Browser, Database, Server, TOKEN};
use reqwest::StatusCode;
use reqwest::header::{COOKIE, LOCATION, SET_COOKIE};
use reqwest::redirect::Policy;
use serde_json::{Value, json};
use std::os::unix::process::CommandExt;
use std::process::Command;

/// A client that shows nothing.
fn nobody() -> Result<reqwest::Client> {
    Ok(reqwest::Client::builder().redirect(Policy::none()).build()?)
}

/// The first pair of what an answer wants to be remembered.
fn cookie(answer: &reqwest::Response) -> Result<Option<String>> {
    let Some(set) = answer.headers().get(SET_COOKIE) else { return Ok(None) };
    let set = set.to_str()?;
    ensure!(set.contains("HttpOnly") && set.contains("SameSite=Strict") && set.contains("Path=/"), "{set}");
    Ok(set.split(';').next().map(str::to_owned))
}

#[tokio::test]
async fn only_who_shows_the_start_token_is_let_in() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let (client, at) = (nobody()?, |path: &str| format!("{}{path}", server.address));
    for path in ["/api/sheets", "/api/fonts", "/api/nothing"] {
        let answer = client.get(at(path)).send().await?;
        ensure!(answer.status() == StatusCode::UNAUTHORIZED, "{path}: {}", answer.status());
    }
    let wrong = client.get(at("/api/sheets")).header(COOKIE, format!("inky-{}=guessed", server.port()?));
    ensure!(wrong.send().await?.status() == StatusCode::UNAUTHORIZED);
    ensure!(client.get(at("/api/health")).send().await?.status() == StatusCode::NO_CONTENT);

    // an address with the token in it
    let followed = client.get(at(&format!("/sheet/x?start={TOKEN}"))).send().await?;
    ensure!(followed.status() == StatusCode::SEE_OTHER && followed.headers()[LOCATION] == "/sheet/x");
    let shown = cookie(&followed)?.context("no cookie")?;
    ensure!(client.get(at("/api/sheets")).header(COOKIE, &shown).send().await?.status() == StatusCode::OK);

    // the token as it is typed
    let typed = client.post(at("/api/entry/token")).json(&json!({ "token": "guessed" })).send().await?;
    ensure!(typed.status() == StatusCode::UNPROCESSABLE_ENTITY && cookie(&typed)?.is_none());
    let typed = client.post(at("/api/entry/token")).json(&json!({ "token": format!(" {TOKEN} ") })).send().await?;
    ensure!(cookie(&typed)? == Some(shown), "{typed:?}");
    Ok(())
}

#[tokio::test]
async fn the_account_that_started_it_needs_no_token_and_others_do() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let page = nobody()?.get(&server.address).send().await?;
    let shown = cookie(&page)?.context("its own account is not known")?;
    let entry = nobody()?.get(format!("{}/api/entry", server.address)).header(COOKIE, shown).send().await?;
    ensure!(entry.json::<Value>().await? == json!({ "by": "start_token", "known": true }));

    // another account can be tried by root alone
    let script = format!(
        "exec 3<>/dev/tcp/127.0.0.1/{0}; printf 'GET / HTTP/1.1\\r\\nHost: 127.0.0.1:{0}\\r\\nConnection: close\\r\\n\\r\\n' >&3; cat <&3",
        server.port()?
    );
    let Ok(answer) = Command::new("bash").arg("-c").arg(script).uid(65_534).current_dir("/").output() else {
        println!("not root: no other account was tried");
        return Ok(());
    };
    let answer = String::from_utf8_lossy(&answer.stdout).to_lowercase();
    ensure!(answer.starts_with("http/1.1 200") && !answer.contains("set-cookie"), "{answer}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_begun_goes_on_once_the_token_is_typed() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let sheet = server.new_sheet("Guest").await?;
    let browser = Browser::start().await?;
    browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
    browser.at("//input[@aria-label='Name of the sheet']").await?;
    browser.page.delete_all_cookies().await?;
    let name = browser.at("//input[@aria-label='Name of the sheet']").await?;
    name.send_keys(" of the house\u{e007}").await?;
    let token = browser.at("//input[@type='password']").await?;
    token.send_keys("not this one\u{e007}").await?;
    browser.at("//*[contains(., 'not the start token')]").await?;
    // what was wrong is selected, to be typed anew
    token.send_keys(TOKEN).await?;
    browser.press("Let me in").await?;
    browser
        .until("the name to be kept", async || {
            let bench = server.get(&format!("/sheets/{sheet}")).await.ok()?;
            (bench["sheet"]["name"] == "Guest of the house").then_some(())
        })
        .await?;
    browser.close().await
}
