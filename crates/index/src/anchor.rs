//! Places told by what stands there.
//!
//! A range moves with every line that is added above it. An [`Anchor`] names what stands at a place, so that it is the same
//! after an edit of another body, of a comment, or of the layout: what others conclude from it need not be concluded again.

use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use serde::{Deserialize, Serialize};

use crate::tree::{BodyId, ClassId, DefId, ExprId, FunctionId, ModuleIndex, ScopeId, ScopeKind};

/// A place in a module; only meaningful together with it. All numbers are 0-based.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub enum Anchor {
    /// The module as a whole: its start.
    Module,
    /// An expression, by its number among those of its body: of a function, or the module.
    Expr(Option<FunctionId>, u32),
    /// One of the definitions of a name in its scope, by its number among those of the scope's own body.
    Name(ScopeKey, Name, u32),
    /// One of the assignments that methods make on an object of their class, by its number among those of the attribute.
    Attribute(ClassId, Name, u32),
    /// Any other definition, by its number among those of its body: of a function, or the module.
    Def(Option<FunctionId>, u32),
    /// A function's name.
    Function(FunctionId),
    /// A parameter's name.
    Param(FunctionId, u32),
    /// A class's name.
    Class(ClassId),
}

/// A scope, told by what opens it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub enum ScopeKey {
    /// The module.
    Module,
    /// A class's body.
    Class(ClassId),
    /// A function's body.
    Function(FunctionId),
    /// Any other, by its number among the scopes that are opened in a function, or in the module.
    Other(Option<FunctionId>, u32),
}

impl ModuleIndex {
    /// What opens a scope.
    #[must_use]
    pub fn scope_key(&self, scope: ScopeId) -> ScopeKey {
        match self.scopes[scope].kind {
            ScopeKind::Module => ScopeKey::Module,
            ScopeKind::Class(class) => ScopeKey::Class(class),
            ScopeKind::Function(function) => ScopeKey::Function(function),
            _ => {
                let around = std::iter::successors(self.scopes[scope].parent, |outer| self.scopes[*outer].parent);
                let owner = around.map(|outer| self.scopes[outer].kind).find_map(|kind| match kind {
                    ScopeKind::Function(function) => Some(function),
                    _ => None,
                });
                let first = owner.map_or(0, |owner| self.functions[owner].scope.0);
                ScopeKey::Other(owner, scope.0.saturating_sub(first))
            }
        }
    }

    /// The scope that something opens.
    fn scope_of(&self, key: ScopeKey) -> Option<ScopeId> {
        Some(match key {
            ScopeKey::Module => ScopeId(0),
            ScopeKey::Class(class) => self.classes.get(class)?.scope,
            ScopeKey::Function(function) => self.functions.get(function)?.scope,
            ScopeKey::Other(function, place) => {
                let first = function.map_or(Some(ScopeId(0)), |function| Some(self.functions.get(function)?.scope))?;
                ScopeId(first.0.checked_add(place)?)
            }
        })
    }

    /// The body of a function, or the module's.
    fn body_of_function(&self, function: Option<FunctionId>) -> Option<BodyId> {
        function.map_or(Some(BodyId(0)), |function| self.functions.get(function).map(|record| record.body))
    }

    /// The anchor of an expression.
    #[must_use]
    pub fn anchor_of(&self, expr: ExprId) -> Anchor {
        let body = &self.bodies[self.body_of(expr)];
        Anchor::Expr(body.function, expr.0 - body.exprs.start)
    }

    /// The anchor of an expression that may well be one of a body's.
    #[must_use]
    pub fn anchor_in(&self, body: BodyId, expr: ExprId) -> Anchor {
        let body = &self.bodies[body];
        let is_there = body.exprs.contains(&expr.0);
        if is_there { Anchor::Expr(body.function, expr.0 - body.exprs.start) } else { self.anchor_of(expr) }
    }

    /// The body that an expression was lowered for.
    fn body_of(&self, expr: ExprId) -> BodyId {
        // Bodies are lowered in the order of their ids, each as one run.
        let behind = self.bodies.partition_point(|body| body.exprs.start <= expr.0);
        BodyId(u32::try_from(behind.saturating_sub(1)).unwrap_or(u32::MAX))
    }

    /// The anchor of a definition.
    #[must_use]
    pub fn anchor_of_def(&self, def: DefId) -> Anchor {
        let record = &self.defs[def];
        let place = |defs: &[DefId]| defs.binary_search(&def).ok().and_then(|place| u32::try_from(place).ok());
        let symbol = self.scopes[record.scope].symbols.get(&record.name);
        if let Some(place) = symbol.and_then(|symbol| place(&symbol.defs)) {
            return Anchor::Name(self.scope_key(record.scope), record.name, place);
        }
        let body = &self.bodies[record.body];
        Anchor::Def(body.function, def.0 - body.defs.start)
    }

    /// The anchor of an assignment on an object of a class, where it is one; else as [`ModuleIndex::anchor_of_def`].
    #[must_use]
    pub fn anchor_of_attribute(&self, class: ClassId, name: Name, def: DefId) -> Anchor {
        let defs = self.classes[class].attributes.get(&name);
        match defs.and_then(|defs| defs.binary_search(&def).ok()).and_then(|place| u32::try_from(place).ok()) {
            Some(place) => Anchor::Attribute(class, name, place),
            None => self.anchor_of_def(def),
        }
    }

    /// The definition at an anchor; `None` where there is none, as in another text than the one that the anchor was made for.
    #[must_use]
    pub fn def_at(&self, anchor: Anchor) -> Option<DefId> {
        match anchor {
            Anchor::Name(scope, name, place) => {
                self.scopes.get(self.scope_of(scope)?)?.symbols.get(&name)?.defs.get(place as usize).copied()
            }
            Anchor::Attribute(class, name, place) => {
                self.classes.get(class)?.attributes.get(&name)?.get(place as usize).copied()
            }
            Anchor::Def(function, place) => {
                let defs = &self.bodies.get(self.body_of_function(function)?)?.defs;
                let def = defs.start.checked_add(place)?;
                defs.contains(&def).then_some(DefId(def))
            }
            Anchor::Function(function) => Some(self.functions.get(function)?.def),
            Anchor::Param(function, place) => Some(self.functions.get(function)?.params.get(place as usize)?.def),
            Anchor::Class(class) => Some(self.classes.get(class)?.def),
            Anchor::Module | Anchor::Expr(..) => None,
        }
    }

    /// The decorators of the function or class at an anchor, in the order of the text; none of anything else.
    #[must_use]
    pub fn decorators_at(&self, anchor: Anchor) -> &[ExprId] {
        match anchor {
            Anchor::Function(function) => self.functions.get(function).map_or(&[], |record| &record.decorators),
            Anchor::Class(class) => self.classes.get(class).map_or(&[], |record| &record.decorators),
            _ => &[],
        }
    }

    /// Where an anchor lies, in bytes; the start of the text where there is nothing such.
    #[must_use]
    pub fn range_of(&self, anchor: Anchor) -> TextRange {
        let range = match anchor {
            Anchor::Module => None,
            Anchor::Expr(function, place) => self.body_of_function(function).and_then(|body| {
                let body = self.bodies.get(body)?;
                let expr = body.exprs.start.checked_add(place).filter(|expr| body.exprs.contains(expr))?;
                Some(self.spans[ExprId(expr)])
            }),
            Anchor::Function(function) => self.functions.get(function).map(|record| record.name_range),
            Anchor::Param(function, place) => {
                let param = self.functions.get(function).and_then(|record| record.params.get(place as usize));
                param.map(|param| param.name_range)
            }
            Anchor::Class(class) => self.classes.get(class).map(|record| record.name_range),
            Anchor::Name(..) | Anchor::Attribute(..) | Anchor::Def(..) => {
                self.def_at(anchor).map(|def| self.defs[def].range)
            }
        };
        range.unwrap_or_default()
    }
}

#[cfg(test)]
mod tests {
    use leitmotiv_syntax::names::Names;

    use super::*;
    use crate::lower::{Target, index_module};

    const FLEET: &str = "\
from ports import *
class Ferry:
    berths = 3
    def __init__(self, name):
        self.name = name
        self.name = name.strip()
        other.owner = self
    def label(self):
        return lambda text: [text for _ in self.name]
def longest(names): return max(names)
for berth in longest([]): berths = berth
berths = Ferry
";

    fn target() -> Target {
        Target { version: (3, 11), platform: "linux".into(), is_stub: false }
    }

    #[test]
    fn every_definition_and_expression_is_found_again() {
        let names = Names::new();
        let index = index_module(FLEET, &names, &target());
        assert!(index.defs.len() > 12);
        for (def, record) in index.defs.iter() {
            let anchor = index.anchor_of_def(def);
            assert_eq!(index.def_at(anchor), Some(def), "{record:?}");
            assert_eq!(index.range_of(anchor), record.range);
        }
        for (expr, range) in index.spans_iter() {
            assert_eq!(index.range_of(index.anchor_of(expr)), range);
        }
        let (class, record) = index.classes.iter().next().unwrap();
        for (name, defs) in &record.attributes {
            for def in defs {
                assert_eq!(index.def_at(index.anchor_of_attribute(class, *name, *def)), Some(*def));
            }
        }
    }

    #[test]
    fn what_is_edited_in_one_body_leaves_the_anchors_of_others() {
        let names = Names::new();
        let before = index_module(FLEET, &names, &target());
        let edited =
            FLEET.replace("        self.name = name\n", "\n        title = name + str(3)\n        self.name = title\n");
        let after = index_module(&edited, &names, &target());
        let anchors = |index: &ModuleIndex| {
            let init = BodyId(1);
            let others = index.defs.iter().filter(|(_, record)| record.body != init);
            others.map(|(def, record)| (index.anchor_of_def(def), record.name)).collect::<Vec<_>>()
        };
        assert_eq!(anchors(&before), anchors(&after));
    }

    #[test]
    fn functions_and_classes_that_come_and_go_leave_the_anchors_of_others() {
        let names = Names::new();
        let before = index_module(FLEET, &names, &target());
        let anchors = |index: &ModuleIndex| {
            let all = index.defs.iter().filter(|(_, record)| names.text(record.name) != "depart");
            all.map(|(def, record)| (index.anchor_of_def(def), record.name)).collect::<Vec<_>>()
        };
        for edited in [
            FLEET.replace("    def label", "    def depart(self): pass\n    def label"),
            FLEET.replace("def longest", "def depart():\n    def depart(): pass\ndef longest"),
            FLEET.replace("class Ferry", "class depart: pass\nclass Ferry"),
        ] {
            let after = index_module(&edited, &names, &target());
            let (before, after) = (anchors(&before), anchors(&after));
            let lost: Vec<_> = before.iter().filter(|one| !after.contains(one)).collect();
            assert!(lost.is_empty(), "{lost:?} in {edited}");
        }
    }

    #[test]
    fn an_anchor_of_another_text_leads_to_the_start() {
        let names = Names::new();
        let index = index_module("", &names, &target());
        let name = names.intern("berth");
        for anchor in [
            Anchor::Module,
            Anchor::Expr(Some(FunctionId(3)), 0),
            Anchor::Name(ScopeKey::Other(None, 9), name, 0),
            Anchor::Name(ScopeKey::Class(ClassId(9)), name, 0),
            Anchor::Attribute(ClassId(0), name, 0),
            Anchor::Def(None, u32::MAX),
            Anchor::Function(FunctionId(0)),
            Anchor::Param(FunctionId(0), 0),
            Anchor::Class(ClassId(0)),
        ] {
            assert_eq!(index.range_of(anchor), TextRange::default());
        }
    }
}
