//! Which files make up a project, how it is configured, and where an import leads.
//!
//! Knows files and folders, but not what stands in Python files. In reading order:
//!
//! - [`read`]: files read so that nothing hangs
//! - [`settings`]: the table of configuration keys and their reading
//! - [`area`]: severities and demands by path
//! - [`ignored`]: what `.gitignore` files say
//! - [`sources`]: which files are checked
//! - [`interpreter`]: version and installed packages
//! - [`cache`]: a folder of what can be worked out again
//! - [`resolve`]: from a module's name to a file, in the typing specification's order
//! - [`programs`]: other programs, run within limits
//! - [`write`]: files written all or none, remembered, and taken back
//!
//! The entry is [`Project::open`].

pub mod area;
pub mod cache;
pub mod ignored;
pub mod interpreter;
pub mod programs;
pub mod read;
pub mod resolve;
pub mod settings;
pub mod sources;
pub mod store;
pub mod write;

use std::path::{Path, PathBuf};

use thiserror::Error;

use interpreter::{Interpreter, NamedBy};
use settings::Settings;

/// A project: its folder, its settings, its interpreter.
#[derive(Debug, Clone)]
pub struct Project {
    /// The folder that paths are relative to; absolute.
    pub root: PathBuf,
    /// What is configured, or the defaults.
    pub settings: Settings,
    /// The file that the settings come from, if there is one.
    pub settings_file: Option<PathBuf>,
    /// The interpreter whose packages are read, if one was found.
    pub interpreter: Option<Interpreter>,
    /// The language version that is checked for.
    pub python: (u8, u8),
    /// Where the version comes from, in words.
    pub python_from: &'static str,
    /// What the outside world says.
    pub surroundings: Surroundings,
}

/// Why a project cannot be opened.
#[derive(Debug, Error)]
pub enum ProjectError {
    /// The folder is not there.
    #[error("there is no folder `{}`", .0.display())]
    NoFolder(PathBuf),
    /// A file cannot be read.
    #[error("cannot read `{}`: {source}", .path.display())]
    Unreadable {
        /// The file.
        path: PathBuf,
        /// Why.
        source: std::io::Error,
    },
    /// A configuration file is wrong.
    #[error("{}: {source}", .path.display())]
    Settings {
        /// The file, relative to the project where it lies in it.
        path: PathBuf,
        /// What is wrong.
        source: settings::SettingsError,
    },
    /// The interpreter that is asked for is unusable.
    #[error("there is no interpreter `{0}`, which {1} names")]
    NoInterpreter(String, &'static str),
    /// The interpreter that the configuration names cannot be told by reading.
    #[error(
        "`{0}`, which the configuration names, does not tell by its place where its packages lie, and what a project \
         names is not run; name the environment's folder, or give --interpreter"
    )]
    OnlyRead(String),
}

/// What the outside world says, read by the faces and handed down.
#[derive(Debug, Clone, Default)]
pub struct Surroundings {
    /// The value of `VIRTUAL_ENV`.
    pub virtual_env: Option<PathBuf>,
    /// The folders of `PATH`.
    pub path: Vec<PathBuf>,
    /// An interpreter that is to be used, whatever is configured: a path, an environment's folder, or a command's name.
    pub interpreter: Option<String>,
    /// Whether that was named by the settings of an editor, which a project may bring: it is only read then.
    pub by_editor: bool,
}

impl Project {
    /// Opens the project in `root`. Reads `config`, or else `leitmotiv.toml`, or else the table of ours in `pyproject.toml`.
    ///
    /// # Errors
    /// [`ProjectError`] where the folder, the configuration or the configured interpreter is unusable.
    pub fn open(root: &Path, config: Option<&Path>, surroundings: &Surroundings) -> Result<Project, ProjectError> {
        let root = root.canonicalize().map_err(|_| ProjectError::NoFolder(root.to_owned()))?;
        if !root.is_dir() {
            return Err(ProjectError::NoFolder(root));
        }
        let (settings, settings_file) = read_settings(&root, config)?;
        let interpreter = match (&surroundings.interpreter, &settings.interpreter) {
            (Some(named), _) if surroundings.by_editor => Some(configured(named, &root, surroundings)?),
            (Some(named), _) => {
                let found = Interpreter::at(&root.join(named), &root, NamedBy::CommandLine)
                    .or_else(|| Interpreter::on_path(named, &root, surroundings));
                Some(found.ok_or_else(|| ProjectError::NoInterpreter(named.clone(), "the command"))?)
            }
            (None, Some(named)) => Some(configured(named, &root, surroundings)?),
            (None, None) => Interpreter::find(&root, surroundings),
        };
        let required = || read_text(&root.join("pyproject.toml")).ok().and_then(|text| requires_python(&text));
        let (python, python_from) = if let Some(version) = settings.python {
            (version, "the configuration")
        } else if let Some(version) = required() {
            (version, "requires-python")
        } else if let Some(interpreter) = &interpreter {
            (interpreter.version, "the interpreter")
        } else {
            ((3, 13), "the default, as no interpreter was found")
        };
        let surroundings = surroundings.clone();
        Ok(Project { root, settings, settings_file, interpreter, python, python_from, surroundings })
    }

    /// A path as it is printed: relative to the project, with `/`. It is no way to the file: a name that is not valid Unicode
    /// is not whole in it.
    #[must_use]
    pub fn relative(&self, path: &Path) -> String {
        let text = path.strip_prefix(&self.root).unwrap_or(path).to_string_lossy();
        if std::path::MAIN_SEPARATOR == '/' { text.into_owned() } else { text.replace(std::path::MAIN_SEPARATOR, "/") }
    }
}

/// The interpreter that the configuration names: a path, or a command's name that the search path knows. It is only read.
fn configured(named: &str, root: &Path, surroundings: &Surroundings) -> Result<Interpreter, ProjectError> {
    let path = root.join(named);
    if let Some(found) = Interpreter::at(&path, root, NamedBy::Project) {
        return Ok(found);
    }
    // `python3.11` is an interpreter by its name; on the user's own search path it may be asked.
    let is_python =
        named.strip_prefix("python").is_some_and(|rest| rest.chars().all(|char| char == '.' || char.is_ascii_digit()));
    if is_python
        && !path.exists()
        && let Some(found) = Interpreter::on_path(named, root, surroundings)
    {
        return Ok(found);
    }
    if path.is_file() {
        return Err(ProjectError::OnlyRead(named.to_owned()));
    }
    Err(ProjectError::NoInterpreter(named.to_owned(), "the configuration"))
}

fn read_text(path: &Path) -> Result<String, ProjectError> {
    read::text(path).map_err(|source| ProjectError::Unreadable { path: path.to_owned(), source })
}

fn read_settings(root: &Path, config: Option<&Path>) -> Result<(Settings, Option<PathBuf>), ProjectError> {
    let parse = |path: &Path, in_pyproject: bool| -> Result<Option<Settings>, ProjectError> {
        let text = read_text(path)?;
        Settings::parse(&text, in_pyproject).map_err(|source| {
            let shown = path.strip_prefix(root).unwrap_or(path).to_owned();
            ProjectError::Settings { path: shown, source }
        })
    };
    if let Some(path) = config {
        let in_pyproject = path.file_name().is_some_and(|name| name == "pyproject.toml");
        return Ok((parse(path, in_pyproject)?.unwrap_or_default(), Some(path.to_owned())));
    }
    let own = root.join("leitmotiv.toml");
    if own.exists() {
        return Ok((parse(&own, false)?.unwrap_or_default(), Some(own)));
    }
    let pyproject = root.join("pyproject.toml");
    if pyproject.exists()
        && let Some(settings) = parse(&pyproject, true)?
    {
        return Ok((settings, Some(pyproject)));
    }
    Ok((Settings::default(), None))
}

/// The lowest version that `requires-python` (PEP 621) allows.
fn requires_python(pyproject: &str) -> Option<(u8, u8)> {
    let table: toml::Table = pyproject.parse().ok()?;
    let required = table.get("project")?.get("requires-python")?.as_str()?;
    required.split(',').find_map(|part| {
        let part = part.trim();
        let version =
            part.strip_prefix(">=").or_else(|| part.strip_prefix("~=")).or_else(|| part.strip_prefix("=="))?;
        settings::parse_version(version.trim().trim_end_matches(".*"))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn requires_python_gives_its_lower_bound() {
        assert_eq!(requires_python("[project]\nrequires-python = '<4, >=3.9'"), Some((3, 9)));
        assert_eq!(requires_python("[project]\nrequires-python = '~=3.10.2'"), Some((3, 10)));
        assert_eq!(requires_python("[project]\nname = 'x'"), None);
    }

    #[test]
    fn a_missing_folder_is_told() {
        let error = Project::open(Path::new("/nowhere/at/all"), None, &Surroundings::default()).unwrap_err();
        assert_eq!(error.to_string(), "there is no folder `/nowhere/at/all`");
    }

    #[test]
    fn settings_come_from_pyproject_where_there_is_no_file_of_our_own() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("pyproject.toml"), "[tool.leitmotiv]\npython = '3.9'\n").unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        assert_eq!((project.python, project.python_from), ((3, 9), "the configuration"));
        std::fs::write(folder.path().join("leitmotiv.toml"), "python = '3.12'\n").unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        assert_eq!(project.python, (3, 12));
    }
}
