//! What a module's text says about itself, without looking at any other module.
//!
//! Lowers the parser's tree into one flat [`tree::ModuleIndex`]: expressions and statements as numbered records, scopes
//! with their symbols, definitions, and the flow of values through each body. Types are left to the engine.
//!
//! In reading order:
//!
//! - [`tree`]: the records; start here
//! - [`bindings`]: which names a block of statements binds, before any of it is lowered
//! - [`around`]: what a place stands in
//! - [`anchor`]: places told by what stands there
//! - [`flow`]: which value a name has at a place, as static single assignment with narrowings as definitions
//! - [`lower`]: the one walk that makes all of it
//!
//! The entry is [`lower::index_module`].

pub mod anchor;
pub mod around;
pub mod bindings;
pub mod flow;
pub mod ids;
pub mod lower;
pub mod tree;

pub use ids::IdVec;
