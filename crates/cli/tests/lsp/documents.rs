//! Documents, files on disk, folders, settings: whatever is told last counts.

use leitmotiv_probe::{Probe, able, uri};
use serde_json::{Value, json};

use super::{Editor, program, start};
use crate::folder::Folder;

const FARES: &str = "def fare() -> int:\n    return 3\n";
const DESK: &str = "import fares\n\nfares.fare().upper()\n";

fn project() -> Folder {
    Folder::new(&[("fares.py", FARES), ("desk.py", DESK)])
}

#[test]
fn a_buffer_counts_before_it_is_saved_and_the_disk_again_once_it_is_closed() {
    let mut editor = Editor::new(project());
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
    editor.open_with("fares.py", "def fare() -> str:\n    return \"3\"\n");
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), [""; 0]);
    let path = editor.path("fares.py");
    editor.probe.close(&path);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
}

#[test]
fn every_text_is_told_with_its_version_and_the_last_one_last() {
    let mut editor = Editor::new(project());
    editor.open("desk.py");
    let path = editor.path("desk.py");
    for version in 2..40 {
        let text = if version % 2 == 0 { "3 + \"a\"\n".to_owned() } else { "\n".repeat(version as usize) };
        editor.probe.write(&path, version, &text);
    }
    editor.probe.settle();
    let told = &editor.probe.diagnostics[&editor.uri("desk.py")];
    assert_eq!((&told["version"], &told["diagnostics"]), (&json!(39), &json!([])));
    editor.probe.write(&path, 40, "3 + \"a\"\n");
    editor.probe.settle();
    assert_eq!(editor.probe.diagnostics[&editor.uri("desk.py")]["version"], 40);
    assert_eq!(editor.rules("desk.py"), ["1 operator.unsupported"]);
}

#[test]
fn edits_are_made_in_the_units_agreed_upon() {
    for (offered, units) in [("utf-8", 7), ("utf-16", 5), ("utf-32", 4)] {
        let mut able = able();
        able["general"]["positionEncodings"] = json!([offered]);
        let mut editor = Editor::with(project(), able);
        assert_eq!(editor.probe.initialized["capabilities"]["positionEncoding"], offered);
        editor.open_with("desk.py", "s = '𝔉' + 3\n");
        editor.probe.settle();
        let told = editor.probe.diagnostics[&editor.uri("desk.py")]["diagnostics"].clone();
        assert_eq!(start(&told[0]["range"]), "1:5", "{offered}");
        // Up to the letter it is five units in all of them; the letter itself is four, two or one.
        let range = json!({"start": {"line": 0, "character": 5}, "end": {"line": 0, "character": 5 + units - 3}});
        let change = json!({"range": range, "text": "a"});
        let document = json!({"uri": editor.uri("desk.py"), "version": 2});
        editor.probe.notify("textDocument/didChange", json!({"textDocument": document, "contentChanges": [change]}));
        editor.probe.settle();
        let told = editor.probe.diagnostics[&editor.uri("desk.py")]["diagnostics"].clone();
        let end = &told[0]["range"]["end"];
        assert_eq!(end, &json!({"line": 0, "character": 11}), "{offered}: {told}");
    }
}

#[test]
fn files_come_change_and_go_behind_the_servers_back() {
    let mut editor = Editor::new(project());
    editor.probe.settle();
    let (fares, more) = (editor.path("fares.py"), editor.path("more.py"));
    editor.folder.write("fares.py", "def fare() -> str:\n    return \"3\"\n");
    editor.folder.write("more.py", "3 + \"a\"\n");
    editor.probe.changed_on_disk(&[&fares, &more]);
    editor.probe.settle();
    assert_eq!((editor.rules("desk.py"), editor.rules("more.py")), (vec![], vec!["1 operator.unsupported".to_owned()]));
    std::fs::remove_file(&fares).unwrap();
    std::fs::remove_file(&more).unwrap();
    editor.probe.changed_on_disk(&[&fares, &more]);
    editor.probe.settle();
    assert_eq!((editor.rules("desk.py"), editor.rules("more.py")), (vec!["1 import.unresolved".to_owned()], vec![]));
}

#[test]
fn a_document_that_was_never_saved_is_part_of_the_project() {
    let mut editor = Editor::new(project());
    editor.open_with("desk.py", "import harbour\n\nharbour.berth().upper()\n");
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["1 import.unresolved"]);
    editor.open_with("harbour.py", "def berth() -> int:\n    return 3 + \"a\"\n");
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
    assert_eq!(editor.rules("harbour.py"), ["2 operator.unsupported"]);
    let path = editor.path("harbour.py");
    editor.probe.close(&path);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["1 import.unresolved"]);
    assert_eq!(editor.rules("harbour.py"), [""; 0]);
}

#[test]
fn a_changed_configuration_counts_and_a_broken_one_is_told() {
    let mut editor = Editor::new(project());
    editor.open("desk.py");
    editor.probe.settle();
    let settings = editor.path("leitmotiv.toml");
    editor.folder.write("leitmotiv.toml", "[severity]\n\"member.absent\" = \"off\"\n");
    editor.probe.changed_on_disk(&[&settings]);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), [""; 0]);
    editor.folder.write("leitmotiv.toml", "[severity]\n\"member.absnt\" = \"off\"\n");
    editor.probe.changed_on_disk(&[&settings]);
    editor.probe.settle();
    let said = |editor: &Editor| {
        let messages = editor.probe.notes.iter().filter(|note| note["method"] == "window/showMessage");
        messages.map(|note| note["params"]["message"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(said(&editor), ["Leitmotiv: there is no rule `member.absnt` (is `member.absent` meant?)"]);
    assert_eq!(editor.rules("desk.py"), [""; 0], "what was configured before counts");
    editor.folder.write("leitmotiv.toml", "python = \"3.12\"\n");
    editor.probe.changed_on_disk(&[&settings]);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
}

#[test]
fn a_project_that_cannot_be_opened_is_opened_once_it_can() {
    let folder = project();
    folder.write("leitmotiv.toml", "pyton = 3\n");
    let mut editor = Editor::new(folder);
    let text = editor.open("desk.py");
    let at = editor.at("desk.py", &text, "fares.fare", 0);
    assert!(editor.ask("textDocument/hover", at.clone()).is_null());
    assert!(editor.probe.notes.iter().any(|note| note["method"] == "window/showMessage"));
    let settings = editor.path("leitmotiv.toml");
    editor.folder.write("leitmotiv.toml", "python = \"3.12\"\n");
    editor.probe.changed_on_disk(&[&settings]);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
    assert!(!editor.ask("textDocument/hover", at).is_null());
}

#[test]
fn an_environment_is_read_anew_when_another_interpreter_is_set() {
    let folder = project();
    folder.write("desk.py", "import tides\n\ntides.high().upper()\n");
    folder.write("other/pyvenv.cfg", "home = /usr/bin\nversion = 3.12.1\n");
    folder.write("other/lib/python3.12/site-packages/tides/__init__.py", "def high() -> int:\n    return 3\n");
    folder.write("other/lib/python3.12/site-packages/tides/py.typed", "");
    let mut editor = Editor::new(folder);
    editor.open("desk.py");
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["1 import.unresolved"]);
    editor.probe.settings = json!({"interpreter": "other"});
    editor.probe.notify("workspace/didChangeConfiguration", json!({"settings": null}));
    // The answer to what the server asks is on its way; what it answers meanwhile may be overtaken.
    let document = json!({"uri": editor.uri("desk.py")});
    let at = json!({"textDocument": document, "position": {"line": 0, "character": 8}});
    let _ = editor.probe.request("textDocument/hover", at);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), ["3 member.absent"]);
    // A package that changes is looked at again.
    let package = editor.path("other/lib/python3.12/site-packages/tides/__init__.py");
    std::fs::write(&package, "def high() -> str:\n    return \"3\"\n").unwrap();
    editor.probe.changed_on_disk(&[&package]);
    editor.probe.settle();
    assert_eq!(editor.rules("desk.py"), [""; 0]);
}

#[test]
fn each_folder_of_the_workspace_is_a_project_of_its_own() {
    let (one, other) =
        (project(), Folder::new(&[("fares.py", "def fare() -> str:\n    return \"3\"\n"), ("desk.py", DESK)]));
    let paths = [&one, &other].map(|folder| folder.path("").canonicalize().unwrap());
    let named = |at: usize| json!({"uri": uri(&paths[at]), "name": "project"});
    let mut probe = Probe::silent(program(), &[]);
    probe.greet(json!({"processId": null, "rootUri": null, "capabilities": able(), "workspaceFolders": [named(0)]}));
    probe.settle();
    let count = |probe: &Probe, at: usize| {
        let told = probe.diagnostics.get(&uri(&paths[at].join("desk.py")));
        told.map(|told| told["diagnostics"].as_array().unwrap().len())
    };
    assert_eq!((count(&probe, 0), count(&probe, 1)), (Some(1), None));
    probe.notify("workspace/didChangeWorkspaceFolders", json!({"event": {"added": [named(1)], "removed": []}}));
    probe.open(&paths[1].join("desk.py"), 1, &format!("{DESK}3 + \"a\"\n"));
    probe.settle();
    assert_eq!((count(&probe, 0), count(&probe, 1)), (Some(1), Some(1)));
    probe.notify("workspace/didChangeWorkspaceFolders", json!({"event": {"added": [], "removed": [named(0)]}}));
    probe.settle();
    assert_eq!((count(&probe, 0), count(&probe, 1)), (Some(0), Some(1)));
}

#[test]
fn a_file_without_a_folder_is_checked_in_the_project_around_it() {
    let folder = project();
    folder.write("leitmotiv.toml", "python = \"3.12\"\n");
    let root = folder.path("").canonicalize().unwrap();
    let mut probe = Probe::silent(program(), &[]);
    probe.greet(json!({"processId": null, "rootUri": null, "capabilities": able()}));
    probe.open(&root.join("desk.py"), 1, DESK);
    probe.settle();
    let told: &Value = &probe.diagnostics[&uri(&root.join("desk.py"))]["diagnostics"];
    assert_eq!(told[0]["code"], "member.absent");
}

#[cfg(unix)]
#[test]
fn a_file_reached_by_a_link_is_told_under_the_name_that_the_client_uses() {
    let folder = project();
    let elsewhere = tempfile::tempdir().unwrap();
    let link = elsewhere.path().canonicalize().unwrap().join("linked");
    std::os::unix::fs::symlink(folder.path("").canonicalize().unwrap(), &link).unwrap();
    let mut editor = Editor::new(folder);
    editor.probe.open(&link.join("desk.py"), 1, DESK);
    editor.probe.settle();
    let told: &Value = &editor.probe.diagnostics[&uri(&link.join("desk.py"))]["diagnostics"];
    assert_eq!(told[0]["code"], "member.absent");
}
