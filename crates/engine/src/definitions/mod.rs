//! What definitions mean: classes, functions, type variables.
//!
//! - [`classes`]: orders of resolution and members
//! - [`functions`]: signatures and results
//! - [`circles`]: functions that call each other in very large circles
//! - [`type_variables`]: what a type variable is limited to
//! - [`variance`]: the variance of type parameters
//! - [`param_spec`]: parameter lists as types

pub mod circles;
pub mod classes;
pub mod functions;
pub mod param_spec;
pub mod type_variables;
pub mod variance;
