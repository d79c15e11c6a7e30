//! What type variables must be (typing specification, "Generics": bounds, constraints, defaults).
//!
//! A variable is told apart by where it is defined; what it is limited to is worked out when it is asked for, so that a
//! variable may be bound to a class that is itself written in terms of it.

use std::sync::Arc;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{Arg, ArgKind, DefKind, Expr};
use leitmotiv_syntax::names::known;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::substitute::Substitution;
use crate::types::{Type, VarId, VarOrigin};

/// What a type variable is limited to.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Limits {
    /// What it must fit, if anything.
    pub bound: Option<Type>,
    /// What it must be one of, if anything.
    pub constraints: Box<[Type]>,
    /// What it is where nothing says otherwise (PEP 696).
    pub default: Option<Type>,
}

/// What a type variable is limited to.
pub fn limits(db: &dyn Db, var: VarId) -> Arc<Limits> {
    let variable = db.store().variable(var);
    match variable.origin {
        VarOrigin::Definition => declared_limits(db, variable.file, variable.at),
        VarOrigin::Own(bound) => Arc::new(Limits { bound, ..Limits::default() }),
    }
}

/// What a type variable must fit, if anything.
pub fn bound(db: &dyn Db, var: VarId) -> Option<Type> {
    limits(db, var).bound
}

/// The arguments that are given, and for the parameters behind them their defaults, which may speak of those before
/// (PEP 696); where there is no default, what `missing` says.
pub fn with_defaults(db: &dyn Db, params: &[VarId], given: &[Type], missing: &mut dyn FnMut() -> Type) -> Vec<Type> {
    let mut args: Vec<Type> = given.iter().copied().take(params.len()).collect();
    while args.len() < params.len() {
        let default = limits(db, params[args.len()]).default;
        let next = match default {
            Some(default) => Substitution::of(params, &args).apply(db.store(), default),
            None => missing(),
        };
        args.push(next);
    }
    args
}

pub(crate) fn declared_limits(db: &dyn Db, file: File, at: Anchor) -> Arc<Limits> {
    saw(db, file, Ask::DeclaredLimits(at));
    declared_limits_query(db, file, at)
}

#[salsa::tracked(returns(clone), cycle_initial = |_, _, _, _| Arc::default())]
fn declared_limits_query(db: &dyn Db, file: File, at: Anchor) -> Arc<Limits> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(def) = index.def_at(at) else { return Arc::default() };
    let record = &index.defs[def];
    let mut infer = Infer::new(db, file, record.body);
    let limits = match &record.kind {
        DefKind::TypeParam { bound, default, .. } => infer.parameter_limits(*bound, *default),
        // What a recursive alias says.
        DefKind::TypeAlias { value } => Limits { bound: Some(infer.annotation(*value)), ..Limits::default() },
        DefKind::Annotated { value: Some(value), .. } if !matches!(index.exprs[*value], Expr::Call { .. }) => {
            Limits { bound: Some(infer.annotation(*value)), ..Limits::default() }
        }
        DefKind::Assign { value, .. } | DefKind::Annotated { value: Some(value), .. } => match &index.exprs[*value] {
            Expr::Call { args, .. } => infer.called_limits(args),
            _ => Limits::default(),
        },
        _ => Limits::default(),
    };
    Arc::new(limits)
}

impl Infer<'_> {
    /// Of a type parameter of the new syntax (PEP 695).
    fn parameter_limits(
        &mut self,
        bound: Option<leitmotiv_index::tree::ExprId>,
        default: Option<leitmotiv_index::tree::ExprId>,
    ) -> Limits {
        let mut limits = Limits::default();
        match bound.map(|bound| (bound, &self.index.exprs[bound])) {
            Some((_, Expr::Tuple(parts))) => {
                limits.constraints = parts.iter().map(|part| self.annotation(*part)).collect();
            }
            Some((bound, _)) => limits.bound = Some(self.annotation(bound)),
            None => {}
        }
        limits.default = default.map(|default| self.default_of(default));
        limits
    }

    /// A default: a type, or a list of them where parameters are meant.
    fn default_of(&mut self, default: leitmotiv_index::tree::ExprId) -> Type {
        match self.index.exprs[default] {
            Expr::List(_) | Expr::Ellipsis => self.parameter_list(default).unwrap_or(Type::Any),
            _ => self.annotation(default),
        }
    }

    /// Of a call of `TypeVar` or its like.
    pub(crate) fn called_limits(&mut self, args: &[Arg]) -> Limits {
        let mut limits = Limits::default();
        let mut constraints = Vec::new();
        for (place, arg) in args.iter().enumerate() {
            match arg.kind {
                ArgKind::Positional if place > 0 => constraints.push(self.annotation(arg.value)),
                ArgKind::Keyword(known::BOUND) => limits.bound = Some(self.annotation(arg.value)),
                ArgKind::Keyword(known::DEFAULT) => limits.default = Some(self.default_of(arg.value)),
                _ => {}
            }
        }
        limits.constraints = constraints.into();
        limits
    }
}
