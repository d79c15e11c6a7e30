//! Stubs: written from source and from running modules, kept, and compared with the modules as they are.
//!
//! - [`source`]: a module's stub from its source
//! - [`running`]: modules as the interpreter sees them once imported

pub mod running;
pub mod source;

pub use source::{Target, from_source, targets};
