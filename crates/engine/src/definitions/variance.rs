//! How a class relates over its type parameters (typing specification, "Generics": variance, variance inference).
//!
//! A variable says its variance itself, or it is inferred from where the class takes and gives it.

use leitmotiv_index::tree::{ClassId, DefKind, ParamKind};
use leitmotiv_syntax::names::known;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::{ClassRef, Type, VarId, Variance};

/// Types nested deeper than this are not looked into. Said in docs/architecture.md.
const DEEPEST: u32 = 12;

/// Where a type variable stands in what a class takes and gives.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Uses {
    /// It is given: a result, an attribute that is read.
    pub given: bool,
    /// It is taken: a parameter, an attribute that is set.
    pub taken: bool,
}

/// The variance of a class's parameter.
pub fn of(db: &dyn Db, class: ClassRef, var: VarId) -> Variance {
    match db.store().variable(var).variance {
        Variance::Inferred => match inferred_uses(db, class.file, class.class, var) {
            Uses { given: true, taken: true } => Variance::Invariant,
            Uses { taken: true, given: false } => Variance::Contravariant,
            Uses { taken: false, .. } => Variance::Covariant,
        },
        declared => declared,
    }
}

pub(crate) fn inferred_uses(db: &dyn Db, file: File, class: ClassId, var: VarId) -> Uses {
    saw(db, file, Ask::InferredUses(class, var));
    inferred_uses_query(db, file, class, var)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Uses::default())]
fn inferred_uses_query(db: &dyn Db, file: File, class: ClassId, var: VarId) -> Uses {
    let _reading = reading(db, file);
    let this = ClassRef { file, class };
    let index = module_index(db, file);
    let record = &index.classes[class];
    let info = classes::info(db, this);
    let mut uses = Uses::default();
    // What its bases take and give, it does.
    for base in info.mro.iter().skip(1) {
        let base = db.store().instance(*base);
        let params = classes::info(db, base.class).params.clone();
        for (param, arg) in params.iter().zip(&base.args) {
            let sign = Sign::of(of(db, base.class, *param));
            note(db, *arg, var, sign, 0, &mut uses);
        }
    }
    let frozen =
        info.dataclass.is_some_and(|options| options.frozen) || matches!(info.kind, classes::ClassKind::NamedTuple);
    let mut infer = Infer::new(db, file, record.body);
    for (name, symbol) in &index.scopes[record.scope].symbols {
        let text = db.names().text(*name);
        for def in &symbol.defs {
            match index.defs[*def].kind {
                DefKind::Function(function) if !matches!(*name, known::INIT | known::NEW) => {
                    let declared = crate::definitions::functions::declared(db, file, function);
                    // The receiver's own annotation says nothing of what is taken.
                    for param in declared.params.iter().skip(1) {
                        note(db, param.ty, var, Sign::Taken, 0, &mut uses);
                    }
                    if let Some(returns) = declared.returns {
                        note(db, returns, var, Sign::Given, 0, &mut uses);
                    }
                }
                DefKind::Annotated { annotation, .. } => {
                    let is_fixed = frozen || text.starts_with('_') || infer.is_final(*def);
                    if let Some(ty) = infer.declared_annotation(annotation) {
                        note(db, ty, var, if is_fixed { Sign::Given } else { Sign::Both }, 0, &mut uses);
                    }
                }
                _ => {}
            }
        }
    }
    for (name, assigned) in &record.attributes {
        if db.names().text(*name).starts_with('_') {
            continue;
        }
        for def in assigned {
            let mut infer = Infer::new(db, file, index.defs[*def].body);
            let ty = match index.defs[*def].kind {
                DefKind::Annotated { annotation, .. } => infer.declared_annotation(annotation),
                DefKind::Assign { value, unpack: None, .. } => Some(infer.expr(value)),
                _ => None,
            };
            if let Some(ty) = ty {
                let sign = if frozen { Sign::Given } else { Sign::Both };
                note(db, ty, var, sign, 0, &mut uses);
            }
        }
    }
    uses
}

/// Which way a value goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Sign {
    /// Out of the class.
    Given,
    /// Into it.
    Taken,
    /// Both ways.
    Both,
}

impl Sign {
    /// The way of an argument of a class with that variance.
    fn of(variance: Variance) -> Sign {
        match variance {
            Variance::Covariant | Variance::Inferred => Sign::Given,
            Variance::Contravariant => Sign::Taken,
            Variance::Invariant => Sign::Both,
        }
    }

    fn through(self, inner: Sign) -> Sign {
        match (self, inner) {
            (Sign::Both, _) | (_, Sign::Both) => Sign::Both,
            (Sign::Given, inner) => inner,
            (Sign::Taken, Sign::Given) => Sign::Taken,
            (Sign::Taken, Sign::Taken) => Sign::Given,
        }
    }
}

/// Notes where a variable stands in a type that goes one way.
pub(crate) fn note(db: &dyn Db, ty: Type, var: VarId, sign: Sign, depth: u32, uses: &mut Uses) {
    let store = db.store();
    if depth > DEEPEST || !crate::types::substitute::has_variables(store, ty) {
        return;
    }
    let depth = depth + 1;
    match ty {
        Type::Var(own) if own == var => {
            uses.given |= sign != Sign::Taken;
            uses.taken |= sign != Sign::Given;
        }
        Type::Union(id) => {
            for part in store.union_parts(id) {
                note(db, *part, var, sign, depth, uses);
            }
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            for part in tuple.prefix.iter().chain(&tuple.rest).chain(&tuple.suffix) {
                note(db, *part, var, sign, depth, uses);
            }
        }
        Type::SubclassOf(inner) => note(db, *store.single(inner), var, sign, depth, uses),
        Type::Callable(id) => {
            let signature = store.signature(id);
            for param in &signature.params {
                let inner =
                    if matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) && param.ty == Type::Var(var) {
                        sign
                    } else {
                        sign.through(Sign::Taken)
                    };
                note(db, param.ty, var, inner, depth, uses);
            }
            note(db, signature.returns, var, sign, depth, uses);
        }
        Type::Instance(id) => {
            let instance = store.instance(id);
            let params = classes::info(db, instance.class).params.clone();
            for (param, arg) in params.iter().zip(&instance.args) {
                if crate::types::substitute::has_variables(store, *arg) {
                    let inner = sign.through(Sign::of(of(db, instance.class, *param)));
                    note(db, *arg, var, inner, depth, uses);
                }
            }
        }
        _ => {}
    }
}
