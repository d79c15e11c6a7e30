//! What files are held to that annotations could break.

use rustc_hash::FxHashMap;

/// Rules that are errors in a file because it is held to a demand, and that an annotation could break: by path.
pub type Held = FxHashMap<String, Vec<&'static str>>;

/// The rules that an annotation could break: by saying `Any`, by leaving a generic type bare, by making a function one that is annotated.
pub const BREAKABLE: [&str; 3] = ["annotation.any", "call.unannotated", "generic.bare"];
