//! Choices to stay quiet: where the text does not say which of several things is so, and most code is right.
//!
//! - [`entries`]: the list of them all, with a text for each
//! - [`provenance`]: whether somebody said what a type is, or it was only concluded
//! - [`correlated`]: conditions that go together
//! - [`given_later`]: attributes that another method gives a value
//! - [`patched`]: attributes that something else may give
//! - [`pipes`]: the streams of processes

mod correlated;
pub mod entries;
pub(crate) mod given_later;
pub(crate) mod patched;
mod pipes;
pub(crate) mod provenance;
