//! x
use super::Context; use crate::failure::Failure; use std::process::ExitCode;
/// x
#[derive(Debug, clap::Args)]
pub struct Demo {}
/// x
pub fn run(_c: &Context, _x: &Demo) -> Result<ExitCode, Failure> { Ok(ExitCode::SUCCESS) }
