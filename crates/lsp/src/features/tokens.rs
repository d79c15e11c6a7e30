//! What names are, for colouring.

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::view::symbols::{self, Kind};
use leitmotiv_engine::view::things::{Reader, Thing, behind_imports};
use leitmotiv_index::tree::{DefKind, ScopeKind};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::mentions::How;
use lsp_types::{
    SemanticToken, SemanticTokenModifier, SemanticTokenType, SemanticTokens, SemanticTokensLegend,
    SemanticTokensParams, SemanticTokensRangeParams, SemanticTokensRangeResult, SemanticTokensResult,
};

use super::Answer;
use crate::snapshot::Snapshot;

/// The kinds of names, in the order of their numbers.
const KINDS: &[SemanticTokenType] = &[
    SemanticTokenType::NAMESPACE,
    SemanticTokenType::CLASS,
    SemanticTokenType::ENUM,
    SemanticTokenType::INTERFACE,
    SemanticTokenType::TYPE_PARAMETER,
    SemanticTokenType::PARAMETER,
    SemanticTokenType::VARIABLE,
    SemanticTokenType::PROPERTY,
    SemanticTokenType::ENUM_MEMBER,
    SemanticTokenType::FUNCTION,
    SemanticTokenType::METHOD,
    SemanticTokenType::TYPE,
];

const MODIFIERS: &[SemanticTokenModifier] = &[
    SemanticTokenModifier::DECLARATION,
    SemanticTokenModifier::READONLY,
    SemanticTokenModifier::ASYNC,
    SemanticTokenModifier::DEPRECATED,
    SemanticTokenModifier::DEFAULT_LIBRARY,
];

const DECLARATION: u32 = 1;
const READONLY: u32 = 1 << 1;
const ASYNC: u32 = 1 << 2;
const DEPRECATED: u32 = 1 << 3;
const LIBRARY: u32 = 1 << 4;

/// What the numbers mean.
#[must_use]
pub fn legend() -> SemanticTokensLegend {
    SemanticTokensLegend { token_types: KINDS.to_vec(), token_modifiers: MODIFIERS.to_vec() }
}

/// `textDocument/semanticTokens/full`
///
/// # Errors
/// None.
pub fn full(snapshot: &Snapshot, file: File, _: SemanticTokensParams) -> Answer<Option<SemanticTokensResult>> {
    let data = tokens(snapshot, file, None);
    Ok(Some(SemanticTokensResult::Tokens(SemanticTokens { result_id: None, data })))
}

/// `textDocument/semanticTokens/range`
///
/// # Errors
/// None.
pub fn range(
    snapshot: &Snapshot,
    file: File,
    params: SemanticTokensRangeParams,
) -> Answer<Option<SemanticTokensRangeResult>> {
    let stretch = snapshot.text(file).bytes(params.range);
    let data = tokens(snapshot, file, Some(stretch));
    Ok(Some(SemanticTokensRangeResult::Tokens(SemanticTokens { result_id: None, data })))
}

fn tokens(snapshot: &Snapshot, file: File, stretch: Option<TextRange>) -> Vec<SemanticToken> {
    let db = &snapshot.session.db;
    let mut reader = Reader::new(db, file);
    let text = snapshot.text(file);
    let mut found = Vec::new();
    let (mut line, mut column) = (0, 0);
    for mention in reader.mentions.clone() {
        if stretch.is_some_and(|stretch| stretch.intersect(mention.range).is_none()) {
            continue;
        }
        let Some(thing) = reader.means(mention).into_iter().next() else { continue };
        let Some((kind, mut modifiers)) = described(snapshot, behind_imports(db, thing)) else { continue };
        let is_declared = matches!(
            mention.how,
            How::Function | How::Class | How::Parameter | How::TypeParameter | How::Written | How::Alias
        );
        if is_declared {
            modifiers |= DECLARATION;
        }
        let start = text.position(mention.range.start());
        let delta_line = start.line - line;
        let delta_start = if delta_line == 0 { start.character - column } else { start.character };
        (line, column) = (start.line, start.character);
        found.push(SemanticToken {
            delta_line,
            delta_start,
            length: text.encoding.length(&text.text[mention.range]),
            token_type: number(&kind),
            token_modifiers_bitset: modifiers,
        });
    }
    found
}

fn number(kind: &SemanticTokenType) -> u32 {
    KINDS.iter().position(|known| known == kind).and_then(|at| u32::try_from(at).ok()).unwrap_or_default()
}

/// What a thing is.
fn described(snapshot: &Snapshot, thing: Thing) -> Option<(SemanticTokenType, u32)> {
    let db = &snapshot.session.db;
    if let Thing::Module(_) = thing {
        return Some((SemanticTokenType::NAMESPACE, 0));
    }
    let file = thing.file();
    let index = module_index(db, file);
    let library = if file.origin(db).is_own() { 0 } else { LIBRARY };
    let all = thing.definitions(db);
    let kinds = || all.iter().map(|def| &index.defs[*def].kind);
    let function = kinds().find_map(|kind| match kind {
        DefKind::Function(function) => Some(*function),
        _ => None,
    });
    if let Some(function) = function {
        let record = &index.functions[function];
        let outline = leitmotiv_engine::outline::functions::function(db, file, function);
        let is_deprecated = symbols::is_deprecated(db, &outline.decorators);
        let modifiers = if record.is_async { ASYNC } else { 0 } | if is_deprecated { DEPRECATED } else { 0 } | library;
        let kind = match symbols::kind_of(db, file, function) {
            Kind::Function => SemanticTokenType::FUNCTION,
            Kind::Property => SemanticTokenType::PROPERTY,
            _ => SemanticTokenType::METHOD,
        };
        return Some((kind, modifiers));
    }
    let class = kinds().find_map(|kind| match kind {
        DefKind::Class(class) => Some(*class),
        _ => None,
    });
    if let Some(class) = class {
        let class = leitmotiv_engine::types::ClassRef { file, class };
        let kind = match symbols::class_kind(db, class) {
            Kind::Enum => SemanticTokenType::ENUM,
            Kind::Protocol => SemanticTokenType::INTERFACE,
            _ => SemanticTokenType::CLASS,
        };
        return Some((kind, library));
    }
    let first = kinds().next()?;
    Some(match (first, thing) {
        (DefKind::Param { .. } | DefKind::LambdaParam { .. }, _) => (SemanticTokenType::PARAMETER, 0),
        (DefKind::TypeParam { .. }, _) => (SemanticTokenType::TYPE_PARAMETER, 0),
        (DefKind::TypeAlias { .. }, _) => (SemanticTokenType::TYPE, library),
        (_, Thing::Member { class, name }) => {
            match leitmotiv_engine::definitions::classes::enum_members(db, class).contains(&name) {
                true => (SemanticTokenType::ENUM_MEMBER, READONLY | library),
                false => (SemanticTokenType::PROPERTY, library),
            }
        }
        (_, Thing::Name { scope, name, .. }) => {
            let text = db.names().text(name);
            let is_constant = matches!(index.scopes[scope].kind, ScopeKind::Module) && symbols::is_constant(text);
            (SemanticTokenType::VARIABLE, if is_constant { READONLY } else { 0 } | library)
        }
        (_, Thing::Module(_)) => return None,
    })
}
