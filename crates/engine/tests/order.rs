//! The same answers whatever is asked first, and by however many threads.

use leitmotiv_engine::check::check;

use crate::fixture::{Source, database};

/// Modules that depend on each other in circles.
const CIRCLE: &str = "
from b import second

class Vessel:
    def __init__(self, name='Gannet'):
        self.name = name
        self.next = None

    def link(self, other):
        self.next = second(other)
        return self.next

def first(n=0):
    if n > 3:
        return Vessel()
    return second(n)
";

const BACK: &str = "
import a

def second(n):
    if n:
        return a.first(n)
    return [a.first(), 'x'][0]

TOTAL = second(1)
reveal_type(TOTAL)
reveal_type(a.first(2))
";

fn circle() -> Vec<Source> {
    vec![Source { path: "a.py".into(), text: CIRCLE.into() }, Source { path: "b.py".into(), text: BACK.into() }]
}

/// The sources below a folder, by their paths in it.
fn sources_below(folder: &std::path::Path, prefix: &str, found: &mut Vec<Source>) {
    let mut entries: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    entries.sort();
    for path in entries {
        let name = path.file_name().unwrap().to_string_lossy().into_owned();
        if path.is_dir() {
            sources_below(&path, &format!("{prefix}{name}/"), found);
        } else if name.ends_with(".py") {
            found.push(Source { path: format!("{prefix}{name}"), text: std::fs::read_to_string(&path).unwrap() });
        }
    }
}

fn run(files: &[Source], order: &[&str], threads: usize) -> Vec<String> {
    let (folder, db) = database(files, None);
    let root = folder.path().canonicalize().unwrap();
    let files: Vec<_> = order.iter().map(|path| db.source(&root.join(path))).collect();
    let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).stack_size(64 << 20).build().unwrap();
    let handle = db.clone();
    let checked = pool.install(move || check(&handle, &files));
    let mut told: Vec<String> = checked
        .iter()
        .flat_map(|checked| &checked.findings)
        .map(|finding| format!("{:?} {} {}", finding.range, finding.rule, finding.message))
        .collect();
    told.sort();
    told
}

#[test]
fn cycles_across_modules_end_in_the_same_answer_from_every_side() {
    let one = run(&circle(), &["a.py", "b.py"], 1);
    assert!(one.iter().any(|line| line.contains("reveal.type")), "{one:?}");
    assert_eq!(run(&circle(), &["b.py", "a.py"], 1), one);
    for _ in 0..4 {
        assert_eq!(run(&circle(), &["a.py", "b.py"], 4), one);
    }
}

#[test]
fn unions_that_go_round_in_circles_are_told_alike_from_every_side() {
    let sides = [
        (
            "a",
            "import b, c\n\nclass Alpha:\n    def next(self, n):\n        return b.Beta().next(n) if n else self\n\nreveal_type(Alpha().next(1))\n",
        ),
        (
            "b",
            "import a, c\n\nclass Beta:\n    def next(self, n):\n        return c.Gamma().next(n) if n else self\n\nreveal_type(Beta().next(1))\n",
        ),
        (
            "c",
            "import a, b\n\nclass Gamma:\n    def next(self, n):\n        return a.Alpha().next(n) if n else self\n\nreveal_type(Gamma().next(1))\n",
        ),
    ];
    let files: Vec<Source> =
        sides.iter().map(|(name, text)| Source { path: format!("{name}.py"), text: (*text).into() }).collect();
    let one = run(&files, &["a.py", "b.py", "c.py"], 1);
    let revealed: Vec<&String> = one.iter().filter(|line| line.contains("reveal.type")).collect();
    assert!(revealed.len() == 3 && revealed.iter().all(|line| line.contains("`Alpha | Beta | Gamma`")), "{one:?}");
    assert_eq!(run(&files, &["c.py", "a.py", "b.py"], 1), one);
    assert_eq!(run(&files, &["b.py", "c.py", "a.py"], 1), one);
    assert_eq!(run(&files, &["a.py", "b.py", "c.py"], 4), one);
}

/// What holds itself would grow from round to round, further from one side than from another.
#[test]
fn containers_that_go_round_in_circles_are_told_alike_from_every_side() {
    let kinds = "
class Pier: ...

class Chart:
    def __init__(self):
        self.places = []

    def take(self, place):
        self.places.append(Pier() if place else drawn(place))

    def all(self):
        return self.places

def drawn(place):
    chart = Chart()
    chart.take(place)
    return chart.all()

def legs(n):
    return [Pier()] if n else {1: back(n)}

def back(n):
    return (legs(n), {'over': legs(n)})
";
    let asked = ["drawn(1)", "Chart().all()", "Chart().places", "legs(1)", "back(1)"];
    let ask = |one: &str| Source {
        path: format!("{}.py", one.replace(['(', ')', '.', '1'], "_")),
        text: format!("from kinds import *\n\nreveal_type({one})\n"),
    };
    let mut files: Vec<Source> = asked.iter().map(|one| ask(one)).collect();
    files.push(Source { path: "kinds.py".into(), text: kinds.into() });
    let mut order: Vec<&str> = files.iter().map(|file| file.path.as_str()).collect();
    let one = run(&files, &order, 1);
    let revealed: Vec<&String> = one.iter().filter(|line| line.contains("reveal.type")).collect();
    assert!(revealed.len() == 5 && revealed.iter().all(|line| line.contains("Pier")), "{one:?}");
    for turn in 0..files.len() {
        order.rotate_left(1);
        assert_eq!(run(&files, &order, 1), one, "{turn}");
        assert_eq!(run(&files, &order, 4), one, "{turn}");
    }
}

#[test]
fn a_whole_project_gives_the_same_in_any_order_of_its_files() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/project");
    let mut files = Vec::new();
    sources_below(&folder, "", &mut files);
    let mut order: Vec<&str> = files.iter().map(|file| file.path.as_str()).collect();
    let one = run(&files, &order, 1);
    assert!(one.len() > 20, "{one:?}");
    for turn in 0..6 {
        order.rotate_left(5);
        if turn % 2 == 1 {
            order.reverse();
        }
        let threads = if turn < 3 { 1 } else { 4 };
        assert_eq!(run(&files, &order, threads), one);
    }
}
