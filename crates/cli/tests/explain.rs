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
    let expected = "\
a.py:5:3  error  call.argument
    f('x')
  `Literal[\"x\"]` does not fit `n` of `f`, which takes `int`

What asks for it
  ○ line 1  def f(n: int) -> int:
            `n` takes `int`

At run time
  `f` goes on with `'x'` for `n`.

Ways out
  convert  convert or correct the value before the call
           price: one place changes
  widen    declare `int | str` in place of `int` (line 1)
                1 - def f(n: int) -> int:
                  + def f(n: int | str) -> int:
           price: `f` must handle `str` as well
           tried: it goes; a.py:2 comes: `int | str` does not fit what `f`
           declares to return, `int`
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    assert!(run.out.contains("More on the rule: leitmotiv explain call.argument\n"), "{}", run.out);
}

#[test]
fn where_nothing_is_found_a_place_tells_what_is_known() {
    let text = "def find(names, name):\n    return names.get(name)\n\n\nfleet = {'Gannet': 3}\nberth = find(fleet, 'Gannet')\nprint(berth)\n\n# nothing\n";
    let folder = Folder::new(&[("a.py", text)]);
    let run = folder.run(&["explain", "a.py:7:7"]);
    let expected = "\
a.py:7
    print(berth)
  Nothing is found here. `berth` is `int | None`.

How it comes here
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    assert!(
        run.out.contains("  ○ line 6  berth = find(fleet, 'Gannet')\n") && run.out.contains("  ● line 7  here\n"),
        "{}",
        run.out
    );
    // Of a function, what evidence says of what nobody annotated.
    let run = folder.run(&["explain", "a.py:1"]);
    assert!(
        run.out.contains("What evidence says") && run.out.contains("\"Gannet\" is passed: str")
            || run.out.contains("'Gannet' is passed"),
        "{}",
        run.out
    );
    // The next step that is proposed works as it is printed.
    let next = run.out.rsplit("Next: leitmotiv ").next().unwrap().trim();
    assert_eq!(folder.run(&next.split(' ').collect::<Vec<_>>()).status, 0, "{next}");
    folder.run(&["explain", "a.py:9"]).refused("no expression stands at a.py:9");
    folder.run(&["explain", "b.py:1"]).refused("b.py");
}

#[test]
fn long_ways_are_folded_and_said_to_be() {
    let mut text =
        String::from("def start(name):\n    if name:\n        return 3\n    return None\n\n\nv0 = start('x')\n");
    for number in 1..14 {
        text.push_str(&format!("v{number} = v{}\n", number - 1));
    }
    text.push_str("print(v13.real)\n");
    let folder = Folder::new(&[("a.py", &text)]);
    let place = format!("a.py:{}", text.lines().count());
    let told = folder.run(&["explain", &place]).out;
    assert!(told.contains("○ line 4") && told.contains("┆ ") && told.contains("more places: explain -v"), "{told}");
    let whole = folder.run(&["-v", "explain", &place]).out;
    assert!(!whole.contains("┆ ") && whole.lines().filter(|line| line.contains('○')).count() == 15, "{whole}");
    let next = told.rsplit("Next: leitmotiv ").next().unwrap().trim();
    let fixed = folder.run(&next.split(' ').collect::<Vec<_>>());
    assert_eq!(fixed.status, 0, "{next}: {}", fixed.err);
    assert!(fixed.out.contains("Not written: 1 fix in 1 file."), "{}", fixed.out);
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
    assert!(groups.out.contains("       2               2  buoys"), "{}{}", groups.out, groups.err);
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
