//! What requests are answered from: a project as it is at one moment, and what is known of the client.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::SystemTime;

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::view::places::Place;
use leitmotiv_migrate::session::Session;
use leitmotiv_project::write::note;
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{TextRange, TextSize};
use leitmotiv_trace::records::Records;
use lsp_types::{
    CreateFile, DocumentChangeOperation, DocumentChanges, Location, OneOf, OptionalVersionedTextDocumentIdentifier,
    Position, Range, ResourceOp, TextDocumentEdit, TextEdit, Uri, WorkspaceEdit,
};

use crate::client::{Client, Options};
use crate::diagnostics::Pages;
use crate::encoding::Text;
use crate::uri;

/// A project at one moment.
#[derive(Clone)]
pub struct Snapshot {
    /// The session.
    pub session: Session,
    /// The files that are checked.
    pub files: Arc<Vec<File>>,
    /// The client.
    pub client: Arc<Client>,
    /// What users set.
    pub options: Arc<Options>,
    /// The documents that the client holds open, by their paths: what it calls them, and their versions.
    pub open: Arc<HashMap<PathBuf, (Uri, i32)>>,
    /// The rules' pages that were written out.
    pub pages: Arc<Pages>,
    /// The number of the folder.
    pub folder: u64,
    /// What was recorded of the project's runs.
    pub recorded: Arc<Recorded>,
}

/// What was recorded of a project's runs, as it was last read.
#[derive(Default)]
pub struct Recorded(Mutex<Option<(SystemTime, Arc<Records>)>>);

/// The folder in the project's own that stubs of the standard library are written to when they are to be shown.
const LIBRARY: &str = "library-";

impl Snapshot {
    /// The file of a document.
    #[must_use]
    pub fn file(&self, uri: &Uri) -> Option<File> {
        let path = uri::real(&uri::to_path(uri)?);
        self.file_at(&path)
    }

    /// The file at a path.
    #[must_use]
    pub fn file_at(&self, path: &Path) -> Option<File> {
        let db = &self.session.db;
        if let Some(known) = db.known(path) {
            return Some(known);
        }
        if let Some(module) = shown_library(&self.session.project().root, path) {
            return db.bundled(db.names().intern(&module));
        }
        let is_python = path.extension().is_some_and(|extension| extension == "py" || extension == "pyi");
        let is_there = path.is_file() || self.open.contains_key(path);
        (is_python && is_there).then(|| db.source(path))
    }

    /// A file's text in the client's terms.
    #[must_use]
    pub fn text(&self, file: File) -> Text<'_> {
        let db = &self.session.db;
        Text { text: file.text(db), lines: &module_index(db, file).lines.0, encoding: self.client.encoding }
    }

    /// The byte at a position.
    #[must_use]
    pub fn offset(&self, file: File, position: Position) -> TextSize {
        self.text(file).offset(position)
    }

    /// A stretch in the client's terms.
    #[must_use]
    pub fn range(&self, file: File, range: TextRange) -> Range {
        self.text(file).range(range)
    }

    /// What the client calls a file; a stub of the standard library is written out for it.
    #[must_use]
    pub fn uri(&self, file: File) -> Option<Uri> {
        let db = &self.session.db;
        if let Some(path) = file.disk(db) {
            return match self.open.get(path) {
                Some((uri, _)) => Some(uri.clone()),
                None => uri::of_path(path),
            };
        }
        if !file.path(db).starts_with("<bundle>") {
            return None;
        }
        let name = format!("{LIBRARY}{}.pyi", db.names().text(file.module(db)));
        let root = &self.session.project().root;
        let text = file.text(db);
        if note::read(root, &name).is_none_or(|known| known != text.as_bytes()) {
            note::write(root, &name, text.as_bytes()).ok()?;
        }
        uri::of_path(&note::path(root, &name))
    }

    /// A place as the client is told of it.
    #[must_use]
    pub fn location(&self, (file, range): Place) -> Option<Location> {
        Some(Location { uri: self.uri(file)?, range: self.range(file, range) })
    }

    /// The version of a document that the client holds open.
    #[must_use]
    pub fn version(&self, file: File) -> Option<i32> {
        self.open.get(file.disk(&self.session.db)?).map(|(_, version)| *version)
    }

    /// What was recorded of the project's runs; read again when it was written since.
    #[must_use]
    pub fn records(&self) -> Option<Arc<Records>> {
        let root = &self.session.project().root;
        let written = leitmotiv_trace::store::path(root).metadata().and_then(|metadata| metadata.modified()).ok()?;
        let mut recorded = self.recorded.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some((known, records)) = &*recorded
            && *known == written
        {
            return Some(records.clone());
        }
        // A store that cannot be read is as good as none: those who ask for it by its command are told.
        let records = Arc::new(Records::of(root).ok().flatten()?);
        *recorded = Some((written, records.clone()));
        Some(records)
    }

    /// Edits of a file in the client's terms.
    #[must_use]
    pub fn edits(&self, file: File, edits: &[Edit]) -> Vec<TextEdit> {
        let text = self.text(file);
        edits
            .iter()
            .map(|edit| TextEdit {
                range: text.range(TextRange::new(edit.start, edit.end)),
                new_text: edit.text.clone(),
            })
            .collect()
    }

    /// Edits of files as one change.
    #[must_use]
    pub fn change(&self, edits: &[(File, Edit)]) -> Option<WorkspaceEdit> {
        let mut files: Vec<(File, Vec<Edit>)> = Vec::new();
        for (file, edit) in edits {
            match files.iter_mut().find(|(known, _)| known == file) {
                Some((_, own)) => own.push(edit.clone()),
                None => files.push((*file, vec![edit.clone()])),
            }
        }
        let mut changes = Vec::new();
        for (file, own) in &files {
            changes.push(Changed {
                uri: self.uri(*file)?,
                version: self.version(*file),
                edits: self.edits(*file, own),
            });
        }
        Some(whole(&self.client, changes, &[]))
    }
}

/// The module whose stub was written out to a path.
fn shown_library(root: &Path, path: &Path) -> Option<String> {
    let name = path.file_name()?.to_str()?.strip_prefix(LIBRARY)?.strip_suffix(".pyi")?;
    (path.parent()? == note::path(root, "").as_path()).then(|| name.to_owned())
}

/// A document's edits.
pub struct Changed {
    /// The document.
    pub uri: Uri,
    /// Its version, where the client holds it open.
    pub version: Option<i32>,
    /// What changes.
    pub edits: Vec<TextEdit>,
}

/// Edits of documents, and new files, as one change; by version where the client knows that.
#[must_use]
#[allow(clippy::mutable_key_type)]
pub fn whole(client: &Client, changes: Vec<Changed>, new: &[(Uri, String)]) -> WorkspaceEdit {
    if !client.has_document_changes {
        let changes = changes.into_iter().map(|changed| (changed.uri, changed.edits)).collect();
        return WorkspaceEdit::new(changes);
    }
    let edit = |uri: &Uri, version: Option<i32>, edits: Vec<TextEdit>| {
        let text_document = OptionalVersionedTextDocumentIdentifier { uri: uri.clone(), version };
        let edits = edits.into_iter().map(OneOf::Left).collect();
        DocumentChangeOperation::Edit(TextDocumentEdit { text_document, edits })
    };
    let mut operations = Vec::new();
    for (uri, text) in new {
        let create = CreateFile { uri: uri.clone(), options: None, annotation_id: None };
        operations.push(DocumentChangeOperation::Op(ResourceOp::Create(create)));
        let start = Range::default();
        operations.push(edit(uri, None, vec![TextEdit { range: start, new_text: text.clone() }]));
    }
    operations.extend(changes.into_iter().map(|changed| edit(&changed.uri, changed.version, changed.edits)));
    WorkspaceEdit { document_changes: Some(DocumentChanges::Operations(operations)), ..WorkspaceEdit::default() }
}
