//! Definitions of typed dictionaries (typing specification, "Typed dictionaries": class-based syntax, inheritance).

use leitmotiv_index::tree::{ArgKind, ClassForm, ClassId, DefKind, Expr};
use leitmotiv_syntax::names::{Name, known};

use crate::definitions::classes::dataclass::{self, Field};
use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::{BadBase, BadField, Callee, ProblemKind};
use crate::types::{ClassRef, SpecialForm, Type};

impl Infer<'_> {
    /// Looks at the definition of a typed dictionary.
    pub(crate) fn check_typed_dict(&mut self, class: ClassId) {
        let this = ClassRef { file: self.file, class };
        let info = classes::info(self.db, this);
        let record = &self.index.classes[class];
        if !matches!(info.kind, ClassKind::TypedDict { .. }) || record.form != ClassForm::Statement {
            return;
        }
        self.check_its_head(class);
        let scope = &self.index.scopes[record.scope];
        for (def, name) in super::classes::own_names(self.index, class) {
            let is_item = matches!(self.index.defs[def].kind, DefKind::Annotated { value: None, .. });
            // A stub's `...` and dunder names are let pass.
            if !is_item && !self.text(name).starts_with("__") && scope.symbols.contains_key(&name) {
                let kind = ProblemKind::ClassField { name, why: BadField::NoItem, at: None };
                self.problem_at(self.index.defs[def].range, None, kind);
            }
        }
        if info.unknown_base.is_none() {
            self.check_inherited_items(this);
        }
    }

    /// Its bases and keywords.
    fn check_its_head(&mut self, class: ClassId) {
        let index = self.index;
        for arg in &index.classes[class].args {
            match arg.kind {
                ArgKind::Positional => {
                    let head = match index.exprs[arg.value] {
                        Expr::Subscript { value, .. } => value,
                        _ => arg.value,
                    };
                    let base = self.expr(head);
                    let goes = match base {
                        Type::Special(special) => matches!(special, SpecialForm::TypedDict | SpecialForm::Generic),
                        Type::Class(id) => {
                            let info = classes::info(self.db, self.db.store().instance(id).class);
                            matches!(info.kind, ClassKind::TypedDict { .. }) || info.unknown_base.is_some()
                        }
                        base => base.is_dynamic(),
                    };
                    if !goes {
                        let why = BadBase::Beside("typed dictionary");
                        self.problem(arg.value, ProblemKind::ClassBase { base, why });
                    }
                }
                ArgKind::Keyword(name) if !matches!(self.text(name), "total" | "closed" | "extra_items") => {
                    let callee = Callee { shown: "TypedDict".into(), at: None, param: None };
                    self.problem(arg.value, ProblemKind::CallKeyword { callee, name, near: None });
                }
                _ => {}
            }
        }
    }

    /// Items that bases have as well, by the class itself or by one another.
    fn check_inherited_items(&mut self, class: ClassRef) {
        let db = self.db;
        let store = db.store();
        let index = self.index;
        let own = dataclass::own_fields(db, class, false).to_vec();
        let mut seen: Vec<(Name, Field, ClassRef)> = Vec::new();
        for entry in classes::info(db, class).mro.iter().skip(1) {
            let base = store.instance(*entry).class;
            let is_typed = matches!(classes::info(db, base).kind, ClassKind::TypedDict { .. });
            if !is_typed || base.file.module(db) == known::TYPING {
                continue;
            }
            let given = classes::class_arguments(db, *entry);
            for field in dataclass::own_fields(db, base, false) {
                let field = Field { ty: given.apply(store, field.ty), ..*field };
                let at = Some(Site { file: base.file, at: field.at });
                if let Some(mine) = own.iter().find(|mine| mine.name == field.name) {
                    if let Some(why) = self.item_clash(mine, &field) {
                        let kind = ProblemKind::ClassField { name: field.name, why, at };
                        self.problem_at(index.range_of(mine.at), None, kind);
                    }
                    continue;
                }
                match seen.iter().find(|(name, ..)| *name == field.name) {
                    Some((_, first, of)) if classes::derives(db, *of, base) == Some(false) => {
                        if self.item_clash(first, &field).is_some() {
                            let why = BadField::Differs(*of, base);
                            let kind = ProblemKind::ClassField { name: field.name, why, at };
                            self.problem_at(index.classes[class.class].name_range, None, kind);
                        }
                    }
                    Some(_) => {}
                    None => seen.push((field.name, field, base)),
                }
            }
        }
    }

    /// Why an item cannot stand for a base's of the same name.
    fn item_clash(&mut self, mine: &Field, theirs: &Field) -> Option<BadField> {
        let is_open = |ty: Type| ty.is_dynamic() || crate::types::substitute::has_variables(self.db.store(), ty);
        let is_same = is_open(mine.ty)
            || is_open(theirs.ty)
            || self.is_assignable(mine.ty, theirs.ty) && (theirs.read_only || self.is_assignable(theirs.ty, mine.ty));
        if !is_same {
            return Some(BadField::Retyped(theirs.ty, mine.ty));
        }
        if !theirs.optional && mine.optional {
            return Some(BadField::Presence { required: true });
        }
        if theirs.optional && !mine.optional && !theirs.read_only {
            return Some(BadField::Presence { required: false });
        }
        (!theirs.read_only && mine.read_only).then_some(BadField::ReadOnly)
    }
}
