//! What a place holds right after an assignment, within what is declared.

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId};
use leitmotiv_syntax::names::known;

use super::Infer;
use crate::context::TypeContext;
use crate::definitions::classes::members;
use crate::types::{CauseKind, ClassRef, Type};

impl TypeContext<'_> {
    fn same_class(&self, one: Type, other: Type) -> bool {
        match (one, other) {
            (Type::Instance(one), Type::Instance(other)) => {
                self.db.store().instance(one).class == self.db.store().instance(other).class
            }
            _ => false,
        }
    }

    /// Whether a literal is among the parts of a type.
    pub(super) fn speaks_of_literals(&self, ty: Type) -> bool {
        crate::types::union::parts(self.db.store(), &ty).iter().any(|part| matches!(part, Type::Literal(_)))
    }

    /// Whether a type is a literal number, text or truth value, and no member of an enumeration.
    pub(super) fn is_plain_literal(&self, ty: Type) -> bool {
        let store = self.db.store();
        matches!(ty, Type::Literal(id) if !matches!(store.literal(id), crate::types::Literal::Enum(..)))
    }

    /// Whether an instance's class derives from another's, and says so.
    fn derives_from(&self, one: Type, other: Type) -> bool {
        match (one, other) {
            (Type::Instance(one), Type::Instance(other)) => {
                let class = self.db.store().instance(other).class;
                crate::definitions::classes::as_base(self.db, one, class).is_some()
            }
            _ => false,
        }
    }

    /// Whether something in a type is unknown.
    pub(crate) fn holds_unknown(&self, ty: Type) -> bool {
        crate::types::holds(self.db.store(), ty, &|part| part.is_unknown())
    }

    /// What is held by what is declared, given something that nobody knows: hardly None, and which of several it is nobody knows
    /// either.
    fn held_of_unknown(&self, declared: Type, given: Type) -> Type {
        let rest = crate::types::union::filter(self.db.store(), declared, |part| part != Type::None);
        if matches!(rest, Type::Union(_)) { given } else { rest }
    }

    /// Whether something in a type is unknown, or `Any`.
    fn holds_dynamic(&self, ty: Type) -> bool {
        crate::types::holds(self.db.store(), ty, &|part| part.is_dynamic())
    }
}

impl Infer<'_> {
    /// What a place holds right after a definition: the assigned type, within what is declared.
    pub(crate) fn current(&mut self, def: DefId) -> Type {
        let record = &self.index.defs[def];
        let (scope, name) = (record.scope, record.name);
        match &record.kind {
            DefKind::Annotated { annotation, value } => {
                if let Some(special) = self.declared_symbol(scope, name)
                    && matches!(special, Type::Special(_))
                {
                    return special;
                }
                let declared = self.declared_annotation(*annotation);
                match (declared, value) {
                    (Some(declared), Some(_)) if self.file.is_stub(self.db) => declared,
                    // `berth: int = field()`, then `@berth.default`: in the class's body it is what the call gives.
                    (Some(_), Some(value)) if self.is_made_anyhow(scope, *value) => Type::Any,
                    (Some(declared), Some(value)) => {
                        let held = self.assigned(declared, *value);
                        // Of what is not known it is not known that it is None either, though it is said to be some day.
                        match self.expr(*value) {
                            given if given.is_unknown() => self.held_of_unknown(held, given),
                            _ => held,
                        }
                    }
                    (Some(declared), None) => declared,
                    (None, Some(value)) => self.alias_or_value(*annotation, *value),
                    (None, None) => self.unknown(CauseKind::Bare, *annotation),
                }
            }
            DefKind::Assign { value, unpack: None, comment } => {
                let (value, comment) = (*value, *comment);
                if let Some(comment) = comment {
                    let declared = self.annotation(comment);
                    return self.assigned(declared, value);
                }
                if self.is_attribute(def) {
                    return match self.declared_attribute(def) {
                        Some(declared) => self.assigned_again(declared, value),
                        None => self.definition(def),
                    };
                }
                // A later assignment to a name that is declared somewhere in its scope.
                match self.declaration_elsewhere(def) {
                    Some(declared) if self.is_plainly_another(declared, value) => self.expr(value),
                    Some(declared) => self.assigned_again(declared, value),
                    None => self.definition(def),
                }
            }
            // A name keeps to what it is declared, whatever binds it.
            DefKind::Assign { .. } | DefKind::For { .. } | DefKind::With { .. } | DefKind::Augmented { .. }
                if !self.is_attribute(def) =>
            {
                let given = self.definition(def);
                match self.declaration_elsewhere(def) {
                    // Whoever writes `Any` means it.
                    Some(Type::Any) => Type::Any,
                    Some(declared) if given.is_dynamic() => self.held_of_unknown(declared, given),
                    Some(declared) if !self.is_assignable(given, declared) => self.held_of(declared, given),
                    _ => given,
                }
            }
            _ => self.definition(def),
        }
    }

    /// Whether a name is given something else than it is declared to hold. That has been told where it is done; from there on the
    /// name is what it is.
    fn is_plainly_another(&mut self, declared: Type, value: ExprId) -> bool {
        // Whoever hides that it does not fit means the declaration.
        let lines = &self.index.lines.0;
        let (first, last) = (self.index.spans[value].start(), self.index.spans[value].end());
        let at = lines.index_of(first)..=lines.index_of(last);
        let is_hidden = self.index.comments.iter().any(|comment| at.contains(&lines.index_of(comment.range.start())));
        if self.is_display(value) || is_hidden || matches!(self.index.exprs[value], Expr::None) {
            return false;
        }
        let given = self.expr(value);
        let may_be = |part: &Type| part.is_dynamic() || *part == Type::None;
        let is_certain = !crate::types::union::parts(self.db.store(), &given).iter().any(may_be);
        is_certain && !declared.is_dynamic() && !self.holds_unknown(given) && !self.is_assignable(given, declared)
    }

    /// Whether a class's name gets its value by a call that may give anything.
    fn is_made_anyhow(&mut self, scope: leitmotiv_index::tree::ScopeId, value: ExprId) -> bool {
        matches!(self.index.scopes[scope].kind, leitmotiv_index::tree::ScopeKind::Class(_))
            && matches!(self.index.exprs[value], Expr::Call { .. })
            && self.expr(value) == Type::Any
    }

    /// Whether a definition gives an attribute and not a name.
    pub(crate) fn is_attribute(&self, def: DefId) -> bool {
        let record = &self.index.defs[def];
        !self.index.scopes[record.scope]
            .symbols
            .get(&record.name)
            .is_some_and(|symbol| symbol.defs.contains(&def) || symbol.foreign.contains(&def))
    }

    /// The declared type of the attribute of its own object that a method assigns.
    fn declared_attribute(&self, def: DefId) -> Option<Type> {
        let record = &self.index.defs[def];
        let function = self.index.bodies[record.body].function?;
        let class = self.index.functions[function].class?;
        let is_own = self.index.classes[class].attributes.get(&record.name).is_some_and(|defs| defs.contains(&def));
        if !is_own {
            return None;
        }
        let class = ClassRef { file: self.file, class };
        let found = members::declared(self.db, class, record.name)?;
        let is_value = !matches!(found.member.ty, Type::Literal(_) | Type::Special(_));
        let is_set = matches!(found.member.ty, Type::Instance(id) if found.member.in_class
            && members::find(self.db, id, known::SET, None).is_some());
        if !is_value || is_set {
            return None;
        }
        let params: Vec<Type> =
            crate::definitions::classes::info(self.db, class).params.iter().map(|var| Type::Var(*var)).collect();
        let own = crate::resolve::instance_of(self.db, class, &params);
        let declared =
            crate::definitions::classes::class_arguments(self.db, found.owner).apply(self.db.store(), found.member.ty);
        Some(self.replace_self(declared, Type::Instance(own)))
    }

    /// The declared type of the name that a definition gives, declared by another statement.
    pub(crate) fn declaration_elsewhere(&mut self, def: DefId) -> Option<Type> {
        let record = &self.index.defs[def];
        let symbol = self.index.scopes[record.scope].symbols.get(&record.name)?;
        if symbol.defs.len() + symbol.foreign.len() < 2 {
            return None;
        }
        self.declared_symbol(record.scope, record.name)
    }

    /// The declared type narrowed to what is assigned (typing specification, "Type narrowing on assignment").
    pub(crate) fn assigned(&mut self, declared: Type, value: ExprId) -> Type {
        if declared.is_unknown() {
            return declared;
        }
        // Whoever writes `Any` means it.
        if declared == Type::Any {
            return declared;
        }
        match &self.index.exprs[value] {
            Expr::Conditional { then, otherwise, .. } if self.is_display(value) => {
                let parts = [self.assigned(declared, *then), self.assigned(declared, *otherwise)];
                return self.join(parts);
            }
            Expr::BoolOp { and, operands } if self.is_display(value) => {
                let (and, operands) = (*and, operands.clone());
                let Some((last, tested)) = operands.split_last() else { return declared };
                let mut parts = Vec::with_capacity(operands.len());
                for operand in tested {
                    let held = self.assigned(declared, *operand);
                    parts.push(self.truthy_part(held, !and));
                }
                parts.push(self.assigned(declared, *last));
                return self.join(parts);
            }
            _ => {}
        }
        // A display has the declared type from the start.
        if self.is_display(value) && self.fits(value, declared) {
            if let Some(ty) = self.display_as(value, declared) {
                return ty;
            }
            return crate::types::union::filter(self.db.store(), declared, |part| part != Type::None);
        }
        let given = self.expr(value);
        self.held_of(declared, given)
    }

    /// What is held by what is declared, given a value of a type.
    fn held_of(&mut self, declared: Type, given: Type) -> Type {
        if given.is_dynamic() || declared.is_dynamic() {
            return declared;
        }
        let store = self.db.store();
        if !self.is_assignable(given, declared) {
            // Whatever it is, it is not None.
            let is_none = crate::types::union::parts(store, &given).contains(&Type::None);
            return if is_none || declared == Type::None {
                declared
            } else {
                crate::types::union::filter(store, declared, |part| part != Type::None)
            };
        }
        // `dict(fares)` for a `dict[str, Any]`: whoever says that anything may be in it means to put other things in.
        let open = crate::types::union::parts(store, &declared).iter().copied().find(|part| {
            self.same_class(given, *part) && self.holds_dynamic(*part) && self.is_assignable(given, *part)
        });
        if let Some(open) = open {
            return open;
        }
        // A number or a text narrows to its class, unless the declaration speaks of literals.
        let given = match self.speaks_of_literals(declared) {
            true => given,
            false => crate::types::union::map(store, given, |part| {
                let class = self.literal_fallback(part);
                if self.is_plain_literal(part) && self.is_assignable(class, declared) { class } else { part }
            }),
        };
        if !self.holds_dynamic(given) {
            return given;
        }
        // `list[unknown]` for `list[int] | None`: the part that it fits says more.
        let mut held = Vec::new();
        for given in crate::types::union::parts(store, &given).to_vec() {
            let fitting: Vec<Type> = crate::types::union::parts(store, &declared)
                .iter()
                .copied()
                .filter(|part| self.is_assignable(given, *part))
                .collect();
            // `dict[str, Any]` for a `Mapping`: a dict all the same.
            let is_said = !given.is_dynamic() && !self.holds_unknown(given);
            // What it fits says more of it where it has arguments of its own.
            let says_more = |infer: &Self, part: &Type| matches!(part, Type::Instance(id) if !infer.db.store().instance(*id).args.is_empty());
            let is_more = !given.is_dynamic()
                && matches!(given, Type::Instance(_))
                && !fitting.iter().any(|part| says_more(self, part) || part.is_dynamic());
            // `dict(fares)` for a `Mapping[str, int]` is a `dict[str, int]`.
            if let ([part @ Type::Instance(_)], Type::Instance(_)) = (fitting.as_slice(), given)
                && !self.same_class(given, *part)
                && self.derives_from(given, *part)
            {
                held.push(self.with_arguments(*part, given));
                continue;
            }
            if (is_said || is_more) && !fitting.is_empty() && !fitting.iter().any(|part| self.same_class(given, *part))
            {
                held.push(given);
            } else {
                held.extend(fitting);
            }
        }
        if held.is_empty() { declared } else { self.join(held) }
    }

    /// The same for a later assignment. Where nobody knows what is assigned, it is hardly the None that the name may have
    /// started with.
    pub(crate) fn assigned_again(&mut self, declared: Type, value: ExprId) -> Type {
        let held = self.assigned(declared, value);
        if held.is_dynamic() {
            return held;
        }
        let given = self.expr(value);
        let store = self.db.store();
        let given_parts = crate::types::union::parts(store, &given);
        if given_parts.iter().any(|part| part.is_dynamic()) && !given_parts.contains(&Type::None) {
            return self.held_of_unknown(declared, given);
        }
        held
    }

    /// `X: TypeAlias = …` names a type; `X: Final = …` has its value's type.
    pub(crate) fn alias_or_value(&mut self, annotation: ExprId, value: ExprId) -> Type {
        if self.expr(annotation) == Type::Special(crate::types::SpecialForm::TypeAlias) {
            let ty = self.annotation(value);
            return self.form(ty);
        }
        self.expr(value)
    }
}
