//! What declarations of a command's options say: decorators that name a parameter (`@option("--berth", type=int)`), and what `argparse` keeps
//! under a name (`parser.add_argument("--berth", type=int)`), which is passed on as `args.berth`.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::builtin_instance;
use leitmotiv_engine::types::{Tuple, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId, ModuleIndex};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashMap;

use super::super::evidence::{Evidence, Source, Strength, Why};

/// What the options of one file are, by the names that they are kept under.
pub(crate) type Options = FxHashMap<String, (Type, TextRange)>;

/// What a decorator says that declares an option or argument of a command of the parameter's name.
pub(crate) fn parameter(db: &Database, parameter: Parameter) -> Option<Evidence> {
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let name = db.names().text(record.params[place as usize].name);
    let mut infer = Infer::new(db, file, index.defs[record.def].body);
    record.decorators.iter().find_map(|decorator| {
        let Expr::Call { callee, args } = &index.exprs[*decorator] else { return None };
        let called = db.names().text(index.decorator_name(*callee)?);
        if !matches!(called, "option" | "argument") {
            return None;
        }
        let option = Declared::read(db, index, args)?;
        // Decorators make names of parameters, which are in small letters.
        if option.kept_as().to_lowercase() != name {
            return None;
        }
        let ty = option.passed(&mut infer, called == "argument")?;
        let (source, strength, range) = (Source::Declarations, Strength::Strong, index.spans[*decorator]);
        let why = Why::Said(format!("a decorator declares {}", option.shown));
        Some(Evidence { source, ty, strength, file, range, why, passed_on: false })
    })
}

/// What a file's calls of `add_argument` declare.
pub(crate) fn of_file(db: &Database, file: File) -> Options {
    let index = module_index(db, file);
    let mut found = Options::default();
    for (body, record) in index.bodies.iter() {
        for number in record.exprs.clone() {
            let Expr::Call { callee, args } = &index.exprs[ExprId(number)] else { continue };
            let Expr::Attribute { name, .. } = index.exprs[*callee] else { continue };
            if db.names().text(name) != "add_argument" {
                continue;
            }
            let Some(option) = Declared::read(db, index, args) else { continue };
            let mut infer = Infer::new(db, file, body);
            if let Some(ty) = option.kept(&mut infer) {
                found.insert(option.kept_as(), (ty, index.spans[ExprId(number)]));
            }
        }
    }
    found
}

/// An option as it is declared.
struct Declared<'a> {
    db: &'a Database,
    index: &'a ModuleIndex,
    args: &'a [Arg],
    /// The texts before the keywords: `--berth`, `-b`, `berth`.
    names: Vec<String>,
    shown: String,
}

impl<'a> Declared<'a> {
    fn read(db: &'a Database, index: &'a ModuleIndex, args: &'a [Arg]) -> Option<Declared<'a>> {
        let texts = args.iter().filter(|arg| arg.kind == ArgKind::Positional).map(|arg| match index.exprs[arg.value] {
            Expr::Str(Some(name)) => Some(db.names().text(name).to_owned()),
            _ => None,
        });
        let names: Vec<String> = texts.collect::<Option<_>>()?;
        let shown = format!("`{}`", names.first()?);
        Some(Declared { db, index, args, names, shown })
    }

    fn keyword(&self, named: &str) -> Option<ExprId> {
        let is_it = |name: Name| self.db.names().text(name) == named;
        self.args.iter().find(|arg| matches!(arg.kind, ArgKind::Keyword(name) if is_it(name))).map(|arg| arg.value)
    }

    fn is_set(&self, named: &str) -> bool {
        self.keyword(named).is_some_and(|value| self.index.exprs[value] == Expr::Bool(true))
    }

    fn text(&self, named: &str) -> Option<&str> {
        match self.index.exprs[self.keyword(named)?] {
            Expr::Str(Some(name)) => Some(self.db.names().text(name)),
            _ => None,
        }
    }

    /// The name that its value is kept under: `dest`, a name without dashes, the first long name, the first one.
    fn kept_as(&self) -> String {
        let plain = |name: &&String| !name.starts_with('-') && !name.contains('/');
        let long = self.names.iter().find(|name| name.starts_with("--"));
        let name = self.names.iter().find(plain).or(long).or(self.names.first()).map_or("", String::as_str);
        let name = self.text("dest").unwrap_or(name);
        // `--late/--on-time` is one flag.
        name.split('/').next().unwrap_or(name).trim_start_matches('-').replace('-', "_")
    }

    fn built_in(&self, name: Name) -> Type {
        builtin_instance(self.db, name, &[])
    }

    /// What one value is: by `type`, else by what is given where it is left out, else a text.
    fn value(&self, infer: &mut Infer<'_>) -> Option<Type> {
        let db = self.db;
        let default = self.keyword("default").map(|value| infer.expr(value)).map(|ty| infer.widen(ty));
        let Some(given) = self.keyword("type") else {
            let is_plain = |ty: &Type| matches!(ty, Type::Instance(_)) && !ty.is_dynamic();
            return match default {
                None | Some(Type::None) => Some(self.built_in(known::STR)),
                Some(ty) => Some(ty).filter(is_plain),
            };
        };
        // A choice among texts is a text.
        if let Expr::Call { callee, .. } = &self.index.exprs[given]
            && self.index.decorator_name(*callee).is_some_and(|name| db.names().text(name) == "Choice")
        {
            return Some(self.built_in(known::STR));
        }
        match infer.expr(given) {
            Type::Class(id) => Some(Type::Instance(id)),
            Type::Function(id) => {
                let function = *db.store().function(id);
                let declared = functions::declared(db, function.file, function.function).returns;
                let ty = declared.unwrap_or_else(|| functions::return_type(db, function.file, function.function));
                (!ty.is_dynamic()).then_some(ty)
            }
            _ => None,
        }
    }

    fn is_default(&self) -> bool {
        self.keyword("default").is_some_and(|value| self.index.exprs[value] != Expr::None)
    }

    /// What a decorated function is passed.
    fn passed(&self, infer: &mut Infer<'_>, is_argument: bool) -> Option<Type> {
        let store = self.db.store();
        let is_switch = self.names.iter().any(|name| name.contains("/-"));
        if self.is_set("is_flag") && self.keyword("flag_value").is_none() || is_switch {
            return Some(self.built_in(known::BOOL_CLASS));
        }
        if self.is_set("count") {
            return Some(self.built_in(known::INT));
        }
        if self.keyword("callback").is_some() || self.keyword("flag_value").is_some() {
            return None;
        }
        let value = self.value(infer)?;
        let count = self.keyword("nargs").map(|count| self.index.exprs[count].clone());
        if self.is_set("multiple") || matches!(count, Some(Expr::Unary { .. })) {
            return Some(Type::Tuple(store.intern_tuple(Tuple {
                prefix: [].into(),
                rest: Some(value),
                suffix: [].into(),
            })));
        }
        if count.is_some() {
            return None;
        }
        let is_given =
            is_argument && self.keyword("required").is_none() || self.is_set("required") || self.is_default();
        Some(if is_given { value } else { union::join(store, [value, Type::None]) })
    }

    /// What `argparse` keeps.
    fn kept(&self, infer: &mut Infer<'_>) -> Option<Type> {
        let store = self.db.store();
        match (self.keyword("action").is_some(), self.text("action")) {
            (false, _) | (true, Some("store")) => {}
            (_, Some("store_true" | "store_false")) => return Some(self.built_in(known::BOOL_CLASS)),
            (_, Some("count")) if self.is_default() => return Some(self.built_in(known::INT)),
            _ => return None,
        }
        let value = self.value(infer)?;
        let is_positional = self.names.first().is_some_and(|name| !name.starts_with('-'));
        let value = match (self.keyword("nargs").is_some(), self.text("nargs")) {
            (false, _) | (true, Some("?")) => value,
            (true, Some("*" | "+")) => builtin_instance(self.db, known::LIST, &[value]),
            _ => return None,
        };
        let is_given = self.is_default() || self.is_set("required") || is_positional && self.text("nargs") != Some("?");
        Some(if is_given { value } else { union::join(store, [value, Type::None]) })
    }
}

/// What an argument says that is read of the options: `args.berth` as `berth`.
pub(crate) fn read(code: &str) -> Option<&str> {
    let (object, name) = code.rsplit_once('.')?;
    let object = object.rsplit('.').next().unwrap_or(object);
    matches!(object, "args" | "arguments" | "options" | "opts" | "parsed" | "namespace" | "ns").then_some(name)
}
