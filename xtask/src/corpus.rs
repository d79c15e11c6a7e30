//! Packages from PyPI by name and version, as wheels, unpacked one folder each.

use std::path::{Path, PathBuf};
use std::process::Command;

/// A package: its name on PyPI, its version, and whether its authors annotate it and keep it type-clean.
pub struct Package {
    /// The name on PyPI.
    pub name: &'static str,
    /// The pinned version.
    pub version: &'static str,
    /// Whether it is annotated.
    pub typed: bool,
}

const fn typed(name: &'static str, version: &'static str) -> Package {
    Package { name, version, typed: true }
}

const fn untyped(name: &'static str, version: &'static str) -> Package {
    Package { name, version, typed: false }
}

/// The corpus.
pub static PACKAGES: &[Package] = &[
    typed("attrs", "24.2.0"),
    typed("click", "8.1.7"),
    typed("flask", "3.0.3"),
    typed("httpx", "0.27.2"),
    typed("jinja2", "3.1.4"),
    typed("packaging", "24.1"),
    typed("pluggy", "1.5.0"),
    typed("rich", "13.8.1"),
    typed("starlette", "0.38.5"),
    typed("tomlkit", "0.13.2"),
    typed("werkzeug", "3.0.4"),
    typed("urllib3", "2.2.3"),
    typed("aiohttp", "3.10.5"),
    typed("anyio", "4.6.0"),
    typed("marshmallow", "3.22.0"),
    typed("structlog", "24.4.0"),
    typed("tornado", "6.4.1"),
    typed("trio", "0.26.2"),
    untyped("bottle", "0.13.1"),
    untyped("cherrypy", "18.10.0"),
    untyped("docutils", "0.21.2"),
    untyped("mako", "1.3.5"),
    untyped("networkx", "3.3"),
    untyped("paramiko", "3.5.0"),
    untyped("pygments", "2.18.0"),
    untyped("requests", "2.32.3"),
    untyped("simplejson", "3.19.3"),
    untyped("sqlparse", "0.5.1"),
    untyped("tabulate", "0.9.0"),
    untyped("xlrd", "2.0.1"),
    untyped("django", "5.1.1"),
    untyped("sympy", "1.13.2"),
];

/// Annotated packages that are heavily generic: an ORM, a validation library, an async framework, a functional-programming
/// library, and an array library that ships its typing tests. They have an environment of their own.
pub static GENERIC: &[Package] = &[
    typed("sqlalchemy", "2.1.9"),
    typed("pydantic", "2.14.3"),
    typed("litestar", "2.25.0"),
    typed("returns", "0.30.0"),
    typed("numpy", "2.4.6"),
];

/// The repository's folder.
/// Packages without types, some of them machine code: stubs are written of them.
pub const PACKAGES_WITHOUT_TYPES: &[Package] = &[
    untyped("bottle", "0.13.4"),
    untyped("crcmod", "1.7"),
    untyped("docutils", "0.23"),
    untyped("lxml", "6.1.3"),
    untyped("msgpack", "1.2.4"),
    untyped("psycopg2-binary", "2.9.13"),
    untyped("pyyaml", "6.0.3"),
    untyped("regex", "2026.11.15"),
    untyped("setproctitle", "1.3.8"),
    untyped("simplejson", "4.3.0"),
    untyped("sortedcontainers", "2.4.0"),
    untyped("tabulate", "0.10.0"),
    untyped("xlrd", "2.0.2"),
];

pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().map(Path::to_path_buf).unwrap_or_default()
}

/// The folder of a package's files.
pub fn folder(package: &Package) -> PathBuf {
    root().join("corpora").join(format!("{}-{}", package.name, package.version))
}

/// Fetches what is not there yet.
pub fn fetch() -> Result<(), String> {
    for package in PACKAGES.iter().chain(GENERIC) {
        let folder = folder(package);
        if folder.exists() {
            continue;
        }
        println!("{} {}", package.name, package.version);
        let partial = folder.with_extension("partial");
        let requirement = format!("{}=={}", package.name, package.version);
        let status = Command::new("python3")
            .args(["-m", "pip", "install", "--quiet", "--no-deps", "--no-compile", "--disable-pip-version-check"])
            .arg("--root-user-action=ignore")
            .arg("--target")
            .arg(&partial)
            .arg(&requirement)
            .status()
            .map_err(|error| format!("pip cannot be run: {error}"))?;
        if !status.success() {
            return Err(format!("pip could not fetch {requirement}"));
        }
        std::fs::rename(&partial, &folder).map_err(|error| error.to_string())?;
    }
    let typed: Vec<&Package> = PACKAGES.iter().filter(|package| package.typed).collect();
    environment(&environment_folder(), &typed)?;
    environment(&generic_environment(), &GENERIC.iter().collect::<Vec<_>>())?;
    environment(&untyped_environment(), &PACKAGES_WITHOUT_TYPES.iter().collect::<Vec<_>>())
}

/// The virtual environment in which the annotated packages find what they import, as their authors have it.
pub fn environment_folder() -> PathBuf {
    root().join("corpora/environment")
}

/// The virtual environment of the heavily generic packages.
pub fn generic_environment() -> PathBuf {
    root().join("corpora/environment-generic")
}

/// The virtual environment of packages that say nothing of their types, machine code among them.
pub fn untyped_environment() -> PathBuf {
    root().join("corpora/environment-untyped")
}

fn environment(folder: &Path, packages: &[&Package]) -> Result<(), String> {
    if folder.exists() {
        return Ok(());
    }
    println!("{}", folder.file_name().unwrap_or_default().to_string_lossy());
    let partial = folder.with_extension("partial");
    let python = |words: &[&str]| Command::new("python3").args(words).arg(&partial).status();
    let made = python(&["-m", "venv"]).map_err(|error| format!("python3 cannot be run: {error}"))?;
    let installed = Command::new(partial.join("bin/python"))
        .args(["-m", "pip", "install", "--quiet", "--no-compile", "--disable-pip-version-check"])
        .args(packages.iter().map(|package| format!("{}=={}", package.name, package.version)))
        // Some wheels hold their tests.
        .arg("pytest==8.3.3")
        .status()
        .map_err(|error| format!("pip cannot be run: {error}"))?;
    if !made.success() || !installed.success() {
        return Err("pip could not install the annotated packages with what they need".to_owned());
    }
    std::fs::rename(&partial, folder).map_err(|error| error.to_string())
}

/// The Python files below a folder, sorted.
pub fn python_files(folder: &Path) -> Vec<PathBuf> {
    let mut files = Vec::new();
    let mut waiting = vec![folder.to_owned()];
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(&folder).into_iter().flatten().flatten() {
            let path = entry.path();
            if path.is_dir() {
                waiting.push(path);
            } else if path.extension().is_some_and(|extension| extension == "py") {
                files.push(path);
            }
        }
    }
    files.sort();
    files
}

/// Number of lines in some files.
pub fn lines(files: &[PathBuf]) -> usize {
    files
        .iter()
        .map(|file| std::fs::read(file).map_or(0, |bytes| bytes.iter().filter(|byte| **byte == b'\n').count()))
        .sum()
}

/// The built program, made if need be.
pub fn program() -> Result<PathBuf, String> {
    let status = Command::new(env!("CARGO"))
        .args(["build", "--release", "--quiet", "--package", "leitmotiv"])
        .current_dir(root())
        .status()
        .map_err(|error| error.to_string())?;
    if !status.success() {
        return Err("the program does not build".to_owned());
    }
    let target = std::env::var_os("CARGO_TARGET_DIR").map_or_else(|| root().join("target"), PathBuf::from);
    Ok(target.join("release/leitmotiv"))
}

/// Copies a folder's files into another, what git keeps apart.
pub fn copied(from: &Path, to: &Path) -> std::io::Result<()> {
    for entry in std::fs::read_dir(from)? {
        let entry = entry?;
        let (path, target) = (entry.path(), to.join(entry.file_name()));
        if path.is_dir() && entry.file_name() != ".git" {
            std::fs::create_dir_all(&target)?;
            copied(&path, &target)?;
        } else if path.is_file() {
            std::fs::copy(&path, &target)?;
        }
    }
    Ok(())
}
