//! Methods that subclasses are to write: what their own body gives says little of what they are to give.

use std::sync::OnceLock;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::context::TypeContext;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{Expr, FunctionId, ModuleIndex};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashMap;

use crate::docstrings;

type ByName = FxHashMap<Name, Vec<(ClassRef, FunctionId)>>;

/// Methods of the project by name, with their classes; listed when first asked for.
#[derive(Default)]
pub(super) struct Methods(OnceLock<ByName>);

impl Methods {
    fn by_name(&self, db: &Database) -> &ByName {
        self.0.get_or_init(|| {
            let mut all = ByName::default();
            for class in leitmotiv_engine::resolve::own_classes(db).iter().copied() {
                let index = module_index(db, class.file);
                for method in &index.classes[class.class].methods {
                    all.entry(index.functions[*method].name).or_default().push((class, *method));
                }
            }
            all
        })
    }

    /// Why the type that a method's body gives is not what it stands for, with the place: what a subclass gives instead, or what
    /// its docstring says. Only methods that give constants, or raise, are asked about.
    pub(super) fn contradiction(
        &self,
        db: &Database,
        file: File,
        function: FunctionId,
        (gives, spelled): (Type, &str),
    ) -> Option<(TextRange, String)> {
        let index = module_index(db, file);
        let record = &index.functions[function];
        let class = ClassRef { file, class: record.class? };
        if !gives_constants(index, function) {
            return None;
        }
        if let Some(docstring) = record.docstring
            && let Some(text) = file.text(db).get(std::ops::Range::<usize>::from(docstring))
            && let Some(told) = docstrings::types(docstrings::unquoted(text), &|_| true).returns
            && told != spelled
        {
            return Some((docstring, format!("the docstring says `{told}`")));
        }
        let infer = TypeContext::new(db, file, record.body);
        self.by_name(db).get(&record.name)?.iter().find_map(|(other, method)| {
            let is_below = *other != class && classes::derives(db, *other, class) == Some(true);
            let theirs = is_below.then(|| {
                let declared = functions::declared(db, other.file, *method).returns;
                declared.unwrap_or_else(|| functions::return_type(db, other.file, *method))
            })?;
            let fits = theirs.is_dynamic() || theirs == Type::Never || infer.is_assignable(theirs, gives);
            (!fits).then(|| {
                let shown = leitmotiv_engine::types::display::show(db, infer.widen(theirs));
                (record.name_range, format!("`{}` gives {shown}", classes::shown(db, *other)))
            })
        })
    }
}

/// Whether a function gives nothing but constants, or only raises.
fn gives_constants(index: &ModuleIndex, function: FunctionId) -> bool {
    let body = &index.bodies[index.functions[function].body];
    body.yields.is_empty()
        && body.returns.iter().all(|statement| match statement.value.map(|value| &index.exprs[value]) {
            None | Some(Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(_) | Expr::Bytes(_)) => {
                true
            }
            Some(Expr::Tuple(parts) | Expr::List(parts)) => parts.is_empty(),
            Some(Expr::Dict(parts)) => parts.is_empty(),
            _ => false,
        })
}
