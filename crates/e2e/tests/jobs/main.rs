//! The jobs that practitioners do, each through the real interface, with its steps counted. A job passes when what it made is what it is about;
//! and it may take no more steps than it has come down to.

mod hand;
mod openings;
mod photos;
mod posters;

use anyhow::{Result, ensure};
use hand::Hand;
use inky_e2e::Bench;
use inky_e2e::steps::new_sheet;
use std::future::Future;
use std::pin::Pin;

type Work<'a> = Pin<Box<dyn Future<Output = Result<()>> + 'a>>;

/// A job: its number, what it is, how many steps it may take, and how it is done.
struct Job {
    number: u32,
    what: &'static str,
    most: usize,
    work: for<'a> fn(&'a mut Hand<'_>) -> Work<'a>,
}

#[tokio::test(flavor = "multi_thread")]
async fn every_job_is_done_in_few_steps() -> Result<()> {
    let bench = Bench::start().await?;
    let only = std::env::var("JOB").ok().and_then(|n| n.parse::<u32>().ok());
    let mut table = vec![format!("{:>3} {:>6} {:>5}  job", "", "steps", "most")];
    let mut failed = Vec::new();
    for job in photos::JOBS.iter().chain(openings::JOBS).chain(posters::JOBS) {
        if only.is_some_and(|n| n != job.number) {
            continue;
        }
        new_sheet(&bench.browser, &bench.server, job.what).await?;
        let mut hand = Hand::on(&bench);
        let done = (job.work)(&mut hand).await;
        table.push(format!("{:>3} {:>6} {:>5}  {}", job.number, hand.steps(), job.most, job.what));
        match done {
            Err(error) => failed.push(format!("{:02} {}: {error:#}", job.number, job.what)),
            Ok(()) if hand.steps() > job.most => {
                failed.push(format!("{:02} {}: {} steps", job.number, job.what, hand.steps()));
            }
            Ok(()) => {}
        }
    }
    println!("{}", table.join("\n"));
    ensure!(failed.is_empty(), "{}", failed.join("\n"));
    bench.browser.close().await
}
