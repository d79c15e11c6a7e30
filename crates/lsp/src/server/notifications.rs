//! What the client tells: documents, files, folders, settings.

use std::path::Path;
use std::sync::Arc;
use std::sync::atomic::Ordering;

use leitmotiv_engine::base::database::FileChange;
use lsp_server::{ErrorCode, Notification, RequestId, Response};
use lsp_types::notification::{Notification as _, *};
use lsp_types::request::{RegisterCapability, WorkspaceConfiguration};
use lsp_types::*;
use serde::de::DeserializeOwned;
use serde_json::Value;

use super::{End, MOST_RECENT, Question, Server};
use crate::capabilities;
use crate::documents::Document;
use crate::folders;
use crate::uri;

impl Server {
    pub(super) fn notification(&mut self, notification: Notification) -> Option<End> {
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

    pub(super) fn initialized(&mut self) {
        let Some(client) = self.client.clone() else { return };
        if client.registers_watchers {
            let params = RegistrationParams { registrations: vec![capabilities::watchers()] };
            self.ask::<RegisterCapability>(params, Question::None);
        }
        if client.has_configuration {
            self.ask_settings();
        }
    }

    pub(super) fn ask_settings(&mut self) {
        let item = ConfigurationItem { scope_uri: None, section: Some("leitmotiv".to_owned()) };
        self.ask::<WorkspaceConfiguration>(ConfigurationParams { items: vec![item] }, Question::Settings);
    }

    pub(super) fn opened(&mut self, item: TextDocumentItem) {
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

    pub(super) fn changed(&mut self, params: DidChangeTextDocumentParams) {
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

    pub(super) fn saved(&mut self, uri: &Uri) {
        let Some(document) = self.documents.get(uri.as_str()) else { return };
        // Only what is saved is configuration, or a ledger; of Python, what the client holds counts anyway.
        if let Some(path) = document.path.clone().filter(|_| !document.is_python) {
            self.on_disk(&path);
        }
    }

    pub(super) fn closed(&mut self, uri: &Uri) {
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
    pub(super) fn on_disk(&mut self, path: &Path) {
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
    pub(super) fn note(&mut self, path: &Path, change: FileChange) {
        match self.folder_of(path) {
            Some(at) => self.folders[at].note(change),
            None => self.folders.iter_mut().for_each(|folder| folder.note(change.clone())),
        }
    }

    pub(super) fn remove_folder(&mut self, uri: &Uri) {
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
