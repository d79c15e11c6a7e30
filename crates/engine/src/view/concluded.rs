//! What parameters that nobody annotated are concluded to be from what calls pass to them, and what is made of them, on demand.
//!
//! Checks do not take it for granted: what calls pass today is no promise.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyId, ClassId, ExprId, FunctionId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use super::handled::Subject;
use super::passed;
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::members;
use crate::definitions::functions;
use crate::infer::{Concluding, Infer};
use crate::outline::{module_index, reading};
use crate::resolve;
use crate::types::display::show;
use crate::types::union::parts;
use crate::types::{Cause, CauseKind, ClassRef, Type};

/// What is concluded of more parts than this says nothing. Said in docs/architecture.md.
const MOST_PARTS: usize = 6;

/// What is passed on, kept by objects and given back is followed through so many functions. Said in docs/architecture.md.
const DEEPEST: u32 = 2;

/// What a parameter is concluded to be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Concluded {
    /// The type; of `*args` and `**kwargs`, that of each.
    pub ty: Type,
    /// So many calls pass it.
    pub calls: usize,
    /// So many calls pass something of which nothing is known.
    pub open: usize,
    /// Whether the default is one of what it may be.
    pub with_default: bool,
    /// The first of the calls, and where in it the argument stands, in bytes.
    pub first: Option<(File, TextRange)>,
}

impl Concluded {
    /// Where it comes from, in words: "from 7 calls and the default".
    #[must_use]
    pub fn from(&self) -> String {
        let all = self.calls + self.open;
        let calls = match (self.calls, self.open) {
            (0, _) => return "from the default".to_owned(),
            (1, 0) => "from 1 call".to_owned(),
            (calls, 0) => format!("from {calls} calls"),
            (calls, _) => format!("from {calls} of {all} calls"),
        };
        if self.with_default { format!("{calls} and the default") } else { calls }
    }
}

/// What a parameter, by its function and 0-based place, is concluded to be; `None` where no call that is seen passes anything that is known, or
/// they pass too many things. What is only passed on is followed to where it comes from.
#[must_use]
pub fn parameter(db: &dyn Db, file: File, function: FunctionId, place: u32) -> Option<Concluded> {
    parameter_at(db, file, function, place, DEEPEST)
}

fn parameter_at(db: &dyn Db, file: File, function: FunctionId, place: u32, depth: u32) -> Option<Concluded> {
    saw(db, file, Ask::Whole);
    parameter_at_query(db, file, function, place, depth)
}

#[salsa::tracked(returns(copy))]
fn parameter_at_query(db: &dyn Db, file: File, function: FunctionId, place: u32, depth: u32) -> Option<Concluded> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let param = record.params.get(place as usize)?;
    if param.annotation.is_some() || !file.origin(db).is_own() {
        return None;
    }
    let mut outside = Infer::new(db, file, index.defs[record.def].body);
    let mut types = Vec::new();
    let mut concluded = Concluded { ty: Type::Never, calls: 0, open: 0, with_default: false, first: None };
    for (caller, one) in passed::to(db, file, function) {
        if one.to.place != place {
            continue;
        }
        let ty = match one.from {
            Some(Subject::Parameter(from)) if one.ty.is_dynamic() && depth > 0 => {
                parameter_at(db, from.file, from.function, from.place, depth - 1).map_or(one.ty, |from| from.ty)
            }
            _ => one.ty,
        };
        if crate::types::holds(db.store(), ty, &Type::is_dynamic) {
            concluded.open += 1;
            continue;
        }
        concluded.calls += 1;
        concluded.first = concluded.first.or(Some((caller, one.range)));
        types.push(outside.widen(ty));
    }
    let default = param.default.map(|default| outside.expr(default));
    if let Some(default) = default.filter(|default| !default.is_dynamic()) {
        // A default of None says that there is something else as well.
        if types.is_empty() && default == Type::None {
            return None;
        }
        concluded.with_default = true;
        types.push(outside.widen(default));
    }
    concluded.ty = outside.join(types);
    let is_known = concluded.ty != Type::Never && parts(db.store(), &concluded.ty).len() <= MOST_PARTS;
    is_known.then_some(concluded)
}

/// What is concluded of an expression that is unknown because of a parameter that nobody annotated.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Instead {
    /// The expression's type where its own function's parameters are what calls pass, if that makes it known.
    pub ty: Option<Type>,
    /// The parameter that it is unknown because of: the file, the function, and the 0-based place.
    pub of: (File, FunctionId, u32),
    /// What that is concluded to be.
    pub parameter: Concluded,
}

impl Instead {
    /// What is concluded, in words, without where the calls stand.
    #[must_use]
    pub fn words(&self, db: &dyn Db) -> String {
        let (file, function, place) = self.of;
        let name = db.names().text(module_index(db, file).functions[function].params[place as usize].name);
        let (of, from) = (show(db, self.parameter.ty), self.parameter.from());
        match self.ty.map(|ty| show(db, ty)) {
            Some(ty) if ty == of => format!("concluded: `{ty}`, {from}"),
            Some(ty) => format!("concluded: `{ty}`, where `{name}` is `{of}` ({from})"),
            None => {
                let owner = functions::shown(db, file, function);
                format!("`{name}` of `{owner}` is concluded to be `{of}` ({from})")
            }
        }
    }
}

/// What is concluded of an expression of a type; `None` where it is not unknown because of a parameter, or calls say nothing of that.
#[must_use]
pub fn instead(db: &dyn Db, (file, body): (File, BodyId), expr: ExprId, ty: Type) -> Option<Instead> {
    let of = blamed(db, ty)?;
    let concluded = parameter(db, of.0, of.1, of.2)?;
    Some(Instead { ty: expression(db, file, body, expr), of, parameter: concluded })
}

/// Who concludes, by what calls pass.
static CONCLUDING: Concluding = Concluding {
    parameter: |db, file, function, place, depth| {
        parameter_at(db, file, function, place, depth).map(|concluded| concluded.ty)
    },
    attribute: |db, instance, name, depth| attribute(db, db.store().instance(instance).class, name, depth),
    result: |db, function, depth| result(db, function.file, function.function, depth),
};

fn concluding(db: &dyn Db, file: File, body: BodyId, depth: u32) -> Infer<'_> {
    let mut infer = Infer::new(db, file, body);
    infer.concluding = Some((&CONCLUDING, depth));
    infer
}

fn expression(db: &dyn Db, file: File, body: BodyId, expr: ExprId) -> Option<Type> {
    let mut infer = concluding(db, file, body, DEEPEST);
    infer.check();
    let ty = infer.expr(expr);
    known(db, infer.widen(ty))
}

fn known(db: &dyn Db, ty: Type) -> Option<Type> {
    (!crate::types::holds(db.store(), ty, &Type::is_dynamic) && ty != Type::Never).then_some(ty)
}

/// What the methods of a class that has an attribute give it.
fn attribute(db: &dyn Db, class: ClassRef, name: Name, depth: u32) -> Option<Type> {
    let depth = depth.checked_sub(1)?;
    let own = resolve::instance_of(db, class, &[]);
    let owner = db.store().instance(members::find(db, own, name, None)?.owner).class;
    if !owner.file.origin(db).is_own() { None } else { given_by(db, owner.file, owner.class, name, depth) }
}

fn given_by(db: &dyn Db, file: File, class: ClassId, name: Name, depth: u32) -> Option<Type> {
    saw(db, file, Ask::Whole);
    given_by_query(db, file, class, name, depth)
}

#[salsa::tracked(returns(copy))]
fn given_by_query(db: &dyn Db, file: File, class: ClassId, name: Name, depth: u32) -> Option<Type> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let mut types = Vec::new();
    for def in index.classes[class].attributes.get(&name)? {
        let mut infer = concluding(db, file, index.defs[*def].body, depth);
        let ty = infer.definition(*def);
        types.push(infer.widen_for_others(ty));
    }
    known(db, crate::types::union::join(db.store(), types))
}

fn result(db: &dyn Db, file: File, function: FunctionId, depth: u32) -> Option<Type> {
    saw(db, file, Ask::Whole);
    result_query(db, file, function, depth)
}

#[salsa::tracked(returns(copy))]
fn result_query(db: &dyn Db, file: File, function: FunctionId, depth: u32) -> Option<Type> {
    let depth = depth.checked_sub(1)?;
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let is_plain = file.origin(db).is_own() && !record.is_async && index.bodies[record.body].yields.is_empty();
    if !is_plain || record.returns.is_some() || !record.decorators.is_empty() {
        return None;
    }
    let mut infer = concluding(db, file, record.body, depth);
    let ty = functions::returned(&mut infer, function);
    known(db, infer.widen_for_others(ty)).filter(|ty| !crate::types::substitute::has_variables(db.store(), *ty))
}

/// The parameter that something is unknown because of.
fn blamed(db: &dyn Db, ty: Type) -> Option<(File, FunctionId, u32)> {
    let cause = crate::types::union::cause_in(db.store(), ty)?;
    let Cause { kind: CauseKind::Parameter, file, at: Anchor::Param(function, place), .. } = *db.store().cause(cause)
    else {
        return None;
    };
    Some((file, function, place))
}
