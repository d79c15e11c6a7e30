//! What the types of some code rest on: the annotations that are read when it is inferred, however far away they stand.
//!
//! It is asked after a change of annotations, for those that a new finding may come from. More is named than a type really rests on: of a
//! call all arguments, whichever of them its result follows. What is not named it does not rest on, as far as the walk goes.

use leitmotiv_index::tree::{BodyId, DefId, DefKind, Expr, ExprId, FunctionId, ScopeId, Value, ValueId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashSet;

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::members;
use crate::infer::Infer;
use crate::outline::functions::enclosing_body;
use crate::outline::module_index;
use crate::resolve::{Imported, import_target};
use crate::types::Type;
use crate::types::union::parts;

/// How many expressions, values and functions are looked at for one answer.
const MOST_LOOKS: usize = 3_000;

/// The annotations of the project that the types in the statement around a place (in bytes) rest on, by where they stand; the nearest come
/// first.
#[must_use]
pub fn of(db: &dyn Db, file: File, place: TextRange) -> Vec<(File, TextRange)> {
    let index = module_index(db, file);
    let statements = index.bodies.iter().flat_map(|(_, body)| &body.statements).map(|statement| statement.range);
    let around = statements.filter(|range| range.contains_range(place)).min_by_key(|range| range.len());
    let range = around.unwrap_or(place);
    let mut walk = Walk { db, found: Vec::new(), next: Vec::new(), seen: FxHashSet::default() };
    for (body, record) in index.bodies.iter() {
        let within = record.exprs.clone().map(ExprId).filter(|expr| range.contains_range(index.spans[*expr]));
        walk.next.extend(within.map(|expr| Step::Expr(file, body, expr)));
    }
    walk.go();
    walk.found
}

/// Where the walk goes next.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Step {
    Expr(File, BodyId, ExprId),
    Value(File, BodyId, ValueId),
    Definition(File, DefId),
    Function(File, FunctionId),
}

struct Walk<'db> {
    db: &'db dyn Db,
    found: Vec<(File, TextRange)>,
    /// What is still to be looked at, in the order of distance.
    next: Vec<Step>,
    seen: FxHashSet<Step>,
}

impl Walk<'_> {
    fn go(&mut self) {
        while !self.next.is_empty() && self.seen.len() < MOST_LOOKS {
            for step in std::mem::take(&mut self.next) {
                if !self.seen.insert(step) {
                    continue;
                }
                match step {
                    Step::Expr(file, body, expr) => self.expr(&mut Infer::new(self.db, file, body), expr),
                    Step::Value(file, body, value) => self.value(&mut Infer::new(self.db, file, body), value),
                    Step::Definition(file, def) => {
                        let body = module_index(self.db, file).defs[def].body;
                        self.definition(&mut Infer::new(self.db, file, body), def);
                    }
                    Step::Function(file, function) => self.function(file, function),
                }
            }
        }
    }

    fn annotation(&mut self, file: File, range: TextRange) {
        let is_ours = matches!(file.origin(self.db), Origin::Project | Origin::LocalStub);
        if is_ours && !self.found.contains(&(file, range)) {
            self.found.push((file, range));
        }
    }

    fn exprs(&mut self, infer: &Infer<'_>, exprs: impl IntoIterator<Item = ExprId>) {
        let (file, body) = (infer.file, infer.body);
        self.next.extend(exprs.into_iter().map(|expr| Step::Expr(file, body, expr)));
    }

    fn expr(&mut self, infer: &mut Infer<'_>, expr: ExprId) {
        let at = |value| Step::Value(infer.file, infer.body, value);
        let index = infer.index;
        match &index.exprs[expr] {
            Expr::Name(_, value) => self.next.push(at(*value)),
            Expr::Attribute { value, name, place } => {
                self.next.extend(place.known().map(at));
                self.exprs(infer, [*value]);
                let object = infer.quietly(*value);
                self.members(object, *name);
            }
            Expr::Subscript { value, index, place } => {
                self.next.extend(place.known().map(at));
                self.exprs(infer, [*value, *index]);
                let object = infer.quietly(*value);
                self.members(object, known::GETITEM);
            }
            Expr::Call { callee, args } => {
                let callee_type = infer.quietly(*callee);
                self.called(callee_type);
                self.exprs(infer, std::iter::once(*callee).chain(args.iter().map(|arg| arg.value)));
            }
            Expr::Binary { left, right, .. } => self.exprs(infer, [*left, *right]),
            Expr::Compare { left, rest } => {
                self.exprs(infer, std::iter::once(*left).chain(rest.iter().map(|(_, right)| *right)));
            }
            Expr::Unary { operand: inner, .. } | Expr::Await(inner) | Expr::Starred(inner) | Expr::YieldFrom(inner) => {
                self.exprs(infer, [*inner]);
            }
            Expr::FString(items) | Expr::TString(items) | Expr::List(items) | Expr::Tuple(items) | Expr::Set(items) => {
                self.exprs(infer, items.iter().copied());
            }
            Expr::BoolOp { operands, .. } => self.exprs(infer, operands.iter().copied()),
            Expr::Conditional { then, otherwise, .. } => self.exprs(infer, [*then, *otherwise]),
            Expr::Dict(items) => {
                self.exprs(infer, items.iter().flat_map(|(key, value)| key.iter().chain([value]).copied()))
            }
            Expr::Comprehension(id) => {
                let made = &index.comprehensions[*id];
                self.exprs(infer, made.key.into_iter().chain([made.element]).chain(made.iterables.iter().copied()));
            }
            Expr::Lambda(id) => self.exprs(infer, [index.lambdas[*id].body]),
            Expr::Named { value, .. } => self.exprs(infer, [*value]),
            Expr::Yield(Some(value)) => self.exprs(infer, [*value]),
            _ => {}
        }
    }

    fn value(&mut self, infer: &mut Infer<'_>, value: ValueId) {
        let index = infer.index;
        let (file, body) = (infer.file, infer.body);
        match index.values[value] {
            Value::Def(def) => self.next.push(Step::Definition(file, def)),
            Value::Narrow { of, .. } | Value::Matched { of, .. } => self.next.push(Step::Value(file, body, of)),
            Value::Phi { start, len, .. } => {
                self.next.extend(index.phi(start, len).iter().map(|(_, arg)| Step::Value(file, body, *arg)));
            }
            Value::Global(name) => self.module_name(file, name),
            Value::Captured { body, value } => self.next.push(Step::Value(file, body, value)),
            Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                let symbol = index.scopes[scope].symbols.get(&name);
                let defs = symbol.into_iter().flat_map(|symbol| symbol.defs.iter());
                self.next.extend(defs.map(|def| Step::Definition(file, *def)));
            }
            Value::Natural(expr) | Value::Given(expr) | Value::Written(expr) => self.exprs(infer, [expr]),
            Value::Item { condition } => self.exprs(infer, [condition]),
            Value::Unbound => {}
        }
    }

    /// A name of a module.
    fn module_name(&mut self, file: File, name: Name) {
        let index = module_index(self.db, file);
        let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return };
        self.next.extend(symbol.defs.iter().chain(&symbol.foreign).map(|def| Step::Definition(file, *def)));
    }

    fn definition(&mut self, infer: &mut Infer<'_>, def: DefId) {
        let index = infer.index;
        let file = infer.file;
        match &index.defs[def].kind {
            DefKind::Assign { value, comment, .. } => {
                self.exprs(infer, [*value]);
                if let Some(comment) = comment {
                    self.annotation(file, index.spans[*comment]);
                }
            }
            DefKind::Annotated { annotation, value } => {
                self.annotation(file, index.spans[*annotation]);
                self.exprs(infer, *value);
            }
            DefKind::Augmented { target, value, .. } => self.exprs(infer, [*target, *value]),
            DefKind::Named { value } | DefKind::TypeAlias { value } => self.exprs(infer, [*value]),
            DefKind::For { iterable, .. } => {
                self.exprs(infer, [*iterable]);
                let ty = infer.quietly(*iterable);
                self.members(ty, known::ITER);
                self.members(ty, known::NEXT);
            }
            DefKind::With { manager, .. } => {
                self.exprs(infer, [*manager]);
                let ty = infer.quietly(*manager);
                self.members(ty, known::ENTER);
            }
            DefKind::Param { function, index: place } => {
                let param = &index.functions[*function].params[*place as usize];
                if let Some(annotation) = param.annotation {
                    self.annotation(file, index.spans[annotation]);
                }
                let enclosing = enclosing_body(self.db, file, *function);
                self.next.extend(param.default.map(|default| Step::Expr(file, enclosing, default)));
            }
            DefKind::Capture { subject, .. } => self.exprs(infer, [*subject]),
            DefKind::ImportFrom { module, level, name, .. } => {
                if let Some(Imported::File(target)) = import_target(self.db, file, *module, *level) {
                    self.module_name(target, *name);
                }
            }
            DefKind::Function(function) => self.next.push(Step::Function(file, *function)),
            _ => {}
        }
    }

    /// What an object's attribute is.
    fn members(&mut self, object: Type, name: Name) {
        for part in parts(self.db.store(), &object).iter() {
            match *part {
                Type::Instance(id) | Type::Class(id) => {
                    let Some(found) = members::find(self.db, id, name, None) else { continue };
                    let class = self.db.store().instance(found.owner).class;
                    let record = &module_index(self.db, class.file).classes[class.class];
                    let scope = &module_index(self.db, class.file).scopes[record.scope];
                    let in_class = scope.symbols.get(&name).into_iter().flat_map(|symbol| symbol.defs.iter());
                    let in_methods = record.attributes.get(&name).into_iter().flatten();
                    self.next.extend(in_class.chain(in_methods).map(|def| Step::Definition(class.file, *def)));
                }
                Type::Module(file) => self.module_name(file, name),
                _ => {}
            }
        }
    }

    /// What a call gives.
    fn called(&mut self, callee: Type) {
        let store = self.db.store();
        for part in parts(store, &callee).iter() {
            match *part {
                Type::Function(id) => {
                    let function = store.function(id);
                    self.next.push(Step::Function(function.file, function.function));
                }
                Type::Method(id) => self.called(store.method(id).function),
                Type::Class(_) => self.members(*part, known::INIT),
                Type::Instance(_) => self.members(*part, known::CALL),
                _ => {}
            }
        }
    }

    /// What a function takes and gives.
    fn function(&mut self, file: File, function: FunctionId) {
        let index = module_index(self.db, file);
        let record = &index.functions[function];
        let annotations = record.params.iter().filter_map(|param| param.annotation).chain(record.returns);
        for annotation in annotations {
            self.annotation(file, index.spans[annotation]);
        }
        if record.returns.is_some() || file.is_stub(self.db) {
            return;
        }
        let body = &index.bodies[record.body];
        let given = body.returns.iter().filter_map(|statement| statement.value).chain(body.yields.iter().copied());
        self.next.extend(given.map(|expr| Step::Expr(file, record.body, expr)));
    }
}
