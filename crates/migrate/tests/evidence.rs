//! Evidence and what is concluded from it, on small projects: `evidence/*.py`, several files apart by lines `#--- path`, of which one
//! may be a configuration.
//!
//! At the end of the line on which an annotation would stand, `#=` says what is concluded there, `;` between several: `name: type sureness
//! kinds`, `-> type …` of a result, `self.name: type …` of an attribute; `name: -` where nothing is. The kinds of evidence are those that agree;
//! where they are left out, they are not compared. Slots that no line speaks of are not compared either.

use std::collections::BTreeMap;
use std::path::Path;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::annotate::{Inquiry, Part, Proposal, Sureness, Wanted};
use leitmotiv_project::{Project, Surroundings};

/// What is said of a slot, by file, line from 1, and name.
type Said = BTreeMap<(String, usize, String), String>;

#[test]
fn slots_are_concluded_as_marked() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/evidence");
    let mut fixtures: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    fixtures.sort();
    let mut wrong = Vec::new();
    for fixture in fixtures.iter().filter(|path| path.extension().is_some_and(|extension| extension == "py")) {
        let text = std::fs::read_to_string(fixture).unwrap();
        let name = fixture.file_name().unwrap().to_string_lossy().into_owned();
        let files = files(&text);
        let expected = marked(&files);
        assert!(!expected.is_empty(), "{name} marks nothing");
        let found = concluded(&files);
        for ((path, line, slot), wanted) in &expected {
            let found = found.get(&(path.clone(), *line, slot.clone())).map_or("-", String::as_str);
            // Kinds of evidence are compared where they are marked.
            let is_same = found == wanted || found.starts_with(&format!("{wanted} ")) && wanted.contains(' ');
            if !is_same {
                wrong.push(format!("{name} {path}:{line} {slot}: {wanted}, but is {found}"));
            }
        }
    }
    assert!(wrong.is_empty(), "\n{}", wrong.join("\n"));
}

/// The files of a fixture; those before the first line that names one are `ferry.py`.
fn files(text: &str) -> Vec<(String, String)> {
    let mut files = vec![("ferry.py".to_owned(), String::new())];
    for line in text.lines() {
        match line.strip_prefix("#--- ") {
            Some(path) => files.push((path.trim().to_owned(), String::new())),
            None => {
                if let Some((_, text)) = files.last_mut() {
                    text.push_str(line);
                    text.push('\n');
                }
            }
        }
    }
    files
}

fn marked(files: &[(String, String)]) -> Said {
    let mut all = Said::new();
    for (path, text) in files {
        for (number, line) in text.lines().enumerate() {
            let Some((_, marks)) = line.split_once("#= ") else { continue };
            for mark in marks.split(';').map(str::trim) {
                let (slot, said) = match mark.strip_prefix("-> ") {
                    Some(said) => ("->", said),
                    None => mark.split_once(": ").unwrap_or_else(|| panic!("`{mark}` marks no slot")),
                };
                all.insert((path.clone(), number + 1, slot.to_owned()), said.to_owned());
            }
        }
    }
    all
}

fn concluded(files: &[(String, String)]) -> Said {
    let folder = tempfile::tempdir().unwrap();
    let root = folder.path().canonicalize().unwrap();
    for (path, text) in files {
        let path = root.join(path);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, text).unwrap();
    }
    let project = Project::open(&root, None, &Surroundings::default()).unwrap();
    let db = Database::new(project);
    let sources = files.iter().filter(|(path, _)| path.ends_with(".py"));
    let all: Vec<File> = sources.map(|(path, _)| db.source(&root.join(path))).collect();
    let wanted = Wanted { at_least: Sureness::Low, ..Wanted::default() };
    let proposals = Inquiry::new(&db, &all).propose(&all, &wanted);
    let mut said = Said::new();
    for proposal in &proposals {
        let path = proposal.file.path(&db).to_owned();
        let text = &files.iter().find(|(of, _)| *of == path).unwrap().1;
        let line = text[..usize::from(proposal.at)].matches('\n').count() + 1;
        let slot = match &proposal.part {
            Part::Parameter(name) => name.clone(),
            Part::Return => "->".to_owned(),
            Part::Attribute(name) => format!("self.{name}"),
            Part::Variable(name) => name.clone(),
        };
        said.insert((path, line, slot), shown(proposal));
    }
    said
}

fn shown(proposal: &Proposal) -> String {
    let kinds: Vec<&str> = proposal.sources.iter().map(|source| source.name()).collect();
    format!("{} {} {}", proposal.spelled.text.trim_matches('"'), proposal.sureness.name(), kinds.join(" "))
}
