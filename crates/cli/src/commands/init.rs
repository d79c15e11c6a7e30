//! `leitmotiv init`

use std::fmt::Write as _;
use std::path::Path;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_project::write::NewFile;
use leitmotiv_project::{Project, sources};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Write a first `leitmotiv.toml` from what is found.
#[derive(Debug, Args)]
pub struct Init {
    /// Show what would be written, and write nothing.
    #[arg(long)]
    pub dry_run: bool,
}

/// A line of configuration and why it says what it says.
struct Choice {
    line: String,
    why: String,
}

/// Runs the command.
pub fn run(context: &Context, command: &Init) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    if let Some(file) = &project.settings_file {
        let shown = project.relative(file);
        return Err(Failure::unusable(format!("there is a configuration already, in `{shown}`; nothing was written")));
    }
    let choices = choose(&project, context.interpreter.is_some())?;
    let mut text =
        String::from("# Written by `leitmotiv init`. All keys are explained in docs/configuration.md of Leitmotiv.\n");
    let mut out = String::new();
    let width = look::width();
    for choice in &choices {
        let _ = writeln!(text, "{}", choice.line);
        let _ = writeln!(out, "{}", look::heading(&choice.line));
        let why = leitmotiv_syntax::shown::escaped_line(&choice.why);
        let _ = writeln!(out, "{}", look::fold(&why, width, "    ", "    "));
    }
    if command.dry_run {
        let _ = writeln!(out, "\nNothing was written. Next: leitmotiv init");
    } else {
        let file = NewFile { path: project.root.join("leitmotiv.toml"), before: None, after: Some(text.into_bytes()) };
        context.writer(&project).write("init", &[file], false)?;
        let _ = writeln!(out, "\n`leitmotiv.toml` was written. Next: leitmotiv survey");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

fn choose(project: &Project, is_named: bool) -> Result<Vec<Choice>, Failure> {
    let mut choices = Vec::new();
    let files = sources::list(project, &[]).map_err(|error| Failure::unusable(error.to_string()))?;
    let tops = top_folders(&project.root, &files);
    let named: Vec<&(String, usize)> = tops.iter().filter(|(name, _)| !is_aside(name)).collect();
    let (sources, why) = if tops.iter().any(|(name, _)| name == "src") {
        (vec!["src".to_owned()], "the packages lie in `src`".to_owned())
    } else if named.is_empty() {
        (vec![".".to_owned()], "modules lie at the top of the project".to_owned())
    } else {
        let all: Vec<String> = named.iter().map(|(name, _)| name.clone()).collect();
        let shown: Vec<String> =
            named.iter().map(|(name, files)| format!("`{name}` ({})", look::count(*files, "file", "files"))).collect();
        (all, format!("Python files were found in {}", shown.join(", ")))
    };
    let tests: Vec<&(String, usize)> = tops.iter().filter(|(name, _)| is_tests(name)).collect();
    let mut all = sources;
    all.extend(tests.iter().map(|(name, _)| name.clone()).filter(|_| !tests.is_empty()));
    choices.push(Choice {
        line: format!("sources = {}", list(&all)),
        why: format!("{why}; what .gitignore names is left out anyway"),
    });
    let leave: Vec<String> = ["**/migrations/**", "**/_vendor/**", "**/vendor/**", "**/*_pb2.py"]
        .into_iter()
        .filter(|pattern| {
            leitmotiv_project::area::patterns(&[(*pattern).to_owned()])
                .is_ok_and(|set| files.iter().any(|file| set.is_match(project.relative(file))))
        })
        .map(str::to_owned)
        .collect();
    if !leave.is_empty() {
        choices.push(Choice {
            line: format!("leave = {}", list(&leave)),
            why: "these look generated or copied from elsewhere".to_owned(),
        });
    }
    match &project.interpreter {
        Some(interpreter) if is_named => choices.push(Choice {
            line: format!("interpreter = {}", quoted(&project.relative(&interpreter.name))),
            why: "the command line names it".to_owned(),
        }),
        Some(interpreter) if interpreter.name.starts_with(&project.root) => choices.push(Choice {
            line: format!("interpreter = {}", quoted(&project.relative(&interpreter.name))),
            why: "an environment lies in the project; its packages are read".to_owned(),
        }),
        Some(interpreter) => choices.push(Choice {
            line: "# interpreter = \".venv\"".to_owned(),
            why: format!(
                "no environment lies in the project; `{}` is used, name another here",
                interpreter.name.display()
            ),
        }),
        None => choices.push(Choice {
            line: "# interpreter = \".venv\"".to_owned(),
            why: "no interpreter was found; without one, installed packages are unknown".to_owned(),
        }),
    }
    choices.push(Choice {
        line: format!("python = \"{}.{}\"", project.python.0, project.python.1),
        why: format!("from {}", project.python_from),
    });
    if !tests.is_empty() {
        let patterns: Vec<String> = tests.iter().map(|(name, _)| format!("{name}/**")).collect();
        choices.push(Choice {
            line: format!("area = [{{ paths = {}, demands = [] }}]", list(&patterns)),
            why: "tests are checked, but no demand of the project holds there unless you say so".to_owned(),
        });
    }
    Ok(choices)
}

fn list(items: &[String]) -> String {
    let items: Vec<String> = items.iter().map(|item| quoted(item)).collect();
    format!("[{}]", items.join(", "))
}

/// A text as a TOML string on one line: a folder's name may hold anything.
fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for char in text.chars() {
        match char {
            '"' | '\\' => {
                out.push('\\');
                out.push(char);
            }
            char if leitmotiv_syntax::shown::is_hidden(char) => {
                let _ = write!(out, "\\u{:04X}", u32::from(char));
            }
            char => out.push(char),
        }
    }
    out.push('"');
    out
}

/// The folders at the top that hold Python files, with how many, by name.
fn top_folders(root: &Path, files: &[std::path::PathBuf]) -> Vec<(String, usize)> {
    let mut tops: Vec<(String, usize)> = Vec::new();
    for file in files {
        let Ok(relative) = file.strip_prefix(root) else { continue };
        let mut parts = relative.components();
        let (Some(first), Some(_)) = (parts.next(), parts.next()) else { continue };
        // A configuration cannot name what is not text.
        let Some(name) = first.as_os_str().to_str().map(str::to_owned) else { continue };
        match tops.iter_mut().find(|(known, _)| *known == name) {
            Some((_, number)) => *number += 1,
            None => tops.push((name, 1)),
        }
    }
    tops
}

fn is_tests(name: &str) -> bool {
    matches!(name, "tests" | "test")
}

fn is_aside(name: &str) -> bool {
    is_tests(name) || matches!(name, "docs" | "doc" | "examples" | "scripts" | "build" | "dist")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn quoted_texts_come_back_from_toml() {
        for text in ["a", "a\"b", "a\\b", "q\"]\ninterpreter = \"evil\"\n#", "\u{7f}\u{202e}\r\t", "é"] {
            let line = format!("x = {}", quoted(text));
            let table: toml::Table = line.parse().unwrap();
            assert_eq!((table["x"].as_str(), line.lines().count()), (Some(text), 1), "{line}");
        }
    }
}
