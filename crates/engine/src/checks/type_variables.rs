//! How type variables are defined, and listed by what is generic in them (typing specification, "Generics"; PEP 484, 695, 696).

use leitmotiv_index::tree::{Arg, ArgKind, ClassId, DefId, Expr, ExprId};
use leitmotiv_syntax::names::{Name, known};

use crate::infer::Infer;
use crate::problems::{BadDefinition, BadPlace, ProblemKind};
use crate::types::substitute::{is_variadic, variables};
use crate::types::{SpecialForm, Type, VarId, VarKind};

impl Infer<'_> {
    /// Looks at a call that makes a type variable, assigned to `name`.
    pub(crate) fn check_variable_call(&mut self, name: Name, kind: VarKind, args: &[Arg], at: ExprId) {
        let limits = self.called_limits(args);
        let tell = |infer: &mut Self, at, why| infer.problem(at, ProblemKind::GenericDefinition { why });
        if let Some(first) = args.first()
            && let Expr::Str(Some(written)) = self.index.exprs[first.value]
            && written != name
        {
            tell(self, first.value, BadDefinition::Name { bound: name, written });
        }
        if kind == VarKind::Type {
            match limits.constraints.as_ref() {
                [_] => tell(self, at, BadDefinition::OneConstraint),
                [] => {}
                _ if limits.bound.is_some() => tell(self, at, BadDefinition::Both),
                _ => {}
            }
        }
        let says = |variance| args.iter().any(|arg| arg.kind == ArgKind::Keyword(variance) && self.is_true(arg.value));
        if says(known::COVARIANT) && says(known::CONTRAVARIANT) {
            tell(self, at, BadDefinition::BothVariances);
        }
        let places: Vec<ExprId> = args
            .iter()
            .enumerate()
            .filter(|(place, arg)| {
                arg.kind == ArgKind::Keyword(known::BOUND) || (arg.kind == ArgKind::Positional && *place > 0)
            })
            .map(|(_, arg)| arg.value)
            .collect();
        let types: Vec<Type> = limits.bound.into_iter().chain(limits.constraints.iter().copied()).collect();
        self.check_limits_closed(&types, places.first().copied().unwrap_or(at));
        let default = args.iter().find(|arg| arg.kind == ArgKind::Keyword(known::DEFAULT)).map(|arg| arg.value);
        self.check_default(&limits, default);
    }

    /// Looks at the type parameters of a class, function or alias (PEP 695).
    pub(crate) fn check_type_parameters(&mut self, params: &[DefId]) {
        use leitmotiv_index::tree::DefKind;
        if !self.checking {
            return;
        }
        let mut vars = Vec::with_capacity(params.len());
        for param in params {
            let Some(var) = self.type_param(*param) else { continue };
            vars.push(var);
            let DefKind::TypeParam { bound, default, .. } = self.index.defs[*param].kind else { continue };
            let limits = crate::definitions::type_variables::limits(self.db, var);
            if let Some(bound) = bound {
                self.annotation_of_limit(bound);
                if matches!(self.index.exprs[bound], Expr::Tuple(_)) && limits.constraints.len() == 1 {
                    self.problem(bound, ProblemKind::GenericDefinition { why: BadDefinition::OneConstraint });
                }
                let types: Vec<Type> = limits.bound.into_iter().chain(limits.constraints.iter().copied()).collect();
                self.check_limits_closed(&types, bound);
            }
            self.check_default(&limits, default);
        }
        if let (Some((var, before)), Some(first)) = (self.out_of_order(&vars), params.first()) {
            let range = self.index.defs[*first].range;
            let why = BadDefinition::Order(var, before);
            self.problem_at(range, None, ProblemKind::GenericDefinition { why });
        }
    }

    /// Looks at how the bound of a variable, or each of its constraints, is written.
    fn annotation_of_limit(&mut self, bound: ExprId) {
        let index = self.index;
        let parts: Vec<ExprId> = match &index.exprs[bound] {
            Expr::Tuple(parts) => parts.to_vec(),
            _ => vec![bound],
        };
        for part in parts {
            self.annotation(part);
            self.check_form(part, crate::checks::annotations::Site::Parameter);
        }
    }

    /// Looks at what a class, or a function, that lists its variables in brackets is written with.
    pub(crate) fn check_mixed(&mut self, at: ExprId, ty: Type, function: Option<leitmotiv_index::tree::FunctionId>) {
        let own = variables(self.db.store(), ty)
            .into_iter()
            .find(|var| self.is_called_variable(*var) && !self.is_bound(*var, self.index.spans[at].start(), function));
        if let Some(var) = own {
            self.problem(at, ProblemKind::GenericDefinition { why: BadDefinition::Mixed(var) });
        }
    }

    fn check_limits_closed(&mut self, types: &[Type], at: ExprId) {
        let store = self.db.store();
        let open = types.iter().flat_map(|ty| variables(store, *ty)).find(|var| {
            let kind = store.variable(*var).kind;
            kind == VarKind::Type
        });
        if let Some(var) = open {
            self.problem(at, ProblemKind::GenericDefinition { why: BadDefinition::Open(var) });
        }
    }

    fn check_default(&mut self, limits: &crate::definitions::type_variables::Limits, at: Option<ExprId>) {
        let (Some(default), Some(at)) = (limits.default, at) else { return };
        if default.is_dynamic() || crate::types::substitute::has_variables(self.db.store(), default) {
            return;
        }
        let limit = match (limits.bound, limits.constraints.as_ref()) {
            (Some(bound), _) if !self.is_assignable(default, bound) => bound,
            (None, all @ [_, _, ..]) if !all.iter().any(|one| self.is_equivalent(default, *one)) => {
                self.join(all.to_vec())
            }
            _ => return,
        };
        self.problem(at, ProblemKind::GenericDefinition { why: BadDefinition::Default(default, limit) });
    }

    /// A variable without a default behind one that has one.
    fn out_of_order(&self, vars: &[VarId]) -> Option<(VarId, VarId)> {
        let has_default = |var: &VarId| crate::definitions::type_variables::limits(self.db, *var).default.is_some();
        let first = vars.iter().position(has_default)?;
        let late = vars[first..].iter().find(|var| !has_default(var))?;
        Some((*late, vars[first]))
    }

    /// Looks at what the bases `Generic[…]` and `Protocol[…]` list.
    pub(crate) fn check_listed(&mut self, class: ClassId) {
        let record = &self.index.classes[class];
        let store = self.db.store();
        let mut listed: Option<Vec<VarId>> = None;
        let mut used: Vec<(VarId, ExprId)> = Vec::new();
        for arg in &record.args {
            let Expr::Subscript { value: head, index: args, .. } = self.index.exprs[arg.value] else { continue };
            if arg.kind != ArgKind::Positional {
                continue;
            }
            let Type::Special(special @ (SpecialForm::Generic | SpecialForm::Protocol)) = self.quietly(head) else {
                let ty = self.speculate(|infer| infer.annotation(arg.value));
                if !record.type_params.is_empty() {
                    self.check_mixed(arg.value, ty, None);
                }
                used.extend(variables(store, ty).into_iter().map(|var| (var, arg.value)));
                continue;
            };
            if !record.type_params.is_empty() {
                self.problem(arg.value, ProblemKind::GenericDefinition { why: BadDefinition::Listed(special) });
                continue;
            }
            let mut own = Vec::new();
            for item in self.items(args) {
                let inner = self.unpacked(item).unwrap_or(item);
                let why = match self.quietly(inner) {
                    Type::Var(var) if own.contains(&var) => BadDefinition::Twice(var),
                    Type::Var(var) if store.variable(var).kind == VarKind::Tuple => {
                        if inner == item {
                            self.problem(item, ProblemKind::AnnotationPlace { why: BadPlace::Packed });
                        }
                        let is_tuple = |one: &&VarId| store.variable(**one).kind == VarKind::Tuple;
                        let first = own.iter().find(is_tuple).copied();
                        own.push(var);
                        match first {
                            Some(first) => BadDefinition::TwoOpen(first, var),
                            None => continue,
                        }
                    }
                    Type::Var(var) => {
                        own.push(var);
                        continue;
                    }
                    ty if ty.is_dynamic() || is_variadic(store, ty) => continue,
                    _ => BadDefinition::NotVariable,
                };
                self.problem(item, ProblemKind::GenericDefinition { why });
            }
            if let Some((var, before)) = self.out_of_order(&own) {
                let why = BadDefinition::Order(var, before);
                self.problem(args, ProblemKind::GenericDefinition { why });
            }
            listed = Some(own);
        }
        // What is listed is all that the class is generic in.
        if let Some(listed) = listed
            && let Some((var, at)) = used.into_iter().find(|(var, _)| {
                let kind = store.variable(*var).kind;
                kind != VarKind::SelfType && !listed.contains(var) && !self.is_variable_around(class, *var)
            })
        {
            self.problem(at, ProblemKind::GenericDefinition { why: BadDefinition::Unlisted(var) });
        }
    }

    /// Whether a class or function around a class is generic in a variable.
    fn is_variable_around(&self, class: ClassId, var: VarId) -> bool {
        self.is_bound(var, self.index.classes[class].range.start(), None)
    }
}
