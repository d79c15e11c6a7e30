//! What can go wrong, and with which exit status.

use std::io::Write;
use std::process::ExitCode;

use leitmotiv_migrate::change::ChangeError;
use leitmotiv_migrate::session::SessionError;
use leitmotiv_project::ProjectError;
use leitmotiv_project::write::WriteError;
use leitmotiv_syntax::shown::escaped_line;
use leitmotiv_trace::store::StoreError;

/// A command that could not be carried out.
#[derive(Debug)]
pub struct Failure {
    /// One clear sentence.
    sentence: String,
    /// 2: the command, configuration or an input is unusable; 3: a fault of the program.
    status: u8,
}

impl Failure {
    /// The command, configuration or an input file is unusable.
    pub fn unusable(sentence: impl Into<String>) -> Failure {
        Failure { sentence: sentence.into(), status: 2 }
    }

    /// A fault of the program itself.
    pub fn fault(sentence: impl Into<String>) -> Failure {
        Failure { sentence: sentence.into(), status: 3 }
    }

    /// Says it on standard error.
    pub fn report(&self) -> ExitCode {
        let mut out = anstream::stderr();
        // Where standard error is gone, only the status can tell.
        let _ = writeln!(out, "leitmotiv: {}", escaped_line(&self.sentence));
        ExitCode::from(self.status)
    }
}

impl From<ProjectError> for Failure {
    fn from(error: ProjectError) -> Failure {
        Failure::unusable(error.to_string())
    }
}

impl From<SessionError> for Failure {
    fn from(error: SessionError) -> Failure {
        Failure::unusable(error.to_string())
    }
}

impl From<ChangeError> for Failure {
    fn from(error: ChangeError) -> Failure {
        Failure::unusable(error.to_string())
    }
}

impl From<StoreError> for Failure {
    fn from(error: StoreError) -> Failure {
        Failure::unusable(error.to_string())
    }
}

impl From<WriteError> for Failure {
    fn from(error: WriteError) -> Failure {
        Failure::unusable(error.to_string())
    }
}

impl From<std::io::Error> for Failure {
    fn from(error: std::io::Error) -> Failure {
        Failure::unusable(error.to_string())
    }
}
