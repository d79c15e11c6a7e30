use serde_json::Value;

use crate::folder::Folder;

#[test]
fn the_hub_comes_first() {
    let folder = Folder::new(&[
        ("hub.py", "def twice(n):\n    return n @ n\n\n\ndef name(v):\n    return v.name\n"),
        ("a.py", "import hub\nimport nowhere\nprint(hub.name(nowhere.v))\n"),
        ("b.py", "import hub\nimport nowhere\nprint(hub.twice(nowhere.n))\n"),
    ]);
    let run = folder.run(&["survey"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.starts_with("12 lines in 3 modules: 0 of 4 parameters and results annotated (0%)"), "{}", run.out);
    // Nothing says what its parameters are: then `annotate` can do nothing for it, and is not proposed.
    assert!(run.out.contains("By hand: `hub.py`") && run.out.ends_with("Next: leitmotiv check\n"), "{}", run.out);
    let done = Folder::new(&[
        ("hub.py", "def twice(n, by=2):\n    return n * by\n"),
        ("a.py", "import hub\nprint(hub.twice(1).real)\n"),
    ]);
    let run = done.run(&["survey"]);
    assert!(run.out.ends_with("Next: leitmotiv annotate hub.py\n"), "{}", run.out);
    let next = done.run(&["annotate", "hub.py"]);
    assert!(next.out.contains("not written. Next: leitmotiv annotate hub.py --write"), "{}", next.out);
    let json: Value = serde_json::from_str(&folder.run(&["survey", "--format", "json"]).out).unwrap();
    assert_eq!(json["schema"], "leitmotiv.survey/1");
    assert_eq!(json["modules"][0]["path"], "hub.py");
    assert_eq!(json["modules"][0]["fan_in"], 2);
    assert_eq!(json["untyped"][0]["module"], "nowhere");
    assert!(json["known_expressions"].as_u64() < json["expressions"].as_u64());
}

#[test]
fn the_gain_is_what_annotating_makes_known() {
    let folder = Folder::new(&[
        ("told.py", "def twice(n, by=2):\n    label = str(n)\n    return label * by\n\n\nprint(twice(3))\n"),
        ("untold.py", "def name(v):\n    w = v.name\n    return w.upper()\n"),
    ]);
    let json: Value = serde_json::from_str(&folder.run(&["survey", "--format", "json"]).out).unwrap();
    let of = |path: &str, key: &str| {
        let modules = json["modules"].as_array().unwrap();
        modules.iter().find(|module| module["path"] == path).unwrap()[key].as_u64().unwrap()
    };
    assert!(of("told.py", "gain") > 0 && of("told.py", "gain") == of("told.py", "unknown_by"), "{json}");
    assert!(of("untold.py", "gain") == 0 && of("untold.py", "unknown_by") > 0, "{json}");
    // As many become known as was said.
    let unknown = |folder: &Folder| {
        let json: Value = serde_json::from_str(&folder.run(&["survey", "--format", "json"]).out).unwrap();
        json["expressions"].as_u64().unwrap() - json["known_expressions"].as_u64().unwrap()
    };
    let before = unknown(&folder);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    assert_eq!(before - unknown(&folder), of("told.py", "gain"));
}

#[test]
fn a_module_whose_proposals_other_code_contradicts_is_not_proposed() {
    let folder = Folder::new(&[
        ("hub.py", "def label(late=False) -> None:\n    late = f\"{late.v}\"\n    print(late)\n"),
        ("a.py", "import hub\nprint(hub.label())\n"),
    ]);
    let run = folder.run(&["survey"]);
    assert!(run.out.ends_with("Next: leitmotiv check\n"), "{}", run.out);
    let run = folder.run(&["annotate", "hub.py"]);
    assert!(run.out.contains("left out, because other code contradicts them"), "{}", run.out);
}

#[test]
fn suppressions_are_listed_with_what_they_hide_and_why() {
    let folder = Folder::new(&[(
        "m.py",
        "a: int = 'x'  # leitmotiv: allow(value.assign) the pier is closed\n\
         b: int = 'x'  # type: ignore\n\
         c: int = 3  # leitmotiv: allow(value.assign) once\n\
         d: int = 'x'  # type: ignore[value.assign]\n\
         e: int = 3  # quayside: ignore[berth]\n",
    )]);
    let run = folder.run(&["survey", "--suppressions"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let told: Vec<&str> = run.out.lines().filter(|line| !line.contains("written by")).collect();
    assert_eq!(
        told,
        [
            "Hide nothing of what is found here  1",
            "m.py:3      0  –           value.assign: once",
            "",
            "Give no reason  2",
            "m.py:2      1  –           all of the line",
            "m.py:4      1  –           value.assign",
            "",
            "Give a reason  1",
            "m.py:1      1  –           value.assign: the pier is closed",
            "",
            "For other tools  1",
            "m.py:5      0  –           all of the line",
            "",
            "5 comments hide 3 findings. Next: leitmotiv fix --rule suppression.unused",
        ]
    );
    let run = folder.run(&["survey", "--suppressions", "--format", "json"]);
    assert!(run.out.contains("\"reason\": \"the pier is closed\""), "{}", run.out);
    let run = folder.run(&["check", "--demand", "reasoned-suppressions", "--format", "line"]);
    let told: Vec<&str> = run.out.lines().map(|line| line.split(' ').next().unwrap()).collect();
    assert_eq!(told.len(), 3, "{}", run.out);
    folder.run(&["fix", "--rule", "suppression.unused", "--write", "--dirty"]);
    assert!(folder.read("m.py").contains("c: int = 3\n"));
}
