//! One large file of one kind each, at twice the largest size that was found to hurt: time, memory, and how the time grows from
//! half the size on.

use std::fmt::Write;
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::Instant;

/// What an input may take.
const MOST_SECONDS: f64 = 5.0;
const MOST_MEGABYTES: f64 = 500.0;
const MOST_EXPONENT: f64 = 1.3;

/// A kind of file: its name, the largest size, the command, and the text.
type Kind = (&'static str, usize, &'static str, fn(usize) -> String);

fn each(head: &str, number: usize, line: impl Fn(usize) -> String, tail: &str) -> String {
    let mut text = head.to_owned();
    (0..number).for_each(|at| text.push_str(&line(at)));
    text.push_str(tail);
    text
}

const KINDS: &[Kind] = &[
    ("methods", 32_000, "check", |n| {
        each("class C:\n", n, |i| format!("    def m{i}(self):\n        return {i}\n"), "")
    }),
    ("methods that call each other", 4_000, "check", |n| {
        let line = |i| {
            format!("    def m{i}(self, x):\n        self.a{i} = self.m{}(x)\n        return self.a{i}\n", (i + 1) % n)
        };
        each("class C:\n", n, line, "")
    }),
    ("breaks in a loop", 4_000, "check", |n| {
        let line = |i| format!("        if x == {i}:\n            v = {i}\n            break\n");
        each("def f(x, g):\n    v = 0\n    while g():\n", n, line, "    return v\n")
    }),
    ("numbers by conditions", 10_000, "check", |n| {
        each("def f(x):\n    v = None\n", n, |i| format!("    if x > {i}:\n        v = {i}\n"), "    return v\n")
    }),
    ("texts by conditions", 4_000, "check", |n| {
        each("def f(x):\n    v = ''\n", n, |i| format!("    if x == {i}:\n        v = 'v{i}'\n"), "    return v\n")
    }),
    ("elif … and", 10_000, "check", |n| {
        let line = |i| format!("    elif s == \"k{i}\" and v is None:\n        v = {i}\n");
        each("def f(s):\n    v = None\n    if s is None:\n        pass\n", n, line, "    return v\n")
    }),
    ("elif x == i", 20_000, "check", |n| {
        each(
            "def f(x):\n    if x == -1:\n        return 0\n",
            n,
            |i| format!("    elif x == {i}:\n        return {i}\n"),
            "",
        )
    }),
    ("overloads and calls", 4_000, "check", |n| {
        let head = "from typing import overload, Literal\n";
        let overloads = each(
            head,
            n,
            |i| format!("@overload\ndef f(x: Literal[{i}]) -> Literal['a{i}']: ...\n"),
            "def f(x): return x\n",
        );
        each(&overloads, n, |i| format!("f({i})\n"), "")
    }),
    ("comments that hide", 20_000, "check", |n| {
        let line =
            |i| format!("undefined{i}  # type: ignore[name.undefined]\nu{i}  # leitmotiv: allow(name.undefined) x\n");
        each("", n / 2, line, "")
    }),
    ("asserts", 20_000, "check", |n| {
        let line = |_| "    assert x.a is not None\n".to_owned();
        each("class A:\n    a: 'int | None' = None\ndef f(x: A):\n", n, line, "")
    }),
    ("s += …", 20_000, "check", |n| {
        each("def f():\n    s = ''\n", n, |i| format!("    s += 'a{i}'\n"), "    return s\n")
    }),
    ("a generated module (lines)", 200_000, "check", |n| {
        let line = |i| {
            format!(
                "@dataclass\nclass D{i}:\n    a: int = {i}\n    b: str = 'x'\n    def m(self):\n        return self.a\n\nC{i} = D{i}()\nV{i} = {i}\n\n"
            )
        };
        each("from dataclasses import dataclass\n", n / 10, line, "")
    }),
    ("functions in a circle", 40_000, "check", |n| {
        each("", n, |i| format!("def f{i}(x):\n    return f{}(x)\n", (i + 1) % n), "")
    }),
    ("functions in a chain", 40_000, "check", |n| {
        each("", n, |i| format!("def f{i}(x):\n    return f{}(x)\n", i + 1), &format!("def f{n}(x):\n    return 1\n"))
    }),
    ("annotate functions", 40_000, "annotate", |n| each("", n, |i| format!("def f{i}(a=1):\n    return {i}\n"), "")),
    ("classes", 32_000, "check", |n| {
        each("", n, |i| format!("class C{i}:\n    x = {i}\n    def m(self):\n        return self.x\n"), "")
    }),
    ("isinstance", 10_000, "check", |n| {
        let classes =
            each("", n, |i| format!("class C{i}: pass\n"), "def f(x):\n    if x is None:\n        return 0\n");
        each(&classes, n, |i| format!("    elif isinstance(x, C{i}):\n        return {i}\n"), "")
    }),
    ("match", 10_000, "check", |n| {
        each("def f(x: str):\n    match x:\n", n, |i| format!("        case 'k{i}':\n            return {i}\n"), "")
    }),
    ("an enumeration", 10_000, "check", |n| {
        let members = each(
            "from enum import Enum\nclass E(Enum):\n",
            n,
            |i| format!("    A{i} = {i}\n"),
            "def f(x: E):\n    if x is None:\n        return 0\n",
        );
        each(&members, n, |i| format!("    elif x is E.A{i}:\n        return {i}\n"), "")
    }),
    ("a chain over a literal type", 4_000, "check", |n| {
        let head = each("from typing import Literal\ndef f(x: Literal[", n, |i| format!("'v{i}', "), "]):\n");
        each(&head, n, |i| format!("    if x == 'v{i}':\n        return {i}\n"), "")
    }),
    ("misspelt names", 40_000, "check", |n| {
        let names = each("", n / 2, |i| format!("berth_number_{i} = {i}\n"), "");
        each(&names, n / 2, |i| format!("print(berht_number_{i})\n"), "")
    }),
    ("misspelt attributes", 8_000, "check", |n| {
        let members = each("class C:\n", n, |i| format!("    member_{i} = {i}\n"), "c = C()\n");
        each(&members, n, |i| format!("c.membre_{i}\n"), "")
    }),
    ("NUL bytes", 60_000, "check", |n| each("x = 1\n", n, |_| "\0".to_owned(), "\n")),
    ("dollar signs", 60_000, "check", |n| each("x = ", n, |_| "$ ".to_owned(), "\n")),
    ("one long line", 16_000, "check", |n| each("", n, |_| "x: int = \"a\"; ".to_owned(), "\n")),
    ("unresolved imports", 20_000, "check", |n| each("", n, |i| format!("import missing{i}\n"), "")),
    ("a growing type", 44, "check", |n| {
        let chain = each("class A[T]:\n    x: 'A[tuple[T, T]]'\ny = A[int]()", n, |_| ".x".to_owned(), "\n");
        chain + "reveal_type(y)\n"
    }),
];

/// Measures all kinds, or those whose names begin with one of some words.
pub fn run(program: &Path, names: &[&str]) -> Result<(), String> {
    let folder = tempfile::tempdir().map_err(|error| error.to_string())?;
    let mut over = Vec::new();
    println!("| input | size | s | MB | from half the size on |\n| --- | --- | --- | --- | --- |");
    for (name, size, command, text) in KINDS {
        if !names.is_empty() && !names.iter().any(|wanted| name.starts_with(wanted)) {
            continue;
        }
        let (half, _) = fastest(program, folder.path(), command, &text(size / 2))?;
        let (whole, memory) = fastest(program, folder.path(), command, &text(*size))?;
        let exponent = (whole / half).log2();
        let mut line = String::new();
        // Writing to a string cannot fail.
        let _ = write!(line, "| {name} | {size} | {whole:.2} | {memory:.0} | {exponent:.2} |");
        // What takes next to no time tells nothing of how it grows.
        if whole > MOST_SECONDS || memory > MOST_MEGABYTES || (exponent > MOST_EXPONENT && whole > 0.5) {
            over.push(*name);
        }
        println!("{line}");
    }
    if over.is_empty() { Ok(()) } else { Err(format!("over the limits: {}", over.join(", "))) }
}

/// Processor seconds and megabytes of the fastest of three runs: what else the machine does only adds to them.
fn fastest(program: &Path, folder: &Path, command: &str, text: &str) -> Result<(f64, f64), String> {
    let mut fastest = (f64::INFINITY, f64::INFINITY);
    for _ in 0..3 {
        let (seconds, memory) = measured(program, folder, command, text)?;
        if seconds < fastest.0 {
            fastest = (seconds, memory);
        }
    }
    Ok(fastest)
}

/// Processor seconds and megabytes of one run.
fn measured(program: &Path, folder: &Path, command: &str, text: &str) -> Result<(f64, f64), String> {
    std::fs::write(folder.join("m.py"), text).map_err(|error| error.to_string())?;
    let began = Instant::now();
    let script = "import os, resource, subprocess, sys\nr = subprocess.call(sys.argv[1:], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, timeout=120)\nu = resource.getrusage(resource.RUSAGE_CHILDREN)\nprint(u.ru_utime + u.ru_stime, u.ru_maxrss / 1024)";
    let output = Command::new("python3")
        .args(["-c", script])
        .arg(program)
        .arg("--project")
        .arg(folder)
        .arg(command)
        .stderr(Stdio::null())
        .output()
        .map_err(|error| error.to_string())?;
    let said = String::from_utf8_lossy(&output.stdout).into_owned();
    let mut numbers = said.split_whitespace().filter_map(|word| word.parse::<f64>().ok());
    match (numbers.next(), numbers.next()) {
        (Some(seconds), Some(memory)) => Ok((seconds, memory)),
        _ => Ok((began.elapsed().as_secs_f64(), f64::INFINITY)),
    }
}
