//! Attribute and item chains over names, whose values the flow keeps like those of names.

use leitmotiv_syntax::names::Name;

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
        self.flow.get(Place::Chain(chain)).unwrap_or(ValueId::NONE)
    }

    fn find_chain(&self, expr: ExprId) -> Option<ChainId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) => self.flow.find_chain(Link::Root(self.index.unnarrowed(value))),
            Expr::Attribute { value, name, .. } => self.flow.find_chain(Link::Attribute(self.find_chain(value)?, name)),
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                self.flow.find_chain(step.link(self.find_chain(value)?))
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
                Some(self.flow.chain(Link::Attribute(base, name)))
            }
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                let base = self.make_chain(value)?;
                Some(self.flow.chain(step.link(base)))
            }
            _ => None,
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
