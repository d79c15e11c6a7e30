//! Code that is never reached.

use leitmotiv_index::tree::{Expr, ExprId, Reach, ReachId, Statement, StatementKind};

use crate::infer::Infer;
use crate::problems::ProblemKind;

/// Why code is dead.
enum Death {
    /// The text alone says so.
    Text,
    /// A call before it does not return.
    Call(ExprId),
}

impl Infer<'_> {
    /// Notes the first statement of a run that is not reached, where nobody meant it so.
    pub(crate) fn note_unreachable(&mut self, statement: &Statement) {
        let is_defence = match &statement.kind {
            StatementKind::Raise { .. } | StatementKind::Assert { .. } => true,
            // `return; yield` makes a generator of a function; `assert_never(x)` says that it is not reached.
            StatementKind::Expr(expr) => match &self.index.exprs[*expr] {
                Expr::Yield(_) | Expr::YieldFrom(_) | Expr::Ellipsis | Expr::Str(_) => true,
                Expr::Call { .. } => self.call_never_returns(*expr),
                _ => false,
            },
            StatementKind::Return(number) => {
                let value = self.index.bodies[self.body].returns[*number].value;
                value.is_none_or(|value| {
                    matches!(self.index.exprs[value], Expr::Name(name, _) if self.text(name) == "NotImplemented")
                })
            }
            _ => false,
        };
        if is_defence || self.file.is_stub(self.db) {
            return;
        }
        if let Some(death) = self.death(statement.reach, 0) {
            let after = match death {
                Death::Text => None,
                Death::Call(call) => Some(self.index.spans[call]),
            };
            self.problem_at(statement.range, None, ProblemKind::Unreachable { after });
        }
    }

    /// Why a place is not reached; `None` where it is meant not to be on this version or platform, or where only the types
    /// that are known say so.
    fn death(&mut self, reach: ReachId, depth: u32) -> Option<Death> {
        let mut reach = reach;
        loop {
            if reach.is_never() {
                return (reach == ReachId::NEVER).then_some(Death::Text);
            }
            let of = match self.index.reaches[reach] {
                Reach::AfterCall { of, call } if self.reachable(of) => return Some(Death::Call(call)),
                Reach::Swallowed { of, .. } if self.reachable(of) => return Some(Death::Text),
                Reach::WhileAny { of, .. } | Reach::Constant { of, .. } if self.reachable(of) => return None,
                Reach::AfterCall { of, .. }
                | Reach::Swallowed { of, .. }
                | Reach::WhileAny { of, .. }
                | Reach::Constant { of, .. } => of,
                Reach::Join { start, len } if depth < 16 => {
                    let mut first = None;
                    for part in self.index.joined(start, len) {
                        let death = self.death(*part, depth + 1)?;
                        first = first.or(Some(death));
                    }
                    return first;
                }
                Reach::Join { .. } | Reach::Always | Reach::Never => return None,
            };
            reach = of;
        }
    }
}
