//! How results are printed.

use clap::ValueEnum;

/// When to colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Color {
    /// On a terminal.
    Auto,
    /// Always.
    Always,
    /// Never.
    Never,
}

/// How a result is printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// For people.
    Text,
    /// For programs.
    Json,
}
