//! The interpreter whose installed packages are read.
//!
//! Nearly always it is enough to look at the folders around it. Only one that the command line or the search path names, and
//! that does not tell by its place what it is, is asked: isolated, without `site` and so without anything that an
//! environment would run as it starts, with a limit on time and output. What a project's own files name, or what lies in the
//! project, is never run here (docs/security.md).

use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Duration;

use crate::programs::{self, Limits};
use crate::settings::parse_version;
use crate::{Surroundings, read};

/// How long an interpreter may take to say where its packages lie, and how much it may print.
const LIMITS: Limits = Limits { time: Duration::from_secs(10), bytes: 64 << 10 };

/// An interpreter, or a folder that stands for one's packages.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Interpreter {
    /// How it was named or found.
    pub name: PathBuf,
    /// Its language version.
    pub version: (u8, u8),
    /// Folders of installed packages, in search order.
    pub packages: Vec<PathBuf>,
    /// The folder of the standard library's source, if there is one.
    pub library: Option<PathBuf>,
    /// Whether it may be run by the commands that import modules: the command line names it, or the search path or the active
    /// environment has it and it does not lie in the project.
    pub may_run: bool,
}

/// Who names an interpreter.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NamedBy {
    /// The command line: it may be asked, wherever it lies.
    CommandLine,
    /// The search path: it may be asked where it does not lie in the project.
    SearchPath,
    /// The configuration, or a folder's name: it is only read.
    Project,
}

impl Interpreter {
    /// The interpreter of a project that names none: the active environment, `.venv` or `venv` in the project, or
    /// `python3` on the search path. `root` is the project's folder.
    #[must_use]
    pub fn find(root: &Path, surroundings: &Surroundings) -> Option<Interpreter> {
        let active = surroundings.virtual_env.iter().filter(|folder| folder.is_absolute()).map(|folder| {
            let found = folder.is_dir().then(|| Interpreter::at(folder, root, NamedBy::Project)).flatten();
            found.map(|found| Interpreter { may_run: !programs::lies_in(folder, root), ..found })
        });
        let own = [".venv", "venv"].into_iter().map(|name| {
            let folder = root.join(name);
            folder.is_dir().then(|| Interpreter::at(&folder, root, NamedBy::Project)).flatten()
        });
        let found = active.chain(own).flatten().next();
        let Some(mut found) = found else { return Interpreter::on_path("python3", root, surroundings) };
        if found.library.is_none() {
            // The interpreter that the environment was made from is gone; any standard library is better than none.
            found.library = Interpreter::on_path("python3", root, surroundings).and_then(|other| other.library);
        }
        Some(found)
    }

    /// The interpreter by its command's name.
    #[must_use]
    pub fn on_path(name: &str, root: &Path, surroundings: &Surroundings) -> Option<Interpreter> {
        if name.contains('/') || name.is_empty() {
            return None;
        }
        programs::candidates(name, surroundings).find_map(|path| Interpreter::at(&path, root, NamedBy::SearchPath))
    }

    /// The program to run: of an environment, the one in its folder; none for a mere folder of packages.
    #[must_use]
    pub fn executable(&self) -> Option<PathBuf> {
        if self.name.is_file() {
            return Some(self.name.clone());
        }
        let inside = ["bin/python3", "bin/python", "Scripts/python.exe", "python.exe"];
        inside.iter().map(|path| self.name.join(path)).find(|path| path.is_file())
    }

    /// The interpreter at `path`: an executable, an environment's folder, or a folder of packages.
    #[must_use]
    pub fn at(path: &Path, root: &Path, by: NamedBy) -> Option<Interpreter> {
        let may_run = match by {
            NamedBy::CommandLine => true,
            NamedBy::SearchPath => !programs::lies_in(path, root),
            NamedBy::Project => false,
        };
        let found = if path.is_dir() { in_folder(path) } else { Interpreter::of_executable(path, may_run) };
        found.map(|found| Interpreter { may_run, ..found })
    }

    fn of_executable(path: &Path, may_ask: bool) -> Option<Interpreter> {
        if !path.is_file() {
            return None;
        }
        // An environment's executable is mostly a link to the one that it was made from; as the interpreter itself does, look
        // around the link first (PEP 405).
        let beside = path.parent()?;
        for folder in [Some(beside), beside.parent()].into_iter().flatten() {
            if folder.join("pyvenv.cfg").is_file() {
                return environment(folder).map(|found| Interpreter { name: path.to_owned(), ..found });
            }
        }
        // Next to most executables lies what they would say; asking costs far more than looking.
        let real = path.canonicalize().ok()?;
        let prefix = real.parent()?.parent()?;
        let named = real.file_name()?.to_string_lossy().strip_prefix("python").and_then(parse_version);
        if let Some(version) = named
            && let Some(found) = installed(path, prefix, version)
        {
            return Some(found);
        }
        if may_ask { ask(path) } else { None }
    }
}

/// What a folder says: an environment or prefix, or packages alone.
fn in_folder(path: &Path) -> Option<Interpreter> {
    if path.join("pyvenv.cfg").exists() || path.join("bin/python3").exists() || path.join("bin/python").exists() {
        return environment(path);
    }
    let is_packages = path.file_name().is_some_and(|name| name == "site-packages" || name == "dist-packages");
    is_packages.then(|| Interpreter {
        name: path.to_owned(),
        version: (3, 13),
        packages: with_pth(vec![path.to_owned()]),
        library: None,
        may_run: false,
    })
}

/// A virtual environment or a conda-like prefix.
fn environment(folder: &Path) -> Option<Interpreter> {
    let config = read::text(&folder.join("pyvenv.cfg")).unwrap_or_default();
    let value = |key: &str| {
        config.lines().find_map(|line| {
            let (name, value) = line.split_once('=')?;
            (name.trim() == key).then(|| value.trim().to_owned())
        })
    };
    let version = value("version").or_else(|| value("version_info")).and_then(|version| parse_version(&version));
    let version = version.or_else(|| library_folders(folder).first().map(|(version, _)| *version))?;
    let own = installed(folder, folder, version);
    // The standard library lies with the interpreter that the environment was made from.
    let base = value("home").and_then(|home| installed(folder, Path::new(&home).parent()?, version));
    let mut packages = own.as_ref().map(|own| own.packages.clone()).unwrap_or_default();
    if packages.is_empty() {
        packages.push(folder.join(format!("lib/python{}.{}/site-packages", version.0, version.1)));
    }
    let library = base.as_ref().and_then(|base| base.library.clone()).or_else(|| own.and_then(|own| own.library));
    if value("include-system-site-packages").as_deref() == Some("true")
        && let Some(base) = base
    {
        packages.extend(base.packages);
    }
    Some(Interpreter { name: folder.to_owned(), version, packages, library, may_run: false })
}

/// The `lib/pythonX.Y` folders of a prefix, newest first.
fn library_folders(prefix: &Path) -> Vec<((u8, u8), PathBuf)> {
    let mut found: Vec<((u8, u8), PathBuf)> = std::fs::read_dir(prefix.join("lib"))
        .into_iter()
        .flatten()
        .flatten()
        .filter_map(|entry| {
            let version = parse_version(entry.file_name().to_string_lossy().strip_prefix("python")?)?;
            Some((version, entry.path()))
        })
        .collect();
    found.sort_by_key(|(version, _)| std::cmp::Reverse(*version));
    found
}

/// What is installed below a prefix for a version.
fn installed(name: &Path, prefix: &Path, version: (u8, u8)) -> Option<Interpreter> {
    let folder = prefix.join(format!("lib/python{}.{}", version.0, version.1));
    let library = folder.join("os.py").exists().then(|| folder.clone());
    let local = Path::new("/usr/local/lib").join(format!("python{}.{}", version.0, version.1));
    let debian = prefix == Path::new("/usr");
    let candidates = [
        Some(folder.join("site-packages")),
        Some(folder.join("dist-packages")),
        debian.then(|| local.join("dist-packages")),
        debian.then(|| prefix.join("lib/python3/dist-packages")),
    ];
    let packages: Vec<PathBuf> = candidates.into_iter().flatten().filter(|folder| folder.is_dir()).collect();
    if library.is_none() && packages.is_empty() {
        return None;
    }
    Some(Interpreter { name: name.to_owned(), version, packages: with_pth(packages), library, may_run: false })
}

/// Adds the folders that `.pth` files name (editable installs).
fn with_pth(packages: Vec<PathBuf>) -> Vec<PathBuf> {
    let mut all = packages.clone();
    for folder in packages {
        let mut files: Vec<PathBuf> = std::fs::read_dir(&folder)
            .into_iter()
            .flatten()
            .flatten()
            .map(|entry| entry.path())
            .filter(|path| path.extension().is_some_and(|extension| extension == "pth"))
            .collect();
        files.sort();
        for file in files {
            for line in read::text(&file).unwrap_or_default().lines() {
                let line = line.trim();
                if line.is_empty() || line.starts_with('#') || line.starts_with("import") {
                    continue;
                }
                let named = folder.join(line);
                if named.is_dir() && !all.contains(&named) {
                    all.push(named);
                }
            }
        }
    }
    all
}

/// Asks the executable itself; for shims and unusual layouts.
fn ask(path: &Path) -> Option<Interpreter> {
    const QUESTION: &str = "import sys, sysconfig\n\
        p = sysconfig.get_paths()\n\
        print('%d.%d' % sys.version_info[:2])\n\
        print(p['stdlib'])\n\
        for d in dict.fromkeys([p['purelib'], p['platlib']]): print(d)\n";
    // Some stand-ins for interpreters look into the current folder for what to start: they find nothing of the project's.
    let mut command = Command::new(path);
    command.args(["-I", "-S", "-c", QUESTION]).current_dir("/");
    let output = programs::output(&mut command, LIMITS).ok()?;
    let text = String::from_utf8(output.stdout).ok()?;
    let mut lines = text.lines();
    let version = parse_version(lines.next()?)?;
    let library = PathBuf::from(lines.next()?);
    let packages: Vec<PathBuf> = lines.map(PathBuf::from).filter(|folder| folder.is_dir()).collect();
    let library = library.join("os.py").exists().then_some(library);
    Some(Interpreter { name: path.to_owned(), version, packages: with_pth(packages), library, may_run: true })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_environment_is_read_without_running_it() {
        let folder = tempfile::tempdir().unwrap();
        let env = folder.path().join(".venv");
        let packages = env.join("lib/python3.10/site-packages");
        std::fs::create_dir_all(&packages).unwrap();
        std::fs::create_dir_all(folder.path().join("editable")).unwrap();
        std::fs::write(env.join("pyvenv.cfg"), "home = /nowhere/bin\nversion = 3.10.4\n").unwrap();
        std::fs::write(packages.join("e.pth"), format!("{}\n", folder.path().join("editable").display())).unwrap();
        let found = Interpreter::find(folder.path(), &Surroundings::default()).unwrap();
        assert_eq!(found.version, (3, 10));
        assert_eq!(found.packages, [packages, folder.path().join("editable")]);
        assert_eq!(found.library, None);
    }

    #[test]
    fn a_folder_of_packages_can_stand_for_an_interpreter() {
        let folder = tempfile::tempdir().unwrap();
        let packages = folder.path().join("site-packages");
        std::fs::create_dir_all(&packages).unwrap();
        let at = |path: &Path| Interpreter::at(path, folder.path(), NamedBy::Project);
        assert_eq!(at(&packages).unwrap().packages, [packages]);
        assert_eq!(at(&folder.path().join("nothing")), None);
    }

    #[cfg(unix)]
    #[test]
    fn an_environment_is_known_by_its_executable_too() {
        let folder = tempfile::tempdir().unwrap();
        let env = folder.path().join("env");
        let packages = env.join("lib/python3.10/site-packages");
        std::fs::create_dir_all(&packages).unwrap();
        std::fs::create_dir_all(env.join("bin")).unwrap();
        std::fs::write(env.join("pyvenv.cfg"), "home = /nowhere/bin\nversion = 3.10.4\n").unwrap();
        // As in most environments, a link to an executable elsewhere.
        std::os::unix::fs::symlink("/bin/sh", env.join("bin/python")).unwrap();
        let found = Interpreter::at(&env.join("bin/python"), folder.path(), NamedBy::Project).unwrap();
        assert_eq!((found.version, found.packages, found.may_run), ((3, 10), vec![packages], false));
        assert!(Interpreter::at(&env.join("bin/python"), folder.path(), NamedBy::CommandLine).unwrap().may_run);
    }

    #[cfg(unix)]
    #[test]
    fn only_what_the_command_line_or_the_search_path_names_is_asked() {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path().canonicalize().unwrap();
        std::fs::create_dir(root.join("bin")).unwrap();
        let program = root.join("bin/python3");
        let text = format!("#!/bin/sh\necho asked >> {}/asked\necho 3.9\necho /nowhere\n", root.display());
        std::fs::write(&program, text).unwrap();
        std::fs::set_permissions(&program, std::fs::Permissions::from_mode(0o755)).unwrap();
        std::fs::copy(&program, root.join(".venv")).unwrap();
        let path = vec![root.join("bin"), PathBuf::new()];
        let surroundings = Surroundings { path, virtual_env: Some(root.join(".venv")), ..Surroundings::default() };
        // The project is the folder itself, so that all of these lie in it.
        assert_eq!(Interpreter::find(&root, &surroundings), None);
        assert_eq!(Interpreter::at(&program, &root, NamedBy::Project), None);
        assert!(!root.join("asked").exists());
        assert_eq!(Interpreter::at(&program, &root, NamedBy::CommandLine).unwrap().version, (3, 9));
        assert!(root.join("asked").exists());
        let elsewhere = tempfile::tempdir().unwrap();
        assert_eq!(Interpreter::find(elsewhere.path(), &surroundings).unwrap().version, (3, 9));
    }
}
