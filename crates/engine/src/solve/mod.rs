//! What stands for type variables.
//!
//! - [`unify`]: what an argument says of a parameter's variables
//! - [`variadic`]: tuples of variables

pub mod rigid;
pub mod unify;
pub(crate) mod variadic;
