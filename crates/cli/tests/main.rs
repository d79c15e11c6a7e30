//! The built program on files in temporary folders: one file a command.

mod annotate;
mod bad_input;
mod cached;
mod check;
mod console;
mod demo;
mod explain;
mod extremes;
mod fix;
mod folder;
mod formats;
#[cfg(unix)]
mod hostile;
mod init;
mod ledger;
mod lookup;
mod lsp;
mod parts;
mod random;
mod report;
mod shells;
mod store;
mod stub;
mod survey;
mod tighten;
mod trace;
mod watch;
mod written;
mod year;
