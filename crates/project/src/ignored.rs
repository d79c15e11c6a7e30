//! What `.gitignore` files say, read within limits.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use ignore::Match;
use ignore::gitignore::{Gitignore, GitignoreBuilder};

use crate::read;

/// The ignore files that count in a folder, innermost last.
#[derive(Clone, Default)]
pub struct Ignored {
    files: Vec<Arc<Gitignore>>,
}

impl Ignored {
    /// What counts in `folder` by the files above it: those from the root of the repository on (`.git` says where that is), or
    /// where there is none, from `root` on; the repository's `info/exclude`; and what the user ignores everywhere.
    #[must_use]
    pub fn above(folder: &Path, root: &Path) -> Ignored {
        let mut ignored = Ignored::default();
        let (global, _) = Gitignore::global();
        ignored.push(global);
        let repository = folder.ancestors().find(|folder| folder.join(".git").exists());
        let top = repository.unwrap_or(root);
        if let Some(repository) = repository {
            ignored.read(repository, &repository.join(".git/info/exclude"));
        }
        let mut folders: Vec<&Path> = folder.ancestors().skip(1).filter(|above| above.starts_with(top)).collect();
        folders.reverse();
        for above in folders {
            ignored.read(above, &above.join(".gitignore"));
        }
        ignored
    }

    /// The same with what the folder's own file says.
    #[must_use]
    pub fn and(&self, folder: &Path) -> Ignored {
        let mut ignored = self.clone();
        ignored.read(folder, &folder.join(".gitignore"));
        ignored
    }

    /// Whether a path is to be ignored: the innermost file that speaks of it decides.
    #[must_use]
    pub fn hides(&self, path: &Path, is_folder: bool) -> bool {
        for file in self.files.iter().rev() {
            match file.matched(path, is_folder) {
                Match::Ignore(_) => return true,
                Match::Whitelist(_) => return false,
                Match::None => {}
            }
        }
        false
    }

    fn read(&mut self, folder: &Path, file: &Path) {
        // One that cannot be read says nothing.
        let Ok(bytes) = read::bytes(file) else { return };
        let mut builder = GitignoreBuilder::new(folder);
        for line in String::from_utf8_lossy(&bytes).lines() {
            // Nor does a line that is no pattern.
            let _ = builder.add_line(Some(PathBuf::from(file)), line);
        }
        if let Ok(built) = builder.build() {
            self.push(built);
        }
    }

    fn push(&mut self, file: Gitignore) {
        if !file.is_empty() {
            self.files.push(Arc::new(file));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_innermost_file_decides() {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path();
        std::fs::create_dir_all(root.join("a/b")).unwrap();
        std::fs::write(root.join(".gitignore"), "*_made.py\nbuild/\n").unwrap();
        std::fs::write(root.join("a/.gitignore"), "!kept_made.py\n").unwrap();
        let inner = Ignored::above(&root.join("a/b"), root).and(&root.join("a/b"));
        assert!(inner.hides(&root.join("a/b/x_made.py"), false));
        assert!(!inner.hides(&root.join("a/b/kept_made.py"), false));
        assert!(inner.hides(&root.join("a/b/build"), true) && !inner.hides(&root.join("a/b/build"), false));
    }
}
