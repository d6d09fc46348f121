//! The `wedge` command.

use anyhow::Context;
use clap::{Args, Parser, Subcommand};
use std::path::{Path, PathBuf};
use tracing_subscriber::EnvFilter;
use wedge_server::{demo, loopback, serve};
use wedge_store::Store;

/// The bike fitter's bench mate: measures, foresees and remembers.
#[derive(Parser)]
#[command(version, about)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve your own studio's record on this machine.
    Serve(Place),
    /// Serve the demo studio from a throw-away file, made anew at every start. A file named with --data must not be
    /// there yet.
    Demo(Place),
    /// Print the description of the HTTP API as OpenAPI JSON.
    Openapi,
}

#[derive(Args)]
struct Place {
    /// The file that holds the record; made when there is none.
    #[arg(long, value_name = "FILE")]
    data: Option<PathBuf>,
    /// Port on 127.0.0.1; 0 takes any free one.
    #[arg(long, default_value_t = 7420)]
    port: u16,
}

#[actix_web::main]
async fn main() -> anyhow::Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("info"));
    tracing_subscriber::fmt()
        .with_env_filter(filter)
        .with_writer(std::io::stderr)
        .init();
    match Cli::parse().command {
        Command::Serve(place) => {
            let data = match place.data {
                Some(file) => file,
                None => home_data()?,
            };
            open(&data, place.port, false).await
        }
        Command::Demo(place) => {
            let data = match place.data {
                // A named file may be somebody's record: it is never thrown away.
                Some(file) if file.exists() => anyhow::bail!(
                    "{} is there already, and the demo starts from a new file: name another",
                    file.display()
                ),
                Some(file) => file,
                None => std::env::temp_dir().join("wedge-demo.sqlite"),
            };
            open(&data, place.port, true).await
        }
        Command::Openapi => {
            println!("{}", wedge_server::api::openapi_json()?);
            Ok(())
        }
    }
}

/// The record in the data folder of the home directory.
fn home_data() -> anyhow::Result<PathBuf> {
    let folder = dirs::data_dir()
        .context("no home directory to keep the record in: give a file with --data")?
        .join("wedge");
    std::fs::create_dir_all(&folder)
        .with_context(|| format!("cannot make {}", folder.display()))?;
    Ok(folder.join("wedge.sqlite"))
}

async fn open(data: &Path, port: u16, is_demo: bool) -> anyhow::Result<()> {
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
    serve(store, listener).await?;
    Ok(())
}

/// Removes a demo file and what SQLite keeps beside it.
fn throw_away(data: &Path) -> anyhow::Result<()> {
    for suffix in ["", "-wal", "-shm"] {
        let mut name = data.as_os_str().to_owned();
        name.push(suffix);
        match std::fs::remove_file(&name) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
                return Err(error).context(format!("cannot remove {}", Path::new(&name).display()));
            }
            _ => {}
        }
    }
    Ok(())
}
