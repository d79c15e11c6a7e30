//! The forms for other programs, held to their rules: SARIF 2.1.0 (OASIS, sections as they are named), XML, a file in place of standard output.

use std::collections::BTreeSet;

use serde_json::Value;

use crate::folder::Folder;

const MODULE: &str = "def find(names, name):\n    if name in names:\n        return name.upper()\n    return None\n\n\ndef ä():\n    'ää'; find([], 'x').lower(); find([], 'x').lower()\n\n\nprint(find([]))\n";

fn folder() -> Folder {
    Folder::new(&[("new ferry.py", MODULE), ("crew.py", "x: int = '<&\"\u{1}'\n"), ("fine.py", "x = 1\n")])
}

#[test]
fn sarif_keeps_its_rules() {
    let folder = folder();
    folder.run(&["tighten", "--as-it-is", "--write"]);
    folder.write("late.py", "undefined\n");
    let run = folder.run(&["check", "--format", "sarif", "--owed"]);
    assert_eq!(run.status, 1);
    let log: Value = serde_json::from_str(&run.out).unwrap();
    assert_eq!(log["version"], "2.1.0");
    let [run] = log["runs"].as_array().unwrap().as_slice() else { panic!("one run") };
    assert_eq!(run["columnKind"], "unicodeCodePoints");
    let driver = &run["tool"]["driver"];
    assert_eq!(driver["name"], "Leitmotiv");
    let rules = driver["rules"].as_array().unwrap();
    for rule in rules {
        assert!(rule["shortDescription"]["text"].is_string() && rule["help"]["markdown"].is_string(), "{rule}");
        assert!(
            ["none", "note", "warning", "error"].contains(&rule["defaultConfiguration"]["level"].as_str().unwrap())
        );
    }
    let results = run["results"].as_array().unwrap();
    assert_eq!(results.len(), 5, "{results:#?}");
    let mut prints = BTreeSet::new();
    for result in results {
        // 3.27: what a result must have; `ruleIndex` leads to the rule that `ruleId` names.
        assert_eq!(rules[usize::try_from(result["ruleIndex"].as_u64().unwrap()).unwrap()]["id"], result["ruleId"]);
        assert!(!result["message"]["text"].as_str().unwrap().is_empty());
        assert!(["note", "warning", "error"].contains(&result["level"].as_str().unwrap()));
        let [location] = result["locations"].as_array().unwrap().as_slice() else { panic!("one place") };
        place(location);
        // 3.27.24: whether it was there before; 3.35: what hides it.
        let is_owed = result["baselineState"] == "unchanged";
        assert_eq!(result["suppressions"].is_array(), is_owed, "{result}");
        assert_eq!(
            result["baselineState"] == "new",
            location["physicalLocation"]["artifactLocation"]["uri"] == "late.py"
        );
        assert!(prints.insert(result["partialFingerprints"]["leitmotiv/1"].as_str().unwrap().to_owned()), "{result}");
        // 3.36: each flow has steps, the last of them here.
        if let Some(flows) = result["codeFlows"].as_array() {
            let steps = flows[0]["threadFlows"][0]["locations"].as_array().unwrap();
            steps.iter().for_each(|step| place(&step["location"]));
            assert_eq!(steps.last().unwrap()["location"]["physicalLocation"], location["physicalLocation"]);
        }
    }
    // Columns are code points.
    let calls: Vec<u64> = results
        .iter()
        .filter(|result| result["ruleId"] == "none.member")
        .map(|result| result["locations"][0]["physicalLocation"]["region"]["startColumn"].as_u64().unwrap())
        .collect();
    assert_eq!(calls, [11, 34]);
    // Fingerprints stay where lines move.
    folder.write("new ferry.py", &format!("import os\n\n{MODULE}"));
    let moved: Value = serde_json::from_str(&folder.run(&["check", "--format", "sarif", "--owed"]).out).unwrap();
    let moved: BTreeSet<String> = moved["runs"][0]["results"]
        .as_array()
        .unwrap()
        .iter()
        .map(|result| result["partialFingerprints"]["leitmotiv/1"].as_str().unwrap().to_owned())
        .collect();
    assert_eq!(moved, prints);
}

/// 3.29 and 3.30: a place has an artifact and a region that counts from 1; 3.4: its reference is a valid one.
fn place(location: &Value) {
    let physical = &location["physicalLocation"];
    let uri = physical["artifactLocation"]["uri"].as_str().unwrap();
    assert!(uri.chars().all(|char| char.is_ascii_alphanumeric() || "-._~/%".contains(char)), "{uri}");
    let region = &physical["region"];
    let number = |name: &str| region[name].as_u64().unwrap();
    assert!(number("startLine") >= 1 && number("startColumn") >= 1 && number("endLine") >= number("startLine"));
    assert!(number("endLine") > number("startLine") || number("endColumn") >= number("startColumn"));
}

#[test]
fn results_as_tests_are_xml() {
    let folder = folder();
    let run = folder.run(&["check", "--format", "junit", "--output", "report.xml"]);
    assert_eq!((run.status, run.out.as_str()), (1, ""));
    let read = "import sys, xml.etree.ElementTree as tree\nroot = tree.parse(sys.argv[1]).getroot()\nsuite = root[0]\nprint(root.tag, suite.get('tests'), suite.get('failures'))\nfor case in suite.iter('testcase'):\n    print(case.get('name'), [(part.tag, part.get('message')) for part in case])\n";
    let output =
        std::process::Command::new("python3").args(["-I", "-c", read]).arg(folder.path("report.xml")).output().unwrap();
    let said = String::from_utf8(output.stdout).unwrap();
    let expected = "testsuites 3 2\ncrew.py [('failure', '`Literal[\\'<&\"\\\\x01\\']` does not fit `x`, which is declared as `int`')]\nfine.py []\nnew ferry.py [('failure', 'the call of `find` leaves out the argument `name`'), ('system-out', None)]\n";
    assert_eq!(said, expected, "{}", String::from_utf8_lossy(&output.stderr));
}

#[test]
fn a_comment_for_a_review_is_markdown() {
    let folder = folder();
    let run = folder.run(&["check", "--format", "markdown"]);
    assert!(run.out.starts_with("**Types:** 2 errors, 2 warnings\n\n- error `crew.py:1`: "), "{}", run.out);
    assert!(run.out.contains("\n- warning `new ferry.py:8`: `find([], 'x')` may be None here"), "{}", run.out);
    assert!(run.out.contains("\n  from `new ferry.py:4`: `find` returns None here\n"), "{}", run.out);
    let fine = folder.run(&["check", "--format", "markdown", "fine.py"]);
    assert_eq!(fine.out, "**Types:** nothing found\n");
}

#[test]
fn output_goes_to_a_file_whole_or_not_at_all() {
    let folder = folder();
    let all = folder.run(&["check", "--color", "always", "--format", "line"]).out;
    assert_eq!(folder.run(&["check", "--format", "line", "--output", "out/report.txt"]).status, 2);
    folder.write("report.txt", "before\n");
    assert_eq!(folder.run(&["check", "--format", "line", "--output", "report.txt"]).status, 1);
    assert_eq!(folder.read("report.txt"), all);
    std::fs::create_dir(folder.path("reports")).unwrap();
    folder.run(&["check", "--output", "reports"]).refused("it is not a regular file");
    #[cfg(unix)]
    {
        std::os::unix::fs::symlink(folder.path("report.txt"), folder.path("link.txt")).unwrap();
        folder.run(&["check", "--output", "link.txt"]).refused("it is not a regular file");
    }
    // Text for people comes without colour.
    folder.run(&["check", "--color", "always", "--output", "report.txt"]);
    assert!(!folder.read("report.txt").contains('\u{1b}'));
}
