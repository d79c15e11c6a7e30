//! What is known of a project, for those who ask from outside.
//!
//! - [`lookup`]: what is known of a name or position
//! - [`uses`]: what a project uses and calls
//! - [`calls`]: where a function is called
//! - [`given`]: what functions give, way by way
//! - [`handled`]: what calls pass to parameters, and what is done with them
//! - [`passed`]: what calls pass to a function
//! - [`concluded`]: what parameters that nobody annotated are concluded to be from that
//! - [`roots`]: which annotations the types of some code rest on
//! - [`things`]: what a mention of a name means
//! - [`places`]: where that is defined, declared, carried out
//! - [`references`]: where it is mentioned
//! - [`rename`]: what a new name would change, or why it cannot be given
//! - [`complete`]: what may stand at a place
//! - [`signature`]: the signatures of a call that is being written
//! - [`symbols`]: what files define, as a tree
//! - [`library_coverage`]: how much of what is used of the library is known

pub mod calls;
pub mod complete;
pub mod concluded;
pub mod given;
pub mod handled;
pub mod library_coverage;
pub mod lookup;
pub mod passed;
pub mod places;
pub mod references;
pub mod rename;
pub mod roots;
pub mod signature;
pub mod symbols;
pub mod things;
pub mod uses;
