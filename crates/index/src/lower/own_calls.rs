//! What calls of an object's own methods do to its attributes: `self.connect()` may give `self.line` a value, where it was None
//! before. Read from the class's text, and from that of its bases in the same module.

use std::rc::Rc;

use leitmotiv_syntax::ast::visitor::{Visitor, walk_expr, walk_stmt};
use leitmotiv_syntax::ast::{self, Expr as Ast, Stmt};
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use super::Lower;
use crate::flow::{Link, Place};
use crate::tree::*;

/// So many attributes are followed over a call. Said in docs/architecture.md.
const MOST_ATTRIBUTES: usize = 24;

/// Calls of own methods are followed through so many methods. Said in docs/architecture.md.
const MOST_METHODS: usize = 32;

/// What the methods of a class write to the attributes of their object.
#[derive(Debug, Default)]
pub(super) struct Writes {
    methods: FxHashMap<Name, Written>,
    /// Attributes that are None somewhere in the class.
    none: FxHashSet<Name>,
}

/// What one method writes, and which methods of its object it calls.
#[derive(Debug, Default, Clone)]
struct Written {
    /// In the order of the text, each once; whether something else than None is given.
    attributes: Vec<(Name, bool)>,
    calls: Vec<Name>,
}

impl Written {
    fn note(&mut self, attribute: Name, gives: bool) {
        match self.attributes.iter_mut().find(|(known, _)| *known == attribute) {
            Some((_, known)) => *known |= gives,
            None => self.attributes.push((attribute, gives)),
        }
    }
}

/// Looks through one method.
struct Walk<'l, 'a, 't> {
    lower: &'l mut Lower<'a>,
    own: &'t str,
    found: Written,
    none: Vec<Name>,
}

impl<'a> Walk<'_, 'a, '_> {
    fn own_attribute(&mut self, expr: &'a Ast) -> Option<Name> {
        let Ast::Attribute(attribute) = expr else { return None };
        matches!(&*attribute.value, Ast::Name(name) if name.id.as_str() == self.own)
            .then(|| self.lower.names.get(attribute.attr.as_str()))
    }

    fn target(&mut self, target: &'a Ast, value: Option<&'a Ast>) {
        match target {
            Ast::Tuple(ast::ExprTuple { elts, .. }) | Ast::List(ast::ExprList { elts, .. }) => {
                let parts = match value {
                    Some(Ast::Tuple(tuple)) if tuple.elts.len() == elts.len() => Some(&tuple.elts),
                    _ => None,
                };
                for (place, element) in elts.iter().enumerate() {
                    self.target(element, parts.map(|parts| &parts[place]));
                }
            }
            Ast::Starred(starred) => self.target(&starred.value, None),
            target => {
                if let Some(attribute) = self.own_attribute(target) {
                    let is_none = matches!(value, Some(Ast::NoneLiteral(_)));
                    self.found.note(attribute, !is_none);
                    if is_none {
                        self.none.push(attribute);
                    }
                }
            }
        }
    }
}

impl<'a> Visitor<'a> for Walk<'_, 'a, '_> {
    fn visit_stmt(&mut self, statement: &'a Stmt) {
        match statement {
            Stmt::Assign(assign) => {
                assign.targets.iter().for_each(|target| self.target(target, Some(&assign.value)));
            }
            Stmt::AnnAssign(assign) => self.target(&assign.target, assign.value.as_deref()),
            Stmt::AugAssign(assign) => self.target(&assign.target, None),
            Stmt::For(statement) => self.target(&statement.target, None),
            Stmt::With(statement) => {
                statement.items.iter().filter_map(|item| item.optional_vars.as_deref()).for_each(|target| {
                    self.target(target, None);
                });
            }
            // What is defined in a method runs some other time.
            Stmt::FunctionDef(_) | Stmt::ClassDef(_) => return,
            _ => {}
        }
        walk_stmt(self, statement);
    }

    fn visit_expr(&mut self, expr: &'a Ast) {
        match expr {
            Ast::Lambda(_) => return,
            Ast::Call(call) => {
                if let Some(method) = self.own_attribute(&call.func)
                    && !self.found.calls.contains(&method)
                {
                    self.found.calls.push(method);
                }
            }
            _ => {}
        }
        walk_expr(self, expr);
    }
}

impl<'a> Lower<'a> {
    /// Notes the text of a class of the module, for its methods and those of classes below it.
    pub(super) fn note_class_text(&mut self, class: ClassId, statement: &'a ast::StmtClassDef) {
        self.class_texts.insert(class, statement);
        self.class_names.insert(statement.name.as_str(), class);
    }

    fn writes_of(&mut self, class: ClassId) -> Rc<Writes> {
        if let Some(known) = self.class_writes.get(&class) {
            return Rc::clone(known);
        }
        // A class that derives from itself ends here.
        self.class_writes.insert(class, Rc::default());
        let mut writes = Writes::default();
        let Some(statement) = self.class_texts.get(&class).copied() else { return Rc::default() };
        for statement in &statement.body {
            match statement {
                Stmt::FunctionDef(function) => {
                    let name = self.names.get(function.name.as_str());
                    let Some(own) = function.parameters.iter_non_variadic_params().next() else { continue };
                    let own = own.parameter.name.as_str();
                    let mut walk = Walk { lower: self, own, found: Written::default(), none: Vec::new() };
                    function.body.iter().for_each(|statement| walk.visit_stmt(statement));
                    let Walk { found, none, .. } = walk;
                    writes.none.extend(none);
                    writes.methods.insert(name, found);
                }
                Stmt::Assign(ast::StmtAssign { targets, value, .. }) if matches!(**value, Ast::NoneLiteral(_)) => {
                    for target in targets {
                        if let Ast::Name(name) = target {
                            writes.none.insert(self.names.get(name.id.as_str()));
                        }
                    }
                }
                _ => {}
            }
        }
        let bases: Vec<ClassId> = statement
            .bases()
            .iter()
            .filter_map(|base| match base {
                Ast::Name(name) => self.class_names.get(name.id.as_str()).copied(),
                _ => None,
            })
            .collect();
        for base in bases {
            let inherited = self.writes_of(base);
            writes.none.extend(&inherited.none);
            for (name, written) in &inherited.methods {
                writes.methods.entry(*name).or_insert_with(|| written.clone());
            }
        }
        let writes = Rc::new(writes);
        self.class_writes.insert(class, Rc::clone(&writes));
        writes
    }

    /// Notes the attributes that hold something else than None wherever `__init__` ends.
    pub(super) fn note_set_by_init(&mut self, class: ClassId, own: Place) {
        if self.flow.reach.is_never() || !self.index.bodies[self.body].returns.is_empty() {
            return;
        }
        let Some(value) = self.flow.get(own) else { return };
        let Some(root) = self.flow.find_chain(Link::Root(self.index.unnarrowed(value))) else { return };
        let set = self.flow.attributes_of(root);
        let set: Vec<Name> =
            set.into_iter().filter(|(_, value)| self.is_something(*value, 0)).map(|(name, _)| name).collect();
        self.index.classes[class].set_by_init.extend(set);
    }

    /// Whether a value was given on every way, and is not None as it stands.
    fn is_something(&self, value: ValueId, depth: u32) -> bool {
        match self.index.values[value] {
            Value::Def(def) => match self.index.defs[def].kind {
                DefKind::Assign { value, .. } => self.index.exprs[value] != Expr::None,
                _ => false,
            },
            Value::Given(_) => true,
            Value::Phi { start, len, is_loop: false } if depth < 16 => {
                self.index.phi(start, len).iter().all(|(_, value)| self.is_something(*value, depth + 1))
            }
            _ => false,
        }
    }

    /// After a call of a method of the method's own object, the attributes that it gives a value to are no longer None, and of
    /// others that it writes nothing is known.
    pub(super) fn note_own_call(&mut self, callee: ExprId) {
        let Expr::Attribute { value: object, name: method, .. } = self.index.exprs[callee] else { return };
        let Some((first, class, _)) = self.class_first_params.last().copied() else { return };
        let Expr::Name(name, value) = self.index.exprs[object] else { return };
        if name != first {
            return;
        }
        let writes = self.writes_of(class);
        let mut written = Written::default();
        let mut open = vec![method];
        let mut seen = FxHashSet::default();
        while let Some(method) = open.pop() {
            if seen.len() > MOST_METHODS || !seen.insert(method) {
                continue;
            }
            let Some(own) = writes.methods.get(&method) else { continue };
            own.attributes.iter().for_each(|(attribute, gives)| written.note(*attribute, *gives));
            open.extend(own.calls.iter().rev());
        }
        if written.attributes.is_empty() || value == ValueId::UNBOUND {
            return;
        }
        let root = self.flow.chain(Link::Root(self.index.unnarrowed(value)));
        for (attribute, gives) in written.attributes.into_iter().take(MOST_ATTRIBUTES) {
            let place = Place::Chain(self.flow.chain(Link::Attribute(root, attribute)));
            if gives && writes.none.contains(&attribute) {
                let range = self.index.spans[object];
                let read = Expr::Attribute { value: object, name: attribute, place: ValueId::NONE };
                let read = self.push(read, range);
                let value = self.index.values.push(Value::Given(read));
                self.flow.set(place, Some(value));
            } else if self.flow.get(place).is_some() {
                self.flow.set(place, None);
            }
        }
    }
}
