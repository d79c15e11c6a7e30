//! What is taken for granted of functions that nobody annotated, in databases that are made for it ([`Database::anew`]).
//!
//! [`Assumed`] is an input of each file. It is read function by function, so that what was worked out stays where nothing else is taken for
//! granted of the functions that it asked for.
//!
//! [`Database::anew`]: super::database::Database::anew

use leitmotiv_index::tree::FunctionId;
use rustc_hash::FxHashMap;

use super::db::Db;
use super::file::File;
use crate::types::Type;

/// What is taken for granted of what nobody annotated in a file.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Assumed {
    /// What parameters are taken to be, by their functions and 0-based places; of `*args` and `**kwargs`, each of those that are given. It holds
    /// within the functions' own bodies, and so for what they give; what their callers may pass is not compared with it.
    pub parameters: FxHashMap<(FunctionId, u32), Type>,
    /// What functions are taken to give; of coroutines, what awaiting them gives.
    pub results: FxHashMap<FunctionId, Type>,
}

#[salsa::tracked(returns(copy))]
fn assumed_parameter(db: &dyn Db, file: File, function: FunctionId, place: u32) -> Option<Type> {
    file.assumed(db).as_ref()?.parameters.get(&(function, place)).copied()
}

#[salsa::tracked(returns(copy))]
fn assumed_result(db: &dyn Db, file: File, function: FunctionId) -> Option<Type> {
    file.assumed(db).as_ref()?.results.get(&function).copied()
}

#[salsa::tracked(returns(copy))]
fn assumes_anything(db: &dyn Db, file: File) -> bool {
    file.assumed(db).is_some()
}

/// What a parameter, by its 0-based place, is taken to be.
pub fn parameter(db: &dyn Db, file: File, function: FunctionId, place: u32) -> Option<Type> {
    if db.assumes() { assumed_parameter(db, file, function, place) } else { None }
}

/// What a function is taken to give.
pub(crate) fn result(db: &dyn Db, file: File, function: FunctionId) -> Option<Type> {
    if db.assumes() { assumed_result(db, file, function) } else { None }
}

/// Whether anything in a file is taken for granted.
pub(crate) fn anything(db: &dyn Db, file: File) -> bool {
    db.assumes() && assumes_anything(db, file)
}
