//! Results in forms that other programs and people read: JSON, lines, groups.
//!
//! The entries are [`json::findings`], [`line::lines`] and [`groups::groups`].

pub mod groups;
pub mod json;
pub mod line;
pub mod place;
