//! One test binary: bundled stubs, fixtures by folder, rule pages, determinism.

mod book;
mod bundled;
mod concluded;
mod contexts;
mod edits;
mod fixture;
mod language;
mod laws;
mod mentions;
mod order;
mod outlines;
mod pages;
mod past;
mod policies;
mod reruns;
mod soup;
mod spec;
