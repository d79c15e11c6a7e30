//! Commands that actions name: what takes longer than a menu may wait, and what is no edit.

use std::path::{Path, PathBuf};
use std::str::FromStr;
use std::sync::Arc;

use leitmotiv_engine::base::database::FileChange;
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::annotate::{self, Wanted, vet};
use leitmotiv_migrate::change::Change;
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_migrate::stub::plan::{self, Request};
use leitmotiv_project::Project;
use leitmotiv_project::write::note;
use leitmotiv_syntax::positions::Lines;
use leitmotiv_syntax::{TextRange, TextSize};
use lsp_server::ErrorCode;
use lsp_types::{
    ExecuteCommandParams, MessageType, Position, ProgressToken, TextEdit, Uri, WorkDoneProgress, WorkDoneProgressBegin,
    WorkDoneProgressEnd, WorkspaceEdit,
};
use serde::Deserialize;
use serde_json::{Value, json};

use super::{Answer, explain};
use crate::client::Client;
use crate::encoding::Text;
use crate::requests::{Tell, error};
use crate::server::Done;
use crate::snapshot::{Changed, Snapshot, whole};
use crate::uri;

/// Annotates a function, or a file.
pub const ANNOTATE: &str = "leitmotiv.annotate";
/// Writes a module's stub.
pub const STUB: &str = "leitmotiv.stub";
/// Tells a finding's whole story.
pub const EXPLAIN: &str = "leitmotiv.explain";

/// All commands.
pub const ALL: &[&str] = &[ANNOTATE, STUB, EXPLAIN];

#[derive(Debug, Deserialize)]
struct Arguments {
    uri: String,
    function: Option<String>,
    module: Option<String>,
    position: Option<Position>,
    rule: Option<String>,
}

/// A command with its arguments.
pub(crate) struct Command {
    uri: Uri,
    kind: Kind,
    progress: Option<ProgressToken>,
}

enum Kind {
    Annotate { function: Option<String> },
    Stub { module: String },
    Explain { position: Position, rule: Option<String> },
}

/// Reads a command; `None` where it is not known or lacks what it needs.
pub(crate) fn read(params: &ExecuteCommandParams) -> Option<Command> {
    let arguments: Arguments = serde_json::from_value(params.arguments.first()?.clone()).ok()?;
    let kind = match params.command.as_str() {
        ANNOTATE => Kind::Annotate { function: arguments.function },
        STUB => Kind::Stub { module: arguments.module? },
        EXPLAIN => Kind::Explain { position: arguments.position?, rule: arguments.rule },
        _ => return None,
    };
    let progress = params.work_done_progress_params.work_done_token.clone();
    Some(Command { uri: Uri::from_str(&arguments.uri).ok()?, kind, progress })
}

impl Command {
    /// The document that it is about.
    pub(crate) fn uri(&self) -> &Uri {
        &self.uri
    }

    /// Carries it out. What takes long works on a session of its own, so that nobody who types waits for it.
    pub(crate) fn run(self, snapshot: Snapshot, tell: Tell<'_>) -> Answer<Value> {
        let Some(file) = snapshot.file(&self.uri) else { return Ok(Value::Null) };
        let begin = |title: &str| {
            let title = title.to_owned();
            let begin = WorkDoneProgressBegin { title, cancellable: Some(false), ..WorkDoneProgressBegin::default() };
            self.progress.iter().for_each(|token| {
                tell(Done::Progress(token.clone(), WorkDoneProgress::Begin(begin.clone())));
            });
        };
        let end = || {
            let end = WorkDoneProgress::End(WorkDoneProgressEnd { message: None });
            self.progress.iter().for_each(|token| tell(Done::Progress(token.clone(), end.clone())));
        };
        match self.kind {
            Kind::Explain { position, rule } => {
                let text = explain::story(&snapshot, file, position, rule.as_deref());
                let Some(text) = text else { return Ok(Value::Null) };
                let root = snapshot.session.project().root.clone();
                if snapshot.client.shows_documents && note::write(&root, "explained.md", text.as_bytes()).is_ok() {
                    tell(Done::Show(note::path(&root, "explained.md")));
                }
                Ok(json!(text))
            }
            Kind::Annotate { function } => {
                begin("Annotating");
                let own = Own::new(&snapshot, file);
                drop(snapshot);
                let result = own.annotate(function.as_deref(), tell);
                end();
                result
            }
            Kind::Stub { module } => {
                begin("Writing a stub");
                let own = Own::new(&snapshot, file);
                drop(snapshot);
                let result = own.stub(&module, tell);
                end();
                result
            }
        }
    }
}

/// What is needed to open the project once more.
struct Own {
    project: Project,
    held: Vec<FileChange>,
    path: Option<PathBuf>,
    client: Arc<Client>,
    open: Arc<std::collections::HashMap<PathBuf, (Uri, i32)>>,
}

impl Own {
    fn new(snapshot: &Snapshot, file: File) -> Own {
        let db = &snapshot.session.db;
        let held = snapshot.open.keys().filter_map(|path| {
            let text = db.known(path)?.text(db).to_string();
            Some(FileChange::Held { path: path.clone(), text })
        });
        Own {
            project: snapshot.session.project().clone(),
            held: held.collect(),
            path: file.disk(db).map(Path::to_owned),
            client: snapshot.client.clone(),
            open: snapshot.open.clone(),
        }
    }

    fn session(&self) -> Answer<Session> {
        let refused = |why: String| error(ErrorCode::RequestFailed, why);
        let mut session = Session::open(self.project.clone()).map_err(|why| refused(why.to_string()))?;
        session.apply(&self.held).map_err(|why| refused(why.to_string()))?;
        session.ask(&Asked::default());
        // A ledger that cannot be read is in nobody's way here.
        Ok(session.clone().with_ledger().unwrap_or(session))
    }

    fn annotate(&self, function: Option<&str>, tell: Tell<'_>) -> Answer<Value> {
        let mut session = self.session()?;
        let all = session.files(&[]).map_err(|why| error(ErrorCode::RequestFailed, why.to_string()))?;
        let Some(file) = self.path.as_ref().and_then(|path| session.db.known(path)) else { return Ok(Value::Null) };
        let wanted = Wanted {
            functions: function.map(str::to_owned).into_iter().collect(),
            records: annotate::recorded(session.project()),
            held: Arc::new(session.held(&all)),
            ..Wanted::default()
        };
        let vetted = vet::vetted(&mut session.db, &all, &[file], &wanted);
        if vetted.changes.is_empty() {
            let words = match vetted.withdrawn.len() {
                0 => "There is no evidence for any annotation that is missing here.".to_owned(),
                1 => "One annotation was left out, because other code contradicts it.".to_owned(),
                many => format!("{many} annotations were left out, because other code contradicts them."),
            };
            tell(Done::Say(MessageType::INFO, words));
            return Ok(Value::Null);
        }
        let edit = self.edit(&vetted.changes);
        tell(Done::Edit { label: "Annotate".to_owned(), edit });
        Ok(json!({"annotations": vetted.accepted.len(), "withdrawn": vetted.withdrawn.len()}))
    }

    fn stub(&self, module: &str, tell: Tell<'_>) -> Answer<Value> {
        let session = self.session()?;
        let root = session.project().root.clone();
        let folder = root.join(session.project().settings.stubs.first().map_or("stubs", String::as_str));
        let modules = [module.to_owned()];
        let request =
            Request { modules: &modules, from: None, used_by: None, overwrite: false, folder: &folder, package: false };
        let plan = plan::plan(&session.db, &request).map_err(|why| error(ErrorCode::RequestFailed, why.to_string()))?;
        let new = plan.stubs.iter().filter(|stub| stub.before.as_ref() != Some(&stub.after));
        let changes: Vec<Change> = new
            .map(|stub| Change {
                path: folder.join(&stub.path),
                shown: session.project().relative(&folder.join(&stub.path)),
                before: stub.before.clone(),
                after: stub.after.clone(),
            })
            .collect();
        if changes.iter().any(|change| change.before.is_none()) && !self.client.creates_files {
            let words = "this client cannot make files; `leitmotiv stub write` does it";
            return Err(error(ErrorCode::RequestFailed, words));
        }
        let written = json!({"stubs": changes.len()});
        tell(Done::Edit { label: format!("Write a stub for {module}"), edit: self.edit(&changes) });
        Ok(written)
    }

    /// Changes of whole texts as edits of the lines that differ.
    fn edit(&self, changes: &[Change]) -> WorkspaceEdit {
        let mut changed = Vec::new();
        let mut new = Vec::new();
        for change in changes {
            let own = uri::real(&change.path);
            let (uri, version) = match self.open.get(&own) {
                Some((uri, version)) => (Some(uri.clone()), Some(*version)),
                None => (uri::of_path(&own), None),
            };
            let Some(uri) = uri else { continue };
            match &change.before {
                Some(before) => changed.push(Changed { uri, version, edits: self.differences(before, &change.after) }),
                None => new.push((uri, change.after.clone())),
            }
        }
        whole(&self.client, changed, &new)
    }

    fn differences(&self, before: &str, after: &str) -> Vec<TextEdit> {
        let lines = Lines::new(before);
        let text = Text { text: before, lines: &lines, encoding: self.client.encoding };
        let starts: Vec<usize> = std::iter::once(0)
            .chain(before.split_inclusive('\n').scan(0, |at, line| {
                *at += line.len();
                Some(*at)
            }))
            .collect();
        let size = |at: usize| TextSize::try_from(at).unwrap_or_default();
        let old: Vec<&str> = before.split_inclusive('\n').collect();
        let fresh: Vec<&str> = after.split_inclusive('\n').collect();
        leitmotiv_migrate::diff::replaced(&old, &fresh)
            .into_iter()
            .map(|(gone, come)| TextEdit {
                range: text.range(TextRange::new(size(starts[gone.start]), size(starts[gone.end]))),
                new_text: fresh[come].concat(),
            })
            .collect()
    }
}
