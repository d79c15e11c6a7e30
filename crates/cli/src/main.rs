//! `leitmotiv`: the command line.
//!
//! Reads arguments, calls the rooms below, prints. [`arguments`] holds all arguments, [`commands`] one file a command,
//! [`failure`] what can go wrong and with which exit status, [`look`] how things are drawn.

mod arguments;
mod commands;
mod failure;
mod fold;
mod look;

use std::process::ExitCode;

use clap::Parser;

/// Checking makes and drops many small things on all threads at once.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    let arguments = match arguments::Arguments::try_parse() {
        Ok(arguments) => arguments,
        Err(error) => return arguments::refuse(&error),
    };
    // Python nests deeply at times; the walks are recursive, so threads get room.
    let pool = rayon::ThreadPoolBuilder::new().stack_size(256 << 20).build_global();
    if pool.is_err() {
        return failure::Failure::fault("no threads can be started").report();
    }
    // A fault becomes a finding or a sentence; where it happened is for those who mend it.
    if !arguments.verbose {
        std::panic::set_hook(Box::new(|_| {}));
    }
    let worker = std::thread::Builder::new().stack_size(256 << 20).spawn(move || commands::run(arguments));
    match worker.map(std::thread::JoinHandle::join) {
        Ok(Ok(Ok(code))) => code,
        Ok(Ok(Err(failure))) => failure.report(),
        Ok(Err(_)) | Err(_) => failure::Failure::fault("Leitmotiv itself failed; nothing was written").report(),
    }
}
