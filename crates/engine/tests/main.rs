//! One test binary: bundled stubs, fixtures by folder, rule pages, determinism.

mod bundled;
mod edits;
mod fixture;
mod language;
mod laws;
mod order;
mod pages;
mod policies;
mod reruns;
mod soup;
mod spec;
