//! Stubs from source: names and classes here, functions and imports in files of their own.

mod functions;
mod imports;

use std::collections::BTreeSet;
use std::fmt::Write as _;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{instance_of, scope_type};
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{ArgKind, ClassForm, ClassId, DefId, DefKind, Expr, ExprId, ModuleIndex, ScopeId};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{Ranged, TextRange, ast, parse};

use super::text::words;
use crate::spell::{Style, spell};

/// The stub of a module, from its source.
#[must_use]
pub fn from_source(db: &Database, file: File) -> String {
    let index = module_index(db, file);
    let mut writer = Writer { db, file, index, imports: BTreeSet::new(), body: String::new(), scope: ScopeId(0) };
    writer.module();
    writer.finish()
}

struct Writer<'a> {
    db: &'a Database,
    file: File,
    index: &'a ModuleIndex,
    imports: BTreeSet<(String, String)>,
    body: String,
    /// The scope that annotations stand in.
    scope: ScopeId,
}

impl Writer<'_> {
    fn module(&mut self) {
        let exported = self.index.exported.clone();
        let mut for_checkers = String::new();
        // The classes and types that are not for others; what is written may name them.
        let mut open: Vec<(Name, DefId)> = Vec::new();
        for (name, def) in self.names(ScopeId(0)) {
            let public = match &exported {
                Some(all) => all.contains(&name),
                None => !self.db.names().text(name).starts_with('_'),
            };
            let is_for_checkers = self.is_for_checkers(def);
            if is_for_checkers && self.is_import(def) {
                continue;
            }
            if is_for_checkers {
                // What is there only for checkers is no name of the running module.
                let before = std::mem::take(&mut self.body);
                self.item(name, def, 1, false);
                for_checkers.push_str(&std::mem::replace(&mut self.body, before));
            } else if public {
                self.item(name, def, 0, exported.is_some());
            } else if !self.is_import(def) {
                let ty = scope_type(self.db, self.file, ScopeId(0), name);
                if matches!(ty, Type::Class(_) | Type::Var(_) | Type::Form(_)) {
                    open.push((name, def));
                }
            }
        }
        self.needed(open);
        if !for_checkers.is_empty() {
            self.imports.insert(("typing".into(), "TYPE_CHECKING".into()));
            let _ = write!(self.body, "\nif TYPE_CHECKING:\n{for_checkers}");
        }
        let bound = &self.index.scopes[ScopeId(0)].symbols;
        if exported.as_ref().is_none_or(|all| all.iter().any(|name| !bound.contains_key(name))) {
            for star in &self.index.scopes[ScopeId(0)].stars {
                if let DefKind::Star { module, level } = self.index.defs[*star].kind {
                    let dots = ".".repeat(level as usize);
                    let _ = writeln!(self.body, "from {dots}{} import *", self.db.names().text(module));
                }
            }
        }
        if let Some(all) = exported {
            let all: Vec<String> = all.iter().map(|name| format!("\"{}\"", self.db.names().text(*name))).collect();
            let _ = writeln!(self.body, "\n__all__ = [{}]", all.join(", "));
        }
    }

    /// Writes those of some names that what is written names, and that these name in turn.
    fn needed(&mut self, mut open: Vec<(Name, DefId)>) {
        loop {
            let body = self.body.clone();
            let used: BTreeSet<&str> = words(&body).collect();
            let (now, later): (Vec<_>, Vec<_>) =
                open.into_iter().partition(|(name, _)| used.contains(self.db.names().text(*name)));
            open = later;
            if now.is_empty() {
                return;
            }
            for (name, def) in now {
                self.item(name, def, 0, false);
            }
        }
    }

    fn is_for_checkers(&self, def: DefId) -> bool {
        let range = self.index.defs[def].range;
        self.index.checking_only.iter().any(|body| body.contains_range(range))
    }

    fn is_import(&self, def: DefId) -> bool {
        matches!(self.index.defs[def].kind, DefKind::Import { .. } | DefKind::ImportFrom { .. })
    }

    /// A scope's names with the definition that counts, in the order of the text: the last one that is reached when the module
    /// is imported, and of those that make something rather than import it, if there are any.
    fn names(&self, scope: ScopeId) -> Vec<(Name, DefId)> {
        let left = if scope == ScopeId(0) { Left::of(self.file.text(self.db)) } else { Left::default() };
        let counts = |def: &DefId| {
            let def = &self.index.defs[*def];
            !def.reach.is_never() && !left.when_run.iter().any(|range| range.contains_range(def.range))
        };
        let mut names: Vec<(Name, DefId)> = self.index.scopes[scope]
            .symbols
            .iter()
            .filter(|(name, _)| !left.deleted.contains(self.db.names().text(**name)))
            .filter_map(|(name, symbol)| {
                let live: Vec<DefId> = symbol.defs.iter().copied().filter(counts).collect();
                let made = live.iter().rev().find(|def| !self.is_import(**def) && !self.is_for_checkers(**def));
                made.or_else(|| live.iter().rev().find(|def| !self.is_for_checkers(**def)))
                    .or(live.last())
                    .map(|def| (*name, *def))
            })
            .collect();
        names.sort_by_key(|(_, def)| *def);
        names
    }

    fn item(&mut self, name: Name, def: DefId, depth: usize, exported: bool) {
        let indent = "    ".repeat(depth);
        let text = self.db.names().text(name).to_owned();
        match &self.index.defs[def].kind {
            DefKind::Function(function) => self.function(*function, depth),
            DefKind::Class(class) => self.class(*class, depth),
            DefKind::ImportFrom { module, level, name: imported, .. } => {
                // Imported names belong to a stub only where they are exported (typing specification, "Stub files"); what
                // a package's `__init__` takes from its own modules is there to be given on.
                if exported || (*level > 0 && self.file.is_package(self.db)) {
                    let dots = ".".repeat(*level as usize);
                    let module = self.db.names().text(*module);
                    let imported = self.db.names().text(*imported);
                    let _ = writeln!(self.body, "{indent}from {dots}{module} import {imported} as {text}");
                }
            }
            DefKind::Import { module, .. } => {
                if exported {
                    let _ = writeln!(self.body, "{indent}import {}", self.db.names().text(*module));
                }
            }
            _ => {
                let ty = scope_type(self.db, self.file, ScopeId(0), name);
                match (ty, &self.index.defs[def].kind) {
                    // A type variable, or another name for a type or a class: as it is written.
                    (
                        Type::Var(_) | Type::Form(_) | Type::Class(_) | Type::Special(_) | Type::Function(_),
                        DefKind::Assign { value, unpack: None, .. } | DefKind::Annotated { value: Some(value), .. },
                    ) => self.as_written(&text, *value, ty, &indent),
                    (_, DefKind::Annotated { annotation, .. }) => {
                        self.annotated(&text, *annotation, ty, &indent, "");
                    }
                    _ => self.variable(&text, ty, &indent, ""),
                }
            }
        }
    }

    fn annotated(&mut self, name: &str, annotation: ExprId, ty: Type, indent: &str, value: &str) {
        let written = match self.annotation(annotation) {
            // A stub has no value to take the type from.
            Some(written) if written == "Final" || written.ends_with(".Final") => match self.spell(ty) {
                Some(ty) => format!("{written}[{ty}]"),
                None => written + " = ...",
            },
            Some(written) => written,
            None => self.unknown(),
        };
        let _ = writeln!(self.body, "{indent}{name}: {written}{value}");
    }

    /// An annotation as it is written, out of its quotes: a stub has no need of them (typing specification, "Stub files").
    /// `None` where a name of the class that it stands in would hide what it names.
    fn annotation(&mut self, annotation: ExprId) -> Option<String> {
        let written = self.written(self.index.spans[annotation]);
        let quoted = ["\"", "'"].iter().find_map(|quote| written.strip_prefix(quote)?.strip_suffix(quote));
        let text = match quoted {
            Some(inner) if !inner.contains(['"', '\'']) => inner.to_owned(),
            _ => written,
        };
        let own = &self.index.scopes[self.scope].symbols;
        let is_hidden = |word: &str| self.db.names().find(word).is_some_and(|word| own.contains_key(&word));
        if self.scope != ScopeId(0) && words(&text).any(is_hidden) {
            return None;
        }
        words(&text).for_each(|word| self.name_import(word));
        Some(text)
    }

    /// `Name = expression`, where all that the expression names will be there in the stub.
    fn as_written(&mut self, name: &str, value: ExprId, ty: Type, indent: &str) {
        let written = self.written(self.index.spans[value]);
        let is_simple = !written.contains(['(', '\n', '"', '\'']) || matches!(ty, Type::Var(_));
        let names: Vec<&str> = words(&written).collect();
        let scope = &self.index.scopes[ScopeId(0)];
        let is_there = |word: &&str| match self.db.names().find(word) {
            Some(word) if scope.symbols.contains_key(&word) => {
                let is_private = self.db.names().text(word).starts_with('_') || self.index.exported.is_some();
                scope.symbols[&word].defs.iter().any(|def| self.is_import(*def)) || !is_private
            }
            _ => true,
        };
        if !is_simple || !names.iter().all(is_there) {
            self.variable(name, ty, indent, "");
            return;
        }
        for word in names {
            self.name_import(word);
        }
        let _ = writeln!(self.body, "{indent}{name} = {written}");
    }

    fn variable(&mut self, name: &str, ty: Type, indent: &str, value: &str) {
        let spelled = self.spell(ty).unwrap_or_else(|| self.unknown());
        let _ = writeln!(self.body, "{indent}{name}: {spelled}{value}");
    }

    /// What cannot be told is said to be so by name, so that it can be found again.
    fn unknown(&mut self) -> String {
        self.imports.insert(("typing".into(), "Any".into()));
        "Any".to_owned()
    }

    fn spell(&mut self, ty: Type) -> Option<String> {
        let spelled = spell(self.db, self.file, ty, Style { scope: self.scope, ..Style::STUB })?;
        // An empty tuple stands for any number of things.
        if spelled.text == "tuple[()]" {
            return None;
        }
        self.imports.extend(spelled.imports);
        // What the source imports is taken from where the source takes it.
        words(&spelled.text).for_each(|word| self.name_import(word));
        Some(spelled.text)
    }

    fn class(&mut self, class: ClassId, depth: usize) {
        let index = self.index;
        let record = &index.classes[class];
        let indent = "    ".repeat(depth);
        if let (ClassForm::NewType, [base]) = (record.form, record.args.as_ref()) {
            self.imports.insert(("typing".into(), "NewType".into()));
            let base = self.written(index.spans[base.value]);
            words(&base).for_each(|word| self.name_import(word));
            let name = self.db.names().text(record.name);
            let _ = writeln!(self.body, "{indent}{name} = NewType(\"{name}\", {base})");
            return;
        }
        let mut bases = Vec::new();
        for arg in &record.args {
            // `namedtuple(…)` has no fields that a stub could list; the class that says the same has.
            if record.form == ClassForm::PlainTuple {
                self.imports.insert(("typing".into(), "NamedTuple".into()));
                bases.push("NamedTuple".to_owned());
                continue;
            }
            let text = self.written(index.spans[arg.value]);
            match arg.kind {
                ArgKind::Positional if text == "object" => continue,
                ArgKind::Star | ArgKind::DoubleStar => continue,
                ArgKind::Positional => bases.push(text.clone()),
                ArgKind::Keyword(name) => bases.push(format!("{}={text}", self.db.names().text(name))),
            }
            words(&text).for_each(|word| self.name_import(word));
        }
        let bases = if bases.is_empty() { String::new() } else { format!("({})", bases.join(", ")) };
        for decorator in &record.decorators {
            if matches!(index.exprs[*decorator], Expr::Name(known::DATACLASS, _))
                || matches!(index.exprs[*decorator], Expr::Call { callee, .. } if matches!(index.exprs[callee], Expr::Name(known::DATACLASS, _)))
            {
                self.imports.insert(("dataclasses".into(), "dataclass".into()));
                let text = self.written(index.spans[*decorator]);
                let _ = writeln!(self.body, "{indent}@{text}");
            }
        }
        let name = self.db.names().text(record.name);
        let _ = write!(self.body, "{indent}class {name}{bases}:");
        let before = self.body.len();
        self.body.push('\n');
        let reference = ClassRef { file: self.file, class };
        let around = std::mem::replace(&mut self.scope, record.scope);
        for name in self.member_names(class) {
            let text = self.db.names().text(name).to_owned();
            let is_dunder = text.starts_with("__") && text.ends_with("__");
            if text.starts_with('_') && !is_dunder || matches!(text.as_str(), "__slots__" | "__doc__" | "__module__") {
                continue;
            }
            let symbol = index.scopes[record.scope]
                .symbols
                .get(&name)
                .and_then(|symbol| symbol.defs.iter().copied().find(|def| !index.defs[*def].reach.is_never()));
            match symbol.map(|def| &index.defs[def].kind) {
                Some(DefKind::Function(function)) => self.function(*function, depth + 1),
                Some(DefKind::Class(inner)) => self.class(*inner, depth + 1),
                _ => {
                    let Some(member) = classes::members::own_member(self.db, self.file, class, name) else { continue };
                    let inner = "    ".repeat(depth + 1);
                    if classes::info(self.db, reference).kind == classes::ClassKind::Enum && symbol.is_some() {
                        let _ = writeln!(self.body, "{inner}{text} = ...");
                    } else {
                        // The constructor asks for fields that have no default.
                        let has_value = takes_fields(self.db, reference) && has_default(index, symbol);
                        let value = if has_value { " = ..." } else { "" };
                        match index.def_at(member.at).map(|def| &index.defs[def].kind) {
                            Some(DefKind::Annotated { annotation, .. }) if record.form == ClassForm::Statement => {
                                self.annotated(&text, *annotation, member.ty, &inner, value);
                            }
                            // A method by another name.
                            Some(DefKind::Assign { value, unpack: None, .. }) if self.is_method_by_name(*value) => {
                                let value = self.written(index.spans[*value]);
                                let _ = writeln!(self.body, "{inner}{text} = {value}");
                            }
                            Some(DefKind::Assign { value, unpack: None, .. }) if self.getter(*value).is_some() => {
                                let given = self.getter(*value).and_then(|ty| self.spell(ty));
                                let arrow = given.map(|given| format!(" -> {given}")).unwrap_or_default();
                                let _ = writeln!(self.body, "{inner}@property\n{inner}def {text}(self){arrow}: ...");
                            }
                            _ => {
                                let ty = self.of_object(reference, name).unwrap_or(member.ty);
                                self.variable(&text, ty, &inner, value);
                            }
                        }
                    }
                }
            }
        }
        self.scope = around;
        if self.body.len() == before + 1 {
            self.body.truncate(before);
            self.body.push_str(" ...\n");
        }
    }

    /// Whether an expression in a class's body is a function that the stub has, by its name, or what makes a static or class method of one.
    fn is_method_by_name(&self, value: ExprId) -> bool {
        let index = self.index;
        let named = match &index.exprs[value] {
            Expr::Call { callee, args } => match (&index.exprs[*callee], args.as_ref()) {
                (Expr::Name(known::STATICMETHOD | known::CLASSMETHOD, _), [only]) => only.value,
                _ => return false,
            },
            _ => value,
        };
        let Expr::Name(name, _) = index.exprs[named] else { return false };
        let is_function = |scope: ScopeId| {
            let symbol = index.scopes[scope].symbols.get(&name)?;
            Some(symbol.defs.iter().any(|def| matches!(index.defs[*def].kind, DefKind::Function(_))))
        };
        let is_private = self.db.names().text(name).starts_with('_');
        !is_private && is_function(self.scope).or_else(|| is_function(ScopeId(0))).unwrap_or(false)
    }

    /// What a property gives that is made of nothing but a function: `property(lambda self: 3)`, `property(berths)`.
    fn getter(&self, value: ExprId) -> Option<Type> {
        let index = self.index;
        let Expr::Call { callee, args } = &index.exprs[value] else { return None };
        let (Expr::Name(known::PROPERTY, _), [only]) = (&index.exprs[*callee], args.as_ref()) else { return None };
        match index.exprs[only.value] {
            Expr::Name(name, _) => {
                let function = [self.scope, ScopeId(0)].into_iter().find_map(|scope| {
                    let symbol = index.scopes[scope].symbols.get(&name)?;
                    symbol.defs.iter().rev().find_map(|def| match index.defs[*def].kind {
                        DefKind::Function(function) => Some(function),
                        _ => None,
                    })
                })?;
                let declared = leitmotiv_engine::definitions::functions::declared(self.db, self.file, function).returns;
                Some(declared.unwrap_or_else(|| {
                    leitmotiv_engine::definitions::functions::return_type(self.db, self.file, function)
                }))
            }
            Expr::Lambda(_) => {
                let body = index.classes.iter().find(|(_, class)| class.scope == self.scope)?.1.body;
                match Infer::new(self.db, self.file, body).expr(only.value) {
                    Type::Callable(id) => Some(self.db.store().signature(id).returns),
                    _ => Some(Type::Any),
                }
            }
            _ => None,
        }
    }

    /// What objects of a class have by a name: descriptors asked.
    fn of_object(&self, class: ClassRef, name: Name) -> Option<Type> {
        let object = instance_of(self.db, class, &[]);
        let body = self.index.classes[class.class].body;
        Infer::new(self.db, self.file, body).instance_member(Type::Instance(object), object, name)
    }

    /// Names of a class's own members: those its methods assign, then those of its body,
    /// each in the order of the text.
    fn member_names(&self, class: ClassId) -> Vec<Name> {
        let record = &self.index.classes[class];
        let own = self.names(record.scope);
        let mut assigned: Vec<(DefId, Name)> = record
            .attributes
            .iter()
            .filter(|(name, _)| !own.iter().any(|(known, _)| known == *name))
            .filter_map(|(name, defs)| defs.first().map(|def| (*def, *name)))
            .collect();
        assigned.sort_by_key(|(def, _)| *def);
        assigned.into_iter().map(|(_, name)| name).chain(own.into_iter().map(|(name, _)| name)).collect()
    }

    /// The source's text at a range, folded to one line.
    fn written(&self, range: leitmotiv_syntax::TextRange) -> String {
        let text = self.file.text(self.db);
        let part = text.get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
        part.split_whitespace().collect::<Vec<_>>().join(" ")
    }
}

/// What of a module's text makes no names of it.
#[derive(Debug, Default)]
struct Left {
    /// The bodies of `if __name__ == "__main__"`.
    when_run: Vec<TextRange>,
    /// Names that the module deletes again.
    deleted: BTreeSet<String>,
}

impl Left {
    fn of(text: &str) -> Left {
        let mut left = Left::default();
        for stmt in &parse::parse(text).body {
            match stmt {
                ast::Stmt::If(branch) if is_main(&branch.test) => left.when_run.push(branch.range()),
                ast::Stmt::Delete(delete) => {
                    let names = delete.targets.iter().filter_map(|target| target.as_name_expr());
                    left.deleted.extend(names.map(|name| name.id.to_string()));
                }
                _ => {}
            }
        }
        left
    }
}

/// `__name__ == "__main__"`
fn is_main(test: &ast::Expr) -> bool {
    test.as_compare_expr()
        .is_some_and(|compare| compare.left.as_name_expr().is_some_and(|name| name.id.as_str() == "__name__"))
}

/// Whether an annotated name of a class's body has a value.
fn has_default(index: &ModuleIndex, symbol: Option<DefId>) -> bool {
    symbol.is_some_and(|def| matches!(index.defs[def].kind, DefKind::Annotated { value: Some(_), .. }))
}

/// Whether a class takes its annotated names in its constructor.
fn takes_fields(db: &Database, class: ClassRef) -> bool {
    let info = classes::info(db, class);
    info.dataclass.is_some() || info.kind == classes::ClassKind::NamedTuple
}
