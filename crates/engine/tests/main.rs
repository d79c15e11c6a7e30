//! One test binary: fixtures by folder, rule pages, determinism.

mod fixture;
mod language;
mod order;
mod pages;
mod spec;
