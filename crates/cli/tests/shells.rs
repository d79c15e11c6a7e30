//! What shells and `man` read.

use crate::folder::Folder;

#[test]
fn completions_and_manual_pages_know_all_commands() {
    let folder = Folder::new(&[]);
    for shell in ["bash", "elvish", "fish", "powershell", "zsh"] {
        let run = folder.run(&["completions", shell]);
        assert_eq!(run.status, 0, "{}", run.err);
        assert!(run.out.contains("tighten") && run.out.contains("demand"), "{shell}: {}", run.out);
    }
    let page = folder.run(&["manual"]).out;
    assert!(page.contains(".TH leitmotiv 1") && page.contains("leitmotiv\\-tighten(1)"), "{page}");
    let page = folder.run(&["manual", "tighten"]).out;
    assert!(page.contains(".TH leitmotiv-tighten 1") && page.contains("\\-\\-owed"), "{page}");
    folder.run(&["manual", "nope"]).refused("there is no command `nope`");
}
