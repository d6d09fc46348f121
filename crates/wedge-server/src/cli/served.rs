//! `wedge serve` and `wedge demo`.

use super::Data;
use anyhow::Context;
use clap::Args;
use std::io::IsTerminal;
use std::net::IpAddr;
use std::path::Path;
use tracing_subscriber::EnvFilter;
use wedge_server::lan::Keys;
use wedge_server::{demo, in_the_room, loopback, serve as serve_on};
use wedge_store::{COPIES, Store, kept_beside};

#[derive(Args)]
pub(super) struct Place {
    #[command(flatten)]
    data: Data,
    /// Port on 127.0.0.1; 0 takes any free one
    #[arg(long, default_value_t = 7420)]
    port: u16,
}

/// The room's network, beside the loopback.
#[derive(Args)]
pub(super) struct Room {
    /// Let devices of the room's network in as well, over TLS, once they give the passphrase (see `wedge passphrase`)
    #[arg(long, value_name = "ADDRESS", num_args = 0..=1, default_missing_value = "0.0.0.0")]
    lan: Option<IpAddr>,
    /// Port for the room's network; 0 takes any free one
    #[arg(long, default_value_t = 7443)]
    lan_port: u16,
}

/// Where the passphrase belongs to.
#[derive(Args)]
pub(super) struct Passphrase {
    #[command(flatten)]
    data: Data,
}

/// Chooses the passphrase, typed unseen or from standard input.
pub(super) fn passphrase(place: &Passphrase) -> anyhow::Result<()> {
    let file = place.data.ready()?;
    let typed = if std::io::stdin().is_terminal() {
        rpassword::prompt_password("Passphrase for the room's network: ")?
    } else {
        let mut line = String::new();
        std::io::stdin().read_line(&mut line)?;
        line
    };
    Keys::beside(&file).choose(&typed)?;
    super::say("Chosen. Start with `wedge serve --lan`; devices that are in stay in until then.\n")
}

/// Serves the studio's own record, made when there is none.
pub(super) async fn serve(place: &Place, room: &Room) -> anyhow::Result<()> {
    let file = place.data.ready()?;
    open(
        &file,
        place.port,
        room.lan.map(|at| (at, room.lan_port)),
        false,
    )
    .await
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
    open(&file, place.port, None, true).await
}

async fn open(
    data: &Path,
    port: u16,
    room: Option<(IpAddr, u16)>,
    is_demo: bool,
) -> anyhow::Result<()> {
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
    let room = match room {
        Some((address, port)) => {
            let listener = in_the_room(address, port)
                .with_context(|| format!("port {port} is taken: choose another with --lan-port"))?;
            println!(
                "In the room's network: port {}",
                listener.local_addr()?.port()
            );
            Some((listener, Keys::beside(data)))
        }
        None => None,
    };
    println!("Wedge is open at http://127.0.0.1:{port}");
    serve_on(store, listener, room).await
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
    let copies = kept_beside(data, COPIES);
    match std::fs::remove_dir_all(&copies) {
        Err(error) if error.kind() != std::io::ErrorKind::NotFound => {
            Err(error).context(format!("cannot remove {}", copies.display()))
        }
        _ => Ok(()),
    }
}
