//! Names that are read where they may not be bound (language reference, "Resolution of names").

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, ScopeId, ScopeKind, StatementKind, Value, ValueId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashSet;

use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::resolve::Imported;

impl Infer<'_> {
    /// Reports a name that is read where nothing, or not on every way something, is bound to it.
    pub(crate) fn check_bound(&mut self, expr: ExprId, name: Name, value: ValueId) {
        if !matches!(
            self.index.values[value],
            Value::Unbound | Value::Phi { .. } | Value::Narrow { .. } | Value::Matched { .. }
        ) {
            return;
        }
        let (mut bound, mut unbound) = (false, false);
        self.ways(value, &mut FxHashSet::default(), &mut bound, &mut unbound);
        // While a loop is still being worked out, what is reached may change.
        if self.heads.is_empty() {
            self.bound_ways.insert(value, (bound, unbound));
        }
        if !unbound || self.asks_for_old(expr, name) {
            return;
        }
        // A lambda is called later, when more is bound.
        let at = self.index.spans[expr];
        let index = self.index;
        if index.lambdas.iter().any(|(_, lambda)| index.spans[lambda.body].contains_range(at)) {
            return;
        }
        // What the module does not bind here may be a built-in, or come by a star import.
        let scope = self.scope_at(expr);
        let is_local = !matches!(self.index.scopes[scope].kind, ScopeKind::Module | ScopeKind::Class(_));
        let stars = !self.index.scopes[ScopeId(0)].stars.is_empty();
        if !is_local && (stars || self.names_builtin(name) || self.is_imported_here(name)) {
            return;
        }
        // Bound only in code that is not for this version, or not for checkers: the name outside is meant.
        if !bound && self.is_bound_for_others_only(scope, name) {
            return;
        }
        if self.cleans_up(expr, scope) {
            return;
        }
        // A function inside may bind it: `nonlocal berth`.
        if self.index.scopes[scope].symbols.get(&name).is_some_and(|symbol| !symbol.foreign.is_empty()) {
            return;
        }
        // Told once for a name: what follows has the same cause.
        match self.told_unbound.iter().find(|(told, _)| *told == name) {
            Some((_, at)) if *at != expr => return,
            Some(_) => {}
            None => self.told_unbound.push((name, expr)),
        }
        self.problem(expr, ProblemKind::NameUnbound { name, always: !bound });
    }

    /// Whether a name is imported in a `try` that does nothing where the import fails, and the import is one that succeeds.
    fn is_imported_here(&self, name: Name) -> bool {
        let Some(symbol) = self.index.scopes[ScopeId(0)].symbols.get(&name) else { return false };
        symbol.defs.iter().any(|def| {
            let record = &self.index.defs[*def];
            let DefKind::ImportFrom { module, level, name, .. } = record.kind else { return false };
            let is_tried = self.index.guarded.iter().any(|guarded| guarded.contains_range(record.range));
            let target = || crate::resolve::import_target(self.db, self.file, module, level);
            is_tried
                && matches!(target(), Some(Imported::File(file)) if crate::resolve::member(self.db, file, name).is_some())
        })
    }

    /// Whether ways that can be gone lead to a value with the name bound, and without.
    fn ways(&mut self, value: ValueId, seen: &mut FxHashSet<ValueId>, bound: &mut bool, unbound: &mut bool) {
        match self.index.values[value] {
            Value::Unbound => *unbound = true,
            // What is known of a value says nothing of whether there is one.
            Value::Narrow { .. } | Value::Matched { .. } => {
                self.ways(self.index.unnarrowed(value), seen, bound, unbound);
            }
            Value::Phi { start, len, .. } => {
                if let Some((known_bound, known_unbound)) = self.bound_ways.get(&value) {
                    *bound |= known_bound;
                    *unbound |= known_unbound;
                    return;
                }
                if !seen.insert(value) {
                    return;
                }
                let index = self.index;
                for (reach, arg) in index.phi(start, len) {
                    if (!*bound || !*unbound) && self.reachable(*reach) {
                        self.ways(*arg, seen, bound, unbound);
                    }
                }
            }
            _ => *bound = true,
        }
    }

    /// Whether what a loop binds is deleted behind it: who cleans up so reckons with its having run.
    fn cleans_up(&self, expr: ExprId, scope: ScopeId) -> bool {
        let statements = &self.index.bodies[self.body].statements;
        let deleted = statements.iter().find_map(|statement| match &statement.kind {
            StatementKind::Delete(targets) if targets.contains(&expr) => Some(targets),
            _ => None,
        });
        let is_of_loop = |target: &ExprId| match self.index.exprs[*target] {
            Expr::Name(name, _) => {
                let symbol = self.index.scopes[scope].symbols.get(&name);
                let is_loop = |def: &DefId| matches!(self.index.defs[*def].kind, DefKind::For { .. });
                symbol.is_some_and(|symbol| symbol.defs.iter().any(is_loop))
            }
            _ => false,
        };
        deleted.is_some_and(|targets| targets.iter().any(is_of_loop))
    }

    /// Where a name that an expression reads is first bound, of the ways that lead here.
    pub(crate) fn first_binding(&self, expr: ExprId) -> Option<TextRange> {
        let Expr::Name(name, _) = self.index.exprs[expr] else { return None };
        let mut scope = Some(self.scope_at(expr));
        while let Some(current) = scope {
            let record = &self.index.scopes[current];
            if let Some(symbol) = record.symbols.get(&name) {
                return symbol.defs.first().map(|def| self.index.defs[*def].range);
            }
            scope = record.parent;
        }
        None
    }
}
