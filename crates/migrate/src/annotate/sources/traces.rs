//! What passed while the project's program ran (docs/traces.md): evidence, and never truth. It says what happened, and not what is meant.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::{classes, functions};
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{
    builtin_instance, class_in, instance_of, module_file, standard_instance, standard_module,
};
use leitmotiv_engine::types::{ClassRef, Tuple, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{ClassId, FunctionId, ModuleIndex};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use leitmotiv_trace::follows::{follows, literal};
use leitmotiv_trace::records::{Call, Function, Outcome, Records, Site};
use leitmotiv_trace::seen::Seen;
use rustc_hash::FxHashMap;

use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::known::is_test;

/// What was recorded, by slot.
#[derive(Default)]
pub(crate) struct Traces {
    /// What was passed.
    parameters: FxHashMap<Parameter, Recorded>,
    /// What was passed where the result goes with that, and what came of it.
    pub(crate) follows: Vec<(Parameter, Vec<Pair>)>,
    /// What was returned.
    results: FxHashMap<(File, FunctionId), Recorded>,
    /// What was yielded.
    yields: FxHashMap<(File, FunctionId), Recorded>,
    /// What was sent.
    sent: FxHashMap<(File, FunctionId), Recorded>,
    /// What attributes held at the end of `__init__`.
    attributes: FxHashMap<(ClassRef, Name), Recorded>,
    /// What names of modules held in the end.
    variables: FxHashMap<(File, Name), Recorded>,
}

/// What was recorded of a slot.
#[derive(Debug, Clone, Default)]
pub(crate) struct Recorded {
    /// Each type that was seen, with how often, and where from: of several places the one with the fewest calls.
    pub(crate) all: Vec<Evidence>,
    /// Whether something was seen whose class is not known here.
    pub(crate) is_open: bool,
    /// Whether anything of it came from anywhere but tests.
    pub(crate) is_own: bool,
    /// How many calls were seen.
    pub(crate) count: u64,
}

/// What came of something that was passed.
#[derive(Debug, Clone)]
pub(crate) struct Pair {
    /// The type.
    pub(crate) passed: Type,
    /// The value, as it stands in a literal type, where one is told.
    pub(crate) literal: Option<String>,
    /// What came of it.
    pub(crate) came: Type,
}

/// One type of a slot while it is put together.
#[derive(Default)]
struct Part {
    count: u64,
    sites: Vec<Arc<Site>>,
    rarest: Option<(u64, Arc<Site>)>,
    own: u64,
}

impl Traces {
    /// What records say of some files' slots. Only what is as it was says anything.
    pub(crate) fn new(db: &Database, files: &[File], records: &Records) -> Traces {
        let mut traces = Traces::default();
        if records.functions.is_empty() && records.globals.is_empty() {
            return traces;
        }
        let mut classes = Classes { db, records, known: FxHashMap::default() };
        let by_path: FxHashMap<String, File> = files.iter().map(|file| (file.path(db).to_owned(), *file)).collect();
        let mut named: FxHashMap<File, FxHashMap<String, Vec<FunctionId>>> = FxHashMap::default();
        for function in records.functions.iter().filter(|function| function.is_current) {
            let Some(file) = by_path.get(&function.path).copied() else { continue };
            let index = module_index(db, file);
            let of_file = named.entry(file).or_insert_with(|| by_name(db, file, index));
            // Of several of one name it is the one with the same parameters, if that is one.
            let names: Vec<&str> = function.params.iter().map(|name| name.trim_start_matches('*')).collect();
            let fits = |id: &&FunctionId| has_names(db, index, **id, &names);
            let candidates = of_file.get(&function.name).into_iter().flatten();
            let fitting: Vec<FunctionId> = candidates.filter(fits).copied().collect();
            let [id] = fitting.as_slice() else { continue };
            traces.function(&mut classes, &by_path, (file, *id), function);
        }
        for global in &records.globals {
            let Some(file) = by_path.get(&global.path).copied() else { continue };
            let name = db.names().intern(&global.name);
            let range = TextRange::default();
            let one = |ty, why| Evidence {
                source: Source::Traces,
                ty,
                strength: Strength::Medium,
                file,
                range,
                why,
                passed_on: false,
            };
            let recorded = traces.variables.entry((file, name)).or_default();
            match classes.of(&global.ty) {
                Some(ty) => recorded.all.push(one(ty, Why::Recorded { what: "hold", count: 0, places: 0 })),
                None => recorded.is_open = true,
            }
            recorded.is_own = true;
        }
        traces
    }

    fn function(
        &mut self,
        classes: &mut Classes<'_>,
        by_path: &FxHashMap<String, File>,
        (file, id): (File, FunctionId),
        function: &Function,
    ) {
        let db = classes.db;
        let index = module_index(db, file);
        let record = &index.functions[id];
        let here = (file, record.name_range);
        for (place, name) in function.params.iter().enumerate() {
            let name = db.names().intern(name.trim_start_matches('*'));
            let Some(param) = record.params.iter().position(|param| param.name == name) else { continue };
            let place_now = u32::try_from(param).unwrap_or(u32::MAX);
            let parameter = Parameter { file, function: id, place: place_now };
            let ended = |call: &&Call| matches!(call.outcome, Outcome::Returned | Outcome::Raised | Outcome::Yielded);
            let calls = function.current_calls().filter(ended);
            let calls = calls.flat_map(|call| {
                let seen = call.args.get(place).and_then(Option::as_ref);
                seen.into_iter().flat_map(|seen| seen.unpacked(&function.params[place])).map(move |seen| (call, seen))
            });
            let recorded = classes.put_together(by_path, here, "pass", calls);
            if recorded.count > 0 {
                self.parameters.insert(parameter, recorded);
            }
        }
        if let Some(follows) = follows(function).filter(|follows| !follows.is_same) {
            let name = db.names().intern(&follows.param);
            let place = record.params.iter().position(|param| param.name == name);
            let pair = |(passed, came): &(Seen, Seen)| {
                Some(Pair { passed: classes.of(&passed.plain())?, literal: literal(passed), came: classes.of(came)? })
            };
            let pairs: Option<Vec<Pair>> = follows.pairs.iter().map(pair).collect();
            if let (Some(place), Some(pairs)) = (place.and_then(|place| u32::try_from(place).ok()), pairs) {
                self.follows.push((Parameter { file, function: id, place }, pairs));
            }
        }
        for (outcome, what, to) in [
            (Outcome::Returned, "return", &mut self.results),
            (Outcome::Yielded, "yield", &mut self.yields),
            (Outcome::Sent, "send", &mut self.sent),
        ] {
            let calls = function.current_calls().filter(|call| call.outcome == outcome);
            let calls = calls.filter_map(|call| Some((call, call.ty.clone()?)));
            let mut recorded = classes.put_together(by_path, here, what, calls);
            // Whoever calls, it gives what it gives.
            recorded.is_own = true;
            if recorded.count > 0 {
                to.insert((file, id), recorded);
            }
        }
        if let Some(class) = record.class {
            let class = ClassRef { file, class };
            for attribute in &function.attributes {
                let recorded = self.attributes.entry((class, db.names().intern(&attribute.name))).or_default();
                recorded.count += attribute.count;
                recorded.is_own = true;
                let count = attribute.count;
                match classes.of(&attribute.ty.plain()) {
                    Some(ty) => recorded.all.push(Evidence {
                        source: Source::Traces,
                        ty,
                        strength: Strength::Medium,
                        file,
                        range: record.name_range,
                        why: Why::Recorded { what: "hold", count, places: 0 },
                        passed_on: false,
                    }),
                    None => recorded.is_open = true,
                }
            }
        }
    }

    /// What was passed to a parameter.
    pub(crate) fn parameter(&self, parameter: Parameter) -> Option<&Recorded> {
        self.parameters.get(&parameter)
    }

    /// What a function gave: of a generator, an iterator of what it yielded; a coroutine's result is what awaiting it gives.
    pub(crate) fn result(&self, db: &Database, (file, function): (File, FunctionId)) -> Option<Recorded> {
        let index = module_index(db, file);
        let record = &index.functions[function];
        if index.bodies[record.body].yields.is_empty() {
            return self.results.get(&(file, function)).cloned();
        }
        let store = db.store();
        let yielded = self.yields.get(&(file, function))?;
        let all = |recorded: Option<&Recorded>| {
            union::join(store, recorded.into_iter().flat_map(|recorded| recorded.all.iter().map(|one| one.ty)))
        };
        let (items, sent, result) =
            (all(Some(yielded)), self.sent.get(&(file, function)), self.results.get(&(file, function)));
        let (sent, result) = (sent.map(|sent| all(Some(sent))), all(result));
        let gives = result != Type::None && result != Type::Never;
        let made = |name: &str, args: &[Type]| {
            standard_instance(db, db.names().intern("collections.abc"), db.names().intern(name), args)
        };
        let ty = match (record.is_async, sent) {
            (true, None) => made("AsyncIterator", &[items]),
            (true, Some(sent)) => made("AsyncGenerator", &[items, sent]),
            (false, None) if !gives => made("Iterator", &[items]),
            (false, sent) => {
                made("Generator", &[items, sent.unwrap_or(Type::None), if gives { result } else { Type::None }])
            }
        };
        let first = yielded.all.first()?.clone();
        Some(Recorded { all: vec![Evidence { ty, ..first }], ..yielded.clone() })
    }

    /// What an attribute held at the end of `__init__`.
    pub(crate) fn attribute(&self, class: ClassRef, name: Name) -> Option<&Recorded> {
        self.attributes.get(&(class, name))
    }

    /// What a name of a module held in the end.
    pub(crate) fn variable(&self, file: File, name: Name) -> Option<&Recorded> {
        self.variables.get(&(file, name))
    }
}

fn by_name(db: &Database, file: File, index: &ModuleIndex) -> FxHashMap<String, Vec<FunctionId>> {
    let module = db.names().text(file.module(db));
    let mut all: FxHashMap<String, Vec<FunctionId>> = FxHashMap::default();
    for (id, _) in index.functions.iter() {
        let dotted = functions::qualified(db, file, Some(id));
        let name = dotted.strip_prefix(module).and_then(|name| name.strip_prefix('.')).unwrap_or(&dotted);
        all.entry(name.to_owned()).or_default().push(id);
    }
    all
}

fn has_names(db: &Database, index: &ModuleIndex, function: FunctionId, names: &[&str]) -> bool {
    let params = &index.functions[function].params;
    // The recorder tells keyword parameters before `*more`.
    params.len() == names.len() && params.iter().all(|param| names.contains(&db.names().text(param.name)))
}

/// Classes by what they are called at run time.
struct Classes<'a> {
    db: &'a Database,
    records: &'a Records,
    known: FxHashMap<Seen, Option<Type>>,
}

impl Classes<'_> {
    fn put_together<'c>(
        &mut self,
        by_path: &FxHashMap<String, File>,
        (file, range): (File, TextRange),
        what: &'static str,
        calls: impl Iterator<Item = (&'c Call, Seen)>,
    ) -> Recorded {
        let mut parts: Vec<(Seen, Part)> = Vec::new();
        let mut places: FxHashMap<Seen, usize> = FxHashMap::default();
        let mut recorded = Recorded::default();
        for (call, seen) in calls {
            let seen = seen.plain();
            let place = *places.entry(seen.clone()).or_insert_with(|| {
                parts.push((seen, Part::default()));
                parts.len() - 1
            });
            let part = &mut parts[place].1;
            part.count += call.count;
            recorded.count += call.count;
            let Some(site) = &call.site else { continue };
            if !part.sites.contains(site) {
                part.sites.push(site.clone());
            }
            if by_path.contains_key(&site.path) && !is_test(&site.path) {
                part.own += call.count;
            }
            if part.rarest.as_ref().is_none_or(|(count, _)| call.count < *count) {
                part.rarest = Some((call.count, site.clone()));
            }
        }
        // What only tests pass is odd on purpose at times: where the project itself passes something, that counts.
        recorded.is_own = parts.iter().any(|(_, part)| part.own > 0);
        for (seen, part) in parts {
            if recorded.is_own && part.own == 0 && !part.sites.is_empty() {
                continue;
            }
            let Some(ty) = self.of(&seen) else {
                recorded.is_open = true;
                continue;
            };
            let at = part.rarest.as_ref().and_then(|(_, site)| {
                let file = *by_path.get(&site.path)?;
                let lines = &module_index(self.db, file).lines.0;
                let range = lines.line_range(file.text(self.db), (site.line as usize).checked_sub(1)?)?;
                Some((file, range))
            });
            let (file, range) = at.unwrap_or((file, range));
            let why = Why::Recorded { what, count: part.count, places: part.sites.len() };
            let (source, strength) = (Source::Traces, Strength::Medium);
            recorded.all.push(Evidence { source, ty, strength, file, range, why, passed_on: false });
        }
        recorded
    }

    /// A type as the engine has it; `None` where its class is not known, or stands in for others in tests.
    fn of(&mut self, seen: &Seen) -> Option<Type> {
        if let Some(known) = self.known.get(seen) {
            return *known;
        }
        let made = self.make(seen);
        self.known.insert(seen.clone(), made);
        made
    }

    fn make(&mut self, seen: &Seen) -> Option<Type> {
        let (db, store) = (self.db, self.db.store());
        let builtin = |name: &str, args: &[Type]| Some(builtin_instance(db, db.names().intern(name), args));
        let kept = |name: &str, args: &[Type]| {
            Some(standard_instance(db, db.names().intern("collections"), db.names().intern(name), args))
        };
        match seen {
            Seen::None => Some(Type::None),
            Seen::Bool(_) => builtin("bool", &[]),
            Seen::Word(_) => builtin("str", &[]),
            Seen::Class(module, name) => self.class(seen, module, name),
            Seen::Type(of) => match self.of(of)? {
                instance @ Type::Instance(_) => Some(Type::SubclassOf(store.intern_type(instance))),
                _ => builtin("type", &[]),
            },
            Seen::Tuple(items) => {
                let prefix: Option<Vec<Type>> = items.iter().map(|item| self.of(item)).collect();
                Some(Type::Tuple(store.intern_tuple(Tuple { prefix: prefix?.into(), rest: None, suffix: [].into() })))
            }
            Seen::Items(name, items) => {
                let item = self.held(items)?;
                match name.as_str() {
                    "tuple" => {
                        let tuple = Tuple { prefix: [].into(), rest: Some(item), suffix: [].into() };
                        Some(Type::Tuple(store.intern_tuple(tuple)))
                    }
                    "deque" => kept("deque", &[item]),
                    name => builtin(name, &[item]),
                }
            }
            Seen::Mapping(name, keys, values) => {
                let args = [self.held(keys)?, self.held(values)?];
                if name == "dict" { builtin("dict", &args) } else { kept(name, &args) }
            }
        }
    }

    /// What a container held: open where it held nothing.
    fn held(&mut self, items: &[Seen]) -> Option<Type> {
        if items.is_empty() {
            return Some(Type::Any);
        }
        let all: Option<Vec<Type>> = items.iter().map(|item| self.of(item)).collect();
        Some(union::join(self.db.store(), all?))
    }

    fn class(&mut self, seen: &Seen, module: &str, name: &str) -> Option<Type> {
        let (db, store) = (self.db, self.db.store());
        let any = Type::Any;
        let abstracted = |name: &str, args: &[Type]| {
            Some(standard_instance(db, db.names().intern("collections.abc"), db.names().intern(name), args))
        };
        let types = |name: &str| Some(standard_instance(db, db.names().intern("types"), db.names().intern(name), &[]));
        // What annotations call what the interpreter has no name for (library reference, "types", "collections.abc").
        if module == "builtins" {
            match name {
                "function"
                | "builtin_function_or_method"
                | "method"
                | "method-wrapper"
                | "wrapper_descriptor"
                | "method_descriptor" => return Some(functions::any_callable(store, any)),
                "generator" => return abstracted("Iterator", &[any]),
                "coroutine" => return abstracted("Coroutine", &[any, any, any]),
                "async_generator" => return abstracted("AsyncIterator", &[any]),
                "module" => return types("ModuleType"),
                "ellipsis" => return types("EllipsisType"),
                "mappingproxy" => {
                    return Some(standard_instance(
                        db,
                        db.names().intern("types"),
                        db.names().intern("MappingProxyType"),
                        &[any, any],
                    ));
                }
                "dict_keys" | "odict_keys" => return abstracted("KeysView", &[any]),
                "dict_values" | "odict_values" => return abstracted("ValuesView", &[any]),
                "dict_items" | "odict_items" => return abstracted("ItemsView", &[any, any]),
                "NotImplementedType" => return None,
                name if name.ends_with("iterator") => return abstracted("Iterator", &[any]),
                _ => {}
            }
        }
        // What stands behind a file or a path is the interpreter's affair (library reference, "io", "pathlib").
        let typing =
            |name: &str| Some(standard_instance(db, db.names().intern("typing"), db.names().intern(name), &[]));
        match (module, name) {
            ("_io", "StringIO" | "TextIOWrapper") => return typing("TextIO"),
            ("_io", "BytesIO" | "BufferedReader" | "BufferedWriter" | "BufferedRandom" | "FileIO") => {
                return typing("BinaryIO");
            }
            ("pathlib" | "pathlib._local", "PosixPath" | "WindowsPath") => return self.named("pathlib", "Path"),
            ("pathlib" | "pathlib._local", "PurePosixPath" | "PureWindowsPath") => {
                return self.named("pathlib", "PurePath");
            }
            ("functools", "partial") => return Some(functions::any_callable(store, any)),
            // A stand-in for anything.
            ("unittest.mock", _) => return None,
            _ => {}
        }
        let found = self.find(module, name);
        if let Some(class) = found.filter(|class| !is_test(class.file.path(db))) {
            let params = classes::info(db, class).params.len();
            return Some(Type::Instance(instance_of(db, class, &vec![any; params])));
        }
        // A class that cannot be named, or is a test's own, is the nearest of its bases that can be.
        let above = self.records.bases.get(seen)?.clone();
        let is_telling =
            |base: &&Seen| !matches!(base, Seen::Class(module, _) if matches!(module.as_str(), "abc" | "typing"));
        above.iter().filter(is_telling).find_map(|base| self.of(base))
    }

    fn named(&mut self, module: &str, name: &str) -> Option<Type> {
        self.of(&Seen::Class(module.to_owned(), name.to_owned()))
    }

    fn find(&self, module: &str, name: &str) -> Option<ClassRef> {
        if name.contains("<locals>") {
            return None;
        }
        let db = self.db;
        // What is written in C, or apart, is named by the module that people import (`_io`, `pathlib._local`).
        let parent = module.rsplit_once("._").map(|(parent, _)| parent);
        let names = [Some(module), module.strip_prefix('_'), parent];
        names.into_iter().flatten().find_map(|module| {
            let module = db.names().intern(module);
            let file = module_file(db, module, None).or_else(|| standard_module(db, module))?;
            in_file(db, file, name)
        })
    }
}

/// A class of a file by its qualified name.
fn in_file(db: &Database, file: File, name: &str) -> Option<ClassRef> {
    let mut parts = name.split('.');
    let outermost = class_in(db, file, db.names().intern(parts.next()?))?;
    let mut found = outermost;
    for part in parts {
        let index = module_index(db, found.file);
        let scope = index.classes[found.class].scope;
        let is_it = |class: &ClassId| {
            let record = &index.classes[*class];
            index.scopes[record.scope].parent == Some(scope) && db.names().text(record.name) == part
        };
        let class = index.classes.iter().map(|(class, _)| class).find(is_it)?;
        found = ClassRef { file: found.file, class };
    }
    Some(found)
}
