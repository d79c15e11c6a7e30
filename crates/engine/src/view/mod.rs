//! What is known of a project, for those who ask from outside.
//!
//! - [`lookup`]: what is known of a name or position
//! - [`uses`]: what a project uses and calls
//! - [`calls`]: where a function is called
//! - [`given`]: what functions give, way by way
//! - [`handled`]: what calls pass to parameters, and what is done with them
//! - [`roots`]: which annotations the types of some code rest on
//! - [`library_coverage`]: how much of what is used of the library is known

pub mod calls;
pub mod given;
pub mod handled;
pub mod library_coverage;
pub mod lookup;
pub mod roots;
pub mod uses;
