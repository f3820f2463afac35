//! `inky account`.

use crate::serve::runtime;
use anyhow::{Context, Result, bail};
use clap::{Args, Subcommand};
use inky_server::{Account, Store, hash_of, random};

/// Characters that a name may have.
const NAME: usize = 60;

#[derive(Args)]
pub struct Accounts {
    #[arg(long, env = "INKY_DATABASE", hide_env_values = true)]
    database: String,
    /// Where the server is called, for the links that are printed.
    #[arg(long, env = "INKY_ADDRESS", default_value = "http://127.0.0.1:4173")]
    address: String,
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// Add an account: prints a link with which a password is chosen, once, within three days.
    Add {
        name: String,
        /// It also gets the sheets that nobody owns.
        #[arg(long)]
        with_sheets: bool,
    },
    /// List the accounts.
    List,
    /// Print a new link for an account whose password was forgotten.
    Link { name: String },
    /// Sign all browsers of an account out.
    SignOut { name: String },
    /// Take an account away. Its sheets stay.
    Remove { name: String },
}

impl Accounts {
    pub fn run(self) -> Result<()> {
        runtime()?.block_on(async {
            let store = Store::open(&self.database).await?;
            let done = self.done(&store).await;
            store.close().await;
            done
        })
    }

    async fn done(&self, store: &Store) -> Result<()> {
        match &self.what {
            What::Add { name, with_sheets } => {
                let name = name.trim();
                if name.is_empty() || name.chars().count() > NAME || name.chars().any(char::is_control) {
                    bail!("a name has 1 to {NAME} characters");
                }
                let account = store.add_account(name).await?;
                let account = account.with_context(|| format!("there is an account of the name “{name}”"))?;
                if *with_sheets {
                    println!("“{name}” owns {} sheets now.", store.give_unowned(account.id).await?);
                }
                self.link(store, &account).await
            }
            What::List => {
                for line in store.accounts().await? {
                    let state = if line.ready { "" } else { ", has chosen no password yet" };
                    println!("{}: owns {} sheets, signed in {} times{state}", line.name, line.sheets, line.sessions);
                }
                Ok(())
            }
            What::Link { name } => self.link(store, &named(store, name).await?).await,
            What::SignOut { name } => Ok(store.end_sessions(named(store, name).await?.id).await?),
            What::Remove { name } => Ok(store.remove_account(named(store, name).await?.id).await?),
        }
    }

    async fn link(&self, store: &Store, account: &Account) -> Result<()> {
        let secret = random()?;
        store.put_password_link(account.id, &hash_of(&secret)).await?;
        println!("“{}” chooses a password with this link, once, within three days:", account.name);
        // after the #, it reaches neither servers nor their logs
        println!("{}/#password={secret}", self.address.trim_end_matches('/'));
        Ok(())
    }
}

async fn named(store: &Store, name: &str) -> Result<Account> {
    store.account_named(name.trim()).await?.with_context(|| format!("there is no account of the name “{name}”"))
}
