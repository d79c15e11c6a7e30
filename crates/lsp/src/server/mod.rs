//! The server's loop: one thread takes what the client says, in its order; what takes time is done on others, from snapshots.
//!
//! A change is told to the sessions before anything else is asked, which gives up whatever is being worked out from what was before: nothing
//! stale is ever answered.
//!
//! - this file: the loop, requests, and what came of them
//! - `workspace`: folders, settings, projects as requests see them
//! - `notifications`: what the client tells
//! - `checks`: when is checked, and what of it is told

mod checks;
mod notifications;
mod workspace;

use std::collections::HashMap;
use std::panic::AssertUnwindSafe;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use crossbeam_channel::{Receiver, Sender, after, never, select, unbounded};
use leitmotiv_project::Surroundings;
use lsp_server::{ErrorCode, Message, Notification, Request, RequestId, Response, ResponseError};
use lsp_types::notification::*;
use lsp_types::request::{ApplyWorkspaceEdit, Request as _, ShowDocument};
use lsp_types::*;
use serde_json::Value;

use crate::client::{Client, Options};
use crate::documents::Document;
use crate::folders::{Folder, Found, Part};
use crate::requests;
use crate::uri;
use crate::wire::{Incoming, Outgoing};

/// Work for another thread.
type Job = Box<dyn FnOnce() + Send>;

/// What came of work on another thread.
pub(crate) enum Done {
    /// A request's answer.
    Answer {
        id: RequestId,
        result: Result<Value, ResponseError>,
        /// The folders that it was answered from, each with what it had been told by then, and what is answered in its place where that is no
        /// longer all.
        asked: Option<(Vec<(u64, u64)>, ResponseError)>,
    },
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
                let generation = |number: u64| {
                    let folder = self.folders.iter().find(|folder| folder.number == number);
                    folder.map_or(0, |folder| folder.generation)
                };
                let from = snapshots.iter().map(|snapshot| (snapshot.folder, generation(snapshot.folder))).collect();
                let asked = (!work.may_age).then(|| (from, work.given_up.clone()));
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
                    let _ = done.send(Done::Answer { id, result, asked });
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
            Done::Answer { id, result, asked } => {
                // What was cancelled is answered already.
                if self.running.remove(&id).is_some() {
                    let is_same = |(number, generation): &(u64, u64)| {
                        self.folders.iter().any(|one| one.number == *number && one.is_current(*generation))
                    };
                    // What was worked out before the last change may be of other places by now.
                    let result = match asked {
                        Some((from, given_up)) if !from.iter().all(is_same) => Err(given_up),
                        _ => result,
                    };
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

/// How long the server waits for its threads at the end.
pub const PATIENCE: Duration = Duration::from_millis(500);
