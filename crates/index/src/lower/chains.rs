//! Attribute and item chains over names, whose values the flow keeps like those of names.

use leitmotiv_syntax::names::{Name, known};

use super::Lower;
use crate::flow::{ChainId, Link, Place};
use crate::tree::*;

impl Lower<'_> {
    /// What the flow knows of an attribute or item of `base`.
    pub(super) fn chain_value(&mut self, base: ExprId, step: Step) -> ValueId {
        if !self.flow.has_chains() {
            return ValueId::NONE;
        }
        let Some(chain) = self.find_chain(base) else { return ValueId::NONE };
        let Some(chain) = self.flow.find_chain(step.link(chain)) else { return ValueId::NONE };
        let Some(value) = self.flow.get(Place::Chain(chain)) else { return ValueId::NONE };
        // What was assigned when a lambda was made says nothing of what is there when it runs.
        let is_old = self.lambda.is_some_and(|lambda| {
            value < lambda.values && matches!(self.index.values[value], Value::Def(_) | Value::Written(_))
        });
        if is_old { ValueId::NONE } else { value }
    }

    fn find_chain(&self, expr: ExprId) -> Option<ChainId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) => self.flow.find_chain(Link::Root(self.index.unnarrowed(value))),
            Expr::Attribute { value, name, .. } => self.flow.find_chain(Link::Attribute(self.find_chain(value)?, name)),
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                self.flow.find_chain(step.link(self.find_chain(value)?))
            }
            Expr::Call { .. } => {
                let (value, step) = self.look_up(expr)?;
                let method = self.flow.find_chain(Link::Attribute(self.find_chain(value)?, known::PLAIN_GET))?;
                self.flow.find_chain(step.link(method))
            }
            _ => None,
        }
    }

    /// The chain that an expression denotes, made if need be; `None` where it is no chain over a name.
    pub(super) fn make_chain(&mut self, expr: ExprId) -> Option<ChainId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) if value != ValueId::UNBOUND => {
                let root = Link::Root(self.index.unnarrowed(value));
                Some(self.flow.chain(root))
            }
            Expr::Attribute { value, name, .. } => {
                let base = self.make_chain(value)?;
                let chain = self.flow.chain(Link::Attribute(base, name));
                self.chain_exprs.entry(chain).or_insert(expr);
                Some(chain)
            }
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                let base = self.make_chain(value)?;
                Some(self.flow.chain(step.link(base)))
            }
            Expr::Call { .. } => {
                let (value, step) = self.look_up(expr)?;
                self.make_look_up(value, step)
            }
            _ => None,
        }
    }

    /// The chain of `value.get(key)`, made if need be: the item below the attribute `get`.
    pub(super) fn make_look_up(&mut self, value: ExprId, key: Step) -> Option<ChainId> {
        let base = self.make_chain(value)?;
        let method = self.flow.chain(Link::Attribute(base, known::PLAIN_GET));
        Some(self.flow.chain(key.link(method)))
    }

    /// The container and the key of `container.get(key)`, where the key can be told again.
    pub(super) fn look_up(&self, call: ExprId) -> Option<(ExprId, Step)> {
        let Expr::Call { callee, args } = &self.index.exprs[call] else { return None };
        let Expr::Attribute { value, name: known::PLAIN_GET, .. } = self.index.exprs[*callee] else { return None };
        let [Arg { kind: ArgKind::Positional, value: key }] = args.as_ref() else { return None };
        Some((value, self.constant_step(*key)?))
    }

    /// Notes what the flow knows of a look-up.
    pub(super) fn note_look_up(&mut self, call: ExprId) {
        if !self.flow.has_chains() {
            return;
        }
        if let Some(chain) = self.find_chain(call)
            && let Some(value) = self.flow.get(Place::Chain(chain))
        {
            self.index.looked_up.insert(call, value);
        }
    }

    pub(super) fn constant_step(&self, index: ExprId) -> Option<Step> {
        match self.index.exprs[index] {
            Expr::Int(Some(number)) => Some(Step::Index(number)),
            Expr::Str(Some(text)) => Some(Step::Key(text)),
            Expr::Unary { op: UnaryOp::Neg, operand } => match self.index.exprs[operand] {
                Expr::Int(Some(number)) => Some(Step::Index(-number)),
                _ => None,
            },
            Expr::Name(_, value) if value != ValueId::UNBOUND => Some(Step::Variable(self.index.unnarrowed(value))),
            _ => None,
        }
    }
}

/// One step of a chain, before its base is known.
#[derive(Clone, Copy)]
pub(super) enum Step {
    Attribute(Name),
    Index(i64),
    Key(Name),
    Variable(ValueId),
}

impl Step {
    fn link(self, base: ChainId) -> Link {
        match self {
            Step::Attribute(name) => Link::Attribute(base, name),
            Step::Index(number) => Link::Index(base, number),
            Step::Key(name) => Link::Key(base, name),
            Step::Variable(value) => Link::Variable(base, value),
        }
    }
}
