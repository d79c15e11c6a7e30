//! Types as a person would write them.

use std::cell::{Cell, RefCell};
use std::collections::BTreeMap;

use leitmotiv_index::tree::{FunctionId, ParamKind};
use leitmotiv_syntax::names::known;
use rustc_hash::FxHashSet;

use super::{ClassRef, Instance, Literal, Signature, SpecialForm, Type, VarKind};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::functions;
use crate::outline::class_name;

/// A type in the shortest words.
#[must_use]
pub fn show(db: &dyn Db, ty: Type) -> String {
    Printer { db, qualify: &[], open: RefCell::default(), written: Cell::new(0) }.show(ty)
}

/// Several types of one message: where two different classes have one name, both are shown with their modules.
#[must_use]
pub fn show_all(db: &dyn Db, types: &[Type]) -> Vec<String> {
    let mut by_name: BTreeMap<String, Vec<ClassRef>> = BTreeMap::new();
    let mut seen = FxHashSet::default();
    for ty in types {
        collect(db, *ty, &mut by_name, &mut seen);
    }
    let ambiguous: Vec<ClassRef> = by_name.into_values().filter(|classes| classes.len() > 1).flatten().collect();
    let printer = Printer { db, qualify: &ambiguous, open: RefCell::default(), written: Cell::new(0) };
    let each = types.iter().map(|ty| {
        printer.written.set(0);
        printer.show(*ty)
    });
    each.collect()
}

fn collect(db: &dyn Db, ty: Type, found: &mut BTreeMap<String, Vec<ClassRef>>, seen: &mut FxHashSet<Type>) {
    if !seen.insert(ty) {
        return;
    }
    let store = db.store();
    match ty {
        Type::Instance(id) | Type::Class(id) => {
            let instance = store.instance(id);
            let classes = found.entry(db.names().text(class_name(db, instance.class)).to_owned()).or_default();
            if !classes.contains(&instance.class) {
                classes.push(instance.class);
            }
            instance.args.iter().for_each(|arg| collect(db, *arg, found, seen));
        }
        Type::Union(id) => store.union_parts(id).iter().for_each(|part| collect(db, *part, found, seen)),
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            tuple
                .prefix
                .iter()
                .chain(&tuple.rest)
                .chain(&tuple.suffix)
                .for_each(|part| collect(db, *part, found, seen));
        }
        Type::SubclassOf(id) | Type::Form(id) => collect(db, *store.single(id), found, seen),
        _ => {}
    }
}

struct Printer<'a> {
    db: &'a dyn Db,
    qualify: &'a [ClassRef],
    /// The functions whose signatures are being written: one can give itself.
    open: RefCell<Vec<(File, FunctionId)>>,
    /// How many parts were written.
    written: Cell<usize>,
}

/// How many parts of one type are written; the rest is left out, as nobody would read it. Said in docs/architecture.md.
const MOST_PARTS: usize = 2_000;

/// How many signatures may stand within each other; deeper ones are written as names.
const DEEPEST: usize = 3;

impl Printer<'_> {
    fn show(&self, ty: Type) -> String {
        self.written.set(self.written.get() + 1);
        if self.written.get() > MOST_PARTS {
            return "…".into();
        }
        let store = self.db.store();
        let names = self.db.names();
        match ty {
            Type::Never => "Never".into(),
            Type::Any => "Any".into(),
            Type::Unknown(_) => "unknown".into(),
            Type::None => "None".into(),
            Type::Instance(id) => {
                let instance = store.instance(id);
                format!("{}{}", self.class(instance.class), self.args(&self.unpacked(instance)))
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                let mut parts: Vec<String> = tuple.prefix.iter().map(|part| self.show(*part)).collect();
                if let Some(rest) = tuple.rest.filter(|rest| super::substitute::is_variadic(store, *rest)) {
                    parts.push(format!("*{}", self.show(rest)));
                } else if let Some(rest) = tuple.rest {
                    if tuple.prefix.is_empty() && tuple.suffix.is_empty() {
                        return format!("tuple[{}, ...]", self.show(rest));
                    }
                    parts.push(format!("*tuple[{}, ...]", self.show(rest)));
                }
                parts.extend(tuple.suffix.iter().map(|part| self.show(*part)));
                if parts.is_empty() { "tuple[()]".into() } else { format!("tuple[{}]", parts.join(", ")) }
            }
            Type::Literal(id) => format!("Literal[{}]", self.literal(*store.literal(id))),
            Type::Class(id) => format!("type[{}]", self.show(Type::Instance(id))),
            Type::SubclassOf(id) => format!("type[{}]", self.show(*store.single(id))),
            Type::Function(id) => {
                let function = store.function(id);
                self.declared(function.file, function.function, 0)
            }
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => {
                    let function = store.function(id);
                    self.declared(function.file, function.function, 1)
                }
                other => self.show(other),
            },
            Type::Callable(id) => self.signature(store.signature(id)),
            Type::Property(_) => "property".into(),
            Type::Module(file) => format!("module {}", names.text(file.module(self.db))),
            Type::Namespace(name) => format!("module {}", names.text(name)),
            Type::Union(id) => self.union(store.union_parts(id)),
            Type::Var(id) => names.text(store.variable(id).name).to_owned(),
            Type::Special(special) => special_name(special).to_owned(),
            Type::Form(id) => format!("type form {}", self.show(*store.single(id))),
            Type::Super(id) => format!("super of {}", self.show(store.method(id).receiver)),
        }
    }

    fn class(&self, class: ClassRef) -> String {
        let name = self.db.names().text(class_name(self.db, class));
        // Forms of the typing module that are classes here alone.
        let name = match name {
            "_TypeGuard" | "_TypeIs" | "_LiteralString" if class.file.module(self.db) == known::TYPING => &name[1..],
            name => name,
        };
        if self.qualify.contains(&class) {
            return format!("{}.{name}", self.db.names().text(class.file.module(self.db)));
        }
        name.to_owned()
    }

    /// A class's arguments as they are written: what stands for a tuple of variables, one by one.
    fn unpacked(&self, instance: &Instance) -> Vec<Type> {
        let store = self.db.store();
        if !instance.args.iter().any(|arg| matches!(arg, Type::Tuple(_))) {
            return instance.args.to_vec();
        }
        let params = &crate::definitions::classes::info(self.db, instance.class).params;
        let takes_all = |place: usize| params.get(place).is_some_and(|var| store.variable(*var).kind == VarKind::Tuple);
        let args = instance.args.iter().copied().enumerate().flat_map(|(place, arg)| match arg {
            Type::Tuple(id) if takes_all(place) && store.tuple(id).rest.is_none() => store.tuple(id).prefix.to_vec(),
            arg => vec![arg],
        });
        args.collect()
    }

    fn args(&self, args: &[Type]) -> String {
        if args.is_empty() {
            return String::new();
        }
        let args: Vec<String> = args.iter().map(|arg| self.argument(*arg)).collect();
        format!("[{}]", args.join(", "))
    }

    /// A type argument; a list of parameters (PEP 612) without the result that it does not have.
    fn argument(&self, arg: Type) -> String {
        match arg {
            Type::Callable(id) if self.db.store().signature(id).returns == Type::Never => {
                let shown = self.show(arg);
                match shown.strip_suffix(" -> Never") {
                    Some("(...)") => "...".to_owned(),
                    Some(list) => list.to_owned(),
                    None => shown,
                }
            }
            _ => self.show(arg),
        }
    }

    /// Literals of a union stand together; None stands last, as people write it.
    fn union(&self, parts: &[Type]) -> String {
        let store = self.db.store();
        let literals: Vec<String> = parts
            .iter()
            .filter_map(|part| match part {
                Type::Literal(id) => Some(self.literal(*store.literal(*id))),
                _ => None,
            })
            .collect();
        let mut shown: Vec<String> = Vec::with_capacity(parts.len());
        let mut literals = Some(literals).filter(|literals| !literals.is_empty());
        for part in parts.iter().filter(|part| **part != Type::None) {
            match part {
                Type::Literal(_) => {
                    if let Some(literals) = literals.take() {
                        shown.push(format!("Literal[{}]", literals.join(", ")));
                    }
                }
                Type::Callable(_) | Type::Function(_) | Type::Method(_) => {
                    shown.push(format!("({})", self.show(*part)))
                }
                // What differs in why something is unknown only is the same to a reader.
                part => {
                    let text = self.show(*part);
                    if !shown.contains(&text) {
                        shown.push(text);
                    }
                }
            }
        }
        if parts.contains(&Type::None) {
            shown.push("None".into());
        }
        shown.join(" | ")
    }

    fn literal(&self, literal: Literal) -> String {
        let names = self.db.names();
        match literal {
            Literal::Int(value) => value.to_string(),
            Literal::Bool(true) => "True".into(),
            Literal::Bool(false) => "False".into(),
            Literal::Str(text) => quote(names.text(text)),
            Literal::Bytes(text) => format!("b{}", quote(names.text(text))),
            Literal::Enum(class, name) => format!("{}.{}", self.class(class), names.text(name)),
        }
    }

    fn declared(&self, file: File, function: FunctionId, skip: usize) -> String {
        let is_within = {
            let open = self.open.borrow();
            open.len() >= DEEPEST || open.contains(&(file, function))
        };
        if is_within {
            return format!("function {}", functions::qualified(self.db, file, Some(function)));
        }
        self.open.borrow_mut().push((file, function));
        let declared = functions::declared(self.db, file, function);
        let returns = match declared.returns {
            Some(returns) => returns,
            None => functions::return_type(self.db, file, function),
        };
        let params = declared.params.iter().skip(skip).cloned().collect();
        let text = self.signature(&Signature { params, returns });
        self.open.borrow_mut().pop();
        text
    }

    fn signature(&self, signature: &Signature) -> String {
        let mut parts: Vec<String> = Vec::with_capacity(signature.params.len());
        let mut keyword_only = false;
        let is_open = matches!(signature.params.as_ref(), [first, second]
            if first.kind == ParamKind::VarArgs && second.kind == ParamKind::KwArgs
                && first.name == known::EMPTY && second.name == known::EMPTY);
        if is_open && !matches!(signature.params[0].ty, Type::Var(_)) {
            return format!("(...) -> {}", self.show(signature.returns));
        }
        for (place, param) in signature.params.iter().enumerate() {
            let name = self.db.names().text(param.name);
            let ty = match (param.kind, param.ty) {
                (_, ty) if ty.is_unknown() => String::new(),
                (ParamKind::KwArgs, Type::Form(id)) => format!("Unpack[{}]", self.show(*self.db.store().single(id))),
                (ParamKind::VarArgs, Type::Form(id)) => format!("*{}", self.show(*self.db.store().single(id))),
                (ParamKind::VarArgs, ty) if super::substitute::is_variadic(self.db.store(), ty) && !name.is_empty() => {
                    format!("*{}", self.show(ty))
                }
                (_, ty) => self.show(ty),
            };
            let default = if param.optional { if ty.is_empty() { "=..." } else { " = ..." } } else { "" };
            let typed = |prefix: &str| {
                if name.is_empty() {
                    if matches!(param.ty, Type::Var(_)) && matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs)
                    {
                        return format!("{prefix}{ty}");
                    }
                    return if ty.is_empty() { "unknown".into() } else { ty.clone() };
                }
                let colon = if ty.is_empty() { String::new() } else { format!(": {ty}") };
                format!("{prefix}{name}{colon}{default}")
            };
            match param.kind {
                ParamKind::PositionalOnly | ParamKind::Normal => {
                    parts.push(typed(""));
                    let last_positional_only = param.kind == ParamKind::PositionalOnly
                        && signature.params.get(place + 1).is_none_or(|next| next.kind != ParamKind::PositionalOnly);
                    if last_positional_only && !name.is_empty() {
                        parts.push("/".into());
                    }
                }
                ParamKind::VarArgs => {
                    keyword_only = true;
                    parts.push(typed("*").replace(" = ...", "").replace("=...", ""));
                }
                ParamKind::KeywordOnly => {
                    if !keyword_only {
                        parts.push("*".into());
                        keyword_only = true;
                    }
                    parts.push(typed(""));
                }
                ParamKind::KwArgs => parts.push(typed("**").replace(" = ...", "").replace("=...", "")),
            }
        }
        format!("({}) -> {}", parts.join(", "), self.show(signature.returns))
    }
}

fn quote(text: &str) -> String {
    let escaped = text.replace('\\', "\\\\").replace('\n', "\\n").replace('\t', "\\t").replace('\r', "\\r");
    if escaped.contains('"') && !escaped.contains('\'') {
        return format!("'{escaped}'");
    }
    format!("\"{}\"", escaped.replace('"', "\\\""))
}

fn special_name(special: SpecialForm) -> &'static str {
    match special {
        SpecialForm::Any => "Any",
        SpecialForm::NoReturn => "NoReturn",
        SpecialForm::Never => "Never",
        SpecialForm::SelfType => "Self",
        SpecialForm::LiteralString => "LiteralString",
        SpecialForm::Union => "Union",
        SpecialForm::Optional => "Optional",
        SpecialForm::Callable => "Callable",
        SpecialForm::Type => "Type",
        SpecialForm::Tuple => "Tuple",
        SpecialForm::Generic => "Generic",
        SpecialForm::Protocol => "Protocol",
        SpecialForm::ClassVar => "ClassVar",
        SpecialForm::Final => "Final",
        SpecialForm::Literal => "Literal",
        SpecialForm::TypedDict => "TypedDict",
        SpecialForm::Annotated => "Annotated",
        SpecialForm::TypeAlias => "TypeAlias",
        SpecialForm::TypeGuard => "TypeGuard",
        SpecialForm::TypeIs => "TypeIs",
        SpecialForm::Concatenate => "Concatenate",
        SpecialForm::Unpack => "Unpack",
        SpecialForm::Required => "Required",
        SpecialForm::NotRequired => "NotRequired",
        SpecialForm::ReadOnly => "ReadOnly",
        SpecialForm::DefaultDict => "DefaultDict",
        SpecialForm::OrderedDict => "OrderedDict",
        SpecialForm::Counter => "Counter",
        SpecialForm::ChainMap => "ChainMap",
        SpecialForm::Deque => "Deque",
        SpecialForm::TypeForm => "TypeForm",
    }
}
