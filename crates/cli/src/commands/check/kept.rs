//! Checks that are kept: where all that a check would see was seen before, what came out then is printed.
//!
//! A check is known again by the program, what was asked for, the settings, the interpreter, the ledger and the texts of the files that are
//! checked; with it is kept what else it saw of the disk, and that is looked at again.

use std::collections::HashSet;
use std::mem::ManuallyDrop;
use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::Ahead;
use leitmotiv_engine::base::observed::Observed;
use leitmotiv_engine::past::Past;
use leitmotiv_migrate::remembered::Seen;
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::cache::{Cache, Sum};
use leitmotiv_project::settings::CacheFolder;
use leitmotiv_project::store::Store;
use leitmotiv_report::again::{self, Whole};
use leitmotiv_report::document::Document;
use leitmotiv_report::stored::{Earlier, Stored};
use leitmotiv_report::told::OfFile;

use super::identity::Identity;
use super::{By, Check};
use crate::commands::Context;
use crate::failure::Failure;

/// Where a check is kept, and what it is known by.
pub(super) struct Kept<'a> {
    cache: Option<Cache>,
    store: Option<&'a Store>,
    by: Identity,
}

impl<'a> Kept<'a> {
    /// Where a check of some paths would be kept, with what its files say; `None` where it is not to be, or what comes out hangs on more than is
    /// looked at.
    pub(super) fn of(
        command: &Check,
        session: &Session,
        paths: &[PathBuf],
        store: Option<&'a Store>,
    ) -> Option<(Kept<'a>, Ahead)> {
        let hangs_on_more = command.since.is_some() || command.watch || command.r#try || command.by == Some(By::Cause);
        if hangs_on_more || !session.moved.is_empty() {
            return None;
        }
        let project = session.project();
        // What became of files that are gone, version control is asked.
        if session.ledger.files().any(|(path, _)| !project.root.join(path).exists()) {
            return None;
        }
        let cache = folder(command, session).map(Cache::at);
        if cache.is_none() && store.is_none() {
            return None;
        }
        let (by, ahead) = Identity::of(command, session, paths, session.db.sources(paths).ok()?);
        Some((Kept { cache, store, by }, ahead))
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
    pub(super) fn find(&self) -> Option<Stored> {
        let stored = Stored::of(&self.get(&self.by.all())?)?;
        stored.observed.holds(&self.by.root).then_some(stored)
    }

    /// The last check of the same where other things were written, and the files in which.
    fn earlier(&self) -> Option<(Earlier, Vec<PathBuf>)> {
        let earlier = Earlier::of(&self.get(&self.by.apart_from_texts())?)?;
        let said = self.by.told.iter().map(|(path, _, _, sum)| (path.clone(), *sum)).collect();
        let edited = earlier.observed.edited(&self.by.root, &said)?;
        Some((earlier, edited))
    }

    /// Checks, and keeps what came out for the checks that come after it: where there is an earlier one, it looks again at what edits reach.
    pub(super) fn check(
        &self,
        context: &Context,
        session: &mut ManuallyDrop<Session>,
        ahead: Ahead,
        (paths, asked, with_owed): (&[PathBuf], &Asked, bool),
    ) -> Result<Whole, Failure> {
        let texts = ahead.texts.clone();
        let earlier = self.earlier();
        self.begin(session, ahead, earlier.as_ref());
        if let Some((earlier, edited)) = earlier {
            let Earlier { observed, past, files } = earlier;
            if edited.is_empty() {
                return Ok(again::whole(session, paths, files, with_owed, &|_| true));
            }
            if let Some((files, past)) = again::again(session, past, files, &edited, paths, asked, with_owed) {
                let mut now = session.db.observed();
                now.add(observed);
                self.keep_earlier(&now, &past, &files);
                let whole = again::whole(session, paths, files, with_owed, &|_| true);
                // Here the next check begins with that as well; elsewhere one of the same files would have to look again.
                if self.store.is_some() {
                    self.keep(now, &whole.document, &whole.seen);
                }
                return Ok(whole);
            }
            // What was taken to be known may not be so.
            *session = context.session_with_ledger()?;
            session.prepare(asked)?;
            self.begin(session, Ahead { texts, ..Ahead::default() }, None);
        }
        let (files, _) = again::checked(session, session.files(paths)?, asked, with_owed);
        let past = again::past(session).filter(|_| files.iter().all(|of| !of.fault));
        let observed = session.db.observed();
        if let Some(past) = &past {
            self.keep_earlier(&observed, past, &files);
        }
        let whole = again::whole(session, paths, files, with_owed, &|_| true);
        if !whole.fault {
            self.keep(observed, &whole.document, &whole.seen);
        }
        Ok(whole)
    }

    /// Tells a session what is known of its files before anybody asks for them: what an earlier check has found of those that were not edited.
    fn begin(&self, session: &Session, mut ahead: Ahead, earlier: Option<&(Earlier, Vec<PathBuf>)>) {
        if let Some((earlier, edited)) = earlier {
            let edited: HashSet<&Path> = edited.iter().map(PathBuf::as_path).collect();
            let known = earlier.past.known(&session.db, &|path| !edited.contains(path));
            ahead.known.extend(known.into_iter().map(|(path, known)| (self.by.root.join(path), known)));
        }
        session.db.know(ahead);
        session.db.record();
    }

    /// Keeps what a later check can begin with.
    fn keep_earlier(&self, observed: &Observed, past: &Past, files: &[OfFile]) {
        if let Some(bytes) = Earlier::bytes(observed, past, files) {
            self.put(&self.by.apart_from_texts(), &bytes);
        }
    }

    /// Keeps what came out: known by what was read before it was worked out, which is what it was worked out from.
    pub(super) fn keep(&self, mut observed: Observed, document: &Document, seen: &Seen) {
        let files: Vec<PathBuf> = self.by.told.iter().map(|(path, ..)| path.clone()).collect();
        observed.without(&files);
        if let Some(bytes) = Stored::bytes(&observed, document, seen) {
            self.put(&self.by.all(), &bytes);
        }
    }
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

/// The variable that names a store.
const STORE: &str = "LEITMOTIV_STORE";
