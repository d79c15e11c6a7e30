//! The server's loop: one thread takes what the client says, in its order; what takes time is done on others, from snapshots.
//!
//! A change is told to the sessions before anything else is asked, which gives up whatever is being worked out from what was before: nothing
//! stale is ever answered.

use std::collections::HashMap;
use std::panic::AssertUnwindSafe;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use crossbeam_channel::{Receiver, Sender, after, never, select, unbounded};
use leitmotiv_engine::base::database::FileChange;
use leitmotiv_engine::base::file::File;
use leitmotiv_project::Surroundings;
use lsp_server::{ErrorCode, Message, Notification, Request, RequestId, Response, ResponseError};
use lsp_types::notification::{Notification as _, *};
use lsp_types::request::{ApplyWorkspaceEdit, RegisterCapability, Request as _, ShowDocument, WorkspaceConfiguration};
use lsp_types::*;
use serde::de::DeserializeOwned;
use serde_json::Value;

use crate::capabilities;
use crate::client::{Client, Options};
use crate::diagnostics;
use crate::documents::Document;
use crate::folders::{self, Folder, Found, Part};
use crate::requests;
use crate::snapshot::Snapshot;
use crate::uri;
use crate::wire::{Incoming, Outgoing};

/// Work for another thread.
type Job = Box<dyn FnOnce() + Send>;

/// What came of work on another thread.
pub(crate) enum Done {
    /// A request's answer.
    Answer { id: RequestId, result: Result<Value, ResponseError> },
    /// The diagnostics of some of a folder's files, while others are still being checked.
    Found { folder: u64, generation: u64, found: Vec<Found> },
    /// The diagnostics of a folder's files, or why there are none.
    Checked { folder: u64, generation: u64, part: Part, found: Result<Vec<Found>, Halt> },
    /// A change that the client is asked to make.
    Edit { label: String, edit: WorkspaceEdit },
    /// A file that the client is asked to show.
    Show(PathBuf),
    /// Something that the client is to say to whoever sits before it.
    Say(MessageType, String),
    /// A document's diagnostics, as they were pulled.
    Pulled { folder: u64, path: PathBuf, digest: String },
    /// How far long work is.
    Progress(ProgressToken, WorkDoneProgress),
}

/// What the server has asked the client.
enum Question {
    /// Nothing hangs on the answer.
    None,
    /// For its settings.
    Settings,
}

/// How the server ended: whether the client took leave of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum End {
    /// It asked for that, and then to exit.
    Orderly,
    /// It went away, or told the server to exit at once.
    Abrupt,
}

/// So many requests are answered at a time.
const WORKERS: usize = 3;

/// So many documents are remembered as changed last.
const MOST_RECENT: usize = 16;

/// How much stack a thread has that works on requests, in bytes: expressions may be nested deeply.
const STACK: usize = 256 << 20;

/// The server.
pub struct Server {
    out: Sender<Outgoing>,
    jobs: Sender<Job>,
    done: (Sender<Done>, Receiver<Done>),
    surroundings: Surroundings,
    client: Option<Arc<Client>>,
    options: Arc<Options>,
    folders: Vec<Folder>,
    opened: u64,
    documents: HashMap<String, Document>,
    /// The documents that were changed last, the last one first.
    recent: Arc<Vec<PathBuf>>,
    /// The open documents by path, as snapshots know them; made anew when one comes, goes or changes.
    open: Option<Arc<HashMap<PathBuf, (Uri, i32)>>>,
    running: HashMap<RequestId, Arc<AtomicBool>>,
    questions: HashMap<RequestId, Question>,
    asked: i32,
    /// Whether the client asks for the diagnostics of the whole workspace.
    pulls_workspace: bool,
    progress: Option<ProgressToken>,
    /// Who waits until everything is checked.
    waiting: Vec<RequestId>,
    is_down: bool,
}

/// Answered once everything was checked that the server was told of: for tests and measurements.
const SETTLED: &str = "leitmotiv/settled";

impl Server {
    /// A server that writes to a channel.
    #[must_use]
    pub fn new(out: Sender<Outgoing>, surroundings: Surroundings) -> Server {
        let (jobs, work) = unbounded::<Job>();
        for _ in 0..WORKERS {
            let work = work.clone();
            // Where a thread cannot be started, the others do its work.
            let _ = std::thread::Builder::new().stack_size(STACK).spawn(move || work.iter().for_each(|job| job()));
        }
        Server {
            out,
            jobs,
            done: unbounded(),
            surroundings,
            client: None,
            options: Arc::default(),
            folders: Vec::new(),
            opened: 0,
            documents: HashMap::new(),
            recent: Arc::default(),
            open: None,
            running: HashMap::new(),
            questions: HashMap::new(),
            asked: 0,
            pulls_workspace: false,
            progress: None,
            waiting: Vec::new(),
            is_down: false,
        }
    }

    /// Serves until the client leaves.
    pub fn run(&mut self, incoming: &Receiver<Incoming>) -> End {
        let done = self.done.1.clone();
        loop {
            // What has come already is taken together: of ten keystrokes in a row, only the last one's text is checked.
            match incoming.try_recv() {
                Ok(one) => match self.take(one) {
                    Some(end) => return end,
                    None => continue,
                },
                Err(crossbeam_channel::TryRecvError::Disconnected) => return End::Abrupt,
                Err(crossbeam_channel::TryRecvError::Empty) => {}
            }
            self.tell();
            self.check();
            if self.folders.iter().all(Folder::is_idle) {
                self.settled();
            }
            let next = self.folders.iter().filter_map(Folder::next).min();
            let wake = next.map_or_else(never, |next| after(next.saturating_duration_since(Instant::now())));
            select! {
                recv(incoming) -> one => match one {
                    Ok(one) => if let Some(end) = self.take(one) { return end },
                    Err(_) => return End::Abrupt,
                },
                recv(done) -> done => if let Ok(done) = done { self.finish(done) },
                recv(wake) -> _ => {}
            }
        }
    }

    fn take(&mut self, incoming: Incoming) -> Option<End> {
        match incoming {
            Incoming::Malformed(why) => {
                // What has no number that could be read is answered all the same (JSON-RPC 2.0, "Response object").
                let error = serde_json::json!({
                    "jsonrpc": "2.0", "id": null,
                    "error": {"code": ErrorCode::ParseError as i32, "message": format!("this is no message: {why}")},
                });
                self.send(Outgoing::Raw(error.to_string()));
                None
            }
            Incoming::Message(Message::Request(request)) => {
                self.request(request);
                None
            }
            Incoming::Message(Message::Notification(notification)) => self.notification(notification),
            Incoming::Message(Message::Response(response)) => {
                self.answered(response);
                None
            }
        }
    }

    /// Sends; once nobody reads any more, nothing happens, and the stream's end is met soon.
    fn send(&self, message: Outgoing) {
        let _ = self.out.send(message);
    }

    fn notify<N: lsp_types::notification::Notification>(&self, params: N::Params) {
        self.send(Outgoing::Message(Notification::new(N::METHOD.to_owned(), params).into()));
    }

    fn respond(&self, response: Response) {
        self.send(Outgoing::Message(response.into()));
    }

    fn ask<R: lsp_types::request::Request>(&mut self, params: R::Params, question: Question) {
        self.asked += 1;
        let id = RequestId::from(self.asked);
        self.questions.insert(id.clone(), question);
        self.send(Outgoing::Message(Request::new(id, R::METHOD.to_owned(), params).into()));
    }

    fn answered(&mut self, response: Response) {
        if let Some(Question::Settings) = self.questions.remove(&response.id)
            && let Some(Value::Array(values)) = response.result
            && let Some(value) = values.first()
        {
            self.set(value);
        }
    }

    // Requests.

    fn request(&mut self, request: Request) {
        let refuse =
            |code: ErrorCode, words: &str| Response::new_err(request.id.clone(), code as i32, words.to_owned());
        if self.is_down {
            return self.respond(refuse(ErrorCode::InvalidRequest, "the server was asked to shut down"));
        }
        match (request.method.as_str(), &self.client) {
            (lsp_types::request::Initialize::METHOD, None) => self.initialize(request),
            (lsp_types::request::Initialize::METHOD, Some(_)) => {
                self.respond(refuse(ErrorCode::InvalidRequest, "the server was initialized before"));
            }
            (_, None) => self.respond(refuse(ErrorCode::ServerNotInitialized, "`initialize` must come first")),
            (lsp_types::request::Shutdown::METHOD, _) => {
                self.is_down = true;
                self.respond(Response::new_ok(request.id, Value::Null));
            }
            (SETTLED, _) => self.waiting.push(request.id),
            _ => {
                self.tell();
                self.route(request);
            }
        }
    }

    /// Sends a request to where it is answered.
    fn route(&mut self, request: Request) {
        let id = request.id.clone();
        match requests::read(request) {
            Ok(work) => {
                if let requests::Of::Workspace = work.of {
                    self.pulls_workspace |= work.is_pull;
                    self.take_back_closed();
                }
                let snapshots = match &work.of {
                    requests::Of::Workspace => self.snapshots(),
                    requests::Of::Document(uri) => self.snapshot_of(uri).into_iter().collect(),
                };
                let is_cancelled = Arc::new(AtomicBool::new(false));
                self.running.insert(id.clone(), is_cancelled.clone());
                let done = self.done.0.clone();
                let job = move || {
                    let result = if is_cancelled.load(Ordering::Relaxed) {
                        Err(requests::error(ErrorCode::RequestCanceled, "cancelled"))
                    } else {
                        match carried_out(move || (work.answer)(snapshots, &done_of(&done))) {
                            Ok(result) => result,
                            Err(Halt::Changed) => Err(work.given_up),
                            Err(Halt::Fault) => Err(requests::error(
                                ErrorCode::InternalError,
                                "Leitmotiv itself failed at this request",
                            )),
                        }
                    };
                    (id, result)
                };
                let done = self.done.0.clone();
                self.work(move || {
                    let (id, result) = job();
                    let _ = done.send(Done::Answer { id, result });
                });
            }
            Err(error) => self.respond(Response { id, result: None, error: Some(error) }),
        }
    }

    fn work(&self, job: impl FnOnce() + Send + 'static) {
        let _ = self.jobs.send(Box::new(job));
    }

    // What came of work.

    fn finish(&mut self, done: Done) {
        match done {
            Done::Answer { id, result } => {
                // What was cancelled is answered already.
                if self.running.remove(&id).is_some() {
                    let (result, error) = match result {
                        Ok(value) => (Some(value), None),
                        Err(error) => (None, Some(error)),
                    };
                    self.respond(Response { id, result, error });
                }
            }
            Done::Found { folder, generation, found } => self.found(folder, generation, Part::Open, found),
            Done::Checked { folder, generation, part, found } => self.checked(folder, generation, part, found),
            Done::Edit { label, edit } => {
                let params = ApplyWorkspaceEditParams { label: Some(label), edit };
                self.ask::<ApplyWorkspaceEdit>(params, Question::None);
            }
            Done::Show(path) => self.show(&path),
            Done::Say(kind, message) => self.notify::<ShowMessage>(ShowMessageParams { typ: kind, message }),
            Done::Pulled { folder, path, digest } => {
                if let Some(folder) = self.folders.iter_mut().find(|one| one.number == folder) {
                    folder.pulled.insert(path, digest);
                }
            }
            Done::Progress(token, value) => {
                let value = ProgressParamsValue::WorkDone(value);
                self.notify::<Progress>(ProgressParams { token, value });
            }
        }
    }

    fn show(&mut self, path: &Path) {
        let Some(uri) = uri::of_path(path) else { return };
        if self.client.as_ref().is_some_and(|client| client.shows_documents) {
            let params = ShowDocumentParams { uri, external: None, take_focus: Some(true), selection: None };
            self.ask::<ShowDocument>(params, Question::None);
        } else {
            let message = format!("It is written down in {}", path.display());
            self.notify::<ShowMessage>(ShowMessageParams { typ: MessageType::INFO, message });
        }
    }

    // Checks.

    /// Begins what checks are due.
    fn check(&mut self) {
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

    fn checked(&mut self, number: u64, generation: u64, part: Part, found: Result<Vec<Found>, Halt>) {
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
    fn found(&mut self, number: u64, generation: u64, part: Part, found: Vec<Found>) {
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
    fn settled(&mut self) {
        self.end_progress();
        for id in std::mem::take(&mut self.waiting) {
            self.respond(Response::new_ok(id, Value::Null));
        }
    }

    fn publish(&self, news: Vec<Found>) {
        for one in news {
            let Found { uri, version, diagnostics, .. } = one;
            self.notify::<PublishDiagnostics>(PublishDiagnosticsParams { uri, diagnostics, version });
        }
    }

    /// Once the client asks for the diagnostics of the workspace, what was pushed would be shown twice.
    fn take_back_closed(&mut self) {
        if self.pulls_workspace {
            let news: Vec<Found> = self.folders.iter_mut().flat_map(Folder::take_back).collect();
            self.publish(news);
        }
    }

    fn begin_progress(&mut self) {
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

    fn end_progress(&mut self) {
        if let Some(token) = self.progress.take() {
            let end = WorkDoneProgressEnd { message: None };
            let value = ProgressParamsValue::WorkDone(WorkDoneProgress::End(end));
            self.notify::<Progress>(ProgressParams { token, value });
        }
    }

    // The workspace.

    /// Tells the sessions of what was changed.
    fn tell(&mut self) {
        let mut troubles = Vec::new();
        for folder in &mut self.folders {
            let before = folder.trouble.clone();
            folder.tell(false);
            troubles.extend(folder.trouble.clone().filter(|now| before.as_ref() != Some(now)));
        }
        for trouble in troubles {
            self.notify::<ShowMessage>(ShowMessageParams {
                typ: MessageType::ERROR,
                message: format!("Leitmotiv: {trouble}"),
            });
        }
    }

    fn open_documents(&mut self) -> Arc<HashMap<PathBuf, (Uri, i32)>> {
        let documents = &self.documents;
        self.open
            .get_or_insert_with(|| {
                let open = documents.values().filter(|document| document.is_python);
                let named = open.filter_map(|one| Some((one.path.clone()?, (one.uri.clone(), one.version))));
                Arc::new(named.collect())
            })
            .clone()
    }

    fn snapshots(&mut self) -> Vec<Snapshot> {
        let Some(client) = self.client.clone() else { return Vec::new() };
        let open = self.open_documents();
        self.folders.iter().filter_map(|folder| folder.snapshot(&client, &self.options, &open)).collect()
    }

    fn snapshot_of(&mut self, uri: &Uri) -> Option<Snapshot> {
        let client = self.client.clone()?;
        let open = self.open_documents();
        let path = uri::real(&uri::to_path(uri)?);
        // A file outside, as of a library, is asked about in the project that it was reached from: the first that knows it.
        let snapshot = |folder: &Folder| folder.snapshot(&client, &self.options, &open);
        let own = self.folder_of(&path).and_then(|at| snapshot(&self.folders[at]));
        own.or_else(|| {
            let all: Vec<Snapshot> = self.folders.iter().filter_map(snapshot).collect();
            all.into_iter().find(|one| one.file_at(&path).is_some())
        })
    }

    /// The innermost folder that a path lies in.
    fn folder_of(&self, path: &Path) -> Option<usize> {
        let within = self.folders.iter().enumerate().filter(|(_, folder)| path.starts_with(&folder.root));
        within.max_by_key(|(_, folder)| folder.root.components().count()).map(|(at, _)| at)
    }

    fn add_folder(&mut self, root: PathBuf) {
        let root = uri::real(&root);
        if self.folders.iter().any(|folder| folder.root == root) {
            return;
        }
        self.opened += 1;
        let held = self.held_below(&root);
        let surroundings = self.options.surroundings(&self.surroundings);
        let folder = Folder::open(self.opened, root, &surroundings, held);
        if let Some(trouble) = &folder.trouble {
            let message = format!("Leitmotiv: {trouble}");
            self.notify::<ShowMessage>(ShowMessageParams { typ: MessageType::ERROR, message });
        }
        self.folders.push(folder);
        self.begin_progress();
    }

    fn held_below(&self, root: &Path) -> Vec<FileChange> {
        let documents = self.documents.values().filter(|document| document.is_python);
        documents
            .filter_map(|document| {
                let path = document.path.clone().filter(|path| path.starts_with(root))?;
                Some(FileChange::Held { path, text: document.text.clone() })
            })
            .collect()
    }

    fn set(&mut self, value: &Value) {
        match Options::read(value) {
            Ok(options) if options != *self.options => {
                let is_other = options.interpreter != self.options.interpreter;
                self.options = Arc::new(options);
                if is_other {
                    self.begin_anew(&|_| true);
                }
                if self.client.as_ref().is_some_and(|client| client.refreshes_hints) {
                    self.ask::<lsp_types::request::InlayHintRefreshRequest>((), Question::None);
                }
            }
            Ok(_) => {}
            Err(why) => {
                let message = format!("Leitmotiv: these settings cannot be used: {why}");
                self.notify::<ShowMessage>(ShowMessageParams { typ: MessageType::WARNING, message });
            }
        }
    }

    /// Opens sessions anew: for another interpreter, or where a configuration could not be used.
    fn begin_anew(&mut self, is_meant: &dyn Fn(&Folder) -> bool) {
        let surroundings = self.options.surroundings(&self.surroundings);
        for at in 0..self.folders.len() {
            if is_meant(&self.folders[at]) {
                let held = self.held_below(&self.folders[at].root.clone());
                self.folders[at].begin(&surroundings, held);
                if let Some(trouble) = &self.folders[at].trouble {
                    let message = format!("Leitmotiv: {trouble}");
                    self.notify::<ShowMessage>(ShowMessageParams { typ: MessageType::ERROR, message });
                    let news = self.folders[at].take_back();
                    self.publish(news);
                }
            }
        }
    }

    fn initialize(&mut self, request: Request) {
        let raw = request.params;
        let params: InitializeParams = match serde_json::from_value(raw.clone()) {
            Ok(params) => params,
            Err(error) => {
                let message = format!("`initialize` cannot be read: {error}");
                return self.respond(Response::new_err(request.id, ErrorCode::InvalidParams as i32, message));
            }
        };
        let client = Arc::new(Client::new(&params, &raw));
        self.client = Some(client.clone());
        if let Some(options) = &params.initialization_options {
            self.set(options);
        }
        self.respond(Response::new_ok(request.id, capabilities::result(&client)));
        #[allow(deprecated)]
        let root = params.root_uri.as_ref().and_then(uri::to_path).or(params.root_path.map(PathBuf::from));
        let folders: Vec<PathBuf> = match &params.workspace_folders {
            Some(folders) if !folders.is_empty() => {
                folders.iter().filter_map(|folder| uri::to_path(&folder.uri)).collect()
            }
            _ => root.into_iter().collect(),
        };
        for folder in folders {
            self.add_folder(folder);
        }
    }

    // Notifications.

    fn notification(&mut self, notification: Notification) -> Option<End> {
        let Notification { method, params } = notification;
        if method == Exit::METHOD {
            return Some(if self.is_down { End::Orderly } else { End::Abrupt });
        }
        if self.client.is_none() || self.is_down {
            return None;
        }
        match method.as_str() {
            Initialized::METHOD => self.initialized(),
            Cancel::METHOD => {
                if let Some(params) = read::<CancelParams>(params) {
                    let id = match params.id {
                        NumberOrString::Number(number) => RequestId::from(number),
                        NumberOrString::String(text) => RequestId::from(text),
                    };
                    if let Some(is_cancelled) = self.running.remove(&id) {
                        is_cancelled.store(true, Ordering::Relaxed);
                        self.respond(Response::new_err(id, ErrorCode::RequestCanceled as i32, "cancelled".to_owned()));
                    }
                }
            }
            DidOpenTextDocument::METHOD => {
                if let Some(params) = read::<DidOpenTextDocumentParams>(params) {
                    self.opened(params.text_document);
                }
            }
            DidChangeTextDocument::METHOD => {
                if let Some(params) = read::<DidChangeTextDocumentParams>(params) {
                    self.changed(params);
                }
            }
            DidSaveTextDocument::METHOD => {
                if let Some(params) = read::<DidSaveTextDocumentParams>(params) {
                    self.saved(&params.text_document.uri);
                }
            }
            DidCloseTextDocument::METHOD => {
                if let Some(params) = read::<DidCloseTextDocumentParams>(params) {
                    self.closed(&params.text_document.uri);
                }
            }
            DidChangeWatchedFiles::METHOD => {
                if let Some(params) = read::<DidChangeWatchedFilesParams>(params) {
                    for change in params.changes {
                        if let Some(path) = uri::to_path(&change.uri) {
                            self.on_disk(&uri::real(&path));
                        }
                    }
                }
            }
            DidChangeWorkspaceFolders::METHOD => {
                if let Some(params) = read::<DidChangeWorkspaceFoldersParams>(params) {
                    for removed in params.event.removed {
                        self.remove_folder(&removed.uri);
                    }
                    for added in params.event.added.iter().filter_map(|added| uri::to_path(&added.uri)) {
                        self.add_folder(added);
                    }
                }
            }
            DidChangeConfiguration::METHOD => {
                if self.client.as_ref().is_some_and(|client| client.has_configuration) {
                    self.ask_settings();
                } else if let Some(params) = read::<DidChangeConfigurationParams>(params) {
                    self.set(&params.settings);
                }
            }
            // What begins with `$/` may be ignored, and so may what is not known.
            _ => {}
        }
        None
    }

    fn initialized(&mut self) {
        let Some(client) = self.client.clone() else { return };
        if client.registers_watchers {
            let params = RegistrationParams { registrations: vec![capabilities::watchers()] };
            self.ask::<RegisterCapability>(params, Question::None);
        }
        if client.has_configuration {
            self.ask_settings();
        }
    }

    fn ask_settings(&mut self) {
        let item = ConfigurationItem { scope_uri: None, section: Some("leitmotiv".to_owned()) };
        self.ask::<WorkspaceConfiguration>(ConfigurationParams { items: vec![item] }, Question::Settings);
    }

    fn opened(&mut self, item: TextDocumentItem) {
        let path = uri::to_path(&item.uri).map(|path| uri::real(&path));
        let is_python = item.language_id == "python"
            || path.as_ref().is_some_and(|path| path.extension().is_some_and(|end| end == "py" || end == "pyi"));
        let document = Document {
            uri: item.uri.clone(),
            version: item.version,
            text: item.text,
            path: path.clone(),
            is_python: is_python && path.is_some(),
        };
        if let Some(path) = path.filter(|_| document.is_python) {
            // A file on its own is of the project around it.
            if self.folder_of(&path).is_none()
                && self.snapshots().iter().all(|snapshot| snapshot.file_at(&path).is_none())
                && let Some(root) = folders::around(&path)
            {
                self.add_folder(root);
            }
            self.note(&path, FileChange::Held { path: path.clone(), text: document.text.clone() });
        }
        self.documents.insert(item.uri.as_str().to_owned(), document);
        self.open = None;
    }

    fn changed(&mut self, params: DidChangeTextDocumentParams) {
        let Some(encoding) = self.client.as_ref().map(|client| client.encoding) else { return };
        let Some(document) = self.documents.get_mut(params.text_document.uri.as_str()) else { return };
        document.change(encoding, params.content_changes);
        document.version = params.text_document.version;
        self.open = None;
        if let Some(path) = document.path.clone().filter(|_| document.is_python) {
            let text = document.text.clone();
            if self.recent.first() != Some(&path) {
                let others = self.recent.iter().filter(|other| **other != path).take(MOST_RECENT).cloned();
                self.recent = Arc::new(std::iter::once(path.clone()).chain(others).collect());
            }
            self.note(&path, FileChange::Held { path: path.clone(), text });
        }
    }

    fn saved(&mut self, uri: &Uri) {
        let Some(document) = self.documents.get(uri.as_str()) else { return };
        // Only what is saved is configuration, or a ledger; of Python, what the client holds counts anyway.
        if let Some(path) = document.path.clone().filter(|_| !document.is_python) {
            self.on_disk(&path);
        }
    }

    fn closed(&mut self, uri: &Uri) {
        let Some(document) = self.documents.remove(uri.as_str()) else { return };
        self.open = None;
        if let Some(path) = document.path.filter(|_| document.is_python) {
            // The same file may be open under another name.
            let other = self.documents.values().find(|other| other.is_python && other.path.as_ref() == Some(&path));
            let change = match other {
                Some(other) => FileChange::Held { path: path.clone(), text: other.text.clone() },
                None => FileChange::OnDisk { path: path.clone() },
            };
            self.note(&path, change);
        }
    }

    /// A file or folder on disk may have changed.
    fn on_disk(&mut self, path: &Path) {
        if self.documents.values().any(|document| document.is_python && document.path.as_deref() == Some(path)) {
            return;
        }
        let is_closed = self.folder_of(path).is_some_and(|at| !self.folders[at].is_open());
        if is_closed {
            let root = self.folder_of(path).map(|at| self.folders[at].root.clone());
            self.begin_anew(&|folder| Some(&folder.root) == root.as_ref());
            return;
        }
        self.note(path, FileChange::OnDisk { path: path.to_owned() });
    }

    /// Notes a change for every folder that it may concern: its own, and where it is of none, as a library's, all.
    fn note(&mut self, path: &Path, change: FileChange) {
        match self.folder_of(path) {
            Some(at) => self.folders[at].note(change),
            None => self.folders.iter_mut().for_each(|folder| folder.note(change.clone())),
        }
    }

    fn remove_folder(&mut self, uri: &Uri) {
        let Some(root) = uri::to_path(uri).map(|path| uri::real(&path)) else { return };
        let at = self.folders.iter().position(|folder| folder.root == root);
        if let Some(mut folder) = at.map(|at| self.folders.remove(at)) {
            let news = folder.take_back();
            self.publish(news);
        }
    }
}

fn read<T: DeserializeOwned>(params: Value) -> Option<T> {
    serde_json::from_value(params).ok()
}

/// How answers say more than their result.
fn done_of(done: &Sender<Done>) -> impl Fn(Done) + use<> {
    let done = done.clone();
    move |one| {
        let _ = done.send(one);
    }
}

/// Why work came to nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Halt {
    /// Something was changed meanwhile.
    Changed,
    /// The program itself failed; the server lives on.
    Fault,
}

/// Carries out work on a snapshot.
fn carried_out<T>(work: impl FnOnce() -> T) -> Result<T, Halt> {
    std::panic::catch_unwind(AssertUnwindSafe(work)).map_err(|payload| match payload.is::<salsa::Cancelled>() {
        true => Halt::Changed,
        false => Halt::Fault,
    })
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

/// How long the server waits for its threads at the end.
pub const PATIENCE: Duration = Duration::from_millis(500);
