//! What calls pass to parameters, and what functions do with the parameters and attributes that nobody annotated: facts, for others to
//! weigh.

use std::sync::Arc;

use leitmotiv_index::tree::{
    ArgKind, BinaryOp, BodyId, CompareOp, DefId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind,
    StatementKind, UnaryOp, Value, ValueId,
};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::{FxHashMap, FxHashSet};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::infer::calls::Given;
use crate::outline::{module_index, reading};
use crate::resolve::builtin_instance;
use crate::types::{Binding, ClassRef, Type};

/// A parameter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Parameter {
    /// The file.
    pub file: File,
    /// The function.
    pub function: FunctionId,
    /// The parameter's place among the function's, 0-based, the first one of methods included.
    pub place: u32,
}

/// What something is done with: a parameter that nobody annotated, or what a class's methods call `self.name`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Subject {
    /// A parameter.
    Parameter(Parameter),
    /// An attribute that methods of the class assign on their object.
    Attribute(ClassRef, Name),
}

/// That a call passes something to a parameter of a function that is not bundled.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Passed {
    /// The parameter.
    pub to: Parameter,
    /// What it is given; of `*args` and `**kwargs`, one of those that are given.
    pub ty: Type,
    /// What nobody annotated and is passed on just so, if it is such.
    pub from: Option<Subject>,
    /// The argument, or the call where the argument comes from behind a star.
    pub range: TextRange,
}

/// Something that is done with a parameter or attribute.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Use {
    /// The parameter or attribute.
    pub of: Subject,
    /// What is done.
    pub kind: UseKind,
    /// Whether it is done with what iterating over it gives.
    pub on_element: bool,
    /// Whether it is done only where a call, as of `isinstance`, or a pattern has told more of it.
    pub is_narrowed: bool,
    /// Where.
    pub range: TextRange,
}

/// What is done with a parameter or attribute. Types of other things are without literals.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum UseKind {
    /// An attribute is read.
    Attribute {
        /// Its name.
        name: Name,
        /// Whether it is called at once.
        is_called: bool,
    },
    /// It is called.
    Called {
        /// With how many arguments; `None` where some stand behind a star.
        arguments: Option<usize>,
    },
    /// It is indexed.
    Indexed {
        /// By what; `None` of a slice.
        index: Option<Type>,
        /// Whether an item is written or deleted.
        is_written: bool,
    },
    /// It is iterated over.
    Iterated {
        /// `async for`
        is_async: bool,
    },
    /// It stands beside an operator.
    Operand {
        /// The operator.
        op: BinaryOp,
        /// What stands on the other side.
        other: Type,
    },
    /// It stands behind `-`, `+` or `~`.
    Signed,
    /// It is compared for being equal.
    Equal(Type),
    /// It is compared by order.
    Ordered(Type),
    /// It is asked whether something contains it: what that is.
    SoughtIn(Type),
    /// It is asked whether it contains something: what that is.
    Contains(Type),
    /// It is compared with None by `is`.
    ComparedWithNone,
    /// It is tested for truth.
    Tested,
    /// It is passed on.
    PassedOn {
        /// The parameter that takes it, where that is one of a function that is not bundled.
        to: Option<Parameter>,
        /// What that takes.
        expected: Type,
        /// How it is reached.
        kind: ParamKind,
    },
    /// It is spread behind `*`.
    Starred,
    /// It is spread behind `**`.
    DoubleStarred,
    /// It is asked for its class.
    Classed {
        /// What it is where the answer is yes.
        instance: Type,
        /// Whether the function goes on only where it is.
        is_required: bool,
    },
    /// It is asked whether it can be called.
    AskedCallable,
    /// It is awaited.
    Awaited,
    /// It is entered by `with`.
    Managed {
        /// `async with`
        is_async: bool,
    },
    /// It is raised.
    Raised,
    /// It is shown in a text.
    Formatted,
    /// It is given back.
    Returned,
    /// This stands in for it where it is None, or false: `berth or 3`, `3 if berth is None else berth`, `berth = 3`.
    Replaced(Type),
    /// It is kept as an attribute of the object.
    Kept {
        /// The class.
        class: ClassRef,
        /// The attribute.
        name: Name,
    },
}

/// What a file says of parameters, in the order of the text.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Handled {
    /// What its calls pass.
    pub passed: Vec<Passed>,
    /// What its functions do with their unannotated parameters.
    pub uses: Vec<Use>,
}

/// What a file says of parameters and attributes.
pub fn of(db: &dyn Db, file: File) -> Arc<Handled> {
    saw(db, file, Ask::Whole);
    of_query(db, file)
}

#[salsa::tracked(returns(clone))]
fn of_query(db: &dyn Db, file: File) -> Arc<Handled> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let mut handled = Handled::default();
    for (body, _) in index.bodies.iter() {
        let found = in_body(db, file, body);
        handled.passed.extend_from_slice(&found.passed);
        handled.uses.extend_from_slice(&found.uses);
    }
    handled.passed.sort_by_key(|passed| (passed.range.start(), passed.to.place));
    handled.uses.sort_by_key(|used| used.range.start());
    Arc::new(handled)
}

/// What one body says of parameters and attributes: what is said in the others stays when something changes that concerns this one alone.
pub(crate) fn in_body(db: &dyn Db, file: File, body: BodyId) -> &Handled {
    saw(db, file, Ask::Whole);
    in_body_query(db, file, body)
}

#[salsa::tracked(returns(ref))]
fn in_body_query(db: &dyn Db, file: File, body: BodyId) -> Handled {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let mut handled = Handled::default();
    let mut infer = Infer::new(db, file, body);
    infer.nears = usize::MAX / 2;
    infer.passed = Some(Vec::new());
    infer.check();
    infer.checking = false;
    let required = required(index, body);
    let mut walk = Walk { infer, index, file, out: &mut handled, known: FxHashMap::default(), required };
    walk.body(body);
    handled
}

struct Walk<'a, 'db> {
    infer: Infer<'db>,
    index: &'db ModuleIndex,
    file: File,
    out: &'a mut Handled,
    known: FxHashMap<ValueId, Option<Who>>,
    /// The conditions without which the function does not go on.
    required: FxHashSet<ExprId>,
}

/// The conditions without which a function does not go on: `assert condition`, `if not condition: raise …`.
fn required(index: &ModuleIndex, body: BodyId) -> FxHashSet<ExprId> {
    let mut required = FxHashSet::default();
    let leaving: FxHashSet<TextRange> =
        index.clauses.iter().filter(|clause| clause.leaves && clause.positive).map(|clause| clause.test).collect();
    for statement in &index.bodies[body].statements {
        match statement.kind {
            StatementKind::Assert { test, .. } => {
                required.insert(test);
            }
            StatementKind::Test(test) if leaving.contains(&index.spans[test]) => {
                if let Expr::Unary { op: UnaryOp::Not, operand } = index.exprs[test] {
                    required.insert(operand);
                }
            }
            _ => {}
        }
    }
    required
}

/// What a name stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct Who {
    of: Subject,
    on_element: bool,
    is_narrowed: bool,
}

/// How many values are followed from a name to a parameter.
const MOST_VALUES: usize = 32;

impl Walk<'_, '_> {
    fn body(&mut self, body: BodyId) {
        let index = self.index;
        let record = &index.bodies[body];
        let mut callees: FxHashSet<ExprId> = FxHashSet::default();
        for number in record.exprs.clone() {
            if let Expr::Call { callee, .. } = index.exprs[ExprId(number)] {
                callees.insert(callee);
            }
        }
        self.passed();
        for number in record.exprs.clone() {
            self.expr(ExprId(number), &callees);
        }
        for statement in &record.statements {
            if statement.reach.is_never() {
                continue;
            }
            self.statement(&statement.kind);
        }
        for number in record.defs.clone() {
            self.kept(DefId(number));
            self.replaced(DefId(number));
        }
    }

    fn passed(&mut self) {
        let mut all = self.infer.passed.take().unwrap_or_default();
        // What was worked out again in a loop is noted again: the last one has seen most.
        all.reverse();
        let mut seen = FxHashSet::default();
        for passed in all {
            let to = passed.function.map(|function| Parameter {
                file: function.file,
                function: function.function,
                place: passed.place,
            });
            let (ty, expr) = match passed.given {
                Given::Expr(expr) => (self.ty(expr), Some(expr)),
                Given::Type(ty) => (self.infer.widen(ty), passed.call),
            };
            let Some(expr) = expr else { continue };
            let is_own = to.filter(|to| !to.file.is_stub(self.infer.db));
            let key = (to, expr, matches!(passed.given, Given::Type(_)).then_some(ty));
            if !seen.insert(key) {
                continue;
            }
            let range = self.index.spans[expr];
            let who = match passed.given {
                Given::Expr(expr) => self.who(expr),
                Given::Type(_) => None,
            };
            self.called_back(ty, passed.expected, range);
            if let Some(to) = is_own {
                let from = who.filter(|who| !who.on_element && !who.is_narrowed).map(|who| who.of);
                self.out.passed.push(Passed { to, ty, from, range });
            }
            if let Some(who) = who {
                let kind = UseKind::PassedOn { to: is_own, expected: passed.expected, kind: passed.kind };
                self.used(who, kind, range);
            }
        }
    }

    /// What a function is called with that is passed on to be called.
    fn called_back(&mut self, ty: Type, expected: Type, range: TextRange) {
        let store = self.infer.db.store();
        let (function, skipped) = match ty {
            Type::Method(id) => (store.method(id).function, 1),
            ty => (ty, 0),
        };
        let Type::Function(id) = function else { return };
        let function = *store.function(id);
        let Some(Type::Callable(id)) =
            crate::types::union::parts(store, &expected).iter().find(|part| matches!(part, Type::Callable(_)))
        else {
            return;
        };
        if function.file.is_stub(self.infer.db) {
            return;
        }
        for (place, param) in store.signature(*id).params.iter().enumerate() {
            if !matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal) {
                break;
            }
            let place = u32::try_from(place + skipped).unwrap_or(u32::MAX);
            let to = Parameter { file: function.file, function: function.function, place };
            let ty = self.infer.widen(param.ty);
            let is_told = !ty.is_dynamic() && !crate::types::substitute::has_variables(store, ty);
            if is_told {
                self.out.passed.push(Passed { to, ty, from: None, range });
            }
        }
    }

    fn used(&mut self, who: Who, kind: UseKind, range: TextRange) {
        let Who { of, on_element, is_narrowed } = who;
        self.out.uses.push(Use { of, kind, on_element, is_narrowed, range });
    }

    fn note(&mut self, of: ExprId, kind: UseKind) {
        if let Some(who) = self.who(of) {
            self.used(who, kind, self.index.spans[of]);
        }
    }

    /// The type of an expression, without literals.
    fn ty(&mut self, expr: ExprId) -> Type {
        let ty = self.infer.quietly(expr);
        self.infer.widen(ty)
    }

    /// The unannotated parameter or attribute that an expression is, or what iterating over one gives.
    fn who(&mut self, expr: ExprId) -> Option<Who> {
        let value = match self.index.exprs[expr] {
            Expr::Name(_, value) => value,
            Expr::Attribute { value, name, place } => return self.attribute(value, name, place),
            _ => return None,
        };
        if let Some(known) = self.known.get(&value) {
            return *known;
        }
        let found = self.behind(value);
        self.known.insert(value, found);
        found
    }

    fn attribute(&self, object: ExprId, name: Name, place: ValueId) -> Option<Who> {
        let index = self.index;
        let Expr::Name(_, object) = index.exprs[object] else { return None };
        let Value::Def(def) = index.values[index.unnarrowed(object)] else { return None };
        let DefKind::Param { function, index: 0 } = index.defs[def].kind else { return None };
        let class = index.functions[function].class?;
        let is_object = crate::outline::functions::binding(self.infer.db, index, function) == Binding::Instance;
        let defs = index.classes[class].attributes.get(&name)?;
        let is_declared = defs.iter().any(|def| matches!(index.defs[*def].kind, DefKind::Annotated { .. }));
        if !is_object || is_declared || index.scopes[index.classes[class].scope].symbols.contains_key(&name) {
            return None;
        }
        let mut is_narrowed = false;
        let mut value = place;
        for _ in 0..MOST_VALUES {
            match value.known().map(|value| index.values[value]) {
                Some(Value::Narrow { of, condition, .. }) => {
                    is_narrowed |= matches!(index.exprs[condition], Expr::Call { .. });
                    value = of;
                }
                Some(Value::Matched { of, .. }) => {
                    is_narrowed = true;
                    value = of;
                }
                // What was just assigned says nothing of what others may find there.
                Some(Value::Def(_)) => return None,
                _ => break,
            }
        }
        let of = Subject::Attribute(ClassRef { file: self.file, class }, name);
        Some(Who { of, on_element: false, is_narrowed })
    }

    fn behind(&mut self, value: ValueId) -> Option<Who> {
        let index = self.index;
        let mut waiting = vec![(value, false)];
        let mut seen: FxHashSet<ValueId> = FxHashSet::default();
        let mut found: Option<Who> = None;
        let mut add = |who: Who| match &mut found {
            None => {
                found = Some(who);
                true
            }
            Some(known) => {
                // Where the ways come together, what one of them has told does not hold any more.
                known.is_narrowed &= who.is_narrowed;
                (known.of, known.on_element) == (who.of, who.on_element)
            }
        };
        while let Some((value, is_narrowed)) = waiting.pop() {
            if !seen.insert(value) {
                continue;
            }
            if seen.len() > MOST_VALUES {
                return None;
            }
            match index.values[value] {
                Value::Narrow { of, condition, .. } => {
                    let is_call = matches!(index.exprs[condition], Expr::Call { .. });
                    waiting.push((of, is_narrowed || is_call));
                }
                Value::Matched { of, .. } => waiting.push((of, true)),
                Value::Phi { start, len, .. } => {
                    waiting.extend(index.phi(start, len).iter().map(|(_, value)| (*value, is_narrowed)));
                }
                Value::Captured { value, .. } => waiting.push((value, is_narrowed)),
                Value::Closure { scope, name } => {
                    let symbol = index.scopes[scope].symbols.get(&name)?;
                    let [only] = symbol.defs.as_slice() else { return None };
                    if let Some(who) = self.param(*only)
                        && !add(Who { is_narrowed, ..who })
                    {
                        return None;
                    }
                }
                Value::Def(def) => match &index.defs[def].kind {
                    DefKind::Param { .. } => {
                        if let Some(who) = self.param(def)
                            && !add(Who { is_narrowed, ..who })
                        {
                            return None;
                        }
                    }
                    DefKind::For { iterable, unpack: None, .. } => {
                        let Expr::Name(_, value) = index.exprs[*iterable] else { continue };
                        let Value::Def(of) = index.values[index.unnarrowed(value)] else { continue };
                        if let Some(who) = self.param(of)
                            && !add(Who { is_narrowed, on_element: true, ..who })
                        {
                            return None;
                        }
                    }
                    _ => {}
                },
                _ => {}
            }
        }
        found
    }

    /// A parameter that nobody annotated, and that is not a method's own object.
    fn param(&self, def: DefId) -> Option<Who> {
        let DefKind::Param { function, index: place } = self.index.defs[def].kind else { return None };
        let record = &self.index.functions[function];
        let param = record.params.get(place as usize)?;
        let is_receiver = place == 0
            && record.class.is_some()
            && crate::outline::functions::binding(self.infer.db, self.index, function) != Binding::Static;
        let is_single = !matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs);
        let of = Subject::Parameter(Parameter { file: self.file, function, place });
        (param.annotation.is_none() && !is_receiver && is_single).then_some(Who {
            of,
            on_element: false,
            is_narrowed: false,
        })
    }

    fn expr(&mut self, expr: ExprId, callees: &FxHashSet<ExprId>) {
        match &self.index.exprs[expr] {
            Expr::Attribute { value, name, .. } => {
                self.note(*value, UseKind::Attribute { name: *name, is_called: callees.contains(&expr) });
            }
            Expr::Subscript { value, index, .. } if self.who(*value).is_some() => {
                let is_slice = matches!(self.index.exprs[*index], Expr::Slice(_));
                let index = if is_slice { None } else { Some(self.ty(*index)) };
                self.note(*value, UseKind::Indexed { index, is_written: false });
            }
            Expr::Call { callee, args } => {
                let is_open = args.iter().any(|arg| matches!(arg.kind, ArgKind::Star | ArgKind::DoubleStar));
                self.note(*callee, UseKind::Called { arguments: (!is_open).then_some(args.len()) });
                for arg in args {
                    match arg.kind {
                        ArgKind::Star => self.note(arg.value, UseKind::Starred),
                        ArgKind::DoubleStar => self.note(arg.value, UseKind::DoubleStarred),
                        _ => {}
                    }
                }
                self.asked(expr, *callee, args);
            }
            Expr::Binary { op, left, right } => {
                for (one, other) in [(*left, *right), (*right, *left)] {
                    if self.who(one).is_some() {
                        let other = self.ty(other);
                        self.note(one, UseKind::Operand { op: *op, other });
                    }
                }
            }
            Expr::Unary { op: UnaryOp::Not, operand } => self.note(*operand, UseKind::Tested),
            Expr::Unary { operand, .. } => self.note(*operand, UseKind::Signed),
            // What the last one is nobody asks.
            Expr::BoolOp { operands, and } => {
                if !and
                    && let [one, .., other] = &**operands
                    && self.who(*one).is_some()
                {
                    let other = self.ty(*other);
                    self.note(*one, UseKind::Replaced(other));
                }
                for operand in operands.iter().take(operands.len() - 1) {
                    self.note(*operand, UseKind::Tested);
                }
            }
            Expr::Compare { left, rest } => {
                let mut left = *left;
                for (op, right) in rest {
                    self.compared(*op, left, *right);
                    left = *right;
                }
            }
            Expr::Conditional { test, then, otherwise } => {
                self.note(*test, UseKind::Tested);
                for (one, other) in [(*then, *otherwise), (*otherwise, *then)] {
                    if self.who(one).is_some() && self.asks_of(*test, one) {
                        let other = self.ty(other);
                        self.note(one, UseKind::Replaced(other));
                    }
                }
            }
            Expr::FString(parts) | Expr::TString(parts) => {
                for part in parts {
                    self.note(*part, UseKind::Formatted);
                }
            }
            Expr::Starred(inner) | Expr::YieldFrom(inner) => {
                self.note(*inner, UseKind::Iterated { is_async: false });
            }
            Expr::Await(inner) => self.note(*inner, UseKind::Awaited),
            Expr::Comprehension(id) => {
                let comprehension = &self.index.comprehensions[*id];
                for iterable in &comprehension.iterables {
                    self.note(*iterable, UseKind::Iterated { is_async: comprehension.is_async });
                }
                for condition in &comprehension.conditions {
                    self.note(*condition, UseKind::Tested);
                }
            }
            _ => {}
        }
    }

    /// Whether a condition is the truth of something, or compares it.
    fn asks_of(&mut self, test: ExprId, of: ExprId) -> bool {
        let asked = match &self.index.exprs[test] {
            Expr::Compare { left, .. } => *left,
            Expr::Unary { op: UnaryOp::Not, operand } => *operand,
            _ => test,
        };
        let (asked, of) = (self.who(asked), self.who(of));
        asked.is_some() && asked.map(|who| who.of) == of.map(|who| who.of)
    }

    fn asked(&mut self, expr: ExprId, callee: ExprId, args: &[leitmotiv_index::tree::Arg]) {
        let Expr::Name(name, _) = self.index.exprs[callee] else { return };
        match args {
            [arg, classes] if name == known::ISINSTANCE && self.who(arg.value).is_some() => {
                let classes = classes.value;
                let ty = self.infer.quietly(classes);
                let instance = self.infer.instances_of(ty, classes);
                let is_required = self.required.contains(&expr);
                self.note(arg.value, UseKind::Classed { instance, is_required });
            }
            [arg] if self.infer.db.names().text(name) == "callable" => self.note(arg.value, UseKind::AskedCallable),
            _ => {}
        }
    }

    fn compared(&mut self, op: CompareOp, left: ExprId, right: ExprId) {
        let is_none = |expr: ExprId| matches!(self.index.exprs[expr], Expr::None);
        match op {
            CompareOp::Is | CompareOp::IsNot => {
                if is_none(right) {
                    self.note(left, UseKind::ComparedWithNone);
                }
            }
            CompareOp::In | CompareOp::NotIn => {
                if self.who(left).is_some() {
                    let container = self.ty(right);
                    self.note(left, UseKind::SoughtIn(container));
                }
                if self.who(right).is_some() {
                    let member = self.ty(left);
                    self.note(right, UseKind::Contains(member));
                }
            }
            _ => {
                for (one, other) in [(left, right), (right, left)] {
                    if self.who(one).is_none() {
                        continue;
                    }
                    if is_none(other) {
                        self.note(one, UseKind::ComparedWithNone);
                        continue;
                    }
                    let other = self.ty(other);
                    let is_equality = matches!(op, CompareOp::Eq | CompareOp::NotEq);
                    self.note(one, if is_equality { UseKind::Equal(other) } else { UseKind::Ordered(other) });
                }
            }
        }
    }

    fn statement(&mut self, kind: &StatementKind) {
        match kind {
            StatementKind::For { iterable, is_async, .. } => {
                self.note(*iterable, UseKind::Iterated { is_async: *is_async });
            }
            StatementKind::With { manager, is_async, .. } => {
                self.note(*manager, UseKind::Managed { is_async: *is_async });
            }
            StatementKind::Test(test) | StatementKind::Assert { test, .. } => self.note(*test, UseKind::Tested),
            StatementKind::Return(place) => {
                if let Some(value) = self.index.bodies[self.infer.body].returns[*place].value {
                    self.note(value, UseKind::Returned);
                }
            }
            StatementKind::Raise { exception, cause } => {
                for raised in exception.iter().chain(cause) {
                    self.note(*raised, UseKind::Raised);
                }
            }
            StatementKind::Augmented { target, op, value } => {
                if self.who(*target).is_some() {
                    let other = self.ty(*value);
                    self.note(*target, UseKind::Operand { op: *op, other });
                }
                if self.who(*value).is_some() {
                    let other = self.ty(*target);
                    self.note(*value, UseKind::Operand { op: *op, other });
                }
            }
            StatementKind::Function(function) => {
                let any = functions::any_callable(self.infer.db.store(), Type::Any);
                self.decorated(&self.index.functions[*function].decorators, any);
            }
            StatementKind::Class(class) => {
                let any = builtin_instance(self.infer.db, known::TYPE, &[]);
                self.decorated(&self.index.classes[*class].decorators, any);
            }
            StatementKind::Assign { targets, .. } => targets.iter().for_each(|target| self.written(*target)),
            StatementKind::Delete(targets) => targets.iter().for_each(|target| self.written(*target)),
            _ => {}
        }
    }

    /// What a definition passes to the decorator that gets it first: one of many, as decorators are meant.
    fn decorated(&mut self, decorators: &[ExprId], ty: Type) {
        let Some(decorator) = decorators.last() else { return };
        let store = self.infer.db.store();
        let (function, place) = match self.ty(*decorator) {
            Type::Function(id) => (store.function(id), 0),
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => (store.function(id), 1),
                _ => return,
            },
            _ => return,
        };
        if !function.file.is_stub(self.infer.db) {
            let to = Parameter { file: function.file, function: function.function, place };
            self.out.passed.push(Passed { to, ty, from: None, range: self.index.spans[*decorator] });
        }
    }

    fn written(&mut self, target: ExprId) {
        if let Expr::Subscript { value, index, .. } = self.index.exprs[target]
            && self.who(value).is_some()
        {
            let is_slice = matches!(self.index.exprs[index], Expr::Slice(_));
            let index = if is_slice { None } else { Some(self.ty(index)) };
            self.note(value, UseKind::Indexed { index, is_written: true });
        }
    }

    /// What is assigned to a parameter's own name, and not made of it.
    fn replaced(&mut self, def: DefId) {
        let index = self.index;
        let record = &index.defs[def];
        let DefKind::Assign { value, unpack: None, .. } = record.kind else { return };
        let Some(function) = index.bodies[record.body].function.map(|function| &index.functions[function]) else {
            return;
        };
        let Some(param) = function.params.iter().find(|param| param.name == record.name) else { return };
        if record.scope != function.scope {
            return;
        }
        let Some(who) = self.param(param.def) else { return };
        let span = index.spans[value];
        let is_own = |number: u32| {
            let expr = ExprId(number);
            matches!(index.exprs[expr], Expr::Name(name, _) if name == record.name)
                && span.contains_range(index.spans[expr])
        };
        if !index.bodies[record.body].exprs.clone().any(is_own) {
            let ty = self.ty(value);
            self.used(who, UseKind::Replaced(ty), span);
        }
    }

    /// Attributes of the method's object that a parameter is kept as.
    fn kept(&mut self, def: DefId) {
        let DefKind::Assign { value, unpack: None, .. } = &self.index.defs[def].kind else { return };
        let value = *value;
        let Some(who) = self.who(value) else { return };
        let record = &self.index.defs[def];
        let Some(class) =
            self.index.bodies[record.body].function.and_then(|function| self.index.functions[function].class)
        else {
            return;
        };
        let is_attribute =
            self.index.classes[class].attributes.get(&record.name).is_some_and(|defs| defs.contains(&def));
        if is_attribute {
            let class = ClassRef { file: self.file, class };
            self.used(who, UseKind::Kept { class, name: record.name }, self.index.spans[value]);
        }
    }
}
