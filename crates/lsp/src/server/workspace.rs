//! The workspace: its folders and settings, and the projects as requests see them.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::base::database::FileChange;
use lsp_server::{ErrorCode, Request, Response};
use lsp_types::notification::ShowMessage;
use lsp_types::*;
use serde_json::Value;

use super::{Question, Server};
use crate::capabilities;
use crate::client::{Client, Options};
use crate::folders::Folder;
use crate::snapshot::Snapshot;
use crate::uri;

impl Server {
    /// Tells the sessions of what was changed.
    pub(super) fn tell(&mut self) {
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

    pub(super) fn open_documents(&mut self) -> Arc<HashMap<PathBuf, (Uri, i32)>> {
        let documents = &self.documents;
        self.open
            .get_or_insert_with(|| {
                let open = documents.values().filter(|document| document.is_python);
                let named = open.filter_map(|one| Some((one.path.clone()?, (one.uri.clone(), one.version))));
                Arc::new(named.collect())
            })
            .clone()
    }

    pub(super) fn snapshots(&mut self) -> Vec<Snapshot> {
        let Some(client) = self.client.clone() else { return Vec::new() };
        let open = self.open_documents();
        self.folders.iter().filter_map(|folder| folder.snapshot(&client, &self.options, &open)).collect()
    }

    pub(super) fn snapshot_of(&mut self, uri: &Uri) -> Option<Snapshot> {
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
    pub(super) fn folder_of(&self, path: &Path) -> Option<usize> {
        let within = self.folders.iter().enumerate().filter(|(_, folder)| path.starts_with(&folder.root));
        within.max_by_key(|(_, folder)| folder.root.components().count()).map(|(at, _)| at)
    }

    pub(super) fn add_folder(&mut self, root: PathBuf) {
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

    pub(super) fn held_below(&self, root: &Path) -> Vec<FileChange> {
        let documents = self.documents.values().filter(|document| document.is_python);
        documents
            .filter_map(|document| {
                let path = document.path.clone().filter(|path| path.starts_with(root))?;
                Some(FileChange::Held { path, text: document.text.clone() })
            })
            .collect()
    }

    pub(super) fn set(&mut self, value: &Value) {
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
    pub(super) fn begin_anew(&mut self, is_meant: &dyn Fn(&Folder) -> bool) {
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

    pub(super) fn initialize(&mut self, request: Request) {
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
}
