//! Annotations from evidence.
//!
//! - this file: proposals, with their evidence
//! - [`evidence`]: what evidence is, and what is concluded from it
//! - `known`: what is known of a project: its calls, what its functions do with their parameters, its classes
//! - `sources`: kinds of evidence, a file each
//! - `duck`: which class has the attributes that are read
//! - `generalise`: types that people would write
//! - `claims`: what the kinds of evidence claim a parameter to be
//! - `weigh`: what is concluded of a parameter from that
//! - `results`: what functions give
//! - `attributes`: what attributes hold
//! - `rounds`: parameters concluded to a fixed point
//! - [`open`]: what is left to decide
//! - [`edit`]: proposals as changes to files, each proved to be the same program
//! - `imports`: the imports that written annotations need
//! - `literals`: closed sets of strings
//! - `variables`: type variables where a result follows a parameter
//! - [`hints`]: types that stand unwritten, for editors
//! - [`suggest`]: what a person may want to write beside annotations
//! - `suspects`: which annotations a new finding may come from
//! - [`vet`]: proposals tried out together, round by round, until nothing is left to propose

mod attributes;
mod claims;
mod duck;
pub mod edit;
pub mod evidence;
mod generalise;
pub mod hints;
pub(crate) mod imports;
mod known;
mod literals;
pub mod open;
mod results;
mod rounds;
mod sources;
pub mod suggest;
mod suspects;
mod variables;
pub mod vet;
mod weigh;

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{ClassId, DefKind, Function, FunctionId, ModuleIndex, ScopeId, ScopeKind};
use leitmotiv_project::Project;
use leitmotiv_syntax::TextSize;
use leitmotiv_trace::records::Records;
use rustc_hash::{FxHashMap, FxHashSet};

pub use self::evidence::{Conclusion, Evidence, Source, Sureness, Weight};
pub use self::known::is_test;
pub use self::rounds::Inquiry;
use self::rounds::{Concluded, open_parameters};
pub use self::variables::{Made, Variables};
use crate::spell::{Evaluated, Spelled, Style, makes_names, spell};

/// What of a function or class is annotated.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Part {
    /// A parameter, by its name.
    Parameter(String),
    /// What is given back.
    Return,
    /// An attribute, by its name.
    Attribute(String),
    /// A variable of a module, by its name.
    Variable(String),
}

impl Part {
    /// The slot with its annotation, behind the name of the function or class.
    #[must_use]
    pub fn shown(&self, owner: &str, text: &str) -> String {
        match self {
            Part::Parameter(name) => format!("{owner}({name}: {text})"),
            Part::Return => format!("{owner}() -> {text}"),
            Part::Attribute(name) | Part::Variable(name) => format!("{owner}.{name}: {text}"),
        }
    }
}

/// A proposed annotation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Proposal {
    /// The file.
    pub file: File,
    /// The dotted name of the function, of the attribute's class, or the variable's module.
    pub function: String,
    /// What of it.
    pub part: Part,
    /// Where the annotation goes.
    pub at: TextSize,
    /// Where the parameter's default begins.
    pub default: Option<TextSize>,
    /// Where the statement begins that the function's outermost scope stands in: what the annotation names must be bound by
    /// then.
    pub before: TextSize,
    /// The type.
    pub ty: Type,
    /// What is written.
    pub spelled: Spelled,
    /// The kinds of evidence that it comes from.
    pub sources: Vec<Source>,
    /// The evidence that speaks for it.
    pub evidence: Vec<Told>,
    /// The evidence that says something else.
    pub conflicts: Vec<Told>,
    /// How sure it is.
    pub sureness: Sureness,
    /// Whether it leaves a part open, as `list[Any]` does.
    pub is_open: bool,
    /// How much speaks for it.
    pub weight: Weight,
    /// The type variables that it is written with, which need other proposals beside it.
    pub variables: Option<Arc<Variables>>,
}

/// A piece of evidence as it is told.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Told {
    /// What kind it is.
    pub source: Source,
    /// The file, as it is shown.
    pub path: String,
    /// The line, from 1, in the text that it was found in: that on disk, with what was accepted before.
    pub line: usize,
    /// In words.
    pub words: String,
}

/// What is asked for.
#[derive(Debug, Clone)]
pub struct Wanted {
    /// Kinds of evidence to use.
    pub sources: Vec<Source>,
    /// The least sure that is wanted.
    pub at_least: Sureness,
    /// Functions by name or dotted name; all where empty.
    pub functions: Vec<String>,
    /// What was recorded of runs.
    pub records: Arc<Records>,
    /// What files are held to that annotations could break.
    pub held: Arc<crate::held::Held>,
}

/// What was recorded of a project's runs. A store that cannot be read is as good as none here; those who ask say so
/// ([`Records::of`]).
#[must_use]
pub fn recorded(project: &Project) -> Arc<Records> {
    Arc::new(Records::of(&project.root).ok().flatten().unwrap_or_default())
}

/// A slot by names: the file, the dotted name of the function or class, and what of it.
type Named = (File, String, Part);

/// Types that slots are not: other code contradicts them.
type Refused = FxHashMap<Named, Vec<Type>>;

impl Default for Wanted {
    fn default() -> Wanted {
        Wanted {
            sources: Source::ALL.to_vec(),
            at_least: Sureness::Fair,
            functions: Vec::new(),
            records: Arc::default(),
            held: Arc::default(),
        }
    }
}

/// What is concluded of the slots of one function of a project, of which `files` are all, whatever its certainty; it is not tried out.
#[must_use]
pub fn of_function(
    db: &Database,
    files: &[File],
    (file, function): (File, FunctionId),
    records: Arc<Records>,
) -> Vec<Arc<Proposal>> {
    let functions = vec![leitmotiv_engine::definitions::functions::qualified(db, file, Some(function))];
    let wanted = Wanted { at_least: Sureness::Low, functions, records, ..Wanted::default() };
    let mut found = Inquiry::new(db, files).propose(&[file], &wanted);
    found.retain(|proposal| wanted.functions.contains(&proposal.function));
    found
}

fn in_file(db: &Database, file: File, wanted: &Wanted, concluded: &Concluded, refused: &Refused) -> Vec<Proposal> {
    let index = module_index(db, file);
    if file.is_stub(db) || !index.faults.is_empty() {
        return Vec::new();
    }
    let writer = Writer::new(db, file, wanted, refused);
    let mut proposals: Vec<Proposal> = Vec::new();
    // A function may be told with the one around it.
    let mut told: FxHashSet<(String, Part)> = FxHashSet::default();
    for (function, _) in index.functions.iter() {
        let Some((all, unsaid)) = variables::proposals(&writer, index, concluded, function) else { continue };
        let is_asked = |proposal: &Proposal| {
            let name = proposal.function.rsplit('.').next().unwrap_or_default();
            writer.is_asked(name, &proposal.function)
        };
        if all.iter().all(is_asked) {
            told.extend(unsaid.map(|function| (function, Part::Return)));
            told.extend(all.iter().map(|one| (one.function.clone(), one.part.clone())));
            proposals.extend(all);
        }
    }
    let mut closed = literals::Closed::new();
    for (function, record) in index.functions.iter() {
        let dotted = leitmotiv_engine::definitions::functions::qualified(db, file, Some(function));
        if !writer.is_asked(db.names().text(record.name), &dotted) {
            continue;
        }
        let style = writer.style(record.parent, evaluated(db, writer.postpones, index, record));
        for parameter in open_parameters(db, file, index, function) {
            let Some(conclusion) = concluded.parameters.get(&parameter) else { continue };
            let param = &record.params[parameter.place as usize];
            let part = Part::Parameter(db.names().text(param.name).to_owned());
            if told.contains(&(dotted.clone(), part.clone())) {
                continue;
            }
            let place = Place {
                owner: &dotted,
                part,
                at: param.name_range.end(),
                default: param.default.map(|default| index.spans[default].start()),
                before: outermost(index, record.parent, record.range.start()),
            };
            let narrow = closed.of(&writer, index, parameter, conclusion, style);
            let narrow = narrow.and_then(|(conclusion, spelled)| writer.written(&conclusion, place.clone(), spelled));
            proposals.extend(narrow.or_else(|| writer.proposal(conclusion, place, style)));
        }
        if record.returns.is_some() || told.contains(&(dotted.clone(), Part::Return)) {
            continue;
        }
        let open = concluded.results.get(&(file, function)).cloned();
        let result = open.or_else(|| results::conclude(db, &concluded.known, (file, function), style.self_types));
        if let Some(conclusion) = result {
            let place = Place {
                owner: &dotted,
                part: Part::Return,
                at: record.params_end,
                default: None,
                before: outermost(index, record.parent, record.range.start()),
            };
            proposals.extend(writer.proposal(&conclusion, place, style));
        }
    }
    for declarable in attributes::worth_declaring(db, file) {
        let (owner, part) = named(db, file, declarable);
        let text = db.names().text(declarable.name);
        if !writer.is_asked(text, &format!("{owner}.{text}")) {
            continue;
        }
        let Some(conclusion) = attributes::conclude(db, &concluded.known, &concluded.members, file, declarable) else {
            continue;
        };
        let def = &index.defs[declarable.def];
        let evaluated = match (index.scopes[def.scope].kind, index.bodies[def.body].function) {
            _ if writer.postpones || db.project().python >= (3, 14) => Evaluated::Never,
            // Annotations of names in a function are not evaluated (PEP 526).
            (ScopeKind::Function(_), _) => Evaluated::Never,
            (_, Some(_)) => Evaluated::WhenCalled,
            (_, None) => Evaluated::At(def.range.start()),
        };
        let place = Place {
            owner: &owner,
            part,
            at: def.range.end(),
            default: None,
            before: outermost(index, def.scope, def.range.start()),
        };
        proposals.extend(writer.proposal(&conclusion, place, writer.style(def.scope, evaluated)));
    }
    proposals.sort_by_key(|proposal| proposal.at);
    proposals
}

/// The dotted name of a class, as its attributes are told by.
fn class_name(db: &Database, file: File, class: ClassId) -> String {
    format!("{}.{}", db.names().text(file.module(db)), classes::shown(db, ClassRef { file, class }))
}

/// How a name that is worth declaring is told: the dotted name of its class or module, and what of that.
fn named(db: &Database, file: File, declarable: attributes::Declarable) -> (String, Part) {
    let name = db.names().text(declarable.name).to_owned();
    match declarable.class {
        Some(class) => (class_name(db, file, class), Part::Attribute(name)),
        None => (db.names().text(file.module(db)).to_owned(), Part::Variable(name)),
    }
}

/// What holds for all annotations of a file.
struct Writer<'a> {
    db: &'a Database,
    file: File,
    postpones: bool,
    makes_names: bool,
    no_imports: bool,
    wanted: &'a Wanted,
    refused: &'a Refused,
}

/// Where an annotation goes.
#[derive(Clone)]
struct Place<'a> {
    owner: &'a str,
    part: Part,
    at: TextSize,
    default: Option<TextSize>,
    before: TextSize,
}

impl<'a> Writer<'a> {
    fn new(db: &'a Database, file: File, wanted: &'a Wanted, refused: &'a Refused) -> Writer<'a> {
        Writer {
            db,
            file,
            postpones: postpones(db, file),
            makes_names: makes_names(db, file),
            // What the library itself needs to make `typing` cannot import from it. What a package lists as its names has no others.
            no_imports: db.is_library_name(file) || file.is_package(db) && module_index(db, file).exported.is_some(),
            wanted,
            refused,
        }
    }
}

impl Writer<'_> {
    fn is_asked(&self, name: &str, dotted: &str) -> bool {
        let asked = &self.wanted.functions;
        asked.is_empty()
            || asked.iter().any(|asked| asked == name || dotted == *asked || dotted.ends_with(&format!(".{asked}")))
    }

    fn style(&self, scope: ScopeId, evaluated: Evaluated) -> Style {
        let python = self.db.project().python;
        Style {
            bars: python >= (3, 10) || self.postpones,
            bare: false,
            any: true,
            evaluated,
            subscripts: python >= (3, 9),
            scope,
            self_types: python >= (3, 11),
            makes_names: self.makes_names,
        }
    }

    fn proposal(&self, conclusion: &Conclusion, place: Place<'_>, style: Style) -> Option<Proposal> {
        let spelled = spell(self.db, self.file, conclusion.ty, style)?;
        self.written(conclusion, place, spelled)
    }

    /// A proposal as it is spelled; `None` where it is not wanted, or other code has contradicted it.
    fn written(&self, conclusion: &Conclusion, place: Place<'_>, spelled: Spelled) -> Option<Proposal> {
        let db = self.db;
        let sources = conclusion.sources();
        let named = (self.file, place.owner.to_owned(), place.part.clone());
        if self.refused.get(&named).is_some_and(|refused| refused.contains(&conclusion.ty)) {
            return None;
        }
        let is_wanted = sources.iter().any(|source| self.wanted.sources.contains(source));
        if conclusion.sureness < self.wanted.at_least || !is_wanted {
            return None;
        }
        if self.no_imports && !spelled.imports.is_empty() {
            return None;
        }
        let one = |evidence: &Evidence| Told {
            source: evidence.source,
            path: evidence.file.path(db).to_owned(),
            line: module_index(db, evidence.file).lines.0.index_of(evidence.range.start()) + 1,
            words: evidence.words(db),
        };
        let told = |all: &[Evidence]| {
            let mut told: Vec<Told> = Vec::new();
            for evidence in all.iter().map(one) {
                if !told.contains(&evidence) {
                    told.push(evidence);
                }
            }
            told
        };
        Some(Proposal {
            file: self.file,
            function: place.owner.to_owned(),
            part: place.part,
            at: place.at,
            default: place.default,
            before: place.before,
            ty: conclusion.ty,
            spelled,
            sources,
            evidence: told(&conclusion.evidence),
            conflicts: told(&conclusion.conflicts),
            sureness: conclusion.sureness,
            is_open: weigh::open(db, conclusion.ty),
            weight: conclusion.weight,
            variables: None,
        })
    }
}

/// Whether annotations of a file are left as they are until someone asks (PEP 563).
pub(crate) fn postpones(db: &Database, file: File) -> bool {
    let names = db.names();
    module_index(db, file).defs.iter().any(|(_, def)| match def.kind {
        DefKind::ImportFrom { module, level: 0, name, .. } => {
            names.text(module) == "__future__" && names.text(name) == "annotations"
        }
        _ => false,
    })
}

fn evaluated(db: &Database, postpones: bool, index: &ModuleIndex, record: &Function) -> Evaluated {
    if db.project().python >= (3, 14) || postpones {
        return Evaluated::Never;
    }
    match index.bodies[index.defs[record.def].body].function {
        Some(_) => Evaluated::WhenCalled,
        None => Evaluated::At(record.def_start),
    }
}

/// Where the outermost definition around a place begins, decorators included; its scope is given, and where it begins itself.
fn outermost(index: &ModuleIndex, scope: ScopeId, start: TextSize) -> TextSize {
    let mut start = start;
    let mut scope = Some(scope);
    while let Some(id) = scope {
        match index.scopes[id].kind {
            ScopeKind::Class(class) => start = start.min(index.classes[class].range.start()),
            ScopeKind::Function(outer) => start = start.min(index.functions[outer].range.start()),
            _ => {}
        }
        scope = index.scopes[id].parent;
    }
    start
}
