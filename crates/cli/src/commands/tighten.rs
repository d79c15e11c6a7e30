//! x
use super::Context; use crate::failure::Failure; use std::process::ExitCode;
/// x
#[derive(Debug, clap::Args)]
pub struct Tighten {}
/// x
pub fn run(_c: &Context, _x: &Tighten) -> Result<ExitCode, Failure> { Ok(ExitCode::SUCCESS) }
