//! The `wedge` command.

mod cli;

use clap::Parser;
use std::process::ExitCode;

#[actix_web::main]
async fn main() -> ExitCode {
    match cli::Cli::parse().run().await {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("wedge: {error:#}");
            ExitCode::FAILURE
        }
    }
}
