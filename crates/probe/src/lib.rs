//! A client that drives the built language server over its standard input and output: for tests and measurements.
//!
//! It knows the protocol's frames and nothing of the server: what it says and hears is plain JSON. The entry is [`Probe::start`].

use std::collections::HashMap;
use std::fmt::Write as _;
use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, Command, ExitStatus, Stdio};
use std::time::{Duration, Instant};

use crossbeam_channel::{Receiver, unbounded};
use serde_json::{Value, json};

/// No answer takes longer, however busy the machine is.
const PATIENCE: Duration = Duration::from_secs(300);

/// A running server, and what it said.
pub struct Probe {
    child: Child,
    input: Option<ChildStdin>,
    messages: Receiver<(Instant, Value)>,
    next: i64,
    answers: HashMap<i64, Value>,
    /// The diagnostics of each document, as they were last pushed.
    pub diagnostics: HashMap<String, Value>,
    /// When they were.
    pub pushed: HashMap<String, Instant>,
    /// Other notifications, in order.
    pub notes: Vec<Value>,
    /// What the server asked for, in order; all is granted.
    pub asked: Vec<Value>,
    /// What is answered to questions for the client's settings.
    pub settings: Value,
    /// What the server answered to `initialize`.
    pub initialized: Value,
}

/// What a client says of itself that can do everything that the server knows of.
#[must_use]
pub fn able() -> Value {
    json!({
        "general": {"positionEncodings": ["utf-16"]},
        "window": {"workDoneProgress": true, "showDocument": {"support": true}},
        "textDocument": {
            "hover": {"contentFormat": ["markdown"]},
            "publishDiagnostics": {"relatedInformation": true},
            "documentSymbol": {"hierarchicalDocumentSymbolSupport": true},
            "codeAction": {"codeActionLiteralSupport": {"codeActionKind": {"valueSet": []}}},
        },
        "workspace": {
            "configuration": true,
            "didChangeWatchedFiles": {"dynamicRegistration": true},
            "workspaceEdit": {"documentChanges": true, "resourceOperations": ["create", "rename", "delete"]},
        },
    })
}

/// A path as a URI.
#[must_use]
pub fn uri(path: &Path) -> String {
    let mut out = String::from("file://");
    for byte in path.to_string_lossy().bytes() {
        match byte {
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'-' | b'_' | b'.' | b'~' | b'/' => out.push(char::from(byte)),
            other => {
                let _ = write!(out, "%{other:02X}");
            }
        }
    }
    out
}

/// The position of the beginning of a piece of text, in UTF-16, moved by some units.
///
/// # Panics
/// Where the text has no such piece.
#[must_use]
pub fn position(text: &str, piece: &str, moved: usize) -> Value {
    let at = text.find(piece).expect("the text has the piece");
    let line = text[..at].matches('\n').count();
    let start = text[..at].rfind('\n').map_or(0, |end| end + 1);
    json!({"line": line, "character": text[start..at].encode_utf16().count() + moved})
}

impl Probe {
    /// Starts a server without saying anything.
    ///
    /// # Panics
    /// Where the program cannot be started.
    #[must_use]
    pub fn silent(program: &Path, arguments: &[&str]) -> Probe {
        let mut child = Command::new(program)
            .arg("lsp")
            .args(arguments)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .spawn()
            .expect("the program starts");
        let input = child.stdin.take();
        let output = child.stdout.take().expect("its output is piped");
        let (sender, messages) = unbounded();
        std::thread::spawn(move || {
            let mut output = BufReader::new(output);
            while let Some(message) = read(&mut output) {
                if sender.send((Instant::now(), message)).is_err() {
                    return;
                }
            }
        });
        Probe {
            child,
            input,
            messages,
            next: 0,
            answers: HashMap::new(),
            diagnostics: HashMap::new(),
            pushed: HashMap::new(),
            notes: Vec::new(),
            asked: Vec::new(),
            settings: Value::Null,
            initialized: Value::Null,
        }
    }

    /// Starts a server on a folder, and greets it.
    ///
    /// # Panics
    /// Where the program cannot be started or does not answer.
    #[must_use]
    pub fn start(program: &Path, root: &Path, capabilities: Value) -> Probe {
        let mut probe = Probe::silent(program, &[]);
        probe.greet(json!({"processId": null, "rootUri": uri(root), "capabilities": capabilities}));
        probe
    }

    /// Greets the server with these parameters.
    ///
    /// # Panics
    /// Where it refuses.
    pub fn greet(&mut self, params: Value) {
        self.initialized = self.request("initialize", params).expect("the server greets back");
        self.notify("initialized", json!({}));
    }

    /// Sends bytes as they are; a server that is gone takes none.
    pub fn raw(&mut self, bytes: &[u8]) {
        if let Some(input) = &mut self.input {
            let _ = input.write_all(bytes).and_then(|()| input.flush());
        }
    }

    /// Sends a message.
    pub fn send(&mut self, message: &Value) {
        self.raw(framed(message).as_bytes());
    }

    /// Sends a notification.
    pub fn notify(&mut self, method: &str, params: Value) {
        self.send(&json!({"jsonrpc": "2.0", "method": method, "params": params}));
    }

    /// Sends a request, and gives its number.
    pub fn ask(&mut self, method: &str, params: Value) -> i64 {
        self.next += 1;
        self.send(&json!({"jsonrpc": "2.0", "id": self.next, "method": method, "params": params}));
        self.next
    }

    /// Sends a request and what cancels it in one piece, and gives its number.
    pub fn ask_in_vain(&mut self, method: &str, params: Value) -> i64 {
        self.next += 1;
        let request = json!({"jsonrpc": "2.0", "id": self.next, "method": method, "params": params});
        let cancel = json!({"jsonrpc": "2.0", "method": "$/cancelRequest", "params": {"id": self.next}});
        self.raw(format!("{}{}", framed(&request), framed(&cancel)).as_bytes());
        self.next
    }

    /// Waits for the answer to a request: its result, or its error.
    ///
    /// # Errors
    /// The error that the server answers.
    ///
    /// # Panics
    /// Where it answers nothing.
    pub fn answer(&mut self, number: i64) -> Result<Value, Value> {
        let end = Instant::now() + PATIENCE;
        loop {
            if let Some(mut answer) = self.answers.remove(&number) {
                return match answer.get_mut("error") {
                    Some(error) => Err(error.take()),
                    None => Ok(answer["result"].take()),
                };
            }
            assert!(self.hear(end), "the server does not answer request {number}; it said {:?}", self.notes);
        }
    }

    /// Sends a request and waits for its answer.
    ///
    /// # Errors
    /// The error that the server answers.
    pub fn request(&mut self, method: &str, params: Value) -> Result<Value, Value> {
        let number = self.ask(method, params);
        self.answer(number)
    }

    /// Waits until the server has said all that there is to say of what it was told.
    ///
    /// # Panics
    /// Where it does not answer.
    pub fn settle(&mut self) {
        self.request("leitmotiv/settled", Value::Null).expect("the server settles");
    }

    /// Takes one message, until a moment; whether one came.
    pub fn hear(&mut self, until: Instant) -> bool {
        let Ok((when, message)) = self.messages.recv_deadline(until) else { return false };
        let method = message["method"].as_str().map(str::to_owned);
        match (method, message.get("id").cloned()) {
            (Some(method), Some(id)) => {
                let result = match method.as_str() {
                    "workspace/configuration" => json!([self.settings]),
                    "workspace/applyEdit" => json!({"applied": true}),
                    _ => Value::Null,
                };
                self.asked.push(message);
                self.send(&json!({"jsonrpc": "2.0", "id": id, "result": result}));
            }
            (Some(method), None) if method == "textDocument/publishDiagnostics" => {
                let name = message["params"]["uri"].as_str().unwrap_or_default().to_owned();
                self.pushed.insert(name.clone(), when);
                self.diagnostics.insert(name, message["params"].clone());
            }
            (Some(_), None) => self.notes.push(message),
            (None, id) => match id.and_then(|id| id.as_i64()) {
                Some(number) => {
                    self.answers.insert(number, message);
                }
                None => self.notes.push(message),
            },
        }
        true
    }

    /// Opens a document.
    pub fn open(&mut self, path: &Path, version: i32, text: &str) {
        let document = json!({"uri": uri(path), "languageId": "python", "version": version, "text": text});
        self.notify("textDocument/didOpen", json!({"textDocument": document}));
    }

    /// Gives a document a new text.
    pub fn write(&mut self, path: &Path, version: i32, text: &str) {
        let params =
            json!({"textDocument": {"uri": uri(path), "version": version}, "contentChanges": [{"text": text}]});
        self.notify("textDocument/didChange", params);
    }

    /// Closes a document.
    pub fn close(&mut self, path: &Path) {
        self.notify("textDocument/didClose", json!({"textDocument": {"uri": uri(path)}}));
    }

    /// Tells the server that files on disk changed.
    pub fn changed_on_disk(&mut self, paths: &[&Path]) {
        let changes: Vec<Value> = paths.iter().map(|path| json!({"uri": uri(path), "type": 2})).collect();
        self.notify("workspace/didChangeWatchedFiles", json!({"changes": changes}));
    }

    /// Takes leave, and waits for the program's end.
    ///
    /// # Panics
    /// Where it does not end.
    pub fn leave(mut self) -> ExitStatus {
        self.request("shutdown", Value::Null).expect("the server shuts down");
        self.notify("exit", Value::Null);
        self.wait()
    }

    /// Closes the server's input without a word, and waits for the program's end.
    ///
    /// # Panics
    /// Where it does not end.
    pub fn hang_up(mut self) -> ExitStatus {
        self.input = None;
        self.wait()
    }

    /// Waits for the program's end.
    ///
    /// # Panics
    /// Where it does not end.
    pub fn wait(&mut self) -> ExitStatus {
        let end = Instant::now() + PATIENCE;
        loop {
            if let Some(status) = self.child.try_wait().expect("the program can be waited for") {
                return status;
            }
            assert!(Instant::now() < end, "the program does not end");
            std::thread::sleep(Duration::from_millis(5));
        }
    }

    /// The number of the server's process.
    #[must_use]
    pub fn process(&self) -> u32 {
        self.child.id()
    }
}

impl Drop for Probe {
    fn drop(&mut self) {
        // Whoever fails leaves nothing running.
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

fn framed(message: &Value) -> String {
    let body = message.to_string();
    format!("Content-Length: {}\r\n\r\n{body}", body.len())
}

fn read(stream: &mut impl BufRead) -> Option<Value> {
    let mut length = 0;
    loop {
        let mut line = String::new();
        if stream.read_line(&mut line).ok()? == 0 {
            return None;
        }
        let line = line.trim();
        if line.is_empty() {
            break;
        }
        if let Some(value) = line.strip_prefix("Content-Length:") {
            length = value.trim().parse().ok()?;
        }
    }
    let mut body = vec![0; length];
    stream.read_exact(&mut body).ok()?;
    serde_json::from_slice(&body).ok()
}
