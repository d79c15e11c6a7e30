//! x
use super::Context; use crate::failure::Failure; use std::process::ExitCode;
/// x
#[derive(Debug, clap::Args)]
pub struct Survey {}
/// x
pub fn run(_c: &Context, _x: &Survey) -> Result<ExitCode, Failure> { Ok(ExitCode::SUCCESS) }
