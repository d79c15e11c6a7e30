//! `leitmotiv stub verify`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::session::Session;
use leitmotiv_migrate::stub;
use leitmotiv_migrate::stub::running::{self, Described};
use leitmotiv_migrate::stub::verify::reviewed::Reviewed;
use leitmotiv_migrate::stub::verify::{Difference, Kind, Verified, verify};
use leitmotiv_project::resolve::Origin;
use leitmotiv_report::place;
use serde::Serialize;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// Compare stubs with the modules as the interpreter imports them.
///
/// The modules are imported for it, by the interpreter of the project.
#[derive(Debug, Args)]
pub struct Verify {
    /// Modules or packages by name; by default all that have stubs in the project's folders of stubs.
    #[arg(value_name = "MODULE")]
    pub modules: Vec<String>,
    /// The stubs of the standard library that come with the program.
    #[arg(long, conflicts_with = "modules")]
    pub library: bool,
    /// A file of differences that are meant to be, one line each: `KIND NAME: REASON`.
    #[arg(long, value_name = "FILE")]
    pub reviewed: Option<PathBuf>,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// One module with what its comparison gave.
struct Row {
    module: String,
    stub: File,
    described: Described,
    verified: Verified,
    reviewed: usize,
}

/// Runs the command.
pub fn run(context: &Context, command: &Verify) -> Result<ExitCode, Failure> {
    let reviewed = match &command.reviewed {
        None => Reviewed::default(),
        Some(path) => {
            let text = leitmotiv_project::read::text(path)
                .map_err(|error| Failure::unusable(format!("cannot read `{}`: {error}", path.display())))?;
            Reviewed::read(&text).map_err(|error| Failure::unusable(format!("in `{}`, {error}", path.display())))?
        }
    };
    let mut project = context.project()?;
    // What is compared is what the interpreter has, whatever version the project is checked for.
    if let Some(interpreter) = &project.interpreter {
        project.python = interpreter.version;
    }
    let session = Session::open(project)?;
    let targets = if command.library { stub::bundled(&session.db) } else { targets(&session, &command.modules)? };
    let modules: Vec<String> = targets.iter().map(|(module, _)| module.clone()).collect();
    let described = running::describe(session.project(), &modules, running::LIMIT)
        .map_err(|error| Failure::unusable(error.to_string()))?;
    let rows: Vec<Row> = targets
        .into_iter()
        .zip(described)
        .map(|((module, stub), described)| {
            let mut verified = verify(&session.db, stub, &described);
            let before = verified.differences.len();
            verified.differences.retain(|difference| !reviewed.has(difference));
            let reviewed = before - verified.differences.len();
            Row { module, stub, described, verified, reviewed }
        })
        .collect();
    match command.format {
        Format::Json => print(&json(&session, &rows))?,
        Format::Text => print(&text(&session, &rows, context.quiet))?,
    }
    let is_failed = |row: &Row| row.described.error.is_some() && !row.described.is_absent();
    let is_bad = rows.iter().any(|row| !row.verified.differences.is_empty() || is_failed(row));
    Ok(if is_bad { ExitCode::FAILURE } else { ExitCode::SUCCESS })
}

/// The modules to compare, with their stubs.
fn targets(session: &Session, asked: &[String]) -> Result<Vec<(String, File)>, Failure> {
    let db = &session.db;
    let local = stub::local(db);
    if asked.is_empty() && local.is_empty() {
        let folders = session.project().settings.stubs.join("`, `");
        return Err(Failure::unusable(format!("there are no stubs in `{folders}`; name modules to verify")));
    }
    if asked.is_empty() {
        return Ok(local);
    }
    let mut found = Vec::new();
    for name in asked {
        let Some(file) = leitmotiv_engine::resolve::module_file(db, db.names().intern(name), None) else {
            return Err(Failure::unusable(format!("there is no module `{name}`")));
        };
        if !file.is_stub(db) || file.origin(db) == Origin::Untyped {
            return Err(Failure::unusable(format!(
                "`{name}` has no stub that could be verified; `leitmotiv stub write {name}` writes one"
            )));
        }
        // Of a package, all its modules that have stubs.
        let inside = format!("{name}.");
        let below = local.iter().filter(|(module, other)| module.starts_with(&inside) && *other != file);
        found.push((name.clone(), file));
        found.extend(below.cloned());
    }
    Ok(found)
}

fn text(session: &Session, rows: &[Row], quiet: bool) -> String {
    let width = look::width();
    let mut out = String::new();
    for row in rows {
        if let Some(error) = row.described.error.as_ref().filter(|_| !row.described.is_absent()) {
            let _ = writeln!(out, "{}", look::heading(&row.module));
            let _ = writeln!(out, "{}", look::fold(&format!("cannot be imported: {error}"), width, "  ", "    "));
            continue;
        }
        if row.verified.differences.is_empty() {
            continue;
        }
        let _ = writeln!(out, "{}", look::heading(&row.module));
        for difference in &row.verified.differences {
            let name = difference.name.strip_prefix(&row.module).map_or("", |rest| rest.trim_start_matches('.'));
            let line = format!("{name}: {}", difference.words);
            let _ = writeln!(out, "{}", look::fold(&line, width, "  ", "    "));
            let _ = writeln!(out, "    {}", look::faint(&places(session, row, difference)));
        }
        out.push('\n');
    }
    let all: Vec<&Difference> = rows.iter().flat_map(|row| &row.verified.differences).collect();
    let names: usize = rows.iter().map(|row| row.verified.names).sum();
    let signatures: usize = rows.iter().map(|row| row.verified.signatures).sum();
    let reviewed: usize = rows.iter().map(|row| row.reviewed).sum();
    let left: usize = rows.iter().map(|row| row.verified.left.len()).sum();
    let mut last = format!(
        "{} in {}: {} and {} compared",
        look::count(all.len(), "difference", "differences"),
        look::count(rows.len(), "stub", "stubs"),
        look::count(names, "name", "names"),
        look::count(signatures, "signature", "signatures"),
    );
    let kinds: Vec<String> = Kind::ALL
        .iter()
        .filter_map(|kind| {
            let count = all.iter().filter(|difference| difference.kind == *kind).count();
            (count > 0).then(|| format!("{count} {}", kind.name()))
        })
        .collect();
    if !kinds.is_empty() {
        let _ = write!(last, "; {}", kinds.join(", "));
    }
    if reviewed > 0 {
        let _ = write!(last, "; {reviewed} more are on the reviewed list");
    }
    if left > 0 {
        let _ = write!(last, "; {} left to `__getattr__`", look::count(left, "name is", "names are"));
    }
    last.push('.');
    if !quiet && !all.is_empty() {
        last.push_str(" Next: edit the stubs, or keep what is meant with --reviewed FILE");
    }
    let _ = writeln!(out, "{}", look::fold(&last, width, "", "  "));
    out
}

/// Both places of a difference, as far as they are known.
fn places(session: &Session, row: &Row, difference: &Difference) -> String {
    let db = &session.db;
    let stub = match difference.stub {
        Some((file, range)) => format!("{}:{}", look::path(db, file), place::positions(db, file, range).0.line),
        None => look::path(db, row.stub).into_owned(),
    };
    let module = match (&difference.module, &row.described.file) {
        (Some(place), _) => {
            format!("{}:{}", session.project().relative(std::path::Path::new(&place.file)), place.line)
        }
        (None, Some(file)) => session.project().relative(std::path::Path::new(file)),
        (None, None) => "the interpreter".to_owned(),
    };
    format!("{stub} and {module}")
}

#[derive(Serialize)]
struct JsonRow<'a> {
    module: &'a str,
    stub: &'a str,
    python: String,
    error: Option<&'a str>,
    names: usize,
    signatures: usize,
    reviewed: usize,
    left: &'a [String],
    differences: Vec<JsonDifference<'a>>,
}

#[derive(Serialize)]
struct JsonDifference<'a> {
    name: &'a str,
    kind: Kind,
    words: &'a str,
    stub: Option<JsonPlace>,
    module: Option<JsonPlace>,
}

#[derive(Serialize)]
struct JsonPlace {
    path: String,
    line: u32,
}

fn json(session: &Session, rows: &[Row]) -> String {
    let db = &session.db;
    let rows: Vec<JsonRow> = rows
        .iter()
        .map(|row| JsonRow {
            module: &row.module,
            stub: row.stub.path(db),
            python: row.described.python.iter().map(u8::to_string).collect::<Vec<_>>().join("."),
            error: row.described.error.as_deref(),
            names: row.verified.names,
            signatures: row.verified.signatures,
            reviewed: row.reviewed,
            left: &row.verified.left,
            differences: row
                .verified
                .differences
                .iter()
                .map(|difference| JsonDifference {
                    name: &difference.name,
                    kind: difference.kind,
                    words: &difference.words,
                    stub: difference.stub.map(|(file, range)| JsonPlace {
                        path: file.path(db).to_owned(),
                        line: place::positions(db, file, range).0.line,
                    }),
                    module: difference.module.as_ref().map(|place| JsonPlace {
                        path: session.project().relative(std::path::Path::new(&place.file)),
                        line: place.line,
                    }),
                })
                .collect(),
        })
        .collect();
    let mut text = serde_json::to_string_pretty(&rows).unwrap_or_default();
    text.push('\n');
    text
}
