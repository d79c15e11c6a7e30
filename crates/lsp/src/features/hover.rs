//! What is known of what stands under the pointer: its type, and where that comes from.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::findings::evidence::{self, Evidence};
use leitmotiv_engine::findings::source;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::things::{Reader, Thing, behind_imports};
use leitmotiv_engine::view::{concluded, lookup, passed, signature};
use leitmotiv_index::tree::{BodyId, DefKind, FunctionId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::mentions::{How, Mention};
use leitmotiv_trace::records::Records;
use leitmotiv_trace::seen::Seen;
use lsp_types::{Hover, HoverContents, HoverParams, MarkupContent, MarkupKind};

use super::{Answer, markdown};
use crate::snapshot::Snapshot;

/// `textDocument/hover`
///
/// # Errors
/// None.
pub fn hover(snapshot: &Snapshot, file: File, params: HoverParams) -> Answer<Option<Hover>> {
    let offset = snapshot.offset(file, params.text_document_position_params.position);
    let db = &snapshot.session.db;
    let mut reader = Reader::new(db, file);
    let (text, range) = match reader.at(offset) {
        Some(mention) => match of_mention(snapshot, &mut reader, mention) {
            Some(text) => (text, mention.range),
            None => return Ok(None),
        },
        None => {
            let index = reader.index;
            let stands = index.spans_iter().filter(|(_, span)| span.contains(offset) && !span.is_empty());
            let Some((expr, span)) = stands.min_by_key(|(expr, span)| (span.len(), std::cmp::Reverse(*expr))) else {
                return Ok(None);
            };
            let ty = reader.type_of(expr);
            if ty.is_unknown() {
                return Ok(None);
            }
            (markdown::block(&show(db, ty)), span)
        }
    };
    let (kind, value) = match snapshot.client.has_markdown {
        true => (MarkupKind::Markdown, text),
        false => (MarkupKind::PlainText, markdown::plain(&text)),
    };
    let contents = HoverContents::Markup(MarkupContent { kind, value });
    Ok(Some(Hover { contents, range: Some(snapshot.range(file, range)) }))
}

/// The type of what is mentioned.
pub(super) fn type_of(reader: &mut Reader<'_>, mention: Mention) -> Option<Type> {
    if let Some(expr) = reader.expr_of(mention)
        && !mention.how.binds()
    {
        return Some(reader.type_of(expr));
    }
    if let Some(def) = reader.definition_of(mention) {
        let body = reader.index.defs[def].body;
        let infer = reader.infer(body);
        // Where a name is bound, it is of the class that people would write; what is known of it further on is told there.
        let ty = infer.definition(def);
        return Some(infer.widen(ty));
    }
    if let Some(expr) = reader.expr_of(mention) {
        return Some(reader.type_of(expr));
    }
    let thing = reader.means(mention).into_iter().next()?;
    of_thing(reader, thing)
}

fn of_thing(reader: &Reader<'_>, thing: Thing) -> Option<Type> {
    let db = reader.db;
    if let Thing::Module(file) = thing {
        return Some(Type::Module(file));
    }
    let def = thing.definitions(db).into_iter().next()?;
    let index = module_index(db, thing.file());
    let mut infer = leitmotiv_engine::infer::Infer::new(db, thing.file(), index.defs[def].body);
    Some(infer.definition(def))
}

fn of_mention(snapshot: &Snapshot, reader: &mut Reader<'_>, mention: Mention) -> Option<String> {
    let db = &snapshot.session.db;
    let name = reader.text(mention).to_owned();
    let ty = type_of(reader, mention)?;
    let means = reader.means(mention);
    let thing = means.first().map(|thing| behind_imports(db, *thing));
    let mut out = String::new();
    match ty {
        Type::Function(_) | Type::Method(_) | Type::Property(_) => {
            let owner = lookup::function_of(db, ty).map(|(file, function, _)| functions::shown(db, file, function));
            let name = owner.unwrap_or(name);
            let body = reader.expr_of(mention).map_or(BodyId(0), |expr| reader.body_of(expr));
            let made = signature::of(reader.infer(body), ty);
            let lines: Vec<String> = match made.is_empty() {
                true => lookup::signatures(db, ty).iter().map(|one| format!("{name}{one}")).collect(),
                false => made.iter().map(|one| one.line(&name)).collect(),
            };
            out.push_str(&markdown::block(&lines.join("\n")));
        }
        Type::Class(id) => {
            let made = signature::of(reader.infer(BodyId(0)), ty);
            let shown = show(db, Type::Instance(id));
            let lines: Vec<String> = match made.is_empty() {
                true => vec![format!("class {shown}")],
                false => made.iter().map(|one| format!("class {shown}({})", one.listed())).collect(),
            };
            out.push_str(&markdown::block(&lines.join("\n")));
        }
        Type::Module(module) => {
            out.push_str(&markdown::block(&format!("module {}", db.names().text(module.module(db)))));
        }
        _ => out.push_str(&markdown::block(&format!("{name}: {}", show(db, ty)))),
    }
    out.push('\n');
    origin(snapshot, reader, mention, ty, thing, &mut out);
    if let Some((file, function, _)) = lookup::function_of(db, ty) {
        if let Some(docs) = docstring(snapshot, file, function) {
            let _ = write!(out, "\n\n{docs}");
        }
        slots(snapshot, file, function, None, &mut out);
    }
    if let Some(Thing::Name { file, scope, name }) = thing
        && let Some((function, place)) = parameter(snapshot, file, scope, name)
    {
        slots(snapshot, file, function, Some(place), &mut out);
    }
    if let Some(docs) = thing.and_then(|thing| of_class(snapshot, thing)) {
        let _ = write!(out, "\n\n{docs}");
    }
    Some(out)
}

/// Whether the type was declared or concluded, and where it comes from, in at most two lines.
fn origin(
    snapshot: &Snapshot,
    reader: &mut Reader<'_>,
    mention: Mention,
    ty: Type,
    thing: Option<Thing>,
    out: &mut String,
) {
    let db = &snapshot.session.db;
    if let Type::Unknown(cause) = ty {
        let _ = write!(out, "\nunknown because of {}", markdown::text(&evidence::cause_words(db, cause)));
        let expr = reader.expr_of(mention).filter(|_| !mention.how.binds());
        let instead = expr.and_then(|expr| concluded::instead(db, (reader.file, reader.body_of(expr)), expr, ty));
        if let Some(instead) = instead {
            let _ = write!(out, "  \n{}", instead.words(db));
            if let Some((file, range)) = instead.parameter.first {
                let _ = write!(out, ", first passed at {}", markdown::place(snapshot, file, range));
            }
        }
        return;
    }
    let is_definition =
        matches!(ty, Type::Function(_) | Type::Method(_) | Type::Class(_) | Type::Module(_) | Type::Property(_));
    let mut lines: Vec<String> = Vec::new();
    if let Some(thing) = thing
        && is_definition
    {
        let places = leitmotiv_engine::view::places::of_thing(db, thing);
        if let Some((file, range)) = places.first().filter(|place| **place != (reader.file, mention.range)) {
            lines.push(format!("defined at {}", markdown::place(snapshot, *file, *range)));
        }
    } else {
        let steps: Vec<Evidence> = reader
            .expr_of(mention)
            .filter(|_| !matches!(mention.how, How::Parameter))
            .map(|expr| {
                let body = reader.body_of(expr);
                evidence::of(reader.infer(body), expr, &mut |_, _| true)
            })
            .unwrap_or_default();
        let steps: Vec<&Evidence> = steps.iter().filter(|step| !step.asks).collect();
        let told = |step: &Evidence| {
            format!("{} {}", markdown::place(snapshot, step.file, step.range), markdown::text(&step.text))
        };
        match steps.as_slice() {
            [] => lines.extend(thing.and_then(|thing| said(snapshot, thing))),
            [one] => lines.push(told(one)),
            [first, .., last] => lines.extend([told(first), told(last)]),
        }
    }
    for line in lines {
        let _ = write!(out, "\n{line}  ");
    }
}

/// Whether somebody says what a thing is, and where.
fn said(snapshot: &Snapshot, thing: Thing) -> Option<String> {
    let db = &snapshot.session.db;
    let index = module_index(db, thing.file());
    let all = thing.definitions(db);
    let is_said = |def: &&leitmotiv_index::tree::DefId| match index.defs[**def].kind {
        DefKind::Annotated { .. } => true,
        DefKind::Param { function, index: place } => {
            index.functions[function].params[place as usize].annotation.is_some()
        }
        _ => false,
    };
    let (word, def) = match all.iter().find(is_said) {
        Some(def) => ("declared", def),
        None => ("concluded", all.first()?),
    };
    let range = index.defs[*def].range;
    let code = source::line_of(db, thing.file(), range);
    let code = code.trim().replace('`', "'");
    Some(format!("{word} at {} `{code}`", markdown::place(snapshot, thing.file(), range)))
}

/// A function's docstring, of a stub's function that of the source behind it.
fn docstring(snapshot: &Snapshot, file: File, function: FunctionId) -> Option<String> {
    let db = &snapshot.session.db;
    let index = module_index(db, file);
    let record = &index.functions[function];
    if let Some(range) = record.docstring {
        return cleaned(&file.text(db)[range]);
    }
    if !file.is_stub(db) {
        return None;
    }
    let source = db.source_of(file.module(db)).filter(|source| *source != file)?;
    let other = module_index(db, source);
    let class = record.class.map(|class| index.classes[class].name);
    let (_, found) = other
        .functions
        .iter()
        .find(|(_, found)| found.name == record.name && found.class.map(|class| other.classes[class].name) == class)?;
    cleaned(&source.text(db)[found.docstring?])
}

fn of_class(snapshot: &Snapshot, thing: Thing) -> Option<String> {
    let db = &snapshot.session.db;
    let index = module_index(db, thing.file());
    if let Thing::Module(file) = thing {
        return cleaned(&file.text(db)[index.docstring?]);
    }
    let class = thing.definitions(db).into_iter().find_map(|def| match index.defs[def].kind {
        DefKind::Class(class) => Some(class),
        _ => None,
    })?;
    cleaned(&thing.file().text(db)[index.classes[class].docstring?])
}

/// So many lines of a docstring are shown.
const MOST_LINES: usize = 12;

/// A docstring without its quotes and indentation (PEP 257), as text.
fn cleaned(literal: &str) -> Option<String> {
    let inner = literal.trim_start_matches(['r', 'R', 'u', 'U', 'b', 'B', 'f', 'F']);
    let quote = ["\"\"\"", "'''", "\"", "'"].into_iter().find(|quote| inner.starts_with(quote))?;
    let inner = inner.strip_prefix(quote)?.strip_suffix(quote).unwrap_or(inner);
    let indent = inner
        .lines()
        .skip(1)
        .filter(|line| !line.trim().is_empty())
        .map(|line| line.len() - line.trim_start().len())
        .min()
        .unwrap_or(0);
    let mut lines: Vec<&str> = inner
        .lines()
        .enumerate()
        .map(|(number, line)| if number == 0 { line.trim_start() } else { line.get(indent..).unwrap_or("") })
        .map(str::trim_end)
        .collect();
    while lines.last().is_some_and(|line| line.is_empty()) {
        lines.pop();
    }
    let is_cut = lines.len() > MOST_LINES;
    lines.truncate(MOST_LINES);
    let mut text: String = lines.iter().map(|line| format!("{}  \n", markdown::text(line))).collect();
    if is_cut {
        text.push('…');
    }
    let text = text.trim_end().to_owned();
    (!text.is_empty()).then_some(text)
}

/// The function that a name of a scope is a parameter of, with its 0-based place.
fn parameter(
    snapshot: &Snapshot,
    file: File,
    scope: leitmotiv_index::tree::ScopeId,
    name: leitmotiv_syntax::names::Name,
) -> Option<(FunctionId, usize)> {
    let index = module_index(&snapshot.session.db, file);
    let leitmotiv_index::tree::ScopeKind::Function(function) = index.scopes[scope].kind else { return None };
    let place = index.functions[function].params.iter().position(|param| param.name == name)?;
    Some((function, place))
}

/// So many types are told of one parameter.
const MOST_TYPES: usize = 4;

/// What the project's calls pass to parameters without annotations, and what recorded runs passed.
fn slots(snapshot: &Snapshot, file: File, function: FunctionId, only: Option<usize>, out: &mut String) {
    let db = &snapshot.session.db;
    if !file.origin(db).is_own() {
        return;
    }
    let index = module_index(db, file);
    let record = &index.functions[function];
    let is_open = |place: usize| {
        let is_bound = place == 0 && record.class.is_some();
        only.is_none_or(|only| only == place) && record.params[place].annotation.is_none() && !is_bound
    };
    let open: Vec<usize> = (0..record.params.len()).filter(|place| is_open(*place)).collect();
    if open.is_empty() {
        return;
    }
    let passed = passed::to(db, file, function);
    let recorded = recorded(snapshot, file, function);
    for place in open {
        let name = db.names().text(record.params[place].name);
        let mut types: BTreeMap<String, Vec<(File, TextRange)>> = BTreeMap::new();
        for (caller, one) in passed.iter().filter(|(_, one)| one.to.place as usize == place) {
            types.entry(show(db, one.ty)).or_default().push((*caller, one.range));
        }
        let mut types: Vec<(String, Vec<(File, TextRange)>)> = types.into_iter().collect();
        types.sort_by_key(|(ty, places)| (ty == "unknown", std::cmp::Reverse(places.len())));
        let told: Vec<String> = types
            .iter()
            .take(MOST_TYPES)
            .map(|(ty, places)| {
                let (caller, range) = places[0];
                let more = match places.len() {
                    1 => String::new(),
                    many => format!(" and {} more", many - 1),
                };
                format!("`{ty}` ({}{more})", markdown::place(snapshot, caller, range))
            })
            .collect();
        if !told.is_empty() {
            let _ = write!(out, "\n\ncalls pass to `{name}`: {}", told.join(", "));
        }
        let seen = recorded.as_ref().map(|function| Records::passed(function, place)).unwrap_or_default();
        if !seen.is_empty() {
            let seen: Vec<String> = seen.iter().take(MOST_TYPES).map(|one: &Seen| format!("`{one}`")).collect();
            let _ = write!(out, "\n\nrecorded runs passed to `{name}`: {}", seen.join(", "));
        }
    }
}

/// What was recorded of a function, as it is now.
fn recorded(snapshot: &Snapshot, file: File, function: FunctionId) -> Option<leitmotiv_trace::records::Function> {
    let db = &snapshot.session.db;
    let records = snapshot.records()?;
    let dotted = leitmotiv_engine::definitions::functions::qualified(db, file, Some(function));
    let path = file.path(db);
    let found = records.functions.iter().find(|one| one.path == path && one.is_current && one.dotted() == dotted);
    found.cloned()
}
