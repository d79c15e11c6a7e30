//! Fields of dataclasses and named tuples, members of enumerations (typing specification, "Dataclasses", "Named tuples",
//! "Enumerations").

use leitmotiv_index::tree::{ArgKind, ClassForm, DefId, DefKind, Expr, ExprId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::assignments::Put;
use super::classes::own_names;
use crate::definitions::classes::{self, ClassKind, dataclass, members};
use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::{BadField, ProblemKind};
use crate::types::{ClassRef, Type};

impl Infer<'_> {
    /// Fields of dataclasses and named tuples: their order, and their defaults.
    pub(crate) fn check_fields(&mut self, class: ClassRef) {
        let db = self.db;
        let info = classes::info(db, class);
        let scope = self.index.classes[class.class].scope;
        let own = |name: Name| {
            let symbol = self.index.scopes[scope].symbols.get(&name)?;
            symbol.defs.iter().copied().find(|def| matches!(self.index.defs[*def].kind, DefKind::Annotated { .. }))
        };
        let is_dataclass = info.dataclass.is_some();
        if !is_dataclass && info.kind != ClassKind::NamedTuple {
            return;
        }
        let takes_all = info.dataclass.is_none_or(|options| options.init);
        let mut before: Option<(Name, Option<DefId>)> = None;
        let mut found = Vec::new();
        for field in dataclass::all_fields(db, class) {
            let def = own(field.name);
            if let Some(def) = def
                && info.dataclass.is_some_and(|options| options.transform.is_none())
                && let DefKind::Annotated { value: Some(value), .. } = self.index.defs[def].kind
                && self.is_shared(value)
            {
                found.push((def, field.name, BadField::Shared, None));
            }
            if !field.init || field.kw_only || !takes_all {
                continue;
            }
            if field.optional {
                before = Some((field.name, def));
            } else if let (Some((name, at)), Some(def)) = (before, def) {
                let at = at.map(|at| self.site_of(at));
                found.push((def, field.name, BadField::Order(name), at));
            }
        }
        if is_dataclass && takes_all {
            self.check_post_init(class);
        }
        if is_dataclass {
            self.check_made(class);
        }
        if info.kind == ClassKind::NamedTuple {
            self.check_tuple_fields(class);
        }
        for (def, name, why, at) in found {
            self.problem_at(self.index.defs[def].range, None, ProblemKind::ClassField { name, why, at });
        }
    }

    /// What a dataclass makes may not be written as well; one mark says from where on fields are by keyword only.
    fn check_made(&mut self, class: ClassRef) {
        let db = self.db;
        let index = self.index;
        let Some(options) = classes::info(db, class).dataclass.filter(|options| options.transform.is_none()) else {
            return;
        };
        let mut marks = 0;
        for (def, name) in own_names(index, class.class) {
            let is_comparison = matches!(self.text(name), "__lt__" | "__le__" | "__gt__" | "__ge__");
            let is_method = matches!(index.defs[def].kind, DefKind::Function(_));
            if options.order && is_comparison && is_method {
                let kind = ProblemKind::ClassField { name, why: BadField::Ordered, at: None };
                let range = index.classes[class.class].decorators.first().map(|first| index.spans[*first]);
                self.problem_at(range.unwrap_or(index.defs[def].range), None, kind);
                return;
            }
            if let DefKind::Annotated { annotation, .. } = index.defs[def].kind
                && let Type::Class(id) = self.quietly(annotation)
                && classes::shown(db, db.store().instance(id).class) == "KW_ONLY"
            {
                marks += 1;
                if marks == 2 {
                    let kind = ProblemKind::ClassField { name, why: BadField::SecondMark, at: None };
                    self.problem_at(index.defs[def].range, None, kind);
                }
            }
        }
    }

    /// Names of a named tuple's fields (library reference, "collections").
    fn check_tuple_fields(&mut self, class: ClassRef) {
        let index = self.index;
        let form = index.classes[class.class].form;
        // `namedtuple(…, rename=True)` gives such names itself.
        let is_own = classes::info(self.db, class)
            .mro
            .get(1)
            .is_some_and(|base| self.db.store().instance(*base).class.file.module(self.db) == known::TYPING);
        if form == ClassForm::PlainTuple || !is_own {
            return;
        }
        for (def, name) in own_names(index, class.class) {
            if matches!(index.defs[def].kind, DefKind::Annotated { .. }) && self.text(name).starts_with('_') {
                let kind = ProblemKind::ClassField { name, why: BadField::Underscore, at: None };
                self.problem_at(index.defs[def].range, None, kind);
            }
        }
    }

    /// Members of an enumeration: they have no annotation, and fit `_value_` where that is declared.
    pub(crate) fn check_members(&mut self, class: ClassRef) {
        let db = self.db;
        let index = self.index;
        let record = &index.classes[class.class];
        if classes::info(db, class).kind != ClassKind::Enum || record.form != ClassForm::Statement {
            return;
        }
        let declared = self.declared_value(class);
        for (def, name) in own_names(index, class.class) {
            let text = self.text(name);
            match index.defs[def].kind {
                DefKind::Annotated { value: Some(_), .. } if !text.starts_with('_') && !self.file.is_stub(db) => {
                    let kind = ProblemKind::ClassField { name, why: BadField::AnnotatedMember, at: None };
                    self.problem_at(index.defs[def].range, None, kind);
                }
                DefKind::Assign { value, unpack: None, .. } if classes::enums::is_member(db, index, name, def) => {
                    let Some((declared, at)) = declared else { continue };
                    let is_made = matches!(index.exprs[value], Expr::Call { .. } | Expr::Ellipsis);
                    if !is_made && !self.takes(declared, Put::Expr(value)) {
                        let given = self.expr(value);
                        let name = db.names().intern("_value_");
                        self.problem(value, ProblemKind::ValueAssign { declared, given, name, def: Some(at) });
                    }
                }
                _ => {}
            }
        }
    }

    /// What an enumeration declares of its members' values, where these are not made by a method of its own.
    fn declared_value(&self, class: ClassRef) -> Option<(Type, Site)> {
        let db = self.db;
        let found = members::declared(db, class, db.names().find("_value_")?)?;
        let owner = db.store().instance(found.owner).class;
        let is_made = classes::info(db, class).mro.iter().any(|entry| {
            let entry = db.store().instance(*entry).class;
            let outline = crate::outline::class(db, entry);
            !entry.file.is_stub(db) && [known::INIT, known::NEW].iter().any(|name| outline.get(*name).in_body)
        });
        (!owner.file.is_stub(db) && !is_made && !found.member.ty.is_dynamic())
            .then(|| (found.member.ty, Infer::member_site(db, found)))
    }

    /// `field(default=…)`, `field(default_factory=…)`: what is given fits what the field is declared to be.
    pub(crate) fn check_field_default(&mut self, value: ExprId, declared: Type, name: Name, def: Site) {
        let index = self.index;
        let Expr::Call { callee, args } = &index.exprs[value] else { return };
        let is_standard = matches!(self.quietly(*callee), Type::Function(id)
            if self.text(self.db.store().function(id).file.module(self.db)) == "dataclasses");
        if !is_standard || crate::types::substitute::has_variables(self.db.store(), declared) {
            return;
        }
        for arg in args {
            match arg.kind {
                ArgKind::Keyword(known::DEFAULT) if !self.takes(declared, Put::Expr(arg.value)) => {
                    let given = self.expr(arg.value);
                    self.problem(arg.value, ProblemKind::ValueAssign { declared, given, name, def: Some(def) });
                }
                ArgKind::Keyword(known::DEFAULT_FACTORY) => {
                    let factory = self.expr(arg.value);
                    let given = match index.exprs[arg.value] {
                        Expr::Lambda(lambda) => {
                            let body = index.lambdas[lambda].body;
                            if self.takes(declared, Put::Expr(body)) {
                                continue;
                            }
                            self.expr(body)
                        }
                        _ => self.call_with(factory, &[]),
                    };
                    let is_known = !given.is_dynamic() && given != Type::Never;
                    if is_known && !self.is_assignable(given, declared) {
                        self.problem(arg.value, ProblemKind::ValueAssign { declared, given, name, def: Some(def) });
                    }
                }
                _ => {}
            }
        }
    }

    /// What `InitVar` fields pass on must be what `__post_init__` takes, by place (`dataclasses`, "Init-only variables").
    fn check_post_init(&mut self, class: ClassRef) {
        let db = self.db;
        let name = db.names().intern("__post_init__");
        let Some(member) = members::own_member(db, class.file, class.class, name) else { return };
        let Type::Function(id) = member.ty else { return };
        let function = *db.store().function(id);
        let declared = crate::definitions::functions::declared(db, function.file, function.function);
        let index = self.index;
        let is_open = declared.params.iter().any(|param| matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs));
        if is_open || function.file != self.file || !index.functions[function.function].decorators.is_empty() {
            return;
        }
        let here = index.functions[function.function].name_range;
        let passed: Vec<dataclass::Field> =
            dataclass::all_fields(db, class).into_iter().filter(|field| field.is_passed_on).collect();
        let params = declared.params.get(1..).unwrap_or_default();
        for (place, field) in passed.iter().enumerate() {
            let why = match params.get(place) {
                None => BadField::NotPassed,
                Some(param) if !self.is_assignable(field.ty, param.ty) => BadField::PassedAs(field.ty, param.ty),
                Some(_) => continue,
            };
            // It belongs to what takes it, or to the method, where nothing does.
            let method = &index.functions[function.function];
            let range = method.params.get(place + 1).map_or(here, |param| index.defs[param.def].range);
            self.problem_at(
                range,
                None,
                ProblemKind::ClassField {
                    name: field.name,
                    why,
                    at: Some(Site::of_function(function.file, function.function)),
                },
            );
        }
        if let Some(asked) = params.get(passed.len()).filter(|param| !param.optional) {
            let kind = ProblemKind::ClassField { name: asked.name, why: BadField::Asked, at: None };
            let method = &index.functions[function.function];
            let range = method.params.get(passed.len() + 1).map_or(here, |param| index.defs[param.def].range);
            self.problem_at(range, None, kind);
        }
    }

    /// Whether a default is a container that all instances would share.
    fn is_shared(&self, value: ExprId) -> bool {
        match &self.index.exprs[value] {
            Expr::List(_) | Expr::Dict(_) | Expr::Set(_) => true,
            Expr::Call { callee, args } => {
                args.is_empty()
                    && matches!(self.index.exprs[*callee], Expr::Name(name, _)
                        if matches!(self.text(name), "list" | "dict" | "set"))
            }
            _ => false,
        }
    }
}
