//! `wedge take` and `wedge stand-in`: riders who are not there, and what devices take of them.

use super::{say, text_of};
use anyhow::{Context, anyhow, bail};
use clap::Args;
use jiff::{Timestamp, Zoned};
use serde_json::Value;
use std::path::{Path, PathBuf};
use uuid::Uuid;
use wedge_bench::{Bench, on_record};
use wedge_core::foresee::ForeseeInput;
use wedge_core::measure::Refusal;
use wedge_core::rider::Effort;
use wedge_devices::Room;
use wedge_devices::device::{
    Camera, Film, Mishap, Picture, Seat, SimulatedCamera, SimulatedFilm, SimulatedTrainer, Taken,
    Trainer,
};
use wedge_devices::hidden::{Asked, LAWS};
use wedge_devices::hundred::Stranger;
use wedge_files::{House, PositionFile, RiderFile, Simulated, write_c3d, write_torque, write_trc};
use wedge_server::picture;
use wedge_server::stand_in::told_of;

#[derive(Args)]
pub(super) struct Take {
    /// A wedge.rider file of a simulated rider, or a wedge.position file with --seed
    #[arg(long, value_name = "FILE")]
    rider: PathBuf,
    /// Who is behind a position
    #[arg(long)]
    seed: Option<u32>,
    /// Where the markers go: a .trc or a .c3d file
    #[arg(long, value_name = "FILE")]
    out: Option<PathBuf>,
    /// A folder for pictures from the side, as PNG
    #[arg(long, value_name = "FOLDER")]
    film: Option<PathBuf>,
    /// Where torque by sector goes, as CSV
    #[arg(long, value_name = "FILE")]
    torque: Option<PathBuf>,
    /// How long, s
    #[arg(long, default_value_t = 10.0)]
    seconds: f64,
    /// Power held, W
    #[arg(long, default_value_t = 150.0)]
    watts: f64,
    /// Turns a minute
    #[arg(long, default_value_t = 85.0)]
    cadence: f64,
    /// The how-manieth take it is: another one is another take
    #[arg(long, default_value_t = 1)]
    nth: u32,
    /// What goes wrong: `unplugged`, `silent`, `late` or `out_of_range`
    #[arg(long, value_parser = fault)]
    fault: Option<Mishap>,
}

fn fault(name: &str) -> Result<Mishap, String> {
    Mishap::named(name).ok_or_else(|| "one of unplugged, silent, late, out_of_range".to_owned())
}

/// Pictures a second, and how large.
const PICTURES_HZ: f64 = 60.0;
const SIZE: [usize; 2] = [1200, 800];

/// The rider of a file on the setup that stands in it, and who he is.
fn rider_of(arguments: &Take) -> anyhow::Result<(Room, ForeseeInput)> {
    let text = text_of(&arguments.rider)?;
    let refused = || format!("{} is refused", arguments.rider.display());
    let value: Value = serde_json::from_str(&text).with_context(refused)?;
    if value["format"]
        .as_str()
        .is_some_and(|format| format.starts_with("wedge.position/"))
    {
        let position = PositionFile::read(&text).with_context(refused)?.position;
        let seed = arguments
            .seed
            .context("a position has nobody behind it: name one with --seed")?;
        let room = Room::behind(seed.into(), &position).map_err(in_words)?;
        return Ok((room, position));
    }
    let rider = RiderFile::read(&text).with_context(refused)?.rider;
    let simulated = rider.simulated.with_context(|| {
        format!(
            "{} is a real rider: stand-ins take riders who are not there",
            rider.name
        )
    })?;
    if simulated.laws != LAWS {
        bail!(
            "thrown by laws {}, and these are laws {LAWS}",
            simulated.laws
        );
    }
    let fit = rider
        .bikes
        .iter()
        .flat_map(|bike| &bike.sessions)
        .next_back();
    let fit = fit.context("the rider has no fit")?.clone();
    let bench = Bench::of(rider, fit, House::default())?;
    let room = Room::behind(simulated.seed.into(), &bench.as_found()?).map_err(in_words)?;
    let now = bench.input(bench.now()?)?;
    Ok((room, now))
}

fn in_words(refused: Vec<Refusal>) -> anyhow::Error {
    let all: Vec<String> = refused.into_iter().map(|refusal| refusal.detail).collect();
    anyhow!(all.join("; "))
}

pub(super) fn take(arguments: &Take) -> anyhow::Result<()> {
    if !(0.1..=120.0).contains(&arguments.seconds) {
        bail!("--seconds is from 0.1 to 120");
    }
    let effort = Effort {
        power_w: arguments.watts,
        cadence_rpm: arguments.cadence,
    };
    let refused = effort.refusals("");
    if !refused.is_empty() {
        return Err(in_words(refused));
    }
    if arguments.out.is_none() && arguments.film.is_none() && arguments.torque.is_none() {
        bail!("nowhere to write to: --out, --film or --torque");
    }
    let (room, now) = rider_of(arguments)?;
    let seat = || -> anyhow::Result<Seat<'_>> {
        (room.seat(&now.setup, effort, Asked(arguments.nth)))
            .context("the saddle has no place yet: nobody can sit on it")
    };
    if let Some(out) = &arguments.out {
        let taken = SimulatedCamera::before(seat()?, 1, arguments.fault).take(arguments.seconds);
        let tracks = told(taken)?;
        let bytes = match out.extension().and_then(|of| of.to_str()) {
            Some("trc") => write_trc(&tracks, "simulated").into_bytes(),
            Some("c3d") => write_c3d(&tracks)?,
            _ => bail!("--out is a .trc or a .c3d file"),
        };
        written(out, &bytes)?;
    }
    if let Some(out) = &arguments.torque {
        let mut trainer = SimulatedTrainer::under(seat()?, arguments.fault);
        let ridden = told(trainer.hold(effort.power_w, arguments.seconds))?;
        let torque = ridden
            .torque()
            .context("too few strokes to tell torque from")?;
        written(out, write_torque(&torque)?.as_bytes())?;
    }
    if let Some(folder) = &arguments.film {
        std::fs::create_dir_all(folder)
            .with_context(|| format!("cannot make {}", folder.display()))?;
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "6 to 7200"
        )]
        let pictures = (PICTURES_HZ * arguments.seconds) as usize;
        let filmed = told(SimulatedFilm::beside(seat()?, SIZE, arguments.fault).film(pictures))?;
        for (nth, picture) in filmed.into_iter().enumerate() {
            let file = folder.join(format!("{nth:04}.png"));
            let Picture { width, height, rgb } = picture;
            written(
                &file,
                &picture::png(width, height, rgb).map_err(|why| anyhow!(why))?,
            )?;
        }
    }
    Ok(())
}

/// What came, and on standard error what went wrong; an error where nothing came.
fn told<T>(taken: Taken<T>) -> anyhow::Result<T> {
    if let Some(trouble) = &taken.trouble {
        eprintln!("wedge: {}", trouble.words);
    }
    taken.got.context("nothing was taken")
}

fn written(file: &Path, bytes: &[u8]) -> anyhow::Result<()> {
    std::fs::write(file, bytes).with_context(|| format!("cannot write {}", file.display()))
}

#[derive(Args)]
pub(super) struct StandIn {
    /// Who: the same seed is always the same rider
    #[arg(long, default_value_t = 1)]
    seed: u32,
    /// As he is called
    #[arg(long)]
    name: Option<String>,
}

pub(super) fn stand_in(arguments: &StandIn) -> anyhow::Result<()> {
    let seed = arguments.seed;
    let name = (arguments.name.clone()).unwrap_or_else(|| format!("Stand-in {seed}"));
    let stranger = Stranger::of(seed.into());
    let room = Room::behind(seed.into(), &stranger.known).map_err(in_words)?;
    let simulated = Simulated { seed, laws: LAWS };
    let rider = on_record(
        (Uuid::now_v7(), Uuid::now_v7(), name, simulated),
        &stranger.known,
        told_of(&room),
        (&House::default(), Zoned::now().date(), Timestamp::now()),
    );
    say(&RiderFile::new(rider.map_err(in_words)?).write()?)
}
