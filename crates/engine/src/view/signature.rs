//! The signatures of a call that is being written.

use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId, FunctionId, ParamKind};
use leitmotiv_syntax::TextSize;

use super::things::Reader;
use crate::base::file::File;
use crate::context::candidates::{Candidate, Constructor};
use crate::infer::Infer;
use crate::outline::module_index;
use crate::types::display::show;
use crate::types::{SignatureParam, Type};

/// A call around a place.
#[derive(Debug, Clone)]
pub struct Call {
    /// What is called.
    pub callee: ExprId,
    /// Its type.
    pub called: Type,
    /// Its signatures, in order.
    pub signatures: Vec<Signature>,
    /// Which of them fits what is written so far.
    pub active: usize,
    /// The 0-based place of the argument at the offset among those that are written.
    pub place: usize,
    /// The arguments by name that are written.
    pub named: Vec<String>,
    /// The name of the argument at the offset, where it is given by name.
    pub keyword: Option<String>,
}

/// One signature.
#[derive(Debug, Clone)]
pub struct Signature {
    /// The function behind it.
    pub function: Option<(File, FunctionId)>,
    /// The parameters, without the object that a method is bound to.
    pub params: Vec<SignatureParam>,
    /// The same as they are shown, in order, with their stars and defaults.
    pub shown: Vec<String>,
    /// What a call gives, as it is shown; `None` where that cannot be told.
    pub returns: Option<String>,
}

impl Signature {
    /// The parameters as they are shown, each with its 0-based place, and between them the marks `/` and `*` that tell how they are given
    /// (PEP 570, PEP 3102).
    #[must_use]
    pub fn pieces(&self) -> Vec<(Option<usize>, &str)> {
        let mut out: Vec<(Option<usize>, &str)> = Vec::new();
        let mut placed = false;
        let mut starred = false;
        for (place, (param, shown)) in self.params.iter().zip(&self.shown).enumerate() {
            let is_placed = param.kind == ParamKind::PositionalOnly && !shown.starts_with("__");
            if placed && !is_placed {
                out.push((None, "/"));
            }
            placed = is_placed;
            if param.kind == ParamKind::KeywordOnly && !starred {
                out.push((None, "*"));
            }
            starred |= matches!(param.kind, ParamKind::VarArgs | ParamKind::KeywordOnly);
            out.push((Some(place), shown));
        }
        if placed {
            out.push((None, "/"));
        }
        out
    }

    /// The same in one line.
    #[must_use]
    pub fn listed(&self) -> String {
        let pieces: Vec<&str> = self.pieces().into_iter().map(|(_, piece)| piece).collect();
        pieces.join(", ")
    }

    /// The whole of it, of something of that name.
    #[must_use]
    pub fn line(&self, name: &str) -> String {
        let returns = self.returns.as_ref().map(|returns| format!(" -> {returns}")).unwrap_or_default();
        format!("{name}({}){returns}", self.listed())
    }

    /// The 0-based place of the parameter that an argument reaches.
    #[must_use]
    pub fn reached(
        &self,
        place: usize,
        keyword: Option<&str>,
        names: &dyn Fn(&SignatureParam) -> String,
    ) -> Option<usize> {
        if let Some(keyword) = keyword {
            let named = self.params.iter().position(|param| {
                !matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs | ParamKind::PositionalOnly)
                    && names(param) == keyword
            });
            return named.or_else(|| self.params.iter().position(|param| param.kind == ParamKind::KwArgs));
        }
        let mut left = place;
        for (number, param) in self.params.iter().enumerate() {
            match param.kind {
                ParamKind::VarArgs => return Some(number),
                ParamKind::PositionalOnly | ParamKind::Normal if left == 0 => return Some(number),
                ParamKind::PositionalOnly | ParamKind::Normal => left -= 1,
                ParamKind::KeywordOnly | ParamKind::KwArgs => return None,
            }
        }
        None
    }
}

/// The innermost call whose parentheses an offset lies in.
pub fn around(reader: &mut Reader<'_>, offset: TextSize) -> Option<Call> {
    let index = reader.index;
    let text = reader.file.text(reader.db);
    let is_inside = |callee: ExprId, call: ExprId| {
        let (callee, call) = (index.spans[callee], index.spans[call]);
        let closes = text[..usize::from(call.end())].ends_with(')');
        let opens = text[usize::from(callee.end())..].find('(').map(|at| callee.end() + size(at));
        // Of a call that is not closed yet, what comes behind it belongs to it.
        opens.is_some_and(|opens| opens < offset)
            && (if closes { offset < call.end() } else { offset <= call.end() + size(2) })
    };
    let (_, callee, args) = index
        .spans_iter()
        .filter_map(|(expr, span)| match &index.exprs[expr] {
            Expr::Call { callee, args } if is_inside(*callee, expr) => Some((span, *callee, args)),
            _ => None,
        })
        .max_by_key(|(span, ..)| (span.start(), std::cmp::Reverse(span.len())))?;
    let called = reader.type_of(callee);
    let body = reader.body_of(callee);
    let signatures = of(reader.infer(body), called);
    if signatures.is_empty() {
        return None;
    }
    let (place, keyword) = written(reader, args, text, index.spans[callee].end(), offset);
    let named: Vec<String> = args
        .iter()
        .filter_map(|arg| match arg.kind {
            ArgKind::Keyword(name) => Some(reader.db.names().text(name).to_owned()),
            _ => None,
        })
        .collect();
    let names = |param: &SignatureParam| reader.db.names().text(param.name).to_owned();
    let fits = |signature: &&Signature| signature.reached(place, keyword.as_deref(), &names).is_some();
    let active = signatures.iter().position(|signature| fits(&signature)).unwrap_or(0);
    Some(Call { callee, called, signatures, active, place, named, keyword })
}

/// Which argument stands at an offset: its place, and its name where it has one.
fn written(reader: &Reader<'_>, args: &[Arg], text: &str, from: TextSize, offset: TextSize) -> (usize, Option<String>) {
    let spans = &reader.index.spans;
    let between = |start: TextSize| text.get(usize::from(start)..usize::from(offset)).unwrap_or_default();
    let is_done = |arg: &&Arg| spans[arg.value].end() <= offset && between(spans[arg.value].end()).contains(',');
    let done: Vec<&Arg> = args.iter().filter(is_done).collect();
    let named = args.iter().find_map(|arg| match arg.kind {
        ArgKind::Keyword(name) if spans[arg.value].contains_inclusive(offset) => Some(name),
        _ => None,
    });
    if let Some(name) = named {
        return (done.len(), Some(reader.db.names().text(name).to_owned()));
    }
    let start = done.iter().map(|arg| spans[arg.value].end()).max().unwrap_or(from);
    let own = between(start).rsplit([',', '(']).next().unwrap_or_default();
    let name = own.split_once('=').map(|(name, _)| name.trim().to_owned());
    let is_name = |name: &String| !name.is_empty() && name.chars().all(|char| char.is_alphanumeric() || char == '_');
    (done.len(), name.filter(is_name))
}

/// The signatures by which a value is called.
pub fn of(infer: &mut Infer<'_>, called: Type) -> Vec<Signature> {
    let store = infer.db.store();
    if let Type::Union(id) = called {
        let parts = store.union_parts(id).to_vec();
        return parts.into_iter().flat_map(|part| of(infer, part)).collect();
    }
    let candidates: Vec<Candidate> = match called {
        Type::Class(class) => match infer.constructor(class) {
            Constructor::Candidates(candidates, _) => candidates.to_vec(),
            Constructor::TypedDict(both) => vec![both.0],
            _ => Vec::new(),
        },
        _ => infer.signatures_of(called).map(|candidates| candidates.to_vec()).unwrap_or_default(),
    };
    candidates.iter().map(|candidate| shown(infer, candidate, called)).collect()
}

fn shown(infer: &mut Infer<'_>, candidate: &Candidate, called: Type) -> Signature {
    let db = infer.db;
    let written = candidate.function.map(|function| {
        let index = module_index(db, function.file);
        (function.file, index, &index.functions[function.function])
    });
    let params: Vec<SignatureParam> = candidate.signature.params.to_vec();
    let mut texts = Vec::new();
    for param in &params {
        let name = db.names().text(param.name);
        let stars = match param.kind {
            ParamKind::VarArgs => "*",
            ParamKind::KwArgs => "**",
            _ => "",
        };
        let is_said = !param.ty.is_unknown();
        let mut text = match (name.is_empty(), is_said) {
            (true, _) => show(db, param.ty),
            (false, true) => format!("{stars}{name}: {}", show(db, param.ty)),
            (false, false) => format!("{stars}{name}"),
        };
        if param.optional && !matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) {
            let default = written.and_then(|(file, index, record)| {
                let default = record.params.iter().find(|own| own.name == param.name)?.default?;
                Some(crate::findings::source::excerpt(db, file, index.spans[default]))
            });
            let default = default.unwrap_or_else(|| "...".to_owned());
            text.push_str(if is_said { " = " } else { "=" });
            text.push_str(&default);
        }
        texts.push(text);
    }
    let returns = match called {
        Type::Class(id) => Some(show(db, Type::Instance(id))),
        _ => {
            let result = infer.candidate_result(candidate, &candidate.start);
            (!result.is_unknown()).then(|| show(db, result))
        }
    };
    let function = candidate.function.map(|function| (function.file, function.function));
    Signature { function, params, shown: texts, returns }
}

fn size(length: usize) -> TextSize {
    TextSize::try_from(length).unwrap_or_default()
}
