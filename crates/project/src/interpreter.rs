//! The interpreter whose installed packages are read.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use crate::Surroundings;
use crate::settings::parse_version;

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
}

impl Interpreter {
    /// The interpreter of a project that names none: the active environment, `.venv` or `venv` in the project, or
    /// `python3` on the search path.
    #[must_use]
    pub fn find(root: &Path, surroundings: &Surroundings) -> Option<Interpreter> {
        let environments = [surroundings.virtual_env.clone(), Some(root.join(".venv")), Some(root.join("venv"))];
        let found = environments.into_iter().flatten().find_map(|folder| Interpreter::at(&folder));
        let Some(mut found) = found else { return Interpreter::on_path("python3", surroundings) };
        if found.library.is_none() {
            // The interpreter that the environment was made from is gone; any standard library is better than none.
            found.library = Interpreter::on_path("python3", surroundings).and_then(|other| other.library);
        }
        Some(found)
    }

    /// The interpreter by its command's name.
    #[must_use]
    pub fn on_path(name: &str, surroundings: &Surroundings) -> Option<Interpreter> {
        if name.contains('/') {
            return None;
        }
        surroundings
            .path
            .iter()
            .map(|folder| folder.join(name))
            .filter(|path| path.is_file())
            .find_map(|path| Interpreter::at(&path))
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
    pub fn at(path: &Path) -> Option<Interpreter> {
        if path.is_dir() {
            if path.join("pyvenv.cfg").exists() || path.join("bin/python3").exists() || path.join("bin/python").exists()
            {
                return environment(path);
            }
            let is_packages = path.file_name().is_some_and(|name| name == "site-packages" || name == "dist-packages");
            if is_packages {
                let packages = with_pth(vec![path.to_owned()]);
                return Some(Interpreter { name: path.to_owned(), version: (3, 13), packages, library: None });
            }
            return None;
        }
        if !path.is_file() {
            return None;
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
        ask(path)
    }
}

/// A virtual environment or a conda-like prefix.
fn environment(folder: &Path) -> Option<Interpreter> {
    let config = std::fs::read_to_string(folder.join("pyvenv.cfg")).unwrap_or_default();
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
    Some(Interpreter { name: folder.to_owned(), version, packages, library })
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
    Some(Interpreter { name: name.to_owned(), version, packages: with_pth(packages), library })
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
            for line in std::fs::read_to_string(&file).unwrap_or_default().lines() {
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
    let output =
        Command::new(path).args(["-I", "-c", QUESTION]).stdin(Stdio::null()).stderr(Stdio::null()).output().ok()?;
    let text = String::from_utf8(output.stdout).ok()?;
    let mut lines = text.lines();
    let version = parse_version(lines.next()?)?;
    let library = PathBuf::from(lines.next()?);
    let packages: Vec<PathBuf> = lines.map(PathBuf::from).filter(|folder| folder.is_dir()).collect();
    let library = library.join("os.py").exists().then_some(library);
    Some(Interpreter { name: path.to_owned(), version, packages: with_pth(packages), library })
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
        assert_eq!(Interpreter::at(&packages).unwrap().packages, [packages]);
        assert_eq!(Interpreter::at(&folder.path().join("nothing")), None);
    }
}
