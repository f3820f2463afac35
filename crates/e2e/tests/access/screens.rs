//! Coming in, and looking at what others share, in a browser.

use crate::people::{PASSWORD, Person, account, link};
use anyhow::{Context, Result, ensure};
use inky_e2e::{Browser, Database, Looking, Server};
use reqwest::Method;
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn an_invitation_is_taken_and_the_sheet_looked_at_then_changed() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let ada = Person::joins(&database, &server, "Ada").await?;
    let sheet = ada.sheet("Kites").await?;
    let link = link(&account(&database, &["add", "Ben"])?)?;
    let invite = |role: &str| Some(json!({ "name": "Ben", "role": role }));
    ada.does(Method::POST, &format!("/sheets/{sheet}/members"), invite("look")).await?;

    let browser = Browser::start().await?;
    let page = &browser.page;
    page.goto(format!("{}/#password={link}", server.address)).await?;
    let password = browser.at("//input[@name='password']").await?;
    password.send_keys("benbenbenben\u{e007}").await?;
    browser.reads("would soon be guessed").await?;
    let mut looking = Looking::with(&browser);
    looking.at("the door, with a new password").await?;
    // what was wrong is selected, to be typed anew
    password.send_keys(PASSWORD).await?;
    browser.press("Take it and come in").await?;
    browser.at("//*[@data-testid='invitation']").await?;
    looking.at("an invitation on the desk").await?;
    ensure!(!page.current_url().await?.as_str().contains("password"), "the link stays in the address");
    browser.press("Take it").await?;
    browser.click("//*[@data-testid='sheet-tile']//a").await?;
    browser.reads("You may look at this sheet.").await?;
    looking.at("a sheet to look at").await?;
    browser.press("Members").await?;
    looking.at("its members").await?;
    browser.press("Members").await?;
    ensure!(!browser.text().await?.contains("Photo"), "the shelf is there for those who look");
    // keys change nothing
    page.action_chain().send_keys("w").perform().await?;
    ensure!(!browser.text().await?.contains("Type a word"));

    ada.does(Method::POST, &format!("/sheets/{sheet}/members"), invite("edit")).await?;
    page.refresh().await?;
    let name = browser.at("//input[@aria-label='Name of the sheet']").await?;
    browser.reads("All kept").await?;
    name.send_keys(" and gulls\u{e007}").await?;
    browser.kept().await?;
    let seen = ada.does(Method::GET, &format!("/sheets/{sheet}"), None).await?;
    ensure!(seen["sheet"]["name"] == "Kites and gulls", "{}", seen["sheet"]["name"]);

    // signed out, nothing of the sheet is left
    page.goto(&server.address).await?;
    let own = "//button[contains(., 'Ben')]";
    browser.click(own).await?;
    looking.at("the account").await?;
    browser.press("Sign out").await?;
    let name = browser.at("//input[@name='name']").await?;
    page.goto(format!("{}/sheet/{sheet}", server.address)).await.context("the page of the sheet")?;
    drop(name);
    browser.at("//input[@name='name']").await?.send_keys("ben").await?;
    ensure!(!browser.text().await?.contains("Kites"), "the sheet is seen before anybody signed in");
    browser.at("//input[@name='password']").await?.send_keys(format!("{PASSWORD}\u{e007}")).await?;
    browser.reads("All kept").await?;
    // a sheet of one's own can be shared
    browser.press("Back to the desk").await?;
    browser.press("New sheet").await?;
    browser.press("Lay out the sheet").await?;
    browser.press("Share").await?;
    looking.at("sharing").await?;
    looking.end(6)?;
    browser.close().await
}
