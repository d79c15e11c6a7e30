//! Type variables where they are used (typing specification, "Generics": scoping rules, variance, bounds and constraints).

use leitmotiv_index::tree::{DefId, DefKind, ExprId, FunctionId};
use leitmotiv_syntax::TextSize;
use leitmotiv_syntax::names::known;

use crate::definitions::classes;
use crate::definitions::variance::Sign;
use crate::infer::Infer;
use crate::outline::places::{Bound, bound_at};
use crate::problems::{BadScope, ProblemKind};
use crate::types::substitute::variables;
use crate::types::{ClassRef, Type, VarId, VarKind, VarOrigin, Variance};

impl Infer<'_> {
    /// Reports a type argument that a variable cannot be.
    pub(crate) fn check_limits(&mut self, at: ExprId, var: VarId, given: Type) {
        if !self.checking || given.is_dynamic() || crate::types::substitute::has_variables(self.db.store(), given) {
            return;
        }
        let limits = crate::definitions::type_variables::limits(self.db, var);
        let fits = match (limits.bound, limits.constraints.as_ref()) {
            (Some(bound), _) => {
                crate::types::substitute::has_variables(self.db.store(), bound) || self.is_assignable(given, bound)
            }
            (None, []) => true,
            (None, constraints) => constraints.iter().any(|one| self.is_equivalent(given, *one)),
        };
        if !fits {
            self.problem(at, ProblemKind::GenericBound { var, given });
        }
    }

    /// Reports variables in a variable's annotation that nothing around it is generic in.
    pub(crate) fn check_scope(&mut self, annotation: ExprId, ty: Type) {
        if !self.checking {
            return;
        }
        let at = self.index.spans[annotation].start();
        let foreign = variables(self.db.store(), ty)
            .into_iter()
            .find(|var| self.is_plain(*var) && !self.is_bound(*var, at, None));
        if let Some(var) = foreign
            && !self.is_in_callable(ty, var)
        {
            self.problem(annotation, ProblemKind::GenericScope { var, why: BadScope::Unbound });
        }
    }

    /// Reports a variable in a function's result that its parameters do not say.
    pub(crate) fn check_result_scope(&mut self, function: FunctionId, returns: ExprId) {
        if !self.checking {
            return;
        }
        let declared = crate::definitions::functions::declared(self.db, self.file, function);
        let Some(ty) = declared.returns else { return };
        let store = self.db.store();
        let taken: Vec<VarId> = declared.params.iter().flat_map(|param| variables(store, param.ty)).collect();
        let record = &self.index.functions[function];
        let of_class = record.class.map(|class| {
            let class = ClassRef { file: self.file, class };
            classes::info(self.db, class).params.clone()
        });
        // Annotations that cannot be read in full yet may name it all the same.
        let text = self.file.text(self.db);
        let is_named = |var: VarId| {
            let name = self.text(store.variable(var).name);
            record.params.iter().filter_map(|param| param.annotation).any(|annotation| {
                let written = &text[self.index.spans[annotation]];
                written.split(|char: char| !char.is_alphanumeric() && char != '_').any(|word| word == name)
            })
        };
        let lost = variables(store, ty).into_iter().find(|var| {
            self.is_plain(*var)
                && !is_named(*var)
                && crate::definitions::type_variables::limits(self.db, *var).default.is_none()
                && !taken.contains(var)
                && !of_class.as_ref().is_some_and(|params| params.contains(var))
                && !self.is_bound(*var, record.name_range.start(), Some(function))
                && !self.is_in_callable(ty, *var)
        });
        if let Some(var) = lost {
            self.problem(returns, ProblemKind::GenericResult { var });
        }
    }

    /// Whether a value is put where a variable of the function or the class around stands, and surely is no such: inside, nothing but what was
    /// handed in fills the variable (typing specification, "Generics": scoping rules), and `Self` is filled by no object of the class alone.
    pub(crate) fn fills_variable_wrongly(&mut self, value: ExprId, declared: Type) -> bool {
        use leitmotiv_index::tree::Expr;
        let store = self.db.store();
        if let (Expr::List(items) | Expr::Set(items), Type::Instance(id)) = (&self.index.exprs[value], declared)
            && let [element] = store.instance(id).args.as_ref()
        {
            return items.iter().any(|item| self.fills_variable_wrongly(*item, *element));
        }
        let parts = crate::types::union::parts(store, &declared).to_vec();
        let Some(var) = parts.iter().find_map(|part| match part {
            Type::Var(var) => Some(*var),
            _ => None,
        }) else {
            return false;
        };
        if let Expr::Conditional { then, otherwise, .. } = self.index.exprs[value] {
            return self.fills_variable_wrongly(then, declared) || self.fills_variable_wrongly(otherwise, declared);
        }
        let variable = store.variable(var);
        let given = self.expr(value);
        let others: Vec<Type> = parts.iter().copied().filter(|part| *part != Type::Var(var)).collect();
        let is_open =
            given.is_dynamic() || crate::types::substitute::has_variables(store, given) || given == Type::Never;
        if is_open || others.iter().any(|other| self.is_assignable(given, *other)) {
            return false;
        }
        match variable.kind {
            VarKind::Type => {
                if !self.is_own_variable(var)
                    || !crate::definitions::type_variables::limits(self.db, var).constraints.is_empty()
                {
                    return false;
                }
                match self.index.exprs[value] {
                    Expr::Int(_) | Expr::Str(_) | Expr::Bytes(_) | Expr::Bool(_) | Expr::Float | Expr::None => true,
                    Expr::FString(_) | Expr::List(_) | Expr::Dict(_) | Expr::Set(_) | Expr::Tuple(_) => true,
                    Expr::Call { callee, .. } => matches!(self.quietly(callee), Type::Class(_)),
                    _ => false,
                }
            }
            VarKind::SelfType => {
                let Expr::Call { callee, .. } = self.index.exprs[value] else { return false };
                let (Expr::Name(..), Type::Class(id)) = (&self.index.exprs[callee], self.quietly(callee)) else {
                    return false;
                };
                let around = self.index.classes_around.of(self.index.spans[value].start()).next();
                let class = store.instance(id).class;
                let is_final = crate::outline::class(self.db, class).is_under(known::FINAL_MARK);
                around.is_some_and(|around| class == ClassRef { file: self.file, class: around })
                    && !is_final
                    && !self.is_receiver(callee)
            }
            VarKind::Params | VarKind::Tuple | VarKind::Alias => false,
        }
    }

    /// Reports what is wrong with a class's own type variables.
    pub(crate) fn check_class_variables(&mut self, class: ClassRef) {
        if !self.checking {
            return;
        }
        let info = classes::info(self.db, class);
        let index = self.index;
        let record = &index.classes[class.class];
        self.check_listed(class.class);
        self.check_type_parameters(&record.type_params);
        let params = info.params.clone();
        if let Some(outer) = self.class_outside(class)
            && let Some(var) = params.iter().find(|var| classes::info(self.db, outer).params.contains(var))
        {
            self.problem_at(
                record.name_range,
                None,
                ProblemKind::GenericScope { var: *var, why: BadScope::Outer(outer) },
            );
        }
        self.check_base_variance(class);
        for var in params {
            let sign = match self.db.store().variable(var).variance {
                Variance::Covariant => Sign::Taken,
                Variance::Contravariant => Sign::Given,
                Variance::Invariant | Variance::Inferred => continue,
            };
            self.check_variance(class, var, sign);
        }
    }

    /// A variable that is covariant or contravariant fills a base's variable of the same kind only (typing specification, "Generics":
    /// variance).
    fn check_base_variance(&mut self, class: ClassRef) {
        let index = self.index;
        for arg in &index.classes[class.class].args {
            let leitmotiv_index::tree::Expr::Subscript { .. } = index.exprs[arg.value] else { continue };
            let Type::Instance(base) = self.speculate(|infer| infer.annotation(arg.value)) else { continue };
            let base = self.db.store().instance(base).clone();
            let info = classes::info(self.db, base.class);
            for (own, given) in info.params.iter().zip(&base.args) {
                let Type::Var(var) = *given else { continue };
                let said = self.db.store().variable(var).variance;
                if !matches!(said, Variance::Covariant | Variance::Contravariant) || !self.is_plain(var) {
                    continue;
                }
                if crate::definitions::variance::of(self.db, base.class, *own) != said {
                    self.problem(arg.value, ProblemKind::BaseVariance { var, base: base.class });
                    return;
                }
            }
        }
    }

    /// Reports where a class takes what it says it only gives, or the other way round: as it is, or as one of several. What
    /// stands within containers and callables is let pass, as most code that does so means well.
    fn check_variance(&mut self, class: ClassRef, var: VarId, wrong: Sign) {
        let index = self.index;
        let record = &index.classes[class.class];
        let mut defs: Vec<DefId> =
            index.scopes[record.scope].symbols.values().flat_map(|symbol| symbol.defs.iter().copied()).collect();
        defs.sort_unstable();
        for def in defs {
            let DefKind::Function(function) = index.defs[def].kind else { continue };
            let method = &index.functions[function];
            let name = self.text(method.name);
            let is_private = name.starts_with('_') && !name.ends_with('_');
            let is_bound =
                crate::outline::functions::binding(self.db, self.index, function) == crate::types::Binding::Instance;
            if matches!(method.name, known::INIT | known::NEW) || is_private || !is_bound {
                continue;
            }
            let declared = crate::definitions::functions::declared(self.db, self.file, function);
            let at = match wrong {
                Sign::Taken => {
                    let mut pairs = method.params.iter().zip(&declared.params).skip(1);
                    pairs.find(|(_, said)| self.is_directly(said.ty, var)).and_then(|(param, _)| param.annotation)
                }
                _ => method.returns.filter(|_| declared.returns.is_some_and(|ty| self.is_directly(ty, var))),
            };
            if let Some(at) = at {
                self.problem(at, ProblemKind::GenericVariance { var, taken: wrong == Sign::Taken });
                return;
            }
        }
    }

    fn is_directly(&self, ty: Type, var: VarId) -> bool {
        crate::types::union::parts(self.db.store(), &ty).contains(&Type::Var(var))
    }

    /// The class that a class is written in.
    fn class_outside(&self, class: ClassRef) -> Option<ClassRef> {
        let start = self.index.classes[class.class].range.start();
        let nearest = self.index.classes_around.of(start).find(|outer| *outer != class.class)?;
        Some(ClassRef { file: self.file, class: nearest })
    }

    /// Whether a variable is one that somebody defined, and not a parameter list or `Self`.
    fn is_plain(&self, var: VarId) -> bool {
        let variable = self.db.store().variable(var);
        variable.kind == VarKind::Type && matches!(variable.origin, VarOrigin::Definition)
    }

    /// Whether something around a place is generic in a variable: a function that takes it, apart from `but`, or a class.
    pub(crate) fn is_bound(&self, var: VarId, at: TextSize, but: Option<FunctionId>) -> bool {
        let store = self.db.store();
        let variable = store.variable(var);
        // Those of the new syntax stand where they hold.
        if variable.origin == VarOrigin::Definition
            && bound_at(self.db, variable.file, variable.at) == Bound::TypeParameter
        {
            return true;
        }
        let index = self.index;
        let in_class = index
            .classes_around
            .of(at)
            .any(|class| classes::info(self.db, ClassRef { file: self.file, class }).params.contains(&var));
        in_class
            || index.functions_around.of(at).any(|id| {
                Some(id) != but && {
                    let declared = crate::definitions::functions::declared(self.db, self.file, id);
                    let all = declared.params.iter().map(|param| param.ty).chain(declared.returns);
                    all.into_iter().any(|ty| variables(store, ty).contains(&var))
                }
            })
    }

    /// Whether a variable stands only within callables, which are then generic themselves.
    fn is_in_callable(&self, ty: Type, var: VarId) -> bool {
        let store = self.db.store();
        match ty {
            Type::Var(own) => own != var,
            Type::Callable(_) => true,
            Type::Union(id) => store.union_parts(id).iter().all(|part| self.is_in_callable(*part, var)),
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                tuple.prefix.iter().chain(&tuple.rest).chain(&tuple.suffix).all(|part| self.is_in_callable(*part, var))
            }
            Type::Instance(id) => {
                let instance = store.instance(id);
                let is_call = classes::members::find(self.db, id, known::CALL, None).is_some();
                is_call || instance.args.iter().all(|arg| self.is_in_callable(*arg, var))
            }
            Type::SubclassOf(id) => self.is_in_callable(*store.single(id), var),
            _ => true,
        }
    }
}
