//! The `wedge` command: what it takes, and what each command does.

mod carry;
mod choose;
mod foresee;
mod hundred;
mod judge;
mod look;
mod record;
mod served;
mod take;

use anyhow::Context;
use clap::{Args, CommandFactory, Parser, Subcommand};
use std::io::{self, ErrorKind, Read, Write};
use std::path::{Path, PathBuf};
use wedge_server::schema::{Format, json_schema};

/// The bike fitter's bench mate: measures, foresees and remembers.
///
/// The record is one SQLite file, in your home directory's data folder unless --data names another. Commands that read
/// or write it may run while Wedge is open.
#[derive(Parser)]
#[command(
    name = "wedge",
    version = version(),
    max_term_width = 100,
    after_help = "Exit codes: 0 done; 1 refused or failed, with the reason on standard error; 2 not understood."
)]
pub(crate) struct Cli {
    #[command(subcommand)]
    command: Command,
}

/// The version, the commit it was built from and the migration it brings records up to.
fn version() -> String {
    format!(
        "{} ({}), schema {}",
        env!("CARGO_PKG_VERSION"),
        env!("WEDGE_COMMIT"),
        wedge_store::Store::schema()
    )
}

#[derive(Subcommand)]
enum Command {
    /// Serve your own studio's record on this machine
    Serve {
        #[command(flatten)]
        place: served::Place,
        #[command(flatten)]
        room: served::Room,
    },
    /// Choose the passphrase for the room's network
    Passphrase(served::Passphrase),
    /// Serve the demo studio from a throw-away file, made anew at every start
    ///
    /// A file named with --data must not be there yet.
    Demo(served::Place),
    /// Foresee a position, or what changes do to it, from a wedge.position/1 file
    Foresee(foresee::Arguments),
    /// Carry a position to another bike: what it must be built of, and what remains off
    Carry(carry::Arguments),
    /// Rank frames for a position: with which parts it is reached on each, and how ordinary those are
    Choose(choose::Arguments),
    /// Judge the evidence of a case: what is likely wrong, and the next move
    Judge(judge::Arguments),
    /// Read a take of markers, a TRC or C3D file: every figure of the stroke
    Look(look::Look),
    /// Read a picture from the side: squared by the wheels, angles with their spread
    Film(look::Film),
    /// Take ten seconds of a simulated rider: markers as TRC or C3D, and pictures from the side
    Take(take::Take),
    /// Write a simulated rider as a file: measured, on a bike that is taped
    StandIn(take::StandIn),
    /// Fit a hundred hidden riders by several ways, and tell how near each comes
    Hundred(hundred::Arguments),
    /// Print the JSON Schema of an open format
    Schema {
        /// Which format
        #[arg(value_enum, default_value = "position")]
        format: Format,
    },
    /// Write a rider, or the whole studio, as a file
    Export(record::Export),
    /// Take riders in from a file: all of it or nothing
    Import(record::Import),
    /// Write a whole copy of the record into a new file, also while Wedge is open
    Backup(record::Backup),
    /// Put a copy in the record's place, while no Wedge is open; the record is kept beside it under a dated name
    Restore(record::Restore),
    /// Print a shell's completions for this command
    Completions {
        /// Which shell
        #[arg(value_enum)]
        shell: clap_complete::Shell,
    },
    /// Print the manual page
    Man,
    /// Print the description of the HTTP API as OpenAPI JSON
    Openapi,
}

/// Where the record is.
#[derive(Args)]
struct Data {
    /// The file that holds the record [default: wedge/wedge.sqlite in your data folder]
    #[arg(long, value_name = "FILE")]
    data: Option<PathBuf>,
}

impl Data {
    fn file(&self) -> anyhow::Result<PathBuf> {
        match &self.data {
            Some(file) => Ok(file.clone()),
            None => Ok(dirs::data_dir()
                .context("no home directory to keep the record in: give a file with --data")?
                .join("wedge")
                .join("wedge.sqlite")),
        }
    }
}

impl Data {
    /// The file, with the folder of the default one made.
    fn ready(&self) -> anyhow::Result<PathBuf> {
        let file = self.file()?;
        if self.data.is_none()
            && let Some(folder) = file.parent()
        {
            std::fs::create_dir_all(folder)
                .with_context(|| format!("cannot make {}", folder.display()))?;
        }
        Ok(file)
    }
}

impl Cli {
    pub(crate) async fn run(self) -> anyhow::Result<()> {
        match self.command {
            Command::Serve { place, room } => served::serve(&place, &room).await,
            Command::Passphrase(place) => served::passphrase(&place),
            Command::Demo(place) => served::demo(&place).await,
            Command::Foresee(arguments) => foresee::run(&arguments),
            Command::Carry(arguments) => carry::run(&arguments),
            Command::Choose(arguments) => choose::run(&arguments),
            Command::Judge(arguments) => judge::run(&arguments),
            Command::Look(arguments) => look::run(&arguments),
            Command::Film(arguments) => look::film(&arguments),
            Command::Take(arguments) => take::take(&arguments),
            Command::StandIn(arguments) => take::stand_in(&arguments),
            Command::Hundred(arguments) => hundred::run(&arguments),
            Command::Schema { format } => say(&json_schema(format)?),
            Command::Export(export) => record::export(&export).await,
            Command::Import(import) => record::import(&import).await,
            Command::Backup(backup) => record::backup(&backup).await,
            Command::Restore(restore) => record::restore(&restore).await,
            Command::Completions { shell } => {
                let mut script = Vec::new();
                clap_complete::generate(shell, &mut Self::command(), "wedge", &mut script);
                say(&String::from_utf8_lossy(&script))
            }
            Command::Man => {
                let mut page = Vec::new();
                clap_mangen::Man::new(Self::command()).render(&mut page)?;
                say(&String::from_utf8_lossy(&page))
            }
            Command::Openapi => say(&wedge_server::api::openapi_json()?),
        }
    }
}

/// Writes to standard output. A reader that has seen enough is no failure.
fn say(text: &str) -> anyhow::Result<()> {
    let mut out = io::stdout().lock();
    match out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        Err(error) if error.kind() != ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(()),
    }
}

/// A file's text; `-` is standard input.
fn text_of(file: &Path) -> anyhow::Result<String> {
    let mut text = String::new();
    if file == Path::new("-") {
        io::stdin()
            .read_to_string(&mut text)
            .context("cannot read standard input")?;
    } else {
        text = std::fs::read_to_string(file)
            .with_context(|| format!("cannot read {}", file.display()))?;
    }
    Ok(text)
}

/// What is refused, a line each, by its path in the file.
fn refused(refusals: Vec<wedge_core::measure::Refusal>) -> anyhow::Error {
    let lines = refusals.into_iter();
    let lines = lines.map(|refusal| format!("{}: {}", refusal.pointer, refusal.detail));
    anyhow::anyhow!(lines.collect::<Vec<_>>().join("\n"))
}
