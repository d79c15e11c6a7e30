//! Results in forms that other programs and people read. A [`document::Document`] is what was found, with all that is shown of it resolved once;
//! the forms are made from it: [`json::findings`], [`line::lines`], [`sarif::log`], [`junit::suites`], [`markdown::comment`], [`groups::groups`], and
//! what `cli` draws.

pub mod again;
pub mod document;
pub mod groups;
pub mod json;
pub mod junit;
pub mod line;
pub mod markdown;
pub mod nearest;
pub mod overview;
pub mod page;
pub mod parts;
pub mod place;
pub mod sarif;
pub mod stored;
pub mod summary;
pub mod told;
pub mod whole;
pub mod words;
