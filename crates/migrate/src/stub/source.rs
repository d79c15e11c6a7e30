//! Stubs from source: signatures, inferred results, attributes, constants.

use std::collections::BTreeSet;
use std::fmt::Write as _;

use leitmotiv_engine::classes;
use leitmotiv_engine::db::{Database, Db, File};
use leitmotiv_engine::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::module::{Imported, import_target, module_index, own_name, scope_type};
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{
    ArgKind, ClassForm, ClassId, DefId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, ScopeId,
};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{Ranged, TextRange, ast, parse};

use crate::docstrings;
use crate::spell::{Evaluated, Style, spell};

const STYLE: Style = Style { bars: true, bare: true, evaluated: Evaluated::Never, subscripts: true, scope: ScopeId(0) };

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
        for (name, def) in self.names(ScopeId(0)) {
            let text = self.db.names().text(name);
            let public = match &exported {
                Some(all) => all.contains(&name),
                None => !text.starts_with('_'),
            };
            let is_for_checkers = self.is_for_checkers(def);
            if is_for_checkers && self.is_import(def) {
                continue;
            }
            if is_for_checkers {
                // What is there only for checkers is no name of the running module.
                let before = std::mem::take(&mut self.body);
                self.item(ScopeId(0), name, def, 1, false);
                for_checkers.push_str(&std::mem::replace(&mut self.body, before));
            } else if public {
                self.item(ScopeId(0), name, def, 0, exported.is_some());
            }
        }
        self.needed(exported.as_deref());
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

    /// The classes and types that are not for others, but that what is written names.
    fn needed(&mut self, exported: Option<&[Name]>) {
        let all = self.names(ScopeId(0));
        let is_public = |name: Name| match exported {
            Some(all) => all.contains(&name),
            None => !self.db.names().text(name).starts_with('_'),
        };
        let mut open: Vec<(Name, DefId)> = all
            .into_iter()
            .filter(|(name, def)| !is_public(*name) && !self.is_import(*def) && !self.is_for_checkers(*def))
            .filter(|(name, _)| {
                let ty = scope_type(self.db, self.file, ScopeId(0), *name);
                matches!(ty, Type::Class(_) | Type::Var(_) | Type::Form(_))
            })
            .collect();
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
                self.item(ScopeId(0), name, def, 0, false);
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
        let spelled = spell(self.db, self.file, ty, Style { scope: self.scope, ..STYLE })?;
        self.imports.extend(spelled.imports);
        // What the source imports is taken from where the source takes it.
        words(&spelled.text).for_each(|word| self.name_import(word));
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
        if let Some(wrapped) = self.wrapped_later(function) {
            let _ = writeln!(self.body, "{indent}@{wrapped}");
        }
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
        let name = self.db.names().text(record.name).to_owned();
        match functions::value(self.db, self.file, function) {
            // A function under a decorator that cannot be followed is whatever that makes of it.
            value if value.is_dynamic() => {
                let any = self.unknown();
                let _ = writeln!(self.body, "{indent}{name}: {any}");
                return;
            }
            Type::Callable(id) if self.made_signature(&name, id, &indent) => return,
            // A descriptor, or an object that stands for the function.
            value @ Type::Instance(_) => {
                let ty = match record.class {
                    Some(class) => {
                        let class = ClassRef { file: self.file, class };
                        let object = leitmotiv_engine::module::instance_of(self.db, class, &[]);
                        let mut infer =
                            Infer::new(self.db, self.file, functions::enclosing_body(self.db, self.file, function));
                        infer.instance_member(Type::Instance(object), object, record.name).unwrap_or(value)
                    }
                    None => value,
                };
                if let Some(spelled) = self.spell(ty) {
                    let _ = writeln!(self.body, "{indent}{name}: {spelled}");
                    return;
                }
                if record.class.is_some() {
                    let any = self.unknown();
                    let _ = writeln!(self.body, "{indent}{name}: {any}");
                    return;
                }
            }
            _ => {}
        }
        self.signature(function, depth);
    }

    /// `sound = classmethod(sound)` behind the definition, as was written before there were decorators.
    fn wrapped_later(&self, function: FunctionId) -> Option<&'static str> {
        let record = &self.index.functions[function];
        let scope = &self.index.scopes[self.index.defs[record.def].scope];
        scope.symbols.get(&record.name)?.defs.iter().find_map(|def| {
            let DefKind::Assign { value, .. } = self.index.defs[*def].kind else { return None };
            let Expr::Call { callee, .. } = &self.index.exprs[value] else { return None };
            match self.index.exprs[*callee] {
                Expr::Name(known::CLASSMETHOD, _) => Some("classmethod"),
                Expr::Name(known::STATICMETHOD, _) => Some("staticmethod"),
                _ => None,
            }
        })
    }

    /// A function whose decorators made another signature; whether it could be written.
    fn made_signature(&mut self, name: &str, id: leitmotiv_engine::types::SignatureId, indent: &str) -> bool {
        let signature = self.db.store().signature(id).clone();
        let mut parts: Vec<String> = Vec::new();
        let mut has_star = false;
        for (place, param) in signature.params.iter().enumerate() {
            let own = self.db.names().text(param.name);
            if own.is_empty() {
                return false;
            }
            let stars = match param.kind {
                ParamKind::VarArgs => "*",
                ParamKind::KwArgs => "**",
                _ => "",
            };
            if param.kind == ParamKind::KeywordOnly && !has_star {
                parts.push("*".into());
            }
            has_star |= matches!(param.kind, ParamKind::VarArgs | ParamKind::KeywordOnly);
            let own = own.to_owned();
            let is_receiver = place == 0 && !indent.is_empty();
            let ty = if is_receiver { None } else { self.spell(param.ty) };
            let ty = ty.map(|ty| format!(": {ty}")).unwrap_or_default();
            let default = match (param.optional, ty.is_empty()) {
                (false, _) => "",
                (true, true) => "=...",
                (true, false) => " = ...",
            };
            parts.push(format!("{stars}{own}{ty}{default}"));
            let next = signature.params.get(place + 1);
            if param.kind == ParamKind::PositionalOnly && next.is_none_or(|next| next.kind != ParamKind::PositionalOnly)
            {
                parts.push("/".into());
            }
        }
        let returns = self.spell(signature.returns).map(|returns| format!(" -> {returns}")).unwrap_or_default();
        let _ = writeln!(self.body, "{indent}def {name}({}){returns}: ...", parts.join(", "));
        true
    }

    fn signature(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[function];
        let mut infer = Infer::new(self.db, self.file, functions::enclosing_body(self.db, self.file, function));
        let told = self.docstring(function);
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
                (Some(annotation), _) => self.annotation(annotation),
                // A default is evidence enough for a stub, unless it is None.
                (None, Some(default)) if !is_receiver => {
                    let ty = infer.expr(default);
                    let ty = infer.widen(ty);
                    let told = told.params.get(name).cloned();
                    match (ty, told) {
                        (Type::None, Some(told)) if words(&told).any(|word| word == "None") => Some(told),
                        (Type::None, Some(told)) => Some(format!("{told} | None")),
                        (Type::None, None) => None,
                        (_, Some(told)) => Some(told),
                        (ty, None) => self.spell(ty),
                    }
                }
                (None, None) if !is_receiver => told.params.get(name).cloned(),
                _ => None,
            };
            if param.annotation.is_none()
                && let Some(ty) = &ty
            {
                words(ty).for_each(|word| self.name_import(word));
            }
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
            let ty = match ty {
                Type::Instance(id) if record.is_async && index.bodies[record.body].yields.is_empty() => {
                    self.db.store().instance(id).args.get(2).copied().unwrap_or(ty)
                }
                ty => ty,
            };
            let inferred = match record.returns {
                Some(annotation) => self.annotation(annotation),
                None => self.spell(ty),
            };
            match (inferred, &told.returns) {
                (None, Some(told)) => {
                    words(told).for_each(|word| self.name_import(word));
                    Some(told.clone())
                }
                (inferred, _) => inferred,
            }
        };
        let arrow = returns.map(|returns| format!(" -> {returns}")).unwrap_or_default();
        let keyword = if record.is_async { "async def" } else { "def" };
        let name = self.db.names().text(record.name);
        let _ = writeln!(self.body, "{}{keyword} {name}({}){arrow}: ...", "    ".repeat(depth), params.join(", "));
    }

    /// The types that a function's docstring names.
    fn docstring(&self, function: FunctionId) -> docstrings::Told {
        let Some(range) = self.index.functions[function].docstring else { return docstrings::Told::default() };
        let text = self.file.text(self.db);
        let doc = text.get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
        let doc = doc.trim_start_matches(['r', 'R', 'u', 'U']).trim_matches(['"', '\'']);
        docstrings::types(doc, &|name| {
            let name = self.db.names().find(name);
            name.is_some_and(|name| matches!(own_name(self.db, self.file, name, 0), Some(Type::Class(_))))
        })
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
                    words(&text).for_each(|word| self.name_import(word));
                    if text != "object" {
                        bases.push(text);
                    }
                }
                ArgKind::Keyword(name) => {
                    words(&text).for_each(|word| self.name_import(word));
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
        let around = std::mem::replace(&mut self.scope, record.scope);
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
                        let value = if has_value { " = ..." } else { "" };
                        match index.defs[member.def].kind {
                            DefKind::Annotated { annotation, .. } if record.form == ClassForm::Statement => {
                                self.annotated(&text, annotation, member.ty, &inner, value);
                            }
                            _ => self.variable(&text, member.ty, &inner, value),
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
        self.import_of(name, dotted);
    }

    /// The import that a name of the source came by.
    fn name_import(&mut self, name: &str) {
        if let Some(name) = self.db.names().find(name) {
            self.import_of(name, true);
        }
    }

    fn import_of(&mut self, name: Name, dotted: bool) {
        let scope = &self.index.scopes[ScopeId(0)];
        let names = self.db.names();
        let Some(symbol) = scope.symbols.get(&name) else {
            for star in &scope.stars {
                let DefKind::Star { module, level } = self.index.defs[*star].kind else { continue };
                if let Some(Imported::File(target)) = import_target(self.db, self.file, module, level)
                    && own_name(self.db, target, name, 0).is_some()
                {
                    let module = format!("{}{}", ".".repeat(level as usize), names.text(module));
                    self.imports.insert((module, names.text(name).to_owned()));
                    return;
                }
            }
            return;
        };
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
            // What is given on is imported already.
            if self.body.contains(&format!("from {module} import {name} as {name}\n")) {
                continue;
            }
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

/// The words of an expression that may be names.
fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|character: char| character != '_' && !character.is_alphanumeric()).filter(|word| !word.is_empty())
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

/// A default as a stub shows it: simple constants as they are, anything else as dots.
fn constant(db: &Database, file: File, index: &ModuleIndex, expr: ExprId) -> String {
    match index.exprs[expr] {
        Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(Some(_)) => {
            let range = index.spans[expr];
            let text = file.text(db).get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
            if text.contains(['\n', '\r']) || text.is_empty() { "...".into() } else { text.to_owned() }
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
