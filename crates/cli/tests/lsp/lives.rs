//! Beginnings and endings in all orders, and clients that send nonsense.

use leitmotiv_probe::{Probe, able, uri};
use serde_json::{Value, json};

use super::{Editor, program};
use crate::folder::Folder;

fn code(answer: Result<Value, Value>) -> i64 {
    answer.expect_err("it is refused")["code"].as_i64().unwrap()
}

#[test]
fn a_client_that_takes_leave_ends_the_server_in_order() {
    let editor = Editor::new(Folder::demo());
    assert_eq!(editor.probe.leave().code(), Some(0));
}

#[test]
fn a_client_that_goes_without_a_word_ends_it_too() {
    let editor = Editor::new(Folder::demo());
    assert_eq!(editor.probe.hang_up().code(), Some(1));
    assert_eq!(Probe::silent(program(), &[]).hang_up().code(), Some(1));
    let mut editor = Editor::new(Folder::demo());
    editor.probe.notify("exit", Value::Null);
    assert_eq!(editor.probe.wait().code(), Some(1));
    // In the middle of a message, and of a check.
    let mut editor = Editor::new(Folder::demo());
    editor.open("skerry/fleet.py");
    editor.probe.raw(b"Content-Length: 4000\r\n\r\n{");
    assert_eq!(editor.probe.hang_up().code(), Some(1));
}

#[test]
fn what_comes_too_early_or_too_late_is_refused() {
    let folder = Folder::demo();
    let root = folder.path("").canonicalize().unwrap();
    let mut probe = Probe::silent(program(), &[]);
    assert_eq!(code(probe.request("textDocument/hover", json!({}))), -32002);
    assert_eq!(code(probe.request("shutdown", Value::Null)), -32002);
    probe.notify("textDocument/didOpen", json!({}));
    assert_eq!(code(probe.request("initialize", json!({"capabilities": 3}))), -32602);
    probe.greet(json!({"processId": null, "rootUri": uri(&root), "capabilities": able()}));
    assert_eq!(code(probe.request("initialize", json!({"capabilities": {}}))), -32600);
    probe.request("shutdown", Value::Null).unwrap();
    assert_eq!(code(probe.request("textDocument/hover", json!({}))), -32600);
    probe.notify("textDocument/didOpen", json!({"textDocument": 3}));
    probe.notify("exit", Value::Null);
    assert_eq!(probe.wait().code(), Some(0));
}

#[test]
fn nonsense_is_answered_and_does_no_harm() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open("skerry/fleet.py");
    for bytes in [
        &b"tides\r\n\r\n"[..],
        b"Content-Length: 3\r\n\r\nabc",
        b"Content-Length: 2\r\n\r\n[]",
        b"Content-Length: 99999999999999999\r\n\r\n",
        b"Content-Length: -3\r\n\r\n",
        b"Content-Length: 4\r\n\r\n\xff\xfe\xfd\xfc",
    ] {
        editor.probe.raw(bytes);
    }
    assert_eq!(code(editor.probe.request("tides/high", json!({}))), -32601);
    assert_eq!(code(editor.probe.request("textDocument/hover", json!({"position": "here"}))), -32602);
    assert_eq!(code(editor.probe.request("workspace/executeCommand", json!({"command": "leitmotiv.sail"}))), -32602);
    let gone = json!({"textDocument": {"uri": editor.uri("gone.py")}, "position": {"line": 0, "character": 0}});
    assert!(editor.ask("textDocument/hover", gone).is_null());
    for place in [json!({"line": 99999, "character": 0}), json!({"line": 0, "character": 4294967295u32})] {
        let params = json!({"textDocument": {"uri": editor.uri("skerry/fleet.py")}, "position": place});
        for method in
            ["hover", "definition", "completion", "signatureHelp", "documentHighlight", "prepareCallHierarchy"]
        {
            let _ = editor.ask(&format!("textDocument/{method}"), params.clone());
        }
    }
    editor.probe.notify(
        "textDocument/didChange",
        json!({"textDocument": {"uri": editor.uri("gone.py"), "version": 3}, "contentChanges": [{"text": ""}]}),
    );
    editor.probe.notify("textDocument/didChange", json!({"textDocument": 3}));
    editor.probe.notify("textDocument/didClose", json!({"textDocument": {"uri": "file:///never/opened.py"}}));
    editor.probe.notify("$/strange", json!(null));
    let at = editor.at("skerry/fleet.py", &text, "find(name)", 0);
    assert!(!editor.ask("textDocument/hover", at).is_null());
    let refused = editor.probe.notes.iter().filter(|note| note["error"]["code"] == -32700).count();
    assert!(refused >= 6, "{:?}", editor.probe.notes);
    assert_eq!(editor.probe.leave().code(), Some(0));
}

#[test]
fn a_request_that_is_cancelled_is_answered_once() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open("skerry/fleet.py");
    let at = editor.at("skerry/fleet.py", &text, "find(name)", 0);
    let mut cancelled = 0;
    for _ in 0..20 {
        let number = editor.probe.ask_in_vain("textDocument/hover", at.clone());
        match editor.probe.answer(number) {
            Err(error) => {
                assert_eq!(error["code"], -32800);
                cancelled += 1;
            }
            Ok(answer) => assert!(!answer.is_null()),
        }
    }
    assert!(cancelled > 0);
    editor.probe.notify("$/cancelRequest", json!({"id": 12345}));
    assert_eq!(editor.probe.leave().code(), Some(0));
}

#[test]
fn a_request_that_an_edit_overtakes_is_never_answered_from_what_was() {
    let mut editor = Editor::new(Folder::new(&[("quay.py", "depth = 3\n")]));
    editor.open("quay.py");
    let path = editor.path("quay.py");
    for version in 2..60 {
        let text = format!("depth = 3\nwidth = {}\n", if version % 2 == 0 { "3" } else { "\"3\"" });
        editor.probe.write(&path, version, &text);
        let at = editor.at("quay.py", &text, "width", 0);
        let number = editor.probe.ask("textDocument/hover", at);
        let expected = if version % 2 == 0 { "width: int" } else { "width: str" };
        // The next edit is on its way.
        editor.probe.write(&path, version + 100, &text);
        match editor.probe.answer(number) {
            Ok(answer) => assert!(answer["contents"]["value"].as_str().unwrap().contains(expected), "{answer}"),
            Err(error) => assert_eq!(error["code"], -32801),
        }
    }
}
