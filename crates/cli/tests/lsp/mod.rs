//! `lsp`: the built server, driven over its standard input and output as editors drive it.
//!
//! - [`requests`]: every request, on the demo project
//! - [`completion`]: what may stand at the cursor, and the signatures of calls
//! - [`documents`]: documents, files, folders, settings
//! - [`pull`]: diagnostics that the client asks for
//! - [`renames`]: new names, and why they are refused
//! - [`lives`]: beginnings, endings, and clients that send nonsense
//! - [`edits`]: random edits, against a check of the same texts from nothing

mod completion;
mod documents;
mod edits;
mod lives;
mod pull;
mod renames;
mod requests;

use std::path::{Path, PathBuf};

use leitmotiv_probe::{Probe, able, position, uri};
use serde_json::{Value, json};

use crate::folder::Folder;

/// The built program.
pub fn program() -> &'static Path {
    Path::new(env!("CARGO_BIN_EXE_leitmotiv"))
}

/// A project with a server on it.
pub struct Editor {
    pub folder: Folder,
    pub root: PathBuf,
    pub probe: Probe,
}

impl Editor {
    /// A server for a client that can do everything.
    pub fn new(folder: Folder) -> Editor {
        Editor::with(folder, able())
    }

    /// A server for a client with some capabilities.
    pub fn with(folder: Folder, capabilities: Value) -> Editor {
        let root = folder.path("").canonicalize().unwrap();
        let probe = Probe::start(program(), &root, capabilities);
        Editor { folder, root, probe }
    }

    /// The full path of a file.
    pub fn path(&self, path: &str) -> PathBuf {
        self.root.join(path)
    }

    /// What the client calls a file.
    pub fn uri(&self, path: &str) -> String {
        uri(&self.path(path))
    }

    /// Opens a file as it lies on disk, and gives its text.
    pub fn open(&mut self, path: &str) -> String {
        let text = self.folder.read(path);
        self.probe.open(&self.path(path), 1, &text);
        text
    }

    /// Opens a document with a text.
    pub fn open_with(&mut self, path: &str, text: &str) {
        self.probe.open(&self.path(path), 1, text);
    }

    /// A document, and a position in it: where a piece of its text begins, moved by some units.
    pub fn at(&self, path: &str, text: &str, piece: &str, moved: usize) -> Value {
        json!({"textDocument": {"uri": self.uri(path)}, "position": position(text, piece, moved)})
    }

    /// The answer to a request.
    #[track_caller]
    pub fn ask(&mut self, method: &str, params: Value) -> Value {
        self.probe.request(method, params).unwrap_or_else(|error| panic!("{method}: {error}"))
    }

    /// The rules of what was pushed of a file, with their lines from 1.
    pub fn rules(&self, path: &str) -> Vec<String> {
        rules(&self.probe.diagnostics.get(&self.uri(path)).map_or(Value::Null, |told| told["diagnostics"].clone()))
    }

    /// Places as `path:line:column`, from 1, sorted.
    pub fn places(&self, all: &Value) -> Vec<String> {
        let mut places: Vec<String> = all.as_array().into_iter().flatten().map(|one| self.place(one)).collect();
        places.sort();
        places
    }

    /// A place as `path:line:column`, from 1.
    pub fn place(&self, one: &Value) -> String {
        let root = format!("{}/", uri(&self.root).trim_end_matches('/'));
        let path = one["uri"].as_str().unwrap();
        format!("{}:{}", path.strip_prefix(&root).unwrap_or(path), start(&one["range"]))
    }

    /// A file's text after a change that the server proposed.
    pub fn changed(&self, path: &str, text: &str, edit: &Value) -> String {
        let changes = edit["documentChanges"].as_array().unwrap();
        let own = changes.iter().filter(|change| change["textDocument"]["uri"] == self.uri(path).as_str());
        let edits: Vec<Value> = own.flat_map(|change| change["edits"].as_array().unwrap().clone()).collect();
        applied(text, &edits)
    }
}

/// `line:column`, from 1, of a range's start.
pub fn start(range: &Value) -> String {
    let at = |name: &str| range["start"][name].as_u64().unwrap() + 1;
    format!("{}:{}", at("line"), at("character"))
}

/// Rules with their lines from 1, in order.
pub fn rules(diagnostics: &Value) -> Vec<String> {
    let all = diagnostics.as_array().into_iter().flatten();
    all.map(|one| format!("{} {}", one["range"]["start"]["line"].as_u64().unwrap() + 1, one["code"].as_str().unwrap()))
        .collect()
}

/// A text with edits made, columns in UTF-16.
pub fn applied(text: &str, edits: &[Value]) -> String {
    let offset = |position: &Value| {
        let line = usize::try_from(position["line"].as_u64().unwrap()).unwrap();
        let column = usize::try_from(position["character"].as_u64().unwrap()).unwrap();
        let start: usize = text.split_inclusive('\n').take(line).map(str::len).sum();
        let mut units = 0;
        let rest = &text[start..];
        let within = rest.char_indices().find(|(_, char)| {
            let is_there = units >= column;
            units += char.len_utf16();
            is_there
        });
        start + within.map_or(rest.len(), |(at, _)| at)
    };
    let mut all: Vec<(usize, usize, &str)> = edits
        .iter()
        .map(|edit| {
            let range = &edit["range"];
            (offset(&range["start"]), offset(&range["end"]), edit["newText"].as_str().unwrap())
        })
        .collect();
    all.sort_by_key(|(start, end, _)| std::cmp::Reverse((*start, *end)));
    let mut out = text.to_owned();
    for (start, end, new) in all {
        out.replace_range(start..end, new);
    }
    out
}
