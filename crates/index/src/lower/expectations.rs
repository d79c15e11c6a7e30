//! What tests expect: that something fails, and how.

use leitmotiv_syntax::ast::{self, Expr as Ast};

/// Whether a context manager is one by which tests say that an exception is to come: `raises(…)`, `self.assertRaises(…)`.
pub(super) fn expects_exception(item: &ast::WithItem) -> bool {
    let Ast::Call(call) = &item.context_expr else { return false };
    names_an_expectation(&call.func)
        || matches!(&*call.func, Ast::Attribute(attribute) if attribute.attr.as_str() == "suppress")
        || matches!(&*call.func, Ast::Name(name) if name.id.as_str() == "suppress")
}

/// Whether a callee is one by which tests say that an exception is to come.
pub(super) fn names_an_expectation(callee: &Ast) -> bool {
    let name = match callee {
        Ast::Name(name) => name.id.as_str(),
        Ast::Attribute(attribute) => attribute.attr.as_str(),
        _ => return false,
    };
    name == "raises" || name.starts_with("assertRaises")
}
