//! Checks: begun when they are due, and told where what they found is still so.

use std::path::PathBuf;

use leitmotiv_engine::base::file::File;
use lsp_types::notification::{LogMessage, Progress, PublishDiagnostics};
use lsp_types::*;
use serde_json::Value;

use lsp_server::Response;

use super::{Done, Halt, Question, Server, carried_out};
use crate::diagnostics;
use crate::folders::{Folder, Found, Part};
use crate::snapshot::Snapshot;

impl Server {
    /// Begins what checks are due.
    pub(super) fn check(&mut self) {
        let Some(client) = self.client.clone() else { return };
        let open = self.open_documents();
        for at in 0..self.folders.len() {
            let Some(part) = self.folders[at].due() else { continue };
            let folder = &mut self.folders[at];
            let Some(snapshot) = folder.snapshot(&client, &self.options, &open) else { continue };
            folder.is_checking = true;
            let (number, generation) = (folder.number, folder.generation);
            let done = self.done.0.clone();
            let recent = self.recent.clone();
            self.work(move || {
                let tell = |one: Found| {
                    let _ = done.send(Done::Found { folder: number, generation, found: vec![one] });
                };
                let found = carried_out(|| match part {
                    Part::Open => {
                        check_open(&snapshot, &recent, &tell);
                        Vec::new()
                    }
                    Part::Whole => check_all(&snapshot),
                });
                // Whoever tells the session of something else waits for this.
                drop(snapshot);
                let _ = done.send(Done::Checked { folder: number, generation, part, found });
            });
        }
    }

    pub(super) fn checked(&mut self, number: u64, generation: u64, part: Part, found: Result<Vec<Found>, Halt>) {
        let Some(client) = self.client.clone() else { return };
        let Some(folder) = self.folders.iter_mut().find(|one| one.number == number) else { return };
        folder.is_checking = false;
        let is_current = folder.is_current(generation);
        let found = match found {
            Ok(found) if is_current => found,
            // What failed would fail again.
            Err(Halt::Fault) if is_current => {
                let message = "Leitmotiv itself failed while checking".to_owned();
                return self.notify::<LogMessage>(LogMessageParams { typ: MessageType::ERROR, message });
            }
            _ => return folder.missed(part),
        };
        if part == Part::Whole {
            self.found(number, generation, part, found);
            if client.refreshes_hints {
                self.ask::<lsp_types::request::InlayHintRefreshRequest>((), Question::None);
            }
            if client.refreshes_tokens {
                self.ask::<lsp_types::request::SemanticTokensRefresh>((), Question::None);
            }
        }
    }

    /// Tells the client of what was found, where that is still so.
    pub(super) fn found(&mut self, number: u64, generation: u64, part: Part, found: Vec<Found>) {
        let Some(client) = self.client.clone() else { return };
        let pulls_workspace = self.pulls_workspace;
        let Some(folder) = self.folders.iter_mut().find(|one| one.number == number) else { return };
        if !folder.is_current(generation) {
            return;
        }
        let mut is_other = false;
        let mut pushed = Vec::new();
        for one in found {
            if client.pulls && one.version.is_some() {
                let digest = diagnostics::digest(&one.diagnostics);
                is_other |= part == Part::Whole && folder.pulled.get(&one.path).is_some_and(|pulled| *pulled != digest);
                // What was pushed before it was opened is pulled from now on.
                pushed.push(Found { version: None, diagnostics: Vec::new(), ..one });
            } else if pulls_workspace {
                pushed.push(Found { diagnostics: Vec::new(), ..one });
            } else {
                pushed.push(one);
            }
        }
        let news = folder.news(part, pushed);
        self.publish(news);
        if is_other && client.refreshes_diagnostics {
            self.ask::<lsp_types::request::WorkspaceDiagnosticRefresh>((), Question::None);
        }
    }

    /// Says so, where everything is checked.
    pub(super) fn settled(&mut self) {
        self.end_progress();
        for id in std::mem::take(&mut self.waiting) {
            self.respond(Response::new_ok(id, Value::Null));
        }
    }

    pub(super) fn publish(&self, news: Vec<Found>) {
        for one in news {
            let Found { uri, version, diagnostics, .. } = one;
            self.notify::<PublishDiagnostics>(PublishDiagnosticsParams { uri, diagnostics, version });
        }
    }

    /// Once the client asks for the diagnostics of the workspace, what was pushed would be shown twice.
    pub(super) fn take_back_closed(&mut self) {
        if self.pulls_workspace {
            let news: Vec<Found> = self.folders.iter_mut().flat_map(Folder::take_back).collect();
            self.publish(news);
        }
    }

    pub(super) fn begin_progress(&mut self) {
        if self.client.as_ref().is_some_and(|client| client.shows_progress) && self.progress.is_none() {
            let token = ProgressToken::String(format!("leitmotiv-{}", self.opened));
            let params = WorkDoneProgressCreateParams { token: token.clone() };
            self.ask::<lsp_types::request::WorkDoneProgressCreate>(params, Question::None);
            let title = "Checking types".to_owned();
            let begin = WorkDoneProgressBegin { title, cancellable: Some(false), ..WorkDoneProgressBegin::default() };
            let value = ProgressParamsValue::WorkDone(WorkDoneProgress::Begin(begin));
            self.notify::<Progress>(ProgressParams { token: token.clone(), value });
            self.progress = Some(token);
        }
    }

    pub(super) fn end_progress(&mut self) {
        if let Some(token) = self.progress.take() {
            let end = WorkDoneProgressEnd { message: None };
            let value = ProgressParamsValue::WorkDone(WorkDoneProgress::End(end));
            self.notify::<Progress>(ProgressParams { token, value });
        }
    }
}

/// The diagnostics of the open documents, one after the other: those first that were changed last.
fn check_open(snapshot: &Snapshot, recent: &[PathBuf], tell: &dyn Fn(Found)) {
    let db = &snapshot.session.db;
    let mut open: Vec<File> =
        snapshot.files.iter().filter(|file| snapshot.version(**file).is_some()).copied().collect();
    open.sort_by_key(|file| {
        file.disk(db).and_then(|path| recent.iter().position(|one| one == path)).unwrap_or(usize::MAX)
    });
    for file in open {
        if let Some(found) = found(snapshot, file, diagnostics::of_file(snapshot, file)) {
            tell(found);
        }
    }
}

/// The diagnostics of all files.
fn check_all(snapshot: &Snapshot) -> Vec<Found> {
    diagnostics::of_all(snapshot).into_iter().filter_map(|(file, all)| found(snapshot, file, all)).collect()
}

fn found(snapshot: &Snapshot, file: File, diagnostics: Vec<Diagnostic>) -> Option<Found> {
    let path = file.disk(&snapshot.session.db)?.to_owned();
    Some(Found { uri: snapshot.uri(file)?, version: snapshot.version(file), diagnostics, path })
}
