//! Attributes that start as None and are given a value by another method than reads them. Whether that has run by then depends
//! on the order of calls, which no text of the class says: where most methods that read such an attribute do not ask whether it
//! is there, one more that does not is only noted.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyId, ClassId, DefId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ScopeId, Value};
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::members;
use crate::infer::Infer;
use crate::outline::{Site, module_index, reading};
use crate::types::Type;
use crate::types::union::may_be_none;

impl Infer<'_> {
    /// Where another method gives an attribute a value, of the method's own object or of one that is used from outside, if that
    /// is all that is known of its being None.
    pub(crate) fn given_later(&mut self, holder: ExprId) -> Option<Site> {
        if let Expr::Name(name, value) = self.index.exprs[holder]
            && matches!(self.index.values[self.index.unnarrowed(value)], Value::Global(_))
        {
            return self.global_given_later(name).map(|def| self.site_of(def));
        }
        let Expr::Attribute { value: object, name, place } = self.index.exprs[holder] else { return None };
        let is_from_flow = place.known().is_some_and(|place| {
            !matches!(self.index.values[self.index.unnarrowed(place)], Value::Natural(_) | Value::Given(_))
        });
        if is_from_flow {
            return None;
        }
        let Type::Instance(id) = self.quietly(object) else { return None };
        let found = members::find(self.db, id, name, None)?;
        let owner = self.db.store().instance(found.owner).class;
        let is_own = owner.file.origin(self.db).is_own() && !owner.file.is_stub(self.db);
        if found.member.declared || matches!(found.member.ty, Type::Property(_)) || !is_own {
            return None;
        }
        attribute_given_later(self.db, owner.file, owner.class, name).map(|at| Site { file: owner.file, at })
    }

    fn later_of(&mut self, class: ClassId, name: Name) -> Option<DefId> {
        let index = self.index;
        let record = &index.classes[class];
        let of_body = index.scopes[record.scope].symbols.get(&name).map_or(&[][..], |symbol| &symbol.defs);
        let by_methods = record.attributes.get(&name).map_or(&[][..], |defs| defs.as_slice());
        let given = self.first_given(of_body.iter().chain(by_methods).copied())?;
        let readers: Vec<BodyId> = record
            .methods
            .iter()
            .filter(|method| {
                let function = &index.functions[**method];
                let written = by_methods.iter().filter(|def| index.defs[**def].body == function.body).count();
                function.name != known::INIT && mentions(index, **method, name) > written
            })
            .map(|method| index.functions[*method].body)
            .collect();
        let asked = index.tested.get(&name).map_or(&[][..], |asked| asked);
        let asking = readers.iter().filter(|body| asked.contains(body)).count();
        (asking * 2 < readers.len()).then_some(given)
    }

    /// The same of a name of the module that a function gives a value: `global tides`.
    fn global_given_later(&mut self, name: Name) -> Option<DefId> {
        let index = self.index;
        let symbol = index.scopes[ScopeId(0)].symbols.get(&name)?;
        if symbol.foreign.is_empty() || self.declared_symbol(ScopeId(0), name).is_some() {
            return None;
        }
        let given = self.first_given(symbol.defs.iter().chain(&symbol.foreign).copied())?;
        let reads = |body: &leitmotiv_index::tree::Body| {
            body.function.is_some()
                && body
                    .exprs
                    .clone()
                    .any(|number| matches!(index.exprs[ExprId(number)], Expr::Name(read, _) if read == name))
        };
        let readers = index.bodies.iter().filter(|(_, body)| reads(body)).count();
        let asking = index.tested_globals.get(&name).map_or(0, |asked| asked.len());
        (asking * 2 < readers).then_some(given)
    }

    /// The first of some definitions that gives something else than None, if none of them may give None by what it calls.
    fn first_given(&mut self, defs: impl Iterator<Item = DefId>) -> Option<DefId> {
        let index = self.index;
        let mut given = None;
        for def in defs {
            let (value, is_unpacked) = match &index.defs[def].kind {
                DefKind::Assign { value, unpack, .. } => (*value, unpack.is_some()),
                DefKind::Import { .. } | DefKind::ImportFrom { .. } => {
                    given = given.or(Some(def));
                    continue;
                }
                _ => continue,
            };
            // What a name holds may be None for the same reasons.
            let is_passed_on = is_unpacked || matches!(index.exprs[value], Expr::Name(..));
            if index.exprs[value] == Expr::None {
                continue;
            }
            let ty = Infer::new(self.db, self.file, index.defs[def].body).definition(def);
            // What may give None itself is another matter.
            match may_be_none(self.db.store(), ty) {
                true if !is_passed_on => return None,
                true => {}
                false => given = given.or(Some(def)),
            }
        }
        given
    }
}

/// Where a method gives an attribute a value that most of those that read it do not ask for, if that is all that is known of its
/// being None.
pub(crate) fn attribute_given_later(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Anchor> {
    saw(db, file, Ask::AttributeGivenLater(class, name));
    attribute_given_later_query(db, file, class, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| None)]
fn attribute_given_later_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Anchor> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let given = Infer::new(db, file, index.classes[class].body).later_of(class, name)?;
    Some(index.anchor_of_attribute(class, name, given))
}

/// How often a method reads or writes an attribute of its own object.
fn mentions(index: &ModuleIndex, method: FunctionId, name: Name) -> usize {
    let record = &index.functions[method];
    let Some(first) = record.params.first() else { return 0 };
    let is_mention = |number: &u32| match index.exprs[ExprId(*number)] {
        Expr::Attribute { value, name: read, .. } if read == name => {
            matches!(index.exprs[value], Expr::Name(object, _) if object == first.name)
        }
        _ => false,
    };
    index.bodies[record.body].exprs.clone().filter(is_mention).count()
}
