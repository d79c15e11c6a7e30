//! Folders of the workspace: each a project, with its session, and what the client was told of it.

use std::collections::{HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::{Duration, Instant};

use leitmotiv_engine::base::database::FileChange;
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::session::{Asked, Session, SessionError};
use leitmotiv_project::{Project, ProjectError, Surroundings};
use lsp_types::{Diagnostic, Uri};

use crate::client::{Client, Options};
use crate::diagnostics::{self, Pages};
use crate::snapshot::{Recorded, Snapshot};

/// After so long without a change, the files that nobody has open are checked as well.
const QUIET: Duration = Duration::from_millis(250);

/// A folder of the workspace.
pub struct Folder {
    /// Tells it from others, and from what was opened at its place before.
    pub number: u64,
    /// The folder, with links followed.
    pub root: PathBuf,
    /// Its session, where it could be opened.
    session: Option<Session>,
    /// Why it could not, or what is wrong with its configuration since.
    pub trouble: Option<String>,
    files: Arc<Vec<File>>,
    listed: HashSet<PathBuf>,
    pages: Arc<Pages>,
    recorded: Arc<Recorded>,
    /// What was changed since the session was told.
    changes: Vec<FileChange>,
    /// Rises whenever the session is told of something.
    pub generation: u64,
    /// Whether a check is under way.
    pub is_checking: bool,
    /// Whether open documents are to be checked.
    is_open_due: bool,
    /// When all files are to be checked.
    whole_due: Option<Instant>,
    /// What the client was told of each file: under which name, of which version, and what.
    told: HashMap<PathBuf, Told>,
    /// The results that the client has pulled.
    pub pulled: HashMap<PathBuf, String>,
}

/// What the client was told of a file.
struct Told {
    uri: Uri,
    version: Option<i32>,
    digest: String,
}

/// Diagnostics of one file, as a check found them.
#[derive(Debug)]
pub struct Found {
    /// Where the file lies.
    pub path: PathBuf,
    /// What the client calls it.
    pub uri: Uri,
    /// The version that was checked, of an open document.
    pub version: Option<i32>,
    /// What was found.
    pub diagnostics: Vec<Diagnostic>,
}

/// What a check is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Part {
    /// The documents that are open.
    Open,
    /// All files.
    Whole,
}

impl Folder {
    /// Opens a folder.
    #[must_use]
    pub fn open(number: u64, root: PathBuf, surroundings: &Surroundings, held: Vec<FileChange>) -> Folder {
        let mut folder = Folder {
            number,
            root,
            session: None,
            trouble: None,
            files: Arc::default(),
            listed: HashSet::new(),
            pages: Arc::default(),
            recorded: Arc::default(),
            changes: Vec::new(),
            generation: 0,
            is_checking: false,
            is_open_due: false,
            whole_due: None,
            told: HashMap::new(),
            pulled: HashMap::new(),
        };
        folder.begin(surroundings, held);
        folder
    }

    /// Opens the session, or opens it anew, with the documents that are held.
    pub fn begin(&mut self, surroundings: &Surroundings, held: Vec<FileChange>) {
        // What was begun on the old session is of no use any more.
        self.generation += 1;
        self.session = None;
        self.trouble = None;
        match open(&self.root, surroundings) {
            Ok(session) => {
                self.session = Some(session);
                self.changes = held;
                self.is_open_due = true;
                self.whole_due = Some(Instant::now());
                self.tell(true);
            }
            Err(error) => {
                self.trouble = Some(error.to_string());
                self.files = Arc::default();
                self.listed.clear();
            }
        }
    }

    /// Whether its project could be opened.
    #[must_use]
    pub fn is_open(&self) -> bool {
        self.session.is_some()
    }

    /// Notes a change; the session is told before anything is asked of it.
    pub fn note(&mut self, change: FileChange) {
        // Of texts that follow each other, the last one counts.
        if let (FileChange::Held { path, text }, Some(FileChange::Held { path: last, text: before })) =
            (&change, self.changes.last_mut())
            && path == last
        {
            before.clone_from(text);
            return;
        }
        self.changes.push(change);
    }

    /// Tells the session of what was changed, if anything was. Whether the client may see other things now.
    pub fn tell(&mut self, is_new: bool) -> bool {
        if self.changes.is_empty() && !is_new {
            return false;
        }
        let Some(session) = &mut self.session else {
            self.changes.clear();
            return false;
        };
        let changes = std::mem::take(&mut self.changes);
        self.generation += 1;
        let told = session.apply(&changes);
        let is_text = |change: &FileChange| match change {
            FileChange::Held { path, .. } => self.listed.contains(path),
            FileChange::OnDisk { .. } => false,
        };
        let mut trouble = told.err().map(|error| error.to_string());
        if is_new || !changes.iter().all(is_text) {
            match session.files(&[]) {
                Ok(files) => {
                    let db = &session.db;
                    self.listed = files.iter().filter_map(|file| file.disk(db).map(Path::to_owned)).collect();
                    self.files = Arc::new(files);
                }
                Err(error) => trouble = trouble.or(Some(error.to_string())),
            }
            if let Err(error) = session.prepare(&Asked::default()) {
                trouble = trouble.or(Some(error.to_string()));
            }
            self.trouble = trouble;
        }
        self.is_open_due = true;
        self.whole_due = Some(Instant::now() + QUIET);
        true
    }

    /// The project as it is now; changes must have been told.
    #[must_use]
    pub fn snapshot(
        &self,
        client: &Arc<Client>,
        options: &Arc<Options>,
        open: &Arc<HashMap<PathBuf, (Uri, i32)>>,
    ) -> Option<Snapshot> {
        Some(Snapshot {
            session: self.session.clone()?,
            files: self.files.clone(),
            client: client.clone(),
            options: options.clone(),
            open: open.clone(),
            pages: self.pages.clone(),
            folder: self.number,
            recorded: self.recorded.clone(),
        })
    }

    /// What is to be checked next, if anything is, and no check is under way.
    pub fn due(&mut self) -> Option<Part> {
        if self.is_checking || self.session.is_none() {
            return None;
        }
        if std::mem::take(&mut self.is_open_due) {
            return Some(Part::Open);
        }
        if self.whole_due.is_some_and(|due| due <= Instant::now()) {
            self.whole_due = None;
            return Some(Part::Whole);
        }
        None
    }

    /// When something is to be checked next.
    #[must_use]
    pub fn next(&self) -> Option<Instant> {
        self.whole_due.filter(|_| !self.is_checking && self.session.is_some())
    }

    /// Whether what was found at a moment is what would be found now.
    #[must_use]
    pub fn is_current(&self, generation: u64) -> bool {
        self.generation == generation && self.changes.is_empty()
    }

    /// Notes that a check came to nothing, as something was changed meanwhile.
    pub fn missed(&mut self, part: Part) {
        match part {
            Part::Open => self.is_open_due = true,
            Part::Whole => self.whole_due = self.whole_due.or(Some(Instant::now() + QUIET)),
        }
    }

    /// Whether everything was checked that is to be.
    #[must_use]
    pub fn is_idle(&self) -> bool {
        self.session.is_none()
            || !self.is_checking && !self.is_open_due && self.whole_due.is_none() && self.changes.is_empty()
    }

    /// What the client is to be told after a check: what differs from what it was told before.
    pub fn news(&mut self, part: Part, found: Vec<Found>) -> Vec<Found> {
        let mut news = Vec::new();
        let mut seen = HashSet::new();
        for one in found {
            seen.insert(one.path.clone());
            let digest = diagnostics::digest(&one.diagnostics);
            let is_known = match self.told.get(&one.path) {
                Some(told) => told.digest == digest && told.version == one.version && told.uri == one.uri,
                None => one.diagnostics.is_empty() && one.version.is_none(),
            };
            if !is_known {
                let told = Told { uri: one.uri.clone(), version: one.version, digest };
                // A document that has got another name goes under its old one.
                if let Some(before) = self.told.insert(one.path.clone(), told)
                    && before.uri != one.uri
                {
                    news.push(Found {
                        path: one.path.clone(),
                        uri: before.uri,
                        version: None,
                        diagnostics: Vec::new(),
                    });
                }
                news.push(one);
            }
        }
        if part == Part::Whole {
            let gone: Vec<PathBuf> = self.told.keys().filter(|path| !seen.contains(*path)).cloned().collect();
            for path in gone {
                if let Some(told) = self.told.remove(&path) {
                    news.push(Found { path, uri: told.uri, version: None, diagnostics: Vec::new() });
                }
            }
        }
        news
    }

    /// Everything that the client was told, taken back.
    pub fn take_back(&mut self) -> Vec<Found> {
        let all = self.told.drain();
        all.map(|(path, told)| Found { path, uri: told.uri, version: None, diagnostics: Vec::new() }).collect()
    }
}

fn open(root: &Path, surroundings: &Surroundings) -> Result<Session, SessionError> {
    let project = match Project::open(root, None, surroundings) {
        Ok(project) => project,
        // An interpreter that the editor names, and that is not there, is no reason to know nothing.
        Err(ProjectError::NoInterpreter(..)) if surroundings.by_editor => {
            Project::open(root, None, &Surroundings { interpreter: None, ..surroundings.clone() })?
        }
        Err(error) => return Err(error.into()),
    };
    Session::open(project)?.with_ledger()
}

/// The project's folder that a file on its own belongs to: the nearest around it that is configured, has a ledger or is a repository, or its
/// own.
#[must_use]
pub fn around(path: &Path) -> Option<PathBuf> {
    const MARKS: &[&str] = &["leitmotiv.toml", "leitmotiv.ledger", "pyproject.toml", ".git"];
    let folder = path.parent()?;
    let marked = folder.ancestors().find(|above| MARKS.iter().any(|mark| above.join(mark).exists()));
    Some(marked.unwrap_or(folder).to_owned())
}
