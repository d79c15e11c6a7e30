//! Stubs from source: signatures, inferred results, attributes, constants.

use std::collections::BTreeSet;
use std::fmt::Write as _;

use leitmotiv_engine::classes;
use leitmotiv_engine::db::{Database, Db, File};
use leitmotiv_engine::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::module::{module_index, scope_type};
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{
    ArgKind, ClassForm, ClassId, DefId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, ScopeId,
};
use leitmotiv_syntax::names::{Name, known};

use crate::spell::{Evaluated, Style, spell};

const STYLE: Style = Style { bars: true, bare: true, evaluated: Evaluated::Never, subscripts: true, scope: ScopeId(0) };

/// The stub of a module, from its source.
#[must_use]
pub fn from_source(db: &Database, file: File) -> String {
    let index = module_index(db, file);
    let mut writer = Writer { db, file, index, imports: BTreeSet::new(), body: String::new() };
    writer.module();
    writer.finish()
}

/// A module found for stubs: its name, its file, and where its stub goes below the stubs' folder.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Target {
    /// The dotted name.
    pub module: String,
    /// The source.
    pub file: File,
    /// The stub's path, relative to the stubs' folder.
    pub path: String,
}

/// The modules of a package or module by name, the package's submodules included; empty where there is none.
#[must_use]
pub fn targets(db: &Database, name: &str) -> Vec<Target> {
    let Some(file) = db.module_file(db.names().intern(name), None) else { return Vec::new() };
    let mut found = Vec::new();
    collect(db, name, file, &mut found);
    found
}

fn collect(db: &Database, name: &str, file: File, found: &mut Vec<Target>) {
    let path = name.replace('.', "/");
    let path = if file.is_package(db) { format!("{path}/__init__.pyi") } else { format!("{path}.pyi") };
    found.push(Target { module: name.to_owned(), file, path });
    if !file.is_package(db) {
        return;
    }
    let Some(root) = file.root(db).clone() else { return };
    let folder = root.join(name.replace('.', "/"));
    let mut inside: Vec<String> = std::fs::read_dir(folder)
        .into_iter()
        .flatten()
        .flatten()
        .filter_map(|entry| {
            let path = entry.path();
            let stem = path.file_stem()?.to_string_lossy().into_owned();
            let is_module = path.extension().is_some_and(|extension| extension == "py") && stem != "__init__";
            let is_package = path.is_dir() && path.join("__init__.py").exists();
            ((is_module || is_package) && stem != "__main__").then_some(stem)
        })
        .collect();
    inside.sort();
    for part in inside {
        let full = format!("{name}.{part}");
        if let Some(file) = db.module_file(db.names().intern(&full), None) {
            collect(db, &full, file, found);
        }
    }
}

struct Writer<'a> {
    db: &'a Database,
    file: File,
    index: &'a ModuleIndex,
    imports: BTreeSet<(String, String)>,
    body: String,
}

impl Writer<'_> {
    fn module(&mut self) {
        let exported = self.index.exported.clone();
        for (name, def) in self.names(ScopeId(0)) {
            let text = self.db.names().text(name);
            let public = match &exported {
                Some(all) => all.contains(&name),
                None => !text.starts_with('_'),
            };
            if public {
                self.item(ScopeId(0), name, def, 0, exported.is_some());
            }
        }
        if let Some(all) = exported {
            let all: Vec<String> = all.iter().map(|name| format!("\"{}\"", self.db.names().text(*name))).collect();
            let _ = writeln!(self.body, "\n__all__ = [{}]", all.join(", "));
        }
    }

    /// A scope's names with the definition that counts, in the order of the text.
    fn names(&self, scope: ScopeId) -> Vec<(Name, DefId)> {
        let mut names: Vec<(Name, DefId)> = self.index.scopes[scope]
            .symbols
            .iter()
            .filter_map(|(name, symbol)| symbol.defs.last().map(|def| (*name, *def)))
            .collect();
        names.sort_by_key(|(_, def)| *def);
        names
    }

    fn item(&mut self, scope: ScopeId, name: Name, def: DefId, depth: usize, exported: bool) {
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
                let ty = match scope {
                    ScopeId(0) => scope_type(self.db, self.file, scope, name),
                    _ => return,
                };
                self.variable(&text, ty, &indent, "");
            }
        }
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
        let spelled = spell(self.db, self.file, ty, STYLE)?;
        self.imports.extend(spelled.imports);
        Some(spelled.text)
    }

    fn function(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[function];
        let overloads = functions::overloads(self.db, self.file, function);
        if overloads.len() > 1 || overloads.first() != Some(&function) {
            self.imports.insert(("typing".into(), "overload".into()));
            for overload in overloads.iter() {
                let _ = writeln!(self.body, "{}@overload", "    ".repeat(depth));
                self.signature(*overload, depth);
            }
            return;
        }
        let indent = "    ".repeat(depth);
        for decorator in &record.decorators {
            match index.exprs[*decorator] {
                Expr::Name(name @ (known::PROPERTY | known::STATICMETHOD | known::CLASSMETHOD), _) => {
                    let _ = writeln!(self.body, "{indent}@{}", self.db.names().text(name));
                }
                Expr::Name(known::ABSTRACTMETHOD, _) | Expr::Attribute { name: known::ABSTRACTMETHOD, .. } => {
                    self.imports.insert(("abc".into(), "abstractmethod".into()));
                    let _ = writeln!(self.body, "{indent}@abstractmethod");
                }
                _ => {}
            }
        }
        // A function under a decorator that cannot be followed is whatever that makes of it.
        let value = functions::value(self.db, self.file, function);
        if value.is_dynamic() {
            let name = self.db.names().text(record.name).to_owned();
            let any = self.unknown();
            let _ = writeln!(self.body, "{indent}{name}: {any}");
            return;
        }
        self.signature(function, depth);
    }

    fn signature(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[function];
        let declared = functions::declared(self.db, self.file, function);
        let mut infer = Infer::new(self.db, self.file, functions::enclosing_body(self.db, self.file, function));
        let mut params: Vec<String> = Vec::with_capacity(record.params.len());
        let mut star = false;
        for (place, param) in record.params.iter().enumerate() {
            let name = self.db.names().text(param.name);
            let prefix = match param.kind {
                ParamKind::VarArgs => {
                    star = true;
                    "*"
                }
                ParamKind::KwArgs => "**",
                ParamKind::KeywordOnly => {
                    if !star {
                        params.push("*".into());
                        star = true;
                    }
                    ""
                }
                ParamKind::PositionalOnly | ParamKind::Normal => "",
            };
            let is_receiver = place == 0 && record.class.is_some() && param.annotation.is_none();
            let ty = match (param.annotation, param.default) {
                (Some(_), _) => declared.params.get(place).and_then(|param| self.spell(param.ty)),
                // A default is evidence enough for a stub, unless it is None.
                (None, Some(default)) if !is_receiver => {
                    let ty = infer.expr(default);
                    let ty = infer.widen(ty);
                    if ty == Type::None { None } else { self.spell(ty) }
                }
                _ => None,
            };
            let mut text = format!("{prefix}{name}");
            if let Some(ty) = &ty {
                let _ = write!(text, ": {ty}");
            }
            if let Some(default) = param.default {
                let value = constant(self.db, self.file, index, default);
                text.push_str(if ty.is_some() { " = " } else { "=" });
                text.push_str(&value);
            }
            params.push(text);
            let last_positional = param.kind == ParamKind::PositionalOnly
                && record.params.get(place + 1).is_none_or(|next| next.kind != ParamKind::PositionalOnly);
            if last_positional {
                params.push("/".into());
            }
        }
        let returns = if record.name == known::INIT {
            Some("None".to_owned())
        } else {
            let ty = functions::return_type(self.db, self.file, function);
            let ty = match declared.returns {
                Some(declared) => declared,
                None => ty,
            };
            let ty = match ty {
                Type::Instance(id) if record.is_async && index.bodies[record.body].yields.is_empty() => {
                    self.db.store().instance(id).args.get(2).copied().unwrap_or(ty)
                }
                ty => ty,
            };
            self.spell(ty)
        };
        let arrow = returns.map(|returns| format!(" -> {returns}")).unwrap_or_default();
        let keyword = if record.is_async { "async def" } else { "def" };
        let name = self.db.names().text(record.name);
        let _ = writeln!(self.body, "{}{keyword} {name}({}){arrow}: ...", "    ".repeat(depth), params.join(", "));
    }

    fn class(&mut self, class: ClassId, depth: usize) {
        let index = self.index;
        let record = &index.classes[class];
        let indent = "    ".repeat(depth);
        if let (ClassForm::NewType, [base]) = (record.form, record.args.as_ref()) {
            self.imports.insert(("typing".into(), "NewType".into()));
            self.base_import(base.value);
            let (name, base) = (self.db.names().text(record.name), self.written(index.spans[base.value]));
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
                ArgKind::Positional => {
                    self.base_import(arg.value);
                    if text != "object" {
                        bases.push(text);
                    }
                }
                ArgKind::Keyword(name) => {
                    self.base_import(arg.value);
                    bases.push(format!("{}={text}", self.db.names().text(name)));
                }
                ArgKind::Star | ArgKind::DoubleStar => {}
            }
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
        for name in self.member_names(class) {
            let text = self.db.names().text(name).to_owned();
            let is_dunder = text.starts_with("__") && text.ends_with("__");
            if text.starts_with('_') && !is_dunder || matches!(text.as_str(), "__slots__" | "__doc__" | "__module__") {
                continue;
            }
            let symbol = index.scopes[record.scope].symbols.get(&name).and_then(|symbol| symbol.defs.first().copied());
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
                        self.variable(&text, member.ty, &inner, if has_value { " = ..." } else { "" });
                    }
                }
            }
        }
        if self.body.len() == before + 1 {
            self.body.truncate(before);
            self.body.push_str(" ...\n");
        }
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

    /// A base as it is written needs the import that it came by.
    fn base_import(&mut self, base: ExprId) {
        let head = match self.index.exprs[base] {
            Expr::Subscript { value, .. } | Expr::Call { callee: value, .. } => value,
            _ => base,
        };
        let (name, dotted) = match self.index.exprs[head] {
            Expr::Name(name, _) => (name, false),
            Expr::Attribute { value, .. } => match self.index.exprs[value] {
                Expr::Name(name, _) => (name, true),
                _ => return,
            },
            _ => return,
        };
        let Some(symbol) = self.index.scopes[ScopeId(0)].symbols.get(&name) else { return };
        let names = self.db.names();
        for def in &symbol.defs {
            match &self.index.defs[*def].kind {
                DefKind::ImportFrom { module, level, name: imported, .. } => {
                    let module = format!("{}{}", ".".repeat(*level as usize), names.text(*module));
                    let own = names.text(name);
                    let imported = names.text(*imported);
                    let clause = if own == imported { own.to_owned() } else { format!("{imported} as {own}") };
                    self.imports.insert((module, clause));
                    return;
                }
                DefKind::Import { module, alias } if dotted => {
                    let module = names.text(*module);
                    let clause = if *alias { format!("{module} as {}", names.text(name)) } else { module.to_owned() };
                    self.imports.insert((String::new(), clause));
                    return;
                }
                _ => {}
            }
        }
    }

    /// The source's text at a range, folded to one line.
    fn written(&self, range: leitmotiv_syntax::TextRange) -> String {
        let text = self.file.text(self.db);
        let part = text.get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
        part.split_whitespace().collect::<Vec<_>>().join(" ")
    }

    fn finish(self) -> String {
        let module = self.db.names().text(self.file.module(self.db));
        let mut out = format!("# Stub of `{module}`, written by Leitmotiv from its source. Yours to edit.\n");
        let mut by_module: Vec<(String, Vec<String>)> = Vec::new();
        for (module, name) in self.imports {
            match by_module.iter_mut().find(|(known, _)| *known == module) {
                Some((_, names)) => names.push(name),
                None => by_module.push((module, vec![name])),
            }
        }
        for (module, names) in &by_module {
            if module.is_empty() {
                names.iter().for_each(|name| {
                    let _ = writeln!(out, "import {name}");
                });
            } else {
                let _ = writeln!(out, "from {module} import {}", names.join(", "));
            }
        }
        if !self.body.is_empty() {
            out.push('\n');
            out.push_str(self.body.trim_start_matches('\n'));
        }
        out
    }
}

/// A default as a stub shows it: simple constants as they are, anything else as dots.
fn constant(db: &Database, file: File, index: &ModuleIndex, expr: ExprId) -> String {
    match index.exprs[expr] {
        Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(Some(_)) => {
            let text = leitmotiv_engine::rules::excerpt(db, file, index.spans[expr]);
            if text.contains('…') { "...".into() } else { text }
        }
        _ => "...".into(),
    }
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
