//! Diagnostics that the client asks for.

use leitmotiv_probe::able;
use serde_json::{Value, json};

use super::{Editor, rules};
use crate::folder::Folder;

fn pulling() -> Value {
    let mut able = able();
    able["textDocument"]["diagnostic"] = json!({});
    able["workspace"]["diagnostics"] = json!({"refreshSupport": true});
    able
}

fn project() -> Folder {
    Folder::new(&[
        ("fares.py", "def fare() -> int:\n    return 3\n"),
        ("desk.py", "import fares\n\nfares.fare().upper()\n"),
    ])
}

#[test]
fn a_document_is_told_when_it_is_asked_about_and_not_besides() {
    let mut editor = Editor::with(project(), pulling());
    editor.open("desk.py");
    let asked = json!({"textDocument": {"uri": editor.uri("desk.py")}});
    let first = editor.ask("textDocument/diagnostic", asked.clone());
    assert_eq!(first["kind"], "full");
    assert_eq!(rules(&first["items"]), ["3 member.absent"]);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), [""; 0], "nothing is pushed of what is pulled");
    let again = editor.ask(
        "textDocument/diagnostic",
        json!({"textDocument": asked["textDocument"], "previousResultId": first["resultId"]}),
    );
    assert_eq!(again["kind"], "unchanged");
    // What changes by another document's edit, the client is told to ask for again.
    editor.open("fares.py");
    let path = editor.path("fares.py");
    editor.probe.write(&path, 2, "def fare() -> str:\n    return \"3\"\n");
    editor.probe.settle();
    assert!(editor.probe.asked.iter().any(|one| one["method"] == "workspace/diagnostic/refresh"));
    let now = editor.ask(
        "textDocument/diagnostic",
        json!({"textDocument": asked["textDocument"], "previousResultId": first["resultId"]}),
    );
    assert_eq!(rules(&now["items"]), [""; 0]);
}

#[test]
fn the_workspace_is_told_file_by_file() {
    let mut editor = Editor::with(project(), pulling());
    let all = editor.ask("workspace/diagnostic", json!({"previousResultIds": []}));
    let told: Vec<(&str, Vec<String>)> = all["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|one| (one["uri"].as_str().unwrap().rsplit('/').next().unwrap(), rules(&one["items"])))
        .collect();
    assert_eq!(told, [("desk.py", vec!["3 member.absent".to_owned()]), ("fares.py", vec![])]);
    let known: Vec<Value> = all["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|one| json!({"uri": one["uri"], "value": one["resultId"]}))
        .collect();
    let again = editor.ask("workspace/diagnostic", json!({"previousResultIds": known}));
    assert!(again["items"].as_array().unwrap().iter().all(|one| one["kind"] == "unchanged"), "{again}");
}

#[test]
fn of_what_is_not_known_there_is_nothing_to_tell() {
    let mut editor = Editor::with(project(), pulling());
    let told = editor.ask("textDocument/diagnostic", json!({"textDocument": {"uri": "untitled:one"}}));
    assert_eq!(told["items"], json!([]));
}
