//! Types in a form of their own, which two databases can be compared by, and how an annotation that was written compares with the
//! one that its author wrote.
//!
//! The normal form: aliases are what they stand for; `Optional[X]` is `X | None`; a union has no order; a type variable is itself;
//! literals are themselves. How two types compare:
//!
//! | | |
//! | --- | --- |
//! | exact | the same in this form |
//! | same but for arguments | the same classes, with other arguments; or one is the other's abstract form (`list`, `Sequence`); or `Self` and the class |
//! | wider | takes all that the author's takes, and more |
//! | narrower | takes a part of it; also any class where the author wrote a protocol, a type variable or an overload |
//! | wrong | anything else |

use std::collections::{BTreeMap, BTreeSet};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, ClassKind};
use leitmotiv_engine::outline;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{ClassRef, Literal, Type, VarKind, union};

/// A type.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Shape {
    Any,
    None,
    Class(String, Vec<Shape>),
    Tuple(Vec<Shape>),
    Union(BTreeSet<Shape>),
    Literal(String, String),
    /// `type[…]`
    Type(Box<Shape>),
    Callable(String),
    Variable(String),
    SelfType,
    Other(String),
}

impl Shape {
    /// Whether it leaves all, or a part of a union, open.
    pub fn is_open(&self) -> bool {
        match self {
            Shape::Any => true,
            Shape::Union(parts) => parts.contains(&Shape::Any),
            _ => false,
        }
    }
}

/// What is known of classes by their full names.
#[derive(Debug, Default)]
pub struct Classes {
    /// The full names of all classes that one derives from, itself among them.
    bases: BTreeMap<String, BTreeSet<String>>,
    protocols: BTreeSet<String>,
}

impl Classes {
    /// A type's shape.
    pub fn shape(&mut self, db: &Database, ty: Type) -> Shape {
        let store = db.store();
        match ty {
            Type::Any | Type::Unknown(_) => Shape::Any,
            Type::None => Shape::None,
            Type::Instance(id) => {
                let instance = store.instance(id).clone();
                let name = self.class(db, instance.class);
                let args: Vec<Shape> = instance.args.iter().map(|arg| self.shape(db, *arg)).collect();
                // Nothing is said by arguments that are all left open.
                let is_bare = args.iter().all(|arg| *arg == Shape::Any);
                Shape::Class(name, if is_bare { Vec::new() } else { args })
            }
            Type::Tuple(id) => {
                if let Some(class) = leitmotiv_engine::resolve::builtin(db, db.names().intern("tuple")) {
                    self.class(db, class);
                }
                let tuple = store.tuple(id).clone();
                let parts = tuple.prefix.iter().chain(&tuple.rest).chain(&tuple.suffix);
                let mut parts: Vec<Shape> = parts.map(|part| self.shape(db, *part)).collect();
                if tuple.rest.is_some() {
                    parts.push(Shape::Other("...".into()));
                }
                Shape::Tuple(parts)
            }
            Type::Union(_) => {
                let parts = union::parts(store, &ty).to_vec();
                Shape::Union(parts.into_iter().map(|part| self.shape(db, part)).collect())
            }
            Type::Literal(id) => {
                let class = match *store.literal(id) {
                    Literal::Int(_) => "builtins.int".to_owned(),
                    Literal::Bool(_) => "builtins.bool".to_owned(),
                    Literal::Str(_) => "builtins.str".to_owned(),
                    Literal::Bytes(_) => "builtins.bytes".to_owned(),
                    Literal::Enum(class, _) => self.class(db, class),
                };
                Shape::Literal(class, show(db, ty))
            }
            Type::Class(id) => Shape::Type(Box::new(self.shape(db, Type::Instance(id)))),
            Type::SubclassOf(id) => Shape::Type(Box::new(self.shape(db, *store.single(id)))),
            Type::Callable(_) | Type::Function(_) | Type::Method(_) => Shape::Callable(show(db, ty)),
            Type::Var(id) => match store.variable(id).kind {
                VarKind::SelfType => Shape::SelfType,
                _ => Shape::Variable(db.names().text(store.variable(id).name).to_owned()),
            },
            other => Shape::Other(show(db, other)),
        }
    }

    fn class(&mut self, db: &Database, class: ClassRef) -> String {
        let full = |class: ClassRef| {
            let module = db.names().text(class.file.module(db));
            format!("{module}.{}", db.names().text(outline::class_name(db, class)))
        };
        let name = full(class);
        if !self.bases.contains_key(&name) {
            let info = classes::info(db, class);
            let bases = info.mro.iter().map(|base| full(db.store().instance(*base).class)).collect();
            self.bases.insert(name.clone(), bases);
            if info.kind == ClassKind::Protocol {
                self.protocols.insert(name.clone());
            }
        }
        name
    }
}

/// How what was written compares with what the author wrote.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Verdict {
    Exact,
    Arguments,
    Wider,
    Narrower,
    Wrong,
    /// The author wrote `Any`, or what cannot be told.
    Apart,
}

impl Classes {
    /// Compares what was written with what its author wrote.
    pub fn compare(&self, author: &Shape, written: &Shape) -> Verdict {
        if matches!(author, Shape::Any) {
            return Verdict::Apart;
        }
        if author == written {
            return Verdict::Exact;
        }
        if matches!(written, Shape::Any) || is_named(written, "builtins.object") {
            return Verdict::Wider;
        }
        let (theirs, ours) = (parts(author), parts(written));
        // What each part of one side is to the other.
        let fits = |part: &Shape, others: &[&Shape]| {
            others.iter().map(|other| self.part(part, other)).min().unwrap_or(Fit::Not)
        };
        let in_theirs: Vec<Fit> = ours.iter().map(|part| fits(part, &theirs)).collect();
        let in_ours: Vec<Fit> = theirs.iter().map(|part| fits(part, &ours)).collect();
        let all_same = |fits: &[Fit]| fits.iter().all(|fit| *fit == Fit::Same);
        let all_below = |fits: &[Fit]| fits.iter().all(|fit| matches!(fit, Fit::Same | Fit::Below));
        if all_same(&in_theirs) && all_same(&in_ours) {
            Verdict::Arguments
        } else if all_below(&in_theirs) {
            Verdict::Narrower
        } else if all_below(&in_ours) {
            Verdict::Wider
        } else {
            Verdict::Wrong
        }
    }

    /// What one part is to another.
    fn part(&self, part: &Shape, other: &Shape) -> Fit {
        if part == other {
            return Fit::Same;
        }
        match (part, other) {
            (Shape::Any, _) | (_, Shape::Any) => Fit::Same,
            // What two are called, and what bounds them, is as arguments are.
            (Shape::Variable(_), Shape::Variable(_)) => Fit::Same,
            // A variable stands for what its author did not say here.
            (_, Shape::Variable(_)) => Fit::Below,
            (Shape::SelfType, Shape::Class(..)) | (Shape::Class(..), Shape::SelfType) => Fit::Same,
            (Shape::Literal(class, _), Shape::Literal(other, _)) if class == other => Fit::Same,
            (Shape::Literal(class, _), Shape::Class(other, _)) if self.derives(class, other) => Fit::Below,
            (Shape::Tuple(_), Shape::Tuple(_)) | (Shape::Callable(_), Shape::Callable(_)) => Fit::Same,
            (Shape::Tuple(_), Shape::Class(other, _)) => self.named("builtins.tuple", other),
            (Shape::Class(name, _), Shape::Tuple(_)) => self.named(name, "builtins.tuple"),
            (Shape::Callable(_), Shape::Class(other, _)) if self.protocols.contains(other) => Fit::Below,
            (Shape::Class(name, _), Shape::Class(other, _)) => self.named(name, other),
            (Shape::Type(inner), Shape::Type(other)) => match self.part(inner, other) {
                Fit::Same if inner == other => Fit::Same,
                fit => fit,
            },
            (Shape::Type(_), Shape::Class(other, _)) if other == "builtins.type" => Fit::Same,
            (Shape::Class(name, _), Shape::Type(_)) if name == "builtins.type" => Fit::Same,
            (Shape::Type(_), Shape::Callable(_)) => Fit::Below,
            (_, other) if is_named(other, "builtins.object") => Fit::Below,
            _ => Fit::Not,
        }
    }

    fn named(&self, name: &str, other: &str) -> Fit {
        if name == other {
            return Fit::Same;
        }
        let is_container = |name: &str| {
            ["builtins.", "collections.abc.", "typing.", "collections."].iter().any(|module| name.starts_with(module))
        };
        let is_text = |name: &str| matches!(name, "builtins.str" | "builtins.bytes" | "builtins.object");
        let is_abstract = (self.derives(name, other) || self.derives(other, name))
            && is_container(name)
            && is_container(other)
            && !is_text(name)
            && !is_text(other)
            && !is_number(name)
            && !is_number(other);
        if is_abstract {
            return Fit::Same;
        }
        let is_promoted = matches!(
            (name, other),
            ("builtins.int" | "builtins.bool", "builtins.float" | "builtins.complex")
                | ("builtins.float", "builtins.complex")
        );
        // What a protocol asks for cannot be told here.
        if self.derives(name, other) || is_promoted || self.protocols.contains(other) {
            return Fit::Below;
        }
        Fit::Not
    }

    fn derives(&self, name: &str, base: &str) -> bool {
        name == base || self.bases.get(name).is_some_and(|bases| bases.contains(base))
    }
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Fit {
    Same,
    Below,
    Not,
}

fn is_number(name: &str) -> bool {
    matches!(name, "builtins.int" | "builtins.bool" | "builtins.float" | "builtins.complex")
}

fn is_named(shape: &Shape, name: &str) -> bool {
    matches!(shape, Shape::Class(found, _) if found == name)
}

fn parts(shape: &Shape) -> Vec<&Shape> {
    match shape {
        Shape::Union(parts) => parts.iter().collect(),
        shape => vec![shape],
    }
}
