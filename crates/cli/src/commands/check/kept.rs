//! Checks that are kept: where all that a check would see was seen before, what came out then is printed.
//!
//! A check is known again by the program, what was asked for, the settings, the interpreter, the ledger and the texts of the files that are
//! checked; with it is kept what else it saw of the disk, and that is looked at again.

use std::collections::{HashMap, HashSet};
use std::io::Write as _;
use std::mem::ManuallyDrop;
use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::Ahead;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::base::observed::{Edited, Observed};
use leitmotiv_engine::past::Past;
use leitmotiv_migrate::remembered::Seen;
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::cache::{Cache, Sum};
use leitmotiv_project::settings::CacheFolder;
use leitmotiv_project::store::Store;
use leitmotiv_report::again::{self, Looked, Meant};
use leitmotiv_report::document::Document;
use leitmotiv_report::parts::Part;
use leitmotiv_report::stored::{Earlier, Stored, StoredPart};
use leitmotiv_report::whole::{Telling, Whole, whole};

use super::Check;
use super::identity::Identity;
use crate::commands::Context;
use crate::failure::Failure;

/// Where a check is kept, and what it is known by.
pub(super) struct Kept<'a> {
    cache: Option<Cache>,
    store: Option<&'a Store>,
    pub(super) by: Identity,
    /// Whether only what is found on lines is told that changed since a revision.
    is_since: bool,
}

/// What is checked: the files below some paths, or those at some places among them, which are a part.
#[derive(Debug, Clone, Copy)]
pub(super) struct Of<'a> {
    pub(super) paths: &'a [PathBuf],
    pub(super) places: Option<&'a [usize]>,
    pub(super) asked: &'a Asked,
    pub(super) with_owed: bool,
}

impl Of<'_> {
    /// The files, once the session was told what is known of them.
    fn files(&self, session: &Session) -> Result<Vec<File>, Failure> {
        let files = session.files(self.paths)?;
        Ok(match self.places {
            None => files,
            Some(places) => places.iter().filter_map(|place| files.get(*place).copied()).collect(),
        })
    }

    fn meant<'b>(&'b self, files: &'b [File]) -> Meant<'b> {
        Meant { files, asked: self.asked, with_owed: self.with_owed, is_part: self.places.is_some() }
    }
}

/// What a check found, and whether that is kept for one of the same.
pub(super) struct Found {
    pub(super) looked: Looked,
    pub(super) to_keep: Option<Observed>,
}

/// What an earlier check found, and what is otherwise now.
struct Before {
    observed: Observed,
    past: Past,
    looked: Looked,
    edited: Edited,
    /// Whether nothing is.
    is_same: bool,
}

impl<'a> Kept<'a> {
    /// Where a check of some paths is kept, with what its files say.
    pub(super) fn of(
        command: &Check,
        session: &Session,
        paths: &[PathBuf],
        store: Option<&'a Store>,
    ) -> Result<(Kept<'a>, Ahead), Failure> {
        let (cache, store) = places(command, session, store);
        // What it is known by is asked only where it is kept.
        let (by, ahead) = match cache.is_some() || store.is_some() {
            true => Identity::of(command, session, paths)?,
            false => (Identity::named(command, session, paths).0, Ahead::default()),
        };
        Ok((Kept { cache, store, by, is_since: command.since.is_some() }, ahead))
    }

    /// Where a part is kept that is known by that.
    pub(super) fn of_part(by: Identity, command: &Check, session: &Session, store: Option<&'a Store>) -> Kept<'a> {
        let (cache, store) = places(command, session, store);
        Kept { cache, store, by, is_since: false }
    }

    /// Whether anything is kept anywhere.
    fn is_anywhere(&self) -> bool {
        self.cache.is_some() || self.store.is_some()
    }

    /// What an entry holds: of the folder, or else of the store.
    fn get(&self, name: &Sum) -> Option<Vec<u8>> {
        let near = self.cache.as_ref().and_then(|cache| cache.get(name));
        near.or_else(|| {
            let far = self.store?.get(name)?;
            if let Some(cache) = &self.cache {
                cache.put(name, &far);
            }
            Some(far)
        })
    }

    fn put(&self, name: &Sum, bytes: &[u8]) {
        if let Some(cache) = &self.cache {
            cache.put(name, bytes);
        }
        if let Some(store) = self.store {
            store.put(name, bytes);
        }
    }

    /// What came out of it, where all is as it was.
    fn find(&self) -> Option<Stored> {
        let stored = Stored::of(&self.get(&self.by.all())?)?;
        stored.observed.holds(&self.by.root).then_some(stored)
    }

    /// The same of a part.
    pub(super) fn find_part(&self) -> Option<Part> {
        let stored = StoredPart::of(&self.get(&self.by.all())?)?;
        stored.observed.holds(&self.by.root).then_some(stored.part)
    }

    /// The last check of the same where other things were written, and what is otherwise now.
    fn earlier(&self, library: Option<&Path>) -> Option<Before> {
        let Earlier { told, mut observed, past, files, took } = Earlier::of(&self.get(&self.by.apart_from_texts())?)?;
        let said = self.by.told.iter().map(|(path, _, _, sum)| (path.clone(), *sum)).collect();
        let edited = observed.edited(&self.by.root, library, &said)?;
        let modules: HashMap<&Path, (&Path, &str)> =
            told.iter().map(|(path, root, module)| (path.as_path(), (root.as_path(), module.as_str()))).collect();
        let mut is_same = edited.files.is_empty() && edited.is_laid_out && told.len() == self.by.told.len();
        for (path, root, module, _) in &self.by.told {
            match modules.get(path.as_path()) {
                None => is_same = false,
                // It is another module now: a package begins elsewhere.
                Some(before) if *before != (root, module) => return None,
                Some(_) => {}
            }
        }
        if !edited.is_laid_out {
            observed.without_other_layout(&self.by.root);
        }
        Some(Before { observed, past, looked: Looked { files, took }, edited, is_same })
    }

    /// Checks, and keeps what a later check can begin with: where there is an earlier one, it looks again at what edits reach.
    pub(super) fn check(
        &self,
        context: &Context,
        session: &mut ManuallyDrop<Session>,
        ahead: Ahead,
        of: Of<'_>,
    ) -> Result<Found, Failure> {
        if !self.is_anywhere() {
            session.db.know(ahead);
            let files = of.files(session)?;
            return Ok(Found { looked: again::checked(session, of.meant(&files)), to_keep: None });
        }
        let texts = ahead.texts.clone();
        let library = session.project().interpreter.as_ref().and_then(|interpreter| interpreter.library.clone());
        let before = self.earlier(library.as_deref());
        self.begin(session, ahead, before.as_ref());
        if let Some(Before { observed, past, looked, edited, is_same }) = before {
            if is_same && of.places.is_none() {
                return Ok(Found { looked, to_keep: None });
            }
            let files = of.files(session)?;
            if let Some((looked, past)) = again::again(session, past, looked, &edited, of.meant(&files)) {
                let mut now = session.db.observed();
                now.add(observed);
                self.keep_earlier(&now, &past, &looked);
                // Here the next check begins with that as well; elsewhere one of the same files would have to look again.
                return Ok(Found { looked, to_keep: self.store.is_some().then_some(now) });
            }
            // What was taken to be known may not be so.
            *session = context.session_with_ledger()?;
            session.prepare(of.asked)?;
            self.begin(session, Ahead { texts, ..Ahead::default() }, None);
        }
        let files = of.files(session)?;
        let looked = again::checked(session, of.meant(&files));
        let past = again::past(session).filter(|_| !looked.is_fault());
        let observed = session.db.observed();
        if let Some(past) = &past {
            self.keep_earlier(&observed, past, &looked);
        }
        let to_keep = (!looked.is_fault()).then_some(observed);
        Ok(Found { looked, to_keep })
    }

    /// The same of all of the files, put together; where all was seen before, what came out then.
    pub(super) fn check_whole(
        &self,
        context: &Context,
        session: &mut ManuallyDrop<Session>,
        ahead: Ahead,
        of: Of<'_>,
        telling: Telling<'_>,
    ) -> Result<Whole, Failure> {
        // What is told since a revision hangs on version control.
        if !self.is_since
            && let Some(Stored { document, seen, .. }) = self.find()
        {
            return Ok(Whole { document, seen, fault: false });
        }
        let Found { looked, to_keep } = self.check(context, session, ahead, of)?;
        let whole = whole(session, of.paths, looked.files, telling);
        if let Some(observed) = to_keep.filter(|_| !self.is_since) {
            self.keep(observed, &whole.document, &whole.seen);
        }
        Ok(whole)
    }

    /// Tells a session what is known of its files before anybody asks for them: what an earlier check has found of those that were not edited.
    fn begin(&self, session: &Session, mut ahead: Ahead, before: Option<&Before>) {
        if let Some(Before { past, edited, .. }) = before {
            let edited: HashSet<&Path> = edited.files.iter().map(PathBuf::as_path).collect();
            let known = past.known(&session.db, &|path| !edited.contains(path));
            ahead.known.extend(known.into_iter().map(|(path, known)| (self.by.root.join(path), known)));
        }
        session.db.know(ahead);
        session.db.record();
    }

    /// Keeps what a later check can begin with.
    fn keep_earlier(&self, observed: &Observed, past: &Past, looked: &Looked) {
        let told = self.by.told.iter().map(|(path, root, module, _)| (path.as_path(), root.as_path(), module.as_str()));
        if let Some(bytes) = Earlier::bytes(&told.collect::<Vec<_>>(), observed, past, looked) {
            self.put(&self.by.apart_from_texts(), &bytes);
        }
    }

    /// Keeps what came out: known by what was read before it was worked out, which is what it was worked out from.
    pub(super) fn keep(&self, observed: Observed, document: &Document, seen: &Seen) {
        if let Some(bytes) = Stored::bytes(&self.beside(observed), document, seen) {
            self.put(&self.by.all(), &bytes);
        }
    }

    /// The same of a part.
    pub(super) fn keep_part(&self, observed: Observed, part: &Part) {
        if let Some(bytes) = StoredPart::bytes(&self.beside(observed), part) {
            self.put(&self.by.all(), &bytes);
        }
    }

    /// What was seen beside the files that the check is known by.
    fn beside(&self, mut observed: Observed) -> Observed {
        let files: Vec<PathBuf> = self.by.told.iter().map(|(path, ..)| path.clone()).collect();
        observed.without(&files);
        observed
    }
}

/// Where a check is kept: nowhere, where what is found hangs on more than is looked at, or the session goes on.
fn places<'a>(command: &Check, session: &Session, store: Option<&'a Store>) -> (Option<Cache>, Option<&'a Store>) {
    // What became of files that are gone, version control is asked.
    let is_gone = |path: &str| !session.project().root.join(path).exists();
    if command.watch || !session.moved.is_empty() || session.ledger.files().any(|(path, _)| is_gone(path)) {
        return (None, None);
    }
    (folder(command, session).map(Cache::at), store)
}

/// The folder of what is kept: that of the command, of the project, or the user's own.
fn folder(command: &Check, session: &Session) -> Option<PathBuf> {
    let project = session.project();
    if command.no_cache {
        return None;
    }
    if let Some(named) = &command.cache {
        return Some(named.clone());
    }
    match &project.settings.cache {
        CacheFolder::None => None,
        CacheFolder::In(named) => {
            let folder = project.root.join(named);
            // A link may lead out of the project.
            let there = folder.ancestors().find_map(|above| above.canonicalize().ok())?;
            there.starts_with(project.root.canonicalize().ok()?).then_some(folder)
        }
        CacheFolder::Users => Cache::users_folder(&|name| std::env::var_os(name)),
    }
}

/// The store that is asked for, by the command or by the environment.
pub(super) fn store(command: &Check) -> Result<Option<Store>, Failure> {
    let named = command.store.clone().or_else(|| std::env::var(STORE).ok().filter(|url| !url.is_empty()));
    let Some(url) = named.filter(|_| !command.no_cache) else { return Ok(None) };
    let patience = std::time::Duration::try_from_secs_f64(command.store_wait)
        .map_err(|_| Failure::unusable("`--store-wait` takes a number of seconds"))?;
    let store = Store::at(&url, command.store_read_only, patience, std::env::vars());
    store.map(Some).map_err(|error| Failure::unusable(error.to_string()))
}

/// Waits for what is still on its way to the store, as long as that may take, and says where it did not get there.
pub(super) fn finish(store: Option<Store>, context: &Context) {
    if store.is_some_and(|store| !store.finish()) && !context.quiet {
        let told = "leitmotiv: the store did not answer in time, or not as it should; the check is complete without it";
        // Where that cannot be said, it is not worth failing for.
        let _ = writeln!(std::io::stderr(), "{told}");
    }
}

/// The variable that names a store.
const STORE: &str = "LEITMOTIV_STORE";
