//! Types: what expressions are, whether they fit, what is wrong, and why.
//!
//! Knows nothing of terminals, arguments or protocols. In reading order:
//!
//! - [`db`]: the database, its inputs, files
//! - [`types`]: what a type is
//! - [`module`]: modules, imports, and what their names mean
//! - [`classes`]: orders of resolution and members
//! - [`functions`]: signatures and results
//! - [`circles`]: functions that call each other in very large circles
//! - [`parameters`]: parameter lists as types
//! - [`infer`]: types of expressions, on demand
//! - [`checks`]: what is held against statements and definitions
//! - [`policy`]: choices to stay quiet
//! - [`narrow`]: what conditions say of types
//! - [`call`]: arguments to parameters
//! - [`relate`]: what fits where
//! - [`problems`]: what inference reports, as plain data
//! - [`rules`]: from problems to findings; one file a rule
//! - [`evidence`]: the way a type took, computed when asked
//! - [`demands`]: what parts of a project are held to; one file a demand
//! - [`check`]: the findings of files
//! - [`fingerprint`]: short marks that tell pieces of code apart
//! - [`suppress`]: what comments hide
//! - [`lookup`]: what is known of a name or position
//!
//! The entry is [`check::check`].

pub mod call;
pub mod check;
pub mod checks;
pub mod circles;
pub mod classes;
pub mod db;
pub mod demands;
pub mod evidence;
pub mod fingerprint;
pub mod functions;
pub mod infer;
pub mod library;
pub mod lookup;
pub mod module;
pub mod narrow;
pub mod parameters;
pub mod policy;
pub mod problems;
pub mod relate;
pub mod rules;
pub mod suppress;
pub mod survey;
pub mod types;
pub mod uses;
pub mod variables;
pub mod variance;
