//! x
use super::Context; use crate::failure::Failure; use std::process::ExitCode;
/// x
#[derive(Debug, clap::Args)]
pub struct Lookup {}
/// x
pub fn run(_c: &Context, _x: &Lookup) -> Result<ExitCode, Failure> { Ok(ExitCode::SUCCESS) }
