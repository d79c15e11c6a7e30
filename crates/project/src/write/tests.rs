use std::path::Path;

use super::recover::{Outcome, recover};
use super::undo::UndoError;
use super::*;

struct Place {
    _folder: tempfile::TempDir,
    base: PathBuf,
}

impl Place {
    fn new(files: &[(&str, &str)]) -> Place {
        let folder = tempfile::tempdir().unwrap();
        let base = folder.path().canonicalize().unwrap();
        for (path, text) in files {
            std::fs::create_dir_all(base.join(path).parent().unwrap()).unwrap();
            std::fs::write(base.join(path), text).unwrap();
        }
        Place { _folder: folder, base }
    }

    fn writer(&self) -> Writer {
        Writer::new(&self.base, Interrupts::default())
    }

    fn file(&self, path: &str, before: Option<&str>, after: Option<&str>) -> NewFile {
        let bytes = |text: &str| text.as_bytes().to_vec();
        NewFile { path: self.base.join(path), before: before.map(bytes), after: after.map(bytes) }
    }

    fn read(&self, path: &str) -> String {
        std::fs::read_to_string(self.base.join(path)).unwrap_or_default()
    }

    /// The names at the top, sorted.
    fn names(&self) -> Vec<String> {
        let entries = std::fs::read_dir(&self.base).unwrap().flatten();
        let mut names: Vec<String> = entries.map(|entry| entry.file_name().to_string_lossy().into_owned()).collect();
        names.sort();
        names
    }
}

#[test]
fn runs_are_taken_back_one_after_the_other_each_command_its_own() {
    let place = Place::new(&[("a.py", "1"), ("b.py", "1")]);
    let writer = place.writer();
    writer.write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
    writer.write("annotate", &[place.file("b.py", Some("1"), Some("2"))], true).unwrap();
    writer.write("stub write", &[place.file("s/deep/c.pyi", None, Some("x"))], true).unwrap();
    assert_eq!(writer.undo("annotate").unwrap(), ["b.py"]);
    assert_eq!((place.read("a.py"), place.read("b.py")), ("2".into(), "1".into()));
    assert_eq!(writer.undo("annotate").unwrap(), ["a.py"]);
    assert!(matches!(writer.undo("annotate"), Err(UndoError::NothingToUndo(_))));
    assert_eq!(place.read("s/deep/c.pyi"), "x");
    writer.undo("stub write").unwrap();
    assert_eq!(place.names(), [".leitmotiv", "a.py", "b.py"]);
}

#[test]
fn one_failure_leaves_everything_as_it_was() {
    let place = Place::new(&[("good.py", "before")]);
    // A file stands where a folder is needed.
    let files = [place.file("good.py", Some("before"), Some("after")), place.file("good.py/in.py", None, Some("x"))];
    assert!(place.writer().write("annotate", &files, true).unwrap_err().to_string().starts_with("cannot write `"));
    assert_eq!((place.read("good.py").as_str(), place.names()), ("before", vec!["good.py".to_owned()]));
}

#[test]
fn what_was_changed_meanwhile_is_kept() {
    let place = Place::new(&[("a.py", "1"), ("b.py", "an hour of work")]);
    let files = [place.file("a.py", Some("1"), Some("2")), place.file("b.py", Some("1"), Some("2"))];
    let error = place.writer().write("annotate", &files, true).unwrap_err();
    assert_eq!(error.to_string(), "`b.py` was changed while this ran; nothing was written");
    assert_eq!((place.read("a.py"), place.read("b.py")), ("1".into(), "an hour of work".into()));
    let made = [place.file("b.py", None, Some("2"))];
    assert!(matches!(place.writer().write("stub write", &made, true), Err(WriteError::ChangedMeanwhile(_))));
    assert_eq!(place.names(), ["a.py", "b.py"]);
}

#[test]
fn what_was_changed_since_is_not_taken_back() {
    let place = Place::new(&[("a.py", "1")]);
    place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
    std::fs::write(place.base.join("a.py"), "3").unwrap();
    assert!(matches!(place.writer().undo("annotate"), Err(UndoError::ChangedSince(_))));
    std::fs::remove_file(place.base.join("a.py")).unwrap();
    assert!(matches!(place.writer().undo("annotate"), Err(UndoError::ChangedSince(_))));
}

#[test]
fn only_one_process_writes_at_a_time() {
    let place = Place::new(&[("a.py", "1")]);
    let home = Home::open(&place.base).unwrap();
    let lock = home.lock().unwrap();
    let files = [place.file("a.py", Some("1"), Some("2"))];
    assert!(matches!(place.writer().write("annotate", &files, true), Err(WriteError::Busy)));
    drop(lock);
    place.writer().write("annotate", &files, true).unwrap();
}

#[test]
fn a_signal_before_the_first_exchange_leaves_nothing() {
    let place = Place::new(&[("a.py", "1")]);
    let interrupts = Interrupts::default();
    interrupts.came.store(true, Ordering::SeqCst);
    let writer = Writer::new(&place.base, interrupts);
    let error = writer.write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap_err();
    assert!(matches!(error, WriteError::Interrupted));
    assert_eq!((place.read("a.py").as_str(), place.names()), ("1", vec!["a.py".to_owned()]));
}

/// A run interrupted after `done` of its files had their places.
fn interrupted(place: &Place, files: &[NewFile], done: usize) {
    let home = Home::open(&place.base).unwrap();
    let mut run = Run::begin(&home, "annotate", None).unwrap();
    for file in files {
        let folders = place::missing_folders(&place.base, &file.path);
        run.entries.push(Entry::new(&place.base, &file.path, None, file, folders));
    }
    run.write_pending(&place.base, files.iter().map(|file| file.before.as_deref())).unwrap();
    let targets: Vec<PathBuf> = files.iter().map(|file| file.path.clone()).collect();
    place.writer().stage(&run, files, &targets).unwrap();
    for (at, file) in files.iter().enumerate().take(done) {
        let staged = run.staged(&place.base, at);
        exchange::exchange(&staged, &file.path, file.before.as_deref(), file.after.as_deref()).unwrap();
    }
}

#[test]
fn an_interrupted_run_is_taken_back_or_finished() {
    for done in 0..=3 {
        let place = Place::new(&[("a.py", "1"), ("b.py", "1")]);
        let files = [
            place.file("a.py", Some("1"), Some("2")),
            place.file("new/c.pyi", None, Some("2")),
            place.file("b.py", Some("1"), Some("2")),
        ];
        interrupted(&place, &files, done);
        let [recovered] = recover(&place.base).try_into().unwrap();
        let now = (place.read("a.py"), place.read("b.py"), place.read("new/c.pyi"));
        if done == 3 {
            assert_eq!(recovered.outcome, Outcome::Finished);
            assert_eq!(now, ("2".into(), "2".into(), "2".into()));
            place.writer().undo("annotate").unwrap();
        } else {
            assert_eq!((recovered.outcome, recovered.left.len()), (Outcome::TakenBack, 0));
            assert_eq!(now, ("1".into(), "1".into(), String::new()));
        }
        assert_eq!(place.names(), [".leitmotiv", "a.py", "b.py"]);
        assert!(recover(&place.base).is_empty());
        assert!(Home::known(&place.base).unwrap().runs().is_empty());
    }
}

#[test]
fn what_a_finished_run_left_behind_is_taken_away() {
    let place = Place::new(&[("a.py", "1")]);
    place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
    let run = Home::known(&place.base).unwrap().runs().remove(0);
    std::fs::write(run.join("0"), "1").unwrap();
    assert!(recover(&place.base).is_empty());
    assert!(!run.join("0").exists() && run.join("before.bin").exists());
    place.writer().undo("annotate").unwrap();
    assert_eq!(place.read("a.py"), "1");
}

#[test]
fn recovery_leaves_what_somebody_changed_since() {
    let place = Place::new(&[("a.py", "1"), ("b.py", "1")]);
    let files = [place.file("a.py", Some("1"), Some("2")), place.file("b.py", Some("1"), Some("2"))];
    interrupted(&place, &files, 1);
    std::fs::write(place.base.join("a.py"), "3").unwrap();
    let [recovered] = recover(&place.base).try_into().unwrap();
    assert_eq!((recovered.outcome, recovered.left), (Outcome::TakenBack, vec!["a.py".to_owned()]));
    assert_eq!((place.read("a.py"), place.read("b.py")), ("3".into(), "1".into()));
}

#[test]
fn a_copy_of_an_interrupted_run_is_not_believed() {
    let place = Place::new(&[("a.py", "1")]);
    interrupted(&place, &[place.file("a.py", Some("1"), Some("2"))], 0);
    let run = Home::known(&place.base).unwrap().runs().remove(0);
    let copy = run.with_file_name("000009-copy");
    std::fs::create_dir(&copy).unwrap();
    for name in ["pending.json", "before.bin", "0"] {
        std::fs::copy(run.join(name), copy.join(name)).unwrap();
    }
    let outcomes: Vec<Outcome> = recover(&place.base).into_iter().map(|recovered| recovered.outcome).collect();
    assert_eq!(outcomes, [Outcome::TakenBack, Outcome::NotOurs]);
}

#[test]
fn remembered_paths_out_of_the_project_are_not_believed() {
    let place = Place::new(&[("a.py", "1")]);
    place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
    let run = Home::known(&place.base).unwrap().runs().remove(0).join("run.json");
    let text = std::fs::read_to_string(&run).unwrap();
    for path in ["../a.py", "/etc/a.py", "x/../../a.py", ""] {
        std::fs::write(&run, text.replace("\"a.py\"", &format!("\"{path}\""))).unwrap();
        assert!(matches!(place.writer().undo("annotate"), Err(UndoError::NotOurs(_))), "{path}");
    }
    std::fs::write(&run, text.replace("\"a.py\"", "\".git/config\"")).unwrap();
    assert!(matches!(place.writer().undo("annotate"), Err(UndoError::Write(_))));
}

#[cfg(unix)]
mod unix {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, symlink};

    use super::*;

    #[test]
    fn modes_are_kept_and_hard_links_and_read_only_files_refused() {
        let place = Place::new(&[("a.py", "1"), ("b.py", "1"), ("c.py", "1")]);
        std::fs::set_permissions(place.base.join("a.py"), std::fs::Permissions::from_mode(0o754)).unwrap();
        place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
        assert_eq!(place.base.join("a.py").metadata().unwrap().mode() & 0o7777, 0o754);
        std::fs::hard_link(place.base.join("b.py"), place.base.join("other.py")).unwrap();
        let error = place.writer().write("annotate", &[place.file("b.py", Some("1"), Some("2"))], true).unwrap_err();
        assert!(error.to_string().starts_with("`b.py` has other names (hard links)"), "{error}");
        std::fs::set_permissions(place.base.join("c.py"), std::fs::Permissions::from_mode(0o444)).unwrap();
        let error = place.writer().write("annotate", &[place.file("c.py", Some("1"), Some("2"))], true).unwrap_err();
        assert!(error.to_string().contains("is read-only"), "{error}");
    }

    #[test]
    fn the_owner_and_special_bits_are_kept_where_that_can_be() {
        let place = Place::new(&[("a.py", "1")]);
        let path = place.base.join("a.py");
        // Only root may give a file away; to others, it is their own that is kept.
        let given = std::os::unix::fs::chown(&path, Some(1234), Some(1234)).is_ok();
        std::fs::set_permissions(&path, std::fs::Permissions::from_mode(0o4751)).unwrap();
        let before = path.metadata().unwrap();
        place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap();
        let after = path.metadata().unwrap();
        assert_eq!((after.uid(), after.gid(), after.mode()), (before.uid(), before.gid(), before.mode()));
        assert!(!given || after.uid() == 1234);
    }

    #[test]
    fn a_link_is_written_through_and_its_target_must_lie_inside() {
        let outside = Place::new(&[("x.py", "1")]);
        let place = Place::new(&[("real.py", "1")]);
        symlink("real.py", place.base.join("link.py")).unwrap();
        symlink(outside.base.join("x.py"), place.base.join("out.py")).unwrap();
        place.writer().write("annotate", &[place.file("link.py", Some("1"), Some("2"))], true).unwrap();
        assert!(place.base.join("link.py").symlink_metadata().unwrap().is_symlink());
        assert_eq!(place.read("real.py"), "2");
        let error = place.writer().write("annotate", &[place.file("out.py", Some("1"), Some("2"))], true).unwrap_err();
        assert!(error.to_string().contains("lies outside of the project"), "{error}");
        assert_eq!(outside.read("x.py"), "1");
    }

    #[test]
    fn a_link_in_place_of_our_own_folder_is_refused() {
        let outside = Place::new(&[]);
        let place = Place::new(&[("a.py", "1")]);
        symlink(&outside.base, place.base.join(".leitmotiv")).unwrap();
        let error = place.writer().write("annotate", &[place.file("a.py", Some("1"), Some("2"))], true).unwrap_err();
        assert!(error.to_string().contains("it must be a folder"), "{error}");
        assert_eq!((place.read("a.py").as_str(), outside.names().len()), ("1", 0));
        assert!(Path::new(&outside.base).exists());
    }
}
