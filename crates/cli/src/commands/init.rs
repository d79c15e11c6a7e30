//! x
use super::Context; use crate::failure::Failure; use std::process::ExitCode;
/// x
#[derive(Debug, clap::Args)]
pub struct Init {}
/// x
pub fn run(_c: &Context, _x: &Init) -> Result<ExitCode, Failure> { Ok(ExitCode::SUCCESS) }
