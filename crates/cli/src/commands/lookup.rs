//! `leitmotiv lookup`

use std::fmt::Write as _;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::lookup::{self, Answer};
use leitmotiv_migrate::annotate::{self, Part, Sureness};
use leitmotiv_migrate::session::Session;
use leitmotiv_project::resolve::Origin;
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
    #[arg(value_name = "NAME|FILE:LINE:COL", required_unless_present = "common")]
    pub subject: Option<String>,
    /// The nearest types that two classes have in common.
    #[arg(long, num_args = 2, value_names = ["A", "B"], conflicts_with = "subject")]
    pub common: Option<Vec<String>>,
}

/// Runs the command.
pub fn run(context: &Context, command: &Lookup) -> Result<ExitCode, Failure> {
    let session = context.session()?;
    if let Some([one, other]) = command.common.as_deref() {
        print(&common(&session, one, other)?)?;
        return Ok(ExitCode::SUCCESS);
    }
    let subject = command.subject.as_deref().unwrap_or_default();
    let answer = match Place::parse(subject) {
        Some(place) => at(context, &session, &place)?,
        None => named(&session, subject)?,
    };
    let supposed = supposed(&session, &answer, context.quiet)?;
    let mut out = shown(&session, &answer, context.quiet || !supposed.is_empty());
    out.push_str(&supposed);
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

fn named(session: &Session, name: &str) -> Result<Answer, Failure> {
    lookup::named(&session.db, name).ok_or_else(|| Failure::unusable(not_found(session, name)))
}

/// What two classes have in common.
fn common(session: &Session, one: &str, other: &str) -> Result<String, Failure> {
    let db = &session.db;
    let width = look::width();
    let (first, second) = (named(session, one)?, named(session, other)?);
    let Some(common) = lookup::common(db, first.ty, second.ty) else {
        let odd = if matches!(first.ty, leitmotiv_engine::types::Type::Class(_)) { other } else { one };
        return Err(Failure::unusable(format!("`{odd}` is no class; --common takes two classes")));
    };
    let mut out = String::new();
    let _ = writeln!(out, "{}", look::heading(&format!("{one} and {other}")));
    for (name, (file, range)) in &common.nearest {
        let line = place::positions(db, *file, *range).0.line;
        let text = format!("both are: {name}, {}:{line}", look::path(db, *file));
        let _ = writeln!(out, "{}", look::fold(&text, width, "  ", "    "));
    }
    if !common.fitted.is_empty() {
        let fitted = common.fitted.join(", ");
        let _ = writeln!(out, "{}", look::fold(&format!("both fit: {fitted}"), width, "  ", "    "));
    }
    Ok(out)
}

fn at(context: &Context, session: &Session, place: &Place) -> Result<Answer, Failure> {
    let files = session.files(&context.paths(std::slice::from_ref(&place.path)))?;
    let [file] = files.as_slice() else {
        return Err(Failure::unusable(format!("`{}` is not a file", place.path.display())));
    };
    at_in(session, *file, place)
}

/// What stands at a place of a file.
pub(super) fn at_in(session: &Session, file: File, place: &Place) -> Result<Answer, Failure> {
    let db = &session.db;
    let lines = &leitmotiv_engine::outline::module_index(db, file).lines.0;
    let text = file.text(db);
    let position = Position { line: place.line, column: place.column.unwrap_or(1) };
    let Some(mut offset) = lines.offset(text, position) else {
        return Err(Failure::unusable(format!("`{}` has no line {}", place.path.display(), place.line)));
    };
    if place.column.is_none() {
        // Without a column, the line's first word is meant, of a definition what it defines.
        let mut rest = &text[usize::from(offset)..];
        let whole = rest.len();
        rest = rest.trim_start_matches([' ', '\t']);
        for word in ["async ", "def ", "class "] {
            if let Some(behind) = rest.strip_prefix(word) {
                rest = behind.trim_start_matches([' ', '\t']);
            }
        }
        offset += leitmotiv_syntax::TextSize::try_from(whole - rest.len()).unwrap_or_default();
    }
    let line = lines.line_range(text, lines.index_of(offset));
    let first = || lookup::first_in(db, file, line.filter(|_| place.column.is_none())?);
    lookup::at(db, file, offset)
        .or_else(first)
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

/// What evidence says of what nobody annotated in a function of the project.
pub(super) fn supposed(session: &Session, answer: &Answer, quiet: bool) -> Result<String, Failure> {
    let db = &session.db;
    let mut out = String::new();
    let Some((file, function, place)) = answer.function.filter(|(file, ..)| file.origin(db) == Origin::Project) else {
        return Ok(out);
    };
    let record = &leitmotiv_engine::outline::module_index(db, file).functions[function];
    let param = place.and_then(|place| record.params.get(place as usize));
    let is_open = match param {
        Some(param) => param.annotation.is_none(),
        None => record.returns.is_none() || record.params.iter().any(|param| param.annotation.is_none()),
    };
    if !is_open {
        return Ok(out);
    }
    let mut found =
        annotate::of_function(db, &session.files(&[])?, (file, function), super::recorded(session.project()));
    if let Some(param) = param {
        let part = Part::Parameter(db.names().text(param.name).to_owned());
        found.retain(|proposal| proposal.part == part);
    }
    let width = look::width();
    if found.is_empty() {
        return Ok(out);
    }
    let _ = writeln!(out, "\n{}", look::heading("What evidence says"));
    for proposal in &found {
        let name = proposal.function.rsplit('.').next().unwrap_or_default();
        let slot = proposal.part.shown(name, &proposal.spelled.text);
        let _ = writeln!(out, "  {slot}  {}", look::faint(proposal.sureness.name()));
        out.push_str(&super::annotate::evidence(proposal, width));
    }
    if let Some(proposal) = found.iter().find(|proposal| proposal.sureness > Sureness::Low).filter(|_| !quiet) {
        let path = super::argument(file.path(db));
        let _ = writeln!(out, "\nNext: leitmotiv annotate {path} --functions {}", proposal.function);
    }
    Ok(out)
}

pub(super) fn shown(session: &Session, answer: &Answer, quiet: bool) -> String {
    let db = &session.db;
    let width = look::width();
    let mut out = String::new();
    let _ = writeln!(out, "{}", look::heading(&answer.subject));
    let signatures = lookup::signatures(db, answer.ty);
    if signatures.is_empty() {
        let _ = writeln!(out, "{}", look::fold_type(&format!("type: {}", show(db, answer.ty)), width, "  ", "    "));
    }
    for signature in &signatures {
        let _ = writeln!(out, "{}", look::fold_type(signature, width, "  ", "      "));
    }
    for step in lookup::aliases(db, &answer.subject) {
        let line = place::positions(db, step.file, step.range).0.line;
        let text = format!("{}:{line}: {}", look::path(db, step.file), step.words);
        let _ = writeln!(out, "{}", look::fold(&text, width, "  ", "    "));
    }
    if let leitmotiv_engine::types::Type::Unknown(cause) = answer.ty {
        let words = leitmotiv_engine::findings::evidence::cause_words(db, cause);
        let _ = writeln!(out, "{}", look::fold(&format!("unknown because of {words}"), width, "  ", "    "));
    }
    if let Some(instead) = answer.instead {
        let mut text = instead.words(db);
        if let Some((file, range)) = instead.parameter.first {
            let line = place::positions(db, file, range).0.line;
            let _ = write!(text, ", first passed at {}:{line}", look::path(db, file));
        }
        let _ = writeln!(out, "{}", look::fold(&text, width, "  ", "    "));
    }
    if let Some((file, range)) = answer.defined {
        let line = place::positions(db, file, range).0.line;
        if matches!(answer.ty, leitmotiv_engine::types::Type::Module(_)) {
            let _ = writeln!(out, "  found at {}", look::path(db, file));
        } else {
            let _ = writeln!(out, "  defined at {}:{line}", look::path(db, file));
        }
        let code = leitmotiv_engine::findings::source::line_of(db, file, range);
        if !code.is_empty() {
            let _ = writeln!(out, "    {}", look::cut(&code, width - 4));
        }
        let _ = writeln!(out, "{}", look::fold(&format!("in {}", lookup::why(db, file)), width, "  ", "    "));
    }
    let parameters: Vec<Vec<String>> = lookup::parameters(db, answer.ty)
        .into_iter()
        .map(|param| vec![param.name, param.ty, param.default.unwrap_or_default(), param.given.to_owned()])
        .collect();
    if !parameters.is_empty() {
        out.push('\n');
        out.push_str(&look::table(&["parameter", "type", "default", "given"], &[false; 4], &parameters, width));
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
    if !quiet && public.is_empty() && parameters.is_empty() {
        let _ = writeln!(out, "Next: leitmotiv lookup FILE:LINE:COL asks about any expression");
    }
    out
}
