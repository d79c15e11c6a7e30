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
    folder.run(&["explain", "a.py:1"]).refused("nothing is found at a.py:1");
}
