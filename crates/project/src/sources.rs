//! Which files of a project are checked.

use std::path::{Path, PathBuf};

use globset::GlobSet;
use thiserror::Error;

use crate::Project;
use crate::area::{PatternError, patterns};
use crate::ignored::Ignored;

/// Why the files cannot be listed.
#[derive(Debug, Error)]
pub enum SourcesError {
    /// A path that is not there.
    #[error("there is no file or folder `{0}`")]
    Missing(String),
    /// A named file that is no Python file.
    #[error("`{0}` is not a Python file (.py or .pyi)")]
    NotPython(String),
    /// A named file that is a pipe or a device.
    #[error("`{0}` is not a regular file")]
    NotRegular(String),
    /// A pattern in `leave` that is none.
    #[error("in `leave`: {0}")]
    Pattern(#[from] PatternError),
}

/// Lists the Python files below `paths` (relative to the project; by default the configured sources), sorted, without
/// what is to be left alone. A file that is named itself is listed in any case.
///
/// # Errors
/// [`SourcesError`] for a path that is not there or a bad pattern.
pub fn list(project: &Project, paths: &[PathBuf]) -> Result<Vec<PathBuf>, SourcesError> {
    let leave = patterns(&project.settings.leave)?;
    let named: Vec<PathBuf> = if paths.is_empty() {
        project.settings.sources.iter().map(|path| project.root.join(path)).collect()
    } else {
        paths.iter().map(|path| project.root.join(path)).collect()
    };
    let stubs = project.settings.stubs.iter().map(|stubs| project.root.join(stubs)).collect();
    let walk = Walk { root: &project.root, leave: &leave, stubs };
    let mut files = Vec::new();
    for path in named {
        let shown = || project.relative(&path);
        if path.is_file() {
            if !is_python(&path) {
                return Err(SourcesError::NotPython(shown()));
            }
            files.push(path.canonicalize().unwrap_or(path));
        } else if path.exists() && !path.is_dir() {
            return Err(SourcesError::NotRegular(shown()));
        } else if path.is_dir() {
            let folder = path.canonicalize().unwrap_or(path);
            walk.below(&folder, &Ignored::above(&folder, &project.root), &mut files);
        } else {
            return Err(SourcesError::Missing(shown()));
        }
    }
    files.sort();
    files.dedup();
    Ok(files)
}

/// What decides about the folders on the way.
struct Walk<'a> {
    root: &'a Path,
    leave: &'a GlobSet,
    stubs: Vec<PathBuf>,
}

impl Walk<'_> {
    /// Adds the Python files below a folder. Links are not followed, names with a leading dot are passed over, and so is what
    /// cannot be read; a file that cannot be read is reported when it is checked.
    fn below(&self, folder: &Path, ignored: &Ignored, files: &mut Vec<PathBuf>) {
        let ignored = ignored.and(folder);
        let mut folders = Vec::new();
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let Ok(kind) = entry.file_type() else { continue };
            let path = entry.path();
            let is_wanted = kind.is_dir() || kind.is_file() && is_python(&path);
            let name = entry.file_name();
            if !is_wanted || name.as_encoded_bytes().starts_with(b".") || ignored.hides(&path, kind.is_dir()) {
                continue;
            }
            if self.leave.is_match(path.strip_prefix(self.root).unwrap_or(&path)) {
                continue;
            }
            if kind.is_file() {
                files.push(path);
                continue;
            }
            // Stubs are read when imported.
            if !is_apart(&name.to_string_lossy()) && !path.join("pyvenv.cfg").exists() && !self.stubs.contains(&path) {
                folders.push(path);
            }
        }
        for folder in folders {
            self.below(&folder, &ignored, files);
        }
    }
}

/// Whether a file would be listed if it were there, as one is that only an editor holds.
#[must_use]
pub fn would_list(project: &Project, file: &Path) -> bool {
    let Ok(leave) = patterns(&project.settings.leave) else { return false };
    let Some(folder) = file.parent().filter(|_| is_python(file)) else { return false };
    let within: Vec<PathBuf> = project.settings.sources.iter().map(|path| project.root.join(path)).collect();
    let Some(top) = within.iter().find(|top| file.starts_with(top)) else { return false };
    let stubs: Vec<PathBuf> = project.settings.stubs.iter().map(|stubs| project.root.join(stubs)).collect();
    let shown = |path: &Path| path.strip_prefix(&project.root).unwrap_or(path).to_owned();
    let mut ignored = Ignored::above(top, &project.root);
    let mut at = top.clone();
    for part in folder.strip_prefix(top).unwrap_or(folder).components() {
        ignored = ignored.and(&at);
        at.push(part);
        let name = part.as_os_str().to_string_lossy();
        if name.starts_with('.')
            || is_apart(&name)
            || at.join("pyvenv.cfg").exists()
            || stubs.contains(&at)
            || ignored.hides(&at, true)
            || leave.is_match(shown(&at))
        {
            return false;
        }
    }
    let is_hidden = file.file_name().is_some_and(|name| name.as_encoded_bytes().starts_with(b"."));
    !is_hidden && !ignored.and(folder).hides(file, false) && !leave.is_match(shown(file))
}

/// Installed packages and caches are never the project's own work.
fn is_apart(name: &str) -> bool {
    matches!(name, "__pycache__" | "node_modules" | "site-packages" | "dist-packages")
}

fn is_python(path: &Path) -> bool {
    path.extension().is_some_and(|extension| extension == "py" || extension == "pyi")
}

/// The folder from which `file` is imported, and its dotted module name: the folders around it that are packages
/// (have an `__init__` file) belong to the name.
#[must_use]
pub fn module_of(file: &Path) -> (PathBuf, String) {
    module_among(file, &|path| path.exists())
}

/// The same where some files are there besides those on disk, or instead of them.
#[must_use]
pub fn module_among(file: &Path, is_there: &dyn Fn(&Path) -> bool) -> (PathBuf, String) {
    let mut parts: Vec<String> = Vec::new();
    let stem = file.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
    if stem != "__init__" {
        parts.push(stem);
    }
    let mut folder = file.parent().unwrap_or(Path::new("/"));
    let is_package = |folder: &Path| ["__init__.py", "__init__.pyi"].iter().any(|name| is_there(&folder.join(name)));
    // A folder without `__init__` directly below a package is a part of it (PEP 420).
    while is_package(folder) || folder.parent().is_some_and(is_package) {
        let Some(name) = folder.file_name() else { break };
        parts.push(name.to_string_lossy().into_owned());
        let Some(parent) = folder.parent() else { break };
        folder = parent;
    }
    parts.reverse();
    (folder.to_owned(), parts.join("."))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Surroundings;

    fn project(files: &[(&str, &str)]) -> (tempfile::TempDir, Project) {
        let folder = tempfile::tempdir().unwrap();
        for (path, text) in files {
            let path = folder.path().join(path);
            std::fs::create_dir_all(path.parent().unwrap()).unwrap();
            std::fs::write(path, text).unwrap();
        }
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        (folder, project)
    }

    fn names(project: &Project, paths: &[PathBuf]) -> Vec<String> {
        list(project, paths).unwrap().iter().map(|path| project.relative(path)).collect()
    }

    #[test]
    fn ignored_installed_and_left_files_do_not_count() {
        let (_folder, project) = project(&[
            ("leitmotiv.toml", "leave = ['gen']"),
            (".gitignore", "build/\n"),
            ("ferry/__init__.py", ""),
            ("ferry/fleet.py", ""),
            ("ferry/notes.txt", ""),
            ("gen/a.py", ""),
            ("build/b.py", ""),
            ("env/pyvenv.cfg", ""),
            ("env/lib/c.py", ""),
            ("stubs/d.pyi", ""),
        ]);
        assert_eq!(names(&project, &[]), ["ferry/__init__.py", "ferry/fleet.py"]);
    }

    #[test]
    fn a_missing_path_and_a_foreign_file_are_told() {
        let (_folder, project) = project(&[("a.txt", "")]);
        let error = list(&project, &["b.py".into()]).unwrap_err();
        assert_eq!(error.to_string(), "there is no file or folder `b.py`");
        let error = list(&project, &["a.txt".into()]).unwrap_err();
        assert_eq!(error.to_string(), "`a.txt` is not a Python file (.py or .pyi)");
    }

    #[test]
    fn a_module_is_named_from_its_outermost_package() {
        let (folder, _project) =
            project(&[("src/ferry/__init__.py", ""), ("src/ferry/ops/__init__.py", ""), ("src/ferry/ops/tide.py", "")]);
        let (root, name) = module_of(&folder.path().join("src/ferry/ops/tide.py"));
        assert_eq!((root, name.as_str()), (folder.path().join("src"), "ferry.ops.tide"));
        assert_eq!(module_of(&folder.path().join("src/ferry/ops/__init__.py")).1, "ferry.ops");
        assert_eq!(module_of(&folder.path().join("src/ferry/plain/tide.py")).1, "ferry.plain.tide");
    }
}
