//! Annotated packages from PyPI as source distributions, with the tests that belong to them.

use std::path::{Path, PathBuf};
use std::process::Command;

use crate::corpus::root;

/// Packages that were looked at while `annotate` was built.
pub const LOOKED_AT: &[&str] = &[
    "werkzeug",
    "jinja2",
    "click",
    "itsdangerous",
    "flask",
    "httpx",
    "httpcore",
    "starlette",
    "rich",
    "structlog",
    "tomlkit",
    "packaging",
    "pluggy",
    "anyio",
    "marshmallow",
    "tenacity",
    "humanize",
    "markdown-it-py",
    "asgiref",
    "jsonschema",
    // What its findings came from was looked at, for the sake of time; not its annotations.
    "dulwich",
];

/// Packages of which nothing but the sums was looked at.
pub const NOT_LOOKED_AT: &[&str] = &[
    "cattrs",
    "typer",
    "uvicorn",
    "aiosqlite",
    "wsproto",
    "trustme",
    "pypdf",
    "referencing",
    "installer",
    "identify",
    "parsel",
    "w3lib",
    "itemadapter",
    "prompt-toolkit",
    "arrow",
];

/// Where a package lies, unpacked.
pub fn folder(name: &str) -> PathBuf {
    root().join("corpora/annotated").join(name)
}

/// The environment in which they find what they import.
pub fn environment() -> PathBuf {
    root().join("corpora/environment-annotated")
}

/// Fetches what is not there yet, in the newest version.
pub fn fetch() -> Result<(), String> {
    let all: Vec<&str> = LOOKED_AT.iter().chain(NOT_LOOKED_AT).copied().collect();
    for name in all.iter().filter(|name| !folder(name).exists()) {
        println!("{name}");
        let fetched = tempfile::tempdir().map_err(|error| error.to_string())?;
        python(
            Path::new("python3"),
            &[
                "-m",
                "pip",
                "download",
                "--quiet",
                "--no-deps",
                "--no-binary",
                ":all:",
                "--disable-pip-version-check",
                "--dest",
            ],
            &[fetched.path().to_string_lossy().as_ref(), name],
        )?;
        let archive = std::fs::read_dir(fetched.path()).map_err(|error| error.to_string())?.flatten().next();
        let archive = archive.ok_or_else(|| format!("there is no source distribution of {name}"))?.path();
        let partial = folder(name).with_extension("partial");
        std::fs::create_dir_all(&partial).map_err(|error| error.to_string())?;
        let unpacked =
            Command::new("tar").arg("xzf").arg(&archive).arg("-C").arg(&partial).arg("--strip-components=1").status();
        if !unpacked.is_ok_and(|status| status.success()) {
            return Err(format!("{} cannot be unpacked", archive.display()));
        }
        std::fs::rename(&partial, folder(name)).map_err(|error| error.to_string())?;
    }
    if environment().exists() {
        return Ok(());
    }
    println!("environment");
    let partial = environment().with_extension("partial");
    python(Path::new("python3"), &["-m", "venv"], &[partial.to_string_lossy().as_ref()])?;
    let options = ["-m", "pip", "install", "--quiet", "--disable-pip-version-check", "pytest", "trio"];
    python(&partial.join("bin/python"), &options, &all)?;
    std::fs::rename(&partial, environment()).map_err(|error| error.to_string())
}

fn python(program: &Path, options: &[&str], words: &[&str]) -> Result<(), String> {
    let status = Command::new(program).args(options).args(words).status();
    match status.map_err(|error| format!("{} cannot be run: {error}", program.display()))?.success() {
        true => Ok(()),
        false => Err(format!("pip failed: {}", words.join(" "))),
    }
}
