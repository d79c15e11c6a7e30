//! What functions do with their parameters, and methods with attributes.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::{self, ClassKind, members};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::resolve::{builtin_instance, instance_of, standard_instance};
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{ClassRef, Type, union};
use leitmotiv_engine::view::handled::{Subject, Use, UseKind};
use leitmotiv_index::tree::{BinaryOp, BodyId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use super::super::duck::Members;
use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::known::Known;

/// What the uses of a parameter or attribute say, each by itself.
pub(crate) fn of(db: &Database, known: &Known, members: &Members, subject: Subject, named: &str) -> Vec<Evidence> {
    let Some(uses) = known.uses.get(&subject) else { return Vec::new() };
    let file = match subject {
        Subject::Parameter(parameter) => parameter.file,
        Subject::Attribute(class, _) => class.file,
    };
    let reader = Reader { db, known, members, file };
    let mut found = reader.read(uses, false, named);
    let elements = reader.read(uses, true, named.strip_suffix('s').unwrap_or(""));
    let element = strongest(&elements);
    for (file, one) in uses.iter().filter(|(_, one)| !one.is_narrowed && !one.on_element) {
        if let UseKind::Iterated { is_async } = one.kind {
            let ty = element.map_or(Type::Any, |element| element.ty);
            let name = if is_async { "AsyncIterable" } else { "Iterable" };
            let strength = if element.is_some() { Strength::Medium } else { Strength::Weak };
            found.push(Evidence {
                source: Source::Uses,
                ty: reader.abstract_class(name, &[ty]),
                strength,
                file: *file,
                range: one.range,
                why: Why::Used("is iterated over".to_owned()),
                passed_on: false,
            });
        }
    }
    if let Subject::Parameter(_) = subject {
        for (file, one) in uses {
            if let UseKind::Kept { class, name } = one.kind {
                found.extend(kept(db, known, members, (class, name), (*file, one.range)));
            }
        }
    }
    found
}

/// What is known of the attribute that a parameter is kept as: what is done with it.
fn kept(
    db: &Database,
    known: &Known,
    members: &Members,
    (class, name): (ClassRef, Name),
    (file, range): (File, TextRange),
) -> Vec<Evidence> {
    let text = db.names().text(name);
    if let Some(member) = members::own_member(db, class.file, class.class, name)
        && member.declared
        && !member.ty.is_dynamic()
    {
        let words = format!("is kept as `{text}`, which is declared as {}", show(db, member.ty));
        let (source, strength, why) = (Source::Attributes, Strength::Strong, Why::Said(words));
        return vec![Evidence { source, ty: member.ty, strength, file, range, why, passed_on: false }];
    }
    let mut found = of(db, known, members, Subject::Attribute(class, name), text);
    for evidence in &mut found {
        evidence.source = Source::Attributes;
        if let Why::Used(words) = &evidence.why {
            evidence.why = Why::Said(format!("is kept as `{text}`: {words}"));
        }
    }
    found
}

/// The strongest of some evidence; the first of several.
pub(crate) fn strongest(all: &[Evidence]) -> Option<&Evidence> {
    all.iter().rev().max_by_key(|evidence| evidence.strength)
}

struct Reader<'a> {
    db: &'a Database,
    known: &'a Known,
    members: &'a Members,
    file: File,
}

impl Reader<'_> {
    fn read(&self, uses: &[(File, Use)], on_element: bool, named: &str) -> Vec<Evidence> {
        let db = self.db;
        let of = |(_, one): &&(File, Use)| one.on_element == on_element && !one.is_narrowed;
        let mut found = Vec::new();
        let mut attributes: Vec<Name> = Vec::new();
        let mut first = None;
        for (file, one) in uses.iter().filter(of) {
            if let UseKind::Attribute { name, .. } = one.kind {
                let text = db.names().text(name);
                // Every object has these.
                let is_special = text.starts_with("__") && text.ends_with("__");
                if !is_special && !attributes.contains(&name) {
                    attributes.push(name);
                    first.get_or_insert((*file, one.range));
                }
            }
        }
        if let Some((file, range)) = first
            && let Some((class, strength)) = self.members.class(db, &attributes, named)
        {
            let ty = self.open(class);
            let names: Vec<String> = attributes.iter().map(|name| format!("`{}`", db.names().text(*name))).collect();
            let verb = if names.len() == 1 { "is" } else { "are" };
            let words = format!("{} {verb} read, as of `{}`", names.join(", "), classes::shown(db, class));
            found.push(Evidence {
                source: Source::Uses,
                ty,
                strength,
                file,
                range,
                why: Why::Used(words),
                passed_on: false,
            });
        }
        let mut tested = None;
        let mut others = 0;
        for (file, one) in uses.iter().filter(of) {
            others += usize::from(!matches!(one.kind, UseKind::Tested | UseKind::Kept { .. }));
            if let Some((ty, strength, words)) = self.one(one.kind) {
                let is_guard = matches!(one.kind, UseKind::Classed { .. });
                let source = if is_guard { Source::Guards } else { Source::Uses };
                let why = Why::Used(words);
                let passed_on =
                    matches!(one.kind, UseKind::PassedOn { to: Some(_), expected, .. } if expected.is_unknown());
                found.push(Evidence { source, ty, strength, file: *file, range: one.range, why, passed_on });
            } else if one.kind == UseKind::Tested {
                tested.get_or_insert((*file, one.range));
            }
        }
        if let Some((file, range)) = tested
            && others == 0
        {
            let why = Why::Used("is only tested for truth".to_owned());
            let ty = self.built_in("bool");
            found.push(Evidence {
                source: Source::Uses,
                ty,
                strength: Strength::Weak,
                file,
                range,
                why,
                passed_on: false,
            });
        }
        found
    }

    fn built_in(&self, name: &str) -> Type {
        builtin_instance(self.db, self.db.names().intern(name), &[])
    }

    fn abstract_class(&self, name: &str, args: &[Type]) -> Type {
        let names = self.db.names();
        standard_instance(self.db, names.intern("collections.abc"), names.intern(name), args)
    }

    /// A class with nothing known of its arguments.
    fn open(&self, class: ClassRef) -> Type {
        let params = classes::info(self.db, class).params.len();
        Type::Instance(instance_of(self.db, class, &vec![Type::Any; params]))
    }

    fn is(&self, ty: Type, name: &str) -> bool {
        ty == self.built_in(name)
    }

    /// What one use says.
    fn one(&self, kind: UseKind) -> Option<(Type, Strength, String)> {
        let db = self.db;
        let number = |ty: Type| self.is(ty, "int") || self.is(ty, "float");
        let text = |ty: Type| self.is(ty, "str") || self.is(ty, "bytes");
        match kind {
            UseKind::Operand { op, other } => {
                let words = format!("stands beside an operator with {}", show(db, other));
                match op {
                    BinaryOp::Add if text(other) => Some((other, Strength::Strong, words)),
                    BinaryOp::Add | BinaryOp::Sub if number(other) => Some((other, Strength::Strong, words)),
                    BinaryOp::Div | BinaryOp::Mul | BinaryOp::FloorDiv | BinaryOp::Pow | BinaryOp::Mod
                        if number(other) =>
                    {
                        Some((other, Strength::Medium, words))
                    }
                    BinaryOp::BitAnd | BinaryOp::BitOr | BinaryOp::BitXor | BinaryOp::LShift | BinaryOp::RShift
                        if self.is(other, "int") =>
                    {
                        Some((other, Strength::Strong, words))
                    }
                    _ => None,
                }
            }
            UseKind::Equal(other) if text(other) || number(other) || self.is_enum(other) => {
                Some((other, Strength::Medium, format!("is compared with {}", show(db, other))))
            }
            UseKind::Ordered(other) if number(other) || text(other) => {
                Some((other, Strength::Strong, format!("is ordered against {}", show(db, other))))
            }
            UseKind::SoughtIn(container) => {
                if text(container) {
                    return Some((container, Strength::Strong, format!("is sought in {}", show(db, container))));
                }
                let mut infer = self.infer();
                let element = infer.element(container, false)?;
                let element = infer.widen(element);
                let is_plain = text(element) || number(element) || self.is_enum(element);
                is_plain.then(|| (element, Strength::Medium, format!("is sought in {}", show(db, container))))
            }
            UseKind::Indexed { index: Some(index), .. } if self.is(index, "str") => {
                let ty = builtin_instance(db, db.names().intern("dict"), &[index, Type::Any]);
                Some((ty, Strength::Medium, "is indexed by str, as a dict".to_owned()))
            }
            UseKind::Indexed { index: Some(index), is_written } if self.is(index, "int") => {
                let ty = match is_written {
                    true => builtin_instance(db, db.names().intern("list"), &[Type::Any]),
                    false => self.abstract_class("Sequence", &[Type::Any]),
                };
                Some((ty, Strength::Weak, "is indexed by int".to_owned()))
            }
            UseKind::Called { .. } => {
                let ty = leitmotiv_engine::definitions::functions::any_callable(db.store(), Type::Any);
                Some((ty, Strength::Medium, "is called".to_owned()))
            }
            UseKind::Replaced(other) => {
                let plain = union::without(db.store(), other, Type::None);
                let is_told = !plain.is_dynamic() && plain != Type::Never;
                is_told.then(|| (plain, Strength::Medium, format!("{} stands in for it", show(db, plain))))
            }
            UseKind::Raised => Some((self.built_in("BaseException"), Strength::Medium, "is raised".to_owned())),
            UseKind::Awaited => {
                Some((self.abstract_class("Awaitable", &[Type::Any]), Strength::Medium, "is awaited".to_owned()))
            }
            UseKind::DoubleStarred => {
                let ty = self.abstract_class("Mapping", &[self.built_in("str"), Type::Any]);
                Some((ty, Strength::Medium, "is spread as keyword arguments".to_owned()))
            }
            UseKind::Classed { instance, is_required: true } => {
                let plain = (!instance.is_dynamic()).then_some(instance)?;
                Some((plain, Strength::Strong, format!("must be {}", show(db, plain))))
            }
            UseKind::PassedOn { to, expected, .. } => self.passed_on(to, expected),
            _ => None,
        }
    }

    fn passed_on(
        &self,
        to: Option<leitmotiv_engine::view::handled::Parameter>,
        expected: Type,
    ) -> Option<(Type, Strength, String)> {
        let db = self.db;
        if let Some(to) = to
            && expected.is_unknown()
        {
            let ty = *self.known.concluded.get(&to)?;
            let ty = union::without(db.store(), ty, Type::None);
            let words = format!(
                "is passed to `{}`, which takes {}",
                leitmotiv_engine::definitions::functions::shown(db, to.file, to.function),
                show(db, ty)
            );
            return (ty != Type::Never).then_some((ty, Strength::Medium, words));
        }
        let ty = union::without(db.store(), expected, Type::None);
        let ty = self.infer().widen(ty);
        let words = || format!("is passed where {} is taken", show(db, expected));
        let is_vague = |part: &Type| match part {
            Type::Instance(id) => {
                let class = db.store().instance(*id).class;
                classes::shown(db, class) == "object" || classes::info(db, class).kind == ClassKind::Protocol
            }
            Type::Any | Type::Unknown(_) | Type::Var(_) | Type::Never => true,
            _ => false,
        };
        let parts: Vec<Type> = union::parts(db.store(), &ty).to_vec();
        let strength = if to.is_some() { Strength::Strong } else { Strength::Medium };
        match parts.as_slice() {
            [one] if !is_vague(one) => Some((ty, strength, words())),
            // Where a text or a path goes, or a number or what can become one, it mostly is the former.
            parts if to.is_none() => {
                let plain: Vec<Type> = parts.iter().copied().filter(|part| !is_vague(part)).collect();
                let texts: Vec<Type> = plain.iter().copied().filter(|part| self.is(*part, "str")).collect();
                match (plain.as_slice(), texts.as_slice()) {
                    ([_, ..], [text]) => Some((*text, Strength::Weak, words())),
                    ([one], _) => Some((*one, Strength::Weak, words())),
                    _ => None,
                }
            }
            parts => (!parts.iter().any(is_vague) && !parts.is_empty()).then(|| (ty, strength, words())),
        }
    }

    fn is_enum(&self, ty: Type) -> bool {
        matches!(ty, Type::Instance(id)
            if classes::info(self.db, self.db.store().instance(id).class).kind == ClassKind::Enum)
    }

    fn infer(&self) -> Infer<'_> {
        Infer::new(self.db, self.file, BodyId(0))
    }
}
