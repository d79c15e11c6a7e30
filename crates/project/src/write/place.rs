//! Which files may be written: none outside of the folder that a run is for, whatever links and names say.

use std::path::{Component, Path, PathBuf};

use super::WriteError;

/// The folder of a project that Leitmotiv keeps its own files in; nothing else is written there.
pub const OWN_FOLDER: &str = ".leitmotiv";

/// Where a file really lies, links followed, if it may be written: below `base`, in no folder that version control or
/// Leitmotiv itself keeps, and with a name that is valid Unicode.
///
/// # Errors
/// [`WriteError::Refused`]
pub fn target(base: &Path, path: &Path) -> Result<PathBuf, WriteError> {
    let refused = |reason| WriteError::Refused { path: path.to_owned(), reason };
    let inside = path.strip_prefix(base).unwrap_or(path);
    let shown = |reason| WriteError::Refused { path: inside.to_owned(), reason };
    if path.to_str().is_none() {
        return Err(shown("has a name that is not valid Unicode"));
    }
    if path.components().any(|part| matches!(part, Component::ParentDir)) {
        return Err(refused("leads out of the project"));
    }
    // What is there is what counts; of what is not there yet, the nearest folder that is.
    let mut known = path;
    let mut rest = Vec::new();
    let real = loop {
        match known.symlink_metadata() {
            Ok(_) => break known.canonicalize().map_err(|_| shown("is a link that leads nowhere"))?,
            Err(_) => {
                let (Some(parent), Some(name)) = (known.parent(), known.file_name()) else {
                    return Err(refused("leads out of the project"));
                };
                rest.push(name.to_owned());
                known = parent;
            }
        }
    };
    let real = rest.iter().rev().fold(real, |folder, name| folder.join(name));
    let Ok(inside_real) = real.strip_prefix(base) else {
        return Err(shown("lies outside of the project"));
    };
    let kept = inside_real.components().any(|part| part.as_os_str() == ".git" || part.as_os_str() == OWN_FOLDER);
    if kept || inside_real.as_os_str().is_empty() {
        return Err(shown("is not for Leitmotiv to write"));
    }
    if inside_real.to_str().is_none() {
        return Err(shown("has a name that is not valid Unicode"));
    }
    Ok(real)
}

/// The folders around a file that are not there yet, outermost first, relative to `base` with `/`.
#[must_use]
pub fn missing_folders(base: &Path, target: &Path) -> Vec<String> {
    let folders = target.ancestors().skip(1).take_while(|folder| *folder != base && !folder.exists());
    let mut missing: Vec<String> = folders.filter_map(|folder| written(base, folder)).collect();
    missing.reverse();
    missing
}

/// A path below `base` as the journal writes it, with `/`.
#[must_use]
pub fn written(base: &Path, path: &Path) -> Option<String> {
    let parts: Option<Vec<&str>> =
        path.strip_prefix(base).ok()?.components().map(|part| part.as_os_str().to_str()).collect();
    Some(parts?.join("/"))
}

/// The file that a written path names; `None` for one that could lead elsewhere.
#[must_use]
pub fn read_back(base: &Path, text: &str) -> Option<PathBuf> {
    let is_plain = |part: &str| {
        !part.is_empty()
            && part != "."
            && part != ".."
            && Path::new(part).components().count() == 1
            && matches!(Path::new(part).components().next(), Some(Component::Normal(_)))
    };
    if text.is_empty() || !text.split('/').all(is_plain) {
        return None;
    }
    Some(text.split('/').fold(base.to_owned(), |folder, part| folder.join(part)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn written_paths_that_lead_elsewhere_are_not_believed() {
        let base = Path::new("/ferry");
        assert_eq!(read_back(base, "a/b.py"), Some(PathBuf::from("/ferry/a/b.py")));
        for path in ["../b.py", "a/../../b.py", "/etc/b.py", "", "a//b.py", "./a", "a/."] {
            assert_eq!(read_back(base, path), None, "{path}");
        }
    }

    #[cfg(unix)]
    #[test]
    fn links_out_of_the_project_are_not_followed() {
        let folder = tempfile::tempdir().unwrap();
        let outside = tempfile::tempdir().unwrap();
        let base = folder.path().canonicalize().unwrap();
        std::os::unix::fs::symlink(outside.path(), base.join("stubs")).unwrap();
        std::fs::create_dir(base.join("real")).unwrap();
        std::os::unix::fs::symlink(base.join("real"), base.join("near")).unwrap();
        let told = |path: &str| target(&base, &base.join(path)).map_err(|error| error.to_string());
        assert_eq!(told("stubs/a.pyi"), Err("`stubs/a.pyi` lies outside of the project; nothing was written".into()));
        assert_eq!(told("near/new/a.pyi"), Ok(base.join("real/new/a.pyi")));
        assert!(told("../a.py").unwrap_err().contains("leads out of the project"));
        assert!(told(".git/config").unwrap_err().contains("not for Leitmotiv to write"));
    }
}
