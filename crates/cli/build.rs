//! Says which sources the program is built from: what one build keeps, another does not read.

use std::collections::BTreeMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};

fn main() {
    let own = PathBuf::from(std::env::var_os("CARGO_MANIFEST_DIR").unwrap_or_default());
    let crates = own.parent().unwrap_or(&own).to_owned();
    let mut texts = BTreeMap::new();
    for folder in std::fs::read_dir(&crates).into_iter().flatten().flatten().map(|entry| entry.path()) {
        for part in ["src", "stubs", "Cargo.toml", "build.rs", "undocumented.txt", "versions.txt"] {
            read(&crates, &folder.join(part), &mut texts);
        }
    }
    read(&crates, &crates.join("../Cargo.lock"), &mut texts);
    let half = |seed: u8| {
        let mut hasher = DefaultHasher::new();
        (seed, &texts).hash(&mut hasher);
        hasher.finish()
    };
    println!("cargo::rustc-env=LEITMOTIV_BUILD={:016x}{:016x}", half(0), half(1));
    println!("cargo::rerun-if-changed={}", crates.display());
    println!("cargo::rerun-if-changed={}", crates.join("../Cargo.lock").display());
}

fn read(base: &Path, path: &Path, texts: &mut BTreeMap<String, Vec<u8>>) {
    if path.is_dir() {
        for entry in std::fs::read_dir(path).into_iter().flatten().flatten() {
            read(base, &entry.path(), texts);
        }
    } else if let Ok(bytes) = std::fs::read(path) {
        texts.insert(path.strip_prefix(base).unwrap_or(path).to_string_lossy().into_owned(), bytes);
    }
}
