//! `leitmotiv`: the command line.
//!
//! Reads arguments, calls the rooms below, prints. [`arguments`] holds all arguments, [`globals`] those of every command, [`commands`] one file a
//! command, [`output`] the ways of printing, [`failure`] what can go wrong and with which exit status, [`look`] how things are drawn.

mod age;
mod arguments;
mod commands;
mod failure;
mod fold;
mod globals;
mod look;
mod output;

use std::process::ExitCode;

use clap::Parser;
use leitmotiv_project::write::Interrupts;

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
    if !arguments.globals.verbose {
        std::panic::set_hook(Box::new(|_| {}));
    }
    let interrupts = interrupts();
    let arguments::Arguments { globals, command } = arguments;
    let worker =
        std::thread::Builder::new().stack_size(256 << 20).spawn(move || commands::run(globals, command, interrupts));
    match worker.map(std::thread::JoinHandle::join) {
        Ok(Ok(Ok(code))) => code,
        Ok(Ok(Err(failure))) => failure.report(),
        Ok(Err(_)) | Err(_) => failure::Failure::fault("Leitmotiv itself failed; nothing was written").report(),
    }
}

/// Signals that ask the program to end do so at once, but for the moment in which files are being written.
fn interrupts() -> Interrupts {
    use signal_hook::consts::{SIGINT, SIGTERM};
    let interrupts = Interrupts::default();
    let mut signals = vec![(SIGINT, 130), (SIGTERM, 143)];
    #[cfg(unix)]
    signals.push((signal_hook::consts::SIGHUP, 129));
    for (signal, status) in signals {
        // Where a signal cannot be watched, it ends the program as ever, and the next command repairs what it left.
        let _ = signal_hook::flag::register(signal, interrupts.came.clone());
        let _ = signal_hook::flag::register_conditional_shutdown(signal, status, interrupts.may_end.clone());
    }
    interrupts
}
