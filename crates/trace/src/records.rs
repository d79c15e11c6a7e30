//! All that a store says, and what of it is old.

use std::path::Path;
use std::sync::Arc;

use leitmotiv_project::{read, sources};
use rustc_hash::FxHashMap;

use crate::seen::{Bases, Seen, joined};
use crate::source::Source;
use crate::store::{Kept, Run, Store, StoreError};

/// All that was recorded of a project.
#[derive(Debug, Clone, Default)]
pub struct Records {
    /// The runs, oldest first.
    pub runs: Vec<Run>,
    /// The functions, by path and line. One whose text was changed stands here as often as it was recorded with different texts.
    pub functions: Vec<Function>,
    /// Names of modules at the end of a process.
    pub globals: Vec<Global>,
    /// What classes derive from, nearest first, `object` left out.
    pub bases: Bases,
}

/// A function that was called.
#[derive(Debug, Clone)]
pub struct Function {
    /// Its file, relative to the project, with `/`.
    pub path: String,
    /// Its dotted name in the file, as in `Fleet.add`.
    pub name: String,
    /// The module's dotted name.
    pub module: String,
    /// The line that it begins on now; 1-based. Where it is old, that it began on then.
    pub line: u32,
    /// Its last line now; where it is old, the same as the first.
    pub last: u32,
    /// Its parameters in the order of arguments: `vessel`, `*more`, `**rest`.
    pub params: Vec<String>,
    /// Whether the function does what it did when it was recorded: only annotations, docstring, comments and layout may differ.
    pub is_current: bool,
    /// What it was called with, from where, and what came of it.
    pub calls: Vec<Call>,
    /// Of an `__init__`, what the objects held at its end.
    pub attributes: Vec<Attribute>,
}

/// What came of a call.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Outcome {
    /// It returned.
    Returned,
    /// It yielded.
    Yielded,
    /// It was sent something.
    Sent,
    /// It raised.
    Raised,
}

/// Calls that are alike.
#[derive(Debug, Clone)]
pub struct Call {
    /// Where they come from; `None` where that is not known, or there are too many places.
    pub site: Option<Arc<Site>>,
    /// What was passed, in the order of the function's parameters; `None` where it was not seen.
    pub args: Vec<Option<Seen>>,
    /// What came of it.
    pub outcome: Outcome,
    /// The type of that; `None` where it was not seen.
    pub ty: Option<Seen>,
    /// How many were seen.
    pub count: u64,
    /// The last run, in seconds since 1970.
    pub last: i64,
}

/// A place that calls.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Site {
    /// Its file, relative to the project, with `/`; absolute where it is not the project's.
    pub path: String,
    /// The line now, 1-based; where it is old, the line then.
    pub line: u32,
    /// Whether other code stands in between.
    pub through: bool,
    /// The dotted name of the function around it, in its file; empty on a module's own level.
    pub owner: String,
    /// The call as it was written, on one line.
    pub text: String,
    /// Whether the code there is as it was.
    pub is_current: bool,
}

/// An attribute of an object at the end of its `__init__`.
#[derive(Debug, Clone)]
pub struct Attribute {
    /// The object's class.
    pub class: Seen,
    /// Its name.
    pub name: String,
    /// Its type.
    pub ty: Seen,
    /// How many were seen.
    pub count: u64,
}

/// A name of a module at the end of a process.
#[derive(Debug, Clone)]
pub struct Global {
    /// The module's file, relative to the project, with `/`.
    pub path: String,
    /// The name.
    pub name: String,
    /// The type.
    pub ty: Seen,
}

impl Function {
    /// Its dotted name with the module's.
    #[must_use]
    pub fn dotted(&self) -> String {
        format!("{}.{}", self.module, self.name)
    }

    /// Whether a name as people type it means this function: `add`, `Fleet.add`, `skerry.fleet.Fleet.add`.
    #[must_use]
    pub fn is_named(&self, name: &str) -> bool {
        let dotted = self.dotted();
        dotted == name || dotted.strip_suffix(name).is_some_and(|before| before.ends_with('.'))
    }

    /// The name that calls of it have: of an `__init__` the class's.
    #[must_use]
    pub fn called_as(&self) -> &str {
        called_as(&self.name)
    }

    /// The calls that say what happens now: those from code that is as it was.
    pub fn current_calls(&self) -> impl Iterator<Item = &Call> {
        self.calls.iter().filter(|call| self.is_current && call.is_current())
    }

    /// How many calls were seen, each once, whatever it yielded and was sent.
    #[must_use]
    pub fn count(&self) -> u64 {
        let ended = self.calls.iter().filter(|call| matches!(call.outcome, Outcome::Returned | Outcome::Raised));
        ended.map(|call| call.count).sum()
    }
}

impl Call {
    /// Whether it comes from code that is as it was.
    #[must_use]
    pub fn is_current(&self) -> bool {
        self.site.as_ref().is_none_or(|site| site.is_current)
    }
}

/// The name that calls of a function have: of an `__init__` the class's.
pub(crate) fn called_as(name: &str) -> &str {
    let mut parts = name.rsplit('.');
    let own = parts.next().unwrap_or(name);
    if matches!(own, "__init__" | "__new__" | "__post_init__") { parts.next().unwrap_or(own) } else { own }
}

impl Records {
    /// What the store of a project says; `None` where there is none.
    ///
    /// # Errors
    /// [`StoreError`]
    pub fn of(root: &Path) -> Result<Option<Records>, StoreError> {
        let Some(store) = Store::read(root)? else { return Ok(None) };
        Ok(Some(Records::new(root, store.all()?)))
    }

    fn new(root: &Path, kept: Kept) -> Records {
        let mut texts = Texts::new(root);
        let sites: Vec<Arc<Site>> = kept
            .sites
            .iter()
            .map(|site| {
                let found = texts.site(site);
                let (path, owner, text) = (site.path.clone(), site.owner.clone(), site.text.clone());
                let (line, is_current) = (found.unwrap_or(site.line), found.is_some());
                Arc::new(Site { path, line, through: site.through, owner, text, is_current })
            })
            .collect();
        let mut functions: Vec<Function> = kept
            .functions
            .iter()
            .map(|one| {
                let now = texts.function(&one.path, &one.name, &one.hash);
                Function {
                    path: one.path.clone(),
                    name: one.name.clone(),
                    module: texts.module(&one.path),
                    line: now.map_or(one.line, |(line, _)| line),
                    last: now.map_or(one.line, |(_, last)| last),
                    params: one.params.clone(),
                    is_current: now.is_some(),
                    calls: Vec::new(),
                    attributes: Vec::new(),
                }
            })
            .collect();
        let ty = |place: usize| kept.types[place].0.clone();
        for call in &kept.calls {
            let outcome = match call.outcome {
                'y' => Outcome::Yielded,
                's' => Outcome::Sent,
                'x' => Outcome::Raised,
                _ => Outcome::Returned,
            };
            functions[call.function].calls.push(Call {
                site: call.site.map(|site| sites[site].clone()),
                args: call.args.iter().map(|arg| arg.map(ty)).collect(),
                outcome,
                ty: call.ty.map(ty),
                count: call.count,
                last: call.last,
            });
        }
        for (function, class, name, seen, count, _) in &kept.attributes {
            let attribute = Attribute { class: ty(*class), name: name.clone(), ty: ty(*seen), count: *count };
            functions[*function].attributes.push(attribute);
        }
        // Those whose calls never came to an end.
        functions.retain(|function| !function.calls.is_empty() || !function.attributes.is_empty());
        for function in &mut functions {
            // Most first; then as in the text.
            let key = |call: &Call| call.site.as_ref().map(|site| (site.path.clone(), site.line));
            function.calls.sort_by(|a, b| b.count.cmp(&a.count).then_with(|| key(a).cmp(&key(b))));
        }
        functions.sort_by(|a, b| (&a.path, a.line, a.is_current).cmp(&(&b.path, b.line, b.is_current)));
        let globals = kept.globals.iter().map(|(path, name, seen, _)| Global {
            path: path.clone(),
            name: name.clone(),
            ty: ty(*seen),
        });
        let bases = kept.types.iter().filter(|(_, above)| !above.is_empty()).cloned();
        Records { globals: globals.collect(), bases: bases.collect(), runs: kept.runs, functions }
    }

    /// What was seen of a parameter of a function, by its place; each type once.
    #[must_use]
    pub fn passed(function: &Function, place: usize) -> Vec<Seen> {
        joined(function.current_calls().filter_map(|call| call.args.get(place)?.as_ref().map(Seen::plain)))
    }
}

/// The project's texts as they are now, each looked through once.
pub(crate) struct Texts<'a> {
    root: &'a Path,
    known: FxHashMap<String, Option<Arc<Source>>>,
}

impl<'a> Texts<'a> {
    pub(crate) fn new(root: &'a Path) -> Texts<'a> {
        Texts { root, known: FxHashMap::default() }
    }

    /// A file of the project, by its path relative to that; `None` where it cannot be read or lies elsewhere.
    pub(crate) fn get(&mut self, path: &str) -> Option<Arc<Source>> {
        let root = self.root;
        let read = || {
            let relative = Path::new(path);
            let is_inside = relative.is_relative() && !path.split('/').any(|part| part == "..");
            is_inside.then(|| read::text(&root.join(relative)).ok()).flatten().map(|text| Arc::new(Source::new(text)))
        };
        self.known.entry(path.to_owned()).or_insert_with(read).clone()
    }

    /// The first and last line of a function, if it does what it did.
    fn function(&mut self, path: &str, name: &str, hash: &str) -> Option<(u32, u32)> {
        let source = self.get(path)?;
        source.named(name).find(|function| function.hash == hash).map(|function| (function.line, function.last))
    }

    /// The line of a call site, if the code there is as it was.
    fn site(&mut self, site: &crate::store::KeptSite) -> Option<u32> {
        // Code that is not the project's, or in no file at all (`<string>`).
        if Path::new(&site.path).is_absolute() || site.path.starts_with('<') {
            return Some(site.line);
        }
        if site.owner.is_empty() {
            return self.get(&site.path)?.line_with(&site.text, site.line);
        }
        let (owner, _) = self.function(&site.path, &site.owner, &site.hash)?;
        // The layout may have changed.
        let moved = (owner + site.line).saturating_sub(site.owner_line);
        self.get(&site.path)?.line_with(&site.text, moved).or(Some(moved))
    }

    fn module(&self, path: &str) -> String {
        sources::module_of(&self.root.join(path)).1
    }
}
