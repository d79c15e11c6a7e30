//! What may stand at the cursor, and the signatures of the call that is being written.

use serde_json::Value;

use super::{Editor, applied};
use crate::folder::Folder;

const HEAD: &str = r#"from enum import Enum
from typing import Literal, TypedDict

from skerry import fleet


class Tide(Enum):
    HIGH = 1
    LOW = 2


class Fare(TypedDict):
    adult: float
    child: float


class Quay:
    depth: int = 3

    def __init__(self, name: str):
        self.name = name

    def length(self) -> float:
        return 3.0


def moor(name: str, *, side: Literal["port", "starboard"] = "port", tide: Tide = Tide.LOW) -> Fare:
    return {"adult": 1.0, "child": 0.5}


def work(quay: Quay, fare: Fare, side: Literal["port", "starboard"]):
    local_count = 3
"#;

const PATH: &str = "skerry/work.py";

/// A document being written.
struct Desk {
    editor: Editor,
    version: i32,
}

impl Desk {
    fn new() -> Desk {
        let mut editor = Editor::new(Folder::demo());
        editor.open_with(PATH, HEAD);
        Desk { editor, version: 1 }
    }

    /// Asks about the place of the `|` in what is written behind the head.
    fn ask(&mut self, method: &str, written: &str) -> (String, Value) {
        let whole = format!("{HEAD}{written}");
        let at = HEAD.len() + written.find('|').unwrap();
        let text = whole[..at].to_owned() + &whole[at + 1..];
        self.version += 1;
        let path = self.editor.path(PATH);
        self.editor.probe.write(&path, self.version, &text);
        let line = text[..at].matches('\n').count();
        let column = at - text[..at].rfind('\n').unwrap() - 1;
        let params = serde_json::json!({
            "textDocument": {"uri": self.editor.uri(PATH)}, "position": {"line": line, "character": column},
        });
        let answer = self.editor.ask(method, params);
        (text, answer)
    }

    /// The labels that are offered.
    fn labels(&mut self, written: &str) -> Vec<String> {
        let (_, answer) = self.ask("textDocument/completion", written);
        let items = answer["items"].as_array().unwrap();
        items.iter().map(|item| item["label"].as_str().unwrap().to_owned()).collect()
    }

    fn signature(&mut self, written: &str) -> String {
        let (_, answer) = self.ask("textDocument/signatureHelp", written);
        if answer.is_null() {
            return String::new();
        }
        let active = usize::try_from(answer["activeSignature"].as_u64().unwrap()).unwrap();
        let one = &answer["signatures"][active];
        let label: Vec<u16> = one["label"].as_str().unwrap().encode_utf16().collect();
        let number = usize::try_from(one["activeParameter"].as_u64().unwrap()).unwrap();
        let part = &one["parameters"][number]["label"];
        let marked = part.as_array().map(|ends| {
            let end = |at: usize| usize::try_from(ends[at].as_u64().unwrap()).unwrap();
            String::from_utf16(&label[end(0)..end(1)]).unwrap()
        });
        format!("{} [{}]", one["label"].as_str().unwrap(), marked.unwrap_or_default())
    }
}

#[test]
fn members_are_offered_with_their_types_wherever_the_object_stands() {
    let mut desk = Desk::new();
    for written in [
        "    quay.|\n",
        "    quay.|\n    return 3\n",
        "    print(quay.|)\n",
        "    print(quay.|\n    other = 3\n",
        "    for one in [quay]:\n        one.|\n",
        "    (quay).|\n",
    ] {
        assert_eq!(desk.labels(written)[..3], ["depth", "length", "name"], "{written}");
    }
    assert_eq!(desk.labels("    quay.na|\n"), ["name"]);
    let (_, answer) = desk.ask("textDocument/completion", "    quay.le|\n");
    assert_eq!(answer["items"][0]["detail"], "() -> float");
    let (_, answer) = desk.ask("textDocument/completion", "    [1].po|\n");
    assert_eq!(answer["items"][0]["detail"], "(index: SupportsIndex = -1, /) -> int");
    let members = desk.labels("    fleet.find(\"x\").|\n");
    assert!(members.contains(&"has_cafe".to_owned()) && members.contains(&"lanes".to_owned()), "{members:?}");
    assert!(desk.labels("    fleet.|\n").contains(&"find".to_owned()));
    assert_eq!(desk.labels("    Tide.H|\n"), ["HIGH"]);
}

#[test]
fn names_arguments_keys_and_literals_are_offered_where_they_may_stand() {
    let mut desk = Desk::new();
    assert_eq!(desk.labels("    local_c|\n"), ["local_count"]);
    let all = desk.labels("    moor(\"a\", |)\n");
    assert!(all.contains(&"side=".to_owned()) && all.contains(&"tide=".to_owned()), "{all:?}");
    let all = desk.labels("    moor(\"a\", side=\"port\", |)\n");
    assert!(!all.contains(&"side=".to_owned()) && all.contains(&"tide=".to_owned()), "{all:?}");
    assert_eq!(desk.labels("    moor(\"a\", side=|)\n")[..2], ["\"port\"", "\"starboard\""]);
    assert_eq!(desk.labels("    moor(\"a\", side=\"|\")\n"), ["port", "starboard"]);
    assert_eq!(desk.labels("    moor(\"a\", side=\"|\n"), ["port", "starboard"]);
    assert!(desk.labels("    moor(\"a\", tide=|)\n").contains(&"Tide.HIGH".to_owned()));
    assert_eq!(desk.labels("    fare[\"|\"]\n"), ["adult", "child"]);
    assert_eq!(desk.labels("    fare['|\n"), ["adult", "child"]);
    assert_eq!(desk.labels("    if side == \"|\":\n        pass\n"), ["port", "starboard"]);
    for nothing in ["    # quay.|\n", "    \"quay.|\"\n", "    def ne|\n", "    3.|\n"] {
        assert_eq!(desk.labels(nothing), [""; 0], "{nothing}");
    }
}

#[test]
fn modules_and_their_names_are_offered_in_imports() {
    let mut desk = Desk::new();
    let below = desk.labels("from skerry.|\n");
    assert!(below.contains(&"vessels".to_owned()) && below.contains(&"ops".to_owned()), "{below:?}");
    assert_eq!(desk.labels("from skerry.fleet import fi|\n")[0], "find");
    assert!(desk.labels("import sk|\n").contains(&"skerry".to_owned()));
    assert!(desk.labels("from . import ve|\n").contains(&"vessels".to_owned()));
    assert!(desk.labels("from skerry import (\n    fleet,\n    v|\n").contains(&"vessels".to_owned()));
}

#[test]
fn a_name_of_another_module_brings_its_import() {
    let mut desk = Desk::new();
    let (text, answer) = desk.ask("textDocument/completion", "    Frei|\n");
    let item = answer["items"].as_array().unwrap().iter().find(|item| item["label"] == "Freighter").unwrap().clone();
    assert_eq!(item["detail"], "from skerry.vessels");
    let item = desk.editor.ask("completionItem/resolve", item);
    let mut edits = item["additionalTextEdits"].as_array().unwrap().clone();
    edits.push(item["textEdit"].clone());
    let written = applied(&text, &edits);
    assert!(written.contains("from skerry.vessels import Freighter\n"), "{written}");
    assert!(written.ends_with("    Freighter\n"), "{written}");
}

#[test]
fn the_argument_that_is_written_is_marked_in_its_signature() {
    let mut desk = Desk::new();
    let moor = "moor(name: str, *, side: Literal[\"port\", \"starboard\"] = \"port\", tide: Tide = Tide.LOW) -> Fare";
    assert_eq!(desk.signature("    moor(|\n"), format!("{moor} [name: str]"));
    assert_eq!(desk.signature("    moor(\"a\", tide=|)\n"), format!("{moor} [tide: Tide = Tide.LOW]"));
    assert_eq!(desk.signature("    max(1, moor(|), 3)\n"), format!("{moor} [name: str]"));
    assert!(desk.signature("    max(1, |\n").starts_with("max(arg1: "));
    assert_eq!(desk.signature("    Quay(|)\n"), "Quay(name: str) -> Quay [name: str]");
    assert_eq!(desk.signature("    quay.length(|)\n"), "length() -> float []");
    assert_eq!(desk.signature("    print(1)|\n"), "");
}
