//! Values and definitions.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, FillKind, Filled, UnpackStep, Value, ValueId};
use leitmotiv_syntax::names::known;

use super::{Entry, Infer};
use crate::base::assumed;
use crate::context::TypeContext;
use crate::definitions::functions;
use crate::resolve::Imported;
use crate::resolve::{captured_type, import_target, member, module_value, scope_type};
use crate::types::union;
use crate::types::{Cause, CauseKind, ClassRef, Instance, Type};

/// So many literals may come together on the ways to a value before it is just of their classes. Said in
/// docs/architecture.md.
const MOST_GATHERED: usize = 256;

/// Rounds after which a loop's head is given up as unknown.
const MOST_ROUNDS: u32 = 6;

impl TypeContext<'_> {
    /// A union without the classes that derive from another of its parts.
    fn subsume(&self, ty: Type) -> Type {
        let Type::Union(id) = ty else { return ty };
        let store = self.db.store();
        let parts = store.union_parts(id);
        crate::types::union::filter(store, ty, |part| {
            let Type::Instance(own) = part else { return true };
            !parts.iter().any(|other| match other {
                Type::Instance(other) if *other != own => {
                    let (own, other) = (store.instance(own), store.instance(*other));
                    own.class != other.class
                        && other.args.is_empty()
                        && crate::definitions::classes::derives(self.db, own.class, other.class) == Some(true)
                }
                _ => false,
            })
        })
    }

    /// The union of what a value is on the ways that meet. Literals that came together one by one are, when they are very
    /// many, just of their classes; closed sets that somebody wrote stay whole.
    fn join_ways(&self, parts: Vec<Type>) -> Type {
        let store = self.db.store();
        let literals =
            |ty: &Type| union::parts(store, ty).iter().filter(|part| matches!(part, Type::Literal(_))).count();
        let is_small = parts.iter().all(|part| literals(part) <= MOST_GATHERED);
        let joined = self.join(parts);
        if is_small && literals(&joined) > MOST_GATHERED { self.widen(joined) } else { joined }
    }

    /// A type as a value.
    pub(crate) fn form(&self, ty: Type) -> Type {
        match ty {
            Type::Instance(id) => Type::Class(id),
            Type::Any | Type::Unknown(_) => ty,
            ty => Type::Form(self.db.store().intern_type(ty)),
        }
    }

    /// The class as a value.
    pub(crate) fn class_value(&self, class: ClassRef) -> Type {
        Type::Class(self.db.store().intern_instance(Instance { class, args: Box::new([]) }))
    }

    /// An instance of a class, with something unknown in the place of arguments that are not given.
    pub(crate) fn open_instance(&self, id: crate::types::InstanceId, unknown: Type) -> Type {
        let instance = self.db.store().instance(id);
        let params = crate::definitions::classes::info(self.db, instance.class).params.len();
        if params == 0 || !instance.args.is_empty() {
            return self.normal_instance(id);
        }
        let args = vec![unknown; params];
        self.normal_instance(crate::resolve::instance_of(self.db, instance.class, &args))
    }

    /// Instances of `tuple` are tuples, those of `NoneType` are `None`.
    pub(crate) fn normal_instance(&self, id: crate::types::InstanceId) -> Type {
        let instance = self.db.store().instance(id);
        if crate::resolve::is_builtin(self.db, instance.class, known::TUPLE) {
            return self.tuple_of_any(instance.args.first().copied().unwrap_or(Type::Any));
        }
        if crate::resolve::is_standard(self.db, instance.class, known::TYPES, known::NONE_TYPE) {
            return Type::None;
        }
        Type::Instance(id)
    }
}

impl Infer<'_> {
    /// The type of a value. `Never` where the name is not bound.
    pub fn value(&mut self, value: ValueId) -> Type {
        if let Some(ty) = self.values.get(&value) {
            return *ty;
        }
        if let Some((so_far, asked)) = self.heads.get_mut(&value) {
            *asked = true;
            return *so_far;
        }
        let ty = match self.index.values[value] {
            Value::Unbound => Type::Never,
            Value::Global(name) => self.global(name).unwrap_or(Type::Never),
            Value::Closure { scope, name } => scope_type(self.db, self.file, scope, name),
            Value::Captured { body, value } => captured_type(self.db, self.file, body, value),
            Value::Deferred { scope, name } => self.deferred(scope, name).unwrap_or(Type::Never),
            Value::Def(def) => self.current(def),
            Value::Phi { start, len, is_loop: false }
                if self.index.roots.contains_key(&value)
                    && let Some(of) = self.merged(start, len)
                    && of != value =>
            {
                self.value(of)
            }
            Value::Phi { start, len, is_loop: false } => {
                let mut parts = Vec::with_capacity(len as usize);
                for (reach, arg) in self.index.phi(start, len) {
                    if self.reachable(*reach) {
                        parts.push(self.value(*arg));
                    }
                }
                let joined = self.join_ways(parts);
                // Narrowings of one value, together again.
                if self.index.roots.contains_key(&value) { self.subsume(joined) } else { joined }
            }
            Value::Phi { start, len, is_loop: true } => self.loop_head(value, start, len),
            Value::Narrow { of, condition, subject, positive } => {
                let ty = self.value(of);
                self.narrow(ty, condition, subject, positive)
            }
            Value::Matched { of, pattern, positive } => {
                let ty = self.value(of);
                self.narrow_pattern(ty, pattern, positive)
            }
            Value::Natural(expr) => self.natural(expr),
            Value::Given(expr) => {
                let natural = self.natural(expr);
                match union::filter(self.db.store(), natural, |part| part != Type::None) {
                    Type::Never => natural,
                    given => given,
                }
            }
            Value::Written(expr) => self.expr(expr),
            Value::Item { condition } => self.item_found(condition),
        };
        self.values.insert(value, ty);
        self.journal.push(Entry::Value(value));
        ty
    }

    /// What a name means to others that is bound first by `class`, `def` or `import` and assigned on other ways, as where
    /// `None` stands for a module that is not installed: the statements say what it is (typing specification, "Type
    /// declarations"), the assignments are for want of it. `None` where that is not so.
    pub(crate) fn stated(&mut self, value: ValueId) -> Option<Type> {
        let mut leaves = Vec::new();
        self.leaves(value, &mut leaves, 0);
        // What stands in for something that cannot be imported means the same.
        let is_stand_in = |infer: &Self, def: &DefId| {
            let record = &infer.index.defs[*def];
            matches!(record.kind, DefKind::Class(_) | DefKind::Function(_))
                && infer.index.fallbacks.iter().any(|handler| handler.contains_range(record.range))
        };
        if leaves.iter().any(|def| is_stand_in(self, def)) {
            let meant: Vec<DefId> = leaves.iter().copied().filter(|def| !is_stand_in(self, def)).collect();
            if !meant.is_empty() {
                let types: Vec<Type> = meant.into_iter().map(|def| self.definition(def)).collect();
                return Some(self.join(types));
            }
        }
        let is_statement = |infer: &Self, def: &DefId| {
            matches!(
                infer.index.defs[*def].kind,
                DefKind::Class(_) | DefKind::Function(_) | DefKind::Import { .. } | DefKind::ImportFrom { .. }
            )
        };
        let stated: Vec<DefId> = leaves.iter().copied().filter(|def| is_statement(self, def)).collect();
        let comes_first = leaves.iter().min().is_some_and(|first| stated.contains(first));
        if !comes_first || stated.len() == leaves.len() {
            return None;
        }
        let types: Vec<Type> = stated.into_iter().map(|def| self.definition(def)).collect();
        Some(self.join(types))
    }

    /// The definitions that meet in a value.
    pub(crate) fn leaves(&mut self, value: ValueId, leaves: &mut Vec<DefId>, depth: u32) {
        match self.index.values[value] {
            Value::Def(def) if !leaves.contains(&def) => leaves.push(def),
            Value::Phi { start, len, is_loop: false } if depth < 16 => {
                for (reach, arg) in self.index.phi(start, len) {
                    if self.reachable(*reach) {
                        self.leaves(*arg, leaves, depth + 1);
                    }
                }
            }
            _ => {}
        }
    }

    /// Whether nothing is known of a place on some way that can be gone.
    pub(crate) fn is_lost(&mut self, value: ValueId) -> bool {
        match self.index.values[value] {
            Value::Unbound => true,
            Value::Narrow { .. } | Value::Matched { .. } => {
                let root = self.index.unnarrowed(value);
                self.is_lost(root)
            }
            Value::Phi { start, len, is_loop: false } => {
                self.index.phi(start, len).iter().any(|(reach, arg)| self.is_lost(*arg) && self.reachable(*reach))
            }
            _ => false,
        }
    }

    /// Whether a place holds, on some way, what was written to it.
    pub(crate) fn is_written(&self, value: ValueId) -> bool {
        match self.index.values[value] {
            Value::Written(_) => true,
            Value::Narrow { .. } | Value::Matched { .. } => self.is_written(self.index.unnarrowed(value)),
            Value::Phi { start, len, is_loop: false } => {
                self.index.phi(start, len).iter().any(|(_, arg)| self.is_written(*arg))
            }
            Value::Phi { is_loop, .. } => is_loop,
            _ => false,
        }
    }

    /// Iterates a loop's head until it stands still. It does: each round's type holds the last one's, and the last round
    /// allowed gives an unknown.
    fn loop_head(&mut self, value: ValueId, start: u32, len: u32) -> Type {
        let args = self.index.phi(start, len);
        let mut so_far = match args.first() {
            Some((reach, first)) if self.reachable(*reach) => self.value(*first),
            _ => Type::Never,
        };
        let mark = self.mark();
        for round in 0..MOST_ROUNDS {
            self.heads.insert(value, (so_far, false));
            let mut parts = vec![so_far];
            for (reach, arg) in args.iter().skip(1) {
                if self.reachable(*reach) {
                    parts.push(self.value(*arg));
                }
            }
            let asked = self.heads.remove(&value).is_some_and(|(_, asked)| asked);
            let mut joined = self.join(parts);
            // Literals that become ever more, as by counting, are just of their class; those that stand still are what there is.
            if round >= 1 && joined != so_far {
                joined = self.widen(joined);
            }
            if joined == so_far || !asked {
                return joined;
            }
            self.roll_back(mark);
            so_far = joined;
        }
        let (at, name) = match args.get(1).map(|(_, arg)| self.index.values[*arg]) {
            Some(Value::Def(def)) => (self.index.anchor_of_def(def), self.index.defs[def].name),
            _ => (Anchor::Module, known::EMPTY),
        };
        let cause = Cause { kind: CauseKind::Cycle, file: self.file, at, name };
        Type::Unknown(self.db.store().intern_cause(cause))
    }

    /// What a definition gives by itself, without what is declared elsewhere.
    pub fn definition(&mut self, def: DefId) -> Type {
        if let Some(ty) = self.defs.get(&def) {
            return *ty;
        }
        if self.open_defs.contains(&def) {
            return Type::Never;
        }
        self.open_defs.push(def);
        let ty = self.define(def);
        self.open_defs.pop();
        self.defs.insert(def, ty);
        self.journal.push(Entry::Def(def));
        ty
    }

    fn define(&mut self, def: DefId) -> Type {
        let db = self.db;
        let record = &self.index.defs[def];
        match &record.kind {
            // `x = other()  # type: ignore`: the author says that this is not what the name is.
            DefKind::Assign { .. } if self.is_overruled(def) => {
                let at = self.index.anchor_of_def(def);
                let cause = Cause { kind: CauseKind::Dynamic, file: self.file, at, name: record.name };
                Type::Unknown(db.store().intern_cause(cause))
            }
            DefKind::Assign { value, unpack, .. } => {
                if unpack.is_none()
                    && let Some(special) = self.special_assignment(def, *value)
                {
                    return special;
                }
                let ty = self.expr(*value);
                match unpack {
                    Some(steps) => self.unpack(ty, steps),
                    None if self.may_be_filled(*value) => self.filled(def, ty),
                    None => ty,
                }
            }
            DefKind::Annotated { annotation, value } => match (self.declared_annotation(*annotation), value) {
                (Some(declared), _) => declared,
                (None, Some(value)) => self.alias_or_value(*annotation, *value),
                (None, None) => self.unknown(CauseKind::Bare, *annotation),
            },
            DefKind::Augmented { target, op, value } => {
                let left = self.expr(*target);
                let right = self.expr(*value);
                if *op == leitmotiv_index::tree::BinaryOp::BitOr && self.typed_dict_fields(left).is_some() {
                    return left;
                }
                let result = self.binary_result(*op, left, right, true);
                // What is refused changes nothing of what is declared.
                result.unwrap_or_else(|| match self.declaration_elsewhere(def) {
                    Some(declared) => declared,
                    None => self.unknown(CauseKind::Reported, *target),
                })
            }
            DefKind::For { iterable, unpack, is_async } => {
                let ty = self.expr(*iterable);
                let element =
                    self.element(ty, *is_async).unwrap_or_else(|| self.unknown(CauseKind::Reported, *iterable));
                self.unpack(element, unpack.as_deref().unwrap_or_default())
            }
            DefKind::With { manager, unpack, is_async } => {
                let ty = self.expr(*manager);
                let entered =
                    self.entered(ty, *is_async).unwrap_or_else(|| self.unknown(CauseKind::Reported, *manager));
                self.unpack(entered, unpack.as_deref().unwrap_or_default())
            }
            DefKind::Except { exception, star } => self.exception(*exception, *star),
            DefKind::Import { module, alias } => {
                let target = if *alias { *module } else { crate::resolve::root_name(db, *module) };
                match module_value(db, target, Some(self.file)) {
                    Some(ty) => ty,
                    None => self.unresolved(def),
                }
            }
            DefKind::ImportFrom { module, level, name, .. } => match import_target(db, self.file, *module, *level) {
                Some(Imported::File(file)) => {
                    // A package's `__init__` that imports from itself means the submodule.
                    let found = if file == self.file {
                        crate::resolve::submodule(db, file, *name)
                    } else {
                        member(db, file, *name)
                    };
                    found.unwrap_or_else(|| self.unresolved(def))
                }
                Some(Imported::Namespace(package)) => {
                    let full = format!("{}.{}", db.names().text(package), db.names().text(*name));
                    let full = db.names().intern(&full);
                    module_value(db, full, Some(self.file)).unwrap_or_else(|| self.unresolved(def))
                }
                None => self.unresolved(def),
            },
            DefKind::Star { .. } => Type::Never,
            DefKind::Function(function) => functions::value(db, self.file, *function),
            DefKind::Class(class) => self.class_value(ClassRef { file: self.file, class: *class }),
            DefKind::Param { .. } if self.given_params.contains_key(&def) => self.given_params[&def],
            DefKind::Param { function, index } => {
                if let Some(ty) = assumed::parameter(db, self.file, *function, *index) {
                    let param = &self.index.functions[*function].params[*index as usize];
                    if param.annotation.is_none() {
                        return functions::inside(db, param.kind, ty);
                    }
                }
                if let Some((concluding, depth)) = self.concluding
                    && let Some(ty) = (concluding.parameter)(db, self.file, *function, *index, depth)
                {
                    let param = &self.index.functions[*function].params[*index as usize];
                    return functions::inside(db, param.kind, ty);
                }
                let declared = functions::declared(db, self.file, *function);
                match declared.params.get(*index as usize) {
                    Some(param) => functions::inside(db, param.kind, param.ty),
                    None => Type::Any,
                }
            }
            DefKind::LambdaParam { lambda, index } => match self.given_params.get(&def) {
                Some(ty) => *ty,
                None => {
                    let param = &self.index.lambdas[*lambda].params[*index as usize];
                    let cause = Cause {
                        kind: CauseKind::Parameter,
                        file: self.file,
                        at: self.index.anchor_of_def(def),
                        name: param.name,
                    };
                    let unknown = Type::Unknown(db.store().intern_cause(cause));
                    functions::inside(db, param.kind, unknown)
                }
            },
            DefKind::Named { value } => self.expr(*value),
            DefKind::Capture { subject, value, pattern } => {
                let whole = match value.known() {
                    Some(value) => self.value(value),
                    None => self.expr(*subject),
                };
                self.captured(whole, *pattern)
            }
            DefKind::TypeParam { .. } => self.type_param(def).map_or(Type::Any, Type::Var),
            // The name is that of an alias, also where it stands for a class (PEP 695).
            DefKind::TypeAlias { value } => match self.annotation(*value) {
                ty if ty.is_dynamic() => ty,
                ty => Type::Form(db.store().intern_type(ty)),
            },
        }
    }

    /// Whether a name that is bound elsewhere as well is assigned on a line whose findings a comment hides.
    fn is_overruled(&self, def: DefId) -> bool {
        let index = self.index;
        let record = &index.defs[def];
        if index.comments.is_empty() || self.is_attribute(def) {
            return false;
        }
        let symbol = &index.scopes[record.scope].symbols[&record.name];
        symbol.defs.len() + symbol.foreign.len() >= 2 && self.is_silenced(def)
    }

    /// Whether a comment says that what binds a name or an attribute is not to be told of.
    pub(crate) fn is_silenced(&self, def: DefId) -> bool {
        use leitmotiv_syntax::comments::Meaning;
        let index = self.index;
        if index.comments.is_empty() {
            return false;
        }
        let record = &index.defs[def];
        let line = index.lines.0.index_of(record.range.start());
        index.comments.iter().any(|comment| {
            matches!(comment.meaning, Some(Meaning::Ignore { .. }))
                && !comment.own_line
                && index.lines.0.index_of(comment.range.start()) == line
        })
    }

    /// The unknown that an import leaves behind which leads nowhere.
    fn unresolved(&self, def: DefId) -> Type {
        let record = &self.index.defs[def];
        let (DefKind::Import { module, .. } | DefKind::ImportFrom { module, .. }) = record.kind else {
            return Type::Any;
        };
        let at = self.index.anchor_of_def(def);
        let cause = Cause { kind: CauseKind::UnresolvedImport, file: self.file, at, name: module };
        Type::Unknown(self.db.store().intern_cause(cause))
    }

    /// The exception that a handler binds.
    fn exception(&mut self, exception: Option<ExprId>, star: bool) -> Type {
        let Some(exception) = exception else { return self.builtin(known::BASE_EXCEPTION) };
        let ty = self.expr(exception);
        let raised = self.instances_of(ty, exception);
        if star {
            let names = self.db.names();
            // A group of exceptions that are all `Exception`s is an `ExceptionGroup` (PEP 654).
            let plain = self.builtin(names.intern("Exception"));
            let name = if self.is_assignable(raised, plain) { "ExceptionGroup" } else { "BaseExceptionGroup" };
            return crate::resolve::builtin_instance(self.db, names.intern(name), &[raised]);
        }
        raised
    }

    /// Instances of the class or classes that a value stands for, as in `except (A, B)` and `isinstance`.
    pub(crate) fn instances_of(&mut self, ty: Type, at: ExprId) -> Type {
        let store = self.db.store();
        match ty {
            Type::Class(id) => {
                let unknown = self.unknown(CauseKind::Bare, at);
                self.open_instance(id, unknown)
            }
            Type::SubclassOf(id) => *store.single(id),
            Type::Tuple(id) => {
                let tuple = store.tuple(id).clone();
                let parts: Vec<Type> = tuple
                    .prefix
                    .iter()
                    .chain(&tuple.rest)
                    .chain(&tuple.suffix)
                    .map(|part| self.instances_of(*part, at))
                    .collect();
                self.join(parts)
            }
            Type::Union(id) => {
                let parts: Vec<Type> = store.union_parts(id).to_vec();
                let parts: Vec<Type> = parts.into_iter().map(|part| self.instances_of(part, at)).collect();
                self.join(parts)
            }
            Type::Form(id) => *store.single(id),
            Type::Unknown(_) | Type::Any => ty,
            _ => self.unknown(CauseKind::Dynamic, at),
        }
    }

    /// Whether what a display or call creates may take elements from what is put in later.
    fn may_be_filled(&self, value: ExprId) -> bool {
        match &self.index.exprs[value] {
            // Lists are looked at for what takes the place of their elements as well.
            Expr::List(_) | Expr::Dict(_) => true,
            Expr::Call { callee, args } => match self.index.exprs[*callee] {
                Expr::Name(known::LIST | known::DICT | known::SET_CLASS, _) => args.is_empty(),
                Expr::Name(name, _) | Expr::Attribute { name, .. } => {
                    matches!(self.db.names().text(name), "defaultdict" | "OrderedDict" | "deque" | "Counter")
                        && args.len() <= 1
                }
                _ => false,
            },
            _ => false,
        }
    }

    /// A local container that starts empty takes its elements from what is put in.
    fn filled(&mut self, def: DefId, ty: Type) -> Type {
        let record = &self.index.defs[def];
        let is_module_name = record.scope == leitmotiv_index::tree::ScopeId(0);
        let ty = self.fill_container(ty, Filled::Def(def));
        // Functions may fill a module's container as well.
        if is_module_name { self.fill_container(ty, Filled::Global(record.name)) } else { ty }
    }

    /// Joins the elements of a container with all that is put into it elsewhere. Elements known from the start stay.
    pub(crate) fn fill_container(&mut self, ty: Type, filled: Filled) -> Type {
        let Some(fills) = self.index.fills.get(&filled) else { return ty };
        let store = self.db.store();
        let own_empty = |arg: &Type| matches!(arg, Type::Unknown(id) if store.cause(*id).kind == CauseKind::Empty);
        let parts: Vec<Type> = crate::types::union::parts(store, &ty).to_vec();
        let mut changed = Vec::with_capacity(parts.len());
        for part in parts {
            let Type::Instance(id) = part else {
                changed.push(part);
                continue;
            };
            let instance = store.instance(id).clone();
            // What a `defaultdict` makes for a missing key is only one of the things that it holds.
            let makes_items = instance.args.len() == 2
                && crate::definitions::classes::shown(self.db, instance.class) == "defaultdict";
            let is_list = instance.args.len() == 1;
            // `[None]` keeps a place for what comes later.
            let keeps_places = is_list && instance.args[0] == Type::None;
            // What one function makes another may fill with other things.
            let is_replaced = is_list
                && (matches!(filled, Filled::Attribute(..)) || fills.iter().any(|fill| fill.kind == FillKind::Slice));
            let grows = instance.args.len() == 2
                && matches!(filled, Filled::Attribute(..) | Filled::Global(_))
                && fills.iter().any(|fill| matches!(fill.kind, FillKind::Item { .. }));
            if !instance.args.iter().any(own_empty) && !makes_items && !keeps_places && !is_replaced && !grows {
                changed.push(part);
                continue;
            }
            let is_mapping = instance.args.len() == 2;
            let (mut keys, mut values) = (Vec::new(), Vec::new());
            for fill in fills {
                if fill.body == self.body {
                    self.one_fill(fill.kind, fill.value, is_mapping, &mut keys, &mut values);
                } else {
                    let mut other = Infer::new(self.db, self.file, fill.body);
                    other.one_fill(fill.kind, fill.value, is_mapping, &mut keys, &mut values);
                }
            }
            let mut args = instance.args.to_vec();
            if is_mapping {
                if own_empty(&args[0]) && !keys.is_empty() {
                    args[0] = self.join(keys);
                }
                if makes_items {
                    let made = args[1];
                    args[1] = self.join(std::iter::once(made).chain(values));
                } else if own_empty(&args[1]) && !values.is_empty() {
                    args[1] = self.join(values);
                } else if grows {
                    let first = args[1];
                    args[1] = self.join(std::iter::once(first).chain(values));
                }
            } else if own_empty(&args[0]) && !values.is_empty() {
                args[0] = self.join(values);
            } else if keeps_places || is_replaced {
                let first = args[0];
                args[0] = self.join(std::iter::once(first).chain(values));
            }
            args.iter_mut().for_each(|arg| {
                if *arg == Type::Never {
                    *arg = instance.args[0];
                }
            });
            changed.push(Type::Instance(crate::resolve::instance_of(self.db, instance.class, &args)));
        }
        let ty = self.join(changed);
        if fills.iter().any(|fill| fill.kind == FillKind::Inner) { self.open_inner(ty, filled) } else { ty }
    }

    /// A container of containers, into which something is put elsewhere: what they hold is not all that is known of the start.
    fn open_inner(&mut self, ty: Type, filled: Filled) -> Type {
        let store = self.db.store();
        let mut fills = self.index.fills.get(&filled).into_iter().flatten();
        let Some(fill) = fills.find(|fill| fill.kind == FillKind::Inner) else { return ty };
        let unknown = self.unknown(CauseKind::Dynamic, fill.value);
        crate::types::union::map(store, ty, |part| {
            let Type::Instance(id) = part else { return part };
            let instance = store.instance(id).clone();
            let mut args = instance.args.to_vec();
            let Some(Type::Instance(inner)) = args.last().copied() else { return part };
            let mut held = store.instance(inner).args.to_vec();
            let Some(last) = held.last_mut() else { return part };
            *last = self.join([*last, unknown]);
            let inner = crate::resolve::instance_of(self.db, store.instance(inner).class, &held);
            if let Some(last) = args.last_mut() {
                *last = Type::Instance(inner);
            }
            Type::Instance(crate::resolve::instance_of(self.db, instance.class, &args))
        })
    }

    fn one_fill(&mut self, kind: FillKind, value: ExprId, mapping: bool, keys: &mut Vec<Type>, values: &mut Vec<Type>) {
        let ty = self.expr(value);
        match kind {
            FillKind::Element if !mapping => values.push(self.widen_unsaid(value, ty)),
            FillKind::All | FillKind::Slice if !mapping => {
                let element = self.element(ty, false).unwrap_or(Type::Any);
                values.push(self.widen(element));
            }
            FillKind::Item { key } => {
                let key_type = self.expr(key);
                keys.push(self.widen_unsaid(key, key_type));
                values.push(self.widen_unsaid(value, ty));
            }
            FillKind::All => {
                if let Type::Instance(id) = ty
                    && let [key, value] = self.db.store().instance(id).args.as_ref()
                {
                    keys.push(*key);
                    values.push(*value);
                }
            }
            FillKind::Element | FillKind::Slice | FillKind::Inner => {}
        }
    }

    /// A type without its literals, but for those that somebody declared.
    fn widen_unsaid(&mut self, expr: ExprId, ty: Type) -> Type {
        let index = self.index;
        let store = self.db.store();
        match &index.exprs[expr] {
            Expr::Name(..) | Expr::Attribute { .. } if self.is_said(expr) => ty,
            Expr::Tuple(parts) => match ty {
                Type::Tuple(id) if store.tuple(id).rest.is_none() && store.tuple(id).prefix.len() == parts.len() => {
                    let held = store.tuple(id).prefix.clone();
                    let pairs = parts.iter().zip(held.iter());
                    let prefix = pairs.map(|(part, held)| self.widen_unsaid(*part, *held)).collect();
                    Type::Tuple(store.intern_tuple(crate::types::Tuple { prefix, rest: None, suffix: [].into() }))
                }
                ty => self.widen(ty),
            },
            _ => self.widen(ty),
        }
    }

    /// A part of an unpacked value.
    pub(crate) fn unpack(&mut self, ty: Type, steps: &[UnpackStep]) -> Type {
        let Some((step, rest)) = steps.split_first() else { return ty };
        let parts: Vec<Type> = crate::types::union::parts(self.db.store(), &ty).to_vec();
        let taken: Vec<Type> = parts.into_iter().map(|part| self.unpack_one(part, *step)).collect();
        let taken = self.join(taken);
        self.unpack(taken, rest)
    }

    fn unpack_one(&mut self, ty: Type, step: UnpackStep) -> Type {
        let store = self.db.store();
        if ty.is_dynamic() {
            return if step.star == Some(step.index) { self.container(known::LIST, &[ty]) } else { ty };
        }
        if let Some(id) = self.tuple_shape(ty) {
            let tuple = store.tuple(id).clone();
            let (index, count) = (step.index as usize, step.count as usize);
            match (step.star.map(|star| star as usize), tuple.rest) {
                (None, None) => return tuple.prefix.get(index).copied().unwrap_or(Type::Any),
                (Some(star), None) => {
                    let behind = count - 1 - star;
                    let len = tuple.prefix.len();
                    return if index < star {
                        tuple.prefix.get(index).copied().unwrap_or(Type::Any)
                    } else if index > star {
                        len.checked_sub(count - index).and_then(|at| tuple.prefix.get(at)).copied().unwrap_or(Type::Any)
                    } else {
                        let inside = tuple.prefix.get(star..len.saturating_sub(behind)).unwrap_or_default();
                        let element = self.join(inside.iter().copied());
                        let element = if element == Type::Never { Type::Any } else { self.widen(element) };
                        self.container(known::LIST, &[element])
                    };
                }
                (star, Some(rest)) => {
                    if star.is_none_or(|star| index < star)
                        && let Some(ty) = tuple.prefix.get(index)
                    {
                        return *ty;
                    }
                    return if star == Some(index) { self.container(known::LIST, &[rest]) } else { rest };
                }
            }
        }
        let element = self.element(ty, false).unwrap_or(Type::Any);
        if step.star == Some(step.index) { self.container(known::LIST, &[element]) } else { element }
    }
}
