//! Accounts: passwords, sessions, tries.

use crate::people::{PASSWORD, Person, account, link};
use anyhow::{Result, ensure};
use inky_e2e::{Database, Server, program};
use reqwest::{Method, StatusCode};
use serde_json::json;
use std::process::Command;

#[tokio::test]
async fn a_link_chooses_a_password_once_and_a_good_one() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let door = Person::stranger(&server);
    ensure!(door.may_not(Method::GET, "/sheets", None).await? == StatusCode::UNAUTHORIZED);
    let link = link(&account(&database, &["add", "Ada Tern"])?)?;
    ensure!(account(&database, &["add", "ADA TERN"]).is_err(), "two accounts of one name");
    for bad in ["short", "aaaaaaaaaaaa", "password1234", "Ada Tern 2026", &"long".repeat(60)] {
        let (status, cookie) = door.enters("password", json!({ "link": link, "password": bad })).await?;
        ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && cookie.is_none(), "{bad}: {status}");
    }
    let choice = json!({ "link": link, "password": PASSWORD });
    let (status, cookie) = door.enters("password", choice.clone()).await?;
    ensure!(status == StatusCode::NO_CONTENT && cookie.is_some(), "{status}");
    let (status, cookie) = door.enters("password", choice).await?;
    ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && cookie.is_none(), "the link held twice: {status}");

    // a name in other case is the same, a password is not
    Person::signs_in(&server, "ada tern", PASSWORD).await?;
    ensure!(Person::signs_in(&server, "Ada Tern", &PASSWORD.to_uppercase()).await.is_err());
    ensure!(account(&database, &["list"])?.contains("Ada Tern: owns 0 sheets, signed in 2 times"));
    Ok(())
}

#[tokio::test]
async fn who_tries_too_often_has_to_wait_and_nobody_else_does() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    Person::joins(&database, &server, "Ada").await?;
    Person::joins(&database, &server, "Ben").await?;
    let door = Person::stranger(&server);
    let guess = |k: usize| json!({ "name": "Ada", "password": format!("a guess, number {k}") });
    for k in 0..10 {
        ensure!(door.enters("sign-in", guess(k)).await?.0 == StatusCode::UNPROCESSABLE_ENTITY);
    }
    ensure!(door.enters("sign-in", guess(10)).await?.0 == StatusCode::TOO_MANY_REQUESTS);
    // the right one as well: else it would be told apart from the wrong ones
    ensure!(Person::signs_in(&server, "Ada", PASSWORD).await.is_err());
    Person::signs_in(&server, "Ben", PASSWORD).await?;
    // names that nobody has count like others
    for k in 0..10 {
        let guess = json!({ "name": "Nobody", "password": format!("a guess, number {k}") });
        ensure!(door.enters("sign-in", guess).await?.0 == StatusCode::UNPROCESSABLE_ENTITY);
    }
    let guess = json!({ "name": "Nobody", "password": "one more guess" });
    ensure!(door.enters("sign-in", guess).await?.0 == StatusCode::TOO_MANY_REQUESTS);
    Ok(())
}

#[tokio::test]
async fn sessions_are_seen_and_ended() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let first = Person::joins(&database, &server, "Ada").await?;
    let second = Person::signs_in(&server, "Ada", PASSWORD).await?;
    let third = Person::signs_in(&server, "Ada", PASSWORD).await?;
    let own = first.does(Method::GET, "/account", None).await?;
    let sessions = own["sessions"].as_array().cloned().unwrap_or_default();
    ensure!(own["name"] == "Ada" && sessions.len() == 3, "{own}");
    ensure!(sessions.iter().filter(|s| s["this"] == true).count() == 1, "{own}");

    // one signs out, one is signed out, one is left over when the password changes
    second.does(Method::POST, "/entry/sign-out", None).await?;
    ensure!(second.may_not(Method::GET, "/account", None).await? == StatusCode::UNAUTHORIZED);
    let change = |old: &str| json!({ "old": old, "new": "dry dune and nine gulls" });
    first.may_not(Method::POST, "/account/password", Some(change("wrong"))).await?;
    first.does(Method::POST, "/account/password", Some(change(PASSWORD))).await?;
    ensure!(third.may_not(Method::GET, "/account", None).await? == StatusCode::UNAUTHORIZED);
    let fourth = Person::signs_in(&server, "Ada", "dry dune and nine gulls").await?;
    let own = first.does(Method::GET, "/account", None).await?;
    let other = own["sessions"].as_array().into_iter().flatten().find(|s| s["this"] == false).cloned();
    let other = other.unwrap_or_default();
    first
        .does(Method::DELETE, &format!("/account/sessions/{}", other["id"].as_str().unwrap_or_default()), None)
        .await?;
    ensure!(fourth.may_not(Method::GET, "/sheets", None).await? == StatusCode::UNAUTHORIZED);
    account(&database, &["sign-out", "ada"])?;
    ensure!(first.may_not(Method::GET, "/sheets", None).await? == StatusCode::UNAUTHORIZED);
    // an account that is taken away lets nobody in
    let fifth = Person::signs_in(&server, "Ada", "dry dune and nine gulls").await?;
    account(&database, &["remove", "Ada"])?;
    ensure!(fifth.may_not(Method::GET, "/sheets", None).await? == StatusCode::UNAUTHORIZED);
    ensure!(Person::signs_in(&server, "Ada", "dry dune and nine gulls").await.is_err());
    Ok(())
}

#[test]
fn nobody_is_let_in_from_a_network_without_accounts_and_encryption() -> Result<()> {
    for (options, said) in [
        (vec!["--listen", "0.0.0.0"], "--accounts"),
        (vec!["--listen", "0.0.0.0", "--accounts"], "--certificate"),
        (vec!["--listen", "::", "--accounts", "--address", "https://posters.example"], "--certificate"),
        (vec!["--accounts", "--address", "http://posters.example"], "https://"),
        (vec!["--proxy", "10.0.0.1"], "--address"),
        (vec!["--address", "https://posters.example"], "--accounts"),
    ] {
        let mut command = Command::new(program()?);
        // it is refused before any database is asked, but for what is wrong with an address
        let database = if said == "https://" { Some(Database::start()?) } else { None };
        let url = database.as_ref().map_or("mysql://nobody@127.0.0.1:1/none", |d| &d.url);
        command.arg("serve").args(["--port", "0"]).args(&options).env("INKY_DATABASE", url);
        let run = command.output()?;
        let printed = String::from_utf8_lossy(&run.stderr);
        ensure!(!run.status.success() && printed.contains(said), "{options:?}: {printed}");
    }
    Ok(())
}
