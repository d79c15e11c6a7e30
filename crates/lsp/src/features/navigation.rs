//! Where things are defined, declared, carried out and mentioned.

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::view::places::{self, Place};
use leitmotiv_engine::view::references::{self, family};
use leitmotiv_engine::view::things::{Reader, Thing};
use leitmotiv_syntax::mentions::Mention;
use lsp_types::{
    DocumentHighlight, DocumentHighlightKind, DocumentHighlightParams, GotoDefinitionParams, GotoDefinitionResponse,
    Location, Position, ReferenceParams,
};

use super::Answer;
use crate::snapshot::Snapshot;

/// The mention at a position, with the file's reader.
fn mention<'a>(snapshot: &'a Snapshot, file: File, position: Position) -> Option<(Reader<'a>, Mention)> {
    let reader = Reader::new(&snapshot.session.db, file);
    let mention = reader.at(snapshot.offset(file, position))?;
    Some((reader, mention))
}

/// Where what stands at a position leads to.
fn led(
    snapshot: &Snapshot,
    file: File,
    params: &GotoDefinitionParams,
    to: impl FnOnce(&mut Reader<'_>, Mention) -> Vec<Place>,
) -> Answer<Option<GotoDefinitionResponse>> {
    let found = mention(snapshot, file, params.text_document_position_params.position);
    let places = found.map(|(mut reader, mention)| to(&mut reader, mention)).unwrap_or_default();
    let all: Vec<Location> = places.into_iter().filter_map(|place| snapshot.location(place)).collect();
    Ok((!all.is_empty()).then_some(GotoDefinitionResponse::Array(all)))
}

/// `textDocument/definition`
///
/// # Errors
/// None.
pub fn definition(
    snapshot: &Snapshot,
    file: File,
    params: GotoDefinitionParams,
) -> Answer<Option<GotoDefinitionResponse>> {
    led(snapshot, file, &params, places::definitions)
}

/// `textDocument/declaration`
///
/// # Errors
/// None.
pub fn declaration(
    snapshot: &Snapshot,
    file: File,
    params: GotoDefinitionParams,
) -> Answer<Option<GotoDefinitionResponse>> {
    led(snapshot, file, &params, places::declarations)
}

/// `textDocument/typeDefinition`
///
/// # Errors
/// None.
pub fn type_definition(
    snapshot: &Snapshot,
    file: File,
    params: GotoDefinitionParams,
) -> Answer<Option<GotoDefinitionResponse>> {
    led(snapshot, file, &params, |reader, mention| {
        let ty = super::hover::type_of(reader, mention);
        ty.map(|ty| places::of_type(reader.db, ty)).unwrap_or_default()
    })
}

/// `textDocument/implementation`
///
/// # Errors
/// None.
pub fn implementation(
    snapshot: &Snapshot,
    file: File,
    params: GotoDefinitionParams,
) -> Answer<Option<GotoDefinitionResponse>> {
    led(snapshot, file, &params, places::implementations)
}

/// `textDocument/references`
///
/// # Errors
/// None.
pub fn references(snapshot: &Snapshot, file: File, params: ReferenceParams) -> Answer<Option<Vec<Location>>> {
    let db = &snapshot.session.db;
    let Some((mut reader, mention)) = mention(snapshot, file, params.text_document_position.position) else {
        return Ok(None);
    };
    let things: Vec<Thing> = reader.means(mention).into_iter().flat_map(|thing| family(db, thing)).collect();
    let mut found = references::of(db, &things, false);
    if !params.context.include_declaration {
        let definitions: Vec<Place> = things.iter().flat_map(|thing| places::of_thing(db, *thing)).collect();
        found.retain(|reference| !definitions.contains(&(reference.file, reference.mention.range)));
    }
    let all = found.iter().filter_map(|reference| snapshot.location((reference.file, reference.mention.range)));
    Ok(Some(all.collect()))
}

/// `textDocument/documentHighlight`
///
/// # Errors
/// None.
pub fn highlights(
    snapshot: &Snapshot,
    file: File,
    params: DocumentHighlightParams,
) -> Answer<Option<Vec<DocumentHighlight>>> {
    let Some((mut reader, mention)) = mention(snapshot, file, params.text_document_position_params.position) else {
        return Ok(None);
    };
    let found = places::highlights(&mut reader, mention).into_iter().map(|mention| DocumentHighlight {
        range: snapshot.range(file, mention.range),
        kind: Some(match places::is_written(mention) {
            true => DocumentHighlightKind::WRITE,
            false => DocumentHighlightKind::READ,
        }),
    });
    Ok(Some(found.collect()))
}
