//! The store of a project: `.leitmotiv/traces.sqlite`. docs/traces.md tells its tables.

use std::path::{Path, PathBuf};
use std::time::Duration;

use leitmotiv_project::write::note;
use rusqlite::{Connection, OpenFlags, OptionalExtension as _, Transaction, TransactionBehavior, params};
use rustc_hash::FxHashMap;
use thiserror::Error;

use crate::seen::Seen;

/// The store's file in the project's own folder.
pub const NAME: &str = "traces.sqlite";

/// The version of the tables.
const VERSION: i64 = 1;

/// What says in the file that it is a store of ours.
const APPLICATION: i64 = 0x4c65_6974;

const TABLES: &str = "
CREATE TABLE runs (name TEXT PRIMARY KEY, began INTEGER NOT NULL, command TEXT NOT NULL, python TEXT NOT NULL,
    processes INTEGER NOT NULL);
CREATE TABLE functions (id INTEGER PRIMARY KEY, path TEXT NOT NULL, name TEXT NOT NULL, hash TEXT NOT NULL, line INTEGER NOT NULL,
    params TEXT NOT NULL, UNIQUE (path, name, hash));
CREATE TABLE types (id INTEGER PRIMARY KEY, form TEXT NOT NULL UNIQUE, above TEXT NOT NULL);
CREATE TABLE sites (id INTEGER PRIMARY KEY, path TEXT NOT NULL, line INTEGER NOT NULL, through INTEGER NOT NULL, owner TEXT NOT NULL,
    owner_line INTEGER NOT NULL, hash TEXT NOT NULL, text TEXT NOT NULL, UNIQUE (path, line, through, hash, text));
CREATE TABLE calls (function INTEGER NOT NULL, site INTEGER NOT NULL, args TEXT NOT NULL, outcome TEXT NOT NULL, type INTEGER NOT NULL,
    count INTEGER NOT NULL, last INTEGER NOT NULL, PRIMARY KEY (function, site, args, outcome, type)) WITHOUT ROWID;
CREATE TABLE attributes (function INTEGER NOT NULL, class INTEGER NOT NULL, name TEXT NOT NULL, type INTEGER NOT NULL,
    count INTEGER NOT NULL, last INTEGER NOT NULL, PRIMARY KEY (function, class, name, type)) WITHOUT ROWID;
CREATE TABLE globals (path TEXT NOT NULL, name TEXT NOT NULL, type INTEGER NOT NULL, last INTEGER NOT NULL,
    PRIMARY KEY (path, name, type)) WITHOUT ROWID;
";

/// Why the store cannot be used.
#[derive(Debug, Error)]
pub enum StoreError {
    /// It cannot be read as one.
    #[error(
        "`{path}` is no store of recorded runs, or it is damaged ({reason}); `leitmotiv trace forget --all` begins a new one"
    )]
    Damaged {
        /// Where it is, as shown.
        path: String,
        /// What is wrong.
        reason: String,
    },
    /// It was made by a newer version of this program.
    #[error("`{0}` was written by a newer Leitmotiv; it is left alone")]
    Newer(String),
    /// Something else lies where it belongs.
    #[error("`{0}` is not a file; recorded runs are kept there")]
    NotAFile(String),
    /// It cannot be written or read.
    #[error("cannot use `{path}`: {reason}")]
    Unusable {
        /// Where it is, as shown.
        path: String,
        /// What the system says.
        reason: String,
    },
}

/// The store of a project.
pub struct Store {
    connection: Connection,
    shown: String,
}

/// A function as it is kept.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(crate) struct KeptFunction {
    pub(crate) path: String,
    pub(crate) name: String,
    pub(crate) hash: String,
    pub(crate) line: u32,
    pub(crate) params: Vec<String>,
}

/// A call site as it is kept.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(crate) struct KeptSite {
    pub(crate) path: String,
    pub(crate) line: u32,
    pub(crate) through: bool,
    pub(crate) owner: String,
    pub(crate) owner_line: u32,
    pub(crate) hash: String,
    pub(crate) text: String,
}

/// A run as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Run {
    /// What nothing else is called.
    pub name: String,
    /// When it began, in seconds since 1970.
    pub began: i64,
    /// The command.
    pub command: String,
    /// The interpreter's version; that of the first process.
    pub python: String,
    /// How many processes were recorded.
    pub processes: u32,
}

/// What is kept, row by row.
#[derive(Debug, Default)]
pub(crate) struct Kept {
    pub(crate) runs: Vec<Run>,
    pub(crate) functions: Vec<KeptFunction>,
    pub(crate) sites: Vec<KeptSite>,
    /// Types, with what they derive from.
    pub(crate) types: Vec<(Seen, Vec<Seen>)>,
    pub(crate) calls: Vec<KeptCall>,
    /// Function, class, name, type, count, last.
    pub(crate) attributes: Vec<(usize, usize, String, usize, u64, i64)>,
    /// Path, name, type, last.
    pub(crate) globals: Vec<(String, String, usize, i64)>,
}

/// A kind of call as it is kept; numbers are places in [`Kept`].
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct KeptCall {
    pub(crate) function: usize,
    pub(crate) site: Option<usize>,
    pub(crate) args: Vec<Option<usize>>,
    pub(crate) outcome: char,
    pub(crate) ty: Option<usize>,
    pub(crate) count: u64,
    pub(crate) last: i64,
}

/// Where a project's store is.
#[must_use]
pub fn path(root: &Path) -> PathBuf {
    note::path(root, NAME)
}

/// Takes the store of a project away, whatever state it is in; gives whether there was one.
///
/// # Errors
/// [`StoreError`] where something else lies in its place, or the system refuses.
pub fn remove(root: &Path) -> Result<bool, StoreError> {
    let path = path(root);
    let (Some(_), Ok(metadata)) = (note::known(root), path.symlink_metadata()) else { return Ok(false) };
    if metadata.is_dir() {
        return Err(StoreError::NotAFile(shown(root, &path)));
    }
    // What SQLite keeps beside it belongs to it (sqlite.org, "Temporary Files Used By SQLite").
    for end in ["-journal", "-wal", "-shm"] {
        let _ = std::fs::remove_file(note::path(root, &format!("{NAME}{end}")));
    }
    let unusable = |error: std::io::Error| StoreError::Unusable { path: shown(root, &path), reason: error.to_string() };
    std::fs::remove_file(&path).map_err(unusable)?;
    Ok(true)
}

impl Store {
    /// Opens the store of a project, and makes it where there is none.
    ///
    /// # Errors
    /// [`StoreError`]
    pub fn open(root: &Path) -> Result<Store, StoreError> {
        let unusable = |reason: String| StoreError::Unusable { path: shown(root, &path(root)), reason };
        note::home(root).map_err(|error| unusable(error.to_string()))?;
        Store::at(root, &path(root), true)
    }

    /// The store of a project for reading; `None` where there is none.
    ///
    /// # Errors
    /// [`StoreError`]
    pub fn read(root: &Path) -> Result<Option<Store>, StoreError> {
        let path = path(root);
        // What lies behind a link is nobody's store.
        if note::known(root).is_none() || path.symlink_metadata().is_err() {
            return Ok(None);
        }
        Store::at(root, &path, false).map(Some)
    }

    /// The store in a file, for reading.
    ///
    /// # Errors
    /// [`StoreError`]
    pub fn file(root: &Path, path: &Path) -> Result<Store, StoreError> {
        Store::at(root, path, false)
    }

    fn at(root: &Path, path: &Path, writes: bool) -> Result<Store, StoreError> {
        let shown = shown(root, path);
        if path.symlink_metadata().is_ok_and(|metadata| !metadata.is_file()) {
            return Err(StoreError::NotAFile(shown));
        }
        let flags = if writes {
            OpenFlags::SQLITE_OPEN_READ_WRITE | OpenFlags::SQLITE_OPEN_CREATE
        } else {
            OpenFlags::SQLITE_OPEN_READ_WRITE
        };
        let open = |flags| Connection::open_with_flags(path, flags | OpenFlags::SQLITE_OPEN_NO_MUTEX);
        // Where it may not be written, it can be read all the same.
        let opened =
            open(flags).or_else(|error| if writes { Err(error) } else { open(OpenFlags::SQLITE_OPEN_READ_ONLY) });
        let connection = opened.map_err(|error| unusable(&shown, &error))?;
        let mut store = Store { connection, shown };
        store.prepare(writes)?;
        Ok(store)
    }

    fn prepare(&mut self, writes: bool) -> Result<(), StoreError> {
        let shown = self.shown.clone();
        let failed = |error: rusqlite::Error| told(&shown, &error);
        self.connection.busy_timeout(Duration::from_secs(20)).map_err(failed)?;
        let pragma =
            |connection: &Connection, name: &str| connection.pragma_query_value(None, name, |row| row.get::<_, i64>(0));
        // SQLite looks at a file only when it is asked for something.
        let tables = |connection: &Connection| {
            connection.query_row("SELECT count(*) FROM sqlite_schema", [], |row| row.get::<_, i64>(0))
        };
        if writes && tables(&self.connection).map_err(failed)? == 0 {
            let transaction =
                self.connection.transaction_with_behavior(TransactionBehavior::Immediate).map_err(failed)?;
            if tables(&transaction).map_err(failed)? == 0 {
                transaction.execute_batch(TABLES).map_err(failed)?;
                transaction.pragma_update(None, "application_id", APPLICATION).map_err(failed)?;
                transaction.pragma_update(None, "user_version", VERSION).map_err(failed)?;
            }
            transaction.commit().map_err(failed)?;
        }
        if pragma(&self.connection, "application_id").map_err(failed)? != APPLICATION {
            let reason = "it holds something else".to_owned();
            return Err(StoreError::Damaged { path: shown.clone(), reason });
        }
        match pragma(&self.connection, "user_version").map_err(failed)? {
            VERSION => Ok(()),
            version if version > VERSION => Err(StoreError::Newer(shown.clone())),
            _ => Err(StoreError::Damaged { path: shown.clone(), reason: "its version is not known".to_owned() }),
        }
    }

    /// Adds what was recorded, all of it or nothing. A run that it has already is not added again; says whether it was added.
    pub(crate) fn add(&mut self, kept: &Kept) -> Result<bool, StoreError> {
        let shown = self.shown.clone();
        let transaction = self.connection.transaction_with_behavior(TransactionBehavior::Immediate);
        let transaction = transaction.map_err(|error| told(&shown, &error))?;
        let added = add(&transaction, kept).map_err(|error| told(&shown, &error))?;
        transaction.commit().map_err(|error| told(&shown, &error))?;
        Ok(added)
    }

    /// All that is kept.
    pub(crate) fn all(&self) -> Result<Kept, StoreError> {
        all(&self.connection).map_err(|error| told(&self.shown, &error))
    }

    /// Forgets functions, and with them their calls and attributes, and the names of modules. `is_gone` is asked for each function's
    /// path and dotted name in its file, `is_file_gone` for each module's path; gives how many functions are gone.
    ///
    /// # Errors
    /// [`StoreError`]; nothing is forgotten then.
    pub fn forget(
        &mut self,
        is_gone: impl Fn(&str, &str) -> bool,
        is_file_gone: impl Fn(&str) -> bool,
    ) -> Result<usize, StoreError> {
        let shown = self.shown.clone();
        let mut forget = || -> rusqlite::Result<usize> {
            let transaction = self.connection.transaction_with_behavior(TransactionBehavior::Immediate)?;
            let functions: Vec<(i64, String, String)> = transaction
                .prepare("SELECT id, path, name FROM functions")?
                .query_map([], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?)))?
                .collect::<rusqlite::Result<_>>()?;
            let mut gone = 0;
            for (id, path, name) in functions {
                if is_gone(&path, &name) {
                    gone += 1;
                    for table in ["calls", "attributes"] {
                        transaction.execute(&format!("DELETE FROM {table} WHERE function = ?1"), [id])?;
                    }
                    transaction.execute("DELETE FROM functions WHERE id = ?1", [id])?;
                }
            }
            let files: Vec<String> = transaction
                .prepare("SELECT DISTINCT path FROM globals")?
                .query_map([], |row| row.get(0))?
                .collect::<rusqlite::Result<_>>()?;
            for file in files.iter().filter(|file| is_file_gone(file)) {
                transaction.execute("DELETE FROM globals WHERE path = ?1", [file])?;
            }
            tidy(&transaction)?;
            transaction.commit()?;
            Ok(gone)
        };
        forget().map_err(|error| told(&shown, &error))
    }

    /// Forgets what was last seen before a time, in seconds since 1970; gives how many kinds of calls are gone.
    ///
    /// # Errors
    /// [`StoreError`]; nothing is forgotten then.
    pub fn forget_older(&mut self, before: i64) -> Result<usize, StoreError> {
        let shown = self.shown.clone();
        let mut forget = || -> rusqlite::Result<usize> {
            let transaction = self.connection.transaction_with_behavior(TransactionBehavior::Immediate)?;
            let gone = transaction.execute("DELETE FROM calls WHERE last < ?1", [before])?;
            transaction.execute("DELETE FROM attributes WHERE last < ?1", [before])?;
            transaction.execute("DELETE FROM globals WHERE last < ?1", [before])?;
            transaction.execute("DELETE FROM runs WHERE began < ?1", [before])?;
            transaction.execute(
                "DELETE FROM functions WHERE id NOT IN (SELECT function FROM calls) AND id NOT IN (SELECT function FROM attributes)",
                [],
            )?;
            tidy(&transaction)?;
            transaction.commit()?;
            Ok(gone)
        };
        forget().map_err(|error| told(&shown, &error))
    }
}

/// Drops call sites that nothing speaks of any more.
fn tidy(transaction: &Transaction<'_>) -> rusqlite::Result<()> {
    transaction.execute("DELETE FROM sites WHERE id NOT IN (SELECT site FROM calls)", []).map(|_| ())
}

fn add(transaction: &Transaction<'_>, kept: &Kept) -> rusqlite::Result<bool> {
    let mut is_new = kept.runs.is_empty();
    for run in &kept.runs {
        let known =
            transaction.query_row("SELECT 1 FROM runs WHERE name = ?1", [&run.name], |_| Ok(())).optional()?.is_some();
        if !known {
            is_new = true;
            transaction.execute(
                "INSERT INTO runs VALUES (?1, ?2, ?3, ?4, ?5)",
                params![run.name, run.began, run.command, run.python, run.processes],
            )?;
        }
    }
    if !is_new {
        return Ok(false);
    }
    let form = |seen: &Seen| serde_json::to_string(seen).unwrap_or_default();
    let mut types: Vec<i64> = Vec::with_capacity(kept.types.len());
    let mut insert = transaction.prepare("INSERT OR IGNORE INTO types (form, above) VALUES (?1, ?2)")?;
    let mut find = transaction.prepare("SELECT id FROM types WHERE form = ?1")?;
    for (seen, above) in &kept.types {
        let text = form(seen);
        insert.execute(params![text, serde_json::to_string(above).unwrap_or_default()])?;
        types.push(find.query_row([&text], |row| row.get(0))?);
    }
    let mut functions: Vec<i64> = Vec::with_capacity(kept.functions.len());
    let mut insert = transaction.prepare(
        "INSERT INTO functions (path, name, hash, line, params) VALUES (?1, ?2, ?3, ?4, ?5)
        ON CONFLICT (path, name, hash) DO UPDATE SET line = excluded.line RETURNING id",
    )?;
    for one in &kept.functions {
        let row = params![one.path, one.name, one.hash, one.line, one.params.join(",")];
        functions.push(insert.query_row(row, |row| row.get(0))?);
    }
    let mut sites: Vec<i64> = Vec::with_capacity(kept.sites.len());
    let mut insert = transaction.prepare(
        "INSERT INTO sites (path, line, through, owner, owner_line, hash, text) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)
        ON CONFLICT (path, line, through, hash, text) DO UPDATE SET owner_line = excluded.owner_line RETURNING id",
    )?;
    for one in &kept.sites {
        let row = params![one.path, one.line, one.through, one.owner, one.owner_line, one.hash, one.text];
        sites.push(insert.query_row(row, |row| row.get(0))?);
    }
    let mut insert = transaction.prepare(
        "INSERT INTO calls VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7) ON CONFLICT DO UPDATE SET count = count + excluded.count,
        last = max(last, excluded.last)",
    )?;
    let number = |ty: Option<usize>| ty.map_or(0, |ty| types[ty]);
    for call in &kept.calls {
        let args: Vec<String> = call.args.iter().map(|arg| number(*arg).to_string()).collect();
        let site = call.site.map_or(0, |site| sites[site]);
        let (function, outcome) = (functions[call.function], call.outcome.to_string());
        let count = i64::try_from(call.count).unwrap_or(i64::MAX);
        insert.execute(params![function, site, args.join(","), outcome, number(call.ty), count, call.last])?;
    }
    let mut insert = transaction.prepare(
        "INSERT INTO attributes VALUES (?1, ?2, ?3, ?4, ?5, ?6) ON CONFLICT DO UPDATE SET count = count + excluded.count,
        last = max(last, excluded.last)",
    )?;
    for (function, class, name, ty, count, last) in &kept.attributes {
        let count = i64::try_from(*count).unwrap_or(i64::MAX);
        insert.execute(params![functions[*function], types[*class], name, types[*ty], count, last])?;
    }
    let mut insert = transaction.prepare(
        "INSERT INTO globals VALUES (?1, ?2, ?3, ?4) ON CONFLICT DO UPDATE SET last = max(last, excluded.last)",
    )?;
    for (path, name, ty, last) in &kept.globals {
        insert.execute(params![path, name, types[*ty], last])?;
    }
    Ok(true)
}

/// Places by the numbers of the rows.
type Places = FxHashMap<i64, usize>;

fn all(connection: &Connection) -> rusqlite::Result<Kept> {
    let mut kept = Kept::default();
    let mut rows =
        connection.prepare("SELECT name, began, command, python, processes FROM runs ORDER BY began, name")?;
    let runs = rows.query_map([], |row| {
        let (name, began, command) = (row.get(0)?, row.get(1)?, row.get(2)?);
        Ok(Run { name, began, command, python: row.get(3)?, processes: row.get(4)? })
    })?;
    kept.runs = runs.collect::<rusqlite::Result<_>>()?;
    let (mut types, mut functions, mut sites) = (Places::default(), Places::default(), Places::default());
    let mut rows = connection.prepare("SELECT id, form, above FROM types ORDER BY id")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        let (form, above): (String, String) = (row.get(1)?, row.get(2)?);
        let Ok(seen) = serde_json::from_str(&form) else { continue };
        types.insert(row.get(0)?, kept.types.len());
        kept.types.push((seen, serde_json::from_str(&above).unwrap_or_default()));
    }
    let mut rows =
        connection.prepare("SELECT id, path, name, hash, line, params FROM functions ORDER BY path, line, id")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        let names: String = row.get(5)?;
        let params = names.split(',').filter(|name| !name.is_empty()).map(str::to_owned).collect();
        functions.insert(row.get(0)?, kept.functions.len());
        let (path, name, hash, line) = (row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?);
        kept.functions.push(KeptFunction { path, name, hash, line, params });
    }
    let mut rows = connection
        .prepare("SELECT id, path, line, through, owner, owner_line, hash, text FROM sites ORDER BY path, line, id")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        sites.insert(row.get(0)?, kept.sites.len());
        let (path, line, through) = (row.get(1)?, row.get(2)?, row.get(3)?);
        let (owner, owner_line, hash, text) = (row.get(4)?, row.get(5)?, row.get(6)?, row.get(7)?);
        kept.sites.push(KeptSite { path, line, through, owner, owner_line, hash, text });
    }
    let mut rows = connection.prepare("SELECT function, site, args, outcome, type, count, last FROM calls")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        let Some(function) = functions.get(&row.get(0)?).copied() else { continue };
        let (args, outcome): (String, String) = (row.get(2)?, row.get(3)?);
        let args = args.split(',').filter(|arg| !arg.is_empty());
        let args = args.map(|arg| arg.parse().ok().and_then(|id: i64| types.get(&id).copied())).collect();
        let (site, ty) = (sites.get(&row.get(1)?).copied(), types.get(&row.get(4)?).copied());
        let outcome = outcome.chars().next().unwrap_or('r');
        let count = u64::try_from(row.get::<_, i64>(5)?).unwrap_or(0).min(1 << 53);
        kept.calls.push(KeptCall { function, site, args, outcome, ty, count, last: row.get(6)? });
    }
    let mut rows = connection.prepare("SELECT function, class, name, type, count, last FROM attributes")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        let known = (functions.get(&row.get(0)?), types.get(&row.get(1)?), types.get(&row.get(3)?));
        let (Some(function), Some(class), Some(ty)) = known else { continue };
        let count = u64::try_from(row.get::<_, i64>(4)?).unwrap_or(0).min(1 << 53);
        kept.attributes.push((*function, *class, row.get(2)?, *ty, count, row.get(5)?));
    }
    let mut rows = connection.prepare("SELECT path, name, type, last FROM globals")?;
    let mut rows = rows.query([])?;
    while let Some(row) = rows.next()? {
        if let Some(ty) = types.get(&row.get(2)?) {
            kept.globals.push((row.get(0)?, row.get(1)?, *ty, row.get(3)?));
        }
    }
    Ok(kept)
}

fn shown(root: &Path, path: &Path) -> String {
    path.strip_prefix(root).unwrap_or(path).display().to_string()
}

fn unusable(shown: &str, error: &rusqlite::Error) -> StoreError {
    StoreError::Unusable { path: shown.to_owned(), reason: error.to_string() }
}

/// What an error means for those who want to use the store.
fn told(shown: &str, error: &rusqlite::Error) -> StoreError {
    use rusqlite::ErrorCode;
    match error.sqlite_error_code() {
        Some(
            ErrorCode::DatabaseBusy
            | ErrorCode::DatabaseLocked
            | ErrorCode::ReadOnly
            | ErrorCode::DiskFull
            | ErrorCode::CannotOpen
            | ErrorCode::PermissionDenied
            | ErrorCode::OutOfMemory
            | ErrorCode::SystemIoFailure,
        ) => unusable(shown, error),
        _ => StoreError::Damaged { path: shown.to_owned(), reason: error.to_string() },
    }
}
