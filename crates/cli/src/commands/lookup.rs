//! `leitmotiv lookup`

use std::fmt::Write as _;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::lookup::{self, Answer};
use leitmotiv_engine::types::display::show;
use leitmotiv_migrate::session::Session;
use leitmotiv_project::settings::nearest;
use leitmotiv_report::place;
use leitmotiv_syntax::positions::Position;

use super::explain::Place;
use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Say what is known of a name or a place.
#[derive(Debug, Args)]
pub struct Lookup {
    /// A dotted name as in `ferry.berths.Berth.assign` or `str.split`, or a place as in `ferry/berths.py:41:12`.
    #[arg(value_name = "NAME|FILE:LINE:COL")]
    pub subject: String,
}

/// Runs the command.
pub fn run(context: &Context, command: &Lookup) -> Result<ExitCode, Failure> {
    let session = context.session()?;
    let answer = match Place::parse(&command.subject) {
        Some(place) => at(context, &session, &place)?,
        None => match lookup::named(&session.db, &command.subject) {
            Some(answer) => answer,
            None => return Err(Failure::unusable(not_found(&session, &command.subject))),
        },
    };
    print(&shown(&session, &answer, context.quiet))?;
    Ok(ExitCode::SUCCESS)
}

fn at(context: &Context, session: &Session, place: &Place) -> Result<Answer, Failure> {
    let files = session.files(&context.paths(std::slice::from_ref(&place.path)))?;
    let [file] = files.as_slice() else {
        return Err(Failure::unusable(format!("`{}` is not a file", place.path.display())));
    };
    let db = &session.db;
    let lines = &leitmotiv_engine::module::module_index(db, *file).lines.0;
    let text = file.text(db);
    let position = Position { line: place.line, column: place.column.unwrap_or(1) };
    let Some(mut offset) = lines.offset(text, position) else {
        return Err(Failure::unusable(format!("`{}` has no line {}", place.path.display(), place.line)));
    };
    if place.column.is_none() {
        // Without a column, the line's first word is meant.
        let rest = &text[usize::from(offset)..];
        let blanks = rest.len() - rest.trim_start_matches([' ', '\t']).len();
        offset += leitmotiv_syntax::TextSize::try_from(blanks).unwrap_or_default();
    }
    lookup::at(db, *file, offset)
        .ok_or_else(|| Failure::unusable(format!("no expression stands at {}:{}", place.path.display(), place.line)))
}

fn not_found(session: &Session, name: &str) -> String {
    let head = name.rsplit_once('.').map(|(head, _)| head);
    let near = head
        .and_then(|head| lookup::named(&session.db, head))
        .and_then(|owner| {
            let members = lookup::class_members(&session.db, owner.ty);
            let last = name.rsplit('.').next().unwrap_or_default();
            nearest(last, members.iter().map(|(name, _, _)| name.as_str())).map(str::to_owned)
        })
        .map(|near| format!(" (is `{near}` meant?)"))
        .unwrap_or_default();
    format!("nothing is known by the name `{name}`{near}")
}

fn shown(session: &Session, answer: &Answer, quiet: bool) -> String {
    let db = &session.db;
    let width = look::width();
    let mut out = String::new();
    let _ = writeln!(out, "{}", look::heading(&answer.subject));
    let signatures = lookup::signatures(db, answer.ty);
    if signatures.is_empty() {
        let _ = writeln!(out, "{}", look::fold(&format!("type: {}", show(db, answer.ty)), width, "  ", "    "));
    }
    for signature in &signatures {
        let _ = writeln!(out, "{}", look::fold(signature, width, "  ", "      "));
    }
    if let leitmotiv_engine::types::Type::Unknown(cause) = answer.ty {
        let words = leitmotiv_engine::evidence::cause_words(db, cause);
        let _ = writeln!(out, "{}", look::fold(&format!("unknown because of {words}"), width, "  ", "    "));
    }
    if let Some((file, range)) = answer.defined {
        let line = place::positions(db, file, range).0.line;
        let _ = writeln!(out, "  defined at {}:{line}", file.path(db));
        let code = leitmotiv_engine::rules::line_of(db, file, range);
        if !code.is_empty() {
            let _ = writeln!(out, "    {}", look::cut(&code, width - 4));
        }
    }
    let members = lookup::class_members(db, answer.ty);
    let public: Vec<Vec<String>> = members
        .into_iter()
        .filter(|(name, _, _)| !name.starts_with('_'))
        .map(|(name, ty, owner)| vec![name, owner, ty])
        .collect();
    if !public.is_empty() {
        out.push('\n');
        out.push_str(&look::table(&["member", "from", "type"], &[false, false, false], &public, width));
    }
    if !quiet && public.is_empty() {
        let _ = writeln!(out, "Next: leitmotiv lookup FILE:LINE:COL asks about any expression");
    }
    out
}
