//! Stubs of the standard library, written for this project and embedded in the binary.
//!
//! Paths are those of modules: `json/decoder.pyi`, `os/__init__.pyi`. Where a module has no stub here, the engine reads
//! the interpreter's own source. A stub that is only partly written ends in a module-level `__getattr__`, as the typing
//! specification says ("Writing and maintaining stub files"), so that what is missing is unknown and not absent.
//!
//! The entry is [`text`].

use include_dir::{Dir, include_dir};

static STUBS: Dir<'_> = include_dir!("$CARGO_MANIFEST_DIR/stubs");

/// Whether there is a stub at `path`.
#[must_use]
pub fn exists(path: &str) -> bool {
    STUBS.get_file(path).is_some()
}

/// The text of the stub at `path`.
#[must_use]
pub fn text(path: &str) -> Option<&'static str> {
    STUBS.get_file(path)?.contents_utf8()
}

/// The paths of all stubs, sorted.
#[must_use]
pub fn paths() -> Vec<&'static str> {
    fn collect(folder: &'static Dir<'static>, paths: &mut Vec<&'static str>) {
        paths.extend(folder.files().filter_map(|file| file.path().to_str()));
        folder.dirs().for_each(|folder| collect(folder, paths));
    }
    let mut paths = Vec::new();
    collect(&STUBS, &mut paths);
    paths.sort_unstable();
    paths
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn stubs_are_found_by_path() {
        assert!(exists("builtins.pyi") && exists("json/decoder.pyi") && !exists("json.pyi"));
        assert!(text("typing.pyi").is_some_and(|text| text.contains("TypeVar")));
        assert!(paths().contains(&"os/path.pyi"));
    }
}
