use crate::folder::Folder;

#[test]
fn it_says_what_it_decided_and_overwrites_nothing() {
    let folder = Folder::new(&[("ferry/__init__.py", ""), ("ferry/migrations/a.py", ""), ("tests/t.py", "")]);
    let run = folder.run(&["init", "--dry-run"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(!folder.path("leitmotiv.toml").exists());
    let run = folder.run(&["init"]);
    assert!(run.out.ends_with("`leitmotiv.toml` was written. Next: leitmotiv survey\n"), "{}", run.out);
    let text = folder.read("leitmotiv.toml");
    assert!(
        text.contains("sources = [\"ferry\", \"tests\"]") && text.contains("leave = [\"**/migrations/**\"]"),
        "{text}"
    );
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.run(&["init"]).refused("there is a configuration already, in `leitmotiv.toml`");
    assert_eq!(folder.read("leitmotiv.toml"), text);
}
