//! What is read of a module's names from its text alone.

use leitmotiv_index::tree::{DefId, DefKind, ReachId, ScopeId};
use leitmotiv_syntax::names::{Name, known};

use super::{module_index, reading};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::types::ClassRef;

/// What a module's text says of a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ModuleName {
    /// The module binds it, somewhere.
    pub is_bound: bool,
    /// All that binds it in the module's own body is an import that does not rename.
    pub is_only_imported: bool,
    /// All that binds it in the module's own body is an import.
    pub is_imported: bool,
    /// Whether `__all__` names it; `None` where there is no `__all__` that can be read.
    pub is_exported: Option<bool>,
    /// The module makes it as it runs, or may: by `__getattr__`, or in what `globals()` gives.
    pub is_made: bool,
    /// The class that a `class` statement last bound it to.
    pub class: Option<ClassRef>,
    /// Where the only thing that binds it is a `from … import`: the module, with its leading dots as written, and the name there.
    pub import: Option<(Name, u32, Name)>,
}

/// Whether a condition about the platform stands around a place, in bytes: the lines above that are indented less are those of
/// the blocks around.
fn asks_for_platform(text: &str, at: usize) -> bool {
    let indent = |line: &str| line.len() - line.trim_start().len();
    let (before, rest) = text.split_at(text[..at].rfind('\n').map_or(0, |end| end + 1));
    let mut least = indent(rest.lines().next().unwrap_or_default());
    for line in before.lines().rev() {
        if least == 0 {
            break;
        }
        if !line.trim().is_empty() && indent(line) < least {
            // The `if` of an `else` stands as far in as that.
            least = indent(line) + usize::from(line.trim_start().starts_with("el"));
            if line.contains("platform") {
                return true;
            }
        }
    }
    false
}

/// What a module's text says of a name.
pub fn module_name(db: &dyn Db, file: File, name: Name) -> ModuleName {
    saw(db, file, Ask::ModuleName(name));
    module_name_query(db, file, name)
}

#[salsa::tracked(returns(copy))]
fn module_name_query(db: &dyn Db, file: File, name: Name) -> ModuleName {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let scope = &index.scopes[ScopeId(0)];
    let symbol = scope.symbols.get(&name);
    let defs = symbol.map_or(&[][..], |symbol| &symbol.defs);
    let is_import = |def: &DefId| {
        // Only what is imported as what it is called is passed on (typing specification, "Distributing type information": stub files).
        match index.defs[*def].kind {
            DefKind::Import { alias, module } => !alias || module != name,
            DefKind::ImportFrom { alias, name: imported, .. } => !alias || imported != name,
            _ => false,
        }
    };
    ModuleName {
        is_bound: symbol.is_some(),
        is_only_imported: symbol.is_some() && defs.iter().all(is_import),
        is_imported: defs
            .iter()
            .all(|def| matches!(index.defs[*def].kind, DefKind::Import { .. } | DefKind::ImportFrom { .. })),
        is_exported: index.exported.as_ref().map(|all| all.contains(&name)),
        is_made: has_hook(index) || index.makes_names || index.made_names.contains(&name),
        class: defs.iter().rev().find_map(|def| match index.defs[*def].kind {
            DefKind::Class(class) => Some(ClassRef { file, class }),
            _ => None,
        }),
        import: match defs {
            [only] => match index.defs[*only].kind {
                DefKind::ImportFrom { module, level, name, .. } => Some((module, level, name)),
                _ => None,
            },
            _ => None,
        },
    }
}

/// Whether a module makes names on demand (data model, "Customizing module attribute access"). A hook under `if not TYPE_CHECKING` is meant
/// not to be seen.
pub(crate) fn has_hook(index: &leitmotiv_index::tree::ModuleIndex) -> bool {
    let hooks = index.scopes[ScopeId(0)].symbols.get(&known::GETATTR);
    hooks.is_some_and(|hooks| hooks.defs.iter().any(|def| !index.defs[*def].reach.is_never()))
}

/// The names that a module binds, sorted by number.
pub fn module_names(db: &dyn Db, file: File) -> &[Name] {
    saw(db, file, Ask::ModuleNames);
    module_names_query(db, file)
}

#[salsa::tracked(returns(deref))]
fn module_names_query(db: &dyn Db, file: File) -> Box<[Name]> {
    let _reading = reading(db, file);
    sorted(module_index(db, file).scopes[ScopeId(0)].symbols.keys())
}

/// The names that a module lists in `__all__`, sorted by number; `None` where it has no list that can be read.
pub fn exported(db: &dyn Db, file: File) -> Option<&[Name]> {
    saw(db, file, Ask::Exported);
    exported_query(db, file)
}

#[salsa::tracked(returns(as_deref))]
fn exported_query(db: &dyn Db, file: File) -> Option<Box<[Name]>> {
    let _reading = reading(db, file);
    module_index(db, file).exported.as_ref().map(sorted)
}

/// The attributes that conditions in a file ask about, sorted by number.
pub fn tested_attributes(db: &dyn Db, file: File) -> &[Name] {
    saw(db, file, Ask::TestedAttributes);
    tested_attributes_query(db, file)
}

#[salsa::tracked(returns(deref))]
fn tested_attributes_query(db: &dyn Db, file: File) -> Box<[Name]> {
    let _reading = reading(db, file);
    sorted(module_index(db, file).tested.keys())
}

fn sorted<'a>(names: impl IntoIterator<Item = &'a Name>) -> Box<[Name]> {
    let mut names: Box<[Name]> = names.into_iter().copied().collect();
    names.sort_unstable();
    names
}

/// The names that a stub has under conditions alone that do not hold for the target, sorted by number, and whether one of them is about the
/// platform.
pub fn names_for_others(db: &dyn Db, file: File) -> &[(Name, bool)] {
    saw(db, file, Ask::NamesForOthers);
    names_for_others_query(db, file)
}

#[salsa::tracked(returns(deref))]
fn names_for_others_query(db: &dyn Db, file: File) -> Box<[(Name, bool)]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let text = file.text(db);
    let for_others = |(name, symbol): (&Name, &leitmotiv_index::tree::Symbol)| {
        let starts = || symbol.defs.iter().map(|def| usize::from(index.defs[*def].range.start()));
        let is_for_others = symbol.defs.iter().all(|def| index.defs[*def].reach == ReachId::EXCLUDED);
        (is_for_others && !symbol.defs.is_empty()).then(|| (*name, starts().any(|at| asks_for_platform(text, at))))
    };
    let mut names: Vec<(Name, bool)> = index.scopes[ScopeId(0)].symbols.iter().filter_map(for_others).collect();
    names.sort_unstable();
    names.into()
}

/// Whether a module has star imports.
pub fn has_stars(db: &dyn Db, file: File) -> bool {
    saw(db, file, Ask::HasStars);
    has_stars_query(db, file)
}

#[salsa::tracked(returns(copy))]
fn has_stars_query(db: &dyn Db, file: File) -> bool {
    let _reading = reading(db, file);
    !module_index(db, file).scopes[ScopeId(0)].stars.is_empty()
}

/// Whether a module sets attributes on objects by names that cannot be read: `setattr(codes, name, …)`.
pub fn sets_computed_names(db: &dyn Db, file: File) -> bool {
    saw(db, file, Ask::SetsComputedNames);
    sets_computed_names_query(db, file)
}

#[salsa::tracked(returns(copy))]
fn sets_computed_names_query(db: &dyn Db, file: File) -> bool {
    let _reading = reading(db, file);
    module_index(db, file).patched.contains_key(&known::DUNDER_CLASS)
}

/// Whether a file imports a module by its full name, or one below it, as `import tides.tables`.
pub fn imports_below(db: &dyn Db, file: File, full: Name) -> bool {
    saw(db, file, Ask::ImportsBelow(full));
    imports_below_query(db, file, full)
}

#[salsa::tracked(returns(copy))]
fn imports_below_query(db: &dyn Db, file: File, full: Name) -> bool {
    let _reading = reading(db, file);
    let wanted = db.names().text(full);
    module_index(db, file).defs.iter().any(|(_, def)| match def.kind {
        DefKind::Import { module, alias: false } => {
            let below = db.names().text(module).strip_prefix(wanted);
            below.is_some_and(|rest| rest.is_empty() || rest.starts_with('.'))
        }
        _ => false,
    })
}
