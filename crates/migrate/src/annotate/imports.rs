//! The imports that written annotations need.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write as _;

use leitmotiv_index::tree::{DefKind, ModuleIndex, ScopeId};
use leitmotiv_syntax::ast::{self, Stmt};
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{Ranged, TextSize, parse};

type Names<'a> = BTreeMap<&'a str, BTreeSet<&'a str>>;

/// What must be imported for something that is written into a file.
pub(crate) struct Needed<'a> {
    /// The imports: module, name.
    pub(crate) imports: &'a BTreeSet<(String, String)>,
    /// Those among them that may stand where only a type checker reads.
    pub(crate) guarded: &'a BTreeSet<(String, String)>,
    /// Where they must be bound at the latest.
    pub(crate) before: TextSize,
    /// Statements that make what is named, behind the imports.
    pub(crate) statements: &'a [String],
}

/// The edits that import what is needed in one file: before the first import, or, where an import could run code
/// or meet a module half imported, in a block that only a type checker reads. `None` where there is no place for them before
/// it is needed.
pub(crate) fn edits<'a>(
    text: &str,
    index: &ModuleIndex,
    needed: impl Iterator<Item = Needed<'a>>,
    is_standard: &dyn Fn(&str) -> bool,
) -> Option<Vec<Edit>> {
    let mut plain = Names::new();
    let mut guarded = Names::new();
    let mut statements: Vec<&str> = Vec::new();
    let mut before = None;
    for needed in needed {
        let earliest = |before: TextSize| before.min(needed.before);
        let new: Vec<&str> =
            needed.statements.iter().map(String::as_str).filter(|one| !statements.contains(one)).collect();
        if !needed.statements.is_empty() || !needed.imports.is_empty() {
            before = Some(before.map_or(needed.before, earliest));
        }
        statements.extend(new);
        for import in needed.imports {
            let list = if needed.guarded.contains(import) { &mut guarded } else { &mut plain };
            list.entry(import.0.as_str()).or_default().insert(import.1.as_str());
        }
    }
    let Some(before) = before else { return Some(Vec::new()) };
    let module = Module { text, body: parse::parse(text).body, end: line_end(text) };
    let end = module.end;
    let mut made: String = statements.iter().map(|statement| format!("{statement}{end}")).collect();
    let mut edits = Vec::new();
    if guarded.is_empty() || checking_name(index).is_some() || module.checked_block(index).is_some() {
        plain.retain(|from, names| !module.extended(from, names, before, &mut edits));
    }
    let mut block = String::new();
    let mut block_at = None;
    let mut binds = false;
    if !guarded.is_empty() {
        match module.checked_block(index) {
            Some((at, indent)) => edits.push(Edit::insert(at, module.lines(&guarded, &indent))),
            None => {
                let bound = checking_name(index);
                binds = bound.is_none();
                if binds {
                    plain.entry("typing").or_default().insert("TYPE_CHECKING");
                }
                block = format!("if TYPE_CHECKING:{}{}", module.end, module.lines(&guarded, "    "));
                // Behind the first imports, and behind what binds the name that it asks for.
                block_at = module.behind_imports(bound.unwrap_or_default());
                bound.is_none_or(|_| block_at.is_some()).then_some(())?;
            }
        }
    }
    if !plain.is_empty() || (block_at.is_none() && !block.is_empty()) {
        let first = plain.keys().next().copied().unwrap_or_default();
        let place =
            module.sorted_place(first, before, is_standard).or_else(|| module.first_place(before, is_standard))?;
        // The block asks for the name that the lines bind: it may stand with them, and not before.
        if binds && block_at.is_some_and(|at| at < place.at) {
            block_at = None;
        }
        let mut lines = module.lines(&plain, "");
        if block_at.is_none() && !block.is_empty() {
            lines = format!("{lines}{end}{block}");
        }
        if !made.is_empty() && module.behind_imports(TextSize::default()).is_none() {
            lines = format!("{lines}{end}{made}");
            made.clear();
        }
        let gap = |is_wanted: bool| if is_wanted { end } else { "" };
        edits.push(Edit::insert(place.at, format!("{}{lines}{}", gap(place.gap_before), gap(place.gap_behind))));
    }
    // Behind the plain ones, where both stand in one place: they bind the name that the block asks for.
    if let Some(at) = block_at {
        edits.push(Edit::insert(at, format!("{end}{block}")));
    }
    if !made.is_empty() {
        let at = module.behind_imports(module.end_of_typing()).filter(|at| *at <= before)?;
        edits.push(Edit::insert(at, format!("{end}{made}")));
    }
    Some(edits)
}

/// Where `TYPE_CHECKING` is bound in the module; the end of the first place.
fn checking_name(index: &ModuleIndex) -> Option<TextSize> {
    let symbol = index.scopes[ScopeId(0)].symbols.get(&known::TYPE_CHECKING)?;
    let def = symbol.defs.first()?;
    matches!(index.defs[*def].kind, DefKind::ImportFrom { .. } | DefKind::Assign { .. } | DefKind::Annotated { .. })
        .then(|| index.defs[*def].range.end())
}

struct Module<'a> {
    text: &'a str,
    body: Vec<Stmt>,
    end: &'static str,
}

/// A place for lines.
struct Place {
    at: TextSize,
    gap_before: bool,
    gap_behind: bool,
}

impl Module<'_> {
    fn lines(&self, names: &Names, indent: &str) -> String {
        let mut lines = String::new();
        for (module, names) in names {
            let mut names: Vec<&str> = names.iter().copied().collect();
            names.sort_by_key(|name| in_order(name));
            // Writing to a string cannot fail.
            let _ = write!(lines, "{indent}from {module} import {}{}", names.join(", "), self.end);
        }
        lines
    }

    /// The start of the first line in a block `if TYPE_CHECKING:` at the module's own level, with its indentation.
    fn checked_block(&self, index: &ModuleIndex) -> Option<(TextSize, String)> {
        self.body.iter().find_map(|stmt| {
            let Stmt::If(block) = stmt else { return None };
            let first = block.body.first()?;
            if !is_checking(&block.test) || !index.checking_only.iter().any(|body| body.contains(first.start())) {
                return None;
            }
            let at = self.line_start(first.start())?;
            let indent = &self.text[usize::from(at)..usize::from(first.start())];
            (!indent.is_empty()).then(|| (at, indent.to_owned()))
        })
    }

    /// Where lines go behind the first run of imports, if there is one before anything else is done; not before `least`.
    fn behind_imports(&self, least: TextSize) -> Option<TextSize> {
        let is_import = |stmt: &Stmt| matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_));
        let first = self.body.iter().position(is_import)?;
        let run = self.body[first..].iter().take_while(|stmt| is_import(stmt)).count();
        let last = self.body[first..first + run].last()?;
        if last.end() < least {
            // It is bound later: right behind that.
            let stmt = self.body.iter().find(|stmt| stmt.range().contains(least) || stmt.end() == least)?;
            return self.behind(stmt);
        }
        self.behind(last)
    }

    /// Where the last import ends of what type variables are made of.
    fn end_of_typing(&self) -> TextSize {
        let makes = |alias: &ast::Alias| matches!(alias.name.as_str(), "TypeVar" | "ParamSpec" | "Callable" | "Any");
        let found = self.body.iter().filter_map(|stmt| match stmt {
            Stmt::ImportFrom(import) if import.names.iter().any(makes) => Some(stmt.end()),
            _ => None,
        });
        found.max().unwrap_or_default()
    }

    /// Adds names to the import from a module that is there, if one is.
    fn extended(&self, from: &str, names: &BTreeSet<&str>, before: TextSize, edits: &mut Vec<Edit>) -> bool {
        let found = self.body.iter().find_map(|stmt| match stmt {
            Stmt::ImportFrom(import) if import.level == 0 && stmt.end() <= before => {
                import.module.as_ref().is_some_and(|module| module == from).then_some(import)
            }
            _ => None,
        });
        let Some(import) = found.filter(|import| import.names.iter().all(|alias| alias.name.as_str() != "*")) else {
            return false;
        };
        for name in names {
            let behind = import.names.iter().find(|alias| in_order(&alias.name) > in_order(name));
            match behind {
                Some(alias) => edits.push(Edit::insert(alias.start(), format!("{name}, "))),
                None => {
                    let last = import.names.last().map_or(import.end(), Ranged::end);
                    edits.push(Edit::insert(last, format!(", {name}")));
                }
            }
        }
        true
    }

    /// Where an import of the standard library goes among others of it, as they are sorted: behind `import a`, and by the modules' names among
    /// `from a import b`. `None` where the first block of imports is not of the library, or something else stands on its lines.
    fn sorted_place(&self, module: &str, before: TextSize, is_standard: &dyn Fn(&str) -> bool) -> Option<Place> {
        let is_import = |stmt: &&Stmt| matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_));
        let is_future = |stmt: &Stmt| matches!(stmt, Stmt::ImportFrom(import) if import.module.as_ref().is_some_and(|module| module == "__future__"));
        let first = self.body.iter().position(|stmt| is_import(&stmt) && !is_future(stmt))?;
        let mut at = None;
        let mut last: Option<&Stmt> = None;
        for stmt in self.body[first..].iter().take_while(is_import) {
            // An empty line ends the block.
            let gap = last.map_or("", |last| &self.text[usize::from(last.end())..usize::from(stmt.start())]);
            if gap.matches('\n').count() > 1 || stmt.end() > before {
                break;
            }
            let top = |name: &str| name.split('.').next().is_some_and(is_standard);
            let goes_before = match stmt {
                Stmt::Import(import) if import.names.iter().all(|alias| top(&alias.name)) => true,
                Stmt::ImportFrom(import) if import.level == 0 => {
                    let from = import.module.as_ref().map_or("", |module| module.as_str());
                    if !top(from) {
                        return None;
                    }
                    from < module
                }
                _ => return None,
            };
            if goes_before {
                at = Some(self.behind(stmt)?);
            } else if at.is_none() {
                at = Some(self.line_start(stmt.start())?);
            }
            last = Some(stmt);
        }
        at.map(|at| Place { at, gap_before: false, gap_behind: false })
    }

    /// Where plain imports go: before the first import that is not from `__future__` if that comes early enough, else behind
    /// docstring and `__future__`, else behind the comments at the head.
    fn first_place(&self, before: TextSize, is_standard: &dyn Fn(&str) -> bool) -> Option<Place> {
        let is_future = |stmt: &Stmt| {
            matches!(stmt, Stmt::ImportFrom(import)
                if import.module.as_ref().is_some_and(|module| module.as_str() == "__future__"))
        };
        let is_docstring = |stmt: &Stmt| matches!(stmt, Stmt::Expr(expr) if expr.value.is_string_literal_expr());
        let head = usize::from(self.body.first().is_some_and(is_docstring));
        let head = head + self.body[head..].iter().take_while(|stmt| is_future(stmt)).count();
        let import = self.body[head..].iter().find(|stmt| matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_)));
        if let Some(import) = import.filter(|stmt| stmt.start() < before)
            && let Some(at) = self.line_start(import.start())
        {
            // Imports of the library stand apart from others (PEP 8).
            let from = match import {
                Stmt::Import(import) => import.names.first().map_or("", |alias| alias.name.as_str()),
                Stmt::ImportFrom(import) if import.level == 0 => {
                    import.module.as_ref().map_or("", |from| from.as_str())
                }
                _ => "",
            };
            let gap_behind = !from.split('.').next().is_some_and(is_standard);
            return Some(Place { at, gap_before: false, gap_behind });
        }
        if let Some(last) = head.checked_sub(1) {
            if let Some(at) = self.behind(&self.body[last]) {
                return Some(Place { at, gap_before: true, gap_behind: false });
            }
            // Something else stands on the line: before the first statement that has one of its own.
            let next = self.body[head..].iter().filter(|stmt| stmt.start() <= before);
            let at = next.filter_map(|stmt| self.line_start(stmt.start())).next()?;
            return Some(Place { at, gap_before: false, gap_behind: true });
        }
        Some(Place { at: self.behind_comments(), gap_before: false, gap_behind: true })
    }

    /// Behind the byte-order mark, and behind the comments at the head that speak of the file: the first two lines may name an
    /// interpreter and an encoding, and a block of comments that is set apart says what the file is.
    fn behind_comments(&self) -> TextSize {
        let mut at = if self.text.starts_with('\u{feff}') { '\u{feff}'.len_utf8() } else { 0 };
        let mut kept = at;
        let mut number = 0;
        loop {
            let rest = &self.text[at..];
            let end =
                rest.find(['\n', '\r']).map(|end| if rest[end..].starts_with("\r\n") { end + 2 } else { end + 1 });
            let Some(end) = end else { break };
            let line = rest[..end].trim();
            if line.is_empty() {
                kept = at;
                break;
            }
            if !line.starts_with('#') {
                break;
            }
            at += end;
            if number < 2 && (line.starts_with("#!") || line.contains("coding")) {
                kept = at;
            }
            number += 1;
        }
        size(kept)
    }

    /// The start of the line that a statement begins on, if it is the first on its line and no other goes on there.
    fn line_start(&self, start: TextSize) -> Option<TextSize> {
        let before = &self.text[..usize::from(start)];
        let line = before.rfind(['\n', '\r']).map_or(0, |end| end + 1);
        let own = before[line..].trim_start_matches('\u{feff}');
        let above = before[..line].trim_end_matches(['\n', '\r']);
        let line = if before[line..].starts_with('\u{feff}') { line + '\u{feff}'.len_utf8() } else { line };
        let is_inside = || {
            self.body.iter().any(|stmt| stmt.start() < size(line) && size(line) < stmt.end() && stmt.start() == start)
        };
        (own.trim_matches([' ', '\t', '\x0c']).is_empty() && !above.ends_with('\\') && !is_inside()).then(|| size(line))
    }

    /// The start of the line behind a statement, if nothing else stands on its last line but a comment.
    fn behind(&self, stmt: &Stmt) -> Option<TextSize> {
        let end = usize::from(stmt.end());
        let rest = &self.text[end..];
        let line = rest.find(['\n', '\r'])?;
        let line = if rest[line..].starts_with("\r\n") { line + 2 } else { line + 1 };
        let same = rest[..line].trim();
        let next = self.body.iter().find(|other| other.start() >= stmt.end());
        let is_free = next.is_none_or(|next| usize::from(next.start()) >= end + line);
        (is_free && (same.is_empty() || same == ";" || same.starts_with('#'))).then(|| size(end + line))
    }
}

/// What names in an import are sorted by: constants, as PEP 8 tells them apart, come first.
fn in_order(name: &str) -> (bool, &str) {
    (name.chars().any(|one| one.is_ascii_lowercase()), name)
}

fn is_checking(test: &ast::Expr) -> bool {
    match test {
        ast::Expr::Name(name) => name.id.as_str() == "TYPE_CHECKING",
        ast::Expr::Attribute(attribute) => attribute.attr.as_str() == "TYPE_CHECKING",
        _ => false,
    }
}

fn size(at: usize) -> TextSize {
    TextSize::try_from(at).unwrap_or_default()
}
