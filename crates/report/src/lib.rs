//! Results in forms that other programs and people read: so far, JSON.
//!
//! The entry is [`json::findings`].

pub mod json;
pub mod place;
