//! The streams of a process that was started with pipes: `Popen(…, stdout=PIPE).stdout` is there (library reference,
//! "subprocess": "If the … argument was `PIPE`, this attribute is a … stream object").

use leitmotiv_index::tree::{ArgKind, DefId, DefKind, Expr, ExprId, Value};
use leitmotiv_syntax::names::Name;

use crate::infer::Infer;
use crate::types::Type;

impl Infer<'_> {
    /// What is read of a process, without None where the call that started it asked for a pipe.
    pub(crate) fn piped(&self, read: Type, object_type: Type, object: ExprId, name: Name) -> Type {
        if !matches!(read, Type::Union(_)) || !matches!(self.text(name), "stdin" | "stdout" | "stderr") {
            return read;
        }
        let Type::Instance(id) = object_type else { return read };
        let store = self.db.store();
        let class = store.instance(id).class;
        let names = self.db.names();
        if !crate::resolve::is_standard(self.db, class, names.intern("subprocess"), names.intern("Popen")) {
            return read;
        }
        let is_piped = self.starts_of(object).iter().any(|call| self.asks_for_pipe(*call, name));
        if is_piped { crate::types::union::filter(store, read, |part| part != Type::None) } else { read }
    }

    /// The expressions that an object may come from: what its name, or the attribute of the method's own object, was given.
    fn starts_of(&self, object: ExprId) -> Vec<ExprId> {
        let given = |def: &DefId| match self.index.defs[*def].kind {
            DefKind::Assign { value, unpack: None, .. } | DefKind::Annotated { value: Some(value), .. } => Some(value),
            DefKind::With { manager, unpack: None, .. } => Some(manager),
            DefKind::Named { value } => Some(value),
            _ => None,
        };
        match self.index.exprs[object] {
            Expr::Name(_, value) => match self.index.values[self.index.unnarrowed(value)] {
                Value::Def(def) => given(&def).into_iter().collect(),
                Value::Phi { start, len, .. } => self
                    .index
                    .phi(start, len)
                    .iter()
                    .filter_map(|(_, value)| match self.index.values[self.index.unnarrowed(*value)] {
                        Value::Def(def) => given(&def),
                        _ => None,
                    })
                    .collect(),
                _ => Vec::new(),
            },
            Expr::Attribute { name, .. } => {
                let classes = self.index.classes.iter();
                let defs = classes.filter_map(|(_, class)| class.attributes.get(&name)).flatten();
                defs.filter_map(given).collect()
            }
            Expr::Call { .. } => vec![object],
            _ => Vec::new(),
        }
    }

    /// Whether a call gives `PIPE` for a stream.
    fn asks_for_pipe(&self, call: ExprId, stream: Name) -> bool {
        let Expr::Call { args, .. } = &self.index.exprs[call] else { return false };
        let given = args.iter().find(|arg| arg.kind == ArgKind::Keyword(stream));
        given.is_some_and(|arg| match self.index.exprs[arg.value] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => self.text(name) == "PIPE",
            _ => false,
        })
    }
}
