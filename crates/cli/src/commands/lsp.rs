//! `leitmotiv lsp`

use std::process::ExitCode;

use clap::Args;
use leitmotiv_lsp::End;

use super::Context;
use crate::failure::Failure;

/// Serve editors: a language server on standard input and output.
///
/// Editors start it themselves; docs/editors.md tells how. It speaks the Language Server Protocol, version 3.17.
#[derive(Debug, Args)]
pub struct Lsp {
    /// Taken and ignored: what some editors add by themselves.
    #[arg(long, hide = true)]
    pub stdio: bool,
}

/// Runs the command.
pub fn run(context: &Context, _: &Lsp) -> Result<ExitCode, Failure> {
    match leitmotiv_lsp::serve(std::io::stdin(), std::io::stdout(), context.surroundings()) {
        End::Orderly => Ok(ExitCode::SUCCESS),
        // As the protocol has it, where the client leaves without a word.
        End::Abrupt => Ok(ExitCode::from(1)),
    }
}
