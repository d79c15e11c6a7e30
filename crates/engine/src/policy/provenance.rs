//! Whether somebody said what a value's type is, by an annotation somewhere, or whether it was only concluded.
//!
//! What was concluded from one use need not hold for the next: a list that starts with numbers may be meant to take text
//! as well. What was said must hold.

use leitmotiv_index::tree::{BodyId, DefId, DefKind, Expr, ExprId, ModuleIndex, ScopeId, Value, ValueId};
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::definitions::{classes, functions};
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::resolve::{Imported, import_target};
use crate::types::Type;
use crate::types::substitute::has_variables;
use crate::types::union::parts;

/// How many definitions are followed.
const FARTHEST: u32 = 8;

impl TypeContext<'_> {
    pub(crate) fn is_result_said(&self, function: crate::types::FunctionRef) -> bool {
        let signatures = &crate::outline::function(self.db, function.file, function.function).signatures;
        signatures.iter().all(|one| functions::declared(self.db, function.file, *one).returns.is_some())
    }
}

/// How a name comes into a module.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Comes {
    /// The module sets it to None, and to something else in another place; nobody declares it.
    SetToNone,
    /// `from module import name`, and nothing else.
    From { module: Name, level: u32, name: Name },
    /// In another way.
    Otherwise,
}

/// Whether a definition assigns None, and nobody says what the name holds beside.
fn sets_to_none(index: &ModuleIndex, kind: &DefKind) -> bool {
    matches!(kind, DefKind::Assign { value, unpack: None, comment: None } if index.exprs[*value] == Expr::None)
}

pub(crate) fn comes(db: &dyn Db, file: File, name: Name) -> Comes {
    saw(db, file, Ask::Comes(name));
    comes_query(db, file, name)
}

#[salsa::tracked(returns(copy))]
fn comes_query(db: &dyn Db, file: File, name: Name) -> Comes {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return Comes::Otherwise };
    let kinds = || symbol.defs.iter().chain(&symbol.foreign).map(|def| &index.defs[*def].kind);
    let is_none = |kind: &DefKind| sets_to_none(index, kind);
    if kinds().any(is_none) {
        let is_declared = kinds().any(|kind| matches!(kind, DefKind::Annotated { .. }));
        return if is_declared || kinds().all(is_none) { Comes::Otherwise } else { Comes::SetToNone };
    }
    let mut kinds = kinds();
    match (kinds.next(), kinds.next()) {
        (Some(DefKind::ImportFrom { module, level, name, .. }), None) => {
            Comes::From { module: *module, level: *level, name: *name }
        }
        _ => Comes::Otherwise,
    }
}

/// Names are followed through so many imports.
const MOST_IMPORTS: usize = 4;

impl Infer<'_> {
    /// Whether the type of an expression rests on annotations. Displays and literals rest on none.
    pub(crate) fn is_said(&mut self, expr: ExprId) -> bool {
        self.said_expr(expr, 0)
    }

    /// Whether an expression fits a type, or may: where several types were only concluded for it, one that fits is enough.
    pub(crate) fn is_assignable_leniently(&mut self, expr: ExprId, expected: Type) -> bool {
        let expected = self.unfolded(expected);
        if self.fits(expr, expected) || self.constant_fits(expr, expected) || self.means_truth(expr, expected) {
            return true;
        }
        let store = self.db.store();
        // A mixin's own `self` has what the classes it is mixed into have.
        if matches!(expected, Type::Instance(_)) && self.is_receiver(expr) {
            return true;
        }
        if let Some(fit) = self.elements_fit_loosely(expr, expected) {
            return fit;
        }
        if self.filled_fits(expr, expected) {
            return true;
        }
        let given = self.expr(expr);
        if self.is_like_typed_dict(expr, given, expected) || self.elements_could_be_declared(expr, given, expected) {
            return true;
        }
        let some_may = parts(store, &given).iter().any(|part| *part != Type::None && self.may_fit(*part, expected));
        if !some_may {
            return false;
        }
        if self.fails_for_none(given, expected) { self.is_unreliable_none(expr) } else { self.is_ambiguous(expr) }
    }

    /// Whether a dictionary that was only concluded from a display somewhere is wanted as a typed dictionary: which it may have
    /// been meant as.
    fn is_like_typed_dict(&mut self, expr: ExprId, given: Type, expected: Type) -> bool {
        let store = self.db.store();
        let is_dict = |part: &Type| {
            matches!(part, Type::Instance(id)
            if crate::resolve::is_builtin(self.db, store.instance(*id).class, known::DICT))
        };
        let is_typed = |part: &Type| {
            matches!(part, Type::Instance(id)
            if matches!(classes::info(self.db, store.instance(*id).class).kind, classes::ClassKind::TypedDict { .. }))
        };
        let none_too = |part: &Type| *part == Type::None && parts(store, &expected).contains(&Type::None);
        let fits = parts(store, &given).iter().all(|part| is_dict(part) || none_too(part))
            && parts(store, &given).iter().any(is_dict)
            && parts(store, &expected).iter().any(is_typed);
        fits && !matches!(self.index.exprs[expr], Expr::Dict(_)) && !self.is_said(expr)
    }

    /// Whether all that is put into a list which a name was given empty, and which nobody declared, fits what is expected of its
    /// elements: `kinds = []`, `kinds.append(0)`, `return kinds` for a `list[Literal[0, 1]]`.
    fn filled_fits(&mut self, expr: ExprId, expected: Type) -> bool {
        use leitmotiv_index::tree::{FillKind, Filled};
        let index = self.index;
        let Expr::Name(_, value) = index.exprs[expr] else { return false };
        let Value::Def(def) = index.values[index.unnarrowed(value)] else { return false };
        let DefKind::Assign { value, unpack: None, comment: None } = index.defs[def].kind else { return false };
        let count = match &index.exprs[value] {
            Expr::List(parts) if parts.is_empty() => 1,
            Expr::Dict(parts) if parts.is_empty() => 2,
            _ => return false,
        };
        let Some(fills) = index.fills.get(&Filled::Def(def)) else { return false };
        let Type::Instance(own) = self.expr(value) else { return false };
        let class = self.db.store().instance(own).class;
        let wanted = parts(self.db.store(), &expected).to_vec();
        let Some(args) = wanted.into_iter().find_map(|part| self.expected_args(class, part, count)) else {
            return false;
        };
        fills.iter().all(|fill| {
            fill.body == self.body
                && match fill.kind {
                    FillKind::Element => count == 1 && self.fits(fill.value, args[0]),
                    FillKind::Item { key } => count == 2 && self.fits(key, args[0]) && self.fits(fill.value, args[1]),
                    _ => false,
                }
        })
    }

    /// Whether each element of a display fits, or may, what is expected of it: they stand there to be seen one by one.
    /// `None` where the expression is no display, or the expected type does not say what its elements are.
    fn elements_fit_loosely(&mut self, expr: ExprId, expected: Type) -> Option<bool> {
        let store = self.db.store();
        let index = self.index;
        let is_display = matches!(index.exprs[expr], Expr::List(_) | Expr::Set(_) | Expr::Dict(_) | Expr::Tuple(_));
        if !is_display || has_variables(store, expected) {
            return None;
        }
        if let Type::Union(id) = expected {
            // A part that no such display could be says nothing: `int` of `int | list[int]`.
            let is_other = |part: &Type| match part {
                Type::None | Type::Literal(_) => true,
                Type::Instance(id) => {
                    let class = store.instance(*id).class;
                    class.file.module(self.db) == known::BUILTINS
                        && [known::INT, known::STR, known::BYTES, known::FLOAT, known::BOOL_CLASS, known::COMPLEX]
                            .iter()
                            .any(|name| crate::resolve::is_builtin(self.db, class, *name))
                }
                _ => false,
            };
            let parts_asked: Vec<Type> = store.union_parts(id).iter().copied().filter(|part| !is_other(part)).collect();
            let found: Vec<Option<bool>> =
                parts_asked.into_iter().map(|part| self.elements_fit_loosely(expr, part)).collect();
            return if found.contains(&Some(true)) {
                Some(true)
            } else {
                found.into_iter().collect::<Option<Vec<bool>>>().map(|_| false)
            };
        }
        match (&index.exprs[expr], expected) {
            (Expr::List(parts) | Expr::Set(parts), Type::Instance(_)) => {
                let args = self.elements_expected(expr, expected, 1)?;
                Some(parts.iter().all(|part| {
                    matches!(index.exprs[*part], Expr::Starred(_)) || self.is_assignable_leniently(*part, args[0])
                }))
            }
            (Expr::Dict(parts), Type::Instance(_)) => {
                let args = self.elements_expected(expr, expected, 2)?;
                Some(parts.iter().all(|(key, value)| match key {
                    Some(key) => {
                        self.is_assignable_leniently(*key, args[0]) && self.is_assignable_leniently(*value, args[1])
                    }
                    None => true,
                }))
            }
            (Expr::Tuple(parts), Type::Tuple(id)) => {
                let tuple = store.tuple(id).clone();
                let is_starred = parts.iter().any(|part| matches!(index.exprs[*part], Expr::Starred(_)));
                match tuple.rest {
                    _ if is_starred => None,
                    None if tuple.prefix.len() == parts.len() => {
                        Some(parts.iter().zip(&tuple.prefix).all(|(part, ty)| self.is_assignable_leniently(*part, *ty)))
                    }
                    Some(rest) if tuple.prefix.is_empty() && tuple.suffix.is_empty() => {
                        Some(parts.iter().all(|part| self.is_assignable_leniently(*part, rest)))
                    }
                    _ => None,
                }
            }
            _ => None,
        }
    }

    /// What is expected of the elements of a display.
    fn elements_expected(&mut self, expr: ExprId, expected: Type, count: usize) -> Option<Vec<Type>> {
        let Type::Instance(own) = self.expr(expr) else { return None };
        let class = self.db.store().instance(own).class;
        self.expected_args(class, expected, count)
    }

    /// Whether a name of the module that is bound but once, to a literal, fits by that literal.
    fn constant_fits(&self, expr: ExprId, expected: Type) -> bool {
        let store = self.db.store();
        if !parts(store, &expected).iter().any(|part| matches!(part, Type::Literal(_))) {
            return false;
        }
        let Expr::Name(name, value) = self.index.exprs[expr] else { return false };
        if !matches!(self.index.values[value], Value::Global(_)) {
            return false;
        }
        let Some(symbol) = self.index.scopes[ScopeId(0)].symbols.get(&name) else { return false };
        let ([def], []) = (symbol.defs.as_slice(), symbol.foreign.as_slice()) else { return false };
        let DefKind::Assign { value, unpack: None, .. } = self.index.defs[*def].kind else { return false };
        let literal = Infer::new(self.db, self.file, BodyId(0)).expr(value);
        matches!(literal, Type::Literal(_)) && self.is_assignable(literal, expected)
    }

    /// Whether a 0 or 1 stands for a truth value, in a function that nobody wrote types for.
    fn means_truth(&self, expr: ExprId, expected: Type) -> bool {
        let is_bit = matches!(self.index.exprs[expr], Expr::Int(Some(0 | 1)));
        let truth = self.builtin(known::BOOL_CLASS);
        is_bit && parts(self.db.store(), &expected).contains(&truth) && !self.is_in_annotated_function()
    }

    /// Whether None is what does not fit.
    fn fails_for_none(&self, given: Type, expected: Type) -> bool {
        let store = self.db.store();
        parts(store, &given).contains(&Type::None) && !self.is_assignable(Type::None, expected)
    }

    /// Whether a type fits once the elements of containers that are of several types are left open.
    fn may_fit(&self, ty: Type, expected: Type) -> bool {
        let store = self.db.store();
        let loose = |arg: &Type| if matches!(arg, Type::Union(_)) { Type::Any } else { *arg };
        let loosened = match ty {
            Type::Instance(id) => {
                let instance = store.instance(id);
                let args: Vec<Type> = instance.args.iter().map(loose).collect();
                Type::Instance(crate::resolve::instance_of(self.db, instance.class, &args))
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                Type::Tuple(store.intern_tuple(crate::types::Tuple {
                    prefix: tuple.prefix.iter().map(loose).collect(),
                    rest: tuple.rest.as_ref().map(loose),
                    suffix: tuple.suffix.iter().map(loose).collect(),
                }))
            }
            ty => ty,
        };
        self.is_assignable(loosened, expected)
    }

    /// Whether the several types of an expression were concluded at some other place, where nobody can tell which of them
    /// it is here: elements of a container that nobody declared, what an unannotated function gives, what methods assign
    /// to an attribute.
    pub(crate) fn is_ambiguous(&mut self, expr: ExprId) -> bool {
        self.is_ambiguous_at_last(expr, false)
    }

    /// What is asked of an expression may ask the same of it again, around a loop: then it is not.
    fn is_ambiguous_at_last(&mut self, expr: ExprId, elements_only: bool) -> bool {
        if self.asked_loose.contains(&(expr, elements_only)) {
            return false;
        }
        self.asked_loose.push((expr, elements_only));
        let is_loose = self.loose_expr(expr, elements_only, 0);
        self.asked_loose.pop();
        is_loose
    }

    /// The same for elements of containers alone: that one of them may be None says least of all.
    pub(crate) fn is_ambiguous_element(&mut self, expr: ExprId) -> bool {
        self.is_ambiguous_at_last(expr, true)
    }

    fn loose_expr(&mut self, expr: ExprId, elements_only: bool, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let index = self.index;
        match index.exprs[expr] {
            Expr::Subscript { value, .. } => {
                // The items of a tuple are told apart.
                let container = self.quietly(value);
                !matches!(container, Type::Tuple(_)) && (!self.is_said(value) || !self.says_items(value))
            }
            Expr::Attribute { place, .. } if !elements_only => {
                // Where the flow knows what was assigned, that counts.
                let from_flow = place.known().is_some_and(|place| {
                    !matches!(index.values[index.unnarrowed(place)], Value::Natural(_) | Value::Given(_))
                });
                !from_flow && !self.is_said(expr)
            }
            Expr::Name(_, value) => self.loose_value(value, elements_only, depth),
            // `rows.pop()` is an element as `rows[0]` is.
            Expr::Call { callee, ref args } if elements_only => self.is_taken_out(callee, args.len()),
            Expr::Call { .. } | Expr::Await(_) if !elements_only => !self.is_said(expr),
            Expr::List(_) | Expr::Set(_) | Expr::Dict(_) | Expr::Tuple(_) | Expr::Comprehension(_) => !elements_only,
            Expr::Binary { left, right, .. } => {
                self.loose_expr(left, elements_only, depth + 1) || self.loose_expr(right, elements_only, depth + 1)
            }
            Expr::Unary { operand, .. } => self.loose_expr(operand, elements_only, depth + 1),
            Expr::Conditional { then, otherwise, .. } => {
                self.loose_expr(then, elements_only, depth + 1) || self.loose_expr(otherwise, elements_only, depth + 1)
            }
            _ => false,
        }
    }

    /// Whether a call takes an element out of a container that nobody declared.
    fn is_taken_out(&mut self, callee: ExprId, args: usize) -> bool {
        let Expr::Attribute { value, name, .. } = self.index.exprs[callee] else { return false };
        let takes = match self.text(name) {
            "pop" => args < 2,
            "popleft" => args == 0,
            "setdefault" => args == 2,
            _ => false,
        };
        let is_container = |infer: &mut Self| match infer.quietly(value) {
            Type::Instance(id) => {
                let instance = infer.db.store().instance(id);
                let module = instance.class.file.module(infer.db);
                !instance.args.is_empty() && (module == known::BUILTINS || infer.text(module) == "collections")
            }
            _ => false,
        };
        takes && is_container(self) && (!self.is_said(value) || !self.says_items(value))
    }

    fn loose_value(&mut self, value: ValueId, elements_only: bool, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let index = self.index;
        match index.values[index.unnarrowed(value)] {
            Value::Def(def) => match index.defs[def].kind {
                DefKind::Assign { value, .. } | DefKind::Named { value } => {
                    self.loose_expr(value, elements_only, depth + 1)
                }
                DefKind::For { iterable, .. } => !self.is_said(iterable) || !self.says_items(iterable),
                _ => false,
            },
            Value::Phi { start, len, .. } => {
                index.phi(start, len).iter().any(|(_, arg)| self.loose_value(*arg, elements_only, depth + 1))
            }
            Value::Global(_) | Value::Closure { .. } | Value::Captured { .. } if !elements_only => {
                !self.said_value(value, depth)
            }
            _ => false,
        }
    }

    /// Whether that an expression may be None is no more than a conclusion from another place: it is an element of a container
    /// that nobody declared, an attribute that some method sets to None while no code ever asks whether it is, or what a module, a class
    /// or a function is where it cannot be had.
    pub(crate) fn is_unreliable_none(&mut self, expr: ExprId) -> bool {
        self.is_ambiguous_element(expr) || self.is_untested(expr, 0) || self.is_none_where_absent(expr)
    }

    /// Whether something is a module or None, and nobody declared it so; or a class, a function or an import of a module, to which
    /// the module gives None where that cannot be had.
    fn is_none_where_absent(&mut self, expr: ExprId) -> bool {
        let store = self.db.store();
        if let Expr::Name(name, value) = self.index.exprs[expr]
            && matches!(self.index.values[self.index.unnarrowed(value)], Value::Global(_))
            && let Some(symbol) = self.index.scopes[ScopeId(0)].symbols.get(&name)
        {
            let kinds = || symbol.defs.iter().map(|def| &self.index.defs[*def].kind);
            let is_made = |kind: &DefKind| {
                matches!(
                    kind,
                    DefKind::Class(_) | DefKind::Function(_) | DefKind::Import { .. } | DefKind::ImportFrom { .. }
                )
            };
            let is_none = |kind: &DefKind| sets_to_none(self.index, kind);
            if kinds().any(is_made) && kinds().any(is_none) || self.comes_as_none(name) {
                return true;
            }
        }
        let ty = self.quietly(expr);
        let all = parts(store, &ty);
        all.len() > 1 && all.iter().any(|part| self.is_module(*part)) && !self.is_declared_place(expr)
    }

    /// Whether a name of the module is imported from one that sets it to None, undeclared, and to something else in another place.
    fn comes_as_none(&self, name: Name) -> bool {
        let (mut file, mut name) = (self.file, name);
        for number in 0..MOST_IMPORTS {
            match comes(self.db, file, name) {
                Comes::SetToNone => return number > 0,
                Comes::Otherwise => return false,
                Comes::From { module, level, name: imported } => {
                    let Some(Imported::File(from)) = import_target(self.db, file, module, level) else { return false };
                    (file, name) = (from, imported);
                }
            }
        }
        false
    }

    fn is_module(&self, ty: Type) -> bool {
        match ty {
            Type::Module(_) | Type::Namespace(_) => true,
            Type::Instance(id) => crate::relate::is_module_class(self.db, self.db.store().instance(id).class),
            _ => false,
        }
    }

    /// Whether a container that was concluded in a function without annotations would fit, were its elements declared as
    /// what is expected: nobody had a reason to declare them.
    fn elements_could_be_declared(&mut self, expr: ExprId, given: Type, expected: Type) -> bool {
        let store = self.db.store();
        if self.index.bodies[self.body].function.is_none() || self.is_in_annotated_function() || self.is_said(expr) {
            return false;
        }
        let wanted = parts(store, &expected).to_vec();
        parts(store, &given).iter().all(|part| {
            let Type::Instance(id) = *part else { return self.is_assignable(*part, expected) };
            let own = store.instance(id);
            let count = own.args.len();
            self.is_assignable(*part, expected)
                || wanted.iter().any(|want| {
                    self.expected_args(own.class, *want, count).is_some_and(|args| {
                        own.args.iter().zip(args).all(|(have, want)| self.is_assignable(*have, want))
                    })
                })
        })
    }

    fn is_in_annotated_function(&self) -> bool {
        let is_annotated = |record: &leitmotiv_index::tree::Function| {
            record.returns.is_some() || record.params.iter().any(|param| param.annotation.is_some())
        };
        self.index.bodies[self.body].function.is_some_and(|function| is_annotated(&self.index.functions[function]))
    }

    fn is_untested(&mut self, expr: ExprId, depth: u32) -> bool {
        let index = self.index;
        match index.exprs[expr] {
            Expr::Attribute { value, name, place } => {
                let from_flow = place.known().is_some_and(|place| {
                    !matches!(index.values[index.unnarrowed(place)], Value::Natural(_) | Value::Given(_))
                });
                if from_flow || index.tested.contains_key(&name) {
                    return false;
                }
                let object = self.quietly(value);
                let Type::Instance(id) = object else { return false };
                let Some(found) = classes::members::find(self.db, id, name, None) else { return false };
                if found.member.declared || matches!(found.member.ty, Type::Property(_) | Type::Function(_)) {
                    return false;
                }
                let owner = self.db.store().instance(found.owner).class;
                // An annotated parameter that gives it its value says that it may be None.
                if classes::open_members::is_given_by_parameters(self.db, owner.file, owner.class, name) {
                    return false;
                }
                !crate::outline::names::tested_attributes(self.db, owner.file).contains(&name)
            }
            // A method that gives nothing in this class may be there for subclasses to give something.
            Expr::Call { callee, .. } => {
                let Expr::Attribute { value: object, .. } = index.exprs[callee] else { return false };
                self.is_receiver(object) && self.quietly(expr) == Type::None && !self.is_said(expr)
            }
            Expr::Name(_, value) if depth < FARTHEST => match index.values[index.unnarrowed(value)] {
                Value::Def(def) => match index.defs[def].kind {
                    DefKind::Assign { value, unpack: None, .. } => self.is_untested(value, depth + 1),
                    _ => false,
                },
                _ => false,
            },
            _ => false,
        }
    }

    /// Whether an annotation at the place itself says what an expression is: of a name, an attribute, or what they hold.
    pub(crate) fn is_declared_place(&mut self, expr: ExprId) -> bool {
        let index = self.index;
        match index.exprs[expr] {
            Expr::Name(_, value) => match index.values[index.unnarrowed(value)] {
                Value::Def(def) => match index.defs[def].kind {
                    DefKind::Annotated { .. } | DefKind::Assign { comment: Some(_), .. } => true,
                    DefKind::Param { function, index: place } => {
                        index.functions[function].params[place as usize].annotation.is_some()
                    }
                    _ => self.declaration_elsewhere(def).is_some(),
                },
                Value::Global(name) => self.declared_symbol(ScopeId(0), name).is_some(),
                Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                    self.declared_symbol(scope, name).is_some()
                }
                _ => false,
            },
            Expr::Attribute { value, name, .. } => {
                let object = self.quietly(value);
                self.said_attribute(object, name)
            }
            Expr::Subscript { value, .. } => self.is_declared_place(value),
            _ => false,
        }
    }

    fn said_expr(&mut self, expr: ExprId, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let depth = depth + 1;
        match self.index.exprs[expr] {
            Expr::Name(_, value) => self.said_value(value, depth),
            Expr::Attribute { value, name, .. } => {
                let object = self.quietly(value);
                self.said_attribute(object, name)
            }
            Expr::Call { callee, ref args } => {
                let ty = self.quietly(callee);
                if let Type::Class(id) = ty
                    && !self.says_what_it_gives(ty)
                {
                    // `Box(vessel)` takes its arguments from what is passed.
                    let is_generic = !classes::info(self.db, self.db.store().instance(id).class).params.is_empty();
                    return is_generic
                        && !args.is_empty()
                        && args.iter().all(|arg| {
                            let is_plain = matches!(
                                arg.kind,
                                leitmotiv_index::tree::ArgKind::Positional | leitmotiv_index::tree::ArgKind::Keyword(_)
                            );
                            is_plain && self.said_argument(arg.value, depth)
                        });
                }
                self.says_what_it_gives(ty) && self.says_receiver(callee, ty, depth)
            }
            Expr::Subscript { value, .. } => self.said_expr(value, depth) && self.says_items(value),
            Expr::Await(value) | Expr::Starred(value) => self.said_expr(value, depth),
            Expr::Named { value, .. } => self.said_expr(value, depth),
            Expr::Conditional { then, otherwise, .. } => {
                self.said_expr(then, depth) && self.said_expr(otherwise, depth)
            }
            Expr::BoolOp { ref operands, .. } => self.said_operands(operands, depth),
            _ => false,
        }
    }

    /// Whether what is passed is said: itself, or all that a display puts together.
    fn said_argument(&mut self, expr: ExprId, depth: u32) -> bool {
        let index = self.index;
        match &index.exprs[expr] {
            Expr::List(parts) | Expr::Set(parts) | Expr::Tuple(parts) => {
                !parts.is_empty() && parts.iter().all(|part| self.said_expr(*part, depth))
            }
            // A class or a function that is handed over says nothing of what is put in.
            _ => {
                !matches!(self.quietly(expr), Type::Class(_) | Type::Function(_) | Type::Method(_))
                    && self.said_expr(expr, depth)
            }
        }
    }

    /// `mode or "plain"`, where the mode is declared, and a literal beside it is one of what it is declared to be.
    fn said_operands(&mut self, operands: &[ExprId], depth: u32) -> bool {
        let Some((first, rest)) = operands.split_first() else { return false };
        if !self.said_expr(*first, depth) {
            return false;
        }
        let declared = self.quietly(*first);
        rest.iter().all(|operand| {
            self.said_expr(*operand, depth) || {
                let own = self.quietly(*operand);
                matches!(own, Type::Literal(_)) && parts(self.db.store(), &declared).contains(&own)
            }
        })
    }

    fn said_value(&mut self, value: ValueId, depth: u32) -> bool {
        let root = self.index.unnarrowed(value);
        match self.index.values[root] {
            Value::Def(def) => self.said_def(def, depth),
            Value::Global(name) => {
                let index = self.index;
                let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return true };
                self.declared_symbol(ScopeId(0), name).is_some()
                    || symbol.defs.iter().chain(&symbol.foreign).all(|def| {
                        index.defs[*def].body == self.body && self.said_def(*def, depth)
                            || matches!(index.defs[*def].kind, DefKind::Class(_) | DefKind::Function(_))
                            || self.is_said_where_imported(*def, depth)
                    })
            }
            Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                self.declared_symbol(scope, name).is_some()
            }
            Value::Phi { start, len, .. } if depth <= FARTHEST => {
                self.index.phi(start, len).iter().all(|(_, arg)| *arg != root && self.said_value(*arg, depth + 1))
            }
            _ => false,
        }
    }

    fn said_def(&mut self, def: DefId, depth: u32) -> bool {
        let index = self.index;
        match &index.defs[def].kind {
            DefKind::Annotated { .. } | DefKind::Class(_) | DefKind::Function(_) => true,
            DefKind::Assign { comment: Some(_), .. } => true,
            DefKind::Assign { value, .. } => self.declaration_elsewhere(def).is_some() || self.said_expr(*value, depth),
            DefKind::Param { function, index: place } => {
                let record = &index.functions[*function];
                record.params.get(*place as usize).is_some_and(|param| param.annotation.is_some())
                    || (*place == 0 && record.class.is_some())
            }
            DefKind::Named { value } => self.said_expr(*value, depth),
            // It stays what it was declared to be.
            DefKind::Augmented { .. } => self.declaration_elsewhere(def).is_some(),
            DefKind::For { iterable, .. } => self.said_expr(*iterable, depth),
            DefKind::With { manager, .. } => self.said_expr(*manager, depth),
            DefKind::ImportFrom { .. } => self.is_said_where_imported(def, depth),
            _ => false,
        }
    }

    /// Whether a name is imported from where it is declared.
    fn is_said_where_imported(&self, def: DefId, depth: u32) -> bool {
        let DefKind::ImportFrom { module, level, name, .. } = self.index.defs[def].kind else { return false };
        let target = crate::resolve::import_target(self.db, self.file, module, level);
        let Some(crate::resolve::Imported::File(file)) = target else { return false };
        is_said_name(self.db, file, name, depth)
    }

    fn said_attribute(&mut self, object: Type, name: leitmotiv_syntax::names::Name) -> bool {
        match object {
            Type::Instance(id) | Type::Class(id) => {
                let Some(found) = classes::members::find(self.db, id, name, None) else { return false };
                let owner = self.db.store().instance(found.owner).class;
                match found.member.ty {
                    Type::Property(id) => self.is_result_said(*self.db.store().function(id)),
                    // What the class's body defines is said there.
                    Type::Function(_) => crate::outline::class(self.db, owner).get(name).is_definition,
                    // What methods give it is said where their parameters are annotated.
                    _ => {
                        found.member.declared
                            || !owner.file.is_stub(self.db)
                                && !found.member.in_class
                                && classes::open_members::is_given_by_parameters(self.db, owner.file, owner.class, name)
                    }
                }
            }
            Type::Union(id) => {
                let parts = self.db.store().union_parts(id).to_vec();
                parts.into_iter().filter(|part| *part != Type::None).all(|part| self.said_attribute(part, name))
            }
            Type::Module(file) => is_declared_name(self.db, file, name),
            _ => false,
        }
    }

    fn says_what_it_gives(&mut self, callee: Type) -> bool {
        let store = self.db.store();
        match callee {
            // Who asks for an attribute by `getattr` says that nothing is said of it.
            Type::Function(id) => {
                let function = *store.function(id);
                let name = crate::outline::function(self.db, function.file, function.function).name;
                name != known::GETATTR_FUNCTION && self.is_result_said(function)
            }
            Type::Method(id) => matches!(store.method(id).function, Type::Function(id)
                if self.is_result_said(*store.function(id))),
            // `list(…)` takes its elements from its argument.
            Type::Class(id) => {
                let instance = store.instance(id);
                !instance.args.is_empty() || classes::info(self.db, instance.class).params.is_empty()
            }
            _ => false,
        }
    }

    /// Whether somebody said what the object of a method is, as far as that matters to the result: what `pop` of a list gives
    /// is said only where the list is.
    fn says_receiver(&mut self, callee: ExprId, ty: Type, depth: u32) -> bool {
        let (Expr::Attribute { value, .. }, Type::Method(id)) = (&self.index.exprs[callee], ty) else { return true };
        let store = self.db.store();
        let Type::Function(function) = store.method(id).function else { return true };
        let Some(owner) = store.function(function).owner else { return true };
        classes::info(self.db, store.instance(owner).class).params.is_empty() || self.said_expr(*value, depth)
    }

    /// Whether the items of a container are what an annotation says: of a class that nobody annotated they are not.
    pub(crate) fn says_items(&mut self, container: ExprId) -> bool {
        let ty = self.quietly(container);
        let Some(id) = self.nominal(ty) else { return true };
        match classes::members::find(self.db, id, known::GETITEM, None).map(|found| found.member.ty) {
            Some(Type::Function(function)) => self.is_result_said(*self.db.store().function(function)),
            _ => true,
        }
    }
}

/// Whether a module declares a name of its own.
pub(crate) fn is_declared_name(db: &dyn Db, file: File, name: Name) -> bool {
    saw(db, file, Ask::IsDeclaredName(name));
    is_declared_name_query(db, file, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| false)]
fn is_declared_name_query(db: &dyn Db, file: File, name: Name) -> bool {
    let _reading = reading(db, file);
    module_index(db, file).scopes[ScopeId(0)].symbols.contains_key(&name)
        && Infer::new(db, file, BodyId(0)).declared_symbol(ScopeId(0), name).is_some()
}

/// What a module's own annotation says that a name holds, if it says a type, and where it stands.
pub(crate) fn declaration_in(
    db: &dyn Db,
    file: File,
    name: Name,
) -> Option<(Option<Type>, leitmotiv_index::anchor::Anchor)> {
    saw(db, file, Ask::DeclarationIn(name));
    declaration_in_query(db, file, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| None)]
fn declaration_in_query(
    db: &dyn Db,
    file: File,
    name: Name,
) -> Option<(Option<Type>, leitmotiv_index::anchor::Anchor)> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let symbol = index.scopes[ScopeId(0)].symbols.get(&name)?;
    let def = symbol.defs.iter().find(|def| matches!(index.defs[**def].kind, DefKind::Annotated { .. }))?;
    let ty = Infer::new(db, file, BodyId(0)).declared_symbol(ScopeId(0), name);
    Some((ty, index.anchor_of_def(*def)))
}

/// Whether a module declares a name, or imports it from where it is declared, through so many modules at most.
pub(crate) fn is_said_name(db: &dyn Db, file: File, name: Name, depth: u32) -> bool {
    saw(db, file, Ask::IsSaidName(name, depth));
    is_said_name_query(db, file, name, depth)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| false)]
fn is_said_name_query(db: &dyn Db, file: File, name: Name, depth: u32) -> bool {
    let _reading = reading(db, file);
    let Some(symbol) = module_index(db, file).scopes[ScopeId(0)].symbols.get(&name) else { return false };
    let infer = Infer::new(db, file, BodyId(0));
    is_declared_name(db, file, name)
        || depth <= FARTHEST
            && !symbol.defs.is_empty()
            && symbol.defs.iter().all(|def| infer.is_said_where_imported(*def, depth + 1))
}
