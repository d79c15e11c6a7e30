//! Every request that editors send, on the demo project.

use leitmotiv_probe::position;
use serde_json::{Value, json};

use super::{Editor, applied, start};
use crate::folder::Folder;

const FLEET: &str = "skerry/fleet.py";
const VESSELS: &str = "skerry/vessels.py";
const REPORT: &str = "skerry/report.py";

fn hover(editor: &mut Editor, path: &str, text: &str, piece: &str, moved: usize) -> String {
    let at = editor.at(path, text, piece, moved);
    let answer = editor.ask("textDocument/hover", at);
    answer["contents"]["value"].as_str().unwrap_or_default().to_owned()
}

#[test]
fn diagnostics_tell_the_rule_its_page_and_where_the_type_came_from() {
    let mut editor = Editor::new(Folder::demo());
    editor.open(REPORT);
    editor.probe.settle();
    let told = editor.probe.diagnostics[&editor.uri(REPORT)].clone();
    assert_eq!(told["version"], 1);
    let first = &told["diagnostics"][0];
    assert_eq!((&first["code"], &first["source"]), (&json!("none.member"), &json!("leitmotiv")));
    let page = first["codeDescription"]["href"].as_str().unwrap().strip_prefix("file://").unwrap();
    assert!(std::fs::read_to_string(page).unwrap().contains("None has no such attribute"), "{page}");
    let related: Vec<String> = first["relatedInformation"]
        .as_array()
        .unwrap()
        .iter()
        .map(|step| format!("{} {}", editor.place(&step["location"]), step["message"].as_str().unwrap()))
        .collect();
    assert_eq!(related[0], "skerry/fleet.py:39:5 `biggest` gets None");
    assert_eq!(related.len(), 3);
    // Files that nobody opened are told as well.
    assert!(editor.rules("skerry/ops/crew.py").len() > 3);
}

#[test]
fn what_is_never_reached_and_what_is_deprecated_is_marked() {
    let text = "from warnings import deprecated\n\n@deprecated(\"ask the desk\")\ndef fare() -> int:\n    return 3\n\n\n\
                def pay() -> int:\n    return fare()\n    print(3)\n";
    let mut editor = Editor::new(Folder::new(&[
        ("fares.py", text),
        (
            "leitmotiv.toml",
            "python = \"3.13\"\n\n[severity]\n\"flow.unreachable\" = \"note\"\n\"deprecated.use\" = \"note\"\n",
        ),
    ]));
    editor.open("fares.py");
    editor.probe.settle();
    let told = editor.probe.diagnostics[&editor.uri("fares.py")]["diagnostics"].clone();
    let tags: Vec<(&str, &Value)> =
        told.as_array().unwrap().iter().map(|one| (one["code"].as_str().unwrap(), &one["tags"])).collect();
    assert_eq!(tags, [("deprecated.use", &json!([2])), ("flow.unreachable", &json!([1]))]);
}

#[test]
fn debts_of_the_ledger_are_hints() {
    let folder = Folder::demo();
    let run = folder.run(&["tighten", "--as-it-is", "--write"]);
    assert_eq!(run.status, 0, "{}{}", run.out, run.err);
    let mut editor = Editor::new(folder);
    editor.open(REPORT);
    editor.probe.settle();
    let told = editor.probe.diagnostics[&editor.uri(REPORT)]["diagnostics"].clone();
    let owed = |one: &&Value| one["data"]["status"] == "owed";
    assert!(told.as_array().unwrap().iter().filter(owed).count() > 0, "{told}");
    assert!(told.as_array().unwrap().iter().filter(owed).all(|one| one["severity"] == 4), "{told}");
    // What comes new is no debt.
    let text = format!("{}\nlen(3)\n", editor.folder.read(REPORT));
    let path = editor.path(REPORT);
    editor.probe.write(&path, 2, &text);
    editor.probe.settle();
    let told = editor.probe.diagnostics[&editor.uri(REPORT)]["diagnostics"].clone();
    let new: Vec<&Value> = told.as_array().unwrap().iter().filter(|one| one["data"]["status"] == "new").collect();
    assert_eq!(new.len(), 1, "{told}");
    assert_eq!(new[0]["severity"], 1);
}

#[test]
fn a_hover_tells_the_type_and_where_it_comes_from() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let told = hover(&mut editor, FLEET, &text, "vessel = vessels.make", 0);
    assert!(told.contains("vessel: CarFerry | Freighter | PassengerFerry"), "{told}");
    assert!(told.contains("[`skerry/vessels.py:89`]") && told.contains("`make` returns"), "{told}");
    let told = hover(&mut editor, FLEET, &text, "make(record)", 1);
    assert!(told.contains("make(record) -> CarFerry | Freighter | PassengerFerry"), "{told}");
    assert!(told.contains("A vessel from a record"), "{told}");
    assert!(told.contains("calls pass to `record`"), "{told}");
    let told = hover(&mut editor, FLEET, &text, "name):\n    \"\"\"The vessel", 0);
    assert!(told.contains("calls pass to `name`: `str` ([`tests/test_skerry.py:35`]"), "{told}");
    // The library's own docstrings, where it is written in Python.
    let json = "import json\n\n\njson.dumps(3)\n";
    editor.open_with("skerry/store_again.py", json);
    let told = hover(&mut editor, "skerry/store_again.py", json, "dumps", 0);
    assert!(told.contains("dumps(obj: ") && told.contains("defined at [`json.pyi"), "{told}");
    assert!(told.contains("Serialize ``obj`` to a JSON formatted"), "{told}");
    assert_eq!(hover(&mut editor, FLEET, &text, "\n_FLEET", 0), "");
}

#[test]
fn a_hover_tells_what_recorded_runs_passed() {
    let folder = Folder::new(&[
        ("fares.py", "def fare(age):\n    return age * 2\n"),
        ("main.py", "import fares\n\nfares.fare(int('3'))\n"),
    ]);
    let path = std::env::var("PATH").unwrap();
    let run = folder.run_with(&[("PATH", path.as_str())], &["trace", "run", "--", "python3", "main.py"]);
    assert_eq!(run.status, 0, "{}{}", run.out, run.err);
    let mut editor = Editor::new(folder);
    let text = editor.open("fares.py");
    let told = hover(&mut editor, "fares.py", &text, "age)", 0);
    assert!(told.contains("recorded runs passed to `age`: `int`"), "{told}");
}

#[test]
fn plain_clients_get_plain_text() {
    let mut editor = Editor::with(Folder::demo(), json!({}));
    let text = editor.open(FLEET);
    let told = hover(&mut editor, FLEET, &text, "vessel = vessels.make", 0);
    assert!(told.starts_with("vessel: CarFerry"), "{told}");
    assert!(!told.contains("```") && !told.contains("]("), "{told}");
    let symbols = editor.ask("textDocument/documentSymbol", json!({"textDocument": {"uri": editor.uri(FLEET)}}));
    assert_eq!(symbols[0]["location"]["uri"], editor.uri(FLEET).as_str());
    let at = editor.at(FLEET, &text, "find(name)", 0);
    let edit = editor.ask(
        "textDocument/rename",
        json!({"textDocument": at["textDocument"], "position": at["position"], "newName": "seek"}),
    );
    assert!(edit["changes"][editor.uri(FLEET)].is_array(), "{edit}");
}

#[test]
fn hints_write_what_stands_unwritten() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let whole = json!({"start": {"line": 0, "character": 0}, "end": {"line": 999, "character": 0}});
    let hints =
        editor.ask("textDocument/inlayHint", json!({"textDocument": {"uri": editor.uri(FLEET)}, "range": whole}));
    let told: Vec<String> = hints
        .as_array()
        .unwrap()
        .iter()
        .map(|hint| format!("{}{}", hint["position"]["line"].as_u64().unwrap() + 1, hint["label"].as_str().unwrap()))
        .collect();
    assert!(told.contains(&"8 -> int".to_owned()), "{told:?}");
    assert!(told.contains(&"46: str".to_owned()), "{told:?}");
    let parameter = hints.as_array().unwrap().iter().find(|hint| hint["label"] == ": str").unwrap();
    let written = applied(&text, parameter["textEdits"].as_array().unwrap());
    assert!(written.contains("def withdraw(name, reason: str = \"\"):"), "{written}");
    // Each kind can be switched off.
    editor.probe.settings = json!({"hints": {"returns": false}});
    editor.probe.notify("workspace/didChangeConfiguration", json!({"settings": null}));
    editor.probe.settle();
    let hints =
        editor.ask("textDocument/inlayHint", json!({"textDocument": {"uri": editor.uri(FLEET)}, "range": whole}));
    assert!(!hints.to_string().contains("->"), "{hints}");
}

#[test]
fn names_lead_to_where_they_are_defined_declared_and_carried_out() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let mut to = |method: &str, piece: &str, moved: usize| {
        let at = editor.at(FLEET, &text, piece, moved);
        let answer = editor.ask(&format!("textDocument/{method}"), at);
        editor.places(&answer)
    };
    assert_eq!(to("definition", "make(record)", 0), ["skerry/vessels.py:85:5"]);
    // Of a local name, the assignments that may have given it its value.
    assert_eq!(to("definition", "biggest.capacity", 0), ["skerry/fleet.py:39:5", "skerry/fleet.py:42:13"]);
    assert_eq!(to("definition", "biggest.capacity", 8), ["skerry/vessels.py:11:14"]);
    assert_eq!(to("definition", "store.read", 0), ["skerry/store.py:1:1"]);
    assert_eq!(to("declaration", "store.read", 0), ["skerry/fleet.py:3:20"]);
    assert_eq!(
        to("typeDefinition", "biggest.capacity", 0),
        ["skerry/vessels.py:43:7", "skerry/vessels.py:57:7", "skerry/vessels.py:74:7"]
    );
    // What is the library's own is written out, to be shown.
    let library = to("definition", "sorted(", 0);
    assert!(library[0].starts_with(".leitmotiv/library-builtins.pyi:"), "{library:?}");
    let text = editor.open(VESSELS);
    let at = editor.at(VESSELS, &text, "describe(self)", 0);
    let answer = editor.ask("textDocument/implementation", at);
    assert_eq!(editor.places(&answer), ["skerry/vessels.py:50:9", "skerry/vessels.py:81:9"]);
    let at = editor.at(VESSELS, &text, "Vessel(object)", 0);
    let answer = editor.ask("textDocument/implementation", at);
    assert_eq!(editor.places(&answer).len(), 3);
}

#[test]
fn a_library_file_that_was_written_out_can_be_asked_about() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let at = editor.at(FLEET, &text, "sorted(", 0);
    let place = editor.ask("textDocument/definition", at)[0].clone();
    let answer = editor
        .ask("textDocument/hover", json!({"textDocument": {"uri": place["uri"]}, "position": place["range"]["start"]}));
    assert!(answer["contents"]["value"].as_str().unwrap().contains("sorted("), "{answer}");
}

#[test]
fn mentions_are_found_in_all_files_and_in_one() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let at = editor.at(FLEET, &text, "find(name):", 0);
    let mut params = at.clone();
    params["context"] = json!({"includeDeclaration": true});
    let answer = editor.ask("textDocument/references", params.clone());
    let all = editor.places(&answer);
    assert_eq!(all.len(), 9, "{all:#?}");
    assert!(all.contains(&"skerry/fleet.py:21:5".to_owned()) && all.contains(&"tests/test_skerry.py:35:24".to_owned()));
    params["context"] = json!({"includeDeclaration": false});
    let answer = editor.ask("textDocument/references", params);
    assert_eq!(editor.places(&answer).len(), 8);
    let answer = editor.ask("textDocument/documentHighlight", at);
    let marks: Vec<(String, u64)> =
        answer.as_array().unwrap().iter().map(|one| (start(&one["range"]), one["kind"].as_u64().unwrap())).collect();
    assert_eq!(marks, [("21:5".to_owned(), 3), ("47:14".to_owned(), 2)]);
}

#[test]
fn symbols_stand_in_a_tree_and_are_found_by_their_letters() {
    let mut editor = Editor::new(Folder::demo());
    editor.open(VESSELS);
    let tree = editor.ask("textDocument/documentSymbol", json!({"textDocument": {"uri": editor.uri(VESSELS)}}));
    let names: Vec<&str> = tree.as_array().unwrap().iter().map(|one| one["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["Vessel", "PassengerFerry", "CarFerry", "Freighter", "make"]);
    let within: Vec<&str> =
        tree[2]["children"].as_array().unwrap().iter().map(|one| one["name"].as_str().unwrap()).collect();
    assert_eq!(within, ["kind", "__init__", "lanes", "vehicle_capacity", "can_carry"]);
    let found = editor.ask("workspace/symbol", json!({"query": "carfry"}));
    assert_eq!(found[0]["name"], "CarFerry");
    assert_eq!(editor.place(&found[0]["location"]), "skerry/vessels.py:57:7");
}

#[test]
fn calls_lead_both_ways() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let at = editor.at(FLEET, &text, "withdraw(name", 0);
    let items = editor.ask("textDocument/prepareCallHierarchy", at);
    assert_eq!(items[0]["name"], "withdraw");
    let out = editor.ask("callHierarchy/outgoingCalls", json!({"item": items[0]}));
    let names: Vec<&str> = out.as_array().unwrap().iter().map(|one| one["to"]["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["find", "list.append"]);
    let at = editor.at(FLEET, &text, "find(name):", 0);
    let items = editor.ask("textDocument/prepareCallHierarchy", at);
    let calls = editor.ask("callHierarchy/incomingCalls", json!({"item": items[0]}));
    let names: Vec<&str> = calls.as_array().unwrap().iter().map(|one| one["from"]["name"].as_str().unwrap()).collect();
    assert!(names.contains(&"withdraw") && names.contains(&"Ledger.book"), "{names:?}");
}

#[test]
fn blocks_fold_and_selections_grow() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let folds = editor.ask("textDocument/foldingRange", json!({"textDocument": {"uri": editor.uri(FLEET)}}));
    let lines: Vec<(u64, u64)> = folds
        .as_array()
        .unwrap()
        .iter()
        .map(|fold| (fold["startLine"].as_u64().unwrap() + 1, fold["endLine"].as_u64().unwrap() + 1))
        .collect();
    assert!(lines.contains(&(8, 13)) && lines.contains(&(10, 12)), "{lines:?}");
    let positions = [position(&text, "vessel.capacity", 8)];
    let grown = editor.ask(
        "textDocument/selectionRange",
        json!({"textDocument": {"uri": editor.uri(FLEET)}, "positions": positions}),
    );
    let mut at = &grown[0];
    let mut steps = 0;
    while !at["parent"].is_null() {
        at = &at["parent"];
        steps += 1;
    }
    assert!(steps > 4, "{grown}");
    assert_eq!(start(&at["range"]), "1:1");
}

#[test]
fn names_are_coloured_by_what_they_are() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(FLEET);
    let legend = editor.probe.initialized["capabilities"]["semanticTokensProvider"]["legend"]["tokenTypes"].clone();
    let tokens = editor.ask("textDocument/semanticTokens/full", json!({"textDocument": {"uri": editor.uri(FLEET)}}));
    let lines: Vec<&str> = text.lines().collect();
    let numbers: Vec<usize> =
        tokens["data"].as_array().unwrap().iter().map(|one| usize::try_from(one.as_u64().unwrap()).unwrap()).collect();
    let (mut line, mut column) = (0, 0);
    let mut told = Vec::new();
    for one in numbers.chunks(5) {
        column = if one[0] > 0 { one[1] } else { column + one[1] };
        line += one[0];
        told.push(format!("{} {}", &lines[line][column..column + one[2]], legend[one[3]].as_str().unwrap()));
    }
    let first = ["skerry namespace", "store namespace", "vessels namespace", "_FLEET variable", "load function"];
    assert_eq!(told[..5], first);
    assert!(told.contains(&"capacity property".to_owned()) && told.contains(&"reason parameter".to_owned()));
    let stretch = json!({"start": {"line": 4, "character": 0}, "end": {"line": 5, "character": 0}});
    let part = editor.ask(
        "textDocument/semanticTokens/range",
        json!({"textDocument": {"uri": editor.uri(FLEET)}, "range": stretch}),
    );
    assert_eq!(part["data"], json!([4, 0, 6, 6, 3]));
}

/// The actions at a piece of a text: title, kind, and whole.
fn actions(editor: &mut Editor, path: &str, text: &str, piece: &str) -> Vec<(String, Value)> {
    let at = position(text, piece, 0);
    let params = json!({
        "textDocument": {"uri": editor.uri(path)}, "range": {"start": at, "end": at}, "context": {"diagnostics": []},
    });
    let all = editor.ask("textDocument/codeAction", params);
    let titled = |one: &Value| (one["title"].as_str().unwrap().to_owned(), one.clone());
    all.as_array().unwrap().iter().map(titled).collect()
}

fn action(all: &[(String, Value)], begin: &str) -> Value {
    let found = all.iter().find(|(title, _)| title.starts_with(begin));
    found
        .unwrap_or_else(|| panic!("no `{begin}` among {:#?}", all.iter().map(|(title, _)| title).collect::<Vec<_>>()))
        .1
        .clone()
}

#[test]
fn findings_are_mended_hidden_and_explained_by_actions() {
    let mut editor = Editor::new(Folder::demo());
    let text = editor.open(REPORT);
    let all = actions(&mut editor, REPORT, &text, "ship.name");
    let check = action(&all, "Check `ship` for None first");
    let mended = editor.changed(REPORT, &text, &check["edit"]);
    let path = editor.path(REPORT);
    editor.probe.settle();
    let before = editor.rules(REPORT);
    editor.probe.write(&path, 2, &mended);
    editor.probe.settle();
    assert!(editor.rules(REPORT).len() < before.len(), "{before:?} {:?}", editor.rules(REPORT));
    editor.probe.write(&path, 3, &text);
    let hide = action(&all, "Hide `none.member` here");
    let hidden = editor.changed(REPORT, &text, &hide["edit"]);
    assert!(hidden.contains("# leitmotiv: allow(none.member) say why\n"), "{hidden}");
    editor.probe.write(&path, 4, &hidden);
    editor.probe.settle();
    assert_eq!(editor.rules(REPORT).len(), before.len() - 1);
    let explain = action(&all, "Explain: none.member");
    let told = editor.ask(
        "workspace/executeCommand",
        json!({"command": explain["command"]["command"], "arguments": explain["command"]["arguments"]}),
    );
    // It is hidden now: there is nothing to be told.
    assert!(told.is_null(), "{told}");
    editor.probe.write(&path, 5, &text);
    let told = editor.ask(
        "workspace/executeCommand",
        json!({"command": explain["command"]["command"], "arguments": explain["command"]["arguments"]}),
    );
    let told = told.as_str().unwrap();
    for part in ["# none.member", "## How it comes here", "`biggest` gets None", "## At run time", "## Ways out"] {
        assert!(told.contains(part), "{told}");
    }
    assert!(editor.probe.asked.iter().any(|one| one["method"] == "window/showDocument"));
}

#[test]
fn an_import_is_added_for_a_name_that_is_not_defined() {
    let mut editor = Editor::new(Folder::demo());
    let text =
        "\"\"\"A note.\"\"\"\n\n\ndef note(path):\n    return Path(path), Freighter(\"a\", 3, 4), json.dumps(3)\n";
    editor.open_with("skerry/note.py", text);
    let all = actions(&mut editor, "skerry/note.py", text, "Freighter");
    let import = action(&all, "Import `Freighter` from `skerry.vessels`");
    let written = editor.changed("skerry/note.py", text, &import["edit"]);
    assert!(written.contains("\"\"\"A note.\"\"\"\n\nfrom skerry.vessels import Freighter\n"), "{written}");
    let all = actions(&mut editor, "skerry/note.py", text, "Path(path)");
    action(&all, "Import `Path` from `pathlib`");
    let all = actions(&mut editor, "skerry/note.py", text, "json.dumps");
    let import = action(&all, "Import `json`");
    let written = editor.changed("skerry/note.py", text, &import["edit"]);
    assert!(written.contains("\nimport json\n"), "{written}");
}

/// Carries out an action's command, and gives the change that the client was asked to make.
fn carried_out(editor: &mut Editor, action: &Value) -> Value {
    editor.ask(
        "workspace/executeCommand",
        json!({"command": action["command"]["command"], "arguments": action["command"]["arguments"], "workDoneToken": "work"}),
    );
    editor.probe.settle();
    let asked = editor.probe.asked.iter().rev().find(|one| one["method"] == "workspace/applyEdit");
    asked.unwrap_or_else(|| panic!("nothing to apply: {:#?}", editor.probe.notes))["params"]["edit"].clone()
}

#[test]
fn a_function_and_a_file_are_annotated() {
    let mut editor = Editor::new(Folder::demo());
    let path = "skerry/desk/fares.py";
    let text = editor.open(path);
    let all = actions(&mut editor, path, &text, "price = 2200");
    let one = action(&all, "Annotate `vehicle_fare` from all evidence");
    let edit = carried_out(&mut editor, &one);
    let written = editor.changed(path, &text, &edit);
    assert!(written.contains("def vehicle_fare(length: int, height: float = 1.9) -> int:"), "{written}");
    assert!(written.contains("def format_price(pence):"), "{written}");
    assert!(editor.probe.notes.iter().any(|note| note["params"]["value"]["kind"] == "end"), "progress is told");
    let file = action(&all, "Annotate this file from all evidence");
    let edit = carried_out(&mut editor, &file);
    let written = editor.changed(path, &text, &edit);
    assert!(written.contains("def format_price(pence: int) -> str:"), "{written}");
}

#[test]
fn a_stub_is_written_for_an_import_without_types() {
    let folder = Folder::new(&[
        ("main.py", "import tides\n\nprint(tides.high(3))\n"),
        ("leitmotiv.toml", "[severity]\n\"import.untyped\" = \"warning\"\n"),
        ("venv/pyvenv.cfg", "home = /usr/bin\nversion = 3.12.1\n"),
        ("venv/lib/python3.12/site-packages/tides.py", "def high(day: int) -> float:\n    return day * 1.5\n"),
    ]);
    let mut editor = Editor::new(folder);
    let text = editor.open("main.py");
    let all = actions(&mut editor, "main.py", &text, "tides");
    let stub = action(&all, "Write a stub for `tides`");
    let edit = carried_out(&mut editor, &stub);
    let operations = edit["documentChanges"].as_array().unwrap();
    assert_eq!(operations[0]["kind"], "create");
    assert_eq!(operations[0]["uri"], editor.uri("stubs/tides.pyi").as_str());
    let text = operations[1]["edits"][0]["newText"].as_str().unwrap();
    assert!(text.contains("def high(day: int) -> float: ..."), "{text}");
}
