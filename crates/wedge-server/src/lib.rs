//! Wedge's server: the record and the craft over HTTP on the loopback, and the front end beside them.

pub mod api;
mod assets;
pub mod demo;
mod guard;
pub mod lan;
pub mod picture;
mod problem;
pub mod schema;
pub mod stand_in;
mod upkeep;

pub use problem::Problem;

use actix_web::middleware::{Compress, from_fn};
use actix_web::rt::net::TcpStream;
use actix_web::{App, HttpServer, web};
use std::net::{IpAddr, Ipv4Addr, TcpListener};
use std::time::Duration;
use wedge_store::Store;

/// Serves the record on `listener` until the process is asked to stop; with a second door, to the room's network as well.
pub async fn serve(
    store: Store,
    listener: TcpListener,
    room: Option<(TcpListener, lan::Keys)>,
) -> anyhow::Result<()> {
    let (room, second) = match room {
        Some((listener, keys)) => {
            let (lan, tls) = lan::Lan::open(&keys, listener.local_addr()?.port())?;
            (Some((listener, tls)), Some(lan))
        }
        None => (None, None),
    };
    let second = web::Data::new(second);
    let port = listener.local_addr()?.port();
    let store_at_work = store.clone();
    let shared = api::shared();
    let watch = upkeep::begin(store.clone());
    let mut server = HttpServer::new(move || {
        App::new()
            .app_data(shared.clone())
            .app_data(watch.clone())
            .app_data(second.clone())
            .app_data(web::Data::new(store_at_work.clone()))
            .app_data(web::Data::new(guard::Door::new(port)))
            .wrap(from_fn(guard::room))
            .wrap(from_fn(guard::door))
            .wrap(from_fn(guard::log))
            // Fast rather than small: on one machine a smaller answer must not be a later one.
            .service(
                web::scope("/api")
                    .configure(api::routes)
                    .wrap(Compress::default()),
            )
            .configure(api::cards)
            .default_service(web::get().to(assets::page_or_asset))
    })
    .on_connect(|connection, _| {
        // A compressed answer goes out in pieces: none waits for the one before to be acknowledged.
        if let Some(stream) = connection.downcast_ref::<TcpStream>() {
            let _ = stream.set_nodelay(true);
        }
    })
    .workers(2)
    .max_connections(MOST_CONNECTIONS)
    .client_request_timeout(HEAD_IN)
    .shutdown_timeout(5)
    .listen(listener)?;
    if let Some((listener, tls)) = room {
        server = server.listen_rustls_0_23(listener, tls)?;
    }
    let server = server.run();
    let handle = server.handle();
    actix_web::rt::spawn(async move {
        if closed_terminal().await.is_ok() {
            handle.stop(true).await;
        }
    });
    server.await?;
    store.close().await;
    Ok(())
}

/// The most connections a worker keeps at once: a bench has one browser or two, not hundreds.
const MOST_CONNECTIONS: usize = 200;
/// How long the head of a request may take to come in.
const HEAD_IN: Duration = Duration::from_secs(10);

/// Waits until the terminal it was started from is closed.
#[cfg(unix)]
async fn closed_terminal() -> std::io::Result<()> {
    use actix_web::rt::signal::unix::{SignalKind, signal};
    signal(SignalKind::hangup())?.recv().await;
    Ok(())
}

#[cfg(not(unix))]
async fn closed_terminal() -> std::io::Result<()> {
    std::future::pending().await
}

/// A socket on every network this machine is in, or on one address of it; port 0 takes any free one.
pub fn in_the_room(address: IpAddr, port: u16) -> std::io::Result<TcpListener> {
    TcpListener::bind((address, port))
}

/// A socket on the loopback; port 0 takes any free one.
pub fn loopback(port: u16) -> std::io::Result<TcpListener> {
    TcpListener::bind((Ipv4Addr::LOCALHOST, port))
}
