use crate::folder::Folder;

#[test]
fn every_rule_has_a_page() {
    let folder = Folder::new(&[]);
    for rule in leitmotiv_engine::rules::ALL {
        let run = folder.run(&["explain", rule.slug]);
        assert_eq!(run.status, 0, "{}", rule.slug);
        for part in [rule.slug, "At run time", "Ways out", "price: "] {
            assert!(run.out.contains(part), "{}: {part}\n{}", rule.slug, run.out);
        }
    }
    assert!(folder.run(&["explain", "none-handled"]).out.contains("handled before use"));
}

#[test]
fn a_place_tells_its_story() {
    let folder = Folder::new(&[("a.py", "def f(n: int) -> int:\n    return n\n\n\nf('x')\n")]);
    let run = folder.run(&["explain", "a.py:5"]);
    assert_eq!(run.status, 0, "{}", run.err);
    for part in
        ["does not fit `n` of `f`", "line 1  def f(n: int)", "What could go wrong at run time", "price: nothing"]
    {
        assert!(run.out.contains(part), "{part}\n{}", run.out);
    }
    // Said once each.
    for part in ["price: nothing\n", "convert or correct the value"] {
        assert!(run.out.matches(part).count() <= 1, "{part}\n{}", run.out);
    }
    folder.run(&["explain", "a.py:2"]).refused("nothing is found at a.py:2");
}

#[test]
fn a_cause_lists_its_findings() {
    let line = "class Line:\n    def __init__(self):\n        self.sock = None\n\n    def open(self, s):\n        self.sock = open(s)\n\n    def send(self):\n        self.sock.close()\n\n    def read(self):\n        return self.sock.read()\n\n    def is_open(self):\n        return self.sock is not None\n";
    let folder = Folder::new(&[
        ("pier/line.py", line),
        ("pier/a.py", "import buoys.near\n"),
        ("b.py", "from buoys import far\n"),
    ]);
    let groups = folder.run(&["check", "--by", "cause", "--fail-on", "never"]);
    assert!(groups.out.contains("imported in 2 files"), "{}{}", groups.out, groups.err);
    // The next step that is proposed works as it is printed.
    let next = groups.out.rsplit("Next: leitmotiv ").next().unwrap().trim();
    let words: Vec<&str> = next.split(' ').collect();
    let opened = folder.run(&words);
    assert_eq!(opened.status, 0, "{next}: {}", opened.err);
    let opened = folder.run(&["explain", "pier/line.py:3"]);
    assert!(opened.out.contains("2 findings have their cause here"), "{}", opened.out);
    assert!(opened.out.contains("pier/line.py:9") && opened.out.contains("pier/line.py:12"), "{}", opened.out);
    // A package that is missing is one cause, wherever it is imported.
    let opened = folder.run(&["explain", "b.py:1"]);
    assert!(
        opened.out.contains("1 finding has its cause here") && opened.out.contains("pier/a.py:1"),
        "{}",
        opened.out
    );
}

#[test]
fn ways_out_are_of_the_project() {
    let text = "import hashlib\nhashlib.sha1('x')\nlen()\nlen([1], 2)\n'a'.lowr\n";
    let folder = Folder::new(&[("a.py", text)]);
    let out = folder.run(&["check", "--fail-on", "never"]).out;
    for part in [
        "give the class the member",
        "let the protocol",
        "let the function",
        "give the parameter a default",
        "declare the attribute",
    ] {
        assert!(!out.contains(part), "{part}\n{out}");
    }
    assert!(out.contains("way out: write `'x'.encode()`"), "{out}");
}
