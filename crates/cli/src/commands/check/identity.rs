//! What a check is known again by: the program, what was asked for, the settings, the interpreter, the ledger and what its files say.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::base::database::{Ahead, read};
use leitmotiv_engine::base::observed::text_sum;
use leitmotiv_migrate::ledger;
use leitmotiv_migrate::session::{Session, SessionError};
use leitmotiv_project::cache::{Sum, sum};
use leitmotiv_project::sources::module_of;
use rayon::prelude::*;

use super::Check;
use crate::failure::Failure;

/// What a check is known by. Paths of the project are relative to it, so that it may lie elsewhere the next time.
pub(super) struct Identity {
    /// The project's folder.
    pub(super) root: PathBuf,
    asked: String,
    /// The files of the project, in words.
    own: String,
    /// Whether these are all that are checked.
    pub(super) is_whole: bool,
    /// Whether it is told where the ledger says too much.
    exact: bool,
    /// Which part it is, and of how many; and how the files are divided.
    part: Option<((usize, usize), Sum)>,
    /// The files that are checked, in order: with the folder that they are imported from, the module, and the sum of what they say.
    pub(super) told: Vec<(PathBuf, PathBuf, String, Sum)>,
}

impl Identity {
    /// That of a check of some paths, with what their files say.
    pub(super) fn of(command: &Check, session: &Session, paths: &[PathBuf]) -> Result<(Identity, Ahead), Failure> {
        let (mut identity, own) = Identity::named(command, session, paths);
        let files =
            if paths.is_empty() { own.clone() } else { session.db.sources(paths).map_err(SessionError::from)? };
        identity.is_whole = files == own;
        let within = |path: &Path| path.strip_prefix(&identity.root).unwrap_or(path).to_owned();
        let said: Vec<(Arc<str>, Option<String>)> = files.par_iter().map(|path| read(path)).collect();
        let tell = |(path, (text, unreadable)): (&PathBuf, &(Arc<str>, Option<String>))| {
            let (root, module) = module_of(path);
            (within(path), within(&root), module, text_sum(text, unreadable.as_deref()))
        };
        identity.told = files.par_iter().zip(&said).map(tell).collect();
        let texts = files.into_iter().zip(said).collect();
        Ok((identity, Ahead { texts, ..Ahead::default() }))
    }

    /// The same with no files; and the files of the project.
    pub(super) fn named(command: &Check, session: &Session, paths: &[PathBuf]) -> (Identity, Vec<PathBuf>) {
        let project = session.project();
        let sources = session.db.sources(&[]).unwrap_or_default();
        let recorded = leitmotiv_project::read::bytes(&project.root.join(ledger::FILE)).unwrap_or_default();
        let mut asked = format!("{} {}\n", env!("CARGO_PKG_VERSION"), env!("LEITMOTIV_BUILD"));
        let within = |path: &Path| path.strip_prefix(&project.root).unwrap_or(path).to_owned();
        let all_within = |paths: &[PathBuf]| paths.iter().map(|path| within(path)).collect::<Vec<_>>();
        let _ = writeln!(asked, "{:?} {:?}", project.settings_file.as_deref().map(within), project.settings);
        let _ = writeln!(asked, "{:?}", project.python);
        if let Some(interpreter) = &project.interpreter {
            let folders = (all_within(&interpreter.packages), interpreter.library.as_deref().map(within));
            let _ = writeln!(asked, "{:?} {:?} {folders:?}", within(&interpreter.name), interpreter.version);
        }
        let _ = writeln!(asked, "{}", session.db.roots());
        let options = (&command.set, &command.demand, command.owed);
        let _ = writeln!(asked, "{:?} {options:?}", all_within(paths));
        let _ = writeln!(asked, "{:?}", sum(&recorded));
        let own = format!("{:?}", all_within(&sources));
        let identity = Identity {
            root: project.root.clone(),
            asked,
            own,
            is_whole: false,
            exact: command.exact,
            part: None,
            told: Vec::new(),
        };
        (identity, sources)
    }

    /// That of one part of it, with the sum of how the files are divided.
    pub(super) fn part(self, place: (usize, usize), division: Sum) -> Identity {
        Identity { part: Some((place, division)), ..self }
    }

    /// What was asked for, and the files of the project, in words.
    pub(super) fn asked_for(&self) -> String {
        format!("{}{}\n", self.asked, self.own)
    }

    /// The sum of all of it.
    pub(super) fn all(&self) -> Sum {
        let mut text = format!("{}{:?} {:?}\n", self.asked_for(), self.exact, self.part);
        for (path, root, module, said) in &self.told {
            let _ = writeln!(text, "{path:?} {root:?} {module} {said:?}");
        }
        sum(text.as_bytes())
    }

    /// The sum of all but what the files say, how they are divided, and what is made of it.
    pub(super) fn apart_from_texts(&self) -> Sum {
        let mut text = format!("earlier\n{}{:?}\n", self.asked, self.part.map(|(place, _)| place));
        // Where only some are checked, nobody looks which modules the others are.
        if !self.is_whole {
            let _ = writeln!(text, "{}", self.own);
            for (path, root, module, _) in &self.told {
                let _ = writeln!(text, "{path:?} {root:?} {module}");
            }
        }
        sum(text.as_bytes())
    }
}
