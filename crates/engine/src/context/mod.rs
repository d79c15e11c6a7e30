//! What speaks of types alone: whether they fit, what members they have, what their calls give.
//!
//! A [`TypeContext`] knows no expressions. It stands in a file and in a body only as far as that says which type variables are types
//! like any other there, and which modules its file has imported. [`crate::infer::Infer`] has one, and adds the expressions.

pub mod candidates;

use std::cell::{OnceCell, RefCell};

use leitmotiv_index::tree::BodyId;
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use self::candidates::{Candidates, Constructor};
use crate::base::db::Db;
use crate::base::file::File;
use crate::types::substitute::Substitution;
use crate::types::{ClassRef, FunctionRef, Type, VarId};

/// What relates types.
pub struct TypeContext<'db> {
    /// The database.
    pub db: &'db dyn Db,
    /// The file that asks.
    pub file: File,
    /// The body that asks: the variables of the functions and classes that it stands in are types like any other there.
    pub(crate) around: BodyId,
    /// These variables, once they were asked for.
    pub(crate) rigid: OnceCell<&'db [VarId]>,
    /// What was asked of types, whatever the body.
    pub(crate) asked: Asked,
    /// Whether of several signatures the first is looked for that takes the arguments for sure.
    pub(crate) strict: bool,
    /// Whether nothing that stands in for others fits, as in the first look at several signatures.
    pub(crate) plainly: bool,
    /// Protocols, with what is held against each, whose arguments are being worked out.
    pub(crate) unifying: Vec<(ClassRef, Type)>,
    /// What was found of such within the outermost of them.
    pub(crate) unified: FxHashMap<(ClassRef, Type), Substitution>,
    /// How many calls this stands in whose results are worked out for their arguments.
    pub(crate) calls: u32,
    /// Of how many arguments at once the parts of unions are being tried.
    pub(crate) expansions: u32,
    /// The function behind the signature that a call of several has chosen last.
    pub(crate) chosen: Option<FunctionRef>,
    /// How deep the comparison of types is in which this one stands.
    pub(crate) nesting: u32,
}

impl<'db> TypeContext<'db> {
    /// One for a body, with nothing known.
    #[must_use]
    pub fn new(db: &'db dyn Db, file: File, around: BodyId) -> TypeContext<'db> {
        TypeContext {
            db,
            file,
            around,
            rigid: OnceCell::new(),
            asked: Asked::default(),
            strict: false,
            plainly: false,
            unifying: Vec::new(),
            unified: FxHashMap::default(),
            calls: 0,
            expansions: 0,
            chosen: None,
            nesting: 0,
        }
    }

    /// One for the same body, with nothing known.
    pub(crate) fn fresh(&self) -> TypeContext<'db> {
        TypeContext {
            rigid: self.rigid.clone(),
            plainly: self.plainly,
            ..TypeContext::new(self.db, self.file, self.around)
        }
    }
}

/// What was asked of types. It holds for other bodies of the file as well, as long as the same query asks: what it read was noted when it
/// was first asked.
#[derive(Default)]
pub(crate) struct Asked {
    /// Names of the module or the builtins.
    pub(crate) globals: RefCell<FxHashMap<Name, Option<Type>>>,
    /// Members of types.
    pub(crate) members: FxHashMap<(Type, Name), Option<Type>>,
    /// The signatures by which values are called.
    pub(crate) candidates: FxHashMap<Type, Candidates>,
    /// Functions and classes without decorators.
    pub(crate) undecorated: FxHashSet<Type>,
    /// Attributes of objects that were read and are no deprecated properties.
    pub(crate) read: FxHashSet<(Type, leitmotiv_syntax::names::Name)>,
    /// The signatures by which classes are called.
    pub(crate) constructors: FxHashMap<crate::types::InstanceId, Constructor>,
}

/// A point in what a caller remembers and reports.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Mark {
    pub(crate) journal: usize,
    pub(crate) problems: usize,
}
