//! The walk from the parser's tree to a [`ModuleIndex`].
//!
//! - this file: the walk's state, scopes, names, and the entry [`index_module`]
//! - [`expressions`]: all other kinds of expression
//! - [`operators`]: operators, from the parser's to the index's
//! - [`expectations`]: what tests expect
//! - [`conditions`]: conditions, where they lead and what they may narrow
//! - [`constants`]: conditions that the target version and platform decide
//! - [`chains`]: attributes and items whose values the flow keeps
//! - [`statements`]: statements and control flow
//! - [`definitions`]: functions, classes, parameters, assignment targets
//! - [`patterns`]: the `match` statement
//!
//! A function's body is lowered after the body it stands in, so that it can see what its closure ends up as.

mod chains;
mod comments;
mod conditions;
mod constants;
mod definitions;
mod dynamic_attributes;
mod expectations;
mod expected;
mod expressions;
mod functional;
mod loops;
mod operators;
mod own_calls;
mod patterns;
mod statements;

#[cfg(test)]
mod tests;

use leitmotiv_syntax::ast::{self, Stmt};
use leitmotiv_syntax::names::{Name, Names, known};
use leitmotiv_syntax::newer::NewerSyntax;
use leitmotiv_syntax::parse::{self, SyntaxFault};
use leitmotiv_syntax::positions::Lines;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};
use rustc_hash::{FxHashMap, FxHashSet};

use crate::around::Around;
use crate::bindings::{Bindings, NameCache};
use crate::flow::{ChainId, Exit, Flow, Place};
use crate::tree::*;

/// What the walk must know beside the text.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Target {
    /// The language version that `sys.version_info` is compared with.
    pub version: (u8, u8),
    /// What `sys.platform` is compared with.
    pub platform: String,
    /// Whether the text is a stub: names in annotations, bases and aliases may be used before they are defined.
    pub is_stub: bool,
}

/// How many faults of a file are told; who has as many reads no more of them. Said in docs/architecture.md.
const MOST_FAULTS: usize = 50;

/// The faults of a file as they are told: those that come again right behind each other on one line once, and of very many
/// the first, with the number of the rest.
fn gathered(faults: Vec<SyntaxFault>, text: &str) -> Vec<SyntaxFault> {
    let mut kept: Vec<SyntaxFault> = Vec::new();
    let mut more = 0;
    for fault in faults {
        if let Some(last) = kept.last_mut().filter(|last| last.message == fault.message) {
            let between = usize::from(last.range.end())..usize::from(fault.range.start()).max(last.range.end().into());
            let is_near = between.len() < 16 && text.get(between).is_some_and(|text| !text.contains(['\n', '\r']));
            if is_near {
                last.range = last.range.cover(fault.range);
                continue;
            }
        }
        if kept.len() < MOST_FAULTS { kept.push(fault) } else { more += 1 }
    }
    if let Some(last) = kept.last_mut().filter(|_| more > 0) {
        last.message.push_str(&format!("; {more} more faults follow"));
    }
    kept
}

/// What the target version refuses. Stubs are written in the newest syntax (typing specification, "Distributing type
/// information": stub files).
fn too_new(mut newer: Vec<NewerSyntax>, target: &Target) -> Vec<NewerSyntax> {
    newer.retain(|newer| newer.since > target.version && !target.is_stub);
    newer
}

/// Indexes one module. Never fails; whatever could not be parsed is [`Expr::Invalid`] and listed in the faults.
#[must_use]
pub fn index_module(text: &str, names: &Names, target: &Target) -> ModuleIndex {
    let parsed = parse::parse(text);
    let lines = Lines::new(text);
    let mut index = ModuleIndex {
        line_count: lines.count(text),
        lines: TextLines(lines),
        faults: gathered(parsed.faults, text),
        newer: too_new(parsed.newer, target),
        ..ModuleIndex::default()
    };
    // Some six bytes of text make an expression; growing step by step would copy them all again and again.
    index.exprs.reserve(text.len() / 6);
    index.spans.reserve(text.len() / 6);
    index.values.reserve(text.len() / 20);
    index.values.push(Value::Unbound);
    index.reaches.push(Reach::Always);
    index.reaches.push(Reach::Never);
    index.reaches.push(Reach::Never);
    let mut lower = Lower {
        text,
        names: NameCache::new(names),
        target,
        index,
        flow: Flow::new(),
        body: BodyId(0),
        scopes: vec![ScopeId(0)],
        locals: Vec::new(),
        loops: Vec::new(),
        queue: Vec::new(),
        postponed: target.is_stub,
        defining: None,
        class_texts: FxHashMap::default(),
        class_names: FxHashMap::default(),
        class_writes: FxHashMap::default(),
        in_annotation: false,
        in_annotation_value: false,
        in_type_argument: false,
        class_first_params: Vec::new(),
        chain_exprs: rustc_hash::FxHashMap::default(),
        type_comments: FxHashMap::default(),
        foreign: Vec::new(),
        lambda: None,
        versions: FxHashMap::default(),
    };
    for comment in &parsed.comments {
        if let Some(leitmotiv_syntax::comments::Meaning::Type(range)) = &comment.meaning {
            let line = lower.index.lines.0.index_of(comment.range.start());
            lower.type_comments.insert(line, *range);
        }
    }
    lower.module(&parsed.body);
    let mut index = lower.index;
    index.comments = parsed.comments.into_iter().filter(|comment| comment.meaning.is_some()).collect();
    index.classes_around = Around::new(index.classes.iter().map(|(id, class)| (class.range, id)));
    let clauses = index.clauses.iter().enumerate();
    index.clauses_around =
        Around::new(clauses.map(|(number, clause)| (clause.body, u32::try_from(number).unwrap_or(u32::MAX))));
    index.functions_around = Around::new(index.functions.iter().map(|(id, function)| (function.range, id)));
    index.exprs.shrink_to_fit();
    index.spans.shrink_to_fit();
    index.values.shrink_to_fit();
    index.defs.shrink_to_fit();
    index
}

/// A function whose body waits to be lowered.
struct Waiting<'a> {
    function: FunctionId,
    statement: &'a ast::StmtFunctionDef,
    scopes: Vec<ScopeId>,
    /// Names of enclosing functions' scopes at the definition.
    captured: FxHashMap<(ScopeId, Name), Captured>,
    type_params: Vec<DefId>,
}

/// The value of a name of an enclosing function where a function is defined.
#[derive(Clone, Copy)]
struct Captured {
    body: BodyId,
    value: ValueId,
    /// How many definitions there were: later ones may disturb the value.
    defs: usize,
}

/// The names that belong to a scope.
struct Locals {
    /// With the offset of each name's last binding.
    names: FxHashMap<Name, TextSize>,
    /// Those that are bound by `def` alone.
    functions: FxHashSet<Name>,
    globals: FxHashSet<Name>,
    nonlocals: FxHashSet<Name>,
    /// The body whose flow knows these names.
    body: BodyId,
}

/// A lambda's body: it runs after what stands around it, so what is known there may not hold any more.
#[derive(Clone, Copy)]
struct Later {
    /// Where it ends.
    end: TextSize,
    /// The values from this one on are its own.
    values: ValueId,
}

/// A loop being lowered.
struct Loop {
    mark: crate::flow::Mark,
    breaks: Vec<Exit>,
    continues: Vec<Exit>,
}

struct Lower<'a> {
    text: &'a str,
    names: NameCache<'a>,
    target: &'a Target,
    index: ModuleIndex,
    flow: Flow,
    body: BodyId,
    /// The scopes around the current point, outermost first.
    scopes: Vec<ScopeId>,
    /// Names of each scope, by its id.
    locals: Vec<Locals>,
    loops: Vec<Loop>,
    queue: Vec<Waiting<'a>>,
    /// Whether annotations may use names before they are defined (PEP 563, PEP 649, stubs).
    postponed: bool,
    /// The classes of the module, as they are written.
    class_texts: FxHashMap<ClassId, &'a ast::StmtClassDef>,
    class_names: FxHashMap<&'a str, ClassId>,
    class_writes: FxHashMap<ClassId, std::rc::Rc<own_calls::Writes>>,
    /// The function whose annotations are being lowered.
    defining: Option<Name>,
    in_annotation: bool,
    /// Whether it is a value within an annotation: an argument of `Literal`, or what `Annotated` adds to a type.
    in_annotation_value: bool,
    /// Whether a string may be an argument of a type that is named outside of annotations.
    in_type_argument: bool,
    /// The first parameter of each method around the current point, with its class: assignments on it define attributes.
    class_first_params: Vec<(Name, ClassId, FunctionId)>,
    /// For chains that were made, an expression that reads or writes each.
    chain_exprs: rustc_hash::FxHashMap<ChainId, ExprId>,
    /// Type comments by 0-based line.
    type_comments: FxHashMap<usize, TextRange>,
    /// Captured values of the function being lowered.
    foreign: Vec<FxHashMap<(ScopeId, Name), Captured>>,
    /// The outermost lambda around the current point.
    lambda: Option<Later>,
    /// Names of the module that hold the version or a part of it.
    versions: FxHashMap<Name, constants::Version>,
}

impl<'a> Lower<'a> {
    fn module(&mut self, body: &'a [Stmt]) {
        let bindings = Bindings::of(body, &mut self.names);
        self.open_scope(ScopeKind::Module, None, bindings);
        self.index.bodies.push(empty_body(None));
        self.postponed |= self.target.version >= (3, 14) || body.iter().any(is_future_annotations);
        self.index.postpones = self.postponed;
        self.index.docstring = docstring(body);
        let start = self.body_start();
        self.block(body);
        self.close_body(start);
        self.record_exits(ScopeId(0));
        while !self.queue.is_empty() {
            for waiting in std::mem::take(&mut self.queue) {
                self.function_body(waiting);
            }
        }
    }

    /// Where the expressions and definitions of a body begin that is lowered from here on.
    fn body_start(&self) -> (ExprId, DefId) {
        (self.index.exprs.next_id(), self.index.defs.next_id())
    }

    /// Ends the current body.
    fn close_body(&mut self, (first_expr, first_def): (ExprId, DefId)) {
        let end = self.flow.reach;
        let body = &mut self.index.bodies[self.body];
        body.end = end;
        body.exprs = first_expr.0..self.index.exprs.next_id().0;
        body.defs = first_def.0..self.index.defs.next_id().0;
    }

    /// The key of a function that is defined in a scope: so that those of one name there follow each other.
    fn function_key(&mut self, parent: ScopeId, name: &str) -> FunctionId {
        let number = self.definition_number(0, parent, name);
        self.index.functions.free(number)
    }

    /// The same of a class.
    fn class_key(&mut self, parent: ScopeId, name: &str) -> ClassId {
        let number = self.definition_number(1, parent, name);
        self.index.classes.free(number)
    }

    fn definition_number(&self, kind: u8, parent: ScopeId, name: &str) -> u32 {
        use std::hash::{Hash, Hasher};
        let mut around = Some(parent);
        let owner = std::iter::from_fn(|| {
            let scope = &self.index.scopes[around?];
            around = scope.parent;
            Some(scope.kind)
        });
        let owner = owner.into_iter().find_map(|kind| match kind {
            ScopeKind::Class(class) => Some((1_u8, class.0)),
            ScopeKind::Function(function) => Some((2, function.0)),
            _ => None,
        });
        let mut hasher = rustc_hash::FxHasher::default();
        (kind, owner, name).hash(&mut hasher);
        let hash = hasher.finish();
        // What is hashed last is mixed best in the upper half.
        #[allow(clippy::cast_possible_truncation)]
        let number = (hash >> 32) as u32;
        number
    }

    fn open_scope(&mut self, kind: ScopeKind, parent: Option<ScopeId>, bindings: Bindings) -> ScopeId {
        let id = self.index.scopes.push(Scope { kind, parent, symbols: FxHashMap::default(), stars: Vec::new() });
        let mut names = bindings.names;
        for name in bindings.globals.iter().chain(&bindings.nonlocals) {
            names.remove(name);
        }
        self.locals.push(Locals {
            names,
            functions: bindings.functions,
            globals: bindings.globals,
            nonlocals: bindings.nonlocals,
            body: self.body,
        });
        id
    }

    /// Notes the values that a scope's names have at the current point as those they end with.
    fn record_exits(&mut self, scope: ScopeId) {
        let names: Vec<Name> = self.index.scopes[scope].symbols.keys().copied().collect();
        for name in names {
            let value = self.flow.get(Place::Name(scope, name)).unwrap_or(ValueId::UNBOUND);
            if let Some(symbol) = self.index.scopes[scope].symbols.get_mut(&name) {
                symbol.exit = Some(value);
            }
        }
    }

    fn scope(&self) -> ScopeId {
        *self.scopes.last().unwrap_or(&ScopeId(0))
    }

    /// The scope that a name bound here belongs to.
    fn binding_scope(&self, name: Name) -> ScopeId {
        // A `:=` inside of a comprehension binds in the scope around it (PEP 572).
        let mut scope = self.scope();
        while matches!(self.index.scopes[scope].kind, ScopeKind::Comprehension)
            && !self.locals[scope.0 as usize].names.contains_key(&name)
        {
            scope = self.index.scopes[scope].parent.unwrap_or(ScopeId(0));
        }
        let locals = &self.locals[scope.0 as usize];
        if locals.globals.contains(&name) {
            return ScopeId(0);
        }
        if locals.nonlocals.contains(&name) {
            return self.enclosing_owner(name, scope).unwrap_or(scope);
        }
        scope
    }

    /// The nearest scope around `scope` (itself excluded) that owns `name`, class scopes passed over.
    fn enclosing_owner(&self, name: Name, scope: ScopeId) -> Option<ScopeId> {
        let mut next = self.index.scopes[scope].parent;
        while let Some(candidate) = next {
            let is_class = matches!(self.index.scopes[candidate].kind, ScopeKind::Class(_));
            if !is_class && self.locals[candidate.0 as usize].names.contains_key(&name) {
                return Some(candidate);
            }
            next = self.index.scopes[candidate].parent;
        }
        None
    }

    /// The scope whose name is meant by reading `name` here; `None` means that no scope of this module binds it.
    fn owner(&self, name: Name) -> Option<ScopeId> {
        let scope = self.scope();
        let locals = &self.locals[scope.0 as usize];
        if locals.names.contains_key(&name) {
            return Some(scope);
        }
        if locals.globals.contains(&name) {
            return Some(ScopeId(0));
        }
        // A comprehension directly in a class body sees the class's names only in its first iterable, which is lowered
        // outside of it; so class scopes are passed over from here on.
        self.enclosing_owner(name, scope)
    }

    /// The value of a name that is read here.
    fn read_name(&mut self, name: Name) -> ValueId {
        if (self.in_annotation || self.in_annotation_value) && self.postponed {
            let mut scope = self.scope();
            if self.is_later_method(scope, name) || self.is_later_local(scope, name) {
                scope = self.index.scopes[scope].parent.unwrap_or(ScopeId(0));
            }
            return self.preset_value(Place::Name(ScopeId(u32::MAX - scope.0), name), Value::Deferred { scope, name });
        }
        let Some(owner) = self.owner(name) else {
            return self.preset_value(Place::Name(ScopeId(0), name), Value::Global(name));
        };
        let place = Place::Name(owner, name);
        if let Some(value) = self.flow.get(place) {
            if self.is_only_declared(owner, value)
                && let Some(outer) = self.enclosing_owner(name, owner)
            {
                return self.read_outside(outer, name);
            }
            return match self.lambda {
                Some(lambda)
                    if value < lambda.values
                        && self.is_bound_after(owner, name, lambda.end)
                        && (self.is_declared(owner, name) || self.is_none(value)) =>
                {
                    let value = match owner {
                        ScopeId(0) => Value::Global(name),
                        scope => Value::Closure { scope, name },
                    };
                    let id = self.index.values.push(value);
                    self.flow.set(place, Some(id));
                    id
                }
                _ => value,
            };
        }
        if self.locals[owner.0 as usize].body == self.body {
            if matches!(self.index.scopes[owner].kind, ScopeKind::Class(_)) {
                // Not bound yet in the class body: the name outside of it is meant.
                return match self.enclosing_owner(name, owner) {
                    Some(outer) => self.read_outside(outer, name),
                    None => self.preset_value(Place::Name(ScopeId(0), name), Value::Global(name)),
                };
            }
            return ValueId::UNBOUND;
        }
        self.outer_value(owner, name)
    }

    /// The value of a name of a scope around the class in which it is read.
    fn read_outside(&mut self, outer: ScopeId, name: Name) -> ValueId {
        if self.locals[outer.0 as usize].body == self.body {
            return self.flow.get(Place::Name(outer, name)).unwrap_or(ValueId::UNBOUND);
        }
        self.outer_value(outer, name)
    }

    /// Whether a name of a class is declared and has no value, so that reading it in the class's body means the name outside
    /// (language reference, "Annotated assignment statements").
    fn is_only_declared(&self, owner: ScopeId, value: ValueId) -> bool {
        matches!(self.index.scopes[owner].kind, ScopeKind::Class(_))
            && !self.target.is_stub
            && !self.in_annotation
            && matches!(self.index.values[value], Value::Def(def)
                if matches!(self.index.defs[def].kind, DefKind::Annotated { value: None, .. }))
    }

    /// Whether a name is that of a method that follows: an annotation before it cannot mean that, also where it is resolved late.
    /// From 3.14 on it is resolved in the class as a whole (PEP 649); stubs are read as they are written, from top to bottom.
    fn is_later_method(&self, scope: ScopeId, name: Name) -> bool {
        matches!(self.index.scopes[scope].kind, ScopeKind::Class(_))
            && (self.target.is_stub || self.target.version < (3, 14))
            && self.locals[scope.0 as usize].functions.contains(&name)
            && (!self.index.scopes[scope].symbols.contains_key(&name) || self.is_signature_so_far(scope, name))
    }

    /// Whether a name of a class is so far only that of the function that is being defined, by its signatures before.
    fn is_signature_so_far(&self, scope: ScopeId, name: Name) -> bool {
        let is_function = |def: &DefId| matches!(self.index.defs[*def].kind, DefKind::Function(_));
        self.defining == Some(name)
            && self.index.scopes[scope].symbols.get(&name).is_some_and(|symbol| symbol.defs.iter().all(is_function))
    }

    /// Whether a name of a function is bound only further down: an annotation above it means the one outside.
    fn is_later_local(&self, scope: ScopeId, name: Name) -> bool {
        matches!(self.index.scopes[scope].kind, ScopeKind::Function(_))
            && self.locals[scope.0 as usize].names.contains_key(&name)
            && self.locals[scope.0 as usize].body == self.body
            && self.flow.get(Place::Name(scope, name)).is_none()
            && self.index.scopes[ScopeId(0)].symbols.contains_key(&name)
    }

    /// Whether an annotation has been seen that says what a name may hold. Of other names, what they hold when a lambda is made
    /// says more than all that they ever hold: most lambdas are called at once.
    fn is_declared(&self, scope: ScopeId, name: Name) -> bool {
        let symbol = self.index.scopes[scope].symbols.get(&name);
        symbol.is_some_and(|symbol| {
            symbol.defs.iter().any(|def| match self.index.defs[*def].kind {
                DefKind::Annotated { .. } => true,
                DefKind::Param { function, index } => {
                    self.index.functions[function].params[index as usize].annotation.is_some()
                }
                _ => false,
            })
        })
    }

    fn is_none(&self, value: ValueId) -> bool {
        let Value::Def(def) = self.index.values[value] else { return false };
        matches!(self.index.defs[def].kind, DefKind::Assign { value, .. } if self.index.exprs[value] == Expr::None)
    }

    /// Whether a scope binds a name behind a place.
    fn is_bound_after(&self, scope: ScopeId, name: Name, end: TextSize) -> bool {
        self.locals[scope.0 as usize].names.get(&name).is_some_and(|last| *last > end)
    }

    /// The value of a name that belongs to a body around this one.
    fn outer_value(&mut self, owner: ScopeId, name: Name) -> ValueId {
        if owner == ScopeId(0) {
            return self.preset_value(Place::Name(owner, name), Value::Global(name));
        }
        let captured = self.foreign.last().and_then(|captured| captured.get(&(owner, name))).copied();
        let value = match captured {
            // Narrowing is kept only where no later assignment can disturb it.
            Some(captured)
                if self.index.scopes[owner].symbols.get(&name).is_some_and(|symbol| {
                    symbol.foreign.is_empty() && symbol.defs.iter().all(|def| (def.0 as usize) < captured.defs)
                }) =>
            {
                Value::Captured { body: captured.body, value: captured.value }
            }
            _ => Value::Closure { scope: owner, name },
        };
        self.preset_value(Place::Name(owner, name), value)
    }

    fn preset_value(&mut self, place: Place, value: Value) -> ValueId {
        if let Some(known) = self.flow.get(place) {
            return known;
        }
        let id = self.index.values.push(value);
        self.flow.preset(place, id);
        id
    }

    fn push(&mut self, expr: Expr, range: TextRange) -> ExprId {
        if may_raise(&expr) {
            self.flow.may_raise();
        }
        self.index.spans.push(range);
        self.index.exprs.push(expr)
    }

    fn statement(&mut self, kind: StatementKind, range: TextRange) {
        if !matches!(
            kind,
            StatementKind::Expr(_)
                | StatementKind::Assign { .. }
                | StatementKind::Annotated { .. }
                | StatementKind::Import(_)
        ) {
            self.flow.may_raise();
        }
        let reach = self.flow.reach;
        let body = self.body;
        self.note_expected(body, &kind);
        self.index.bodies[self.body].statements.push(Statement { kind, reach, range });
    }

    fn name_text(&self, name: Name) -> &str {
        self.names.text(name)
    }
}

/// Whether evaluating an expression may raise an exception, its parts apart.
fn may_raise(expr: &Expr) -> bool {
    match expr {
        Expr::Invalid
        | Expr::None
        | Expr::Bool(_)
        | Expr::Ellipsis
        | Expr::Int(_)
        | Expr::Float
        | Expr::Complex
        | Expr::Str(_)
        | Expr::Bytes(_)
        | Expr::Name(..)
        | Expr::Slice(_)
        | Expr::Conditional { .. }
        | Expr::Lambda(_)
        | Expr::List(_)
        | Expr::Tuple(_)
        | Expr::BoolOp { .. }
        | Expr::Named { .. } => false,
        Expr::FString(_)
        | Expr::TString(_)
        | Expr::Attribute { .. }
        | Expr::Subscript { .. }
        | Expr::Call { .. }
        | Expr::Binary { .. }
        | Expr::Unary { .. }
        | Expr::Compare { .. }
        | Expr::Comprehension(_)
        | Expr::Set(_)
        | Expr::Dict(_)
        | Expr::Starred(_)
        | Expr::Await(_)
        | Expr::Yield(_)
        | Expr::YieldFrom(_) => true,
    }
}

fn empty_body(function: Option<FunctionId>) -> Body {
    Body {
        function,
        exprs: 0..0,
        defs: 0..0,
        statements: Vec::new(),
        end: ReachId::ALWAYS,
        returns: Vec::new(),
        yields: Vec::new(),
    }
}

/// The docstring that a block begins with.
fn docstring(body: &[Stmt]) -> Option<TextRange> {
    match body.first()? {
        Stmt::Expr(statement) if statement.value.is_string_literal_expr() => Some(statement.value.range()),
        _ => None,
    }
}

fn is_future_annotations(statement: &Stmt) -> bool {
    matches!(statement, Stmt::ImportFrom(import)
        if import.module.as_ref().is_some_and(|module| module.as_str() == "__future__")
            && import.names.iter().any(|alias| alias.name.as_str() == "annotations"))
}

/// Only the start of a range: where a keyword-led statement begins, up to the end of its header.
fn header(start: TextSize, end: TextSize) -> TextRange {
    TextRange::new(start, end.max(start))
}

/// Names that mean containers being filled when called as methods.
fn fill_kind(method: Name) -> Option<FillKind> {
    match method {
        known::APPEND | known::ADD | known::APPENDLEFT => Some(FillKind::Element),
        known::EXTEND | known::UPDATE => Some(FillKind::All),
        _ => None,
    }
}
