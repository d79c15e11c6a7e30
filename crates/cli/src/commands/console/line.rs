//! The line that is edited at a terminal: several lines where an input is not whole, completion, history.

use std::cell::RefCell;
use std::process::ExitCode;

use leitmotiv_console::input;
use leitmotiv_project::write::note;
use rustyline::completion::{Completer, Pair};
use rustyline::error::ReadlineError;
use rustyline::highlight::Highlighter;
use rustyline::hint::Hinter;
use rustyline::history::FileHistory;
use rustyline::validate::{ValidationContext, ValidationResult, Validator};
use rustyline::{CompletionType, Config, Editor, Helper};

use super::{BEGIN, COMMANDS, Taken, Talk, print};
use crate::failure::Failure;

/// The file of the project's own folder that holds what was typed.
const HISTORY: &str = "console-history";

/// So many inputs are remembered.
const MOST: usize = 2_000;

struct Helps<'a> {
    talk: RefCell<&'a mut Talk>,
}

impl Helper for Helps<'_> {}
impl Highlighter for Helps<'_> {}
impl Hinter for Helps<'_> {
    type Hint = String;
}

impl Validator for Helps<'_> {
    fn validate(&self, context: &mut ValidationContext<'_>) -> rustyline::Result<ValidationResult> {
        Ok(match input::is_open(context.input()) {
            true => ValidationResult::Incomplete,
            false => ValidationResult::Valid(None),
        })
    }
}

impl Completer for Helps<'_> {
    type Candidate = Pair;

    fn complete(&self, line: &str, at: usize, _: &rustyline::Context<'_>) -> rustyline::Result<(usize, Vec<Pair>)> {
        let before = &line[..at];
        if let Some(command) = before.strip_prefix(':').filter(|command| !command.contains(' ')) {
            let names = COMMANDS.iter().filter_map(|(name, _)| name.strip_prefix(':')?.split(' ').next());
            let fits = names.filter(|name| name.starts_with(command));
            return Ok((1, fits.map(|name| Pair { display: name.to_owned(), replacement: name.to_owned() }).collect()));
        }
        // Behind a command's name stands an expression.
        let skipped = match before.strip_prefix(':') {
            Some(rest) => rest.find(' ').map_or(0, |end| end + 2),
            None => usize::from(before.starts_with('!')),
        };
        let Ok(mut talk) = self.talk.try_borrow_mut() else { return Ok((at, Vec::new())) };
        let (found, from) = talk.console.complete(&before[skipped..]);
        let word = &before[skipped + from..];
        // An empty line is indented by it.
        if word.is_empty() && before.lines().next_back().is_none_or(|line| line.trim().is_empty()) {
            return Ok((at, vec![Pair { display: "    ".to_owned(), replacement: "    ".to_owned() }]));
        }
        let is_private = |label: &str| label.starts_with('_') && !word.starts_with('_');
        let items = found.items.into_iter().filter(|item| item.import.is_none() && !is_private(&item.label));
        let pairs = items
            .filter(|item| item.label.starts_with(word))
            .map(|item| Pair { display: item.label.clone(), replacement: item.insert.unwrap_or(item.label) });
        Ok((skipped + from, pairs.collect()))
    }
}

/// Asks for inputs until somebody leaves.
pub(super) fn converse(talk: &mut Talk) -> Result<ExitCode, Failure> {
    let project = talk.console.session.project();
    let python = project.python;
    let root = project.root.clone();
    if !talk.quiet {
        print(&format!(
            "Leitmotiv's console, Python {}.{}. :help lists commands, Ctrl-D leaves.\n",
            python.0, python.1
        ))?;
    }
    let failed = |error: ReadlineError| Failure::unusable(format!("the terminal cannot be used: {error}"));
    let config = Config::builder()
        .completion_type(CompletionType::List)
        .auto_add_history(true)
        .max_history_size(MOST)
        .map_err(failed)?
        .build();
    let mut editor: Editor<Helps<'_>, FileHistory> = Editor::with_config(config).map_err(failed)?;
    let history = note::home(&root).ok().map(|home| home.join(HISTORY));
    if let Some(history) =
        history.as_ref().filter(|path| path.symlink_metadata().is_ok_and(|metadata| metadata.is_file()))
    {
        // What cannot be read is as good as none.
        let _ = editor.load_history(history);
    }
    editor.set_helper(Some(Helps { talk: RefCell::new(talk) }));
    let status = loop {
        match editor.readline(BEGIN) {
            Ok(line) => {
                let Some(helper) = editor.helper() else { break 0 };
                if let Taken::Left(status) = helper.talk.borrow_mut().take(&line)? {
                    break status;
                }
            }
            // What was being written is given up.
            Err(ReadlineError::Interrupted) => {}
            Err(ReadlineError::Eof) => break 0,
            Err(error) => return Err(failed(error)),
        }
    };
    if let Some(history) = history.filter(|path| path.symlink_metadata().map_or(true, |metadata| metadata.is_file())) {
        // Where it cannot be kept, the console was used all the same.
        let _ = editor.save_history(&history);
    }
    Ok(ExitCode::from(status))
}
