//! The page, its charts and its numbers.

use serde_json::Value;

use crate::folder::Folder;

/// The demo project with a ledger that was changed once.
fn project() -> Folder {
    let folder = Folder::demo();
    folder.write("leitmotiv.toml", "sources = ['skerry']\ninterpreter = 'venv'\npython = '3.12'\n");
    folder.git(&["init", "-q"], None);
    for (words, date) in
        [(&["tighten", "--write"][..], "2026-01-05"), (&["tighten", "none-handled", "--write"], "2026-03-09")]
    {
        assert_eq!(folder.run(words).status, 0);
        folder.git(&["add", "-A"], None);
        folder.git(&["commit", "-q", "-m", "x"], Some(date));
    }
    folder
}

#[test]
fn the_page_needs_nothing_but_itself_and_no_script() {
    let folder = project();
    let run = folder.run(&["report", "--history", "2", "--out", "types.html"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let page = folder.read("types.html");
    for part in [
        "<!DOCTYPE html>",
        "<svg class=\"map\"",
        "skerry/desk/",
        "none-handled",
        "Promises in the ledger",
        "2026-01-05",
        "Known and annotated",
        "ops/__init__",
        "leitmotiv tighten",
    ] {
        assert!(page.contains(part), "{part}\n{page}");
    }
    for foreign in ["<script", "src=", "@import", "url("] {
        assert!(!page.contains(foreign), "{foreign}");
    }
    let links = page.matches("http").count();
    assert_eq!(links, page.matches("http://www.w3.org/2000/svg").count(), "{page}");
    // The same input gives the same bytes.
    folder.run(&["report", "--history", "2", "--out", "again.html"]);
    assert_eq!(folder.read("again.html"), page);
}

#[test]
fn numbers_charts_and_a_summary_are_printed() {
    let folder = project();
    let json: Value = serde_json::from_str(&folder.run(&["report", "--format", "json"]).out).unwrap();
    assert_eq!(json["schema"], "leitmotiv.overview/1");
    assert_eq!(json["ledger"].as_array().unwrap().len(), 2);
    assert!(json["ledger"][1]["debts"].as_u64() > json["ledger"][0]["debts"].as_u64(), "{json}");
    assert_eq!(json["demands"].as_array().unwrap().len(), 11);
    assert!(json["packages"].as_array().unwrap().iter().any(|package| package["name"] == "skerry/desk/"), "{json}");
    let run = folder.run(&["report", "--format", "markdown"]);
    assert!(run.out.contains("| `none-handled` | 3 packages |"), "{}", run.out);
    for chart in ["map", "time", "layers"] {
        let run = folder.run(&["report", "--format", "svg", "--chart", chart]);
        assert!(
            run.out.starts_with("<svg ") && run.out.trim_end().ends_with("</svg>"),
            "{chart} {}{}",
            run.out,
            run.err
        );
    }
    folder.run(&["report"]).refused("name the file to write");
    let bare = Folder::new(&[("m.py", "x = 1\n")]);
    bare.run(&["report", "--history", "3", "--out", "x.html"]).refused("earlier revisions are asked of git");
    bare.run(&["report", "--format", "svg", "--chart", "time"]).refused("nothing is known over time");
    assert_eq!(bare.run(&["report", "--out", "x.html"]).status, 0);
}

#[test]
fn names_cannot_break_the_page() {
    let folder = Folder::new(&[("<b>&\"x/m.py", "def f(a):\n    return a.b\n")]);
    folder.run(&["report", "--out", "types.html"]);
    let page = folder.read("types.html");
    assert!(!page.contains("<b>&\"") && page.contains("&lt;b&gt;&amp;"), "{page}");
}
