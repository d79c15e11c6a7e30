//! One file for each thing that editors ask for.
//!
//! Each makes of a snapshot, a file and the request's parameters what the protocol wants to hear; what is known comes from the rooms below.

pub mod actions;
pub mod calls;
pub mod commands;
pub mod completion;
pub mod explain;
pub mod hints;
pub mod hover;
mod markdown;
pub mod navigation;
pub mod pull;
pub mod rename;
pub mod shape;
pub mod signature;
pub mod symbols;
pub mod tokens;

/// What a feature answers, or why it cannot.
pub type Answer<T> = Result<T, lsp_server::ResponseError>;
