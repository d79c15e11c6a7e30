//! What a mention of a name means: a name of a scope, a member of a class, or a module.

use leitmotiv_index::tree::{BodyId, DefId, DefKind, Expr, ExprId, ModuleIndex, ScopeId, ScopeKind, Value, ValueId};
use leitmotiv_syntax::mentions::{How, Mention, mentions};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};
use rustc_hash::{FxHashMap, FxHashSet};

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::{self, members};
use crate::infer::Infer;
use crate::outline::{self, module_index};
use crate::resolve::{self, Imported, import_target};
use crate::types::union::parts;
use crate::types::{ClassRef, InstanceId, Type};

/// What names can mean. Names that the body of a class binds are its members.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Thing {
    /// A name of a scope, but of a class's.
    Name {
        /// The file.
        file: File,
        /// The scope.
        scope: ScopeId,
        /// The name.
        name: Name,
    },
    /// A member that a class has of its own.
    Member {
        /// The class.
        class: ClassRef,
        /// The member.
        name: Name,
    },
    /// A module.
    Module(File),
}

impl Thing {
    /// The file that it is of.
    #[must_use]
    pub fn file(self) -> File {
        match self {
            Thing::Name { file, .. } | Thing::Module(file) => file,
            Thing::Member { class, .. } => class.file,
        }
    }

    /// What it is called; of a module, the last part of its name.
    #[must_use]
    pub fn name(self, db: &dyn Db) -> &str {
        match self {
            Thing::Name { name, .. } | Thing::Member { name, .. } => db.names().text(name),
            Thing::Module(file) => db.names().text(file.module(db)).rsplit('.').next().unwrap_or_default(),
        }
    }

    /// The definitions that it has, in the order of the text; those that methods make behind those of the class's body.
    #[must_use]
    pub fn definitions(self, db: &dyn Db) -> Vec<DefId> {
        match self {
            Thing::Name { file, scope, name } => symbol(module_index(db, file), scope, name),
            Thing::Member { class, name } => {
                let index = module_index(db, class.file);
                let record = &index.classes[class.class];
                let mut all = symbol(index, record.scope, name);
                all.extend(record.attributes.get(&name).into_iter().flatten());
                all
            }
            Thing::Module(_) => Vec::new(),
        }
    }
}

/// The definitions of a name in a scope, in the order of the text.
fn symbol(index: &ModuleIndex, scope: ScopeId, name: Name) -> Vec<DefId> {
    let Some(symbol) = index.scopes[scope].symbols.get(&name) else { return Vec::new() };
    let mut all: Vec<DefId> = symbol.defs.iter().chain(&symbol.foreign).copied().collect();
    all.sort_by_key(|def| index.defs[*def].range.start());
    all.dedup();
    all
}

/// What a name is that some scope binds.
#[must_use]
pub fn named(file: File, index: &ModuleIndex, scope: ScopeId, name: Name) -> Thing {
    match index.scopes[scope].kind {
        ScopeKind::Class(class) => Thing::Member { class: ClassRef { file, class }, name },
        _ => Thing::Name { file, scope, name },
    }
}

/// Names are followed through so many imports.
const MOST_IMPORTS: usize = 16;

/// What a name means behind all imports of it: where it is defined in the end.
#[must_use]
pub fn behind_imports(db: &dyn Db, thing: Thing) -> Thing {
    chain(db, thing).last().copied().unwrap_or(thing)
}

/// A thing, and what each import leads to behind it, the last one where it is defined.
#[must_use]
pub fn chain(db: &dyn Db, thing: Thing) -> Vec<Thing> {
    let mut all = vec![thing];
    let mut at = thing;
    while all.len() < MOST_IMPORTS {
        let Thing::Name { file, .. } = at else { break };
        let index = module_index(db, file);
        match at.definitions(db).into_iter().find_map(|def| imported(db, file, &index.defs[def].kind)) {
            Some(next) if !all.contains(&next) => {
                all.push(next);
                at = next;
            }
            _ => break,
        }
    }
    all
}

/// What an import binds; `None` of other definitions, and where it leads nowhere.
fn imported(db: &dyn Db, file: File, kind: &DefKind) -> Option<Thing> {
    match *kind {
        DefKind::ImportFrom { module, level, name, .. } => from_module(db, file, module, level, name),
        DefKind::Import { module, alias } => {
            let full = if alias { module } else { resolve::root_name(db, module) };
            resolve::module_file(db, full, Some(file)).map(Thing::Module)
        }
        _ => None,
    }
}

/// What `from module import name` means.
fn from_module(db: &dyn Db, file: File, module: Name, level: u32, name: Name) -> Option<Thing> {
    match import_target(db, file, module, level)? {
        Imported::File(target) => of_module(db, target, name),
        Imported::Namespace(package) => below(db, package, name, file),
    }
}

fn below(db: &dyn Db, package: Name, name: Name, file: File) -> Option<Thing> {
    let full = format!("{}.{}", db.names().text(package), db.names().text(name));
    resolve::module_file(db, db.names().intern(&full), Some(file)).map(Thing::Module)
}

/// What a name of a module means: one that it binds, one that a star import brings, or a module below it.
#[must_use]
pub fn of_module(db: &dyn Db, file: File, name: Name) -> Option<Thing> {
    let mut at = file;
    let mut seen = FxHashSet::default();
    while seen.insert(at) {
        if outline::names::module_name(db, at, name).is_bound {
            return Some(Thing::Name { file: at, scope: ScopeId(0), name });
        }
        let index = module_index(db, at);
        let star = index.scopes[ScopeId(0)].stars.iter().rev().find_map(|star| {
            let DefKind::Star { module, level } = index.defs[*star].kind else { return None };
            let Imported::File(target) = import_target(db, at, module, level)? else { return None };
            resolve::own_name(db, target, name).map(|_| target)
        });
        match star {
            Some(target) => at = target,
            None => break,
        }
    }
    match resolve::submodule(db, file, name)? {
        Type::Module(below) => Some(Thing::Module(below)),
        _ => None,
    }
}

/// Reads mentions of one file. Bodies that were looked into are kept.
pub struct Reader<'db> {
    /// The database.
    pub db: &'db dyn Db,
    /// The file.
    pub file: File,
    /// Its index.
    pub index: &'db ModuleIndex,
    /// Its mentions, in the order of the text, those in quoted annotations among them.
    pub mentions: Vec<Mention>,
    definitions: FxHashMap<TextSize, Vec<DefId>>,
    names: FxHashMap<TextRange, ExprId>,
    /// Attributes by where they end.
    attributes: FxHashMap<TextSize, ExprId>,
    calls: FxHashMap<TextRange, ExprId>,
    bodies: FxHashMap<BodyId, Infer<'db>>,
}

impl<'db> Reader<'db> {
    /// A reader of a file.
    #[must_use]
    pub fn new(db: &'db dyn Db, file: File) -> Reader<'db> {
        let index = module_index(db, file);
        let text = file.text(db);
        let mut found = mentions(text);
        let mut definitions: FxHashMap<TextSize, Vec<DefId>> = FxHashMap::default();
        for (def, record) in index.defs.iter() {
            definitions.entry(record.range.start()).or_default().push(def);
        }
        let mut names = FxHashMap::default();
        let mut attributes = FxHashMap::default();
        let mut calls = FxHashMap::default();
        let known: FxHashSet<TextRange> = found.iter().map(|mention| mention.range).collect();
        let count = found.len();
        for (expr, span) in index.spans_iter() {
            match index.exprs[expr] {
                Expr::Name(name, _) if text.get(range(span)) == Some(db.names().text(name)) => {
                    names.insert(span, expr);
                    if !known.contains(&span) {
                        found.push(Mention { range: span, how: How::Read });
                    }
                }
                Expr::Attribute { value, name, .. } => {
                    attributes.insert(span.end(), expr);
                    let length = TextSize::of(db.names().text(name));
                    let own = TextRange::at(span.end().checked_sub(length).unwrap_or_default(), length);
                    if !known.contains(&own) && text.get(range(own)) == Some(db.names().text(name)) {
                        let how = How::Attribute { object: index.spans[value], is_written: false };
                        found.push(Mention { range: own, how });
                    }
                }
                Expr::Call { callee, .. } => {
                    calls.insert(index.spans[callee], callee);
                }
                _ => {}
            }
        }
        if found.len() > count {
            found.sort_by_key(|mention| (mention.range.start(), mention.range.end()));
            found.dedup_by_key(|mention| mention.range);
        }
        Reader { db, file, index, mentions: found, definitions, names, attributes, calls, bodies: FxHashMap::default() }
    }

    /// The text of a mention.
    #[must_use]
    pub fn text(&self, mention: Mention) -> &'db str {
        &self.file.text(self.db)[mention.range]
    }

    /// The mention at an offset.
    #[must_use]
    pub fn at(&self, offset: TextSize) -> Option<Mention> {
        leitmotiv_syntax::mentions::at(&self.mentions, offset)
    }

    /// The expression that a mention is: a name, or an attribute with its object.
    #[must_use]
    pub fn expr_of(&self, mention: Mention) -> Option<ExprId> {
        match mention.how {
            How::Attribute { .. } => self.attributes.get(&mention.range.end()).copied(),
            _ => self.names.get(&mention.range).copied(),
        }
    }

    /// The definition whose name a mention is.
    #[must_use]
    pub fn definition_of(&self, mention: Mention) -> Option<DefId> {
        let text = self.text(mention);
        let all = self.definitions.get(&mention.range.start())?;
        all.iter().copied().find(|def| self.db.names().text(self.index.defs[*def].name) == text)
    }

    /// The type of an expression, its body having been looked through.
    pub fn type_of(&mut self, expr: ExprId) -> Type {
        let body = self.body_of(expr);
        self.infer(body).quietly(expr)
    }

    /// A body that was looked through.
    pub fn infer(&mut self, body: BodyId) -> &mut Infer<'db> {
        let (db, file) = (self.db, self.file);
        self.bodies.entry(body).or_insert_with(|| {
            let mut infer = Infer::new(db, file, body);
            infer.nears = usize::MAX / 2;
            // The whole body, so that lambdas and displays have been seen where they stand.
            infer.check();
            infer.checking = false;
            infer
        })
    }

    /// The body that an expression stands in.
    #[must_use]
    pub fn body_of(&self, expr: ExprId) -> BodyId {
        let bodies = &self.index.bodies;
        bodies.iter().find(|(_, body)| body.exprs.contains(&expr.0)).map_or(BodyId(0), |(id, _)| id)
    }

    /// What a mention means as it stands there, imports not followed; several things where an object may be one of several.
    pub fn means(&mut self, mention: Mention) -> Vec<Thing> {
        match mention.how {
            How::Read
            | How::Written
            | How::Function
            | How::Class
            | How::Parameter
            | How::TypeParameter
            | How::Alias => self.bare(mention).into_iter().collect(),
            How::Scoped => {
                let name = self.db.names().intern(self.text(mention));
                let scope = self.scope_at(mention.range.start());
                let outer = self.index.scopes[scope].parent;
                let found = outer.and_then(|outer| self.lexical(outer, name));
                found.or_else(|| self.of_own_module(name)).into_iter().collect()
            }
            How::Imported { is_bound: true, .. } => self.bare(mention).into_iter().collect(),
            How::Imported { module, level, .. } => {
                let name = self.db.names().intern(self.text(mention));
                let module = self.dotted(module);
                from_module(self.db, self.file, module, level, name).into_iter().collect()
            }
            How::Module { start, level, .. } => {
                let name = self.dotted(TextRange::new(start, mention.range.end()));
                let found = import_target(self.db, self.file, name, level);
                match found {
                    Some(Imported::File(file)) => vec![Thing::Module(file)],
                    _ => Vec::new(),
                }
            }
            How::Attribute { .. } => {
                let Some(expr) = self.expr_of(mention) else { return Vec::new() };
                let Expr::Attribute { value, name, .. } = self.index.exprs[expr] else { return Vec::new() };
                let object = self.type_of(value);
                self.member(object, name)
            }
            How::Keyword { callee } => {
                let Some(callee) = self.calls.get(&callee).copied() else { return Vec::new() };
                let name = self.db.names().intern(self.text(mention));
                let called = self.type_of(callee);
                self.parameter(called, name)
            }
            How::PatternKeyword { class } => {
                let Some(class) = self.names.get(&class).or_else(|| self.attributes.get(&class.end())).copied() else {
                    return Vec::new();
                };
                let name = self.db.names().intern(self.text(mention));
                match self.type_of(class) {
                    Type::Class(id) => self.of_class(id, name),
                    _ => Vec::new(),
                }
            }
        }
    }

    /// A dotted name as it is written, spaces left out.
    fn dotted(&self, range: TextRange) -> Name {
        let text: String = self.file.text(self.db)[range].chars().filter(|char| !char.is_whitespace()).collect();
        self.db.names().intern(&text)
    }

    fn bare(&mut self, mention: Mention) -> Option<Thing> {
        let name = self.db.names().intern(self.text(mention));
        if let Some(def) = self.definition_of(mention)
            && !matches!(mention.how, How::Attribute { .. })
        {
            return Some(named(self.file, self.index, self.index.defs[def].scope, name));
        }
        if let Some(expr) = self.names.get(&mention.range)
            && let Expr::Name(name, value) = self.index.exprs[*expr]
            && let Some(thing) = self.of_value(value, name, 0)
        {
            return Some(thing);
        }
        let scope = self.scope_at(mention.range.start());
        self.lexical(scope, name).or_else(|| self.of_own_module(name))
    }

    /// The definitions that may have given a name the value that it has at a mention, in the order of the text; empty where it is not
    /// bound in this body.
    #[must_use]
    pub fn reaching(&self, mention: Mention) -> Vec<DefId> {
        let Some(Expr::Name(_, value)) = self.expr_of(mention).map(|expr| &self.index.exprs[expr]) else {
            return Vec::new();
        };
        let mut found = Vec::new();
        let mut seen = FxHashSet::default();
        let mut open = vec![*value];
        while let Some(value) = open.pop() {
            if value == ValueId::NONE || !seen.insert(value) {
                continue;
            }
            match self.index.values[value] {
                Value::Def(def) => found.push(def),
                Value::Narrow { of, .. } | Value::Matched { of, .. } => open.push(of),
                Value::Captured { value, .. } => open.push(value),
                Value::Phi { start, len, .. } => {
                    open.extend(self.index.phi(start, len).iter().map(|(_, value)| *value))
                }
                _ => {}
            }
        }
        found.sort_by_key(|def| self.index.defs[*def].range.start());
        found.dedup();
        found
    }

    fn of_value(&self, value: ValueId, name: Name, depth: u32) -> Option<Thing> {
        if value == ValueId::NONE || depth > 32 {
            return None;
        }
        match self.index.values[self.index.unnarrowed(value)] {
            Value::Def(def) => {
                let record = &self.index.defs[def];
                (record.name == name).then(|| named(self.file, self.index, record.scope, name))
            }
            Value::Global(name) => self.of_own_module(name),
            Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                self.lexical(scope, name).or_else(|| self.of_own_module(name))
            }
            Value::Captured { value, .. } => self.of_value(value, name, depth + 1),
            Value::Phi { start, len, .. } => {
                self.index.phi(start, len).iter().find_map(|(_, value)| self.of_value(*value, name, depth + 1))
            }
            _ => None,
        }
    }

    /// A name of this module, or a built-in one.
    fn of_own_module(&self, name: Name) -> Option<Thing> {
        of_module(self.db, self.file, name).filter(|thing| !matches!(thing, Thing::Module(_))).or_else(|| {
            let builtins = resolve::standard_module(self.db, known::BUILTINS)?;
            let thing = of_module(self.db, builtins, name)?;
            matches!(thing, Thing::Name { .. }).then_some(thing)
        })
    }

    /// The innermost scope around an offset, but for those of comprehensions and lambdas.
    #[must_use]
    pub fn scope_at(&self, at: TextSize) -> ScopeId {
        let function = self.index.functions_around.of(at).next();
        let class = self.index.classes_around.of(at).next();
        // The name, decorators and defaults of a definition stand outside of it.
        match (function, class) {
            (Some(function), Some(class)) => {
                let (function, class) = (&self.index.functions[function], &self.index.classes[class]);
                if class.range.start() > function.range.start() { class.scope } else { function.scope }
            }
            (Some(function), None) => self.index.functions[function].scope,
            (None, Some(class)) => self.index.classes[class].scope,
            (None, None) => ScopeId(0),
        }
    }

    /// A name as it is looked up from a scope outwards (language reference, "Resolution of names"), up to the module.
    fn lexical(&self, scope: ScopeId, name: Name) -> Option<Thing> {
        if self.index.scopes[scope].symbols.contains_key(&name) {
            return Some(named(self.file, self.index, scope, name));
        }
        let mut next = self.index.scopes[scope].parent;
        while let Some(scope) = next {
            let record = &self.index.scopes[scope];
            if !matches!(record.kind, ScopeKind::Class(_)) && record.symbols.contains_key(&name) {
                return Some(named(self.file, self.index, scope, name));
            }
            next = record.parent;
        }
        None
    }

    /// The members that an object may have by a name.
    pub fn member(&mut self, object: Type, name: Name) -> Vec<Thing> {
        let db = self.db;
        let store = db.store();
        let mut found: Vec<Thing> = Vec::new();
        for part in parts(store, &object) {
            let things = match *part {
                Type::Module(file) => of_module(db, file, name).into_iter().collect(),
                Type::Namespace(package) => below(db, package, name, self.file).into_iter().collect(),
                Type::Class(id) => self.of_class(id, name),
                Type::SubclassOf(inner) => match *store.single(inner) {
                    Type::Instance(id) => self.of_class(id, name),
                    other => {
                        let upper = self.infer(BodyId(0)).upper_bound(other);
                        match upper {
                            Type::Instance(id) => self.of_class(id, name),
                            _ => Vec::new(),
                        }
                    }
                },
                Type::Super(method) => {
                    let method = *store.method(method);
                    match (method.function, method.receiver) {
                        (Type::Class(after), Type::Instance(id) | Type::Class(id)) => {
                            own(db, members::find(db, id, name, Some(store.instance(after).class)), name)
                        }
                        _ => Vec::new(),
                    }
                }
                Type::Var(_) => {
                    let upper = self.infer(BodyId(0)).upper_bound(*part);
                    if upper == *part { Vec::new() } else { self.member(upper, name) }
                }
                part => match self.infer(BodyId(0)).nominal(part) {
                    Some(id) => self.of_class(id, name),
                    None => Vec::new(),
                },
            };
            for thing in things {
                if !found.contains(&thing) {
                    found.push(thing);
                }
            }
        }
        found
    }

    fn of_class(&self, id: InstanceId, name: Name) -> Vec<Thing> {
        let db = self.db;
        let direct = own(db, members::find(db, id, name, None), name);
        if !direct.is_empty() {
            return direct;
        }
        let metaclass = classes::info(db, db.store().instance(id).class).metaclass;
        metaclass.map_or_else(Vec::new, |meta| {
            own(db, members::find(db, resolve::instance_of(db, meta, &[]), name, None), name)
        })
    }

    /// The parameters that a keyword reaches where something is called; of classes that make their fields parameters, the field.
    pub fn parameter(&mut self, called: Type, name: Name) -> Vec<Thing> {
        let db = self.db;
        let store = db.store();
        let mut found = Vec::new();
        for part in parts(store, &called) {
            let thing = match *part {
                Type::Function(id) => param_of(db, store.function(id).file, store.function(id).function, name),
                Type::Method(id) => match store.method(id).function {
                    Type::Function(id) => param_of(db, store.function(id).file, store.function(id).function, name),
                    _ => None,
                },
                Type::Class(id) => {
                    let init = members::find(db, id, known::INIT, None);
                    let plain = init.and_then(|init| match init.member.ty {
                        Type::Function(function) => {
                            let function = store.function(function);
                            param_of(db, function.file, function.function, name)
                        }
                        _ => None,
                    });
                    plain.or_else(|| self.of_class(id, name).into_iter().next())
                }
                _ => None,
            };
            found.extend(thing.filter(|thing| !found.contains(thing)));
        }
        found
    }
}

fn own(db: &dyn Db, found: Option<members::Found>, name: Name) -> Vec<Thing> {
    found.map(|found| Thing::Member { class: db.store().instance(found.owner).class, name }).into_iter().collect()
}

fn param_of(db: &dyn Db, file: File, function: leitmotiv_index::tree::FunctionId, name: Name) -> Option<Thing> {
    let all = &outline::function(db, file, function).signatures;
    let index = module_index(db, file);
    let own = all
        .iter()
        .copied()
        .chain([function])
        .find(|function| index.functions[*function].params.iter().any(|param| param.name == name))?;
    Some(Thing::Name { file, scope: index.functions[own].scope, name })
}

fn range(range: TextRange) -> std::ops::Range<usize> {
    usize::from(range.start())..usize::from(range.end())
}
