//! Stubs of the standard library, written for this project and embedded in the binary.
//!
//! Paths are those of modules: `json/decoder.pyi`, `os/__init__.pyi`. Where a module has no stub here, the engine reads
//! the interpreter's own source. A stub that is only partly written ends in a module-level `__getattr__`, as the typing
//! specification says ("Writing and maintaining stub files"), so that what is missing is unknown and not absent.
//!
//! The entry is [`text`].

use std::collections::HashMap;
use std::sync::LazyLock;

use include_dir::{Dir, include_dir};

static STUBS: Dir<'_> = include_dir!("$CARGO_MANIFEST_DIR/stubs");

/// The versions of the language, first and last, that a module is there in.
type Span = (Option<(u8, u8)>, Option<(u8, u8)>);

/// The modules, and the names in modules (`typing:Self`), that not all versions have.
static SPANS: LazyLock<HashMap<&'static str, Span>> = LazyLock::new(|| {
    let lines = include_str!("../versions.txt").lines().filter(|line| !line.is_empty() && !line.starts_with('#'));
    lines
        .filter_map(|line| line.split_once(' '))
        .filter_map(|(module, span)| Some((module, read_span(span)?)))
        .collect()
});

fn read_span(span: &str) -> Option<Span> {
    let version = |text: &str| {
        let (major, minor) = text.split_once('.')?;
        Some((major.parse().ok()?, minor.parse().ok()?))
    };
    let (first, last) = span.split_once('-')?;
    Some((version(first), version(last)))
}

/// The texts by path: every import asks for one, whether it is of the library or not.
static TEXTS: LazyLock<HashMap<&'static str, &'static str>> = LazyLock::new(|| {
    fn collect(folder: &'static Dir<'static>, texts: &mut HashMap<&'static str, &'static str>) {
        let files = folder.files().filter_map(|file| Some((file.path().to_str()?, file.contents_utf8()?)));
        texts.extend(files);
        folder.dirs().for_each(|folder| collect(folder, texts));
    }
    let mut texts = HashMap::new();
    collect(&STUBS, &mut texts);
    texts
});

/// Whether there is a stub at `path`.
#[must_use]
pub fn exists(path: &str) -> bool {
    TEXTS.contains_key(path)
}

/// Whether there is a stub at `path`, of a module that a version of the language has. A module in a package that a version
/// does not have is not there either.
#[must_use]
pub fn exists_in(path: &str, version: (u8, u8)) -> bool {
    let module = path.strip_suffix(".pyi").unwrap_or(path);
    let module = module.strip_suffix("/__init__").unwrap_or(module).replace('/', ".");
    let ends = module.match_indices('.').map(|(end, _)| end).chain([module.len()]);
    exists(path) && ends.map(|end| &module[..end]).all(|part| is_spanned(part, version))
}

/// Whether a version of the language has what `named` is listed as, which may be nothing.
fn is_spanned(named: &str, version: (u8, u8)) -> bool {
    SPANS.get(named).is_none_or(|(first, last)| {
        first.is_none_or(|first| first <= version) && last.is_none_or(|last| version <= last)
    })
}

/// Whether there is a stub of a module here, and for other versions of the language only.
#[must_use]
pub fn lacks_module(module: &str, version: (u8, u8)) -> bool {
    let path = module.replace('.', "/");
    let paths = [format!("{path}.pyi"), format!("{path}/__init__.pyi")];
    paths.iter().any(|path| exists(path)) && !paths.iter().any(|path| exists_in(path, version))
}

/// Whether a module with a stub here has a name in other versions of the language only. Names that a stub itself binds under
/// conditions are not listed.
#[must_use]
pub fn lacks_name(module: &str, name: &str, version: (u8, u8)) -> bool {
    !is_spanned(&format!("{module}:{name}"), version)
}

/// The text of the stub at `path`.
#[must_use]
pub fn text(path: &str) -> Option<&'static str> {
    TEXTS.get(path).copied()
}

/// The paths of all stubs, sorted.
#[must_use]
pub fn paths() -> Vec<&'static str> {
    let mut paths: Vec<&'static str> = TEXTS.keys().copied().collect();
    paths.sort_unstable();
    paths
}

/// Names that modules have besides what is documented, by module, sorted.
static UNDOCUMENTED: LazyLock<HashMap<&'static str, Vec<&'static str>>> = LazyLock::new(|| {
    let lines = include_str!("../undocumented.txt").lines().filter(|line| !line.starts_with('#'));
    let split = |line: &'static str| {
        let mut words = line.split(' ');
        let module = words.next()?;
        let mut names: Vec<&str> = words.collect();
        names.sort_unstable();
        Some((module, names))
    };
    lines.filter_map(split).collect()
});

/// Whether a module has a name that is not documented, and that its stub here lacks: what it imports for its own use, or what
/// it keeps to itself.
#[must_use]
pub fn is_undocumented(module: &str, name: &str) -> bool {
    UNDOCUMENTED.get(module).is_some_and(|names| names.binary_search(&name).is_ok())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_that_no_document_has_are_known_to_be_there() {
        assert!(is_undocumented("zipfile", "ZIP_MAX_COMMENT"));
        assert!(!is_undocumented("zipfile", "ZipFile") && !is_undocumented("zipfile", "ZIP_TIDE"));
    }

    #[test]
    fn stubs_are_found_by_path() {
        assert!(exists("builtins.pyi") && exists("json/decoder.pyi") && !exists("json.pyi"));
        assert!(text("typing.pyi").is_some_and(|text| text.contains("TypeVar")));
        assert!(paths().contains(&"os/path.pyi"));
    }

    #[test]
    fn modules_are_there_in_their_versions() {
        assert!(!exists_in("asyncio/taskgroups.pyi", (3, 10)) && exists_in("asyncio/taskgroups.pyi", (3, 11)));
        assert!(
            lacks_module("tomllib", (3, 10)) && !lacks_module("tomllib", (3, 11)) && !lacks_module("tides", (3, 8))
        );
        assert!(lacks_name("typing", "Self", (3, 10)) && !lacks_name("typing", "Self", (3, 11)));
        assert!(!lacks_name("typing", "Any", (3, 8)));
        assert!(exists_in("os/path.pyi", (3, 8)) && !exists_in("nothing.pyi", (3, 8)));
        assert_eq!(read_span("3.11-"), Some((Some((3, 11)), None)));
        assert_eq!(read_span("-3.9"), Some((None, Some((3, 9)))));
    }

    #[test]
    fn each_line_of_the_versions_names_a_stub_and_a_span() {
        let lines = include_str!("../versions.txt").lines().filter(|line| !line.is_empty() && !line.starts_with('#'));
        for line in lines {
            let (named, span) = line.split_once(' ').unwrap();
            let module = named.split(':').next().unwrap();
            let path = module.replace('.', "/");
            assert!(exists(&format!("{path}.pyi")) || exists(&format!("{path}/__init__.pyi")), "{line}");
            assert!(read_span(span).is_some_and(|(first, last)| first.is_some() || last.is_some()), "{line}");
        }
    }
}
