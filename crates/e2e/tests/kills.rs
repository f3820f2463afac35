//! What was acknowledged is there, however server and database end; the long run is `cargo run -p inky-e2e --bin kills -- 1000`.

#[tokio::test(flavor = "multi_thread", worker_threads = 4)]
async fn nothing_that_was_acknowledged_is_lost_or_made_twice() -> anyhow::Result<()> {
    let report = inky_e2e::kills::run(50, 7).await?;
    println!("{report}");
    anyhow::ensure!(report.edits > 50 && report.again > 0, "nothing went on between the kills: {report}");
    Ok(())
}
