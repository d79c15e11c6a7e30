//! What can be done about what stands at a place.

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_migrate::annotate::hints;
use leitmotiv_migrate::import;
use leitmotiv_migrate::session::{Asked, Reported};
use leitmotiv_migrate::ways::Ways;
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::{TextRange, TextSize};
use lsp_types::{
    CodeAction, CodeActionKind, CodeActionOrCommand, CodeActionParams, CodeActionResponse, Command, Diagnostic,
    WorkspaceEdit,
};
use serde_json::json;

use super::{Answer, commands};
use crate::diagnostics;
use crate::snapshot::Snapshot;

/// So many modules are offered from which a name could be imported.
const MOST_IMPORTS: usize = 8;

/// `textDocument/codeAction`
///
/// # Errors
/// None.
pub fn actions(snapshot: &Snapshot, file: File, params: CodeActionParams) -> Answer<Option<CodeActionResponse>> {
    let db = &snapshot.session.db;
    let stretch = snapshot.text(file).bytes(params.range);
    let mut all: Vec<CodeAction> = Vec::new();
    if snapshot.files.contains(&file) {
        let report = snapshot.session.report(vec![file], &Asked::default());
        let mut ways = Ways::new(db, report.findings.iter().map(|reported| &reported.finding));
        let here = report.findings.iter().filter(|one| touches(one.finding.range, stretch));
        for reported in here {
            of_finding(snapshot, file, reported, &mut ways, params.text_document.uri.as_str(), &mut all);
        }
        unwritten(snapshot, file, stretch, params.text_document.uri.as_str(), &mut all);
    }
    let is_wanted = |action: &CodeAction| {
        let Some(only) = &params.context.only else { return true };
        let kind = action.kind.as_ref().map_or("", CodeActionKind::as_str);
        only.iter().any(|wanted| {
            let wanted = wanted.as_str();
            wanted.is_empty() || kind == wanted || kind.strip_prefix(wanted).is_some_and(|rest| rest.starts_with('.'))
        })
    };
    all.retain(is_wanted);
    let actions = all.into_iter().filter_map(|action| match snapshot.client.has_action_literals {
        true => Some(CodeActionOrCommand::CodeAction(action)),
        // Clients that know commands only are offered those.
        false => action.command.map(CodeActionOrCommand::Command),
    });
    Ok(Some(actions.collect()))
}

fn touches(one: TextRange, other: TextRange) -> bool {
    one.intersect(other).is_some()
}

fn quick(title: String, edit: Option<WorkspaceEdit>, diagnostic: &Diagnostic) -> CodeAction {
    CodeAction {
        title,
        kind: Some(CodeActionKind::QUICKFIX),
        diagnostics: Some(vec![diagnostic.clone()]),
        edit,
        ..CodeAction::default()
    }
}

fn of_finding(
    snapshot: &Snapshot,
    file: File,
    reported: &Reported,
    ways: &mut Ways<'_>,
    uri: &str,
    all: &mut Vec<CodeAction>,
) {
    let db = &snapshot.session.db;
    let finding = &reported.finding;
    let diagnostic = diagnostics::one(snapshot, reported);
    let mut is_first = true;
    for way in ways.of(finding) {
        let Some(edits) = way.written(db).filter(|edits| !edits.is_empty()) else { continue };
        let Some(edit) = snapshot.change(&edits) else { continue };
        let safe = way.safe;
        let action = quick(capital(&way.title), Some(edit), &diagnostic);
        all.push(CodeAction { is_preferred: Some(is_first && safe), ..action });
        is_first = false;
    }
    if finding.rule == "name.undefined" {
        imports(snapshot, file, finding.range, &diagnostic, all);
    }
    if matches!(finding.rule, "import.untyped" | "import.unresolved") {
        let module = finding.package.clone().or_else(|| module_at(snapshot, file, finding.range));
        if let Some(module) = module.filter(|_| finding.rule == "import.untyped") {
            let title = format!("Write a stub for `{module}`");
            let arguments = vec![json!({"uri": uri, "module": module})];
            let command =
                Command { title: title.clone(), command: commands::STUB.to_owned(), arguments: Some(arguments) };
            all.push(CodeAction { command: Some(command), ..quick(title, None, &diagnostic) });
        }
    }
    if !matches!(finding.rule, "syntax.error" | "engine.fault" | "config.ledger")
        && let Some(edit) = suppression(snapshot, file, finding.range, finding.rule)
    {
        let title = format!("Hide `{}` here, and say why", finding.rule);
        all.push(quick(title, snapshot.change(&[(file, edit)]), &diagnostic));
    }
    let title = format!("Explain: {}", finding.rule);
    let position = diagnostic.range.start;
    let arguments = vec![json!({"uri": uri, "position": position, "rule": finding.rule})];
    let command = Command { title: title.clone(), command: commands::EXPLAIN.to_owned(), arguments: Some(arguments) };
    all.push(CodeAction { command: Some(command), ..quick(title, None, &diagnostic) });
}

/// A sentence that begins like the other entries of a menu.
fn capital(words: &str) -> String {
    let mut chars = words.chars();
    chars.next().map(|first| first.to_uppercase().chain(chars).collect()).unwrap_or_default()
}

fn module_at(snapshot: &Snapshot, file: File, range: TextRange) -> Option<String> {
    let text = file.text(&snapshot.session.db).get(usize::from(range.start())..usize::from(range.end()))?;
    let is_dotted = text.chars().all(|char| char.is_alphanumeric() || matches!(char, '_' | '.'));
    (is_dotted && !text.is_empty()).then(|| text.to_owned())
}

/// The comment that hides a finding: behind its line, or where there is a comment already, or the line's end is no place for one, above it.
fn suppression(snapshot: &Snapshot, file: File, range: TextRange, rule: &str) -> Option<Edit> {
    let db = &snapshot.session.db;
    let text = file.text(db);
    let index = module_index(db, file);
    let lines = &index.lines.0;
    let comment = format!("# leitmotiv: allow({rule}) say why");
    let number = lines.index_of(range.start());
    let line = lines.line_range(text, number)?;
    let is_in_text = index.spans_iter().any(|(expr, span)| {
        matches!(index.exprs[expr], leitmotiv_index::tree::Expr::Str(_) | leitmotiv_index::tree::Expr::FString(_))
            && span.start() < line.end()
            && line.end() < span.end()
    });
    let code = &text[line];
    if !code.contains('#') && !is_in_text && !code.trim_end().ends_with('\\') {
        return Some(Edit::insert(line.start() + TextSize::of(code.trim_end()), format!("  {comment}")));
    }
    // What is above a line of a longer statement would be within it.
    let is_inner = index.bodies.iter().any(|(_, body)| {
        body.statements.iter().any(|one| one.range.start() < line.start() && line.start() < one.range.end())
    });
    if is_inner {
        return None;
    }
    let indent = &code[..code.len() - code.trim_start().len()];
    Some(Edit::insert(line.start(), format!("{indent}{comment}{}", line_end(text))))
}

/// Imports that would bind a name.
fn imports(snapshot: &Snapshot, file: File, range: TextRange, diagnostic: &Diagnostic, all: &mut Vec<CodeAction>) {
    let db = &snapshot.session.db;
    let Some(name) = file.text(db).get(usize::from(range.start())..usize::from(range.end())) else { return };
    let wanted = db.names().intern(name);
    let own = project_files(db).iter().filter(|other| **other != file).filter(|other| {
        let outline = leitmotiv_engine::outline::names::module_name(db, **other, wanted);
        outline.is_bound && !outline.is_imported
    });
    let mut modules: Vec<(String, Option<&str>)> =
        own.map(|other| (db.names().text(other.module(db)).to_owned(), Some(name))).collect();
    for standard in
        ["typing", "collections.abc", "dataclasses", "pathlib", "datetime", "enum", "decimal", "collections"]
    {
        let module = leitmotiv_engine::resolve::standard_module(db, db.names().intern(standard));
        let has = module.is_some_and(|module| {
            let outline = leitmotiv_engine::outline::names::module_name(db, module, wanted);
            outline.is_bound && !outline.is_imported
        });
        if has {
            modules.push((standard.to_owned(), Some(name)));
        }
    }
    if db.is_standard_name(name) {
        modules.push((name.to_owned(), None));
    }
    for (module, name) in modules.into_iter().take(MOST_IMPORTS) {
        let Some(edits) = import::edits(db, file, &module, name, range.start()) else { continue };
        let title = match name {
            Some(name) => format!("Import `{name}` from `{module}`"),
            None => format!("Import `{module}`"),
        };
        let edits: Vec<(File, Edit)> = edits.into_iter().map(|edit| (file, edit)).collect();
        all.push(quick(title, snapshot.change(&edits), diagnostic));
    }
}

/// What nobody wrote here: single annotations at once, and those of the function or the file with all evidence weighed.
fn unwritten(snapshot: &Snapshot, file: File, stretch: TextRange, uri: &str, all: &mut Vec<CodeAction>) {
    let db = &snapshot.session.db;
    let index = module_index(db, file);
    let lines = &index.lines.0;
    let line = |at: TextSize| lines.line_range(file.text(db), lines.index_of(at));
    let Some((first, last)) = line(stretch.start()).zip(line(stretch.end())) else { return };
    let around = TextRange::new(first.start(), last.end());
    for hint in hints::hints(db, file, around) {
        if hint.edits.is_empty() || !around.contains_inclusive(hint.at) {
            continue;
        }
        let before = &file.text(db)[TextRange::new(around.start(), hint.at)];
        let name = before.rsplit(|char: char| !(char.is_alphanumeric() || char == '_')).find(|part| !part.is_empty());
        let edits: Vec<(File, Edit)> = hint.edits.iter().map(|edit| (file, edit.clone())).collect();
        let title = match hint.kind {
            hints::HintKind::Return => format!("Write `{}`", hint.text.trim()),
            _ => format!("Write `{}{}`", name.unwrap_or_default(), hint.text),
        };
        all.push(CodeAction {
            title,
            kind: Some(CodeActionKind::REFACTOR_REWRITE),
            edit: snapshot.change(&edits),
            ..CodeAction::default()
        });
    }
    let is_open = |function: &leitmotiv_index::tree::Function| {
        function.returns.is_none()
            || function
                .params
                .iter()
                .skip(usize::from(function.class.is_some()))
                .any(|param| param.annotation.is_none())
    };
    let annotate = |title: String, kind: CodeActionKind, function: Option<String>| {
        let arguments = vec![json!({"uri": uri, "function": function})];
        let command =
            Command { title: title.clone(), command: commands::ANNOTATE.to_owned(), arguments: Some(arguments) };
        CodeAction { title, kind: Some(kind), command: Some(command), ..CodeAction::default() }
    };
    if let Some(function) = index.functions_around.of(stretch.start()).next()
        && is_open(&index.functions[function])
    {
        let name = functions::qualified(db, file, Some(function));
        let own = db.names().text(index.functions[function].name);
        all.push(annotate(format!("Annotate `{own}` from all evidence"), CodeActionKind::REFACTOR_REWRITE, Some(name)));
    }
    if index.functions.iter().any(|(_, function)| is_open(function)) {
        all.push(annotate("Annotate this file from all evidence".to_owned(), CodeActionKind::SOURCE, None));
    }
}
