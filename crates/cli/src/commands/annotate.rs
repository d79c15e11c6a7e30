//! `leitmotiv annotate`

use std::collections::HashSet;
use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;
use std::sync::Arc;

use clap::{Args, ValueEnum};
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::annotate::open::{self, Undecided};
use leitmotiv_migrate::annotate::suggest::{self, Suggestion};
use leitmotiv_migrate::annotate::vet::{self, Vetted, Withdrawn};
use leitmotiv_migrate::annotate::{Proposal, Source, Sureness, Told, Wanted, is_test};
use leitmotiv_migrate::change;
use leitmotiv_migrate::session::Asked;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// The command's name in what is remembered of its runs.
const NAME: &str = "annotate";

/// Write annotations from evidence.
#[derive(Debug, Args)]
pub struct Annotate {
    /// Files and folders; by default the configured sources. Tests are evidence and stay as they are, unless they are named.
    pub paths: Vec<PathBuf>,
    /// Apply the annotations, in place of showing them as a diff.
    #[arg(long, conflicts_with = "undo")]
    pub write: bool,
    /// Take the last run back that was not taken back yet.
    #[arg(long)]
    pub undo: bool,
    /// Which evidence to use.
    #[arg(long, value_name = "KINDS", value_delimiter = ',')]
    pub from: Vec<From>,
    /// The least sure that is wanted.
    #[arg(long, value_name = "HOW", default_value = "fair")]
    pub at_least: AtLeast,
    /// Only these functions, by name or dotted name.
    #[arg(long, value_name = "NAME", num_args = 1..)]
    pub functions: Vec<String>,
    /// Show the evidence for each annotation, in place of a diff.
    #[arg(long)]
    pub why: bool,
    /// List what is left to decide, with what speaks for which type; what would make most known comes first.
    #[arg(long, conflicts_with_all = ["write", "undo", "why"])]
    pub open: bool,
    /// List what a person may want to write beside annotations, with the code to begin with and the places.
    #[arg(long, value_name = "KINDS", value_delimiter = ',', conflicts_with_all = ["write", "undo", "why", "open"])]
    pub suggest: Vec<Suggest>,
    /// Write to files that have uncommitted changes or are not under version control, too.
    #[arg(long)]
    pub dirty: bool,
}

/// Kinds of evidence.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum From {
    /// What docstrings say.
    Docstrings,
    /// What declarations of a command's options say.
    Declarations,
    /// Methods of bases, and what the language calls by itself.
    Bases,
    /// Conditions without which a function does not go on.
    Guards,
    /// What calls pass.
    Calls,
    /// What passed while the program ran (`leitmotiv trace run`).
    Traces,
    /// Defaults of parameters.
    Defaults,
    /// What functions return.
    Returns,
    /// What is done with parameters and attributes.
    Uses,
    /// What attributes are given, and what is done with them.
    Attributes,
    /// What has the same name elsewhere.
    Names,
}

impl From {
    fn source(self) -> Source {
        match self {
            From::Docstrings => Source::Docstrings,
            From::Declarations => Source::Declarations,
            From::Bases => Source::Bases,
            From::Guards => Source::Guards,
            From::Calls => Source::Calls,
            From::Traces => Source::Traces,
            From::Defaults => Source::Defaults,
            From::Returns => Source::Returns,
            From::Uses => Source::Uses,
            From::Attributes => Source::Attributes,
            From::Names => Source::Names,
        }
    }
}

/// Kinds of suggestion.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Suggest {
    /// Types of their own for ids, addresses and quantities that are never mixed.
    Distinct,
    /// Overloads where the result depends on what is passed.
    Overloads,
    /// Protocols for what unrelated classes have in common that are passed to one parameter.
    Protocols,
    /// Typed dictionaries for dictionaries with the same constant keys.
    Records,
}

impl Suggest {
    fn kind(self) -> suggest::Kind {
        match self {
            Suggest::Distinct => suggest::Kind::Distinct,
            Suggest::Overloads => suggest::Kind::Overloads,
            Suggest::Protocols => suggest::Kind::Protocols,
            Suggest::Records => suggest::Kind::Records,
        }
    }
}

/// How sure an annotation must be.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum AtLeast {
    /// Other values are likely to be meant as well.
    Low,
    /// It covers what can be seen.
    Fair,
    /// Nothing else is possible.
    Sure,
}

/// Runs the command.
pub fn run(context: &Context, command: &Annotate) -> Result<ExitCode, Failure> {
    if command.undo {
        // Neither configuration nor ledger is needed for that, and so neither can stand in its way.
        let taken = change::undo(&context.writer_at(&context.folder)?, NAME)?;
        print(&format!("Took back the last run in {}. Next: leitmotiv annotate --why\n", files(taken.len())))?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut session = context.session_with_readable_ledger()?;
    session.ask(&Asked::default());
    let list = session.files(&context.paths(&command.paths))?;
    let wanted = Wanted {
        sources: match command.from.as_slice() {
            [] => Source::ALL.to_vec(),
            from => from.iter().map(|from| from.source()).collect(),
        },
        at_least: match command.at_least {
            AtLeast::Low => Sureness::Low,
            AtLeast::Fair => Sureness::Fair,
            AtLeast::Sure => Sureness::Sure,
        },
        functions: command.functions.clone(),
        records: super::recorded(session.project()),
        held: Arc::new(session.held(&list)),
    };
    // Whatever was asked for, other files may contradict it.
    let mut all = session.files(&[])?;
    all.extend(list.iter().copied());
    all.sort_by_key(|file| file.path(&session.db));
    all.dedup();
    let named: HashSet<File> = list.iter().copied().collect();
    // Tests pass odd values on purpose, and look at signatures at times: only who names them wants them annotated.
    let names_tests = command.paths.iter().any(|path| is_test(&path.to_string_lossy()));
    let is_asked = |file: &File| named.contains(file) && (names_tests || !is_test(file.path(&session.db)));
    let asked: Vec<File> = all.iter().copied().filter(is_asked).collect();
    if command.open {
        let wanted = Wanted { at_least: Sureness::Low, ..wanted };
        return print(&undecided(&open::undecided(&session.db, &all, &asked, &wanted))).map(|()| ExitCode::SUCCESS);
    }
    if !command.suggest.is_empty() {
        let kinds: Vec<suggest::Kind> = command.suggest.iter().map(|kind| kind.kind()).collect();
        let found = suggest::suggestions(&session.db, &all, &asked, &kinds);
        return print(&suggested(&found)).map(|()| ExitCode::SUCCESS);
    }
    let vetted = vet::vetted(&mut session.db, &all, &asked, &wanted);
    if vetted.changes.is_empty() {
        let mut out = if command.why { contradicted(&vetted.withdrawn) } else { String::new() };
        match vetted.withdrawn.len() {
            0 => out.push_str("There is no evidence for any annotation that is missing here. Next: leitmotiv survey\n"),
            number => {
                let number = look::count(number, "annotation was", "annotations were");
                let next = if command.why {
                    "leitmotiv survey".to_owned()
                } else {
                    format!("leitmotiv annotate{} --why", command.words())
                };
                let _ = writeln!(out, "{number} left out, because other code contradicts them. Next: {next}");
            }
        }
        print(&out)?;
        return Ok(ExitCode::SUCCESS);
    }
    let changes = &vetted.changes;
    let apart = match vetted.withdrawn.len() {
        0 => String::new(),
        number => format!(" ({number} left out, because other code contradicts them)"),
    };
    let number = look::count(vetted.accepted.len(), "annotation", "annotations");
    let said = format!("{number} in {}{apart}", files(changes.len()));
    if command.write {
        let project = session.project();
        change::write(project, &context.writer(project), NAME, changes, command.dirty)?;
        let text = format!("Wrote {said}. Take it back with leitmotiv annotate --undo. Next: leitmotiv check");
        print(&format!("{}\n", look::fold(&text, look::width(), "", "")))?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut out = if command.why { reasons(&vetted) } else { change::diff(changes) };
    if !context.quiet {
        let _ = writeln!(out, "{said}, not written. Next: leitmotiv annotate{} --write", command.words());
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

impl Annotate {
    /// What was asked for, as it is typed, so that the next step is about the same.
    fn words(&self) -> String {
        let mut words = String::new();
        for path in &self.paths {
            let _ = write!(words, " {}", super::argument(&path.to_string_lossy()));
        }
        let sources: Vec<String> =
            self.from.iter().filter_map(|from| Some(from.to_possible_value()?.get_name().to_owned())).collect();
        if !sources.is_empty() {
            let _ = write!(words, " --from {}", sources.join(","));
        }
        if let Some(value) = self.at_least.to_possible_value().filter(|_| self.at_least != AtLeast::Fair) {
            let _ = write!(words, " --at-least {}", value.get_name());
        }
        if !self.functions.is_empty() {
            let _ = write!(words, " --functions {}", self.functions.join(" "));
        }
        words
    }
}

fn files(number: usize) -> String {
    look::count(number, "file", "files")
}

/// What speaks for a proposal, and what says something else, a line each.
pub(super) fn evidence(proposal: &Proposal, width: usize) -> String {
    let for_it = proposal.evidence.iter().map(|told| (told, ""));
    let against = proposal.conflicts.iter().map(|told| (told, "but "));
    let line = |(told, but): (&Told, &str)| {
        let text = format!("{}:{}  {but}{}", told.path, told.line, told.words);
        look::fold(&text, width, "    ", "        ") + "\n"
    };
    for_it.chain(against).map(line).collect()
}

fn reasons(vetted: &Vetted) -> String {
    let width = look::width();
    let mut out = String::new();
    for proposal in &vetted.accepted {
        let slot = proposal.part.shown(&proposal.function, &proposal.spelled.text);
        let _ = writeln!(out, "{}  {}", look::heading(&slot), look::faint(proposal.sureness.name()));
        out.push_str(&evidence(proposal, width));
    }
    out.push('\n');
    out.push_str(&contradicted(&vetted.withdrawn));
    out
}

/// So many slots are listed that are left to decide.
const MOST_LISTED: usize = 20;

/// What is left to decide.
fn undecided(all: &[Undecided]) -> String {
    let width = look::width();
    let mut out = String::new();
    for one in all.iter().take(MOST_LISTED) {
        let (text, sureness) = match &one.proposal {
            Some(proposal) => (proposal.spelled.text.as_str(), proposal.sureness.name()),
            None => ("?", "nothing speaks for any type"),
        };
        let slot = one.part.shown(&one.owner, text);
        let gain = match one.gain {
            0 => String::new(),
            gain => format!(", makes {} known", look::count(gain, "expression", "expressions")),
        };
        let _ = writeln!(out, "{}", look::fold(&look::heading(&slot), width, "", "    "));
        let place = format!("{}:{}  {sureness}{gain}", one.path, one.line);
        let _ = writeln!(out, "{}", look::fold(&look::faint(&place), width, "    ", "        "));
        let Some(proposal) = &one.proposal else { continue };
        out.push_str(&evidence(proposal, width));
    }
    let number = look::count(all.len(), "slot is", "slots are");
    let shown = if all.len() > MOST_LISTED { format!("; the first {MOST_LISTED} are listed") } else { String::new() };
    let _ = writeln!(out, "{number} left to decide{shown}. Next: leitmotiv check");
    out
}

/// So many places of a suggestion are listed.
const MOST_PLACES: usize = 6;

/// Suggestions, each with its code and places.
fn suggested(all: &[Suggestion]) -> String {
    let width = look::width();
    let mut out = String::new();
    for one in all {
        let _ = writeln!(out, "{}", look::heading(&format!("{}:{}", one.path, one.line)));
        let _ = writeln!(out, "{}", look::fold(&one.words, width, "  ", "  "));
        for line in one.code.lines() {
            let _ = writeln!(out, "      {line}");
        }
        for (path, line, words) in one.places.iter().take(MOST_PLACES) {
            let _ = writeln!(out, "{}", look::fold(&format!("{path}:{line}  {words}"), width, "    ", "        "));
        }
        if one.places.len() > MOST_PLACES {
            let _ = writeln!(out, "    and {} more", one.places.len() - MOST_PLACES);
        }
        out.push('\n');
    }
    let number = look::count(all.len(), "suggestion", "suggestions");
    let _ = writeln!(out, "{number}; nothing was written. Next: leitmotiv annotate");
    out
}

/// What was left out, with the code that stands against it.
fn contradicted(withdrawn: &[Withdrawn]) -> String {
    if withdrawn.is_empty() {
        return String::new();
    }
    let width = look::width();
    let mut out = String::new();
    let _ = writeln!(out, "{}", look::heading("Left out, because other code contradicts them"));
    for one in withdrawn {
        let slot = format!("{}  {}", one.path, one.part.shown(&one.function, &one.text));
        let _ = writeln!(out, "{}", look::fold(&slot, width, "  ", "      "));
        if let Some((place, words)) = &one.against {
            let _ = writeln!(out, "{}", look::fold(&format!("{place}  {words}"), width, "      ", "          "));
        }
    }
    out.push('\n');
    out
}
