//! `wedge serve` and `wedge demo`.

use super::Data;
use anyhow::Context;
use clap::Args;
use std::path::Path;
use tracing_subscriber::EnvFilter;
use wedge_server::{demo, loopback, serve as serve_on};
use wedge_store::Store;

#[derive(Args)]
pub(super) struct Place {
    #[command(flatten)]
    data: Data,
    /// Port on 127.0.0.1; 0 takes any free one
    #[arg(long, default_value_t = 7420)]
    port: u16,
}

/// Serves the studio's own record, made when there is none.
pub(super) async fn serve(place: &Place) -> anyhow::Result<()> {
    let file = place.data.ready()?;
    open(&file, place.port, false).await
}

/// Serves the demo studio from a throw-away file.
pub(super) async fn demo(place: &Place) -> anyhow::Result<()> {
    let file = match &place.data.data {
        // A named file may be somebody's record: it is never thrown away.
        Some(file) if file.exists() => anyhow::bail!(
            "{} is there already, and the demo starts from a new file: name another",
            file.display()
        ),
        Some(file) => file.clone(),
        None => std::env::temp_dir().join("wedge-demo.sqlite"),
    };
    open(&file, place.port, true).await
}

async fn open(data: &Path, port: u16, is_demo: bool) -> anyhow::Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("info"));
    tracing_subscriber::fmt()
        .with_env_filter(filter)
        .with_writer(std::io::stderr)
        .init();
    // The port first: a second start must not throw away the file of the first.
    let listener = loopback(port)
        .with_context(|| format!("port {port} is taken: choose another with --port"))?;
    let port = listener.local_addr()?.port();
    if is_demo {
        throw_away(data)?;
    }
    let store = Store::open(data).await?;
    if is_demo {
        let riders = demo::fill(&store).await?;
        println!(
            "Demo studio: Slate Ferry Cycle Room, {riders} riders, in {}",
            data.display()
        );
    } else {
        println!("Record: {}", data.display());
    }
    println!("Wedge is open at http://127.0.0.1:{port}");
    serve_on(store, listener).await?;
    Ok(())
}

/// Removes a demo file and what SQLite keeps beside it.
fn throw_away(data: &Path) -> anyhow::Result<()> {
    for suffix in ["", "-wal", "-shm", ".lock"] {
        let mut name = data.as_os_str().to_owned();
        name.push(suffix);
        match std::fs::remove_file(&name) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
                return Err(error).context(format!("cannot remove {}", Path::new(&name).display()));
            }
            _ => {}
        }
    }
    let mut copies = data.with_extension("").into_os_string();
    copies.push("-copies");
    match std::fs::remove_dir_all(&copies) {
        Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
            Err(error).context(format!("cannot remove {}", Path::new(&copies).display()))
        }
        _ => Ok(()),
    }
}
