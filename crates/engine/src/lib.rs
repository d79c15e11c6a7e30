//! Types: what expressions are, whether they fit, what is wrong, and why.
//!
//! Knows nothing of terminals, arguments or protocols. In reading order:
//!
//! - [`base`]: files, inputs, the database
//! - [`types`]: what a type is
//! - [`outline`]: what files say of themselves, and what of it others may see
//! - [`resolve`]: modules, imports, and what their names mean
//! - [`definitions`]: what classes, functions and type variables mean
//! - [`context`]: what speaks of types alone
//! - [`infer`]: types of expressions, on demand
//! - [`narrow`]: what conditions say of types
//! - [`call`]: arguments to parameters
//! - [`solve`]: what stands for type variables
//! - [`relate`]: what fits where
//! - [`policy`]: choices to stay quiet
//! - [`checks`]: what is held against statements and definitions
//! - [`problems`]: what inference and checks report, as plain data
//! - [`rules`]: from problems to words; one file a rule
//! - [`findings`]: where a type came from, what comments hide
//! - [`demands`]: what parts of a project are held to; one file a demand
//! - `bodies`: what is wrong in the bodies of files, and what their calls pass
//! - `unfit`: what functions do with parameters that no call fits
//! - [`check`]: the findings of files
//! - [`view`]: what is known of a project, for those who ask from outside
//!
//! The entry is [`check::check`].

mod answers;
pub mod base;
mod bodies;
pub mod call;
pub mod check;
pub mod checks;
pub mod context;
pub mod definitions;
pub mod demands;
pub mod findings;
pub mod infer;
pub mod narrow;
pub mod outline;
pub mod past;
pub mod policy;
pub mod problems;
pub mod relate;
pub mod resolve;
pub mod rules;
pub mod solve;
pub mod types;
mod unfit;
pub mod view;
