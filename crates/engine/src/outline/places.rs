//! Where something stands, and what stands there.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ClassId, DefKind, FunctionId};
use leitmotiv_syntax::TextRange;

use super::{module_index, reading};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;

/// Where an anchor lies, in bytes. Who asks is asked again when that place moves, and for nothing else.
pub fn range_of(db: &dyn Db, file: File, at: Anchor) -> TextRange {
    saw(db, file, Ask::Text);
    range_of_query(db, file, at)
}

#[salsa::tracked(returns(copy))]
fn range_of_query(db: &dyn Db, file: File, at: Anchor) -> TextRange {
    let _reading = reading(db, file);
    module_index(db, file).range_of(at)
}

/// What binds a name or an attribute at an anchor.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Bound {
    /// `def`
    Function(FunctionId),
    /// `class`
    Class(ClassId),
    /// An annotation, with a value or without.
    Annotated {
        /// Whether it has a value.
        has_value: bool,
    },
    /// An assignment.
    Assigned,
    /// A type parameter (PEP 695).
    TypeParameter,
    /// Anything else.
    Other,
}

/// What binds a name or an attribute at an anchor.
pub fn bound_at(db: &dyn Db, file: File, at: Anchor) -> Bound {
    saw(db, file, Ask::BoundAt(at));
    bound_at_query(db, file, at)
}

#[salsa::tracked(returns(copy))]
fn bound_at_query(db: &dyn Db, file: File, at: Anchor) -> Bound {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(def) = index.def_at(at) else { return Bound::Other };
    match index.defs[def].kind {
        DefKind::Function(function) => Bound::Function(function),
        DefKind::Class(class) => Bound::Class(class),
        DefKind::Annotated { value, .. } => Bound::Annotated { has_value: value.is_some() },
        DefKind::Assign { .. } => Bound::Assigned,
        DefKind::TypeParam { .. } => Bound::TypeParameter,
        _ => Bound::Other,
    }
}

/// A place in some file, told by what stands there.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Site {
    /// The file.
    pub file: File,
    /// What stands there.
    pub at: Anchor,
}

impl Site {
    /// Where that is, in bytes.
    #[must_use]
    pub fn range(self, db: &dyn Db) -> TextRange {
        range_of(db, self.file, self.at)
    }

    /// A function's name.
    #[must_use]
    pub fn of_function(file: File, function: FunctionId) -> Site {
        Site { file, at: Anchor::Function(function) }
    }
}

/// The decorator at a 0-based place among those of a function or class.
pub fn decorator_at(db: &dyn Db, file: File, at: Anchor, place: usize) -> Option<Anchor> {
    saw(db, file, Ask::DecoratorAt(at, place));
    decorator_at_query(db, file, at, place)
}

#[salsa::tracked(returns(copy))]
fn decorator_at_query(db: &dyn Db, file: File, at: Anchor, place: usize) -> Option<Anchor> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    index.decorators_at(at).get(place).map(|decorator| index.anchor_of(*decorator))
}
