//! From problems to findings.
//!
//! - [`act`]: what ways out change, as plain data
//! - [`finding`]: findings as they are told
//! - [`checked`]: what checking a file gives
//! - [`fold`]: imports that fail for one missing package, told once
//! - [`evidence`]: the way a type took, computed when asked
//! - [`source`]: pieces of source text as they are shown
//! - [`suppress`]: what comments hide
//! - [`fingerprint`]: short marks that tell pieces of code apart

pub mod act;
pub mod checked;
pub mod evidence;
pub mod finding;
pub mod fingerprint;
pub(crate) mod fold;
pub mod source;
pub mod suppress;
