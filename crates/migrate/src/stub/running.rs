//! Modules as they are once imported: a small program describes them in the user's own interpreter.

use std::io::{BufRead, BufReader, Read, Write};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::mpsc;
use std::time::{Duration, Instant};

use leitmotiv_project::{Project, programs};
use serde::{Deserialize, Serialize};
use thiserror::Error;

const PROGRAM: &str = include_str!("describe.py");

/// How many bytes the program may say in all.
const MOST_SAID: u64 = 512 << 20;

/// How long the description of one module may take.
pub const LIMIT: Duration = Duration::from_secs(20);

/// A module as the interpreter sees it.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct Described {
    /// Its dotted name.
    pub module: String,
    /// Why it could not be imported, if it could not.
    pub error: Option<String>,
    /// The file that it was loaded from; none where it is part of the interpreter.
    pub file: Option<String>,
    /// Whether it is a package.
    pub is_package: bool,
    /// Its `__all__`.
    pub all: Option<Vec<String>>,
    /// Its names in the order of their making, with what they are; of those with two leading underscores only what `__all__`
    /// has.
    pub names: Vec<(String, Item)>,
    /// The names of a package's own modules, not imported.
    pub inside: Vec<String>,
    /// Its docstring, or the beginning of it.
    pub doc: Option<String>,
    /// The interpreter's version.
    pub python: Vec<u8>,
    /// `sys.platform`.
    pub platform: String,
}

/// A class, function or module by where it says that it is.
#[derive(Debug, Clone, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Deserialize)]
#[serde(default)]
pub struct Named {
    /// The module's dotted name.
    pub module: Option<String>,
    /// The qualified name in it.
    pub name: Option<String>,
}

/// What a name stands for.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Item {
    /// A module.
    Module {
        /// Its name.
        named: Named,
    },
    /// A class or function of another module.
    Alias {
        /// Where it says that it is.
        named: Named,
    },
    /// A function of a module.
    Function(Function),
    /// Something that can be called and wraps a function.
    Decorated(Function),
    /// A method.
    Method(Function),
    /// A static method.
    Static(Function),
    /// A class method, its first parameter included.
    ClassMethod(Function),
    /// A class method of machine code, without its first parameter.
    BoundClassMethod(Function),
    /// A property, a field of machine code, or another descriptor that cannot be called.
    Property {
        /// Whether it can be assigned.
        settable: bool,
        /// Its docstring.
        doc: Option<String>,
    },
    /// A member of an enumeration.
    EnumMember {
        /// Its value as source, where it is simple.
        text: Option<String>,
        /// The value's type.
        #[serde(rename = "type")]
        ty: Named,
    },
    /// A class.
    Class(Box<Class>),
    /// Any other value.
    Value {
        /// Its type.
        #[serde(rename = "type")]
        ty: Named,
        /// It as source, where it is simple.
        text: Option<String>,
        /// The types of what a container holds.
        #[serde(default)]
        items: Option<Vec<Named>>,
        /// The types of a dictionary's keys.
        #[serde(default)]
        keys: Option<Vec<Named>>,
        /// What it takes when called, if it can be.
        #[serde(default)]
        params: Option<Vec<Param>>,
    },
}

/// A function.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct Function {
    /// Where it says that it is.
    pub named: Named,
    /// Its parameters, where it tells them.
    pub params: Option<Vec<Param>>,
    /// Where it is defined.
    pub place: Option<SourcePlace>,
    /// Its docstring, or the beginning of it.
    pub doc: Option<String>,
    /// Whether it is a coroutine function.
    pub is_async: bool,
    /// Whether it is machine code.
    pub is_native: bool,
}

/// A line of a source file.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub struct SourcePlace {
    /// The file.
    pub file: String,
    /// The line, 1-based.
    pub line: u32,
}

/// A parameter.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct Param {
    /// Its name.
    pub name: String,
    /// Its kind, as `inspect.Parameter.kind` numbers it.
    pub kind: u8,
    /// Its default.
    pub default: Option<DefaultValue>,
    /// Its annotation, where that is text.
    pub annotation: Option<String>,
}

/// A default.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct DefaultValue {
    /// It as source, where it is simple.
    pub text: Option<String>,
    /// Its type.
    #[serde(rename = "type")]
    pub ty: Named,
}

/// A class.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct Class {
    /// Where it says that it is.
    pub named: Named,
    /// Its bases.
    pub bases: Vec<Named>,
    /// All classes that it derives from, is registered with, or answers for.
    pub ancestors: Vec<Named>,
    /// Its metaclass.
    pub metaclass: Named,
    /// Whether it cannot be derived from.
    pub is_final: bool,
    /// Whether it is an enumeration.
    pub is_enum: bool,
    /// Whether it is machine code.
    pub is_native: bool,
    /// Its own members, private ones left out.
    pub members: Vec<(String, Item)>,
    /// The names of all its members, inherited ones included.
    pub dir: Vec<String>,
    /// What it takes when called, where it tells.
    pub params: Option<Vec<Param>>,
    /// Its docstring, or the beginning of it.
    pub doc: Option<String>,
    /// Where its constructor is defined.
    pub place: Option<SourcePlace>,
}

/// Why modules could not be described.
#[derive(Debug, Error)]
pub enum RunningError {
    /// There is no interpreter to ask.
    #[error("there is no interpreter that could import modules; name one with --interpreter")]
    NoInterpreter,
    /// The project or its configuration brings it, and nobody said that it may be run.
    #[error(
        "importing modules runs `{}`, which the project brings; if you trust it, name it: --interpreter {}",
        .0.display(),
        .0.display()
    )]
    Untrusted(PathBuf),
    /// It cannot be run.
    #[error("cannot run `{}`: {source}", .path.display())]
    Unrunnable {
        /// The executable.
        path: PathBuf,
        /// Why.
        source: std::io::Error,
    },
}

/// Describes modules, in the order asked for, as `project`'s interpreter imports them. A module that cannot be imported, ends
/// the interpreter, or takes longer than `limit` is described by its [`Described::error`].
///
/// # Errors
/// [`RunningError`] where no interpreter can be run.
pub fn describe(project: &Project, modules: &[String], limit: Duration) -> Result<Vec<Described>, RunningError> {
    let (executable, packages) = interpreter(project)?;
    let paths: Vec<PathBuf> = import_paths(project).into_iter().chain(packages).collect();
    let mut all = Vec::with_capacity(modules.len());
    while all.len() < modules.len() {
        let rest = &modules[all.len()..];
        let before = all.len();
        let is_late = run(&executable, &paths, &project.root, rest, limit, &mut all)?;
        if all.len() < modules.len() {
            // What did not answer is at fault; those after it are asked for anew.
            let module = modules[all.len()].clone();
            let error = if is_late {
                format!("its import took longer than {} seconds", limit.as_secs())
            } else {
                "its import ended the interpreter".to_owned()
            };
            all.push(Described { module, error: Some(error), ..Described::default() });
        }
        debug_assert!(all.len() > before);
    }
    Ok(all)
}

/// The program that imports a project's modules, and folders of packages that it would not look into by itself.
///
/// # Errors
/// [`RunningError`] where there is none that may be run.
pub fn interpreter(project: &Project) -> Result<(PathBuf, Vec<PathBuf>), RunningError> {
    let interpreter = project.interpreter.as_ref().ok_or(RunningError::NoInterpreter)?;
    let own = interpreter.executable();
    if let Some(path) = own.as_ref().filter(|_| !interpreter.may_run) {
        return Err(RunningError::Untrusted(path.strip_prefix(&project.root).unwrap_or(path).to_owned()));
    }
    match own {
        Some(path) => Ok((path, Vec::new())),
        // Packages in a folder without an interpreter of its own: whichever is on the search path reads them.
        None => {
            let found = programs::on_path("python3", &project.surroundings, &project.root);
            Ok((found.ok_or(RunningError::NoInterpreter)?, interpreter.packages.clone()))
        }
    }
}

/// The folders that a project's own modules are imported from.
#[must_use]
pub fn import_paths(project: &Project) -> Vec<PathBuf> {
    let mut paths: Vec<PathBuf> = project.settings.sources.iter().map(|source| project.root.join(source)).collect();
    paths.push(project.root.clone());
    let src = project.root.join("src");
    if src.is_dir() && !src.join("__init__.py").exists() {
        paths.push(src);
    }
    paths
}

/// Runs the program on modules and collects what it says of them; whether it was stopped for taking too long.
fn run(
    executable: &Path,
    paths: &[PathBuf],
    folder: &Path,
    modules: &[String],
    limit: Duration,
    all: &mut Vec<Described>,
) -> Result<bool, RunningError> {
    let unrunnable = |source| RunningError::Unrunnable { path: executable.to_owned(), source };
    let mut child = Command::new(executable)
        .args(["-I", "-c", PROGRAM])
        .current_dir(folder)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .map_err(unrunnable)?;
    let request = serde_json::json!({ "paths": paths, "modules": modules }).to_string();
    if let Some(mut stdin) = child.stdin.take() {
        // A program that ends before it has read says nothing either; that is told below.
        let _ = writeln!(stdin, "{request}");
    }
    let (sender, receiver) = mpsc::channel();
    if let Some(stdout) = child.stdout.take() {
        std::thread::spawn(move || {
            for line in BufReader::new(stdout.take(MOST_SAID)).lines() {
                let Ok(line) = line else { return };
                if sender.send(line).is_err() {
                    return;
                }
            }
        });
    }
    let mut began = Instant::now();
    let mut left = modules.len();
    while left > 0 {
        match receiver.recv_timeout(limit.saturating_sub(began.elapsed())) {
            Ok(line) => {
                let Ok(described) = serde_json::from_str::<Described>(&line) else { break };
                all.push(described);
                left -= 1;
                began = Instant::now();
            }
            Err(mpsc::RecvTimeoutError::Timeout) => {
                stop(&mut child);
                return Ok(true);
            }
            Err(mpsc::RecvTimeoutError::Disconnected) => break,
        }
    }
    stop(&mut child);
    Ok(false)
}

/// Ends the program; by now it has nothing more to say.
fn stop(child: &mut Child) {
    let _ = child.kill();
    let _ = child.wait();
}

impl Described {
    /// The names that are meant for others: those of `__all__`, or else those without a leading underscore that are no modules
    /// and do not come from other modules.
    pub fn public(&self) -> impl Iterator<Item = &(String, Item)> {
        self.names.iter().filter(|(name, item)| match &self.all {
            Some(all) => all.contains(name),
            None => !name.starts_with('_') && !matches!(item, Item::Module { .. } | Item::Alias { .. }),
        })
    }

    /// Whether there is no such module, as against one that cannot be imported.
    #[must_use]
    pub fn is_absent(&self) -> bool {
        let quoted = |name: &str| format!("ModuleNotFoundError: No module named '{name}'");
        let parents = self.module.match_indices('.').map(|(end, _)| &self.module[..end]);
        self.error
            .as_ref()
            .is_some_and(|error| parents.chain([self.module.as_str()]).any(|name| error.starts_with(&quoted(name))))
    }

    /// What a name stands for.
    #[must_use]
    pub fn get(&self, name: &str) -> Option<&Item> {
        self.names.iter().find(|(known, _)| known == name).map(|(_, item)| item)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use leitmotiv_project::Surroundings;

    fn project(files: &[(&str, &str)]) -> Option<(tempfile::TempDir, Project)> {
        let folder = tempfile::tempdir().unwrap();
        for (name, text) in files {
            std::fs::write(folder.path().join(name), text).unwrap();
        }
        let path = std::env::split_paths(&std::env::var_os("PATH")?).collect();
        let project = Project::open(folder.path(), None, &Surroundings { path, ..Surroundings::default() }).unwrap();
        project.interpreter.is_some().then_some((folder, project))
    }

    fn asked(project: &Project, modules: &[&str], limit: u64) -> Vec<Described> {
        let modules: Vec<String> = modules.iter().map(|module| (*module).to_owned()).collect();
        describe(project, &modules, Duration::from_secs(limit)).unwrap()
    }

    #[test]
    fn a_module_is_described_as_it_is_once_imported() {
        let source =
            "import os\nDEPTH = 4\ndef sound(depth, *, ping=1.5): ...\nclass Sonar:\n    def hear(self, x): ...\n";
        let Some((_folder, project)) = project(&[("sonar.py", source)]) else { return };
        let [sonar] = asked(&project, &["sonar"], 20).try_into().unwrap();
        let names: Vec<&str> = sonar.public().map(|(name, _)| name.as_str()).collect();
        assert_eq!(names, ["DEPTH", "sound", "Sonar"]);
        let Some(Item::Function(sound)) = sonar.get("sound") else { panic!("{sonar:?}") };
        let params = sound.params.as_ref().unwrap();
        assert_eq!((params[1].name.as_str(), params[1].kind), ("ping", 3));
        assert_eq!(params[1].default.as_ref().unwrap().text.as_deref(), Some("1.5"));
        assert_eq!(sound.place.as_ref().unwrap().line, 3);
    }

    #[test]
    fn one_bad_module_does_not_take_the_others_along() {
        let files = [
            ("ends.py", "import os\nos._exit(3)\n"),
            ("sleeps.py", "import time\ntime.sleep(60)\n"),
            ("fails.py", "raise ValueError('no tide')\n"),
            ("talks.py", "print('hello')\nimport os\nos.write(1, b'x')\nTIDE = 1\n"),
        ];
        let Some((_folder, project)) = project(&files) else { return };
        let all = asked(&project, &["ends", "sleeps", "fails", "talks"], 2);
        let errors: Vec<Option<&str>> = all.iter().map(|module| module.error.as_deref()).collect();
        assert_eq!(
            errors,
            [
                Some("its import ended the interpreter"),
                Some("its import took longer than 2 seconds"),
                Some("ValueError: no tide"),
                None
            ]
        );
        assert!(all[3].get("TIDE").is_some());
    }
}
