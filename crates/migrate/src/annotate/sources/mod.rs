//! Kinds of evidence, a file each.

pub(super) mod bases;
pub(super) mod calls;
pub(super) mod defaults;
pub(super) mod docstrings;
pub(super) mod fixtures;
pub(super) mod names;
pub(super) mod options;
pub(super) mod special;
pub(super) mod traces;
pub(super) mod uses;
