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

fn run(order: &[&str], threads: usize) -> Vec<String> {
    let files =
        [Source { path: "a.py".into(), text: CIRCLE.into() }, Source { path: "b.py".into(), text: BACK.into() }];
    let (folder, db) = database(&files, None);
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
    let one = run(&["a.py", "b.py"], 1);
    assert!(one.iter().any(|line| line.contains("reveal.type")), "{one:?}");
    assert_eq!(run(&["b.py", "a.py"], 1), one);
    for _ in 0..4 {
        assert_eq!(run(&["a.py", "b.py"], 4), one);
    }
}
