//! The typing specification and the language reference, sentence by sentence: `book/<chapter>.py`.
//!
//! | line | meaning |
//! | --- | --- |
//! | `#= Chapter title` | first of all: what the chapter is called there |
//! | `#. A sentence.` | begins a section: what follows, up to the next one, is a fixture of its own ([`crate::fixture`]) |
//! | `#. more` | right below: the sentence goes on |
//! | `#- falls short: what is told instead` | the section fails as yet; one that holds may not say so |
//!
//! In each section there is code that is wrong by the sentence, marked, and code that is right, which is not. `docs/specification.md`
//! counts them; `LEITMOTIV_BLESS=1` writes what it says anew. `LEITMOTIV_BOOK=words` runs only the sections whose sentence has them.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};

use crate::fixture::{blesses, run};

const FALLS_SHORT: &str = "#- falls short: ";

fn chapters() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/book")
}

/// A sentence, and the fixture that holds us to it.
struct Section {
    sentence: String,
    /// What is told instead, where it does not hold.
    falls_short: Option<String>,
    fixture: String,
}

struct Chapter {
    title: String,
    sections: Vec<Section>,
}

fn read(path: &Path) -> Chapter {
    let text = std::fs::read_to_string(path).unwrap();
    let mut chapter = Chapter { title: String::new(), sections: Vec::new() };
    for line in text.lines() {
        if let Some(sentence) = line.strip_prefix("#. ") {
            match chapter.sections.last_mut() {
                Some(last) if last.fixture.is_empty() => {
                    let _ = write!(last.sentence, " {sentence}");
                }
                _ => chapter.sections.push(Section {
                    sentence: sentence.into(),
                    falls_short: None,
                    fixture: String::new(),
                }),
            }
        } else if let Some(section) = chapter.sections.last_mut() {
            match line.strip_prefix(FALLS_SHORT) {
                Some(short) => section.falls_short = Some(short.into()),
                None => {
                    section.fixture.push_str(line);
                    section.fixture.push('\n');
                }
            }
        } else if let Some(title) = line.strip_prefix("#= ") {
            chapter.title = title.into();
        } else {
            assert!(line.is_empty(), "{}: `{line}` stands before the first sentence", path.display());
        }
    }
    assert!(!chapter.title.is_empty(), "{} has no title", path.display());
    chapter
}

fn write(path: &Path, chapter: &Chapter) {
    let mut text = format!("#= {}\n", chapter.title);
    for section in &chapter.sections {
        let _ = writeln!(text, "\n#. {}", wrapped(&section.sentence));
        if let Some(short) = &section.falls_short {
            let _ = writeln!(text, "{FALLS_SHORT}{short}");
        }
        let _ = writeln!(text, "{}", section.fixture.trim_end());
    }
    std::fs::write(path, text).unwrap();
}

/// A sentence in lines of 120 at most.
fn wrapped(sentence: &str) -> String {
    let (mut text, mut width) = (String::new(), 3);
    for word in sentence.split(' ') {
        if width + 1 + word.chars().count() > 120 {
            text.push_str("\n#. ");
            width = 3;
        } else if !text.is_empty() {
            text.push(' ');
        }
        text.push_str(word);
        width += 1 + word.chars().count();
    }
    text
}

/// The fixture's body without the empty line that parts it from the next section.
fn holds(section: &Section) -> Result<(), crate::fixture::Wrong> {
    run(&format!("{}\n", section.fixture.trim_end()))
}

fn check(name: &str) {
    let path = chapters().join(format!("{name}.py"));
    let mut chapter = read(&path);
    let asked = std::env::var("LEITMOTIV_BOOK").unwrap_or_default();
    let mut failures = String::new();
    let mut changed = false;
    for section in &mut chapter.sections {
        if !section.sentence.contains(&asked) {
            continue;
        }
        if !section.fixture.contains("#! ") {
            let _ = writeln!(failures, "==== {}\nno code in it is wrong\n", section.sentence);
        }
        match (holds(section), &section.falls_short) {
            (Ok(()), None) | (Err(_), Some(_)) => {}
            (Ok(()), Some(_)) if blesses() => {
                section.falls_short = None;
                changed = true;
            }
            (Ok(()), Some(_)) => {
                let _ = writeln!(failures, "==== {}\nit holds: it does not fall short any more\n", section.sentence);
            }
            (Err(wrong), None) => match wrong.blessed.filter(|_| blesses()) {
                Some(blessed) => {
                    section.fixture = blessed;
                    changed = true;
                }
                None => {
                    let _ = writeln!(failures, "==== {}\n{}", section.sentence, wrong.told);
                }
            },
        }
    }
    if changed {
        write(&path, &chapter);
    }
    assert!(failures.is_empty(), "\n{failures}");
}

macro_rules! chapters {
    ($($name:ident),* $(,)?) => {
        $(
            #[test]
            fn $name() {
                check(stringify!($name));
            }
        )*

        /// In the order of the specification.
        const ALL: &[&str] = &[$(stringify!($name)),*];
    };
}

chapters!(
    annotations,
    special_types,
    generics,
    qualifiers,
    classes,
    aliases,
    literals,
    protocols,
    callables,
    constructors,
    overloads,
    dataclasses,
    typed_dictionaries,
    tuples,
    named_tuples,
    enumerations,
    narrowing,
    directives,
    distributing,
    names,
    expressions,
    statements,
    data_model,
    library,
    versions,
);

#[test]
fn no_chapter_is_forgotten() {
    let mut named: Vec<String> = ALL.iter().map(|name| format!("{name}.py")).collect();
    named.sort();
    let entries = std::fs::read_dir(chapters()).unwrap();
    let mut files: Vec<String> = entries.map(|entry| entry.unwrap().file_name().into_string().unwrap()).collect();
    files.sort();
    assert_eq!(named, files);
}

#[test]
fn a_sentence_stands_but_once() {
    let mut seen = std::collections::HashSet::new();
    for name in ALL {
        for section in read(&chapters().join(format!("{name}.py"))).sections {
            assert!(seen.insert(section.sentence.clone()), "{}", section.sentence);
        }
    }
}

const BEGIN: &str = "<!-- counted by crates/engine/tests/book.rs -->\n";
const END: &str = "<!-- up to here -->";

/// What `docs/specification.md` says of how many sentences hold.
#[test]
fn sentences_are_counted() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/specification.md");
    let text = std::fs::read_to_string(&path).unwrap();
    let (before, rest) = text.split_once(BEGIN).unwrap();
    let (old, after) = rest.split_once(END).unwrap();
    let mut new = String::from("\n| chapter | sentences | hold | lines of code |\n| --- | --: | --: | --: |\n");
    let (mut sentences, mut hold, mut lines) = (0, 0, 0);
    let mut short = String::new();
    for name in ALL {
        let chapter = read(&chapters().join(format!("{name}.py")));
        let failing: Vec<&Section> = chapter.sections.iter().filter(|section| section.falls_short.is_some()).collect();
        let of_code: usize = chapter.sections.iter().map(|section| section.fixture.trim().lines().count()).sum();
        let (all, held) = (chapter.sections.len(), chapter.sections.len() - failing.len());
        let _ = writeln!(
            new,
            "| [{}](../crates/engine/tests/book/{name}.py) | {all} | {held} | {of_code} |",
            chapter.title
        );
        for section in failing {
            let _ = writeln!(
                short,
                "- {}: {} *{}*",
                chapter.title,
                section.sentence,
                section.falls_short.as_deref().unwrap_or_default()
            );
        }
        sentences += all;
        hold += held;
        lines += of_code;
    }
    let _ = writeln!(new, "| all | {sentences} | {hold} | {lines} |\n");
    if !short.is_empty() {
        let _ = writeln!(new, "Those that do not hold, and what is told instead:\n\n{short}");
    }
    if old != new && blesses() {
        std::fs::write(&path, format!("{before}{BEGIN}{new}{END}{after}")).unwrap();
        return;
    }
    assert_eq!(old, new, "run with LEITMOTIV_BLESS=1 to count anew");
}
