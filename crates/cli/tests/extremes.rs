//! Deep and wide input: it neither overflows the stack nor is it dropped without a word. How long it takes is for the
//! benchmarks to say; here a walk that is quadratic would be noticed by the test not coming to an end.

use std::fmt::Write;

use serde_json::Value;

use crate::folder::Folder;

/// Checks one module and gives its findings.
fn check(text: &str) -> Vec<Value> {
    let folder = Folder::new(&[("long.py", text)]);
    let run = folder.run(&["check", "--format", "json", "--fail-on", "never"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let report: Value = serde_json::from_str(&run.out).unwrap();
    assert_eq!(report["summary"]["files"], 1);
    report["findings"].as_array().unwrap().clone()
}

fn rules(findings: &[Value]) -> Vec<&str> {
    findings.iter().map(|finding| finding["rule"].as_str().unwrap()).collect()
}

#[test]
fn brackets_in_brackets() {
    for (open, close) in [("(", ")"), ("[", "]"), ("f(", ")"), ("{'a': ", "}"), ("not ", ""), ("-", "")] {
        let text = format!("f = print\nx = {}1{}\nf(x).y\n", open.repeat(5_000), close.repeat(5_000));
        check(&text);
    }
}

#[test]
fn a_sum_of_ten_thousand_terms() {
    let text = format!("x = {}\nreveal_type(x)\nx.lower()\n", vec!["1"; 10_000].join(" + "));
    let found = check(&text);
    // Beyond the depth that is followed, nothing is known; nothing wrong is said either.
    assert!(rules(&found).contains(&"reveal.type"), "{found:?}");
}

#[test]
fn three_thousand_branches() {
    let mut text = "def berth(x):\n    if x == 0:\n        return 0\n".to_owned();
    for number in 1..3_000 {
        let _ = write!(text, "    elif x == {number}:\n        return {number}\n");
    }
    text.push_str("    return None\nberth(3).lower()\n");
    let found = check(&text);
    assert!(!found.is_empty());
}

#[test]
fn a_union_of_five_thousand_literals() {
    let names: Vec<String> = (0..5_000).map(|number| format!("\"a{number}\"")).collect();
    let text = format!(
        "from typing import Literal\nX = Literal[{}]\ndef f(x: X) -> str:\n    if x == \"a7\":\n        return x\n    return x.upper()\nf(\"no\")\n",
        names.join(", ")
    );
    let found = check(&text);
    assert!(rules(&found).iter().all(|rule| *rule == "call.argument"), "{found:?}");
}

#[test]
fn a_dictionary_of_a_hundred_thousand_entries() {
    let entries: Vec<String> = (0..100_000).map(|number| format!("\"k{number}\": {number}")).collect();
    let text = format!("x = {{{}}}\nx[\"k3\"].lower()\n", entries.join(", "));
    assert_eq!(rules(&check(&text)), ["member.absent"]);
}

#[test]
fn a_chain_of_two_thousand_classes() {
    let mut text = "class C0:\n    def load(self) -> int:\n        return 3\n".to_owned();
    for number in 1..2_000 {
        let _ = writeln!(text, "class C{number}(C{}): pass", number - 1);
    }
    text.push_str("C1999().load().lower()\n");
    assert_eq!(rules(&check(&text)), ["member.absent"]);
}

#[test]
fn five_hundred_functions_that_call_each_other() {
    let mut text = String::new();
    for number in 0..500 {
        let (next, other) = ((number + 1) % 500, (number * 7) % 500);
        let _ = write!(text, "def f{number}(n):\n    if n:\n        return f{next}(n - 1)\n    return f{other}(n)\n");
    }
    text.push_str("def start() -> int:\n    return f0(3)\n\"a\" + 1\n");
    assert_eq!(rules(&check(&text)), ["operator.unsupported"]);
}

#[test]
fn ninety_blocks_in_each_other() {
    let mut text = String::new();
    for depth in 0..90 {
        let _ = writeln!(text, "{}if x{depth}:", " ".repeat(depth));
    }
    let _ = writeln!(text, "{}\"a\" + 1", " ".repeat(90));
    let found = check(&text);
    assert!(!found.is_empty());
}

#[test]
fn many_arguments_of_several_types_each() {
    let takes: Vec<String> = (0..14).map(|number| format!("a{number}: int")).collect();
    let given: Vec<String> = (0..14).map(|_| "x".to_owned()).collect();
    let text = format!(
        "from typing import overload\n@overload\ndef f({takes}) -> int: ...\n@overload\ndef f({takes}, more: str) -> str: ...\ndef f(*all): ...\n\
         def g({takes}): ...\ndef use(x: \"str | bytes | None\") -> None:\n    g({given})\n    f({given})\n",
        takes = takes.join(", "),
        given = given.join(", "),
    );
    assert_eq!(rules(&check(&text)), ["call.argument", "call.overload"]);
}

#[test]
fn classes_of_fifty_modules_that_derive_from_each_other_in_a_circle() {
    let files: Vec<(String, String)> = (0..50)
        .map(|number| {
            let next = (number + 1) % 50;
            let text =
                format!("from m{next} import C{next}\nclass C{number}(C{next}):\n    def f(self): return self.g()\n");
            (format!("m{number}.py"), text)
        })
        .collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let run = Folder::new(&files).run(&["check"]);
    assert_eq!(run.status, 0, "{}{}", run.out, run.err);
}

#[test]
fn a_type_that_doubles_with_each_step() {
    let chain = ".x".repeat(60);
    let generic =
        "from typing import Generic, TypeVar\nT = TypeVar('T')\nclass A(Generic[T]):\n    x: 'A[tuple[T, T]]'\n";
    let found = check(&format!("{generic}y = A[int](){chain}\nreveal_type(y)\n"));
    assert_eq!(rules(&found), ["reveal.type"]);
}

#[test]
fn two_thousand_functions_in_a_circle_and_as_many_methods() {
    let mut text = String::new();
    for number in 0..2_000 {
        let _ = write!(text, "def f{number}(n):\n    return f{}(n)\n", (number + 1) % 2_000);
    }
    text.push_str("class C:\n");
    for number in 0..2_000 {
        let _ = write!(text, "    def m{number}(self, n):\n        return self.m{}(n)\n", (number + 1) % 2_000);
    }
    text.push_str("f0(1).lower()\nC().m0(1).lower()\n\"a\" + 1\n");
    assert_eq!(rules(&check(&text)), ["operator.unsupported"]);
}

#[test]
fn chains_of_calls_through_methods_and_functions() {
    let last = 20_000;
    let mut text = String::new();
    for number in 0..last {
        let next = number + 1;
        let _ = write!(text, "def f{number}(x):\n    return f{next}(x)\n");
        if number < last / 4 {
            let _ = write!(text, "class C{number}:\n    def m(self):\n        return C{next}().m()\n");
        }
    }
    let _ = write!(text, "def f{last}(x):\n    return 1\nclass C{}:\n    def m(self):\n        return 1\n", last / 4);
    // Whichever file asks first, from the top.
    let folder = Folder::new(&[
        ("a_user.py", "import chains\nreveal_type(chains.f0(1))\nreveal_type(chains.C0().m())\n"),
        ("chains.py", &text),
    ]);
    for command in [&["check", "a_user.py", "--fail-on", "never"][..], &["check", "--fail-on", "never"]] {
        let run = folder.run(command);
        assert_eq!(run.status, 0, "{}", run.err);
        assert_eq!(run.out.matches("the type is `int`").count(), 2, "{}", run.out);
    }
}

#[test]
fn thirty_thousand_bytes_that_are_no_program() {
    let found = check(&format!("x = 1\n{}\ny = 2\n", "\0".repeat(30_000)));
    assert!(!found.is_empty() && found.len() <= 51, "{}", found.len());
}
