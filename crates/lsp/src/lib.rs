//! A language server (LSP 3.17): what is known of a project, told to editors as somebody types.
//!
//! Knows the protocol; asks the rooms below for everything else. In reading order:
//!
//! - [`wire`]: messages on streams
//! - [`client`]: what a client can do, and what users set
//! - [`encoding`], [`uri`]: places and files in the client's terms
//! - [`documents`]: what the client holds open
//! - [`folders`]: projects, and what the client was told of them
//! - [`snapshot`]: a project at one moment, from which requests are answered
//! - [`diagnostics`]: findings as diagnostics
//! - [`requests`]: requests by their methods
//! - [`features`]: one file for each thing that editors ask for
//! - [`server`]: the loop
//!
//! The entry is [`serve`].

mod capabilities;
pub mod client;
pub mod diagnostics;
pub mod documents;
pub mod encoding;
pub mod features;
pub mod folders;
mod requests;
pub mod server;
pub mod snapshot;
pub mod uri;
pub mod wire;

use std::io::{BufReader, Read, Write};

use leitmotiv_project::Surroundings;

pub use server::End;

/// Serves a client until it leaves.
pub fn serve(
    input: impl Read + Send + 'static,
    output: impl Write + Send + 'static,
    surroundings: Surroundings,
) -> End {
    let (incoming, received) = crossbeam_channel::bounded(1024);
    let (out, messages) = crossbeam_channel::unbounded();
    std::thread::spawn(move || wire::read_all(BufReader::new(input), &incoming));
    let writer = std::thread::spawn(move || wire::write_all(output, &messages));
    let end = server::Server::new(out, surroundings).run(&received);
    // What was said last is still written, where somebody reads it.
    let began = std::time::Instant::now();
    while !writer.is_finished() && began.elapsed() < server::PATIENCE {
        std::thread::sleep(std::time::Duration::from_millis(1));
    }
    end
}
