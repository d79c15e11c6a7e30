//! From problems to findings.
//!
//! - [`evidence`]: the way a type took, computed when asked
//! - [`suppress`]: what comments hide
//! - [`fingerprint`]: short marks that tell pieces of code apart

pub mod evidence;
pub mod fingerprint;
pub mod suppress;
